"""Typing by ear: passages repeat, Enter stores and goes on, work is taken up days later."""

import pytest
from selenium.webdriver.common.keys import Keys

from tests.server import wait_for
from tests.ui.page import Page

DEMO = "the-fog-bell-at-quillan-point"


@pytest.fixture
def untyped(page: Page):
    """The demo film in a track without captions."""
    project = next(one for one in page.server.get("/api/projects") if one["id"] == DEMO)
    track = page.server.post(
        f"/api/projects/{DEMO}/tracks", json={"name": "By ear", "language": "en"}
    )
    page.server.wait_idle()
    page.open_project(project, "transcribe")
    page.click("[data-track]")
    wait_for(lambda: [one for one in page.all(".v-list-item") if "By ear" in one.text],
             "the track in the menu")[0].click()  # fmt: skip
    wait_for(lambda: page.script("return document.querySelectorAll('.v-overlay--active').length") == 0,
             "the menu to close")  # fmt: skip
    page.press("b")
    page.wait_text("[data-ear-begin]", "Start")
    yield track["id"]
    page.server.http.delete(f"/api/tracks/{track['id']}")


def lines(page: Page, track: str) -> list[tuple[int, int, str]]:
    captions = page.server.get(f"/api/tracks/{track}")["captions"]
    return [(c["in_ms"], c["out_ms"], "".join(s["text"] for s in c["spans"])) for c in captions]


def passage(page: Page) -> str:
    return page.find(".ear .times").text.split(" ")[0]


def test_lines_are_typed_stored_at_their_speech_and_gone_on_from(page: Page, untyped) -> None:
    page.click("[data-ear-begin]")
    page.find("[data-ear-line]")
    first = passage(page)
    page.type("This is Quillan Point, on the last day of February.")
    page.press("ENTER")
    wait_for(lambda: passage(page) != first, "the next passage")
    [(in_ms, out_ms, text)] = lines(page, untyped)
    # Spoken from 6.600 to 9.9 s.
    assert abs(in_ms - 6600) < 120
    assert 9500 < out_ms < 10_400
    assert text == "This is Quillan Point,\non the last day of February."
    page.press("Alt+ARROW_UP")
    wait_for(lambda: passage(page) == first, "the passage before")
    page.press("Alt+ARROW_DOWN")
    wait_for(lambda: passage(page) != first, "the next passage again")
    page.press("ESCAPE")
    page.wait_text("[data-ear-begin]", "Go on from")
    page.press("ENTER")
    page.find("[data-ear-line]")
    assert passage(page) != first


def test_the_passage_is_repeated_until_it_is_typed(page: Page, untyped) -> None:
    page.click("[data-ear-begin]")
    page.find("[data-ear-line]")
    next(one for one in page.all(".dials [role=radio]") if one.text == "Fixed length").click()
    length = page.find("[data-ear-length]")
    length.send_keys(Keys.CONTROL, "a", Keys.NULL, "1")
    page.wait_text(".ear .times", "1.30 s")
    clocks = []
    wait_for(lambda: clocks.append(page.clock()) or (len(set(clocks)) > 4 and clocks[-1] < max(clocks)),
             "the clock to step back")  # fmt: skip
    page.find("[data-ear-line]").click()
    page.press("ESCAPE")
    page.find(".ear h2")
    stopped = page.clock()
    assert page.clock() == stopped


def test_the_passage_before_brings_its_line_back_to_be_edited(page: Page, untyped) -> None:
    page.click("[data-ear-begin]")
    page.find("[data-ear-line]")
    first = passage(page)
    page.type("This is Quillan")
    page.wait_text("[data-ear-figures]", "15 characters")
    page.press("ENTER")
    wait_for(lambda: passage(page) != first, "the next passage")
    page.type("I am Ilse")
    page.press("Alt+ARROW_UP")
    line = page.find("[data-ear-line]")
    wait_for(lambda: line.get_attribute("value") == "This is Quillan", "the stored line")
    page.press("END")
    page.type(" Point")
    page.press("ENTER")
    wait_for(lambda: [text for *_, text in lines(page, untyped)] == ["This is Quillan Point"],
             "one caption, written over")  # fmt: skip
    # What was begun for the next passage is still there, and undo takes back letters, not lines.
    wait_for(lambda: line.get_attribute("value") == "I am Ilse", "the line begun")
    page.press("Ctrl+z")
    assert len(lines(page, untyped)) == 1
