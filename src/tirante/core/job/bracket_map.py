"""The joints of an end where they are in the car, with the members that brackets stand on: as three views, and as solids in its 3D scene."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import cos, pi, sin
from typing import cast

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.parts.rail_sleeve import RailSleeve
from tirante.core.document.parts.single_tab import SingleTab
from tirante.core.drawing.model import Arc, Drawing, Primitive, Text
from tirante.core.drawing.scene import Cylinder, Plate, Scene, ScenePoint, Shape
from tirante.core.drawing.sheet import Numbers
from tirante.core.flat.contour import points_along
from tirante.core.job.results import PlaceOut
from tirante.core.job.studies import solved_at, study_of
from tirante.core.job.worked import Worked
from tirante.core.parts.bracket.families.eared import EaredKind
from tirante.core.parts.bracket.families.footing import Footing
from tirante.core.parts.bracket.families.lapped import LappedMade, lapped_flats
from tirante.core.parts.bracket.families.pad import Flat
from tirante.core.parts.bracket.families.pad_kind import PadMade
from tirante.core.parts.bracket.families.place_view import contour_points, placed_plates
from tirante.core.parts.bracket.families.rail_sleeve import SleeveMade, sleeve_flats
from tirante.core.parts.bracket.families.single_tab import SingleMade
from tirante.core.parts.bracket.families.single_tab import as_pair as single_as_pair
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.bracket.families.tab_pair import TabMade
from tirante.core.parts.joint import JointMade
from tirante.core.parts.part import Part
from tirante.core.parts.registry import kind_of
from tirante.core.parts.stands import MIRROR, At, Stand
from tirante.core.suspension.shown.end_view import Point3, Thing, views_sheet
from tirante.core.suspension.shown.posture import postures_of
from tirante.core.suspension.shown.scene import scene

Array = NDArray[np.float64]
AROUND = 12  # corners of a tube's end, seen from any side
FLAT = 60.0  # mm of a flat that is drawn to either side of where it is entered
THIN = 3.0  # mm, of a flat whose thickness is not known


def map_of(job: Worked, end_id: str, places: Sequence[PlaceOut], numbers: Numbers) -> Drawing | None:
    """The end at ride height with its members, and every place marked by its number among all places of the job; None where it cannot be put together.

    Args:
        job: worked out.
        end_id: of the end.
        places: of the job.
        numbers: how lengths are written.

    Raises:
        InputError: the end cannot be put together.
    """
    done = solved_at(job, end_id, 0.0, 0.0, 0.0)
    ride = postures_of(done, job.shapes(end_id))[1]
    if ride is None:
        return None
    things = [Thing(points=tuple(outline), ref=f"mount:{mount.id}") for mount in members_near(job, end_id) for outline in _outlines(mount)]  # fmt: skip
    now = replace(ride, things=(*ride.things, *things))
    named = [(str(i + 1), one.at) for i, one in enumerate(places) if one.at is not None and _of_end(job, one, end_id)]  # fmt: skip
    end = job.design.end(end_id)
    assert end
    drawing = views_sheet(f"{end.name}, brackets", now, now, None, numbers, named=named, middle=False, size=3.4)
    free = {f"point:{i + 1}" for i, one in enumerate(places) if not one.settled}
    items = tuple(_marked(item, free=item.ref in free) for item in drawing.items)
    return drawing.model_copy(update={"items": items})


def _marked(item: Primitive, *, free: bool) -> Primitive:
    """A joint's mark: hollow and in amber where nothing holds it, so that it is told from the others by shape too."""
    if not free:
        return item
    if isinstance(item, Arc):
        return item.model_copy(update={"fill": "sheet", "tone": "amber", "style": "visible", "r": 1.3})
    return item.model_copy(update={"tone": "amber", "bold": True}) if isinstance(item, Text) else item


def _of_end(job: Worked, place: PlaceOut, end_id: str) -> bool:
    """Whether a place is of an end: of a part of it, or of the end itself."""
    saved = job.saved(place.id)
    return place.id == end_id or (saved is not None and saved.of_end == end_id)


def members_near(job: Worked, end_id: str) -> list[Mount]:
    """Members that may be drawn with an end: its own, and those of the chassis that any joint of it stands on, or that come near its points.

    Args:
        job: worked out.
        end_id: of the end.
    """
    end = job.ends[end_id]
    points = np.array(list(end.points.values()), float)
    low, high = points.min(axis=0) - NEAR, points.max(axis=0) + NEAR
    found = []
    for mount in job.design.mounts:
        if mount.end_id is not None:
            if mount.end_id == end_id:
                found.append(mount)
            continue
        corners = np.array(_outlines(mount)[0], float)
        if (corners.min(axis=0) <= high).all() and (corners.max(axis=0) >= low).all():
            found.append(mount)
    return found


NEAR = 250.0  # mm past an end's own points: what is further is of the other end


def _outlines(mount: Mount) -> list[list[Point3]]:
    """Corners of a member from any side, and of its mirror image where it has one."""
    corners = _corners(mount)
    both = [corners, corners * MIRROR] if mount.both_sides else [corners]
    return [[cast(Point3, tuple(float(v) for v in corner)) for corner in one] for one in both]


def _corners(mount: Mount) -> Array:
    shape = mount.shape
    if isinstance(shape, RoundMember):
        a, b = np.array(shape.a), np.array(shape.b)
        u = (b - a) / np.linalg.norm(b - a)
        one, two = square_to(u)
        ring = [
            shape.od_mm / 2 * (cos(2 * pi * i / AROUND) * one + sin(2 * pi * i / AROUND) * two) for i in range(AROUND)
        ]
        return np.array([end + corner for end in (a, b) for corner in ring])
    if isinstance(shape, BoxMember):
        a, b, side, top = box_axes(shape)
        half = [
            (sx * shape.width_mm / 2) * side + (sy * shape.height_mm / 2) * top
            for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))
        ]
        return np.array([end + corner for end in (a, b) for corner in half])
    n = np.array(shape.normal) / np.linalg.norm(shape.normal)
    one, two = square_to(n)
    deep = -n * (shape.wall_mm or THIN)
    return np.array(
        [
            np.array(shape.through) + FLAT * (sx * one + sy * two) + d
            for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))
            for d in (0.0 * n, deep)
        ]
    )


def box_axes(shape: BoxMember) -> tuple[Array, Array, Array, Array]:
    """Both ends of a box's middle line, across it, and the way of its height, each (3).

    Args:
        shape: the box.
    """
    a, b = np.array(shape.a), np.array(shape.b)
    u = (b - a) / np.linalg.norm(b - a)
    top = np.array(shape.up) - float(np.array(shape.up) @ u) * u
    top = top / np.linalg.norm(top)
    return a, b, np.cross(top, u), top


def square_to(u: Array) -> tuple[Array, Array]:
    """Two directions square to one and to each other, each (3).

    Args:
        u: of length 1 (3).
    """
    other = np.eye(3)[int(np.argmin(np.abs(u)))]
    one = np.cross(u, other)
    one = one / np.linalg.norm(one)
    return one, np.cross(u, one)


# --- in 3D --------------------------------------------------------------------------------------------------------------------


def scene_in_place(job: Worked, end_id: str, roll: float, steer: float) -> Scene:
    """An end's scene with the members of the car and the brackets that stand on them.

    Args:
        job: worked out.
        end_id: of the end.
        roll: of the body [deg].
        steer: mm of the rack, or deg of the steering arm.

    Raises:
        InputError: the end cannot be put together.
    """
    found = scene(study_of(job, end_id, roll, steer).done)
    more: list[Shape] = []
    for mount in members_near(job, end_id):
        for group, mirrored in _sides(found, mount.body, mount.both_sides):
            more += _member_solids(mount, group, mirrored)
    for part in job.parts:
        for at, flats in plates_in_place(job, part):
            if at.end_id in (end_id, None):
                for group, mirrored in _sides(found, at.body, part.saved.side == "pair"):
                    more += [_flat_solid(flat, group, f"part:{part.id}", mirrored) for flat in flats]
        shape = as_tabs(part)
        if shape is None:
            continue
        tab, outlines, footing = shape
        for one, stand in zip(part.own.joints, part.own.stands, strict=True):
            if stand is None or stand.at.end_id not in (end_id, None):
                continue
            for group, mirrored in _sides(found, stand.at.body, part.saved.side == "pair"):
                more += _bracket_solids(tab, outlines, (one, stand), group, mirrored)
                if footing:
                    more += _footing_solids(footing, (one, stand), (group, f"part:{tab.id}"), mirrored)
    return found.model_copy(update={"solids": (*found.solids, *more)})


def _ring(x: float, y: float, r: float) -> tuple[tuple[float, float], ...]:
    """A hole's edge, in steps."""
    turns = [2 * pi * i / (2 * AROUND) for i in range(2 * AROUND)]
    return tuple((x + r * cos(turn), y + r * sin(turn)) for turn in turns)


def _sides(found: Scene, body: str, both: bool) -> list[tuple[str, bool]]:
    """The groups of a body on either side, and whether what stands there is the mirror image; the body in the middle carries both."""
    left, right = f"body:{body}", f"body:{body}, right"
    if left not in found.groups:
        left = f"body:{body}_left" if f"body:{body}_left" in found.groups else "body:ground"
        right = f"body:{body}_right"
    sides = [(left, False)]
    if both:
        sides.append((right if right in found.groups else left, True))
    return [one for one in sides if one[0] in found.groups]


def _point(v: Array, mirrored: bool) -> ScenePoint:
    x, y, z = (float(c) for c in v)
    return (x, -y if mirrored else y, z)


def _member_solids(mount: Mount, group: str, mirrored: bool) -> list[Shape]:
    shape, ref = mount.shape, f"mount:{mount.id}"
    if isinstance(shape, RoundMember):
        a, b = np.array(shape.a), np.array(shape.b)
        return [
            Cylinder(
                group=group,
                a=_point(a, mirrored),
                b=_point(b, mirrored),
                radius=shape.od_mm / 2,
                tone="member",
                ref=ref,
            )
        ]
    if isinstance(shape, BoxMember):
        a, b, side, top = box_axes(shape)
        w, h = shape.width_mm / 2, shape.height_mm / 2
        outline = ((-w, -h), (w, -h), (w, h), (-w, h))
        return [
            Plate(group=group, outline=outline, at=_point((a + b) / 2, mirrored), x=_point(side, mirrored), y=_point(top, mirrored),
                  thickness=float(np.linalg.norm(b - a)), tone="member", ref=ref)
        ]  # fmt: skip
    n = np.array(shape.normal) / np.linalg.norm(shape.normal)
    one, two = square_to(n)
    thick = shape.wall_mm or THIN
    outline = ((-FLAT, -FLAT), (FLAT, -FLAT), (FLAT, FLAT), (-FLAT, FLAT))
    return [
        Plate(group=group, outline=outline, at=_point(np.array(shape.through) - n * thick / 2, mirrored), x=_point(one, mirrored), y=_point(two, mirrored),
              thickness=thick, tone="member", ref=ref)
    ]  # fmt: skip


def as_tabs(part: Part) -> tuple[TabPair, tuple[TabOutline, ...], Footing | None] | None:
    """The two plates or ears of a bracket, and what joins or carries the ears of a folded one; None of what is none.

    Args:
        part: worked out.
    """
    if isinstance(part.own, TabMade) and isinstance(part.saved, TabPair):
        return part.saved, part.own.outlines, None
    if isinstance(part.own, SingleMade) and isinstance(part.saved, SingleTab):
        return single_as_pair(part.saved), (part.own.outline,), None
    kind = kind_of(part.saved)
    if part.own is None or not isinstance(kind, EaredKind):
        return None
    tab = kind.as_pair(part.saved)
    return tab, kind.ears(part.saved, part.own.joints[0].gap), kind.footing(part.saved)


def plates_in_place(job: Worked, part: Part) -> list[tuple[At, tuple[Flat, ...]]]:
    """Plate and webs of a pad, what lies on a face of a lapped plate, or a sleeve through a box, and the joint that they are at; nothing of what is neither, or not complete.

    Args:
        job: worked out.
        part: of it.
    """
    if isinstance(part.own, LappedMade) and isinstance(part.saved, LappedPlate):
        stands = [stand for stand in part.own.stands if stand is not None]
        return [(stand.at, lapped_flats(part.saved, part.own.flat, stand)) for stand in stands]
    if isinstance(part.own, SleeveMade) and isinstance(part.saved, RailSleeve):
        return [(stand.at, sleeve_flats(part.saved, stand)) for stand in part.own.stands if stand is not None]
    if not isinstance(part.own, PadMade):
        return []
    ats = [job.at_of(joint) for joint in job.held_by(part.id)]
    return [(at, part.own.flats) for at in ats if at is not None]


def _flat_solid(flat: Flat, group: str, ref: str, mirrored: bool) -> Shape:
    return Plate(
        group=group, outline=tuple((float(x), float(y)) for x, y in flat.outline), at=_point(flat.at, mirrored), x=_point(flat.x, mirrored),
        y=_point(flat.y, mirrored), thickness=flat.thickness, tone="bracket", ref=ref,
    )  # fmt: skip


def _footing_solids(
    footing: Footing, of: tuple[JointMade, Stand], named: tuple[str, str], mirrored: bool
) -> list[Shape]:
    """What a folded bracket lies on its member with."""
    made, stand = of
    return [
        Plate(
            group=named[0], outline=tuple((float(x), float(y)) for x, y in flat.outline), at=_point(flat.at, mirrored), x=_point(flat.x, mirrored),
            y=_point(flat.y, mirrored), thickness=flat.thick, tone="bracket", ref=named[1],
        )
        for flat in footing.laid(made.gap, stand)
    ]  # fmt: skip


def _bracket_solids(
    tab: TabPair, outlines: Sequence[TabOutline], of: tuple[JointMade, Stand], group: str, mirrored: bool
) -> list[Shape]:
    """Both plates and the bolt through them."""
    made, stand = of
    one, t, ref = stand.standing, tab.plate.mm, f"part:{tab.id}"
    found: list[Shape] = []
    for plate in placed_plates(tab, outlines, made.gap, stand):
        contour = plate.contour
        found.append(
            Plate(group=group, outline=tuple(contour_points(contour)), holes=(*(_ring(h.x, h.y, h.diameter / 2) for h in contour.holes), *(tuple(points_along(one)) for one in contour.openings)),
                  at=_point(plate.at, mirrored), x=_point(plate.x, mirrored), y=_point(one.y, mirrored),
                  thickness=t, tone="bracket", ref=ref)
        )  # fmt: skip
    if made.bolt:
        reach = (made.gap / 2 + t if made.held.fork is None else made.held.fork.outer / 2) + made.bolt.diameter_mm
        ends = (stand.at.at - reach * one.bolt, stand.at.at + reach * one.bolt)
        found.append(
            Cylinder(group=group, a=_point(ends[0], mirrored), b=_point(ends[1], mirrored), radius=made.bolt.diameter_mm / 2, tone="joint", ref=ref)
        )  # fmt: skip
    return found
