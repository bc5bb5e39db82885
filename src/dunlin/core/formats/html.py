"""A transcript as one HTML file that any browser shows and prints, with nothing from elsewhere."""

from jinja2 import Environment, PackageLoader

from dunlin.core.formats.model import Context, Document, Holds
from dunlin.core.timecode import clock

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "write"]

NAME, TITLE, ENDINGS = "html", "HTML transcript", (".html",)
HOLDS = Holds(
    frozenset({"italic", "bold", "underline", "colours", "boxes", "speakers", "voices", "languages",
               "language", "ruby", "overlap", "lines"})
)  # fmt: skip

_PAGES = Environment(
    loader=PackageLoader("dunlin.core.formats", "pages"),
    autoescape=True,
    trim_blocks=True,
    lstrip_blocks=True,
)
_PAGES.filters["clock"] = clock


def write(document: Document, context: Context) -> bytes:
    page = _PAGES.get_template("transcript.html")
    return page.render(document=document, title=context.title or "Transcript").encode()
