"""Films for tests, made once, and a data folder of each test's own."""

import os
import subprocess
from collections.abc import Callable, Iterator
from pathlib import Path

import imageio_ffmpeg
import pytest
from fastapi.testclient import TestClient
from hypothesis import settings

from dunlin.api import create_app
from dunlin.settings import Settings

WINDOW = {"Dunlin-Person": "tab", "Dunlin-Window": "tab-window"}
"""The headers of a person's window."""

DEMO = Path(__file__).parent.parent / "demo"
FILM = DEMO / "fog-bell.mp4"

# Machines that run tests are noisy; a slow moment is no failure. `make thorough` looks at more examples.
settings.register_profile("dunlin", deadline=None, max_examples=40)
settings.register_profile("thorough", deadline=None, max_examples=400)
settings.load_profile(os.environ.get("DUNLIN_EXAMPLES", "dunlin"))


def ffmpeg(*arguments: str) -> None:
    command = [imageio_ffmpeg.get_ffmpeg_exe(), "-v", "error", "-y", *arguments]
    subprocess.run(command, check=True, stdin=subprocess.DEVNULL)


@pytest.fixture(scope="session")
def films(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    """Films by what is particular about them."""
    folder = tmp_path_factory.mktemp("films")
    made = {
        "short": folder / "short.mp4",
        "silent": folder / "silent.mp4",
        "sound": folder / "sound.wav",
        "old": folder / "old.avi",
        "rotated": folder / "rotated.mp4",
        "odd": folder / "odd.mkv",
        "ntsc": folder / "ntsc.mp4",
        "varying": folder / "varying.mp4",
        "two-sounds": folder / "two-sounds.mkv",
        "late-index": folder / "late-index.mp4",
        "sound-ends": folder / "sound-ends.mp4",
        "cut-off": folder / "cut-off.mp4",
        "no-index": folder / "no-index.mp4",
    }
    ffmpeg("-ss", "6", "-t", "8", "-i", str(FILM), "-c:v", "libx264", "-preset", "ultrafast",
           "-movflags", "+faststart", str(made["short"]))  # fmt: skip
    short = str(made["short"])
    ffmpeg("-i", short, "-an", "-c", "copy", str(made["silent"]))
    ffmpeg("-i", short, "-vn", str(made["sound"]))
    ffmpeg("-i", short, "-c:v", "mpeg4", "-c:a", "mp3", "-s", "320x180", str(made["old"]))
    ffmpeg("-display_rotation", "90", "-i", short, "-c", "copy", str(made["rotated"]))
    ffmpeg("-i", short, "-t", "2", "-vf", "crop=641:361", "-pix_fmt", "yuv444p",
           "-c:v", "libx264", "-preset", "ultrafast", str(made["odd"]))  # fmt: skip
    ffmpeg("-i", short, "-t", "2", "-r", "30000/1001", "-preset", "ultrafast", str(made["ntsc"]))
    ffmpeg("-i", short, "-t", "4", "-vf", "select='lt(n,50)+not(mod(n,3))'", "-fps_mode", "vfr",
           "-preset", "ultrafast", str(made["varying"]))  # fmt: skip
    # Hum and nothing else first, then what is said over a rumble.
    ffmpeg("-i", short, "-f", "lavfi", "-i", "sine=100:d=8", "-f", "lavfi", "-i", "sine=40:d=8",
           "-filter_complex", "[2:a]volume=3[low];[0:a][low]amix=duration=first[over]",
           "-map", "0:v", "-map", "1:a", "-map", "[over]", "-c:v", "copy",
           "-metadata:s:a:0", "language=fin", "-metadata:s:a:1", "title=Rumble", "-t", "8",
           str(made["two-sounds"]))  # fmt: skip
    ffmpeg("-i", short, "-af", "atrim=0:4", "-c:v", "copy", str(made["sound-ends"]))
    ffmpeg("-i", short, "-c", "copy", str(made["late-index"]))
    whole = made["short"].read_bytes()
    made["cut-off"].write_bytes(whole[: len(whole) // 2])
    late = made["late-index"].read_bytes()
    made["no-index"].write_bytes(late[: len(late) // 2])
    return made


@pytest.fixture
def data_settings(tmp_path: Path) -> Settings:
    return Settings(data=tmp_path / "data", allowed_hosts=("testserver", "127.0.0.1"))


@pytest.fixture
def client(data_settings: Settings) -> Iterator[TestClient]:
    """The real application on a data folder of its own, without a worker."""
    with TestClient(create_app(data_settings), headers=WINDOW) as client:
        yield client


@pytest.fixture
def new_project(client: TestClient, films: dict[str, Path]) -> Callable[..., dict]:
    """Makes a project of one of the films."""

    def make(film: str = "short", name: str | None = None) -> dict:
        data = films[film].read_bytes()
        answer = client.post(
            "/api/projects", params={"name": name or films[film].name}, content=data
        )
        assert answer.status_code == 201, answer.text
        return answer.json()

    return make
