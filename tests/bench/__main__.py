"""Run by `make bench`; with a name (`carts`, `big`, `costs`, `core`, `files`, `browser`) only that part."""

import sys

from tests.bench import against_slow, big_batch, browser, core_speed, file_speed

PARTS = {
    "carts": against_slow.run,
    "big": big_batch.run,
    "costs": big_batch.everything,
    "core": core_speed.run,
    "files": file_speed.run,
    "browser": browser.run,
}

for name in sys.argv[1:] or PARTS:
    print(f"\n{name}", flush=True)
    PARTS[name]()
