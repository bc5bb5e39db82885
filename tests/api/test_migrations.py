"""Data folders of earlier versions."""

import json
from pathlib import Path

from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from sqlalchemy import Engine, text

import dunlin.store.database as database
from dunlin.core.captions import Caption, spans_of
from dunlin.store.database import migrate, open_database
from dunlin.store.edits import EditLog
from dunlin.store.tables import Base


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
    track, _ = EditLog(engine).track("t")
    assert list(track) == [Caption("a", 0, 900, spans_of("Hark"))]
    engine.dispose()


def test_the_migrations_lead_to_the_tables(tmp_path: Path) -> None:
    engine = open_database(tmp_path)
    migrate(engine)
    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
    engine.dispose()
