"""Where a film's picture changes from one shot to the next."""

import json
import re
from collections.abc import Callable, Sequence
from pathlib import Path

from dunlin.media.backdrop import BACKDROP_FILE, BACKDROP_FILTER
from dunlin.media.drafts import whole_file
from dunlin.media.ffmpeg import Cancelled, film_input, reading
from dunlin.media.probe import Probe

__all__ = ["SHOTS_FILES", "shot_changes", "shots_found"]

_FILE = "shots.json"
SHOTS_FILES = (BACKDROP_FILE, _FILE)
"""What is kept of a look through a film; the last is there once all is."""

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

    :param folder: where they are kept for `shots_found`, and small pictures of the film for `backdrop_in`, made in the same go
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
    with whole_file(folder / BACKDROP_FILE) as draft:
        both = f"[0:v:0]split[shots][small];[shots]{look}[told];[small]{BACKDROP_FILTER}[kept]"
        arguments = [
            *film_input(film), "-filter_complex", both,
            "-map", "[kept]", "-f", "rawvideo", str(draft), "-map", "[told]", "-f", "null",
        ]  # fmt: skip
        found = _told(arguments, facts, progress, cancelled)
    with whole_file(folder / _FILE) as draft:
        draft.write_text(json.dumps(found))
    return found


def shots_found(folder: Path) -> list[int]:
    """What was found of the film in a folder, whatever people made of it since."""
    return list(map(int, json.loads((folder / _FILE).read_text())))


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
