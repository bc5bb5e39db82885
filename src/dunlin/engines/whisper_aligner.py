"""Words of any language placed by a Whisper model, which tells what in the sound it looks at for each."""

from collections.abc import Sequence
from itertools import accumulate, pairwise
from pathlib import Path

import numpy as np
from faster_whisper.audio import pad_or_trim
from faster_whisper.tokenizer import Tokenizer

from dunlin.core.speech import SPEECH_RATE
from dunlin.engines.aligning import Span
from dunlin.engines.recogniser import EngineError, Model, Sound
from dunlin.engines.whisper import LEADS_MS, Whisper, opened

__all__ = ["WhisperAligner", "whisper_aligner"]

_FRAME_MS, _TOKEN_MS = 10, 20


class WhisperAligner:
    """Takes half a minute at a time, which costs the same as less."""

    pause_ms, least_ms, longest_ms, most_ms = 250, 12_000, 20_000, 28_000
    is_sharper = False

    def __init__(self, model: Model, language: str) -> None:
        self._model, self._language = model, language

    def places(self, texts: Sequence[str], sound: Sound) -> list[Span | None]:
        """:raises EngineError: when the model cannot be opened"""
        whisper = opened(self._model)
        tokenizer = Tokenizer(
            whisper.hf_tokenizer, True, task="transcribe", language=self._language
        )
        extractor = whisper.feature_extractor
        samples = sound[: extractor.n_samples].astype(np.float32) / 32768
        features = extractor(samples)[:, : extractor.nb_max_frames]
        frames = min(features.shape[-1], len(samples) * 1000 // SPEECH_RATE // _FRAME_MS)
        tokens = [tokenizer.encode(" " + text) for text in texts]
        (aligned,) = whisper.model.align(
            whisper.encode(pad_or_trim(features)),
            tokenizer.sot_sequence,
            [[token for word in tokens for token in word]],
            frames,
        )
        # For each token the first moment at which it is looked for.
        starts = [frames * _FRAME_MS] * (sum(map(len, tokens)) + 1)
        for token, moment in reversed(aligned.alignments):
            starts[token] = moment * _TOKEN_MS + LEADS_MS
        firsts = accumulate(map(len, tokens), initial=0)
        return [(starts[a], starts[b]) for a, b in pairwise(firsts)]


def whisper_aligner(language: str, model_folders: tuple[Path, ...]) -> WhisperAligner | None:
    """The aligner with the model that recognises a language; None where there is none."""
    try:
        return WhisperAligner(
            Whisper(model_folders).taken(language), language.split("-")[0].lower()
        )
    except EngineError:
        return None
