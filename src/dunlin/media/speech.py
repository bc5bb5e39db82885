"""Where somebody speaks in a film, found once and kept beside it."""

import json
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import SPEECH_RATE
from dunlin.core.speech.activity import Stretch, levels, speech_stretches
from dunlin.media.drafts import whole_file
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.sound import speech_blocks

__all__ = ["SPEECH_FILE", "find_speech", "speech_in"]

SPEECH_FILE = "speech.json"
_BLOCK_SECONDS = 30


def find_speech(
    film: Path,
    folder: Path,
    duration_ms: int,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> list[Stretch]:
    """Finds the stretches of speech, and writes them into a folder for `speech_in`.

    :raises MediaError: when the sound cannot be decoded
    """
    total = max(duration_ms * SPEECH_RATE // 1000, 1)

    def told() -> Iterator[npt.NDArray[np.int16]]:
        done = 0
        for block in speech_blocks(film, _BLOCK_SECONDS):
            if cancelled():
                raise Cancelled
            yield block
            done += len(block)
            progress(min(done / total, 1.0))

    found = speech_stretches(levels(told()))
    with whole_file(folder / SPEECH_FILE) as draft:
        draft.write_text(json.dumps([[stretch.start_ms, stretch.end_ms] for stretch in found]))
    return found


def speech_in(folder: Path) -> list[Stretch] | None:
    """The stretches of speech kept in a folder, or None while there are none."""
    source = folder / SPEECH_FILE
    if not source.is_file():
        return None
    return [Stretch(start, end) for start, end in json.loads(source.read_text())]
