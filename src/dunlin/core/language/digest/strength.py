"""The strongest passages of a talk, by measures that can be told: what they say, how fully, and of whom."""

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from dunlin.core.language.digest.centrality import centralities, content_words
from dunlin.core.language.digest.sentences import Sentence
from dunlin.core.text.joints import bare_word, sentence_ends, small_words
from dunlin.core.text.words import joined_words

__all__ = ["MEASURES", "StrongPassage", "strongest"]

MEASURES = ("central", "dense", "named", "rare", "complete", "loud")
"""What a passage can be strong by: it says what the talk is about; few of its words are small; it has names and numbers;
words that are seldom said in the talk; it begins and ends with a sentence; it is said with more voice than the rest."""

_LEAST_MS, _MOST_MS = 4_000, 45_000
_WEIGHTS = {"central": 1.0, "dense": 1.0, "named": 1.2, "rare": 1.0, "complete": 0.8, "loud": 0.7}
_TOLD_FROM = 0.6
"""Of the strongest by a measure: from so much on it is said that a passage is strong by it."""
_OPENING = 0.7
"""What the first sentence of a film is worth: it greets."""


@dataclass(frozen=True)
class StrongPassage:
    """Sentences that can stand alone."""

    from_ms: int
    to_ms: int
    text: str
    why: tuple[str, ...]
    """The measures it is strong by, the greatest first."""
    strength: float


def strongest(
    sentences: Sequence[Sentence],
    language: str = "en",
    most: int = 5,
    loudness: Sequence[float] | None = None,
) -> list[StrongPassage]:
    """The strongest passages, the strongest first; none over another.

    A passage is one to four sentences that follow each other. By each measure it is held against all others, so that a number
    from 0 to 1 tells where it stands among them.

    :param loudness: of each sentence, whatever it is counted in; None where it is not known, and then nothing is strong by it
    """
    spans = list(_spans(sentences))
    if not spans:
        return []
    measured = _measured(sentences, spans, language)
    names = MEASURES if loudness else [name for name in MEASURES if name != "loud"]
    for (first, after), values in zip(spans, measured, strict=True):
        values["loud"] = sum(loudness[first:after]) / (after - first) if loudness else 0.0
    ranked = {name: _ranks([values[name] for values in measured]) for name in names}
    total = sum(_WEIGHTS[name] for name in names)
    found = []
    for place, (first, after) in enumerate(spans):
        ranks = {name: ranked[name][place] for name in names}
        strength = sum(_WEIGHTS[name] * ranks[name] for name in names) / total
        if first == 0 and len(sentences) > after:
            strength *= _OPENING
        why = sorted((name for name in names if ranks[name] >= _TOLD_FROM), key=lambda n: -ranks[n])
        words = [word for sentence in sentences[first:after] for word in sentence.words]
        text = joined_words([word.text for word in words])
        found.append(
            StrongPassage(words[0].start_ms, words[-1].end_ms, text, tuple(why), round(strength, 4))
        )
    found.sort(key=lambda one: (-one.strength, one.from_ms))
    chosen: list[StrongPassage] = []
    for one in found:
        if all(one.to_ms <= other.from_ms or one.from_ms >= other.to_ms for other in chosen):
            chosen.append(one)
        if len(chosen) == most:
            break
    return chosen


def _spans(sentences: Sequence[Sentence]) -> Iterator[tuple[int, int]]:
    for first in range(len(sentences)):
        for after in range(first + 1, min(first + 4, len(sentences)) + 1):
            length = sentences[after - 1].end_ms - sentences[first].start_ms
            if length > _MOST_MS:
                break
            if length >= _LEAST_MS or after == len(sentences):
                yield first, after


def _measured(
    sentences: Sequence[Sentence], spans: Sequence[tuple[int, int]], language: str
) -> list[dict[str, float]]:
    worths = centralities(sentences, language)
    said = Counter(word for s in sentences for word in content_words(s.texts, language))
    all_said = sum(said.values()) or 1
    small = small_words(language)
    measured = []
    for first, after in spans:
        texts = [text for sentence in sentences[first:after] for text in sentence.texts]
        content = content_words(texts, language)
        rare = [math.log(all_said / said[word]) for word in content]
        begins = texts[0][:1].isupper() and bare_word(texts[0]) not in small
        measured.append({
            "central": sum(worths[first:after]) / (after - first),
            "dense": len(content) / len(texts),
            "named": sum(map(_is_told, texts[1:])) / len(texts),
            "rare": sum(rare) / len(rare) if rare else 0.0,
            "complete": float(begins) + float(sentence_ends(texts[-1], language)),
        })  # fmt: skip
    return measured


def _is_told(text: str) -> bool:
    """Whether a word within a sentence is a name or a number, as its letters tell."""
    return any(map(str.isdigit, text)) or text[:1].isupper()


def _ranks(values: Sequence[float]) -> list[float]:
    """Where each stands among all: the part of them that are not greater, less those that are as great."""
    ordered = sorted(values)
    places: dict[float, float] = {}
    for place, value in enumerate(ordered):
        places.setdefault(value, place / max(len(ordered) - 1, 1))
    return [places[value] for value in values]
