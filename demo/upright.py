"""The picture of the upright short: the bell-founder by his bell, drawn frame by frame."""

import math
from collections.abc import Iterator
from functools import cache

from picture import FRAME_RATE
from PIL import Image, ImageDraw, ImageFilter
from scenario import SHORT_SECONDS
from sound import TimedLine

__all__ = ["UPRIGHT_HEIGHT", "UPRIGHT_WIDTH", "upright_frames"]

UPRIGHT_WIDTH, UPRIGHT_HEIGHT = 720, 1280
_SEA_FROM = 860
_SKY_TOP, _SKY_BOTTOM = (126, 150, 158), (226, 214, 190)


@cache
def _sky() -> Image.Image:
    image = Image.new("RGB", (UPRIGHT_WIDTH, UPRIGHT_HEIGHT))
    draw = ImageDraw.Draw(image)
    for y in range(UPRIGHT_HEIGHT):
        part = min(1.0, y / _SEA_FROM)
        colour = (round(a + (b - a) * part) for a, b in zip(_SKY_TOP, _SKY_BOTTOM, strict=True))
        draw.line([(0, y), (UPRIGHT_WIDTH, y)], fill=tuple(colour))
    return image


def _sea(draw: ImageDraw.ImageDraw, seconds: float) -> None:
    for row in range(7):
        top = _SEA_FROM + row * 62
        shade = 92 - row * 8
        points = [
            (x, top + 7 * math.sin(x / 70 + seconds * (0.7 + row * 0.1) + row * 1.7))
            for x in range(0, UPRIGHT_WIDTH + 20, 20)
        ]
        outline = [*points, (UPRIGHT_WIDTH, UPRIGHT_HEIGHT), (0, UPRIGHT_HEIGHT)]
        draw.polygon(outline, fill=(shade - 24, shade + 10, shade + 20))


def _shore(draw: ImageDraw.ImageDraw) -> None:
    draw.polygon([(0, 700), (170, 745), (250, 868), (0, 868)], fill=(126, 140, 128))
    draw.polygon([(720, 800), (400, 812), (250, 905), (300, 985), (720, 1010)], fill=(92, 108, 96))


def _frame_with_bell(draw: ImageDraw.ImageDraw, swing: float) -> None:
    wood = (66, 54, 44)
    draw.rectangle([392, 410, 420, 815], fill=wood)
    draw.rectangle([676, 410, 704, 815], fill=wood)
    draw.rectangle([366, 388, 720, 420], fill=wood)
    centre_x, centre_y = 548, 420

    def turned(x: float, y: float) -> tuple[float, float]:
        return (
            centre_x + x * math.cos(swing) - y * math.sin(swing),
            centre_y + x * math.sin(swing) + y * math.cos(swing),
        )

    clapper = turned(-60 * swing, 262)
    draw.line([turned(0, 90), clapper], fill=(50, 44, 40), width=12)
    draw.ellipse(
        [clapper[0] - 19, clapper[1] - 19, clapper[0] + 19, clapper[1] + 19], fill=(50, 44, 40)
    )
    half = [(16, 0), (20, 30), (62, 58), (80, 146), (94, 196), (126, 230)]
    outline = [*half, *[(-x, y) for x, y in reversed(half)]]
    draw.polygon([turned(*point) for point in outline], fill=(176, 125, 46))
    light = [(-56, 70), (-30, 62), (-44, 212), (-92, 212)]
    draw.polygon([turned(*point) for point in light], fill=(205, 158, 82))


def _founder(draw: ImageDraw.ImageDraw, nod: float) -> None:
    coat, x = (96, 70, 54), 214
    draw.polygon([(x - 128, 1280), (x - 70, 640), (x + 70, 640), (x + 128, 1280)], fill=coat)
    draw.polygon([(x + 40, 660), (x + 78, 652), (x + 124, 820), (x + 90, 836)], fill=(84, 60, 46))
    y = 568 + nod
    draw.ellipse([x - 54, y - 58, x + 54, y + 58], fill=(214, 178, 148))
    draw.pieslice([x - 60, y - 70, x + 60, y + 40], 180, 360, fill=(58, 44, 36))
    draw.ellipse([x - 26, y + 26, x + 26, y + 40 + nod], fill=(176, 132, 108))


@cache
def _fog() -> Image.Image:
    """A bank of fog twice as wide as the picture, whose ends meet without a seam."""
    length = UPRIGHT_WIDTH * 2
    image = Image.new("L", (length * 3, UPRIGHT_HEIGHT))
    draw = ImageDraw.Draw(image)
    for index in range(7):
        x, y = index * 331 % length, 620 + index * 89 % 320
        for turn in range(-1, 4):
            at = x + turn * length
            draw.ellipse([at - 300, y - 46, at + 300, y + 46], fill=70 + index * 9)
    return image.filter(ImageFilter.GaussianBlur(46)).crop((length, 0, length * 2, UPRIGHT_HEIGHT))


def upright_frames(lines: list[TimedLine]) -> Iterator[bytes]:
    """Every frame of the short as packed RGB."""
    length = UPRIGHT_WIDTH * 2
    for number in range(SHORT_SECONDS * FRAME_RATE):
        seconds = number / FRAME_RATE
        image = _sky().copy()
        draw = ImageDraw.Draw(image)
        _sea(draw, seconds)
        _shore(draw)
        _frame_with_bell(draw, 0.05 * math.sin(seconds * 0.9))
        speaks = any(
            word.start_ms <= seconds * 1000 <= word.end_ms for line in lines for word in line.words
        )
        _founder(draw, 4 * math.sin(seconds * 9) if speaks else 0)
        drift = round(seconds * 16) % length
        veil = Image.new("L", (UPRIGHT_WIDTH, UPRIGHT_HEIGHT))
        veil.paste(_fog(), (-drift, 0))
        veil.paste(_fog(), (length - drift, 0))
        image.paste((232, 226, 212), (0, 0), veil)
        yield image.tobytes()
