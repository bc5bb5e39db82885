"""People and the names they give themselves."""

from fastapi.testclient import TestClient

from dunlin.api.app import create_app
from dunlin.settings import Settings


def named(client: TestClient, person: str, name: str) -> int:
    headers = {"Dunlin-Person": person}
    return client.put("/api/people/me", json={"name": name}, headers=headers).status_code


def test_people_are_known_by_the_names_they_gave_themselves(
    client: TestClient, data_settings: Settings
) -> None:
    assert named(client, "p1", "  Ilse Ternholm ") == 204
    assert named(client, "p2", "Tobit") == 204
    assert named(client, "p2", "Tobit Aune") == 204
    expected = [{"id": "p1", "name": "Ilse Ternholm"}, {"id": "p2", "name": "Tobit Aune"}]
    assert client.get("/api/people").json() == expected
    with TestClient(create_app(data_settings)) as later:
        assert later.get("/api/people").json() == expected


def test_a_name_is_taken_away_by_an_empty_one_and_too_long_a_one_is_refused(
    client: TestClient,
) -> None:
    named(client, "p1", "Ilse")
    assert named(client, "p1", "x" * 61) == 422
    assert named(client, "p1", " ") == 204
    assert client.get("/api/people").json() == []


def test_the_name_does_not_stand_among_what_is_undone_of_specs(client: TestClient) -> None:
    named(client, "p1", "Ilse")
    answer = client.post(
        "/api/projects/house/undo", json={"targets": ["specs"]}, headers={"Dunlin-Person": "p1"}
    )
    assert answer.status_code == 204
    assert client.get("/api/people").json() == [{"id": "p1", "name": "Ilse"}]
