"""Where italics may stand: nowhere, or in whole lines alone."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.captions.model import Span, joined
from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.styles.wrapping import joined_lines, lines_of

__all__ = ["RULE"]


def _check(setting: Setting) -> Check | None:
    wanted = setting.spec.italics
    if wanted is None:
        return None

    def found(place: Place) -> Iterable[Broken]:
        spans = place.caption.spans
        if not any(span.italic and span.text.strip() for span in spans):
            return ()
        if wanted == "none":
            return ((1, 0, message("findings.italics")),)
        mixed = sum(_is_mixed(line) for line in lines_of(spans))
        return ((mixed, 0, message("findings.italics-in-line", count=mixed)),) if mixed else ()

    return found


def _is_mixed(line: Iterable[Span]) -> bool:
    """Whether some of a line is in italics and some is not."""
    return len({span.italic for span in line if span.text.strip()}) > 1


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """None, or each line as most of its letters are."""
    caption = place.caption
    if setting.spec.italics == "none":
        spans = joined([span.in_style("italic", False) for span in caption.spans])
    else:
        spans = joined(joined_lines(_as_most(line) for line in lines_of(caption.spans)))
    yield (caption.id,), (replace(caption, spans=spans),)


def _as_most(line: tuple[Span, ...]) -> tuple[Span, ...]:
    leaning = sum(len(span.text.strip()) for span in line if span.italic)
    upright = sum(len(span.text.strip()) for span in line if not span.italic)
    return tuple(span.in_style("italic", leaning > upright) for span in line)


RULE = Rule("italics", ("italics",), "places", _check, _mend)
