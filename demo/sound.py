"""The film's sound: voices over the sea, and one stroke of the bell."""

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass

import numpy as np
import numpy.typing as npt
from scenario import BELL_STRIKES, FILM_SECONDS, LINES, VOICES, Line
from voices import speak

__all__ = ["RATE", "Samples", "TimedLine", "lines_as_timed", "mix", "timed_lines", "word_times"]

RATE = 16_000
Samples = npt.NDArray[np.float32]


@dataclass(frozen=True)
class TimedWord:
    text: str
    start_ms: int
    end_ms: int


@dataclass(frozen=True)
class TimedLine:
    """A line of the script with the times its words are spoken at; `caption` counts per line."""

    speaker: str
    text: str
    words: tuple[TimedWord, ...]
    start: float
    samples: Samples


def timed_lines(script: Sequence[Line] = LINES) -> list[TimedLine]:
    """Speaks a script, line after line."""
    at = 0.0
    lines = []
    for line in script:
        spoken = " ".join(line.text.replace("|", " ").replace("/", " ").split())
        utterance = speak(spoken, VOICES[line.speaker])
        start = at + line.pause - utterance.words[0].start
        words = tuple(
            TimedWord(w.text, round((start + w.start) * 1000), round((start + w.end) * 1000))
            for w in utterance.words
        )
        lines.append(TimedLine(line.speaker, line.text, words, start, utterance.samples))
        at = start + utterance.words[-1].end
    return lines


def word_times(lines: list[TimedLine]) -> str:
    """The truth for timing, as JSON: one entry a word, in milliseconds."""
    words = [{"speaker": ln.speaker, **asdict(word)} for ln in lines for word in ln.words]
    return json.dumps({"words": words}, indent=1) + "\n"


def lines_as_timed(times: str) -> list[TimedLine]:
    """The script with times that `word_times` wrote before; without a sound."""
    words = iter(json.loads(times)["words"])
    lines = []
    for line in LINES:
        count = len(line.text.replace("|", " ").replace("/", " ").split())
        spoken = [next(words) for _ in range(count)]
        timed = tuple(TimedWord(w["text"], w["start_ms"], w["end_ms"]) for w in spoken)
        start = timed[0].start_ms / 1000
        lines.append(TimedLine(line.speaker, line.text, timed, start, np.zeros(0, np.float32)))
    return lines


def _sea(count: int, random: np.random.Generator) -> Samples:
    """Low noise that swells and falls like waves on shingle."""
    noise = random.standard_normal(count)
    spectrum = np.fft.rfft(noise)
    frequencies = np.fft.rfftfreq(count, 1 / RATE)
    spectrum *= 1 / (1 + (frequencies / 500) ** 1.3)
    noise = np.fft.irfft(spectrum, count)
    seconds = np.arange(count) / RATE
    swell = 0.55 + 0.3 * np.sin(seconds * 0.9) + 0.15 * np.sin(seconds * 0.37 + 1)
    return (0.013 * swell * noise / noise.std()).astype(np.float32)


def _bell(seconds: float) -> Samples:
    """A struck bell: hum, prime, tierce, quint, nominal and above, each dying at its own pace."""
    t = np.arange(int(seconds * RATE)) / RATE
    prime = 146.0
    partials = (
        (0.5, 0.5, 6),
        (1, 0.7, 4),
        (1.2, 0.6, 3),
        (1.5, 0.3, 2.4),
        (2, 0.6, 2),
        (2.7, 0.2, 1),
    )
    tone = sum(a * np.sin(2 * np.pi * prime * r * t) * np.exp(-t / d) for r, a, d in partials)
    return (0.16 * tone * np.minimum(1, t / 0.004)).astype(np.float32)


def strike_times(lines: list[TimedLine]) -> list[float]:
    """Seconds at which the bell is struck."""
    return [lines[index].words[0].start_ms / 1000 - before for index, before in BELL_STRIKES]


def mix(
    lines: list[TimedLine], seconds: int = FILM_SECONDS, strikes: Sequence[float] | None = None
) -> Samples:
    """All the sound, shape (n,), between -1 and 1.

    :param strikes: seconds at which the bell is struck; by default those of the film
    """
    track = _sea(seconds * RATE, np.random.default_rng(1931))
    for line in lines:
        at = int(line.start * RATE)
        track[at : at + len(line.samples)] += 0.8 * line.samples
    for struck in strike_times(lines) if strikes is None else strikes:
        bell = _bell(9)
        at = int(struck * RATE)
        track[at : at + len(bell)] += bell[: len(track) - at]
    return np.clip(track, -1, 1)
