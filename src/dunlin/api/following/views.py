"""What is followed in the picture, as it goes over the wire."""

from typing import Annotated, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

from dunlin.api.wire import View
from dunlin.core.captions.bounds import Milliseconds
from dunlin.core.captions.look import Moment
from dunlin.core.styles.following import Mark, Path
from dunlin.core.timecode import FrameRate, frame_at, start_of_frame

__all__ = ["FollowRequest", "MarkView", "PathView", "StuckRequest", "StuckView", "path_view"]

_Share: TypeAlias = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
_Side: TypeAlias = Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)]


class MarkView(BaseModel):
    """A box in the picture at a time: its middle and size in parts of the picture, and how far it is turned."""

    model_config = ConfigDict(extra="forbid")

    at_ms: Milliseconds
    x: _Share
    y: _Share
    width: _Side
    height: _Side
    turn: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0

    def on_frames(self, rate: FrameRate) -> Mark:
        """The same at the frame that is shown at its time."""
        frame = frame_at(self.at_ms, rate)
        return Mark(frame, self.x, self.y, self.width, self.height, self.turn)


class FollowRequest(BaseModel):
    """What is followed for a caption. Sizes are told against the earliest mark."""

    model_config = ConfigDict(extra="forbid")

    caption: Annotated[str, Field(max_length=64)]
    marks: Annotated[list[MarkView], Field(min_length=1, max_length=100)]


class PathView(View):
    """Where what was marked is, a figure for each frame from the first on."""

    first_ms: int
    end_ms: int
    """Where its last frame ends."""
    width: float
    height: float
    """Of the box where its scale is 1, in parts of the picture."""
    x: list[float]
    """Its middle, as `y`."""
    y: list[float]
    scale: list[float]
    turn: list[float]
    sure: list[float]
    """Which part of the mark was found again."""


class StuckRequest(BaseModel):
    """`at_ms` is when the caption stands where it is wanted."""

    model_config = ConfigDict(extra="forbid")

    caption: Annotated[str, Field(max_length=64)]
    job: Annotated[str, Field(max_length=64)]
    at_ms: Milliseconds
    take_times: bool = False


class StuckView(View):
    """The times and moments that a caption would have; `moments` are from `in_ms` on."""

    in_ms: int
    out_ms: int
    moments: list[Moment]


def path_view(path: Path, rate: FrameRate) -> PathView:
    def all_of(name: str, digits: int) -> list[float]:
        return [round(getattr(seen, name), digits) for seen in path.seen]

    return PathView(
        first_ms=start_of_frame(path.seen[0].frame, rate),
        end_ms=start_of_frame(path.seen[-1].frame + 1, rate),
        width=path.width,
        height=path.height,
        x=all_of("x", 6),
        y=all_of("y", 6),
        scale=all_of("scale", 5),
        turn=all_of("turn", 3),
        sure=all_of("sure", 2),
    )
