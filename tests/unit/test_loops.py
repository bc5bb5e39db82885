"""Sentences heard in a loop."""

from dataclasses import dataclass

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.speech.loops import without_loops


@dataclass
class Heard:
    text: str
    start: float
    end: float


def said(*texts: str) -> list[Heard]:
    return [Heard(text, n, n + 1) for n, text in enumerate(texts)]


def test_a_sentence_in_a_loop_is_heard_again_where_it_was_repeated() -> None:
    asked = []

    def again(start: float, end: float) -> list[Heard]:
        asked.append((start, end))
        return [Heard("and then the fog came", start, end)]

    segments = said(
        "Ring the bell.", "Ring the bell!", " ring the bell", "Ring the bell", "Who is there?"
    )
    found = [one.text for one in without_loops(segments, again)]
    assert found == ["Ring the bell.", "and then the fog came", "Who is there?"]
    assert asked == [(1, 4)]


def test_what_is_said_twice_and_a_refrain_that_is_heard_again_stay() -> None:
    twice = said("There used to be a bell.", "There used to be a bell,", "it fell into the sea.")
    assert list(without_loops(twice, lambda *_: [])) == twice
    refrain = said("Hark", "Hark", "Hark")
    assert list(without_loops(refrain, lambda *_: refrain[1:])) == refrain


@given(st.lists(st.sampled_from(["", "...", "a b", "A b.", "c", "d e f"]), max_size=30))
def test_nothing_but_repeats_is_lost_and_all_stays_in_order(texts: list[str]) -> None:
    segments = said(*texts)
    kept = list(without_loops(segments, lambda *_: []))
    assert [s.start for s in kept] == sorted(s.start for s in kept)
    words = ["".join(filter(str.isalnum, text.casefold())) for text in texts]
    for number, segment in enumerate(segments):
        repeats = number > 0 and words[number] and words[number] == words[number - 1]
        assert repeats or segment in kept


@pytest.mark.parametrize(
    ("text", "is_heard_anew"),
    [
        ("he did it again and did it again and did it again and did it", True),
        ("no no no no no no no no no", True),
        ("no, no, no, he said, and no again, and then nothing more at all", False),
        ("row row row your boat gently down the stream", False),
        ("one and two and three and four and five and six", False),
    ],
)
def test_a_circle_within_a_sentence_is_heard_anew(text: str, is_heard_anew: bool) -> None:
    anew = Heard("something else", 0.0, 4.0)
    found = list(without_loops([Heard(text, 0.0, 4.0)], lambda start, end: [anew]))
    assert (found == [anew]) is is_heard_anew
