"""The transcript read and written on the playing film: words keep their times."""

import json

import pytest
from selenium.webdriver import ActionChains, Keys

from tests.conftest import DEMO, ffmpeg
from tests.server import wait_for
from tests.ui.page import Page

TEXT = "Ring the vell. | Nobody has heard it | since the winter. | Bring the warm coat."


def spoken(text: str = TEXT) -> list[dict]:
    """Words half a second long, a paragraph at each bar; what is misheard is doubtful."""
    words, begins = [], True
    for token in text.split():
        if token == "|":
            begins = True
            continue
        at = 500 * len(words)
        sure = 0.2 if token in ("vell.", "warm") else 0.9
        words.append(
            {"text": token, "start_ms": at, "end_ms": at + 450, "confidence": sure, "begins": begins}
        )  # fmt: skip
        begins = False
    return words


def put_words(page: Page, project: dict, words: list[dict], first: int = 0, count: int = 0) -> None:
    now = page.server.get(f"/api/projects/{project['id']}/words")
    page.server.post(
        f"/api/projects/{project['id']}/transcript/edits",
        json={"base_revision": now["revision"], "first": first, "count": count, "words": words},
    )


@pytest.fixture
def project(page: Page, films):
    project = page.new_project(films["short"])
    put_words(page, project, spoken())
    page.open_project(project, "transcribe")
    page.find("[data-transcript] p")
    return project


def stored(page: Page, project: dict) -> list[dict]:
    words: list[dict] = page.server.get(f"/api/projects/{project['id']}/words")["words"]
    return words


def said(page: Page, project: dict) -> str:
    return " ".join(word["text"] for word in stored(page, project))


def wait_text(page: Page, project: dict, text: str) -> None:
    wait_for(lambda: said(page, project) == text, f"{text!r} stored")


def select_word(page: Page, text: str) -> None:
    """Double-clicks the first such word of the transcript."""
    box = page.script(
        """
        const walker = document.createTreeWalker(document.querySelector('[data-transcript]'), NodeFilter.SHOW_TEXT)
        for (let node; (node = walker.nextNode()); ) {
          if (!node.data.includes(arguments[0])) continue
          const range = document.createRange()
          range.selectNodeContents(node)
          const { left, top, width, height } = range.getBoundingClientRect()
          return [left + width / 2, top + height / 2]
        }
        """,
        text,
    )
    actions = ActionChains(page.browser)
    actions.w3c_actions.pointer_action.move_to_location(*box)
    actions.double_click().perform()
    selected = "return String(getSelection()).trim()"
    wait_for(lambda: page.script(selected) in (text, f"{text}."), f"{text} to be selected")
    page.wait_selection_known()


def test_a_word_put_right_keeps_its_time_and_is_undone(page: Page, project) -> None:
    before = stored(page, project)
    select_word(page, "Nobody")
    page.type("Not one man")
    wait_text(
        page,
        project,
        "Ring the vell. Not one man has heard it since the winter. Bring the warm coat.",
    )
    page.wait_saved()
    after = stored(page, project)
    assert [after[at]["start_ms"] for at in (0, 1, 2)] == [0, 500, 1000]
    assert after[6:] == before[4:]
    assert before[3]["start_ms"] <= after[3]["start_ms"]
    assert after[5]["end_ms"] <= before[4]["start_ms"]
    page.press("Ctrl+z")
    wait_text(page, project, " ".join(word["text"] for word in before))
    page.wait_saved()
    assert [word["start_ms"] for word in stored(page, project)] == [
        n * 500 for n in range(len(before))
    ]


def test_writing_goes_on_where_something_was_taken_back(page: Page, project) -> None:
    before = " ".join(word["text"] for word in stored(page, project))
    select_word(page, "Nobody")
    page.type("Everybody")
    wait_text(page, project, before.replace("Nobody", "Everybody"))
    page.place_cursor("Ctrl+END")
    # On a machine that is slow just then, letters come so far apart that they are several steps.
    while (now := said(page, project)) != before:
        page.press("Ctrl+z")
        wait_for(lambda now=now: said(page, project) != now, "a step to be taken back")
    # What is taken back is stored before the page hears of it.
    cursor_in = "return getSelection().focusNode?.textContent ?? ''"
    wait_for(lambda: "Nobody" in page.script(cursor_in), "the cursor where that was")
    page.type("x")
    wait_text(page, project, before.replace("Nobody", "Nobodyx"))


def shown(page: Page) -> list[str]:
    return [paragraph.text for paragraph in page.all("[data-transcript] p")]


def test_what_another_window_writes_comes_in_and_leaves_the_cursor(page: Page, project) -> None:
    select_word(page, "Nobody")
    put_words(page, project, spoken("Sound the bell. | At last."), 0, 3)
    wait_for(
        lambda: shown(page)
        == ["Sound the bell.", "At last.", "Nobody has heard it", "since the winter.", "Bring the warm coat."],
        "the other window's words",
    )  # fmt: skip
    assert page.script("return String(getSelection())") == "Nobody"
    page.type("Someone")
    wait_text(
        page,
        project,
        "Sound the bell. At last. Someone has heard it since the winter. Bring the warm coat.",
    )


def test_two_windows_write_in_one_transcript_and_nothing_is_lost(page: Page, project) -> None:
    select_word(page, "Nobody")
    with page.offline():
        page.type("Someone ")
        put_words(page, project, spoken("Sound the bell. | At last."), 0, 3)
        put_words(page, project, spoken("Bring the coat."), 12, 4)
    page.type("else ")
    wait_text(
        page,
        project,
        "Sound the bell. At last. Someone else has heard it since the winter. Bring the coat.",
    )
    page.wait_saved()
    assert not page.all("[data-left]")
    assert stored(page, project)[9]["start_ms"] == 3000, "words keep their times"


def test_words_of_a_place_that_another_window_changed_are_kept_apart(page: Page, project) -> None:
    select_word(page, "Nobody")
    with page.offline():
        page.type("Not one man")
        put_words(page, project, spoken("None of us heard it"), 3, 4)
    page.wait_text("[data-left]", "Not one man")
    page.wait_text("[data-left]", "another window changed")
    text = "Ring the vell. None of us heard it since the winter. Bring the warm coat."
    wait_text(page, project, text)
    select_word(page, "None")
    page.click("[data-put-left]")
    wait_text(page, project, text.replace("None", "Not one man"))
    assert not page.all("[data-left]")


def test_tab_goes_from_one_doubtful_word_to_the_next_and_plays_it(page: Page, project) -> None:
    page.find(".transcribe .page").send_keys(Keys.ENTER)
    page.press("TAB")
    wait_for(lambda: page.script("return String(getSelection())") == "vell.", "the first of them")
    wait_for(lambda: page.clock() > "00:00:00.800", "its sound")
    page.press("Ctrl+ENTER")
    wait_for(lambda: page.script("return String(getSelection())") == "warm", "the next")
    wait_for(lambda: stored(page, project)[2]["confidence"] == 1, "the first to be certain")
    page.type("worn")
    wait_for(lambda: stored(page, project)[-2]["text"] == "worn", "the word put right")
    wait_for(lambda: not page.all(".doubtful"), "no doubt to be left")
    page.press("Shift+TAB")
    page.wait_text("[role=alert]", "No doubtful words are left")
    assert page.script("return Boolean(document.activeElement.closest('[data-transcript]'))")


def test_words_are_found_and_replaced_with_their_times(page: Page, project) -> None:
    page.find("[data-transcript]").click()
    page.press("Ctrl+f")
    page.find("[data-find]").send_keys("the")
    page.wait_text(".find [role=status]", "3 found")
    page.all(".find input[type=checkbox]")[0].click()
    page.wait_text(".find [role=status]", "3 found")
    page.find("[data-put]").send_keys("a")
    page.click("[data-replace-all]")
    wait_text(page, project, "Ring a vell. Nobody has heard it since a winter. Bring a warm coat.")
    assert [word["start_ms"] for word in stored(page, project)] == [n * 500 for n in range(14)]


def test_a_pattern_is_used_in_the_transcript_and_one_without_end_is_ended(
    page: Page, project
) -> None:
    page.find("[data-transcript]").click()
    page.press("Ctrl+f")
    page.all(".find input[type=checkbox]")[2].click()
    field = page.find("[data-find]")
    page.overwrite(field, r"(.|.|.|.)+\d$")
    page.wait_text(".find [role=status]", "takes too long")
    page.overwrite(field, r"(v)ell|(w)arm")
    page.wait_text(".find [role=status]", "2 found")
    page.overwrite(page.find("[data-put]"), "\N{BELL}$1b")
    page.click("[data-replace-all]")
    wait_text(
        page,
        project,
        "Ring the \N{BELL}vb. Nobody has heard it since the winter. Bring the \N{BELL}b coat.",
    )
    page.overwrite(page.find("[data-put]"), "x")
    page.overwrite(field, "b")
    page.wait_text(".find [role=status]", "4 found")
    lit = "return [...CSS.highlights.get('found')].map(String).join()"
    wait_for(
        lambda: page.script(lit) == "b,b,B,b", "the hits behind an emoji to be lit where they are"
    )


def test_speakers_are_named_and_given_by_key(page: Page, project) -> None:
    for number, name in enumerate(("Ilse Varga", "Tobit Ahlund"), 1):
        page.click("[data-add-speaker]")
        wait_for(lambda n=number: len(page.all("[data-speaker-name]")) == n, "the new speaker")
        field = page.all("[data-speaker-name]")[-1]
        page.overwrite(field, name, Keys.ENTER)
        wait_for(
            lambda n=name: n in [
                s["name"] for s in page.server.get(f"/api/projects/{project['id']}")["speakers"]
            ],
            name,
        )  # fmt: skip
    page.press("1", ">", ">", "2")
    wait_for(
        lambda: (
            [word["speaker"] for word in stored(page, project)][:8]
            == ["Ilse Varga"] * 3 + ["Tobit Ahlund"] * 4 + [None]
        ),
        "both to be kept",
    )
    page.all(".speakers li button")[0].click()
    wait_for(lambda: stored(page, project)[3]["speaker"] == "Ilse Varga", "another speaker")
    field = page.all("[data-speaker-name]")[0]
    page.overwrite(field, "Ilse", Keys.ENTER)
    wait_for(lambda: stored(page, project)[0]["speaker"] == "Ilse", "the new name on the words")
    first = "return document.querySelector('[data-transcript] p').dataset.speaker"
    wait_for(lambda: page.script(first) == "Ilse", "the new name on the page")


def test_the_word_that_is_spoken_is_lit_and_a_click_on_a_time_plays(page: Page, project) -> None:
    lit = "return [...CSS.highlights.get('spoken')].map(String).join()"
    page.script("document.querySelector('.transcribe .page').focus()")
    page.press("SPACE")
    wait_for(lambda: page.script(lit) == "the", "the second word")
    wait_for(lambda: page.script(lit) == "vell.", "the third")
    page.press("SPACE")
    # A pause steps back, to be understood when it goes on.
    wait_for(lambda: page.clock() < "00:00:01.300", "half a second back")
    second = page.all("[data-transcript] p")[1]
    ActionChains(page.browser).move_to_element_with_offset(
        second, 60 - second.size["width"] // 2, 18 - second.size["height"] // 2
    ).click().perform()
    wait_for(lambda: page.clock() > "00:00:01.700", "the film to play from there")


def test_the_transcript_is_saved_as_text(page: Page, project, downloads) -> None:
    select_word(page, "warm")
    page.type("worn")
    next(one for one in page.all(".out [role=radio]") if one.text == "Plain text").click()
    wait_for(lambda: page.all(".out input[type=checkbox]"), "what it holds")[0].click()
    page.click("[data-save-transcript]")
    saved = downloads / "short.transcript.txt"
    wait_for(saved.exists, "the file")
    assert saved.read_text() == (
        "Ring the vell.\n\nNobody has heard it\n\nsince the winter.\n\nBring the worn coat.\n"
    )


def test_the_page_for_readers_searches_plays_and_comes_back_in(
    page: Page, project, films, downloads
) -> None:
    page.click("[data-save-transcript]")
    saved = downloads / "short.transcript.html"
    wait_for(saved.exists, "the page")
    here = page.browser.current_url
    page.browser.get(saved.as_uri())
    page.find("input[type=search]").send_keys("nobody has")
    wait_for(lambda: [mark.text for mark in page.all("mark")] == ["Nobody", "has"], "both words")
    assert page.find("output").text == "1 found"
    page.find("input[type=file]").send_keys(str(films["short"]))
    page.all("section a")[2].click()
    assert page.browser.current_url.endswith("#t3500")
    wait_for(
        lambda: page.script("return document.querySelector('video').currentTime") >= 3.5,
        "the place",
    )
    page.browser.get(here)
    page.find("[data-transcript] p")
    select_word(page, "warm")
    page.type("worn")
    page.wait_saved()
    page.find("[data-transcript-file]").send_keys(str(saved))
    wait_text(page, project, " ".join(word["text"] for word in spoken()))
    page.find("[data-transcript-file]").send_keys(str(films["short"]))
    page.wait_text(".out .problem", "transcript")
    wait_text(page, project, " ".join(word["text"] for word in spoken()))


def test_voices_tell_who_speaks_and_nothing_changes_before_it_is_taken(page: Page, films) -> None:
    said = json.loads((DEMO / "fog-bell.words.json").read_text())["words"][:90]
    project = page.new_project(films["talk"])
    put_words(page, project, [{k: w[k] for k in ("text", "start_ms", "end_ms")} for w in said])
    page.open_project(project, "transcribe")
    page.find("[data-voices-listen]")
    page.press("Alt+v")
    page.wait_text("[data-voices]", "2 voices")
    assert not page.all("[data-transcript] p[data-speaker]")
    page.press("Alt+v")
    page.wait_text("[data-transcript] p", "There used to be a bell.")
    page.wait_saved()

    def told() -> list[tuple[str, str | None]]:
        words = page.server.get(f"/api/projects/{project['id']}/words")["words"]
        return [(word["text"], word["speaker"]) for word in words]

    names = {"ilse": "Speaker 1", "tomas": "Speaker 2"}
    wait_for(lambda: all(speaker for _, speaker in told()), "all words to be somebody's")
    assert told() == [(w["text"], names[w["speaker"]]) for w in said]
    assert [f.get_attribute("value") for f in page.all("[data-speaker-name]")] == list(
        names.values()
    )
    starts = page.script(
        "return [...document.querySelectorAll('[data-transcript] p')].map((p) => p.dataset.speaker)"
    )
    assert starts[:4] == ["Speaker 1", "Speaker 2", "Speaker 1", "Speaker 2"]
    # Gone with one step back, and asked for again it finds the same two.
    page.press("ENTER", "Ctrl+z", "ESCAPE")
    wait_for(lambda: not any(speaker for _, speaker in told()), "nobody to be named")


def test_a_time_is_put_into_the_text_and_played_from(page: Page, project) -> None:
    page.press("ESCAPE", ">", ">")
    wait_for(lambda: page.clock() == "00:00:02.000", "two seconds on")
    page.script("document.querySelector('[data-transcript]').focus()")
    page.place_cursor("Ctrl+END")
    page.press("Alt+t")
    wait_text(page, project, f"{TEXT.replace(' |', '')} [00:02.000]")
    page.press("ESCAPE", "HOME")
    page.click(".time-link")
    wait_for(lambda: page.clock() > "00:00:02.100", "the film to play from there")
    page.press("SPACE")


def test_a_paragraph_is_heard_again_compared_and_taken(page: Page, films) -> None:
    project = page.new_project(films["short"])
    wrong = [
        {"text": text, "start_ms": 600 + n * 320, "end_ms": 900 + n * 320, "begins": n == 0}
        for n, text in enumerate(
            ["Miss", "is", "Killen", "Point", "on", "the", "lost", "day", "of", "January"]
        )
    ]
    page_two = {"text": "End.", "start_ms": 7600, "end_ms": 7900, "begins": True}
    put_words(page, project, [*wrong, page_two])
    page.open_project(project, "transcribe")
    page.find("[data-transcript] p").click()
    page.press("Alt+g")
    page.wait_text("[data-compared]", "last day")
    assert [word["text"] for word in stored(page, project)][:3] == ["Miss", "is", "Killen"]
    page.press("Alt+g")
    wait_for(lambda: "last" in [w["text"] for w in stored(page, project)], "the new words")
    texts = [word["text"] for word in stored(page, project)]
    assert texts[0] == "This"
    assert texts[-1] == "End."
    assert "January" not in texts
    # As one step, in the transcript as everywhere.
    page.press("Ctrl+z")
    wait_for(lambda: stored(page, project)[0]["text"] == "Miss", "the words as they were")


def test_the_sound_is_heard_before_it_is_recognised(page: Page, films) -> None:
    project = page.new_project(films["two-sounds"])
    page.open_project(project, "transcribe")
    page.click("[data-stream] .v-field")
    page.wait_text(".v-list-item", "Rumble").click()
    page.click("[data-voice-focus]")
    page.click("[data-hear-sound]")
    heard = "const a = document.querySelector('[data-heard-sound]'); return [a.src, a.currentTime]"
    wait_for(lambda: page.script(heard)[1] > 0.3, "the sound to be heard")
    assert page.script(heard)[0].endswith("stream=1&voice_focus=true")
    # The same place without it, to compare.
    page.click("[data-voice-focus]")
    wait_for(lambda: page.script(heard)[0].endswith("voice_focus=false"), "the other sound")
    wait_for(lambda: page.script(heard)[1] > 0.3, "it to be heard from there")
    page.click("[data-hear-sound]")
    page.click("[data-quick]")
    page.click("[data-recognise]")
    page.wait_text("[data-transcript]", "day")


def test_words_are_put_into_italics_by_key_and_captions_have_them(page: Page, project) -> None:
    before = stored(page, project)
    select_word(page, "Nobody")
    page.press("Ctrl+i")
    page.wait_text("[data-transcript] em", "Nobody")
    assert page.find("[data-style=italic]").get_attribute("aria-pressed") == "true"
    page.press("Shift+ARROW_RIGHT", "Shift+ARROW_RIGHT")
    page.click("[data-style=bold]")
    wait_for(
        lambda: [w["text"] for w in stored(page, project) if w["bold"]] == ["Nobody", "has"],
        "bold words",
    )
    after = stored(page, project)
    assert [w["text"] for w in after if w["italic"]] == ["Nobody"]
    assert [(w["start_ms"], w["end_ms"]) for w in after] == [
        (w["start_ms"], w["end_ms"]) for w in before
    ]
    page.press("Ctrl+b")
    wait_for(lambda: not any(w["bold"] for w in stored(page, project)), "none in bold")
    page.press("ESCAPE", "m")
    page.find("[data-would-be]")
    page.press("Ctrl+ENTER")
    page.wait_text(".card .italic", "Nobody")
    spans = [
        span
        for caption in page.server.get(f"/api/tracks/{project['tracks'][0]['id']}")["captions"]
        for span in caption["spans"]
    ]
    assert [span["text"] for span in spans if span.get("italic")] == ["Nobody"]


def test_sound_in_which_nobody_is_understood_says_so(page: Page, films, tmp_path) -> None:
    hum = tmp_path / "hum.wav"
    ffmpeg("-f", "lavfi", "-i", "sine=100:d=6", str(hum))
    page.open_project(page.new_project(hum), "transcribe")
    page.click("[data-quick]")
    page.click("[data-recognise]")
    page.wait_text("[data-notice]", "No speech was recognised")
    project = page.new_project(films["short"])
    page.server.post(
        f"/api/projects/{project['id']}/recognise",
        json={"engine": "whisper", "language": "en", "quick": True},
    )
    page.server.wait_for_job(project["id"], "recognise", "done")
    unsure = [word | {"confidence": 0.2} for word in spoken(f"{TEXT} | {TEXT}")]
    put_words(page, project, unsure, count=len(stored(page, project)))
    page.open_project(project, "transcribe")
    page.wait_text("[data-notice]", "Most words are doubtful")
    page.wait_text("[data-notice] button", "Close").click()
    wait_for(lambda: not page.all("[data-notice]"), "the notice to be put away")
    page.find("[data-transcript] p")
