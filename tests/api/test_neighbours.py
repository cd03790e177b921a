"""Who may come in: told by the table of sockets, or by the token."""

import os
from pathlib import Path
from typing import Any

import pytest
from starlette.datastructures import Headers

from graveljar.api import neighbours
from graveljar.api.neighbours import Neighbours, tells_users, user_of

HEAD = (
    "  sl  local_address rem_address   st tx_queue rx_queue tr tm->when retrnsmt   uid  timeout\n"
)
ROW = (
    "   0: {local}:{port:04X} {remote}:{to:04X} 01 00000000:00000000 00:00000000 00000000 "
    "{user} 0\n"
)
FOUR, MAPPED = "0100007F", "0000000000000000FFFF00000100007F"


def row(user: int, port: int = 40_000, to: int = 8_734, local: str = FOUR) -> str:
    """A line as Linux writes it."""
    return ROW.format(local=local, port=port, remote=local, to=to, user=user)


@pytest.fixture
def table(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Any:
    """Puts lines into the tables of sockets."""
    files = (tmp_path / "tcp", tmp_path / "tcp6")
    monkeypatch.setattr(neighbours, "SOCKETS", tuple(zip(files, (FOUR, MAPPED), strict=True)))

    def put(four: str, six: str | None = None) -> None:
        files[0].write_text(HEAD + four)
        if six is not None:
            files[1].write_text(HEAD + six)

    return put


def scope(port: int = 40_000, query: bytes = b"", host: str = "127.0.0.1") -> dict[str, Any]:
    """A request from a port."""
    return {"client": (host, port), "server": ("127.0.0.1", 8_734), "query_string": query}


NOBODY = Headers({})


@pytest.mark.parametrize(
    ("lines", "six", "user"),
    [
        (row(1000), None, 1000),
        # The server's own end of the same connection stands there too, the other way round.
        (row(0, 8_734, 40_000) + row(1000), None, 1000),
        (row(7, to=9_999) + row(8, port=40_001), None, None),
        # A client whose socket is of IPv6 is written in its way.
        ("", row(1001, local=MAPPED), 1001),
        ("", None, None),
    ],
)
def test_the_user_of_a_socket(table: Any, lines: str, six: str | None, user: int | None) -> None:
    """Columns as in proc(5): local and remote address in hexadecimal, the user the eighth."""
    table(lines, six)
    assert user_of(40_000, 8_734) == user


@pytest.mark.parametrize(
    ("user", "query", "cookie", "comes_in"),
    [
        (os.geteuid(), b"", "", True),
        (0, b"", "", True),
        (4_711, b"", "", False),
        (None, b"", "", False),
        (4_711, b"token=right", "", True),
        (4_711, b"a=1&token=right", "", True),
        (4_711, b"token=wrong", "", False),
        (4_711, b"token=", "", False),
        (4_711, b"", "gravel-jar=right", True),
        (4_711, b"", "other=1; gravel-jar=right", True),
        (4_711, b"", "gravel-jar=wrong", False),
        (4_711, b"", "gravel-jar", False),
        (4_711, b"", ";;=;", False),
        (4_711, "token=ｒight".encode(), "", False),
    ],
)
def test_whoever_has_no_token_stays_outside(
    table: Any, user: int | None, query: bytes, cookie: str, comes_in: bool
) -> None:
    table("" if user is None else row(user))
    door = Neighbours("right")
    headers = Headers({"cookie": cookie} if cookie else {})
    assert door.may_come_in(scope(query=query), headers) is comes_in


def test_a_port_is_looked_up_again_once_it_may_be_of_another(
    table: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    now = [100.0]
    monkeypatch.setattr("graveljar.api.neighbours.time.monotonic", lambda: now[0])
    door = Neighbours("right")
    table(row(os.geteuid()))
    assert door.may_come_in(scope(), NOBODY)
    table(row(4_711))
    now[0] += 0.5
    assert door.may_come_in(scope(), NOBODY)
    now[0] += 1.0
    assert not door.may_come_in(scope(), NOBODY)
    # What was not found is not remembered: it may only have come too soon.
    table("")
    assert not door.may_come_in(scope(41_000), NOBODY)
    table(row(os.geteuid(), 41_000))
    assert door.may_come_in(scope(41_000), NOBODY)


def test_this_machine_tells_users_and_one_without_tables_does_not(
    table: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    table("")
    assert not tells_users()
    monkeypatch.undo()
    assert tells_users() is Path("/proc/net/tcp").exists()
