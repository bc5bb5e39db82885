"""A script fitted to speech: heard words as anchors, forced alignment of the script's own words."""

from collections.abc import Callable, Iterable, Sequence

from dunlin.core.captions import Caption
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch
from dunlin.core.timing.fitting import (
    OTHERWISE_HEARD,
    Fitted,
    fitted,
    script_on_sound,
    script_tokens,
    share_heard,
)
from dunlin.engines.aligning import Aligner, words_on_sound
from dunlin.engines.recogniser import Recogniser, Sound

__all__ = ["fit_to_speech", "words_for_script"]

# Of a script that is read in a quiet room the quickest model hears more than nine tenths, in noise less.
_ENOUGH_HEARD = 0.85


def words_for_script(
    engine: Recogniser, language: str, tokens: Sequence[str], hear: Callable[[str], list[Word]]
) -> list[Word]:
    """What is heard of a script: by the quickest model, and where too little was, by the best one.

    :param tokens: the script's words in order
    :param hear: the words that a model, given by its name, hears
    :raises EngineError: when there is none for the language
    """
    quickest = engine.taken(language, quick=True).name
    best = engine.taken(language).name
    words = hear(quickest)
    if best == quickest or share_heard(tokens, words) >= _ENOUGH_HEARD:
        return words
    return hear(best)


def fit_to_speech(
    captions: Sequence[Caption],
    heard: Sequence[Word],
    speech: Sequence[Stretch],
    blocks: Iterable[Sound],
    aligner: Aligner | None,
    least_gap_ms: int,
    sound_start_ms: int = 0,
) -> list[Fitted]:
    """Captions timed by their words, which come in and go out with the voice.

    :param captions: in the order of the script; their times do not matter
    :param heard: what a recogniser heard, or nothing
    :param blocks: the sound, in pieces that follow each other
    :param aligner: what places the script's own words; without one they keep the times of those that
        were heard, or share the speech between those
    :param sound_start_ms: time of the sound's first sample
    """
    words = script_on_sound(script_tokens(captions), heard, speech)
    # Without anchors, words are looked for only by an aligner that takes what is near.
    taken = aligner if heard or (aligner and aligner.most_ms) else None
    least_sure = 1.0 if taken is None or taken.is_sharper else _least_sure(words)
    placed = words_on_sound(
        words, blocks, taken, sound_start_ms, lambda word: word.confidence >= least_sure
    )
    return fitted(captions, placed, least_gap_ms)


def _least_sure(words: Sequence[Word]) -> float:
    """How sure a word's place must be to stand: where most were heard, those that were heard as something
    else are where that was; where few were, it may have been anything."""
    surely = sum(word.confidence == 1 for word in words)
    return OTHERWISE_HEARD if 2 * surely > len(words) else 1.0
