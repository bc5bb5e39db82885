"""Numbers and units as a language writes them."""

import re
from re import Match

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Setting
from dunlin.core.specs.rules.textual import Wording, textual_rule

__all__ = ["FORMAT", "UNITS"]

# Units of the SI and what is used beside it (BIPM, The International System of Units, 9th edition, 5.4.3:
# a space stands between the number and the unit).
_UNITS = r"km/h|m/s|kg|mg|km|cm|mm|ml|cl|dl|kW|MW|Hz|kHz|MHz|°C|°F|g|m|l|L|t|h|min|s|V|W|A|K"
_CLOSE = re.compile(rf"(?<![\w.,])(\d+(?:[.,]\d+)?)(?=(?:{_UNITS})(?![\w]))")
# CLDR's decimal point, where it is none: everywhere else it is a comma.
_POINT = frozenset(
    [
        "bn",
        "cy",
        "en",
        "ga",
        "he",
        "hi",
        "ja",
        "ko",
        "ms",
        "mt",
        "sw",
        "ta",
        "th",
        "ur",
        "yue",
        "zh",
    ]
)
_DECIMAL = {
    True: re.compile(r"(?<![\d.,:])(\d+),(\d{1,2})(?![\d.,:])"),
    False: re.compile(r"(?<![\d.,:])(\d+)\.(\d{1,2})(?![\d.,:])"),
}


def _units(setting: Setting) -> Wording | None:
    if not setting.spec.unit_space:
        return None
    # One that no line ends at.
    return Wording(_CLOSE, message("findings.unit"), lambda match: f"{match[1]}\N{NO-BREAK SPACE}")


def _decimals(setting: Setting) -> Wording | None:
    if not setting.spec.number_format:
        return None
    has_point = setting.language.split("-")[0] in _POINT
    mark = "." if has_point else ","

    def put(match: Match[str]) -> str:
        return f"{match[1]}{mark}{match[2]}"

    return Wording(_DECIMAL[has_point], message("findings.number-format", mark=mark), put)


UNITS = textual_rule("units", ("unit_space",), _units, "mark")
FORMAT = textual_rule("number-format", ("number_format",), _decimals, "mark")
