"""Styles of a project, used by captions and speakers; those kept for all projects; and looks of captions."""

from collections.abc import Callable

import pytest
from fastapi.testclient import TestClient

from dunlin.api import create_app
from dunlin.settings import Settings
from tests.api.test_tracks import Editor, caption


@pytest.fixture
def editor(client: TestClient, new_project: Callable[..., dict]) -> Editor:
    return Editor(client, new_project()["tracks"][0]["id"])


@pytest.fixture
def address(client: TestClient, editor: Editor) -> str:
    (project,) = client.get("/api/projects").json()
    return f"/api/projects/{project['id']}"


def put(client: TestClient, address: str, name: str, **look):
    return client.put(f"{address}/styles/{name}", json={"look": look})


def styles(client: TestClient, address: str) -> dict[str, dict]:
    return {style["name"]: style for style in client.get(f"{address}/styles").json()["styles"]}


def said(style: dict) -> dict:
    return {name: value for name, value in style["look"].items() if value is not None}


def script_of(client: TestClient, editor: Editor) -> str:
    track = client.get(f"/api/tracks/{editor.track_id}").json()
    return track["script_head"] + "".join(c["script"] for c in track["captions"])


def test_a_style_is_made_given_changed_and_all_is_drawn_in_it(
    client: TestClient, editor: Editor, address: str
) -> None:
    editor.insert(caption("a", 0, 1000, "FOG SIGNAL"), caption("b", 2000, 3000, "It rained."))
    put(client, address, "Sign", colour="#F5E7C8", background="#8C3B22", size=0.05)
    editor.edit({"kind": "change-captions", "changes": [{"caption": "a", "style": "Sign"}]})
    (style,) = styles(client, address).values()
    assert said(style) == {"colour": "#F5E7C8", "background": "#8C3B22", "size": 0.05}
    assert style["captions"] == {editor.track_id: 1}
    assert ",Caption1,,0,0,0,,{" in script_of(client, editor)
    put(client, address, "Sign", colour="#102030")
    assert "&H00302010" in script_of(client, editor)
    assert "\\p4" not in script_of(client, editor)
    client.put(f"/api/tracks/{editor.track_id}/default-style", json={"style": "Sign"})
    assert "Style: Caption,Noto Sans,50.4,&H00302010" in script_of(client, editor)


def test_a_change_of_a_style_is_undone_as_any_other(
    client: TestClient, editor, address: str
) -> None:
    put(client, address, "Sign", size=0.05)
    put(client, address, "Sign", size=0.09)
    client.post(f"{address}/undo", json={"targets": ["styles"]})
    assert said(styles(client, address)["Sign"]) == {"size": 0.05}


def test_two_windows_change_two_styles_and_never_the_same_unseen(
    client: TestClient, editor: Editor, address: str
) -> None:
    put(client, address, "Sign", size=0.05)
    seen = client.get(address).json()["revision"]
    other = {"Dunlin-Person": "somebody", "Dunlin-Window": "else"}
    client.put(f"{address}/styles/Sign", json={"look": {"size": 0.06}}, headers=other)
    late = {"look": {"size": 0.07}, "base_revision": seen}
    assert client.put(f"{address}/styles/Sign", json=late).status_code == 409
    assert client.put(f"{address}/styles/Song", json=late).status_code == 200
    assert said(styles(client, address)["Sign"]) == {"size": 0.06}


def test_a_style_that_is_renamed_or_removed_is_so_wherever_it_is_used(
    client: TestClient, editor: Editor, address: str
) -> None:
    editor.insert(caption("a", 0, 1000, "One"))
    editor.edit({"kind": "change-captions", "changes": [{"caption": "a", "style": "Sign"}]})
    put(client, address, "Sign", size=0.05)
    put(client, address, "Song", italic=True)
    client.put(f"/api/tracks/{editor.track_id}/default-style", json={"style": "Sign"})
    renamed = f"{address}/styles/Sign/name"
    assert client.post(renamed, json={"name": "Song"}).json()["code"] == "styles.same-name"
    assert client.post(renamed, json={"name": "  "}).status_code == 422
    assert client.post(renamed, json={"name": "x" * 101}).status_code == 422
    assert client.post(renamed, json={"name": "Board"}).status_code == 200

    def used() -> str | None:
        (one,) = client.get(f"/api/tracks/{editor.track_id}").json()["captions"]
        return one["style"]

    assert used() == "Board"
    gone = client.delete(f"{address}/styles/Board", params={"instead": "Song"})
    assert [style["name"] for style in gone.json()["styles"]] == ["Song"]
    assert used() == "Song"
    # The name of the style of captions that name none went along, both times.
    assert script_of(client, editor).count("Style: Caption,Noto Sans,50.4,") == 1
    assert ",-1,-1,0,0,100" in script_of(client, editor).split("Style: Box")[0]
    client.post(f"{address}/undo", json={"targets": ["styles"]})
    assert used() == "Board"
    unknown = client.delete(f"{address}/styles/Nothing")
    assert (unknown.status_code, unknown.json()["code"]) == (422, "styles.unknown")


def test_a_style_kept_for_all_projects_is_copied_and_a_newer_one_is_told(
    client: TestClient, editor: Editor, address: str, new_project
) -> None:
    keep = {"look": {"size": 0.06, "background": "#000000"}, "default": True}
    assert client.put("/api/styles/Ours", json=keep).status_code == 204
    client.post(f"{address}/styles/Ours/taken")
    assert styles(client, address)["Ours"]["is_older"] is False
    client.put("/api/styles/Ours", json={"look": {"size": 0.08}})
    mine = styles(client, address)["Ours"]
    assert (mine["kept"], mine["is_older"], mine["look"]["size"]) == (True, True, 0.06)
    client.put("/api/styles/Other", json={"look": {}, "default": True})
    defaults = {style["name"]: style["default"] for style in client.get("/api/styles").json()}
    assert defaults == {"Ours": False, "Other": True}
    fresh = f"/api/projects/{new_project()['id']}"
    assert list(styles(client, fresh)) == ["Other"]
    assert client.delete("/api/styles/Ours").status_code == 204
    assert client.delete("/api/styles/Ours").status_code == 404
    assert styles(client, address)["Ours"]["kept"] is False


@pytest.mark.parametrize(
    "look",
    [{"size": 0}, {"size": "large"}, {"colour": "red"}, {"opacity": 1.5}, {"turn": 1e9},
     {"font": "A,B"}, {"font": "{\\p1}"}, {"comes": "explode"}, {"outline": -1}],
)  # fmt: skip
def test_what_is_no_look_is_refused(client: TestClient, editor: Editor, address: str, look) -> None:
    assert put(client, address, "Sign", **look).status_code == 422
    editor.insert(caption("a", 0, 1000, "One"))
    change = {"caption": "a", "look": look}
    assert editor.edit({"kind": "change-captions", "changes": [change]}).status_code == 422
    assert styles(client, address) == {}


def test_a_caption_and_its_words_look_as_they_say_and_so_after_a_restart(
    client: TestClient, editor: Editor, data_settings: Settings
) -> None:
    editor.insert(caption("a", 0, 1000, "One two"))
    spans = [{"text": "One "}, {"text": "two", "look": {"size": 0.1, "opacity": 0.5}}]
    moments = [{"at_ms": 0, "x": 0.2, "y": 0.5}, {"at_ms": 900, "x": 0.4, "y": 0.5}]
    change = {"caption": "a", "look": {"turn": -7, "shadow": 0, "moments": moments}, "spans": spans}
    editor.edit({"kind": "change-captions", "changes": [change]})
    with TestClient(create_app(data_settings)) as later:
        script = script_of(later, editor)
    assert "\\frz7" in script
    assert "\\fs72.0\\1a&H80&" in script
    # At 25 frames a second it is elsewhere on each of its frames until it rests.
    assert script.count("Dialogue:") == 24
    assert "\\pos(256.00,360.00)" in script
    editor.step("undo")
    assert "\\frz7" not in script_of(client, editor)


def test_a_file_brings_its_styles_along_and_goes_back_with_them(
    client: TestClient, editor: Editor, address: str, new_project
) -> None:
    editor.insert(caption("a", 0, 1000, "FOG SIGNAL"), caption("b", 2000, 3000, "It rained."))
    editor.edit({"kind": "change-captions", "changes": [{"caption": "a", "style": "Sign"}]})
    put(client, address, "Sign", colour="#F5E7C8", background="#8C3B22")
    put(client, address, "Ours", size=0.05)
    client.put(f"/api/tracks/{editor.track_id}/default-style", json={"style": "Ours"})
    file = client.get(f"/api/tracks/{editor.track_id}/file", params={"format": "json"})
    there = new_project()
    other, track = f"/api/projects/{there['id']}", there["tracks"][0]["id"]
    put(client, other, "Sign", colour="#000000")
    query = {"name": "a.json", "gesture": "g"}
    taken = client.post(f"/api/tracks/{track}/captions-file", params=query, content=file.content)
    assert taken.status_code == 200, taken.text
    assert {name: said(style) for name, style in styles(client, other).items()} == {
        "Sign": {"colour": "#F5E7C8", "background": "#8C3B22"}, "Ours": {"size": 0.05},
    }  # fmt: skip
    assert script_of(client, Editor(client, track)) == script_of(client, editor)
    client.post(f"{other}/undo", json={"targets": ["styles"]})
    assert {name: said(style) for name, style in styles(client, other).items()} == {
        "Sign": {"colour": "#000000"}
    }


def test_kept_styles_go_out_as_a_file_and_come_in_again(client: TestClient) -> None:
    ours = {"size": 0.06, "background": "#000000"}
    client.put("/api/styles/Ours", json={"look": ours, "default": True})
    client.put("/api/styles/Loud", json={"look": {"font": "Anton", "case": "upper"}})
    file = client.get("/api/styles-file")
    assert "dunlin-styles.json" in file.headers["content-disposition"]
    assert file.json()["styles"] == {"Loud": {"font": "Anton", "case": "upper"}, "Ours": ours}
    client.delete("/api/styles/Loud")
    client.put("/api/styles/Ours", json={"look": {}})
    taken = client.post("/api/styles-file", content=file.content).json()
    kept = {style["name"]: style for style in taken}
    assert said(kept["Ours"]) == ours
    assert kept["Ours"]["default"] is True
    assert said(kept["Loud"]) == {"font": "Anton", "case": "upper"}


@pytest.mark.parametrize(
    "file",
    [
        b"",
        b"[]",
        b'{"dunlin": "styles", "version": 1, "styles": {}}',
        b'{"dunlin": "styles", "version": 1, "styles": {"A": {"size": 400}}}',
        b'{"dunlin": "styles", "version": 1, "styles": {"A": {"glow": 1}}}',
        b'{"dunlin": "captions", "version": 1, "captions": []}',
    ],
)
def test_what_is_no_file_of_styles_is_told_and_keeps_none(client: TestClient, file: bytes) -> None:
    refused = client.post("/api/styles-file", content=file)
    assert (refused.status_code, refused.json()["code"]) == (422, "styles.file-wrong")
    assert client.get("/api/styles").json() == []


SQUARE = b'<svg xmlns="http://www.w3.org/2000/svg"><rect x="2" y="3" width="8" height="4"/></svg>'


def test_outlines_of_a_file_are_told_and_nothing_is_kept(client: TestClient) -> None:
    told = client.post("/api/outlines", content=SQUARE)
    assert told.json() == {"path": "M0 0 L1 0 L1 1 L0 1 L0 0 Z", "ratio": 2.0}
    for wrong, code in ((b"{}", "styles.no-svg"), (b"x" * (2**20 + 1), "styles.svg-too-large")):
        refused = client.post("/api/outlines", content=wrong)
        assert (refused.status_code, refused.json()["code"]) == (422, code)


def findings_of(client: TestClient, editor: Editor) -> dict[str, list]:
    track = client.get(f"/api/tracks/{editor.track_id}").json()
    return {c["id"]: c["findings"] for c in track["captions"]}


def test_shapes_are_judged_by_no_rule_and_stand_between_no_captions(
    client: TestClient, editor: Editor
) -> None:
    shape = {"shape": "M0 0 L1 0 L1 1 Z", "size": 0.2}
    editor.insert(caption("a", 0, 1000, "One"), caption("b", 900, 2000, "Two"))
    before = findings_of(client, editor)
    plate = {"id": "aa", "in_ms": 500, "out_ms": 3000, "spans": [], "look": shape}
    editor.edit({"kind": "insert-captions", "captions": [plate]})
    assert before["b"]
    assert findings_of(client, editor) == before | {"aa": []}
    file = client.get(f"/api/tracks/{editor.track_id}/file", params={"format": "srt"}).text
    assert file.count("-->") == 2
