"""Which language is spoken where, by how likely each is in windows of speech."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from math import exp, log

from dunlin.core.speech.activity import Stretch

__all__ = [
    "AUTO",
    "CHANGE_COST_OF_FEW",
    "LEAST_OF_FEW_MS",
    "SpokenPassage",
    "language_passages",
    "language_windows",
    "longest",
    "of_these",
    "spread",
]

AUTO = "auto"
"""In the place of a language: the one that is heard."""

# A model of speech is sure of a language after some seconds; more than half a minute it does not take. Which
# of two it is, it tells in less.
_LEAST_MS, _MOST_MS = 5_000, 28_000
LEAST_OF_FEW_MS = 2_000
# Whoever speaks next, maybe in another language, begins after a pause.
_TURN_MS = 350
_LEAST_CHANCE = 1e-4
# What another language must gain, in logarithms of chances: a window that is heard as another one by a
# hair is none, one that is surely another is.
CHANGE_COST = 3.0
CHANGE_COST_OF_FEW = 1.0
"""The same, where it can be but one of the languages that were heard."""


@dataclass(frozen=True)
class SpokenPassage:
    """Speech in one language, as a BCP 47 tag, and how sure that is, from 0 to 1."""

    start_ms: int
    end_ms: int
    language: str
    sure: float


def language_windows(speech: Sequence[Stretch], least_ms: int = _LEAST_MS) -> list[Stretch]:
    """Stretches of speech put together until there is enough to tell a language by; they end where
    somebody else may begin.

    :param least_ms: so much is enough
    """
    windows: list[Stretch] = []
    start, spoken = 0, 0
    for number, stretch in enumerate(speech):
        if spoken == 0:
            start = stretch.start_ms
        spoken += stretch.end_ms - stretch.start_ms
        following = speech[number + 1] if number + 1 < len(speech) else None
        enough = spoken >= least_ms and (
            following is None
            or following.start_ms - stretch.end_ms >= _TURN_MS
            or spoken >= 2 * least_ms
        )
        full = enough or (following and following.end_ms - start > _MOST_MS)
        if full or following is None:
            windows.append(Stretch(start, min(stretch.end_ms, start + _MOST_MS)))
            spoken = 0
    return windows


def of_these(chances: Mapping[str, float], languages: Collection[str]) -> dict[str, float]:
    """How likely each of some languages is, when it is one of them."""
    some = {language: chances.get(language, 0.0) + _LEAST_CHANCE for language in languages}
    return {language: chance / sum(some.values()) for language, chance in some.items()}


def spread(windows: Sequence[Stretch], count: int) -> list[Stretch]:
    """So many windows, evenly over all of them."""
    if len(windows) <= count:
        return list(windows)
    return [windows[(2 * number + 1) * len(windows) // (2 * count)] for number in range(count)]


def language_passages(
    windows: Sequence[Stretch],
    chances: Sequence[Mapping[str, float]],
    change_cost: float = CHANGE_COST,
) -> list[SpokenPassage]:
    """The languages of windows in a row: the likeliest way through them, with a cost for each change (Viterbi).

    A passage goes on until the next begins.

    :param chances: of each language, as BCP 47 tags, in each window
    """
    if not windows:
        return []
    languages = sorted({language for window in chances for language in window})
    heard = [
        [log(max(window.get(language, 0.0), _LEAST_CHANCE)) for language in languages]
        for window in chances
    ]
    best, came_from = heard[0], []
    for values in heard[1:]:
        top = max(range(len(languages)), key=best.__getitem__)
        changed = best[top] - change_cost
        came_from.append([top if changed > stay else at for at, stay in enumerate(best)])
        best = [max(stay, changed) + value for stay, value in zip(best, values, strict=True)]
    way = [max(range(len(languages)), key=best.__getitem__)]
    for before in reversed(came_from):
        way.append(before[way[-1]])
    way.reverse()
    firsts = [number for number, at in enumerate(way) if number == 0 or at != way[number - 1]]
    ends = [*firsts[1:], len(way)]
    return [
        SpokenPassage(
            windows[first].start_ms if first else 0,
            windows[end].start_ms if end < len(windows) else windows[-1].end_ms,
            languages[way[first]],
            _sureness([values[way[first]] for values in heard[first:end]]),
        )
        for first, end in zip(firsts, ends, strict=True)
    ]


def longest(passages: Sequence[SpokenPassage]) -> SpokenPassage:
    """The passage whose language a film is taken to be in."""
    return max(passages, key=lambda passage: passage.end_ms - passage.start_ms)


def _sureness(logarithms: Sequence[float]) -> float:
    """The mean chance, of windows that are heard one by one."""
    return round(exp(sum(logarithms) / len(logarithms)), 3)
