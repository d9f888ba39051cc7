"""Every check of a link and its tab, each a result with its demand, capacity, source and the line that reproduces it.

Loads are multiplied by the design factor before each check. Not checked, and said so beside the results: fatigue,
impact, weld quality, corrosion, the structure the link bolts to.
"""

from __future__ import annotations

from collections.abc import Callable
from math import cos, radians, sin
from typing import Any

from tirante.core.brackets import bolt as bolts
from tirante.core.brackets import lug, tab_bending, weld_group
from tirante.core.checks.result import CheckResult, Kind, Reproduction, Try, worst_of
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.common import LoadCase
from tirante.core.document.settings import Settings
from tirante.core.members import beam_column, column, insert_weld, rod_end, thread, tube
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.link.assembly import Assembly, PlainEnd, ThreadedEnd, school_of, stack_end, tabbed, worst_axial
from tirante.core.parts.link.joined import joined_checks

NOT_CHECKED = (
    "fatigue",
    "impact",
    "weld quality (assumed sound)",
    "corrosion and wear",
    "the frame, axle or upright it bolts to",
)


STEEL_MODULUS = 205_000.0  # MPa, of shanks; common value


def link_checks(assembly: Assembly, stack: LinkStack, settings: Settings) -> list[CheckResult]:
    """All checks of the link and its tab, weakest first; those that no case asks for at the end."""
    results = [*tube_checks(assembly, settings), _stepped_check(assembly, stack, settings)]
    for index, end in enumerate(assembly.ends):
        if isinstance(end, ThreadedEnd):
            results += _end_checks(assembly, end, index, stack, settings)
    results = _weaker_end(results + joined_checks(assembly, settings))
    if assembly.link.tab:
        results += _tab_checks(assembly, assembly.link.tab, settings)
    return sorted(results, key=lambda r: -(r.utilisation if r.utilisation is not None else -1.0))


def tube_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    """The checks that the tube and its grade alone decide, whatever the ends."""
    return [
        *_column_checks(assembly, settings),
        _bowed_check(assembly, settings),
        _net_check(assembly, settings),
        *_wall_checks(assembly),
    ]


def _weaker_end(results: list[CheckResult]) -> list[CheckResult]:
    """Two ends give each check twice; the weaker end's is kept, under that end's name."""
    by_key: dict[str, CheckResult] = {}
    for result in results:
        other = by_key.get(result.key)
        if other is None or (result.utilisation or -1) > (other.utilisation or -1) + 1e-12:
            by_key[result.key] = result
    return list(by_key.values())


# --- the tube -------------------------------------------------------------------------------------------------------
def _column_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    grade, section, length = assembly.grade, assembly.section, assembly.link.between.mm
    strength = column.column_strength(section, length, grade.yield_mpa, grade.e_mpa)
    payload = {
        "od_mm": section.od, "wall_mm": section.wall, "length_mm": length, "yield_mpa": grade.yield_mpa,
        "e_mpa": grade.e_mpa,
    }  # fmt: skip
    found = []
    for key, name, value, output, formula, source in (
        ("column", "Column, Euler–Johnson", strength.critical, "critical_n",
         "π²EI/L² above the transition slenderness, A Sy (1 − Sy s²/4π²E) below", "shigley-columns"),
        ("column_aisc", "Column, AISC E3", strength.aisc_e3, "aisc_e3_n",
         "0.658^(Fy/Fe) Fy A, or 0.877 Fe A when Fy/Fe > 2.25", "aisc-e3"),
    ):  # fmt: skip
        kind = Kind(key=key, name=name, part="tube", unit="N", factor=settings.factors.column, factor_name="column",
                     formula=formula, source=source)  # fmt: skip

        def attempt(case: LoadCase, value: float = value, output: str = output, k: Kind = kind) -> Try | None:
            if case.axial_n >= 0:
                return None
            return Try(demand=-case.axial_n * k.factor, capacity=value, topic="column", input=payload, output=output)

        found.append(worst_of(kind, assembly.link.cases, attempt))
    return found


def column_segments(assembly: Assembly, stack: LinkStack) -> list[tuple[float, float, float | None, float, float]]:
    """Pin to pin: (length, od, wall, E, yield). Eye to thread as a bar of the major diameter, thread showing, nut and
    insert shoulder as a bar of the root diameter, then the tube alone (the insert inside it is not counted on)."""
    halves: list[list[tuple[float, float, float | None, float, float]]] = []
    for end, state in zip(assembly.ends, stack.ends, strict=True):
        if not isinstance(end, ThreadedEnd) or state.engagement is None:
            # a sleeve's or clevis's own stiffness is not known; the tube is taken to reach its centre
            halves.append([])
            continue
        t, joint = end.thread, end.joint
        plain = joint.eye_to_shank_end_mm - joint.thread_length_mm
        bare = state.face_from_centre - plain
        pieces = [
            (plain, t.major, None, STEEL_MODULUS, joint.body_yield_mpa),
            (bare, t.root_external, None, STEEL_MODULUS, joint.body_yield_mpa),
        ]
        halves.append([piece for piece in pieces if piece[0] > 0])
    outside = sum(piece[0] for half in halves for piece in half)
    tube_length = assembly.link.between.mm - outside
    middle = (tube_length, assembly.tube.od_mm, assembly.tube.wall_mm, assembly.grade.e_mpa, assembly.grade.yield_mpa)
    return [*halves[0], middle, *reversed(halves[1])]


def _stepped_check(assembly: Assembly, stack: LinkStack, settings: Settings) -> CheckResult:
    kind = Kind(key="stepped", name="Bare shanks, stepped column", part="tube and shanks", unit="N",
                 factor=settings.factors.column, factor_name="column",
                 formula="Py (1 − Py/4Pe), Pe of the exact stepped line; Pe when Py > 2 Pe",
                 source="timoshenko-stepped")  # fmt: skip
    pieces = column_segments(assembly, stack)
    strength = column.stepped_column(
        [
            column.Segment(length=n, section=tube.Section(od=od, wall=wall), elastic_modulus=e, yield_strength=sy)
            for n, od, wall, e, sy in pieces
        ]
    )
    payload = {
        "segments": [
            {"length_mm": n, "od_mm": od, "wall_mm": wall, "e_mpa": e, "yield_mpa": sy} for n, od, wall, e, sy in pieces
        ]
    }
    capacity = strength.critical or 0.0

    def attempt(case: LoadCase) -> Try | None:
        if case.axial_n >= 0:
            return None
        return Try(demand=-case.axial_n * kind.factor, capacity=capacity, topic="stepped-column", input=payload,
                    output="critical_n")  # fmt: skip

    return worst_of(kind, assembly.link.cases, attempt)


def default_bow(length: float) -> float:
    """Crookedness allowed for a straight tube: length / 1000 (common practice; AISC's initial crookedness) [mm]."""
    return length / 1000


def _bowed_check(assembly: Assembly, settings: Settings) -> CheckResult:
    link, grade = assembly.link, assembly.grade
    length = link.between.mm
    bow = link.bow_mm if link.bow_mm is not None else default_bow(length)
    strength = grade.welded_yield_mpa if link.mid_welded or link.splice else grade.yield_mpa
    kind = Kind(key="bowed", name="Bowed or struck under compression", part="tube", unit="MPa",
                 factor=settings.factors.yielding, factor_name="yielding",
                 formula="P/A + M D/2I with M on the bent shape; P ≥ Pe is refused",
                 source="timoshenko-beam-column")  # fmt: skip

    bent = link.bent
    leg = (bent.from_ends.mm if bent.from_ends else length / 2) if bent else 0.0
    kink = beam_column.Kink(offset=bent.offset.mm, from_ends=leg) if bent else None

    def attempt(case: LoadCase) -> Try | None:
        if case.axial_n >= 0 and case.strike_n == 0 and not (bent and case.axial_n):
            return None
        # pulled, a bent tube straightens: taken as if it were pushed, which is on the safe side
        push = abs(case.axial_n) if bent else max(0.0, -case.axial_n)
        axial, lateral = push * kind.factor, case.strike_n * kind.factor
        beam = beam_column.BeamColumn(
            section=assembly.section,
            length=length,
            elastic_modulus=grade.e_mpa,
            mid_lateral=lateral,
            bow=bow,
            kink=kink,
        )
        payload: dict[str, Any] = {
            "od_mm": assembly.tube.od_mm, "wall_mm": assembly.tube.wall_mm, "length_mm": length, "e_mpa": grade.e_mpa,
            "axial_compression_n": axial, "mid_lateral_n": lateral, "bow_mm": bow, "yield_mpa": strength,
        }  # fmt: skip
        if bent:
            payload["kink"] = {"offset_mm": bent.offset.mm, "from_ends_mm": leg}
        if axial >= beam.euler:
            euler = column.column_strength(assembly.section, length, strength, grade.e_mpa).euler
            data = {key: payload[key] for key in ("od_mm", "wall_mm", "length_mm", "e_mpa", "yield_mpa")}
            return Try(demand=axial, capacity=euler, topic="column", input=data, output="euler_n", unit="N",
                        utilisation=max(1.000001, axial / euler),
                        note="the factored compression reaches the Euler load: no bent equilibrium")  # fmt: skip
        stress = beam_column.response(beam, axial).max_stress
        return Try(demand=stress, capacity=strength, topic="beam-column", input=payload, output="max_stress_mpa",
                    figure="demand")  # fmt: skip

    return worst_of(kind, link.cases, attempt)


def _net_check(assembly: Assembly, settings: Settings) -> CheckResult:
    grade, welding = assembly.grade, assembly.link.welding
    inserts = any(not end.tapped for end in assembly.threaded) or any(
        isinstance(end, PlainEnd) and end.machined for end in assembly.ends
    )
    holes = welding.plugs_in_section if inserts and welding.plugs and welding.plug_mm > 0 else 0
    welded = grade.welded_yield_mpa if assembly.welded else None
    kind = Kind(key="net", name="Tube at its plug welds", part="tube", unit="N", factor=settings.factors.yielding,
                 factor_name="yielding", formula="lower of A · as-welded yield and net A · ultimate (A − Σ n d t)",
                 source="aisc-d2")  # fmt: skip
    found = tube.net_section(
        assembly.section, [tube.Holes(diameter=welding.plug_mm, count=holes)] if holes else [], grade.yield_mpa,
        grade.uts_mpa, welded,
    )  # fmt: skip
    payload: dict[str, Any] = {
        "od_mm": assembly.tube.od_mm, "wall_mm": assembly.tube.wall_mm,
        "holes": [{"diameter_mm": welding.plug_mm, "count_in_section": holes}] if holes else [],
        "yield_mpa": grade.yield_mpa, "uts_mpa": grade.uts_mpa, **({} if welded is None else {"welded_yield_mpa": welded}),
    }  # fmt: skip

    def attempt(case: LoadCase) -> Try | None:
        if case.axial_n == 0:
            return None
        return Try(demand=abs(case.axial_n) * kind.factor, capacity=found.capacity, topic="net-section",
                    input=payload, output="capacity_n")  # fmt: skip

    return worst_of(kind, assembly.link.cases, attempt)


def _wall_checks(assembly: Assembly) -> list[CheckResult]:
    grade, section = assembly.grade, assembly.section
    found = tube.wall_slenderness(section, grade.yield_mpa, grade.e_mpa)
    payload = {"od_mm": section.od, "wall_mm": section.wall, "yield_mpa": grade.yield_mpa, "e_mpa": grade.e_mpa}
    kind = Kind(key="wall", name="Wall in compression", part="tube", unit="", factor=1.0, factor_name="none",
                 formula="D/t ≤ 0.11 E/Fy", source="aisc-b4")  # fmt: skip
    bending = Kind(key="wall_bending", name="Wall in bending", part="tube", unit="", factor=1.0, factor_name="none",
                    formula="D/t ≤ 0.07 E/Fy", source="aisc-b4")  # fmt: skip
    return [
        worst_of(kind, assembly.link.cases, lambda case: None if case.axial_n >= 0 else Try(
            demand=found.d_over_t, capacity=found.compression_limit, topic="local-wall", input=payload,
            output="compression_limit")),
        worst_of(bending, assembly.link.cases, lambda case: None if case.strike_n == 0 else Try(
            demand=found.d_over_t, capacity=found.bending_limit, topic="local-wall", input=payload,
            output="bending_limit")),
    ]  # fmt: skip


# --- the ends -------------------------------------------------------------------------------------------------------
def _end_checks(
    assembly: Assembly, end: ThreadedEnd, index: int, stack: LinkStack, settings: Settings
) -> list[CheckResult]:
    factors, cases = settings.factors, assembly.link.cases
    state = stack.ends[index]
    engagement = state.engagement or 0.0
    part = f"end {'AB'[index]}"
    joint, insert = end.joint, end.insert
    engaged = min(engagement, insert.thread_depth_mm)
    found = thread.thread_strip(end.thread, joint.body_uts_mpa, insert.uts_mpa, engaged)
    payload = {
        "designation": joint.designation, "external_uts_mpa": joint.body_uts_mpa, "internal_uts_mpa": insert.uts_mpa,
        "engagement_mm": engaged,
    }  # fmt: skip

    def axial(
        kind: Kind, capacity: float, topic: str, data: dict[str, Any], output: str, tension: bool = False
    ) -> CheckResult:
        def attempt(case: LoadCase) -> Try | None:
            force = max(0.0, case.axial_n) if tension else abs(case.axial_n)
            if force == 0:
                return None
            return Try(demand=force * kind.factor, capacity=capacity, topic=topic, input=data, output=output)

        return worst_of(kind, cases, attempt)

    def kind(key: str, name: str, factor: float, factor_name: str, formula: str, source: str, unit: str = "N") -> Kind:
        return Kind(key=key, name=name, part=part, unit=unit, factor=factor, factor_name=factor_name,
                     formula=formula, source=source)  # fmt: skip

    results = [
        _engagement_check(kind("engagement", "Thread engagement", 1.0, "none", "least engagement ≤ e = A − j − showing",
                               "geometry", "mm"), assembly, end, index, stack, settings),
        axial(kind("thread_tension", "Shank breaking at the thread", factors.joint, "joint", "At · σu of the shank",
                   "fed-std-h28"), found.break_force, "thread-strip", payload, "break_n", tension=True),
        axial(kind("strip_insert", "Thread strip, tube" if end.tapped else "Thread strip, insert", factors.strip, "strip", "0.5 σu · An(e)", "fed-std-h28"),
              found.strip_internal, "thread-strip", payload, "strip_internal_n"),
        axial(kind("strip_shank", "Thread strip, shank", factors.strip, "strip", "0.5 σu · As(e)", "fed-std-h28"),
              found.strip_external, "thread-strip", payload, "strip_external_n"),
    ]  # fmt: skip
    lever = max(0.0, joint.eye_to_shank_end_mm - engagement - end.nut.height_mm)
    bend = kind("shank_bending", "Shank bending at the nut", factors.yielding, "yielding",
                "N/(π d3²/4) + 32 V·lever/(π d3³), V = side + half the strike", "shigley-shaft", "MPa")  # fmt: skip

    def bending(case: LoadCase) -> Try | None:
        side = case.side_n + case.strike_n / 2
        if side == 0:
            return None
        data = {
            "designation": joint.designation, "axial_n": case.axial_n * bend.factor, "side_n": side * bend.factor,
            "lever_mm": lever, "yield_mpa": joint.body_yield_mpa,
        }  # fmt: skip
        stress = thread.shank_bending_stress(end.thread, data["axial_n"], data["side_n"], lever)  # type: ignore[arg-type]
        return Try(demand=stress, capacity=joint.body_yield_mpa, topic="shank-bending", input=data,
                    output="stress_mpa", figure="demand")  # fmt: skip

    results.append(worst_of(bend, cases, bending))
    results += _joint_and_weld(assembly, end, settings, axial, kind)
    return results


def _engagement_check(
    kind: Kind, assembly: Assembly, end: ThreadedEnd, index: int, stack: LinkStack, settings: Settings
) -> CheckResult:
    axial = worst_axial(assembly.link.cases)
    school, showing = school_of(assembly.link, settings)
    ends = []
    for parts in assembly.ends:
        built = stack_end(parts, axial, settings)
        if isinstance(parts, ThreadedEnd):
            ends.append({
                "kind": "adjustable", "diameter_mm": parts.thread.major, "pitch_mm": built.pitch,  # type: ignore[union-attr]
                "thread_length_mm": built.thread_length, "eye_to_shank_end_mm": built.eye_to_shank_end,  # type: ignore[union-attr]
                "jam_nut_mm": built.jam_nut, "shoulder_mm": built.shoulder,  # type: ignore[union-attr]
                "min_engagement_mm": built.min_engagement, "insert_depth_mm": built.insert_depth,  # type: ignore[union-attr]
                "hand": parts.hand,
            })  # fmt: skip
        else:
            ends.append({"kind": "fixed", "centre_to_face_mm": parts.centre_to_face})
    payload: dict[str, Any] = {"centre_to_centre_mm": assembly.link.path_mm, "school": school, "ends": ends}
    if showing is not None and school != "centred":
        payload["showing_mm"] = showing
    state = stack.ends[index]
    needed = float(payload["ends"][index]["min_engagement_mm"])
    engagement = state.engagement or 0.0
    ratio = needed / engagement if state.ok else max(1.000001, needed / engagement)
    if ratio > 1 and state.ok:  # equal within rounding
        ratio = 1.0
    return CheckResult(
        key=kind.key, name=kind.name, part=kind.part, demand=needed, capacity=engagement, unit="mm", utilisation=ratio,
        passed=state.ok, case=None, factor=1.0, factor_name="none", formula=kind.formula, source=kind.source,
        note="; ".join(state.reasons),
        reproduce=Reproduction(topic="link-stack", input=payload, output=f"ends.{index}.engagement_mm",
                               figure="capacity"),
    )  # fmt: skip


def _joint_and_weld(
    assembly: Assembly, end: ThreadedEnd, settings: Settings,
    axial: Callable[..., CheckResult], kind: Callable[..., Kind],
) -> list[CheckResult]:  # fmt: skip
    factors, joint, welding = settings.factors, end.joint, assembly.link.welding
    strength = rod_end.rod_end_strength(
        end.thread, joint.head_diameter_mm, joint.housing_width_mm, joint.housing_bore_mm, joint.ball_diameter_mm,
        joint.body_uts_mpa, joint.race_pressure_mpa, joint.maker_static_n,
    )  # fmt: skip
    data: dict[str, Any] = {
        "designation": joint.designation, "head_diameter_mm": joint.head_diameter_mm,
        "housing_width_mm": joint.housing_width_mm, "housing_bore_mm": joint.housing_bore_mm,
        "ball_diameter_mm": joint.ball_diameter_mm, "body_uts_mpa": joint.body_uts_mpa,
        "race_pressure_mpa": joint.race_pressure_mpa,
    }  # fmt: skip
    if joint.maker_static_n is not None:
        data["maker_static_n"] = joint.maker_static_n
    base = min(assembly.grade.uts_mpa, end.insert.uts_mpa)
    weld = insert_weld.insert_weld(
        assembly.tube.od_mm, welding.leg_mm, welding.plug_mm, welding.plugs, settings.electrode_uts_mpa, base
    )
    weld_data = {
        "tube_od_mm": assembly.tube.od_mm, "leg_mm": welding.leg_mm, "plug_mm": welding.plug_mm,
        "plugs": welding.plugs, "electrode_uts_mpa": settings.electrode_uts_mpa, "base_uts_mpa": base,
    }  # fmt: skip
    side_kind = kind("joint_side", "Joint pushed along its bolt", factors.joint, "joint", "0.2 · race capacity",
                     "rod-end-practice")  # fmt: skip
    side = worst_of(side_kind, assembly.link.cases, lambda case: None if case.side_n + case.strike_n == 0 else Try(
        demand=(case.side_n + case.strike_n / 2) * side_kind.factor, capacity=strength.axial, topic="rod-end",
        input=data, output="axial_n",
        note="the side force and half the strike may act along the bolt"))  # fmt: skip
    rating_source = "maker" if joint.maker_static_n is not None else "rod-end-practice"
    found = [
        axial(kind("joint", "Joint rating", factors.joint, "joint",
                   "maker's static rating, else least of shank, eye and race", rating_source),
              strength.rating, "rod-end", data, "rating_n"),
        side,
    ]  # fmt: skip
    if not end.tapped:
        found.append(
            axial(kind("insert_weld", "Insert weld", factors.weld, "weld", "ring 0.6 FEXX · 0.707 leg · π D, and plugs", "aisc-j2"),
                  weld.capacity, "insert-weld", weld_data, "capacity_n")
        )  # fmt: skip
    return found


# --- the tab --------------------------------------------------------------------------------------------------------
def clevis_gap(assembly: Assembly, tab: TabPair) -> float:
    """Between the plates: ball, spacers and shims on both sides [mm]."""
    held = tabbed(assembly.ends, tab)
    ball = held[0].joint.ball_width_mm if held else 0.0
    spacer = assembly.spacer.height_mm if assembly.spacer else 0.0
    return ball + 2 * (spacer + tab.shim_mm)


def _tab_checks(assembly: Assembly, tab: TabPair, settings: Settings) -> list[CheckResult]:
    if not assembly.tabbed or assembly.bolt is None:
        return []
    factors, cases, bolt = settings.factors, assembly.link.cases, assembly.bolt
    joint = assembly.tabbed[0].joint
    gap = (assembly.spacer.height_mm if assembly.spacer else 0.0) + tab.shim_mm
    material = bolts.bolt_class(bolt.strength_class, bolt.diameter_mm)
    t = thread.parse_thread(bolt.designation)
    stack = bolts.PinStack(ball_width=joint.ball_width_mm, gap=gap, plate=tab.plate.mm, planes=2)
    shear = bolts.pin_shear(bolt.diameter_mm, material, 2, t, tab.thread_in_plane)
    bending_diameter = t.root_external if tab.thread_in_plane else bolt.diameter_mm
    named = (
        {"grade": bolt.strength_class.removeprefix("grade ")}
        if bolt.strength_class.startswith("grade")
        else {"class": bolt.strength_class}
    )

    def pin_data(force: float) -> dict[str, Any]:
        return {
            "diameter_mm": bolt.diameter_mm, "designation": bolt.designation, **named, "planes": 2,
            "thread_in_plane": tab.thread_in_plane, "ball_width_mm": joint.ball_width_mm, "plate_mm": tab.plate.mm,
            "gap_mm": gap, "force_n": force,
        }  # fmt: skip

    def force_of(case: LoadCase, factor: float) -> float | None:
        return abs(case.axial_n) * factor if case.axial_n else None

    shear_kind = Kind(key="pin_shear", name="Clevis pin, shear", part="bolt", unit="N", factor=factors.bolt,
                       factor_name="bolt", formula="2 · 0.6 Rm · area (0.5 for 10.9 and 12.9 on the thread)",
                       source="en-1993-1-8")  # fmt: skip
    bend_kind = Kind(key="pin_bending", name="Clevis pin, bending", part="bolt", unit="MPa", factor=factors.bolt,
                      factor_name="bolt", formula="F/2 (plate/2 + gap + ball/4) · 32/(π d³) against yield",
                      source="en-1993-1-8")  # fmt: skip

    def pin_shear(case: LoadCase) -> Try | None:
        force = force_of(case, factors.bolt)
        return (
            None
            if force is None
            else Try(demand=force, capacity=shear, topic="pin", input=pin_data(force), output="shear_n")
        )

    def pin_bending(case: LoadCase) -> Try | None:
        force = force_of(case, factors.bolt)
        if force is None:
            return None
        stress = bolts.pin_bending_stress(bending_diameter, bolts.pin_bending_moment(stack, force))
        return Try(demand=stress, capacity=material.yield_strength, topic="pin", input=pin_data(force),
                    output="bending_mpa", figure="demand")  # fmt: skip

    return [
        worst_of(shear_kind, cases, pin_shear),
        worst_of(bend_kind, cases, pin_bending),
        *_lug_checks(assembly, tab, bolt.diameter_mm, settings),
        *_foot_checks(tab, cases, settings),
    ]


def lug_of(tab: TabPair, pin: float) -> lug.Lug:
    """The tab's two plates as a lug under a pin of this diameter [mm]."""
    return lug.Lug(thickness=tab.plate.mm, width=2 * tab.head_radius.mm, hole=tab.hole.mm, pin=pin, edge=tab.edge.mm)


def _lug_checks(assembly: Assembly, tab: TabPair, pin: float, settings: Settings) -> list[CheckResult]:
    factors = settings.factors
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
    rows = (
        ("tab_bearing", "Tab bearing", strength.bearing, "bearing_n", factors.tab_rupture, "tab_rupture", "1.8 Fy d t n", "aisc-j7"),
        ("tab_tension", "Tab net tension", strength.tension_rupture, "tension_rupture_n", factors.tab_rupture, "tab_rupture", "Fu 2 t b_e n", "aisc-d5"),
        ("tab_tearout", "Tab tear-out", strength.shear_rupture, "shear_rupture_n", factors.tab_rupture, "tab_rupture", "0.6 Fu 2 t (a + d/2) n", "aisc-d5"),
        ("tab_yield", "Tab yield across the hole", strength.gross_yield, "gross_yield_n", factors.tab_yield, "tab_yield", "Fy w t n", "aisc-d2"),
    )  # fmt: skip
    results = []
    for key, name, capacity, output, factor, factor_name, formula, source in rows:
        kind = Kind(key=key, name=name, part="tab", unit="N", factor=factor, factor_name=factor_name,
                     formula=formula, source=source)  # fmt: skip

        def attempt(case: LoadCase, f: float = factor, c: float = capacity, o: str = output) -> Try | None:
            if case.axial_n == 0:
                return None
            return Try(demand=abs(case.axial_n) * f, capacity=c, topic="lug", input=data, output=o)

        results.append(worst_of(kind, assembly.link.cases, attempt))
    results.append(CheckResult(
        key="tab_detailing", name="Tab proportions", part="tab", demand=float(len(broken)), capacity=0.0, unit="",
        utilisation=1.000001 if broken else None, passed=not broken, case=None, factor=1.0, factor_name="none",
        formula="a ≥ 1.33 b_e; hole ≤ pin + 1 mm; width ≥ 2 b_e + pin", source="aisc-d5",
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


def _foot_checks(tab: TabPair, cases: tuple[LoadCase, ...], settings: Settings) -> list[CheckResult]:
    factors = settings.factors
    bend = Kind(key="tab_foot", name="Tab bending at its foot", part="tab", unit="MPa", factor=factors.tab_yield,
                 factor_name="tab_yield", formula="N/A + 6 M/(t w²) + 6 V h/(w t²)", source="shigley-shaft")  # fmt: skip
    weld = Kind(key="tab_weld", name="Tab weld", part="tab", unit="MPa", factor=factors.weld, factor_name="weld",
                 formula="line force of the group / 0.707 leg, against 0.6 FEXX", source="blodgett")  # fmt: skip
    nominal = SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa
    angle = radians(tab.load_angle_deg)

    def foot(case: LoadCase) -> Try | None:
        side = case.side_n + case.strike_n / 2
        if case.axial_n == 0 and side == 0:
            return None
        data = {
            "thickness_mm": tab.plate.mm, "width_mm": tab.base_width.mm, "height_mm": tab.height.mm, "plates": 2,
            "force_n": abs(case.axial_n) * bend.factor, "load_angle_deg": tab.load_angle_deg,
            "side_n": side * bend.factor, "yield_mpa": tab.yield_mpa,
        }  # fmt: skip
        stress = tab_bending.tab_foot_stress(
            tab.plate.mm, tab.base_width.mm, tab.height.mm, 2, abs(case.axial_n) * bend.factor, tab.load_angle_deg,
            side * bend.factor,
        )  # fmt: skip
        return Try(demand=stress, capacity=tab.yield_mpa, topic="tab-bending", input=data, output="stress_mpa",
                    figure="demand")  # fmt: skip

    def group(case: LoadCase) -> Try | None:
        side = (case.side_n + case.strike_n / 2) * weld.factor / 2
        pull = abs(case.axial_n) * weld.factor / 2
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
