"""A copy of a film that every browser plays."""

from collections.abc import Callable
from pathlib import Path

from dunlin.media.ffmpeg import film_input, run_with_progress
from dunlin.media.probe import Probe

__all__ = ["PROXY_FILE", "write_proxy"]

PROXY_FILE = "copy.mp4"
"""What it is called beside its film."""

_GREATEST_HEIGHT = 720


def write_proxy(
    film: Path,
    facts: Probe,
    output: Path,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Converts a film to H.264 and AAC with a key frame every half second, for quick seeking.

    :raises MediaError: when it cannot be decoded
    """
    picture: list[str] = []
    if facts.video_codec:
        # Square pixels, even sizes, never larger than it was; the frame times stay.
        scale = f"scale=-2:'min({_GREATEST_HEIGHT},trunc(ih/2)*2)',setsar=1"
        picture = [
            "-map", "0:v:0", "-vf", f"scale=trunc(iw*sar/2)*2:trunc(ih/2)*2,{scale}",
            "-c:v", "libx264", "-preset", "veryfast", "-crf", "23", "-pix_fmt", "yuv420p",
            "-force_key_frames", "expr:gte(t,n_forced*0.5)",
        ]  # fmt: skip
    arguments = [
        *film_input(film), *picture, "-map", "0:a:0?", "-sn", "-dn",
        "-c:a", "aac", "-b:a", "128k", "-ac", "2", "-movflags", "+faststart",
    ]  # fmt: skip
    run_with_progress(arguments, output, facts.duration_ms, progress, cancelled)
