"""Spelling: what no dictionary knows, what was accepted, and what is told of it."""

from collections.abc import Callable

import pytest
from fastapi.testclient import TestClient

from tests.api.translations import OTHER, Translation, spoken_project


@pytest.fixture
def german(client: TestClient, new_project: Callable[..., dict]) -> Translation:
    made = Translation(client, spoken_project(client, new_project))
    assert made.write(0, "Die Glocek bei Quillan ist schwer.").status_code == 200
    return made


def unknown(german: Translation, number: int = 0) -> list[str]:
    id_ = german.captions()[number]["id"]
    read = german.client.get(f"/api/tracks/{german.track}/captions/{id_}/spelling")
    assert read.status_code == 200, read.text
    return [word["word"] for word in read.json()["unknown"]]


def accept(german: Translation, word: str, scope: str = "project", **more):
    address = f"/api/projects/{german.project['id']}/dictionary/{scope}"
    return german.client.put(address, json={"word": word, "language": "de"}, **more)


def test_unknown_words_are_told_with_what_may_have_been_meant(german: Translation) -> None:
    id_ = german.captions()[0]["id"]
    read = german.client.get(f"/api/tracks/{german.track}/captions/{id_}/spelling").json()
    [glocke, quillan] = read["unknown"]
    assert (glocke["word"], glocke["start"], glocke["end"]) == ("Glocek", 4, 10)
    assert "Glocke" in glocke["suggestions"]
    assert quillan["word"] == "Quillan"
    gone = f"/api/tracks/{german.track}/captions/nobody/spelling"
    assert german.client.get(gone).status_code == 404


def test_a_word_is_accepted_in_a_project_or_in_all_and_undone(
    german: Translation, new_project: Callable[..., dict]
) -> None:
    assert accept(german, "Quillan", "house").status_code == 200
    listed = accept(german, "Glocek", headers={"Idempotency-Key": "once"}).json()
    assert [(one["word"], one["scope"]) for one in listed] == [
        ("Glocek", "project"),
        ("Quillan", "house"),
    ]
    assert accept(german, "Glocek", headers={"Idempotency-Key": "once"}).status_code == 200
    assert unknown(german) == []
    german.undo("dictionary")
    assert unknown(german) == ["Glocek"]
    # Another project knows what was accepted for all, and no more.
    other = Translation(german.client, spoken_project(german.client, new_project))
    other.write(0, "Die Glocek bei Quillan.")
    assert unknown(other) == ["Glocek"]


def test_words_that_are_none_are_not_accepted_and_forgetting_twice_is_no_fault(
    german: Translation,
) -> None:
    for word in ("two words", "412", " "):
        assert accept(german, word).status_code == 422
    accept(german, "Quillan")
    address = f"/api/projects/{german.project['id']}/dictionary/project/Quillan?language=de"
    assert [german.client.delete(address).status_code for _ in range(2)] == [200, 200]
    assert "Quillan" in unknown(german)


def test_names_speakers_and_terms_are_known(german: Translation) -> None:
    german.write(1, "Varga und Ilse haben sie.")
    assert unknown(german, 1) == []
    entry = {"term": "Quillan", "language": "en", "translations": {"de": ["Quillan"]}}
    body = {"base_revision": 0, "entry": entry}
    address = f"/api/projects/{german.project['id']}/glossary/project/t1"
    assert german.client.put(address, json=body).status_code == 200
    assert unknown(german) == ["Glocek"]


def test_a_track_in_a_language_without_a_dictionary_says_so(
    client: TestClient, new_project: Callable[..., dict]
) -> None:
    japanese = Translation(client, spoken_project(client, new_project), language="ja")
    id_ = japanese.captions()[0]["id"]
    read = client.get(f"/api/tracks/{japanese.track}/captions/{id_}/spelling").json()
    assert read == {"has_dictionary": False, "unknown": []}


def test_the_rule_tells_what_is_unknown_until_it_is_accepted_wherever_that_was(
    german: Translation,
) -> None:
    client, project = german.client, german.project["id"]
    spec = client.post("/api/specs", json={"id": "spelled", "name": "Spelled", "spelled": True})
    assert spec.status_code == 201, spec.text
    client.patch(f"/api/tracks/{german.track}", json={"spec_id": spec.json()["id"]})

    def told() -> list[str]:
        first = german.captions()[0]
        return [
            f["message"]["values"]["words"] for f in first["findings"] if f["rule"] == "spelling"
        ]

    assert told() == ["Glocek, Quillan"]
    accept(german, "Quillan", headers=OTHER)
    assert told() == ["Glocek"]
    german.write(0, "Die Glocke bei Quillan ist schwer.")
    assert told() == []
    assert client.get(f"/api/projects/{project}/dictionary").json()[0]["word"] == "Quillan"
