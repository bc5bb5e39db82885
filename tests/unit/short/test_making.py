"""Captions in short form: every word in one of them, at its time, within what a viewer sees."""

import itertools
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dunlin.core.captions import Look, Span, Spoken
from dunlin.core.short.looks import shipped_looks
from dunlin.core.short.making import (
    Setting,
    short_captions,
)
from dunlin.core.short.model import AMOUNTS, Rhythm, Seen, ShortLook
from dunlin.core.short.sight import covers
from dunlin.core.short.words import (
    ShortWord,
    weighed,
    words_of_captions,
    words_of_transcript,
)
from dunlin.core.specs.shipped import shipped_specs
from dunlin.core.speech import Word
from dunlin.core.styles import STYLES, Script, Style, styled
from dunlin.core.timecode import FrameRate, frame_at
from tests.unit.short.heard import TALK, heard

UPRIGHT, RATE = Script(720, 1280), FrameRate(30)
SPEC = shipped_specs()["vertical-short"]


def style_of(look: ShortLook) -> Style:
    return styled(STYLES["house"], look.style)


def made(words: list[ShortWord], look: ShortLook, **options):
    picture, seen = options.pop("picture", UPRIGHT), options.pop("seen", Seen())
    language = options.pop("language", "en")
    style = replace(style_of(look), language=language)
    return short_captions(
        words, Setting(look, style, picture, SPEC, RATE, language, seen, **options)
    )


def said(captions) -> list[str]:
    return [word for caption in captions for word in caption.text.split()]


PLAIN = ShortLook("Plain", Look(size=0.08))


@pytest.mark.parametrize("amount", range(1, len(AMOUNTS) + 1))
def test_the_dial_goes_from_a_single_word_to_two_full_lines(amount: int) -> None:
    captions = made(
        words_of_transcript(heard(TALK)), replace(PLAIN, rhythm=Rhythm("amount", amount))
    )
    assert said(captions) == TALK.split()
    at_most = AMOUNTS[amount - 1]
    assert max(len(caption.lines) for caption in captions) <= at_most.lines
    if at_most.words:
        assert max(len(caption.text.split()) for caption in captions) <= at_most.words


def test_the_more_is_shown_at_once_the_fewer_captions_there_are() -> None:
    words = words_of_transcript(heard(TALK))
    counts = [
        len(made(words, replace(PLAIN, rhythm=Rhythm("amount", n + 1))))
        for n in range(len(AMOUNTS))
    ]
    assert counts == sorted(counts, reverse=True)
    assert counts[0] == len(TALK.split())


def test_by_breath_no_caption_goes_on_over_a_pause() -> None:
    words = heard(TALK)
    captions = made(words_of_transcript(words), replace(PLAIN, rhythm=Rhythm("breath")))
    ends = {a.text for a in words if a.text[-1] in ".,"}
    for caption in captions:
        assert not ends & set(caption.text.split()[:-1])


def test_a_caption_comes_on_the_frame_of_its_first_word_and_no_two_overlap() -> None:
    words = heard(TALK)
    captions = made(words_of_transcript(words), PLAIN)
    by_time = {frame_at(word.start_ms, RATE) for word in words}
    assert all(frame_at(caption.in_ms, RATE) in by_time for caption in captions)
    assert all(a.out_ms <= b.in_ms for a, b in itertools.pairwise(captions))
    assert all(caption.in_ms < caption.out_ms for caption in captions)


def test_another_rhythm_keeps_what_was_done_to_words_by_hand() -> None:
    words = words_of_transcript(heard("They hung a bell that nobody alive had ever heard ring."))
    first = made(words, replace(PLAIN, rhythm=Rhythm("amount", 2)))
    # Put right, styled, left out, and set to begin a caption.
    changed = [
        replace(caption, spans=tuple(by_hand(span) for span in caption.spans)) for caption in first
    ]
    changed = [caption for caption in changed if caption.text.strip()]
    again = made(words_of_captions(changed, "en"), replace(PLAIN, rhythm=Rhythm("amount", 7)))
    assert said(again) == [
        "They",
        "hung",
        "a",
        "gong",
        "that",
        "nobody",
        "alive",
        "had",
        "heard",
        "ring.",
    ]
    assert any(span.italic and span.text == "nobody" for c in again for span in c.spans)
    assert any(caption.text.startswith("alive") for caption in again)
    times = {s.text: s.spoken.start_ms for c in again for s in c.spans if s.spoken}
    assert {
        word.text: word.start_ms for word in words if word.text in times
    }.items() <= times.items()


def by_hand(span: Span) -> Span:
    if span.text == "bell":
        return span.with_text("gong")
    if span.text == "nobody":
        return replace(span, italic=True)
    if span.text == "alive":
        return replace(span, spoken=replace(span.spoken, boundary="break"))
    return span.with_text("") if span.text == "ever" else span


def test_a_word_that_shall_not_begin_a_caption_stands_with_the_one_before() -> None:
    words = words_of_transcript(heard("They hung it. Nobody asked me."))
    joined = [
        replace(
            w, spans=tuple(replace(s, spoken=replace(s.spoken, boundary="join")) for s in w.spans)
        )
        if w.text == "Nobody"
        else w
        for w in words
    ]
    assert "it. Nobody" in " | ".join(
        c.text.replace("\n", " ") for c in made(joined, replace(PLAIN, rhythm=Rhythm("amount", 7)))
    )


def test_a_caption_that_begins_with_the_same_word_is_the_same_one() -> None:
    words = words_of_transcript(heard(TALK))
    first = [replace(c, id=f"own-{n}", style="Mine") for n, c in enumerate(made(words, PLAIN))]
    again = made(words_of_captions(first, "en"), PLAIN)
    assert [c.id for c in again] == [c.id for c in first]
    assert {c.style for c in again} == {"Mine"}


def test_words_of_weight_are_told_anew_and_none_where_no_colour_is_wanted() -> None:
    look = shipped_looks()["tide-coming-in"]
    words = weighed(words_of_transcript(heard(TALK)), look, "en")
    heavy = {word.text for word in words if word.spoken.emphasis}
    assert heavy
    assert not heavy & {"a", "the", "it", "and", "to"}
    none = replace(look, weighing=replace(look.weighing, colours=0))
    assert not any(word.spoken.emphasis for word in weighed(words, none, "en"))


def test_there_may_be_no_words() -> None:
    assert made([], PLAIN) == ()
    assert words_of_transcript([Word("[00:01]", 0, 10), Word("out", 5, 9, left_out=True)]) == []


@pytest.mark.parametrize("look", shipped_looks().values(), ids=lambda look: look.name)
def test_fast_talk_and_overlapping_words_make_captions_that_follow_each_other(look) -> None:
    words = [Word(f"word{n}", n * 150 - 40 * (n % 3 == 2), n * 150 + 170) for n in range(60)]
    words = sorted(
        (replace(w, start_ms=max(w.start_ms, 0)) for w in words), key=lambda w: w.start_ms
    )
    captions = made(words_of_transcript(words), look)
    assert sorted(said(captions)) == sorted(word.text for word in words)
    assert all(a.out_ms <= b.in_ms for a, b in itertools.pairwise(captions))


WORDS = {
    "en": ["a", "bell", "Quillan", "12,400", "https://quillan.example/fog-bell", "m" * 60, "it’s", "ring."],
    "ar": ["جرس", "الضباب", "في", "١٢", "الميناءالقديمالذيلايعرفهأحد", "Quillan"],
    "th": ["ระฆังหมอก", "ท่าเรือ", "ไม่", "ปี"],
    "zh": ["雾钟", "在港口响起", "了", "没有人听见"],
    "emoji": ["👩‍🚀", "👍🏽", "🔔", "bell"],
}  # fmt: skip


@settings(max_examples=60, deadline=None)
@given(st.data())
def test_no_letter_leaves_what_a_viewer_sees(data: st.DataObject) -> None:
    language = data.draw(st.sampled_from(sorted(WORDS)))
    texts = data.draw(st.lists(st.sampled_from(WORDS[language]), min_size=1, max_size=9))
    look = data.draw(st.sampled_from(list(shipped_looks().values())))
    size = data.draw(st.sampled_from([0.03, 0.1, 0.4, None]))
    amount = data.draw(st.integers(1, len(AMOUNTS)))
    look = replace(
        look,
        rhythm=Rhythm("amount", amount),
        style=replace(look.style, size=size or look.style.size),
    )
    picture = data.draw(
        st.sampled_from([UPRIGHT, Script(1080, 1920), Script(640, 640), Script(1280, 720), Script(400, 1000)])
    )  # fmt: skip
    seen = data.draw(st.sampled_from([Seen(), Seen(0.05, 0.1, 0.85, 0.75)]))
    tag = "en" if language == "emoji" else language
    captions = made(
        words_of_transcript(heard(" ".join(texts))), look, picture=picture, seen=seen, language=tag
    )
    style = replace(style_of(look), language=tag)
    for caption in captions:
        left, top, right, bottom = covers(caption, style, picture)
        assert left >= seen.left * picture.width - 1
        assert right <= seen.right * picture.width + 1
        assert top >= seen.top * picture.height - 1
        assert bottom <= seen.bottom * picture.height + 1
    spoken = [s.spoken for c in captions for s in c.spans if s.text.strip()]
    assert all(isinstance(each, Spoken) and each.start_ms is not None for each in spoken)
