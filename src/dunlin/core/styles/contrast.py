"""How well letters stand out from what lies behind them, all the time they are shown."""

from dataclasses import dataclass
from typing import Literal, TypeAlias

import numpy as np
import numpy.typing as npt

from dunlin.core.captions.model import Caption
from dunlin.core.styles.holding import Frame, covered_by
from dunlin.core.styles.model import Style
from dunlin.core.styles.picture import Script

__all__ = ["BACKDROP_STEP_MS", "Backdrop", "Contrast", "contrast_of"]

BACKDROP_STEP_MS = 500
"""From one small picture of a film to the next."""

_HARDEST = 10
"""Per cent of what lies behind that may be worse: a light in the picture does not make letters unreadable."""
_EDGE = 1 / 40
"""Of the letters' size: an outline so wide parts them from whatever is behind it."""

Rgb: TypeAlias = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Backdrop:
    """A film in small pictures, two a second."""

    pictures: npt.NDArray[np.uint8]
    """Pictures, rows, columns, and red, green and blue."""

    def behind(self, box: tuple[float, float, float, float], in_ms: int, out_ms: int) -> Rgb:
        """The colours of a part of the picture at all times between two: rows of red, green and blue, 0 to 1.

        :param box: left, top, right and bottom, as parts of its width and height
        """
        count, rows, columns, _ = self.pictures.shape
        first = min(in_ms // BACKDROP_STEP_MS, count - 1)
        last = min(max(out_ms - 1, in_ms) // BACKDROP_STEP_MS, count - 1)
        left, right = (_cell(side, columns) for side in box[::2])
        top, bottom = (_cell(side, rows) for side in box[1::2])
        part = self.pictures[first : last + 1, top : bottom + 1, left : right + 1]
        return part.reshape(-1, 3) / 255


def _cell(part: float, count: int) -> int:
    return min(max(int(part * count), 0), count - 1)


@dataclass(frozen=True)
class Contrast:
    """The contrast ratio of letters, from 1 to 21, and what parts them from the rest."""

    ratio: float
    against: Literal["background", "outline", "picture"]


def contrast_of(
    caption: Caption, style: Style, frame: Frame, picture: Script, backdrop: Backdrop | None
) -> Contrast | None:
    """The contrast of a caption's letters against what lies behind them (WCAG 2.2, 1.4.3), over its whole time: that
    which nine tenths of it have at least.

    :param style: the caption's
    :returns: None where it is the picture that lies behind, and that is not known
    """
    left, top, right, bottom = covered_by(frame)
    box = (
        left / picture.width,
        top / picture.height,
        right / picture.width,
        bottom / picture.height,
    )
    seen = backdrop.behind(box, caption.in_ms, caption.out_ms) if backdrop else None
    parted: tuple[Literal["background", "outline"], str, float] | None = None
    if style.background is not None and style.background_opacity > 0:
        parted = ("background", style.background, style.background_opacity)
    elif style.outline >= style.size * _EDGE and style.outline_opacity > 0:
        parted = ("outline", style.outline_colour, style.outline_opacity)
    if parted is None:
        if seen is None:
            return None
        return Contrast(_ratio(style, seen), "picture")
    against, colour, opacity = parted
    if seen is None:
        # Half of what shines through may be anything: then nothing is known of it.
        if opacity < 1:
            return None
        seen = np.zeros((1, 3))
    return Contrast(_ratio(style, _over(colour, opacity, seen)), against)


def _over(colour: str, opacity: float, seen: Rgb) -> Rgb:
    return opacity * _rgb(colour) + (1 - opacity) * seen


def _rgb(colour: str) -> Rgb:
    return np.array([int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5)])


def _luminance(colours: Rgb) -> npt.NDArray[np.float64]:
    """Relative luminance (WCAG 2.2, definition of it)."""
    linear = np.where(colours <= 0.04045, colours / 12.92, ((colours + 0.055) / 1.055) ** 2.4)
    return np.asarray(linear @ np.array([0.2126, 0.7152, 0.0722]))


def _ratio(style: Style, behind: Rgb) -> float:
    letters, ground = _luminance(_over(style.colour, style.opacity, behind)), _luminance(behind)
    ratios = (np.maximum(letters, ground) + 0.05) / (np.minimum(letters, ground) + 0.05)
    return round(float(np.percentile(ratios, _HARDEST)), 2)
