"""The spelling list: names are offered where something like them stands, and put in."""

from tests.server import wait_for
from tests.ui.page import Page
from tests.ui.test_transcript import project as project
from tests.ui.test_transcript import stored


def add(page: Page, term: str) -> None:
    field = page.find("[data-new-term]")
    field.send_keys(term)
    page.press("ENTER")
    page.wait_text(".terms .list", term)


def said(page: Page, project: dict) -> str:
    return " ".join(word["text"] for word in stored(page, project))


def test_a_term_is_offered_heard_and_put_in_by_keys(page: Page, project) -> None:
    before = stored(page, project)
    place = next(n for n, word in enumerate(before) if word["text"] == "vell.")
    add(page, "Velle")
    page.wait_text("[data-offer]", "vell")
    page.press("Alt+n")
    wait_for(
        lambda: page.script("return getSelection().toString()") == "vell.", "the word selected"
    )
    page.press("Alt+ENTER")
    wait_for(lambda: "Velle." in said(page, project), "the term stored")
    after = stored(page, project)
    assert [w["start_ms"] for w in after] == [w["start_ms"] for w in before]
    assert after[place]["confidence"] == 1
    wait_for(lambda: page.all("[data-offer]") == [], "nothing more to offer")


def test_all_are_put_in_at_once_and_taken_back_in_one_step(page: Page, project) -> None:
    before = said(page, project)
    add(page, "Ringg")
    add(page, "Wharm")
    wait_for(lambda: len(page.all("[data-offer]")) >= 2, "two offers")
    page.click("[data-put-all-terms]")
    wait_for(lambda: "Ringg" in said(page, project) and "Wharm" in said(page, project), "both")
    page.find("[data-transcript]").click()
    page.press("Ctrl+z")
    wait_for(lambda: said(page, project) == before, "as it was")
