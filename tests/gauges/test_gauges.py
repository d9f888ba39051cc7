"""Simulated gauges over the line, and what is refused of a thing that is none."""

from __future__ import annotations

import socketserver
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from statistics import mean, stdev

import pytest

from tirante.core.errors import InputError
from tirante.core.job.measured import Wanted, judge
from tirante.gauges.read import read
from tirante.gauges.simulated import CORNERS, Simulated, serving


@contextmanager
def on(server: socketserver.BaseServer) -> Iterator[int]:
    thread = threading.Thread(target=server.serve_forever, args=(0.01,), daemon=True)
    thread.start()
    try:
        yield server.server_address[1]  # type: ignore[misc]
    finally:
        server.shutdown()
        server.server_close()


def test_a_calliper_says_what_it_is_set_to_and_the_scales_four_corners() -> None:
    with on(serving(Simulated(sort="calliper", values=(372.18,)), 0)) as port:
        (found,) = read("calliper", port)
        assert (found.name, found.value, found.unit) == ("length", 372.18, "mm")
    weights = (312.5, 308.0, 271.5, 280.0)
    with on(serving(Simulated(sort="corner scales", values=weights), 0)) as port:
        corners = read("corner scales", port)
        assert {one.name: one.value for one in corners} == dict(zip(CORNERS, weights, strict=True))
        assert {one.unit for one in corners} == {"kg"}


def test_noise_and_drift_are_as_they_are_set() -> None:
    clock = iter(range(100_000))
    noisy = Simulated(sort="inclinometer", values=(2.0,), noise=0.5).answers(lambda: 0.0)
    read_off = [float(noisy().split()[1]) for _ in range(2000)]
    assert mean(read_off) == pytest.approx(2.0, abs=0.05)  # its standard error is 0.011
    assert stdev(read_off) == pytest.approx(0.5, rel=0.08)
    drifting = Simulated(sort="inclinometer", values=(0.0,), drift=60.0).answers(lambda: float(next(clock)))
    assert [float(drifting().split()[1]) for _ in range(3)] == [1.0, 2.0, 3.0]  # a degree a second


def test_a_gauge_in_the_wrong_unit_is_found_out_by_what_is_wanted() -> None:
    wanted = Wanted(key="length:a", sort="length", what="a", figure=372.18, tolerance=0.5)
    with on(serving(Simulated(sort="calliper", values=(372.2,), wrong_unit=True), 0)) as port:
        (found,) = read("calliper", port)
    assert found.value == pytest.approx(372.2 / 25.4, abs=0.005)
    assert "if it was read in inches" in judge(wanted, found.value).says


def _speaks(text: bytes) -> socketserver.TCPServer:
    class Line(socketserver.StreamRequestHandler):
        def handle(self) -> None:
            self.rfile.readline(64)
            self.wfile.write(text)

    return socketserver.ThreadingTCPServer(("127.0.0.1", 0), Line)


@pytest.mark.parametrize(
    ("text", "value", "unit"),
    [(b"length 1.5 in\nEND\n", 38.1, "mm"), (b"angle 0.1 rad\nEND\n", 5.7296, "deg"), (b"corner 100 lb\nEND\n", 45.3592, "kg"), (b"angle -3 deg\nEND\n", -3.0, "deg")],
)  # fmt: skip
def test_units_come_to_one(text: bytes, value: float, unit: str) -> None:
    # 25.4 mm and 0.45359237 kg by definition (1959); a radian is 180/pi deg
    with on(_speaks(text)) as port:
        (found,) = read("gauge", port)
    assert (found.value, found.unit) == (pytest.approx(value, abs=1e-4), unit)


@pytest.mark.parametrize("text", [b"", b"END\n", b"length 1e5 mm\nEND\n", b"length nan mm\nEND\n", b"length 5 furlong\nEND\n", b"length 5 mm\n", b"x" * 9000, b"<html>\nEND\n", b"\xff\xfe 5 mm\nEND\n"])  # fmt: skip
def test_what_does_not_speak_as_a_gauge_is_taken_for_none(text: bytes) -> None:
    with on(_speaks(text)) as port, pytest.raises(InputError) as error:
        read("calliper", port, wait=0.5)
    assert error.value.code in ("not_a_gauge", "no_answer")
