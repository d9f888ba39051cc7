"""The strap tab: one strip bent half round a tube and welded along both its edges, its ends holding a joint whose bolt is square to the tube.

Its ears stand as far apart as the tube is wide; what is narrower is packed out beside its ball.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import cos, pi, radians, sin
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.strap import StrapWelds, worst_pull
from tirante.core.brackets.tools import Fillet
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, weaker_of_each, weakest_first, worst_of
from tirante.core.checks.shown import Out
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, number, switch
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.strap_tab import StrapTab
from tirante.core.document.settings import Settings
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import moved
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.eared import (
    EaredKind,
    ears,
    folding_fields,
    set_angle,
    thinner_leg,
    where_fields,
)
from tirante.core.parts.bracket.families.extra import EXTRA_FIELDS, extra_lines
from tirante.core.parts.bracket.families.footing import Footing, Laid
from tirante.core.parts.bracket.families.held import joints_held, leaning_told, leans_too_far, over_a_tube
from tirante.core.parts.bracket.families.lightened import LIGHTEN_FIELDS, lighter_lines, more_told
from tirante.core.parts.bracket.families.searched import ears_become
from tirante.core.parts.bracket.families.tab_checks import (
    NOT_CHECKED as OF_TABS,
)
from tirante.core.parts.bracket.families.tab_checks import foot_check, lug_checks, pin_checks, slant_told, slants
from tirante.core.parts.bracket.families.tab_fields import (
    BOLT_FIELDS,
    hole_lines_cut,
    metal_fields,
    ream_faults,
    ream_fields,
    shape_faults,
)
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import USUAL_LEG, proportioned
from tirante.core.parts.bracket.families.tab_told import place_views
from tirante.core.parts.joint import JointMade, hardware_of
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View
from tirante.core.parts.stands import CUT_TRUE, TRUE_DEG, Stand, right_side_lacks, runs_through, set_out
from tirante.core.sheet import strap as sheet_strap
from tirante.core.units import STEEL_DENSITY

Array = NDArray[np.float64]
FLATS = 12  # pieces that its roll is looked at by
NOT_CHECKED = (
    *OF_TABS, "the wall of the tube that it goes over: what its fillets pull on, and what it presses on",
    "cracks where it is rolled: across the grain",
)  # fmt: skip


class StrapOwn(Out):
    """What only a strap tab has [mm]."""

    kind: Literal["strap_tab"] = "strap_tab"
    gap_mm: float
    flat_mm: float
    k_factor: float
    opens_mm: float | None
    holds: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class StrapMade:
    """A strap tab with its flat and what it holds."""

    flat: sheet_strap.Strap
    joints: tuple[JointMade, ...]
    stands: tuple[Stand | None, ...]
    opens: float | None  # bent round the tube itself, at its holes [mm]; None: it springs back flat


@dataclass(frozen=True, slots=True, kw_only=True)
class Wrap(Footing):
    """What lies round the tube, in flats."""

    radius: float  # of the tube [mm]

    @property
    def taken(self) -> str:
        """As what it is looked at, in words."""
        return f"its bends: {self.name} is taken in flats of {180 / FLATS:g}°"

    def laid(self, gap: float, stand: Stand) -> list[Laid]:
        """Each flat of its roll, from ear to ear."""
        del gap
        one, w = stand.standing, self.width / 2
        out, step = self.radius + self.thick / 2, pi / FLATS
        half = (self.radius + self.thick) * step / 2
        middle = one.foot - self.radius * one.y
        found = []
        for i in range(FLATS):
            turn = (i + 0.5) * step
            found.append(
                Laid(
                    outline=np.array([(-w, -half), (w, -half), (w, half), (-w, half)]),
                    at=middle + out * (cos(turn) * one.bolt - sin(turn) * one.y), x=one.x, y=-sin(turn) * one.bolt - cos(turn) * one.y, thick=self.thick,
                )
            )  # fmt: skip
        return found


def as_pair(saved: StrapTab) -> TabPair:
    """Its two ears, from where they leave the tube, as the pair of tabs that they are to joint, pin and plate.

    Args:
        saved: as it is.
    """
    return ears(saved, weld_leg_mm=thinner_leg(saved))


def flat_of(saved: StrapTab) -> sheet_strap.Strap:
    """Its flat pattern.

    Args:
        saved: as it is.

    Raises:
        InputError, NotApplicable: with its own fields.
    """
    found = sheet_strap.strap(
        saved.tube_od.mm, saved.plate.mm, saved.base_width.mm, saved.height.mm, saved.head_radius.mm, saved.edge.mm, saved.hole.mm, saved.k_factor,
    )  # fmt: skip
    STRAP_TAB.ears(saved, saved.tube_od.mm)  # where a hole may not be, it says so
    more = STRAP_TAB.more_holes(saved, saved.tube_od.mm, found.hole_at)
    return replace(found, contour=replace(found.contour, holes=(*found.contour.holes, *more)))


def fitted_strap(saved: StrapTab, stand: Stand) -> StrapTab:
    """Bent for the tube that it goes over, reaching to its joint, its pull's angle as the end has it.

    Args:
        saved: as it is.
        stand: where, on a round tube.
    """
    return saved.model_copy(update=over_a_tube(stand))


def goes_over(stand: Stand) -> Misfit | None:
    """Why no strap goes over what it would stand on; None where one does.

    Args:
        stand: where.
    """
    one, name = stand.standing, stand.mount.name
    if one.tube_od is None:
        return Misfit(field="mount", message=f"A strap goes over a round tube, and {name} is none. Give it another mount, or make it a tab pair.")  # fmt: skip
    if one.angle_deg > TRUE_DEG:
        return Misfit(field="bolt_axis", message=f"Its ears stand along {name}, with the bolt square to it, and the bolt is {one.angle_deg:.1f}° off that. Turn the bolt, or make it a tab pair.")  # fmt: skip
    beside = abs(one.tube_od / 2 * sin(radians(one.lean_deg)))
    if beside > CUT_TRUE:
        return Misfit(field="mount", message=f"Its ears stand alike on both sides of {name}, and the joint stands {beside:.1f} mm beside the tube’s middle. Move one of them, or make it a tab pair.")  # fmt: skip
    return None


def lies_true(saved: StrapTab, stand: Stand) -> list[Misfit]:
    """Whether it is bent for the tube that it goes over, and reaches to its joint.

    Args:
        saved: as it is.
        stand: where.
    """
    lacks = goes_over(stand)
    if lacks is not None:
        return [lacks]
    one, name, out = stand.standing, stand.mount.name, []
    assert one.tube_od
    if abs(saved.tube_od.mm - one.tube_od) > CUT_TRUE:
        out.append(Misfit(field="tube_od", message=f"It is bent round {saved.tube_od.mm:.1f} mm, and {name} is {one.tube_od:.1f} mm. Fit it to what it stands on."))  # fmt: skip
    asks = one.height + one.tube_od / 2
    if abs(saved.height.mm - asks) > CUT_TRUE:
        out.append(Misfit(field="height", message=f"Its bolt stands {saved.height.mm:.1f} mm over the middle of {name}, and the joint {asks:.1f} mm. Fit it to what it stands on."))  # fmt: skip
    through = runs_through(stand)
    if through:
        out.append(Misfit(field="mount", message=through))
    past = one.overhang(saved.base_width.mm / 2, 0.0)
    if past > CUT_TRUE:
        out.append(Misfit(field="base_width", message=f"It reaches {past:.1f} mm past the end of {name}. Make it narrower, or give it another mount."))  # fmt: skip
    return out


def fills_it(saved: StrapTab, made: JointMade) -> Misfit | None:
    """Whether ball, spacers and shims fill the way from ear to ear; None where they do.

    Args:
        saved: as it is.
        made: its joint.
    """
    short = saved.tube_od.mm - made.gap
    if abs(short) <= CUT_TRUE:
        return None
    told = f"Its ears stand {saved.tube_od.mm:.1f} mm apart, as wide as the tube, and ball, spacers and shims take {made.gap:.1f} mm"
    shim = made.joint.shim_mm + short / 2
    if shim < 0:
        return Misfit(field="shim_mm", message=f"{told}: they do not go in. Take a narrower joint or a thinner spacer, or make it a tab pair.")  # fmt: skip
    return Misfit(field="shim_mm", message=f"{told}. Put a shim of {shim:.2f} mm on each side.")


def packed_out(tube_od: float, made: JointMade) -> float:
    """What must stand beside the ball on each side, spacers as they are, to fill the way from ear to ear; less than nothing where it does not go in [mm].

    Args:
        tube_od: of the tube that it goes over [mm].
        made: the joint.
    """
    return round(made.joint.shim_mm + (tube_od - made.gap) / 2, 2)


def strap_checks(saved: StrapTab, made: JointMade, settings: Settings) -> list[CheckResult]:
    """All checks of it at a joint; none while no bolt is chosen.

    Args:
        saved: as it is.
        made: the joint.
        settings: factors, electrode.
    """
    if made.bolt is None:
        return []
    pair = as_pair(saved)
    return [
        *pin_checks(pair, made, made.bolt, settings),
        *lug_checks(pair, made.bolt.diameter_mm, made.held, settings),
        *STRAP_TAB.holed_checks(saved, made, settings),
        foot_check(pair, made, settings, outside=False),
        _weld_check(saved, made, settings),
    ]


def _weld_check(saved: StrapTab, made: JointMade, settings: Settings) -> CheckResult:
    kind, pair = asked("tab_weld", "tab", settings.factors), as_pair(saved)
    welds, leg = StrapWelds(tube_od=saved.tube_od.mm, width=saved.base_width.mm), thinner_leg(saved)
    angles, nominal = slants(pair, made.held), SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa

    def attempt(case: CaseSeen) -> Try | None:
        pull, side = abs(case.axial_n) * kind.factor, abs(case.across_n) * kind.factor
        if pull == 0 and side == 0:
            return None
        line, force = worst_pull(welds, saved.height.mm, pull, side, angles)
        data = {
            "tube_od_mm": welds.tube_od, "width_mm": welds.width, "leg_mm": leg, "at_mm": saved.height.mm, "force_n": [float(v) for v in force],
            "electrode_uts_mpa": settings.electrode_uts_mpa,
        }  # fmt: skip
        note = slant_told(pair, made.held)
        if leg < saved.weld_leg_mm:
            note += f"; counted, and laid, at {leg:g} mm: {saved.weld_leg_mm:g} mm burns through"
        return Try(demand=line / (THROAT_OF_LEG * leg), capacity=nominal, topic="strap-weld", input=data, output="throat_stress_mpa", figure="demand", note=note)  # fmt: skip

    return worst_of(kind, made.held.cases, attempt)


class StrapKind(EaredKind[StrapTab]):
    """Strap tabs."""

    key = "strap_tab"
    word = "strap tab"
    saved = StrapTab
    own = StrapOwn
    searches = "Plates of the usual thicknesses that a shop bends, straps of several widths, and every bolt that goes through are judged against all checks."
    fields = (
        where_fields(StrapTab, "Wall of the tube"),
        FieldGroup(title="Plate", fields=[
            Field(path="plate", label="Thickness", control="length"),
            Field(path="tube_od", label="Tube that it is bent round", control="length"),
            Field(path="hole", label="Hole", control="length"),
            *ream_fields(StrapTab),
            Field(path="head_radius", label="Head radius", control="length"),
            Field(path="edge", label="Hole to free end", control="length"),
            Field(path="base_width", label="Wide, along the tube", control="length"),
            Field(path="height", label="Tube’s middle to hole", control="length"),
            switch("height_fixed", "its height is given: sizing keeps it"),
            *metal_fields(StrapTab),
        ]),
        folding_fields(StrapTab, die=False),
        LIGHTEN_FIELDS,
        EXTRA_FIELDS,
        BOLT_FIELDS,
        FieldGroup(title="Load and weld", fields=[
            number(StrapTab, "load_angle_deg", "Pull from the ears’ axis, at ride height", "°", optional=True, empty="not known: every way"),
            number(StrapTab, "weld_leg_mm", "Fillet leg, along both its edges", "mm"),
        ]),
    )  # fmt: skip

    def fillets(self, saved: StrapTab, made: JointMade, stand: Stand) -> tuple[Fillet, ...]:
        """Along both of its edges, half round the tube."""
        del made
        one, r, half = stand.standing, saved.radius_mm, saved.base_width.mm / 2
        turns, found = np.radians(np.linspace(9.0, 171.0, 2 * FLATS)), []
        out = np.cos(turns)[:, None] * one.bolt - np.sin(turns)[:, None] * one.y
        along = -np.sin(turns)[:, None] * one.bolt - np.cos(turns)[:, None] * one.y
        for way in (1.0, -1.0):
            edge = one.foot - r * one.y + way * half * one.x
            found.append(Fillet(name="its edges round the tube", roots=edge + r * out, normals=out, aways=np.tile(way * one.x, (turns.size, 1)), along=along))  # fmt: skip
        return tuple(found)

    def begun(self, pair: TabPair) -> StrapTab:
        """One in the place of a pair of tabs."""
        return strap_for(pair, None)

    def fitted(self, saved: StrapTab, stand: Stand, made: JointMade | None) -> StrapTab:
        """Made for what it stands on."""
        del made
        return fitted_strap(saved, stand) if stand.standing.tube_od is not None else saved

    def as_pair(self, saved: StrapTab) -> TabPair:
        """Its two ears as the pair of tabs that they are to joint, pin and plate."""
        return as_pair(saved)

    def judged(
        self, saved: StrapTab, made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> tuple[CheckResult, ...]:
        """Its checks, weakest first; a flat that cannot be made is refused."""
        del stands
        flat_of(saved)
        return weakest_first(weaker_of_each([check for one in made for check in strap_checks(saved, one, settings)]))

    def proportioned(self, saved: StrapTab, made: JointMade, plate: float, wider: float) -> Sequence[StrapTab]:
        """Its sizes for a bolt and a plate."""
        assert made.bolt
        pair = as_pair(saved)
        one = ears_become(saved, pair.model_copy(update=proportioned(made.held.row, made.bolt, plate, pair)))
        one = one.model_copy(update={"base_width": Length(mm=round(one.base_width.mm * wider, 1)), "weld_leg_mm": max(saved.weld_leg_mm, min(plate, USUAL_LEG))})  # fmt: skip
        try:
            flat_of(one)
        except (InputError, NotApplicable) as error:
            if not one.height_fixed and "height" in error.fields and error.limits and error.limits[0]:
                one = one.model_copy(update={"height": Length(mm=round(error.limits[0] + 0.5, 1))})
        return (one,)

    def fit(self, saved: StrapTab, made: JointMade, stands: Sequence[Stand]) -> StrapTab:
        """Bent for the tube that it stands on."""
        return self.fitted(saved, stands[0], made) if stands else saved

    def past(self, saved: StrapTab, stands: Sequence[Stand], made: JointMade) -> str:
        """Why it does not go over its tubes, or is not filled."""
        found = [fault.message for one in stands for fault in lies_true(saved, one)]
        fills = fills_it(saved, made)
        return next(iter([*found, *([fills.message] if fills else [])]), "")

    def footing(self, saved: StrapTab) -> Footing:
        """What lies round the tube, from ear to ear."""
        return Wrap(name="its strap", width=saved.base_width.mm, plate=saved.plate.mm, thick=saved.plate.mm, radius=saved.radius_mm)  # fmt: skip

    def ears(self, saved: StrapTab, gap: float) -> tuple[TabOutline, ...]:
        """Its ears, from where they leave the tube: half of it below what the joint is measured from."""
        (one,) = super().ears(saved, gap)
        down = -saved.radius_mm
        contour = replace(
            one.contour, edges=tuple(moved(edge, 0.0, down) for edge in one.contour.edges),
            holes=tuple(replace(hole, y=hole.y + down) for hole in one.contour.holes),
        )  # fmt: skip
        return (replace(one, contour=contour, low=one.low + down),)

    def on_foot(self, saved: StrapTab, gap: float) -> tuple[TabOutline, ...]:
        """Its ears counted from the tube's middle, as its height is."""
        return super().ears(saved, gap)

    def lowest(self, saved: StrapTab) -> float:
        """Over the skin of the tube, and two thicknesses over where it begins to be rolled."""
        return max(saved.radius_mm, 2 * saved.plate.mm)

    def area(self, saved: StrapTab, gap: float) -> float:
        """Of its flat [mm²]."""
        del gap
        return flat_of(saved).contour.area

    def work_out(self, saved: StrapTab, around: Around) -> Part:
        """Flat, checks at every joint that it holds, the plate to cut, bolts beside."""
        made, stands, faults = joints_held(
            saved.id, saved.hole.mm, around, lambda one, stand: _faults_at(saved, one, stand)
        )
        faults += ream_faults(saved.hole.mm, saved.ream_mm)
        flat: sheet_strap.Strap | None = None
        try:
            flat = flat_of(saved)
        except (InputError, NotApplicable) as error:
            faults += shape_faults(error, thickness_mm="plate", radius_mm="tube_od")
        leaning = [told for stand in stands if stand is not None for told in leaning_told(stand)]
        unlooked = dict.fromkeys([*NOT_CHECKED, *leaning, *(told for one in made for told in one.held.not_checked)])
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_carried": TAB_PAIR.not_carried_by(as_pair(saved), around), "not_checked": tuple(unlooked),
            "made_of": (f"plate {saved.plate.mm:g} mm", saved.grade_name),
        }  # fmt: skip
        if faults or flat is None or not made:
            return Part(**common, faults=tuple(dict.fromkeys(faults)))
        checks = [check for one in made for check in strap_checks(saved, one, around.settings)]
        low_x, low_y, high_x, high_y = flat.contour.bounds
        cut = f", cut {saved.hole.mm - saved.ream_mm:g} mm, reamed after welding" if saved.ream_mm else ""
        more = more_told(as_pair(saved), flat.contour)
        plate = PlatePiece(
            name="", material=saved.grade_name, thickness=saved.plate.mm, length=high_x - low_x, width=high_y - low_y, outline=flat.contour.under(saved.ream_mm, 2),
            told=f"2 holes {saved.hole.mm:g} mm{cut}{more}, rolled half round", count=len(made), sort="folded",
        )  # fmt: skip
        beside: list[Piece] = [piece for one in made for piece in hardware_of(one, 2 * saved.plate.mm)]
        return Part(
            **common, pieces=(plate,), beside=tuple(beside), checks=weakest_first(weaker_of_each(checks)),
            mass=flat.contour.area * saved.plate.mm * len(made) * STEEL_DENSITY,
            views=(View(name="strap", title="bent, and flat"), *place_views(stands), View(name="strap-flat", title="1:1 template", cut=True, plate="", told=_told(saved))),
            card=_card(saved, flat, made, stands), notes=tuple(_notes(saved)),
            own=StrapMade(flat=flat, joints=tuple(made), stands=tuple(stands), opens=opens(saved)),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Bent beside its flat, on its tube, or flat at 1:1."""
        saved, made = part.saved, part.own
        assert isinstance(saved, StrapTab)
        assert isinstance(made, StrapMade)
        if asked.name == "strap":
            return _sheet(saved, made, numbers)
        if asked.name == "strap-flat":
            return _flat(saved, made.flat)
        return super().draw(part, asked, numbers)

    def told(self, part: Part) -> StrapOwn | None:
        """Gap, developed length, where the neutral fibre is taken, how far it springs open."""
        made = part.own
        if not isinstance(made, StrapMade):
            return None
        low, _, high, _ = made.flat.contour.bounds
        return StrapOwn(
            gap_mm=made.flat.gap, flat_mm=high - low, k_factor=made.flat.quarter.k, opens_mm=made.opens, holds=[one.held.name for one in made.joints],
        )  # fmt: skip


def _faults_at(saved: StrapTab, made: JointMade, stand: Stand | None) -> list[Misfit]:
    """What does not go together at one of its joints."""
    fills = fills_it(saved, made)
    faults = [fills] if fills else []
    if stand is None:
        return faults
    lacks = right_side_lacks(stand, saved.base_width.mm / 2, 0.0) if saved.side == "pair" else ""
    return [
        *faults,
        *lies_true(saved, stand),
        *leans_too_far(made, stand),
        *([Misfit(field="mount", message=lacks)] if lacks else []),
    ]


def opens(saved: StrapTab) -> float | None:
    """How much wider its ears stand at their holes when it is bent half round the tube itself and let go [mm]; None where it springs back flat.

    Args:
        saved: as it is.
    """
    square = set_angle(saved)
    return None if square is None else sheet_strap.springs_open(pi * 90.0 / square, saved.height.mm)


def strap_for(pair: TabPair, stand: Stand | None) -> StrapTab:
    """A strap tab where a pair of tabs was proposed.

    Args:
        pair: proposed.
        stand: where; None: not said, so for a tube as wide as its joint.
    """
    wide, half = Length(mm=max(pair.base_width.mm, 2 * pair.head_radius.mm)), pair.head_radius.mm
    od = Length(mm=50.0)
    one = StrapTab(
        id=pair.id, name=pair.name.replace(", tabs", ", strap"), side=pair.side, plate=pair.plate, hole=pair.hole, head_radius=pair.head_radius, edge=pair.edge,
        base_width=wide, tube_od=od, height=Length(mm=max(pair.height.mm, od.mm / 2 + half)),
    )  # fmt: skip
    return one if stand is None or stand.standing.tube_od is None else fitted_strap(one, stand)


def _told(saved: StrapTab) -> str:
    side = "" if saved.side != "pair" else " The right side’s is the same."
    return f"{saved.plate.mm:g} mm {saved.grade_name}: the line is the middle of its roll.{side}"


def _notes(saved: StrapTab) -> list[str]:
    found = opens(saved)
    notes = []
    if found is None:
        notes.append("it springs back flat: heat it, or roll it from a softer plate")
    if saved.wall_mm is not None and saved.wall_mm < saved.plate.mm:
        notes.append(f"the tube that it goes over is {saved.wall_mm:g} mm, thinner than the strap")
    return notes


def _card(saved: StrapTab, flat: sheet_strap.Strap, made: Sequence[JointMade], stands: Sequence[Stand | None]) -> Card:
    low, _, high, _ = flat.contour.bounds
    many, found = len(made) * saved.count, opens(saved)
    by = "the shop’s own test bend" if saved.ratio is not None else "elasticity, not tried"
    lines = [
        CardLine(text="wide, along the tube", mm=saved.base_width.mm),
        CardLine(text="hole to hole, flat", mm=2 * flat.hole_at, strong=True),
        *hole_lines_cut(saved.hole.mm, saved.ream_mm, "drilled flat"),
        *lighter_lines(as_pair(saved), STRAP_TAB.on_foot(saved, made[0].gap)[0]),
        *extra_lines(saved.extra),
        CardLine(text="rolled half round, inside radius", mm=saved.radius_mm),
        CardLine(text="the roll begins, from the middle of the flat, to either side", mm=flat.quarter.allowance),
        *([CardLine(text=f"bent round the tube itself its ears spring open ({by}): draw them together with the bolt, over what stands between them, before it is tacked; wider by about", mm=found)] if found else []),
        CardLine(text="between the ears", mm=flat.gap, strong=True),
        CardLine(text="tube’s middle to hole", mm=saved.height.mm),
        CardLine(text="welded to the tube along both its edges, all the way round from ear to ear; leg", mm=thinner_leg(saved)),
        *(CardLine(text="shim beside the ball, each side", mm=one.joint.shim_mm) for one in made if one.joint.shim_mm),
        CardLine(text=f"{made[0].bolt.label if made[0].bolt else 'bolt'}, grip", mm=made[0].gap + 2 * saved.plate.mm),
    ]  # fmt: skip
    for stand in stands:
        lines += set_out(stand, saved.side) if stand else []
    return Card(
        figures=(Figure(label=f"Cut {many}, long", mm=high - low, note=f"{saved.plate.mm:g} mm {saved.grade_name}"),),
        lines=tuple(lines),
    )


def _flat(saved: StrapTab, flat: sheet_strap.Strap) -> Drawing:
    """The flat alone at 1:1, its origin at the lower left of its bounds: what the DXF holds."""
    contour = flat.contour.under(saved.ream_mm, 2)
    left, low, right, high = contour.bounds
    sheet = Sheet(name="strap-flat", title="strap tab", width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    if saved.ream_mm:
        sheet.text(frame.at(flat.hole_at / 2, 4.0), f"ream ⌀{saved.hole.mm:g} after welding", 3.0, "middle")
    (bend,) = flat.contour.bends
    sheet.line(frame.at(*bend.line.start), frame.at(*bend.line.end), "bend")
    sheet.text(frame.at(2.0, low + 3.0), f"up {bend.angle_deg:g}° R{bend.radius:g}", 3.5, angle_deg=90.0)
    for way in (-1.0, 1.0):
        at = way * flat.quarter.allowance
        sheet.line(frame.at(at, low), frame.at(at, low + 6.0), "mark")
        sheet.line(frame.at(at, high), frame.at(at, high - 6.0), "mark")
    cross_holes(sheet, frame, flat.contour)
    return sheet.done()


def _sheet(saved: StrapTab, made: StrapMade, numbers: Numbers) -> Drawing:
    """Bent, seen along its tube, above; its flat below."""
    flat, t, r = made.flat, saved.plate.mm, saved.radius_mm
    sheet = Sheet(name="strap", title=saved.name, width=217.0, height=160.0, numbers=numbers)
    left, low, right, high = flat.contour.bounds
    tall = saved.height.mm + saved.edge.mm
    scale = min(58.0 / (tall + r + t), 1.5)
    sheet.scale = scale
    sheet.text((6, 152), "Bent, seen along its tube", 3.8, bold=True)
    told = [
        f"{numbers.main(t)} {saved.grade_name}, cut {len(made.joints) * saved.count}",
        f"rolled half round, R {numbers.main(r)} inside, K {flat.quarter.k:.3f} ({'test bend' if saved.k_factor is not None else 'DIN 6935'})",
        f"springs open by about {numbers.main(made.opens)} at its holes"
        if made.opens is not None
        else "it springs back flat",
        "draw it together with the bolt before it is tacked",
        f"fillets {numbers.main(thinner_leg(saved))} along both edges, from ear to ear",
    ]
    for i, line in enumerate(told):
        sheet.text((112, 142 - 5.2 * i), line, 2.9, tone="muted" if i else "ink")
    frame = Frame(58, 84 + scale * (r + t), scale)
    sheet.circle(frame.at(0, 0), r * scale, "thin")
    stations = np.concatenate([np.linspace(0.0, flat.quarter.allowance, 25), [right]])
    ring = [*(-stations[::-1]), *stations[1:]]
    inner, outer = ([flat.folded(float(x), 0.0, depth) for x in ring] for depth in (0.0, t))
    sheet.area([frame.at(x, z) for x, _, z in inner] + [frame.at(x, z) for x, _, z in reversed(outer)], "steel", ref="field:plate")  # fmt: skip
    reach = r + 2.5 * t
    for level in (0.0, saved.height.mm):
        sheet.line(frame.at(-reach, level), frame.at(reach, level), "centre", "muted")
    sheet.line(frame.at(0, -r - t), frame.at(0, tall), "centre", "muted")
    top = frame.at(0, tall)[1]
    sheet.dimension((frame.at(-r, 0)[0], top), (frame.at(r, 0)[0], top), flat.gap, offset=5.0, ref="field:tube_od", tone="blue")  # fmt: skip
    x = frame.at(r + t, 0)[0]
    sheet.dimension((x, frame.at(0, saved.height.mm)[1]), (x, frame.at(0, 0)[1]), saved.height.mm, offset=9.0, ref="dim:height", tone="blue")  # fmt: skip
    flat_scale = min(180.0 / (right - left), 36.0 / (high - low), 1.5)
    sheet.scale = flat_scale
    sheet.text((6, 74), "Flat, from the side that lies on the tube", 3.8, bold=True)
    f2 = Frame(106, 45, flat_scale)
    draw_contour(sheet, f2, flat.contour, "visible", ref="field:plate")
    begins = flat.quarter.allowance
    for at in (-begins, 0.0, begins):
        sheet.line(f2.at(at, low - 4), f2.at(at, high + 4), "hidden" if at == 0.0 else "thin", "blue", "bend")
    y = f2.at(0, low)[1]
    for half, offset, ref, note in ((begins, -6.0, "bend", "rolled"), (flat.hole_at, -14.0, "dim:hole", "hole to hole"), (right, -22.0, "length", "long")):  # fmt: skip
        sheet.dimension((f2.at(-half, 0)[0], y), (f2.at(half, 0)[0], y), 2 * half, offset=offset, ref=ref, note=note, tone="blue" if ref == "bend" else "ink")  # fmt: skip
    at = f2.at(right, 0)[0]
    half = saved.base_width.mm / 2
    sheet.dimension((at, f2.at(0, -half)[1]), (at, f2.at(0, half)[1]), saved.base_width.mm, offset=-7.0, ref="dim:base_width", tone="blue")  # fmt: skip
    return sheet.done()


STRAP_TAB = StrapKind()
