"""Plain text: the words alone, captions parted by empty lines."""

from dunlin.core.captions.model import Caption, spans_of
from dunlin.core.formats.cues import numbered, without_blank_lines
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, Holds, Oddity
from dunlin.core.messages import message
from dunlin.core.text.measure import characters

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "text", "Plain text", (".txt",)
HOLDS = Holds(frozenset({"lines"}), precision="none")

# Times for words without any: at the speed most adults read with ease, and not below a second.
_CHARACTERS_A_SECOND, _LEAST_MS, _GAP_MS = 15, 1000, 100


def recognises(data: bytes, text: str) -> bool:
    """Any text could be one; its ending, or a person, has to say so."""
    return False


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Captions one after the other; a line each, or what empty lines part when there are any."""
    text, oddities = decoded(data, context)
    blocks = text.strip("\n").split("\n\n") if "\n\n" in text.strip("\n") else text.split("\n")
    captions: list[Caption] = []
    at = 0
    for block in blocks:
        words = "\n".join(line.strip() for line in block.split("\n") if line.strip())
        if words:
            shown = max(_LEAST_MS, characters(words) * 1000 // _CHARACTERS_A_SECOND)
            captions.append(Caption(numbered(len(captions)), at, at + shown, spans_of(words)))
            at += shown + _GAP_MS
    oddities.append(Oddity(1, message("oddities.no-times")))
    return Document(tuple(captions)), oddities


def write(document: Document, context: Context) -> bytes:
    texts = (without_blank_lines(caption.text) for caption in document.captions)
    return ("\n\n".join(texts) + "\n").encode()
