"""The link: whole, to scale; one end in section; the adjuster's travel."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise
from math import degrees

from tirante.core.drawing.model import Drawing, Tone
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint
from tirante.core.members.link_stack import EndState, LinkStack
from tirante.core.parts.link.assembly import Assembly, EngagementRules, LinkEndParts, PlainEnd, ThreadedEnd

WIDTH, HEIGHT = 217.0, 160.0


NOSE = 12.0  # lettering in front of the drawing


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
        else:
            about += ", is welded, and is not checked here"
        sheet.text((6, 94), about, 2.9, tone="muted")
    _adjuster(sheet, stack, turns)
    return sheet.done()


def _eye(sheet: Sheet, frame: Frame, x: float, parts: ThreadedEnd, direction: int, ref: str) -> None:
    """A rod end drawn flat, its shank along +x·direction from eye centre x."""
    joint, s = parts.joint, frame.scale
    r = joint.head_diameter_mm / 2
    half = parts.thread.major / 2
    neck = joint.eye_to_shank_end_mm - joint.thread_length_mm
    start = (r * r - half * half) ** 0.5
    sheet.box(frame.at(x + direction * start, -half), frame.at(x + direction * max(neck, start), half), "pale", ref=ref)
    sheet.circle(frame.at(x, 0), r * s, fill="pale", ref=ref)
    sheet.circle(frame.at(x, 0), joint.ball_diameter_mm / 2 * s, style="thin", ref=ref)
    sheet.circle(frame.at(x, 0), joint.bore_mm / 2 * s, fill="sheet", ref=ref)


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
    length, r = stack.centre_to_centre, assembly.tube.od_mm / 2
    face_a, face_b = stack.ends[0].face_from_centre, length - stack.ends[1].face_from_centre
    for index, (parts, state) in enumerate(zip(assembly.ends, stack.ends, strict=True)):
        _end_outside(sheet, frame, assembly, parts, state, index, length, ref or f"end:{'ab'[index]}")
    sheet.box(frame.at(face_a, -r), frame.at(face_b, r), "steel", ref=ref or "field:tube")
    if assembly.link.splice:
        _splice(sheet, frame, assembly, face_a, face_b, stack, ref or "field:splice")
    return frame


def _splice(
    sheet: Sheet, frame: Frame, assembly: Assembly, face_a: float, face_b: float, stack: LinkStack, ref: str
) -> None:
    """The sleeve, hidden in the bore or over the tube, and where the two lengths meet."""
    splice = assembly.link.splice
    assert splice
    # along a bent tube it is drawn where its share of the length lies
    along = (splice.at.mm - stack.ends[0].face_from_centre) / stack.tube_cut
    x, half = face_a + along * (face_b - face_a), splice.length.mm / 2
    r = assembly.tube.od_mm / 2
    if splice.sleeve == "outside":
        r += splice.wall_mm
        sheet.box(frame.at(x - half, -r), frame.at(x + half, r), "pale", ref=ref)
    else:
        bore = assembly.tube.bore_mm / 2
        sheet.box(frame.at(x - half, -bore), frame.at(x + half, bore), "none", "hidden", ref=ref)
    sheet.line(frame.at(x, -r), frame.at(x, r), "visible" if splice.sleeve == "inside" else "hidden", ref=ref)


def _whole(sheet: Sheet, assembly: Assembly, stack: LinkStack) -> None:
    heads = [
        end.joint.head_diameter_mm / 2 if isinstance(end, ThreadedEnd) else assembly.tube.od_mm / 2
        for end in assembly.ends
    ]
    length = stack.centre_to_centre
    scale = min((WIDTH - 24) / (length + sum(heads)), 0.62, 22 / max(assembly.tube.od_mm, 2 * max(heads)))
    sheet.scale = scale
    left = (WIDTH - scale * (length + sum(heads))) / 2 + scale * heads[0]
    frame = draw_link(sheet, left, 136, scale, assembly, stack)
    r = assembly.tube.od_mm / 2
    face_a, face_b = stack.ends[0].face_from_centre, length - stack.ends[1].face_from_centre
    middle = frame.at(length / 2, 0)
    label = f"{assembly.tube.label}, {assembly.grade.label.split(',')[0]}"
    if assembly.link.bent:
        label += f"; bent {sheet.numbers.main(assembly.link.bent.offset.mm)} off its line, drawn straight"
    inside = (
        assembly.link.splice is None
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
        sheet.text((middle[0], frame.at(0, r)[1] + 2.0), label, 2.9, "middle", ref="field:tube")
        sheet.line(start, stop, "centre", "muted")
    if assembly.link.bent:
        _bent(sheet, assembly, stack, left, scale)
    bottom = frame.at(0, -max(r, *heads))[1]
    low = frame.at(0, -r)[1]
    gap = low - bottom
    sheet.dimension(frame.at(face_a, -r), frame.at(face_b, -r), stack.tube_cut, offset=-(gap + 4.5), ref="dim:tube_cut",
                    tone="blue", prefix="saw ", size=4.0)  # fmt: skip
    sheet.dimension((frame.at(0, 0)[0], bottom), (frame.at(length, 0)[0], bottom), length,
                    offset=-14.0, ref="dim:centre_to_centre", size=4.0,
                    note="pivot to pivot")  # fmt: skip


def _bent(sheet: Sheet, assembly: Assembly, stack: LinkStack, left: float, scale: float) -> None:
    """How the tube is bent, to the scale of the link: its line, the angle of each bend, and where it is marked for the bender."""
    bent, length = assembly.link.bent, stack.centre_to_centre
    assert bent
    leg = bent.from_ends.mm if bent.from_ends else length / 2
    off = bent.offset.mm
    base, up = 150.0, min(scale, 6.5 / off)
    at = [(0.0, 0.0), (leg, off), (length - leg, off), (length, 0.0)]
    points = [(left + scale * x, base + up * y) for x, y in at]
    sheet.line(points[0], points[-1], "centre", "muted")
    for a, b in pairwise(points):
        if a != b:
            sheet.line(a, b, "visible", "blue", "field:bent")
    for point in (points[0], points[-1]):
        sheet.circle(point, 0.8, "thin", "sheet")
    line = assembly.bend
    assert line
    angle, n = degrees(line.angle), sheet.numbers
    begins = [line.leg - line.tangent - end.face_from_centre for end in stack.ends]
    radius = f"on R {n.main(line.radius)}, each {n.written(line.arc)} of tube"
    if bent.from_ends is None:
        text = f"one bend of {angle:.1f}° {radius.replace(', each', ',')}, beginning {n.written(begins[0])} from the tube’s end at A"
    elif abs(begins[0] - begins[1]) < 1e-6:
        text = f"two bends of {angle:.1f}° {radius}, beginning {n.written(begins[0])} from either end of the tube"
    else:
        text = f"two bends of {angle:.1f}° {radius}, beginning {n.written(begins[0])} from the tube’s end at A, {n.written(begins[1])} at B"
    more = "" if up == scale else "; across not to scale"
    sheet.text((6, 157.0), f"{text}; {n.written(off)} off its line{more}", 2.7, tone="blue", ref="field:bent")


def _end_outside(
    sheet: Sheet,
    frame: Frame,
    assembly: Assembly,
    parts: LinkEndParts,
    state: EndState,
    index: int,
    length: float,
    ref: str,
) -> None:
    direction = 1 if index == 0 else -1
    x = 0.0 if index == 0 else length

    def at(u: float, v: float) -> SheetPoint:
        return frame.at(x + direction * u, v)

    if not isinstance(parts, ThreadedEnd):
        r = assembly.tube.od_mm / 2
        if parts.machined:
            _machined(sheet, at, parts, state, frame.scale, ref)
            return
        sheet.circle(at(0, 0), r * frame.scale, fill="pale", ref=ref)
        sheet.circle(at(0, 0), r * 0.5 * frame.scale, fill="sheet", ref=ref)
        return
    face = state.face_from_centre
    shoulder = face - parts.insert.shoulder_mm
    nut = shoulder - parts.nut.height_mm
    half, nut_half = parts.thread.major / 2, parts.thread.major * 0.866
    neck = parts.joint.eye_to_shank_end_mm - parts.joint.thread_length_mm
    sheet.box(at(neck, -half), at(nut, half), "sheet", ref=ref)
    _eye(sheet, frame, x, parts, direction, ref)
    sheet.box(at(nut, -nut_half), at(shoulder, nut_half), "pale", ref=ref)
    collar = parts.insert.shoulder_diameter_mm / 2
    if parts.insert.shoulder_mm > 0:
        sheet.box(at(shoulder, -collar), at(face, collar), "steel", ref=ref)
    top = at(0, max(parts.joint.head_diameter_mm / 2, nut_half))[1] + 1.8
    label = at((neck + face) / 2, 0)[0]
    sheet.text((label, top), parts.hand, 3.1, "middle", bold=parts.hand == "LH", mono=True, ref=ref)
    if parts.hand == "LH":
        _lh_ring(sheet, at, neck + 0.2 * max(nut - neck, 2.0), half * 1.28, max(1.3 / frame.scale, 1.2), ref)


def _machined(
    sheet: Sheet, at: Callable[[float, float], SheetPoint], parts: PlainEnd, state: EndState, scale: float, ref: str
) -> None:
    """An eye or clevis from the solid, seen along its pin: head, hole, and the spigot into the tube."""
    end = parts.machined
    assert end
    half, face = end.width_mm / 2, state.face_from_centre
    sheet.box(at(0, -half), at(face, half), "pale", ref=ref)
    sheet.box(at(-end.edge_mm, -half), at(0, half), "pale", ref=ref)
    sheet.circle(at(0, 0), end.hole_mm / 2 * scale, fill="sheet", ref=ref)
    sheet.text((at(0, 0)[0], at(0, half)[1] + 1.8), end.form, 2.7, "middle", "muted", ref=ref)


def _lh_ring(
    sheet: Sheet, at: Callable[[float, float], SheetPoint], u: float, half: float, width: float, ref: str
) -> None:
    sheet.box(at(u, -half), at(u + width, half), "solid", style=None, ref=ref)


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
    clear = at(nut_start, 0)[0] + 6.2 + 27.0  # past the lettering of the thread showing
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
    _eye(sheet, frame, 0.0, parts, 1, f"field:end_{name}.joint")
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
                    offset=-(frame.at(0, -half)[1] - low + 4.5), ref="dim:engagement", tone="blue", prefix="in ",
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
        f"one turn of the link = {step:.2f} mm"
        if stack.per_turn is not None
        else f"half a turn of an end = {step / 2:.2f} mm; take the bolt out to turn it"
    )
    sheet.text((26, 29.5), about, 2.9, tone="muted")
    inward, outward = stack.turns_in * step, stack.turns_out * step
    reach = max(5.0, 5.0 * (int(max(inward, outward) * 1.15 / 5) + 1))
    middle, scale, y = WIDTH / 2, 80 / reach, 17.0
    if inward > 0 or outward > 0:
        sheet.box((middle - inward * scale, y + 1.6), (middle + outward * scale, y + 4.6), "thread", "thin", "blue",
                  ref="dim:range")  # fmt: skip
    sheet.line((middle - reach * scale, y), (middle + reach * scale, y), "thin")
    for i in range(-int(reach), int(reach) + 1):
        major = i % 5 == 0
        if not major and reach > 40:
            continue
        sheet.line((middle + i * scale, y), (middle + i * scale, y - (1.8 if major else 1.0)), "dimension")
        if major:
            sheet.text(
                (middle + i * scale, y - 5.0),
                f"{'+' if i > 0 else '−' if i < 0 else ''}{abs(i)}",
                2.7,
                "middle",
                mono=True,
            )
    sheet.text(
        (middle - inward * scale, y + 6.2), f"in {n.main(inward)}", 3.0, "end", "blue", mono=True, ref="dim:range"
    )
    sheet.text(
        (middle + outward * scale, y + 6.2), f"out {n.main(outward)}", 3.0, "start", "blue", mono=True, ref="dim:range"
    )
    x = middle + turns * step * scale
    beyond = stack.runs_out(turns) is not None
    tone: Tone = "amber" if beyond else "ink"
    sheet.area(((x, y + 0.4), (x - 1.5, y + 5.4), (x + 1.5, y + 5.4)), "solid", tone=tone, ref="dim:turns")
    if beyond:
        sheet.text((x, y + 7.0), "runs out", 3.0, "middle", "amber", bold=True, ref="dim:turns")
    sheet.text((middle, 7.2), "mm of pivot-to-pivot length; outside the pale bar the thread is short of what it needs, or bottoms",
               2.7, "middle", "muted")  # fmt: skip
