"""Simulated gauges: a calliper, an inclinometer, corner scales; with drift, noise and a wrong unit to be switched on."""

from __future__ import annotations

import argparse
import random
import socketserver
import sys
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from tirante.core.units import INCH
from tirante.gauges.read import LOOPBACK, PORTS, POUND

SHOWS = {"calliper": ("length", "mm", 2), "inclinometer": ("angle", "deg", 1), "corner scales": ("corner", "kg", 1)}
CORNERS = ("left front", "right front", "left rear", "right rear")
WRONG = {
    "mm": INCH,
    "deg": 57.29577951308232,
    "kg": POUND,
}  # what another unit is worth: it shows that one's figure under this one's name


@dataclass(frozen=True, slots=True, kw_only=True)
class Simulated:
    """What a gauge is set to."""

    sort: str
    values: tuple[float, ...]  # in its own unit
    noise: float = 0.0  # standard deviation of each reading
    drift: float = 0.0  # a minute
    wrong_unit: bool = False  # another unit's figure under its own unit's name
    seed: int = 1

    def answers(self, clock: Callable[[], float] = time.monotonic) -> Callable[[], str]:
        """What it answers whenever it is asked.

        Args:
            clock: seconds.
        """
        chance, began = random.Random(self.seed), clock()
        name, unit, places = SHOWS[self.sort]
        names = CORNERS if self.sort == "corner scales" else (name,)

        def one() -> str:
            off = self.drift * (clock() - began) / 60.0
            lines = []
            for what, value in zip(names, self.values, strict=True):
                shown = value + off + chance.gauss(0.0, self.noise)
                if self.wrong_unit:
                    shown /= WRONG[unit]
                lines.append(f"{what} {shown:.{places}f} {unit}")
            return "\n".join([*lines, "END", ""])

        return one


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True


def serving(gauge: Simulated, port: int) -> socketserver.ThreadingTCPServer:
    """It, on loopback alone; to be served by who asked.

    Args:
        gauge: what it is set to.
        port: 0: any that is free.
    """
    answer = gauge.answers()

    class Line(socketserver.StreamRequestHandler):
        timeout = 5

        def handle(self) -> None:
            asked: Any = self.rfile.readline(64)
            self.wfile.write(answer().encode() if asked.strip() == b"READ" else b"?\nEND\n")

    return _Server((LOOPBACK, port), Line)


def run_gauge(arguments: Sequence[str]) -> int:
    """Run a simulated gauge until it is stopped.

    Args:
        arguments: of the command line.
    """
    parser = argparse.ArgumentParser(prog="tirante gauge", description="A simulated gauge on this machine, for trying things out.")  # fmt: skip
    parser.add_argument("sort", choices=[name.replace(" ", "-") for name in SHOWS])
    parser.add_argument("--value", type=float, nargs="+", help="what it shows: mm, deg, or kg at left front, right front, left rear, right rear")  # fmt: skip
    parser.add_argument("--noise", type=float, default=0.0, help="standard deviation of a reading")
    parser.add_argument("--drift", type=float, default=0.0, help="a minute")
    parser.add_argument("--wrong-unit", action="store_true", help="shows inches as mm, radians as deg, pounds as kg")
    parser.add_argument("--port", type=int)
    given = parser.parse_args(arguments)
    sort = given.sort.replace("-", " ")
    usual = {"calliper": [100.0], "inclinometer": [0.0], "corner scales": [250.0, 250.0, 250.0, 250.0]}
    values = tuple(given.value or usual[sort])
    if len(values) != len(usual[sort]):
        parser.error(f"--value: the {sort} {'show four figures' if len(values) != 4 and len(usual[sort]) == 4 else 'shows one figure'}")  # fmt: skip
    gauge = Simulated(sort=sort, values=values, noise=given.noise, drift=given.drift, wrong_unit=given.wrong_unit)
    with serving(gauge, PORTS[sort] if given.port is None else given.port) as server:
        sys.stdout.write(f"The {sort} answers at port {server.server_address[1]} of this machine. Ctrl-C stops it.\n")
        sys.stdout.flush()
        try:
            server.serve_forever()
        except KeyboardInterrupt:
            return 0
    return 0
