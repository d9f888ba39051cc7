"""What stands round a bracket, as solids in its axes: members of the car, things to clear, other brackets, tyres and all that moves."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.design import Design
from tirante.core.document.end import Block, Round
from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.geometry.convex import Bar, Cylinder, Prism, Solid, Wall
from tirante.core.geometry.distance import point_segment
from tirante.core.job.bracket_map import FLAT, THIN, as_tabs, box_axes, members_near, plates_in_place, square_to
from tirante.core.job.room.axes import Seen
from tirante.core.job.worked import Worked
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.parts.bracket.families.place_view import contour_points, placed_plates
from tirante.core.parts.part import Part
from tirante.core.parts.registry import kind_of
from tirante.core.parts.stands import MIRROR
from tirante.core.suspension.assemble import SIDES
from tirante.core.suspension.clearance import Member, lopsided, members, solids_of
from tirante.core.suspension.shown.posture import made_tubes

Array = NDArray[np.float64]
OTHER_SIDE = ", the other side"
WANTED = 2.0  # mm between what moves; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class Thing:
    """Something near a bracket."""

    name: str
    solid: Solid | Wall
    body: str  # of the mechanism
    wanted: float = WANTED
    ends: tuple[Array, Array] | None = None  # of a member that moves (3, lanes)
    sort: str = "mount"  # mount, obstacle, bracket, member, tyre


def mount_solid(seen: Seen, mount: Mount, *, mirrored: bool, foot: Array | None = None) -> Thing | None:
    """A member of the car; None of one that is of another end, or of a side that is not moved here.

    Args:
        seen: the bracket's axes.
        mount: the member.
        mirrored: whether its mirror image is meant.
        foot: of a flat, the place that is looked round; None: where it is entered (3).
    """
    if mount.end_id not in (None, seen.end_id):
        return None
    way = MIRROR if mirrored else np.ones(3)
    shape = mount.shape
    ends = (shape.a, shape.b) if isinstance(shape, RoundMember | BoxMember) else (shape.through,)
    # a flat goes on to either side of the car: it is of the body on whose side it is looked round
    flat = not isinstance(shape, RoundMember | BoxMember)
    body = seen.body_at(mount.body, foot if flat and foot is not None else way * np.mean(ends, axis=0))
    if body is None:
        return None
    name = f"{mount.name}{OTHER_SIDE}" if mirrored else mount.name
    if isinstance(shape, RoundMember):
        a, b = (seen.carried(body, way * np.array(p)) for p in (shape.a, shape.b))
        return Thing(name=name, solid=Cylinder(a, b, shape.od_mm / 2), body=body)
    if isinstance(shape, BoxMember):
        a, b, side, top = box_axes(shape)
        w, h = shape.width_mm / 2, shape.height_mm / 2
        outline = np.array([(-w, -h), (w, -h), (w, h), (-w, h)])
        run = (b - a) / np.linalg.norm(b - a)
        axes = [seen.turned(body, way * one) for one in (side, top, run)]
        half = float(np.linalg.norm(b - a)) / 2
        return Thing(
            name=name,
            solid=Prism(outline, seen.carried(body, way * (a + b) / 2), axes[0], axes[1], axes[2], half),
            body=body,
        )
    n = np.array(shape.normal) / np.linalg.norm(shape.normal)
    one, two = square_to(n)
    thick = shape.wall_mm or THIN
    outline = FLAT * np.array([(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)])
    middle = (np.array(shape.through) if foot is None else way * foot) - n * thick / 2
    axes = [seen.turned(body, way * v) for v in (one, two, n)]
    return Thing(
        name=name,
        solid=Prism(outline, seen.carried(body, way * middle), axes[0], axes[1], axes[2], thick / 2),
        body=body,
    )


def standing_things(job: Worked, seen: Seen, part_id: str, on: tuple[str, bool], *, pair: bool) -> list[Thing]:
    """All that is of a body and stands near: members of the car but its own, things to clear, other brackets.

    Args:
        job: worked out.
        seen: the bracket's axes.
        part_id: of the bracket.
        on: what it stands on: the member's id, and whether its mirror image.
        pair: whether its mirror image stands on the other side: it meets what stands there.
    """
    found: list[Thing] = []
    lies_in_it = getattr(job.design.part(part_id), "bar", "")  # of a bearing's pad
    for mount in members_near(job, seen.end_id):
        for mirrored in (False, True) if mount.both_sides else (False,):
            if (mount.id, mirrored) == on:
                continue
            one = mount_solid(seen, mount, mirrored=mirrored)
            if one is not None:
                found.append(one)
    found += _obstacles(seen, pair=pair)
    for part in job.parts:
        if part.saved.id == part_id:
            continue
        if part.saved.id != lies_in_it:
            found += _housings(job, seen, part)
        found += _pad_things(job, seen, part)
        shape = as_tabs(part)
        if shape is None:
            continue
        tab, outlines, footing = shape
        for joint, other in zip(part.own.joints, part.own.stands, strict=True):
            if other is None or (other.at.end_id not in (seen.end_id, None) and other.at.body != GROUND):
                continue
            for mirrored in (False, True) if part.saved.side == "pair" else (False,):
                way = MIRROR if mirrored else np.ones(3)
                body = seen.body_at(other.at.body, way * other.at.at)
                if body is None:
                    continue
                name = f"{part.saved.name}{OTHER_SIDE}" if mirrored else part.saved.name
                for plate in placed_plates(tab, outlines, joint.gap, other):
                    x, y, z = (seen.turned(body, way * v) for v in (plate.x, other.standing.y, other.standing.bolt))
                    corners = np.array(contour_points(plate.contour))
                    solid = Prism(corners, seen.carried(body, way * plate.at), x, y, z, tab.plate.mm / 2)
                    found.append(Thing(name=name, solid=solid, body=body, sort="bracket"))
                for flat in footing.laid(joint.gap, other) if footing else ():
                    x, y, z = (seen.turned(body, way * v) for v in (flat.x, flat.y, np.cross(flat.x, flat.y)))
                    solid = Prism(flat.outline, seen.carried(body, way * flat.at), x, y, z, flat.thick / 2)
                    found.append(Thing(name=name, solid=solid, body=body, sort="bracket"))
    return found


def _housings(job: Worked, seen: Seen, part: Part) -> list[Thing]:
    """What of a part stands still on the chassis as a round bar."""
    if part.saved.of_end != seen.end_id:
        return []
    found = []
    for a, b, radius in kind_of(part.saved).housings(part.saved, job):
        ends = tuple(np.asarray(seen.carried(GROUND, at)) for at in (a, b))
        found.append(Thing(name=part.name, solid=Cylinder(ends[0], ends[1], radius), body=GROUND, sort="bracket"))
    return found


def _pad_things(job: Worked, seen: Seen, part: Part) -> list[Thing]:
    """Plate and webs of a pad, on either side of the car."""
    found = []
    for at, flats in plates_in_place(job, part):
        if at.end_id not in (seen.end_id, None) and at.body != GROUND:
            continue
        for mirrored in (False, True) if part.saved.side == "pair" else (False,):
            way = MIRROR if mirrored else np.ones(3)
            body = seen.body_at(at.body, way * at.at)
            if body is None:
                continue
            name = f"{part.saved.name}{OTHER_SIDE}" if mirrored else part.saved.name
            for flat in flats:
                x, y, z = (seen.turned(body, way * v) for v in (flat.x, flat.y, np.cross(flat.x, flat.y)))
                solid = Prism(flat.outline, seen.carried(body, way * flat.at), x, y, z, flat.thickness / 2)
                found.append(Thing(name=name, solid=solid, body=body, sort="bracket"))
    return found


def _obstacles(seen: Seen, *, pair: bool) -> list[Thing]:
    found = []
    for obstacle in seen.assembled.end.obstacles:
        solids = solids_of(seen.assembled, obstacle)
        for solid in solids:
            points = [np.array(p) for p in solid.points]
            ways = [np.array(d) for d in solid.directions]
            for mirrored in (False, True) if pair and lopsided(obstacle) else (False,):
                # what stands on the right alone meets the right one, as its mirror image meets the left
                flip = MIRROR if mirrored else np.ones(3)
                body = seen.body if mirrored and solid.body == GROUND == seen.body else solid.body
                if mirrored and body != seen.body:
                    continue
                at = [seen.pitched(body, flip * p) for p in points]
                axes = [seen.pitched_way(body, flip * d) for d in ways]
                shape = obstacle.shape
                made: Solid | Wall
                if isinstance(shape, Round):
                    made = Bar(at[0], at[1], shape.radius_mm)
                elif isinstance(shape, Block):
                    w, h, d = ((b - a) / 2 for a, b in zip(shape.low, shape.high, strict=True))
                    outline = np.array([(-w, -h), (w, -h), (w, h), (-w, h)])
                    made = Prism(outline, at[0], axes[0], axes[1], axes[2], d)
                else:
                    made = Wall(at[0], axes[0])
                found.append(Thing(name=obstacle.name, solid=made, body=body, wanted=obstacle.wanted_mm, sort="obstacle"))  # fmt: skip
    return found


def moving_things(job: Worked, seen: Seen, at: Array | None = None) -> list[Thing]:
    """All that moves as round bars: links, tubes of arms, dampers, shafts, the axle.

    Args:
        job: worked out.
        seen: the bracket's axes.
        at: only what ends at this place at ride height is wanted, as the end's points are entered (3).
    """
    assembled = seen.assembled
    made = {
        assembled.body_on(body, side): (shape, side)
        for body, shape in job.shapes(seen.end_id).items() if shape.tubes for side in (SIDES if assembled.beam else ("left",))
    }  # fmt: skip
    place = None if at is None else seen.as_pitched(at)

    def wanted(*marks: Mark) -> bool:
        return place is None or any(float(np.linalg.norm(place - np.array(mark.at))) < ENDS_HERE for mark in marks)

    found = []
    for member in members(assembled):
        as_made = member.a.body == member.b.body and member.a.body in made  # below
        if not as_made and wanted(member.a, member.b):
            found += _bars(seen, member)
    for body, (shape, side) in made.items():
        for a, b, od in made_tubes(assembled, body, shape, side):
            if wanted(a, b):
                one, two = seen.where(a), seen.where(b)
                found.append(Thing(name=body.replace("_", " "), solid=Bar(one, two, od / 2), body=body, ends=(one, two), sort="member"))  # fmt: skip
    return found


ENDS_HERE = 1.0  # mm
SAME_LINE = 1.0  # mm


def of_its_arm(design: Design, mount: Mount, moving: Sequence[Thing], seen: Seen) -> list[Thing]:
    """The other tubes and sleeves of the arm that a bracket stands on: they stand still beside it.

    Args:
        design: that the arm is a part of.
        mount: the tube that it stands on.
        moving: all that moves, the arm's own tubes among it.
        seen: the bracket's axes.
    """
    shape = mount.shape
    if not isinstance(shape, RoundMember | BoxMember):
        return []
    arm = design.part(mount.id)
    a, b = np.array(shape.a)[:, None], np.array(shape.b)[:, None]
    found = []
    for one in moving:
        if one.body != seen.body or one.ends is None:
            continue
        p, q = (end[:, :1] for end in one.ends)
        if max(float(point_segment(end, a, b)[0]) for end in (p, q)) < SAME_LINE:
            continue
        solid = Bar(p, q, one.solid.rounding) if isinstance(one.solid, Bar) else one.solid
        found.append(replace(one, name=f"{arm.name}, another tube" if arm else one.name, solid=solid, ends=(p, q)))
    return found


def _bars(seen: Seen, member: Member) -> list[Thing]:
    a, b = seen.where(member.a), seen.where(member.b)
    body = member.a.body if member.a.body == member.b.body else ""
    if member.bent is None:
        return [Thing(name=member.name, solid=Bar(a, b, member.radius), body=body, ends=(a, b), sort="member")]
    found = []
    world = [seen.world(mark) for mark in (member.a, member.b)]
    for roll in member.bent.rolled():
        points = [seen.from_world(point) for point in member.bent.points(world[0], world[1], roll)]
        for p, q in itertools.pairwise(points):
            found.append(Thing(name=member.name, solid=Bar(p, q, member.radius), body=body, ends=(p, q), sort="member"))  # fmt: skip
    return found


def tyre_things(seen: Seen) -> list[Thing]:
    """Each tyre as a ring of balls.

    Args:
        seen: the bracket's axes.
    """
    return [
        Thing(name=name, solid=Bar(ring[:, i, :], ring[:, i, :], radius), body=name, sort="tyre")
        for name, ring, radius in seen.tyres() for i in range(ring.shape[1])
    ]  # fmt: skip
