"""Bodies of requests, none of them larger than it may be."""

from collections.abc import AsyncIterator, Callable, Coroutine
from typing import Any

from fastapi import HTTPException, Request, Response
from fastapi.routing import APIRoute

from dunlin.api.wire import Refusal
from dunlin.core.messages import message

__all__ = ["BoundedRoute", "body_of"]

_GREATEST_JSON = 64 * 2**20
"""A track of two hundred thousand captions, sent whole, has half of it."""


async def body_of(request: Request, greatest_bytes: int, refusal: str) -> bytes:
    """The body, as far as the limit; a larger one is refused before it is all there.

    :param refusal: code of the message that it is too large, with `megabytes`
    """
    refused = Refusal(422, message(refusal, megabytes=greatest_bytes // 2**20))
    data = bytearray()
    async for chunk in _up_to(request.stream(), request, greatest_bytes, refused):
        data += chunk
    return bytes(data)


async def _up_to(
    chunks: AsyncIterator[bytes], request: Request, greatest_bytes: int, refused: Exception
) -> AsyncIterator[bytes]:
    if int(request.headers.get("content-length") or 0) > greatest_bytes:
        raise refused
    size = 0
    async for chunk in chunks:
        size += len(chunk)
        if size > greatest_bytes:
            raise refused
        yield chunk


class _BoundedRequest(Request):
    async def body(self) -> bytes:
        if not hasattr(self, "_body"):
            told = message("request.too-large", megabytes=_GREATEST_JSON // 2**20)
            # FastAPI takes any other error in reading a body for a body that is none.
            refused = HTTPException(413, told)
            chunks = _up_to(self.stream(), self, _GREATEST_JSON, refused)
            self._body = b"".join([chunk async for chunk in chunks])
        return self._body


class BoundedRoute(APIRoute):
    """A route whose JSON body is refused while it comes in, once it is larger than any edit is.

    What is read as a stream, such as a film, has a limit of its own.
    """

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        handle = super().get_route_handler()

        async def handle_bounded(request: Request) -> Response:
            return await handle(_BoundedRequest(request.scope, request.receive))

        return handle_bounded
