"""Errors as problem details (RFC 9457): one shape for all of them, made in one place."""

import logging
from typing import Any, Final

from fastapi import FastAPI, Request
from fastapi.encoders import jsonable_encoder
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from psycopg import OperationalError
from psycopg.errors import DiskFull
from psycopg_pool import PoolTimeout
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from graveljar.api.searches import Busy
from graveljar.core.errors import (
    GravelJarError,
    NewerVersion,
    OutOfRange,
    Problem,
    UnreadableDocument,
)
from graveljar.core.model.parse import refusal
from graveljar.formats.drawing import NoDrawing, NoPdf
from graveljar.instruments.reader import InstrumentAway, InstrumentGarbled, InstrumentUnlisted
from graveljar.store.errors import (
    DesignNotFound,
    LogNotFound,
    PartNotFound,
    ReadingNotFound,
    StalePart,
    StaleRevision,
)

log = logging.getLogger("graveljar")

MEDIA_TYPE: Final = "application/problem+json"
_STATUS: Final[dict[type[GravelJarError], int]] = {
    UnreadableDocument: 400,
    DesignNotFound: 404,
    PartNotFound: 404,
    ReadingNotFound: 404,
    LogNotFound: 404,
    InstrumentUnlisted: 404,
    InstrumentAway: 424,
    InstrumentGarbled: 424,
    NoDrawing: 424,
    NoPdf: 424,
    StalePart: 409,
    StaleRevision: 409,
    NewerVersion: 422,
    OutOfRange: 422,
    Busy: 503,
}


class ProblemPlace(BaseModel):
    """One place in the request's document: a JSON Pointer, a stable code, words."""

    path: str
    code: str
    message: str


class ProblemDetails(BaseModel):
    """The body of every error."""

    type: str
    title: str
    status: int
    detail: str
    code: str
    errors: list[ProblemPlace] = []


# Said of every route in the schema.
_PROBLEM: Final = {"model": ProblemDetails, "content": {"application/problem+json": {}}}
PROBLEMS: Final[dict[int | str, dict[str, Any]]] = {"4XX": _PROBLEM, "5XX": _PROBLEM}


def problem_response(
    status: int,
    code: str,
    title: str,
    detail: str,
    problems: tuple[Problem, ...] = (),
    **more: Any,
) -> JSONResponse:
    """An error as problem details."""
    body = {
        "type": f"urn:gravel-jar:problem:{code}",
        "title": title,
        "status": status,
        "detail": detail,
        "code": code,
        "errors": [vars(problem) for problem in problems],
    }
    return JSONResponse(body | more, status, media_type=MEDIA_TYPE)


def add_handlers(app: FastAPI) -> None:
    """Answer every error of the application in the one shape."""

    @app.exception_handler(GravelJarError)
    def ours(_: Request, error: GravelJarError) -> JSONResponse:
        more = {}
        if isinstance(error, StaleRevision):
            more["current"] = jsonable_encoder(error.current)
        status = _STATUS.get(type(error), 422)
        return problem_response(
            status, error.code, error.title, error.message, error.problems, **more
        )

    @app.exception_handler(RequestValidationError)
    def invalid(request: Request, error: RequestValidationError) -> JSONResponse:
        # A location starts with where it was: body, path or query.
        trimmed: list[Any] = [e | {"loc": e["loc"][1:]} for e in error.errors()]
        return ours(request, refusal(trimmed))

    @app.exception_handler(HTTPException)
    def plain(_: Request, error: HTTPException) -> JSONResponse:
        return problem_response(error.status_code, "http", str(error.detail), str(error.detail))

    @app.exception_handler(DiskFull)
    def full(_: Request, error: Exception) -> JSONResponse:
        log.warning("database: %s", error)
        return problem_response(
            507,
            "disk_full",
            "The disk is full",
            "The disk is full: nothing was saved. Your work stays in this tab; it is saved once "
            "there is room.",
        )

    @app.exception_handler(OperationalError)
    @app.exception_handler(PoolTimeout)
    def away(_: Request, error: Exception) -> JSONResponse:
        log.warning("database: %s", error)
        return problem_response(
            503,
            "database_away",
            "The database does not answer",
            "Nothing was saved. Your work stays in this tab; it is saved when it answers again.",
        )

    @app.exception_handler(Exception)
    def unforeseen(_: Request, error: Exception) -> JSONResponse:
        log.error("unforeseen error", exc_info=error)
        return problem_response(
            500, "unforeseen", "Something went wrong", "The server's log says more."
        )
