"""Nothing that happens goes untold, also after what was newest has been removed."""

import asyncio
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy.exc import OperationalError

import dunlin.api.events.feed as feed_module
from dunlin.api.events.feed import Feed, JobChanged, ProjectChanged
from dunlin.core.captions import Caption, InsertCaptions
from dunlin.core.project import captions_of
from dunlin.core.project.targets import TRANSCRIPT
from dunlin.core.speech.transcript import Written
from dunlin.settings import Settings
from dunlin.store.database import migrate, open_database
from dunlin.store.films import Film
from dunlin.store.jobs import Jobs
from dunlin.store.log import Author, Step
from dunlin.work.folder import DataFolder, folder_on
from dunlin.work.transcript import write_words
from tests.server import wait_for

FACTS = {
    "frame_rate": {"numerator": 25, "denominator": 1}, "audio_streams": 1, "duration_ms": 9000,
}  # fmt: skip


Told = Callable[[int], None]
"""Waits until so many events were heard."""


def told_of(folder: Path, happen: Callable[[DataFolder, Told], None], count: int) -> list[object]:
    """What a listener hears of things that happen after it began to listen."""
    engine = open_database(folder)
    migrate(engine)
    heard: list[object] = []

    def wait_told(number: int) -> None:
        wait_for(lambda: len(heard) >= number, f"{number} events")

    async def listen() -> list[object]:
        feed = Feed(engine, Jobs(engine))
        watching = asyncio.create_task(feed.watch())
        await asyncio.wait_for(feed.looking.wait(), 60)
        listening = feed.listen()
        first = asyncio.ensure_future(anext(listening))
        await asyncio.sleep(0)
        here = folder_on(engine, Settings(data=folder))
        happening = asyncio.create_task(asyncio.to_thread(happen, here, wait_told))
        heard.append(await asyncio.wait_for(first, 60))
        while len(heard) < count:
            heard.append(await asyncio.wait_for(anext(listening), 60))
        await happening
        watching.cancel()
        return heard

    return asyncio.run(listen())


def test_numbers_of_removed_things_are_not_given_again(tmp_path: Path) -> None:
    def happen(here: DataFolder, wait_told: Told) -> None:
        projects, jobs = here.projects, here.jobs
        for name in ("first", "second"):
            project = projects.add(name, Film(name, 1, FACTS), id_=name)
            for _ in range(3):
                jobs.add(project.id, "burn", {})
            insert = InsertCaptions((Caption("a", 0, 1000),))
            here.log.edit(
                project.id, [Step(captions_of(project.tracks[0].id), insert)], Author("a")
            )
            if name == "first":
                wait_told(4)
                projects.remove(project.id)

    heard = told_of(tmp_path, happen, 8)
    edits = [event.project_id for event in heard if isinstance(event, ProjectChanged)]
    jobs = [event.project_id for event in heard if isinstance(event, JobChanged)]
    assert edits == ["first", "second"]
    assert jobs == ["first"] * 3 + ["second"] * 3


def test_a_transcript_that_was_written_is_told_of(tmp_path: Path) -> None:
    def happen(here: DataFolder, wait_told: Told) -> None:
        projects = here.projects
        written = projects.add("written", Film("written", 1, FACTS), id_="written")
        projects.add("untouched", Film("untouched", 1, FACTS), id_="untouched")
        write_words(here, written, 0, 0, [Written("Ring")], Author("a"), base=0)

    (event,) = told_of(tmp_path, happen, 1)
    assert isinstance(event, ProjectChanged)
    assert (event.project_id, set(event.done.changed)) == ("written", {TRANSCRIPT})


def test_what_people_do_within_one_look_is_told_as_that_of_each(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    # The watcher sees all of it at once, however long it took: until then it cannot read.
    real, is_done = feed_module._entries_since, threading.Event()

    def entries_since(*args: Any) -> Any:
        rows = real(*args)
        if rows and not is_done.is_set():
            raise OperationalError("", None, Exception("locked"))
        return rows

    monkeypatch.setattr(feed_module, "_entries_since", entries_since)
    monkeypatch.setattr(feed_module, "_AGAIN_AFTER_SECONDS", 0.01)

    def happen(here: DataFolder, wait_told: Told) -> None:
        project = here.projects.add("shared", Film("shared", 1, FACTS), id_="shared")
        captions = captions_of(project.tracks[0].id)
        for number, person in enumerate("aabba"):
            insert = InsertCaptions((Caption(f"c{number}", number * 1000, number * 1000 + 900),))
            here.log.edit(project.id, [Step(captions, insert)], Author(person))
        is_done.set()

    heard = told_of(tmp_path, happen, 3)
    done = [event.done for event in heard if isinstance(event, ProjectChanged)]
    assert [(one.author.person, one.revision) for one in done] == [("a", 2), ("b", 4), ("a", 5)]
    assert [set(*(change.touched for change in one.changed.values())) for one in done] == [
        {"c0", "c1"}, {"c2", "c3"}, {"c4"},
    ]  # fmt: skip


def test_a_watcher_that_met_an_error_looks_again(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    real, failures = feed_module._entries_since, [OperationalError("", None, Exception("locked"))]

    def entries_since(*args: Any) -> Any:
        if failures:
            raise failures.pop()
        return real(*args)

    monkeypatch.setattr(feed_module, "_entries_since", entries_since)
    monkeypatch.setattr(feed_module, "_AGAIN_AFTER_SECONDS", 0.01)

    def happen(here: DataFolder, wait_told: Told) -> None:
        project = here.projects.add("seen", Film("seen", 1, FACTS), id_="seen")
        here.jobs.add(project.id, "burn", {})

    (event,) = told_of(tmp_path, happen, 1)
    assert isinstance(event, JobChanged)
    assert not failures
    assert "tried again" in caplog.text
