"""Topics of welded frames, boxed links, fatigue and the size search."""

from __future__ import annotations

from math import isfinite
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field

from tirante.calc.fields import Designation, Input, Mm, MmOrZero, Modulus, Mpa, Newton, NewtonOrZero, SignedMm
from tirante.calc.registry import Working, step, topic
from tirante.core.errors import InputError
from tirante.core.members import boxed_link, column, fatigue, tube

Result = tuple[dict[str, Any], Working]
Name = Annotated[str, Field(min_length=1, max_length=40)]
Three = Annotated[tuple[SignedMm, SignedMm, SignedMm], Field(strict=False)]
Force3 = Annotated[tuple[Newton, Newton, Newton], Field(strict=False)]
Moment = Annotated[float, Field(ge=-1e12, le=1e12, allow_inf_nan=False)]
Moment3 = Annotated[tuple[Moment, Moment, Moment], Field(strict=False)]


class ArmTubeIn(Input):
    a: Name
    b: Name
    od_mm: Mm | None = Field(default=None, description="of a round tube or bar")
    wall_mm: Mm | None = Field(default=None, description="null: a solid bar")
    flat_mm: Annotated[tuple[Mm, Mm], Field(strict=False)] | None = Field(
        default=None, description="width and thickness of a flat strut, in place of od_mm; its stress is along it alone"
    )
    box_mm: Annotated[tuple[Mm, Mm, Mm], Field(strict=False)] | None = Field(
        default=None, description="height, width and wall of a box of plate, in place of od_mm"
    )
    up: Three | None = Field(
        default=None, description="the way that its height stands; null: as it comes, which a round tube does not feel"
    )
    column_mm: Mm | None = Field(default=None, description="what it buckles over; null: its own length")
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
    pivots: Annotated[tuple[Name, ...], Field(strict=False, max_length=20)] = Field(
        default=(), description="nodes that are held but turn freely"
    )
    clamped: Annotated[tuple[Name, ...], Field(strict=False, max_length=20)] = Field(
        default=(),
        description="nodes that neither move nor turn: one holds a frame whose loads are in balance, and feels nothing",
    )
    held: Annotated[tuple[HeldIn, ...], Field(strict=False, max_length=20)] = Field(
        default=(), description="a node held along a line: a spring, a stop"
    )
    loads: Annotated[tuple[ArmLoadIn, ...], Field(strict=False, min_length=1, max_length=60)]
    yield_factor: Annotated[float, Field(ge=1, le=20)] = 1.0
    column_factor: Annotated[float, Field(ge=1, le=20)] = 1.0


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
    outputs={"tubes": "each: axial_n (tension +), shear_n, moment_nmm and torsion_nmm at both ends, von_mises_mpa, utilisation (times "
                      "yield_factor, over the as-welded yield), column_n, column_utilisation where pushed (times column_factor), "
                      "column_and_bending where pushed (and the moment's fibre times yield_factor over the yield)",
             "reactions_n": "what each pivot and held node puts on the arm", "displacements_mm": "by node", "residual": "of equilibrium"},
    example=_ARM,
    sources=("direct-stiffness", "shigley-columns", "aisc-e3"),
)  # fmt: skip
def run_arm(data: ArmInput) -> Result:
    """A control arm as a welded frame: section forces along every tube, stresses, deflections."""
    import numpy as np

    from tirante.core.members.frame import frames, von_mises

    names = list(data.nodes)
    index = {name: i for i, name in enumerate(names)}
    for where, name in (
        *((f"tubes.{i}.{end}", getattr(one, end)) for i, one in enumerate(data.tubes) for end in ("a", "b")),
        *((f"pivots.{i}", name) for i, name in enumerate(data.pivots)), *((f"clamped.{i}", name) for i, name in enumerate(data.clamped)),
        *((f"held.{i}.at", one.at) for i, one in enumerate(data.held)),
        *((f"loads.{i}.at", one.at) for i, one in enumerate(data.loads)),
    ):  # fmt: skip
        if name not in index:
            raise InputError(
                f"There is no node “{name}”. Nodes: {', '.join(names)}.", code="unknown_node", fields=(where,)
            )
    at = np.array([data.nodes[name] for name in names], float)
    for i, t in enumerate(data.tubes):
        if sum(v is not None for v in (t.od_mm, t.flat_mm, t.box_mm)) != 1:
            raise InputError("Give od_mm of a round tube, flat_mm of a flat strut or box_mm of a box, one of the three.", fields=(f"tubes.{i}.od_mm",))  # fmt: skip
        if t.box_mm and t.up is None:
            raise InputError("Say which way the height of a box stands.", code="missing", fields=(f"tubes.{i}.up",))
    stiffness = np.array([[_stiffness(t) for t in data.tubes]])
    held = np.zeros((len(names), 6), bool)
    for name in data.pivots:
        held[index[name], :3] = True
    for name in data.clamped:
        held[index[name]] = True
    loads = np.zeros((len(names), 6, 1))
    for push in data.loads:
        loads[index[push.at], :, 0] += [*push.f_n, *push.m_nmm]
    lines = []
    for i, one in enumerate(data.held):
        size = sum(v * v for v in one.along) ** 0.5
        if size < 1e-9:
            raise InputError("The line has no direction. Give one.", fields=(f"held.{i}.along",))
        lines.append((index[one.at], np.array(one.along) / size))
    pairs = [(index[t.a], index[t.b]) for t in data.tubes]
    solved = frames(at, pairs, stiffness, held, loads, lines, _ups(data, at, pairs))
    tubes = []
    for i, t in enumerate(data.tubes):
        axial, shear = float(solved.axial()[0, i, 0]), solved.shear()[0, i, :, 0]
        bending, torsion = solved.bending()[0, i, :, 0], float(solved.torsion()[0, i, 0])
        told: dict[str, Any] = {
            "a": t.a, "b": t.b, "axial_n": axial, "shear_n": shear.tolist(), "moment_nmm": bending.tolist(), "torsion_nmm": torsion,
        }  # fmt: skip
        welded = t.welded_yield_mpa or t.yield_mpa
        if t.flat_mm is not None:
            stress = abs(axial) / (t.flat_mm[0] * t.flat_mm[1])
            tubes.append({**told, "von_mises_mpa": stress, "utilisation": stress * data.yield_factor / welded})
            continue
        if t.box_mm is not None:
            tubes.append(told | _boxed(t, solved, i, data, float(np.linalg.norm(at[index[t.b]] - at[index[t.a]]))))
            continue
        section = tube.Section(od=t.od_mm or 0.0, wall=t.wall_mm)
        stress = von_mises(section, axial, float(bending.max()), torsion, float(shear.max()))
        length = t.column_mm or float(np.linalg.norm(at[index[t.b]] - at[index[t.a]]))
        strong = column.column_strength(section, length, t.yield_mpa, t.e_mpa)
        carries = min(strong.critical, strong.aisc_e3)
        pushed = max(0.0, -axial) * data.column_factor / carries
        fibre = float(bending.max()) * section.od / 2 / section.second_moment
        tubes.append({
            **told, "von_mises_mpa": stress, "utilisation": stress * data.yield_factor / welded, "column_n": carries,
            "column_utilisation": pushed, "column_and_bending": pushed + fibre * data.yield_factor / t.yield_mpa if pushed else 0.0,
        })  # fmt: skip
    reactions = {name: solved.reactions[0, index[name], :3, 0].tolist() for name in (*data.pivots, *data.clamped)}
    for line, (_, direction), force in zip(data.held, lines, solved.lines[0, :, 0], strict=True):
        before = np.array(reactions.get(line.at, [0.0, 0.0, 0.0]))
        reactions[line.at] = (before + force * direction).tolist()
    out = {
        "tubes": tubes, "reactions_n": reactions, "residual": solved.residual,
        "displacements_mm": {name: solved.displacements[0, i, :3, 0].tolist() for name, i in index.items()},
    }  # fmt: skip
    worst = max(one["utilisation"] for one in tubes)
    return out, [
        step("frame", "K u = F, rigid welded joints, pivots turn freely", "direct-stiffness", nodes=len(names), tubes=len(tubes)),
        step("stress", "√((N/A + M c/I)² + 3 (T c/2I)²), and 2 V/A at the neutral fibre", "direct-stiffness", worst=worst),
    ]  # fmt: skip


def _ups(data: ArmInput, at: Any, pairs: list[tuple[int, int]]) -> Any:
    """The way that each one's height stands; what is round stands as it comes."""
    import numpy as np

    if not any(t.up for t in data.tubes):
        return None
    out = []
    for t, (a, b) in zip(data.tubes, pairs, strict=True):
        run = at[b] - at[a]
        out.append(np.array(t.up, float) if t.up else np.eye(3)[int(np.abs(run).argmin())])
    return np.array(out)


def _boxed(t: ArmTubeIn, solved: Any, i: int, data: ArmInput, length: float) -> dict[str, Any]:
    """What a box of plate comes to."""
    import numpy as np

    from tirante.core.members.frame import BoxSection

    assert t.box_mm
    box = BoxSection(height=t.box_mm[0], width=t.box_mm[1], wall=t.box_mm[2])
    axial, torsion, shear = solved.axial()[0, i, 0], solved.torsion()[0, i, 0], solved.shear()[0, i, :, 0].max()
    up, side = (solved.bent()[0, i, :, axis, 0] for axis in (0, 1))
    stress = max(float(box.stress(axial, up[end], side[end], torsion, shear)) for end in (0, 1))
    strong = column.column_strength(box, t.column_mm or length, t.yield_mpa, t.e_mpa)
    carries = min(strong.critical, strong.aisc_e3)
    pushed = max(0.0, -float(axial)) * data.column_factor / carries
    fibre = float(np.max(np.abs(up) * box.height / 2 / box.upright + np.abs(side) * box.width / 2 / box.sideways))
    return {
        "von_mises_mpa": stress, "utilisation": stress * data.yield_factor / (t.welded_yield_mpa or t.yield_mpa), "column_n": carries,
        "column_utilisation": pushed, "column_and_bending": pushed + fibre * data.yield_factor / t.yield_mpa if pushed else 0.0,
    }  # fmt: skip


def _stiffness(t: ArmTubeIn) -> tuple[float, float, float, float]:
    from tirante.core.members.frame import BoxSection, flat_stiffness, stiffness_of

    shear = t.e_mpa / 2.6
    if t.box_mm is not None:
        return BoxSection(height=t.box_mm[0], width=t.box_mm[1], wall=t.box_mm[2]).stiffness(t.e_mpa, shear)
    if t.flat_mm is not None:
        ea, ei, gj = flat_stiffness(*t.flat_mm, t.e_mpa, shear)
    else:
        ea, ei, gj = stiffness_of(tube.Section(od=t.od_mm or 0.0, wall=t.wall_mm), t.e_mpa, shear)
    return ea, ei, gj, ei


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
    side_n: NewtonOrZero = Field(default=0.0, description="along a pin; held at one end")
    bow_mm: MmOrZero = Field(default=0.0, description="out of straight at mid-span; it counts under a push")


@topic(
    "boxed-link",
    BoxedInput,
    outputs={
        "area_mm2": "cross-section", "i_mm4": "about the level axis", "cell_mm2": "inside the plates' middle lines",
        "moment_nmm": "under the pad", "torque_nmm": "of the pad's offset", "bending_mpa": "with the push's amplifier", "torsion_mpa": "Bredt",
        "shear_mpa": "at the neutral axis", "von_mises_mpa": "worst", "utilisation": "von Mises over yield, factor 1",
        "buckling_mpa": "bending with push, what presses the top plate", "column_n": "the lower of Euler–Johnson and AISC E3, about the weaker axis", "euler_n": "about the weaker axis",
        "johnson_n": "without meaning above the transition", "aisc_e3_n": "about the weaker axis", "slenderness": "L/r about the weaker axis",
        "plate_slenderness": "b/t of the most slender plate", "plate_slenderness_limit": "1.40 √(E/Fy)", "bow_mpa": "of the push on the bow",
        "across_mpa": "of the side force", "plates_used": "of the plate that buckles first, all stresses together",
        "top_buckling_mpa": "critical stress of the pressed plate", "side_buckling_mpa": "of a side in bending",
        "buckling_utilisation": "bending with push over the lower of them", "seam_n_per_mm": "of one seam",
        "seam_throat_mpa": "on 0.707 leg", "seam_utilisation": "over 0.6 of the electrode, factor 1",
    },
    example={"length_mm": 780, "height_mm": 70, "width_mm": 60, "side_mm": 5, "top_mm": 6, "bottom_mm": 5, "force_n": 18000, "at_mm": 560,
             "offset_mm": 15, "axial_n": -9000, "yield_mpa": 355},
    sources=("shigley-shaft", "bredt", "timoshenko-plates", "aisc-j2", "shigley-columns", "aisc-e3", "aisc-b4"),
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
        data.side_n,
        data.bow_mm,
    )
    strength = column.column_strength(box, data.length_mm, data.yield_mpa, data.e_mpa)
    pressed = found.bending + max(0.0, -data.axial_n) / box.area
    out = {
        "area_mm2": box.area, "i_mm4": box.second_moment, "cell_mm2": box.cell, "moment_nmm": found.moment, "torque_nmm": found.torque,
        "bending_mpa": found.bending, "torsion_mpa": found.torsion, "shear_mpa": found.shear, "von_mises_mpa": found.von_mises,
        "utilisation": found.von_mises / data.yield_mpa, "top_buckling_mpa": found.top_buckling,
        "side_buckling_mpa": found.side_buckling, "buckling_mpa": pressed,
        "column_n": min(strength.critical, strength.aisc_e3), "euler_n": strength.euler, "johnson_n": strength.johnson,
        "aisc_e3_n": strength.aisc_e3, "slenderness": strength.slenderness, "plate_slenderness": box.slenderness,
        "plate_slenderness_limit": boxed_link.slender_limit(data.yield_mpa, data.e_mpa), "bow_mpa": found.bow, "across_mpa": found.across,
        "plates_used": found.plates,
        "buckling_utilisation": pressed / min(found.top_buckling, found.side_buckling),
        "seam_n_per_mm": found.seam_flow, "seam_throat_mpa": found.seam_throat, "seam_utilisation": found.seam_throat / found.seam_nominal,
    }  # fmt: skip
    return out, [
        step("bending", "F a (L − a)/L · c/I / (1 − P/Pe)", "shigley-shaft", moment_nmm=found.moment, amplifier=found.amplifier),
        step("torsion", "F e / (2 A_m t)", "bredt", torque_nmm=found.torque),
        step("plates", "k π² E/(12 (1 − ν²)) (t/b)², k 4 pressed, 23.9 bent", "timoshenko-plates", top_mpa=found.top_buckling),
        step("column", "the lower of Euler–Johnson and AISC E3, the weaker way", "shigley-columns", johnson_n=strength.johnson, aisc_e3_n=strength.aisc_e3),
        step("seams", "V Q/(2 I) + T/(2 A_m) over 0.707 leg, against 0.6 FEXX", "aisc-j2", flow=found.seam_flow),
    ]  # fmt: skip


class SpliceInput(Input):
    tube_od_mm: Mm
    tube_wall_mm: Mm
    inside: bool = Field(default=True, description="the sleeve lies in the bore; false: over the tube")
    sleeve_wall_mm: Mm
    sleeve_length_mm: Mm = Field(description="half of it in either tube")
    plugs: Annotated[int, Field(ge=0, le=8)] = 2
    plugs_in_section: Annotated[int, Field(ge=0, le=8)] = 1
    plug_mm: MmOrZero = 9.5
    leg_mm: MmOrZero = 4.0
    yield_mpa: Mpa
    welded_yield_mpa: Mpa
    uts_mpa: Mpa
    electrode_uts_mpa: Mpa = 483.0
    axial_n: Newton = 0.0
    moment_nmm: Moment = Field(default=0.0, description="at the joint")


@topic(
    "splice",
    SpliceInput,
    outputs={"sleeve_od_mm": "", "net_n": "sleeve at its plug welds, nominal: the lower of yield_n and rupture_n",
             "yield_n": "beside its welds", "rupture_n": "torn at its plug welds", "weld_n": "ring and plugs of either side, nominal",
             "stress_mpa": "of the sleeve under axial_n and moment_nmm", "overlap_diameters": "of the sleeve in either tube; 1.5 is common practice"},
    example={"tube_od_mm": 38.1, "tube_wall_mm": 3.05, "sleeve_wall_mm": 4.0, "sleeve_length_mm": 120, "yield_mpa": 435, "welded_yield_mpa": 250,
             "uts_mpa": 655, "axial_n": -9000, "moment_nmm": 90000},
    sources=("aisc-d2", "aisc-j2", "shigley-shaft"),
)  # fmt: skip
def run_splice(data: SpliceInput) -> Result:
    """Two lengths of tube joined by a sleeve, plug welds and a ring."""
    from tirante.core.members.splice import sleeve_section, splice_strength

    section = tube.Section(od=data.tube_od_mm, wall=data.tube_wall_mm)
    try:
        sleeve = sleeve_section(section, data.sleeve_wall_mm, inside=data.inside)
    except InputError as error:
        error.fields = ("sleeve_wall_mm",)
        raise
    found = splice_strength(
        section, sleeve, data.sleeve_length_mm, plugs=data.plugs, plugs_in_section=data.plugs_in_section, plug=data.plug_mm,
        leg=data.leg_mm, yield_strength=data.yield_mpa, welded_yield=data.welded_yield_mpa, ultimate=data.uts_mpa,
        electrode_ultimate=data.electrode_uts_mpa, axial=data.axial_n, moment=data.moment_nmm,
    )  # fmt: skip
    out = {
        "sleeve_od_mm": sleeve.od, "net_n": found.net, "yield_n": found.gross_yield, "rupture_n": found.rupture, "weld_n": found.weld, "stress_mpa": found.stress, "overlap_diameters": found.overlap,
    }  # fmt: skip
    return out, [
        step("net", "lower of A · as-welded yield and (A − Σ n d t) · ultimate", "aisc-d2", net_n=found.net),
        step("weld", "ring 0.6 FEXX · 0.707 leg · π D, and plugs", "aisc-j2", weld_n=found.weld),
        step("stress", "P/A + M c/I of the sleeve alone", "shigley-shaft", stress_mpa=found.stress),
    ]


class ClevisPinInput(Input):
    pin_mm: Mm
    ear_mm: Mm = Field(description="thickness of one ear")
    gap_mm: MmOrZero = Field(default=0.0, description="between the ears, filled by what the pin holds")
    force_n: NewtonOrZero
    yield_mpa: Mpa


@topic(
    "clevis-pin",
    ClevisPinInput,
    outputs={
        "bending_moment_nmm": "F/2 (ear/2 + gap/4)",
        "bending_mpa": "32 M/(π d³)",
        "shear_n": "2 · 0.577 Sy · area, what it holds in double shear",
        "utilisation": "over yield, factor 1",
    },
    example={"pin_mm": 12, "ear_mm": 8, "gap_mm": 16, "force_n": 9000, "yield_mpa": 640},
    sources=("en-1993-1-8",),
)
def run_clevis_pin(data: ClevisPinInput) -> Result:
    """A plain pin through a clevis, bent by what it holds."""
    from tirante.core.brackets.bolt import PinStack, pin_bending_moment, pin_bending_stress, plain_pin_shear

    stack = PinStack(ball_width=max(data.gap_mm, 1e-6), gap=0.0, plate=data.ear_mm, planes=2)
    moment = pin_bending_moment(stack, data.force_n)
    stress = pin_bending_stress(data.pin_mm, moment)
    out = {
        "bending_moment_nmm": moment,
        "bending_mpa": stress,
        "shear_n": plain_pin_shear(data.pin_mm, data.yield_mpa),
        "utilisation": stress / data.yield_mpa,
    }
    return out, [step("pin", "F/2 (ear/2 + gap/4) · 32/(π d³)", "en-1993-1-8", moment_nmm=moment, stress_mpa=stress)]


Share = Annotated[float, Field(ge=0, le=1)]


Spectrum = Annotated[
    tuple[tuple[Share, Share], ...],
    Field(max_length=20, strict=False, description="of all cycles the share, and the fraction of the full range"),
]


class LifeInput(Input):
    stress_range_mpa: float = Field(ge=0, le=1e6, description="of the fullest everyday cycle")
    class_mpa: Mpa
    shear: bool = False
    metal: Literal["steel", "aluminium"] = "steel"
    spectrum: Spectrum = ((1.0, 1.0),)
    partial_factor: float = Field(default=fatigue.PARTIAL, ge=1, le=3)
    range_n: NewtonOrZero = Field(default=0.0, description="the force that the stress comes of; not used")


@topic(
    "life",
    LifeInput,
    outputs={
        "cycles": "to failure, by Miner’s sum; 1e9: no end by its class",
        "full_range_cycles": "of the fullest range alone",
    },
    example={"stress_range_mpa": 90, "class_mpa": 50, "spectrum": [[0.1, 1.0], [0.9, 0.5]]},
    sources=("en-1993-1-9",),
)
def run_life(data: LifeInput) -> Result:
    """Everyday cycles of a spectrum to failure: direct stress by slopes 3 and 5, shear by 5."""
    line: dict[str, Any] = {"shear": data.shear, "partial": data.partial_factor, "metal": fatigue.BY_FAMILY[data.metal]}
    cycles = fatigue.life(data.stress_range_mpa, data.class_mpa, data.spectrum, **line)
    alone = fatigue.endurance(data.stress_range_mpa, data.class_mpa, **line)
    return {"cycles": cycles, "full_range_cycles": alone}, [
        step("life", "1 / Σ share / N(fraction · range · γ)", "en-1993-1-9", full_range_cycles=alone, cycles=cycles)
    ]


class FatigueInput(Input):
    range_n: NewtonOrZero = Field(description="axial force, most less least, of the everyday cycle")
    moment_range_nmm: float = Field(
        default=0.0, ge=0, le=1e9, description="that bends it beside the force, as of the ball's friction"
    )
    designation: Designation
    od_mm: Mm
    wall_mm: Mm
    leg_mm: Mm = 4.0
    partial_factor: float = Field(default=fatigue.PARTIAL, ge=1, le=3)
    spectrum: Spectrum = ((1.0, 1.0),)


@topic(
    "fatigue",
    FatigueInput,
    outputs={
        "thread_range_mpa": "at the root", "thread_limit_mpa": "constant-amplitude, factored", "thread_utilisation": "range over limit",
        "toe_range_mpa": "in the tube at the insert's weld", "toe_limit_mpa": "", "toe_utilisation": "", "throat_range_mpa": "in the ring weld",
        "throat_limit_mpa": "", "throat_utilisation": "", "governing": "thread, toe or throat", "cycles": "of the governing one to failure; null: below its limit",
        "life_cycles": "of the whole spectrum, by Miner’s sum and slopes 3 and 5, of the detail that fails first; 1e9: no end by its class",
        "life_governing": "which that is",
    },
    example={"range_n": 6000, "designation": "3/4-16 UNF", "od_mm": 31.75, "wall_mm": 3.05},
    sources=("en-1993-1-9",),
)  # fmt: skip
def run_fatigue(data: FatigueInput) -> Result:
    """A screen of the everyday stress range at thread root and weld against constant-amplitude limits."""
    section = tube.Section(od=data.od_mm, wall=data.wall_mm)
    found = fatigue.screened_end(
        data.range_n, data.designation, section, data.leg_mm, data.partial_factor, moment_range=data.moment_range_nmm
    )
    worst = fatigue.worst_detail(found)
    out: dict[str, Any] = {}
    for name, one in found.items():
        out |= {
            f"{name}_range_mpa": one.stress_range,
            f"{name}_limit_mpa": one.limit,
            f"{name}_utilisation": one.utilisation,
        }
    cycles = found[worst].cycles
    lives = {
        name: fatigue.life(one.stress_range, one.detail_class, data.spectrum, partial=data.partial_factor)
        for name, one in found.items()
    }
    first = min(lives, key=lambda name: lives[name])
    out |= {
        "governing": worst, "cycles": cycles if isfinite(cycles) else None, "life_cycles": lives[first], "life_governing": first,
    }  # fmt: skip
    return out, [
        step(
            "life",
            "1 / Σ share / N(fraction · range · γ)",
            "en-1993-1-9",
            class_mpa=found[first].detail_class,
            cycles=lives[first],
        ),
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
    use: Literal["road", "circuit", "off-road"] = Field(default="road", description="least wall, and cycles wanted")
    duty: Literal["", "steers", "locates"] = Field(
        default="", description="whether it steers or alone locates a wheel or axle: least thread"
    )
    everyday_n: NewtonOrZero | None = Field(
        default=None, description="range of its everyday force; null: its life is no condition"
    )
    life_cycles: Annotated[float, Field(gt=0, le=1e9)] | None = Field(default=None, description="wanted; null: by use")
    only_tubes: Annotated[tuple[Name, ...], Field(strict=False, max_length=200)] = Field(
        default=(), description="keys of sizes that are stocked; empty: all"
    )
    limits: bool = Field(
        default=True,
        description="false: all that holds, without the shop's limits (slenderness, walls, threads, stock)",
    )


CATALOGUE = Path(__file__).resolve().parents[3] / "data" / "catalogue"


@topic(
    "size",
    SizeInput,
    outputs={"considered": "sets of parts that fit together", "judged": "of them", "winner": "tube, grade, joint, insert, nut, mass_kg, governing, utilisation, mass and cost, "
                       "weld_leg_mm, slenderness, life_cycles (null: not judged) and every check with demand, capacity and case; or null",
             "runner_up": "the next, likewise", "left_out": "by the shop's limits, by reason", "advice": "why, and what would have to change"},
    example={"length_mm": 600, "cases": [{"name": "brake", "axial_n": -9000}, {"name": "kerb", "axial_n": 7000}]},
    sources=("search",),
)  # fmt: skip
def run_size(data: SizeInput) -> Result:
    """The least set of tube, grade, joint and insert of the shipped catalogue that passes every check of a link."""
    from tirante.core.document.catalogue import KINDS, Catalogue, read_csv
    from tirante.core.document.fields import Length
    from tirante.core.document.parts.common import CentreToCentre, RodEndEnd
    from tirante.core.document.parts.link import Link
    from tirante.core.document.settings import SearchLimits, Settings
    from tirante.core.loads.case_seen import CaseSeen
    from tirante.core.parts.everyday import BY_USE, for_use
    from tirante.core.parts.link.assembly import Everyday, typed_range
    from tirante.core.parts.link.life import COVERED
    from tirante.core.parts.link.prudent import Prudent, prudent_for
    from tirante.core.parts.link.sizing import size

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
        end_a=RodEndEnd(hand=data.hands[0]), end_b=RodEndEnd(hand=data.hands[1]),
    )  # fmt: skip
    cases = tuple(CaseSeen(name=c.name, axial_n=c.axial_n, strike_n=c.strike_n, side_n=c.side_n) for c in data.cases)
    everyday = (
        Everyday(swings=typed_range(data.everyday_n), target=data.life_cycles or BY_USE[data.use])
        if data.everyday_n is not None
        else None
    )
    prudent = Prudent()
    if data.limits:
        settings = Settings(search=SearchLimits(only_tubes=data.only_tubes))
        prudent = prudent_for(settings, data.use, cases, data.duty, frozenset(COVERED if everyday else ()))
    found = size(
        link,
        cases,
        for_use(Settings(), data.use),
        Catalogue(**rows),
        objective=data.objective,
        prudent=prudent,
        everyday=everyday,
    )

    def told(judged: Any) -> dict[str, Any] | None:
        if judged is None:
            return None
        assembly = judged.candidate.assembly
        end = assembly.threaded[0]
        return {
            "tube": assembly.tube.key, "grade": assembly.grade.key, "joint": end.joint.key, "insert": end.insert.key, "nut": end.nut.key,
            "mass_kg": judged.candidate.mass, "cost": judged.candidate.cost, "governing": judged.worst.key, "utilisation": judged.utilisation,
            "weld_leg_mm": assembly.leg, "slenderness": data.length_mm / assembly.section.radius_of_gyration,
            "life_cycles": next((check.capacity for check in judged.checks if check.key.split(":")[0] == "life"), None),
            "checks": [
                {
                    "check": check.key, "part": check.part, "case": check.case, "demand": check.demand, "capacity": check.capacity, "unit": check.unit,
                    "factor": check.factor, "utilisation": check.utilisation, "passed": check.passed,
                }
                for check in judged.checks
            ],
        }  # fmt: skip

    out = {
        "considered": found.considered, "judged": found.judged, "winner": told(found.winner), "runner_up": told(found.runner_up),
        "nearest": told(found.nearest), "advice": found.advice, "left_out": prudent.ruled_out,
    }  # fmt: skip
    return out, [
        step(
            "search",
            "candidates in order of mass (or cost); the first that passes every check",
            "search",
            considered=found.considered,
        )
    ]


class TorsionBarInput(Input):
    half_mm: Mm = Field(description="from the middle of the car to where the arm leaves the bar")
    bearing_mm: MmOrZero = Field(default=0.0, description="from there back to the bearing")
    lever_mm: Mm = Field(description="of the drop link's joint, square to the bar")
    beyond_mm: SignedMm = Field(default=0.0, description="how far that joint stands further out along the bar")
    od_mm: Mm
    wall_mm: Mm | None = Field(default=None, description="null: solid")
    bend_radius_mm: Mm | None = Field(
        default=None, description="of arms bent of the bar, at its middle; null: three diameters"
    )
    arm_height_mm: Mm | None = Field(default=None, description="of arms of flat bar on edge; null: bent of the bar")
    arm_thickness_mm: Mm | None = None
    leg_mm: Mm = Field(default=5.0, description="of the fillets that weld flat arms round the bar")
    force_n: Force3 = Field(
        default=(0.0, 0.0, 0.0), description="of the drop link: along the bar outward, along the lever, square to both"
    )


@topic(
    "torsion-bar",
    TorsionBarInput,
    outputs={
        "rate_nm_per_deg": "torque for each degree that its two ends are twisted", "torque_nmm": "in the middle", "bearing_mpa": "at the bearing, bent and twisted",
        "corner_mpa": "where it is bent into its arm, inner fibre; null with flat arms", "arm_mpa": "of a flat arm at its root; null of a bent one",
        "weld_mpa": "on the throat of its two rings; null of a bent one", "moved_mm": "of the drop link's joint", "bearing_n": "what a bearing gives the bar, square to it", "straight_mm": "of a bar whose arms are bent of it, joint to joint",
    },
    example={"half_mm": 440, "bearing_mm": 40, "lever_mm": 210, "od_mm": 18, "force_n": [0, 0, 750]},
    sources=("roark-torsion", "shigley-curved", "blodgett"),
)  # fmt: skip
def run_torsion_bar(data: TorsionBarInput) -> Result:
    """An anti-roll bar: its rate, and what its drop link puts into bearing, corner, arm and weld."""
    from tirante.core.members.stress_life import equivalent
    from tirante.core.members.torsion_bar import FlatArm, TorsionBar, bar_forces, rate_of, round_stress
    from tirante.core.parts.anti_roll_bar.judged import arm_stress, corner_stress, weld_stress

    if (data.arm_height_mm is None) != (data.arm_thickness_mm is None):
        raise InputError(
            "Give both height and thickness of flat arms, or neither.", code="missing", fields=("arm_thickness_mm",)
        )
    flat = (
        FlatArm(height=data.arm_height_mm, thickness=data.arm_thickness_mm)
        if data.arm_height_mm and data.arm_thickness_mm
        else None
    )
    bar = TorsionBar(
        half=data.half_mm, bearing=data.bearing_mm, lever=data.lever_mm, beyond=data.beyond_mm, od=data.od_mm, wall=data.wall_mm, arm=flat,
        bend_radius=0.0 if flat else data.bend_radius_mm or 3 * data.od_mm,
    )  # fmt: skip
    carried, rate = bar_forces(bar, data.force_n), rate_of(bar)
    bent, twisted = round_stress(bar.section, carried.bearing)
    out = {
        "rate_nm_per_deg": rate, "torque_nmm": abs(carried.torque), "bearing_mpa": equivalent((bent,), twisted),
        "corner_mpa": None if flat else corner_stress(bar, carried), "arm_mpa": arm_stress(bar, carried) if flat else None,
        "weld_mpa": weld_stress(bar, carried, data.leg_mm) if flat else None, "moved_mm": carried.moved, "bearing_n": carried.on_bearing, "straight_mm": None if flat else bar.straight,
    }  # fmt: skip
    return out, [
        step("rate", "lever² / (2 · what a newton moves the joint by)", "roark-torsion", rate_nm_per_deg=rate),
        step("at the bearing", "√((M c/I)² + 3 (T c/2I)²)", "shigley-shaft", bending_mpa=bent, torsion_mpa=twisted),
    ]  # fmt: skip


class StressLifeInput(Input):
    diameter_mm: Mm
    uts_mpa: Mpa
    surface: Literal["ground", "machined", "hot rolled"] = "machined"
    amplitude_mpa: float = Field(ge=0, le=1e5, description="of the fullest everyday cycle, by von Mises")
    mean_mpa: float = Field(default=0.0, ge=0, le=1e5)
    spectrum: Spectrum = ((1.0, 1.0),)


@topic(
    "stress-life",
    StressLifeInput,
    outputs={
        "cycles": "to failure, by Miner’s sum; 1e9: no end", "endurance_mpa": "amplitude that it stands without end", "few_mpa": "amplitude at a thousand cycles",
    },
    example={"diameter_mm": 20, "uts_mpa": 1000, "amplitude_mpa": 400, "mean_mpa": 50},
    sources=("shigley-life",),
)  # fmt: skip
def run_stress_life(data: StressLifeInput) -> Result:
    """Life of plain round bar by the stress-life method."""
    from tirante.core.members.stress_life import BarSteel, bar_life, reversed_amplitude

    steel = BarSteel(diameter=data.diameter_mm, ultimate=data.uts_mpa, surface=data.surface)
    found = bar_life(steel, data.amplitude_mpa, data.mean_mpa, data.spectrum)
    turned = reversed_amplitude(data.amplitude_mpa, data.mean_mpa, data.uts_mpa)
    out = {"cycles": found, "endurance_mpa": steel.endurance, "few_mpa": steel.few}
    return out, [
        step(
            "reversed",
            "σa / (1 − σm/Sut)",
            "shigley-life",
            amplitude_mpa=min(turned, 1e6),
            endurance_mpa=steel.endurance,
        )
    ]
