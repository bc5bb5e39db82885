"""Films that come after their captions, and films in the place of others."""

from pathlib import Path

import pytest

from tests.conftest import DEMO
from tests.media.test_tracks_inside import with_tracks
from tests.server import Server, wait_for
from tests.ui.page import Page, captions_every

SRT = "1\n00:00:01,000 --> 00:00:02,500\nThe lamp is out.\n\n2\n00:00:03,000 --> 00:00:04,000\nAgain?\n"


@pytest.fixture
def captions_file(tmp_path: Path) -> Path:
    path = tmp_path / "lamp.de.srt"
    path.write_text(SRT)
    return path


def shown_film(page: Page) -> str:
    """Where the page gets the film from that it shows."""
    return page.script("return document.querySelector('.frame video').getAttribute('src') || ''")


def test_a_caption_file_begins_a_project_and_the_film_comes_later(
    page: Page, server: Server, films, captions_file: Path
) -> None:
    page.open("/")
    page.find("input[type=file]").send_keys(str(captions_file))
    page.wait_text(".preview", "The lamp is out.")
    page.find("[data-take-in]:enabled")
    page.press("TAB")
    page.click("[data-take-in]")
    page.card(2)
    project = next(p for p in server.get("/api/projects") if p["title"] == "lamp.de")
    assert (project["tracks"][0]["language"], project["film"]["id"]) == ("de", "")
    # It is written and timed in already.
    page.press("ARROW_DOWN", "ENTER")
    page.find("textarea")
    page.press("END")
    page.type(" All of it.")
    page.press("ESCAPE")
    wait_for(lambda: page.stored(project)[0][2] == "The lamp is out. All of it.", "the words")
    before = page.stored(project)
    page.press("Ctrl+Shift+o")
    page.find("[data-film-panel]")
    page.find("[data-film-file]").send_keys(str(films["short"]))
    page.find("[data-new-film]")
    wait_for(lambda: shown_film(page), "the film to be shown")
    assert page.stored(project) == before
    page.press("ESCAPE")
    wait_for(lambda: not page.all("[data-film-panel]"), "the panel to be closed")
    page.press("Space")
    wait_for(lambda: page.clock() > "00:00:00.200", "the film to play")


def test_another_film_comes_in_place_in_all_windows_and_the_first_comes_back(
    page: Page, server: Server, films
) -> None:
    project = page.new_project(films["short"], captions_every(2000, 3))
    page.open_project(project)
    first = wait_for(lambda: shown_film(page), "the first film")
    stood = page.stored(project)
    page.press("Ctrl+Shift+o")
    page.find("[data-film-file]").send_keys(str(films["silent"]))
    page.find("[data-new-film]")
    second = wait_for(lambda: shown_film(page) != first and shown_film(page), "the second film")
    # A window of somebody else puts the first back; this one follows.
    server.http.put(
        f"/api/projects/{project['id']}/film", json={"film_id": project["film"]["id"]},
        headers={"Dunlin-Person": "tobit"},
    )  # fmt: skip
    wait_for(lambda: shown_film(page) == first, "the first film to be shown again")
    page.click("[data-show-again]")
    wait_for(lambda: shown_film(page) == second, "the second film to be shown again")
    assert page.stored(project) == stood


def test_what_is_no_film_is_told_and_the_film_stays(page: Page, films, tmp_path: Path) -> None:
    project = page.new_project(films["short"], captions_every(2000, 1))
    page.open_project(project)
    first = wait_for(lambda: shown_film(page), "the film")
    wrong = tmp_path / "notes.mp4"
    wrong.write_text("no film")
    page.press("Ctrl+Shift+o")
    page.find("[data-film-file]").send_keys(str(wrong))
    page.wait_text("[data-film-panel] .problem", "notes.mp4 was not imported")
    assert shown_film(page) == first


def test_nothing_is_needed_to_begin(page: Page, server: Server) -> None:
    page.open("/")
    page.click("[data-begin-with-nothing]")
    page.find(".none")
    page.press("n")
    page.find("textarea")
    page.type("A first line")
    page.press("ESCAPE")
    project = next(p for p in server.get("/api/projects") if p["title"] == "Untitled")
    wait_for(lambda: [c[2] for c in page.stored(project)] == ["A first line"], "the line")


def test_of_several_files_the_best_for_the_sound_comes_first(
    page: Page, server: Server, tmp_path: Path
) -> None:
    demo = server.get("/api/projects/the-fog-bell-at-quillan-point")
    server.wait_for_job(demo["id"], "speech", "done")
    right = tmp_path / "fog.json"
    right.write_bytes((DEMO / "fog-bell.en.json").read_bytes())
    other = tmp_path / "another.srt"
    other.write_text(SRT)
    page.open_project(demo, "bring-in")
    page.find("[data-captions-file]").send_keys(f"{other}\n{right}")
    page.wait_text("[data-candidate='fog.json']", "on speech")
    page.wait_text("[data-candidate='another.srt']", "does not match the sound")
    assert page.all("[data-candidate]")[0].get_attribute("data-candidate") == "fog.json"
    assert page.find("[data-candidate='fog.json']").get_attribute("aria-pressed") == "true"


def test_caption_tracks_that_a_film_brings_along_are_taken_in_by_keys(
    page: Page, films, tmp_path: Path
) -> None:
    project = page.new_project(with_tracks(films["short"], "mp4", tmp_path))
    page.open_project(project)
    page.press("Ctrl+Shift+o")
    page.wait_text("[data-tracks-brought]", "German")
    page.press("Shift+TAB")
    page.press("SPACE")
    page.wait_text("[data-tracks-taken]", "2 tracks were taken in")
    tracks = page.server.get(f"/api/projects/{project['id']}")["tracks"]
    assert [track["language"] for track in tracks] == ["en", "en", "de"]
