"""Which part of a film's picture a version keeps."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.messages import BadInput
from dunlin.core.styles import Script
from dunlin.core.versions.model import Version, WindowMoment
from dunlin.core.versions.window import (
    needs_shape,
    picture_of,
    place_at,
    version_called,
    ways_across,
    window_size,
)

FILMS = st.builds(Script, st.integers(16, 4096), st.integers(16, 4096))
SHAPES = st.sampled_from(["9:16", "1:1", "4:5", "16:9", "4:1", "1:4"])
PARTS = st.floats(0, 1)


@st.composite
def moments(draw: st.DrawFn) -> tuple[WindowMoment, ...]:
    times = sorted(draw(st.sets(st.integers(0, 100_000), max_size=8)))
    ways = st.sampled_from(["cut", "glide"])
    return tuple(WindowMoment(at, draw(PARTS), draw(PARTS), draw(ways)) for at in times)


@given(film=FILMS, shape=SHAPES, whole=st.booleans())
def test_a_window_lies_in_the_film_and_is_even_and_of_its_shape(
    film: Script, shape: str, whole: bool
) -> None:
    version = Version("one", shape, whole)
    kept = window_size(version, film)
    assert 2 <= kept.width <= film.width
    assert 2 <= kept.height <= film.height
    picture = picture_of(version, film)
    assert not any(side % 2 for side in (kept.width, kept.height, picture.width, picture.height))
    across, down = map(int, shape.split(":"))
    if min(picture.width, picture.height) > 200:
        assert picture.width / picture.height == pytest.approx(across / down, rel=0.03)


@given(moments=moments(), at_ms=st.integers(0, 100_000))
def test_a_window_never_goes_beyond_the_moments_it_is_between(
    moments: tuple[WindowMoment, ...], at_ms: int
) -> None:
    x, y = place_at(moments, at_ms)
    before = [m for m in moments if m.at_ms <= at_ms][-1:] or list(moments[:1])
    after = [m for m in moments if m.at_ms > at_ms and before][:1]
    near = before + [m for m in after if m.comes == "glide"]
    if not near:
        assert (x, y) == (0.5, 0.5)
        return
    assert min(m.x for m in near) - 1e-9 <= x <= max(m.x for m in near) + 1e-9
    assert min(m.y for m in near) - 1e-9 <= y <= max(m.y for m in near) + 1e-9


@given(moments=moments(), at_ms=st.integers(0, 100_000))
def test_its_pieces_say_the_same_as_its_moments(
    moments: tuple[WindowMoment, ...], at_ms: int
) -> None:
    place = place_at(moments, at_ms)
    for down in (False, True):
        ways = ways_across(moments, down)
        way = next((way for way in reversed(ways) if way.from_ms <= at_ms), ways[0])
        value = way.value
        if way.to_ms is not None and at_ms >= way.from_ms:
            part = (at_ms - way.from_ms) / (way.to_ms - way.from_ms)
            value += (way.to - way.value) * part * part * (3 - 2 * part)
        assert value == pytest.approx(place[down], abs=1e-9)


def test_a_window_is_called_by_its_shape_and_place() -> None:
    assert version_called("9:16@0.25").moments == (WindowMoment(0, 0.25),)
    for text in ("9:0", "9:16@2", "1:9", "upright", "9:16@", ""):
        with pytest.raises(BadInput):
            version_called(text)
    with pytest.raises(BadInput):
        needs_shape(Version("one", "1:9"))


@pytest.mark.parametrize(
    ("shape", "whole", "picture"),
    [
        (None, False, Script(1280, 720)),
        ("9:16", False, Script(404, 720)),
        ("9:16", True, Script(720, 1280)),
        ("1:1", True, Script(1280, 1280)),
        ("4:5", False, Script(576, 720)),
    ],
)
def test_pictures_of_a_film(shape: str | None, whole: bool, picture: Script) -> None:
    assert picture_of(Version("one", shape, whole), Script(1280, 720)) == picture
