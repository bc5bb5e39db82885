"""The log of a project, through the API: whose undo it is, what is told, and what is not done twice."""

import asyncio
from collections.abc import Callable
from contextlib import suppress
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import func, select
from sqlalchemy.event import listen, remove

from dunlin.core.project import SetEntries, captions_of, shots_in
from dunlin.store.log import Author, Step
from dunlin.store.tables import LogRow
from dunlin.work.shots import set_shots
from tests.api.test_tracks import Editor, caption


def change(id_: str, **fields: object) -> dict:
    return {"kind": "change-captions", "changes": [{"caption": id_, **fields}]}


@pytest.fixture
def project(new_project: Callable[..., dict]) -> dict:
    return new_project()


@pytest.fixture
def ilse(client: TestClient, project: dict) -> Editor:
    editor = Editor(client, project["tracks"][0]["id"], "ilse")
    editor.insert(*(caption(f"c{n}", n * 2000, n * 2000 + 1500, f"line {n}") for n in range(10)))
    return editor


def beside(editor: Editor, person: str) -> Editor:
    """Another person's window, which has seen as much."""
    other = Editor(editor.client, editor.track_id, person)
    other.revision = editor.revision
    return other


def log_rows(client: TestClient) -> int:
    engine = client.app.state.services.engine  # type: ignore[attr-defined]
    with engine.connect() as connection:
        return connection.scalar(select(func.count()).select_from(LogRow))


def test_an_answer_brings_all_that_was_touched_since_its_window_last_looked(ilse: Editor) -> None:
    tobit = beside(ilse, "tobit")
    ilse.edit(change("c1", text="Ilse's"))
    answer = tobit.edit(change("c8", text="Tobit's")).json()
    assert {"c1", "c8"} <= {c["id"] for c in answer["captions"]}
    assert answer["touched"] == ["c8"]
    assert answer["base"] < answer["revision"]
    # What was taken away is told as well.
    ilse.edit({"kind": "delete-captions", "captions": ["c3"]})
    assert tobit.edit(change("c8", text="Tobit's own")).json()["removed"] == ["c3"]


def test_what_a_window_did_itself_is_not_in_its_way(ilse: Editor) -> None:
    base = ilse.revision
    ilse.edit(change("c1", text="first"))
    ilse.revision = base
    # Made before the answer to the first had come.
    assert ilse.edit(change("c1", text="second")).status_code == 200
    ilse.revision = base
    second = beside(ilse, "ilse")
    second.headers["Dunlin-Window"] = "another"
    assert second.edit(change("c1", text="third")).status_code == 409


def test_undo_is_ones_own(ilse: Editor) -> None:
    tobit = beside(ilse, "tobit")
    ilse.edit(change("c1", text="Ilse's"))
    tobit.edit(change("c2", text="Tobit's"))
    assert ilse.step("undo").status_code == 200
    texts = [text for *_, text in ilse.texts()]
    assert texts[1:3] == ["line 1", "Tobit's"]
    assert ilse.step("redo").status_code == 200
    assert [text for *_, text in ilse.texts()][1] == "Ilse's"


def test_windows_of_one_person_share_their_undo(ilse: Editor) -> None:
    again = beside(ilse, "ilse")
    again.headers["Dunlin-Window"] = "second"
    ilse.edit(change("c1", text="Ilse's"))
    again.step("undo")
    assert [text for *_, text in ilse.texts()][1] == "line 1"


def test_what_somebody_built_on_is_not_undone_but_told(ilse: Editor) -> None:
    tobit = beside(ilse, "tobit")
    ilse.edit(change("c1", text="Ilse's"))
    tobit.revision = ilse.revision
    tobit.edit(change("c1", speaker="Edda"))
    answer = ilse.step("undo")
    assert answer.status_code == 409
    assert answer.json()["code"] == "edits.in-the-way"
    assert answer.json()["values"] == {
        "actor": "tobit", "target": f"tracks/{ilse.track_id}/captions", "touched": ["c1"],
    }  # fmt: skip
    # Once that is taken back, it can be.
    assert tobit.step("undo").status_code == 200
    assert ilse.step("undo").status_code == 200
    assert [text for *_, text in ilse.texts()][1] == "line 1"


def test_an_edit_whose_answer_was_lost_is_not_done_twice(ilse: Editor) -> None:
    body = {
        "base_revision": ilse.revision, "gesture": "split", "caption": "c1", "new_id": "n", "offset": 4,
    }  # fmt: skip
    address = f"/api/tracks/{ilse.track_id}/split"
    headers = {**ilse.headers, "Idempotency-Key": "once"}
    first = ilse.client.post(address, json=body, headers=headers)
    again = ilse.client.post(address, json=body, headers=headers)
    assert (first.status_code, again.status_code) == (200, 200)
    assert again.json()["captions"] == first.json()["captions"]
    assert [text for *_, text in ilse.texts()][1:3] == ["line", "1"]


def test_a_drag_is_one_row_and_undone_by_one(ilse: Editor) -> None:
    before, rows = ilse.texts(), log_rows(ilse.client)
    for ms in range(20):
        ilse.edit(change("c1", in_ms=2000 + ms, out_ms=3500 + ms), "drag")
    assert log_rows(ilse.client) == rows + 1
    ilse.step("undo")
    assert ilse.texts() == before
    assert log_rows(ilse.client) == rows + 2
    ilse.step("redo")
    assert ilse.texts()[1][:2] == (2019, 3519)


def test_a_drag_that_somebody_came_into_is_not_folded_over_it(ilse: Editor) -> None:
    tobit = beside(ilse, "tobit")
    ilse.edit(change("c1", in_ms=2010, out_ms=3510), "drag")
    tobit.edit(change("c2", text="Tobit's"))
    ilse.edit(change("c1", in_ms=2020, out_ms=3520), "drag")
    tobit.edit(change("c3", text="Tobit's too"))
    assert ilse.step("undo").status_code == 200
    assert ilse.texts()[1][:2] == (2000, 3500)
    assert [text for *_, text in ilse.texts()][2:4] == ["Tobit's", "Tobit's too"]


def test_bringing_a_file_in_and_what_it_knew_is_undone_as_one(ilse: Editor) -> None:
    vtt = "WEBVTT\n\nSTYLE\n::cue(.loud) { color: #112233 }\n\n00:01.000 --> 00:02.000\n<c.loud>Hark</c>\n"
    before = ilse.texts()
    taken = ilse.client.post(
        f"/api/tracks/{ilse.track_id}/captions-file",
        params={"name": "a.vtt", "gesture": "in"}, content=vtt, headers=ilse.headers,
    )  # fmt: skip
    assert sorted(taken.json()["targets"]) == ["tracks", f"tracks/{ilse.track_id}/captions"]
    ilse.step("undo")
    assert ilse.texts() == before
    written = ilse.client.get(f"/api/tracks/{ilse.track_id}/file", params={"format": "webvtt"})
    assert "#112233" not in written.text


def test_captions_made_of_an_older_track_leave_what_came_meanwhile(
    client: TestClient, project: dict, ilse: Editor
) -> None:
    words = [{"text": f"word{n}", "start_ms": n * 400, "end_ms": n * 400 + 300} for n in range(9)]
    body = {"base_revision": 0, "first": 0, "count": 0, "words": words}
    client.post(f"/api/projects/{project['id']}/transcript/edits", json=body)
    address = f"/api/tracks/{ilse.track_id}/captions-from-words"
    looked = client.post(f"{address}/preview", json={}).json()
    tobit = beside(ilse, "tobit")
    tobit.insert(caption("late", 30_000, 31_000, "put in meanwhile"))
    seen = {name: looked[name] for name in ("revision", "words_revision")}
    request = {"gesture": "m", "looked_at": {**seen, "changes": [*range(len(looked["gone"]))]}}
    assert client.post(address, json=request).status_code == 409
    assert "put in meanwhile" in [text for *_, text in ilse.texts()]


def test_a_file_that_was_looked_at_replaces_nothing_it_has_not_seen(ilse: Editor) -> None:
    tobit = beside(ilse, "tobit")
    tobit.insert(caption("late", 30_000, 31_000, "put in meanwhile"))
    refused = ilse.client.post(
        f"/api/tracks/{ilse.track_id}/captions-file",
        params={"name": "a.srt", "gesture": "in", "base_revision": ilse.revision},
        content="1\n00:00:01,000 --> 00:00:02,000\nHark\n", headers=ilse.headers,
    )  # fmt: skip
    assert refused.status_code == 409
    assert "put in meanwhile" in [text for *_, text in ilse.texts()]


def test_two_speakers_take_each_others_names_in_words_and_captions(
    client: TestClient, project: dict, ilse: Editor
) -> None:
    address = f"/api/projects/{project['id']}"
    written = [
        {"text": text, "start_ms": n * 500, "end_ms": n * 500 + 400, "speaker": who, "begins": True}
        for n, (text, who) in enumerate((("Ring.", "Ilse"), ("No.", "Edda")))
    ]  # fmt: skip
    body = {"base_revision": 0, "first": 0, "count": 0, "words": written}
    client.post(f"{address}/transcript/edits", json=body)
    ilse.edit(change("c1", speaker="Ilse"))
    ilse.edit(change("c2", speaker="Edda"))
    listed = [{"name": "Ilse", "colour": "#111111"}, {"name": "Edda", "colour": "#222222"}]
    client.put(f"{address}/speakers", json={"speakers": listed})

    def who() -> tuple[list, list, list]:
        captions = client.get(f"/api/tracks/{ilse.track_id}").json()["captions"]
        words = client.get(f"{address}/words").json()["words"]
        named = [(s["name"], s["colour"]) for s in client.get(address).json()["speakers"]]
        return [c["speaker"] for c in captions[1:3]], [w["speaker"] for w in words], named

    before = who()
    swapped = [
        {"name": "Edda", "colour": "#111111", "was": "Ilse"},
        {"name": "Ilse", "colour": "#222222", "was": "Edda"},
    ]
    client.put(f"{address}/speakers", json={"speakers": swapped})
    assert who() == (["Edda", "Ilse"], ["Edda", "Ilse"], [("Edda", "#111111"), ("Ilse", "#222222")])
    undone = client.post(f"{address}/undo", json={"targets": ["speakers"]})
    assert len(undone.json()["targets"]) == 3
    assert who() == before


def test_a_list_of_speakers_that_is_older_than_the_other_windows_is_refused(
    client: TestClient, project: dict
) -> None:
    address = f"/api/projects/{project['id']}"
    seen = client.get(address).json()["revision"]
    first = {"base_revision": seen, "speakers": [{"name": "Ilse", "colour": "#111111"}]}
    second = {"base_revision": seen, "speakers": [{"name": "Edda", "colour": "#222222"}]}
    other = {"Dunlin-Window": "other"}
    assert client.put(f"{address}/speakers", json=first, headers=other).status_code == 200
    assert client.put(f"{address}/speakers", json=second).status_code == 409
    assert [s["name"] for s in client.get(address).json()["speakers"]] == ["Ilse"]


def test_fast_toggles_of_shot_changes_all_hold(client: TestClient, project: dict) -> None:
    here = client.app.state.services  # type: ignore[attr-defined]
    film = here.films.get(project["film"]["id"])
    shots = shots_in(film.id)
    set_shots(here, film, [2000], Author("dunlin"))
    address = f"/api/projects/{project['id']}/shots/toggle"
    # Two windows that know of the same shots: what each sets is its own frame.
    for ms in (1000, 3000):
        here.log.edit(project["id"], [Step(shots, SetEntries({str(ms): True}))], Author("a"))
    assert client.post(address, json={"at_ms": 4000}).json()["shots"] == [1000, 2000, 3000, 4000]
    client.post(f"/api/projects/{project['id']}/undo", json={"targets": [shots]})
    assert client.get(f"/api/projects/{project['id']}").json()["shots"] == [1000, 2000, 3000]


def test_a_removed_track_comes_back_with_its_captions(
    client: TestClient, project: dict, ilse: Editor
) -> None:
    address = f"/api/projects/{project['id']}"
    second = client.post(f"{address}/tracks", json={"name": "Finnish", "language": "fi"}).json()
    before = ilse.texts()
    assert client.delete(f"/api/tracks/{ilse.track_id}").status_code == 204
    assert client.get(f"/api/tracks/{ilse.track_id}").status_code == 404
    client.post(f"{address}/undo", json={"targets": ["tracks"]})
    assert [t["id"] for t in client.get(address).json()["tracks"]] == [ilse.track_id, second["id"]]
    assert ilse.texts() == before


def test_a_project_keeps_the_spec_it_took_and_is_told_of_a_newer_one(
    client: TestClient, project: dict
) -> None:
    address = f"/api/projects/{project['id']}"
    client.post("/api/specs", json={"id": "tern", "name": "Tern", "lines": 2})
    client.patch(address, json={"spec_id": "tern"})
    client.post("/api/specs", json={"id": "tern", "name": "Tern", "lines": 1})
    now = client.get(address).json()
    assert (now["spec"]["lines"], now["tracks"][0]["spec_is_older"]) == (2, True)
    client.delete("/api/specs/tern")
    assert client.get(address).json()["spec"]["name"] == "Tern"
    client.post("/api/specs", json={"id": "tern", "name": "Tern", "lines": 1})
    newer = client.patch(address, json={"spec_id": "tern"}).json()
    assert (newer["spec"]["lines"], newer["tracks"][0]["spec_is_older"]) == (1, False)


def test_a_track_with_a_spec_of_its_own_is_told_of_a_newer_one(
    client: TestClient, project: dict
) -> None:
    track = f"/api/tracks/{project['tracks'][0]['id']}"
    client.post("/api/specs", json={"id": "tern", "name": "Tern", "lines": 2})
    assert not client.patch(track, json={"spec_id": "tern"}).json()["spec_is_older"]
    client.post("/api/specs", json={"id": "tern", "name": "Tern", "lines": 1})
    info = client.get(f"/api/projects/{project['id']}").json()["tracks"][0]
    assert (info["spec_id"], info["spec_is_older"]) == ("tern", True)
    assert not client.patch(track, json={"spec_id": "tern"}).json()["spec_is_older"]
    assert client.get(track).json()["spec"]["lines"] == 1


def test_the_transcripts_edits_are_undone_and_done_again(client: TestClient, project: dict) -> None:
    address = f"/api/projects/{project['id']}"

    def write(first: int, count: int, *texts: str) -> None:
        revision = client.get(f"{address}/words").json()["revision"]
        words = [{"text": text} for text in texts]
        body = {"base_revision": revision, "first": first, "count": count, "words": words}
        assert client.post(f"{address}/transcript/edits", json=body).status_code == 200

    def said() -> str:
        return " ".join(w["text"] for w in client.get(f"{address}/words").json()["words"])

    write(0, 0, "Ring", "the", "vell")
    write(2, 1, "fog", "bell")
    write(0, 1)
    view = {"targets": ["transcript"]}
    states = [said()]
    while client.post(f"{address}/undo", json=view).status_code == 200:
        states.append(said())
    assert states == ["the fog bell", "Ring the fog bell", "Ring the vell", ""]
    for state in states[-2::-1]:
        client.post(f"{address}/redo", json=view)
        assert said() == state


def test_a_transcript_edit_that_is_sent_again_is_answered_as_the_first_time(
    client: TestClient, project: dict
) -> None:
    address = f"/api/projects/{project['id']}"
    body = {"base_revision": 0, "first": 0, "count": 0, "words": [{"text": "Ring"}]}
    headers = {"Idempotency-Key": "once"}
    first = client.post(f"{address}/transcript/edits", json=body, headers=headers)
    again = client.post(f"{address}/transcript/edits", json=body, headers=headers)
    assert again.json() == first.json()
    assert len(client.get(f"{address}/words").json()["words"]) == 1


def test_what_is_read_at_one_moment_is_of_one_moment(
    client: TestClient, project: dict, ilse: Editor
) -> None:
    log = client.app.state.services.log  # type: ignore[attr-defined]
    address = captions_of(ilse.track_id)
    with log.moment(project["id"]):
        before, revision = log.track_of(project["id"], ilse.track_id)
        # Another thread answers it, and stores an edit meanwhile.
        ilse.edit(change("c1", text="later"))
        again, same = log.track_of(project["id"], ilse.track_id)
        assert (same, again["c1"].text) == (revision, before["c1"].text)
        assert log.since(project["id"], address, revision).touched == frozenset()
        assert log.history(project["id"], [address], "ilse") == (True, False)
    now, later = log.track_of(project["id"], ilse.track_id)
    assert (now["c1"].text, later > revision) == ("later", True)
    assert log.since(project["id"], address, revision).touched == {"c1"}


def test_an_edit_asks_the_database_no_more_for_a_longer_film(
    client: TestClient, ilse: Editor
) -> None:
    asked: list[str] = []
    engine = client.app.state.services.engine  # type: ignore[attr-defined]

    def counted(*event: Any) -> None:
        # What the watcher asks, on the server's loop, is not the edit's.
        with suppress(RuntimeError):
            asyncio.get_running_loop()
            return
        asked.append(event[2])

    ilse.edit(change("c1", text="warm"))
    listen(engine, "before_cursor_execute", counted)
    ilse.edit(change("c1", text="one"))
    few = len([statement for statement in asked if "log" in statement or "targets" in statement])
    ilse.insert(*(caption(f"d{n}", 60_000 + n * 100, 60_090 + n * 100, "more") for n in range(500)))
    asked.clear()
    ilse.edit(change("c1", text="two"))
    many = len([statement for statement in asked if "log" in statement or "targets" in statement])
    remove(engine, "before_cursor_execute", counted)
    assert many <= few < 16
