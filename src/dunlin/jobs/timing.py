"""What the sound tells about times: where somebody speaks, where captions and a script belong."""

from collections.abc import Sequence
from dataclasses import asdict, replace
from typing import Any

from dunlin.core.messages import message
from dunlin.core.specs import for_language, least_gap_ms
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch
from dunlin.core.speech.transcript import paragraphs
from dunlin.core.speech.words import in_order
from dunlin.core.timecode import snap
from dunlin.core.timing.fitting import is_another_text, script_tokens
from dunlin.core.timing.sync import sync
from dunlin.engines import EngineError, Recogniser, engines, hears
from dunlin.engines.aligning import aligner_for, words_on_sound
from dunlin.engines.fitting import fit_to_speech, words_for_script
from dunlin.jobs.context import JobContext
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.sound import sound_between, speech_blocks, until
from dunlin.media.speech import SPEECH_FILE, find_speech, speech_in
from dunlin.store.log import Outdated
from dunlin.work.transcript import put_words

__all__ = ["find_speech_stretches", "find_sync", "fit_script", "fit_words", "speech_of"]

_HEARING_PART = 0.8
# What lies beneath the voice is told by the sound around a paragraph.
_AROUND_MS = 5000


def find_speech_stretches(context: JobContext) -> dict[str, Any]:
    context.take_what_is_known(SPEECH_FILE)
    return {"count": len(speech_of(context))}


def speech_of(context: JobContext) -> list[Stretch]:
    """Where somebody speaks in the film, listened for where that is not known yet."""
    known = speech_in(context.film_folder)
    if known is not None:
        return known
    context.step("listening")
    return find_speech(
        context.film_file, context.film_folder, context.facts.duration_ms, context.progress,
        context.cancelled,
    )  # fmt: skip


def find_sync(context: JobContext) -> dict[str, Any]:
    """Pieces that bring a track's captions to the speech, and how sure they are."""
    track, _ = context.folder.log.track(context.job.parameters["track_id"])
    speech = speech_of(context)
    context.step("comparing")
    return asdict(sync(list(track), speech))


def fit_script(context: JobContext) -> dict[str, Any]:
    """New times for captions from their words, each with how sure it is."""
    parameters = context.job.parameters
    project = context.folder.projects.get(context.job.project_id)
    track, _ = context.folder.log.track(parameters["track_id"])
    chosen = set(parameters["captions"] or ()) or {caption.id for caption in track}
    captions = [caption for caption in track if caption.id in chosen]
    first_ms, last_ms = parameters["from_ms"], parameters["to_ms"]
    language = project.track(parameters["track_id"]).language
    speech = [s for s in speech_of(context) if s.end_ms > first_ms and s.start_ms < last_ms]
    tokens = script_tokens(captions)
    heard = [w for w in _heard(context, language, tokens) if first_ms <= w.start_ms < last_ms]
    if is_another_text(tokens, heard):
        raise EngineError(message("timing.another-text"))
    context.step("fitting")
    seconds = (last_ms - first_ms) / 1000
    blocks = context.along(
        until(speech_blocks(context.film_file, 30, first_ms / 1000), seconds),
        _HEARING_PART,
        1,
        seconds,
    )
    spec = for_language(project.spec_of(parameters["track_id"]), language)
    rate = context.film.rate
    fitted = fit_to_speech(
        captions,
        heard,
        speech,
        blocks,
        aligner_for(language, context.folder.settings.model_folders),
        least_gap_ms(spec, rate),
        first_ms,
    )
    times = []
    for one in fitted:
        in_ms = snap(one.caption.in_ms, rate)
        out_ms = max(snap(one.caption.out_ms, rate), snap(in_ms + 100, rate))
        times.append(
            {"caption": one.caption.id, "in_ms": in_ms, "out_ms": out_ms, "sure": one.sure}
        )
    return {"times": times}


def fit_words(context: JobContext) -> dict[str, Any]:
    """Words whose times were shared out get those at which they are heard, paragraph by paragraph.

    :raises EngineError: when the transcript was changed meanwhile
    """
    folder = context.folder
    project = folder.projects.get(context.job.project_id)
    revision = project.words_revision
    first = fitted = 0
    # Read once: a paragraph that is fitted has as many words as before.
    aligner = aligner_for(project.tracks[0].language, folder.settings.model_folders)
    told = list(paragraphs(folder.words.of(project.id, project.words_run)))
    for number, paragraph in enumerate(told):
        guessed = sum(word.guessed for word in paragraph)
        if guessed:
            # Its neighbours say how far its own words may go.
            before = told[number - 1][-1:] if number else []
            after = told[number + 1][:1] if number + 1 < len(told) else []
            around = [*before, *paragraph, *after]
            from_ms = max(around[0].start_ms - _AROUND_MS, 0)
            sound = sound_between(context.film_file, from_ms, around[-1].end_ms + _AROUND_MS)
            fit = words_on_sound(around, [sound], aligner, from_ms, lambda word: not word.guessed)
            placed = fit[len(before) :][: len(paragraph)]
            put = in_order(replace(word, guessed=False) for word in placed)
            context.needs_same_film()
            try:
                revision = put_words(
                    folder, project, first, len(put), put, context.author,
                    base=revision, gesture=context.job.id,
                ).revision  # fmt: skip
            except Outdated:
                raise EngineError(message("words.changed-meanwhile")) from None
            fitted += guessed
        first += len(paragraph)
        context.progress((number + 1) / len(told))
        if context.cancelled():
            raise Cancelled
    return {"words": fitted}


def _heard(context: JobContext, language: str, tokens: Sequence[str]) -> list[Word]:
    """The words of the transcript; those of the best engine for the language, where there is none."""
    project = context.folder.projects.get(context.job.project_id)
    known = context.folder.words.of(project.id, project.words_run)
    if known:
        return known
    context.step("listening")
    duration_ms = max(context.facts.duration_ms, 1)
    for engine in engines(context.folder.settings.model_folders).values():
        if not hears(engine, language):
            continue

        def hear(model: str, engine: Recogniser = engine) -> list[Word]:
            heard = []
            blocks = speech_blocks(context.film_file, 30)
            for word in engine.recognise(blocks, language, model, quick=True):
                heard.append(word)
                context.progress(min(_HEARING_PART * word.end_ms / duration_ms, _HEARING_PART))
                if context.cancelled():
                    raise Cancelled
            return heard

        try:
            return words_for_script(engine, language, tokens, hear)
        except EngineError:
            continue
    return []
