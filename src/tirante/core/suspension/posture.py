"""What is to be drawn of an end at one position: its links, arms and wheels, in the body's axes."""

from __future__ import annotations

from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from tirante.core.drawing.views.end_view import Point3, Posture, Stick, WheelShape
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.solve import CONVERGED, Positions, solve
from tirante.core.mechanism.system import System
from tirante.core.suspension import measures
from tirante.core.suspension.assemble import Assembled, assemble_end
from tirante.core.suspension.cycle import drives_of
from tirante.core.suspension.end import End
from tirante.core.suspension.template import Template


def postures(template: Template, end: End, rows: NDArray[np.float64]) -> list[Posture | None]:
    """A posture for each row (travel, roll, steer; 3 × n); None where the position is not reached.

    Of an independent end both sides are drawn, the right one as the mirror image of a left corner of its own.
    """
    assembled = assemble_end(template, end)
    system = System(assembled.mechanism)
    solved = solve(system, drives_of(assembled, system, rows))
    n = rows.shape[1]
    if template.axle == "beam":
        return [_one(assembled, solved, i, (1.0, -1.0)) for i in range(n)]
    out: list[Posture | None] = []
    for i in range(n):
        left, right = _one(assembled, solved, i, (1.0,)), _one(assembled, solved, n + i, (1.0,))
        out.append(None if left is None or right is None else _joined(left, _mirror(right)))
    return out


def _mirror(posture: Posture) -> Posture:
    def m(p: Point3) -> Point3:
        return p[0], -p[1], p[2]

    return Posture(
        sticks=tuple(Stick(a=m(s.a), b=m(s.b), ref=s.ref, thick=s.thick) for s in posture.sticks),
        wheels=tuple(
            WheelShape(centre=m(w.centre), spin=m(w.spin), radius=w.radius, width=w.width, contact=m(w.contact))
            for w in posture.wheels
        ),
    )


def _joined(left: Posture, right: Posture) -> Posture:
    return Posture(sticks=left.sticks + right.sticks, wheels=left.wheels + right.wheels)


def _one(assembled: Assembled, solved: Positions, lane: int, sides: tuple[float, ...]) -> Posture | None:
    if solved.status[lane] != CONVERGED:
        return None
    system = solved.system
    poses, drives = solved.poses.take(np.array([lane])), solved.drives[:, [lane]]

    def at(mark: Mark) -> Point3:
        x, y, z = (float(v) for v in system.where(poses, mark, drives)[:, 0])
        return x, y, z

    sticks = [Stick(a=at(link.a), b=at(link.b), ref=f"link:{link.name}", thick=True) for link in assembled.links]
    for body, points in _bodies(assembled).items():
        places = [at(mark) for mark in points]
        sticks += [Stick(a=a, b=b, ref=f"body:{body}", thick=False) for a, b in combinations(places, 2)]
    wheels = []
    wheel = assembled.end.wheel
    x, y, z = assembled.wheel_centre.at
    for side in sides:
        centre = at(Mark(assembled.wheel_centre.body, (x, side * y, z)))
        spin = system.direction(
            poses, assembled.wheel_centre.body, measures.spin_axis(wheel.camber_deg, wheel.toe_deg, side)
        )
        state = measures.wheel_state(np.array(centre)[:, None], spin, wheel.loaded_radius_mm, side)
        contact = state.contact[:, 0]
        s = (float(spin[0, 0]), float(spin[1, 0]), float(spin[2, 0]))
        wheels.append(
            WheelShape(
                centre=centre, spin=s, radius=wheel.loaded_radius_mm, width=wheel.width_mm,
                contact=(float(contact[0]), float(contact[1]), float(contact[2])),
            )
        )  # fmt: skip
    return Posture(sticks=tuple(sticks), wheels=tuple(wheels))


def _bodies(assembled: Assembled) -> dict[str, list[Mark]]:
    """Joints of every moving body, which its lines join; of the wheel's body also the wheel's centre."""
    found: dict[str, list[Mark]] = {body: [] for body in assembled.mechanism.bodies}

    def add(body: str, at: Point3) -> None:
        marks = found.get(body)
        if marks is not None and all(np.linalg.norm(np.subtract(at, m.at)) > 1e-6 for m in marks):
            marks.append(Mark(body, at))

    for constraint in assembled.mechanism.constraints:
        for name in ("a", "b", "through"):
            mark = getattr(constraint, name, None)
            if isinstance(mark, Mark) and mark.body != GROUND:
                add(mark.body, mark.at)
        mark = getattr(constraint, "mark", None)
        if isinstance(mark, Mark) and mark.body != GROUND and constraint.name != "travel":
            add(mark.body, mark.at)
    for joint in assembled.template.joints:
        if joint.kind == "hinge":  # the far end of a pivot line is a point of the arm too
            for point in joint.points:
                key = point if point in assembled.marks else f"{point}_left"
                if key in assembled.marks and joint.body in found:
                    add(joint.body, assembled.marks[key].at)
    x, y, z = assembled.wheel_centre.at
    body = assembled.wheel_centre.body
    if assembled.template.axle == "beam":
        # the axle is its tube: joints stand off it
        return {**found, body: [Mark(body, (x, y, z)), Mark(body, (x, -y, z))]}
    add(body, (x, y, z))
    return found
