"""Topics of jigs: a part’s joints and tubes laid on a plate, a hub held in its wheel’s place."""

from __future__ import annotations

from math import degrees
from typing import Annotated, Any

import numpy as np
from pydantic import Field

from tirante.calc.fields import Input, Mm, MmOrZero
from tirante.calc.registry import Working, step, topic
from tirante.core.errors import InputError
from tirante.core.jigs.features import Bar, Features, Held, triple
from tirante.core.jigs.handed import own_mirror, signed_figure
from tirante.core.jigs.hub_stand import same_for_both, stud_holes
from tirante.core.jigs.plane import through
from tirante.core.jigs.plate import best_plane, laid_out, spacer_along
from tirante.core.jigs.posts import Sizes

Number = Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
Place = tuple[Number, Number, Number]
Word = Annotated[str, Field(min_length=1, max_length=80)]


class JointInput(Input):
    name: Word
    at_mm: Place
    axis: Place = Field(description="along its bore, any length")
    directed: bool = Field(default=False, description="whether a stud tells its two ends apart; it points along axis")
    bore_mm: Mm = Field(description="mm; of the dummy bolt")
    wide_mm: Mm = Field(description="mm; from face to face along the bore")
    outside_mm: Mm = Field(description="mm; across, of what is round the bore")


class TubeInput(Input):
    name: Word
    a: Word = Field(description="the joint that it comes to")
    b: Word
    od_mm: Mm
    a_seam_mm: MmOrZero = Field(default=0.0, description="mm; from the joint’s middle to its bead")
    b_seam_mm: MmOrZero = 0.0
    a_welded: bool = True
    b_welded: bool = True


class JigInput(Input):
    joints: Annotated[list[JointInput], Field(min_length=2, max_length=20)]
    tubes: list[TubeInput] = Field(default=[], max_length=40)
    through: list[Word] = Field(
        default=[],
        max_length=3,
        description="three joints that it lies on, counter-clockwise from above; empty: as it asks least of posts",
    )
    datum: str = Field(default="", max_length=80, description="the joint that ordinates begin at; empty: the first")
    clearance_mm: Mm = 30.0
    post_thick_mm: Mm = 10.0
    post_wide_mm: Mm = 50.0
    room_mm: MmOrZero = Field(default=15.0, description="mm; from a bead to a post")
    shrink_mm: MmOrZero = Field(default=0.0, description="mm; of one bead across a tube")
    tolerance_mm: Mm = 0.5


@topic(
    "jig",
    JigInput,
    outputs={
        "u": "the plate’s first way, in the part’s axes", "v": "its second", "n": "its way up", "lies": "how the plane was chosen",
        "joints": "of each: name, at_mm from the datum and the plate, bar_mm: a bar through its bore 100 mm on, pinned, spacer_mm, lean_deg, set_off_mm for shrink",
        "posts": "of each: name, sort, at_mm (u, v of its foot’s middle), turned_deg from u, long_mm, work_mm: its hole, seat or vee over the plate, lean_deg",
        "plate_mm": "its corners from the datum: [[u, v], [u, v]]", "check_mm": "[joint, joint, middle to middle when cold]",
        "own_mirror": "whether left and right are one part", "signed": "the figure that the wrong hand cannot pass: plane, at, height_mm, tolerance_mm; null where left and right are alike or none is sure",
        "both_hands": "whether the other hand lies on the same posts, turned over", "in_the_way": "beads that a post is near, feet on one another", "by_hand": "tubes without a rest", "comes_out": "how the part leaves it",
    },
    example={
        "joints": [
            {"name": "front", "at_mm": [120, 300, 200], "axis": [1, 0, 0], "bore_mm": 12, "wide_mm": 44, "outside_mm": 40},
            {"name": "rear", "at_mm": [-180, 300, 200], "axis": [1, 0, 0], "bore_mm": 12, "wide_mm": 44, "outside_mm": 40},
            {"name": "outer", "at_mm": [10, 640, 190], "axis": [0, 0.1, 1], "directed": True, "bore_mm": 12, "wide_mm": 40, "outside_mm": 60},
        ],
        "tubes": [
            {"name": "front tube", "a": "front", "b": "outer", "od_mm": 32, "a_seam_mm": 20, "b_seam_mm": 30},
            {"name": "rear tube", "a": "rear", "b": "outer", "od_mm": 32, "a_seam_mm": 20, "b_seam_mm": 30},
        ],
    },
    sources=("geometry",),
)  # fmt: skip
def run_jig(data: JigInput) -> tuple[dict[str, Any], Working]:
    """Posts, rests and ordinates that hold a part by its joints, and the figures that it is checked by."""
    features = _features(data)
    sizes = Sizes(
        clearance=data.clearance_mm, post_thick=data.post_thick_mm, post_wide=data.post_wide_mm, room=data.room_mm
    )
    plane = (
        through(features, data.through)
        if data.through
        else best_plane(features, sizes, datum=data.datum, shrink=data.shrink_mm)
    )
    jig = laid_out(features, sizes, plane, datum=data.datum, shrink=data.shrink_mm)
    alike = own_mirror(features.held) is not None
    signed = None if alike else signed_figure(features.held, data.tolerance_mm)
    out = {
        "u": triple(jig.plane.u), "v": triple(jig.plane.v), "n": triple(jig.plane.n), "lies": jig.plane.told,
        "joints": [
            {"name": one.held.name, "at_mm": one.at, "bar_mm": one.bar, "pinned": one.pinned, "spacer_mm": spacer_along(one), "lean_deg": one.lean_deg, "set_off_mm": one.moved}
            for one in jig.joints
        ],
        "posts": [
            {"name": one.name, "sort": one.sort, "at_mm": (one.u, one.v), "turned_deg": degrees(one.turn), "long_mm": one.top, "work_mm": one.work, "lean_deg": one.lean_deg}
            for one in jig.posts
        ],
        "plate_mm": (jig.low, jig.high), "check_mm": [(one.one, one.other, one.mm) for one in jig.distances], "own_mirror": alike,
        "signed": signed and {"plane": signed.plane, "at": signed.fourth, "height_mm": signed.height, "tolerance_mm": signed.tolerance},
        "both_hands": jig.both_hands, "in_the_way": jig.in_the_way, "by_hand": jig.by_hand, "comes_out": jig.comes_out,
    }  # fmt: skip
    return out, [
        step("a joint on the jig", "(u · d, v · d, n · d) from the datum; d from the datum’s joint", "geometry", n_x=float(jig.plane.n[0]), n_y=float(jig.plane.n[1]), n_z=float(jig.plane.n[2])),
        step("a leaning bolt’s hole", "h ± (wide/2 · cos β + outside/2 · sin β + spacer + post/2) · tan β", "geometry", joints=len(jig.joints)),
        step("bottom of a vee", "h − √(r² + (r / cos β)²)", "geometry", tubes=len(jig.bars)),
    ]  # fmt: skip


def _features(data: JigInput) -> Features:
    names = [one.name for one in data.joints]
    for i, name in enumerate(names):
        if name in names[:i]:
            raise InputError(
                f"Two joints are called “{name}”. Give each its own name.",
                code="contradictory",
                fields=(f"joints.{i}.name",),
                value=name,
            )
    held = []
    for i, one in enumerate(data.joints):
        way = np.array(one.axis)
        if float(np.linalg.norm(way)) < 1e-9:
            raise InputError(
                "A bore needs a direction: give its axis a length.", code="out_of_range", fields=(f"joints.{i}.axis",)
            )
        held.append(Held(name=one.name, at=one.at_mm, axis=triple(way / np.linalg.norm(way)), directed=one.directed, bore=one.bore_mm, wide=one.wide_mm, outside=one.outside_mm, what=""))  # fmt: skip
    at = {one.name: one.at for one in held}
    bars = []
    for i, tube in enumerate(data.tubes):
        for end, name in (("a", tube.a), ("b", tube.b)):
            if name not in at:
                raise InputError(
                    f"There is no joint “{name}”. There are {', '.join(names)}.",
                    code="unknown",
                    fields=(f"tubes.{i}.{end}",),
                    value=name,
                )
        if float(np.linalg.norm(np.subtract(at[tube.a], at[tube.b]))) < 1.0:
            raise InputError(
                "Its two joints are one place: a tube between them has no length.",
                code="contradictory",
                fields=(f"tubes.{i}.b",),
            )
        bars.append(Bar(name=tube.name, a=at[tube.a], b=at[tube.b], od=tube.od_mm, a_seam=tube.a_seam_mm if tube.a_welded else None, b_seam=tube.b_seam_mm if tube.b_welded else None, to=(tube.a, tube.b)))  # fmt: skip
    return Features(held=tuple(held), bars=tuple(bars))


class HubStandInput(Input):
    studs: Annotated[int, Field(ge=3, le=10)]
    circle_mm: Mm
    first_deg: Annotated[float, Field(ge=-180, le=180)] = Field(
        default=0.0, description="°; the first stud from straight up, clockwise, looking at the left wheel from outside"
    )
    used: list[Annotated[int, Field(ge=1, le=10)]] = Field(
        default=[], max_length=10, description="studs that are bolted, counted from 1; empty: all"
    )
    height_mm: Mm = Field(description="mm; of the middle of the hub’s face over the floor")
    camber_deg: Annotated[float, Field(ge=-15, le=15)] = Field(
        default=0.0, description="°; positive with the top outward"
    )
    toe_deg: Annotated[float, Field(ge=-15, le=15)] = Field(
        default=0.0, description="°; positive with the front inward"
    )


@topic(
    "hub-stand",
    HubStandInput,
    outputs={
        "studs": "of each that is bolted: number, forward_mm and up_mm from the middle of the hub’s face, height_mm over the floor, washers_mm between flange and plate",
        "same_for_both": "whether the other side’s studs come through the same holes",
    },
    example={"studs": 5, "circle_mm": 114.3, "height_mm": 310, "camber_deg": -1.5, "toe_deg": 0.1},
    sources=("geometry",),
)  # fmt: skip
def run_hub_stand(data: HubStandInput) -> tuple[dict[str, Any], Working]:
    """Holes and washers of a plate that stands in the wheel's place and holds the hub at height, camber and toe."""
    used = tuple(data.used) or tuple(range(1, data.studs + 1))
    holes = stud_holes(
        studs=data.studs,
        circle=data.circle_mm,
        first_deg=data.first_deg,
        used=used,
        height=data.height_mm,
        camber_deg=data.camber_deg,
        toe_deg=data.toe_deg,
    )
    out = {
        "studs": [{"number": one.number, "forward_mm": one.forward, "up_mm": one.up, "height_mm": one.height, "washers_mm": one.washers} for one in holes],
        "same_for_both": same_for_both(holes),
    }  # fmt: skip
    return out, [
        step("washers", "Δz · tan(−camber) + Δx · tan(toe), over the stud that asks least", "geometry", camber_deg=data.camber_deg, toe_deg=data.toe_deg),
        step("a stud’s height", "the face’s middle + its place in the flange’s own leaning plane", "geometry", height_mm=data.height_mm),
    ]  # fmt: skip
