"""Times found on voices that nothing was tried out on: clean, in noise, over music, in other languages.

The whole table, by voice and place in the sentence, is printed by `make bench`."""

from itertools import pairwise
from typing import get_args

import numpy as np
import pytest

from dunlin.core.speech import Word
from dunlin.core.speech.clearness import clearness, with_spectra
from dunlin.core.timing.fitting import is_another_text, script_on_sound
from dunlin.core.timing.voice_edges import on_the_voice
from tests.held_out import fit_errors, word_errors
from tests.stories import STORY
from tests.voices import Under, over, read_aloud

SENTENCES = 14


@pytest.mark.parametrize("under", get_args(Under))
def test_captions_come_in_and_go_out_with_the_voice(under: Under) -> None:
    errors = fit_errors("awb", under, 10 if under == "music" else 15, SENTENCES)
    ins, outs = np.abs(errors.ins), np.array(errors.outs)
    # Of so few captions two may be far off; all voices are within the same 95 times in 100.
    most = np.percentile(ins, 90)
    print(f"{under}: ins {np.median(ins):.0f} ms, 90 % within {most:.0f} ms")
    assert np.median(ins) <= (20 if under == "nothing" else 25)
    assert most <= (80 if under == "nothing" else 100)
    if under == "nothing":
        assert (np.abs(outs) <= 80).mean() >= 0.9


@pytest.mark.parametrize("language", ["es", "de", "hi"])
def test_words_of_other_languages_have_times_good_enough_to_light_them_by(language: str) -> None:
    errors = np.abs(word_errors(language, SENTENCES).ins)
    print(
        f"{language}: median {np.median(errors):.0f} ms, 90 % within {np.percentile(errors, 90):.0f} ms"
    )
    assert np.median(errors) <= 60


def test_a_script_whose_words_are_not_heard_is_fitted_all_the_same() -> None:
    """The recogniser makes nothing of this robotic voice; the aligner is given what it says."""
    errors = np.abs(fit_errors("hi", "nothing").ins)
    assert np.median(errors) <= 40


def test_words_stay_in_order_and_within_the_sound() -> None:
    reading = read_aloud(STORY[:6], "awb")
    made = np.concatenate([rows for _, rows in with_spectra([over(reading, "noise", 5)])])
    for shift in (-400, -150, 0, 150, 400):
        rough = [
            Word(w.text, max(w.start_ms + shift, 0), max(w.end_ms + shift, 1))
            for w in reading.words
        ]
        drawn = on_the_voice(rough, clearness(made))
        assert [w.text for w in drawn] == [w.text for w in rough]
        assert all(w.start_ms < w.end_ms for w in drawn)
        assert all(a.start_ms <= b.start_ms for a, b in pairwise(drawn))


def test_what_a_sound_is_made_of_is_the_same_in_any_blocks() -> None:
    sound = over(read_aloud(STORY[:3], "awb"), "noise")
    whole = np.concatenate([rows for _, rows in with_spectra([sound])])
    cuts = [0, 1, 159, 161, 50_000, 50_007, len(sound)]
    parts = [sound[a:b] for a, b in pairwise(cuts)]
    assert np.array_equal(np.concatenate([rows for _, rows in with_spectra(parts)]), whole)


def test_a_steady_tone_is_not_taken_for_a_voice() -> None:
    reading = read_aloud(STORY[:3], "awb")
    hum = 3000 * np.sin(2 * np.pi * 440 * np.arange(len(reading.sound)) / 16_000)
    (plain, humming) = (
        clearness(np.concatenate([rows for _, rows in with_spectra([sound])]))
        for sound in (reading.sound, (reading.sound + hum).clip(-32768, 32767).astype(np.int16))
    )
    quiet = plain < 0.5
    assert humming[quiet].mean() < 1.5


def test_words_of_scripts_without_spaces_are_matched_by_their_characters() -> None:
    heard = [Word("今日は", 1000, 1900), Word("港の", 2000, 2600), Word("鐘です", 2600, 3500)]
    words = script_on_sound(["今日は港の", "鐘です。"], heard, [])
    assert [(w.start_ms, w.end_ms, w.confidence) for w in words] == [
        (1000, 2600, 1.0),
        (2600, 3500, 1.0),
    ]


def test_another_text_is_told_from_one_that_was_heard_badly() -> None:
    said = [word for sentence in STORY for word in sentence.split()]
    heard = [Word(token, n * 300, n * 300 + 250) for n, token in enumerate(said)]
    assert not is_another_text(said, heard)
    assert not is_another_text([t if n % 4 else "xyzzy" for n, t in enumerate(said)], heard)
    assert is_another_text([f"wort{n}" for n in range(80)], heard)
    assert not is_another_text(["too", "short", "to", "say"], heard)
