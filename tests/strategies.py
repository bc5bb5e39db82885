"""What property tests draw from."""

from hypothesis import strategies as st

from dunlin.core.captions import Caption, Span, Track
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


@st.composite
def spans(draw: st.DrawFn) -> tuple[Span, ...]:
    """Styled text in which neighbours differ in style."""
    found: list[Span] = []
    for text in draw(st.lists(lines, min_size=1, max_size=3)):
        span = Span(text, draw(st.booleans()), draw(st.booleans()), draw(st.booleans()))
        if not found or (span.italic, span.bold, span.underline) != (
            found[-1].italic, found[-1].bold, found[-1].underline,
        ):  # fmt: skip
            found.append(span)
    return tuple(found)


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
            )
        )
    return Track.of(captions)
