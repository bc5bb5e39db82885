"""What every recogniser can do, and which there are."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol, TypeAlias

import numpy as np
import numpy.typing as npt

from dunlin.core.messages import Told, message
from dunlin.core.speech import Word

__all__ = ["EngineError", "Model", "Recogniser", "Sound", "engine_called", "engines", "hears"]


Sound: TypeAlias = npt.NDArray[np.int16]
"""One channel of samples at `SPEECH_RATE`, shape (n,)."""


class EngineError(Told):
    """Speech cannot be recognised; the message is for the user."""


@dataclass(frozen=True)
class Model:
    """A model an engine can use: `languages` as BCP 47 tags, empty when it knows many."""

    name: str
    languages: tuple[str, ...]
    folder: Path | None = None
    parts: tuple[Path, ...] = ()
    """Files that its folder is put together of when it is used first."""
    words_wrong: float | None = None
    """Per cent of the words of held-out English talk that it gets wrong (docs/transcribe.md), where that was
    measured."""
    is_broken: bool = False
    """Whether its folder is no whole model of this engine's."""

    @property
    def size_bytes(self) -> int | None:
        """What it takes on the disk; None for one that its engine carries."""
        if self.folder is None:
            return None
        files = self.parts or tuple(self.folder.iterdir())
        return sum(path.stat().st_size for path in files if path.is_file())

    def knows(self, language: str) -> bool:
        """Whether it understands a language, given as a BCP 47 tag."""
        knows = not self.languages or language.split("-")[0].lower() in self.languages
        return knows and not self.is_broken


class Recogniser(Protocol):
    """An engine: words come out while it listens."""

    name: str
    title: str

    def models(self) -> list[Model]:
        """What it can use here; empty when it cannot work."""

    def taken(
        self,
        language: str,
        model: str | None = None,
        *,
        quick: bool = False,
        as_english: bool = False,
    ) -> Model:
        """The model that recognises a language: the one that hears best, or the quickest.

        :raises EngineError: when there is none
        """

    def recognise(
        self,
        sound: Iterable[Sound],
        language: str,
        model: str | None = None,
        *,
        quick: bool = False,
        as_english: bool = False,
    ) -> Iterator[Word]:
        """Words in order, with times from the start of the sound.

        :param sound: blocks of any length, one after the other
        :param model: name of the model to use; if None, the best one for the language, or the quickest
        :param quick: with less care, in less time
        :param as_english: what is said in English words
        :raises EngineError: when there is no such model for the language
        """

    def language_chances(
        self, sound: Sound, model: str | None = None
    ) -> Mapping[str, float] | None:
        """How likely each language is, as BCP 47 tags; None where no model knows more than one.

        :param sound: half a minute at most
        """


def engines(model_folders: tuple[Path, ...] = ()) -> dict[str, Recogniser]:
    """Engines that can work here, by name, the best first.

    :param model_folders: folders that hold CTranslate2 models, each in a folder of its own
    """
    from dunlin.engines.sphinx import Sphinx
    from dunlin.engines.whisper import Whisper

    known: tuple[Recogniser, ...] = (Whisper(model_folders), Sphinx())
    return {
        engine.name: engine
        for engine in known
        if any(not model.is_broken for model in engine.models())
    }


def hears(engine: Recogniser, language: str, model: str | None = None) -> bool:
    """Whether an engine has a model here for a language, given as a BCP 47 tag; that model, if one
    is named."""
    return any(m.knows(language) and model in (None, m.name) for m in engine.models())


def engine_called(name: str | None, model_folders: tuple[Path, ...] = ()) -> Recogniser:
    """The engine of a name, or the best there is. :raises EngineError: when there is none"""
    found = engines(model_folders)
    if not found:
        raise EngineError(message("engines.none"))
    if name is None:
        return next(iter(found.values()))
    if name not in found:
        raise EngineError(message("engines.unknown", name=name, known=", ".join(found)))
    return found[name]
