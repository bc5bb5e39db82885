"""LRC: a line of text behind the time it begins at."""

import re
from itertools import pairwise

from dunlin.core.captions.model import Caption, Span, extra
from dunlin.core.formats.cues import mended_times, numbered, put_in_order
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Holds, Oddity
from dunlin.core.messages import Message, message
from dunlin.core.timecode import clock_ms

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "lrc", "LRC", (".lrc",)
HOLDS = Holds(frozenset({"language"}), precision="hundredths")

_TIME = re.compile(r"\[(\d{1,6}):(\d{1,2})(?:[.:](\d{1,3}))?\]")
_HEAD = re.compile(r"\[([a-zA-Z#]+):([^\]]*)\]\s*")
_WORD_TIME = re.compile(r"<\d{1,6}:\d{1,2}(?:[.:]\d{1,3})?>")
# A line lasts until the next; the last one has nothing to end it.
_LAST_LINE_MS = 5000


def recognises(data: bytes, text: str) -> bool:
    lines = [line.strip() for line in text.split("\n")[:30] if line.strip()]
    timed = sum(_TIME.match(line) is not None for line in lines)
    return timed > 0 and all(line.startswith("[") for line in lines[:-1])


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Lines, each shown until the next time in the file."""
    text, oddities = decoded(data, context)
    moments: list[tuple[int, int, str]] = []
    head: list[str] = []
    language, offset_ms = None, 0
    for number, line in enumerate(text.split("\n"), 1):
        stripped, times = line.strip(), []
        while match := _TIME.match(stripped):
            times.append(_milliseconds(match))
            stripped = stripped[match.end() :].lstrip()
        if not times:
            if not stripped:
                continue
            found = _HEAD.fullmatch(stripped)
            if found is None:
                oddities.append(Oddity(number, message("oddities.no-time", text=stripped[:60])))
            elif found[1].lower() == "la":
                language = found[2].strip() or None
            elif found[1].lower() == "offset" and re.fullmatch(r"\s*[+-]?\d{1,7}\s*", found[2]):
                offset_ms = int(found[2])
            else:
                head.append(stripped)
            continue
        if _WORD_TIME.search(stripped):
            stripped = " ".join(_WORD_TIME.sub("", stripped).split())
            oddities.append(Oddity(number, message("oddities.word-times")))
        moments += [(time, number, stripped) for time in times]
    if not moments:
        raise FormatError(message("formats.no-line-times"), 1)
    moments = [(time - offset_ms, number, words) for time, number, words in moments]
    return Document(
        *_shown(moments, oddities, language),
        extras=(("lrc:head", "\n".join(head)),) if head else (),
    ), sorted(oddities, key=lambda oddity: oddity.line)


def _shown(
    moments: list[tuple[int, int, str]], oddities: list[Oddity], language: str | None
) -> tuple[tuple[Caption, ...], str | None]:
    ordered = sorted(moments, key=lambda moment: moment[0])
    if ordered != moments and len({number for _, number, _ in moments}) == len(moments):
        oddities.append(Oddity(1, message("oddities.lines-out-of-order")))
    captions: list[tuple[int, Caption]] = []
    times = sorted({time for time, _, _ in ordered})
    following = dict(pairwise(times)) | {times[-1]: times[-1] + _LAST_LINE_MS}
    for time, number, words in ordered:
        if not words:
            continue
        after = following[time]
        caption = Caption(numbered(len(captions)), time, after, (Span(words),))

        def odd(told: Message, number: int = number) -> None:
            oddities.append(Oddity(number, told))

        captions.append((number, mended_times(caption, odd)))
    return put_in_order(captions, [])[0], language


def _milliseconds(match: re.Match[str]) -> int:
    return clock_ms("0", *match.groups())


def write(document: Document, context: Context) -> bytes:
    head = extra(document.extras, "lrc:head")
    lines = [head] if head else []
    if document.language:
        lines.append(f"[la:{document.language}]")
    for index, caption in enumerate(document.captions):
        lines.append(f"{_time(caption.in_ms)}{caption.text}")
        following = document.captions[index + 1] if index + 1 < len(document.captions) else None
        if following is None or following.in_ms > caption.out_ms:
            lines.append(_time(caption.out_ms))
    return ("\n".join(lines) + "\n").encode()


def _time(ms: int) -> str:
    minutes, rest = divmod(ms // 10, 6000)
    return f"[{minutes:02}:{rest // 100:02}.{rest % 100:02}]"
