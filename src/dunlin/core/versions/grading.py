"""What is done to the colours of a picture, as one matrix: so that a player's filter and the burn do the same."""

from typing import TypeAlias

from dunlin.core.versions.model import Colours, Grade

__all__ = ["ColourMatrix", "colour_matrix", "cube_of"]

ColourMatrix: TypeAlias = tuple[tuple[float, float, float, float], ...]
"""Three rows: red, green and blue as they become of red, green and blue as they were, and what is added; all from 0 to 1."""

_LUMA = (0.2126, 0.7152, 0.0722)
"""What red, green and blue give to how light a colour is (ITU-R BT.709-6, 3.2)."""
_GAMMA = 2.2
"""Of the light that a picture's numbers stand for, as most screens have it."""
_MIDDLE = 0.5
_WARM = 0.14
"""By what part red grows and blue falls in the warmest picture."""

_SATURATION: dict[Grade, float] = {
    "filmed": 1, "flat-calm": 0.55, "bright": 1.3, "printed": 0, "dusk": 0.75,
}  # fmt: skip
_TINT: dict[Grade, tuple[float, float, float]] = {"dusk": (0.86, 0.95, 1.1)}


def colour_matrix(colours: Colours) -> ColourMatrix:
    """The colours of a grade first, then its light and warmth, then its contrast about the middle."""
    saturation = _SATURATION[colours.grade]
    tint = _TINT.get(colours.grade, (1, 1, 1))
    light = 2 ** (colours.exposure / _GAMMA)
    warm = (1 + _WARM * colours.warmth, 1.0, 1 - _WARM * colours.warmth)
    contrast = 1 + colours.contrast
    rows = []
    for channel in range(3):
        gain = tint[channel] * light * warm[channel] * contrast
        mixed = (
            gain * ((1 - saturation) * _LUMA[other] + saturation * (other == channel))
            for other in range(3)
        )
        rows.append((*mixed, _MIDDLE * (1 - contrast)))
    return tuple((round(r, 6), round(g, 6), round(b, 6), round(add, 6)) for r, g, b, add in rows)


def cube_of(matrix: ColourMatrix) -> str:
    """A matrix as a look-up table of two steps a side, in the form of .cube files.

    Between its corners values go evenly, which is what a matrix does, and nothing is cut off on the way.
    """
    lines = ["LUT_3D_SIZE 2"]
    # Red goes fastest.
    corners = ((red, green, blue) for blue in (0, 1) for green in (0, 1) for red in (0, 1))
    for red, green, blue in corners:
        values = (a * red + b * green + c * blue + add for a, b, c, add in matrix)
        lines.append(" ".join(f"{value:.6f}" for value in values))
    return "\n".join(lines) + "\n"
