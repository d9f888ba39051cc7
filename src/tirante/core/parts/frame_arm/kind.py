"""Welded arms of any layout as a kind of part: trailing arms, radius arms, H-arms, wishbones that no hinge and one ball describe."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import ceil
from typing import Any, Literal

import numpy as np

from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction, weakest_first
from tirante.core.checks.shown import Out, shown_utilisation
from tirante.core.document.catalogue import Catalogue, Eye, Grade, Tube, grade_comes_as
from tirante.core.document.forms.table import FieldGroup, number, special
from tirante.core.document.parts.frame_arm import FrameArm
from tirante.core.document.shape import Shape, ShapeTube
from tirante.core.document.template import HingeJoint, SpinJoint, Template
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.jigs.features import NOT_YET, Features
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.on_body import BodyCase
from tirante.core.members import fatigue
from tirante.core.members.boxed_link import slender_limit
from tirante.core.members.insert_weld import legs_for
from tirante.core.members.tube import Section
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.body import UNHELD_LIFE, body_places, copies_differ, seen_of, side_of
from tirante.core.parts.everyday import BY_USE
from tirante.core.parts.feet import Foot, Spot, bracket_pieces, brackets_told, holders, made_foot
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.frame_arm.at_joints import (
    EYED,
    at_joints,
    joint_checks,
    joint_faults,
    not_told,
    row_of,
    sized_joints,
)
from tirante.core.parts.frame_arm.cut import cut_of, standing
from tirante.core.parts.frame_arm.flange import FLANGE_AT, flange_checks, flange_faults, look_at_flange, sized_flange
from tirante.core.parts.frame_arm.held import features_of
from tirante.core.parts.frame_arm.judged import (
    ArmCase,
    FrameResult,
    carried,
    frame_result,
    gusset_details,
    judged,
    mass_of,
)
from tirante.core.parts.frame_arm.layout import Layout, laid_out, usual_joints, usual_tubes
from tirante.core.parts.frame_arm.made import FrameMade, drawn_of, flat_of
from tirante.core.parts.frame_arm.pieces import caps_mass, card_of, notes_of, pieces_of
from tirante.core.parts.frame_arm.view import frame_sheet
from tirante.core.parts.held_body import BodyKind
from tirante.core.parts.kind import Aim, Changed, Choice, MadeFrom, Sized, ViewAsked
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import (
    Misfit,
    Part,
    View,
    labels,
)
from tirante.core.parts.plates import PLATES_MM
from tirante.core.parts.turned import turned_views
from tirante.core.parts.welded.cases import FrameCase, in_order, stem_of
from tirante.core.parts.welded.checks import column_check, result, weld_check
from tirante.core.parts.welded.housing import Metal
from tirante.core.parts.welded.judged import PLATE_MODULUS, TubeForces, material_of
from tirante.core.parts.welded.life import Weakest, details, not_known
from tirante.core.parts.welded.notes import welding_of
from tirante.core.parts.welded.sizing import Least, least_of, pairs_of
from tirante.core.parts.welded.stock import graded, tube_offers
from tirante.core.parts.welded.tube_ends import Cut
from tirante.core.parts.welded.wrap import wrap_name, wrap_of, wrap_views
from tirante.core.suspension.duty import Duty
from tirante.core.suspension.moving import Moving
from tirante.core.suspension.on_body import OnBody, places_on

NOT_CHECKED = (
    "sleeves and cups drawn oval", "impact", "weld quality (assumed sound)", "corrosion and wear", "what it bolts to",
)  # fmt: skip


YIELD_OF_PLATE = 0.75  # of the ultimate of structural plate: 355 of 470 MPa (EN 10025-2, from memory)
CURES = "Another tube across it{where}, a box of plate in place of a tube, or a larger tube in the catalogue"
# of an arm that is all boxes: stand-ins of which nothing is made
NO_TUBE = Tube(key="none", label="no tube", od_mm=10.0, wall_mm=1.0, series="both", source="trade")
NO_GRADE = Grade(
    key="none", label="no tube", family="steel", series="both", yield_mpa=235.0, uts_mpa=360.0, welded_yield_mpa=235.0, e_mpa=205_000.0, density_kg_m3=7850.0, source="trade"
)  # fmt: skip


class JointSeenOut(Out):
    """What a joint of the arm sees."""

    point: str
    words: str
    what: str
    made: str | None
    force_n: float
    case: str
    moment_nmm: float


class StandsOut(Out):
    """What stands on a tube, on a bracket where it is off the tube's line."""

    place: str
    words: str
    tube: str
    from_end_mm: float
    off_mm: float


class PlaceOut(Out):
    """A place that a tube may go to."""

    name: str
    words: str
    jointed: bool


class FrameArmOwn(Out):
    """What only such an arm has."""

    kind: Literal["frame_arm"] = "frame_arm"
    places: list[PlaceOut]
    joints: list[JointSeenOut]
    stands: list[StandsOut]
    saw_mm: dict[str, float]
    residual: float | None


class FrameArmKind(BodyKind[FrameArm]):
    """Welded arms of any layout."""

    key = "frame_arm"
    word = "welded arm"
    duty: Duty = "locates"
    saved = FrameArm
    own = FrameArmOwn
    searched = True
    fields = (
        FieldGroup(title="Tube", note="Size it chooses both; only what fits together is offered", fields=[
            special("tube", "Size", table="tubes"), special("grade", "Grade", table="grades"),
        ]),
        FieldGroup(title="Its tubes", note="from joint to joint; what stands beside them is taken by the nearest tube", fields=[
            special("tubes", "Tubes"), special("nodes", "Places where tubes meet that are no joint"),
            special("gussets", "Gussets"),
            number(FrameArm, "leg_mm", "Fillet leg of their welds", "mm", optional=True, empty="the wall’s"),
        ]),
        FieldGroup(title="At its joints", fields=[special("at_joints", "Joints")]),
    )  # fmt: skip

    def work_out(self, saved: FrameArm, around: Around) -> Part:
        """The frame under every case, its checks and pieces."""
        tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
        grade = around.catalogue.find("grades", saved.grade) if saved.grade else None
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "not_carried": not_carried(saved.of_end, around),
            "made_of": (tube.label if isinstance(tube, Tube) else None, grade.label if isinstance(grade, Grade) else None),
            "own_mirror": False,
        }  # fmt: skip
        if saved.tubes and not saved.tubed:
            tube, grade = NO_TUBE, NO_GRADE
            common["made_of"] = ("boxes of plate", saved.plate_name)
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        try:
            places = body_places(saved, saved.body, around)
            feet = self.feet(saved, around)
            held = holders(saved, feet, around)
            common["not_checked"] = (*not_told(saved), *brackets_told(feet, held), *NOT_CHECKED)
            faults = copies_differ(saved, saved.body, around)
            for i, joint in enumerate(saved.joints):
                eye = around.eye_at(Spot(saved.end_id, saved.body, joint.point))
                faults += (*joint_faults(joint, i, eye), *flange_faults(joint, i))
            layout = laid_out(saved, places)
            if isinstance(layout, list) or faults:
                more = tuple(layout) if isinstance(layout, list) else ()
                return Part(**common, faults=(*faults, *more), own=FrameMade(places=places))
            made = FrameMade(places=places, layout=layout)
            if not isinstance(tube, Tube) or not isinstance(grade, Grade):
                return Part(**common, faults=(Misfit(field="tube", message="Not sized yet: press Size it."),), own=made)
            seen = seen_of(saved, saved.body, around)
            found = frame_result(layout, seen.cases, tube, grade, around.settings.factors, saved.plate_yield_mpa)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("",))[0], message=error.message),))
        lasts, days = self._life(saved, layout, tube, grade, around)
        common["not_carried"] += (*seen.left_out, *days)
        own = self._at_joints(saved, seen.cases, grade, around)
        checks = weakest_first([*_checks(saved, layout, found, tube, grade, around), *own, *lasts])
        cuts = self._cuts(saved, layout, places, tube, around)
        saw = _saw(saved, layout) | {cut.run.name: cut.length for cut in cuts}
        made = replace(made, tube=tube, result=found, saw=saw, checks=checks, cuts=cuts)
        short = [name for name, mm in saw.items() if mm <= 0]
        if short:
            told = "Nothing is left of it between what is made at its ends. Take it out, or give its joints less."
            return Part(
                **common, faults=tuple(Misfit(field="joints", message=f"{name}: {told}") for name in short), own=made
            )
        pieces = (*pieces_of(saved, layout, places, tube, grade, cuts, saw), *bracket_pieces(feet, held))
        return Part(
            **common, pieces=pieces, checks=checks, mass=found.mass_kg + caps_mass(cuts, saved.plate_name),
            views=(View(name="drawing", title="flat in its plane and on edge"), *plate_views(pieces), *turned_views(pieces), *wrap_views(cuts, numbers_of(around.settings))),
            card=card_of(saved, layout, places, tube, grade, cuts, saw),
            procedure=grade.procedure, welding=tuple(welding_of(grade, inserts=False, check="every length from joint to joint", closed=[cut.run.name for cut in cuts if cut.closed])),
            notes=(*notes_of(saved, layout, places, tube, grade, found, held), *(f"not notched: {one}" for cut in cuts for one in cut.lacking)), own=made,
        )  # fmt: skip

    def _cuts(
        self, saved: FrameArm, layout: Layout, places: Sequence[OnBody], tube: Tube, around: Around
    ) -> tuple[Cut, ...]:
        """Its round tubes as they are cut."""
        assert saved.of_end
        studs = {name: ball.stud_axis for name, ball in around.ends[saved.of_end].balls.items()}
        return cut_of(saved, tube, layout, places, studs, around.settings.wrap_paper_mm)

    def _at_joints(self, saved: FrameArm, cases: Sequence[BodyCase], grade: Grade, around: Around) -> list[CheckResult]:
        """What is made at its joints, of the metal that its tubes are of beside their welds."""
        seen, metal = at_joints(cases), _metal(saved, grade)
        return [
            one
            for joint in saved.joints
            for one in (
                *joint_checks(joint, seen, metal, around.settings.factors),
                *flange_checks(joint, cases, saved.plate_yield_mpa, around.settings),
            )
        ]

    def depends(self, saved: FrameArm, around: Around) -> str:
        """The brackets that hold what stands on it, and what is held at its tabs."""
        try:
            held = sorted(holders(saved, self.feet(saved, around), around).items())
        except InputError:
            held = []
        return f"{held} {[(point, eye.hash) for point, eye in self._eyes(saved, around).items()]}"

    def _eyes(self, saved: FrameArm, around: Around) -> dict[str, Eye]:
        """What is held at its joints, where the job has it."""
        every = {j.point: around.eye_at(Spot(saved.end_id, saved.body, j.point)) for j in saved.joints}
        return {point: eye for point, eye in every.items() if eye is not None}

    def features(self, saved: FrameArm, around: Around) -> Features | str:
        """Its joints, its tubes and boxes, its gussets."""
        part = around.part(saved.id)
        if part is None or not part.complete or not isinstance(part.own, FrameMade) or part.own.layout is None:
            return NOT_YET
        studs = {name: ball.stud_axis for name, ball in around.ends[saved.end_id].balls.items()}
        return features_of(saved, part.own.layout, part.own.places, studs, part.own.cuts)

    def feet(self, saved: FrameArm, around: Around) -> tuple[Foot, ...]:
        """What stands on it beside its joints, on the tube that takes it."""
        if saved.of_end not in around.ends:
            return ()
        try:
            places = body_places(saved, saved.body, around)
        except InputError:
            return ()
        layout = laid_out(saved, places)
        if isinstance(layout, list):
            return ()
        tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
        at = {place.point: place for place in places}
        where = {name: np.array(place.at) for name, place in at.items()} | {
            n.name: np.array(n.at, float) for n in saved.nodes
        }
        out = []
        for one in layout.stands:
            a, b = layout.tubes[one.tube]
            place, box = at[one.place], layout.boxes.get(one.tube)
            foot = made_foot(
                one.place, one.words, place.what, place.sort, where[one.place], one.tube, one.share, (where[a], where[b]), one.off
            )  # fmt: skip
            if box is not None:
                foot = replace(foot, box=True, box_mm=(box.height, box.width), wall=box.wall)
            elif isinstance(tube, Tube):
                foot = replace(foot, od=tube.od_mm, wall=tube.wall_mm)
            out.append(foot)
        return tuple(out)

    def _life(
        self, saved: FrameArm, layout: Layout, tube: Tube, grade: Grade, around: Around
    ) -> tuple[list[CheckResult], tuple[NotCarried, ...]]:
        """How long it lasts; or why that is not judged."""
        lacking = not_known(grade.family)
        if lacking:
            return [], (lacking,)
        days = seen_of(saved, saved.body, around, everyday=True)
        if days.not_known or days.left_out:
            return [], (days.not_known or UNHELD_LIFE,)
        try:
            every = in_order([carried(layout, days.cases, [material_of(tube, grade)])])
        except InputError as error:
            return [], (NotCarried(case="everyday cycles", why=error.message),)
        copies: dict[str, list[ArmCase]] = {}
        for case, frame in zip(days.cases, every, strict=True):
            copies.setdefault(case.copy, []).append(frame)
        section = Section(od=tube.od_mm, wall=tube.wall_mm)
        target = around.settings.life_cycles or BY_USE[around.use]
        weakest = Weakest(fatigue.BY_FAMILY[grade.family], around.settings, target)
        for joint in saved.joints:
            look_at_flange(joint, days.cases, weakest)
        for own in copies.values():
            for part, detail in details(section, _leg(saved, tube), weakest.metal, own, boxes=layout.boxes):
                weakest.look(part, detail)
            for part, detail in gusset_details(layout, _leg(saved, tube), weakest.metal, own):
                weakest.look(part, detail)
        return weakest.results(), ()

    def told(self, part: Part) -> FrameArmOwn | None:
        """Its joints, what stands on it, saw lengths."""
        made, arm = part.own, part.saved
        if not isinstance(made, FrameMade) or not isinstance(arm, FrameArm):
            return None
        built = {joint.point: joint.made for joint in arm.joints}
        seen = {joint.point: joint for joint in made.result.joints} if made.result else {}
        joints = [
            JointSeenOut(
                point=place.point, words=place.words, what=place.what, made=built.get(place.point), force_n=seen[place.point].force if place.point in seen else 0.0,
                case=seen[place.point].case if place.point in seen else "", moment_nmm=seen[place.point].moment if place.point in seen else 0.0,
            )
            for place in made.places if place.jointed or place.point in seen
        ]  # fmt: skip
        layout = made.layout
        stands = [
            StandsOut(place=one.place, words=one.words, tube=one.tube, from_end_mm=one.share * layout.lengths[one.tube], off_mm=one.off)
            for one in layout.stands
        ] if layout else []  # fmt: skip
        places = [PlaceOut(name=place.point, words=place.words, jointed=place.jointed) for place in made.places]
        places += [PlaceOut(name=node.name, words=node.name.replace("_", " "), jointed=False) for node in arm.nodes]
        return FrameArmOwn(
            places=places, joints=joints, stands=stands, saw_mm=made.saw or {}, residual=made.result.residual if made.result else None
        )  # fmt: skip

    def ends(self, saved: FrameArm) -> tuple[str, ...]:
        """Its sleeves and cups: what goes into them is held by plates on what it turns on."""
        return tuple(joint.point for joint in saved.joints if joint.made in EYED)

    def end_name(self, at: str) -> str:
        """The joint in words."""
        return at.replace("_", " ")

    def end_lacks(self, saved: FrameArm, at: str) -> str:
        """The sizes of what goes in."""
        del saved, at
        return "Give the sizes of its bolt and of what goes in first, under At its joints: a bracket is proportioned to the bolt."

    def holds(self, saved: FrameArm) -> tuple[str, ...]:
        """Its own pairs of tabs."""
        return tuple(joint.point for joint in saved.joints if joint.made == "pair of tabs")

    def body_of(self, saved: FrameArm) -> str:
        """The arm's."""
        return saved.body

    def goes_in(self, saved: FrameArm, at: str) -> Eye | None:
        """Bush or bearing of a sleeve or cup."""
        return next((row_of(joint) for joint in saved.joints if joint.point == at), None)

    def unfinished(self, saved: FrameArm, around: Around) -> str | None:
        """No tube was ever chosen."""
        return "Not sized yet: press Size it." if saved.tube is None and saved.lost(around.ends) is None else None

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Flat in its plane and on edge, each tube with how it is used."""
        made, arm = part.own, part.saved
        assert isinstance(arm, FrameArm)
        cut = (
            next((one for one in made.cuts if wrap_name(one) == asked.name), None)
            if isinstance(made, FrameMade)
            else None
        )
        if cut is not None:
            return wrap_of(cut, part, numbers)
        if asked.name != "drawing" or not isinstance(made, FrameMade) or made.layout is None or made.tube is None:
            return super().draw(part, asked, numbers)
        return frame_sheet(drawn_of(arm, made, made.layout, made.tube), numbers)

    def span(self, part: Part) -> float | None:
        """Its longest way between two of its joints."""
        made = part.own
        if not isinstance(made, FrameMade) or made.layout is None:
            return None
        nodes = made.layout.nodes
        return float(np.linalg.norm(nodes[:, None] - nodes[None], axis=2).max())

    def tall(self, part: Part) -> float:
        """How high it is drawn in the row of members."""
        made = part.own
        assert isinstance(made, FrameMade)
        flat = flat_of(made)
        return float(np.ptp(flat[:, 1])) + (made.tube.od_mm if made.tube else 20.0)

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """Along its longest way, square to its plane."""
        made = part.own
        assert isinstance(made, FrameMade)
        assert made.layout
        assert made.tube
        flat, half = flat_of(made), made.tube.od_mm / 2 * scale
        shift = (flat[:, 1].max() + flat[:, 1].min()) / 2
        points = [(at[0] + scale * x, at[1] + scale * (y - shift)) for x, y in flat]
        for a, b in made.layout.ends:
            (x1, y1), (x2, y2) = points[a], points[b]
            size = max(float(np.hypot(x2 - x1, y2 - y1)), 1e-9)
            nx, ny = -(y2 - y1) / size * half, (x2 - x1) / size * half
            sheet.area(
                ((x1 + nx, y1 + ny), (x2 + nx, y2 + ny), (x2 - nx, y2 - ny), (x1 - nx, y1 - ny)), "steel", ref=ref
            )
        built = {joint.point: joint.face_mm for joint in part.saved.joints}  # type: ignore[attr-defined]
        for name, point in zip(made.layout.names, points, strict=False):
            if name in built:
                sheet.circle(point, max(1.0, built[name] * scale), "visible", "sheet", ref=ref)

    def strip_told(self, part: Part) -> str:
        """Tube and grade, and how it is seen."""
        return f"{', '.join(labels(part))}; square to its plane"

    def shape(self, saved: FrameArm, around: Around) -> Shape | None:
        """Its tubes; boxes as wide as they are high."""
        tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
        od = tube.od_mm if isinstance(tube, Tube) else None
        nodes = {node.name: node.at for node in saved.nodes}
        tubes = []
        for one in saved.tubes:
            wide = max(one.box.height_mm, one.box.width_mm) if one.box else od
            if wide is None:
                return None
            tubes.append(ShapeTube(a=nodes.get(one.a, one.a), b=nodes.get(one.b, one.b), od_mm=wide))
        if not tubes:
            return None
        sleeves = [2 * joint.face_mm for joint in saved.joints if joint.made == "bush sleeve"]
        return Shape(od_mm=max(one.od_mm for one in tubes), tubes=tuple(tubes), sleeve_mm=max(sleeves, default=0.0))

    def offers(self, saved: FrameArm, around: Around, shelf: Catalogue) -> dict[str, list[str]]:
        """Tubes, and grades that are drawn as its tube."""
        return tube_offers(saved, around, shelf)

    def choose(self, saved: FrameArm, field: str, key: str | None, around: Around, shelf: Catalogue) -> Changed:
        """A row for its tubes; a grade that is not drawn as the tube goes."""
        self.fits(self.offers(saved, around, shelf), field, key)
        changed = saved.model_copy(update={field: key})
        return Changed(parts=(graded(changed, shelf) if field == "tube" else changed,))

    def size(self, saved: FrameArm, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The least tube and grade that hold it and last."""
        lost = saved.lost(around.ends)
        if lost:
            raise InputError(
                "The suspension end of this arm is not there any more.", code="missing", fields=("end_id",)
            )
        seen = seen_of(saved, saved.body, around)
        layout = laid_out(saved, seen.places)
        if isinstance(layout, list):
            raise InputError(layout[0].message, code="not_complete", fields=(layout[0].field,))
        prudent = prudent_for(around.settings, around.use, (), "locates")
        least = prudent.wall.value if prudent.wall else 0.0
        # the thinnest plate of its boxes first, for each the least tube
        walls = [mm for mm in PLATES_MM if mm >= least] if layout.boxes else [0.0]
        found: Least | None = None
        for wall in walls:
            one = _walled(saved, wall) if wall else saved
            of = laid_out(one, seen.places)
            if isinstance(of, list):
                continue
            if layout.boxes and not self._stout(one, of, seen.cases, around, shelf):
                continue  # its boxes do not hold or last whatever the tube
            found = self._least(one, of, seen.cases, around, shelf, aim)
            if found.of:
                saved, layout = one, of
                break
        told = f" Plates of {', '.join(f'{mm:g}' for mm in walls)} mm were tried for its boxes." if layout.boxes else ""
        if found is None:
            one = _walled(saved, walls[-1])
            found = self._least(one, layout, seen.cases, around, shelf, aim)
        advice = f"{found.advice} {prudent.told()}".strip() + told
        if found.of is None:
            return Sized(
                considered=len(walls), judged=len(walls), winner=None, runner_up=None, nearest=None, advice=advice
            )
        tube, grade = found.of
        result_ = frame_result(layout, seen.cases, tube, grade, around.settings.factors, saved.plate_yield_mpa)
        tubed = saved.tubed
        sized = saved.model_copy(update={"tube": tube.key, "grade": grade.key}) if tubed else saved
        fitted = sized_joints(
            sized, at_joints(seen.cases), _metal(saved, grade), around.settings.factors, self._eyes(saved, around)
        )
        days = seen_of(saved, saved.body, around, everyday=True)
        everyday = () if days.not_known or days.left_out else days.cases
        target = around.settings.life_cycles or BY_USE[around.use]
        fitted = tuple(
            sized_flange(joint, seen.cases, everyday, saved.plate_yield_mpa, around.settings, target)
            for joint in fitted
        )
        stood = tuple(standing(joint, tube.od_mm) for joint in fitted) if tubed else fitted
        wider = [
            one.point.replace("_", " ") for one, was in zip(stood, fitted, strict=True) if one.face_mm > was.face_mm
        ]
        if wider:
            advice += (
                f" Made ⌀{2 * ceil(tube.od_mm / 2)} mm, so that the tubes stand on them: what is at {', '.join(wider)}."
            )
        sized = sized.model_copy(update={"joints": stood})
        box = next(iter(layout.boxes.values()), None)
        boxes = f"boxes of {box.wall:g} mm plate" if box else ""
        label = (f"{tube.label}, {boxes}" if box else tube.label) if tubed else boxes
        winner = Choice(
            parts=(sized,), joints=(), tube=label, grade=grade.label if tubed else saved.plate_name, joint=None,
            stock=(tube.key, grade.key) if tubed else (boxes, saved.plate_name), mass=result_.mass_kg, worst=None,
            worst_told=f"{result_.worst.name} {shown_utilisation(result_.worst.use)}",
        )  # fmt: skip
        return Sized(
            considered=len(shelf.tubes), judged=len(shelf.tubes), winner=winner, runner_up=None, nearest=None, advice=advice, runner_up_told=found.runner_up
        )  # fmt: skip

    def _stout(
        self, saved: FrameArm, layout: Layout, cases: Sequence[BodyCase], around: Around, shelf: Catalogue
    ) -> bool:
        """Whether its boxes hold and last with the heaviest tube there is between them."""
        pairs = (
            pairs_of(shelf.tubes, shelf.grades, grade_comes_as, saved.grade) if saved.tubed else [(NO_TUBE, NO_GRADE)]
        )
        tube, grade = max(pairs, key=lambda pair: (mass_of(layout, *pair), pair[0].key, pair[1].key))
        found = frame_result(layout, cases, tube, grade, around.settings.factors, saved.plate_yield_mpa)
        limit = slender_limit(saved.plate_yield_mpa, PLATE_MODULUS)
        pressed = {stem_of(one.name) for one in found.columns}
        held = all(one.use <= 1.0 for one in found.tubes if stem_of(one.name) in layout.boxes)
        held = held and all(box.slenderness <= limit for name, box in layout.boxes.items() if name in pressed)
        return held and all(
            check.passed for check in self._life(saved, layout, tube, grade, around)[0] if check.part in layout.boxes
        )

    def _least(
        self, saved: FrameArm, layout: Layout, cases: Sequence[BodyCase], around: Around, shelf: Catalogue, aim: Aim
    ) -> Least:  # fmt: skip
        """The least tube and grade with its boxes as they are."""
        factors, plate = around.settings.factors, saved.plate_yield_mpa
        prudent = prudent_for(around.settings, around.use, (), "locates")
        tubes = [tube for tube in shelf.tubes if prudent.takes(tube, 0.0, None)]
        pairs = pairs_of(tubes, shelf.grades, grade_comes_as, saved.grade) if saved.tubed else [(NO_TUBE, NO_GRADE)]
        known: dict[str, bool] = {}

        def lasts(tube: Tube, grade: Grade) -> bool:
            """By the tube alone: its classes are of its metal, whatever its strength."""
            if tube.key not in known:
                lives = self._life(saved, layout, tube, grade, around)[0]  # its hub flange is sized after it
                known[tube.key] = all(check.passed or check.part.startswith(FLANGE_AT) for check in lives)
            return known[tube.key]

        def nearest(tube: Tube, grade: Grade) -> str:
            near = frame_result(layout, cases, tube, grade, factors, plate).worst
            return f"{near.name} {near.use:.2f} in “{near.case}”. {CURES.format(where=', another place for what stands on it')}"

        return least_of(
            pairs, lambda: [mass_of(layout, t, g) for t, g in pairs], lambda few: judged(layout, cases, few, factors, plate), nearest,
            CURES.format(where=""), _price if aim == "cost" and saved.tubed else None, lasts,
        )  # fmt: skip

    def may_be(self, template: Template, one: Moving) -> bool:
        """A body between joints that neither turns about a line of the car like a rocker nor is an anti-roll bar's half."""
        if one.sort != "body" or any(bar.arm == one.name for bar in template.bars):
            return False
        own = [joint for joint in template.joints if one.name in joint.bodies_tied]
        if any(isinstance(joint, SpinJoint) and joint.body == one.name for joint in own):
            return False
        return sum(2 if isinstance(joint, HingeJoint) else 1 for joint in own) >= 2

    def made_from(self, one: Moving, made: MadeFrom) -> FrameArm | None:
        """An arm between the joints of its body, with the usual tubes, not sized yet."""
        places = places_on(made.template, made.end, one.name)
        tubes = usual_tubes(places)
        if not tubes:
            return None
        return FrameArm(
            id=made.part_id, name=f"{made.end_name} {one.words}"[:80], side=side_of(made.template, one.name), end_id=made.end_id, body=one.name,
            tubes=tubes, joints=usual_joints(places),
        )  # fmt: skip


def _price(_tube: Tube, grade: Grade, mass: float) -> float | None:
    return None if grade.price is None else grade.price * mass


def _metal(saved: FrameArm, grade: Grade) -> Metal:
    """Of sleeves, cups and tabs: as the tubes beside their welds; of an arm that is all boxes, as its plate."""
    if not saved.tubed:
        return Metal(yield_mpa=saved.plate_yield_mpa, uts_mpa=saved.plate_yield_mpa / YIELD_OF_PLATE)
    return Metal(yield_mpa=grade.welded_yield_mpa, uts_mpa=grade.uts_at_weld)


def _walled(saved: FrameArm, wall: float) -> FrameArm:
    """With all its boxes of that plate, those that are wide enough for it."""
    tubes = tuple(
        tube.model_copy(update={"box": tube.box.model_copy(update={"wall_mm": wall})})
        if tube.box and 2 * wall < min(tube.box.height_mm, tube.box.width_mm)
        else tube
        for tube in saved.tubes
    )
    return saved.model_copy(update={"tubes": tubes})


def _leg(saved: FrameArm, tube: Tube) -> float:
    """Of its welds; boxes take no more than their own walls."""
    if not saved.tubed:
        return saved.leg_mm if saved.leg_mm is not None else min(tube.box.wall_mm for tube in saved.tubes if tube.box)
    return legs_for(tube.wall_mm).usual if saved.leg_mm is None else min(saved.leg_mm, tube.wall_mm)


def _saw(saved: FrameArm, layout: Layout) -> dict[str, float]:
    """What each box of plate is cut to before its ends are fitted [mm]: between centres less what is made at its ends."""
    faces = {joint.point: joint.face_mm for joint in saved.joints}
    return {
        name: layout.lengths[name] - sum(faces.get(end, 0.0) for end in ends) for name, ends in layout.tubes.items()
    }


def _checks(
    saved: FrameArm, layout: Layout, found: FrameResult, tube: Tube, grade: Grade, around: Around
) -> list[CheckResult]:  # fmt: skip
    factors = around.settings.factors
    frames = {one.case: one for one in found.frames}

    def again(frame: FrameCase, stretch: int, output: str) -> Reproduction:
        round_tube = {
            "od_mm": tube.od_mm, "wall_mm": tube.wall_mm, "yield_mpa": grade.yield_mpa, "welded_yield_mpa": grade.welded_yield_mpa, "e_mpa": grade.e_mpa,
        }  # fmt: skip
        names = [f"{i + 1} {name}"[:40] for i, name in enumerate(layout.names)]
        boxed = {
            name: {"box_mm": [box.height, box.width, box.wall], "yield_mpa": saved.plate_yield_mpa, "e_mpa": PLATE_MODULUS} for name, box in layout.boxes.items()
        }  # fmt: skip
        metal = {key: round_tube[key] for key in ("yield_mpa", "welded_yield_mpa", "e_mpa")}
        flats = [
            {"a": names[plate.ends[0]], "b": names[plate.ends[1]], "flat_mm": [plate.width, plate.thickness], **metal} for plate in layout.plates
        ]  # fmt: skip
        data = {
            "nodes": {name: at.tolist() for name, at in zip(names, layout.nodes, strict=True)},
            "tubes": [
                {"a": names[a], "b": names[b], "up": up.tolist(), **boxed.get(stem_of(name), round_tube), "column_mm": layout.lengths[stem_of(name)]}
                for (a, b), name, up in zip(layout.ends, layout.stretches, layout.ups, strict=True)
            ] + flats,
            "clamped": names[:1],
            "loads": [
                {"at": name, "f_n": load[:3].tolist(), "m_nmm": load[3:].tolist()}
                for name, load in zip(names, frame.loads, strict=True) if load.any()
            ],
            "yield_factor": factors.yielding, "column_factor": factors.column,
        }  # fmt: skip
        return Reproduction(topic="arm", input=data, output=f"tubes.{stretch}.{output}", figure="utilisation")

    def strength(one: TubeForces) -> float:
        return saved.plate_yield_mpa if stem_of(one.name) in layout.boxes else grade.welded_yield_mpa

    out = [weld_check(one, frames[one.case], strength(one), factors, again) for one in found.welds]
    out += [column_check(one, frames[one.case], factors, again) for one in found.columns]
    pressed = {stem_of(one.name): one for one in found.columns}
    for name, box in layout.boxes.items():
        if name in pressed:
            kind = asked(
                "box_wall", name, factors, of=name, name=f"{name[0].upper()}{name[1:]}, its plates when pressed"
            )
            limit = slender_limit(saved.plate_yield_mpa, PLATE_MODULUS)
            out.append(result(kind, box.slenderness, limit, pressed[name].case, None))
    for i, plate in enumerate(layout.plates):
        kind = asked("gusset", plate.name, factors, of=plate.name, name=f"{plate.name[0].upper()}{plate.name[1:]}")
        worst = max(found.frames, key=lambda one: abs(float(one.plates[0, i])))
        stress = abs(float(worst.plates[0, i])) * kind.factor / (plate.width * plate.thickness)
        reproduced = again(worst, len(layout.stretches) + i, "utilisation")
        out.append(result(kind, stress, grade.welded_yield_mpa, worst.case, reproduced))
    seen = {joint.point: joint for joint in found.joints}
    for joint in saved.joints:
        if joint.rating_n and joint.point in seen:
            words = joint.point.replace("_", " ")
            kind = asked("pivot_joint", words, factors, of=words, name=f"{words[0].upper()}{words[1:]}, its rating")
            own = seen[joint.point]
            out.append(result(kind, own.force * kind.factor, joint.rating_n, own.case, None))
    where = {one.case: one.where for one in found.frames}
    return [replace(one, at=one.at or where.get(one.case or "", "")) for one in out]


FRAME_ARM = FrameArmKind()
