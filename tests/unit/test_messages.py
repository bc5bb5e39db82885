"""Messages: every code has words, every place in the words has a value, and nothing is left over."""

import ast
import json
import re
from collections.abc import Iterator
from importlib import resources
from pathlib import Path

import pytest

import dunlin
from dunlin.core.messages import BadInput, in_words, message

SOURCES = sorted(Path(dunlin.__file__).parent.rglob("*.py"))


def words() -> dict[str, str]:
    areas = json.loads((resources.files("dunlin.core.messages") / "en.json").read_text("utf-8"))
    return {f"{area}.{name}": said for area, all_ in areas.items() for name, said in all_.items()}


def messages_made() -> Iterator[tuple[str, set[str]]]:
    """Codes as they stand in the source, as patterns, with the names of their values."""
    for source in SOURCES:
        for node in ast.walk(ast.parse(source.read_text("utf-8"))):
            if not isinstance(node, ast.Call) or getattr(node.func, "id", "") != "message":
                continue
            code, names = node.args[0], {keyword.arg or "" for keyword in node.keywords}
            if isinstance(code, ast.Constant):
                yield re.escape(code.value), names
            elif isinstance(code, ast.JoinedStr):
                parts = [p.value if isinstance(p, ast.Constant) else None for p in code.values]
                yield "".join(".+" if p is None else re.escape(p) for p in parts), names


def test_every_message_has_words_and_every_place_in_them_a_value() -> None:
    said = words()
    # `found` is added where the text is looked through, and `code` messages come from tables.
    given_later = {"found"}
    for pattern, names in messages_made():
        codes = [code for code in said if re.fullmatch(pattern, code)]
        assert codes, f"{pattern} has no text"
        for code in codes:
            places = set(re.findall(r"\{(\w+)\}", said[code]))
            assert places <= names | given_later, f"{code}: {places - names}"
            assert names <= places | {"count"}, f"{code}: {names - places} is not told"


def test_no_words_are_left_over() -> None:
    sources = "\n".join(source.read_text("utf-8") for source in SOURCES)
    patterns = [pattern for pattern, _ in messages_made()]
    left = [
        code
        for code in words()
        if not any(re.fullmatch(pattern, code) for pattern in patterns)
        and f'"{code}"' not in sources
    ]
    assert left == []


def test_one_and_many_are_told_apart() -> None:
    assert str(message("oddities.comment-blocks", count=1)) == "1 comment block left out"
    assert str(message("oddities.comment-blocks", count=2)) == "2 comment blocks left out"


def test_a_message_within_a_message_is_told_in_its_words() -> None:
    error = BadInput(message("times.no-time", text="noon"))
    assert str(message("oddities.left-out", reason=error)) == "'noon' is not a time; left out"


def test_numbers_are_told_without_needless_places() -> None:
    told = message("findings.reading-speed", speed=17.0, limit=16.5)
    assert str(told) == "17 characters a second, the spec allows 16.5"


def test_an_unknown_code_is_an_error_of_the_program() -> None:
    with pytest.raises(KeyError):
        in_words(message("nothing.like-this"))
