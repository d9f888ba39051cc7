"""What a balanced side of a suspension end comes to: every link, joint, hinge, spring, stop and strap, in car axes."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import GROUND, Distance, Mark
from tirante.core.mechanism.statics import Balance, where
from tirante.core.suspension.assemble import SIDES, STEERING_ARM
from tirante.core.suspension.held import Acting, Array, Held, JointForce
from tirante.core.suspension.template import HingeJoint, Joint, SpinJoint


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


def _key(one: Held, joint: Joint, point: str, side: str) -> str:
    """A point as the pivots name it."""
    return f"{point}_{side}" if one.assembled.beam and joint.pair else f"{point}{'_right' if one.suffix else ''}"


class Reading:
    """What all cases that one set carries have in common: where things are, and forces of all of them at once."""

    def __init__(self, one: Held, found: Balance) -> None:
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


def read(seen: Reading, column: int, out: dict[str, dict[str, Any]]) -> None:
    """Put what a side comes to in a case beside what is read already.

    Args:
        seen: the side under all its cases.
        column: which of them.
        out: by kind ("axial", "joints" …) and name, as `Forces` has them.
    """
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
    out["holds"][f"steering arm, turn{one.suffix}"] = seen.of("steering arm, turn", column)


def _pivot(one: Held) -> Mark:
    steering = one.assembled.end.steering
    assert steering
    x, y, z = one.assembled.end.points[steering.pivot]
    return Mark(STEERING_ARM, (x, y, z))


def _lane_of(one: Held) -> int:
    """Which of the side's positions it stands in."""
    same = (one.side.solved.drives == one.drives).all(axis=0)
    return int(np.flatnonzero(same)[0])


def _joint(seen: Reading, column: int, joint: _JointRead, out: dict[str, dict[str, Any]]) -> None:
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


def _on(one: Held, point: str, side: str, body: str) -> Mark:
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
