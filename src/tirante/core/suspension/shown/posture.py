"""What is to be drawn of an end at one position: its links, arms and wheels, in the body's axes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import DAMPER, End, PlaceIn
from tirante.core.document.shape import Shape
from tirante.core.document.template import HingeJoint, SpinJoint, Template
from tirante.core.mechanism.model import GROUND, Distance, Mark
from tirante.core.mechanism.solve import CONVERGED, Positions
from tirante.core.suspension import measures
from tirante.core.suspension.assemble import SIDES, Assembled, mirrored
from tirante.core.suspension.clearance import members, own_solids
from tirante.core.suspension.cycle import Solved, solved_cycle
from tirante.core.suspension.shown.end_view import Point3, Posture, Stick, Thing, WheelShape
from tirante.core.suspension.still_moves import DUMMY

SLEEVE = 1.3  # how much wider than its tube a sleeve is drawn


def postures(template: Template, end: End, rows: NDArray[np.float64]) -> list[Posture | None]:
    """A posture for each row (travel, roll, steer; 3 × n); None where the position is not reached.

    Args:
        template: of the end.
        end: as it stands in the car.
        rows: travel, roll, steer (3, n).
    """
    return postures_of(solved_cycle(template, end, rows))


def postures_of(done: Solved, shapes: Mapping[str, Shape] | None = None) -> list[Posture | None]:
    """A posture for each position of a solved end.

    Of an independent end both sides are drawn, the right one as the mirror image of a left corner of its own.

    Args:
        done: the end, solved.
        shapes: what its members look like as they are made, by link or body of its template.
    """
    known: dict[bytes, Posture | None] = {}  # a position that stands twice is looked at once
    for i in range(done.rows.shape[1]):
        key = done.rows[:, i].tobytes()
        if key not in known:
            known[key] = _whole(done, i, shapes or {})
    return [known[done.rows[:, i].tobytes()] for i in range(done.rows.shape[1])]


def _whole(done: Solved, i: int, shapes: Mapping[str, Shape]) -> Posture | None:
    one, two = done.left, done.right
    if one.assembled.beam:
        return _one(one.assembled, one.solved, i, (1.0, -1.0), shapes)
    left = _one(one.assembled, one.solved, i, (1.0,), shapes)
    right = _one(two.assembled, two.solved, i, (1.0,), shapes) if two else left  # the two sides are one and the same
    return None if left is None or right is None else _joined(left, _mirror(right))


def motion_posture(assembled: Assembled, solved: Positions, lane: int) -> Posture:
    """What is in place of a suspension that is being put together, at one place of a free motion.

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        lane: which position.
    """
    held = {c.name for c in solved.system.mechanism.constraints}
    found = _one(
        assembled,
        solved,
        lane,
        (1.0, -1.0) if assembled.beam else (1.0,),
        {},
        dampers=any(n.startswith(DUMMY) for n in held),
    )
    assert found is not None
    return found


def _mirror(posture: Posture) -> Posture:
    def m(p: Point3) -> Point3:
        return p[0], -p[1], p[2]

    return Posture(
        sticks=tuple(replace(s, a=m(s.a), b=m(s.b)) for s in posture.sticks),
        things=tuple(Thing(points=tuple(m(p) for p in t.points), ref=t.ref) for t in posture.things),
        wheels=tuple(
            WheelShape(centre=m(w.centre), spin=m(w.spin), radius=w.radius, width=w.width, contact=m(w.contact))
            for w in posture.wheels
        ),
    )


def _joined(left: Posture, right: Posture) -> Posture:
    return Posture(
        sticks=left.sticks + right.sticks, wheels=left.wheels + right.wheels, things=left.things + right.things
    )


def _one(
    assembled: Assembled,
    solved: Positions,
    lane: int,
    sides: tuple[float, ...],
    shapes: Mapping[str, Shape],
    *,
    dampers: bool = True,
) -> Posture | None:
    if solved.status[lane] != CONVERGED:
        return None
    system = solved.system
    poses, drives = solved.poses.take(np.array([lane])), solved.drives[:, [lane]]

    def at(mark: Mark) -> Point3:
        if mark.body == GROUND and mark.drive is None:
            return mark.at
        x, y, z = (float(v) for v in system.where(poses, mark, drives)[:, 0])
        return x, y, z

    def thick(link: str) -> float:
        return shapes[link].od_mm if link in shapes else 0.0

    held = {c.name for c in system.mechanism.constraints}
    own = {c.name: c for c in system.mechanism.constraints}
    sticks = []
    every = members(assembled)
    bent = {member.name: member.bent for member in every if member.bent}
    for link in assembled.links:
        if link.name in held:
            joined = own[link.name]  # on a rack that is not held, its end moves with the rack
            a, b = (joined.a, joined.b) if isinstance(joined, Distance) else (link.a, link.b)
            line = bent.get(link.name)
            if line is None:
                sticks.append(
                    Stick(a=at(a), b=at(b), ref=f"link:{link.name}", thick=True, width=thick(link.template_name))
                )
                continue
            start, stop = np.array(at(a))[:, None], np.array(at(b))[:, None]
            run = [_point(point) for point in line.points(start, stop)]
            for p, q in pairwise(run):
                eyes = p is run[0], q is run[-1]
                own_width = thick(link.template_name)
                sticks.append(Stick(a=p, b=q, ref=f"link:{link.name}", thick=True, eyes=eyes, width=own_width))
    made = {
        assembled.body_on(body, side): (shape, side) for body, shape in shapes.items() if shape.tubes for side in SIDES
    }
    for body, parts in _bodies(assembled).items():
        if body not in system.index:  # not put in place yet
            continue
        if body in made:
            sticks += [
                Stick(a=at(a), b=at(b), ref=f"body:{body}", thick=True, width=od, eyes=(False, False))
                for a, b, od in made_tubes(assembled, body, *made[body])
            ]
        else:
            sticks += [Stick(a=at(a), b=at(b), ref=f"body:{body}") for a, b in parts]
    for member in every:
        kind = member.name.split(",")[0]
        damper = assembled.end.dampers.get(kind)
        if (damper is None and kind not in assembled.end.shafts) or (damper and not dampers):
            continue
        if {member.a.body, member.b.body} <= {*system.index}:
            # the first damper is drawn with a spring, as those by themselves that have a rate are
            coil = 2 * member.radius if damper and (kind == DAMPER or damper.rate_n_per_mm is not None) else 0.0
            sticks.append(Stick(a=at(member.a), b=at(member.b), ref=f"member:{member.name}", coil=coil))
    wheels = []
    wheel = assembled.end.wheel
    one = solved.take(slice(lane, lane + 1))
    for side in sides:
        if assembled.wheel(side).body not in system.index:
            continue
        state = measures.wheel_at(assembled, one, side)
        centre, spin, contact = (_point(vector) for vector in (state.centre, state.spin, state.contact))
        wheels.append(
            WheelShape(centre=centre, spin=spin, radius=wheel.loaded_radius_mm, width=wheel.width_mm, contact=contact)
        )
    things = tuple(
        Thing(points=tuple(at(Mark(solid.body, p)) for p in solid.outline()), ref=f"obstacle:{obstacle.name}")
        for obstacle in assembled.end.obstacles for solid in own_solids(assembled, obstacle)
        if solid.body in system.index and solid.outline()
    )  # fmt: skip
    return Posture(sticks=tuple(sticks), wheels=tuple(wheels), things=things)


def made_tubes(assembled: Assembled, body: str, shape: Shape, side: str) -> list[tuple[Mark, Mark, float]]:
    """The tubes of a body as it is made, each with its diameter, and the sleeves at its hinge.

    Args:
        assembled: the end.
        body: of the mechanism.
        shape: as it is made.
        side: that it stands on.
    """
    side = side if body.endswith(f"_{side}") else "left"  # one that stands once, or a corner of its own

    def mark(where: str | Point3) -> Mark:
        if isinstance(where, str):
            return Mark(body, assembled.place(PlaceIn(body=body, point=where), side).at)
        return Mark(body, where if side == "left" else mirrored(where))

    known = assembled.end.points  # a part may name a point that is taken out since
    whole = [one for one in shape.tubes if all(not isinstance(at, str) or at in known for at in (one.a, one.b))]
    found = [(mark(one.a), mark(one.b), one.od_mm) for one in whole]
    for joint in assembled.template.joints if shape.sleeve_mm else ():
        if isinstance(joint, HingeJoint) and assembled.body_on(joint.body, side) == body:
            one, two = (np.array(mark(point).at) for point in joint.points)
            half = (two - one) / max(float(np.linalg.norm(two - one)), 1e-9) * shape.sleeve_mm / 2
            found += [
                (Mark(body, _triple(at - half)), Mark(body, _triple(at + half)), SLEEVE * shape.od_mm)
                for at in (one, two)
            ]
    return found


def _triple(vector: NDArray[np.float64]) -> Point3:
    x, y, z = (float(v) for v in vector)
    return x, y, z


def _point(vector: NDArray[np.float64]) -> Point3:
    x, y, z = (float(v) for v in vector[:, 0])
    return x, y, z


def _bodies(assembled: Assembled) -> dict[str, list[tuple[Mark, Mark]]]:
    """The lines of every moving body: between its joints; of the wheel's body also to the wheel's centre."""
    found = {body: assembled.edges(body) for body in assembled.mechanism.bodies}
    for side in (1.0, -1.0) if assembled.beam else (1.0,):
        wheel = assembled.wheel(side)
        if wheel.body != assembled.axle_body or not assembled.beam:
            found[wheel.body] += [(mark, wheel) for mark in assembled.joined(wheel.body)]
    if assembled.beam:
        # the axle is its tube: joints stand off it
        one, two = (Mark(assembled.axle_body, m.at) for m in (assembled.wheel_centre, assembled.wheel_centre_right))
        found[assembled.axle_body] = [(one, two)]
    # a rocker reaches to its damper's eye as to its joints
    sides = SIDES if assembled.beam else ("left",)
    spun = [joint.body for joint in assembled.template.joints if isinstance(joint, SpinJoint)]
    rockers = {assembled.body_on(body, side) for body in spun for side in sides}
    for member in members(assembled):
        for eye in (member.a, member.b):
            if member.name.partition(",")[0] in assembled.end.dampers and eye.body in rockers:
                found[eye.body] += [(eye, joint) for joint in assembled.joined(eye.body) if joint != eye]
    return found
