"""Captions made of the transcript: seen first, by dials, and put in when they are right."""

from tests.server import wait_for
from tests.ui.page import Page
from tests.ui.test_transcript import project as project


def would_be(page: Page) -> list[str]:
    return [one.text for one in page.all("[data-would-be] p")]


def choose(page: Page, title: str) -> None:
    next(one for one in page.all(".dials [role=radio]") if one.text == title).click()


def test_dials_change_what_is_seen_and_only_what_is_accepted_is_put_in(page: Page, project) -> None:
    page.press("ESCAPE", "m")
    wait_for(lambda: len(would_be(page)) > 0, "captions to be")
    by_spec = would_be(page)
    choose(page, "By words per line")
    wait_for(lambda: would_be(page) and would_be(page) != by_spec, "three words a line")
    assert all(len(text.split()) <= 3 for text in would_be(page))
    choose(page, "Capitals")
    wait_for(lambda: all(text.isupper() for text in would_be(page)), "capitals")
    capitals = would_be(page)
    assert page.stored(project) == []
    page.press("Ctrl+ENTER")
    page.wait_text(".card", capitals[0])
    assert [text.upper() for *_, text in page.stored(project)] == capitals
    assert page.stored(project)[0][2] != capitals[0]


def test_what_was_done_by_hand_stays_when_captions_are_made_again(page: Page, project) -> None:
    page.press("ESCAPE", "m")
    wait_for(lambda: len(would_be(page)) > 0, "captions to be")
    page.press("Ctrl+ENTER")
    page.card(1)
    in_ms, out_ms, text = page.stored(project)[0]
    page.press("HOME", "ARROW_DOWN")
    page.find(".card.current")
    page.press("}", "}")
    mine = (in_ms, out_ms + 80, text)
    wait_for(lambda: page.stored(project)[0] == mine, "a later out")
    page.press("Alt+1", "m")
    page.wait_text("[data-becomes]", "2 kept")
    assert page.find("[data-would-be].stays p").text == mine[2]
    choose(page, "By words per line")
    wait_for(lambda: "new captions" in page.find("[data-becomes]").text, "others")
    page.press("Ctrl+ENTER")
    wait_for(lambda: len(page.stored(project)) > 2, "more captions")
    assert mine in page.stored(project)
    page.press("Ctrl+z")
    page.wait_saved()
    assert page.stored(project)[0] == mine


def test_only_the_changes_that_are_chosen_are_put_in(page: Page, project) -> None:
    page.press("ESCAPE", "m")
    wait_for(lambda: len(would_be(page)) > 1, "captions to be")
    first, *others = would_be(page)
    page.press("ARROW_DOWN", "x")
    page.wait_text("[data-chosen]", f"{len(others)} of {len(others) + 1} changes")
    page.find("[data-would-be].left.on")
    page.press("Ctrl+ENTER")
    page.card(1)
    assert [text for *_, text in page.stored(project)] == others
    page.press("Alt+1", "m")
    page.wait_text("[data-would-be].stays", "kept")
    page.wait_text("[data-accept-captions]", "Insert 1 caption")
    page.click("[data-take]")
    wait_for(lambda: not page.find("[data-accept-captions]").is_enabled(), "nothing to be chosen")
    page.press("x")
    wait_for(lambda: page.find("[data-accept-captions]").is_enabled(), "the change to be chosen")
    page.press("Ctrl+ENTER")
    wait_for(
        lambda: [text for *_, text in page.stored(project)] == [first, *others], "all to be put in"
    )


def test_words_left_out_stay_out_and_the_old_captions_can_be_kept(page: Page, project) -> None:
    server, address = page.server, f"/api/projects/{project['id']}"
    page.press("ESCAPE")
    page.open_project(project, "transcribe")
    page.find("[data-transcript] p")
    page.press("ENTER")
    wait_for(lambda: page.script("return document.activeElement.isContentEditable"), "the cursor")
    page.place_cursor("Ctrl+HOME")
    page.press("Alt+x")
    words = lambda: server.get(f"{address}/words")["words"]  # noqa: E731
    wait_for(lambda: words()[0]["left_out"], "the first word to be left out")
    page.find("[data-transcript] del")
    page.press("ESCAPE", "m")
    first = words()[0]["text"]
    wait_for(lambda: would_be(page) and first not in would_be(page)[0], "a preview without it")
    page.press("Ctrl+ENTER")
    page.card(1)
    wait_for(lambda: page.stored(project), "the captions")
    assert first not in page.stored(project)[0][2]
    before = page.stored(project)
    page.press("Alt+1", "m")
    page.wait_text(".dials", "Keep the present captions")
    choose(page, "By words per line")
    page.find("[data-keep-old]").click()
    wait_for(lambda: page.find("[data-accept-captions]").is_enabled(), "another way to cut them")
    page.press("Ctrl+ENTER")
    page.card(1)
    tracks = wait_for(lambda: (t := server.get(address)["tracks"])[1:] and t, "a track beside it")
    kept = server.get(f"/api/tracks/{tracks[1]['id']}")["captions"]
    assert [(c["in_ms"], c["out_ms"]) for c in kept] == [times[:2] for times in before]
    assert page.stored(project) != before
