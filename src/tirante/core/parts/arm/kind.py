"""Welded arms as a kind of part."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from math import sqrt
from typing import Any, Literal

import numpy as np

from tirante.core.checks.result import CheckResult, weakest_first
from tirante.core.checks.shown import Out, shown_utilisation
from tirante.core.document.catalogue import Catalogue, Eye, Grade, Joint, Tube, grade_comes_as
from tirante.core.document.end import DamperEye
from tirante.core.document.forms.table import FieldGroup, choice, number, special
from tirante.core.document.joints import PivotOfArm
from tirante.core.document.parts.arm import Arm, Gusset, Housing, Stud
from tirante.core.document.parts.common import RodEndEnd, Welding
from tirante.core.document.shape import Shape, ShapeTube
from tirante.core.document.template import HingeJoint, Template
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.jigs.features import NOT_YET, Features
from tirante.core.loads.case_seen import CaseSeen, NotCarried
from tirante.core.parts.adjusters import JobAdjuster, job_adjuster
from tirante.core.parts.arm.checks import arm_checks, rings_of
from tirante.core.parts.arm.cut import cut_of, standing, widest_that_stands
from tirante.core.parts.arm.ends import ArmSide, arm_sides_of, fitting_ends, pivot_cases, side_cases, size_ends
from tirante.core.parts.arm.frame import GUSSET, TUBES, places_of
from tirante.core.parts.arm.held import features_of
from tirante.core.parts.arm.judged import ArmResult, ArmSetting, ArmSized, arm_result, size_arm
from tirante.core.parts.arm.life import arm_life, everyday_frames
from tirante.core.parts.arm.shown import arm_drawing, hardware_offers, reach_of
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.body import copies_differ, side_of
from tirante.core.parts.everyday import BY_USE
from tirante.core.parts.feet import Foot, Spot, TurnsAbout, bracket_pieces, brackets_told, holders, on_tubes
from tirante.core.parts.flat_plates import gusset_piece, plate_views
from tirante.core.parts.joint import HeldEnd
from tirante.core.parts.kind import Aim, Changed, Choice, Kind, MadeFrom, Sized, ViewAsked
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import (
    BoughtPiece,
    Card,
    CardLine,
    Misfit,
    Part,
    Piece,
    ToolPiece,
    TurnedPiece,
    View,
    labels,
)
from tirante.core.parts.turned import turned_piece, turned_views
from tirante.core.parts.welded.housing import ring_of, turned_ring
from tirante.core.parts.welded.notes import welding_of
from tirante.core.parts.welded.stock import graded, tube_offers
from tirante.core.parts.welded.tube_ends import Cut
from tirante.core.parts.welded.wrap import wrap_name, wrap_of, wrap_views
from tirante.core.suspension.duty import Duty
from tirante.core.suspension.moving import Moving
from tirante.core.suspension.on_body import places_on

NOT_CHECKED = (
    "the ball joint’s own housing", "fatigue of its ball joint and bushes and with corrosion", "impact", "weld quality (assumed sound)", "corrosion and wear",
    "the frame it bolts to", "the upright",
)  # fmt: skip


class OuterOut(Out):
    """What the outer joint sees [N], along its stud where that is known."""

    name: str
    force_n: float
    case: str
    out_n: float
    out_case: str
    into_n: float
    stud_points: Literal["up", "down"] | None


class PerGOut(Out):
    """Under 1 g of cornering, outer wheel, by this arm's tubes alone."""

    moved_mm: list[float]
    camber_deg: float
    toe_deg: float


class ArmOwn(Out):
    """What only an arm has."""

    kind: Literal["arm"] = "arm"
    outer: OuterOut | None
    per_g: PerGOut | None
    saw_mm: dict[str, float]
    residual: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ArmMade:
    """An arm with its core objects."""

    tube: Tube
    result: ArmResult
    sides: tuple[ArmSide, ...]
    checks: tuple[CheckResult, ...]
    cuts: tuple[Cut, ...]

    @property
    def saw(self) -> dict[str, float]:
        """What each tube is sawn to [mm]."""
        return {cut.run.name: cut.length for cut in self.cuts}


class ArmKind(Kind[Arm]):
    """Welded arms."""

    key = "arm"
    word = "arm"
    duty: Duty = "locates"
    saved = Arm
    own = ArmOwn
    searched = True
    fields = (
        FieldGroup(title="Tube", note="Size it chooses both; only what fits together is offered", fields=[
            special("tube", "Size", table="tubes"), special("grade", "Grade", table="grades"),
        ]),
        FieldGroup(title="How it is made", fields=[
            number(Arm, "brace_at", "Cross brace, share of the way out", optional=True, empty="none"),
            choice("pivots", "At its pivots", ["bush sleeves", "rod ends", "spherical bearings"]),
            choice("outer", "Outer joint", ["ball joint in a socket", "spherical bearing in a cup", "rod end"]),
            number(Arm, "outer_face_mm", "Outer joint’s centre to the tube", "mm"),
            number(Arm, "outer_rating_n", "Outer joint’s rating (maker’s)", "N", optional=True, empty="not given"),
            number(Arm, "pivot_face_mm", "Pivot’s centre to the tube", "mm", only="pivots=bush sleeves|spherical bearings"),
            number(Arm, "pivot_rating_n", "Pivots’ rating (maker’s)", "N", optional=True, empty="not given",
                   only="pivots=bush sleeves|spherical bearings"),
            special("pivot_end", only="pivots=rod ends"),
            special("saw"),
        ]),
        FieldGroup(title="Bush or bearing at either pivot", of="pivot_eye", switch="its sizes, for a bracket", fields=[
            number(DamperEye, "bore_mm", "Bore, for the bolt", "mm", at="pivot_eye/"),
            number(DamperEye, "ball_width_mm", "Width over ball or sleeve", "mm", at="pivot_eye/"),
            number(DamperEye, "housing_width_mm", "Width of its housing", "mm", at="pivot_eye/"),
            number(DamperEye, "head_diameter_mm", "Housing, outside", "mm", at="pivot_eye/"),
            number(DamperEye, "tilt_limit_deg", "It may tilt", "°", at="pivot_eye/", optional=True, empty="not known"),
            number(Arm, "pivot_wall_mm", "Wall of its sleeve", "mm", optional=True, empty="not given"),
        ]),
        FieldGroup(title="Cup at the outer joint", of="outer_housing", switch="its sizes, to be turned and judged", fields=[
            number(Housing, "wall_mm", "Its wall", "mm", at="outer_housing/"), number(Housing, "long_mm", "Long", "mm", at="outer_housing/"),
        ]),
        FieldGroup(title="Insert welds", folded=True, note="where the pivots are rod ends", fields=[
            number(Welding, "leg_mm", "Fillet leg", "mm", at="welding/", optional=True, empty="the wall’s"),
            number(Welding, "plug_mm", "Plug weld diameter", "mm", at="welding/"),
            number(Welding, "plugs", "Plug welds an end", at="welding/"),
            number(Welding, "plugs_in_section", "of them in one cross-section", at="welding/"),
        ]),
        FieldGroup(title="Gusset", of="gusset", switch="a plate let in between the tubes", fields=[
            number(Gusset, "reach_mm", "Along either tube", "mm", at="gusset/"),
            number(Gusset, "thickness_mm", "Plate", "mm", at="gusset/"),
        ]),
        FieldGroup(title="Ball joint’s stud", of="stud", switch="check its stud", fields=[
            number(Stud, "diameter_mm", "Stud, at its seat", "mm", at="stud/"),
            number(Stud, "lever_mm", "Ball to seat", "mm", at="stud/"),
            number(Stud, "yield_mpa", "Stud’s yield", "MPa", at="stud/"),
            choice("stud/taper", "Taper, in diameter", ["1:10", "1:8", "none"],
                   note="The boss is reamed to the same: another taper touches at one end only, and the stud breaks there."),
            number(Stud, "holds_in_n", "Its socket holds (maker’s)", "N", at="stud/", optional=True, empty="not given"),
        ]),
        FieldGroup(title="At the outer joint", fields=[special("outer_told")]),
    )  # fmt: skip

    def shape(self, saved: Arm, around: Around) -> Shape | None:
        """Its two tubes and the brace between them, its sleeves."""
        tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
        end = around.ends.get(saved.end_id)
        if not isinstance(tube, Tube) or end is None:
            return None
        try:
            places = places_of(around.template(saved.end_id), saved.body)
        except InputError:
            return None
        if places is None or any(point not in end.points for point in (*places.pivots, places.outer_point)):
            return None
        tubes = [ShapeTube(a=pivot, b=places.outer_point, od_mm=tube.od_mm) for pivot in places.pivots]
        if saved.brace_at is not None:
            out = end.points[places.outer_point]
            on = [
                tuple(p + saved.brace_at * (o - p) for p, o in zip(end.points[pivot], out, strict=True)) for pivot in places.pivots
            ]  # fmt: skip
            tubes.append(ShapeTube(a=on[0], b=on[1], od_mm=tube.od_mm))  # type: ignore[arg-type]
        return Shape(
            od_mm=tube.od_mm,
            tubes=tuple(tubes),
            sleeve_mm=0.0 if saved.pivots == "rod ends" else 2 * saved.pivot_face_mm,
        )

    def begins(self, saved: Arm) -> dict[str, Any]:
        """A cup, a gusset, a stud and a bush of usual size, the bush's housing as long as the sleeve that its tubes stand on."""
        sleeve = 2 * saved.pivot_face_mm or 40.0
        return {
            "pivot_eye": {
                "bore_mm": 12.0,
                "ball_width_mm": sleeve + 4.0,
                "housing_width_mm": sleeve,
                "head_diameter_mm": 38.0,
                "tilt_limit_deg": None,
            },
            "outer_housing": {"wall_mm": 5.0, "long_mm": 40.0},
            "gusset": {"reach_mm": 90.0, "thickness_mm": 4.0},
            "stud": {"diameter_mm": 16.0, "lever_mm": 18.0, "yield_mpa": 650.0, "taper": "1:10", "holds_in_n": None},
        }

    def setting(self, saved: Arm, around: Around) -> ArmSetting:
        """Where the arm stands and what it sees.

        Raises:
            InputError: its end cannot be put together.
        """
        end = around.ends[saved.end_id]
        return ArmSetting(
            template=around.template(saved.end_id), loads=around.carried(saved.end_id), factors=around.settings.factors, friction=around.settings.joint_friction,
            everyday=around.everyday(saved.end_id), studs={name: ball.stud_axis for name, ball in end.balls.items()},
            ride=around.at_ride(saved.end_id),
        )  # fmt: skip

    def work_out(self, saved: Arm, around: Around) -> Part:
        """The frame under every case, its rod ends, checks and pieces."""
        tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
        grade = around.catalogue.find("grades", saved.grade) if saved.grade else None
        feet = self.feet(saved, around)
        held = holders(saved, feet, around)
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": (*brackets_told(feet, held), *_rings_not_told(saved), *NOT_CHECKED), "not_carried": not_carried(saved.of_end, around),
            "made_of": (tube.label if isinstance(tube, Tube) else None, grade.label if isinstance(grade, Grade) else None),
            "own_mirror": saved.outer != "ball joint in a socket",
        }  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        if not isinstance(tube, Tube) or not isinstance(grade, Grade):
            return Part(**common, faults=(Misfit(field="tube", message="Not sized yet: press Size it."),))
        try:
            faults = copies_differ(saved, saved.body, around)
            if faults:
                return Part(**common, faults=faults)
            for field, sizes in rings_of(saved).items():
                ring_of(*sizes, field)  # leaves a bore, or says what does not
            result = arm_result(saved, tube, grade, self.setting(saved, around))
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("",))[0], message=error.message),))
        sides: list[ArmSide] = []
        if saved.pivots == "rod ends":
            found = arm_sides_of(saved, result.places, result.frames, around.catalogue, around.settings)
            faults = tuple(one for one in found if isinstance(one, Misfit))
            sides = [one for one in found if isinstance(one, ArmSide)]
        lasts, days = self._life(saved, tube, grade, sides, around)
        common["not_carried"] += days
        checks = weakest_first([*arm_checks(saved, tube, grade, result, sides, around.settings.factors), *lasts])
        cuts = () if faults else self._cuts(saved, tube, result, sides, around)
        made = ArmMade(tube=tube, result=result, sides=tuple(sides), checks=checks, cuts=cuts)
        lacking = tuple(f"not notched: {one}" for cut in cuts for one in cut.lacking)
        pieces = () if faults else (*_pieces(saved, tube, grade, made), *bracket_pieces(feet, held))
        return Part(
            **common, faults=faults, pieces=pieces, checks=checks, mass=result.mass_kg,
            views=(View(name="drawing", title="flat in its plane"), *plate_views(pieces), *wrap_views(cuts, numbers_of(around.settings)), *turned_views(pieces)), card=None if faults else _card(saved, tube, grade, made),
            procedure=grade.procedure, welding=tuple(welding_of(grade, inserts=saved.pivots == "rod ends", closed=[cut.run.name for cut in cuts if cut.closed])), notes=(*result.notes, *lacking), own=made,
        )  # fmt: skip

    def _cuts(
        self, saved: Arm, tube: Tube, result: ArmResult, sides: Sequence[ArmSide], around: Around
    ) -> tuple[Cut, ...]:
        """Its tubes as they are cut, by the points at ride height."""
        end = around.ends[saved.end_id]
        template = around.template(saved.end_id)
        at = {p.point: p.at for p in places_on(template, end, saved.body, right=saved.side == "right")}
        ball = end.balls.get(result.places.outer)
        return cut_of(
            saved, tube, result.places, at, ball.stud_axis if ball else None, sides, around.settings.wrap_paper_mm
        )

    def depends(self, saved: Arm, around: Around) -> str:
        """The brackets that hold what stands on it."""
        return f"{sorted(holders(saved, self.feet(saved, around), around).items())}"

    def features(self, saved: Arm, around: Around) -> Features | str:
        """Its pivots, its outer joint, its tubes and gusset."""
        part = around.part(saved.id)
        if part is None or not part.complete or not isinstance(part.own, ArmMade):
            return NOT_YET
        made = part.own
        return features_of(saved, made.result.places, around, made.sides, made.cuts)

    def feet(self, saved: Arm, around: Around) -> tuple[Foot, ...]:
        """What stands along its tubes."""
        end = around.ends.get(saved.end_id)
        try:
            template = around.template(saved.end_id) if end else None
        except InputError:
            return ()
        own = places_of(template, saved.body) if template else None
        if end is None or template is None or own is None:
            return ()
        every = {p.point: p for p in places_on(template, end, saved.body, right=saved.side == "right")}
        if not {*own.pivots, own.outer_point} <= set(every):
            return ()
        front, rear, outer = (np.array(every[name].at) for name in (*own.pivots, own.outer_point))
        tubes = dict(zip(TUBES, ((front, outer), (rear, outer)), strict=True))
        tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
        od, wall = (tube.od_mm, tube.wall_mm) if isinstance(tube, Tube) else (None, None)
        beside = [p for p in every.values() if p.point not in (*own.pivots, own.outer_point)]
        return tuple(
            replace(on_tubes(p.point, p.words, p.what, p.sort, np.array(p.at), tubes), od=od, wall=wall) for p in beside
        )

    def _life(
        self, saved: Arm, tube: Tube, grade: Grade, sides: Sequence[ArmSide], around: Around
    ) -> tuple[list[CheckResult], tuple[NotCarried, ...]]:
        """How long it lasts; or why that is not judged."""
        try:
            days = everyday_frames(saved, tube, grade, self.setting(saved, around))
        except InputError as error:
            days = NotCarried(case="everyday cycles", why=error.message)
        if saved.pivots == "rod ends" and saved.welding.leg_mm == 0:
            days = NotCarried(case="everyday cycles", why="its inserts are welded with no leg")
        if isinstance(days, NotCarried):
            return [], (days,)
        target = around.settings.life_cycles or BY_USE[around.use]
        return arm_life(saved, tube, grade, days, sides, around.settings, target), ()

    def told(self, part: Part) -> ArmOwn | None:
        """Its outer joint, what it gives per g, saw lengths."""
        made, arm = part.own, part.saved
        if not isinstance(made, ArmMade) or not isinstance(arm, Arm):
            return None
        found = made.result
        joint, gives = found.outer, found.gives
        return ArmOwn(
            outer=OuterOut(
                name=joint.name, force_n=joint.force, case=joint.case, out_n=joint.out, out_case=joint.out_case, into_n=joint.into,
                stud_points=None if joint.upward is None else "up" if joint.upward else "down",
            ),
            per_g=PerGOut(moved_mm=gives.moved.tolist(), camber_deg=gives.camber_deg, toe_deg=gives.toe_deg) if gives else None,
            saw_mm=made.saw, residual=found.residual,
        )  # fmt: skip

    def unfinished(self, saved: Arm, around: Around) -> str | None:
        """No tube was ever chosen."""
        return "Not sized yet: press Size it." if saved.tube is None and saved.lost(around.ends) is None else None

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Flat in its plane, each tube with how it is used."""
        arm, made = part.saved, part.own
        assert isinstance(arm, Arm)
        assert isinstance(made, ArmMade)
        if asked.name == "drawing":
            return arm_drawing(arm, made.tube, made.result, made.saw, made.checks, numbers)
        cut = next((one for one in made.cuts if wrap_name(one) == asked.name), None)
        return super().draw(part, asked, numbers) if cut is None else wrap_of(cut, part, numbers)

    def span(self, part: Part) -> float | None:
        """From the line of its pivots to its outer joint, as it is seen along that line."""
        return reach_of(part.own.result) if isinstance(part.own, ArmMade) else None

    def tall(self, part: Part) -> float:
        """Its tube, or the larger of its ends."""
        arm = part.saved
        assert isinstance(arm, Arm)
        made: ArmMade = part.own
        return max(made.tube.od_mm, 2 * arm.pivot_face_mm, 2 * arm.outer_face_mm)

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """On edge, seen along its pivots."""
        arm, (x, y), half = part.saved, at, part.own.tube.od_mm / 2 * scale
        assert isinstance(arm, Arm)
        long = reach_of(part.own.result) * scale
        sheet.box((x, y - half), (x + long, y + half), "steel", ref=ref)
        for place, radius in ((x, arm.pivot_face_mm), (x + long, arm.outer_face_mm)):
            sheet.circle((place, y), max(1.0, radius * scale), "visible", "sheet", ref=ref)

    def strip_told(self, part: Part) -> str:
        """Tube and grade, and how it is seen."""
        return f"{', '.join(labels(part))}; on edge, seen along its pivots"

    def ends(self, saved: Arm) -> tuple[str, ...]:
        """Its two pivots."""
        del saved
        return ("front", "rear")

    def end_lacks(self, saved: Arm, at: str) -> str:
        """The rod end, or the sizes of bush or bearing."""
        if saved.pivots == "rod ends":
            return super().end_lacks(saved, at)
        return f"Give the sizes of its {saved.pivots.split()[-1]} first, under What it is: a bracket is proportioned to the bolt."

    def held_at(self, saved: Arm, at: str) -> PivotOfArm:
        """A pivot of the arm."""
        return PivotOfArm(part=saved.id, pivot=at)

    def spot(self, saved: Arm, at: str, around: Around) -> Spot | None:
        """The pivot's point, on the body that the arm hangs on."""
        if saved.end_id not in around.ends:
            return None
        template = around.template(saved.end_id)
        places = places_of(template, saved.body)
        joint = next((one for one in template.joints if isinstance(one, HingeJoint) and one.body == saved.body), None)
        if places is None or joint is None:
            return None
        return Spot(saved.end_id, joint.on, places.pivots[("front", "rear").index(at)])

    def turns_about(self, saved: Arm, at: str, around: Around) -> TurnsAbout | None:
        """The line through its two pivots."""
        del at
        places = places_of(around.template(saved.end_id), saved.body) if saved.end_id in around.ends else None
        if places is None:
            return None
        a, b = (around.ends[saved.end_id].points[point] for point in places.pivots)
        return TurnsAbout((b[0] - a[0], b[1] - a[1], b[2] - a[2]), True, "the line through the arm’s pivots")

    def shank_toward(self, saved: Arm, at: str, around: Around) -> str | None:
        """The outer joint: a side of the arm runs straight to it."""
        if saved.pivots != "rod ends" or at not in ("front", "rear") or saved.end_id not in around.ends:
            return None
        places = places_of(around.template(saved.end_id), saved.body)
        return places.outer_point if places else None

    def end_name(self, at: str) -> str:
        """Which pivot."""
        return f"{at} pivot"

    def held_end(self, saved: Arm, at: str, around: Around) -> HeldEnd | None:
        """The rod end at a pivot and what the frame puts into it; the bush or bearing and what the hinge does."""
        if at not in ("front", "rear"):
            return None
        if saved.pivots != "rod ends":
            return self._held_bush(saved, at, around)
        row = around.catalogue.find("joints", saved.pivot_end.joint) if saved.pivot_end.joint else None
        part = around.part(saved.id)
        if not isinstance(row, Joint) or part is None or not isinstance(part.own, ArmMade):
            return None
        cases: tuple[CaseSeen, ...] = side_cases(part.own.result.frames, ("front", "rear").index(at))
        return HeldEnd(
            name=f"{saved.name}, {self.end_name(at)}",
            of_end=saved.of_end,
            row=row,
            cases=cases,
            not_carried=not_carried(saved.of_end, around),
        )

    def _held_bush(self, saved: Arm, at: str, around: Around) -> HeldEnd | None:
        if saved.pivot_eye is None or saved.end_id not in around.ends:
            return None
        cases: tuple[CaseSeen, ...] = ()
        if around.has_loads():
            with suppress(InputError):  # told by not_carried
                places = places_of(around.template(saved.end_id), saved.body)
                carried = around.carried(saved.end_id).cases
                cases = pivot_cases(saved, places, ("front", "rear").index(at), carried) if places else ()
        return HeldEnd(
            name=f"{saved.name}, {self.end_name(at)}", of_end=saved.of_end, row=saved.pivot_eye, cases=cases, not_carried=not_carried(saved.of_end, around),
        )  # fmt: skip

    def eye_row(self, saved: Arm, at: str, rows: Catalogue) -> Eye | None:
        """Its rod end's, bush's or bearing's sizes."""
        del at
        if saved.pivots != "rod ends":
            return saved.pivot_eye
        row = rows.find("joints", saved.pivot_end.joint) if saved.pivot_end.joint else None
        return row if isinstance(row, Joint) else None

    def offers(self, saved: Arm, around: Around, shelf: Catalogue) -> dict[str, list[str]]:
        """Tubes and grades, and what goes into the pivots' ends of its tube."""
        found = hardware_offers(saved, around.catalogue, shelf)
        ends = {f"pivot_end.{name}": found[f"{name}s"] for name in ("joint", "insert", "nut")}
        return tube_offers(saved, around, shelf) | ends

    def choose(self, saved: Arm, field: str, key: str | None, around: Around, shelf: Catalogue) -> Changed:
        """A row for its tubes or for the rod ends at its pivots; a grade that is not drawn as the tube goes."""
        self.fits(self.offers(saved, around, shelf), field, key)
        head, _, leaf = field.partition(".")
        if leaf:
            return Changed(parts=(saved.model_copy(update={head: saved.pivot_end.model_copy(update={leaf: key})}),))
        changed = saved.model_copy(update={field: key})
        return Changed(parts=(graded(changed, shelf) if field == "tube" else changed,))

    def size(self, saved: Arm, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The least tube and grade that hold it, and the rod ends at its pivots where it has them."""
        if saved.lost(around.ends):
            raise InputError(
                "The suspension end of this arm is not there any more.", code="missing", fields=("end_id",)
            )
        setting = self.setting(saved, around)
        prudent = prudent_for(around.settings, around.use, (), "locates")
        tubes: tuple[Tube, ...] = tuple(tube for tube in shelf.tubes if prudent.takes(tube, 0.0, None))
        told = f" {prudent.told()}" if prudent.told() else ""
        widest = widest_that_stands(saved)
        wider = tuple(tube for tube in tubes if tube.od_mm > widest)
        tubes = tuple(
            tube for tube in tubes if tube.od_mm <= widest
        )  # what stands on its sleeves and cup as they are comes first
        left_out, considered, useless = 0, 0, 0

        def usable(of: Sequence[Tube]) -> tuple[Tube, ...]:
            """A tube that no rod end goes into is not carried through any case."""
            if saved.pivots != "rod ends":
                return tuple(of)
            return tuple(
                tube for tube in of if any(
                    grade_comes_as(grade, tube) and fitting_ends(saved, tube, grade, shelf, around.settings) for grade in shelf.grades
                )
            )  # fmt: skip

        fit_now, fit_wider = usable(tubes), usable(wider)
        useless = len(tubes) + len(wider) - len(fit_now) - len(fit_wider)
        told += f" {useless} tubes have no rod end that fits them." if useless else ""
        tubes, wider = fit_now, fit_wider
        known: dict[str, bool] = {}

        def lasts(tube: Tube, grade: Grade) -> bool:
            """By the tube alone: its classes are of steel, whatever its strength."""
            if tube.key not in known:
                known[tube.key] = all(check.passed for check in self._life(saved, tube, grade, (), around)[0])
            return known[tube.key]

        while True:
            found = size_arm(
                saved, tubes, shelf.grades, grade_comes_as, setting, _price if aim == "cost" else None, lasts
            )
            considered = max(considered, found.considered)
            if (found.tube is None or found.grade is None) and wider:
                tubes, wider = wider, ()  # none of those holds: sleeves and cup are made wider for one that does
                continue
            if found.tube is None or found.grade is None:
                why = " (tubes that hold have no rod end that does)" if left_out else ""
                return _sized(found, None, found.advice + why + told)
            sized, stood = standing(
                saved.model_copy(update={"tube": found.tube.key, "grade": found.grade.key}), found.tube.od_mm
            )
            left_wider = (
                f" {len(wider)} tubes are wider than the sleeves or the cup that they would stand on, ⌀{widest:.1f} mm, and were left out."
                if wider
                else ""
            )
            now = f"{told}{left_wider} {stood}".rstrip()
            if saved.pivots != "rod ends":
                return _sized(found, sized, found.advice + now)
            assert found.result
            end_parts = size_ends(
                sized,
                found.result.frames,
                found.tube,
                found.grade,
                shelf,
                around.settings,
                self._lasts(sized, found.tube, found.grade, around),
            )
            if end_parts is not None:
                more = f" {left_out} lighter tubes were left out: no rod end that fits them holds." if left_out else ""
                return _sized(found, sized.model_copy(update={"pivot_end": end_parts}), found.advice + more + now)
            # no insert of the catalogue fits this tube, or none that does holds: the next tube
            key = found.tube.key
            tubes = tuple(t for t in tubes if t.key != key)
            left_out += 1

    def _lasts(
        self, saved: Arm, tube: Tube, grade: Grade, around: Around
    ) -> Callable[[RodEndEnd, Sequence[ArmSide]], bool]:
        """Whether it lasts with a rod end at its pivots; what nothing judges is no condition."""

        def lasts(end: RodEndEnd, sides: Sequence[ArmSide]) -> bool:
            made = saved.model_copy(update={"pivot_end": end})
            return all(check.passed for check in self._life(made, tube, grade, sides, around)[0])

        return lasts

    def may_be(self, template: Template, one: Moving) -> bool:
        """A body on a hinge with one outer joint; of a beam one that stands once: its pairs are welded arms of any layout."""
        once = template.axle != "beam" or side_of(template, one.name) == "centre"
        return one.sort == "body" and once and places_of(template, one.name) is not None

    def made_from(self, one: Moving, made: MadeFrom) -> Arm:
        """An arm of the end, not sized yet."""
        return Arm(
            id=made.part_id,
            name=f"{made.end_name} {one.words}"[:80],
            side=side_of(made.template, one.name),
            end_id=made.end_id,
            body=one.name,
        )

    def adjusters(self, part: Part, names: Sequence[str], around: Around) -> tuple[list[JobAdjuster], list[str]]:
        """Both sides of an arm on rod ends, each turned by half turns; the arm comes off its pivots for it."""
        arm, made = part.saved, part.own
        assert isinstance(arm, Arm)
        if arm.pivots != "rod ends":
            return [], [f"{arm.name}: does not adjust"]
        if not isinstance(made, ArmMade) or not made.sides:
            return [], [f"{arm.name}: not complete yet"]
        found = [
            job_adjuster(
                arm.id, side.link.name, side.assembly, side.stack, f"{side.pivot} – {made.result.places.outer_point}"
            )
            for side in made.sides
        ]
        own = [one for one in found if one is not None and one.adjuster.link in names]
        return own, [] if own else [f"{arm.name}: the mechanism holds its sides as they are"]


def _rings_not_told(arm: Arm) -> tuple[str, ...]:
    """Its sleeves and cups whose sizes are not given, and so not judged."""
    rings, found = rings_of(arm), []
    if arm.pivots != "rod ends" and "pivot_wall_mm" not in rings:
        found.append("the sleeves at its pivots: their wall, or the size of what goes in, is not given")
    if arm.outer != "rod end" and "outer_housing.wall_mm" not in rings:
        found.append("the cup at its outer joint: its sizes are not given")
    return tuple(found)


def _price(_tube: Tube, grade: Grade, mass: float) -> float | None:
    return None if grade.price is None else grade.price * mass


def _sized(found: ArmSized, arm: Arm | None, advice: str) -> Sized:
    if arm is None or found.tube is None or found.grade is None or found.result is None:
        return Sized(
            considered=found.considered,
            judged=found.considered,
            winner=None,
            runner_up=None,
            nearest=None,
            advice=advice,
        )
    winner = Choice(
        parts=(arm,), joints=(), tube=found.tube.label, grade=found.grade.label, joint=None, stock=(found.tube.key, found.grade.key),
        mass=found.result.mass_kg, worst=None, worst_told=f"{found.result.worst_what} {shown_utilisation(found.result.worst)}",
    )  # fmt: skip
    return Sized(
        considered=found.considered, judged=found.considered, winner=winner, runner_up=None, nearest=None, advice=advice,
        runner_up_told=found.runner_up,
    )  # fmt: skip


def _pieces(arm: Arm, tube: Tube, grade: Grade, made: ArmMade) -> tuple[Piece, ...]:
    """Tubes with their notches, the gusset as a triangle, what is at its joints, what is bought."""
    found: list[Piece] = [cut.piece(tube, grade) for cut in made.cuts]
    if arm.gusset and GUSSET in made.result.lengths:
        across, reach = made.result.lengths[GUSSET], arm.gusset.reach_mm
        high = sqrt(max(0.0, reach * reach - across * across / 4))
        half = tube.od_mm / 2
        ends = (np.array([across / 2, high]), np.array([0.0, 0.0]), np.array([across, 0.0]))
        found.append(gusset_piece("gusset", (grade.label, arm.gusset.thickness_mm), ends, (half, half)))
    if made.sides:
        for side in made.sides:
            end = side.assembly.threaded[0]
            found += [
                BoughtPiece(sort="joint", what=end.joint.label, hand=end.hand, key=end.joint.key),
                BoughtPiece(sort="insert", what=end.insert.label, hand=end.hand, key=end.insert.key),
                BoughtPiece(sort="nut", what=end.nut.label, hand=end.hand, key=end.nut.key),
                ToolPiece(sort="tap", what=f"{end.joint.designation}, to chase inserts after welding", hand=end.hand),
                ToolPiece(sort="die", what=f"{end.joint.designation}, to clean shanks", hand=end.hand),
            ]
    rings = rings_of(arm)
    if not made.sides:
        what = "bush sleeve" if arm.pivots == "bush sleeves" else "cup with a spherical bearing"
        found.append(
            _ring("pivot", what, rings.get("pivot_wall_mm"), grade, f"{what}, {2 * arm.pivot_face_mm:g} mm across", 2)
        )
    found.append(
        _ring(
            "outer",
            f"cup for the {arm.outer.removesuffix(' in a socket').removesuffix(' in a cup')}",
            rings.get("outer_housing.wall_mm"),
            grade,
            f"{arm.outer}, {arm.outer_face_mm:g} mm centre to the tube",
            1,
        )
    )
    return tuple(found)


def _ring(
    name: str, what: str, sizes: tuple[float, float, float] | None, grade: Grade, told: str, count: int
) -> TurnedPiece:
    """A sleeve or cup, turned where its sizes are given; else in words."""
    if sizes is None:
        return TurnedPiece(name=name, what=told, count=count, sort="joint")
    return turned_piece(name, what, turned_ring(*sizes, grade.label), count, sort="joint")


def _card(arm: Arm, tube: Tube, grade: Grade, made: ArmMade) -> Card:
    figures = [cut.figure(tube, grade) for cut in made.cuts]
    lines = [
        CardLine(text=f"{name}, joint centre to joint centre", mm=made.result.lengths[name]) for name in TUBES if name in made.result.lengths
    ]  # fmt: skip
    lines += [line for cut in made.cuts for line in cut.lines()]
    if arm.gusset:
        lines.append(CardLine(text=f"gusset {arm.gusset.thickness_mm:g} mm, along either tube", mm=arm.gusset.reach_mm))
    for side in made.sides:
        state = side.stack.ends[0]
        lines.append(
            CardLine(
                text=f"{side.pivot.replace('_', ' ')}: thread showing, never more than",
                mm=state.max_showing,
                strong=True,
            )
        )
    if arm.outer == "ball joint in a socket":
        lines.append(
            CardLine(text="Left and right differ: the ball joint’s stud points one way. Mark them.", strong=True)
        )
    return Card(figures=tuple(figures), lines=tuple(lines))


ARM = ArmKind()
