"""Follows what is marked in a film's picture, frame by frame, forth and back."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from math import atan2, cos, degrees, hypot, radians, sin
from pathlib import Path as File
from typing import TypeAlias, cast

import cv2
import numpy as np
from numpy.typing import NDArray

from dunlin.core.messages import BadInput, message
from dunlin.core.styles.following import Mark, Path, Seen, joined, on_the_way
from dunlin.core.timecode import start_of_frame
from dunlin.media.burn import script_size
from dunlin.media.ffmpeg import Cancelled, film_input, reading
from dunlin.media.probe import Probe

__all__ = ["MOST_FRAMES", "followed", "grey_frames"]

_Grey: TypeAlias = NDArray[np.uint8]
_Points: TypeAlias = NDArray[np.float32]
"""n × 1 × 2."""
_Matrix: TypeAlias = NDArray[np.float64]
"""2×3: from the mark's own pixels to those of a frame; moved, turned and grown alike in both directions."""

MOST_FRAMES = 4_500
"""Three minutes at 25 frames a second, forth and back each."""

_MOST_LINES = 1080
"""Greater pictures are followed in this size."""
_AT_ONCE = 40
"""Frames that are read together on the way back."""

_MOST_PATCH = 480
_LEAST_PATCH = 12
_MARGIN = 0.25
"""Around the mark, as a part of its longer side, what may have moved since the frame before is looked for."""
_MOST_POINTS = 160
_FEWEST_POINTS = 6
_WINDOW = 15
_BACK_PX = 0.8
"""A point that does not come back to within so much of where it was, followed forth and back again, was not followed."""
_ALIKE = 0.7
"""How alike (as a correlation) what is around a point must be to what was around it in the mark."""
_FOUND_AGAIN = 0.25
_OF_USUAL = 0.5
"""It is there where this part of the mark is found again, and of what usually is."""
_PATIENCE_FRAMES = 15
"""So long it is looked for where it was last seen to go, when something came before it."""


def grey_frames(film: File, facts: Probe, first: int, count: int | None = None) -> Iterator[_Grey]:
    """Frames of a film as height × width brightnesses, from a frame on, each once.

    :param count: how many; None is to the film's end
    :raises MediaError: when it cannot be decoded
    """
    rate = facts.frame_rate
    width, height = _size(facts)
    seconds = rate.denominator / rate.numerator
    at = start_of_frame(first, rate) / 1000
    # The grid of frames is the film's own, whatever times it is cut at.
    even = f"fps={rate.numerator}/{rate.denominator}:start_time={at:.4f}"
    arguments = [
        "-ss", f"{max(at - seconds / 2, 0):.4f}", "-copyts", *film_input(film), "-map", "0:v:0",
        "-vf", f"{even},scale={width}:{height}:flags=area,format=gray",
        *([] if count is None else ["-frames:v", str(count)]), "-f", "rawvideo",
    ]  # fmt: skip
    buffer = bytearray(width * height)
    view, filled = memoryview(buffer), 0
    with reading(arguments) as output:
        while got := output.readinto(view[filled:]):
            filled += got
            if filled == len(buffer):
                yield np.frombuffer(bytes(buffer), np.uint8).reshape(height, width)
                filled = 0


def followed(
    film: File,
    facts: Probe,
    marks: Sequence[Mark],
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Path:
    """Where what was marked is, from the frame it is first seen at to the last.

    From each mark it is followed to the next and to the one before, and from the outer ones until it is lost. It is always
    held against what was marked, never against the frame before, so that no error grows.

    :param marks: at least one, in any order; sizes are told against the earliest
    :raises BadInput: when nothing in a mark can be told apart, or there is no such frame
    :raises Cancelled: when `cancelled` came true
    :raises MediaError: when the film cannot be decoded
    """
    ordered = sorted(marks, key=lambda mark: mark.frame)
    done, seen = 0, {}
    total = _total(ordered, facts)

    def told(frames: Iterable[_Grey]) -> Iterator[_Grey]:
        nonlocal done
        for frame in frames:
            if cancelled():
                raise Cancelled
            yield frame
            done += 1
            progress(min(done / total, 0.99))

    for n, mark in enumerate(ordered):
        model = _model(film, facts, mark, ordered[0])
        last = ordered[n + 1].frame if n + 1 < len(ordered) else mark.frame + MOST_FRAMES
        first = ordered[n - 1].frame if n else max(mark.frame - MOST_FRAMES, 0)
        forth = told(grey_frames(film, facts, mark.frame + 1, last - mark.frame))
        back = told(_backwards(film, facts, mark.frame - 1, first))
        before = list(_follow(model, back, -1))
        behind = list(_follow(model, forth, 1))
        seen[mark.frame] = [*reversed(before), model.seen(mark.frame, model.start, 1.0), *behind]
    return joined(ordered, seen)


def _total(marks: Sequence[Mark], facts: Probe) -> int:
    """As many frames as there may be to look at."""
    rate = facts.frame_rate
    end = round(facts.duration_ms * rate.numerator / rate.denominator / 1000)
    before = min(marks[0].frame, MOST_FRAMES)
    behind = min(max(end - marks[-1].frame, 1), MOST_FRAMES)
    return before + behind + 2 * (marks[-1].frame - marks[0].frame)


def _size(facts: Probe) -> tuple[int, int]:
    picture = script_size(facts)
    scale = min(_MOST_LINES / picture.height, 1)
    return round(picture.width * scale), round(picture.height * scale)


def _backwards(film: File, facts: Probe, from_: int, to: int) -> Iterator[_Grey]:
    """Frames from one down to another, read some at a time."""
    while from_ >= to:
        first = max(from_ - _AT_ONCE + 1, to)
        yield from reversed(list(grey_frames(film, facts, first, from_ - first + 1)))
        from_ = first - 1


@dataclass(frozen=True)
class _Model:
    """What was marked, upright and at rest, in pixels of its own, with a margin around it."""

    patch: _Grey
    points: _Points
    """Corners in it that can be told apart."""
    start: _Matrix
    middle: tuple[float, float]
    frame: int
    unit: float
    """How long one of its pixels is in the picture, where the path's scale is 1."""
    picture: tuple[int, int]

    def seen(self, frame: int, matrix: _Matrix, sure: float) -> Seen:
        x, y = matrix @ np.array([*self.middle, 1.0])
        return Seen(
            frame,
            float((x + 0.5) / self.picture[0]),
            float((y + 0.5) / self.picture[1]),
            float(hypot(matrix[0, 0], matrix[1, 0]) / self.unit),
            degrees(atan2(matrix[1, 0], matrix[0, 0])),
            float(sure),
        )


def _model(film: File, facts: Probe, mark: Mark, first: Mark) -> _Model:
    width, height = _size(facts)
    frame = next(grey_frames(film, facts, mark.frame, 1), None)
    if frame is None:
        raise BadInput(message("follow.no-frame"))
    box = mark.width * width, mark.height * height
    # What is large is looked at in less detail; what is small, as it is.
    unit = max(max(box) / _MOST_PATCH, 1.0)
    inner = box[0] / unit, box[1] / unit
    if min(inner) < _LEAST_PATCH:
        raise BadInput(message("follow.too-small"))
    margin = _MARGIN * max(inner)
    size = round(inner[0] + 2 * margin), round(inner[1] + 2 * margin)
    middle = (size[0] - 1) / 2, (size[1] - 1) / 2
    c, s = cos(radians(mark.turn)) * unit, sin(radians(mark.turn)) * unit
    x, y = mark.x * width - 0.5, mark.y * height - 0.5
    start = np.array(
        [
            [c, -s, x - c * middle[0] + s * middle[1]],
            [s, c, y - s * middle[0] - c * middle[1]],
        ]
    )
    patch = _as_in(frame, start, size)
    inside = np.zeros(patch.shape, np.uint8)
    left, top = round(margin), round(margin)
    inside[top : size[1] - top, left : size[0] - left] = 255
    # Of things in the film that are blurred, too, the best that there are.
    points = cv2.goodFeaturesToTrack(patch, _MOST_POINTS, 0.03, 4, mask=inside, blockSize=5)
    if points is None or len(points) < _FEWEST_POINTS or np.ptp(patch[inside > 0]) < 12:
        raise BadInput(message("follow.plain"))
    points = cv2.cornerSubPix(patch, points, (3, 3), (-1, -1), _UNTIL)
    return _Model(
        patch,
        cast(_Points, points),
        start,
        middle,
        mark.frame,
        unit * first.width / mark.width,
        (width, height),
    )


_UNTIL = (cv2.TERM_CRITERIA_COUNT | cv2.TERM_CRITERIA_EPS, 30, 0.01)


def _follow(model: _Model, frames: Iterable[_Grey], direction: int) -> Iterator[Seen]:
    """Where it is in frames that come one after the other, until it is lost."""
    now = before = model.start
    usual: list[float] = []
    missed: list[int] = []
    last = model.seen(model.frame, model.start, 1.0)
    frame = model.frame
    for picture in frames:
        frame += direction
        found, sure = _found(model, picture, _onwards(before, now))
        if found is not None and _is_there(sure, usual):
            here = model.seen(frame, found, sure)
            # What came before it hid it for a while: it went on its way meanwhile.
            yield from _meanwhile(last, here, missed)
            yield here
            before, now, last = (now, found, here) if not missed else (found, found, here)
            usual.append(sure)
            missed = []
        else:
            missed.append(frame)
            before, now = now, _onwards(before, now)
            if len(missed) > _PATIENCE_FRAMES:
                return


def _is_there(sure: float, usual: Sequence[float]) -> bool:
    most = float(np.median(usual[:200])) if usual else 0.0
    return sure >= max(_FOUND_AGAIN, _OF_USUAL * most)


def _meanwhile(last: Seen, here: Seen, frames: Sequence[int]) -> Iterator[Seen]:
    for n, frame in enumerate(frames, 1):
        yield replace(on_the_way(last, here, n / (len(frames) + 1), frame), sure=0.0)


def _onwards(before: _Matrix, now: _Matrix) -> _Matrix:
    """Where it will be, going on as it goes."""
    return now + (now - before) * 0.9 if before is not now else now


def _found(model: _Model, picture: _Grey, guess: _Matrix) -> tuple[_Matrix | None, float]:
    """Where it is in a picture, near to a guess, and how sure that is."""
    matrix = guess
    for levels in (3, 1):
        there = _as_in(picture, matrix, model.patch.shape[::-1])
        moved = _moved(model, there, levels)
        if moved is None:
            return None, 0.0
        matrix = _after(matrix, moved)
    if not 0.2 < hypot(matrix[0, 0], matrix[1, 0]) / hypot(guess[0, 0], guess[1, 0]) < 5:
        return None, 0.0
    return matrix, _alike(model, _as_in(picture, matrix, model.patch.shape[::-1]))


def _as_in(picture: _Grey, matrix: _Matrix, size: tuple[int, int]) -> _Grey:
    """The part of a picture that a matrix leads to, as if it were upright and at rest."""
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    warped = cv2.warpAffine(picture, matrix, size, flags=flags, borderMode=cv2.BORDER_REPLICATE)
    return cast(_Grey, warped)


def _after(matrix: _Matrix, moved: _Matrix) -> _Matrix:
    """What a matrix comes to after a movement in the mark's own pixels."""
    turned = matrix[:, :2] @ moved[:, :2]
    return np.column_stack([turned, matrix[:, :2] @ moved[:, 2] + matrix[:, 2]])


def _moved(model: _Model, there: _Grey, levels: int) -> _Matrix | None:
    """How what was marked lies in its like: by points that are followed there, and back again (Lucas and Kanade,
    1981), and by what most of them agree on."""
    forth, ok = _flow(model.patch, there, model.points, levels)
    back, ok_back = _flow(there, model.patch, forth, levels)
    off = np.linalg.norm(back - model.points, axis=2).ravel()
    good = ok & ok_back & (off < _BACK_PX)
    if good.sum() < _FEWEST_POINTS:
        return None
    moved, _ = cv2.estimateAffinePartial2D(
        model.points[good], forth[good], method=cv2.RANSAC, ransacReprojThreshold=1.0
    )
    return cast("_Matrix | None", moved)


def _flow(
    one: _Grey, other: _Grey, points: _Points, levels: int
) -> tuple[_Points, NDArray[np.bool_]]:
    """Where points of one picture are in another, and of which that is known."""
    found, known, _ = cv2.calcOpticalFlowPyrLK(
        one, other, points, points.copy(), winSize=(_WINDOW, _WINDOW), maxLevel=levels
    )
    return cast(_Points, found), np.asarray(known).ravel() == 1


def _alike(model: _Model, there: _Grey) -> float:
    """Which part of the points have around them what they had: by correlation, whatever the light."""
    one, other = model.patch.astype(np.float32), there.astype(np.float32)
    window = (_WINDOW, _WINDOW)
    mean_one, mean_other = cv2.blur(one, window), cv2.blur(other, window)
    both = cv2.blur(one * other, window) - mean_one * mean_other
    spread_one = cv2.blur(one * one, window) - mean_one**2
    spread_other = cv2.blur(other * other, window) - mean_other**2
    # What is as plain as paper is like nothing.
    alike = both / np.sqrt(np.maximum(spread_one, 1) * np.maximum(spread_other, 1))
    at = np.round(model.points.reshape(-1, 2)).astype(int)
    return float((alike[at[:, 1], at[:, 0]] > _ALIKE).mean())
