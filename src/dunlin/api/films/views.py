"""A film as the page sees it."""

from dunlin.api.wire import RateView, View
from dunlin.core.messages import Message
from dunlin.core.speech.activity import Stretch
from dunlin.core.speech.fitness import Fitness
from dunlin.media.burn import script_size
from dunlin.media.probe import early_end, probe_from
from dunlin.store.films import Film

__all__ = ["FilmView", "FitnessView", "PeaksView", "SoundView", "SpeechView", "film_view"]


class FilmView(View):
    id: str
    """Empty until a film is brought in."""
    came_ms: int
    label: str
    size_bytes: int
    duration_ms: int
    frame_rate: RateView
    frame_rate_varies: bool
    width: int
    height: int
    has_picture: bool
    has_sound: bool
    playable: bool
    """False while it is converted."""
    ends_early_ms: int | None
    """Where the readable part ends, when that is before the film says it ends."""
    sound_ends_early_ms: int | None
    """Where the sound ends, when the picture goes on without it."""


class SoundView(View):
    """One of a film's sounds; language and title as the film says, if it does."""

    language: str | None
    title: str | None
    channels: int


class PeaksView(View):
    duration_ms: int
    counts: tuple[int, ...]
    pair_ms: tuple[float, ...]


class SpeechView(View):
    """Where somebody speaks."""

    stretches: list[Stretch]


class FitnessView(View):
    """What is measured of a sound, None where nobody speaks; and what stands in the way of recognising."""

    fitness: Fitness | None
    told: list[Message]


def film_view(film: Film) -> FilmView:
    facts = probe_from(film.facts)
    ends = film.sound_ends_ms
    early = early_end(facts.duration_ms, ends, film.picture_ends_ms)
    return FilmView.model_validate(
        {
            "id": film.id,
            "came_ms": film.came_ms,
            "label": film.label,
            "size_bytes": film.size_bytes,
            "duration_ms": max(facts.duration_ms, ends or 0),
            "frame_rate": facts.frame_rate,
            "frame_rate_varies": facts.frame_rate_varies,
            "width": script_size(facts).width,
            "height": script_size(facts).height,
            "has_picture": facts.video_codec is not None,
            "has_sound": film.has_sound,
            "playable": facts.browser_plays or film.has_copy,
            "ends_early_ms": early.at_ms if early and not early.of_sound else None,
            "sound_ends_early_ms": early.at_ms if early and early.of_sound else None,
        }
    )


class TrackInsideView(View):
    """A caption track that a film brings along."""

    stream: int
    """Its place among the film's caption tracks, from 0."""
    codec: str
    language: str | None
    title: str
    is_default: bool
    is_forced: bool
    format: str | None
    """Name of the caption format it is read as; null where it is pictures of letters."""
