"""Words about a project's film: made of what is said in it, kept in its log, and asked questions."""

import uuid
from collections.abc import Mapping, Sequence
from functools import lru_cache
from pathlib import Path
from typing import Literal, TypeAlias

import numpy as np

from dunlin.core.language.digest.answers import Answer, answers
from dunlin.core.language.digest.pieces import PIECE, Piece, about_of, another, begun, resized
from dunlin.core.language.digest.sentences import Said, Sentence, sentences_of
from dunlin.core.language.digest.talk import Talk
from dunlin.core.language.digest.words_about import WordsAbout
from dunlin.core.language.digest.writing import said_in
from dunlin.core.messages import BadInput, Told, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import ABOUT
from dunlin.core.text.words import joined_words
from dunlin.engines.text_service import sentences_by_service
from dunlin.media.peaks import peaks_info, peaks_slice
from dunlin.store.log import Author, Done, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder

__all__ = [
    "Again",
    "UnknownPiece",
    "about_project",
    "answers_to",
    "begin_about",
    "make_again",
    "pieces_of",
    "put_pieces",
    "said_in_project",
    "talk_of",
]

_DESCRIBE = 6
"""Sentences that a service is asked for, as the longest description has."""
Again: TypeAlias = Literal["another", "longer", "shorter"]


class UnknownPiece(Told, LookupError):
    """There is no piece of that id."""

    def __init__(self) -> None:
        super().__init__(message("about.gone"))


def said_in_project(folder: DataFolder, project: Project) -> list[Said]:
    """What is said in a film: its transcript or, where there is none, the captions of its first track."""
    words = folder.words.of(project.id, project.words_run)
    if words:
        return [Said(word.text, word.start_ms, word.end_ms) for word in words if not word.left_out]
    first = project.tracks[0]
    track, _ = folder.log.track(first.id)
    return [said for caption in track for said in said_in(caption, first.language)]


def talk_of(folder: DataFolder, project: Project) -> Talk:
    """What is said, as a talk. :raises BadInput: when nothing is"""
    said = said_in_project(folder, project)
    if not said:
        raise BadInput(message("words.none-there"))
    film = folder.film_folder(project.film) if project.film.has_sound else None
    drawn = film if film and peaks_info(film) else None
    return _talk(tuple(said), project.tracks[0].language, drawn)


@lru_cache(8)
def _talk(said: tuple[Said, ...], language: str, drawn: Path | None) -> Talk:
    """Kept, as what stands out in an hour takes a second to find, and is asked for again with each press.

    :param drawn: the folder of a film whose waveform is drawn
    """
    sentences = tuple(sentences_of(said, language))
    return Talk(sentences, language, _loudness(drawn, sentences) if drawn else None)


def _loudness(film_folder: Path, sentences: Sequence[Sentence]) -> tuple[float, ...] | None:
    """How far the waveform goes out while each sentence is said, on the mean; None where it cannot be read."""
    info = peaks_info(film_folder)
    if info is None:
        return None
    pairs = np.frombuffer(peaks_slice(film_folder, 0, 0, info.counts[0]), np.int8).reshape(-1, 2)
    heights = np.concatenate([[0.0], np.cumsum(pairs[:, 1].astype(float) - pairs[:, 0])])

    def mean(sentence: Sentence) -> float:
        first = min(int(sentence.start_ms / info.pair_ms[0]), len(pairs) - 1)
        after = min(max(int(sentence.end_ms / info.pair_ms[0]), first + 1), len(pairs))
        return float(heights[after] - heights[first]) / (after - first)

    return tuple(map(mean, sentences)) if len(pairs) else None


def pieces_of(folder: DataFolder, project_id: str) -> tuple[dict[str, Piece], int]:
    """The words about a film by their ids, in their order, and the project's revision when they were last changed."""
    entries, revision = folder.log.record(project_id, ABOUT)
    pieces = {id_: PIECE.validate_python(entry) for id_, entry in entries.items()}
    ordered = sorted(pieces.items(), key=lambda each: (each[1].place, each[0]))
    return dict(ordered), revision or 0


def about_project(folder: DataFolder, project: Project) -> WordsAbout:
    """What is written about a film or, where nothing is yet, what would be."""
    pieces, _ = pieces_of(folder, project.id)
    if pieces:
        return about_of(pieces.values())
    return about_of(begun(talk_of(folder, project)))


def put_pieces(
    folder: DataFolder,
    project_id: str,
    pieces: Mapping[str, Piece | None],
    author: Author,
    *,
    base: int | None = None,
    key: str | None = None,
) -> Done:
    """Makes pieces these; None takes one away.

    :raises Outdated: when another window changed one of them since
    """
    entries = {
        id_: None if piece is None else PIECE.dump_python(piece, mode="json")
        for id_, piece in pieces.items()
    }
    return folder.log.edit(project_id, [Step(ABOUT, SetEntries(entries), base)], author, key=key)


def begin_about(
    folder: DataFolder,
    project: Project,
    author: Author,
    *,
    base: int | None = None,
    key: str | None = None,
) -> Done:
    """Writes all pieces of what is said, in the place of those that are there.

    :raises BadInput: when nothing is said
    """
    there, _ = pieces_of(folder, project.id)
    made: dict[str, Piece | None] = dict.fromkeys(there)
    made |= {uuid.uuid4().hex[:12]: piece for piece in _begun(folder, project)}
    return put_pieces(folder, project.id, made, author, base=base, key=key)


def make_again(
    folder: DataFolder,
    project: Project,
    piece_id: str,
    how: Again,
    author: Author,
    *,
    base: int | None = None,
    key: str | None = None,
) -> None:
    """Makes a piece longer or shorter, or another one.

    :raises UnknownPiece: when it is gone
    :raises BadInput: when there is none
    :raises Outdated: when another window changed it since
    """
    if key and folder.log.stored(project.id, key):
        # Asked again, as the answer was lost: yet another one is not what is wanted.
        return
    pieces, _ = pieces_of(folder, project.id)
    if piece_id not in pieces:
        raise UnknownPiece
    talk, piece = talk_of(folder, project), pieces[piece_id]
    if how == "another":
        others = [other for id_, other in pieces.items() if id_ != piece_id]
        made = another(talk, piece, others)
    else:
        made = resized(talk, piece, 1 if how == "longer" else -1)
    if made is None:
        raise BadInput(message("about.no-other" if how == "another" else "about.no-size"))
    put_pieces(folder, project.id, {piece_id: made}, author, base=base, key=key)


def answers_to(folder: DataFolder, project: Project, question: str) -> list[Answer]:
    """The passages of a film that answer a question: by the service that was named, else by search.

    :raises EngineError: when the service does not answer
    """
    talk, settings = talk_of(folder, project), folder.settings
    if settings.text_service is None:
        return answers(talk, question)
    texts = [joined_words(one.texts) for one in talk.sentences]
    places = sentences_by_service(
        settings.text_service, settings.text_service_token, "answer", texts, talk.language,
        question=question,
    )  # fmt: skip
    return [Answer(texts[n], talk.sentences[n].start_ms, talk.sentences[n].end_ms) for n in places]


def _begun(folder: DataFolder, project: Project) -> list[Piece]:
    """Pieces to begin with; where a service was named, descriptions of the sentences that it chooses."""
    talk, settings = talk_of(folder, project), folder.settings
    if settings.text_service is None:
        return begun(talk)
    texts = [joined_words(one.texts) for one in talk.sentences]
    places = sentences_by_service(
        settings.text_service, settings.text_service_token, "describe", texts, talk.language,
        count=min(len(texts), _DESCRIBE),
    )  # fmt: skip
    return begun(talk, places)
