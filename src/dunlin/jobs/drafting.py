"""Drafts what is to be translated, caption by caption."""

import time
from contextlib import nullcontext
from typing import Any

from dunlin.core.language.drafts.model import Draft
from dunlin.engines.recogniser import Sound
from dunlin.engines.translators import translator_called
from dunlin.engines.translators.drafting import drafts_by
from dunlin.engines.translators.hearing_english import HearingEnglish
from dunlin.jobs.context import JobContext
from dunlin.jobs.recognition import one_at_a_time
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.sound import sound_between
from dunlin.work.drafting import known_between, put_drafts, to_draft

__all__ = ["draft_translation"]

_PUT_EVERY_SECONDS = 1.0


def draft_translation(context: JobContext) -> dict[str, Any]:
    """Drafts appear as they come, and stay when the job is called off; all of them are one gesture.

    What the same source became before goes before what an engine says.
    """
    folder, asked = context.folder, context.job.parameters
    project = folder.projects.get(context.job.project_id)
    track_id, anew = asked["track_id"], asked["anew"]
    todo = to_draft(folder, project, track_id, asked["captions"], anew=anew)

    def sound(from_ms: int, to_ms: int) -> Sound:
        return sound_between(context.film_file, from_ms, to_ms)

    engine = translator_called(asked["engine"], todo.source, todo.target, folder.settings, sound)
    known = known_between(folder, project, todo.source, todo.target)
    listens = isinstance(engine, HearingEnglish)
    put, seen = 0, 0
    coming: dict[str, Draft] = {}

    def put_in() -> None:
        nonlocal put, coming
        put += put_drafts(
            folder, project, track_id, coming, context.author, context.job.id, anew=anew
        )
        coming = {}

    with one_at_a_time(context) if listens else nullcontext():
        context.step("drafting")
        last = time.monotonic()
        try:
            for id_, draft in drafts_by(engine, todo.wanted, known):
                seen += 1
                if draft:
                    coming[id_] = draft
                context.progress(seen / len(todo.wanted))
                if context.cancelled():
                    raise Cancelled
                if coming and time.monotonic() - last >= _PUT_EVERY_SECONDS:
                    put_in()
                    last = time.monotonic()
        finally:
            if coming:
                put_in()
    return {"track": track_id, "engine": engine.title, "asked": len(todo.wanted), "put": put}
