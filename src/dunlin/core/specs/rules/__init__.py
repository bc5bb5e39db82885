"""The rules: what each one asks, and how it is mended. Adding a rule is adding it here."""

from dunlin.core.specs.rules import (
    characters,
    duration,
    empty,
    film_end,
    gap,
    gap_to_close,
    line_shape,
    lines,
    marks,
    overlap,
    reading_speed,
    safe_area,
    sentence,
    shot_change,
    sounds,
    wording,
)
from dunlin.core.specs.rules.place import Candidate, Finding, Place, Rule, Setting, Weight

__all__ = ["RULES", "Candidate", "Finding", "Place", "Rule", "Setting", "Weight"]

RULES: tuple[Rule, ...] = (
    empty.RULE,
    film_end.RULE,
    overlap.RULE,
    gap.RULE,
    gap_to_close.RULE,
    lines.LENGTH,
    lines.COUNT,
    safe_area.RULE,
    line_shape.BALANCE,
    line_shape.SHAPE,
    line_shape.LAST_WORD,
    reading_speed.CHARACTERS,
    reading_speed.WORDS,
    duration.LEAST,
    duration.GREATEST,
    shot_change.RULE,
    sentence.RULE,
    marks.MARKUP,
    marks.DOUBLE_SPACE,
    marks.SPACE_BEFORE_MARK,
    marks.DASH,
    marks.ELLIPSIS,
    marks.QUOTES,
    sounds.BRACKETS,
    sounds.CASE,
    wording.NUMBERS,
    wording.SPEAKER_LABELS,
    characters.CHARACTERS,
    characters.LANGUAGE,
    characters.DRAWABLE,
)
"""In the order in which findings are listed and mended: what takes a caption away or parts it comes
before what is measured on it."""
