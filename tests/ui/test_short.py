"""Short form: a clip is heard and comes in a look; words are carried, weighed and left out by key; looks are changed and kept."""

import json
from pathlib import Path

import pytest

from tests.conftest import ffmpeg
from tests.server import Server, wait_for
from tests.ui.page import Page

LOW_WATER = {"id": "low-water"}


@pytest.fixture
def short(page: Page) -> Page:
    """The demo's short as it is at first, whatever was done to it."""
    server = page.server
    track = server.get(f"/api/projects/{LOW_WATER['id']}")["tracks"][0]["id"]
    there = [caption["id"] for caption in server.get(f"/api/tracks/{track}")["captions"]]
    if there:
        gone = {"kind": "delete-captions", "captions": there}
        body = {"base_revision": server.get(f"/api/tracks/{track}")["revision"], "gesture": "gone"}
        server.post(f"/api/tracks/{track}/edits", json={**body, "operation": gone})
    look = next(each["look"] for each in server.get("/api/looks") if each["default"])
    body = {"base_revision": server.get(f"/api/tracks/{track}")["revision"], "gesture": "anew"}
    server.post(f"/api/tracks/{track}/short", json={**body, "look": look})
    page.open_project(LOW_WATER, "style?view=short")
    page.find("[data-word]")
    return page


def captions(page: Page) -> list[dict]:
    track = page.server.get(f"/api/projects/{LOW_WATER['id']}")["tracks"][0]["id"]
    return page.server.get(f"/api/tracks/{track}")["captions"]


def texts(page: Page) -> list[str]:
    return ["".join(s["text"] for s in c["spans"]).replace("\n", " ") for c in captions(page)]


def known(page: Page, text: str) -> dict:
    return next(s["spoken"] for c in captions(page) for s in c["spans"] if s["text"] == text)


def cursor(page: Page) -> str:
    return page.find("[data-word].on").get_dom_attribute("data-word")


def changed(page: Page, before: list[str]) -> list[str]:
    return wait_for(lambda: (now := texts(page)) != before and now, "other captions")


def test_words_are_carried_parted_joined_and_left_out_by_key(short: Page) -> None:
    before = texts(short)
    assert before[:2] == ["They hung a bell", "nobody alive had heard ring."]
    short.press("ARROW_DOWN")
    wait_for(lambda: cursor(short) == "nobody", "the cursor below")
    short.press("Shift+ARROW_UP")
    now = changed(short, before)
    assert now[:2] == ["They hung a bell nobody", "alive had heard ring."]
    # The word keeps its time, and the cursor is on it still.
    assert cursor(short) == "nobody"
    short.press("Shift+ARROW_DOWN")
    assert changed(short, now)[:2] == before[:2]
    short.press("ARROW_RIGHT", "/")
    now = changed(short, before)
    assert now[1:3] == ["nobody", "alive had heard ring."]
    short.press("BACKSPACE")
    now = changed(short, now)
    assert now[1] == "nobody alive had heard ring."
    short.press("x")
    now = changed(short, now)
    assert now[1] == "nobody had heard ring."
    for _ in range(5):
        short.press("Ctrl+z")
        short.wait_saved()
    wait_for(lambda: texts(short) == before, "all to be taken back")


def test_a_word_is_written_anew_and_keeps_its_time(short: Page) -> None:
    short.press("ARROW_RIGHT", "ARROW_RIGHT", "ARROW_RIGHT")
    wait_for(lambda: cursor(short) == "bell", "the word")
    before = known(short, "bell")
    short.press("ENTER")
    short.find("[data-word-field]:focus")
    short.press("Ctrl+a")
    short.type("gong")
    short.press("ENTER")
    wait_for(lambda: "gong" in texts(short)[0].split(), "the other word")
    assert known(short, "gong") == before
    # The keys are the page's again.
    short.press("ARROW_LEFT")
    wait_for(lambda: cursor(short) == "a", "the word before")
    short.press("Ctrl+z")
    wait_for(lambda: "bell" in texts(short)[0].split(), "it to be taken back")


def test_a_heading_opens_the_clip_and_no_rhythm_takes_it(short: Page) -> None:
    short.press("Shift+H")
    short.find("[data-heading]:focus")
    short.type("A bell nobody heard")
    short.press("ESCAPE")
    heading = wait_for(
        lambda: next((c for c in captions(short) if c["style"] == "Opening heading"), None),
        "the heading",
    )
    assert (heading["locked"], heading["in_ms"]) == (True, 0)
    short.wait_saved()
    before = texts(short)
    short.press("-")
    now = changed(short, before)
    assert "A bell nobody heard" in now
    short.press("Shift+H", "Ctrl+a", "BACKSPACE", "ESCAPE")
    wait_for(lambda: "A bell nobody heard" not in texts(short), "no heading")


def test_a_word_is_made_one_of_weight_and_gets_an_emoji_by_name(short: Page) -> None:
    short.press("ARROW_RIGHT")
    wait_for(lambda: cursor(short) == "hung", "the next word")
    short.press("g")
    wait_for(lambda: known(short, "hung").get("emphasis") == 1, "a word of weight")
    short.press("e")
    short.find("[data-emoji-search]:focus")
    short.type("anchor")
    short.find("[data-emoji='⚓']")
    short.press("ENTER")
    wait_for(lambda: known(short, "hung").get("emoji") == "⚓", "the emoji")
    short.click("[data-emoji-off]")
    wait_for(lambda: not known(short, "hung").get("emoji"), "no emoji")
    short.press("ESCAPE", "g", "g")
    wait_for(lambda: known(short, "hung").get("emphasis") == 0, "no weight")


def test_a_look_and_how_much_is_shown_at_once_are_changed_by_key_and_kept_under_a_name(
    short: Page, server: Server
) -> None:
    before = texts(short)
    short.press("q")
    short.find("[data-look='Torn strip'][aria-selected=true]")
    short.press("q")
    short.find("[data-look='Ferry'][aria-selected=true]")
    project = server.get(f"/api/projects/{LOW_WATER['id']}")
    wait_for(
        lambda: server.get(f"/api/projects/{LOW_WATER['id']}")["tracks"][0]["style"] == "Ferry",
        "it",
    )
    assert project["tracks"][0]["name"] == ""
    now = changed(short, before)
    short.press("-")
    assert len(changed(short, now)) > len(now)
    example = short.find("[data-example]").text
    assert len(example.split()) <= 4
    short.press("Shift+K")
    short.find("[data-look-name]:focus")
    short.press("Ctrl+a")
    short.type("Ours")
    short.press("ENTER")
    wait_for(lambda: server.get("/api/looks")[0]["look"]["name"] == "Ours", "it to be kept")
    short.find("[data-look='Ours'][aria-selected=true]")
    assert server.get("/api/looks")[0]["look"]["rhythm"]["amount"] == 4
    server.http.delete("/api/looks/Ours")


def test_what_another_window_did_is_seen_and_nothing_of_it_is_written_over(
    short: Page, server: Server
) -> None:
    track = server.get(f"/api/projects/{LOW_WATER['id']}")["tracks"][0]["id"]
    first = captions(short)[0]
    words = "".join(span["text"] for span in first["spans"])
    edit = {"kind": "change-captions", "changes": [{"caption": first["id"], "text": f"So {words}"}]}
    body = {"base_revision": server.get(f"/api/tracks/{track}")["revision"], "gesture": "elsewhere"}
    server.post(
        f"/api/tracks/{track}/edits",
        json={**body, "operation": edit},
        headers={"Dunlin-Person": "other", "Dunlin-Window": "other"},
    )
    short.find("[data-word='So']")
    short.press("-")
    wait_for(lambda: texts(short)[0].startswith("So"), "its words to stay")
    assert "So" in " ".join(texts(short)).split()


def test_an_upright_clip_is_heard_and_comes_in_the_usual_look(
    page: Page, tmp_path: Path, server: Server
) -> None:
    clip = tmp_path / "clip.mp4"
    source = Path(__file__).parents[2] / "demo" / "low-water.mp4"
    ffmpeg(
        "-t",
        "6",
        "-i",
        str(source),
        "-c:v",
        "libx264",
        "-preset",
        "ultrafast",
        "-c:a",
        "copy",
        str(clip),
    )
    page.open("/")
    page.find("input[type=file]").send_keys(str(clip))
    page.find("[data-short-begin]")
    page.click("[data-quick]")
    page.click("[data-recognise]")
    page.find("[data-word]")
    page.find("[data-look='Tide coming in'][aria-selected=true]")
    project = next(p for p in server.get("/api/projects") if p["title"] == "clip")
    track = server.get(f"/api/projects/{project['id']}")["tracks"][0]
    assert track["style"] == "Tide coming in"
    stored = server.get(f"/api/tracks/{track['id']}")["captions"]
    assert json.dumps(stored).count("start_ms") > 5
    # Undone, all of it is away, and it does not come by itself again.
    page.press("Ctrl+z")
    page.find("[data-short-begin]")
    assert server.get(f"/api/tracks/{track['id']}")["captions"] == []


def test_headings_are_proposed_from_what_is_said(short: Page) -> None:
    proposed = [e.text for e in wait_for(lambda: short.all("[data-proposed]"), "proposals")]
    for wanted in proposed[:2]:
        short.press("Shift+G")
        wait_for(lambda wanted=wanted: headings(short) == [wanted], f"“{wanted}” as the heading")


def headings(page: Page) -> list[str]:
    there = [c for c in captions(page) if c["style"] == "Opening heading"]
    return ["".join(s["text"] for s in c["spans"]).replace("\n", " ") for c in there]


def test_a_caption_is_mended_by_itself_and_stands_where_it_is_put(short: Page) -> None:
    before = texts(short)
    short.press("ARROW_DOWN", "y")
    now = changed(short, before)
    assert len(now) == len(before) + 1
    first = captions(short)[0]["id"]
    short.press("HOME", "p", "p", "PAGE_DOWN")
    wait_for(lambda: any(c["placement"] for c in captions(short)), "captions placed from here on")
    placed = [c["id"] for c in captions(short) if c["placement"]]
    assert first not in placed
    assert len(placed) == len(now) - 1


def test_the_face_and_case_of_the_spoken_word_are_set(short: Page, server: Server) -> None:
    short.browser.execute_script(
        "const e = document.querySelector('[data-letters=spoken] [data-part=case]');"
        "e.value = 'upper'; e.dispatchEvent(new Event('change'))"
    )

    def style() -> dict:
        styles = server.get(f"/api/projects/{LOW_WATER['id']}/styles")["styles"]
        return next(s["look"] for s in styles if s["name"] == "Tide coming in")

    wait_for(lambda: (style()["spoken"] or {}).get("case") == "upper", "capitals")
    short.press("Ctrl+z")
    wait_for(lambda: (style()["spoken"] or {}).get("case") != "upper", "it to be taken back")
