"""The 3D scene of an end along its travel: members at true diameter, joints, wheels and what they must miss."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from tirante.core.drawing.scene import Ball, Box, Cylinder, Ring, Scene, ScenePoint, Shape
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.solve import CONVERGED, Positions
from tirante.core.suspension.assemble import SIDES, Assembled
from tirante.core.suspension.clearance import Member, members
from tirante.core.suspension.cycle import Solved, SolvedSide
from tirante.core.suspension.measures import spin_axis

Array = NDArray[np.float64]


JOINT_RADIUS = 14.0  # drawn, mm; larger where a thick member would hide it


MIRROR = np.diag([1.0, -1.0, 1.0])


def scene(done: Solved) -> Scene:
    """The scene at every position of a solved end, along its travel; solids stand where the points were taken."""
    travel = done.rows[0]
    solids: list[Shape] = []
    groups: dict[str, tuple[tuple[float, ...] | None, ...]] = {}
    corners: list[tuple[SolvedSide, bool]] = [(done.left, False)]
    if not done.left.assembled.beam:
        corners.append((done.right or done.left, True))
    for side, mirrored in corners:
        _add(side.assembled, side.solved, mirrored, solids, groups)
    spots = np.array([p for solid in solids for p in _spots(solid)])
    low, high = spots.min(axis=0), spots.max(axis=0)
    return Scene(
        solids=tuple(solids), travel=tuple(float(t) for t in travel), groups=groups, low=_point(low), high=_point(high)
    )


def _spots(solid: Shape) -> list[ScenePoint]:
    if isinstance(solid, Cylinder):
        return [solid.a, solid.b]
    if isinstance(solid, Box):
        return [solid.low, solid.high]
    if isinstance(solid, Ring):
        x, y, z = solid.at
        return [(x - solid.radius, y, z - solid.radius), (x + solid.radius, y, z + solid.radius)]
    return [solid.at]


def _point(v: Array) -> ScenePoint:
    return float(v[0]), float(v[1]), float(v[2])


def _add(
    assembled: Assembled, solved: Positions, mirrored: bool, solids: list[Shape],
    groups: dict[str, tuple[tuple[float, ...] | None, ...]],
) -> None:  # fmt: skip
    suffix = ", right" if mirrored else ""

    def place(at: tuple[float, float, float]) -> ScenePoint:
        x, y, z = at
        return (x, -y, z) if mirrored else (x, y, z)

    def moved(group: str, matrices: list[Array | None]) -> str:
        name = f"{group}{suffix}"
        groups.setdefault(name, tuple(None if m is None else _flat(m, mirrored) for m in matrices))
        return name

    def of_body(body: str) -> str:
        return moved(f"body:{body}", _body_matrices(solved, body))

    for member in members(assembled):
        one_body = member.a.body == member.b.body and member.a.drive is None
        group = of_body(member.a.body) if one_body else moved(f"member:{member.name}", _member_matrices(solved, member))
        kind = "link" if any(link.name == member.name for link in assembled.links) else "member"
        ref = f"{kind}:{member.name}{suffix}"
        ends = [member.a.at, member.b.at]
        if member.bent:
            start, stop = (np.array(at)[:, None] for at in ends)
            ends = [_point(spot[:, 0]) for spot in member.bent.points(start, stop)]
        for one, two in pairwise(ends):
            solids.append(Cylinder(group=group, a=place(one), b=place(two), radius=member.radius, ref=ref))
    wheel_bodies = {assembled.wheel(sign).body for sign in ((1.0, -1.0) if assembled.beam else (1.0,))}
    for body in wheel_bodies:
        if assembled.beam and body == assembled.axle_body:
            continue
        centre = assembled.wheel(-1.0 if body.endswith("_right") else 1.0).at
        for mark in assembled.joined(body):  # the upright as spokes from the wheel's centre to its joints
            solids.append(
                Cylinder(group=of_body(body), a=place(centre), b=place(mark.at), radius=9.0, ref=f"body:{body}{suffix}")
            )
    known: set[tuple[str, ScenePoint]] = set()
    thickest: dict[ScenePoint, float] = {}
    for member in members(assembled):
        for mark in (member.a, member.b):
            thickest[mark.at] = max(thickest.get(mark.at, 0.0), member.radius)
    for name, mark in assembled.marks.items():
        own = next((n for n in assembled.end.points if name == n or name in (f"{n}_left", f"{n}_right")), None)
        drag = own if not mirrored and not name.endswith("_right") else None
        if (mark.body, mark.at) in known:
            continue
        known.add((mark.body, mark.at))
        group = moved(f"rack:{name}", _mark_matrices(solved, mark)) if mark.drive else of_body(mark.body)
        solids.append(
            Ball(
                group=group,
                at=place(mark.at),
                radius=max(JOINT_RADIUS, 1.2 * thickest.get(mark.at, 0.0)),
                point=drag,
                tone="joint",
                ref=f"point:{own}",
            )
        )
    wheel = assembled.end.wheel
    for sign, side in ((1.0, "left"), (-1.0, "right")) if assembled.beam else ((1.0, "left"),):
        mark = assembled.wheel(sign)
        axis = spin_axis(wheel.camber_deg, wheel.toe_deg, sign)
        drag = assembled.template.roles.wheel_centre if side == "left" and not mirrored else None
        solids.append(
            Ring(group=of_body(mark.body), at=place(mark.at), axis=place(axis), radius=wheel.loaded_radius_mm, width=wheel.width_mm,
                 tone="tyre", ref="wheel")
        )  # fmt: skip
        solids.append(
            Ball(
                group=of_body(mark.body),
                at=place(mark.at),
                radius=max(JOINT_RADIUS, 1.2 * thickest.get(mark.at, 0.0)),
                point=drag,
                tone="joint",
                ref="point:wheel_centre",
            )
        )
    for obstacle in assembled.end.obstacles:
        shape = obstacle.shape
        if mirrored and not obstacle.both_sides:
            continue
        for side in SIDES if assembled.beam and obstacle.both_sides else ("left",):
            flip = mirrored or side == "right"
            group = of_body(assembled.body_on(obstacle.body, side))

            def across(p: tuple[float, float, float], flip: bool = flip) -> ScenePoint:
                return (p[0], -p[1], p[2]) if flip else (p[0], p[1], p[2])

            if shape.kind == "round":
                solids.append(
                    Cylinder(group=group, a=across(shape.a), b=across(shape.b), radius=max(shape.radius_mm, 1.0), tone="obstacle", ref=f"obstacle:{obstacle.name}")
                )  # fmt: skip
            elif shape.kind == "block":
                a, b = across(shape.low), across(shape.high)
                low, high = np.minimum(a, b), np.maximum(a, b)
                solids.append(
                    Box(
                        group=group,
                        low=_point(low),
                        high=_point(high),
                        tone="obstacle",
                        ref=f"obstacle:{obstacle.name}",
                    )
                )


def _flat(matrix: Array, mirrored: bool) -> tuple[float, ...]:
    """The 3 × 4 matrix by rows; of the right side its mirror image."""
    turn, shift = matrix[:, :3], matrix[:, 3]
    if mirrored:
        turn, shift = MIRROR @ turn @ MIRROR, MIRROR @ shift
    return tuple(round(float(v), 9) for v in np.hstack([turn, shift[:, None]]).ravel())


def _good(solved: Positions) -> list[bool]:
    return [bool(s == CONVERGED) for s in solved.status]


def _body_matrices(solved: Positions, body: str) -> list[Array | None]:
    """x → R (x − origin) + origin + r."""
    out: list[Array | None] = []
    for lane, good in enumerate(_good(solved)):
        if not good:
            out.append(None)
        elif body == GROUND:
            out.append(np.eye(3, 4))
        else:
            i = solved.system.index[body]
            turn, origin = solved.poses.R[i, :, :, lane], solved.system.origins[i]
            out.append(np.hstack([turn, (origin + solved.poses.r[i, :, lane] - turn @ origin)[:, None]]))
    return out


def _mark_matrices(solved: Positions, mark: Mark) -> list[Array | None]:
    where = np.broadcast_to(solved.system.where(solved.poses, mark, solved.drives), (3, solved.poses.lanes))
    return [
        np.hstack([np.eye(3), (where[:, lane] - np.array(mark.at))[:, None]]) if good else None
        for lane, good in enumerate(_good(solved))
    ]


def _member_matrices(solved: Positions, member: Member) -> list[Array | None]:
    """The shortest turn that lays a member along its two ends, where it is as long as it then is."""
    a, b = (
        np.broadcast_to(solved.system.where(solved.poses, m, solved.drives), (3, solved.poses.lanes))
        for m in (member.a, member.b)
    )
    start, stop = np.array(member.a.at), np.array(member.b.at)
    u, length = (stop - start) / np.linalg.norm(stop - start), np.linalg.norm(stop - start)
    out: list[Array | None] = []
    for lane, good in enumerate(_good(solved)):
        if not good:
            out.append(None)
            continue
        d = b[:, lane] - a[:, lane]
        v = d / np.linalg.norm(d)
        k = np.cross(u, v)
        cross = np.array([[0, -k[2], k[1]], [k[2], 0, -k[0]], [-k[1], k[0], 0]])
        turn = np.eye(3) + cross + cross @ cross / max(1 + float(u @ v), 1e-9)
        # what gives or slides (a damper) is drawn longer or shorter along itself
        stretch = np.eye(3) + (np.linalg.norm(d) / length - 1) * np.outer(u, u)
        matrix = turn @ stretch
        out.append(np.hstack([matrix, (a[:, lane] - matrix @ start)[:, None]]))
    return out
