"""Who speaks: a caption's speaker, told from the voices of its words."""

from collections.abc import Iterable
from dataclasses import replace

from dunlin.core.captions.model import Span, joined

__all__ = ["with_speaker"]


def with_speaker(
    spans: Iterable[Span], speaker: str | None = None
) -> tuple[tuple[Span, ...], str | None]:
    """Spans whose voice is told only where it is another than the caption's speaker.

    :param speaker: the caption's speaker as the file says; else the first voice, when all words
        have one
    """
    listed = tuple(spans)
    if speaker is None:
        voices = [span.voice for span in listed if span.text.strip()]
        if not voices or None in voices:
            return listed, None
        speaker = voices[0]
    return joined(
        replace(s, voice=None if s.voice == speaker else s.voice) for s in listed
    ), speaker
