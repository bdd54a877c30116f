"""Scales on a local socket: JSON lines, one reading a line; and the simulated scale that ships with Waltzmark.

docs/scales.md tells the protocol, so that a real device can be put in its place.
"""

from __future__ import annotations

import contextlib
import json
import select
import socket
import socketserver
import threading
import time
from collections.abc import Callable
from typing import Any

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import Record
from waltzmark.core.practice.balancing import Person, Reading

__all__ = ["HERE", "LONGEST", "PORT", "Hello", "Lines", "ScaleError", "make_server", "read_line"]

HERE, PORT = "127.0.0.1", 47_630
LONGEST = 4096  # bytes of a line
_MOST = 1e9  # of seconds and kilograms: thirty years, and no scale
_LISTENERS = 8  # at once; one is what it is for


class ScaleError(WaltzmarkError):
    """A line that no scale should send; its text says what is wrong with it."""


class Hello(Record):
    """What a scale says of itself first. plates: one or two; rate: readings a second; height: metres by which the
    plates differ, the left one higher; simulated: whether it is the stand-in."""

    plates: int = 2
    rate: float = 10.0
    height: float = 0.0
    simulated: bool = False


def read_line(line: bytes) -> Reading | Hello:
    """What a line of a scale says. Raises ScaleError."""
    if len(line) > LONGEST:
        raise ScaleError("scale.long", most=LONGEST)
    try:
        values = json.loads(line)
    except (ValueError, RecursionError):
        raise ScaleError("scale.json") from None
    if not isinstance(values, dict):
        raise ScaleError("scale.object")
    if "scale" in values:
        plates = values.get("plates", 2)
        if plates not in (1, 2):
            raise ScaleError("scale.plates")
        rate, height = (_number(values, name, usual) for name, usual in (("rate", 10.0), ("height", 0.0)))
        return Hello(plates, rate or 10.0, height or 0.0, values.get("simulated") is True)
    if "t" not in values:
        raise ScaleError("scale.no-time")
    try:
        return Reading(_number(values, "t", 0.0) or 0.0, _number(values, "left"), _number(values, "right"))
    except WaltzmarkError as error:
        raise ScaleError(error.message) from None


def _number(values: dict[str, object], name: str, usual: float | None = None) -> float | None:
    value = values.get(name, usual)
    if value is None:
        return None
    if isinstance(value, bool) or not isinstance(value, int | float) or not abs(value) <= _MOST:  # NaN is neither
        raise ScaleError("scale.number", name=name)
    return float(value)


class Lines:
    """Cuts what comes over a socket into lines; one that is too long is passed over as a whole, and counted."""

    def __init__(self) -> None:
        self._rest = b""
        self._skipping = False
        self.too_long = 0

    def take(self, data: bytes) -> list[bytes]:
        """The lines that are whole now."""
        found = (self._rest + data).split(b"\n")
        self._rest = found.pop()
        if self._skipping and found:
            found.pop(0)
            self._skipping = False
        if len(self._rest) > LONGEST:
            self.too_long += not self._skipping
            self._rest, self._skipping = b"", True
        return [line.strip() for line in found if line.strip()]


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True
    person: Callable[[], Person]
    hello: Hello

    def __init__(self, address: tuple[str, int], handler: type[socketserver.BaseRequestHandler]) -> None:
        self._room = threading.BoundedSemaphore(_LISTENERS)
        super().__init__(address, handler)

    def verify_request(self, request: object, client_address: object) -> bool:
        return self._room.acquire(blocking=False)  # one too many is let go at once

    def process_request_thread(self, request: Any, client_address: Any) -> None:
        try:
            super().process_request_thread(request, client_address)
        finally:
            self._room.release()

    def handle_error(self, request: object, client_address: object) -> None:
        """A listener that goes is nothing to tell."""


class _Standing(socketserver.StreamRequestHandler):
    """One connection: a person of its own, who stands as long as somebody listens."""

    server: _Server

    def handle(self) -> None:
        person, hello = self.server.person(), self.server.hello
        begun = last = time.monotonic()
        lines = Lines()
        with contextlib.suppress(OSError):
            self._send(
                {
                    "scale": "waltzmark",
                    "version": 1,
                    "plates": hello.plates,
                    "unit": "kg",
                    "rate": hello.rate,
                    "height": hello.height,
                    "simulated": True,
                }
            )
            while True:
                if not self._listen_until(last + 1.0 / hello.rate, lines, person):
                    return
                now = time.monotonic()
                left, right = person.stand(now - last)
                last = now
                values: dict[str, object] = {"t": round(now - begun, 3), "left": round(left, 2)}
                if hello.plates == 2:
                    values["right"] = round(right, 2)
                self._send(values)

    def _send(self, values: dict[str, object]) -> None:
        self.wfile.write(json.dumps(values).encode() + b"\n")
        self.wfile.flush()

    def _listen_until(self, end: float, lines: Lines, person: Person) -> bool:
        """Follows what it is told, ``{"target": 0.3}``, the share of the left foot; whether somebody still listens."""
        told: list[socket.socket] = [self.connection]
        while (left := end - time.monotonic()) > 0.0:
            if not select.select(told, (), (), left)[0]:
                continue
            data = self.connection.recv(1024)
            if not data:
                return False
            for line in lines.take(data):
                target = _target(line)
                if target is not None:
                    person.target = target
        return True


def _target(line: bytes) -> float | None:
    """The share that a line of a listener asks for; None where it asks for none."""
    try:
        values = json.loads(line)
    except (ValueError, RecursionError):
        return None
    target = values.get("target") if isinstance(values, dict) else None
    if isinstance(target, bool) or not isinstance(target, int | float) or not 0.0 <= target <= 1.0:
        return None
    return float(target)


def make_server(person: Callable[[], Person], hello: Hello, port: int = PORT) -> _Server:
    """A simulated scale that listens on this machine only; port 0 takes a free one. Raises ScaleError."""
    try:
        server = _Server((HERE, port), _Standing)
    except (OSError, OverflowError) as error:
        reason = getattr(error, "strerror", None) or str(error)
        raise ScaleError("scale.port", port=str(port), reason=reason) from None
    server.person, server.hello = person, hello
    return server
