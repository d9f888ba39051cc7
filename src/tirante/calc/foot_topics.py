"""Topics of feet, bearings, slots and flat ends: what is bolted on, crush sleeves, bolts in slots, plates in tubes."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Any

import numpy as np
from pydantic import Field

from tirante.calc.fields import Input, Mm, MmOrZero, Moment, Mpa, Newton, NewtonOrZero, SignedMm
from tirante.calc.registry import Working, step, topic
from tirante.core.brackets import bearing_pad, bolt, bolted_foot, leaf_perch, lug, rail_sleeve, saddle_box, tab_bending
from tirante.core.brackets import slot as slots
from tirante.core.brackets.lapped import LappedRoot, holed_stress, root_stress
from tirante.core.brackets.mount_wall import Wall
from tirante.core.brackets.plug_eye import PlugEye
from tirante.core.brackets.rail_sleeve import ThroughBox
from tirante.core.brackets.saddle_box import Pull, SaddleBox
from tirante.core.brackets.strap import StrapWelds, line_forces
from tirante.core.brackets.strike_pad import PadOnWebs
from tirante.core.errors import InputError
from tirante.core.members import flat_end
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.members.two_feet import PushedAt, at_feet

Result = tuple[dict[str, Any], Working]


class BoltedFootInput(Input):
    bolt_mm: Mm
    bolt_class: str = Field(alias="class", max_length=20, description="8.8, 10.9 or 12.9")
    hole_mm: Mm
    apart_mm: Mm = Field(description="mm; a foot's two bolts, along the bend")
    lever_mm: Mm = Field(description="mm; from an ear's middle to its bolts")
    toe_mm: Mm = Field(description="mm; from the bolts to the foot's end")
    between_mm: Mm = Field(description="mm; from the pair's middle to either ear's middle")
    width_mm: Mm = Field(description="mm; of a foot, along the bend")
    thickness_mm: Mm
    height_mm: Mm = Field(description="mm; from the face to the joint")
    yield_mpa: Mpa
    off_n: NewtonOrZero = Field(default=0.0, description="N; straight off the face")
    over_n: NewtonOrZero = Field(default=0.0, description="N; along the bend")
    side_n: NewtonOrZero = Field(default=0.0, description="N; along the joint's bolt")


@topic(
    "bolted-foot",
    BoltedFootInput,
    outputs={"pull_n": "of the worst bolt, without prying", "bolt_use": "of that bolt with it", "foot_stress_mpa": "through its bolt holes", "bearing_use": "of a hole"},
    example={"bolt_mm": 10, "class": "8.8", "hole_mm": 11, "apart_mm": 40, "lever_mm": 29, "toe_mm": 16, "between_mm": 15, "width_mm": 70, "thickness_mm": 6,
             "height_mm": 60, "yield_mpa": 275, "off_n": 3000, "over_n": 1000},
    sources=("shigley-shaft", "en-1993-1-8", "aisc-f11", "aisc-j7"),
)  # fmt: skip
def run_bolted_foot(data: BoltedFootInput) -> Result:
    """The feet of two angles bolted to a face: their bolts, the foot bent, a hole pressed."""
    if data.width_mm <= 2 * data.hole_mm:
        raise InputError("The foot is no wider than its two holes.", code="contradictory", fields=("width_mm",))
    feet = bolted_foot.BoltedFeet(
        bolt=data.bolt_mm, hole=data.hole_mm, apart=data.apart_mm, lever=data.lever_mm, toe=data.toe_mm, between=data.between_mm, width=data.width_mm,
        thickness=data.thickness_mm, height=data.height_mm,
    )  # fmt: skip
    on = bolted_foot.OnFeet(off=data.off_n, over=data.over_n, side=data.side_n)
    use = bolted_foot.bolt_use(feet, bolt.bolt_class(data.bolt_class, data.bolt_mm), on)
    pull, stress, bearing = (
        bolted_foot.pulled(feet, on),
        bolted_foot.foot_stress(feet, on),
        bolted_foot.bearing_use(feet, data.yield_mpa, on),
    )
    return {"pull_n": pull, "bolt_use": use, "foot_stress_mpa": stress, "bearing_use": bearing}, [
        step("pull", "N/4 + S h/2p + V h/4b", "shigley-shaft", N_n=on.off, S_n=on.over, V_n=on.side, pull_n=pull),
        step("bolt", "pull (m + e)/e with shear, together", "en-1993-1-8", use=use),
        step("foot", "4 · 2 F m/((w − 2 d) t²)", "aisc-f11", stress_mpa=stress),
        step("hole", "F_v/(1.8 Fy d t)", "aisc-j7", use=bearing),
    ]  # fmt: skip


class LightenedTabInput(Input):
    thickness_mm: Mm
    width_mm: Mm = Field(description="mm; of the plate at the hole's level")
    hole_mm: Mm
    over_mm: MmOrZero = Field(description="mm; from the hole's middle up to the joint's")
    along_n: NewtonOrZero = Field(description="of one plate's pull, along the tab")
    across_n: NewtonOrZero = Field(default=0.0, description="of it, across the tab in its plane")
    side_n: NewtonOrZero = Field(default=0.0, description="of one plate, along the bolt")
    aside_mm: MmOrZero = 0.0
    yield_mpa: Mpa = 275.0


@topic(
    "lightened-tab",
    LightenedTabInput,
    outputs={"stress_mpa": "of one plate beside the hole", "utilisation": "of its yield, at factor 1"},
    example={"thickness_mm": 6, "width_mm": 60, "hole_mm": 26, "over_mm": 35, "along_n": 4000, "across_n": 2500},
    sources=("shigley-shaft",),
)
def run_lightened_tab(data: LightenedTabInput) -> Result:
    """A tab beside a round hole that makes it lighter."""
    if data.hole_mm >= data.width_mm:
        raise InputError("The hole is as wide as the plate.", code="contradictory", fields=("hole_mm",))
    stress = tab_bending.lightened_stress(
        data.thickness_mm,
        data.width_mm,
        data.hole_mm,
        data.over_mm,
        data.along_n,
        data.across_n,
        data.side_n,
        data.aside_mm,
    )
    return {"stress_mpa": stress, "utilisation": stress / data.yield_mpa}, [
        step("beside it", "N/(t (w − d)) + 6 (V h + N e) w/(t (w³ − d³)) + 6 V/2 · 0.225 d/(t b²) + 6 S h/((w − d) t²)", "shigley-shaft", stress_mpa=stress)
    ]  # fmt: skip


class HoledTabInput(Input):
    thickness_mm: Mm = Field(description="of one plate")
    legs_mm: list[tuple[SignedMm, SignedMm]] = Field(
        min_length=1,
        max_length=20,
        description="the metal across that level, from where to where, from the joint's axis",
    )
    opening_mm: Mm = Field(description="the hole's diameter")
    over_mm: Mm = Field(description="from that level up to the joint's middle")
    along_n: NewtonOrZero = Field(description="of one plate's pull, along the tab")
    across_n: NewtonOrZero = Field(default=0.0, description="of it, across the tab in its plane")
    side_n: NewtonOrZero = Field(default=0.0, description="of one plate, along the bolt")
    yield_mpa: Mpa = 275.0


def _legs(data: HoledTabInput) -> tab_bending.Legs:
    """The metal that is left, its legs one beside the other."""
    if any(b <= a for a, b in data.legs_mm) or any(b > c for (_, b), (c, _) in pairwise(data.legs_mm)):
        raise InputError("Give each leg from its left edge to its right one, the leftmost first.", code="contradictory", fields=("legs_mm",))  # fmt: skip
    return tab_bending.Legs(thickness=data.thickness_mm, legs=tuple(data.legs_mm), opening=data.opening_mm)


@topic(
    "holed-tab",
    HoledTabInput,
    outputs={
        "area_mm2": "of what is left", "middle_mm": "of it, from the joint's axis", "inertia_mm4": "of it about that", "stress_mpa": "of one plate across the level of the hole",
        "utilisation": "of its yield, at factor 1",
    },
    example={"thickness_mm": 6, "legs_mm": [[-30, 5], [11.5, 30]], "opening_mm": 6.5, "over_mm": 40, "along_n": 4000, "across_n": 2500},
    sources=("shigley-shaft",),
)  # fmt: skip
def run_holed_tab(data: HoledTabInput) -> Result:
    """A tab across the level of holes in it that are not in its middle."""
    at = _legs(data)
    stress = tab_bending.section_stress(at, data.over_mm, data.along_n, data.across_n, data.side_n)
    area = data.thickness_mm * sum(at.widths)
    return {
        "area_mm2": area, "middle_mm": at.middle, "inertia_mm4": at.inertia, "stress_mpa": stress, "utilisation": stress / data.yield_mpa,
    }, [
        step("what is left", "A = t Σw, its middle, I about it", "shigley-shaft", area_mm2=area, middle_mm=at.middle, inertia_mm4=at.inertia),
        step("stress", "N/A + (V h + N e) c/I + 6 Vᵢ · 0.225 d/(t wᵢ²) + 6 S h/(Σw t²), Vᵢ = V wᵢ³/Σw³", "shigley-shaft", stress_mpa=stress),
    ]  # fmt: skip


class LappedHoledInput(HoledTabInput):
    lever_mm: MmOrZero = Field(description="mm; the middle of its thickness there to the joint's middle, along the bolt")  # fmt: skip


@topic(
    "lapped-holed",
    LappedHoledInput,
    outputs={"stress_mpa": "all together, by the distortion energy", "utilisation": "of its yield, at factor 1"},
    example={"thickness_mm": 8, "legs_mm": [[-30, 5], [11.5, 30]], "opening_mm": 6.5, "over_mm": 40, "lever_mm": 12, "along_n": 4000, "across_n": 1500, "side_n": 200},
    sources=("shigley-shaft",),
)  # fmt: skip
def run_lapped_holed(data: LappedHoledInput) -> Result:
    """A plate that holds a joint in single shear, across the level of further holes."""
    at = _legs(data)
    stress = holed_stress(at, data.over_mm, data.lever_mm, data.along_n, data.across_n, data.side_n)
    return {"stress_mpa": stress, "utilisation": stress / data.yield_mpa}, [
        step("there", "√((N/A + (V h + N a) c/I + 6 Vᵢ · 0.225 d/(t wᵢ²) + 6 (N e + S h)/(Σw t²))² + 3 (V e (3 + 1.8 t/w)/(Σw t²) + 1.5 (V + S)/(Σw t))²)", "shigley-shaft", stress_mpa=stress)
    ]  # fmt: skip


class LappedRootInput(Input):
    width_mm: Mm
    thickness_mm: Mm
    reach_mm: Mm = Field(description="mm; from where its weld ends to the hole, along it")
    lever_mm: MmOrZero = Field(
        description="mm; the middle of its thickness there to the joint's middle, along the bolt"
    )
    pull_n: NewtonOrZero = Field(description="in the joint's plane")
    angle_deg: Annotated[
        float, Field(ge=-360, le=360, allow_inf_nan=False, description="deg; of the pull from the plate's axis")
    ] = 0.0
    side_n: NewtonOrZero = Field(default=0.0, description="along the bolt")
    yield_mpa: Mpa = 355.0


@topic(
    "lapped-root",
    LappedRootInput,
    outputs={"stress_mpa": "all together, by the distortion energy", "utilisation": "of its yield, at factor 1"},
    example={"width_mm": 50, "thickness_mm": 8, "reach_mm": 60, "lever_mm": 20, "pull_n": 4000, "angle_deg": 20},
    sources=("shigley-shaft",),
)
def run_lapped_root(data: LappedRootInput) -> Result:
    """A plate that lies on a face and holds a joint beside it, where it leaves its weld."""
    root = LappedRoot(width=data.width_mm, thickness=data.thickness_mm, reach=data.reach_mm, lever=data.lever_mm)
    stress = root_stress(root, data.pull_n, data.angle_deg, data.side_n)
    return {"stress_mpa": stress, "utilisation": stress / data.yield_mpa}, [
        step("root", "√((N/bt + 6 V L/tb² + 6 (N e + S L)/bt²)² + 3 (V e (3 + 1.8 t/b)/bt² + 1.5 (V + S)/bt)²)", "shigley-shaft", stress_mpa=stress)
    ]  # fmt: skip


class RailSleeveInput(Input):
    outside_mm: Mm
    bore_mm: Mm
    through_mm: Mm = Field(description="mm; the box, near face to far face")
    wall_mm: MmOrZero = Field(default=0.0, description="mm; of the box; 0: its faces hold the sleeve")
    proud_mm: MmOrZero = Field(default=0.0, description="mm; that it stands out before the near face")
    lever_mm: Mm = Field(description="mm; from the near face to the joint’s middle")
    bolt_mm: Mm
    leg_mm: Mm
    pull_n: NewtonOrZero = Field(description="N; square to the bolt")
    push_n: NewtonOrZero = Field(default=0.0, description="N; along the bolt")
    yield_mpa: Annotated[float, Field(ge=0, le=5000, description="MPa; of the box’s wall; 0: not known", allow_inf_nan=False)] = 0.0  # fmt: skip
    width_mm: MmOrZero = Field(default=0.0, description="mm; of the face; 0: not known")


@topic(
    "rail-sleeve",
    RailSleeveInput,
    outputs={
        "near_n": "what the near wall bears, square to the bolt",
        "far_n": "what the far one does, the other way",
        "bending_mpa": "in the sleeve at its near wall",
        "mouth_mpa": "of the bolt, at the mouth of the bore",
        "throat_mpa": "in the fillet round it at the near wall",
        "push_n": "along the bolt",
        "wall_carries_n": "of the near wall, pressed; null: its yield is not given",
        "walls_carry_push_n": "of both walls, pushed through; null: yield or width is not given",
    },
    example={"outside_mm": 28, "bore_mm": 16.5, "through_mm": 80, "wall_mm": 4, "proud_mm": 6, "lever_mm": 22, "bolt_mm": 16, "leg_mm": 4, "pull_n": 9000, "push_n": 600, "yield_mpa": 275, "width_mm": 80},
    sources=("geometry", "shigley-shaft", "aisc-j7", "aisc-k"),
)  # fmt: skip
def run_rail_sleeve(data: RailSleeveInput) -> Result:
    """A sleeve through a box, welded to both walls, and a joint on its bolt before one of them."""
    sleeve = ThroughBox(outside=data.outside_mm, bore=data.bore_mm, through=data.through_mm, wall=data.wall_mm, proud=data.proud_mm)  # fmt: skip
    if data.lever_mm < data.proud_mm:
        raise InputError("The joint stands inside the sleeve. Give it a longer lever, or let the sleeve stand out less.", code="contradictory", fields=("lever_mm",))  # fmt: skip
    walls = rail_sleeve.on_walls(sleeve, data.lever_mm, data.pull_n)
    bending = rail_sleeve.bent(sleeve, data.lever_mm, data.pull_n)
    mouth = rail_sleeve.pressed(sleeve, data.bolt_mm, data.lever_mm, data.pull_n)
    throat = rail_sleeve.ring_line(sleeve, walls.near, data.push_n) / (THROAT_OF_LEG * data.leg_mm)
    pressed = rail_sleeve.wall_pressed(sleeve, data.yield_mpa) if data.yield_mpa else None
    pushed = None
    if data.yield_mpa and data.width_mm and data.wall_mm:
        wall = Wall(kind="box", width=data.width_mm, thickness=data.wall_mm, yield_mpa=data.yield_mpa)
        pushed = rail_sleeve.walls_pushed(sleeve, wall)
    return {
        "near_n": walls.near, "far_n": walls.far, "bending_mpa": bending, "mouth_mpa": mouth, "throat_mpa": throat, "push_n": data.push_n, "wall_carries_n": pressed,
        "walls_carry_push_n": pushed,
    }, [
        step("walls", "far F (a + t/2)/(h − t), near F + far", "geometry", near_n=walls.near, far_n=walls.far),
        step("sleeve", "32 F (a + t/2) D/(π (D⁴ − d⁴))", "shigley-shaft", bending_mpa=bending),
        step("mouth", "F (6 (a − p) + 4 s)/(b s²), s = 2 b at most", "geometry", mouth_mpa=mouth),
        step("fillet", "√(near² + (P/2)²)/(π D · 0.707 leg)", "geometry", throat_mpa=throat),
    ]  # fmt: skip


class PushedInput(Input):
    x_mm: Annotated[
        float,
        Field(ge=-10_000, le=10_000, description="mm; along the bar from midway between its feet", allow_inf_nan=False),
    ]
    force_n: tuple[Newton, Newton, Newton] = Field(description="along the bar, and both ways across", strict=False)


class TwoFeetInput(Input):
    apart_mm: Mm
    pushed: Annotated[list[PushedInput], Field(min_length=1, max_length=20, description="every force on the bar")]


@topic(
    "two-feet",
    TwoFeetInput,
    outputs={"first_n": "on the foot at minus half", "second_n": "on the other", "most_n": "the larger as a whole"},
    example={
        "apart_mm": 250,
        "pushed": [{"x_mm": 300, "force_n": [4000, -300, 500]}, {"x_mm": -300, "force_n": [1000, -80, -90]}],
    },
    sources=("geometry",),
)
def run_two_feet(data: TwoFeetInput) -> Result:
    """A bar on two feet pushed at its ends, as a steering rack is: either foot taken to bear all that pushes it along."""
    pushed = [PushedAt(x=one.x_mm, force=np.array(one.force_n)) for one in data.pushed]
    first, second = at_feet(data.apart_mm, pushed)
    most = max(float(np.linalg.norm(foot)) for foot in (first, second))
    return {"first_n": first.tolist(), "second_n": second.tolist(), "most_n": most}, [
        step("across", "V/2 ∓ Σ V x/a", "geometry", first_n=float(np.linalg.norm(first[1:])), second_n=float(np.linalg.norm(second[1:]))),
        step("along", "all of it, at either foot", "geometry", along_n=float(first[0])),
        step("most", "√(along² + across²)", "geometry", most_n=most),
    ]  # fmt: skip


class BearingPadInput(Input):
    plate_mm: Mm
    length_mm: Mm = Field(description="along the webs")
    web_mm: Mm
    apart_mm: Mm = Field(description="between the webs' middles")
    height_mm: Mm = Field(description="of the taller web")
    bolt_mm: Mm
    bolt_class: str = Field(alias="class", max_length=20, description="8.8, 10.9 or 12.9")
    hole_mm: Mm
    washer_mm: Mm = Field(description="its diameter")
    pitch_mm: Mm = Field(description="between the two bolts")
    turned_deg: Annotated[
        float, Field(ge=0, le=90, description="deg; of the bolts' line from along the webs", allow_inf_nan=False)
    ] = 0.0
    high_mm: MmOrZero = Field(description="of the bar's line over the plate")
    lost_mm: MmOrZero = Field(default=0.0, description="mm; of the plate to further holes, taken off the width that carries")  # fmt: skip
    yield_mpa: Mpa = 355.0
    off_n: Newton = Field(default=0.0, description="straight off the plate; below 0: it presses")
    over_n: Newton = Field(default=0.0, description="along the bolts' line")
    along_n: Newton = Field(default=0.0, description="along the bar")


@topic(
    "bearing-pad",
    BearingPadInput,
    outputs={"pulls_n": "of the two bolts, below 0: pressed", "plate_mpa": "of the plate beside its bolts", "bolt_use": "of the worse", "hole_use": "of a hole"},
    example={"plate_mm": 6, "length_mm": 80, "web_mm": 6, "apart_mm": 36, "height_mm": 40, "bolt_mm": 8, "class": "8.8", "hole_mm": 8.5, "washer_mm": 16,
             "pitch_mm": 50, "high_mm": 25, "off_n": 2000, "over_n": 1500},
    sources=("shigley-shaft", "en-1993-1-8", "aisc-j7"),
)  # fmt: skip
def run_bearing_pad(data: BearingPadInput) -> Result:
    """A plate on two webs that a bearing is bolted to by two bolts."""
    pad = PadOnWebs(plate=data.plate_mm, length=data.length_mm, web=data.web_mm, apart=data.apart_mm, height=data.height_mm, footprint=data.washer_mm / 2, lost=data.lost_mm)  # fmt: skip
    bolts = bearing_pad.PadBolts(bolt=data.bolt_mm, hole=data.hole_mm, pitch=data.pitch_mm, turned_deg=data.turned_deg, high=data.high_mm)  # fmt: skip
    if bearing_pad.ALONG_DEG < data.turned_deg < bearing_pad.ACROSS_DEG:
        raise InputError(f"Bolts stand along the webs or across them, within {bearing_pad.ALONG_DEG:g}°.", code="out_of_range", fields=("turned_deg",))  # fmt: skip
    if pad.length / 2 - bolts.at[0] <= data.hole_mm / 2:
        raise InputError("The bolts stand past the plate’s ends.", code="contradictory", fields=("length_mm",))
    on = bearing_pad.OnBearing(off=data.off_n, over=data.over_n, along=data.along_n)
    pulls, stress = bearing_pad.bolt_pulls(bolts, on), bearing_pad.plate_stress(pad, bolts, on)
    use = bearing_pad.bolt_use(bolts, bolt.bolt_class(data.bolt_class, data.bolt_mm), on)
    hole = bearing_pad.hole_use(pad, bolts, data.yield_mpa, on)
    return {"pulls_n": list(pulls), "plate_mpa": stress, "bolt_use": use, "hole_use": hole}, [
        step("pulls", "F/2 ∓ V h/p", "shigley-shaft", one_n=pulls[0], two_n=pulls[1]),
        step("plate", "6 M/((b − d) t²) on the plate across its webs, or past one", "shigley-shaft", plate_mpa=stress),
        step("bolt", "V/2 F_v + T/1.4 F_t, and T/F_t alone", "en-1993-1-8", use=use),
        step("hole", "V/2/(1.8 Fy d t)", "aisc-j7", use=hole),
    ]  # fmt: skip


class LeafPerchInput(Input):
    od_mm: Mm = Field(description="of the axle, that the U-bolts go round")
    leaf_mm: Mm = Field(description="how wide the leaf is")
    length_mm: Mm = Field(description="of the seat, along the axle")
    width_mm: Mm = Field(description="of the seat, along the leaf")
    plate_mm: Mm
    u_bolt_mm: Annotated[float, Field(ge=6, le=30, description="mm; a coarse metric thread")]
    bolt_class: str = Field(alias="class", max_length=20, description="of the U-bolts")
    tie_mm: Mm = Field(description="the leaf's own bolt")
    tie_class: str = Field(default="8.8", max_length=20)
    head_mm: Mm = Field(description="hole for its head in the seat")
    top_mm: Mm = Field(description="plate over the leaf")
    yield_mpa: Mpa = 355.0
    off_n: Newton = Field(default=0.0, description="straight off the seat; below 0: it presses")
    along_n: Newton = Field(default=0.0, description="along the axle")
    across_n: Newton = Field(default=0.0, description="along the leaf")
    about_axle_nmm: Moment = 0.0
    about_leaf_nmm: Moment = 0.0
    twists_nmm: Moment = Field(default=0.0, description="about what is square to both")


@topic(
    "leaf-perch",
    LeafPerchInput,
    outputs={
        "leg_n": "of the leg that is pulled most", "leg_use": "how far that leg is used", "clamp_n": "of one leg as it is tightened", "needed_n": "clamp of all legs that keeps the seat shut and the leaf from turning",
        "tie_use": "of the tie bolt, sheared", "head_use": "of the seat at its head", "top_mpa": "of the plate over the leaf",
    },
    example={"od_mm": 76, "leaf_mm": 60, "length_mm": 60, "width_mm": 114, "plate_mm": 8, "u_bolt_mm": 12, "class": "8.8", "tie_mm": 10, "head_mm": 17, "top_mm": 12,
             "along_n": 4000, "across_n": 6000, "about_axle_nmm": 900000},
    sources=("shigley-bolts", "en-1993-1-8", "aisc-j7", "shigley-shaft"),
)  # fmt: skip
def run_leaf_perch(data: LeafPerchInput) -> Result:
    """A leaf's seat on an axle tube, clamped by two U-bolts."""
    seat = leaf_perch.Perch(
        od=data.od_mm, leaf=data.leaf_mm, long=data.length_mm, wide=data.width_mm, plate=data.plate_mm, bolt=data.u_bolt_mm, tie=data.tie_mm,
        head=data.head_mm, top=data.top_mm,
    )  # fmt: skip
    on = leaf_perch.OnSeat(off=data.off_n, along=data.along_n, across=data.across_n, about_axle=data.about_axle_nmm, about_leaf=data.about_leaf_nmm, twists=data.twists_nmm)  # fmt: skip
    material = bolt.bolt_class(data.bolt_class, data.u_bolt_mm)
    clamp = leaf_perch.clamp_of(data.u_bolt_mm, material)
    leg, needed = leaf_perch.leg_pull(seat, on), leaf_perch.clamp_needed(seat, on)
    used = leaf_perch.leg_use(seat, material, on)
    tie = leaf_perch.tie_use(seat, bolt.bolt_class(data.tie_class, data.tie_mm), on)
    head, top = leaf_perch.head_use(seat, data.yield_mpa, on), leaf_perch.top_stress(seat, clamp, on)
    out = {"leg_n": leg, "leg_use": used, "clamp_n": clamp, "needed_n": needed, "tie_use": tie, "head_use": head, "top_mpa": top}  # fmt: skip
    return out, [
        step("legs", "F/4 + M_axle/(4 y) + M_leaf/(4 x)", "shigley-bolts", leg_n=leg, x_mm=seat.legs[0], y_mm=seat.legs[1]),
        step("leg", "T/(0.9 Rm A_s)", "en-1993-1-8", use=used),
        step("clamp", "F + 6 M_axle/width + 6 M_leaf/length + M_z/(µ r), r the seat's mean radius", "shigley-bolts", needed_n=needed, r_mm=seat.grips, clamp_n=4 * clamp),
        step("tie bolt", "V/(0.6 Rm A)", "en-1993-1-8", use=tie),
        step("its head", "V/(1.8 Fy d t)", "aisc-j7", use=head),
        step("plate over the leaf", "6 · 2 F c/(b t²), F the clamp of a leg or its pull", "shigley-shaft", top_mpa=top),
    ]  # fmt: skip


class CrushSleeveInput(Input):
    clamp_n: Newton
    outside_mm: Mm
    bore_mm: Mm


@topic(
    "crush-sleeve",
    CrushSleeveInput,
    outputs={"stress_mpa": "pressure in it"},
    example={"clamp_n": 25000, "outside_mm": 18, "bore_mm": 10.5},
    sources=("geometry",),
)
def run_crush_sleeve(data: CrushSleeveInput) -> Result:
    """A sleeve through a box under the clamp of the bolt in it, the walls beside it not counted on."""
    if data.bore_mm >= data.outside_mm:
        raise InputError(
            "Its bore is as wide as the sleeve. Make it larger outside.", code="contradictory", fields=("bore_mm",)
        )
    stress = bolted_foot.sleeve_stress(data.clamp_n, data.outside_mm, data.bore_mm)
    return {"stress_mpa": stress}, [
        step("pressure", "F/(π/4 (D² − d²))", "geometry", clamp_n=data.clamp_n, stress_mpa=stress)
    ]


class SlotInput(Input):
    length_mm: Mm = Field(description="mm; of its middle line, as far as the bolt goes")
    width_mm: Mm
    thickness_mm: Mm = Field(description="mm; one plate")
    beside_mm: Mm = Field(description="mm; metal between slot and edge")
    plates: int = Field(default=2, ge=1, le=4)
    force_n: NewtonOrZero = Field(default=0.0, description="N; across the slot, of all plates")
    clamp_n: NewtonOrZero = Field(default=0.0, description="N; of the bolt")


@topic(
    "slot",
    SlotInput,
    outputs={"slip_n": "what friction holds along it", "stress_mpa": "in the metal beside it, bent"},
    example={"length_mm": 30, "width_mm": 12.5, "thickness_mm": 6, "beside_mm": 14, "force_n": 9000, "clamp_n": 40000},
    sources=("en-1993-1-8-slip", "roark-strip"),
)  # fmt: skip
def run_slot(data: SlotInput) -> Result:
    """A bolt in a slot: friction along it, and the strip beside it."""
    slip = slots.slip_resistance(data.clamp_n, data.plates)
    stress = slots.beside_stress(
        data.force_n, data.length_mm, data.width_mm, data.thickness_mm, data.beside_mm, data.plates
    )
    return {"slip_n": slip, "stress_mpa": stress}, [
        step("slip", "0.63 n μ F_p / 1.25", "en-1993-1-8-slip", n=data.plates, mu=slots.SLIP, clamp_n=data.clamp_n, slip_n=slip),
        step("stress", "F/n (l + w)/8 / (t h²/6)", "roark-strip", F_n=data.force_n, l_mm=data.length_mm, w_mm=data.width_mm, h_mm=data.beside_mm,
             stress_mpa=stress),
    ]  # fmt: skip


class SlottedTubeInput(Input):
    tube_od_mm: Mm
    wall_mm: Mm
    thickness_mm: Mm = Field(description="mm; of one plate")
    plates: Annotated[int, Field(ge=1, le=2)] = 1
    gap_mm: MmOrZero = Field(default=0.0, description="mm; between two")
    lap_mm: Mm = Field(description="mm; from the tube's end to the slots' inner ends")
    leg_mm: Mm
    tube_uts_mpa: Mpa
    plate_uts_mpa: Mpa
    electrode_uts_mpa: Mpa


@topic(
    "slotted-tube",
    SlottedTubeInput,
    outputs={
        "lag": "U, what of the tube is pulled along", "slots_mm": "that the slots take of the tube's middle line", "tube_rupture_n": "across the slots",
        "weld_n": "of its fillets or the metal beside them", "least_width_mm": "of a plate, for its fillets",
    },
    example={"tube_od_mm": 44.45, "wall_mm": 3.05, "thickness_mm": 8, "lap_mm": 60, "leg_mm": 4, "tube_uts_mpa": 550, "plate_uts_mpa": 470, "electrode_uts_mpa": 480},
    sources=("aisc-d2", "aisc-j2"),
)  # fmt: skip
def run_slotted_tube(data: SlottedTubeInput) -> Result:
    """Plates let into slots of a round tube's end and welded."""
    try:
        made = flat_end.LetIn(od=data.tube_od_mm, wall=data.wall_mm, thickness=data.thickness_mm, plates=data.plates, gap=data.gap_mm, lap=data.lap_mm, leg=data.leg_mm)  # fmt: skip
    except InputError as error:
        error.fields = tuple({"od": "tube_od_mm"}.get(field, field) for field in error.fields)
        raise
    lag, torn = flat_end.lag(made), flat_end.tube_rupture(made, data.tube_uts_mpa)
    weld = flat_end.weld_strength(made, data.tube_uts_mpa, data.plate_uts_mpa, data.electrode_uts_mpa)
    return {
        "lag": lag,
        "slots_mm": made.cut,
        "tube_rupture_n": torn,
        "weld_n": weld,
        "least_width_mm": made.least_width,
    }, [
        step("lag", "1 − D/(π l) below 1.3 D", "aisc-d2", U=lag),
        step("tube", "U (A − slots) Fu", "aisc-d2", slots_mm=made.cut, rupture_n=torn),
        step(
            "weld", "the least of 4 n l 0.707 leg 0.6 FEXX, 4 n l t_wall 0.6 Fu, 2 n l t 0.6 Fu", "aisc-j2", weld_n=weld
        ),
    ]


class PlugEyeInput(Input):
    bore_mm: Mm = Field(description="mm; of the tube, that the plug fills")
    hole_mm: Mm
    pin_mm: Mm
    edge_mm: Mm = Field(description="mm; from the hole's centre to the plug's outer end")
    yield_mpa: Mpa
    uts_mpa: Mpa


@topic(
    "plug-eye",
    PlugEyeInput,
    outputs={
        "net_area_mm2": "of the round across the hole", "mean_chord_mm": "of the metal beside the hole, along the pin: the thickness of the flat that stands for it",
        "bearing_n": "1.8 Fy d t", "tension_rupture_n": "Fu 2 t b_e", "shear_rupture_n": "0.6 Fu 2 t (a + d/2)", "gross_yield_n": "Fy w t",
    },
    example={"bore_mm": 38.35, "hole_mm": 12.2, "pin_mm": 12, "edge_mm": 21, "yield_mpa": 355, "uts_mpa": 470},
    sources=("aisc-d5", "aisc-j7"),
)  # fmt: skip
def run_plug_eye(data: PlugEyeInput) -> Result:
    """A solid plug in a tube, bored across for a pin, as a flat as wide as it and as thick as its chords beside the hole."""
    eye = PlugEye(bore=data.bore_mm, hole=data.hole_mm, pin=data.pin_mm, edge=data.edge_mm)
    found = lug.lug_strength(eye.lug, data.yield_mpa, data.uts_mpa)
    return {
        "net_area_mm2": eye.net_area, "mean_chord_mm": eye.mean_chord, **{f"{mode}_n": force for mode, force in found.modes().items()},
    }, [
        step("across the hole", "π r² − 2 (h √(r² − h²) + r² asin(h/r)), h half the hole", "aisc-d5", r_mm=eye.bore / 2, net_area_mm2=eye.net_area),
        step("as a flat", "A / (bore − hole)", "aisc-d5", thickness_mm=eye.mean_chord),
    ]  # fmt: skip


class PullInput(Input):
    at_mm: tuple[SignedMm, SignedMm, SignedMm] = Field(
        description="mm; along, across and up from the middle between its feet"
    )
    force_n: NewtonOrZero = Field(description="N; any way")
    foot_mm: MmOrZero = Field(default=0.0, description="mm; how long what pulls stands on the cap, along")


class SaddleBoxInput(Input):
    length_mm: Mm = Field(description="mm; along the tube")
    apart_mm: Mm = Field(description="mm; between the sides' middles")
    tall_mm: Mm = Field(description="mm; of a side, from the tube to the cap")
    plate_mm: Mm
    pulls: list[PullInput] = Field(min_length=1, max_length=60)
    throat_mm: MmOrZero = Field(default=0.0, description="mm; of the fillets along the tube; 0: not asked for")


@topic(
    "saddle-box",
    SaddleBoxInput,
    outputs={
        "line_force_n_per_mm": "largest of the two fillets, every pull its own worst way", "throat_stress_mpa": "with a throat", "spread_mm": "of a side's length that takes the first pull",
        "side_mpa": "of a side between foot and cap",
    },
    example={"length_mm": 300, "apart_mm": 40, "tall_mm": 50, "plate_mm": 6, "throat_mm": 3.2, "pulls": [{"at_mm": [80, 0, 110], "force_n": 9000}, {"at_mm": [-80, 0, 110], "force_n": 9000}]},
    sources=("blodgett", "geometry"),
)  # fmt: skip
def run_saddle_box(data: SaddleBoxInput) -> Result:
    """Two plates along a tube with a cap over them, pulled at anywhere: fillets and sides."""
    box = SaddleBox(length=data.length_mm, apart=data.apart_mm, tall=data.tall_mm, plate=data.plate_mm)
    pulls = [Pull(at=one.at_mm, force=one.force_n, foot=one.foot_mm) for one in data.pulls]
    line, side = saddle_box.line_force(box, pulls), saddle_box.side_stress(box, pulls)
    out = {"line_force_n_per_mm": line, "spread_mm": saddle_box.spread_over(box, pulls[0].foot), "side_mpa": side}
    if data.throat_mm > 0:
        out["throat_stress_mpa"] = line / data.throat_mm
    return out, [
        step("fillets", "Σ σ₁(T) R", "blodgett", q_n_per_mm=line), step("sides", "Σ 6 R h/4 /(b t²) + (R/2 + R z/a)/(b t)", "geometry", b_mm=out["spread_mm"], stress_mpa=side),
    ]  # fmt: skip


class StrapWeldInput(Input):
    tube_od_mm: Mm
    width_mm: Mm = Field(description="mm; of the strap, along the tube")
    leg_mm: Mm
    force_n: tuple[Newton, Newton, Newton] = Field(
        description="N; along the tube, along the bolt, away from the tube toward the joint"
    )
    at_mm: Mm = Field(description="mm; from the tube's middle to the joint, where it acts")
    electrode_uts_mpa: Mpa


@topic(
    "strap-weld",
    StrapWeldInput,
    outputs={
        "length_mm": "of both fillets", "middle_mm": "of them, from the tube's middle, away from the joint", "line_force_n_per_mm": "at the worst place",
        "throat_stress_mpa": "on 0.707 leg", "at_mm": "the worst place: along the tube, along the bolt, toward the joint", "nominal_mpa": "0.6 electrode",
        "utilisation": "stress over nominal, factor 1",
    },
    example={"tube_od_mm": 60.3, "width_mm": 60, "leg_mm": 5, "force_n": [3000, 500, 12000], "at_mm": 62, "electrode_uts_mpa": 483},
    sources=("blodgett", "aisc-j2"),
)  # fmt: skip
def run_strap_weld(data: StrapWeldInput) -> Result:
    """The two fillets along the edges of a strap that is bent half round a tube, under a force at its ears."""
    welds = StrapWelds(tube_od=data.tube_od_mm, width=data.width_mm)
    forces = np.linalg.norm(line_forces(welds, np.array(data.force_n), data.at_mm), axis=1)
    worst = int(forces.argmax())
    line, nominal = float(forces[worst]), SHEAR_OF_ELECTRODE * data.electrode_uts_mpa
    stress = line / (THROAT_OF_LEG * data.leg_mm)
    return {
        "length_mm": welds.length, "middle_mm": welds.middle, "line_force_n_per_mm": line, "throat_stress_mpa": stress,
        "at_mm": [float(v) for v in welds.places[worst]], "nominal_mpa": nominal, "utilisation": stress / nominal,
    }, [
        step("group", "L = π D; middle D/π off the axis; Σx² = L b²/4, Σy² = π r³, Σz² = π r³ − L (D/π)²", "blodgett", length_mm=welds.length, middle_mm=welds.middle),
        step("line force", "F/L + turn about the middle × distance, worst place", "blodgett", q_n_per_mm=line),
        step("throat stress", "q / (0.707 leg)", "aisc-j2", leg_mm=data.leg_mm, stress_mpa=stress),
        step("nominal", "0.6 FEXX", "aisc-j2", FEXX_mpa=data.electrode_uts_mpa, nominal_mpa=nominal),
    ]  # fmt: skip
