"""Fonts that are added for all projects: over the API, for what draws, and after a restart."""

from collections.abc import Callable

import pytest
from fastapi.testclient import TestClient
from fontTools.ttLib import TTFont

from dunlin.api import create_app
from dunlin.core.styles.shelf import take_added
from dunlin.settings import Settings
from tests.api.test_tracks import Editor, caption
from tests.conftest import WINDOW
from tests.faces import FAMILY, collection, cut, wide

pytestmark = pytest.mark.usefixtures("shelf")


def add(client: TestClient, data: bytes):
    return client.post("/api/fonts", content=data)


def listed(client: TestClient) -> dict[str, dict]:
    return {font["name"]: font for font in client.get("/api/fonts").json()}


def test_a_font_is_added_served_as_what_it_is_and_removed(client: TestClient) -> None:
    answer = add(client, cut(flavour="woff2"))
    assert answer.status_code == 200, answer.text
    (font,) = answer.json()
    assert (font["name"], font["kind"], font["scripts"]) == (FAMILY, "own", ["Latin"])
    (address,) = font["files"]
    file = client.get(address)
    assert file.headers["content-type"] == "font/ttf"
    assert file.headers["x-content-type-options"] == "nosniff"
    assert file.content.startswith(b"\0\1\0\0")
    assert FAMILY in listed(client)
    assert client.delete(f"/api/fonts/{FAMILY}").status_code == 204
    assert FAMILY not in listed(client)
    assert client.delete(f"/api/fonts/{FAMILY}").json()["code"] == "fonts.unknown"


def test_faces_come_to_their_family_and_the_same_face_takes_its_place(client: TestClient) -> None:
    add(client, cut())
    add(client, collection(cut(face="Bold"), cut("kvillen board", letters="AB"), cut("Other")))
    fonts = listed(client)
    assert "kvillen board" not in fonts
    assert len(fonts[FAMILY]["files"]) == 2
    assert len(fonts["Other"]["files"]) == 1


def test_fonts_are_there_after_a_restart_and_in_another_process(
    client: TestClient, data_settings: Settings
) -> None:
    add(client, cut())
    take_added({})
    with TestClient(create_app(data_settings), headers=WINDOW) as again:
        assert FAMILY in listed(again)


def test_captions_are_drawn_in_a_font_as_soon_as_it_is_there(
    client: TestClient, new_project: Callable[..., dict]
) -> None:
    editor = Editor(client, new_project()["tracks"][0]["id"])
    editor.insert(caption("a", 0, 1000, "ABC") | {"look": {"font": FAMILY}})
    address = f"/api/tracks/{editor.track_id}/looks"

    def look() -> dict:
        (found,) = client.post(address, json={"captions": ["a"]}).json()["captions"]
        return found

    before = look()
    assert (before["font_missing"], before["drawn_in"]) == (True, ["Noto Sans"])
    add(client, wide())
    after = look()
    assert (after["font_missing"], after["drawn_in"]) == (False, [FAMILY, "Noto Sans"])
    assert after["frame"]["right"] > before["frame"]["right"]


@pytest.mark.parametrize(
    ("data", "code"), [(b"<html>", "fonts.not-a-font"), (cut("Noto Sans"), "fonts.ships")]
)
def test_what_cannot_be_added_is_told_and_leaves_nothing(
    client: TestClient, data_settings: Settings, data: bytes, code: str
) -> None:
    before = listed(client)
    refused = add(client, data)
    assert (refused.status_code, refused.json()["code"]) == (422, code)
    assert listed(client) == before
    assert not list(data_settings.fonts.glob("*"))


@pytest.mark.parametrize("name", ["../dunlin.db", "a.ttf", "0" * 64 + ".html", "0" * 64 + ".ttf"])
def test_nothing_else_is_served_for_a_font(client: TestClient, name: str) -> None:
    assert client.get(f"/api/fonts/files/{name}").status_code in (404, 422)


def test_a_file_that_is_gone_leaves_what_ships(client: TestClient, data_settings: Settings) -> None:
    add(client, cut())
    for file in data_settings.fonts.glob("*"):
        TTFont(file).close()
        file.unlink()
    with TestClient(create_app(data_settings), headers=WINDOW) as again:
        assert FAMILY not in listed(again)
