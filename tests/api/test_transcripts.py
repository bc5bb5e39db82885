"""The transcript as it is edited, through the API."""

from collections.abc import Callable

import pytest
from fastapi.testclient import TestClient

from dunlin.core.speech import Word
from dunlin.store.log import Author
from dunlin.work.transcript import take_words

WORDS = [
    Word("Ring", 0, 400, 0.9, None, True),
    Word("the", 400, 600, 0.9),
    Word("vell.", 600, 1000, 0.3),
    Word("Loud", 3000, 3400, 0.9, None, True),
]


@pytest.fixture
def project(client: TestClient, new_project: Callable[..., dict]) -> dict:
    project = new_project()
    here = client.app.state.services  # type: ignore[attr-defined]
    take_words(here, here.projects.get(project["id"]), WORDS, Author("tab"))
    return project


def words(client: TestClient, project: dict) -> dict:
    return client.get(f"/api/projects/{project['id']}/words").json()


def texts(client: TestClient, project: dict) -> list[str]:
    return [word["text"] for word in words(client, project)["words"]]


def edit(client: TestClient, project: dict, first: int, count: int, *written: str, base=None):
    revision = words(client, project)["revision"] if base is None else base
    body = {
        "base_revision": revision, "first": first, "count": count,
        "words": [{"text": text} for text in written],
    }  # fmt: skip
    return client.post(f"/api/projects/{project['id']}/transcript/edits", json=body)


def test_a_passage_is_written_anew_and_answered_with_its_times(client, project) -> None:
    answer = edit(client, project, 2, 1, "bell,", "Edda.").json()
    first = answer["words"][0]
    assert (first["text"], first["start_ms"]) == ("bell,", 600)
    assert answer["words"][1]["end_ms"] <= 3000
    assert texts(client, project) == ["Ring", "the", "bell,", "Edda.", "Loud"]
    assert words(client, project)["revision"] == answer["revision"]
    edit(client, project, 0, 5)
    assert texts(client, project) == []
    edit(client, project, 0, 0, "Again")
    assert texts(client, project) == ["Again"]


def test_editing_one_place_again_and_again_keeps_the_order(client, project) -> None:
    expected = ["Ring", "the", "vell.", "Loud"]
    for n in range(60):
        edit(client, project, 2, 0, f"w{n}")
        expected.insert(2, f"w{n}")
    assert texts(client, project) == expected


def test_an_edit_of_an_older_transcript_is_refused(client, project) -> None:
    base = words(client, project)["revision"]
    assert edit(client, project, 0, 1, "Sound", base=base).status_code == 200
    late = edit(client, project, 3, 1, "Lost", base=base)
    assert late.status_code == 409
    assert "another window" in late.json()["detail"]
    assert texts(client, project) == ["Sound", "the", "vell.", "Loud"]


def test_words_that_are_not_there_cannot_be_edited(client, project) -> None:
    assert edit(client, project, 3, 9, "none").status_code == 422
    assert edit(client, project, 99, 0, "none").status_code == 422


def test_a_film_without_a_transcript_can_be_written_by_hand(client, new_project) -> None:
    project = new_project()
    assert edit(client, project, 0, 0, "By", "hand").status_code == 200
    assert texts(client, project) == ["By", "hand"]


def test_speakers_are_kept_and_renamed_with_their_words(client, project) -> None:
    address = f"/api/projects/{project['id']}"
    body = {
        "base_revision": words(client, project)["revision"], "first": 3, "count": 1,
        "words": [{"text": "Loud", "start_ms": 3000, "end_ms": 3400, "speaker": "Edda", "begins": True}],
    }  # fmt: skip
    client.post(f"{address}/transcript/edits", json=body)
    listed = [{"name": "Edda", "colour": "#396370"}]
    client.put(f"{address}/speakers", json={"speakers": listed})
    assert client.get(address).json()["speakers"] == listed
    renamed = [{"name": "Edda Lindmark", "colour": "#396370", "was": "Edda"}]
    client.put(f"{address}/speakers", json={"speakers": renamed})
    assert words(client, project)["words"][3]["speaker"] == "Edda Lindmark"
    twice = {"speakers": listed * 2}
    assert client.put(f"{address}/speakers", json=twice).status_code == 422


def test_no_caption_has_two_speakers(client, project) -> None:
    edit(client, project, 0, 4)
    written = [
        {"text": text, "start_ms": n * 400, "end_ms": n * 400 + 400, "speaker": speaker, "begins": n in (0, 2)}
        for n, (text, speaker) in enumerate(
            [("Who", "Ilse"), ("rings?", "Ilse"), ("I", "Edda"), ("do.", "Edda")]
        )
    ]  # fmt: skip
    body = {
        "base_revision": words(client, project)["revision"],
        "first": 0,
        "count": 0,
        "words": written,
    }
    client.post(f"/api/projects/{project['id']}/transcript/edits", json=body)
    track = project["tracks"][0]["id"]
    made = client.post(f"/api/tracks/{track}/captions-from-words", json={"gesture": "make"}).json()
    said = [("".join(s["text"] for s in c["spans"]), c["speaker"]) for c in made["captions"]]
    assert said == [("Who rings?", "Ilse"), ("I do.", "Edda")]


@pytest.mark.parametrize(
    "word",
    [
        {"text": "two words"},
        {"text": ""},
        {"text": "late", "start_ms": 2**70, "end_ms": 2**70},
        {"text": "early", "start_ms": -1, "end_ms": 5},
        {"text": "surer", "confidence": 7},
        {"text": "x" * 3000},
    ],
)
def test_what_is_no_word_is_refused(client, project, word: dict) -> None:
    body = {
        "base_revision": words(client, project)["revision"],
        "first": 0,
        "count": 0,
        "words": [word],
    }
    answer = client.post(f"/api/projects/{project['id']}/transcript/edits", json=body)
    assert answer.status_code == 422
    assert len(texts(client, project)) == 4


def test_the_spelling_list_is_kept_and_says_where_a_term_may_be_meant(client, project) -> None:
    address = f"/api/projects/{project['id']}/terms"
    found = client.put(address, json={"terms": ["Velle", " Edda  Lindmark ", "Velle"]}).json()
    assert found["terms"] == ["Velle", "Edda Lindmark"]
    assert [(o["first"], o["said"], o["put"]) for o in found["offers"]] == [(2, "vell", "Velle.")]
    edit(client, project, 2, 1, "Velle.")
    assert client.get(address).json()["offers"] == []
    assert client.put(address, json={"terms": [" "]}).status_code == 422


def test_of_captions_that_would_be_made_only_those_chosen_are_put_in(client, project) -> None:
    track = project["tracks"][0]["id"]
    address = f"/api/tracks/{track}/captions-from-words"
    looked = client.post(f"{address}/preview", json={}).json()
    assert [c["change"] for c in looked["captions"]] == [0, 1]
    assert looked["gone"] == [0, 0]
    seen = {name: looked[name] for name in ("revision", "words_revision")}
    request = {"gesture": "make", "looked_at": {**seen, "changes": [1]}}
    assert client.post(address, json=request).status_code == 200
    put = client.get(f"/api/tracks/{track}").json()["captions"]
    assert [c["spans"][0]["text"] for c in put] == ["Loud"]
    # What was looked at is no longer what there is.
    refused = client.post(address, json=request)
    assert refused.status_code == 409
    assert "look again" in refused.json()["detail"]
    again = client.post(f"{address}/preview", json={}).json()
    assert [c["change"] for c in again["captions"]] == [0, None]
    edit(client, project, 3, 1)
    after = client.post(f"{address}/preview", json={}).json()
    assert [(c["text"], c["goes"]) for c in after["captions"]][-1] == ("Loud", True)
    assert after["gone"] == [0, 1]
