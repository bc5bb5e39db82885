"""Captions compiled to the script that libass draws, in the browser and in the burn alike."""

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

from dunlin.core.captions.letter_case import shown_spans
from dunlin.core.captions.model import Caption, Placement, Span
from dunlin.core.captions.placing import keypad_number
from dunlin.core.styles.model import Style
from dunlin.core.timecode import FrameRate, first_frame_from

__all__ = ["Script", "base_size", "escaped", "event_lines", "render_script", "script_head"]


@dataclass(frozen=True)
class Script:
    """Picture size in pixels the script is laid out on."""

    width: int
    height: int


def _colour(value: str) -> str:
    red, green, blue = value[1:3], value[3:5], value[5:7]
    return f"&H00{blue}{green}{red}".upper()


def base_size(picture: Script) -> float:
    """Pixels that sizes of a style are parts of."""
    # On upright pictures lines are short; the size goes by the width there, or words would not fit.
    return min(picture.height, picture.width * 1.25)


def script_head(style: Style, picture: Script) -> str:
    """The part of a script before its events."""
    base = base_size(picture)
    side = round(style.side_margin * picture.width)
    numbers = (
        f"{style.size * base:.1f},{_colour(style.colour)},{_colour(style.colour)},"
        f"{_colour(style.outline_colour)},{_colour(style.outline_colour)},"
        f"{-1 if style.bold else 0},0,0,0,100,100,0,0,"
    )
    edge = f"{style.outline * base:.2f},{style.shadow * base:.2f}"
    margins = f"2,{side},{side},{round(style.margin * picture.height)},1"
    return (
        "[Script Info]\nScriptType: v4.00+\n"
        f"PlayResX: {picture.width}\nPlayResY: {picture.height}\n"
        f"LayoutResX: {picture.width}\nLayoutResY: {picture.height}\n"
        # 2: lines break only where the caption does. Collisions stack upward.
        "WrapStyle: 2\nScaledBorderAndShadow: yes\nYCbCr Matrix: None\n\n"
        "[V4+ Styles]\nFormat: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, "
        "OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, "
        "Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding\n"
        f"Style: Caption,{style.font},{numbers}1,{edge},{margins}\n"
        # 3: a filled ground behind the words, in the colour of the outline.
        f"Style: Box,{style.font},{numbers}3,{style.outline * 2 * base:.2f},0,{margins}\n\n"
        "[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
    )


def _time(ms: int, rate: FrameRate) -> str:
    """The hundredth that parts the frames before a time from those from it on.

    The script counts in hundredths and renderers cut frame times short, so an edge is put midway
    between the last frame before it and the first one after: exact at every rate up to 100.
    """
    frame = first_frame_from(ms, rate)
    middle = Fraction((2 * frame - 1) * 100 * rate.denominator, 2 * rate.numerator)
    hundredths = max(round(middle), 0)
    seconds, part = divmod(hundredths, 100)
    minutes, second = divmod(seconds, 60)
    hour, minute = divmod(minutes, 60)
    return f"{hour}:{minute:02}:{second:02}.{part:02}"


def escaped(text: str) -> str:
    """Words of which nothing is taken for a code, with line breaks as the script has them."""
    # A backslash or brace would begin a code; a word joiner behind it takes that meaning away.
    if "\\" in text:
        text = text.replace("\\", "\\\N{WORD JOINER}")
    return text.replace("{", "\\{").replace("}", "\\}").replace("\n", "\\N")


def _text(spans: Iterable[Span]) -> str:
    result = []
    for span in spans:
        codes = f"\\i{int(span.italic)}" * span.italic + "\\u1" * span.underline
        if span.colour:
            codes += f"\\c{_colour(span.colour)}&"
        if span.background:
            codes = f"\\rBox\\3c{_colour(span.background)}&{codes}"
        text = escaped(span.text)
        result.append(f"{{{codes}}}{text}{{\\r}}" if codes else text)
    return "".join(result)


def _place(place: Placement | None, style: Style, picture: Script) -> str:
    """Codes for where a caption stands, if that is not where the style puts it."""
    if place is None:
        return ""
    number = keypad_number(place)
    row, column = divmod(number - 1, 3)
    codes = f"\\an{number}"
    if place.x is not None or place.y is not None:
        x, y = place.x, place.y
        if x is None:
            x = (style.side_margin, 0.5, 1 - style.side_margin)[column]
        if y is None:
            y = (1 - style.margin, 0.5, style.margin)[row]
        codes += f"\\pos({x * picture.width:.2f},{y * picture.height:.2f})"
    return f"{{{codes}}}"


def event_lines(caption: Caption, style: Style, picture: Script, rate: FrameRate) -> str:
    """The script's lines for one caption, each ended by a newline; none for an empty one.

    :param rate: frame rate of the film they are drawn on
    """
    if not caption.text.strip():
        return ""
    times = f"{_time(caption.in_ms, rate)},{_time(caption.out_ms, rate)}"
    place = _place(caption.placement, style, picture)
    return f"Dialogue: 0,{times},Caption,,0,0,0,,{place}{_text(shown_spans(caption))}\n"


def render_script(
    captions: Iterable[Caption], style: Style, picture: Script, rate: FrameRate
) -> str:
    """A whole script, as UTF-8 text."""
    events = "".join(event_lines(caption, style, picture, rate) for caption in captions)
    return script_head(style, picture) + events
