"""The looks that ship, and looks as files."""

from functools import cache
from importlib import resources
from typing import Literal

from pydantic import BaseModel, ConfigDict, TypeAdapter, ValidationError

from dunlin.core.captions.look import stored_look
from dunlin.core.messages import BadInput, message
from dunlin.core.short.model import ShortLook

__all__ = ["FIRST", "read_look", "shipped_looks", "write_look"]

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


_FILE, _ANY = TypeAdapter(_File), TypeAdapter(_Version)


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
    said = {
        "name": look.name,
        "style": stored_look(look.style),
        "rhythm": look.rhythm,
        "weighing": look.weighing,
        "fit": look.fit,
    }
    file = {"dunlin": "look", "version": 1, "look": said}
    return TypeAdapter(dict).dump_json(file, indent=1) + b"\n"


@cache
def shipped_looks() -> dict[str, ShortLook]:
    """The looks that ship, by their ids, in the order in which they are shown."""
    folder = resources.files("dunlin.core.short") / "shipped"
    return {id_: read_look((folder / f"{id_}.json").read_bytes()) for id_ in _SHIPPED}
