"""A split clamp round a tube: two halves of thick plate drawn together by two bolts in the plate's plane, one half with the ear of a joint.

Axes, from the tube's middle: x across the tube, z toward the joint; the halves part at z = 0. What holds it is friction alone.
The halves are taken to press on the tube along one line each, at their crowns: least for what they grip, most for what bends them. The tube,
which yields until it lies in the bore, is taken as pressed evenly all round. Bolts are pulled by the joint as if nothing were clamped, the
torque wholly by the half without the ear; what presses the eared half onto the tube is not counted on.
Not covered: a tube bent by what pulls at the joint, a tube that is out of round, clamp lost as paint or a bore's marks settle, fatigue.

Source:
    Split hub with line contact, T = μ F d for the two halves together (Roloff/Matek, clamped hubs, from memory); a friction that turns takes its
    part of what draws the halves together, so μ/√(1 + μ²) is counted. Slip as EN 1993-1-8 (3.6) has it, without k_s (from memory).
    Tube under an even band of pressure: long thin shell, Timoshenko & Woinowsky-Krieger, ch. 15 (from memory). Halves: beams of straight axis.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, exp, hypot, pi, sin, sqrt

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.bolt import BoltClass, sheared_and_pulled
from tirante.core.brackets.slot import SLIP, SLIP_FACTOR
from tirante.core.errors import InputError

Array = NDArray[np.float64]
STEPS = 91  # places between a half's crown and where its bore ends that are looked at
POISSON = 0.3
FRICTION = SLIP / sqrt(1.0 + SLIP**2)  # of what draws the halves together, along the tube's skin


@dataclass(frozen=True, slots=True, kw_only=True)
class SplitClamp:
    """One clamp of a pair [mm]."""

    tube_od: float
    thickness: float  # of the plate, along the tube
    bolt: float  # that draws the halves together
    apart: float  # of such a bolt's middle from the tube's
    cap: float  # from the tube's middle to the back of the half without an ear
    shoulder: float  # from the tube's middle to where nuts lie on the eared half
    ear: float  # half of the ear's width there
    height: float  # from the tube's middle to the joint's hole
    hole: float  # of the joint

    def __post_init__(self) -> None:
        r = self.tube_od / 2
        for field, value, least in (("tube_od_mm", r, 0.0), ("thickness_mm", self.thickness, 0.0), ("bolt_mm", self.bolt, 0.0),
                                    ("apart_mm", self.apart, r), ("cap_mm", self.cap, r), ("height_mm", self.height - self.hole / 2, r)):  # fmt: skip
            if value <= least:
                raise InputError("A clamp goes round its tube: its bolts, its back and the joint’s hole stand outside that.", code="out_of_range", fields=(field,), value=value, limits=(least, None))  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class OnClamp:
    """What one clamp of a pair bears."""

    off: float  # straight off the tube, at most [N]; below 0: it presses
    turns: float  # about the tube [N·mm]
    along: float  # along the tube [N]


def shared(clamp: SplitClamp, spacing: float, pull: float, side: float, angle: float) -> OnClamp:
    """What the worse clamp of a pair bears: half of each, and of the side force, which acts at the joint, a couple between both.

    Args:
        clamp: either.
        spacing: between the middles of both, along the tube [mm].
        pull: square to the tube [N].
        side: along it, either way [N].
        angle: of the pull from the way off the tube to the joint [rad].
    """
    return OnClamp(
        off=pull * cos(angle) / 2 + abs(side) * clamp.height / spacing, turns=abs(pull * sin(angle)) / 2 * clamp.height, along=abs(side) / 2,
    )  # fmt: skip


def clamp_needed(clamp: SplitClamp, on: OnClamp) -> float:
    """With what each of its two bolts must draw the halves together, so that they neither slip nor leave the tube [N].

    Args:
        clamp: as it is.
        on: what it bears, factored.
    """
    off = max(0.0, on.off)
    grips = hypot(on.turns / (clamp.tube_od / 2), on.along) * SLIP_FACTOR / FRICTION
    return max(off / 2, (off + grips) / 4)


def bolt_pull(clamp: SplitClamp, on: OnClamp) -> float:
    """Of the bolt that is pulled most [N]: half of what pulls the halves apart, and all of what turns them.

    Args:
        clamp: as it is.
        on: what it bears, factored.
    """
    return max(0.0, on.off) / 2 + on.turns / (2 * clamp.apart)


def bolt_use(clamp: SplitClamp, material: BoltClass, on: OnClamp) -> float:
    """How far that bolt is used.

    Args:
        clamp: as it is.
        material: its class.
        on: what the clamp bears, factored.
    """
    return sheared_and_pulled(clamp.bolt, material, 0.0, bolt_pull(clamp, on))


def depths(clamp: SplitClamp, *, eared: bool) -> tuple[Array, Array]:
    """How deep a half is beside the tube, from its crown to where its bore ends: places across the tube, and metal there [mm].

    Under the ear no metal counts that stands further out than 45° from the shoulder's end, nor any beyond the joint's hole.

    Args:
        clamp: as it is.
        eared: of the eared half; else of the other.
    """
    r = clamp.tube_od / 2
    x = np.linspace(0.0, r, STEPS)
    bore = np.sqrt(np.maximum(0.0, r**2 - x**2))
    if not eared:
        return x, clamp.cap - bore
    out = clamp.shoulder + np.maximum(0.0, clamp.ear - x)
    under = clamp.height - np.sqrt(np.maximum(0.0, (clamp.hole / 2) ** 2 - x**2))
    return x, np.minimum(out, under) - bore


def half_stress(clamp: SplitClamp, tension: float, *, eared: bool) -> float:
    """A half bent between its two bolts over the tube's crown, where it is bent most [MPa].

    Args:
        clamp: as it is.
        tension: of each bolt [N].
        eared: of the eared half; else of the other.

    Raises:
        InputError: it has no metal left somewhere.
    """
    x, deep = depths(clamp, eared=eared)
    if float(deep.min()) <= 0:
        raise InputError("The half has no metal left over the tube. Set its nuts, its back or the joint’s hole further from the tube.", code="contradictory", fields=("shoulder_mm" if eared else "cap_mm",))  # fmt: skip
    return float((6 * tension * (clamp.apart - x) / (clamp.thickness * deep**2)).max())


def tube_stress(clamp: SplitClamp, wall: float, tension: float) -> float:
    """The tube squeezed evenly under the clamp, at its middle: round the tube and along it together, by von Mises [MPa].

    Args:
        clamp: as it is.
        wall: of the tube [mm].
        tension: of each bolt [N].
    """
    pressure = 2 * tension / (clamp.tube_od * clamp.thickness)
    beta = _decay(clamp, wall)
    half = beta * clamp.thickness / 2
    round_it = pressure * (clamp.tube_od / 2) / wall * (1 - exp(-half) * cos(half))
    bent = 6 * pressure / (2 * beta**2) * exp(-half) * sin(half) / wall**2
    # of both skins: pressed round the tube, bent along it one way and the other
    return max(_mises(-round_it + POISSON * way * bent, way * bent) for way in (1.0, -1.0))


def _decay(clamp: SplitClamp, wall: float) -> float:
    """How fast what a ring of force does to the tube dies out along it [1/mm]."""
    return float((3 * (1 - POISSON**2)) ** 0.25 / sqrt((clamp.tube_od - wall) / 2 * wall))


def dies_out(clamp: SplitClamp, wall: float) -> float:
    """How far beside the clamp what it does to the tube is less than a twentieth; nearer a tube's end is not as if it went on [mm].

    Args:
        clamp: as it is.
        wall: of the tube [mm].
    """
    return 3.0 / _decay(clamp, wall)


def _mises(one: float, two: float) -> float:
    return sqrt(one**2 - one * two + two**2)


def worst_share(
    clamp: SplitClamp, spacing: float, pull: float, side: float, angles: tuple[float, float]
) -> tuple[OnClamp, OnClamp]:
    """What asks for most clamp, and what pulls a bolt most, while the pull points between two angles, either way along its line.

    Args:
        clamp: either of the pair.
        spacing: between the middles of both [mm].
        pull: square to the tube [N].
        side: along it [N].
        angles: of the pull from the way off the tube to the joint, the least and the greatest [rad].
    """
    low, high = angles
    ways = np.linspace(low, high, max(2, round((high - low) * 180 / pi) + 1))
    ways = np.concatenate([ways, ways + pi])
    every = [shared(clamp, spacing, pull, side, float(way)) for way in (ways[_most(clamp, spacing, pull, side, ways, of)] for of in (0, 1))]  # fmt: skip
    return every[0], every[1]


def _most(clamp: SplitClamp, spacing: float, pull: float, side: float, ways: Array, of: int) -> int:
    """Of which way most clamp is asked for (0), or a bolt is pulled most (1): as `clamp_needed` and `bolt_pull`, all ways at once."""
    off = np.maximum(0.0, pull * np.cos(ways) / 2 + abs(side) * clamp.height / spacing)
    turns = np.abs(pull * np.sin(ways)) / 2 * clamp.height
    if of:
        return int((off / 2 + turns / (2 * clamp.apart)).argmax())
    grips = np.hypot(turns / (clamp.tube_od / 2), abs(side) / 2) * SLIP_FACTOR / FRICTION
    return int(np.maximum(off / 2, (off + grips) / 4).argmax())
