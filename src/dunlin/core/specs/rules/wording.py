"""Numbers in words, and the labels of speakers."""

import re
from re import Match

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Setting
from dunlin.core.specs.rules.textual import Wording, textual_rule

__all__ = ["NUMBERS", "SPEAKER_LABELS"]

# Not of a time, a date, a price, a decimal or a measure.
_NUMBER = re.compile(r"(?<![\w.,:/$€£#+\-–])\d{1,3}(?![\w:/%°€£]|[.,]\d|[ \t]*(?:%|°))")
_LABEL = re.compile(r"^((?:[-–—][ \t]*)?)([^\W\d_][\w'’. \-]{0,30}?)(:)(?=\s|$)", re.MULTILINE)


def _numbers(setting: Setting) -> Wording | None:
    below = setting.spec.numbers_in_words_below
    if below is None:
        return None
    # A word for a figure is another word: that is left to the person.
    return Wording(
        _NUMBER,
        message("findings.number", limit=below),
        None,
        lambda match: int(match[0]) < below,
    )


def _speaker_labels(setting: Setting) -> Wording | None:
    wanted = setting.spec.speaker_labels
    if wanted is None:
        return None
    if wanted == "none":
        return Wording(_LABEL, message("findings.speaker-label"))

    def cased(match: Match[str]) -> str:
        name = match[2].upper() if wanted == "upper" else match[2]
        if wanted == "as-written" and len(name) > 2 and name.isupper():
            name = name.title()
        return f"{match[1]}{name}{match[3]}"

    return Wording(
        _LABEL, message(f"findings.label-not-{wanted}"),
        cased, lambda match: cased(match) != match[0],
    )  # fmt: skip


NUMBERS = textual_rule("numbers", ("numbers_in_words_below",), _numbers, "mark")
SPEAKER_LABELS = textual_rule("speaker-labels", ("speaker_labels",), _speaker_labels, "mark")
