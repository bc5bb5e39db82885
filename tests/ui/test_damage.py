"""A project that cannot be read any more: told in the list and where it is opened, kept and removed from there."""

import sqlite3
import zipfile
from contextlib import closing
from pathlib import Path

from tests.server import Server, wait_for
from tests.ui.page import Page, captions_every


def damage(server: Server, project: dict) -> None:
    with closing(sqlite3.connect(server.data / "dunlin.db")) as database, database:
        changed = database.execute(
            "UPDATE records SET value = '[1, 2]' WHERE project_id = ? AND address = 'tracks'",
            [project["id"]],
        )
        assert changed.rowcount


def test_a_damaged_project_is_told_kept_and_removed(
    page: Page, server: Server, films, downloads: Path
) -> None:
    project = page.new_project(films["short"], captions_every(900, 3))
    server.wait_idle()
    damage(server, project)
    page.open(f"/project/{project['id']}/time")
    page.find(".missing [data-rescue]")

    page.open("/")
    row = page.find("[data-damaged]")
    assert "it cannot be opened" in row.text
    page.click("[data-damaged] [data-rescue]")
    saved = wait_for(lambda: [*downloads.glob("*.zip")], "the ZIP file")[0]
    with zipfile.ZipFile(saved) as files:
        assert files.testzip() is None
        assert any(name.endswith(".json") for name in files.namelist())
    page.click("[data-damaged] > button")
    page.click("[data-damaged] .sure button")
    wait_for(lambda: not page.all("[data-damaged]"), "the project to be gone")
    assert server.get("/api/damaged-projects") == []
