"""Where captions belong, found out from the sound: an offset, a drift, and breaks where it jumps.

Captions are laid against the stretches in which somebody speaks, whatever is said, so they may be in
another language than the speech.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from dunlin.core.captions import Caption
from dunlin.core.speech.activity import STEP_MS, Stretch
from dunlin.core.timing.retiming import Piece, retimed

__all__ = ["RATES", "Sync", "agreement", "sync"]

_Floats = npt.NDArray[np.float32]

RATES: dict[str, float] = {
    "": 1.0,
    "23.976 → 24": 24000 / 1001 / 24,
    "24 → 23.976": 24 / (24000 / 1001),
    "24 → 25": 24 / 25,
    "25 → 24": 25 / 24,
    "23.976 → 25": 24000 / 1001 / 25,
    "25 → 23.976": 25 / (24000 / 1001),
}
"""Stretches of time that come from one frame rate taken for another; `""` is none."""

# Broadcast breaks are seldom longer; a caption file is seldom later.
_FARTHEST_MS = 600_000
# Coarse search: a tenth of a syllable is near enough to find the place.
_COARSE_MS = 40
# Captions that are laid against the sound together when places are looked for.
_WINDOW = 16
_PLACES_A_WINDOW, _GREATEST_PLACES = 6, 400
# In seconds of agreement: what an in on the onset of speech is worth, and what a break must gain.
_ONSET_WORTH = 1.5
# Neighbours on two sides of a break may overlap by as much as their outs linger.
_OVERLAP_MS = 300
_BREAK_COST = 7.0
# Speech in the pause behind a caption counts against it this long; later it may have none of its own.
_PAUSE_MS = 2000
_ONSET_WIDTH_MS, _FINE_ONSET_WIDTH_MS = 80.0, 30.0
# A drift must be better than none by this much, for every stretch can be laid a little better.
_DRIFT_GAIN = 1.03
# What a caption of a part that the film does not have costs: more than one laid where nobody speaks,
# so that songs and signs are not taken for such parts.
_ABSENT_COST = 1.5
# Laying them apart must be better by this much, as a drift must.
_ABSENT_GAIN = 1.03
# Less than this from the first caption to the last is as well an onset heard a little late.
_LEAST_DRIFT_MS = 200
# Chance reaches this part of what captions that belong to the sound reach; above, it grows sure.
_CHANCE, _CERTAIN = 0.25, 0.55
_CHANCES = 3
# An offset that no caption has.
_NOWHERE = np.iinfo(np.int64).max
_FEWEST, _ENOUGH_SECONDS = 3, 12.0


@dataclass(frozen=True)
class Sync:
    """How captions and speech disagree.

    `pieces` bring captions to the speech; there is none when it cannot be told. Those of a part that
    the film does not have, such as another cut of it, are absent. `agreement_before` and
    `agreement_after` are per cent; `sure` goes from 0, it cannot be told, to 1. `drift` names the likely
    cause of a drift, of `RATES`.
    """

    pieces: tuple[Piece, ...]
    agreement_before: float
    agreement_after: float
    sure: float
    drift: str


@dataclass(frozen=True)
class _Laid:
    """Captions laid on the sound at one rate: a place for each, in milliseconds, and its worth.

    `absent` are those of parts that the film does not have; their offsets say nothing.
    """

    offsets: npt.NDArray[np.int64]
    absent: npt.NDArray[np.bool_]
    worth: float
    rate: float
    drift: str


def sync(captions: Sequence[Caption], speech: Sequence[Stretch]) -> Sync:
    """Finds the pieces that bring captions to the speech.

    For each plausible rate: places where runs of captions fit are found by correlation (FFT), and the
    best way through them by dynamic programming, with a cost for each break. What the same search finds
    in the sound played backwards is what chance gives; the distance from that says how sure it is.

    :param captions: in order of their in
    """
    captions = [caption for caption in captions if caption.out_ms > caption.in_ms]
    before = agreement(captions, speech)
    if not captions or not speech:
        return Sync((), before, before, 0.0, "")
    times = np.array([(c.in_ms, c.out_ms) for c in captions], np.float64)
    end = max(stretch.end_ms for stretch in speech)
    sound = _Sound.of(speech, end)
    found = _best(times, sound)
    chance = max(_best(times, _Sound.of(other, end)).worth for other in _by_chance(speech, end))
    margin = (found.worth - chance) / found.worth if found.worth > 0 else 0.0
    sure = min(max((margin - _CHANCE) / (_CERTAIN - _CHANCE), 0.0), 1.0)
    # A few captions fit somewhere in any film: what is gained over chance must amount to something.
    sure *= min((found.worth - chance) / _ENOUGH_SECONDS, 1.0) if len(captions) >= _FEWEST else 0.0
    pieces = _pieces(times, _without_absent_parts(times, found, sound))
    after = agreement(retimed(captions, pieces).captions, speech)
    if sure == 0.0:
        return Sync((), before, before, 0.0, "")
    return Sync(pieces, before, after, round(sure, 2), found.drift)


def _by_chance(speech: Sequence[Stretch], end_ms: int) -> list[list[Stretch]]:
    """Sounds with as much speech, in which captions have no business: played backwards, and with the
    stretches and the pauses between them in another order."""
    sounds = [[Stretch(end_ms - s.end_ms, end_ms - s.start_ms) for s in reversed(speech)]]
    lengths = np.array([s.end_ms - s.start_ms for s in speech])
    pauses = np.array([b - a for a, b in pairwise([0, *(s.start_ms for s in speech)])]) - np.append(
        0, lengths[:-1]
    )
    random = np.random.default_rng(len(speech))
    for _ in range(_CHANCES - 1):
        ends = np.cumsum(random.permutation(pauses) + (mixed := random.permutation(lengths)))
        sounds.append([Stretch(int(e - n), int(e)) for e, n in zip(ends, mixed, strict=True)])
    return sounds


def agreement(captions: Sequence[Caption], speech: Sequence[Stretch]) -> float:
    """Per cent: twice the time that has both captions and speech, of the time of each added up.

    Sørensen's and Dice's measure of how alike two sets are.
    """
    end = max([0, *(c.out_ms for c in captions), *(s.end_ms for s in speech)])
    shown = _marked([(c.in_ms, c.out_ms) for c in captions], end, STEP_MS)
    spoken = _marked([(s.start_ms, s.end_ms) for s in speech], end, STEP_MS)
    both, sums = float((shown * spoken).sum()), float(shown.sum() + spoken.sum())
    return round(200 * both / sums, 1) if sums else 0.0


def _marked(stretches: Sequence[tuple[float, float]], end_ms: float, step_ms: int) -> _Floats:
    """Ones where a stretch is, and zeros elsewhere."""
    marks = np.zeros(int(end_ms // step_ms) + 2, np.float32)
    for start, stop in stretches:
        marks[max(int(start // step_ms), 0) : max(int(stop // step_ms), 0)] = 1
    return marks


@dataclass(frozen=True)
class _Sound:
    """Speech, ready to be looked up: sums for the time spoken, and onsets widened for nearness."""

    sums: npt.NDArray[np.float64]
    onsets: _Floats
    fine_onsets: _Floats
    coarse: _Floats
    coarse_onsets: _Floats
    share: float

    @classmethod
    def of(cls, speech: Sequence[Stretch], end_ms: int) -> "_Sound":
        marked = _marked([(s.start_ms, s.end_ms) for s in speech], end_ms, STEP_MS)
        step = _COARSE_MS // STEP_MS
        whole = len(marked) // step * step
        onsets = _bumps([s.start_ms for s in speech], len(marked), _ONSET_WIDTH_MS)
        return cls(
            np.concatenate(([0.0], np.cumsum(marked, dtype=np.float64))) * (STEP_MS / 1000),
            onsets,
            _bumps([s.start_ms for s in speech], len(marked), _FINE_ONSET_WIDTH_MS),
            marked[:whole].reshape(-1, step).mean(axis=1),
            onsets[:whole].reshape(-1, step).max(axis=1),
            float(marked.mean()),
        )

    def spoken(self, start_ms: _Floats, end_ms: _Floats) -> _Floats:
        """Seconds of speech between times."""
        last = len(self.sums) - 1
        first, second = (
            self.sums[(times / STEP_MS).round().astype(np.int64).clip(0, last)]
            for times in (start_ms, end_ms)
        )
        seconds: _Floats = (second - first).astype(np.float32)
        return seconds

    def near_onset(self, ms: _Floats, fine: bool = False) -> _Floats:
        """1 at the onset of speech, less beside it, 0 farther away."""
        bumps = self.fine_onsets if fine else self.onsets
        at = (ms / STEP_MS).round().astype(np.int64)
        return np.where((at >= 0) & (at < len(bumps)), bumps[at.clip(0, len(bumps) - 1)], 0)


def _bumps(times_ms: Sequence[int], count: int, width_ms: float) -> _Floats:
    values = np.zeros(count, np.float32)
    reach = int(3 * width_ms // STEP_MS)
    shape = np.exp(-0.5 * (np.arange(-reach, reach + 1) * STEP_MS / width_ms) ** 2)
    for time in times_ms:
        at = time // STEP_MS
        first, last = max(at - reach, 0), min(at + reach + 1, count)
        part = shape[first - at + reach : last - at + reach]
        values[first:last] = np.maximum(values[first:last], part)
    return values


def _best(times: npt.NDArray[np.float64], sound: _Sound) -> _Laid:
    """The captions laid at the rate that fits best; none where it fits about as well."""
    span = float(times[-1, 0] - times[0, 0])
    laid = [
        _laid(times * rate, sound, rate, drift)
        for drift, rate in RATES.items()
        if rate == 1 or abs(rate - 1) * span >= _LEAST_DRIFT_MS
    ]
    plain, best = laid[0], max(laid, key=lambda one: one.worth)
    return best if best.worth > plain.worth * _DRIFT_GAIN else plain


def _laid(times: npt.NDArray[np.float64], sound: _Sound, rate: float, drift: str) -> _Laid:
    """Each caption at one of the places that runs of captions fit at, with as few breaks as pay.

    Laid twice: the places of the first time are coarse, and a break is put next to the right caption
    only when the places on both its sides are exact.
    """
    places = _places(times, sound)
    chosen, _ = _best_way(times, places, _worth(times, places, sound))
    exact = np.unique([_fine(times[run], place, sound) for run, place in _runs(places[chosen])])
    chosen, total = _best_way(times, exact, _worth(times, exact, sound))
    offsets = np.empty(len(times), np.int64)
    for run, place in _runs(exact[chosen]):
        offsets[run] = _fine(times[run], place, sound)
    return _Laid(offsets, np.zeros(len(times), np.bool_), total, rate, drift)


def _without_absent_parts(times: npt.NDArray[np.float64], laid: _Laid, sound: _Sound) -> _Laid:
    """The captions laid with those left out that stand in the way of the others, where that pays.

    What was cut out of a film has captions that belong nowhere in it, and those behind them come to
    where they stood.
    """
    stretched = times * laid.rate
    places = _places(stretched, sound)
    chosen, _ = _best_way_with_absent(stretched, places, _worth(stretched, places, sound))
    found = np.unique(places[chosen[chosen >= 0]])
    runs = [(chosen >= 0) & (places[chosen] == place) for place in found]
    exact = np.unique(
        [_fine(stretched[run], int(p), sound) for run, p in zip(runs, found, strict=True)]
    )
    chosen, total = _best_way_with_absent(stretched, exact, _worth(stretched, exact, sound))
    if chosen.min() >= 0 or total <= laid.worth * _ABSENT_GAIN:
        return laid
    offsets, absent = exact[chosen], chosen < 0
    for place in np.unique(offsets[~absent]):
        run = ~absent & (offsets == place)
        offsets[run] = _fine(stretched[run], int(place), sound)
    return _Laid(offsets, absent, total, laid.rate, laid.drift)


def _best_way_with_absent(
    times: npt.NDArray[np.float64], places: npt.NDArray[np.int64], worth: _Floats
) -> tuple[npt.NDArray[np.int64], float]:
    """As `_best_way`, where captions in a row may have no place at all, at a break; theirs is -1.

    What the best way to each end of a caption is worth is kept by time, as a sum that only grows, so
    that the next ones look up how much may have come before them, however many were left out.
    """
    captions, count = worth.shape
    first = times[0, 1] + places[0]
    bins = int((times[-1, 1] + places[-1] - first) // _COARSE_MS) + 2
    until = np.full(bins, -np.inf)
    whose = np.full(bins, -1, np.int64)
    best = np.full(count, -np.inf)
    came_from = np.empty((captions, count), np.int64)
    stay = np.arange(count)
    ends = np.empty((captions, count))
    for index in range(captions):
        by_time = ((times[index, 0] + places + _OVERLAP_MS - first) // _COARSE_MS).astype(np.int64)
        known = by_time >= 0
        before = by_time.clip(0, bins - 1)
        jump = np.where(known, until[before], -np.inf) - _BREAK_COST - _ABSENT_COST * (index - 1)
        begin = -(_BREAK_COST + _ABSENT_COST * index) if index else 0.0
        leaves = best < np.maximum(jump, begin)
        came_from[index] = np.where(
            leaves, np.where(jump > begin, whose[before], -1), (index - 1) * count + stay
        )
        best = np.maximum(best, np.maximum(jump, begin)) + worth[index]
        ends[index] = (
            best - _ABSENT_COST * (captions - 1 - index) - _BREAK_COST * (index < captions - 1)
        )
        _keep_by_time(
            until, whose,
            ((times[index, 1] + places - first) // _COARSE_MS).astype(np.int64) + 1,
            best + _ABSENT_COST * index, index * count + stay,
        )  # fmt: skip
    chosen = np.full(captions, -1, np.int64)
    at = int(ends.argmax())
    total = float(ends.flat[at])
    while at >= 0:
        index, place = divmod(at, count)
        chosen[index] = place
        at = int(came_from[index, place])
    return chosen, total


def _keep_by_time(
    until: npt.NDArray[np.float64],
    whose: npt.NDArray[np.int64],
    at: npt.NDArray[np.int64],
    values: npt.NDArray[np.float64],
    names: npt.NDArray[np.int64],
) -> None:
    """Makes `until`, which never falls, at each bin the greatest of the values at and before it.

    :param at: the bins of the values, in order
    """
    highest = np.maximum.accumulate(values)
    which = names[np.maximum.accumulate(np.where(values == highest, np.arange(len(values)), 0))]
    # Behind the last of them it is changed only as long as it is lower.
    last = max(int(np.searchsorted(until, highest[-1])), int(at[0]))
    span = np.arange(int(at[0]), min(last, len(until)))
    if not len(span):
        return
    step = np.searchsorted(at, span, side="right") - 1
    higher = highest[step] > until[span]
    until[span] = np.where(higher, highest[step], until[span])
    whose[span] = np.where(higher, which[step], whose[span])


def _best_way(
    times: npt.NDArray[np.float64], places: npt.NDArray[np.int64], worth: _Floats
) -> tuple[npt.NDArray[np.int64], float]:
    """The place of each caption that makes the most of all together, and how much that is.

    A break never brings a caption over the one before it.

    :param places: in order
    :param worth: shape (captions, places)
    """
    captions, count = worth.shape
    best = worth[0].astype(np.float64)
    came_from = np.empty((captions, count), np.int32)
    stay = np.arange(count)
    for index in range(1, captions):
        room = max(times[index, 0] - times[index - 1, 1], 0.0) + _OVERLAP_MS
        # The best of all places up to each, and which it is.
        highest = np.maximum.accumulate(best)
        which = np.maximum.accumulate(np.where(best == highest, stay, 0))
        farthest = np.searchsorted(places, places + room, side="right") - 1
        jump = highest[farthest] - _BREAK_COST
        leaves = best < jump
        came_from[index] = np.where(leaves, which[farthest], stay)
        best = np.where(leaves, jump, best) + worth[index]
    chosen = np.empty(captions, np.int64)
    at = int(best.argmax())
    total = float(best[at])
    for index in range(captions - 1, -1, -1):
        chosen[index] = at
        at = int(came_from[index][at]) if index else at
    return chosen, total


def _runs(offsets: npt.NDArray[np.int64]) -> list[tuple[slice, int]]:
    """Captions that follow each other at one offset, as slices, each with the offset."""
    bounds = [0, *(np.flatnonzero(np.diff(offsets)) + 1).tolist(), len(offsets)]
    return [(slice(first, last), int(offsets[first])) for first, last in pairwise(bounds)]


def _places(times: npt.NDArray[np.float64], sound: _Sound) -> npt.NDArray[np.int64]:
    """Offsets in milliseconds at which some run of captions covers speech and little else."""
    votes: dict[int, float] = {0: float("inf")}
    hop = max(_WINDOW // 2, 1)
    starts = range(0, max(len(times) - hop, 1), hop)
    for first in starts:
        for place, height in _fits(times[first : first + _WINDOW], sound):
            near = next((p for p in votes if abs(p - place) < _COARSE_MS), place)
            votes[near] = votes.get(near, 0.0) + height
    for place, height in _fits(times, sound):
        votes[place] = votes.get(place, 0.0) + height * len(starts)
    ranked = sorted(votes, key=lambda place: -votes[place])[:_GREATEST_PLACES]
    return np.array(sorted(ranked), np.int64)


def _fits(times: npt.NDArray[np.float64], sound: _Sound) -> list[tuple[int, float]]:
    """The offsets at which captions fit the speech best, each with what it is worth by time spoken
    and by onsets, in seconds."""
    start, end = times[0, 0], times[:, 1].max()
    shown = _marked([(a - start, b - start) for a, b in times], end - start, _COARSE_MS)
    begun = np.zeros(len(shown), np.float32)
    np.add.at(begun, ((times[:, 0] - start) // _COARSE_MS).astype(np.int64), 1)
    reach = _FARTHEST_MS // _COARSE_MS
    first = int(start // _COARSE_MS) - reach
    last = first + 2 * reach + len(shown)
    low, high = max(first, 0), min(last, len(sound.coarse))
    if low >= high:
        return []
    # Only where there is sound: what lies before and behind it agrees with nothing.
    size = 1 << (high - low + len(shown) - 1).bit_length()
    heard = np.stack((sound.coarse[low:high] - sound.share, sound.coarse_onsets[low:high]))
    own = np.stack(((shown - shown.mean()) * (_COARSE_MS / 1000), begun * _ONSET_WORTH))
    product = (np.fft.rfft(heard, size) * np.fft.rfft(own, size).conj()).sum(axis=0)
    lags = np.fft.irfft(product, size)
    matched = np.zeros(2 * reach + 1, lags.dtype)
    from_lag, to_lag = max(first - low, 1 - len(shown)), min(first - low + len(matched), high - low)
    matched[from_lag + low - first : to_lag + low - first] = lags[np.arange(from_lag, to_lag)]
    peaks = []
    for _ in range(_PLACES_A_WINDOW):
        at = int(matched.argmax())
        if matched[at] <= 0:
            break
        peaks.append(((at - reach) * _COARSE_MS, float(matched[at])))
        matched[max(at - 2, 0) : at + 3] = 0
    return peaks


def _worth(times: npt.NDArray[np.float64], places: npt.NDArray[np.int64], sound: _Sound) -> _Floats:
    """What each caption is worth at each place, in seconds of agreement.

    :returns: shape (captions, places)
    """
    ins = (times[:, :1] + places).astype(np.float32)
    outs = (times[:, 1:] + places).astype(np.float32)
    following = np.append(times[1:, 0], times[-1, 1] + _PAUSE_MS)
    pause = np.clip(following - times[:, 1], 0, _PAUSE_MS)[:, None].astype(np.float32)
    lengths = (times[:, 1:] - times[:, :1]).astype(np.float32) / 1000
    under = sound.spoken(ins, outs) - sound.share * lengths
    behind = sound.spoken(outs, outs + pause) - sound.share * pause / 1000
    return under - behind + _ONSET_WORTH * sound.near_onset(ins)


def _pieces(times: npt.NDArray[np.float64], laid: _Laid) -> tuple[Piece, ...]:
    """Runs of captions at one offset; those that differ by less than can be heard are one."""
    pieces: list[Piece] = []
    # An absent caption stays where it is if it is kept after all.
    for run, offset in _runs(np.where(laid.absent, _NOWHERE, laid.offsets)):
        start = 0 if run.start == 0 else int(times[run.start, 0])
        end = None if run.stop == len(times) else int(times[run.stop, 0])
        if offset == _NOWHERE:
            pieces.append(
                Piece(start, end, pieces[-1].offset_ms if pieces else 0, laid.rate, absent=True)
            )
        elif pieces and not pieces[-1].absent and abs(pieces[-1].offset_ms - offset) < _COARSE_MS:
            pieces[-1] = replace(pieces[-1], to_ms=end)
        else:
            pieces.append(Piece(start, end, offset, laid.rate))
    return tuple(pieces)


def _fine(times: npt.NDArray[np.float64], near_ms: int, sound: _Sound) -> int:
    """The offset near one at which captions fit best, and of those the one with most ins on onsets."""
    tried = near_ms + np.arange(-300, 301, STEP_MS)
    fit = _worth(times, tried, sound).sum(axis=0)
    best = int(fit.argmax())
    around = slice(max(best - 6, 0), best + 7)
    ins = (times[:, :1] + tried[around]).astype(np.float32)
    hits = sound.near_onset(ins, fine=True).sum(axis=0)
    return int(tried[around][int((hits + fit[around] / _ONSET_WORTH).argmax())])
