"""Outlines that are filled in an SVG file, as one path that a shape can have."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from math import radians
from typing import Any, cast

from fontTools.misc.transform import Identity, Transform
from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.pens.transformPen import TransformPen
from fontTools.svgLib.path import parse_path
from fontTools.svgLib.path.shapes import PathBuilder
from lxml import etree

from dunlin.core.captions.bounds import MOST_PATH_CHARACTERS
from dunlin.core.messages import BadInput, message

__all__ = ["MOST_BYTES", "Outline", "outline_of_svg"]

MOST_BYTES = 2**20

# What stands in these is drawn by others, or not at all (SVG 2, 5.1 and 14).
_NOT_DRAWN = {"defs", "clipPath", "mask", "marker", "pattern", "symbol", "metadata", "style", "script"}  # fmt: skip
_TRANSFORM = re.compile(r"(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")


@dataclass(frozen=True)
class Outline:
    """An outline in parts of the box around it."""

    path: str
    ratio: float
    """Of the box: its width as a part of its height."""


def outline_of_svg(data: bytes) -> Outline:
    """All filled outlines of a file, moved and stretched to a box from 0 to 1.

    Outlines are those of SVG 2, 9 and 10, with the transforms of all that they stand in. Text, pictures, strokes and what
    is elsewhere is left out; nothing in the file is run or fetched.

    :raises BadInput: when it is no SVG, has no outline or more than a shape can have
    """
    root = _parsed(data)
    pen = DecomposingRecordingPen({})
    for element, transform in _drawn(root, Identity):
        _draw(element, TransformPen(pen, transform))
    pieces = [
        (_LETTERS[word], cast("tuple[tuple[float, float], ...]", points))
        for word, points in pen.value
        if word in _LETTERS
    ]
    xs = [x for _, points in pieces for x, _ in points]
    ys = [y for _, points in pieces for _, y in points]
    if not xs or max(xs) - min(xs) < 1e-9 or max(ys) - min(ys) < 1e-9:
        raise BadInput(message("styles.svg-empty"))
    left, top, width, height = min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys)
    words = [
        letter
        + " ".join(f"{_short((x - left) / width)} {_short((y - top) / height)}" for x, y in points)
        for letter, points in pieces
    ]
    path = " ".join(words)
    if len(path) > MOST_PATH_CHARACTERS:
        raise BadInput(message("styles.svg-too-many", count=len(pieces)))
    return Outline(path, width / height)


_LETTERS = {"moveTo": "M", "lineTo": "L", "curveTo": "C", "qCurveTo": "Q", "closePath": "Z"}


def _short(number: float) -> str:
    return f"{min(max(number, 0), 1):.4f}".rstrip("0").rstrip(".")


def _parsed(data: bytes) -> Any:
    if len(data) > MOST_BYTES:
        raise BadInput(message("styles.svg-too-large", megabytes=MOST_BYTES // 2**20))
    parser = etree.XMLParser(
        resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False,
        remove_comments=True, remove_pis=True,
    )  # fmt: skip
    try:
        root: Any = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError):
        raise BadInput(message("styles.no-svg")) from None
    if _name(root) != "svg":
        raise BadInput(message("styles.no-svg"))
    return root


def _name(element: Any) -> str:
    return str(etree.QName(element).localname) if isinstance(element.tag, str) else ""


def _drawn(element: Any, around: Transform) -> Iterator[tuple[Any, Transform]]:
    """Elements that have an outline, in the file's order, and how each is moved and stretched."""
    waiting = [(element, around)]
    while waiting:
        one, outer = waiting.pop()
        # Entities stand in the tree as they are written, and are nobody's outline.
        if (
            not _name(one)
            or _name(one) in _NOT_DRAWN
            or one.get("display") == "none"
            or one.get("fill") == "none"
        ):
            continue
        inner = outer.transform(_transform(one.get("transform", "")))
        yield one, inner
        waiting += [(child, inner) for child in reversed(one)]


def _transform(text: str) -> Transform:
    """A list of transforms (CSS Transforms 1, 8), the first of them outermost."""
    whole: Transform = Identity
    for name, values in _TRANSFORM.findall(text):
        numbers = [float(number) for number in _NUMBER.findall(values)]
        if name == "matrix" and len(numbers) == 6:
            whole = whole.transform(tuple(numbers))
        elif name == "translate" and numbers:
            whole = whole.translate(numbers[0], numbers[1] if len(numbers) > 1 else 0)
        elif name == "scale" and numbers:
            whole = whole.scale(numbers[0], numbers[1] if len(numbers) > 1 else numbers[0])
        elif name == "rotate" and numbers:
            x, y = numbers[1:3] if len(numbers) == 3 else (0, 0)
            whole = whole.translate(x, y).rotate(radians(numbers[0])).translate(-x, -y)
        elif name.startswith("skew") and numbers:
            angle = radians(numbers[0])
            whole = whole.skew(angle if name == "skewX" else 0, angle if name == "skewY" else 0)
    return whole


def _draw(element: Any, pen: TransformPen) -> None:
    """The outline of an element alone, where it has one."""
    bare = etree.Element(_name(element) or "g", {k: v for k, v in element.attrib.items() if k != "transform"})  # fmt: skip
    builder = PathBuilder()
    try:
        builder.add_path_from_element(bare)
        for path in builder.paths:
            parse_path(path, pen)
    except (ValueError, IndexError, KeyError, TypeError, OverflowError):
        # As browsers do: an outline ends where it is not to be understood (SVG 2, 9.5.4).
        return
