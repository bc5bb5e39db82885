"""Styles as a file, to be taken from one house to another."""

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from dunlin.core.captions.look import Look, StyleName, stored_look
from dunlin.core.messages import BadInput, message

__all__ = ["MOST_STYLES", "read_styles", "write_styles"]

MOST_STYLES = 1000


class _File(BaseModel):
    model_config = ConfigDict(extra="forbid")

    dunlin: Literal["styles"]
    version: Literal[1]
    styles: Annotated[dict[StyleName, Look], Field(min_length=1, max_length=MOST_STYLES)]


_ADAPTER = TypeAdapter(_File)


def read_styles(data: bytes) -> dict[str, Look]:
    """What styles say, by their names.

    :raises BadInput: naming the place that is not as it should be
    """
    try:
        return _ADAPTER.validate_json(data).styles
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "file"
        raise BadInput(message("styles.file-wrong", place=place, reason=first["msg"])) from None


def write_styles(styles: Mapping[str, Look]) -> bytes:
    """The file, as UTF-8."""
    said = {name: stored_look(look) for name, look in styles.items()}
    file = {"dunlin": "styles", "version": 1, "styles": said}
    return TypeAdapter(dict).dump_json(file, indent=1) + b"\n"
