"""The application for tests, and a request message by message: what a connection may do to it."""

import asyncio
from collections.abc import Awaitable, Callable
from typing import Any, Final

from fastapi import FastAPI

from graveljar.api.app import create_app

ONE: Final = create_app()
# What is kept nowhere unless a test says where.
NOWHERE: Final = dict.fromkeys(("designs", "parts", "readings", "logs"))


def app_over(**kept: Any) -> FastAPI:
    """The application over what a test keeps: one for all, as the first request takes long."""
    for name, store in (NOWHERE | kept).items():
        setattr(ONE.state, name, store)
    return ONE


def ask(
    app: FastAPI, path: str, receive: Callable[[], Awaitable[Any]], **headers: str
) -> list[Any]:
    """Post to a path; gives the messages of the answer."""
    sent: list[Any] = []

    async def send(message: Any) -> None:
        sent.append(message)

    given = {"host": "127.0.0.1"} | {name.replace("_", "-"): x for name, x in headers.items()}
    scope = {
        "type": "http", "method": "POST", "path": path, "raw_path": path.encode(),
        "query_string": b"", "http_version": "1.1", "scheme": "http", "root_path": "",
        "headers": [(name.encode(), value.encode()) for name, value in given.items()],
        "client": ("testclient", 1), "server": ("127.0.0.1", 80),
    }  # fmt: skip
    asyncio.run(app(scope, receive, send))
    return sent
