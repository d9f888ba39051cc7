"""Checks of a tab pair at a joint: its bolt in shear and bending, its plates at hole and foot, its welds."""

from __future__ import annotations

from math import cos, radians, sin
from typing import Any

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets import lug, tab_bending, weld_group
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction, Try, worst_of
from tirante.core.document.catalogue import Bolt
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members import thread
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.parts.joint import JointMade

NOT_CHECKED = ("fatigue", "weld quality (assumed sound)", "corrosion and wear", "what it is welded to")
PLATES = 2  # of a pair: the pull is shared by two plates, each with a weld on both faces


def tab_checks(tab: TabPair, made: JointMade, settings: Settings) -> list[CheckResult]:
    """All checks of a pair of tabs at one joint; none while no bolt is chosen.

    Args:
        tab: as it is saved.
        made: the joint, with its bolt.
        settings: factors, electrode.
    """
    if made.bolt is None:
        return []
    return [
        *_pin_checks(tab, made, made.bolt, settings),
        *_lug_checks(tab, made.bolt.diameter_mm, made.held.cases, settings),
        *_foot_checks(tab, made.held.cases, settings),
    ]


def _pin_checks(tab: TabPair, made: JointMade, bolt: Bolt, settings: Settings) -> list[CheckResult]:
    factors, on_thread = settings.factors, made.joint.thread_in_plane
    row, gap = made.held.row, made.beside
    material = bolts.bolt_class(bolt.strength_class, bolt.diameter_mm)
    t = thread.parse_thread(bolt.designation)
    stack = bolts.PinStack(ball_width=row.ball_width_mm, gap=gap, plate=tab.plate.mm, planes=2)
    shear = bolts.pin_shear(bolt.diameter_mm, material, 2, t, on_thread)
    bending_diameter = t.root_external if on_thread else bolt.diameter_mm
    named = (
        {"grade": bolt.strength_class.removeprefix("grade ")}
        if bolt.strength_class.startswith("grade")
        else {"class": bolt.strength_class}
    )

    def data(force: float) -> dict[str, Any]:
        return {
            "diameter_mm": bolt.diameter_mm, "designation": bolt.designation, **named, "planes": 2,
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


def lug_of(tab: TabPair, pin: float) -> lug.Lug:
    """The tab's two plates as a lug under a pin of this diameter [mm]."""
    return lug.Lug(thickness=tab.plate.mm, width=2 * tab.head_radius.mm, hole=tab.hole.mm, pin=pin, edge=tab.edge.mm)


def _lug_checks(tab: TabPair, pin: float, cases: tuple[CaseSeen, ...], settings: Settings) -> list[CheckResult]:
    plate = lug_of(tab, pin)
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
    kind = asked("tab_detailing", "tab", settings.factors)
    results.append(CheckResult(
        key=kind.key, name=kind.name, part=kind.part, demand=float(len(broken)), capacity=0.0, unit="",
        utilisation=1.000001 if broken else None, passed=not broken, case=None, factor=1.0, factor_name="none",
        formula=kind.formula, source=kind.source,
        note="; ".join(limits[name][1] for name in broken) or "all three limits hold",
        reproduce=Reproduction(topic="lug", input=data, output=f"detailing.{(broken or [*limits])[0]}", figure=""),
    ))  # fmt: skip
    return results


def foot_runs(tab: TabPair) -> list[tuple[float, float, float, float]]:
    """Weld runs of one plate in its foot's plane: along both faces; x across the plate, y along the bolt [mm].

    A saddle's curved foot is taken at its chord, which is shorter: on the safe side.
    """
    half, t = tab.base_width.mm / 2, tab.plate.mm
    return [(-half, -t / 2, half, -t / 2), (-half, t / 2, half, t / 2)]


def _foot_checks(tab: TabPair, cases: tuple[CaseSeen, ...], settings: Settings) -> list[CheckResult]:
    bend, weld = asked("tab_foot", "tab", settings.factors), asked("tab_weld", "tab", settings.factors)
    nominal = SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa
    angle = radians(tab.load_angle_deg)

    def foot(case: CaseSeen) -> Try | None:
        side = case.across_n
        if case.axial_n == 0 and side == 0:
            return None
        data = {
            "thickness_mm": tab.plate.mm, "width_mm": tab.base_width.mm, "height_mm": tab.height.mm, "plates": PLATES,
            "force_n": abs(case.axial_n) * bend.factor, "load_angle_deg": tab.load_angle_deg,
            "side_n": side * bend.factor, "yield_mpa": tab.yield_mpa,
        }  # fmt: skip
        stress = tab_bending.tab_foot_stress(
            tab.plate.mm, tab.base_width.mm, tab.height.mm, PLATES, abs(case.axial_n) * bend.factor, tab.load_angle_deg,
            side * bend.factor,
        )  # fmt: skip
        return Try(demand=stress, capacity=tab.yield_mpa, topic="tab-bending", input=data, output="stress_mpa",
                    figure="demand")  # fmt: skip

    def group(case: CaseSeen) -> Try | None:
        side = case.across_n * weld.factor / PLATES
        pull = abs(case.axial_n) * weld.factor / PLATES
        if pull == 0 and side == 0:
            return None
        force = (pull * sin(angle), side, pull * cos(angle))
        at = (0.0, 0.0, tab.height.mm)
        runs = foot_runs(tab)
        found = weld_group.weld_group(runs, force, at)
        data = {
            "segments": [list(run) for run in runs], "leg_mm": tab.weld_leg_mm, "force_n": list(force),
            "at_mm": list(at), "electrode_uts_mpa": settings.electrode_uts_mpa,
        }  # fmt: skip
        return Try(demand=found.max_line_force / (THROAT_OF_LEG * tab.weld_leg_mm), capacity=nominal, topic="weld",
                    input=data, output="throat_stress_max_mpa", figure="demand")  # fmt: skip

    return [worst_of(bend, cases, foot), worst_of(weld, cases, group)]
