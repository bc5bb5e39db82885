"""Jobs as the page sees them."""

from typing import Any, Literal

from dunlin.api.wire import View
from dunlin.core.messages import Message

__all__ = ["JobView"]


class JobView(View):
    id: str
    project_id: str
    film_id: str | None
    kind: Literal[
        "peaks",
        "copy",
        "recognise",
        "burn",
        "shots",
        "speech",
        "sync",
        "fit",
        "fit-words",
        "guess-speakers",
        "hear-again",
        "follow",
        "draft",
        "tracks-inside",
        "pack",
        "tracks-out",
        "fetch",
    ]
    state: Literal["waiting", "running", "done", "failed", "cancelled"]
    progress: float
    step: str
    left_ms: int | None
    error: Message | None
    attempts: int
    result: dict[str, Any] | None
    parameters: dict[str, Any]
    created_ms: int
    version: int
