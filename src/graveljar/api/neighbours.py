"""Other users of the same machine: loopback is open to all of them, this program is not.

A connection on loopback belongs to a user, and Linux tells to whom. Whoever runs the program, and
root, come in as they are; others need the token that is printed at the start.
"""

import hmac
import os
import socket
import time
from http.cookies import CookieError, SimpleCookie
from pathlib import Path
from typing import Final
from urllib.parse import parse_qs

from starlette.datastructures import Headers
from starlette.types import Scope

COOKIE: Final = "gravel-jar"
# Sockets, each with its user, and how they write 127.0.0.1; a host without them tells nothing.
SOCKETS: Final = (
    (Path("/proc/net/tcp"), "0100007F"),
    (Path("/proc/net/tcp6"), "0000000000000000FFFF00000100007F"),
)
# A port does not come to another user as soon as this. [s]
REMEMBERED_S: Final = 1.0
MAX_REMEMBERED: Final = 200


class Neighbours:
    """Who may come in: the owner of this process, root, and whoever has the token."""

    def __init__(self, token: str) -> None:
        self.token = token
        self._known: dict[int, tuple[float, int | None]] = {}

    def may_come_in(self, scope: Scope, headers: Headers) -> bool:
        """Whether a request is of the owner or of root, or carries the token."""
        client = scope.get("client")
        if client is None or client[0] != "127.0.0.1":
            # No socket of this machine: a test that calls the application itself.
            return True
        if self._user(client[1], scope["server"][1]) in (os.geteuid(), 0):
            return True
        given = self.in_query(scope) or _in_cookie(headers)
        return hmac.compare_digest(given.encode(), self.token.encode())

    def in_query(self, scope: Scope) -> str:
        """The token in the address; "" without one."""
        query = parse_qs(scope.get("query_string", b"").decode("latin-1"))
        return str(query.get("token", [""])[0])

    def _user(self, port: int, server_port: int) -> int | None:
        now = time.monotonic()
        seen_at, user = self._known.get(port, (-REMEMBERED_S, None))
        if now - seen_at < REMEMBERED_S:
            return user
        if len(self._known) >= MAX_REMEMBERED:
            self._known.clear()
        user = user_of(port, server_port)
        if user is not None:
            self._known[port] = now, user
        return user


def user_of(port: int, server_port: int) -> int | None:
    """The user whose socket on loopback is joined from one port to another; None if not known."""
    for file, loopback in SOCKETS:
        local, remote = (f"{loopback}:{number:04X}" for number in (port, server_port))
        try:
            lines = file.read_text().splitlines()[1:]
        except OSError:
            continue
        for line in lines:
            cells = line.split()
            if cells[1] == local and cells[2] == remote:
                return int(cells[7])
    return None


def tells_users() -> bool:
    """Whether this machine tells whose a socket is; without that nobody could be let in by it."""
    with socket.socket() as listener:
        listener.bind(("127.0.0.1", 0))
        listener.listen()
        port = int(listener.getsockname()[1])
        with socket.create_connection(("127.0.0.1", port)) as own:
            return user_of(own.getsockname()[1], port) == os.geteuid()


def _in_cookie(headers: Headers) -> str:
    try:
        found = SimpleCookie(headers.get("cookie", "")).get(COOKIE)
    except CookieError:
        return ""
    return found.value if found else ""
