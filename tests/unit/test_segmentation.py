"""Breaking lines and cutting captions: the spec first, then good places."""

import json
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Track, spans_of
from dunlin.core.making.segmentation import Cut, segmented
from dunlin.core.specs import findings, shipped_specs
from dunlin.core.speech import Word
from dunlin.core.text.joints import BELONG_TOGETHER, joint_cost
from dunlin.core.text.lines import break_lines
from dunlin.core.timecode import FrameRate, next_frame
from tests.strategies import rates

DEMO = Path(__file__).parents[2] / "demo"
RATE = FrameRate(25)
SPECS = shipped_specs()


def spoken(
    text: str, start_ms: int = 1000, ms_a_character: int = 75, pause_ms: int = 30
) -> list[Word]:
    """Words spoken one after the other; `|` is a second without speech."""
    words, at = [], start_ms
    for token in text.split():
        if token == "|":
            at += 1000
            continue
        end = at + len(token) * ms_a_character
        words.append(Word(token, at, end))
        at = end + pause_ms
    return words


def texts(cuts: list[Cut]) -> list[str]:
    return [" / ".join(cut.lines) for cut in cuts]


@pytest.mark.parametrize(
    ("text", "lines"),
    [
        ("It weighs four hundred kilos, and it was cast in one evening.",
         ["It weighs four hundred kilos,", "and it was cast in one evening."]),
        ("One evening, Ilse.", ["One evening, Ilse."]),
        ("We hung it on the morning of the eleventh of March.",
         ["We hung it on the morning", "of the eleventh of March."]),
        ("The keeper in those days was called Edda Lindmark.",
         ["The keeper in those days", "was called Edda Lindmark."]),
    ],
)  # fmt: skip
def test_lines_break_where_a_reader_would(text: str, lines: list[str]) -> None:
    assert break_lines(text.split(), 42, 2) == lines


@given(
    st.lists(st.text("abcdefgh,.", min_size=1, max_size=14), min_size=1, max_size=24),
    st.integers(16, 50),
)
def test_lines_keep_every_word_and_the_width(words: list[str], width: int) -> None:
    lines = break_lines(words, width, 30)
    assert " ".join(lines).split() == words
    assert all(len(line) <= width for line in lines)


@pytest.mark.parametrize(
    ("text", "captions"),
    [
        ("So nobody alive had heard it ring. | No. My grandmother said you felt it before you heard it.",
         ["So nobody alive had heard it ring.", "No. My grandmother said / you felt it before you heard it."]),
        ("Nobody was hurt, but I have not shouted like that since I was a boy, and I will not shout"
         " like that again.",
         ["Nobody was hurt, but I have not shouted / like that since I was a boy,",
          "and I will not shout like that again."]),
        ("Three blasts. | That was the Marigold, coming home late with nine people aboard.",
         ["Three blasts.", "That was the Marigold, / coming home late with nine people aboard."]),
    ],
)  # fmt: skip
def test_captions_end_at_sentences_clauses_and_pauses(text: str, captions: list[str]) -> None:
    assert texts(segmented(spoken(text), SPECS["streaming"], RATE)) == captions


words_lists = st.lists(
    st.builds(
        lambda text, length, pause: (text, length, pause),
        st.text("abcdefghi", min_size=1, max_size=11).flatmap(
            lambda t: st.sampled_from([t, t, t, t + ",", t + ".", "the", "Ada"])
        ),
        st.integers(60, 900),
        st.sampled_from([0, 20, 60, 300, 1500]),
    ),
    min_size=1,
    max_size=40,
)


@settings(max_examples=60)
@given(words_lists, st.sampled_from(sorted(SPECS)), rates)
def test_every_word_stays_in_order_and_nothing_overlaps(
    drawn, spec_id: str, rate: FrameRate
) -> None:
    words, at = [], 500
    for text, length, pause in drawn:
        words.append(Word(text, at, at + length))
        at += length + pause
    ends_ms = words[-1].end_ms
    cuts = segmented(words, SPECS[spec_id], rate, ends_ms=ends_ms)
    assert " ".join(line for cut in cuts for line in cut.lines).split() == [w.text for w in words]
    for before, after in pairwise(cuts):
        assert before.in_ms < before.out_ms
        assert before.last + 1 == after.first
    # Captions are over with the film, unless a word is begun in its last frame.
    assert cuts[-1].out_ms <= next_frame(max(ends_ms - 1, cuts[-1].in_ms), rate)
    # Words that share a frame can be parted only by showing one of them late.
    assert all(b.out_ms <= a.in_ms for b, a in pairwise(cuts) if b.out_ms - b.in_ms > 50)


@settings(max_examples=60)
@given(st.data())
def test_no_limit_is_broken_where_words_are_slow_enough(data: st.DataObject) -> None:
    """Slow speech with pauses always has a legal cut: a caption a word."""
    words, at = [], 500
    for text in data.draw(
        st.lists(st.text("abcdefgh", min_size=1, max_size=12), min_size=1, max_size=25)
    ):
        words.append(Word(text, at, at + 700))
        at += 1100
    spec = SPECS["streaming"]
    cuts = segmented(words, spec, RATE)
    track = Track.of(
        Caption(f"{n:03}", cut.in_ms, cut.out_ms, spans_of("\n".join(cut.lines)))
        for n, cut in enumerate(cuts)
    )
    assert list(findings(track, spec, RATE)) == []


def test_the_demo_film_is_cut_within_the_spec_and_never_inside_a_name_or_after_an_article() -> None:
    spoken_words = json.loads((DEMO / "fog-bell.words.json").read_text())["words"]
    words = [Word(w["text"], w["start_ms"], w["end_ms"]) for w in spoken_words]
    for spec in SPECS.values():
        cuts = segmented(words, spec, RATE)
        track = Track.of(
            Caption(f"{n:03}", c.in_ms, c.out_ms, spans_of("\n".join(c.lines)))
            for n, c in enumerate(cuts)
        )
        errors = [f for f in findings(track, spec, RATE) if f.weight == "error"]
        assert {f.rule for f in errors} <= {"reading-speed"}
        # Where the speech is faster than a spec allows, no cut keeps to its speed; elsewhere a sentence
        # is worth a little of it.
        if (spec.reading_speed or 0) >= 17:
            assert all(f.measured <= 1.15 * f.limit for f in errors)
        rows = [line.split() for cut in cuts for line in cut.lines]
        # In lines as short as a few words there may be no other place.
        if (spec.characters_per_line or 0) > 36:
            assert all(joint_cost(a[-1], b[0]) < BELONG_TOGETHER for a, b in pairwise(rows))


def test_a_sentence_stays_whole_for_a_little_speed_and_is_not_cut_to_fill_up() -> None:
    words = spoken(
        "She came late to the harbour that day. Nobody saw her go down to the water.",
        ms_a_character=60,
    )
    spec = SPECS["streaming"].model_copy(update={"characters_per_line": 37})
    assert texts(segmented(words, spec, RATE)) == [
        "She came late / to the harbour that day.",
        "Nobody saw her go down to the water.",
    ]


@given(st.data())
def test_captions_are_shown_as_long_as_their_length_asks_where_there_is_room(
    data: st.DataObject,
) -> None:
    steps = ((1, 900), (12, 1600), (25, 2600))
    spec = SPECS["web-video"].model_copy(
        update={"least_duration_ms": None, "least_duration_by_length": steps, "reading_speed": 60.0}
    )
    count = data.draw(st.integers(1, 12))
    lengths = data.draw(st.lists(st.integers(1, 9), min_size=count, max_size=count))
    words = [Word("x" * n, 5000 * i, 5000 * i + 40 * n) for i, n in enumerate(lengths)]
    for cut in segmented(words, spec, RATE):
        shown = sum(map(len, cut.lines))
        wanted = max(ms for least, ms in steps if shown >= least)
        assert cut.out_ms - cut.in_ms >= wanted


def test_no_words_make_no_captions() -> None:
    assert segmented([], SPECS["streaming"], RATE) == []
