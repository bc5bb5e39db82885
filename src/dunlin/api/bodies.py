"""Files sent as the body of a request."""

from fastapi import HTTPException, Request

__all__ = ["body_of"]


async def body_of(request: Request, greatest_bytes: int, what: str) -> bytes:
    """The body, as far as the limit; a larger one is refused before it is all there.

    :param what: what it is too large for, as in "a caption file"
    """
    refused = HTTPException(
        422, f"larger than {greatest_bytes // 2**20} MB: far too large for {what}"
    )
    if int(request.headers.get("content-length") or 0) > greatest_bytes:
        raise refused
    data = bytearray()
    async for chunk in request.stream():
        data += chunk
        if len(data) > greatest_bytes:
            raise refused
    return bytes(data)
