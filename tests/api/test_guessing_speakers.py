"""The guess of who speaks, asked for again after something was put right."""

import io
import wave

from fastapi.testclient import TestClient

from dunlin.core.speech.transcript_files import as_html
from dunlin.core.speech.words import in_order
from tests.voices import Conversation, conversation

PEOPLE = ("Ann", "Ben", "Cleo")


def as_wave(talk: Conversation) -> bytes:
    data = io.BytesIO()
    with wave.open(data, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(16_000)
        file.writeframes(talk.sound.tobytes())
    return data.getvalue()


def guessed(client: TestClient, project: str) -> dict:
    """The result of the job, done here."""
    job = client.post(f"/api/projects/{project}/transcript/voices").json()
    services = client.app.state.services
    services.queue._run(job["id"])
    return services.jobs.get(job["id"]).result


def name(client: TestClient, project: str, first: int, count: int, speaker: str) -> None:
    """Says who speaks some words, as the page does."""
    now = client.get(f"/api/projects/{project}/words").json()
    written = [
        {**word, "speaker": speaker, "begins": number == 0}
        for number, word in enumerate(now["words"][first : first + count])
    ]
    answer = client.post(
        f"/api/projects/{project}/transcript/edits",
        json={"base_revision": now["revision"], "first": first, "count": count, "words": written},
    )
    assert answer.status_code == 200, answer.text


def test_a_turn_that_is_named_again_takes_its_voice_along(client: TestClient) -> None:
    talk = conversation(("slt", "rms", "awb"), 3, short=False)
    made = client.post("/api/projects", params={"name": "talk.wav"}, content=as_wave(talk))
    project = made.json()["id"]
    address = f"/api/projects/{project}"
    assert client.post(
        f"{address}/transcript", content=as_html(in_order(talk.words), "Talk")
    ).is_success
    first = guessed(client, project)
    assert set(first["names"]) == {None}
    # Somebody took two of the voices for one person: all turns of the third are called Ben.
    client.put(
        f"{address}/speakers",
        json={"speakers": [{"name": who, "colour": "#336699"} for who in PEOPLE]},
    )
    for passage in first["passages"]:
        who = min(talk.who[passage["first"]], 1)
        name(client, project, passage["first"], passage["count"], PEOPLE[who])
    turn = next(p for p in first["passages"] if talk.who[p["first"]] == 2)
    name(client, project, turn["first"], turn["count"], "Cleo")
    again = guessed(client, project)
    right = [again["names"][p["voice"]] == PEOPLE[talk.who[p["first"]]] for p in again["passages"]]
    assert sum(right) >= 0.9 * len(right)
    assert set(again["names"]) == set(PEOPLE)
