"""Work that ends early: whoever asked is gone, or it takes too long.

The core has no clock: who calls it says when to stop, and long work asks between its runs.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Final

# Why to stop, in a sentence; "" to go on.
Asked = Callable[[], str]
_ASKED: Final[ContextVar[Asked | None]] = ContextVar("asked", default=None)


class Stopped(BaseException):
    """Work was ended before its answer was there.

    No branch of the tree of errors: what goes on after an error, such as the next of several
    trials, must not go on after this.
    """

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why


@contextmanager
def stopped_by(asked: Asked) -> Iterator[None]:
    """Let work within ask whether to go on; in the threads that inherit this context too."""
    before = _ASKED.set(asked)
    try:
        yield
    finally:
        _ASKED.reset(before)


def heed() -> None:
    """Go on, or end.

    Raises
    ------
    Stopped : whoever asked does not want the answer any more.

    Examples
    --------
    >>> with stopped_by(lambda: "Nobody waits for it."):
    ...     heed()
    Traceback (most recent call last):
    graveljar.core.stop.Stopped: Nobody waits for it.
    """
    asked = _ASKED.get()
    if asked is not None and (why := asked()):
        raise Stopped(why)
