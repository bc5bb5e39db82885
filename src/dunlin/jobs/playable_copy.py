"""Converts a film that the browser cannot play."""

from typing import Any

from dunlin.jobs.context import JobContext
from dunlin.media.proxy import write_proxy

__all__ = ["make_playable_copy"]


def make_playable_copy(context: JobContext) -> dict[str, Any]:
    output = context.film_folder / "copy.mp4"
    write_proxy(context.film_file, context.facts, output, context.progress, context.cancelled)
    context.folder.films.change(context.film.id, has_copy=True)
    return {}
