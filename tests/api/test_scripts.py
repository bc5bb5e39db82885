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
    params = {"name": "s.docx", "by": "paragraphs", "actor": "test", "gesture": "script"}
    data = docx_of("ILSE: Ring the bell.", "", "TOMAS: It is late.")
    made = client.post(address(project, "script"), content=data, params=params).json()
    assert texts(made) == ["Ring the bell.", "It is late.", "I am late."]
    assert [c["speaker"] for c in made["captions"]] == ["ILSE", "TOMAS", "EDDA"]
    client.post(address(project, "undo"), json={"actor": "test"})
    assert client.get(f"/api/tracks/{project['tracks'][0]['id']}").json()["captions"] == []


@pytest.mark.parametrize(
    ("data", "name"), [(b"", "s.txt"), (b"PK\x03\x04broken", "s.docx"), (b"\0\1\2" * 99, "s.txt")]
)
def test_what_is_no_script_changes_nothing(client, project, data: bytes, name: str) -> None:
    params = {"name": name, "actor": "test", "gesture": "script"}
    refused = client.post(address(project, "script"), content=data, params=params)
    assert refused.status_code == 422
    assert isinstance(refused.json()["detail"], str)
    assert client.get(f"/api/tracks/{project['tracks'][0]['id']}").json()["revision"] == 0
