"""Searches in worker processes: shared fairly, bounded, stopped when nobody listens any more."""

import asyncio
import threading
import weakref
from collections.abc import AsyncGenerator
from typing import Final

from graveljar.computing import works
from graveljar.computing.budget import Budget
from graveljar.computing.workers import WORKERS, Workers
from graveljar.core.errors import GravelJarError
from graveljar.core.model import Design
from graveljar.core.planning.search import (
    Found,
    Progress,
    SearchAsk,
    Searched,
    Step,
    merged,
)
from graveljar.core.planning.search.front import ParetoFront
from graveljar.core.stop import stopped_by

# A search goes in as many parts: the smaller, the sooner another one has its turn.
PARTS: Final = 24
MAX_SEARCHES: Final = 8


class Busy(GravelJarError):
    """As many searches as may are under way."""

    code = "busy"
    title = "Too many searches at a time"


class Searches:
    """In workers of their own, started at the first search. Parts take their turns in order."""

    def __init__(self) -> None:
        self._workers = Workers()
        self._turns = asyncio.Semaphore(WORKERS)
        self._under_way = 0
        self._counting = threading.Lock()

    def close(self) -> None:
        """End the workers, whatever they compute: nobody listens any more."""
        self._workers.close()

    def wake(self) -> None:
        """Start the workers, so that a search that comes soon need not wait for them."""
        self._workers.wake_beside()

    def admit(self) -> "Slot":
        """Take a search on: it holds a slot until that is released.

        Raises
        ------
        Busy : as many as may are under way.
        """
        with self._counting:
            if self._under_way >= MAX_SEARCHES:
                raise Busy(
                    f"{MAX_SEARCHES} searches are under way. Try again in a moment, or stop one."
                )
            self._under_way += 1
        return Slot(self)

    def leave(self) -> None:
        """Give a slot back."""
        with self._counting:
            self._under_way -= 1

    def steps(self, design: Design, ask: SearchAsk, slot: "Slot") -> AsyncGenerator[Step, None]:
        """The steps of a search that was taken on; it ends with whoever reads them.

        Its slot is released with the last step, or with the generator, begun or not.
        """
        found = self._steps(design, ask, slot)
        weakref.finalize(found, slot.release)
        return found

    async def _steps(
        self, design: Design, ask: SearchAsk, slot: "Slot"
    ) -> AsyncGenerator[Step, None]:
        waiting: set[asyncio.Task[list[Step]]] = set()
        try:
            parts = list(range(PARTS))
            front, ended = ParetoFront(), []
            candidates = 0
            yield Progress(0, PARTS, 0)
            while parts or waiting:
                while parts and len(waiting) < WORKERS:
                    waiting.add(asyncio.create_task(self._part(design, ask, parts.pop(0))))
                done, waiting = await asyncio.wait(waiting, return_when="FIRST_COMPLETED")
                for task in done:
                    for step in task.result():
                        if isinstance(step, Found) and front.wants(step):
                            front.add(step)
                            yield step
                        elif isinstance(step, Searched):
                            ended.append(step)
                            candidates += step.candidates
                yield Progress(len(ended), PARTS, candidates)
            yield merged(ended)
        finally:
            for task in waiting:
                task.cancel()
            slot.release()

    async def _part(self, design: Design, ask: SearchAsk, k: int) -> list[Step]:
        # First come, first served: each search asks for a turn again after each of its parts.
        async with self._turns:
            budget = Budget(None)
            compute = self._workers.within(None)
            try:
                with stopped_by(budget):
                    return await asyncio.to_thread(
                        compute, works.part_of_search, design, ask, (k, PARTS)
                    )
            finally:
                # Ended with its worker where nobody waits for it any more.
                budget.gone = True


class Slot:
    """The place of one search; released once, however often it is asked to be."""

    def __init__(self, searches: Searches) -> None:
        self._searches: Searches | None = searches

    def release(self) -> None:
        """Make room for another search."""
        searches, self._searches = self._searches, None
        if searches is not None:
            searches.leave()
