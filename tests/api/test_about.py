"""Words about a film in several windows: begun, written by hand, made otherwise, asked questions."""

import json
from collections.abc import Callable

import pytest
from fastapi.testclient import TestClient

from tests.api.translations import OTHER, spoken_project
from tests.engines.test_translators import send, serving


class About:
    """Words about a film, by the requests of a page."""

    def __init__(self, client: TestClient, project: dict) -> None:
        self.client, self.project = client, project
        self.address = f"/api/projects/{project['id']}/about"

    def read(self) -> dict:
        return self.client.get(self.address).json()

    def begin(self, **more):
        return self.client.post(self.address, json=more)

    def put(self, id_: str, piece: dict | None, base: int | None = None, **more):
        return self.client.put(
            self.address, json={"pieces": {id_: piece}, "base_revision": base}, **more
        )

    def again(self, id_: str, how: str, base: int | None = None, **more):
        return self.client.post(
            f"{self.address}/{id_}", json={"how": how, "base_revision": base}, **more
        )

    def first(self, kind: str) -> tuple[str, dict]:
        return next(
            (one["id"], one["piece"])
            for one in self.read()["pieces"]
            if one["piece"]["kind"] == kind
        )

    def undo(self):
        return self.client.post(
            f"/api/projects/{self.project['id']}/undo", json={"targets": ["about"]}
        )


@pytest.fixture
def about(client: TestClient, new_project: Callable[..., dict]) -> About:
    return About(client, spoken_project(client, new_project))


def test_it_is_begun_of_what_is_said_and_begun_anew(about: About) -> None:
    assert about.read() == {"revision": 0, "pieces": [], "has_words": True, "service": None}
    made = about.begin().json()["pieces"]
    assert {one["piece"]["kind"] for one in made} >= {"title", "short", "keywords", "chapter"}
    id_, piece = about.first("title")
    about.put(id_, piece | {"text": "The Fog Bell"})
    anew = about.begin().json()["pieces"]
    assert not {one["id"] for one in anew} & {one["id"] for one in made}
    assert about.undo().status_code == 200
    assert about.first("title")[1]["text"] == "The Fog Bell"


def test_another_window_did_something_in_between(about: About) -> None:
    revision = about.begin().json()["revision"]
    id_, piece = about.first("short")
    assert about.put(id_, piece | {"text": "By hand"}, revision, headers=OTHER).status_code == 200
    refused = about.put(id_, piece | {"text": "Mine"}, revision)
    assert refused.status_code == 409
    assert about.again(id_, "another", revision).status_code == 409
    assert about.begin(base_revision=revision).status_code == 409
    assert about.first("short")[1]["text"] == "By hand"
    # Another piece is nobody's else: it goes through.
    title, was = about.first("title")
    assert about.put(title, was | {"text": "Ring it"}, revision).status_code == 200
    assert about.put(title, None, headers=OTHER).status_code == 200
    assert about.again(title, "another").status_code == 404


def test_a_lost_answer_is_asked_for_again_and_nothing_is_done_twice(about: About) -> None:
    key = {"headers": {"Idempotency-Key": "k1"}}
    first = about.client.post(about.address, json={}, **key).json()
    assert about.client.post(about.address, json={}, **key).json() == first
    id_, piece = about.first("short")
    key = {"headers": {"Idempotency-Key": "k2"}}
    made = about.again(id_, "another", **key).json()
    assert about.again(id_, "another", **key).json() == made
    assert about.first("short")[1]["seen"] == [piece["text"]]


def test_longer_shorter_and_another_one_say_when_there_is_none(about: About) -> None:
    about.begin()
    id_, piece = about.first("short")
    assert about.again(id_, "longer").status_code == 200
    assert len(about.first("short")[1]["said"]) == 2
    about.again(id_, "shorter")
    assert about.first("short")[1]["text"] == piece["text"]
    assert about.again(id_, "shorter").json()["code"] == "about.no-size"
    for _ in range(3):
        last = about.again(id_, "another")
    assert last.json()["code"] == "about.no-other"


def test_questions_are_answered_and_silence_has_nothing_to_write(
    about: About, client: TestClient, new_project: Callable[..., dict]
) -> None:
    address = f"/api/projects/{about.project['id']}/answers"
    [found, *_] = client.get(address, params={"question": "How many kilos?"}).json()
    assert (found["text"], found["from_ms"]) == ("It weighs 412 kilos.", 2000)
    silent = About(client, new_project())
    assert silent.read()["has_words"] is False
    assert silent.begin().json()["code"] == "words.none-there"
    assert (
        client.get(
            f"/api/projects/{silent.project['id']}/answers", params={"question": "x"}
        ).status_code
        == 422
    )


def test_what_was_written_by_hand_is_what_is_delivered(about: About) -> None:
    about.begin()
    id_, piece = about.first("title")
    about.put(id_, piece | {"text": "A bell of 412 kilos"})
    delivery = f"/api/projects/{about.project['id']}/deliveries/d"
    about.client.put(delivery, json={"delivery": {"name": "Ternholm"}})
    item = {"thing": {"kind": "about", "form": "text"}}
    about.client.put(f"{delivery}/items", json={"items": {"a": item}})
    text = about.client.get(f"{delivery}/items/a/text").text
    assert text.startswith("A bell of 412 kilos\n")


def test_a_service_that_was_named_answers_and_describes_and_says_when_it_is_gone(
    about: About,
) -> None:
    settings = about.client.app.state.services.settings  # type: ignore[attr-defined]

    def answer(handler, body) -> None:
        send(handler, json.dumps({"sentences": [2, 7]}).encode())

    with serving(answer) as address:
        settings.text_service = address
        found = about.client.get(
            f"/api/projects/{about.project['id']}/answers", params={"question": "Where?"}
        ).json()
        assert [one["text"] for one in found] == ["Hang it high."]
        about.begin()
        assert about.first("short")[1]["text"] == "Hang it high."
        assert about.read()["service"] == "127.0.0.1"
    refused = about.client.get(
        f"/api/projects/{about.project['id']}/answers", params={"question": "Where?"}
    )
    assert (refused.status_code, refused.json()["code"]) == (422, "services.gone")
    assert about.begin().status_code == 422
    assert about.first("short")[1]["text"] == "Hang it high.", "nothing is lost"
    settings.text_service = None
