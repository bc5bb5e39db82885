"""A service that says which sentences matter: what it is sent, what of its answer is believed, and the stand-in."""

import json

import pytest
from fastapi.testclient import TestClient

from dunlin.engines import EngineError
from dunlin.engines.text_service import ChoiceAsked, sentences_by_service
from dunlin.stand_ins.text_service import text_service
from tests.engines.test_translators import send, serving

SAID = ["I had one drawing.", "It weighs 412 kilos.", "Nobody was hurt."]


def test_it_is_sent_what_is_said_and_points_at_sentences() -> None:
    asked = []

    def answer(handler, body) -> None:
        asked.append((handler.headers["Authorization"], body))
        send(handler, json.dumps({"sentences": [1, 1, 99, -1, 0]}).encode())

    with serving(answer) as address:
        found = sentences_by_service(address, "secret", "answer", SAID, "en", question="How heavy?")
    # What it makes up is left out.
    assert found == [1, 0]
    [(token, body)] = asked
    assert (token, body["sentences"], body["question"]) == ("Bearer secret", SAID, "How heavy?")


@pytest.mark.parametrize("body", [b"<html>", b'{"sentences": ["all"]}', b"{}"])
def test_what_makes_no_sense_is_told(body: bytes) -> None:
    with (
        serving(lambda handler, _: send(handler, body)) as address,
        pytest.raises(EngineError) as told,
    ):
        sentences_by_service(address, "secret", "describe", SAID, "en")
    assert told.value.message.code == "services.nonsense"
    assert "secret" not in str(told.value)


def test_the_stand_in_answers_by_likeness() -> None:
    client = TestClient(text_service())

    def asked(**more) -> list[int]:
        body = ChoiceAsked(task="answer", language="en", sentences=SAID).model_dump() | more
        return client.post("/", json=body).json()["sentences"]

    assert asked(question="What is its weight in kilos?")[0] == 1
    assert asked(question="who drew it, any drawings?")[0] == 0
    assert asked(question="submarine") == []
    assert len(asked(task="describe", count=2)) == 2
