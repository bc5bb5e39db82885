"""How exact hearing and timing are, on voices that nothing was tried out on: the tables of docs/timing.md and
docs/transcribe.md, printed."""

from collections.abc import Iterator, Sequence

import numpy as np

from tests.held_out import FILMS, Errors, fit_errors, language_told, word_errors, words_wrong
from tests.voices import ENGLISH_VOICES, Under

__all__ = ["accuracy"]

_UNDER: tuple[tuple[str, Under, float], ...] = (
    ("clean", "nothing", 0),
    ("noise, 15 dB below", "noise", 15),
    ("music, 10 dB below", "music", 10),
)
_LANGUAGES = ("es", "de", "hi")


def accuracy() -> Iterator[str]:
    """Rows of tables, as they are measured."""
    yield "| a script fitted to | starts: median, 95 % within | ends within 80 ms | at the start of a sentence; within it |"
    yield "| --- | --- | --- | --- |"
    for title, under, decibels in _UNDER:
        found = [fit_errors(voice, under, decibels) for voice in ENGLISH_VOICES]
        for voice, errors in zip(ENGLISH_VOICES, found, strict=True):
            yield _fit_row(f"{voice}, {title}", [errors])
        yield _fit_row(f"**all, {title}**", found)
    for language in _LANGUAGES:
        yield _fit_row(f"a robotic voice, {language}", [fit_errors(language, "nothing")])
    yield "| words of | median | 90 % within |\n| --- | --- | --- |"
    for language in _LANGUAGES:
        errors = np.abs(word_errors(language).ins)
        yield f"| {language} | {np.median(errors):.0f} ms | {np.percentile(errors, 90):.0f} ms |"
    yield "| model | words wrong, clean | in noise, 15 dB below |\n| --- | --- | --- |"
    for model in ("base", "tiny English"):
        clean, noisy = words_wrong(model, "nothing"), words_wrong(model, "noise")
        yield f"| {model} | {clean:.1f} % | {noisy:.1f} % |"
    told = [language_told(voice) for voice in FILMS]
    fair = [one for one in told if one[0] == one[1]]
    right = sum(language == ours for language, _, ours in fair)
    yield f"Languages: {right} of {len(fair)} films told that the bare engine tells, of {len(told)}."


def _fit_row(title: str, found: Sequence[Errors]) -> str:
    ins = np.abs(np.concatenate([errors.ins for errors in found]))
    outs = np.abs(np.concatenate([errors.outs for errors in found]))
    begins = np.concatenate([errors.begins_sentence for errors in found])
    return (
        f"| {title} | {np.median(ins):.0f} ms, {np.percentile(ins, 95):.0f} ms "
        f"| {100 * np.mean(outs <= 80):.0f} % "
        f"| {np.median(ins[begins]):.0f} ms; {np.median(ins[~begins]):.0f} ms |"
    )
