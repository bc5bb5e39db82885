"""Style: looks set on the picture and beside it, styles as one list, and what two windows make of it."""

from typing import Any

import pytest
from selenium.webdriver import ActionChains

from tests.server import wait_for
from tests.ui.page import Page, captions_every

CENTRE = """
const box = document.querySelector(arguments[0]).getBoundingClientRect()
return [Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 2)]
"""
FRAME = "[data-frame]"
NUMBERS = (
    "return document.querySelector('[data-frame]').getAttribute('points').split(/[ ,]/).map(Number)"
)


@pytest.fixture
def styled(page: Page, films) -> dict[str, Any]:
    """A project of three captions, open in Style with the first in hand."""
    project = page.new_project(films["short"], captions_every(2000, 3))
    # What lies behind captions is looked at again once the film was looked through.
    page.server.wait_for_job(project["id"], "shots", "done")
    open_style(page, project)
    return project


def open_style(page: Page, project: dict[str, Any]) -> None:
    page.open(f"/project/{project['id']}/style")
    page.find(FRAME)
    page.find("[data-style-panel] .rows")


def captions(page: Page, project: dict[str, Any]) -> list[dict[str, Any]]:
    return page.server.get(f"/api/tracks/{project['tracks'][0]['id']}")["captions"]


def styles(page: Page, project: dict[str, Any]) -> dict[str, dict[str, Any]]:
    listed = page.server.get(f"/api/projects/{project['id']}/styles")["styles"]
    return {style["name"]: style for style in listed}


def said(look: dict[str, Any] | None) -> dict[str, Any]:
    return {name: value for name, value in (look or {}).items() if value is not None}


def drag(page: Page, css: str, across: int, down: int, *, let_go: bool = True) -> None:
    """Drags what is in the middle of an element by pixels of the screen, in six moves."""
    x, y = page.script(CENTRE, css)
    actions = ActionChains(page.browser, duration=30)
    actions.w3c_actions.pointer_action.move_to_location(x, y).pointer_down()
    for n in range(1, 7):
        actions.w3c_actions.pointer_action.move_to_location(x + across * n // 6, y + down * n // 6)
    if let_go:
        actions.w3c_actions.pointer_action.pointer_up()
    actions.perform()


def let_go(page: Page) -> None:
    actions = ActionChains(page.browser)
    actions.w3c_actions.pointer_action.pointer_up()
    actions.perform()


def stored_when(page: Page, project: dict[str, Any], is_so, what: str, number: int = 0) -> dict:
    """A caption as it is stored once it is so."""

    def now() -> dict[str, Any] | None:
        caption = captions(page, project)[number]
        return caption if is_so(caption) else None

    return wait_for(now, what)


def sent(page: Page, mark: int) -> list[str]:
    return page.script(
        "return performance.getEntriesByType('resource').slice(arguments[0]).map((e) => new URL(e.name).pathname)",
        mark,
    )


def quiet(page: Page) -> int:
    """How many requests there were, once no more come."""
    counts: list[int] = []

    def still() -> bool:
        counts.append(page.script("return performance.getEntriesByType('resource').length"))
        return len(counts) > 5 and len(set(counts[-6:])) == 1

    wait_for(still, "the page to be quiet")
    return counts[-1]


def test_a_caption_is_dragged_and_the_log_hears_of_it_once(page: Page, styled) -> None:
    before = page.script(NUMBERS)
    mark = quiet(page)
    drag(page, FRAME, 40, -120, let_go=False)
    wait_for(lambda: page.script(NUMBERS)[1] < before[1], "the frame to follow")
    assert [one for one in sent(page, mark) if "/looks" in one or "/edits" in one] == []
    let_go(page)
    caption = stored_when(page, styled, lambda c: c["placement"], "the place to be stored")
    assert caption["placement"]["y"] < 0.8
    assert sum(one.endswith("/edits") for one in sent(page, mark)) == 1
    page.wait_saved()
    after = page.script(NUMBERS)
    # The frame stays where it was let go, once it is that of what is stored.
    wait_for(lambda: page.script(NUMBERS) == after, "the frame to stand")
    page.press("Ctrl+z")
    stored_when(page, styled, lambda c: c["placement"] is None, "one step of undo")
    wait_for(lambda: page.script(NUMBERS) == before, "the frame to be back")


def test_what_is_dragged_is_drawn_as_it_is_stored(page: Page, styled) -> None:
    drag(page, FRAME, 60, -90, let_go=False)
    drag_picture = still_film(page)
    let_go(page)
    stored_when(page, styled, lambda c: c["placement"], "the place to be stored")
    page.wait_saved()
    wait_for(lambda: still_film(page) == drag_picture, "the same picture once it is stored")


PUT = "const { asked, drawn } = document.querySelector('.frame canvas').dataset; return asked === drawn ? asked : ''"


def still_film(page: Page) -> bytes:
    """The film with its captions as they were asked for last, without what the surface lays over it."""
    page.script("document.querySelector('[data-surface]').style.opacity = 0")
    left, top, width, height = page.script(
        "const box = document.querySelector('.film').getBoundingClientRect();"
        "return [box.x, box.y, box.width, box.height].map(Math.round)"
    )
    # A move of the pointer may still be on its way: nothing else was asked for while the picture was taken.
    while True:
        put = wait_for(lambda: page.script(PUT), "the captions to be drawn")
        picture = page.still_picture(width, height, left, top)
        if page.script(PUT) == put:
            break
    page.script("document.querySelector('[data-surface]').style.opacity = 1")
    return picture


def test_handles_size_turn_tilt_and_set_the_width_of_lines(page: Page, styled) -> None:
    drag(page, FRAME, 0, -150)
    stored_when(page, styled, lambda c: c["placement"], "the place")
    steps = {
        "[data-handle='size bottom-right']": (
            40,
            8,
            lambda c: said(c["look"]).get("size", 0) > 0.08,
        ),
        "[data-handle='turn stalk']": (50, 12, lambda c: said(c["look"]).get("turn", 0) > 5),
        "[data-handle='tilt-x below']": (0, -40, lambda c: said(c["look"]).get("tilt_x", 0) > 5),
        "[data-handle='tilt-y beside']": (50, 0, lambda c: said(c["look"]).get("tilt_y", 0) > 5),
        "[data-handle='width right']": (-30, -10, lambda c: c["placement"]["width"]),
    }
    for handle, (across, down, is_so) in steps.items():
        drag(page, handle, across, down)
        stored_when(page, styled, is_so, handle)
        page.wait_saved()
    for _ in steps:
        page.press("Ctrl+z")
    stored_when(page, styled, lambda c: not said(c["look"]), "each to be one step of undo")


def test_captions_are_moved_and_sized_by_keys_and_the_next_is_a_key_away(
    page: Page, styled
) -> None:
    page.press("ARROW_RIGHT", "ARROW_RIGHT", "Shift+ARROW_UP", "+")
    caption = stored_when(page, styled, lambda c: said(c["look"]).get("size"), "the size")
    assert caption["placement"]["x"] == pytest.approx(0.5 + 2 / 1280, abs=1e-5)
    assert caption["look"]["size"] == pytest.approx(0.07 + 1 / 720, abs=1e-5)
    page.press("Alt+ARROW_DOWN", "ARROW_UP")
    stored_when(page, styled, lambda c: c["placement"], "the next to be moved", 1)
    # A card that is pressed leaves the keys with the picture.
    page.all("[data-card]")[2].click()
    page.press("ARROW_UP")
    stored_when(page, styled, lambda c: c["placement"], "the last to be moved", 2)


def test_a_caption_that_keys_go_to_is_seen_at_rest(page: Page, project: dict[str, Any]) -> None:
    open_style(page, project)
    first, second = captions(page, project)[:2]
    page.press("Alt+ARROW_DOWN")
    page.find(f"[data-card='{second['id']}'].current")
    page.find(f"[data-overlay='{(second['in_ms'] + second['out_ms']) // 2 // 40 * 40}']")
    page.press("Alt+ARROW_UP")
    page.find(f"[data-card='{first['id']}'].current")
    page.find(f"[data-overlay='{(first['in_ms'] + first['out_ms']) // 2 // 40 * 40}']")


def test_esc_gives_a_drag_up(page: Page, styled) -> None:
    before = page.script(NUMBERS)
    drag(page, FRAME, 50, -100, let_go=False)
    page.press("ESCAPE")
    let_go(page)
    wait_for(lambda: page.script(NUMBERS) == before, "the frame to be back")
    assert captions(page, styled)[0]["placement"] is None


def test_words_are_styled_apart_and_given_back(page: Page, styled) -> None:
    page.press("ENTER", "Ctrl+Shift+ARROW_RIGHT")
    page.wait_text("[data-where-to]", "selected words")
    page.overwrite(page.find("[data-row='colour'] .code"), "ffcc00\n")
    caption = stored_when(page, styled, lambda c: len(c["spans"]) > 1, "the words apart")
    assert caption["spans"][0]["colour"] == "#FFCC00"
    page.overwrite(page.find("input[data-property='size']"), "80\n")
    caption = stored_when(page, styled, lambda c: c["spans"][0]["look"], "the size of the words")
    assert caption["spans"][0]["look"]["size"] == pytest.approx(80 / 720)
    for row in ("colour", "size"):
        page.click(f"[data-row='{row}'] [data-level='words']")
        page.wait_saved()
    stored_when(page, styled, lambda c: len(c["spans"]) == 1, "the words as the caption is")


def test_a_style_is_made_used_kept_and_removed(page: Page, styled) -> None:
    track = styled["tracks"][0]["id"]
    page.overwrite(page.find("[data-row='colour'] .code"), "F5E7C8\n")
    stored_when(page, styled, lambda c: said(c["look"]), "the colour")
    page.press("ESCAPE", "n")
    page.overwrite(page.find("[data-style-name]"), "Sign\n")
    wait_for(lambda: "Sign" in styles(page, styled), "the style to be called so")
    caption = stored_when(page, styled, lambda c: c["style"] == "Sign", "the caption in it")
    assert said(caption["look"]) == {}
    assert said(styles(page, styled)["Sign"]["look"])["colour"] == "#F5E7C8"
    page.find("[data-specimens][data-drawn]")
    # The next caption is given it by key, and all that name none by one press.
    page.press("Alt+ARROW_DOWN")
    page.wait_text("[data-where-to]", "This caption only")
    page.press("q")
    stored_when(page, styled, lambda c: c["style"] == "Sign", "the next to be given it", 1)
    page.click("[data-usual]")
    wait_for(
        lambda: page.server.get(f"/api/projects/{styled['id']}")["tracks"][0]["style"] == "Sign",
        "the default",
    )
    page.click("[data-keep]")
    kept = lambda: [style["name"] for style in page.server.get("/api/styles")]  # noqa: E731
    wait_for(lambda: "Sign" in kept(), "the style to be kept")
    page.click("[data-keep]")
    wait_for(lambda: "Sign" not in kept(), "the style to be kept no longer")
    page.press("Shift+DELETE")
    page.wait_text("[data-removing]", "2 captions")
    page.click("[data-remove-style]")
    wait_for(lambda: not styles(page, styled), "the style to be gone")
    assert {c["style"] for c in page.server.get(f"/api/tracks/{track}")["captions"]} == {None}
    page.press("ESCAPE", "Ctrl+z")
    wait_for(lambda: "Sign" in styles(page, styled), "the style to be back")


def test_a_change_of_all_makes_a_style_of_the_track(page: Page, styled) -> None:
    page.click("[data-to='style']")
    page.wait_text("[data-where-to]", "A style Spoken is made")
    page.overwrite(page.find("input[data-property='size']"), "60\n")
    wait_for(lambda: "Spoken" in styles(page, styled), "the style")
    wait_for(
        lambda: page.server.get(f"/api/projects/{styled['id']}")["tracks"][0]["style"] == "Spoken",
        "the default",
    )
    page.wait_text("[data-where-to]", "All that is set in the style Spoken")
    page.press("ESCAPE", "Ctrl+z")
    wait_for(lambda: not styles(page, styled), "both in one step of undo")


def test_a_look_is_passed_on_to_the_captions_from_here_on(page: Page, styled) -> None:
    drag(page, FRAME, 0, -150)
    first = stored_when(page, styled, lambda c: c["placement"], "the place")
    page.wait_saved()
    page.press("p")
    page.wait_text("[data-pass-on] [role=radio]", "From here on").click()
    page.wait_text("[data-pass-on] button", "Pass on to 2 captions").click()
    stored_when(page, styled, lambda c: c["placement"] == first["placement"], "the last one", 2)


def test_captions_that_stand_on_each_other_are_told_apart_by_pressing_again(
    page: Page, films
) -> None:
    project = page.new_project(films["short"], captions_every(0, 2))
    track = project["tracks"][0]["id"]
    place = {"anchor": "middle", "align": "center", "x": 0.5, "y": 0.5}
    ids = [c["id"] for c in page.server.get(f"/api/tracks/{track}")["captions"]]
    page.server.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": 1, "gesture": "g", "operation": {
            "kind": "change-captions", "changes": [{"caption": id_, "placement": place} for id_ in ids]}},
    )  # fmt: skip
    open_style(page, project)
    current = lambda: page.find(".card.current").get_attribute("data-card")  # noqa: E731
    wait_for(lambda: len(page.all(FRAME)) == 2, "two frames")
    seen = []
    for _ in range(3):
        x, y = page.script(CENTRE, FRAME)
        actions = ActionChains(page.browser)
        actions.w3c_actions.pointer_action.move_to_location(x, y).pointer_down().pointer_up()
        actions.perform()
        seen.append(current())
    assert set(seen) == set(ids)


def test_a_style_removed_in_another_window_takes_nothing_from_what_is_done_here(
    page: Page, styled
) -> None:
    address = f"/api/projects/{styled['id']}/styles/Sign"
    page.server.http.put(address, json={"look": {"colour": "#F5E7C8"}})
    page.wait_text("[data-style='Sign']", "Sign")
    page.press("q")
    stored_when(page, styled, lambda c: c["style"] == "Sign", "the style to be given")
    page.click("[data-to='style']")
    other = {"Dunlin-Person": "somebody", "Dunlin-Window": "else"}
    page.server.http.delete(address, headers=other)
    page.wait_text("[data-where-to]", "A style Spoken is made")
    page.overwrite(page.find("input[data-property='size']"), "60\n")
    wait_for(lambda: "Spoken" in styles(page, styled), "what is done here to be stored")
    assert "Sign" not in styles(page, styled)


def test_a_caption_deleted_in_another_window_while_it_is_dragged(page: Page, styled) -> None:
    track = styled["tracks"][0]["id"]
    first, second, _ = captions(page, styled)
    drag(page, FRAME, 20, -60, let_go=False)
    page.server.http.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": page.server.get(f"/api/tracks/{track}")["revision"], "gesture": "x",
              "operation": {"kind": "delete-captions", "captions": [first["id"]]}},
        headers={"Dunlin-Person": "somebody", "Dunlin-Window": "else"},
    )  # fmt: skip
    let_go(page)
    page.wait_saved()
    assert next(c["id"] for c in captions(page, styled)) == second["id"]
    # The page goes on: the next caption can be taken in hand.
    page.press("Alt+ARROW_DOWN", "ARROW_UP")
    wait_for(lambda: any(c["placement"] for c in captions(page, styled)), "the next to be moved")


def test_a_colour_is_taken_from_the_picture_by_keys_and_by_pointer(page: Page, styled) -> None:
    page.press("c", "Shift+ARROW_RIGHT", "ARROW_DOWN")
    wait_for(lambda: "#" in page.find("[data-glass]").text, "a colour under the glass")
    seen = page.find("[data-glass]").text.strip()
    page.press("ENTER")
    caption = stored_when(page, styled, lambda c: said(c["look"]), "the colour")
    assert caption["look"]["colour"] == seen
    assert not page.all("[data-glass]")
    # The colour that was set last is the one that is taken for.
    page.script("document.querySelector('[data-row=background] .code').focus()")
    page.press("ESCAPE")
    page.click("[data-frame-colour]")
    caption = stored_when(page, styled, lambda c: said(c["look"]).get("background"), "the ground")
    assert caption["look"]["background"] == page.find("[data-frame-colour]").get_attribute(
        "data-frame-colour"
    )
    x, y = page.script(CENTRE, "[data-surface]")
    press = {"x": x, "y": y, "button": "left", "clickCount": 1, "modifiers": 1}
    for kind in ("mouseMoved", "mousePressed", "mouseReleased"):
        page.browser.execute_cdp_cmd("Input.dispatchMouseEvent", press | {"type": kind})
    stored_when(
        page, styled, lambda c: c["look"]["background"] != caption["look"]["background"], "another"
    )


def test_a_window_is_opened_moved_bent_and_taken_away(page: Page, styled) -> None:
    drag(page, FRAME, 0, -150)
    stored_when(page, styled, lambda c: c["placement"], "the place")
    page.wait_saved()
    page.press("w")
    opened = stored_when(page, styled, lambda c: said(c["look"]).get("window"), "the window")
    page.find("[data-window]")
    page.press("Shift+ARROW_RIGHT")
    moved = stored_when(
        page, styled, lambda c: c["look"]["window"] != opened["look"]["window"], "the window moved"
    )
    assert moved["placement"] == opened["placement"]
    page.wait_saved()
    mark = quiet(page)
    drag(page, "[data-window-side]", 10, 50, let_go=False)
    assert [one for one in sent(page, mark) if "/looks" in one or "/edits" in one] == []
    drawn = still_film(page)
    let_go(page)
    stored_when(page, styled, lambda c: "Q" in c["look"]["window"], "a side to be bent")
    page.wait_saved()
    wait_for(lambda: still_film(page) == drawn, "the same picture once it is stored")
    page.press("ESCAPE")
    page.wait_text("[data-open-window]", "Change it")
    page.press("w", "DELETE")
    stored_when(page, styled, lambda c: not said(c["look"]), "the window to be gone")


def test_a_caption_is_tried_in_each_font_and_set_in_one(page: Page, styled) -> None:
    page.press("t")
    page.find("[data-specimens][data-drawn='13']")
    page.click("[data-font='Vollkorn']")
    stored_when(page, styled, lambda c: said(c["look"]).get("font") == "Vollkorn", "the font")
    page.find("[data-font='Vollkorn'][aria-selected='true']")
    page.click("[data-fonts-done]")
    wait_for(lambda: not page.all("[data-font]"), "the styles to be back")


def test_a_style_changed_while_the_server_is_away_is_kept_and_stored_later(
    page: Page, styled
) -> None:
    page.server.http.put(f"/api/projects/{styled['id']}/styles/Sign", json={"look": {}})
    page.wait_text("[data-style='Sign']", "Sign")
    page.press("q")
    stored_when(page, styled, lambda c: c["style"] == "Sign", "the style to be given")
    page.click("[data-to='style']")
    page.wait_text("[data-where-to]", "in the style Sign")
    with page.offline():
        page.overwrite(page.find("input[data-property='size']"), "60\n")
        page.find("[data-unsaved]")
    wait_for(lambda: said(styles(page, styled)["Sign"]["look"]).get("size"), "it to be stored")
    wait_for(lambda: not page.all("[data-unsaved]"), "the notice to go")


def shape_of(page: Page, project: dict[str, Any]) -> dict[str, Any] | None:
    return next((c for c in captions(page, project) if said(c["look"]).get("shape")), None)


def test_a_shape_is_made_moved_and_bent_by_keys_and_hand(page: Page, styled) -> None:
    page.press("b")
    box = wait_for(lambda: shape_of(page, styled), "the box")
    assert (box["in_ms"], box["out_ms"], box["spans"]) == (0, 1600, [])
    assert (box["look"]["layer"], box["placement"]["x"]) == ("beneath", 0.5)
    page.find(f"[data-card='{box['id']}'] [data-shape]")
    page.find(f"[data-frame='{box['id']}'].chosen")
    page.press("Shift+ARROW_LEFT")
    wait_for(lambda: shape_of(page, styled)["placement"]["x"] < 0.5, "it to be moved")  # type: ignore[index]
    page.wait_saved()
    page.press("w")
    page.find("[data-window-corner]")
    drag(page, "[data-window-corner]", -60, -40)
    bent = wait_for(
        lambda: (now := shape_of(page, styled)) and now["look"]["shape"] != box["look"]["shape"] and now,
        "its outline to be another",
    )  # fmt: skip
    # The corner that was drawn out is where it was let go; the others stand where they stood.
    assert bent["placement"]["width"] > box["placement"]["width"]
    assert bent["look"]["size"] > box["look"]["size"]
    page.press("ESCAPE", "Ctrl+z", "Ctrl+z", "Ctrl+z")
    wait_for(lambda: shape_of(page, styled) is None, "it to be gone")


def test_outlines_of_a_file_become_a_shape_and_what_is_none_is_told(
    page: Page, styled, tmp_path
) -> None:
    arrow, none = tmp_path / "arrow.svg", tmp_path / "none.svg"
    arrow.write_text('<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L4 2 L0 4 Z"/></svg>')
    none.write_text("no picture")
    page.find("[data-shape-file]").send_keys(str(none))
    page.wait_text("body", "none.svg: it is no SVG file")
    page.find("[data-shape-file]").send_keys(str(arrow))
    made = wait_for(lambda: shape_of(page, styled), "the arrow")
    assert made["look"]["shape"] == "M0 0 L1 0.5 L0 1 L0 0 Z"


def test_a_caption_is_elsewhere_at_another_moment(page: Page, styled) -> None:
    page.press("m")
    stored_when(page, styled, lambda c: said(c["look"]).get("moments"), "the first moment")
    page.wait_saved()
    first = page.script(NUMBERS)
    for _ in range(10):
        page.press(".")
    page.press(*["Shift+ARROW_UP"] * 4)

    def is_forty_up(caption: dict[str, Any]) -> bool:
        one, *more = caption["look"]["moments"]
        return bool(more) and one["y"] - more[0]["y"] == pytest.approx(40 / 720, abs=1e-4)

    moved = stored_when(page, styled, is_forty_up, "the second moment")
    one, two = moved["look"]["moments"]
    assert two["at_ms"] - one["at_ms"] == 400
    page.wait_saved()
    last = page.script(NUMBERS)
    # Half the way it is half as far up, and at its moments where it was put.
    for _ in range(5):
        page.press(",")
    middle = (first[1] + last[1]) / 2
    wait_for(lambda: abs(page.script(NUMBERS)[1] - middle) < 1, "the frame to be half way")
    page.press("Ctrl+ARROW_LEFT")
    wait_for(lambda: page.script(NUMBERS) == first, "the frame to be where it began")
    page.press("m")
    stored_when(page, styled, lambda c: len(c["look"]["moments"]) == 1, "the moment to be gone")


def test_keys_pressed_one_after_the_other_go_on_from_each_other(page: Page, styled) -> None:
    before = page.server.get(f"/api/tracks/{styled['tracks'][0]['id']}")["captions"][0]["look"]
    assert before is None
    page.press(*["+"] * 4, *["r"] * 3, "Shift+x")
    look = said(
        stored_when(page, styled, lambda c: said(c["look"]).get("tilt_x"), "all keys")["look"]
    )
    assert look["size"] == pytest.approx(0.07 + 4 / 720)
    assert (look["turn"], look["tilt_x"]) == (3, -1)
    page.wait_saved()
    page.press("m", *["-"] * 2, *["r"] * 2)
    moments = stored_when(
        page,
        styled,
        lambda c: (said(c["look"]).get("moments") or [{}])[0].get("turn") == 5,
        "the moment",
    )["look"]["moments"]
    assert [(m["turn"], m["size"]) for m in moments] == [(5, pytest.approx(0.07 + 2 / 720))]
