"""Living and dying: killed at any moment the next start works, and the database is looked after."""

import json
import os
import pwd
import re
import signal
import socket
import subprocess
import time
from contextlib import ExitStack
from pathlib import Path

import httpx2 as httpx
import psycopg
import pytest

from graveljar.cli import main
from graveljar.demo import demo_designs
from graveljar.store.cluster import ClusterFailed, running_cluster
from graveljar.store.database import migrate
from tests import web
from tests.api.test_backup import migrations_to
from tests.api.test_commands import Started, _servers_of

# Moments after the start, through set-up, migration and loading of the demo. [s]
MOMENTS_S = (0.4, 1.0, 1.7, 2.5, 3.4)


def until(said: str, holds: object, patience_s: float = 30.0) -> None:
    """Wait until something holds."""
    deadline = time.monotonic() + patience_s
    while not holds():  # type: ignore[operator]
        assert time.monotonic() < deadline, said
        time.sleep(0.05)


def test_killed_at_any_moment_of_its_starts_the_next_one_works(open_folder: Path) -> None:
    folder = open_folder / "kills"
    for moment_s in MOMENTS_S:
        with Started(folder, "--demo", wait=False) as started:
            time.sleep(moment_s)
            started.process.kill()
            started.process.wait()
    with Started(folder, "--demo") as again:
        kept = web.get(f"{again.address}api/designs").json()
        assert len(kept) == 4
        made = web.post(f"{again.address}api/designs", json={}).json()["id"]
        again.process.kill()
        again.process.wait()
    with Started(folder) as after:
        assert web.get(f"{after.address}api/designs/{made}").status_code == 200


def test_killed_between_two_migrations_it_goes_on_with_the_next(open_folder: Path) -> None:
    folder = open_folder / "between"
    with running_cluster(folder, durable=False) as url:
        migrations_to(url, 3)
    with Started(folder, "--demo") as started:
        assert len(web.get(f"{started.address}api/designs").json()) == 4


def test_a_lock_that_a_killed_migration_left_does_not_matter(database: str) -> None:
    """An earlier program locked by a row of a table: it stayed when the program was killed."""
    with psycopg.connect(database) as link:
        link.execute("INSERT INTO yoyo_lock (locked, ctime, pid) VALUES (1, now(), 4711)")
    migrate(database)


def test_the_database_is_started_again_when_it_dies(open_folder: Path) -> None:
    folder = open_folder / "dies"
    with Started(folder, "--demo") as started:
        before = _servers_of(folder)
        postmaster = int((folder / "cluster/postmaster.pid").read_text().splitlines()[0])
        assert postmaster in before
        os.kill(postmaster, signal.SIGKILL)
        health = f"{started.address}api/health"
        until("health", lambda: web.get(health).json()["database"] == "ok"
              and postmaster not in _servers_of(folder))  # fmt: skip
        assert len(web.get(f"{started.address}api/designs").json()) == 4
        assert started.stop() == 0
    assert _servers_of(folder) == []


@pytest.mark.parametrize("password", [None, "", "0123456789abcdef"])
def test_a_lost_or_wrong_password_is_set_anew(open_folder: Path, password: str | None) -> None:
    folder = open_folder / f"password-{password}"
    with running_cluster(folder, durable=False) as url, psycopg.connect(url) as link:
        link.execute("CREATE TABLE mark (n integer)")
    kept = folder / "password"
    if password is None:
        kept.unlink()
    else:
        kept.write_text(password)
    with running_cluster(folder, durable=False) as url, psycopg.connect(url) as link:
        assert link.execute("SELECT count(*) FROM mark").fetchone() == (0,)
    assert kept.read_text() not in (None, "", password)
    assert kept.stat().st_mode & 0o077 == 0


def test_what_keeps_the_database_from_starting_is_said(open_folder: Path) -> None:
    folder = open_folder / "ails"
    with running_cluster(folder, durable=False):
        pass
    version = folder / "cluster/PG_VERSION"
    was = version.read_text()
    version.write_text("7\n")
    with (
        pytest.raises(ClusterFailed, match="made by PostgreSQL 7, which is not installed"),
        running_cluster(folder),
    ):
        pass
    version.write_text(was)
    settings = folder / "cluster/postgresql.conf"
    settings.write_text(settings.read_text() + "\nshared_buffers = 'a lot'\n")
    with (
        pytest.raises(ClusterFailed, match=r"did not start: configuration file .* contains errors"),
        running_cluster(folder),
    ):
        pass


FULL = """
CREATE FUNCTION full_disk() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'could not extend file: No space left on device' USING ERRCODE = '53100';
END $$;
CREATE TRIGGER full_disk BEFORE INSERT ON revision FOR EACH ROW EXECUTE FUNCTION full_disk();
"""


def test_on_a_full_disk_nothing_is_half_saved_and_it_goes_on_when_there_is_room(
    open_folder: Path, database: str
) -> None:
    """PostgreSQL's own code for it, 53100 (its manual, appendix A)."""
    with Started(open_folder / "full", DATABASE_URL=database) as started:
        designs = f"{started.address}api/designs"
        made = web.post(designs, json={}).json()
        document = made["document"] | {"name": "later"}
        save = {"base": 1, "document": document}
        with psycopg.connect(database) as link:
            link.execute(FULL)
        for answer in (
            web.post(designs, json={}), web.put(f"{designs}/{made['id']}", json=save)
        ):  # fmt: skip
            assert (answer.status_code, answer.json()["code"]) == (507, "disk_full")
            assert "The disk is full" in answer.json()["detail"]
        assert [x["revision"] for x in web.get(designs).json()] == [1]
        assert web.get(f"{started.address}api/health").json()["database"] == "ok"
        with psycopg.connect(database) as link:
            link.execute("DROP TRIGGER full_disk ON revision")
        assert web.put(f"{designs}/{made['id']}", json=save).json()["revision"] == 2


def test_all_is_kept_in_a_file_and_brought_back_by_commands(
    open_folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    """From a program that runs, into one that does not, and into one that runs."""
    file = open_folder / "all.gz"
    monkeypatch.delenv("DATABASE_URL", raising=False)
    monkeypatch.setenv("GRAVEL_JAR_DATA", str(open_folder / "from"))
    assert main(["backup", str(file)]) == 2
    assert "Nothing is kept yet" in capsys.readouterr().err
    with Started(open_folder / "from", "--demo"):
        assert main(["backup", str(file)]) == 0
    assert json.loads(capsys.readouterr().out)["bytes"] == file.stat().st_size
    into = open_folder / "into"
    monkeypatch.setenv("GRAVEL_JAR_DATA", str(into))
    assert main(["restore", str(file)]) == 0
    assert json.loads(capsys.readouterr().out)["designs"] == 4
    with Started(into) as started:
        designs = web.get(f"{started.address}api/designs").json()
        assert len(designs) == 4
        assert main(["restore", str(file)]) == 0
        assert json.loads(capsys.readouterr().out)["designs"] == 0
    assert main(["restore", str(open_folder / "none.gz")]) == 2
    assert "No such file" in capsys.readouterr().err
    file.write_bytes(file.read_bytes()[:1000])
    assert main(["restore", str(file)]) == 2
    assert "cut short" in capsys.readouterr().err


def test_it_stops_within_five_seconds_whatever_is_half_sent_or_computing(
    open_folder: Path, database: str
) -> None:
    """A request whose body never comes, a search, and connections that say nothing."""
    folder, van = open_folder / "stops", demo_designs()["puppet-van"].model_dump(mode="json")
    with Started(folder, DATABASE_URL=database) as started, ExitStack() as stack:
        port = int(started.address.rsplit(":", 1)[1].strip("/"))
        begun = b"POST /api/evaluate HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 1000\r\n\r\n{"
        for sent in (b"", b"GET / HT", begun):
            half = stack.enter_context(socket.create_connection(("127.0.0.1", port)))
            half.sendall(sent)
        client = stack.enter_context(httpx.Client(timeout=60))
        assert client.post(f"{started.address}api/evaluate", json=van).status_code == 200
        # Its answers are worked out apart: what workers are forked from is there.
        latest = time.monotonic() + 60.0
        while not _forks(started.process.pid):
            assert time.monotonic() < latest, "no workers"
            time.sleep(0.02)
        search = client.stream("POST", f"{started.address}api/options/search", json={"design": van})
        lines = stack.enter_context(search).iter_lines()
        assert json.loads(next(lines))["step"]
        began = time.monotonic()
        started.process.send_signal(signal.SIGTERM)
        started.process.wait(timeout=30)
        # Five seconds; a machine that is busy with other tests gets some more.
        took_s = time.monotonic() - began
        assert took_s < 2 * 5.0
        assert started.process.returncode == 0


def _forks(pid: int) -> bool:
    """Whether a process has one that others are forked from."""
    children = Path(f"/proc/{pid}/task").glob("*/children")
    ids = [child for file in children for child in file.read_text().split()]
    return any(b"forkserver" in Path(f"/proc/{x}/cmdline").read_bytes() for x in ids)


def _token(line: str) -> str:
    found = re.search(r"token=([\w-]+)", line)
    assert found is not None
    return found[1]


def _as_nobody(address: str, cookie: str = "") -> int:
    """What another user of the machine is answered."""
    script = (
        "import sys, urllib.request, urllib.error\n"
        "ask = urllib.request.Request(sys.argv[1], headers={'Cookie': sys.argv[2]})\n"
        "try: print(urllib.request.urlopen(ask).status)\n"
        "except urllib.error.HTTPError as error: print(error.code)\n"
    )
    someone = pwd.getpwnam("nobody")
    done = subprocess.run(
        ["/usr/bin/env", "python3", "-c", script, address, cookie], user="nobody",
        group=someone.pw_gid, cwd="/", capture_output=True, text=True, check=True, env={},
    )  # fmt: skip
    return int(done.stdout)


@pytest.mark.skipif(os.geteuid() != 0, reason="only root can become another user")
def test_other_users_of_the_machine_need_the_token(open_folder: Path, database: str) -> None:
    with Started(open_folder / "others", DATABASE_URL=database) as started:
        designs, token = f"{started.address}api/designs", _token(started.line)
        assert web.get(designs).status_code == 200
        assert _as_nobody(designs) == 403
        assert _as_nobody(f"{designs}?token=wrong") == 403
        assert _as_nobody(f"{designs}?token={token}") == 200
        assert _as_nobody(designs, f"gravel-jar={token}") == 200
        cookie = web.get(f"{designs}?token={token}").headers["set-cookie"]
        assert cookie == f"gravel-jar={token}; Path=/; HttpOnly; SameSite=Strict"
