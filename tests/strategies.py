"""What property tests draw from."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from hypothesis import strategies as st

from dunlin.core.captions import Caption, Look, Placement, Span, Spoken, Track
from dunlin.core.captions.look import Moment, WordLook
from dunlin.core.captions.model import joined
from dunlin.core.timecode import FrameRate

RATES = [
    FrameRate(*pair)
    for pair in (
        (24000, 1001), (24, 1), (25, 1), (30000, 1001), (30, 1),
        (48, 1), (50, 1), (60000, 1001), (60, 1), (15, 2),
    )
]  # fmt: skip

rates = st.sampled_from(RATES)

# Letters of several scripts, a combining mark, an emoji made of three, marks, and no markup. A text is drawn as one choice
# where its characters are single ones, so that two of them stand for what is more.
_FOR_MORE = str.maketrans({"\ue000": "e\N{COMBINING ACUTE ACCENT}", "\ue001": "👩‍🚀"})
words = (
    st.text("abcXYZäñßЖя中ひعن'’.,?!-–…&1234567890 \ue000\ue001", min_size=1, max_size=12)
    .map(lambda text: text.translate(_FOR_MORE))
    .filter(str.strip)
)
lines = words.map(lambda text: " ".join(text.split()))
texts = st.lists(lines, min_size=1, max_size=3).map("\n".join)


said_colours = st.sampled_from(["#FF0000", "#00FFFF", "#C0FFEE"])
colours = st.sampled_from([None, None, "#FF0000", "#00FFFF", "#C0FFEE"])


hundredths = st.integers(0, 100).map(lambda percent: percent / 100)
moments = st.lists(
    st.builds(
        Moment,
        st.integers(0, 4000),
        x=st.one_of(st.none(), hundredths),
        y=st.one_of(st.none(), hundredths),
        size=st.sampled_from([None, 0.05, 0.1]),
        turn=st.sampled_from([None, -7.0, 90.0]),
        colour=colours,
        opacity=st.one_of(st.none(), hundredths),
    ),
    max_size=4,
).map(tuple)
"""How a caption is in between."""

word_looks = st.sampled_from(
    [
        WordLook(colour="#C0FFEE"),
        WordLook(scale=1.25, weight=900, case="upper"),
        WordLook(opacity=0.4, background="#102030"),
    ]
)
"""How words look in a state."""

_SAID_OF_LOOKS = {
    "font": st.just("Noto Sans"),
    "weight": st.sampled_from([400, 700, 900]),
    "strike": st.booleans(),
    "size": st.sampled_from([0.05, 0.1]),
    "stretch": st.sampled_from([0.8, 1.5]),
    "letter_spacing": st.sampled_from([-0.02, 0.1]),
    "opacity": hundredths,
    "outline": st.sampled_from([0.0, 0.01]),
    "outline_softness": st.just(0.004),
    "shadow_colour": said_colours,
    "shadow_direction": st.sampled_from([0.0, 135.0]),
    "background": said_colours,
    "background_opacity": hundredths,
    "turn": st.sampled_from([-7.0, 90.0]),
    "comes": st.sampled_from(["cut", "fade", "rise", "grow", "wipe", "type"]),
    "moments": moments,
    "second_line": st.just(1.5),
    "spoken": word_looks,
    "to_come": word_looks,
    "spoken_by": st.sampled_from(["cut", "wash", "slide", "draw", "rise", "grow", "type"]),
    "emphasis": word_looks,
}


@st.composite
def some_of(draw: st.DrawFn, fields: Mapping[str, st.SearchStrategy[Any]]) -> dict[str, Any]:
    """A quarter of the fields on the mean, none or all at times. To draw for each whether it is there takes longer than all that
    is done with most of them: the bits of two numbers tell."""
    bits = st.integers(0, 2 ** len(fields) - 1)
    there = draw(bits) & draw(bits)
    return {name: draw(fields[name]) for n, name in enumerate(fields) if there >> n & 1}


looks = some_of(_SAID_OF_LOOKS).map(lambda said: Look(**said) if said else Look(turn=-7.0))

spoken = some_of(
    {
        "start_ms": st.integers(0, 9000),
        "end_ms": st.integers(9000, 9900),
        "emphasis": st.sampled_from([1, 2]),
        "boundary": st.sampled_from(["break", "join"]),
        "emoji": st.just("🔔"),
    }
).map(lambda known: Spoken(**known) if known else None)
"""What is known of words."""

_SAID_OF_WORDS = {
    "italic": st.just(True),
    "bold": st.just(True),
    "underline": st.just(True),
    "colour": said_colours,
    "background": said_colours,
    "language": st.sampled_from(["fr", "cy"]),
    "voice": st.just("Tobit Ahlund"),
    "ruby": st.just("よみ"),
    "look": looks,
    "spoken": spoken,
}


@st.composite
def spans(draw: st.DrawFn) -> tuple[Span, ...]:
    """Styled text in which neighbours differ in style."""
    drawn = draw(st.lists(texts, min_size=1, max_size=3))
    return joined(*([Span(text, **draw(some_of(_SAID_OF_WORDS)))] for text in drawn))


parts = st.integers(5, 95).map(lambda percent: percent / 100)
anchors = st.sampled_from(["top", "middle", "bottom"])
aligns = st.sampled_from(["left", "center", "right"])


@st.composite
def placements(draw: st.DrawFn) -> Placement | None:
    """None, one of nine places, or an exact one."""
    if not draw(st.booleans()):
        return None
    place = Placement(draw(anchors), draw(aligns))
    if draw(st.booleans()):
        place = replace(place, x=draw(parts), y=draw(parts.filter(lambda part: part != 0.5)))
    return None if place == Placement() else place


cases = st.sampled_from([None, None, "written", "upper", "lower", "sentence"])
extras = st.sampled_from(
    [(), (), (("webvtt:id", "intro"),), (("ass:layer", "1"), ("webvtt:id", "2"))]
)


@st.composite
def whole_tracks(draw: st.DrawFn, most: int = 5) -> Track:
    """Tracks whose captions have every field that a caption can have."""
    return Track.of(
        replace(
            caption,
            locked=draw(st.booleans()),
            case=draw(cases),
            style=draw(st.sampled_from([None, "Sign"])),
            extras=draw(extras),
            look=draw(st.one_of(st.none(), looks)),
            made=draw(st.sampled_from([None, "0f", caption.fingerprint])),
        )
        for caption in draw(tracks(most))
    )


@st.composite
def tracks(draw: st.DrawFn, most: int = 8) -> Track:
    count = draw(st.integers(0, most))
    captions = []
    for index in range(count):
        in_ms = draw(st.integers(0, 20_000))
        captions.append(
            Caption(
                f"c{index}",
                in_ms,
                in_ms + draw(st.integers(1, 5_000)),
                draw(spans()),
                draw(st.sampled_from([None, "Ilse Varga"])),
                draw(placements()),
            )
        )
    return Track.of(captions)
