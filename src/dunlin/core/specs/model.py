"""A delivery spec, and its JSON form."""

import json
from dataclasses import MISSING, asdict, dataclass, fields
from typing import Any

__all__ = ["Spec", "SpecError", "read_spec", "write_spec"]


class SpecError(ValueError):
    """A file is no delivery spec; the message says what is wrong."""


@dataclass(frozen=True)
class Spec:
    """A named set of limits that captions are delivered within."""

    id: str
    name: str
    characters_per_line: int
    """Greatest grapheme clusters in a line."""
    lines: int
    """Greatest number of lines."""
    reading_speed: float
    """Greatest characters a second, spaces and punctuation counted, line breaks not."""
    least_duration_ms: int
    greatest_duration_ms: int
    least_gap_frames: int = 0
    """Least number of frames without a caption between two captions."""
    overlap_allowed: bool = False

    def __post_init__(self) -> None:
        positive = ("characters_per_line", "lines", "reading_speed", "greatest_duration_ms")
        for name in positive:
            if getattr(self, name) <= 0:
                raise SpecError(f"{name} is above zero, not {getattr(self, name)}")
        if not 0 <= self.least_duration_ms <= self.greatest_duration_ms:
            raise SpecError("least_duration_ms is from zero to greatest_duration_ms")
        if self.least_gap_frames < 0:
            raise SpecError("least_gap_frames is not below zero")


_JSON_TYPES: dict[type, tuple[type, ...]] = {
    str: (str,),
    int: (int,),
    float: (int, float),
    bool: (bool,),
}


def read_spec(text: str) -> Spec:
    """Reads a spec's JSON.

    :raises SpecError: naming the limit that is missing, unknown or of the wrong kind
    """
    try:
        data: Any = json.loads(text)
    except ValueError as error:
        raise SpecError(f"not JSON: {error}") from None
    if not isinstance(data, dict):
        raise SpecError("a delivery spec is a JSON object")
    known = {field.name: field for field in fields(Spec)}
    if unknown := sorted(data.keys() - known.keys()):
        raise SpecError(f"there is no limit called {unknown[0]!r}")
    for name, field in known.items():
        if name not in data:
            if field.default is MISSING:
                raise SpecError(f"{name} is missing")
            continue
        wanted = _JSON_TYPES[field.type]  # type: ignore[index]
        value = data[name]
        if not isinstance(value, wanted) or (isinstance(value, bool) and field.type is not bool):
            raise SpecError(f"{name} is no {field.type.__name__}: {value!r}")  # type: ignore[union-attr]
    return Spec(**data)


def write_spec(spec: Spec) -> str:
    """A spec as JSON that `read_spec` reads back."""
    return json.dumps(asdict(spec), indent=2, ensure_ascii=False) + "\n"
