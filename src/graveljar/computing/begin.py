"""The very first of a start: the process that all workers are forked from."""

import multiprocessing
import os
from multiprocessing import forkserver
from multiprocessing.context import ForkServerContext
from threading import Event
from typing import Final

_PRELOADED: Final = "graveljar.computing.preloaded"
# How often whoever waits, or loads, looks whether that is still wanted. [s]
LOOK_S: Final = 0.05


def forking() -> ForkServerContext:
    """How workers are made: forked from one process that has loaded all that computes."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload([_PRELOADED])
    return context


def begin() -> None:
    """Start that process, which loads beside whoever goes on."""
    forking()
    forkserver.ensure_running()


def end_with(parent: int, loaded: Event) -> None:
    """End this process if its parent ends before all is loaded, or compiled: nobody needs it."""
    while not loaded.wait(LOOK_S):
        if os.getppid() != parent:
            os._exit(0)
