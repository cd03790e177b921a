"""Reads JSON bodies with the core's own bounded parser, and says where to compute."""

from collections.abc import Callable, Coroutine
from typing import Annotated, Any

from fastapi import Depends, Request, Response
from fastapi.routing import APIRoute
from pydantic import BaseModel, ConfigDict

from graveljar.api.guard import most_bytes
from graveljar.computing.budget import limit_s
from graveljar.computing.workers import Compute, Workers, compute_here
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


async def _computing(request: Request) -> Compute:
    return _within(request.app.state.workers, request)


async def _computing_at_once(request: Request) -> Compute:
    return _within(request.app.state.quick_workers, request)


def _within(workers: Workers | None, request: Request) -> Compute:
    return workers.within(limit_s(request.url.path)) if workers else compute_here


# Where a request is worked out; and one that a person who types waits for.
Computing = Annotated[Compute, Depends(_computing)]
ComputingAtOnce = Annotated[Compute, Depends(_computing_at_once)]
