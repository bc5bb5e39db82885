"""The finished caption track and the client's delivery spec."""

from itertools import pairwise

from scenario import SPEAKERS
from sound import TimedLine

from dunlin.core.captions import Caption, spans_of
from dunlin.core.formats import Context, Document, format_called
from dunlin.core.specs import Spec, write_spec
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = ["delivery_spec", "finished_track"]

_RATE = FrameRate(25)
_CLIENT = Spec(
    id="ternholm",
    name="Ternholm Pictures",
    characters_per_line=38,
    lines=2,
    reading_speed=18,
    least_duration_ms=800,
    greatest_duration_ms=6000,
    least_gap_frames=2,
)


def delivery_spec() -> str:
    """The limits of Ternholm Pictures, who ordered the film's captions."""
    return write_spec(_CLIENT)


def _captions(line: TimedLine) -> list[Caption]:
    """The captions of one spoken line, held until their last word ends."""
    words = iter(line.words)
    captions = []
    for text in line.text.split("|"):
        rows = [" ".join(row.split()) for row in text.split("/")]
        spoken = [next(words) for row in rows for _ in row.split()]
        first = start_of_frame(frame_at(spoken[0].start_ms, _RATE), _RATE)
        captions.append(
            Caption("", first, spoken[-1].end_ms, spans_of("\n".join(rows)), SPEAKERS[line.speaker])
        )
    return captions


def finished_track(lines: list[TimedLine]) -> bytes:
    """Dunlin JSON of the captions as they were delivered."""
    drafts = [caption for line in lines for caption in _captions(line)]
    captions = []
    for number, (draft, after) in enumerate(pairwise([*drafts, None]), 1):
        assert draft is not None
        needed = round(len(draft.text.replace("\n", "")) * 1000 / _CLIENT.reading_speed) + 1
        wanted = max(draft.out_ms + 320, draft.in_ms + max(needed, 1000))
        out = start_of_frame(first_frame_from(wanted, _RATE), _RATE)
        if after is not None:
            out = min(out, after.in_ms - start_of_frame(_CLIENT.least_gap_frames, _RATE))
        captions.append(Caption(f"c{number}", draft.in_ms, out, draft.spans, draft.speaker))
    return format_called("json").write(Document(tuple(captions), "en"), Context(_RATE))
