"""What property tests draw from."""

from dataclasses import replace

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

# Letters of several scripts, a combining mark, an emoji made of three, marks, and no markup.
words = (
    st.lists(
        st.sampled_from(
            [*"abcXYZäñßЖя中ひعن'’.,?!-–…&1234567890 ", "e\N{COMBINING ACUTE ACCENT}", "👩‍🚀"]
        ),
        min_size=1,
        max_size=12,
    )
    .map("".join)
    .filter(str.strip)
)
lines = words.map(lambda text: " ".join(text.split()))
texts = st.lists(lines, min_size=1, max_size=3).map("\n".join)


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
        None,
        None,
        WordLook(colour="#C0FFEE"),
        WordLook(scale=1.25, weight=900, case="upper"),
        WordLook(opacity=0.4, background="#102030"),
    ]
)
"""How words look in a state."""

looks = st.builds(
    Look,
    font=st.sampled_from([None, "Noto Sans"]),
    weight=st.sampled_from([None, 400, 700, 900]),
    strike=st.sampled_from([None, True, False]),
    size=st.sampled_from([None, 0.05, 0.1]),
    stretch=st.sampled_from([None, 0.8, 1.5]),
    letter_spacing=st.sampled_from([None, -0.02, 0.1]),
    opacity=st.one_of(st.none(), hundredths),
    outline=st.sampled_from([None, 0.0, 0.01]),
    outline_softness=st.sampled_from([None, 0.004]),
    shadow_colour=colours,
    shadow_direction=st.sampled_from([None, 0.0, 135.0]),
    background=colours,
    background_opacity=st.one_of(st.none(), hundredths),
    turn=st.sampled_from([None, -7.0, 90.0]),
    comes=st.sampled_from([None, "cut", "fade", "rise", "grow", "wipe", "type"]),
    moments=st.one_of(st.none(), moments),
    second_line=st.sampled_from([None, None, 1.5]),
    spoken=word_looks,
    to_come=word_looks,
    spoken_by=st.sampled_from([None, "cut", "wash", "slide", "draw", "rise", "grow", "type"]),
    emphasis=word_looks,
)

spoken = st.one_of(
    st.none(),
    st.none(),
    st.builds(
        Spoken,
        start_ms=st.one_of(st.none(), st.integers(0, 9000)),
        end_ms=st.one_of(st.none(), st.integers(9000, 9900)),
        emphasis=st.sampled_from([None, 1, 2]),
        boundary=st.sampled_from([None, "break", "join"]),
        emoji=st.sampled_from([None, None, "🔔"]),
    ),
)
"""What is known of words."""


@st.composite
def spans(draw: st.DrawFn) -> tuple[Span, ...]:
    """Styled text in which neighbours differ in style."""
    return joined(
        *(
            [
                Span(
                    text,
                    italic=draw(st.booleans()),
                    bold=draw(st.booleans()),
                    underline=draw(st.booleans()),
                    colour=draw(colours),
                    background=draw(colours),
                    language=draw(st.sampled_from([None, None, "fr", "cy"])),
                    voice=draw(st.sampled_from([None, None, None, "Tobit Ahlund"])),
                    ruby=draw(st.sampled_from([None, None, None, "よみ"])),
                    look=draw(st.one_of(st.none(), looks)),
                    spoken=draw(spoken),
                )
            ]
            for text in draw(st.lists(texts, min_size=1, max_size=3))
        )
    )


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
