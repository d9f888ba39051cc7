"""Topics of welded frames, boxed links, fatigue and the size search."""

from __future__ import annotations

from math import isfinite
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field

from tirante.calc.fields import Designation, Input, Mm, Modulus, Mpa, Newton, NewtonOrZero, SignedMm
from tirante.calc.registry import Working, step, topic
from tirante.core.errors import InputError
from tirante.core.members import boxed_link, column, fatigue, tube
from tirante.core.members.thread import parse_thread

Result = tuple[dict[str, Any], Working]
Name = Annotated[str, Field(min_length=1, max_length=40)]
Three = Annotated[tuple[SignedMm, SignedMm, SignedMm], Field(strict=False)]
Force3 = Annotated[tuple[Newton, Newton, Newton], Field(strict=False)]
Moment = Annotated[float, Field(ge=-1e12, le=1e12, allow_inf_nan=False)]
Moment3 = Annotated[tuple[Moment, Moment, Moment], Field(strict=False)]


class ArmTubeIn(Input):
    a: Name
    b: Name
    od_mm: Mm
    wall_mm: Mm | None = Field(default=None, description="null: a solid bar")
    yield_mpa: Mpa
    welded_yield_mpa: Mpa | None = Field(default=None, description="near welds, at both ends; null: the yield")
    e_mpa: Modulus = 205_000.0


class HeldIn(Input):
    at: Name
    along: Three = Field(description="direction; its length does not count")


class ArmLoadIn(Input):
    at: Name
    f_n: Force3 = (0.0, 0.0, 0.0)
    m_nmm: Moment3 = (0.0, 0.0, 0.0)


class ArmInput(Input):
    nodes: dict[Name, Three]
    tubes: Annotated[tuple[ArmTubeIn, ...], Field(strict=False, min_length=1, max_length=60)]
    pivots: Annotated[tuple[Name, ...], Field(strict=False, min_length=1, max_length=20)] = Field(
        description="nodes that are held but turn freely"
    )
    held: Annotated[tuple[HeldIn, ...], Field(strict=False, max_length=20)] = Field(
        default=(), description="a node held along a line: a spring, a stop"
    )
    loads: Annotated[tuple[ArmLoadIn, ...], Field(strict=False, min_length=1, max_length=60)]


_ARM = {
    "nodes": {"front": [200, 0, 0], "rear": [-200, 0, 0], "outer": [0, 350, 0]},
    "tubes": [{"a": "front", "b": "outer", "od_mm": 25.4, "wall_mm": 3.05, "yield_mpa": 435},
              {"a": "rear", "b": "outer", "od_mm": 25.4, "wall_mm": 3.05, "yield_mpa": 435}],
    "pivots": ["front", "rear"], "held": [{"at": "outer", "along": [0, 0, 1]}],
    "loads": [{"at": "outer", "f_n": [-3000, 4000, 0]}],
}  # fmt: skip


@topic(
    "arm",
    ArmInput,
    outputs={"tubes": "each: axial_n (tension +), shear_n, moment_nmm and torsion_nmm at both ends, von_mises_mpa, utilisation at factor 1 "
                      "(as-welded yield at the ends), column_n and column_utilisation where pushed",
             "reactions_n": "what each pivot and held node puts on the arm", "displacements_mm": "by node", "residual": "of equilibrium"},
    example=_ARM,
    sources=("direct-stiffness", "shigley-columns", "aisc-e3"),
)  # fmt: skip
def run_arm(data: ArmInput) -> Result:
    """A control arm as a welded frame: section forces along every tube, stresses, deflections."""
    import numpy as np

    from tirante.core.members.frame import Bar, frame, von_mises

    names = list(data.nodes)
    index = {name: i for i, name in enumerate(names)}
    for where, name in (
        *((f"tubes.{i}.{end}", getattr(one, end)) for i, one in enumerate(data.tubes) for end in ("a", "b")),
        *((f"pivots.{i}", name) for i, name in enumerate(data.pivots)), *((f"held.{i}.at", one.at) for i, one in enumerate(data.held)),
        *((f"loads.{i}.at", one.at) for i, one in enumerate(data.loads)),
    ):  # fmt: skip
        if name not in index:
            raise InputError(
                f"There is no node “{name}”. Nodes: {', '.join(names)}.", code="unknown_node", fields=(where,)
            )
    at = np.array([data.nodes[name] for name in names], float)
    bars = [
        Bar(a=index[t.a], b=index[t.b], section=tube.Section(od=t.od_mm, wall=t.wall_mm), elastic_modulus=t.e_mpa, shear_modulus=t.e_mpa / 2.6)
        for t in data.tubes
    ]  # fmt: skip
    held = np.zeros((len(names), 6), bool)
    for name in data.pivots:
        held[index[name], :3] = True
    loads = np.zeros((len(names), 6, 1))
    for push in data.loads:
        loads[index[push.at], :, 0] += [*push.f_n, *push.m_nmm]
    lines = []
    for i, one in enumerate(data.held):
        size = sum(v * v for v in one.along) ** 0.5
        if size < 1e-9:
            raise InputError("The line has no direction. Give one.", fields=(f"held.{i}.along",))
        lines.append((index[one.at], np.array(one.along) / size))
    solved = frame(at, bars, held, loads, lines)
    tubes = []
    for i, (t, bar) in enumerate(zip(data.tubes, bars, strict=True)):
        axial, shear = float(solved.axial()[i, 0]), solved.shear()[i, :, 0]
        bending, torsion = solved.bending()[i, :, 0], float(solved.torsion()[i, 0])
        stress = max(
            von_mises(bar.section, axial, float(m), torsion, float(v)) for m, v in zip(bending, shear, strict=True)
        )
        length = float(np.linalg.norm(at[bar.b] - at[bar.a]))
        strong = column.column_strength(bar.section, length, t.yield_mpa, t.e_mpa)
        carries = min(strong.critical, strong.aisc_e3)
        tubes.append({
            "a": t.a, "b": t.b, "axial_n": axial, "shear_n": shear.tolist(), "moment_nmm": bending.tolist(), "torsion_nmm": torsion,
            "von_mises_mpa": stress, "utilisation": stress / (t.welded_yield_mpa or t.yield_mpa), "column_n": carries,
            "column_utilisation": max(0.0, -axial) / carries,
        })  # fmt: skip
    reactions = {name: solved.reactions[index[name], :3, 0].tolist() for name in data.pivots}
    for line, (_, direction), force in zip(data.held, lines, solved.lines[:, 0], strict=True):
        before = np.array(reactions.get(line.at, [0.0, 0.0, 0.0]))
        reactions[line.at] = (before + force * direction).tolist()
    out = {
        "tubes": tubes, "reactions_n": reactions, "residual": solved.residual,
        "displacements_mm": {name: solved.displacements[i, :3, 0].tolist() for name, i in index.items()},
    }  # fmt: skip
    worst = max(one["utilisation"] for one in tubes)
    return out, [
        step("frame", "K u = F, rigid welded joints, pivots turn freely", "direct-stiffness", nodes=len(names), tubes=len(tubes)),
        step("stress", "√((N/A + M c/I)² + 3 (T c/2I)²), and 2 V/A at the neutral fibre", "direct-stiffness", worst=worst),
    ]  # fmt: skip


class BoxedInput(Input):
    length_mm: Mm
    height_mm: Mm
    width_mm: Mm
    side_mm: Mm
    top_mm: Mm
    bottom_mm: Mm
    force_n: NewtonOrZero = Field(description="of the stop, square to the top plate")
    at_mm: Mm = Field(description="of the pad from one pin")
    offset_mm: SignedMm = Field(default=0.0, description="of the stop's line from the middle")
    axial_n: Newton = 0.0
    yield_mpa: Mpa
    e_mpa: Modulus = 205_000.0
    leg_mm: Mm = 4.0
    electrode_uts_mpa: Mpa = 483.0


@topic(
    "boxed-link",
    BoxedInput,
    outputs={
        "area_mm2": "cross-section", "i_mm4": "about the level axis", "cell_mm2": "inside the plates' middle lines",
        "moment_nmm": "under the pad", "torque_nmm": "of the pad's offset", "bending_mpa": "with the push's amplifier", "torsion_mpa": "Bredt",
        "shear_mpa": "at the neutral axis", "von_mises_mpa": "worst", "utilisation": "von Mises over yield, factor 1",
        "top_buckling_mpa": "critical stress of the pressed plate", "side_buckling_mpa": "of a side in bending",
        "buckling_utilisation": "bending with push over the lower of them", "seam_n_per_mm": "of one seam",
        "seam_throat_mpa": "on 0.707 leg", "seam_utilisation": "over 0.6 of the electrode, factor 1",
    },
    example={"length_mm": 780, "height_mm": 70, "width_mm": 60, "side_mm": 5, "top_mm": 6, "bottom_mm": 5, "force_n": 18000, "at_mm": 560,
             "offset_mm": 15, "axial_n": -9000, "yield_mpa": 355},
    sources=("shigley-shaft", "bredt", "timoshenko-plates", "aisc-j2"),
)  # fmt: skip
def run_boxed_link(data: BoxedInput) -> Result:
    """A link of four plates under a bump stop: bending, torsion, plate buckling, seams."""
    box = boxed_link.Box(
        height=data.height_mm, width=data.width_mm, side=data.side_mm, top=data.top_mm, bottom=data.bottom_mm
    )
    found = boxed_link.boxed_link(
        box,
        data.length_mm,
        data.force_n,
        data.at_mm,
        data.offset_mm,
        data.axial_n,
        data.e_mpa,
        data.leg_mm,
        data.electrode_uts_mpa,
    )
    pressed = found.bending + max(0.0, -data.axial_n) / box.area
    out = {
        "area_mm2": box.area, "i_mm4": box.second_moment, "cell_mm2": box.cell, "moment_nmm": found.moment, "torque_nmm": found.torque,
        "bending_mpa": found.bending, "torsion_mpa": found.torsion, "shear_mpa": found.shear, "von_mises_mpa": found.von_mises,
        "utilisation": found.von_mises / data.yield_mpa, "top_buckling_mpa": found.top_buckling,
        "side_buckling_mpa": found.side_buckling, "buckling_utilisation": pressed / min(found.top_buckling, found.side_buckling),
        "seam_n_per_mm": found.seam_flow, "seam_throat_mpa": found.seam_throat, "seam_utilisation": found.seam_throat / found.seam_nominal,
    }  # fmt: skip
    return out, [
        step("bending", "F a (L − a)/L · c/I / (1 − P/Pe)", "shigley-shaft", moment_nmm=found.moment, amplifier=found.amplifier),
        step("torsion", "F e / (2 A_m t)", "bredt", torque_nmm=found.torque),
        step("plates", "k π² E/(12 (1 − ν²)) (t/b)², k 4 pressed, 23.9 bent", "timoshenko-plates", top_mpa=found.top_buckling),
        step("seams", "V Q/(2 I) + T/(2 A_m) over 0.707 leg, against 0.6 FEXX", "aisc-j2", flow=found.seam_flow),
    ]  # fmt: skip


class FatigueInput(Input):
    range_n: NewtonOrZero = Field(description="axial force, most less least, of the everyday cycle")
    designation: Designation
    od_mm: Mm
    wall_mm: Mm
    leg_mm: Mm = 4.0
    partial_factor: float = Field(default=fatigue.PARTIAL, ge=1, le=3)


@topic(
    "fatigue",
    FatigueInput,
    outputs={
        "thread_range_mpa": "at the root", "thread_limit_mpa": "constant-amplitude, factored", "thread_utilisation": "range over limit",
        "toe_range_mpa": "in the tube at the insert's weld", "toe_limit_mpa": "", "toe_utilisation": "", "throat_range_mpa": "in the ring weld",
        "throat_limit_mpa": "", "throat_utilisation": "", "governing": "thread, toe or throat", "cycles": "of the governing one to failure; null: below its limit",
    },
    example={"range_n": 6000, "designation": "3/4-16 UNF", "od_mm": 31.75, "wall_mm": 3.05},
    sources=("en-1993-1-9",),
)  # fmt: skip
def run_fatigue(data: FatigueInput) -> Result:
    """A screen of the everyday stress range at thread root and weld against constant-amplitude limits."""
    from math import pi

    t = parse_thread(data.designation)
    section = tube.Section(od=data.od_mm, wall=data.wall_mm)
    areas = {
        "thread": (t.stress_area, fatigue.thread_class(t.major)), "toe": (section.area, fatigue.TOE_CLASS),
        "throat": (pi * data.od_mm * 0.707 * data.leg_mm, fatigue.THROAT_CLASS),
    }  # fmt: skip
    found = {
        name: fatigue.screen(data.range_n / area, grade, data.partial_factor) for name, (area, grade) in areas.items()
    }
    worst = max(found, key=lambda name: found[name].utilisation)
    out: dict[str, Any] = {}
    for name, one in found.items():
        out |= {
            f"{name}_range_mpa": one.stress_range,
            f"{name}_limit_mpa": one.limit,
            f"{name}_utilisation": one.utilisation,
        }
    cycles = found[worst].cycles
    out |= {"governing": worst, "cycles": cycles if isfinite(cycles) else None}
    return out, [
        step(
            "limit",
            "(2/5)^(1/3) Δσ_C / γ",
            "en-1993-1-9",
            class_mpa=found[worst].detail_class,
            limit_mpa=found[worst].limit,
        ),
        step("range", "ΔF / A", "en-1993-1-9", range_mpa=found[worst].stress_range),
    ]


class SizeCaseIn(Input):
    name: Annotated[str, Field(min_length=1, max_length=80)] = "case"
    axial_n: Newton = 0.0
    strike_n: NewtonOrZero = 0.0
    side_n: NewtonOrZero = 0.0


class SizeInput(Input):
    length_mm: Mm = Field(description="centre to centre")
    cases: Annotated[tuple[SizeCaseIn, ...], Field(strict=False, min_length=1, max_length=40)]
    hands: Annotated[tuple[Literal["RH", "LH"], Literal["RH", "LH"]], Field(strict=False)] = ("RH", "LH")
    objective: Literal["mass", "cost"] = "mass"
    grades: Annotated[tuple[Name, ...], Field(strict=False, max_length=60)] | None = Field(
        default=None, description="keys; null: all that ship"
    )


CATALOGUE = Path(__file__).resolve().parents[3] / "data" / "catalogue"


@topic(
    "size",
    SizeInput,
    outputs={"considered": "sets of parts that fit together", "judged": "of them", "winner": "tube, grade, joint, insert, nut, mass_kg, governing, utilisation; or null",
             "runner_up": "the next", "advice": "why, and what would have to change"},
    example={"length_mm": 600, "cases": [{"name": "brake", "axial_n": -9000}, {"name": "kerb", "axial_n": 7000}]},
    sources=("search",),
)  # fmt: skip
def run_size(data: SizeInput) -> Result:
    """The least set of tube, grade, joint and insert of the shipped catalogue that passes every check of a link."""
    from tirante.core.design.catalogue import KINDS, Catalogue, read_csv
    from tirante.core.design.fields import Length
    from tirante.core.design.model import CentreToCentre, Link, LoadCase, RodEndEnd, Settings
    from tirante.core.design.sizing import size

    rows: dict[str, Any] = {kind: tuple(read_csv(kind, (CATALOGUE / f"{kind}.csv").read_text())) for kind in KINDS}
    if data.grades is not None:
        known = [row.key for row in rows["grades"]]
        for i, key in enumerate(data.grades):
            if key not in known:
                raise InputError(
                    f"There is no grade “{key}”. Grades: {', '.join(known)}.",
                    code="unknown_grade",
                    fields=(f"grades.{i}",),
                )
        rows["grades"] = tuple(row for row in rows["grades"] if row.key in data.grades)
    link = Link(
        id="00000000-0000-4000-8000-000000000000", name="link", between=CentreToCentre(length=Length(mm=data.length_mm)),
        cases=tuple(LoadCase(name=c.name, axial_n=c.axial_n, strike_n=c.strike_n, side_n=c.side_n) for c in data.cases),
        end_a=RodEndEnd(hand=data.hands[0]), end_b=RodEndEnd(hand=data.hands[1]),
    )  # fmt: skip
    found = size(link, Settings(), Catalogue(**rows), objective=data.objective)

    def told(judged: Any) -> dict[str, Any] | None:
        if judged is None:
            return None
        assembly = judged.candidate.assembly
        end = assembly.threaded[0]
        return {
            "tube": assembly.tube.key, "grade": assembly.grade.key, "joint": end.joint.key, "insert": end.insert.key, "nut": end.nut.key,
            "mass_kg": judged.candidate.mass, "cost": judged.candidate.cost, "governing": judged.worst.key, "utilisation": judged.utilisation,
        }  # fmt: skip

    out = {
        "considered": found.considered, "judged": found.judged, "winner": told(found.winner), "runner_up": told(found.runner_up),
        "nearest": told(found.nearest), "advice": found.advice,
    }  # fmt: skip
    return out, [
        step(
            "search",
            "candidates in order of mass (or cost); the first that passes every check",
            "search",
            considered=found.considered,
        )
    ]
