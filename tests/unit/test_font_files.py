"""Font files that a user adds: every kind is read, and nothing broken or hostile gets through."""

from collections.abc import Callable, Mapping
from functools import partial
from io import BytesIO
from pathlib import Path

import pytest
from fontTools.ttLib import TTFont
from fontTools.ttLib.tables.DefaultTable import DefaultTable
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.messages import BadInput
from dunlin.core.styles import Script, Style
from dunlin.core.styles.font_files import MOST_BYTES, Face, faces_of_file
from dunlin.core.styles.measuring import text_width
from dunlin.core.styles.shelf import (
    LATIN,
    families_of,
    families_to_choose,
    family_files,
    font_file,
    is_there,
    runs_of,
    take_added,
)
from tests.faces import FAMILY, collection, cut, varying, wide

pytestmark = pytest.mark.usefixtures("shelf")


def put(folder: Path, *faces: Face) -> None:
    files: dict[str, dict[str, Path]] = {}
    for n, face in enumerate(faces):
        path = folder / f"{n}{face.suffix}"
        path.write_bytes(face.data)
        files.setdefault(face.family, {})[face.name] = path
    take_added(files)


@pytest.mark.parametrize(
    ("made", "suffix"),
    [
        (cut, ".ttf"),
        (partial(cut, flavour="woff"), ".ttf"),
        (partial(cut, flavour="woff2"), ".ttf"),
        (wide, ".otf"),
    ],
)
def test_each_kind_of_file_is_read(made: Callable[[], bytes], suffix: str) -> None:
    (face,) = faces_of_file(made())
    assert (face.family, face.name, face.suffix) == (FAMILY, "400", suffix)
    font = TTFont(BytesIO(face.data))
    assert font.flavor is None
    assert font["name"].getDebugName(1) == FAMILY
    assert ord("A") in font.getBestCmap()


def test_a_collection_has_all_its_faces() -> None:
    data = collection(cut(), cut(face="BoldItalic"), cut("Kvillen Slim"))
    faces = [(face.family, face.name) for face in faces_of_file(data)]
    assert faces == [(FAMILY, "400"), (FAMILY, "700 italic"), ("Kvillen Slim", "400")]


def test_one_that_varies_is_there_in_two_weights() -> None:
    regular, bold = faces_of_file(varying())
    assert [regular.name, bold.name] == ["400", "700"]
    widths = [TTFont(BytesIO(face.data))["glyf"]["A"].xMax for face in (regular, bold)]
    assert widths == [500, 800]
    assert "fvar" not in TTFont(BytesIO(bold.data))


def test_what_is_no_letter_does_not_go_on() -> None:
    font = TTFont(BytesIO(cut()))
    for tag, held in (
        ("SVG ", b"\0" * 10 + b"<svg onload='x()'/>"),
        ("DSIG", b"\0\0\0\1" + bytes(4)),
    ):
        font.tables[tag] = DefaultTable(tag)
        font.tables[tag].data = held
    output = BytesIO()
    font.save(output)
    (face,) = faces_of_file(output.getvalue())
    assert {"SVG ", "DSIG"}.isdisjoint(TTFont(BytesIO(face.data)).keys())


def test_names_are_such_as_a_script_can_have() -> None:
    (face,) = faces_of_file(cut("Kvillen, {\\b1}  @Board\n"))
    assert face.family == "Kvillen b1 Board"


def without_outlines() -> bytes:
    font = TTFont(BytesIO(wide()))
    del font["CFF "]
    output = BytesIO()
    font.save(output)
    return output.getvalue()


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "fonts.not-a-font"),
        (b"<svg/>", "fonts.not-a-font"),
        (b"OTTO" + bytes(60), "fonts.broken"),
        (without_outlines(), "fonts.no-letters"),
        (b"ttcf" + b"\xff" * 60, "fonts.broken"),
        (cut()[:4000], "fonts.broken"),
        (b"\0\1\0\0" + bytes(MOST_BYTES), "fonts.too-large"),
        (cut(" , "), "fonts.no-name"),
    ],
)
def test_what_is_no_font_is_told(data: bytes, code: str) -> None:
    with pytest.raises(BadInput) as told:
        faces_of_file(data)
    assert told.value.message.code == code


@given(
    st.lists(st.tuples(st.integers(0, 5000), st.integers(0, 255)), min_size=1, max_size=20),
    st.sampled_from([cut(letters="AB"), wide(), cut(letters="AB", flavour="woff2")]),
)
def test_whatever_is_broken_is_refused_or_read(changes: list[tuple[int, int]], font: bytes) -> None:
    broken = bytearray(font)
    for at, byte in changes:
        broken[at % len(broken)] = byte
    try:
        faces = faces_of_file(bytes(broken))
    except BadInput:
        return
    assert all(face.family and face.data for face in faces)


def test_a_family_that_was_added_is_chosen_measured_and_filled_up(tmp_path: Path) -> None:
    assert not is_there(FAMILY)
    before = text_width("AB", Style("a", "a", font=FAMILY), Script(1000, 1000))
    put(tmp_path, *faces_of_file(wide()))
    family = next(family for family in families_to_choose() if family.kind == "own")
    assert family.name == FAMILY
    style = Style("a", "a", font=FAMILY, size=0.1)
    # Squares as wide as the line is high.
    assert text_width("AB", style, Script(1000, 1000)) == pytest.approx(200)
    assert before != pytest.approx(200)
    assert families_of("ABC", "en", FAMILY) == [FAMILY, LATIN]
    assert [run.family for run in runs_of("AC", "en", FAMILY)] == [FAMILY, LATIN]
    take_added({})
    assert [run.family for run in runs_of("AC", "en", FAMILY)] == [LATIN]


def test_the_same_family_from_another_file_is_measured_anew(tmp_path: Path) -> None:
    style, picture = Style("a", "a", font=FAMILY, size=0.1), Script(1000, 1000)
    put(tmp_path, *faces_of_file(wide()))
    first = text_width("A", style, picture)
    other = tmp_path / "other"
    other.mkdir()
    put(other, *faces_of_file(cut()))
    assert text_width("A", style, picture) < first / 1.2
    assert runs_of("C", "en", FAMILY)[0].family == FAMILY


def test_no_family_that_ships_is_replaced(tmp_path: Path) -> None:
    shipped = family_files("Lora")
    take_added({"Lora": {"400": tmp_path / "a.ttf"}, "noto sans": {"400": tmp_path / "b.ttf"}})
    assert family_files("Lora") == shipped
    assert not is_there("noto sans")


@pytest.mark.parametrize(
    ("wanted", "found"),
    [
        ((400, False), "400"),
        ((700, False), "600"),
        ((400, True), "300 italic"),
        ((900, True), "600"),
    ],
)
def test_of_the_faces_of_a_family_the_nearest_is_taken(
    tmp_path: Path, wanted: tuple[int, bool], found: str
) -> None:
    faces: Mapping[str, Path] = {
        name: tmp_path / f"{name}.ttf" for name in ("300", "400", "600", "300 italic")
    }
    for path in faces.values():
        path.write_bytes(b"x")
    take_added({FAMILY: faces})
    assert font_file(FAMILY, wanted[0], italic=wanted[1]).stem == found
