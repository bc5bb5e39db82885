"""A client's script brought in: pasted or as a file, looked at, taken in, fitted."""

from pathlib import Path

from selenium.webdriver import Keys

from tests.server import wait_for
from tests.ui.page import Page
from tests.ui.test_transcript import put_words, spoken
from tests.unit.test_script_reading import docx_of


def seen(page: Page) -> list[str]:
    return [one.text for one in page.all(".script ol p")]


def test_a_pasted_script_is_seen_and_taken_in_by_keys(page: Page, films) -> None:
    project = page.new_project(films["short"])
    page.open_project(project, "script")
    page.find("[data-script-text]").send_keys("ILSE: Ring it.\n[waves]\nAgain.")
    wait_for(lambda: len(seen(page)) == 3, "three captions")
    assert seen(page)[0] == "ILSE\nRing it."
    page.press("Ctrl+ENTER")
    page.wait_text(".card", "Ring it.")
    assert [text for *_, text in page.stored(project)] == ["Ring it.", "[waves]", "Again."]


def test_a_document_is_taken_in_and_fitted_to_the_sound(page: Page, films, tmp_path: Path) -> None:
    project = page.new_project(films["short"])
    put_words(page, project, spoken())
    said = [word["text"] for word in spoken()]
    document = tmp_path / "script.docx"
    document.write_bytes(docx_of(" ".join(said[:3]), " ".join(said[3:])))
    page.open_project(project, "script")
    page.find("[data-script-file]").send_keys(str(document))
    wait_for(lambda: len(seen(page)) == 3, "three captions")
    page.click("[data-take-fitted]")
    page.server.wait_for_job(project["id"], "fit", "done")
    starts = spoken()[0]["start_ms"], spoken()[3]["start_ms"]

    def fitted() -> bool:
        stored = page.stored(project)
        return len(stored) == 3 and all(
            abs(in_ms - start) < 300 for (in_ms, *_), start in zip(stored, starts, strict=False)
        )

    wait_for(fitted, "captions at their words")
    page.press("Ctrl+z", "Ctrl+z")
    wait_for(lambda: page.stored(project) == [], "none again")


def test_a_damaged_document_is_said_to_be_and_nothing_changes(
    page: Page, films, tmp_path: Path
) -> None:
    project = page.new_project(films["short"])
    broken = tmp_path / "script.odt"
    broken.write_bytes(b"PK\x03\x04 cut off")
    page.open_project(project, "script")
    page.find("[data-script-file]").send_keys(str(broken))
    page.wait_text(".script .problem", "damaged")
    assert page.all("[data-take-script]") == []


def test_a_script_in_another_language_is_told_and_the_track_set_to_it(page: Page, films) -> None:
    project = page.new_project(films["short"])
    page.open_project(project, "script")
    page.find("[data-script-text]").send_keys(
        "Wenn der Nebel kommt, sieht man hier draußen gar nichts mehr, und wir warten."
    )
    page.wait_text("[data-doubts]", "It looks like German; the track is in English")
    page.click("[data-set-language]")
    wait_for(lambda: not page.all("[data-doubts]"), "no doubt to be left")
    track = page.server.get(f"/api/projects/{project['id']}")["tracks"][0]
    assert track["language"] == "de"


def test_a_track_s_language_is_set_in_its_menu_and_tells_from_which_side_it_runs(
    page: Page, films
) -> None:
    said = [{"id": "a", "in_ms": 0, "out_ms": 2000, "spans": [{"text": "12 ... 34!"}]}]
    project = page.new_project(films["silent"], said)
    page.open_project(project)
    shown = "return document.querySelector('.card .text').dir"
    assert page.script(shown) == "ltr"
    page.click("[data-track]")
    page.find("[data-track-language]").send_keys(Keys.CONTROL, "a", Keys.NULL, "ar", Keys.ENTER)
    wait_for(lambda: page.script(shown) == "rtl", "the card to run from the right")
    page.wait_text("[data-track]", "ar")
    page.find("[data-track-language]").send_keys(Keys.CONTROL, "a", Keys.NULL, "?", Keys.ENTER)
    wait_for(lambda: page.all(".v-snackbar"), "the refusal")
    track = page.server.get(f"/api/projects/{project['id']}")["tracks"][0]
    assert track["language"] == "ar"
