"""How long a request may compute, and whether anybody still waits for it."""

import threading
import time
from typing import Final

# Seconds of computing by the beginning of a path; the first that fits counts. Usual answers take a
# hundredth of that, one of the largest design with the effects of its fixes a half. A
# search ends with its connection, what is written as it is worked out with its data.
LIMITS_S: Final = (
    ("/api/evaluate", 5.0),
    ("/api/course.csv", None),
    ("/api/course", 10.0),
    ("/api/options/search", None),
    ("/api/backup", None),
    ("/api/", 20.0),
)
# On a machine that does other things too an answer may take so many times as long by the clock.
WALL_FACTOR: Final = 6.0
GONE: Final = "Nobody waits for the answer any more."


def limit_s(path: str) -> float | None:
    """Seconds that a request to a path may compute; None without a limit."""
    return next((limit for begins, limit in LIMITS_S if path.startswith(begins)), None)


def too_long(limit_s: float) -> str:
    """Why something was ended that took longer than it may. [s]"""
    return (
        f"It was computed for {limit_s:g} s without an end. A design with fewer loads "
        "and stages, or a shorter run, is worked out sooner."
    )


class Budget:
    """Asked by long work between its runs: why it has to stop, or "" to go on."""

    def __init__(self, limit: float | None) -> None:
        self.limit_s = limit
        self.gone = False
        self._began_s = time.monotonic()
        self._by_thread: dict[int, float] = {}

    def __call__(self) -> str:
        """Why to stop; "" to go on. Each thread counts what it computes itself."""
        if self.gone:
            return GONE
        if self.limit_s is None:
            return ""
        now_s = time.thread_time()
        began_s = self._by_thread.setdefault(threading.get_ident(), now_s)
        late = time.monotonic() - self._began_s > WALL_FACTOR * self.limit_s
        if late or now_s - began_s > self.limit_s:
            return too_long(self.limit_s)
        return ""
