"""The route of a backup: everything that is kept, as one file."""

from datetime import UTC, datetime

from fastapi import APIRouter
from fastapi.responses import StreamingResponse

from graveljar.api.carried import KeptBackups
from graveljar.api.problems import PROBLEMS

router = APIRouter(prefix="/api", responses=PROBLEMS)


@router.get(
    "/backup",
    response_class=StreamingResponse,
    responses={200: {"content": {"application/gzip": {}}}},
)
def get_backup(backups: KeptBackups) -> StreamingResponse:
    """Everything that is kept: designs with all revisions, shelf, bench book."""
    day = datetime.now(UTC).date().isoformat()
    head = {"Content-Disposition": f'attachment; filename="gravel-jar-{day}.gz"'}
    return StreamingResponse(backups.parts(), media_type="application/gzip", headers=head)
