"""Whoever answers can tell whether anybody waits for the answer any more."""

import socket
from threading import Event, Thread

from tests.ui.host import end
from yellow_abacus.listening import listen
from yellow_abacus.web.context import IS_GONE

PATIENCE = 20


def test_who_closed_the_connection_is_gone_while_the_answer_is_worked_out():
    asked, left = Event(), Event()

    def app(environ, start_response):
        asked.set()
        for _ in range(PATIENCE * 100):
            if environ[IS_GONE]():
                left.set()
                break
            left.wait(0.01)
        start_response("204 No Content", [])
        return []

    server = listen(app, "127.0.0.1", 0)
    thread = Thread(target=server.run, daemon=True)
    thread.start()
    try:
        with socket.create_connection(("127.0.0.1", server.effective_port)) as asking:
            asking.sendall(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
            assert asked.wait(PATIENCE)
            assert not left.wait(0.1)
        assert left.wait(PATIENCE)
    finally:
        end(server, thread)
