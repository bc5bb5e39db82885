"""Timelines as OpenTimelineIO (the Academy Software Foundation's interchange format, `Timeline.1`)."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import pairwise
from typing import Any

import opentimelineio as otio
from opentimelineio.opentime import RationalTime, TimeRange
from pydantic import TypeAdapter, ValidationError

from dunlin.core.captions import Caption, Look, spans_of
from dunlin.core.captions.look import look_of_stored, stored_look
from dunlin.core.messages import message
from dunlin.core.timecode import FrameRate, start_of_frame
from dunlin.core.timeline.model import (
    CaptionClip,
    Lane,
    Mark,
    Timeline,
    TimelineError,
    frames_of,
)

__all__ = ["ReadTimeline", "read_otio", "written_otio"]

_CAPTION: TypeAdapter[Caption] = TypeAdapter(Caption)
_OURS = "dunlin"
"""Key of what is ours in metadata."""


def written_otio(timeline: Timeline) -> bytes:
    """A timeline as a file. The film has tracks of its own; each lane of captions is a track, in which a caption is a clip
    that is generated, and says in its metadata all that is known of it."""
    rate = float(timeline.rate.fraction)

    def time(frames: int) -> RationalTime:
        return RationalTime(frames, rate)

    def span(first: int, end: int) -> TimeRange:
        return TimeRange(time(first), time(end - first))

    result = otio.schema.Timeline(timeline.name, global_start_time=time(timeline.start))
    result.metadata[_OURS] = {
        "drop_frame": timeline.drop_frame,
        "styles": {name: stored_look(look) for name, look in timeline.styles.items()},
        "style": timeline.style,
        "speakers": dict(timeline.speakers),
    }
    if film := timeline.film:
        kinds = [("Video", film.has_picture), ("Audio", film.has_sound)]
        for kind in (kind for kind, there in kinds if there):
            track = otio.schema.Track(f"Film {kind.lower()}", kind=kind)
            reference = otio.schema.ExternalReference(film.name, span(0, film.frames))
            track.append(otio.schema.Clip(film.name, reference, span(0, film.frames)))
            result.tracks.append(track)
    for lane in timeline.lanes:
        result.tracks.append(_track(lane, span))
    for mark in timeline.marks:
        # The two colours that tell an error from advice are among those that the format names.
        colour = otio.schema.MarkerColor.RED if mark.is_error else otio.schema.MarkerColor.YELLOW
        result.tracks.markers.append(
            otio.schema.Marker(
                mark.name,
                span(mark.first, mark.end),
                colour,
                {_OURS: {"said": mark.said}},
                mark.said,
            )
        )
    text: str = otio.adapters.write_to_string(result, "otio_json", indent=1)
    return text.encode() + b"\n"


def _track(lane: Lane, span: Any) -> otio.schema.Track:
    track = otio.schema.Track(lane.name, kind=otio.schema.TrackKind.Video)
    track.metadata[_OURS] = {"language": lane.language}
    at = 0
    for clip in lane.clips:
        if clip.first > at:
            track.append(otio.schema.Gap(source_range=span(0, clip.first - at)))
        track.append(_clip(clip, span))
        at = clip.end
    return track


def _clip(clip: CaptionClip, span: Any) -> otio.schema.Clip:
    caption, length = clip.caption, clip.end - clip.first
    generated = otio.schema.GeneratorReference(
        "Caption", "text", span(0, length), {"text": caption.text}
    )
    told = {"caption": _CAPTION.dump_python(caption, mode="json", exclude_defaults=True)}
    name = " ".join(caption.text.split()) or "Caption"
    return otio.schema.Clip(name, generated, span(0, length), {_OURS: told})


@dataclass(frozen=True)
class ReadTimeline:
    """What a timeline of another program, or our own, says."""

    is_ours: bool
    captions: tuple[Caption, ...]
    from_markers: bool
    """Whether there were no clips of captions, and markers are read as such."""
    language: str | None
    styles: Mapping[str, Look]
    style: str | None
    speakers: Mapping[str, str]
    cuts_ms: tuple[int, ...]
    """Where one clip of the film ends and the next begins."""
    marks: tuple[Mark, ...]


def read_otio(data: bytes) -> ReadTimeline:
    """Reads a timeline's captions, its cuts and its markers.

    :raises TimelineError: when it is none
    """
    try:
        timeline = otio.adapters.read_from_string(data.decode("utf-8-sig"), "otio_json")
    except (UnicodeDecodeError, ValueError, KeyError, otio.exceptions.OTIOError) as error:
        raise TimelineError(message("timeline.not-read", reason=_first_line(error))) from None
    if not isinstance(timeline, otio.schema.Timeline):
        raise TimelineError(message("timeline.none"))
    try:
        return _read(timeline)
    except (otio.exceptions.OTIOError, ValidationError, TypeError, KeyError, ValueError) as error:
        raise TimelineError(message("timeline.not-read", reason=_first_line(error))) from None


def _first_line(error: Exception) -> str:
    return str(error).strip().partition("\n")[0][:200]


def _read(timeline: otio.schema.Timeline) -> ReadTimeline:
    ours = timeline.metadata.get(_OURS, {})
    styles = {name: look_of_stored(_plain(look)) for name, look in ours.get("styles", {}).items()}
    clips = list(_caption_clips(timeline))
    marks = tuple(_marks(timeline))
    captions = clips
    if not captions:
        captions = [
            Caption(
                f"m{n}", mark.first, max(mark.end, mark.first + 1), spans_of(mark.said or mark.name)
            )
            for n, mark in enumerate(marks, 1)
        ]
    return ReadTimeline(
        is_ours=_OURS in timeline.metadata,
        captions=_with_own_ids(captions),
        from_markers=not clips and bool(marks),
        language=next(filter(None, map(_language, timeline.tracks)), None),
        styles=styles,
        style=ours.get("style") if ours.get("style") in styles else None,
        speakers={who: name for who, name in ours.get("speakers", {}).items() if name in styles},
        cuts_ms=_cuts(timeline),
        marks=marks,
    )


def _language(track: otio.core.Composable) -> str | None:
    language = track.metadata.get(_OURS, {}).get("language")
    return str(language) if language else None


def _with_own_ids(captions: Sequence[Caption]) -> tuple[Caption, ...]:
    """Captions of lanes of several tracks, whose ids may be the same."""
    ids = [caption.id for caption in captions]
    if len(set(ids)) == len(ids):
        return tuple(captions)
    return tuple(replace(caption, id=f"c{number}") for number, caption in enumerate(captions, 1))


def _caption_clips(timeline: otio.schema.Timeline) -> Iterator[Caption]:
    """Captions that are clips, in the order of lanes."""
    number = 0
    for track in timeline.tracks:
        if not isinstance(track, otio.schema.Track):
            continue
        for clip in track.find_clips():
            own = clip.metadata.get(_OURS, {}).get("caption")
            generated = isinstance(clip.media_reference, otio.schema.GeneratorReference)
            if own is None and not generated:
                continue
            number += 1
            range_ = clip.transformed_time_range(clip.trimmed_range(), timeline.tracks)
            rate = _exact(range_.duration.rate)
            first = round(range_.start_time.rescaled_to(range_.duration.rate).value)
            end = first + max(round(range_.duration.value), 1)
            yield _caption(_plain(own), clip, number, first, end, rate)


def _caption(
    own: Any, clip: otio.schema.Clip, number: int, first: int, end: int, rate: FrameRate
) -> Caption:
    """A caption at the frames it stands at now; where nobody moved it, at its own times."""
    in_ms, out_ms = start_of_frame(first, rate), start_of_frame(end, rate)
    if own is None:
        text = clip.media_reference.parameters.get("text", clip.name)
        return Caption(f"c{number}", in_ms, out_ms, spans_of(str(text)))
    caption = _CAPTION.validate_python(own)
    if frames_of(caption, rate) == (first, end):
        return caption
    return replace(caption, in_ms=in_ms, out_ms=out_ms)


def _marks(timeline: otio.schema.Timeline) -> Iterator[Mark]:
    """Markers of the timeline and of its film tracks; their times are milliseconds here, as each may have its own rate."""
    holders = [timeline.tracks, *timeline.tracks, *timeline.find_clips()]
    for holder in holders:
        for marker in holder.markers:
            place = marker.marked_range
            if holder is not timeline.tracks:
                place = holder.transformed_time_range(place, timeline.tracks)
            said = marker.metadata.get(_OURS, {}).get("said") or marker.comment
            first, end = _ms(place.start_time), _ms(place.end_time_exclusive())
            yield Mark(first, max(end, first + 1), marker.name, said)


def _ms(time: RationalTime) -> int:
    return start_of_frame(round(time.value), _exact(time.rate))


def _cuts(timeline: otio.schema.Timeline) -> tuple[int, ...]:
    """Where clips that show something that was shot begin, in the first track of pictures that has some."""
    for track in timeline.video_tracks():
        shot = [
            clip
            for clip in track.find_clips()
            if not isinstance(clip.media_reference, otio.schema.GeneratorReference)
        ]
        if not shot:
            continue
        ranges = [
            clip.transformed_time_range(clip.trimmed_range(), timeline.tracks) for clip in shot
        ]
        return tuple(
            dict.fromkeys(
                _ms(later.start_time)
                for _, later in pairwise(sorted(ranges, key=lambda one: _ms(one.start_time)))
            )
        )
    return ()


def _exact(rate: float) -> FrameRate:
    """The rate that a floating-point number stands for: whole, or a thousandth less, as 30000/1001.

    :raises ValueError: when no film has such a rate
    """
    for denominator in (1, 1001):
        found = Fraction(round(rate * denominator), denominator)
        if abs(float(found) - rate) < 0.002 and (denominator == 1 or found.numerator % 1000 == 0):
            return FrameRate(found.numerator, found.denominator)
    found = Fraction(rate).limit_denominator(1001)
    return FrameRate(found.numerator, found.denominator)


def _plain(value: Any) -> Any:
    """What the package gives, as plain data."""
    if isinstance(value, str | bytes) or value is None:
        return value
    if hasattr(value, "items"):
        return {str(key): _plain(entry) for key, entry in value.items()}
    if hasattr(value, "__iter__"):
        return [_plain(entry) for entry in value]
    return value
