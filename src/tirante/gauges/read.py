"""Read a gauge on loopback: no other machine is asked, whatever it answers is looked at before it is taken."""

from __future__ import annotations

import re
import socket
from collections.abc import Mapping
from dataclasses import dataclass
from math import degrees, isfinite

from tirante.core.errors import InputError
from tirante.core.units import INCH

LOOPBACK = "127.0.0.1"
PORTS: Mapping[str, int] = {"calliper": 7801, "inclinometer": 7802, "corner scales": 7803}
WAIT = 2.0  # [s]
MOST = 2000  # bytes of an answer
POUND = 0.45359237  # kg, international avoirdupois pound of 1959
_TO = {"mm": ("mm", 1.0), "in": ("mm", INCH), "deg": ("deg", 1.0), "rad": ("deg", degrees(1.0)), "kg": ("kg", 1.0), "lb": ("kg", POUND)}  # fmt: skip
_LINE = re.compile(r"([a-z][a-z ]{0,30}) (-?\d{1,7}(?:\.\d{1,9})?) (mm|in|deg|rad|kg|lb)")


@dataclass(frozen=True, slots=True)
class Figure:
    """A figure that a gauge shows."""

    name: str
    value: float
    unit: str  # mm, deg or kg
    said: str  # the line as it came


def ports(text: str) -> dict[str, int]:
    """Gauges by name, each with its port on this machine.

    Args:
        text: as `calliper:7801,inclinometer:7802`; empty: those that ship.

    Raises:
        InputError: it is not written so.
    """
    if not text.strip():
        return dict(PORTS)
    found = {}
    for one in text.split(","):
        name, _, port = one.strip().rpartition(":")
        if not re.fullmatch(r"[a-z][a-z ]{0,30}", name) or not port.isdigit() or not 0 < int(port) < 65536:
            raise InputError(f"TIRANTE_GAUGES: “{one}” is no gauge. Write name:port, as calliper:7801, with commas between.", code="gauge", fields=("gauges",))  # fmt: skip
        found[name] = int(port)
    return found


def read(name: str, port: int, wait: float = WAIT) -> tuple[Figure, ...]:
    """What a gauge shows now.

    Args:
        name: of the gauge, for what is told.
        port: on this machine.
        wait: how long for [s].

    Raises:
        InputError: nothing answers, or what does is no gauge.
    """
    try:
        with socket.create_connection((LOOPBACK, port), timeout=wait) as line:
            line.settimeout(wait)
            line.sendall(b"READ\n")
            got = b""
            while not got.endswith(b"END\n") and len(got) <= MOST:
                more = line.recv(512)
                if not more:
                    break
                got += more
    except OSError as error:
        raise InputError(f"No {name} answers at port {port} of this machine. Switch it on, or start the simulated one: ./tirante gauge {name.replace(' ', '-')}.", code="no_answer", fields=("gauge",)) from error  # fmt: skip
    lines = got.decode("ascii", "replace").splitlines()
    matches = [_LINE.fullmatch(one) for one in lines[:-1]]
    if len(lines) < 2 or lines[-1] != "END" or not all(matches):
        raise InputError(f"What answers at port {port} does not speak as a gauge does. Read it by eye, and type what it shows.", code="not_a_gauge", fields=("gauge",))  # fmt: skip
    found = []
    for match in matches:
        assert match
        unit, factor = _TO[match[3]]
        value = float(match[2]) * factor
        assert isfinite(value)
        found.append(Figure(match[1], value, unit, match[0]))
    return tuple(found)
