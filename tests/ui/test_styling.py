"""Styles by hand and by key: words and captions in Time and on the page of all captions; who has the keys."""

from tests.server import wait_for
from tests.ui.page import Page


def captions(page: Page, project) -> list:
    page.wait_saved()
    return page.server.get(f"/api/tracks/{project['tracks'][0]['id']}")["captions"]


def styled(page: Page, project, index: int, style: str) -> str:
    """The words of a caption that are in a style."""
    spans = captions(page, project)[index]["spans"]
    return "".join(span["text"] for span in spans if span[style])


def test_the_caption_is_styled_by_key_and_its_card_shows_it(page: Page, project) -> None:
    page.press("ARROW_DOWN", "Ctrl+i")
    text = "".join(span["text"] for span in captions(page, project)[0]["spans"])
    wait_for(lambda: styled(page, project, 0, "italic") == text, "italics")
    page.find("[data-number='1'] .italic")
    page.press("Ctrl+i", "r", "2")
    wait_for(lambda: styled(page, project, 0, "colour") == text, "yellow")
    assert styled(page, project, 0, "italic") == ""
    page.press("v", "8")
    page.wait_text("[data-number='1'] [data-mark]", "Top")
    placement = captions(page, project)[0]["placement"]
    assert (placement["anchor"], placement["align"]) == ("top", "center")
    page.press("z", "1")
    wait_for(lambda: captions(page, project)[0]["case"] == "upper", "capitals")
    page.press("w", "TAB")
    page.click("[data-new-speaker]")
    page.type("Ilse Varga\n")
    wait_for(lambda: captions(page, project)[0]["speaker"] == "Ilse Varga", "the speaker")
    page.wait_text("[data-number='1']", "IV")
    page.press("ARROW_DOWN", "1")
    wait_for(lambda: captions(page, project)[1]["speaker"] == "Ilse Varga", "the first speaker")
    page.press("Ctrl+z", "Ctrl+z", "Ctrl+z")
    wait_for(lambda: captions(page, project)[0]["case"] is None, "each to be one step of undo")


def test_selected_words_are_styled_alone_and_stay_selected(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ENTER", "Ctrl+HOME")
    page.type("Never ")
    page.press("Ctrl+HOME", *["Shift+ARROW_RIGHT"] * 5, "Ctrl+b", "Alt+r", "5")
    wait_for(lambda: styled(page, project, 0, "colour") == "Never", "the word alone in a colour")
    assert styled(page, project, 0, "bold") == "Never"
    page.press("Alt+z", "1")
    wait_for(lambda: styled(page, project, 0, "bold") == "NEVER", "the word alone in capitals")
    selected = "return [document.activeElement.selectionStart, document.activeElement.selectionEnd]"
    wait_for(lambda: page.script(selected) == [0, 5], "the word to be selected again")


def test_all_captions_are_styled_as_one_writes(page: Page, project) -> None:
    page.open_project(project, "transcribe?view=page")
    page.find("[data-writing] p")
    page.press("ENTER")
    wait_for(lambda: page.script("return document.activeElement.isContentEditable"), "the cursor")
    page.type("Never ")
    page.place_cursor(*["Ctrl+Shift+ARROW_LEFT"])
    page.press("Ctrl+i")
    wait_for(lambda: "Never" in styled(page, project, 0, "italic"), "the word in italics")
    assert styled(page, project, 0, "italic").strip() == "Never"
    page.wait_text("[data-writing] .italic", "Never")
    page.press("Alt+v", "9")
    wait_for(lambda: captions(page, project)[0]["placement"], "the place")
    page.type("x")
    wait_for(lambda: "x" in page.stored(project)[0][2], "the cursor to be in the text again")


def test_the_search_finds_styles_by_any_word_and_tells_what_cannot_be_done(
    page: Page, project
) -> None:
    page.press("Ctrl+k")
    page.type("split")
    page.wait_text(".hit.barred", "select a caption first")
    page.press("ESCAPE", "ARROW_DOWN", "Ctrl+k")
    page.type("color yellow")
    page.wait_text(".hit.on", "Colour: Yellow")
    page.press("ENTER")
    wait_for(lambda: styled(page, project, 0, "colour"), "the colour")


def test_lines_are_broken_anew_and_joined(page: Page, project) -> None:
    page.press("ARROW_DOWN", "Shift+d")
    wait_for(lambda: "\n" not in page.stored(project)[0][2], "one line")
    page.press("ENTER")
    page.type(" and on and on and on and on and on, as it went")
    page.find("[data-number='1'] [data-over]")
    page.press("Alt+d")
    wait_for(lambda: page.stored(project)[0][2].count("\n") == 1, "two lines")
    assert page.script("return document.activeElement.tagName") == "TEXTAREA"


def test_letters_in_a_list_are_its_own_and_esc_leaves_it(page: Page, project) -> None:
    page.press("ARROW_DOWN")
    before = captions(page, project)
    page.script("document.querySelector('[data-nudge]').focus()")
    page.wait_text("[data-owner]", "list")
    page.press("s", "n", "DELETE", "ESCAPE")
    page.wait_text("[data-owner]", "Score")
    assert captions(page, project) == before
    page.press("n")
    wait_for(lambda: len(captions(page, project)) == 5, "the stage to have the keys again")


def test_a_button_that_was_clicked_leaves_the_keys_to_the_stage(page: Page, project) -> None:
    page.click("[data-play]")
    wait_for(lambda: page.clock() > "00:00:00.300", "the film to play")
    page.press("SPACE")
    wait_for(lambda: page.script("return document.querySelector('video').paused"), "it to stop")
    page.wait_text("[data-owner]", "Score")


def test_no_key_is_shown_that_does_nothing(page: Page, project) -> None:
    assert "in" not in page.find(".status").text.split()
    page.press("ARROW_DOWN")
    wait_for(lambda: "in" in page.find(".status").text.split(), "the keys of a caption")


def test_the_spoken_caption_becomes_the_current_one_while_playing(page: Page, project) -> None:
    page.press("SPACE")
    wait_for(lambda: page.current(), "the first spoken caption to be current")
    page.press("SPACE", "HOME", "ESCAPE", "Shift+P", "SPACE")
    wait_for(lambda: page.clock() > "00:00:02.500", "the film to play on")
    assert page.current() is None


def test_a_place_is_gone_to_by_typing_it(page: Page, project) -> None:
    for typed, place in (("0:02", "00:00:02.000"), ("+1", "00:00:03.000"), ("10f", "00:00:00.400")):
        page.press("Ctrl+g")
        page.type(f"{typed}\n")
        wait_for(lambda at=place: page.clock() == at, f"{typed} to be gone to")
    page.press("Ctrl+g")
    page.type("later\n")
    page.wait_text("[role=alert]", "not")
    page.press("ESCAPE", "END")
    wait_for(lambda: page.clock() > "00:00:05", "the end of the film")


def test_a_project_is_renamed_by_key(page: Page, project) -> None:
    page.press("Ctrl+k")
    page.type("rename\n")
    page.find("[data-project-title]")
    page.type("The Other Bell\n")
    page.wait_text(".title", "The Other Bell")
    assert page.server.get(f"/api/projects/{project['id']}")["title"] == "The Other Bell"
