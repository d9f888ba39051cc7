"""Make the demo jobs: links typed here, sized by the core from the shipped catalogue. Numbers are invented and sound.

Run from the project's folder after the catalogue or the sizing changes: python tools/make_demo.py
"""

from __future__ import annotations

import json
import sys
import uuid
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "src"))

from demo_mounts import MOUNTS  # noqa: E402

from tirante.core.document.adopt import adopted, patched  # noqa: E402
from tirante.core.document.car import Car, CornerMasses  # noqa: E402
from tirante.core.document.catalogue import KINDS, Catalogue, read_csv  # noqa: E402
from tirante.core.document.design import Design, SuspensionEnd, TravelBox, tied  # noqa: E402
from tirante.core.document.end import DamperEye, End  # noqa: E402
from tirante.core.document.fields import Length  # noqa: E402
from tirante.core.document.joints import EndOfLink, HeldJoint, PointOfBody  # noqa: E402
from tirante.core.document.mounts import Mount  # noqa: E402
from tirante.core.document.parts.arm import Arm, Gusset, Housing, Stud  # noqa: E402
from tirante.core.document.parts.bracket import RowOfHoles, SaddleBase, TabPair  # noqa: E402
from tirante.core.document.parts.common import LoadCase, OfEnd, RodEndEnd  # noqa: E402
from tirante.core.document.parts.frame_arm import Flange, FrameArm, JointPin  # noqa: E402
from tirante.core.document.parts.link import BoughtLink, FixedEnd, Link  # noqa: E402
from tirante.core.document.parts.spring_seat import SpringSeat  # noqa: E402
from tirante.core.document.parts.steering_rack import SteeringRack  # noqa: E402
from tirante.core.document.parts.strike_pad import StrikePad  # noqa: E402
from tirante.core.document.settings import Settings  # noqa: E402
from tirante.core.document.upgrades import dump_design  # noqa: E402
from tirante.core.job.make_parts import parts_of_end  # noqa: E402
from tirante.core.job.memory import Memory  # noqa: E402
from tirante.core.job.propose import propose  # noqa: E402
from tirante.core.job.worked import Worked  # noqa: E402
from tirante.core.parts.bracket.families.folded_u import folded_for  # noqa: E402
from tirante.core.parts.bracket.families.tab_sizing import proportioned  # noqa: E402
from tirante.core.parts.registry import kind_of  # noqa: E402
from tirante.core.parts.stands import Stand  # noqa: E402
from tirante.shipped import the_shelf  # noqa: E402

MEMORY = Memory()
SPACE = uuid.UUID("2b1c9f54-7a34-5f0b-8b1d-6c2c5d0d9a01")


def mm(value: float) -> Length:
    return Length(mm=value)


def case(name: str, axial: float = 0.0, strike: float = 0.0, side: float = 0.0) -> LoadCase:
    return LoadCase(name=name, axial_n=axial, strike_n=strike, side_n=side)


def of_series(row: object, series: str) -> bool:
    """Whether a row is of the inch or the metric shelf: by its series, or by its thread."""
    if hasattr(row, "series"):
        return row.series in (series, "both")
    if hasattr(row, "designation"):
        return row.designation.startswith("M") == (series == "metric")
    return True


def shelf_of(catalogue: Catalogue, series: str) -> Catalogue:
    return Catalogue(**{kind: tuple(r for r in catalogue.rows(kind) if of_series(r, series)) for kind in KINDS})  # type: ignore[arg-type]


def tabs_of(link: Link, ends: str, sizes: dict[str, Any], spacer: str | None = None) -> tuple[TabPair, list[HeldJoint]]:
    """A tab pair for a link's ends, not made to suit them yet."""
    pair = TabPair(
        id=str(uuid.uuid5(uuid.NAMESPACE_OID, f"{link.id} tab pair")),
        name=f"{link.name}, tabs",
        side=link.side,
        **sizes,
    )
    joints = [
        HeldJoint(id=str(uuid.uuid5(uuid.NAMESPACE_OID, f"{link.id} joint {end}")), held=EndOfLink(part=link.id, end=end), by=pair.id, spacer=spacer)  # type: ignore[arg-type]
        for end in ends
    ]  # fmt: skip
    return pair, joints


Asked = tuple[Link, str, dict[str, Any]]  # a link, the ends that tabs hold, the tabs' first sizes
# Rod ends that must tilt further than the lightest that holds: their thread, and the spacers beside their balls. A search looks at strength alone.
TILTED = {"Front tie rod": ("5/8-18 UNF", "misalignment-0.625-0.5")}


def make(job: str, note: str, links: list[Asked], catalogue: Catalogue, series: str, units: str = "mm") -> Design:
    """The job's links with their tabs, each sized for what is typed for it."""
    shelf = shelf_of(catalogue, series)
    parts: list[Any] = []
    brackets: list[Any] = []
    joints: list[HeldJoint] = []
    for link, ends, sizes in links:
        link = link.model_copy(update={"id": str(uuid.uuid5(SPACE, f"{job}/{link.name}"))})
        parts.append(link)
        if ends:
            pair, held = tabs_of(link, ends, sizes, TILTED.get(link.name, (None, None))[1])
            brackets.append(pair)
            joints += held
    wanted = {joint.spacer for joint in joints}
    rows = Catalogue(spacers=tuple(row for row in catalogue.spacers if row.key in wanted))
    design = Design(
        name=job,
        note=note,
        settings=Settings(units=units),
        parts=(*parts, *brackets),
        joints=tuple(joints),
        catalogue=rows,
    )  # type: ignore[arg-type]
    for part in parts:
        design = sized(design, part, shelf, catalogue)
    return design


def sized(design: Design, part: Any, shelf: Catalogue, catalogue: Catalogue) -> Design:
    """A part and the brackets that hold it, sized from a shelf; its rows from the whole catalogue."""
    thread = TILTED.get(part.name, (None, None))[0]
    if thread:
        shelf = shelf.model_copy(update={"joints": tuple(row for row in shelf.joints if row.designation == thread)})
    found = kind_of(part).size(part, Worked(design, the_shelf(), MEMORY), shelf, "mass")
    best = found.winner or found.nearest
    print(f"{design.name}: {part.name}: {found.advice}")
    if best is None:
        return design
    print(f"   {best.tube}, {best.grade}, {best.worst.name if best.worst else best.worst_told}")
    return patched(design, adopted(design, best.parts, catalogue, best.joints))


def at(body: str, point: str) -> dict[str, str]:
    return {"body": body, "point": point}


def bolted(axis: tuple[float, float, float], limit: float, wide: float | None = None) -> dict[str, Any]:
    joint = {"bolt_axis": list(axis), "limit_deg": limit, "limit_with_spacers_deg": wide}
    return {"a": joint, "b": joint}


ACROSS, ALONG, UP = (0.0, 1.0, 0.0), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)
# What each end has beside its template's points. Invented; sound together.
EYE = {
    "bore_mm": 12.7,
    "ball_width_mm": 20.0,
    "head_diameter_mm": 30.0,
    "housing_width_mm": 16.0,
    "tilt_limit_deg": 14.0,
}
STRAP_EYE = EYE | {"bore_mm": 12.7, "ball_width_mm": 32.0, "head_diameter_mm": 28.0, "housing_width_mm": 28.0, "tilt_limit_deg": 40.0}  # fmt: skip
BIG_EYE = EYE | {"bore_mm": 15.875, "ball_width_mm": 22.0, "head_diameter_mm": 36.0, "housing_width_mm": 18.0, "tilt_limit_deg": 20.0}  # fmt: skip
FRONT_EYE = EYE | {"bore_mm": 14.0, "ball_width_mm": 22.0, "head_diameter_mm": 34.0, "tilt_limit_deg": 28.0}
MARRAM_FRONT: dict[str, Any] = {
    "points": {
        "bar_inner": [-300, 0, 330], "bar_outer": [-300, 440, 330], "bar_arm": [-90, 470, 330], "bar_drop": [-85, 500, 215],
        "stop_tip": [40, 590, 279], "stop_pad": [40, 590, 244], "damper_low": [-40, 600, 245], "damper_top": [0, 430, 690],
    },
    "additions": {"anti-roll-bar": {"on": "lower_arm", "rate_nm_per_deg": 16}},
    "bump_stop": {"tip": at("ground", "stop_tip"), "axis": [0, 0, -1], "pad": at("lower_arm", "stop_pad"), "pad_radius_mm": 32, "crush_mm": 66,
                  "rate_n_per_mm": 180, "rate3_n_per_mm3": 0.09},
    "damper": {"a": at("ground", "damper_top"), "b": at("lower_arm", "damper_low"), "closed_mm": 387, "open_mm": 532, "od_mm": 50, "rate_n_per_mm": 42, "eye_a": FRONT_EYE, "eye_b": FRONT_EYE},
    "links": {
        "tie rod": {"a": bolted(ALONG, 28)["a"], "b": bolted(UP, 28)["b"], "clocking_deg": 90, "od_mm": 22}, "drop link": {**bolted(ALONG, 34), "od_mm": 14},
    },
    "balls": {
        "upper outer joint": {"stud_axis": [0.03, -0.1, 1], "limit_deg": 31},
        "lower outer joint": {"stud_axis": [0.03, -0.1, 1], "limit_deg": 28},
    },
    "member_od_mm": {"upper_arm": 22, "lower_arm": 28, "bar_arm": 20},
    "obstacles": [
        {"name": "frame rail", "shape": {"kind": "round", "a": [-420, 236, 405], "b": [420, 236, 405], "radius_mm": 19}, "wanted_mm": 8},
        {"name": "sump", "shape": {"kind": "block", "low": [-120, -110, 165], "high": [50, 110, 320]}, "both_sides": False, "wanted_mm": 15},
    ],
    "misses": [{"a": "damper", "b": "upper arm", "wanted_mm": 4}],
}  # fmt: skip
MARRAM_REAR: dict[str, Any] = {
    "points": {
        "damper_low": [-95, 560, 345], "damper_top": [-100, 500, 745], "panhard_chassis": [-180, 455, 398], "panhard_axle": [-180, -485, 372], "strap_high": [120, 402, 470], "strap_low": [60, 420, 350],
        "stop_tip": [0, 492, 462], "stop_pad": [0, 492, 418],
        "prop_inner": [880, 0, 372], "prop_outer": [190, 0, 348],
    },
    "damper": {"a": at("ground", "damper_top"), "b": at("axle", "damper_low"), "closed_mm": 293, "open_mm": 478, "od_mm": 78, "rate_n_per_mm": 36,
               "eye_a": EYE, "eye_b": EYE},
    "bump_stop": {"tip": at("ground", "stop_tip"), "axis": [0, 0, -1], "pad": at("axle", "stop_pad"), "pad_radius_mm": 35, "crush_mm": 60,
                  "rate_n_per_mm": 150, "rate3_n_per_mm3": 0.06},
    "strap": {"a": at("ground", "strap_high"), "b": at("axle", "strap_low"), "length_mm": 197, "eye_a": STRAP_EYE, "eye_b": STRAP_EYE},
    "shafts": {
        "propeller shaft": {
            "inner": at("ground", "prop_inner"), "outer": at("axle", "prop_outer"), "inner_axis": [1, 0, 0], "outer_axis": [1, 0, 0],
            "od_mm": 50, "plunge_in_mm": 30, "plunge_out_mm": 30, "angle_limit_deg": 20,
        }
    },
    "links": {
        "lower link": {**bolted(ACROSS, 22, 32), "od_mm": 44.45}, "upper link": {**bolted(ACROSS, 22, 32), "od_mm": 38.1},
        "Panhard rod": {**bolted(ALONG, 22, 32), "od_mm": 31.75},
    },
    "member_od_mm": {"axle": 76.2},
    "obstacles": [
        {"name": "exhaust", "shape": {"kind": "round", "a": [-350, -250, 484], "b": [520, -205, 725], "radius_mm": 26}, "both_sides": False, "wanted_mm": 20},
        {"name": "frame rail", "shape": {"kind": "round", "a": [-380, 330, 576], "b": [620, 330, 576], "radius_mm": 22}, "wanted_mm": 20},
    ],
}  # fmt: skip
RIM = {
    "barrel_radius_mm": 203.0,
    "spokes_mm": 30.0,
    "inboard_edge_mm": -65.0,
    "joint_radius_mm": 16.0,
}  # the joints stand in it
TERN_REAR: dict[str, Any] = {
    "points": {
        "lower_front_inner": [648, 512, 301], "lower_front_outer": [62, 664, 256], "lower_rear_inner": [25, 240, 205],
        "lower_rear_outer": [8, 690, 190], "toe_inner": [-118, 236, 214], "toe_outer": [-131, 688, 221],
        "damper_low": [108, 618, 314], "damper_top": [76, 470, 704],
    },
    "wheel": {"loaded_radius_mm": 308.0, "width_mm": 195.0, "camber_deg": -1.2, "toe_deg": 0.15, "rim": RIM},
    "damper": {"a": at("ground", "damper_top"), "b": at("upright", "damper_low"), "closed_mm": 358, "open_mm": 476, "od_mm": 62, "rate_n_per_mm": 60,
               "eye_a": EYE | {"bore_mm": 12.0}, "eye_b": EYE | {"bore_mm": 12.0}},
    "links": {
        "toe link": {**bolted(UP, 18, 28), "od_mm": 20}, "lower front link": {**bolted((0.25, 0.97, 0.0), 18, 28), "od_mm": 25},
        "lower rear link": {**bolted(ALONG, 18, 28), "od_mm": 25}, "upper front link": {**bolted((0.985, 0.175, 0.0), 18, 28), "od_mm": 20},
        "upper rear link": {**bolted((0.96, -0.28, 0.0), 18, 28), "od_mm": 20},
    },
    "misses": [{"a": "drive shaft", "b": "damper", "wanted_mm": 8}, {"a": "drive shaft", "b": "toe link", "wanted_mm": 8}],
}  # fmt: skip
QUAY_REAR: dict[str, Any] = {
    "points": {
        "lower_chassis": [685.654, 420, 272], "lower_axle": [0, 430, 262], "upper_chassis": [560, 400, 445], "upper_axle": [0, 410, 430], "watts_pivot": [-195, 0, 310], "watts_high": [-195, 0, 380], "watts_low": [-195, 0, 240],
        "watts_left": [-195, 431.8, 380], "watts_right": [-195, -431.8, 240],
        "spring_top": [-95, 430, 640], "spring_low": [-95, 430, 400], "stop_tip": [0, 560, 475], "stop_pad": [0, 560, 430],
        "strap_high": [92, 505, 690], "strap_low": [92, 505, 350],
    },
    "damper": {"a": at("ground", "spring_top"), "b": at("axle", "spring_low"), "closed_mm": 125, "open_mm": 312, "od_mm": 96, "rate_n_per_mm": 48, "stands": "seats"},
    "bump_stop": {"tip": at("ground", "stop_tip"), "axis": [0, 0, -1], "pad": at("axle", "stop_pad"), "pad_radius_mm": 40, "crush_mm": 45, "rate_n_per_mm": 220, "rate3_n_per_mm3": 0.08},
    "strap": {"a": at("ground", "strap_high"), "b": at("axle", "strap_low"), "length_mm": 406, "eye_a": STRAP_EYE, "eye_b": STRAP_EYE},
    "links": {
        "lower link": {**bolted(ACROSS, 14), "od_mm": 50.8}, "upper link": {**bolted(ACROSS, 14), "od_mm": 44.45},
        "left Watts link": {**bolted(ALONG, 22), "od_mm": 31.75}, "right Watts link": {**bolted(ALONG, 22), "od_mm": 31.75},
    },
    "member_od_mm": {"axle": 88.9, "rocker": 40},
    "obstacles": [
        {"name": "bed frame", "shape": {"kind": "block", "low": [150, 395, 636], "high": [800, 465, 736]}, "wanted_mm": 25},
    ],
}  # fmt: skip

PLOVER_FRONT: dict[str, Any] = {
    "points": {
        "kingpin_low": [12, 700, 290], "kingpin_high": [-6, 672, 450], "track_rod": [-160, 648, 372], "drag_knuckle": [175, 650, 462],
        "drag_inner": [175, -380, 492], "pitman_pivot": [20, -395, 502], "stop_tip": [0, 236, 500], "stop_pad": [0, 236, 465],
    },
    "additions": {"steered-axle": {"side": "left"}}, "steering": {"pivot": "pitman_pivot", "axis": [0, 0, 1]},
    "damper": {"a": at("ground", "damper_top"), "b": at("axle", "damper_low"), "closed_mm": 368, "open_mm": 530, "od_mm": 70, "rate_n_per_mm": 34,
               "eye_a": BIG_EYE, "eye_b": BIG_EYE},
    "bump_stop": {"tip": at("ground", "stop_tip"), "axis": [0, 0, -1], "pad": at("axle", "stop_pad"), "pad_radius_mm": 45, "crush_mm": 60,
                  "rate_n_per_mm": 180, "rate3_n_per_mm3": 0.1},
    "links": {
        "Panhard rod": {**bolted(ALONG, 22, 32), "od_mm": 31.75}, "track rod": {**bolted(UP, 22, 32), "od_mm": 31.75}, "drag link": {**bolted(UP, 22, 32), "od_mm": 31.75},
    },
    "member_od_mm": {"axle": 76.2, "radius_arm": 50.8},
}  # fmt: skip
PLOVER_REAR: dict[str, Any] = {
    "points": {
        "damper_top": [-120, 575, 650], "damper_low": [-90, 655, 250], "stop_tip": [120, 600, 350], "stop_pad": [120, 600, 310],
    },
    "damper": {"a": at("ground", "damper_top"), "b": at("arm", "damper_low"), "closed_mm": 285, "open_mm": 475, "od_mm": 65, "rate_n_per_mm": 46,
               "eye_a": BIG_EYE, "eye_b": BIG_EYE},
    "bump_stop": {"tip": at("ground", "stop_tip"), "axis": [0, 0, -1], "pad": at("arm", "stop_pad"), "pad_radius_mm": 45, "crush_mm": 60,
                  "rate_n_per_mm": 190, "rate3_n_per_mm3": 0.1},
    "links": {"lower lateral link": {**bolted(ALONG, 22, 32), "od_mm": 31.75}, "upper lateral link": {**bolted(ALONG, 22, 32), "od_mm": 31.75}},
    "balls": {"front joint": {"stud_axis": [0, 1, 0], "limit_deg": 24}},
    "member_od_mm": {"arm": 50.8},
}  # fmt: skip
DUNLIN_FRONT: dict[str, Any] = {
    "points": {
        "bar_inner": [-300, 0, 330], "bar_outer": [-300, 440, 330], "bar_arm": [-90, 480, 330], "bar_drop": [-95, 484, 228],
        "stop_tip": [40, 590, 271], "stop_pad": [40, 590, 240], "push_low": [-64, 590, 238],
    },
    "wheel": {"loaded_radius_mm": 310.0, "width_mm": 195.0, "camber_deg": -0.8, "toe_deg": 0.1, "rim": RIM},
    "additions": {"anti-roll-bar": {"on": "lower_arm", "rate_nm_per_deg": 14}},
    "damper": {"a": at("ground", "damper_ground"), "b": at("rocker", "damper_rocker"), "closed_mm": 188, "open_mm": 282, "od_mm": 60, "rate_n_per_mm": 62,
               "eye_a": EYE, "eye_b": EYE},
    "bump_stop": {"tip": at("ground", "stop_tip"), "axis": [0, 0, -1], "pad": at("lower_arm", "stop_pad"), "pad_radius_mm": 40, "crush_mm": 44,
                  "rate_n_per_mm": 180, "rate3_n_per_mm3": 0.1},
    "links": {
        "tie rod": {"a": bolted(ALONG, 28)["a"], "b": bolted(UP, 28)["b"], "clocking_deg": 90, "od_mm": 22}, "drop link": {"a": bolted(ACROSS, 34)["a"], "b": bolted((0.8, 0.6, 0.0), 34)["b"], "clocking_deg": 53.13, "od_mm": 14},
        "push rod": {**bolted(ALONG, 22), "od_mm": 25},
    },
    "balls": {
        "upper outer joint": {"stud_axis": [0.03, -0.1, 1], "limit_deg": 31}, "lower outer joint": {"stud_axis": [0.03, -0.1, 1], "limit_deg": 28},
    },
    "member_od_mm": {"upper_arm": 22, "lower_arm": 32, "bar_arm": 20, "rocker": 60},
}  # fmt: skip


# their other ends are not in these jobs: what they do to the body's lean is typed
TERN_CAR = Car(
    use="circuit", wheelbase_mm=2510.0, cg_height_mm=380.0, brake_front_share=0.58, unsprung_front_kg=52, unsprung_rear_kg=58, mass_kg=640,
    cg_behind_front_mm=1430, roll_stiffness_front_nm_per_deg=620, roll_centre_front_mm=35, track_front_mm=1440, wheel_height_mm=292,
)  # fmt: skip
QUAY_CAR = Car(
    wheelbase_mm=2480.0, cg_height_mm=600.0, brake_front_share=0.62, drive_rear="upright", unsprung_front_kg=130, unsprung_rear_kg=190, mass_kg=1460,
    cg_behind_front_mm=1380, final_drive_ratio=4.1, roll_stiffness_front_nm_per_deg=560, roll_centre_front_mm=60, track_front_mm=1540, wheel_height_mm=330,
)  # fmt: skip

PLOVER_CAR = Car(
    use="off-road", wheelbase_mm=2600.0, cg_height_mm=640.0, brake_front_share=0.6, drive_front_share=0.0, drive_rear="inboard",
    corners=CornerMasses(front_left_kg=212, front_right_kg=208, rear_left_kg=226, rear_right_kg=224), unsprung_front_kg=112, unsprung_rear_kg=84,
)  # fmt: skip
DUNLIN_CAR = Car(
    use="circuit", wheelbase_mm=2480.0, cg_height_mm=420.0, brake_front_share=0.6, unsprung_front_kg=56, unsprung_rear_kg=62, mass_kg=720, cg_behind_front_mm=1330,
    roll_stiffness_rear_nm_per_deg=420, roll_centre_rear_mm=60, track_rear_mm=1430, wheel_height_mm=310,
)  # fmt: skip


def with_ends(design: Design, car: Car, *ends: tuple[str, str, str, float, dict[str, Any]]) -> Design:
    """Ends on the shipped examples' points, moved to where the axle stands in this car, with all that is theirs."""
    made = []
    for name, template, where, shift, more in ends:
        raw = json.loads((ROOT / f"data/ends/{template}.json").read_text())
        raw |= {key: value for key, value in more.items() if key != "points"}
        raw |= {"points": raw["points"] | more.get("points", {}), "vehicle": None, "end": where}
        raw["points"] = {n: [round(p[0] + shift, 3), p[1], p[2]] for n, p in raw["points"].items()}
        for obstacle in raw.get("obstacles", []):
            for corner in ("a", "b", "low", "high"):
                if corner in obstacle["shape"]:
                    obstacle["shape"][corner][0] += shift
        end = End.model_validate_json(json.dumps(raw))
        # as far as its damper goes; a rear rack stands still
        box = TravelBox(
            bump_mm=120.0 if "bump_stop" in more else 80.0,
            steer_mm=30.0 if where == "front" else 0.0,
            **({"steer_deg": 18.0} if raw.get("steering") else {}),
        )
        made.append(SuspensionEnd(id=end_id(design.name, name), name=name, end=end, box=box))
    return tied(design.model_copy(update={"ends": tuple(made), "car": car}))


def for_its_loads(design: Design, loads: str, shelf: Catalogue) -> Design:
    """The load set of its use, and every link that is tied to an end sized again for what that puts into it."""
    design = design.model_copy(update={"loads": the_shelf().load_sets[loads]})
    for link in design.of_kind(Link):
        if link.of_end:
            design = sized(design, link, shelf, shelf)
    return design


def with_arms(design: Design, end: str, arms: dict[str, dict[str, Any]], shelf: Catalogue) -> Design:
    """Arms of an end as parts, each sized for the job's loads; they stand after the links."""
    one = next(e for e in design.ends if e.name == end)
    made = []
    for body, more in arms.items():
        name = f"{end} {body.replace('_', ' ')}"
        made.append(
            Arm(id=str(uuid.uuid5(SPACE, f"{design.name}/{name}")), name=name, end_id=one.id, body=body, **more)
        )
    members = [part for part in design.parts if not isinstance(part, TabPair)]
    design = design.model_copy(update={"parts": (*members, *made, *design.of_kind(TabPair))})
    for arm in made:
        design = sized(design, arm, shelf, shelf)
    return design


def with_members(design: Design, changes: dict[str, dict[str, Any]], shelf: Catalogue) -> Design:
    """Every moving member of every end made a part, those that are named changed, all sized for the job's loads; twice, since a bar's size is
    its end's rate."""
    for end in design.ends:
        ids = [str(uuid.uuid5(SPACE, f"{design.name}/{end.name}/{i}")) for i in range(40)]
        made = parts_of_end(Worked(design, the_shelf(), MEMORY), end.id, ids)
        parts = [flanged(kind_of(p).saved.model_validate(p.model_dump() | changes.get(p.name, {}))) for p in made]
        design = design.model_copy(update={"parts": (*design.parts, *parts)})
    for _ in range(2):
        for part in (one for one in design.parts if kind_of(one).searched):
            design = sized(design, next(p for p in design.parts if p.id == part.id), shelf, shelf)
    return design


def flanged(part: Any) -> Any:
    """An arm that carries its hub, with the flange that the hub is bolted to, and a bolt of 3/4 in in the bearing at its front."""
    if not isinstance(part, FrameArm):
        return part
    flange = Flange(bolts=5, circle_mm=120.0, bolt_mm=14.0, outside_mm=165.0, ring_mm=80.0)
    joints = [one.model_copy(update={"flange": flange}) if one.made == "hub flange" else one for one in part.joints]
    joints = [
        one.model_copy(update={"pin": JointPin(bolt_mm=19.05, bolt_class="10.9", between_mm=36.0), "face_mm": 42.0}) if one.made.startswith("cup") else one
        for one in joints
    ]  # fmt: skip
    return part.model_copy(update={"joints": tuple(joints)})


def with_pad(design: Design, end: str, shelf: Catalogue) -> Design:
    """A strike pad where the bump stop of an end lands, sized."""
    own = next(one for one in design.ends if one.name == end)
    stop = own.end.bump_stop
    assert stop
    pad = StrikePad(
        id=str(uuid.uuid5(SPACE, f"{design.name}/{end}/pad")), name=f"{end} bump stop, pad", end_id=own.id, length_mm=100.0, width_mm=90.0,
    )  # fmt: skip
    held = PointOfBody(end_id=own.id, body=stop.pad.body, point=stop.pad.point)
    joint = HeldJoint(id=str(uuid.uuid5(SPACE, f"{design.name}/{end}/pad joint")), held=held, by=pad.id)
    whole = design.model_copy(update={"parts": (*design.parts, pad), "joints": (*design.joints, joint)})
    return sized(whole, pad, shelf, shelf)


def with_rack(design: Design, end: str, **sizes: float) -> Design:
    """The rack that an end is steered by, its feet's sizes given."""
    own = next(one for one in design.ends if one.name == end)
    rack = SteeringRack(
        id=str(uuid.uuid5(SPACE, f"{design.name}/{end}/rack")), name=f"{end} steering rack", end_id=own.id, **sizes
    )  # type: ignore[arg-type]
    return design.model_copy(update={"parts": (*design.parts, rack)})


def with_folded(design: Design, name: str, shelf: Catalogue) -> Design:
    """A pair of tabs made a folded bracket, sized."""
    pair = next(part for part in design.of_kind(TabPair) if part.name == name)
    job = Worked(design, the_shelf(), MEMORY)
    stand = job.stand_of(job.held_by(pair.id)[0])
    assert isinstance(stand, Stand)
    one = folded_for(pair, stand)
    design = design.model_copy(update={"parts": tuple(one if p.id == pair.id else p for p in design.parts)})
    return sized(design, one, shelf, shelf)


def with_mounts(design: Design) -> Design:
    """The members of its car that brackets stand on entered."""
    mounts = tuple(
        Mount.model_validate_json(json.dumps({
            "id": str(uuid.uuid5(SPACE, f"{design.name}/mount/{name}")), "name": name, "shape": shape, "both_sides": both, "material": "S275",
            "yield_mpa": 275.0, "uts_mpa": 410.0, **({"end_id": end_id(design.name, on[0]), "body": on[1]} if on else {}),
        })) for name, shape, both, on in MOUNTS[design.name]
    )  # fmt: skip
    return design.model_copy(update={"mounts": mounts})


def with_brackets(design: Design, shelf: Catalogue) -> Design:
    """Members of the car entered, and a bracket proposed for every joint that nothing holds yet."""
    design = with_mounts(design)
    ids = [str(uuid.uuid5(SPACE, f"{design.name}/bracket/{i}")) for i in range(120)]
    found = propose(Worked(design, the_shelf(), MEMORY), shelf, ids)
    for one in found.every:
        print(f"{design.name}: {one.place.of}, {one.place.name}: {one.told}")
    return patched(design, found.patch)


def with_seats(design: Design, shelf: Catalogue) -> Design:
    """Brackets for every joint, the seats of its air springs drilled for their studs and their air."""
    rear = end_id(design.name, "Rear")
    low = HeldJoint(
        id=str(uuid.uuid5(SPACE, f"{design.name}/strap_low")),
        held=PointOfBody(end_id=rear, body="axle", point="strap_low"),
        bolt_axis=(0.0, 1.0, 0.0),
    )
    whole = with_brackets(design.model_copy(update={"joints": (*design.joints, low)}), shelf)
    air = {"stud_mm": 10.0, "pitch_mm": 70.0, "port_mm": 20.0}
    for seat in whole.of_kind(SpringSeat):  # bolted on, it is pulled too
        drilled = seat.model_copy(update=air)
        parts = tuple(drilled if part.id == seat.id else part for part in whole.parts)
        whole = sized(whole.model_copy(update={"parts": parts}), drilled, shelf, shelf)
    return whole


def marram_s_brackets(design: Design, shelf: Catalogue) -> Design:
    """Brackets for every joint, but those of its tie rods, which are kept; one of them folded, one with two holes."""
    rear = end_id(design.name, "Rear")
    kept = {part.id for part in design.of_kind(TabPair) if part.name.startswith("Front tie rod")}
    parts = tuple(part for part in design.parts if not isinstance(part, TabPair) or part.id in kept)
    joints = [joint for joint in design.joints if joint.by in kept]
    end = next(one for one in design.ends if one.id == rear).end
    for unit in (*end.dampers.values(), end.strap):  # its bolts stand across the car
        joints += [
            HeldJoint(id=str(uuid.uuid5(SPACE, f"{design.name}/{place.point}")), held=PointOfBody(end_id=rear, body=place.body, point=place.point), bolt_axis=(0.0, 1.0, 0.0))
            for place in (unit.places if unit else ())
        ]  # fmt: skip
    design = with_brackets(design.model_copy(update={"parts": parts, "joints": tuple(joints)}), shelf)
    # what holds the Panhard rod on the body is folded from one plate
    design = with_folded(design, "Panhard rod, end A, tabs", shelf)
    # two heights for the lower links' front ends: more or less anti-squat
    low = next(part for part in design.of_kind(TabPair) if part.name == "Rear lower link, end A, tabs")
    low = low.model_copy(update={"holes": RowOfHoles(count=2, pitch_mm=52.0, angle_deg=-90.0)})
    return sized(
        design.model_copy(update={"parts": tuple(low if p.id == low.id else p for p in design.parts)}),
        low,
        shelf,
        shelf,
    )


def end_id(job: str, name: str) -> str:
    return str(uuid.uuid5(SPACE, f"{job}/{name}"))


def of_end(job: str, end: str, link: str, a: str, b: str, mm: float) -> OfEnd:
    """A link of an end; its length is what the end's points make of it."""
    return OfEnd(end_id=end_id(job, end), link=link, a=a, b=b, mm=mm)


def blank(name: str, **more: object) -> Link:
    fields = {"id": str(uuid.UUID(int=0, version=4)), "name": name, **more}
    return Link(**fields)  # type: ignore[arg-type]


BOX = {"height_mm": 110.0, "width_mm": 60.0, "wall_mm": 3.0}
HUB = [("lower_outer", "wheel_centre"), ("upper_outer", "wheel_centre"), ("lower_outer", "upper_outer")]
FRONT = [("arm_front", "lower_outer"), ("arm_front", "upper_outer")]
PLOVER: dict[str, dict[str, Any]] = {
    "Rear arm": {"tubes": [*({"a": a, "b": b, "box": BOX} for a, b in HUB), *({"a": a, "b": b} for a, b in FRONT)]},
}  # fmt: skip
RACK = {"housing_mm": 44.0, "pitch_mm": 62.0, "high_mm": 24.0, "bolt_mm": 10.0, "rating_n": 14_000.0}
BUSH = DamperEye(bore_mm=15.875, ball_width_mm=42.0, head_diameter_mm=54.0, housing_width_mm=38.0, tilt_limit_deg=12.0)
QUAY: dict[str, dict[str, Any]] = {
    "Rear rocker": {
        "boss_mm": 50.0, "bore_mm": 38.0, "hub_mm": 40.0, "inside_mm": 22.0, "leg_mm": 6.0, "bearing_rating_n": 60_000.0,
        "pivot_eye": {"bore_mm": 15.875, "ball_width_mm": 54.0, "head_diameter_mm": 50.0, "housing_width_mm": 50.0},
        "eyes": [
            {"point": point, "pin_mm": 15.875, "head_mm": 26.0, "between_mm": 20.0, "pin_class": "10.9"} for point in ("watts_high", "watts_low")
        ],
    },
}  # fmt: skip
DUNLIN: dict[str, dict[str, Any]] = {
    "Front upper arm": {"pivots": "rod ends", "outer_housing": {"wall_mm": 6.0, "long_mm": 36.0}, "stud": {"diameter_mm": 16.0, "lever_mm": 16.0, "yield_mpa": 900.0, "holds_in_n": 30_000.0}},
    "Front lower arm": {
        "pivot_eye": {"bore_mm": 15.875, "ball_width_mm": 64.0, "head_diameter_mm": 46.0, "housing_width_mm": 60.0}, "brace_at": 0.6, "gusset": {"reach_mm": 100.0, "thickness_mm": 4.0},
        "pivot_wall_mm": 5.0, "outer_housing": {"wall_mm": 6.0, "long_mm": 40.0}, "stud": {"diameter_mm": 18.0, "lever_mm": 16.0, "yield_mpa": 900.0, "holds_in_n": 42_000.0},
    },
    "Front anti-roll bar": {"eye": {"bolt_mm": 10.0, "bolt_class": "10.9", "between_mm": 14.0}, "bearings": {"bolt_mm": 8.0, "rating_n": 9000.0, "pitch_mm": 52.0, "high_mm": 24.0}},
    "Front steering rack": RACK | {"apart_mm": 200.0},
    "Front rocker": {
        "boss_mm": 50.0, "bore_mm": 38.0, "hub_mm": 44.0, "inside_mm": 22.0, "leg_mm": 6.0, "bearing_rating_n": 60_000.0,
        "pivot_eye": {"bore_mm": 12.7, "ball_width_mm": 54.0, "head_diameter_mm": 40.0, "housing_width_mm": 50.0},
        "eyes": [
            {"point": "push_high", "pin_mm": 16.0, "head_mm": 26.0, "between_mm": 18.0, "pin_class": "10.9"},
            {"point": "damper_rocker", "pin_mm": 16.0, "head_mm": 26.0, "between_mm": 18.0, "pin_class": "10.9"},
        ],
    },
}  # fmt: skip


def main() -> None:
    catalogue = Catalogue(
        **{kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS}  # type: ignore[arg-type]
    )
    inch = Catalogue(
        **{k: tuple(r for r in catalogue.rows(k) if getattr(r, "series", "inch") != "metric") for k in KINDS}
    )  # type: ignore[arg-type]
    joint, bolt = inch.joints[0], inch.bolts[0]
    tab = proportioned(joint, bolt, 4.0)
    on_axle = tab | {"base": SaddleBase(tube_od=mm(76.2), wall_mm=6.35)}
    rod = proportioned(
        next(row for row in inch.joints if row.key == "rod-end-5_8-18-alloy"), next(b for b in inch.bolts if abs(b.diameter_mm - 12.7) < 0.01), 4.0
    )  # fmt: skip
    marram = make(
        "Marram",
        "Beach-rescue buggy for a lifeboat station. Front: double wishbones. Rear: beam axle on three links and a Panhard rod.",
        [
            (blank(
                "Rear lower link", side="pair", between=of_end("Marram", "Rear", "lower link", "lower_chassis", "lower_axle", 840.782),
                cases=(case("brake 1 g", -9800.0), case("bump 3 g at the stop", 12600.0, side=350.0), case("rock strike at mid-span", -4200.0, strike=6000.0)),
            ), "ab", tab),
            (blank(
                "Rear upper link", side="centre", between=of_end("Marram", "Rear", "upper link", "upper_chassis", "upper_axle", 588.276),
                cases=(case("brake 1 g", 13900.0), case("drive, first gear", -11200.0)),
            ), "b", on_axle),
            (blank(
                "Panhard rod", side="centre", between=of_end("Marram", "Rear", "Panhard rod", "panhard_chassis", "panhard_axle", 940.359),
                cases=(case("corner 1 g", -7400.0), case("kerb 1 g", 9100.0)),
            ), "ab", tab),
            (blank(
                "Front tie rod", side="pair", between=of_end("Marram", "Front", "tie rod", "tie_inner", "tie_outer", 372.183),
                cases=(case("pothole 2 g", -5200.0), case("steering at rest", 4100.0)),
            ), "b", rod),
        ],
        inch, "inch",
    )  # fmt: skip
    tern = make(
        "Tern",
        "Hill-climb car with a five-member rear upright. Metric rod ends and tube.",
        [
            (blank(
                "Toe link", side="pair", between=of_end("Tern", "Rear", "toe link", "toe_inner", "toe_outer", 452.241),
                cases=(case("corner 1.6 g", -5100.0), case("brake in corner", 3900.0)),
            ), "", {}),
            (blank(
                "Trailing link", side="pair", between=of_end("Tern", "Rear", "lower front link", "lower_front_inner", "lower_front_outer", 607.062),
                cases=(case("brake 1.2 g", -9600.0), case("pothole 2 g", 11800.0)),
            ), "ab", proportioned(catalogue.joints[-5], next(b for b in catalogue.bolts if abs(b.diameter_mm - 12) < 0.1), 4.0)),
        ],
        catalogue, "metric",
    )  # fmt: skip
    quay = make(
        "Quay",
        "Harbour flatbed on parallel links with a Watts linkage and air springs.",
        [
            (blank(
                "Parallel lower link", side="pair", between=of_end("Quay", "Rear", "lower link", "lower_chassis", "lower_axle", 685.8), everyday_n=6000.0,
                cases=(case("brake 1 g, laden", -16200.0), case("kerb 1 g", 14100.0)),
                end_a=FixedEnd(what="rubber bush sleeve", centre_to_face=mm(28.6), eye=BUSH), end_b=RodEndEnd(hand="RH"),
            ), "", {}),
            *((blank(
                f"Watts link {side}, bought", side="centre", between=of_end("Quay", "Rear", f"{side} Watts link", f"watts_{side}", f"watts_{at}", 431.8), everyday_n=4500.0,
                cases=(case("corner 0.8 g, laden", -8800.0), case("kerb 1 g", 10900.0)),
                bought=BoughtLink(tube_length=Length(mm=457.2, typed="18 in"), keep="a"),
            ), "", {}) for side, at in (("left", "high"), ("right", "low"))),
        ],
        inch, "inch", units="in",
    )  # fmt: skip
    marram = with_ends(
        marram,
        Car(
            use="off-road", wheelbase_mm=2010.0, cg_height_mm=560.0, brake_front_share=0.62, drive_front_share=0.0, drive_rear="upright",
            corners=CornerMasses(front_left_kg=182, front_right_kg=178, rear_left_kg=236, rear_right_kg=231),
            unsprung_front_kg=62, unsprung_rear_kg=104,
        ),
        ("Front", "double-wishbone", "front", 0.0, MARRAM_FRONT), ("Rear", "three-links-panhard", "rear", -2010.0, MARRAM_REAR),
    )  # fmt: skip
    tern = with_ends(
        tern, TERN_CAR,
        ("Rear", "five-link", "rear", -2510.0, TERN_REAR),
    )  # fmt: skip
    quay = with_ends(
        quay, QUAY_CAR,
        ("Rear", "four-links-watts-axle", "rear", -2480.0, QUAY_REAR),
    )  # fmt: skip
    marram = for_its_loads(marram, "off-road", inch)
    braced = {
        "pivot_face_mm": 30.0, "pivot_wall_mm": 6.0, "outer_housing": Housing(wall_mm=6.0, long_mm=40.0),  # its tubes stand on their sleeves
        "brace_at": 0.6, "stud": Stud(diameter_mm=20.0, lever_mm=16.0, yield_mpa=900.0, holds_in_n=42_000.0),
        "gusset": Gusset(reach_mm=110.0, thickness_mm=4.0),
        "pivot_eye": DamperEye(bore_mm=15.875, ball_width_mm=84.0, head_diameter_mm=60.0, housing_width_mm=80.0),
    }  # fmt: skip
    marram = with_arms(
        marram,
        "Front",
        {"upper_arm": {"pivots": "rod ends", "outer_housing": Housing(wall_mm=6.0, long_mm=36.0)}, "lower_arm": braced},
        inch,
    )
    marram = with_rack(marram, "Front", **RACK, apart_mm=240.0)
    marram = marram_s_brackets(marram, inch)
    metric = Catalogue(**{k: tuple(r for r in catalogue.rows(k) if of_series(r, "metric")) for k in KINDS})  # type: ignore[arg-type]
    tern = for_its_loads(tern, "circuit", metric)
    tern = with_brackets(tern, metric)
    quay = with_seats(with_members(for_its_loads(quay, "road", inch), QUAY, inch), inch)
    plover = with_ends(
        Design(name="Plover", note="Estuary survey truck. Front: steered axle on radius arms and a Panhard rod. Rear: boxed trailing arms.", settings=Settings(units="mm")),
        PLOVER_CAR, ("Front", "radius-arms", "front", 0.0, PLOVER_FRONT), ("Rear", "trailing-arm", "rear", -2600.0, PLOVER_REAR),
    )  # fmt: skip
    plover = with_members(plover.model_copy(update={"loads": the_shelf().load_sets["off-road"]}), PLOVER, inch)
    plover = with_brackets(with_pad(plover, "Rear", inch), inch)
    dunlin = with_ends(
        Design(name="Dunlin", note="Sprint car front: push rods, rockers and an anti-roll bar.", settings=Settings(units="mm")),
        DUNLIN_CAR, ("Front", "double-wishbone-pushrod", "front", 0.0, DUNLIN_FRONT),
    )  # fmt: skip
    dunlin = with_members(dunlin.model_copy(update={"loads": the_shelf().load_sets["circuit"]}), DUNLIN, inch)
    dunlin = with_brackets(dunlin, inch)
    for design in (marram, tern, quay, plover, dunlin):
        (ROOT / "data" / "demo" / f"{design.name.lower()}.json").write_text(dump_design(tied(design)))


if __name__ == "__main__":
    main()
