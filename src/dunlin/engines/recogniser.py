"""What every recogniser can do, and which there are."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol, TypeAlias

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import Word

__all__ = ["EngineError", "Model", "Recogniser", "Sound", "engine_called", "engines", "hears"]


Sound: TypeAlias = npt.NDArray[np.int16]
"""One channel of samples at `SPEECH_RATE`, shape (n,)."""


class EngineError(Exception):
    """Speech cannot be recognised; the message is for the user."""


@dataclass(frozen=True)
class Model:
    """A model an engine can use: `languages` as BCP 47 tags, empty when it knows many."""

    name: str
    languages: tuple[str, ...]
    folder: Path | None = None


class Recogniser(Protocol):
    """An engine: words come out while it listens."""

    name: str
    title: str

    def models(self) -> list[Model]:
        """What it can use here; empty when it cannot work."""

    def recognise(self, sound: Iterable[Sound], language: str) -> Iterator[Word]:
        """Words in order, with times from the start of the sound.

        :param sound: blocks of any length, one after the other
        :raises EngineError: when there is no model for the language
        """


def engines(model_folders: tuple[Path, ...] = ()) -> dict[str, Recogniser]:
    """Engines that can work here, by name, the best first.

    :param model_folders: folders that hold CTranslate2 models, each in a folder of its own
    """
    from dunlin.engines.sphinx import Sphinx
    from dunlin.engines.whisper import Whisper

    known: tuple[Recogniser, ...] = (Whisper(model_folders), Sphinx())
    return {engine.name: engine for engine in known if engine.models()}


def hears(engine: Recogniser, language: str) -> bool:
    """Whether an engine has a model here for a language, given as a BCP 47 tag."""
    base = language.split("-")[0].lower()
    return any(not model.languages or base in model.languages for model in engine.models())


def engine_called(name: str | None, model_folders: tuple[Path, ...] = ()) -> Recogniser:
    """The engine of a name, or the best there is. :raises EngineError: when there is none"""
    found = engines(model_folders)
    if not found:
        raise EngineError("no recogniser can work here; put a model into a model folder")
    if name is None:
        return next(iter(found.values()))
    if name not in found:
        raise EngineError(f"there is no engine called {name!r}; there are {', '.join(found)}")
    return found[name]
