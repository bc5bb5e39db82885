"""Films for tests, made once, and a data folder of each test's own."""

import os
import shutil
import subprocess
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path

import imageio_ffmpeg
import pytest
from fastapi.testclient import TestClient
from hypothesis import settings

from dunlin.api import create_app
from dunlin.core.styles.shelf import take_added
from dunlin.settings import Settings
from dunlin.store.database import migrate, open_database
from tests.signs import film_of_a_sign

# The model that comes in parts is put together once for all tests.
os.environ.setdefault("DUNLIN_MODELS", str(Path(__file__).parents[1] / ".venv" / "models"))
WINDOW = {"Dunlin-Person": "tab", "Dunlin-Window": "tab-window"}
"""The headers of a person's window."""

DEMO = Path(__file__).parent.parent / "demo"
FILM = DEMO / "fog-bell.mp4"

# Machines that run tests are noisy; a slow moment is no failure. `make thorough` looks at more examples.
settings.register_profile("dunlin", deadline=None, max_examples=20)
settings.register_profile("thorough", deadline=None, max_examples=200)
EXAMPLES = os.environ.get("DUNLIN_EXAMPLES", "dunlin")
THOROUGH = EXAMPLES == "thorough"
settings.load_profile(EXAMPLES)


def ffmpeg(*arguments: str) -> None:
    command = [imageio_ffmpeg.get_ffmpeg_exe(), "-v", "error", "-y", *arguments]
    subprocess.run(command, check=True, stdin=subprocess.DEVNULL)


class Films(Mapping[str, Path]):
    """Films by what is particular about them, each made when it is asked for first."""

    _FILES = (
        "short.mp4", "minute.mp4", "half.mp4", "talk.m4a", "plain.mp4", "silent.mp4", "sound.wav", "old.avi", "rotated.mp4", "odd.mkv",
        "small.mp4", "brief.mp4", "ntsc.mp4", "varying.mp4", "two-sounds.mkv", "late-index.mp4", "sound-ends.mp4",
        "cut-off.mp4", "no-index.mp4",
    )  # fmt: skip

    def __init__(self, folder: Path) -> None:
        self._paths = {Path(file).stem: folder / file for file in self._FILES}

    def __iter__(self) -> Iterator[str]:
        return iter(self._paths)

    def __len__(self) -> int:
        return len(self._paths)

    def __getitem__(self, name: str) -> Path:
        path = self._paths[name]
        if not path.exists():
            self._make(name, path)
        return path

    def _make(self, name: str, path: Path) -> None:
        to = str(path)
        if name == "short":
            ffmpeg("-ss", "6", "-t", "8", "-i", str(FILM), "-c:v", "libx264", "-preset", "ultrafast",
                   "-movflags", "+faststart", to)  # fmt: skip
            return
        if name in _SECONDS_OF_DEMO:
            ffmpeg("-i", str(FILM), "-t", _SECONDS_OF_DEMO[name], "-c", "copy", to)
            return
        if name == "talk":
            # All that is said in the demo film, where nobody looks at the picture.
            ffmpeg("-i", str(FILM), "-vn", "-c:a", "copy", to)
            return
        if name == "plain":
            # Long to be drawn on, quick to be looked through: small, of one colour, without sound.
            ffmpeg(
                "-f", "lavfi", "-i", "color=navy:s=320x180:r=25:d=120", "-preset", "ultrafast", to
            )
            return
        if name == "rotated":
            ffmpeg("-display_rotation", "90", "-i", str(self["short"]), "-c", "copy", to)
            return
        if name in _HALF_OF:
            whole = self[_HALF_OF[name]].read_bytes()
            path.write_bytes(whole[: len(whole) // 2])
            return
        ffmpeg("-i", str(self["short"]), *_MADE_OF_SHORT[name], to)


_SECONDS_OF_DEMO = {"minute": "60", "half": "36"}
_HALF_OF = {"cut-off": "short", "no-index": "late-index"}
_MADE_OF_SHORT = {
    "silent": ("-an", "-c", "copy"),
    "sound": ("-vn",),
    "old": ("-c:v", "mpeg4", "-c:a", "mp3", "-s", "320x180"),
    "small": ("-t", "2", "-s", "320x180", "-preset", "ultrafast"),
    # With words that can be read in a picture that is quick to draw on.
    "brief": ("-t", "2.4", "-s", "640x360", "-preset", "ultrafast"),
    "odd": ("-t", "2", "-vf", "crop=641:361", "-pix_fmt", "yuv444p", "-c:v", "libx264",
            "-preset", "ultrafast"),
    "ntsc": ("-t", "2", "-r", "30000/1001", "-preset", "ultrafast"),
    "varying": ("-t", "4", "-vf", "select='lt(n,50)+not(mod(n,3))'", "-fps_mode", "vfr",
                "-preset", "ultrafast"),
    # Hum and nothing else first, then what is said over a rumble.
    "two-sounds": ("-f", "lavfi", "-i", "sine=100:d=8", "-f", "lavfi", "-i", "sine=40:d=8",
                   "-filter_complex", "[2:a]volume=3[low];[0:a][low]amix=duration=first[over]",
                   "-map", "0:v", "-map", "1:a", "-map", "[over]", "-c:v", "copy",
                   "-metadata:s:a:0", "language=fin", "-metadata:s:a:1", "title=Rumble", "-t", "8"),
    "sound-ends": ("-af", "atrim=0:4", "-c:v", "copy"),
    "late-index": ("-c", "copy"),
}  # fmt: skip


@pytest.fixture(scope="session")
def films(tmp_path_factory: pytest.TempPathFactory) -> Films:
    return Films(tmp_path_factory.mktemp("films"))


@pytest.fixture(scope="session")
def turned(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A second of grey that lies on its side, with twelve sounds."""
    folder = tmp_path_factory.mktemp("turned")
    sounds = [part for n in range(12) for part in ("-f", "lavfi", "-i", f"sine={300 + n * 50}:d=1")]
    maps = [part for n in range(13) for part in ("-map", str(n))]
    lying, film = folder / "lying.mp4", folder / "turned.mp4"
    ffmpeg(
        "-f",
        "lavfi",
        "-i",
        "color=gray:s=160x90:r=25:d=1",
        *sounds,
        *maps,
        "-pix_fmt",
        "yuv420p",
        str(lying),
    )
    ffmpeg("-display_rotation", "90", "-i", str(lying), "-map", "0", "-c", "copy", str(film))
    return film


@pytest.fixture(scope="session")
def sign_film(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A film of a sign that goes a known way."""
    path = tmp_path_factory.mktemp("signs") / "sign.mp4"
    film_of_a_sign(path)
    return path


@pytest.fixture
def shelf() -> Iterator[None]:
    """The shelf of fonts, which a test adds to: after it there are those that ship."""
    yield
    take_added({})


@pytest.fixture(scope="session")
def new_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder that was just made: to copy it takes a tenth of what its migrations take."""
    folder = tmp_path_factory.mktemp("new") / "data"
    engine = open_database(folder)
    migrate(engine)
    engine.dispose()
    return folder


@pytest.fixture
def data_settings(tmp_path: Path, new_folder: Path) -> Settings:
    shutil.copytree(new_folder, tmp_path / "data")
    return Settings(data=tmp_path / "data", allowed_hosts=("testserver", "127.0.0.1"))


@pytest.fixture
def client(data_settings: Settings) -> Iterator[TestClient]:
    """The real application on a data folder of its own, without a worker."""
    with TestClient(create_app(data_settings), headers=WINDOW) as client:
        yield client


@pytest.fixture
def new_project(client: TestClient, films: Mapping[str, Path]) -> Callable[..., dict]:
    """Makes a project of one of the films."""

    def make(film: str = "short", name: str | None = None) -> dict:
        data = films[film].read_bytes()
        answer = client.post(
            "/api/projects", params={"name": name or films[film].name}, content=data
        )
        assert answer.status_code == 201, answer.text
        return answer.json()

    return make
