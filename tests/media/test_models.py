"""Models of recognition: put together, broken, chosen."""

import errno
import shutil
from pathlib import Path

import numpy as np
import pytest

from dunlin.engines import EngineError, carried, hears
from dunlin.engines.carried import carried_models, put_together
from dunlin.engines.whisper import Whisper


@pytest.fixture
def base(tmp_path: Path):
    return next(m for m in carried_models(tmp_path / "models") if m.name == "base")


def test_the_carried_model_is_put_together_whole(base, tmp_path: Path) -> None:
    assert base.size_bytes
    assert base.size_bytes > 140_000_000
    folder = put_together(base)
    assert sum(path.stat().st_size for path in folder.iterdir()) == base.size_bytes
    assert [path.name for path in (tmp_path / "models").iterdir()] == ["base"]
    made = (folder / "model.bin").stat().st_mtime_ns
    assert put_together(base) == folder
    assert (folder / "model.bin").stat().st_mtime_ns == made


def test_without_room_it_is_told_and_nothing_is_left(
    base, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(*_: object) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(carried.shutil, "copyfileobj", full)
    with pytest.raises(EngineError, match="takes 147 MB: No space left"):
        put_together(base)
    assert list((tmp_path / "models").iterdir()) == []


def test_what_a_killed_start_left_is_cleared_away(base, tmp_path: Path) -> None:
    import os

    left = tmp_path / "models" / ".base-killed"
    left.mkdir(parents=True)
    (left / "model.bin").write_bytes(b"half")
    os.utime(left, (0, 0))
    assert [m.name for m in Whisper((tmp_path / "models",)).models()] == ["base", "tiny English"]
    put_together(base)
    assert [path.name for path in (tmp_path / "models").iterdir()] == ["base"]


def test_a_folder_that_is_no_model_is_told_and_not_taken(base, tmp_path: Path) -> None:
    whole = put_together(base)
    models = tmp_path / "models"
    for name in ("another-kind", "half", "translates"):
        shutil.copytree(whole, models / name)
    (models / "another-kind" / "model.bin").write_bytes(b"\x06\x00\x00\x00\x0e\x00Wav2Vec2Spec" * 9)
    # What translates is no recogniser's, and no fault.
    (models / "translates" / "model.bin").write_bytes(
        b"\x06\x00\x00\x00\x0f\x00TransformerSpec" * 9
    )
    with (models / "half" / "model.bin").open("r+b") as file:
        file.truncate(30_000_000)
    whisper = Whisper((models,))
    broken = {m.name: m.is_broken for m in whisper.models()}
    assert broken == {"another-kind": True, "half": False, "base": False, "tiny English": False}
    assert not hears(whisper, "en", "another-kind")
    silence = [np.zeros(16_000, np.int16)]
    with pytest.raises(EngineError, match="no Whisper model another-kind"):
        list(whisper.recognise(silence, "en", "another-kind"))
    with pytest.raises(EngineError, match="half is no Whisper model that can be used"):
        list(whisper.recognise(silence, "en", "half"))


def test_the_largest_model_is_taken_or_the_quickest(tmp_path: Path) -> None:
    whisper = Whisper((tmp_path,))
    assert [m.name for m in whisper.models()] == ["base", "tiny English"]
    assert whisper.taken("en").name == "base"
    assert whisper.taken("en", quick=True).name == "tiny English"
    assert whisper.taken("de", quick=True).name == "base"
    assert whisper.taken("en", as_english=True, quick=True).name == "base"
    with pytest.raises(EngineError):
        whisper.taken("de", model="tiny English")
