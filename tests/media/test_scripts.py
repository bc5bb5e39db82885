"""ASS scripts, judged by what ffmpeg draws: of the file that was read, of the file that we write, and of what we burn."""

from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

import av
import numpy as np
import pytest

from dunlin.core.captions import Caption, Look, Span
from dunlin.core.captions.look import Moment
from dunlin.core.formats import FORMATS, Context, Document, Reading, read_file, reduced, written
from dunlin.core.styles import Script, render_script, sheet_with
from dunlin.core.timecode import FrameRate
from dunlin.media.burn import plain_picture
from dunlin.media.ffmpeg import run_with_progress
from dunlin.media.fonts import LAID_OUT, fonts_alone, script_laid_out

RATE = FrameRate(25)
PICTURE = Script(640, 360)
CONTEXT = Context(RATE, picture=(640, 360))
HEAD = r"""[Script Info]
ScriptType: v4.00+
PlayResX: {width}
PlayResY: {height}
WrapStyle: {wrap}
ScaledBorderAndShadow: yes

[V4+ Styles]
Format: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding
Style: Default,Noto Sans,30,&H00FFFFFF,&H000000FF,&H00302010,&H80000000,0,0,0,0,100,100,0,0,1,2,2,2,20,20,18,1
Style: Sign,Vollkorn,34,&H0040C0F0,&H000000FF,&H00102030,&H00000000,-1,-1,0,0,110,90,2,8,1,3,1,8,30,30,24,1
Style: Boxed,Zilla Slab,28,&H00FFFFFF,&H000000FF,&H40803020,&H00000000,0,0,0,0,100,100,0,0,3,4,0,5,20,20,10,1
Style: Loud,Oswald,40,&H000000FF,&H000000FF,&H00FFFFFF,&H00000000,-1,0,0,0,100,100,1,0,1,4,0,2,20,20,18,1

[Events]
Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text
"""
# Every code of the format, each in words that show it.
UNDERSTOOD = {
    "styles": ("Sign", r"The fog bell"),
    "marks": ("Default", r"{\i1}leans {\b1}heavy{\b0\i0} {\u1}under{\u0} {\s1}struck{\s0} {\fnLora\b900}black{\b\fn}"),
    "font": ("Default", r"{\fnLora\fs44}Large{\fs\fn} and {\fs+3}more{\fs-3} {\fscx150}wide{\fscx100\fscy140}high{\fscy100} {\fsp6}apart{\fsp}"),
    "colours": ("Default", r"{\c&H0000FF&}red {\1c&H00FF00&\3c&HFF0000&}green {\4c&H00FFFF&\shad4}shade{\c\3c\4c}"),
    "see-through": ("Default", r"{\alpha&H80&}half{\alpha} {\1a&HC0&}hardly{\1a} {\3a&HA0&\4a&HF0&}edge"),
    "edges": ("Default", r"{\bord5}thick{\bord0}none{\bord} {\shad6}far{\xshad-5\yshad3}left{\shad0}none {\blur3}soft{\blur0}"),
    "place": ("Default", r"{\an7\pos(60,40)}Up here\Nand below"),
    "old place": ("Default", r"{\a6}At the top"),
    "turned": ("Default", r"{\an5\pos(320,180)\frz25}Turned {\i1}so"),
    "tilted": ("Default", r"{\an5\pos(320,180)\frx40\fry-30\frz10}In depth"),
    "faded": ("Default", r"{\fad(800,400)}Comes and goes"),
    "moved": ("Default", r"{\an5\move(100,100,540,260)}Goes along"),
    "moved later": ("Default", r"{\an5\move(100,100,540,260,400,900)}Waits, goes"),
    "box": ("Default", r"{\an5\pos(320,180)\fs60\clip(200,150,400,190)}Behind a slit"),
    "not the box": ("Default", r"{\an5\pos(320,180)\fs60\iclip(250,150,390,220)}Around a hole"),
    "outline": ("Default", r"{\an5\pos(320,180)\fs60\clip(m 200 120 l 460 160 b 460 200 400 240 200 230)}Through it"),
    "finer outline": ("Default", r"{\an5\pos(320,180)\fs60\clip(3,m 800 480 l 1840 640 1600 960 800 900)}Through it"),
    "reset": ("Default", r"{\fs50\c&H00FF00&}Large{\r} plain {\rLoud}loud{\r} plain"),
    "ground": ("Boxed", r"On a ground\Nof its own"),
    "remark": ("Default", r"{nobody sees this}Seen\hit"),
    "braces": ("Default", r"\{as it is\}\hand on"),
}  # fmt: skip
KEPT = {
    "lean": ("Default", r"{\fax0.4}leaning {\fay0.2}rising{\fax0\fay0} plain"),
    "edges of their own": ("Default", r"{\xbord8\ybord0}sides{\xbord\ybord} {\be4}worn{\be0}"),
    "about": ("Default", r"{\an5\pos(320,180)\org(200,100)\frz30}About another point"),
    "fades": ("Default", r"{\fade(255,32,224,0,200,800,1000)}In parts"),
    "changes": ("Default", r"{\t(0,1000,\fs60\c&H0000FF&)}Grows {\t(\frz30)}and turns"),
    "sung": ("Default", r"{\k30}one {\kf40}two {\ko30}three {\2c&H00FF00&}four"),
    "drawn": ("Default", r"{\an7\pos(100,60)\p1}m 0 0 l 200 0 200 80 0 80{\p0}{\pbo20\p2}m 0 0 l 90 0 90 90{\p0}"),
    "turned within": ("Default", r"level {\frz20}turned {\frz0}level"),
    "splines": ("Default", r"{\an5\pos(320,180)\fs60\clip(m 200 120 s 300 80 460 160 400 240 p 210 220 c)}Through it"),
    "wrapped": ("Default", r"{\q1}One line that is far too long for a picture of this width and goes on and on"),
    "unknown": ("Default", r"{\zz9\fe0}Whatever {\b500}that{\b} means"),
}  # fmt: skip


CODES = UNDERSTOOD | KEPT

# Each in its own time of the same film: to begin a drawing takes a hundred times as long as to draw a frame.
TURN_MS = 3000
_SHOWN_MS = 2000
Events = Sequence[tuple[str, str]]


def script(*turns: Events, picture: tuple[int, int] = (640, 360), wrap: int = 2) -> str:
    """A script whose events come in turns: those of a turn at once, two seconds long."""
    lines = [
        f"Dialogue: 0,{_clock(n * TURN_MS)},{_clock(n * TURN_MS + _SHOWN_MS)},{style},,0,0,0,,{text}\n"
        for n, events in enumerate(turns)
        for style, text in events
    ]
    return HEAD.format(width=picture[0], height=picture[1], wrap=wrap) + "".join(lines)


def _clock(ms: int) -> str:
    return f"0:{ms // 60_000:02}:{ms % 60_000 / 1000:05.2f}"


def drawn(text: str, turns: int, folder: Path, picture: Script = PICTURE) -> np.ndarray:
    """Frames 5, 20 and 45 of each turn of a script on grey, as numbers of turn × frame × height × width × colour."""
    output = folder / "drawn.mp4"
    source = plain_picture(picture, RATE, "#606060", turns * TURN_MS // 1000, "yuv444p")
    length = RATE.numerator * TURN_MS // 1000
    with script_laid_out(text, output) as laid:
        # Only these frames are drawn, at their own times.
        chosen = "+".join(f"eq(mod(n,{length}),{frame})" for frame in (5, 20, 45))
        drawn_at = f"select='{chosen}',format=rgb24,{LAID_OUT}"
        arguments = [*source, "-vf", drawn_at, "-fps_mode", "passthrough", "-c:v", "libx264rgb", "-qp", "0", "-preset", "ultrafast"]  # fmt: skip
        run_with_progress(
            arguments, output, 1, lambda _: None, folder=laid, environment=fonts_alone(laid)
        )
    with av.open(str(output)) as film:
        frames = [frame.to_ndarray(format="rgb24") for frame in film.decode(video=0)]
    return np.stack(frames).reshape(turns, 3, *frames[0].shape)


def read_again(text: str) -> tuple[Document, str]:
    document = read_file(text.encode(), "a.ass", CONTEXT).document
    kept = reduced(document, FORMATS["ass"], RATE)
    return document, written(kept, FORMATS["ass"], CONTEXT).decode()


def off(one: np.ndarray, other: np.ndarray) -> float:
    """Mean difference of 255 over the pixels that either draws, of the frame where that is greatest."""
    worst = 0.0
    for left, right in zip(one.astype(int), other.astype(int), strict=True):
        seen = (np.abs(left - 96).max(axis=2) > 2) | (np.abs(right - 96).max(axis=2) > 2)
        worst = max(worst, float(np.abs(left - right)[seen].mean()) if seen.any() else 0.0)
    return worst


class Drawings(NamedTuple):
    """What is drawn of every code, each in its turn."""

    read: np.ndarray
    """By the file that was read."""
    written: np.ndarray
    """By the file that we write of it."""
    burned: np.ndarray
    """By what we burn."""


@pytest.fixture(scope="module")
def drawings(tmp_path_factory: pytest.TempPathFactory) -> Drawings:
    folder = tmp_path_factory.mktemp("drawings")
    text = script(*([event] for event in CODES.values()))
    document, again = read_again(text)
    sheet = sheet_with(document.styles, document.style)
    burned = render_script(document.captions, sheet, PICTURE, RATE)
    return Drawings(*(drawn(each, len(CODES), folder) for each in (text, again, burned)))


@pytest.mark.parametrize("name", CODES)
def test_what_we_write_is_drawn_as_what_we_read(name: str, drawings: Drawings) -> None:
    turn = list(CODES).index(name)
    assert (np.abs(drawings.read[turn].astype(int) - 96) > 40).any()
    assert off(drawings.read[turn], drawings.written[turn]) < 1


@pytest.mark.parametrize("name", UNDERSTOOD)
def test_what_is_understood_is_burned_as_it_was(name: str, drawings: Drawings) -> None:
    turn = list(CODES).index(name)
    # What is turned and laid anew may lie a fraction of a pixel beside where it lay.
    assert off(drawings.read[turn], drawings.burned[turn]) < 12


def test_all_of_it_together_comes_to_the_same_on_average(tmp_path: Path) -> None:
    found = []
    for size in ((384, 288), (1280, 720)):
        for wrap in range(3):
            turns = [
                [event, ("Sign", "beside it")]
                for n, event in enumerate(CODES.values())
                if (n % 2, n % 3) == (size[0] == 384, wrap)
            ]
            text = script(*turns, picture=size, wrap=wrap)
            before, after = (
                drawn(each, len(turns), tmp_path) for each in (text, read_again(text)[1])
            )
            found += [off(*pair) for pair in zip(before, after, strict=True)]
    assert len(found) == len(CODES)
    assert np.mean(found) < 1
    assert max(found) < 3


@pytest.mark.parametrize("name", CODES)
def test_what_was_written_is_read_as_the_same(name: str) -> None:
    document, again = read_again(script([CODES[name]]))
    same = read_file(again.encode(), "a.ass", CONTEXT).document
    assert same.captions == document.captions
    assert same.styles == document.styles


@pytest.mark.parametrize("name", KEPT)
def test_what_is_kept_is_told(name: str) -> None:
    reading = read_file(script([KEPT[name]]).encode(), "a.ass", CONTEXT)
    assert [oddity.message.code for oddity in reading.oddities] == ["oddities.codes-kept"]


@pytest.mark.parametrize("name", UNDERSTOOD)
def test_of_what_is_understood_nothing_is_told(name: str) -> None:
    assert read_file(script([UNDERSTOOD[name]]).encode(), "a.ass", CONTEXT).oddities == []


LOOKS = {
    "ground": Look(background="#803020", background_opacity=0.5, background_corners=0.02),
    "deep": Look(shadow=0.03, depth=True, shadow_softness=0.01),
    "coming": Look(comes="rise", goes="wipe", comes_ms=400),
    "moving": Look(moments=(Moment(0, x=0.2, y=0.3, size=0.06), Moment(1500, x=0.7, turn=20.0))),
    "down": Look(vertical="rl", anchor="top", align="right"),
    "narrow": Look(width=0.3, line_spacing=1.3),
    "seen through": Look(window="M0.3 0.7L0.7 0.7L0.6 1L0.4 1Z", tilt_y=30.0),
    "shape": Look(shape="M0 0L1 0L0.5 1Z", size=0.4, width=0.4, colour="#30A0C0", anchor="middle"),
    "small": Look(font="Lora", size=0.05, letter_spacing=0.1, case="upper"),
}  # fmt: skip


def look_document() -> Document:
    """Each look in its turn, beside words in a style."""
    captions = []
    for n, look in enumerate(LOOKS.values()):
        times = n * TURN_MS, n * TURN_MS + _SHOWN_MS
        spans = () if look.shape else (Span("The fog "), Span("bell", italic=True), Span(" rings"))
        captions += [
            Caption(f"c{2 * n + 1}", *times, spans, "Ilse Varga", look=look, style="Sign"),
            Caption(f"c{2 * n + 2}", *times, (Span("beside it"),), style="Sign"),
        ]
    sign = Look(font="Oswald", size=0.09, colour="#F0C040", outline=0.006)
    return Document(tuple(captions), "en", styles={"Sign": sign})


class LooksWritten(NamedTuple):
    """A document of looks, what is read of the file that we write of it, and what is drawn by both."""

    document: Document
    again: Reading
    written: np.ndarray
    burned: np.ndarray


@pytest.fixture(scope="module")
def looks_written(tmp_path_factory: pytest.TempPathFactory) -> LooksWritten:
    folder = tmp_path_factory.mktemp("looks")
    document = look_document()
    text = written(reduced(document, FORMATS["ass"], RATE), FORMATS["ass"], CONTEXT).decode()
    sheet = sheet_with(document.styles, document.style)
    burned = render_script(document.captions, sheet, PICTURE, RATE)
    return LooksWritten(
        document,
        read_file(text.encode(), "a.ass", CONTEXT),
        *(drawn(each, len(LOOKS), folder) for each in (text, burned)),
    )


@pytest.mark.parametrize("name", LOOKS)
def test_whatever_a_caption_looks_like_is_drawn_so_by_the_script(
    name: str, looks_written: LooksWritten
) -> None:
    turn = list(LOOKS).index(name)
    assert off(looks_written.burned[turn], looks_written.written[turn]) < 1


def test_whatever_captions_look_like_is_read_again(looks_written: LooksWritten) -> None:
    document, again = looks_written.document, looks_written.again
    assert again.document.captions == document.captions
    assert sheet_with(again.document.styles).styles["Sign"].font == "Oswald"
    assert list(again.document.styles) == ["Sign"]
    assert again.oddities == []


def test_what_somebody_changed_that_draws_a_caption_is_read_as_it_is_then() -> None:
    captions = (Caption("c1", 0, 2000, (Span("Bell"),), look=LOOKS["ground"]),)
    script = written(Document(captions, "en"), FORMATS["ass"], CONTEXT).decode()
    again = read_file(script.replace("Bell", "Horn").encode(), "a.ass", CONTEXT).document
    assert "Horn" in [caption.text for caption in again.captions]
    assert all(caption.look is None or not caption.look.background for caption in again.captions)
