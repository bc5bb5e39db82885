"""Cueing along: keys pressed while the film plays become ins and outs."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal, TypeAlias

from dunlin.core.captions import Times
from dunlin.core.speech.activity import Stretch, nearest_edge
from dunlin.core.timecode import FrameRate, next_frame, snap

__all__ = ["Cue", "Cueing", "Hand", "Key", "Way", "cue"]

Way: TypeAlias = Literal["ins", "ins-and-pauses", "ins-and-outs", "held"]
"""A key at each in, the out before it following at the gap; the same, and a second key where a pause
comes first; one key for in and one for out; or a key held down as long as the line is spoken."""

Key: TypeAlias = Literal["in", "out", "release", "back", "lost"]
"""`back` is the film going back to `at_ms`; `lost` is the keyboard going elsewhere while a key is down."""

# A line that waits for its out is shown this long at first, and never longer than a spec lets it.
_PROVISIONAL_MS, _GREATEST_MS = 2000, 7000


@dataclass(frozen=True)
class Cueing:
    """Where cueing stands.

    `lines` are captions in the order in which they are spoken, `next` is the place of the one whose in
    is waited for, `open` tells that the one before it waits for its out, and `down` that its key is held.
    """

    way: Way
    lines: tuple[str, ...]
    next: int = 0
    open: bool = False
    down: bool = False

    @property
    def ended(self) -> bool:
        return self.next == len(self.lines) and not self.open


@dataclass(frozen=True)
class Cue:
    """What a key did: where cueing stands now, and the times it set."""

    state: Cueing
    times: tuple[Times, ...]


@dataclass(frozen=True)
class Hand:
    """How presses become times: late by `reaction_ms`, drawn to an onset of speech within `snap_ms`."""

    rate: FrameRate
    gap_ms: int
    reaction_ms: int = 0
    snap_ms: int = 0
    greatest_ms: int | None = None
    speech: Sequence[Stretch] = ()

    def in_at(self, pressed_ms: float) -> int:
        return self._moment(pressed_ms, "start_ms")

    def out_at(self, pressed_ms: float) -> int:
        return self._moment(pressed_ms, "end_ms")

    def _moment(self, pressed_ms: float, edge: Literal["start_ms", "end_ms"]) -> int:
        meant = max(pressed_ms - self.reaction_ms, 0.0)
        near = nearest_edge(self.speech, edge, meant)
        if near is not None and abs(near - meant) <= self.snap_ms:
            meant = near
        return snap(round(meant), self.rate)

    def end_of_speech(self, after_ms: int) -> int:
        """Where the speech ends that is heard at a time; a little later where there is none."""
        stretch = next((s for s in self.speech if s.end_ms > after_ms), None)
        if stretch is None or stretch.start_ms > after_ms + self.snap_ms:
            return after_ms + _PROVISIONAL_MS
        return snap(stretch.end_ms, self.rate)


def cue(
    state: Cueing, key: Key, at_ms: float, hand: Hand, shown: Mapping[str, tuple[int, int]]
) -> Cue:
    """What a key pressed at a time of the film does.

    A key that makes no sense now, such as one pressed twice or a release without a press, does nothing.

    :param at_ms: the film's time when the key went down or up; for `back`, where the film goes to
    :param shown: in and out of the lines as they are, by id
    """
    if key == "back":
        return _back(state, at_ms, shown)
    if key == "in" and not state.down:
        return _in(state, hand, hand.in_at(at_ms), shown)
    closes = {"out": state.way != "held", "release": state.way == "held" and state.down,
              "lost": state.down}  # fmt: skip
    if state.open and closes.get(key, False):
        return _out(state, hand.out_at(at_ms), hand, shown)
    return Cue(state, ())


def _in(state: Cueing, hand: Hand, in_ms: int, shown: Mapping[str, tuple[int, int]]) -> Cue:
    times = []
    if state.open or (state.way == "ins" and state.next):
        before = state.lines[state.next - 1]
        start, end = shown[before]
        if in_ms <= start:
            return Cue(state, ())
        runs_on = state.way in ("ins", "ins-and-pauses")
        out_ms = in_ms - hand.gap_ms if runs_on else min(end, in_ms - hand.gap_ms)
        times.append(_times(before, start, out_ms, hand))
    if state.next == len(state.lines):
        return Cue(replace(state, open=False, down=False), tuple(times))
    line = state.lines[state.next]
    # Nothing follows the last line that could give it its out, so its voice does.
    last = state.way in ("ins", "ins-and-pauses") and state.next + 1 == len(state.lines)
    # What is not closed by a key is shown as long as its voice, until the next in takes it.
    by_voice = last or state.way == "ins-and-pauses"
    out_ms = hand.end_of_speech(in_ms) if by_voice else in_ms + _PROVISIONAL_MS
    times.append(_times(line, in_ms, out_ms, hand))
    now = replace(state, next=state.next + 1, open=not last, down=state.way == "held")
    return Cue(now, tuple(times))


def _out(state: Cueing, out_ms: int, hand: Hand, shown: Mapping[str, tuple[int, int]]) -> Cue:
    line = state.lines[state.next - 1]
    start, _ = shown[line]
    return Cue(replace(state, open=False, down=False), (_times(line, start, out_ms, hand),))


def _times(line: str, in_ms: int, out_ms: int, hand: Hand) -> Times:
    """A frame at least, and not longer than a caption may be."""
    greatest = in_ms + (hand.greatest_ms or _GREATEST_MS)
    return Times(line, in_ms, max(next_frame(in_ms, hand.rate), min(out_ms, greatest)))


def _back(state: Cueing, to_ms: float, shown: Mapping[str, tuple[int, int]]) -> Cue:
    """Lines that begin after the place gone back to are set again."""
    kept = state.next
    while kept and shown[state.lines[kept - 1]][0] >= to_ms:
        kept -= 1
    return Cue(replace(state, next=kept, open=False, down=False), ())
