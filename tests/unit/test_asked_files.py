"""Files as a spec asks for them."""

import pytest

from dunlin.core.specs import Spec, file_as_asked, file_name


def spec(**asked) -> Spec:
    return Spec(id="own", name="Own / Two", **asked)


@pytest.mark.parametrize(
    ("asked", "data"),
    [
        ({}, "é\n".encode()),
        ({"file_line_ends": "crlf"}, "é\r\n".encode()),
        ({"file_byte_order_mark": True}, b"\xef\xbb\xbf\xc3\xa9\n"),
        ({"file_encoding": "windows-1252"}, b"\xe9\n"),
        ({"file_encoding": "utf-16-le", "file_byte_order_mark": True}, b"\xff\xfe\xe9\x00\n\x00"),
    ],
)
def test_encoding_mark_and_line_ends_are_as_asked(asked, data: bytes) -> None:
    assert file_as_asked("é\n".encode(), spec(**asked)) == data


def test_a_mark_that_a_format_has_stays_unless_it_is_not_wanted() -> None:
    marked = "x\n".encode("utf-8-sig")
    assert file_as_asked(marked, spec()) == marked
    assert file_as_asked(marked, spec(file_byte_order_mark=False)) == b"x\n"


def test_xml_declares_the_encoding_it_has() -> None:
    data = b'<?xml version="1.0" encoding="UTF-8"?>\n<tt/>'
    assert b'encoding="iso-8859-1"' in file_as_asked(data, spec(file_encoding="iso-8859-1"))


def test_what_an_encoding_lacks_is_told_and_not_replaced() -> None:
    with pytest.raises(ValueError, match="windows-1252, which the spec asks for, has no 鐘"):
        file_as_asked("鐘".encode(), spec(file_encoding="windows-1252"))


def test_names_follow_the_pattern() -> None:
    told = {"title": "The Bell: 1", "language": "de", "made": "2026-03-01", "ending": ".srt"}
    assert file_name(spec(), **told) == "The Bell_ 1.de.srt"
    named = file_name(spec(file_name="{date}_{spec}_{title}_{LANG}"), **told)
    assert named == "2026-03-01_Own _ Two_The Bell_ 1_{LANG}.srt"
