"""Keys are looked up and changed in the sheet, and every place that shows a key shows the one in force."""

import json
from pathlib import Path

import pytest

from tests.server import wait_for
from tests.ui.page import Page, captions_every


@pytest.fixture
def project(page: Page, films):
    project = page.new_project(films["short"], captions_every(2000, 3))
    page.open_project(project)
    page.card(1)
    page.press("ARROW_DOWN")
    yield project
    # The browser keeps keys, and is kept for the tests that follow.
    page.script("localStorage.removeItem('dunlin.keys')")


def keys_of(page: Page, command: str) -> list[str]:
    return page.script(
        "return [...document.querySelectorAll(`[data-key-row='${arguments[0]}'] [data-key]`)]"
        ".map((key) => key.dataset.key)",
        command,
    )


def shown_keys(page: Page) -> dict[str, str]:
    """What the status line says the keys do here."""
    return page.script(
        "return Object.fromEntries([...document.querySelectorAll('.status kbd')]"
        ".map((key) => [key.parentElement.textContent.replace(key.textContent, '').trim(), key.textContent]))"
    )


def open_sheet_at(page: Page, words: str) -> None:
    page.press("?")
    page.find("[data-find-key]")
    page.type(words)


def test_a_key_is_changed_by_keys_alone_and_shown_wherever_it_is(page: Page, project) -> None:
    assert shown_keys(page)["new"] == "N"
    open_sheet_at(page, "new caption at")
    wait_for(lambda: keys_of(page, "insert") == ["N", "Alt+N"], "the sheet to show the command")
    page.press("TAB", "ENTER", "v")
    wait_for(lambda: keys_of(page, "insert") == ["V", "Alt+N"], "the new key")
    assert page.script("return document.activeElement.dataset.key") == "V"
    page.press("ESCAPE", "ESCAPE")
    wait_for(lambda: not page.all("[data-find-key]"), "the sheet to close")
    assert shown_keys(page)["new"] == "V"
    page.press("END", "n")
    page.press("v")
    page.find("textarea")
    page.wait_saved()
    assert len(page.stored(project)) == 4
    page.open_project(project)
    wait_for(lambda: shown_keys(page).get("new") == "V", "the key to be kept")


def test_a_key_that_is_taken_is_told_and_given_only_when_asked(page: Page, project) -> None:
    open_sheet_at(page, "split at")
    page.click("[data-key-row='split'] [data-key='S']")
    page.press("m")
    assert "Merge" in page.find("[data-key-question] p").text
    page.click("[data-leave-key]")
    assert keys_of(page, "split") == ["S", "Alt+S"]
    page.click("[data-key-row='split'] [data-key='S']")
    page.press("m")
    page.click("[data-give]")
    wait_for(lambda: keys_of(page, "split") == ["M", "Alt+S"], "the key to be given")
    page.overwrite(page.find("[data-find-key]"), "merge with the next")
    wait_for(lambda: keys_of(page, "merge") == ["Alt+M"], "the key to be taken from the other")
    page.click("[data-reset='merge']")
    wait_for(lambda: keys_of(page, "merge") == ["M", "Alt+M"], "the key to come back")


def test_what_cannot_be_a_key_is_told(page: Page, project) -> None:
    open_sheet_at(page, "split at")
    page.click("[data-key-row='split'] [data-key='Alt+S']")
    page.press("x")
    assert "Ctrl or Alt" in page.find("[data-key-question] p").text
    page.press("Alt+x")
    wait_for(lambda: keys_of(page, "split") == ["S", "Alt+X"], "the key to be given")
    page.click("[data-key-row='split'] [data-key='S']")
    page.click("[data-take-away]")
    wait_for(lambda: keys_of(page, "split") == ["Alt+X"], "the key to be taken away")
    page.click("[data-reset-keys]")
    wait_for(lambda: keys_of(page, "split") == ["S", "Alt+S"], "all keys to come back")


def test_a_file_brings_keys_and_a_wrong_one_changes_nothing(
    page: Page, project, tmp_path: Path
) -> None:
    open_sheet_at(page, "split at")
    field = page.find("[data-keys-file]")
    good, twice = tmp_path / "good.json", tmp_path / "twice.json"
    good.write_text(
        json.dumps({"dunlin-keys": 1, "keys": {"split": {"keys": ["V"], "text": []}}}), "utf-8"
    )
    twice.write_text(
        json.dumps({"dunlin-keys": 1, "keys": {"split": {"keys": ["M"], "text": []}}}), "utf-8"
    )
    field.send_keys(str(good))
    wait_for(lambda: keys_of(page, "split") == ["V"], "the keys of the file")
    field.send_keys(str(twice))
    page.wait_text("[data-said]", "Nothing was changed")
    assert keys_of(page, "split") == ["V"]
