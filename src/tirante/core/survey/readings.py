"""What is read on a car with a tape, a square, a string, an inclinometer: what a reading would be at given places, and how it changes with them.

A reading is of points by name. All lengths mm, angles rad; axes of the car: x forward, y left, z up (ISO 8855). What a
tape's end or a hole's edge adds to a reading is taken off before it gets here (`reduce`). Not covered: the sag and the
stretch of a tape, and the bow of a long string.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import atan2, hypot, pi
from typing import Literal

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Places = Mapping[str, Array]
Slopes = dict[str, Array]  # of a reading, by point: its change per mm of that point's x, y, z
View = Literal["front", "side", "top"]

AXES = {"x": np.array([1.0, 0.0, 0.0]), "y": np.array([0.0, 1.0, 0.0]), "z": np.array([0.0, 0.0, 1.0])}
# of each view what points to the right and up in it, so that an angle in it is counted as it is seen
VIEWS: Mapping[View, tuple[int, int]] = {"front": (1, 2), "side": (0, 2), "top": (0, 1)}
LEAST = 1e-6  # [mm] between two points, under which a line between them has no direction


@dataclass(frozen=True, slots=True, kw_only=True)
class Distance:
    """A tape from one point to another."""

    one: str
    other: str

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return self.one, self.other

    def at(self, places: Places) -> tuple[float, Slopes]:
        """The distance [mm], and its slopes [-].

        Args:
            places: of the points [mm].
        """
        away = places[self.other] - places[self.one]
        long = max(float(np.linalg.norm(away)), LEAST)
        unit = away / long
        return long, {self.one: -unit, self.other: unit}


@dataclass(frozen=True, slots=True, kw_only=True)
class Offset:
    """A height over the floor, or how far a point is from a square, a string or a plumb line: along an axis, from the datum or from another point."""

    point: str
    axis: Literal["x", "y", "z"]
    off: str | None = None  # None: the datum's own plane
    plane: float = 0.0  # [mm] at which that plane stands

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return (self.point,) if self.off is None else (self.point, self.off)

    def at(self, places: Places) -> tuple[float, Slopes]:
        """How far the point is along the axis [mm].

        Args:
            places: of the points [mm].
        """
        way = AXES[self.axis]
        away = places[self.point] - (places[self.off] if self.off else self.plane * way)
        slopes = {self.point: way} if self.off is None else {self.point: way, self.off: -way}
        return float(way @ away), slopes


@dataclass(frozen=True, slots=True, kw_only=True)
class ToLine:
    """From a point to the axis of a tube that two places tell, square to it."""

    point: str
    one: str
    other: str

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return self.point, self.one, self.other

    def at(self, places: Places) -> tuple[float, Slopes]:
        """How far the point is from the line [mm].

        Args:
            places: of the points [mm].
        """
        run = places[self.other] - places[self.one]
        long = max(float(np.linalg.norm(run)), LEAST)
        along = run / long
        away = places[self.point] - places[self.one]
        foot = float(along @ away)
        out = away - foot * along
        far = max(float(np.linalg.norm(out)), LEAST)
        unit = out / far
        share = foot / long
        return far, {self.point: unit, self.one: -(1 - share) * unit, self.other: -share * unit}


@dataclass(frozen=True, slots=True, kw_only=True)
class ToFace:
    """From a flat face to a point, square to it: a hub's face, told by its middle and a point straight out of it."""

    point: str
    face: str
    out: str

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return self.point, self.face, self.out

    def at(self, places: Places) -> tuple[float, Slopes]:
        """How far the point stands off the face, to its outside positive [mm].

        Args:
            places: of the points [mm].
        """
        run = places[self.out] - places[self.face]
        long = max(float(np.linalg.norm(run)), LEAST)
        normal = run / long
        away = places[self.point] - places[self.face]
        off = float(normal @ away)
        turned = (away - off * normal) / long
        return off, {self.point: normal, self.face: -normal - turned, self.out: turned}


@dataclass(frozen=True, slots=True, kw_only=True)
class Inclination:
    """How far a line rises from level: an inclinometer on a link, an axle's tube, a hub's face (along the line straight out of it)."""

    one: str
    other: str

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return self.one, self.other

    def at(self, places: Places) -> tuple[float, Slopes]:
        """The angle to the level, up positive from the first point on [rad], and its slopes [rad/mm].

        Args:
            places: of the points [mm].
        """
        x, y, z = places[self.other] - places[self.one]
        flat = max(hypot(x, y), LEAST)
        square = max(flat * flat + z * z, LEAST * LEAST)
        slope = np.array([-z * x / flat, -z * y / flat, flat]) / square
        return atan2(z, flat), {self.one: -slope, self.other: slope}


@dataclass(frozen=True, slots=True, kw_only=True)
class InView:
    """The way of a line as a view shows it: caster and pinion angle in the side view, toe in the top view."""

    one: str
    other: str
    view: View
    about: float = 0.0  # [rad] near which it is told, so that it does not jump by a turn

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return self.one, self.other

    def at(self, places: Places) -> tuple[float, Slopes]:
        """The angle from the view's first axis (side and top: forward; front: left) to its second [rad], and its slopes [rad/mm].

        Args:
            places: of the points [mm].
        """
        i, j = VIEWS[self.view]
        away = places[self.other] - places[self.one]
        square = max(float(away[i] ** 2 + away[j] ** 2), LEAST * LEAST)
        slope = np.zeros(3)
        slope[i], slope[j] = -away[j] / square, away[i] / square
        angle = atan2(away[j], away[i])
        return angle + 2 * np.pi * round((self.about - angle) / (2 * np.pi)), {self.one: -slope, self.other: slope}


@dataclass(frozen=True, slots=True, kw_only=True)
class Heading:
    """Where a toe bar on a hub's face points, told by the face's middle and a point straight out of it."""

    face: str
    out: str

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return self.face, self.out

    def at(self, places: Places) -> tuple[float, Slopes]:
        """From straight ahead, to the left positive [rad], and its slopes [rad/mm]; of either side of the car.

        Args:
            places: of the points [mm].
        """
        angle, slopes = InView(one=self.face, other=self.out, view="top").at(places)
        left = places[self.out][1] >= places[self.face][1]
        return angle - (pi / 2 if left else -pi / 2), slopes


STEP = 1e-3  # [mm] by which places are moved for the slopes of a swing


@dataclass(frozen=True, slots=True, kw_only=True)
class Swing:
    """By how much a wheel's camber is more turned out than turned in: a caster gauge's swing, by the axis that it turns about.

    The wheel stands straight ahead and upright before it is turned: its own camber and toe change the swing by less than a
    fiftieth of itself (camber of −3° to 1°, toe of half a degree; tested).
    """

    lower: str
    upper: str
    turn: float  # [rad] either way, as turn plates tell it: seen from above

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return self.lower, self.upper

    def at(self, places: Places) -> tuple[float, Slopes]:
        """Camber turned out less camber turned in [rad], and its slopes [rad/mm].

        Args:
            places: of the points [mm].
        """
        low, high = places[self.lower], places[self.upper]
        left = bool(low[1] >= 0)
        slopes = {self.lower: np.zeros(3), self.upper: np.zeros(3)}
        for i in range(3):
            step = np.zeros(3)
            step[i] = STEP
            slope = (self._grown(high + step - low, left) - self._grown(high - step - low, left)) / (2 * STEP)
            slopes[self.upper][i], slopes[self.lower][i] = slope, -slope
        return self._grown(high - low, left), slopes

    def _grown(self, axis: Array, left: bool) -> float:
        return camber_turned(axis, left, self.turn) - camber_turned(axis, left, -self.turn)


def camber_turned(axis: Array, left: bool, out: float) -> float:
    """Camber of a wheel that stood straight ahead and upright, turned about its axis until it points so far out [rad].

    Its axis of spin s = (0, ±1, 0) is turned by φ about k (Rodrigues): s cos φ + (k × s) sin φ + k (k·s)(1 − cos φ). From above
    it then lies `out` off square: a cos φ + b sin φ = c, of which the root nearer to no turn is taken.

    Args:
        axis: that it is turned about, from its lower point to its upper.
        left: whether it is the left wheel.
        out: how far its front points away from the car's middle, seen from above [rad].
    """
    k = axis / max(float(np.linalg.norm(axis)), LEAST)
    s = np.array([0.0, 1.0 if left else -1.0, 0.0])
    across, along = np.cross(k, s), float(k @ s) * k
    # square to where the spin axis should point from above: forward, turned with the wheel
    ahead = np.array([np.cos(out), np.sin(out) if left else -np.sin(out), 0.0])
    a, b, c = float(ahead @ (s - along)), float(ahead @ across), -float(ahead @ along)
    size = hypot(a, b)
    about = atan2(b, a)
    swing = np.arccos(min(1.0, max(-1.0, c / max(size, LEAST))))
    turned = min(((about + sign * swing + pi) % (2 * pi) - pi for sign in (1, -1)), key=abs)
    spin = s * np.cos(turned) + across * np.sin(turned) + along * (1 - np.cos(turned))
    return -float(np.arcsin(min(1.0, max(-1.0, float(spin[2])))))


@dataclass(frozen=True, slots=True, kw_only=True)
class Sum:
    """Several of these together, each times a factor: a difference of two heights, the toe of both wheels, the swing of a caster gauge."""

    terms: tuple[tuple[float, Single], ...]

    def points(self) -> tuple[str, ...]:
        """Those that it is of."""
        return tuple(dict.fromkeys(name for _, one in self.terms for name in one.points()))

    def at(self, places: Places) -> tuple[float, Slopes]:
        """Their sum, and its slopes.

        Args:
            places: of the points [mm].
        """
        total, slopes = 0.0, {name: np.zeros(3) for name in self.points()}
        for factor, one in self.terms:
            value, found = one.at(places)
            total += factor * value
            for name, slope in found.items():
                slopes[name] = slopes[name] + factor * slope
        return total, slopes


Single = Distance | Offset | ToLine | ToFace | Inclination | InView | Heading | Swing
Kind = Single | Sum


def is_angle(kind: Kind) -> bool:
    """Whether it is read in degrees.

    Args:
        kind: of a reading.
    """
    return isinstance(kind.terms[0][1] if isinstance(kind, Sum) else kind, Inclination | InView | Heading | Swing)


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One reading: of what, what was read, and how surely."""

    id: str
    of: Kind
    value: float  # [mm] or [rad]
    sd: float  # standard deviation [mm] or [rad]
    set_up: str = ""  # readings of one thing in one set-up share its error; "" is one of its own
