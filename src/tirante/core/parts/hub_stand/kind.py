"""Hub stands as a kind of part: height, camber and toe from the wheel as the end has it, holes and washers from the hub's studs; of plate, or a plate on a post."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians
from typing import Any, Literal

from tirante.core.checks.shown import Out
from tirante.core.document.forms.table import FieldGroup, choice, number
from tirante.core.document.parts.hub_stand import HubStand
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.jigs.hub_stand import FREE
from tirante.core.parts.around import Around
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.hub_face import (
    CASTER,
    NO_FACE,
    OTHER_SIDE,
    REMIND,
    Face,
    StudOut,
    degrees_told,
    face_of,
    half_of,
    hub_group,
    hub_plate,
    outlined,
    plate_fields,
    stands_fields,
    stud_table,
    washer_told,
    washers_of,
)
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View, box_piece

WIDTH, HEIGHT = 217.0, 190.0
NOT_CHECKED = (CASTER, "that the floor is level: shim the foot", "that it carries: the car stands on its own stands")
ORDER = (
    "The car stands on stands, springs out; the floor under the hub stands is level, or their feet are shimmed.",
    "Bolt the stand to the studs, washers as listed between flange and plate, and push it to the track’s width: measure to the plate’s face.",
    "Set the upright’s caster by a gauge on it and clamp it; then tack what holds it.",
    REMIND,
)


class HubStandOwn(Out):
    """What only a hub stand has."""

    kind: Literal["hub_stand"] = "hub_stand"
    camber_deg: float
    toe_deg: float
    height_mm: float
    same_for_both: bool
    studs: list[StudOut]


@dataclass(frozen=True, slots=True, kw_only=True)
class StandMade:
    """A stand: the face that it holds, the lower and the upper edge of its plate, and where its post ends, over the floor [mm]."""

    face: Face
    low: float
    high: float
    post: float | None  # None: of plate


class HubStandKind(Kind[HubStand]):
    """Hub stands."""

    key = "hub_stand"
    word = "hub stand"
    station = "jigs"
    saved = HubStand
    own = HubStandOwn
    of_tubes = False
    fields = (
        hub_group(HubStand),
        FieldGroup(title="How the wheel stands", fields=[
            number(HubStand, "height_mm", "Middle of the hub’s face over the floor", "mm", optional=True, empty="as tyre, camber and rim have it"), *stands_fields(HubStand),
        ]),
        FieldGroup(title="Built of", fields=[
            choice("base", "Base", ["plate", "square tube"]), *plate_fields(HubStand), number(HubStand, "foot_mm", "Foot, along the car", "mm"),
            number(HubStand, "tube_mm", "Square tube, outside", "mm", only="base=square tube"), number(HubStand, "tube_wall_mm", "Its wall", "mm", only="base=square tube"),
            number(HubStand, "lap_mm", "Plate on the tube", "mm", only="base=square tube"),
        ]),
    )  # fmt: skip

    def depends(self, saved: HubStand, around: Around) -> str:
        """The wheel, as its end has it."""
        end = around.ends.get(saved.end_id)
        return f"{end.wheel.model_dump_json()} {around.end_name(saved.end_id)}" if end else "gone"

    def work_out(self, saved: HubStand, around: Around) -> Part:
        """Holes, washers and plates."""
        stock = (
            f"plate {saved.plate_mm:g} mm"
            if saved.base == "plate"
            else f"plate {saved.plate_mm:g} mm, box {saved.tube_mm:g} mm"
        )
        common: dict[str, Any] = {"saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "made_of": (stock, saved.plate_name)}  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        end = around.ends[saved.end_id]
        camber = end.wheel.camber_deg if saved.camber_deg is None else saved.camber_deg
        axis = end.wheel.loaded_radius_mm * cos(radians(camber))  # the tyre stands on the floor, leaning
        face = face_of(saved, end, lambda centre: saved.height_mm or axis + float(centre[2]))
        if isinstance(face, Misfit):
            return Part(**common, faults=(face,))
        made = _stand(saved, face)
        if isinstance(made, Misfit):
            return Part(**common, faults=(made,))
        pieces = _pieces(saved, made)
        told = "the same plate on either side" if face.both else "left and right are mirror images"
        turned = (
            " Turned for the other side its washers change over, front for rear."
            if face.both and abs(face.toe) > 1e-9
            else ""
        )
        return Part(
            **common, pieces=pieces, own_mirror=face.both, views=(View(name="drawing", title="from outside, washers listed"), *plate_views(pieces)),
            card=Card(
                figures=(Figure(label="Middle of the hub’s face, over the floor", mm=face.height), *(Figure(label=f"Stud {one.number}, over the floor", mm=one.height, note=washer_told(one)) for one in face.holes)),
                lines=(CardLine(text=REMIND, strong=True), CardLine(text=OTHER_SIDE)),
            ),
            welding=ORDER, notes=(REMIND, *(() if face.known or saved.height_mm else (NO_FACE,))),
            tool=f"Holds the hub of {around.end_name(saved.end_id)} {face.height:.1f} mm over the floor at {degrees_told(face.camber)} camber and {degrees_told(face.toe)} toe; {told}.{turned}", own=made,
        )  # fmt: skip

    def told(self, part: Part) -> HubStandOwn | None:
        """Its studs."""
        made = part.own
        if not isinstance(made, StandMade):
            return None
        face = made.face
        return HubStandOwn(camber_deg=face.camber, toe_deg=face.toe, height_mm=face.height, same_for_both=face.both, studs=face.studs_out)  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """From outside, the front of the car on the left."""
        made, saved = part.own, part.saved
        if asked.name != "drawing" or not isinstance(made, StandMade) or not isinstance(saved, HubStand):
            return super().draw(part, asked, numbers)
        face = made.face
        contour = hub_plate(saved, face, made.low, made.high)
        left, _, right, high = contour.bounds
        scale = min(120.0 / max(right - left, saved.foot_mm), (HEIGHT - 40) / high, 1.0)
        sheet = Sheet(name="hub_stand", title=saved.name, width=WIDTH, height=HEIGHT, numbers=numbers, scale=scale)
        frame = Frame(84.0, 16.0, scale)
        sheet.text(
            (6, HEIGHT - 6),
            "left side from outside, front of the car on the left; heights from the floor",
            2.9,
            tone="muted",
        )
        sheet.line((4, frame.oy), (150, frame.oy), "visible")
        foot = saved.plate_mm if made.post is None else saved.tube_mm
        sheet.box(
            frame.at(-saved.foot_mm / 2, 0), frame.at(saved.foot_mm / 2, foot), "pale", "visible", ref="field:foot_mm"
        )
        draw_contour(sheet, frame, contour, "visible", ref="field:edge_mm")
        if made.post is not None:  # seen from outside it stands before the plate
            sheet.box(
                frame.at(-saved.tube_mm / 2, foot),
                frame.at(saved.tube_mm / 2, made.post),
                "pale",
                "visible",
                ref="field:tube_mm",
            )
        axis = frame.at(0, face.height)
        for dx, dy in ((1, 0), (0, 1)):
            reach = (saved.circle_mm / 2 + saved.edge_mm + 6) * scale
            sheet.line(
                (axis[0] - dx * reach, axis[1] - dy * reach),
                (axis[0] + dx * reach, axis[1] + dy * reach),
                "centre",
                "muted",
            )
        for one in face.holes:
            x, y = frame.at(-one.forward, one.height)
            sheet.text(
                (x + saved.stud_mm / 2 * scale + 1, y + 1),
                str(one.number),
                3.2,
                tone="blue",
                bold=True,
                ref=f"stud:{one.number}",
            )
        sheet.dimension(frame.at(-max(saved.foot_mm / 2, right), 0), frame.at(-max(saved.foot_mm / 2, right), face.height), face.height, offset=7.0, ref="field:height_mm", tone="blue", prefix="face ", text_side=-1.0)  # fmt: skip
        y = stud_table(sheet, HEIGHT - 20, face, numbers, "over floor")
        y -= 8
        post = (
            ()
            if made.post is None
            else (f"post to {numbers.main(made.post)} over the floor", f"plate laps it by {numbers.main(saved.lap_mm)}")
        )
        for line in (
            f"camber {degrees_told(face.camber)}, toe {degrees_told(face.toe)}",
            "washers between flange and plate",
            "OUT before measuring",
            OTHER_SIDE,
            f"opening ⌀{Numbers(unit=numbers.unit, fits=True).main(saved.recess_mm + FREE)}",
            "same plate both sides" if face.both else "L and R differ: mirror it",
            *post,
        ):
            sheet.text((150, y), line, 2.9, bold=line.isupper() or line.startswith("OUT"))
            y -= 4.8
        return sheet.done()


def _stand(saved: HubStand, face: Face) -> StandMade | Misfit:
    lowest = min(one.height for one in face.holes)
    high = face.height + half_of(saved)
    if saved.base == "plate":
        if lowest < saved.plate_mm + saved.stud_mm + saved.edge_mm / 2:
            return Misfit(field="height_mm", message=f"A stud would be {lowest:.0f} mm over the floor, in the stand’s foot. Check the axis’ height.")  # fmt: skip
        return StandMade(face=face, low=saved.plate_mm, high=high, post=None)
    post = face.height - half_of(saved)  # nuts and what stands out of the hub are clear of it
    if post - saved.tube_mm < saved.lap_mm:
        return Misfit(field="lap_mm", message=f"The post would end {post:.0f} mm over the floor, {post - saved.tube_mm:.0f} mm over its foot, and the plate is to lie on {saved.lap_mm:g} mm of it. Check the axis’ height, let it lap less, or build it of plate.")  # fmt: skip
    return StandMade(face=face, low=post - saved.lap_mm, high=high, post=post)


def _pieces(saved: HubStand, made: StandMade) -> tuple[Piece, ...]:
    face = made.face
    mirror = "" if face.both else "; of a right one the mirror image"
    washers = washers_of(saved, face)
    if made.post is None:
        reach = min(120.0, (made.high - made.low) / 3)
        return (
            outlined(saved, "upright plate", hub_plate(saved, face, made.low, made.high), f"square to its foot{mirror}"),
            PlatePiece(name="foot", material=saved.plate_name, thickness=saved.plate_mm, length=saved.foot_mm, width=2 * reach, told="flat, the upright along its middle"),
            PlatePiece(name="gusset", material=saved.plate_name, thickness=saved.plate_mm, length=reach, width=reach, told="a triangle, foot to upright, outboard", count=2),
            *washers,
        )  # fmt: skip
    stock = saved.tube_mm, saved.tube_wall_mm
    lap = f"upright, on the post’s inboard side, {saved.lap_mm:g} mm of it welded down both edges"
    return (
        outlined(saved, "hub plate", hub_plate(saved, face, made.low, made.high), f"{lap}{mirror}"),
        box_piece("post", *stock, made.post - saved.tube_mm),
        box_piece("foot, along the car", *stock, saved.foot_mm), box_piece("foot, outboard", *stock, saved.foot_mm / 2),
        *washers,
    )  # fmt: skip


HUB_STAND = HubStandKind()
