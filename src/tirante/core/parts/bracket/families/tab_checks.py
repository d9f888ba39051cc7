"""Checks of a tab pair at a joint: its bolt in shear and bending, its plates at hole and foot, its welds."""

from __future__ import annotations

from math import atan2, cos, degrees, hypot, radians, remainder, sin, tan
from typing import Any, Literal

import numpy as np

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets import lug, tab_bending, weld_group
from tirante.core.brackets.foot_weld import bevelled_throat, edge_throat
from tirante.core.brackets.saddle import Saddle, saddle, throat_share
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction, Try, worst_of
from tirante.core.document.catalogue import Bolt
from tirante.core.document.parts.bracket import FlatBase, SaddleBase, TabPair
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members import thread
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.parts.bracket.families.hole_pattern import holes_of, least_pitch, slotted
from tirante.core.parts.bracket.families.slot_checks import slot_checks
from tirante.core.parts.bracket.families.tab_outline import Under
from tirante.core.parts.bracket.families.tab_rims import rim_of
from tirante.core.parts.joint import HeldEnd, JointMade
from tirante.core.quantities import MINUS

NOT_CHECKED = (
    "fatigue",
    "a bolt that is not torqued (its plates are taken as tied by it)",
    "weld quality (assumed sound)",
    "corrosion and wear",
    "room for link, bolt, spanner and torch (to be looked at under Room)",
)
UNKNOWN_SWING = 20.0  # °, how far a pull turns of which nothing tells; common practice, no source
STEP = 1.0  # °, of the looks at the weld between its extremes
PLATES = 2  # of a pair: the pull is shared by two plates


Runs = list[tuple[float, float, float, float]]


def tab_checks(tab: TabPair, made: JointMade, settings: Settings, welded: Runs | None = None) -> list[CheckResult]:
    """All checks of a pair of tabs at one joint; none while no bolt is chosen.

    Args:
        tab: as it is saved.
        made: the joint, with its bolt.
        settings: factors, electrode.
        welded: weld runs in the feet's plane, where its two ears are one piece that is welded otherwise: x along the foot, y along the bolt.
    """
    if made.bolt is None:
        return []
    return [
        *pin_checks(tab, made, made.bolt, settings),
        *lug_checks(tab, made.bolt.diameter_mm, made.held, settings),
        *slot_checks(tab, made.bolt, made.held, settings, slants(tab, made.held), slant_told(tab, made.held)),
        # ears that are one with their base do not come off it to one side
        foot_check(tab, made, settings, outside=welded is None and made.gap < settings.inside_fillet_gap_mm),
        weld_check(tab, made, settings, welded),
    ]


def slants(tab: TabPair, held: HeldEnd) -> tuple[float, float]:
    """Between which angles from the tab's axis the pull points in all cases [°]; from along to across where nothing says so.

    Args:
        tab: as it is saved.
        held: what stands in it.
    """
    if tab.load_angle_deg is None:
        return 0.0, 90.0
    swing = UNKNOWN_SWING if held.swing_deg is None else held.swing_deg
    return tab.load_angle_deg - swing, tab.load_angle_deg + swing


def slant_told(tab: TabPair, held: HeldEnd) -> str:
    """The same in words.

    Args:
        tab: as it is saved.
        held: what stands in it.
    """
    if tab.load_angle_deg is None:
        return "the pull’s angle to the tab is not given: every one from along to across is looked at"
    low, high = slants(tab, held)
    guess = f", {UNKNOWN_SWING:g}° of it taken: nothing tells how far it turns" if held.swing_deg is None else ""
    return f"pulled between {low:.0f}° and {high:.0f}° from the tab’s axis{guess}".replace("-", MINUS)


def angles_of_most(low: float, high: float, along: float, across: float) -> list[float]:
    """Where along |cos| + across |sin| is greatest between two angles: at either, or at one between [°].

    Args:
        low: the least angle.
        high: the largest.
        along: what a pull along the tab does.
        across: what one across it does.
    """
    peak = degrees(atan2(across, along))
    return [low, high, *(angle for turn in (-180.0, 0.0, 180.0) for angle in (turn - peak, turn + peak) if low < angle < high)]  # fmt: skip


def weld_leg(tab: TabPair) -> float:
    """The fillet that is counted: no more than the thinner of plate and wall, or of plate and spread plate, which a larger one burns through [mm].

    Args:
        tab: as it is saved.
    """
    wall = tab.spread.thickness.mm if tab.spread else tab.base.wall_mm
    return min(tab.weld_leg_mm, tab.plate.mm, wall or tab.plate.mm)


def outer_throat(tab: TabPair, gap: float) -> float | None:
    """Of the welds along the outer faces, where they are no plain fillets like the rest: bevelled, or beside the edge of the face; None where they are [mm].

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
    """
    base, leg = tab.base, weld_leg(tab)
    room = outer_room(tab, gap)
    short = room is not None and room < leg
    if not short and tab.bevel_mm <= 0:
        return None
    if not short:
        return bevelled_throat(tab.bevel_mm, leg) * throat_of(tab, gap) / THROAT_OF_LEG
    rounded = base.round_mm if isinstance(base, FlatBase) and tab.spread is None else 0.0
    return max(edge_throat(leg, room, rounded), bevelled_throat(tab.bevel_mm, max(room or 0.0, 0.0)))


def outer_room(tab: TabPair, gap: float) -> float | None:
    """Of face beside the outer faces of the plates [mm]; None where that is not near or not known.

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
    """
    if tab.spread is not None:
        return tab.spread.beyond_mm
    if not isinstance(tab.base, FlatBase) or tab.base.edge_mm is None:
        return None
    return tab.base.edge_mm - gap / 2 - tab.plate.mm


def pin_checks(
    tab: TabPair, made: JointMade, bolt: Bolt, settings: Settings, planes: Literal[1, 2] = 2
) -> list[CheckResult]:
    """Its bolt sheared and bent.

    Args:
        tab: as it is saved.
        made: the joint.
        bolt: of it.
        settings: factors.
        planes: that it is sheared in: 1 of one plate alone.
    """
    factors, on_thread = settings.factors, made.joint.thread_in_plane
    row, gap = made.held.row, made.beside
    material = bolts.bolt_class(bolt.strength_class, bolt.diameter_mm)
    t = thread.parse_thread(bolt.designation)
    stack = bolts.PinStack(ball_width=row.ball_width_mm, gap=gap, plate=tab.plate.mm, planes=planes)
    shear = bolts.pin_shear(bolt.diameter_mm, material, planes, t, on_thread)
    bending_diameter = t.root_external if on_thread else bolt.diameter_mm
    named = (
        {"grade": bolt.strength_class.removeprefix("grade ")}
        if bolt.strength_class.startswith("grade")
        else {"class": bolt.strength_class}
    )

    def data(force: float) -> dict[str, Any]:
        return {
            "diameter_mm": bolt.diameter_mm, "designation": bolt.designation, **named, "planes": planes,
            "thread_in_plane": on_thread, "ball_width_mm": row.ball_width_mm, "plate_mm": tab.plate.mm,
            "gap_mm": gap, "force_n": force,
        }  # fmt: skip

    def sheared(case: CaseSeen) -> Try | None:
        if not case.resultant_n:
            return None
        force = case.resultant_n * factors.bolt
        return Try(demand=force, capacity=shear, topic="pin", input=data(force), output="shear_n")

    def bent(case: CaseSeen) -> Try | None:
        if not case.resultant_n:
            return None
        force = case.resultant_n * factors.bolt
        stress = bolts.pin_bending_stress(bending_diameter, bolts.pin_bending_moment(stack, force))
        return Try(
            demand=stress, capacity=material.yield_strength, topic="pin", input=data(force), output="bending_mpa", figure="demand"
        )  # fmt: skip

    cases = made.held.cases
    return [
        worst_of(asked("pin_shear", "bolt", factors), cases, sheared),
        worst_of(asked("pin_bending", "bolt", factors), cases, bent),
    ]


def lug_of(tab: TabPair, pin: float, plates: int = PLATES) -> lug.Lug:
    """The tab's plates as a lug under a pin of this diameter [mm].

    Args:
        tab: as it is saved.
        pin: diameter of its bolt [mm].
        plates: that share the pull.
    """
    pitch = None if slotted(tab) else least_pitch(holes_of(tab))
    # toward the next hole there is no more metal than to its edge
    edge = tab.edge.mm if pitch is None else min(tab.edge.mm, pitch - tab.hole.mm / 2)
    if tab.lighten is not None or tab.extra:  # pushed toward its foot, it has no more before it than the rule leaves
        edge = min(edge, tab.hole.mm / 2 + rim_of(tab.plate.mm))
    return lug.Lug(
        thickness=tab.plate.mm, width=2 * tab.head_radius.mm, hole=tab.hole.mm, pin=pin, edge=edge, plates=plates
    )


def lug_checks(tab: TabPair, pin: float, held: HeldEnd, settings: Settings, plates: int = PLATES) -> list[CheckResult]:
    """Its plates at the hole.

    Args:
        tab: as it is saved.
        pin: diameter of its bolt [mm].
        held: what stands in it.
        settings: factors.
        plates: that share the pull.
    """
    plate, cases = lug_of(tab, pin, plates), held.cases
    strength = lug.lug_strength(plate, tab.yield_mpa, tab.uts_mpa)
    data = {
        "thickness_mm": plate.thickness, "plates": plate.plates, "width_mm": plate.width, "hole_mm": plate.hole,
        "pin_mm": pin, "edge_mm": plate.edge, "yield_mpa": tab.yield_mpa, "uts_mpa": tab.uts_mpa,
    }  # fmt: skip
    limits = {
        "a_at_least_1_33_be": (strength.extension_ok, f"metal beyond the hole is under 1.33 b_e: {plate.beyond_hole:.1f} of {1.33 * plate.effective_width:.1f} mm"),
        "hole_at_most_pin_plus_1_mm": (strength.hole_ok, f"the hole is more than 1 mm over the pin: {plate.hole:.1f} for {pin:.1f} mm"),
        "width_at_least_2_be_plus_pin": (strength.width_ok, "the plate is narrower than 2 b_e + pin"),
    }  # fmt: skip
    broken = [name for name, (ok, _) in limits.items() if not ok]
    results = []
    for key, capacity, output in (
        ("tab_bearing", strength.bearing, "bearing_n"),
        ("tab_tension", strength.tension_rupture, "tension_rupture_n"),
        ("tab_tearout", strength.shear_rupture, "shear_rupture_n"),
        ("tab_yield", strength.gross_yield, "gross_yield_n"),
    ):
        kind = asked(key, "tab", settings.factors)

        def attempt(case: CaseSeen, f: float = kind.factor, c: float = capacity, o: str = output) -> Try | None:
            if case.resultant_n == 0:
                return None
            return Try(demand=case.resultant_n * f, capacity=c, topic="lug", input=data, output=o)

        results.append(worst_of(kind, cases, attempt))
    slanted = asked("tab_slanted", "tab", settings.factors)
    angle, least = lug.slanted(plate, tab.yield_mpa, tab.uts_mpa).weakest_between(*slants(tab, held))

    def at_a_slant(case: CaseSeen) -> Try | None:
        if case.resultant_n == 0:
            return None
        return Try(
            demand=case.resultant_n * slanted.factor, capacity=least, topic="lug", input={**data, "angle_deg": remainder(angle, 360.0)}, output="slanted_n",
            note=slant_told(tab, held),
        )  # fmt: skip

    results.append(worst_of(slanted, cases, at_a_slant))
    kind = asked("tab_detailing", "tab", settings.factors)
    results.append(CheckResult(
        key=kind.key, name=kind.name, part=kind.part, demand=float(len(broken)), capacity=0.0, unit="",
        utilisation=None, passed=True, case=None, factor=1.0, factor_name="none", formula=kind.formula, source=kind.source,
        note=f"rules of detailing, no strength: {'; '.join(limits[name][1] for name in broken)}" if broken else "all three limits hold",
        reproduce=Reproduction(topic="lug", input=data, output=f"detailing.{(broken or [*limits])[0]}", figure=""),
    ))  # fmt: skip
    return results


def under(tab: TabPair, beside: float = 0.0) -> Under:
    """What its plates stand on, and how.

    Args:
        tab: as it is saved.
        beside: of a plate's middle from the pair's, along the bolt [mm].
    """
    if isinstance(tab.base, SaddleBase):
        base = tab.base
        square = abs(base.angle_deg - 90.0) < 1e-9  # then where a plate stands along the tube is nothing to its foot
        return Under(
            tube_od=base.tube_od.mm, angle_deg=base.angle_deg, offset=base.offset_mm, lean_deg=base.lean_deg, beside=0.0 if square else beside,
        )  # fmt: skip
    if tab.corner is not None:
        return Under(corner=tab.corner)
    return Under(lean_deg=tab.base.lean_deg, beside=beside if tab.base.lean_deg else 0.0)


def apart(tab: TabPair, gap: float) -> float:
    """From the pair's middle to the middle of either plate, along the bolt [mm].

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
    """
    return (gap + tab.plate.mm) / 2


def feet_of(tab: TabPair, gap: float) -> tuple[Under, ...]:
    """Of either plate what it stands on: one where both are alike, or one is the other turned over; else two, the way of the bolt first.

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
    """
    one = under(tab, apart(tab, gap))
    if one.beside == 0.0 or (not one.lean_deg and not one.offset):
        return (one,)
    return one, under(tab, -apart(tab, gap))


def beside_crown(tab: TabPair, gap: float) -> float:
    """How far across its tube the middle of either plate stands from the pair's [mm]: nothing where the pair is square to the tube.

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
    """
    return apart(tab, gap) * cos(radians(tab.base.angle_deg)) if isinstance(tab.base, SaddleBase) else 0.0


def throat_of(tab: TabPair, gap: float) -> float:
    """Throat of its fillets over their leg: less where a plate leans to the tube's side, or from square to a flat.

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
    """
    half = tab.base_width.mm / 2
    if not isinstance(tab.base, SaddleBase):
        return throat_share(radians(90.0 + abs(tab.base.lean_deg))) if tab.base.lean_deg else THROAT_OF_LEG
    if abs(tab.base.angle_deg - 90.0) < 1e-9:
        return THROAT_OF_LEG
    base, widest = tab.base, 0.0
    for one in feet_of(tab, gap):
        stands = saddle(base.tube_od.mm, base.angle_deg, half, tab.plate.mm, one.offset, one.beside, one.lean_deg)
        widest = max(widest, stands.widest_weld(half))
    return throat_share(widest)


def tallest(tab: TabPair, gap: float) -> float:
    """From the lower of both plates' feet to the bolt [mm], in the hole that is furthest from the foot.

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
    """
    base, height = tab.base, tab.height.mm + max(y for _, y in holes_of(tab))
    if not isinstance(base, SaddleBase):
        return height + apart(tab, gap) * abs(tan(radians(base.lean_deg)))
    lows = [
        Saddle(tube_od=base.tube_od.mm, angle=radians(base.angle_deg), lean=radians(base.lean_deg), beside=one.beside).foot(0.0)
        for one in feet_of(tab, gap)
    ]  # fmt: skip
    return height - min(lows)


def beside_waist(tab: TabPair) -> float:
    """How far the middle of what is left of a plate over its foot stands beside the bolt: of one on a turned corner alone [mm].

    Args:
        tab: as it is saved.
    """
    if tab.corner is None:
        return 0.0
    left, right = tab.corner.waist(tab.edge.mm + tab.height.mm - tab.head_radius.mm, tab.head_radius.mm)
    return abs(left + right) / 2


def furthest_aside(tab: TabPair) -> float:
    """How far along the foot from over its middle the bolt stands, in the hole that is furthest [mm].

    Args:
        tab: as it is saved.
    """
    return max(abs(x) for x, _ in holes_of(tab))


def foot_runs(tab: TabPair, gap: float, reach: float) -> list[tuple[float, float, float, float]]:
    """Weld runs of both plates in their feet's plane that can be laid; x across the plates, y along the bolt from the middle [mm].

    Along both faces where a torch goes between the plates; where it does not, along the outer ones and round the ends. The plates are one
    group: the torqued bolt ties them. A saddle's curved foot is taken at its chord, and legs on a corner at theirs, which are shorter: on the safe side.

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
        reach: the least gap that a torch goes into [mm].
    """
    half, inner, outer = tab.base_width.mm / 2, gap / 2, gap / 2 + tab.plate.mm
    spans = [(-half, half)] if tab.corner is None else tab.corner.fillets
    ends = (min(a for a, _ in spans), max(b for _, b in spans))
    runs = []
    for way in (-1.0, 1.0):
        runs += [(a, way * outer, b, way * outer) for a, b in spans]
        if gap >= reach:
            runs += [(a, way * inner, b, way * inner) for a, b in spans]
        else:
            runs += [(x, way * inner, x, way * outer) for x in ends]
    return runs


def foot_check(tab: TabPair, made: JointMade, settings: Settings, *, outside: bool, lower: float = 0.0) -> CheckResult:
    """Its plates or ears bent where they stand.

    Args:
        tab: as it is saved.
        made: the joint.
        settings: factors.
        outside: whether they are welded along their outer faces alone.
        lower: so much of their height stands below where they are bent [mm].
    """
    bend = asked("tab_foot", "tab", settings.factors)
    cases, (low, high) = made.held.cases, slants(tab, made.held)
    height, aside = tallest(tab, made.gap) - lower, furthest_aside(tab) + beside_waist(tab)
    # N/A and M/Z of a pull, for each newton of it: their sum is greatest at one angle, where it may point that way
    along = tab_bending.tab_foot_stress(tab.plate.mm, tab.waist, height, made.plates, 1.0, 0.0, 0.0, outside, aside)
    across = tab_bending.tab_foot_stress(tab.plate.mm, tab.waist, height, made.plates, 1.0, 90.0, 0.0, outside)
    worst = max(
        angles_of_most(low, high, along, across),
        key=lambda angle: along * abs(cos(radians(angle))) + across * abs(sin(radians(angle))),
    )

    def foot(case: CaseSeen) -> Try | None:
        side = abs(case.across_n)
        if case.axial_n == 0 and side == 0:
            return None
        data = {
            "thickness_mm": tab.plate.mm, "width_mm": tab.waist, "height_mm": height, "plates": made.plates,
            "force_n": abs(case.axial_n) * bend.factor, "load_angle_deg": remainder(worst, 360.0),
            "side_n": side * bend.factor, "outside_only": outside, "yield_mpa": tab.yield_mpa, **({"aside_mm": aside} if aside else {}),
        }  # fmt: skip
        stress = tab_bending.tab_foot_stress(
            tab.plate.mm, tab.waist, height, made.plates, abs(case.axial_n) * bend.factor, worst, side * bend.factor, outside, aside,
        )  # fmt: skip
        return Try(demand=stress, capacity=tab.yield_mpa, topic="tab-bending", input=data, output="stress_mpa",
                    figure="demand", note=slant_told(tab, made.held))  # fmt: skip

    return worst_of(bend, cases, foot)


def weld_check(tab: TabPair, made: JointMade, settings: Settings, welded: Runs | None) -> CheckResult:
    """Its fillets as one group.

    Args:
        tab: as it is saved.
        made: the joint.
        settings: electrode, factors.
        welded: as of `tab_checks`.
    """
    weld = asked("tab_weld", "tab", settings.factors)
    nominal = SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa
    cases, (low, high) = made.held.cases, slants(tab, made.held)
    height, aside = tallest(tab, made.gap), furthest_aside(tab)
    runs = foot_runs(tab, made.gap, settings.inside_fillet_gap_mm) if welded is None else welded
    at = (aside, 0.0, height + (tab.corner.below if tab.corner else 0.0))
    leg = (
        weld_leg(tab) * throat_of(tab, made.gap) / THROAT_OF_LEG
    )  # of the right-angled fillet that has the same throat
    outer = outer_throat(tab, made.gap) if welded is None else None
    throats = [THROAT_OF_LEG * leg] * len(runs)
    if outer is not None:
        outermost = max(abs(y) for _, y, _, _ in runs)
        throats = [
            outer if abs(b) == abs(d) == outermost else one for one, (_, b, _, d) in zip(throats, runs, strict=True)
        ]
        if outer <= 0:  # no weld can be laid there
            runs = [run for run, throat in zip(runs, throats, strict=True) if throat > 0]
            throats = [THROAT_OF_LEG * leg] * len(runs)
    per_end, alike = np.repeat(throats, 2), len(set(throats)) == 1
    # of a newton each way, at the ends of all runs: the group is linear in what pulls at it
    ways = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
    each = np.array([weld_group.line_forces(runs, way, at).forces for way in ways])
    steps = np.radians(np.linspace(low, high, max(2, round((high - low) / STEP) + 1)))
    if aside or beside_waist(
        tab
    ):  # a hole on the foot's other side is this one seen in a mirror; a turned corner has no other side
        steps = np.concatenate([steps, -steps])
    pulls = np.stack([np.sin(steps), np.zeros_like(steps), np.cos(steps)])

    def group(case: CaseSeen) -> Try | None:
        side = abs(case.across_n) * weld.factor
        pull = abs(case.axial_n) * weld.factor
        if pull == 0 and side == 0:
            return None
        # the side force either way: what stands on the far side of it bears more of the pull
        forces = np.stack([pull * pulls + np.array([[0.0], [way * side], [0.0]]) for way in (1.0, -1.0)], axis=1)
        line = np.einsum("fpx,fsa->spax", each, forces)
        size = (np.sqrt((line**2).sum(axis=-1)) / per_end[None, :, None]).max(axis=1)
        way, step = np.unravel_index(int(size.argmax()), size.shape)
        force = tuple(float(v) for v in forces[:, way, step])
        data = {
            "segments": [list(run) for run in runs], "leg_mm": leg, "force_n": list(force),
            "at_mm": list(at), "electrode_uts_mpa": settings.electrode_uts_mpa, **({} if alike else {"throats_mm": throats}),
        }  # fmt: skip
        pulled = (force[0], force[1], force[2])
        if alike:
            stress = weld_group.weld_group(runs, pulled, at).max_line_force / throats[0]
        else:
            lines = weld_group.line_forces(runs, pulled, at).forces
            stress = max(hypot(*line) / throats[i // 2] for i, line in enumerate(lines))
        return Try(demand=stress, capacity=nominal, topic="weld",
                    input=data, output="throat_stress_max_mpa", figure="demand", note=weld_told(tab, made.gap, settings) if welded is None else "")  # fmt: skip

    return worst_of(weld, cases, group)


def weld_told(tab: TabPair, gap: float, settings: Settings) -> str:
    """What of the fillets is counted, where that is not all.

    Args:
        tab: as it is saved.
        gap: between the plates [mm].
        settings: how far a torch reaches.
    """
    told = []
    if tab.corner is not None:
        told.append(
            "along both legs from the corner’s open point on; they are counted by their chords, which are shorter"
        )
    if gap < settings.inside_fillet_gap_mm:
        told.append(f"no torch lays a fillet inside a gap of {gap:.1f} mm: the outer face and both ends are counted")
    share = throat_of(tab, gap)
    if share < THROAT_OF_LEG - 1e-9:
        told.append(
            f"the plate leans to {'the tube' if isinstance(tab.base, SaddleBase) else 'the flat'}: a throat of {share:.2f} of the leg is counted, not {THROAT_OF_LEG:.2f}"
        )
    if (outer := outer_throat(tab, gap)) is not None:
        room = outer_room(tab, gap)
        short = f"the face ends {max(room or 0.0, 0.0):.1f} mm beside the plates, and a fillet of {weld_leg(tab):g} mm lies on no less: " if room is not None and room < weld_leg(tab) else "bevelled: "  # fmt: skip
        laid = (
            f"a throat of {outer:.1f} mm is counted along the outer faces"
            if outer > 0
            else "nothing is counted along the outer faces"
        )
        told.append(short + laid)
    if weld_leg(tab) < tab.weld_leg_mm:
        told.append(f"counted, and laid, at {weld_leg(tab):g} mm: {tab.weld_leg_mm:g} mm burns through")
    return "; ".join(told)
