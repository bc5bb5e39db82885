"""The looks that ship, and looks as files."""

from collections.abc import Mapping
from functools import cache
from importlib import resources
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from dunlin.core.captions.look import stored_look
from dunlin.core.messages import BadInput, message
from dunlin.core.short.model import ShortLook

__all__ = ["FIRST", "look_of_plain", "plain_look", "read_look", "shipped_looks", "write_look"]

_SHIPPED = (
    "tide-coming-in", "torn-strip", "ferry", "pencil", "ships-log", "foghorn", "swell", "dye",
    "harbour-wall", "waterline", "lantern",
)  # fmt: skip
FIRST = _SHIPPED[0]
"""The look that upright films begin with where nobody chose another."""


class _File(BaseModel):
    model_config = ConfigDict(extra="forbid")

    dunlin: Literal["look"]
    version: int
    look: ShortLook


class _Version(BaseModel):
    dunlin: Literal["look"]
    version: int


_FILE, _ANY, _LOOK = TypeAdapter(_File), TypeAdapter(_Version), TypeAdapter(ShortLook)


def read_look(data: bytes) -> ShortLook:
    """A look as a file has it.

    :raises BadInput: when it is none, is of a newer version, or has a part that is not known, naming which
    """
    try:
        if _ANY.validate_json(data).version != 1:
            raise BadInput(message("looks.newer"))
        return _FILE.validate_json(data).look
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "file"
        raise BadInput(message("looks.file-wrong", place=place, reason=first["msg"])) from None


def write_look(look: ShortLook) -> bytes:
    """The file, as UTF-8."""
    file = {"dunlin": "look", "version": 1, "look": plain_look(look)}
    return TypeAdapter(dict).dump_json(file, indent=1) + b"\n"


def plain_look(look: ShortLook) -> dict[str, Any]:
    """A look in numbers, strings, lists and objects alone, as JSON has them."""
    said: dict[str, Any] = _LOOK.dump_python(look, mode="json", exclude={"style"})
    return said | {"style": stored_look(look.style)}


def look_of_plain(said: Mapping[str, Any]) -> ShortLook:
    """A look of what `plain_look` gave."""
    return _LOOK.validate_python(said)


@cache
def shipped_looks() -> dict[str, ShortLook]:
    """The looks that ship, by their ids, in the order in which they are shown."""
    folder = resources.files("dunlin.core.short") / "shipped"
    return {id_: read_look((folder / f"{id_}.json").read_bytes()) for id_ in _SHIPPED}
