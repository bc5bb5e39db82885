"""Scripts as clients send them: read from any text document, and made into captions."""

from dunlin.core.scripts.documents import DOCUMENT_ENDINGS, text_of_document
from dunlin.core.scripts.laying import captions_of_script
from dunlin.core.scripts.reading import CHARACTERS_A_SECOND, Passage, Script, read_script

__all__ = [
    "CHARACTERS_A_SECOND",
    "DOCUMENT_ENDINGS",
    "Passage",
    "Script",
    "captions_of_script",
    "read_script",
    "text_of_document",
]
