"""Takes docs/screenshots/ anew, from the demo data: `make shots`."""

import tempfile
from pathlib import Path

from selenium.webdriver import Keys

from tests.conftest import FILM
from tests.hosts.program import HostProgram
from tests.server import Server, wait_for
from tests.ui.conftest import open_browser
from tests.ui.page import Page

SHOTS = Path(__file__).parents[2] / "docs" / "screenshots"
DEMO = {"id": "the-fog-bell-at-quillan-point"}


def take() -> None:
    data = Path(tempfile.mkdtemp(prefix="dunlin-shots-"))
    server = Server(data, "--demo")
    browser = open_browser(data)
    page = Page(browser, server)

    def shot(name: str) -> None:
        (SHOTS / f"{name}.png").write_bytes(page.still_picture(1280, 800))

    try:
        server.wait_idle()
        page.open("/")
        page.wait_text(".row", "83 captions")
        wait_for(
            lambda: page.script("return document.querySelector('video').readyState") >= 2,
            "the poster",
        )
        shot("projects")
        page.open_project(_of_many_scripts(server))
        page.card(1)
        page.press("ARROW_DOWN")
        page.find("[data-overlay='0']")
        shot("scripts")
        page.open_project(DEMO)
        page.card(1)
        page.press(*["ARROW_DOWN"] * 7)
        _wait_drawn(page, 6)
        shot("time")
        page.open_project(DEMO, "translate")
        page.find("[data-across]")
        wait_for(lambda: page.all(".heads h2.on small"), "the translation to work on")
        page.press(*["ARROW_DOWN"] * 15)
        page.find("[data-term='keeper']")
        _wait_drawn(page, 14)
        shot("translate")
        page.browser.execute_script("localStorage.clear()")
        page.press("ENTER")
        page.find("textarea")
        page.open_project({"id": "low-water"}, "style?view=short")
        page.find("[data-look-specimens][data-drawn]")
        page.press(*["ARROW_DOWN"] * 4, *["ARROW_RIGHT"] * 2)
        page.find("[data-word='to'].on")
        shot("short")
        _make_late(server)
        page.open_project(DEMO)
        page.card(1)
        page.press("t")
        page.wait_text(".panel [role=radio]", "From the sound").click()
        page.click("[data-listen]")
        page.find(".plot")
        page.find("[data-ghost]")
        page.press("Ctrl+ENTER")
        page.wait_saved()
        page.click(".panel header button")
        server.http.patch(f"/api/projects/{DEMO['id']}", json={"spec_id": "classroom"})
        page.open_project(DEMO, "check")
        page.find(".place")
        page.press("ARROW_DOWN")
        page.find(".place.on")
        page.click("[data-rule=reading-speed]")
        page.find(".after")
        page.press("ARROW_DOWN")
        page.find(".side [role=slider]")
        shot("check")
        server.http.patch(f"/api/projects/{DEMO['id']}", json={"spec_id": "ternholm"})
        page.open_project(DEMO, "spec")
        page.click("[data-copy-spec]")
        page.find("input.name")
        page.find("[data-broken=reading-speed]:not(:empty)")
        shot("spec")
        server.http.patch(f"/api/projects/{DEMO['id']}", json={"spec_id": "streaming"})
        _put_up_sign(server)
        page.open(f"/project/{DEMO['id']}/style")
        page.find("[data-style-panel] .rows")
        page.find("[data-specimens][data-drawn]")
        _go_to_card(page, SIGN)
        page.press("ENTER", "Ctrl+Shift+ARROW_RIGHT", "Ctrl+Shift+ARROW_RIGHT")
        page.wait_text("[data-where-to]", "selected words")
        page.find("[data-frame-colour]")
        page.find(f"[data-overlay='{SIGN_MS + 1520}']")
        shot("style")
        page.press("ESCAPE")
        page.server.post(
            f"/api/projects/{DEMO['id']}/undo",
            json={"targets": [f"tracks/{_track(server)}/captions"]},
        )
        page.open(f"/project/{DEMO['id']}/style")
        page.find("[data-frame='sign']")
        page.find("[data-specimens][data-drawn]")
        page.wait_saved()
        page.press("s")
        page.find("[data-stick]:focus")
        page.press("ENTER")
        page.find("[data-stick=found]")
        page.find("[data-stick-strip]")
        shot("sticking")
        page.press("ESCAPE")
        page.open_project(DEMO, "bring-in")
        page.find("[data-captions-file]").send_keys(str(_damaged(data)))
        page.find("[data-take-in]")
        shot("bring-in")
        page.open_project(DEMO, "transcribe")
        page.click("[data-recognise]")
        server.wait_for_job(DEMO["id"], "recognise", "done")
        page.wait_text("[data-make-captions]", "Make captions").is_enabled()
        wait_for(lambda: len(page.all("[data-speaker-name]")) == 2, "the speakers")
        page.press("HOME", *[">"] * 8, "1")
        page.all(".speakers li button")[0].click()
        page.press(*[">"] * 50, "2")
        page.wait_saved()
        for term in ("Ilse Varga", "Quillan Point", "Tomas Brandt"):
            page.find("[data-new-term]").send_keys(term, Keys.ENTER)
            page.wait_text(".terms .list", term)
        page.find("[data-offer]")
        page.press("ESCAPE")
        shot("transcribe")
        page.press("m")
        page.find("[data-would-be]")
        next(one for one in page.all(".dials [role=radio]") if "words" in one.text).click()
        page.find("[data-words-a-line]")
        page.click("[data-keep]")
        page.wait_text("[data-becomes]", "42 removed")
        shot("make-captions")
        page.open_project(DEMO, "transcribe")
        page.press("b")
        page.click("[data-ear-begin] + *")
        page.find("[data-ear-line]")
        page.type("This is Quillan Point, on the la")
        page.press("Ctrl+SPACE")
        shot("by-ear")
        _make_list(page, server)
        shot("deliver")
        _ask_film(page)
        shot("about")
        host = HostProgram(data / "host", "--demo")
        try:
            _show_host(page, host)
            shot("host")
            _connect(page, host)
            shot("connection")
        finally:
            host.stop()
        page.open_project(DEMO)
        page.card(1)
        page.press("?")
        page.find("[data-find-key]")
        page.click("[data-key-row='split'] [data-key='S']")
        page.press("m")
        page.find("[data-give]")
        shot("keys")
        page.click("[data-leave-key]")
        _make_upright(page)
        shot("version")
    finally:
        browser.quit()
        server.stop()


SIGN, SIGN_MS = "fog-signal", 57_280


def _go_to_card(page: Page, caption: str) -> None:
    """Goes on in Style until a caption is in hand; those far down have no card yet."""
    while not page.all(f"[data-card='{caption}'].current"):
        before = page.find("[data-card].current").get_attribute("data-card")
        page.press("Alt+ARROW_DOWN")
        page.find(f"[data-card].current:not([data-card='{before}'])")


def _track(server: Server) -> str:
    return str(server.get(f"/api/projects/{DEMO['id']}")["tracks"][0]["id"])


def _put_up_sign(server: Server) -> None:
    """A title that hangs on the picture, turned, with a word of its own colour."""
    track = _track(server)
    sign = {
        "id": SIGN, "in_ms": SIGN_MS, "out_ms": SIGN_MS + 3040, "style": "Sign",
        "spans": [{"text": "Fog "}, {"text": "signal", "colour": "#F2B84B"}],
        "placement": {"anchor": "middle", "align": "center", "x": 0.66, "y": 0.3},
        "look": {"turn": -7.0, "tilt_y": 18.0},
    }  # fmt: skip
    server.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": server.get(f"/api/tracks/{track}")["revision"], "gesture": "sign",
              "operation": {"kind": "insert-captions", "captions": [sign]}},
    )  # fmt: skip


def _make_list(page: Page, server: Server) -> None:
    """A packing list of which some is made, some is out of date and a film is being made."""
    english, german = (
        track["id"] for track in server.get(f"/api/projects/{DEMO['id']}")["tracks"][:2]
    )
    list_ = f"/api/projects/{DEMO['id']}/deliveries/ternholm"
    things = [
        {"kind": "captions", "track": english, "format": "srt"},
        {"kind": "captions", "track": english, "format": "imsc"},
        {"kind": "captions", "track": german, "format": "stl"},
        {"kind": "timeline", "tracks": [english, german]},
        {"kind": "burned", "track": english},
        {"kind": "inside", "container": "mkv", "tracks": [{"track": english, "is_default": True}, {"track": german}]},
        {"kind": "alone", "track": english},
        {"kind": "report", "track": english},
    ]  # fmt: skip
    items = {f"i{n}": {"place": n, "thing": thing} for n, thing in enumerate(things)}
    items["i6"]["left_out"] = True
    server.http.put(list_, json={"delivery": {"name": "Ternholm", "version": 3}})
    server.http.put(f"{list_}/items", json={"items": items})
    server.post(f"{list_}/make", json={"items": ["i0", "i1", "i3"]})
    server.wait_for_job(DEMO["id"], "pack", "done")
    caption = server.get(f"/api/tracks/{english}")["captions"][1]
    change = {"caption": caption["id"], "text": "".join(s["text"] for s in caption["spans"]) + "!"}
    operation = {"kind": "change-captions", "changes": [change]}
    body = {"base_revision": 100_000, "gesture": "list", "operation": operation}
    server.post(f"/api/tracks/{english}/edits", json=body)
    server.post(f"{list_}/make", json={"items": ["i0", "i4", "i5"]})
    server.wait_for_job(DEMO["id"], "pack", "running")
    page.open_project(DEMO, "deliver")
    page.find("[data-item=i4][data-state=now]")
    page.click("[data-item=i4] button")
    page.find("[data-dial=codec]")


def _ask_film(page: Page) -> None:
    """Words about the film, a description made longer, and a question that is answered."""
    page.find("[data-list='about']").click()
    page.find("[data-about-begin]")
    page.press("Shift+a")
    page.find("[data-piece='short']")
    page.press(*["ARROW_DOWN"] * 3)
    page.press("+")
    wait_for(lambda: "." in page.find("[data-piece='short'] .text").text[:-1], "a longer one")
    page.press("q")
    page.type("Who cast the bell in one evening?\n")
    page.find("[data-answer]")


def _show_host(page: Page, host: HostProgram) -> None:
    """The demo film on the host that ships, with a language more, as a viewer sees it."""
    film = next(one for one in host.get("/api/films")["films"] if "Bell" in one["title"])
    german = (
        b"WEBVTT\n\n00:06.600 --> 00:11.000\nDas ist Quillan Point,\nam letzten Tag des Februars.\n"
    )
    address = f"/api/films/{film['id']}/tracks/de?is_open=true"
    host.http.put(address, content=german).raise_for_status()
    page.browser.get(f"{host.url}/film/{film['id']}")
    page.find("[data-language='de'] input").click()
    page.script("document.querySelector('video').currentTime = 8")
    page.wait_text("[data-words]", "Februars")


def _connect(page: Page, host: HostProgram) -> None:
    """Connects with the host, whose films can be taken then."""
    page.open("/hosts")
    page.find("[data-address]").send_keys(host.url)
    page.find("[data-token]").send_keys(host.token() + "\n")
    page.find("[data-host-film]")


def _make_upright(page: Page) -> None:
    """Makes an upright version of the demo's short form, with a window that follows what is told."""
    page.open_project(DEMO, "style?view=short")
    page.find("[data-short-beside]")
    page.find("[data-look]")
    page.press("n")
    page.find("[data-word]")
    page.wait_saved()
    page.press("Shift+N")
    page.find("[data-version-panel]")
    page.press(
        "}", "]", "]", *["ARROW_DOWN"] * 4, "w", "}", "[", *["ARROW_DOWN"] * 6, "w", "{", "c"
    )
    page.wait_saved()
    page.press("ARROW_RIGHT")
    page.script("document.querySelector('[data-version-panel]').scrollIntoView({block: 'center'})")
    page.find("[data-look-specimens][data-drawn]")
    wait_for(lambda: not page.all(".film canvas[data-drawn='']"), "the captions")


SCRIPTS = (
    "قال الحارس: «هل تسمع الجرس؟» 🔔\nنعم، NATO قالت (5)!",
    "הפעמון (הישן) מצלצל שוב,\n12 פעמים!",
    "क्या तुमने कोहरे की घंटी सुनी?\nहाँ, कल रात। 🎉",
    "霧の鐘が鳴った…「誰だ？」\nRingという音だ。",
    "안개 종이 다시 울린다.\nเสียงระฆังดังขึ้นอีกครั้ง",
    "የጭጋግ ደወል እንደገና ጮኸ።\nნისლის ზარი ისევ რეკავს",
)


def _of_many_scripts(server: Server) -> dict:
    """A project in Arabic, with lines of other scripts."""
    project = server.upload(FILM)
    track = project["tracks"][0]["id"]
    server.http.patch(f"/api/tracks/{track}", json={"language": "ar"})
    captions = [
        {"id": f"c{n}", "in_ms": n * 2400, "out_ms": n * 2400 + 2300, "spans": [{"text": said}]}
        for n, said in enumerate(SCRIPTS)
    ]
    operation = {"kind": "insert-captions", "captions": captions}
    body = {"base_revision": 0, "gesture": "made", "operation": operation}
    server.post(f"/api/tracks/{track}/edits", json=body)
    server.wait_idle()
    return project


def _make_late(server: Server) -> None:
    """The demo's captions as they come from elsewhere: late, and later after each of two breaks."""
    track = server.get(f"/api/projects/{DEMO['id']}")["tracks"][0]["id"]
    now = server.get(f"/api/tracks/{track}")
    times = [
        {"caption": c["id"], "in_ms": c["in_ms"] + late, "out_ms": c["out_ms"] + late}
        for n, c in enumerate(now["captions"])
        for late in [2000 if n < 15 else 3480 if n < 30 else 5200]
    ]
    operation = {"kind": "change-captions", "changes": times}
    server.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": now["revision"], "gesture": "late",
              "operation": operation},
    )  # fmt: skip


def _damaged(folder: Path) -> Path:
    """The demo's captions as a file that has been through many hands."""
    path = folder / "fog-bell from the archive.srt"
    path.write_bytes(
        "1\r\n00:00:06,400 --> 00:00:09,960\r\n<i>This is the tide log\r\nof Quillan Point.\r\n\r\n"
        "1\r\n0:00:10.4 -> 0:00:14.6\r\nI am Ilse Varga – nineteen years\r\nin this harbour.\r\n7\r\n"
        "00:00:16,120 --> 00:00:15,000\r\n{\\an8}there is nothing to see\n"
        "and “very little” to hear.\r\n\r\n"
        "00:00:21,080 --> 00:00:21,080\r\nThere used to be a bell.</b>\r\n".encode("cp1252")
    )
    return path


def _wait_drawn(page: Page, index: int) -> None:
    track = page.server.get(f"/api/projects/{DEMO['id']}")["tracks"][0]["id"]
    caption = page.server.get(f"/api/tracks/{track}")["captions"][index]
    page.find(f"[data-overlay='{caption['in_ms']}']")


if __name__ == "__main__":
    take()
