"""A caption style."""

from dataclasses import dataclass

__all__ = ["STYLES", "Style"]


@dataclass(frozen=True)
class Style:
    """The look of captions. Sizes are parts of the picture's height, colours `#RRGGBB`."""

    id: str
    name: str
    font: str = "Noto Sans"
    bold: bool = True
    size: float = 0.07
    """Height of the line, from ascent to descent; 50 pixels on a 720-line picture."""
    colour: str = "#FFFFFF"
    outline_colour: str = "#14191B"
    outline: float = 0.0046
    shadow: float = 0.0014
    margin: float = 0.055
    """Distance of the lowest line from the picture's lower edge."""
    side_margin: float = 0.06
    """Part of the picture's width kept free on either side."""


_HOUSE = Style("house", "House")

STYLES: dict[str, Style] = {_HOUSE.id: _HOUSE}
"""Style by id; `house` looks right on any picture: white, bold, with a dark edge."""
