"""A migrated database and a pool of connections to it."""

import re
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from importlib.resources import as_file, files

from psycopg import Connection, connect
from psycopg.rows import DictRow, dict_row
from psycopg_pool import ConnectionPool
from yoyo import get_backend, read_migrations

Pool = ConnectionPool[Connection[DictRow]]

# Long enough for a busy machine, short enough to tell a person that the database is away.
WAIT_S = 3.0
# Names the lock of migrations among all advisory locks: "gravel" as a number.
LOCK = 0x67726176656C
RECONNECT_S = 1.0


def migrate(url: str, before: Callable[[str], None] | None = None) -> None:
    """Bring the database up to the newest numbered migration, one program at a time.

    The lock ends with its connection: a program that is killed leaves none behind. `before` is
    called with the first new migration, if there is one and the database holds something.
    """
    backend = get_backend(re.sub(r"^postgres(ql)?://", "postgresql+psycopg://", url))
    try:
        with (
            as_file(files("graveljar.store") / "migrations") as folder,
            connect(url, autocommit=True) as link,
        ):
            link.execute("SET lock_timeout = '60s'")
            link.execute("SELECT pg_advisory_lock(%s)", (LOCK,))
            migrations = read_migrations(str(folder))
            new = backend.to_apply(migrations)
            if new and before is not None and len(new) < len(migrations):
                before(new[0].id)
            if new:
                backend.apply_migrations(new)
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
