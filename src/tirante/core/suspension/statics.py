"""Forces through a suspension end at one position: links, joints, springs, stops, straps and anti-roll bar.

The drivers that moved the end are taken off and what carries it put in their place: the springs locked where they are, or,
on a side where a stop or strap is met, that, with the spring carrying its own force. A stop only pushes and a strap only
pulls: which of those that are met carry is found for each case (a linear complementarity problem of at most two, tried
whole), and no other set would do. Without a damper the wheel is held upright where it stands, and that is said. Of an
independent end each corner is a mechanism of its own; the right one stands mirrored.

Source:
    Virtual work on the mechanism's own Jacobian (derived; docs/methods.md, Forces in the mechanism).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import product
from math import hypot
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import PlaceIn
from tirante.core.errors import InputError
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import GROUND, Constraint, Distance, Mark
from tirante.core.mechanism.solve import CONVERGED, Positions
from tirante.core.mechanism.statics import Balance, balance, reference_of, where, wrench_of
from tirante.core.mechanism.system import Poses, System
from tirante.core.suspension import axle, measures
from tirante.core.suspension.assemble import ROLL, SIDES, STEERING_ARM, TRAVEL, Assembled
from tirante.core.suspension.cycle import Solved, SolvedSide
from tirante.core.suspension.template import HingeJoint, Joint, SpinJoint

Array = NDArray[np.float64]
Carrier = Literal["spring", "stop", "strap"]
_KINDS = ("axial", "ends", "bodies", "bind", "joints", "pivots", "springs", "holds", "stops", "straps", "bars", "on")
SLACK = 1e-7  # of a case's forces: a stop or strap that pulls or pushes less than this is only touched
VIRTUAL = 100.0  # mm: length of the strut that stands for a push along a line


@dataclass(frozen=True, slots=True, kw_only=True)
class Push:
    """A force [N] and a moment [N·mm] in car axes, at a place of an end.

    `at` is contact_left, wheel_centre_right …, or a point's name, with _left or _right where the end has it twice; `on` is
    the body, by default the wheel's, or the one that the template names with the point. `rolling`: the wheel turns freely,
    so that nothing about its spin axis is passed on.
    """

    at: str | None = None
    force: tuple[float, float, float] = (0.0, 0.0, 0.0)
    moment: tuple[float, float, float] = (0.0, 0.0, 0.0)
    on: str | None = None
    rolling: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """What acts at once."""

    name: str
    pushes: tuple[Push, ...]


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
class Forces:
    """One case, carried through an end. Names of an independent end's right corner end in ", right"."""

    name: str
    fault: InputError | None
    axial: dict[str, float]  # by link, tension positive [N]
    ends: dict[str, tuple[Array, Array]]  # by link: where its two ends are [mm]
    bodies: dict[str, tuple[str, str]]  # by link: the bodies at its two ends
    bind: dict[str, float]  # by link: what it carries unloaded, where the layout binds [N]
    joints: dict[str, JointForce]
    pivots: dict[
        str, JointForce
    ]  # of hinges by point: the hinge's force and moment as two forces, along its line halved
    springs: dict[str, float]  # compression positive [N]
    holds: dict[str, float]  # what stands for a spring that is not there [N, N·mm]
    stops: dict[str, float]  # compression positive [N]
    straps: dict[str, float]  # tension positive [N]
    bars: dict[str, float]  # torque of an anti-roll bar's half [N·mm]
    on: dict[str, list[Acting]]  # by moving body: all that acts on it
    applied: tuple[tuple[str, Array, Array], ...]  # where, at [mm], force [N]
    residual: float


@dataclass(frozen=True, slots=True, kw_only=True)
class _Held:
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
            self.wheels[side] = measures.wheel_at(self.assembled, _single(self), side)
        return self.wheels[side]

    @property
    def assembled(self) -> Assembled:
        return self.side.assembled


def forces(
    done: Solved, lane: int, cases: Sequence[Case], *, met: Mapping[str, Carrier] | None = None, spring_n: Mapping[str, float] | None = None
) -> list[Forces]:  # fmt: skip
    """Carry every case through the end as it stands at a solved position.

    Args:
        done: the solved end.
        lane: which of its positions.
        cases: what acts.
        met: by side ("left", "right"), a stop or strap that is met there; it carries what the spring does not, where it can.
        spring_n: of each spring ("spring", "spring, right" …) the compression it carries itself [N]; of one that is not named nothing is known,
            and a stop that is met beside it carries all.

    Raises:
        InputError: the position cannot be assembled; a place or body is unknown.
    """
    if done.status[lane] != CONVERGED:
        raise InputError(
            "The suspension cannot be put together at this position. Choose one nearer to ride height.",
            code="not_assembled", fields=("travel_mm",),
        )  # fmt: skip
    met, own, twist = met or {}, spring_n or {}, _twists(done, lane)
    parts = [
        _Side(
            done.left,
            lane,
            "",
            1.0,
            {n: c for n, c in met.items() if done.left.assembled.beam or n == "left"},
            own,
            twist,
        )
    ]
    if not done.left.assembled.beam:
        over = {"left": met["right"]} if "right" in met else {}
        parts.append(_Side(done.right or done.left, lane, ", right", -1.0, over, own, twist))
    return _carried(parts, cases)


class _Side:
    """One mechanism, with every set of stops and straps that may carry, each held when it is first asked for."""

    def __init__(
        self, side: SolvedSide, lane: int, suffix: str, sign: float, met: Mapping[str, Carrier], own: Mapping[str, float],
        twist: Mapping[str, float],
    ) -> None:  # fmt: skip
        self.what = side, lane, suffix, sign
        self.met, self.own, self.twist = dict(met), own, twist
        # all that is met carries; then with one let go; then with all
        self.sets = sorted(product((True, False), repeat=len(self.met)), key=lambda one: -sum(one))
        self._held: dict[tuple[bool, ...], _Held] = {}

    def held(self, which: tuple[bool, ...]) -> _Held:
        """The mechanism with that set carrying."""
        if which not in self._held:
            holders: dict[str, Carrier] = {
                name: carrier for (name, carrier), on in zip(self.met.items(), which, strict=True) if on
            }
            side, lane, suffix, sign = self.what
            self._held[which] = _hold(side, lane, suffix, sign, holders, self.met, self.own, self.twist)
        return self._held[which]


# --- holding ------------------------------------------------------------------------------------------------------------


def _hold(
    side: SolvedSide, lane: int, suffix: str, sign: float, holders: Mapping[str, Carrier], met: Mapping[str, Carrier], spring_n: Mapping[str, float],
    twist: Mapping[str, float],
) -> _Held:  # fmt: skip
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
    return _Held(
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


def _twists(done: Solved, lane: int) -> dict[str, float]:
    """Torque of every anti-roll bar's half about its line, from how far its two ends are twisted [N·mm]."""
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


# --- carrying -----------------------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class _Pushed:
    """What a push comes to on the mechanism that it acts on."""

    which: int
    body: str
    at: Array  # of that mechanism, mirrored as it is
    force: Array
    moment: Array
    acting: Acting
    applied: tuple[str, Array, Array] | None


def _pushed(held: list[_Held], push: Push) -> _Pushed:
    which, place, side = _placed(held, push)
    one = held[which]
    flip = np.array([1.0, one.sign, 1.0])
    force = np.array(push.force) * flip
    moment = np.array(push.moment) * flip * one.sign  # a moment is the other way round in a mirror
    body, at = place.body, place.at
    if push.rolling:
        state = one.wheel(-1.0 if side == "right" and one.assembled.beam else 1.0)
        spin = state.spin[:, 0]
        moment = moment - spin * float(spin @ cross(at - state.centre[:, 0], force))
    acting = Acting(push.at or "moment", at * flip, force * flip, moment * flip * one.sign)
    return _Pushed(which, body, at, force, moment, acting, (push.at, at * flip, force * flip) if push.at else None)


def _carried(sides: list[_Side], cases: Sequence[Case]) -> list[Forces]:
    """Every case, by whichever set of stops and straps carries it; those that one set carries are balanced at once."""
    first = [side.held(side.sets[0]) for side in sides]
    pushed = [[_pushed(first, push) for push in case.pushes] for case in cases]
    outs: list[dict[str, dict[str, Any]]] = [{key: {} for key in _KINDS} for _ in cases]
    faults: list[InputError | None] = [None] * len(cases)
    residuals = [0.0] * len(cases)
    for i, side in enumerate(sides):
        # a corner on which nothing acts is left out
        waiting = [
            n for n, acts in enumerate(pushed)
            if any(one.which == i for one in acts) or (not acts and i == 0) or any(first[i].bars.values())
        ]  # fmt: skip
        refused: dict[int, InputError] = {}
        for which in side.sets:
            if not waiting:
                break
            one = side.held(which)
            loads = np.tile(one.own[:, None], len(waiting))
            for column, n in enumerate(waiting):
                for act in pushed[n]:
                    if act.which == i:
                        loads[:, column] += wrench_of(one.system, one.poses, act.body, act.at, act.force, act.moment)
            found = balance(one.system, one.poses, one.drives, loads)
            reading = _Reading(one, found)
            left = []
            for column, n in enumerate(waiting):
                error = found.carried[column]
                if error is None and _one_sided(one, found, column):
                    residuals[n] = max(residuals[n], float(found.residual[column]))
                    _read(reading, column, outs[n])
                else:
                    left.append(n)
                    if error is not None:
                        refused.setdefault(n, error)
            waiting = left
        for n in waiting:
            faults[n] = faults[n] or refused.get(n) or InputError(
                "No set of stops and straps that only push and only pull carries this load. Look at where they stand at Layout, under Stops.",
                code="not_carried", fields=("bump_stop",),
            )  # fmt: skip
    made = []
    for case, acts, out, fault, residual in zip(cases, pushed, outs, faults, residuals, strict=True):
        for act in acts:
            out["on"].setdefault(f"{act.body}{first[act.which].suffix}", []).append(act.acting)
        applied = tuple(act.applied for act in acts if act.applied)
        made.append(Forces(name=case.name, fault=fault, applied=applied, residual=residual, **out))
    return made


def _one_sided(one: _Held, found: Balance, column: int) -> bool:
    """Whether stops push, straps pull, and what was let go would have had nothing to do."""
    least = -SLACK * max(1.0, float(np.abs(found.forces[:, column]).max(initial=0.0)))
    pushes = [-float(found.of(name)[0, column]) for name in one.stops]
    pulls = [float(found.of(name)[0, column]) for name in one.straps]
    for label, (carrier, own) in one.let_go.items():
        beyond = -float(found.of(label)[0, column]) - own  # what the spring is asked for beyond its own force
        pushes.append(-beyond if carrier == "stop" else beyond)
    return min(pushes + pulls, default=0.0) >= least


def _single(one: _Held) -> Positions:
    """The position as `measures` wants it."""

    return Positions(
        system=one.system, drives=one.drives, poses=one.poses, residual=np.zeros(1), status=np.zeros(1, dtype=np.int8), bind=None,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Place:
    body: str
    at: Array


def _placed(held: list[_Held], push: Push) -> tuple[int, _Place, str]:
    """Which side a push is on, at which body and where, in that side's own (mirrored) frame.

    Raises:
        InputError: there is no such place or body.
    """
    beam = held[0].assembled.beam
    name = push.at or push.on or ""
    side = "right" if name.endswith("_right") or (push.on or "").endswith("_right") else "left"
    which = 0 if beam or side == "left" else 1
    one = held[which]
    assembled = one.assembled
    near = side if beam else "left"
    wheel = assembled.wheel(-1.0 if near == "right" else 1.0)
    stem = name.removesuffix(f"_{side}")
    on = push.on.removesuffix(f"_{side}") if push.on else None
    if push.at is None:
        body = _body(one, on or "", near)
        return which, _Place(body, where(one.system, one.poses, one.drives, Mark(body, (0.0, 0.0, 0.0)))), side
    if stem in ("contact", "wheel_centre"):
        state = one.wheel(-1.0 if near == "right" else 1.0)
        at = (state.contact if stem == "contact" else state.centre)[:, 0]
        return which, _Place(_body(one, on, near) if on else wheel.body, at), side
    mark = assembled.marks.get(f"{stem}_{near}", assembled.marks.get(stem))
    if mark is None and stem in assembled.end.points:  # a place beside the joints: of the damper, stop, strap …
        mark = next((assembled.place(p, near) for p in _own_places(assembled) if p.point == stem), None)
        if mark is None and on:
            x, y, z = assembled.end.points[stem]
            mark = Mark(_body(one, on, near), (x, -y if near == "right" else y, z))
    if mark is None:
        known = sorted({"contact_left", "contact_right", "wheel_centre_left", "wheel_centre_right", *assembled.marks})
        raise InputError(
            f"There is no place “{push.at}” for a force. There are: {', '.join(known)}.",
            code="unknown_place", fields=("at",), value=push.at,
        )  # fmt: skip
    if on:
        mark = replace(mark, body=_body(one, on, near))
    elif mark.body == GROUND:
        moving = _moving_there(one, mark)
        mark = replace(mark, body=moving) if moving else mark
    at = where(one.system, one.poses, one.drives, replace(mark, drive=mark.drive if mark.body == GROUND else None))
    return which, _Place(mark.body, at), side


def _own_places(assembled: Assembled) -> Iterator[PlaceIn]:
    end = assembled.end
    for thing in (end.damper, end.strap):
        if thing:
            yield thing.a
            yield thing.b
    if end.bump_stop:
        yield end.bump_stop.pad
        yield end.bump_stop.tip


def _moving_there(one: _Held, mark: Mark) -> str | None:
    """A moving body that has a joint at a mark of the ground."""
    for constraint in one.system.mechanism.constraints:
        for name in ("a", "b", "mark"):
            other = getattr(constraint, name, None)
            if isinstance(other, Mark) and other.body != GROUND and np.allclose(other.at, mark.at, atol=1e-9):
                return other.body
    return None


def _body(one: _Held, name: str, side: str) -> str:
    if name == "wheel":
        return one.assembled.wheel(-1.0 if side == "right" else 1.0).body
    body = one.assembled.body_on(name, side)
    if body not in one.system.index or body == GROUND:
        known = ", ".join(one.system.mechanism.bodies)
        raise InputError(
            f"There is no body “{name}” here. There are: {known}.", code="unknown_body", fields=("on",), value=name
        )
    return body


@dataclass(frozen=True, slots=True, kw_only=True)
class _JointRead:
    """A joint under all cases: all its constraints together, on its first body."""

    name: str
    body: str
    on: str
    at: Array  # car axes [mm]
    forces: Array  # (3, cases)
    moments: Array
    hinge: tuple[tuple[str, Array], ...]  # key and place of a hinge's two ends
    raw: tuple[Array, Array, float]  # as the mechanism has them, and which way round
    pivot: str | None  # key among the pivots, of what stands on the ground


def _key(one: _Held, joint: Joint, point: str, side: str) -> str:
    """A point as the pivots name it."""
    return f"{point}_{side}" if one.assembled.beam and joint.pair else f"{point}{'_right' if one.suffix else ''}"


class _Reading:
    """What all cases that one set carries have in common: where things are, and forces of all of them at once."""

    def __init__(self, one: _Held, found: Balance) -> None:
        self.one, self.found = one, found
        self.flip = np.array([1.0, one.sign, 1.0])
        self.rows = {name: (row, count) for name, row, count in one.system.rows}
        self.struts = {c.name: c for c in one.system.mechanism.constraints}
        self._at: dict[Mark, Array] = {}
        self._on: dict[tuple[str, str, Mark], tuple[Array, Array]] = {}

    @cached_property
    def joints(self) -> list[_JointRead]:
        """Of every joint that is no link's: what it ties, and where."""
        one, made = self.one, []
        assembled = one.assembled
        for joint in assembled.template.joints:
            if joint.kind == "link":
                continue
            for side in SIDES if assembled.beam and joint.pair else ("left",):
                label = f"{joint.name}, {side}" if assembled.beam and joint.pair else joint.name
                parts = [name for name in (label, f"{label}, axis") if name in one.names]
                tied = [assembled.body_on(body, side) for body in joint.bodies_tied]
                back = -1.0 if tied[0] == GROUND else 1.0
                body, other = tied[:2] if back > 0 else tied[1::-1]
                if not parts or body == GROUND:
                    continue
                point = joint.place.point if joint.kind == "slider" else joint.places[0].point
                points = joint.points if isinstance(joint, HingeJoint) else ()
                mark = _on(one, point, side, body)
                forces, moments = self.on_body(parts, body, mark)
                flip = self.flip[:, None]
                pivots = point if not isinstance(joint, SpinJoint | HingeJoint) and GROUND in (body, other) else None
                made.append(_JointRead(
                    name=f"{label}{one.suffix}", body=body if back > 0 else other, on=other if back > 0 else body, at=self.at(mark) * self.flip,
                    forces=back * forces * flip, moments=back * moments * flip * one.sign,
                    hinge=tuple((_key(one, joint, p, side), self.at(_on(one, p, side, body))) for p in points), raw=(forces, moments, back),
                    pivot=_key(one, joint, pivots, side) if pivots else None,
                ))  # fmt: skip
        return made

    def at(self, mark: Mark) -> Array:
        """Where a mark is [mm]."""
        if mark not in self._at:
            self._at[mark] = where(self.one.system, self.one.poses, self.one.drives, mark)
        return self._at[mark]

    def of(self, constraint: str, column: int) -> float:
        """A constraint's first multiplier in a case."""
        return float(self.found.forces[self.rows[constraint][0], column])

    def on_body(self, constraints: Sequence[str], body: str, mark: Mark) -> tuple[Array, Array]:
        """Force and moment about a mark that constraints together put on a body, each (3, cases)."""
        key = ("|".join(constraints), body, mark)
        if key not in self._on:
            each = [self.found.on_body(name, body, self.at(mark)) for name in constraints]
            self._on[key] = sum(force for force, _ in each), sum(moment for _, moment in each)  # type: ignore[assignment]
        return self._on[key]


def _read(seen: _Reading, column: int, out: dict[str, dict[str, Any]]) -> None:
    one, at, flip = seen.one, seen.at, seen.flip
    assembled, suffix = one.assembled, one.suffix
    solved = one.side.solved
    for link in assembled.links:
        name = f"{link.name}{suffix}"
        tension = out["axial"][name] = seen.of(link.name, column)
        _pulls(out, suffix, name, link.a, link.b, at(link.a) * flip, at(link.b) * flip, tension)
        out["ends"][name] = (at(link.a) * flip, at(link.b) * flip)
        out["bodies"][name] = (link.a.body, link.b.body)
    if solved.bind is not None:
        rows = {name: row for name, row, _ in solved.system.rows}
        lane = _lane_of(one)
        for link in assembled.links:
            row = rows[link.name]
            force = float(solved.bind[row, lane] * solved.system.stiffness[row])
            if abs(force) > 1e-6:
                out["bind"][f"{link.name}{suffix}"] = force
    for kind, of, sense in (("springs", one.springs, -1.0), ("stops", one.stops, -1.0), ("straps", one.straps, 1.0)):
        for constraint, name in of.items():
            tension = seen.of(constraint, column)
            out[kind][name] = sense * tension
            strut = seen.struts[constraint]
            assert isinstance(strut, Distance)
            _pulls(out, suffix, name, strut.a, strut.b, at(strut.a) * flip, at(strut.b) * flip, tension)
    for name, push in one.given.items():
        out["springs"][name] = push
        a, b = one.spring_marks[name]
        _pulls(out, suffix, name, a, b, at(a) * flip, at(b) * flip, -push)
    for constraint, name in one.holds.items():
        out["holds"][name] = seen.of(constraint, column)
    out["bars"] |= one.bars
    for joint in seen.joints:
        _joint(seen, column, joint, out)
    if STEERING_ARM in one.system.index and "steering arm" in seen.rows:
        _steering_arm(seen, column, out)


def _pulls(
    out: dict[str, dict[str, Any]], suffix: str, name: str, a: Mark, b: Mark, pa: Array, pb: Array, tension: float
) -> None:  # fmt: skip
    """What a link, spring or stop between two marks puts on the moving bodies at its ends."""
    along = (pb - pa) / np.linalg.norm(pb - pa)
    for mark, place, pull in ((a, pa, along), (b, pb, -along)):
        if mark.body != GROUND:
            out["on"].setdefault(f"{mark.body}{suffix}", []).append(Acting(name, place, tension * pull, np.zeros(3)))


def _steering_arm(seen: _Reading, column: int, out: dict[str, dict[str, Any]]) -> None:
    """What the car puts on the steering arm: at its pivot, and the moment that holds it."""
    one, flip = seen.one, seen.flip
    place = seen.at(_pivot(one))
    forces, moments = seen.on_body(
        ("steering arm", "steering arm, axis", "steering arm, turn"), STEERING_ARM, _pivot(one)
    )
    force, moment = forces[:, column], moments[:, column]
    out["joints"][f"steering arm{one.suffix}"] = JointForce(
        body=STEERING_ARM, on=GROUND, at=place * flip, force=force * flip, moment=moment * flip * one.sign
    )
    out["holds"][f"steering arm, turn{one.suffix}"] = seen.of("steering arm, turn", column)


def _pivot(one: _Held) -> Mark:
    steering = one.assembled.end.steering
    assert steering
    x, y, z = one.assembled.end.points[steering.pivot]
    return Mark(STEERING_ARM, (x, y, z))


def _lane_of(one: _Held) -> int:
    """Which of the side's positions it stands in."""
    same = (one.side.solved.drives == one.drives).all(axis=0)
    return int(np.flatnonzero(same)[0])


def _joint(seen: _Reading, column: int, joint: _JointRead, out: dict[str, dict[str, Any]]) -> None:
    """The force of a joint in a case."""
    suffix, flip = seen.one.suffix, seen.flip
    force, moment = joint.forces[:, column], joint.moments[:, column]
    made = out["joints"][joint.name] = JointForce(body=joint.body, on=joint.on, at=joint.at, force=force, moment=moment)
    for which, way in ((joint.body, 1.0), (joint.on, -1.0)):
        if which != GROUND:
            out["on"].setdefault(f"{which}{suffix}", []).append(Acting(joint.name, joint.at, way * force, way * moment))
    if joint.hinge:
        forces, moments, back = joint.raw
        shares = _two_pivots([at for _, at in joint.hinge], forces[:, column], moments[:, column])
        for (key, at), share in zip(joint.hinge, shares, strict=True):
            out["pivots"][key] = JointForce(
                body=joint.body, on=joint.on, at=at * flip, force=back * share * flip, moment=np.zeros(3)
            )
    elif joint.pivot:
        out["pivots"][joint.pivot] = made


def _on(one: _Held, point: str, side: str, body: str) -> Mark:
    """A point of the template as it moves with a body."""
    return Mark(body, one.assembled.role(point, side).at)


def _two_pivots(ends: list[Array], force: Array, moment: Array) -> tuple[Array, Array]:
    """A hinge's force at its first end and moment as forces at both ends; along the line, halved (it cannot be told)."""
    along = ends[1] - ends[0]
    length = float(np.linalg.norm(along))
    axis = along / length
    axial = axis * float(force @ axis)
    across = force - axial
    second = cross(moment, axis) / length  # (e1 → e2) × F2 = M, F2 square to the line
    return across - second + axial / 2, second + axial / 2
