"""A web application listening on waitress, a production server that needs nothing besides Python."""

import logging
from typing import Any

import waitress
from waitress.channel import HTTPChannel
from waitress.task import ErrorTask

LOOPBACK = frozenset(["127.0.0.1", "localhost", "::1"])
"""What a machine calls itself."""

THREADS = 16
"""Most of them only wait: who computes when is the calculator's to say."""
CONNECTIONS = 2_000
"""Open at once. One that says nothing costs a thread nothing, and is closed after SILENCE seconds."""
SILENCE = 30

SAFE_HEADERS = {
    "X-Content-Type-Options": "nosniff",
    "Content-Security-Policy": (
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'"
    ),
    "Referrer-Policy": "same-origin",
}
"""On every answer, whatever it is."""


class AddressError(Exception):
    """The server cannot listen where it was told to; the message says why."""


class _ErrorTask(ErrorTask):
    """The server's own answers to what is no request at all, with the headers all answers have."""

    def execute(self) -> None:
        self.response_headers.extend(SAFE_HEADERS.items())
        super().execute()


class _Channel(HTTPChannel):
    error_task_class = _ErrorTask


def listen(app: Any, host: str, port: int) -> Any:
    """A server that listens and does not answer yet: call its `run`. port 0 takes a free one, `effective_port`.

    Raises AddressError.
    """
    try:
        server = waitress.create_server(
            app,
            host=host,
            port=port,
            threads=THREADS,
            connection_limit=CONNECTIONS,
            channel_timeout=SILENCE,
            cleanup_interval=5,
            asyncore_use_poll=True,
            channel_request_lookahead=1,  # else it does not look whether who waits for an answer has gone
            ident="",
        )
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or "there is no such address"
        raise AddressError(f"{host}:{port} cannot be listened on: {why}. Choose another with --port.") from error
    server.channel_class = _Channel
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    return server
