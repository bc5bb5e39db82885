"""The heading that opens a clip: one or two lines in a style of their own, within what a viewer sees."""

from dataclasses import replace

from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Caption, spans_of
from dunlin.core.short.making import Setting, captions_of_groups
from dunlin.core.short.model import Fit, Rhythm, ShortLook
from dunlin.core.short.sight import within_sight
from dunlin.core.short.words import ShortWord
from dunlin.core.text.words import words_of
from dunlin.core.timecode import first_frame_from, start_of_frame

__all__ = ["heading_caption", "look_of_heading"]

_SHOWN_MS = 2600
"""How long it stands: two lines are read in that."""
_LARGER, _HEIGHT = 1.25, 0.2
"""How much larger it is than the words below it, and where it stands, from above."""
_SMALLEST = 0.4


def look_of_heading(look: Look) -> Look:
    """How a heading looks over captions in a look: theirs, but larger, higher up, growing in and fading out, and told all at once."""
    return replace(
        look,
        size=round((look.size or 0.07) * _LARGER, 5),
        x=0.5,
        y=_HEIGHT,
        anchor="middle",
        align="center",
        comes="grow",
        comes_ms=320,
        goes="fade",
        goes_ms=240,
        spoken=None,
        said=None,
        to_come=None,
        spoken_by=None,
        second_line=None,
    )


def heading_caption(text: str, id_: str, style: str, by: Setting) -> Caption:
    """A caption from the film's first frame on that says a text, in the lines that it is written in, or else in two where
    one is too wide; its letters are as small as they have to be. It is locked, so that no rhythm takes it.

    :param text: its words; of its lines the first two
    :param style: name of the style it is in
    :param by: what it is made by: the whole style is that of headings
    """
    lines = [" ".join(line.split()) for line in text.split("\n") if line.strip()][:2]
    out_ms = start_of_frame(
        first_frame_from(min(_SHOWN_MS, by.ends_ms or _SHOWN_MS), by.rate), by.rate
    )
    whole = Caption(id_, 0, out_ms, spans_of("\n".join(lines)), style=style, locked=True)
    if len(lines) == 1:
        words = [ShortWord(spans_of(word), 0, out_ms) for word in words_of(lines[0], by.language)]
        look = ShortLook(
            style,
            by.look.style,
            Rhythm("breath"),
            by.look.weighing,
            Fit(("two-lines", "smaller"), _SMALLEST),
        )
        [made] = captions_of_groups([words], replace(by, look=look))
        whole = replace(whole, spans=spans_of(made.text), look=made.look)
    return within_sight(whole, by.style, by.picture, by.seen)
