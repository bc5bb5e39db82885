"""Versions of a track: a window over the film that is moved by key and by hand, what they leave out, and how they are burned."""

from typing import Any

import av
import pytest
from selenium.webdriver import ActionChains
from selenium.webdriver.support.ui import Select

from tests.conftest import Films
from tests.server import Server, wait_for
from tests.ui.page import Page, captions_every

OTHER = {"Dunlin-Person": "other", "Dunlin-Window": "other"}


@pytest.fixture
def short(page: Page, films: Films) -> Page:
    """The short film in short form, in a track of its own."""
    project = page.new_project(films["short"], captions_every(1500, 4))
    page.open_project(project, "style?view=short")
    page.find("[data-short-beside]")
    page.find("[data-look]")
    page.press("n")
    page.find("[data-word]")
    wait_for(lambda: "Vertical" in page.find("[data-spec]").text, "a spec of short ones")
    page.wait_saved()
    return page


def tracks(page: Page) -> list[dict[str, Any]]:
    project = page.browser.current_url.split("/project/")[1].split("/")[0]
    return page.server.get(f"/api/projects/{project}")["tracks"]


def versions(page: Page) -> list[dict[str, Any]]:
    return page.server.get(f"/api/tracks/{tracks(page)[-1]['id']}/versions")["versions"]


def version(page: Page) -> dict[str, Any]:
    page.wait_saved()
    return versions(page)[0]["version"]


def new_upright(page: Page) -> None:
    page.press("Shift+N")
    page.find("[data-version-panel]")
    wait_for(lambda: page.find("video").get_dom_attribute("style"), "the film behind its window")


def left_of_film(page: Page) -> float:
    return float(
        page.browser.execute_script("return parseFloat(document.querySelector('video').style.left)")
    )


def test_short_form_in_a_track_of_its_own_leaves_the_captions_there_as_they_are(
    short: Page, server: Server
) -> None:
    plain, own = tracks(short)
    before = server.get(f"/api/tracks/{plain['id']}")["captions"]
    assert len(before) == 4
    assert plain["style"] is None
    assert own["name"] == "Short form"
    assert own["style"] == "Tide coming in"
    file = server.http.get(f"/api/tracks/{plain['id']}/file", params={"format": "srt"}).text
    assert file.count("-->") == 4
    short.press("Ctrl+z")
    short.find("[data-short-begin]")


def test_a_window_is_moved_held_and_forgotten_by_key(short: Page) -> None:
    new_upright(short)
    assert version(short)["shape"] == "9:16"
    middle = left_of_film(short)
    short.press("]", "]", "}")
    assert version(short)["moments"] == [{"at_ms": 0, "x": 0.62, "y": 0.5, "comes": "cut"}]
    assert left_of_film(short) < middle
    short.press("ARROW_DOWN", "ARROW_DOWN")
    short.press("w", "{")
    first, second = version(short)["moments"]
    assert (first["x"], second["x"]) == (0.62, 0.52)
    assert second["at_ms"] > 1000
    there = left_of_film(short)
    short.press("Ctrl+ARROW_LEFT")
    wait_for(lambda: left_of_film(short) < there, "the window as it was before")
    short.press("Ctrl+ARROW_RIGHT", "c")
    assert version(short)["moments"][1]["comes"] == "glide"
    short.press("Shift+W")
    assert len(version(short)["moments"]) == 1
    short.press("Ctrl+z")
    wait_for(lambda: len(version(short)["moments"]) == 2, "the moment back")


def test_a_hand_on_the_picture_takes_the_film_along_and_stores_that_once(short: Page) -> None:
    new_upright(short)
    short.wait_saved()
    hand = short.find("[data-window-hand]")
    before = left_of_film(short)
    actions = ActionChains(short.browser, duration=30)
    actions.move_to_element(hand).click_and_hold()
    for _ in range(5):
        actions.move_by_offset(12, 0)
    actions.release().perform()
    wait_for(lambda: left_of_film(short) > before, "the film to come along")
    assert version(short)["moments"][0]["x"] < 0.5
    # One gesture, however far it went.
    short.press("Ctrl+z")
    wait_for(lambda: version(short)["moments"] == [], "it to be taken back")
    wait_for(lambda: left_of_film(short) == pytest.approx(before), "the film where it was")


def test_captions_stand_elsewhere_and_are_left_out_in_the_version_alone(
    short: Page, server: Server
) -> None:
    new_upright(short)
    own = tracks(short)[-1]["id"]
    before = server.get(f"/api/tracks/{own}")["captions"]
    short.press("p", "PAGE_UP", "PAGE_UP")
    short.wait_saved()
    apart = wait_for(lambda: versions(short)[0]["apart"], "what differs")
    assert apart[before[0]["id"]]["placement"]["y"] == pytest.approx(0.62)
    short.press("ARROW_DOWN", "Shift+X")
    hidden = next(c["id"] for c in before if c["in_ms"] > before[0]["in_ms"])
    wait_for(lambda: versions(short)[0]["apart"].get(hidden, {}).get("hidden"), "one left out")
    short.find(".line.hidden")
    assert server.get(f"/api/tracks/{own}")["captions"] == before
    short.press("Shift+V")
    wait_for(lambda: not short.all(".line.hidden"), "the film's own picture")


def test_what_another_window_did_to_a_version_is_seen_and_not_written_over(
    short: Page, server: Server
) -> None:
    new_upright(short)
    own, [view] = tracks(short)[-1]["id"], versions(short)
    address = f"/api/tracks/{own}/versions/{view['id']}"
    moved = {**view["version"], "moments": [{"at_ms": 0, "x": 0.3}]}
    body = {"base_revision": 10**6, "gesture": "elsewhere", "version": moved}
    assert server.http.put(address, json=body, headers=OTHER).status_code == 200
    wait_for(lambda: "30 %" in short.find("[data-version-panel]").text, "the window of the other")
    short.press("]")
    assert version(short)["moments"][0]["x"] == 0.31
    server.http.delete(address, headers=OTHER)
    wait_for(lambda: not short.all("[data-version-panel]"), "the film's own picture")


def test_a_version_is_burned_from_deliver_in_its_own_size_and_in_the_look_taken_last(
    short: Page, server: Server
) -> None:
    new_upright(short)
    short.press("q", "Alt+6")
    Select(short.find("[data-picture]")).select_by_visible_text("Upright")
    short.find("h2").click()
    short.press("b")
    short.find("[data-job=burn][data-state=done]")
    [own] = [track for track in tracks(short) if track["name"]]
    assert own["style"] == "Torn strip"
    project = server.get("/api/projects")[0]
    [job] = [job for job in project["jobs"] if job["kind"] == "burn"]
    assert job["result"]["revision"] == server.get(f"/api/tracks/{own['id']}")["revision"]
    assert "Upright" in short.find("[data-job=burn]").text
    address = short.find("[data-download]").get_attribute("href")
    answer = server.http.get(address)
    assert "Upright.mp4" in answer.headers["content-disposition"]
    made = short.server.data / "burned.mp4"
    made.write_bytes(answer.content)
    with av.open(str(made)) as film:
        picture = film.streams.video[0]
        size = versions(short)[0]["picture"]
        assert (picture.width, picture.height) == (size["width"], size["height"])
