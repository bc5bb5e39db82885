"""Captions alone, on nothing: as a film with transparency or as pictures, for editing programs."""

import tempfile
from collections.abc import Callable, Iterable, Mapping
from pathlib import Path
from types import MappingProxyType

from dunlin.core.captions import Caption
from dunlin.core.delivery.alone import Transparent
from dunlin.core.delivery.encoding import Passage
from dunlin.core.styles import Script, StyleSheet, render_script
from dunlin.core.timecode import FrameRate
from dunlin.media.burn import plain_picture
from dunlin.media.ffmpeg import run_with_progress
from dunlin.media.fonts import LAID_OUT, fonts_alone, script_laid_out

__all__ = ["write_alone"]

# ProRes with a fixed measure of detail: looking for one that fills a rate takes five times as long, and letters on nothing
# need no rate. Alpha of 8 bits is as much as is drawn.
_CODECS: Mapping[Transparent, tuple[str, ...]] = MappingProxyType({
    "prores": ("-c:v", "prores_ks", "-profile:v", "4444", "-qscale:v", "4", "-alpha_bits", "8"),
    "vp9": ("-c:v", "libvpx-vp9", "-crf", "24", "-b:v", "0", "-row-mt", "1", "-deadline", "realtime", "-cpu-used", "7",
            "-auto-alt-ref", "0"),
    "png": ("-c:v", "png", "-compression_level", "1"),
})  # fmt: skip
_PIXELS: Mapping[Transparent, str] = MappingProxyType(
    {"prores": "yuva444p10le", "vp9": "yuva420p", "png": "rgba"}
)
# Said, as programs take what says nothing for this or for that, and colours come out otherwise (ITU-R BT.709).
_COLOURS = "setparams=range=tv:color_primaries=bt709:color_trc=bt709:colorspace=bt709"


def write_alone(
    captions: Iterable[Caption],
    sheet: StyleSheet,
    picture: Script,
    rate: FrameRate,
    passage: Passage,
    kind: Transparent,
    output: Path,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Writes captions as they are drawn, on nothing, frame by frame.

    :param picture: size of the frames; captions are laid out on it
    :param passage: of the film, on frames of the rate
    :param output: a file, or for pictures a folder that is not there yet; in it they are numbered from 000001
    :raises MediaError: when it cannot be written
    :raises Cancelled: when `cancelled` came true
    """
    script = render_script(captions, sheet, picture, rate)
    seconds = passage.length_ms / 1000
    source = plain_picture(picture, rate, "black@0", seconds, _PIXELS[kind])
    begins = f"{passage.from_ms / 1000:.3f}/TB"
    coloured = [] if kind == "png" else [_COLOURS]
    drawn = ",".join(
        [*coloured, f"setpts=PTS+{begins}", f"{LAID_OUT}:alpha=1", f"setpts=PTS-{begins}"]
    )
    with script_laid_out(script, output) as folder:
        arguments = [*source, "-vf", drawn, *_CODECS[kind]]
        told = (passage.length_ms, progress, cancelled, folder, fonts_alone(folder))
        if kind != "png":
            run_with_progress(arguments, output, *told)
            return
        with tempfile.TemporaryDirectory(
            prefix=f".{output.name}-", suffix=".part", dir=output.absolute().parent
        ) as name:
            pictures = Path(name) / output.name
            pictures.mkdir()
            run_with_progress(arguments, pictures / "%06d.png", *told)
            pictures.replace(output)
