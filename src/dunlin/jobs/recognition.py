"""Recognises a film's speech, word by word."""

from dataclasses import asdict, replace
from itertools import islice
from typing import Any

from dunlin.core.project import TakeRun
from dunlin.core.project.targets import TRANSCRIPT
from dunlin.core.speech import Word
from dunlin.core.speech.transcript import compared, in_paragraphs
from dunlin.engines import engine_called
from dunlin.engines.aligner import aligns, sharpened, sharpened_along
from dunlin.jobs.context import JobContext
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.sound import Hearing, sound_between, speech_blocks
from dunlin.store.log import Step
from dunlin.store.words import Words

__all__ = ["hear_again", "recognise"]

# Hearing is most of the work; sharpening the times is quick.
_HEARING_PART = 0.9
_WORDS_AT_ONCE = 8
# No word is cut in two where hearing goes on from such a pause.
_PAUSE_MS = 300
_AROUND_MS = 500
_LISTENED_BLOCKS, _SURE = 6, 0.6


def recognise(context: JobContext) -> dict[str, Any]:
    """Words go into the database as they are heard, and stay there when it is called off."""
    project_id, run = context.job.project_id, context.job.id
    language = context.job.parameters["language"]
    folder, words = context.folder, context.folder.words
    folder.projects.begin_run(project_id, run)
    heard = _hear(context, words, language)
    if aligns(language) and heard:
        context.step("sharpening")
        heard = _sharpen(context, heard)
    words.replace(project_id, run, in_paragraphs(heard))
    context.needs_same_film()
    before = folder.projects.get(project_id).words_run
    take = TakeRun(run, None if before == run else before)
    folder.log.edit(project_id, [Step(TRANSCRIPT, take)], context.author, gesture=run)
    return {
        "words": len(heard),
        "engine": context.job.parameters["engine"],
        "language": language,
        "spoken": _other_language(context, language),
    }


def _other_language(context: JobContext, language: str) -> str | None:
    """The language that is spoken, where it is surely another one than was listened for."""
    engine = engine_called(context.job.parameters["engine"], context.folder.settings.model_folders)
    # Nothing is decoded for a model that knows one language.
    sound = islice(
        speech_blocks(context.film_file, 30, hearing=_hearing(context)), _LISTENED_BLOCKS
    )
    told = engine.language_heard(sound, context.job.parameters.get("model"))
    if told is None or told[1] < _SURE or told[0] == language.split("-")[0].lower():
        return None
    return told[0]


def hear_again(context: JobContext) -> dict[str, Any]:
    """The words of a part of the film as an engine hears them now, compared with those there are.
    Nothing is changed."""
    parameters = context.job.parameters
    engine = engine_called(parameters["engine"], context.folder.settings.model_folders)
    from_ms, to_ms, language = parameters["from_ms"], parameters["to_ms"], parameters["language"]
    # A word at either end is heard whole, with what leads to it.
    start_ms = max(from_ms - _AROUND_MS, 0)
    sound = sound_between(context.film_file, start_ms, to_ms + _AROUND_MS, _hearing(context))
    context.step("listening")
    heard = []
    for word in engine.recognise(iter([sound]), language, parameters["model"]):
        heard.append(word)
        context.progress(min(_HEARING_PART, word.end_ms * 16 / max(len(sound), 1)))
        if context.cancelled():
            raise Cancelled
    if aligns(language) and heard:
        heard = sharpened(heard, sound, 0)
    placed = (
        replace(word, start_ms=word.start_ms + start_ms, end_ms=word.end_ms + start_ms)
        for word in heard
    )
    now = [word for word in placed if from_ms <= (word.start_ms + word.end_ms) // 2 < to_ms]
    project = context.folder.projects.get(context.job.project_id)
    known = context.folder.words.of(
        project.id, project.words_run, parameters["first"], parameters["count"]
    )
    return {
        "revision": project.words_revision,
        "first": parameters["first"],
        "count": len(known),
        "words": [asdict(word) for word in now],
        "compared": compared(known, now),
    }


def _hearing(context: JobContext) -> Hearing:
    parameters = context.job.parameters
    return Hearing(parameters.get("stream", 0), parameters.get("voice_focus", False))


def _hear(context: JobContext, words: Words, language: str) -> list[Word]:
    context.step("listening")
    engine = engine_called(context.job.parameters["engine"], context.folder.settings.model_folders)
    duration_ms = max(context.facts.duration_ms, 1)
    heard, from_ms = _kept(words.of(context.job.project_id, context.job.id))
    words.replace(context.job.project_id, context.job.id, heard)
    fresh: list[Word] = []

    def store() -> None:
        before = heard[-len(fresh) - 1] if len(heard) > len(fresh) else None
        words.append(context.job.project_id, context.job.id, in_paragraphs(fresh, before))

    sound = speech_blocks(context.film_file, 30, from_ms / 1000, _hearing(context))
    for found in engine.recognise(sound, language, context.job.parameters.get("model")):
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
    blocks = speech_blocks(context.film_file, 30, hearing=_hearing(context))
    return sharpened_along(heard, context.along(blocks, _HEARING_PART, 1))
