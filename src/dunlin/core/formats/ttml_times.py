"""Time expressions of TTML 2, section 12.3.1."""

import re
from dataclasses import dataclass
from fractions import Fraction

from dunlin.core.messages import BadInput, message
from dunlin.core.timecode import FrameRate

__all__ = ["Clock"]

_CLOCK = re.compile(r"(\d{2,9}):(\d{2}):(\d{2})(?:(\.\d{1,9})|:(\d{2,6})(?:\.(\d{1,6}))?)?")
_OFFSET = re.compile(r"(\d{1,12}(?:\.\d{1,9})?)(h|m|s|ms|f|t)")
_UNIT_MS = {"h": 3_600_000, "m": 60_000, "s": 1000, "ms": 1}


@dataclass(frozen=True)
class Clock:
    """What a file says about how its times count."""

    rate: FrameRate
    """Effective frames a second: the frame rate times its multiplier."""
    counted: int
    """Frames that a second is counted to."""
    ticks: Fraction
    """Ticks a second."""
    drop_frame: bool = False

    def milliseconds(self, expression: str) -> int:
        """A time expression in milliseconds. :raises ValueError: when it is none"""
        text = expression.strip()
        if clock := _CLOCK.fullmatch(text):
            hours, minutes, seconds, part, frames, _ = clock.groups()
            whole = (int(hours) * 60 + int(minutes)) * 60 + int(seconds)
            if frames is None:
                return whole * 1000 + round(Fraction(part or "0") * 1000)
            return self._of_frames(whole, int(frames))
        if offset := _OFFSET.fullmatch(text):
            number, unit = Fraction(offset[1]), offset[2]
            if unit == "f":
                return round(number * 1000 / self.rate.fraction)
            if unit == "t":
                return round(number * 1000 / self.ticks)
            return round(number * _UNIT_MS[unit])
        raise BadInput(message("times.none", text=expression[:40]))

    def _of_frames(self, whole: int, frames: int) -> int:
        if frames >= self.counted:
            raise BadInput(message("times.no-such-frame-counted", frame=frames, rate=self.counted))
        if not self.drop_frame:
            # Media time: seconds are seconds, and frames are parts of one.
            return whole * 1000 + round(frames * 1000 / self.rate.fraction)
        minutes = whole // 60
        number = whole * self.counted + frames - self.counted // 15 * (minutes - minutes // 10)
        return round(number * 1000 / self.rate.fraction)
