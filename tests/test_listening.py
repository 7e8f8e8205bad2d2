"""Whoever answers can tell whether anybody waits for the answer any more."""

import socket
from contextlib import ExitStack
from os import SEEK_END
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


def test_who_wakes_a_server_after_its_end_writes_into_no_file_that_is_opened_then(tmp_path):
    server = listen(lambda *_: [], "127.0.0.1", 0)
    thread = Thread(target=server.run, daemon=True)
    thread.start()
    end(server, thread)
    with ExitStack() as opened:  # under the numbers of what was closed
        files = [opened.enter_context((tmp_path / str(at)).open("w+b", buffering=0)) for at in range(20)]
        server.pull_trigger()
        assert [one.seek(0, SEEK_END) for one in files] == [0] * len(files)
