"""Where each joint of a job is in the car: its place, its bolt and the line that what it holds pulls along."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import End, PlaceIn
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.common import OfEnd, Pivots
from tirante.core.document.template import GROUND, RACK
from tirante.core.errors import InputError
from tirante.core.parts.feet import Spot
from tirante.core.parts.registry import kind_of
from tirante.core.parts.stands import At, signed, swing_axis
from tirante.core.parts.unmade import turns_about

if TYPE_CHECKING:
    from tirante.core.document.parts.saved import SavedPart
    from tirante.core.job.worked import Worked
    from tirante.core.loads.travel import Swept

Array = NDArray[np.float64]
SQUARE_TO_SIDE = "square to the arm’s side, which its rod end stands in line with"


def at_joint(job: Worked, joint: HeldJoint) -> At | None:
    """Where a joint is; None where neither its end nor typed pivots say so.

    Args:
        job: worked out.
        joint: of it.
    """
    held = joint.held
    if isinstance(held, PointOfBody):
        end = job.ends.get(held.end_id)
        if end is None or held.point not in end.points:
            return None
        bearing = job.bearing_at(held)
        if bearing is not None:
            return At(end_id=held.end_id, body=held.body, at=bearing.at, bolt=signed(bearing.along), bolt_told=f"the line of {bearing.part_name}, which lies in it", pull=None, hinged=True)  # fmt: skip
        return _with_bolt(job, joint, At(end_id=held.end_id, body=held.body, at=np.array(end.points[held.point], float), bolt=None, bolt_told="", pull=_of_unit(end, held)))  # fmt: skip
    saved = job.saved(held.part)
    if saved is None:
        return None
    between = getattr(saved, "between", None)
    if isinstance(between, Pivots):
        a, b = (np.array([c.mm for c in point]) for point in (between.a, between.b))
        at = b if getattr(held, "end", "a") == "b" else a
        found = At(end_id=None, body=GROUND, at=at, bolt=None, bolt_told="", pull=a - b if at is b else b - a)
        return found if joint.bolt_axis is None else replace(found, bolt=signed(np.array(joint.bolt_axis)), bolt_told="as given at this joint", given=True)  # fmt: skip
    kind = kind_of(saved)
    where = next((at for at in kind.ends(saved) if kind.held_at(saved, at) == held), None)
    try:
        spot = kind.spot(saved, where, job) if where is not None else None
    except InputError:
        return None
    if spot is None:
        return None
    end = job.ends[spot.end_id]
    body = GROUND if spot.body == RACK and not job.steers(spot.end_id) else spot.body
    found = At(end_id=spot.end_id, body=body, at=_place(end, spot, _side(saved, where)), bolt=None, bolt_told="", pull=None)  # fmt: skip
    if isinstance(between, OfEnd):
        a, b = (_place(end, replace(spot, point=point), side) for point, side in ((between.a, between.a_side), (between.b, between.b_side)))  # fmt: skip
        found = replace(found, pull=a - b if where == "b" else b - a)
    return _with_bolt(job, joint, found)


def _side(saved: SavedPart, where: str | None) -> str:
    """On which side of the car the point of a part's end is taken."""
    between = getattr(saved, "between", None)
    if isinstance(between, OfEnd):
        return between.b_side if where == "b" else between.a_side
    return "left"


def _place(end: End, spot: Spot, side: str) -> Array:
    x, y, z = end.points[spot.point]
    return np.array(end.right_points.get(spot.point, (x, -y, z)) if side == "right" else (x, y, z), float)


def _of_unit(end: End, held: PointOfBody) -> Array | None:
    """The way from a damper's or a strap's eye to its other."""
    for one in (*end.dampers.values(), *((end.strap,) if end.strap else ())):
        if held.point in (one.a.point, one.b.point):
            a, b = (np.array(end.points[place.point], float) for place in one.places)
            return np.asarray(a - b if held.point == one.b.point else b - a)
    return None


def _with_bolt(job: Worked, joint: HeldJoint, found: At) -> At:
    """The same with its bolt: as given at the joint, at its end, by the arm's hinge, or by how it swings."""
    if joint.bolt_axis is not None and any(joint.bolt_axis):
        return replace(
            found, bolt=signed(np.array(joint.bolt_axis, float)), bolt_told="as given at this joint", given=True
        )
    held = joint.held
    assert found.end_id is not None
    end = job.ends[found.end_id]
    if isinstance(held, PointOfBody):
        unmade = job.unmade_at(held)
        line = turns_about(unmade, job) if unmade else None
        if line is not None:
            return replace(found, bolt=signed(np.array(line.along, float)), bolt_told=line.told, hinged=line.hinged)
        swung = _unit_swing(job, found.end_id, held)
        return found if swung is None else _swinging(found, swung)
    saved = job.saved(held.part)
    between = getattr(saved, "between", None)
    if isinstance(between, OfEnd):
        known = end.links.get(between.link)
        own = getattr(known, getattr(held, "end", "a"), None)
        if own is not None and any(own.bolt_axis):
            return replace(
                found, bolt=signed(np.array(own.bolt_axis, float)), bolt_told="as its end has it, at Layout", given=True
            )
        swung = _link_swing(job, found.end_id, between.link, getattr(held, "end", "a"))
        return found if swung is None else _swinging(found, swung)
    if saved is None:
        return found
    kind = kind_of(saved)
    where = next((at for at in kind.ends(saved) if kind.held_at(saved, at) == held), None)
    line = kind.turns_about(saved, where, job) if where is not None else None
    spot = kind.spot(saved, where, job) if where is not None and line is None else None
    if where is not None and spot is not None:
        to = kind.looks_along(saved, where, job)
        swung = _body_swing(job, spot, to, saved.stands_for) if to and saved.stands_for else None
        return found if swung is None else _swinging(found, swung)
    if where is None or line is None:
        return found
    along = np.array(line.along, float)
    if not along.any():  # its hinge's points fall together, which is told where its end is put together
        return found
    toward = kind.shank_toward(saved, where, job)
    if toward is None or toward not in end.points:
        return replace(found, bolt=signed(along), bolt_told=line.told, hinged=line.hinged)
    # its ball stands in line with the arm's tube: along the hinge it would lie tilted at all times
    side = np.array(end.points[toward], float) - found.at
    side = side / np.linalg.norm(side)
    return replace(found, bolt=signed(along - float(along @ side) * side), bolt_told=SQUARE_TO_SIDE)


def _swinging(found: At, swung: Array) -> At:
    bolt, told = swing_axis(swung)
    return replace(found, bolt=bolt, bolt_told=told)


def _good(swept: Swept) -> NDArray[np.bool_]:
    return np.asarray((swept.solved.status == 0) & np.tile(swept.asked, len(swept.ways)))


def _link_swing(job: Worked, end_id: str, link: str, which: str) -> Array | None:
    """Where a link points, as the body that holds one of its ends sees it (3, positions)."""
    swept = job.swept(end_id)
    if swept is None:
        return None
    side = swept.solved.left
    marks = next((one for one in side.assembled.links if one.template_name == link and one.side in ("left", "centre")), None)  # fmt: skip
    if marks is None:
        return None
    where = side.solved.system.where
    run = where(side.solved.poses, marks.b, side.solved.drives) - where(side.solved.poses, marks.a, side.solved.drives)
    return _seen_from(swept, getattr(marks, which).body, run)


def _unit_swing(job: Worked, end_id: str, held: PointOfBody) -> Array | None:
    """Where a damper or a strap points, as the body that holds one of its eyes sees it (3, positions)."""
    swept, end = job.swept(end_id), job.ends[end_id]
    place = PlaceIn(body=held.body, point=held.point)
    one = next((u for u in (*end.dampers.values(), *((end.strap,) if end.strap else ())) if place in u.places), None)
    if swept is None or one is None:
        return None
    side = swept.solved.left
    try:
        a, b = (side.solved.system.where(side.solved.poses, side.assembled.place(p, "left"), side.solved.drives) for p in one.places)  # fmt: skip
    except KeyError:
        return None
    return _seen_from(swept, side.assembled.body_on(held.body, "left"), b - a)


def _body_swing(job: Worked, spot: Spot, to: str, body: str) -> Array | None:
    """Where a body points from one of its places to another, as the body that holds the first sees it (3, positions)."""
    swept = job.swept(spot.end_id)
    if swept is None:
        return None
    side = swept.solved.left
    a, b = (
        side.solved.system.where(side.solved.poses, side.assembled.place(PlaceIn(body=body, point=point), "left"), side.solved.drives)
        for point in (spot.point, to)
    )  # fmt: skip
    return _seen_from(swept, side.assembled.body_on(spot.body, "left"), b - a)


def _seen_from(swept: Swept, body: str, run: Array) -> Array | None:
    """Directions in the axes of a body, where the end could be put together."""
    good = _good(swept)
    if not good.any():
        return None
    run = np.broadcast_to(run, (3, len(good)))[:, good]
    solved = swept.solved.left.solved
    if body == GROUND:
        return np.asarray(run)
    turn = solved.poses.R[solved.system.index[body]][:, :, good]
    return np.asarray(np.einsum("jil,jl->il", turn, run))
