"""The link jig from above, with ordinates along the rail from the datum."""

from __future__ import annotations

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.link.assembly import Assembly, PlainEnd, ThreadedEnd
from tirante.core.parts.link.jig import LinkJig
from tirante.core.parts.link.view import draw_link

WIDTH, HEIGHT = 217.0, 160.0


def jig_sheet(assembly: Assembly, stack: LinkStack, jig: LinkJig, numbers: Numbers) -> Drawing:
    """Rail, bolts, stops, rests and the link in it.

    Args:
        assembly: the link with its rows.
        stack: its lengths and threads.
        jig: as it is laid out.
        numbers: how lengths are written.
    """
    sheet = Sheet(name="jig", title=f"{assembly.link.name}: jig", width=WIDTH, height=HEIGHT, numbers=numbers)
    scale = min((WIDTH - 30) / jig.rail_length, 0.6)
    sheet.scale = scale
    left = (WIDTH - jig.rail_length * scale) / 2 + 40 * scale
    r = assembly.tube.od_mm / 2
    rail = max(r, 25.0) * 1.5
    frame = Frame(left, min(124.0, 131.0 - rail * scale), scale)  # the dimension on top stays clear of the heading
    at = frame.at
    sheet.text((6, 147), "Rail from above", 3.8, bold=True)
    sheet.text(
        (37, 147), f"ordinates from A; link axis {numbers.main(jig.axis_height)} above the rail", 2.9, tone="muted"
    )
    sheet.box(at(-40, -rail), at(jig.set_length + 40, rail), "pale", "thin")
    near, far = jig.stations[1].ordinate, jig.stations[4].ordinate
    sheet.box(at(near, -r), at(far, r), "steel", ref="field:tube")
    for index, end in enumerate(assembly.ends):
        x = 0.0 if index == 0 else jig.set_length
        direction = 1 if index == 0 else -1
        ref = f"end:{'ab'[index]}"
        face = near if index == 0 else far
        if isinstance(end, ThreadedEnd):
            half = end.thread.major / 2
            shoulder = face - direction * end.insert.shoulder_mm
            nut = shoulder - direction * end.nut.height_mm
            collar = end.insert.shoulder_diameter_mm / 2
            sheet.box(at(x, -half), at(nut, half), "sheet", ref=ref)
            sheet.box(at(nut, -half * 1.73), at(shoulder, half * 1.73), "pale", ref=ref)
            sheet.box(at(shoulder, -collar), at(face, collar), "steel", ref=ref)
            sheet.circle(at(x, 0), end.joint.head_diameter_mm / 2 * scale, fill="pale", ref=ref)
            sheet.circle(at(x, 0), end.joint.bore_mm / 2 * scale, fill="solid", ref=ref)
            top = (
                at(0, max(end.joint.head_diameter_mm / 2, r, rail))[1] + 1
            )  # on no line: the rail's edge is the outermost
            sheet.text(
                ((at(x, 0)[0] + at(face, 0)[0]) / 2, top),
                end.hand,
                3.0,
                "middle",
                bold=end.hand == "LH",
                mono=True,
                ref=ref,
            )
        else:
            outer = end.sleeve.outside_mm / 2 if end.sleeve else r
            sheet.circle(at(x, 0), outer * scale, fill="pale", ref=ref)
    for station in jig.stations:
        x = station.ordinate
        if station.name in "14":
            end = assembly.ends["14".index(station.name)]
            if isinstance(end, PlainEnd) and end.notched:  # what its tube comes to stands on the pin
                continue
            for sign in (1, -1):
                sheet.box(
                    at(x - 6 if station.name == "1" else x, sign * (r + 1)),
                    at(x if station.name == "1" else x + 6, sign * rail * 0.95),
                    "blue",
                    "thin",
                    "blue",
                )
        elif station.name in "23":
            for sign in (1, -1):
                sheet.box(at(x - 8, sign * r), at(x + 8, sign * rail * 0.9), "thread", "thin", "blue")
    low = at(0, -rail)[1]
    sheet.line((at(0, 0)[0], low), (at(0, 0)[0], low - 6), "dimension", "muted")
    for station in jig.stations:
        x = at(station.ordinate, 0)[0]
        sheet.line((x, low), (x, low - 6), "dimension", "muted", f"dim:station-{station.name}")
        sheet.text((x, low - 9.5), station.name, 3.2, "middle", "blue", bold=True, ref=f"dim:station-{station.name}")
    top_y = at(0, rail)[1]
    sheet.dimension((at(0, 0)[0], top_y), (at(jig.set_length, 0)[0], top_y), jig.set_length, offset=6.0, ref="dim:set_length",
                    tone="blue", prefix="set ", size=4.0, note="dummy bolt to dummy bolt")  # fmt: skip
    y = low - 18
    sheet.text((6, y), "From the datum", 3.8, bold=True)
    for i, station in enumerate(jig.stations):
        yy = y - 6.2 - 5.6 * i
        ref = f"dim:station-{station.name}"
        sheet.text((10, yy), station.name, 3.2, "middle", "blue", bold=True, ref=ref)
        sheet.text((40, yy), numbers.main(station.ordinate), 3.4, "end", mono=True, bold=True, ref=ref)
        sheet.text((43, yy), numbers.other(station.ordinate), 2.6, tone="muted", mono=True, ref=ref)
        sheet.text((66, yy), station.what, 3.0, ref=ref)
    if assembly.bend:
        _from_the_side(sheet, assembly, stack, jig, y)
    yy = y - 6.2 - 5.6 * 6 - 3
    sheet.text((6, yy), f"Check, cold: {numbers.gauged(jig.check_length)} ± {numbers.within(jig.tolerance)} pin to pin", 3.8,
               tone="blue", bold=True, ref="dim:check_length")  # fmt: skip
    pair = assembly.link.side == "pair"
    left_hand = ", LH stays at its end" if any(getattr(end, "hand", "") == "LH" for end in assembly.ends) else ""
    text = (
        f"left and right are the same part: turn end for end{left_hand}; make two alike"
        if pair and not assembly.handed
        else "left and right differ: on the right the bolt of end B is turned the other way"
        if pair
        else "one part"
    )
    sheet.text((6, yy - 5.5), text, 2.9, tone="muted")
    return sheet.done()


def _from_the_side(sheet: Sheet, assembly: Assembly, stack: LinkStack, jig: LinkJig, top: float) -> None:
    """A bent link on its rail: bolts at one height, its bends upward, the rests under it as high as they are told."""
    line, r = assembly.bend, assembly.tube.od_mm / 2
    assert line
    scale = min(64 / jig.rail_length, 26 / (line.offset + r + jig.axis_height))
    left, floor = WIDTH - 10 - scale * (jig.set_length + 40), top - 50
    sheet.text((left - 40 * scale, top), "From the side, bends upward", 3.8, bold=True)
    frame = Frame(left, floor + scale * jig.axis_height, scale)
    sheet.box(
        (left - 40 * scale, floor), (left + (jig.set_length + 40) * scale, floor - 2), "pale", "thin", ref="field:bent"
    )
    for station in jig.stations:
        high = line.height(station.ordinate) - r if station.name in "23" else 0.0
        if station.name in "23AB":
            foot = frame.at(station.ordinate, 0)[0]
            sheet.line((foot, floor), frame.at(station.ordinate, high), "thin", "blue", f"dim:station-{station.name}")
            sheet.text((foot, floor - 6), station.name, 2.7, "middle", "blue", bold=True)
    draw_link(sheet, left, frame.oy, scale, assembly, stack, ref="field:bent")
