"""The tab: on its station's sheet with the clevis in section, and as a 1:1 template."""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.document.parts.bracket import SaddleBase, TabPair
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.parts.bracket.families.hole_pattern import holes_of, slot_line, slot_run, slotted
from tirante.core.parts.bracket.families.tab_checks import outer_room, outer_throat, weld_leg
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.joint import ForkMade, JointMade

WIDTH, HEIGHT = 217.0, 160.0


def tab_sheet(
    tab: TabPair,
    outline: TabOutline,
    joints: Sequence[JointMade],
    numbers: Numbers,
    *,
    inside: bool,
    unlike: bool = False,
) -> Drawing:
    """The plate dimensioned, and the clevis cut along the bolt.

    Args:
        tab: as it is saved.
        outline: of its plate.
        joints: that it holds, one at least.
        numbers: how lengths are written.
        inside: whether a torch lays fillets between the plates; else they run along the outer faces and round the ends.
        unlike: whether the other plate is cut otherwise.
    """
    sheet = Sheet(name="tab", title=tab.name, width=WIDTH, height=HEIGHT, numbers=numbers)
    low_x, _, high_x, top = outline.contour.bounds
    tall = top - outline.low
    scale = min(92 / tall, 62 / (2 * max(-low_x, high_x)), 1.5)
    sheet.scale = scale
    plates = joints[0].plates
    sheet.text((6, 146), "One plate" if plates > 1 else "The plate", 3.8, bold=True)
    sheet.text(
        (27, 146),
        f"{numbers.main(tab.plate.mm)} {tab.grade_name}, cut {plates * len(joints) * tab.count}",
        2.9,
        tone="muted",
    )
    frame = Frame(66, 36 + (98 - tall * scale) / 2 - outline.low * scale, scale)
    draw_contour(sheet, frame, outline.contour, "visible", ref="field:plate")
    at = frame.at
    places = holes_of(tab)
    if len(places) > 1:
        for number, (x, y) in enumerate(places, 1):
            # in a slot the places stand near: the first, the last and the joint's own are numbered
            if slotted(tab) and number not in (1, tab.in_hole, len(places)):
                continue
            sheet.text(
                at(x + tab.hole.mm / 2, tab.height.mm + y - tab.hole.mm / 2),
                f"{number}",
                3.4,
                bold=number == tab.in_hole,
                ref="dim:hole",
            )
    half, r = tab.base_width.mm / 2, tab.head_radius.mm
    sheet.line(at(-r * 1.2, tab.height.mm), at(r * 1.2, tab.height.mm), "centre", "muted")
    sheet.line(at(0, min(outline.low, 0) - 3 / scale), at(0, top + 3 / scale), "centre", "muted")
    square = isinstance(tab.base, SaddleBase) and abs(tab.base.angle_deg - 90.0) < 1e-9 and not tab.base.offset_mm
    if isinstance(tab.base, SaddleBase) and square:
        big = tab.base.tube_od.mm / 2
        sheet.arc(at(0, -big), big * scale, 18, 162, "hidden")
    low = at(0, outline.low)[1]
    if tab.corner is not None:  # a leg, from the corner's point
        sheet.dimension(
            at(*tab.corner.on_leg(-1.0, tab.corner.leg)), at(0, 0), tab.corner.leg, offset=-7.0, ref="dim:base_width", tone="blue"
        )  # fmt: skip
    else:
        sheet.dimension(
            at(-half, outline.low),
            at(half, outline.low),
            tab.base_width.mm,
            offset=-(7.0),
            ref="dim:base_width",
            tone="blue",
        )
    foot_x = at(-half, 0)[0]
    _vertical(sheet, foot_x - 6, at(0, 0)[1], at(0, tab.height.mm)[1], tab.height.mm, "dim:height")
    hole_edge = at(tab.hole.mm / 2 * 0.7071, tab.height.mm + tab.hole.mm / 2 * 0.7071)
    right = at(max(half, r, high_x), 0)[0] + 5
    sheet.leader(
        hole_edge,
        (right, at(0, top)[1] + 8),
        _hole_told(tab, numbers),
        "dim:hole",
    )
    centre = tab.height.mm + tab.edge.mm - r
    edge = at(r * 0.94, centre + r * 0.34)
    sheet.dimension(
        at(0, tab.height.mm),
        at(0, tab.height.mm + tab.edge.mm),
        tab.edge.mm,
        offset=-(right - at(0, 0)[0] + 4),
        ref="dim:edge",
        tone="blue",
        size=3.2,
    )
    sheet.leader(edge, (right, at(0, top)[1] + 3), f"R {numbers.main(r)}  ({numbers.other(r)})", "dim:head_radius")
    if isinstance(tab.base, SaddleBase):
        other = "cut otherwise: see its own template" if unlike else "turned over"
        sheet.text(
            (66, low - 15.5),
            f"foot cut R {numbers.main(tab.base.tube_od.mm / 2)} to stand square across the tube"
            if square
            else f"foot cut for a tube ⌀{numbers.main(tab.base.tube_od.mm)}, {tab.base.angle_deg:g}° to its axis{f'; the other plate is {other}' if plates > 1 else ''}",
            2.8,
            "middle",
            "muted",
        )
    if tab.lighten is not None:
        lighter = outline.contour.holes[-1]
        sheet.leader(
            at(lighter.diameter / 2 * 0.7071, lighter.y - lighter.diameter / 2 * 0.7071), (right, at(0, lighter.y)[1]),
            f"⌀{numbers.drilled(lighter.diameter)}, {numbers.main(tab.height.mm - lighter.y)} below the joint’s", "field:lighten/diameter_mm",
        )  # fmt: skip
    for one, hole in zip(tab.extra, outline.contour.holes[1:], strict=False):
        beside = f", {numbers.main(abs(one.beside_mm))} beside its axis" if one.beside_mm else ""
        sheet.leader(
            at(hole.x + hole.diameter / 2 * 0.7071, hole.y - hole.diameter / 2 * 0.7071), (right, at(0, hole.y)[1]),
            f"⌀{numbers.drilled(hole.diameter)}, {numbers.main(one.below_mm)} below the joint’s{beside}", "field:extra",
        )  # fmt: skip
    if tab.corner is not None:
        turned = (
            f", turned {abs(tab.corner.turned_deg):.1f}° {'right' if tab.corner.turned_deg > 0 else 'left'}"
            if tab.corner.turned_deg
            else ""
        )
        sheet.text((66, low - 15.5), f"foot notched 90° for a box’s corner{turned}; over its point a hole R {numbers.main(tab.corner.open)} stays unwelded", 2.8, "middle", "muted")  # fmt: skip
    first = joints[0]
    if isinstance(first, ForkMade):
        _between_ears(sheet, first, tab)
    else:
        _clevis(sheet, first, tab, inside)
    return sheet.done()


def _between_ears(sheet: Sheet, made: ForkMade, tab: TabPair) -> None:
    """A single plate between the ears of a clevis, cut along the bolt."""
    fork, n, t, high = made.fork, sheet.numbers, tab.plate.mm, tab.height.mm
    bolt = made.bolt.diameter_mm if made.bolt else made.held.row.bore_mm
    top, floor = high + tab.edge.mm, high + fork.floor
    back = floor + 0.6 * fork.ear  # what is drawn of the metal behind the fork
    scale = min(52 / (fork.outer + 2.6 * bolt), 68 / (back + 8), 1.5)
    sheet.text((132, 146), "Along the bolt", 3.8, bold=True)
    sheet.text((159, 146), "in section", 2.9, tone="muted")
    base = 42 + (92 - back * scale) / 2
    at = Frame(172, base, scale).at
    hole = tab.hole.mm / 2
    for low, up in ((0.0, high - hole), (high + hole, top)):
        ring = [at(-t / 2, low), at(t / 2, low), at(t / 2, up), at(-t / 2, up)]
        sheet.area(ring, "sheet", ref="field:plate")
        sheet.hatch(ring, 1.3, rising=True, ref="field:plate")
    leg = weld_leg(tab)
    for sign in (-1, 1):
        x0, x1 = sign * fork.gap / 2, sign * fork.outer / 2
        for low, up in ((high - fork.edge, high - bolt / 2), (high + bolt / 2, back)):
            ring = [at(x0, low), at(x1, low), at(x1, up), at(x0, up)]
            sheet.area(ring, "steel", ref="joint")
        face = sign * t / 2
        sheet.area((at(face, 0), at(face + sign * leg, 0), at(face, leg)), "solid", ref="check:tab_weld")
        if made.free > PACKED:
            sheet.box(at(face, high - bolt), at(x0, high + bolt), "pale", "thin", ref="joint")
    if floor < back:
        sheet.box(at(-fork.gap / 2, floor), at(fork.gap / 2, back), "steel", ref="joint")
    reach = fork.outer / 2
    sheet.box(at(-reach, high - bolt / 2), at(reach, high + bolt / 2), "sheet", ref="check:pin_shear")
    sheet.box(
        at(-reach - 0.65 * bolt, high - 0.85 * bolt), at(-reach, high + 0.85 * bolt), "pale", ref="check:pin_bending"
    )
    sheet.box(
        at(reach, high - 0.85 * bolt), at(reach + 0.9 * bolt, high + 0.85 * bolt), "pale", ref="check:pin_bending"
    )
    sheet.line(at(-reach - 1.2 * bolt, high), at(reach + 1.4 * bolt, high), "centre", "muted")
    half = fork.outer / 2 + 8
    sheet.line(at(-half, 0), at(half, 0))
    sheet.dimension(at(-t / 2, 0), at(t / 2, 0), t, offset=-7.0, ref="field:plate", note="plate", tone="blue")
    for offset, wide, ref, note in ((7.0, fork.gap, "dim:gap", "ears"), (16.0, fork.outer, "dim:grip", "grip")):
        sheet.dimension(at(-wide / 2, back), at(wide / 2, back), wide, offset=offset, ref=ref, note=note)
    label = made.bolt.label if made.bolt else "bolt not chosen"
    sheet.text((172, base - 20), label, 3.0, "middle", ref="check:pin_shear")
    sheet.text((172, base - 25), f"fillets {n.main(leg)}, both faces", 2.8, "middle", "muted", ref="check:tab_weld")


PACKED = 0.25  # mm beside a plate between a clevis's ears, from which washers are drawn


def _hole_told(tab: TabPair, numbers: Numbers) -> str:
    line, wide = slot_line(tab), f"{numbers.drilled(tab.hole.mm)}  ({numbers.drilled_other(tab.hole.mm)})"
    if line is None:
        return f"hole ⌀{wide}{_reamed(tab, numbers)}"
    return f"slot {wide}, runs {numbers.main(slot_run(line))}"


def _reamed(tab: TabPair, numbers: Numbers) -> str:
    return f", cut ⌀{numbers.drilled(tab.hole.mm - tab.ream_mm)}, reamed after welding" if tab.ream_mm else ""


def _vertical(sheet: Sheet, x: float, y1: float, y2: float, value: float, ref: str) -> None:
    sheet.line((x - 1.5, y1), (x + 5, y1), "dimension", "muted", ref)
    sheet.line((x - 1.5, y2), (x + 5, y2), "dimension", "muted", ref)
    sheet.line((x, y1), (x, y2), "dimension", "blue", ref)
    sheet.arrow((x, y1), -1.5707963, "blue", ref)
    sheet.arrow((x, y2), 1.5707963, "blue", ref)
    middle = (y1 + y2) / 2
    sheet.text((x - 1.6, middle), sheet.numbers.main(value), 3.6, "end", "blue", mono=True, bold=True, ref=ref)
    sheet.text((x - 1.6, middle - 3.4), sheet.numbers.other(value), 2.5, "end", "muted", mono=True, ref=ref)


def _clevis(sheet: Sheet, made: JointMade, tab: TabPair, inside: bool) -> None:
    joint = made.held.row
    gap = made.gap
    across = gap + 2 * tab.plate.mm
    bolt = made.bolt.diameter_mm if made.bolt else joint.bore_mm
    scale = min(52 / (across + 2.6 * bolt), 80 / (tab.height.mm + tab.edge.mm + 12), 1.5)
    n = sheet.numbers
    sheet.text((132, 146), "Along the bolt", 3.8, bold=True)
    sheet.text((159, 146), "in section", 2.9, tone="muted")
    base = 42 + (92 - (tab.height.mm + tab.edge.mm) * scale) / 2
    frame = Frame(172, base, scale)
    at = frame.at
    top = tab.height.mm + tab.edge.mm
    for sign in (-1, 1):
        x0, x1 = sign * gap / 2, sign * (gap / 2 + tab.plate.mm)
        below = [at(x0, 0), at(x1, 0), at(x1, tab.height.mm - tab.hole.mm / 2), at(x0, tab.height.mm - tab.hole.mm / 2)]
        above = [
            at(x0, tab.height.mm + tab.hole.mm / 2),
            at(x1, tab.height.mm + tab.hole.mm / 2),
            at(x1, top),
            at(x0, top),
        ]
        for piece in (below, above):
            sheet.area(piece, "sheet", ref="field:plate")
            sheet.hatch(piece, 1.3, rising=sign > 0, ref="field:plate")
        leg = weld_leg(tab)
        room = outer_room(tab, gap)
        for face in (x0, x1) if inside else (x1,):
            out = sign if face == x1 else -sign
            flat = leg if room is None or face == x0 else min(leg, max(room, 0.0))  # what of it lies on the face
            up = max(leg, tab.bevel_mm) if face == x1 else leg
            root = tab.bevel_mm if face == x1 else 0.0
            sheet.area(
                (at(face - out * root, 0), at(face + out * flat, 0), at(face, up)), "solid", ref="check:tab_weld"
            )
        if made.spacer or made.joint.shim_mm:
            inner = sign * joint.ball_width_mm / 2
            outside = made.spacer.outside_mm / 2 if made.spacer else bolt
            sheet.box(
                at(inner, tab.height.mm - outside),
                at(x0, tab.height.mm + outside),
                "pale",
                "thin",
                ref="field:spacer",
            )
    base_half = across / 2 + 8
    sheet.line(at(-base_half, 0), at(base_half, 0))
    half = joint.ball_width_mm / 2
    width = joint.housing_width_mm / 2
    big = joint.head_diameter_mm / 2
    sheet.box(at(-width, tab.height.mm - big), at(width, tab.height.mm + big), "steel", ref="joint")
    sheet.box(
        at(-half, tab.height.mm - joint.bore_mm * 0.75),
        at(half, tab.height.mm + joint.bore_mm * 0.75),
        "pale",
        ref="joint",
    )
    reach = across / 2
    sheet.box(
        at(-reach, tab.height.mm - bolt / 2),
        at(reach + 0.9 * bolt, tab.height.mm + bolt / 2),
        "sheet",
        ref="check:pin_shear",
    )
    sheet.box(
        at(-reach - 0.65 * bolt, tab.height.mm - bolt * 0.8),
        at(-reach, tab.height.mm + bolt * 0.8),
        "pale",
        ref="check:pin_bending",
    )
    sheet.box(
        at(reach, tab.height.mm - bolt * 0.8),
        at(reach + 0.8 * bolt, tab.height.mm + bolt * 0.8),
        "pale",
        ref="check:pin_bending",
    )
    sheet.line(at(-reach - bolt, tab.height.mm), at(reach + 1.3 * bolt, tab.height.mm), "centre", "muted")
    sheet.dimension(at(-gap / 2, 0), at(gap / 2, 0), gap, offset=-7.0, ref="dim:gap", note="between", tone="blue")
    sheet.dimension(at(-across / 2, top), at(across / 2, top), across, offset=7.0, ref="dim:grip", note="grip")
    label = made.bolt.label if made.bolt else "bolt not chosen"
    sheet.text((172, base - 20), f"{label}", 3.0, "middle", ref="check:pin_shear")
    parts = f"ball {n.main(joint.ball_width_mm)}"
    if made.spacer:
        parts += f" + spacers 2 × {n.main(made.spacer.height_mm)}"
    if made.joint.shim_mm:
        parts += f" + shims 2 × {n.main(made.joint.shim_mm)}"
    sheet.text((172, base - 24.5), parts, 2.8, "middle", "muted")
    where = "both faces" if inside else "outer face and both ends"
    outer = outer_throat(tab, gap)
    if outer is not None:
        where = f"{'inside' if inside else 'both ends'}; outside a throat of {n.main(outer)}"
    sheet.text(
        (172, base - 29), f"fillets {n.main(weld_leg(tab))}, {where}", 2.8, "middle", "muted", ref="check:tab_weld"
    )
    if tab.spread:
        t = tab.spread.thickness.mm
        half = gap / 2 + tab.plate.mm + tab.spread.beyond_mm
        sheet.box(at(-half, -t), at(half, 0), "steel", ref="field:spread/thickness")
        sheet.text(
            (172, base - 33.5), f"on a spread plate {n.main(t)} thick", 2.8, "middle", ref="field:spread/thickness"
        )


def tab_flat(tab: TabPair, outline: TabOutline, *, name: str = "tab-flat") -> Drawing:
    """The plate alone at 1:1, origin at the lower left of its bounds: what the DXF holds.

    Args:
        tab: as it is saved.
        outline: of the plate.
        name: of the view.
    """
    contour = outline.contour.under(tab.ream_mm, len(holes_of(tab)))
    left, low, right, high = contour.bounds
    sheet = Sheet(name=name, title="tab", width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    if tab.ream_mm:
        first = contour.holes[0]
        sheet.text(
            frame.at(first.x, first.y - first.diameter / 2 - 6.0), f"ream ⌀{tab.hole.mm:g} after welding", 3.0, "middle"
        )
    line = slot_line(tab)
    if line is not None:  # where it begins and ends, centre-punched
        for x, y in (line.start, line.end):
            reach = tab.hole.mm / 2 - 1.0
            sheet.line(frame.at(x - reach, tab.height.mm + y), frame.at(x + reach, tab.height.mm + y), "mark")
            sheet.line(frame.at(x, tab.height.mm + y - reach), frame.at(x, tab.height.mm + y + reach), "mark")
    of_joint = contour.holes[: len(contour.holes) - len(tab.extra) - (1 if tab.lighten else 0)]
    for number, hole in enumerate(of_joint, 1):
        if len(of_joint) > 1:
            sheet.text(
                frame.at(hole.x + hole.diameter / 2 + 1.0, hole.y + hole.diameter / 2 - 1.0),
                f"{number}",
                4.0,
                ref="dim:hole",
            )
    cross_holes(sheet, frame, contour)
    return sheet.done()
