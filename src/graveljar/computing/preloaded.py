"""What all workers begin with: the process they are forked from loads it, and calls it, once."""

import gc

# What is loaded stays: rounds over it would be a sixth of the time.
gc.disable()

from graveljar.computing import works  # noqa: E402
from graveljar.core.analysis.band import end_threads  # noqa: E402
from graveljar.core.warmup import spare_the_lasting, warm  # noqa: E402

__all__ = ["works"]

warm()
# A fork takes no threads with it.
end_threads()
spare_the_lasting()
