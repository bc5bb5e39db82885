"""Who may ask, and what a page may do: hosts, origins, and the headers of every answer."""

from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

__all__ = ["SafetyMiddleware"]

_POLICY = "; ".join(
    (
        "default-src 'self'",
        # The renderer of captions is WebAssembly in a worker.
        "script-src 'self' 'wasm-unsafe-eval'",
        "worker-src 'self' blob:",
        # Vue sets positions as style attributes.
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "media-src 'self' blob:",
        "connect-src 'self'",
        "font-src 'self'",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
_HEADERS = {
    "Content-Security-Policy": _POLICY,
    # Isolation gives the renderer its threads.
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Embedder-Policy": "require-corp",
    "Cross-Origin-Resource-Policy": "same-origin",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
}


class SafetyMiddleware:
    """Lets in requests for this host, and changes only from pages of this host."""

    def __init__(self, app: ASGIApp, hosts: tuple[str, ...]) -> None:
        self._app = app
        self._hosts = frozenset(hosts)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        if _name(host) not in self._hosts:
            await JSONResponse({"detail": "this host is not served here"}, 400)(
                scope, receive, send
            )
            return
        origin = headers.get("origin")
        changes = scope["method"] not in ("GET", "HEAD", "OPTIONS")
        if changes and origin is not None and urlsplit(origin).netloc != host:
            answer = JSONResponse({"detail": "changes are taken from this page only"}, 403)
            await answer(scope, receive, send)
            return

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(_HEADERS)
            await send(message)

        await self._app(scope, receive, send_with_headers)


def _name(host: str) -> str:
    """A host without its port."""
    return (
        host[: host.index("]") + 1] if host.startswith("[") and "]" in host else host.split(":")[0]
    )
