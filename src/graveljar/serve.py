"""What `bin/start` runs: database, migrations, demo data, server; stops all of it."""

import argparse
import logging
import secrets
import signal
import socket
import sys
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from datetime import datetime
from pathlib import Path
from types import FrameType
from typing import Final
from uuid import NAMESPACE_URL, uuid5

import uvicorn

from graveljar.api.app import create_app
from graveljar.api.neighbours import tells_users
from graveljar.core.warmup import spare_the_lasting
from graveljar.demo import demo_designs, demo_log, demo_readings
from graveljar.formats.log_csv import LogFile
from graveljar.formats.log_layout import look_at
from graveljar.formats.parts_csv import starting_id, starting_shelf
from graveljar.instruments.reader import Instruments
from graveljar.settings import data_folder, database_url, instruments_file, ui_folder
from graveljar.store.backup import Backups, write_backup
from graveljar.store.cluster import ClusterFailed, only_one, running_cluster
from graveljar.store.database import migrate, open_pool
from graveljar.store.designs import Designs
from graveljar.store.logs import Logs
from graveljar.store.parts import Parts
from graveljar.store.readings import Readings

# Tried first, so that the address stays the same from one start to the next.
USUAL_PORT: Final = 8734
# A browser has some ten at a time; more are turned away, so that they cannot use up all handles.
MAX_CONNECTIONS: Final = 200
# What is half done when it is told to stop has so long. [s]
GRACE_S: Final = 2


def main(arguments: list[str] | None = None) -> int:
    """Serve until Ctrl-C; 1 if it cannot start, with what to do."""
    parser = argparse.ArgumentParser(prog="bin/start", description="Start Gravel Jar.")
    parser.add_argument("--demo", action="store_true", help="load the demo designs")
    parser.add_argument("--port", type=int, help="serve on this port and no other")
    given = parser.parse_args(arguments)
    logging.basicConfig(level=logging.WARNING, format="%(levelname)s %(name)s: %(message)s")
    if not (ui_folder() / "index.html").exists():
        sys.stderr.write("The interface is not built: start with bin/start, which builds it.\n")
        return 1
    # A hang-up or a plain kill ends like Ctrl-C: the database is stopped too.
    for name in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(name, _interrupt)
    try:
        with ExitStack() as stack:
            _run(stack, demo=given.demo, port=given.port)
    except KeyboardInterrupt:
        sys.stdout.write("\nStopped.\n")
    except (ClusterFailed, OSError) as error:
        sys.stderr.write(f"bin/start: {error}\n")
        return 1
    return 0


def _interrupt(_number: int, _frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _run(stack: ExitStack, *, demo: bool, port: int | None) -> None:
    url = database_url()
    if url is None:
        folder = data_folder()
        folder.mkdir(parents=True, exist_ok=True)
        stack.enter_context(only_one(folder))
        url = stack.enter_context(running_cluster(folder))
    migrate(url, lambda name: keep_backup(url, data_folder() / "backups", name))
    pool = stack.enter_context(open_pool(url))
    designs, parts = Designs(pool), Parts(pool)
    readings, logs = Readings(pool), Logs(pool)
    keep_starting_shelf(parts)
    if demo:
        load_demo(designs, readings, logs)
    spare_the_lasting()
    listener = stack.enter_context(_listener(port))
    address = f"http://127.0.0.1:{listener.getsockname()[1]}/"
    token = secrets.token_urlsafe(16) if tells_users() else None
    others = f"; other users of this machine: {address}?token={token}" if token else ""
    sys.stdout.write(f"Gravel Jar is at {address}  (Ctrl-C stops it{others})\n")
    sys.stdout.flush()
    config = uvicorn.Config(
        create_app(
            designs,
            parts,
            ui_folder(),
            readings,
            logs,
            Instruments(instruments_file()),
            Backups(pool),
            token,
            apart=True,
        ),
        log_level="warning",
        server_header=False,
        limit_concurrency=MAX_CONNECTIONS,
        timeout_graceful_shutdown=GRACE_S,
    )
    uvicorn.Server(config).run(sockets=[listener])


def keep_backup(url: str, folder: Path, migration: str) -> None:
    """Keep a backup of what is there before a migration changes the tables."""
    folder.mkdir(parents=True, exist_ok=True)
    day = datetime.now().astimezone().strftime("%Y-%m-%d-%H%M%S")
    file = folder / f"before-{migration}-{day}.gz"
    write_backup(url, file)
    sys.stdout.write(f"The tables change: a backup is kept at {file}\n")


def load_demo(designs: Designs, readings: Readings, logs: Logs) -> None:
    """Keep each demo design and its bench book, if it is not kept already; edits to one stay."""
    measured, (logged, subject, text) = demo_readings(), demo_log()
    for name, design in demo_designs().items():
        own = uuid5(NAMESPACE_URL, f"urn:gravel-jar:demo:{name}")
        designs.create(design, own)
        if name not in measured or not readings.never(own):
            continue
        for reading in measured[name]:
            readings.add(own, reading)
        if name == logged:
            file = LogFile(look_at(text).layout)
            parts = file.parts(text.splitlines())
            for log_id, _ in logs.add(own, "Night in November", subject, parts):
                begun = log_id
            logs.began(own, begun, file.begins_s or 0.0)


def keep_starting_shelf(parts: Parts) -> None:
    """Keep the plain parts to start with; edits to one stay, and one taken off stays off."""
    parts.start({starting_id(x): x for x in starting_shelf()})


@contextmanager
def _listener(port: int | None) -> Iterator[socket.socket]:
    # Named as TCP: asyncio sends small answers at once (TCP_NODELAY) only where it is; without
    # it each answer waits some 40 ms for an acknowledgement.
    with socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP) as listener:
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listener.bind(("127.0.0.1", USUAL_PORT if port is None else port))
        except OSError as error:
            if port is not None:
                raise OSError(f"port {port} is not free ({error.strerror})") from None
            listener.bind(("127.0.0.1", 0))
        # Before the address is printed: who follows it at once is kept waiting, not refused.
        listener.listen()
        yield listener
