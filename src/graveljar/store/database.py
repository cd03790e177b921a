"""A migrated database and a pool of connections to it."""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import as_file, files

from psycopg import Connection
from psycopg.rows import DictRow, dict_row
from psycopg_pool import ConnectionPool
from yoyo import get_backend, read_migrations

Pool = ConnectionPool[Connection[DictRow]]

# Long enough for a busy machine, short enough to tell a person that the database is away.
WAIT_S = 3.0
RECONNECT_S = 1.0


def migrate(url: str) -> None:
    """Bring the database up to the newest numbered migration."""
    backend = get_backend(re.sub(r"^postgres(ql)?://", "postgresql+psycopg://", url))
    try:
        with as_file(files("graveljar.store") / "migrations") as folder:
            migrations = read_migrations(str(folder))
            with backend.lock():
                backend.apply_migrations(backend.to_apply(migrations))
    finally:
        backend.connection.close()


@contextmanager
def open_pool(url: str) -> Iterator[Pool]:
    """A pool whose connections are checked before use, so that it survives a restart."""
    pool: Pool = ConnectionPool(
        url,
        kwargs={"row_factory": dict_row, "connect_timeout": int(WAIT_S)},
        min_size=1,
        max_size=8,
        timeout=WAIT_S,
        # Then it stops trying, and the next request tries anew: no growing pauses between tries.
        reconnect_timeout=RECONNECT_S,
        check=ConnectionPool.check_connection,
        open=False,
    )
    with pool:
        yield pool
