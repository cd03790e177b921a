"""A backup: everything that is kept, in one compressed file of lines; and back without a loss.

A line of JSON each: the head, then every row of every table, then the end with the count of rows.
The rows are those of the database, so that a backup of an earlier version comes back through the
columns it has.
"""

import gzip
import json
import os
import zlib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from datetime import UTC, datetime
from itertools import groupby
from pathlib import Path
from typing import Any, Final
from uuid import uuid4

from psycopg import Connection, sql
from psycopg.rows import tuple_row
from psycopg.types.json import Jsonb
from pydantic import TypeAdapter, ValidationError

from graveljar.core.errors import GravelJarError
from graveljar.core.model.parse import read_design
from graveljar.core.planning.shelf import AnyPart, ShelfPart
from graveljar.core.readings import AnyReading, Reading
from graveljar.store.database import Pool

FORMAT: Final = "gravel-jar/backup"
VERSION: Final = 1
# In an order in which each finds what it refers to, and their rows in an order to come back in.
TABLES: Final = {
    "design": "id", "revision": "design_id, number", "revision_name": "design_id, number",
    "part": "id", "reading": "id", "reading_picture": "reading_id", "log": "id",
    "log_row": "log_id, at_s",
}  # fmt: skip
# A picture of 8 MB is the longest: two digits a byte. [bytes]
MAX_LINE_BYTES: Final = 20_000_000
# Rows fetched at a time.
FETCHED: Final = 2_000
LOG_ROW: Final = ("log_id", "at_s", "volts", "amps", "watts", "charge", "air_c")

_PART: TypeAdapter[AnyPart] = TypeAdapter(ShelfPart)
_READING: TypeAdapter[AnyReading] = TypeAdapter(Reading)
Row = dict[str, Any]


class BackupBroken(GravelJarError):
    """A file is no backup, is cut short, or holds what cannot be read; says where."""

    code = "backup_broken"
    title = "The backup cannot be read"


@dataclass
class Restored:
    """What came back: new things, what was there already, and copies of what had changed since."""

    designs: int = 0
    revisions: int = 0
    copies: int = 0
    parts: int = 0
    readings: int = 0
    logs: int = 0
    there: int = 0


def backup_lines(connection: Connection[Any]) -> Iterator[bytes]:
    """Everything in a database as it is at one moment, line by line."""
    with connection.transaction():
        connection.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        applied = _applied(connection)
        made_at = datetime.now(UTC).isoformat(timespec="seconds")
        yield _line({"format": FORMAT, "version": VERSION, "made_at": made_at, "schema": applied})
        count = 0
        for table in _tables(connection):
            query = sql.SQL("SELECT row_to_json(t)::text FROM {} t ORDER BY {}").format(
                sql.Identifier(table), sql.SQL(TABLES[table])
            )
            with connection.cursor(f"backup_{table}", row_factory=tuple_row) as cursor:
                cursor.itersize = FETCHED
                cursor.execute(query)
                for (row,) in cursor:
                    count += 1
                    yield f'{{"table": "{table}", "row": {row}}}\n'.encode()
        yield _line({"end": count})


def compressed(lines: Iterable[bytes]) -> Iterator[bytes]:
    """Lines as the bytes of a gzip file."""
    press = zlib.compressobj(6, zlib.DEFLATED, 16 + zlib.MAX_WBITS)
    for line in lines:
        if out := press.compress(line):
            yield out
    yield press.flush()


class Backups:
    """Makes backups of what a pool of connections reaches."""

    def __init__(self, pool: Pool) -> None:
        self._pool = pool

    def parts(self) -> Iterator[bytes]:
        """The bytes of a backup as it is now."""
        with self._pool.connection() as connection:
            yield from compressed(backup_lines(connection))


def write_backup(url: str, file: Path) -> None:
    """Write a backup of a database to a file: whole, or not at all."""
    draft = file.with_name(f"{file.name}.draft")
    with Connection.connect(url) as connection, draft.open("wb") as out:
        for part in compressed(backup_lines(connection)):
            out.write(part)
        out.flush()
        os.fsync(out.fileno())
    draft.replace(file)


def restore(url: str, file: Path) -> Restored:
    """Bring a backup back into a database; what is there stays.

    A design that went on since gets what is missing; one that was changed differently comes back
    as a copy. All of it, or nothing.

    Raises
    ------
    BackupBroken : the file is no backup, is cut short, of a newer version, or holds what cannot
        be read.
    """
    for _ in _checked(file):
        # Read to its end before anything is changed.
        pass
    with Connection.connect(url) as connection:
        missing = sorted(set(_head(file)["schema"]) - set(_applied(connection)))
        if missing:
            raise BackupBroken(
                f"It was made by a newer version of this program ({missing[-1]}): update first."
            )
        return _Restore(connection).of(_checked(file))


def _line(value: Row) -> bytes:
    return json.dumps(value, ensure_ascii=False).encode() + b"\n"


def _applied(connection: Connection[Any]) -> list[str]:
    """The migrations that a database has, by name."""
    query = "SELECT migration_id FROM _yoyo_migration ORDER BY migration_id"
    with connection.cursor(row_factory=tuple_row) as cursor:
        return [name for (name,) in cursor.execute(query)]


def _tables(connection: Connection[Any]) -> list[str]:
    query = "SELECT tablename FROM pg_tables WHERE schemaname = current_schema()"
    with connection.cursor(row_factory=tuple_row) as cursor:
        there = {name for (name,) in cursor.execute(query)}
    return [name for name in TABLES if name in there]


def _head(file: Path) -> Row:
    return next(_values(file))[1]


def _values(file: Path) -> Iterator[tuple[int, Row]]:
    """Each line of a backup, with its number."""
    try:
        with gzip.open(file, "rb") as lines:
            for n, line in enumerate(iter(lambda: lines.readline(MAX_LINE_BYTES), b""), 1):
                try:
                    value = json.loads(line)
                except ValueError:
                    raise BackupBroken(f"Line {n} of {file.name} is no JSON.") from None
                if not isinstance(value, dict):
                    raise BackupBroken(f"Line {n} of {file.name} is no object.")
                yield n, value
    except (EOFError, zlib.error, gzip.BadGzipFile) as error:
        raise BackupBroken(f"{file.name} is no backup, or is cut short: {error}.") from None


def _checked(file: Path) -> Iterator[tuple[str, Row]]:
    """Table and row of each line, checked; the whole file is there."""
    count, ended = 0, False
    for n, value in _values(file):
        if n == 1:
            if value.get("format") != FORMAT:
                raise BackupBroken(f"{file.name} is no backup of this program.")
            if value.get("version") != VERSION or not isinstance(value.get("schema"), list):
                raise BackupBroken(f"{file.name} is of a version that is not known here.")
            continue
        if "end" in value:
            ended = value["end"] == count
            continue
        table, row = value.get("table"), value.get("row")
        if table not in TABLES or not isinstance(row, dict) or ended:
            raise BackupBroken(f"Line {n} of {file.name} is no row of a table known here.")
        try:
            _check(table, row)
        except (GravelJarError, ValidationError, KeyError, TypeError) as error:
            why = getattr(error, "message", str(error)).splitlines()[0]
            raise BackupBroken(f"Line {n} of {file.name} ({table}): {why}") from None
        count += 1
        yield table, row
    if not ended:
        raise BackupBroken(f"{file.name} is cut short: its end is missing.")


def _check(table: str, row: Row) -> None:
    if table == "revision":
        read_design(json.dumps(row["document"]).encode())
    elif table == "part":
        _PART.validate_python(row["document"])
    elif table == "reading":
        _READING.validate_python(row["document"])


@dataclass
class _Restore:
    """Brings rows back over one connection, table after table."""

    connection: Connection[Any]
    made: Restored = field(default_factory=Restored)
    designs: dict[str, Row] = field(default_factory=dict)
    # Where a design came back as a copy: the id of that.
    copies: dict[str, str] = field(default_factory=dict)
    new_logs: set[str] = field(default_factory=set)

    def of(self, rows: Iterable[tuple[str, Row]]) -> Restored:
        """Bring all rows back in one transaction."""
        with self.connection.transaction():
            for table, group in groupby(rows, key=lambda pair: pair[0]):
                self._table(table, (row for _, row in group))
        return self.made

    def _table(self, table: str, rows: Iterator[Row]) -> None:
        if table == "design":
            self.designs = {row["id"]: row for row in rows}
        elif table == "revision":
            for design_id, revisions in groupby(rows, key=lambda row: row["design_id"]):
                self._design(self.designs[design_id], list(revisions))
        elif table == "revision_name":
            for row in rows:
                at = self.copies.get(row["design_id"], row["design_id"])
                self._insert(table, row | {"design_id": at})
        elif table == "log_row":
            self._log_rows(rows)
        else:
            for row in rows:
                self._row(table, row)

    def _row(self, table: str, row: Row) -> None:
        new = self._insert(table, row)
        if table == "log" and new:
            self.new_logs.add(row["id"])
        self.made.parts += new and table == "part"
        self.made.readings += new and table == "reading"
        self.made.logs += new and table == "log"
        self.made.there += not new

    def _design(self, design: Row, revisions: list[Row]) -> None:
        """A design with its revisions: new, gone on with, as a copy, or there already."""
        query = "SELECT number, document FROM revision WHERE design_id = %s"
        with self.connection.cursor(row_factory=tuple_row) as cursor:
            there: dict[int, Row] = dict(cursor.execute(query, (design["id"],)).fetchall())
        alike = all(there.get(x["number"], x["document"]) == x["document"] for x in revisions)
        if not alike:
            self._copy(design, revisions)
            return
        if not there:
            self._insert("design", design)
            self.made.designs += 1
        new = [x for x in revisions if x["number"] not in there]
        for row in new:
            self._insert("revision", row)
        self.made.revisions += len(new)
        self.made.there += not new
        if there and new:
            head = max(x["number"] for x in new)
            update = "UPDATE design SET head = greatest(head, %s) WHERE id = %s"
            self.connection.execute(update, (head, design["id"]))

    def _copy(self, design: Row, revisions: list[Row]) -> None:
        """A design that was changed in another way since: beside it, with its own history."""
        query = (
            "SELECT 1 FROM revision WHERE number = %s AND document = %s AND design_id <> %s LIMIT 1"
        )
        last = revisions[-1]
        named = last["document"] | {"name": f"{last['document']['name']} (backup)"[:80]}
        found = self.connection.execute(query, (last["number"], Jsonb(named), design["id"]))
        if found.fetchone() is not None:
            # Brought back before.
            self.made.there += 1
            return
        new_id = str(uuid4())
        self.copies[design["id"]] = new_id
        self._insert("design", design | {"id": new_id})
        for row in revisions:
            document = named if row is last else row["document"]
            self._insert("revision", row | {"design_id": new_id, "document": document})
        self.made.copies += 1
        self.made.revisions += len(revisions)

    def _insert(self, table: str, row: Row) -> bool:
        """Put a row in unless its key is there; whether it was new. Columns it lacks are usual."""
        columns = sql.SQL(", ").join(map(sql.Identifier, row))
        query = sql.SQL(
            "INSERT INTO {table} ({columns}) "
            "SELECT {columns} FROM jsonb_populate_record(NULL::{table}, %s) ON CONFLICT DO NOTHING"
        ).format(table=sql.Identifier(table), columns=columns)
        return self.connection.execute(query, (Jsonb(row),)).rowcount == 1

    def _log_rows(self, rows: Iterator[Row]) -> None:
        names = sql.SQL(", ").join(map(sql.Identifier, LOG_ROW))
        query = sql.SQL("COPY log_row ({}) FROM STDIN").format(names)
        with self.connection.cursor() as cursor, cursor.copy(query) as copy:
            for row in rows:
                if row["log_id"] in self.new_logs:
                    copy.write_row([row.get(name) for name in LOG_ROW])
