"""Contours and drawing of a split clamp: the eared half, the other, and both on their tube."""

from __future__ import annotations

from math import acos, atan2, degrees, hypot, sqrt

from tirante.core.document.parts.split_clamp import SplitClamp
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight
from tirante.core.parts.bracket.families.tab_outline import NARROWEST, flanks
from tirante.core.parts.joint import JointMade

BESIDE = 1.25  # diameters of a clamp bolt from its middle to the half's end; common practice, no source

FILLET = 4.0  # mm, of the round where the ear leaves its shoulders: cutters leave no sharp corner, and it would crack; common practice, no source


def half_wide(saved: SplitClamp) -> float:
    """From the tube's middle to either end of a half [mm].

    Args:
        saved: as it is.
    """
    return saved.apart_mm + BESIDE * saved.clamp_bolt_mm


def eared_half(saved: SplitClamp, left: float = 0.0) -> Contour:
    """The half with the ear, from the tube's middle, the joint up.

    Args:
        saved: as it is.
        left: on the bore's radius, to be bored [mm].

    Raises:
        InputError: its sizes contradict each other.
    """
    wide, low, up, ear = half_wide(saved), saved.gap_mm / 2, saved.shoulder_mm, saved.base_width.mm / 2
    radius, centre = saved.head_radius.mm, saved.height.mm + saved.edge.mm - saved.head_radius.mm
    if up <= low:
        raise InputError("The shoulders lie lower than the halves part. Set them further from the tube’s middle.", code="contradictory", fields=("shoulder_mm",), value=up, limits=(low, None))  # fmt: skip
    if 2 * ear < NARROWEST * radius - 1e-9:
        raise InputError(f"The ear is narrower at its shoulders ({2 * ear:g} mm) than half its head ({NARROWEST * radius:g} mm). Widen it, or set the clamp bolts further apart.", code="contradictory", fields=("base_width",), value=2 * ear, limits=(NARROWEST * radius, None))  # fmt: skip
    if ear >= wide:
        raise InputError("The ear is wider than the half that it stands on: nuts have no shoulder. Make it narrower.", code="contradictory", fields=("base_width",), value=2 * ear, limits=(None, 2 * wide))  # fmt: skip
    if saved.edge.mm < radius - 1e-9:
        raise InputError("The hole stands past the head’s centre, where the metal thins on every side. Make the edge distance at least the head radius.", code="contradictory", fields=("edge",), value=saved.edge.mm, limits=(radius, None))  # fmt: skip
    if saved.hole.mm / 2 >= radius:
        raise InputError("The hole breaks out of the head. Use a larger head radius.", code="contradictory", fields=("hole",), value=saved.hole.mm, limits=(None, 2 * radius))  # fmt: skip
    if saved.height.mm - saved.hole.mm / 2 <= up:
        raise InputError(f"The joint’s hole reaches down to the shoulders, {saved.height.mm - up:.1f} mm below its middle: what is held has no room there. Lower them, or stand the joint further off.", code="contradictory", fields=("shoulder_mm",), value=up, limits=(None, saved.height.mm - saved.hole.mm / 2))  # fmt: skip
    foot, upper = _filleted(ear, up, flanks(((-ear, up), (ear, up)), centre, radius))
    if foot >= wide:
        raise InputError("The round at the ear’s foot runs off the half’s end. Make the ear narrower, or set the clamp bolts further apart.", code="contradictory", fields=("base_width",), value=2 * ear)  # fmt: skip
    edges: list[Edge] = [Straight(wide, low, wide, up), Straight(wide, up, foot, up), *upper]
    edges += [Straight(-foot, up, -wide, up), Straight(-wide, up, -wide, low)]
    return Contour(edges=(*edges, *_bored(saved, left, low, wide)), holes=(Hole(0.0, saved.height.mm, saved.hole.mm),))


def ear_alone(saved: SplitClamp) -> Contour:
    """What of the eared half stands over its shoulders.

    Args:
        saved: as it is.

    Raises:
        InputError: as `eared_half`.
    """
    whole, up, foot = eared_half(saved), saved.shoulder_mm, ear_foot(saved)
    return Contour(edges=(Straight(-foot, up, foot, up), *whole.edges[2:7]), holes=whole.holes)


def ear_foot(saved: SplitClamp) -> float:
    """From the tube's middle, across, to where the ear's foot with its round ends on the shoulders [mm].

    Args:
        saved: as it is.

    Raises:
        InputError: as `eared_half`.
    """
    return eared_half(saved).edges[1].end[0]


def _filleted(ear: float, up: float, upper: list[Edge]) -> tuple[float, list[Edge]]:
    """The ear with a round in both corners that it makes with its shoulders: how far out that reaches, and its edges from right to left."""
    first, head, last = upper
    (x, y), length = first.end, hypot(first.end[0] - ear, first.end[1] - up)
    dx, dy = (x - ear) / length, (y - up) / length
    middle = ear + FILLET * (1 + dx) / dy, up + FILLET
    touch = middle[0] - FILLET * dy, middle[1] + FILLET * dx
    if touch[1] >= y:
        raise InputError(f"The ear is too short over its shoulders for the round of {FILLET:g} mm at its foot. Lower the shoulders, or stand the joint further off.", code="contradictory", fields=("shoulder_mm",), value=up)  # fmt: skip
    turn = degrees(atan2(dx, -dy)) % 360.0  # from the round's middle to the flank, whichever way that leans
    right = Curve(*middle, FILLET, turn, 270.0, back=True)
    left = Curve(-middle[0], middle[1], FILLET, 270.0, 540.0 - turn, back=True)
    return middle[0], [right, Straight(*touch, x, y), head, Straight(*last.start, -touch[0], touch[1]), left]


def under_ear(saved: SplitClamp) -> Contour:
    """The eared half without its ear.

    Args:
        saved: as it is.
    """
    wide, low, up = half_wide(saved), saved.gap_mm / 2, saved.shoulder_mm
    return Contour(edges=(Straight(wide, low, wide, up), Straight(wide, up, -wide, up), Straight(-wide, up, -wide, low), *_bored(saved, 0.0, low, wide)))  # fmt: skip


def other_half(saved: SplitClamp, left: float = 0.0) -> Contour:
    """The half without an ear, as it is laid out: its back down, from the tube's middle.

    Args:
        saved: as it is.
        left: on the bore's radius, to be bored [mm].
    """
    wide, high, back = half_wide(saved), saved.gap_mm / 2, saved.cap_mm
    # turned over: its bore up
    turned = _bored(saved, left, high, wide)
    edges = [_upside_down(edge) for edge in turned]
    return Contour(edges=(Straight(-wide, -high, -wide, -back), Straight(-wide, -back, wide, -back), Straight(wide, -back, wide, -high), *edges))  # fmt: skip


def _bored(saved: SplitClamp, left: float, low: float, wide: float) -> list[Edge]:
    """From the eared half's left lower end over its bore to its right one."""
    r = saved.tube_od.mm / 2 - left
    beside = sqrt(max(0.0, r**2 - low**2))
    turn = degrees(acos(min(1.0, beside / r)))
    return [Straight(-wide, low, -beside, low), Curve(0.0, 0.0, r, turn, 180.0 - turn, back=True), Straight(beside, low, wide, low)]  # fmt: skip


def _upside_down(edge: Edge) -> Edge:
    """Turned half round about the tube's middle."""
    if isinstance(edge, Straight):
        return Straight(-edge.x1, -edge.y1, -edge.x2, -edge.y2)
    return Curve(-edge.cx, -edge.cy, edge.r, edge.start_deg + 180.0, edge.end_deg + 180.0, back=edge.back)


def clamp_sheet(saved: SplitClamp, eared: Contour, made: JointMade, numbers: Numbers) -> Drawing:
    """Both halves on their tube, seen along it, and the pair from its side.

    Args:
        saved: as it is.
        eared: the half with the ear, all its holes in it.
        made: the joint that it holds.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="clamp", title=saved.name, width=217.0, height=150.0, numbers=numbers)
    wide, r, d, t = half_wide(saved), saved.tube_od.mm / 2, saved.clamp_bolt_mm, saved.plate.mm
    top, back = saved.height.mm + saved.edge.mm, saved.cap_mm + 0.7 * d
    outer = made.gap / 2 + t
    scale = min(74.0 / (2 * wide), 90.0 / (top + back), 40.0 / outer, 1.5)
    sheet.scale = scale
    sheet.text((6, 142), "Seen along the tube", 3.8, bold=True)
    sheet.text((52, 142), f"two of these, one on either side; plate {numbers.main(t)} {saved.grade_name}", 2.9, tone="muted")  # fmt: skip
    frame = Frame(62.0, 24.0 + scale * back, scale)
    at = frame.at
    sheet.circle(at(0, 0), r * scale, "visible", "steel", ref="field:mount")
    if saved.wall_mm and saved.wall_mm < r:
        sheet.circle(at(0, 0), (r - saved.wall_mm) * scale, "thin", "sheet", ref="field:mount")
    for contour in (eared, other_half(saved)):
        draw_contour(sheet, frame, contour, "visible", ref="field:plate")
    for way in (-1.0, 1.0):
        x = way * saved.apart_mm
        for side in (-d / 2, d / 2):
            sheet.line(at(x + side, -saved.cap_mm), at(x + side, saved.shoulder_mm), "hidden", ref="field:clamp_bolt_mm")  # fmt: skip
        sheet.box(at(x - 0.85 * d, -saved.cap_mm - 0.65 * d), at(x + 0.85 * d, -saved.cap_mm), "pale", ref="check:clamp_bolts")  # fmt: skip
        sheet.box(at(x - 0.85 * d, saved.shoulder_mm), at(x + 0.85 * d, saved.shoulder_mm + 0.9 * d), "pale", ref="check:clamp_bolts")  # fmt: skip
        sheet.line(at(x, -back - 3 / scale), at(x, saved.shoulder_mm + 1.4 * d), "centre", "muted")
    sheet.line(at(0, -back), at(0, top + 3 / scale), "centre", "muted")
    sheet.line(at(-wide - 3 / scale, 0), at(wide + 3 / scale, 0), "centre", "muted")
    low = at(0, -back)[1]
    sheet.dimension((at(-saved.apart_mm, 0)[0], low), (at(saved.apart_mm, 0)[0], low), 2 * saved.apart_mm, offset=-6.0, ref="field:apart_mm", note="clamp bolts", tone="blue")  # fmt: skip
    sheet.dimension((at(-wide, 0)[0], low), (at(wide, 0)[0], low), 2 * wide, offset=-14.0, ref="dim:length", note="long")  # fmt: skip
    right = at(wide, 0)[0]
    for high, offset, ref in ((saved.shoulder_mm, 7.0, "field:shoulder_mm"), (saved.height.mm, 16.0, "dim:height")):
        sheet.dimension((right, at(0, high)[1]), (right, at(0, 0)[1]), high, offset=offset, ref=ref, tone="blue")
    sheet.dimension((right, at(0, 0)[1]), (right, at(0, -saved.cap_mm)[1]), saved.cap_mm, offset=7.0, ref="field:cap_mm", tone="blue")  # fmt: skip
    _from_its_side(sheet, saved, made, scale, at(0, 0)[1])
    told = [
        f"halves {numbers.main(saved.gap_mm)} apart, bored as one to ⌀{numbers.drilled(saved.tube_od.mm)} over a shim as thick",
        f"bolts M{d:g}, class {saved.clamp_class}, two a clamp, drilled edgewise in the middle of the plate",
    ]
    for i, line in enumerate(told):
        sheet.text((6, 135.5 - 5 * i), line, 2.7, tone="muted" if i else "ink")
    return sheet.done()


def _from_its_side(sheet: Sheet, saved: SplitClamp, made: JointMade, scale: float, level: float) -> None:
    """The pair on its tube with what it holds, square to the tube."""
    frame = Frame(166.0, level, scale)
    at, r, t = frame.at, saved.tube_od.mm / 2, saved.plate.mm
    outer, row = made.gap / 2 + t, made.held.row
    sheet.text((128, 142), "Square to it", 3.8, bold=True)
    reach = 1.18 * outer
    sheet.box(at(-reach, -r), at(reach, r), "steel", ref="field:mount")
    bolt = made.bolt.diameter_mm if made.bolt else row.bore_mm
    for way in (-1.0, 1.0):
        a, b = sorted((way * made.gap / 2, way * outer))
        sheet.box(at(a, saved.gap_mm / 2), at(b, saved.height.mm + saved.edge.mm), "pale", ref="field:plate")
        sheet.box(at(a, -saved.cap_mm), at(b, -saved.gap_mm / 2), "pale", ref="field:plate")
        sheet.line(at(a, saved.shoulder_mm), at(b, saved.shoulder_mm), "thin")
        if made.beside > 0:
            inner = made.gap / 2 - made.beside
            c, e = sorted((way * inner, way * made.gap / 2))
            half = made.spacer.outside_mm / 2 if made.spacer else bolt
            sheet.box(at(c, saved.height.mm - half), at(e, saved.height.mm + half), "pale", "thin", ref="field:spacer")
        head = sorted((way * outer, way * (outer + 0.65 * bolt)))
        sheet.box(at(head[0], saved.height.mm - 0.8 * bolt), at(head[1], saved.height.mm + 0.8 * bolt), "pale", ref="check:pin_shear")  # fmt: skip
    half = row.housing_width_mm / 2
    sheet.box(at(-half, saved.height.mm - row.head_diameter_mm / 2), at(half, saved.height.mm + row.head_diameter_mm / 2), "pale", ref="joint")  # fmt: skip
    sheet.line(at(-outer - bolt, saved.height.mm), at(outer + bolt, saved.height.mm), "centre", "muted")
    sheet.line(at(-reach - 3 / scale, 0), at(reach + 3 / scale, 0), "centre", "muted")
    low = at(0, -saved.cap_mm)[1]
    sheet.dimension((at(-made.gap / 2, 0)[0], low), (at(made.gap / 2, 0)[0], low), made.gap, offset=-6.0, ref="dim:gap", note="apart", tone="blue")  # fmt: skip
    sheet.dimension((at(made.gap / 2, 0)[0], low), (at(outer, 0)[0], low), t, offset=-14.0, ref="field:plate", tone="blue")  # fmt: skip
