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
import traceback
from collections.abc import Callable
from concurrent.futures import Future
from contextvars import copy_context
from multiprocessing.connection import Connection
from typing import Any, Final, Protocol, TypeVar

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
# What a worker says.
_TOLD, _DONE, _FAILED = "told", "done", "failed"
_CLOSED: Final = "The program ends."
# Processes start and are waited for one at a time: each tells how it ended only once.
_PROCESSES: Final = threading.Lock()


# Called with what a work tells before it is done.
Told = Callable[[Any], None]


class Compute(Protocol):
    """Where something is worked out: in this process, or in a worker."""

    def __call__(self, work: Callable[..., T], *args: object, told: Told | None = None) -> T:
        """Work something out. What tells something before it is done is given how as well, first.

        Raises
        ------
        Stopped : it takes too long, or nobody waits for it any more.
        """
        ...


def compute_here(work: Callable[..., T], *args: object, told: Told | None = None) -> T:
    """Work something out in this process, within the limits of the request."""
    return work(*args) if told is None else work(told, *args)


def both(
    compute: Compute, first: Callable[..., T], second: Callable[..., U], *args: object
) -> tuple[T, U]:
    """Work something out, and at the same time in another worker what the first tells of.

    Raises
    ------
    Stopped : one takes too long, or nobody waits for them any more.
    """
    gives: Future[U] = Future()

    def beside(told: object) -> None:
        try:
            gives.set_result(compute(second, told))
        except BaseException as error:
            gives.set_exception(error)

    def begin(told: object) -> None:
        # Not again where the first is worked out once more, by another worker.
        if gives.running() or gives.done():
            return
        gives.set_running_or_notify_cancel()
        # In a copy of this context: it ends with whoever waits for both.
        run = copy_context().run
        threading.Thread(target=run, args=(beside, told), daemon=True).start()

    return compute(first, *args, told=begin), gives.result()


class Written:
    """Something written out once for a worker, where it arrives as itself."""

    def __init__(self, what: object) -> None:
        self.data = pickle.dumps(what)

    def __reduce__(self) -> tuple[Callable[[bytes], object], tuple[bytes]]:
        """How it is read."""
        return pickle.loads, (self.data,)


class _Ended(Exception):
    """A worker ended before its answer was there."""


class _Worker:
    """A process that works out one thing after another, told so through a pipe."""

    def __init__(self) -> None:
        context = forking()
        self._pipe, its = context.Pipe()
        self._process = context.Process(target=_serve, args=(its,), daemon=True)
        with _PROCESSES:
            self._process.start()
        # It alone holds its end: when it ends, so does reading.
        its.close()
        self.free = True

    def work_out(
        self, most_s: float | None, work: Callable[..., T], args: Args, told: Told | None = None
    ) -> T:
        """Have something worked out, looking from time to time whether it is still wanted.

        Raises
        ------
        Stopped : it takes too long, or nobody waits for it any more.
        _Ended : its process ended.
        """
        self.free = False
        try:
            self._pipe.send((most_s, work, args, told is not None))
            kind, given = self._next()
            while told is not None and kind == _TOLD:
                told(given)
                kind, given = self._next()
        except (EOFError, OSError):
            if most_s is not None and self._exit_code() == -signal.SIGPROF:
                raise Stopped(too_long(most_s)) from None
            raise _Ended from None
        self.free = True
        if kind == _FAILED:
            raise given
        done: T = given
        return done

    def _next(self) -> tuple[str, Any]:
        while not self._pipe.poll(LOOK_S):
            heed()
        said: tuple[str, Any] = self._pipe.recv()
        return said

    def _exit_code(self) -> int | None:
        with _PROCESSES:
            self._process.join()
            return self._process.exitcode

    def end(self) -> None:
        """End it, whatever it computes."""
        with _PROCESSES:
            self._process.kill()
            self._process.join()
        self._pipe.close()


class Workers:
    """A few processes, started when something is to be worked out, each replaced when it ends."""

    def __init__(self, count: int = WORKERS) -> None:
        self._count = count
        self._idle: list[_Worker] = []
        self._busy: set[_Worker] = set()
        self._changing = threading.Lock()
        self._turns = threading.Semaphore(count)
        self._waking, self.awake = False, False

    def within(self, most_s: float | None) -> Compute:
        """Let something be worked out in so many seconds: in a worker, as soon as one is awake."""

        def compute(work: Callable[..., T], *args: object, told: Told | None = None) -> T:
            self.wake_beside()
            while self._waking and not self.awake:
                heed()
                time.sleep(LOOK_S)
            # Here only where no process can be had.
            if not self.awake:
                return compute_here(work, *args, told=told)
            return self._in_turn(lambda x: x.work_out(most_s, work, args, told))

        return compute

    def _in_turn(self, ask: Callable[[_Worker], T]) -> T:
        """Wait for a turn and its worker; its process ends where it is stuck or not wanted."""
        while not self._turns.acquire(timeout=LOOK_S):
            heed()
        try:
            return self._ask(ask)
        except _Ended:
            if not self.awake:
                raise Stopped(_CLOSED) from None
            # Once more, in a new one.
            return self._ask(ask)
        finally:
            self._turns.release()

    def _ask(self, ask: Callable[[_Worker], T]) -> T:
        worker = self._take()
        try:
            return ask(worker)
        finally:
            self._give_back(worker)

    def _take(self) -> _Worker:
        """A worker that is free, or a new one."""
        with self._changing:
            worker = self._idle.pop() if self._idle else None
        worker = worker or _Worker()
        with self._changing:
            self._busy.add(worker)
        return worker

    def _give_back(self, worker: _Worker) -> None:
        """Keep a worker for the next, or end one that is at work still or too many."""
        with self._changing:
            # Closed meanwhile, it is ended already.
            if worker not in self._busy:
                return
            self._busy.remove(worker)
            if worker.free and len(self._idle) < self._count:
                self._idle.append(worker)
                return
        worker.end()

    def wake(self) -> None:
        """Start the processes, and wait until they are ready: some seconds for the first of all."""
        self._waking = True
        started: list[_Worker] = []
        try:
            while len(started) < self._count:
                started.append(self._take())
            for worker in started:
                worker.work_out(None, _ready, ())
            self.awake = True
        except (_Ended, OSError, EOFError):
            # The next that is asked starts them anew.
            self._waking = False
        for worker in started:
            self._give_back(worker)

    def wake_beside(self) -> None:
        """Start the processes while others go on, if nobody did; no end of the program waits."""
        if not self._waking:
            self._waking = True
            threading.Thread(target=self.wake, daemon=True).start()

    def close(self) -> None:
        """End them, whatever they compute: nobody listens any more."""
        with self._changing:
            workers = [*self._idle, *self._busy]
            self._idle, self._busy = [], set()
            self._waking, self.awake = False, False
        for worker in workers:
            worker.end()


def _serve(pipe: Connection) -> None:
    """In a worker: work out what comes through the pipe, one after the other, until it ends."""
    _begin()
    while True:
        try:
            asked = pipe.recv()
        except EOFError:
            return
        pipe.send_bytes(_answer(pipe, *asked))


def _answer(
    pipe: Connection, most_s: float | None, work: Callable[..., Any], args: Args, tells: bool
) -> bytes:
    """What was worked out, or the error instead, written as the pipe reads it."""

    def tell(what: object) -> None:
        pipe.send((_TOLD, what))

    try:
        done = _within(most_s, work, (tell, *args) if tells else args)
        return pickle.dumps((_DONE, done))
    except BaseException as error:
        said = error if _readable(error) else RuntimeError(repr(error))
        # For the log of the program.
        said.add_note(traceback.format_exc())
        return pickle.dumps((_FAILED, said))


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
    """Within its limit, by asking; the system ends what does not ask any more."""
    if most_s is not None:
        signal.setitimer(signal.ITIMER_PROF, STUCK_FACTOR * most_s)
    try:
        with stopped_by(Budget(most_s)):
            return work(*args)
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0.0)


def _readable(error: BaseException) -> bool:
    """Whether an error can be sent and read again."""
    try:
        pickle.loads(pickle.dumps(error))  # noqa: S301
    except Exception:
        return False
    return True
