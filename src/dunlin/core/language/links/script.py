"""A translation that came as a script: its lines put into captions with the times of those that they translate."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from dunlin.core.captions import Caption, Span
from dunlin.core.language.drafts.passages import parted_like
from dunlin.core.language.links.model import Link, Progress
from dunlin.core.language.pairing import Paired, Passage, paired
from dunlin.core.text.joints import sentence_ends
from dunlin.core.text.words import joined_words, words_of

__all__ = ["LaidOut", "laid_out"]

_LINE_A_CAPTION = 0.7
"""With so many lines a caption or more, each line is about a caption; with fewer, they are paragraphs."""
_LONGEST_SENTENCE = 6
"""Captions; what goes on longer without an end mark is parted."""


@dataclass(frozen=True)
class LaidOut:
    """A script as captions."""

    captions: tuple[Caption, ...]
    """One for each of the source, without words where the script has nothing; ids are to be given."""
    links: tuple[Link, ...]
    """Of each of them."""
    left_over: tuple[str, ...]
    """Lines that translate none of the source, as far as can be told."""


def laid_out(
    lines: Sequence[str], source: Sequence[Caption], language: str, target: str
) -> LaidOut:
    """Lines of a script as the captions of a translation, by order, lengths, numbers, names and words.

    :param lines: without empty ones
    :param source: captions with words, in their order
    :param language: BCP 47 tag of the source's; of the script `target`
    """
    if len(lines) >= _LINE_A_CAPTION * len(source):
        theirs, groups = list(lines), [[at] for at in range(len(source))]
    else:
        theirs = [part for line in lines for part in _sentences(line, target)]
        groups = _sentences_of(source, language)
    ours = [Passage(" ".join(source[at].text for at in group)) for group in groups]
    said: dict[int, str] = {}
    doubtful: set[int] = set()
    left_over: list[str] = []
    for pair in paired(ours, [Passage(line) for line in theirs], language, target):
        text = joined_words([theirs[at] for at in pair.targets])
        captions = [at for group in pair.sources for at in groups[group]]
        if not captions:
            left_over.append(text)
            continue
        lengths = [len(source[at].text) for at in captions]
        said |= dict(zip(captions, parted_like(text, lengths, target), strict=True))
        if text and _is_doubtful(pair):
            doubtful.update(captions)
    links = []
    for at, caption in enumerate(source):
        progress: Progress | None = "doubtful" if at in doubtful and said.get(at) else None
        links.append(Link((caption.id,), progress=progress))
    captions_made = tuple(_with_words(one, said.get(at, "")) for at, one in enumerate(source))
    return LaidOut(captions_made, tuple(links), tuple(left_over))


def _is_doubtful(pair: Paired) -> bool:
    return pair.is_doubtful and bool(pair.targets)


def _with_words(caption: Caption, text: str) -> Caption:
    return replace(caption, spans=(Span(text),) if text else (), extras=(), made=None)


def _sentences(line: str, language: str) -> list[str]:
    found: list[list[str]] = [[]]
    for word in words_of(line, language):
        found[-1].append(word)
        if sentence_ends(word, language):
            found.append([])
    return [joined_words(words) for words in found if words]


def _sentences_of(captions: Sequence[Caption], language: str) -> list[list[int]]:
    """Places of captions whose words are one sentence or end with one."""
    groups: list[list[int]] = [[]]
    for at, caption in enumerate(captions):
        groups[-1].append(at)
        if sentence_ends(caption.text, language) or len(groups[-1]) >= _LONGEST_SENTENCE:
            groups.append([])
    return [group for group in groups if group]
