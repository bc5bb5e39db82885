"""Captions as one page of text: what is typed there moves words, and every word keeps its time."""

from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Span, spans_of
from dunlin.core.making.page import captions_of_page
from dunlin.core.speech import Word
from dunlin.core.timecode import FrameRate

RATE = FrameRate(25, 1)
GAP_MS = 80

OLD = (
    Caption("a", 920, 2600, spans_of("The fog bell\nrang all night"), "Edda"),
    Caption("b", 3000, 4800, spans_of("and nobody came")),
    Caption("c", 5000, 6400, spans_of("to the harbour")),
)
SPOKEN = [
    Word(text, start, end)
    for text, start, end in [
        ("The", 1000, 1160), ("fog", 1160, 1400), ("bell", 1400, 1680), ("rang", 1720, 1960),
        ("all", 1960, 2120), ("night", 2120, 2560), ("and", 3080, 3200), ("nobody", 3200, 3720),
        ("came", 3760, 4400), ("to", 5080, 5200), ("the", 5200, 5320), ("harbour", 5320, 6000),
    ]
]  # fmt: skip


def written(*texts: str, old=OLD, words=SPOKEN, room=(0, 9000)) -> list[Caption]:
    return captions_of_page(old, texts, words, room, RATE, gap_ms=GAP_MS)


def shown(captions: list[Caption]) -> list[tuple[str, int, int, str]]:
    return [(c.id, c.in_ms, c.out_ms, c.text) for c in captions]


def test_what_was_not_rewritten_stays_as_it_is() -> None:
    assert written(*(caption.text for caption in OLD)) == list(OLD)
    # Other lines are no other words.
    assert written("The fog\nbell rang all night", *(c.text for c in OLD[1:]))[0].in_ms == 920


def test_a_word_moves_to_the_next_caption_with_its_time() -> None:
    assert shown(written("The fog bell\nrang all", "night and nobody came", "to the harbour")) == [
        ("a", 920, 2040, "The fog bell\nrang all"),
        ("b", 2120, 4800, "night and nobody came"),
        ("c", 5000, 6400, "to the harbour"),
    ]


def test_a_blank_line_parts_a_caption_where_it_is_spoken() -> None:
    parted = written("The fog bell", "rang all night", "and nobody came", "to the harbour")
    assert shown(parted)[:2] == [
        ("a", 920, 1640, "The fog bell"),
        ("page-1", 1720, 2600, "rang all night"),
    ]
    assert parted[1].speaker == "Edda"


def test_captions_become_one_that_runs_through_both() -> None:
    one = written("The fog bell\nrang all night\nand nobody came", "to the harbour")
    assert shown(one)[0] == ("a", 920, 4800, "The fog bell\nrang all night\nand nobody came")


def test_new_words_change_no_time() -> None:
    more = written("The old fog bell\nrang all night long", "and nobody came", "to the harbour")
    assert [(c.in_ms, c.out_ms) for c in more] == [(c.in_ms, c.out_ms) for c in OLD]


def test_a_new_caption_stands_between_its_neighbours_and_is_read_before_it_ends() -> None:
    put = written("The fog bell\nrang all night", "Oh!", "and nobody came", "to the harbour")
    assert put[1].id == "page-1"
    assert put[0].out_ms < put[1].in_ms < put[1].out_ms <= put[2].in_ms - GAP_MS
    last = written(*(c.text for c in OLD), "The end", room=(0, 600_000))[-1]
    assert last.in_ms >= 6400
    assert last.duration_ms <= 1040


def test_without_a_transcript_words_share_the_time_of_their_caption() -> None:
    moved = written("The fog bell\nrang all", "night and nobody came", "to the harbour", words=[])
    assert moved[0].in_ms == 920
    assert 1900 < moved[0].out_ms < 2300
    assert moved[1].out_ms == 4800


def test_styles_go_with_their_words() -> None:
    old = (
        Caption("a", 0, 1000, (Span("the "), Span("Marigold", italic=True))),
        Caption("b", 1200, 2000, (Span("sank", bold=True),)),
    )
    moved = captions_of_page(old, ["the", "Marigold sank"], [], (0, 3000), RATE)
    assert [c.spans for c in moved] == [
        (Span("the"),),
        (Span("Marigold", italic=True), Span(" "), Span("sank", bold=True)),
    ]


def test_a_locked_caption_keeps_its_times() -> None:
    locked = Caption("a", 920, 2600, OLD[0].spans, locked=True)
    moved = written(
        "The fog bell\nrang all", "night and nobody came", "to the harbour", old=(locked, *OLD[1:])
    )
    assert (moved[0].in_ms, moved[0].out_ms, moved[0].locked) == (920, 2600, True)
    assert moved[1].in_ms == 2600 + GAP_MS


PLACES = st.lists(st.sampled_from([" ", "\n", "\n\n"]), min_size=20, max_size=20)


@given(PLACES, st.lists(st.integers(0, 11), max_size=4), st.booleans())
def test_wherever_the_breaks_are_put_captions_follow_one_another(breaks, dropped, heard) -> None:
    said = [word.text for i, word in enumerate(SPOKEN) if i not in dropped] or ["new"]
    page = "".join(f"{word}{gap}" for word, gap in zip(said, breaks, strict=False)).strip()
    texts = page.split("\n\n")
    captions = written(*texts, words=SPOKEN if heard else [])
    assert [c.text for c in captions] == texts
    assert all(c.in_ms < c.out_ms for c in captions)
    assert all(a.out_ms <= b.in_ms for a, b in pairwise(captions))
    assert len({c.id for c in captions}) == len(texts)
    first, last = captions[0], captions[-1]
    assert first.in_ms >= 0
    assert last.out_ms <= 9000
