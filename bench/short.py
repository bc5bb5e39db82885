"""Short form: burning in the dearest look, and how soon another look, colour or rhythm is seen."""

import json
import statistics
import time
from dataclasses import replace
from functools import partial
from pathlib import Path

from bench.media import encode_plainly
from bench.turns import least_of_each
from dunlin.core.short.looks import shipped_looks
from dunlin.core.short.making import (
    Setting,
    short_captions,
)
from dunlin.core.short.model import ShortLook
from dunlin.core.short.words import (
    weighed,
    words_of_transcript,
)
from dunlin.core.specs.shipped import shipped_specs
from dunlin.core.speech import Word
from dunlin.core.speech.transcript_files import words_of_json
from dunlin.core.styles import Script, StyleSheet, event_lines, sheet_with
from dunlin.core.timecode import FrameRate
from dunlin.media.burn import burn
from dunlin.media.probe import probe

__all__ = ["burning_looks", "showing_looks"]

DEMO = Path(__file__).parents[1] / "demo"
CLIP = DEMO / "low-water.mp4"
NEAR = 2
"""Captions whose lines the page asks for first: those around the playhead."""


def _words(seconds: int) -> list[Word]:
    """The short's words, said over and over."""
    said, _ = words_of_json((DEMO / "low-water.words.json").read_bytes())
    length = said[-1].end_ms + 800
    return [
        replace(word, start_ms=word.start_ms + turn * length, end_ms=word.end_ms + turn * length)
        for turn in range(-(-seconds * 1000 // length))
        for word in said
        if word.start_ms + turn * length < seconds * 1000
    ]


def _setting(look: ShortLook, picture: Script, rate: FrameRate) -> tuple[Setting, StyleSheet]:
    sheet = sheet_with({look.name: look.style}, look.name)
    return Setting(
        look, sheet.default, picture, shipped_specs()["vertical-short"], rate, "en"
    ), sheet


def burning_looks(folder: Path) -> tuple[str, tuple[float, float]]:
    """The look that is dearest to burn, and seconds for that and for the same encode without captions."""
    facts = probe(CLIP)
    picture = Script(facts.width, facts.height)
    burns = {}
    for look in shipped_looks().values():
        by, sheet = _setting(look, picture, facts.frame_rate)
        captions = short_captions(weighed(words_of_transcript(_words(25)), look, "en"), by)
        burns[look.name] = partial(burn, CLIP, facts, captions, sheet, folder / "burned.mp4")
    once = {name: least_of_each(1, work)[0] for name, work in burns.items()}
    dearest = max(once, key=lambda name: once[name])
    plainly = partial(encode_plainly, CLIP, folder / "plain.mp4")
    return dearest, tuple(least_of_each(2, burns[dearest], plainly))  # type: ignore[return-value]


def showing_looks(seconds: int) -> float:
    """Milliseconds until the captions near the playhead are there in another look: words parted and fitted over all of a
    film of so many seconds, and the lines of the first captions; the dearest look, the middle of five."""
    picture, rate = Script(720, 1280), FrameRate(30)
    words, dearest = words_of_transcript(_words(seconds)), 0.0
    for look in shipped_looks().values():
        times = []
        for _ in range(5):
            begun = time.perf_counter()
            by, sheet = _setting(look, picture, rate)
            captions = short_captions(weighed(words, look, "en"), by)
            lines = [event_lines(caption, sheet, picture, rate) for caption in captions[:NEAR]]
            json.dumps(lines)
            times.append(time.perf_counter() - begun)
        dearest = max(dearest, statistics.median(times))
    return dearest * 1000
