"""Captions made of a project's words."""

from collections.abc import Collection, Sequence
from dataclasses import replace

from dunlin.core.captions import Case, Track
from dunlin.core.making.remaking import Change, Made, captions_made, changes
from dunlin.core.making.segmentation import Shape
from dunlin.core.messages import Told, message
from dunlin.core.specs import Judge, Spec, for_language
from dunlin.core.speech import Word
from dunlin.store.log import Author, Done, new_caption_id
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.judging import judge_of
from dunlin.work.replacing import copied_track, new_track, put_in_place

__all__ = ["NoWords", "add_draft", "make_captions", "put_made"]


class NoWords(Told):
    """There are no words that captions could be made of."""


def make_captions(
    folder: DataFolder,
    project: Project,
    track_id: str,
    track: Track,
    *,
    spec: Spec | None = None,
    shape: Shape | None = None,
    case: Case | None = None,
    keep: bool = True,
) -> tuple[Made, Judge]:
    """Captions of a project's words, as they are chosen to be, and the judge of them.

    :param track: the captions there are
    :param spec: limits to make them by; None is the spec the track is judged by
    :raises NoWords: when nothing was recognised or written yet
    """
    words = folder.words.of(project.id, project.words_run)
    if not words:
        raise NoWords(message("words.none-yet"))
    judge = judge_of(folder, project, track_id, spec)
    setting = judge.setting
    made = captions_made(
        words, tuple(track), setting.spec, setting.rate, setting.language,
        shape=shape, case=case, keep=keep, ends_ms=setting.film_ends_ms,
    )  # fmt: skip
    return made, judge


def add_draft(
    folder: DataFolder, project: Project, words: Sequence[Word], author: Author, gesture: str
) -> str:
    """Adds a track of captions in English, made of words that were heard as such, by the project's spec.

    :returns: its id
    """
    spec = for_language(project.spec_of(), "en")
    film = project.film
    made = captions_made(words, (), spec, film.rate, "en", ends_ms=film.duration_ms or None)
    captions = tuple(replace(caption, id=new_caption_id(), made=None) for caption in made.captions)
    id_, steps = new_track(folder, project, captions, language="en")
    folder.log.edit(project.id, steps, author, gesture=gesture)
    return id_


def put_made(
    folder: DataFolder,
    project: Project,
    track_id: str,
    track: Track,
    made: Made,
    author: Author,
    *,
    base: int,
    gesture: str,
    key: str | None = None,
    chosen: Collection[int] | None = None,
    keep_old: bool = False,
) -> Done:
    """Puts captions that were made into the track they were made for, in one edit.

    :param track: the track at the revision `base`
    :param chosen: numbers of the changes that are made; None makes all
    :param keep_old: whether the captions there are stay too, as a track of their own
    :raises Outdated: when the track has changed since
    """
    wanted: list[Change] = [
        change
        for number, change in enumerate(changes(track, made))
        if chosen is None or number in chosen
    ]
    gone = {id_ for change in wanted for id_ in change.gone}
    return put_in_place(
        folder,
        project,
        track_id,
        [caption for change in wanted for caption in change.put],
        author,
        base=base,
        gesture=gesture,
        key=key,
        kept=frozenset(caption.id for caption in track if caption.id not in gone),
        before=copied_track(folder, project, track_id, track) if keep_old and len(track) else (),
    )
