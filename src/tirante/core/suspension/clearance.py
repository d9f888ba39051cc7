"""What must not touch: members as round bars, the tyre as a ring of balls, against obstacles, the rim and each other.

A member's diameter is the end's own where it gives one, else `USUAL_OD` (common practice, no source). Next to a joint on
the obstacle's own body `AT_JOINT` of the member is left out: there its bracket stands.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from math import ceil, cos, hypot, pi, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import Block, Obstacle, Round
from tirante.core.geometry.distance import point_block, point_segment, segment_block, segment_wall, segments
from tirante.core.geometry.vectors import cross
from tirante.core.mechanism.model import GROUND, Mark, Vector, separation
from tirante.core.mechanism.solve import CONVERGED, Positions
from tirante.core.suspension import measures
from tirante.core.suspension.assemble import SIDES, Assembled, mirrored
from tirante.core.suspension.bent import BentLine
from tirante.core.suspension.ride import pitched

Array = NDArray[np.float64]
USUAL_OD = {"link": 25.0, "arm": 25.0, "axle": 70.0, "damper": 60.0, "shaft": 28.0}  # mm, common practice, no source
AT_JOINT = 50.0  # mm
RING = 36  # balls of a ring that stands for a tyre
ROW = 1.0  # of a ball's radius, from one ring of a tyre on its rim to the next at most


@dataclass(frozen=True, slots=True)
class Member:
    """A round part between two marks, straight but for a bent link."""

    name: str
    a: Mark
    b: Mark
    radius: float
    bent: BentLine | None = None  # a link that does not run straight from one to the other


def members(assembled: Assembled) -> list[Member]:
    """Everything straight that moves: links, arms, axle, dampers, shafts."""
    end = assembled.end
    found: list[Member] = []
    for link in assembled.links:
        known = end.links.get(link.template_name)
        od = (known.od_mm if known else None) or USUAL_OD["link"]
        bent = BentLine(link, known, known.bend) if known and known.bend else None
        found.append(Member(link.name, link.a, link.b, od / 2, bent))
    for body in assembled.template.bodies:
        if body == assembled.template.roles.wheel_body and not (assembled.beam and body == assembled.axle_body):
            continue
        given = end.member_od_mm.get(body)
        if assembled.beam and body == assembled.axle_body:
            one, two = (Mark(body, mark.at) for mark in (assembled.wheel_centre, assembled.wheel_centre_right))
            found.append(Member(body.replace("_", " "), one, two, (given or USUAL_OD["axle"]) / 2))
            continue
        for side in SIDES if body in assembled.split else ("left",):
            own = assembled.body_on(body, side)
            name = body.replace("_", " ") + (f", {side}" if body in assembled.split else "")
            for a, b in assembled.edges(own):
                found.append(Member(name, a, b, (given or USUAL_OD["arm"]) / 2))
    for side in SIDES if assembled.beam else ("left",):
        suffix = f", {side}" if assembled.beam else ""
        for name, damper in end.dampers.items():
            a, b = (assembled.place(place, side) for place in damper.places)
            found.append(Member(f"{name}{suffix}", a, b, (damper.od_mm or USUAL_OD["damper"]) / 2))
        for name, shaft in end.shafts.items():
            if assembled.beam and not shaft.pair and side == "right":
                continue
            a, b = assembled.place(shaft.inner, side), assembled.place(shaft.outer, side)
            suffix_of = suffix if shaft.pair else ""
            found.append(Member(f"{name}{suffix_of}", a, b, (shaft.od_mm or USUAL_OD["shaft"]) / 2))
    return found


def clearances(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """`clearance_mm` of every pair watched (negative: one is inside the other), and what is wanted of it.

    Args:
        assembled: the mechanism with its named marks.
        solved: its positions.
        rest: the same at ride height.
    """
    end = assembled.end
    if not (end.obstacles or end.misses or end.wheel.rim):
        return {}
    every = members(assembled)
    rings = tyres(assembled, solved) if end.obstacles else []
    wheels = (assembled.wheel(1.0).body, assembled.wheel(-1.0).body)
    where: dict[Mark, Array] = {}  # of members' ends, each found once
    found: dict[str, dict[str, Array]] = {}

    def note(name: str, gap: Array, wanted: float) -> None:
        before = found.get(name)
        least = gap if before is None else np.minimum(before["clearance_mm"], gap)
        found[name] = {"clearance_mm": least, "wanted_mm": np.full(gap.shape, wanted)}

    for obstacle in end.obstacles:
        for solid in _solids(assembled, obstacle):
            # of the same body nothing moves
            watched = [m for m in every if not solid.body == m.a.body == m.b.body]
            if watched:
                runs = [(m, run) for m in watched for run in _runs(where, solved, m, solid.body)]
                gaps = solid.gap(solved, *(np.stack([run[i] for _, run in runs], axis=1) for i in (0, 1)))
                for (member, _), gap in zip(runs, gaps, strict=True):  # of a bent one the least, however it rolls
                    note(f"{member.name} to {obstacle.name}", gap - member.radius, obstacle.wanted_mm)
            if solid.body not in wheels:
                for name, ring, radius in rings:
                    note(
                        f"{name} to {obstacle.name}",
                        solid.gap(solved, ring, None).min(axis=0) - radius,
                        obstacle.wanted_mm,
                    )
    for pair in end.misses:
        for one in (m for m in every if _called(m.name, pair.a)):
            for two in (m for m in every if _called(m.name, pair.b)):
                for p, q in _runs(where, solved, one, None):
                    for r, s in _runs(where, solved, two, None):
                        gap = segments(p, q, r, s) - one.radius - two.radius
                        note(f"{one.name} to {two.name}", gap, pair.wanted_mm)
    return found | _in_rim(assembled, solved, rest)


@dataclass(frozen=True, slots=True, kw_only=True)
class Bend:
    """How far a link must be bent away from what comes nearest to it [mm]."""

    offset: float  # of its bends off the line; 0 when nothing asks for one
    obstacle: str
    clearance: float  # as the straight link has it
    wanted: float
    share: float  # of the way from its first end, where that is
    lane: int


ALONG = 41  # places along a link that are looked at


def bend_to_clear(assembled: Assembled, solved: Positions, link: str, leg: float | None = None) -> Bend | None:
    """The bend that clears every thing to clear, the link bent straight away from it.

    A bend lifts the link most at the bend and nothing at its pivots: what is near an end asks for more of it.

    Args:
        assembled: the end.
        solved: every position it is moved to.
        link: as the template calls it; both sides of a pair are looked at.
        leg: share of the link from either pivot to its bend; None: one bend in the middle.

    Returns:
        The worst place of all; None when nothing is watched.
    """
    shares = np.linspace(0.0, 1.0, ALONG)
    profile = np.minimum(1.0, np.minimum(shares, 1 - shares) / (leg or 0.5))
    inner = profile > 0.12  # beside the joint a bend lifts nothing
    best: Bend | None = None
    for member in (one for one in members(assembled) if _called(one.name, link)):
        p, q = (
            np.broadcast_to(solved.system.where(solved.poses, m, solved.drives), (3, solved.poses.lanes))
            for m in (member.a, member.b)
        )
        spots = p[:, None, :] + shares[None, :, None] * (q - p)[:, None, :]
        for obstacle in assembled.end.obstacles:
            for solid in _solids(assembled, obstacle):
                if solid.body in (member.a.body, member.b.body) and solid.body != GROUND:
                    continue
                gap = solid.gap(solved, spots, None) - member.radius
                lack = np.where(
                    inner[:, None], (obstacle.wanted_mm - gap) / np.maximum(profile, 1e-9)[:, None], -np.inf
                )
                lack[:, solved.status != CONVERGED] = -np.inf
                i, lane = np.unravel_index(int(np.argmax(lack)), lack.shape)
                found = Bend(
                    offset=max(0.0, float(lack[i, lane])), obstacle=obstacle.name, clearance=float(gap[i, lane]), wanted=obstacle.wanted_mm,
                    share=float(shares[i]), lane=int(lane),
                )  # fmt: skip
                if best is None or (found.offset, -found.clearance) > (best.offset, -best.clearance):
                    best = found
    return best


def _called(name: str, wanted: str) -> bool:
    return name == wanted or name.startswith(f"{wanted}, ")


@dataclass(frozen=True, slots=True)
class _Solid:
    """An obstacle on one side, in the axes it had at the reference position."""

    obstacle: Obstacle
    body: str
    points: tuple[Vector, ...]
    directions: tuple[Vector, ...]

    def outline(self) -> tuple[Vector, ...]:
        """Points whose outline from any side is the solid's; none of a wall, which has no end."""
        shape = self.obstacle.shape
        if isinstance(shape, Block):
            (x, y, z), half = self.points[0], [(b - a) / 2 for a, b in zip(shape.low, shape.high, strict=True)]
            corners = [(i, j, k) for i in (-1, 1) for j in (-1, 1) for k in (-1, 1)]
            turned = [
                tuple(
                    sum(s * h * d[axis] for s, h, d in zip(c, half, self.directions, strict=True)) for axis in range(3)
                )
                for c in corners
            ]
            return tuple((x + a, y + b, z + c) for a, b, c in turned)
        if isinstance(shape, Round):
            a, b = (np.array(p) for p in self.points)
            along = (b - a) / max(float(np.linalg.norm(b - a)), 1e-9)
            u = np.cross(along, np.eye(3)[int(np.argmin(np.abs(along)))])
            u /= np.linalg.norm(u)
            v = np.cross(along, u)
            ring = [cos(2 * pi * i / 12) * u + sin(2 * pi * i / 12) * v for i in range(12)]
            spots = [end + shape.radius_mm * r for end in (a, b) for r in ring]
            return tuple((float(s[0]), float(s[1]), float(s[2])) for s in spots)
        return ()

    def gap(self, solved: Positions, p: Array, q: Array | None) -> Array:
        """Distance to its surface of segments p–q (3, several, lanes), or of points p; of a block 0 at least."""
        system, poses = solved.system, solved.poses
        shape, several = self.obstacle.shape, p.shape[1]

        def spread(v: Array) -> Array:
            return np.broadcast_to(v[:, None, :], (3, several, p.shape[2])).reshape(3, -1)

        at = [spread(system.where(poses, Mark(self.body, point), solved.drives)) for point in self.points]
        axes = [spread(system.direction(poses, self.body, d)) for d in self.directions]
        one = p.reshape(3, -1)
        two = None if q is None else q.reshape(3, -1)
        if isinstance(shape, Round):
            found = (point_segment(one, *at) if two is None else segments(one, two, *at)) - shape.radius_mm
        elif isinstance(shape, Block):
            half = np.array([(b - a) / 2 for a, b in zip(shape.low, shape.high, strict=True)])
            block = at[0], np.stack(axes), half
            found = point_block(one, *block) if two is None else segment_block(one, two, *block)
        else:
            found = segment_wall(one, one if two is None else two, at[0], axes[0])
        return found.reshape(several, -1)


def lopsided(obstacle: Obstacle) -> bool:
    """Whether the right side meets something else than the left does."""
    if obstacle.both_sides:
        return False
    shape = obstacle.shape
    if isinstance(shape, Block):
        return shape.low[1] != -shape.high[1]
    if isinstance(shape, Round):
        return shape.a[1] != 0 or shape.b[1] != 0
    return shape.normal[1] != 0


def _solids(assembled: Assembled, obstacle: Obstacle) -> list[_Solid]:
    """The obstacle where it stands: on its own side, and on the other where it is wanted there too."""
    (cx, _, cz), pitch = pitched(assembled.template, assembled.end)

    def turned(v: Vector) -> Vector:
        return v[0] * cos(pitch) - v[2] * sin(pitch), v[1], v[0] * sin(pitch) + v[2] * cos(pitch)

    def moved(p: Vector) -> Vector:
        # the end's points are pitched already about the wheel's centre, which stays where it is
        x, y, z = turned((p[0] - cx, p[1], p[2] - cz))
        return x + cx, y, z + cz

    shape = obstacle.shape
    points: tuple[Vector, ...]
    directions: tuple[Vector, ...]
    if isinstance(shape, Round):
        points, directions = (shape.a, shape.b), ()
    elif isinstance(shape, Block):
        x, y, z = ((a + b) / 2 for a, b in zip(shape.low, shape.high, strict=True))
        points, directions = ((x, y, z),), ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
    else:
        size = hypot(*shape.normal)
        x, y, z = (v / size for v in shape.normal)
        points, directions = (shape.through,), ((x, y, z),)
    at = tuple(moved((float(p[0]), float(p[1]), float(p[2]))) for p in points)
    axes = tuple(turned(d) for d in directions)
    own = _Solid(obstacle, assembled.body_on(obstacle.body, "left"), at, axes)
    across = tuple(mirrored(p) for p in at), tuple(mirrored(d) for d in axes)
    other = _Solid(obstacle, assembled.body_on(obstacle.body, "right"), *across)
    if assembled.beam:
        middle = all(abs(p[1]) < 1e-9 for p in at) and not isinstance(shape, Block)
        return [own, other] if obstacle.both_sides and not middle else [own]
    # a right corner stands mirrored: what is on the right only is seen from there alone
    if assembled.corner == "right":
        return [own, other] if obstacle.both_sides else [other]
    return [own, other] if obstacle.both_sides else [own]


def solids_of(assembled: Assembled, obstacle: Obstacle) -> list[_Solid]:
    """The obstacle wherever it stands: on its own side, and on the other where it is wanted there too.

    Args:
        assembled: the end.
        obstacle: of it.
    """
    return _solids(assembled, obstacle)


def own_solids(assembled: Assembled, obstacle: Obstacle) -> list[_Solid]:
    """The obstacle as it is drawn with this corner or axle, each once."""
    found = _solids(assembled, obstacle)
    return found if assembled.beam else found[:1]


def _runs(where: dict[Mark, Array], solved: Positions, member: Member, body: str | None) -> list[tuple[Array, Array]]:
    """A member's straight pieces, of a bent link however it may roll, left out at its ends as by `_cut`."""
    p, q = _cut(where, solved, member, body)
    if member.bent is None:
        return [(p, q)]
    a, b = where[member.a], where[member.b]
    out = []
    for roll in member.bent.rolled():
        points = member.bent.points(a, b, roll)
        # what is left out at a joint is left out along the piece that stands in it
        for i, j, short in ((0, 1, p is not a), (-1, -2, q is not b)):
            d = points[j] - points[i]
            size = np.linalg.norm(d, axis=0)
            points[i] = points[i] + d * (np.minimum(0.5, AT_JOINT / np.maximum(size, 1e-9)) if short else 0.0)
        out += list(pairwise(points))
    return out


def _cut(where: dict[Mark, Array], solved: Positions, member: Member, body: str | None) -> tuple[Array, Array]:
    """A member's ends, drawn in by `AT_JOINT` where it is fastened to that body."""
    for mark in (member.a, member.b):
        if mark not in where:
            at = solved.system.where(solved.poses, mark, solved.drives)
            where[mark] = np.broadcast_to(at, (3, solved.poses.lanes))
    p, q = where[member.a], where[member.b]
    share = min(0.5, AT_JOINT / max(separation(member.a, member.b), 1e-9))
    d = q - p
    if body is None:
        return p, q
    if member.a.body == body or (body == GROUND and member.a.drive):
        p = p + d * share
    if member.b.body == body:
        q = q - d * share
    return p, q


def tyres(assembled: Assembled, solved: Positions) -> list[tuple[str, Array, float]]:
    """Each tyre as rings of ball centres (3, balls, lanes) and their radius.

    One ring as wide as the tyre where its rim is not known; where it is, it fills no more than from the rim's barrel out, with
    rings side by side over its width.

    Args:
        assembled: the end.
        solved: its positions.
    """
    found = []
    wheel = assembled.end.wheel
    radius = min(wheel.width_mm / 2, wheel.loaded_radius_mm * 0.9)
    if wheel.rim is not None and wheel.rim.barrel_radius_mm < wheel.loaded_radius_mm:
        radius = min(radius, (wheel.loaded_radius_mm - wheel.rim.barrel_radius_mm) / 2)
    rows = ceil((wheel.width_mm - 2 * radius) / (ROW * radius) - 1e-9) + 1
    aside = np.linspace(radius - wheel.width_mm / 2, wheel.width_mm / 2 - radius, rows) if rows > 1 else (0.0,)
    for side, name in ((1.0, "left tyre"), (-1.0, "right tyre")) if assembled.beam else ((1.0, "tyre"),):
        state = measures.wheel_at(assembled, solved, side)
        s = state.spin
        u = measures.unit(cross(s, np.array([0.0, 0.0, 1.0])[:, None]))
        v = cross(s, u)
        reach = wheel.loaded_radius_mm - radius
        angles = [2 * pi * i / RING for i in range(RING)]
        ring = np.stack([state.centre + off * s + reach * (cos(a) * u + sin(a) * v) for off in aside for a in angles], axis=1)  # fmt: skip
        found.append((name, ring, radius))
    return found


def _in_rim(assembled: Assembled, solved: Positions, rest: Positions) -> dict[str, dict[str, Array]]:
    """Of every joint that lives inside the rim at ride height: the way to barrel and spokes."""
    rim = assembled.end.wheel.rim
    if rim is None:
        return {}
    found: dict[str, dict[str, Array]] = {}
    for side, name in ((1.0, "left"), (-1.0, "right")) if assembled.beam else ((1.0, "left"),):
        state, still = (measures.wheel_at(assembled, one, side) for one in (solved, rest))
        for joint, mark in assembled.marks.items():
            if assembled.beam and not joint.endswith(f"_{name}"):
                continue
            start, ride_radius = _from_wheel(assembled, rest, still, mark)
            if not (rim.inboard_edge_mm <= start[0] <= rim.spokes_mm and ride_radius[0] < rim.barrel_radius_mm):
                continue
            along, radius = _from_wheel(assembled, solved, state, mark)
            inside = along >= rim.inboard_edge_mm - rim.joint_radius_mm
            barrel = np.where(inside, rim.barrel_radius_mm - radius, np.inf) - rim.joint_radius_mm
            gap = np.minimum(barrel, rim.spokes_mm - along - rim.joint_radius_mm)
            found[f"{joint.replace('_', ' ')} in the rim"] = {
                "clearance_mm": gap, "wanted_mm": np.full(gap.shape, rim.wanted_mm),
            }  # fmt: skip
    return found


def _from_wheel(assembled: Assembled, solved: Positions, state: measures.WheelState, mark: Mark) -> tuple[Array, Array]:
    """Of a point: how far outboard of the wheel's middle plane, and how far from its spin axis."""
    d = solved.system.where(solved.poses, mark, solved.drives) - state.centre
    along = (d * state.spin).sum(axis=0)
    return along, np.linalg.norm(d - along * state.spin, axis=0)
