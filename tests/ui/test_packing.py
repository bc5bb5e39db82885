"""The packing list of Deliver, by keys: begun, filled, made, out of date, made anew, handed over."""

import io
import json
import zipfile
from collections.abc import Iterator
from pathlib import Path

import av
import pytest

from tests.server import Server, wait_for
from tests.ui.conftest import WITH_WINDOWS, open_browser
from tests.ui.page import Page, captions_every
from tests.ui.test_access import violations, violations_by_day_and_night


def state(page: Page, place: int) -> str:
    return page.all("[data-item]")[place].get_attribute("data-state")


def added(page: Page, offer: str) -> None:
    """Puts something on the list as a person does: the key, the arrows, Enter."""
    before = len(page.all("[data-item]"))
    page.press("a")
    page.find("[data-adding] button:focus")
    for _ in range(40):
        if page.browser.switch_to.active_element.get_attribute("data-offer") == offer:
            break
        page.press("ARROW_DOWN")
    page.press("ENTER")
    wait_for(lambda: len(page.all("[data-item]")) == before + 1, offer)


def delivery(page: Page, project) -> dict:
    address = f"/api/projects/{project['id']}/deliveries"
    [named] = page.server.get(address)["deliveries"]
    return page.server.get(f"{address}/{named['id']}")


def test_a_list_is_begun_made_and_made_anew_by_keys(page: Page, project) -> None:
    page.open_project(project, "deliver")
    page.find("[data-list-begin]")
    page.press("n")
    page.find("[data-list-name]")
    for offer in ("srt", "webvtt", "otio", "report"):
        added(page, offer)
    page.press("m")
    wait_for(lambda: [state(page, n) for n in range(4)] == ["same"] * 4, "all to be made")
    made = delivery(page, project)
    assert all(item["made"] for item in made["items"])
    # In another window a caption is written otherwise: the files say so, and only they are made anew.
    change = {"kind": "change-captions", "changes": [{"caption": "c00001", "text": "Fog"}]}
    body = {"base_revision": 10_000, "gesture": "fog", "operation": change}
    track = project["tracks"][0]["id"]
    page.server.post(f"/api/tracks/{track}/edits", json=body)
    wait_for(lambda: state(page, 0) == state(page, 2) == "open", "what is out of date")
    page.wait_text("[data-item]", "1 caption changed since")
    page.press("ARROW_UP")
    page.press("ARROW_UP")
    page.press("ARROW_UP")
    page.press("x")
    wait_for(lambda: state(page, 0) == "out", "the first to be left out")
    page.press("m")
    wait_for(
        lambda: [state(page, n) for n in range(1, 4)] == ["same"] * 3, "the rest to be made anew"
    )
    now = delivery(page, project)
    assert now["items"][0]["made"] == made["items"][0]["made"]
    assert now["items"][1]["made"]["sha256"] != made["items"][1]["made"]["sha256"]
    # What was left out can be taken in again by undo.
    page.press("Ctrl+z")
    wait_for(lambda: state(page, 0) == "open", "it to be back")
    address = f"/api/projects/{project['id']}/deliveries/{now['id']}/zip"
    archive = zipfile.ZipFile(io.BytesIO(page.server.http.get(address).content))
    assert len(archive.namelist()) == 4


def test_a_film_is_set_proved_and_made_by_keys(page: Page, project) -> None:
    page.open_project(project, "deliver")
    page.press("n")
    page.find("[data-list-name]")
    added(page, "burned")
    page.press("ENTER")
    page.find("[data-settings] select:focus")
    codec = page.find("[data-dial='codec']")
    page.browser.execute_script("arguments[0].focus()", codec)
    page.press("ARROW_DOWN")
    wait_for(
        lambda: delivery(page, project)["items"][0]["item"]["thing"]["encoding"]["codec"] == "hevc",
        "HEVC",
    )
    page.browser.execute_script("arguments[0].focus()", page.find("[data-dial='to']"))
    page.type("0:01\n")
    passage = {"from_ms": 0, "to_ms": 1000}
    wait_for(
        lambda: (
            delivery(page, project)["items"][0]["item"]["thing"]["encoding"]["passage"] == passage
        ),
        "a second",
    )
    page.press("ESCAPE")
    page.press("p")
    page.find("[data-proof][data-state=done]")
    page.press("m")
    wait_for(lambda: state(page, 0) == "same", "the film")
    made = delivery(page, project)
    address = (
        f"/api/projects/{project['id']}/deliveries/{made['id']}/items/{made['items'][0]['id']}/file"
    )
    with av.open(io.BytesIO(page.server.http.get(address).content)) as film:
        assert film.streams.video[0].codec_context.name == "hevc"
        assert abs(film.duration / 1_000_000 - 1) < 0.1


def test_the_text_of_a_file_is_shown_and_what_cannot_be_made_says_why(page: Page, project) -> None:
    page.open_project(project, "deliver")
    page.press("n")
    page.find("[data-list-name]")
    added(page, "srt")
    page.press("t")
    page.wait_text("[data-raw-text]", "00:00:00,000 --> 00:00:01,600")
    added(page, "transcript")
    wait_for(lambda: state(page, 1) == "missing", "no words to be told")
    page.wait_text("[data-item][data-state=missing]", "There is no transcript yet")


def test_a_list_is_kept_and_made_for_another_film(page: Page, project, films) -> None:
    other = page.new_project(films["short"], captions_every(1000, 2))
    page.server.http.patch(f"/api/projects/{other['id']}", json={"title": "Low Water"})
    page.open_project(project, "deliver")
    page.press("n")
    page.find("[data-list-name]")
    added(page, "srt")
    page.press("o")
    page.find(f"[data-film='{other['id']}']").click()
    page.click("[data-make-others]")
    page.wait_text("[data-met]", "Low Water")
    address = f"/api/projects/{other['id']}/deliveries"
    wait_for(lambda: page.server.get(address)["deliveries"], "the list there")
    [kept] = page.server.get("/api/packing-lists")
    file = json.loads(page.server.http.get(f"/api/packing-lists/{kept['id']}/file").content)
    assert file["items"][0]["thing"]["track"] == "original"


@pytest.fixture
def page_with_windows(server: Server, downloads: Path) -> Iterator[Page]:
    """A page of a browser that tells things on the desktop."""
    browser = open_browser(downloads, binary=WITH_WINDOWS)
    yield Page(browser, server)
    browser.quit()


def test_who_looks_elsewhere_is_told_by_the_browser_and_in_the_title(
    page_with_windows: Page, project
) -> None:
    page = page_with_windows
    page.open_project(project, "deliver")
    page.press("n")
    page.find("[data-list-name]")
    added(page, "srt")
    origin = page.server.url
    allow = {"permission": {"name": "notifications"}, "setting": "granted", "origin": origin}
    page.click("[data-notice]")
    page.browser.execute_cdp_cmd("Browser.setPermission", allow)
    page.browser.refresh()
    page.find("[data-list-name]")
    assert not page.all("[data-notice]")
    page.browser.execute_script(
        """
        window.told = []
        window.Notification = class extends Notification {
          constructor(title, more) { super(title, more); told.push([title, more.body]) }
        }
        document.hasFocus = () => false
        """
    )
    page.press("m")
    wait_for(lambda: state(page, 0) == "same", "the file")
    [told] = wait_for(lambda: page.browser.execute_script("return told"), "the notice")
    assert told == [project["title"], "Making the packing list: done"]
    assert page.browser.title.startswith("✓ Making the packing list: done")
    page.browser.execute_script("window.dispatchEvent(new Event('focus'))")
    wait_for(lambda: not page.browser.title.startswith("✓"), "the title as it was")


def test_axe_finds_nothing_serious_on_the_list_and_its_panels(page: Page, project) -> None:
    page.open_project(project, "deliver")
    page.press("n")
    page.find("[data-list-name]")
    page.press("a")
    page.find("[data-adding]")
    assert violations(page) == []
    page.press("ESCAPE")
    for offer in ("srt", "burned", "inside"):
        added(page, offer)
    assert violations_by_day_and_night(page) == []
    page.press("o")
    page.find("[data-other-films] [data-keep-list]")
    assert violations(page) == []
