"""The film in passages short enough to be typed by ear, one after the other."""

from collections.abc import Sequence
from dataclasses import dataclass

from dunlin.core.speech.activity import Stretch
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = ["Passage", "next_passage"]

# Shorter breaks are drawn breath, and are typed through.
_PAUSE_MS = 350
# As many words as are kept in mind while they are typed.
_LONGEST_MS = 7000
_LEAD_MS, _TAIL_MS = 300, 250
# The eye needs a moment after the voice.
_HOLD_MS = 200


@dataclass(frozen=True)
class Passage:
    """What is repeated, from `from_ms` to `to_ms`, and the caption that would stand there: on frames,
    from the onset of speech to a moment after its end."""

    from_ms: int
    to_ms: int
    in_ms: int
    out_ms: int


def next_passage(
    speech: Sequence[Stretch],
    after_ms: int,
    duration_ms: int,
    rate: FrameRate,
    *,
    length_ms: int | None = None,
    before_ms: int | None = None,
    gap_ms: int = 0,
) -> Passage | None:
    """The passage to type next.

    It begins a little before the next speech, and ends behind the next pause, or after `length_ms`.
    Where no speech was found, time goes on in steps of that length.

    :param speech: in order, no two overlapping
    :param after_ms: what is typed already
    :param length_ms: of the passage; None to go up to the next pause in speech
    :param before_ms: the in of the caption that comes after, if there is one
    :param gap_ms: least time between two captions
    :returns: None where nobody speaks any more
    """
    start_ms = after_ms + gap_ms if after_ms else 0
    ahead = [stretch for stretch in speech if stretch.end_ms > start_ms]
    if speech and not ahead:
        return None
    onset = max(ahead[0].start_ms, start_ms) if ahead else start_ms
    if onset >= duration_ms:
        return None
    if length_ms is None and ahead:
        voice_ends = _before_pause(ahead, onset)
        to_ms = voice_ends + _TAIL_MS
    else:
        to_ms = onset + (length_ms or _LONGEST_MS)
        spoken = [stretch.end_ms for stretch in ahead if stretch.start_ms < to_ms]
        voice_ends = min(spoken[-1], to_ms) if spoken else to_ms
    first = frame_at(onset, rate)
    if start_of_frame(first, rate) < start_ms:
        first = first_frame_from(start_ms, rate)
    after = first_frame_from(min(voice_ends + _HOLD_MS, duration_ms), rate)
    following = [s.start_ms for s in ahead if s.start_ms >= voice_ends]
    for comes_ms in (*following[:1], *([] if before_ms is None else [before_ms])):
        if comes_ms - gap_ms > onset:
            after = min(after, frame_at(comes_ms - gap_ms, rate))
    return Passage(
        max(onset - _LEAD_MS, 0),
        min(to_ms, duration_ms),
        start_of_frame(first, rate),
        start_of_frame(max(after, first + 1), rate),
    )


def _before_pause(ahead: Sequence[Stretch], onset: int) -> int:
    """The end of speech before its next pause, or its longest break where it goes on too long."""
    end = ahead[0].end_ms
    breaks: list[tuple[int, int]] = []
    for stretch in ahead[1:]:
        pause = stretch.start_ms - end
        if pause >= _PAUSE_MS:
            break
        breaks.append((pause, end))
        end = stretch.end_ms
    if end - onset <= _LONGEST_MS:
        return end
    inside = [found for found in breaks if onset < found[1] <= onset + _LONGEST_MS]
    return max(inside)[1] if inside else onset + _LONGEST_MS
