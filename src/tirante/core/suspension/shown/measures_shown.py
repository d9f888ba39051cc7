"""The measures that a page shows of an end: by which name and unit, beside which usual range, which as plots.

Usual ranges are for a light car used on the road, on a circuit or off the road: common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import isfinite
from typing import Literal

from tirante.core.suspension.study import Study

Range = tuple[float, float]


Use = Literal["road", "circuit", "off-road"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """A measure as it is shown; `key` is its name in every file."""

    key: str
    name: str
    short: str = ""  # over its plot
    road: Range | None = None  # usual, in the measure's unit
    circuit: Range | None = None
    off_road: Range | None = None
    why: str = ""  # why one would leave that range

    def usual(self, use: Use) -> Range | None:
        """The usual range for a use."""
        return {"road": self.road, "circuit": self.circuit, "off-road": self.off_road}[use]

    @property
    def unit(self) -> Literal["°", "mm", "%", ""]:
        """As the key ends."""
        for end, unit in (("_deg", "°"), ("_mm", "mm"), ("_percent", "%")):
            if self.key.endswith(end):
                return unit  # type: ignore[return-value]
        return ""


MEASURES = (
    Measure(
        key="camber_deg", name="Camber", short="camber", road=(-1.5, 0.0), circuit=(-3.5, -1.0), off_road=(-1.0, 0.5),
        why="more negative loads the outer edge in a corner and wears the inner on the straight",
    ),
    Measure(
        key="toe_deg", name="Toe", short="toe", road=(-0.1, 0.25), circuit=(-0.25, 0.15), off_road=(-0.1, 0.3),
        why="toe-in steadies, toe-out turns in sooner; both wear the tyre",
    ),
    Measure(
        key="caster_deg", name="Caster", short="caster", road=(3.0, 8.0), circuit=(5.0, 10.0), off_road=(3.0, 8.0),
        why="more returns the wheel harder and gains camber in steer, and is heavier to turn",
    ),
    Measure(
        key="kingpin_inclination_deg", name="Kingpin inclination", short="kingpin", road=(5.0, 14.0), circuit=(4.0, 12.0), off_road=(5.0, 15.0),
        why="more lifts the car as it steers and takes camber off the outer wheel",
    ),
    Measure(
        key="scrub_radius_mm", name="Scrub radius", short="scrub", road=(-10.0, 40.0), circuit=(0.0, 40.0), off_road=(0.0, 80.0),
        why="more pulls at the wheel under braking; a wide tyre or spacer makes it so",
    ),
    Measure(
        key="mechanical_trail_mm", name="Mechanical trail", short="trail", road=(5.0, 30.0), circuit=(5.0, 35.0), off_road=(5.0, 40.0),
        why="more gives weight and return, less gives a light wheel",
    ),
    Measure(
        key="roll_centre_path_mm", name="Roll centre, by path", short="roll centre", road=(0.0, 150.0), circuit=(-20.0, 80.0), off_road=(0.0, 250.0),
        why="higher rolls less and jacks more",
    ),
    Measure(key="roll_centre_drawn_mm", name="Roll centre, drawn", short="RC drawn"),
    Measure(
        key="roll_centre_mm", name="Roll centre", short="roll centre", road=(150.0, 450.0), circuit=(80.0, 300.0), off_road=(250.0, 650.0),
        why="a beam axle's stands high by its lateral location",
    ),
    Measure(key="roll_axis_deg", name="Roll axis", short="roll axis"),
    Measure(
        key="anti_dive_percent", name="Anti-dive", short="anti-dive", road=(0.0, 40.0), circuit=(0.0, 25.0), off_road=(0.0, 30.0),
        why="more holds the nose up and harshens braking on bumps",
    ),
    Measure(
        key="anti_lift_percent", name="Anti-lift", short="anti-lift", road=(0.0, 80.0), circuit=(0.0, 60.0), off_road=(0.0, 80.0),
        why="more holds the tail down under braking, and may hop",
    ),
    Measure(
        key="anti_squat_percent", name="Anti-squat", short="anti-squat", road=(20.0, 120.0), circuit=(0.0, 70.0), off_road=(40.0, 150.0),
        why="more holds the tail up as it drives off, and may hop",
    ),
    Measure(key="motion_ratio", name="Motion ratio", short="ratio"),
    Measure(key="damper_ratio", name="Damper’s motion ratio", short="damper ratio"),
    Measure(key="lateral_shift_mm", name="Side shift", short="shift"),
    Measure(key="axle_steer_deg", name="Axle steer", short="steer"),
    Measure(key="pinion_change_deg", name="Pinion change", short="pinion"),
    Measure(key="pinion_deg", name="Pinion above level", short="pinion angle"),
    Measure(key="damper_length_mm", name="Damper length", short="damper"),
    Measure(key="anti_dive_drawn_percent", name="Anti-dive, drawn", short="dive drawn"),
    Measure(key="anti_lift_drawn_percent", name="Anti-lift, drawn", short="lift drawn"),
    Measure(key="anti_squat_drawn_percent", name="Anti-squat, drawn", short="squat drawn"),
    Measure(key="half_track_change_mm", name="Half-track change", short="half-track"),
    Measure(key="wheelbase_change_mm", name="Wheelbase change", short="wheelbase"),
    Measure(key="camber_to_ground_deg", name="Camber to the ground", short="to ground"),
    Measure(key="toe_to_ground_deg", name="Toe to the ground", short="toe ground"),
    Measure(key="bump_steer_deg_per_mm", name="Bump steer, degrees a millimetre", short="bump steer"),
    Measure(key="ackermann_percent", name="Ackermann", short="Ackermann"),
    Measure(key="jacking_mm", name="Jacking in steer", short="jacking"),
    Measure(key="ic_front_y_mm", name="Instant centre from behind, y", short="IC y"),
    Measure(key="ic_front_z_mm", name="Instant centre from behind, z", short="IC z"),
    Measure(key="ic_side_x_mm", name="Instant centre from the side, x", short="IC x"),
    Measure(key="ic_side_z_mm", name="Instant centre from the side, z", short="IC z side"),
    Measure(key="ic_front_drawn_y_mm", name="Instant centre from behind, drawn, y", short="IC y drawn"),
    Measure(key="ic_front_drawn_z_mm", name="Instant centre from behind, drawn, z", short="IC z drawn"),
    Measure(key="ic_side_drawn_x_mm", name="Instant centre from the side, drawn, x", short="IC x drawn"),
    Measure(key="ic_side_drawn_z_mm", name="Instant centre from the side, drawn, z", short="IC side z"),
    Measure(key="shaft_plunge_mm", name="Shaft plunge", short="plunge"),
    Measure(key="shaft_angle_deg", name="Shaft angle, the larger", short="shaft"),
    Measure(key="shaft_angle_inner_deg", name="Shaft angle, inner joint", short="inner joint"),
    Measure(key="shaft_angle_outer_deg", name="Shaft angle, outer joint", short="outer joint"),
    Measure(key="shaft_angle_difference_deg", name="Shaft angles, inner less outer", short="joints apart"),
    Measure(key="arb_link_angle_deg", name="Drop link to its arm", short="drop link"),
)  # fmt: skip


BY_KEY = {measure.key: measure for measure in MEASURES}


PLOTTED = {
    "independent": ("camber_deg", "toe_deg", "caster_deg", "roll_centre_path_mm"),
    "beam": ("lateral_shift_mm", "axle_steer_deg", "pinion_change_deg", "roll_centre_mm"),
}


BESIDE = (
    "shaft_plunge_mm",
    "shaft_angle_deg",
    "shaft_angle_inner_deg",
    "shaft_angle_outer_deg",
    "shaft_angle_difference_deg",
    "arb_link_angle_deg",
)  # what hangs beside the links


ROLL_CENTRE = {"independent": "roll_centre_path_mm", "beam": "roll_centre_mm"}


def at_ride(found: Study) -> list[tuple[Measure, float]]:
    """Every measure shown that the end has, with its value at ride height."""
    columns = found.at_ride.columns
    every = MEASURES[: MEASURES.index(BY_KEY["anti_squat_drawn_percent"]) + 1] + tuple(BY_KEY[key] for key in BESIDE)
    return [(m, float(columns[m.key][0])) for m in every if m.key in columns and isfinite(columns[m.key][0])]
