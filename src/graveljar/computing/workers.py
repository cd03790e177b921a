"""Processes that compute, apart from the one that serves and saves.

They are forked from one that has loaded and called everything once: a new one is there in a few
hundredths of a second, so that what nobody waits for, or what is stuck, is ended with its process.
"""

import ctypes
import logging
import pickle
import signal
import threading
import time
from collections.abc import Callable
from concurrent.futures import Future
from concurrent.futures.process import BrokenProcessPool
from contextvars import copy_context
from typing import Final, Protocol, TypeVar

from pebble import ProcessExpired, ProcessFuture, ProcessPool

from graveljar.computing.begin import LOOK_S, forking
from graveljar.computing.budget import Budget, too_long
from graveljar.core.stop import Stopped, heed, stopped_by

T = TypeVar("T")
U = TypeVar("U")
Args = tuple[object, ...]

# As many as a usual machine has cores to spare.
WORKERS: Final = 2
# Seconds of all threads of a worker over those of the one that is counted: then it is stuck.
STUCK_FACTOR: Final = 3.0
_DIES_WITH_PARENT: Final = 1
# A worker was ended from outside, or all of them.
ENDED: Final = (ProcessExpired, BrokenProcessPool)


class Compute(Protocol):
    """Where something is worked out: in this process, or in a worker."""

    def __call__(self, work: Callable[..., T], *args: object) -> T:
        """Work something out.

        Raises
        ------
        Stopped : it takes too long, or nobody waits for it any more.
        """
        ...


def compute_here(work: Callable[..., T], *args: object) -> T:
    """Work something out in this process, within the limits of the request."""
    return work(*args)


def both(
    compute: Compute, first: Callable[..., T], second: Callable[..., U], *args: object
) -> tuple[T, U]:
    """Work two things out of the same arguments, in two workers at a time.

    Raises
    ------
    Stopped : one takes too long, or nobody waits for them any more.
    """
    gives: Future[U] = Future()

    def beside() -> None:
        try:
            gives.set_result(compute(second, *args))
        except BaseException as error:
            gives.set_exception(error)

    # In a copy of this context: it ends with whoever waits for both.
    threading.Thread(target=copy_context().run, args=(beside,), daemon=True).start()
    return compute(first, *args), gives.result()


class Workers:
    """A few processes, each with a pool of its own, replaced when one ends.

    In one pool for all a process that is ended because nobody waits for its work may have taken
    the next already: whoever waits for that would wait for ever.
    """

    def __init__(self, count: int = WORKERS) -> None:
        self._count = count
        self._idle: list[ProcessPool] = []
        self._busy: set[ProcessPool] = set()
        self._pools = threading.Lock()
        self._turns = threading.Semaphore(count)
        self._waking, self.awake = False, False

    def within(self, most_s: float | None) -> Compute:
        """Let something be worked out in so many seconds: in a worker, as soon as one is awake."""

        def compute(work: Callable[..., T], *args: object) -> T:
            self.wake_beside()
            while self._waking and not self.awake:
                heed()
                time.sleep(LOOK_S)
            # Here only where no process can be had.
            return self._wait(most_s, work, args) if self.awake else work(*args)

        return compute

    def _wait(self, most_s: float | None, work: Callable[..., T], args: Args) -> T:
        """Wait for a turn and its worker; its process ends where it is stuck or not wanted."""
        while not self._turns.acquire(timeout=LOOK_S):
            heed()
        try:
            return self._in_turn(most_s, work, args)
        finally:
            self._turns.release()

    def _in_turn(self, most_s: float | None, work: Callable[..., T], args: Args) -> T:
        try:
            done: T = _done(self.submit(_within, most_s, work, args))
        except ENDED as ended:
            if most_s is not None and getattr(ended, "exitcode", 0) == -signal.SIGPROF:
                raise Stopped(too_long(most_s)) from None
            # Once more, in a new one.
            done = _done(self.submit(_within, most_s, work, args))
        return done

    def submit(self, work: Callable[..., T], *args: object) -> ProcessFuture[T]:
        """Begin something in a worker that is free, or a new one; cancelled, its process ends."""
        with self._pools:
            pool = self._idle.pop() if self._idle else None
            if pool is None or not pool.active:
                pool = ProcessPool(1, initializer=_begin, context=forking())
            self._busy.add(pool)
        begun: ProcessFuture[T] = pool.schedule(work, args)
        begun.add_done_callback(lambda done: self._give_back(pool, done))
        return begun

    def _give_back(self, pool: ProcessPool, done: Future[T]) -> None:
        """Keep a worker for the next, or end one that does not go on."""
        ended = done.cancelled() or isinstance(done.exception(), ENDED)
        with self._pools:
            if pool not in self._busy:
                return
            self._busy.remove(pool)
            if not ended and len(self._idle) < self._count:
                self._idle.append(pool)
                return
        threading.Thread(target=_end, args=(pool,), daemon=True).start()

    def wake(self) -> None:
        """Start the processes, and wait until they are ready: some seconds for the first of all."""
        try:
            for ready in [self.submit(_ready) for _ in range(self._count)]:
                ready.result()
            self.awake = True
        except (*ENDED, OSError, EOFError):
            # The next that is asked starts them anew.
            self._waking = False

    def wake_beside(self) -> None:
        """Start the processes while others go on, if nobody did; no end of the program waits."""
        if not self._waking:
            self._waking = True
            threading.Thread(target=self.wake, daemon=True).start()

    def close(self) -> None:
        """End them, whatever they compute: nobody listens any more."""
        # While they are being started they end with this process.
        if not self._pools.acquire(timeout=LOOK_S):
            return
        pools = [*self._idle, *self._busy]
        self._idle, self._busy = [], set()
        self._waking, self.awake = False, False
        self._pools.release()
        for pool in pools:
            pool.stop()  # type: ignore[no-untyped-call]
        for pool in pools:
            pool.join()


def _end(pool: ProcessPool) -> None:
    pool.stop()  # type: ignore[no-untyped-call]
    pool.join()


def _done(waited: ProcessFuture[T]) -> T:
    """The answer of a worker, looking from time to time whether it is still wanted."""
    while True:
        try:
            done: T = waited.result(LOOK_S)
            return done
        except TimeoutError:
            try:
                heed()
            except Stopped:
                waited.cancel()  # type: ignore[no-untyped-call]
                raise


def _begin() -> None:
    """A worker's begin: it ends with what it was forked from, and that with the server.

    Ctrl-C is the server's; a plain kill ends it at once, in the midst of the kernel too.
    """
    ctypes.CDLL(None).prctl(_DIES_WITH_PARENT, signal.SIGKILL)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    logging.basicConfig(level=logging.WARNING, format="%(levelname)s %(name)s: %(message)s")


def _ready() -> None:
    """Nothing: what a worker does first is to begin."""


def _within(most_s: float | None, work: Callable[..., T], args: Args) -> T:
    """In a worker: within its limit, by asking; the system ends what does not ask any more."""
    if most_s is not None:
        signal.setitimer(signal.ITIMER_PROF, STUCK_FACTOR * most_s)
    try:
        with stopped_by(Budget(most_s)):
            return work(*args)
    except Exception as error:
        if _readable(error):
            raise
        raise RuntimeError(repr(error)) from error
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0.0)


def _readable(error: Exception) -> bool:
    """Whether an error can be sent and read again: one that cannot would end all that wait."""
    try:
        pickle.loads(pickle.dumps(error))  # noqa: S301
    except Exception:
        return False
    return True
