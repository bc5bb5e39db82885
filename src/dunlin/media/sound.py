"""A film's sound, decoded block by block."""

from collections.abc import Generator, Iterable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt

from dunlin.core.messages import message
from dunlin.core.speech import SPEECH_RATE
from dunlin.media.ffmpeg import MediaError, Output, film_input, reading

__all__ = [
    "AS_IT_IS",
    "EndOfSound",
    "Hearing",
    "blocks_between",
    "read_fully",
    "sound_between",
    "speech_blocks",
    "until",
]

# Speech is in the middle of the sound, music to its sides; rumble and hiss are beside its pitches.
# docs/performance.md says which of the chains tried out let most words be heard.
_VOICE_FOCUS = (
    "highpass=f=100,highpass=f=100,lowpass=f=7000,aformat=channel_layouts=stereo,"
    "dialoguenhance=original=0:enhance=1:voice=4,pan=mono|c0=FC"
)


_LEAD_SECONDS = 0.5
"""So far before a passage decoding begins: where there is no picture to begin with, the first block of a sound that is
sought is lost in its decoder, and what follows would come early by up to as much."""


@dataclass(frozen=True)
class Hearing:
    """Which of a film's sounds is heard, from 0, and whether what is no voice is held down."""

    stream: int = 0
    voice_focus: bool = False


AS_IT_IS = Hearing()
"""The first sound, unchanged."""


def speech_blocks(
    path: Path, block_seconds: float, start_seconds: float = 0, hearing: Hearing = AS_IT_IS
) -> Generator[npt.NDArray[np.int16]]:
    """The sound for a recogniser: one channel, `SPEECH_RATE` samples a second.

    :returns: arrays of shape (n,); all are `block_seconds` long but the last
    :raises MediaError: when it cannot be decoded; a sound that gives nothing from its beginning on is
        none, and not a silent one
    """
    size = int(block_seconds * SPEECH_RATE) * 2
    lead = min(start_seconds, _LEAD_SECONDS)
    seek = ["-ss", f"{start_seconds - lead:.3f}"] if start_seconds > lead else []
    rest = ["-ss", f"{lead:.3f}"] if lead else []
    focus = ["-af", _VOICE_FOCUS] if hearing.voice_focus else []
    arguments = [*seek, *film_input(path), *rest, "-vn", "-sn", "-dn", "-map", f"0:a:{hearing.stream}",
                 *focus, "-ac", "1", "-ar", str(SPEECH_RATE), "-f", "s16le"]  # fmt: skip
    with reading(arguments) as stream:
        came = bool(start_seconds)
        while count := read_fully(stream, memoryview(block := bytearray(size))):
            came = True
            yield np.frombuffer(block, np.int16, count // 2)
        if not came:
            raise MediaError(stream.last_said or message("sound.not-decoded"))


def blocks_between(
    path: Path, from_ms: int, to_ms: int | None, hearing: Hearing = AS_IT_IS
) -> Iterable[npt.NDArray[np.int16]]:
    """A part of the sound in blocks of half a minute; None is the film's end."""
    blocks = speech_blocks(path, 30, from_ms / 1000, hearing)
    return blocks if to_ms is None else until(blocks, (to_ms - from_ms) / 1000)


def sound_between(
    path: Path, from_ms: int, to_ms: int, hearing: Hearing = AS_IT_IS
) -> npt.NDArray[np.int16]:
    """A part of the sound, as `speech_blocks` gives it, in one array; shorter where the film ends."""
    blocks = blocks_between(path, from_ms, to_ms, hearing)
    return np.concatenate([np.empty(0, np.int16), *blocks])


def until(
    blocks: Iterable[npt.NDArray[np.int16]], seconds: float
) -> Generator[npt.NDArray[np.int16]]:
    """The first so many seconds of sound in blocks."""
    wanted = round(seconds * SPEECH_RATE)
    for block in blocks:
        yield block[:wanted]
        wanted -= len(block)
        if wanted <= 0:
            return


class EndOfSound:
    """Where a sound came to its end, seen as its blocks are taken for something else."""

    def __init__(self) -> None:
        self.at_ms = 0

    def seen(
        self, from_ms: int, blocks: Iterable[npt.NDArray[np.int16]]
    ) -> Generator[npt.NDArray[np.int16]]:
        """The blocks as they are; the first begins at a time."""
        samples = 0
        for block in blocks:
            samples += len(block)
            self.at_ms = max(self.at_ms, from_ms + samples * 1000 // SPEECH_RATE)
            yield block


def read_fully(stream: Output, into: memoryview) -> int:
    """Fills a buffer from a pipe, which gives what is there; the number of bytes that came."""
    filled = 0
    while filled < len(into) and (count := stream.readinto(into[filled:])):
        filled += count
    return filled
