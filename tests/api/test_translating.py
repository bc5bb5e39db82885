"""Translations: begun, linked, confirmed; what two windows do, what is lost on the way, and what undo takes back."""

from collections.abc import Callable

import av
import pytest
from fastapi.testclient import TestClient

from dunlin.jobs.burning import burn_in, put_tracks_in
from dunlin.jobs.context import JobContext
from dunlin.settings import Settings
from dunlin.work.folder import open_folder
from tests.api.translations import OTHER, SAID, Translation, spoken_project


@pytest.fixture
def project(client: TestClient, new_project: Callable[..., dict]) -> dict:
    return spoken_project(client, new_project)


@pytest.fixture
def german(client: TestClient, project: dict) -> Translation:
    return Translation(client, project)


def test_a_translation_begins_with_the_same_captions_without_their_words(
    german: Translation,
) -> None:
    captions = german.captions()
    assert [(c["in_ms"], c["out_ms"], c["spans"], c["speaker"]) for c in captions] == [
        (n * 2000, n * 2000 + 1800, [], "Ilse Varga") for n in range(3)
    ]
    view = german.read()
    assert view["source"] == german.source
    assert [view["links"][c["id"]]["sources"] for c in captions] == [["s0"], ["s1"], ["s2"]]
    [_, info] = german.client.get(f"/api/projects/{german.project['id']}").json()["tracks"]
    assert (info["language"], info["translates"]) == ("de", german.source)


def test_what_is_asked_for_twice_as_its_answer_was_lost_is_begun_once(
    client: TestClient, project: dict
) -> None:
    address = f"/api/projects/{project['id']}/translations"
    body = {"source": project["tracks"][0]["id"], "language": "de"}
    made = [
        client.post(address, json=body, headers={"Idempotency-Key": "one"}).json() for _ in "12"
    ]
    assert made[0] == made[1]
    assert len(client.get(f"/api/projects/{project['id']}").json()["tracks"]) == 2


def test_a_track_can_be_translated_from_nothing_but_the_sound(
    client: TestClient, project: dict
) -> None:
    alone = Translation(client, project, source=None, beginning="nothing")
    assert alone.captions() == []
    assert alone.read()["source"] is None


def test_a_caption_is_confirmed_as_the_translation_of_what_its_source_says_then(
    german: Translation,
) -> None:
    german.write(1, "Sie wiegt 412 Kilo.")
    one = german.captions()[1]["id"]
    answer = german.progress({one: "done"}).json()
    assert answer["links"][one]["progress"] == "done"
    assert answer["links"][one]["said"] == SAID[1]
    change = {"caption": "s1", "text": "It weighs 420 kilos."}
    german.edit(german.source, {"kind": "change-captions", "changes": [change]})
    # What it was translated from is still known, so that the page can tell what changed.
    assert german.read()["links"][one]["said"] == SAID[1]
    assert german.progress({one: "done"}).json()["links"][one]["said"] == "It weighs 420 kilos."


def test_only_what_changed_since_is_read_again(german: Translation) -> None:
    [first, second, _] = [c["id"] for c in german.captions()]
    seen = german.read()["revision"]
    german.progress({first: "later"})
    german.edit(german.track, {"kind": "delete-captions", "captions": [second]})
    since = german.read(since=seen)
    assert set(since["links"]) == {first}
    assert since["gone"] == [second]


def test_what_another_window_said_since_is_refused_and_nothing_of_it_is_lost(
    german: Translation,
) -> None:
    [first, second, _] = [c["id"] for c in german.captions()]
    seen = german.read()["revision"]
    assert german.progress({first: "later"}, headers=OTHER).status_code == 200
    assert german.progress({first: "done"}, base=seen).status_code == 409
    assert german.read()["links"][first]["progress"] == "later"
    # Of another caption it may still say what it likes.
    assert german.progress({second: "done"}, base=seen).status_code == 200


def test_room_is_told_with_edits_that_make_more(german: Translation) -> None:
    german.write(2, "Häng sie so hoch, wie es eben geht, und dann noch ein Stück.")
    one = german.captions()[2]["id"]
    room = german.client.get(f"/api/tracks/{german.track}/captions/{one}/room").json()
    assert room["left"] < 0
    for offer in room["offers"]:
        if offer["way"] == "longer":
            break
    assert german.edit(german.track, offer["edit"]).status_code == 200
    after = german.client.get(f"/api/tracks/{german.track}/captions/{one}/room").json()
    assert after["left"] == offer["left"]
    gone = german.client.get(f"/api/tracks/{german.track}/captions/none/room")
    assert gone.status_code == 404


def test_times_of_the_source_carry_over_and_undo_takes_both_back(german: Translation) -> None:
    change = {"caption": "s2", "in_ms": 4100, "out_ms": 6300}
    done = german.edit(german.source, {"kind": "change-captions", "changes": [change]}, "t").json()
    assert f"tracks/{german.track}/captions" in done["targets"]
    moved = german.captions()[2]
    assert (moved["in_ms"], moved["out_ms"]) == (4100, 6300)
    german.undo(f"tracks/{german.source}/captions")
    for track in (german.source, german.track):
        assert (german.captions(track)[2]["in_ms"], german.captions(track)[2]["out_ms"]) == (
            4000,
            5800,
        )


def test_a_drag_of_the_source_is_one_step_of_undo_in_both(german: Translation) -> None:
    for out_ms in (5900, 6000, 6100):
        change = {"caption": "s2", "out_ms": out_ms}
        german.edit(german.source, {"kind": "change-captions", "changes": [change]}, "drag")
    assert german.captions()[2]["out_ms"] == 6100
    german.undo(f"tracks/{german.source}/captions")
    assert german.captions()[2]["out_ms"] == german.captions(german.source)[2]["out_ms"] == 5800


def test_a_source_that_is_joined_keeps_its_translations_linked(german: Translation) -> None:
    german.edit(german.source, {"kind": "merge-captions", "captions": ["s0", "s1"]})
    [first, second, _] = [c["id"] for c in german.captions()]
    links = german.read()["links"]
    assert links[first]["sources"] == links[second]["sources"] == ["s0"]


def test_a_translation_whose_source_was_removed_has_none(german: Translation) -> None:
    assert german.client.delete(f"/api/tracks/{german.source}").status_code == 204
    view = german.read()
    assert view["source"] is None
    assert len(view["links"]) == 3


def test_a_track_can_be_made_the_translation_of_another_one_but_not_of_its_own(
    client: TestClient, german: Translation
) -> None:
    source = f"/api/tracks/{german.source}/translation"
    assert client.put(source, json={"source": german.track}).status_code == 409
    assert client.put(source, json={"source": german.source}).status_code == 409
    assert client.put(source, json={"source": "no-such"}).status_code == 404
    address = f"/api/tracks/{german.track}/translation"
    assert client.put(address, json={"source": None}).json()["source"] is None
    again = client.put(address, json={"source": german.source}).json()
    assert sorted(link["sources"] for link in again["links"].values()) == [["s0"], ["s1"], ["s2"]]


def suggestions(german: Translation, number: int) -> dict:
    one = german.captions()[number]["id"]
    return german.client.get(f"/api/tracks/{german.track}/captions/{one}/suggestions").json()


def test_what_was_confirmed_is_remembered_for_the_next_film_and_forgotten_when_it_is_confirmed_no_more(
    client: TestClient, german: Translation, project: dict, new_project: Callable[..., dict]
) -> None:
    german.write(1, "Sie wiegt 412 Kilo.")
    one = german.captions()[1]["id"]
    german.progress({one: "done"})
    other = new_project()
    insert = {
        "kind": "insert-captions",
        "captions": [
            {"id": "o", "in_ms": 0, "out_ms": 900, "spans": [{"text": "It weighs 420\nkilos."}]}
        ],
    }
    track = other["tracks"][0]["id"]
    body = {"base_revision": 0, "gesture": "in", "operation": insert}
    assert client.post(f"/api/tracks/{track}/edits", json=body).status_code == 200
    again = Translation(client, other)
    [found] = suggestions(again, 0)["remembered"]
    assert found["target"] == "Sie wiegt 412 Kilo."
    assert found["origin"] == project["title"]
    assert 0.6 < found["alike"] < 1
    # A caption does not remember itself.
    assert suggestions(german, 1)["remembered"] == []
    german.progress({one: None})
    assert suggestions(again, 0)["remembered"] == []


def test_terms_that_stand_in_the_source_are_told_with_what_became_of_them(
    german: Translation,
) -> None:
    address = f"/api/projects/{german.project['id']}/glossary"
    entry = {
        "term": "drawing",
        "language": "en",
        "translations": {"de": ["Zeichnung"]},
        "forbidden": {"de": ["Bild"]},
    }
    put = german.client.put(f"{address}/project/t1", json={"base_revision": 0, "entry": entry})
    assert [term["entry"]["term"] for term in put.json()["terms"]] == ["drawing"]
    german.write(0, "Ich hatte ein Bild.")
    [term] = suggestions(german, 0)["terms"]
    assert (term["is_there"], term["wrong"], term["targets"]) == (False, "Bild", ["Zeichnung"])
    assert "term" in {finding["rule"] for finding in german.captions()[0]["findings"]}
    german.write(0, "Ich hatte eine Zeichnung.")
    [term] = suggestions(german, 0)["terms"]
    assert (term["is_there"], term["wrong"]) == (True, None)
    other = german.client.put(
        f"{address}/project/t1", json={"base_revision": 0, "entry": entry}, headers=OTHER
    )
    assert other.status_code == 409
    assert german.client.delete(f"{address}/project/t1").json()["terms"] == []


def test_a_list_of_terms_comes_in_and_goes_out_as_a_file(german: Translation) -> None:
    address = f"/api/projects/{german.project['id']}/glossary/house.csv"
    file = "term;de\nkeeper;Wärter\npilot;Lotse\n".encode("cp1252")
    taken = german.client.post(address, params={"language": "en"}, content=file).json()
    assert [(t["scope"], t["entry"]["term"]) for t in taken["terms"]] == [
        ("house", "keeper"),
        ("house", "pilot"),
    ]
    again = german.client.post(address, params={"language": "en"}, content=file).json()
    assert again["house_revision"] == taken["house_revision"]
    assert "Wärter" in german.client.get(address).text
    refused = german.client.post(address, params={"language": "en"}, content=b"word\nx\n")
    assert refused.status_code == 422


def test_a_memory_comes_in_whole_or_not_at_all_and_goes_out_again(german: Translation) -> None:
    client = german.client
    unit = '<tu><tuv xml:lang="en"><seg>Hang it high.</seg></tuv><tuv xml:lang="de"><seg>Häng sie hoch.</seg></tuv></tu>'
    head = '<tmx version="1.4"><header srclang="en"/><body>'
    broken = client.post("/api/memory", params={"name": "x"}, content=f"{head}{unit}".encode())
    assert broken.status_code == 422
    taken = client.post(
        "/api/memory", params={"name": "old.tmx"}, content=f"{head}{unit}</body></tmx>".encode()
    )
    assert taken.json() == {"taken": 1, "count": 1}
    [found] = suggestions(german, 2)["remembered"]
    assert (found["target"], found["origin"], found["alike"]) == ("Häng sie hoch.", "old.tmx", 1)
    asked = {"text": "hoch", "source": "en", "target": "de"}
    assert client.get("/api/memory", params=asked).json()["found"][0]["source"] == "Hang it high."
    assert "Häng sie hoch." in client.get("/api/memory.tmx").text


def test_a_report_tells_what_is_asked_of_translations_for_these_alone(german: Translation) -> None:
    asked = "the same numbers as the source"
    assert asked in german.client.get(f"/api/tracks/{german.track}/report").text
    assert asked not in german.client.get(f"/api/tracks/{german.source}/report").text


def test_speech_captioned_on_both_sides_one_after_the_other_is_linked(german: Translation) -> None:
    for track, id_ in ((german.track, "new-t"), (german.source, "new-s")):
        caption = {"id": id_, "in_ms": 7000, "out_ms": 8000, "spans": [{"text": "Here"}]}
        assert (
            german.edit(track, {"kind": "insert-captions", "captions": [caption]}, id_).status_code
            == 200
        )
    assert german.read()["links"]["new-t"]["sources"] == ["new-s"]


def test_a_track_with_other_times_is_linked_by_what_it_says(german: Translation) -> None:
    client, project = german.client, german.project
    made = client.post(f"/api/projects/{project['id']}/tracks", json={"language": "de"}).json()
    said = ["Ich hatte eine Zeichnung.", "Sie wiegt 412 Kilo.", "Häng sie hoch."]
    captions = [
        {
            "id": f"d{n}",
            "in_ms": 60_000 + n * 1000,
            "out_ms": 60_900 + n * 1000,
            "spans": [{"text": text}],
        }
        for n, text in enumerate(said)
    ]
    german.edit(made["id"], {"kind": "insert-captions", "captions": captions}, "in")
    answer = client.put(f"/api/tracks/{made['id']}/translation", json={"source": german.source})
    links = answer.json()["links"]
    assert [links[f"d{n}"]["sources"] for n in range(3)] == [["s0"], ["s1"], ["s2"]]


def test_two_languages_are_burned_one_above_the_other(
    german: Translation, data_settings: Settings
) -> None:
    german.write(0, "Ich hatte eine Zeichnung.")
    address = f"/api/tracks/{german.source}/burn"
    assert german.client.post(address, json={"above": "nobody"}).status_code == 404
    asked = german.client.post(
        address, json={"above": german.track, "encoding": {"crf": 40, "height": 120}}
    )
    folder = open_folder(data_settings)
    result = burn_in(JobContext(folder.jobs.get(asked.json()["id"]), folder))
    assert result["language"] == "en+de"
    assert (data_settings.results / result["file"]).stat().st_size == result["size_bytes"] > 0


def test_names_of_the_spelling_list_come_along_as_terms_that_stay(german: Translation) -> None:
    client, project = german.client, german.project["id"]
    assert client.put(
        f"/api/projects/{project}/terms", json={"terms": ["Drawing", "Kilo"]}
    ).is_success
    change = {"caption": "s0", "text": "Ask Kilo for the Drawing."}
    german.edit(german.source, {"kind": "change-captions", "changes": [change]}, "s")
    german.write(0, "Frag Kilo.")
    told = suggestions(german, 0)["terms"]
    assert [(one["term"], one["targets"], one["is_there"]) for one in told] == [
        ("Kilo", ["Kilo"], True),
        ("Drawing", ["Drawing"], False),
    ]


def test_a_film_with_tracks_inside_is_made_of_tracks_that_are_there(
    german: Translation, data_settings: Settings
) -> None:
    address = f"/api/projects/{german.project['id']}/film-with-tracks"
    for tracks, status in ((["nobody"], 404), ([german.track, german.track], 422), ([], 422)):
        assert german.client.post(address, json={"tracks": tracks}).status_code == status
    german.write(0, "Ich hatte eine Zeichnung.")
    body = {"container": "mkv", "tracks": [german.source, german.track], "default": german.track}
    asked = german.client.post(address, json=body)
    assert asked.status_code == 202, asked.text
    folder = open_folder(data_settings)
    result = put_tracks_in(JobContext(folder.jobs.get(asked.json()["id"]), folder))
    assert result["language"] == "en+de"
    with av.open(str(data_settings.results / result["file"])) as made:
        shown = [
            bool(one.disposition & av.stream.Disposition.default) for one in made.streams.subtitles
        ]
        assert any(one.type == "attachment" for one in made.streams)
    assert shown == [False, True]
