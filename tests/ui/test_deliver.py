"""The Deliver stage: files as they are, heads of EBU STL files, the report."""

import hashlib

from tests.server import wait_for
from tests.ui.page import Page


def file_of(page: Page, project, format_name: str) -> bytes:
    track = project["tracks"][0]["id"]
    answer = page.server.http.get(f"/api/tracks/{track}/file", params={"format": format_name})
    return answer.content


def test_a_file_is_seen_as_it_would_be_saved_or_why_there_is_none(page: Page, project) -> None:
    spec = {"id": "latin", "name": "Latin", "file_encoding": "windows-1252"}
    page.server.post("/api/specs", json=spec)
    page.server.http.patch(f"/api/projects/{project['id']}", json={"spec_id": "latin"})
    page.open_project(project, "deliver")
    page.click("[data-raw='srt']")
    page.wait_text("[data-raw-text]", "00:00:00,000 --> 00:00:01,600")
    page.click("[data-raw='stl']")
    page.wait_text("[data-raw-text]", "53 54 4c 32 35")
    text = {"kind": "change-captions", "changes": [{"caption": "c00001", "text": "鐘"}]}
    page.server.post(
        f"/api/tracks/{project['tracks'][0]['id']}/edits",
        json={"base_revision": 1, "gesture": "bell", "operation": text},
    )
    page.click("[data-raw='srt']")
    page.wait_text("[data-refused]", "windows-1252, which the spec asks for, has no 鐘")
    page.click("[data-raw='webvtt']")
    page.wait_text("[data-refused]", "鐘")


def test_the_head_of_stl_files_is_filled_in_and_kept(page: Page, project) -> None:
    page.open_project(project, "deliver")
    page.click("[data-head='stl']")
    page.click("[data-stl='country']")
    page.type("Ternholm\n")
    page.wait_text("[data-stl-head] [role=alert]", "Country must be three letters")
    page.press("Ctrl+a")
    page.type("TRN\n")
    wait_for(lambda: file_of(page, project, "stl")[274:277] == b"TRN", "the country")
    wait_for(lambda: not page.all("[data-stl-head]"), "the form to close")
    page.click("[data-head='stl-teletext']")
    wait_for(
        lambda: page.find("[data-stl='country']").get_property("value") == "TRN", "what was kept"
    )


def test_the_report_tells_of_the_files_that_were_saved(page: Page, project) -> None:
    page.open_project(project, "deliver")
    assert "format_name=srt" in page.find("[data-report]").get_property("href")
    page.click("[data-format='webvtt']")
    wait_for(
        lambda: "format_name=webvtt" in page.find("[data-report]").get_property("href"), "WebVTT"
    )
    page.browser.get(page.find("[data-report]").get_property("href"))
    page.wait_text("body", hashlib.sha256(file_of(page, project, "webvtt")).hexdigest())


def test_a_film_with_tracks_inside_is_made_by_key(page: Page, project) -> None:
    page.open_project(project, "deliver")
    page.find("[data-make-inside]")
    page.wait_saved()
    page.press("Shift+b")
    page.find("[data-job='tracks-inside']")
    page.wait_text("[data-job='tracks-inside'][data-state='done']", "MP4")
    page.find("[data-download-inside]")
