"""Words that the dictionary of the track's language does not know."""

from collections.abc import Iterable

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.text.dictionaries import unknown_words

__all__ = ["RULE"]


def _check(setting: Setting) -> Check | None:
    spelling = setting.spelling
    if not setting.spec.spelled or spelling is None:
        return None

    def found(place: Place) -> Iterable[Broken]:
        words = [
            place.text[start:end]
            for start, end in unknown_words(place.text, spelling.dictionary, spelling.known)
        ]
        if not words:
            return ()
        told = message("findings.spelling", words=", ".join(dict.fromkeys(words)))
        return ((len(words), 0, told),)

    return found


RULE = Rule("spelling", ("spelled",), "places", _check)
