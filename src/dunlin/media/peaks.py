"""The sound's outline as a pyramid: the least and greatest sample of ever longer stretches."""

import json
from collections.abc import Callable
from dataclasses import asdict, dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt

from dunlin.core.messages import message
from dunlin.media.drafts import whole_file
from dunlin.media.ffmpeg import Cancelled, MediaError, film_input, reading
from dunlin.media.sound import read_fully

__all__ = ["LEVELS", "PEAKS_FILES", "PeaksInfo", "peaks_info", "peaks_slice", "write_peaks"]

LEVELS = 5
PEAKS_FILES = (*(f"peaks.{level}" for level in range(LEVELS)), "peaks.json")
"""What a pyramid is kept in; the last is there once it is whole."""
_FACTOR = 4
# At 48 kHz, 4 milliseconds: finer than a frame of any film, and five pixels at the closest scale.
_RATE, _BASE_SAMPLES = 48_000, 192
# A whole number of stretches, so that blocks need no joining.
_BLOCK_BYTES = 2 * _BASE_SAMPLES * 2048


@dataclass(frozen=True)
class PeaksInfo:
    """What stands in a pyramid: `counts[level]` pairs, each for `pair_ms[level]` milliseconds."""

    duration_ms: int
    counts: tuple[int, ...]
    pair_ms: tuple[float, ...]


def write_peaks(
    film: Path,
    folder: Path,
    duration_ms: int,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> PeaksInfo:
    """Decodes a film's sound once, and writes its pyramid.

    Memory is bounded: the lowest level goes to disk as it comes.

    :param folder: gets `peaks.json` and one file of signed bytes (low, high, low, high, …) a level
    :raises MediaError: when no sound could be decoded
    """
    arguments = [*film_input(film), "-vn", "-sn", "-dn", "-map", "0:a:0",
                 "-ac", "1", "-ar", str(_RATE), "-f", "s16le"]  # fmt: skip
    stretch = _BASE_SAMPLES
    samples = 0
    rest = np.empty(0, np.int16)
    with (
        reading(arguments) as stream,
        whole_file(folder / PEAKS_FILES[0]) as draft,
        draft.open("wb") as base,
    ):
        # One buffer for all blocks: fresh memory for each would cost as much as the sums.
        buffer = bytearray(_BLOCK_BYTES)
        while count := read_fully(stream, memoryview(buffer)):
            if cancelled():
                raise Cancelled
            block = np.frombuffer(buffer, np.int16, count // 2)
            samples += len(block)
            block = np.concatenate((rest, block)) if len(rest) else block
            whole = len(block) // stretch * stretch
            base.write(_low_high(block[:whole].reshape(-1, stretch)))
            rest = block[whole:].copy()
            progress(min(samples * 1000 / _RATE / max(duration_ms, 1), 1.0))
        if len(rest):
            base.write(_low_high(rest.reshape(1, -1)))
    if not samples:
        raise MediaError(stream.last_said or message("sound.not-decoded"))
    counts = [-(-samples // stretch)]
    for level in range(1, LEVELS):
        counts.append(_write_level(folder, level, counts[-1]))
    pair_ms = tuple(1000 * stretch * _FACTOR**level / _RATE for level in range(LEVELS))
    info = PeaksInfo(round(samples * 1000 / _RATE), tuple(counts), pair_ms)
    with whole_file(folder / PEAKS_FILES[-1]) as draft:
        draft.write_text(json.dumps(asdict(info)))
    return info


def _low_high(block: npt.NDArray[np.int16]) -> bytes:
    """Least and greatest of each row, as signed bytes."""
    pairs = np.empty((len(block), 2), np.int16)
    block.min(axis=1, out=pairs[:, 0])
    block.max(axis=1, out=pairs[:, 1])
    return (pairs >> 8).astype(np.int8).tobytes()


def _write_level(folder: Path, level: int, count: int) -> int:
    """Writes a level from the one below, and gives its number of pairs."""
    below = np.memmap(folder / PEAKS_FILES[level - 1], np.int8, "r", shape=(count, 2))
    starts = np.arange(0, count, _FACTOR)
    pairs = np.empty((len(starts), 2), np.int8)
    np.minimum.reduceat(below[:, 0], starts, out=pairs[:, 0])
    np.maximum.reduceat(below[:, 1], starts, out=pairs[:, 1])
    with whole_file(folder / PEAKS_FILES[level]) as draft:
        draft.write_bytes(pairs.tobytes())
    return len(starts)


def peaks_info(folder: Path) -> PeaksInfo | None:
    """The pyramid in a folder, or None while there is none."""
    source = folder / PEAKS_FILES[-1]
    if not source.is_file():
        return None
    data = json.loads(source.read_text())
    return PeaksInfo(data["duration_ms"], tuple(data["counts"]), tuple(data["pair_ms"]))


def peaks_slice(folder: Path, level: int, first: int, count: int) -> bytes:
    """Pairs of a level from `first` on, at most `count`, as signed bytes low, high.

    :raises FileNotFoundError: when there is no such level
    """
    with (folder / f"peaks.{level}").open("rb") as pairs:
        pairs.seek(first * 2)
        return pairs.read(count * 2)
