"""The route of a backup: everything that is kept, as one file."""

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from fastapi.responses import StreamingResponse

from graveljar.api.problems import PROBLEMS
from graveljar.store.backup import Backups

router = APIRouter(prefix="/api", responses=PROBLEMS)


def _backups(request: Request) -> Backups:
    backups: Backups = request.app.state.backups
    return backups


@router.get(
    "/backup",
    response_class=StreamingResponse,
    responses={200: {"content": {"application/gzip": {}}}},
)
def get_backup(backups: Annotated[Backups, Depends(_backups)]) -> StreamingResponse:
    """Everything that is kept: designs with all revisions, shelf, bench book."""
    day = datetime.now(UTC).date().isoformat()
    head = {"Content-Disposition": f'attachment; filename="gravel-jar-{day}.gz"'}
    return StreamingResponse(backups.parts(), media_type="application/gzip", headers=head)
