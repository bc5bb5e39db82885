"""Recognises a film's speech, word by word."""

from dataclasses import replace
from typing import Any

import numpy as np

from dunlin.core.speech import Word
from dunlin.core.speech.transcript import in_paragraphs
from dunlin.engines import engine_called
from dunlin.engines.aligner import aligns, phrases, sharpened
from dunlin.jobs.context import JobContext
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.sound import speech_blocks
from dunlin.store.projects import Projects
from dunlin.store.words import Words

__all__ = ["recognise"]

# Hearing is most of the work; sharpening the times is quick.
_HEARING_PART = 0.9
_WORDS_AT_ONCE = 8
# No word is cut in two where hearing goes on from such a pause.
_PAUSE_MS = 300


def recognise(context: JobContext) -> dict[str, Any]:
    """Words go into the database as they are heard, and stay there when it is called off."""
    project_id, run = context.job.project_id, context.job.id
    language = context.job.parameters["language"]
    words = Words(context.engine)
    projects = Projects(context.engine)
    first_run = projects.get(project_id).words_run is None
    if first_run:
        projects.change(project_id, words_run=run)
    heard = _hear(context, words, language)
    if aligns(language) and heard:
        context.step("sharpening")
        heard = _sharpen(context, heard)
    words.replace(project_id, run, in_paragraphs(heard))
    words.make_current(project_id, run)
    return {"words": len(heard), "engine": context.job.parameters["engine"]}


def _hear(context: JobContext, words: Words, language: str) -> list[Word]:
    context.step("listening")
    engine = engine_called(context.job.parameters["engine"], context.settings.model_folders)
    duration_ms = max(context.facts().duration_ms, 1)
    heard, from_ms = _kept(words.of(context.job.project_id, context.job.id))
    words.replace(context.job.project_id, context.job.id, heard)
    fresh: list[Word] = []

    def store() -> None:
        before = heard[-len(fresh) - 1] if len(heard) > len(fresh) else None
        words.append(context.job.project_id, context.job.id, in_paragraphs(fresh, before))

    sound = speech_blocks(context.film, 30, from_ms / 1000)
    for found in engine.recognise(sound, language):
        word = replace(found, start_ms=found.start_ms + from_ms, end_ms=found.end_ms + from_ms)
        heard.append(word)
        fresh.append(word)
        if len(fresh) >= _WORDS_AT_ONCE:
            store()
            fresh = []
        context.progress(min(_HEARING_PART, _HEARING_PART * word.end_ms / duration_ms))
        if context.cancelled():
            store()
            raise Cancelled
    store()
    return heard


def _kept(heard: list[Word]) -> tuple[list[Word], int]:
    """What an attempt that was broken off had heard up to its last pause, and where to go on."""
    for index in range(len(heard) - 1, 0, -1):
        if heard[index].start_ms - heard[index - 1].end_ms >= _PAUSE_MS:
            return heard[:index], heard[index - 1].end_ms
    return [], 0


def _sharpen(context: JobContext, heard: list[Word]) -> list[Word]:
    """The words with times from forced alignment, read along with the sound in half minutes."""
    result: list[Word] = []
    waiting = list(phrases(heard))
    duration_ms = max(context.facts().duration_ms, 1)
    sound, start_ms = np.empty(0, np.int16), 0
    for block in speech_blocks(context.film, 30):
        sound = np.concatenate((sound, block))
        end_ms = start_ms + len(sound) // 16
        ready = []
        while waiting and waiting[0][-1].end_ms + 1000 < end_ms:
            ready += waiting.pop(0)
        result += sharpened(ready, sound, start_ms)
        # What comes next starts with the phrase that did not end in this block.
        keep_from = waiting[0][0].start_ms - 1000 if waiting else end_ms
        drop = max(0, min(keep_from, end_ms) - start_ms) * 16
        sound, start_ms = sound[drop:], start_ms + drop // 16
        context.progress(_HEARING_PART + (1 - _HEARING_PART) * min(end_ms / duration_ms, 1))
        if context.cancelled():
            raise Cancelled
    return result + sharpened([word for phrase in waiting for word in phrase], sound, start_ms)
