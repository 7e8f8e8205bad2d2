"""Run by `make bench`; with a name, one of PARTS, only that part."""

import sys

from tests.bench import against_slow, big_batch, browser, core_speed, file_speed, requests, writers

PARTS = {
    "carts": against_slow.run,
    "big": big_batch.run,
    "costs": big_batch.everything,
    "core": core_speed.run,
    "files": file_speed.run,
    "browser": browser.run,
    "writers": writers.run,
    "requests": requests.run,
}

for name in sys.argv[1:] or PARTS:
    print(f"\n{name}", flush=True)
    PARTS[name]()
