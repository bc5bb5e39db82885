"""What is known of a caption when a draft is asked for: what is said around it, and the room it has."""

from collections.abc import Iterable, Mapping
from itertools import pairwise
from math import floor

from dunlin.core.captions import Caption
from dunlin.core.language.memory.pairs import in_one_line

__all__ = ["neighbours_of", "readable_in"]

_ALMOST = 1e-6
"""So near below a whole character it is one: a decimal speed times a time comes out a little less."""


def neighbours_of(captions: Iterable[Caption]) -> Mapping[str, tuple[str, str]]:
    """What is said before and behind each caption, in one line, by its id; captions without words say nothing."""
    listed = list(captions)
    beside = {one.id: ["", ""] for one in listed}
    for left, right in pairwise(one for one in listed if one.text.strip()):
        beside[left.id][1], beside[right.id][0] = in_one_line(right.text), in_one_line(left.text)
    return {id_: (before, after) for id_, (before, after) in beside.items()}


def readable_in(caption: Caption, speed: float | None) -> int | None:
    """Characters that can be read while a caption is shown.

    :param speed: characters a second; None is without a limit
    """
    return floor(speed * caption.duration_ms / 1000 + _ALMOST) if speed else None
