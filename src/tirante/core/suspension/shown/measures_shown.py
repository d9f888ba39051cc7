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
    what: str = ""  # what it is, in a sentence
    road: Range | None = None  # usual, in the measure's unit
    circuit: Range | None = None
    off_road: Range | None = None
    why: str = ""  # why one would leave that range
    of_steering: bool = False  # means something only where the wheel is steered

    def usual(self, use: Use, *, steered: bool = True) -> Range | None:
        """The usual range for a use; None for what means something only of a steered wheel, where it is not.

        Args:
            use: of the car.
            steered: whether the end is.
        """
        if self.of_steering and not steered:
            return None
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
        key="camber_deg", name="Camber", short="camber", what="How far the wheel leans, its top out being +.", road=(-1.5, 0.0), circuit=(-3.5, -1.0), off_road=(-1.0, 0.5),
        why="more negative loads the outer edge in a corner and wears the inner on the straight",
    ),
    Measure(
        key="toe_deg", name="Toe", short="toe", what="How far the wheel points inward, toe-in being +.", road=(-0.1, 0.25), circuit=(-0.25, 0.15), off_road=(-0.1, 0.3),
        why="toe-in steadies, toe-out turns in sooner; both wear the tyre",
    ),
    Measure(
        key="caster_deg", of_steering=True, name="Caster", short="caster", what="How far the steering axis leans back, seen from the side.", road=(3.0, 8.0), circuit=(5.0, 10.0), off_road=(3.0, 8.0),
        why="more returns the wheel harder and gains camber in steer, and is heavier to turn",
    ),
    Measure(
        key="kingpin_inclination_deg", of_steering=True, name="Kingpin inclination", short="kingpin", what="How far the steering axis leans inward, seen from behind.", road=(5.0, 14.0), circuit=(4.0, 12.0), off_road=(5.0, 15.0),
        why="more lifts the car as it steers and takes camber off the outer wheel",
    ),
    Measure(
        key="scrub_radius_mm", of_steering=True, name="Scrub radius", short="scrub", what="How far outside the steering axis the tyre stands on the ground.", road=(-10.0, 40.0), circuit=(0.0, 40.0), off_road=(0.0, 80.0),
        why="more pulls at the wheel under braking; a wide tyre or spacer makes it so",
    ),
    Measure(
        key="mechanical_trail_mm", of_steering=True, name="Mechanical trail", short="trail", what="How far behind the steering axis the tyre stands on the ground.", road=(5.0, 30.0), circuit=(5.0, 35.0), off_road=(5.0, 40.0),
        why="more gives weight and return, less gives a light wheel",
    ),
    Measure(
        key="roll_centre_path_mm", name="Roll centre, by path", short="roll centre", what="The height about which the body rolls, from the way that the contact patches move.", road=(0.0, 150.0), circuit=(-20.0, 80.0), off_road=(0.0, 250.0),
        why="higher rolls less and jacks more",
    ),
    Measure(key="roll_centre_drawn_mm", name="Roll centre, drawn", short="RC drawn", what="The same by the lines through the instant centres; it agrees while both sides stand alike."),
    Measure(
        key="roll_centre_mm", name="Roll centre", short="roll centre", what="The height about which the body rolls on this axle.", road=(150.0, 450.0), circuit=(80.0, 300.0), off_road=(250.0, 650.0),
        why="a beam axle's stands high by its lateral location",
    ),
    Measure(key="roll_axis_deg", name="Roll axis", short="roll axis", what="How far the line that the axle rolls about points down toward the front; it steers the axle as the body rolls."),
    Measure(
        key="anti_dive_percent", name="Anti-dive", short="anti-dive", what="How much of the dive under braking the geometry takes instead of the springs.", road=(0.0, 40.0), circuit=(0.0, 25.0), off_road=(0.0, 30.0),
        why="more holds the nose up and harshens braking on bumps",
    ),
    Measure(
        key="anti_lift_percent", name="Anti-lift", short="anti-lift", what="How much of the lift, under braking at the rear or driving at the front, the geometry takes instead of the springs.", road=(0.0, 80.0), circuit=(0.0, 60.0), off_road=(0.0, 80.0),
        why="more holds the tail down under braking, and may hop",
    ),
    Measure(
        key="anti_squat_percent", name="Anti-squat", short="anti-squat", what="How much of the squat as it drives off the geometry takes instead of the springs.", road=(20.0, 120.0), circuit=(0.0, 70.0), off_road=(40.0, 150.0),
        why="more holds the tail up as it drives off, and may hop",
    ),
    Measure(key="motion_ratio", name="Motion ratio", short="ratio", what="How much the spring is shortened as the wheel rises by one."),
    Measure(key="damper_ratio", name="Damper’s motion ratio", short="damper ratio", what="How much the damper is shortened as the wheel rises by one."),
    Measure(key="lateral_shift_mm", name="Side shift", short="shift", what="How far the axle stands to one side of the middle."),
    Measure(key="axle_steer_deg", name="Axle steer", short="steer", what="How far the axle is turned, seen from above."),
    Measure(key="pinion_change_deg", name="Pinion change", short="pinion", what="How far the pinion has turned from where it stood at ride height; it bends the propeller shaft’s joints."),
    Measure(key="pinion_deg", name="Pinion above level", short="pinion angle", what="How far the pinion points above level."),
    Measure(key="damper_length_mm", name="Damper length", short="damper", what="The damper from eye to eye."),
    Measure(key="anti_dive_drawn_percent", name="Anti-dive, drawn", short="dive drawn", what="Anti-dive by the drawn lines."),
    Measure(key="anti_lift_drawn_percent", name="Anti-lift, drawn", short="lift drawn", what="Anti-lift by the drawn lines."),
    Measure(key="anti_squat_drawn_percent", name="Anti-squat, drawn", short="squat drawn", what="Anti-squat by the drawn lines."),
    Measure(key="half_track_change_mm", name="Half-track change", short="half-track", what="How far out the tyre has moved on the ground; it scrubs that much."),
    Measure(key="wheelbase_change_mm", name="Wheelbase change", short="wheelbase", what="How far ahead the wheel has moved."),
    Measure(key="camber_to_ground_deg", name="Camber to the ground", short="to ground", what="The wheel’s lean against the road, the body’s roll counted."),
    Measure(key="toe_to_ground_deg", name="Toe to the ground", short="toe ground", what="The wheel’s toe on the road, the body’s roll counted."),
    Measure(key="bump_steer_deg_per_mm", name="Bump steer, degrees a millimetre", short="bump steer", what="How fast toe changes as the wheel rises: the car steers itself on bumps."),
    Measure(key="ackermann_percent", name="Ackermann", short="Ackermann", what="How much more the inner wheel is turned than the outer; at 100 both roll about one point."),
    Measure(key="jacking_mm", name="Jacking in steer", short="jacking", what="How far the car is lifted at that wheel as it is steered."),
    Measure(key="ic_front_y_mm", name="Instant centre from behind, y", short="IC y", what="Where the wheel turns about, seen from behind: how far out."),
    Measure(key="ic_front_z_mm", name="Instant centre from behind, z", short="IC z", what="Where the wheel turns about, seen from behind: how high."),
    Measure(key="ic_side_x_mm", name="Instant centre from the side, x", short="IC x", what="Where the wheel turns about, seen from the side: how far ahead."),
    Measure(key="ic_side_z_mm", name="Instant centre from the side, z", short="IC z side", what="Where the wheel turns about, seen from the side: how high."),
    Measure(key="ic_front_drawn_y_mm", name="Instant centre from behind, drawn, y", short="IC y drawn", what="The same by the drawn lines: how far out."),
    Measure(key="ic_front_drawn_z_mm", name="Instant centre from behind, drawn, z", short="IC z drawn", what="The same by the drawn lines: how high."),
    Measure(key="ic_side_drawn_x_mm", name="Instant centre from the side, drawn, x", short="IC x drawn", what="The same by the drawn lines: how far ahead."),
    Measure(key="ic_side_drawn_z_mm", name="Instant centre from the side, drawn, z", short="IC side z", what="The same by the drawn lines: how high."),
    Measure(key="shaft_plunge_mm", name="Shaft plunge", short="plunge", what="How much shorter (−) or longer (+) the drive shaft is than at ride height."),
    Measure(key="shaft_angle_deg", name="Shaft angle, the larger", short="shaft", what="How far the more bent of its joints is turned."),
    Measure(key="shaft_angle_inner_deg", name="Shaft angle, inner joint", short="inner joint", what="How far its inner joint is bent."),
    Measure(key="shaft_angle_outer_deg", name="Shaft angle, outer joint", short="outer joint", what="How far its outer joint is bent."),
    Measure(key="shaft_angle_difference_deg", name="Shaft angles, inner less outer", short="joints apart", what="How unlike its two joints are bent; with crosses in them it shakes."),
    Measure(key="arb_link_angle_deg", name="Drop link to its arm", short="drop link", what="The drop link to the bar’s arm: at 90° it works the bar best, near 0° it flips."),
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
