"""The sleeve through a box: turned, welded to both walls, a joint's bolt right through it, the joint before the near wall in single shear."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import ceil, cos, pi, sin
from typing import Any, Literal

import numpy as np

from tirante.core.brackets import rail_sleeve as method
from tirante.core.brackets.bolt import bolt_class, tightening
from tirante.core.brackets.bolted_foot import sleeve_stress
from tirante.core.brackets.mount_wall import Wall
from tirante.core.brackets.rail_sleeve import ThroughBox
from tirante.core.brackets.tools import Fillet, ring_fillet
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, weaker_of_each, weakest_first, worst_of
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, number
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.rail_sleeve import RailSleeve
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError, NotApplicable
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.members.thread import parse_thread
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.eared import where_fields
from tirante.core.parts.bracket.families.held import joints_held, leaning_told, leans_too_far
from tirante.core.parts.bracket.families.lapped import lying_lines, right_side_lacks
from tirante.core.parts.bracket.families.lapped_checks import wall_under
from tirante.core.parts.bracket.families.pad import Flat
from tirante.core.parts.bracket.families.rail_sleeve_view import sleeve_sheet
from tirante.core.parts.bracket.families.searched import SearchedBracket
from tirante.core.parts.bracket.families.tab_checks import NOT_CHECKED as OF_TABS
from tirante.core.parts.bracket.families.tab_checks import pin_checks
from tirante.core.parts.bracket.families.tab_fields import BOLT_FIELDS, shape_faults
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import FEET, STOCK, USUAL_LEG
from tirante.core.parts.joint import JointMade, hardware_of
from tirante.core.parts.kind import Changed, ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, Turned, View, across
from tirante.core.parts.stands import CORNER_OF_WALL, CUT_TRUE, Stand, runs_through
from tirante.core.parts.turned import turned_piece, turned_sheet, turned_views
from tirante.core.units import STEEL_DENSITY

OVER_BOLT = (8.0, 10.0, 12.0, 16.0, 20.0, 26.0, 32.0)  # mm over the bore, that are tried; common practice, no source
LEAST_LEG = 3.0  # mm, of those that are tried
UNKNOWN_WALL = (
    6.0  # mm, of a box whose wall is not known: a thick one holds the sleeve further from the joint; taken, no source
)
FROM_END = 1.0  # diameters of the sleeve, from the box's sawn end to its middle; common practice, no source
FREE = 0.5  # mm of a bore over its bolt; common practice, no source
HALFWAY = 0.7  # of a bolt's way along a box's height: it goes that way, not across
AROUND = 24  # corners of it as a solid
THROUGH_A_BOX = "A sleeve goes through a box, and {name} is none. Give it another mount, or take another bracket."
NOT_CHECKED = (
    *(one for one in OF_TABS if not one.startswith(("room", "a bolt"))),
    "a bolt that is not torqued (it is taken as clamping the joint on the sleeve)",
    "the box itself, bored through both of its walls: what it carries there with so much less metal",
    "walls of the box that are not alike",
    "room for link, bolt, spanner and torch (to be looked at under Room)",
)


class RailSleeveOwn(Out):
    """What only a sleeve through a box has [mm]."""

    kind: Literal["rail_sleeve"] = "rail_sleeve"
    length_mm: float
    lever_mm: float
    holds: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class SleeveMade:
    """A sleeve with what it holds."""

    turned: Turned
    joints: tuple[JointMade, ...]
    stands: tuple[Stand | None, ...]


def as_pair(saved: RailSleeve) -> TabPair:
    """What it is to joint and pin, as a pair of tabs.

    Args:
        saved: as it is.
    """
    half, outside = Length(mm=saved.sleeve_od_mm / 2), Length(mm=saved.sleeve_od_mm)
    return TabPair(
        id=saved.id, name=saved.name, side=saved.side, plate=Length(mm=saved.length_mm), hole=Length(mm=saved.bore_mm), head_radius=half, edge=half,
        base_width=outside, height=outside,
    )  # fmt: skip


def lever_of(saved: RailSleeve, made: JointMade) -> float:
    """From the near face to the joint's middle, along the bolt [mm].

    Args:
        saved: as it is.
        made: the joint.
    """
    return saved.proud_mm + made.beside + made.held.row.ball_width_mm / 2


def through_box(saved: RailSleeve) -> ThroughBox:
    """It with its box.

    Args:
        saved: as it is.
    """
    return ThroughBox(
        outside=saved.sleeve_od_mm, bore=saved.bore_mm, through=saved.through_mm, wall=saved.wall_mm or min(UNKNOWN_WALL, saved.through_mm / 4), proud=saved.proud_mm
    )  # fmt: skip


def counted_leg(saved: RailSleeve) -> float:
    """The leg of its fillets that is counted on: no more than the thinner of both walls [mm].

    Args:
        saved: as it is.
    """
    own = (saved.sleeve_od_mm - saved.bore_mm) / 2
    return min(saved.weld_leg_mm, own, saved.wall_mm or own)


def fitted_sleeve(saved: RailSleeve, stand: Stand, made: JointMade | None) -> RailSleeve:
    """As long as its box is wide there, standing out to where its joint stands.

    Args:
        saved: as it is.
        stand: where.
        made: its joint; None: not known, so it stands out as it did.
    """
    change: dict[str, Any] = {"wall_mm": stand.mount.shape.wall_mm}
    lies = stand.standing.lies
    assert lies
    if lies.through is not None:
        change["through_mm"] = lies.through
    if made is not None:
        change["proud_mm"] = max(0.0, round(lies.high - (lever_of(saved, made) - saved.proud_mm), 2))
    return saved.model_copy(update=change)


def goes_true(saved: RailSleeve, stand: Stand, made: JointMade | None) -> tuple[Misfit, ...]:
    """Whether it goes through the box that it is given, and stands out to its joint.

    Args:
        saved: as it is.
        stand: where.
        made: its joint; None: not known.
    """
    one, name, out = stand.standing, stand.mount.name, []
    lies = one.lies
    assert lies
    if lies.through is None:
        return (Misfit(field="mount", message=THROUGH_A_BOX.format(name=name)),)
    if lies.past:
        return (Misfit(field="mount", message=f"Its joint is {one.height:.1f} mm past the edge of {name}: a sleeve there misses it. Move one of them, or let a plate reach over."),)  # fmt: skip
    if abs(saved.through_mm - lies.through) > CUT_TRUE:
        out.append(Misfit(field="through_mm", message=f"It is made for a box of {saved.through_mm:.1f} mm, and {name} is {lies.through:.1f} mm through there. Fit it to what it stands on."))  # fmt: skip
    if made is not None and abs(lever_of(saved, made) - lies.high) > CUT_TRUE:
        has, least = lever_of(saved, made), lever_of(saved, made) - saved.proud_mm
        message = (
            f"It holds the joint {has:.1f} mm before {name}, and the joint stands {lies.high:.1f} mm. Fit it to what it stands on."
            if lies.high >= least - CUT_TRUE
            else f"The joint stands {lies.high:.1f} mm before {name}; spacers and half of what is held take {least:.1f} mm. Set them further apart."
        )
        out.append(Misfit(field="proud_mm", message=message))
    through_it = runs_through(stand)
    if through_it:
        out.append(Misfit(field="mount", message=through_it))
    half, wall = saved.sleeve_od_mm / 2, stand.mount.shape.wall_mm or 0.0
    assert one.across is not None
    way, middle, wide = one.across
    over = abs(float(one.foot @ way) - middle) + half - (wide - CORNER_OF_WALL * wall)
    if over > CUT_TRUE:
        out.append(Misfit(field="sleeve_od_mm", message=f"It reaches {over:.1f} mm into the corner of {name}, where the wall is round. Make it smaller outside, or move the joint nearer to the face’s middle."))  # fmt: skip
    if one.along is not None and one.length is not None:
        near = min(one.along, one.length - one.along)
        if near < FROM_END * saved.sleeve_od_mm - CUT_TRUE:
            out.append(Misfit(field="mount", message=f"Its middle is {near:.1f} mm from the end of {name}, less than it is wide ({saved.sleeve_od_mm:g} mm). Make the box longer, or move the joint."))  # fmt: skip
    return tuple(out)


def leg_lacks(saved: RailSleeve) -> tuple[Misfit, ...]:
    """Whether its fillets have room on what stands out.

    Args:
        saved: as it is.
    """
    out = []
    for field, stands_out, where in (("proud_mm", saved.proud_mm, "before the near"), ("far_mm", saved.far_mm, "behind the far")):  # fmt: skip
        if stands_out < saved.weld_leg_mm - 1e-9:
            out.append(Misfit(field=field, message=f"It stands {stands_out:.1f} mm out {where} face: too little for a fillet of {saved.weld_leg_mm:g} mm. Let it stand out as much, the joint further from the box where that asks for it, or lay less."))  # fmt: skip
    return tuple(out)


def _forces(case: CaseSeen, factor: float) -> list[tuple[float, float]]:
    """Square to the bolt and along it: what goes across what is held may point either way."""
    pull, side = abs(case.axial_n) * factor, abs(case.across_n) * factor
    return [(pull, side), (float(np.hypot(pull, side)), 0.0)]


def sleeve_checks(saved: RailSleeve, made: JointMade, wall: Wall | None, settings: Settings) -> list[CheckResult]:
    """All checks of it at a joint; none while no bolt is chosen.

    Args:
        saved: as it is.
        made: the joint.
        wall: of the box; None: not known, so it is not judged.
        settings: factors.
    """
    bolt = made.bolt
    if bolt is None:
        return []
    # the bolt is held a radius inside the mouth of its bore
    pin = as_pair(saved).model_copy(update={"plate": Length(mm=bolt.diameter_mm)})
    sleeve, lever = through_box(saved), lever_of(saved, made)
    own = {
        "outside_mm": sleeve.outside, "bore_mm": sleeve.bore, "through_mm": sleeve.through, "wall_mm": sleeve.wall, "proud_mm": sleeve.proud, "lever_mm": lever,
        "bolt_mm": bolt.diameter_mm, "leg_mm": counted_leg(saved),
    }  # fmt: skip

    def worst(key: str, of: str, demand: Callable[[float, float], float], capacity: float, output: str, note: str = "", **more: Any) -> CheckResult:  # fmt: skip
        kind = asked(key, of, settings.factors)

        def attempt(case: CaseSeen) -> Try | None:
            if case.axial_n == 0 and case.across_n == 0:
                return None
            pull, push = max(_forces(case, kind.factor), key=lambda one: demand(*one))
            data = {**own, **more, "pull_n": pull, "push_n": push}
            return Try(demand=demand(pull, push), capacity=capacity, topic="rail-sleeve", input=data, output=output, figure="demand", note=note)  # fmt: skip

        return worst_of(kind, made.held.cases, attempt)

    def near(pull: float) -> float:
        return method.on_walls(sleeve, lever, pull).near

    throat = THROAT_OF_LEG * counted_leg(saved)
    found = [
        *pin_checks(pin, made, bolt, settings, planes=1),
        worst("sleeve_bent", "sleeve", lambda pull, _: method.bent(sleeve, lever, pull), saved.yield_mpa, "bending_mpa"),
        worst("sleeve_mouth", "sleeve", lambda pull, _: method.pressed(sleeve, bolt.diameter_mm, lever, pull), method.BEARING * saved.yield_mpa, "mouth_mpa"),
        worst("sleeve_ring", "sleeve", lambda pull, push: method.ring_line(sleeve, near(pull), push) / throat if throat else 0.0,
              SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa, "throat_mpa"),
        _crushed(saved, made, settings),
    ]  # fmt: skip
    if wall is not None:
        thin = (
            f"{wall.width / wall.thickness:.0f} times as wide as thick: more than the formula is given for"
            if wall.slender
            else ""
        )
        known: dict[str, Any] = {"yield_mpa": wall.yield_mpa, "width_mm": wall.width}
        found += [
            worst("sleeve_wall", "mount", lambda pull, _: near(pull), method.wall_pressed(sleeve, wall.yield_mpa), "near_n", **known),
            worst("sleeve_pushed", "mount", lambda _, push: push, method.walls_pushed(sleeve, wall), "push_n", thin, **known),
        ]  # fmt: skip
    return found


def _crushed(saved: RailSleeve, made: JointMade, settings: Settings) -> CheckResult:
    """Under the clamp of the bolt at the torque that is told."""
    bolt = made.bolt
    assert bolt
    kind = asked("sleeve_crushed", "sleeve", settings.factors)
    clamp, _ = tightening(bolt.diameter_mm, bolt_class(bolt.strength_class, bolt.diameter_mm), parse_thread(bolt.designation))  # fmt: skip
    stress = sleeve_stress(clamp, saved.sleeve_od_mm, saved.bore_mm)
    data = {"clamp_n": clamp, "outside_mm": saved.sleeve_od_mm, "bore_mm": saved.bore_mm}
    one = CaseSeen(name="as it is torqued", axial_n=clamp)
    return worst_of(kind, (one,), lambda _: Try(demand=stress * kind.factor, capacity=saved.yield_mpa, topic="crush-sleeve", input=data, output="stress_mpa", figure=""))  # fmt: skip


def sleeve_flats(saved: RailSleeve, stand: Stand) -> tuple[Flat, ...]:
    """It as a solid in the car: a plate as thick as it is long.

    Args:
        saved: as it is.
        stand: where.
    """
    one, radius = stand.standing, saved.sleeve_od_mm / 2 / cos(pi / AROUND)
    ring = np.array([(radius * cos(2 * pi * i / AROUND), radius * sin(2 * pi * i / AROUND)) for i in range(AROUND)])
    middle = saved.proud_mm - saved.length_mm / 2
    return (Flat(outline=ring, at=one.foot + one.bolt * middle, x=one.x, y=one.y, thickness=saved.length_mm),)


class RailSleeveKind(SearchedBracket[RailSleeve]):
    """Sleeves through boxes."""

    key = "rail_sleeve"
    word = "sleeve through a box"
    saved = RailSleeve
    own = RailSleeveOwn
    has_room = True
    set_anew = "The sleeve is as it was turned, and goes through elsewhere now, as the lengths say: if it is welded in already, cut it out, or make it anew."
    searches = "Sleeves of several diameters for every bolt that goes through are judged against all checks."
    fields = (
        where_fields(RailSleeve, "Wall of the box"),
        FieldGroup(title="Sleeve", fields=[
            number(RailSleeve, "sleeve_od_mm", "Outside", "mm"),
            number(RailSleeve, "bore_mm", "Bore, for its bolt", "mm"),
            number(RailSleeve, "through_mm", "Box, outside to outside along the bolt", "mm"),
            number(RailSleeve, "proud_mm", "Stands out before the near face", "mm"),
            number(RailSleeve, "far_mm", "Stands out behind the far face", "mm"),
            Field(path="steel_name", label="Metal", control="text"),
            number(RailSleeve, "yield_mpa", "Yield strength, as welded", "MPa"),
            number(RailSleeve, "uts_mpa", "Ultimate strength", "MPa"),
        ]),
        BOLT_FIELDS,
        FieldGroup(title="Weld", fields=[number(RailSleeve, "weld_leg_mm", "Fillet leg, round both ends", "mm")]),
    )  # fmt: skip

    def fillets(self, saved: RailSleeve, made: JointMade, stand: Stand) -> tuple[Fillet, ...]:
        """Round both of its ends."""
        del made
        one, r = stand.standing, saved.sleeve_od_mm / 2
        far = one.foot - saved.through_mm * one.bolt
        return ring_fillet("its near end", one.foot, one.x, one.y, r, one.bolt), ring_fillet("its far end", far, one.x, one.y, r, -one.bolt)  # fmt: skip

    def begun(self, pair: TabPair) -> RailSleeve:
        """One in the place of a pair of tabs."""
        return sleeve_for(pair, None, None)

    def fitted(self, saved: RailSleeve, stand: Stand, made: JointMade | None) -> RailSleeve:
        """Made for what it stands on."""
        return fitted_sleeve(saved, stand, made)

    def as_pair(self, saved: RailSleeve) -> TabPair:
        """Its bore and bolt as those of a pair of tabs."""
        return as_pair(saved)

    def choose(self, saved: RailSleeve, field: str, key: str | None, around: Around, shelf: Catalogue) -> Changed:
        """A spacer or bolt for every joint that it holds; another bolt asks for another bore, and a wall round it."""
        found = TAB_PAIR.choose(self.as_pair(saved), field, key, around, shelf)
        pair = found.parts[0]
        assert isinstance(pair, TabPair)
        bore = pair.hole.mm
        wall = max(saved.sleeve_od_mm - saved.bore_mm, OVER_BOLT[0])
        one = saved if abs(bore - saved.bore_mm) < 1e-9 else saved.model_copy(update={"bore_mm": bore, "sleeve_od_mm": float(ceil(bore + wall))})  # fmt: skip
        return Changed(parts=(one,), joints=found.joints)

    def judged(
        self, saved: RailSleeve, made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> tuple[CheckResult, ...]:
        """Its checks, weakest first."""
        lacks = leg_lacks(saved)
        if lacks:
            raise InputError(lacks[0].message, code="contradictory", fields=(lacks[0].field,))
        on: Sequence[Stand | None] = stands if len(stands) == len(made) else [None] * len(made)
        every = [c for one, stand in zip(made, on, strict=True) for c in sleeve_checks(saved, one, _wall(stand), settings)]  # fmt: skip
        return weakest_first(weaker_of_each(every))

    def proportioned(self, saved: RailSleeve, made: JointMade, plate: float, wider: float) -> Sequence[RailSleeve]:
        """Of a bolt, sleeves of several diameters, the smallest first, each with a usual fillet and a small one; it has no plate."""
        assert made.bolt
        if plate > STOCK[0] or wider > FEET[0]:
            return ()
        bore = made.bolt.diameter_mm + FREE
        legs = sorted({saved.weld_leg_mm, USUAL_LEG, LEAST_LEG}, reverse=True)
        return [
            saved.model_copy(update={"bore_mm": bore, "sleeve_od_mm": float(ceil(bore + over)), "weld_leg_mm": leg, "far_mm": max(saved.far_mm, leg)})
            for over in OVER_BOLT for leg in legs
        ]  # fmt: skip

    def fit(self, saved: RailSleeve, made: JointMade, stands: Sequence[Stand]) -> RailSleeve:
        """As long as its box asks, standing out to its joint."""
        return self.fitted(saved, stands[0], made) if stands else saved

    def past(self, saved: RailSleeve, stands: Sequence[Stand], made: JointMade) -> str:
        """Why it does not go through its mounts."""
        return next((fault.message for one in stands for fault in goes_true(saved, one, made)), "")

    def area(self, saved: RailSleeve, gap: float) -> float:
        """Of its section [mm²]."""
        del gap
        return pi / 4 * (saved.sleeve_od_mm**2 - saved.bore_mm**2)

    def mass(self, saved: RailSleeve, gap: float) -> float:
        """Of one [kg]."""
        return self.area(saved, gap) * saved.length_mm * STEEL_DENSITY

    def stock(self, saved: RailSleeve) -> tuple[str, str]:
        """The bar that it is turned from."""
        return f"⌀{saved.sleeve_od_mm:g} bar", saved.steel_name

    def tried_told(self, tried: int) -> str:
        """How many were tried."""
        return f"{tried} sleeves, fillets and bolts were tried."

    def work_out(self, saved: RailSleeve, around: Around) -> Part:
        """Checks at every joint that it holds, the sleeve to turn, bolts beside."""
        made, stands, faults = joints_held(
            saved.id, saved.bore_mm, around, lambda one, stand: _faults_at(saved, one, stand)
        )
        faults += leg_lacks(saved)
        checks: list[CheckResult] = []
        walls = [wall_of_box(stand) for stand in stands]
        if not faults:
            try:
                checks = [c for one, wall in zip(made, walls, strict=True) for c in sleeve_checks(saved, one, wall if isinstance(wall, Wall) else None, around.settings)]  # fmt: skip
            except (InputError, NotApplicable) as error:
                faults += shape_faults(error)
        leaning = [told for stand in stands if stand is not None for told in leaning_told(stand)]
        unjudged = [wall for wall in walls if isinstance(wall, str)]
        unjudged += (
            [f"how thick the box’s wall is: taken as {through_box(saved).wall:g} mm for where it holds the sleeve"]
            if not saved.wall_mm
            else []
        )
        unlooked = dict.fromkeys([*NOT_CHECKED, *unjudged, *leaning, *(told for one in made for told in one.held.not_checked)])  # fmt: skip
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_carried": TAB_PAIR.not_carried_by(as_pair(saved), around), "not_checked": tuple(unlooked),
            "made_of": (f"⌀{saved.sleeve_od_mm:g} bar", saved.steel_name),
        }  # fmt: skip
        if faults or not made:
            return Part(**common, faults=tuple(dict.fromkeys(faults)))
        turned = Turned(
            material=saved.steel_name, outside=saved.sleeve_od_mm, length=saved.length_mm, bore=saved.bore_mm, fit="free on its bolt",
            notes=("Through both walls of the box, both bored to its outside; welded all round at both.",),
        )  # fmt: skip
        pieces = (turned_piece("sleeve", "sleeve through the box", turned, count=len(made), sort="sleeve"),)
        beside: list[Piece] = [piece for one in made for piece in hardware_of(one, saved.length_mm)]
        return Part(
            **common, pieces=pieces, beside=tuple(beside), checks=weakest_first(weaker_of_each(checks)), mass=self.mass(saved, 0.0) * len(made),
            views=(View(name="sleeve", title="through the box, in section"), *turned_views(pieces)), card=_card(saved, made, stands), notes=tuple(_notes(saved)),
            own=SleeveMade(turned=turned, joints=tuple(made), stands=tuple(stands)),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """In section through its box, or the sleeve as it is turned."""
        saved, made = part.saved, part.own
        assert isinstance(saved, RailSleeve)
        assert isinstance(made, SleeveMade)
        if asked.name == "sleeve":
            return sleeve_sheet(saved, made.joints[0], lever_of(saved, made.joints[0]), numbers)
        return turned_sheet(part, asked.name, numbers) or super().draw(part, asked, numbers)

    def told(self, part: Part) -> RailSleeveOwn | None:
        """Its length, and how far before the box its joint stands."""
        made, saved = part.own, part.saved
        if not isinstance(made, SleeveMade) or not isinstance(saved, RailSleeve):
            return None
        return RailSleeveOwn(length_mm=saved.length_mm, lever_mm=lever_of(saved, made.joints[0]), holds=[one.held.name for one in made.joints])  # fmt: skip


def wall_of_box(stand: Stand | None) -> Wall | str:
    """The wall that its joint stands before; or why it is not judged.

    Args:
        stand: where; None: on nothing that is entered.
    """
    return "the walls of the box: none is entered" if stand is None else wall_under(stand)


def _wall(stand: Stand | None) -> Wall | None:
    found = wall_of_box(stand)
    return found if isinstance(found, Wall) else None


def _faults_at(saved: RailSleeve, made: JointMade, stand: Stand | None) -> list[Misfit]:
    """What does not go together at one of its joints."""
    if stand is None:
        return []
    faults = [*goes_true(saved, stand, made), *leans_too_far(made, stand)]
    lacks = right_side_lacks(stand) if saved.side == "pair" and not faults else ""
    return [*faults, *([Misfit(field="mount", message=lacks)] if lacks else [])]


def sleeve_for(pair: TabPair, stand: Stand | None, made: JointMade | None) -> RailSleeve:
    """A sleeve through a box where a pair of tabs was proposed.

    Args:
        pair: proposed.
        stand: where; None: not said.
        made: its joint; None: not known.
    """
    bore = pair.hole.mm
    one = RailSleeve(
        id=pair.id, name=pair.name.replace(", tabs", ", sleeve"), side=pair.side, bore_mm=bore, sleeve_od_mm=float(ceil(bore + OVER_BOLT[2]))
    )  # fmt: skip
    return one if stand is None else fitted_sleeve(one, stand, made)


def _notes(saved: RailSleeve) -> list[str]:
    notes = [
        "it holds its joint from one side alone: its bolt is bent by all that pulls there; plates to either side bear several times as much",
        "rails are not drilled or welded on their flanges without approval; both walls are bored in line, square to the face",
        "the sleeve is welded in before its bolt is torqued: without it the bolt crushes the box",
    ]
    if counted_leg(saved) < saved.weld_leg_mm - 1e-9:
        notes.append(f"fillets of {saved.weld_leg_mm:g} mm are counted at {counted_leg(saved):g} mm: more burns through the thinner of both walls")  # fmt: skip
    return notes


def _card(saved: RailSleeve, made: Sequence[JointMade], stands: Sequence[Stand | None]) -> Card:
    many = len(made) * saved.count
    bolt = made[0].bolt.label if made[0].bolt else "bolt"
    lines = [
        across(text="outside; both walls of the box are bored to it", mm=saved.sleeve_od_mm, strong=True),
        across(text="bore, free on its bolt", mm=saved.bore_mm),
        CardLine(text="stands out before the face that the joint is on", mm=saved.proud_mm, strong=True),
        CardLine(text="stands out behind the far face", mm=saved.far_mm),
        CardLine(text="welded all round at both faces; leg", mm=counted_leg(saved)),
        CardLine(text="from the near face to the joint’s middle", mm=lever_of(saved, made[0])),
        CardLine(text=f"{bolt}, right through sleeve and joint, grip", mm=made[0].gap + saved.length_mm),
    ]
    for stand in stands:
        lines += lying_lines(stand, saved.side) if stand else []
    return Card(
        figures=(Figure(label=f"Turn {many}, long", mm=saved.length_mm, note=saved.steel_name),), lines=tuple(lines)
    )


RAIL_SLEEVE = RailSleeveKind()
