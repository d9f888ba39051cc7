"""A boxed link: from the side with its pad, and cut through with its four plates and seams."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet

WIDTH, HEIGHT = 217.0, 160.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxDrawn:
    """Outside sizes, plates and pad [mm]."""

    title: str
    length: float
    height: float
    width: float
    side: float
    top: float
    bottom: float
    pad_at: float
    pad_offset: float
    leg: float
    plate: str
    boss: float | None = None  # outside


def box_sheet(box: BoxDrawn, numbers: Numbers) -> Drawing:
    """The drawing."""
    sheet = Sheet(name="link", title=box.title, width=WIDTH, height=HEIGHT, numbers=numbers)
    _side(sheet, box)
    _section(sheet, box)
    return sheet.done()


def _side(sheet: Sheet, box: BoxDrawn) -> None:
    scale = min((WIDTH - 56) / (box.length + box.height), 30 / box.height, 0.6)
    frame = Frame((WIDTH - 26 - scale * box.length) / 2, 122.0, scale)
    half = box.height / 2
    a, b = frame.at(0, 0), frame.at(box.length, 0)
    sheet.text((6, HEIGHT - 8), "from the side", 2.9, tone="muted")
    sheet.box(frame.at(0, -half), frame.at(box.length, half), "steel", ref="field:boxed")
    for z in (half - box.top, -half + box.bottom):
        sheet.line(frame.at(0, z), frame.at(box.length, z), "thin", ref="check:box_seams")
    for x, name in ((0.0, "A"), (box.length, "B")):
        at = frame.at(x, 0)
        sheet.circle(at, half * scale, "visible", "pale", ref="field:ends")
        bore = half * 0.55 if box.boss is None else box.boss / 2  # as large as it may be, where its boss is not known
        sheet.circle(at, bore * scale, "thin", "sheet", ref="field:ends")
        sheet.text((at[0], at[1] + half * scale + 2.2), name, 3.2, "middle", bold=True)
    sheet.line((a[0] - 6, a[1]), (b[0] + 6, b[1]), "centre", "muted")
    pad = frame.at(box.pad_at, half)
    sheet.box((pad[0] - 5, pad[1]), (pad[0] + 5, pad[1] + 1.6), "solid", "thin", ref="field:boxed.pad_at")
    sheet.line((pad[0], pad[1] + 14), (pad[0], pad[1] + 2.2), "visible", "blue", "field:boxed.pad_at")
    sheet.arrow((pad[0], pad[1] + 1.8), -1.5707963267948966, "blue", "field:boxed.pad_at")
    sheet.text((pad[0] + 2.0, pad[1] + 10), "stop or strike", 2.7, tone="blue", ref="field:boxed.pad_at")
    low = frame.at(0, -half)[1]
    sheet.dimension(
        (a[0], low),
        (pad[0], low),
        box.pad_at,
        offset=-7.0,
        ref="field:boxed.pad_at",
        both=False,
        prefix="pad ",
        size=3.2,
    )
    sheet.dimension(
        (a[0], low), (b[0], low), box.length, offset=-16.0, ref="dim:centre_to_centre", note="pivot to pivot"
    )
    right = frame.at(box.length + half, 0)[0]
    sheet.dimension(
        (right, frame.at(0, -half)[1]),
        (right, frame.at(0, half)[1]),
        box.height,
        offset=-5.0,
        ref="field:boxed.height",
        both=False,
    )


def _section(sheet: Sheet, box: BoxDrawn) -> None:
    scale = min(52 / box.width, 40 / box.height, 1.0)
    frame = Frame(64.0, 46.0, scale)
    h, w = box.height / 2, box.width / 2
    sheet.text((6, 84), "cut through", 3.8, bold=True)
    sheet.text(
        (34, 84), f"{box.plate}; seams {sheet.numbers.written(box.leg)} fillets, outside, all four", 2.9, tone="muted"
    )
    plates = (
        ((-w, h - box.top), (w, h), "field:boxed.top_mm"), ((-w, -h), (w, -h + box.bottom), "field:boxed.bottom_mm"),
        ((-w, -h + box.bottom), (-w + box.side, h - box.top), "field:boxed.side_mm"),
        ((w - box.side, -h + box.bottom), (w, h - box.top), "field:boxed.side_mm"),
    )  # fmt: skip
    for n, (low, high, ref) in enumerate(plates):
        corners = [frame.at(*low), frame.at(high[0], low[1]), frame.at(*high), frame.at(low[0], high[1])]
        sheet.area(corners, "sheet", ref=ref)
        sheet.hatch(corners, 1.2, rising=n % 2 == 0, ref=ref)
    for x in (-w, w):
        out = 1 if x > 0 else -1
        for z, up in ((h - box.top, -1), (-h + box.bottom, 1)):
            corner = frame.at(x, z)
            leg = box.leg * scale
            sheet.area(
                (corner, (corner[0] + out * leg * 0.7, corner[1]), (corner[0], corner[1] + up * leg)),
                "solid",
                ref="check:box_seams",
            )
    tip = frame.at(box.pad_offset, h)
    sheet.line((tip[0], tip[1] + 12), (tip[0], tip[1] + 1.5), "visible", "blue", "field:boxed.pad_at")
    sheet.arrow((tip[0], tip[1] + 0.4), -1.5707963267948966, "blue", "field:boxed.pad_at")
    if box.pad_offset:
        sheet.line(frame.at(0, -h * 1.2), frame.at(0, h * 1.35), "centre", "muted")
    sheet.dimension(frame.at(-w, -h), frame.at(w, -h), box.width, offset=-7.0, ref="field:boxed.width", both=False)
    for n, (name, size, ref) in enumerate(
        (
            ("top", box.top, "field:boxed.top_mm"),
            ("sides", box.side, "field:boxed.side_mm"),
            ("bottom", box.bottom, "field:boxed.bottom_mm"),
        )
    ):
        place = (frame.at(w, 0)[0] + 16, frame.at(0, h)[1] - 6 - 9 * n)
        sheet.text(place, name, 3.0, tone="muted", ref=ref)
        sheet.text((place[0] + 16, place[1]), sheet.numbers.written(size), 3.4, mono=True, bold=True, ref=ref)
