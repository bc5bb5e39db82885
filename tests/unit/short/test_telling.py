"""Which word is told when, and what becomes of words that are."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Look, Span, Spoken
from dunlin.core.captions.look import WordLook
from dunlin.core.styles import STYLES, Script, Style, event_lines, styled
from dunlin.core.styles.telling import beats, is_told, shown_words, starts_of, words_apart
from dunlin.core.timecode import FrameRate, frame_at
from tests.strategies import rates

PICTURE, RATE = Script(720, 1280), FrameRate(30)
TELLINGS = ["cut", "wash", "slide", "draw", "rise", "grow", "type"]


def caption(*words: tuple[str, int, int], in_ms: int = 0, out_ms: int = 4000) -> Caption:
    spans: list[Span] = []
    for text, start, end in words:
        spans += [Span(" ")] * bool(spans) + [Span(text, spoken=Spoken(start, end))]
    return Caption("a", in_ms, out_ms, tuple(spans))


def telling(how: str = "cut", **more) -> Style:
    look = Look(spoken=WordLook(colour="#FF0000"), spoken_by=how, size=0.06, **more)
    return styled(STYLES["house"], look)


@given(st.lists(st.integers(0, 4000), min_size=1, max_size=6), rates, st.sampled_from(TELLINGS))
def test_every_moment_of_a_caption_tells_one_word_the_last_that_began(starts, rate, how) -> None:
    starts = sorted(starts)
    words = [(f"w{n}", start, start + 200) for n, start in enumerate(starts)]
    one = caption(*words, in_ms=0, out_ms=5000)
    found = list(beats(words_apart(one, "en"), telling(how), rate, 0, 5000))
    assert found[0].start_ms == 0
    assert found[-1].end_ms == 5000
    assert all(a.end_ms == b.start_ms for a, b in itertools.pairwise(found))
    distinct = starts_of(words_apart(one, "en"))
    for beat in found:
        frame = frame_at(beat.start_ms, rate)
        begun = [n for n, start in enumerate(distinct) if frame_at(start, rate) <= frame]
        assert beat.word == (begun[-1] if begun else -1)
        assert 0 < beat.part <= 1


def test_words_that_share_a_span_share_its_time_and_a_word_without_one_goes_with_the_one_before() -> (
    None
):
    spans = (
        Span("one three", spoken=Spoken(1000, 1900)),
        Span(" typed "),
        Span("last", spoken=Spoken(2000, 2400)),
    )
    apart = words_apart(Caption("a", 0, 4000, spans), "en")
    times = {s.text: s.spoken.start_ms for s in apart if s.spoken}
    assert times == {"one": 1000, "three": 1400, "typed": 1400, "last": 2000}
    assert "".join(s.text for s in apart) == "one three typed last"


def test_without_any_time_nothing_is_told() -> None:
    plain = Caption("a", 0, 1000, (Span("never heard"),))
    assert words_apart(plain, "en") == plain.spans
    assert not is_told(telling(), plain.spans)
    lines = event_lines(plain, telling(), PICTURE, RATE)
    assert lines.count("Dialogue") == 1


@pytest.mark.parametrize("how", TELLINGS)
def test_words_that_stand_still_are_one_event_while_another_moves(how: str) -> None:
    one = caption(("and", 0, 400), ("it", 500, 700), ("rained", 800, 1300))
    events = event_lines(one, telling(how), PICTURE, RATE).splitlines()
    # A word is on its way in at most the frames of its time, and there are no more states than words.
    assert 3 <= len(events) <= 3 * 2 + 3 * 15
    assert all("{" in event for event in events)


def test_words_of_weight_look_as_their_style_has_it_and_wrap_by_their_own_width() -> None:
    style = styled(
        STYLES["house"], Look(emphasis=WordLook(colour="#00FF00", scale=1.5, case="upper"))
    )
    spans = (Span("a "), Span("bell", spoken=Spoken(emphasis=1)), Span(" rings"))
    shown = shown_words(spans, style)
    assert [s.text for s in shown] == ["a ", "BELL", " rings"]
    assert shown[1].look == Look(size=0.07 * 1.5, colour="#00FF00")
    none = (Span("a "), Span("bell", spoken=Spoken(emphasis=0)))
    assert shown_words(none, style) == none


def test_the_second_line_is_as_large_as_the_style_says() -> None:
    style = styled(STYLES["house"], Look(second_line=2.0))
    first, second = shown_words((Span("above\nbelow"),), style)
    assert (first.text, second.text) == ("above\n", "below")
    assert second.look == Look(size=0.14)


@pytest.mark.parametrize(("text", "language"), [("مرحبا بكم", "ar"), ("one مرحبا two", "en")])
def test_lines_that_run_from_the_right_and_both_ways_are_told(text: str, language: str) -> None:
    words = [(word, 500 * n, 500 * n + 400) for n, word in enumerate(text.split())]
    look = Look(spoken=WordLook(background="#FF0000"), spoken_by="slide")
    lines = event_lines(caption(*words), styled(STYLES["house"], look), PICTURE, RATE)
    assert lines.count("Dialogue") >= len(words)


def test_an_emoji_stands_by_its_word_from_when_that_is_spoken_and_moves_as_it_is_told_to() -> None:
    def lines(**emoji) -> list[str]:
        spans = (Span("bell", spoken=Spoken(1000, 1400, emoji="🔔", **emoji)),)
        found = event_lines(Caption("a", 0, 3000, spans), STYLES["house"], PICTURE, RATE)
        return [line for line in found.splitlines() if "\\p1" in line]

    (still,) = lines()
    assert still.split(",")[1:3] == ["0:00:00.98", "0:00:02.98"]
    assert len(lines(emoji_motion="pop")) > 5
    assert len(lines(emoji_motion="sway")) == 30
    beside, above = lines(emoji_place="beside")[0], still
    assert beside.split("\\pos")[1] != above.split("\\pos")[1]


def test_an_emoji_of_a_whole_caption_stands_over_its_middle_for_as_long_as_it_is_shown() -> None:
    spans = (
        Span("bell", spoken=Spoken(1000, 1400, emoji="🔔", emoji_place="caption")),
        Span(" rings far out over the water"),
    )
    found = event_lines(Caption("a", 0, 3000, spans), STYLES["house"], PICTURE, RATE)
    (drawn,) = (line for line in found.splitlines() if "\\p1" in line)
    assert drawn.split(",")[1:3] == ["0:00:00.00", "0:00:02.98"]
    across = float(drawn.split("\\pos(")[1].split(",")[0])
    assert across == pytest.approx(PICTURE.width / 2, abs=2)
