"""The lapped plate: one plate on a face, straight, joggled off it, or hooked over the edge behind it, holding a joint in single shear."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import acos, ceil, cos, degrees, floor, radians
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.tools import Fillet, straight_fillet
from tirante.core.checks.result import CheckResult, weaker_of_each, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, number, switch
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError, NotApplicable
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.eared import (
    HoledKind,
    folding_fields,
    set_angle,
    thinner_leg,
    where_fields,
)
from tirante.core.parts.bracket.families.extra import EXTRA_FIELDS, extra_lines, sections_of
from tirante.core.parts.bracket.families.held import joints_held, leaning_told, leans_too_far
from tirante.core.parts.bracket.families.lapped_checks import (
    as_pair,
    holed_check,
    lapped_checks,
    over_face,
    wall_under,
    weld_runs,
)
from tirante.core.parts.bracket.families.lapped_view import lapped_flat, lapped_sheet
from tirante.core.parts.bracket.families.lightened import LIGHTEN_FIELDS, lighter_lines, more_told
from tirante.core.parts.bracket.families.pad import Flat
from tirante.core.parts.bracket.families.place_view import contour_points
from tirante.core.parts.bracket.families.searched import THICKEST
from tirante.core.parts.bracket.families.tab_checks import (
    NOT_CHECKED as OF_TABS,
)
from tirante.core.parts.bracket.families.tab_fields import BOLT_FIELDS, metal_fields, shape_faults
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import USUAL_LEG, proportioned
from tirante.core.parts.joint import JointMade, hardware_of
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View, across
from tirante.core.parts.stands import (
    CORNER_OF_WALL,
    CUT_TRUE,
    MIRROR,
    Stand,
    bolt_lines,
    lie_on,
    pull_angle,
    runs_through,
    signed,
    twin_lines,
)
from tirante.core.sheet.joggle import joggle
from tirante.core.sheet.lapped import Lapped, lapped
from tirante.core.units import STEEL_DENSITY

Array = NDArray[np.float64]
LEAST_RADIUS = 1.0  # of the plate’s thickness, inside, across the grain; common practice, no source
ALIKE = 0.02  # mm of a joggle that is none
FEET_LONG = (1.2, 1.8, 2.5)  # widths that a foot lies, that are tried; common practice, no source
LEAST_BEND = 10.0  # °, of a joggle's bends: a flatter one is not set reliably; common practice, no source
NOT_CHECKED = (
    *OF_TABS[:-1], "room for link, bolt, spanner and torch (to be looked at under Room)", "cracks at the bends: bent across the grain, at no less than the plate’s least radius",
    "the fillet along a hook’s end: not counted on",
)  # fmt: skip


class LappedOwn(Out):
    """What only a lapped plate has [mm]."""

    kind: Literal["lapped_plate"] = "lapped_plate"
    flat_mm: float
    lever_mm: float
    set_deg: float | None
    holds: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class LappedMade:
    """A lapped plate with its flat and what it holds."""

    flat: Lapped
    joints: tuple[JointMade, ...]
    stands: tuple[Stand | None, ...]
    set_deg: tuple[
        float | None, float | None
    ]  # to which a joggle's bends are bent under load, and a hook's; None: there is none, or it springs back flat


def flat_of(saved: LappedPlate) -> Lapped:
    """Its flat pattern.

    Args:
        saved: as it is.

    Raises:
        InputError, NotApplicable: with its own fields.
    """
    found = lapped(
        saved.plate.mm, saved.base_width.mm, saved.foot_mm, saved.height.mm, (saved.head_radius.mm, saved.edge.mm, saved.hole.mm),
        (saved.offset_mm, radians(saved.bend_deg)), saved.flange_mm, saved.radius_mm, saved.k_factor, saved.die_mm,
        saved.corner_mm,
    )  # fmt: skip
    more = LAPPED_PLATE.more_holes(saved, 0.0, found.hole_at)
    return replace(found, contour=replace(found.contour, holes=(*found.contour.holes, *(replace(one, x=one.y, y=one.x) for one in more))))  # fmt: skip


def fitted_lapped(saved: LappedPlate, stand: Stand, made: JointMade | None) -> LappedPlate:
    """Joggled as far as its joint stands over the face, reaching to it, its bends as flat as that asks.

    Args:
        saved: as it is.
        stand: where.
        made: its joint; None: not known, so its joggle stays.
    """
    one = stand.standing
    assert one.lies
    change: dict[str, Any] = {"wall_mm": stand.mount.shape.wall_mm}
    if one.lies.past:
        change |= {"height": Length(mm=round(one.height, 2)), "height_fixed": True}
    if made is not None:
        offset = one.lies.high - (over_face(saved, made) - saved.offset_mm)
        change["offset_mm"] = 0.0 if offset < ALIKE else round(offset, 2)
        if offset >= ALIKE:
            # both bends alone set it off by 2 (R + t/2)(1 − cos): no steeper than leaves them room
            share = offset / (2 * (saved.radius_mm + saved.plate.mm / 2))
            most = degrees(acos(max(-1.0, 1.0 - share))) if share < 2 else 90.0
            change["bend_deg"] = max(LEAST_BEND, min(saved.bend_deg, 90.0, float(floor(most))))
    if saved.flange_mm > 0 and np.isfinite(one.lies.room):
        change["foot_mm"] = one.lies.room
    elif np.isfinite(one.lies.room):
        change["foot_mm"] = min(saved.foot_mm, float(floor(one.lies.room)))
    angle = pull_angle(stand)
    if angle is not None:
        change["load_angle_deg"] = round(angle, 1)
    return saved.model_copy(update=change)


def lies_true(saved: LappedPlate, stand: Stand, made: JointMade | None) -> tuple[Misfit, ...]:
    """Whether a plate is made for the face that it lies on, and reaches to its joint.

    Args:
        saved: as it is saved.
        stand: where.
        made: its joint; None: not known.
    """
    one, name = stand.standing, stand.mount.name
    lies, out = one.lies, []
    assert lies
    if lies.past and abs(saved.height.mm - one.height) > CUT_TRUE:
        out.append(Misfit(field="height", message=f"Its hole stands {saved.height.mm:.1f} mm past {name}, and the joint {one.height:.1f} mm. Fit it to what it stands on."))  # fmt: skip
    if made is not None and abs(over_face(saved, made) - lies.high) > CUT_TRUE:
        has, least = over_face(saved, made), over_face(saved, made) - saved.offset_mm
        message = (
            f"It holds the joint {has:.1f} mm over {name}, and the joint stands {lies.high:.1f} mm. Fit it to what it stands on."
            if lies.high >= least - CUT_TRUE
            else f"The joint stands {lies.high:.1f} mm over {name}; plate, spacers and half of what is held take {least:.1f} mm. Set them further apart, or let plates stand there."
        )
        out.append(Misfit(field="offset_mm", message=message))
    if saved.foot_mm > lies.room + CUT_TRUE:
        out.append(Misfit(field="foot_mm", message=f"Its foot lies {saved.foot_mm:.1f} mm, and {name} has {lies.room:.1f} mm there. Make it shorter, or give it another mount."))  # fmt: skip
    if saved.flange_mm > 0 and (not lies.past or abs(saved.foot_mm - lies.room) > CUT_TRUE):
        told = f"the face is {lies.room:.1f} mm" if lies.past else "its joint is before the face, not past its edge"
        out.append(Misfit(field="flange_mm", message=f"A hook goes over the edge behind the foot: {told}. Fit it to what it stands on, or take the hook off."))  # fmt: skip
    if saved.flange_mm > 0 and saved.wall_mm and saved.radius_mm > CORNER_OF_WALL * saved.wall_mm + CUT_TRUE:
        out.append(Misfit(field="radius_mm", message=f"A box of {saved.wall_mm:g} mm has corners of {CORNER_OF_WALL * saved.wall_mm:g} mm: a bend of {saved.radius_mm:g} mm inside rides on them. Bend it tighter, or take the hook off."))  # fmt: skip
    through = runs_through(stand)
    if through:
        out.append(Misfit(field="mount", message=through))
    if one.along is not None and one.length is not None and one.run is not None:
        half = saved.base_width.mm / 2 if lies.past else 0.0
        over = max(half - one.along, one.along + half - one.length)
        if over > CUT_TRUE:
            out.append(Misfit(field="base_width", message=f"It reaches {over:.1f} mm past the end of {name}. Make it narrower, or give it another mount."))  # fmt: skip
    if one.across is not None and not lies.past:
        way, middle, wide = one.across
        over = abs(float(one.foot @ way) - middle) + saved.base_width.mm / 2 - wide
        if over > CUT_TRUE:
            out.append(Misfit(field="base_width", message=f"It reaches {over:.1f} mm past {name} ({one.where}). Make it narrower, or give it another mount."))  # fmt: skip
    return tuple(out)


def right_side_lacks(stand: Stand) -> str:
    """Why a plate that lies on the left does not lie on the right as its mirror image; empty where it does.

    Args:
        stand: of the left one.
    """
    at, one, name = stand.at, stand.standing, stand.mount.name
    assert at.bolt is not None
    if abs(float(at.at[1])) < CUT_TRUE:
        return ""
    try:
        two = lie_on(stand.mount, replace(at, at=at.at * MIRROR, bolt=signed(at.bolt * MIRROR))).standing
    except NotApplicable as error:
        return f"On the right {name} does not hold it: {error.message}"
    assert one.lies
    assert two.lies
    same = one.lies.past == two.lies.past and abs(one.lies.high - two.lies.high) < CUT_TRUE and abs(one.height - two.height) < CUT_TRUE  # fmt: skip
    beyond = two.along is not None and two.length is not None and not 0.0 <= two.along <= two.length
    if same and not beyond:
        return ""
    return f"On the right {name} {'does not reach it' if beyond else 'lies otherwise under it than on the left'}. Say that the mount stands on both sides, or give the right one a bracket of its own."


class LappedKind(HoledKind[LappedPlate]):
    """Lapped plates."""

    ears_of_flat = 1

    key = "lapped_plate"
    word = "lapped plate"
    saved = LappedPlate
    own = LappedOwn
    has_room = True
    thickest = 12.0
    searches = "Plates of the usual thicknesses, folded ones to 8 mm, of several widths, feet of several lengths, and every bolt that goes through are judged against all checks."
    fields = (
        where_fields(LappedPlate, "Wall it is welded to"),
        FieldGroup(title="Plate", fields=[
            Field(path="plate", label="Thickness", control="length"),
            Field(path="hole", label="Hole", control="length"),
            Field(path="head_radius", label="Head radius", control="length"),
            Field(path="edge", label="Hole to free end", control="length"),
            Field(path="base_width", label="Wide", control="length"),
            Field(path="height", label="From what it lies on to the hole", control="length"),
            switch("height_fixed", "its reach is given: sizing keeps it"),
            number(LappedPlate, "foot_mm", "It lies on that by", "mm"),
            number(LappedPlate, "corner_mm", "Corners of its far end, radius; 0: sharp", "mm"),
            *metal_fields(LappedPlate),
        ]),
        FieldGroup(title="Joggle and hook", note="how far it is set off follows from its joint, where it is on a mount", fields=[
            number(LappedPlate, "offset_mm", "Set off the face by a joggle; 0: straight", "mm"),
            number(LappedPlate, "bend_deg", "Either bend of the joggle", "°"),
            number(LappedPlate, "flange_mm", "Flange hooked over the edge behind it; 0: none", "mm"),
            number(LappedPlate, "radius_mm", "Bends, inside radius", "mm"),
        ]),
        folding_fields(LappedPlate),
        LIGHTEN_FIELDS,
        EXTRA_FIELDS,
        BOLT_FIELDS,
        FieldGroup(title="Load and weld", fields=[
            number(LappedPlate, "load_angle_deg", "Pull from the plate’s axis, at ride height", "°", optional=True, empty="not known: every way"),
            number(LappedPlate, "weld_leg_mm", "Fillet leg", "mm"),
        ]),
    )  # fmt: skip

    def fillets(self, saved: LappedPlate, made: JointMade, stand: Stand) -> tuple[Fillet, ...]:
        """Along both sides of its foot, and its end where it has no hook."""
        del made
        one, found = stand.standing, []
        for x1, y1, x2, y2 in weld_runs(saved):
            a, b = (one.foot + x * one.x + y * one.y for x, y in ((x1, y1), (x2, y2)))
            found.append(straight_fillet("the sides of its foot", a, b, one.bolt, np.sign(x1) * one.x) if x1 == x2 else straight_fillet("the end of its foot", a, b, one.bolt, -one.y))  # fmt: skip
        return tuple(found)

    def lowest(self, saved: LappedPlate) -> float:
        """As far past its joggle as its own hole; of a straight plate where its weld leaves it."""
        if saved.offset_mm <= 0:
            return 0.0
        made = joggle(saved.plate.mm, saved.radius_mm, radians(saved.bend_deg), saved.offset_mm, 0.0, 0.0, saved.k_factor)  # fmt: skip
        return made.run + 2 * saved.plate.mm + saved.radius_mm

    def holed_checks(self, saved: LappedPlate, made: JointMade, settings: Settings) -> list[CheckResult]:
        """What is left of it across its further holes and its lightening hole, in single shear."""
        pair = as_pair(saved)
        if not pair.extra and pair.lighten is None:
            return []
        return [holed_check(saved, sections_of(pair, self.ears(saved, made.gap)), made, settings)]

    def checks_at(
        self, saved: LappedPlate, made: JointMade, stand: Stand | None, settings: Settings
    ) -> list[CheckResult]:
        """All checks of it at a joint; none while no bolt is chosen."""
        if made.bolt is None:
            return []
        return [*lapped_checks(saved, made, stand, settings), *self.holed_checks(saved, made, settings)]

    def begun(self, pair: TabPair) -> LappedPlate:
        """One in the place of a pair of tabs."""
        return lapped_for(pair, None, None)

    def fitted(self, saved: LappedPlate, stand: Stand, made: JointMade | None) -> LappedPlate:
        """Made for what it stands on."""
        return fitted_lapped(saved, stand, made)

    def as_pair(self, saved: LappedPlate) -> TabPair:
        """Its head and hole as those of a pair of tabs."""
        return as_pair(saved)

    def judged(
        self, saved: LappedPlate, made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> tuple[CheckResult, ...]:
        """Its checks, weakest first; a flat that cannot be made is refused."""
        if flat_of(saved).contour.bends and saved.plate.mm > THICKEST:
            raise InputError(f"A plate of {saved.plate.mm:g} mm is folded on no shop’s brake: {THICKEST:g} mm at most (common practice).", code="out_of_range", fields=("plate",), value=saved.plate.mm, limits=(None, THICKEST))  # fmt: skip
        on = stands if len(stands) == len(made) else [None] * len(made)
        every = [c for one, stand in zip(made, on, strict=True) for c in self.checks_at(saved, one, stand, settings)]
        return weakest_first(weaker_of_each(every))

    def proportioned(self, saved: LappedPlate, made: JointMade, plate: float, wider: float) -> Sequence[LappedPlate]:
        """Its sizes for a bolt and a plate, on feet of several lengths."""
        assert made.bolt
        sizes = proportioned(made.held.row, made.bolt, plate, as_pair(saved))
        width = round(sizes["base_width"].mm * wider, 1)
        one = saved.model_copy(update={
            **sizes, "base_width": Length(mm=width), "radius_mm": max(saved.radius_mm, LEAST_RADIUS * plate),
            "weld_leg_mm": max(saved.weld_leg_mm, min(plate, USUAL_LEG)),
        })  # fmt: skip
        if saved.flange_mm > 0:
            return (one,)
        return [one.model_copy(update={"foot_mm": float(ceil(long * width))}) for long in FEET_LONG]

    def fit(self, saved: LappedPlate, made: JointMade, stands: Sequence[Stand]) -> LappedPlate:
        """Joggled and as long as its face asks; where nothing says how far it reaches, as near as its bends and its weld let it."""
        one = fitted_lapped(saved, stands[0], made) if stands else saved
        if one.height_fixed:
            return one
        for _ in range(2):
            try:
                flat_of(one)
            except (InputError, NotApplicable) as error:
                if "reach_mm" in error.fields and error.limits and error.limits[0]:
                    one = one.model_copy(update={"height": Length(mm=float(ceil(error.limits[0])))})
        return one

    def past(self, saved: LappedPlate, stands: Sequence[Stand], made: JointMade) -> str:
        """Why it does not lie on its mounts."""
        return next((fault.message for one in stands for fault in lies_true(saved, one, made)), "")

    def area(self, saved: LappedPlate, gap: float) -> float:
        """Of its flat [mm²]."""
        del gap
        return flat_of(saved).contour.area

    def work_out(self, saved: LappedPlate, around: Around) -> Part:
        """Flat, checks at every joint that it holds, the plate to cut, bolts beside."""
        made, stands, faults = joints_held(
            saved.id, saved.hole.mm, around, lambda one, stand: _faults_at(saved, one, stand)
        )
        flat: Lapped | None = None
        checks: list[CheckResult] = []
        try:
            flat = flat_of(saved)
            if not faults:
                checks = [c for one, stand in zip(made, stands, strict=True) for c in self.checks_at(saved, one, stand, around.settings)]  # fmt: skip
        except (InputError, NotApplicable) as error:
            faults += shape_faults(error, reach_mm="height", angle_deg="bend_deg")
        pair = as_pair(saved)
        walls = [wall for stand in stands if isinstance(wall := wall_under(stand), str)]
        leaning = [told for stand in stands if stand is not None for told in leaning_told(stand)]
        unlooked = dict.fromkeys(
            [*NOT_CHECKED, *walls, *leaning, *(told for one in made for told in one.held.not_checked)]
        )
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_carried": TAB_PAIR.not_carried_by(pair, around), "not_checked": tuple(unlooked),
            "made_of": (f"plate {saved.plate.mm:g} mm", saved.grade_name),
        }  # fmt: skip
        if faults or flat is None or not made:
            return Part(**common, faults=tuple(faults))
        low_x, low_y, high_x, high_y = flat.contour.bounds
        bends = len(flat.contour.bends)
        plate = PlatePiece(
            name="", material=saved.grade_name, thickness=saved.plate.mm, length=high_y - low_y, width=high_x - low_x, outline=flat.contour,
            told=f"hole {saved.hole.mm:g} mm{more_told(pair, flat.contour, 1)}{f', {bends} bends' if bends else ''}", count=len(made), sort="folded" if bends else "tab",
        )  # fmt: skip
        beside: list[Piece] = [piece for one in made for piece in hardware_of(one, saved.plate.mm)]
        bent_to = set_to(saved)
        return Part(
            **common, pieces=(plate,), beside=tuple(beside), checks=weakest_first(weaker_of_each(checks)),
            mass=flat.contour.area * saved.plate.mm * len(made) * STEEL_DENSITY,
            views=(View(name="lapped", title="from its side, and flat"), View(name="lapped-flat", title="1:1 template", cut=True, plate="", told=_told(saved, flat))),
            card=_card(saved, flat, made, stands, bent_to), notes=tuple(_notes(saved, flat, judged=bool(stands) and not walls)),
            own=LappedMade(flat=flat, joints=tuple(made), stands=tuple(stands), set_deg=bent_to),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """From its side beside its flat, or flat at 1:1."""
        saved, made = part.saved, part.own
        assert isinstance(saved, LappedPlate)
        assert isinstance(made, LappedMade)
        if asked.name == "lapped":
            return lapped_sheet(saved, made.flat, made.joints[0], numbers)
        if asked.name == "lapped-flat":
            return lapped_flat(made.flat)
        return super().draw(part, asked, numbers)

    def told(self, part: Part) -> LappedOwn | None:
        """Its developed length, how far the joint stands off it, and to what its bends are set."""
        made, saved = part.own, part.saved
        if not isinstance(made, LappedMade) or not isinstance(saved, LappedPlate):
            return None
        _, low, _, high = made.flat.contour.bounds
        lever = over_face(saved, made.joints[0]) - saved.plate.mm / 2
        return LappedOwn(flat_mm=high - low, lever_mm=lever, set_deg=made.set_deg[0], holds=[one.held.name for one in made.joints])  # fmt: skip


def _faults_at(saved: LappedPlate, made: JointMade, stand: Stand | None) -> list[Misfit]:
    """What does not go together at one of its joints."""
    if stand is None:
        return []
    faults = [*lies_true(saved, stand, made), *leans_too_far(made, stand)]
    lacks = right_side_lacks(stand) if saved.side == "pair" else ""
    return [*faults, *([Misfit(field="mount", message=lacks)] if lacks else [])]


def lapped_flats(saved: LappedPlate, flat: Lapped, stand: Stand) -> tuple[Flat, ...]:
    """Its foot, joggle, tongue and hook as they stand in the car, its bends in slices.

    Args:
        saved: as it is.
        flat: of it.
        stand: where.
    """
    one, t, w = stand.standing, saved.plate.mm, saved.base_width.mm / 2
    run = flat.joggle.run if flat.joggle else 0.0
    shift = flat.hole_at - saved.height.mm  # of the tongue in the flat, from where it is folded
    tongue = np.array([(x, y - shift) for x, y in contour_points(flat.contour) if y - shift > run])
    tongue = np.concatenate([tongue, [(-w, run), (w, run)]]) if flat.joggle is None or len(tongue) else tongue
    hull = tongue[np.argsort(np.arctan2(tongue[:, 1] - tongue[:, 1].mean(), tongue[:, 0]))]
    ends = (
        -(saved.foot_mm - saved.radius_mm) if flat.hook else -saved.foot_mm
    )  # of the foot’s flat, where a hook’s bend begins
    foot = np.array([(-w, ends), (w, ends), (w, 0.0), (-w, 0.0)])
    found = [
        Flat(outline=foot, at=one.foot + one.bolt * t / 2, x=one.x, y=one.y, thickness=t, name="its foot"),
        Flat(outline=hull, at=one.foot + one.bolt * (saved.offset_mm + t / 2), x=one.x, y=one.y, thickness=t, name="its tongue"),
    ]  # fmt: skip

    def slices(name: str, begins: float, long: float, parts: int, turn: float) -> None:
        """The plate from a place of the flat on, in slices along it; round ones as much fuller as their chords leave out."""
        more = (saved.radius_mm + t) * (1.0 - cos(turn / parts / 2))
        for i in range(parts):
            ends_at = [begins + long * (i + j) / parts for j in (0, 1)]
            inner, outer = ([np.array(flat.folded(at, depth)) for at in ends_at] for depth in (-more, t + more))
            ring = np.array([*inner, *reversed(outer)])
            found.append(Flat(outline=ring, at=one.foot, x=one.y, y=one.bolt, thickness=2 * w, name=name))

    if flat.joggle is not None:
        a, angle = flat.joggle.bend.allowance, flat.joggle.bend.angle
        for begins, long, parts, turn in (
            (0.0, a, SLICES, angle),
            (a, flat.joggle.straight, 1, 0.0),
            (a + flat.joggle.straight, a, SLICES, angle),
        ):
            slices("its joggle", begins, long, parts, turn)
    if flat.hook is not None:
        a, angle = flat.hook.allowance, flat.hook.angle
        straight = saved.flange_mm - saved.radius_mm - t
        slices("its hook", ends, -a, SLICES, angle)
        slices("its hook", ends - a, -straight, 1, 0.0)
    return tuple(found)


SLICES = 4  # of a bend, that the room is looked at by


def set_to(saved: LappedPlate) -> tuple[float | None, float | None]:
    """To which the bends of its joggle and of its hook are bent under load [°].

    Args:
        saved: as it is.
    """
    return (
        set_angle(saved, radians(saved.bend_deg)) if saved.offset_mm > 0 else None,
        set_angle(saved) if saved.flange_mm > 0 else None,
    )


def lapped_for(pair: TabPair, stand: Stand | None, made: JointMade | None) -> LappedPlate:
    """A lapped plate where a pair of tabs was proposed.

    Args:
        pair: proposed.
        stand: where; None: not said.
        made: its joint; None: not known.
    """
    half = pair.head_radius.mm
    one = LappedPlate(
        id=pair.id, name=pair.name.replace(", tabs", ", lapped plate"), side=pair.side, plate=pair.plate, radius_mm=max(3.0, pair.plate.mm), hole=pair.hole,
        head_radius=pair.head_radius, edge=pair.edge, base_width=Length(mm=max(2 * half, pair.base_width.mm)), height=Length(mm=max(pair.height.mm, 2 * half)),
    )  # fmt: skip
    return one if stand is None else LAPPED_PLATE.fit(one, made, (stand,)) if made else fitted_lapped(one, stand, None)


def _told(saved: LappedPlate, flat: Lapped) -> str:
    side = " The right side’s is the same." if saved.side == "pair" else ""
    bends = ": bend lines dashed, seen from the side away from what it lies on" if flat.contour.bends else ""
    return f"{saved.plate.mm:g} mm {saved.grade_name}{bends}.{side}"


def _notes(saved: LappedPlate, flat: Lapped, *, judged: bool) -> list[str]:
    notes = ["it holds its joint from one side alone: its bolt and the plate are bent by all that pulls there; plates to either side bear several times as much"]  # fmt: skip
    least = LEAST_RADIUS * saved.plate.mm
    if flat.contour.bends and saved.radius_mm < least - 1e-9:
        notes.append(f"bent at {saved.radius_mm:g} mm inside, tighter than the plate is thick ({least:g} mm): it may crack; bend it across the grain, or at {least:g} mm")  # fmt: skip
    opening = saved.die_mm or 8 * saved.plate.mm
    if flat.joggle is not None and flat.joggle.straight + 2 * flat.joggle.bend.setback < opening / 2:
        notes.append(f"between its bends {flat.joggle.straight:.1f} mm are straight: too little for a die of {opening:.0f} mm, one bend after the other; press both at once over packing")  # fmt: skip
    if saved.wall_mm is not None and saved.wall_mm < saved.plate.mm and not judged:
        notes.append(f"what it is welded to is {saved.wall_mm:g} mm, thinner than the plate")
    return notes


def _card(
    saved: LappedPlate, flat: Lapped, made: Sequence[JointMade], stands: Sequence[Stand | None], bent_to: tuple[float | None, float | None]
) -> Card:  # fmt: skip
    _, low, _, high = flat.contour.bounds
    many = len(made) * saved.count
    by = "the shop’s own test bend" if saved.ratio is not None else "elasticity, not tried"
    lines = [
        CardLine(text="wide", mm=saved.base_width.mm),
        across(text="hole, drilled flat", mm=saved.hole.mm),
        *lighter_lines(as_pair(saved), LAPPED_PLATE.on_foot(saved, 0.0)[0]),
        *extra_lines(saved.extra),
        CardLine(text="lies on its face by", mm=saved.foot_mm, strong=True),
        *([CardLine(text="corners of its far end round, radius", mm=saved.corner_mm)] if saved.corner_mm else []),
        CardLine(text="from there to the hole, folded", mm=saved.height.mm, strong=True),
    ]
    if flat.joggle is not None:
        first, second = (bend.line.y1 for bend in flat.contour.bends[:2])
        lines += [
            CardLine(text="set off its face by", mm=saved.offset_mm, strong=True),
            CardLine(text="bend line to bend line, flat", mm=second - first),
            CardLine(text="hole’s middle to the nearer bend line, flat", mm=flat.hole_at - second),
            CardLine(text=f"the first bend up, the second down, {saved.bend_deg:g}° each, R {saved.radius_mm:g} inside; {_set(bent_to[0], by)}"),
        ]  # fmt: skip
    if flat.hook is not None:
        lines.append(CardLine(text=f"flange hooked over the edge, down by 90°, R {saved.radius_mm:g} inside; {_set(bent_to[1], by)}; outside", mm=saved.flange_mm))  # fmt: skip
    bolt = made[0].bolt.label if made[0].bolt else "bolt"
    end = "both sides" if saved.flange_mm > 0 else "both sides and its end"
    lines += [
        CardLine(text=f"welded along {end}, not across where it leaves the face; leg", mm=thinner_leg(saved)),
        CardLine(text=f"{bolt}, from one side, grip", mm=made[0].gap + saved.plate.mm),
    ]
    for stand in stands:
        lines += lying_lines(stand, saved.side) if stand else []
    return Card(
        figures=(Figure(label=f"Cut {many}, long", mm=high - low, note=f"{saved.plate.mm:g} mm {saved.grade_name}"),),
        lines=tuple(lines),
    )


def _set(to: float | None, by: str) -> str:
    return f"set to {to:.1f}° ({by})" if to else "it springs back further than can be set: try a test bend"


def lying_lines(stand: Stand, side: str) -> list[CardLine]:
    """Where it lies, from what can be touched.

    Args:
        stand: where.
        side: of the plate.
    """
    one, name = stand.standing, stand.mount.name
    lines = []
    if one.along is not None:
        where = "its middle" if one.lies and one.lies.past else "under the joint"
        lines.append(CardLine(text=f"on the {one.where} of {name}, {where} from its first end, along it", mm=one.along, strong=True))  # fmt: skip
    return [*lines, *bolt_lines(stand), *twin_lines(stand, side)]


LAPPED_PLATE = LappedKind()
