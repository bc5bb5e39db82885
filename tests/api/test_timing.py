"""Captions moved, cued along and typed, through the API; speech, sync and fitting through a worker."""

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from dunlin.core.captions import InsertCaptions
from dunlin.core.formats import Context, read_file
from dunlin.store.log import Author
from dunlin.work.shots import set_shots
from tests.api.test_tracks import Editor, caption
from tests.conftest import DEMO, FILM
from tests.server import Server


@pytest.fixture
def editor(client: TestClient, new_project: Callable[..., dict]) -> Editor:
    editor = Editor(client, new_project()["tracks"][0]["id"])
    editor.insert(
        caption("a", 1000, 2000, "one"), caption("b", 2200, 3000, "two"), caption("c", 4000, 5000)
    )
    return editor


def retiming(editor: Editor, way: dict, **rest):
    return editor.client.post(f"/api/tracks/{editor.track_id}/retiming", json={"way": way, **rest})


def test_retiming_is_looked_at_before_it_is_done(editor: Editor) -> None:
    before = editor.texts()
    seen = retiming(editor, {"kind": "by", "amount": "+520ms"}, from_ms=2000).json()
    assert [(t["caption"], t["in_ms"]) for t in seen["times"]] == [("b", 2720), ("c", 4520)]
    assert editor.texts() == before
    seen = retiming(editor, {"kind": "by", "amount": "-1.5"}, below_zero="drop").json()
    assert seen["below_zero"] == seen["dropped"] == ["a"]
    one = retiming(editor, {"kind": "by", "amount": "1"}, captions=["b"], edges="outs").json()
    assert one["times"] == [{"caption": "b", "in_ms": 2200, "out_ms": 4000}]


def test_anchors_rates_and_pieces(editor: Editor) -> None:
    anchors = [{"old_ms": 1000, "new_ms": 2000}, {"old_ms": 4000, "new_ms": 8000}]
    seen = retiming(editor, {"kind": "anchors", "anchors": anchors}).json()
    assert [t["in_ms"] for t in seen["times"]] == [2000, 4400, 8000]
    seen = retiming(editor, {"kind": "rate", "from_fps": "25", "to_fps": "50"}).json()
    assert [t["in_ms"] for t in seen["times"]] == [480, 1080, 2000]
    pieces = [
        {"from_ms": 0, "to_ms": 4000, "offset_ms": 40},
        {"from_ms": 4000, "to_ms": None, "offset_ms": -400},
    ]
    seen = retiming(editor, {"kind": "pieces", "pieces": pieces}).json()
    assert [t["in_ms"] for t in seen["times"]] == [1040, 2240, 3600]


def test_what_is_locked_stays(editor: Editor) -> None:
    editor.edit({"kind": "change-captions", "changes": [{"caption": "b", "locked": True}]})
    seen = retiming(editor, {"kind": "by", "amount": "1"}).json()
    assert [t["caption"] for t in seen["times"]] == ["a", "c"]
    times = [{"caption": id_, "in_ms": 9000, "out_ms": 9500} for id_ in "ab"]
    editor.edit({"kind": "change-captions", "changes": times})
    track = editor.client.get(f"/api/tracks/{editor.track_id}").json()
    assert [(c["id"], c["in_ms"], c["locked"]) for c in track["captions"]] == [
        ("b", 2200, True), ("c", 4000, False), ("a", 9000, False)
    ]  # fmt: skip
    alone = editor.edit({"kind": "change-captions", "changes": times[1:]})
    assert alone.status_code == 409
    assert "locked" in alone.json()["detail"]
    for _ in range(2):
        editor.step("undo")
    track = editor.client.get(f"/api/tracks/{editor.track_id}").json()
    assert [(c["id"], c["locked"]) for c in track["captions"]] == [
        ("a", False), ("b", False), ("c", False)
    ]  # fmt: skip


def test_shot_changes_are_put_and_taken_away(client: TestClient, new_project) -> None:
    project = new_project()
    address = f"/api/projects/{project['id']}/shots/toggle"
    early = client.post(address, json={"at_ms": 1000})
    assert (early.status_code, "being found" in early.json()["detail"]) == (409, True)
    here = client.app.state.services
    set_shots(here, here.films.get(project["film"]["id"]), [2000], Author("dunlin"))
    assert client.post(address, json={"at_ms": 1010}).json() == {"shots": [1000, 2000]}
    assert client.post(address, json={"at_ms": 2000}).json() == {"shots": [1000]}
    assert client.get(f"/api/projects/{project['id']}").json()["shots"] == [1000]
    for at_ms in (0, 3_600_000):
        assert client.post(address, json={"at_ms": at_ms}).status_code == 422


def test_the_pitches_of_a_film_come_in_slices(client: TestClient, new_project) -> None:
    address = f"/api/films/{new_project()['film']['id']}/spectrum"
    slice_ = client.get(address, params={"first": 100, "count": 50})
    assert len(slice_.content) == 50 * 64
    silent = f"/api/films/{new_project('silent')['film']['id']}/spectrum"
    assert client.get(silent).status_code == 404


@pytest.mark.parametrize(
    ("way", "said"),
    [
        ({"kind": "by", "amount": "soon"}, "soon"),
        ({"kind": "rate", "from_fps": "25", "to_fps": "none"}, "none"),
        (
            {"kind": "anchors", "anchors": [{"old_ms": 1000, "new_ms": 5000}, {"old_ms": 2000, "new_ms": 100}]},
            "cross",
        ),
        (
            {"kind": "pieces", "pieces": [{"from_ms": 9, "to_ms": None, "offset_ms": 0}, {"from_ms": 0, "to_ms": 9, "offset_ms": 0}]},
            "follow each other",
        ),
    ],
)  # fmt: skip
def test_what_cannot_be_moved_so_is_refused_in_words(editor: Editor, way: dict, said: str) -> None:
    answer = retiming(editor, way)
    assert answer.status_code == 422
    assert said in answer.json()["detail"]


def test_a_typed_time_is_answered_and_a_wrong_one_refused(editor: Editor) -> None:
    address = f"/api/tracks/{editor.track_id}/typed-times"
    typed = editor.client.post(address, json={"caption": "b", "field": "out", "text": "+3f"})
    assert typed.json() == {"caption": "b", "in_ms": 2200, "out_ms": 3120}
    wrong = editor.client.post(address, json={"caption": "b", "field": "out", "text": "1"})
    assert wrong.status_code == 422
    assert "nothing was changed" in wrong.json()["detail"]
    gone = editor.client.post(address, json={"caption": "x", "field": "out", "text": "1"})
    assert gone.status_code == 404


def test_keys_become_edits_that_can_be_undone(editor: Editor) -> None:
    state = {"way": "ins", "lines": ["a", "b", "c"], "next": 0, "open": False, "down": False}

    def press(key: str, at_ms: float):
        nonlocal state
        made = editor.client.post(
            f"/api/tracks/{editor.track_id}/cue",
            json={"state": state, "key": key, "at_ms": at_ms, "reaction_ms": 100,
                  "gesture": f"{key}{at_ms}"},
        )  # fmt: skip
        assert made.status_code == 200, made.text
        state = made.json()["state"]
        return made.json()

    press("in", 1100)
    made = press("in", 3100)
    assert [t["id"] for t in made["edit"]["captions"]][:2] == ["a", "b"]
    assert editor.texts()[0][:2] == (1000, 2920)
    assert press("back", 500)["edit"] is None
    assert state["next"] == 0
    for at in (700, 2000, 4000):
        made = press("in", at)
    assert made["ended"]
    editor.step("undo")
    assert editor.texts()[2][0] == 4000
    editor.revision = editor.client.get(f"/api/tracks/{editor.track_id}").json()["revision"]
    assert editor.edit({"kind": "delete-captions", "captions": ["c"]}).status_code == 200
    late = editor.client.post(
        f"/api/tracks/{editor.track_id}/cue",
        json={
            "state": state | {"next": 1},
            "key": "in",
            "at_ms": 1,
            "gesture": "g",
        },
    )
    assert late.status_code == 409


def test_a_film_without_sound_says_so(client: TestClient, new_project) -> None:
    project = new_project("silent")
    track = project["tracks"][0]["id"]
    for address in (f"tracks/{track}/sync", f"projects/{project['id']}/speech"):
        assert client.post(f"/api/{address}").status_code == 422
    assert client.post(f"/api/tracks/{track}/fit", json={}).status_code == 422
    assert client.get(f"/api/films/{project['film']['id']}/speech").status_code == 404


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    server = Server(tmp_path_factory.mktemp("timing"))
    yield server
    server.stop()


def test_the_sound_tells_where_captions_belong(server: Server, films) -> None:
    project = server.upload(films["talk"])
    track = project["tracks"][0]["id"]
    data = (DEMO / "fog-bell.en.json").read_bytes()
    captions = read_file(data, "fog-bell.en.json", Context()).document.captions
    assert InsertCaptions(captions).captions
    server.post(
        f"/api/tracks/{track}/edits",
        json={
            "base_revision": 0, "gesture": "late",
            "operation": {
                "kind": "insert-captions",
                "captions": [
                    {"id": c.id, "in_ms": c.in_ms + 3000 + 2000 * (n >= 20),
                     "out_ms": c.out_ms + 3000 + 2000 * (n >= 20), "spans": [{"text": c.text}]}
                    for n, c in enumerate(captions)
                ],
            },
        },
    )  # fmt: skip
    server.wait_for_job(project["id"], "speech", "done")
    stretches = server.get(f"/api/films/{project['film']['id']}/speech")["stretches"]
    assert len(stretches) > 20
    server.post(f"/api/tracks/{track}/sync")
    found = server.wait_for_job(project["id"], "sync", "done", "failed")["result"]
    assert [round(piece["offset_ms"] / 1000) for piece in found["pieces"]] == [-3, -5]
    assert found["agreement_after"] > found["agreement_before"]


def test_a_script_is_fitted_to_the_sound(server: Server, films) -> None:
    project = server.upload(films["short"])
    track = project["tracks"][0]["id"]
    texts = [
        "This is Quillan Point, on the last day of February.",
        "I am Ilse Varga, and I have kept",
    ]
    script = [
        {"id": f"c{n}", "in_ms": n * 1000, "out_ms": n * 1000 + 900, "spans": [{"text": text}]}
        for n, text in enumerate(texts)
    ]
    server.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": 0, "gesture": "script",
              "operation": {"kind": "insert-captions", "captions": script}},
    )  # fmt: skip
    server.post(f"/api/tracks/{track}/fit", json={})
    fitted = server.wait_for_job(project["id"], "fit", "done", "failed")["result"]["times"]
    # The film's words begin at 6.6 and 10.4 seconds, of which this part leaves out six.
    assert [time["in_ms"] for time in fitted] == pytest.approx([600, 4425], abs=120)
    assert all(time["sure"] > 0.5 for time in fitted)
    server.post(
        f"/api/tracks/{track}/fit", json={"captions": ["c1"], "from_ms": 4000, "to_ms": 8000}
    )
    again = server.wait_for_job(project["id"], "fit", "done", "failed")["result"]["times"]
    assert again[-1]["in_ms"] == pytest.approx(4425, abs=120)


def test_speech_is_kept_beside_its_film(tmp_path: Path) -> None:
    from dunlin.media.speech import find_speech, speech_in

    assert speech_in(tmp_path) is None
    found = find_speech(FILM, tmp_path, 128_000)
    assert speech_in(tmp_path) == found


def test_fitness_is_told_once_the_sound_was_listened_to(editor: Editor) -> None:
    project = editor.client.get("/api/projects").json()[0]
    answer = editor.client.get(f"/api/films/{project['film']['id']}/sound-fitness")
    assert (answer.status_code, answer.json()["code"]) == (404, "sound.speech-not-found-yet")


def test_cuts_of_a_timeline_become_shot_changes(client: TestClient, new_project) -> None:
    project = new_project()
    address = f"/api/projects/{project['id']}/shots-file"
    event = "{n:03}  AX  V  C  00:00:00:00 00:00:01:00 01:00:0{n}:00 01:00:0{m}:00"
    lines = [event.format(n=n, m=n + 1) for n in range(3)]
    edl = "\n".join(["TITLE: X", "FCM: NON-DROP FRAME", *lines]).encode()
    key = {"Idempotency-Key": "cuts"}
    for _ in range(2):
        answer = client.post(address, content=edl, headers=key)
        assert answer.json() == {"shots": [1000, 2000]}
    refused = client.post(address, content=b"Fog")
    assert (refused.status_code, refused.json()["code"]) == (422, "timeline.no-events")
