"""Who asks a host, and what is told them when something is not done."""

import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Annotated

from fastapi import Depends, Request
from starlette.responses import JSONResponse

from dunlin.stand_ins.video_host.faults import Faults
from dunlin.stand_ins.video_host.shelf import Shelf
from dunlin.stand_ins.video_host.tokens import SCOPES, Holder, RateLimit, Scope, Tokens

__all__ = ["PAGE_HEADER", "Here", "Host", "Problem", "answer_of", "asks", "page_only"]

PAGE_HEADER = "Strandline-Page"
"""What the host's own page says with each request. Pages from elsewhere cannot: asked first, the host does not let them."""


class Problem(Exception):
    """Why something is not done."""

    def __init__(self, status: int, problem: str, says: str, **headers: str) -> None:
        super().__init__(says)
        self.status, self.problem, self.says, self.headers = status, problem, says, headers


def answer_of(problem: Problem) -> JSONResponse:
    return JSONResponse(
        {"problem": problem.problem, "says": problem.says}, problem.status, problem.headers
    )


@dataclass
class Host:
    """What requests are answered with."""

    shelf: Shelf
    tokens: Tokens
    limit: RateLimit = field(default_factory=RateLimit)
    faults: list[Faults] = field(default_factory=lambda: [Faults()])
    """Those of now, as its one element."""


def _host(request: Request) -> Host:
    host: Host = request.app.state.host
    return host


Here = Annotated[Host, Depends(_host)]


def asks(scope: Scope | None = None) -> Callable[..., Holder]:
    """A dependency: whoever asks, if they may ask for that."""

    def holder(request: Request, here: Here) -> Holder:
        if request.headers.get(PAGE_HEADER) and "authorization" not in request.headers:
            return Holder("this page", frozenset(SCOPES))
        kind, _, secret = request.headers.get("authorization", "").partition(" ")
        found = here.tokens.holder(secret.strip()) if kind.lower() == "bearer" else None
        if found is None or found.token is None:
            raise Problem(401, "no-token", "This needs a token, and this one is not known here.")
        if (found.expires_ms or 0) <= time.time_ns() // 1_000_000:
            raise Problem(401, "token-ended", "This token has come to its end.")
        if seconds := here.limit.wait_seconds(found.token):
            wait = {"Retry-After": str(int(seconds) + 1)}
            raise Problem(429, "too-often", "That was asked too often; wait a little.", **wait)
        if scope and scope not in found.scopes:
            raise Problem(403, "scope", f"This token may not do that: it needs {scope}.")
        return found

    return holder


def page_only(request: Request) -> None:
    """A dependency: nobody but the page of the host."""
    if not request.headers.get(PAGE_HEADER) or "authorization" in request.headers:
        raise Problem(403, "page-only", "This is done on the page of the host.")
