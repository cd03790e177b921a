"""Puts the application together."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI

from graveljar import __doc__ as summary
from graveljar.api.backup import router as backup_router
from graveljar.api.designs import router as designs_router
from graveljar.api.guard import Guard
from graveljar.api.history import router as history_router
from graveljar.api.instruments import router as instruments_router
from graveljar.api.logs import files as log_files
from graveljar.api.logs import router as logs_router
from graveljar.api.neighbours import Neighbours
from graveljar.api.options import router as options_router
from graveljar.api.pages import add_pages
from graveljar.api.problems import add_handlers
from graveljar.api.readings import pictures as reading_pictures
from graveljar.api.readings import router as readings_router
from graveljar.api.refill import router as refill_router
from graveljar.api.routes import router
from graveljar.api.searches import Searches
from graveljar.api.sharing import router as sharing_router
from graveljar.api.sheet import router as sheet_router
from graveljar.api.shelf import router as shelf_router
from graveljar.computing.workers import Workers
from graveljar.instruments.reader import Instruments
from graveljar.store.backup import Backups
from graveljar.store.designs import Designs
from graveljar.store.logs import Logs
from graveljar.store.parts import Parts
from graveljar.store.readings import Readings


@asynccontextmanager
async def _living(app: FastAPI) -> AsyncIterator[None]:
    apart = [x for x in (app.state.quick_workers, app.state.workers) if x is not None]
    for workers in apart:
        workers.wake_beside()
    yield
    for workers in apart:
        workers.close()
    app.state.searches.close()


def create_app(
    designs: Designs | None = None,
    parts: Parts | None = None,
    ui: Path | None = None,
    readings: Readings | None = None,
    logs: Logs | None = None,
    instruments: Instruments | None = None,
    backups: Backups | None = None,
    token: str | None = None,
    *,
    apart: bool = False,
) -> FastAPI:
    """Make the application over what is kept and instruments; without `ui` it has no pages.

    With a `token` other users of the machine need it. `apart`: it computes in other processes.
    """
    app = FastAPI(
        title="Gravel Jar",
        version="1",
        description=summary or "",
        openapi_url="/api/openapi.json",
        docs_url=None,
        redoc_url=None,
        separate_input_output_schemas=False,
        lifespan=_living,
    )
    app.state.designs = designs
    app.state.parts = parts
    app.state.readings = readings
    app.state.logs = logs
    app.state.instruments = instruments
    app.state.backups = backups
    app.state.searches = Searches()
    app.state.workers = Workers() if apart else None
    # Of their own: an edit is answered at once, whatever else is worked out.
    app.state.quick_workers = Workers(1) if apart else None
    app.include_router(router)
    app.include_router(refill_router)
    app.include_router(designs_router)
    app.include_router(history_router)
    app.include_router(shelf_router)
    app.include_router(options_router)
    app.include_router(readings_router)
    app.include_router(reading_pictures)
    app.include_router(logs_router)
    app.include_router(log_files)
    app.include_router(instruments_router)
    app.include_router(backup_router)
    app.include_router(sheet_router)
    app.include_router(sharing_router)
    add_handlers(app)
    if ui is not None:
        add_pages(app, ui)
    app.add_middleware(Guard, neighbours=Neighbours(token) if token else None)
    return app
