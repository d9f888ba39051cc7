"""What a balanced side of a suspension end comes to: every link, joint, hinge, spring, stop and strap, in car axes."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from tirante.core.document.template import HingeJoint, Joint, SpinJoint
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.statics import Balance, Strut
from tirante.core.suspension.assemble import SIDES, STEERING_ARM
from tirante.core.suspension.held import Acting, Array, Held, JointForce, Pose, tension_of


@dataclass(frozen=True, slots=True, kw_only=True)
class _JointRead:
    """A joint under all cases: all its constraints together, on its first body."""

    name: str
    body: str
    on: str
    at: Array  # car axes [mm]
    forces: Array  # (3, cases)
    moments: Array
    hinge: tuple[tuple[str, Array, Array], ...]  # of a hinge's two ends key, place and force (3, cases)
    pivot: str | None  # key among the pivots, of what stands on the ground


@dataclass(frozen=True, slots=True, kw_only=True)
class _Strut:
    """A link, spring, stop or strap under all cases."""

    name: str
    ends: tuple[Array, Array]  # car axes [mm]
    bodies: tuple[str, str]
    tensions: Array  # (cases) [N]
    pulls: tuple[tuple[str, Array, Array], ...]  # on which moving body, where, force (3, cases)
    across: tuple[str, Array, Array] | None = (
        None  # on which link it stands, and its force at either joint of that (3, cases)
    )


NO_MOMENT = np.zeros(3)
NO_MOMENT.flags.writeable = False  # one for all


@dataclass(frozen=True, slots=True, kw_only=True)
class _Tied:
    """A joint that is no link's: what it ties, and where."""

    name: str
    parts: tuple[str, ...]  # its constraints
    of: str  # the moving body that its force is read on
    body: str  # its first body
    on: str
    back: float  # −1: it is read on its second body
    mark: Mark
    ends: tuple[Mark, ...]  # of a hinge
    keys: tuple[str, ...]  # of those among the pivots
    pivot: str | None


def _tied(one: Held) -> list[_Tied]:
    """The joints of a side, the same wherever it stands."""
    known = one.standing.kept.get("joints")
    if known is None:
        known = one.standing.kept["joints"] = list(_tied_in(one))
    found: list[_Tied] = known
    return found


def _tied_in(one: Held) -> Iterator[_Tied]:
    assembled = one.assembled
    for joint in assembled.template.joints:
        if joint.kind == "link":
            continue
        for side in SIDES if assembled.beam and joint.pair else ("left",):
            label = f"{joint.name}, {side}" if assembled.beam and joint.pair else joint.name
            parts = tuple(name for name in (label, f"{label}, axis") if name in one.names)
            tied = [assembled.body_on(body, side) for body in joint.bodies_tied]
            back = -1.0 if tied[0] == GROUND else 1.0
            body, other = tied[:2] if back > 0 else tied[1::-1]
            if not parts or body == GROUND:
                continue
            point = joint.place.point if joint.kind == "slider" else joint.places[0].point
            points = joint.points if isinstance(joint, HingeJoint) else ()
            pivots = point if not isinstance(joint, SpinJoint | HingeJoint) and GROUND in (body, other) else None
            yield _Tied(
                name=f"{label}{one.suffix}", parts=parts, of=body, body=body if back > 0 else other, on=other if back > 0 else body, back=back,
                mark=_on(one, point, side, body), ends=tuple(_on(one, p, side, body) for p in points),
                keys=tuple(_key(one, joint, p, side) for p in points), pivot=_key(one, joint, pivots, side) if pivots else None,
            )  # fmt: skip


def _key(one: Held, joint: Joint, point: str, side: str) -> str:
    """A point as the pivots name it."""
    return f"{point}_{side}" if one.assembled.beam and joint.pair else f"{point}{'_right' if one.suffix else ''}"


class Reading:
    """What all cases that one set carries have in common: where things are, and forces of all of them at once."""

    def __init__(self, one: Held, found: Balance) -> None:
        self.one, self.found = one, found
        self.flip = np.array([1.0, one.sign, 1.0])
        self.rows = found.rows

    @cached_property
    def joints(self) -> list[_JointRead]:
        """Every joint that is no link's, under all cases."""
        one, flip, made = self.one, self.flip[:, None], []
        tied = _tied(one)
        if not tied:
            return []
        wrenches = np.array([self._wrench(joint.parts, joint.of) for joint in tied])
        arms = np.array([self.at(joint.mark) - one.standing.origin(joint.of, one.lane) for joint in tied])
        every = wrenches[:, :3]
        turns = wrenches[:, 3:] - cross(arms.T[:, :, None], every.swapaxes(0, 1)).swapaxes(0, 1)
        for joint, forces, moments in zip(tied, every, turns, strict=True):
            shares = at_two_pivots([self.at(end) for end in joint.ends], forces, moments) if joint.ends else ()
            made.append(_JointRead(
                name=joint.name, body=joint.body, on=joint.on, at=self.at(joint.mark) * self.flip,
                forces=joint.back * forces * flip, moments=joint.back * one.sign * moments * flip,
                hinge=tuple(
                    (key, self.at(end) * self.flip, joint.back * share * flip)
                    for key, end, share in zip(joint.keys, joint.ends, shares, strict=True)
                ),
                pivot=joint.pivot,
            ))  # fmt: skip
        return made

    def at(self, mark: Mark) -> Array:
        """Where a mark is [mm]."""
        return self.one.at(mark)

    @cached_property
    def poses(self) -> dict[str, Pose]:
        """How every moving body stands."""
        one, found = self.one, {}
        split = one.assembled.split
        for body in one.system.mechanism.bodies:
            origin = self.at(Mark(body, (0.0, 0.0, 0.0)))
            ways = [
                one.standing.way(body, axis, one.lane) for axis in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
            ]
            copy = -1.0 if body.endswith("_right") and body.removesuffix("_right") in split else 1.0
            found[f"{body}{one.suffix}"] = Pose(turn=np.array(ways).T, origin=origin, corner=one.sign, copy=copy)
        return found

    @cached_property
    def links(self) -> list[_Strut]:
        """Every link."""
        assembled, suffix = self.one.assembled, self.one.suffix
        return [self._between(link.name, f"{link.name}{suffix}", link.a, link.b) for link in assembled.links]

    @cached_property
    def struts(self) -> list[tuple[str, float, _Strut]]:
        """What springs, stops and straps are in this side, as which kind they are told, and the sign of their force there."""
        one, found = self.one, []
        known = {strut.name: strut for strut in one.struts if isinstance(strut, Strut)}
        known |= {strut.name: strut for group in one.shared for _, strut in group.parts}
        for kind, of, sense in (
            ("springs", one.springs, -1.0),
            ("stops", one.stops, -1.0),
            ("straps", one.straps, 1.0),
        ):
            for constraint, name in of.items():
                strut = known[constraint]
                found.append((kind, sense, self._strut(constraint, name, strut)))
        return found

    @cached_property
    def given(self) -> list[tuple[float, _Strut]]:
        """Springs that carry their own force, whatever acts."""
        return [
            (push, self._between(None, name, *self.one.spring_marks[name], -push))
            for name, push in self.one.given.items()
        ]

    @cached_property
    def bind(self) -> dict[str, float]:
        """What every link carries unloaded, where the layout binds [N]."""
        one, solved, found = self.one, self.one.standing.solved, {}
        if solved.bind is not None:
            rows = {name: row for name, row, _ in solved.system.rows}
            for link in one.assembled.links:
                row = rows[link.name]
                force = float(solved.bind[row, one.lane] * solved.system.stiffness[row])
                if abs(force) > 1e-6:
                    found[f"{link.name}{one.suffix}"] = force
        return found

    def _between(self, constraint: str | None, name: str, a: Mark, b: Mark, tension: float = 0.0) -> _Strut:
        return self._strut(constraint, name, Strut(name, (a.body, b.body), (self.at(a), self.at(b))), tension)

    def _strut(self, constraint: str | None, name: str, of: Strut, tension: float = 0.0) -> _Strut:
        """Something between two places; without a constraint of its own it has one tension in every case."""
        tensions = np.full(self.found.forces.shape[1], tension)
        if constraint is not None:
            tensions = tension_of(self.one, self.found, constraint)
        pulls = [(body, at * self.flip, (force * self.flip)[:, None] * tensions) for body, at, force in of.pulls]
        across = None
        if of.onto:
            across = f"{of.bodies[1]}{self.one.suffix}", pulls[1][2], pulls[2][2]
        pa, pb = of.ends
        return _Strut(
            name=name, ends=(pa * self.flip, pb * self.flip), bodies=of.bodies, tensions=tensions, across=across,
            pulls=tuple((f"{body}{self.one.suffix}", at, force) for body, at, force in pulls if body != GROUND),
        )  # fmt: skip

    def of(self, constraint: str, column: int) -> float:
        """A constraint's first multiplier in a case."""
        return float(self.found.forces[self.rows[constraint].start, column])

    def _wrench(self, constraints: Sequence[str], body: str) -> Array:
        """Force and moment about a body's own origin that constraints together put on it (6, cases)."""
        i = 6 * self.one.system.index[body]
        found = np.zeros((6, self.found.forces.shape[1]))
        for name in constraints:
            rows = self.rows[name]
            found -= self.found.jacobian[rows, i : i + 6].T @ self.found.forces[rows]
        return found

    def on_body(self, constraints: Sequence[str], body: str, mark: Mark) -> tuple[Array, Array]:
        """Force and moment about a mark that constraints together put on a body, each (3, cases)."""
        wrench = self._wrench(constraints, body)
        arm = self.at(mark) - self.one.standing.origin(body, self.one.lane)
        return wrench[:3], wrench[3:] - cross(arm, wrench[:3])


def read(seen: Reading, column: int, out: dict[str, dict[str, Any]]) -> None:
    """Put what a side comes to in a case beside what is read already.

    Args:
        seen: the side under all its cases.
        column: which of them.
        out: by kind ("axial", "joints" …) and name, as `Forces` has them.
    """
    one = seen.one
    for link in seen.links:
        out["axial"][link.name] = float(link.tensions[column])
        out["ends"][link.name], out["bodies"][link.name] = link.ends, link.bodies
        _pulls(out, link, column)
    out["bind"] |= seen.bind
    for kind, sense, strut in seen.struts:
        out[kind][strut.name] = sense * float(strut.tensions[column])
        _pulls(out, strut, column)
        if strut.across:
            landed_on, one_end, other = strut.across
            out["across"][landed_on] = one_end[:, column], other[:, column]
    for push, spring in seen.given:
        out["springs"][spring.name] = push
        _pulls(out, spring, column)
    for constraint, name in one.holds.items():
        out["holds"][name] = seen.of(constraint, column)
    out["bars"] |= one.bars
    for bar in one.torques:
        moment = bar.moment * seen.flip * one.sign
        for body, way in ((bar.arm, 1.0), (bar.carrier, -1.0)):
            if body != GROUND and moment.any():
                act = Acting(bar.name, bar.at * seen.flip, NO_MOMENT, way * moment)
                out["on"].setdefault(f"{body}{one.suffix}", []).append(act)
    out["poses"] |= seen.poses
    for joint in seen.joints:
        _joint(seen, column, joint, out)
    if STEERING_ARM in one.system.index and "steering arm" in seen.rows:
        _steering_arm(seen, column, out)


def _pulls(out: dict[str, dict[str, Any]], strut: _Strut, column: int) -> None:
    """What a link, spring or stop between two marks puts on the moving bodies at its ends."""
    for body, place, force in strut.pulls:
        out["on"].setdefault(body, []).append(Acting(strut.name, place, force[:, column], NO_MOMENT))


def _steering_arm(seen: Reading, column: int, out: dict[str, dict[str, Any]]) -> None:
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
    held = out["joints"][f"steering arm{one.suffix}"]
    out["on"].setdefault(f"{STEERING_ARM}{one.suffix}", []).append(
        Acting(f"steering arm{one.suffix}", held.at, held.force, held.moment)
    )
    out["holds"][f"steering arm, turn{one.suffix}"] = seen.of("steering arm, turn", column)


def _pivot(one: Held) -> Mark:
    steering = one.assembled.end.steering
    assert steering
    x, y, z = one.assembled.end.points[steering.pivot]
    return Mark(STEERING_ARM, (x, y, z))


def _joint(seen: Reading, column: int, joint: _JointRead, out: dict[str, dict[str, Any]]) -> None:
    """The force of a joint in a case."""
    suffix = seen.one.suffix
    force, moment = joint.forces[:, column], joint.moments[:, column]
    made = out["joints"][joint.name] = JointForce(body=joint.body, on=joint.on, at=joint.at, force=force, moment=moment)
    for which, way in ((joint.body, 1.0), (joint.on, -1.0)):
        if which != GROUND:
            out["on"].setdefault(f"{which}{suffix}", []).append(Acting(joint.name, joint.at, way * force, way * moment))
    for key, at, share in joint.hinge:
        out["pivots"][key] = JointForce(body=joint.body, on=joint.on, at=at, force=share[:, column], moment=NO_MOMENT)
    if joint.pivot:
        out["pivots"][joint.pivot] = made


def _on(one: Held, point: str, side: str, body: str) -> Mark:
    """A point of the template as it moves with a body."""
    return Mark(body, one.assembled.role(point, side).at)


def at_two_pivots(ends: list[Array], force: Array, moment: Array) -> tuple[Array, Array]:
    """A hinge's force at its first end and moment as forces at both ends, each (3, cases); along the line, halved (it cannot be told).

    Args:
        ends: of its line (3) [mm].
        force: at the first (3, cases) [N].
        moment: about it (3, cases) [N·mm].
    """
    along = ends[1] - ends[0]
    length = float(np.linalg.norm(along))
    axis = (along / length)[:, None]
    axial = axis * (force * axis).sum(axis=0)
    across = force - axial
    second = cross(moment, axis) / length  # (e1 → e2) × F2 = M, F2 square to the line
    return across - second + axial / 2, second + axial / 2
