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
from waltzmark.core.practice.balancing import Person
from waltzmark.files.scales import HERE, PORT, Hello, ScaleError, make_server
from waltzmark.words.language import tr

__all__ = ["run_scale", "scale_arguments"]


def scale_arguments(commands: Any) -> None:
    """Adds the command to the command line."""
    words = tr("a simulated scale on this computer: a person who sways and leans, on one plate or two")
    scale = commands.add_parser("scale", help=words, description=words)
    scale.add_argument(
        "--port",
        type=int,
        default=PORT,
        metavar="N",
        help=tr("port to listen on (default {port}; 0 picks a free one)", port=PORT),
    )
    scale.add_argument(
        "--plates", type=int, choices=(1, 2), default=2, help=tr("one plate, under the left foot, or two")
    )
    for name, usual, words in (
        ("mass", 65.0, "kilograms"),
        ("bias", 0.0, tr("%% of extra weight on the left")),
        ("sway", 2.0, tr("%% of sway")),
        ("drift", 0.0, tr("%% of drift to the left per minute")),
        ("rate", 10.0, tr("readings per second")),
        ("height", 0.0, tr("how much higher the left plate is, in centimetres")),
    ):
        scale.add_argument(f"--{name}", type=float, default=usual, metavar="X", help=f"{words}, {usual:g}")
    scale.add_argument(
        "--seed", type=int, default=1, metavar="N", help=tr("random seed: the same seed sways the same way")
    )
    # For what starts it and may crash: it ends when its input does.
    scale.add_argument("--until-input-ends", action="store_true", help=argparse.SUPPRESS)


def run_scale(options: argparse.Namespace) -> int:
    """Runs ``scale`` until it is interrupted; 2 when it cannot listen. Raises WaltzmarkError."""
    shares = (options.bias, options.drift, 2 * options.sway, 2 * options.height)
    small = all(abs(each) <= 100.0 for each in shares)  # each by itself: of several, one a NaN, the greatest is any
    if not (0.5 <= options.rate <= 200.0 and 1.0 <= options.mass <= 500.0 and small):
        raise WaltzmarkError("cli.scale")

    def person() -> Person:
        return Person(options.mass, options.bias / 100, options.sway / 100, options.drift / 100, seed=options.seed)

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
