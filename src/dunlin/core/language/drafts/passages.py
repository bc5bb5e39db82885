"""Sentences that go on over captions: translated as a whole, and parted again where the captions are."""

from collections.abc import Sequence
from itertools import pairwise

from dunlin.core.language.drafts.model import Wanted
from dunlin.core.text.joints import joint_cost, sentence_ends
from dunlin.core.text.words import joined_words, words_of

__all__ = ["parted_like", "passages_of"]

_MOST_CAPTIONS, _MOST_CHARACTERS = 4, 320
"""What no sentence ends in is parted after so much all the same."""
_PAUSE_MS = 2_000
"""Nobody's sentence goes on after such a pause."""
_OFF_COST = 300.0
"""What it costs to part words by their whole length beside where they are parted in the source: a quarter beside it costs
as much as the worst joint inside a phrase (`joint_cost`)."""


def passages_of(wanted: Sequence[Wanted], language: str) -> list[list[Wanted]]:
    """Captions in a row whose sentences belong together.

    :param wanted: in the order of time
    """
    passages: list[list[Wanted]] = []
    for one in wanted:
        last = passages[-1] if passages else None
        if (
            last
            and len(last) < _MOST_CAPTIONS
            and sum(len(other.text) for other in last) + len(one.text) <= _MOST_CHARACTERS
            and not sentence_ends(last[-1].text.split()[-1], language)
            and last[-1].after.startswith(one.text)
            and one.from_ms - last[-1].to_ms < _PAUSE_MS
        ):
            last.append(one)
        else:
            passages.append([one])
    return [passage for passage in passages if any(one.text for one in passage)]


def parted_like(text: str, lengths: Sequence[int], language: str) -> list[str]:
    """A text in as many parts as there are lengths, about as long in proportion, between words that may be parted.

    :param lengths: characters of the parts of what it translates
    :returns: parts, of which some are empty where there are fewer words
    """
    words = words_of(text, language)
    if len(lengths) < 2 or len(words) < len(lengths):
        return [text, *[""] * (len(lengths) - 1)]
    total, of = sum(lengths), sum(len(word) + 1 for word in words)
    ends = [0]
    for word in words:
        ends.append(ends[-1] + len(word) + 1)
    cuts, said = [0], 0
    for n, length in enumerate(lengths[:-1]):
        said += length
        least, most = cuts[-1] + 1, len(words) - (len(lengths) - 1 - n)

        def cost(at: int, want: float = said / max(total, 1)) -> float:
            beside = abs(ends[at] / of - want)
            return _OFF_COST * beside + joint_cost(words[at - 1], words[at], language)

        cuts.append(min(range(least, most + 1), key=cost))
    cuts.append(len(words))
    return [joined_words(words[a:b]) for a, b in pairwise(cuts)]
