"""The Time stage: keys, drags and text, seen at once and stored."""

from itertools import pairwise

from tests.server import wait_for
from tests.ui.page import Page, captions_every


def stored(page: Page, project, expected) -> None:
    page.wait_saved()
    wait_for(lambda: page.stored(project) == expected, f"{expected}, not {page.stored(project)}")


def times(page: Page, project) -> list[tuple[int, int]]:
    page.wait_saved()
    return [(in_ms, out_ms) for in_ms, out_ms, _ in page.stored(project)]


def wait_times(page: Page, project, index: int, expected: tuple[int, int]) -> None:
    wait_for(
        lambda: times(page, project)[index] == expected, f"{expected}, not {times(page, project)}"
    )


def test_the_transport_plays_steps_and_shuttles(page: Page, project) -> None:
    assert page.clock() == "00:00:00.000"
    page.press(".", ".", ".", ",")
    wait_for(lambda: page.clock() == "00:00:00.080", "two frames on")
    page.press("SPACE")
    wait_for(lambda: page.clock() > "00:00:00.500", "the film to play")
    page.press("l", "l")
    wait_for(
        lambda: page.script("return document.querySelector('video').playbackRate") == 1.5, "1.5×"
    )
    assert page.script("return document.querySelector('video').preservesPitch")
    page.press("k")
    wait_for(
        lambda: page.script("return document.querySelector('video').paused"), "the film to stop"
    )
    assert int(page.clock()[-3:]) % 40 == 0
    page.press("j")
    wait_for(lambda: page.clock() == "00:00:00.000", "the film to run back to its start")
    page.press(">", "HOME")
    wait_for(lambda: page.clock() == "00:00:00.000", "the start")


def test_steps_faster_than_the_browser_seeks_end_where_they_lead(page: Page, project) -> None:
    video = "document.querySelector('video')"
    # In one breath, so that most steps come while the browser is on its way.
    page.script(
        "for (let i = 0; i < 50; i++)"
        " document.body.dispatchEvent(new KeyboardEvent('keydown', {key: '.', bubbles: true}))"
    )
    assert page.clock() == "00:00:02.000"
    wait_for(
        lambda: page.script(f"return !{video}.seeking && {video}.currentTime > 2"), "the last step"
    )
    assert page.script(f"return {video}.currentTime") < 2.04
    page.press("SPACE")
    wait_for(lambda: page.clock() > "00:00:02.500", "the film to play")
    page.press("SPACE")


def test_at_its_end_the_film_stands_on_a_frame_and_plays_again_from_its_start(
    page: Page, project
) -> None:
    page.press(*[">"] * 7, "SPACE")
    wait_for(
        lambda: page.script("return document.querySelector('video').paused"), "the film to end"
    )
    wait_for(lambda: page.clock() >= "00:00:07.900", "the playhead to be at the end")
    assert int(page.clock()[-3:]) % 40 == 0
    page.press("SPACE")
    wait_for(lambda: page.clock() < "00:00:07.000", "the film to play anew")
    page.press("SPACE")


def test_the_page_follows_the_playhead_until_it_is_scrolled(page: Page, project) -> None:
    page.press("+", "+", "+", "SPACE")
    wait_for(
        lambda: page.script("return document.querySelector('.page').scrollTop") > 60,
        "the page to follow",
    )
    page.script(
        "document.querySelector('.page').dispatchEvent(new WheelEvent('wheel', {deltaY: 5, bubbles: true}))"
    )
    held = page.script(
        "const p = document.querySelector('.page'); p.scrollTop = 10; return p.scrollTop"
    )
    before = page.clock()
    wait_for(lambda: page.clock() > before, "the film to go on")
    assert page.script("return document.querySelector('.page').scrollTop") == held
    page.press("k")


def test_ins_and_outs_are_set_at_the_playhead_and_nudged(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN")
    wait_for(lambda: page.clock() == "00:00:02.000", "the second caption's in")
    page.press(".", ".", ".", ".", "i")
    wait_times(page, project, 1, (2160, 3600))
    page.press(">", "o")
    wait_times(page, project, 1, (2160, 3160))
    page.press("[", "[", "}")
    wait_times(page, project, 1, (2080, 3200))
    page.press("Ctrl+ARROW_DOWN")
    wait_times(page, project, 1, (2120, 3240))
    page.press("Ctrl+z")
    wait_times(page, project, 1, (2080, 3200))
    page.press("Ctrl+z", "Ctrl+z")
    wait_times(page, project, 1, (2160, 3160))


def test_an_out_before_the_in_is_refused_in_words(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN", "HOME", "o")
    page.wait_text("[role=alert]", "out would come before the in")
    assert times(page, project)[1] == (2000, 3600)


def test_edges_and_whole_captions_are_dragged_on_frames(page: Page, project) -> None:
    card = page.card(2)
    card.click()
    scale = 50
    page.drag(card.find_element("css selector", "[data-grip=in]"), 20)
    wait_times(page, project, 1, (2000 + 20 * 1000 // scale, 3600))
    page.drag(page.card(2).find_element("css selector", "[data-grip=out]"), -10)
    wait_times(page, project, 1, (2400, 3400))
    page.drag(page.card(2), 30)
    wait_times(page, project, 1, (3000, 4000))
    page.press("Ctrl+z", "Ctrl+z", "Ctrl+z")
    wait_times(page, project, 1, (2000, 3600))


def test_an_edge_cannot_be_dragged_over_the_other(page: Page, project) -> None:
    page.card(1).click()
    page.drag(page.card(1).find_element("css selector", "[data-grip=in]"), 300)
    wait_times(page, project, 0, (1560, 1600))


def test_several_captions_move_together(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN", "Shift+ARROW_DOWN")
    assert len(page.all(".card.chosen")) == 2
    page.press("Ctrl+ARROW_UP")
    wait_times(page, project, 1, (1960, 3560))
    assert times(page, project) == [(0, 1600), (1960, 3560), (3960, 5560), (6000, 7600)]
    page.press("Ctrl+z")
    wait_times(page, project, 2, (4000, 5600))


def test_text_is_judged_while_it_is_typed(page: Page, project) -> None:
    assert page.notes() == ["Too fast: 22.5 cps"] * 4
    page.press("ARROW_DOWN", "ENTER")
    page.find("textarea")
    assert page.find("[data-owner]").text == "Keys: text"
    page.press("Ctrl+a")
    page.type("Short")
    wait_for(lambda: len(page.notes()) == 3, "the first finding to go")
    page.type(" and then so very much longer than any line may be")
    wait_for(lambda: "Line too long: 55" in page.notes(), "the long line to be found")
    page.press("ESCAPE")
    assert page.find("[data-owner]").text == "Keys: Score"
    page.wait_saved()
    assert page.stored(project)[0][2] == "Short and then so very much longer than any line may be"
    page.press("Ctrl+z")
    wait_for(
        lambda: page.stored(project)[0][2].startswith("Caption 1"),
        "one undo to take the typing back",
    )


def test_letters_typed_in_text_time_nothing(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ENTER")
    page.find("textarea")
    page.press("Ctrl+a")
    page.type("iojkl mns, .")
    page.press("Alt+o")
    page.wait_text("[role=alert]", "out would come before the in")
    page.press("ESCAPE")
    page.wait_saved()
    assert page.stored(project)[0] == (0, 1600, "iojkl mns, .")
    assert len(page.stored(project)) == 4


def test_captions_are_inserted_deleted_split_and_merged(page: Page, project) -> None:
    page.press("HOME", ">", ".", "n")
    page.find("textarea")
    page.type("New words")
    page.press("ESCAPE")
    page.wait_saved()
    wait_for(lambda: (1040, 1920, "New words") in page.stored(project), f"{page.stored(project)}")
    page.press("ENTER")
    page.find("textarea")
    page.press("HOME", "ARROW_RIGHT", "ARROW_RIGHT", "ARROW_RIGHT", "Alt+s")
    wait_for(lambda: [t for *_, t in page.stored(project)][1:3] == ["New", "words"], "the split")
    page.press("ARROW_UP", "m")
    wait_for(lambda: [t for *_, t in page.stored(project)][1] == "New\nwords", "the merge")
    page.press("DELETE")
    wait_for(lambda: len(page.stored(project)) == 4, "the deletion")
    for count in (5, 6, 5, 5, 4):
        page.press("Ctrl+z")
        wait_for(lambda count=count: len(page.stored(project)) == count, f"{count} captions")
        page.wait_saved()


def test_a_second_tab_stays_the_same(page: Page, project, server) -> None:
    first = page.browser.current_window_handle
    page.browser.switch_to.new_window("tab")
    page.open_project(project)
    page.card(1)
    page.browser.switch_to.window(first)
    page.press("ARROW_DOWN", "ENTER")
    page.find("textarea")
    page.press("Ctrl+a")
    page.type("Seen in both")
    page.press("ESCAPE", "ARROW_DOWN", "DELETE")
    page.wait_saved()
    second = next(handle for handle in page.browser.window_handles if handle != first)
    page.browser.switch_to.window(second)
    page.wait_text(".card", "Seen in both")
    wait_for(lambda: len(page.all(".card")) == 3, "the deletion in the other tab")
    page.press("Ctrl+z")
    page.browser.switch_to.window(second)
    page.browser.close()
    page.browser.switch_to.window(first)
    wait_for(lambda: len(page.all(".card")) == 4, "the other tab's undo here")


def test_what_the_server_cannot_take_now_is_kept_and_sent_later(page: Page, project) -> None:
    with page.offline():
        page.press("ARROW_DOWN", "ENTER")
        page.find("textarea")
        page.press("Ctrl+a")
        page.type("Kept")
        page.wait_text("[data-saved]", "Not saved")
        assert page.stored(project)[0][2].startswith("Caption 1")
    wait_for(lambda: page.stored(project)[0][2] == "Kept", "the edit to arrive")


def test_far_out_the_cards_are_rows_and_the_same_keys_work(page: Page, project) -> None:
    page.press("-", "-", "-", "-")
    wait_for(lambda: len(page.all(".card.rows")) == 4, "the rows")
    page.press("ARROW_DOWN", "ARROW_DOWN", "DELETE")
    wait_for(lambda: len(page.stored(project)) == 3, "the deletion")
    assert [card.size["height"] for card in page.all(".card")] == [34, 34, 34]


def test_commands_and_captions_are_found_by_name(page: Page, project) -> None:
    page.press("Ctrl+k")
    page.type("caption 3")
    page.wait_text(".hit", "Caption 3 says this")
    page.press("ARROW_DOWN", "ENTER") if "New" in page.find(".hit").text else page.press("ENTER")
    wait_for(lambda: page.current() == "c00002", "the third caption to be selected")
    page.press("?")
    page.wait_text("[data-key-row=split]", "Split at the cursor or playhead")
    page.press("ESCAPE")


def test_a_film_whose_frame_rate_varies_says_so_and_keeps_true_times(page: Page, films) -> None:
    project = page.new_project(films["varying"], captions_every(1000, 2))
    page.open_project(project)
    page.card(1)
    page.wait_text(".status", "variable frame rate")
    assert times(page, project) == [(0, 1600), (1000, 2600)]


def test_a_thousand_and_more_captions_come_back_whole(page: Page, films) -> None:
    project = page.new_project(films["sound"], captions_every(1200, 1300, 1000))
    page.open_project(project)
    page.card(1)
    page.press("Ctrl+a", "DELETE")
    wait_for(lambda: page.stored(project) == [], "all to be deleted")
    page.press("Ctrl+z")
    page.wait_text(".figures", "1300 captions")
    page.script("const p = document.querySelector('.page'); p.scrollTop = p.scrollHeight")
    wait_for(lambda: "Caption 1300 says this" in page.card(1300).text, "the last one")


def test_captions_that_overlap_stand_beside_each_other(page: Page, films) -> None:
    times = [(0, 4000), (1000, 5000), (1500, 3000), (5200, 7000)]
    captions = [
        {"id": f"c{n}", "in_ms": in_ms, "out_ms": out_ms, "spans": [{"text": f"Voice {n + 1}"}]}
        for n, (in_ms, out_ms) in enumerate(times)
    ]
    project = page.new_project(films["short"], captions)
    page.open_project(project)
    boxes = [page.card(n + 1).rect for n in range(4)]
    lanes, alone = boxes[:3], boxes[3]
    assert [box["x"] for box in lanes] == sorted({box["x"] for box in lanes})
    assert all(a["x"] + a["width"] <= b["x"] + 1 for a, b in pairwise(lanes))
    assert abs(sum(box["width"] for box in lanes) - alone["width"]) < 2
    # Each is reached by pointer, the one in the middle of the other two's time as well.
    page.card(3).click()
    page.find(".card.current[data-caption=c2]")
    page.press("DELETE")
    wait_for(lambda: len(page.stored(project)) == 3, "one lane fewer")
    wait_for(lambda: abs(page.card(1).rect["width"] - alone["width"] / 2) < 2, "two lanes")


def test_a_text_in_two_directions_is_parted_where_its_cursor_is_by_the_order_of_writing(
    page: Page, films
) -> None:
    said = "مرحبا Anna Berg بكم"
    caption = {"id": "a", "in_ms": 0, "out_ms": 4000, "spans": [{"text": said}]}
    project = page.new_project(films["short"], [caption])
    page.server.http.patch(f"/api/projects/{project['id']}", json={"language": "ar"})
    page.open_project(project)
    page.card(1)
    page.press("ARROW_DOWN", "ENTER")
    field = page.find("textarea")
    assert field.value_of_css_property("direction") == "rtl"
    at = said.index("Berg")
    page.script("arguments[0].setSelectionRange(arguments[1], arguments[1])", field, at)
    page.press("Alt+s")
    wait_for(lambda: len(page.stored(project)) == 2, "two captions")
    assert [text for *_, text in page.stored(project)] == ["مرحبا Anna", "Berg بكم"]
