"""Drawing of a sleeve through a box: in section along its bolt, the joint before the near wall."""

from __future__ import annotations

from tirante.core.document.parts.rail_sleeve import RailSleeve
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.parts.joint import JointMade

THIN = 3.0  # mm of a wall whose thickness is not known, in the picture


def sleeve_sheet(saved: RailSleeve, made: JointMade, lever: float, numbers: Numbers) -> Drawing:
    """In section: the box's two walls, the sleeve through them, and the joint with its bolt.

    Args:
        saved: as it is.
        made: the joint that it holds.
        lever: from the near face to the joint's middle [mm].
        numbers: how lengths are written.
    """
    sheet = Sheet(name="sleeve", title=saved.name, width=217.0, height=140.0, numbers=numbers)
    row, through = made.held.row, saved.through_mm
    bolt = made.bolt.diameter_mm if made.bolt else row.bore_mm
    out, bore, wall = saved.sleeve_od_mm / 2, saved.bore_mm / 2, saved.wall_mm or THIN
    left = -through - saved.far_mm - 0.9 * bolt
    face = saved.proud_mm + made.gap
    right = face + 0.9 * bolt
    tall = max(2.6 * out, 1.1 * row.head_diameter_mm)
    scale = min(140.0 / (right - left), 70.0 / tall, 2.0)
    sheet.scale = scale
    sheet.text((6, 132), "Through the box", 3.8, bold=True)
    sheet.text((42, 132), f"in section along the bolt; turn {saved.count}, ⌀{numbers.drilled(saved.sleeve_od_mm)} {saved.steel_name}", 2.9, tone="muted")  # fmt: skip
    frame = Frame(36.0 - scale * left, 72.0, scale)
    at = frame.at
    for low, high in ((-through, -through + wall), (-wall, 0.0)):
        for way in (1.0, -1.0):
            metal = [at(low, way * out), at(high, way * out), at(high, way * tall / 2), at(low, way * tall / 2)]
            sheet.area(metal, "pale", "thin", ref="field:wall_mm")
            sheet.hatch(metal, 1.6, rising=way < 0, ref="field:wall_mm")
    for way in (1.0, -1.0):
        edge = (at(-through - saved.far_mm, way * bore), at(saved.proud_mm, way * bore), at(saved.proud_mm, way * out), at(-through - saved.far_mm, way * out))  # fmt: skip
        sheet.area(edge, "steel", ref="field:sleeve_od_mm")
        sheet.hatch(list(edge), 1.3, rising=way > 0, ref="field:sleeve_od_mm")
        leg = min(saved.weld_leg_mm, saved.proud_mm, saved.far_mm)
        for x, toward in ((0.0, 1.0), (-through, -1.0)):
            sheet.area([at(x, way * out), at(x + toward * leg, way * out), at(x, way * (out + leg))], "solid", "thin", ref="check:sleeve_ring")  # fmt: skip
    if made.beside > 0:
        outside = made.spacer.outside_mm / 2 if made.spacer else bolt
        for a, b in ((saved.proud_mm, saved.proud_mm + made.beside), (face - made.beside, face)):
            sheet.box(at(a, -outside), at(b, outside), "pale", "thin", ref="field:spacer")
    half = row.housing_width_mm / 2
    sheet.box(at(lever - half, -row.head_diameter_mm / 2), at(lever + half, row.head_diameter_mm / 2), "pale", ref="joint")  # fmt: skip
    ball = 0.75 * row.bore_mm
    sheet.box(at(saved.proud_mm + made.beside, -ball), at(face - made.beside, ball), "pale", "thin", ref="joint")
    sheet.box(at(-through - saved.far_mm, -bolt / 2), at(face, bolt / 2), "sheet", ref="check:pin_bending")
    for x, toward in ((-through - saved.far_mm, -1.0), (face, 1.0)):
        a, b = sorted((x, x + toward * 0.65 * bolt))
        sheet.box(at(a, -0.8 * bolt), at(b, 0.8 * bolt), "pale", ref="check:pin_shear")
    sheet.line(at(left - 3 / scale, 0.0), at(right + 3 / scale, 0.0), "centre", "muted")
    sheet.line(at(lever, -tall / 2), at(lever, tall / 2), "centre", "muted")
    foot = at(0, -tall / 2)[1]
    x0, x1, x2, x3, x4 = (at(v, 0)[0] for v in (-through - saved.far_mm, -through, 0.0, saved.proud_mm, lever))
    sheet.dimension((x1, foot), (x2, foot), through, offset=-6.0, ref="field:through_mm", note="box", tone="blue")
    sheet.dimension((x2, foot), (x4, foot), lever, offset=-6.0, ref="dim:lever", note="to the joint")
    sheet.dimension((x0, foot), (x3, foot), saved.length_mm, offset=-15.0, ref="dim:length", note="sleeve, face to face")  # fmt: skip
    side = at(left, 0)[0]
    sheet.dimension((side, at(0, -out)[1]), (side, at(0, out)[1]), saved.sleeve_od_mm, offset=13.0, ref="field:sleeve_od_mm", tone="blue", both=False)  # fmt: skip
    told = [
        f"stands out {numbers.main(saved.proud_mm)} before the near face, {numbers.main(saved.far_mm)} behind the far one",
        f"fillet {numbers.main(saved.weld_leg_mm)} all round at both; bore ⌀{numbers.drilled(saved.bore_mm)}",
    ]
    for i, line in enumerate(told):
        sheet.text((6, 14 - 5 * i), line, 2.8, tone="muted" if i else "ink")
    return sheet.done()
