"""A suspension end's side held as it stands: the drivers taken off, springs, stops or straps in their place.

What carries is given; `statics` finds which set of those that are met does.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import hypot
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.template import HingeJoint
from tirante.core.errors import InputError
from tirante.core.mechanism.model import Mark
from tirante.core.mechanism.solve import rates
from tirante.core.mechanism.statics import Balance, Shared, Standing, Strut, strut_row
from tirante.core.mechanism.system import System
from tirante.core.suspension import axle, measures
from tirante.core.suspension.assemble import ROLL, SIDES, TRAVEL, Assembled
from tirante.core.suspension.cycle import Solved, SolvedSide
from tirante.core.suspension.limits import shared

Array = NDArray[np.float64]
Carrier = Literal["spring", "stop", "strap"]
SAME_LENGTH = 1e-9  # of the most that any spring lengthens: a way on which none does holds nothing
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
class Pose:
    """How a moving body stands against where it does at ride height: what takes a force in car axes to the body's own.

    Its own axes are the car's at ride height, of the left one of a pair: a right one is brought over as its mirror image.
    """

    turn: Array  # (3, 3) from its own axes to those of its mechanism
    origin: Array  # (3) [mm] of its own axes, in its mechanism
    corner: float  # −1: its mechanism is a right corner's, which stands mirrored in the car
    copy: float  # −1: it is the right one of a beam's two

    def own(self, act: Acting) -> Acting:
        """What acts, on the body as it stands at ride height on the left."""
        car, left = (np.array([1.0, sign, 1.0]) for sign in (self.corner, self.copy))
        return Acting(
            what=act.what, at=self.turn.T @ (act.at * car - self.origin) * left, force=self.turn.T @ (act.force * car) * left,
            moment=self.turn.T @ (act.moment * car * self.corner) * left * self.copy,
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class BarTorque:
    """What the twist of an anti-roll bar puts on the arm that turns with it; its carrier is given it back."""

    name: str
    arm: str
    carrier: str
    at: Array
    moment: Array  # (3) [N·mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class Held:
    """One side, held as it stands."""

    side: SolvedSide
    suffix: str  # of names
    sign: float  # −1: mirrored
    standing: Standing  # at all positions that are asked for
    lane: int  # which of them it stands in
    struts: tuple[Strut | Shared, ...]
    shared: tuple[Shared, ...]  # of those, springs that carry together
    springs: dict[str, str]  # strut → name
    stops: dict[str, str]
    straps: dict[str, str]
    holds: dict[str, str]
    own: Array  # wrenches of springs that carry their own force, and of bars (unknowns)
    given: dict[str, float]  # springs that carry their own force, compression positive
    let_go: dict[
        str, tuple[Carrier, float]
    ]  # springs that carry all, though a stop or strap is met: which, and their own force
    bars: dict[str, float]
    torques: tuple[BarTorque, ...]

    names: frozenset[str]  # of the constraints
    spring_marks: dict[str, tuple[Mark, Mark]]

    @property
    def system(self) -> System:
        """The mechanism."""
        return self.standing.system

    def at(self, mark: Mark) -> Array:
        """Where a mark is (3) [mm]."""
        return self.standing.at(mark, self.lane)

    def wrench(self, body: str, at: Array, force: Array, moment: Array) -> Array:
        """Coordinates of a force at a point, and of a moment, on a body (unknowns).

        Args:
            body: name of the body.
            at: where the force acts (3) [mm].
            force: (3) [N].
            moment: (3) [N·mm].
        """
        return self.standing.wrench(self.lane, body, at, force, moment)

    def wheel(self, side: float) -> tuple[Array, Array, Array]:
        """The wheel as it stands: centre, contact [mm] and spin axis (3); 1 left, −1 right."""
        return wheel_in(self.standing, self.assembled, self.lane, side)

    @property
    def assembled(self) -> Assembled:
        return self.side.assembled


def shares(standing: Standing, lane: int, met: Sequence[Strut], carry: Sequence[tuple[Strut, float]]) -> list[Shared]:
    """Springs that carry together: of every way that is left to the end, each as its rate times how far it lengthens on that way.

    That is what springs taken up together from nothing do; what yields besides (bushes, links) is not strained by them, as it is not by
    a single spring.

    Args:
        standing: the mechanism at its positions.
        lane: which of them.
        met: stops and straps that carry beside them; a way that would move one of these is none.
        carry: the springs, each with its rate [N/mm].
    """
    if not carry:
        return []
    ways = standing.kept.get("ways")
    if ways is None:
        drivers = [name for name in (TRAVEL, ROLL) if name in standing.driven]
        ways = standing.kept["ways"] = np.stack([rates(standing.solved, name) for name in drivers], axis=-1)
    free = ways[:, lane]
    if met:
        held = np.concatenate([strut_row(standing, lane, one) for one in met]) @ free
        free = free @ np.linalg.svd(held)[2][len(met) :].T
    longer = np.concatenate([strut_row(standing, lane, one) for one, _ in carry]) @ free
    parts = np.array([rate for _, rate in carry])[:, None] * longer
    size = np.abs(parts).max(axis=0, initial=0.0)
    return [
        Shared(f"springs together, {way + 1}", tuple((float(v), one) for v, (one, _) in zip(parts[:, way] / size[way], carry, strict=True)))
        for way in range(parts.shape[1]) if size[way] > SAME_LENGTH * size.max()
    ]  # fmt: skip


def tension_of(one: Held, found: Balance, label: str) -> Array:
    """Of a spring, stop or strap under all loads (loads) [N], whether it carries by itself or with others.

    Args:
        one: the side.
        found: its forces.
        label: of the strut.
    """
    if label in found.rows:
        return np.asarray(found.of(label)[0])
    if label not in one.springs:
        raise KeyError(label)
    out = np.zeros(found.forces.shape[1])
    for group in one.shared:
        out += sum(share for share, strut in group.parts if strut.name == label) * found.of(group.name)[0]
    return out


def standing_at(side: SolvedSide, lanes: Sequence[int]) -> Standing:
    """A side at some of its positions.

    Args:
        side: solved.
        lanes: which of its positions.
    """
    return Standing(side.solved.take(np.array(lanes, dtype=np.intp)), (TRAVEL, ROLL))


def wheel_in(standing: Standing, assembled: Assembled, lane: int, side: float) -> tuple[Array, Array, Array]:
    """A wheel's centre, contact [mm] and spin axis (3).

    Args:
        standing: the side.
        assembled: its mechanism with named marks.
        lane: which position.
        side: 1 left, −1 right.
    """
    state = standing.kept.get(side)
    if state is None:
        state = standing.kept[side] = measures.wheel_at(assembled, standing.solved, side)
    return state.centre[:, lane], state.contact[:, lane], state.spin[:, lane]


def hold(
    side: SolvedSide, standing: Standing, lane: int, suffix: str, sign: float, holders: Mapping[str, Carrier], met: Mapping[str, Carrier],
    spring_n: Mapping[str, float], twist: Mapping[str, float],
) -> Held:  # fmt: skip
    """Take the drivers off a side and put in their place what carries it.

    Args:
        side: solved.
        standing: it, at the positions that are asked for.
        lane: which of those.
        suffix: of names on this side.
        sign: −1 for a right corner, which is a mirrored left one.
        holders: by side of the car, the stop or strap that carries beyond the spring; a side that is not named stands on its spring.
        met: by side of the car, the stop or strap that is met there, whether it carries or not.
        spring_n: what each spring carries by itself, compression positive [N].
        twist: torque of every anti-roll bar's half [N·mm].

    Raises:
        InputError: a stop is to carry, and there is none.
    """
    assembled = side.assembled
    units = assembled.end.springs
    springs: dict[str, str] = {}
    stops: dict[str, str] = {}
    straps: dict[str, str] = {}
    given: dict[str, float] = {}
    let_go: dict[str, tuple[Carrier, float]] = {}
    more: list[Strut | Shared] = []
    sides = SIDES if assembled.beam else ("left",)
    # several that carry a side, and two on a beam that only leans, hold it more than once: they share as their rates and ratios
    # have it, and hold the end's own ways alone, as a single one does
    several = len(units) > 1 or (assembled.beam and not assembled.template.rises)
    spring_marks: dict[str, tuple[Mark, Mark]] = {}

    carry: list[tuple[Strut, float]] = []  # springs that share, with their rates

    def strut(label: str, a: Mark, b: Mark) -> Strut:
        return Strut(label, (a.body, b.body), (standing.at(a, lane), standing.at(b, lane)))

    for name in sides:
        holder = holders.get(name, "spring")
        for unit, damper in units.items():
            a, b = (assembled.place(place, name) for place in damper.places)
            label = _side_name(unit, name, assembled.beam, suffix)
            spring_marks[label] = (a, b)
            if holder != "spring":
                given[label] = spring_n.get(label, 0.0)
            else:
                if several:
                    carry.append((strut(label, a, b), damper.rate_n_per_mm or 1.0))
                else:
                    more.append(strut(label, a, b))
                springs[label] = label
                if name in met and label in spring_n:
                    let_go[label] = (met[name], spring_n[label])
        if holder == "stop":
            label = _side_name("bump stop", name, assembled.beam, suffix)
            more.append(_stop(assembled, standing, lane, label, name))
            stops[label] = label
        elif holder == "strap":
            ends = assembled.end.strap
            assert ends
            label = _side_name("strap", name, assembled.beam, suffix)
            more.append(strut(label, assembled.place(ends.a, name), assembled.place(ends.b, name)))
            straps[label] = label
    shared = shares(standing, lane, [one for one in more if isinstance(one, Strut)], carry)
    more += shared
    holds = {} if more else {name: f"{name}, held{suffix}" for name in standing.driven}
    own = np.zeros(standing.system.mechanism.unknowns)
    for label, push in given.items():
        a, b = spring_marks[label]
        pa, pb = standing.at(a, lane), standing.at(b, lane)
        along = (pa - pb) / np.linalg.norm(pa - pb)
        own += standing.wrench(lane, a.body, pa, push * along) + standing.wrench(lane, b.body, pb, -push * along)
    bars = {}
    torques: list[BarTorque] = []
    for bar in assembled.template.bars:
        for name in sides:
            label = _side_name(bar.name, name, assembled.beam, suffix)
            torque = twist.get(label, 0.0)
            bars[label] = torque
            hinge = next(joint for joint in assembled.template.joints if joint.name == bar.hinge)
            assert isinstance(hinge, HingeJoint)
            carrier_body, arm = assembled.body_on(hinge.on, name), assembled.body_on(bar.arm, name)
            one, two = (standing.at(Mark(carrier_body, assembled.role(point, name).at), lane) for point in hinge.points)
            moment = torque * (two - one) / np.linalg.norm(two - one)
            own += standing.wrench(lane, arm, one, np.zeros(3), moment)
            own += standing.wrench(lane, carrier_body, one, np.zeros(3), -moment)
            torques.append(BarTorque(label, arm, carrier_body, one, moment))
    return Held(
        side=side, suffix=suffix, sign=sign, standing=standing, lane=lane, struts=tuple(more), shared=tuple(shared), springs=springs, stops=stops, straps=straps,
        holds=holds, own=own, given=given, let_go=let_go, bars=bars, torques=tuple(torques), names=frozenset(standing.rows(not more)[1]), spring_marks=spring_marks,
    )  # fmt: skip


def _side_name(name: str, side: str, beam: bool, suffix: str) -> str:
    return f"{name}, {side}" if beam else f"{name}{suffix}"


def _stop(assembled: Assembled, standing: Standing, lane: int, label: str, side: str) -> Strut:
    """The bump stop as a strut along its axis, from its carrier to the pad."""
    stop = assembled.end.bump_stop
    if stop is None:
        raise InputError(
            "This end has no bump stop to carry the load. Give it one at Layout, under Stops.",
            code="missing", fields=("bump_stop",),
        )  # fmt: skip
    tip, pad = assembled.place(stop.tip, side), assembled.place(stop.pad, side)
    x, y, z = (v / hypot(*stop.axis) for v in stop.axis)
    axis = standing.way(tip.body, (x, -y if side == "right" else y, z), lane)
    at = standing.at(tip, lane)
    ends, link = (at - VIRTUAL * axis, at), assembled.pad_link(side)
    if link is None:
        return Strut(label, (tip.body, pad.body), ends)
    a, b = standing.at(link.a, lane), standing.at(link.b, lane)
    shares = shared(-axis, at, a, b)  # of a tension of one, as all is counted here: a stop pushes
    onto = tuple((mark.body, place, share) for mark, place, share in zip((link.a, link.b), (a, b), shares, strict=True))
    return Strut(label, (tip.body, link.name), ends, onto=onto)


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


def twists(done: Solved) -> dict[str, Array]:
    """Torque of every anti-roll bar's half about its line, from how far its two ends are twisted [N·mm], by position.

    Args:
        done: the solved end.
    """
    found: dict[str, Array] = {}
    beam = done.left.assembled.beam
    for bar in done.left.assembled.template.bars:
        addition = done.end.additions.get(bar.addition or "")
        rate = (addition.rate_nm_per_deg if addition else None) or 0.0
        torque = -rate * 1000.0 * bar_twist(done, bar.name)
        found |= (
            {f"{bar.name}, left": torque, f"{bar.name}, right": torque}
            if beam
            else {bar.name: torque, f"{bar.name}, right": -torque}
        )
    return found
