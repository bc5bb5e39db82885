"""What is done to single words of captions in short form."""

import itertools
from dataclasses import replace

import pytest

from dunlin.core.captions import Caption, Look, Track
from dunlin.core.messages import BadInput
from dunlin.core.short.making import (
    Setting,
    short_captions,
)
from dunlin.core.short.model import Rhythm, ShortLook
from dunlin.core.short.moving import done_to_word
from dunlin.core.short.words import (
    words_of_captions,
    words_of_transcript,
)
from tests.unit.short.heard import heard
from tests.unit.short.test_making import RATE, SPEC, UPRIGHT, style_of

LOOK = ShortLook("Plain", Look(size=0.06), Rhythm("amount", 3))
BY = Setting(LOOK, style_of(LOOK), UPRIGHT, SPEC, RATE, "en")


def track() -> Track:
    words = words_of_transcript(heard("They hung a bell nobody alive had heard ring."))
    made = short_captions(words, BY)
    return Track.of(replace(c, id=f"c{n}") for n, c in enumerate(made))


def after(found: Track, caption: str, offset: int, deed, **known) -> list[str]:
    gone, put = done_to_word(found, caption, offset, deed, BY, known or None)
    assert all(c.in_ms < c.out_ms for c in put)
    changed = found.changed(gone, put)
    captions = list(changed)
    assert all(a.out_ms <= b.in_ms for a, b in itertools.pairwise(captions))
    return [caption.text.replace("\n", " ") for caption in captions]


def test_a_word_is_carried_over_a_boundary_with_those_beside_it() -> None:
    found = track()
    assert [c.text for c in found] == ["They hung", "a bell", "nobody alive", "had heard ring."]
    assert after(found, "c2", 0, "carry-back") == [
        "They hung",
        "a bell nobody",
        "alive",
        "had heard ring.",
    ]
    assert after(found, "c2", 7, "carry-back")[1] == "a bell nobody alive"
    assert after(found, "c1", 2, "carry-on") == [
        "They hung",
        "a",
        "bell nobody alive",
        "had heard ring.",
    ]


def test_a_boundary_is_set_and_taken() -> None:
    found = track()
    assert after(found, "c3", 4, "break")[3:] == ["had", "heard ring."]
    assert after(found, "c1", 0, "join")[0] == "They hung a bell"


def test_a_boundary_by_hand_stays_whatever_the_rhythm() -> None:
    found = track()
    gone, put = done_to_word(found, "c3", 4, "break", BY)
    words = words_of_captions(found.changed(gone, put), "en")
    wide = replace(BY, look=replace(LOOK, rhythm=Rhythm("amount", 7)))
    assert "heard ring." in [c.text for c in short_captions(words, wide)]


def test_a_caption_keeps_its_name_whichever_of_its_words_is_first() -> None:
    found = track()
    _, put = done_to_word(found, "c2", 0, "carry-back", BY)
    assert [caption.id for caption in put] == ["c1", "c2"]


def test_a_word_left_out_is_gone_and_its_caption_where_it_was_the_last() -> None:
    found = track()
    assert after(found, "c1", 0, "leave-out")[1] == "bell"
    gone, put = done_to_word(found, "c1", 0, "leave-out", BY)
    changed = found.changed(gone, put)
    assert after(changed, "c1", 0, "leave-out") == ["They hung", "nobody alive", "had heard ring."]


def test_what_is_known_of_a_word_is_set() -> None:
    found = track()
    _, put = done_to_word(found, "c1", 2, "set", BY, {"emphasis": 2, "emoji": "🔔"})
    (word,) = [span for span in put[0].spans if span.text == "bell"]
    assert (word.spoken.emphasis, word.spoken.emoji) == (2, "🔔")


@pytest.mark.parametrize(
    ("caption", "offset", "deed"),
    [("c0", 0, "carry-back"), ("c3", 0, "carry-on"), ("c0", 0, "join"), ("c1", 99, "break"), ("nobody", 0, "break")],
)  # fmt: skip
def test_what_cannot_be_done_is_said(caption: str, offset: int, deed) -> None:
    with pytest.raises(BadInput):
        done_to_word(track(), caption, offset, deed, BY)


def test_a_locked_neighbour_takes_no_word() -> None:
    found = track()
    locked = found.changed((), [replace(found["c1"], locked=True)])
    with pytest.raises(BadInput):
        done_to_word(locked, "c2", 0, "carry-back", BY)
    assert isinstance(found["c1"], Caption)


def test_a_caption_is_set_in_two_lines_or_parted_by_hand() -> None:
    found = track()
    [two] = done_to_word(found, "c3", 0, "two-lines", BY)[1]
    assert (two.text, two.id) == ("had heard\nring.", "c3")
    assert after(found, "c3", 0, "fewer-words")[-2:] == ["had heard", "ring."]
    # The boundary is by hand, and stays.
    gone, put = done_to_word(found, "c3", 0, "fewer-words", BY)
    longer = replace(BY, look=replace(LOOK, rhythm=Rhythm("amount", 7)))
    remade = short_captions(words_of_captions(found.changed(gone, put), "en"), longer)
    assert "ring." in [caption.text.replace("\n", " ") for caption in remade]
    alone = Track.of([replace(two, spans=two.spans[:1])])
    for deed in ("two-lines", "fewer-words"):
        [one] = done_to_word(alone, "c3", 0, deed, BY)[1]
        assert one.text == "had"


def test_an_emoji_by_a_word_is_put_into_its_line() -> None:
    found = track()
    gone, put = done_to_word(found, "c1", 2, "set", BY, {"emoji": "🔔", "emoji_place": "above"})
    with_bell = found.changed(gone, put)
    [made] = done_to_word(with_bell, "c1", 2, "in-line", BY)[1]
    assert made.text == "a bell 🔔"
    assert not any(span.spoken and span.spoken.emoji for span in made.spans)
    # Without one, all stays as it is.
    assert after(found, "c1", 2, "in-line") == [c.text.replace("\n", " ") for c in found]
