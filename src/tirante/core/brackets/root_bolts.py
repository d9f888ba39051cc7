"""Two bolts that hold the root of a plate arm, one behind the other along it, with the face they clamp it to.

Each bolt takes half of the pull; what pulls across turns the pair about its middle. Out of the plate's plane the bolts are a couple of
their own distance; what twists the plate is taken between the bolts and its edge, which presses as a triangle over half its
width. Not covered: friction of the clamped face (not counted on), prying of the face, fatigue of the bolts.

Source:
    Bolts as an elastic group: Shigley, ch. 8, shear joints with eccentric load (from memory); shear with tension EN 1993-1-8 Table 3.4
    without its partial factor (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

from tirante.core.brackets.bolt import BoltClass, sheared_and_pulled
from tirante.core.brackets.plate_arm import EyeForce
from tirante.core.errors import InputError

EDGE_LEVER = 1 / 3  # of the root's width, from its middle to where its edge presses


@dataclass(frozen=True, slots=True, kw_only=True)
class RootBolts:
    """Both bolts [mm]."""

    diameter: float
    apart: float  # of the two, along the arm
    reach: float  # from the eye to their middle
    width: float  # of the plate at its root

    def __post_init__(self) -> None:
        if self.apart < 2 * self.diameter:
            raise InputError(
                "The two bolts stand nearer than two of their diameters. Set them further apart.",
                code="contradictory", fields=("apart_mm",), value=self.apart,
            )  # fmt: skip
        if self.reach <= self.apart / 2:
            raise InputError("The eye stands over its bolts.", code="contradictory", fields=("reach_mm",))


@dataclass(frozen=True, slots=True, kw_only=True)
class BoltForces:
    """Of the bolt that has most of each [N]."""

    shear: float
    tension: float


def root_bolt_forces(bolts: RootBolts, force: EyeForce) -> BoltForces:
    """What the worse bolt takes: the one nearer to the eye.

    Args:
        bolts: both.
        force: at the eye.
    """
    lever = 0.5 + bolts.reach / bolts.apart  # the nearer one of a beam on two supports
    tension = abs(force.out) * lever + abs(force.along * force.off) / bolts.apart
    tension += abs(force.across * force.off) / 2 / (EDGE_LEVER * bolts.width)
    return BoltForces(shear=hypot(force.along / 2, force.across * lever), tension=tension)


def root_bolt_use(bolts: RootBolts, material: BoltClass, force: EyeForce) -> float:
    """How far the worse bolt is used: shear and tension together, or tension alone.

    Args:
        bolts: both.
        material: their class.
        force: at the eye, factored.
    """
    found = root_bolt_forces(bolts, force)
    return sheared_and_pulled(bolts.diameter, material, found.shear, found.tension)
