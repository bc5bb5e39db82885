"""Transcripts as files for those who only read them, and Dunlin's own read back."""

import io
import json
from collections.abc import Sequence
from dataclasses import MISSING, asdict, fields
from typing import Annotated

import docx
from docx.shared import Pt, RGBColor
from jinja2 import Environment, PackageLoader
from lxml import etree, html
from pydantic import BaseModel, StringConstraints, TypeAdapter, ValidationError

from dunlin.core.captions.bounds import MOST_MS
from dunlin.core.formats.model import FormatError
from dunlin.core.messages import message
from dunlin.core.speech.transcript import paragraphs
from dunlin.core.speech.words import Word, in_order, linked_ms

__all__ = [
    "MOST_NAME",
    "as_docx",
    "as_html",
    "as_json",
    "as_text",
    "words_of_html",
    "words_of_json",
]

_PAGES = Environment(
    loader=PackageLoader("dunlin.core.speech", "pages"),
    autoescape=True,
    trim_blocks=True,
    lstrip_blocks=True,
)
_WORDS = TypeAdapter(list[Word])
MOST_NAME = 80
"""Characters that the name of somebody who speaks has at the most."""
_Tag = Annotated[str, StringConstraints(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]


class _Transcript(BaseModel):
    """A transcript as JSON; what a word is not said to be, it is not."""

    language: _Tag | None = None
    words: list[Word]


_STYLES = ("italic", "bold", "underline")
_SOFT = RGBColor(0x6B, 0x64, 0x5A)


def as_text(words: Sequence[Word], *, times: bool = True, speakers: bool = True) -> str:
    """A transcript to read anywhere: one paragraph after the other, with a blank line between.

    :param times: whether each paragraph begins with the time it is spoken at, as `[0:01:02]`
    :param speakers: whether each begins with who speaks, as `NAME:`
    """
    lines = []
    for paragraph in paragraphs(words):
        head = [f"[{_time(paragraph[0].start_ms)}]"] if times else []
        speaker = paragraph[0].speaker
        head += [f"{speaker}:"] if speakers and speaker else []
        lines.append(" ".join([*head, *(word.text for word in paragraph)]) + "\n")
    return "\n".join(lines)


def as_html(words: Sequence[Word], title: str, language: str | None = None) -> bytes:
    """A transcript as one page that any browser shows, searches and prints, with nothing from
    elsewhere. A click on a word or a time plays from there, once the reader has opened the film.

    The words with their times are in it a second time as data, so that it can be read back.
    """
    # A data block ends at the first "</": what the words say must not end it.
    data = json.dumps([asdict(word) for word in words], ensure_ascii=False).replace("<", "\\u003c")
    page = _PAGES.get_template("transcript.html")
    return page.render(
        title=title,
        language=language or "",
        paragraphs=paragraphs(words),
        data=data,
        time=_time,
        linked=linked_ms,
        styles=lambda word: " ".join(s for s in _STYLES if getattr(word, s)),
    ).encode()


def as_docx(
    words: Sequence[Word], title: str, *, times: bool = True, speakers: bool = True
) -> bytes:
    """A transcript as a document for a word processor, with times and speakers as `as_text`."""
    document, data = docx.Document(), io.BytesIO()
    document.core_properties.title = title
    document.add_heading(title, 1)
    for paragraph in paragraphs(words):
        put = document.add_paragraph()
        put.paragraph_format.space_after = Pt(8)
        if times:
            run = put.add_run(f"{_time(paragraph[0].start_ms)}  ")
            run.font.size, run.font.color.rgb = Pt(9), _SOFT
        if speakers and paragraph[0].speaker:
            put.add_run(f"{paragraph[0].speaker}: ").bold = True
        for index, word in enumerate(paragraph):
            # The space before a word is in its style only where that goes on.
            space = " " if index else ""
            styles = (word.italic, word.bold, word.underline)
            before = paragraph[index - 1]
            if space and styles != (before.italic, before.bold, before.underline):
                put.add_run(space)
                space = ""
            run = put.add_run(space + word.text)
            run.italic, run.bold, run.underline = (style or None for style in styles)
    document.save(data)
    return data.getvalue()


def words_of_html(data: bytes) -> list[Word]:
    """The words of a page that `as_html` wrote. :raises FormatError: when it is no such page"""
    try:
        root = html.document_fromstring(
            data, parser=html.HTMLParser(encoding="utf-8", huge_tree=True)
        )
        block = root.find(".//script[@id='dunlin-transcript']")
        words = _WORDS.validate_json(block.text or "") if block is not None else []
    except (etree.ParserError, etree.XMLSyntaxError, ValidationError):
        raise FormatError(message("transcripts.damaged")) from None
    if block is None:
        raise FormatError(message("transcripts.not-ours"))
    if not all(
        len(word.text.split()) == 1
        and 0 <= word.start_ms < MOST_MS
        and len(word.speaker or "") <= MOST_NAME
        for word in words
    ):
        raise FormatError(message("transcripts.damaged"))
    return in_order(words)


def _time(ms: int) -> str:
    minutes, seconds = divmod(ms // 1000, 60)
    hours, minutes = divmod(minutes, 60)
    return f"{hours}:{minutes:02}:{seconds:02}"


_WHERE_NOT_SAID = {
    field.name: field.default for field in fields(Word) if field.default is not MISSING
}


def as_json(words: Sequence[Word], language: str | None = None) -> bytes:
    """A transcript as data: `{"language": TAG, "words": [{"text", "start_ms", "end_ms", ...}]}`."""
    told = [
        {
            name: value
            for name, value in asdict(word).items()
            if name not in _WHERE_NOT_SAID or value != _WHERE_NOT_SAID[name]
        }
        for word in words
    ]
    return (json.dumps({"language": language, "words": told}, ensure_ascii=False) + "\n").encode()


def words_of_json(data: bytes) -> tuple[tuple[Word, ...], str | None]:
    """The words of such a transcript, put in order of time, and its language if it says one.

    :raises FormatError: when it is none, or its times make no sense
    """
    try:
        transcript = _Transcript.model_validate_json(data)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "JSON"
        raise FormatError(
            message("transcripts.json-wrong", place=place, reason=first["msg"])
        ) from None
    for number, word in enumerate(transcript.words, 1):
        if not word.text.strip() or not 0 <= word.start_ms <= word.end_ms <= MOST_MS:
            raise FormatError(message("transcripts.no-word", number=number))
        if len(word.speaker or "") > MOST_NAME:
            raise FormatError(message("transcripts.long-name", number=number, most=MOST_NAME))
    return tuple(in_order(transcript.words)), transcript.language
