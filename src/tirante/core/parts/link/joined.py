"""Checks of what is joined to a link's tube or cut into it: machined eyes and clevises, a splice, the tube's own thread."""

from __future__ import annotations

from collections.abc import Callable
from math import pi
from typing import Any

from tirante.core.brackets import lug
from tirante.core.brackets.bolt import PinStack, pin_bending_moment, pin_bending_stress, plain_pin_shear
from tirante.core.checks.kinds import CHECKS, Asked, asked
from tirante.core.checks.result import CheckResult, Try, worst_of
from tirante.core.document.parts.link import Machined
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members import beam_column, insert_weld
from tirante.core.members.splice import sleeve_section, splice_strength
from tirante.core.parts.link.assembly import Assembly, PlainEnd, ThreadedEnd

ENOUGH_OVERLAP = 1.5  # tube diameters of sleeve on either side; common practice, no source


def joined_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    """Of machined ends, of the splice, of tapped ends; none where there is none of them."""
    out: list[CheckResult] = []
    for index, end in enumerate(assembly.ends):
        part = f"end {'AB'[index]}"
        if isinstance(end, PlainEnd) and end.machined:
            out += _machined(assembly, end.machined, part, settings)
        elif isinstance(end, ThreadedEnd) and end.tapped:
            out.append(_tapped(assembly, end, part, settings))
    if assembly.link.splice:
        out += _splice(assembly, settings)
    return out


def _axial(
    kind: Asked, topic: str, data: dict[str, Any], output: str, capacity: float
) -> Callable[[CaseSeen], Try | None]:
    def attempt(case: CaseSeen) -> Try | None:
        if case.axial_n == 0:
            return None
        return Try(demand=abs(case.axial_n) * kind.factor, capacity=capacity, topic=topic, input=data, output=output)

    return attempt


def _whole(
    kind: Asked, topic: str, data: dict[str, Any], output: str, capacity: float
) -> Callable[[CaseSeen], Try | None]:
    """Along and across together: what a pin and its lugs bear of a pull and of half a strike at once."""

    def attempt(case: CaseSeen) -> Try | None:
        if case.resultant_n == 0:
            return None
        return Try(demand=case.resultant_n * kind.factor, capacity=capacity, topic=topic, input=data, output=output)

    return attempt


def _machined(assembly: Assembly, end: Machined, part: str, settings: Settings) -> list[CheckResult]:
    factors, cases, welding = settings.factors, assembly.cases, assembly.link.welding
    plates = 2 if end.form == "clevis" else 1
    plate = lug.Lug(
        thickness=end.thickness_mm, width=end.width_mm, hole=end.hole_mm, pin=end.pin_mm, edge=end.edge_mm, plates=plates
    )  # fmt: skip
    strength = lug.lug_strength(plate, end.yield_mpa, end.uts_mpa)
    data = {
        "thickness_mm": end.thickness_mm, "plates": plates, "width_mm": end.width_mm, "hole_mm": end.hole_mm, "pin_mm": end.pin_mm,
        "edge_mm": end.edge_mm, "yield_mpa": end.yield_mpa, "uts_mpa": end.uts_mpa,
    }  # fmt: skip
    word = "Clevis" if plates == 2 else "Eye"
    rows = (
        ("machined_bearing", strength.bearing, "bearing_n"), ("machined_tension", strength.tension_rupture, "tension_rupture_n"),
        ("machined_tearout", strength.shear_rupture, "shear_rupture_n"), ("machined_yield", strength.gross_yield, "gross_yield_n"),
    )  # fmt: skip
    out = []
    for key, capacity, output in rows:
        kind = asked(key, part, factors, name=f"{word}, {CHECKS[key].name}")
        out.append(worst_of(kind, cases, _whole(kind, "lug", data, output, capacity)))
    pin = {
        "pin_mm": end.pin_mm, "ear_mm": end.thickness_mm, "gap_mm": end.gap_mm, "force_n": 0.0, "yield_mpa": end.pin_yield_mpa,
    }  # fmt: skip
    kind = asked("machined_pin_shear", part, factors, name=f"{word}’s {CHECKS['machined_pin_shear'].name}")
    out.append(
        worst_of(
            kind, cases, _whole(kind, "clevis-pin", pin, "shear_n", plain_pin_shear(end.pin_mm, end.pin_yield_mpa))
        )
    )
    if plates == 2:
        out.append(_clevis_pin(end, part, cases, settings))
    base = min(assembly.grade.uts_at_weld, end.uts_mpa)
    weld = insert_weld.insert_weld(
        assembly.tube.od_mm, assembly.leg, welding.plug_mm, welding.plugs, assembly.filler(settings), base
    )
    kind = asked("spigot_weld", part, factors, name=f"{word}’s {CHECKS['spigot_weld'].name}")
    welded = {
        "tube_od_mm": assembly.tube.od_mm, "leg_mm": assembly.leg, "plug_mm": welding.plug_mm, "plugs": welding.plugs,
        "electrode_uts_mpa": assembly.filler(settings), "base_uts_mpa": base,
    }  # fmt: skip
    out.append(worst_of(kind, cases, _axial(kind, "insert-weld", welded, "capacity_n", weld.capacity)))
    return out


def _clevis_pin(end: Machined, part: str, cases: tuple[CaseSeen, ...], settings: Settings) -> CheckResult:
    """What stands between the ears is taken to fill the gap."""
    stack = PinStack(ball_width=max(end.gap_mm, 1e-6), gap=0.0, plate=end.thickness_mm, planes=2)
    kind = asked("machined_pin", part, settings.factors)

    def attempt(case: CaseSeen) -> Try | None:
        if case.resultant_n == 0:
            return None
        force = case.resultant_n * kind.factor
        stress = pin_bending_stress(end.pin_mm, pin_bending_moment(stack, force))
        data = {
            "pin_mm": end.pin_mm, "ear_mm": end.thickness_mm, "gap_mm": end.gap_mm, "force_n": force, "yield_mpa": end.pin_yield_mpa,
        }  # fmt: skip
        return Try(
            demand=stress,
            capacity=end.pin_yield_mpa,
            topic="clevis-pin",
            input=data,
            output="bending_mpa",
            figure="demand",
        )

    return worst_of(kind, cases, attempt)


def _tapped(assembly: Assembly, end: ThreadedEnd, part: str, settings: Settings) -> CheckResult:
    """The wall that the thread leaves, in tension and push; nothing is welded there, so the yield as delivered."""
    od, major = assembly.tube.od_mm, end.thread.major
    area = pi / 4 * (od * od - major * major)
    kind = asked("tapped_wall", part, settings.factors)
    wall = (od - major) / 2
    data = {
        "od_mm": od,
        "wall_mm": wall,
        "holes": [],
        "yield_mpa": assembly.grade.yield_mpa,
        "uts_mpa": assembly.grade.uts_mpa,
    }
    return worst_of(
        kind, assembly.cases, _axial(kind, "net-section", data, "capacity_n", area * assembly.grade.yield_mpa)
    )


def _splice(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    link, grade, factors = assembly.link, assembly.grade, settings.factors
    splice = link.splice
    assert splice
    sleeve = sleeve_section(assembly.section, splice.wall_mm, inside=splice.sleeve == "inside")
    common: dict[str, Any] = {
        "tube_od_mm": assembly.tube.od_mm, "tube_wall_mm": assembly.tube.wall_mm, "inside": splice.sleeve == "inside",
        "sleeve_wall_mm": splice.wall_mm, "sleeve_length_mm": splice.length.mm, "plugs": splice.plugs,
        "plugs_in_section": splice.plugs_in_section, "plug_mm": splice.plug_mm, "leg_mm": assembly.splice_leg, "yield_mpa": grade.yield_mpa,
        "welded_yield_mpa": grade.welded_yield_mpa, "uts_mpa": grade.uts_at_weld, "electrode_uts_mpa": assembly.filler(settings),
    }  # fmt: skip

    def strength(axial: float, moment: float) -> Any:
        return splice_strength(
            assembly.section, sleeve, splice.length.mm, plugs=splice.plugs, plugs_in_section=splice.plugs_in_section,
            plug=splice.plug_mm, leg=assembly.splice_leg, yield_strength=grade.yield_mpa, welded_yield=grade.welded_yield_mpa,
            ultimate=grade.uts_at_weld, electrode_ultimate=assembly.filler(settings), axial=axial, moment=moment,
        )  # fmt: skip

    still = strength(0.0, 0.0)
    overlap = still.overlap
    told = (
        ""
        if overlap >= ENOUGH_OVERLAP
        else f"the sleeve reaches {overlap:.1f} diameters into either tube: {ENOUGH_OVERLAP:g} are common practice"
    )
    out = []
    for key, capacity, output in (
        ("splice_net", still.gross_yield, "yield_n"), ("splice_rupture", still.rupture, "rupture_n"), ("splice_weld", still.weld, "weld_n"),
    ):  # fmt: skip
        kind = asked(key, "splice", factors)
        out.append(worst_of(kind, assembly.cases, _axial(kind, "splice", common, output, capacity)))
    bend = asked("splice_bending", "splice", factors)
    length = link.between.mm
    leg = (link.bent.from_ends.mm if link.bent.from_ends else length / 2) if link.bent else 0.0
    kink = beam_column.Kink(offset=link.bent.offset.mm, from_ends=leg) if link.bent else None
    bow = link.bow_mm if link.bow_mm is not None else length / 1000

    def bending(case: CaseSeen) -> Try | None:
        if case.axial_n == 0 and case.strike_n == 0:
            return None
        push = max(0.0, -case.axial_n) * bend.factor
        beam = beam_column.BeamColumn(
            section=assembly.section,
            length=length,
            elastic_modulus=grade.e_mpa,
            mid_lateral=case.mid_strike_n * bend.factor,
            bow=bow,
            kink=kink,
        )
        # past the Euler load the column's own check refuses it; here the largest moment it can still stand
        pull = max(0.0, case.axial_n) * bend.factor
        bent = beam_column.pulled(beam, pull) if pull else beam_column.response(beam, min(push, 0.95 * beam.euler))
        moment = bent.max_moment
        axial = case.axial_n * bend.factor
        data = {**common, "axial_n": axial, "moment_nmm": moment}
        return Try(
            demand=strength(axial, moment).stress, capacity=grade.welded_yield_mpa, topic="splice", input=data, output="stress_mpa",
            figure="demand", note=told,
        )  # fmt: skip

    out.append(worst_of(bend, assembly.cases, bending))
    return out
