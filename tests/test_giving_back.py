"""Memory nobody uses goes back to the system."""

import subprocess
import sys

import pytest

HELD = """
import numpy as np
from pathlib import Path
from yellow_abacus.giving_back import give_back, share_pools

def megabytes():
    return int(Path("/proc/self/status").read_text().split("VmRSS:")[1].split()[0]) // 1024

share_pools()
kept = [np.ones(4_000) for _ in range(6_000)]  # below what the system is asked for apart
last = kept[-1]
before = megabytes()
del kept
held = megabytes()
give_back()
print(before, held, megabytes())
"""


@pytest.mark.skipif(sys.platform != "linux", reason="another C library")
def test_what_was_let_go_below_something_kept_goes_back():
    told = subprocess.run([sys.executable, "-c", HELD], capture_output=True, text=True, check=True).stdout
    before, held, after = map(int, told.split())
    assert held > before - 100, "the C library keeps it by itself"
    assert after < before - 100
