"""How a film is written: picture, size, frame rate, passage and sound."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Annotated, Literal, TypeAlias, get_args

from pydantic import Field

from dunlin.core.messages import BadInput, message
from dunlin.core.timecode import FrameRate, first_frame_from, start_of_frame

__all__ = [
    "AS_THE_FILM",
    "CODECS",
    "ENDINGS",
    "Codec",
    "Encoding",
    "Passage",
    "Quality",
    "SoundWay",
    "needs_passage",
    "on_frames",
]

Codec: TypeAlias = Literal["h264", "hevc", "vp9", "prores"]
CODECS: tuple[Codec, ...] = get_args(Codec)

Quality: TypeAlias = Literal["best", "film", "small"]
"""As good as can be; as the film looks; or as small as can be borne."""

SoundWay: TypeAlias = Literal["kept", "anew", "none"]
"""As the film has it where the file can hold it; written anew in any case; or no sound."""

ENDINGS: Mapping[Codec, str] = MappingProxyType(
    {"h264": ".mp4", "hevc": ".mp4", "vp9": ".webm", "prores": ".mov"}
)
"""Of the files that pictures of a codec are written in."""


@dataclass(frozen=True)
class Passage:
    """From a time of the film up to another, in milliseconds."""

    from_ms: Annotated[int, Field(ge=0)]
    to_ms: Annotated[int, Field(ge=0)]

    @property
    def length_ms(self) -> int:
        return self.to_ms - self.from_ms


@dataclass(frozen=True)
class Encoding:
    """How a film is written."""

    codec: Codec = "h264"
    quality: Quality = "film"
    crf: Annotated[int, Field(ge=0, le=63)] | None = None
    """Constant rate factor in the codec's own measure, in the place of a quality; ProRes has none."""
    height: Annotated[int, Field(ge=64, le=4320)] | None = None
    """Lines of the picture, if it shall be scaled; its shape stays."""
    rate: FrameRate | None = None
    """Frames a second, if others than the film's."""
    passage: Passage | None = None
    """What of the film is written, if not the whole."""
    sound: SoundWay = "kept"
    fast_start: bool = True
    """Whether what a player needs first stands first, so that it plays while it is loaded; of MP4 and MOV."""

    @property
    def ending(self) -> str:
        """Of the file, with its dot."""
        return ENDINGS[self.codec]


AS_THE_FILM = Encoding()
"""H.264 in the film's own size and at its own rate, the whole of it with its sound."""


def needs_passage(passage: Passage | None, duration_ms: int) -> None:
    """:raises BadInput: when nothing of a film lies in it"""
    if passage and not passage.from_ms < min(passage.to_ms, duration_ms):
        raise BadInput(message("encoding.no-passage"))


def on_frames(passage: Passage | None, duration_ms: int, rate: FrameRate) -> Passage:
    """What of a film is written: whole frames, from the first that begins in a passage to the last. None is all of it.

    :raises BadInput: when nothing of the film lies in it
    """
    if passage is None:
        return Passage(0, duration_ms)
    needs_passage(passage, duration_ms)
    begins = start_of_frame(first_frame_from(passage.from_ms, rate), rate)
    ends = start_of_frame(first_frame_from(passage.to_ms, rate), rate)
    return Passage(begins, max(min(ends, duration_ms), begins + 1))
