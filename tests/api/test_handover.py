"""Translations that go to somebody elsewhere and come back, and those that begin from a file."""

import csv
import io
from collections.abc import Callable

import pytest
from fastapi.testclient import TestClient

from tests.api.translations import OTHER, SAID, Translation, spoken_project

GERMAN = ["Ich hatte eine Zeichnung.", "Sie wiegt 412 Kilo.", "Häng sie hoch."]


@pytest.fixture
def project(client: TestClient, new_project: Callable[..., dict]) -> dict:
    return spoken_project(client, new_project)


@pytest.fixture
def german(client: TestClient, project: dict) -> Translation:
    return Translation(client, project)


def texts(german: Translation) -> list[str]:
    return ["".join(span["text"] for span in c["spans"]) for c in german.captions()]


def file_of(german: Translation, kind: str) -> bytes:
    answer = german.client.get(f"/api/tracks/{german.track}/handover.{kind}")
    assert answer.status_code == 200, answer.text
    return answer.content


def look(german: Translation, data: bytes, name: str) -> dict:
    answer = german.client.post(f"/api/tracks/{german.track}/handover?name={name}", content=data)
    assert answer.status_code == 200, answer.text
    return answer.json()


def take(german: Translation, seen: dict, **more):
    taken = [
        {"caption": one["caption"], "text": one["after"], "said": one["said"], "is_confirmed": one["is_confirmed"]}
        for one in seen["changes"]
    ]  # fmt: skip
    body = {"base_revision": seen["revision"], "gesture": "back", "taken": taken}
    return german.client.put(f"/api/tracks/{german.track}/handover", json=body, **more)


def translated(german: Translation) -> bytes:
    """An XLIFF file as a translator gives it back."""
    text = file_of(german, "xlf").decode()
    for english, said in zip(SAID, GERMAN, strict=True):
        text = text.replace(f"{english}</source>", f"{english}</source><target>{said}</target>")
    return text.replace('state="initial"', 'state="final"').encode()


def test_xliff_comes_back_is_looked_at_and_taken_in_as_one_gesture(german: Translation) -> None:
    seen = look(german, translated(german), "back.xlf")
    assert [(one["before"], one["after"]) for one in seen["changes"]] == [("", t) for t in GERMAN]
    assert texts(german) == ["", "", ""]
    assert take(german, seen).status_code == 204
    assert texts(german) == GERMAN
    assert {link["progress"] for link in german.read()["links"].values()} == {"done"}
    # What was confirmed elsewhere is remembered as what is confirmed here.
    asked = {"text": "hoch", "source": "en", "target": "de"}
    assert german.client.get("/api/memory", params=asked).json()["found"][0]["target"] == GERMAN[2]
    german.undo(f"tracks/{german.track}/captions", f"tracks/{german.track}/links")
    assert texts(german) == ["", "", ""]
    assert {link["progress"] for link in german.read()["links"].values()} == {None}


def test_what_another_window_wrote_meanwhile_is_not_put_over(german: Translation) -> None:
    seen = look(german, translated(german), "back.xlf")
    change = {"caption": german.captions()[1]["id"], "text": "412 Kilo!"}
    german.edit(german.track, {"kind": "change-captions", "changes": [change]}, "o", headers=OTHER)
    assert take(german, seen).status_code == 409
    assert texts(german) == ["", "412 Kilo!", ""]


def test_a_lost_answer_is_asked_for_again_without_a_second_edit(german: Translation) -> None:
    seen = look(german, translated(german), "back.xlf")
    key = {"Idempotency-Key": "once"}
    assert [take(german, seen, headers=key).status_code for _ in range(2)] == [204, 204]
    german.undo(f"tracks/{german.track}/captions")
    assert texts(german) == ["", "", ""]


def test_a_source_that_changed_meanwhile_marks_what_comes_back(german: Translation) -> None:
    file = translated(german)
    change = {"caption": "s1", "text": "It weighs 399 kilos."}
    german.edit(german.source, {"kind": "change-captions", "changes": [change]}, "s")
    seen = look(german, file, "back.xlf")
    assert [one["source_changed"] for one in seen["changes"]] == [False, True, False]
    take(german, seen)
    link = german.read()["links"][german.captions()[1]["id"]]
    assert link["said"] == SAID[1]


@pytest.mark.parametrize("kind", ["csv", "docx"])
def test_documents_of_two_columns_come_back(german: Translation, kind: str) -> None:
    german.write(0, GERMAN[0])
    data = file_of(german, kind)
    assert look(german, data, f"back.{kind}")["changes"] == []
    if kind == "csv":
        rows = list(csv.reader(io.StringIO(data.decode("utf-8-sig"))))
        rows[2][-1] = GERMAN[1]
        out = io.StringIO()
        csv.writer(out, delimiter=";").writerows(rows)
        [change] = look(german, out.getvalue().encode(), "back.csv")["changes"]
        assert change["after"] == GERMAN[1]


def test_a_file_in_another_language_or_of_another_kind_is_refused(german: Translation) -> None:
    address = f"/api/tracks/{german.track}/handover?name=back.xlf"
    french = file_of(german, "xlf").replace(b'trgLang="de"', b'trgLang="fr"')
    for data, code in [(french, "handover.other-languages"), (b"what", "handover.unknown-kind")]:
        answer = german.client.post(address, content=data)
        assert (answer.status_code, answer.json()["code"]) == (422, code)
    assert german.client.get(f"/api/tracks/{german.source}/handover.xlf").status_code == 422


def begin(client: TestClient, project: dict, data: bytes, name: str, **more):
    asked = {"source": project["tracks"][0]["id"], "language": "de", "name": name} | more
    address = f"/api/projects/{project['id']}/translations/file"
    return client.post(address, params=asked, content=data)


def test_a_translation_begins_from_a_script_with_the_times_of_its_source(
    client: TestClient, project: dict
) -> None:
    made = begin(client, project, "\n\n".join(GERMAN).encode(), "de.txt")
    assert made.status_code == 201, made.text
    track = made.json()["track"]["id"]
    captions = client.get(f"/api/tracks/{track}").json()["captions"]
    assert [(c["in_ms"], c["spans"][0]["text"]) for c in captions] == [
        (n * 2000, text) for n, text in enumerate(GERMAN)
    ]
    assert made.json()["left_over"] == []
    links = client.get(f"/api/tracks/{track}/translation").json()["links"]
    assert [links[c["id"]]["sources"] for c in captions] == [["s0"], ["s1"], ["s2"]]


def test_a_translation_begins_from_captions_with_their_own_times(
    client: TestClient, project: dict
) -> None:
    srt = "".join(
        f"{n + 1}\n00:00:{n * 2:02},100 --> 00:00:{n * 2 + 1:02},900\n{text}\n\n"
        for n, text in enumerate(GERMAN)
    )
    made = begin(client, project, srt.encode(), "de.srt").json()
    captions = client.get(f"/api/tracks/{made['track']['id']}").json()["captions"]
    assert [c["in_ms"] for c in captions] == [100, 2100, 4100]
    assert (made["doubtful"], made["left_over"]) == (0, [])


def test_a_file_without_a_word_begins_nothing(client: TestClient, project: dict) -> None:
    for data, name in [(b"", "de.txt"), (b"\n\n", "de.srt"), (b"PK\3\4broken", "de.docx")]:
        assert begin(client, project, data, name).status_code == 422
    assert begin(client, project, b"Ja.", "de.txt", source="nobody").status_code == 404
    assert len(client.get(f"/api/projects/{project['id']}").json()["tracks"]) == 1
