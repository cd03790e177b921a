"""`python -m graveljar`: what bin/start runs once all is set up."""

import gc
import sys

from graveljar.computing.begin import begin

if __name__ == "__main__":
    # What is loaded stays: rounds over it would be a sixth of the time.
    gc.disable()
    # It loads what computes while this process loads what serves.
    begin()
    from graveljar.serve import main

    sys.exit(main())
