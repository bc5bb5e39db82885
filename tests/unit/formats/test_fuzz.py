"""Files that are broken in all kinds of ways, made of those with every feature: a few thousand of what
`make fuzz` looks for all day."""

import signal
from collections.abc import Iterator
from contextlib import contextmanager
from random import Random

import pytest

from tests.fuzz.readers import KINDS, read, seeds

CASES = 250
"""Of each kind of file."""

# A reader that hangs would hold the tests up for ever; no file of the corpus takes a hundredth of it.
HANGS_AFTER_SECONDS = 60

TOKENS = [
    b"", b"\n", b"\r", b"\n\n", b"\0", b"\xff", b"\xed\xa0\x80", b"-->", b"<", b">", b"</", b"{\\", b"}", b"&",
    b"&#0;", b"&#xD800;", b'"', b"'", b",", b";", b"\t", b"9" * 50, b"-1", b"1e999", b"nan", b"00:00:00.000",
    b"[", b"]", b"<b>", b"<c.a.b>", b"\\an", b"\\p9", b"\\u-99999?", b"begin=", b"%", "\u0663".encode(),
    "\u2028".encode(), "\u202e".encode(), "\N{BELL}".encode(),
]  # fmt: skip


@contextmanager
def not_hanging() -> Iterator[None]:
    def hangs(number: int, frame: object) -> None:
        raise AssertionError("a reader hangs")

    before = signal.signal(signal.SIGALRM, hangs)
    signal.alarm(HANGS_AFTER_SECONDS)
    try:
        yield
    finally:
        signal.alarm(0)
        signal.signal(signal.SIGALRM, before)


def broken(data: bytes, others: list[bytes], random: Random) -> bytes:
    """A file with a few things done to it: cut, repeated, overwritten, put together with another."""
    for _ in range(random.randint(1, 6)):
        at, to = sorted(random.randint(0, len(data)) for _ in range(2))
        to = min(to, at + random.choice([1, 4, 40, 400]))
        data = random.choice(
            [
                data[:at] + data[to:],
                data[:at] + data[at:to] * random.choice([2, 3, 50]) + data[to:],
                data[:at] + random.choice(TOKENS) + data[at:],
                data[:at] + random.choice(TOKENS) + data[to:],
                data[:at] + random.randbytes(to - at) + data[to:],
                data[:at] + random.choice(others)[at:],
            ]
        )[:20_000]
    return data


@pytest.mark.parametrize("kind", range(len(KINDS)), ids=[name for name, _ in KINDS])
def test_a_broken_file_is_read_or_refused_in_words(kind: int) -> None:
    own = seeds()[KINDS[kind][0]]
    assert own
    random = Random(kind)
    for number in range(CASES):
        data = broken(random.choice(own), own, random) if number >= len(own) else own[number]
        with not_hanging():
            try:
                read(kind, data)
            except Exception as fault:
                raise AssertionError(f"{KINDS[kind][0]} raises {fault!r} for {data!r}") from fault
