"""Every check of a link, each a result with its demand, capacity, source and the line that reproduces it.

Loads are multiplied by the design factor before each check. Not checked, and said so beside the results: fatigue,
impact, weld quality, corrosion, the structure the link bolts to.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction, Try, weaker_of_each, weakest_first, worst_of
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen, worst_axial
from tirante.core.members import beam_column, column, insert_weld, rod_end, thread, tube
from tirante.core.members.link_stack import AdjustableEnd, LinkStack
from tirante.core.members.plate_link import FlatLink
from tirante.core.parts.link.assembly import Assembly, PlainEnd, ThreadedEnd, school_of, stack_end
from tirante.core.parts.link.flat import bar_of
from tirante.core.parts.link.joined import joined_checks
from tirante.core.parts.link.life import life_checks

NOT_CHECKED = (
    "fatigue of the eye and with corrosion",
    "impact",
    "weld quality (assumed sound)",
    "corrosion and wear",
    "the frame, axle or upright it bolts to",
)


STEEL_MODULUS = 205_000.0  # MPa, of shanks; common value


def link_checks(assembly: Assembly, stack: LinkStack, settings: Settings) -> list[CheckResult]:
    """All checks of the link, weakest first; those that no case asks for at the end.

    Args:
        assembly: the link with its rows.
        stack: its lengths and threads.
        settings: factors, schools and allowances of the shop.
    """
    results = [*tube_checks(assembly, settings), _stepped_check(assembly, stack, settings)]
    for index, end in enumerate(assembly.ends):
        if isinstance(end, ThreadedEnd):
            results += _end_checks(assembly, end, index, stack, settings)
    results = weaker_of_each(results + joined_checks(assembly, settings)) + life_checks(assembly, settings)
    return list(weakest_first(results))


def tube_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    """The checks that the tube and its grade alone decide, whatever the ends."""
    return [
        *_column_checks(assembly, settings),
        _bowed_check(assembly, settings),
        *_net_checks(assembly, settings),
        *_wall_checks(assembly, settings),
    ]


# --- the tube -------------------------------------------------------------------------------------------------------
def _column_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    grade, section, length = assembly.grade, assembly.section, assembly.link.between.mm
    strength = column.column_strength(section, length, grade.yield_mpa, grade.e_mpa)
    payload = {
        "od_mm": section.od, "wall_mm": section.wall, "length_mm": length, "yield_mpa": grade.yield_mpa,
        "e_mpa": grade.e_mpa,
    }  # fmt: skip
    found = []
    for key, value, output in (
        ("column", strength.critical, "critical_n"),
        ("column_aisc", strength.aisc_e3, "aisc_e3_n"),
    ):
        kind = asked(key, "tube", settings.factors)

        def attempt(case: CaseSeen, value: float = value, output: str = output, k: Asked = kind) -> Try | None:
            if case.axial_n >= 0:
                return None
            return Try(demand=-case.axial_n * k.factor, capacity=value, topic="column", input=payload, output=output)

        found.append(worst_of(kind, assembly.cases, attempt))
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Stretch:
    """A stretch of a link as a column: round, or a flat the way that it bends easiest [mm, MPa]."""

    length: float
    e_mpa: float
    yield_mpa: float
    od: float = 0.0
    wall: float | None = None
    flat: FlatLink | None = None

    @property
    def segment(self) -> column.Segment:
        """For the core."""
        section = self.flat or tube.Section(od=self.od, wall=self.wall)
        return column.Segment(
            length=self.length, section=section, elastic_modulus=self.e_mpa, yield_strength=self.yield_mpa
        )

    @property
    def data(self) -> dict[str, Any]:
        """As `calc stepped-column` takes it."""
        shape = (
            {"flat_mm": [self.flat.plates * self.flat.width, self.flat.thickness]} if self.flat else {"od_mm": self.od, "wall_mm": self.wall}
        )  # fmt: skip
        return {"length_mm": self.length, **shape, "e_mpa": self.e_mpa, "yield_mpa": self.yield_mpa}


def column_segments(assembly: Assembly, stack: LinkStack) -> list[Stretch]:
    """Pin to pin, each end out to the most thread that may show. Eye to thread as a bar of the major diameter, thread showing, nut and
    insert shoulder as a bar of the root diameter, plates let in and a squashed end as flats, then the tube alone (the insert inside it is not counted on)."""
    halves: list[list[Stretch]] = []
    for end, state in zip(assembly.ends, stack.ends, strict=True):
        if not isinstance(end, ThreadedEnd):
            if end.sleeve and end.sleeve.reducer:
                grade = assembly.grade
                halves.append([Stretch(length=state.face_from_centre, od=end.sleeve.reducer.neck_mm, e_mpa=grade.e_mpa, yield_mpa=grade.welded_yield_mpa)])  # fmt: skip
                continue
            if (
                end.flat is None
            ):  # a sleeve's or clevis's own stiffness is not known; the tube is taken to reach its centre
                halves.append([])
                continue
            bar = bar_of(end.flat, assembly.tube, state.face_from_centre)
            metal = assembly.grade.yield_mpa if end.squashed else end.flat.yield_mpa
            # plates weld to the tube, and are of its family: they give as it does
            halves.append([Stretch(length=bar.length, flat=bar, e_mpa=assembly.grade.e_mpa, yield_mpa=metal)])
            continue
        if state.engagement is None:
            halves.append([])
            continue
        t, joint = end.thread, end.joint
        plain = joint.eye_to_shank_end_mm - joint.thread_length_mm
        # as far out as the card lets it be turned, not as it is set: the link is then that much longer
        bare = state.face_from_centre - plain + state.adjust_out
        pieces = [(plain, t.major), (bare, t.root_external)]
        halves.append(
            [Stretch(length=n, od=od, e_mpa=STEEL_MODULUS, yield_mpa=joint.body_yield_mpa) for n, od in pieces if n > 0]
        )
    outside = sum(piece.length for half in halves for piece in half)
    longest = assembly.link.between.mm + sum(
        state.adjust_out for half, state in zip(halves, stack.ends, strict=True) if half
    )
    middle = Stretch(
        length=longest - outside, od=assembly.tube.od_mm, wall=assembly.tube.wall_mm, e_mpa=assembly.grade.e_mpa, yield_mpa=assembly.grade.yield_mpa
    )  # fmt: skip
    return [*halves[0], middle, *reversed(halves[1])]


def _stepped_check(assembly: Assembly, stack: LinkStack, settings: Settings) -> CheckResult:
    flats = any(isinstance(end, PlainEnd) and end.flat for end in assembly.ends)
    kind = asked("stepped", "tube and flats" if flats else "tube and shanks", settings.factors)
    pieces = column_segments(assembly, stack)
    strength = column.stepped_column([piece.segment for piece in pieces])
    payload = {"segments": [piece.data for piece in pieces]}
    capacity = strength.critical or 0.0

    def attempt(case: CaseSeen) -> Try | None:
        if case.axial_n >= 0:
            return None
        return Try(demand=-case.axial_n * kind.factor, capacity=capacity, topic="stepped-column", input=payload,
                    output="critical_n")  # fmt: skip

    return worst_of(kind, assembly.cases, attempt)


def default_bow(length: float) -> float:
    """Crookedness allowed for a straight tube: length / 1000 (common practice; AISC's initial crookedness) [mm]."""
    return length / 1000


def _bowed_check(assembly: Assembly, settings: Settings) -> CheckResult:
    link, grade = assembly.link, assembly.grade
    length = link.between.mm
    bow = link.bow_mm if link.bow_mm is not None else default_bow(length)
    strength = grade.welded_yield_mpa if link.mid_welded or link.splice else grade.yield_mpa
    kind = asked("bowed", "tube", settings.factors)

    bent = link.bent
    leg = (bent.from_ends.mm if bent.from_ends else length / 2) if bent else 0.0
    kink = beam_column.Kink(offset=bent.offset.mm, from_ends=leg) if bent else None

    def attempt(case: CaseSeen) -> Try | None:
        if case.axial_n >= 0 and case.strike_n == 0 and not (bent and case.axial_n):
            return None
        pull = max(0.0, case.axial_n) * kind.factor
        axial, lateral = max(0.0, -case.axial_n) * kind.factor, case.mid_strike_n * kind.factor
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
        if pull:
            payload["axial_tension_n"] = pull
            stress = beam_column.pulled(beam, pull).max_stress
            return Try(
                demand=stress,
                capacity=strength,
                topic="beam-column",
                input=payload,
                output="max_stress_mpa",
                figure="demand",
            )
        if axial >= beam.euler:
            euler = column.column_strength(assembly.section, length, strength, grade.e_mpa).euler
            data = {key: payload[key] for key in ("od_mm", "wall_mm", "length_mm", "e_mpa", "yield_mpa")}
            return Try(demand=axial, capacity=euler, topic="column", input=data, output="euler_n", unit="N",
                        utilisation=max(1.000001, axial / euler),
                        note="the factored compression reaches the Euler load: no bent equilibrium")  # fmt: skip
        stress = beam_column.response(beam, axial).max_stress
        return Try(demand=stress, capacity=strength, topic="beam-column", input=payload, output="max_stress_mpa",
                    figure="demand")  # fmt: skip

    return worst_of(kind, assembly.cases, attempt)


def _net_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    grade, welding = assembly.grade, assembly.link.welding
    plugged = any(end.plugs(welding) for end in assembly.threaded) or any(
        isinstance(end, PlainEnd) and end.machined for end in assembly.ends
    )
    holes = welding.plugs_in_section if plugged and welding.plugs and welding.plug_mm > 0 else 0
    welded = grade.welded_yield_mpa if assembly.welded else None
    ultimate = grade.uts_at_weld if assembly.welded else grade.uts_mpa
    found = tube.net_section(
        assembly.section, [tube.Holes(diameter=welding.plug_mm, count=holes)] if holes else [], grade.yield_mpa, ultimate, welded,
    )  # fmt: skip
    payload: dict[str, Any] = {
        "od_mm": assembly.tube.od_mm, "wall_mm": assembly.tube.wall_mm,
        "holes": [{"diameter_mm": welding.plug_mm, "count_in_section": holes}] if holes else [],
        "yield_mpa": grade.yield_mpa, "uts_mpa": ultimate, **({} if welded is None else {"welded_yield_mpa": welded}),
    }  # fmt: skip

    def of(key: str, capacity: float, output: str) -> CheckResult:
        kind = asked(key, "tube", settings.factors)

        def attempt(case: CaseSeen) -> Try | None:
            if case.axial_n == 0:
                return None
            return Try(
                demand=abs(case.axial_n) * kind.factor,
                capacity=capacity,
                topic="net-section",
                input=payload,
                output=output,
            )

        return worst_of(kind, assembly.cases, attempt)

    return [of("net", found.yield_force, "yield_n"), of("net_rupture", found.rupture_force, "rupture_n")]


def _wall_checks(assembly: Assembly, settings: Settings) -> list[CheckResult]:
    grade, section = assembly.grade, assembly.section
    found = tube.wall_slenderness(section, grade.yield_mpa, grade.e_mpa)
    payload = {"od_mm": section.od, "wall_mm": section.wall, "yield_mpa": grade.yield_mpa, "e_mpa": grade.e_mpa}
    kind = asked("wall", "tube", settings.factors)
    bending = asked("wall_bending", "tube", settings.factors)
    return [
        worst_of(kind, assembly.cases, lambda case: None if case.axial_n >= 0 else Try(
            demand=found.d_over_t, capacity=found.compression_limit, topic="local-wall", input=payload,
            output="compression_limit")),
        worst_of(bending, assembly.cases, lambda case: None if case.strike_n == 0 else Try(
            demand=found.d_over_t, capacity=found.bending_limit, topic="local-wall", input=payload,
            output="bending_limit")),
    ]  # fmt: skip


# --- the ends -------------------------------------------------------------------------------------------------------
def _end_checks(
    assembly: Assembly, end: ThreadedEnd, index: int, stack: LinkStack, settings: Settings
) -> list[CheckResult]:
    factors, cases = settings.factors, assembly.cases
    state = stack.ends[index]
    engagement = state.engagement or 0.0
    part = f"end {'AB'[index]}"
    joint, insert = end.joint, end.insert
    engaged = min(engagement, insert.thread_depth_mm)
    fit, around = settings.thread_fit, insert.fit_diameter_mm
    found = thread.thread_strip(end.thread, joint.body_uts_mpa, insert.uts_mpa, engaged, fit, around)
    payload = {
        "designation": joint.designation, "fit": fit, "internal_outside_mm": around, "external_uts_mpa": joint.body_uts_mpa, "internal_uts_mpa": insert.uts_mpa,
        "engagement_mm": engaged,
    }  # fmt: skip

    def axial(
        kind: Asked, capacity: float, topic: str, data: dict[str, Any], output: str, tension: bool = False
    ) -> CheckResult:
        def attempt(case: CaseSeen) -> Try | None:
            force = max(0.0, case.axial_n) if tension else abs(case.axial_n)
            if force == 0:
                return None
            return Try(demand=force * kind.factor, capacity=capacity, topic=topic, input=data, output=output)

        return worst_of(kind, cases, attempt)

    def kind(key: str, name: str = "", source: str = "") -> Asked:
        return asked(key, part, factors, name=name, source=source)

    results = [
        _engagement_check(kind("engagement"), assembly, index, stack, settings),
        axial(kind("thread_tension"), found.break_force, "thread-strip", payload, "break_n", tension=True),
        axial(kind("strip_insert", "Thread strip, tube" if end.tapped else ""), found.strip_internal, "thread-strip", payload, "strip_internal_n"),
        axial(kind("strip_shank"), found.strip_external, "thread-strip", payload, "strip_external_n"),
    ]  # fmt: skip
    lever = shank_lever(end, engagement, worst_axial(cases), settings)
    bend = kind("shank_bending")

    def bending(case: CaseSeen) -> Try | None:
        side = case.across_n
        if side == 0 and case.axial_n == 0:
            return None
        # the ball turns against its friction under the whole force on it, and the shank is what turns it
        friction = settings.joint_friction * case.resultant_n * joint.ball_diameter_mm / 2
        data = {
            "designation": joint.designation, "axial_n": case.axial_n * bend.factor, "side_n": side * bend.factor,
            "lever_mm": lever, "moment_nmm": friction * bend.factor, "yield_mpa": joint.body_yield_mpa,
        }  # fmt: skip
        stress = thread.shank_bending_stress(
            end.thread, case.axial_n * bend.factor, side * bend.factor, lever, friction * bend.factor
        )
        return Try(demand=stress, capacity=joint.body_yield_mpa, topic="shank-bending", input=data,
                    output="stress_mpa", figure="demand")  # fmt: skip

    results.append(worst_of(bend, cases, bending))
    results += _joint_and_weld(assembly, end, settings, axial, kind)
    return results


def shank_lever(end: ThreadedEnd, engagement: float, axial: float, settings: Settings) -> float:
    """From the eye to the root where the shank leaves its nut, at the most thread that the card allows to show, not as it is set [mm].

    Args:
        end: the joint with its nut.
        engagement: as it is set [mm].
        axial: the link’s largest force [N].
        settings: how the least engagement is judged.
    """
    least = stack_end(end, axial, settings)
    assert isinstance(least, AdjustableEnd)
    return max(0.0, end.joint.eye_to_shank_end_mm - min(engagement, least.min_engagement) - end.nut.height_mm)


def _engagement_check(kind: Asked, assembly: Assembly, index: int, stack: LinkStack, settings: Settings) -> CheckResult:
    axial = worst_axial(assembly.cases)
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
    payload: dict[str, Any] = {"centre_to_centre_mm": assembly.path, "school": school, "ends": ends}
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
    axial: Callable[..., CheckResult], kind: Callable[..., Asked],
) -> list[CheckResult]:  # fmt: skip
    joint, welding = end.joint, assembly.link.welding
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
    base = min(assembly.grade.uts_at_weld, end.insert.uts_mpa)
    around, filler = min(assembly.tube.od_mm, end.insert.shoulder_diameter_mm), assembly.filler(settings)
    weld = insert_weld.insert_weld(around, assembly.leg, welding.plug_mm, end.plugs(welding), filler, base)
    weld_data = {
        "tube_od_mm": around, "leg_mm": assembly.leg, "plug_mm": welding.plug_mm,
        "plugs": end.plugs(welding), "electrode_uts_mpa": filler, "base_uts_mpa": base,
    }  # fmt: skip
    side_kind = kind("joint_side")
    side = worst_of(side_kind, assembly.cases, lambda case: None if case.across_n == 0 else Try(
        demand=case.across_n * side_kind.factor, capacity=strength.axial, topic="rod-end",
        input=data, output="axial_n",
        note="the side force and half the strike may act along the bolt"))  # fmt: skip
    known = joint.maker_static_n is not None
    rated = kind("joint", "" if known else "Joint, its estimated rating", "maker" if known else "rod-end-practice")

    def along_and_across(case: CaseSeen) -> Try | None:
        if case.axial_n == 0 and case.across_n == 0:
            return None
        # what may act along the bolt counts by how much less the joint bears that way
        load = abs(case.axial_n) + case.across_n * strength.rating / strength.axial
        told = "an estimate from its sections: enter the maker’s rating where it is known" if not known else ""
        return Try(
            demand=load * rated.factor,
            capacity=strength.rating,
            topic="rod-end",
            input=data,
            output="rating_n",
            note=told,
        )

    found = [worst_of(rated, assembly.cases, along_and_across), side]
    if not end.tapped:
        found.append(axial(kind("insert_weld"), weld.capacity, "insert-weld", weld_data, "capacity_n"))
    return found
