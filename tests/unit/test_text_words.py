"""The words of texts, with spaces between and without."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Span, Track, plain_text, spans_of
from dunlin.core.scripts.laying import captions_of_script
from dunlin.core.scripts.reading import read_script
from dunlin.core.specs import Judge, Spec, for_language, shipped_specs
from dunlin.core.specs.mends import Mend, mend_of
from dunlin.core.text.measure import characters
from dunlin.core.text.words import joined_words, word_places, words_of
from dunlin.core.timecode import FrameRate

LANGUAGES = ["en", "ja", "zh-Hans", "zh-TW", "th", "ko", "km"]
LONG = "霧が出ると、この港では何も見えなくなります。"
mixed = st.lists(
    st.sampled_from(
        ["fog", "bell,", "霧の鐘は、", "クイラン岬で", "十九年。", "ระฆังตก", "ฤดูหนาว", "안개가", "AIを", "7", "កណ្ដឹង"]
    )
).flatmap(
    lambda tokens: st.lists(
        st.sampled_from([" ", "", "\n", "\u3000"]), min_size=len(tokens), max_size=len(tokens)
    ).map(lambda gaps: "".join(map("".join, zip(tokens, gaps, strict=True))))
)  # fmt: skip


@given(mixed, st.sampled_from(LANGUAGES))
def test_words_joined_again_are_the_text(text: str, language: str) -> None:
    again = joined_words(words_of(text, language))
    assert re.sub(r"\s", "", again) == re.sub(r"\s", "", text)
    if not re.search(r"\n|\s\s", text):
        assert again == text.rstrip() or "\u3000" in text


@given(mixed, st.sampled_from(LANGUAGES))
def test_places_are_those_of_the_words(text: str, language: str) -> None:
    found = [text[start:end] for start, end in word_places(text, language)]
    assert found == [word.rstrip() for word in words_of(text, language)]


@pytest.mark.parametrize(
    ("text", "language", "words"),
    [
        ("霧の鐘は、鳴り続けています。", "ja", ["霧の", "鐘は、", "鳴り続けています。"]),
        ("ระฆังตกลงไปในทะเล", "th", ["ระฆัง", "ตกลง", "ไป", "ใน", "ทะเล"]),
        ("안개가 끼면 보이지 않습니다.", "ko", ["안개가", "끼면", "보이지", "않습니다."]),
    ],
)
def test_phrases_are_found_where_there_are_no_spaces(
    text: str, language: str, words: list[str]
) -> None:
    assert words_of(text, language) == words


def judge(language: str, **limits: object) -> Judge:
    spec = Spec.model_validate(
        {**for_language(shipped_specs()["cjk"], language).model_dump(), **limits}
    )
    return Judge.of(spec, FrameRate(25), language)


def mended(caption: Caption, by: Judge, rule: str) -> tuple[Caption, ...]:
    track = Track.of([caption])
    finding = next(f for f in by.findings(track) if f.rule == rule)
    mend = mend_of(track, finding, by)
    assert isinstance(mend, Mend), mend
    return mend.after


def test_a_long_line_without_spaces_is_broken_and_its_styles_stay() -> None:
    spans = (Span("霧が出ると、この港では"), Span("何も", italic=True), Span("見えなくなります。"))
    (after,) = mended(Caption("a", 0, 6000, spans), judge("ja"), "line-length")
    lines = plain_text(after.spans).split("\n")
    assert "".join(lines) == LONG
    assert all(characters(line, wide_as_two=True) <= 26 for line in lines)
    assert [span.text for span in after.spans if span.italic] == ["何も"]


def test_what_is_too_long_for_two_lines_becomes_two_captions() -> None:
    after = mended(
        Caption("a", 0, 9000, spans_of(LONG * 2)), judge("ja", reading_speed=None), "line-length"
    )
    assert "".join(re.sub(r"\s", "", plain_text(c.spans)) for c in after) == LONG * 2


def test_a_line_of_several_phrases_is_no_single_word() -> None:
    by = judge("ja", no_single_last_word=True)
    several, single = (
        Track.of([Caption("a", 0, 4000, spans_of(f"霧が出ると、\n{last}"))])
        for last in ("何も見えません。", "霧。")
    )
    assert "last-word" not in {f.rule for f in by.findings(several)}
    assert "last-word" in {f.rule for f in by.findings(single)}


def test_a_script_without_spaces_is_cut_to_the_spec() -> None:
    spec = for_language(shipped_specs()["cjk"], "ja")
    captions = captions_of_script(read_script(LONG * 4), spec, FrameRate(25), "ja", lines=False)
    assert len(captions) > 2
    assert re.sub(r"\s", "", "".join(c.text for c in captions)) == LONG * 4
    for caption in captions:
        lines = caption.text.split("\n")
        assert len(lines) <= 2
        assert all(characters(line, wide_as_two=True) <= 26 for line in lines)
