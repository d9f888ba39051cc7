"""Drawings of a lapped plate: from its side on its face with the joint beside it, its flat below, and the flat at 1:1."""

from __future__ import annotations

from dataclasses import replace

from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.flat.contour import Contour, Curve, Edge, Straight
from tirante.core.parts.joint import JointMade
from tirante.core.sheet.lapped import Lapped

STEPS = 12  # of a bend in a picture


def lapped_flat(flat: Lapped) -> Drawing:
    """The flat alone at 1:1, its origin at the lower left of its bounds: what the DXF holds.

    Args:
        flat: of the plate.
    """
    left, low, right, high = flat.contour.bounds
    sheet = Sheet(name="lapped-flat", title="lapped plate", width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, flat.contour, "cut")
    for bend in flat.contour.bends:
        sheet.line(frame.at(*bend.line.start), frame.at(*bend.line.end), "bend")
        way = "up" if bend.angle_deg > 0 else "down"
        sheet.text(frame.at(0.0, bend.line.y1 + 1.0), f"{way} {abs(bend.angle_deg):g}° R{bend.radius:g}", 3.5, "middle")
    cross_holes(sheet, frame, flat.contour)
    return sheet.done()


def lapped_sheet(saved: LappedPlate, flat: Lapped, made: JointMade, numbers: Numbers) -> Drawing:
    """From its side on what it lies on, the joint beside it; its flat below.

    Args:
        saved: as it is.
        flat: of it.
        made: the joint that it holds.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="lapped", title=saved.name, width=217.0, height=160.0, numbers=numbers)
    t, end = saved.plate.mm, saved.height.mm + saved.edge.mm
    joint = made.held.row
    top = saved.offset_mm + t + made.gap + 0.8 * joint.bore_mm
    low = max(12.0, saved.flange_mm)
    scale = min(118.0 / (saved.foot_mm + end), 52.0 / (top + low), 1.5)
    sheet.text((6, 152), "From its side", 3.8, bold=True)
    sheet.text((36, 152), f"{numbers.main(t)} {saved.grade_name}, cut {saved.count}", 2.9, tone="muted")
    frame = Frame(14 + scale * saved.foot_mm, 92 + scale * low, scale)
    stations = _stations(flat)
    ring = [frame.at(*flat.folded(y, 0.0)) for y in stations] + [frame.at(*flat.folded(y, t)) for y in reversed(stations)]  # fmt: skip
    sheet.area([frame.at(-saved.foot_mm, 0.0), frame.at(0.0, 0.0), frame.at(0.0, -low), frame.at(-saved.foot_mm, -low)], "pale", "thin", "muted")  # fmt: skip
    sheet.area(ring, "steel", ref="field:plate")
    face, x = saved.offset_mm + t, saved.height.mm
    bolt = made.bolt.diameter_mm if made.bolt else joint.bore_mm
    middle = face + made.gap / 2
    sheet.box(frame.at(x - joint.head_diameter_mm / 2, middle - joint.housing_width_mm / 2), frame.at(x + joint.head_diameter_mm / 2, middle + joint.housing_width_mm / 2), "pale", ref="joint")  # fmt: skip
    if made.beside > 0:
        outside = made.spacer.outside_mm / 2 if made.spacer else bolt
        for a, b in ((face, face + made.beside), (face + made.gap - made.beside, face + made.gap)):
            sheet.box(frame.at(x - outside, a), frame.at(x + outside, b), "pale", "thin", ref="field:spacer")
    sheet.box(frame.at(x - bolt / 2, saved.offset_mm - 0.9 * bolt), frame.at(x + bolt / 2, face + made.gap), "sheet", ref="check:pin_shear")  # fmt: skip
    sheet.box(frame.at(x - 0.8 * bolt, face + made.gap), frame.at(x + 0.8 * bolt, face + made.gap + 0.65 * bolt), "pale", ref="check:pin_bending")  # fmt: skip
    sheet.line(frame.at(x, saved.offset_mm - 1.3 * bolt), frame.at(x, face + made.gap + 1.2 * bolt), "centre", "muted")
    below = frame.at(0, -low)[1]
    sheet.dimension((frame.at(-saved.foot_mm, 0)[0], below), (frame.at(0, 0)[0], below), saved.foot_mm, offset=-5.0, ref="field:foot_mm", note="lies on", tone="blue")  # fmt: skip
    sheet.dimension((frame.at(0, 0)[0], below), (frame.at(x, 0)[0], below), saved.height.mm, offset=-5.0, ref="dim:height", note="to the hole", tone="blue")  # fmt: skip
    if saved.offset_mm > 0:
        side = frame.at(end, 0)[0]
        sheet.dimension((side, frame.at(0, saved.offset_mm)[1]), (side, frame.at(0, 0)[1]), saved.offset_mm, offset=6.0, ref="field:offset_mm", note="set off", tone="blue")  # fmt: skip
    told = [
        f"fillets {numbers.main(saved.weld_leg_mm)} along {'both sides' if saved.flange_mm > 0 else 'both sides and its end'}"
    ]
    if flat.joggle is not None:
        told.append(f"joggle {saved.bend_deg:g}°, allowance {numbers.main(flat.joggle.bend.allowance)} a bend, K {flat.joggle.bend.k:.3f}")  # fmt: skip
    if flat.hook is not None:
        told.append(f"hook of {numbers.main(saved.flange_mm)} outside, allowance {numbers.main(flat.hook.allowance)}")
    for i, line in enumerate(told):
        sheet.text((150, 142 - 5.2 * i), line, 2.7, tone="muted" if i else "ink")
    _flat_below(sheet, saved, flat)
    return sheet.done()


def _flat_below(sheet: Sheet, saved: LappedPlate, flat: Lapped) -> None:
    """Its flat, its length across the sheet."""
    contour = _lying(flat.contour)
    left, low, right, high = contour.bounds
    scale = min(150.0 / (right - left), 34.0 / (high - low), 1.5)
    sheet.scale = scale
    sheet.text((6, 76), "Flat, from the side away from its face" if flat.contour.bends else "The plate", 3.8, bold=True)
    frame = Frame(106 - scale * (left + right) / 2, 50, scale)
    draw_contour(sheet, frame, contour, "visible", ref="field:plate")
    y = frame.at(0, low)[1]
    for bend in flat.contour.bends:
        at = bend.line.y1
        sheet.line(frame.at(at, low - 3), frame.at(at, high + 3), "hidden", "blue", "bend")
    x0, x1, hole = (frame.at(v, 0)[0] for v in (left, right, flat.hole_at))
    joggled = [bend.line.y1 for bend in flat.contour.bends if bend.angle_deg < 0 and bend.line.y1 > 0]
    if joggled:
        sheet.dimension((frame.at(joggled[0], 0)[0], y), (hole, y), flat.hole_at - joggled[0], offset=-6.0, ref="dim:hole", note="bend to hole")  # fmt: skip
    sheet.dimension((x0, y), (hole, y), flat.hole_at - left, offset=-15.0, ref="dim:hole", note="end to hole")
    sheet.dimension((x0, y), (x1, y), right - left, offset=-24.0, ref="length", note="long")
    sheet.dimension((x1, y), (x1, frame.at(0, high)[1]), high - low, offset=-7.0, ref="dim:base_width", tone="blue")


def _lying(contour: Contour) -> Contour:
    """A contour turned so that its length lies across the sheet."""

    def turned(edge: Edge) -> Edge:
        if isinstance(edge, Straight):
            return Straight(edge.y1, -edge.x1, edge.y2, -edge.x2)
        return Curve(edge.cy, -edge.cx, edge.r, edge.start_deg - 90.0, edge.end_deg - 90.0, back=edge.back)

    holes = tuple(replace(hole, x=hole.y, y=-hole.x) for hole in contour.holes)
    return Contour(edges=tuple(turned(edge) for edge in contour.edges), holes=holes)


def _stations(flat: Lapped) -> list[float]:
    """Places along the flat, close together over the bends."""
    _, low, _, high = flat.contour.bounds
    found = {low, 0.0, high}
    for bend in flat.contour.bends:
        half = (flat.joggle.bend if flat.joggle and bend.line.y1 > 0 else flat.hook).allowance / 2  # type: ignore[union-attr]
        found |= {bend.line.y1 + half * (2 * i / STEPS - 1) for i in range(STEPS + 1)}
    return sorted(found)
