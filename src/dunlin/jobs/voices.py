"""Who speaks: a guess, from the film's sound and from what was put right."""

from collections import Counter
from collections.abc import Sequence
from typing import Any

from dunlin.core.speech import Word
from dunlin.core.speech.voices import passages, sounds, taught, voice_of
from dunlin.jobs.context import JobContext
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.sound import speech_blocks

__all__ = ["guess_speakers"]


def guess_speakers(context: JobContext) -> dict[str, Any]:
    """Voices of the transcript's passages: words from `first` on, `count` of them, and how sure.

    Nothing is changed; `revision` is that of the transcript the passages are of, `names` the speaker of
    each voice, or None where nobody is named.
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
    guesses, names = taught(heard, [_named(words[first:after]) for first, after in places])
    return {
        "revision": project.words_revision,
        "names": names,
        "passages": [
            {"first": first, "count": after - first, "voice": guess.voice, "sure": guess.sure}
            for (first, after), guess in zip(places, guesses, strict=True)
        ],
    }


def _named(words: Sequence[Word]) -> str | None:
    """Who has most of the words."""
    ((name, _),) = Counter(word.speaker for word in words).most_common(1)
    return name
