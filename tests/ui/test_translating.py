"""Translating by key: a language begun, confirmed caption by caption, kept in step with its source in two windows."""

from typing import Any

import pytest

from tests.conftest import Films
from tests.server import Server, wait_for
from tests.ui.page import Page, captions_every

OTHER = {"Dunlin-Person": "other", "Dunlin-Window": "other"}


@pytest.fixture
def project(page: Page, films: Films) -> dict[str, Any]:
    return page.new_project(films["short"], captions_every(1500, 4, 1400))


@pytest.fixture
def german(page: Page, project: dict[str, Any]) -> Page:
    return begin_german(page, project)


def begin_german(page: Page, project: dict[str, Any]) -> Page:
    """A German translation that was just begun by key."""
    page.open_project(project, "translate")
    page.find("[data-language]")
    page.press(*"german", "ENTER")
    page.find("[data-across='c00000']")
    page.wait_text("[data-done]", "0 of 4 done")
    page.wait_saved()
    return page


def translation(page: Page) -> dict[str, Any]:
    """The German track as the server has it."""
    project = page.browser.current_url.split("/project/")[1].split("/")[0]
    [info] = [t for t in page.server.get(f"/api/projects/{project}")["tracks"] if t["translates"]]
    track = page.server.get(f"/api/tracks/{info['id']}")
    links = page.server.get(f"/api/tracks/{info['id']}/translation")["links"]
    return info | {"captions": track["captions"], "links": links}


def texts(page: Page) -> list[str]:
    page.wait_saved()
    captions = translation(page)["captions"]
    return ["".join(span["text"] for span in caption["spans"]) for caption in captions]


def standings(page: Page) -> list[str]:
    """How far the cards in sight are, all as they are at one moment."""
    found = (
        "[...document.querySelectorAll('.card [data-standing]')].map((one) => one.dataset.standing)"
    )
    return list(page.script(f"return {found}"))


def edit(server: Server, track: str, operation: dict[str, Any]) -> None:
    body = {"base_revision": 10_000, "gesture": "other", "operation": operation}
    server.post(f"/api/tracks/{track}/edits", json=body, headers=OTHER)


def test_captions_are_translated_confirmed_and_left_for_later_by_key(german: Page) -> None:
    german.press("q")
    german.type("Die erste sagt dies")
    german.press("Ctrl+ENTER")
    german.type("Die zweite")
    german.press("Alt+Shift+ENTER")
    german.press("Alt+c")
    wait_for(lambda: texts(german)[2].startswith("Caption 3 says this"), "the source's words")
    german.press("ESCAPE")
    assert texts(german)[:2] == ["Die erste sagt dies", "Die zweite"]
    wait_for(lambda: standings(german) == ["done", "later", "begun", "empty"], "how far each is")
    german.wait_text("[data-done]", "1 of 4 done")
    # What is left to do comes next, from the first again.
    german.press("q")
    wait_for(lambda: german.current() == translation(german)["captions"][3]["id"], "the empty one")


def test_undo_takes_back_words_and_what_was_confirmed_one_after_the_other(german: Page) -> None:
    german.press("q")
    german.type("Eins")
    german.press("Ctrl+ENTER", "ESCAPE")
    wait_for(lambda: standings(german)[0] == "done", "confirmed")
    german.wait_saved()
    german.press("Ctrl+z")
    wait_for(lambda: standings(german)[0] == "begun", "not confirmed any more")
    german.press("Ctrl+z")
    wait_for(lambda: standings(german)[0] == "empty", "no words any more")
    german.press("Ctrl+Shift+z", "Ctrl+Shift+z")
    wait_for(lambda: standings(german)[0] == "done", "confirmed again")


def test_a_change_of_the_source_in_another_window_is_marked_and_shown(
    german: Page, server: Server, project: dict[str, Any]
) -> None:
    german.press("q")
    german.type("Eins")
    german.press("Ctrl+ENTER", "ESCAPE")
    wait_for(lambda: standings(german)[0] == "done", "confirmed")
    german.wait_saved()
    change = {"caption": "c00000", "text": "Caption 1 says that\nand a little more"}
    edit(server, project["tracks"][0]["id"], {"kind": "change-captions", "changes": [change]})
    wait_for(lambda: standings(german)[0] == "changed", "the mark")
    german.card(1).click()
    # What is found about it, too, though it is the other track that was edited.
    german.wait_text(".pair .told", "The source has changed")
    changes = german.find("[data-changes]")
    assert [one.text for one in changes.find_elements("css selector", ".removed")] == ["this"]
    assert [one.text for one in changes.find_elements("css selector", ".added")] == ["that"]
    german.press("Ctrl+ENTER", "ESCAPE")
    wait_for(lambda: standings(german)[0] == "done", "confirmed anew")


def test_times_of_the_source_are_carried_over_while_it_is_worked_on_across(german: Page) -> None:
    german.press("q", "ESCAPE")
    german.press("x")
    german.wait_text(".heads h2.on", "English")
    wait_for(lambda: german.current() == "c00000", "its first caption")
    german.press("]", "]")
    german.wait_saved()
    moved = translation(german)["captions"][0]["in_ms"]
    assert moved > 0
    german.press("Ctrl+z")
    german.wait_saved()
    wait_for(lambda: translation(german)["captions"][0]["in_ms"] == 0, "both taken back as one")


def test_a_translation_that_is_split_and_joined_keeps_its_sources(german: Page) -> None:
    german.press("q")
    german.type("Die erste")
    german.press("HOME", *["ARROW_RIGHT"] * 3)
    german.press("Alt+s")
    wait_for(lambda: len(texts(german)) == 5, "two of one")
    found = translation(german)
    assert [found["links"][c["id"]]["sources"] for c in found["captions"][:2]] == [["c00000"]] * 2
    german.press("ARROW_UP", "ARROW_UP", "m")
    wait_for(lambda: len(texts(german)) == 4, "one again")
    found = translation(german)
    assert found["links"][found["captions"][0]["id"]]["sources"] == ["c00000"]


def test_words_too_many_are_counted_and_time_is_offered_that_breaks_nothing(german: Page) -> None:
    german.press("q")
    german.type("Viel mehr Wörter als hier jemals gelesen werden")
    german.wait_text(".card.current [data-left]", "−")
    offer = german.find("[data-offer]")
    assert "Alt" in offer.text
    german.press("ESCAPE")
    before = translation(german)["captions"][0]
    offer.click()
    german.wait_saved()
    after = translation(german)["captions"][0]
    assert (before["in_ms"], before["out_ms"], before["spans"]) != (
        after["in_ms"], after["out_ms"], after["spans"],
    )  # fmt: skip


def test_what_is_answered_too_late_is_not_lost(german: Page) -> None:
    german.press("q")
    german.type("Eins")
    german.wait_saved()
    with german.offline():
        german.press("Ctrl+ENTER", "ESCAPE")
        wait_for(lambda: standings(german)[0] == "done", "shown at once")
    german.wait_saved()
    links = translation(german)["links"]
    assert [link["progress"] for link in links.values() if link.get("progress")] == ["done"]


def test_a_track_is_translated_from_listening_alone(page: Page, project: dict[str, Any]) -> None:
    page.open_project(project, "translate")
    page.find("[data-language]")
    page.press(*"french", "TAB")
    page.find("[data-source] option[value='']").click()
    page.click("[data-begin]")
    page.find(".heads")
    assert page.find(".heads h2.on").text.startswith("French")
    page.press("n")
    page.type("Bonjour")
    page.press("ESCAPE")
    page.wait_saved()
    tracks = page.server.get(f"/api/projects/{project['id']}")["tracks"]
    captions = page.server.get(f"/api/tracks/{tracks[1]['id']}")["captions"]
    assert [c["spans"][0]["text"] for c in captions] == ["Bonjour"]


def test_what_is_remembered_is_taken_and_terms_are_added_and_put_in_by_key(
    german: Page, server: Server, project: dict[str, Any]
) -> None:
    change = {"caption": "c00000", "text": "Lamps hang over this quay"}
    edit(server, project["tracks"][0]["id"], {"kind": "change-captions", "changes": [change]})
    unit = (
        '<tu><tuv xml:lang="en"><seg>Lamps hang over that quay</seg></tuv>'
        '<tuv xml:lang="de"><seg>Lampen hängen an jenem Kai</seg></tuv></tu>'
    )
    file = f'<tmx version="1.4"><header srclang="en"/><body>{unit}</body></tmx>'
    server.http.post("/api/memory?name=old.tmx", content=file.encode()).raise_for_status()
    german.press("q")
    german.wait_text("[data-remembered]", "Lampen hängen")
    german.wait_text("[data-remembered] del", "that")
    german.press("Alt+ENTER")
    wait_for(lambda: texts(german)[0] == "Lampen hängen an jenem Kai", "it taken")

    german.press("Alt+Shift+t")
    german.find("[data-term-source]")
    german.press(*"quay", "TAB", *"Pier", "ENTER")
    german.wait_text("[data-term='quay']", "◆")
    # Whoever was writing goes on with it.
    german.find("textarea")
    german.find("[data-underlined]")
    german.press("END", "Alt+t")
    wait_for(lambda: texts(german)[0].endswith("Kai Pier"), "the term put in")
    german.wait_text("[data-term='quay']", "✓")
    german.press("Alt+Shift+t")
    german.find("[data-term-source]")
    german.press("ESCAPE")
    german.type(" hier")
    wait_for(lambda: texts(german)[0].endswith("hier"), "the words")
