"""A script fitted to speech, against the demo film's known word times."""

import json
from dataclasses import replace
from functools import cache
from itertools import pairwise

import numpy as np
import pytest

from dunlin.core.captions import Caption, spans_of
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch, levels, speech_stretches
from dunlin.core.timing.fitting import DOUBTFUL, fitted, script_on_sound
from dunlin.engines import engine_called
from dunlin.engines.aligning import aligner_for
from dunlin.engines.fitting import fit_to_speech
from dunlin.media.sound import speech_blocks
from tests.conftest import DEMO, FILM

TRUTH = [
    Word(word["text"], word["start_ms"], word["end_ms"])
    for word in json.loads((DEMO / "fog-bell.words.json").read_text())["words"]
]
GAP_MS = 80


@cache
def heard() -> list[Word]:
    return list(engine_called("whisper").recognise(speech_blocks(FILM, 30), "en"))


@cache
def sound() -> np.ndarray:
    return np.concatenate(list(speech_blocks(FILM, 30)))


def script() -> tuple[list[Caption], list[int]]:
    """Captions that end with a sentence or a comma, and when each begins in truth."""
    captions, starts, words = [], [], []
    for word in TRUTH:
        words.append(word)
        if word.text[-1] in ".,?!" or len(words) == 9:
            text = " ".join(w.text for w in words)
            captions.append(Caption(f"c{len(captions)}", 0, 1, spans_of(text)))
            starts.append(words[0].start_ms)
            words = []
    return captions, starts


def test_captions_come_in_with_the_voice() -> None:
    captions, starts = script()
    speech = speech_stretches(levels([sound()]))
    found = fit_to_speech(captions, heard(), speech, [sound()], aligner_for("en"), GAP_MS)
    error = np.array(
        [abs(one.caption.in_ms - start) for one, start in zip(found, starts, strict=True)]
    )
    median, most = np.median(error), np.percentile(error, 95)
    print(f"caption starts: median {median:.0f} ms, 95 % within {most:.0f} ms, of {len(error)}")
    assert median <= 20
    assert most <= 80
    assert all(b.caption.in_ms - a.caption.out_ms >= GAP_MS for a, b in pairwise(found))


def test_a_script_of_another_film_is_doubted() -> None:
    text = "Twelve white horses crossed the market square before anybody noticed the carriage"
    captions = [Caption(f"c{n}", 0, 1, spans_of(text)) for n in range(8)]
    speech = speech_stretches(levels([sound()]))
    found = fit_to_speech(captions, heard(), speech, [sound()], aligner_for("en"), GAP_MS)
    assert len(found) == 8
    assert all(one.sure < DOUBTFUL for one in found)


def test_words_that_were_heard_have_their_times() -> None:
    words = script_on_sound([word.text for word in TRUTH], TRUTH, [])
    assert [(w.start_ms, w.end_ms) for w in words] == [(w.start_ms, w.end_ms) for w in TRUTH]
    assert all(word.confidence == 1 for word in words)


def test_what_was_not_heard_shares_the_speech_between() -> None:
    words = script_on_sound(
        ["Before", "lost", "words", "after"],
        [Word("before", 1000, 1400), Word("after", 6000, 6400)],
        [Stretch(900, 1400), Stretch(3000, 4000), Stretch(6000, 6500)],
    )
    assert (words[0].start_ms, words[3].start_ms) == (1000, 6000)
    assert 3000 <= words[1].start_ms < words[2].start_ms < 4000
    assert words[1].confidence == 0


@pytest.mark.parametrize("speech", [[], [Stretch(500, 2500), Stretch(4000, 9000)]])
def test_without_a_recogniser_words_run_forward(speech: list[Stretch]) -> None:
    captions, _ = script()
    words = script_on_sound([t for c in captions for t in c.text.split()], [], speech)
    starts = [word.start_ms for word in words]
    assert starts == sorted(starts)
    found = fitted(captions, words, GAP_MS)
    assert len(found) == len(captions)
    assert all(one.caption.in_ms < one.caption.out_ms for one in found)


def test_an_empty_caption_is_left_alone() -> None:
    captions = [Caption("a", 0, 1), replace(Caption("b", 5, 9), spans=spans_of("there"))]
    found = fitted(captions, [Word("there", 700, 900)], GAP_MS)
    assert [one.caption.id for one in found] == ["b"]
