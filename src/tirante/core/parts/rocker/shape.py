"""A rocker's plate: where its eyes lie round the pivot, and the outline that holds them, exact lines and arcs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import acos, atan2, cos, degrees, hypot, radians, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.parts.rocker import Rocker, RockerEye
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight
from tirante.core.parts.part import Misfit
from tirante.core.suspension.on_body import OnBody

Array = NDArray[np.float64]
SAME_WAY = 1e-9  # degrees: tangents that run alike
UPRIGHT = 0.9  # of a line that is so steep
FIT = 0.2  # mm that a bolt's hole is larger than the bolt; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class EyeAt:
    """An eye of the rocker in the plane of its plates, the pivot at 0."""

    eye: RockerEye
    words: str
    x: float  # [mm]
    y: float
    off: float  # off the middle of the plates, along the line it turns about [mm]

    @property
    def reach(self) -> float:
        """From the pivot [mm]."""
        return hypot(self.x, self.y)


@dataclass(frozen=True, slots=True, kw_only=True)
class RockerShape:
    """The rocker in the plane of its plates."""

    pivot: str  # its point
    at: Array  # of the pivot, in the body's own axes (3) [mm]
    axes: Array  # (3, 3) rows: two in the plates' plane, then the line it turns about
    eyes: tuple[EyeAt, ...]
    outline: Contour  # of one plate, bored for the boss


def shaped(rocker: Rocker, places: Sequence[OnBody]) -> RockerShape | list[Misfit]:
    """Where the eyes lie, and the plate round them; or what stands in the way.

    Args:
        rocker: as it is saved.
        places: of its body.
    """
    pivot = next((place for place in places if place.sort == "pivot" and place.bolt), None)
    if pivot is None or pivot.bolt is None:
        return [Misfit(field="body", message="Nothing says what it turns about: it is no rocker.")]
    at, turn = np.array(pivot.at), np.array(pivot.bolt) / np.linalg.norm(pivot.bolt)
    # drawn as it stands in the car, up upward; of one that turns about a line upright, outward upward
    up = np.array([0.0, 0.0, 1.0]) if abs(turn[2]) < UPRIGHT else np.array([0.0, 1.0, 0.0])
    second = up - turn * float(up @ turn)
    second /= np.linalg.norm(second)
    axes = np.array([np.cross(second, turn), second, turn])
    known = {place.point: place for place in places}
    wanted = [
        place for place in places if place.point != pivot.point and place.sort in ("link", "damper", "ball", "strap")
    ]
    missing = [place.words for place in wanted if all(eye.point != place.point for eye in rocker.eyes)]
    if missing:
        return [Misfit(field="eyes", message=f"It has no eye at {', '.join(missing)}. Put one in.")]
    unknown = [eye.point for eye in rocker.eyes if eye.point not in known or eye.point == pivot.point]
    if unknown:
        return [Misfit(field="eyes", message=f"Nothing stands on it at {', '.join(unknown)}. Take that eye out.")]
    if not rocker.eyes:
        return [Misfit(field="eyes", message="It has no eyes yet.")]
    local = {eye.point: axes @ (np.array(known[eye.point].at) - at) for eye in rocker.eyes}
    # the plates stand in the middle of what pulls at them
    middle = (max(p[2] for p in local.values()) + min(p[2] for p in local.values())) / 2
    eyes = tuple(
        EyeAt(eye=eye, words=known[eye.point].words, x=float(local[eye.point][0]), y=float(local[eye.point][1]), off=float(local[eye.point][2] - middle))
        for eye in rocker.eyes
    )  # fmt: skip
    for i, one in enumerate(eyes):
        if one.reach <= rocker.boss_mm / 2 + one.eye.pin_mm / 2 + 2.0:
            return [
                Misfit(
                    field=f"eyes.{i}",
                    message=f"{one.words} lies {one.reach:.1f} mm from the pivot, in the boss. Make the boss smaller, or move the point.",
                )
            ]
    outline = plate_outline([(0.0, 0.0, rocker.hub_mm), *((e.x, e.y, e.eye.head_mm) for e in eyes)])
    holes = (Hole(0.0, 0.0, rocker.boss_mm), *(Hole(e.x, e.y, e.eye.pin_mm + FIT) for e in eyes))
    return RockerShape(pivot=pivot.point, at=at, axes=axes, eyes=eyes, outline=Contour(edges=outline, holes=holes))


def plate_outline(circles: Sequence[tuple[float, float, float]]) -> tuple[Edge, ...]:
    """The outline that a band drawn tight round some circles has: arcs, and the lines that touch two of them, counter-clockwise.

    Args:
        circles: x, y and radius of each [mm]; none lies in another.
    """
    # from the circle that reaches lowest, always on to the one whose tangent turns least
    start = min(range(len(circles)), key=lambda i: (circles[i][1] - circles[i][2], circles[i][0]))
    heading, here = 0.0, start
    order: list[tuple[int, float, int]] = []
    for _ in range(2 * len(circles)):
        ways = [(_tangent(circles[here], circle), there) for there, circle in enumerate(circles) if there != here]
        turns = [((way - heading + SAME_WAY) % 360.0, way, there) for way, there in ways if way is not None]
        if not turns:
            break
        _, way, there = min(turns)
        if order and (here, there) == (order[0][0], order[0][2]):
            break
        order.append((here, way, there))
        heading, here = way, there
    if not order:
        x, y, r = circles[0]
        return (Curve(x, y, r, 0.0, 360.0),)
    edges: list[Edge] = []
    for k, (one, way, two) in enumerate(order):
        nx, ny = sin(radians(way)), -cos(radians(way))  # to the right of the way: outside
        (x1, y1, r1), (x2, y2, r2) = circles[one], circles[two]
        edges.append(Straight(x1 + r1 * nx, y1 + r1 * ny, x2 + r2 * nx, y2 + r2 * ny))
        following = order[(k + 1) % len(order)][1]
        turn = (following - way) % 360.0
        begin = way - 90.0
        edges.append(Curve(x2, y2, r2, begin, begin + turn))
    return tuple(edges)


def _tangent(one: tuple[float, float, float], two: tuple[float, float, float]) -> float | None:
    """Which way the line runs that touches two circles with both on its left [deg]; None where one holds the other."""
    dx, dy = two[0] - one[0], two[1] - one[1]
    apart, fall = hypot(dx, dy), one[2] - two[2]
    if apart <= abs(fall):
        return None
    # the outward normal makes acos(fall/apart) with the line of centres
    toward = degrees(atan2(dy, dx))
    return (toward - degrees(acos(fall / apart)) + 90.0) % 360.0
