"""Timing many captions: keys on the playing film, panels beside the Score, ghosts before the deed."""

import pytest
from selenium.webdriver import ActionChains, Keys

from tests.server import wait_for
from tests.ui.page import Page, captions_every
from tests.ui.test_score import times, wait_times

# Notes the film's time at each key, by the event's own clock, as a second opinion; and how late the page heard of it, by
# which that may be off where the film was not drawn meanwhile.
_WATCH_KEYS = """
  window.pressed = [];
  const video = document.querySelector('video');
  const note = (event) => {
    if (event.repeat || event.key !== 'f') return;
    const late = performance.now() - event.timeStamp;
    window.pressed.push([event.type, video.currentTime * 1000 - late * video.playbackRate, late]);
  };
  window.addEventListener('keydown', note, true);
  window.addEventListener('keyup', note, true);
"""


def demo_captions(page: Page) -> list[dict]:
    """What is said in the demo film."""
    project = page.server.get("/api/projects/the-fog-bell-at-quillan-point")
    captions = page.server.get(f"/api/tracks/{project['tracks'][0]['id']}")["captions"]
    return [caption for caption in captions if caption["speaker"]]


def play_cues(page: Page, way: int) -> None:
    """Opens the panel, chooses a way without help of speech, and begins at the film's start."""
    page.press("c")
    page.find("[data-cue]")
    page.all(".panel [role=radio]")[way].click()
    snapping = page.find(".panel input[type=checkbox]")
    if snapping.is_selected():
        snapping.click()
    page.script(_WATCH_KEYS)
    page.click("[data-cue]")
    page.find("[data-next]")
    wait_for(lambda: page.clock() > "00:00:00.200", "the film to play")


def wait_clock(page: Page, clock: str) -> None:
    wait_for(lambda: page.clock() > clock, f"the film to come to {clock}")


def test_keys_set_ins_at_the_films_time_and_it_ends_at_the_last_line(page: Page, project) -> None:
    play_cues(page, 0)
    for clock in ("00:00:00.400", "00:00:01.300", "00:00:02.300", "00:00:03.200"):
        wait_clock(page, clock)
        page.press("f")
    wait_for(lambda: page.all("[data-cue]"), "cueing to end by itself")
    page.wait_saved()
    pressed = [
        (at, late) for kind, at, late in page.script("return window.pressed") if kind == "keydown"
    ]
    ins = [in_ms for in_ms, _ in times(page, project)]
    assert len(pressed) == 4
    assert all(
        abs(set_at - at) < 40 + late for set_at, (at, late) in zip(ins, pressed, strict=True)
    ), (ins, pressed)
    # Each out follows at the gap of two frames.
    outs = [out_ms for _, out_ms in times(page, project)]
    assert [b - a for a, b in zip(outs[:3], ins[1:], strict=True)] == [80, 80, 80]


def test_a_key_held_down_is_the_line(page: Page, project) -> None:
    play_cues(page, 3)
    wait_clock(page, "00:00:00.500")
    ActionChains(page.browser).key_down("f").perform()
    wait_clock(page, "00:00:01.400")
    ActionChains(page.browser).key_up("f").perform()
    (_, down, down_late), (_, up, up_late) = wait_for(
        lambda: (seen := page.script("return window.pressed"))[1:] and seen[:2], "both keys"
    )
    wait_for(lambda: abs(times(page, project)[0][1] - up) < 40 + up_late, f"the out at {up}")
    assert abs(times(page, project)[0][0] - down) < 40 + down_late
    page.press("ESCAPE")


def test_stepping_back_sets_the_line_again(page: Page, project) -> None:
    play_cues(page, 2)
    wait_clock(page, "00:00:00.600")
    page.press("f")
    wait_clock(page, "00:00:01.200")
    page.press("d")
    page.wait_text("[data-next]", "Caption 2")
    first = times(page, project)[0]
    page.press("BACKSPACE")
    page.wait_text("[data-next]", "Caption 1")
    page.press("f", "ESCAPE")
    wait_for(lambda: times(page, project)[0][0] != first[0], "another in")


def test_captions_are_moved_as_their_ghosts_show(page: Page, project) -> None:
    before = times(page, project)
    page.press("t")
    field = page.find("[data-amount] input")
    field.send_keys("-3")
    page.wait_text(".below", "2 captions would start before the film")
    assert page.all("[data-ghost]")
    assert times(page, project) == before
    page.wait_text(".below button", "Shift all by less").click()
    wait_for(lambda: not page.find("[data-apply]").is_enabled(), "nothing to be left to move")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("+12f")
    wait_for(lambda: page.find("[data-apply]").text == "Move 4 captions", "the ghosts")
    page.press("Ctrl+ENTER")
    wait_times(page, project, 0, (480, 2080))
    field.send_keys("nonsense")
    page.wait_text("[role=alert]", "is not a time")
    page.press("ESCAPE")
    page.click(".panel header button")
    page.press("Ctrl+z")
    wait_for(lambda: times(page, project) == before, "one step of undo")


def test_two_anchors_stretch_what_lies_between(page: Page, project) -> None:
    page.press("t")
    page.wait_text(".panel [role=radio]", "By anchors").click()
    page.script("document.querySelector('.page').focus()")
    page.press("ARROW_DOWN", "a", "ARROW_DOWN", "ARROW_DOWN", ">", "a")
    wait_for(lambda: len(page.all(".anchors li")) == 2, "two anchors")
    page.wait_text("[data-apply]", "Move 4 captions")
    page.press("Ctrl+ENTER")
    wait_times(page, project, 1, (2480, 4480))
    wait_times(page, project, 2, (5000, 7000))


def test_the_sound_tells_where_a_late_file_belongs(page: Page, films) -> None:
    captions = demo_captions(page)
    late = [
        {"id": c["id"], "in_ms": c["in_ms"] + 2000, "out_ms": c["out_ms"] + 2000,
         "spans": [{"text": "said"}]}
        for c in captions
    ]  # fmt: skip
    project = page.new_project(films["talk"], late)
    page.open_project(project)
    page.press("t")
    page.wait_text(".panel [role=radio]", "From the sound").click()
    page.click("[data-listen]")
    page.wait_text(".found", "off by the same amount")
    assert page.find(".plot svg")
    page.wait_text(".figures", "confidence")
    wait_for(lambda: "41" in page.find("[data-apply]").text, "all to be moved")
    page.click("[data-apply]")
    page.wait_saved()
    moved = [in_ms for in_ms, _ in times(page, project)]
    assert all(abs(a - c["in_ms"]) <= 80 for a, c in zip(moved, captions, strict=True))


def test_times_are_typed_in_any_usual_notation(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN", "e")
    field = page.find("[data-typed=in]")
    wait_for(lambda: page.script("return document.activeElement") == field, "the field")
    page.overwrite(field, "-3f", Keys.ENTER)
    wait_times(page, project, 1, (1880, 3600))
    page.wait_text(".times [role=status]", "in −0.120 s")
    duration = page.find("[data-typed=duration]")
    page.overwrite(duration, "0:01.2", Keys.ENTER)
    wait_times(page, project, 1, (1880, 3080))
    page.overwrite(duration, "soon", Keys.ENTER)
    page.wait_text(".times .wrong", "soon")
    assert times(page, project)[1] == (1880, 3080)


def test_captions_are_added_doubled_merged_and_exchanged_by_key(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN", "a")
    page.find("textarea")
    page.press("ESCAPE")
    wait_times(page, project, 2, (3680, 3920))
    page.press("Ctrl+z", "ARROW_DOWN")
    wait_for(lambda: len(times(page, project)) == 4, "the new one to be gone")
    before = [text for *_, text in page.stored(project)]
    at = before.index(page.find(".card.current textarea, .card.current .text").text)
    page.press("x")
    wait_for(
        lambda: (
            [text for *_, text in page.stored(project)][at : at + 2] == before[at : at + 2][::-1]
        ),
        "texts to be exchanged",
    )
    page.press("Shift+M")
    wait_for(lambda: len(times(page, project)) == 3, "two to be one")
    page.press("Ctrl+d")
    wait_for(lambda: len(times(page, project)) == 4, "the same again")


def test_hearing_the_last_half_second_stops_at_the_out(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN", "u")
    wait_for(lambda: page.clock() > "00:00:03.200", "the end to be heard")
    wait_for(lambda: page.script("return document.querySelector('video').paused"), "it to stop")
    assert page.clock() == "00:00:03.600"


def test_a_drag_over_empty_time_makes_a_caption_and_shift_moves_all_later(
    page: Page, films
) -> None:
    project = page.new_project(films["short"], captions_every(4000, 2))
    page.open_project(project)
    page.card(1)
    flow = page.find(".cards")
    height = flow.size["height"]
    actions = ActionChains(page.browser, duration=40)
    actions.move_to_element_with_offset(flow, 0, 120 - height // 2).click_and_hold()
    for _ in range(4):
        actions.move_by_offset(0, 10)
    actions.release().perform()
    page.find("textarea")
    page.press("ESCAPE")
    wait_for(lambda: len(times(page, project)) == 3, "a caption in the gap")
    in_ms, out_ms = times(page, project)[1]
    assert 1600 <= in_ms < out_ms <= 4000
    page.press("Ctrl+z")
    wait_for(lambda: len(times(page, project)) == 2, "it to be gone")
    page.find("[data-snap=speech]").click()
    card = page.card(1)
    actions = ActionChains(page.browser, duration=40)
    actions.move_to_element(card).click_and_hold().key_down(Keys.SHIFT)
    for _ in range(5):
        actions.move_by_offset(0, 10)
    actions.release().key_up(Keys.SHIFT).perform()
    moved = wait_for(lambda: times(page, project)[0][0] >= 900 and times(page, project), "the move")
    assert moved[1][0] - moved[0][0] == 4000


def fitted(page: Page, film, texts: list[str]) -> dict:
    """A project of captions that stand anywhere, fitted to the film's speech."""
    script = [
        {"id": f"c{n}", "in_ms": n * 1000, "out_ms": n * 1000 + 900, "spans": [{"text": text}]}
        for n, text in enumerate(texts)
    ]
    project = page.new_project(film, script)
    page.open_project(project)
    page.press("T")
    page.click("[data-fit]")
    page.wait_text(".panel [role=status]", f"{len(texts)} captions fitted")
    return project


def test_fitting_sets_captions_to_their_words(page: Page, films) -> None:
    texts = [
        "This is Quillan Point,\non the last day of February.",
        "I am Ilse Varga, and I have kept",
    ]
    project = fitted(page, films["short"], texts)
    assert page.all("[data-ghost]")
    page.press("Ctrl+ENTER")
    wait_for(lambda: times(page, project)[1][0] > 2000, "the captions to be moved")
    # The film's words begin at 6.6 and 10.4 seconds, of which this part leaves out six.
    assert [in_ms for in_ms, _ in times(page, project)] == pytest.approx([600, 4425], abs=120)


def test_doubtful_captions_are_fitted_again_heard_and_accepted(page: Page, films) -> None:
    texts = [
        "This is Quillan Point,\non the last day of February.",
        "Seven llamas juggle umbrellas",
        "I am Ilse Varga, and I have kept",
    ]
    project = fitted(page, films["short"], texts)
    page.press("Ctrl+ENTER")
    page.wait_text("[data-doubtful]", "Seven llamas")
    wait_for(lambda: page.current() == "c1", "the doubtful one to be current")
    wait_for(lambda: page.clock() > "00:00:01.000", "its sound")
    page.press("r")
    wait_for(
        lambda: sum(job["kind"] == "fit" and job["state"] == "done" for job in page.server.get(
            f"/api/projects/{project['id']}")["jobs"]) == 2,
        "a second fit",
    )  # fmt: skip
    page.wait_text("[data-doubtful]", "Seven llamas")
    wait_for(lambda: page.find("[data-redo]").is_enabled(), "it to be done")
    page.press("ENTER")
    page.find("[data-fit]")


def test_the_page_goes_along_turns_or_stays(page: Page, project) -> None:
    def top() -> int:
        return page.script("return document.querySelector('.page').scrollTop")

    page.press("+", "+", "+", "Shift+F", "Shift+F")
    page.wait_text("[data-scrolling]", "Stay")
    page.press("SPACE")
    wait_clock(page, "00:00:00.100")
    held = top()
    wait_clock(page, "00:00:02.500")
    assert top() == held
    page.press("SPACE", "HOME", "Shift+F")
    page.wait_text("[data-scrolling]", "Scroll along")
    page.press("SPACE")
    wait_clock(page, "00:00:01.000")
    before = top()
    wait_for(lambda: top() > before, "the page to go along")
    page.press("SPACE")


def test_ten_beats_tell_by_how_much_a_hand_is_late(page: Page, project) -> None:
    page.press("c")
    before = page.find("[data-reaction]").get_attribute("value")
    page.click("[data-beats]")
    # A hand that is 150 ms late: it waits for each beat to be counted, and then a while.
    page.script("""
        let last = 0
        const press = () => document.body.dispatchEvent(
          new KeyboardEvent('keydown', { key: 'f', code: 'KeyF', bubbles: true }))
        const watch = () => {
          const beat = Number(document.querySelector('[data-beat]')?.dataset.beat ?? 0)
          if (beat > last) setTimeout(press, 150)
          last = Math.max(beat, last)
          if (last < 10) requestAnimationFrame(watch)
        }
        watch()
    """)
    page.find("[data-beat='10']")
    late = page.find("[data-reaction]").get_attribute("value")
    assert late != before
    assert 100 <= int(late) <= 260


def test_accepting_changes_no_time(page: Page, project) -> None:
    before = page.stored(project)
    page.press("ARROW_DOWN", ".", ".", ".", ".", ".", "Shift+ENTER")
    wait_for(lambda: page.current() == "c00001", "the next caption")
    assert page.clock() == "00:00:02.000"
    page.wait_saved()
    assert page.stored(project) == before


def test_ending_one_here_sets_the_out_and_goes_on_after_the_gap(page: Page, project) -> None:
    page.press("ARROW_DOWN", ".", ".", ".", ".", ".", "Shift+o")
    wait_times(page, project, 0, (0, 200))
    assert page.current() == "c00001"
    assert page.clock() == "00:00:02.000"
    # Where two overlap, the next one's in follows at the gap.
    page.press("ARROW_UP", "e")
    page.find("[data-typed=out]").send_keys(Keys.CONTROL, "a", Keys.NULL, "2.4", Keys.ENTER)
    wait_times(page, project, 0, (0, 2400))
    page.card(1).click()
    page.press("HOME", "Shift+o")
    wait_times(page, project, 1, (2480, 4080))


def test_a_caption_is_heard_again_and_again_and_slowly(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN", "Shift+H")
    wait_for(lambda: page.clock() > "00:00:03.300", "the end of the caption")
    wait_for(lambda: "00:00:01.990" < page.clock() < "00:00:02.600", "its beginning again")
    page.press("k", "Ctrl+h")
    rate = "return document.querySelector('video').playbackRate"
    wait_for(lambda: page.script(rate) == 0.5, "half the speed")
    wait_for(lambda: page.script("return document.querySelector('video').paused"), "the out")


def test_captions_are_put_before_in_a_gap_and_from_what_was_copied(page: Page, films) -> None:
    project = page.new_project(films["short"], captions_every(3000, 2, 1000))
    page.open_project(project)
    page.card(2)
    page.press("ARROW_DOWN", "ARROW_DOWN", "b")
    page.find("textarea")
    page.press("ESCAPE")
    wait_times(page, project, 1, (1080, 2920))
    page.press("Ctrl+z")
    wait_for(lambda: len(times(page, project)) == 2, "it to be gone")
    page.press("HOME", ">", *["."] * 12)
    wait_for(lambda: page.clock() == "00:00:01.480", "the gap")
    wait_for(lambda: page.all(".gap.spoken, .gap.quiet"), "the page to know where somebody speaks")
    page.press("g")
    page.find("textarea")
    page.press("ESCAPE")
    wait_for(lambda: len(times(page, project)) == 3, "one in the gap")
    in_ms, out_ms = times(page, project)[1]
    speech = page.server.get(f"/api/films/{project['film']['id']}/speech")["stretches"]
    assert any(s["start_ms"] - 20 <= in_ms < out_ms <= s["end_ms"] + 20 for s in speech)
    page.browser.execute_cdp_cmd(
        "Browser.grantPermissions", {"permissions": ["clipboardReadWrite", "clipboardSanitizedWrite"]}
    )  # fmt: skip
    page.browser.execute_async_script(
        "navigator.clipboard.writeText('Row out.\\n\\nRow back.').then(arguments[0])"
    )
    page.press("END", "ARROW_UP", "Ctrl+v")
    wait_for(
        lambda: {"Row out.", "Row back."} <= {text for *_, text in page.stored(project)},
        "a caption for each line",
    )
    assert len(times(page, project)) == 5


def test_what_is_locked_stays_under_keys_and_pointer(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN", "Shift+L")
    page.find("[data-locked]")
    page.press("]")
    page.wait_text("[role=alert], .refusal", "locked")
    ActionChains(page.browser, duration=40).drag_and_drop_by_offset(page.card(2), 0, 60).perform()
    assert times(page, project)[1] == (2000, 3600)
    page.press("Shift+L", "]")
    wait_times(page, project, 1, (2040, 3600))


def test_the_nudge_is_as_far_as_it_is_set(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN")
    page.find("[data-nudge]").send_keys("100")
    page.find(".page").click()
    page.press("ARROW_UP", "ARROW_DOWN", "]", "]")
    at = [card.get_attribute("data-caption") for card in page.all(".card")].index(page.current())
    wait_times(page, project, at, (at * 2000 + 200, at * 2000 + 1600))


def test_shot_changes_are_put_and_taken_at_the_playhead(page: Page, project) -> None:
    page.server.wait_idle()
    page.press(*["."] * 10, "Shift+S")

    def shots():
        return page.server.get(f"/api/projects/{project['id']}")["shots"]

    wait_for(lambda: 400 in (shots() or []), "the shot change")
    page.press("Shift+S")
    wait_for(lambda: 400 not in shots(), "it to be gone")


def test_the_sound_is_drawn_as_pitches(page: Page, project) -> None:
    column = """
        const canvas = document.querySelector('canvas.sound')
        const { width, height } = canvas
        const pixels = canvas.getContext('2d').getImageData(width * 0.7, 0, width * 0.28, height).data
        return new Set(pixels.filter((_, at) => at % 4 === 3)).size
    """
    outline = page.script(column)
    page.press("p")
    # Pitches are many shades of one ink, an outline is few.
    wait_for(lambda: page.script(column) > max(3 * outline, 40), "the pitches")
    page.click("[data-sound]")
    contrast = page.find("[data-contrast]")
    before = page.script(column)
    contrast.send_keys(Keys.END)
    wait_for(lambda: page.script(column) != before, "another contrast")
    page.press("ESCAPE")


def test_cueing_goes_on_where_it_stopped_and_other_keys_rest(page: Page, project) -> None:
    page.press("c", "ENTER")
    page.wait_text("[data-coming]", "Caption 2")
    page.find(".card.awaited[data-number='1']")
    page.press("f")
    page.find(".card.awaited[data-number='2']")
    page.press("n", "s", "DELETE", "ESCAPE")
    wait_for(lambda: page.find("[data-cue]").is_displayed(), "cueing to stop")
    assert len(times(page, project)) == 4
    assert page.current() == page.card(2).get_attribute("data-caption")
    page.press("ENTER")
    page.wait_text("[data-next]", "Caption 2")
    page.press("ESCAPE")


def test_a_typed_time_is_one_step_of_undo_and_undo_leaves_the_selection(
    page: Page, project
) -> None:
    before = times(page, project)
    page.press("ARROW_DOWN", "m")
    wait_for(lambda: len(times(page, project)) == 3, "the merge")
    page.press("ARROW_DOWN", "e", "Ctrl+a")
    page.type("4.1\n")
    page.press("TAB", "ESCAPE")
    wait_for(lambda: times(page, project)[1][0] == 4080, "the in, on a frame")
    page.press("Ctrl+z")
    wait_for(lambda: times(page, project)[1][0] == 4000, "one step")
    here = page.current()
    page.press("Ctrl+z")
    wait_for(lambda: times(page, project) == before, "the merge to be undone")
    assert page.current() == here


def test_captions_held_at_zero_and_past_the_end_are_told(page: Page, project) -> None:
    page.press("t")
    page.find("[data-amount] input").send_keys("-3")
    page.find("[data-at-zero]")
    page.find("[data-amount] input").send_keys(Keys.CONTROL, "a", Keys.NULL, "+5")
    page.wait_text("[data-past-end]", "after the film")


def test_the_selected_caption_stays_in_place_however_fast_one_zooms(page: Page, project) -> None:
    page.press("ARROW_DOWN", "ARROW_DOWN")

    def top() -> float:
        return page.script(
            "return document.querySelector('.card.current').getBoundingClientRect().top"
        )

    before = top()
    page.press("=", "=", "=")
    wait_for(lambda: page.card(2).size["height"] > 200, "the card to grow")
    assert abs(top() - before) < 3


def test_the_overlay_is_drawn_to_its_box_after_a_resize(page: Page, project) -> None:
    page.press("ARROW_DOWN", "Alt+=", "Alt+=")
    page.press("ESCAPE", "HOME")
    box = "return document.querySelector('canvas[data-overlay]').getBoundingClientRect().width"
    wait_for(lambda: page.script(box) > 500, "the picture to grow")
    drawn = "return document.querySelector('canvas[data-overlay]').width"
    wait_for(
        lambda: abs(page.script(drawn) - page.script(box)) < 2, "the overlay to be drawn to it"
    )
