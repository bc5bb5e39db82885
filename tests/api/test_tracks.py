from collections.abc import Callable
from dataclasses import dataclass

import pytest
from fastapi.testclient import TestClient

from dunlin.api import create_app
from dunlin.core.captions import Track
from dunlin.settings import Settings


def caption(id_: str, in_ms: int, out_ms: int, text: str = "") -> dict:
    return {"id": id_, "in_ms": in_ms, "out_ms": out_ms, "spans": [{"text": text}] if text else []}


@dataclass
class Stepped:
    """The answer to an undo or redo."""

    status_code: int
    changes: dict

    def json(self) -> dict:
        """What changed in the one track, or why nothing did."""
        return self.changes["tracks"][0] if "tracks" in self.changes else self.changes


class Editor:
    """One tab: edits from the revision it knows."""

    def __init__(self, client: TestClient, track_id: str, actor: str = "tab") -> None:
        self.client, self.track_id, self.actor = client, track_id, actor
        self.revision, self.gestures = 0, 0
        self.headers = {"Dunlin-Person": actor, "Dunlin-Window": f"{actor}-window"}

    def edit(self, operation: dict, gesture: str | None = None):
        self.gestures += 1
        answer = self.client.post(
            f"/api/tracks/{self.track_id}/edits",
            json={
                "base_revision": self.revision,
                "gesture": gesture or f"{self.actor}-{self.gestures}",
                "operation": operation,
            },
            headers=self.headers,
        )
        if answer.status_code == 200:
            self.revision = answer.json()["revision"]
        return answer

    def insert(self, *captions: dict):
        return self.edit({"kind": "insert-captions", "captions": captions})

    def step(self, name: str) -> "Stepped":
        """Undoes or redoes what this person did in the track."""
        projects = self.client.get("/api/projects").json()
        own = next(p for p in projects if any(t["id"] == self.track_id for t in p["tracks"]))
        answer = self.client.post(
            f"/api/projects/{own['id']}/{name}",
            json={"targets": [f"tracks/{self.track_id}/captions"]},
            headers=self.headers,
        )
        return Stepped(answer.status_code, answer.json() if answer.content else {})

    def texts(self) -> list[tuple[int, int, str]]:
        track = self.client.get(f"/api/tracks/{self.track_id}").json()
        return [
            (c["in_ms"], c["out_ms"], "".join(span["text"] for span in c["spans"]))
            for c in track["captions"]
        ]


@pytest.fixture
def editor(client: TestClient, new_project: Callable[..., dict]) -> Editor:
    return Editor(client, new_project()["tracks"][0]["id"])


def test_an_edit_answers_with_what_it_touched_and_its_neighbours(editor: Editor) -> None:
    editor.insert(
        caption("a", 0, 1000, "one"), caption("b", 1080, 2000, "two"),
        caption("c", 2080, 3000, "three"), caption("d", 5000, 6000, "four"),
    )  # fmt: skip
    answer = editor.edit(
        {"kind": "change-captions", "changes": [{"caption": "b", "in_ms": 1040, "out_ms": 2500}]}
    )
    made = answer.json()
    assert [c["id"] for c in made["captions"]] == ["a", "b", "c"]
    assert made["touched"] == ["b"]
    found = {c["id"]: [f["rule"] for f in c["findings"]] for c in made["captions"]}
    assert found == {"a": [], "b": ["gap"], "c": ["overlap"]}
    assert made["captions"][1]["measures"]["gap_before_ms"] == 40


def test_a_deleted_caption_gives_its_neighbours_new_gaps(editor: Editor) -> None:
    editor.insert(*(caption(i, n * 1000, n * 1000 + 900, i) for n, i in enumerate("abc")))
    made = editor.edit({"kind": "delete-captions", "captions": ["b"]}).json()
    assert made["removed"] == ["b"]
    assert {c["id"]: c["measures"]["gap_after_ms"] for c in made["captions"]} == {
        "a": 1100,
        "c": None,
    }


def test_an_edit_from_an_old_state_goes_through_where_nothing_was_touched(editor: Editor) -> None:
    editor.insert(caption("a", 0, 1000, "one"), caption("b", 1100, 2000, "two"))
    other = Editor(editor.client, editor.track_id, "other")
    other.revision = editor.revision
    editor.edit({"kind": "change-captions", "changes": [{"caption": "a", "text": "mine"}]})
    assert (
        other.edit(
            {"kind": "change-captions", "changes": [{"caption": "b", "text": "yours"}]}
        ).status_code
        == 200
    )
    assert [text for *_, text in editor.texts()] == ["mine", "yours"]


def test_an_edit_from_an_old_state_of_the_same_caption_gets_it_as_it_is(editor: Editor) -> None:
    editor.insert(caption("a", 0, 1000, "one"), caption("b", 1100, 2000, "two"))
    other = Editor(editor.client, editor.track_id, "other")
    other.revision = editor.revision
    editor.edit({"kind": "change-captions", "changes": [{"caption": "a", "text": "mine"}]})
    refused = other.edit(
        {"kind": "change-captions", "changes": [{"caption": "a", "text": "yours"}]}
    )
    assert refused.status_code == 409
    assert refused.json()["captions"][0]["spans"][0]["text"] == "mine"
    assert [text for *_, text in editor.texts()] == ["mine", "two"]


def test_what_makes_no_sense_changes_nothing(editor: Editor) -> None:
    editor.insert(caption("a", 0, 1000, "one"))
    for operation in (
        {"kind": "change-captions", "changes": [{"caption": "gone", "text": "x"}]},
        {"kind": "change-captions", "changes": [{"caption": "a", "in_ms": 900, "out_ms": 100}]},
        {"kind": "insert-captions", "captions": [caption("a", 5, 10)]},
    ):
        answer = editor.edit(operation)
        assert answer.status_code == 409
        assert answer.json()["detail"]
    assert editor.edit({"kind": "no-such-thing"}).status_code == 422
    assert editor.texts() == [(0, 1000, "one")]


def test_undo_and_redo_go_by_gestures_and_outlive_a_restart(
    editor: Editor, data_settings: Settings
) -> None:
    editor.insert(caption("a", 0, 1000, "one"))
    for text in ("one t", "one tw", "one two"):
        editor.edit(
            {"kind": "change-captions", "changes": [{"caption": "a", "text": text}]}, "typing"
        )
    editor.edit({"kind": "split-caption", "caption": "a", "offset": 3, "at_ms": 480, "new_id": "b"})
    with TestClient(create_app(data_settings)) as restarted:
        later = Editor(restarted, editor.track_id)
        assert [text for *_, text in later.texts()] == ["one", "two"]
        assert later.step("undo").json()["removed"] == ["b"]
        assert later.texts() == [(0, 1000, "one two")]
        later.step("undo")
        assert later.texts() == [(0, 1000, "one")]
        made = later.step("undo").json()
        assert (made["can_undo"], made["can_redo"]) == (False, True)
        assert later.step("undo").status_code == 204
        for _ in range(3):
            later.step("redo")
        assert later.texts() == [(0, 480, "one"), (480, 1000, "two")]
        assert later.step("redo").status_code == 204


def test_what_was_undone_cannot_be_redone_after_something_else(editor: Editor) -> None:
    editor.insert(caption("a", 0, 1000, "one"))
    editor.step("undo")
    made = editor.insert(caption("b", 0, 1000, "two")).json()
    assert not made["can_redo"]
    assert editor.step("redo").status_code == 204


def test_a_split_without_words_goes_by_characters_and_leaves_the_gap(editor: Editor) -> None:
    editor.insert(caption("a", 0, 4000, "aaaa bbbb"))
    answer = editor.client.post(
        f"/api/tracks/{editor.track_id}/split",
        json={
            "base_revision": 1,
            "gesture": "s",
            "caption": "a",
            "new_id": "b",
            "offset": 4,
        },
    )
    assert answer.status_code == 200
    assert editor.texts() == [(0, 1680, "aaaa"), (1760, 4000, "bbbb")]


def test_a_page_moves_words_and_is_undone_in_one_step(editor: Editor) -> None:
    editor.insert(
        caption("a", 0, 2000, "one two three four"), caption("b", 2080, 4000, "five six"),
        caption("c", 6000, 7000, "seven"),
    )  # fmt: skip
    before = editor.texts()

    def write(ids: list[str], *texts: str, after: str | None = None):
        return editor.client.post(
            f"/api/tracks/{editor.track_id}/page",
            json={"base_revision": editor.revision, "gesture": "page",
                  "captions": ids, "texts": texts, "after": after},
        )  # fmt: skip

    made = write(["a", "b"], "one two ", "three four\n\nfive six\n")
    assert made.status_code == 200
    assert sorted(made.json()["touched"]) == ["a", "b"]
    (a_in, a_out, a_text), (b_in, b_out, b_text), c = editor.texts()
    assert (a_text, b_text, c) == ("one two", "three four\nfive six", before[2])
    assert a_in == 0
    assert b_out == 4000
    assert 700 < a_out <= b_in - 80 < 1300
    editor.step("undo")
    assert editor.texts() == before
    # Between two, where none is taken away; and with all taken away.
    assert write([], "and then", after="b").status_code == 200
    assert [text for _, _, text in editor.texts()][2:] == ["and then", "seven"]
    assert write(["c"]).json()["removed"] == ["c"]
    # What is not there, or does not stand in a row, changes nothing.
    now = editor.texts()
    for ids, after in ((["c"], None), (["b", "a"], None), ([], "c")):
        assert write(ids, "x", after=after).status_code == 409
    assert editor.texts() == now


def test_a_track_is_written_in_every_format(editor: Editor) -> None:
    editor.insert(caption("a", 1000, 2000, "Fish & chips"))
    address = f"/api/tracks/{editor.track_id}"
    srt = editor.client.get(f"{address}/file", params={"format": "srt"})
    assert srt.text == "1\n00:00:01,000 --> 00:00:02,000\nFish & chips\n"
    assert srt.headers["content-disposition"] == "attachment; filename*=utf-8''short.en.srt"
    vtt = editor.client.get(f"{address}/file", params={"format": "webvtt"})
    assert "Fish &amp; chips" in vtt.text
    assert editor.client.get(f"{address}/file", params={"format": "doc"}).status_code == 422
    for format_ in editor.client.get(f"{address}/formats").json():
        answer = editor.client.get(f"{address}/file", params={"format": format_["name"]})
        assert answer.status_code == 200
        assert answer.headers["content-disposition"].endswith(format_["ending"])
        assert len(answer.content) > 10


def test_captions_need_words(editor: Editor) -> None:
    answer = editor.client.post(
        f"/api/tracks/{editor.track_id}/captions-from-words", json={"gesture": "g"}
    )
    assert answer.status_code == 422
    assert "recognise" in answer.json()["detail"]


def test_of_a_great_edit_the_first_captions_are_told_and_the_rest_is_read(editor: Editor) -> None:
    made = editor.insert(
        *(caption(f"c{n:04}", n * 2000, n * 2000 + 1500, "Hark") for n in range(1200))
    ).json()
    assert [c["id"] for c in made["captions"]] == [f"c{n:04}" for n in range(1000)]
    assert made["further"][0] == {"caption": "c1000", "in_ms": 2_000_000, "out_ms": 2_001_500}
    asked = [times["caption"] for times in made["further"]]
    assert len(asked) == 200
    address = f"/api/tracks/{editor.track_id}/captions"
    read = editor.client.post(address, json={"captions": [*asked, "gone"]}).json()
    track = editor.client.get(f"/api/tracks/{editor.track_id}").json()
    assert read == {"revision": made["revision"], "captions": track["captions"][1000:]}
    assert editor.client.post(address, json={"captions": ["x"] * 1001}).status_code == 422


def test_an_edit_costs_what_it_touches_and_not_the_whole_track(
    editor: Editor, monkeypatch: pytest.MonkeyPatch
) -> None:
    editor.insert(*(caption(f"c{n:03}", n * 2000, n * 2000 + 1500, "Hark") for n in range(50)))

    def walk(track: Track) -> None:
        raise AssertionError("all captions are walked through")

    monkeypatch.setattr(Track, "__iter__", walk)
    edited = editor.edit(
        {"kind": "change-captions", "changes": [{"caption": "c020", "text": "Hark, the bell"}]}
    )
    assert edited.status_code == 200
    assert {c["id"] for c in edited.json()["captions"]} == {"c019", "c020", "c021"}


def test_a_track_may_begin_with_anothers_captions_and_is_added_once(
    client: TestClient, new_project: Callable[..., dict]
) -> None:
    project = new_project()
    first = project["tracks"][0]["id"]
    caption = {"id": "c1", "in_ms": 0, "out_ms": 900, "spans": [{"text": "Low water"}]}
    operation = {"kind": "insert-captions", "captions": [caption]}
    body = {"base_revision": 0, "gesture": "in", "operation": operation}
    assert client.post(f"/api/tracks/{first}/edits", json=body).status_code == 200
    tracks = f"/api/projects/{project['id']}/tracks"
    asked = {"language": "en", "name": "Short", "copy_of": first}
    key = {"Idempotency-Key": "once"}
    made = [client.post(tracks, json=asked, headers=key).json() for _ in range(2)]
    assert made[0] == made[1]
    assert [
        track["name"] for track in client.get(tracks.removesuffix("/tracks")).json()["tracks"]
    ] == ["", "Short"]
    [copied] = client.get(f"/api/tracks/{made[0]['id']}").json()["captions"]
    assert copied["spans"][0]["text"] == "Low water"
    assert client.post(tracks, json={"copy_of": "nowhere"}).status_code == 404
