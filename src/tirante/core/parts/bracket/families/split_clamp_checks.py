"""Checks of a split clamp at a joint: its bolts, its ears, its grip on the tube, its halves, the tube squeezed."""

from __future__ import annotations

from math import floor, radians
from typing import Any

from tirante.core.brackets import split_clamp as method
from tirante.core.brackets.bolt import TORQUE, bolt_class, tightening_metric
from tirante.core.brackets.mount_wall import Wall
from tirante.core.brackets.split_clamp import OnClamp
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, worst_of
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.split_clamp import SplitClamp
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.bracket.families.eared import ears
from tirante.core.parts.bracket.families.tab_checks import foot_check, lug_checks, pin_checks, slant_told, slants
from tirante.core.parts.joint import JointMade


def as_pair(saved: SplitClamp) -> TabPair:
    """Its two ears, from the tube's middle, as the pair of tabs that they are to joint, pin and plate.

    Args:
        saved: as it is.
    """
    return ears(saved)


def held_near(saved: SplitClamp, made: JointMade) -> TabPair:
    """The same no thicker than its bolt is: so far into a thick plate's hole a bolt that bends is taken as bearing.

    Args:
        saved: as it is.
        made: its joint, a bolt chosen.
    """
    assert made.bolt
    return as_pair(saved).model_copy(update={"plate": Length(mm=min(saved.plate.mm, made.bolt.diameter_mm))})


def clamp_of(saved: SplitClamp) -> method.SplitClamp:
    """One clamp of the pair.

    Args:
        saved: as it is.
    """
    return method.SplitClamp(
        tube_od=saved.tube_od.mm, thickness=saved.plate.mm, bolt=saved.clamp_bolt_mm, apart=saved.apart_mm, cap=saved.cap_mm, shoulder=saved.shoulder_mm,
        ear=saved.base_width.mm / 2, height=saved.height.mm, hole=saved.hole.mm,
    )  # fmt: skip


def most_clamp(diameter: float, grade: str) -> tuple[float, float]:
    """With what a clamp bolt draws when it is tightened as usual, and the torque of that [N, N·m].

    Args:
        diameter: a coarse metric thread's [mm].
        grade: its class.

    Raises:
        InputError: there is no such coarse thread.
    """
    return tightening_metric(diameter, bolt_class(grade, diameter), "clamp_bolt_mm")


def drawn_with(saved: SplitClamp) -> tuple[float, float]:
    """With what each clamp bolt draws, and its torque [N, N·m].

    Args:
        saved: as it is.

    Raises:
        InputError: there is no such thread, or it bears no such torque.
    """
    clamp, most = most_clamp(saved.clamp_bolt_mm, saved.clamp_class)
    if saved.torque_nm is None:
        return clamp, most
    if saved.torque_nm > most * (1 + 1e-9):
        raise InputError(f"A bolt M{saved.clamp_bolt_mm:g} of class {saved.clamp_class} is tightened with {floor(most * 10) / 10:g} N·m at most. Give that or less, or a larger bolt.", code="out_of_range", fields=("torque_nm",), value=saved.torque_nm, limits=(0.0, most))  # fmt: skip
    return saved.torque_nm * 1000 / (TORQUE * saved.clamp_bolt_mm), saved.torque_nm


def clamp_checks(saved: SplitClamp, made: JointMade, wall: Wall | None, settings: Settings) -> list[CheckResult]:
    """All checks of it at a joint; none while no bolt is chosen.

    Args:
        saved: as it is.
        made: the joint.
        wall: of the tube; None: not known, so it is not judged.
        settings: factors.

    Raises:
        InputError: its halves have no metal left, or there is no such thread.
    """
    if made.bolt is None:
        return []
    near, clamp = held_near(saved, made), clamp_of(saved)
    found = [
        *pin_checks(near, made, made.bolt, settings),
        *lug_checks(near, made.bolt.diameter_mm, made.held, settings),
        foot_check(as_pair(saved), made, settings, outside=False, lower=saved.shoulder_mm),
        *_gripping(saved, clamp, made, settings),
    ]
    if wall is not None:
        found.append(_squeezed(saved, clamp, wall, settings))
    return found


def _data(saved: SplitClamp) -> dict[str, Any]:
    return {
        "tube_od_mm": saved.tube_od.mm, "thickness_mm": saved.plate.mm, "bolt_mm": saved.clamp_bolt_mm, "class": saved.clamp_class, "apart_mm": saved.apart_mm,
        "cap_mm": saved.cap_mm, "shoulder_mm": saved.shoulder_mm, "ear_mm": saved.base_width.mm, "height_mm": saved.height.mm, "hole_mm": saved.hole.mm,
    }  # fmt: skip


def _gripping(saved: SplitClamp, clamp: method.SplitClamp, made: JointMade, settings: Settings) -> list[CheckResult]:
    """Whether it slips, its bolts, and its halves bent over the tube."""
    pair, (tension, _), material = as_pair(saved), drawn_with(saved), bolt_class(saved.clamp_class, saved.clamp_bolt_mm)
    low, high = slants(pair, made.held)
    spacing, told = made.gap + saved.plate.mm, slant_told(pair, made.held)
    grip, bolts, half = (asked(key, "clamp", settings.factors) for key in ("clamp_grip", "clamp_bolts", "clamp_half"))

    def bears(case: CaseSeen, factor: float) -> tuple[OnClamp, OnClamp] | None:
        pull, side = abs(case.axial_n) * factor, abs(case.across_n) * factor
        return None if pull == 0 and side == 0 else method.worst_share(clamp, spacing, pull, side, (radians(low), radians(high)))  # fmt: skip

    def data(on: OnClamp) -> dict[str, Any]:
        return {**_data(saved), "off_n": on.off, "turns_nmm": on.turns, "along_n": on.along}

    def slips(case: CaseSeen) -> Try | None:
        found = bears(case, grip.factor)
        return None if found is None else Try(demand=method.clamp_needed(clamp, found[0]), capacity=tension, topic="split-clamp", input=data(found[0]), output="needed_n", figure="demand", note=told)  # fmt: skip

    def pulled(case: CaseSeen) -> Try | None:
        found = bears(case, bolts.factor)
        return None if found is None else Try(demand=method.bolt_use(clamp, material, found[1]), capacity=1.0, topic="split-clamp", input=data(found[1]), output="bolt_use", figure="demand", note=told)  # fmt: skip

    def bent(case: CaseSeen) -> Try | None:
        found = bears(case, half.factor)
        if found is None:
            return None
        most = max(tension, method.bolt_pull(clamp, found[1]))
        eared, other = (method.half_stress(clamp, most, eared=one) for one in (True, False))
        which, stress = ("with the ear", eared) if eared >= other else ("without an ear", other)
        output = "eared_mpa" if eared >= other else "other_mpa"
        return Try(demand=stress, capacity=saved.yield_mpa, topic="split-clamp", input={**data(found[1]), "tension_n": most}, output=output, figure="demand", note=f"the half {which}, its bolts drawing with {most / 1000:.1f} kN each")  # fmt: skip

    return [worst_of(grip, made.held.cases, slips), worst_of(bolts, made.held.cases, pulled), worst_of(half, made.held.cases, bent)]  # fmt: skip


def _squeezed(saved: SplitClamp, clamp: method.SplitClamp, wall: Wall, settings: Settings) -> CheckResult:
    """The tube under the clamp of its bolts, as they are torqued."""
    kind = asked("clamp_tube", "mount", settings.factors)
    tension, torque = drawn_with(saved)
    stress = method.tube_stress(clamp, wall.thickness, tension)
    data = {**_data(saved), "tension_n": tension, "wall_mm": wall.thickness}
    one = CaseSeen(name="as it is torqued", axial_n=tension)
    return worst_of(kind, (one,), lambda _: Try(demand=stress * kind.factor, capacity=wall.yield_mpa, topic="split-clamp", input=data, output="tube_mpa", figure="", note=f"each bolt at {torque:.0f} N·m"))  # fmt: skip
