"""What the application carries, as its routes ask for it."""

from collections.abc import Callable, Coroutine
from typing import Annotated, Any

from fastapi import Depends, Request

from graveljar.api.searches import Searches
from graveljar.instruments.reader import Instruments
from graveljar.store.backup import Backups
from graveljar.store.designs import Designs
from graveljar.store.logs import Logs
from graveljar.store.parts import Parts
from graveljar.store.readings import Readings


def _carried(name: str) -> Callable[[Request], Coroutine[Any, Any, Any]]:
    """Read it where requests are read: a plain function would take a thread for it."""

    async def read(request: Request) -> Any:
        return getattr(request.app.state, name)

    return read


KeptBackups = Annotated[Backups, Depends(_carried("backups"))]
KeptDesigns = Annotated[Designs, Depends(_carried("designs"))]
KeptLogs = Annotated[Logs, Depends(_carried("logs"))]
KeptParts = Annotated[Parts, Depends(_carried("parts"))]
KeptReadings = Annotated[Readings, Depends(_carried("readings"))]
Listed = Annotated[Instruments, Depends(_carried("instruments"))]
Running = Annotated[Searches, Depends(_carried("searches"))]
