"""Caption files in, specs, mends, waivers and the report, as a person goes about it."""

import json
from pathlib import Path

import pytest
from selenium.webdriver import ActionChains, Keys

from dunlin.core.captions import Caption, Placement, Span, spans_of
from dunlin.core.formats import FORMATS, Context, Document, written
from tests.server import Server, wait_for
from tests.ui.page import Page

DAMAGED = """\
1
00:00:01,000 --> 00:00:02,500
First <i>leaning

1
0:00:03.5 -> 0:00:04,25
Größe , no blank line after it
7
00:00:06,000 --> 00:00:05,000
{\\an8}Ends before it starts
"""


def caption(id_: str, in_ms: int, out_ms: int, text: str) -> dict:
    return {"id": id_, "in_ms": in_ms, "out_ms": out_ms, "spans": [{"text": text}]}


@pytest.fixture
def damaged(tmp_path: Path) -> Path:
    path = tmp_path / "Grüße “1”.srt"
    path.write_bytes(DAMAGED.encode("cp1252"))
    return path


def test_a_damaged_file_is_shown_with_its_oddities_before_it_is_taken_in(
    page: Page, films, damaged: Path
) -> None:
    project = page.new_project(films["short"], [caption("a", 0, 1000, "Was here")])
    page.open_project(project)
    page.press("Ctrl+o")
    page.find("[data-captions-file]").send_keys(str(damaged))
    page.wait_text(".odd", "<i> is not closed; taken to end with the caption")
    page.wait_text(".odd", "ends before it starts; in and out swapped")
    page.find(".preview li")
    assert page.stored(project) == [(0, 1000, "Was here")]
    encoding = page.find("[data-encoding]")
    encoding.find_element("css selector", "option[value=cp1251]").click()
    page.wait_text(".preview", "Grц")
    page.find("[data-encoding] option[value=cp1252]").click()
    page.wait_text(".preview", "Größe")
    page.click("[data-take-in]")
    page.find(".card")
    taken = [
        (1000, 2500, "First leaning"),
        (3500, 4250, "Größe , no blank line after it"),
        (5000, 6000, "Ends before it starts"),
    ]
    wait_for(lambda: page.stored(project) == taken, "the captions of the file")
    page.press("Ctrl+z")
    wait_for(lambda: page.stored(project) == [(0, 1000, "Was here")], "one step back")


def test_a_file_comes_in_as_a_track_of_its_own(page: Page, films, damaged, server: Server) -> None:
    project = page.new_project(films["short"], [caption("a", 0, 1000, "Was here")])
    page.open_project(project, "bring-in")
    page.find("[data-captions-file]").send_keys(str(damaged))
    page.find("[data-take-in]")
    page.click("input[value=new]")
    page.click("[data-take-in]")
    page.find(".card")
    tracks = server.get(f"/api/projects/{project['id']}")["tracks"]
    assert len(tracks) == 2
    wait_for(
        lambda: len(server.get(f"/api/tracks/{tracks[1]['id']}")["captions"]) == 3, "the new track"
    )
    assert page.stored(project) == [(0, 1000, "Was here")]
    page.find("[data-track]").send_keys(Keys.ENTER)
    page.wait_text(".v-list-item", "en")
    page.press("ARROW_DOWN")
    wait_for(
        lambda: page.script("return document.activeElement.matches('.v-list-item')"),
        "a track to have the keys",
    )
    page.press("ENTER")
    page.wait_text(".card", "Was here")


def test_what_is_no_caption_file_is_refused_in_words(page: Page, films, tmp_path: Path) -> None:
    bad = tmp_path / "film.srt"
    bad.write_bytes(b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR")
    page.open_project(page.new_project(films["short"]), "bring-in")
    page.find("[data-captions-file]").send_keys(str(bad))
    page.wait_text("[role=alert]", "not a text file")


WRITTEN = Document(
    (
        Caption("a", 1000, 2500, (Span("Read the "), Span("Marigold", italic=True)), "Ilse & co"),
        Caption("b", 2600, 4000, spans_of("two lines\nfor <two> & more"), None, Placement("top")),
        Caption("c", 360_000, 361_040, (Span("loud", colour="#C0FFEE"),), None,
                Placement("bottom", "left", x=0.2, y=0.8)),
    )
)  # fmt: skip


def test_the_browser_s_own_parser_reads_the_webvtt_that_is_written(page: Page) -> None:
    page.open("/")
    text = written(WRITTEN, FORMATS["webvtt"], Context()).decode()
    cues = page.browser.execute_async_script(
        "const done = arguments[1], video = document.createElement('video');"
        "const track = document.createElement('track'); track.default = true;"
        "track.src = URL.createObjectURL(new Blob([arguments[0]], {type: 'text/vtt'}));"
        "track.onerror = () => done('refused');"
        "track.onload = () => done([...track.track.cues].map((cue) => [Math.round(cue.startTime * 1000),"
        " Math.round(cue.endTime * 1000), cue.getCueAsHTML().textContent, cue.line, cue.position,"
        " cue.align]));"
        "video.append(track); document.body.append(video); track.track.mode = 'showing';",
        text,
    )
    assert cues == [
        [1000, 2500, "Read the Marigold", "auto", "auto", "center"],
        [2600, 4000, "two lines\nfor <two> & more", 0, "auto", "center"],
        [360_000, 361_040, "loud", 80, 20, "left"],
    ]


FAULTY = [
    caption("a", 0, 900, "The bell was cast in one evening"),
    caption("b", 2000, 4000, "It  hung for years ."),
    caption("c", 4040, 6000, "Nobody rang it."),
]


def test_findings_are_mended_one_by_one_and_together_by_keys(page: Page, films) -> None:
    project = page.new_project(films["short"], FAULTY)
    page.open_project(project, "check")
    page.wait_text(".rules", "4 findings")
    page.press("ARROW_DOWN")
    page.find(".place.on .after")
    page.wait_text(".place.on .change", "out")
    page.press("ENTER")
    wait_for(lambda: page.stored(project)[0][1] > 1880, "more time for the first")
    page.wait_text(".rules", "3 findings")
    page.find("[data-rule=space-before-mark]").click()
    page.wait_text(".after", "It  hung for years.")
    page.click(".rule.whole")
    wait_for(lambda: len(page.all(".after")) == 3, "all mends")
    page.press("x", "Shift+ENTER")
    page.wait_text("[role=status]", "2 mended, as one step")
    wait_for(lambda: len(page.all("[data-place]")) == 1, "the one that was not chosen")
    page.press("Ctrl+z")
    page.wait_text(".rules", "3 findings")


def test_a_waiver_stays_while_the_caption_does(page: Page, films, server: Server) -> None:
    project = page.new_project(films["short"], [caption("a", 0, 400, "Sign: Quillan Point")])
    track = project["tracks"][0]["id"]
    page.open_project(project, "check")
    page.find(".place")
    page.press("ARROW_DOWN", "w")
    page.find(".waiver input")
    page.type("A sign on the picture, agreed")
    page.press("ENTER")
    page.find("[data-waived]").click()
    page.wait_text(".place", "Waived: A sign on the picture, agreed")
    page.open_project(project, "check")
    page.find("[data-waived]")
    report = server.http.get(f"/api/tracks/{track}/report").text
    assert "A sign on the picture, agreed" in report
    assert "SHA-256" in report
    server.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": 1, "gesture": "g",
              "operation": {"kind": "change-captions", "changes": [{"caption": "a", "text": "Sign: Quillan Head"}]}},
    )  # fmt: skip
    wait_for(lambda: not page.all("[data-waived]"), "the waiver to fall")
    assert (
        page.find("[data-report]")
        .get_attribute("href")
        .startswith(f"{server.url}/api/tracks/{track}/report?")
    )


def test_a_spec_is_copied_edited_and_judged_by_at_once(
    page: Page, films, downloads: Path, tmp_path: Path
) -> None:
    project = page.new_project(films["short"], FAULTY)
    page.open_project(project, "spec")
    page.click("[data-copy-spec]")
    page.wait_text("[data-spec]", "Spec: Streaming, my copy")
    limit = page.find("[data-limit=characters_per_line] .number")
    page.overwrite(limit, "20")
    page.press("TAB")
    page.wait_text("[data-broken=line-length]", "1 finding")
    slider = page.find("[data-limit=characters_per_line] [role=slider]")
    ActionChains(page.browser).drag_and_drop_by_offset(slider, -20, 0).perform()
    page.wait_text("[data-broken=line-length]", "3 findings")
    wait_for(
        lambda: len([f for f in findings(page, project) if f["rule"] == "line-length"]) == 3,
        "the spec to be stored, and the captions judged by it",
    )
    weight = page.find("[data-limit=characters_per_line] .weight")
    weight.click()
    wait_for(
        lambda: (
            {f["weight"] for f in findings(page, project) if f["rule"] == "line-length"}
            == {"advice"}
        ),
        "its findings to be advice",
    )
    shared = tmp_path / "client.json"
    shared.write_text(json.dumps({"id": "tern", "name": "Tern", "lines": 1}))
    page.find("input[type=file]").send_keys(str(shared))
    page.wait_text("[data-spec]", "Spec: Tern")


def findings(page: Page, project: dict) -> list[dict]:
    track = page.server.get(f"/api/tracks/{project['tracks'][0]['id']}")
    return [finding for caption in track["captions"] for finding in caption["findings"]]


def test_a_limit_is_tried_out_beside_its_findings(page: Page, films) -> None:
    page.open_project(page.new_project(films["short"], FAULTY), "check")
    page.click("[data-rule=reading-speed]")
    slider = page.find(".side [role=slider]")
    slider.send_keys(*["\ue014"] * 60)
    page.wait_text(".side", "0 captions would break")


def test_a_spec_is_taken_back_and_a_newer_one_of_the_house_is_offered(page: Page, films) -> None:
    spec = {"id": "quillan", "name": "Quillan", "characters_per_line": 60}
    page.server.post("/api/specs", json=spec)
    there, here = (page.new_project(films["short"], FAULTY) for _ in range(2))
    for project in (there, here):
        page.server.http.patch(f"/api/projects/{project['id']}", json={"spec_id": "quillan"})
    page.open_project(there, "spec")
    limit = page.find("[data-limit=characters_per_line] .number")
    page.overwrite(limit, "20")
    page.press("TAB")
    broken = lambda project: [f["rule"] for f in findings(page, project)].count("line-length")  # noqa: E731
    wait_for(lambda: broken(there), "the project to be judged by the change")
    assert not broken(here)
    page.open_project(here, "check")
    page.wait_text("[data-newer-spec]", "Quillan")
    page.click("[data-take-spec]")
    wait_for(lambda: broken(here), "the newer spec to be taken")
    wait_for(lambda: not page.all("[data-newer-spec]"), "the notice to go")
    page.open_project(here, "spec")
    page.press("Ctrl+z")
    number = "[data-limit=characters_per_line] .number"
    wait_for(lambda: page.find(number).get_attribute("value") == "60", "the limit to come back")
    wait_for(lambda: not broken(here), "the project to be judged by the spec as it was")
    page.press("Ctrl+Shift+z")
    wait_for(lambda: broken(here), "the change to be made again")
