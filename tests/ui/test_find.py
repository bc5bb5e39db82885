"""Words found in captions and replaced, in one track or in all."""

from tests.server import wait_for
from tests.ui.page import Page


def texts(page: Page, project) -> list[str]:
    return [text for *_, text in page.stored(project)]


def test_hits_are_seen_first_and_replaced_as_one_step(page: Page, project) -> None:
    before = texts(page, project)
    page.press("ARROW_DOWN", "Ctrl+i", "Ctrl+f")
    page.type("caption")
    page.wait_text("[data-caption-find] [role=status]", "4 found")
    page.press("TAB")
    page.type("line")
    page.wait_text("[data-hit] ins", "line")
    page.wait_text("[data-number='2'] .hit ins", "line")
    assert texts(page, project) == before
    page.press("ENTER", "ENTER")
    page.wait_text("[data-caption-find] [role=status]", "2 of 4")
    assert page.current() == page.card(2).get_attribute("data-caption")
    page.click("[data-replace]")
    wait_for(lambda: texts(page, project)[1].startswith("line"), "the second to be replaced")
    assert texts(page, project)[0] == before[0]
    page.click("[data-replace-all]")
    wait_for(lambda: all(text.startswith("line") for text in texts(page, project)), "all")
    page.find("[data-number='1'] .italic")
    page.press("ESCAPE")
    wait_for(lambda: not page.all("[data-caption-find]"), "the search to close")
    assert not page.all(".card .hit")
    page.press("Ctrl+z")
    wait_for(lambda: texts(page, project)[2:] == before[2:], "all to come back at once")
    assert texts(page, project)[1].startswith("line")


def test_all_tracks_are_looked_through_by_choice(page: Page, project) -> None:
    server = page.server
    track = server.post(
        f"/api/projects/{project['id']}/tracks", json={"name": "", "language": "de"}
    )
    caption = {"id": "x", "in_ms": 0, "out_ms": 900, "spans": [{"text": "Caption auch hier"}]}
    server.post(
        f"/api/tracks/{track['id']}/edits",
        json={"base_revision": 0, "gesture": "g", "operation": {"kind": "insert-captions", "captions": [caption]}},
    )  # fmt: skip
    page.press("Ctrl+f")
    page.type("caption")
    page.wait_text("[data-caption-find] [role=status]", "4 found")
    page.find("[data-all-tracks]").click()
    page.wait_text("[data-caption-find] [role=status]", "5 found")
    page.find("[data-put]").send_keys("Zeile")
    page.wait_text("[data-hit] ins", "Zeile")
    page.click("[data-replace-all]")
    wait_for(lambda: all(text.startswith("Zeile") for text in texts(page, project)), "this track")
    [other] = server.get(f"/api/tracks/{track['id']}")["captions"]
    assert other["spans"][0]["text"] == "Zeile auch hier"


def test_a_wrong_pattern_is_told_at_once(page: Page, project) -> None:
    page.press("Ctrl+f")
    page.type("(")
    page.find("[data-caption-find] .options label:nth-child(3) input").click()
    page.wait_text("[data-caption-find] [role=status]", "not a regular expression")
