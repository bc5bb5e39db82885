"""The text of a WebVTT cue: its tags, classes, voices and entities."""

import html
import re
from collections.abc import Callable, Container, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import TypeAlias

from dunlin.core.captions.model import Caption, Span, extra, joined, with_extra
from dunlin.core.formats.cues import without_blank_lines
from dunlin.core.formats.named_styles import token_of_name
from dunlin.core.formats.tags import Tag, simple_tags, spans_from_tags
from dunlin.core.formats.voices import with_speaker
from dunlin.core.messages import Message

__all__ = [
    "STANDARD_COLOURS",
    "ClassStyle",
    "class_styles",
    "cue_payload",
    "needed_styles",
    "read_payload",
    "style_block",
]

# The standard's default classes (WebVTT 1, 5.1).
_COLOURS = {"white": "#FFFFFF", "lime": "#00FF00", "cyan": "#00FFFF", "red": "#FF0000",
            "yellow": "#FFFF00", "magenta": "#FF00FF", "blue": "#0000FF", "black": "#000000"}  # fmt: skip
STANDARD_COLOURS = tuple(_COLOURS)
"""Names of classes that are colours wherever they stand."""
_KNOWN = ("", "c", "v", "lang", "ruby", "rt")
_RULE = re.compile(r"::cue\(\s*\.([\w-]+)\s*\)\s*\{([^}]*)\}")
_SELECTOR = re.compile(r"([^{}]+)\{[^}]*\}")
_CLASS = re.compile(r"\.([\w-]+)")
# Names of classes in a row, as a tag has them, and a time inside a cue (WebVTT 1, 6.4 and 4.2.2).
_CLASSES = re.compile(r"[^\s.<>&]+")
# Of one tag.
_MOST_CLASSES = 50
_TIME = re.compile(r"(?:\d{2,}:)?\d{2}:\d{2}\.\d{3}")
_DECLARED = re.compile(r"(?:^|[;\s])(color|background-color|background)\s*:\s*(#[0-9a-fA-F]{6})\b")


@dataclass(frozen=True, order=True)
class ClassStyle:
    """What a class means: colours as `#RRGGBB`."""

    colour: str | None = None
    background: str | None = None


ClassNames: TypeAlias = Mapping[ClassStyle, str]
"""Names of classes by what they mean."""

_DEFAULT = {name: ClassStyle(colour=value) for name, value in _COLOURS.items()} | {
    f"bg_{name}": ClassStyle(background=value) for name, value in _COLOURS.items()
}
_CLASS_OF = {style: name for name, style in _DEFAULT.items()}


def class_styles(blocks: Iterable[str], looks: Container[str] = ()) -> Mapping[str, ClassStyle]:
    """Classes by name: the standard's own, and those that a file's STYLE blocks give a colour.

    :param looks: classes that say more than a colour, and are not among them
    """
    found = {}
    for block in blocks:
        for name, body in _RULE.findall(block):
            declared = {key: value.upper() for key, value in _DECLARED.findall(body)}
            background = declared.get("background-color") or declared.get("background")
            if declared and name not in looks:
                found[name] = ClassStyle(declared.get("color"), background)
    return _DEFAULT | found if found else _DEFAULT


def read_payload(
    text: str, classes: Mapping[str, ClassStyle], odd: Callable[[Message], None]
) -> tuple[tuple[Span, ...], str | None]:
    """Styled text of a cue, and its speaker."""
    if "<" not in text:
        return (Span(html.unescape(text) if "&" in text else text),) if text else (), None

    def style(span: Span, tag: Tag) -> Span:
        return _styled(span, tag, classes)

    spans = _with_ruby(spans_from_tags(text, known=_KNOWN, style=style, odd=odd))
    if "&" in text:
        spans = tuple(replace(span, text=html.unescape(span.text)) for span in spans)
    return with_speaker(spans)


def _styled(span: Span, tag: Tag, classes: Mapping[str, ClassStyle]) -> Span:
    if not tag.name:
        return replace(span, extras=with_extra(span.extras, "webvtt:time", tag.rest))
    names, _, annotation = tag.rest.partition(" ")
    for name in list(filter(None, names.split(".")))[:_MOST_CLASSES]:
        known = classes.get(name)
        if known is None:
            before = extra(span.extras, "webvtt:class")
            value = f"{before}.{name}" if before else name
            span = replace(span, extras=with_extra(span.extras, "webvtt:class", value))
        else:
            span = replace(
                span,
                colour=known.colour or span.colour,
                background=known.background or span.background,
            )
    annotation = " ".join(html.unescape(annotation).split())
    if tag.name == "v":
        return replace(span, voice=annotation or None)
    if tag.name == "lang":
        return replace(span, language=annotation or None)
    if tag.name == "ruby":
        return replace(span, ruby="")
    if tag.name == "rt":
        return replace(span, ruby="\N{RECORD SEPARATOR}")
    return span


def _with_ruby(spans: tuple[Span, ...]) -> tuple[Span, ...]:
    """Readings moved from their place behind the text to the text they are about."""
    if all(span.ruby is None for span in spans):
        return spans
    found: list[Span] = []
    base: list[int] = []
    for span in spans:
        if span.ruby == "\N{RECORD SEPARATOR}":
            for index in base:
                found[index] = replace(found[index], ruby=span.text)
            base = []
            continue
        if span.ruby == "":
            base.append(len(found))
        found.append(span)
    return joined(replace(span, ruby=span.ruby or None) for span in found)


def cue_payload(caption: Caption, names: ClassNames) -> str:
    """A caption's text with tags, entities, and its voice.

    :param names: classes that stand for colours, by what they mean
    """
    spans = caption.spans
    voices = any(span.voice for span in spans)
    if len(spans) == 1 and spans[0].is_plain:
        text = _escaped(spans[0].text)
    else:
        text = _tagged(spans, caption.speaker if voices else None, names)
    if caption.style and text.strip():
        text = f"<c.{token_of_name(caption.style)}>{text}</c>"
    if caption.speaker and not voices:
        text = f"<v {_escaped(' '.join(caption.speaker.split()))}>{text}"
    return without_blank_lines(text)


def _tagged(spans: tuple[Span, ...], speaker: str | None, names: ClassNames) -> str:
    result, time = [], None
    for span in spans:
        now = extra(span.extras, "webvtt:time")
        if now is not None and now != time and _TIME.fullmatch(now):
            time = now
            result.append(f"<{now}>")
        opening, closing = "", ""
        for name, rest in _tags(span, speaker, names):
            opening, closing = f"{opening}<{name}{rest}>", f"</{name}>{closing}"
        text = _escaped(span.text)
        if span.ruby:
            text = f"<ruby>{text}<rt>{_escaped(span.ruby)}</rt></ruby>"
        result.append(f"{opening}{text}{closing}")
    return "".join(result)


def _tags(span: Span, speaker: str | None, names: ClassNames) -> list[tuple[str, str]]:
    """Names of a span's tags, from the outermost, each with what stands behind it."""
    tags: list[tuple[str, str]] = []
    if voice := span.voice or speaker:
        tags.append(("v", f" {_escaped(' '.join(voice.split()))}"))
    if span.language:
        tags.append(("lang", f" {_escaped(span.language)}"))
    classes = [
        *(_class_name(style, names) for style in _styles_of(span)),
        *_CLASSES.findall(extra(span.extras, "webvtt:class") or ""),
    ]
    if classes:
        tags.append(("c", "".join(f".{name}" for name in classes)))
    return tags + [(name, "") for name in simple_tags(span)]


def class_names(defined: Mapping[str, ClassStyle]) -> ClassNames:
    """Names of classes by what they mean: the standard's, and those of a file that mean one thing."""
    single = {
        style: name for name, style in defined.items() if not (style.colour and style.background)
    }
    return single | _CLASS_OF


def _styles_of(span: Span) -> list[ClassStyle]:
    """What of a span is told by classes."""
    styles = []
    if span.colour:
        styles.append(ClassStyle(colour=span.colour))
    if span.background:
        styles.append(ClassStyle(background=span.background))
    return styles


def _class_name(style: ClassStyle, names: ClassNames) -> str:
    if known := names.get(style):
        return known
    if style.colour:
        return f"colour-{style.colour[1:].lower()}"
    return f"box-{(style.background or '')[1:].lower()}"


def style_block(captions: Iterable[Caption], names: ClassNames) -> str:
    """A STYLE block for colours that no class stands for, or nothing."""
    styles = {style for caption in captions for span in caption.spans for style in _styles_of(span)}
    wanted = styles - names.keys()
    if not wanted:
        return ""
    rules = [
        f"::cue(.{name}) {{ "
        + (f"color: {style.colour}" if style.colour else f"background-color: {style.background}")
        + "; }"
        for name, style in sorted((_class_name(style, names), style) for style in wanted)
    ]
    return "STYLE\n" + "\n".join(rules) + "\n"


def needed_styles(styles: str, captions: Iterable[Caption]) -> str:
    """STYLE blocks of a file without the rules of classes that none of its captions is in any more."""
    if not styles:
        return ""
    names = class_names(class_styles([styles]))
    spans = [span for caption in captions for span in caption.spans]
    used = {n for span in spans for n in (extra(span.extras, "webvtt:class") or "").split(".")}
    used |= {_class_name(style, names) for span in spans for style in _styles_of(span)}
    blocks = []
    for block in styles.split("\n\n"):
        selectors = [_CLASS.findall(selector) for selector in _SELECTOR.findall(block)]
        # A rule without a class is for all cues.
        if not selectors or any(not named or used & set(named) for named in selectors):
            blocks.append(block)
    return "\n\n".join(blocks)


def _escaped(text: str) -> str:
    if "&" in text or "<" in text or ">" in text:
        return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    return text
