"""Caption files, specs, mends, waivers and the report over the wire."""

import json
import re
from hashlib import sha256

import pytest
from fastapi.testclient import TestClient

from dunlin.core.formats import FORMATS
from tests.api.test_tracks import Editor, caption

SRT = "1\n00:00:01,000 --> 00:00:02,500\n{\\an8}<i>Hark</i>\n\n2\n00:00:02,540 --> 00:00:04,000\nthe bell .\n"


@pytest.fixture
def project(new_project) -> dict:
    return new_project()


@pytest.fixture
def editor(client: TestClient, project: dict) -> Editor:
    return Editor(client, project["tracks"][0]["id"])


def take_in(editor: Editor, data: bytes | str, name: str = "a.srt", **how: str):
    query = {"name": name, "gesture": "g", **how}
    return editor.client.post(
        f"/api/tracks/{editor.track_id}/captions-file", params=query, content=data
    )


def test_a_file_is_looked_at_and_nothing_taken(editor: Editor, project: dict) -> None:
    address = f"/api/projects/{project['id']}/captions-file"
    answer = editor.client.post(address, params={"name": "a.txt"}, content=SRT.encode())
    seen = answer.json()
    assert (seen["format"], seen["encoding"], seen["caption_count"]) == ("srt", "utf-8", 2)
    (span,) = seen["captions"][0].pop("spans")
    assert seen["captions"][0] == {"in_ms": 1000, "out_ms": 2500, "speaker": None}
    assert (span["text"], span["italic"]) == ("Hark", True)
    assert seen["oddities"][0]["message"] == {
        "code": "oddities.other-format",
        "values": {"format": "Plain text", "read": "SubRip"},
    }
    assert editor.texts() == []


@pytest.mark.parametrize(
    ("said", "language"),
    [
        ("WEBVTT\nLanguage: sv\n\n00:01.000 --> 00:02.000\nKlockan\n", "sv"),
        (
            "00:00:01,000 --> 00:00:02,000\n霧の鐘が鳴った。だれがそれを聞いたのだろうか、港の番人はそう言って、ゆっくりと歩きはじめた。\n",
            "ja",
        ),
        ("00:00:01,000 --> 00:00:02,000\n12 34\n", None),
    ],
)
def test_the_language_of_a_file_is_told_by_it_or_by_its_words(
    editor: Editor, project: dict, said: str, language: str | None
) -> None:
    address = f"/api/projects/{project['id']}/captions-file"
    seen = editor.client.post(address, params={"name": "a.srt"}, content=said.encode()).json()
    assert seen["language"] == language


def test_a_file_is_taken_in_with_its_styles_and_undone_in_one_step(editor: Editor) -> None:
    editor.insert(caption("a", 0, 900, "Was here"))
    assert take_in(editor, SRT).status_code == 200
    taken = editor.client.get(f"/api/tracks/{editor.track_id}").json()["captions"]
    assert taken[0]["spans"][0]["italic"]
    assert taken[0]["placement"]["anchor"] == "top"
    assert "\\an8" in taken[0]["script"]
    editor.step("undo")
    assert editor.texts() == [(0, 900, "Was here")]
    editor.step("redo")
    assert [text for _, _, text in editor.texts()] == ["Hark", "the bell ."]


def test_what_a_format_kept_is_given_back_through_the_store(editor: Editor) -> None:
    vtt = "WEBVTT - sign\n\nSTYLE\n::cue(.loud) { color: #112233 }\n\nNOTE a note\n\nintro\n00:01.000 --> 00:02.000 line:3 region:r\n<c.loud.odd>Hark</c>\n"
    take_in(editor, vtt, "a.vtt")
    written = editor.client.get(
        f"/api/tracks/{editor.track_id}/file", params={"format": "webvtt"}
    ).text
    for kept in (
        "WEBVTT - sign",
        "::cue(.loud)",
        "NOTE a note",
        "intro\n",
        "line:3 region:r",
        ".odd",
    ):
        assert kept in written


@pytest.mark.parametrize(
    ("data", "how", "words"),
    [
        (b"", {}, "empty"),
        (b"hello", {}, "no caption times"),
        (SRT.encode(), {"format": "doc"}, "no format called"),
        (SRT.encode(), {"encoding": "hex"}, "no encoding"),
        (SRT.encode(), {"fps": "x"}, "not a frame rate"),
        (b"<!DOCTYPE tt [<!ENTITY a 'b'>]><tt/>", {"format": "imsc"}, "document type"),
        (b"x" * (65 * 2**20), {}, "too large"),
    ],
)
def test_a_file_that_cannot_be_read_changes_nothing(editor: Editor, data, how, words: str) -> None:
    editor.insert(caption("a", 0, 900, "Was here"))
    answer = take_in(editor, data, **how)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]
    assert editor.texts() == [(0, 900, "Was here")]


def test_every_format_that_is_written_is_taken_in_again(editor: Editor) -> None:
    take_in(editor, SRT)
    for name in set(FORMATS) - {"html", "text"}:
        file = editor.client.get(f"/api/tracks/{editor.track_id}/file", params={"format": name})
        assert take_in(editor, file.content, f"a{FORMATS[name].ENDINGS[0]}").status_code == 200
        assert [text for _, _, text in editor.texts()] == ["Hark", "the bell ."]


def test_a_track_has_a_spec_of_its_own(editor: Editor, project: dict) -> None:
    client = editor.client
    editor.insert(caption("a", 0, 3000, "x" * 40))
    changed = client.patch(f"/api/tracks/{editor.track_id}", json={"spec_id": "children"})
    assert changed.json()["spec_id"] == "children"
    track = client.get(f"/api/tracks/{editor.track_id}").json()
    assert track["spec"]["id"] == "children"
    assert {f["rule"] for f in track["captions"][0]["findings"]} >= {"line-length"}
    client.patch(f"/api/tracks/{editor.track_id}", json={"spec_id": None})
    assert client.get(f"/api/tracks/{editor.track_id}").json()["spec"]["id"] == "streaming"
    bad = client.patch(f"/api/tracks/{editor.track_id}", json={"spec_id": "none"})
    assert bad.status_code == 422


def test_tracks_are_added_and_removed_but_for_the_last(editor: Editor, project: dict) -> None:
    client = editor.client
    added = client.post(f"/api/projects/{project['id']}/tracks", json={"language": "cy"}).json()
    assert [
        t["language"] for t in client.get(f"/api/projects/{project['id']}").json()["tracks"]
    ] == [
        "en",
        "cy",
    ]
    assert client.delete(f"/api/tracks/{added['id']}").status_code == 204
    assert client.delete(f"/api/tracks/{editor.track_id}").status_code == 409


def test_findings_are_mended_in_one_edit(editor: Editor) -> None:
    take_in(editor, SRT)
    address = f"/api/tracks/{editor.track_id}"
    mends = {m["rule"]: m for m in editor.client.get(f"{address}/mends").json()["mends"]}
    assert set(mends) == {"gap", "space-before-mark"}
    assert mends["space-before-mark"]["after"][0]["text"] == "the bell."
    assert mends["gap"]["before"][0]["out_ms"] > mends["gap"]["after"][0]["out_ms"]
    chosen = [{"rule": "gap", "caption": mends["gap"]["caption"]}]
    done = editor.client.post(f"{address}/mends", json={"gesture": "m", "chosen": chosen}).json()
    assert (done["mended"], done["left"]) == (1, 0)
    rest = editor.client.post(f"{address}/mends", json={"gesture": "n"}).json()
    assert rest["mended"] == 1
    nothing = editor.client.post(f"{address}/mends", json={"gesture": "o"}).json()
    assert nothing == {"mended": 0, "left": 0, "edit": None}
    assert [text for _, _, text in editor.texts()] == ["Hark", "the bell."]
    editor.step("undo")
    assert [text for _, _, text in editor.texts()] == ["Hark", "the bell ."]


def test_a_waiver_stands_until_the_caption_changes(editor: Editor) -> None:
    editor.insert(caption("a", 0, 400, "Sign"))
    address = f"/api/tracks/{editor.track_id}"
    key = {"rule": "least-duration", "caption": "a"}
    waived = editor.client.post(f"{address}/waivers", json={**key, "reason": "a sign"}).json()
    (judged,) = waived["captions"]
    assert [(f["rule"], f["waived"]) for f in judged["findings"]] == [("least-duration", "a sign")]
    assert editor.client.get(f"{address}/mends").json()["mends"] == []
    report = editor.client.get(f"{address}/report").text
    assert "a sign" in report
    assert "No open findings" in report
    back = editor.client.post(f"{address}/waivers/take-back", json=key).json()
    assert back["captions"][0]["findings"][0]["waived"] is None
    editor.client.post(f"{address}/waivers", json={**key, "reason": "a sign"})
    edited = editor.edit(
        {"kind": "change-captions", "changes": [{"caption": "a", "text": "Signs"}]}
    ).json()
    assert edited["captions"][0]["findings"][0]["waived"] is None
    gone = editor.client.post(f"{address}/waivers", json={**key, "caption": "b", "reason": "x"})
    assert gone.status_code == 409


def test_the_report_escapes_what_it_tells(editor: Editor) -> None:
    editor.insert(caption("a", 0, 400, "<script>alert(1)</script>"))
    report = editor.client.get(f"/api/tracks/{editor.track_id}/report")
    assert "&lt;script&gt;" in report.text
    assert "<script>" not in report.text
    assert "SHA-256" in report.text


def test_a_spec_is_tried_out_before_it_is_kept(editor: Editor) -> None:
    editor.insert(caption("a", 0, 3000, "x" * 30), caption("b", 4000, 7000, "x" * 50))
    spec = {"id": "own", "name": "Own", "characters_per_line": 40, "no_markup": False}
    address = f"/api/tracks/{editor.track_id}/judgement"
    judged = editor.client.post(address, json=spec).json()
    assert (judged["caption_count"], judged["broken"]) == (2, {"line-length": 1})
    lengths = next(d for d in judged["distributions"] if d["measure"] == "characters_per_line")
    assert (sum(lengths["counts"]), lengths["counts"][29], lengths["counts"][49]) == (2, 1, 1)
    assert all(s["id"] != "own" for s in editor.client.get("/api/specs").json())
    assert editor.client.post(address, json={**spec, "lines": 0}).status_code == 422


def test_a_spec_is_kept_shared_and_removed(client: TestClient, editor: Editor) -> None:
    bad = client.post("/api/specs", content=json.dumps({"id": "tern/ü", "name": "Tern"}))
    assert bad.status_code == 422
    own = client.post("/api/specs", content=json.dumps({"id": "streaming", "name": "Mine"})).json()
    assert own["id"] == "streaming-own"
    assert json.loads(client.get("/api/specs/streaming-own/file").text)["name"] == "Mine"
    assert client.delete("/api/specs/streaming").status_code == 409
    assert client.delete("/api/specs/streaming-own").status_code == 204
    assert client.delete("/api/specs/streaming-own").status_code == 404


def test_every_rule_says_what_it_goes_by(client: TestClient) -> None:
    rules = client.get("/api/rules").json()
    assert {r["name"]: r["mends"] for r in rules}["language"] is False
    assert len(rules) == 56


def test_a_track_with_empty_captions_is_judged_and_reported(editor: Editor) -> None:
    editor.insert(caption("a", 0, 1000, ""), caption("b", 2000, 3000, "  "))
    spec = {"id": "own", "name": "Own"}
    address = f"/api/tracks/{editor.track_id}"
    assert editor.client.post(f"{address}/judgement", json=spec).json()["broken"]["empty"] == 2
    spec["least_duration_by_length"] = [[1, 1500]]
    judged = editor.client.post(f"{address}/judgement", json=spec)
    assert judged.status_code == 200, judged.text
    assert "has no text" in editor.client.get(f"{address}/report").text


def test_the_report_tells_what_a_client_asks_for(editor: Editor) -> None:
    editor.insert(caption("a", 0, 400, "two  spaces " + "x" * 60))
    query = {"format_name": ["srt", "webvtt"], "author": "Ilse Varga"}
    report = editor.client.get(f"/api/tracks/{editor.track_id}/report", params=query).text
    for told in (
        "by Ilse Varga", "25 frames a second", "00:00:08", "two  spaces", "minimum gap",
        "spaces and punctuation counted", ".en.srt", ".en.vtt", "no empty captions",
    ):  # fmt: skip
        assert told in report, told
    assert re.search(r"Open: \d+ errors, \d+ of advice", report)
    assert "No empty" not in report
    assert "duration by characters" not in report


def test_a_spec_s_file_is_named_after_it(client: TestClient) -> None:
    answer = client.get("/api/specs/streaming/file")
    assert "filename*=utf-8''Streaming.spec.json" in answer.headers["content-disposition"]


def test_what_an_stl_head_says_is_kept_with_the_track(editor: Editor) -> None:
    address = f"/api/tracks/{editor.track_id}"
    editor.insert(caption("a", 0, 1000, "Hark"))
    head = {"country": "TRN", "publisher": "Ternholm", "programme_start": "10:00:00:00"}
    assert editor.client.put(f"{address}/stl-head", json=head).status_code == 200
    assert editor.client.get(f"{address}/stl-head").json()["publisher"] == "Ternholm"
    data = editor.client.get(f"{address}/file", params={"format": "stl"}).content
    assert (data[274:277], data[256:264]) == (b"TRN", b"10000000")
    for wrong in ({"country": "Ternholm"}, {"programme_start": "10:00:61:00"}, {"created": "1.3."}):
        assert editor.client.put(f"{address}/stl-head", json=wrong).status_code == 422


def test_a_file_is_named_and_written_as_the_spec_asks(client: TestClient, editor: Editor) -> None:
    editor.insert(caption("a", 0, 1000, "Größe"))
    spec = {
        "id": "tern", "name": "Tern", "file_name": "{language}_{title}",
        "file_encoding": "windows-1252", "file_line_ends": "crlf", "programme_start": "10:00:00:00",
        "least_duration_by_length": [[20, 1500]],
    }  # fmt: skip
    added = client.post("/api/specs", content=json.dumps(spec)).json()["id"]
    [project] = client.get("/api/projects").json()
    assert (
        client.patch(f"/api/projects/{project['id']}", json={"spec_id": added}).status_code == 200
    )
    address = f"/api/tracks/{editor.track_id}/file"
    srt = editor.client.get(address, params={"format": "srt"})
    assert srt.headers["content-disposition"].endswith(f"en_{project['title']}.srt")
    assert b"Gr\xf6\xdfe\r\n" in srt.content
    report = editor.client.get(f"/api/tracks/{editor.track_id}/report").text
    assert f"en_{project['title']}.srt" in report
    assert sha256(srt.content).hexdigest() in report
    assert "minimum duration by characters: 20 → 1500 ms" in report
    stl = editor.client.get(address, params={"format": "stl"}).content
    assert stl[256:264] == b"10000000"
    editor.insert(caption("b", 2000, 3000, "鐘"))
    refused = editor.client.get(address, params={"format": "srt"})
    assert (refused.status_code, "windows-1252" in refused.json()["detail"]) == (422, True)
