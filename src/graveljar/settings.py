"""Where things are kept, from the environment."""

import hashlib
import os
import shutil
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


def data_folder() -> Path:
    """`GRAVEL_JAR_DATA`, else a folder of this checkout's own.

    As root outside the checkout: the `postgres` user may not enter it.
    """
    if given := os.environ.get("GRAVEL_JAR_DATA"):
        return Path(given).resolve()
    if os.geteuid() == 0:
        home = Path("/var/lib")
    else:
        home = Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local/share")
    # Two checkouts on one machine keep apart.
    mark = hashlib.sha256(str(ROOT).encode()).hexdigest()[:8]
    return home / "gravel-jar" / f"{ROOT.name}-{mark}"


def database_url() -> str | None:
    """`DATABASE_URL`: a server of one's own instead of the private one."""
    return os.environ.get("DATABASE_URL") or None


def instruments_file() -> Path:
    """`GRAVEL_JAR_INSTRUMENTS`, else `instruments.json` in the data folder: what may be opened."""
    given = os.environ.get("GRAVEL_JAR_INSTRUMENTS")
    return Path(given).resolve() if given else data_folder() / "instruments.json"


def ui_folder() -> Path:
    """The built interface."""
    return ROOT / "ui" / "dist"


def node_program() -> str | None:
    """Node: the one inside the checkout, else the machine's; None without any."""
    own = ROOT / ".node" / "bin" / "node"
    return str(own) if own.exists() else shutil.which("node")


def drawing_program() -> Path:
    """What draws, built from the interface, for Node."""
    return ROOT / "ui" / "dist-command" / "drawing.mjs"
