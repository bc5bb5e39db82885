"""A film of a sign that goes a known way over a moving ground, with something that passes in front of it."""

import subprocess
from collections.abc import Iterator
from functools import cache
from math import cos, radians, sin
from pathlib import Path

import cv2
import imageio_ffmpeg
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from dunlin.core.styles.following import Mark

__all__ = ["FIRST", "LAST", "SIGN", "SIZE", "film_of_a_sign", "mark_at", "place_at"]

SIZE = (1280, 720)
SIGN = (320, 120)
RATE = 25
FRAMES, FIRST, LAST = 120, 12, 107
"""How many the film has, and of the sign's the first and the last."""

_FONT = Path(__file__).parents[1] / "src/dunlin/fonts/NotoSans-Bold.ttf"


def place_at(frame: int) -> tuple[float, float, float, float]:
    """The middle of the sign in pixels, from the outer edges of the first, how large it is, and its turn in degrees."""
    seconds = frame / RATE
    x, y = 640.5 + 150 * sin(seconds * 0.9), 330.5 + 60 * sin(seconds * 1.7)
    return x, y, 1 + 0.3 * sin(seconds * 0.8), 12 * sin(seconds * 1.1)


def mark_at(frame: int) -> Mark:
    x, y, scale, turn = place_at(frame)
    return Mark(
        frame, x / SIZE[0], y / SIZE[1], SIGN[0] * scale / SIZE[0], SIGN[1] * scale / SIZE[1], turn
    )


def film_of_a_sign(path: Path) -> None:
    command = [
        imageio_ffmpeg.get_ffmpeg_exe(), "-y", "-v", "error", "-f", "rawvideo", "-pix_fmt", "gray",
        "-s", f"{SIZE[0]}x{SIZE[1]}", "-r", str(RATE), "-i", "-", "-c:v", "libx264", "-preset",
        "ultrafast", "-crf", "23", "-pix_fmt", "yuv420p", str(path),
    ]  # fmt: skip
    with subprocess.Popen(command, stdin=subprocess.PIPE) as encoder:
        assert encoder.stdin is not None
        for picture in _pictures():
            encoder.stdin.write(picture.tobytes())
    assert encoder.returncode == 0


def _pictures() -> Iterator[NDArray[np.uint8]]:
    random = np.random.default_rng(4)
    rough = random.integers(0, 256, (SIZE[1] // 8, SIZE[0] // 8), dtype=np.uint8)
    ground = cv2.GaussianBlur(cv2.resize(rough, SIZE, interpolation=cv2.INTER_CUBIC), (0, 0), 3)
    for frame in range(FRAMES):
        picture = np.roll(ground, frame * 2, axis=1).copy()
        if FIRST <= frame <= LAST:
            part = cv2.warpAffine(np.full(SIGN[::-1], 255, np.uint8), _matrix(frame), SIZE) / 255
            sign = cv2.warpAffine(_sign(), _matrix(frame), SIZE)
            picture = (picture * (1 - part) + sign * part).astype(np.uint8)
        # A mast that the sign passes behind.
        left = 380 + frame * 4
        picture[:, left : left + 70] = 66
        yield picture


@cache
def _sign() -> NDArray[np.uint8]:
    image = Image.new("L", SIGN, 70)
    draw = ImageDraw.Draw(image)
    draw.rectangle([4, 4, SIGN[0] - 5, SIGN[1] - 5], outline=220, width=3)
    font = ImageFont.truetype(str(_FONT), 36)
    draw.text((SIGN[0] / 2, SIGN[1] / 2), "QUILLAN POINT", fill=240, anchor="mm", font=font)
    return np.array(image)


def _matrix(frame: int) -> NDArray[np.float64]:
    x, y, scale, turn = place_at(frame)
    c, s = cos(radians(turn)) * scale, sin(radians(turn)) * scale
    across, down = (SIGN[0] - 1) / 2, (SIGN[1] - 1) / 2
    return np.array(
        [
            [c, -s, x - 0.5 - c * across + s * down],
            [s, c, y - 0.5 - s * across - c * down],
        ]
    )
