"""A transcript that is edited keeps its times."""

from dataclasses import replace
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.speech import Word
from dunlin.core.speech.transcript import (
    Written,
    compared,
    in_paragraphs,
    paragraphs,
    timed,
)

WORDS = ["fog", "bell", "keeper", "Quillan", "harbour", "ring", "the", "a", "Edda"]


@st.composite
def spoken(draw: st.DrawFn) -> list[Word]:
    words, at = [], draw(st.integers(0, 2000))
    for text in draw(st.lists(st.sampled_from(WORDS), min_size=1, max_size=20)):
        length = draw(st.integers(40, 900))
        words.append(Word(text, at, at + length, 0.5))
        at += length + draw(st.integers(0, 1500))
    return words


def kept(word: Word) -> Written:
    return Written(word.text, word.start_ms, word.end_ms, word.confidence)


def bounds(words: list[Word]) -> tuple[int, int]:
    return max(words[0].start_ms - 300, 0), words[-1].end_ms + 300


@given(spoken())
def test_what_is_not_changed_keeps_its_times(words: list[Word]) -> None:
    assert timed([kept(word) for word in words], words, *bounds(words)) == words
    # Even when the page has lost the times: the words are known by their text.
    bare = [Written(word.text, confidence=0.5) for word in words]
    assert timed(bare, words, *bounds(words)) == words


@given(spoken(), st.data())
def test_any_text_gets_times_in_order_within_its_passage(words: list[Word], data) -> None:
    written = [
        kept(word) if data.draw(st.booleans()) else Written(data.draw(st.sampled_from(WORDS)))
        for word in words
    ]
    for _ in range(data.draw(st.integers(0, 4))):
        at = data.draw(st.integers(0, len(written)))
        written.insert(at, Written(data.draw(st.sampled_from(WORDS))))
    from_ms, to_ms = bounds(words)
    found = timed(written, words, from_ms, to_ms)
    assert [word.text for word in found] == [word.text for word in written]
    edges = [edge for word in found for edge in (word.start_ms, word.end_ms)]
    assert edges == sorted(edges)
    assert from_ms <= edges[0] <= edges[-1] <= to_ms


@given(spoken(), st.data())
def test_a_word_put_right_takes_the_time_of_the_wrong_one(words: list[Word], data) -> None:
    at = data.draw(st.integers(0, len(words) - 1))
    written = [kept(word) for word in words]
    written[at] = Written("Quillan Point's")
    found = timed(written, words, *bounds(words))
    assert (found[at].start_ms, found[at].end_ms) == (words[at].start_ms, words[at].end_ms)
    assert found[:at] + found[at + 1 :] == words[:at] + words[at + 1 :]


def test_new_words_share_a_pause_by_their_characters() -> None:
    words = [Word("ring", 0, 400), Word("bell", 1600, 2000)]
    written = [kept(words[0]), Written("the"), Written("old"), Written("fogbow"), kept(words[1])]
    assert [(w.start_ms, w.end_ms) for w in timed(written, words, 0, 2000)] == [
        (0, 400), (400, 700), (700, 1000), (1000, 1600), (1600, 2000)
    ]  # fmt: skip


def test_where_there_is_no_room_a_neighbour_gives_of_its_own() -> None:
    words = [Word("ring", 0, 800), Word("bell", 800, 1600)]
    found = timed([kept(words[0]), Written("loud"), kept(words[1])], words, 0, 1600)
    assert [(w.start_ms, w.end_ms) for w in found] == [(0, 400), (400, 800), (800, 1600)]


def test_words_share_the_time_of_those_in_whose_place_they_stand() -> None:
    words = [Word("ring", 0, 400), Word("Nobody", 500, 1400), Word("has", 1500, 1900)]
    written = [kept(words[0]), Written("Not"), Written("one"), Written("man"), kept(words[2])]
    assert [(w.start_ms, w.end_ms) for w in timed(written, words, 0, 2000)] == [
        (0, 400), (500, 800), (800, 1100), (1100, 1400), (1500, 1900)
    ]  # fmt: skip


def test_a_word_parted_in_two_shares_out_its_time() -> None:
    found = timed([Written("fog", 0, 700), Written("bell", 0, 700)], [], 0, 700)
    assert [(w.start_ms, w.end_ms) for w in found] == [(0, 300), (300, 700)]


def test_a_passage_without_sound_before_it_is_timed_all_the_same() -> None:
    found = timed([Written("fog"), Written("bell")], [], 500, 1200)
    assert [(w.start_ms, w.end_ms) for w in found] == [(500, 800), (800, 1200)]


@given(spoken())
def test_paragraphs_begin_after_pauses_and_lose_nothing(words: list[Word]) -> None:
    told = in_paragraphs(words)
    assert [replace(word, begins=False) for word in told] == words
    parts = paragraphs(told)
    assert [word for part in parts for word in part] == told
    for before, after in pairwise(parts):
        assert after[0].start_ms - before[-1].end_ms >= 900


def test_long_speech_is_parted_at_sentences() -> None:
    words = [Word("bell." if n % 10 == 9 else "ring", n * 300, n * 300 + 290) for n in range(250)]
    assert [len(part) for part in paragraphs(in_paragraphs(words))] == [90, 90, 70]


@given(spoken(), spoken())
def test_two_hearings_side_by_side_are_both_whole(was: list[Word], now: list[Word]) -> None:
    pieces = compared(was, now)
    assert " ".join(old for old, _ in pieces if old) == " ".join(word.text for word in was)
    assert " ".join(new for _, new in pieces if new) == " ".join(word.text for word in now)


def test_what_both_hearings_say_is_told_from_what_they_do_not() -> None:
    was = [Word(text, 0, 1) for text in ["Ring", "the", "vell", "loud"]]
    now = [Word(text, 0, 1) for text in ["ring", "the", "bell"]]
    assert compared(was, now) == [("Ring", "ring"), ("the", "the"), ("vell loud", "bell")]
