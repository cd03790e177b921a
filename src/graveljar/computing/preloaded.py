"""What all workers begin with: the process they are forked from loads it, and calls it, once."""

import gc
import os
import signal
from threading import Event, Thread

from graveljar.computing.begin import end_with

# Ctrl-C is the server's.
signal.signal(signal.SIGINT, signal.SIG_IGN)
_loaded = Event()
_watch = Thread(target=end_with, args=(os.getppid(), _loaded))
_watch.start()
# What is loaded stays: rounds over it would be a sixth of the time.
gc.disable()

from graveljar.computing import works  # noqa: E402
from graveljar.core.analysis.band import end_threads  # noqa: E402
from graveljar.core.warmup import spare_the_lasting, warm  # noqa: E402

__all__ = ["works"]

warm()
# A fork takes no threads with it.
end_threads()
_loaded.set()
_watch.join()
spare_the_lasting()
