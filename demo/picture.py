"""The film's picture: a headland, a bell and two people, drawn frame by frame."""

import math
from collections.abc import Iterator
from functools import cache
from pathlib import Path

from PIL import Image, ImageDraw, ImageFilter, ImageFont
from scenario import FILM_SECONDS, TITLE, TITLE_FROM_TO
from sound import TimedLine, strike_times

__all__ = ["FRAME_RATE", "HEIGHT", "WIDTH", "frames"]

WIDTH, HEIGHT, FRAME_RATE = 1280, 720, 25
FONT = Path(__file__).parent.parent / "src/dunlin/fonts/NotoSans-Bold.ttf"

# Shots: seconds they start at, horizontal and vertical centre, and how near the camera stands.
SHOTS = (
    (0.0, 640, 360, 1.0),
    (19.4, 960, 330, 1.7),
    (47.0, 640, 360, 1.0),
    (66.0, 420, 330, 1.45),
    (86.0, 860, 350, 1.5),
    (107.4, 640, 360, 1.0),
)


@cache
def _sky() -> Image.Image:
    image = Image.new("RGB", (WIDTH, HEIGHT))
    draw = ImageDraw.Draw(image)
    top, bottom = (126, 150, 158), (222, 214, 196)
    for y in range(HEIGHT):
        part = min(1.0, y / 470)
        draw.line(
            [(0, y), (WIDTH, y)],
            fill=tuple(round(a + (b - a) * part) for a, b in zip(top, bottom, strict=True)),
        )
    return image


@cache
def _fog() -> Image.Image:
    """Banks of fog twice as wide as the picture, whose ends meet without a seam."""
    length = WIDTH * 2
    image = Image.new("L", (length * 3, HEIGHT))
    draw = ImageDraw.Draw(image)
    for index in range(9):
        x, y = index * 311 % length, 250 + index * 67 % 230
        for turn in range(-1, 4):
            at = x + turn * length
            draw.ellipse([at - 360, y - 38, at + 360, y + 38], fill=90 + index * 9)
    return image.filter(ImageFilter.GaussianBlur(42)).crop((length, 0, length * 2, HEIGHT))


def _sea(draw: ImageDraw.ImageDraw, seconds: float) -> None:
    for row in range(5):
        base = 500 + row * 46
        shade = (70 - row * 7, 98 - row * 9, 106 - row * 9)
        points = [
            (x, base + 7 * math.sin(x / (120 - row * 9) + seconds * (0.7 + row * 0.12) + row * 2))
            for x in range(0, WIDTH + 32, 32)
        ]
        draw.polygon([*points, (WIDTH, HEIGHT), (0, HEIGHT)], fill=shade)


def _headland(draw: ImageDraw.ImageDraw) -> None:
    draw.polygon(
        [(0, 560), (120, 470), (330, 400), (520, 392), (700, 452), (760, 560)], fill=(104, 122, 112)
    )
    draw.polygon([(330, 400), (352, 230), (428, 230), (452, 398)], fill=(238, 230, 212))
    draw.polygon([(362, 300), (440, 300), (444, 330), (358, 330)], fill=(166, 82, 43))
    draw.rectangle([360, 196, 420, 230], fill=(60, 64, 62))
    draw.polygon([(350, 196), (390, 164), (430, 196)], fill=(166, 82, 43))
    draw.polygon(
        [(700, 560), (840, 452), (1110, 440), (1280, 480), (1280, 600), (700, 600)],
        fill=(86, 104, 96),
    )


def _lamp(image: Image.Image, seconds: float) -> None:
    glow = max(0.0, math.cos(seconds * 0.8)) ** 3
    halo = Image.new("L", (180, 180))
    ImageDraw.Draw(halo).ellipse([60, 60, 120, 120], fill=round(210 * glow))
    image.paste((255, 236, 180), (300, 123), halo.filter(ImageFilter.GaussianBlur(18)))


def _bell(draw: ImageDraw.ImageDraw, swing: float) -> None:
    for x in (880, 1040):
        draw.rectangle([x, 262, x + 14, 446], fill=(66, 54, 44))
    draw.rectangle([866, 250, 1068, 268], fill=(66, 54, 44))
    centre_x, centre_y = 967, 268

    def turned(x: float, y: float) -> tuple[float, float]:
        return (
            centre_x + x * math.cos(swing) - y * math.sin(swing),
            centre_y + x * math.sin(swing) + y * math.cos(swing),
        )

    clapper = turned(-30 * swing, 118)
    draw.line([turned(0, 40), clapper], fill=(50, 44, 40), width=6)
    draw.ellipse(
        [clapper[0] - 9, clapper[1] - 9, clapper[0] + 9, clapper[1] + 9], fill=(50, 44, 40)
    )
    outline = [
        (-8, 0),
        (8, 0),
        (10, 14),
        (30, 26),
        (37, 66),
        (44, 88),
        (60, 104),
        (-60, 104),
        (-44, 88),
        (-37, 66),
        (-30, 26),
        (-10, 14),
    ]
    draw.polygon([turned(*point) for point in outline], fill=(176, 125, 46))
    draw.polygon(
        [turned(*p) for p in [(-26, 32), (-14, 28), (-20, 96), (-44, 96)]], fill=(205, 158, 82)
    )


def _person(draw: ImageDraw.ImageDraw, x: float, coat: tuple[int, int, int], nod: float) -> None:
    draw.polygon([(x - 24, 462), (x - 19, 372), (x + 19, 372), (x + 24, 462)], fill=coat)
    y = 350 + nod
    draw.ellipse([x - 15, y - 16, x + 15, y + 16], fill=(214, 178, 148))
    draw.pieslice([x - 17, y - 20, x + 17, y + 12], 180, 360, fill=tuple(c // 2 for c in coat))


def _title(image: Image.Image, seconds: float) -> None:
    start, end = TITLE_FROM_TO
    if not start <= seconds < end:
        return
    shown = min(1.0, (seconds - start) / 0.6, (end - seconds) / 0.6)
    mask = Image.new("L", image.size)
    ImageDraw.Draw(mask).text(
        (640, 110),
        TITLE.upper(),
        fill=round(255 * shown),
        anchor="mm",
        font=ImageFont.truetype(str(FONT), 46),
    )
    image.paste((35, 32, 28), (0, 0), mask)


def _shot(image: Image.Image, seconds: float) -> Image.Image:
    start, x, y, near = next(shot for shot in reversed(SHOTS) if shot[0] <= seconds)
    near *= 1 + (seconds - start) * 0.0012
    half_x, half_y = WIDTH / near / 2, HEIGHT / near / 2
    x = min(max(x, half_x), WIDTH - half_x)
    y = min(max(y, half_y), HEIGHT - half_y)
    box = (x - half_x, y - half_y, x + half_x, y + half_y)
    return image.resize((WIDTH, HEIGHT), Image.Resampling.BILINEAR, box)


def frames(lines: list[TimedLine]) -> Iterator[bytes]:
    """Every frame of the film as packed RGB."""
    strikes = strike_times(lines)
    for number in range(FILM_SECONDS * FRAME_RATE):
        seconds = number / FRAME_RATE
        image = _sky().copy()
        draw = ImageDraw.Draw(image)
        _sea(draw, seconds)
        _headland(draw)
        _lamp(image, seconds)
        since = min((seconds - s for s in strikes if seconds >= s), default=1e9)
        _bell(draw, 0.32 * math.exp(-since / 3) * math.sin(since * 3.2) + 0.012 * math.sin(seconds))
        for speaker, x, coat in (("ilse", 846, (63, 107, 120)), ("tomas", 1130, (96, 70, 54))):
            speaks = any(
                word.start_ms <= seconds * 1000 <= word.end_ms
                for line in lines
                if line.speaker == speaker
                for word in line.words
            )
            _person(draw, x, coat, 3 * math.sin(seconds * 9) if speaks else 0)
        drift = round(seconds * 14) % (WIDTH * 2)
        fog = _fog()
        veil = Image.new("L", (WIDTH, HEIGHT))
        veil.paste(fog, (-drift, 0))
        veil.paste(fog, (WIDTH * 2 - drift, 0))
        image.paste((232, 226, 212), (0, 0), veil)
        image = _shot(image, seconds)
        _title(image, seconds)
        yield image.tobytes()
