"""The bolted bracket: two angles folded alike, their feet bolted to a flat with shims behind them, their ears holding a joint in double shear."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import ceil, cos, floor, radians, sin
from typing import Any, Literal

import numpy as np

from tirante.core.brackets import bolted_foot
from tirante.core.brackets.bolt import bolt_class, order_length, tightening
from tirante.core.brackets.tools import Hexagon, WayOut, drawn_out, hexagon_on
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, weaker_of_each, weakest_first, worst_of
from tirante.core.checks.shown import Out
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, choice, number, switch
from tirante.core.document.mounts import BoxMember
from tirante.core.document.parts.angle_bracket import AngleBracket
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import Contour, Edge, Hole, Straight, rounded
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.thread import COARSE, parse_thread
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.angle_view import angle_flat, angle_sheet, shim_flat
from tirante.core.parts.bracket.families.eared import (
    EaredKind,
    ears,
    folding_fields,
    set_angle,
    where_fields,
)
from tirante.core.parts.bracket.families.extra import EXTRA_FIELDS, extra_lines
from tirante.core.parts.bracket.families.footing import Footing
from tirante.core.parts.bracket.families.lightened import LIGHTEN_FIELDS, lighter_lines, more_told
from tirante.core.parts.bracket.families.searched import ears_become
from tirante.core.parts.bracket.families.tab_checks import foot_check, lug_checks, pin_checks, slant_told, slants
from tirante.core.parts.bracket.families.tab_fields import BOLT_FIELDS, hole_lines_cut, metal_fields, shape_faults
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import proportioned
from tirante.core.parts.bracket.families.tab_told import place_views
from tirante.core.parts.joint import JointMade, hardware_of, plain_bolt
from tirante.core.parts.kind import ViewAsked
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
from tirante.core.parts.stands import CUT_TRUE, Stand, fitted_on, set_out
from tirante.core.parts.turned import turned_piece, turned_sheet, turned_views
from tirante.core.sheet.angle import APART, FROM_EDGE, FoldedAngle, folded_angle
from tirante.core.units import STEEL_DENSITY

ANGLES = 2  # to either side of a joint
FEET_BOLTS = 2  # of each
HOLE_OVER = (
    1.0  # mm over a foot's bolt: ISO 273, medium for 8 and 10 mm, between fine and medium for 12 and 16, from memory
)
LEAST_RADIUS = 1.0  # of the plate’s thickness, inside, across the grain; common practice, no source
SLEEVE_OVER, SLEEVE_BORE = (
    8.0,
    0.5,
)  # mm over the bolt, outside and inside, of a usual crush sleeve; common practice, no source
SLEEVE_YIELD, SLEEVE_STEEL = 235.0, "S235"  # MPa, of the plainest tube
FOOT_BOLTS = (8.0, 10.0, 12.0, 16.0)  # mm, that are tried for the feet
TOES = (FROM_EDGE, 2.0)  # of a hole, from the bolts to the foot’s end, that are tried: a longer one pries less
STEP = 1.0  # °, of the looks at the pull's angle
NOT_CHECKED = (
    "cracks at the bends: bent across the grain, at no less than the plate’s least radius",
    "what it is bolted to: its wall under the bolts, and whether it may be drilled",
    "room for the foot’s bolts and their spanner",
)
PAST_GRIP = 2.0  # diameters of a foot's bolt past what it clamps: nut, washers, threads; common practice, no source
SHIM = "shim"
FEET = "the feet"


class AngleOwn(Out):
    """What only a bolted bracket has [mm, °]."""

    kind: Literal["angle_bracket"] = "angle_bracket"
    gap_mm: float
    flat_mm: float
    allowance_mm: float
    k_factor: float
    set_deg: float | None
    shim_mm: float
    holds: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class AngleMade:
    """A bolted bracket with its flat and what it holds."""

    flat: FoldedAngle
    joints: tuple[JointMade, ...]
    stands: tuple[Stand | None, ...]
    set_deg: float | None  # to which its bend is bent under load; None: it springs back flat


def flat_of(saved: AngleBracket) -> FoldedAngle:
    """Its flat pattern.

    Args:
        saved: as it is.

    Raises:
        InputError, NotApplicable: with its own fields.
    """
    bolts = (bore_of(saved), saved.gauge_mm, saved.toe_mm, saved.apart_mm)
    found = folded_angle(
        saved.plate.mm, saved.radius_mm, saved.base_width.mm, saved.height.mm - saved.shim_mm, saved.head_radius.mm, saved.edge.mm, saved.hole.mm, bolts,
        saved.k_factor, saved.die_mm, saved.corner_mm,
    )  # fmt: skip
    one_sided = {(one.below_mm, one.beside_mm, one.diameter_mm) for one in saved.extra}
    lone = next((i for i, (y, x, d) in enumerate((one.below_mm, one.beside_mm, one.diameter_mm) for one in saved.extra) if x and (y, -x, d) not in one_sided), None)  # fmt: skip
    if lone is not None:
        raise InputError("Both angles are one and the same piece, the one turned half round from the other: a hole beside its axis alone would not be in line. Put it on the axis, or another as far on the other side.", code="contradictory", fields=(f"extra.{lone}.beside_mm",))  # fmt: skip
    more = ANGLE_BRACKET.more_holes(saved, 0.0, found.hole_at)
    return replace(found, contour=replace(found.contour, holes=(*found.contour.holes, *more)))


def bore_of(saved: AngleBracket) -> float:
    """Of the foot's bolt holes [mm]."""
    return saved.bolt_mm + HOLE_OVER


def feet_of(saved: AngleBracket, gap: float) -> bolted_foot.BoltedFeet:
    """Its two feet with their bolts.

    Args:
        saved: as it is.
        gap: between its ears [mm].
    """
    t = saved.plate.mm
    return bolted_foot.BoltedFeet(
        bolt=saved.bolt_mm, hole=bore_of(saved), apart=saved.apart_mm, lever=saved.gauge_mm + t / 2, toe=saved.toe_mm, between=(gap + t) / 2,
        width=saved.base_width.mm, thickness=t, height=saved.height.mm,
    )  # fmt: skip


def foot_reach(saved: AngleBracket) -> float:
    """From an ear's outer face to the foot's end [mm]."""
    return saved.gauge_mm + saved.toe_mm


def angle_checks(saved: AngleBracket, made: JointMade, settings: Settings) -> list[CheckResult]:
    """All checks of both angles at a joint; none while no bolt is chosen.

    Args:
        saved: as it is.
        made: the joint.
        settings: factors.
    """
    if made.bolt is None:
        return []
    pair, t = ears(saved), saved.plate.mm
    return [
        *pin_checks(pair, made, made.bolt, settings),
        *lug_checks(pair, made.bolt.diameter_mm, made.held, settings),
        *ANGLE_BRACKET.holed_checks(saved, made, settings),
        foot_check(pair, made, settings, outside=False, lower=saved.shim_mm + t),
        *_bolted_checks(saved, pair, made, settings),
        *_sleeve_checks(saved, settings),
    ]


def _bolted_checks(saved: AngleBracket, pair: TabPair, made: JointMade, settings: Settings) -> list[CheckResult]:
    """Bolts, foot and bearing, at the worst angle that the pull may have."""
    feet, material = feet_of(saved, made.gap), bolt_class(saved.bolt_class, saved.bolt_mm)
    low, high = slants(pair, made.held)
    angles = np.linspace(low, high, max(2, ceil((high - low) / STEP) + 1))
    data = {
        "bolt_mm": feet.bolt, "class": saved.bolt_class, "hole_mm": feet.hole, "apart_mm": feet.apart, "lever_mm": feet.lever, "toe_mm": feet.toe,
        "between_mm": feet.between, "width_mm": feet.width, "thickness_mm": feet.thickness, "height_mm": feet.height, "yield_mpa": saved.yield_mpa,
    }  # fmt: skip
    told = slant_told(pair, made.held)

    def acting(case: CaseSeen, angle: float, factor: float) -> bolted_foot.OnFeet:
        pull, turn = abs(case.axial_n) * factor, radians(angle)
        return bolted_foot.OnFeet(
            off=abs(pull * cos(turn)), over=abs(pull * sin(turn)), side=abs(case.across_n) * factor
        )

    def worst(key: str, use: Callable[[bolted_foot.OnFeet], float], capacity: float, output: str) -> CheckResult:
        kind = asked(key, FEET, settings.factors)

        def attempt(case: CaseSeen) -> Try | None:
            if case.axial_n == 0 and case.across_n == 0:
                return None
            on = max((acting(case, float(angle), kind.factor) for angle in angles), key=use)
            own = {**data, "off_n": on.off, "over_n": on.over, "side_n": on.side}
            return Try(demand=use(on), capacity=capacity, topic="bolted-foot", input=own, output=output, figure="demand", note=told)  # fmt: skip

        return worst_of(kind, made.held.cases, attempt)

    return [
        worst("foot_bolts", lambda on: bolted_foot.bolt_use(feet, material, on), 1.0, "bolt_use"),
        worst("foot_bent", lambda on: bolted_foot.foot_stress(feet, on), saved.yield_mpa, "foot_stress_mpa"),
        worst("foot_bearing", lambda on: bolted_foot.bearing_use(feet, saved.yield_mpa, on), 1.0, "bearing_use"),
    ]


def _sleeve_checks(saved: AngleBracket, settings: Settings) -> list[CheckResult]:
    """The crush sleeves under their bolts' clamp."""
    sleeve = sleeve_of(saved)
    if sleeve is None:
        return []
    kind = asked("sleeve_crushed", "sleeve", settings.factors)
    clamp = foot_clamp(saved)
    stress = bolted_foot.sleeve_stress(clamp, sleeve.outside, sleeve.bore)
    data = {"clamp_n": clamp, "outside_mm": sleeve.outside, "bore_mm": sleeve.bore}
    one = CaseSeen(name="as it is torqued", axial_n=clamp)
    return [worst_of(kind, (one,), lambda _: Try(demand=stress * kind.factor, capacity=SLEEVE_YIELD, topic="crush-sleeve", input=data, output="stress_mpa", figure=""))]  # fmt: skip


def foot_clamp(saved: AngleBracket) -> float:
    """Clamp of a foot's bolt at the torque that is told [N]."""
    pitch = COARSE.get(round(saved.bolt_mm), 0.15 * saved.bolt_mm)
    thread = parse_thread(f"M{saved.bolt_mm:g}x{pitch:g}")
    return tightening(saved.bolt_mm, bolt_class(saved.bolt_class, saved.bolt_mm), thread)[0]


def sleeve_of(saved: AngleBracket) -> Turned | None:
    """Of a foot's bolt where it goes through a box; None where it does not."""
    if saved.through_mm <= 0:
        return None
    outside = saved.sleeve_od_mm or saved.bolt_mm + SLEEVE_OVER
    return Turned(
        material=SLEEVE_STEEL, outside=outside, length=saved.through_mm, bore=saved.bolt_mm + SLEEVE_BORE, fit="free on its bolt",
        notes=("through both walls of the box, welded all round at both, faced flush",),
    )  # fmt: skip


def shim_outline(saved: AngleBracket) -> Contour:
    """A shim of a foot: as large as it, its bolts' holes with it; its toe at the left.

    Args:
        saved: as it is.
    """
    long, half, x = foot_reach(saved), saved.base_width.mm / 2, saved.toe_mm
    c = saved.corner_mm
    edges: tuple[Edge, ...] = (
        Straight(c, -half, long, -half), Straight(long, -half, long, half), Straight(long, half, c, half), *rounded(0.0, half, 90.0, c),
        Straight(0.0, half - c, 0.0, c - half), *rounded(0.0, -half, 180.0, c),
    )  # fmt: skip
    return Contour(edges=edges, holes=tuple(Hole(x, way * saved.apart_mm / 2, bore_of(saved)) for way in (-1.0, 1.0)))


class AngleBracketKind(EaredKind[AngleBracket]):
    """Brackets of two angles, bolted on."""

    key = "angle_bracket"
    word = "bolted bracket"
    saved = AngleBracket
    own = AngleOwn
    ears_of_flat = 1
    searches = "Plates of the usual thicknesses that a brake folds, feet of several widths, every bolt that goes through the joint and bolts of 8 to 16 mm for the feet are judged against all checks."
    fields = (
        where_fields(AngleBracket, "Wall it is bolted to"),
        FieldGroup(title="Plate", fields=[
            Field(path="plate", label="Thickness", control="length"),
            number(AngleBracket, "radius_mm", "Bend, inside radius", "mm"),
            Field(path="hole", label="Hole", control="length"),
            Field(path="head_radius", label="Head radius", control="length"),
            Field(path="edge", label="Hole to free end", control="length"),
            Field(path="base_width", label="Wide, along the bend", control="length"),
            Field(path="height", label="What it stands on, to the hole", control="length"),
            switch("height_fixed", "its height is given: sizing keeps it"),
            *metal_fields(AngleBracket),
        ]),
        FieldGroup(title="Feet", note="two bolts each; they point away from the joint", fields=[
            number(AngleBracket, "bolt_mm", "Bolt", "mm"),
            choice("bolt_class", "Class", [(one, one) for one in ("8.8", "10.9", "12.9")]),
            number(AngleBracket, "gauge_mm", "Ear’s outer face to the bolts", "mm"),
            number(AngleBracket, "toe_mm", "Bolts to the foot’s end", "mm"),
            number(AngleBracket, "apart_mm", "A foot’s two bolts apart", "mm"),
            number(AngleBracket, "corner_mm", "Corners of a foot, radius; 0: sharp", "mm"),
            number(AngleBracket, "shim_mm", "Shims behind each foot", "mm"),
            number(AngleBracket, "through_mm", "Right through a box, so deep; 0: one wall", "mm"),
            number(AngleBracket, "sleeve_od_mm", "Crush sleeve outside", "mm", optional=True, empty="bolt and 8 mm"),
        ]),
        folding_fields(AngleBracket),
        LIGHTEN_FIELDS,
        EXTRA_FIELDS,
        BOLT_FIELDS,
        FieldGroup(title="Load", fields=[
            number(AngleBracket, "load_angle_deg", "Pull from the ears’ axis, at ride height", "°", optional=True, empty="not known: every way"),
        ]),
    )  # fmt: skip

    def begun(self, pair: TabPair) -> AngleBracket:
        """One in the place of a pair of tabs."""
        return angle_for(pair, None)

    def fitted(self, saved: AngleBracket, stand: Stand, made: JointMade | None) -> AngleBracket:
        """Made for what it stands on."""
        del made
        one = stand.standing
        return saved if one.tube_od is not None or one.turned_deg is not None else fitted_angle(saved, stand)

    def as_pair(self, saved: AngleBracket) -> TabPair:
        """Its two ears as the pair of tabs that they are to joint, pin and plate."""
        return ears(saved)

    def hexagons(self, saved: AngleBracket, made: JointMade, stand: Stand) -> tuple[tuple[str, Hexagon], ...]:
        """Of its feet’s four bolts what lies on the feet; where they go right through a box, also what lies behind it."""
        one, found = stand.standing, []
        for way in (1.0, -1.0):
            out = way * (made.gap / 2 + saved.plate.mm + saved.gauge_mm) * one.bolt
            for side in (1.0, -1.0):
                at = one.foot + out + side * saved.apart_mm / 2 * one.x
                found.append(("heads of its feet’s bolts", hexagon_on(at + (saved.shim_mm + saved.plate.mm) * one.y, one.y, saved.bolt_mm, nut=False)))  # fmt: skip
                if saved.through_mm > 0:
                    found.append(("nuts of its feet’s bolts", hexagon_on(at - saved.through_mm * one.y, -one.y, saved.bolt_mm, nut=True, held=True)))  # fmt: skip
        return tuple(found)

    def bolts(self, saved: AngleBracket, made: JointMade, stand: Stand) -> tuple[tuple[str, tuple[WayOut, ...]], ...]:
        """Of its feet’s four bolts: from over the feet, or right through a box from behind it."""
        one, d, found = stand.standing, saved.bolt_mm, []
        long = (_grip(saved) or saved.plate.mm + saved.shim_mm + d) + PAST_GRIP * d
        for way in (1.0, -1.0):
            out = way * (made.gap / 2 + saved.plate.mm + saved.gauge_mm) * one.bolt
            for side in (1.0, -1.0):
                at = one.foot + out + side * saved.apart_mm / 2 * one.x
                ways = [drawn_out(at + (saved.shim_mm + saved.plate.mm) * one.y, one.y, d, long)]
                if saved.through_mm > 0:
                    ways.append(drawn_out(at - saved.through_mm * one.y, -one.y, d, long))
                found.append(("its feet’s bolts", tuple(ways)))
        return tuple(found)

    def judged(
        self, saved: AngleBracket, made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> tuple[CheckResult, ...]:
        """Its checks, weakest first; a flat that cannot be made, or a foot that hangs over, is refused."""
        flat_of(saved)
        for one, stand in zip(made, stands, strict=False):
            past = foot_past(saved, one, stand)
            if past:
                raise InputError(past, code="contradictory", fields=("toe_mm",))
        return weakest_first(weaker_of_each([check for one in made for check in angle_checks(saved, one, settings)]))

    def proportioned(self, saved: AngleBracket, made: JointMade, plate: float, wider: float) -> Sequence[AngleBracket]:
        """Its sizes for a bolt and a plate, for every usual bolt of its feet: a foot as long and wide as these ask, they as far apart as it is wide."""
        assert made.bolt
        pair = ears(saved)
        one = ears_become(saved, pair.model_copy(update=proportioned(made.held.row, made.bolt, plate, pair)))
        one = one.model_copy(update={"base_width": Length(mm=round(one.base_width.mm * wider, 1))})
        usual = [
            roomy(one.model_copy(update={"bolt_mm": bolt, "apart_mm": floor(2 * (one.base_width.mm - 2 * FROM_EDGE * (bolt + HOLE_OVER))) / 2, "gauge_mm": 1.0, "toe_mm": _up(toe * (bolt + HOLE_OVER))}))
            for bolt in FOOT_BOLTS for toe in TOES
        ]  # fmt: skip
        return [two for two in usual if two.apart_mm > 0]

    def own_fault(self, fault: Misfit) -> Misfit:
        """What is said of a pair of tabs, of what is bolted on."""
        found = super().own_fault(fault)
        return Misfit(field=found.field, message=found.message.replace("nothing to weld to", "nothing to bolt to"))

    def lowest(self, saved: AngleBracket) -> float:
        """As far over its bend as its own hole."""
        return saved.shim_mm + 3 * saved.plate.mm + 2 * saved.radius_mm

    def footing(self, saved: AngleBracket) -> Footing:
        """A foot outside either ear, its shims under it."""
        return Footing(name="its feet", width=saved.base_width.mm, plate=saved.plate.mm, thick=saved.plate.mm + saved.shim_mm, reach=foot_reach(saved), radius=saved.radius_mm)  # fmt: skip

    def area(self, saved: AngleBracket, gap: float) -> float:
        """Of both its flats [mm²]."""
        del gap
        return ANGLES * flat_of(saved).contour.area

    def work_out(self, saved: AngleBracket, around: Around) -> Part:
        """Flat, checks at every joint that it holds, angles and shims to cut, bolts and sleeves beside."""
        pair = ears(saved)
        made, stands, found = TAB_PAIR.joints_in(pair, around, lambda gap: 0.0)
        faults = [self.own_fault(fault) for fault in found]
        flat: FoldedAngle | None = None
        checks: list[CheckResult] = []
        try:
            flat = flat_of(saved)
            if not faults:
                checks = [check for one in made for check in angle_checks(saved, one, around.settings)]
        except (InputError, NotApplicable) as error:
            faults += shape_faults(error)
        for one, stand in zip(made, stands, strict=True):
            past = foot_past(saved, one, stand) if stand and not faults else ""
            if past:
                faults.append(Misfit(field="toe_mm", message=past))
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_carried": TAB_PAIR.not_carried_by(pair, around),
            "not_checked": (*(one for one in TAB_PAIR.not_checked_of(pair, around) if "weld quality" not in one and not one.startswith("what it is welded")), *NOT_CHECKED),
            "made_of": (f"plate {saved.plate.mm:g} mm", saved.grade_name),
        }  # fmt: skip
        if faults or flat is None:
            return Part(**common, faults=tuple(faults))
        pieces = _pieces(saved, flat, len(made))
        beside: list[Piece] = [piece for one in made for piece in hardware_of(one, 2 * saved.plate.mm)]
        beside += _foot_hardware(saved, len(made))
        bent_to = set_angle(saved)
        shims = (View(name="angle-shim", title="1:1 template, shim", cut=True, plate=SHIM, told=f"{saved.shim_mm:g} mm, one behind each foot"),) if saved.shim_mm > 0 else ()  # fmt: skip
        return Part(
            **common, pieces=pieces, beside=tuple(beside), checks=weakest_first(weaker_of_each(checks)),
            mass=flat.contour.area * saved.plate.mm * ANGLES * len(made) * STEEL_DENSITY,
            views=(View(name="angle", title="bolted on, and flat"), *place_views(stands), View(name="angle-flat", title="1:1 template", cut=True, plate="", told=_told(saved)), *shims, *turned_views(pieces)),
            card=_card(saved, flat, made, stands, bent_to), notes=tuple(_notes(saved)),
            own=AngleMade(flat=flat, joints=tuple(made), stands=tuple(stands), set_deg=bent_to),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Bolted on beside its flat, on its mount, flat at 1:1, its shim, or its sleeve."""
        saved, made = part.saved, part.own
        assert isinstance(saved, AngleBracket)
        assert isinstance(made, AngleMade)
        if asked.name == "angle":
            return angle_sheet(saved, made.flat, (made.joints[0].gap, len(made.joints), made.set_deg), numbers)
        if asked.name == "angle-flat":
            return angle_flat(made.flat)
        if asked.name == "angle-shim":
            return shim_flat(shim_outline(saved))
        return turned_sheet(part, asked.name, numbers) or super().draw(part, asked, numbers)

    def told(self, part: Part) -> AngleOwn | None:
        """Gap, developed length, allowance, set angle."""
        made, saved = part.own, part.saved
        if not isinstance(made, AngleMade) or not isinstance(saved, AngleBracket):
            return None
        low, _, high, _ = made.flat.contour.bounds
        return AngleOwn(
            gap_mm=made.joints[0].gap, flat_mm=high - low, allowance_mm=made.flat.bend.allowance, k_factor=made.flat.bend.k, set_deg=made.set_deg,
            shim_mm=saved.shim_mm, holds=[one.held.name for one in made.joints],
        )  # fmt: skip


def roomy(saved: AngleBracket) -> AngleBracket:
    """The same with its bend, foot and width as large as its plate and its bolts ask, its height too where that is free.

    Args:
        saved: as it is.
    """
    bore, plate = bore_of(saved), saved.plate.mm
    apart = max(saved.apart_mm, _up(APART * bore))
    one = saved.model_copy(update={
        "radius_mm": max(saved.radius_mm, LEAST_RADIUS * plate), "toe_mm": max(saved.toe_mm, _up(FROM_EDGE * bore)), "apart_mm": apart,
        "base_width": Length(mm=max(saved.base_width.mm, _up(apart + 2 * FROM_EDGE * bore))),
    })  # fmt: skip
    one = one.model_copy(update={"gauge_mm": max(one.gauge_mm, _up(2 * one.radius_mm + 2 * plate + bore / 2))})
    for _ in range(3):  # a foot or an ear that is too short for the die
        try:
            flat_of(one)
            break
        except (InputError, NotApplicable) as error:
            field, least = next(iter(error.fields), ""), error.limits[0] if error.limits else None
            if least is None or field not in ("toe_mm", "height") or (field == "height" and one.height_fixed):
                break
            more = (
                {"toe_mm": _up(least - one.gauge_mm - plate)}
                if field == "toe_mm"
                else {"height": Length(mm=_up(max(least, one.height.mm + 1.0)))}
            )
            one = one.model_copy(update=more)
    return one


def _up(value: float) -> float:
    return ceil(2 * value - 1e-9) / 2


def foot_past(saved: AngleBracket, made: JointMade, stand: Stand) -> str:
    """Why a foot is not carried by what it is bolted to; empty where it is.

    Args:
        saved: as it is.
        made: the joint.
        stand: where.
    """
    outer = made.gap / 2 + saved.plate.mm + foot_reach(saved)
    past = stand.standing.overhang(saved.base_width.mm / 2, outer)
    if past <= CUT_TRUE:  # the toe pries against what is under it: all of it is
        return ""
    return f"Its feet reach {past:.1f} mm past {stand.mount.name}: there is nothing under their toes. Turn the bolt, make the feet shorter, or give it another mount."


def fitted_angle(saved: AngleBracket, stand: Stand) -> AngleBracket:
    """Made to reach from the flat that it stands on to its joint; right through a box, with sleeves.

    Args:
        saved: as it is.
        stand: where.
    """
    one, shape = ears_become(saved, fitted_on(ears(saved), stand)), stand.mount.shape
    deep = 0.0
    if isinstance(shape, BoxMember) and stand.standing.across:
        # the side that it stands on is as wide as one of the two, so that it is as deep as the other
        wide = 2 * stand.standing.across[2]
        deep = shape.height_mm if abs(wide - shape.width_mm) < abs(wide - shape.height_mm) else shape.width_mm
    return one.model_copy(update={"through_mm": deep})


def angle_for(pair: TabPair, stand: Stand | None) -> AngleBracket:
    """Two angles where a pair of tabs was proposed, their feet as their bolts ask.

    Args:
        pair: proposed.
        stand: where; None: not said.
    """
    one = AngleBracket(
        id=pair.id, name=pair.name.replace(", tabs", ", bolted on"), side=pair.side, plate=pair.plate, radius_mm=max(3.0, pair.plate.mm), hole=pair.hole,
        head_radius=pair.head_radius, edge=pair.edge, base_width=pair.base_width, height=pair.height,
    )  # fmt: skip
    return roomy(one if stand is None else fitted_angle(one, stand))


def _pieces(saved: AngleBracket, flat: FoldedAngle, joints: int) -> tuple[Piece, ...]:
    low_x, low_y, high_x, high_y = flat.contour.bounds
    pieces: list[Piece] = [PlatePiece(
        name="", material=saved.grade_name, thickness=saved.plate.mm, length=high_x - low_x, width=high_y - low_y, outline=flat.contour,
        told=f"hole {saved.hole.mm:g} mm, 2 holes {bore_of(saved):g} mm{more_told(ears(saved), flat.contour, 1)}, 1 bend", count=ANGLES * joints, sort="folded",
    )]  # fmt: skip
    if saved.shim_mm > 0:
        pieces.append(PlatePiece(
            name=SHIM, material=saved.grade_name, thickness=saved.shim_mm, length=foot_reach(saved), width=saved.base_width.mm, outline=shim_outline(saved),
            told=f"2 holes {bore_of(saved):g} mm", count=ANGLES * joints, sort="plate",
        ))  # fmt: skip
    sleeve = sleeve_of(saved)
    if sleeve is not None:
        pieces.append(turned_piece("crush sleeve", "crush sleeve in the box, for a foot’s bolt", sleeve, count=ANGLES * FEET_BOLTS * joints, sort="sleeve"))  # fmt: skip
    return tuple(pieces)


def _grip(saved: AngleBracket) -> float | None:
    """What a foot's bolt clamps [mm]; None while what it is bolted to is not known."""
    under = saved.through_mm or saved.wall_mm
    return saved.plate.mm + saved.shim_mm + under if under else None


def _foot_hardware(saved: AngleBracket, joints: int) -> list[Piece]:
    many, grip = ANGLES * FEET_BOLTS * joints, _grip(saved)
    pitch = COARSE.get(round(saved.bolt_mm))
    long = (
        f", order {order_length(grip, saved.bolt_mm, pitch, True):.0f} mm under the head for a grip of {grip:.1f} mm"
        if grip and pitch
        else ", its length by what it goes through"
    )
    return [
        plain_bolt(saved.bolt_mm, saved.bolt_class, f"of a foot, with locking nut{long}", count=many),
        BoughtPiece(sort="washer", what=f"hardened washer for a bolt of {saved.bolt_mm:g} mm", count=2 * many),
    ]  # fmt: skip


def _told(saved: AngleBracket) -> str:
    side = " The right side’s is the same." if saved.side == "pair" else ""
    return f"{saved.plate.mm:g} mm {saved.grade_name}: bend line dashed, the bend up, this side is the inside. Both angles of a joint are this one.{side}"


def _notes(saved: AngleBracket) -> list[str]:
    notes, least = [], LEAST_RADIUS * saved.plate.mm
    if saved.radius_mm < least - 1e-9:
        notes.append(f"bent at {saved.radius_mm:g} mm inside, tighter than the plate is thick ({least:g} mm): it may crack; bend it across the grain, or at {least:g} mm")  # fmt: skip
    if saved.through_mm <= 0:
        notes.append("bolted to one wall: a plate as thick as the foot behind it, or a nut plate welded on, so that the wall is not pulled through")  # fmt: skip
    if COARSE.get(round(saved.bolt_mm)) is None:
        notes.append(f"no usual thread of {saved.bolt_mm:g} mm: no torque is told")
    return notes


def _card(
    saved: AngleBracket, flat: FoldedAngle, made: Sequence[JointMade], stands: Sequence[Stand | None], bent_to: float | None
) -> Card:  # fmt: skip
    low, _, high, _ = flat.contour.bounds
    many = ANGLES * len(made) * saved.count
    by = "the shop’s own test bend" if saved.ratio is not None else "elasticity, not tried"
    set_told = f"set the bend to {bent_to:.1f}° so that 90° is left" if bent_to else "it springs back further than can be set: try a test bend"  # fmt: skip
    lines = [
        CardLine(text="wide, along the bend", mm=saved.base_width.mm),
        CardLine(text="foot’s end to bend line, flat", mm=flat.foot + flat.bend.allowance / 2, strong=True),
        CardLine(text="bend line to the joint’s hole, flat", mm=flat.hole_at - flat.bend.allowance / 2),
        *hole_lines_cut(saved.hole.mm, 0.0, "drilled flat"),
        *lighter_lines(ears(saved), ANGLE_BRACKET.on_foot(saved, made[0].gap)[0]),
        *extra_lines(saved.extra),
        CardLine(text="foot’s two holes, from its end", mm=saved.toe_mm),
        CardLine(text="and apart", mm=saved.apart_mm),
        across(text="foot’s holes", mm=bore_of(saved)),
        *([CardLine(text="foot’s corners round, radius", mm=saved.corner_mm)] if saved.corner_mm else []),
        CardLine(text="bend, inside radius", mm=saved.radius_mm),
        CardLine(text=f"{set_told} ({by})"),
        CardLine(text="feet away from the joint, the smooth faces of the ears together; between them", mm=made[0].gap, strong=True),
        CardLine(text="foot’s lower face to hole, folded", mm=flat.height),
        *([CardLine(text="shims behind each foot", mm=saved.shim_mm, strong=True)] if saved.shim_mm > 0 else []),
        *([CardLine(text="a crush sleeve round each of its bolts, through the box", mm=saved.through_mm, strong=True)] if saved.through_mm > 0 else []),
        CardLine(text=f"{made[0].bolt.label if made[0].bolt else 'bolt'}, grip", mm=made[0].gap + 2 * saved.plate.mm),
    ]  # fmt: skip
    for stand in stands:
        lines += set_out(stand, saved.side) if stand else []
    return Card(figures=(Figure(label=f"Cut {many}, long", mm=high - low, note=f"{saved.plate.mm:g} mm {saved.grade_name}"),), lines=tuple(lines))  # fmt: skip


ANGLE_BRACKET = AngleBracketKind()
