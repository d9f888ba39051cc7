"""Hub stands as a kind of part: height, camber and toe from the wheel as the end has it, holes and washers from the hub's studs."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from tirante.core.checks.shown import Out
from tirante.core.document.forms.table import Field, FieldGroup, number
from tirante.core.document.parts.hub_stand import HubStand
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Hole, straight_sides
from tirante.core.jigs.hub_stand import FREE, StudHole, same_for_both, stud_holes
from tirante.core.parts.around import Around
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import BoughtPiece, Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View
from tirante.core.quantities import or_less

WIDTH, HEIGHT = 217.0, 190.0
LEAST_WEB = 3.0  # [mm] between the recess and a stud's hole; common practice, no source
THIN = 0.05  # [mm] of a washer that is none
NOT_CHECKED = (
    "caster: how the upright is turned about the wheel’s axis shows on no stud; set it by a gauge on the upright",
    "that the floor is level: shim the foot",
    "that it carries: the car stands on its own stands",
)
REMIND = "Take the washers out before anything is measured from the hub’s face."
ORDER = (
    "The car stands on stands, springs out; the floor under the hub stands is level, or their feet are shimmed.",
    "Bolt the stand to the studs, washers as listed between flange and plate, and push it to the track’s width: measure to the plate’s face.",
    "Set the upright’s caster by a gauge on it and clamp it; then tack what holds it.",
    REMIND,
)


class StudOut(Out):
    """A stud of the hub."""

    number: int
    forward_mm: float
    height_mm: float
    washers_mm: float


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
    """A stand with its holes."""

    holes: tuple[StudHole, ...]
    camber: float  # [°]
    toe: float
    height: float  # [mm]
    both: bool


class HubStandKind(Kind[HubStand]):
    """Hub stands."""

    key = "hub_stand"
    word = "hub stand"
    station = "jigs"
    saved = HubStand
    own = HubStandOwn
    of_tubes = False
    fields = (
        FieldGroup(title="Hub", note="studs are counted clockwise, looking at the left wheel from outside", fields=[
            number(HubStand, "studs", "Studs"), number(HubStand, "circle_mm", "On a circle of", "mm"), number(HubStand, "stud_mm", "Studs, thick", "mm"),
            number(HubStand, "first_deg", "First stud, from straight up", "°"), Field(path="used", label="Bolted by (numbers with commas; empty: all)", control="text"),
            number(HubStand, "recess_mm", "What stands out of its middle", "mm"),
        ]),
        FieldGroup(title="How the wheel stands", fields=[
            number(HubStand, "height_mm", "Axis over the floor", "mm", optional=True, empty="the tyre’s loaded radius"),
            number(HubStand, "camber_deg", "Camber", "°", optional=True, empty="as the end has it"),
            number(HubStand, "toe_deg", "Toe, in positive", "°", optional=True, empty="as the end has it"),
        ]),
        FieldGroup(title="Plate", fields=[
            number(HubStand, "plate_mm", "Plate", "mm"), number(HubStand, "edge_mm", "Plate round its holes", "mm"), number(HubStand, "foot_mm", "Foot, along the car", "mm"),
            Field(path="plate_name", label="Its steel", control="text"),
        ]),
    )  # fmt: skip

    def depends(self, saved: HubStand, around: Around) -> str:
        """The wheel, as its end has it."""
        end = around.ends.get(saved.end_id)
        return f"{end.wheel.model_dump_json()} {around.end_name(saved.end_id)}" if end else "gone"

    def work_out(self, saved: HubStand, around: Around) -> Part:
        """Holes, washers and plates."""
        common: dict[str, Any] = {"saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "made_of": (f"plate {saved.plate_mm:g} mm", saved.plate_name)}  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        wheel = around.ends[saved.end_id].wheel
        camber = wheel.camber_deg if saved.camber_deg is None else saved.camber_deg
        toe = wheel.toe_deg if saved.toe_deg is None else saved.toe_deg
        height = saved.height_mm or wheel.loaded_radius_mm
        try:
            holes = stud_holes(
                studs=saved.studs,
                circle=saved.circle_mm,
                first_deg=saved.first_deg,
                used=_used(saved),
                height=height,
                camber_deg=camber,
                toe_deg=toe,
            )
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("used",))[0], message=error.message),))
        made = StandMade(holes=holes, camber=camber, toe=toe, height=height, both=same_for_both(holes))
        faults = _faults(saved, made)
        if faults:
            return Part(**common, faults=faults)
        pieces = _pieces(saved, made)
        told = "the same plate on either side" if made.both else "left and right are mirror images"
        turned = (
            " Turned for the other side its washers change over, front for rear."
            if made.both and abs(toe) > 1e-9
            else ""
        )
        return Part(
            **common, pieces=pieces, own_mirror=made.both, views=(View(name="drawing", title="from outside, washers listed"), *plate_views(pieces)),
            card=Card(
                figures=(Figure(label="Axis over the floor", mm=height), *(Figure(label=f"Stud {one.number}, over the floor", mm=one.height, note=_washer(one)) for one in holes)),
                lines=(CardLine(text=REMIND, strong=True),),
            ),
            welding=ORDER, notes=(REMIND,),
            tool=f"Holds the hub of {around.end_name(saved.end_id)} {height:.1f} mm over the floor at {_deg(camber)} camber and {_deg(toe)} toe; {told}.{turned}", own=made,
        )  # fmt: skip

    def told(self, part: Part) -> HubStandOwn | None:
        """Its studs."""
        made = part.own
        if not isinstance(made, StandMade):
            return None
        return HubStandOwn(
            camber_deg=made.camber, toe_deg=made.toe, height_mm=made.height, same_for_both=made.both,
            studs=[StudOut(number=one.number, forward_mm=one.forward, height_mm=one.height, washers_mm=one.washers) for one in made.holes],
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """From outside, the front of the car on the left."""
        made, saved = part.own, part.saved
        if asked.name != "drawing" or not isinstance(made, StandMade) or not isinstance(saved, HubStand):
            return super().draw(part, asked, numbers)
        contour = upright(saved, made)
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
        sheet.box(
            frame.at(-saved.foot_mm / 2, 0),
            frame.at(saved.foot_mm / 2, saved.plate_mm),
            "pale",
            "visible",
            ref="field:foot_mm",
        )
        draw_contour(sheet, frame, contour, "visible", ref="field:edge_mm")
        axis = frame.at(0, made.height)
        for dx, dy in ((1, 0), (0, 1)):
            reach = (saved.circle_mm / 2 + saved.edge_mm + 6) * scale
            sheet.line(
                (axis[0] - dx * reach, axis[1] - dy * reach),
                (axis[0] + dx * reach, axis[1] + dy * reach),
                "centre",
                "muted",
            )
        for one in made.holes:
            x, y = frame.at(-one.forward, one.height)
            sheet.text(
                (x + saved.stud_mm / 2 * scale + 1, y + 1),
                str(one.number),
                3.2,
                tone="blue",
                bold=True,
                ref=f"stud:{one.number}",
            )
        sheet.dimension(frame.at(-max(saved.foot_mm / 2, right), 0), frame.at(-max(saved.foot_mm / 2, right), made.height), made.height, offset=7.0, ref="field:height_mm", tone="blue", prefix="axis ", text_side=-1.0)  # fmt: skip
        y = HEIGHT - 20
        for x, head in ((154, "stud"), (176, "ahead"), (195, "over floor"), (213, "washers")):
            sheet.text((x, y), head, 2.7, "end" if x > 154 else "middle", "muted")
        fine = Numbers(unit=numbers.unit, fits=True)
        for one in made.holes:
            y -= 5.2
            ref = f"stud:{one.number}"
            sheet.text((154, y), str(one.number), 3.4, "middle", "blue", bold=True, ref=ref)
            sheet.text((176, y), fine.main(one.forward), 3.2, "end", mono=True, ref=ref)
            sheet.text((195, y), fine.main(one.height), 3.2, "end", mono=True, ref=ref)
            sheet.text(
                (213, y),
                fine.main(one.washers) if one.washers > THIN else "none",
                3.2,
                "end",
                mono=True,
                bold=True,
                ref=ref,
            )
        y -= 8
        for line in (
            f"camber {_deg(made.camber)}, toe {_deg(made.toe)}",
            "washers between flange and plate",
            "OUT before measuring",
            f"opening ⌀{fine.main(saved.recess_mm + FREE)}",
            "same plate both sides" if made.both else "L and R differ: mirror it",
        ):
            sheet.text((150, y), line, 2.9, bold=line.isupper() or line.startswith("OUT"))
            y -= 4.8
        return sheet.done()


def _deg(value: float) -> str:
    return f"{value:+.2f}°".replace("-", "−")


def _washer(one: StudHole) -> str:
    return f"washers {one.washers:.2f} mm" if one.washers > THIN else "no washer"


def _used(saved: HubStand) -> tuple[int, ...]:
    """Numbers of the studs that are bolted.

    Raises:
        InputError: something that is no number.
    """
    if not saved.used.strip():
        return tuple(range(1, saved.studs + 1))
    words = [one.strip() for one in saved.used.split(",") if one.strip()]
    if not all(one.isascii() and one.isdigit() for one in words):
        raise InputError(
            "Give the studs’ numbers with commas between, as 1, 3, 4.",
            code="out_of_range",
            fields=("used",),
            value=saved.used,
        )
    return tuple(int(one) for one in words)


def _faults(saved: HubStand, made: StandMade) -> tuple[Misfit, ...]:
    web = saved.circle_mm / 2 - (saved.recess_mm + FREE) / 2 - (saved.stud_mm + FREE) / 2
    if web < LEAST_WEB:
        return (Misfit(field="recess_mm", message=f"The opening for the hub’s middle leaves {web:.1f} mm to the studs’ holes: {LEAST_WEB:g} mm is the least. Give {or_less(saved.recess_mm + 2 * (web - LEAST_WEB))} mm or less, or the studs’ circle anew."),)  # fmt: skip
    lowest = min(one.height for one in made.holes)
    if lowest < saved.plate_mm + saved.stud_mm + saved.edge_mm / 2:
        return (Misfit(field="height_mm", message=f"A stud would be {lowest:.0f} mm over the floor, in the stand’s foot. Check the axis’ height."),)  # fmt: skip
    return ()


def upright(saved: HubStand, made: StandMade) -> Contour:
    """The standing plate, from its foot's top, seen from outside on the left: forward to the left; its height over the floor up.

    Args:
        saved: the stand.
        made: worked out.
    """
    half = max(saved.circle_mm / 2 + saved.edge_mm, saved.recess_mm / 2 + saved.edge_mm)
    low, high = saved.plate_mm, made.height + saved.circle_mm / 2 + saved.edge_mm
    corners = [(-half, low), (half, low), (half, high), (-half, high)]
    edges = straight_sides(corners)
    holes = [Hole(0.0, made.height, saved.recess_mm + FREE)]
    holes += [Hole(-one.forward, one.height, saved.stud_mm + FREE) for one in made.holes]
    return Contour(edges=edges, holes=tuple(holes))


def _pieces(saved: HubStand, made: StandMade) -> tuple[Piece, ...]:
    contour = upright(saved, made)
    left, low, right, high = contour.bounds
    reach = min(120.0, (high - low) / 3)
    found: list[Piece] = [
        PlatePiece(name="upright plate", material=saved.plate_name, thickness=saved.plate_mm, length=high - low, width=right - left, outline=contour, told="square to its foot; of a right one the mirror image" if not made.both else "square to its foot"),
        PlatePiece(name="foot", material=saved.plate_name, thickness=saved.plate_mm, length=saved.foot_mm, width=2 * reach, told="flat, the upright along its middle"),
        PlatePiece(name="gusset", material=saved.plate_name, thickness=saved.plate_mm, length=reach, width=reach, told="a triangle, foot to upright, outboard", count=2),
    ]  # fmt: skip
    stacks = [one for one in made.holes if one.washers > THIN]
    found += [BoughtPiece(sort="washer", what=f"washers for a ⌀{saved.stud_mm:g} mm stud, {one.washers:.2f} mm together, for stud {one.number}") for one in stacks]  # fmt: skip
    return tuple(found)


HUB_STAND = HubStandKind()
