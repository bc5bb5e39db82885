"""Reading what may be hostile: it is ended when it hangs, and nothing of it reaches the server."""

import os
import signal
import time

import pytest

from dunlin.core.formats import Context, FormatError, read_file
from dunlin.core.messages import BadInput, message
from dunlin.work.apart import apart, within


def hang() -> None:
    while True:
        time.sleep(1)


def crash() -> None:
    os.kill(os.getpid(), signal.SIGSEGV)


def break_off() -> None:
    raise KeyError("a fault of the reader")


def fill_memory() -> int:
    return len(b"x" * 2**40)


def refuse() -> None:
    raise FormatError(message("files.empty"), 3)


def test_what_is_read_apart_is_read_as_here() -> None:
    data = b"1\n00:00:01,000 --> 00:00:02,000\n<i>Low</i> water\n\nx\n"
    assert apart(read_file, data, "tide.srt", Context()) == read_file(data, "tide.srt", Context())


def test_a_reader_that_hangs_is_ended_and_told() -> None:
    with pytest.raises(BadInput) as told:
        within(0.5, hang)
    assert told.value.message == message("files.takes-too-long", seconds=0)


@pytest.mark.parametrize(
    ("call", "code"),
    [
        (crash, "files.breaks-reader"),
        (break_off, "files.breaks-reader"),
        (fill_memory, "files.takes-too-much"),
    ],
)
def test_a_reader_that_breaks_is_told_and_the_next_file_is_read(call, code: str) -> None:
    with pytest.raises(BadInput) as told:
        apart(call)
    assert told.value.message.code == code
    assert apart(len, b"abc") == 3


def test_what_the_reader_refuses_comes_with_its_line() -> None:
    with pytest.raises(FormatError) as told:
        apart(refuse)
    assert (told.value.message, told.value.line) == (message("files.empty"), 3)
