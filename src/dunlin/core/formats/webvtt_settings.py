"""WebVTT's cue settings: where a cue stands."""

from collections.abc import Callable
from dataclasses import replace

from dunlin.core.captions.bounds import one_line
from dunlin.core.captions.model import Placement
from dunlin.core.messages import Message, message

__all__ = ["read", "written"]

# A cue's line is 5.33 % of the picture's height (WebVTT 1, 7.4: font size 5vh, normal line height).
_LINE = 0.0533
_ALIGNS = {"start": "left", "left": "left", "center": "center", "middle": "center",
           "end": "right", "right": "right"}  # fmt: skip
_LINE_ALIGNS = {"start": "top", "center": "middle", "end": "bottom"}


def read(settings: str, odd: Callable[[Message], None]) -> tuple[Placement | None, str | None]:
    """The placement that cue settings ask for, and the settings themselves where they say more."""
    place = Placement()
    for setting in settings.split():
        name, _, value = setting.partition(":")
        try:
            place = _with(place, name, value)
        except (ValueError, KeyError):
            odd(message("oddities.cue-setting", setting=setting[:60]))
    found = None if place == Placement() else place
    return found, None if written(found, None) == settings else settings


def _with(place: Placement, name: str, value: str) -> Placement:
    if name == "align":
        return replace(place, align=_ALIGNS[value])  # type: ignore[arg-type]
    if name == "position":
        return replace(place, x=_part(value.split(",")[0]))
    if name == "size":
        return replace(place, width=_part(value))
    if name == "vertical":
        if value not in ("rl", "lr"):
            raise ValueError(value)
        return replace(place, vertical=value)  # type: ignore[arg-type]
    if name == "line":
        return _with_line(place, *value.split(",")[:2])
    if name != "region":
        raise ValueError(name)
    return place


def _with_line(place: Placement, at: str, align: str = "start") -> Placement:
    if at.endswith("%"):
        anchor, y = _LINE_ALIGNS[align], _part(at)
        if (anchor, y) == ("middle", 0.5):
            return replace(place, anchor="middle")
        return replace(place, anchor=anchor, y=y)  # type: ignore[arg-type]
    number = int(at)
    if number >= 0:
        return replace(place, anchor="top", y=round(number * _LINE, 4) if number else None)
    above = round(1 + (number + 1) * _LINE, 4) if number < -1 else None
    return replace(place, anchor="bottom", y=above)


def _part(value: str) -> float:
    if not value.endswith("%"):
        raise ValueError(value)
    part = round(float(value[:-1]) / 100, 4)
    if not 0 <= part <= 1:
        raise ValueError(value)
    return part


def written(place: Placement | None, kept: str | None) -> str:
    """Cue settings for a placement.

    :param kept: settings that a file had; they are given back as long as they say the same
    """
    if kept is not None and read(kept, lambda message: None)[0] == place:
        return one_line(kept).replace("-->", "")
    if place is None:
        return ""
    parts = []
    if place.vertical:
        parts.append(f"vertical:{place.vertical}")
    if place.y is not None:
        # `start` is what a line has when it does not say.
        align = {"top": "", "middle": ",center", "bottom": ",end"}[place.anchor]
        parts.append(f"line:{_percent(place.y)}{align}")
    elif place.anchor != "bottom":
        parts.append("line:0" if place.anchor == "top" else "line:50%,center")
    if place.x is not None:
        parts.append(f"position:{_percent(place.x)}")
    if place.width is not None:
        parts.append(f"size:{_percent(place.width)}")
    if place.align != "center":
        parts.append(f"align:{place.align}")
    return " ".join(parts)


def _percent(part: float) -> str:
    return f"{round(part * 100, 2):g}%"
