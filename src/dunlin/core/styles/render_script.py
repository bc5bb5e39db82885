"""Captions compiled to the script that libass draws, in the page and in the burn alike."""

from collections.abc import Iterable
from dataclasses import replace

from dunlin.core.captions.letter_case import shown_spans
from dunlin.core.captions.model import Caption, Placement, Span
from dunlin.core.captions.placing import keypad_number
from dunlin.core.styles.codes import colour_code, edge_time, escaped, point_code, switched
from dunlin.core.styles.directed import directed
from dunlin.core.styles.measuring import EMOJI_SIZE, text_width
from dunlin.core.styles.model import Style, StyleSheet, placement_of, style_of_words
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.shelf import EMOJI_UNITS, LATIN, emoji_layers, runs_of
from dunlin.core.styles.wrapping import joined_lines, lines_of, spans_width, wrapped
from dunlin.core.timecode import FrameRate

__all__ = ["Script", "event_lines", "render_script", "script_head"]

_EMOJI_BELOW = 64
"""Units of it that hang below the base line."""
_SPACE = "\N{NO-BREAK SPACE}"
# Two specks that are too small to be seen make each drawing as large as the whole square.
_EMOJI_CORNERS = "m 0 0 l 1 0 0 1 m 512 512 l 511 512 512 511"
_BY_FIRST_LETTER = -1
"""In the place of a character set: each line runs as its first letter does."""
_RUBY_SIZE = 0.5
"""Height of a reading, as a part of that of the words it stands beside (JLREQ 3.3.3)."""


def script_head(sheet: StyleSheet | Style, picture: Script) -> str:
    """The part of a script before its events."""
    sheet = sheet if isinstance(sheet, StyleSheet) else StyleSheet(sheet)
    listed = [sheet.default, *sheet.styles.values()]
    return (
        "[Script Info]\nScriptType: v4.00+\n"
        f"PlayResX: {picture.width}\nPlayResY: {picture.height}\n"
        f"LayoutResX: {picture.width}\nLayoutResY: {picture.height}\n"
        # 2: lines break only where the caption does. Collisions stack upward.
        "WrapStyle: 2\nScaledBorderAndShadow: yes\nYCbCr Matrix: None\n\n"
        "[V4+ Styles]\nFormat: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, "
        "OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, "
        "Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding\n"
        + "".join(_style_lines(style, n, picture) for n, style in enumerate(listed))
        + "\n[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
    )


def _style_lines(style: Style, number: int, picture: Script) -> str:
    """A style of the script, and the same with a filled ground behind its words."""
    base = base_size(picture)
    side = round(style.side_margin * picture.width)
    name, box = _script_names(number)
    numbers = (
        f"{style.size * base:.1f},{_full_colour(style.colour)},{_full_colour(style.colour)},"
        f"{_full_colour(style.outline_colour)},{_full_colour(style.outline_colour)},"
        f"{-int(style.weight >= 600)},{-int(style.italic)},{-int(style.underline)},0,100,100,0,0,"
    )
    edge = f"{style.outline * base:.2f},{style.shadow * base:.2f}"
    alignment = keypad_number(placement_of(style))
    margins = f"{alignment},{side},{side},{round(style.margin * picture.height)},{_BY_FIRST_LETTER}"
    return (
        f"Style: {name},{_face_name(style, style.font)},{numbers}1,{edge},{margins}\n"
        # 3: a filled ground behind the words, in the colour of the outline.
        f"Style: {box},{_face_name(style, style.font)},{numbers}3,{style.outline * 2 * base:.2f},0,{margins}\n"
    )


def _script_names(number: int) -> tuple[str, str]:
    return (f"Caption{number}", f"Box{number}") if number else ("Caption", "Box")


def _face_name(style: Style, family: str) -> str:
    """What the renderer calls a font; the black faces are a family of their own to it."""
    return f"{family} Black" if style.weight == 900 and family == LATIN else family


def _full_colour(value: str) -> str:
    return f"&H00{colour_code(value)[2:-1]}"


def event_lines(
    caption: Caption, sheet: StyleSheet | Style, picture: Script, rate: FrameRate
) -> str:
    """The script's lines for one caption, each ended by a newline; none for an empty one.

    Its look is folded from its named style, its speaker's, its own and that of its words.

    :param rate: frame rate of the film they are drawn on
    """
    if not caption.text.strip():
        return ""
    sheet = sheet if isinstance(sheet, StyleSheet) else StyleSheet(sheet)
    number = [None, *sheet.styles].index(caption.style) if caption.style in sheet.styles else 0
    named = sheet.styles.get(caption.style or "", sheet.default)
    style = sheet.style_of(caption)
    drawing = _Drawing(named, _script_names(number), style, picture)
    spans = directed(wrapped(shown_spans(caption), style, picture), style.language)
    times = f"{edge_time(caption.in_ms, rate)},{edge_time(caption.out_ms, rate)}"
    placed = caption.placement is not None
    if style.vertical:
        texts = [drawing.upright(spans)]
    elif any(span.ruby for span in spans):
        texts = drawing.with_readings(spans)
    else:
        texts = [drawing.placed(placed) + drawing.text(spans)]
    head = f"Dialogue: 0,{times},{_script_names(number)[0]},,0,0,0,,"
    return "".join(f"{head}{text}\n" for text in texts)


class _Drawing:
    """How the words of one caption are written into the script."""

    def __init__(self, named: Style, names: tuple[str, str], style: Style, picture: Script) -> None:
        self.named, self.names, self.style, self.picture = named, names, style, picture

    def text(self, spans: Iterable[Span], *, upright: bool = False) -> str:
        """Words with the codes in which they differ from their style in the script.

        :param upright: letters that stand upright in lines that run downwards are turned back
        """
        result = []
        for span in spans:
            look = style_of_words(self.style, span)
            for run in runs_of(span.text, look.language):
                if run.emoji:
                    result.append(self._emoji(run.emoji, look))
                    continue
                codes = self._codes(look, run.family or LATIN, upright)
                text = escaped(run.text)
                result.append(f"{{{codes}}}{text}{{\\r}}" if codes else text)
        return "".join(result)

    def _codes(self, look: Style, family: str, upright: bool) -> str:
        named = self.named
        if look is named and family == look.font and not upright:
            return ""
        face = f"@{_face_name(look, family)}" if upright else _face_name(look, family)
        codes = f"\\fn{face}" * (face != _face_name(named, named.font))
        if look.size != named.size:
            codes += f"\\fs{look.size * base_size(self.picture):.1f}"
        if look.italic != named.italic:
            codes += switched("i", look.italic)
        if (look.weight >= 600) != (named.weight >= 600):
            codes += switched("b", look.weight >= 600)
        if look.underline != named.underline:
            codes += switched("u", look.underline)
        if look.colour != named.colour:
            codes += f"\\c{_full_colour(look.colour)}&"
        if look.outline_colour != named.outline_colour:
            codes += f"\\3c{_full_colour(look.outline_colour)}&"
        if look.background:
            codes = f"\\r{self.names[1]}\\3c{_full_colour(look.background)}&{codes}"
        return codes

    def _emoji(self, name: str, look: Style) -> str:
        """An emoji in line with the text: its layers over each other.

        Each is a drawing as wide as the whole; behind all but the last a space of negative width goes
        back. The isolate keeps their order in lines that run from right to left.
        """
        side = EMOJI_SIZE * look.size * base_size(self.picture)
        scale = side / EMOJI_UNITS * 100
        plain = "\\bord0\\shad0\\b0\\i0\\u0"
        drawn = []
        for layer in emoji_layers(name):
            codes = f"\\fscx{scale:.3f}\\fscy{scale:.3f}\\pbo{_EMOJI_BELOW}"
            codes += f"\\c{_full_colour(layer.colour)}&"
            if layer.opacity < 1:
                codes += f"\\1a&H{round(255 * (1 - layer.opacity)):02X}&"
            drawn.append(f"{{{plain}{codes}\\p1}}{_EMOJI_CORNERS} {layer.path}{{\\p0\\r}}")
        space = text_width(_SPACE, look, self.picture)
        back = f"{{{plain}\\fn{LATIN}\\fsp{-side - space:.2f}}}{_SPACE}{{\\r}}"
        return f"\N{LEFT-TO-RIGHT ISOLATE}{back.join(drawn)}\N{POP DIRECTIONAL ISOLATE}"

    def placed(self, said: bool) -> str:
        """Codes for where the caption stands, if that is not where its style in the script puts it."""
        place = placement_of(self.style)
        if not said and place == placement_of(self.named):
            return ""
        codes = f"\\an{keypad_number(place)}"
        if place.x is not None or place.y is not None:
            codes += point_code(*self._point(place), self.picture.width, self.picture.height)
        return f"{{{codes}}}"

    def _point(self, place: Placement) -> tuple[float, float]:
        """The point of the picture, in parts of it, that a caption's own point comes to lie on."""
        side, margin = self.style.side_margin, self.style.margin
        x = {"left": side, "center": 0.5, "right": 1 - side}[place.align]
        y = {"top": margin, "middle": 0.5, "bottom": 1 - margin}[place.anchor]
        return (x if place.x is None else place.x, y if place.y is None else place.y)

    def upright(self, spans: tuple[Span, ...]) -> str:
        """Words whose lines run from top to bottom: lines turned clockwise about the caption's point.

        The `@` before a font's name turns letters that stand upright in such lines back.
        """
        place = placement_of(self.style)
        lines = lines_of(spans)
        if self.style.vertical == "lr":
            lines.reverse()
        turned = joined_lines(lines)
        # What is above lies to the right once it is turned, and what is to the left above.
        column = ("top", "middle", "bottom").index(place.anchor)
        row = ("left", "center", "right").index(place.align)
        codes = f"\\an{row * 3 + column + 1}"
        codes += point_code(*self._point(place), self.picture.width, self.picture.height)
        return f"{{{codes}\\frz-90}}{self.text(turned, upright=True)}"

    def with_readings(self, spans: tuple[Span, ...]) -> list[str]:
        """An event for each line and each reading, put where they belong by their measured widths."""
        place = placement_of(self.style)
        height = self.style.size * base_size(self.picture)
        above = height * _RUBY_SIZE
        lines = lines_of(spans)
        heights = [height + above * any(span.ruby for span in line) for line in lines]
        x, y = self._point(place)
        rows = ("top", "middle", "bottom").index(place.anchor)
        top = y * self.picture.height - sum(heights) * rows / 2
        columns = ("left", "center", "right").index(place.align)
        texts = []
        for line, taken in zip(lines, heights, strict=True):
            top += taken
            width = spans_width(line, self.style, self.picture)
            left = x * self.picture.width - width * columns / 2
            texts.append(f"{{\\an1\\pos({left:.2f},{top:.2f})}}{self.text(line)}")
            for span in line:
                own = spans_width([span], self.style, self.picture)
                if span.ruby:
                    small = replace(self.style, size=self.style.size * _RUBY_SIZE)
                    drawing = _Drawing(self.named, self.names, small, self.picture)
                    reading = drawing.text([replace(span, text=span.ruby, ruby=None)])
                    at = f"\\an2\\pos({left + own / 2:.2f},{top - height:.2f})"
                    texts.append(f"{{{at}}}{reading}")
                left += own
        return texts


def render_script(
    captions: Iterable[Caption], sheet: StyleSheet | Style, picture: Script, rate: FrameRate
) -> str:
    """A whole script, as UTF-8 text."""
    events = "".join(event_lines(caption, sheet, picture, rate) for caption in captions)
    return script_head(sheet, picture) + events
