"""A source and its translation, as tests of translating begin with."""

from collections.abc import Callable

from fastapi.testclient import TestClient

__all__ = ["OTHER", "SAID", "Translation", "spoken_project"]

OTHER = {"Dunlin-Person": "other", "Dunlin-Window": "other"}
SAID = ["I had one drawing.", "It weighs 412 kilos.", "Hang it high."]


class Translation:
    """A source and its translation, by the requests of a page."""

    def __init__(self, client: TestClient, project: dict, **beginning) -> None:
        self.client, self.project = client, project
        self.source = project["tracks"][0]["id"]
        body = {"source": self.source, "language": "de"} | beginning
        made = client.post(f"/api/projects/{project['id']}/translations", json=body)
        assert made.status_code == 201, made.text
        self.track = made.json()["id"]

    def captions(self, track: str | None = None) -> list[dict]:
        return self.client.get(f"/api/tracks/{track or self.track}").json()["captions"]

    def read(self, since: int | None = None) -> dict:
        asked = {} if since is None else {"since": since}
        return self.client.get(f"/api/tracks/{self.track}/translation", params=asked).json()

    def edit(self, track: str, operation: dict, gesture: str = "e", **more):
        body = {"base_revision": 10_000, "gesture": gesture, "operation": operation}
        return self.client.post(f"/api/tracks/{track}/edits", json=body, **more)

    def write(self, number: int, text: str):
        change = {"caption": self.captions()[number]["id"], "text": text}
        return self.edit(
            self.track, {"kind": "change-captions", "changes": [change]}, f"w{number}{text}"
        )

    def progress(self, progress: dict, base: int | None = None, **more):
        base = self.read()["revision"] if base is None else base
        body = {"base_revision": base, "gesture": "p", "progress": progress}
        return self.client.put(f"/api/tracks/{self.track}/translation/progress", json=body, **more)

    def undo(self, *targets: str):
        address = f"/api/projects/{self.project['id']}/undo"
        return self.client.post(address, json={"targets": list(targets)})


def spoken_project(client: TestClient, new_project: Callable[..., dict]) -> dict:
    """A project whose first track says `SAID`."""
    made = new_project()
    captions = [
        {
            "id": f"s{n}",
            "in_ms": n * 2000,
            "out_ms": n * 2000 + 1800,
            "spans": [{"text": text}],
            "speaker": "Ilse Varga",
        }
        for n, text in enumerate(SAID)
    ]
    operation = {"kind": "insert-captions", "captions": captions}
    body = {"base_revision": 0, "gesture": "in", "operation": operation}
    assert client.post(f"/api/tracks/{made['tracks'][0]['id']}/edits", json=body).status_code == 200
    return made
