"""Words about a film in pieces: whatever is asked for, what comes was said, and is not what was there."""

import random
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.language.digest.answers import answers
from dunlin.core.language.digest.pieces import (
    KINDS,
    PIECE,
    Piece,
    SaidAt,
    about_of,
    another,
    begun,
    resized,
)
from dunlin.core.language.digest.sentences import Sentence, sentences_of
from dunlin.core.language.digest.talk import Talk
from dunlin.core.language.digest.words_about import words_about
from dunlin.core.text.words import joined_words
from tests.unit.language.test_digest import LANGUAGES, sentence_of, talk, timed


def talk_of(seed: int, language: str = "en") -> Talk:
    sentences, _ = talk(seed, language)
    return Talk(tuple(sentences), language)


def plain(text: str) -> str:
    return " ".join(text.lower().replace(".", "").replace(",", "").split())


def was_said(piece: Piece, sentences: tuple[Sentence, ...]) -> bool:
    """Whether a piece stands in a talk: descriptions and passages sentence by sentence, titles as phrases of one, key words
    word by word."""
    said = [joined_words(one.texts) for one in sentences]
    match piece.kind:
        case "keywords":
            spoken = plain(" ".join(said))
            return all(plain(word) in spoken for word in piece.text.split(", "))
        case "title" | "chapter":
            return any(plain(piece.text) in plain(one) for one in said)
        case _:
            spans = piece.said
            own = [
                one
                for one in sentences
                if any(span.from_ms <= one.start_ms < span.to_ms for span in spans)
            ]
            return piece.text == " ".join(joined_words(one.texts) for one in own)


@given(
    seed=st.integers(0, 40),
    language=st.sampled_from(LANGUAGES),
    deeds=st.lists(
        st.tuples(st.integers(0, 30), st.sampled_from(["another", "longer", "shorter"])),
        max_size=12,
    ),
)
def test_whatever_is_asked_for_stands_in_the_talk(
    seed: int, language: str, deeds: list[tuple[int, str]]
) -> None:
    about = talk_of(seed, language)
    pieces = begun(about)
    assert {piece.kind for piece in pieces} == set(KINDS)
    for at, deed in deeds:
        place = at % len(pieces)
        piece, others = pieces[place], [*pieces[:place], *pieces[place + 1 :]]
        if deed == "another":
            made = another(about, piece, others)
            assert made is None or made.text not in {piece.text, *piece.seen}
        else:
            made = resized(about, piece, 1 if deed == "longer" else -1)
            if made is not None:
                assert (len(made.text) > len(piece.text)) == (deed == "longer")
        if made is not None:
            assert (made.kind, made.place) == (piece.kind, piece.place)
            pieces[place] = made
    for piece in pieces:
        assert was_said(piece, about.sentences), piece
        assert PIECE.validate_python(PIECE.dump_python(piece, mode="json")) == piece
        assert all(span.from_ms < span.to_ms for span in piece.said)
    passages = [span for piece in pieces if piece.kind == "passage" for span in piece.said]
    assert len(passages) == 5


def test_another_passage_lies_over_no_other() -> None:
    about = talk_of(3)
    pieces = begun(about)
    first, *others = [piece for piece in pieces if piece.kind == "passage"]
    for _ in range(5):
        first = another(about, first, others) or first
        [own] = first.said
        assert all(
            own.to_ms <= span.from_ms or own.from_ms >= span.to_ms
            for other in others
            for span in other.said
        )


def test_another_is_asked_for_until_there_is_none_left() -> None:
    about = Talk(
        tuple(
            sentences_of(
                timed(["The", "bell", "rang", "twice.", "Nobody", "came", "down", "to", "it."])
            )
        )
    )
    piece = next(one for one in begun(about) if one.kind == "short")
    other = another(about, piece)
    assert other is not None
    assert {piece.text, other.text} == {"The bell rang twice.", "Nobody came down to it."}
    assert another(about, other) is None
    assert resized(about, other, -1) is None
    longer = resized(about, other, 1)
    assert longer is not None
    assert longer.text == "The bell rang twice. Nobody came down to it."
    assert resized(about, longer, 1) is None


def test_pieces_are_written_as_what_they_were_made_of() -> None:
    about = talk_of(1)
    written, made = about_of(begun(about)), words_about(
        (word for one in about.sentences for word in one.words), "en"
    )  # fmt: skip
    assert (written.short, written.middle, written.long) == (made.short, made.middle, made.long)
    assert written.chapters == made.chapters
    assert written.keywords == made.keywords
    assert [one.text for one in written.passages] == [one.text for one in made.passages]
    assert written.titles == made.titles[:3]


@pytest.mark.parametrize("kind", KINDS)
def test_pieces_that_came_from_outside_do_no_harm(kind: str) -> None:
    about = talk_of(2)
    for said in ((), ((-5, -1),), ((10**12, 10**12 + 1),), ((900, 100),)):
        piece = Piece(kind, "By hand", tuple(SaidAt(*span) for span in said))  # type: ignore[arg-type]
        another(about, piece, [piece])
        resized(about, piece, 1)
        resized(about, piece, -1)
        about_of([piece])


def test_questions_are_answered_by_what_says_it() -> None:
    chance = random.Random(7)
    topic = ["harbour", "tide", "rope", "quay"]
    lines = [sentence_of(chance, topic, "en") for _ in range(30)]
    lines[11] = ["The", "bell", "weighs", "412", "kilos."]
    lines[20] = ["Tomas", "cast", "it", "in", "one", "evening."]
    about = Talk(tuple(sentences_of(timed([word for line in lines for word in line]))))
    assert (
        answers(about, "How heavy is the bell? How many kilos does it weigh?")[0].text
        == "The bell weighs 412 kilos."
    )
    found = answers(about, "Who was casting on that evening")[0]
    assert found.text == "Tomas cast it in one evening."
    assert about.sentences[20].start_ms == found.from_ms
    assert answers(about, "submarine") == []
    assert answers(about, "?") == []
    assert answers(replace(about, language="qaa"), "bell")[0].text == "The bell weighs 412 kilos."


def test_a_passage_said_with_more_voice_is_strong_by_it() -> None:
    about = talk_of(4)
    quiet = [1.0] * len(about.sentences)
    loud = [*quiet]
    first, after = 20, 22
    loud[first:after] = [9.0, 9.0]
    spoken = replace(about, loudness=tuple(loud))
    assert all("loud" not in one.why for one in about.passages)
    ranks = [
        next(
            n
            for n, one in enumerate(each.passages)
            if one.from_ms < about.sentences[after].start_ms
            and one.to_ms > about.sentences[first].start_ms
        )
        for each in (about, spoken)
    ]
    assert ranks[1] <= ranks[0]
    assert "loud" in spoken.passages[ranks[1]].why
