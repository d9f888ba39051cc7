"""What a person may set of a job beside its parts: the car, its ends, its load cases, settings; and what each begins with.

Limits are the saved models' own. What something begins with is common practice, no source: a place to start from, shown and to be
changed, never a figure that anything is judged by before it has been seen.
"""

from __future__ import annotations

from typing import Any

from tirante.core.document.car import Car, CornerMasses
from tirante.core.document.design import TravelBox
from tirante.core.document.end import (
    AdditionIn,
    BallEnd,
    BumpStop,
    Bushing,
    Damper,
    DamperEye,
    End,
    EndLink,
    JointEnd,
    Obstacle,
    Pair,
    Rim,
    Round,
    Shaft,
    SliderEnds,
    Strap,
    Wheel,
)
from tirante.core.document.forms.kind import JOINTS_BEGUN, OWN_KIND
from tirante.core.document.forms.table import Field, choice, direction, number, of_end, place, switch, text
from tirante.core.document.joints import HeldJoint
from tirante.core.document.load_cases import PRACTICE, CarCase
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.bracket import ExtraHole
from tirante.core.document.parts.common import LoadCase, RodEndEnd
from tirante.core.document.parts.link import FlatEnd, Machined, Plug, Reducer, Sleeve
from tirante.core.document.parts.pad import PadHole
from tirante.core.document.rack import RackRow
from tirante.core.document.settings import DesignFactors, SearchLimits, Settings

REACTED = [("outboard", "outboard, on the upright"), ("inboard", "inboard, on the chassis")]
DRIVEN = [("upright", "by the upright or axle"), ("inboard", "by the chassis")]
_EYE = "{unit}/{eye}/"
_SHAFT, _STOP, _RIM, _JOINT = "shafts/{name}/", "bump_stop/", "wheel/rim/", "links/{name}/{side}/"

CAR: dict[str, tuple[Field, ...]] = {
    "car": (
        choice("use", "It is for", ("road", "circuit", "off-road")),
        number(Car, "wheelbase_mm", "Wheelbase", "mm", usual=(900, 5000)),
        number(Car, "mass_kg", "Mass of the whole car", "kg", optional=True, usual=(80, 4000)),
        number(Car, "cg_behind_front_mm", "It stands behind the front axle", "mm", optional=True, usual=(300, 3500)),
        number(Car, "cg_height_mm", "Height of the mass", "mm", usual=(150, 1300)),
        switch("cg_is_a_guess", "that height is a guess"),
        number(Car, "brake_front_share", "Braking at the front", usual=(0.3, 0.9)),
        number(Car, "drive_front_share", "Drive at the front"),
        number(Car, "final_drive_ratio", "Final drive ratio", optional=True),
    ),
    "ride": (
        number(Car, "front_rise_mm", "Front, higher by", "mm"),
        number(Car, "rear_rise_mm", "Rear, higher by", "mm"),
    ),
    "torque": (
        choice("brakes_{end}", "Brake torque taken", REACTED),
        choice("drive_{end}", "Drive torque taken", DRIVEN, optional=True),
    ),
    "corners": tuple(
        number(CornerMasses, f"{at}_kg", at.replace("_", " ").capitalize(), "kg", at="corners/", usual=(20, 1500))
        for at in ("front_left", "front_right", "rear_left", "rear_right")
    ),
    "lean": (
        *(
            field
            for at in ("front", "rear")
            for field in (
                number(
                    Car,
                    f"roll_stiffness_{at}_nm_per_deg",
                    f"Roll stiffness, {at}",
                    "N·m/°",
                    optional=True,
                    empty="worked out",
                ),
                number(Car, f"roll_centre_{at}_mm", f"Roll centre, {at}", "mm", optional=True, empty="worked out"),
                number(Car, f"track_{at}_mm", f"Track, {at}", "mm", optional=True, empty="of its end"),
            )
        ),
        number(Car, "wheel_height_mm", "Wheel centres, of an end not here", "mm", optional=True, empty="of its end"),
    ),
    "tyres": tuple(
        field
        for at in ("front", "rear")
        for field in (
            number(
                Car,
                f"tyre_rate_{at}_n_per_mm",
                f"Tyre’s own rate, {at}",
                "N/mm",
                optional=True,
                empty="stiff",
                usual=(60, 800),
            ),
            number(
                Car,
                f"tyre_pressure_{at}_kpa",
                f"Tyre pressure, {at}",
                "kPa",
                optional=True,
                empty="200 taken",
                usual=(40, 600),
            ),
        )
    ),
    "unsprung": (
        number(Car, "unsprung_front_kg", "Unsprung, front", "kg", optional=True, usual=(5, 500)),
        number(Car, "unsprung_rear_kg", "Unsprung, rear", "kg", optional=True, usual=(5, 500)),
    ),
}

END: dict[str, tuple[Field, ...]] = {
    "wheel": (
        number(Wheel, "loaded_radius_mm", "Loaded radius", "mm", at="wheel/", usual=(150, 600)),
        number(Wheel, "width_mm", "Tyre width", "mm", at="wheel/", usual=(80, 450)),
        number(Wheel, "spacer_mm", "Hub spacer put on since", "mm", at="wheel/"),
        number(Wheel, "camber_deg", "Camber, top out +", "°", at="wheel/", usual=(-6, 4)),
        number(Wheel, "toe_deg", "Toe-in, a wheel", "°", at="wheel/", usual=(-2, 2)),
    ),
    "rim": (
        number(Rim, "barrel_radius_mm", "Barrel, inside radius", "mm", at=_RIM),
        number(Rim, "spokes_mm", "Offset when the points were taken", "mm", at=_RIM),
        number(Rim, "offset_mm", "Offset of the wheel on it now", "mm", at=_RIM, optional=True),
        number(Rim, "inboard_edge_mm", "Inboard edge", "mm", at=_RIM),
        number(Rim, "joint_radius_mm", "Joints inside, radius", "mm", at=_RIM),
        number(Rim, "wanted_mm", "Clearance wanted", "mm", at=_RIM),
    ),
    "damper": (
        number(Damper, "closed_mm", "Length closed", "mm", at="{unit}/", optional=True, usual=(100, 800)),
        number(Damper, "open_mm", "Length open", "mm", at="{unit}/", optional=True, usual=(130, 1200)),
        number(Damper, "rate_n_per_mm", "Rate of the spring", "N/mm", at="{unit}/", optional=True, usual=(3, 400)),
        number(Damper, "od_mm", "Spring, outside", "mm", at="{unit}/", optional=True, usual=(35, 220)),
        choice(
            "{unit}/stands",
            "Its ends",
            [("eyes", "eyes, on bolts"), ("seats", "flat, on seats")],
            optional=True,
            empty="not said",
        ),
    ),
    "damper eye": (
        number(DamperEye, "bore_mm", "Bore, for the bolt", "mm", at=_EYE),
        number(DamperEye, "ball_width_mm", "Width over ball or sleeve", "mm", at=_EYE),
        number(DamperEye, "housing_width_mm", "Width of the eye itself", "mm", at=_EYE),
        number(DamperEye, "head_diameter_mm", "Eye, outside", "mm", at=_EYE),
        number(DamperEye, "tilt_limit_deg", "It may tilt", "°", at=_EYE, optional=True),
    ),
    "stop": (
        Field(
            path=f"{_STOP}pad_link",
            label="Pad on a link instead",
            control="choice",
            table="links",
            optional=True,
            empty="no, on the body above",
        ),
        direction(f"{_STOP}axis", "It points along"),
        direction(f"{_STOP}face", "The pad faces along"),
        number(BumpStop, "pad_radius_mm", "Pad, radius", "mm", at=_STOP),
        number(BumpStop, "crush_mm", "Crush to solid", "mm", at=_STOP),
        number(BumpStop, "rate_n_per_mm", "Rate, k of F = k x + k₃ x³", "N/mm", at=_STOP, optional=True),
        number(BumpStop, "rate3_n_per_mm3", "k₃", "N/mm³", at=_STOP),
    ),
    "strap": (number(Strap, "length_mm", "Length taut", "mm", at="strap/"),),
    "place": (of_end("bodies", "{place}/body", "{label}, on"),),
    "joint": (
        direction(f"{_JOINT}bolt_axis", "Bolt along"),
        number(JointEnd, "limit_deg", "It allows", "°", at=_JOINT, optional=True),
        number(JointEnd, "limit_with_spacers_deg", "With misalignment spacers", "°", at=_JOINT, optional=True),
        choice(
            f"{_JOINT}kind",
            "It is",
            [("spherical", "spherical: rod end or bearing"), ("hinged", "hinged: clevis or bush, one way only")],
        ),
    ),
    "link": (
        number(EndLink, "od_mm", "Tube, outside", "mm", at="links/{name}/", optional=True),
        number(EndLink, "clocking_deg", "Ends clocked", "°", at="links/{name}/"),
    ),
    "bush": (
        number(Bushing, "radial_n_per_mm", "Radial", "N/mm", at="bushes/{name}/", optional=True),
        number(Bushing, "axial_n_per_mm", "Axial", "N/mm", at="bushes/{name}/", optional=True),
        number(Bushing, "conical_nmm_per_deg", "Leaning", "N·mm/°", at="bushes/{name}/", optional=True),
    ),
    "ball": (
        direction("balls/{name}/stud_axis", "Stud or pin along"),
        number(BallEnd, "limit_deg", "It allows", "°", at="balls/{name}/", optional=True),
    ),
    "slider": (
        number(SliderEnds, "along_mm", "Room along its line", "mm", at="sliders/{name}/"),
        number(SliderEnds, "back_mm", "Room back", "mm", at="sliders/{name}/"),
    ),
    "shaft": (
        direction(f"{_SHAFT}inner_axis", "Inner flange along"),
        number(Shaft, "od_mm", "Outside", "mm", at=_SHAFT, optional=True),
        number(Shaft, "plunge_in_mm", "Plunge inward", "mm", at=_SHAFT, optional=True),
        number(Shaft, "plunge_out_mm", "Plunge outward", "mm", at=_SHAFT, optional=True),
        number(Shaft, "angle_limit_deg", "Joints allow", "°", at=_SHAFT, optional=True),
    ),
    "pinion": (number(End, "pinion_deg", "Pinion above level, at ride height", "°", optional=True, empty="not known"),),
    "addition": (
        number(AdditionIn, "rate_nm_per_deg", "Rate, of its twist", "N·m/°", at="additions/{name}/", optional=True),
    ),
    "miss": (
        Field(path="misses/{i}/a", label="This part", control="choice", table="parts"),
        Field(path="misses/{i}/b", label="must miss", control="choice", table="parts"),
        number(Pair, "wanted_mm", "by", "mm", at="misses/{i}/"),
    ),
    "obstacle": (
        text("obstacles/{i}/name", "Name"),
        of_end("bodies", "obstacles/{i}/body", "It is on"),
        number(Obstacle, "wanted_mm", "Clearance wanted", "mm", at="obstacles/{i}/"),
        switch("obstacles/{i}/both_sides", "the same on the right side"),
    ),
    "round": (
        place("obstacles/{i}/shape/a", "From"),
        place("obstacles/{i}/shape/b", "To"),
        number(Round, "radius_mm", "Radius", "mm", at="obstacles/{i}/shape/"),
    ),
    "block": (
        place("obstacles/{i}/shape/low", "Lowest corner"),
        place("obstacles/{i}/shape/high", "Highest corner"),
    ),
    "wall": (
        place("obstacles/{i}/shape/through", "Through"),
        direction("obstacles/{i}/shape/normal", "It faces along"),
    ),
    "travel": (number(TravelBox, "bump_mm", "Bump", "mm"), number(TravelBox, "droop_mm", "Droop", "mm")),
    "roll": (number(TravelBox, "roll_deg", "Roll, each way", "°"),),
    "steering arm": (number(TravelBox, "steer_deg", "Steering arm, each way", "°"),),
    "rack": (number(TravelBox, "steer_mm", "Rack, each way", "mm"),),
}

MOUNT: dict[str, tuple[Field, ...]] = {
    "mount": (
        text("name", "Name"),
        choice("shape/kind", "It is", [("round", "a round tube or bar"), ("box", "a square or rectangular tube"), ("flat", "a plate or a flat")]),
        switch("both_sides", "the same on the right side"),
    ),
    "mount round": (
        place("shape/a", "Its middle line, from"),
        place("shape/b", "to"),
        number(RoundMember, "od_mm", "Outside", "mm", at="shape/", usual=(12, 250)),
        number(RoundMember, "wall_mm", "Wall", "mm", at="shape/", optional=True, empty="not known", usual=(0.8, 20)),
    ),
    "mount box": (
        place("shape/a", "Its middle line, from"),
        place("shape/b", "to"),
        number(BoxMember, "width_mm", "Width", "mm", at="shape/", usual=(12, 250)),
        number(BoxMember, "height_mm", "Height", "mm", at="shape/", usual=(12, 250)),
        number(BoxMember, "wall_mm", "Wall", "mm", at="shape/", optional=True, empty="not known", usual=(0.8, 20)),
        direction("shape/up", "Its height stands along"),
    ),
    "mount flat": (
        place("shape/through", "Its face goes through"),
        direction("shape/normal", "It faces along"),
        number(FlatMember, "wall_mm", "Thick", "mm", at="shape/", optional=True, empty="not known", usual=(0.8, 40)),
    ),
    "mount metal": (
        Field(path="material", label="Metal", control="text", optional=True),
        number(Mount, "yield_mpa", "Its yield", "MPa", optional=True, empty="not known"),
        number(Mount, "uts_mpa", "Its ultimate", "MPa", optional=True, empty="not known"),
    ),
}  # fmt: skip

_KINDS = [
    ("wheel", "a wheel is hit"), ("car", "the whole car, in g"), ("landing", "landing on the bump stop"), ("strike", "down on a link’s middle"),
    ("jack", "jacked at a point"), ("snatch", "snatch at full droop"), ("park", "steered at a standstill"),
    ("jam", "a kerb met at full lock"),
]  # fmt: skip
_PLACES = [("ride", "ride height"), ("stop", "bump stop contact"), ("droop", "full droop")]
_TORQUES = [
    ("rolling", "none, the wheel rolls"),
    ("brake", "the brakes hold it"),
    ("drive", "the engine drives it"),
]


def _case(*own: Field) -> tuple[Field, ...]:
    return (
        text("name", "Name"),
        choice("kind", "What happens", _KINDS),
        choice("end", "At", [("both", "both ends"), "front", "rear"]),
        choice("at", "Travel position", _PLACES),
        number(CarCase, "travel_mm", "Another travel position", "mm", optional=True),
        *own,
        text("source", "Source"),
        text("reason", "Why it is there"),
    )


def _factor(path: str, label: str, unit: str = "×") -> Field:
    return number(CarCase, path, label, unit)


_WHEELS = choice("wheels", "Wheels", [("each", "one at a time"), ("both", "both at once")])
_ROLL = number(CarCase, "roll_deg", "Body leans, turning left", "°", optional=True, empty="worked out")

CASES: dict[str, tuple[Field, ...]] = {
    "wheel": _case(
        _WHEELS,
        _factor("vertical", "Up, × standing load"),
        _factor("longitudinal", "Ahead +, × standing load"),
        _factor("lateral", "To the middle, × standing"),
        choice("torque", "Torque on the wheel", _TORQUES),
    ),
    "car": _case(
        _factor("longitudinal", "Ahead +", "g"),
        _factor("lateral", "Sideways, each way", "g"),
        _ROLL,
        number(CarCase, "steer", "Steered, turning left", "mm or °"),
        _factor("vertical", "Up, × standing load"),
        choice("torque", "Torque on the wheels", _TORQUES),
    ),
    "landing": _case(
        _WHEELS,
        number(CarCase, "drop_mm", "Drop height", "mm", optional=True),
        number(CarCase, "speed_m_s", "or speed down", "m/s", optional=True),
    ),
    "strike": _case(_factor("vertical", "Force, × what stands on both"), text("link", "Link, as Layout names it")),
    "jack": _case(
        _factor("vertical", "Of what stands there"),
        text("point", "Point, or the lowest joint"),
        text("body", "Part it lifts"),
    ),
    "snatch": _case(
        _WHEELS,
        number(CarCase, "speed_m_s", "Wheel falls at", "m/s"),
        number(CarCase, "stiffness_n_per_mm", "Stopped by, at the wheel", "N/mm"),
    ),
    "park": _case(
        _factor("vertical", "On the wheels, × standing load"), number(CarCase, "friction", "Friction of the floor")
    ),
    "jam": _case(
        _factor("lateral", "At the rim, × standing load"),
        number(CarCase, "steer", "Steered by; 0: both full locks", "mm or °"),
    ),
}

SETTINGS: dict[str, tuple[Field, ...]] = {
    "factors": (
        number(DesignFactors, "yielding", "Yield of tube and shank", "×", at="factors/"),
        number(DesignFactors, "column", "Column", "×", at="factors/"),
        number(DesignFactors, "strip", "Thread strip", "×", at="factors/"),
        number(DesignFactors, "joint", "Joint and shank in tension", "×", at="factors/"),
        number(DesignFactors, "rupture", "Net section, rupture", "×", at="factors/"),
        number(DesignFactors, "tab_yield", "Tab yield", "×", at="factors/"),
        number(DesignFactors, "tab_rupture", "Tab rupture and bearing", "×", at="factors/"),
        number(DesignFactors, "bolt", "Clevis bolt", "×", at="factors/"),
        number(DesignFactors, "weld", "Welds", "×", at="factors/"),
    ),
    "welding": (
        number(Settings, "electrode_uts_mpa", "Electrode, ultimate", "MPa"),
        number(
            Settings,
            "bender_straight_mm",
            "Straight that the bender holds (usual: 2 × the tube)",
            "mm",
            optional=True,
            empty="usual",
        ),
        number(Settings, "inside_fillet_gap_mm", "Least gap to weld inside a pair of plates", "mm"),
        choice("aluminium_filler", "Filler for aluminium", ("4043", "5356")),
        choice(
            "thread_fit", "Threads, for strip", [("class", "at the limits of their class"), ("basic", "basic sizes")]
        ),
        switch("rod_end_seals", "seals on rod ends, on the lists (what they take of tilt and stack is not checked)"),
        switch("two_thirds_rule", "two thirds of a rod end’s thread must be engaged"),
        number(
            Settings, "life_cycles", "Everyday cycles wanted (usual: 1e5, on roads 1e6)", optional=True, empty="usual"
        ),
        number(Settings, "full_one_in", "Of them full: one in (usual: 1, on roads 1000)", optional=True, empty="usual"),
        number(Settings, "joint_friction", "Friction of a ball in its race"),
        number(Settings, "weld_shrink_mm", "Shrink, each welded end", "mm"),
        number(Settings, "check_tolerance_mm", "Check length, within ±", "mm"),
        number(Settings, "wrap_paper_mm", "Paper of wraps, thick", "mm"),
    ),
}

SETTINGS["search"] = (
    number(SearchLimits, "slenderness", "Slenderness, at most", at="search/"),
    number(SearchLimits, "locating_thread_mm", "Thread of what steers or locates", "mm", at="search/"),
    number(
        SearchLimits,
        "wall_mm",
        "Wall, at least (usual: 2, on a circuit 1.2)",
        "mm",
        at="search/",
        optional=True,
        empty="usual",
    ),
    number(SearchLimits, "struck_wall_mm", "Wall of what is struck", "mm", at="search/"),
)

# of parts: what the page draws with controls of its own
PARTS: dict[str, tuple[Field, ...]] = {
    "eye": (
        number(Machined, "thickness_mm", "Eye, or one ear, thick", "mm"),
        number(Machined, "width_mm", "Width across the hole", "mm"),
        number(Machined, "hole_mm", "Hole", "mm"),
        number(Machined, "pin_mm", "Pin", "mm"),
        number(Machined, "edge_mm", "Hole’s centre to the free end", "mm"),
        number(Machined, "spigot_mm", "Spigot in the tube, long", "mm", optional=True, empty="by rule"),
    ),
    "clevis": (
        number(Machined, "gap_mm", "Between the ears", "mm"),
        number(
            Machined,
            "fork_mm",
            "Hole’s centre to the bottom of the fork",
            "mm",
            optional=True,
            empty="as its width asks",
        ),
        number(Machined, "pin_yield_mpa", "Pin’s yield", "MPa"),
    ),
    "its metal": (
        number(Machined, "yield_mpa", "Its yield", "MPa"),
        number(Machined, "uts_mpa", "Its ultimate", "MPa"),
    ),
    "flat end": (
        choice("form", "Made as", ["eye let in", "clevis let in", "squashed"]),
        number(FlatEnd, "hole_mm", "Hole", "mm"),
        number(FlatEnd, "pin_mm", "Pin", "mm"),
        number(FlatEnd, "pin_yield_mpa", "Pin’s yield", "MPa"),
        number(FlatEnd, "edge_mm", "Hole’s centre to the free end", "mm"),
    ),
    "let in": (
        number(FlatEnd, "lap_mm", "Into the tube, from its end", "mm"),
        number(FlatEnd, "thickness_mm", "One plate, thick", "mm"),
        number(FlatEnd, "width_mm", "One plate, wide", "mm"),
        number(FlatEnd, "leg_mm", "Fillet leg", "mm"),
        Field(path="plate_name", label="Steel", control="text"),
        number(FlatEnd, "yield_mpa", "Its yield", "MPa"),
        number(FlatEnd, "uts_mpa", "Its ultimate", "MPa"),
    ),
    "plug": (
        number(Plug, "hole_mm", "Hole, across tube and plug", "mm"),
        number(Plug, "pin_mm", "Pin", "mm"),
        number(Plug, "pin_yield_mpa", "Pin’s yield", "MPa"),
        number(Plug, "edge_mm", "Hole’s centre to the tube’s end", "mm"),
        number(Plug, "long_mm", "Plug’s inner end, from the tube’s end", "mm"),
        number(Plug, "leg_mm", "Fillet round inside the tube’s end, leg", "mm"),
        number(Plug, "plugs", "Welds through the wall"),
        number(Plug, "plug_mm", "Their diameter", "mm"),
        Field(path="metal_name", label="Its metal", control="text"),
        number(Plug, "yield_mpa", "Its yield", "MPa"),
        number(Plug, "uts_mpa", "Its ultimate", "MPa"),
    ),
    "sleeve": (
        number(Sleeve, "outside_mm", "Outside", "mm"),
        number(Sleeve, "wall_mm", "Its wall", "mm"),
        number(Sleeve, "long_mm", "Long", "mm"),
        switch("rings", "rings at both ends, out to a wider tube"),
    ),
    "reducer": (
        number(Reducer, "neck_mm", "Neck, diameter", "mm"),
        number(Reducer, "neck_long_mm", "Neck, its collar to its longest point", "mm"),
        number(Reducer, "collar_mm", "Collar, thick", "mm"),
        number(Reducer, "spigot_mm", "Spigot in the tube, long", "mm"),
    ),
    "goes in": (
        number(DamperEye, "bore_mm", "Bore, for the bolt", "mm"),
        number(DamperEye, "ball_width_mm", "Width over ball or inner sleeve", "mm"),
        number(DamperEye, "head_diameter_mm", "Housing, outside", "mm"),
        number(DamperEye, "housing_width_mm", "Width of its housing", "mm"),
        number(DamperEye, "tilt_limit_deg", "It may tilt", "°", optional=True, empty="not known"),
    ),
    "extra hole": (
        Field(path="what", label="For", control="text", optional=True),
        number(ExtraHole, "diameter_mm", "Diameter", "mm"),
        number(ExtraHole, "below_mm", "Below the joint’s hole", "mm"),
        number(ExtraHole, "beside_mm", "Beside the axis, along the foot", "mm"),
    ),
    "pad hole": (
        Field(path="what", label="For", control="text", optional=True),
        number(PadHole, "diameter_mm", "Diameter", "mm"),
        number(PadHole, "along_mm", "From its middle, along the webs", "mm"),
        number(PadHole, "across_mm", "Across them", "mm"),
    ),
    "clevis let in": (number(FlatEnd, "gap_mm", "Between the plates", "mm"),),
    "squashed": (number(FlatEnd, "lap_mm", "Flat, from the hole’s centre", "mm"),),
    "tapped": (number(RodEndEnd, "tapped_mm", "Full thread, deep", "mm"),),
    "seen": (
        number(LoadCase, "axial_n", "Pull or push", "N"),
        number(LoadCase, "strike_n", "Strike at mid-span", "N"),
        number(LoadCase, "side_n", "Side force at an eye", "N"),
    ),
    "shim": (number(HeldJoint, "shim_mm", "Shim, either side", "mm"),),
}

_ROW = (
    choice("sort", "What it is", ("tube", "bar", "sheet")),
    text("stock", "Size"),
    text("material", "Material"),
    number(RackRow, "length_mm", "Long", "mm"),
)
_OF_ROW = (
    number(RackRow, "count", "How many"),
    switch("offcut", "an offcut"),
    Field(path="place", label="Where", control="note"),
    Field(path="heat", label="Heat number", control="note"),
    Field(path="note", label="Note", control="note"),
)
RACK: dict[str, tuple[Field, ...]] = {
    "row": (*_ROW, *_OF_ROW),
    "row of sheet": (
        *_ROW[:-1],
        number(RackRow, "length_mm", "Long, along its grain", "mm"),
        number(RackRow, "width_mm", "Wide", "mm"),
        number(RackRow, "thick_mm", "Thick", "mm", optional=True, empty="as its size says"),
        *_OF_ROW,
    ),
}

FORMS: dict[str, tuple[Field, ...]] = {
    **CAR, **END, **MOUNT, **OWN_KIND, **SETTINGS, **PARTS, **RACK, **{f"case: {kind}": fields for kind, fields in CASES.items()},
}  # fmt: skip

# what something begins with when it is put in
BEGINS: dict[str, Any] = {
    "rim": {"barrel_radius_mm": 165.0, "spokes_mm": 25.0, "inboard_edge_mm": -90.0, "joint_radius_mm": 22.0, "wanted_mm": 5.0},
    "corners": {"front_left_kg": 250.0, "front_right_kg": 250.0, "rear_left_kg": 250.0, "rear_right_kg": 250.0},
    "damper eye": {"bore_mm": 12.0, "ball_width_mm": 20.0, "housing_width_mm": 16.0, "head_diameter_mm": 32.0, "tilt_limit_deg": None},
    "damper": {"closed_mm": None, "open_mm": None, "od_mm": None},
    "spring": {"closed_mm": None, "open_mm": None, "od_mm": None, "rate_n_per_mm": 40.0},
    "stop": {"axis": [0.0, 0.0, -1.0], "face": [0.0, 0.0, 1.0], "pad_radius_mm": 25.0, "crush_mm": 20.0},
    "strap": {"length_mm": 300.0},
    "joint": {"bolt_axis": [1.0, 0.0, 0.0], "limit_deg": 20.0, "limit_with_spacers_deg": None, "kind": "spherical"},
    "link": EndLink().model_dump(),
    "extra hole": ExtraHole().model_dump(),
    "pad hole": PadHole().model_dump(),
    "bush": {"radial_n_per_mm": 8000.0, "axial_n_per_mm": 1500.0, "conical_nmm_per_deg": 30000.0},
    "ball": {"stud_axis": [0.0, 0.0, 1.0], "housing_axis": None, "limit_deg": 25.0},
    "slider": {"along_mm": 80.0, "back_mm": 80.0},
    "shaft": {
        "inner_axis": [0.0, 1.0, 0.0], "outer_axis": None, "od_mm": None, "plunge_in_mm": None, "plunge_out_mm": None, "angle_limit_deg": None,
        "pair": True,
    },
    "obstacle": {"body": "ground", "both_sides": True, "wanted_mm": 10.0},
    "miss": {"wanted_mm": 10.0},
    # places from the middle of the wheel's axle on the ground
    "round": {"kind": "round", "a": [-200.0, 200.0, 250.0], "b": [200.0, 200.0, 250.0], "radius_mm": 20.0},
    "block": {"kind": "block", "low": [-100.0, 100.0, 200.0], "high": [100.0, 200.0, 300.0]},
    "mount": {"name": "mount", "both_sides": True, "end_id": None, "body": "ground", "material": "", "yield_mpa": None, "uts_mpa": None},
    "mount round": {"kind": "round", "a": [200.0, 300.0, 300.0], "b": [-200.0, 300.0, 300.0], "od_mm": 44.5, "wall_mm": None},
    "mount box": {"kind": "box", "a": [200.0, 300.0, 300.0], "b": [-200.0, 300.0, 300.0], "up": [0.0, 0.0, 1.0], "width_mm": 40.0, "height_mm": 60.0, "wall_mm": None},
    "mount flat": {"kind": "flat", "through": [0.0, 300.0, 300.0], "normal": [0.0, 1.0, 0.0], "wall_mm": None},
    "wall": {"kind": "wall", "through": [0.0, 0.0, 700.0], "normal": [0.0, 0.0, -1.0]},
    "showing": {"mm": 5.0, "typed": None},
    "row": {"sort": "tube", "stock": "", "material": "", "length_mm": 6000.0, "width_mm": None, "thick_mm": None, "count": 1, "offcut": False, "place": "", "note": ""},
    "row of sheet": {"width_mm": 1000.0},
    "case": CarCase(name="case", vertical=2.0, source=PRACTICE).model_dump(),
    "case: landing": {"drop_mm": 300.0, "at": "stop"},
    "case: snatch": {"speed_m_s": 1.0, "stiffness_n_per_mm": 1000.0, "at": "droop"},
    "case: jam": {"lateral": 1.5},
    "case: park": {"vertical": 1.0},
}  # fmt: skip
CLEARED = {"drop_mm": None, "speed_m_s": None, "stiffness_n_per_mm": None}  # of a case that becomes one of another kind
BEGINS |= JOINTS_BEGUN
BEGINS |= {f"case: {kind}": CLEARED | BEGINS.get(f"case: {kind}", {}) for kind in CASES}
