"""Hole by hole: what each hole of an adjustable mount makes of its end, the lengths of all that is made kept.

The bracket stays on its mount and the joint is put in another hole: the pick-up is elsewhere by as much as the holes are apart, along the
plate's own axes in the car. Each hole is solved anew; none is worked out from another.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import isfinite
from typing import Literal

import numpy as np

from tirante.core.document.design import SuspensionEnd
from tirante.core.document.end import End
from tirante.core.document.fields import Point
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.angle_bracket import AngleBracket
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.template import GROUND, HingeJoint
from tirante.core.errors import InputError, NotApplicable
from tirante.core.job.at_joints import SQUARE_TO_SIDE
from tirante.core.job.worked import Worked
from tirante.core.parts.bracket.families.hole_pattern import holes_of
from tirante.core.parts.registry import kind_of
from tirante.core.parts.stands import MIRROR, Stand, facing
from tirante.core.suspension.cycle import Cycle, measured, solved_cycle
from tirante.core.suspension.moved_pickup import moved_pickup
from tirante.core.units import INCH

STEP = 10.0  # mm of travel to either side of ride height that gains are taken over
AT_RIDE = (
    ("roll_centre_path_mm", "roll centre"), ("roll_centre_mm", "roll centre"), ("anti_dive_percent", "anti-dive"), ("anti_lift_percent", "anti-lift"),
    ("anti_squat_percent", "anti-squat"), ("camber_deg", "camber"), ("toe_deg", "toe"), ("caster_deg", "caster"), ("pinion_deg", "pinion"),
    ("axle_steer_deg", "axle steer"), ("lateral_shift_mm", "side shift"),
)  # fmt: skip
GAINS = (("camber_deg", "camber gain"), ("toe_deg", "bump steer"), ("axle_steer_deg", "roll steer"))
TILTS = ("misalignment_a_deg", "misalignment_b_deg", "tilt_a_deg", "tilt_b_deg")


@dataclass(frozen=True, slots=True, kw_only=True)
class HoleFigure:
    """A measure of the end with the joint in a hole."""

    key: str
    name: str
    unit: str
    value: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class HoleRow:
    """One hole."""

    number: int
    here: bool  # whether the joint is in it now
    at: Point  # where the joint then is
    fault: str  # why the end cannot stand so; empty where it can
    figures: tuple[HoleFigure, ...]
    tilt: str  # the joint that tilts furthest of its limit, and how far


@dataclass(frozen=True, slots=True, kw_only=True)
class HoleTable:
    """All holes of a bracket."""

    rows: tuple[HoleRow, ...]
    told: str  # what is kept, and over what gains are taken


def hole_table(job: Worked, part_id: str) -> HoleTable:
    """Every hole of a bracket with what it makes of the end.

    Args:
        job: worked out.
        part_id: of a tab pair with more than one hole, on a mount.

    Raises:
        InputError: it has one hole, stands on no mount, or its joint is no pick-up of an end on the car's body.
    """
    return _table(job, part_id)[0]


def _table(job: Worked, part_id: str) -> tuple[HoleTable, _PickUp]:
    saved = job.saved(part_id)
    if not isinstance(saved, TabPair) or saved.holes is None:
        raise InputError("It has one hole. Give it more under What it is.", code="no_solution", fields=("holes",))
    joint = next(iter(job.held_by(part_id)), None)
    if joint is None:
        raise InputError("It holds nothing yet. Say which end it holds.", code="missing", fields=("joints",))
    stand, pickup = _on_the_car(job, joint, "where its other holes are in the car")
    rows = [_row(job, pickup, i + 1, saved.in_hole, _put(stand, place)) for i, place in enumerate(holes_of(saved))]
    table = HoleTable(
        rows=tuple(rows),
        told=f"All that is made keeps its length, the wheel its height; gains over {STEP:g} mm of travel to either side; tilt over the whole travel.",
    )
    return table, pickup


def _on_the_car(job: Worked, joint: HeldJoint, what: str) -> tuple[Stand, _PickUp]:
    """Where a joint's bracket stands on the car's body, and the pick-up that it is.

    Raises:
        InputError: it stands on no mount, or is no pick-up of an end on the car's body.
    """
    stand = job.stand_of(joint)
    if isinstance(stand, NotApplicable):
        raise InputError(stand.message, code=stand.code, fields=("mount",))
    if not isinstance(stand, Stand):
        raise InputError(f"It stands on no mount, so {what} is not known. Choose its mount first.", code="missing", fields=("mount",))  # fmt: skip
    pickup = _PickUp.of(job, joint)
    if pickup is None or stand.at.body != GROUND:
        raise InputError(
            "Only a pick-up on the car’s body is moved with the lengths kept: this joint is on what moves.",
            code="no_pickup",
            fields=("joints",),
        )
    return stand, pickup


@dataclass(frozen=True, slots=True, kw_only=True)
class ShimTable:
    """A joint moved along its bolt, shims taken from one side of it to the other."""

    amounts: tuple[float, ...]  # [mm], of each row, the way that `told` says
    rows: tuple[HoleRow, ...]
    told: str


def shim_table(job: Worked, part_id: str, *, under: bool = False) -> ShimTable:
    """What shims make of the end: its joint moved by a few amounts either way, all that is made as long as it is.

    Beside the joint they move it along its bolt; of an arm that turns about the bolts of both its pivots the other one moves with it, as it
    must. Behind the feet of a bracket that is bolted on they move it off what it stands on.

    Args:
        job: worked out.
        part_id: of a bracket on a mount.
        under: behind its feet, and not beside the joint.

    Raises:
        InputError: it holds nothing, stands on no mount, or its joint is no pick-up of an end on the car's body.
    """
    joint = next(iter(job.held_by(part_id)), None)
    if joint is None:
        raise InputError("It holds nothing yet. Say which end it holds.", code="missing", fields=("joints",))
    stand, pickup = _on_the_car(job, joint, "which way its bolt lies in the car")
    saved = job.saved(part_id)
    if under:
        if not isinstance(saved, AngleBracket):
            raise InputError("It is not bolted on, so nothing goes behind its feet.", code="no_solution", fields=("part_id",))  # fmt: skip
        return _behind_feet(job, stand, pickup, saved)
    bolt, here = stand.standing.bolt, stand.at.at
    other = _other_pivot(job, joint, pickup, bolt) if stand.at.hinged or stand.at.bolt_told == SQUARE_TO_SIDE else None  # fmt: skip
    rows = []
    for i, amount in enumerate(SHIMS):
        x, y, z = (float(v) for v in here + amount * bolt)
        also = None if other is None else (other[0], amount * other[1])
        rows.append(_row(job, pickup, i + 1, SHIMS.index(0.0) + 1, (x, y, z), also))
    toward = facing(bolt)
    beside = joint.shim_mm
    has = f"It has {beside:g} mm on either side: as much can be taken across" if beside else "It has none on either side: the gap must be made wider for them"  # fmt: skip
    both = f" The arm’s other pivot, {other[0].replace('_', ' ')}, is moved as far along its own bolt." if other else ""
    return ShimTable(
        amounts=SHIMS, rows=tuple(rows),
        told=f"Shims taken from one side of the joint to the other move it along its bolt: + toward {toward}. {has}.{both} All that is made keeps its length, the wheel its height; gains over {STEP:g} mm of travel to either side.",
    )  # fmt: skip


def _behind_feet(job: Worked, stand: Stand, pickup: _PickUp, saved: AngleBracket) -> ShimTable:
    """Shims behind the feet: off what they stand on, straight along the ears."""
    off, amounts = stand.standing.y, tuple(one for one in SHIMS if one >= -saved.shim_mm - 1e-9)
    rows = []
    for i, amount in enumerate(amounts):
        x, y, z = (float(v) for v in stand.at.at + amount * off)
        rows.append(_row(job, pickup, i + 1, amounts.index(0.0) + 1, (x, y, z)))
    has = f"It has {saved.shim_mm:g} mm behind each foot" if saved.shim_mm else "It has none yet: none can be taken out"
    return ShimTable(
        amounts=amounts, rows=tuple(rows),
        told=f"Shims behind both feet, more or fewer, move the joint off {stand.mount.name}: + away from it, toward {facing(off)}. {has}. All that is made keeps its length, the wheel its height; gains over {STEP:g} mm of travel to either side.",
    )  # fmt: skip


SHIMS = (-3.0, -1.0, 0.0, 1.0, 3.0)  # mm along the bolt


def _other_pivot(job: Worked, joint: HeldJoint, pickup: _PickUp, bolt: np.ndarray) -> tuple[str, np.ndarray] | None:
    """The other point of the hinge that a pick-up is one of, and its own bolt, the same way."""
    saved = None if isinstance(joint.held, PointOfBody) else job.saved(joint.held.part)
    for one in job.template(pickup.end.id).joints:
        if saved is None or not isinstance(one, HingeJoint) or pickup.point not in one.points:
            continue
        other, kind = next(point for point in one.points if point != pickup.point), kind_of(saved)
        for at in kind.ends(saved):
            held = kind.held_at(saved, at)
            spot = kind.spot(saved, at, job)
            known = next((it for it in job.joints_of(saved.id) if it.held == held), HeldJoint(id=joint.id, held=held))
            there = job.at_of(known) if spot is not None and spot.point == other else None
            if there is not None and there.bolt is not None:
                return other, there.bolt if float(there.bolt @ bolt) >= 0 else -there.bolt
        return other, bolt
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class PutIn:
    """A joint put in another hole: the end as it then stands, and the bracket."""

    end: SuspensionEnd
    part: TabPair


def put_in_hole(job: Worked, part_id: str, number: int) -> PutIn:
    """The joint in another hole of its bracket: the plate stays, the pick-up moves, and all that is made keeps its length.

    Args:
        job: worked out.
        part_id: of the bracket.
        number: of the hole, from 1.

    Raises:
        InputError: as `hole_table`; there is no such hole, or the parts do not reach it.
    """
    table, pickup = _table(job, part_id)
    saved = job.saved(part_id)
    assert isinstance(saved, TabPair)
    row = next((one for one in table.rows if one.number == number), None)
    if row is None:
        raise InputError(f"There is no hole {number}: they are 1 to {len(table.rows)}.", code="out_of_range", fields=("hole",), value=number, limits=(1, len(table.rows)))  # fmt: skip
    if row.fault:
        raise InputError(row.fault, code="not_assembled", fields=("hole",))
    moved = pickup.end.end if row.here else pickup.moved(job, row.at)
    return PutIn(end=pickup.end.model_copy(update={"end": moved}), part=saved.model_copy(update={"in_hole": number}))


@dataclass(frozen=True, slots=True, kw_only=True)
class _PickUp:
    """The point of an end that a joint is at, on which side of the car, and whether that side has a place of its own."""

    end: SuspensionEnd
    point: str
    side: Literal["left", "right"]

    @classmethod
    def of(cls, job: Worked, joint: HeldJoint) -> _PickUp | None:
        """None where the joint is at no point of an end."""
        at, point = job.at_of(joint), _point(job, joint)
        end = job.design.end(at.end_id) if at is not None and at.end_id is not None else None
        if at is None or end is None or point is None:
            return None
        here = np.allclose(at.at, job.ends[end.id].points[point])
        return cls(end=end, point=point, side="left" if here else "right")

    def moved(self, job: Worked, to: Point, also: tuple[str, np.ndarray] | None = None) -> End:
        """The end with it elsewhere and all lengths kept; and another point, moved by so much after it.

        Raises:
            InputError: the parts do not reach.
        """
        side, by = self.side, also[1] if also else np.zeros(3)
        if side == "right" and self.point not in self.end.end.right_points:  # the left one seen in a mirror
            side, to, by = "left", (to[0], -to[1], to[2]), by * MIRROR
        template = job.template(self.end.id)
        found = moved_pickup(template, self.end.end, self.point, to, side=side).end
        if also is None:
            return found
        places = found.right_points if side == "right" else found.points
        if also[0] not in places:
            raise InputError(f"This end has no “{also[0]}” on the {side}.", code="no_pickup", fields=("point",))
        x, y, z = (float(a + b) for a, b in zip(places[also[0]], by, strict=True))
        return moved_pickup(template, found, also[0], (x, y, z), side=side).end


def _point(job: Worked, joint: HeldJoint) -> str | None:
    held = joint.held
    if isinstance(held, PointOfBody):
        return held.point
    saved = job.saved(held.part)
    if saved is None:
        return None
    kind = kind_of(saved)
    where = next((at for at in kind.ends(saved) if kind.held_at(saved, at) == held), None)
    spot = kind.spot(saved, where, job) if where is not None else None
    return spot.point if spot else None


def _put(stand: Stand, place: tuple[float, float]) -> Point:
    """Where a hole is in the car, counted from the first, the plate where it stands."""
    x, y, z = (float(v) for v in stand.at.at + place[0] * stand.standing.x + place[1] * stand.standing.y)
    return x, y, z


def _row(
    job: Worked, pickup: _PickUp, number: int, now: int, at: Point, also: tuple[str, np.ndarray] | None = None
) -> HoleRow:
    end, template = pickup.end, job.template(pickup.end.id)
    try:
        moved = end.end if number == now else pickup.moved(job, at, also)
        standing = job.design.car.standing(moved)
        # the joints' own limits, as they are chosen
        watched = standing.model_copy(update={"links": job.watched(end.id).links})
        rows = np.zeros((3, 5))
        rows[0] = [-end.box.droop_mm, -STEP, 0.0, STEP, end.box.bump_mm]
        found = measured(solved_cycle(template, watched, rows))
    except InputError as error:
        return HoleRow(number=number, here=number == now, at=at, fault=error.message, figures=(), tilt="")
    return HoleRow(
        number=number, here=number == now, at=at, fault="", figures=_figures(found), tilt=_tilt(found.links, watched)
    )


def _figures(found: Cycle) -> tuple[HoleFigure, ...]:
    out = []
    for key, name in AT_RIDE:
        if key in found.columns:
            unit = "%" if key.endswith("_percent") else "°" if key.endswith("_deg") else "mm"
            out.append(HoleFigure(key=key, name=name, unit=unit, value=_finite(float(found.columns[key][2]))))
    for key, name in GAINS:
        if key in found.columns:
            low, high = float(found.columns[key][1]), float(found.columns[key][3])
            out.append(
                HoleFigure(
                    key=f"{key}_per_inch", name=name, unit="°/in", value=_finite((high - low) / (2 * STEP) * INCH)
                )
            )
    if "damper_length_mm" in found.columns:
        out.append(HoleFigure(key="damper_length_mm", name="damper length", unit="mm", value=_finite(float(found.columns["damper_length_mm"][2]))))  # fmt: skip
    return tuple(out)


def _finite(value: float) -> float | None:
    return value if isfinite(value) else None


def _tilt(links: Mapping[str, Mapping[str, np.ndarray]], end: End) -> str:
    """The joint that comes nearest to its limit, of those that have one; else the one that tilts furthest."""
    worst: tuple[bool, float, str] | None = None
    for name, columns in links.items():
        plain = name.removesuffix(", left").removesuffix(", right")
        for which in ("a", "b"):
            key = next((k for k in TILTS if k.endswith(f"_{which}_deg") and k in columns), None)
            values = columns[key] if key else np.array([np.nan])
            if not np.isfinite(values).any():
                continue
            angle = float(np.nanmax(values))
            known = getattr(end.links.get(plain), which, None)
            limit = known.limit_deg if known is not None else None
            told = f"{name}, end {which.upper()}: {angle:.1f}°{f' of {limit:g}°' if limit else ''}"
            one = (limit is not None, angle / limit if limit else angle, told)
            worst = one if worst is None or one[:2] > worst[:2] else worst
    return worst[2] if worst else ""


def nearest(table: HoleTable, key: str, wanted: float) -> int | None:
    """The hole that comes nearest to a wish; None where none gives that figure.

    Args:
        table: of the bracket.
        key: of the figure.
        wanted: its value.
    """
    found: Sequence[tuple[float, int]] = [
        (abs(figure.value - wanted), row.number)
        for row in table.rows for figure in row.figures if figure.key == key and figure.value is not None
    ]  # fmt: skip
    return min(found)[1] if found else None
