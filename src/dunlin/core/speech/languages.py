"""Which language is spoken where, by how likely each is in windows of speech."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import exp, log

from dunlin.core.speech.activity import Stretch

__all__ = ["AUTO", "SpokenPassage", "language_passages", "language_windows", "longest", "spread"]

AUTO = "auto"
"""In the place of a language: the one that is heard."""

# A model of speech is sure of a language after some seconds; more than half a minute it does not take.
_LEAST_MS, _MOST_MS = 8_000, 28_000
_LEAST_CHANCE = 1e-4
# What another language must gain, in logarithms of chances: a window that is heard as another one by a
# hair is none, one that is surely another is.
_CHANGE_COST = 3.0


@dataclass(frozen=True)
class SpokenPassage:
    """Speech in one language, as a BCP 47 tag, and how sure that is, from 0 to 1."""

    start_ms: int
    end_ms: int
    language: str
    sure: float


def language_windows(speech: Sequence[Stretch]) -> list[Stretch]:
    """Stretches of speech put together until there is enough to tell a language by."""
    windows: list[Stretch] = []
    start, spoken = 0, 0
    for number, stretch in enumerate(speech):
        if spoken == 0:
            start = stretch.start_ms
        spoken += stretch.end_ms - stretch.start_ms
        following = speech[number + 1] if number + 1 < len(speech) else None
        full = spoken >= _LEAST_MS or (following and following.end_ms - start > _MOST_MS)
        if full or following is None:
            windows.append(Stretch(start, min(stretch.end_ms, start + _MOST_MS)))
            spoken = 0
    return windows


def spread(windows: Sequence[Stretch], count: int) -> list[Stretch]:
    """So many windows, evenly over all of them."""
    if len(windows) <= count:
        return list(windows)
    return [windows[(2 * number + 1) * len(windows) // (2 * count)] for number in range(count)]


def language_passages(
    windows: Sequence[Stretch], chances: Sequence[Mapping[str, float]]
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
        changed = best[top] - _CHANGE_COST
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
