"""Who speaks: a first guess, from the film's sound."""

from typing import Any

from dunlin.core.speech.voices import passages, sounds, voice_of, voices
from dunlin.jobs.context import JobContext
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.sound import speech_blocks

__all__ = ["guess_speakers"]


def guess_speakers(context: JobContext) -> dict[str, Any]:
    """Voices of the transcript's passages: words from `first` on, `count` of them, and how sure.

    Nothing is changed; `revision` is that of the transcript the passages are of.
    """
    project = context.folder.projects.get(context.job.project_id)
    words = context.folder.words.of(project.id, project.words_run)
    places = passages(words)
    stretches = [(words[first].start_ms, words[after - 1].end_ms) for first, after in places]
    heard = []
    for number, sound in enumerate(sounds(speech_blocks(context.film_file, 30), stretches)):
        heard.append(voice_of(sound))
        context.progress((number + 1) / len(places))
        if context.cancelled():
            raise Cancelled
    return {
        "revision": project.words_revision,
        "passages": [
            {"first": first, "count": after - first, "voice": guess.voice, "sure": guess.sure}
            for (first, after), guess in zip(places, voices(heard), strict=True)
        ],
    }
