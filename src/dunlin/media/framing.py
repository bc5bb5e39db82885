"""The picture of a version as ffmpeg's filters: a window over the film, or the whole film over a blurred ground, in its colours."""

from collections.abc import Sequence
from pathlib import Path

from dunlin.core.styles import Script
from dunlin.core.versions.grading import colour_matrix, cube_of
from dunlin.core.versions.model import UNCHANGED, Version
from dunlin.core.versions.window import Way, ways_across, window_size

__all__ = ["BLUR", "GROUND_LIGHT", "framing_filters"]

BLUR = 0.03
"""Standard deviation of the blur of a ground, in parts of the picture's width."""
GROUND_LIGHT = 0.75
"""How light a ground is, of what the film is."""

_GROUND_PARTS = 8
"""The ground is blurred at this part of the size: it has no detail, and costs little so."""
_CUBE = "colours.cube"


def framing_filters(
    version: Version, film: Script, picture: Script, scale: float, folder: Path
) -> list[str]:
    """The filters that make a version's picture of the film's, which has the shape it is shown in.

    :param film: the size the film is shown in
    :param picture: the version's picture in the same measure
    :param scale: how many times as large it is written
    :param folder: where ffmpeg runs; what the filters read is laid out there
    """
    width, height = _even(picture.width * scale), _even(picture.height * scale)
    filters = []
    if version.shape is not None and version.whole:
        filters.append(_over_ground(width, height))
    else:
        # Scaled first: a window that glides goes in steps of two pixels, which are small ones then.
        kept = window_size(version, film)
        across = _even(film.width * width / kept.width)
        down = _even(film.height * height / kept.height)
        filters += [f"scale={across}:{down}", _window(version, width, height)]
    filters.append("setsar=1")
    if version.colours != UNCHANGED:
        (folder / _CUBE).write_text(cube_of(colour_matrix(version.colours)), "ascii")
        filters.append(f"lut3d=file={_CUBE}:interp=tetrahedral")
    return filters


def _even(pixels: float) -> int:
    return max(round(pixels / 2) * 2, 2)


def _over_ground(width: int, height: int) -> str:
    """The whole film in the middle, over itself, blurred and a little darker."""
    small = f"{max(width // _GROUND_PARTS, 2)}:{max(height // _GROUND_PARTS, 2)}"
    sigma = BLUR * width / _GROUND_PARTS
    dark = ":".join(f"{c}{c}={GROUND_LIGHT}" for c in "rgb")
    return (
        "split[ground][film];"
        f"[ground]scale={small}:force_original_aspect_ratio=increase,crop={small},"
        f"gblur=sigma={sigma:.3f}:steps=3,colorchannelmixer={dark},scale={width}:{height}:flags=bicubic[blurred];"
        f"[film]scale={width}:{height}:force_original_aspect_ratio=decrease:force_divisible_by=2[whole];"
        "[blurred][whole]overlay=(W-w)/2:(H-h)/2"
    )


def _window(version: Version, width: int, height: int) -> str:
    moments = version.moments
    x = _expression(ways_across(moments), "in_w", width)
    y = _expression(ways_across(moments, down=True), "in_h", height)
    return f"crop={width}:{height}:'{x}':'{y}'"


def _expression(ways: Sequence[Way], side: str, kept: int) -> str:
    """A window's first pixel as an expression of the frame's time, which ffmpeg asks for at each frame."""
    return f"clip({_tree(ways)}*{side}-{kept}/2,0,{side}-{kept})"


def _tree(ways: Sequence[Way]) -> str:
    """The place of the middle: halved at each step, as expressions may not be nested as deep as there may be moments."""
    if len(ways) == 1:
        return _piece(ways[0])
    half = len(ways) // 2
    # Half a millisecond earlier: times of frames are rounded to whole ones.
    begins = (ways[half].from_ms - 0.5) / 1000
    return f"if(lt(t,{begins:.4f}),{_tree(ways[:half])},{_tree(ways[half:])})"


def _piece(way: Way) -> str:
    if way.to_ms is None:
        return f"{way.value:.6f}"
    start, length = way.from_ms / 1000, (way.to_ms - way.from_ms) / 1000
    part = f"clip((t-{start:.3f})/{length:.3f},0,1)"
    return f"({way.value:.6f}+{way.to - way.value:.6f}*(st(0,{part})*ld(0)*(3-2*ld(0))))"
