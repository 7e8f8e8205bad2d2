"""Yellow Abacus: what an offer will do to a store's profit, before it is launched."""

import os

__version__ = "0.1.0"

for _name in ("OPENBLAS", "OMP", "MKL"):  # read when numpy is first imported, which always comes after this
    os.environ.setdefault(f"{_name}_NUM_THREADS", "1")
"""Linear algebra stays on one thread: on a busy machine its threads spin waiting for each other, and a forecast's few
products take longer on several. Blocks of carts run on threads of our own (`core/blocks`)."""
