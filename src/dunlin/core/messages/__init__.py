"""What Dunlin has to say: a code with values. Its words come from the locale files beside this."""

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib import resources
from typing import Any, TypeAlias

__all__ = ["BadInput", "Message", "NotNow", "Told", "Value", "in_words", "message"]

Value: TypeAlias = "str | int | float | Message"


# Not frozen: findings are many, and a frozen one takes twice as long to make.
@dataclass(slots=True)
class Message:
    """Something to be told: a code such as `files.empty`, and the values its words have places for."""

    code: str
    values: dict[str, Any] = field(default_factory=dict)

    def __str__(self) -> str:
        return in_words(self)


def message(code: str, **values: object) -> Message:
    """A message; what is neither a number nor a message is told as text."""
    return Message(
        code, {n: value if type(value) in _PLAIN else _plain(value) for n, value in values.items()}
    )


# Findings are many, and nearly all their values are of these.
_PLAIN = frozenset((str, int, float))


def _plain(value: object) -> Value:
    if isinstance(value, Told):
        return value.message
    return value if isinstance(value, int | float | str | Message) else str(value)


def in_words(told: Message, locale: str = "en") -> str:
    """The words of a message.

    They have places such as `{name}`. Words for one and words for many are parted by ` | `, and the
    value `count` says which; the page reads the same files by the same grammar (vue-i18n's).

    :raises KeyError: when the locale has no such code
    """
    words = _words(locale)[told.code]
    one, parted, many = words.partition(" | ")
    if parted:
        words = one if told.values["count"] == 1 else many
    return re.sub(r"\{(\w+)\}", lambda match: _shown(told.values[match[1]], locale), words)


def _shown(value: Value, locale: str) -> str:
    if isinstance(value, Message):
        return in_words(value, locale)
    return f"{value:.10g}" if isinstance(value, float) else str(value)


@cache
def _words(locale: str) -> Mapping[str, str]:
    file = resources.files("dunlin.core.messages") / f"{locale}.json"
    areas: dict[str, dict[str, str]] = json.loads(file.read_text("utf-8"))
    return {f"{area}.{name}": words for area, all_ in areas.items() for name, words in all_.items()}


class Told(Exception):
    """An error with something to tell to whoever asked for what did not work."""

    def __init__(self, told: Message) -> None:
        super().__init__(told)
        self.message = told

    def __str__(self) -> str:
        return str(self.message)


class BadInput(Told, ValueError):
    """Something that was written, or asked for, cannot be: the message says why."""


class NotNow(Told):
    """Something that cannot be done at this moment; asked again later it may be."""
