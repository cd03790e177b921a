"""Backups: all comes back, what is there stays, and a broken file changes nothing."""

import gzip
import json
import re
from collections.abc import Callable, Iterator
from importlib.resources import as_file, files
from pathlib import Path
from typing import Any
from uuid import UUID

import psycopg
import pytest
from fastapi.testclient import TestClient
from pydantic import TypeAdapter
from yoyo import get_backend, read_migrations

from graveljar.api.app import create_app
from graveljar.core.model import Design
from graveljar.core.readings import Reading
from graveljar.formats.parts_csv import starting_id, starting_shelf
from graveljar.serve import keep_backup
from graveljar.store.backup import (
    TABLES,
    BackupBroken,
    Backups,
    Restored,
    restore,
    write_backup,
)
from graveljar.store.database import Pool, migrate, open_pool
from graveljar.store.designs import Designs
from graveljar.store.logs import Logs
from graveljar.store.parts import Parts
from graveljar.store.readings import Readings
from tests.building import bank, design, load

LogRow = tuple[float, float | None, float | None, float | None, float | None, float | None]
LAMP = design(load(20.0, "lamp"), stores=bank())
RESTED: Any = TypeAdapter(Reading).validate_python(
    {"kind": "rested", "subject": "bank", "volts": 13.1, "rested_h": 6.0}
)
OLD = {"format": "gravel-jar/design", "version": 1, "name": "Van", "loads": []}


def renamed(name: str) -> Design:
    """The lamp under another name."""
    return LAMP.model_copy(update={"name": name})


def fill(pool: Pool) -> UUID:
    """One design of three revisions with all that there is beside it; gives its id."""
    designs, readings, logs = Designs(pool), Readings(pool), Logs(pool)
    kept = designs.create(renamed("Van"))
    designs.save(kept.id, 1, renamed("Van in May"))
    designs.save(kept.id, 2, renamed("Van in June"))
    designs.name_revision(kept.id, 2, "before the tour")
    gone = designs.create(renamed("Gone"))
    designs.delete(gone.id)
    one = readings.add(kept.id, RESTED)
    readings.keep_picture(kept.id, one.id, "image/png", bytes(range(256)))
    rows: list[LogRow] = [(float(n), 13.0, 5.0, None, None, 20.0) for n in range(500)]
    for _ in logs.add(kept.id, "night", "bank", [rows]):
        pass
    Parts(pool).start({starting_id(x): x for x in list(starting_shelf())[:5]})
    return kept.id


def everything(url: str) -> dict[str, list[Any]]:
    """Each row of each table, as text."""
    with psycopg.connect(url) as link:
        return {
            table: [row for (row,) in link.execute(
                f"SELECT row_to_json(t)::text FROM {table} t ORDER BY {order}"  # noqa: S608
            ).fetchall()]
            for table, order in TABLES.items()
        }  # fmt: skip


@pytest.fixture
def other(server_url: str, request: pytest.FixtureRequest) -> Iterator[Callable[[], str]]:
    """Makes empty databases of the test's own."""
    made: list[str] = []

    def make() -> str:
        name = f"o{abs(hash(request.node.nodeid)):x}{len(made)}"
        with psycopg.connect(server_url, autocommit=True) as link:
            link.execute(f'CREATE DATABASE "{name}"')
        made.append(name)
        return server_url.rsplit("/", 1)[0] + f"/{name}"

    yield make
    with psycopg.connect(server_url, autocommit=True) as link:
        for name in made:
            link.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


def test_all_comes_back_into_an_empty_program(
    database: str, pool: Pool, other: Callable[[], str], tmp_path: Path
) -> None:
    fill(pool)
    file, empty = tmp_path / "all.gz", other()
    with TestClient(create_app(backups=Backups(pool)), base_url="http://127.0.0.1:8734") as web:
        answer = web.get("/api/backup")
    assert re.search(
        r'filename="gravel-jar-\d{4}-\d\d-\d\d.gz"', answer.headers["content-disposition"]
    )
    file.write_bytes(answer.content)
    migrate(empty)
    found = restore(empty, file)
    assert everything(empty) == everything(database)
    assert found == Restored(designs=2, revisions=4, parts=5, readings=1, logs=1)
    # Once more: it is all there.
    assert restore(empty, file).there == 2 + 5 + 1 + 1 + 1
    assert everything(empty) == everything(database)


def test_what_went_on_since_stays_and_what_differs_comes_beside_it(
    database: str, pool: Pool, tmp_path: Path
) -> None:
    designs = Designs(pool)
    van = fill(pool)
    booth = designs.create(renamed("Booth")).id
    file = tmp_path / "june.gz"
    write_backup(database, file)
    # The van went on; of the booth another history is there than in the backup.
    designs.save(van, 3, renamed("Van in July"))
    before = everything(database)
    assert restore(database, file).revisions == 0
    assert everything(database) == before
    lines = gzip.decompress(file.read_bytes()).decode().splitlines()
    changed = tmp_path / "changed.gz"
    text = "\n".join(x.replace('"name": "Booth"', '"name": "Booth at sea"') for x in lines)
    changed.write_bytes(gzip.compress(f"{text}\n".encode()))
    assert restore(database, changed).copies == 1
    names = {x.name for x in designs.all()}
    assert names == {"Van in July", "Booth", "Booth at sea (backup)"}
    assert designs.get(booth).document.name == "Booth"
    # A second time no second copy is made.
    assert restore(database, changed).copies == 0
    # An older state that is behind the backup gets what it lacks.
    with psycopg.connect(database) as link:
        link.execute("ALTER TABLE revision DISABLE TRIGGER ALL")
        link.execute("DELETE FROM revision_name")
        link.execute("DELETE FROM revision WHERE design_id = %s AND number > 1", (van,))
        link.execute("UPDATE design SET head = 1 WHERE id = %s", (van,))
        link.execute("ALTER TABLE revision ENABLE TRIGGER ALL")
    assert restore(database, file).revisions == 2
    assert designs.get(van).document.name == "Van in June"


def _lines(raw: bytes) -> list[str]:
    return gzip.decompress(raw).decode().splitlines()


def _joined(lines: list[str]) -> bytes:
    return gzip.compress("".join(f"{line}\n" for line in lines).encode())


@pytest.mark.parametrize(
    ("spoil", "why"),
    [
        (lambda raw: b"no gzip at all", "is no backup"),
        (lambda raw: raw[: len(raw) // 2], "is cut short"),
        (lambda raw: _joined(_lines(raw)[:-1]), "its end is missing"),
        (lambda raw: _joined(_lines(raw)[:-2] + _lines(raw)[-1:]), "its end is missing"),
        (lambda raw: _joined(["{}", *_lines(raw)[1:]]), "is no backup of this program"),
        (lambda raw: _joined([_lines(raw)[0].replace('"version": 1', '"version": 2'),
                              *_lines(raw)[1:]]), "a version that is not known"),
        (lambda raw: _joined([re.sub(r'"schema": \[', '"schema": ["9999.moon", ', _lines(raw)[0]),
                              *_lines(raw)[1:]]), "newer version of this program (9999.moon)"),
        (lambda raw: _joined([x.replace('"watts": 20.0', '"watts": -3') for x in _lines(raw)]),
         "(revision)"),
        (lambda raw: _joined([x.replace('"table": "part"', '"table": "pg_user"')
                              for x in _lines(raw)]), "no row of a table known here"),
    ],
)  # fmt: skip
def test_a_broken_backup_changes_nothing(
    database: str, pool: Pool, tmp_path: Path, spoil: Callable[[bytes], bytes], why: str
) -> None:
    fill(pool)
    file = tmp_path / "good.gz"
    write_backup(database, file)
    assert not list(tmp_path.glob("*.draft"))
    bad = tmp_path / "bad.gz"
    bad.write_bytes(spoil(file.read_bytes()))
    before = everything(database)
    with pytest.raises(BackupBroken, match=re.escape(why)):
        restore(database, bad)
    assert everything(database) == before


def migrations_to(url: str, count: int) -> None:
    """A database as it was with the first so many migrations."""
    backend = get_backend(url.replace("postgresql://", "postgresql+psycopg://"))
    with as_file(files("graveljar.store") / "migrations") as folder:
        backend.apply_migrations(read_migrations(str(folder))[:count])
    backend.connection.close()


@pytest.mark.parametrize("count", range(1, 11))
def test_a_backup_of_each_earlier_version_comes_back(
    other: Callable[[], str], tmp_path: Path, count: int
) -> None:
    """What a program of that time kept: a design of version 1, and from the shelf on a part."""
    old, new, file = other(), other(), tmp_path / "old.gz"
    migrations_to(old, count)
    part = {"kind": "battery", "name": "Pack", "figures": {"volts": 12.8, "ah": 50.0}}
    with psycopg.connect(old) as link:
        link.execute(
            "INSERT INTO design (id, head) VALUES ('00000000-0000-4000-8000-000000000001', 1)"
        )
        link.execute(
            "INSERT INTO revision (design_id, number, document) SELECT id, 1, %s FROM design",
            (json.dumps(OLD),),
        )
        if count > 1:
            link.execute("INSERT INTO part (document) VALUES (%s)", (json.dumps(part),))
    write_backup(old, file)
    migrate(new)
    found = restore(new, file)
    assert (found.designs, found.parts) == (1, int(count > 1))
    with open_pool(new) as pool:
        (kept,) = Designs(pool).all()
        assert Designs(pool).get(kept.id).document.name == "Van"
        assert [x.part.name for x in Parts(pool).all()] == ["Pack"] * (count > 1)
    if count == 9:
        # The same tables brought up to date where they are: a backup is kept before.
        migrate(old, lambda name: keep_backup(old, tmp_path / "kept", name))
        (before,) = (tmp_path / "kept").iterdir()
        assert before.name.startswith("before-0010_pictures-")
        assert restore(old, before).there == 2
        migrate(old, lambda name: pytest.fail(f"{name} is there already"))
