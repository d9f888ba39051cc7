"""Rockers and bell cranks of plates as a kind of part."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi
from typing import Any, Literal

from tirante.core.checks.result import CheckResult, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue, Eye, bolt_fits
from tirante.core.document.end import DamperEye
from tirante.core.document.forms.table import Field, FieldGroup, number, special
from tirante.core.document.parts.rocker import Rocker, RockerEye
from tirante.core.document.template import SpinJoint, Template
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.jigs.features import NOT_YET, Features
from tirante.core.loads.case_seen import NotCarried
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.body import UNHELD_LIFE, BodySeen, copies_differ, seen_of, side_of
from tirante.core.parts.everyday import BY_USE
from tirante.core.parts.feet import Spot
from tirante.core.parts.held_body import BodyKind
from tirante.core.parts.joint import plain_bolt
from tirante.core.parts.kind import Aim, Choice, MadeFrom, Sized, ViewAsked
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.part import (
    BoughtPiece,
    Card,
    CardLine,
    Figure,
    Misfit,
    Part,
    Piece,
    PlatePiece,
    Turned,
    View,
    across,
)
from tirante.core.parts.plates import thinnest
from tirante.core.parts.rocker.held import features_of
from tirante.core.parts.rocker.judged import in_its_plane, rocker_checks, rocker_life
from tirante.core.parts.rocker.shape import RockerShape, shaped
from tirante.core.parts.rocker.view import rocker_flat, rocker_sheet
from tirante.core.parts.turned import turned_piece, turned_views
from tirante.core.suspension.moving import Moving
from tirante.core.suspension.on_body import places_on
from tirante.core.units import STEEL_DENSITY

PIVOT = "turns"  # the name of its one held place
CLOSE = 0.5  # mm: a gap that a washer or a squeeze of the plates does not make up
ROUND_BOLT = 1.5  # of a bolt: the least radius of plate round it; common practice, no source
THINNEST = 3.0  # mm: a thinner plate bends on its own when it is handled and welded; common practice, no source
NOT_CHECKED = (
    "its bearings beyond a rating that is given, and how they are kept", "the boss’s own wall", "the pin it turns on and what holds that", "impact",
    "weld quality (assumed sound)", "corrosion and wear",
)  # fmt: skip


class EyeOut(Out):
    """An eye of the rocker and the most that pulls at it."""

    point: str
    words: str
    reach_mm: float
    off_mm: float
    force_n: float
    case: str


class RockerOwn(Out):
    """What only a rocker has."""

    kind: Literal["rocker"] = "rocker"
    eyes: list[EyeOut]
    pivot_n: float
    pivot_case: str
    tip_nmm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RockerMade:
    """A rocker with its core objects."""

    shape: RockerShape
    seen: BodySeen


class RockerKind(BodyKind[Rocker]):
    """Rockers of plates."""

    key = "rocker"
    word = "rocker"
    saved = Rocker
    own = RockerOwn
    searched = True
    of_tubes = False
    searches = (
        "Every usual plate is judged against all checks under what it sees; the shape of the plate stays as it is."
    )
    fields = (
        FieldGroup(title="Plates", note="Size it chooses how thick", fields=[
            number(Rocker, "plates", "How many"), number(Rocker, "plate_mm", "Plate", "mm"), number(Rocker, "inside_mm", "Between two plates", "mm"),
            Field(path="plate_name", label="Steel", control="text"), number(Rocker, "yield_mpa", "Plate’s yield", "MPa"),
            number(Rocker, "uts_mpa", "Plate’s ultimate", "MPa"),
        ]),
        FieldGroup(title="Boss and bearings", fields=[
            number(Rocker, "boss_mm", "Boss, outside", "mm"), number(Rocker, "bore_mm", "Its bore, for the bearings", "mm"),
            number(Rocker, "boss_length_mm", "Boss, long", "mm"), number(Rocker, "hub_mm", "Radius of the plate round it", "mm"),
            number(Rocker, "leg_mm", "Fillet leg of its weld", "mm"),
            number(Rocker, "bearing_rating_n", "Bearings’ rating (maker’s, both)", "N", optional=True, empty="not given"),
        ]),
        FieldGroup(title="Where it turns", of="pivot_eye", switch="its bolt and bearings, for a bracket", fields=[
            number(DamperEye, "bore_mm", "Bore of its bearings, for the bolt", "mm", at="pivot_eye/"),
            number(DamperEye, "ball_width_mm", "Over both bearings’ inner rings", "mm", at="pivot_eye/"),
            number(DamperEye, "housing_width_mm", "Boss, long", "mm", at="pivot_eye/"),
            number(DamperEye, "head_diameter_mm", "Boss or plate round it, outside", "mm", at="pivot_eye/"),
        ]),
        FieldGroup(title="Eyes", fields=[special("eyes", "Eyes")]),
    )  # fmt: skip

    def work_out(self, saved: Rocker, around: Around) -> Part:
        """Its plates under every case."""
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "not_carried": not_carried(saved.of_end, around),
            "made_of": (f"{saved.plates} × {saved.plate_mm:g} mm plate", saved.plate_name),
        }  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        try:
            seen = seen_of(saved, saved.body, around)
            shape = shaped(saved, seen.places)
            faults = (*copies_differ(saved, saved.body, around), *self._misfits(saved, around))
            if isinstance(shape, list) or faults:
                return Part(**common, faults=(*faults, *(shape if isinstance(shape, list) else ())))
            if not seen.cases:
                raise InputError(
                    "No case could be worked out, so nothing says what the rocker sees.",
                    code="missing",
                    fields=("loads",),
                )
            checks = rocker_checks(saved, shape, in_its_plane(shape, seen.cases), around.settings)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("",))[0], message=error.message),))
        lasts, days = self._life(saved, shape, around)
        common["not_carried"] += (*seen.left_out, *days)
        pieces = _pieces(saved, shape)
        return Part(
            **common, pieces=pieces, checks=weakest_first([*checks, *lasts]), mass=_mass(saved, shape),
            views=(View(name="drawing", title="its plate, and through its pivot"), View(name="flat", title="plate, 1:1", cut=True, plate="rocker plate"), *turned_views(pieces)),
            card=_card(saved, shape), welding=tuple(WELDING), notes=tuple(_notes(saved, shape)), own=RockerMade(shape=shape, seen=seen),
        )  # fmt: skip

    def begins(self, saved: Rocker) -> dict[str, Any]:
        """A bolt of half the boss's bore, its bearings clamped a little longer than the boss."""
        return {
            "pivot_eye": {
                "bore_mm": saved.bore_mm / 2, "ball_width_mm": saved.boss_length_mm + 4.0, "housing_width_mm": saved.boss_length_mm,
                "head_diameter_mm": saved.boss_mm, "tilt_limit_deg": None,
            }
        }  # fmt: skip

    def ends(self, saved: Rocker) -> tuple[str, ...]:
        """Where it turns; what stands in its eyes is held by itself."""
        del saved
        return (PIVOT,)

    def end_name(self, at: str) -> str:
        """Where it turns, in words."""
        del at
        return "where it turns"

    def end_lacks(self, saved: Rocker, at: str) -> str:
        """The sizes of its bearings."""
        del saved, at
        return "Give its bolt and bearings first, under Where it turns: a bracket is proportioned to the bolt."

    def holds(self, saved: Rocker) -> tuple[str, ...]:
        """Its eyes."""
        return tuple(eye.point for eye in saved.eyes)

    def body_of(self, saved: Rocker) -> str:
        """The rocker's."""
        return saved.body

    def goes_in(self, saved: Rocker, at: str) -> Eye | None:
        """Its bearings, clamped."""
        del at
        return saved.pivot_eye

    def point_of(self, saved: Rocker, at: str, around: Around) -> str:
        """The point that it turns at."""
        del at
        template = around.template(saved.end_id) if saved.end_id in around.ends else None
        joints = template.joints if template else ()
        return next((one.point for one in joints if isinstance(one, SpinJoint) and one.body == saved.body), "")

    def _eyes(self, saved: Rocker, around: Around) -> dict[str, Eye]:
        """What stands in its eyes, where the job has it."""
        every = {one.point: around.eye_at(Spot(saved.end_id, saved.body, one.point)) for one in saved.eyes}
        return {point: eye for point, eye in every.items() if eye is not None}

    def _misfits(self, saved: Rocker, around: Around) -> Iterator[Misfit]:
        """Bolts that do not go through what stands in the eyes, and what does not go between the plates."""
        held = self._eyes(saved, around)
        for i, one in enumerate(saved.eyes):
            eye, words = held.get(one.point), one.point.replace("_", " ")
            if eye is None:
                continue
            if not bolt_fits(one.pin_mm, eye.bore_mm):
                yield Misfit(field=f"eyes.{i}.pin_mm", message=f"The bolt at {words} is {one.pin_mm:g} mm, and what stands there has a bore of {eye.bore_mm:g} mm. Size it, or type it.")  # fmt: skip
            if abs(one.between_mm - eye.ball_width_mm) > CLOSE:
                yield Misfit(field=f"eyes.{i}.between_mm", message=f"At {words} {one.between_mm:g} mm are given for what stands there, and it is {eye.ball_width_mm:g} mm wide. Size it, or type it.")  # fmt: skip
            if saved.plates == 2 and eye.ball_width_mm > saved.inside_mm + CLOSE:
                yield Misfit(field="inside_mm", message=f"What stands at {words} is {eye.ball_width_mm:g} mm wide, and the plates stand {saved.inside_mm:g} mm apart. Set them further apart.")  # fmt: skip

    def _eyed(self, saved: Rocker, around: Around) -> Rocker:
        """With the bolts that what stands in its eyes asks for, the plate round them no less than one and a half of them."""
        held = self._eyes(saved, around)
        eyes = tuple(
            one if (eye := held.get(one.point)) is None
            else one.model_copy(
                update={"pin_mm": eye.bore_mm, "between_mm": eye.ball_width_mm, "head_mm": max(one.head_mm, ROUND_BOLT * eye.bore_mm)}
            )
            for one in saved.eyes
        )  # fmt: skip
        widest = max((eye.ball_width_mm for eye in held.values()), default=0.0)
        inside = max(saved.inside_mm, widest) if saved.plates == 2 else saved.inside_mm
        return saved.model_copy(update={"eyes": eyes, "inside_mm": inside})

    def features(self, saved: Rocker, around: Around) -> Features | str:
        """Its boss and its eyes."""
        part = around.part(saved.id)
        if part is None or not part.complete or not isinstance(part.own, RockerMade):
            return NOT_YET
        return features_of(saved, part.own.shape, _boss(saved))

    def depends(self, saved: Rocker, around: Around) -> str:
        """What stands in its eyes."""
        return f"{[(point, eye.hash) for point, eye in self._eyes(saved, around).items()]}"

    def _life(
        self, saved: Rocker, shape: RockerShape, around: Around
    ) -> tuple[list[CheckResult], tuple[NotCarried, ...]]:
        days = seen_of(saved, saved.body, around, everyday=True)
        if isinstance(days.not_known, NotCarried):
            return [], (days.not_known,)
        if days.left_out:
            return [], (UNHELD_LIFE,)
        target = around.settings.life_cycles or BY_USE[around.use]
        return rocker_life(saved, shape, in_its_plane(shape, days.cases), around.settings, target), ()

    def told(self, part: Part) -> RockerOwn | None:
        """Its eyes and its pivot."""
        made = part.own
        if not isinstance(made, RockerMade):
            return None
        cases = in_its_plane(made.shape, made.seen.cases)
        eyes = []
        for eye in made.shape.eyes:
            force, case = max((one.eyes[eye.eye.point].size, one.case) for one in cases)
            eyes.append(
                EyeOut(
                    point=eye.eye.point, words=eye.words, reach_mm=eye.reach, off_mm=eye.off, force_n=force, case=case
                )
            )
        pivot, case = max((sum(v * v for v in one.pivot) ** 0.5, one.case) for one in cases)
        return RockerOwn(eyes=eyes, pivot_n=pivot, pivot_case=case, tip_nmm=max(one.tip for one in cases))

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Its plate and its stack, or the plate at 1:1."""
        made, rocker = part.own, part.saved
        assert isinstance(rocker, Rocker)
        if isinstance(made, RockerMade) and asked.name == "drawing":
            return rocker_sheet(rocker, made.shape, numbers)
        if isinstance(made, RockerMade) and asked.name == "flat":
            return rocker_flat(rocker, made.shape)
        return super().draw(part, asked, numbers)

    def span(self, part: Part) -> float | None:
        """Its plate's width."""
        made = part.own
        if not isinstance(made, RockerMade):
            return None
        low, _, high, _ = made.shape.outline.bounds
        return high - low

    def tall(self, part: Part) -> float:
        """Its plate's height."""
        made: RockerMade = part.own
        _, low, _, high = made.shape.outline.bounds
        return high - low

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """Its plate."""
        low_x, low_y, _, high_y = part.own.shape.outline.bounds
        frame = Frame(at[0] - scale * low_x, at[1] - scale * (low_y + high_y) / 2, scale)
        draw_contour(sheet, frame, part.own.shape.outline, "visible", ref)

    def size(self, saved: Rocker, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The thinnest plate that holds and lasts."""
        del shelf
        if saved.lost(around.ends):
            raise InputError(
                "The suspension end of this rocker is not there any more.", code="missing", fields=("end_id",)
            )
        seen = seen_of(saved, saved.body, around)
        saved = self._eyed(saved, around)
        shape = shaped(saved, seen.places)
        if isinstance(shape, list):
            raise InputError(shape[0].message, code="not_complete", fields=(shape[0].field,))
        if not seen.cases:
            raise InputError(
                "No case could be worked out, so nothing says what the rocker sees.", code="missing", fields=("loads",)
            )
        cases = in_its_plane(shape, seen.cases)
        wall = prudent_for(around.settings, around.use, (), "locates").wall
        least = max(wall.value if wall else 0.0, THINNEST)

        def make(mm: float) -> Choice:
            one = saved.model_copy(update={"plate_mm": mm})
            checks = weakest_first(
                [*rocker_checks(one, shape, cases, around.settings), *self._life(one, shape, around)[0]]
            )
            return Choice(
                parts=(one,), joints=(), tube=f"{one.plates} × {mm:g} mm plate", grade=one.plate_name, joint=None, stock=(f"{mm:g} mm plate", one.plate_name),
                mass=_mass(one, shape), worst=checks[0],
            )  # fmt: skip

        return thinnest(make, least, aim)

    def may_be(self, template: Template, one: Moving) -> bool:
        """A body that turns about a line through one point."""
        return one.sort == "body" and any(
            isinstance(joint, SpinJoint) and joint.body == one.name for joint in template.joints
        )

    def made_from(self, one: Moving, made: MadeFrom) -> Rocker | None:
        """A rocker with an eye for all that pulls at it."""
        places = places_on(made.template, made.end, one.name)
        eyes = tuple(
            RockerEye(point=place.point) for place in places if place.sort in ("link", "damper", "ball", "strap")
        )
        return Rocker(
            id=made.part_id, name=f"{made.end_name} {one.words}"[:80], side=side_of(made.template, one.name), end_id=made.end_id, body=one.name, eyes=eyes
        )  # fmt: skip


WELDING = (
    "Bolt the plates together and bore pivot and eyes in one, or drill them from one template.",
    "Tack the boss square to the plates on a mandrel, weld in quarters, opposite in turn, both faces where there is one plate.",
    "Bore the boss for its bearings after welding: the ring draws it oval. No heat on a bearing.",
)


def _mass(rocker: Rocker, shape: RockerShape) -> float:
    boss = pi / 4 * (rocker.boss_mm**2 - rocker.bore_mm**2) * rocker.boss_length_mm
    return (shape.outline.area * rocker.plate_mm * rocker.plates + boss) * STEEL_DENSITY


def _boss(rocker: Rocker) -> Turned:
    return Turned(
        material=rocker.plate_name.replace(" plate", " bar"), outside=rocker.boss_mm, length=rocker.boss_length_mm, bore=rocker.bore_mm, fit="H7", after=True,
        notes=("What the bearings’ maker says of their seat goes before H7.",),
    )  # fmt: skip


def _pieces(rocker: Rocker, shape: RockerShape) -> tuple[Piece, ...]:
    low_x, low_y, high_x, high_y = shape.outline.bounds
    found: list[Piece] = [
        PlatePiece(name="rocker plate", material=rocker.plate_name, thickness=rocker.plate_mm, length=high_x - low_x, width=high_y - low_y,
                   outline=shape.outline, count=rocker.plates),
        turned_piece("boss", "boss, for its bearings", _boss(rocker)),
        BoughtPiece(sort="bearing", what=f"bearing for a bore of {rocker.bore_mm:g} mm", count=2),
    ]  # fmt: skip
    found += [plain_bolt(eye.eye.pin_mm, eye.eye.pin_class, f"for {eye.words}") for eye in shape.eyes]
    return tuple(found)


def _card(rocker: Rocker, shape: RockerShape) -> Card:
    figures = [
        Figure(label=f"pivot to {eye.words}", mm=eye.reach, note=f"hole for ⌀{eye.eye.pin_mm:g}") for eye in shape.eyes
    ]
    lines = [
        CardLine(text=f"{rocker.plates} × plate, {rocker.plate_name}", mm=rocker.plate_mm), across(text="boss, outside", mm=rocker.boss_mm),
        across(text="boss, bored after welding", mm=rocker.bore_mm),
    ]  # fmt: skip
    if rocker.plates == 2:
        lines.append(CardLine(text="between the plates, inside", mm=rocker.inside_mm))
    return Card(figures=tuple(figures), lines=tuple(lines))


def _notes(rocker: Rocker, shape: RockerShape) -> list[str]:
    notes: list[str] = []
    wide = [eye.words for eye in shape.eyes if rocker.plates == 2 and eye.eye.between_mm > rocker.inside_mm]
    if wide:
        notes.append(f"what stands at {', '.join(wide)} is wider than the plates are apart: it does not go in")
    off = [f"{eye.words} by {abs(eye.off):.1f} mm" for eye in shape.eyes if abs(eye.off) > 1.0]
    if off:
        notes.append(f"pulled beside the middle of its plates: {', '.join(off)}; counted as it tips the plates")
    if rocker.bearing_rating_n is None:
        notes.append("its bearings are not checked: give their maker’s rating")
    return notes


ROCKER = RockerKind()
