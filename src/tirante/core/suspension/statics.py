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
from itertools import product
from typing import Any

import numpy as np

from tirante.core.document.end import PlaceIn
from tirante.core.errors import InputError
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.solve import CONVERGED
from tirante.core.mechanism.statics import Balance, Standing, balance
from tirante.core.suspension.assemble import Assembled
from tirante.core.suspension.cycle import Solved, SolvedSide
from tirante.core.suspension.held import (
    Acting,
    Array,
    Carrier,
    Held,
    JointForce,
    Pose,
    hold,
    standing_at,
    tension_of,
    twists,
)
from tirante.core.suspension.reading import Reading, read

_KINDS = (
    "axial",
    "ends",
    "bodies",
    "bind",
    "joints",
    "pivots",
    "springs",
    "holds",
    "stops",
    "straps",
    "bars",
    "across",
    "on",
    "poses",
)
SLACK = 1e-7  # of a case's forces: a stop or strap that pulls or pushes less than this is only touched


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
    across: dict[
        str, tuple[Array, Array]
    ]  # by link that a stop lands on: what that puts on what holds its two ends, beside its own pull [N]
    on: dict[str, list[Acting]]  # by moving body: all that acts on it
    poses: dict[str, Pose]  # by moving body
    applied: tuple[tuple[str, Array, Array], ...]  # where, at [mm], force [N]
    residual: float


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
    found = []
    for one in forces_at(done, [At(lane=lane, cases=tuple(cases), met=met or {}, springs=spring_n or {})])[0]:
        if isinstance(one, InputError):
            raise one
        found.append(one)
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class At:
    """Cases at a position."""

    lane: int
    cases: tuple[Case, ...]
    met: Mapping[str, Carrier] = field(default_factory=dict)  # as of `forces`
    springs: Mapping[str, float] = field(default_factory=dict)


def forces_at(
    done: Solved, asked: Sequence[At], twist: Mapping[str, Array] | None = None
) -> list[list[Forces | InputError]]:
    """Carry cases through an end at many positions; where things are there is worked out at once.

    Args:
        done: the solved end.
        asked: the positions and what acts at each.
        twist: torques of the anti-roll bars at every position, by `twists`, where they are known already.

    Returns:
        by position every case, or why it was not carried: the position cannot be assembled, or it names no place or body of this end.
    """
    good = [one for one in asked if done.status[one.lane] == CONVERGED]
    lost = InputError(
        "The suspension cannot be put together at this position. Choose one nearer to ride height.",
        code="not_assembled", fields=("travel_mm",),
    )  # fmt: skip
    found: dict[int, list[Forces | InputError]] = {}
    torques, beam = twists(done) if twist is None else twist, done.left.assembled.beam
    sides = [(done.left, "", 1.0)] if beam else [(done.left, "", 1.0), (done.right or done.left, ", right", -1.0)]
    lanes = [one.lane for one in good]
    stood = [(*side, standing_at(side[0], lanes)) for side in sides]
    for i, one in enumerate(good):
        here = {name: float(torque[one.lane]) for name, torque in torques.items()}
        own = [one.met if beam else {"left": one.met[name]} if name in one.met else {} for name in ("left", "right")]
        parts = [
            _Side(side, standing, i, suffix, sign, met, one.springs, here)
            for (side, suffix, sign, standing), met in zip(stood, own, strict=False)
        ]
        found[id(one)] = _carried(parts, one.cases)
    return [found.get(id(one), [lost] * len(one.cases)) for one in asked]


class _Side:
    """One mechanism, with every set of stops and straps that may carry, each held when it is first asked for."""

    def __init__(
        self, side: SolvedSide, standing: Standing, lane: int, suffix: str, sign: float, met: Mapping[str, Carrier], own: Mapping[str, float],
        twist: Mapping[str, float],
    ) -> None:  # fmt: skip
        self.what = side, standing, lane, suffix, sign
        self.met, self.own, self.twist = dict(met), own, twist
        # all that is met carries; then with one let go; then with all
        self.sets = sorted(product((True, False), repeat=len(self.met)), key=lambda one: -sum(one))
        self._held: dict[tuple[bool, ...], Held] = {}

    def held(self, which: tuple[bool, ...]) -> Held:
        """The mechanism with that set carrying."""
        if which not in self._held:
            holders: dict[str, Carrier] = {
                name: carrier for (name, carrier), on in zip(self.met.items(), which, strict=True) if on
            }
            self._held[which] = hold(*self.what, holders, self.met, self.own, self.twist)
        return self._held[which]


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


def _pushed(held: list[Held], push: Push) -> _Pushed:
    which, place, side = _placed(held, push)
    one = held[which]
    flip = np.array([1.0, one.sign, 1.0])
    force = np.array(push.force) * flip
    moment = np.array(push.moment) * flip * one.sign  # a moment is the other way round in a mirror
    body, at = place.body, place.at
    if push.rolling:
        centre, _, spin = one.wheel(-1.0 if side == "right" and one.assembled.beam else 1.0)
        moment = moment - spin * float(spin @ cross(at - centre, force))
    acting = Acting(push.at or "moment", at * flip, force * flip, moment * flip * one.sign)
    return _Pushed(which, body, at, force, moment, acting, (push.at, at * flip, force * flip) if push.at else None)


def _carried(sides: list[_Side], cases: Sequence[Case]) -> list[Forces | InputError]:
    """Every case, or why it names no place; by whichever set of stops and straps carries it; those that one set carries are balanced at once."""
    first = [side.held(side.sets[0]) for side in sides]
    placed: list[list[_Pushed] | InputError] = []
    for case in cases:
        try:
            placed.append([_pushed(first, push) for push in case.pushes])
        except InputError as error:
            placed.append(error)
    pushed = [[] if isinstance(acts, InputError) else acts for acts in placed]
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
                        loads[:, column] += one.wrench(act.body, act.at, act.force, act.moment)
            found = balance(one.standing, one.lane, one.struts, loads)
            reading = Reading(one, found)
            left = []
            for column, n in enumerate(waiting):
                refusal = found.carried[column]
                if refusal is None and _one_sided(one, found, column):
                    residuals[n] = max(residuals[n], float(found.residual[column]))
                    read(reading, column, outs[n])
                else:
                    left.append(n)
                    if refusal is not None:
                        refused.setdefault(n, refusal)
            waiting = left
        for n in waiting:
            faults[n] = faults[n] or refused.get(n) or InputError(
                "No set of stops and straps that only push and only pull carries this load. Look at where they stand at Layout, under Stops.",
                code="not_carried", fields=("bump_stop",),
            )  # fmt: skip
    made: list[Forces | InputError] = []
    for case, where, acts, out, fault, residual in zip(cases, placed, pushed, outs, faults, residuals, strict=True):
        if isinstance(where, InputError):
            made.append(where)
            continue
        for act in acts:
            out["on"].setdefault(f"{act.body}{first[act.which].suffix}", []).append(act.acting)
        applied = tuple(act.applied for act in acts if act.applied)
        made.append(Forces(name=case.name, fault=fault, applied=applied, residual=residual, **out))
    return made


def _one_sided(one: Held, found: Balance, column: int) -> bool:
    """Whether stops push, straps pull, and what was let go would have had nothing to do."""
    least = -SLACK * max(1.0, float(np.abs(found.forces[:, column]).max(initial=0.0)))
    pushes = [-float(found.of(name)[0, column]) for name in one.stops]
    pulls = [float(found.of(name)[0, column]) for name in one.straps]
    for label, (carrier, own) in one.let_go.items():
        beyond = (
            -float(tension_of(one, found, label)[column]) - own
        )  # what the spring is asked for beyond its own force
        pushes.append(-beyond if carrier == "stop" else beyond)
    return min(pushes + pulls, default=0.0) >= least


@dataclass(frozen=True, slots=True)
class _Place:
    body: str
    at: Array


def _placed(held: list[Held], push: Push) -> tuple[int, _Place, str]:
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
        return which, _Place(body, one.at(Mark(body, (0.0, 0.0, 0.0)))), side
    if stem in ("contact", "wheel_centre"):
        centre, contact, _ = one.wheel(-1.0 if near == "right" else 1.0)
        at = contact if stem == "contact" else centre
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
    at = one.at(replace(mark, drive=mark.drive if mark.body == GROUND else None))
    return which, _Place(mark.body, at), side


def _own_places(assembled: Assembled) -> Iterator[PlaceIn]:
    end = assembled.end
    for thing in (*end.dampers.values(), *((end.strap,) if end.strap else ())):
        yield thing.a
        yield thing.b
    if end.bump_stop:
        yield end.bump_stop.pad
        yield end.bump_stop.tip


def _moving_there(one: Held, mark: Mark) -> str | None:
    """A moving body that has a joint at a mark of the ground."""
    for constraint in one.system.mechanism.constraints:
        for name in ("a", "b", "mark"):
            other = getattr(constraint, name, None)
            if isinstance(other, Mark) and other.body != GROUND and np.allclose(other.at, mark.at, atol=1e-9):
                return other.body
    return None


def _body(one: Held, name: str, side: str) -> str:
    if name == "wheel":
        return one.assembled.wheel(-1.0 if side == "right" else 1.0).body
    body = one.assembled.body_on(name, side)
    if body not in one.system.index or body == GROUND:
        known = ", ".join(one.system.mechanism.bodies)
        raise InputError(
            f"There is no body “{name}” here. There are: {known}.", code="unknown_body", fields=("on",), value=name
        )
    return body
