import subprocess
import sys

LOOK = """
import os
from yellow_abacus.core.ground import money
import numpy as np
np.ones((900, 900)) @ np.ones((900, 900))
print(len(os.listdir("/proc/self/task")))
"""


def test_linear_algebra_stays_on_one_thread():
    told = subprocess.run([sys.executable, "-c", LOOK], capture_output=True, text=True, check=True, env={})
    assert told.stdout.strip() == "1"
