"""Unknown words: dotted where they stand, replaced and accepted by key."""

from typing import Any

import pytest

from tests.conftest import Films
from tests.server import Server, wait_for
from tests.ui.page import Page, captions_every

WRONG = "The keepr of Quillan"


@pytest.fixture
def project(page: Page, films: Films) -> dict[str, Any]:
    captions = captions_every(1500, 3, 1400)
    captions[1]["spans"] = [{"text": WRONG}]
    return page.new_project(films["short"], captions)


def stored(page: Page, project: dict[str, Any]) -> str:
    page.wait_saved()
    return page.stored(project)[1][2]


def test_a_suggestion_is_taken_and_a_name_accepted_by_key(
    page: Page, project: dict[str, Any]
) -> None:
    page.open_project(project)
    page.press("ARROW_DOWN", "ARROW_DOWN")
    page.wait_text("[data-unknown='keepr']", "keeper")
    page.find("[data-unknown='Quillan']")
    first = page.find("[data-unknown='keepr'] .suggestion.on").text
    page.press("Alt+p")
    wait_for(lambda: stored(page, project) == WRONG.replace("keepr", first), "the word replaced")
    wait_for(lambda: not page.all("[data-unknown='keepr']"), "nothing more of it")
    page.press("Alt+b")
    wait_for(lambda: not page.all("[data-unknown]"), "the name accepted")
    page.press("Ctrl+z")
    page.find("[data-unknown='Quillan']")


def test_what_the_limits_ask_is_dotted_in_every_caption(
    page: Page, server: Server, project: dict[str, Any]
) -> None:
    server.http.post("/api/specs", json={"id": "spelled", "name": "Spelled", "spelled": True})
    track = project["tracks"][0]["id"]
    server.http.patch(f"/api/tracks/{track}", json={"spec_id": "spelled"}).raise_for_status()
    page.open_project(project)
    dotted = "return [...document.querySelectorAll('.card .unknown')].map((one) => one.textContent)"
    wait_for(lambda: page.script(dotted) == ["keepr", "Quillan"], "the dots")
    # Accepted in another window, for all.
    body = {"word": "Quillan", "language": "en"}
    server.http.put(f"/api/projects/{project['id']}/dictionary/house", json=body)
    wait_for(lambda: page.script(dotted) == ["keepr"], "the name accepted")
