"""TTML as the W3C's IMSC 1.1 Text Profile has it."""

from dunlin.core.formats.model import Context, Document, Holds, Oddity
from dunlin.core.formats.ttml_reading import looks_like_ttml, read_ttml
from dunlin.core.formats.ttml_styles import STYLES_OF_IMSC
from dunlin.core.formats.ttml_writing import Dialect, written_ttml

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "imsc", "TTML (IMSC 1.1 Text)", (".ttml", ".dfxp", ".xml")
HOLDS = Holds(
    frozenset({
        "italic", "bold", "underline", "colours", "boxes", "alignment", "heights", "sides", "widths",
        "vertical", "speakers", "voices", "languages", "language", "ruby", "overlap", "lines", "styles",
    }),
    counts_frames=True,
    styles=STYLES_OF_IMSC,
    family="ttml",
)  # fmt: skip

_DIALECT = Dialect(
    prefix="",
    root=(
        ("ttp:timeBase", "media"),
        ("ttp:cellResolution", "32 15"),
        ("ttp:contentProfiles", "http://www.w3.org/ns/ttml/profile/imsc1.1/text"),
    ),
    metadata="",
    base_style=(
        ("tts:fontFamily", "proportionalSansSerif"),
        ("tts:fontSize", "100%"),
        ("tts:color", "#FFFFFF"),
        ("tts:textAlign", "center"),
    ),
    ruby=True,
    edges=True,
)


def recognises(data: bytes, text: str) -> bool:
    return looks_like_ttml(text)


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    return read_ttml(data, context)


def write(document: Document, context: Context) -> bytes:
    return written_ttml(document, _DIALECT)
