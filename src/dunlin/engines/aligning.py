"""Words laid on their sound: by an aligner that places them, and by where the voice begins and ends."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Protocol, TypeAlias

import numpy as np

from dunlin.core.speech import SPEECH_RATE, Word
from dunlin.core.speech.activity import STEP_MS
from dunlin.core.speech.clearness import clearness, with_spectra
from dunlin.core.timing.voice_edges import on_the_voice
from dunlin.engines.recogniser import Sound

__all__ = ["Aligner", "Known", "Span", "aligner_for", "phrases", "words_on_sound"]

_MARGIN_MS = 300
# A recogniser's times are seldom off by more: beyond, the aligner has lost the thread.
_FARTHEST_MS = 700
# Words may be found so much later than they were thought to be.
_READ_AHEAD_MS = 1000
# Less sound does not tell what lies beneath the voice.
_LEAST_SECONDS = 8

Known: TypeAlias = Callable[[Word], bool]
Span: TypeAlias = tuple[int, int]
"""Start and end of a word in milliseconds from the start of a sound."""


class Aligner(Protocol):
    """Finds given words in their sound."""

    @property
    def pause_ms(self) -> int:
        """It is given words up to a pause as long as this,"""

    @property
    def least_ms(self) -> int:
        """but, if it can be, as many as are spoken in this time,"""

    @property
    def longest_ms(self) -> int:
        """and no more than are in this, if it can be."""

    @property
    def most_ms(self) -> int | None:
        """It cannot take more than this."""

    @property
    def is_sharper(self) -> bool:
        """Whether it places words better than a recogniser that heard them; if not, it is for those
        that were not heard."""

    def places(self, texts: Sequence[str], sound: Sound) -> list[Span | None]:
        """Where each word is; None for one that it cannot place."""


def _all_known(word: Word) -> bool:
    return True


def aligner_for(language: str, model_folders: tuple[Path, ...] = ()) -> Aligner | None:
    """The aligner that measures best for a language (docs/timing.md); None where none knows it.

    :param language: a BCP 47 tag
    :param model_folders: folders that hold CTranslate2 models, each in a folder of its own
    """
    from dunlin.engines.sphinx_aligner import SphinxAligner
    from dunlin.engines.whisper_aligner import whisper_aligner

    if language.split("-")[0].lower() == "en":
        return SphinxAligner()
    return whisper_aligner(language, model_folders)


def words_on_sound(
    words: Sequence[Word],
    blocks: Iterable[Sound],
    aligner: Aligner | None,
    sound_start_ms: int = 0,
    known: Known = _all_known,
) -> list[Word]:
    """The words at the times at which they are spoken.

    The sound is read once, in blocks that follow each other: only what the next words may be in, and a
    hundredth part of the rest, is held in memory.

    :param words: in order
    :param blocks: samples; all of them are taken, so whoever gives them sees how far it is
    :param aligner: what places them; without one, the voice's edges alone move them
    :param sound_start_ms: time of the first sample
    :param known: whether a word's place is known but for a few tenths of a second
    """
    result: list[Word] = []
    waiting = list(phrases(words, aligner, known))[::-1] if aligner else []
    held, start_ms = np.empty(0, np.int16), sound_start_ms
    rows = []
    for block, made in with_spectra(blocks):
        rows.append(made)
        held = np.concatenate((held, block))
        end_ms = start_ms + len(held) * 1000 // SPEECH_RATE
        while (
            aligner
            and waiting
            and (not len(block) or waiting[-1][-1].end_ms + _READ_AHEAD_MS < end_ms)
        ):
            result += _placed(aligner, waiting.pop(), held, start_ms, result, known)
        # What comes next begins with the phrase that did not end in this block.
        keep_ms = waiting[-1][0].start_ms - _READ_AHEAD_MS if waiting else end_ms
        gone = max(0, min(keep_ms, end_ms) - start_ms)
        held, start_ms = held[gone * SPEECH_RATE // 1000 :], start_ms + gone
    made = np.concatenate(rows)
    placed = result if aligner else list(words)
    if len(made) * STEP_MS < _LEAST_SECONDS * 1000:
        return placed
    return on_the_voice(placed, clearness(made), sound_start_ms)


def phrases(
    words: Sequence[Word], aligner: Aligner, known: Known = _all_known
) -> Iterator[list[Word]]:
    """Runs of words as an aligner takes them.

    A run ends only between two words whose places are known, so that those between them can be looked
    for in all the sound there is.
    """
    phrase: list[Word] = []
    for word in words:
        if phrase and _ends(phrase, word, aligner, known):
            yield phrase
            phrase = []
        phrase.append(word)
    if phrase:
        yield phrase


def _ends(phrase: Sequence[Word], word: Word, aligner: Aligner, known: Known) -> bool:
    """Whether a run ends before a word."""
    with_it_ms = word.end_ms - phrase[0].start_ms
    if aligner.most_ms and with_it_ms > aligner.most_ms:
        return True
    if not (known(phrase[-1]) and known(word)):
        return False
    is_long = phrase[-1].end_ms - phrase[0].start_ms >= aligner.least_ms
    at_pause = word.start_ms - phrase[-1].end_ms >= aligner.pause_ms
    return (is_long and at_pause) or with_it_ms > aligner.longest_ms


def _placed(
    aligner: Aligner,
    phrase: list[Word],
    sound: Sound,
    sound_start_ms: int,
    before: Sequence[Word],
    known: Known,
) -> list[Word]:
    """A phrase with times from the sound; a word that cannot be placed keeps its own."""
    if not aligner.is_sharper and all(map(known, phrase)):
        return phrase
    start_ms = max(phrase[0].start_ms - _MARGIN_MS, sound_start_ms)
    if before:
        start_ms = max(start_ms, min(before[-1].end_ms, phrase[0].start_ms))
    first, last = (
        max(ms - sound_start_ms, 0) * SPEECH_RATE // 1000
        for ms in (start_ms, phrase[-1].end_ms + _MARGIN_MS)
    )
    speech = sound[first:last]
    if len(speech) < SPEECH_RATE // 10:
        return phrase
    return [
        _moved(word, span, start_ms, known(word), sharper=aligner.is_sharper)
        for word, span in zip(
            phrase, aligner.places([word.text for word in phrase], speech), strict=True
        )
    ]


def _moved(word: Word, span: Span | None, start_ms: int, known: bool, *, sharper: bool) -> Word:
    if span is None or (known and not sharper):
        return word
    from_ms, to_ms = start_ms + span[0], start_ms + span[1]
    if known and abs(from_ms - word.start_ms) > _FARTHEST_MS:
        return word
    return replace(word, start_ms=from_ms, end_ms=max(to_ms, from_ms + 1))
