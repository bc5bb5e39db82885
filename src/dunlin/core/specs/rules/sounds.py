"""Descriptions of sounds in brackets: which brackets, and their case."""

import re
from re import Match

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Setting
from dunlin.core.specs.rules.textual import Wording, textual_rule

__all__ = ["BRACKETS", "CASE"]

# What stands in brackets at the beginning of a line: elsewhere round ones are a remark in the speech.
_ROUND = re.compile(r"^((?:[-–—][ \t]*)?)\(([^()\[\]]{1,200})\)", re.MULTILINE)
_SQUARE = re.compile(r"()\[([^()\[\]]{1,200})\]")
_EITHER = re.compile(r"(^(?:[-–—][ \t]*)?\(|\[)([^()\[\]]{1,200})(?=[)\]])", re.MULTILINE)


def _brackets(setting: Setting) -> Wording | None:
    wanted = setting.spec.sound_brackets
    if wanted is None:
        return None
    pattern, opening, closing = (_ROUND, "[", "]") if wanted == "square" else (_SQUARE, "(", ")")
    return Wording(
        pattern, message(f"findings.sound-not-{wanted}-brackets"),
        lambda match: f"{match[1]}{opening}{match[2]}{closing}",
    )  # fmt: skip


def _case(setting: Setting) -> Wording | None:
    wanted = setting.spec.sound_case
    if wanted is None:
        return None

    def cased(match: Match[str]) -> str:
        text = match[2]
        if wanted == "upper":
            text = text.upper()
        elif text.isupper() or wanted == "lower":
            text = text.lower()
        if wanted == "sentence":
            text = text[:1].upper() + text[1:]
        return match[1] + text

    return Wording(
        _EITHER,
        message(f"findings.sound-not-{wanted}-case"),
        cased,
        lambda match: cased(match) != match[0],
    )


BRACKETS = textual_rule("sound-brackets", ("sound_brackets",), _brackets, "mark")
CASE = textual_rule("sound-case", ("sound_case",), _case, "mark")
