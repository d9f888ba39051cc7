"""Checks of what is joined to a link's tube or cut into it: machined eyes and clevises, plates let in, a squashed end, a plugged one, a splice, the tube's own thread."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import isfinite, pi
from typing import Any

from tirante.core.brackets import lug
from tirante.core.brackets.bolt import PinStack, pin_bending_moment, pin_bending_stress, plain_pin_shear
from tirante.core.checks.kinds import CHECKS, Asked, asked
from tirante.core.checks.result import CheckResult, Try, worst_of
from tirante.core.document.parts.link import FlatEnd, Machined, Plug, Sleeve
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members import beam_column, flat_end, insert_weld
from tirante.core.members.neck import neck_stress
from tirante.core.members.plate_link import FlatLink, flat_stress
from tirante.core.members.splice import sleeve_section, splice_strength
from tirante.core.members.tube import Holes, net_section
from tirante.core.parts.link.assembly import Assembly, PlainEnd, ThreadedEnd
from tirante.core.parts.link.flat import let_in, sizes_of
from tirante.core.parts.link.plug import plug_eye
from tirante.core.parts.link.sleeve import stands_od, weld_share
from tirante.core.parts.welded.housing import ring_of

ENOUGH_OVERLAP = 1.5  # tube diameters of sleeve on either side; common practice, no source


def joined_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    """Of machined and flat ends, of the splice, of tapped ends; none where there is none of them."""
    out: list[CheckResult] = []
    for index, end in enumerate(assembly.ends):
        part = f"end {'AB'[index]}"
        if isinstance(end, PlainEnd) and end.machined:
            out += _machined(assembly, end.machined, part, settings)
        elif isinstance(end, PlainEnd) and end.flat:
            out += _flat(assembly, end.flat, part, settings)
        elif isinstance(end, PlainEnd) and end.plug:
            out += _plugged(assembly, end.plug, part, settings)
        elif isinstance(end, PlainEnd) and end.sleeve:
            out += _sleeve(assembly, end.sleeve, part, settings)
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


@dataclass(frozen=True, slots=True, kw_only=True)
class _Pinned:
    """An eye or a clevis at a link's end [mm, MPa]."""

    word: str
    plate: lug.Lug
    gap: float
    yield_mpa: float
    uts_mpa: float
    pin_yield_mpa: float
    data: dict[str, Any] | None = None  # of `calc plug-eye`, where that is what it is


def _machined(assembly: Assembly, end: Machined, part: str, settings: Settings) -> list[CheckResult]:
    factors, cases, welding = settings.factors, assembly.cases, assembly.link.welding
    plates = 2 if end.form == "clevis" else 1
    word = "Clevis" if plates == 2 else "Eye"
    plate = lug.Lug(
        thickness=end.thickness_mm, width=end.width_mm, hole=end.hole_mm, pin=end.pin_mm, edge=end.edge_mm, plates=plates
    )  # fmt: skip
    out = _pinned(
        _Pinned(word=word, plate=plate, gap=end.gap_mm, yield_mpa=end.yield_mpa, uts_mpa=end.uts_mpa, pin_yield_mpa=end.pin_yield_mpa),
        part, cases, settings,
    )  # fmt: skip
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


def _sleeve(assembly: Assembly, end: Sleeve, part: str, settings: Settings) -> list[CheckResult]:
    """A sleeve as an eye as thick as it is long, under the whole of what goes in; and the fillet round the tube on it."""
    grade = assembly.grade
    plate = ring_of(end.outside_mm, end.wall_mm, end.long_mm)
    out = _round_pin("Sleeve", plate, (grade.welded_yield_mpa, grade.uts_at_weld), part, assembly.cases, settings)
    kind = asked(
        "spigot_weld", part, settings.factors, name=f"Sleeve’s weld round the {'neck' if end.reducer else 'tube'}"
    )
    filler = assembly.filler(settings)
    stands = stands_od(end, assembly.tube)
    round_ = stands * weld_share(end, stands)  # a ring as long as lies on the sleeve itself
    weld = insert_weld.insert_weld(round_, assembly.leg, 0.0, 0, filler, grade.uts_at_weld)
    data = {
        "tube_od_mm": round_, "leg_mm": assembly.leg, "plug_mm": 0.0, "plugs": 0, "electrode_uts_mpa": filler, "base_uts_mpa": grade.uts_at_weld,
    }  # fmt: skip
    out.append(worst_of(kind, assembly.cases, _axial(kind, "insert-weld", data, "capacity_n", weld.capacity)))
    return [*out, *_reducer(assembly, end, part, settings)]


def _reducer(assembly: Assembly, end: Sleeve, part: str, settings: Settings) -> list[CheckResult]:
    """A reducer's collar welded to the tube, and its neck pulled and bent; none where there is none."""
    if end.reducer is None:
        return []
    grade, welding, filler = assembly.grade, assembly.link.welding, assembly.filler(settings)
    own = assembly.ends[0 if part == "end A" else 1]
    assert isinstance(own, PlainEnd)
    kind = asked("spigot_weld", part, settings.factors, of="reducer", name="Reducer’s weld in the tube")
    weld = insert_weld.insert_weld(assembly.tube.od_mm, assembly.leg, welding.plug_mm, welding.plugs, filler, grade.uts_at_weld)  # fmt: skip
    data = {
        "tube_od_mm": assembly.tube.od_mm, "leg_mm": assembly.leg, "plug_mm": welding.plug_mm, "plugs": welding.plugs, "electrode_uts_mpa": filler, "base_uts_mpa": grade.uts_at_weld,
    }  # fmt: skip
    out = [worst_of(kind, assembly.cases, _axial(kind, "insert-weld", data, "capacity_n", weld.capacity))]
    bent, lever = asked("reducer_neck", part, settings.factors), own.centre_to_face

    def attempt(case: CaseSeen) -> Try | None:
        if case.resultant_n == 0:
            return None
        axial, side = abs(case.axial_n) * bent.factor, abs(case.across_n) * bent.factor
        stress = neck_stress(end.reducer.neck_mm, lever, axial, side) if end.reducer else 0.0
        given = {"neck_mm": end.reducer.neck_mm if end.reducer else 0.0, "lever_mm": lever, "axial_n": axial, "side_n": side, "yield_mpa": grade.welded_yield_mpa}  # fmt: skip
        return Try(demand=stress, capacity=grade.welded_yield_mpa, topic="reducer-neck", input=given, output="stress_mpa", figure="demand")  # fmt: skip

    return [*out, worst_of(bent, assembly.cases, attempt)]


def _plugged(assembly: Assembly, end: Plug, part: str, settings: Settings) -> list[CheckResult]:
    """The plug alone as the eye, its welds under all that goes through it, and the tube across the pin's holes or its welds' as if all of it went there."""
    tube, grade, factors = assembly.tube, assembly.grade, settings.factors
    eye, filler = plug_eye(end, tube), assembly.filler(settings)
    out = _pinned(
        _Pinned(word="Plug", plate=eye.lug, gap=0.0, yield_mpa=end.yield_mpa, uts_mpa=end.uts_mpa, pin_yield_mpa=end.pin_yield_mpa, data={
            "bore_mm": eye.bore, "hole_mm": eye.hole, "pin_mm": eye.pin, "edge_mm": eye.edge, "yield_mpa": end.yield_mpa, "uts_mpa": end.uts_mpa}), part, assembly.cases, settings
    )  # fmt: skip
    base = min(grade.uts_at_weld, end.uts_mpa)
    weld = insert_weld.insert_weld(eye.bore, end.leg_mm, end.plug_mm, end.plugs, filler, base)
    welded = {
        "tube_od_mm": eye.bore, "leg_mm": end.leg_mm, "plug_mm": end.plug_mm, "plugs": end.plugs, "electrode_uts_mpa": filler, "base_uts_mpa": base,
    }  # fmt: skip
    kind = asked("spigot_weld", part, factors, name="Plug’s weld in the tube")
    out.append(worst_of(kind, assembly.cases, _axial(kind, "insert-weld", welded, "capacity_n", weld.capacity)))
    size, count = max((end.hole_mm, 2), (end.plug_mm, end.plugs), key=lambda one: one[0] * one[1])
    found = net_section(assembly.section, [Holes(diameter=size, count=count)], grade.yield_mpa, grade.uts_at_weld, grade.welded_yield_mpa)  # fmt: skip
    net = {
        "od_mm": tube.od_mm, "wall_mm": tube.wall_mm, "holes": [{"diameter_mm": size, "count_in_section": count}], "yield_mpa": grade.yield_mpa,
        "uts_mpa": grade.uts_at_weld, "welded_yield_mpa": grade.welded_yield_mpa,
    }  # fmt: skip
    where = "the pin’s holes" if (size, count) == (end.hole_mm, 2) else "the plug’s welds"
    for key, capacity, output in (
        ("net", found.yield_force, "yield_n"),
        ("net_rupture", found.rupture_force, "rupture_n"),
    ):
        kind = asked(key, part, factors, name=f"Tube {'yields' if key == 'net' else 'torn'} across {where}")
        out.append(worst_of(kind, assembly.cases, _axial(kind, "net-section", net, output, capacity)))
    return out


def _flat(assembly: Assembly, end: FlatEnd, part: str, settings: Settings) -> list[CheckResult]:
    """Plates let in, or the tube squashed: the pin's place, and where plates are let in the slotted tube and the fillets."""
    tube, grade, factors = assembly.tube, assembly.grade, settings.factors
    width, thick = sizes_of(end, tube)
    plate = lug.Lug(thickness=thick, width=width, hole=end.hole_mm, pin=end.pin_mm, edge=end.edge_mm, plates=end.plates)
    word = "Squashed end" if end.squashed else "Clevis" if end.plates == 2 else "Eye"
    metal = (grade.yield_mpa, grade.uts_mpa) if end.squashed else (end.yield_mpa, end.uts_mpa)
    out = _pinned(
        _Pinned(word=word, plate=plate, gap=end.gap_mm, yield_mpa=metal[0], uts_mpa=metal[1], pin_yield_mpa=end.pin_yield_mpa), part, assembly.cases, settings
    )  # fmt: skip
    out.append(_bent_across(assembly, end, part, settings, metal[0]))
    if end.squashed:
        return out
    made, filler = let_in(end, tube), assembly.filler(settings)
    data = {
        "tube_od_mm": tube.od_mm, "wall_mm": tube.wall_mm, "thickness_mm": end.thickness_mm, "plates": end.plates, "gap_mm": end.gap_mm, "lap_mm": end.lap_mm,
        "leg_mm": end.leg_mm, "tube_uts_mpa": grade.uts_at_weld, "plate_uts_mpa": end.uts_mpa, "electrode_uts_mpa": filler,
    }  # fmt: skip
    for key, output, capacity in (
        ("slotted_tube", "tube_rupture_n", flat_end.tube_rupture(made, grade.uts_at_weld)),
        ("slot_weld", "weld_n", flat_end.weld_strength(made, grade.uts_at_weld, end.uts_mpa, filler)),
    ):
        kind = asked(key, part, factors)
        out.append(worst_of(kind, assembly.cases, _axial(kind, "slotted-tube", data, output, capacity)))
    return out


def _bent_across(assembly: Assembly, end: FlatEnd, part: str, settings: Settings, strength: float) -> CheckResult:
    """A flat bent by what is square to the link at its pin, as if all of that came the way that it bends easiest: held in the tube, it is half of a
    plate of twice its length with twice as much of that in the middle."""
    kind = asked("flat_end_bent", part, settings.factors)
    own, e = assembly.ends[0 if part == "end A" else 1], assembly.grade.e_mpa
    assert isinstance(own, PlainEnd)
    width, thick = sizes_of(end, assembly.tube)
    lever = end.lap_mm if end.squashed else own.centre_to_face
    whole = FlatLink(length=2 * lever, width=width, thickness=thick, plates=end.plates)

    def attempt(case: CaseSeen) -> Try | None:
        if case.resultant_n == 0:
            return None
        axial, strike = case.axial_n * kind.factor, 2 * abs(case.across_n) * kind.factor
        stress = flat_stress(whole, axial, strike, 0.0, e)
        data = {
            "length_mm": whole.length, "width_mm": width, "thickness_mm": thick, "plates": end.plates, "yield_mpa": strength, "e_mpa": e, "axial_n": axial, "strike_n": strike,
        }  # fmt: skip
        if not isfinite(stress):
            euler = whole.euler(e)
            return Try(demand=-axial, capacity=euler, topic="plate-link", input=data, output="euler_n", unit="N", utilisation=max(1.000001, -axial / euler),
                       note="the factored push bows the flat by itself")  # fmt: skip
        return Try(
            demand=stress, capacity=strength, topic="plate-link", input=data, output="stress_mpa", figure="demand"
        )

    return worst_of(kind, assembly.cases, attempt)


def _pinned(of: _Pinned, part: str, cases: tuple[CaseSeen, ...], settings: Settings) -> list[CheckResult]:
    """The eye or clevis round its pin, and the pin."""
    factors, plate, word = settings.factors, of.plate, of.word
    out = _round_pin(word, plate, (of.yield_mpa, of.uts_mpa), part, cases, settings, of.data)
    pin = {"pin_mm": plate.pin, "ear_mm": plate.thickness, "gap_mm": of.gap, "force_n": 0.0, "yield_mpa": of.pin_yield_mpa}  # fmt: skip
    kind = asked("machined_pin_shear", part, factors, name=f"{word}’s {CHECKS['machined_pin_shear'].name}")
    out.append(
        worst_of(kind, cases, _whole(kind, "clevis-pin", pin, "shear_n", plain_pin_shear(plate.pin, of.pin_yield_mpa)))
    )
    if plate.plates == 2:
        out.append(_clevis_pin(of, part, cases, settings))
    return out


def _round_pin(
    word: str, plate: lug.Lug, metal: tuple[float, float], part: str, cases: tuple[CaseSeen, ...], settings: Settings, plug: dict[str, Any] | None = None
) -> list[CheckResult]:  # fmt: skip
    """An eye or a clevis round what it holds; its metal by yield and ultimate strength [MPa]."""
    factors, strength = settings.factors, lug.lug_strength(plate, *metal)
    topic, data = "plug-eye" if plug else "lug", plug or {
        "thickness_mm": plate.thickness, "plates": plate.plates, "width_mm": plate.width, "hole_mm": plate.hole, "pin_mm": plate.pin,
        "edge_mm": plate.edge, "yield_mpa": metal[0], "uts_mpa": metal[1],
    }  # fmt: skip
    rows = (
        ("machined_bearing", strength.bearing, "bearing_n"), ("machined_tension", strength.tension_rupture, "tension_rupture_n"),
        ("machined_tearout", strength.shear_rupture, "shear_rupture_n"), ("machined_yield", strength.gross_yield, "gross_yield_n"),
    )  # fmt: skip
    out: list[CheckResult] = []
    for key, capacity, output in rows:
        kind = asked(key, part, factors, name=f"{word}, {CHECKS[key].name}")
        out.append(worst_of(kind, cases, _whole(kind, topic, data, output, capacity)))
    return out


def _clevis_pin(of: _Pinned, part: str, cases: tuple[CaseSeen, ...], settings: Settings) -> CheckResult:
    """What stands between the ears is taken to fill the gap."""
    stack = PinStack(ball_width=max(of.gap, 1e-6), gap=0.0, plate=of.plate.thickness, planes=2)
    kind = asked("machined_pin", part, settings.factors)

    def attempt(case: CaseSeen) -> Try | None:
        if case.resultant_n == 0:
            return None
        force = case.resultant_n * kind.factor
        stress = pin_bending_stress(of.plate.pin, pin_bending_moment(stack, force))
        data = {
            "pin_mm": of.plate.pin, "ear_mm": of.plate.thickness, "gap_mm": of.gap, "force_n": force, "yield_mpa": of.pin_yield_mpa,
        }  # fmt: skip
        return Try(
            demand=stress,
            capacity=of.pin_yield_mpa,
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
