import os
import sys

# Several requests are answered at once: each with one processor's arithmetic is sooner done than all waiting for each
# other's.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

from .cli import main

sys.exit(main())
