"""Words given to captions by when they are said."""

import re
from collections.abc import Iterable, Sequence

from dunlin.core.language.drafts.model import Wanted
from dunlin.core.speech import Word
from dunlin.core.text.words import joined_words

__all__ = ["words_by_time"]

_COMPOUND = re.compile(r"-\w")


def words_by_time(words: Iterable[Word], wanted: Sequence[Wanted]) -> list[str]:
    """What is said in each caption's time: each word is that caption's in whose time its middle is, or the nearest one's.

    :param wanted: in the order of time
    """
    said: list[list[str]] = [[] for _ in wanted]
    for word in words:
        middle = (word.start_ms + word.end_ms) // 2

        def away(n: int, middle: int = middle) -> int:
            return max(wanted[n].from_ms - middle, middle - wanted[n].to_ms, 0)

        if not wanted:
            continue
        texts = said[min(range(len(wanted)), key=away)]
        # Recognisers give the second part of a compound as a word of its own: `half`, `-hour`.
        if texts and _COMPOUND.match(word.text) and texts[-1][-1:].isalnum():
            texts[-1] += word.text
        else:
            texts.append(word.text)
    return [joined_words(texts) for texts in said]
