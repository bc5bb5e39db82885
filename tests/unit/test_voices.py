"""Who speaks, told from the voices."""

import json

import numpy as np

from dunlin.core.speech import SPEECH_RATE, Word
from dunlin.core.speech.voices import MOST_VOICES, passages, sounds, voice_of, voices
from dunlin.media.sound import speech_blocks
from tests.conftest import DEMO, FILM


def spoken(pitch_hz: float, formants_hz: tuple[float, ...], seconds: float, seed: int):
    """A buzz at a pitch that wavers, through the resonances of a mouth."""
    random = np.random.default_rng(seed)
    at = np.arange(int(seconds * SPEECH_RATE)) / SPEECH_RATE
    wander = 1 + 0.03 * np.sin(2 * np.pi * (2 + random.random()) * at)
    phase = 2 * np.pi * np.cumsum(pitch_hz * wander) / SPEECH_RATE
    sound = sum(
        np.sin(phase * n) * sum(1 / (1 + ((n * pitch_hz - f) / 150) ** 2) for f in formants_hz)
        for n in range(1, int(4000 / pitch_hz))
    )
    sound = sound * 6000 + random.normal(0, 40, len(at))
    return sound.clip(-32768, 32767).astype(np.int16)


LOW, HIGH = (105.0, (600, 1100, 2400)), (210.0, (850, 1900, 3000))


def test_two_voices_are_told_apart_and_one_is_one() -> None:
    order = [LOW, HIGH, HIGH, LOW, LOW, HIGH, LOW, HIGH]
    heard = [voice_of(spoken(*who, 1.5, seed)) for seed, who in enumerate(order)]
    guesses = voices(heard)
    assert [guess.voice for guess in guesses] == [0 if who is LOW else 1 for who in order]
    assert all(guess.sure > 0.5 for guess in guesses)
    alone = voices([voice for voice, who in zip(heard, order, strict=True) if who is HIGH])
    assert {guess.voice for guess in alone} == {0}
    assert voices(heard[:2])[1].sure == 0


def test_what_is_too_short_or_silent_goes_with_the_one_before() -> None:
    low, high = voice_of(spoken(*LOW, 2, 1)), voice_of(spoken(*HIGH, 2, 2))
    assert voice_of(spoken(*LOW, 0.1, 1)) is None
    assert voice_of(np.zeros(SPEECH_RATE, np.int16)) is None
    assert voice_of(np.zeros(0, np.int16)) is None
    found = voices([None, low, high, None, low, high])
    assert [guess.voice for guess in found] == [0, 0, 1, 1, 0, 1]
    assert (found[0].sure, found[3].sure) == (0, 0)
    assert voices([]) == []


def test_passages_end_at_pauses_and_sentences() -> None:
    words = [
        Word("Ring", 0, 300),
        Word("it.", 300, 600),
        Word("No,", 610, 900),
        Word("I", 1300, 1400),
    ]
    assert passages(words) == [(0, 2), (2, 3), (3, 4)]
    assert passages([]) == []


def test_sounds_are_cut_from_blocks_that_come_one_by_one() -> None:
    film = np.arange(60_000, dtype=np.int16) % 1000
    blocks = [film[first : first + 7000] for first in range(0, len(film), 7000)]
    stretches = [(0, 500), (400, 900), (2000, 3000), (3700, 9000)]
    cut = list(sounds(blocks, stretches))
    for sound, (start, end) in zip(cut, stretches, strict=True):
        assert np.array_equal(sound, film[start * 16 : end * 16])


def test_the_demo_films_two_are_told_apart() -> None:
    said = json.loads((DEMO / "fog-bell.words.json").read_text())["words"]
    words = [Word(word["text"], word["start_ms"], word["end_ms"]) for word in said]
    places = passages(words)
    stretches = [(words[a].start_ms, words[b - 1].end_ms) for a, b in places]
    guesses = voices([voice_of(sound) for sound in sounds(speech_blocks(FILM, 30), stretches)])
    truth = {"ilse": 0, "tomas": 1}
    right = sum(
        b - a
        for (a, b), guess in zip(places, guesses, strict=True)
        if all(truth[word["speaker"]] == guess.voice for word in said[a:b])
    )
    assert len({guess.voice for guess in guesses}) == 2 <= MOST_VOICES
    assert right / len(words) > 0.95
