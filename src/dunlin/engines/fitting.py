"""A script fitted to speech: heard words as anchors, forced alignment of the script's own words."""

from collections.abc import Iterable, Sequence

from dunlin.core.captions import Caption
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch
from dunlin.core.timing.fitting import Fitted, fitted, on_onsets, script_on_sound
from dunlin.engines.aligner import aligns, sharpened_along
from dunlin.engines.recogniser import Sound

__all__ = ["fit_to_speech"]


def fit_to_speech(
    captions: Sequence[Caption],
    heard: Sequence[Word],
    speech: Sequence[Stretch],
    blocks: Iterable[Sound],
    language: str,
    least_gap_ms: int,
    sound_start_ms: int = 0,
) -> list[Fitted]:
    """Captions timed by their words.

    Where the aligner knows the language, it places the script's own words; elsewhere they keep the
    times of the heard ones, or of speech, and captions come in on its onsets.

    :param captions: in the order of the script; their times do not matter
    :param heard: what a recogniser heard, or nothing
    :param blocks: the sound, in pieces that follow each other; taken where the aligner needs it
    :param sound_start_ms: time of the sound's first sample
    """
    tokens = [token for caption in captions for token in caption.text.split()]
    words = script_on_sound(tokens, heard, speech)
    if aligns(language) and heard:
        words = sharpened_along(words, blocks, sound_start_ms, lambda word: word.confidence == 1)
    else:
        words = on_onsets(words, speech)
    return fitted(captions, words, least_gap_ms)
