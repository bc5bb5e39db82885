"""Words about a film as files: data, plain text to paste, chapters as a WebVTT track (W3C WebVTT, 1.3, chapters)."""

import json

from dunlin.core.captions.model import Caption
from dunlin.core.language.digest.sentences import Said
from dunlin.core.language.digest.words_about import WordsAbout, as_data
from dunlin.core.text.words import words_of
from dunlin.core.timecode import clock

__all__ = ["as_chapters", "as_json", "as_text", "said_in"]


def said_in(caption: Caption, language: str) -> list[Said]:
    """The words of a caption, each as long as its letters take of the whole."""
    words = words_of(caption.text, language)
    letters = sum(map(len, words)) or 1
    length, at, said = caption.out_ms - caption.in_ms, 0, []
    for word in words:
        begins, at = at, at + len(word)
        from_ms = caption.in_ms + length * begins // letters
        said.append(Said(word, from_ms, caption.in_ms + length * at // letters))
    return said


def as_json(about: WordsAbout) -> bytes:
    """All of it, as `dunlin digest` writes it."""
    return json.dumps(as_data(about), indent=2, ensure_ascii=False).encode() + b"\n"


def as_text(about: WordsAbout) -> bytes:
    """All of it to read and to paste, the chapters as lines with the times they begin at."""
    parts = [
        *about.titles, "", about.short, "", about.long, "", ", ".join(about.keywords), "",
        *(f"{_short(chapter.at_ms)} {chapter.title}" for chapter in about.chapters), "",
        *(f"{_short(one.from_ms)}–{_short(one.to_ms)} {one.text}" for one in about.passages),
    ]  # fmt: skip
    return ("\n".join(parts).strip() + "\n").encode()


def _short(ms: int) -> str:
    seconds = ms // 1000
    hours, rest = divmod(seconds, 3600)
    return f"{hours}:{rest // 60:02}:{rest % 60:02}" if hours else f"{rest // 60}:{rest % 60:02}"


def as_chapters(about: WordsAbout, ends_ms: int) -> bytes:
    """The chapters as a track that players find places by.

    :param ends_ms: where the last ends
    """
    ends = [*(chapter.at_ms for chapter in about.chapters[1:]), ends_ms]
    cues = [
        f"{number}\n{clock(chapter.at_ms)} --> {clock(max(end, chapter.at_ms + 1))}\n{_plain(chapter.title)}\n"
        for number, (chapter, end) in enumerate(zip(about.chapters, ends, strict=True), 1)
    ]
    return "\n".join(["WEBVTT\n", *cues]).encode()


def _plain(title: str) -> str:
    """A title in which no mark of WebVTT is one."""
    return " ".join(title.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;").split())
