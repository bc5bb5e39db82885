"""Packing lists: changed in several windows, made, made anew, out of date, in other projects; and what goes wrong while
they are made."""

import io
import json
import zipfile
from collections.abc import Callable
from hashlib import sha256
from pathlib import Path

import av
import pytest
from fastapi.testclient import TestClient

import dunlin.jobs.packing as packing_job
from dunlin.core.messages import Told
from dunlin.jobs.context import JobContext
from dunlin.jobs.packing import make_packing_list
from dunlin.media.ffmpeg import Cancelled
from dunlin.settings import Settings
from dunlin.work.folder import open_folder
from tests.api.translations import OTHER, Translation, spoken_project

SRT = {"kind": "captions", "format": "srt"}
SMALL = {"crf": 45, "height": 90}


class Lists:
    """A project with a source and a translation, and its packing lists, by the requests of a page."""

    def __init__(self, client: TestClient, project: dict, settings: Settings) -> None:
        self.client, self.project, self.settings = client, project, settings
        self.track = project["tracks"][0]["id"]
        self.german = Translation(client, project).track
        self.address = f"/api/projects/{project['id']}/deliveries"

    def put(self, id_: str = "ternholm", base: int | None = None, headers=None, **said):
        body = {"delivery": {"name": "Ternholm"} | said, "base_revision": base}
        return self.client.put(f"{self.address}/{id_}", json=body, headers=headers)

    def items(self, items: dict, id_: str = "ternholm", base: int | None = None, headers=None):
        body = {"items": items, "base_revision": base}
        return self.client.put(f"{self.address}/{id_}/items", json=body, headers=headers)

    def read(self, id_: str = "ternholm") -> dict:
        answer = self.client.get(f"{self.address}/{id_}")
        assert answer.status_code == 200, answer.text
        return answer.json()

    def item(self, id_: str) -> dict:
        return next(item for item in self.read()["items"] if item["id"] == id_)

    def ask(self, id_: str = "ternholm", **asked):
        return self.client.post(f"{self.address}/{id_}/make", json=asked)

    def make(self, id_: str = "ternholm", **asked) -> dict:
        answer = self.ask(id_, **asked)
        assert answer.status_code == 202, answer.text
        return self.run(answer.json()["id"])

    def run(self, job_id: str) -> dict:
        folder = open_folder(self.settings)
        assert folder.jobs.start(job_id)
        try:
            result = make_packing_list(JobContext(folder.jobs.get(job_id), folder))
            folder.jobs.end(job_id, "done", result=result)
        except (Told, OSError, Cancelled):
            folder.jobs.end(job_id, "failed")
            raise
        finally:
            folder.engine.dispose()
        return result

    def file(self, item: str, id_: str = "ternholm") -> bytes:
        answer = self.client.get(f"{self.address}/{id_}/items/{item}/file")
        assert answer.status_code == 200, answer.text
        return answer.content

    def write(self, text: str, caption: int = 0) -> None:
        captions = self.client.get(f"/api/tracks/{self.track}").json()["captions"]
        change = {"caption": captions[caption]["id"], "text": text}
        operation = {"kind": "change-captions", "changes": [change]}
        body = {"base_revision": 10_000, "gesture": text, "operation": operation}
        assert self.client.post(f"/api/tracks/{self.track}/edits", json=body).status_code == 200

    def results(self) -> list[str]:
        return sorted(path.name for path in self.settings.results.iterdir())


@pytest.fixture
def lists(client: TestClient, new_project: Callable[..., dict], data_settings: Settings) -> Lists:
    made = Lists(client, spoken_project(client, new_project), data_settings)
    assert made.put().status_code == 200
    return made


def of_source(lists: Lists) -> dict:
    """A caption file, a transcript-like table, a stream, a timeline and a report, of the source."""
    track = lists.track
    things = [
        SRT | {"track": track},
        {"kind": "captions", "format": "stl", "track": track},
        {"kind": "playlist", "tracks": [track]},
        {"kind": "timeline", "tracks": [track], "form": "otio"},
        {"kind": "timeline", "tracks": [track], "form": "edl", "start": "10:00:00:00"},
        {"kind": "report", "track": track},
    ]
    return {f"i{n}": {"place": n, "thing": thing} for n, thing in enumerate(things)}


def test_a_list_is_made_kept_and_handed_over(lists: Lists) -> None:
    lists.items(of_source(lists))
    assert [item["made"] for item in lists.read()["items"]] == [None] * 6
    assert lists.make()["failed"] == {}
    read = lists.read()
    assert all(item["made"] and item["changes"] == [] for item in read["items"])
    for item in read["items"]:
        data = lists.file(item["id"])
        assert sha256(data).hexdigest() == item["made"]["sha256"]
        assert len(data) == item["made"]["size_bytes"]
    assert b"I had one drawing." in lists.file("i0")
    archive = zipfile.ZipFile(io.BytesIO(lists.client.get(f"{lists.address}/ternholm/zip").content))
    assert archive.testzip() is None
    assert archive.namelist() == [item["name"] for item in read["items"]]
    assert archive.read(read["items"][0]["name"]) == lists.file("i0")
    # The report tells of all others, made last whatever its place.
    page = lists.file("i5").decode()
    assert all(item["made"]["sha256"] in page for item in read["items"][:5])


def test_names_go_by_the_pattern_and_no_two_are_alike(lists: Lists) -> None:
    lists.put(pattern="{title}/{language}{what}: v{version}", version=3)
    german = SRT | {"track": lists.german}
    lists.items({
        "a": {"place": 1, "thing": SRT | {"track": lists.track}},
        "b": {"place": 2, "thing": SRT | {"track": lists.track}},
        "c": {"place": 3, "thing": german},
        "d": {"place": 4, "thing": german, "name": "CON"},
        "e": {"place": 5, "thing": german, "name": "ü" * 300},
    })  # fmt: skip
    names = [item["name"] for item in lists.read()["items"]]
    title = lists.project["title"]
    assert names[:4] == [
        f"{title}_en_ v3.srt",
        f"{title}_en_ v3-2.srt",
        f"{title}_de_ v3.srt",
        "_CON.srt",
    ]
    assert len(names[4].encode()) <= 255
    assert names[4].endswith("ü.srt")


def test_what_changed_since_is_told_and_made_anew_alone(lists: Lists) -> None:
    lists.items(of_source(lists) | {"de": {"place": 9, "thing": SRT | {"track": lists.german}}})
    lists.make(items=["i0", "i3", "de"])
    before = {id_: lists.item(id_)["made"] for id_ in ("i0", "i3", "de")}
    lists.write("I had two drawings.")
    lists.write("It weighs 413 kilos.", 1)
    for id_ in ("i0", "i3"):
        changes = lists.item(id_)["changes"]
        assert {"what": "captions", "track": lists.track, "count": 2} in changes
    assert lists.item("de")["changes"] == []
    lists.make(items=["i0", "i3", "de"])
    assert lists.item("i0")["made"]["sha256"] != before["i0"]["sha256"]
    assert lists.item("i0")["changes"] == lists.item("i3")["changes"] == []
    assert lists.item("de")["made"] == before["de"]
    # What was made before is not left behind.
    assert len(lists.results()) == 3


def test_what_was_undone_is_as_it_was(lists: Lists) -> None:
    lists.items({"i0": {"thing": SRT | {"track": lists.track}}})
    lists.make()
    lists.write("Other words.")
    assert lists.item("i0")["changes"]
    targets = [f"tracks/{lists.track}/captions"]
    undone = lists.client.post(
        f"/api/projects/{lists.project['id']}/undo", json={"targets": targets}
    )
    assert undone.status_code == 200
    assert lists.item("i0")["changes"] == []


def test_other_settings_or_a_new_style_make_a_film_out_of_date_and_a_plain_file_not(
    lists: Lists,
) -> None:
    track = lists.track
    lists.items({
        "film": {"thing": {"kind": "burned", "track": track, "encoding": SMALL}},
        "srt": {"thing": SRT | {"track": track}},
    })  # fmt: skip
    lists.make()
    with av.open(io.BytesIO(lists.file("film"))) as film:
        assert film.streams.video[0].height == 90
    lists.items(
        {"film": {"thing": {"kind": "burned", "track": track, "encoding": SMALL | {"crf": 40}}}}
    )
    assert [change["what"] for change in lists.item("film")["changes"]] == ["settings"]
    look = {"look": {"size": 0.09}, "base_revision": 10_000}
    styled = lists.client.put(f"/api/projects/{lists.project['id']}/styles/Sign", json=look)
    assert styled.status_code == 200, styled.text
    assert {"styles"} <= {change["what"] for change in lists.item("film")["changes"]}
    # A caption file would come out the same, byte by byte.
    assert lists.item("srt")["changes"] == []


def test_another_window_did_something_in_between(lists: Lists) -> None:
    seen = lists.items({"a": {"thing": SRT | {"track": lists.track}}}).json()["revision"]
    other = {"thing": SRT | {"track": lists.german}}
    assert lists.items({"b": other}, base=seen, headers=OTHER).status_code == 200
    # Something else on the list was changed there: both stay.
    assert lists.items({"a": other}, base=seen).status_code == 200
    assert [item["id"] for item in lists.read()["items"]] == ["a", "b"]
    # The same was changed there: refused, and nothing is lost.
    answer = lists.items({"b": None}, base=seen)
    assert (answer.status_code, answer.json()["code"]) == (409, "edits.outdated")
    assert lists.item("b")["item"]["thing"]["track"] == lists.german
    now = lists.client.get(lists.address).json()["revision"]
    assert lists.put(name="Other", base=now, headers=OTHER).status_code == 200
    assert lists.put(name="Mine", base=now).status_code == 409


def test_a_lost_answer_is_asked_for_again_and_nothing_is_done_twice(lists: Lists) -> None:
    key = {"Idempotency-Key": "one"}
    body = {"items": {"a": {"thing": SRT | {"track": lists.track}}}, "base_revision": None}
    address = f"{lists.address}/ternholm/items"
    first = lists.client.put(address, json=body, headers=key)
    lists.items({"a": None}, headers=OTHER)
    again = lists.client.put(address, json=body, headers=key)
    assert (first.status_code, again.status_code) == (200, 200)
    assert again.json()["items"] == []


def test_a_list_that_is_taken_away_comes_back_with_all_that_is_on_it(lists: Lists) -> None:
    lists.items({"a": {"thing": SRT | {"track": lists.track}}})
    lists.make()
    assert lists.client.delete(f"{lists.address}/ternholm").json()["deliveries"] == []
    assert lists.client.get(f"{lists.address}/ternholm").status_code == 404
    undo = f"/api/projects/{lists.project['id']}/undo"
    assert lists.client.post(undo, json={"targets": ["deliveries"]}).status_code == 200
    assert lists.item("a")["made"]


def test_what_names_a_track_that_is_gone_says_so_and_the_rest_is_made(lists: Lists) -> None:
    lists.items({
        "a": {"place": 1, "thing": SRT | {"track": lists.german}},
        "b": {"place": 2, "thing": {"kind": "burned", "track": lists.track, "version": "none", "encoding": SMALL}},
        "c": {"place": 3, "thing": SRT | {"track": lists.track, "format": "no-such"}},
        "d": {"place": 4, "thing": SRT | {"track": lists.track}},
        "e": {"place": 5, "thing": {"kind": "transcript"}},
        "f": {"place": 6, "thing": {"kind": "timeline", "tracks": [lists.track], "start": "01:00:00;00"}},
    })  # fmt: skip
    assert lists.client.delete(f"/api/tracks/{lists.german}").status_code == 204
    missing = {item["id"]: (item["missing"] or {}).get("code") for item in lists.read()["items"]}
    assert missing == {
        "a": "packing.no-track", "b": "versions.gone", "c": "formats.unknown", "d": None, "e": "words.none-there",
        "f": "times.no-drop-frame",
    }  # fmt: skip
    failed = lists.make()["failed"]
    assert {id_: told["code"] for id_, told in failed.items()} == {
        id_: code for id_, code in missing.items() if code
    }
    assert lists.item("d")["made"]


def test_what_is_left_out_is_not_made(lists: Lists) -> None:
    thing = SRT | {"track": lists.track}
    lists.items({"a": {"thing": thing, "left_out": True}, "b": {"thing": thing}})
    lists.make()
    assert (lists.item("a")["made"], bool(lists.item("b")["made"])) == (None, True)


def test_a_list_that_is_being_made_is_not_made_beside(lists: Lists) -> None:
    lists.items({"a": {"thing": SRT | {"track": lists.track}}})
    job = lists.ask().json()["id"]
    assert lists.read()["being_made"] == job
    answer = lists.ask()
    assert (answer.status_code, answer.json()["code"]) == (409, "packing.being-made")
    lists.run(job)
    assert lists.read()["being_made"] is None


def test_a_full_disk_leaves_what_was_made_and_no_half_of_anything(
    lists: Lists, monkeypatch: pytest.MonkeyPatch
) -> None:
    thing = SRT | {"track": lists.track}
    lists.items({"a": {"place": 1, "thing": thing}, "b": {"place": 2, "thing": thing}})
    whole = Path.write_bytes

    def full(path: Path, data: bytes) -> int:
        if len(list(path.parent.glob("*.srt"))) == 1:
            whole(path, data[:10])
            raise OSError(28, "No space left on device")
        return whole(path, data)

    monkeypatch.setattr(Path, "write_bytes", full)
    with pytest.raises(OSError, match="No space"):
        lists.make()
    assert lists.item("a")["made"]
    assert lists.item("b")["made"] is None
    assert len(lists.results()) == 1
    monkeypatch.undo()
    assert lists.make()["failed"] == {}
    assert lists.item("b")["made"]


def test_a_job_that_was_broken_off_goes_on_where_it_was(
    lists: Lists, monkeypatch: pytest.MonkeyPatch
) -> None:
    thing = SRT | {"track": lists.track}
    lists.items({id_: {"place": n, "thing": thing} for n, id_ in enumerate("abc")})
    job = lists.ask(anew=True).json()["id"]
    made: list[str] = []
    real = packing_job._make

    def make(context, packing, id_, progress):
        if len(made) == 2:
            raise KeyboardInterrupt
        made.append(id_)
        real(context, packing, id_, progress)

    monkeypatch.setattr(packing_job, "_make", make)
    folder = open_folder(lists.settings)
    folder.jobs.start(job)
    with pytest.raises(KeyboardInterrupt):
        make_packing_list(JobContext(folder.jobs.get(job), folder))
    made.clear()
    make_packing_list(JobContext(folder.jobs.get(job), folder))
    assert made == ["c"]


def test_a_thing_that_is_taken_off_while_the_list_is_made_is_not_made(
    lists: Lists, monkeypatch: pytest.MonkeyPatch
) -> None:
    thing = SRT | {"track": lists.track}
    lists.items({"a": {"place": 1, "thing": thing}, "b": {"place": 2, "thing": thing}})
    real = packing_job._make

    def make(context, packing, id_, progress):
        real(context, packing, id_, progress)
        lists.items({"b": None}, headers=OTHER)

    monkeypatch.setattr(packing_job, "_make", make)
    assert lists.make()["failed"] == {}
    assert len(lists.results()) == 1


def test_an_edit_while_a_film_is_written_makes_it_out_of_date(
    lists: Lists, monkeypatch: pytest.MonkeyPatch
) -> None:
    lists.items({"a": {"thing": SRT | {"track": lists.track}}})
    real = packing_job.prepared

    def prepared(*asked, **more):
        write = real(*asked, **more)
        lists.write("Written meanwhile.")
        return write

    monkeypatch.setattr(packing_job, "prepared", prepared)
    lists.make()
    assert b"Written meanwhile" not in lists.file("a")
    assert lists.item("a")["changes"]


def test_the_text_of_a_file_is_seen_before_it_goes(lists: Lists) -> None:
    lists.items(of_source(lists) | {"film": {"thing": {"kind": "burned", "track": lists.track}}})
    address = f"{lists.address}/ternholm/items"
    seen = lists.client.get(f"{address}/i0/text").content
    otio = json.loads(lists.client.get(f"{address}/i3/text").content)
    assert otio["OTIO_SCHEMA"] == "Timeline.1"
    refused = lists.client.get(f"{address}/film/text")
    assert (refused.status_code, refused.json()["code"]) == (422, "packing.not-to-look-at")
    assert lists.results() == []
    lists.make(items=["i0"])
    assert lists.file("i0") == seen


def test_what_is_to_be_known_is_told_before_it_goes(lists: Lists) -> None:
    lists.items({"a": {"thing": SRT | {"track": lists.german}}})
    [track] = lists.read()["tracks"]
    assert (track["track"], track["errors"] + track["drafts"] > 0) == (lists.german, True)
    lists.items({"a": {"thing": SRT | {"track": lists.german}, "left_out": True}})
    assert lists.read()["tracks"] == []


def test_a_list_is_kept_in_the_house_and_used_for_other_films(
    lists: Lists, new_project: Callable[..., dict]
) -> None:
    lists.items({
        "a": {"place": 1, "thing": SRT | {"track": lists.track}},
        "b": {"place": 2, "thing": SRT | {"track": lists.german}},
        "c": {"place": 3, "thing": {"kind": "burned", "track": lists.track, "above": lists.german, "version": "v"}},
    })  # fmt: skip
    asked = {"project_id": lists.project["id"], "delivery_id": "ternholm"}
    kept = lists.client.put("/api/packing-lists/house", params=asked).json()
    assert kept == [{"id": "house", "name": "Ternholm", "count": 3}]
    file = json.loads(lists.client.get("/api/packing-lists/house/file").content)
    assert [item["thing"]["track"] for item in file["items"]] == ["original", "de", "original"]
    assert "version" not in file["items"][2]["thing"]
    other = spoken_project(lists.client, new_project)
    asked = {"projects": [other["id"], "no-such", lists.project["id"]], "make": True}
    used = lists.client.post("/api/packing-lists/house/use", json=asked).json()["projects"]
    assert [met["problem"] and met["problem"]["code"] for met in used] == [
        None,
        "projects.gone",
        None,
    ]
    there = lists.client.get(
        f"/api/projects/{other['id']}/deliveries/{used[0]['delivery_id']}"
    ).json()
    assert there["being_made"]
    assert [item["missing"] and item["missing"]["code"] for item in there["items"]] == [
        None, "packing.no-track", "packing.no-track",
    ]  # fmt: skip
    # Used again it is not there twice.
    lists.client.post("/api/packing-lists/house/use", json=asked)
    assert (
        len(lists.client.get(f"/api/projects/{other['id']}/deliveries").json()["deliveries"]) == 1
    )
    assert lists.client.delete("/api/packing-lists/house").json() == []


def test_a_proof_is_the_first_of_what_will_be_made(lists: Lists) -> None:
    encoding = SMALL | {"passage": {"from_ms": 500, "to_ms": 2000}}
    lists.items({"film": {"thing": {"kind": "burned", "track": lists.track, "encoding": encoding}},
                 "srt": {"thing": SRT | {"track": lists.track}}})  # fmt: skip
    address = f"{lists.address}/ternholm/items"
    job = lists.client.post(f"{address}/film/proof", json={"seconds": 1}).json()
    assert job["parameters"]["encoding"]["passage"] == {"from_ms": 500, "to_ms": 1500}
    assert lists.client.post(f"{address}/srt/proof", json={}).status_code == 422
    assert lists.client.post(f"{address}/gone/proof", json={}).status_code == 404


def test_a_project_that_is_removed_takes_what_was_made_along(lists: Lists) -> None:
    lists.items({"a": {"thing": SRT | {"track": lists.track}}})
    lists.make()
    assert lists.results()
    assert lists.client.delete(f"/api/projects/{lists.project['id']}").status_code == 204
    assert lists.results() == []


def test_films_wait_for_each_other_and_files_for_none(lists: Lists) -> None:
    thing = SRT | {"track": lists.track}
    lists.put("films")
    lists.items({"a": {"thing": thing}})
    lists.items({"a": {"thing": {"kind": "burned", "track": lists.track}}}, "films")
    queue = lists.client.app.state.services.queue
    quick, films = queue._huey.pending_count(), queue._films.pending_count()
    lists.ask()
    assert (queue._huey.pending_count(), queue._films.pending_count()) == (quick + 1, films)
    lists.ask("films")
    lists.client.post(f"/api/tracks/{lists.track}/burn", json={})
    assert (queue._huey.pending_count(), queue._films.pending_count()) == (quick + 1, films + 2)


def test_words_about_the_film_are_out_of_date_when_other_words_are_said(lists: Lists) -> None:
    forms = ("text", "chapters", "json")
    lists.items({
        form: {"place": n, "thing": {"kind": "about", "form": form}} for n, form in enumerate(forms)
    })  # fmt: skip
    assert lists.make()["failed"] == {}
    assert lists.file("chapters").startswith(b"WEBVTT")
    assert json.loads(lists.file("json"))["description"]["short"]
    names = [item["name"] for item in lists.read()["items"]]
    assert [name.rsplit("_", 2)[1] for name in names] == ["about", "chapters", "about"]
    assert not any(item["changes"] for item in lists.read()["items"])
    lists.write("Nobody had one single drawing of this bell.")
    assert lists.item("json")["changes"]
