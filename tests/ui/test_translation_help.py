"""What helps a translator: drafts, the memory, term lists, and files that go to somebody else and come back."""

from pathlib import Path
from typing import Any

import pytest

from tests.conftest import Films
from tests.server import Server, wait_for
from tests.ui.page import Page, captions_every
from tests.ui.test_translating import begin_german, edit, standings, texts, translation

PAIRS = (
    ("Caption 2 says this and a little more", "Die zweite sagt dies"),
    ("The harbour wall is wet", "Die Hafenmauer ist nass"),
)


@pytest.fixture
def project(page: Page, films: Films) -> dict[str, Any]:
    return page.new_project(films["short"], captions_every(1500, 4, 1400))


@pytest.fixture
def german(page: Page, project: dict[str, Any]) -> Page:
    return begin_german(page, project)


def tmx(tmp_path: Path) -> Path:
    units = "".join(
        f'<tu><tuv xml:lang="en"><seg>{one}</seg></tuv><tuv xml:lang="de"><seg>{other}</seg></tuv></tu>'
        for one, other in PAIRS
    )
    path = tmp_path / "harbour.tmx"
    path.write_text(f'<tmx version="1.4"><header srclang="en"/><body>{units}</body></tmx>')
    return path


def test_empty_captions_are_drafted_by_key_and_gone_through(
    german: Page, server: Server, tmp_path: Path
) -> None:
    server.http.post("/api/memory?name=harbour.tmx", content=tmx(tmp_path).read_bytes())
    german.press("q")
    german.type("Meine Worte")
    german.press("ESCAPE", "ESCAPE")
    # What was only just written is not drafted over, although nothing waited for it.
    german.press("Alt+Shift+a", "Shift+a")
    german.wait_text("[data-drafted]", "drafted by")
    wait_for(lambda: texts(german)[:2] == ["Meine Worte", "Die zweite sagt dies"], "the draft")
    wait_for(lambda: standings(german)[:2] == ["begun", "draft"], "told as one")
    german.click("[data-drafts-open]")
    german.press("q")
    wait_for(lambda: german.current() == translation(german)["captions"][1]["id"], "the draft")
    german.press("Ctrl+ENTER", "ESCAPE")
    wait_for(lambda: standings(german)[1] == "done", "confirmed")


def test_a_caption_with_words_of_ones_own_is_not_drafted_over(german: Page) -> None:
    german.press("q")
    german.type("Meine Worte")
    german.press("Alt+a")
    german.wait_text("[role=alert]", "text of your own")
    german.press("ESCAPE")
    assert texts(german)[0] == "Meine Worte"


def test_the_memory_is_searched_in_either_language_and_comes_in_as_a_file(
    german: Page, tmp_path: Path
) -> None:
    german.press("q", "ESCAPE", "Shift+r")
    german.find("[data-memory-file]").send_keys(str(tmx(tmp_path)))
    german.find("[data-memory-taken]")
    german.find("[data-memory-look]").click()
    german.type("hafenm")
    german.wait_text("[data-found]", "The harbour wall is wet")
    german.click("[data-found] button")
    wait_for(lambda: texts(german)[0] == "Die Hafenmauer ist nass", "it taken over")
    german.press("ESCAPE", "ESCAPE")
    german.find("[data-offers], .said")


def test_a_term_list_is_changed_and_comes_in_and_what_is_removed_comes_back(
    german: Page, tmp_path: Path
) -> None:
    german.press("Shift+e", "Alt+Shift+t")
    german.find("[data-term-source]")
    german.press(*"quay", "TAB", *"Kai", "ENTER")
    german.wait_text("[data-listed='quay']", "Kai")
    german.click("[data-listed='quay'] .term")
    german.overwrite(german.find("[data-term-target]"), "Pier")
    german.press("ENTER")
    german.wait_text("[data-listed='quay']", "Pier")
    german.click("[data-term-remove]")
    wait_for(lambda: not german.all("[data-listed='quay']"), "it gone")
    german.press("Ctrl+z")
    german.wait_text("[data-listed='quay']", "Pier")
    path = tmp_path / "terms.csv"
    path.write_text("term,language,de\nfog bell,en,Nebelglocke\n")
    german.find("[data-terms-file]").send_keys(str(path))
    german.wait_text("[data-listed='fog bell']", "Nebelglocke")


def test_a_file_comes_back_is_looked_at_and_only_what_is_chosen_is_taken(
    german: Page, server: Server, tmp_path: Path
) -> None:
    track = translation(german)["id"]
    text = server.http.get(f"/api/tracks/{track}/handover.xlf").text
    for n in (1, 2, 3):
        unit = text.index(f"Caption {n} says this")
        end = text.index("</source>", unit) + len("</source>")
        text = f"{text[:end]}<target>Zeile {n}</target>{text[end:]}"
    path = tmp_path / "back.xlf"
    path.write_text(text)
    german.press("Shift+x")
    german.find("[data-returned-file]").send_keys(str(path))
    wait_for(lambda: len(german.all("[data-change]")) == 3, "what would change")
    assert texts(german) == ["", "", "", ""]
    german.all("[data-change] input")[1].click()
    german.click("[data-take-back]")
    german.find("[data-taken]")
    wait_for(lambda: texts(german) == ["Zeile 1", "", "Zeile 3", ""], "the two taken")
    german.press("Ctrl+z")
    wait_for(lambda: texts(german) == ["", "", "", ""], "taken back in one step")


def test_what_another_window_wrote_meanwhile_is_told_and_kept(
    german: Page, server: Server, tmp_path: Path
) -> None:
    there = translation(german)
    text = server.http.get(f"/api/tracks/{there['id']}/handover.csv").text
    path = tmp_path / "back.csv"
    path.write_text(text.replace('a little more",', 'a little more",Zeile 1', 1))
    german.press("Shift+x")
    german.find("[data-returned-file]").send_keys(str(path))
    wait_for(lambda: len(german.all("[data-change]")) == 1, "what would change")
    change = {"caption": there["captions"][0]["id"], "text": "Von jemand anderem"}
    edit(server, there["id"], {"kind": "change-captions", "changes": [change]})
    german.click("[data-take-back]")
    german.find(".files .problem")
    assert texts(german)[0] == "Von jemand anderem"


def test_a_translation_begins_from_a_script(
    page: Page, project: dict[str, Any], tmp_path: Path
) -> None:
    path = tmp_path / "german.txt"
    path.write_text("\n".join(f"Die Zeile {n} sagt dies" for n in range(1, 5)))
    page.open_project(project, "translate")
    page.find("[data-language]")
    page.press(*"german")
    page.click("[aria-label='Begin with'] button:nth-child(2)")
    page.find("[data-begin-file]").send_keys(str(path))
    page.click("[data-begin]")
    page.wait_text("[data-done]", "0 of 4 done")
    assert texts(page) == [f"Die Zeile {n} sagt dies" for n in range(1, 5)]
