"""The languages that are spoken in a film, told by what recognises them."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import replace

from dunlin.core.messages import message
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch
from dunlin.core.speech.languages import (
    CHANGE_COST_OF_FEW,
    LEAST_OF_FEW_MS,
    SpokenPassage,
    language_passages,
    language_windows,
    of_these,
    spread,
)
from dunlin.core.speech.numbers import numbers_in_words
from dunlin.engines.recogniser import EngineError, Recogniser, Sound

__all__ = ["passages_by_language", "words_of_passages"]

# Where so many windows, from all over a film, are in one language, all of it is taken to be in that.
_TRIED = 8


def passages_by_language(
    engine: Recogniser,
    speech: Sequence[Stretch],
    sound_of: Callable[[Stretch], Sound],
    model: str | None = None,
    *,
    tried: int = _TRIED,
) -> list[SpokenPassage]:
    """The passages of a film by their languages, one where all of it is in one.

    :param sound_of: the sound of a window, half a minute at most
    :param tried: how many windows are heard first; where those agree, it is by them
    :raises EngineError: when nobody speaks, or no model knows more than one language
    """
    windows = language_windows(speech)
    if not windows:
        raise EngineError(message("engines.no-language-heard"))

    def heard(some: Sequence[Stretch]) -> list[Mapping[str, float]]:
        chances = []
        for window in some:
            found = engine.language_chances(sound_of(window), model)
            if found is None:
                raise EngineError(message("engines.one-language-only", engine=engine.title))
            chances.append(found)
        return chances

    some = spread(windows, tried)
    chances = heard(some)
    passages = language_passages(some, chances)
    if len(passages) > 1 and len(windows) > tried:
        chances = heard(windows)
        passages = language_passages(windows, chances)
    if len(passages) > 1:
        # Which of these languages it is, is told in less speech than which of all: turn by turn.
        spoken = {passage.language for passage in passages}
        windows = language_windows(speech, LEAST_OF_FEW_MS)
        chances = [of_these(one, spoken) for one in heard(windows)]
        passages = language_passages(windows, chances, CHANGE_COST_OF_FEW)
    return passages


def words_of_passages(
    engine: Recogniser,
    passages: Sequence[SpokenPassage],
    sound_between: Callable[[int, int | None], Iterable[Sound]],
    model: str | None = None,
    *,
    from_ms: int = 0,
    quick: bool = False,
    as_english: bool = False,
    spelled_numbers: bool = False,
) -> Iterator[Word]:
    """The words of a film, each passage recognised in its language.

    :param sound_between: the sound from a time on until another, in milliseconds; None is the end
    :param from_ms: what is before it was heard already
    :param spelled_numbers: numbers in words, where the recogniser writes digits
    :raises EngineError: when there is no model for one of the languages
    """
    for number, passage in enumerate(passages):
        start_ms = max(passage.start_ms, from_ms)
        end_ms = passage.end_ms if number + 1 < len(passages) else None
        if end_ms is not None and end_ms <= start_ms:
            continue
        sound = sound_between(start_ms, end_ms)
        words: Iterable[Word] = engine.recognise(
            sound, passage.language, model, quick=quick, as_english=as_english
        )
        if spelled_numbers:
            words = numbers_in_words(words, "en" if as_english else passage.language)
        for word in words:
            yield replace(word, start_ms=word.start_ms + start_ms, end_ms=word.end_ms + start_ms)
