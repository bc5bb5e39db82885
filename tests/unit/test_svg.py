"""Outlines read from SVG files, whatever these hold."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from dunlin.core.captions.bounds import PathData
from dunlin.core.messages import BadInput
from dunlin.core.styles.svg import MOST_BYTES, outline_of_svg

PATH = TypeAdapter(PathData)


def svg(inside: str) -> bytes:
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">{inside}</svg>'.encode()


BOX = '<rect x="1" y="1" width="4" height="2"/>'


@pytest.mark.parametrize(
    ("inside", "path", "ratio"),
    [
        (BOX, "M0 0 L1 0 L1 1 L0 1 L0 0 Z", 2),
        (f'<g transform="rotate(90 3 2)">{BOX}</g>', "M1 0 L1 1 L0 1 L0 0 L1 0 Z", 0.5),
        (f'<g transform="scale(3 1)"><g transform="translate(5)">{BOX}</g></g>', "M0 0 L1 0 L1 1 L0 1 L0 0 Z", 6),
        ('<polygon points="0,0 4,0 0,8"/>', "M0 0 L1 0 L0 1 L0 0 Z", 0.5),
        ('<path d="m0 0h4v4h-4z"/><path fill="none" d="M0 0H90V90z"/>', "M0 0 L1 0 L1 1 L0 1 L0 0 Z", 1),
        (f'<defs><circle r="50"/></defs><script>alert(1)</script>{BOX}', "M0 0 L1 0 L1 1 L0 1 L0 0 Z", 2),
    ],
)  # fmt: skip
def test_outlines_fill_a_box_with_all_transforms_done(inside: str, path: str, ratio: float) -> None:
    found = outline_of_svg(svg(inside))
    assert found.path == path
    assert found.ratio == pytest.approx(ratio)


@given(st.text(alphabet="MmLlHhVvCcSsQqTtAaZz0123456789.,- e", max_size=60))
def test_any_path_gives_an_outline_that_a_shape_can_have_or_is_refused(data: str) -> None:
    try:
        found = outline_of_svg(svg(f'<path d="{data}"/>'))
    except BadInput:
        return
    PATH.validate_python(found.path)


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "styles.no-svg"),
        (b"<html/>", "styles.no-svg"),
        (svg("<text>FOG</text>"), "styles.svg-empty"),
        (svg(f'<path d="M0 0 {"L1 2 L3 1 " * 5000}"/>'), "styles.svg-too-many"),
        (b" " * (MOST_BYTES + 1), "styles.svg-too-large"),
        (b'<!DOCTYPE svg [<!ENTITY a "<rect width=\'4\' height=\'4\'/>">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>', "styles.svg-empty"),
        (b'<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/hostname">]><svg>&a;</svg>', "styles.svg-empty"),
    ],
)  # fmt: skip
def test_what_is_no_outline_is_refused_in_words(data: bytes, code: str) -> None:
    with pytest.raises(BadInput) as refused:
        outline_of_svg(data)
    assert refused.value.message.code == code
