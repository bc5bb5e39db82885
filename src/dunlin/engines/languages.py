"""The languages that are spoken in a film, told by what recognises them."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import replace

from dunlin.core.messages import message
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch
from dunlin.core.speech.languages import (
    SpokenPassage,
    language_passages,
    language_windows,
    spread,
)
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

    def heard(some: Sequence[Stretch]) -> list[SpokenPassage]:
        chances = []
        for window in some:
            found = engine.language_chances(sound_of(window), model)
            if found is None:
                raise EngineError(message("engines.one-language-only", engine=engine.title))
            chances.append(found)
        return language_passages(some, chances)

    passages = heard(spread(windows, tried))
    if len(passages) > 1 and len(windows) > tried:
        passages = heard(windows)
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
) -> Iterator[Word]:
    """The words of a film, each passage recognised in its language.

    :param sound_between: the sound from a time on until another, in milliseconds; None is the end
    :param from_ms: what is before it was heard already
    :raises EngineError: when there is no model for one of the languages
    """
    for number, passage in enumerate(passages):
        start_ms = max(passage.start_ms, from_ms)
        end_ms = passage.end_ms if number + 1 < len(passages) else None
        if end_ms is not None and end_ms <= start_ms:
            continue
        sound = sound_between(start_ms, end_ms)
        for word in engine.recognise(
            sound, passage.language, model, quick=quick, as_english=as_english
        ):
            yield replace(word, start_ms=word.start_ms + start_ms, end_ms=word.end_ms + start_ms)
