"""Captions compiled to the script that libass draws, in the page and in the burn alike."""

from collections.abc import Callable, Hashable, Iterable, Iterator
from dataclasses import replace
from math import sqrt
from typing import Any

from dunlin.core.captions.look import Look, said_by
from dunlin.core.captions.model import Caption, Span, Track, plain_text
from dunlin.core.captions.placing import keypad_number
from dunlin.core.styles.codes import alpha_code, edge_time, point_code
from dunlin.core.styles.directed import directed
from dunlin.core.styles.grounds import ground_outlines, path_of
from dunlin.core.styles.layout import (
    RUBY_SIZE,
    Layout,
    has_ground,
    has_shadow_apart,
    is_laid_by_line,
    is_layered,
    keypad_of,
    laid_out,
    point_of,
    shape_box,
    turned_about,
)
from dunlin.core.styles.lit_words import Apart, Ground, Telling
from dunlin.core.styles.measuring import EMOJI_SIZE
from dunlin.core.styles.model import Style, StyleSheet, placement_of
from dunlin.core.styles.moments import at_moment, moving_styles
from dunlin.core.styles.motion import Pose, is_faded_only, poses, with_hidden_end
from dunlin.core.styles.paths import drawn_path, filling_path
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.pictured import EmojiPose, Pictured, pictured, poses_of_emoji
from dunlin.core.styles.stacking import raised_by
from dunlin.core.styles.telling import Beat, beats, is_told, words_apart
from dunlin.core.styles.words import Words, drawing_codes, face_name, full_colour
from dunlin.core.styles.wrapping import joined_lines, lines_of, spans_width, wrapped_caption
from dunlin.core.text.direction import base_direction
from dunlin.core.timecode import FrameRate

__all__ = ["Script", "event_lines", "held_lines", "render_script", "script_head"]

_BY_FIRST_LETTER = -1
"""In the place of a character set: each line runs as its first letter does."""
_GROUND, _LIT_GROUND, _SHADOW, _WORDS, _LIT_WORDS = range(5)
"""Layers of the script, the lowest first, of captions that are drawn in several."""
_UNITS, _UNITS_CODE = 8, 4
"""Of a path to a pixel, and what the script calls that: powers of two, from 1 for one."""
_APART = {None: 0, "beneath": -5, "above": 5}
"""How many layers off the others those are that are drawn beneath or above them."""
_MOST_DEPTH = 60
"""Shadows that make up the depth of letters, a pixel apart."""


def script_head(sheet: StyleSheet | Style, picture: Script, canvas: Script | None = None) -> str:
    """The part of a script before its events.

    :param canvas: what it is drawn on, where that is not the picture that its sizes are parts of
    """
    sheet = sheet if isinstance(sheet, StyleSheet) else StyleSheet(sheet)
    canvas = canvas or picture
    listed = [sheet.default, *sheet.styles.values()]
    return (
        "[Script Info]\nScriptType: v4.00+\n"
        f"PlayResX: {canvas.width}\nPlayResY: {canvas.height}\n"
        f"LayoutResX: {canvas.width}\nLayoutResY: {canvas.height}\n"
        # 2: lines break only where the caption does. Collisions stack upward.
        "WrapStyle: 2\nScaledBorderAndShadow: yes\nYCbCr Matrix: None\n\n"
        "[V4+ Styles]\nFormat: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, "
        "OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, "
        "Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding\n"
        + "".join(_style_lines(style, n, picture) for n, style in enumerate(listed))
        + "\n[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
    )


def _style_lines(style: Style, number: int, picture: Script) -> str:
    """A style of the script, and the same with a filled ground behind its words."""
    base = base_size(picture)
    side = round(style.side_margin * picture.width)
    name, box = _script_names(number)
    text = full_colour(style.colour, style.opacity)
    edge = full_colour(style.outline_colour, style.outline_opacity)
    shade = full_colour(style.shadow_colour, style.shadow_opacity)
    spacing = style.letter_spacing * style.size * base
    numbers = (
        f"{style.size * base:.1f},{text},{text},{edge},{shade},"
        f"{-int(style.weight >= 600)},{-int(style.italic)},{-int(style.underline)},{-int(style.strike)},"
        f"{style.stretch * 100:.6g},100,{spacing:.4g},0,"
    )
    # The script's own shadow falls as far to the right as down.
    widths = f"{style.outline * base:.2f},{style.shadow / sqrt(2) * base:.2f}"
    alignment = keypad_number(placement_of(style))
    margins = f"{alignment},{side},{side},{round(style.margin * picture.height)},{_BY_FIRST_LETTER}"
    return (
        f"Style: {name},{face_name(style, style.font)},{numbers}1,{widths},{margins}\n"
        # 3: a filled ground behind the words, in the colour of the outline.
        f"Style: {box},{face_name(style, style.font)},{numbers}3,{style.background_padding * base:.2f},0,{margins}\n"
    )


def _script_names(number: int) -> tuple[str, str]:
    return (f"Caption{number}", f"Box{number}") if number else ("Caption", "Box")


def event_lines(
    caption: Caption,
    sheet: StyleSheet | Style,
    picture: Script,
    rate: FrameRate,
    raised: float | None = None,
    seen: tuple[float, float, float, float] | None = None,
) -> str:
    """The script's lines for one caption or shape, each ended by a newline; none for an empty one.

    Its look is folded from its named style, its speaker's, its own and that of its words.

    :param rate: frame rate of the film they are drawn on
    :param raised: how far from its place it stands, as `raised_by` tells
    :param seen: left, top, right and bottom of what is seen of a caption that stands still, in pixels
    """
    if not caption.text.strip() and not caption.is_shape:
        return ""
    sheet = sheet if isinstance(sheet, StyleSheet) else StyleSheet(sheet)
    style = sheet.style_of(caption)
    if any(span.spoken for span in caption.spans):
        caption = replace(caption, spans=words_apart(caption, style.language))
    drawing = _drawing_of(caption, style, sheet, picture, raised)
    beside = _emoji_lines(caption, drawing, rate)
    if is_told(style, caption.spans):
        return _told_lines(caption, drawing, rate) + beside
    if is_faded_only(style) and not style.moments:
        placed = raised is not None or caption.placement is not None
        events = drawing.events(placed=placed, opening=_fade(style) + drawing.window(seen))
        return _dialogue(drawing, caption.in_ms, caption.out_ms, rate, events) + beside
    moving = (
        _dialogue(drawing, start, end, rate, drawing.looking(then).posed(pose))
        for first, last, pose in poses(caption, style, rate)
        # Of the drawing's own style, which has the place that it gave way to.
        for start, end, then in moving_styles(caption, drawing.style, rate, first, last)
    )
    return "".join(moving) + beside


def _emoji_lines(caption: Caption, drawing: "_Drawing", rate: FrameRate) -> str:
    """The lines of the emoji that stand by words."""
    if not any(span.spoken and span.spoken.emoji for span in caption.spans):
        return ""
    layer = _LIT_WORDS + _APART[drawing.style.layer]
    return "".join(
        _dialogue(drawing, pose.start_ms, pose.end_ms, rate, [(layer, drawing.emoji(one, pose))])
        for one in pictured(drawing.layout(), drawing.style, drawing.picture, caption.in_ms)
        for pose in poses_of_emoji(one, rate, caption.out_ms)
    )


def _told_lines(caption: Caption, drawing: "_Drawing", rate: FrameRate) -> str:
    """The lines of a caption whose words are told one by one."""
    style = drawing.style
    running: dict[tuple[int, str], tuple[int, int]] = {}
    lines: list[str] = []

    def ended(which: Iterable[tuple[int, str]]) -> None:
        for event in which:
            lines.append(_dialogue(drawing, *running.pop(event), rate, [event]))

    for first, last, pose in poses(caption, style, rate):
        for start, end, then in moving_styles(caption, style, rate, first, last):
            looking = drawing.looking(then)
            for at in beats(caption.spans, style, rate, start, end):
                # What goes on as it is is one event: most words stand still while one moves.
                events = dict.fromkeys(looking.telling(at).posed(pose))
                ended([event for event in running if event not in events])
                for event in events:
                    begun, _ = running.get(event, (at.start_ms, 0))
                    running[event] = (begun, at.end_ms)
    ended(list(running))
    return "".join(lines)


def held_lines(
    caption: Caption,
    sheet: StyleSheet,
    picture: Script,
    rate: FrameRate,
    raised: float | None = None,
    at_ms: int = 0,
) -> str:
    """A caption's lines as they are while a hand on the picture has it: at rest all the time, and with its place, turn
    and tilts written out (`\\pos`, `\\org`, `\\frz`, `\\frx`, `\\fry`) in each event that has to follow.

    So whoever draws them can move, turn and tilt the caption by nothing but these numbers, and draws what it will be
    once it is let go.

    :param at_ms: from its in: the moment that it is held in
    """
    if not caption.text.strip() and not caption.is_shape:
        return ""
    style = replace(sheet.style_of(caption), comes="cut", goes="cut")
    drawing = _drawing_of(caption, style, sheet, picture, raised, held=True)
    drawing = drawing.looking(at_moment(style, at_ms)).moved(0)
    events = drawing.events(placed=True, opening=drawing.window())
    return _dialogue(drawing, caption.in_ms, caption.out_ms, rate, events)


def _drawing_of(
    caption: Caption,
    style: Style,
    sheet: StyleSheet,
    picture: Script,
    raised: float | None,
    *,
    held: bool = False,
) -> "_Drawing":
    number = [None, *sheet.styles].index(caption.style) if caption.style in sheet.styles else 0
    named = sheet.named_of(caption)
    spans = directed(wrapped_caption(caption, style, picture), style.language)
    if style.vertical == "lr":
        # Laid out lying, the first line is the lowest.
        spans = joined_lines(reversed(lines_of(spans)))
    drawing = _Drawing(named, _script_names(number), style, picture, spans, held=held)
    if raised is None:
        return drawing
    return drawing.moved(-raised if style.anchor == "bottom" else raised)


def _dialogue(
    drawing: "_Drawing",
    start_ms: int,
    end_ms: int,
    rate: FrameRate,
    events: Iterable[tuple[int, str]],
) -> str:
    times = f"{edge_time(start_ms, rate)},{edge_time(end_ms, rate)}"
    name = drawing.names[0]
    return "".join(f"Dialogue: {layer},{times},{name},,0,0,0,,{text}\n" for layer, text in events)


def _faded(opacity: float) -> str:
    transparent = round(255 * (1 - opacity))
    return f"\\fade({transparent},{transparent},{transparent},0,0,0,0)"


def _fade(style: Style) -> str:
    coming = style.comes_ms * (style.comes == "fade")
    going = style.goes_ms * (style.goes == "fade")
    return f"\\fad({coming},{going})" if coming or going else ""


class _Drawing:
    """A caption in the words of a script: events that are drawn over each other.

    :param held: how it is turned is written out, also where it is not
    :param beat: which of its words is told to be spoken
    :param memory: of what was drawn of the same caption before
    """

    def __init__(
        self,
        named: Style,
        names: tuple[str, str],
        style: Style,
        picture: Script,
        spans: tuple[Span, ...],
        *,
        held: bool = False,
        beat: Beat | None = None,
        memory: dict[Hashable, Any] | None = None,
    ) -> None:
        self.named, self.names, self.style, self.picture = named, names, style, picture
        self.spans = spans
        self.held = held
        self.beat = beat
        self.memory: dict[Hashable, Any] = {} if memory is None else memory

    def moved(self, down: float) -> "_Drawing":
        """The same so many pixels further down."""
        x, y = point_of(self.style, self.picture)
        width, height = self.picture.width, self.picture.height
        style = replace(self.style, x=x / width, y=(y + down) / height)
        return self._with(style, self.spans)

    def looking(self, then: Style) -> "_Drawing":
        """The same in a moment of its way: elsewhere, turned, in another colour, larger; its lines as they are at rest."""
        grown = then.size / self.style.size
        return self._with(replace(then, size=self.style.size), self.spans)._grown(grown)

    def _grown(self, by: float) -> "_Drawing":
        if by == 1:
            return self
        lengths = {name: getattr(self.style, name) * by for name in _LENGTHS}
        if self.is_shape and self.style.width is not None:
            # The width of words is the room of their lines; that of a shape is its own.
            lengths["width"] = self.style.width * by
        return self._with(replace(self.style, **lengths), self.spans)

    def posed(self, pose: Pose) -> list[tuple[int, str]]:
        """Its events in a frame in which it comes or goes."""
        drawing = self
        if pose.lowered:
            drawing = drawing.moved(pose.lowered * self.style.size * base_size(self.picture))
        drawing = drawing._grown(pose.size)
        if pose.typed != 1:
            drawing = drawing._with(drawing.style, with_hidden_end(self.spans, pose.typed))
        return drawing.events(placed=True, opening=self.opening(pose))

    def telling(self, beat: Beat | None) -> "_Drawing":
        """The same while one of its words is told to be spoken; at None as it is before."""
        own = (self.named, self.names, self.style, self.picture, self.spans)
        return _Drawing(*own, held=self.held, beat=beat, memory=self.memory)

    def _with(self, style: Style, spans: tuple[Span, ...]) -> "_Drawing":
        own = (self.named, self.names, style, self.picture, spans)
        return _Drawing(*own, held=self.held, beat=self.beat, memory=self.memory)

    def opening(self, pose: Pose) -> str:
        """Codes for what a moment does to all of the caption."""
        codes = self.window()
        if pose.opacity != 1:
            codes += _faded(pose.opacity)
        if pose.uncovered != 1:
            codes += self._uncovered(pose.uncovered)
        return codes

    def window(self, seen: tuple[float, float, float, float] | None = None) -> str:
        """Codes for the window that it is seen through.

        :param seen: a box that it is seen in besides
        """
        codes, style = "", self.style
        if style.window:
            code = "clip" if style.window_keeps == "inside" else "iclip"
            path = drawn_path(style.window, self.picture.width, self.picture.height, _UNITS)
            codes = f"\\{code}({_UNITS_CODE},{path})"
        if seen:
            codes += "\\clip({:.0f},{:.0f},{:.0f},{:.0f})".format(*seen)
        return codes

    def _uncovered(self, part: float) -> str:
        """A window over the part of the lines from where they begin, with room for their edges, turned as they are."""
        layout = self.layout()
        left, top, right, bottom = layout.box
        room = self.style.size * base_size(self.picture)
        left, right, top, bottom = left - room / 2, right + room / 2, top - room, bottom + room
        if base_direction(plain_text(self.spans), self.style.language) == "rtl":
            left = right - (right - left) * part
        else:
            right = left + (right - left) * part
        return self._seen_between(left, right, top, bottom, layout)

    def _seen_between(
        self, left: float, right: float, top: float, bottom: float, layout: Layout
    ) -> str:
        """A window over a box, turned as the caption is."""
        corners = ((left, top), (right, top), (right, bottom), (left, bottom))
        turned = tuple(turned_about(layout.point, corner, self._turned()) for corner in corners)
        if self.style.window:
            # The renderer takes one outline and one box: what is turned is uncovered by the box around it.
            xs, ys = [x for x, _ in turned], [y for _, y in turned]
            return f"\\clip({min(xs):.0f},{min(ys):.0f},{max(xs):.0f},{max(ys):.0f})"
        return f"\\clip({_UNITS_CODE},{path_of(turned, 0, _UNITS)})"

    def layout(self) -> Layout:
        """Where its lines come to lie."""
        return laid_out(self.spans, self.style, self.picture)

    def events(self, *, placed: bool, opening: str = "") -> list[tuple[int, str]]:
        """Layers, and what is drawn in them.

        :param placed: whether the caption says itself where it stands, also if that is where its style puts it
        :param opening: codes that are about all of it
        """
        apart = _APART[self.style.layer]
        return [(layer + apart, text) for layer, text in self._events(placed, opening)]

    def _events(self, placed: bool, opening: str) -> list[tuple[int, str]]:
        style = self.style
        if self.is_shape:
            return [(_GROUND, self._shape(opening))]
        if not is_layered(style, self.spans):
            codes, words = self._placed(placed) + self._turn() + opening, self._words(style)
            return [(0, f"{{{codes}}}{words}" if codes else words)]
        if self.beat:
            return self._told(self.beat, opening)
        events = self._still(opening)
        if all(layer == _WORDS for layer, _ in events):
            # Nothing is behind the words: they are in the layer of those of others.
            return [(0, text) for _, text in events]
        return events

    def _told(self, beat: Beat, opening: str) -> list[tuple[int, str]]:
        """The words as they are while one of them is told, above all that is filled behind them."""
        telling: Telling = self._once(self.style, self._telling)
        now, layout = telling.at(beat), telling.layout
        events = [(_LIT_GROUND, self._filled(ground, layout, opening)) for ground in now.grounds]
        # Most words stand still while one moves.
        still = self._with(self.style, now.spans)
        events += self._once((self.style, now.spans, opening), lambda: still._still(opening))
        return [
            *events,
            *((_LIT_WORDS, t) for one in now.apart for t in self._apart(one, layout, opening)),
        ]

    def emoji(self, one: Pictured, pose: EmojiPose) -> str:
        """An emoji that stands by a word, turned about its own middle."""
        size = one.tall / EMOJI_SIZE / base_size(self.picture) * pose.size
        style = replace(
            self.style, size=size, outline=0.0, shadow=0.0, letter_spacing=0.0, stretch=1.0, turn=0.0, tilt_x=0.0,
            tilt_y=0.0, vertical=None,
        )  # fmt: skip
        middle = one.bottom - one.tall / 2
        codes = f"\\an5{point_code('pos', one.across, middle)}"
        turn = f"\\frz{-pose.turned:.4g}" if pose.turned else ""
        words = Words(self.named, self.names, style, self.picture, turn)
        return f"{{{codes}{turn}}}{words.text([Span(one.emoji)])}"

    def _telling(self) -> Telling:
        return Telling(self.layout(), self.style, self.picture)

    def _once(self, key: Hashable, found: Callable[[], Any]) -> Any:
        """What was found for the same caption before, or is found now."""
        if key not in self.memory:
            self.memory[key] = found()
        return self.memory[key]

    def _still(self, opening: str) -> list[tuple[int, str]]:
        """The words of a caption that is told which stand in line, with its ground and shadows."""
        style, layout = self.style, self.layout()
        by_line = is_laid_by_line(style, self.spans)
        events = []
        if has_ground(style):
            events += [(_GROUND, text) for text in self._grounds(layout, opening)]
        if has_shadow_apart(style):
            events += [
                (_SHADOW, text)
                for shadow in self._shadows()
                for text in self._laid(shadow, layout, by_line, opening, shadow=True)
            ]
            style = replace(style, shadow=0.0)
        return [*events, *((_WORDS, text) for text in self._laid(style, layout, by_line, opening))]

    def _filled(self, ground: Ground, layout: Layout, opening: str) -> str:
        """What is filled behind words."""
        base = base_size(self.picture)
        width, height = ground.right - ground.left, ground.bottom - ground.top
        corners = ((0.0, 0.0), (width, 0.0), (width, height), (0.0, height))
        radius = min(self.style.background_corners * base, height / 2, max(width, 0) / 2)
        return self._outlined(
            path_of(corners, radius, _UNITS), ground.left, ground.top, layout, opening,
            ground.colour, ground.opacity,
        )  # fmt: skip

    def _apart(self, word: Apart, layout: Layout, opening: str) -> Iterator[str]:
        """A word by itself, where it stands in its line."""
        codes = f"\\an2{point_code('pos', word.across, word.bottom)}" + self._about(layout)
        if word.seen:
            left, right = word.seen
            _, top, _, bottom = layout.box
            codes += self._seen_between(left, right, top, bottom, layout)
        if word.opacity < 1 and "\\fade(" not in opening:
            codes += _faded(word.opacity)
        drawn = self._once((self.style, word.span, word.scale), lambda: self._word_alone(word))
        return (f"{{{codes}{opening}}}{text}" for text in drawn)

    def _word_alone(self, word: Apart) -> list[str]:
        """A word's shadow, where that is no simple one, and the word, in its size."""
        style, span = self.style, word.span
        if word.scale != 1:
            own = span.look.size if span.look and span.look.size else style.size
            lengths = {name: getattr(style, name) * word.scale for name in _LENGTHS}
            span = replace(span, look=replace(span.look or Look(), size=own * word.scale))
            style = replace(style, **lengths)
        shadows = []
        if has_shadow_apart(style):
            below = self._with(style, self.spans)._shadows()
            shadows = [self._words(shadow, _unlit([span])) for shadow in below]
            style = replace(style, shadow=0.0)
        return [*shadows, self._words(style, [span])]

    def _words(self, style: Style, spans: Iterable[Span] | None = None) -> str:
        words = Words(self.named, self.names, style, self.picture, self._turn())
        return words.text(self.spans if spans is None else spans, upright=bool(style.vertical))

    def _turned(self) -> float:
        """By how many degrees it is turned clockwise; lines that run downwards are laid out lying."""
        return self.style.turn + 90 * bool(self.style.vertical)

    def _turn(self) -> str:
        """Codes by which the caption is turned and tilted."""
        angles = (("frz", -self._turned()), ("frx", self.style.tilt_x), ("fry", self.style.tilt_y))
        # Adding nothing makes no minus zero of it.
        return "".join(f"\\{name}{angle + 0:g}" for name, angle in angles if angle or self.held)

    def _placed(self, said: bool) -> str:
        """Codes for where the caption stands, if that is not where its style in the script puts it."""
        place = placement_of(self.style)
        if not said and place == placement_of(self.named):
            return ""
        codes = f"\\an{keypad_number(place)}"
        if place.x is not None or place.y is not None:
            codes += point_code("pos", *point_of(self.style, self.picture))
        return codes

    def _laid(
        self, style: Style, layout: Layout, by_line: bool, opening: str, *, shadow: bool = False
    ) -> Iterator[str]:
        """The words where they belong: in one event, or in one for each line and each reading."""
        turn = self._turn()
        if not by_line:
            codes = f"\\an{keypad_of(style)}{point_code('pos', *layout.point)}{turn}{opening}"
            yield f"{{{codes}}}{self._words(style, _unlit(self.spans) if shadow else self.spans)}"
            return
        about = self._about(layout) + opening
        for line in layout.lines:
            if not line.spans:
                continue
            bottom = line.top + line.height
            at = point_code("pos", line.left, bottom)
            spans = _unlit(line.spans) if shadow else line.spans
            yield f"{{\\an1{at}{about}}}{self._words(style, spans)}"
            left = line.left
            for span in line.spans:
                own = spans_width([span], style, self.picture)
                if span.ruby:
                    small = replace(style, size=style.size * RUBY_SIZE)
                    reading = replace(span, text=span.ruby, ruby=None)
                    words = self._words(small, _unlit([reading]) if shadow else [reading])
                    height = style.size * base_size(self.picture)
                    at = point_code("pos", left + own / 2, bottom - height)
                    yield f"{{\\an2{at}{about}}}{words}"
                left += own

    def _about(self, layout: Layout) -> str:
        """Codes for a part of a caption that is turned with all of it."""
        turn = self._turn()
        return point_code("org", *layout.point) + turn if turn else ""

    def _grounds(self, layout: Layout, opening: str) -> Iterator[str]:
        style = self.style
        radius = style.background_corners * base_size(self.picture)
        for outline in ground_outlines(layout, style, self.picture):
            left, top = (min(point[axis] for point in outline) for axis in (0, 1))
            path = path_of(tuple((x - left, y - top) for x, y in outline), radius, _UNITS)
            yield self._outlined(
                path, left, top, layout, opening, style.background or "", style.background_opacity
            )

    def _outlined(
        self,
        path: str,
        left: float,
        top: float,
        layout: Layout,
        opening: str,
        colour: str,
        opacity: float,
    ) -> str:
        """An outline that is filled, by its upper left corner."""
        codes = self._drawn_from(left, top, layout.point)
        codes += f"{opening}\\bord0\\shad0\\blur0\\fscx100\\c{full_colour(colour)}&"
        codes += f"\\1a&H{alpha_code(opacity)}&"
        return f"{{{codes}\\p{_UNITS_CODE}}}{path}{{\\p0}}"

    def _drawn_from(self, left: float, top: float, about: tuple[float, float]) -> str:
        """Codes for a drawing by its upper left corner, turned with the caption about its point."""
        turn = self._turn()
        about_code = point_code("org", *about) + turn if turn else ""
        return f"\\an7{point_code('pos', left, top)}{about_code}"

    @property
    def is_shape(self) -> bool:
        """Whether an outline is drawn in the place of words."""
        return self.style.shape is not None and not plain_text(self.spans).strip()

    def _shape(self, opening: str) -> str:
        """An outline with the edge and shadow that letters have."""
        style = self.style
        left, top, right, bottom = shape_box(style, self.picture)
        codes = self._drawn_from(left, top, point_of(style, self.picture))
        path = filling_path(style.shape or "", right - left, bottom - top, _UNITS)
        look = drawing_codes(style, self.picture)
        return f"{{{codes}{opening}{look}\\p{_UNITS_CODE}}}{path}{{\\p0}}"

    def _shadows(self) -> Iterator[Style]:
        """Looks in which nothing but the shadow is seen: one, or for letters with depth many behind each other."""
        style = replace(
            self.style,
            opacity=_HARDLY,
            outline_opacity=_HARDLY,
            outline_softness=self.style.shadow_softness,
        )
        count = 1
        if style.depth:
            count = min(max(round(style.shadow * base_size(self.picture)), 1), _MOST_DEPTH)
        for n in range(count, 0, -1):
            yield replace(style, shadow=style.shadow * n / count)


_LENGTHS = (
    "size", "outline", "outline_softness", "shadow", "shadow_softness", "background_padding",
    "background_corners",
)  # fmt: skip
"""What grows with a caption."""
_HARDLY = 1 / 255
"""As little as can be seen: what is not seen at all casts no shadow, either."""
_UNLIT = Look(opacity=_HARDLY, outline_opacity=_HARDLY)


def _unlit(spans: Iterable[Span]) -> tuple[Span, ...]:
    """Words of which only the shadow is seen, whatever they look like."""
    return tuple(
        replace(span, background=None, look=replace(span.look, **said_by(_UNLIT)))
        if span.look
        else replace(span, background=None)
        for span in spans
    )


def render_script(
    captions: Iterable[Caption], sheet: StyleSheet | Style, picture: Script, rate: FrameRate
) -> str:
    """A whole script, as UTF-8 text."""
    sheet = sheet if isinstance(sheet, StyleSheet) else StyleSheet(sheet)
    track = Track.of(captions)
    events = (
        event_lines(caption, sheet, picture, rate, raised_by(track, n, sheet, picture))
        for n, caption in enumerate(track)
    )
    return script_head(sheet, picture) + "".join(events)
