"""Where a film's picture changes from one shot to the next."""

import re
from collections.abc import Callable
from pathlib import Path

from dunlin.media.ffmpeg import Cancelled, film_input, reading
from dunlin.media.probe import Probe

__all__ = ["shot_changes"]

# Per cent of change between two pictures: below it are movement and light, above it cuts.
_THRESHOLD = 8
_LINE = re.compile(rb"pts_time:([\d.]+)|lavfi\.scd\.time=([\d.]+)")


def shot_changes(
    film: Path,
    facts: Probe,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> list[int]:
    """Milliseconds of the first frame of each shot but the first, in order.

    Told by the change of brightness from frame to frame, on a small copy of the picture.

    :raises Cancelled: when `cancelled` came true
    """
    if not facts.video_codec:
        return []
    look = (
        f"scale=192:-2:flags=fast_bilinear,scdet=threshold={_THRESHOLD},"
        "metadata=mode=print:file=-:direct=1"
    )
    arguments = [*film_input(film), "-map", "0:v:0", "-an", "-vf", look, "-f", "null"]
    found: list[int] = []
    with reading(arguments) as output:
        rest = b""
        while piece := output.read(1 << 16):
            *lines, rest = (rest + piece).split(b"\n")
            for line in lines:
                if match := _LINE.search(line):
                    if match[2]:
                        found.append(round(float(match[2]) * 1000))
                    else:
                        progress(min(float(match[1]) * 1000 / max(facts.duration_ms, 1), 1.0))
            if cancelled():
                raise Cancelled
    return found
