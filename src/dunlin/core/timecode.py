"""Frames and milliseconds at exact rational frame rates, and times as people write them."""

import math
import re
from dataclasses import dataclass
from fractions import Fraction

from dunlin.core.messages import BadInput, message

__all__ = [
    "TWO_DIGITS",
    "FrameRate",
    "clock",
    "clock_ms",
    "first_frame_from",
    "frame_at",
    "next_frame",
    "parse_rate",
    "parse_time",
    "snap",
    "start_of_frame",
    "timecode",
    "usual_clock_ms",
]


@dataclass(frozen=True)
class FrameRate:
    """Frames per second as the exact fraction `numerator / denominator`."""

    numerator: int
    denominator: int = 1

    def __post_init__(self) -> None:
        if self.numerator <= 0 or self.denominator <= 0:
            raise ValueError(f"a frame rate is above zero, not {self.numerator}/{self.denominator}")

    @property
    def fraction(self) -> Fraction:
        return Fraction(self.numerator, self.denominator)

    @property
    def nominal(self) -> int:
        """The whole number of frames that timecode counts to: 30 for 29.97."""
        return round(self.fraction)

    @property
    def counts_drop_frame(self) -> bool:
        """True for 29.97 and 59.94, the rates SMPTE ST 12-1 defines drop-frame counting for."""
        return self.fraction in (Fraction(30000, 1001), Fraction(60000, 1001))


def frame_at(ms: int, rate: FrameRate) -> int:
    """Index of the frame that is on screen at a time.

    :param ms: milliseconds from the start of the film
    """
    return ms * rate.numerator // (1000 * rate.denominator)


def start_of_frame(frame: int, rate: FrameRate) -> int:
    """Time at which a frame is first shown.

    Rounded up to the next whole millisecond, so that `frame_at(start_of_frame(n)) == n`
    for every rate below 500 frames a second.

    :param frame: index from 0
    :returns: milliseconds from the start of the film
    """
    return -(-frame * 1000 * rate.denominator // rate.numerator)


def first_frame_from(ms: int, rate: FrameRate) -> int:
    """Index of the first frame that starts at or after a time.

    A caption from `in_ms` to `out_ms` is on the frames from `first_frame_from(in_ms)` up to, but
    not including, `first_frame_from(out_ms)`.
    """
    return frame_at(ms - 1, rate) + 1


def next_frame(ms: int, rate: FrameRate) -> int:
    """When the frame after the one shown at a time begins: the soonest that a caption can end."""
    return start_of_frame(frame_at(ms, rate) + 1, rate)


def snap(ms: int, rate: FrameRate) -> int:
    """The start of the frame that begins nearest to a time; never below zero."""
    before = frame_at(max(ms, 0), rate)
    return min(
        (start_of_frame(before, rate), start_of_frame(before + 1, rate)),
        key=lambda start: abs(start - ms),
    )


# Picking two digits costs a third of formatting them, and files hold nothing as often as times.
TWO_DIGITS = tuple(f"{number:02}" for number in range(100))


def clock(ms: int, separator: str = ".") -> str:
    """A time as `HH:MM:SS.mmm`; hours grow past 99 and negative times carry a minus."""
    if ms < 0:
        return f"-{clock(-ms, separator)}"
    hours = ms // 3_600_000
    return (
        f"{TWO_DIGITS[hours] if hours < 100 else hours}:{TWO_DIGITS[ms // 60_000 % 60]}:"
        f"{TWO_DIGITS[ms // 1000 % 60]}{separator}{ms % 1000:03}"
    )


def clock_ms(hours: str | None, minutes: str, seconds: str, part: str | None) -> int:
    """Milliseconds of a time by its digits; `part` are those behind the seconds, cut short after
    three."""
    whole = (int(hours or 0) * 60 + int(minutes)) * 60 + int(seconds)
    return whole * 1000 + int(part if part and len(part) == 3 else f"{part or ''}000"[:3])


_MINUTES_MS = {
    f"{hours}:{TWO_DIGITS[minutes]}": (number * 60 + minutes) * 60_000
    for number in range(100)
    for hours in {str(number), TWO_DIGITS[number]}
    for minutes in range(60)
}
_SECONDS_MS = {f":{TWO_DIGITS[seconds]}": seconds * 1000 for seconds in range(60)}
_PARTS_MS = {f".{n:03}": n for n in range(1000)} | {f".{n:02}": n * 10 for n in range(100)}
_PARTS_MS |= {f",{n:03}": n for n in range(1000)}


# Minutes, seconds and what stands behind them, by how many digits the last has.
_CUTS = {n: (slice(-n - 4), slice(-n - 4, -n - 1), slice(-n - 1, None)) for n in (2, 3)}


def usual_clock_ms(text: str, digits: int) -> int | None:
    """Milliseconds of `HH:MM:SS.mmm` or `H:MM:SS.cc`, or None: then it is written otherwise, or no time.

    Files hold nothing as often, and looking it up takes a fifth of what a regular expression does.

    :param digits: how many stand behind the seconds, 2 or 3
    """
    minutes, seconds, part = _CUTS[digits]
    try:
        return _MINUTES_MS[text[minutes]] + _SECONDS_MS[text[seconds]] + _PARTS_MS[text[part]]
    except KeyError:
        return None


def timecode(ms: int, rate: FrameRate, *, drop_frame: bool = False) -> str:
    """A time as SMPTE timecode `HH:MM:SS:FF`, or `HH:MM:SS;FF` when frames are dropped.

    Drop-frame counting leaves out the first frame numbers of every minute but each tenth
    (SMPTE ST 12-1, 5.2.2), so that the numbers keep up with the clock.

    :raises ValueError: when drop-frame is asked for at a rate that has none
    """
    if drop_frame and not rate.counts_drop_frame:
        raise BadInput(message("times.no-drop-frame", rate=rate.fraction))
    nominal = rate.nominal
    number = frame_at(ms, rate)
    if drop_frame:
        dropped = nominal // 15
        ten_minutes, rest = divmod(number, nominal * 600 - dropped * 9)
        number += dropped * 9 * ten_minutes
        if rest >= nominal * 60:
            number += dropped * ((rest - nominal * 60) // (nominal * 60 - dropped) + 1)
    seconds, frame = divmod(number, nominal)
    minutes, second = divmod(seconds, 60)
    hour, minute = divmod(minutes, 60)
    return f"{hour:02}:{minute:02}:{second:02}{';' if drop_frame else ':'}{frame:02}"


_CLOCK = re.compile(r"(?:(?:(\d+):)?(\d{1,3}):)?(\d+)(?:[.,](\d{1,9}))?")
_FRAMES = re.compile(r"(\d+):(\d{1,2}):(\d{1,2})([:;])(\d{1,3})")


def parse_time(text: str, rate: FrameRate | None = None) -> int:
    """Reads a time in any usual notation: `62.5`, `1:02,5`, `00:01:02.500`, `00:01:02:12`.

    :param rate: frame rate for notations that count frames
    :returns: milliseconds
    :raises ValueError: when it is no time, or counts frames and no rate is known
    """
    text = text.strip()
    if counted := _FRAMES.fullmatch(text):
        if rate is None:
            raise BadInput(message("times.rate-unknown", text=text))
        hour, minute, second, mark, frame = counted.groups()
        if int(frame) >= rate.nominal:
            raise BadInput(
                message("times.no-such-frame", text=text, frame=frame, rate=rate.nominal)
            )
        minutes = int(hour) * 60 + int(minute)
        number = (minutes * 60 + int(second)) * rate.nominal + int(frame)
        if mark == ";" and rate.counts_drop_frame:
            number -= rate.nominal // 15 * (minutes - minutes // 10)
        return start_of_frame(number, rate)
    plain = _CLOCK.fullmatch(text)
    if plain is None:
        raise BadInput(message("times.no-time", text=text))
    hours, minute_text, second_text, part = plain.groups()
    whole = (int(hours or 0) * 60 + int(minute_text or 0)) * 60 + int(second_text)
    return whole * 1000 + math.floor(
        Fraction(int(part or 0) * 1000, 10 ** len(part or "")) + Fraction(1, 2)
    )


_NAMED_RATES = {"23.976": (24000, 1001), "23.98": (24000, 1001), "29.97": (30000, 1001),
                "47.952": (48000, 1001), "59.94": (60000, 1001), "119.88": (120000, 1001)}  # fmt: skip


def parse_rate(text: str) -> FrameRate:
    """Reads a frame rate: `25`, `29.97` (taken as 30000/1001) or `30000/1001`.

    :raises ValueError: when it is no rate from 1 to 480
    """
    try:
        numerator, denominator = _NAMED_RATES.get(text.strip()) or Fraction(text).as_integer_ratio()
        if 1 <= Fraction(numerator, denominator) <= 480:
            return FrameRate(numerator, denominator)
    except (ValueError, ZeroDivisionError):
        pass
    raise BadInput(message("times.no-rate", text=text))
