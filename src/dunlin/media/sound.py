"""A film's sound, decoded block by block."""

from collections.abc import Generator
from io import FileIO
from pathlib import Path

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import SPEECH_RATE
from dunlin.media.ffmpeg import film_input, reading

__all__ = ["read_fully", "speech_blocks"]


def speech_blocks(
    path: Path, block_seconds: float, start_seconds: float = 0
) -> Generator[npt.NDArray[np.int16]]:
    """The sound for a recogniser: one channel, `SPEECH_RATE` samples a second.

    :returns: arrays of shape (n,); all are `block_seconds` long but the last
    """
    size = int(block_seconds * SPEECH_RATE) * 2
    seek = ["-ss", f"{start_seconds:.3f}"] if start_seconds else []
    arguments = [*seek, *film_input(path), "-vn", "-sn", "-dn", "-map", "0:a:0",
                 "-ac", "1", "-ar", str(SPEECH_RATE), "-f", "s16le"]  # fmt: skip
    with reading(arguments) as stream:
        while count := read_fully(stream, memoryview(block := bytearray(size))):
            yield np.frombuffer(block, np.int16, count // 2)


def read_fully(stream: FileIO, into: memoryview) -> int:
    """Fills a buffer from a pipe, which gives what is there; the number of bytes that came."""
    filled = 0
    while filled < len(into) and (count := stream.readinto(into[filled:])):
        filled += count
    return filled
