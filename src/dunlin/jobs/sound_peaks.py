"""Draws the sound's peaks, and learns where sound and picture end."""

from typing import Any

from dunlin.jobs.context import JobContext
from dunlin.media.peaks import write_peaks
from dunlin.media.probe import picture_ends_ms

__all__ = ["draw_peaks"]


def draw_peaks(context: JobContext) -> dict[str, Any]:
    facts = context.facts
    info = write_peaks(
        context.film_file,
        context.film_folder,
        facts.duration_ms,
        context.progress,
        context.cancelled,
    )
    context.folder.films.change(
        context.film.id,
        sound_ends_ms=info.duration_ms,
        picture_ends_ms=picture_ends_ms(context.film_file),
    )
    return {"duration_ms": info.duration_ms}
