"""The line to a scale, and the simulated one that ships."""

from __future__ import annotations

import contextlib
import json
import socket
import subprocess
import sys
import threading

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waltzmark.cli.main import run
from waltzmark.core.practice.balancing import Person, Reading
from waltzmark.files.scales import LONGEST, Hello, Lines, ScaleError, make_server, read_line


@pytest.mark.parametrize(
    ("line", "says"),
    [
        (b"nonsense", "scale.json"),
        (b"[1]", "scale.object"),
        (b"{}", "scale.no-time"),
        (b'{"t": "x"}', "scale.number"),
        (b'{"t": 1, "left": NaN}', "scale.number"),
        (b'{"t": 1, "left": -50}', "scale.reading"),
        (b'{"t": true}', "scale.number"),
        (b'{"scale": "x", "plates": 7}', "scale.plates"),
        (b"[" * 3000, "scale.json"),
        (b"x" * (LONGEST + 1), "scale.long"),
        (b'{"t": 1, "right": 1e4}', "scale.reading"),
        (b'{"t": ' + b"9" * 300 + b"}", "scale.number"),
        (b"\xff\xfe", "scale.json"),
    ],
)
def test_nonsense_of_a_scale_is_told(line: bytes, says: str) -> None:
    with pytest.raises(ScaleError, match=says):
        read_line(line)


def test_lines_of_a_scale_are_read_however_they_come() -> None:
    assert read_line(b'{"t": 1.5, "left": 30, "right": 35.5}') == Reading(1.5, 30.0, 35.5)
    assert read_line(b'{"t": 0, "left": 30, "more": 1}') == Reading(0.0, 30.0)
    assert read_line(b'{"scale": "a", "plates": 1, "rate": 20, "height": 0.02}') == Hello(1, 20.0, 0.02)


@given(st.lists(st.binary(max_size=30).filter(lambda b: b"\n" not in b)), st.lists(st.integers(1, 40)))
def test_what_comes_in_pieces_is_cut_into_the_same_lines(lines: list[bytes], sizes: list[int]) -> None:
    data, cut, found = b"".join(line + b"\n" for line in lines), Lines(), []
    for size in [*sizes, len(data) + 1]:
        found += cut.take(data[:size])
        data = data[size:]
    assert found == [line.strip() for line in lines if line.strip()]


def test_a_million_bytes_without_an_end_are_passed_over() -> None:
    cut = Lines()
    for _ in range(300):
        assert cut.take(b"x" * 4000) == [] and len(cut._rest) <= LONGEST
    assert cut.too_long == 1 and cut.take(b'xx\n{"t": 1}\n') == [b'{"t": 1}']


def test_the_simulated_scale_listens_on_this_machine_and_follows_a_target() -> None:
    server = make_server(lambda: Person(mass=60.0, sway=0.0, lag=0.05), Hello(2, 100.0, 0.0, True), 0)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    host, port = server.server_address[:2]
    assert host == "127.0.0.1"
    with server, socket.create_connection((host, port), timeout=5) as line:
        reader = line.makefile("rb")
        assert read_line(reader.readline()) == Hello(2, 100.0, 0.0, True)
        line.sendall(b'rubbish\n{"target": 7}\n{"target": true}\n{"target": 0.25}\n')
        readings = [read_line(reader.readline()) for _ in range(80)]
        last = readings[-1]
        assert isinstance(last, Reading) and last.left == pytest.approx(15.0, abs=0.5)
        assert last.left is not None and last.left + (last.right or 0.0) == pytest.approx(60.0, abs=0.05)
        with pytest.raises(ScaleError, match="scale.port"):
            make_server(Person, Hello(), port)
        server.shutdown()


def test_one_scale_has_a_few_listeners_and_a_thread_for_each() -> None:
    server = make_server(Person, Hello(2, 100.0, 0.0, True), 0)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    before = threading.active_count()
    with server, contextlib.ExitStack() as held:
        lines = [
            held.enter_context(socket.create_connection(("127.0.0.1", server.server_address[1]), timeout=5))
            for _ in range(24)
        ]
        heard = [bool(line.makefile("rb").readline()) for line in lines if _is_open(line)]
        assert 1 <= sum(heard) <= 8 and threading.active_count() - before <= 8
        server.shutdown()


def _is_open(line: socket.socket) -> bool:
    with contextlib.suppress(OSError):
        return bool(line.recv(1, socket.MSG_PEEK))
    return False


def test_the_stand_in_ends_with_whoever_started_it() -> None:
    starts = (
        "import subprocess, sys, time\n"
        "scale = subprocess.Popen([sys.executable, '-P', '-m', 'waltzmark', 'scale', '--port', '0', '--until-input-ends'],"
        " stdin=subprocess.PIPE, stdout=subprocess.PIPE)\n"
        "print(scale.stdout.readline().decode(), flush=True)\n"
        "time.sleep(60)\n"
    )
    with subprocess.Popen([sys.executable, "-c", starts], stdout=subprocess.PIPE) as starter:
        assert starter.stdout is not None
        port = json.loads(starter.stdout.readline())["port"]
        with socket.create_connection(("127.0.0.1", port), timeout=20) as line:
            starter.kill()
            reader = line.makefile("rb")
            # Until it is gone, in whichever way a line ends then; the time limit of the line tells where it is not.
            with contextlib.suppress(ConnectionError):
                while reader.readline():
                    pass


def test_the_command_tells_where_it_listens(capsys: pytest.CaptureFixture[str]) -> None:
    command = [
        sys.executable,
        "-m",
        "waltzmark",
        "scale",
        "--port",
        "0",
        "--plates",
        "1",
        "--bias",
        "4",
        "--rate",
        "50",
    ]
    scale = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    try:
        assert scale.stdout is not None
        said = json.loads(scale.stdout.readline())
        with socket.create_connection((said["listening"], said["port"]), timeout=5) as line:
            reader = line.makefile("rb")
            hello, reading = read_line(reader.readline()), read_line(reader.readline())
        assert hello == Hello(1, 50.0, 0.0, True) and isinstance(reading, Reading) and reading.right is None
    finally:
        scale.terminate()
        scale.wait()
    assert run(["scale", "--mass", "0"]) == 2 and run(["scale", "--port", "99999999"]) == 2
    assert len(capsys.readouterr().err.splitlines()) == 2
