"""What every request meets first: its host, its origin, its size; and headers on the way out."""

import asyncio
import re
from collections.abc import Awaitable, Callable
from typing import Any, Final
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from graveljar.api.neighbours import COOKIE, Neighbours
from graveljar.api.problems import problem_response
from graveljar.computing.budget import Budget, limit_s
from graveljar.core.model.parse import MAX_BYTES
from graveljar.core.stop import Stopped, stopped_by
from graveljar.formats.log_csv import MAX_LOG_BYTES
from graveljar.formats.pictures import MAX_PICTURE_BYTES

HOSTS: Final = ("127.0.0.1", "localhost")
# A year of hourly weather is larger than any document. [bytes]
LARGER: Final = {"/api/sun/file": 3_000_000}
# A log goes to the database as it is read, never whole into memory. [bytes]
LOG_PATH: Final = re.compile(r"/api/designs/[^/]+/logs")
PICTURE_PATH: Final = re.compile(r"/api/designs/[^/]+/readings/[^/]+/picture")
# A body whose next part takes longer is given up. [s]
PART_S: Final = 20.0
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


def most_bytes(path: str) -> int:
    """Bytes that the body of a request to a path may have."""
    if LOG_PATH.fullmatch(path):
        return MAX_LOG_BYTES
    if PICTURE_PATH.fullmatch(path):
        return MAX_PICTURE_BYTES
    return LARGER.get(path, MAX_BYTES)


class _TooLarge(Exception):
    """The body went over the limit while it was read."""


class _TooSlow(Exception):
    """The next part of the body did not come."""


class Guard:
    """ASGI middleware: refuses foreign hosts and origins and large bodies, adds headers."""

    def __init__(self, app: ASGIApp, neighbours: Neighbours | None = None) -> None:
        self.app, self.neighbours = app, neighbours

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Let a request through, or answer it here."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        guarded = _with_headers(send)
        most = most_bytes(scope["path"])
        refusal = _refusal(scope, headers, most)
        if refusal is None and self.neighbours is not None:
            if not self.neighbours.may_come_in(scope, headers):
                refusal = _STRANGER
            elif self.neighbours.in_query(scope):
                guarded = _with_cookie(guarded, self.neighbours.token)
        if refusal is not None:
            status, code, title, detail = refusal
            await problem_response(status, code, title, detail)(scope, receive, guarded)
            return
        budget = Budget(limit_s(scope["path"]))
        body = _Body(receive, most, budget)
        try:
            with stopped_by(budget):
                await self.app(scope, body, body.told(guarded))
        except _TooLarge:
            await _too_large(most)(scope, receive, guarded)
        except _TooSlow:
            detail = f"The rest of the request did not come within {PART_S:.0f} s."
            answer = problem_response(408, "too_slow", "Too slow", detail)
            await answer(scope, receive, guarded)
        except Stopped as stopped:
            if not budget.gone and not body.answered:
                answer = problem_response(422, "too_long", "It takes too long", stopped.why)
                await answer(scope, receive, guarded)
        finally:
            body.close()


_FOREIGN: Final = (
    403, "foreign_origin", "Wrong origin", "Changes are taken from its own pages only."
)  # fmt: skip
_STRANGER: Final = (
    403, "other_user", "Another user",
    "Another user of this machine runs this program: open the address with the token that it "
    "printed.",
)  # fmt: skip


def _refusal(scope: Scope, headers: Headers, most: int) -> tuple[int, str, str, str] | None:
    host, method = headers.get("host", ""), scope["method"]
    if _hostname(host) not in HOSTS:
        return 421, "foreign_host", "Wrong host", "This program answers on 127.0.0.1 only."
    origin = headers.get("origin")
    changes = method not in SAFE_METHODS
    if changes and origin is not None and origin != f"http://{host}":
        return _FOREIGN
    # A page elsewhere may send a form, or have a picture of us loaded, without an origin.
    if headers.get("sec-fetch-site") == "cross-site" and (changes or _of_api(scope)):
        return _FOREIGN
    length = headers.get("content-length", "0")
    if not length.isascii() or not length.isdigit():
        return 400, "bad_length", "Wrong length", "Content-Length is not a number."
    if int(length) > most:
        return 413, "too_large", "Too large", _says(most)
    return None


def _of_api(scope: Scope) -> bool:
    return str(scope["path"]).startswith("/api/")


def _hostname(host: str) -> str | None:
    """The name in a Host header; None where it is none, such as “[”."""
    try:
        return urlsplit(f"//{host}").hostname
    except ValueError:
        return None


def _says(most: int) -> str:
    return f"A request may hold at most {most} bytes."


def _too_large(most: int) -> ASGIApp:
    return problem_response(413, "too_large", "Too large", _says(most))


class _Body:
    """What is received of a request: bounded, in time; once it is whole, watched for its end."""

    def __init__(self, receive: Receive, most: int, budget: Budget) -> None:
        self._receive, self._most, self._budget = receive, most, budget
        self._seen, self._whole, self.answered = 0, False, False
        self._watch: asyncio.Task[None] | None = None
        self._later: asyncio.Queue[Message] = asyncio.Queue()

    async def __call__(self) -> Message:
        """The next message."""
        if self._whole:
            return await self._later.get()
        try:
            async with asyncio.timeout(PART_S):
                message = await self._receive()
        except TimeoutError:
            raise _TooSlow from None
        self._seen += len(message.get("body", b""))
        if self._seen > self._most:
            raise _TooLarge
        if message["type"] == "http.disconnect":
            self._budget.gone = True
        elif not message.get("more_body", False):
            # What comes now is that whoever asked is gone: then nothing is computed any more.
            self._whole = True
            self._watch = asyncio.create_task(self._wait())
        return message

    async def _wait(self) -> None:
        message = await self._receive()
        self._budget.gone = True
        await self._later.put(message)

    def told(self, send: Send) -> Send:
        """Answers of which it is known that they have begun."""

        async def begun(message: Message) -> None:
            self.answered = True
            await send(message)

        return begun

    def close(self) -> None:
        """Watch no more."""
        if self._watch is not None:
            self._watch.cancel()


def _with_cookie(send: Send, token: str) -> Send:
    """Answers that leave the token in the browser: later requests need it no more."""

    async def with_cookie(message: Message) -> None:
        if message["type"] == "http.response.start":
            cookie = f"{COOKIE}={token}; Path=/; HttpOnly; SameSite=Strict"
            MutableHeaders(scope=message).append("Set-Cookie", cookie)
        await send(message)

    return with_cookie


def _with_headers(send: Send) -> Callable[[Message], Awaitable[Any]]:
    async def with_headers(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in HEADERS.items():
                headers.setdefault(name, value)
            headers.setdefault("Content-Security-Policy", NO_CONTENT_POLICY)
        await send(message)

    return with_headers
