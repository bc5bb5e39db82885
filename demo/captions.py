"""The finished caption track and the client's delivery spec."""

from itertools import pairwise
from math import cos, radians, sin
from pathlib import Path

from picture import HEIGHT, SIGN_SIZE, WIDTH, sign_at
from scenario import SPEAKERS, TITLE
from sound import TimedLine

from dunlin.core.captions import Caption, Look, Placement, spans_of
from dunlin.core.formats import Context, Document, format_called
from dunlin.core.specs import Spec, write_spec
from dunlin.core.styles.following import Mark, Stood, moments_along
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame
from dunlin.media.following import followed
from dunlin.media.probe import probe

__all__ = ["delivery_spec", "finished_track", "title_on_sign"]

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


_TITLE_FROM_TO = (1000, 5600)
_TITLE_SIZE = 0.062
_BENEATH_PX = 36
"""The title stands beneath what is written on the sign, so far from its middle."""


def title_on_sign(film: Path) -> bytes:
    """Dunlin JSON of the film's title, stuck to the sign in its picture as a user would: marked once, and followed."""
    in_ms, out_ms = _TITLE_FROM_TO
    frame = 60
    x, y, turn = sign_at(frame / _RATE.nominal)
    share = (SIGN_SIZE[0] / WIDTH, SIGN_SIZE[1] / HEIGHT)
    path = followed(film, probe(film), [Mark(frame, x / WIDTH, y / HEIGHT, *share, turn)])
    stood = Stood(
        (x - _BENEATH_PX * sin(radians(turn))) / WIDTH,
        (y + _BENEATH_PX * cos(radians(turn))) / HEIGHT,
        _TITLE_SIZE,
        turn,
    )
    moments = moments_along(
        path, stood, frame, WIDTH / HEIGHT,
        lambda number: start_of_frame(number, _RATE) - in_ms, 0.3 / HEIGHT, out_ms - in_ms,
    )  # fmt: skip
    caption = Caption(
        "sign", in_ms, out_ms, spans_of(TITLE), style="Sign",
        placement=Placement("middle", "center", stood.x, stood.y),
        look=Look(size=_TITLE_SIZE, background_opacity=0.0, moments=moments),
    )  # fmt: skip
    document = Document((caption,), "en")
    return format_called("json").write(document, Context(_RATE))
