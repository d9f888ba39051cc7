"""Forces through a suspension end at one position: links, joints, springs, stop and anti-roll bar.

The drivers that moved the end are taken off and what carries it put in their place: the springs locked where they are,
or the bump stop with the spring carrying its own force. Without a damper the wheel is held upright where it stands, and
that is said. Of an independent end each corner is a mechanism of its own; the right one stands mirrored.

Source:
    Virtual work on the mechanism's own Jacobian (derived; docs/methods.md, Forces in the mechanism).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import hypot
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import PlaceIn
from tirante.core.errors import InputError
from tirante.core.mechanism.model import GROUND, Constraint, Distance, Mark
from tirante.core.mechanism.solve import CONVERGED, Positions
from tirante.core.mechanism.statics import Balance, balance, reference_of, where, wrench_of
from tirante.core.mechanism.system import Poses, System
from tirante.core.suspension import axle, measures
from tirante.core.suspension.assemble import ROLL, SIDES, STEERING_ARM, TRAVEL, Assembled
from tirante.core.suspension.cycle import Solved, SolvedSide
from tirante.core.suspension.template import HingeJoint, Joint, SpinJoint

Array = NDArray[np.float64]
Carrier = Literal["spring", "stop"]
_KINDS = ("axial", "ends", "bodies", "bind", "joints", "pivots", "springs", "holds", "stops", "bars", "on")
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
    holds: dict[str, str]
    own: Array  # wrenches of springs that carry their own force, and of bars (unknowns)
    given: dict[str, float]  # springs that carry their own force, compression positive
    bars: dict[str, float]

    names: frozenset[str]  # of the constraints
    spring_marks: dict[str, tuple[Mark, Mark]]

    @property
    def assembled(self) -> Assembled:
        return self.side.assembled


def forces(
    done: Solved, lane: int, cases: Sequence[Case], *, carrier: Carrier = "spring", spring_n: dict[str, float] | None = None
) -> list[Forces]:  # fmt: skip
    """Carry every case through the end as it stands at a solved position.

    Args:
        done: the solved end.
        lane: which of its positions.
        cases: what acts.
        carrier: what takes what is left: the springs, or the bump stops with the springs carrying `spring_n`.
        spring_n: of each spring ("spring", "spring, right" …) the compression it carries itself [N].

    Raises:
        InputError: the position cannot be assembled; a place or body is unknown.
    """
    if done.status[lane] != CONVERGED:
        raise InputError(
            "The suspension cannot be put together at this position. Choose one nearer to ride height.",
            code="not_assembled", fields=("travel_mm",),
        )  # fmt: skip
    twist = _twists(done, lane)
    held = [_hold(side, lane, "", 1.0, carrier, spring_n or {}, twist) for side in (done.left,)]
    if not done.left.assembled.beam:
        other = done.right or done.left
        held.append(_hold(other, lane, ", right", -1.0, carrier, spring_n or {}, twist))
    return [_carried(held, case) for case in cases]


# --- holding ------------------------------------------------------------------------------------------------------------


def _hold(
    side: SolvedSide, lane: int, suffix: str, sign: float, carrier: Carrier, spring_n: dict[str, float], twist: dict[str, float]
) -> _Held:  # fmt: skip
    assembled, solved = side.assembled, side.solved
    take = np.array([lane])
    poses, drives = solved.poses.take(take), solved.drives[:, take]
    driven = [c for c in assembled.mechanism.constraints if getattr(c, "drive", None) not in (TRAVEL, ROLL)]
    taken_off = [c for c in assembled.mechanism.constraints if getattr(c, "drive", None) in (TRAVEL, ROLL)]
    damper = assembled.end.damper
    springs: dict[str, str] = {}
    stops: dict[str, str] = {}
    more: list[Constraint] = []
    sides = SIDES if assembled.beam else ("left",)
    rate = damper.rate_n_per_mm if damper else None
    spring_marks: dict[str, tuple[Mark, Mark]] = {}
    for name in sides if damper else ():
        assert damper
        a, b = (assembled.place(place, name) for place in damper.places)
        label = _side_name("spring", name, assembled.beam, suffix)
        spring_marks[label] = (a, b)
        # two springs on a beam that only leans hold it twice: they share alike
        stiffness = (rate or 1.0) if assembled.beam and not assembled.template.rises else None
        if carrier == "spring":
            more.append(Distance(name=label, a=a, b=b, stiffness=stiffness))
            springs[label] = label
    if carrier == "stop":
        for name in sides:
            label = _side_name("bump stop", name, assembled.beam, suffix)
            more.append(_strut(assembled, solved.system, poses, drives, label, name))
            stops[label] = label
    holds = {}
    if not more:
        more = taken_off
        holds = {c.name: f"{c.name}, held{suffix}" for c in more}
    mechanism = replace(
        assembled.mechanism, constraints=(*driven, *more), drivers=tuple(d for d in assembled.mechanism.drivers)
    )
    system = System(mechanism)
    # the bodies' origins may have moved with the marks: poses are told of them anew
    poses = _rebased(solved.system, system, poses)
    own = np.zeros(mechanism.unknowns)
    given: dict[str, float] = {}
    if carrier == "stop":
        for label, (a, b) in spring_marks.items():
            push = given[label] = spring_n.get(label, 0.0)
            pa, pb = (where(system, poses, drives, mark) for mark in (a, b))
            along = (pa - pb) / np.linalg.norm(pa - pb)
            own += wrench_of(system, poses, a.body, pa, push * along) + wrench_of(
                system, poses, b.body, pb, -push * along
            )
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
        side=side, suffix=suffix, sign=sign, system=system, poses=poses, drives=drives, springs=springs, stops=stops, holds=holds,
        own=own, given=given, bars=bars, names=frozenset(name for name, _, _ in system.rows), spring_marks=spring_marks,
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


def _twists(done: Solved, lane: int) -> dict[str, float]:
    """Torque of every anti-roll bar's half about its line, from how far its two ends are twisted [N·mm].

    Mirrored corners turn alike in heave; on a beam the right half's line is the mirror image, so its turn counts back.
    """
    template, end = done.left.assembled.template, done.end
    if not template.bars:
        return {}
    found: dict[str, float] = {}
    for bar in template.bars:
        addition = end.additions.get(bar.addition or "")
        rate = (addition.rate_nm_per_deg if addition else None) or 0.0
        if done.left.assembled.beam:
            turns = axle.bar_measures(done.left.assembled, done.left.solved, done.left.rest)
            one, two = (turns[f"{bar.name}, {side}"]["arb_arm_turn_deg"][lane] for side in SIDES)
            torque = -rate * 1000.0 * (one + two)
            found |= {f"{bar.name}, left": torque, f"{bar.name}, right": torque}
        else:
            other = done.right or done.left
            one, two = (
                axle.bar_measures(side.assembled, side.solved, side.rest)[bar.name]["arb_arm_turn_deg"][lane]
                for side in (done.left, other)
            )
            found |= {bar.name: -rate * 1000.0 * (one - two), f"{bar.name}, right": -rate * 1000.0 * (two - one)}
    return {name: float(value) for name, value in found.items()}


# --- carrying -----------------------------------------------------------------------------------------------------------


def _carried(held: list[_Held], case: Case) -> Forces:
    loads = [one.own.copy() for one in held]
    applied: list[tuple[str, Array, Array]] = []
    pushed: list[tuple[int, str, Acting]] = []
    for push in case.pushes:
        which, place, side = _placed(held, push)
        one = held[which]
        flip = np.array([1.0, one.sign, 1.0])
        force = np.array(push.force) * flip
        moment = np.array(push.moment) * flip * one.sign  # a moment is the other way round in a mirror
        body = place.body
        at = place.at
        if push.rolling:
            state = measures.wheel_at(
                one.assembled, _single(one), -1.0 if side == "right" and one.assembled.beam else 1.0
            )
            spin = state.spin[:, 0]
            moment = moment - spin * float(spin @ np.cross(at - state.centre[:, 0], force))
        loads[which] += wrench_of(one.system, one.poses, body, at, force, moment)
        if push.at:
            applied.append((push.at, at * flip, force * flip))
        pushed.append((which, body, Acting(push.at or "moment", at * flip, force * flip, moment * flip * one.sign)))
    out: dict[str, dict[str, Any]] = {key: {} for key in _KINDS}
    fault, residual = None, 0.0
    touched = {_placed(held, push)[0] for push in case.pushes} or {0}
    for i, (one, load) in enumerate(zip(held, loads, strict=True)):
        if i not in touched and not any(one.bars.values()):
            continue  # a corner on which nothing acts
        found = balance(one.system, one.poses, one.drives, load[:, None])
        fault = fault or found.carried[0]
        residual = max(residual, float(found.residual[0]))
        if found.carried[0] is None:
            _read(one, found, out)
    for which, body, acting in pushed:
        out["on"].setdefault(f"{body}{held[which].suffix}", []).append(acting)
    return Forces(name=case.name, fault=fault, applied=tuple(applied), residual=residual, **out)


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
        state = measures.wheel_at(assembled, _single(one), -1.0 if near == "right" else 1.0)
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


def _read(one: _Held, found: Balance, out: dict[str, dict[str, Any]]) -> None:
    assembled, suffix = one.assembled, one.suffix
    flip = np.array([1.0, one.sign, 1.0])

    def at(mark: Mark) -> Array:
        return where(one.system, one.poses, one.drives, mark)

    solved = one.side.solved
    for link in assembled.links:
        name = f"{link.name}{suffix}"
        tension = out["axial"][name] = float(found.of(link.name)[0, 0])
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
    struts = {c.name: c for c in one.system.mechanism.constraints}
    for kind, of in (("springs", one.springs), ("stops", one.stops)):
        for constraint, name in of.items():
            tension = float(found.of(constraint)[0, 0])
            out[kind][name] = -tension
            strut = struts[constraint]
            assert isinstance(strut, Distance)
            _pulls(out, suffix, name, strut.a, strut.b, at(strut.a) * flip, at(strut.b) * flip, tension)
    for name, push in one.given.items():
        out["springs"][name] = push
        a, b = one.spring_marks[name]
        _pulls(out, suffix, name, a, b, at(a) * flip, at(b) * flip, -push)
    for constraint, name in one.holds.items():
        out["holds"][name] = float(found.of(constraint)[0, 0])
    out["bars"] |= one.bars
    for joint in assembled.template.joints:
        if joint.kind == "link":
            continue
        for side in SIDES if assembled.beam and joint.pair else ("left",):
            label = f"{joint.name}, {side}" if assembled.beam and joint.pair else joint.name
            _joint(one, found, joint, label, side, out, flip)
    if STEERING_ARM in one.system.index and "steering arm" in {name for name, _, _ in one.system.rows}:
        _steering_arm(one, found, out, flip)


def _pulls(
    out: dict[str, dict[str, Any]], suffix: str, name: str, a: Mark, b: Mark, pa: Array, pb: Array, tension: float
) -> None:  # fmt: skip
    """What a link, spring or stop between two marks puts on the moving bodies at its ends."""
    along = (pb - pa) / np.linalg.norm(pb - pa)
    for mark, place, pull in ((a, pa, along), (b, pb, -along)):
        if mark.body != GROUND:
            out["on"].setdefault(f"{mark.body}{suffix}", []).append(Acting(name, place, tension * pull, np.zeros(3)))


def _steering_arm(one: _Held, found: Balance, out: dict[str, dict[str, Any]], flip: Array) -> None:
    """What the car puts on the steering arm: at its pivot, and the moment that holds it."""
    place = where(one.system, one.poses, one.drives, _pivot(one))
    force, moment = np.zeros(3), np.zeros(3)
    for name in ("steering arm", "steering arm, axis", "steering arm, turn"):
        f, m = found.on_body(name, STEERING_ARM, place)
        force, moment = force + f[:, 0], moment + m[:, 0]
    out["joints"][f"steering arm{one.suffix}"] = JointForce(
        body=STEERING_ARM, on=GROUND, at=place * flip, force=force * flip, moment=moment * flip * one.sign
    )
    out["holds"][f"steering arm, turn{one.suffix}"] = float(found.of("steering arm, turn")[0, 0])


def _pivot(one: _Held) -> Mark:
    steering = one.assembled.end.steering
    assert steering
    x, y, z = one.assembled.end.points[steering.pivot]
    return Mark(STEERING_ARM, (x, y, z))


def _lane_of(one: _Held) -> int:
    """Which of the side's positions it stands in."""
    same = (one.side.solved.drives == one.drives).all(axis=0)
    return int(np.flatnonzero(same)[0])


def _joint(
    one: _Held, found: Balance, joint: Joint, label: str, side: str, out: dict[str, dict[str, Any]], flip: Array
) -> None:  # fmt: skip
    """The force of a joint, all its constraints together, on its first body."""
    assembled = one.assembled
    parts = [name for name in (label, f"{label}, axis") if name in one.names]
    if not parts:
        return
    tied = [assembled.body_on(body, side) for body in joint.bodies_tied]
    body, other = tied[0], tied[1]
    back = 1.0
    if body == GROUND:
        body, other, back = other, body, -1.0
    if body == GROUND:
        return
    point = joint.place.point if joint.kind == "slider" else joint.places[0].point
    place = where(one.system, one.poses, one.drives, _on(one, point, side, body))
    force, moment = np.zeros(3), np.zeros(3)
    for name in parts:
        f, m = found.on_body(name, body, place)
        force, moment = force + f[:, 0], moment + m[:, 0]
    sign = one.sign
    name = f"{label}{one.suffix}"
    first, second = (body, other) if back > 0 else (other, body)
    made = out["joints"][name] = JointForce(
        body=first, on=second, at=place * flip, force=back * force * flip, moment=back * moment * flip * sign
    )
    for which, way in ((first, 1.0), (second, -1.0)):
        if which != GROUND:
            out["on"].setdefault(f"{which}{one.suffix}", []).append(
                Acting(name, made.at, way * made.force, way * made.moment)
            )
    if isinstance(joint, HingeJoint):
        ends = [where(one.system, one.poses, one.drives, _on(one, p, side, body)) for p in joint.points]
        for p, at, share in zip(joint.points, ends, _two_pivots(ends, force, moment), strict=True):
            key = f"{p}_{side}" if assembled.beam and joint.pair else f"{p}{'_right' if one.suffix else ''}"
            out["pivots"][key] = JointForce(
                body=first, on=second, at=at * flip, force=back * share * flip, moment=np.zeros(3)
            )
    elif not isinstance(joint, SpinJoint) and (GROUND in (first, second)):
        key = f"{point}_{side}" if assembled.beam and joint.pair else f"{point}{'_right' if one.suffix else ''}"
        out["pivots"][key] = out["joints"][name]


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
    second = np.cross(moment, axis) / length  # (e1 → e2) × F2 = M, F2 square to the line
    return across - second + axial / 2, second + axial / 2
