"""Readings of designs, each as it was taken."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from psycopg.rows import DictRow
from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from graveljar.core.errors import OutOfRange
from graveljar.core.readings import AnyReading, Reading
from graveljar.store.database import Pool
from graveljar.store.errors import DesignNotFound, ReadingNotFound

_READING: TypeAdapter[AnyReading] = TypeAdapter(Reading)
MAX_READINGS = 2_000


@dataclass(frozen=True)
class KeptReading:
    """A reading as kept, when it was taken, and whether a picture is beside it."""

    id: UUID
    taken_at: datetime
    reading: Reading
    picture: bool = False


class Readings:
    """Reads and writes readings. Every method is one transaction."""

    def __init__(self, pool: Pool) -> None:
        self._pool = pool

    def all(self, design_id: UUID) -> list[KeptReading]:
        """Readings of a design that are not deleted, the last taken first."""
        query = """
            SELECT id, taken_at, document, reading_id IS NOT NULL AS picture
            FROM reading LEFT JOIN reading_picture ON reading_id = id
            WHERE design_id = %s AND deleted_at IS NULL ORDER BY taken_at DESC, id
        """
        with self._pool.connection() as connection:
            return [_kept(row) for row in connection.execute(query, (design_id,))]

    def never(self, design_id: UUID) -> bool:
        """Whether a design never had a reading, not even one that was removed."""
        query = "SELECT 1 FROM reading WHERE design_id = %s LIMIT 1"
        with self._pool.connection() as connection:
            return connection.execute(query, (design_id,)).fetchone() is None

    def add(self, design_id: UUID, reading: AnyReading) -> KeptReading:
        """Keep a reading.

        Raises
        ------
        DesignNotFound : there is no such design.
        OutOfRange : the design would have too many.
        """
        with self._pool.connection() as connection:
            known = connection.execute(
                "SELECT 1 FROM design WHERE id = %s AND deleted_at IS NULL FOR UPDATE",
                (design_id,),
            ).fetchone()
            if known is None:
                raise DesignNotFound("The design does not exist, or was deleted.")
            held = connection.execute(
                "SELECT count(*) AS held FROM reading WHERE design_id = %s AND deleted_at IS NULL",
                (design_id,),
            ).fetchone()
            if held is not None and held["held"] >= MAX_READINGS:
                raise OutOfRange(f"A design may have at most {MAX_READINGS} readings.")
            row = connection.execute(
                "INSERT INTO reading (design_id, document) VALUES (%s, %s)"
                " RETURNING id, taken_at, document",
                (design_id, Jsonb(reading.model_dump(mode="json"))),
            ).fetchone()
            if row is None:
                raise ReadingNotFound
            return _kept(row)

    def add_all(self, design_id: UUID, dated: Sequence[tuple[datetime, AnyReading]]) -> int:
        """Keep readings with the times they were taken at, all or none; those that are there stay.

        Returns
        -------
        How many were new.

        Raises
        ------
        DesignNotFound : there is no such design.
        OutOfRange : the design would have too many.
        """
        there = {(x.taken_at, x.reading.model_dump_json()) for x in self.all(design_id)}
        new = [x for x in dated if (x[0], x[1].model_dump_json()) not in there]
        if len(there) + len(new) > MAX_READINGS:
            raise OutOfRange(f"A design may have at most {MAX_READINGS} readings.")
        with self._pool.connection() as connection:
            known = connection.execute(
                "SELECT 1 FROM design WHERE id = %s AND deleted_at IS NULL FOR UPDATE",
                (design_id,),
            ).fetchone()
            if known is None:
                raise DesignNotFound("The design does not exist, or was deleted.")
            with connection.cursor() as cursor:
                cursor.executemany(
                    "INSERT INTO reading (design_id, document, taken_at) VALUES (%s, %s, %s)",
                    [(design_id, Jsonb(x.model_dump(mode="json")), at) for at, x in new],
                )
        return len(new)

    def change(self, design_id: UUID, reading_id: UUID, reading: AnyReading) -> KeptReading:
        """Put other figures into a reading; when it was taken stays.

        Raises
        ------
        ReadingNotFound : there is none.
        """
        with self._pool.connection() as connection:
            row = connection.execute(
                """
                UPDATE reading SET document = %s
                WHERE id = %s AND design_id = %s AND deleted_at IS NULL
                RETURNING id, taken_at, document
                """,
                (Jsonb(reading.model_dump(mode="json")), reading_id, design_id),
            ).fetchone()
        if row is None:
            raise ReadingNotFound
        return _kept(row)

    def picture(self, design_id: UUID, reading_id: UUID) -> tuple[str, bytes]:
        """The picture beside a reading: its media type and its bytes.

        Raises
        ------
        ReadingNotFound : there is none.
        """
        query = """
            SELECT media, data FROM reading_picture JOIN reading ON reading_id = id
            WHERE reading_id = %s AND design_id = %s AND deleted_at IS NULL
        """
        with self._pool.connection() as connection:
            row = connection.execute(query, (reading_id, design_id)).fetchone()
        if row is None:
            raise ReadingNotFound
        return row["media"], bytes(row["data"])

    def keep_picture(self, design_id: UUID, reading_id: UUID, media: str, data: bytes) -> None:
        """Put a picture beside a reading, in place of one that is there.

        Raises
        ------
        ReadingNotFound : there is no such reading.
        """
        query = """
            INSERT INTO reading_picture (reading_id, media, data)
            SELECT id, %s, %s FROM reading
            WHERE id = %s AND design_id = %s AND deleted_at IS NULL
            ON CONFLICT (reading_id) DO UPDATE SET media = excluded.media, data = excluded.data
        """
        with self._pool.connection() as connection:
            done = connection.execute(query, (media, data, reading_id, design_id))
        if not done.rowcount:
            raise ReadingNotFound

    def remove_picture(self, design_id: UUID, reading_id: UUID) -> None:
        """Take the picture beside a reading away.

        Raises
        ------
        ReadingNotFound : there is none.
        """
        query = """
            DELETE FROM reading_picture USING reading
            WHERE reading_id = %s AND id = reading_id AND design_id = %s
        """
        with self._pool.connection() as connection:
            done = connection.execute(query, (reading_id, design_id))
        if not done.rowcount:
            raise ReadingNotFound

    def delete(self, design_id: UUID, reading_id: UUID) -> None:
        """Take a reading away; `restore` brings it back.

        Raises
        ------
        ReadingNotFound : there is none.
        """
        self._set(design_id, reading_id, gone=True)

    def restore(self, design_id: UUID, reading_id: UUID) -> None:
        """Bring a reading back.

        Raises
        ------
        ReadingNotFound : there never was one.
        """
        self._set(design_id, reading_id, gone=False)

    def _set(self, design_id: UUID, reading_id: UUID, *, gone: bool) -> None:
        with self._pool.connection() as connection:
            done = connection.execute(
                """
                UPDATE reading SET deleted_at = CASE WHEN %s THEN now() END
                WHERE id = %s AND design_id = %s AND (deleted_at IS NULL) = %s
                """,
                (gone, reading_id, design_id, gone),
            )
            if not done.rowcount:
                raise ReadingNotFound


def _kept(row: DictRow) -> KeptReading:
    reading = _READING.validate_python(row["document"])
    return KeptReading(row["id"], row["taken_at"], reading, row.get("picture", False))
