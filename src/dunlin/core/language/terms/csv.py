"""Term lists as CSV (RFC 4180): a row a term, with a column for each language and one for what is forbidden in it.

The columns are `term`, `language`, `note`, `as_written` (`yes` or nothing), a language's tag for its translations, and
`not TAG` for what is forbidden there; several in a field are parted by ` | `.
"""

import csv
import io
from collections.abc import Iterable, Iterator

from pydantic import ValidationError

from dunlin.core.language.terms.model import TermEntry
from dunlin.core.messages import BadInput, message
from dunlin.core.text.cells import delimiter_of, field_in_file, field_of_file

__all__ = ["read_terms_csv", "written_terms_csv"]

_FIXED = ("term", "language", "note", "as_written")
_PARTED = "|"


def written_terms_csv(entries: Iterable[TermEntry]) -> str:
    """A file of terms, in UTF-8 with a byte order mark, by which spreadsheets know that."""
    listed = list(entries)
    tags = sorted({tag for entry in listed for tag in entry.translations})
    forbidden = sorted({tag for entry in listed for tag in entry.forbidden})
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow([*_FIXED, *tags, *(f"not {tag}" for tag in forbidden)])
    for entry in listed:
        writer.writerow(
            field_in_file(field)
            for field in (
                entry.term, entry.language, entry.note, "yes" if entry.as_written else "",
                *(" | ".join(entry.translations.get(tag, ())) for tag in tags),
                *(" | ".join(entry.forbidden.get(tag, ())) for tag in forbidden),
            )
        )  # fmt: skip
    return "\ufeff" + out.getvalue()


def read_terms_csv(text: str, language: str) -> Iterator[TermEntry]:
    """The terms of a file, whose fields are parted by commas, semicolons or tabs.

    :param language: of terms that say none
    :raises BadInput: naming the row that is none, or when there is no column of terms
    """
    text = text.removeprefix("\ufeff")
    rows = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter_of(text))
    head = [name.strip() for name in next(rows, [])]
    lower = [name.lower() for name in head]
    if "term" not in lower:
        raise BadInput(message("glossary.no-term-column"))
    for number, row in enumerate(rows, start=2):
        fields = dict(zip(head, row, strict=False))
        named = {name.lower(): value.strip() for name, value in fields.items()}
        if not named.get("term"):
            continue
        tags = {
            name: [field_of_file(word.strip()) for word in value.split(_PARTED) if word.strip()]
            for name, value in fields.items()
            if name.lower() not in _FIXED and name
        }
        try:
            yield TermEntry.model_validate(
                {
                    "term": field_of_file(named["term"]),
                    "language": named.get("language") or language,
                    "note": field_of_file(named.get("note", "")),
                    "as_written": named.get("as_written", "").lower() in ("yes", "true", "1"),
                    "translations": {
                        tag: words
                        for tag, words in tags.items()
                        if words and not _is_forbidden(tag)
                    },
                    "forbidden": {
                        tag[4:].strip(): words
                        for tag, words in tags.items()
                        if words and _is_forbidden(tag)
                    },
                }
            )
        except ValidationError as error:
            place = ".".join(map(str, error.errors()[0]["loc"]))
            raise BadInput(message("glossary.row", row=number, place=place)) from None


def _is_forbidden(column: str) -> bool:
    return column.lower().startswith("not ")
