"""Jobs through a real server and a real worker: followed, called off, and what comes of them."""

import io
import json
import subprocess
import threading
import wave
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest

from tests.conftest import DEMO
from tests.server import Server, wait_for


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    server = Server(tmp_path_factory.mktemp("data"))
    yield server
    server.stop()


def test_a_film_is_drawn_copied_and_its_end_is_told(server: Server, films) -> None:
    old = server.upload(films["old"])
    assert server.wait_for_job(old["id"], "copy", "done", "failed")["state"] == "done"
    assert server.get(f"/api/projects/{old['id']}")["film"]["playable"]
    assert (
        server.http.get(f"/api/films/{old['film']['id']}/file").headers["content-type"]
        == "video/mp4"
    )
    cut = server.upload(films["cut-off"])
    server.wait_for_job(cut["id"], "peaks", "done")
    ends = server.get(f"/api/projects/{cut['id']}")["film"]["ends_early_ms"]
    assert 1000 < ends < 7000
    short = server.upload(films["sound-ends"])
    server.wait_for_job(short["id"], "peaks", "done")
    film = server.get(f"/api/projects/{short['id']}")["film"]
    assert film["ends_early_ms"] is None
    assert 3900 < film["sound_ends_early_ms"] < 4200
    info = server.get(f"/api/films/{cut['film']['id']}/peaks")
    peaks = server.http.get(
        f"/api/films/{cut['film']['id']}/peaks/0", params={"first": 10, "count": 5}
    )
    assert len(peaks.content) == 10
    assert info["counts"][0] == -(-ends // 4)


def test_words_come_while_they_are_heard_and_become_captions(server: Server, films) -> None:
    project = server.upload(films["short"])
    address = f"/api/projects/{project['id']}"
    engine = server.get("/api/engines")[0]["name"]
    server.post(f"{address}/recognise", json={"engine": engine, "language": "en", "quick": True})
    again = server.http.post(
        f"{address}/recognise", json={"engine": engine, "language": "en", "quick": True}
    )
    assert again.status_code == 409
    job = server.wait_for_job(project["id"], "recognise", "done", "failed")
    assert job["state"] == "done", job["error"]
    words = server.get(f"{address}/words")["words"]
    assert len(words) == job["result"]["words"] > 15
    track = project["tracks"][0]["id"]
    made = server.post(f"/api/tracks/{track}/captions-from-words", json={"gesture": "g"})
    captions = made["captions"]
    said = " ".join("".join(s["text"] for s in c["spans"]) for c in captions).split()
    assert said == [word["text"] for word in words]
    longest = max(captions, key=lambda c: c["measures"]["characters"])
    text = longest["spans"][0]["text"]
    space = text.index(" ", len(text) // 2)
    server.post(
        f"/api/tracks/{track}/split",
        json={"base_revision": made["revision"], "gesture": "s",
              "caption": longest["id"], "new_id": "second", "offset": space},
    )  # fmt: skip
    first_word = text[space:].split()[0]
    second = next(c for c in server.get(f"/api/tracks/{track}")["captions"] if c["id"] == "second")
    starts = [word["start_ms"] for word in words if word["text"] == first_word]
    assert min(abs(second["in_ms"] - start) for start in starts) <= 40


def test_a_waiting_job_is_called_off_at_once(server: Server, films) -> None:
    project = server.upload(films["plain"])
    track = project["tracks"][0]["id"]
    jobs = [server.post(f"/api/tracks/{track}/burn", json={}) for _ in range(5)]
    last = server.post(f"/api/jobs/{jobs[-1]['id']}/cancel")
    assert last["state"] == "cancelled"
    assert server.http.delete(f"/api/projects/{project['id']}").status_code == 204


def test_edits_and_jobs_are_told_to_everybody_who_listens(server: Server, films) -> None:
    project = server.upload(films["short"])
    heard: list[tuple[str, dict]] = []
    ready = threading.Event()

    def changed_tracks() -> list[dict]:
        return [t for name, data in heard if name == "changed" for t in data["tracks"]]

    def listen() -> None:
        with httpx.stream(
            "GET", f"{server.url}/api/projects/{project['id']}/events", timeout=60
        ) as stream:
            name = ""
            for line in stream.iter_lines():
                if line.startswith("event: "):
                    name = line[7:]
                elif line.startswith("data: "):
                    heard.append((name, json.loads(line[6:])))
                    ready.set()
                if changed_tracks() and any(name == "job" for name, _ in heard):
                    return

    listener = threading.Thread(target=listen, daemon=True)
    listener.start()
    assert ready.wait(20)
    track = project["tracks"][0]["id"]
    operation = {"kind": "insert-captions", "captions": [{"id": "a", "in_ms": 0, "out_ms": 900}]}
    made = server.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": 0, "gesture": "g", "operation": operation},
    )
    server.post(f"/api/tracks/{track}/burn", json={"encoding": {"crf": 40, "height": 120}})
    listener.join(60)
    edits = changed_tracks()
    assert heard[0][0] == "ready"
    assert (edits[0]["actor"], edits[0]["revision"], edits[0]["captions"][0]["id"]) == (
        "somebody",
        made["revision"],
        "a",
    )
    assert any(name == "job" and data["project_id"] == project["id"] for name, data in heard)


def test_words_written_by_hand_are_fitted_to_the_sound(server: Server, films) -> None:
    project = server.upload(films["talk"])
    address = f"/api/projects/{project['id']}"
    said = json.loads((DEMO / "fog-bell.words.json").read_text())["words"][:60]
    truth = [(word["start_ms"], word["end_ms"]) for word in said]

    def write(first: int, count: int, words: list[dict]) -> None:
        revision = server.get(f"{address}/words")["revision"]
        body = {"base_revision": revision, "first": first, "count": count, "words": words}
        server.post(f"{address}/transcript/edits", json=body)

    def error_ms() -> float:
        now = [word["start_ms"] for word in server.get(f"{address}/words")["words"]]
        return sum(abs(at - start) for at, (start, _) in zip(now, truth, strict=True)) / len(now)

    write(0, 0, [{k: word[k] for k in ("text", "start_ms", "end_ms")} for word in said])
    # Taken out and written again, they share out a pause, and know nothing of the sound.
    write(8, 12, [])
    write(8, 0, [{"text": word["text"]} for word in said[8:20]])
    assert sum(word["guessed"] for word in server.get(f"{address}/words")["words"]) >= 12
    before = error_ms()
    server.post(f"{address}/transcript/fit")
    job = server.wait_for_job(project["id"], "fit-words", "done", "failed")
    assert job["state"] == "done", job["error"]
    assert job["result"]["words"] >= 12
    words = server.get(f"{address}/words")["words"]
    assert [word["text"] for word in words] == [word["text"] for word in said]
    assert not any(word["guessed"] for word in words)
    assert error_ms() < min(before / 2, 40)


def test_a_part_is_heard_again_and_compared(server: Server, films) -> None:
    project = server.upload(films["short"])
    address = f"/api/projects/{project['id']}"
    words = [
        {"text": text, "start_ms": 600 + n * 300, "end_ms": 850 + n * 300}
        for n, text in enumerate(["This", "is", "Killen", "Point", "on", "the", "last", "day"])
    ]
    server.post(
        f"{address}/transcript/edits",
        json={"base_revision": 0, "first": 0, "count": 0, "words": words},
    )
    asked = {"engine": "whisper", "language": "en", "quick": True, "from_ms": 0, "to_ms": 4200, "first": 0,
             "count": len(words)}  # fmt: skip
    server.post(f"{address}/transcript/hear", json=asked)
    job = server.wait_for_job(project["id"], "hear-again", "done", "failed")
    assert job["state"] == "done", job["error"]
    heard = job["result"]["words"]
    assert {"last", "day", "February."} <= {word["text"] for word in heard}
    assert all(0 <= word["start_ms"] <= word["end_ms"] <= 4700 for word in heard)
    # Nothing but the job knows of it.
    now = server.get(f"{address}/words")
    assert [word["text"] for word in now["words"]] == [word["text"] for word in words]
    assert job["result"]["revision"] == now["revision"]
    assert " ".join(was for was, _ in job["result"]["compared"] if was).startswith("This is")
    for wrong in (
        {"to_ms": 0},
        {"to_ms": 3_000_000},
        {"model": "enormous"},
        {"language": "fi", "model": "tiny English"},
    ):
        refused = server.http.post(f"{address}/transcript/hear", json={**asked, **wrong})
        assert refused.status_code == 422, wrong


def test_the_sound_that_is_chosen_is_recognised(server: Server, films) -> None:
    project = server.upload(films["two-sounds"])
    address = f"/api/projects/{project['id']}"
    film = f"/api/films/{project['film']['id']}"
    sounds = server.get(f"{film}/sounds")
    assert [(sound["language"], sound["title"]) for sound in sounds] == [
        ("fin", None),
        (None, "Rumble"),
    ]
    passage = server.http.get(
        f"{film}/sound", params={"from_ms": 1000, "duration_ms": 2000, "stream": 1}
    )
    assert passage.headers["content-type"] == "audio/wav"
    with wave.open(io.BytesIO(passage.content)) as sound:
        assert (sound.getframerate(), sound.getnchannels(), sound.getnframes()) == (
            16_000,
            1,
            32_000,
        )
    assert server.http.get(f"{film}/sound", params={"stream": 2}).status_code == 404
    asked = {"engine": "whisper", "language": "en", "quick": True, "stream": 1, "voice_focus": True}
    assert server.http.post(f"{address}/recognise", json={**asked, "stream": 2}).status_code == 422
    server.post(f"{address}/recognise", json=asked)
    job = server.wait_for_job(project["id"], "recognise", "done", "failed")
    assert job["state"] == "done", job["error"]
    heard = {word["text"].strip(".,").lower() for word in server.get(f"{address}/words")["words"]}
    assert {"last", "day"} <= heard
    # What heard it is known from now on to be so fast here.
    (model,) = [
        model
        for engine in server.get("/api/engines")
        for model in engine["models"]
        if (engine["name"], model["name"]) == ("whisper", job["result"]["model"])
    ]
    assert model["speed"] == job["result"]["speed"] > 0
    assert 0 < model["words_wrong"] < 20


def test_the_language_is_told_and_what_is_said_is_written_down_in_english_beside_it(
    server: Server, tmp_path: Path
) -> None:
    sound = tmp_path / "campana.wav"
    text = (
        "Hoy vamos a hablar de la campana de niebla que cuelga en el puerto desde hace cien años."
        " Los pescadores la escuchan cada mañana cuando salen al mar."
    )
    subprocess.run(["espeak-ng", "-v", "es", "-s", "140", "-w", str(sound), text], check=True)
    project = server.upload(sound)
    address = f"/api/projects/{project['id']}"
    asked = {"engine": "whisper", "language": "auto", "quick": True}
    for wrong in ({"engine": "pocketsphinx"}, {"model": "tiny English"}):
        refused = server.http.post(f"{address}/recognise", json=asked | wrong)
        assert (refused.status_code, refused.json()["code"]) == (422, "engines.one-language-only")
    server.post(f"{address}/recognise", json=asked)
    job = server.wait_for_job(project["id"], "recognise", "done", "failed")
    assert job["result"]["language"] == "es", job
    assert job["result"]["sure"] > 0.5
    now = server.get(address)
    assert now["tracks"][0]["language"] == "es"
    words = server.get(f"{address}/words")["words"]
    server.post(f"{address}/recognise", json=asked | {"language": "es", "as_english": True})
    draft = wait_for(
        lambda: next((t for t in server.get(address)["tracks"] if t["language"] == "en"), None),
        "the draft in English",
    )
    captions = server.get(f"/api/tracks/{draft['id']}")["captions"]
    said = " ".join(span["text"] for c in captions for span in c["spans"]).lower()
    assert {"today", "fishermen", "sea", "bell", "port"} & set(said.replace(".", "").split())
    # A frame that is begun when the film ends is shown.
    assert captions[-1]["out_ms"] <= now["film"]["duration_ms"] + 40
    # What was said stays as it was heard.
    assert server.get(f"{address}/words")["words"] == words
