"""The project's transcript: written in, or taken from elsewhere."""

import uuid
from collections.abc import Iterable, Sequence

from dunlin.core.messages import BadInput, message
from dunlin.core.project import TakeRun
from dunlin.core.project.targets import TRANSCRIPT
from dunlin.core.speech import Word
from dunlin.core.speech.transcript import Written, timed
from dunlin.core.timing.retiming import Piece, words_retimed
from dunlin.store.log import Author, Done, Outdated, Step
from dunlin.store.projects import Project
from dunlin.work.films import end_ms
from dunlin.work.folder import DataFolder
from dunlin.work.speaking import add_speakers

__all__ = ["put_words", "retime_words", "take_words", "write_words"]


def write_words(
    folder: DataFolder,
    project: Project,
    first: int,
    count: int,
    written: Sequence[Written],
    author: Author,
    *,
    base: int,
    gesture: str | None = None,
    key: str | None = None,
) -> tuple[Done, list[Word]]:
    """Writes words in the place of `count` others from the one at index `first` on; they get times.

    :param base: the transcript's revision that the places are of
    :returns: what was done, and the words with their times
    :raises Outdated: when the transcript is another one by now
    :raises LookupError: when it has no such words
    """
    lead = min(first, 1)
    around = folder.words.of(project.id, project.words_run, first - lead, count + lead + 1)
    old, after = around[lead : lead + count], around[lead + count :]
    if len(old) < count or (lead and not around):
        raise BadInput(message("words.no-such"))
    to_ms = after[0].start_ms if after else max(
        end_ms(project.film, around[0].end_ms if lead else 0, sum(len(w.text) for w in written)),
        old[-1].end_ms if old else 0,
    )  # fmt: skip
    words = timed(written, old, around[0].end_ms if lead else 0, to_ms)
    return put_words(
        folder, project, first, count, words, author, base=base, gesture=gesture, key=key
    ), words


def put_words(
    folder: DataFolder,
    project: Project,
    first: int,
    count: int,
    words: Sequence[Word],
    author: Author,
    *,
    base: int,
    gesture: str | None = None,
    key: str | None = None,
) -> Done:
    """Puts words with times in the place of others.

    :raises Outdated: when the transcript is another one than at the revision `base`
    """
    if (folder.log.revision(project.id, TRANSCRIPT) or 0) != base:
        raise Outdated(TRANSCRIPT, "*", folder.log.revision(project.id, TRANSCRIPT) or 0)
    steps = []
    if project.words_run is None:
        steps.append(Step(TRANSCRIPT, TakeRun("written", None), base))
    edit = folder.words.replacing(project.id, project.words_run, first, count, words)
    steps.append(Step(TRANSCRIPT, edit, base))
    return folder.log.edit(project.id, steps, author, gesture=gesture, key=key)


def retime_words(
    folder: DataFolder,
    project: Project,
    pieces: Sequence[Piece],
    author: Author,
    *,
    base: int,
    gesture: str | None = None,
    key: str | None = None,
) -> Done:
    """Moves all words of the transcript in time, such as when its film was exchanged for another cut.

    :raises Outdated: when the transcript is another one than at the revision `base`
    """
    words = folder.words.of(project.id, project.words_run)
    run = uuid.uuid4().hex
    folder.words.replace(project.id, run, words_retimed(words, pieces))
    step = Step(TRANSCRIPT, TakeRun(run, project.words_run), base, whole=True)
    return folder.log.edit(project.id, [step], author, gesture=gesture, key=key)


def take_words(
    folder: DataFolder,
    project: Project,
    words: Sequence[Word],
    author: Author,
    *,
    key: str | None = None,
) -> Done:
    """Makes words from elsewhere the transcript, in place of the one there is, with those who speak them."""
    run = uuid.uuid4().hex
    folder.words.replace(project.id, run, words)
    speakers: Iterable[str] = (word.speaker for word in words if word.speaker)
    steps = [Step(TRANSCRIPT, TakeRun(run, project.words_run)), add_speakers(project, speakers)]
    return folder.log.edit(project.id, [step for step in steps if step], author, key=key)
