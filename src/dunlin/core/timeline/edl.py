"""Edit decision lists (CMX 3600, as SMPTE 258M describes them): the film as one event, and an event a caption.

The format has four digits of nothing but times; what is said stands in comments: the words in one `COMMENT` a line.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass

from dunlin.core.captions import Caption, spans_of
from dunlin.core.messages import BadInput, message
from dunlin.core.timecode import FrameRate, frame_at, parse_time, start_of_frame, timecode
from dunlin.core.timeline.model import Timeline, TimelineError

__all__ = ["Edits", "read_edl", "written_edl"]

_EVENT = re.compile(
    r"\s*(\d+)\s+(\S+)\s+(\S+)\s+(C|D|W\d+|K\S*)\s+(?:(\d+)\s+)?"
    r"(\d+:\d\d:\d\d[:;.]\d+)\s+(\d+:\d\d:\d\d[:;.]\d+)\s+(\d+:\d\d:\d\d[:;.]\d+)\s+(\d+:\d\d:\d\d[:;.]\d+)\s*"
)
_SAID = re.compile(r"\*\s*COMMENT:\s?(.*)", re.IGNORECASE)
_CLIP = re.compile(r"\*\s*FROM CLIP NAME:\s?(.*)", re.IGNORECASE)
_REEL = "AX"
"""Of what comes from no tape."""
_MOST_NAMED = 120


def written_edl(timeline: Timeline) -> bytes:
    """A timeline as a list. The film is on V and A, lanes of captions on V2 and so on."""
    rate, drop = timeline.rate, timeline.drop_frame

    def told(frame: int) -> str:
        return timecode(start_of_frame(frame, rate), rate, drop_frame=drop)

    lines = [f"TITLE: {_one_line(timeline.name)}", f"FCM: {'' if drop else 'NON-'}DROP FRAME", ""]
    number = 0

    def event(channel: str, first: int, end: int, source: int = 0) -> None:
        nonlocal number
        number += 1
        times = [source, source + end - first, timeline.start + first, timeline.start + end]
        lines.append(f"{number:03}  {_REEL:<8} {channel:<5} C        {' '.join(map(told, times))}")

    if film := timeline.film:
        channel = {(True, True): "B", (True, False): "V", (False, True): "A"}
        event(channel.get((film.has_picture, film.has_sound), "V"), 0, film.frames)
        lines += [f"* FROM CLIP NAME: {_one_line(film.name)}", ""]
    for track, lane in enumerate(timeline.lanes, 2):
        for clip in lane.clips:
            event(f"V{track}", clip.first, clip.end)
            text = clip.caption.text.replace("\r", "")
            lines.append(f"* FROM CLIP NAME: {_one_line(text)[:_MOST_NAMED]}")
            lines += [f"* COMMENT: {line}" for line in text.split("\n")]
            lines.append("")
    for mark in timeline.marks:
        lines.append(
            f"* NOTE {told(timeline.start + mark.first)} {_one_line(mark.name)}: {_one_line(mark.said)}"
        )
    return ("\r\n".join(lines).rstrip() + "\r\n").encode()


def _one_line(text: str) -> str:
    return " ".join(text.split())


@dataclass(frozen=True)
class Edits:
    """What a list says; times are milliseconds from the film's beginning."""

    captions: tuple[Caption, ...]
    cuts_ms: tuple[int, ...]
    """Where one event of the film's pictures ends and the next begins."""
    starts_at: str
    """Timecode that times are counted from."""


@dataclass(frozen=True)
class _Event:
    line: int
    channel: str
    first: int
    end: int
    said: tuple[str, ...]
    clip: str

    @property
    def is_film(self) -> bool:
        """Whether it is on the first track of pictures, or on that and sound."""
        return self.channel in ("V", "V1", "B", "VA", "AA/V", "A/V", "AV")


def read_edl(text: str, rate: FrameRate) -> Edits:
    """Reads a list's captions, which are events with comments or those above the film, and its cuts.

    :param rate: that its frames are counted at, which it does not say
    :raises TimelineError: when it has no events
    """
    events = list(_events(text, rate))
    if not (events or "FCM:" in text.upper()):
        raise TimelineError(message("timeline.no-events"))
    if not events:
        return Edits((), (), timecode(0, rate))
    film = [event for event in events if event.is_film and not event.said]
    titles = [
        event
        for event in events
        if event.said or not (event.is_film or event.channel.startswith("A"))
    ]
    begins = min(event.first for event in film) if film else _hour_before(events, rate)
    captions = tuple(
        Caption(
            f"e{number}", _ms(event.first - begins, rate), _ms(event.end - begins, rate),
            spans_of("\n".join(event.said) or event.clip),
        )
        for number, event in enumerate(titles, 1)
    )  # fmt: skip
    cuts = sorted({event.first for event in film} - {begins})
    return Edits(
        captions, tuple(_ms(at - begins, rate) for at in cuts), timecode(_ms(begins, rate), rate)
    )


def _hour_before(events: list[_Event], rate: FrameRate) -> int:
    """Programmes begin on the hour; lists without the film do not say on which."""
    hour = rate.nominal * 3600
    return min(event.first for event in events) // hour * hour


def _events(text: str, rate: FrameRate) -> Iterator[_Event]:
    drop = False
    found: tuple[int, str, int, int] | None = None
    said: list[str] = []
    clip = ""
    for number, line in enumerate(text.split("\n"), 1):
        if line.upper().startswith("FCM:"):
            drop = "NON" not in line.upper() and rate.counts_drop_frame
            continue
        if event := _EVENT.fullmatch(line):
            if found:
                yield _Event(*found, tuple(said), clip)
            try:
                first, end = (_frame(event[column], rate, drop) for column in (8, 9))
            except BadInput as error:
                raise TimelineError(
                    message("timeline.not-read-at", line=number, reason=error.message)
                ) from None
            found, said, clip = (number, event[3].upper(), first, max(end, first + 1)), [], ""
        elif spoken := _SAID.fullmatch(line.rstrip("\r")):
            said.append(spoken[1])
        elif named := _CLIP.fullmatch(line.rstrip("\r")):
            clip = named[1].strip()
    if found:
        yield _Event(*found, tuple(said), clip)


def _frame(text: str, rate: FrameRate, drop: bool) -> int:
    counted = re.sub(r"[;.](\d+)$", r":\1", text)
    if drop:
        counted = re.sub(r":(\d+)$", r";\1", counted)
    return frame_at(parse_time(counted, rate), rate)


def _ms(frames: int, rate: FrameRate) -> int:
    return start_of_frame(frames, rate)
