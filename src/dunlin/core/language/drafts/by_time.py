"""Words given to captions by when they are said."""

from collections.abc import Iterable, Sequence

from dunlin.core.language.drafts.model import Wanted
from dunlin.core.speech import Word
from dunlin.core.text.words import joined_words

__all__ = ["words_by_time"]


def words_by_time(words: Iterable[Word], wanted: Sequence[Wanted]) -> list[str]:
    """What is said in each caption's time: each word is that caption's in whose time its middle is, or the nearest one's.

    :param wanted: in the order of time
    """
    said: list[list[str]] = [[] for _ in wanted]
    for word in words:
        middle = (word.start_ms + word.end_ms) // 2

        def away(n: int, middle: int = middle) -> int:
            return max(wanted[n].from_ms - middle, middle - wanted[n].to_ms, 0)

        if wanted:
            said[min(range(len(wanted)), key=away)].append(word.text)
    return [joined_words(texts) for texts in said]
