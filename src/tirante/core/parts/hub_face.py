"""What tools that are bolted to a hub's studs share: the face as the end has it, holes and washers, the plate, the table of studs on a sheet."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.checks.shown import Out
from tirante.core.document.end import End
from tirante.core.document.forms.table import Field, FieldGroup, number
from tirante.core.document.parts.hub_face import HubFace
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Hole, straight_sides
from tirante.core.jigs.hub_stand import FREE, StudHole, on_flange, same_for_both
from tirante.core.parts.part import BoughtPiece, Misfit, Piece, PlatePiece
from tirante.core.quantities import or_less
from tirante.core.suspension.measures import spin_axis

Array = NDArray[np.float64]
LEAST_WEB = 3.0  # [mm] between the recess and a stud's hole; common practice, no source
THIN = 0.05  # [mm] of a washer that is none
REMIND = "Take the washers out before anything is measured from the hub’s face."
OTHER_SIDE = "on the right, studs count the other way round"
NO_FACE = "How far the hub’s face lies outboard of the wheel’s middle plane is not known and taken as nothing: give it, or the end’s rim at station 2."
CASTER = "caster: how the upright is turned about the wheel’s axis shows on no stud; set it by a gauge on the upright"


class StudOut(Out):
    """A stud of the hub."""

    number: int
    forward_mm: float
    height_mm: float
    washers_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Face:
    """A hub's face, of a left wheel, and a plate that is bolted to it."""

    holes: tuple[StudHole, ...]
    camber: float  # [°]
    toe: float
    centre: tuple[float, float, float]  # of the face, from the wheel's own middle: forward, outward, up [mm]
    height: float  # of that, over what heights are told from [mm]
    out: float  # the plate's inboard face outboard of it [mm]
    both: bool  # whether one plate serves either side
    known: bool  # whether the end says where its face lies

    @property
    def studs_out(self) -> list[StudOut]:
        """Its studs, as they are told."""
        return [StudOut(number=one.number, forward_mm=one.forward, height_mm=one.height, washers_mm=one.washers) for one in self.holes]  # fmt: skip


def face_of(saved: HubFace, end: End, height: Callable[[Array], float]) -> Face | Misfit:
    """The face as an end has it; or what stands in the way.

    Args:
        saved: the tool.
        end: that its wheel belongs to, as it stands in the car.
        height: of the middle of the face, from where that lies from the wheel's own middle.
    """
    wheel = end.wheel
    camber = wheel.camber_deg if saved.camber_deg is None else saved.camber_deg
    toe = wheel.toe_deg if saved.toe_deg is None else saved.toe_deg
    given = saved.face_mm if saved.face_mm is not None else wheel.rim.spokes_mm if wheel.rim else None
    centre = (given or 0.0) * np.array(spin_axis(camber, toe, 1.0))
    up = height(centre)
    try:
        on = on_flange(
            studs=saved.studs,
            circle=saved.circle_mm,
            first_deg=saved.first_deg,
            used=used_studs(saved),
            camber_deg=camber,
            toe_deg=toe,
        )
        holes = on.at(up)
    except InputError as error:
        return Misfit(field=(error.fields or ("used",))[0], message=error.message)
    web = saved.circle_mm / 2 - (saved.recess_mm + FREE) / 2 - (saved.stud_mm + FREE) / 2
    if web < LEAST_WEB:
        return Misfit(field="recess_mm", message=f"The opening for the hub’s middle leaves {web:.1f} mm to the studs’ holes: {LEAST_WEB:g} mm is the least. Give {or_less(saved.recess_mm + 2 * (web - LEAST_WEB))} mm or less, or the studs’ circle anew.")  # fmt: skip
    at = (float(centre[0]), float(centre[1]), float(centre[2]))
    return Face(
        holes=holes,
        camber=camber,
        toe=toe,
        centre=at,
        height=up,
        out=on.out,
        both=same_for_both(holes),
        known=given is not None,
    )


def used_studs(saved: HubFace) -> tuple[int, ...]:
    """Numbers of the studs that are bolted.

    Args:
        saved: the tool.

    Raises:
        InputError: something that is no number.
    """
    if not saved.used.strip():
        return tuple(range(1, saved.studs + 1))
    words = [one.strip() for one in saved.used.split(",") if one.strip()]
    if not all(one.isascii() and one.isdigit() for one in words):
        raise InputError("Give the studs’ numbers with commas between, as 1, 3, 4.", code="out_of_range", fields=("used",), value=saved.used)  # fmt: skip
    return tuple(int(one) for one in words)


def hub_group(tool: type[HubFace]) -> FieldGroup:
    """What is asked of the hub.

    Args:
        tool: its model.
    """
    return FieldGroup(title="Hub", note="studs are counted clockwise, looking at the left wheel from outside", fields=[
        number(tool, "studs", "Studs"), number(tool, "circle_mm", "On a circle of", "mm"), number(tool, "stud_mm", "Studs, thick", "mm"),
        number(tool, "first_deg", "First stud, from straight up", "°"), Field(path="used", label="Bolted by (numbers with commas; empty: all)", control="text"),
        number(tool, "recess_mm", "What stands out of its middle", "mm"), number(tool, "face_mm", "Its face, outboard of the wheel’s middle", "mm", optional=True, empty="as the rim has it"),
    ])  # fmt: skip


def stands_fields(tool: type[HubFace]) -> list[Field]:
    """How the wheel stands.

    Args:
        tool: its model.
    """
    return [
        number(tool, "camber_deg", "Camber", "°", optional=True, empty="as the end has it"),
        number(tool, "toe_deg", "Toe, in positive", "°", optional=True, empty="as the end has it"),
    ]


def plate_fields(tool: type[HubFace]) -> list[Field]:
    """The plate that is bolted to the studs.

    Args:
        tool: its model.
    """
    return [
        number(tool, "plate_mm", "Plate", "mm"), number(tool, "edge_mm", "Plate round its holes", "mm"),
        Field(path="plate_name", label="Its steel", control="text"),
    ]  # fmt: skip


def half_of(saved: HubFace) -> float:
    """How far the plate reaches from the middle of the hub [mm].

    Args:
        saved: the tool.
    """
    return max(saved.circle_mm, saved.recess_mm) / 2 + saved.edge_mm


def hub_plate(saved: HubFace, face: Face, low: float, high: float) -> Contour:
    """The plate, seen from outside on the left: forward to the left; from a height to a height over what the face's is told from.

    Args:
        saved: the tool.
        face: worked out.
        low: its lower edge [mm].
        high: its upper one.
    """
    half = half_of(saved)
    holes = [Hole(0.0, face.height, saved.recess_mm + FREE)]
    holes += [Hole(-one.forward, one.height, saved.stud_mm + FREE) for one in face.holes]
    return Contour(edges=straight_sides([(-half, low), (half, low), (half, high), (-half, high)]), holes=tuple(holes))


def outlined(saved: HubFace, name: str, contour: Contour, told: str, count: int = 1) -> PlatePiece:
    """The plate as a piece.

    Args:
        saved: the tool.
        name: of the piece.
        contour: of `hub_plate`.
        told: what else is to be said of it.
        count: of it.
    """
    left, low, right, high = contour.bounds
    return PlatePiece(name=name, material=saved.plate_name, thickness=saved.plate_mm, length=high - low, width=right - left, outline=contour, told=told, count=count)  # fmt: skip


def washers_of(saved: HubFace, face: Face, count: int = 1) -> list[Piece]:
    """What goes on the studs.

    Args:
        saved: the tool.
        face: worked out.
        count: of hubs that it holds at once.
    """
    return [
        BoughtPiece(sort="washer", what=f"washers for a ⌀{saved.stud_mm:g} mm stud, {one.washers:.2f} mm together, for stud {one.number}", count=count)
        for one in face.holes if one.washers > THIN
    ]  # fmt: skip


def washer_told(one: StudHole) -> str:
    """What goes on a stud, in words.

    Args:
        one: of the hub.
    """
    return f"washers {one.washers:.2f} mm" if one.washers > THIN else "no washer"


def degrees_told(value: float) -> str:
    """An angle of the wheel as it is read: with its sign.

    Args:
        value: [°]
    """
    return f"{value:+.2f}°".replace("-", "−")


def stud_table(sheet: Sheet, y: float, face: Face, numbers: Numbers, third: str) -> float:
    """A sheet's list of the studs, at its right edge; its foot.

    Args:
        sheet: that is drawn.
        y: its head [mm of paper].
        face: worked out.
        numbers: how lengths are written.
        third: head of the heights.
    """
    for x, head in ((154, "stud"), (176, "ahead"), (195, third), (213, "washers")):
        sheet.text((x, y), head, 2.7, "end" if x > 154 else "middle", "muted")
    fine = Numbers(unit=numbers.unit, fits=True)
    for one in face.holes:
        y -= 5.2
        ref = f"stud:{one.number}"
        sheet.text((154, y), str(one.number), 3.4, "middle", "blue", bold=True, ref=ref)
        sheet.text((176, y), fine.main(one.forward), 3.2, "end", mono=True, ref=ref)
        sheet.text((195, y), fine.main(one.height), 3.2, "end", mono=True, ref=ref)
        sheet.text((213, y), fine.main(one.washers) if one.washers > THIN else "none", 3.2, "end", mono=True, bold=True, ref=ref)  # fmt: skip
    return y
