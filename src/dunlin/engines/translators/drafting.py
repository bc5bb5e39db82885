"""Drafts for many captions, of what is remembered and of an engine."""

from collections.abc import Iterator, Mapping

from dunlin.core.language.drafts.by_memory import exact_draft
from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.engines.translators.translator import Translator

__all__ = ["drafts_by"]


def drafts_by(
    engine: Translator, wanted: Mapping[str, Wanted], known: Known
) -> Iterator[tuple[str, Draft | None]]:
    """Drafts by the captions' ids: what is remembered to the word, then what the engine says of the rest.

    :param wanted: by id, in the order of time
    """
    left = {}
    for id_, one in wanted.items():
        if exact := exact_draft(one, known):
            yield id_, exact
        else:
            left[id_] = one
    yield from zip(left, engine.drafts(list(left.values()), known), strict=True)
