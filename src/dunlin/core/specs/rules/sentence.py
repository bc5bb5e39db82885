"""Sentences that go over more captions than a viewer keeps in mind."""

from collections.abc import Iterable

from dunlin.core.specs.rules.place import Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import one_of_two
from dunlin.core.text.joints import sentence_ends

__all__ = ["RULE"]

# After as long a silence the sentence has been left, whatever its marks say.
_LEFT_MS = 4000


def _check(setting: Setting) -> Check | None:
    limit = setting.spec.captions_per_sentence
    if not limit:
        return None

    def found(place: Place) -> Iterable[tuple[float, float, str]]:
        later = place.caption
        for back in range(1, limit + 1):
            caption = place.track.at(place.index - back)
            if caption is None or later.in_ms - caption.out_ms > _LEFT_MS:
                return ()
            words = caption.text.split()
            if not words or sentence_ends(words[-1], setting.language):
                return ()
            later = caption
        return (
            (limit + 1, limit, f"the sentence goes on into a caption past the {limit} it may take"),
        )

    return found


RULE = Rule("sentence", ("captions_per_sentence",), "captions", _check, one_of_two)
