"""Run by `make bench`; with a name, one of PARTS, only that part. Ends with 1 if a bar is missed."""

import subprocess
import sys

from tests.bench import (
    advice_speed,
    against_slow,
    better_plans,
    big_batch,
    browser,
    core_speed,
    file_speed,
    held_forecasts,
    large_browser,
    large_shop,
    learning,
    many_orders,
    past_windows,
    requests,
    side_by_side,
    writers,
)
from tests.bench.timing import missed

PARTS = {
    "carts": against_slow.run,
    "big": big_batch.run,
    "costs": big_batch.everything,
    "core": core_speed.run,
    "advice": advice_speed.run,
    "memory": core_speed.memory,
    "large": large_shop.run,
    "million": big_batch.million,
    "windows": past_windows.run,
    "learning": learning.run,
    "held": held_forecasts.run,
    "side by side": side_by_side.run,
    "better": better_plans.run,
    "better large": better_plans.large,
    "files": file_speed.run,
    "orders": many_orders.run,
    "browser": browser.run,
    "browser large": large_browser.run,
    "writers": writers.run,
    "requests": requests.run,
}

if sys.argv[1:]:
    for name in sys.argv[1:]:
        print(f"\n{name}", flush=True)
        PARTS[name]()
    if missed:
        print(f"\nmissed: {'; '.join(missed)}", flush=True)
    sys.exit(bool(missed))

each = [subprocess.run([sys.executable, "-m", "tests.bench", name]) for name in PARTS]  # so each has its own memory
sys.exit(any(part.returncode for part in each))
