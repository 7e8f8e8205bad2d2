"""A stand-in in a process of its own: run there, and started beside whoever asks it."""

import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from threading import Thread

from flask import Flask

from yellow_abacus.listening import listen


def run_standin(app: Flask, says: str, host: str, port: int, *, until_input_ends: bool = False) -> None:
    """A stand-in for a service outside, by itself. says: what it does. until_input_ends: it ends with whoever started
    it and holds its input.

    Raises AddressError.
    """
    server = listen(app, host, port)
    if until_input_ends:
        Thread(target=_end_with_input, daemon=True).start()
    print(f"{says} at http://{host}:{server.effective_port}/", flush=True)
    server.run()


def _end_with_input() -> None:
    sys.stdin.read()
    os._exit(0)


@contextmanager
def beside(standin: str, host: str = "127.0.0.1") -> Iterator[Callable[[], str]]:
    """A stand-in that starts in a process of its own, which ends with this one however that ends; what waits until it
    listens, and tells its address. standin: its command."""
    words = [sys.executable, "-m", "yellow_abacus", standin, "--host", host, "--port", "0", "--until-input-ends"]
    process = subprocess.Popen(words, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    told, input_ = process.stdout, process.stdin
    assert told is not None
    assert input_ is not None
    try:
        yield lambda: told.readline().strip().rpartition(" ")[2].rstrip("/")
    finally:
        input_.close()
        process.terminate()
