"""Captions that stand on something in the picture: marked, followed, stuck to it, over the API."""

from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from tests.api.test_tracks import Editor, caption
from tests.signs import FIRST, LAST, mark_at, place_at


@pytest.fixture
def editor(client: TestClient, sign_film: Path) -> Editor:
    answer = client.post(
        "/api/projects", params={"name": "sign.mp4"}, content=sign_film.read_bytes()
    ).json()
    editor = Editor(client, answer["tracks"][0]["id"])
    x, y, _, turn = place_at(40)
    placement = {"anchor": "middle", "align": "center", "x": x / 1280, "y": y / 720}
    said = caption("a", 1000, 2000, "QUILLAN POINT") | {
        "placement": placement,
        "look": {"turn": turn},
    }
    assert editor.insert(said).status_code == 200
    return editor


def mark(frame: int) -> dict:
    said = asdict(mark_at(frame))
    return {"at_ms": said.pop("frame") * 40, **said}


def ask(client: TestClient, editor: Editor, *marks: dict):
    asked = {"caption": "a", "marks": list(marks)}
    return client.post(f"/api/tracks/{editor.track_id}/follow", json=asked)


def follow(client: TestClient, editor: Editor, *marks: dict) -> dict:
    job = ask(client, editor, *marks).json()
    client.app.state.services.queue._run(job["id"])
    return client.app.state.services.jobs.get(job["id"]).__dict__


def test_a_caption_goes_along_with_the_sign_that_was_marked(
    client: TestClient, editor: Editor
) -> None:
    job = follow(client, editor, mark(40))
    assert job["result"] == {"first_ms": FIRST * 40, "end_ms": (LAST + 1) * 40}
    path = client.get(f"/api/jobs/{job['id']}/path").json()
    assert len(path["x"]) == len(path["sure"]) == LAST - FIRST + 1
    body = {"caption": "a", "job": job["id"], "at_ms": 1600, "take_times": True}
    stuck = client.post(f"/api/tracks/{editor.track_id}/stuck", json=body).json()
    assert (stuck["in_ms"], stuck["out_ms"]) == (FIRST * 40, (LAST + 1) * 40)
    change = {
        "caption": "a",
        "in_ms": stuck["in_ms"],
        "out_ms": stuck["out_ms"],
        "look": {"turn": place_at(40)[3], "moments": stuck["moments"]},
    }
    assert editor.edit({"kind": "change-captions", "changes": [change]}).status_code == 200
    for frame in (FIRST, 60, LAST):
        asked = {"captions": ["a"], "at_ms": frame * 40}
        looks = client.post(f"/api/tracks/{editor.track_id}/looks", json=asked).json()
        (look,) = looks["captions"]
        x, y, _, turn = place_at(frame)
        assert look["frame"]["x"] == pytest.approx(x, abs=1.5)
        assert look["frame"]["y"] == pytest.approx(y, abs=1.5)
        assert look["frame"]["turned"] == pytest.approx(turn, abs=0.5)


def test_a_caption_that_is_never_there_meanwhile_is_told(
    client: TestClient, editor: Editor
) -> None:
    job = follow(client, editor, mark(40))
    editor.edit(
        {
            "kind": "change-captions",
            "changes": [{"caption": "a", "in_ms": 4400, "out_ms": 4600}],
        }
    )
    body = {"caption": "a", "job": job["id"], "at_ms": 4400}
    refused = client.post(f"/api/tracks/{editor.track_id}/stuck", json=body)
    assert (refused.status_code, refused.json()["code"]) == (422, "follow.another-time")


def test_of_two_marks_at_one_frame_the_later_is_meant(client: TestClient, editor: Editor) -> None:
    other = {**mark(40), "x": 0.25}
    parameters = ask(client, editor, mark(40), mark(80), {**other, "at_ms": 1615}).json()
    assert [(m["frame"], m["x"]) for m in parameters["parameters"]["marks"]] == [
        (40, 0.25),
        (80, mark(80)["x"]),
    ]


@pytest.mark.parametrize(
    "wrong",
    [
        [],
        [{"at_ms": 0, "x": 2, "y": 0.5, "width": 0.1, "height": 0.1}],
        [{"at_ms": 0, "x": 0.5, "y": 0.5, "width": 0, "height": 0.1}],
        [{"at_ms": -1, "x": 0.5, "y": 0.5, "width": 0.1, "height": 0.1}],
    ],
)
def test_marks_that_cannot_be_are_refused(
    client: TestClient, editor: Editor, wrong: list[dict]
) -> None:
    assert ask(client, editor, *wrong).status_code == 422


def test_what_cannot_be_found_fails_with_why(client: TestClient, editor: Editor) -> None:
    job = follow(client, editor, {**mark(40), "width": 0.004, "height": 0.004})
    assert (job["state"], job["error"]["code"]) == ("failed", "follow.too-small")
    answer = client.get(f"/api/jobs/{job['id']}/path")
    assert (answer.status_code, answer.json()["code"]) == (409, "follow.no-path-yet")


def test_in_sound_alone_nothing_can_be_followed(
    client: TestClient, new_project: Callable[..., dict]
) -> None:
    editor = Editor(client, new_project("sound")["tracks"][0]["id"])
    refused = ask(client, editor, mark(0))
    assert (refused.status_code, refused.json()["code"]) == (422, "follow.no-picture")
