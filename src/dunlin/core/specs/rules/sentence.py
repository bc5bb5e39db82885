"""Sentences that go over more captions than a viewer keeps in mind."""

from collections.abc import Iterable

from dunlin.core.captions.model import Caption
from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import one_of_two
from dunlin.core.text.joints import sentence_ends

__all__ = ["RULE", "captions_of_sentence"]

# After as long a silence the sentence has been left, whatever its marks say.
_LEFT_MS = 4000


def _check(setting: Setting) -> Check | None:
    limit = setting.spec.captions_per_sentence
    if not limit:
        return None

    def found(place: Place) -> Iterable[Broken]:
        later, caption = place.caption, place.before
        for back in range(2, limit + 2):
            if caption is None or _ends(caption, later, setting):
                return ()
            later, caption = caption, place.track.at(place.index - back)
        return ((limit + 1, limit, message("findings.sentence", limit=limit)),)

    return found


def captions_of_sentence(place: Place, setting: Setting) -> int | None:
    """How many captions the sentence went over that ends with this one; None where none ends."""
    after = place.after
    if after is not None and not _ends(place.caption, after, setting):
        return None
    count, later = 1, place.caption
    while (before := place.track.at(place.index - count)) and not _ends(before, later, setting):
        count, later = count + 1, before
    return count


def _ends(caption: Caption, after: Caption, setting: Setting) -> bool:
    """Whether a sentence ends between a caption and the one after it."""
    if after.in_ms - caption.out_ms > _LEFT_MS:
        return True
    text = caption.text
    return sentence_ends(text, setting.language) or not text.strip()


RULE = Rule("sentence", ("captions_per_sentence",), "captions", _check, one_of_two)
