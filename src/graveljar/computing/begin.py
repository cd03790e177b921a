"""The very first of a start: the process that all workers are forked from."""

import multiprocessing
from multiprocessing import forkserver
from multiprocessing.context import ForkServerContext
from typing import Final

_PRELOADED: Final = "graveljar.computing.preloaded"


def forking() -> ForkServerContext:
    """How workers are made: forked from one process that has loaded all that computes."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload([_PRELOADED])
    return context


def begin() -> None:
    """Start that process, which loads beside whoever goes on."""
    forking()
    forkserver.ensure_running()
