"""A jig's sheets: in plan and elevation with its joints' ordinates; its posts' ordinates with the check list; its plate at 1:1."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import hypot

from tirante.core.document.parts.plate_jig import PlateJig as Saved
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing, Fill
from tirante.core.drawing.sheet import Frame, Numbers, Sheet, SheetPoint
from tirante.core.jigs.plate import PlateJig
from tirante.core.jigs.posts import Post, listed
from tirante.core.parts.plate_jig.made import Hand, JigMade, cross_rails, outline, told_signed, turn_deg

WIDTH = 217.0
ROW = 4.6
PLAN = (200.0, 116.0)  # room for the plan, wide and high
SIDE = 34.0
MARGIN = 6.0
STUB = 0.6  # of the bar through a bore, that its middle line is drawn to either side
FILL: dict[str, Fill] = {"cheek": "steel", "pin": "steel", "rest": "thread", "stop": "thread"}


def jig_sheet(name: str, saved: Saved, made: JigMade, hand: Hand, numbers: Numbers) -> Drawing:
    """Plan and elevation.

    Args:
        name: of the view.
        saved: the jig.
        made: worked out.
        hand: which one.
        numbers: how lengths are written.
    """
    fine = replace(numbers, fits=True)
    jig = hand.jig
    (left, low), (right, high) = jig.low, jig.high
    tall = _tall(jig)
    scale = min(PLAN[0] / (right - left), PLAN[1] / (high - low), SIDE / tall, 1.0)
    plan_tall, side_tall = scale * (high - low), scale * tall
    foot = 16.0 + ROW * len(jig.joints) + 6.0  # the joints' table
    sheet = Sheet(
        name=name, title=saved.name, width=WIDTH, height=26 + plan_tall + 14 + side_tall + 10 + foot, numbers=fine
    )
    top = sheet.height
    _hand_mark(sheet, hand, made, top)
    sheet.scale = scale
    plan = Frame((WIDTH - scale * (right - left)) / 2 - scale * left, top - 24 - plan_tall - scale * low, scale)
    sheet.text((MARGIN, top - 20), "Seen from above", 3.6, bold=True)
    sheet.text(
        (44, top - 20),
        f"ordinates u to the right, v up, from the datum hole at {jig.datum}; lies {jig.plane.told}",
        2.7,
        tone="muted",
    )
    _plan(sheet, plan, saved, jig)
    floor = foot + 8.0
    side = Frame(plan.ox, floor, scale)
    sheet.text((MARGIN, floor + side_tall + 5), "From the side", 3.6, bold=True)
    sheet.text((44, floor + side_tall + 5), "heights from the face of the plate", 2.7, tone="muted")
    _side(sheet, side, saved, jig)
    _joints(sheet, jig, fine, floor - 14)
    return sheet.done()


def _tall(jig: PlateJig) -> float:
    """Of posts, tubes and the bores' middle lines as they are drawn, over the plate [mm]."""
    bars = [end[2] + bar.bar.od / 2 for bar in jig.bars for end in (bar.a, bar.b)]
    bores = [joint.at[2] + STUB * abs(joint.bar[2] - joint.at[2]) for joint in jig.joints]
    return max([post.top for post in jig.posts] + bars + bores)


def _hand_mark(sheet: Sheet, hand: Hand, made: JigMade, top: float) -> None:
    """Which hand it is, told by word, by place and by the outline round it: LEFT at the left in a square, RIGHT at the right in a round."""
    sheet.text(
        (MARGIN if hand.word != "RIGHT" else WIDTH - MARGIN, top - 12),
        f"holds {made.holds}",
        3.2,
        "start" if hand.word != "RIGHT" else "end",
    )
    if hand.word == "RIGHT":
        sheet.area([(WIDTH - 40, top - 1), (WIDTH - 10, top - 1), (WIDTH - 5, top - 4.75), (WIDTH - 10, top - 8.5), (WIDTH - 40, top - 8.5), (WIDTH - 45, top - 4.75)], "none", "visible")  # fmt: skip
        sheet.text((WIDTH - 25, top - 6.6), "RIGHT", 5.2, "middle", bold=True)
    elif hand.word == "LEFT":
        sheet.box((5, top - 8.5), (45, top - 1), "none", "visible")
        sheet.text((25, top - 6.6), "LEFT", 5.2, "middle", bold=True)
    else:
        word = hand.word or ("EITHER SIDE: left and right are alike" if made.handed else "one part")
        sheet.text((MARGIN, top - 6.6), word, 4.4, bold=True)


def _letter(i: int) -> str:
    return "ABCDEFGHJKLMNPQRSTUVWXYZ"[i % 24]


def _plan(sheet: Sheet, frame: Frame, saved: Saved, jig: PlateJig) -> None:
    (left, low), (right, high) = jig.low, jig.high
    if saved.base == "plate and posts":
        sheet.box(frame.at(left, low), frame.at(right, high), "pale", "visible", ref="field:base")
    else:
        half = saved.rail_mm / 2
        sheet.box(frame.at(left, -half), frame.at(right, half), "pale", "visible", ref="field:base")
        for u, below, above in cross_rails(saved, jig):
            for a, b in ((below, -half), (half, above)):
                if abs(b - a) > 0.1:
                    sheet.box(frame.at(u - half, a), frame.at(u + half, b), "pale", "visible", ref="field:base")
    for number, post in enumerate(jig.posts, start=1):
        _foot(sheet, frame, post, f"post:{number}")
    for bar in jig.bars:
        _tube(sheet, frame.at(*bar.a[:2]), frame.at(*bar.b[:2]), bar.bar.od * frame.scale)
    for i, joint in enumerate(jig.joints):
        at = frame.at(*joint.at[:2])
        ref = f"joint:{i}"
        sheet.line(
            frame.at(*_along(joint.at, joint.bar, -STUB)),
            frame.at(*_along(joint.at, joint.bar, STUB)),
            "centre",
            "blue",
            ref,
        )
        sheet.circle(
            at, max(1.6, joint.held.outside / 2 * frame.scale) if joint.pinned else 1.2, "visible", "sheet", ref=ref
        )
    _labels(sheet, frame, jig)
    datum = frame.at(0.0, 0.0)
    for dx, dy in ((6, 0), (0, 6)):
        sheet.line((datum[0] - dx, datum[1] - dy), (datum[0] + dx, datum[1] + dy), "thin", "red")
    sheet.circle(datum, 2.2, "thin", tone="red", ref="field:datum")


def _along(at: Sequence[float], bar: Sequence[float], share: float) -> tuple[float, float]:
    return at[0] + share * (bar[0] - at[0]), at[1] + share * (bar[1] - at[1])


def _foot(sheet: Sheet, frame: Frame, post: Post, ref: str) -> None:
    if post.sort == "pin":
        sheet.circle(frame.at(post.u, post.v), post.wide / 2 * frame.scale, "thin", FILL[post.sort], "blue", ref=ref)
        return
    sheet.area([frame.at(*corner) for corner in post.corners()], FILL[post.sort], "thin", "blue", ref=ref)


def _tube(sheet: Sheet, a: SheetPoint, b: SheetPoint, od: float) -> None:
    size = hypot(b[0] - a[0], b[1] - a[1])
    if size < 1e-6:
        return
    nx, ny = -(b[1] - a[1]) / size * od / 2, (b[0] - a[0]) / size * od / 2
    sheet.area(
        ((a[0] + nx, a[1] + ny), (b[0] + nx, b[1] + ny), (b[0] - nx, b[1] - ny), (a[0] - nx, a[1] - ny)),
        "none",
        "thin",
        "muted",
        "tube",
    )


def _labels(sheet: Sheet, frame: Frame, jig: PlateJig) -> None:
    """Letters at the joints, numbers beside the posts, each where no other stands."""
    taken: list[tuple[float, float, float, float]] = []

    def put(at: SheetPoint, text: str, size: float, away: float, ref: str, *, joint: bool) -> None:
        wide, high = 0.62 * size * len(text) + 0.8, size
        for dx, dy in (
            (0, 1),
            (1, 0),
            (-1, 0),
            (0, -1),
            (1, 1),
            (-1, 1),
            (1, -1),
            (-1, -1),
            (0, 2),
            (2, 0),
            (-2, 0),
            (0, -2),
        ):
            x, y = at[0] + dx * (away + wide / 2), at[1] + dy * (away + high / 2)
            box = (x - wide / 2, y - high / 2, x + wide / 2, y + high / 2)
            if not any(box[0] < b[2] and b[0] < box[2] and box[1] < b[3] and b[1] < box[3] for b in taken):
                break
        taken.append(box)
        if joint:
            sheet.circle((x, y), size * 0.62, "thin", "sheet", "blue", ref=ref)
        sheet.text(
            (x, y - size * 0.36), text, size, "middle", "blue" if joint else "ink", bold=joint, mono=not joint, ref=ref
        )

    for joint in jig.joints:
        at = frame.at(*joint.at[:2])
        taken.append((at[0] - 1.2, at[1] - 1.2, at[0] + 1.2, at[1] + 1.2))
    for i, joint in enumerate(jig.joints):
        put(frame.at(*joint.at[:2]), _letter(i), 4.0, 3.4, f"joint:{i}", joint=True)
    for number, post in enumerate(jig.posts, start=1):
        put(
            frame.at(post.u, post.v),
            str(number),
            2.7,
            min(post.reach * frame.scale, 5.0) + 0.6,
            f"post:{number}",
            joint=False,
        )


def _side(sheet: Sheet, frame: Frame, saved: Saved, jig: PlateJig) -> None:
    (left, _), (right, _) = jig.low, jig.high
    thick = saved.plate_mm if saved.base == "plate and posts" else saved.rail_mm
    sheet.box(
        frame.at(left, 0.0),
        (frame.at(right, 0.0)[0], frame.oy - min(6.0, thick * frame.scale)),
        "pale",
        "visible",
        ref="field:base",
    )
    for number, post in enumerate(jig.posts, start=1):
        us = (
            [corner[0] for corner in post.corners()]
            if post.sort != "pin"
            else [post.u - post.wide / 2, post.u + post.wide / 2]
        )
        sheet.box(
            frame.at(min(us), 0.0), frame.at(max(us), post.top), FILL[post.sort], "thin", "blue", f"post:{number}"
        )
    for bar in jig.bars:
        _tube(sheet, frame.at(bar.a[0], bar.a[2]), frame.at(bar.b[0], bar.b[2]), bar.bar.od * frame.scale)
    for i, joint in enumerate(jig.joints):
        at = frame.at(joint.at[0], joint.at[2])
        sheet.circle(at, 1.2, "visible", "sheet", ref=f"joint:{i}")
        sheet.line(
            frame.at(joint.at[0] - STUB * (joint.bar[0] - joint.at[0]), joint.at[2] - STUB * (joint.bar[2] - joint.at[2])),
            frame.at(joint.at[0] + STUB * (joint.bar[0] - joint.at[0]), joint.at[2] + STUB * (joint.bar[2] - joint.at[2])), "centre", "blue", f"joint:{i}",
        )  # fmt: skip


def _joints(sheet: Sheet, jig: PlateJig, numbers: Numbers, y: float) -> None:
    """Where every joint's middle is, and a bar through its bore 100 mm on."""
    sheet.text((MARGIN, y + 5.4), "Joints", 3.6, bold=True)
    sheet.text((22, y + 5.4), f"middles of bores, and a bar through each 100 mm on: {'mm' if numbers.unit == 'mm' else 'inches'} from the datum hole and the plate", 2.7, tone="muted")  # fmt: skip
    columns = (76.0, 98.0, 120.0, 152.0, 176.0, 200.0)
    for x, head in zip(columns, ("u", "v", "height", "bar: u", "v", "height"), strict=True):
        sheet.text((x, y), head, 2.6, "end", "muted")
    for i, joint in enumerate(jig.joints):
        y -= ROW
        ref = f"joint:{i}"
        sheet.text((MARGIN + 2, y), _letter(i), 3.4, "middle", "blue", bold=True, ref=ref)
        sheet.text((MARGIN + 6, y), joint.held.name, 3.0, ref=ref)
        for x, mm in zip(columns, (*joint.at, *joint.bar), strict=True):
            sheet.text((x, y), numbers.main(mm), 3.2, "end", mono=True, bold=True, ref=ref)


def posts_sheet(name: str, saved: Saved, made: JigMade, hand: Hand, numbers: Numbers) -> Drawing:
    """Posts by their ordinates, and what the part is checked by.

    Args:
        name: of the view.
        saved: the jig.
        made: worked out.
        hand: which one.
        numbers: how lengths are written.
    """
    fine = replace(numbers, fits=True)
    jig = hand.jig
    checks = _checks(made, hand, fine)
    lines = [line for one in checks for line in _wrapped(one, 112)]
    height = 34 + ROW * (len(jig.posts) + 2) + 14 + 4.6 * len(lines) + 4
    sheet = Sheet(name=name, title=f"{saved.name}: ordinates", width=WIDTH, height=height, numbers=fine)
    _hand_mark(sheet, hand, made, height)
    y = height - 22
    sheet.text((MARGIN, y), "Posts, rests and stops", 3.6, bold=True)
    sheet.text(
        (60, y), "middle of the foot from the datum hole; the way its thin side looks, from u", 2.7, tone="muted"
    )
    y -= ROW + 1
    columns = (100.0, 122.0, 142.0, 164.0, 190.0, 208.0)
    for x, head in zip(columns, ("u", "v", "turned °", "long", "hole or seat at", "lean °"), strict=True):
        sheet.text((x, y), head, 2.6, "end", "muted")
    for number, post in enumerate(jig.posts, start=1):
        y -= ROW
        ref = f"post:{number}"
        sheet.text((MARGIN + 3, y), str(number), 3.2, "end", bold=True, ref=ref)
        sheet.text((MARGIN + 6, y), post.name, 2.9, ref=ref)
        figures = (
            fine.main(post.u),
            fine.main(post.v),
            f"{turn_deg(post):.2f}",
            fine.main(post.top),
            fine.main(post.work),
            f"{post.lean_deg:.2f}",
        )
        for x, text in zip(columns, figures, strict=True):
            sheet.text((x, y), text, 3.1, "end", mono=True, ref=ref)
    y -= 10
    sheet.text((MARGIN, y), "Check list", 3.6, bold=True)
    for line in lines:
        y -= 4.6
        sheet.text((MARGIN, y), line, 3.0)
    return sheet.done()


def _checks(made: JigMade, hand: Hand, numbers: Numbers) -> list[str]:
    jig = hand.jig
    tolerance = numbers.within(made.tolerance)
    found = [
        f"{_of(jig, one.one)} to {_of(jig, one.other)}: {numbers.written(one.mm)} ± {tolerance}, middle to middle, cold"
        for one in jig.distances
    ]
    if hand.signed:
        found.append(
            f"Hand: {told_signed(hand.signed, numbers.written(abs(hand.signed.height)))} ± {numbers.within(hand.signed.tolerance)}"
        )
    elif made.own_mirror:
        found.append(
            "Hand: the part is its own mirror image; left and right are alike, and no figure tells them apart."
        )
    else:
        found.append(
            "Hand: left and right differ, and no figure here tells them apart surely. Mark them as they come out of the jig."
        )
    set_off = [one for one in jig.joints if one.moved > 0.005]
    if set_off:
        found.append(
            f"Shrink: {numbers.written(made.shrink)} a bead is in these ordinates: " + "; ".join(f"{one.held.name} set {numbers.written(one.moved)} off" for one in set_off) + "."
        )  # fmt: skip
    else:
        found.append("Shrink: no allowance is in these ordinates (it is set by the shop, at Settings).")
    found += [numbers.told(one) for one in (*jig.in_the_way, *jig.by_hand, *made.notes)]
    beside = (
        f", but at {listed(jig.covered)}, where a bead lies over it"
        if jig.covered
        else ": no bead lies over their ends"
    )
    found.append(f"Measure over the dummy bolts{beside}. {numbers.told(jig.comes_out)}")
    return found


def _of(jig: PlateJig, name: str) -> str:
    i = next(i for i, joint in enumerate(jig.joints) if joint.held.name == name)
    return f"{_letter(i)} ({name})"


def _wrapped(text: str, most: int) -> list[str]:
    lines: list[str] = []
    for word in text.split():
        if lines and len(lines[-1]) + 1 + len(word) <= most:
            lines[-1] += f" {word}"
        else:
            lines.append(word if not lines else f"    {word}")
    return lines


def plate_sheet(name: str, saved: Saved, made: JigMade, hand: Hand) -> Drawing:
    """The plate at 1:1: its edge, holes, and etched outlines with names.

    Args:
        name: of the view.
        saved: the jig.
        made: worked out.
        hand: which one.
    """
    contour = outline(saved, hand.jig)
    left, low, right, high = contour.bounds
    sheet = Sheet(name=name, title=f"base plate of {saved.name}", width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    for mark in contour.marks:
        sheet.line(frame.at(*mark.start), frame.at(*mark.end), "mark")
    cross_holes(sheet, frame, contour)
    for number, post in enumerate(hand.jig.posts, start=1):
        x, y = frame.at(post.u, post.v)
        sheet.text((x, y - 2), str(number), 6.0, "middle")
    for i, joint in enumerate(hand.jig.joints):
        x, y = frame.at(*joint.at[:2])
        sheet.text((x, y + 4), f"{_letter(i)} {joint.held.name}", 5.0, "middle")
    word = f", {hand.word}" if hand.word else ""
    sheet.text((6.0, 6.0), f"{made.holds}{word}: datum {hand.jig.datum}", 7.0)
    return sheet.done()
