"""An anti-roll bar: a round bar on two bearings a side with an arm at either end, twisted by its drop links; its rate and its stresses.

One half, from the middle of the car to the drop link's joint, when both ends are pushed apart alike: the middle neither moves across nor
turns about the bar. The bar bends over its bearings, twists, and the arm bends (and twists, where it does not stand square). Not covered:
bearings that yield, the other half unlike, shear, large angles.

Source:
    Torsion and bending of round bars: Timoshenko; Roark (from memory); solved as a frame. Inner fibre of a bend: Shigley, ch. 3, curved beams
    (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import degrees, hypot, pi, radians, sqrt, tan

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.members.frame import frames, stiffness_of
from tirante.core.members.tube import Section

Array = NDArray[np.float64]
E, G = 205_000.0, 79_000.0  # MPa, steel; common values
Three = tuple[float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class FlatArm:
    """An arm of flat bar on edge [mm]."""

    height: float
    thickness: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TorsionBar:
    """One half of a bar [mm]."""

    half: float  # from the middle of the car to where the arm leaves the bar, along it
    bearing: float  # from there back to the bearing
    lever: float  # of the drop link's joint, square to the bar
    beyond: float  # how far that joint stands further out along the bar
    od: float
    wall: float | None = None  # None: solid
    arm: FlatArm | None = None  # None: bent of the bar
    bend_radius: float = 0.0  # at the bar's middle

    def __post_init__(self) -> None:
        if not 0 <= self.bearing < self.half:
            raise InputError("The bearing stands past the middle of the car. Put it nearer to the arm.", code="out_of_range", fields=("bearing_mm",), value=self.bearing, limits=(0.0, self.half))  # fmt: skip
        if self.lever < 1.0:
            raise InputError(
                "The drop link stands on the bar’s own line: its arm has no length.",
                code="zero_length",
                fields=("lever_mm",),
            )

    @property
    def section(self) -> Section:
        """Of the bar."""
        return Section(od=self.od, wall=self.wall)

    @property
    def arm_length(self) -> float:
        """From the bar to the drop link's joint."""
        return hypot(self.lever, self.beyond)

    @property
    def corner_deg(self) -> float:
        """How far the bar is bent into its arm."""
        return degrees(float(np.arctan2(self.lever, self.beyond)))

    @property
    def straight(self) -> float:
        """Of bar for a whole one with both arms bent of it, before it is bent; to the drop links' joints."""
        turn = radians(self.corner_deg)
        return 2 * (self.half + self.arm_length + self.bend_radius * (turn - 2 * tan(turn / 2)))


@dataclass(frozen=True, slots=True, kw_only=True)
class BarForces:
    """What a half carries: at the bearing and at the corner of the bar, and at the root of its arm [N·mm]."""

    torque: float  # in the middle of the car
    bearing: Three  # twisting, and bending about two axes, the larger of either side of it
    corner: Three
    arm: Three  # of the arm's own line
    moved: float  # of the drop link's joint, square to bar and arm [mm]
    held: tuple[float, float]  # what the bearing gives it: along the lever, and square to bar and lever [N]

    @property
    def on_bearing(self) -> float:
        """The same, square to the bar [N]."""
        return hypot(*self.held)


@lru_cache(maxsize=2048)
def _unit(bar: TorsionBar) -> tuple[Array, Array, float, Array]:
    """Bar forces (bars, 2 ends, 6, 3 loads) and torque in the middle, of a newton along each axis at the joint; its way along
    the third; and what the bearing gives, square to the bar (2, 3 loads)."""
    at = [0.0, bar.half - bar.bearing, bar.half] if bar.bearing > 1e-9 else [0.0, bar.half]
    nodes = np.array([[x, 0.0, 0.0] for x in at] + [[bar.half + bar.beyond, bar.lever, 0.0]])
    ends = [(i, i + 1) for i in range(len(nodes) - 1)]
    round_bar = stiffness_of(bar.section, E, G)
    stiffness = np.array([[round_bar] * len(ends)])
    if bar.arm:
        h, t = bar.arm.height, bar.arm.thickness
        stiffness[0, -1] = E * h * t, E * t * h**3 / 12, G * h * t**3 / 3
    held = np.zeros((len(nodes), 6), bool)
    held[0, :4] = True  # the middle neither moves nor turns about the bar; it leans as it will
    bearing = len(at) - (2 if bar.bearing > 1e-9 else 1)
    held[bearing, 1:3] = True
    loads = np.zeros((len(nodes), 6, 3))
    loads[-1, :3] = np.eye(3)
    found = frames(nodes, ends, stiffness, held, loads)
    return (
        found.bars[0],
        found.reactions[0, 0, 3],
        float(found.displacements[0, -1, 2, 2]),
        found.reactions[0, bearing, 1:3],
    )


def rate_of(bar: TorsionBar) -> float:
    """Torque for each degree that its two ends are twisted, as the drop links' joints have it [N·m/°]."""
    moved = _unit(bar)[2]  # of each joint for a newton
    torque, twist = bar.lever, 2 * moved / bar.lever  # N·mm and rad
    return torque / degrees(twist) / 1000


def bar_forces(bar: TorsionBar, force: Three) -> BarForces:
    """What a half carries under its drop link.

    Args:
        bar: half of it.
        force: of the drop link on the arm: along the bar outward, along the lever, square to both [N].
    """
    bars, middle, moved, on_bearing = _unit(bar)
    own = bars @ np.array(force)
    across, square = on_bearing @ np.array(force)

    def three(element: int, end: int) -> Three:
        t, m, n = (float(v) for v in own[element, end, 3:6])
        return t, m, n

    count = len(own)
    corner, arm = three(count - 2, 1), three(count - 1, 0)
    bearing = max((three(0, 1), three(count - 2, 0)), key=lambda one: hypot(*one[1:])) if count == 3 else corner
    return BarForces(
        torque=float(middle @ np.array(force)),
        bearing=bearing,
        corner=corner,
        arm=arm,
        moved=moved * force[2],
        held=(float(across), float(square)),
    )


def round_stress(section: Section, carried: Three, bent_more: float = 1.0) -> tuple[float, float]:
    """Bending and torsion stress of a round bar [MPa].

    Args:
        section: of the bar.
        carried: twisting, and bending about two axes [N·mm].
        bent_more: factor on the bending, of a bend's inner fibre.
    """
    c, second = section.od / 2, section.second_moment
    return hypot(*carried[1:]) * c / second * bent_more, abs(carried[0]) * c / (2 * second)


def inner_fibre(od: float, radius: float) -> float:
    """How much more the inner fibre of a bent round bar is stressed in bending than a straight one; exact for a solid one (Winkler).

    Args:
        od: of the bar [mm].
        radius: of the bend, at its middle [mm].

    Raises:
        InputError: the bend is tighter than the bar is thick.
    """
    r = od / 2
    if radius <= r:
        raise InputError("The bar cannot be bent on a radius under half its diameter.", code="out_of_range", fields=("bend_radius_mm",), value=radius, limits=(r, None))  # fmt: skip
    neutral = r * r / (2 * (radius - sqrt(radius * radius - r * r)))
    away = radius - neutral
    inner = (neutral - (radius - r)) / (pi * r * r * away * (radius - r))
    return float(inner * pi * r**3 / 4)
