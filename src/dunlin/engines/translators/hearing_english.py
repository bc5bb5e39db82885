"""What is said, in English words as a recogniser of speech hears them."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import TypeAlias

from dunlin.core.language.drafts.by_time import words_by_time
from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.messages import Message
from dunlin.engines.recogniser import Recogniser, Sound

__all__ = ["HearingEnglish", "SoundBetween"]

SoundBetween: TypeAlias = Callable[[int, int], Sound]
"""The sound of a film between two times, in milliseconds."""

_LONGEST_MS, _APART_MS = 120_000, 4_000
"""What is heard at once; the more of it, the better it is understood."""
_AROUND_MS = 300


class HearingEnglish:
    """Listens to the film itself: captions get what is said in their time."""

    name = "speech-in-english"
    title = "The film’s speech, in English"
    fault: Message | None = None

    def __init__(self, recogniser: Recogniser, sound: SoundBetween | None) -> None:
        """:param sound: None where nothing is to be heard yet"""
        self._recogniser, self._sound = recogniser, sound

    def knows(self, source: str, target: str) -> bool:
        return (target.split("-")[0], source.split("-")[0] == "en") == ("en", False) and any(
            not model.languages and not model.is_broken for model in self._recogniser.models()
        )

    def drafts(self, wanted: Sequence[Wanted], known: Known) -> Iterator[Draft | None]:
        assert self._sound is not None
        for stretch in _stretches(wanted):
            start_ms = max(stretch[0].from_ms - _AROUND_MS, 0)
            sound = self._sound(start_ms, stretch[-1].to_ms + _AROUND_MS)
            heard = self._recogniser.recognise(iter([sound]), known.language, as_english=True)
            words = [
                replace(word, start_ms=word.start_ms + start_ms, end_ms=word.end_ms + start_ms)
                for word in heard
            ]
            for text in words_by_time(words, stretch):
                yield Draft(text, self.title) if text else None


def _stretches(wanted: Sequence[Wanted]) -> Iterator[list[Wanted]]:
    """Captions that are near each other, as long as can be heard at once."""
    stretch: list[Wanted] = []
    for one in wanted:
        if stretch and (
            one.from_ms - stretch[-1].to_ms > _APART_MS
            or one.to_ms - stretch[0].from_ms > _LONGEST_MS
        ):
            yield stretch
            stretch = []
        stretch.append(one)
    if stretch:
        yield stretch
