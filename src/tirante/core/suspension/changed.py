"""A solved end with its parts made otherwise: links and arm sides longer, a joint moved on its body."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.mechanism.model import Coincident, Distance, Mark
from tirante.core.mechanism.solve import solve
from tirante.core.mechanism.system import System
from tirante.core.suspension.assemble import Assembled
from tirante.core.suspension.cycle import Solved

Array = NDArray[np.float64]


def arm_sides(assembled: Assembled) -> dict[str, tuple[str, tuple[str, str], str]]:
    """Sides of hinged arms that a rod end at a pivot would lengthen, by name: outer joint, the hinge's points, which pivot."""
    found: dict[str, tuple[str, tuple[str, str], str]] = {}
    for hinge in assembled.template.joints:
        if hinge.kind != "hinge" or hinge.on != "ground":
            continue
        outers = [j for j in assembled.template.joints if j.kind == "ball" and hinge.body in j.bodies]
        if len(outers) != 1 or assembled.beam:
            continue
        for pivot in hinge.points:
            found[f"{pivot} – {outers[0].point}"] = (outers[0].name, hinge.points, pivot)
    return found


def lengthened(done: Solved, by: dict[str, float]) -> Solved:
    """The same positions with links or arm sides of other lengths, each by its name and by so many mm.

    Links are named as in `Assembled.links`, arm sides as in `arm_sides`. What counts as ride height stays where it was, so
    that changes against it show.
    """
    known = {link.name for side in done.sides for link in side.assembled.links} | set(arm_sides(done.left.assembled))
    if unknown := set(by) - known:
        raise InputError(f"There is no link {', '.join(sorted(unknown))}.", code="unknown_link", fields=tuple(unknown))
    sides = []
    for side in done.sides:
        assembled = lengthened_in(side.assembled, by)
        system = System(assembled.mechanism)
        system.like(side.solved.system)
        sides.append(replace(side, assembled=assembled, solved=solve(system, side.solved.drives)))
    return replace(done, left=sides[0], right=sides[1] if done.right else None)


def lengthened_in(assembled: Assembled, by: Mapping[str, float]) -> Assembled:
    """A mechanism with links or arm sides of other lengths, nothing solved yet.

    Raises:
        InputError: an arm's sides do not meet.
    """
    links = {link.name: link for link in assembled.links}
    moved: dict[str, Mark] = {}  # by outer joint: where it stands on its arm then
    for outer, points, _ in arm_sides(assembled).values():
        grown = [by.get(f"{p} – {_point_of(assembled, outer)}", 0.0) for p in points]
        if any(grown) and outer not in moved:
            joint = next(c for c in assembled.mechanism.constraints if isinstance(c, Coincident) and c.name == outer)
            one, two = (np.array(assembled.role(p).at) for p in points)
            corner = np.array(joint.a.at)
            r, s = (float(np.linalg.norm(corner - p)) + g for p, g in zip((one, two), grown, strict=True))
            moved[outer] = replace(joint.a, at=apex(one, two, corner, (r, s)))
    constraints = tuple(
        replace(c, length=links[c.name].length + by[c.name]) if isinstance(c, Distance) and c.name in by
        else replace(c, a=moved[c.name], meet=True) if isinstance(c, Coincident) and c.name in moved
        else c
        for c in assembled.mechanism.constraints
    )  # fmt: skip
    # what is measured at an outer joint is followed on its arm
    marks = assembled.marks | {_point_of(assembled, name): mark for name, mark in moved.items()}
    return replace(assembled, marks=marks, mechanism=replace(assembled.mechanism, constraints=constraints))


def shifted(done: Solved, body: str, ball: str, by: Array) -> Solved:
    """The same single position with a ball joint of a body moved on that body, by so much in the car's axes [mm].

    What an arm gives under load, its outer joint carried off by its tubes, moves the wheel so.

    Args:
        done: the end, solved.
        body: name of the body.
        ball: name of the joint.
        by: (3) [mm].

    Raises:
        InputError: the body has no such joint.
    """
    sides = []
    for side in done.sides:
        assembled, system = side.assembled, side.solved.system
        found = next(
            (c for c in assembled.mechanism.constraints if isinstance(c, Coincident) and c.name == ball and body in (c.a.body, c.b.body)),
            None,
        )  # fmt: skip
        if found is None:
            raise InputError(f"“{body}” has no joint “{ball}”.", code="unknown_joint", fields=("body",))
        which = "a" if found.a.body == body else "b"
        mark = found.a if which == "a" else found.b
        x, y, z = (np.array(mark.at) + side.solved.poses.R[system.index[body], :, :, 0].T @ by).tolist()
        moved = replace(mark, at=(x, y, z))
        held = replace(found, a=moved, meet=True) if which == "a" else replace(found, b=moved, meet=True)
        constraints = tuple(held if c is found else c for c in assembled.mechanism.constraints)
        marks = assembled.marks | {_point_of(assembled, ball): moved}  # what is measured there is followed on this body
        changed = replace(assembled, marks=marks, mechanism=replace(assembled.mechanism, constraints=constraints))
        own = System(changed.mechanism)
        own.like(system)
        sides.append(replace(side, assembled=changed, solved=solve(own, side.solved.drives)))
    return replace(done, left=sides[0], right=sides[1] if done.right else None)


def _point_of(assembled: Assembled, ball: str) -> str:
    return next(joint.point for joint in assembled.template.joints if joint.kind == "ball" and joint.name == ball)


def apex(one: Array, two: Array, corner: Array, sides: tuple[float, float]) -> tuple[float, float, float]:
    """The third corner of a triangle whose two sides to it are of other lengths, in its plane.

    Args:
        one: (3) a corner that stays [mm].
        two: (3) the other.
        corner: (3) where the third was.
        sides: from `one` and from `two` to where it is then [mm].

    Raises:
        InputError: the sides do not meet.
    """
    base = float(np.linalg.norm(two - one))
    along = (two - one) / base
    square = corner - one - along * float((corner - one) @ along)
    square /= np.linalg.norm(square)
    r, s = sides
    x = (r * r - s * s + base * base) / (2 * base)
    height = r * r - x * x
    if height <= 0:
        raise InputError("The arm's sides do not meet at these lengths. Use fewer turns.", code="no_triangle")
    a, b, c = one + along * x + square * float(np.sqrt(height))
    return float(a), float(b), float(c)
