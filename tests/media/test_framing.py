"""Pictures of versions as they are burned: where their window is in each frame, what lies around a whole film, their colours."""

from pathlib import Path

import av
import numpy as np
import pytest

from dunlin.core.captions import Caption, Span
from dunlin.core.delivery.encoding import Encoding
from dunlin.core.styles import STYLES, Script
from dunlin.core.timecode import FrameRate, start_of_frame
from dunlin.core.versions.grading import colour_matrix
from dunlin.core.versions.model import Colours, Version, WindowMoment
from dunlin.core.versions.window import picture_of, place_at
from dunlin.media.burn import burn
from dunlin.media.probe import probe
from tests.conftest import ffmpeg

FILM = Script(640, 360)
RATE = FrameRate(25)


@pytest.fixture(scope="module")
def ramp(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A film of two seconds whose picture tells by its lightness how far from the left one is."""
    film = tmp_path_factory.mktemp("framing") / "ramp.mp4"
    picture = "color=c=black:s=640x360:r=25:d=2,format=gray,geq=lum=X*200/640+20,format=yuv420p"
    ffmpeg("-f", "lavfi", "-i", picture, "-c:v", "libx264", "-crf", "0", film)
    return film


@pytest.fixture(scope="module")
def patches(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A film of four fields of colour."""
    film = tmp_path_factory.mktemp("framing") / "patches.mp4"
    fields = [
        f"color=c={c}:s=160x360:r=25:d=0.2"
        for c in ("0x804020", "0x205090", "0x60A060", "0xA0A0A0")
    ]
    inputs = [part for field in fields for part in ("-f", "lavfi", "-i", field)]
    ffmpeg(*inputs, "-filter_complex", "hstack=inputs=4,format=yuv444p", "-c:v", "libx264", "-crf", "0", film)  # fmt: skip
    return film


def burned(
    film: Path, version: Version, folder: Path, height: int | None = None
) -> list[np.ndarray]:
    output = folder / "burned.mp4"
    burn(
        film,
        probe(film),
        [],
        STYLES["house"],
        output,
        Encoding(crf=0, height=height),
        version=version,
    )
    with av.open(str(output)) as made:
        return [frame.to_ndarray(format="rgb24").astype(int) for frame in made.decode(video=0)]


def left_of(frame: np.ndarray, across: int) -> float:
    """How many of the film's pixels lie left of a frame, by its lightness."""
    middle = np.median(frame[:, frame.shape[1] // 2 - 2 : frame.shape[1] // 2 + 2, 0])
    return float((middle - 20) * 640 / 200 - across / 2)


MOMENTS = (
    WindowMoment(200, 0.3),
    WindowMoment(1000, 0.7, comes="glide"),
    WindowMoment(1480, 0.2, comes="cut"),
)


@pytest.mark.parametrize("height", [None, 720])
def test_a_window_is_in_each_frame_where_its_moments_say(
    ramp: Path, tmp_path: Path, height: int | None
) -> None:
    version = Version("upright", "9:16", moments=MOMENTS)
    frames = burned(ramp, version, tmp_path, height)
    picture = picture_of(version, FILM)
    assert frames[0].shape[:2] == (height or picture.height, 404 if height else picture.width)
    assert len(frames) == 50
    for number, frame in enumerate(frames):
        x, _ = place_at(MOMENTS, start_of_frame(number, RATE))
        wanted = min(max(x * FILM.width - picture.width / 2, 0), FILM.width - picture.width)
        # A step of lightness is three pixels of the film, a window's two; a frame on its way goes up to nineteen.
        assert abs(left_of(frame, picture.width) - wanted) < 8, number


def test_a_whole_film_lies_in_the_middle_over_a_blurred_darker_ground(
    patches: Path, tmp_path: Path
) -> None:
    version = Version("square", "1:1", whole=True)
    frame = burned(patches, version, tmp_path)[0]
    assert frame.shape == (640, 640, 3)
    inside = frame[160:480]
    assert np.abs(inside[:, 40] - [128, 64, 32]).max() < 6
    above = frame[:120]
    assert above.mean() < inside.mean() * 0.85
    # No edge of a field is left in it.
    assert np.abs(np.diff(above.mean(axis=0), axis=0)).max() < 8
    assert np.abs(np.diff(inside.mean(axis=0), axis=0)).max() > 20


@pytest.mark.parametrize(
    "colours",
    [
        Colours(exposure=0.5),
        Colours(exposure=-1.5, warmth=1),
        Colours(contrast=0.6),
        Colours(contrast=-0.5, warmth=-0.6),
        Colours(grade="printed"),
        Colours(grade="bright", contrast=0.2),
        Colours(grade="dusk", exposure=0.3),
    ],
)
def test_colours_are_those_of_the_matrix_that_a_player_is_given(
    patches: Path, tmp_path: Path, colours: Colours
) -> None:
    before = burned(patches, Version("as it is"), tmp_path)[0]
    after = burned(patches, Version("graded", colours=colours), tmp_path)[0]
    matrix = np.array(colour_matrix(colours))
    wanted = np.clip(before / 255 @ matrix[:, :3].T + matrix[:, 3], 0, 1) * 255
    middles = [80, 240, 400, 560]
    # 4:2:0, limited range and eight bits cost a step here and there.
    assert np.abs(after[180, middles] - wanted[180, middles]).max() <= 4
    assert np.abs(after - before).max() > 8


def test_captions_are_laid_out_on_the_versions_picture(ramp: Path, tmp_path: Path) -> None:
    output = tmp_path / "burned.mp4"
    caption = Caption("a", 0, 2000, (Span("Low water at the quay"),))
    burn(ramp, probe(ramp), [caption], STYLES["house"], output, version=Version("upright", "9:16"))
    with av.open(str(output)) as made:
        frame = next(made.decode(video=0)).to_ndarray(format="gray")
    across = np.nonzero((frame > 245).any(axis=0))[0]
    assert across.size
    assert across[0] > 4
    assert across[-1] < frame.shape[1] - 4
