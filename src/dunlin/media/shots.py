"""Where a film's picture changes from one shot to the next."""

import re
from collections.abc import Callable, Sequence
from pathlib import Path

from dunlin.media.backdrop import BACKDROP_FILTER, backdrop_file
from dunlin.media.drafts import whole_file
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
    folder: Path | None = None,
) -> list[int]:
    """Milliseconds of the first frame of each shot but the first, in order.

    Told by the change of brightness from frame to frame, on a small copy of the picture.

    :param folder: where small pictures of the film are kept for `backdrop_in`, made in the same go
    :raises Cancelled: when `cancelled` came true
    """
    if not facts.video_codec:
        return []
    look = (
        f"scale=192:-2:flags=fast_bilinear,scdet=threshold={_THRESHOLD},"
        "metadata=mode=print:file=-:direct=1"
    )
    if folder is None:
        alone = ["-map", "0:v:0", "-an", "-vf", look, "-f", "null"]
        return _told([*film_input(film), *alone], facts, progress, cancelled)
    with whole_file(backdrop_file(folder)) as draft:
        both = f"[0:v:0]split[shots][small];[shots]{look}[told];[small]{BACKDROP_FILTER}[kept]"
        arguments = [
            *film_input(film), "-filter_complex", both,
            "-map", "[kept]", "-f", "rawvideo", str(draft), "-map", "[told]", "-f", "null",
        ]  # fmt: skip
        return _told(arguments, facts, progress, cancelled)


def _told(
    arguments: Sequence[str],
    facts: Probe,
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> list[int]:
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
