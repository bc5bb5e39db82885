"""Dunlin's own JSON: everything a track holds, and nothing lost."""

from typing import Annotated, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from dunlin.core.captions.bounds import Text
from dunlin.core.captions.look import Look, StyleName
from dunlin.core.captions.model import Caption, Extras
from dunlin.core.formats.model import (
    Context,
    Document,
    Feature,
    FormatError,
    Holds,
    Oddity,
)
from dunlin.core.messages import message
from dunlin.core.styles.file import MOST_STYLES

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "json", "Dunlin JSON", (".json",)
HOLDS = Holds(frozenset(get_args(Feature)))


class _File(BaseModel):
    model_config = ConfigDict(extra="forbid")

    dunlin: Literal["captions"]
    version: Literal[1]
    language: str | None = None
    captions: tuple[Caption, ...]
    extras: Extras = ()
    styles: Annotated[dict[StyleName, Look], Field(max_length=MOST_STYLES)] = {}
    style: str | None = None
    speakers: Annotated[dict[Text, StyleName], Field(max_length=MOST_STYLES)] = {}


_ADAPTER = TypeAdapter(_File)


def recognises(data: bytes, text: str) -> bool:
    return text.lstrip().startswith("{") and '"dunlin"' in text[:500]


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """:raises FormatError: naming the place that is not as it should be"""
    if not data.strip():
        raise FormatError(message("files.empty"), 1)
    try:
        file = _ADAPTER.validate_json(data)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "file"
        raise FormatError(message("formats.json-wrong", place=place, reason=first["msg"])) from None
    ids = [caption.id for caption in file.captions]
    if len(set(ids)) != len(ids):
        raise FormatError(message("formats.json-same-id"))
    for caption in file.captions:
        if caption.in_ms < 0 or caption.out_ms <= caption.in_ms:
            raise FormatError(message("formats.json-ends-first", caption=caption.id))
    style = file.style if file.style in file.styles else None
    speakers = {who: name for who, name in file.speakers.items() if name in file.styles}
    return Document(file.captions, file.language, file.extras, file.styles, style, speakers), []


def write(document: Document, context: Context) -> bytes:
    file = _File(
        dunlin="captions",
        version=1,
        language=document.language,
        captions=document.captions,
        extras=document.extras,
        styles=dict(document.styles),
        style=document.style,
        speakers=dict(document.speakers),
    )
    return _ADAPTER.dump_json(file, indent=1, exclude_defaults=True) + b"\n"
