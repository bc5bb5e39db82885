"""One project in several windows: no word is lost without being shown, and little is sent for it."""

import io

import numpy as np
import pytest
from PIL import Image

from tests.server import wait_for
from tests.ui.page import Page, captions_every


@pytest.fixture
def project(page: Page, films) -> dict:
    project = page.new_project(films["short"], captions_every(2000, 4))
    page.open_project(project)
    return project


def write_first(page: Page, words: str) -> None:
    page.press("ARROW_DOWN", "ENTER")
    page.find("textarea")
    page.press("Ctrl+a")
    page.type(words)
    page.press("ESCAPE")


TOBIT = {"Dunlin-Person": "tobit"}


def elsewhere(page: Page, project: dict, *changes: dict) -> None:
    """An edit of somebody else."""
    track = project["tracks"][0]["id"]
    now = page.server.get(f"/api/tracks/{track}")["revision"]
    operation = {"kind": "change-captions", "changes": changes}
    body = {"base_revision": now, "gesture": f"g{now}", "operation": operation}
    page.server.post(f"/api/tracks/{track}/edits", json=body, headers=TOBIT)


def test_words_that_were_refused_are_shown_and_written_over_when_wanted(
    page: Page, project
) -> None:
    with page.offline():
        write_first(page, "Mine, typed offline")
        page.wait_text("[data-unsaved]", "Dunlin cannot be reached")
        elsewhere(page, project, {"caption": "c00000", "text": "Theirs"})
    page.wait_text("[data-refused]", "Mine, typed offline")
    page.wait_text(".card", "Theirs")
    assert page.stored(project)[0][2] == "Theirs"
    page.click("[data-again]")
    wait_for(lambda: page.stored(project)[0][2] == "Mine, typed offline", "the words again")
    wait_for(lambda: not page.all("[data-refused]"), "nothing to be left")


def test_leaving_for_another_project_forgets_no_edit(page: Page, project, films) -> None:
    other = page.new_project(films["short"], captions_every(2000, 2))
    with page.offline():
        write_first(page, "Typed before leaving")
        page.wait_text("[data-saved]", "Not saved")
        # Within the page, as a link does it; nothing is loaded anew.
        page.script(
            "document.querySelector('#app').__vue_app__.config.globalProperties.$router.push(arguments[0])",
            f"/project/{other['id']}/time",
        )
        wait_for(lambda: page.script("return location.pathname").startswith(f"/project/{other['id']}"), "the other project")  # fmt: skip
    wait_for(lambda: page.stored(project)[0][2] == "Typed before leaving", "the edit to arrive")
    assert [text for *_, text in page.stored(other)] == [
        "Caption 1 says this\nand a little more", "Caption 2 says this\nand a little more",
    ]  # fmt: skip


def test_an_edit_that_somebody_built_on_is_not_undone_but_shown(page: Page, project) -> None:
    write_first(page, "Mine")
    page.wait_saved()
    elsewhere(page, project, {"caption": "c00000", "speaker": "Edda"})
    page.press("ARROW_DOWN", "Ctrl+z")
    page.wait_text("[data-in-the-way]", "Somebody else changed this")
    page.server.http.put("/api/people/me", json={"name": "Tobit Aune"}, headers=TOBIT)
    page.wait_text("[data-in-the-way]", "Tobit Aune changed this")
    assert page.stored(project)[0][2] == "Mine"
    page.click("[data-in-the-way] button")
    wait_for(lambda: page.current() == "c00000", "the caption to be gone to")


def test_a_person_says_what_they_are_called(page: Page) -> None:
    page.open("/")
    page.click("[data-your-name] input")
    page.type("Ilse Ternholm")
    page.press("ENTER")
    person = page.script("return localStorage.getItem('dunlin.person')")
    named = {"id": person, "name": "Ilse Ternholm"}
    wait_for(lambda: named in page.server.get("/api/people"), "the name")
    page.browser.refresh()
    field = page.find("[data-your-name] input")
    wait_for(lambda: field.get_attribute("value") == "Ilse Ternholm", "the name to stay")


def requests_since(page: Page, mark: int) -> list[str]:
    return page.script(
        "return performance.getEntriesByType('resource').slice(arguments[0]).map((e) => new URL(e.name).pathname)",
        mark,
    )


def test_a_drag_is_few_requests_one_step_and_nothing_is_read_again(page: Page, project) -> None:
    page.card(3)
    # What is found out about the film is told, and read.
    page.server.wait_idle()
    # What is known of a caption that one goes to is read then.
    page.card(2).click()
    wait_for(lambda: any(path.endswith("/spelling") for path in requests_since(page, 0)), "it read")
    mark = page.script("return performance.getEntriesByType('resource').length")
    page.drag(page.card(2), 60, at_y=0)
    page.wait_saved()
    sent = requests_since(page, mark)
    edits = [path for path in sent if path.endswith("/edits")]
    # At most one for each move of the hand; what waits is replaced by what comes after it.
    assert 1 <= len(edits) <= 7
    assert [path for path in sent if path not in edits] == []
    before = page.stored(project)
    page.press("Ctrl+z")
    wait_for(lambda: page.stored(project) != before, "the whole drag to be taken back")
    assert page.stored(project)[1][:2] == (2000, 3600)


def test_of_thousands_of_captions_only_what_is_in_sight_is_drawn(page: Page, films) -> None:
    page.open_project(page.new_project(films["short"], captions_every(1200, 3000, 1000)))
    page.card(1)
    page.wait_text(".figures", "3000 captions")
    assert page.script("return document.querySelectorAll('.card').length") < 60
    page.press("-", "-", "-", "-", "-")
    wait_for(lambda: page.all(".card.rows"), "rows")
    assert page.script("return document.querySelectorAll('.card').length") < 120
    page.script("const page = document.querySelector('.page'); page.scrollTop = page.scrollHeight")
    wait_for(lambda: page.all("[data-number='3000']"), "the last caption")
    assert page.script("return document.querySelectorAll('.card').length") < 120


def test_a_style_that_is_changed_elsewhere_is_seen_here_at_once(page: Page, films) -> None:
    project = page.new_project(films["short"], captions_every(3000, 2, 3000))
    page.open_project(project)
    page.card(1)
    address, track = f"/api/projects/{project['id']}/styles", project["tracks"][0]["id"]

    def drawn(colour: tuple[int, int, int]) -> bool:
        picture = Image.open(io.BytesIO(page.find(".frame").screenshot_as_png)).convert("RGB")
        pixels = np.asarray(picture).astype(int)
        return bool((np.abs(pixels - colour).max(axis=2) < 40).sum() > 100)

    for look, colour in (
        ({"colour": "#FF00FF"}, (255, 0, 255)),
        ({"colour": "#00FF00"}, (0, 255, 0)),
    ):
        assert not drawn(colour)
        page.server.http.put(f"{address}/Ours", json={"look": look}).raise_for_status()
        chosen = page.server.http.put(f"/api/tracks/{track}/default-style", json={"style": "Ours"})
        chosen.raise_for_status()
        wait_for(lambda colour=colour: drawn(colour), f"captions in {look}")
    page.server.http.post(f"/api/projects/{project['id']}/undo", json={"targets": ["styles"]})
    wait_for(lambda: drawn((255, 0, 255)), "the style as it was")
