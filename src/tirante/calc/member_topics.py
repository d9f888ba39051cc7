"""Topics of straight members: columns, beam-columns, threads, the link stack, rod ends and the insert's weld."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, model_validator

from tirante.calc.fields import (
    Designation,
    Input,
    Mm,
    MmOrZero,
    Modulus,
    Mpa,
    Newton,
    NewtonOrZero,
    PositiveNewton,
    SignedMm,
)
from tirante.calc.registry import Working, step, topic
from tirante.core.errors import InputError
from tirante.core.loads import bump_stop
from tirante.core.members import beam_column, column, insert_weld, link_stack, rod_end, thread, tube
from tirante.core.members.neck import neck_stress
from tirante.core.members.plate_link import FlatLink

Result = tuple[dict[str, Any], Working]


class ColumnInput(Input):
    od_mm: Mm
    wall_mm: Mm
    length_mm: Mm
    yield_mpa: Mpa
    e_mpa: Modulus = 205_000.0
    k: float = Field(default=1.0, ge=0.25, le=4, description="effective length factor, 1 between spherical ends")


@topic(
    "column",
    ColumnInput,
    outputs={
        "area_mm2": "cross-section", "i_mm4": "second moment of area", "r_mm": "radius of gyration",
        "slenderness": "k L / r", "transition_slenderness": "√(2π²E/Sy)", "euler_n": "Euler load",
        "johnson_n": "Johnson load", "governing": "euler or johnson", "critical_n": "the governing one",
        "aisc_e3_n": "AISC 360 E3, nominal",
    },
    example={"od_mm": 38.1, "wall_mm": 3.048, "length_mm": 600, "yield_mpa": 483},
    sources=("shigley-columns", "aisc-e3"),
)  # fmt: skip
def run_column(data: ColumnInput) -> Result:
    """Straight uniform column between pins: Euler, Johnson and AISC E3."""
    section = tube.Section(od=data.od_mm, wall=data.wall_mm)
    found = column.column_strength(section, data.length_mm, data.yield_mpa, data.e_mpa, data.k)
    out = {
        "area_mm2": section.area, "i_mm4": section.second_moment, "r_mm": section.radius_of_gyration,
        "slenderness": found.slenderness, "transition_slenderness": found.transition_slenderness,
        "euler_n": found.euler, "johnson_n": found.johnson, "governing": found.governing,
        "critical_n": found.critical, "aisc_e3_n": found.aisc_e3,
    }  # fmt: skip
    elastic = found.euler / section.area
    return out, [
        step("area", "A = π t (D − t)", "geometry", D_mm=data.od_mm, t_mm=data.wall_mm, A_mm2=section.area),
        step("second moment", "I = π (D⁴ − d⁴) / 64", "geometry", d_mm=section.bore, I_mm4=section.second_moment),
        step("slenderness", "k L / r, r = √(I/A)", "shigley-columns", k=data.k, L_mm=data.length_mm,
             r_mm=section.radius_of_gyration, slenderness=found.slenderness),
        step("transition", "√(2 π² E / Sy)", "shigley-columns", E_mpa=data.e_mpa, Sy_mpa=data.yield_mpa,
             transition=found.transition_slenderness),
        step("Euler", "π² E I / (k L)²", "shigley-columns", euler_n=found.euler),
        step("Johnson", "A Sy (1 − Sy (kL/r)² / (4 π² E))", "shigley-columns", johnson_n=found.johnson),
        step("AISC E3", "0.658^(Fy/Fe) Fy A when Fy/Fe ≤ 2.25, else 0.877 Fe A", "aisc-e3",
             Fe_mpa=elastic, aisc_e3_n=found.aisc_e3),
    ]  # fmt: skip


class SegmentInput(Input):
    length_mm: Mm
    od_mm: Mm | None = Field(default=None, description="mm; null: a flat")
    wall_mm: Mm | None = Field(default=None, description="mm; null: solid")
    flat_mm: tuple[Mm, Mm] | None = Field(
        default=None, strict=False, description="mm; width and thickness of a flat, bent the way that it bends easiest"
    )
    e_mpa: Modulus = 205_000.0
    yield_mpa: Mpa | None = None


class SteppedInput(Input):
    segments: list[SegmentInput] = Field(min_length=1, max_length=200, description="pin to pin, in order")


@topic(
    "stepped-column",
    SteppedInput,
    outputs={
        "elastic_critical_n": "least load at which the stepped line bows",
        "squash_n": "least A Sy, with every yield given", "critical_n": "Py (1 − Py/4Pe), Pe when Py > 2 Pe",
    },
    example={"segments": [
        {"length_mm": 50, "od_mm": 17.1, "wall_mm": None, "yield_mpa": 700},
        {"length_mm": 740, "od_mm": 38.1, "wall_mm": 3.048, "yield_mpa": 483},
        {"length_mm": 50, "od_mm": 17.1, "wall_mm": None, "yield_mpa": 700},
    ]},
    sources=("timoshenko-stepped",),
)  # fmt: skip
def run_stepped(data: SteppedInput) -> Result:
    """Pin-ended column whose section steps: tube with slimmer shanks."""
    segments = []
    for i, s in enumerate(data.segments):
        try:
            if (s.od_mm is None) == (s.flat_mm is None):
                raise InputError(
                    "A stretch is round or flat: give od_mm, or flat_mm.", code="contradictory", fields=("od_mm",)
                )
            section = (
                FlatLink(length=s.length_mm, width=s.flat_mm[0], thickness=s.flat_mm[1])
                if s.flat_mm
                else tube.Section(od=s.od_mm or 0.0, wall=s.wall_mm)
            )
        except InputError as error:
            error.fields = tuple(f"segments.{i}.{field}" for field in error.fields)
            raise
        segments.append(
            column.Segment(length=s.length_mm, section=section, elastic_modulus=s.e_mpa, yield_strength=s.yield_mpa)
        )
    found = column.stepped_column(segments)
    out: dict[str, Any] = {"elastic_critical_n": found.elastic_critical}
    steps = [
        step("elastic critical load", "least P whose exact line (tan φ = k y/y′, k² = P/EI, φ advancing k·l) has φ = π "
             "at the far pin", "timoshenko-stepped", segments=len(segments),
             length_mm=sum(s.length for s in segments), Pe_n=found.elastic_critical),
    ]  # fmt: skip
    if found.squash is not None:
        out |= {"squash_n": found.squash, "critical_n": found.critical}
        steps += [
            step("squash", "Py = least A Sy", "timoshenko-stepped", Py_n=found.squash),
            step("strength", "Py (1 − Py / 4 Pe); Pe when Py > 2 Pe", "timoshenko-stepped", critical_n=found.critical),
        ]
    return out, steps


class KinkInput(Input):
    offset_mm: SignedMm
    from_ends_mm: Mm


class BeamColumnInput(Input):
    od_mm: Mm
    wall_mm: Mm | None = Field(description="mm; null: solid")
    length_mm: Mm
    e_mpa: Modulus = 205_000.0
    axial_compression_n: NewtonOrZero = 0.0
    axial_tension_n: NewtonOrZero = Field(default=0.0, description="instead of a compression")
    mid_lateral_n: Newton = 0.0
    eccentricity_mm: SignedMm = 0.0
    bow_mm: SignedMm = 0.0
    kink: KinkInput | None = None
    yield_mpa: Mpa | None = None


@topic(
    "beam-column",
    BeamColumnInput,
    outputs={
        "euler_n": "Euler load of the straight tube", "mid_deflection_mm": "axis from the pin line at mid-span",
        "max_moment_nmm": "greatest moment", "max_stress_mpa": "worst fibre",
        "first_yield_n": "axial load alone raised to first yield, lateral held (with yield_mpa)",
    },
    example={"od_mm": 38.1, "wall_mm": 3.048, "length_mm": 840, "axial_compression_n": 20000,
             "mid_lateral_n": 3000, "bow_mm": 0.84, "yield_mpa": 483},
    sources=("timoshenko-beam-column",),
)  # fmt: skip
def run_beam_column(data: BeamColumnInput) -> Result:
    """Tube bowed, kinked, eccentric or struck while compressed or pulled, second order exact."""
    beam = beam_column.BeamColumn(
        section=tube.Section(od=data.od_mm, wall=data.wall_mm),
        length=data.length_mm,
        elastic_modulus=data.e_mpa,
        mid_lateral=data.mid_lateral_n,
        eccentricity=data.eccentricity_mm,
        bow=data.bow_mm,
        kink=beam_column.Kink(offset=data.kink.offset_mm, from_ends=data.kink.from_ends_mm) if data.kink else None,
    )
    if data.axial_tension_n and data.axial_compression_n:
        raise InputError(
            "A tube is pulled or pushed, not both: give axial_tension_n or axial_compression_n.",
            fields=("axial_tension_n",),
        )
    pull = data.axial_tension_n
    found = beam_column.pulled(beam, pull) if pull else beam_column.response(beam, data.axial_compression_n)
    out = {
        "euler_n": beam.euler,
        "mid_deflection_mm": found.mid_deflection,
        "max_moment_nmm": found.max_moment,
        "max_stress_mpa": found.max_stress,
    }
    source = "timoshenko-beam-column"
    steps = [
        step("Euler load", "Pe = π² E I / L²", source, I_mm4=beam.section.second_moment, Pe_n=beam.euler),
        step("offset at mid-span", "y = F (u − tanh u)/(2 P k) + b/(1 + P/Pe) + kink, u = (π/2)√(P/Pe)", source, P_n=pull, F_n=data.mid_lateral_n,
             y_mm=found.mid_deflection) if pull else
        step("offset at mid-span", "y = e sec u + b/(1 − P/Pe) + F (tan u − u)/(2 P k) + kink, u = (π/2)√(P/Pe)",
             source, P_n=data.axial_compression_n, F_n=data.mid_lateral_n, y_mm=found.mid_deflection),
        step("moment", "M = F tanh u/(2 k) + P y of bow, kink and e" if pull else "M = P y + F L / 4", source, M_nmm=found.max_moment),
        step("stress", "P/A + M D / 2 I", source, A_mm2=beam.section.area, stress_mpa=found.max_stress),
    ]  # fmt: skip
    if data.yield_mpa is not None:
        out["first_yield_n"] = beam_column.first_yield(beam, data.yield_mpa)
        steps.append(
            step("first yield", "least P with P/A + M(P) D / 2 I = Sy, F held", source,
                 Sy_mpa=data.yield_mpa, first_yield_n=out["first_yield_n"])
        )  # fmt: skip
    return out, steps


class ThreadInput(Input):
    designation: Designation


@topic(
    "thread",
    ThreadInput,
    outputs={
        "pitch_mm": "pitch", "major_mm": "basic major diameter", "pitch_diameter_mm": "basic pitch diameter",
        "minor_internal_mm": "basic minor diameter of the nut", "root_external_mm": "root diameter of the shank",
        "stress_area_mm2": "tensile stress area",
    },
    example={"designation": "3/4-16 UNF"},
    sources=("asme-b1.1", "iso-898-1"),
)  # fmt: skip
def run_thread(data: ThreadInput) -> Result:
    """Sizes of a 60° thread from its designation."""
    t = thread.parse_thread(data.designation)
    source = "asme-b1.1" if t.series == "unified" else "iso-898-1"
    factor = "0.9743" if t.series == "unified" else "0.9382"
    out = {
        "pitch_mm": t.pitch, "major_mm": t.major, "pitch_diameter_mm": t.pitch_diameter,
        "minor_internal_mm": t.minor_internal, "root_external_mm": t.root_external, "stress_area_mm2": t.stress_area,
    }  # fmt: skip
    return out, [
        step("pitch diameter", "d2 = d − 0.6495 p", source, d_mm=t.major, p_mm=t.pitch, d2_mm=t.pitch_diameter),
        step("minor diameter, internal", "D1 = d − 1.0825 p", source, D1_mm=t.minor_internal),
        step("root diameter, external", "d3 = d − 1.2269 p", source, d3_mm=t.root_external),
        step("stress area", f"At = π/4 (d − {factor} p)²", source, At_mm2=t.stress_area),
    ]


class ThreadStripInput(Input):
    designation: Designation
    fit: Literal["basic", "class"] = Field(
        default="basic", description="sizes: basic, or at the limits of the class (2A/2B, 6g/6H)"
    )
    internal_outside_mm: Mm | None = Field(
        default=None, description="outside of what the internal thread is cut in, which may give way outward"
    )
    external_uts_mpa: Mpa
    internal_uts_mpa: Mpa
    engagement_mm: Mm


@topic(
    "thread-strip",
    ThreadStripInput,
    outputs={
        "external_shear_area_mm2": "at the engagement", "internal_shear_area_mm2": "at the engagement",
        "min_engagement_mm": "shank breaks before either thread strips", "break_n": "shank on its stress area",
        "strip_external_n": "shank's thread", "strip_internal_n": "insert's thread",
    },
    example={"designation": "3/4-16 UNF", "external_uts_mpa": 860, "internal_uts_mpa": 620, "engagement_mm": 26.2},
    sources=("fed-std-h28",),
)  # fmt: skip
def run_thread_strip(data: ThreadStripInput) -> Result:
    """Strip and break of a threaded joint, FED-STD-H28."""
    t = thread.parse_thread(data.designation)
    found = thread.thread_strip(
        t, data.external_uts_mpa, data.internal_uts_mpa, data.engagement_mm, data.fit, data.internal_outside_mm
    )
    out = {
        "external_shear_area_mm2": found.external_shear_area, "internal_shear_area_mm2": found.internal_shear_area,
        "min_engagement_mm": found.min_engagement, "break_n": found.break_force,
        "strip_external_n": found.strip_external, "strip_internal_n": found.strip_internal,
    }  # fmt: skip
    j = (found.external_shear_area * data.external_uts_mpa) / (found.internal_shear_area * data.internal_uts_mpa)
    source = "fed-std-h28"
    return out, [
        step("shear area, shank", "As = π (Le/p) D1 (p/2 + (d2 − D1)/√3)", source, Le_mm=data.engagement_mm,
             p_mm=t.pitch, D1_mm=t.minor_internal, d2_mm=t.pitch_diameter, As_mm2=found.external_shear_area),
        step("shear area, insert", "An = π (Le/p) d (p/2 + (d − d2)/√3)", source, d_mm=t.major,
             An_mm2=found.internal_shear_area),
        step("relative strength", "J = As σ_ext / (An σ_int)", source, J=j),
        step("engagement for the shank to break", "Le = 2 At / (As per mm) · max(1, J)", source,
             At_mm2=t.stress_area, min_engagement_mm=found.min_engagement),
        step("break", "At σ_ext", source, break_n=found.break_force),
        step("strip", "0.5 σ A, each thread", source, strip_external_n=found.strip_external,
             strip_internal_n=found.strip_internal),
    ]  # fmt: skip


def _hand(value: object) -> object:
    names = {"rh": "RH", "right": "RH", "right-hand": "RH", "lh": "LH", "left": "LH", "left-hand": "LH"}
    return names.get(value.lower(), value) if isinstance(value, str) else value


class StackEndInput(Input):
    kind: Literal["adjustable", "fixed"] = "adjustable"
    diameter_mm: Mm | None = None
    pitch_mm: Mm | None = None
    thread_length_mm: Mm | None = Field(default=None, description="mm; A, full thread")
    eye_to_shank_end_mm: Mm | None = Field(default=None, description="mm; B")
    jam_nut_mm: MmOrZero | None = None
    shoulder_mm: MmOrZero | None = None
    min_engagement_mm: Mm | None = Field(default=None, description="mm; default diameter_mm")
    insert_depth_mm: Mm | None = None
    hand: Annotated[Literal["RH", "LH"] | None, BeforeValidator(_hand)] = None
    centre_to_face_mm: SignedMm | None = Field(
        default=None, description="mm; of a fixed end; below 0: the tube runs past its centre"
    )

    @model_validator(mode="after")
    def _complete(self) -> StackEndInput:
        adjustable = ("diameter_mm", "pitch_mm", "thread_length_mm", "eye_to_shank_end_mm", "jam_nut_mm", "shoulder_mm")
        needed = adjustable if self.kind == "adjustable" else ("centre_to_face_mm",)
        missing = [name for name in needed if getattr(self, name) is None]
        if missing:
            raise ValueError(f"a {self.kind} end also needs {', '.join(missing)}")
        foreign = [
            name
            for name in type(self).model_fields
            if name not in ("kind", *needed) and getattr(self, name) is not None
            and (self.kind == "fixed" or name == "centre_to_face_mm")
        ]  # fmt: skip
        if foreign:
            raise ValueError(f"a {self.kind} end has no {', '.join(foreign)}")
        return self

    def as_end(self) -> link_stack.End:
        """The core's end."""
        if self.kind == "fixed":
            assert self.centre_to_face_mm is not None
            return link_stack.FixedEnd(centre_to_face=self.centre_to_face_mm)
        assert self.pitch_mm
        assert self.thread_length_mm
        assert self.eye_to_shank_end_mm
        assert self.diameter_mm
        assert self.jam_nut_mm is not None
        assert self.shoulder_mm is not None
        return link_stack.AdjustableEnd(
            pitch=self.pitch_mm,
            thread_length=self.thread_length_mm,
            eye_to_shank_end=self.eye_to_shank_end_mm,
            jam_nut=self.jam_nut_mm,
            shoulder=self.shoulder_mm,
            min_engagement=self.min_engagement_mm if self.min_engagement_mm is not None else self.diameter_mm,
            insert_depth=self.insert_depth_mm,
            hand=self.hand,
        )


class LinkStackInput(Input):
    centre_to_centre_mm: Mm
    school: Literal["centred", "buried", "exposure"] = "centred"
    showing_mm: MmOrZero | None = None
    ends: list[StackEndInput] = Field(min_length=2, max_length=2)


_END = {
    "diameter_mm": 19.05, "pitch_mm": 1.5875, "thread_length_mm": 44.45, "eye_to_shank_end_mm": 73.03,
    "jam_nut_mm": 11.11, "shoulder_mm": 6.35,
}  # fmt: skip


@topic(
    "link-stack",
    LinkStackInput,
    outputs={
        "tube_cut_mm": "saw length", "ends": "engagement, showing, adjust in/out, most that may show, ok, reasons",
        "range_mm": "shortest and longest centre to centre", "mm_per_turn": "of a right/left pair",
        "mm_per_half_turn": "of a single adjustable end",
    },
    example={"centre_to_centre_mm": 842, "school": "centred",
             "ends": [{**_END, "hand": "RH"}, {**_END, "hand": "LH"}]},
    sources=("geometry", "trade"),
)  # fmt: skip
def run_link_stack(data: LinkStackInput) -> Result:
    """Saw length, thread engagement and adjuster travel of a link."""
    found = link_stack.link_stack(
        data.centre_to_centre_mm, [end.as_end() for end in data.ends], data.school, data.showing_mm
    )
    ends = [
        {
            "engagement_mm": end.engagement, "showing_mm": end.showing, "adjust_in_mm": end.adjust_in,
            "adjust_out_mm": end.adjust_out, "max_showing_mm": end.max_showing,
            "centre_to_face_mm": end.face_from_centre, "ok": end.ok, "reasons": list(end.reasons),
        }
        for end in found.ends
    ]  # fmt: skip
    out: dict[str, Any] = {
        "tube_cut_mm": found.tube_cut, "ends": ends, "range_mm": [found.shortest, found.longest],
        "turns_in": found.turns_in, "turns_out": found.turns_out, "ok": found.ok,
    }  # fmt: skip
    if found.per_turn is not None:
        out["mm_per_turn"] = found.per_turn
    if found.per_half_turn is not None:
        out["mm_per_half_turn"] = found.per_half_turn
    steps = []
    for i, (end, state) in enumerate(zip(data.ends, found.ends, strict=True), 1):
        if end.kind == "fixed":
            steps.append(step(f"end {i}", "face to centre as given", "geometry", face_mm=state.face_from_centre))
            continue
        formula = {
            "centred": "e = e_min + (A − e_min − j)/2",
            "buried": "e = A − j − 2 p (or the length typed)",
            "exposure": "e = A − j − the length typed",
        }[data.school]
        steps += [
            step(f"end {i}: engagement", formula, "geometry", A_mm=end.thread_length_mm, j_mm=end.jam_nut_mm,
                 e_mm=state.engagement),
            step(f"end {i}: showing", "x = A − e − j", "geometry", x_mm=state.showing),
            step(f"end {i}: tube face from eye", "B − e + s", "geometry", B_mm=end.eye_to_shank_end_mm,
                 s_mm=end.shoulder_mm, face_mm=state.face_from_centre),
        ]  # fmt: skip
    steps.append(
        step("saw length", "centre to centre − Σ over both ends (B − e + s)", "geometry",
             centre_to_centre_mm=data.centre_to_centre_mm, tube_cut_mm=found.tube_cut)
    )  # fmt: skip
    return out, steps


class HolesInput(Input):
    diameter_mm: Mm
    count_in_section: int = Field(ge=0, le=100)


class NetSectionInput(Input):
    od_mm: Mm
    wall_mm: Mm
    holes: list[HolesInput] = Field(default=[], max_length=20)
    yield_mpa: Mpa
    uts_mpa: Mpa
    welded_yield_mpa: Mpa | None = None


@topic(
    "net-section",
    NetSectionInput,
    outputs={
        "gross_area_mm2": "whole tube", "net_area_mm2": "less diameter × wall a hole",
        "yield_n": "gross area at the lower yield", "rupture_n": "net area at ultimate", "capacity_n": "the lower",
    },
    example={"od_mm": 38.1, "wall_mm": 3.048, "holes": [{"diameter_mm": 9.5, "count_in_section": 2}],
             "yield_mpa": 483, "uts_mpa": 552, "welded_yield_mpa": 310},
    sources=("aisc-d2",),
)  # fmt: skip
def run_net_section(data: NetSectionInput) -> Result:
    """Tube in tension at plug-weld holes: gross yielding, net rupture."""
    section = tube.Section(od=data.od_mm, wall=data.wall_mm)
    found = tube.net_section(
        section,
        [tube.Holes(diameter=h.diameter_mm, count=h.count_in_section) for h in data.holes],
        data.yield_mpa,
        data.uts_mpa,
        data.welded_yield_mpa,
    )
    out = {
        "gross_area_mm2": found.gross_area, "net_area_mm2": found.net_area, "yield_n": found.yield_force,
        "rupture_n": found.rupture_force, "capacity_n": found.capacity,
    }  # fmt: skip
    lowest = min(data.yield_mpa, data.welded_yield_mpa or data.yield_mpa)
    return out, [
        step("net area", "An = A − Σ n d t", "aisc-d2", A_mm2=found.gross_area, An_mm2=found.net_area),
        step("yielding", "A · lower of delivered and welded yield", "aisc-d2", yield_mpa=lowest,
             yield_n=found.yield_force),
        step("rupture", "An Fu", "aisc-d2", Fu_mpa=data.uts_mpa, rupture_n=found.rupture_force),
    ]  # fmt: skip


class LocalWallInput(Input):
    od_mm: Mm
    wall_mm: Mm
    yield_mpa: Mpa
    e_mpa: Modulus = 205_000.0


@topic(
    "local-wall",
    LocalWallInput,
    outputs={
        "d_over_t": "diameter over wall", "compression_limit": "0.11 E/Fy", "bending_limit": "0.07 E/Fy",
        "compression_ok": "not slender", "bending_ok": "compact",
    },
    example={"od_mm": 38.1, "wall_mm": 3.048, "yield_mpa": 483},
    sources=("aisc-b4",),
)  # fmt: skip
def run_local_wall(data: LocalWallInput) -> Result:
    """Whether a round tube's wall is stocky enough to reach yield."""
    found = tube.wall_slenderness(tube.Section(od=data.od_mm, wall=data.wall_mm), data.yield_mpa, data.e_mpa)
    out = {
        "d_over_t": found.d_over_t, "compression_limit": found.compression_limit,
        "bending_limit": found.bending_limit, "compression_ok": found.compression_ok, "bending_ok": found.bending_ok,
    }  # fmt: skip
    return out, [
        step("compression", "D/t ≤ 0.11 E/Fy", "aisc-b4", d_over_t=found.d_over_t, limit=found.compression_limit),
        step("bending", "D/t ≤ 0.07 E/Fy", "aisc-b4", d_over_t=found.d_over_t, limit=found.bending_limit),
    ]


class RodEndInput(Input):
    designation: Designation
    head_diameter_mm: Mm
    housing_width_mm: Mm
    housing_bore_mm: Mm
    ball_diameter_mm: Mm
    body_uts_mpa: Mpa
    race_pressure_mpa: Mpa
    maker_static_n: PositiveNewton | None = None


@topic(
    "rod-end",
    RodEndInput,
    outputs={
        "shank_n": "shank at the thread root", "eye_n": "eye beside its bore", "race_n": "race or liner in bearing",
        "axial_n": "along the bolt", "rating_n": "maker's, else the least of shank, eye and race",
        "source": "maker, or which part governs",
    },
    example={"designation": "3/4-16 UNF", "head_diameter_mm": 44.45, "housing_width_mm": 17.45,
             "housing_bore_mm": 33.3, "ball_diameter_mm": 28.58, "body_uts_mpa": 860, "race_pressure_mpa": 240},
    sources=("rod-end-practice", "maker"),
)  # fmt: skip
def run_rod_end(data: RodEndInput) -> Result:
    """Static strength of a male rod end from its sections, or the maker's rating."""
    t = thread.parse_thread(data.designation)
    found = rod_end.rod_end_strength(
        t, data.head_diameter_mm, data.housing_width_mm, data.housing_bore_mm, data.ball_diameter_mm,
        data.body_uts_mpa, data.race_pressure_mpa, data.maker_static_n,
    )  # fmt: skip
    out = {
        "shank_n": found.shank, "eye_n": found.eye, "race_n": found.race, "axial_n": found.axial,
        "rating_n": found.rating, "source": found.source,
    }  # fmt: skip
    practice = "rod-end-practice"
    return out, [
        step("shank", "σu π d3² / 4", practice, d3_mm=t.root_external, uts_mpa=data.body_uts_mpa, shank_n=found.shank),
        step("eye", "σu (D − bore) width", practice, eye_n=found.eye),
        step("race", "pressure · ball · width", practice, race_n=found.race),
        step("side", "0.2 race", practice, axial_n=found.axial),
        step("rating", "maker's, else the least", "maker" if data.maker_static_n else practice,
             rating_n=found.rating, governed_by=found.source),
    ]  # fmt: skip


class InsertWeldInput(Input):
    tube_od_mm: Mm
    leg_mm: MmOrZero
    plug_mm: MmOrZero = 0.0
    plugs: int = Field(default=0, ge=0, le=20)
    electrode_uts_mpa: Mpa
    base_uts_mpa: Mpa


@topic(
    "insert-weld",
    InsertWeldInput,
    outputs={"ring_n": "fillet ring", "plugs_n": "plug welds", "capacity_n": "together, nominal"},
    example={
        "tube_od_mm": 38.1,
        "leg_mm": 4,
        "plug_mm": 9.5,
        "plugs": 2,
        "electrode_uts_mpa": 483,
        "base_uts_mpa": 552,
    },
    sources=("aisc-j2",),
)
def run_insert_weld(data: InsertWeldInput) -> Result:
    """Fillet ring and plug welds that hold an insert in its tube."""
    found = insert_weld.insert_weld(
        data.tube_od_mm, data.leg_mm, data.plug_mm, data.plugs, data.electrode_uts_mpa, data.base_uts_mpa
    )
    out = {"ring_n": found.ring, "plugs_n": found.plugs, "capacity_n": found.capacity}
    return out, [
        step("ring", "π D · min(0.6 FEXX 0.707 leg, 0.6 Fu leg)", "aisc-j2", D_mm=data.tube_od_mm, leg_mm=data.leg_mm,
             FEXX_mpa=data.electrode_uts_mpa, Fu_mpa=data.base_uts_mpa, ring_n=found.ring),
        step("plugs", "n π d²/4 · 0.6 min(FEXX, Fu)", "aisc-j2", n=data.plugs, d_mm=data.plug_mm, plugs_n=found.plugs),
        step("together", "ring + plugs", "aisc-j2", capacity_n=found.capacity),
    ]  # fmt: skip


class ShankBendingInput(Input):
    designation: Designation
    axial_n: Newton = 0.0
    side_n: Newton
    lever_mm: MmOrZero
    moment_nmm: float = Field(
        default=0.0, ge=-1e9, le=1e9, description="beside the side force’s, of the joint’s friction"
    )
    yield_mpa: Mpa


@topic(
    "shank-bending",
    ShankBendingInput,
    outputs={"stress_mpa": "worst fibre at the root", "utilisation": "stress over yield, factor 1"},
    example={"designation": "3/4-16 UNF", "axial_n": 15000, "side_n": 800, "lever_mm": 35, "yield_mpa": 690},
    sources=("shigley-shaft",),
)
def run_shank_bending(data: ShankBendingInput) -> Result:
    """Side force on an exposed shank: stress at the thread root."""
    t = thread.parse_thread(data.designation)
    stress = thread.shank_bending_stress(t, data.axial_n, data.side_n, data.lever_mm, data.moment_nmm)
    moment = abs(data.side_n) * data.lever_mm + abs(data.moment_nmm)
    out = {"moment_nmm": moment, "stress_mpa": stress, "utilisation": stress / data.yield_mpa}
    return out, [
        step("moment", "M = V · lever + friction", "shigley-shaft", V_n=data.side_n, lever_mm=data.lever_mm, friction_nmm=data.moment_nmm, M_nmm=moment),
        step("stress", "N / (π d3²/4) + 32 M / (π d3³)", "shigley-shaft", N_n=data.axial_n, d3_mm=t.root_external,
             stress_mpa=stress),
    ]  # fmt: skip


class ReducerNeckInput(Input):
    neck_mm: Mm
    lever_mm: Mm = Field(description="from the joint's middle to where the neck leaves what is wider")
    axial_n: Newton = 0.0
    side_n: Newton = Field(default=0.0, description="square to the link, at the joint")
    yield_mpa: Mpa = 355.0


@topic(
    "reducer-neck",
    ReducerNeckInput,
    outputs={"stress_mpa": "where it leaves what is wider", "utilisation": "stress over yield, factor 1"},
    example={"neck_mm": 30, "lever_mm": 45, "axial_n": 20000, "side_n": 900},
    sources=("shigley-shaft",),
)
def run_reducer_neck(data: ReducerNeckInput) -> Result:
    """A solid round neck between a joint and what is wider than it."""
    stress = neck_stress(data.neck_mm, data.lever_mm, data.axial_n, data.side_n)
    return {"stress_mpa": stress, "utilisation": stress / data.yield_mpa}, [
        step("stress", "F/A + 32 S l/(π d³)", "shigley-shaft", stress_mpa=stress)
    ]


class BumpStopInput(Input):
    mass_kg: float = Field(gt=0, le=100_000)
    speed_m_s: float = Field(ge=0, le=50)
    k1_n_mm: float = Field(ge=0, le=1e7)
    k3_n_mm3: float = Field(default=0.0, ge=0, le=1e7)
    wheel_rate_n_mm: float = Field(default=0.0, ge=0, le=1e6)
    wheel_preload_n: float = Field(default=0.0, ge=0, le=1e7)
    motion_ratio: float = Field(default=1.0, gt=0, le=10, description="stop travel per wheel travel")


@topic(
    "bump-stop",
    BumpStopInput,
    outputs={
        "stop_compression_mm": "when it stands still", "stop_force_n": "on the stop then",
        "wheel_force_n": "at the wheel: stop and spring together", "wheel_travel_mm": "after touching",
    },
    example={"mass_kg": 250, "speed_m_s": 1.5, "k1_n_mm": 120},
    sources=("energy",),
)  # fmt: skip
def run_bump_stop(data: BumpStopInput) -> Result:
    """A corner caught by its bump stop: energy of the fall against stop and spring."""
    found = bump_stop.caught(
        data.mass_kg, data.speed_m_s, bump_stop.polynomial(data.k1_n_mm, data.k3_n_mm3), wheel_rate=data.wheel_rate_n_mm,
        wheel_preload=data.wheel_preload_n, motion_ratio=data.motion_ratio,
    )  # fmt: skip
    out = {
        "stop_compression_mm": found.compression, "stop_force_n": found.stop_force, "wheel_force_n": found.wheel_force,
        "wheel_travel_mm": found.wheel_travel,
    }  # fmt: skip
    energy = data.mass_kg * data.speed_m_s**2 / 2
    return out, [
        step("energy", "m v²/2 + m g x = ∫F dx", "energy", kinetic_j=energy, wheel_travel_mm=found.wheel_travel),
        step("force", "F = k1 s + k3 s³", "energy", stop_force_n=found.stop_force),
    ]
