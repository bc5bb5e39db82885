"""The film's picture: a headland, a sign, a bell and two people, drawn frame by frame."""

import math
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from random import Random

from PIL import Image, ImageDraw, ImageFilter, ImageFont
from scenario import FILM_SECONDS, SIGN, SIGN_FROM_TO
from sound import TimedLine, strike_times

__all__ = ["FRAME_RATE", "HEIGHT", "SIGN_SIZE", "WIDTH", "frames", "sign_at"]

WIDTH, HEIGHT, FRAME_RATE = 1280, 720, 25
FONT = Path(__file__).parent.parent / "src/dunlin/fonts/NotoSans-Bold.ttf"

SIGN_SIZE = (620, 190)

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


@cache
def _sign() -> Image.Image:
    """The board with the old name of the place, and room beneath it."""
    board = Image.new("RGB", SIGN_SIZE, (122, 58, 38))
    draw = ImageDraw.Draw(board)
    random = Random(1931)
    for _ in range(90):
        y, x = random.randrange(SIGN_SIZE[1]), random.randrange(SIGN_SIZE[0])
        shade = random.choice(((110, 50, 32), (134, 68, 46), (116, 54, 36)))
        draw.line([(x, y), (x + random.randrange(60, 260), y)], fill=shade, width=2)
    draw.rectangle([9, 9, SIGN_SIZE[0] - 10, SIGN_SIZE[1] - 10], outline=(224, 208, 172), width=4)
    for x in (28, SIGN_SIZE[0] - 28):
        for y in (28, SIGN_SIZE[1] - 28):
            draw.ellipse([x - 5, y - 5, x + 5, y + 5], fill=(70, 60, 52))
    font = ImageFont.truetype(str(FONT), 44)
    draw.text((SIGN_SIZE[0] / 2, 58), SIGN, fill=(236, 222, 190), anchor="mm", font=font)
    return board


def sign_at(seconds: float) -> tuple[float, float, float]:
    """Where the middle of the board is, in pixels, and how far it is turned, in degrees clockwise."""
    up = max(0.0, seconds - (SIGN_FROM_TO[1] - 0.6)) / 0.6
    return (
        640 + 16 * math.sin(seconds * 1.3),
        142 + 3 * math.sin(seconds * 2.3) - 260 * up**2,
        2.4 * math.sin(seconds * 1.9) + 0.7 * math.sin(seconds * 3.1),
    )


def _hung_sign(image: Image.Image, seconds: float) -> None:
    """The board on its two ropes: it swings in the wind, and is drawn up before anybody speaks."""
    if seconds >= SIGN_FROM_TO[1]:
        return
    x, y, turn = sign_at(seconds)
    swing = math.radians(turn)
    width, height = SIGN_SIZE
    c, s = math.cos(swing), math.sin(swing)

    def on_sign(across: float, down: float) -> tuple[float, float]:
        return x + across * c - down * s, y + across * s + down * c

    draw = ImageDraw.Draw(image)
    for side in (-1, 1):
        eye = on_sign(side * (width / 2 - 70), -height / 2 + 10)
        draw.line([(640 + side * 210, min(y - 182, -40)), eye], fill=(58, 50, 42), width=5)
    back = (c, s, width / 2 - c * x - s * y, -s, c, height / 2 + s * x - c * y)
    board = _sign().transform(image.size, Image.Transform.AFFINE, back, Image.Resampling.BICUBIC)
    full = Image.new("L", SIGN_SIZE, 255)
    mask = full.transform(image.size, Image.Transform.AFFINE, back, Image.Resampling.BICUBIC)
    image.paste(board, (0, 0), mask)


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
        _hung_sign(image, seconds)
        yield image.tobytes()
