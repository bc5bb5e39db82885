"""Passages of speech, typed by ear one after the other."""

from typing import Annotated

from fastapi import Query, Response

from dunlin.api.authors import EditKey, Who
from dunlin.api.ear.views import LineTyped, PassageView
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import EditView, edit_view
from dunlin.api.wire import MOST_MS, Problem, json_answer
from dunlin.core.captions import Caption, InsertCaptions, spans_of
from dunlin.core.messages import NotNow, message
from dunlin.core.project import captions_of
from dunlin.core.specs import least_gap_ms
from dunlin.core.text.lines import break_lines
from dunlin.core.text.words import words_of
from dunlin.core.timing.passages import Passage, next_passage
from dunlin.media.speech import speech_in
from dunlin.store.log import Step
from dunlin.work.hearing import needs_sound
from dunlin.work.judging import judge_of

__all__ = ["router"]

router = subject_router("timing", 404, 422)


@router.get(
    "/tracks/{track_id}/passage",
    response_model=PassageView,
    responses={204: {}, 409: {"model": Problem}},
)
def passage_to_type(
    track_id: str,
    here: Here,
    after_ms: Annotated[int, Query(ge=0, le=MOST_MS)],
    length_ms: Annotated[int | None, Query(ge=500, le=60_000)] = None,
) -> Passage | Response:
    """The passage to type by ear next; 204 where nobody speaks any more."""
    project = here.projects.of_track(track_id)
    needs_sound(project)
    track, _ = here.log.track(track_id)
    speech = speech_in(here.film_folder(project.film))
    if speech is None and length_ms is None:
        raise NotNow(message("sound.pauses-not-found-yet"))
    setting = judge_of(here, project, track_id).setting
    found = next_passage(
        speech or (),
        after_ms,
        project.film.sound_ends_ms or project.film.duration_ms,
        setting.rate,
        length_ms=length_ms,
        before_ms=next((c.in_ms for c in track if c.in_ms > after_ms), None),
        gap_ms=least_gap_ms(setting.spec, setting.rate),
    )
    return found or Response(status_code=204)


@router.post("/tracks/{track_id}/passage", response_model=EditView)
def store_typed_line(
    track_id: str, request: LineTyped, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Stores a line that was typed by ear as a caption, broken by the spec unless it is broken already."""
    project = here.projects.of_track(track_id)
    setting = judge_of(here, project, track_id).setting
    text = "\n".join(" ".join(line.split()) for line in request.text.strip().split("\n"))
    if "\n" not in text:
        width, most = setting.spec.characters_per_line or 42, setting.spec.lines or 2
        wide = setting.spec.wide_characters_count_two
        words = words_of(text, setting.language)
        text = "\n".join(break_lines(words, width, most, setting.language, wide_as_two=wide))
    caption = Caption(request.new_id, request.in_ms, request.out_ms, spans_of(text))
    step = Step(captions_of(track_id), InsertCaptions((caption,)))
    done = here.log.edit(project.id, [step], who, gesture=request.gesture, key=key)
    return json_answer(edit_view(here, project, track_id, done))
