"""Checks of a lapped plate at a joint: pin and plate in single shear, its root, further holes, its weld, the wall under it."""

from __future__ import annotations

from collections.abc import Sequence
from math import asin, ceil, cos, degrees, radians, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets import weld_group
from tirante.core.brackets.lapped import LappedRoot, holed_stress, root_stress
from tirante.core.brackets.mount_wall import Wall, bent_through, feet_of_pair, sheared_through
from tirante.core.brackets.tab_bending import Legs
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, worst_of
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.parts.bracket.families.eared import ears, thinner_leg
from tirante.core.parts.bracket.families.tab_checks import lug_checks, pin_checks, slant_told, slants
from tirante.core.parts.bracket.families.wall_checks import wall_input, wall_of_member
from tirante.core.parts.joint import JointMade
from tirante.core.parts.stands import Stand

Array = NDArray[np.float64]
STEP = 1.0  # °, of the looks at the pull's angle


def as_pair(saved: LappedPlate) -> TabPair:
    """What it is to joint, pin and plate, as a pair of tabs: its head and hole.

    Args:
        saved: as it is.
    """
    return ears(saved, weld_leg_mm=thinner_leg(saved))


def over_face(saved: LappedPlate, made: JointMade) -> float:
    """From the face that it lies on to the joint's middle, along the bolt [mm].

    Args:
        saved: as it is.
        made: the joint.
    """
    return saved.offset_mm + saved.plate.mm + made.beside + made.held.row.ball_width_mm / 2


def lapped_checks(saved: LappedPlate, made: JointMade, stand: Stand | None, settings: Settings) -> list[CheckResult]:
    """All checks of it at a joint; none while no bolt is chosen.

    Args:
        saved: as it is.
        made: the joint.
        stand: where; None: on nothing that is entered.
        settings: factors.
    """
    if made.bolt is None:
        return []
    pair = as_pair(saved)
    return [
        *pin_checks(pair, made, made.bolt, settings, planes=1),
        *lug_checks(pair, made.bolt.diameter_mm, made.held, settings, plates=1),
        _root_check(saved, made, settings),
        _weld_check(saved, made, settings),
        *_wall_checks(saved, made, stand, settings),
    ]


def _angles(saved: LappedPlate, made: JointMade) -> Array:
    low, high = slants(as_pair(saved), made.held)
    return np.linspace(low, high, max(2, ceil((high - low) / STEP) + 1))


def _root_check(saved: LappedPlate, made: JointMade, settings: Settings) -> CheckResult:
    kind, angles = asked("lapped_root", "plate", settings.factors), _angles(saved, made)
    lever = over_face(saved, made) - saved.plate.mm / 2
    root = LappedRoot(width=saved.base_width.mm, thickness=saved.plate.mm, reach=saved.height.mm, lever=lever)

    def attempt(case: CaseSeen) -> Try | None:
        pull, side = abs(case.axial_n) * kind.factor, abs(case.across_n) * kind.factor
        if pull == 0 and side == 0:
            return None
        angle = max((float(one) for one in angles), key=lambda one: root_stress(root, pull, one, side))
        data = {
            "width_mm": root.width, "thickness_mm": root.thickness, "reach_mm": root.reach, "lever_mm": root.lever, "pull_n": pull, "angle_deg": angle,
            "side_n": side, "yield_mpa": saved.yield_mpa,
        }  # fmt: skip
        return Try(
            demand=root_stress(root, pull, angle, side), capacity=saved.yield_mpa, topic="lapped-root", input=data, output="stress_mpa", figure="demand",
            note=slant_told(as_pair(saved), made.held),
        )  # fmt: skip

    return worst_of(kind, made.held.cases, attempt)


def holed_check(saved: LappedPlate, sections: Sequence[tuple[Legs, float]], made: JointMade, settings: Settings) -> CheckResult:  # fmt: skip
    """The metal across the level of every hole in it but the joint's, at the worst angle of the pull.

    Args:
        saved: as it is.
        sections: what is left there, and from there up to the joint's middle [mm].
        made: the joint, a bolt chosen.
        settings: factors.
    """
    kind, angles = asked("lapped_holed", "plate", settings.factors), _angles(saved, made)
    lever = over_face(saved, made) - saved.offset_mm - saved.plate.mm / 2

    def attempt(case: CaseSeen) -> Try | None:
        pull, side = abs(case.axial_n) * kind.factor, abs(case.across_n) * kind.factor
        if pull == 0 and side == 0:
            return None

        def stress(at: Legs, over: float, angle: float) -> float:
            return holed_stress(at, over, lever, abs(pull * cos(radians(angle))), abs(pull * sin(radians(angle))), side)

        at, over, worst = max(
            ((at, over, float(a)) for at, over in sections for a in angles), key=lambda one: stress(*one)
        )
        data = {
            "thickness_mm": at.thickness, "legs_mm": [list(one) for one in at.legs], "opening_mm": at.opening, "over_mm": over, "lever_mm": lever,
            "along_n": abs(pull * cos(radians(worst))), "across_n": abs(pull * sin(radians(worst))), "side_n": side, "yield_mpa": saved.yield_mpa,
        }  # fmt: skip
        told = f"at the level of its hole {over:.1f} mm below the joint’s; {slant_told(as_pair(saved), made.held)}"
        return Try(demand=stress(at, over, worst), capacity=saved.yield_mpa, topic="lapped-holed", input=data, output="stress_mpa", figure="demand", note=told)  # fmt: skip

    return worst_of(kind, made.held.cases, attempt)


def weld_runs(saved: LappedPlate) -> list[tuple[float, float, float, float]]:
    """Fillets round its foot: both sides, and its end where that is not hooked, round corners not counted; x across it, y along it from where it leaves the face [mm].

    Args:
        saved: as it is.
    """
    half, foot, c = saved.base_width.mm / 2, saved.foot_mm, _corner(saved)
    runs = [(way * half, c - foot, way * half, 0.0) for way in (-1.0, 1.0)]
    if saved.flange_mm <= 0 and c < half:
        runs.append((c - half, -foot, half - c, -foot))
    return runs


def _corner(saved: LappedPlate) -> float:
    """Radius of its foot's corners [mm]: of a hooked plate the flange has them."""
    return saved.corner_mm if saved.flange_mm <= 0 else 0.0


def _weld_check(saved: LappedPlate, made: JointMade, settings: Settings) -> CheckResult:
    kind, angles = asked("tab_weld", "plate", settings.factors), _angles(saved, made)
    nominal, leg = SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa, thinner_leg(saved)
    runs, at = weld_runs(saved), (0.0, saved.height.mm, over_face(saved, made))

    def attempt(case: CaseSeen) -> Try | None:
        pull, side = abs(case.axial_n) * kind.factor, abs(case.across_n) * kind.factor
        if pull == 0 and side == 0:
            return None
        tried = [(pull * sin(radians(a)), pull * cos(radians(a)), way * side) for a in angles for way in (1.0, -1.0)]
        found = [weld_group.weld_group(runs, force, at).max_line_force for force in tried]
        force = tried[int(np.argmax(found))]
        data = {"segments": [list(run) for run in runs], "leg_mm": leg, "force_n": list(force), "at_mm": list(at), "electrode_uts_mpa": settings.electrode_uts_mpa}  # fmt: skip
        told = f"counted, and laid, at {leg:g} mm: {saved.weld_leg_mm:g} mm burns through" if leg < saved.weld_leg_mm else ""  # fmt: skip
        return Try(demand=max(found) / (THROAT_OF_LEG * leg), capacity=nominal, topic="weld", input=data, output="throat_stress_max_mpa", figure="demand", note=told)  # fmt: skip

    return worst_of(kind, made.held.cases, attempt)


def wall_under(stand: Stand | None) -> Wall | str:
    """The wall of the face that it lies on; or why it is not judged.

    Args:
        stand: where; None: on nothing that is entered.
    """
    if stand is None:
        return "what it is welded to"
    across = stand.standing.across
    return wall_of_member(stand.mount, 2 * across[2] if across else 0.0)


def _wall_checks(saved: LappedPlate, made: JointMade, stand: Stand | None, settings: Settings) -> list[CheckResult]:
    """The wall under both side fillets, as under a pair of feet as far apart as it is wide."""
    wall = wall_under(stand)
    if stand is None or isinstance(wall, str):
        return []
    one, leg = stand.standing, thinner_leg(saved)
    assert one.run is not None
    angle_on = degrees(asin(min(1.0, float(np.linalg.norm(np.cross(one.y, one.run))))))
    long = saved.foot_mm - _corner(saved)
    feet = feet_of_pair(long, saved.base_width.mm - leg, leg, angle_on)
    bend, shear = asked("mount_wall", "mount", settings.factors), asked("mount_shear", "mount", settings.factors)
    high, middle, angles = over_face(saved, made), saved.height.mm + long / 2, _angles(saved, made)
    data = wall_input(wall, feet, angle_on)

    def parts(case: CaseSeen, factor: float, angle: float) -> tuple[float, float, float]:
        pull, side = abs(case.axial_n) * factor, abs(case.across_n) * factor
        return side, abs(pull * cos(radians(angle))) * high + side * middle, abs(pull * sin(radians(angle))) * high

    def bent(case: CaseSeen) -> Try | None:
        if case.axial_n == 0 and case.across_n == 0:
            return None
        does = max((parts(case, bend.factor, float(a)) for a in angles), key=lambda one: bent_through(wall, feet, None, *one).use)  # fmt: skip
        used = bent_through(wall, feet, None, *does)
        own = {**data, "pull_n": does[0], "tilt_nmm": does[1], "rock_nmm": does[2]}
        return Try(demand=used.use * used.strength.pull, capacity=used.strength.pull, topic="mount-wall", input=own, output="equivalent_n", figure="demand")  # fmt: skip

    def sheared(case: CaseSeen) -> Try | None:
        if case.axial_n == 0 and case.across_n == 0:
            return None
        does = max((parts(case, shear.factor, float(a)) for a in angles), key=lambda one: sheared_through(wall, feet, None, *one)[0])  # fmt: skip
        line, least, _ = sheared_through(wall, feet, None, *does)
        own = {**data, "pull_n": does[0], "tilt_nmm": does[1], "rock_nmm": does[2]}
        return Try(demand=line, capacity=least, topic="mount-wall", input=own, output="line_n_per_mm", figure="demand")

    return [worst_of(bend, made.held.cases, bent), worst_of(shear, made.held.cases, sheared)]
