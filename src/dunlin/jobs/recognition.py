"""Recognises a film's speech, word by word."""

import threading
import time
from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import asdict, replace
from functools import partial
from typing import Any

from dunlin.core.project import TakeRun
from dunlin.core.project.targets import TRANSCRIPT
from dunlin.core.speech import SPEECH_RATE, Word
from dunlin.core.speech.activity import Stretch
from dunlin.core.speech.languages import AUTO, SpokenPassage, longest
from dunlin.core.speech.numbers import numbers_in_words
from dunlin.core.speech.transcript import compared, in_paragraphs
from dunlin.engines import EngineError, Recogniser, Sound, engine_called
from dunlin.engines.aligning import aligner_for, words_on_sound
from dunlin.engines.languages import passages_by_language, words_of_passages
from dunlin.jobs.context import JobContext
from dunlin.jobs.timing import speech_of
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.sound import Hearing, blocks_between, sound_between, speech_blocks
from dunlin.store.log import Step
from dunlin.store.words import Words
from dunlin.work.making import add_draft
from dunlin.work.specs import change_track

__all__ = ["hear_again", "one_at_a_time", "recognise"]

# Hearing is most of the work; sharpening the times is quick.
_HEARING_PART = 0.9
_WORDS_AT_ONCE = 8
# No word is cut in two where hearing goes on from such a pause.
_PAUSE_MS = 300
_AROUND_MS = 500
_SURE = 0.6
_HEARING = threading.Lock()
_LOOK_UP_SECONDS = 0.5
# So many places of a film tell whether it is in the language that was chosen.
_COMPARED = 3
# What a language is told by at the most: half a minute.
_WINDOW = 30 * SPEECH_RATE


def recognise(context: JobContext) -> dict[str, Any]:
    """Words go into the database as they are heard, and stay there when it is called off."""
    project_id, run = context.job.project_id, context.job.id
    folder, words, asked = context.folder, context.folder.words, context.job.parameters
    passages = _passages(context)
    told = longest(passages)
    as_english = asked.get("as_english", False)
    if not as_english:
        folder.projects.begin_run(project_id, run)
    model = _engine(context).taken(
        told.language, asked.get("model"), quick=asked.get("quick", False), as_english=as_english
    )
    with one_at_a_time(context):
        began = time.monotonic()
        heard = _hear(context, words, passages, as_english=as_english)
        if heard and not as_english:
            context.step("sharpening")
            heard = _sharpen(context, heard, told.language)
        took = time.monotonic() - began
    context.needs_same_film()
    result = {
        "words": len(heard),
        "engine": asked["engine"],
        "model": model.name,
        "language": told.language,
        "sure": told.sure,
        "languages": list(dict.fromkeys(passage.language for passage in passages)),
        "spoken": None,
        "speed": round(context.facts.duration_ms / 1000 / max(took, 0.001), 1),
    }
    if as_english:
        words.replace(project_id, run, [])
        track = add_draft(folder, folder.projects.get(project_id), heard, context.author, run)
        return result | {"track": track}
    words.replace(project_id, run, in_paragraphs(heard))
    before = folder.projects.get(project_id).words_run
    take = TakeRun(run, None if before == run else before)
    folder.log.edit(project_id, [Step(TRANSCRIPT, take)], context.author, gesture=run)
    if asked["language"] == AUTO:
        _say_language(context, told.language)
    elif not asked.get("quick", False):
        # It takes the model of many languages, which hears best and is not quick.
        result["spoken"] = _other_language(context, told.language)
    return result


@contextmanager
def one_at_a_time(context: JobContext) -> Iterator[None]:
    """Waits until no other film is heard in this worker: each is heard by all cores, and two at once
    would take twice the memory and as long.

    :raises Cancelled: when the job is called off while it waits
    """
    context.step("waiting-for-another")
    while not _HEARING.acquire(timeout=_LOOK_UP_SECONDS):
        context.progress(0)
        if context.cancelled():
            raise Cancelled
    try:
        yield
    finally:
        _HEARING.release()


def _passages(context: JobContext) -> list[SpokenPassage]:
    """The language that was chosen, for all of the film, or those that are heard in it."""
    asked = context.job.parameters
    if asked["language"] != AUTO:
        return [SpokenPassage(0, context.facts.duration_ms, asked["language"], 1.0)]
    speech = speech_of(context)
    context.step("telling-language")
    return passages_by_language(
        _engine(context), speech, partial(_sound_of, context), asked.get("model")
    )


def _sound_of(context: JobContext, window: Stretch) -> Sound:
    return sound_between(context.film_file, window.start_ms, window.end_ms, _hearing(context))


def _engine(context: JobContext) -> Recogniser:
    return engine_called(context.job.parameters["engine"], context.folder.settings.model_folders)


def _say_language(context: JobContext, language: str) -> None:
    """The first track, which captions are made in, gets the language that was heard, while it is empty."""
    project = context.folder.projects.get(context.job.project_id)
    track = project.tracks[0]
    captions, _ = context.folder.log.track(track.id)
    if not len(captions) and track.language.split("-")[0].lower() != language:
        change_track(context.folder, project, track.id, {"language": language}, context.author)


def _other_language(context: JobContext, language: str) -> str | None:
    """The language that is spoken, where it is surely another one than was listened for."""
    try:
        passages = passages_by_language(
            _engine(context), speech_of(context), partial(_sound_of, context), tried=_COMPARED
        )
    except EngineError:
        return None
    told = longest(passages)
    if told.sure < _SURE or told.language == language.split("-")[0].lower():
        return None
    return told.language


def hear_again(context: JobContext) -> dict[str, Any]:
    """The words of a part of the film as an engine hears them now, compared with those there are.
    Nothing is changed."""
    parameters = context.job.parameters
    engine = _engine(context)
    from_ms, to_ms, language = parameters["from_ms"], parameters["to_ms"], parameters["language"]
    # A word at either end is heard whole, with what leads to it.
    start_ms = max(from_ms - _AROUND_MS, 0)
    sound = sound_between(context.film_file, start_ms, to_ms + _AROUND_MS, _hearing(context))
    context.step("listening")
    heard = []
    if language == AUTO:
        chances = engine.language_chances(sound[:_WINDOW], parameters["model"]) or {"en": 1.0}
        language = max(chances, key=chances.__getitem__)
    quick = parameters.get("quick", False)
    found: Iterable[Word] = engine.recognise(
        iter([sound]), language, parameters["model"], quick=quick
    )
    if parameters.get("spelled_numbers", False):
        found = numbers_in_words(found, language)
    for word in found:
        heard.append(word)
        context.progress(min(_HEARING_PART, word.end_ms * 16 / max(len(sound), 1)))
        if context.cancelled():
            raise Cancelled
    heard = words_on_sound(
        heard, [sound], aligner_for(language, context.folder.settings.model_folders)
    )
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


def _hear(
    context: JobContext, words: Words, passages: Sequence[SpokenPassage], *, as_english: bool
) -> list[Word]:
    context.step("listening")
    asked = context.job.parameters
    duration_ms = max(context.facts.duration_ms, 1)
    heard, from_ms = _kept(words.of(context.job.project_id, context.job.id))
    words.replace(context.job.project_id, context.job.id, heard)
    fresh: list[Word] = []

    def store() -> None:
        before = heard[-len(fresh) - 1] if len(heard) > len(fresh) else None
        words.append(context.job.project_id, context.job.id, in_paragraphs(fresh, before))

    for word in words_of_passages(
        _engine(context),
        passages,
        lambda start_ms, end_ms: blocks_between(
            context.film_file, start_ms, end_ms, _hearing(context)
        ),
        asked.get("model"),
        from_ms=from_ms,
        quick=asked.get("quick", False),
        as_english=as_english,
        spelled_numbers=asked.get("spelled_numbers", False),
    ):
        # A recogniser hears on into the silence that it adds to a film that is over.
        word = _within(word, duration_ms)
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


def _within(word: Word, duration_ms: int) -> Word:
    """A word that ends with the film, if it would end later."""
    if word.end_ms <= duration_ms:
        return word
    return replace(word, start_ms=min(word.start_ms, duration_ms - 1), end_ms=duration_ms)


def _kept(heard: list[Word]) -> tuple[list[Word], int]:
    """What an attempt that was broken off had heard up to its last pause, and where to go on."""
    for index in range(len(heard) - 1, 0, -1):
        if heard[index].start_ms - heard[index - 1].end_ms >= _PAUSE_MS:
            return heard[:index], heard[index - 1].end_ms
    return [], 0


def _sharpen(context: JobContext, heard: list[Word], language: str) -> list[Word]:
    """The words on their sound, which is read along in half minutes."""
    blocks = speech_blocks(context.film_file, 30, hearing=_hearing(context))
    return words_on_sound(
        heard,
        context.along(blocks, _HEARING_PART, 1),
        aligner_for(language, context.folder.settings.model_folders),
    )
