"""The command ``scale``: a simulated scale on a local socket, for trying out what is done with a real one."""

from __future__ import annotations

import argparse
import contextlib
import json
import socketserver
import sys
import threading
from typing import Any

from waltzmark.cli.saying import complain
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.practice.scales import Person
from waltzmark.files.scales import HERE, PORT, Hello, ScaleError, make_server

__all__ = ["run_scale", "scale_arguments"]


def scale_arguments(commands: Any) -> None:
    """Adds the command to the command line."""
    words = "a simulated scale on this machine: a person who sways, with a bias, on one plate or two"
    scale = commands.add_parser("scale", help=words, description=words)
    scale.add_argument("--port", type=int, default=PORT, metavar="N", help=f"where it listens, {PORT}; 0: a free one")
    scale.add_argument("--plates", type=int, choices=(1, 2), default=2, help="one plate, under the left foot, or two")
    for name, usual, words in (
        ("mass", 65.0, "kilograms"), ("bias", 0.0, "%% that they put on the left too much"),
        ("sway", 2.0, "%% that they sway by"), ("drift", 0.0, "%% that they drift to the left a minute"),
        ("rate", 10.0, "readings a second"), ("height", 0.0, "centimetres that the left plate is higher"),
    ):  # fmt: skip
        scale.add_argument(f"--{name}", type=float, default=usual, metavar="X", help=f"{words}, {usual:g}")
    scale.add_argument("--seed", type=int, default=1, metavar="N", help="the same one stands the same")
    # For what starts it and may crash: it ends when its input does.
    scale.add_argument("--until-input-ends", action="store_true", help=argparse.SUPPRESS)


def run_scale(options: argparse.Namespace) -> int:
    """Runs ``scale`` until it is interrupted; 2 when it cannot listen. Raises WaltzmarkError."""
    shares = (options.bias, options.drift, 2 * options.sway, 2 * options.height)
    small = all(abs(each) <= 100.0 for each in shares)  # each by itself: of several, one a NaN, the greatest is any
    if not (0.5 <= options.rate <= 200.0 and 1.0 <= options.mass <= 500.0 and small):
        raise WaltzmarkError("the rate lies between 0.5 and 200, the mass between 1 and 500, shares below 100")

    def person() -> Person:
        return Person(
            options.mass, options.bias / 100, options.sway / 100, options.drift / 100, seed=options.seed
        )  # fmt: skip

    try:
        server = make_server(person, Hello(options.plates, options.rate, options.height / 100, True), options.port)
    except ScaleError as error:
        complain(error)
        return 2
    # One line, so that whoever started it knows where it listens.
    print(json.dumps({"listening": HERE, "port": server.server_address[1]}), flush=True)
    if options.until_input_ends:
        threading.Thread(target=_watch, args=(server,), daemon=True).start()
    with server, contextlib.suppress(KeyboardInterrupt):
        server.serve_forever()
    return 0


def _watch(server: socketserver.BaseServer) -> None:
    """Ends it with its input, which ends with whoever started it, however that ended."""
    with contextlib.suppress(OSError, ValueError):
        while sys.stdin.buffer.read(1024):
            pass
    server.shutdown()
