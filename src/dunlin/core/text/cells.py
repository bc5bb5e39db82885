"""Fields of tables that spreadsheets open."""

import re

__all__ = ["delimiter_of", "field_in_file", "field_of_file"]

# A table's programme would carry out what a cell beginning so says (formulas).
# A dash begins a speaker's line, unless it is followed by what a sum or a call is made of.
_FORMULA = re.compile(r"[=+@\t\r]|-\s*(?:[\d.(]|[\w.]*[(|!])")


def delimiter_of(text: str) -> str:
    """What parts the fields of a table, told by its first line: commas, semicolons or tabs."""
    first = text.split("\n", 1)[0]
    return max(",;\t", key=first.count)


def field_in_file(text: str) -> str:
    """A field that no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith("'") or _FORMULA.match(text) else text


def field_of_file(text: str) -> str:
    """What `field_in_file` made a field of."""
    own = text[1:]
    covered = text.startswith("'") and (own.startswith("'") or _FORMULA.match(own))
    return own if covered else text
