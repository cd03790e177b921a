"""Designs by id, each with its revisions."""

from collections.abc import Sequence
from uuid import UUID

from psycopg import Connection, OperationalError
from psycopg.rows import DictRow
from psycopg.types.json import Jsonb
from psycopg_pool import PoolTimeout

from graveljar.core.model import Design
from graveljar.store.database import Pool
from graveljar.store.errors import DesignNotFound, StaleRevision
from graveljar.store.records import CopyOfPart, Place, Revision, Stored, Summary

# Designs of a list that are given at a time.
MAX_LISTED = 1_000

_HEAD = """
    SELECT design.id, revision.number AS revision, revision.saved_at, revision.document
    FROM design JOIN revision ON revision.design_id = design.id AND revision.number = design.head
    WHERE design.id = %s AND design.deleted_at IS NULL
"""


class Designs:
    """Reads and writes designs. Every method is one transaction."""

    def __init__(self, pool: Pool) -> None:
        self._pool = pool

    def all(self, place: Place = "current", skip: int = 0) -> list[Summary]:
        """Designs of a place, the last saved first: at most `MAX_LISTED`, after those skipped."""
        query = """
            SELECT design.id, revision.document ->> 'name' AS name, design.head AS revision,
                   jsonb_array_length(revision.document -> 'loads') AS loads, revision.saved_at,
                   design.tags
            FROM design
            JOIN revision ON revision.design_id = design.id AND revision.number = design.head
            WHERE CASE WHEN design.deleted_at IS NOT NULL THEN 'deleted'
                       WHEN design.archived_at IS NOT NULL THEN 'archived'
                       ELSE 'current' END = %s
            ORDER BY revision.saved_at DESC, design.id
            LIMIT %s OFFSET %s
        """
        with self._pool.connection() as connection:
            rows = connection.execute(query, (place, MAX_LISTED, skip))
            return [Summary(**row | {"tags": tuple(row["tags"])}) for row in rows]

    def copies_of(self, part_id: UUID) -> list[CopyOfPart]:
        """Designs that hold a copy of a part of the shelf, by name; deleted ones left out."""
        query = """
            SELECT design.id, revision.document ->> 'name' AS name,
                   jsonb_path_query_array(
                       revision.document, '$.**.shelf ? (@.part == $part).revision',
                       jsonb_build_object('part', %(part)s::text)
                   ) AS revisions
            FROM design
            JOIN revision ON revision.design_id = design.id AND revision.number = design.head
            WHERE design.deleted_at IS NULL
              AND jsonb_path_exists(
                      revision.document, '$.**.shelf ? (@.part == $part)',
                      jsonb_build_object('part', %(part)s::text))
            ORDER BY name, design.id
            LIMIT %(most)s
        """
        with self._pool.connection() as connection:
            rows = connection.execute(query, {"part": str(part_id), "most": MAX_LISTED})
            # The path goes through lists twice: each revision is named once.
            return [
                CopyOfPart(row["id"], row["name"], tuple(sorted(set(row["revisions"]))))
                for row in rows
            ]

    def reachable(self) -> bool:
        """Whether the database answers."""
        try:
            with self._pool.connection() as connection:
                connection.execute("SELECT 1")
        except (OperationalError, PoolTimeout):
            return False
        return True

    def get(self, design_id: UUID) -> Stored:
        """The newest revision of a design.

        Raises
        ------
        DesignNotFound : there is none.
        """
        with self._pool.connection() as connection:
            return _head(connection, design_id)

    def create(self, document: Design, design_id: UUID | None = None) -> Stored:
        """Keep a new design as its first revision.

        With an id that is taken its revisions stay; if it was deleted it is restored.
        """
        with self._pool.connection() as connection:
            made = connection.execute(
                """
                INSERT INTO design (id, head) VALUES (coalesce(%s, gen_random_uuid()), 1)
                ON CONFLICT (id) DO UPDATE SET deleted_at = NULL
                RETURNING id, head
                """,
                (design_id,),
            ).fetchone()
            if made is None:
                raise DesignNotFound("The design could not be made.")
            connection.execute(
                """
                INSERT INTO revision (design_id, number, document) VALUES (%s, 1, %s)
                ON CONFLICT DO NOTHING
                """,
                (made["id"], Jsonb(document.model_dump(mode="json"))),
            )
            return _head(connection, made["id"])

    def save(self, design_id: UUID, base: int, document: Design) -> Stored:
        """Append a revision on top of `base`; the same document again appends nothing.

        Raises
        ------
        DesignNotFound : there is none.
        StaleRevision : `base` is not the newest.
        """
        with self._pool.connection() as connection:
            # Lock the design first: of two tabs saving at once, the second sees the first.
            connection.execute("SELECT 1 FROM design WHERE id = %s FOR UPDATE", (design_id,))
            current = _head(connection, design_id)
            if current.document == document:
                return current
            if current.revision != base:
                raise StaleRevision(current)
            connection.execute(
                "INSERT INTO revision (design_id, number, document) VALUES (%s, %s, %s)",
                (design_id, base + 1, Jsonb(document.model_dump(mode="json"))),
            )
            connection.execute("UPDATE design SET head = %s WHERE id = %s", (base + 1, design_id))
            return _head(connection, design_id)

    def revisions(self, design_id: UUID, before: int | None, count: int) -> list[Revision]:
        """So many revisions of a design, the newest first; `before` gives those before a number.

        Raises
        ------
        DesignNotFound : there is none.
        """
        query = """
            SELECT revision.number, revision.saved_at, revision_name.name, revision.document
            FROM revision LEFT JOIN revision_name USING (design_id, number)
            WHERE design_id = %s AND number < coalesce(%s, 2147483647)
            ORDER BY number DESC LIMIT %s
        """
        with self._pool.connection() as connection:
            _head(connection, design_id)
            rows = connection.execute(query, (design_id, before, count)).fetchall()
        return [
            Revision(**row | {"document": Design.model_validate(row["document"])}) for row in rows
        ]

    def revision(self, design_id: UUID, number: int) -> Revision:
        """One revision of a design.

        Raises
        ------
        DesignNotFound : there is none.
        """
        found = self.revisions(design_id, number + 1, 1)
        if not found or found[0].number != number:
            raise DesignNotFound("The design has no such version.")
        return found[0]

    def name_revision(self, design_id: UUID, number: int, name: str) -> None:
        """Give a revision a name, or take it away with an empty one.

        Raises
        ------
        DesignNotFound : there is no such revision.
        """
        with self._pool.connection() as connection:
            _head(connection, design_id)
            known = connection.execute(
                "SELECT 1 FROM revision WHERE design_id = %s AND number = %s", (design_id, number)
            ).fetchone()
            if known is None:
                raise DesignNotFound("The design has no such version.")
            if not name:
                connection.execute(
                    "DELETE FROM revision_name WHERE design_id = %s AND number = %s",
                    (design_id, number),
                )
                return
            connection.execute(
                """
                INSERT INTO revision_name (design_id, number, name) VALUES (%s, %s, %s)
                ON CONFLICT (design_id, number) DO UPDATE SET name = excluded.name
                """,
                (design_id, number, name),
            )

    def delete(self, design_id: UUID) -> None:
        """Hide a design; `restore` brings it back.

        Raises
        ------
        DesignNotFound : there is none.
        """
        self._change(design_id, "deleted_at = now()", "deleted_at IS NULL")

    def restore(self, design_id: UUID) -> Stored:
        """Bring a deleted design back.

        Raises
        ------
        DesignNotFound : there never was one.
        """
        self._change(design_id, "deleted_at = NULL", "TRUE")
        return self.get(design_id)

    def archive(self, design_id: UUID, *, away: bool) -> None:
        """Put a design away, or back to those at hand.

        Raises
        ------
        DesignNotFound : there is none.
        """
        change = "archived_at = now()" if away else "archived_at = NULL"
        self._change(design_id, change, "deleted_at IS NULL")

    def tag(self, design_id: UUID, tags: Sequence[str]) -> None:
        """Give a design words to find it by, in place of those it had.

        Raises
        ------
        DesignNotFound : there is none.
        """
        with self._pool.connection() as connection:
            done = connection.execute(
                "UPDATE design SET tags = %s WHERE id = %s AND deleted_at IS NULL",
                (list(tags), design_id),
            )
            if not done.rowcount:
                raise DesignNotFound("The design does not exist, or was deleted.")

    def _change(self, design_id: UUID, change: str, condition: str) -> None:
        # Both pieces of SQL are constants of this class; only the id comes from outside.
        with self._pool.connection() as connection:
            done = connection.execute(
                f"UPDATE design SET {change} WHERE id = %s AND {condition}",  # noqa: S608
                (design_id,),
            )
            if not done.rowcount:
                raise DesignNotFound("The design does not exist, or was deleted.")


def _head(connection: Connection[DictRow], design_id: UUID) -> Stored:
    row = connection.execute(_HEAD, (design_id,)).fetchone()
    if row is None:
        raise DesignNotFound("The design does not exist, or was deleted.")
    return Stored(**row | {"document": Design.model_validate(row["document"])})
