"""Faults that a host can be asked to have, so that what talks to it can be tried: they are real, and told by nothing else."""

import asyncio
from typing import Annotated, Literal

from pydantic import BaseModel, Field
from starlette.responses import PlainTextResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

__all__ = ["Faults", "FaultsMiddleware"]


class Faults(BaseModel):
    """What goes wrong from now on with requests of programs; the host's own page is spared."""

    slow_ms: Annotated[int, Field(ge=0, le=600_000)] = 0
    """How long each answer is held back."""
    refuse: Literal[0, 401, 403, 429, 500, 503] = 0
    """A status that everything is answered with."""
    times: Annotated[int, Field(ge=0)] | None = None
    """How often it is refused; null is until that is turned off."""
    break_after: Annotated[int, Field(ge=0)] | None = None
    """Bytes of a film, in or out, after which the connection breaks off, once."""
    lie_about_size: bool = False
    """Whether films are told to be larger than they are."""
    redirect_to: Annotated[str, Field(max_length=500)] | None = None
    """Where everything is sent on to."""
    answer: Literal["markup", "megabytes"] | None = None
    """What comes in the place of JSON."""


class FaultsMiddleware:
    """Has the faults that are turned on."""

    def __init__(self, app: ASGIApp, state: "list[Faults]") -> None:
        """:param state: the faults of now, as its one element"""
        self._app, self._state = app, state

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers = dict(scope.get("headers", ()))
        if scope["type"] != "http" or b"authorization" not in headers:
            await self._app(scope, receive, send)
            return
        faults = self._state[0]
        await asyncio.sleep(faults.slow_ms / 1000)
        if answer := self._instead(faults):
            await answer(scope, receive, send)
            return
        if faults.break_after is None or not _carries_film(scope):
            await self._app(scope, receive, send)
            return
        self._state[0] = faults.model_copy(update={"break_after": None})
        await self._broken(scope, receive, send, faults.break_after)

    def _instead(self, faults: Faults) -> Response | None:
        if faults.refuse and faults.times != 0:
            if faults.times is not None:
                self._state[0] = faults.model_copy(update={"times": faults.times - 1})
            more = {"Retry-After": "1"} if faults.refuse in (429, 503) else {}
            return PlainTextResponse("as asked", faults.refuse, more)
        if faults.redirect_to:
            return RedirectResponse(faults.redirect_to, 307)
        if faults.answer == "markup":
            return Response(
                "<!doctype html><h1>Back soon</h1><script>alert(1)</script>", media_type="text/html"
            )
        if faults.answer == "megabytes":
            return Response(b'{"films": [' + b'"x",' * (16 << 20), media_type="application/json")
        return None

    async def _broken(self, scope: Scope, receive: Receive, send: Send, after: int) -> None:
        """Lets so many bytes of a film through, and then ends the connection without a word."""
        came, went = 0, 0

        async def receive_some() -> Message:
            nonlocal came
            message = await receive()
            came += len(message.get("body", b""))
            if came > after:
                return {"type": "http.disconnect"}
            return message

        async def send_some(message: Message) -> None:
            nonlocal went
            if came > after:
                raise ConnectionResetError("broken off, as asked")
            if message["type"] == "http.response.body":
                went += len(message.get("body", b""))
                if went > after:
                    raise ConnectionResetError("broken off, as asked")
            await send(message)

        await self._app(scope, receive_some, send_some)


def _carries_film(scope: Scope) -> bool:
    return bool("/uploads/" in scope["path"] or scope["path"].endswith("/file"))
