"""The words of the render script, which is also a caption format: colours, places, times, escapes."""

from fractions import Fraction

from dunlin.core.timecode import FrameRate, first_frame_from

__all__ = ["alpha_code", "colour_code", "edge_time", "escaped", "point_code", "switched"]


def colour_code(value: str) -> str:
    """`#RRGGBB` as the script writes it, blue first."""
    return f"&H{value[5:7]}{value[3:5]}{value[1:3]}&".upper()


def alpha_code(opacity: float) -> str:
    """How much is let through, as the script writes it: two hexadecimal digits, 00 for nothing."""
    return f"{round(255 * (1 - opacity)):02X}"


def switched(name: str, on: bool) -> str:
    """The code that puts a style of words on or off, as `i`, `b` and `u`."""
    return f"\\{name}{int(on)}"


def point_code(name: str, x: float, y: float, digits: str = ".2f") -> str:
    """The code, such as `pos` and `org`, that names a point of the picture in pixels."""
    return f"\\{name}({x:{digits}},{y:{digits}})"


def escaped(text: str) -> str:
    """Words of which nothing is taken for a code, with line breaks as the script has them."""
    # A backslash or brace would begin a code; a word joiner behind it takes that meaning away.
    if "\\" in text:
        text = text.replace("\\", "\\\N{WORD JOINER}")
    return text.replace("{", "\\{").replace("}", "\\}").replace("\n", "\\N")


def edge_time(ms: int, rate: FrameRate) -> str:
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
