"""Logs of designs: rows copied in, and read thinned for pictures and for fits."""

from collections.abc import Generator, Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Final
from uuid import UUID

from psycopg import Connection
from psycopg.rows import DictRow, tuple_row

from graveljar.core.errors import OutOfRange
from graveljar.store.database import Pool
from graveljar.store.errors import DesignNotFound, LogNotFound

MAX_LOGS: Final = 200
# Stretches that a picture is made of.
MAX_BUCKETS: Final = 2_000
FIGURES: Final = ("volts", "amps", "watts", "charge", "air_c")

Row = tuple[float, float | None, float | None, float | None, float | None, float | None]


@dataclass(frozen=True)
class KeptLog:
    """A log: what it is of, when it began where that is known, its rows and length. [s]"""

    id: UUID
    name: str
    subject: str
    begins_at: datetime | None
    rows: int
    ends_s: float
    created_at: datetime


@dataclass(frozen=True)
class Thinned:
    """A log in stretches: their middle, and the least, mean and most of each figure in them.

    By the name of the figure; only figures that the log has. [s], [V], [A], [W], [1], [°C]
    """

    at_s: list[float]
    count: list[int]
    least: dict[str, list[float | None]]
    mean: dict[str, list[float | None]]
    most: dict[str, list[float | None]]


class Logs:
    """Reads and writes logs."""

    def __init__(self, pool: Pool) -> None:
        self._pool = pool

    def all(self, design_id: UUID) -> list[KeptLog]:
        """Logs of a design that are not deleted, the newest first."""
        query = """
            SELECT id, name, subject, begins_at, rows, ends_s, created_at FROM log
            WHERE design_id = %s AND deleted_at IS NULL ORDER BY created_at DESC, id
        """
        with self._pool.connection() as connection:
            return [KeptLog(**row) for row in connection.execute(query, (design_id,))]

    def one(self, design_id: UUID, log_id: UUID) -> KeptLog:
        """A log.

        Raises
        ------
        LogNotFound : there is none, or it was deleted.
        """
        with self._pool.connection() as connection:
            return _one(connection, design_id, log_id)

    def add(
        self, design_id: UUID, name: str, subject: str, parts: Iterable[list[Row]]
    ) -> Generator[tuple[UUID, int]]:
        """Copy a log in: gives its id and the rows so far as it goes on.

        All of it is one transaction: closed before its end, nothing is kept. Nothing is kept of a
        log without rows.

        Raises
        ------
        DesignNotFound : there is no such design.
        OutOfRange : the design would have too many.
        """
        with self._pool.connection() as connection:
            log_id = _begin(connection, design_id, name, subject)
            rows, ends_s = 0, 0.0
            copy = "COPY log_row (log_id, at_s, volts, amps, watts, charge, air_c) FROM STDIN"
            with connection.cursor() as cursor, cursor.copy(copy) as into:
                for part in parts:
                    for row in part:
                        into.write_row((log_id, *row))
                    rows += len(part)
                    ends_s = part[-1][0]
                    yield log_id, rows
            if rows:
                connection.execute(
                    "UPDATE log SET rows = %s, ends_s = %s WHERE id = %s", (rows, ends_s, log_id)
                )
            else:
                connection.execute("DELETE FROM log WHERE id = %s", (log_id,))

    def began(self, design_id: UUID, log_id: UUID, begins_s: float) -> KeptLog:
        """Note when a log began, in seconds since 1970, and give it. [s]

        Raises
        ------
        LogNotFound : there is none.
        """
        begins_at = datetime.fromtimestamp(begins_s, UTC)
        with self._pool.connection() as connection:
            connection.execute("UPDATE log SET begins_at = %s WHERE id = %s", (begins_at, log_id))
            return _one(connection, design_id, log_id)

    def thinned(
        self,
        design_id: UUID,
        log_id: UUID,
        buckets: int,
        from_s: float = 0.0,
        until_s: float | None = None,
    ) -> Thinned:
        """A log in so many stretches at most; extremes are kept.

        Raises
        ------
        LogNotFound : there is none.
        """
        with self._pool.connection() as connection:
            log = _one(connection, design_id, log_id)
            end_s = log.ends_s if until_s is None else min(until_s, log.ends_s)
            width_s = max((end_s - from_s) / buckets, 1e-9)
            query = """
                SELECT avg(at_s), count(*),
                    min(volts), avg(volts), max(volts), min(amps), avg(amps), max(amps),
                    min(watts), avg(watts), max(watts), min(charge), avg(charge), max(charge),
                    min(air_c), avg(air_c), max(air_c)
                FROM log_row WHERE log_id = %s AND at_s BETWEEN %s AND %s
                GROUP BY least(floor((at_s - %s) / %s), %s) ORDER BY 1
            """
            values = (log_id, from_s, end_s, from_s, width_s, buckets - 1)
            with connection.cursor(row_factory=tuple_row) as cursor:
                found = cursor.execute(query, values).fetchall()
        return _thinned(found)

    def rows(self, design_id: UUID, log_id: UUID) -> Iterator[tuple[float | None, ...]]:
        """Every row of a log, in the order of time: seconds, then the figures in their order.

        Raises
        ------
        LogNotFound : there is none.
        """
        query = """
            SELECT at_s, volts, amps, watts, charge, air_c FROM log_row
            WHERE log_id = %s ORDER BY at_s
        """
        with self._pool.connection() as connection:
            _one(connection, design_id, log_id)
            with connection.cursor("rows", row_factory=tuple_row) as cursor:
                cursor.itersize = 10_000
                cursor.execute(query, (log_id,))
                yield from cursor

    def delete(self, design_id: UUID, log_id: UUID) -> None:
        """Take a log away; `restore` brings it back.

        Raises
        ------
        LogNotFound : there is none.
        """
        self._set(design_id, log_id, gone=True)

    def restore(self, design_id: UUID, log_id: UUID) -> None:
        """Bring a log back.

        Raises
        ------
        LogNotFound : there never was one.
        """
        self._set(design_id, log_id, gone=False)

    def _set(self, design_id: UUID, log_id: UUID, *, gone: bool) -> None:
        with self._pool.connection() as connection:
            done = connection.execute(
                """
                UPDATE log SET deleted_at = CASE WHEN %s THEN now() END
                WHERE id = %s AND design_id = %s AND (deleted_at IS NULL) = %s
                """,
                (gone, log_id, design_id, gone),
            )
            if not done.rowcount:
                raise LogNotFound


def _one(connection: Connection[DictRow], design_id: UUID, log_id: UUID) -> KeptLog:
    query = """
        SELECT id, name, subject, begins_at, rows, ends_s, created_at FROM log
        WHERE id = %s AND design_id = %s AND deleted_at IS NULL
    """
    row = connection.execute(query, (log_id, design_id)).fetchone()
    if row is None:
        raise LogNotFound
    return KeptLog(**row)


def _begin(connection: Connection[DictRow], design_id: UUID, name: str, subject: str) -> UUID:
    known = connection.execute(
        "SELECT 1 FROM design WHERE id = %s AND deleted_at IS NULL FOR UPDATE", (design_id,)
    ).fetchone()
    if known is None:
        raise DesignNotFound("The design does not exist, or was deleted.")
    held = connection.execute(
        "SELECT count(*) AS held FROM log WHERE design_id = %s AND deleted_at IS NULL",
        (design_id,),
    ).fetchone()
    if held is not None and held["held"] >= MAX_LOGS:
        raise OutOfRange(f"A design may have at most {MAX_LOGS} logs.")
    row = connection.execute(
        "INSERT INTO log (design_id, name, subject) VALUES (%s, %s, %s) RETURNING id",
        (design_id, name, subject),
    ).fetchone()
    if row is None:
        raise LogNotFound
    found: UUID = row["id"]
    return found


def _thinned(found: list[tuple[float, ...]]) -> Thinned:
    table = list(zip(*found, strict=True)) if found else [()] * (2 + 3 * len(FIGURES))
    parts: list[dict[str, list[float | None]]] = [{}, {}, {}]
    for n, figure in enumerate(FIGURES):
        columns = [list(table[2 + 3 * n + k]) for k in range(3)]
        if any(value is not None for value in columns[1]):
            for part, column in zip(parts, columns, strict=True):
                part[figure] = [None if x is None else float(f"{x:.6g}") for x in column]
    return Thinned([float(x) for x in table[0]], [int(x) for x in table[1]], *parts)
