import os
import sys

# Several requests run at once: one thread of arithmetic each finishes sooner than many threads waiting for each
# other.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

from .cli import main

sys.exit(main())
