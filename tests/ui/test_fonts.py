"""Fonts that are added from files, chosen, drawn, told when they are not there, and taken away."""

from pathlib import Path
from typing import Any

import pytest

from tests.faces import FAMILY, cut, wide
from tests.server import wait_for
from tests.ui.page import Page
from tests.ui.test_style import NUMBERS, captions, open_style, said, stored_when


@pytest.fixture
def lettered(page: Page, films) -> dict[str, Any]:
    """A project with a caption in a font that is not there, open in Style."""
    caption = {
        "id": "a", "in_ms": 0, "out_ms": 2000, "spans": [{"text": "AB ABC"}], "look": {"font": FAMILY},
    }  # fmt: skip
    project = page.new_project(films["short"], [caption])
    open_style(page, project)
    yield project
    page.server.http.delete(f"/api/fonts/{FAMILY}")


def give(page: Page, *files: Path) -> None:
    page.find("[data-font-file]").send_keys("\n".join(map(str, files)))


def width(page: Page) -> float:
    numbers = page.script(NUMBERS)
    return max(numbers[::2]) - min(numbers[::2])


def test_a_font_that_is_not_here_is_told_added_and_drawn(
    page: Page, lettered: dict[str, Any], tmp_path: Path
) -> None:
    page.wait_text("[data-font-missing]", f"{FAMILY} is not here; Noto Sans stands in for it.")
    before = width(page)
    (tmp_path / "board.otf").write_bytes(wide())
    give(page, tmp_path / "board.otf")
    page.wait_text("[data-stand-ins]", "Noto Sans")
    assert not page.all("[data-font-missing]")
    # Squares as wide as the line is high, four of them.
    wait_for(lambda: width(page) > before * 1.3, "the letters to be wider")
    page.press("t")
    added = page.find(f"[data-added-font='{FAMILY}']")
    assert page.find(f"[data-font='{FAMILY}']")
    remove = added.find_element("css selector", "[data-font-remove]")
    remove.click()
    wait_for(lambda: remove.text == "Remove for all projects?", "it to be asked again")
    remove.click()
    page.find("[data-font-missing]")
    wait_for(lambda: abs(width(page) - before) < 1, "the Latin letters")
    assert said(captions(page, lettered)[0]["look"]) == {"font": FAMILY}


def test_a_broken_font_says_so_and_another_window_has_what_was_added(
    page: Page, lettered: dict[str, Any], tmp_path: Path
) -> None:
    (tmp_path / "bad.ttf").write_bytes(b"<html>")
    give(page, tmp_path / "bad.ttf")
    page.wait_text("body", "bad.ttf: this is no font file")
    # As another window adds it.
    page.server.post("/api/fonts", content=cut(flavour="woff2"))
    wait_for(lambda: not page.all("[data-font-missing]"), "the font to come")
    select = page.find("[data-property=font]")
    wait_for(lambda: FAMILY in select.text, "it to be there to be chosen")
    stored_when(page, lettered, lambda c: said(c["look"]) == {"font": FAMILY}, "it to stay")
