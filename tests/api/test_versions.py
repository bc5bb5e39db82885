"""Versions of a track: what two windows do to them, what undo takes back, and what is drawn and burned."""

from collections.abc import Callable

import pytest
from fastapi.testclient import TestClient

UPRIGHT = {"name": "Upright", "shape": "9:16"}
OTHER = {"Dunlin-Person": "other", "Dunlin-Window": "other"}


class Versions:
    """A track's versions, by the requests of a page."""

    def __init__(self, client: TestClient, project: dict) -> None:
        self.client, self.project = client, project
        self.address = f"/api/tracks/{project['tracks'][0]['id']}"

    def read(self) -> dict:
        return self.client.get(f"{self.address}/versions").json()

    def put(self, version: dict, id_: str = "one", base: int | None = None, **more):
        base = self.read()["revision"] if base is None else base
        body = {"base_revision": base, "gesture": "g", "version": version}
        return self.client.put(f"{self.address}/versions/{id_}", json=body, **more)

    def apart(self, apart: dict, id_: str = "one", base: int = 0, **more):
        body = {"base_revision": base, "gesture": "a", "apart": apart}
        return self.client.put(f"{self.address}/versions/{id_}/captions", json=body, **more)

    def drawn(self, *captions: str, id_: str = "one") -> dict:
        asked = {"captions": list(captions)}
        return self.client.post(f"{self.address}/versions/{id_}/drawn", json=asked).json()["lines"]


@pytest.fixture
def project(client: TestClient, new_project: Callable[..., dict]) -> dict:
    made = new_project()
    captions = [
        {"id": f"c{n}", "in_ms": n * 1000, "out_ms": n * 1000 + 900, "spans": [{"text": text}]}
        for n, text in enumerate(["Low water", "at the quay", "of Quillan Point"])
    ]
    operation = {"kind": "insert-captions", "captions": captions}
    body = {"base_revision": 0, "gesture": "in", "operation": operation}
    done = client.post(f"/api/tracks/{made['tracks'][0]['id']}/edits", json=body)
    assert done.status_code == 200
    return made


@pytest.fixture
def versions(client: TestClient, project: dict) -> Versions:
    return Versions(client, project)


def test_a_version_has_a_picture_a_head_and_a_window(versions: Versions) -> None:
    [made] = versions.put(UPRIGHT).json()["versions"]
    film = versions.project["film"]
    assert made["version"]["name"] == "Upright"
    assert made["picture"] == made["window"]
    assert made["picture"]["height"] == film["height"]
    assert f"PlayResX: {made['picture']['width']}\n" in made["script_head"]
    [whole] = versions.put({**UPRIGHT, "whole": True}).json()["versions"]
    assert whole["picture"]["height"] == film["width"]
    assert whole["colours"][0] == [1, 0, 0, 0]
    [grey] = versions.put({**UPRIGHT, "colours": {"grade": "printed"}}).json()["versions"]
    assert len(set(map(tuple, grey["colours"]))) == 1


@pytest.mark.parametrize(
    ("version", "status"),
    [
        ({"name": "Upright", "shape": "1:9"}, 422),
        ({"name": "Upright", "shape": "upright"}, 422),
        ({"name": "  ", "shape": "9:16"}, 422),
        ({"name": "Upright", "moments": [{"at_ms": 5, "x": 0.1}, {"at_ms": 5, "x": 0.2}]}, 422),
        ({"name": "Upright", "moments": [{"at_ms": 5, "x": 1.5}]}, 422),
        ({"name": "Upright", "colours": {"exposure": 9}}, 422),
        ({"name": "SQUARE"}, 422),
    ],
)
def test_what_is_none_is_refused_and_nothing_is_stored(
    versions: Versions, version: dict, status: int
) -> None:
    versions.put({"name": "Square", "shape": "1:1"}, "two")
    before = versions.read()
    assert versions.put(version).status_code == status
    assert versions.read() == before


def test_a_version_that_another_window_changed_is_not_written_over(versions: Versions) -> None:
    seen = versions.put(UPRIGHT).json()["revision"]
    moved = {**UPRIGHT, "moments": [{"at_ms": 0, "x": 0.8}]}
    assert versions.put(moved, base=seen, headers=OTHER).status_code == 200
    refused = versions.put({**UPRIGHT, "whole": True}, base=seen)
    assert refused.status_code == 409
    [stands] = versions.read()["versions"]
    assert stands["version"]["moments"][0]["x"] == 0.8
    # Two versions are in nobody's way.
    assert versions.put({"name": "Square", "shape": "1:1"}, "two", base=seen).status_code == 200


def test_an_edit_whose_answer_was_lost_is_not_made_twice(versions: Versions) -> None:
    key = {"Idempotency-Key": "once"}
    first = versions.put(UPRIGHT, base=0, headers=key).json()
    versions.put({**UPRIGHT, "whole": True}, headers=OTHER)
    again = versions.put(UPRIGHT, base=0, headers=key).json()
    assert again["versions"][0]["version"]["whole"] is True
    assert first["revision"] < again["revision"]


def test_a_removal_whose_answer_was_lost_is_answered_and_not_refused(versions: Versions) -> None:
    versions.put(UPRIGHT)
    address, key = f"{versions.address}/versions/one", {"Idempotency-Key": "gone"}
    for _ in range(2):
        removed = versions.client.delete(address, headers=key)
        assert removed.status_code == 200
        assert removed.json()["versions"] == []
    assert versions.client.delete(address, headers={"Idempotency-Key": "other"}).status_code == 404


def test_what_differs_is_drawn_in_the_version_alone(versions: Versions) -> None:
    made = versions.put(UPRIGHT).json()
    before = versions.drawn("c0", "c1", "c2")
    assert all(before.values())
    high = {"placement": {"anchor": "middle", "x": 0.5, "y": 0.2}}
    [view] = versions.apart({"c0": high, "c1": {"hidden": True}}).json()["versions"]
    assert set(view["apart"]) == {"c0", "c1"}
    after = versions.drawn("c0", "c1", "c2")
    assert set(after) == {"c0", "c2"}
    assert after["c0"] != before["c0"]
    assert after["c2"] == before["c2"]
    # The track's own stay as they are.
    captions = versions.client.get(versions.address).json()["captions"]
    assert [caption["placement"] for caption in captions] == [None, None, None]
    # What was read is told by one number, whichever part of it changed.
    assert versions.read()["revision"] > made["revision"]
    # Given back, a caption is as it is in the track.
    versions.apart({"c0": None, "c1": {}}, base=view["apart_revision"])
    assert versions.drawn("c0", "c1", "c2") == before


def test_words_are_shared_and_what_differs_of_one_caption_is_refused_when_another_window_said_it(
    versions: Versions,
) -> None:
    versions.put(UPRIGHT)
    [view] = versions.apart({"c0": {"hidden": True}}).json()["versions"]
    low = {"placement": {"anchor": "bottom", "x": 0.5, "y": 0.9}}
    seen = view["apart_revision"]
    assert versions.apart({"c0": low}, base=seen, headers=OTHER).status_code == 200
    assert versions.apart({"c0": None}, base=seen).status_code == 409
    assert versions.apart({"c1": low}, base=seen).status_code == 200
    change = {"kind": "change-captions", "changes": [{"caption": "c1", "text": "by the quay"}]}
    body = {"base_revision": 10**6, "gesture": "w", "operation": change}
    assert versions.client.post(f"{versions.address}/edits", json=body).status_code == 200
    assert "by the quay" in versions.drawn("c1")["c1"]


def test_undo_takes_versions_back_and_brings_what_differed_with_them(versions: Versions) -> None:
    versions.put(UPRIGHT)
    versions.apart({"c1": {"hidden": True}})
    removed = versions.client.delete(f"{versions.address}/versions/one")
    assert removed.json()["versions"] == []
    assert versions.client.delete(f"{versions.address}/versions/one").status_code == 404
    assert versions.apart({"c1": None}).status_code == 404
    targets = [versions.address.removeprefix("/api/") + "/versions"]
    undo = f"/api/projects/{versions.project['id']}/undo"
    back = versions.client.post(undo, json={"targets": targets})
    assert targets[0] in back.json()["targets"]
    [view] = versions.read()["versions"]
    assert view["apart"]["c1"]["hidden"] is True


def test_a_version_may_have_a_style_of_its_own(versions: Versions) -> None:
    project = versions.project["id"]
    styles = f"/api/projects/{project}/styles"
    for name, size in (("Small", 0.05), ("Large", 0.15)):
        body = {"look": {"size": size}, "base_revision": 10**6, "gesture": name}
        assert versions.client.put(f"{styles}/{name}", json=body).status_code == 200
    [plain] = versions.put(UPRIGHT).json()["versions"]
    [large] = versions.put({**UPRIGHT, "style": "Large"}).json()["versions"]
    assert large["script_head"] != plain["script_head"]
    # Another name for it is taken over, and undone with it.
    versions.apart({"c0": {"style": "Large"}})
    renamed = versions.client.post(f"{styles}/Large/name", json={"name": "Huge"})
    assert renamed.status_code == 200
    [now] = versions.read()["versions"]
    assert (now["version"]["style"], now["apart"]["c0"]["style"]) == ("Huge", "Huge")
    versions.client.post(f"/api/projects/{project}/undo", json={"targets": ["styles"]})
    # One that is gone is the track's.
    versions.client.delete(f"{styles}/Large")
    [gone] = versions.read()["versions"]
    assert gone["script_head"].count("Style:") < large["script_head"].count("Style:")


def test_a_film_is_burned_in_a_version_and_not_in_one_that_is_gone(versions: Versions) -> None:
    versions.put(UPRIGHT)
    asked = versions.client.post(f"{versions.address}/burn", json={"version": "one"})
    assert asked.status_code == 202
    assert (
        versions.client.post(f"{versions.address}/burn", json={"version": "two"}).status_code == 404
    )


def test_the_second_half_of_a_split_differs_as_its_caption_did_and_undo_is_one(
    versions: Versions,
) -> None:
    versions.put(UPRIGHT)
    look = {"placement": {"anchor": "top", "x": 0.5, "y": 0.25}}
    versions.apart({"c1": look})
    split = {"base_revision": 99, "gesture": "s", "caption": "c1", "new_id": "c9", "offset": 2}
    done = versions.client.post(f"{versions.address}/split", json=split)
    assert done.status_code == 200
    [there] = versions.read()["versions"]
    assert there["apart"]["c9"] == there["apart"]["c1"]

    undo = f"/api/projects/{versions.project['id']}/undo"
    targets = [versions.address.removeprefix("/api/") + "/captions"]
    assert versions.client.post(undo, json={"targets": targets}).status_code == 200
    [back] = versions.read()["versions"]
    assert list(back["apart"]) == ["c1"]
    again = versions.client.post(undo.replace("undo", "redo"), json={"targets": targets})
    assert again.status_code == 200
    assert set(versions.read()["versions"][0]["apart"]) == {"c1", "c9"}
