"""All captions as one page of text: words go where they are typed to, with their times."""

import pytest

from tests.server import wait_for
from tests.ui.page import Page
from tests.ui.test_score import stored

CAPTIONS = [
    {"id": f"c{n}", "in_ms": n * 2000, "out_ms": n * 2000 + 1600, "spans": [{"text": text}]}
    for n, text in enumerate(["The fog bell\nrang all night", "and nobody came", "to the harbour"])
]
SECOND, THIRD = (2000, 3600, "and nobody came"), (4000, 5600, "to the harbour")


@pytest.fixture
def project(page: Page, films):
    project = page.new_project(films["short"], CAPTIONS)
    page.open_project(project, "transcribe")
    page.press("c")
    page.wait_text("[data-writing] p", "to the harbour")
    page.press("ENTER")
    wait_for(lambda: page.script("return document.activeElement.isContentEditable"), "the cursor")
    return project


def blocks(page: Page) -> list[str]:
    return page.script(
        "return [...document.querySelectorAll('[data-writing] p')].map((p) => p.textContent)"
    )


def test_a_caption_is_parted_and_joined_with_its_words_times(page: Page, project) -> None:
    page.place_cursor("ARROW_DOWN", "HOME")
    page.press("ENTER")
    assert blocks(page)[0] == "The fog bell\nrang all night"
    page.press("Ctrl+ENTER")
    assert blocks(page)[:2] == ["The fog bell", "rang all night"]
    wait_for(lambda: len(page.stored(project)) == 4, "the caption to be parted")
    (a_in, a_out, _), (b_in, b_out, b_text) = page.stored(project)[:2]
    assert (a_in, b_out, b_text) == (0, 1600, "rang all night")
    assert 500 < a_out <= b_in - 80 < 900
    # The time beside it comes from the server.
    page.wait_text("[data-facts] h3", "0:00.")
    page.press("BACKSPACE")
    stored(page, project, [(0, 1600, "The fog bell\nrang all night"), SECOND, THIRD])
    page.press("BACKSPACE")
    stored(page, project, [(0, 1600, "The fog bell rang all night"), SECOND, THIRD])


def test_undo_is_that_of_the_track_and_takes_back_what_was_just_typed(page: Page, project) -> None:
    page.place_cursor("END")
    page.type(" loud")
    page.press("Ctrl+z")
    wait_for(lambda: blocks(page)[0] == "The fog bell\nrang all night", "the page as it was")
    stored(page, project, [(0, 1600, "The fog bell\nrang all night"), SECOND, THIRD])
    page.press("Ctrl+Shift+z")
    wait_for(lambda: blocks(page)[0] == "The fog bell loud\nrang all night", "the word again")
    stored(page, project, [(0, 1600, "The fog bell loud\nrang all night"), SECOND, THIRD])


def test_what_is_typed_at_the_end_is_a_caption_of_its_own(page: Page, project) -> None:
    page.place_cursor("Ctrl+END")
    page.press("Ctrl+ENTER")
    page.type("ring it again")
    wait_for(lambda: len(page.stored(project)) == 4, "the new caption")
    in_ms, out_ms, text = page.stored(project)[3]
    assert (in_ms, text) == (5680, "ring it again")
    assert 900 <= out_ms - in_ms <= 1200
    page.press("ESCAPE", "t")
    page.find("[data-recognise], .none, [data-transcript]")


def test_another_window_is_followed(page: Page, project) -> None:
    page.press("ESCAPE")
    page.server.post(
        f"/api/tracks/{project['tracks'][0]['id']}/edits",
        json={"base_revision": 1, "gesture": "there",
              "operation": {"kind": "change-captions", "changes": [{"caption": "c1", "text": "but nobody came"}]}},
    )  # fmt: skip
    wait_for(lambda: blocks(page)[1] == "but nobody came", "what was written there")
    page.press("ENTER")
    page.place_cursor("Ctrl+END")
    page.type("!")
    stored(
        page, project,
        [(0, 1600, CAPTIONS[0]["spans"][0]["text"]), (2000, 3600, "but nobody came"),
         (4000, 5600, "to the harbour!")],
    )  # fmt: skip


def test_all_taken_away_and_written_anew(page: Page, project) -> None:
    page.place_cursor("Ctrl+a")
    page.press("BACKSPACE")
    wait_for(lambda: page.stored(project) == [], "nothing to be left")
    page.wait_text(".empty", "Write here")
    page.type("Once more")
    wait_for(lambda: [text for _, _, text in page.stored(project)] == ["Once more"], "the caption")
    assert page.stored(project)[0][0] == 0


def test_what_is_typed_as_soon_as_the_page_is_there_is_stored(page: Page, project) -> None:
    # As quick as this a hand is on a quick machine alone: the page's clock begins anew.
    page.script(
        "const now = performance.now.bind(performance), begin = now();"
        "performance.now = () => now() - begin"
    )
    page.place_cursor("END")
    page.type(" loud")
    stored(page, project, [(0, 1600, "The fog bell loud\nrang all night"), SECOND, THIRD])
