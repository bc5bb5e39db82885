import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.speech import Word
from dunlin.core.speech.words import in_order, linked_ms, split_moment, split_offset

TEXT = "It weighs four hundred kilos,\nand it was cast in one evening."
WORDS = [Word(text, 1000 + n * 300, 1000 + n * 300 + 250) for n, text in enumerate(TEXT.split())]


def test_a_split_comes_where_the_next_word_is_spoken() -> None:
    offset = TEXT.index("and")
    assert split_moment(TEXT, offset, 900, 5000, WORDS) == 1000 + 5 * 300


def test_a_split_between_unknown_words_is_shared_out_by_characters() -> None:
    assert split_moment("aaaa bbbb", 4, 1000, 1900, []) == 1000 + round(900 * 4 / 9)


def test_a_split_is_found_though_words_were_corrected() -> None:
    text = TEXT.replace("kilos", "kilograms")
    assert split_moment(text, text.index("and"), 900, 5000, WORDS) == 1000 + 5 * 300


@given(st.text("ab c", min_size=1, max_size=30), st.integers(0, 30), st.integers(2, 5000))
def test_a_split_stays_inside_the_caption(text: str, offset: int, length: int) -> None:
    moment = split_moment(text, min(offset, len(text)), 1000, 1000 + length, WORDS)
    assert 1000 < moment < 1000 + length


def test_the_place_spoken_nearest_to_a_time_is_found() -> None:
    assert split_offset(TEXT, 2550, 900, 5000, WORDS) == TEXT.index("\nand")
    assert split_offset("single", 2550, 900, 5000, WORDS) is None


def test_times_never_run_backwards() -> None:
    words = in_order([Word("a", 0, 500), Word("b", 300, 400), Word("c", 350, 900)])
    assert [(w.start_ms, w.end_ms) for w in words] == [(0, 500), (500, 500), (500, 900)]


@pytest.mark.parametrize(
    ("text", "ms"),
    [("[01:02.5]", 62_500), ("[1:01:02]", 3_662_000), ("[0:09.045]", 9045), ("01:02", None),
     ("[01:02]!", None), ("[sic]", None)],
)  # fmt: skip
def test_a_time_link_points_to_its_time(text: str, ms: int | None) -> None:
    assert linked_ms(text) == ms
