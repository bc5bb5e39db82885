"""Draws the sound's peaks, and learns where sound and picture end."""

from typing import Any

from dunlin.jobs.context import JobContext
from dunlin.media.peaks import PEAKS_FILES, peaks_info, write_peaks
from dunlin.media.probe import picture_ends_ms

__all__ = ["draw_peaks"]


def draw_peaks(context: JobContext) -> dict[str, Any]:
    known = peaks_info(context.film_folder) if context.take_what_is_known(*PEAKS_FILES) else None
    info = known or write_peaks(
        context.film_file,
        context.film_folder,
        context.facts.duration_ms,
        context.progress,
        context.cancelled,
    )
    context.folder.films.change(
        context.film.id,
        sound_ends_ms=info.duration_ms,
        picture_ends_ms=picture_ends_ms(context.film_file),
    )
    return {"duration_ms": info.duration_ms}
