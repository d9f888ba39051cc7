"""A kind of suspension at a glance: its example end seen from ahead, from the left and a little from above, without any figure."""

from __future__ import annotations

from collections.abc import Sequence
from math import cos, pi, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Sheet
from tirante.core.suspension.shown.end_view import Point3, Posture, Stick, WheelShape

Array = NDArray[np.float64]
AROUND, ABOVE = 52.0, 24.0  # degrees from straight ahead to the left, and up
WIDTH, HEIGHT, EDGE = 60.0, 40.0, 2.0
RIM = 20  # corners of a wheel's outline


def _axes() -> Array:
    """To the right and up on the sheet, in the car (2, 3)."""
    a, e = AROUND * pi / 180, ABOVE * pi / 180
    right = np.array([-sin(a), cos(a), 0.0])
    eye = np.array([cos(e) * cos(a), cos(e) * sin(a), sin(e)])
    return np.array([right, np.cross(eye, right)])


def kind_sketch(name: str, title: str, posture: Posture, beam: bool) -> Drawing:
    """The sketch; of an independent end its left corner.

    Args:
        name: of the kind.
        title: of the kind.
        posture: of its example at ride height.
        beam: whether both wheels stand on one axle.
    """
    here = (lambda p: True) if beam else (lambda p: p[1] > -1.0)
    sticks = [s for s in posture.sticks if here(s.a) and here(s.b)]
    return _sketch(f"sketch of {name}", title, sticks, [w for w in posture.wheels if here(w.centre)])


def car_sketch(name: str, postures: Sequence[Posture]) -> Drawing:
    """All ends of a car together, as its job has them.

    Args:
        name: of the job.
        postures: of its ends at ride height, in the car's axes.
    """
    sticks = [stick for posture in postures for stick in posture.sticks]
    return _sketch("sketch", name, sticks, [wheel for posture in postures for wheel in posture.wheels])


def _sketch(name: str, title: str, sticks: Sequence[Stick], shapes: Sequence[WheelShape]) -> Drawing:
    axes = _axes()
    wheels = [_rims(w) for w in shapes]
    flat = [(axes @ np.array(s.a), axes @ np.array(s.b)) for s in sticks]
    rims = [[(axes @ np.array(p)) for p in rim] for pair in wheels for rim in pair]
    every = np.array([p for ends in flat for p in ends] + [p for rim in rims for p in rim])
    low, high = every.min(axis=0), every.max(axis=0)
    scale = float(min((WIDTH - 2 * EDGE) / (high[0] - low[0]), (HEIGHT - 2 * EDGE) / (high[1] - low[1])))
    middle = (low + high) / 2

    def at(p: Array) -> tuple[float, float]:
        x, y = (p - middle) * scale
        return round(float(x) + WIDTH / 2, 2), round(float(y) + HEIGHT / 2, 2)

    sheet = Sheet(name=name, title=title, width=WIDTH, height=HEIGHT)
    for rim in rims:
        sheet.area([at(p) for p in rim], "none", "thin", "muted")
    for stick, (a, b) in zip(sticks, flat, strict=True):
        sheet.line(at(a), at(b), "visible" if stick.thick else "thin", "blue" if stick.coil else "ink")
    return sheet.done()


def _rims(wheel: WheelShape) -> list[list[Point3]]:
    """The outlines of a wheel's two faces."""
    spin = np.array(wheel.spin) / np.linalg.norm(wheel.spin)
    one = np.cross(spin, (0.0, 0.0, 1.0))
    one /= np.linalg.norm(one)
    two = np.cross(spin, one)
    faces = []
    for side in (-0.5, 0.5):
        centre = np.array(wheel.centre) + spin * side * wheel.width
        turns = [2 * pi * k / RIM for k in range(RIM)]
        corners = [centre + wheel.radius * (cos(t) * one + sin(t) * two) for t in turns]
        faces.append([(float(x), float(y), float(z)) for x, y, z in corners])
    return faces
