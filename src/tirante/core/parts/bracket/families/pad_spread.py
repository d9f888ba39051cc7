"""A plate between a pad's webs and the wall that they stand on, welded all round: its outline, and the least that holds."""

from __future__ import annotations

from dataclasses import replace
from itertools import product
from math import asin, pi
from typing import TypeVar

from tirante.core.brackets.mount_wall import Wall
from tirante.core.document.parts.pad import PadPart
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Sheet
from tirante.core.flat.contour import Contour
from tirante.core.parts.bracket.families.pad import PadShape
from tirante.core.parts.bracket.families.pad_under import Under
from tirante.core.parts.bracket.families.spread_plate import SPREAD, rounded_plate
from tirante.core.parts.bracket.families.wall_checks import BEYOND, STOCK
from tirante.core.parts.part import Misfit, PlatePiece

P = TypeVar("P", bound=PadPart)


def raised(under: Under, saved: PadPart) -> Under:
    """What the webs stand on with the spread plate on it.

    Args:
        under: without.
        saved: the pad.
    """
    if saved.spread_mm is None:
        return under
    if under.od is None:
        return replace(under, off=under.off - saved.spread_mm)
    return replace(under, od=under.od + 2 * saved.spread_mm)


def spread_across(saved: PadPart, od: float | None) -> float:
    """How wide it is cut, across the webs: round a tube at the middle of its thickness [mm].

    Args:
        saved: the pad.
        od: of the tube with the plate on it [mm]; None: a flat.
    """
    assert saved.spread_mm is not None
    own = saved.apart_mm + saved.web_mm
    if od is not None:
        own = (od - saved.spread_mm) * asin(min(1.0, own / od))
    return own + 2 * saved.beyond_mm


def spread_misfit(saved: PadPart, shape: PadShape, wall: Wall | str) -> Misfit | None:
    """Why its spread plate does not lie on its member; None where it does, or there is none.

    Args:
        saved: the pad.
        shape: on it.
        wall: under it; or why that is not known.
    """
    if saved.spread_mm is None:
        return None
    across = spread_across(saved, shape.od)
    name = shape.on.split(",")[0]
    if shape.od is not None and across > pi / 2 * (shape.od - 2 * saved.spread_mm):
        return Misfit(field="beyond_mm", message=f"Its spread plate goes {across:.0f} mm round {name}, past half way. Make it reach less far beyond the webs.")  # fmt: skip
    if isinstance(wall, Wall) and wall.kind == "box" and across > wall.width - 2 * wall.thickness:
        return Misfit(field="beyond_mm", message=f"Its spread plate is {across:.0f} mm wide, and the flat of {name} {wall.width - 2 * wall.thickness:.0f} mm. Make it reach less far beyond the webs, or set these nearer.")  # fmt: skip
    return None


def spread_outline(saved: PadPart, od: float | None) -> Contour:
    """As it is cut flat, its middle at 0; its length is along the webs.

    Args:
        saved: the pad.
        od: of the tube with the plate on it [mm]; None: a flat.
    """
    return rounded_plate(saved.length_mm + 2 * saved.beyond_mm, spread_across(saved, od))


def pad_spread_piece(saved: PadPart, od: float | None) -> PlatePiece:
    """As it is cut.

    Args:
        saved: the pad.
        od: of the tube with the plate on it [mm]; None: a flat.
    """
    assert saved.spread_mm is not None
    return PlatePiece(
        name=SPREAD, material=saved.plate_name, thickness=saved.spread_mm, length=saved.length_mm + 2 * saved.beyond_mm, width=spread_across(saved, od),
        outline=spread_outline(saved, od), told="rolled to the tube" if od is not None else "", sort="spread",
    )  # fmt: skip


def pad_spread_flat(saved: PadPart, od: float | None, name: str) -> Drawing:
    """It alone at 1:1, the webs' faces marked on it.

    Args:
        saved: the pad.
        od: of the tube with the plate on it [mm]; None: a flat.
        name: of the view.
    """
    assert saved.spread_mm is not None
    contour = spread_outline(saved, od)
    left, low, right, high = contour.bounds
    sheet = Sheet(name=name, title=SPREAD, width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    for side, face in product((1.0, -1.0), (1.0, -1.0)):
        y = side * saved.apart_mm / 2 + face * saved.web_mm / 2
        if od is not None:
            y = (od - saved.spread_mm) / 2 * asin(max(-1.0, min(1.0, 2 * y / od)))
        sheet.line(frame.at(-saved.length_mm / 2, y), frame.at(saved.length_mm / 2, y), "mark")
    return sheet.done()


def pad_spreads(saved: P) -> list[P]:
    """The same on each spread plate that is tried, the least metal first.

    Args:
        saved: the pad, on the wall itself.
    """

    def metal(one: tuple[float, float]) -> float:
        thick, beyond = one
        return thick * (saved.length_mm + 2 * beyond) * (saved.apart_mm + saved.web_mm + 2 * beyond)

    return [saved.model_copy(update={"spread_mm": t, "beyond_mm": e}) for t, e in sorted(product(STOCK, BEYOND), key=metal)]  # fmt: skip
