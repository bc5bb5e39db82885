"""The terms of one language with what they are in another."""

from collections.abc import Iterable, Mapping, Sequence

from dunlin.core.language.terms.model import TermEntry
from dunlin.core.specs.translation import Term

__all__ = ["terms_between"]


def terms_between(entries: Iterable[TermEntry], language: str, target: str) -> list[Term]:
    """Terms that are translated, or must not be called something, in the target; of those called alike the last one counts.

    :param language: BCP 47 tag, as the target's; where a list says no more than the language, it is of all its regions
    """
    found: dict[str, Term] = {}
    for entry in entries:
        if not _is_of(entry.language, language):
            continue
        targets = _in_language(entry.translations, target)
        forbidden = _in_language(entry.forbidden, target)
        if targets or forbidden:
            found[entry.term.lower()] = Term(entry.term, targets, forbidden, entry.as_written)
    return [found[key] for key in sorted(found)]


def _is_of(one: str, other: str) -> bool:
    """Whether two tags are of one language, or one of them says no more than that."""
    return one == other or one == other.split("-")[0] or one.split("-")[0] == other


def _in_language(by_language: Mapping[str, Sequence[str]], language: str) -> tuple[str, ...]:
    return tuple(
        word for tag, words in by_language.items() if _is_of(tag, language) for word in words
    )
