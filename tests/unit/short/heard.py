"""Words as they are heard, for tests of short form."""

from dunlin.core.speech import Word


def heard(
    text: str, *, first_ms: int = 400, pause_ms: int = 40, breath_ms: int = 500
) -> list[Word]:
    """Words of a text, each as long as it has letters, with a breath after each mark."""
    words, at = [], first_ms
    for word in text.split():
        length = 120 + 40 * len(word)
        words.append(Word(word, at, at + length))
        at += length + (breath_ms if word[-1] in ".,?!" else pause_ms)
    return words


TALK = (
    "They hung a bell nobody alive had heard ring. It weighs four hundred kilos, one evening to cast it, and it rained the "
    "whole time. The first rope broke at twenty past three. Nobody was hurt. Then the wind turned and the fog came in, just "
    "as we needed it. I did not ask Ilse Varga why."
)
