"""Who may ask, and what a page may do: hosts, origins, and the headers of every answer."""

import re
from ipaddress import ip_address

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dunlin.api.wire import problem_answer
from dunlin.core.messages import message
from dunlin.settings import is_this_machine

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
        name = _name(host)
        if name not in self._hosts or not _came_to(scope, name):
            answer = problem_answer(400, message("request.other-host"))
            await answer(scope, receive, send)
            return
        origin = headers.get("origin")
        changes = scope["method"] not in ("GET", "HEAD", "OPTIONS")
        if changes and origin is not None and origin != f"{scope['scheme']}://{host}":
            answer = problem_answer(403, message("request.other-origin"))
            await answer(scope, receive, send)
            return

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(_HEADERS)
            await send(message)

        await self._app(scope, receive, send_with_headers)


# A name as the Domain Name System has them, or an address (RFC 3986, 3.2.2), and a port.
_HOST = re.compile(r"(?:\[([0-9A-Fa-f:.]+)\]|([A-Za-z0-9.-]+))(?::\d{1,5})?")


def _name(host: str) -> str | None:
    """A host without its port; None where it is none."""
    match = _HOST.fullmatch(host)
    if match is None:
        return None
    if match[1] is None:
        return match[2].lower()
    return f"[{match[1].lower()}]" if _is_address(match[1]) else None


def _is_address(text: str) -> bool:
    try:
        ip_address(text)
    except ValueError:
        return False
    return True


def _came_to(scope: Scope, name: str) -> bool:
    """Whether a request that says it is for this machine itself came to it from nowhere else."""
    address, *_ = scope.get("server") or ("",)
    came_from_elsewhere = _is_address(address) and not is_this_machine(address)
    return not (came_from_elsewhere and is_this_machine(name))
