"""Reads JSON bodies with the core's own bounded parser, before anything else sees them."""

from collections.abc import Callable, Coroutine
from typing import Any

from fastapi import Request, Response
from fastapi.routing import APIRoute
from pydantic import BaseModel, ConfigDict

from graveljar.api.guard import most_bytes
from graveljar.core.model.parse import parse


class _ParsedRequest(Request):
    """A request whose JSON was parsed already."""

    parsed: Any = None

    async def json(self) -> Any:
        """The parsed body."""
        return self.parsed


class Body(BaseModel):
    """A request's body: no field that is not known."""

    model_config = ConfigDict(extra="forbid")


class BoundedRoute(APIRoute):
    """A route whose body is bounded in size and depth, and has no NaN."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """Parse first: errors of the parser are ours, and say where."""
        handle = super().get_route_handler()

        async def bounded(request: Request) -> Response:
            safe = _ParsedRequest(request.scope, request.receive)
            if body := await safe.body():
                safe.parsed = parse(body, most_bytes(request.url.path))
            return await handle(safe)

        return bounded
