"""Parts of the shelf by id, each at its newest revision."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from psycopg import Connection
from psycopg.rows import DictRow
from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from graveljar.core.errors import OutOfRange
from graveljar.core.model import Provenance
from graveljar.core.planning.shelf import AnyPart, ShelfPart, spread_from
from graveljar.store.database import Pool
from graveljar.store.errors import PartNotFound, StalePart

_PART: TypeAdapter[AnyPart] = TypeAdapter(ShelfPart)
MAX_PARTS = 5_000


@dataclass(frozen=True)
class KeptPart:
    """A part as kept. `spread_from` is what a design takes as its provenance."""

    id: UUID
    revision: int
    saved_at: datetime
    part: ShelfPart
    spread_from: Provenance


class Parts:
    """Reads and writes the shelf. Every method is one transaction."""

    def __init__(self, pool: Pool) -> None:
        self._pool = pool

    def all(self) -> list[KeptPart]:
        """Every part that is not deleted, by kind and name."""
        query = """
            SELECT id, revision, saved_at, document FROM part WHERE deleted_at IS NULL
            ORDER BY document ->> 'kind', document ->> 'name', id
        """
        with self._pool.connection() as connection:
            return [_kept(row) for row in connection.execute(query)]

    def add(self, parts: Sequence[AnyPart]) -> list[KeptPart]:
        """Keep new parts, all or none.

        Raises
        ------
        OutOfRange : the shelf would hold too many.
        """
        with self._pool.connection() as connection:
            _check_room(connection, len(parts))
            made = []
            for part in parts:
                row = connection.execute(
                    "INSERT INTO part (document) VALUES (%s)"
                    " RETURNING id, revision, saved_at, document",
                    (_json(part),),
                ).fetchone()
                if row is not None:
                    made.append(_kept(row))
            return made

    def start(self, parts: dict[UUID, AnyPart]) -> None:
        """Keep the starting shelf: parts that were never there; edits and deletions stay."""
        with self._pool.connection() as connection:
            _keep_new(connection, parts)

    def take_in(self, parts: dict[UUID, AnyPart]) -> int:
        """Keep parts that were never there, all or none; gives how many are new.

        Raises
        ------
        OutOfRange : the shelf would hold too many.
        """
        with self._pool.connection() as connection:
            new = _keep_new(connection, parts)
            _check_room(connection, 0)
            return new

    def save(self, part_id: UUID, base: int, part: AnyPart) -> KeptPart:
        """Change a part; the same again changes nothing.

        Raises
        ------
        PartNotFound : there is none.
        StalePart : `base` is not its newest revision.
        """
        with self._pool.connection() as connection:
            current = _one(connection, part_id)
            if current.part == part:
                return current
            if current.revision != base:
                raise StalePart(current.part.name)
            connection.execute(
                "UPDATE part SET document = %s, revision = revision + 1, saved_at = now()"
                " WHERE id = %s",
                (_json(part), part_id),
            )
            return _one(connection, part_id)

    def delete(self, part_id: UUID) -> None:
        """Take a part off the shelf; `restore` puts it back.

        Raises
        ------
        PartNotFound : there is none.
        """
        with self._pool.connection() as connection:
            done = connection.execute(
                "UPDATE part SET deleted_at = now() WHERE id = %s AND deleted_at IS NULL",
                (part_id,),
            )
            if not done.rowcount:
                raise PartNotFound

    def restore(self, part_id: UUID) -> KeptPart:
        """Put a part back on the shelf.

        Raises
        ------
        PartNotFound : there never was one.
        """
        with self._pool.connection() as connection:
            connection.execute("UPDATE part SET deleted_at = NULL WHERE id = %s", (part_id,))
            return _one(connection, part_id)


def _check_room(connection: Connection[DictRow], more: int) -> None:
    held = connection.execute(
        "SELECT count(*) AS held FROM part WHERE deleted_at IS NULL"
    ).fetchone()
    if held is not None and held["held"] + more > MAX_PARTS:
        raise OutOfRange(f"The shelf may hold at most {MAX_PARTS} parts.")


def _keep_new(connection: Connection[DictRow], parts: dict[UUID, AnyPart]) -> int:
    with connection.cursor() as cursor:
        cursor.executemany(
            "INSERT INTO part (id, document) VALUES (%s, %s) ON CONFLICT DO NOTHING",
            [(key, _json(part)) for key, part in parts.items()],
        )
        return max(cursor.rowcount, 0)


def _json(part: AnyPart) -> Jsonb:
    return Jsonb(part.model_dump(mode="json"))


def _one(connection: Connection[DictRow], part_id: UUID) -> KeptPart:
    row = connection.execute(
        "SELECT id, revision, saved_at, document FROM part"
        " WHERE id = %s AND deleted_at IS NULL FOR UPDATE",
        (part_id,),
    ).fetchone()
    if row is None:
        raise PartNotFound
    return _kept(row)


def _kept(row: DictRow) -> KeptPart:
    part = _PART.validate_python(row["document"])
    return KeptPart(row["id"], row["revision"], row["saved_at"], part, spread_from(part))
