"""What every request meets first: its host, its origin, its size; and headers on the way out."""

from collections.abc import Awaitable, Callable
from typing import Any, Final
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from graveljar.api.problems import problem_response
from graveljar.core.model.parse import MAX_BYTES

HOSTS: Final = ("127.0.0.1", "localhost")
SAFE_METHODS: Final = ("GET", "HEAD", "OPTIONS")

HEADERS: Final = {
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=()",
}
# For everything but the pages, which carry their own with a nonce.
NO_CONTENT_POLICY: Final = "default-src 'none'; frame-ancestors 'none'"


class _TooLarge(Exception):
    """The body went over the limit while it was read."""


class Guard:
    """ASGI middleware: refuses foreign hosts and origins and large bodies, adds headers."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let a request through, or answer it here."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        guarded = _with_headers(send)
        refusal = _refusal(scope["method"], headers)
        if refusal is not None:
            status, code, title, detail = refusal
            await problem_response(status, code, title, detail)(scope, receive, guarded)
            return
        try:
            await self.app(scope, _counted(receive), guarded)
        except _TooLarge:
            await _too_large()(scope, receive, guarded)


def _refusal(method: str, headers: Headers) -> tuple[int, str, str, str] | None:
    host = headers.get("host", "")
    if urlsplit(f"//{host}").hostname not in HOSTS:
        return 421, "foreign_host", "Wrong host", "This program answers on 127.0.0.1 only."
    origin = headers.get("origin")
    if method not in SAFE_METHODS and origin is not None and origin != f"http://{host}":
        return 403, "foreign_origin", "Wrong origin", "Changes are taken from its own pages only."
    length = headers.get("content-length", "0")
    if not length.isascii() or not length.isdigit():
        return 400, "bad_length", "Wrong length", "Content-Length is not a number."
    if int(length) > MAX_BYTES:
        return 413, "too_large", "Too large", _TOO_LARGE
    return None


_TOO_LARGE: Final = f"A request may hold at most {MAX_BYTES} bytes."


def _too_large() -> ASGIApp:
    return problem_response(413, "too_large", "Too large", _TOO_LARGE)


def _counted(receive: Receive) -> Receive:
    seen = 0

    async def counted() -> Message:
        nonlocal seen
        message = await receive()
        seen += len(message.get("body", b""))
        if seen > MAX_BYTES:
            raise _TooLarge
        return message

    return counted


def _with_headers(send: Send) -> Callable[[Message], Awaitable[Any]]:
    async def with_headers(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in HEADERS.items():
                headers.setdefault(name, value)
            headers.setdefault("Content-Security-Policy", NO_CONTENT_POLICY)
        await send(message)

    return with_headers
