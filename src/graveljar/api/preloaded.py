"""What all workers begin with: imported once in the process that they are forked from.

Importing it loads all that computes and calls it once; and what the program's main module loads,
which each worker would load anew.
"""

import uvicorn

from graveljar.api import app
from graveljar.core.analysis.band import end_threads
from graveljar.core.warmup import spare_the_lasting, warm

__all__ = ["app", "uvicorn"]

warm()
# A fork takes no threads with it.
end_threads()
spare_the_lasting()
