"""Files sent as the body of a request."""

from fastapi import Request

from dunlin.api.wire import Refusal
from dunlin.core.messages import message

__all__ = ["body_of"]


async def body_of(request: Request, greatest_bytes: int, refusal: str) -> bytes:
    """The body, as far as the limit; a larger one is refused before it is all there.

    :param refusal: code of the message that it is too large, with `megabytes`
    """
    refused = Refusal(422, message(refusal, megabytes=greatest_bytes // 2**20))
    if int(request.headers.get("content-length") or 0) > greatest_bytes:
        raise refused
    data = bytearray()
    async for chunk in request.stream():
        data += chunk
        if len(data) > greatest_bytes:
            raise refused
    return bytes(data)
