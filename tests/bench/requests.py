"""Many requests made up from the API's description: none fails, every answer is as described."""

import os
import subprocess
import sys

MANY = "200"
"""Sound ones, and as many unsound ones, of each thing that can be asked."""


def run() -> None:
    words = [sys.executable, "-m", "pytest", "-q", "tests/web/test_described.py"]
    subprocess.run(words, env=os.environ | {"MADE_UP_REQUESTS": MANY}, check=True)
