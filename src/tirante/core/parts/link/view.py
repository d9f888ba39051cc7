"""The link: whole, to scale; one end in section; the adjuster's travel."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil, degrees

from tirante.core.document.parts.link import FlatEnd, Plug
from tirante.core.drawing.model import Drawing, Tone
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint
from tirante.core.members.bend_line import BendLine, face_of
from tirante.core.members.link_stack import EndState, LinkStack
from tirante.core.parts.link.assembly import Assembly, EngagementRules, LinkEndParts, PlainEnd, ThreadedEnd
from tirante.core.parts.link.flat import ROUND_AGAIN, sizes_of
from tirante.core.parts.link.pieces import shortened
from tirante.core.parts.link.plug import weld_at
from tirante.core.units import INCH

WIDTH, HEIGHT = 217.0, 160.0


ROOM_FOR_BEND = 20.0  # mm of the sheet above the line between the pivots
At = Callable[[float, float], SheetPoint]


def link_sheet(
    assembly: Assembly, stack: LinkStack, rules: tuple[EngagementRules | None, EngagementRules | None], end: int,
    numbers: Numbers, turns: float = 0.0,
) -> Drawing:  # fmt: skip
    """The link's sheet: `end` 0 or 1 in section; the adjuster marked at `turns` of the link out (+) or in (−).

    Args:
        assembly: the link with its rows.
        stack: its lengths and threads.
        rules: of least engagement, by end.
        end: 0 or 1: which stands in section.
        numbers: how lengths are written.
        turns: of the link out (+) or in (−).
    """
    sheet = Sheet(name="link", title=assembly.link.name, width=WIDTH, height=HEIGHT, numbers=numbers)
    _whole(sheet, assembly, stack)
    parts = assembly.ends[end]
    letter = "AB"[end]
    if isinstance(parts, ThreadedEnd):
        hand = "left-hand" if parts.hand == "LH" else "right-hand"
        sheet.text((6, 100.5), f"End {letter}, {hand}", 3.8, bold=True)
        sheet.text(
            (6 + 1.86 * len(f"End {letter}, {hand}") + 4, 100.5),
            f"in section, {parts.joint.designation}",
            2.9,
            tone="muted",
        )
        _end_in_section(sheet, assembly, parts, stack.ends[end], rules[end], letter.lower())
    else:
        sheet.text((6, 100.5), f"End {letter}, {parts.what}", 3.8, bold=True)
        about = "it does not adjust"
        if isinstance(parts, PlainEnd) and parts.machined:
            made = parts.machined
            n = sheet.numbers
            about += f"; machined {made.form}, {n.written(made.thickness_mm)} thick, {n.written(made.width_mm)} wide, hole {n.written(made.hole_mm)}"
        elif isinstance(parts, PlainEnd) and parts.plug:
            n, plug = sheet.numbers, parts.plug
            about += f"; solid plug, {n.written(plug.long_mm - plug.leg_mm)} long, sunk {n.written(plug.leg_mm)}; hole {n.written(plug.hole_mm)} across tube and plug, bored after welding"
        elif isinstance(parts, PlainEnd) and parts.flat:
            width, thick = sizes_of(parts.flat, assembly.tube)
            n = sheet.numbers
            about += f"; {parts.flat.form}, {n.written(thick)} thick, {n.written(width)} wide, hole {n.written(parts.flat.hole_mm)}"
        elif isinstance(parts, PlainEnd) and parts.sleeve:
            n = sheet.numbers
            about += f"; sleeve {n.written(parts.sleeve.outside_mm)} outside, wall {n.written(parts.sleeve.wall_mm)}, {n.written(parts.sleeve.long_mm)} long"
            if parts.sleeve.reducer:
                about += f"; reducer, neck {n.written(parts.sleeve.reducer.neck_mm)}"
        else:
            about += ", is welded, and is not checked here"
        sheet.text((6, 94), about, 2.9, tone="muted")
    _adjuster(sheet, stack, turns)
    return sheet.done()


def _eye(sheet: Sheet, at: At, scale: float, parts: ThreadedEnd, ref: str) -> None:
    """A rod end drawn flat, its eye at 0 and its shank along what `at` counts from there."""
    joint = parts.joint
    r = joint.head_diameter_mm / 2
    half = parts.thread.major / 2
    neck = joint.eye_to_shank_end_mm - joint.thread_length_mm
    start = (r * r - half * half) ** 0.5
    sheet.block(at, (start, -half), (max(neck, start), half), "pale", ref=ref)
    for radius, style, fill in (
        (r, "visible", "pale"), (joint.ball_diameter_mm / 2, "thin", "none"), (joint.bore_mm / 2, "visible", "sheet"),
    ):  # fmt: skip
        sheet.circle(at(0, 0), radius * scale, style=style, fill=fill, ref=ref)  # type: ignore[arg-type]


def draw_link(
    sheet: Sheet, left: float, y: float, scale: float, assembly: Assembly, stack: LinkStack, ref: str | None = None
) -> Frame:  # fmt: skip
    """The link from outside with its first eye at (left, y); `ref` makes all of it one thing to pick. Its frame.

    Args:
        sheet: to draw on.
        left: of its first eye’s centre, on the sheet [mm].
        y: likewise.
        scale: of the drawing.
        assembly: the link with its rows.
        stack: its lengths and threads.
        ref: makes all of it one thing to pick; None: each its own.
    """
    frame = Frame(left, y, scale)
    length, r, line = stack.centre_to_centre, assembly.tube.od_mm / 2, assembly.bend
    face_a, face_b = (end.face_from_centre for end in stack.ends)
    lean = line.lean if line else 0.0
    pivots = (frame.on(0, 0, lean), frame.on(length, 0, -lean))
    drawn = list(enumerate(zip(pivots, assembly.ends, stack.ends, strict=True)))
    past = [isinstance(parts, PlainEnd) and parts.runs_past for _, (_, parts, _) in drawn]  # these lie on the tube
    for index, (pivot, parts, state) in (one for one in drawn if not past[one[0]]):
        _end_outside(sheet, pivot, assembly, parts, state, index, ref or f"end:{'ab'[index]}")
    if line is None:
        sheet.block(frame.at, (face_a, -r), (length - face_b, r), "steel", ref=ref or "field:tube")
    else:
        places = [line.place(at) for at in _along(line, face_a, face_b)]
        outline = [frame.on(*place).at(0, side) for side, run in ((r, places), (-r, places[::-1])) for place in run]
        sheet.area(outline, "steel", ref=ref or "field:tube")
    for index, (pivot, parts, state) in (one for one in drawn if past[one[0]]):
        _end_outside(sheet, pivot, assembly, parts, state, index, ref or f"end:{'ab'[index]}")
    if assembly.link.splice:
        # it lies as far along a bent tube as its share of the length
        share = (assembly.link.splice.at.mm - face_a) / stack.tube_cut
        at = face_a + share * ((line.path if line else length) - face_b - face_a)
        _splice(sheet, frame.on(*(line.place(at) if line else (at, 0.0, 0.0))), assembly, ref or "field:splice")
    return frame


def _along(line: BendLine, face_a: float, face_b: float) -> list[float]:
    """Places along a bent tube between its ends, close together where it bends."""
    begins, count = line.leg - line.tangent, max(2, ceil(degrees(line.angle) / 3))
    arc = [begins + line.arc * i / count for i in range(count + 1)]
    return sorted({face_a, line.path - face_b, *arc, *(line.path - at for at in arc)})


def _splice(sheet: Sheet, frame: Frame, assembly: Assembly, ref: str) -> None:
    """The sleeve, hidden in the bore or over the tube, and where the two lengths meet: where the frame stands."""
    splice = assembly.link.splice
    assert splice
    half, r = splice.length.mm / 2, assembly.tube.od_mm / 2
    if splice.sleeve == "outside":
        r += splice.wall_mm
        sheet.block(frame.at, (-half, -r), (half, r), "pale", ref=ref)
    else:
        bore = assembly.tube.bore_mm / 2
        sheet.block(frame.at, (-half, -bore), (half, bore), "none", "hidden", ref=ref)
    sheet.line(frame.at(0, -r), frame.at(0, r), "visible" if splice.sleeve == "inside" else "hidden", ref=ref)


def _whole(sheet: Sheet, assembly: Assembly, stack: LinkStack) -> None:
    heads = [
        end.joint.head_diameter_mm / 2 if isinstance(end, ThreadedEnd) else assembly.tube.od_mm / 2
        for end in assembly.ends
    ]
    length, r, line = stack.centre_to_centre, assembly.tube.od_mm / 2, assembly.bend
    rise = line.offset if line else 0.0
    scale = min((WIDTH - 24) / (length + sum(heads)), 0.62, 22 / max(assembly.tube.od_mm, 2 * max(heads)))
    if line:
        scale = min(scale, ROOM_FOR_BEND / (rise + r))
    sheet.scale = scale
    left = (WIDTH - scale * (length + sum(heads))) / 2 + scale * heads[0]
    frame = draw_link(sheet, left, 131.0 if line else 136.0, scale, assembly, stack)
    middle = frame.at(length / 2, 0)
    label = f"{assembly.tube.label}, {assembly.grade.label.split(',')[0]}"
    inside = (
        assembly.link.splice is None
        and line is None
        and scale * stack.tube_cut > 3.2 * 0.55 * len(label)
        and scale * assembly.tube.od_mm > 4.2
    )
    start, stop = frame.at(-heads[0] * 1.25, 0), frame.at(length + heads[1] * 1.25, 0)
    if inside:  # the centre line leaves room for the lettering
        room = 0.75 * len(label) + 2
        sheet.text((middle[0], middle[1] - 1.0), label, 2.9, "middle", ref="field:tube")
        sheet.line(start, (middle[0] - room, start[1]), "centre", "muted")
        sheet.line((middle[0] + room, stop[1]), stop, "centre", "muted")
    else:
        if line:
            sheet.text((6, 153.0), label, 2.9, ref="field:tube")
        else:
            sheet.text((middle[0], frame.at(0, r)[1] + 2.0), label, 2.9, "middle", ref="field:tube")
        sheet.line(start, stop, "centre", "muted")
    if line:
        sheet.text((6, 157.0), bend_told(line, stack, sheet.numbers), 2.7, tone="blue", ref="field:bent")
    faces = [frame.at(*_face(line, stack, index)) for index in (0, 1)]
    bottom = frame.at(0, -max(r, *heads))[1]
    low = frame.at(0, -r)[1]
    cut = shortened(assembly, stack)
    note = "along the tube" if line else ""
    if cut is not None:
        at = faces["AB".index(cut.cut)][0]
        sheet.line((at, low - 3.0), (at, frame.at(0, r)[1] + 3.0), "visible", "blue", ref="dim:tube_cut")
        note = f"from end {cut.keep}, which stays; {sheet.numbers.written(cut.off)} comes off at end {cut.cut}"
    sheet.dimension((faces[0][0], low), (faces[1][0], low), stack.tube_cut, offset=-(low - bottom + 4.5), ref="dim:tube_cut",
                    tone="blue", prefix="saw ", size=4.0, note=note)  # fmt: skip
    sheet.dimension((frame.at(0, 0)[0], bottom), (frame.at(length, 0)[0], bottom), length,
                    offset=-14.0, ref="dim:centre_to_centre", size=4.0,
                    note="pivot to pivot")  # fmt: skip


def _face(line: BendLine | None, stack: LinkStack, index: int) -> tuple[float, float]:
    """Where the tube ends, from pivot A along the line between the pivots and off it [mm]."""
    out = stack.ends[index].face_from_centre
    x, y = face_of(line, out) if line else (out, 0.0)
    return (x, y) if index == 0 else (stack.centre_to_centre - x, y)


def bend_told(line: BendLine, stack: LinkStack, numbers: Numbers) -> str:
    """How a tube is bent: the angle of each bend, and where it is marked for the bender.

    Args:
        line: of the tube.
        stack: its lengths.
        numbers: how lengths are written.
    """
    begins = [line.leg - line.tangent - end.face_from_centre for end in stack.ends]
    angle, n = degrees(line.angle), numbers
    radius = f"on R {n.main(line.radius)}, each {n.written(line.arc)} of tube"
    if line.from_ends is None:
        text = f"one bend of {angle:.1f}° {radius.replace(', each', ',')}, beginning {n.written(begins[0])} from the tube’s end at A"
    elif abs(begins[0] - begins[1]) < 1e-6:
        text = f"two bends of {angle:.1f}° {radius}, beginning {n.written(begins[0])} from either end of the tube"
    else:
        text = f"two bends of {angle:.1f}° {radius}, beginning {n.written(begins[0])} from the tube’s end at A, {n.written(begins[1])} at B"
    return f"{text}; {n.written(line.offset)} off its line"


def _end_outside(
    sheet: Sheet,
    frame: Frame,
    assembly: Assembly,
    parts: LinkEndParts,
    state: EndState,
    index: int,
    ref: str,
) -> None:
    """An end in the frame of its pivot, which the tube leaves along x from A and against it from B."""
    direction = 1 if index == 0 else -1

    def at(u: float, v: float) -> SheetPoint:
        return frame.at(direction * u, v)

    if not isinstance(parts, ThreadedEnd):
        r = assembly.tube.od_mm / 2
        if parts.machined:
            _machined(sheet, at, parts, state, frame.scale, ref)
            return
        if parts.flat:
            _flat(sheet, at, parts.flat, assembly, state.face_from_centre, frame.scale, ref)
            return
        if parts.plug:
            _plugged_end(sheet, at, parts.plug, assembly, frame.scale, ref)
            return
        own = parts.sleeve
        if own and own.reducer:
            face, neck = state.face_from_centre, own.reducer.neck_mm / 2
            sheet.block(at, (0.0, -neck), (face - own.reducer.collar_mm, neck), "pale", ref=ref)
            sheet.block(at, (face - own.reducer.collar_mm, -r), (face, r), "pale", ref=ref)
        outer, inner = (own.outside_mm / 2, own.outside_mm / 2 - own.wall_mm) if own else (r, r * 0.5)
        sheet.circle(at(0, 0), outer * frame.scale, fill="pale", ref=ref)
        sheet.circle(at(0, 0), inner * frame.scale, fill="sheet", ref=ref)
        return
    face = state.face_from_centre
    shoulder = face - parts.insert.shoulder_mm
    nut = shoulder - parts.nut.height_mm
    half, nut_half = parts.thread.major / 2, parts.thread.major * 0.866
    neck = parts.joint.eye_to_shank_end_mm - parts.joint.thread_length_mm
    sheet.block(at, (neck, -half), (nut, half), "sheet", ref=ref)
    _eye(sheet, at, frame.scale, parts, ref)
    sheet.block(at, (nut, -nut_half), (shoulder, nut_half), "pale", ref=ref)
    collar = parts.insert.shoulder_diameter_mm / 2
    if parts.insert.shoulder_mm > 0:
        sheet.block(at, (shoulder, -collar), (face, collar), "steel", ref=ref)
    label, top = at((neck + face) / 2, max(parts.joint.head_diameter_mm / 2, nut_half))
    sheet.text((label, top + 1.8), parts.hand, 3.1, "middle", bold=parts.hand == "LH", mono=True, ref=ref)
    if parts.hand == "LH":
        _lh_ring(sheet, at, neck + 0.2 * max(nut - neck, 2.0), half * 1.28, max(1.3 / frame.scale, 1.2), ref)


def _machined(sheet: Sheet, at: At, parts: PlainEnd, state: EndState, scale: float, ref: str) -> None:
    """An eye or clevis from the solid, seen along its pin: head, hole, and the spigot into the tube."""
    end = parts.machined
    assert end
    half, face = end.width_mm / 2, state.face_from_centre
    sheet.block(at, (0, -half), (face, half), "pale", ref=ref)
    sheet.block(at, (-end.edge_mm, -half), (0, half), "pale", ref=ref)
    sheet.circle(at(0, 0), end.hole_mm / 2 * scale, fill="sheet", ref=ref)
    sheet.text((at(0, 0)[0], at(0, half)[1] + 1.8), end.form, 2.7, "middle", "muted", ref=ref)


def _flat(sheet: Sheet, at: At, end: FlatEnd, assembly: Assembly, face: float, scale: float, ref: str) -> None:
    """A flat end seen along its pin: the plate with what of it is in the tube, or the tube spread flat and round again."""
    width, _ = sizes_of(end, assembly.tube)
    half, r = width / 2, assembly.tube.od_mm / 2
    if end.squashed:
        again = end.lap_mm + ROUND_AGAIN * assembly.tube.od_mm
        shape = [
            (-end.edge_mm, -half),
            (end.lap_mm, -half),
            (again, -r),
            (again, r),
            (end.lap_mm, half),
            (-end.edge_mm, half),
        ]
        sheet.area([at(*one) for one in shape], "pale", ref=ref)
    else:
        sheet.block(at, (-end.edge_mm, -half), (face + end.lap_mm, half), "pale", ref=ref)
        for side in (-r, r):  # where its fillets lie
            sheet.line(at(face, side), at(face + end.lap_mm, side), "mark", ref=ref)
    sheet.circle(at(0, 0), end.hole_mm / 2 * scale, fill="sheet", ref=ref)
    sheet.text((at(0, 0)[0], at(0, half)[1] + 1.8), end.form, 2.7, "middle", "muted", ref=ref)


def _plugged_end(sheet: Sheet, at: At, end: Plug, assembly: Assembly, scale: float, ref: str) -> None:
    """A plugged end seen along its pin: the tube to its end, the plug in it, the hole, a weld through the wall."""
    r, half = assembly.tube.od_mm / 2, assembly.tube.od_mm / 2 - assembly.tube.wall_mm
    sheet.block(at, (-end.edge_mm, -r), (end.long_mm - end.edge_mm, r), "pale", ref=ref)
    outer, inner = end.leg_mm - end.edge_mm, end.long_mm - end.edge_mm
    for a, b in (
        ((outer, -half), (inner, -half)),
        ((outer, half), (inner, half)),
        ((outer, -half), (outer, half)),
        ((inner, -half), (inner, half)),
    ):
        sheet.line(at(*a), at(*b), "hidden", ref=ref)
    if end.plugs and end.plug_mm:
        sheet.circle(at(weld_at(end) - end.edge_mm, 0), end.plug_mm / 2 * scale, "hidden", ref=ref)
    sheet.circle(at(0, 0), end.hole_mm / 2 * scale, fill="sheet", ref=ref)
    sheet.text((at(0, 0)[0], at(0, r)[1] + 1.8), "plugged", 2.7, "middle", "muted", ref=ref)


def _lh_ring(sheet: Sheet, at: At, u: float, half: float, width: float, ref: str) -> None:
    sheet.block(at, (u, -half), (u + width, half), "solid", None, ref)


def _end_in_section(
    sheet: Sheet, assembly: Assembly, parts: ThreadedEnd, state: EndState, rules: EngagementRules | None, name: str
) -> None:
    joint, insert, nut, tube = parts.joint, parts.insert, parts.nut, assembly.tube
    engagement = state.engagement or 0.0
    face = state.face_from_centre
    shoulder = face - insert.shoulder_mm
    nut_start = shoulder - nut.height_mm
    end_of_shank = shoulder + engagement
    inner_end = shoulder + insert.thread_depth_mm
    drawn_tube = inner_end + max(20.0, 0.7 * insert.thread_depth_mm)
    head = joint.head_diameter_mm / 2
    scale = min(150 / (drawn_tube + head), 35 / max(2 * head, tube.od_mm), 1.2)
    frame = Frame(24 + head * scale, 72, scale)
    at = frame.at
    r, bore = tube.od_mm / 2, tube.bore_mm / 2
    fit = bore if parts.tapped else insert.fit_diameter_mm / 2
    half = parts.thread.major / 2
    root = parts.thread.root_external / 2
    ref = f"end:{name}"
    for sign in (1, -1):
        wall = [at(face, sign * bore), at(drawn_tube, sign * bore), at(drawn_tube, sign * r), at(face, sign * r)]
        if parts.tapped:  # the thread is cut out of the wall
            cut = [at(inner_end, sign * half), at(face, sign * half)]
            wall = [at(inner_end, sign * bore), *wall[1:], cut[1], cut[0]]
        sheet.area(wall, "sheet", ref="field:tube")
        sheet.hatch(wall, 1.5, ref="field:tube")
        if parts.tapped:
            continue
        body = [at(face, sign * half), at(inner_end, sign * half), at(inner_end, sign * fit), at(face, sign * fit)]
        sheet.area(body, "sheet", ref=f"field:end_{name}.insert")
        sheet.hatch(body, 1.1, rising=False, ref=f"field:end_{name}.insert")
        collar = insert.shoulder_diameter_mm / 2
        if insert.shoulder_mm > 0:
            ring = [
                at(shoulder, sign * half),
                at(face, sign * half),
                at(face, sign * collar),
                at(shoulder, sign * collar),
            ]
            sheet.area(ring, "sheet", ref=f"field:end_{name}.insert")
            sheet.hatch(ring, 1.1, rising=False, ref=f"field:end_{name}.insert")
        leg = assembly.leg
        if leg > 0:
            base = sign * min(r, insert.shoulder_diameter_mm / 2)
            sheet.area((at(face - leg * 0.7, base), at(face + leg, sign * r), at(face, sign * (r + leg * 0.55))),
                       "solid", ref="check:insert_weld")  # fmt: skip
    clear = at(nut_start, 0)[0] + 6.2 + 33.0  # past the lettering of the thread showing
    if not parts.tapped:
        _plug(sheet, frame, assembly, parts, face, inner_end, r, fit, clear)
    # shank, with the engaged stretch in blue
    neck = joint.eye_to_shank_end_mm - joint.thread_length_mm
    sheet.box(at(neck, -half), at(nut_start, half), "sheet", ref="dim:showing")
    sheet.box(at(shoulder, -half), at(end_of_shank, half), "thread", tone="blue", ref="dim:engagement")
    sheet.box(at(nut_start, -half), at(shoulder, half), "pale", style="thin", ref=ref)
    pitch = parts.thread.pitch * max(1, round(1.6 / (parts.thread.pitch * scale)))
    count = int((end_of_shank - neck) / pitch)
    for i in range(count):
        x = neck + i * pitch
        if nut_start - pitch / 2 < x < shoulder:
            continue
        lean = pitch / 2 if parts.hand == "RH" else -pitch / 2
        sheet.line(at(x + max(0.0, -lean), -root), at(x + max(0.0, -lean) + lean, root), "thin", "muted", ref)
    nut_half = parts.thread.major * 0.866
    for sign in (1, -1):
        sheet.box(at(nut_start, sign * half), at(shoulder, sign * nut_half), "pale", ref=f"field:end_{name}.nut")
    _eye(sheet, frame.at, frame.scale, parts, f"field:end_{name}.joint")
    if parts.hand == "LH":
        _lh_ring(sheet, at, neck + 0.6, half * 1.22, 1.5 / scale, ref)
        sheet.text(
            (at(neck, 0)[0] + 0.9, at(0, half * 1.22)[1] + 1.6), "LH", 3.4, "middle", bold=True, mono=True, ref=ref
        )
    sheet.line(at(-head * 1.15, 0), at(drawn_tube + 6, 0), "centre", "muted")
    sheet.line(at(0, -head * 1.15), at(0, head * 1.15), "centre", "muted")
    _section_dimensions(
        sheet, frame, state, rules, parts, nut_start, shoulder, end_of_shank, face, max(r, nut_half, head)
    )


def _plug(
    sheet: Sheet,
    frame: Frame,
    assembly: Assembly,
    end: ThreadedEnd,
    face: float,
    inner_end: float,
    r: float,
    fit: float,
    clear: float,
) -> None:
    welding = assembly.link.welding
    plugs = end.plugs(welding)
    if not plugs:
        return
    centre = face + (inner_end - face) / 2
    p = welding.plug_mm / 2
    sheet.box(frame.at(centre - p, fit), frame.at(centre + p, r), "solid", ref="check:net")
    tip = frame.at(centre, r)
    more = "" if plugs == 1 else f", {plugs} of them, square to each other"
    size = sheet.numbers.main(welding.plug_mm)
    sheet.leader(
        (tip[0] + 1, tip[1] + 0.3), (max(tip[0] + 8, clear), tip[1] + 3.2), f"plug weld ⌀{size}{more}", "check:net"
    )


def _section_dimensions(
    sheet: Sheet, frame: Frame, state: EndState, rules: EngagementRules | None, parts: ThreadedEnd, nut_start: float,
    shoulder: float, end_of_shank: float, face: float, tall: float,
) -> None:  # fmt: skip
    neck = parts.joint.eye_to_shank_end_mm - parts.joint.thread_length_mm
    half = parts.thread.major / 2
    top = frame.at(0, tall)[1] + 5.0
    base = frame.at(0, half)[1]
    most = sheet.numbers.main(state.max_showing or 0.0)
    sheet.dimension(frame.at(neck, half), frame.at(nut_start, half), state.showing or 0.0, offset=top - base,
                    ref="dim:showing", prefix="showing ", both=False, text_side=1)  # fmt: skip
    sheet.text(
        (frame.at(nut_start, 0)[0] + 6.2, top - 4.4),
        f"no-go over {most}",
        2.7,
        tone="muted",
        mono=True,
        ref="dim:showing",
    )
    low = frame.at(0, -tall)[1]
    note = ""
    if rules:
        note = f"needs {sheet.numbers.main(rules.default)}, {(state.engagement or 0) / parts.thread.major:.2f} × thread"
    sheet.dimension(frame.at(shoulder, -half), frame.at(end_of_shank, -half), state.engagement or 0.0,
                    offset=-(frame.at(0, -half)[1] - low + 4.5), ref="dim:engagement", tone="blue", prefix="engaged ",
                    both=False, text_side=1)  # fmt: skip
    sheet.text(
        (frame.at(end_of_shank, 0)[0] + 6.2, low - 8.9), note, 2.7, tone="muted", mono=True, ref="dim:engagement"
    )
    sheet.dimension(frame.at(0, -tall), frame.at(face, -tall), face,
                    offset=-12.5, ref="dim:face", note="pivot to tube", size=3.4)  # fmt: skip


def _adjuster(sheet: Sheet, stack: LinkStack, turns: float) -> None:
    sheet.text((6, 29.5), "Adjuster", 3.8, bold=True)
    n = sheet.numbers
    step = stack.step
    if step is None:
        sheet.text((26, 29.5), "none: neither end is threaded", 2.9, tone="muted")
        return
    about = (
        f"one turn of the link = {n.finely(step)}"
        if stack.per_turn is not None
        else f"half a turn of an end = {n.finely(step / 2)}; take the bolt out to turn it"
    )
    sheet.text((26, 29.5), about, 2.9, tone="muted")
    inward, outward = stack.turns_in * step, stack.turns_out * step
    # a tick a millimetre and a figure at every fifth; in inches a tick a sixteenth and a figure at every quarter
    tick, each = (1.0, 5) if n.unit == "mm" else (INCH / 16, 4)
    reach = each * tick * (int(max(inward, outward) * 1.15 / (each * tick)) + 1)
    middle, scale, y = WIDTH / 2, 80 / reach, 17.0
    if inward > 0 or outward > 0:
        sheet.box((middle - inward * scale, y + 1.6), (middle + outward * scale, y + 4.6), "thread", "thin", "blue",
                  ref="dim:range")  # fmt: skip
    sheet.line((middle - reach * scale, y), (middle + reach * scale, y), "thin")
    ticks = round(reach / tick)
    for i in range(-ticks, ticks + 1):
        major = i % each == 0
        if not major and ticks > 40:
            continue
        at = middle + i * tick * scale
        sheet.line((at, y), (at, y - (1.8 if major else 1.0)), "dimension")
        if major:
            figure = str(abs(i)) if n.unit == "mm" else n.main(abs(i) * tick)
            sheet.text(
                (at, y - 5.0),
                f"{'+' if i > 0 else '−' if i < 0 else ''}{figure}",
                2.7,
                "middle",
                mono=True,
            )
    sheet.text(
        (middle - inward * scale, y + 6.2),
        f"shorter by {n.main(inward)}",
        3.0,
        "end",
        "blue",
        mono=True,
        ref="dim:range",
    )
    sheet.text(
        (middle + outward * scale, y + 6.2),
        f"longer by {n.main(outward)}",
        3.0,
        "start",
        "blue",
        mono=True,
        ref="dim:range",
    )
    x = middle + turns * step * scale
    beyond = stack.runs_out(turns) is not None
    tone: Tone = "amber" if beyond else "ink"
    sheet.area(((x, y + 0.4), (x - 1.5, y + 5.4), (x + 1.5, y + 5.4)), "solid", tone=tone, ref="dim:turns")
    if beyond:
        sheet.text((x, y + 7.0), "runs out", 3.0, "middle", "amber", bold=True, ref="dim:turns")
    sheet.text((middle, 7.2), f"{'mm' if n.unit == 'mm' else 'inches'} of pivot-to-pivot length; outside the pale bar the thread is short of what it needs, or bottoms",
               2.7, "middle", "muted")  # fmt: skip
