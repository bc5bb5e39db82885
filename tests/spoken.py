"""Made-up talk with known times: the demo film's phrases, in several voices, over noise or music."""

import json
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt

from dunlin.core.captions import Caption, spans_of
from dunlin.core.speech import SPEECH_RATE
from dunlin.media.sound import speech_blocks
from tests.conftest import DEMO, FILM
from tests.voices import Under, music

__all__ = ["Talk", "talk"]

_PHRASE_ENDS_MS = 250
# Louder by 10 dB than what is under it, as effective values.
_UNDER = 10 ** (-10 / 20)


@dataclass(frozen=True)
class Talk:
    """Sound, and a caption for each phrase, from where it begins to a little after it ends."""

    sound: npt.NDArray[np.int16]
    captions: list[Caption]


@cache
def _phrases() -> list[tuple[str, npt.NDArray[np.int16]]]:
    sound = np.concatenate(list(speech_blocks(FILM, 30)))
    words = json.loads((DEMO / "fog-bell.words.json").read_text())["words"]
    runs: list[list[dict]] = []
    for word in words:
        if runs and word["start_ms"] - runs[-1][-1]["end_ms"] < _PHRASE_ENDS_MS:
            runs[-1].append(word)
        else:
            runs.append([word])
    return [
        (
            " ".join(word["text"] for word in run),
            sound[run[0]["start_ms"] * 16 : run[-1]["end_ms"] * 16],
        )
        for run in runs
    ]


def talk(seed: int, seconds: int, under: Under = "nothing") -> Talk:
    """Phrases in an order, voices and pauses of their own for each seed."""
    random = np.random.default_rng(seed)
    total = seconds * SPEECH_RATE
    speech = np.zeros(total, np.float64)
    captions: list[Caption] = []
    at = int(random.uniform(1, 6) * SPEECH_RATE)
    while True:
        text, spoken = _phrases()[random.integers(len(_phrases()))]
        # Another pitch, and so another voice, by playing it slower or faster.
        pitch = random.choice([0.88, 1.0, 1.13])
        voiced = np.interp(np.arange(0, len(spoken) - 1, pitch), np.arange(len(spoken)), spoken)
        if at + len(voiced) > total - SPEECH_RATE:
            break
        speech[at : at + len(voiced)] += voiced
        start, end = at // 16, (at + len(voiced)) // 16
        pause = random.choice([random.uniform(0.3, 1.2), random.uniform(1.2, 8)], p=[0.75, 0.25])
        after = at + len(voiced) + int(pause * SPEECH_RATE)
        lingering = min(int(random.uniform(100, 600)), (after - at) // 16 - (end - start) - 80)
        captions.append(
            Caption(f"c{len(captions)}", start, end + max(lingering, 0), spans_of(text))
        )
        at = after
    loud = np.sqrt((speech[speech != 0] ** 2).mean())
    if under == "noise":
        speech += random.normal(0, loud * _UNDER, total)
    elif under == "music":
        beneath = music(random, total)
        speech += beneath * loud * _UNDER / np.sqrt((beneath**2).mean())
    else:
        speech += random.normal(0, 6, total)
    return Talk(speech.clip(-32768, 32767).astype(np.int16), captions)
