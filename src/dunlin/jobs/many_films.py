"""Many films through the queue: each heard, made into captions, mended where a machine can, and packed by one list."""

import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from pathlib import Path
from typing import Any

from dunlin.core.captions import InsertCaptions, Track
from dunlin.core.messages import Message, Told, message
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import PROJECT, SPECS
from dunlin.core.specs import Spec, mend_all
from dunlin.core.speech import Word
from dunlin.core.speech.languages import AUTO
from dunlin.core.speech.transcript_files import words_of_json
from dunlin.engines import engine_called
from dunlin.jobs.packing import asked_of_list
from dunlin.jobs.queue import JobQueue
from dunlin.media.probe import probe
from dunlin.store.films import Film
from dunlin.store.jobs import Job
from dunlin.store.log import Author, Step, new_caption_id
from dunlin.work.folder import DataFolder
from dunlin.work.hearing import needs_sound
from dunlin.work.making import make_captions
from dunlin.work.packing.lists import HouseList, delivery_of, keep_house_list, take_house_list
from dunlin.work.transcript import take_words

__all__ = ["FilmDelivered", "FilmNotDelivered", "Plan", "deliver_films"]

_AUTHOR = Author("dunlin")
_LIST = "list"
_LOOK_SECONDS = 0.1


@dataclass(frozen=True)
class Plan:
    """What is done to every film."""

    packing: HouseList
    spec: Spec
    language: str
    """BCP 47 tag of what is spoken, or `auto`."""


@dataclass(frozen=True)
class FilmDelivered:
    """A film of which all was made that could be."""

    film: Path
    files: Mapping[str, Path]
    """What was made, by the names it is to have."""
    mended: int
    errors: int
    """Findings that only a person can mend."""
    failed: tuple[Message, ...]
    """Why things of the list could not be made."""


@dataclass(frozen=True)
class FilmNotDelivered:
    """A film of which nothing could be made, and why."""

    film: Path
    reason: Message


def deliver_films(
    folder: DataFolder, films: Sequence[Path], plan: Plan
) -> Iterator[FilmDelivered | FilmNotDelivered]:
    """Delivers films, each told of as soon as it is done; workers of that data folder do the work.

    Words that stand beside a film, as `FILM.words.json`, are taken and nothing is heard.
    """
    keep_house_list(folder, _LIST, plan.packing, _AUTHOR)
    queue = JobQueue(folder)
    on_the_way: list[_Way] = []
    for film in films:
        try:
            on_the_way.append(_Way(film, plan, folder, queue))
        except (Told, OSError) as error:
            yield FilmNotDelivered(film, _reason(error))
    while on_the_way:
        for way in list(on_the_way):
            done: FilmDelivered | FilmNotDelivered | None
            try:
                done = way.further()
            except Told as told:
                done = FilmNotDelivered(way.film, told.message)
            if done:
                on_the_way.remove(way)
                yield done
        if on_the_way:
            time.sleep(_LOOK_SECONDS)


def _reason(error: Told | OSError) -> Message:
    if isinstance(error, Told):
        return error.message
    return message("as-said.words", words=error.strerror or error)


class _Way:
    """How far a film is on its way: looked into, then captioned, then packed."""

    def __init__(self, film: Path, plan: Plan, folder: DataFolder, queue: JobQueue) -> None:
        """:raises Told: when there is nothing in the file to deliver"""
        self.film = film
        self._plan, self._folder, self._queue = plan, folder, queue
        self._mended, self._errors = 0, 0
        self._delivery: str | None = None
        facts = probe(film)
        words, tag = _words_beside(film)
        language = tag or ("en" if plan.language == AUTO else plan.language)
        kept = Film(film.name, film.stat().st_size, asdict(facts))
        project = folder.projects.add(film.stem, kept, language=language)
        self._project = project.id
        place = folder.film_file(project.film)
        place.parent.mkdir(parents=True, exist_ok=True)
        place.symlink_to(film.absolute())
        spec = plan.spec
        chosen = [
            Step(SPECS, SetEntries({spec.id: spec.model_dump(mode="json")})),
            Step(PROJECT, SetEntries({"spec": spec.id})),
        ]
        folder.log.edit(project.id, chosen, _AUTHOR)
        # Shot changes and stretches of speech are what captions are timed and judged by.
        wanted: dict[str, dict[str, Any]] = {}
        if facts.video_codec:
            wanted["shots"] = {}
        if facts.audio_streams:
            wanted["speech"] = {}
        if words is not None:
            take_words(folder, project, words, _AUTHOR)
        else:
            needs_sound(project)
            engine = engine_called(None, folder.settings.model_folders).name
            wanted["recognise"] = {"engine": engine, "language": plan.language}
        self._jobs = [queue.add(project.id, kind, asked) for kind, asked in wanted.items()]

    def further(self) -> FilmDelivered | None:
        """Goes on, when what was waited for is done; what was made, when all is.

        :raises Told: when a job says why it could not be done
        """
        jobs = [self._folder.jobs.get(job.id) for job in self._jobs]
        for job in jobs:
            if job.error:
                raise Told(message(job.error["code"], **job.error["values"]))
        if any(job.state != "done" for job in jobs):
            return None
        if self._delivery is None:
            self._caption()
            self._jobs = [self._packing()]
            return None
        result = jobs[0].result or {}
        failed = tuple(
            message(told["code"], **told["values"]) for told in result["failed"].values()
        )
        made = self._folder.made.of(self._project, self._delivery).values()
        files = {one.name: self._folder.settings.results / one.file for one in made}
        return FilmDelivered(self.film, files, self._mended, self._errors, failed)

    def _caption(self) -> None:
        project = self._folder.projects.get(self._project)
        track = project.tracks[0].id
        made, judge = make_captions(self._folder, project, track, Track.of(()))
        mended = mend_all(Track.of(made.captions), judge)
        captions = tuple(replace(caption, id=new_caption_id()) for caption in mended.track)
        step = Step(captions_of(track), InsertCaptions(captions))
        self._folder.log.edit(self._project, [step], _AUTHOR)
        self._mended = len(mended.mends)
        self._errors = sum(left.finding.weight == "error" for left in mended.left)

    def _packing(self) -> Job:
        project = self._folder.projects.get(self._project)
        self._delivery = take_house_list(self._folder, project, _LIST, _AUTHOR)
        packing = delivery_of(self._folder, self._project, self._delivery)
        return self._queue.add(self._project, "pack", asked_of_list(self._delivery, packing))


def _words_beside(film: Path) -> tuple[tuple[Word, ...] | None, str | None]:
    """The words of a film that were recognised before, and their language; None where there are none."""
    known = film.with_name(f"{film.stem}.words.json")
    return words_of_json(known.read_bytes()) if known.is_file() else (None, None)
