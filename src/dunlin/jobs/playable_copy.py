"""Converts a film that the browser cannot play."""

from typing import Any

from dunlin.jobs.context import JobContext
from dunlin.media.proxy import PROXY_FILE, write_proxy

__all__ = ["make_playable_copy"]


def make_playable_copy(context: JobContext) -> dict[str, Any]:
    if not context.take_what_is_known(PROXY_FILE):
        output = context.film_folder / PROXY_FILE
        write_proxy(context.film_file, context.facts, output, context.progress, context.cancelled)
    context.folder.films.change(context.film.id, has_copy=True)
    return {}
