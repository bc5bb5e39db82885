"""Nothing that happens goes untold, also after what was newest has been removed."""

import asyncio
from collections.abc import Callable
from pathlib import Path

from dunlin.api.feed import EditMade, Feed, JobChanged, WordsWritten
from dunlin.core.captions import Caption, InsertCaptions
from dunlin.core.speech import Word
from dunlin.store.database import migrate, open_database
from dunlin.store.edits import EditLog
from dunlin.store.jobs import Jobs
from dunlin.store.projects import Film, Projects
from dunlin.store.words import Words

FACTS = {"frame_rate": {"numerator": 25, "denominator": 1}, "audio_streams": 1}


def told_of(
    folder: Path, happen: Callable[[Projects, EditLog, Jobs], None], count: int
) -> list[object]:
    """What a listener hears of things that happen after it began to listen."""
    engine = open_database(folder)
    migrate(engine)
    jobs = Jobs(engine)

    async def listen() -> list[object]:
        feed = Feed(engine, jobs)
        watching = asyncio.create_task(feed.watch())
        await asyncio.sleep(0.3)
        heard = []
        listening = feed.listen()
        first = asyncio.ensure_future(anext(listening))
        await asyncio.sleep(0)
        await asyncio.to_thread(happen, Projects(engine), EditLog(engine), jobs)
        heard.append(await asyncio.wait_for(first, 10))
        while len(heard) < count:
            heard.append(await asyncio.wait_for(anext(listening), 10))
        watching.cancel()
        return heard

    return asyncio.run(listen())


def test_numbers_of_removed_things_are_not_given_again(tmp_path: Path) -> None:
    def happen(projects: Projects, edits: EditLog, jobs: Jobs) -> None:
        for name in ("first", "second"):
            project = projects.add(name, Film(name, 1, FACTS), id_=name)
            for _ in range(3):
                jobs.add(project.id, "burn", {})
            insert = InsertCaptions((Caption("a", 0, 1000),))
            edits.edit(project.tracks[0].id, insert, gesture="g", actor="a")
            if name == "first":
                # Long enough for all of it to be told.
                import time

                time.sleep(0.6)
                projects.remove(project.id)

    heard = told_of(tmp_path, happen, 8)
    edits = [event.project_id for event in heard if isinstance(event, EditMade)]
    jobs = [event.project_id for event in heard if isinstance(event, JobChanged)]
    assert edits == ["first", "second"]
    assert jobs == ["first"] * 3 + ["second"] * 3


def test_a_transcript_that_was_written_is_told_of(tmp_path: Path) -> None:
    def happen(projects: Projects, edits: EditLog, jobs: Jobs) -> None:
        written = projects.add("written", Film("written", 1, FACTS), id_="written")
        projects.add("untouched", Film("untouched", 1, FACTS), id_="untouched")
        projects.change(written.id, words_run="run")
        words = Words(open_database(tmp_path))
        words.edit(written.id, "run", 0, 0, 0, [Word("Ring", 0, 400)])

    assert told_of(tmp_path, happen, 1) == [WordsWritten("written", 1)]
