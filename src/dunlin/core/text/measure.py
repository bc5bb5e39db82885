"""How long a text is for a reader."""

import regex

__all__ = ["characters", "longest_line", "reading_speed"]


def characters(text: str) -> int:
    """Number of characters as a reader counts them: grapheme clusters (UAX #29), no line breaks.

    Spaces and punctuation count.
    """
    if text.isascii():
        return len(text) - text.count("\n")
    return sum(len(regex.findall(r"\X", line)) for line in text.split("\n"))


def longest_line(text: str) -> int:
    """Characters in the longest line."""
    return max(characters(line) for line in text.split("\n"))


def reading_speed(text: str, duration_ms: int) -> float:
    """Characters a second that a reader must take in. :raises ZeroDivisionError: at no duration"""
    return characters(text) * 1000 / duration_ms
