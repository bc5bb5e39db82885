"""What stands on a timeline. All times are frames, counted from the film's first."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from dunlin.core.captions import Caption, Look
from dunlin.core.messages import BadInput, Told, message
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, parse_time

__all__ = [
    "CaptionClip",
    "FilmClip",
    "Lane",
    "Mark",
    "Timeline",
    "TimelineError",
    "clips_in_lanes",
    "frame_of_timecode",
    "frames_of",
]


class TimelineError(Told, ValueError):
    """A timeline cannot be read."""


@dataclass(frozen=True)
class CaptionClip:
    """A caption on a timeline."""

    first: int
    end: int
    """The first frame on which it is not shown any more; always after `first`."""
    caption: Caption


@dataclass(frozen=True)
class Lane:
    """Captions of one track of which no two are on a frame together."""

    name: str
    language: str
    clips: tuple[CaptionClip, ...]


@dataclass(frozen=True)
class FilmClip:
    """The film, as the editing program is to find it."""

    name: str
    frames: int
    has_picture: bool = True
    has_sound: bool = True


@dataclass(frozen=True)
class Mark:
    """A place that something is said about."""

    first: int
    end: int
    name: str
    said: str
    is_error: bool = False


@dataclass(frozen=True)
class Timeline:
    """A film with its captions, as an editing program takes it."""

    name: str
    rate: FrameRate
    start: int
    """Frame number of the film's first frame, by which its timecode is told."""
    drop_frame: bool
    film: FilmClip | None
    lanes: Sequence[Lane]
    marks: Sequence[Mark] = ()
    styles: Mapping[str, Look] = field(default_factory=dict)
    """What the styles look like that captions name."""
    style: str | None = None
    speakers: Mapping[str, str] = field(default_factory=dict)


def frame_of_timecode(text: str, rate: FrameRate) -> tuple[int, bool]:
    """The frame number of a timecode, and whether it counts drop-frame: then a semicolon stands before its frames.

    :raises BadInput: when it is no timecode, or the rate has no drop-frame
    """
    if text.count(":") + text.count(";") != 3:
        raise BadInput(message("times.no-time", text=text))
    drop = ";" in text
    if drop and not rate.counts_drop_frame:
        raise BadInput(message("times.no-drop-frame", rate=rate.fraction))
    return frame_at(parse_time(text, rate), rate), drop


def frames_of(caption: Caption, rate: FrameRate) -> tuple[int, int]:
    """The first frame of a caption, and the first without it; it has one at the least."""
    first = first_frame_from(caption.in_ms, rate)
    return first, max(first_frame_from(caption.out_ms, rate), first + 1)


def clips_in_lanes(
    captions: Iterable[Caption], rate: FrameRate, name: str, language: str
) -> list[Lane]:
    """Captions in as few lanes as there are captions on one frame, each in the first that is free."""
    lanes: list[list[CaptionClip]] = []
    for caption in sorted(captions, key=lambda one: one.in_ms):
        first, end = frames_of(caption, rate)
        free = next((lane for lane in lanes if lane[-1].end <= first), None)
        if free is None:
            lanes.append(free := [])
        free.append(CaptionClip(first, end, caption))
    # Without captions there is a lane still, for those to come.
    lanes = lanes or [[]]
    return [
        Lane(f"{name} {number}" if number > 1 else name, language, tuple(clips))
        for number, clips in enumerate(lanes, 1)
    ]
