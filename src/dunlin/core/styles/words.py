"""The words of a caption as they are written into the script, with the codes in which they differ from its style."""

from collections.abc import Iterable
from dataclasses import replace
from functools import lru_cache
from math import cos, radians, sin, sqrt

from dunlin.core.captions.model import Span
from dunlin.core.styles.codes import alpha_code, colour_code, escaped, switched
from dunlin.core.styles.measuring import EMOJI_SIZE, text_width
from dunlin.core.styles.model import Style, look_of_span, style_of_words
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.shelf import EMOJI_UNITS, LATIN, emoji_layers, runs_of

__all__ = ["Words", "drawing_codes", "face_name", "full_colour"]

_EMOJI_BELOW = 64
"""Units of it that hang below the base line."""
_SPACE = "\N{NO-BREAK SPACE}"
# Two specks that are too small to be seen make each drawing as large as the whole square.
_EMOJI_CORNERS = "m 0 0 l 1 0 0 1 m 512 512 l 511 512 512 511"
_ON_EDGE = ("bord", "blur", "3c", "3a", "shadow", "4c", "4a")
"""What a ground behind words takes the place of."""


def face_name(style: Style, family: str) -> str:
    """What the renderer calls a font; the black faces are a family of their own to it."""
    return f"{family} Black" if style.weight == 900 and family == LATIN else family


def full_colour(value: str, opacity: float = 1) -> str:
    """A colour with its transparency, as styles of the script have it."""
    return f"&H{alpha_code(opacity)}{colour_code(value)[2:-1]}"


def _shadow_of(style: Style, picture: Script) -> tuple[float, float]:
    """How far the shadow lies to the right of the letters and below them, in pixels."""
    distance = style.shadow * base_size(picture)
    direction = radians(style.shadow_direction)
    return distance * cos(direction), distance * sin(direction)


class Words:
    """Writes the words of captions that are set in a style of the script.

    :param named: the style as it stands in the script
    :param names: what the script calls it, and the same with a ground behind its words
    :param style: the whole look of the caption
    :param turn: codes by which the caption is turned, which a style of the script cannot have
    """

    def __init__(
        self, named: Style, names: tuple[str, str], style: Style, picture: Script, turn: str = ""
    ) -> None:
        self.named, self.names, self.style, self.picture = named, names, style, picture
        self.turn = turn

    def text(self, spans: Iterable[Span], *, upright: bool = False) -> str:
        """Styled words.

        :param upright: letters that stand upright in lines that run downwards are turned back
        """
        result: list[str] = []
        reset = False
        for span in spans:
            look = style_of_words(self.style, span)
            ground = look_of_span(span).background
            for run in runs_of(span.text, look.language, look.font):
                turn = self.turn if reset else ""
                if run.emoji:
                    result.append(self._emoji(run.emoji, look))
                    reset = True
                    continue
                codes = self._codes(look, run.family or LATIN, ground, upright=upright) + turn
                text = escaped(run.text)
                result.append(f"{{{codes}}}{text}{{\\r}}" if codes else text)
                reset = reset or bool(codes)
        return "".join(result)

    def _codes(self, look: Style, family: str, ground: str | None, *, upright: bool) -> str:
        if look is self.named and family == look.font and not upright and _is_in_head(look):
            return ""
        face = f"@{face_name(look, family)}" if upright else face_name(look, family)
        head = _codes_of_head(self.named, self.picture)
        codes = "".join(
            code for name, code in _codes_of(look, face, self.picture).items()
            if code != head[name] and not (ground and name in _ON_EDGE)
        )  # fmt: skip
        if ground:
            edge = f"\\3c{full_colour(ground)}&"
            if look.background_opacity < 1:
                edge += f"\\3a&H{alpha_code(look.background_opacity)}&"
            codes = f"\\r{self.names[1]}{edge}{codes}"
        return codes

    def _emoji(self, name: str, look: Style) -> str:
        """An emoji in line with the text: its layers over each other.

        Each is a drawing as wide as the whole; behind all but the last a space of negative width goes
        back. The isolate keeps their order in lines that run from right to left.
        """
        side = EMOJI_SIZE * look.size * base_size(self.picture)
        scale = side / EMOJI_UNITS * 100
        plain = f"\\bord0\\shad0\\b0\\i0\\u0{self.turn}"
        if look.size != self.named.size:
            # The spaces that go back are as wide as those of the words are.
            plain += f"\\fs{look.size * base_size(self.picture):.1f}"
        if look.strike or look.letter_spacing or look.outline_softness or look.stretch != 1:
            plain += "\\s0\\fsp0\\blur0\\fscx100"
        drawn = []
        for layer in emoji_layers(name):
            codes = f"\\fscx{scale:.3f}\\fscy{scale:.3f}\\pbo{_EMOJI_BELOW}"
            codes += f"\\c{full_colour(layer.colour)}&"
            if (opacity := layer.opacity * look.opacity) < 1:
                codes += f"\\1a&H{alpha_code(opacity)}&"
            drawn.append(f"{{{plain}{codes}\\p1}}{_EMOJI_CORNERS} {layer.path}{{\\p0\\r}}")
        usual = replace(look, font=LATIN, stretch=1, letter_spacing=0)
        space = text_width(_SPACE, usual, self.picture)
        back = f"{{{plain}\\fn{LATIN}\\fsp{-side - space:.2f}}}{_SPACE}{{\\r}}"
        return f"\N{LEFT-TO-RIGHT ISOLATE}{back.join(drawn)}\N{POP DIRECTIONAL ISOLATE}"


def _codes_of(look: Style, face: str, picture: Script) -> dict[str, str]:
    """The code for all that words of a script can look like, by its name."""
    base = base_size(picture)
    return {
        "fn": f"\\fn{face}",
        "fs": f"\\fs{look.size * base:.1f}",
        "i": switched("i", look.italic),
        "b": switched("b", look.weight >= 600),
        "u": switched("u", look.underline),
        "s": switched("s", look.strike),
        "fscx": f"\\fscx{look.stretch * 100:.6g}",
        "fsp": f"\\fsp{look.letter_spacing * look.size * base:.4g}",
        "c": f"\\c{full_colour(look.colour)}&",
        "1a": f"\\1a&H{alpha_code(look.opacity)}&",
        "bord": f"\\bord{look.outline * base:.2f}",
        "blur": _blur_code(look.outline_softness * base),
        "3c": f"\\3c{full_colour(look.outline_colour)}&",
        "3a": f"\\3a&H{alpha_code(look.outline_opacity)}&",
        "shadow": _shadow_code(*_shadow_of(look, picture)),
        "4c": f"\\4c{full_colour(look.shadow_colour)}&",
        "4a": f"\\4a&H{alpha_code(look.shadow_opacity)}&",
    }


def drawing_codes(look: Style, picture: Script) -> str:
    """The codes by which an outline looks as letters do: its colour, edge and shadow."""
    codes = _codes_of(look, "", picture)
    return "\\fscx100" + "".join(codes[name] for name in _OF_DRAWINGS)


_OF_DRAWINGS = ("c", "1a", "bord", "blur", "3c", "3a", "shadow", "4c", "4a")


@lru_cache(256)
def _codes_of_head(named: Style, picture: Script) -> dict[str, str]:
    """The codes of all that words look like without any, as their style in the script has it."""
    # A style of the script has one distance for both ways that its shadow falls, and no softness.
    fall = named.shadow * base_size(picture) / sqrt(2)
    return _codes_of(named, face_name(named, named.font), picture) | {
        "shadow": _shadow_code(fall, fall),
        "blur": _blur_code(0),
    }


def _is_in_head(look: Style) -> bool:
    """Whether a style of the script can have all of a look."""
    return look.shadow_direction == 45 and not look.outline_softness


def _shadow_code(right: float, down: float) -> str:
    return f"\\xshad{right:.2f}\\yshad{down:.2f}"


def _blur_code(softness: float) -> str:
    return f"\\blur{softness:.2f}"
