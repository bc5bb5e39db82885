"""Emoji as they are drawn over the film, for the texts beside it."""

import re
from typing import Annotated

from fastapi import Path, Query, Response

from dunlin.api.subjects import subject_router
from dunlin.api.wire import Language, Refusal, View
from dunlin.core.messages import message
from dunlin.core.short.emoji import emoji_named
from dunlin.core.styles.shelf import EMOJI_UNITS, Layer, emoji_called, emoji_layers

__all__ = ["router"]

router = subject_router("emoji", 404)

_CURVE = re.compile(r"[mlb]")
_SVG_WORDS = {"m": "M", "l": "L", "b": "C"}


@router.get("/emoji/{name}", response_class=Response)
def emoji_picture(
    name: Annotated[str, Path(pattern=r"^[0-9a-f]{4,6}(-[0-9a-f]{4,6}){0,12}$")],
) -> Response:
    """An emoji as SVG, named by its code points in hexadecimal digits with hyphens between them."""
    drawing = emoji_called(name)
    if drawing is None:
        raise Refusal(404, message("emoji.none", name=name))
    side = EMOJI_UNITS
    paths = "".join(map(_path, emoji_layers(drawing)))
    return Response(
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {side} {side}">{paths}</svg>',
        media_type="image/svg+xml",
        headers={"Cache-Control": "max-age=31536000, immutable"},
    )


class EmojiView(View):
    """An emoji, and what it is called."""

    emoji: str
    name: str


@router.get("/emoji")
def find_emoji(
    text: Annotated[str, Query(max_length=100)] = "", language: Language = "en"
) -> list[EmojiView]:
    """Emoji by what they are called in a language, or by words that go with them; without a text the usual ones."""
    return [EmojiView(emoji=emoji, name=name) for emoji, name in emoji_named(text, language)]


def _path(layer: Layer) -> str:
    """A layer as a path of SVG, whose words are others for the same things."""
    d = _CURVE.sub(lambda word: _SVG_WORDS[word[0]], layer.path)
    return f'<path fill="{layer.colour}" fill-opacity="{layer.opacity:g}" d="{d}"/>'
