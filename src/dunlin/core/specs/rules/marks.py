"""Spaces, dashes, ellipses, quotation marks, and what was left of a file format's tags."""

import html
import re
from re import Match

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Setting
from dunlin.core.specs.rules.textual import Wording, textual_rule

__all__ = [
    "DASH",
    "DASH_OF_FIRST",
    "DOUBLE_SPACE",
    "ELLIPSIS",
    "LEFT_MARKUP",
    "MARKUP",
    "QUOTES",
    "SPACE_BEFORE_MARK",
]

_SPACES = re.compile(r"[ \t]{2,}|^[ \t]+|[ \t]+$|\n{2,}", re.MULTILINE)
_BEFORE_MARK = re.compile(r"[ \t]+(?=[,.;:!?…](?![.\w]))")
# French sets off these marks by a space.
_BEFORE_FRENCH_MARK = re.compile(r"[ \t]+(?=[,.…](?![.\w]))")
_DASH = re.compile(r"^[-–—][ \t]*(?=[^\s\d\-–—])", re.MULTILINE)
# A dash of the first line, where a later one has one too.
_FIRST_DASH = re.compile(r"\A[-–—][ \t]*(?=[^\s\d\-–—].*\n(?:.*\n)*[-–—][ \t]*[^\s\d\-–—])")
_DOTS, _ONE_MARK = re.compile(r"\.{3,}"), re.compile("…")
LEFT_MARKUP = re.compile(
    r"</?[a-zA-Z][^<>\n]{0,80}>|\{\\[^{}\n]*\}|&(?:amp|lt|gt|quot|nbsp|#\d{1,6});"
)
_QUOTES = {
    "straight": ('"', '"'),
    "curly": ("“", "”"),
    "guillemets": ("«", "»"),
    "low-high": ("„", "“"),
}
_ALL_QUOTES = '"“”„‟«»'


def _space(match: Match[str]) -> str:
    if "\n" in match[0]:
        return "\n"
    text = match.string
    at_edge = match.start() == 0 or match.end() == len(text)
    beside_break = (
        text[match.start() - 1 : match.start()] == "\n"
        or text[match.end() : match.end() + 1] == "\n"
    )
    return "" if at_edge or beside_break else " "


def _double_space(setting: Setting) -> Wording | None:
    return (
        Wording(_SPACES, message("findings.double-space"), _space)
        if setting.spec.no_double_spaces
        else None
    )


def _space_before_mark(setting: Setting) -> Wording | None:
    if not setting.spec.no_space_before_marks:
        return None
    french = setting.language.split("-")[0] == "fr"
    pattern = _BEFORE_FRENCH_MARK if french else _BEFORE_MARK
    return Wording(pattern, message("findings.space-before-mark"), lambda match: "")


def _dash(setting: Setting) -> Wording | None:
    wanted = setting.spec.dash
    if wanted is None:
        return None
    return Wording(
        _DASH, message("findings.dash", wanted=wanted),
        lambda match: wanted, lambda match: match[0] != wanted,
    )  # fmt: skip


def _dash_of_first(setting: Setting) -> Wording | None:
    if not setting.spec.dash_of_second_only:
        return None
    return Wording(_FIRST_DASH, message("findings.dash-of-first"), lambda match: "")


def _ellipsis(setting: Setting) -> Wording | None:
    wanted = setting.spec.ellipsis
    if wanted is None:
        return None
    pattern = _DOTS if wanted == "…" else _ONE_MARK
    return Wording(pattern, message("findings.ellipsis", wanted=wanted), lambda match: wanted)


def _quotes(setting: Setting) -> Wording | None:
    wanted = setting.spec.quotes
    if wanted is None:
        return None
    opening, closing = _QUOTES[wanted]

    def put(match: Match[str]) -> str:
        before = match.string[match.start() - 1 : match.start()] if match.start() else ""
        return opening if not before or before.isspace() or before in "([-–—{'‘" else closing

    return Wording(
        re.compile(f"[{_ALL_QUOTES}]"), message("findings.quotes", opening=opening, closing=closing),
        put, lambda match: put(match) != match[0],
    )  # fmt: skip


def _markup(setting: Setting) -> Wording | None:
    if not setting.spec.no_markup:
        return None
    return Wording(
        LEFT_MARKUP, message("findings.markup"),
        lambda match: html.unescape(match[0]) if match[0].startswith("&") else "",
    )  # fmt: skip


DOUBLE_SPACE = textual_rule("double-space", ("no_double_spaces",), _double_space, "spacing")
SPACE_BEFORE_MARK = textual_rule(
    "space-before-mark", ("no_space_before_marks",), _space_before_mark, "spacing"
)
DASH = textual_rule("dash", ("dash",), _dash, "spacing")
DASH_OF_FIRST = textual_rule("dash-second", ("dash_of_second_only",), _dash_of_first, "line-break")
ELLIPSIS = textual_rule("ellipsis", ("ellipsis",), _ellipsis, "spacing")
QUOTES = textual_rule("quotes", ("quotes",), _quotes, "mark")
MARKUP = textual_rule("markup", ("no_markup",), _markup, "mark")
