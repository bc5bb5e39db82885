"""Whisper models through faster-whisper, from folders on this machine only."""

import json
from collections.abc import Callable, Iterable, Iterator
from functools import cache, partial
from pathlib import Path

import numpy as np
from faster_whisper import WhisperModel
from faster_whisper.transcribe import Segment

from dunlin.core.messages import message
from dunlin.core.speech import SPEECH_RATE, Word
from dunlin.core.speech.loops import without_loops
from dunlin.engines.carried import carried_models, put_together
from dunlin.engines.model_folders import TRANSLATION_SPEC, folders_with_models, is_of_kind
from dunlin.engines.recogniser import EngineError, Model, Sound
from dunlin.settings import computing_threads

__all__ = ["LEADS_MS", "Whisper", "opened"]

# Long enough that its end costs little, short enough that memory stays small and a part that was
# cut short by a crash is soon made up for.
_PART_SECONDS, _SEARCH_SECONDS = 150, 20
# How many ways to read the sound are followed at once; one takes three quarters of the time.
_BEAM = 5
# How freely words are chosen where the likeliest ones went round in a circle.
_FREELY = 0.4
# It looks at a word's sound a little before the word begins: by so much in the median of seven voices in four
# languages whose word times are known (tests/timing/test_held_out.py).
LEADS_MS = 30
# It hears Latin in whatever Romance speech it does not catch; who has some, and Sanskrit, says so.
_NOT_SPOKEN = ("la", "sa")
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
        """Models in the folders and those that data packages carry; the largest, which hears best, first."""
        carried = carried_models(self._folders[0] if self._folders else None)
        own = {model.folder for model in carried}
        found = [
            _described(path)
            for path in folders_with_models(self._folders)
            if path not in own and not is_of_kind(path, TRANSLATION_SPEC)
        ]
        return sorted([*found, *carried], key=lambda model: -(model.size_bytes or 0))

    def recognise(
        self,
        sound: Iterable[Sound],
        language: str,
        model: str | None = None,
        *,
        quick: bool = False,
        as_english: bool = False,
    ) -> Iterator[Word]:
        whisper = opened(self.taken(language, model, quick=quick, as_english=as_english))
        for start_ms, part in _parts(sound):
            length_ms = len(part) * 1000 // SPEECH_RATE
            hear = partial(
                whisper.transcribe,
                part.astype(np.float32) / 32768,
                language=language.split("-")[0].lower(),
                word_timestamps=True,
                beam_size=1 if quick else _BEAM,
                task="translate" if as_english else "transcribe",
            )
            heard, _ = hear(vad_filter=True, vad_parameters=_SPEECH)
            for segment in without_loops(heard, partial(_again, hear)):
                for word in segment.words or ():
                    text = word.word.strip()
                    from_ms, to_ms = (
                        min(round(s * 1000) + LEADS_MS, length_ms) for s in (word.start, word.end)
                    )
                    # Marks alone are what it makes of noise, and words behind the end of nothing at all.
                    if any(map(str.isalnum, text)) and from_ms < length_ms:
                        yield Word(
                            text, start_ms + from_ms, start_ms + to_ms, float(word.probability)
                        )

    def taken(
        self,
        language: str,
        model: str | None = None,
        *,
        quick: bool = False,
        as_english: bool = False,
    ) -> Model:
        """The largest model, which hears best (what was measured says so, too), or the smallest."""
        fit = [
            found
            for found in self.models()
            if found.knows(language)
            and model in (None, found.name)
            and not (as_english and found.languages)
        ]
        if not fit:
            raise EngineError(
                message("engines.not-found", model=model, language=language)
                if model
                else message("engines.none-found", language=language)
            )
        return fit[-1 if quick else 0]

    def language_chances(self, sound: Sound, model: str | None = None) -> dict[str, float] | None:
        named = (m for m in self.models() if model in (None, m.name) and not m.languages)
        found = next((m for m in named if not m.is_broken), None)
        if found is None:
            return None
        chances = _language_tokens(opened(found), sound)
        spoken = {code: chance for code, chance in chances if code not in _NOT_SPOKEN}
        return {code: chance / sum(spoken.values()) for code, chance in spoken.items()}


# Frames of the spectrum in a second, and in what the model hears at once.
_FRAMES, _MOST_FRAMES = 100, 3000
# Frames of nothing behind what is said, as the engine itself has them up to half a minute. So many tell languages apart as
# surely, and take a third of the time.
_NOTHING = 600


def _language_tokens(model: WhisperModel, sound: Sound) -> list[tuple[str, float]]:
    """Codes of languages and how likely each is, of the first half minute of a sound."""
    frames = min(len(sound) * _FRAMES // SPEECH_RATE, _MOST_FRAMES)
    spectrum = model.feature_extractor(sound.astype(np.float32) / 32768)[..., :frames]
    behind = min(_NOTHING, _MOST_FRAMES - frames)
    heard = model.encode(np.pad(spectrum, ((0, 0), (0, behind))))
    (tokens,) = model.model.detect_language(heard)
    return [(token.strip("<|>"), float(chance)) for token, chance in tokens]


def _again(
    hear: Callable[..., tuple[Iterable[Segment], object]], from_s: float, to_s: float
) -> Iterable[Segment]:
    """What is said between two times, heard without what was said before, which may have led astray, and
    not always by the likeliest word."""
    heard, _ = hear(
        clip_timestamps=[from_s, to_s], condition_on_previous_text=False, temperature=_FREELY
    )
    return heard


def opened(model: Model) -> WhisperModel:
    """:raises EngineError: when it cannot be put together, or is none"""
    try:
        return _read_in(put_together(model))
    except (RuntimeError, ValueError) as error:
        raise EngineError(
            message("engines.broken", model=model.name, reason=str(error).splitlines()[0])
        ) from None


@cache
def _read_in(folder: Path) -> WhisperModel:
    return WhisperModel(
        str(folder), device="cpu", compute_type="int8", local_files_only=True,
        cpu_threads=computing_threads(),
    )  # fmt: skip


def _described(folder: Path) -> Model:
    """Model of a folder. Whisper's English-only models have one word less than the others."""
    text, listed = folder / "vocabulary.txt", folder / "vocabulary.json"
    if listed.is_file():
        size = len(json.loads(listed.read_text("utf-8")))
    else:
        size = text.read_bytes().count(b"\n") if text.is_file() else _ENGLISH_VOCABULARY + 1
    languages = ("en",) if size <= _ENGLISH_VOCABULARY else ()
    is_whole = is_of_kind(folder, "WhisperSpec") and (folder / "config.json").is_file()
    return Model(folder.name, languages, folder, is_broken=not is_whole)


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
