"""A client's script: looked at, refused when it is none, taken in as captions."""

import pytest

from tests.unit.test_script_reading import SCRIPT, docx_of


@pytest.fixture
def project(new_project) -> dict:
    return new_project()


def address(project, what: str) -> str:
    return f"/api/tracks/{project['tracks'][0]['id']}/{what}"


def texts(answer: dict) -> list[str]:
    return ["".join(span["text"] for span in c["spans"]) for c in answer["captions"]]


def test_it_is_looked_at_before_it_is_taken_in(client, project) -> None:
    seen = client.post(
        address(project, "script/preview"), content=SCRIPT.encode(), params={"name": "s.txt"}
    ).json()
    assert (seen["caption_count"], seen["description_count"]) == (8, 4)
    assert seen["speakers"][0] == {"name": "ILSE", "count": 2}
    assert client.get(f"/api/tracks/{project['tracks'][0]['id']}").json()["captions"] == []


def test_it_comes_in_as_one_edit(client, project) -> None:
    params = {"name": "s.docx", "by": "paragraphs", "gesture": "script"}
    data = docx_of("ILSE: Ring the bell.", "", "TOMAS: It is late.")
    made = client.post(address(project, "script"), content=data, params=params).json()
    assert texts(made) == ["Ring the bell.", "It is late.", "I am late."]
    assert [c["speaker"] for c in made["captions"]] == ["ILSE", "TOMAS", "EDDA"]
    undone = {"targets": [address(project, "captions").removeprefix("/api/")]}
    assert client.post(f"/api/projects/{project['id']}/undo", json=undone).status_code == 200
    assert client.get(f"/api/tracks/{project['tracks'][0]['id']}").json()["captions"] == []


@pytest.mark.parametrize(
    ("data", "name"), [(b"", "s.txt"), (b"PK\x03\x04broken", "s.docx"), (b"\0\1\2" * 99, "s.txt")]
)
def test_what_is_no_script_changes_nothing(client, project, data: bytes, name: str) -> None:
    params = {"name": name, "gesture": "script"}
    refused = client.post(address(project, "script"), content=data, params=params)
    assert refused.status_code == 422
    assert isinstance(refused.json()["detail"], str)
    assert client.get(f"/api/tracks/{project['tracks'][0]['id']}").json()["revision"] == 0


def preview(client, project, text: str) -> dict:
    answer = client.post(
        address(project, "script/preview"), content=text.encode(), params={"name": "s.txt"}
    )
    return answer.json()


def test_a_script_in_another_language_or_of_another_length_is_told(client, project) -> None:
    german = "ILSE: Wenn der Nebel kommt, sieht man hier draußen gar nichts mehr, und wir warten."
    seen = preview(client, project, german)
    assert seen["language"] == "de"
    track = project["tracks"][0]["id"]
    client.patch(f"/api/tracks/{track}", json={"language": "de-CH"})
    assert preview(client, project, german)["language"] is None
    # [Waves] and who speaks are not said.
    assert (
        preview(client, project, "[waves and wind]\nILSE: " + "ring " * 300)["spoken_ms"] == 99_933
    )


def test_a_library_is_no_script(client, project) -> None:
    refused = client.post(
        address(project, "script/preview"), content=b"word " * 1_000_000, params={"name": "s.txt"}
    )
    assert refused.status_code == 422
    assert "5 million characters" in refused.json()["detail"]
    assert "92 hours" in refused.json()["detail"]
