"""Topics of the bracket end of a link: pin, lug and weld group."""

from __future__ import annotations

from math import degrees, hypot
from typing import Annotated, Any, Literal

from pydantic import Field

from tirante.calc.fields import Designation, Input, Mm, MmOrZero, Modulus, Moment, Mpa, Newton, NewtonOrZero, SignedMm
from tirante.calc.registry import Working, step, topic
from tirante.core.brackets import bolt, lug, mount_wall, saddle, tab_bending, weld_group
from tirante.core.errors import InputError
from tirante.core.flat.contour import Curve
from tirante.core.flat.true_curve import arcs_of
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.members.thread import parse_thread

Result = tuple[dict[str, Any], Working]


class PinInput(Input):
    diameter_mm: Mm
    designation: Designation | None = Field(default=None, description="thread, needed with thread_in_plane")
    bolt_class: str | None = Field(default=None, alias="class", max_length=20, description="8.8, 10.9 or 12.9")
    grade: str | None = Field(default=None, max_length=20, description="5 or 8 (SAE J429), instead of class")
    planes: Annotated[int, Field(ge=1, le=2, description="1: one plate, 2: a clevis")] = 2
    thread_in_plane: bool = False
    ball_width_mm: Mm
    plate_mm: Mm
    gap_mm: MmOrZero = 0.0
    force_n: NewtonOrZero


@topic(
    "pin",
    PinInput,
    outputs={
        "shear_n": "nominal, all planes", "bending_moment_nmm": "across ball, gap and plate",
        "bending_mpa": "elastic stress", "bolt_uts_mpa": "of the class", "bolt_yield_mpa": "of the class",
        "shear_utilisation": "force over shear_n, factor 1", "bending_utilisation": "stress over yield, factor 1",
    },
    example={"diameter_mm": 19.05, "designation": "3/4-16 UNF", "grade": "8", "planes": 2, "thread_in_plane": False,
             "ball_width_mm": 22.23, "plate_mm": 6.35, "gap_mm": 1.5, "force_n": 30000},
    sources=("en-1993-1-8", "sae-j429", "iso-898-1"),
)  # fmt: skip
def run_pin(data: PinInput) -> Result:
    """Clevis bolt in shear and in bending."""
    if (data.bolt_class is None) == (data.grade is None):
        raise InputError(
            "Give the bolt's class (8.8, 10.9, 12.9) or its grade (5, 8), one of the two.",
            code="missing", fields=("class",),
        )  # fmt: skip
    try:
        material = bolt.bolt_class(data.bolt_class or data.grade or "", data.diameter_mm)
    except InputError as error:
        error.fields = ("class" if data.bolt_class else "grade",)
        raise
    thread = parse_thread(data.designation) if data.designation else None
    shear = bolt.pin_shear(data.diameter_mm, material, data.planes, thread, data.thread_in_plane)
    stack = bolt.PinStack(ball_width=data.ball_width_mm, gap=data.gap_mm, plate=data.plate_mm, planes=data.planes)
    moment = bolt.pin_bending_moment(stack, data.force_n)
    bending_diameter = thread.root_external if thread and data.thread_in_plane else data.diameter_mm
    stress = bolt.pin_bending_stress(bending_diameter, moment)
    out = {
        "shear_n": shear, "bending_moment_nmm": moment, "bending_mpa": stress, "bolt_uts_mpa": material.ultimate,
        "bolt_yield_mpa": material.yield_strength, "shear_utilisation": data.force_n / shear,
        "bending_utilisation": stress / material.yield_strength,
    }  # fmt: skip
    share = material.thread_shear if data.thread_in_plane else bolt.SHEAR_IN_SHANK
    formula = "F/2 (plate/2 + gap + ball/4)" if data.planes == 2 else "F (plate/2 + gap + ball/2)"
    return out, [
        step("strength", "of the class", material.source, Rm_mpa=material.ultimate, Re_mpa=material.yield_strength),
        step("shear", "planes · share · Rm · area", "en-1993-1-8", planes=data.planes, share=share,
             area_mm2=shear / (data.planes * share * material.ultimate), shear_n=shear),
        step("bending moment", formula, "en-1993-1-8", F_n=data.force_n, moment_nmm=moment),
        step("bending stress", "32 M / (π d³)", "shigley-shaft", d_mm=bending_diameter, bending_mpa=stress),
    ]  # fmt: skip


class LugInput(Input):
    thickness_mm: Mm = Field(description="mm; one plate")
    plates: int = Field(default=2, ge=1, le=4)
    width_mm: Mm
    hole_mm: Mm
    pin_mm: Mm
    edge_mm: Mm = Field(description="mm; hole centre to the free end along the load")
    yield_mpa: Mpa
    uts_mpa: Mpa
    force_n: NewtonOrZero | None = None
    angle_deg: float | None = Field(
        default=None, ge=-180, le=180, description="of the pull from the lug's axis, in its plane"
    )


@topic(
    "lug",
    LugInput,
    outputs={
        "bearing_n": "1.8 Fy d t", "tension_rupture_n": "Fu 2 t b_e", "shear_rupture_n": "0.6 Fu 2 t (a + d/2)",
        "gross_yield_n": "Fy w t", "governing": "the weakest", "utilisation": "with force_n, factor 1, along the axis",
        "along_n": "with angle_deg: rupture along the axis", "across_n": "and across", "slanted_n": "and at angle_deg, by the interaction",
        "slanted_utilisation": "with force_n and angle_deg, factor 1: of rupture at the angle, and of bearing",
        "detailing": "D5.2 limits, true or false",
    },
    example={"thickness_mm": 6.35, "plates": 2, "width_mm": 60, "hole_mm": 19.5, "pin_mm": 19.05, "edge_mm": 38,
             "yield_mpa": 250, "uts_mpa": 400, "force_n": 30000},
    sources=("aisc-d5", "aisc-j7", "melcon-hoblit"),
)  # fmt: skip
def run_lug(data: LugInput) -> Result:
    """Tabs with a pin hole: bearing, net tension, tear-out, gross yield and detailing."""
    plate = lug.Lug(
        thickness=data.thickness_mm, width=data.width_mm, hole=data.hole_mm, pin=data.pin_mm, edge=data.edge_mm,
        plates=data.plates,
    )  # fmt: skip
    found = lug.lug_strength(plate, data.yield_mpa, data.uts_mpa)
    modes = found.modes()
    out: dict[str, Any] = {f"{mode}_n": force for mode, force in modes.items()}
    out["governing"] = found.governing
    if data.force_n is not None:
        out["utilisation"] = data.force_n / modes[found.governing]
    if data.angle_deg is not None:
        both = lug.slanted(plate, data.yield_mpa, data.uts_mpa)
        out |= {"along_n": both.along, "across_n": both.across, "slanted_n": both.at(data.angle_deg)}
        if data.force_n is not None:
            out["slanted_utilisation"] = data.force_n / min(out["slanted_n"], found.bearing)
    out["effective_width_mm"] = plate.effective_width
    out["detailing"] = {
        "a_at_least_1_33_be": found.extension_ok,
        "hole_at_most_pin_plus_1_mm": found.hole_ok,
        "width_at_least_2_be_plus_pin": found.width_ok,
    }
    n = data.plates
    slant = [] if data.angle_deg is None else [
        step("at a slant", "((cos α/P_along)^1.6 + (sin α/P_across)^1.6)^(−1/1.6)", "melcon-hoblit", alpha_deg=data.angle_deg,
             slanted_n=out["slanted_n"])]  # fmt: skip
    return out, [
        step("effective width", "b_e = 2 t + 16 mm, at most the metal beside the hole", "aisc-d5",
             t_mm=data.thickness_mm, b_e_mm=plate.effective_width),
        step("bearing", "1.8 Fy d t n", "aisc-j7", Fy_mpa=data.yield_mpa, d_mm=data.pin_mm, n=n, bearing_n=found.bearing),
        step("net tension", "Fu 2 t b_e n", "aisc-d5", Fu_mpa=data.uts_mpa, tension_rupture_n=found.tension_rupture),
        step("tear-out", "0.6 Fu 2 t (a + d/2) n", "aisc-d5", a_mm=plate.beyond_hole,
             shear_rupture_n=found.shear_rupture),
        step("gross yield", "Fy w t n", "aisc-d2", w_mm=data.width_mm, gross_yield_n=found.gross_yield),
        *slant,
    ]  # fmt: skip


class TabBendingInput(Input):
    thickness_mm: Mm = Field(description="mm; one plate")
    width_mm: Mm = Field(description="mm; of the foot")
    height_mm: Mm = Field(description="mm; foot to hole centre")
    plates: int = Field(default=2, ge=1, le=4)
    force_n: NewtonOrZero
    load_angle_deg: float = Field(default=0.0, ge=-180, le=180, description="from the tab's axis")
    side_n: NewtonOrZero = 0.0
    outside_only: bool = Field(default=False, description="welded along its outer face alone")
    aside_mm: MmOrZero = Field(default=0.0, description="mm; of the hole along the foot, from over its middle")
    yield_mpa: Mpa


@topic(
    "tab-bending",
    TabBendingInput,
    outputs={"stress_mpa": "worst corner of the foot", "utilisation": "stress over yield, factor 1"},
    example={"thickness_mm": 6.35, "width_mm": 70, "height_mm": 45, "force_n": 20000, "load_angle_deg": 90,
             "side_n": 500, "yield_mpa": 275},
    sources=("shigley-shaft",),
)  # fmt: skip
def run_tab_bending(data: TabBendingInput) -> Result:
    """Stress at the foot of a tab pair from a slanting pull and a side load."""
    stress = tab_bending.tab_foot_stress(
        data.thickness_mm, data.width_mm, data.height_mm, data.plates, data.force_n, data.load_angle_deg, data.side_n,
        data.outside_only, data.aside_mm,
    )  # fmt: skip
    return {"stress_mpa": stress, "utilisation": stress / data.yield_mpa}, [
        step("stress", "F cos α/(t w n) + 6 F (sin α h + cos α e)/(t w² n) + 6 V h/(w t² n)", "shigley-shaft", F_n=data.force_n,
             alpha_deg=data.load_angle_deg, V_n=data.side_n, h_mm=data.height_mm, stress_mpa=stress),
    ]  # fmt: skip


class MountWallInput(Input):
    kind: Literal["round", "box"]
    width_mm: Mm = Field(description="mm; a tube's outside diameter, the width of a box's face")
    wall_mm: Mm
    yield_mpa: Mpa
    uts_mpa: Mpa
    foot_mm: Mm = Field(description="mm; of one plate, along it")
    gap_mm: MmOrZero = Field(description="mm; between the two plates")
    plate_mm: Mm = Field(description="mm; thickness of one")
    plates: Literal[1, 2] = Field(default=2, description="1: a single plate, whose gap_mm is nothing to it")
    angle_deg: Annotated[float, Field(ge=0, le=90, description="deg; between plates and member, 90: across it")] = 90.0
    pull_n: NewtonOrZero = Field(default=0.0, description="N; straight off the wall")
    tilt_nmm: Annotated[float, Field(ge=0, le=1e12, description="N·mm; in the plates' plane")] = 0.0
    rock_nmm: Annotated[float, Field(ge=0, le=1e12, description="N·mm; along the bolt")] = 0.0
    spread_mm: Mm | None = Field(default=None, description="mm; thickness of a spread plate between them")
    beyond_mm: MmOrZero = Field(default=0.0, description="mm; that it reaches beyond the feet all round")
    spread_yield_mpa: Mpa | None = None
    spread_uts_mpa: Mpa | None = None


@topic(
    "mount-wall",
    MountWallInput,
    outputs={
        "capacity_n": "pull straight off it, alone", "tilt_capacity_nmm": "moment in the plates' plane, alone", "rock_capacity_nmm": "moment along the bolt, alone",
        "utilisation": "all three together, factor 1", "equivalent_n": "the pull alone that uses as much", "gives": "what bends first",
        "line_n_per_mm": "on what shears first", "line_capacity_n_per_mm": "of that", "line_utilisation": "factor 1",
    },
    example={"kind": "box", "width_mm": 80, "wall_mm": 3, "yield_mpa": 275, "uts_mpa": 410, "foot_mm": 68, "gap_mm": 25, "plate_mm": 5, "angle_deg": 0,
             "pull_n": 6000, "tilt_nmm": 90000, "rock_nmm": 0},
    sources=("aisc-k",),
)  # fmt: skip
def run_mount_wall(data: MountWallInput) -> Result:
    """The wall of a tube under the feet of a pair of plates, bent through and sheared through."""
    lacks = [
        name
        for name in ("spread_yield_mpa", "spread_uts_mpa")
        if data.spread_mm is not None and getattr(data, name) is None
    ]
    if lacks:
        raise InputError(
            "A spread plate needs its yield and ultimate strength. Give both.", code="missing", fields=tuple(lacks)
        )
    if 2 * data.wall_mm > data.width_mm:
        raise InputError(f"A wall of {data.wall_mm:g} mm does not go into {data.width_mm:g} mm. At most half of it.", code="contradictory", fields=("wall_mm",), value=data.wall_mm, limits=(None, data.width_mm / 2))  # fmt: skip
    wall = mount_wall.Wall(
        kind=data.kind, width=data.width_mm, thickness=data.wall_mm, yield_mpa=data.yield_mpa, uts_mpa=data.uts_mpa
    )
    gap = data.gap_mm if data.plates == 2 else -data.plate_mm
    feet = mount_wall.feet_of_pair(data.foot_mm, gap, data.plate_mm, data.angle_deg)
    spread = None
    if data.spread_mm is not None and data.spread_yield_mpa is not None and data.spread_uts_mpa is not None:
        spread = mount_wall.Spread(
            thickness=data.spread_mm,
            beyond=data.beyond_mm,
            yield_mpa=data.spread_yield_mpa,
            uts_mpa=data.spread_uts_mpa,
        )
    acting = data.pull_n, data.tilt_nmm, data.rock_nmm
    used = mount_wall.bent_through(wall, feet, spread, *acting)
    line, least, of = mount_wall.sheared_through(wall, feet, spread, *acting)
    own = used.strength
    out = {
        "capacity_n": own.pull, "tilt_capacity_nmm": own.tilt, "rock_capacity_nmm": own.rock, "utilisation": used.use, "equivalent_n": used.use * own.pull,
        "gives": used.of, "line_n_per_mm": line, "line_capacity_n_per_mm": least, "line_utilisation": line / least,
    }  # fmt: skip
    return out, [
        step("pull, moments alone", "AISC chapter K, each half of the feet for a moment", "aisc-k", N_n=own.pull, tilt_nmm=own.tilt, rock_nmm=own.rock),
        step("use", "N/N_n + M/M_n + V h/M_n", "aisc-k", utilisation=used.use),
        step("line force", f"{'N/w + 6 M/w² + 2 V h/(t w)' if feet.single else 'N/2w + 3 M/w² + V h/(s w)'}, on {of}", "aisc-k", line_n_per_mm=line, least_n_per_mm=least),
    ]  # fmt: skip


class WeldInput(Input):
    segments: list[tuple[SignedMm, SignedMm, SignedMm, SignedMm]] = Field(
        min_length=1, max_length=200, description="[x1, y1, x2, y2] mm, weld lines in their plane"
    )
    leg_mm: Mm
    force_n: tuple[Newton, Newton, Newton]
    at_mm: tuple[SignedMm, SignedMm, SignedMm] = Field(description="mm; z off the weld plane")
    moment_nmm: tuple[Moment, Moment, Moment] = Field(default=(0.0, 0.0, 0.0), description="beside the force")
    electrode_uts_mpa: Mpa
    throats_mm: list[Mm] | None = Field(
        default=None, max_length=200, description="mm; of each run, where they are no plain fillets of one leg"
    )


@topic(
    "weld",
    WeldInput,
    outputs={
        "length_mm": "all runs", "centroid_mm": "x, y", "line_force_max_n_per_mm": "worst point",
        "throat_stress_max_mpa": "on 0.707 leg, or on the runs' own throats", "at": "worst point, mm", "nominal_mpa": "0.6 electrode",
        "utilisation": "stress over nominal, factor 1",
    },
    example={"segments": [[-25, 0, 25, 0], [-25, 30, 25, 30]], "leg_mm": 5, "force_n": [5000, 0, 12000],
             "at_mm": [0, 15, 40], "electrode_uts_mpa": 483},
    sources=("blodgett", "aisc-j2"),
)  # fmt: skip
def run_weld(data: WeldInput) -> Result:
    """Fillet weld group treated as a line under a force anywhere."""
    found = weld_group.weld_group(data.segments, data.force_n, data.at_mm, data.moment_nmm)
    stress = found.max_line_force / (THROAT_OF_LEG * data.leg_mm)
    if data.throats_mm is not None:
        if len(data.throats_mm) != len(data.segments):
            raise InputError(
                "Give a throat for each run, or none.", code="contradictory", fields=("throats_mm",), value=len(data.throats_mm), limits=(len(data.segments), len(data.segments)),
            )  # fmt: skip
        ends = weld_group.line_forces(data.segments, data.force_n, data.at_mm, data.moment_nmm).forces
        stress = max(hypot(*q) / data.throats_mm[i // 2] for i, q in enumerate(ends))
    nominal = SHEAR_OF_ELECTRODE * data.electrode_uts_mpa
    out = {
        "length_mm": found.length, "centroid_mm": list(found.centroid),
        "line_force_max_n_per_mm": found.max_line_force, "throat_stress_max_mpa": stress, "at": list(found.at),
        "nominal_mpa": nominal, "utilisation": stress / nominal,
    }  # fmt: skip
    return out, [
        step("line force", "F/L + torsion about the centroid + bending, worst end of a run", "blodgett",
             length_mm=found.length, q_n_per_mm=found.max_line_force),
        step("throat stress", "q / (0.707 leg)", "aisc-j2", leg_mm=data.leg_mm, stress_mpa=stress),
        step("nominal", "0.6 FEXX", "aisc-j2", FEXX_mpa=data.electrode_uts_mpa, nominal_mpa=nominal),
    ]  # fmt: skip


class PlateArmInput(Input):
    length_mm: Mm = Field(description="pivot to eye")
    eye_radius_mm: Mm = Field(description="of the plate round the eye")
    hub_radius_mm: Mm = Field(description="of the plate round the boss")
    hub_hole_mm: Mm = Field(description="diameter that the boss goes through")
    thickness_mm: Mm = Field(description="of one plate")
    plates: Annotated[int, Field(ge=1, le=2)] = 1
    apart_mm: MmOrZero = Field(default=0.0, description="between the middles of two plates")
    along_n: Newton = Field(default=0.0, description="along the arm, away from the pivot")
    across_n: Newton = Field(default=0.0, description="across it, in the plate's plane")
    out_n: Newton = Field(default=0.0, description="out of that plane")
    off_mm: SignedMm = Field(default=0.0, description="how far off the plates' middle it pulls")
    yield_mpa: Mpa = 355.0


@topic(
    "plate-arm",
    PlateArmInput,
    outputs={
        "worst_mpa": "between eye and boss, equivalent", "worst_at_mm": "from the eye", "net_mpa": "through the pivot, the boss left out",
        "column_n": "pressed along, 2.1 × its length, the lower of Euler–Johnson and AISC E3",
    },
    example={"length_mm": 90, "eye_radius_mm": 20, "hub_radius_mm": 36, "hub_hole_mm": 40, "thickness_mm": 6, "plates": 2, "apart_mm": 30,
             "across_n": 9000, "along_n": -3000},
    sources=("shigley-shaft", "aisc-e3"),
)  # fmt: skip
def run_plate_arm(data: PlateArmInput) -> Result:
    """An arm of a plate rocker: bent in its plane and out of it, through its boss, and as a column."""
    from tirante.core.brackets.plate_arm import EyeForce, PlateArm, plate_stress
    from tirante.core.members.column import column_strength

    arm = PlateArm(
        length=data.length_mm, eye_radius=data.eye_radius_mm, hub_radius=data.hub_radius_mm, hub_hole=data.hub_hole_mm, thickness=data.thickness_mm,
        plates=data.plates, apart=data.apart_mm,
    )  # fmt: skip
    found = plate_stress(arm, EyeForce(along=data.along_n, across=data.across_n, out=data.out_n, off=data.off_mm))
    strong = column_strength(arm, arm.length, data.yield_mpa, 205_000.0, 2.1)
    out = {
        "worst_mpa": found.worst,
        "worst_at_mm": found.at,
        "net_mpa": found.net,
        "column_n": min(strong.critical, strong.aisc_e3),
    }
    return out, [
        step("bent", "N/A + 6 M/(n t w²) + 6 M/(w t²), √(σ² + 3 τ²)", "shigley-shaft", worst_mpa=found.worst, at_mm=found.at),
        step("through the boss", "N/(n (w − D) t) + 6 w M/(n t (w³ − D³))", "shigley-shaft", net_mpa=found.net),
    ]  # fmt: skip


class BossWeldInput(Input):
    boss_mm: Mm
    leg_mm: Mm
    plates: Annotated[int, Field(ge=1, le=2)] = 1
    apart_mm: MmOrZero = 0.0
    in_plane_n: NewtonOrZero = 0.0
    out_n: NewtonOrZero = 0.0
    tip_nmm: float = Field(default=0.0, ge=0, le=1e12)


@topic(
    "boss-weld",
    BossWeldInput,
    outputs={"throat_mpa": "on the throat of the rings: two of one plate, one of each of two"},
    example={"boss_mm": 40, "leg_mm": 4, "plates": 2, "apart_mm": 30, "in_plane_n": 15000, "tip_nmm": 100000},
    sources=("blodgett",),
)
def run_boss_weld(data: BossWeldInput) -> Result:
    """The fillets that weld a boss into one plate or two."""
    from tirante.core.brackets.plate_arm import ring_stress

    stress = ring_stress(
        data.boss_mm, data.leg_mm, data.plates, data.apart_mm, data.in_plane_n, data.out_n, data.tip_nmm
    )
    return {"throat_mpa": stress}, [
        step("ring", "√((F/2πD)² + (N/2πD + M/line)²) / 0.707 leg", "blodgett", throat_mpa=stress)
    ]


class RootBoltsInput(Input):
    diameter_mm: Mm
    bolt_class: str = Field(alias="class", max_length=20, description="8.8, 10.9 or 12.9")
    apart_mm: Mm = Field(description="of the two bolts, along the arm")
    reach_mm: Mm = Field(description="from the eye to their middle")
    width_mm: Mm = Field(description="of the plate at its root")
    along_n: Newton = Field(default=0.0, description="along the arm, away from its root")
    across_n: Newton = Field(default=0.0, description="across it, in the plate's plane")
    out_n: Newton = Field(default=0.0, description="out of that plane")
    off_mm: SignedMm = Field(default=0.0, description="how far off the plate's middle it pulls")


@topic(
    "root-bolts",
    RootBoltsInput,
    outputs={
        "shear_n": "of the bolt nearer to the eye",
        "tension_n": "of the same",
        "use": "of that bolt, both together",
    },
    example={
        "diameter_mm": 12,
        "class": "10.9",
        "apart_mm": 40,
        "reach_mm": 120,
        "width_mm": 60,
        "across_n": 6000,
        "off_mm": 20,
    },
    sources=("shigley-shaft", "en-1993-1-8"),
)
def run_root_bolts(data: RootBoltsInput) -> Result:
    """Two bolts that hold the root of a plate arm."""
    from tirante.core.brackets.plate_arm import EyeForce
    from tirante.core.brackets.root_bolts import RootBolts, root_bolt_forces, root_bolt_use

    pair = RootBolts(diameter=data.diameter_mm, apart=data.apart_mm, reach=data.reach_mm, width=data.width_mm)
    force = EyeForce(along=data.along_n, across=data.across_n, out=data.out_n, off=data.off_mm)
    found = root_bolt_forces(pair, force)
    use = root_bolt_use(pair, bolt.bolt_class(data.bolt_class, data.diameter_mm), force)
    return {"shear_n": found.shear, "tension_n": found.tension, "use": use}, [
        step("nearer bolt", "across (1/2 + L/a), along 1/2; out of plane likewise, twist over a third of the width", "shigley-shaft",
             shear_n=found.shear, tension_n=found.tension),
        step("together", "F_v/(0.6 Rm A) + F_t/(1.4 · 0.9 Rm · 0.78 A)", "en-1993-1-8", use=use),
    ]  # fmt: skip


class HubFlangeInput(Input):
    bolts: Annotated[int, Field(ge=3, le=12)]
    circle_mm: Mm = Field(description="diameter that they stand on")
    bolt_mm: Mm
    bolt_class: str = Field(alias="class", max_length=20, description="8.8, 10.9 or 12.9")
    outside_mm: Mm
    thickness_mm: Mm
    ring_mm: Mm = Field(description="outside of what is welded to its middle")
    leg_mm: Mm
    yield_mpa: Mpa = 355.0
    across_n: Newton = Field(default=0.0, description="in the flange's plane")
    axial_n: Newton = Field(default=0.0, description="square to it")
    spin_nmm: Newton = Field(default=0.0, description="about its axis [N·mm]")
    tip_nmm: Newton = Field(default=0.0, description="about a line in its plane [N·mm]")


@topic(
    "hub-flange",
    HubFlangeInput,
    outputs={
        "bolt_shear_n": "of the worst bolt", "bolt_pull_n": "of the worst bolt", "bolt_use": "of that bolt, both together",
        "plate_n": "pull of one bolt at which the plate yields right through", "throat_mpa": "of the ring that welds it on",
    },
    example={"bolts": 4, "circle_mm": 110, "bolt_mm": 12, "class": "10.9", "outside_mm": 150, "thickness_mm": 12, "ring_mm": 70, "leg_mm": 6,
             "across_n": 12000, "tip_nmm": 900000},
    sources=("shigley-shaft", "en-1993-1-8", "blodgett"),
)  # fmt: skip
def run_hub_flange(data: HubFlangeInput) -> Result:
    """A flange that a hub is bolted to."""
    from tirante.core.brackets.hub_flange import HubFlange, OnFlange, bolt_forces, bolt_use, ring_throat

    flange = HubFlange(
        bolts=data.bolts, circle=data.circle_mm, bolt=data.bolt_mm, outside=data.outside_mm, thickness=data.thickness_mm, ring=data.ring_mm,
        leg=data.leg_mm,
    )  # fmt: skip
    acting = OnFlange(across=data.across_n, axial=data.axial_n, spin=data.spin_nmm, tip=data.tip_nmm)
    shear, pull = bolt_forces(flange, acting)
    use = bolt_use(flange, bolt.bolt_class(data.bolt_class, data.bolt_mm), acting)
    plate, throat = flange.one_bolt_bends(data.yield_mpa), ring_throat(flange, acting)
    return {"bolt_shear_n": shear, "bolt_pull_n": pull, "bolt_use": use, "plate_n": plate, "throat_mpa": throat}, [
        step("worst bolt", "V/n + T/(n r); N/n + 2 M/(n r)", "shigley-shaft", shear_n=shear, pull_n=pull),
        step("together", "F_v/(0.6 Rm A) + F_t/(1.4 · 0.9 Rm · 0.78 A)", "en-1993-1-8", use=use),
        step("plate", "l_eff t²/4 · yield / m", "en-1993-1-8", m_mm=flange.lever, l_eff_mm=flange.bent_width, plate_n=plate),
        step("ring", "√((N/πd + 4 M/πd²)² + (V/πd + 2 T/πd²)²) / 0.707 leg", "blodgett", throat_mpa=throat),
    ]  # fmt: skip


class StrikePadInput(Input):
    plate_mm: Mm
    length_mm: Mm = Field(description="of pad and webs")
    web_mm: Mm
    apart_mm: Mm = Field(description="between the webs' middles")
    height_mm: Mm = Field(description="of the taller web")
    footprint_mm: Mm = Field(description="radius of what strikes it")
    rim: bool = Field(default=False, description="whether that stands on its edge alone, as a coil does")
    lost_mm: MmOrZero = Field(default=0.0, description="mm; of the plate to further holes, taken off the width that carries")  # fmt: skip
    web_hole_mm: MmOrZero = Field(default=0.0, description="mm; diameter of a round hole in either web, midway along it")  # fmt: skip
    push_n: Newton = Field(description="square to the pad; below 0: it pulls")
    along_n: Newton = 0.0
    across_n: Newton = Field(default=0.0, description="across the webs")
    off_along_mm: SignedMm = 0.0
    off_across_mm: SignedMm = Field(default=0.0, description="of the blow from the pad's middle")
    over_mm: MmOrZero = Field(default=0.0, description="over the pad, where along_n and across_n act")
    rocks_nmm: Moment = Field(default=0.0, description="beside all that, about a line along the webs")
    tilts_nmm: Moment = Field(default=0.0, description="about one across them")
    twists_nmm: Moment = Field(default=0.0, description="about what is square to the pad")
    clamped_n: NewtonOrZero = Field(default=0.0, description="that it is pressed with at all times")
    yield_mpa: Mpa = 355.0


@topic(
    "strike-pad",
    StrikePadInput,
    outputs={
        "plate_mpa": "of the pad between its webs", "web_mpa": "of the worse web at its foot", "web_n": "that the worse web bears",
        "column_n": "that a web bears as a column",
    },
    example={"plate_mm": 6, "length_mm": 80, "web_mm": 6, "apart_mm": 36, "height_mm": 40, "footprint_mm": 30, "push_n": 9000, "off_across_mm": 5},
    sources=("shigley-shaft", "aisc-e3"),
)  # fmt: skip
def run_strike_pad(data: StrikePadInput) -> Result:
    """A pad on two webs that a bump stop strikes."""
    from tirante.core.brackets import strike_pad as pads

    pad = pads.PadOnWebs(
        plate=data.plate_mm, length=data.length_mm, web=data.web_mm, apart=data.apart_mm, height=data.height_mm, footprint=data.footprint_mm, rim=data.rim,
        lost=data.lost_mm, hole=data.web_hole_mm,
    )  # fmt: skip
    if pad.carries <= 0 or pad.hole >= pad.length:
        raise InputError("Its holes leave nothing of it.", code="contradictory", fields=("lost_mm" if pad.carries <= 0 else "web_hole_mm",))  # fmt: skip
    blow = pads.Blow(
        push=data.push_n,
        along=data.along_n,
        across=data.across_n,
        off_along=data.off_along_mm,
        off_across=data.off_across_mm,
        over=data.over_mm,
        rocks=data.rocks_nmm,
        tilts=data.tilts_nmm,
        twists=data.twists_nmm,
        clamped=data.clamped_n,
    )
    plate, web, bears = pads.plate_bending(pad, blow), pads.web_stress(pad, blow), pads.web_push(pad, blow)
    column = pad.column.column(data.yield_mpa, 205_000.0)
    return {"plate_mpa": plate, "web_mpa": web, "web_n": bears, "column_n": column}, [
        step("pad", "6 (F (g − r)/4 or the overhang's, + F e/2)/(b t²)", "shigley-shaft", plate_mpa=plate),
        step("web", "N/(L t) + 6 M/(t L²) + 6 T h/4/(L t²), N = F/2 + (F e + T h)/g; beside a hole of what is left, and 6 V/2 · 0.225 d/(t b²)", "shigley-shaft", web_n=bears, web_mpa=web),
        step("column", "the lower of Euler–Johnson and AISC E3", "aisc-e3", column_n=column),
    ]  # fmt: skip


class PlateLinkInput(Input):
    length_mm: Mm = Field(description="eye to eye")
    width_mm: Mm
    thickness_mm: Mm = Field(description="of one plate")
    plates: Annotated[int, Field(ge=1, le=2)] = 1
    yield_mpa: Mpa = 355.0
    e_mpa: Modulus = 205_000.0
    axial_n: Newton = Field(default=0.0, description="pull positive")
    strike_n: NewtonOrZero = Field(default=0.0, description="square to it at mid-span")
    side_n: NewtonOrZero = Field(default=0.0, description="square to it at an eye, held at the other")


@topic(
    "plate-link",
    PlateLinkInput,
    outputs={
        "stress_mpa": "P/A + M/W, the weaker way; null where the push reaches the Euler load", "column_n": "the lower of Euler–Johnson and AISC E3",
        "euler_n": "the weaker way", "area_mm2": "of all plates",
    },
    example={"length_mm": 320, "width_mm": 40, "thickness_mm": 12, "axial_n": -9000, "side_n": 200},
    sources=("aisc-e3", "shigley-shaft"),
)  # fmt: skip
def run_plate_link(data: PlateLinkInput) -> Result:
    """A link cut from plate: pressed and bent its weaker way."""
    from math import isfinite

    from tirante.core.members.plate_link import FlatLink, flat_stress

    flat = FlatLink(length=data.length_mm, width=data.width_mm, thickness=data.thickness_mm, plates=data.plates)
    stress, euler = flat_stress(flat, data.axial_n, data.strike_n, data.side_n, data.e_mpa), flat.euler(data.e_mpa)
    strong = flat.column(data.yield_mpa, data.e_mpa)
    out = {
        "stress_mpa": stress if isfinite(stress) else None,
        "column_n": strong,
        "euler_n": euler,
        "area_mm2": flat.area,
    }
    return out, [
        step("bent", "P/A + (F L/4 + S L)/W · 1/(1 − P/Pe)", "shigley-shaft", euler_n=euler, modulus_mm3=flat.modulus)
    ]


class SaddleInput(Input):
    tube_od_mm: Mm
    angle_deg: Annotated[
        float,
        Field(ge=0, le=90, description="deg; between plate and tube axis; 0: along the tube", allow_inf_nan=False),
    ] = 90.0
    lean_deg: Annotated[
        float,
        Field(
            ge=-30,
            le=30,
            description="deg; of the plate from square to the tube’s skin at the foot’s middle",
            allow_inf_nan=False,
        ),
    ] = 0.0
    width_mm: Mm = Field(description="mm; of the foot")
    thickness_mm: Mm
    offset_mm: SignedMm = Field(default=0.0, description="mm; of the plate's (or the pair's) middle across the tube")
    gap_mm: MmOrZero | None = Field(
        default=None, description="mm; between the plates of a pair: each then stands beside the offset, to either side"
    )
    steps: Annotated[int, Field(ge=2, le=1000)] = 10


@topic(
    "saddle",
    SaddleInput,
    outputs={
        "profile": "along the foot: x_mm, and its height from where the pair's middle meets the tube (upright: its crown): foot_mm in the plate's middle, faces_mm at either face",
        "edges": "the foot as arcs and lines within 0.005 mm, in order: x1, y1, x2, y2, and of an arc centre, radius and which way",
        "face_gap_mm": "that a foot cut square to the plate stands off at one face, at most", "widest_weld_deg": "largest angle between plate and tube",
        "throat_of_leg": "of a fillet there",
        "offset_mm": "of the middle of this plate's foot across the tube; of an upright pair over the crown the other plate is this one turned over",
    },
    example={"tube_od_mm": 76.2, "angle_deg": 70, "width_mm": 50, "thickness_mm": 5, "offset_mm": 4},
    sources=("geometry", "en-1993-1-8"),
)  # fmt: skip
def run_saddle(data: SaddleInput) -> Result:
    """Foot of a plate that stands on a round tube at an angle."""
    half, thickness = data.width_mm / 2, data.thickness_mm
    beside = 0.0 if data.gap_mm is None else (data.gap_mm + thickness) / 2
    one = saddle.saddle(data.tube_od_mm, data.angle_deg, half, thickness, data.offset_mm, beside, data.lean_deg)
    xs = [half * (2 * i / data.steps - 1) for i in range(data.steps + 1)]
    profile = [
        {"x_mm": x, "foot_mm": one.foot(x), "faces_mm": [one.foot(x, side) for side in (-thickness / 2, thickness / 2)]}
        for x in xs
    ]  # fmt: skip
    edges: list[dict[str, Any]] = [
        {"x1": edge.start[0], "y1": edge.start[1], "x2": edge.end[0], "y2": edge.end[1], **({"cx": edge.cx, "cy": edge.cy, "r": edge.r, "way": "clockwise" if edge.back else "counter-clockwise"} if isinstance(edge, Curve) else {})}
        for edge in arcs_of(lambda x: (x, one.foot(x)), -half, half)
    ]  # fmt: skip
    widest = one.widest_weld(half)
    out = {
        "profile": profile, "edges": edges, "face_gap_mm": one.face_gap(half, thickness), "widest_weld_deg": degrees(widest),
        "throat_of_leg": saddle.throat_share(widest), "offset_mm": one.across(0.0),
    }  # fmt: skip
    return out, [
        step("foot", "upright: √(R² − (x sin α + e)²) − R; leaning: the plane’s section of the tube", "geometry", R_mm=data.tube_od_mm / 2, alpha_deg=data.angle_deg, lean_deg=data.lean_deg, e_mm=one.across(0.0)),
        step("throat", "leg · cos(ψ/2), ψ the widest angle between plate and tube along the foot", "en-1993-1-8", psi_deg=degrees(widest), share=saddle.throat_share(widest)),
    ]  # fmt: skip
