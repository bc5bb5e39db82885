"""Words about a project's film: made of what is said in it, kept in its log, and asked questions."""

import uuid
from collections.abc import Mapping
from functools import lru_cache
from typing import Literal, TypeAlias

from dunlin.core.language.digest.answers import Answer, answers
from dunlin.core.language.digest.pieces import PIECE, Piece, about_of, another, begun, resized
from dunlin.core.language.digest.sentences import Said, sentences_of
from dunlin.core.language.digest.talk import Talk
from dunlin.core.language.digest.words_about import WordsAbout, words_about
from dunlin.core.language.digest.writing import said_in
from dunlin.core.messages import BadInput, Told, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import ABOUT
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
    return _talk(tuple(said), project.tracks[0].language)


@lru_cache(8)
def _talk(said: tuple[Said, ...], language: str) -> Talk:
    """Kept, as what stands out in an hour takes a second to find, and is asked for again with each press."""
    return Talk(tuple(sentences_of(said, language)), language)


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
    return words_about(said_in_project(folder, project), project.tracks[0].language)


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
    made |= {uuid.uuid4().hex[:12]: piece for piece in begun(talk_of(folder, project))}
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
    """The passages of a film that answer a question."""
    return answers(talk_of(folder, project), question)
