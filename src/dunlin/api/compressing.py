"""Answers made smaller for those who are not on this machine."""

from ipaddress import ip_address

from starlette.middleware.gzip import GZipMiddleware
from starlette.types import ASGIApp, Receive, Scope, Send

__all__ = ["CompressionMiddleware"]

_LEVEL = 4
"""Of gzip: 10,000 captions come to within a tenth of what the best level makes of them, in a third of its time."""


class CompressionMiddleware:
    """Compresses what goes over a network, but for films and sounds, which are compressed already.

    On this machine it would take longer to compress a long track than to hand it over.
    """

    def __init__(self, app: ASGIApp) -> None:
        self._app = app
        self._compressed = GZipMiddleware(app, compresslevel=_LEVEL)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        app = self._app if _is_this_machine(scope) else self._compressed
        await app(scope, receive, send)


def _is_this_machine(scope: Scope) -> bool:
    """Whether whoever asks is on the machine that serves."""
    address = (scope.get("client") or ("",))[0]
    try:
        return ip_address(address).is_loopback
    except ValueError:
        return False
