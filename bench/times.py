"""Times found by the sound."""

import time
from dataclasses import replace

import numpy as np

from dunlin.core.formats import Context, read_file
from dunlin.core.speech.activity import levels, speech_stretches
from dunlin.core.speech.voices import sounds, voice_of, voices
from dunlin.core.timing.sync import sync
from dunlin.engines import engine_called
from dunlin.engines.aligning import aligner_for
from dunlin.engines.fitting import fit_to_speech
from dunlin.media.sound import speech_blocks
from tests.conftest import DEMO, FILM
from tests.spoken import talk

__all__ = ["timing"]


def timing() -> dict[str, tuple[float, float]]:
    """Finding a file's place in two hours of talk, and fitting the demo film's script, each against
    the sound's own length."""
    made = [talk(seed, 900) for seed in range(8)]
    captions = [
        replace(
            c,
            id=f"{n}-{c.id}",
            in_ms=c.in_ms + n * 900_000 + 3000,
            out_ms=c.out_ms + n * 900_000 + 3000,
        )
        for n, one in enumerate(made)
        for c in one.captions
    ]
    began = time.perf_counter()
    speech = speech_stretches(levels(one.sound for one in made))
    found = sync(captions, speech)
    syncing = time.perf_counter() - began
    assert found.pieces
    script = read_file((DEMO / "fog-bell.en.json").read_bytes(), "a.json", Context()).document
    began = time.perf_counter()
    sound = np.concatenate(list(speech_blocks(FILM, 30)))
    heard = list(engine_called("whisper").recognise(speech_blocks(FILM, 30), "en", quick=True))
    hearing = time.perf_counter() - began
    fit_to_speech(
        script.captions, heard, speech_stretches(levels([sound])), [sound], aligner_for("en"), 80
    )
    fitting = time.perf_counter() - began
    places = [(c.in_ms, c.out_ms) for c in script.captions]
    began = time.perf_counter()
    assert voices([voice_of(said) for said in sounds(speech_blocks(FILM, 30), places)])
    listening = time.perf_counter() - began
    print(f"two hours, {len(captions)} captions; fitting, of which hearing {hearing:.1f} s")
    return {
        f"find {len(captions)} captions in two hours of talk": (syncing, 7200),
        "fit the demo film's script, words heard": (fitting - hearing, len(sound) / 16_000),
        "the same with the hearing": (fitting, len(sound) / 16_000),
        "guess who speaks in the demo film": (listening, len(sound) / 16_000),
    }
