"""A suspension end's side held as it stands: the drivers taken off, springs, stops or straps in their place.

What carries is given; `statics` finds which set of those that are met does.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from math import hypot
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.mechanism.model import Constraint, Distance, Mark
from tirante.core.mechanism.solve import Positions
from tirante.core.mechanism.statics import reference_of, where, wrench_of
from tirante.core.mechanism.system import Poses, System
from tirante.core.suspension import axle, measures
from tirante.core.suspension.assemble import ROLL, SIDES, TRAVEL, Assembled
from tirante.core.suspension.cycle import Solved, SolvedSide
from tirante.core.suspension.template import HingeJoint

Array = NDArray[np.float64]
Carrier = Literal["spring", "stop", "strap"]
VIRTUAL = 100.0  # mm: length of the strut that stands for a push along a line


@dataclass(frozen=True, slots=True, kw_only=True)
class JointForce:
    """What a joint puts on its first body, at its point now [mm, N, N·mm], car axes."""

    body: str
    on: str
    at: Array
    force: Array
    moment: Array


@dataclass(frozen=True, slots=True)
class Acting:
    """A force [N] and a moment [N·mm] on a body at a place [mm], car axes, and what puts it there."""

    what: str
    at: Array
    force: Array
    moment: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class Held:
    """One side, held as it stands."""

    side: SolvedSide
    suffix: str  # of names
    sign: float  # −1: mirrored
    system: System
    poses: Poses
    drives: Array
    springs: dict[str, str]  # constraint → name
    stops: dict[str, str]
    straps: dict[str, str]
    holds: dict[str, str]
    own: Array  # wrenches of springs that carry their own force, and of bars (unknowns)
    given: dict[str, float]  # springs that carry their own force, compression positive
    let_go: dict[
        str, tuple[Carrier, float]
    ]  # springs that carry all, though a stop or strap is met: which, and their own force
    bars: dict[str, float]

    names: frozenset[str]  # of the constraints
    spring_marks: dict[str, tuple[Mark, Mark]]
    wheels: dict[float, measures.WheelState] = field(default_factory=dict)  # by side, once asked for

    def wheel(self, side: float) -> measures.WheelState:
        """The wheel as it stands: 1 left, −1 right."""
        if side not in self.wheels:
            self.wheels[side] = measures.wheel_at(self.assembled, single_position(self), side)
        return self.wheels[side]

    @property
    def assembled(self) -> Assembled:
        return self.side.assembled


def hold(
    side: SolvedSide, lane: int, suffix: str, sign: float, holders: Mapping[str, Carrier], met: Mapping[str, Carrier], spring_n: Mapping[str, float],
    twist: Mapping[str, float],
) -> Held:  # fmt: skip
    """Take the drivers off a side and put in their place what carries it.

    Args:
        side: solved.
        lane: which of its positions.
        suffix: of names on this side.
        sign: −1 for a right corner, which is a mirrored left one.
        holders: by side of the car, the stop or strap that carries beyond the spring; a side that is not named stands on its spring.
        met: by side of the car, the stop or strap that is met there, whether it carries or not.
        spring_n: what each spring carries by itself, compression positive [N].
        twist: torque of every anti-roll bar's half [N·mm].

    Raises:
        InputError: a stop is to carry, and there is none.
    """
    assembled, solved = side.assembled, side.solved
    take = np.array([lane])
    poses, drives = solved.poses.take(take), solved.drives[:, take]
    driven = [c for c in assembled.mechanism.constraints if getattr(c, "drive", None) not in (TRAVEL, ROLL)]
    taken_off = [c for c in assembled.mechanism.constraints if getattr(c, "drive", None) in (TRAVEL, ROLL)]
    damper = assembled.end.damper
    springs: dict[str, str] = {}
    stops: dict[str, str] = {}
    straps: dict[str, str] = {}
    given: dict[str, float] = {}
    let_go: dict[str, tuple[Carrier, float]] = {}
    more: list[Constraint] = []
    sides = SIDES if assembled.beam else ("left",)
    rate = damper.rate_n_per_mm if damper else None
    spring_marks: dict[str, tuple[Mark, Mark]] = {}
    for name in sides:
        holder = holders.get(name, "spring")
        if damper:
            a, b = (assembled.place(place, name) for place in damper.places)
            label = _side_name("spring", name, assembled.beam, suffix)
            spring_marks[label] = (a, b)
            if holder != "spring":
                given[label] = spring_n.get(label, 0.0)
            else:
                # two springs on a beam that only leans hold it twice: they share alike
                stiffness = (rate or 1.0) if assembled.beam and not assembled.template.rises else None
                more.append(Distance(name=label, a=a, b=b, stiffness=stiffness))
                springs[label] = label
                if name in met and label in spring_n:
                    let_go[label] = (met[name], spring_n[label])
        if holder == "stop":
            label = _side_name("bump stop", name, assembled.beam, suffix)
            more.append(_strut(assembled, solved.system, poses, drives, label, name))
            stops[label] = label
        elif holder == "strap":
            strap = assembled.end.strap
            assert strap
            label = _side_name("strap", name, assembled.beam, suffix)
            a, b = (assembled.place(place, name) for place in (strap.a, strap.b))
            more.append(Distance(name=label, a=a, b=b))
            straps[label] = label
    holds = {}
    if not more:
        more = taken_off
        holds = {c.name: f"{c.name}, held{suffix}" for c in more}
    mechanism = replace(
        assembled.mechanism, constraints=(*driven, *more), drivers=tuple(d for d in assembled.mechanism.drivers)
    )
    # held by its springs alone it is the same mechanism wherever it stands: a stop's own strut moves with the position
    key = "|".join((f"{rate}", *springs)) if not stops and not straps and not given else None
    system = solved.system.others.get(key) if key else None
    if system is None:
        system = System(mechanism)
        if key:
            solved.system.others[key] = system
    # the bodies' origins may have moved with the marks: poses are told of them anew
    poses = _rebased(solved.system, system, poses)
    own = np.zeros(system.mechanism.unknowns)
    for label, push in given.items():
        a, b = spring_marks[label]
        pa, pb = (where(system, poses, drives, mark) for mark in (a, b))
        along = (pa - pb) / np.linalg.norm(pa - pb)
        own += wrench_of(system, poses, a.body, pa, push * along) + wrench_of(system, poses, b.body, pb, -push * along)
    bars = {}
    for bar in assembled.template.bars:
        for name in sides:
            label = _side_name(bar.name, name, assembled.beam, suffix)
            torque = twist.get(label, 0.0)
            bars[label] = torque
            hinge = next(joint for joint in assembled.template.joints if joint.name == bar.hinge)
            assert isinstance(hinge, HingeJoint)
            carrier_body, arm = assembled.body_on(hinge.on, name), assembled.body_on(bar.arm, name)
            one, two = (
                where(system, poses, drives, Mark(carrier_body, assembled.role(point, name).at))
                for point in hinge.points
            )
            moment = torque * (two - one) / np.linalg.norm(two - one)
            own += wrench_of(system, poses, arm, one, np.zeros(3), moment)
            own += wrench_of(system, poses, carrier_body, one, np.zeros(3), -moment)
    return Held(
        side=side, suffix=suffix, sign=sign, system=system, poses=poses, drives=drives, springs=springs, stops=stops, straps=straps,
        holds=holds, own=own, given=given, let_go=let_go, bars=bars, names=frozenset(name for name, _, _ in system.rows), spring_marks=spring_marks,
    )  # fmt: skip


def _side_name(name: str, side: str, beam: bool, suffix: str) -> str:
    return f"{name}, {side}" if beam else f"{name}{suffix}"


def _rebased(before: System, after: System, poses: Poses) -> Poses:
    """The same positions told of other body origins: where each origin is now."""
    r = poses.r.copy()
    for i in range(len(after.mechanism.bodies)):
        shift = after.origins[i] - before.origins[i]
        turned = np.einsum("ijl,j->il", poses.R[i], shift)
        r[i] = poses.r[i] + turned - shift[:, None]
    return Poses(r=r, R=poses.R.copy())


def _strut(assembled: Assembled, system: System, poses: Poses, drives: Array, label: str, side: str) -> Distance:
    """The bump stop as a strut along its axis, from its carrier to the pad."""
    stop = assembled.end.bump_stop
    if stop is None:
        raise InputError(
            "This end has no bump stop to carry the load. Give it one at Layout, under Stops.",
            code="missing", fields=("bump_stop",),
        )  # fmt: skip
    tip, pad = assembled.place(stop.tip, side), assembled.place(stop.pad, side)
    x, y, z = (v / hypot(*stop.axis) for v in stop.axis)
    axis = system.direction(poses, tip.body, (x, -y if side == "right" else y, z))[:, 0]
    at = where(system, poses, drives, tip)
    back = reference_of(system, poses, tip.body, at - VIRTUAL * axis)
    return Distance(
        name=label, a=Mark(tip.body, back), b=Mark(pad.body, reference_of(system, poses, pad.body, at)), length=VIRTUAL
    )


def bar_twist(done: Solved, name: str) -> Array:
    """How far the two ends of an anti-roll bar are twisted against each other [deg], by position.

    Mirrored corners turn alike in heave; on a beam the right half's line is the mirror image, so its turn counts back.

    Args:
        done: the solved end.
        name: of the bar.
    """
    if done.left.assembled.beam:
        turns = axle.bar_measures(done.left.assembled, done.left.solved, done.left.rest)
        one, two = (turns[f"{name}, {side}"]["arb_arm_turn_deg"] for side in SIDES)
        return np.asarray(one + two)
    one, two = (
        axle.bar_measures(side.assembled, side.solved, side.rest)[name]["arb_arm_turn_deg"]
        for side in (done.left, done.right or done.left)
    )
    return np.asarray(one - two)


def twists(done: Solved, lane: int) -> dict[str, float]:
    """Torque of every anti-roll bar's half about its line, from how far its two ends are twisted [N·mm].

    Args:
        done: the solved end.
        lane: which of its positions.
    """
    found: dict[str, float] = {}
    beam = done.left.assembled.beam
    for bar in done.left.assembled.template.bars:
        addition = done.end.additions.get(bar.addition or "")
        rate = (addition.rate_nm_per_deg if addition else None) or 0.0
        torque = -rate * 1000.0 * float(bar_twist(done, bar.name)[lane])
        found |= (
            {f"{bar.name}, left": torque, f"{bar.name}, right": torque}
            if beam
            else {bar.name: torque, f"{bar.name}, right": -torque}
        )
    return found


def single_position(one: Held) -> Positions:
    """The position as `measures` wants it.

    Args:
        one: the side, held.
    """

    return Positions(
        system=one.system, drives=one.drives, poses=one.poses, residual=np.zeros(1), status=np.zeros(1, dtype=np.int8), bind=None,
    )  # fmt: skip
