"""Puts the application together."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Final

from fastapi import FastAPI
from fastapi.routing import APIRoute

from graveljar import __doc__ as summary
from graveljar.api.backup import router as backup_router
from graveljar.api.described import DescribedApp
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

# As the description of the API is divided.
_PARTS: Final = {
    "Evaluation": (router,),
    "Designs": (designs_router, history_router, sharing_router),
    "Shelf": (shelf_router,),
    "Refill": (refill_router,),
    "Options": (options_router,),
    "Bench book": (readings_router, reading_pictures, logs_router, log_files, instruments_router),
    "Sheet": (sheet_router,),
    "Backup": (backup_router,),
}


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
    app = DescribedApp(
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
    for part, routers in _PARTS.items():
        for one in routers:
            for route in one.routes:
                if isinstance(route, APIRoute):
                    route.summary = route.description.partition("\n")[0].rstrip(".")
            app.include_router(one, tags=[part])
    add_handlers(app)
    if ui is not None:
        add_pages(app, ui)
    app.add_middleware(Guard, neighbours=Neighbours(token) if token else None)
    return app
