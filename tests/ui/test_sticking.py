"""A caption stuck to something in the picture: marked, followed, put right, taken."""

from pathlib import Path
from typing import Any

import pytest

from tests.server import wait_for
from tests.signs import FIRST, LAST, place_at
from tests.ui.page import Page
from tests.ui.test_style import captions, drag, open_style, said, stored_when


@pytest.fixture
def on_sign(page: Page, sign_film: Path) -> dict[str, Any]:
    """A project with a caption over a sign; it is in hand, in the middle of its time."""
    x, y, _, turn = place_at(40)
    placed = {"anchor": "middle", "align": "center", "x": x / 1280, "y": y / 720}
    caption = {
        "id": "a", "in_ms": 1200, "out_ms": 2000, "spans": [{"text": "THE FOG BELL"}],
        "placement": placed, "look": {"turn": turn},
    }  # fmt: skip
    project = page.new_project(sign_film, [caption])
    open_style(page, project)
    return project


def stands(page: Page, project: dict[str, Any], at_ms: int) -> tuple[float, float, float]:
    track = project["tracks"][0]["id"]
    asked = {"captions": ["a"], "at_ms": at_ms}
    (look,) = page.server.post(f"/api/tracks/{track}/looks", json=asked)["captions"]
    return look["frame"]["x"], look["frame"]["y"], look["frame"]["turned"]


def mark_by_keys(page: Page) -> None:
    """Puts the box on the sign, which the letters stand on the middle of."""
    page.press("s")
    page.find("[data-mark-box]")
    for key in ("Ctrl+ARROW_DOWN",) * 6 + ("r",) * 11:
        page.press(key)


def test_a_caption_is_stuck_to_a_sign_by_keys_and_goes_along_with_it(
    page: Page, on_sign: dict[str, Any]
) -> None:
    mark_by_keys(page)
    page.press("ENTER")
    page.find("[data-stick=found]")
    page.press("Shift+ENTER")
    now = stored_when(page, on_sign, lambda c: said(c["look"]).get("moments"), "stuck")
    assert (now["in_ms"], now["out_ms"]) == (FIRST * 40, (LAST + 1) * 40)
    for frame in (FIRST, 70, LAST):
        x, y, _, turn = place_at(frame)
        assert stands(page, on_sign, frame * 40) == pytest.approx((x, y, turn), abs=2)
    wait_for(lambda: not page.all("[data-stick]"), "it to be left")
    page.press("Ctrl+z")
    stored_when(page, on_sign, lambda c: c["in_ms"] == 1200, "all of it taken back at once")


def test_the_box_is_drawn_on_the_picture_and_put_right_at_another_frame(
    page: Page, on_sign: dict[str, Any]
) -> None:
    page.press("s")
    page.find("[data-mark-box]")
    before = page.find("[data-mark-box]").get_attribute("points")
    drag(page, "[data-mark-corner='0']", -30, -30)
    wait_for(lambda: page.find("[data-mark-box]").get_attribute("points") != before, "it to grow")
    page.find("[data-stick-follow]").click()
    page.find("[data-stick=found]")
    for _ in range(3):
        page.press(".")
    drag(page, "[data-mark-box]", 12, 0)
    page.find("[data-stick=changed]")
    assert len(page.all("[data-stick-pin]")) == 2
    page.press("ENTER")
    page.find("[data-stick=found]")
    jobs = page.server.get(f"/api/projects/{on_sign['id']}")["jobs"]
    (newest, *_) = [job for job in jobs if job["kind"] == "follow"]
    assert [mark["frame"] for mark in newest["parameters"]["marks"]] == [40, 43]
    # What was marked is there again after it was left.
    page.press("ESCAPE")
    wait_for(lambda: not page.all("[data-stick]"), "it to be left")
    page.press("s")
    page.find("[data-stick=found]")
    page.press("DELETE")
    page.find("[data-stick=changed]")
    page.press("ESCAPE")
    assert said(captions(page, on_sign)[0]["look"]).get("moments") is None


def test_a_title_takes_the_first_and_last_frame_of_what_is_marked(
    page: Page, on_sign: dict[str, Any]
) -> None:
    mark_by_keys(page)
    page.press("ENTER")
    page.find("[data-stick=found]")
    page.press("t")
    now = stored_when(page, on_sign, lambda c: c["in_ms"] == FIRST * 40, "its times")
    assert now["out_ms"] == (LAST + 1) * 40
    assert said(now["look"]).get("moments") is None


def test_what_another_window_does_meanwhile_stays(page: Page, on_sign: dict[str, Any]) -> None:
    mark_by_keys(page)
    page.press("ENTER")
    page.find("[data-stick=found]")
    track = on_sign["tracks"][0]["id"]
    change = {"caption": "a", "text": "THE OLD BELL", "in_ms": 1600}
    page.server.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": 1, "gesture": "other",
              "operation": {"kind": "change-captions", "changes": [change]}},
    )  # fmt: skip
    page.wait_text("[data-card]", "THE OLD BELL")
    page.press("ENTER")
    now = stored_when(page, on_sign, lambda c: said(c["look"]).get("moments"), "stuck")
    assert (now["in_ms"], now["spans"][0]["text"]) == (1600, "THE OLD BELL")
    x, y, _, turn = place_at(48)
    assert stands(page, on_sign, 48 * 40) == pytest.approx((x, y, turn), abs=2)


def test_what_cannot_be_followed_says_why_and_can_be_marked_anew(page: Page, films) -> None:
    project = page.new_project(
        films["plain"], [{"id": "a", "in_ms": 0, "out_ms": 2000, "spans": [{"text": "Fog"}]}]
    )
    open_style(page, project)
    page.press("s")
    page.press("ENTER")
    page.wait_text("[data-stick]", "too plain to be told apart")
    assert page.find("[data-stick-follow]").is_enabled()
