"""A throw-away PostgreSQL server for the whole run, and a fresh database for each test."""

import gc
import os
import shutil
import tempfile
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest
from hypothesis import settings

from graveljar.core.analysis import band
from graveljar.core.warmup import spare_the_lasting
from graveljar.store.cluster import running_cluster
from graveljar.store.database import Pool, migrate, open_pool

# The same cases each time, so that a change is judged by itself; EXPLORE=1 tries new ones.
# No deadline: how long a case takes says how busy the machine is.
settings.register_profile("same", derandomize=True, deadline=None)
settings.register_profile("new", deadline=None)
settings.load_profile("new" if os.environ.get("EXPLORE") else "same")


# While files are collected everything stays.
gc.disable()


def pytest_collection_finish() -> None:
    """Spare the garbage collector what stays: it took an eighth of the time of all tests."""
    spare_the_lasting()


@pytest.fixture(autouse=True)
def few_draws(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """Bands of few draws, half the time of an evaluation, but where they are the point."""
    if request.node.get_closest_marker("all_draws") is None:
        monkeypatch.setattr(band, "DRAWS", 32)


@pytest.fixture(scope="session")
def open_folder() -> Iterator[Path]:
    """A folder that the `postgres` user may enter too: as root, pytest's own is closed to it."""
    folder = Path(tempfile.mkdtemp(prefix="gravel-jar-test-"))
    folder.chmod(0o755)
    yield folder
    shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def server_url(open_folder: Path) -> Iterator[str]:
    """The URL of a running server's own database."""
    with running_cluster(open_folder / "shared", durable=False) as url:
        yield url


@pytest.fixture(scope="session")
def migrated(server_url: str) -> str:
    """A migrated database, to copy: to migrate each test's own takes ten times as long."""
    with psycopg.connect(server_url, autocommit=True) as link:
        link.execute("CREATE DATABASE migrated")
    migrate(server_url.rsplit("/", 1)[0] + "/migrated")
    return "migrated"


@pytest.fixture
def database(server_url: str, migrated: str, request: pytest.FixtureRequest) -> Iterator[str]:
    """A migrated database of the test's own."""
    name = f"t{abs(hash(request.node.nodeid)):x}"
    with psycopg.connect(server_url, autocommit=True) as link:
        link.execute(f'CREATE DATABASE "{name}" TEMPLATE "{migrated}"')
        yield server_url.rsplit("/", 1)[0] + f"/{name}"
        link.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


@pytest.fixture
def pool(database: str) -> Iterator[Pool]:
    """A pool over that database."""
    with open_pool(database) as opened:
        yield opened
