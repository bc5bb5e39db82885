"""TTML as EBU-TT-D (EBU Tech 3380) has it, for distribution over the internet."""

from dataclasses import replace

from dunlin.core.formats.model import Context, Document, Holds, Oddity
from dunlin.core.formats.ttml_reading import looks_like_ttml, read_ttml
from dunlin.core.formats.ttml_styles import STYLES_OF_EBU_TT_D
from dunlin.core.formats.ttml_writing import Dialect, written_ttml

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "ebu-tt-d", "TTML (EBU-TT-D)", (".xml", ".ttml")
HOLDS = Holds(
    frozenset({
        "italic", "bold", "underline", "colours", "boxes", "alignment", "heights", "sides", "widths",
        "vertical", "speakers", "voices", "languages", "language", "overlap", "lines", "styles",
    }),
    counts_frames=True,
    styles=STYLES_OF_EBU_TT_D,
    family="ttml",
)  # fmt: skip

_CONFORMS = (
    "<ebuttm:documentMetadata><ebuttm:conformsToStandard>urn:ebu:tt:distribution:2018-04"
    "</ebuttm:conformsToStandard></ebuttm:documentMetadata>"
)
_DIALECT = Dialect(
    prefix="tt:",
    root=(("ttp:timeBase", "media"), ("ttp:cellResolution", "32 15")),
    metadata=_CONFORMS,
    base_style=(
        ("tts:fontFamily", "proportionalSansSerif"),
        # Of a cell, a fifteenth of the picture's height: as large as the house style.
        ("tts:fontSize", "100%"),
        ("tts:lineHeight", "125%"),
        ("tts:color", "#FFFFFF"),
        ("tts:textAlign", "center"),
    ),
    ruby=False,
)


def recognises(data: bytes, text: str) -> bool:
    return looks_like_ttml(text) and "urn:ebu:tt:distribution" in text


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    document, oddities = read_ttml(data, context)
    kept = [
        (name, value) for name, value in document.extras if "urn:ebu:tt:distribution" not in value
    ]
    return replace(document, extras=tuple(kept)), oddities


def write(document: Document, context: Context) -> bytes:
    return written_ttml(document, _DIALECT)
