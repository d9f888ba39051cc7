"""Steering arms and kingpin plates as a kind of part: a plate with an eye at a joint of what is not made here."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from tirante.core.checks.result import CheckResult, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.forms.table import Field, FieldGroup, choice, direction, number, place
from tirante.core.document.parts.carrier_plate import CarrierPlate
from tirante.core.document.template import RACK, HingeJoint, LinkJoint, Template
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour
from tirante.core.loads.case_seen import NotCarried
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.body import UNHELD_LIFE, BodySeen, copies_differ, seen_of, side_of
from tirante.core.parts.carrier_plate.judged import PlateCase, in_its_plane, passes_a_moment, plate_checks, plate_life
from tirante.core.parts.carrier_plate.shape import PlateShape, shaped
from tirante.core.parts.everyday import BY_USE
from tirante.core.parts.joint import plain_bolt
from tirante.core.parts.kind import Aim, Choice, Kind, MadeFrom, Sized, ViewAsked
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View
from tirante.core.parts.plates import thinnest
from tirante.core.suspension.duty import Duty
from tirante.core.suspension.on_body import places_on
from tirante.core.units import STEEL_DENSITY

NOT_CHECKED = (
    "what it is fastened to: the face, the tube or the casting, and threads in it", "its bolts’ clamping and locking", "impact: curbs, ruts, a wheel held fast",
    "weld quality (assumed sound)", "corrosion and wear",
)  # fmt: skip
WELDING = (
    "Steering hangs on this part: have it inspected (dye or magnetic particle) before it is used and after the first outing.",
    "Tack it with the joint’s dummy in its eye, check the eye’s place from both sides of the car, weld both faces in turn, cool slowly.",
    "Ream the eye after welding.",
)
NOTES = (
    "How an upright, a knuckle or an axle takes such a plate is its maker’s to say; local rules may ask for a licensed engineer’s approval of any steering part.",
)
BOLTING = "Fit hardened washers, torque by the bolts’ class, lock them (wire, or locking nuts with thread showing), and mark them so that a turn shows."


class CarrierPlateOwn(Out):
    """What only a plate on a carrier has."""

    kind: Literal["carrier_plate"] = "carrier_plate"
    reach_mm: float
    off_mm: float
    force_n: float
    case: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateMade:
    """A plate with its core objects."""

    shape: PlateShape
    seen: BodySeen
    cases: tuple[PlateCase, ...]


class CarrierPlateKind(Kind[CarrierPlate]):
    """Plates with an eye at a joint of an upright, a knuckle or an axle."""

    key = "carrier_plate"
    word = "steering arm or kingpin plate"
    duty: Duty = "steers"
    saved = CarrierPlate
    own = CarrierPlateOwn
    searched = True
    of_tubes = False
    searches = (
        "Every usual plate is judged against all checks under what it sees; its outline and its bolts stay as they are."
    )
    fields = (
        FieldGroup(title="Where it stands", note="its eye stands at the joint; how far ahead, to the left and up its bolts or weld lie, on the left side of the car", fields=[
            place("root", "Bolts’ middle or weld, from its eye"), direction("normal", "Square to the plate"),
            choice("fastened", "Held at its root by", ["two bolts", "weld"]),
        ]),
        FieldGroup(title="Plate", note="Size it chooses how thick", fields=[
            number(CarrierPlate, "plate_mm", "Plate", "mm"), number(CarrierPlate, "head_mm", "Radius of the plate round its eye", "mm"),
            number(CarrierPlate, "root_width_mm", "Wide at its root", "mm"), Field(path="plate_name", label="Steel", control="text"),
            number(CarrierPlate, "yield_mpa", "Plate’s yield", "MPa"), number(CarrierPlate, "uts_mpa", "Plate’s ultimate", "MPa"),
        ]),
        FieldGroup(title="Bolt through its eye", fields=[
            number(CarrierPlate, "pin_mm", "Bolt or stud", "mm"), choice("pin_class", "Its class", ["8.8", "10.9", "12.9"]),
        ]),
        FieldGroup(title="Root", fields=[
            number(CarrierPlate, "bolt_mm", "Bolts", "mm", only="fastened=two bolts"), choice("bolt_class", "Their class", ["8.8", "10.9", "12.9"], only="fastened=two bolts"),
            number(CarrierPlate, "apart_mm", "Apart, along the plate", "mm", only="fastened=two bolts"),
            number(CarrierPlate, "leg_mm", "Fillet leg, both faces", "mm", only="fastened=weld"),
        ]),
    )  # fmt: skip

    def work_out(self, saved: CarrierPlate, around: Around) -> Part:
        """The plate under every case."""
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "not_carried": not_carried(saved.of_end, around),
            "made_of": (f"{saved.plate_mm:g} mm plate", saved.plate_name),
        }  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        try:
            made = self._made(saved, around)
            if isinstance(made, list):
                return Part(**common, faults=tuple(made))
            checks = plate_checks(saved, made.shape, made.cases, around.settings)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("",))[0], message=error.message),))
        lasts, days = self._life(saved, made.shape, around)
        common["not_carried"] += (*made.seen.left_out, *days)
        beyond = () if made.shape.off else ("the pin’s own bending between its two plates",)
        common["not_checked"] = (*beyond, *NOT_CHECKED)
        return Part(
            **common, pieces=_pieces(saved, made.shape), checks=weakest_first([*checks, *lasts]), mass=_mass(saved, made.shape),
            views=(View(name="drawing", title="the plate, dimensioned"), View(name="flat", title="plate, 1:1", cut=True, plate="plate")),
            card=_card(saved, made.shape), welding=WELDING if saved.fastened == "weld" else (WELDING[0], BOLTING), notes=NOTES, own=made,
        )  # fmt: skip

    def _made(self, saved: CarrierPlate, around: Around) -> PlateMade | list[Misfit]:
        seen = seen_of(saved, saved.body, around, either_side=True)
        shape = shaped(saved, seen.places)
        differ = copies_differ(saved, saved.body, around)
        if isinstance(shape, list) or differ:
            return [*differ, *(shape if isinstance(shape, list) else [])]
        if not seen.cases:
            raise InputError(
                "No case could be worked out, so nothing says what the plate sees.", code="missing", fields=("loads",)
            )
        cases = tuple(in_its_plane(saved, shape, seen.cases))
        moment = passes_a_moment(saved, shape, cases)
        if moment:
            told = f"In “{moment}” this joint passes a moment beside its force, which one plate does not take: give the pin two points, one for either plate."
            return [Misfit(field="point", message=told)]
        return PlateMade(shape=shape, seen=seen, cases=cases)

    def _life(
        self, saved: CarrierPlate, shape: PlateShape, around: Around
    ) -> tuple[list[CheckResult], tuple[NotCarried, ...]]:
        days = seen_of(saved, saved.body, around, everyday=True, either_side=True)
        if days.not_known is not None:
            return [], (days.not_known,)
        if days.left_out:
            return [], (UNHELD_LIFE,)
        target = around.settings.life_cycles or BY_USE[around.use]
        return plate_life(saved, shape, in_its_plane(saved, shape, days.cases), around.settings, target), ()

    def told(self, part: Part) -> CarrierPlateOwn | None:
        """How far it reaches, and the most that pulls at it."""
        made, saved = part.own, part.saved
        if not isinstance(made, PlateMade) or not isinstance(saved, CarrierPlate):
            return None
        force, case = max((one.eyes[saved.point].size, one.case) for one in made.cases)
        return CarrierPlateOwn(reach_mm=made.shape.reach, off_mm=made.shape.off, force_n=force, case=case)

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Its plate, dimensioned, or at 1:1."""
        made, saved = part.own, part.saved
        if isinstance(made, PlateMade) and isinstance(saved, CarrierPlate):
            if asked.name == "drawing":
                return _sheet(saved, made.shape, numbers)
            if asked.name == "flat":
                return _flat(saved, made.shape.outline)
        return super().draw(part, asked, numbers)

    def span(self, part: Part) -> float | None:
        """Its length."""
        if not isinstance(part.own, PlateMade):
            return None
        low, _, high, _ = part.own.shape.outline.bounds
        return high - low

    def tall(self, part: Part) -> float:
        """Its width."""
        _, low, _, high = part.own.shape.outline.bounds
        return float(high - low)

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """Flat."""
        low = part.own.shape.outline.bounds[0]
        draw_contour(sheet, Frame(at[0] - scale * low, at[1], scale), part.own.shape.outline, "visible", ref)

    def size(self, saved: CarrierPlate, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The thinnest plate that holds and lasts."""
        del shelf
        lost = saved.lost(around.ends)
        if lost:
            raise InputError(lost, code="missing", fields=("end_id",))
        wall = prudent_for(around.settings, around.use, (), "steers").wall
        least = wall.value if wall else 0.0
        first = self._made(saved, around)
        if isinstance(first, list):
            raise InputError(first[0].message, code="not_complete", fields=(first[0].field,))

        def make(mm: float) -> Choice:
            one = saved.model_copy(update={"plate_mm": mm})
            checks = weakest_first(
                [
                    *plate_checks(one, first.shape, first.cases, around.settings),
                    *self._life(one, first.shape, around)[0],
                ]
            )
            return Choice(
                parts=(one,), joints=(), tube=f"{mm:g} mm plate", grade=one.plate_name, joint=None, stock=(f"{mm:g} mm plate", one.plate_name),
                mass=_mass(one, first.shape), worst=checks[0],
            )  # fmt: skip

        return thinnest(make, least, aim)

    def stands_at(self, template: Template, body: str) -> tuple[str, ...]:
        """What steers it, and the pin that it turns on: links from the rack or from another carrier, hinges between two carriers."""
        found: dict[str, None] = {}
        for joint in template.joints:
            if body not in joint.bodies_tied:
                continue
            others = [one for one in joint.bodies_tied if one != body] or [body]
            if isinstance(joint, LinkJoint) and (RACK in others or template.carries(others[0])):
                found |= dict.fromkeys(place.point for place in joint.places if place.body == body)
            if isinstance(joint, HingeJoint) and template.carries(others[0]):
                found |= dict.fromkeys(joint.points)
        return tuple(found)

    def beside(self, body: str, point: str, made: MadeFrom) -> CarrierPlate | None:
        """A plate for a joint of what carries a wheel, its root not said yet."""
        places = places_on(made.template, made.end, body)
        at = next((one for one in places if one.point == point), None)
        if at is None or point not in self.stands_at(made.template, body):
            return None
        return CarrierPlate(
            id=made.part_id, name=f"{made.end_name} {body.replace('_', ' ')}, plate at {at.words}"[:80], side=side_of(made.template, body),
            end_id=made.end_id, body=body, point=point, normal=at.bolt or (0.0, 0.0, 1.0),
        )  # fmt: skip


def _mass(saved: CarrierPlate, shape: PlateShape) -> float:
    return shape.outline.area * saved.plate_mm * STEEL_DENSITY


def _pieces(saved: CarrierPlate, shape: PlateShape) -> tuple[Piece, ...]:
    low_x, low_y, high_x, high_y = shape.outline.bounds
    found: list[Piece] = [
        PlatePiece(name="plate", material=saved.plate_name, thickness=saved.plate_mm, length=high_x - low_x, width=high_y - low_y, outline=shape.outline)
    ]  # fmt: skip
    if saved.fastened == "two bolts":
        found.append(plain_bolt(saved.bolt_mm, saved.bolt_class, "with hardened washers, for its root", count=2))
    found.append(plain_bolt(saved.pin_mm, saved.pin_class, f"for {shape.words}", word="bolt or stud"))
    return tuple(found)


def _card(saved: CarrierPlate, shape: PlateShape) -> Card:
    to = "middle of its bolts" if saved.fastened == "two bolts" else "its weld"
    lines = [CardLine(text=f"plate, {saved.plate_name}", mm=saved.plate_mm)]
    if saved.fastened == "two bolts":
        lines.append(CardLine(text="bolts apart", mm=saved.apart_mm))
    else:
        lines.append(CardLine(text="fillet, both faces", mm=min(saved.leg_mm, saved.plate_mm)))
    lines.append(CardLine(text="joint stands off the plate’s middle", mm=abs(shape.off)))
    return Card(
        figures=(Figure(label=f"eye to {to}", mm=shape.reach, note=f"hole for ⌀{saved.pin_mm:g}"),), lines=tuple(lines)
    )


def _sheet(saved: CarrierPlate, shape: PlateShape, numbers: Numbers) -> Drawing:
    sheet = Sheet(name="carrier_plate", title=saved.name, width=217.0, height=120.0, numbers=numbers)
    low_x, low_y, high_x, high_y = shape.outline.bounds
    scale = min(180.0 / (high_x - low_x), 56.0 / (high_y - low_y), 1.0)
    sheet.scale = scale
    frame = Frame((217.0 - scale * (high_x + low_x)) / 2, 62.0, scale)
    draw_contour(sheet, frame, shape.outline, "visible", ref="field:plate_mm")
    low = frame.at(0, low_y)[1]
    to = "middle of bolts" if saved.fastened == "two bolts" else "weld"
    sheet.dimension(
        (frame.at(0, 0)[0], low),
        (frame.at(shape.reach, 0)[0], low),
        shape.reach,
        offset=-9.0,
        ref="dim:reach",
        note=f"eye to {to}",
    )
    right = frame.at(high_x, 0)[0]
    sheet.dimension(
        (right, frame.at(0, -saved.root_width_mm / 2)[1]),
        (right, frame.at(0, saved.root_width_mm / 2)[1]),
        saved.root_width_mm,
        offset=-5.0,
        ref="field:root_width_mm",
        size=3.0,
    )
    if saved.fastened == "two bolts":
        top = frame.at(0, saved.root_width_mm / 2)[1]
        sheet.dimension(
            (frame.at(shape.reach - saved.apart_mm / 2, 0)[0], top),
            (frame.at(shape.reach + saved.apart_mm / 2, 0)[0], top),
            saved.apart_mm,
            offset=5.0,
            ref="field:apart_mm",
            size=3.0,
        )
    sheet.text((6, 112), f"one plate, {numbers.written(saved.plate_mm)} {saved.plate_name}, {saved.side}", 2.9, tone="muted")  # fmt: skip
    sheet.text((6, 6), f"the joint stands {numbers.written(abs(shape.off))} off the plate’s middle", 2.9, tone="muted")
    at = frame.at(0, saved.head_mm)
    sheet.text(
        (at[0], at[1] + 2.0), f"{shape.words}, ⌀{numbers.drilled(saved.pin_mm)}", 2.9, "middle", ref="field:pin_mm"
    )
    return sheet.done()


def _flat(saved: CarrierPlate, outline: Contour) -> Drawing:
    low_x, low_y, high_x, high_y = outline.bounds
    sheet = Sheet(name="flat", title=saved.name, width=high_x - low_x, height=high_y - low_y)
    draw_contour(sheet, Frame(-low_x, -low_y, 1.0), outline, "cut")
    return sheet.done()


CARRIER_PLATE = CarrierPlateKind()
