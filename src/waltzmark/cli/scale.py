"""The command ``scale``: a simulated scale on a local socket, for trying out what is done with a real one."""

from __future__ import annotations

import argparse
import contextlib
import json
import sys
from typing import Any

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


def run_scale(options: argparse.Namespace) -> int:
    """Runs ``scale`` until it is interrupted; 2 when it cannot listen. Raises WaltzmarkError."""
    shares = (options.bias, options.drift, 2 * options.sway, 2 * options.height)
    shares = (options.bias, options.drift, 2 * options.sway, 2 * options.height)
    if not (0.5 <= options.rate <= 200.0 and 1.0 <= options.mass <= 500.0 and max(map(abs, shares)) <= 100.0):
        raise WaltzmarkError("the rate lies between 0.5 and 200, the mass between 1 and 500, shares below 100")

    def person() -> Person:
        return Person(
            options.mass, options.bias / 100, options.sway / 100, options.drift / 100, seed=options.seed
        )  # fmt: skip

    try:
        server = make_server(person, Hello(options.plates, options.rate, options.height / 100, True), options.port)
    except ScaleError as error:
        print(f"waltzmark: {error}", file=sys.stderr)
        return 2
    # One line, so that whoever started it knows where it listens.
    print(json.dumps({"listening": HERE, "port": server.server_address[1]}), flush=True)
    with server, contextlib.suppress(KeyboardInterrupt):
        server.serve_forever()
    return 0
