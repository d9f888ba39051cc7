"""Spring seats as a kind of part: what an air spring or a coil that stands by itself presses on, on a member of the car, an axle or the tube of an arm."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil, hypot
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.bearing_pad import OnBearing, PadBolts, plate_stress
from tirante.core.brackets.strike_pad import Blow
from tirante.core.brackets.tools import Hexagon
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.checks.shown import Out
from tirante.core.document.end import DAMPER, SPRING, Damper, PlaceIn
from tirante.core.document.forms.table import FieldGroup, number
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.spring_seat import SpringSeat
from tirante.core.document.settings import Settings
from tirante.core.document.template import GROUND
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.flat.contour import Contour, Hole
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.on_body import in_car
from tirante.core.parts.around import Around
from tirante.core.parts.body import seen_of
from tirante.core.parts.bracket.families.bearing_pad import FROM_EDGE, NUT, NUT_ROOM, WASHER
from tirante.core.parts.bracket.families.pad import PadShape, pad_card, pad_outline, pad_sheet
from tirante.core.parts.bracket.families.pad_holes import LiesOn, pad_hole_lines
from tirante.core.parts.bracket.families.pad_kind import PadKind, PadMade, pad_fields
from tirante.core.parts.bracket.families.pad_under import Under, under_member, under_typed
from tirante.core.parts.bracket.families.strike_pad import Struck, struck_checks
from tirante.core.parts.part import BoughtPiece, Card, CardLine, Misfit, Part, Piece, Turned, across
from tirante.core.parts.stands import At
from tirante.core.parts.turned import turned_piece
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
HOLE_OVER = 0.5  # mm over a stud: enough to line a spring up; common practice, no source
LEAST_PUSH = 1.0  # N, under which nothing presses
ONE_STUD = 1e-3  # mm between both halves of a single stud
UNLIKE = "The spring stands elsewhere on the right: only seats that are alike on both sides are made here. Pair its points at Layout, or cut the right one by hand."
NOT_CHECKED = (
    "the spring, its studs, and what slides or tips it on its seat: its maker’s", "its everyday life: it is pressed at all times", "the room round it (to be looked at under Room), and round the spring as it bulges", "weld quality (assumed sound)",
    "corrosion",
)  # fmt: skip


class SpringSeatOwn(Out):
    """What only a spring seat has."""

    kind: Literal["spring_seat"] = "spring_seat"
    push_n: float
    case: str
    stands_on: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SeatMade(PadMade):
    """A seat with its core objects."""

    whole: bool  # whether it is taken to press on as much as it is wide
    studs: (
        tuple[float, tuple[float, ...]] | None
    )  # their thread, and where they stand along the webs; None: nothing bolts it on [mm]
    leaves: tuple[
        tuple[str, float], ...
    ]  # cases in which a spring that nothing holds down would be pulled, by how much [N]

    @property
    def hexagons(self) -> tuple[tuple[str, Hexagon], ...]:
        """Its studs' nuts, under the plate."""
        if self.studs is None:
            return ()
        thread, places = self.studs
        return tuple(("nuts of its studs", self.shape.nut_under(x, 0.0, thread, held=False)) for x in places)


def _studs(saved: SpringSeat) -> tuple[float, tuple[float, ...]] | None:
    if saved.stud_mm is None:
        return None
    return saved.stud_mm, (0.0,) if saved.pitch_mm is None else (-saved.pitch_mm / 2, saved.pitch_mm / 2)


@dataclass(frozen=True, slots=True, kw_only=True)
class Seats:
    """A spring that stands by itself, and the end of it that a seat is at."""

    unit: str
    spring: Damper
    own: PlaceIn
    other: PlaceIn


def pushes_on(saved: SpringSeat, of: Seats, around: Around) -> tuple[list[tuple[str, str, Array]], tuple[NotCarried, ...]]:  # fmt: skip
    """What the spring puts on its seat, case by case: the case, its position, the force in the axes of what the seat is on (3) [N].

    Args:
        saved: as it is.
        of: the spring.
        around: the job.
    """
    moving = of.own if of.own.body != GROUND else of.other
    if of.own.body == GROUND:
        carried = around.carried(saved.end_id).cases
        return [(name, where, -force) for name, where, force in in_car(carried, moving.body, of.unit)], ()
    seen = seen_of(saved, moving.body, around, either_side=True)
    found = []
    for case in seen.cases:
        acts = [act.force for act in case.acting if act.what == of.unit and act.place == moving.point]
        if acts:
            found.append((case.case, case.where, np.sum(acts, axis=0)))
    return found, seen.left_out


class SpringSeatKind(PadKind[SpringSeat]):
    """Spring seats."""

    key = "spring_seat"
    word = "spring seat"
    saved = SpringSeat
    own = SpringSeatOwn
    fields = (
        FieldGroup(title="The spring on it", note="as it is bought", fields=[
            number(SpringSeat, "seat_mm", "Diameter that it presses on", "mm"),
            number(SpringSeat, "stud_mm", "Studs, or bolts into it", "mm", optional=True, empty="none"),
            number(SpringSeat, "pitch_mm", "Two of them, apart", "mm", optional=True, empty="one, in the middle"),
            number(SpringSeat, "port_mm", "Hole in the middle, for air", "mm", optional=True, empty="none"),
            number(SpringSeat, "ring_mm", "Ring that a coil stands round, outside", "mm", optional=True, empty="none"),
            number(SpringSeat, "ring_high_mm", "Ring, high", "mm"), number(SpringSeat, "ring_wall_mm", "Ring, wall", "mm"),
        ]),
        *pad_fields(SpringSeat),
    )  # fmt: skip
    not_checked = NOT_CHECKED
    unloaded = "no case puts anything on this spring: nothing of it was judged"
    no_case = "No case puts anything on this spring, so nothing says what its seat must bear. Add one at Loads that presses it."

    def begun(self, part_id: str, of: str, held: PointOfBody, owner: str) -> SpringSeat:
        """Of a usual size; `fitted` proportions it to the spring."""
        del held
        return SpringSeat(id=part_id, name=f"{of[:66]}, seat", end_id=owner)

    def fitted(self, saved: SpringSeat, around: Around) -> SpringSeat:
        """As long and as wide as the spring presses on."""
        of = self._of(saved, around)
        if isinstance(of, Misfit):
            return saved
        seat = of.spring.od_mm or saved.seat_mm
        apart = float(ceil(max(saved.apart_mm, 0.5 * seat)))
        sizes = {"seat_mm": seat, "length_mm": float(ceil(seat)), "width_mm": float(ceil(max(seat, apart + saved.web_mm))), "apart_mm": apart}  # fmt: skip
        found = super().fitted(saved.model_copy(update=sizes), around)
        return found.model_copy(update={"length_mm": sizes["length_mm"]})  # a shorter one is none for its spring

    def _of(self, saved: SpringSeat, around: Around) -> Seats | Misfit:
        """The spring that stands on it."""
        end = around.ends.get(saved.end_id)
        for joint in around.held_by(saved.id) if end else ():
            for unit, spring in end.seated.items() if end else ():
                if not isinstance(joint.held, PointOfBody):
                    continue
                for own, other in (spring.places, spring.places[::-1]):
                    if joint.held == PointOfBody(end_id=saved.end_id, body=own.body, point=own.point):
                        return Seats(unit=SPRING if unit == DAMPER else unit, spring=spring, own=own, other=other)
        return Misfit(field="end_id", message=saved.lost(around.ends) or "The spring that it seats is not at this place any more: it was taken out, stands elsewhere, or is held on bolts. Take this one out and add one there.")  # fmt: skip

    def placed(
        self, saved: SpringSeat, around: Around, at: At | None, joint: HeldJoint | None
    ) -> tuple[Array, float, Under, Array] | Misfit:
        """Square to the spring as it stands at ride height."""
        of = self._of(saved, around)
        if isinstance(of, Misfit):
            return of
        points = around.ends[saved.end_id].points
        middle, far = (np.array(points[place.point], float) for place in (of.own, of.other))
        size = float(np.linalg.norm(far - middle))
        if size < 1.0:
            return Misfit(field="end_id", message="Both ends of the spring are at one place. Move one of them at Layout.")  # fmt: skip
        face = (far - middle) / size
        mount = around.mount_of(joint) if joint else None
        under = under_member(mount, at, face) if mount is not None and at is not None else under_typed(saved, face)
        return under if isinstance(under, Misfit) else (face, saved.seat_mm / 2, under, middle)

    def made(self, saved: SpringSeat, around: Around) -> PadMade | Misfit:
        """Under its spring's own force."""
        of = self._of(saved, around)
        if isinstance(of, Misfit):
            return of
        shape = self.pad_shape(saved, around)
        if isinstance(shape, Misfit):
            return shape
        if not all(around.ends[saved.end_id].alike(place.point) for place in (of.own, of.other)):
            return Misfit(field="side", message=UNLIKE)
        if of.own.body == of.other.body:
            return Misfit(field="end_id", message="Both ends of the spring are on one body. Put one of them on what moves, at Layout.")  # fmt: skip
        if of.spring.rate_n_per_mm is None:
            return Misfit(field="end_id", message="The spring’s rate is not given, so nothing says what it carries beside a stop. Give it at Layout, under Damper.")  # fmt: skip
        lacks = _lacks(saved)
        if lacks:
            return lacks
        pushes, left_out = pushes_on(saved, of, around) if around.has_loads() else ([], ())
        cases, leaves = [], []
        for case, where, force in pushes:
            x, y, z = (float(v) for v in shape.axes @ force)
            if z > LEAST_PUSH and saved.stud_mm is None:
                leaves.append((case, z))
            elif abs(z) > LEAST_PUSH:
                cases.append(Struck(case=case, where=where, blow=Blow(push=-z, along=x, across=y)))
        # what is bolted on presses by a plate of its own; a coil by its last turn
        shape = replace(shape, pad=replace(shape.pad, rim=saved.stud_mm is None))
        whole = of.spring.od_mm is not None and saved.seat_mm >= of.spring.od_mm
        return SeatMade(
            shape=shape, whole=whole, studs=_studs(saved), cases=tuple(cases), left_out=left_out, leaves=tuple(leaves)
        )

    def more_notes(self, saved: SpringSeat, made: PadMade) -> tuple[str, ...]:
        """What leaves its seat."""
        assert isinstance(made, SeatMade)
        told = []
        if made.whole and saved.stud_mm is not None:
            told.append(f"it is taken to press on all of ⌀{saved.seat_mm:g} mm, as wide as the spring is: where its foot is narrower, as an air spring’s piston, give that")  # fmt: skip
        if made.leaves:
            case, most = max(made.leaves, key=lambda one: one[1])
            others = f", and in {len(made.leaves) - 1} more" if len(made.leaves) > 1 else ""
            told.append(f"in “{case}”{others} the spring would be pulled, by {most / 1000:.1f} kN at most: nothing holds it to its seat, it leaves it there")  # fmt: skip
        return tuple(told)

    def judged(self, saved: SpringSeat, made: PadMade, settings: Settings) -> Sequence[CheckResult]:
        """Plate, webs and feet; where it is bolted on and pulled, the plate beside its studs."""
        cases = [one for one in made.cases if isinstance(one, Struck)]
        pulled = [one for one in cases if one.blow.push < 0]
        return [*struck_checks(saved, made.shape, cases, settings), *([_pulled(saved, made.shape, pulled, settings)] if pulled else [])]  # fmt: skip

    def outline(self, saved: SpringSeat, made: PadMade) -> Contour:
        """With its holes."""
        del made
        return pad_outline(saved, _holes(saved))

    def on_it(self, saved: SpringSeat, made: PadMade) -> LiesOn:
        """The spring."""
        del made
        return LiesOn(radius=saved.seat_mm / 2, what="the spring")

    def goes_with(self, saved: SpringSeat, made: PadMade) -> tuple[tuple[Piece, ...], tuple[BoughtPiece, ...]]:
        """The ring that keeps a coil on it."""
        del made
        if saved.ring_mm is None:
            return (), ()
        ring = Turned(material=saved.plate_name, outside=saved.ring_mm, length=saved.ring_high_mm, bore=saved.ring_mm - 2 * saved.ring_wall_mm, fit="free")  # fmt: skip
        return (turned_piece("ring", "ring on the seat, the coil stands round it", ring),), ()

    def card(self, saved: SpringSeat, made: PadMade) -> Card:
        """With what is drilled."""
        return pad_card(saved, made.shape, (*_drilled(saved), *pad_hole_lines(saved, made.shape)))

    def sheet(self, saved: SpringSeat, made: PadMade, numbers: Numbers) -> Drawing:
        """With the spring's foot on it."""
        high = 0.3 * saved.seat_mm
        sheet, side, end = pad_sheet(saved, made.shape, numbers, over=high)
        one, two = made.shape.heights
        middle = (sum(one) + sum(two)) / 4 + saved.plate_mm
        _stands(sheet, side, saved, (sum(one) / 2 + saved.plate_mm, (one[1] - one[0]) / saved.length_mm), high)
        _stands(sheet, end, saved, (middle, (sum(one) - sum(two)) / 2 / saved.apart_mm), high)
        face = made.shape.level - made.shape.skin + saved.plate_mm
        for hole in _holes(saved) if saved.stud_mm else ():
            sheet.line(side.at(hole.x, face - 3.0 * saved.plate_mm), side.at(hole.x, face + 0.5 * high), "centre", "muted")  # fmt: skip
        if saved.pitch_mm is not None:
            low = side.at(0.0, face + 0.5 * high)[1]
            sheet.dimension((side.at(-saved.pitch_mm / 2, 0)[0], low), (side.at(saved.pitch_mm / 2, 0)[0], low), saved.pitch_mm, offset=4.0, ref="field:pitch_mm", size=3.0)  # fmt: skip
        return sheet.done()

    def told(self, part: Part) -> SpringSeatOwn | None:
        """The hardest push, and what it stands on."""
        made = part.own
        if not isinstance(made, PadMade):
            return None
        push, case = max(((one.blow.push, one.case) for one in made.cases), default=(0.0, ""))
        return SpringSeatOwn(push_n=push, case=case, stands_on=made.shape.on)


def _pulled(saved: SpringSeat, shape: PadShape, cases: Sequence[Struck], settings: Settings) -> CheckResult:
    """The plate beside its studs, as beside a bearing's bolts: one behind the other between the webs."""
    assert saved.stud_mm is not None
    bent = asked("pad_bolted", "plate", settings.factors)
    studs = PadBolts(bolt=saved.stud_mm, hole=saved.stud_mm + HOLE_OVER, pitch=saved.pitch_mm or ONE_STUD, turned_deg=0.0, high=0.0)  # fmt: skip
    pad = replace(shape.pad, footprint=WASHER * saved.stud_mm)
    data = {
        "plate_mm": pad.plate, "length_mm": pad.length, "web_mm": pad.web, "apart_mm": pad.apart, "height_mm": pad.height, "bolt_mm": studs.bolt, "class": "8.8",
        "hole_mm": studs.hole, "washer_mm": 2 * pad.footprint, "pitch_mm": studs.pitch, "high_mm": 0.0, "lost_mm": pad.lost, "yield_mpa": saved.yield_mpa,
    }  # fmt: skip

    def on(one: Struck) -> tuple[float, Reproduction, float]:
        off = -one.blow.push * bent.factor
        again = Reproduction(topic="bearing-pad", input=data | {"off_n": off}, output="plate_mpa", figure="demand")
        return plate_stress(pad, studs, OnBearing(off=off, over=0.0)), again, saved.yield_mpa

    return worst_case(bent, cases, on)


def _lacks(saved: SpringSeat) -> Misfit | None:
    """What of the seat is too small for its spring."""
    for field, size, way in (("length_mm", saved.length_mm, "long"), ("width_mm", saved.width_mm, "wide")):
        if size < saved.seat_mm:
            return Misfit(field=field, message=f"The spring presses on ⌀{saved.seat_mm:g} mm and the seat is {size:g} mm {way}: make it {ceil(saved.seat_mm)} mm or more.")  # fmt: skip
    between = saved.apart_mm - saved.web_mm
    if saved.stud_mm is not None:
        room = 2 * (NUT * saved.stud_mm + NUT_ROOM)
        if between < room:
            return Misfit(field="apart_mm", message=f"The nuts, {2 * NUT * saved.stud_mm:.0f} mm over their corners, strike the webs. Set these {ceil(room + saved.web_mm)} mm apart or more, middle to middle.")  # fmt: skip
        reach = (saved.pitch_mm or 0.0) + 2 * FROM_EDGE * saved.stud_mm
        if saved.length_mm < reach:
            return Misfit(field="pitch_mm", message=f"The studs stand too near to the seat’s ends. Make it {ceil(reach)} mm long or more, or set them nearer.")  # fmt: skip
    if saved.port_mm is not None and saved.port_mm > between:
        return Misfit(field="port_mm", message=f"The hole for air runs into the webs, {between:g} mm between them. Make it smaller, or set these further apart.")  # fmt: skip
    if saved.port_mm is not None and saved.pitch_mm is not None and saved.stud_mm is not None:
        web = (saved.pitch_mm - saved.port_mm - saved.stud_mm - HOLE_OVER) / 2
        if web < saved.plate_mm:
            return Misfit(field="port_mm", message=f"Between the hole for air and a stud’s {max(web, 0.0):.1f} mm of metal are left, and {saved.plate_mm:g} mm are asked, as much as the plate is thick. Make it smaller.")  # fmt: skip
    return None


def _holes(saved: SpringSeat) -> tuple[Hole, ...]:
    found: list[Hole] = []
    if saved.stud_mm is not None:
        ways = (0.0,) if saved.pitch_mm is None else (-saved.pitch_mm / 2, saved.pitch_mm / 2)
        found += [Hole(x, 0.0, saved.stud_mm + HOLE_OVER) for x in ways]
    if saved.port_mm is not None:
        found.append(Hole(0.0, 0.0, saved.port_mm))
    return tuple(found)


def _drilled(saved: SpringSeat) -> tuple[CardLine, ...]:
    lines = [across(text="the spring presses on, diameter", mm=saved.seat_mm)]
    if saved.stud_mm is not None:
        many = "one hole in the middle" if saved.pitch_mm is None else "two holes along the webs, between them"
        lines.append(across(text=f"{many}, for studs of {saved.stud_mm:g} mm; drilled", mm=saved.stud_mm + HOLE_OVER))
    if saved.pitch_mm is not None:
        lines.append(CardLine(text="hole to hole", mm=saved.pitch_mm, strong=True))
    if saved.port_mm is not None:
        lines.append(across(text="hole in the middle, for air", mm=saved.port_mm))
    if saved.ring_mm is not None:
        lines.append(across(text="ring welded on in the middle, the coil stands round it; outside", mm=saved.ring_mm))
    lines.append(CardLine(text="a spring is fitted with the axle on stands; an air spring is empty until it is bolted at both ends"))  # fmt: skip
    return tuple(lines)


def _stands(sheet: Sheet, frame: Frame, saved: SpringSeat, of: tuple[float, float], high: float) -> None:
    """The spring's foot, and the ring in it, square to the seat as it leans; `of`: the face's height in its middle, and how far it rises for each millimetre."""
    face, rise = of
    run = hypot(1.0, rise)

    def at(x: float, z: float) -> tuple[float, float]:
        return frame.at((x - z * rise) / run, face + (x * rise + z) / run)

    def box(half: float, top: float) -> list[tuple[float, float]]:
        return [at(x, z) for x, z in ((-half, 0.0), (half, 0.0), (half, top), (-half, top))]

    sheet.area(box(saved.seat_mm / 2, high), "pale", ref="field:seat_mm")
    if saved.ring_mm is not None:
        sheet.area(box(saved.ring_mm / 2, saved.ring_high_mm), "steel", ref="field:ring_mm")
    sheet.line(at(0.0, -2.0 * saved.plate_mm), at(0.0, high + 4.0), "centre", "muted")


SPRING_SEAT = SpringSeatKind()
