"""Data folders of earlier versions."""

import json
import sqlite3
from contextlib import closing
from pathlib import Path

from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from sqlalchemy import Engine, text

import dunlin.store.database as database
from dunlin.core.captions import Caption, Span, spans_of
from dunlin.core.messages import Message
from dunlin.core.project import captions_of
from dunlin.settings import Settings
from dunlin.store.database import migrate, open_database
from dunlin.store.jobs import Jobs
from dunlin.store.log import Author, ProjectLog
from dunlin.store.tables import Base
from dunlin.work.folder import folder_on
from dunlin.work.judging import shots_of, waivers_in


def upgrade(engine: Engine, revision: str) -> None:
    config = Config()
    config.set_main_option("script_location", str(Path(database.__file__).parent / "migrations"))
    with engine.connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
        connection.commit()


def test_a_folder_of_the_first_version_keeps_its_captions(tmp_path: Path) -> None:
    engine = open_database(tmp_path)
    upgrade(engine, "0001")
    with engine.begin() as connection:
        connection.execute(text(
            "INSERT INTO projects (id, title, created_ms, opened_ms, spec_id)"
            " VALUES ('p', 'Fog', 1, 1, 'streaming')"
        ))  # fmt: skip
        connection.execute(text(
            "INSERT INTO tracks (id, project_id, name, language, revision)"
            " VALUES ('t', 'p', '', 'en', 0)"
        ))  # fmt: skip
        spans = json.dumps(
            [{"text": "Hark", "italic": False, "bold": False, "underline": False, "colour": None}]
        )
        connection.execute(
            text(
                "INSERT INTO captions (track_id, id, in_ms, out_ms, spans) VALUES ('t', 'a', 0, 900, :spans)"
            ),
            {"spans": spans},
        )
    migrate(engine)
    track, _ = ProjectLog(engine).track("t")
    assert list(track) == [Caption("a", 0, 900, spans_of("Hark"))]
    engine.dispose()


def test_the_migrations_lead_to_the_tables(tmp_path: Path) -> None:
    engine = open_database(tmp_path)
    migrate(engine)
    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
    engine.dispose()


def test_a_folder_from_before_the_log_of_projects_opens_undo_included(tmp_path: Path) -> None:
    """The data folder was made by the version before, through its API: edits, one of them undone, a
    waiver, two specs, a transcript, speakers, terms, shot changes, and captions made of words."""
    dump = Path(__file__).parent / "data" / "before-the-project-log.sql"
    with closing(sqlite3.connect(tmp_path / "dunlin.db")) as database:
        database.executescript(dump.read_text("utf-8"))
    engine = open_database(tmp_path)
    migrate(engine)
    here = folder_on(engine, Settings(data=tmp_path))
    (project,) = here.projects.all()
    assert (project.title, project.spec_id) == ("The Fog Bell", "broadcast")
    assert [(t.name, t.language, t.spec_id) for t in project.tracks] == [
        ("", "en", None), ("Deutsch", "de", "cjk"),
    ]  # fmt: skip
    assert [s["name"] for s in project.speakers] == ["Ilse Varga", "Tobit Ahlund"]
    assert project.terms == ("Quillan Point", "Ternholm")
    assert shots_of(here, project.film) == (0, 1480)
    assert [w.text for w in here.words.of(project.id, project.words_run)] == ["Hark,", "the", "fog"]
    first, second = project.tracks
    track, _ = here.log.track(first.id)
    assert [(c.text, c.in_ms, c.locked) for c in track] == [
        ("Hark, the fog", 0, False), ("Ring the bell", 1040, False), ("Twice", 2000, True),
    ]  # fmt: skip
    assert waivers_in(here, project.id, first.id, track)["gap", "a"].reason == "as in the script"
    made, _ = here.log.track(second.id)
    assert all(caption.is_untouched for caption in made)
    # What was undone can be done again, and all of it taken back, by whoever asks.
    me, view = Author("me"), [captions_of(first.id)]
    assert here.log.redo(project.id, view, me)
    assert here.log.track(first.id)[0]["b"].spans == (Span("Ring it", bold=True),)
    while here.log.undo(project.id, view, me):
        pass
    assert list(here.log.track(first.id)[0]) == []
    while here.log.redo(project.id, view, me):
        pass
    assert here.log.track(first.id)[0]["a"].text == "Hark, the fog"
    engine.dispose()


def test_why_a_job_failed_is_told_as_it_was_said_before(tmp_path: Path) -> None:
    engine = open_database(tmp_path)
    upgrade(engine, "0007")
    with engine.begin() as connection:
        connection.execute(text(
            "INSERT INTO projects (id, created_ms, opened_ms, revision) VALUES ('p', 1, 1, 0)"
        ))  # fmt: skip
        connection.execute(text(
            "INSERT INTO jobs (id, project_id, kind, state, progress, step, parameters, error, attempts,"
            " cancel_asked, created_ms, version) VALUES"
            " ('j', 'p', 'burn', 'failed', 0, '', '{}', 'the film''s end is missing', 1, 0, 1, 1)"
        ))  # fmt: skip
    migrate(engine)
    error = Jobs(engine).get("j").error
    assert error is not None
    assert str(Message(**error)) == "the film's end is missing"
    engine.dispose()


def test_films_and_their_shots_stay_where_they_were(tmp_path: Path) -> None:
    engine = open_database(tmp_path)
    upgrade(engine, "0009")
    facts = json.dumps({"frame_rate": {"numerator": 25, "denominator": 1}, "duration_ms": 9000})
    with engine.begin() as connection:
        connection.execute(text(
            "INSERT INTO projects (id, created_ms, opened_ms, revision) VALUES ('p', 5, 6, 1)"
        ))  # fmt: skip
        connection.execute(
            text(
                "INSERT INTO films (project_id, label, size_bytes, facts, has_copy, sound_ends_ms)"
                " VALUES ('p', 'fog.mp4', 9, :facts, 1, 8990)"
            ),
            {"facts": facts},
        )
        connection.execute(text(
            "INSERT INTO records (project_id, address, key, value) VALUES ('p', 'shots', '1480', 'true')"
        ))  # fmt: skip
        connection.execute(text(
            "INSERT INTO targets (project_id, address, revision) VALUES ('p', 'shots', 1)"
        ))  # fmt: skip
        connection.execute(text(
            "INSERT INTO jobs (id, project_id, kind, state, progress, step, parameters, attempts,"
            " cancel_asked, created_ms, version) VALUES"
            " ('j', 'p', 'peaks', 'done', 1, '', '{}', 1, 0, 1, 1)"
        ))  # fmt: skip
    migrate(engine)
    here = folder_on(engine, Settings(data=tmp_path))
    film = here.projects.get("p").film
    assert (film.label, film.has_copy, film.sound_ends_ms, film.came_ms) == (
        "fog.mp4",
        True,
        8990,
        5,
    )
    assert here.film_file(film) == tmp_path / "films" / "p" / "original"
    assert shots_of(here, film) == (1480,)
    assert here.jobs.get("j").film_id == film.id
    with engine.connect() as connection:
        config = Config()
        config.set_main_option(
            "script_location", str(Path(database.__file__).parent / "migrations")
        )
        config.attributes["connection"] = connection
        command.downgrade(config, "0009")
        assert (
            connection.scalar(text("SELECT label FROM films WHERE project_id = 'p'")) == "fog.mp4"
        )
        assert connection.scalar(text("SELECT address FROM targets")) == "shots"
    engine.dispose()
