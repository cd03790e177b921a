"""Routes of logs: a file looked at, read in, drawn, taken away."""

import json
from collections.abc import Iterator
from contextlib import closing
from io import TextIOWrapper
from itertools import chain
from tempfile import SpooledTemporaryFile
from typing import IO, Annotated, Any, Literal
from uuid import UUID

import numpy as np
from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from numpy.typing import NDArray
from pydantic import Field, TypeAdapter, ValidationError

from graveljar.api.carried import KeptLogs
from graveljar.api.described import Csv, as_csv
from graveljar.api.problems import PROBLEMS
from graveljar.api.requests import Body, BoundedRoute, Computing
from graveljar.computing import works
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import Design, Part
from graveljar.core.model.fields import ONE_LINE
from graveljar.core.model.parse import parse
from graveljar.core.readings import (
    Against,
    CapacityReading,
    DrawnRow,
    Fit,
    LogData,
)
from graveljar.formats.log_csv import LogFile, RowProblem
from graveljar.formats.log_data import FIRST_DATE_S, STRETCHES, USUAL_C
from graveljar.formats.log_layout import MAX_HEAD, LogLayout, LookedAt, look_at
from graveljar.store.logs import MAX_BUCKETS, KeptLog, Logs, Thinned

# Of a file, so much is held in memory; the rest waits on disk. [bytes]
IN_MEMORY = 2_000_000

router = APIRouter(prefix="/api", route_class=BoundedRoute, responses=PROBLEMS)
# Its body is no JSON: it is read as it comes.
files = APIRouter(prefix="/api", responses=PROBLEMS)


class LogHead(Body):
    """The beginning of a file."""

    head: Annotated[str, Field(max_length=MAX_HEAD)]


class LogLine(Part):
    """A line of the answer while a log is read in: rows so far, the log at last, or why not."""

    step: Literal["rows", "kept", "refused"]
    rows: int = 0
    log: KeptLog | None = None
    bad: int = 0
    problems: tuple[RowProblem, ...] = ()


@router.post("/logs/look")
def post_look(body: LogHead) -> LookedAt:
    """How a file seems to be laid out, to be confirmed; nothing is stored."""
    return look_at(body.head)


@files.post(
    "/designs/{design_id}/logs",
    response_class=StreamingResponse,
    responses={200: {"model": LogLine, "content": {"application/x-ndjson": {}}}},
    openapi_extra={
        "requestBody": {"content": {"text/csv": {"schema": {"type": "string"}}}, "required": True}
    },
)
async def post_log(
    design_id: UUID,
    request: Request,
    logs: KeptLogs,
    name: Annotated[str, Query(min_length=1, max_length=120, pattern=ONE_LINE)],
    subject: Annotated[str, Query(min_length=1, max_length=40, pattern=ONE_LINE)],
    layout: Annotated[str, Query(max_length=8_000)],
    skip_bad: Annotated[bool, Query()] = False,
) -> StreamingResponse:
    """Read a file in, by a layout: a line of JSON a step. Stopped early, nothing is kept."""
    read_as = _layout(layout)
    body: IO[bytes] = SpooledTemporaryFile(max_size=IN_MEMORY)  # noqa: SIM115
    async for chunk in request.stream():
        body.write(chunk)
    body.seek(0)
    file = LogFile(read_as, skip_bad=skip_bad)
    steps = _steps(logs, design_id, name, subject, file, body)
    # What is wrong from the start is answered as such, not in the stream.
    first = await run_in_threadpool(next, steps)
    return StreamingResponse(chain([first], steps), media_type="application/x-ndjson")


def _layout(text: str) -> LogLayout:
    parse(text.encode())
    try:
        return LogLayout.model_validate_json(text)
    except ValidationError as error:
        message = f"The layout cannot be read: {error.errors()[0]['msg']}."
        raise InvalidDocument(message, (Problem("/layout", "layout", message),)) from None


_LINE: TypeAdapter[LogLine] = TypeAdapter(LogLine)


def _line(**step: Any) -> str:
    document = _LINE.dump_python(LogLine(**step), mode="json")
    return json.dumps(document, ensure_ascii=False) + "\n"


def _steps(
    logs: Logs, design_id: UUID, name: str, subject: str, file: LogFile, body: IO[bytes]
) -> Iterator[str]:
    with body, TextIOWrapper(body, encoding="utf-8-sig", errors="replace") as lines:
        log_id: UUID | None = None
        with closing(logs.add(design_id, name, subject, _whole(file, lines))) as adding:
            try:
                for found, rows in adding:
                    log_id = found
                    yield _line(step="rows", rows=rows)
            except _Refused:
                log_id = None
        if log_id is None:
            problems = tuple(file.problems) or (RowProblem(0, "", "no rows were found"),)
            yield _line(step="refused", rows=file.rows, bad=file.bad, problems=problems)
            return
        begins_s = file.begins_s or 0.0
        kept = (
            logs.began(design_id, log_id, begins_s) if begins_s > FIRST_DATE_S
            else logs.one(design_id, log_id)
        )  # fmt: skip
        problems = tuple(file.problems)
        yield _line(step="kept", rows=kept.rows, log=kept, bad=file.bad, problems=problems)


class _Refused(Exception):
    """A row could not be read, and none is to be left out."""


def _whole(file: LogFile, lines: TextIOWrapper) -> Iterator[list[Any]]:
    """The rows of a file; nothing of it is kept where one is bad."""
    yield from file.parts(lines)
    if (file.bad and not file.skip_bad) or not file.rows:
        raise _Refused


@router.get("/designs/{design_id}/logs")
def get_logs(design_id: UUID, logs: KeptLogs) -> list[KeptLog]:
    """Logs of a design, the newest first."""
    return logs.all(design_id)


@router.get("/designs/{design_id}/logs/{log_id}/picture")
def get_picture(
    design_id: UUID,
    log_id: UUID,
    logs: KeptLogs,
    points: Annotated[int, Query(ge=10, le=MAX_BUCKETS)] = 600,
    from_s: Annotated[float, Query(ge=0, le=1e9)] = 0.0,
    until_s: Annotated[float | None, Query(gt=0, le=1e9)] = None,
) -> Thinned:
    """A log thinned for a picture, its extremes kept."""
    return logs.thinned(design_id, log_id, points, from_s, until_s)


@router.get("/designs/{design_id}/logs/{log_id}/rows.csv", response_class=Csv)
def export_log(design_id: UUID, log_id: UUID, logs: KeptLogs) -> Csv:
    """A log as CSV, every row, as it can be read in again."""
    logs.one(design_id, log_id)
    return as_csv(_rows(logs, design_id, log_id), "gravel-jar-log.csv")


def _rows(logs: Logs, design_id: UUID, log_id: UUID) -> Iterator[str]:
    yield "seconds,volts,amps,watts,charge (share),temperature (C)\r\n"
    for row in logs.rows(design_id, log_id):
        yield ",".join("" if x is None else f"{x:.7g}" for x in row) + "\r\n"


@router.post("/designs/{design_id}/logs/{log_id}/fit")
def post_fit(
    design_id: UUID, log_id: UUID, design: Design, logs: KeptLogs, compute: Computing
) -> Fit:
    """What a log tells of its part in the design that is sent; nothing is stored."""
    log = logs.one(design_id, log_id)
    data = _data(log, logs.thinned(design_id, log_id, STRETCHES))
    return compute(works.fit_of, design, log.subject, data)


@router.post("/designs/{design_id}/logs/{log_id}/against")
def post_against(
    design_id: UUID, log_id: UUID, design: Design, logs: KeptLogs, compute: Computing
) -> Against:
    """A log of a bank beside the run of the design that is sent; nothing is stored."""
    log = logs.one(design_id, log_id)
    data = _data(log, logs.thinned(design_id, log_id, STRETCHES))
    return compute(works.against_run, design, log.subject, data)


@router.post("/designs/{design_id}/logs/{log_id}/capacity")
def post_log_capacity(
    design_id: UUID, log_id: UUID, logs: KeptLogs, compute: Computing
) -> CapacityReading:
    """A log of volts and amps as a capacity test; nothing is stored."""
    log = logs.one(design_id, log_id)
    data = _data(log, logs.thinned(design_id, log_id, STRETCHES))
    if data.volts is None or data.amps is None:
        message = "A capacity test has volts and amps: this log has not both."
        raise InvalidDocument(message, (Problem("/log", "no_amps", message),))
    good = np.isfinite(data.volts) & np.isfinite(data.amps)
    rows = zip(data.at_s[good], data.volts[good], data.amps[good], strict=True)
    whole = [DrawnRow(float(s), float(v), float(a)) for s, v, a in rows]
    return compute(works.capacity_in, log.subject, whole, data.air_c)


def _data(log: KeptLog, thinned: Thinned) -> LogData:
    """A log as the fits read it."""

    def column(of: dict[str, list[float | None]], figure: str) -> NDArray[np.float64] | None:
        values = of.get(figure)
        return None if values is None else np.array(values, dtype=np.float64)

    air_c = column(thinned.mean, "air_c")
    return LogData(
        name=log.name,
        taken_on=log.begins_at.date().isoformat() if log.begins_at else "",
        at_s=np.array(thinned.at_s),
        count=np.array(thinned.count, dtype=np.float64),
        volts=column(thinned.mean, "volts"),
        amps=column(thinned.mean, "amps"),
        watts=column(thinned.mean, "watts"),
        most_w=column(thinned.most, "watts"),
        air_c=USUAL_C if air_c is None else float(np.nanmean(air_c)),
    )


@router.delete("/designs/{design_id}/logs/{log_id}", status_code=204)
def delete_log(design_id: UUID, log_id: UUID, logs: KeptLogs) -> None:
    """Take a log away; it can be restored."""
    logs.delete(design_id, log_id)


@router.post("/designs/{design_id}/logs/{log_id}/restore", status_code=204)
def restore_log(design_id: UUID, log_id: UUID, logs: KeptLogs) -> None:
    """Bring a log back."""
    logs.restore(design_id, log_id)
