"""The commands: `gravel-jar` without a server, the private cluster, `bin/start` as a person."""

import json
import os
import pwd
import re
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from typing import Any, Self

import psycopg
import pytest

from graveljar import settings
from graveljar.cli import main, schema_of
from graveljar.formats.parts_csv import starting_shelf, write_parts
from graveljar.serve import main as serve
from graveljar.store.cluster import running_cluster
from tests import web
from tests.web import printed

ROOT = Path(__file__).parents[2]
VAN = ROOT / "src/graveljar/demo/puppet-van.json"


def test_evaluate_writes_the_evaluation(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["evaluate", str(VAN)]) == 0
    written = json.loads(capsys.readouterr().out)
    assert written["verdict"]["cause"] == "cut-out"
    assert set(written) == set(schema_of("evaluation")["properties"])


def test_refill_writes_the_week_and_what_balances_it(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["refill", str(VAN)]) == 0
    written = json.loads(capsys.readouterr().out)
    assert written["trend"] == "runs down"
    assert len(written["charge"]) == 7 * 24 + 1
    assert {row["what"] for row in written["balance"]} == {"panel", "engine", "charger"}
    by_hour = [sum(source["wh"]) for source in written["inflows"]]
    assert sum(by_hour) / 7 == pytest.approx(written["day_in_wh"], rel=1e-3)


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        (None, "No such file"),
        ("{", "not complete JSON"),
        ("{}", "not a Gravel Jar design"),
        ('{"format": "gravel-jar/design", "goal": {"hours": -1}}', "/goal/hours must be more"),
        ('{"format": "gravel-jar/design", "version": 16}', "version 16"),
    ],
)
def test_bad_input_ends_with_2_and_one_line(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], text: str | None, reason: str
) -> None:
    file = tmp_path / "design.json"
    if text is not None:
        file.write_text(text)
    assert main(["evaluate", str(file)]) == 2
    out, err = capsys.readouterr()
    assert out == ""
    assert len(err.splitlines()) == 1
    assert reason in err


def test_fit_prints_what_a_log_tells(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """A lamp of 40 W for half of each of ten hours is 20 W on average: by hand."""
    rows = [f"{n * 60},{40 if n % 60 < 30 else 0}" for n in range(601)]
    log = tmp_path / "lamp.csv"
    log.write_text("\n".join(["seconds,watts", *rows]))
    lamp = json.loads(VAN.read_text())["loads"][0]["id"]
    assert main(["fit", str(log), "--design", str(VAN), "--subject", lamp]) == 0
    found = {x["name"]: x for x in json.loads(capsys.readouterr().out)["figures"]}
    assert found["Running"]["value"] == 40.0
    assert found["Share of the time"]["value"] == pytest.approx(0.5)
    assert found["On average"]["value"] == pytest.approx(20.0)
    log.write_text("seconds,watts\n0,40\n60,forty\n")
    assert main(["fit", str(log), "--design", str(VAN)]) == 2
    assert "line 3, watts: “forty” is no number" in capsys.readouterr().err


def test_search_prints_its_steps_as_lines(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    hut = ROOT / "src/graveljar/demo/tide-gauge-hut.json"
    shelf = tmp_path / "shelf.csv"
    wanted = ("LFP 12.8 V 280 Ah", "Sine inverter 300 W 12 V")
    shelf.write_text(write_parts([x for x in starting_shelf() if x.name in wanted]))
    assert main(["search", str(hut), "--shelf", str(shelf)]) == 0
    lines = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [line["step"] for line in lines].count("searched") == 1
    assert {line["step"] for line in lines} == {"progress", "found", "searched"}
    best = lines[-1]["best"][0]
    assert best["title"] == "1 × LFP 12.8 V 280 Ah, Sine inverter 300 W 12 V"
    # What it found is a document to work on.
    found = tmp_path / "found.json"
    found.write_text(json.dumps(best["design"]))
    assert main(["evaluate", str(found)]) == 0
    assert json.loads(capsys.readouterr().out)["verdict"]["meets_goal"]
    shelf.write_text("kind,name,volts\nbattery,Bad,minus\n")
    assert main(["search", str(hut), "--shelf", str(shelf)]) == 2
    assert "line 2" in capsys.readouterr().err


@pytest.mark.parametrize("document", ["design", "evaluation"])
def test_schemas_are_published_as_they_are(
    document: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["schema", document]) == 0
    published = (ROOT / f"docs/schema/{document}.schema.json").read_text()
    assert json.loads(capsys.readouterr().out) == json.loads(published)


def test_a_cluster_keeps_its_data_and_leaves_nothing_running(open_folder: Path) -> None:
    folder = open_folder / "kept"
    for round_number in (1, 2):
        with running_cluster(folder) as url, psycopg.connect(url) as link:
            link.execute("CREATE TABLE IF NOT EXISTS mark (n integer)")
            link.execute("INSERT INTO mark VALUES (1)")
            link.commit()
            row = link.execute("SELECT count(*) FROM mark").fetchone()
            assert row == (round_number,)
            address = link.execute("SHOW listen_addresses").fetchone()
            assert address == ("127.0.0.1",)
        with pytest.raises(psycopg.OperationalError):
            psycopg.connect(url, connect_timeout=1)
    assert (folder / "password").stat().st_mode & 0o077 == 0
    with running_cluster(folder) as url, pytest.raises(psycopg.OperationalError):
        psycopg.connect(re.sub(r":[0-9a-f]{32}@", ":wrong@", url))


def test_two_clusters_run_side_by_side(open_folder: Path) -> None:
    with running_cluster(open_folder / "a") as one, running_cluster(open_folder / "b") as two:
        assert one != two
        for url in (one, two):
            with psycopg.connect(url) as link:
                assert link.execute("SELECT 1").fetchone() == (1,)


class Started:
    """The server as a child process; `address` is what it printed. Use as `with`."""

    def __init__(
        self, folder: Path, *arguments: str, wait: bool = True, **environment: str
    ) -> None:
        known = {k: v for k, v in os.environ.items() if k != "DATABASE_URL"}
        self.process = subprocess.Popen(
            [sys.executable, "-m", "graveljar", *arguments],
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            env=known | {"GRAVEL_JAR_DATA": str(folder)} | environment,
        )
        self.line, self.address = printed(self.process.stdout) if wait else ("", "")

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        if self.process.poll() is None:
            self.stop()
        if self.process.stdout is not None:
            self.process.stdout.close()

    def stop(self, how: signal.Signals = signal.SIGINT) -> int:
        """Stop it as Ctrl-C would; gives its exit code."""
        self.process.send_signal(how)
        self.process.communicate(timeout=30)
        return self.process.returncode


def _servers_of(folder: Path) -> list[int]:
    found = []
    for path in Path("/proc").glob("[0-9]*/cmdline"):
        try:
            if str(folder).encode() in path.read_bytes() and b"postgres" in path.read_bytes():
                found.append(int(path.parent.name))
        except OSError:
            continue
    return found


def test_restart_loses_nothing_and_leaves_nothing_running(open_folder: Path) -> None:
    folder = open_folder / "restart"
    with Started(folder, "--demo") as started:
        url = f"{started.address}api/designs"
        van = next(x for x in web.get(url).json() if x["name"].startswith("Puppet"))
        document = web.get(f"{url}/{van['id']}").json()["document"] | {"name": "Kept"}
        web.put(f"{url}/{van['id']}", json={"base": 1, "document": document}).raise_for_status()
        assert started.stop() == 0
    assert _servers_of(folder) == []

    with Started(folder) as again:
        names = {x["name"] for x in web.get(f"{again.address}api/designs").json()}
        assert names == {
            "Kept",
            "Set-building trailer",
            "Ticket booth, market days",
            "Tide-gauge hut",
        }
        with Started(folder) as second:
            assert "already runs" in second.line
            assert second.process.wait(timeout=10) == 1
        assert again.stop(signal.SIGTERM) == 0
    assert _servers_of(folder) == []


def test_the_example_client_keeps_a_lamp_on_a_server_of_ones_own(
    open_folder: Path, database: str
) -> None:
    folder = open_folder / "none"
    with Started(folder, DATABASE_URL=database) as started:
        told = subprocess.run(
            [sys.executable, ROOT / "docs/client.py", started.address.rstrip("/")],
            capture_output=True, text=True, timeout=60, check=True,
        ).stdout.splitlines()  # fmt: skip
        (kept,) = web.get(f"{started.address}api/designs").json()
    # 90 % of 1 280 Wh are 36 days of 32 Wh: more than the 30 days that are simulated.
    assert told[0] == "more than 30 days"
    assert told[-1] == f"kept as {kept['id']}, revision 1"
    assert not folder.exists()


def test_killed_outright_it_takes_its_database_along(open_folder: Path) -> None:
    folder = open_folder / "killed"
    with Started(folder) as started:
        assert _servers_of(folder)
        started.stop(signal.SIGKILL)
    deadline = time.monotonic() + 15
    while _servers_of(folder) and time.monotonic() < deadline:
        time.sleep(0.1)
    assert _servers_of(folder) == []
    with Started(folder) as again:
        assert web.get(f"{again.address}api/health").json()["database"] == "ok"


def test_a_port_that_is_taken_is_said(
    database: str, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("DATABASE_URL", database)
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert serve(["--port", str(port)]) == 1
    assert f"port {port} is not free" in capsys.readouterr().err


def test_an_interface_that_is_not_built_is_said(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr("graveljar.serve.ui_folder", lambda: tmp_path)
    assert serve([]) == 1
    assert "start with bin/start" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("user", "environment", "wanted"),
    [
        (0, {}, "/var/lib/gravel-jar/"),
        (1000, {"XDG_DATA_HOME": "/home/someone/data"}, "/home/someone/data/gravel-jar/"),
        (1000, {"GRAVEL_JAR_DATA": "/srv/jar"}, "/srv/jar"),
    ],
)
def test_where_data_is_kept(
    monkeypatch: pytest.MonkeyPatch, user: int, environment: dict[str, str], wanted: str
) -> None:
    monkeypatch.delenv("GRAVEL_JAR_DATA", raising=False)
    monkeypatch.setattr(os, "geteuid", lambda: user)
    for name, value in environment.items():
        monkeypatch.setenv(name, value)
    assert str(settings.data_folder()).startswith(wanted)


@pytest.mark.skipif(os.geteuid() != 0, reason="only root can become another user")
def test_an_ordinary_user_can_run_a_cluster_too(open_folder: Path) -> None:
    folder = open_folder / "ordinary"
    folder.mkdir()
    someone: Any = pwd.getpwnam("nobody")
    os.chown(folder, someone.pw_uid, someone.pw_gid)
    script = (
        "from pathlib import Path; from graveljar.store.cluster import running_cluster\n"
        "import psycopg, sys\n"
        "with running_cluster(Path(sys.argv[1]) / 'data') as url:\n"
        "    print(psycopg.connect(url).execute('SELECT current_user').fetchone()[0])\n"
    )
    source = folder / "src"
    subprocess.run(["cp", "-r", str(ROOT / "src"), str(source)], check=True)
    done = subprocess.run(
        ["/usr/bin/env", "python3", "-W", "ignore", "-c", script, str(folder)],
        env={"PYTHONPATH": f"{source}:{':'.join(p for p in sys.path if 'site-packages' in p)}",
             "PATH": os.environ["PATH"], "PYTHONDONTWRITEBYTECODE": "1"},
        user="nobody", group=someone.pw_gid, cwd="/", capture_output=True, text=True, check=False,
    )  # fmt: skip
    if "PermissionError" in done.stderr or "No module named" in done.stderr:
        pytest.skip("the ordinary user may not read this installation")
    assert done.stdout.strip() == "graveljar", done.stderr
