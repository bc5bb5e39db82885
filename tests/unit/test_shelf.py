"""Every script is drawn, with the fonts that ship and no others."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, spans_of
from dunlin.core.styles import Script, Style, StyleSheet, event_lines
from dunlin.core.styles.measuring import EMOJI_SIZE, text_width
from dunlin.core.styles.picture import base_size
from dunlin.core.styles.shelf import emoji_layers, font_file, runs_of, undrawable
from dunlin.core.styles.wrapping import lines_of, room_of, spans_width, wrapped
from dunlin.core.timecode import FrameRate

PICTURE = Script(1280, 720)
SAID = {
    "ar": "هل تسمع الجرس؟", "he": "הפעמון מצלצל", "hi": "क्या तुमने सुनी?", "bn": "কুয়াশার ঘণ্টা",
    "ta": "மூடுபனி மணி", "th": "เสียงระฆังดังขึ้น", "am": "የጭጋግ ደወል", "ka": "ნისლის ზარი", "hy": "Մառախուղի զանգը",
    "zh-Hans": "雾钟又响了。", "zh-Hant": "霧鐘又響了。", "ja": "霧の鐘が鳴った。", "ko": "안개 종이 울린다",
    "el": "Η καμπάνα", "ru": "Туманный колокол", "vi": "Chuông sương mù đã vang lên",
}  # fmt: skip


@pytest.mark.parametrize("language", SAID)
def test_each_script_is_drawn_by_a_font_that_has_it(language: str) -> None:
    runs = runs_of(SAID[language], language)
    assert undrawable(SAID[language], language) == []
    assert "".join(run.text for run in runs) == SAID[language]
    assert all(font_file(run.family or "").is_file() for run in runs)


@pytest.mark.parametrize(
    ("language", "family"),
    [("ja", "Noto Sans JP"), ("ko", "Noto Sans KR"), ("zh", "Noto Sans SC"), ("zh-TW", "Noto Sans TC")],
)  # fmt: skip
def test_chinese_characters_have_the_forms_of_the_language(language: str, family: str) -> None:
    assert {run.family for run in runs_of("直骨今", language)} == {family}


def test_marks_are_as_wide_as_the_language_writes_them() -> None:
    assert [run.family for run in runs_of("…", "zh")] == ["Noto Sans SC"]
    assert [run.family for run in runs_of("…", "en")] == ["Noto Sans"]


def test_a_note_or_an_arrow_needs_no_font_of_ten_megabytes() -> None:
    families = {run.family for run in runs_of("♪ la la ♫ →", "en")}
    assert families == {"Noto Sans", "Noto Sans Symbols"}


def test_what_no_font_has_is_told() -> None:
    assert undrawable("ok \U0001e900\U0001e901", "en") == ["\U0001e900", "\U0001e901"]


@pytest.mark.parametrize("emoji", ["🔔", "❤️", "👩‍🔧", "👍🏽", "☂️", "🇫🇮", "🏴󠁧󠁢󠁳󠁣󠁴󠁿"])
def test_an_emoji_is_one_drawing_in_line(emoji: str) -> None:
    (run,) = runs_of(emoji, "en")
    assert run.emoji
    style = Style("s", "s")
    assert text_width(emoji, style, PICTURE) == EMOJI_SIZE * style.size * base_size(PICTURE)
    line = event_lines(
        Caption("a", 0, 900, spans_of(f"x {emoji}")), style, PICTURE, FrameRate(25, 1)
    )
    assert line.count("\\p1}") == len(emoji_layers(run.emoji))
    assert emoji not in line


@pytest.mark.parametrize("emoji", ["😀\ufe0e", "⌚\ufe0e", "❤\ufe0e"])
def test_an_emoji_that_is_to_be_text_is_written_with_a_font(emoji: str) -> None:
    (run,) = runs_of(emoji, "en")
    assert run.emoji is None
    assert run.family
    assert undrawable(emoji, "en") == []


def test_a_digit_or_a_sign_of_text_is_no_emoji() -> None:
    assert not any(run.emoji for run in runs_of("1 © ™ ♪ ☂", "en"))


@given(
    st.text(st.sampled_from("ab ש本ก🔔é\u0301…5"), max_size=20), st.sampled_from(["en", "ja", "he"])
)
def test_runs_are_the_text(text: str, language: str) -> None:
    runs = runs_of(text, language)
    assert "".join(run.text for run in runs) == text
    assert all(run.text for run in runs)


@given(
    st.text(st.sampled_from("abc  WM霧鐘のกศ🔔שם"), min_size=1, max_size=220),
    st.sampled_from(["en", "ja", "th"]),
)
def test_no_line_is_wider_than_its_room_and_no_letter_is_lost(text: str, language: str) -> None:
    style = Style("s", "s", language=language)
    limit = room_of(style) * PICTURE.width
    lines = lines_of(wrapped(spans_of(text), style, PICTURE))
    assert all(spans_width(line, style, PICTURE) <= limit + 0.01 for line in lines if line)
    drawn = "".join(span.text for line in lines for span in line)
    assert re.sub(r"\s", "", drawn) == re.sub(r"\s", "", text)


def test_lines_run_from_the_side_of_the_whole() -> None:
    sheet = StyleSheet().in_language("ar")
    said = "قال:\nNATO!"
    line = event_lines(Caption("a", 0, 900, spans_of(said)), sheet, PICTURE, FrameRate(25, 1))
    assert "\\N\N{RIGHT-TO-LEFT MARK}" in line.replace("{\\r}", "")
    foreign = event_lines(Caption("a", 0, 900, spans_of("NATO!")), sheet, PICTURE, FrameRate(25, 1))
    assert "\N{RIGHT-TO-LEFT MARK}" not in foreign
