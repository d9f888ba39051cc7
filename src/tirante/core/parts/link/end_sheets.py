"""Ends of a link as drawings for who makes them: an eye or a clevis from the solid on its spigot, a plate that is let in; each with its tolerances.

Source:
    General tolerances ISO 2768-1, class m (from memory); H7 as of turned pieces; what runs in or on another thing 0.1 mm, a hole square to the
    spigot within 0.1 in 100 (common practice, no source).
"""

from __future__ import annotations

from dataclasses import replace

from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.link.assembly import Assembly, LinkEndParts, PlainEnd
from tirante.core.parts.link.flat import plate_of
from tirante.core.parts.link.solid import fork, head_of, spigot_of
from tirante.core.parts.part import View
from tirante.core.parts.turned import h7_limits

# over and up to [mm], ± [mm]; ISO 2768-1, class m, from memory
MEDIUM = ((0.5, 6.0, 0.1), (6.0, 30.0, 0.2), (30.0, 120.0, 0.3), (120.0, 400.0, 0.5), (400.0, 1000.0, 0.8))
RUNS = 0.1  # mm that an eye is thinner, or a fork wider, than its size; common practice, no source
TO_FACE = 0.2  # mm, of the hole's centre to the shoulder; common practice, no source
SQUARE_WITHIN = "0.1 mm in 100"
GENERAL = f"Other sizes ISO 2768-m: {', '.join(f'±{plus:g} mm to {to:g} mm' for _, to, plus in MEDIUM[:3])}."


def general(mm: float) -> float | None:
    """± of a size that has no tolerance of its own [mm]; None past the table.

    Args:
        mm: the size.
    """
    return next((plus for over, to, plus in MEDIUM if over < mm <= to), None)


def end_views(ends: tuple[LinkEndParts, LinkEndParts]) -> tuple[View, ...]:
    """A drawing of every end that is machined, or a plate.

    Args:
        ends: of a link.
    """
    found = []
    for letter, end in zip("AB", ends, strict=True):
        if isinstance(end, PlainEnd) and (end.machined or (end.flat and not end.squashed)):
            what = end.machined.form if end.machined else "plate"
            found.append(View(name=_name(letter), title=f"end {letter} {what}, with tolerances"))
    return tuple(found)


def _name(letter: str) -> str:
    return f"made-end-{letter.lower()}"


def end_sheet(assembly: Assembly, stack: LinkStack, name: str, numbers: Numbers) -> Drawing | None:
    """One of those drawings; None of another view.

    Args:
        assembly: the link with its rows.
        stack: its lengths.
        name: of the view.
        numbers: how lengths are written.
    """
    numbers = replace(numbers, fits=True)
    for letter, end, state in zip("AB", assembly.ends, stack.ends, strict=True):
        if name != _name(letter) or not isinstance(end, PlainEnd):
            continue
        if end.machined:
            return _machined(assembly, end, (letter, state.face_from_centre), numbers)
        if end.flat and not end.squashed:
            return _plate(assembly, end, (letter, state.face_from_centre), numbers)
    return None


def _limits(low: float, high: float) -> str:
    """How far a size may be off, either way."""

    def one(value: float) -> str:
        return f"{value:+.3f}".rstrip("0").rstrip(".")

    return " to ".join(f"{one(value)} mm" if value else "0" for value in (low, high))


def _bore(numbers: Numbers, hole: float) -> str:
    limits = h7_limits(hole, numbers)
    return f"⌀{numbers.drilled(hole)}{' H7' if limits else ''}{limits}"


def _told(sheet: Sheet, lines: list[str]) -> None:
    for i, line in enumerate(lines):
        sheet.text((6, 24 - 5 * i), sheet.numbers.told(line), 2.8, tone="muted")


def _machined(assembly: Assembly, end: PlainEnd, of: tuple[str, float], numbers: Numbers) -> Drawing:
    """Along its pin at the left, from its side at the right."""
    made, (letter, face) = end.machined, of
    assert made
    spigot, long = spigot_of(made, assembly.tube, assembly.link.welding)
    sheet = Sheet(name=_name(letter), title=f"end {letter}, {made.form}", width=217.0, height=130.0, numbers=numbers)
    reach, thick = made.edge_mm + face + long, made.thickness_mm * (2 if made.form == "clevis" else 1) + made.gap_mm * (made.form == "clevis")  # fmt: skip
    scale = min(70.0 / reach, 36.0 / max(made.width_mm, spigot, thick), 2.0)
    sheet.scale = scale
    many = assembly.link.count
    sheet.text((6, 122), f"Make {many}", 3.8, bold=True)
    sheet.text((30, 122), f"from the solid, yield {made.yield_mpa:g} MPa or more; along its pin", 2.9, tone="muted")
    left, right = (Frame(x + scale * made.edge_mm, 76.0, scale) for x in (22.0, 124.0))
    half = spigot / 2
    sheet.block(left.at, (face, -half), (face + long, half), "pale", ref="field:spigot_mm")
    draw_contour(sheet, left, head_of(made, face), "visible", ref="field:machined")
    sheet.line(left.at(-made.edge_mm - 4 / scale, 0), left.at(face + long + 4 / scale, 0), "centre", "muted")
    low = left.at(0, -max(made.width_mm / 2, half))[1]
    for a, b, value, offset, note in (
        (-made.edge_mm, 0.0, made.edge_mm, -6.0, _plus(general(made.edge_mm), numbers)), (0.0, face, face, -6.0, _plus(TO_FACE, numbers)), (face, face + long, long, -14.0, "spigot"),
    ):  # fmt: skip
        sheet.dimension((left.at(a, 0)[0], low), (left.at(b, 0)[0], low), value, offset=offset, ref="dim:face" if a == 0.0 else "dim:edge", note=note, size=3.2)  # fmt: skip
    x = left.at(-made.edge_mm, 0)[0]
    sheet.dimension((x, left.at(0, -made.width_mm / 2)[1]), (x, left.at(0, made.width_mm / 2)[1]), made.width_mm, offset=14.0, ref="dim:width", size=3.2, both=False)  # fmt: skip
    sheet.leader(left.at(0, made.hole_mm / 2), (left.at(0, 0)[0] + 6, left.at(0, made.width_mm / 2)[1] + 7), _bore(numbers, made.hole_mm), "dim:hole")  # fmt: skip
    _from_its_side(sheet, right, end, (face, spigot, long), numbers)
    ears = "both ears bored as one" if made.form == "clevis" else "bored and reamed"
    fits = f"fork {_limits(0.0, RUNS)}" if made.form == "clevis" else f"eye’s thickness {_limits(-RUNS, 0.0)}"  # fmt: skip
    _told(sheet, [
        f"Hole {ears}, square to the spigot’s axis within {SQUARE_WITHIN}; welded before it is finished: ream it after.",
        f"{fits[0].upper()}{fits[1:]}; spigot turned to the tube’s bore in hand, {_limits(-0.05, 0.0)}.",
        GENERAL,
        f"The shoulder meets the tube’s square end: bevel it for its ring{', plug welds through the wall' if assembly.link.welding.plugs else ''}.",
        "Inside corners round by 2 mm or more, edges broken; no tool mark across the ears.",
    ])  # fmt: skip
    return sheet.done()


def _plus(plus: float | None, numbers: Numbers) -> str:
    """What stands behind the other reading of a size: its unit too, unless that is of millimetres itself."""
    return f"±{plus:g}{' mm' if numbers.unit == 'mm' else ''}" if plus else ""


def _from_its_side(sheet: Sheet, frame: Frame, end: PlainEnd, of: tuple[float, float, float], numbers: Numbers) -> None:
    """Eye or ears on edge, the spigot behind them."""
    made, (face, spigot, long), at = end.machined, of, frame.at
    assert made
    sheet.text((124, 122), "from its side", 2.9, tone="muted")
    t, gap = made.thickness_mm, made.gap_mm if made.form == "clevis" else 0.0
    outer = t + gap / 2 if made.form == "clevis" else t / 2
    sheet.block(at, (face, -spigot / 2), (face + long, spigot / 2), "pale", ref="field:spigot_mm")
    if made.form == "clevis":
        floor = fork(made)
        ring = [(-made.edge_mm, outer), (face, outer), (face, -outer), (-made.edge_mm, -outer), (-made.edge_mm, -gap / 2), (floor, -gap / 2), (floor, gap / 2), (-made.edge_mm, gap / 2)]  # fmt: skip
        sheet.area([at(*one) for one in ring], "steel", ref="field:machined")
        top = at(0, outer)[1]
        sheet.dimension((at(0, 0)[0], top), (at(floor, 0)[0], top), floor, offset=6.0, ref="dim:fork", note="fork, at least", size=3.2)  # fmt: skip
    else:
        sheet.block(at, (-made.edge_mm, -outer), (face, outer), "steel", ref="field:machined")
    for edge in (-made.hole_mm / 2, made.hole_mm / 2):
        for a, b in ((gap / 2, outer), (-outer, -gap / 2)) if made.form == "clevis" else ((-outer, outer),):
            sheet.line(at(edge, a), at(edge, b), "hidden", ref="dim:hole")
    sheet.line(at(-made.edge_mm - 4 / frame.scale, 0), at(face + long + 4 / frame.scale, 0), "centre", "muted")
    x = at(-made.edge_mm, 0)[0]
    if made.form == "clevis":
        sheet.dimension((x, at(0, -gap / 2)[1]), (x, at(0, gap / 2)[1]), gap, offset=14.0, ref="dim:gap", note=_limits(0.0, RUNS), size=3.0, both=False)  # fmt: skip
        sheet.dimension((x, at(0, gap / 2)[1]), (x, at(0, outer)[1]), t, offset=7.0, ref="dim:thickness", size=3.0, both=False)  # fmt: skip
    else:
        sheet.dimension((x, at(0, -outer)[1]), (x, at(0, outer)[1]), t, offset=14.0, ref="dim:thickness", size=3.0, both=False)  # fmt: skip
    end_x = at(face + long, 0)[0]
    sheet.dimension((end_x, at(0, spigot / 2)[1]), (end_x, at(0, -spigot / 2)[1]), spigot, offset=7.0, ref="field:spigot_mm", prefix="⌀", size=3.2, both=False)  # fmt: skip


def _plate(assembly: Assembly, end: PlainEnd, of: tuple[str, float], numbers: Numbers) -> Drawing:
    """A plate that is let in, with how far it goes into the tube."""
    flat, (letter, face) = end.flat, of
    assert flat
    contour = plate_of(flat, face)
    left, low, right, high = contour.bounds
    sheet = Sheet(name=_name(letter), title=f"end {letter}, plate", width=217.0, height=120.0, numbers=numbers)
    scale = min(150.0 / (right - left), 36.0 / (high - low), 2.0)
    sheet.scale = scale
    sheet.text((6, 112), f"Cut {flat.plates * assembly.link.count}", 3.8, bold=True)
    sheet.text((40, 112), f"plate {numbers.main(flat.thickness_mm)} {flat.plate_name}, as rolled", 2.9, tone="muted")
    frame = Frame(106 - scale * (left + right) / 2, 79.0, scale)
    draw_contour(sheet, frame, contour, "visible", ref="field:flat")
    sheet.line(frame.at(face, low - 5 / scale), frame.at(face, high + 5 / scale), "hidden", "blue", "dim:face")
    sheet.text((frame.at(face, 0)[0] + 1, frame.at(0, high)[1] + 2.5), "the tube’s end", 2.6, tone="blue")
    y = frame.at(0, low)[1]
    for a, b, offset, note in (
        (left, 0.0, -6.0, _plus(general(flat.edge_mm), numbers)), (0.0, face, -15.0, _plus(TO_FACE, numbers)), (face, right, -6.0, _plus(general(flat.lap_mm), numbers)), (left, right, -24.0, _plus(general(right - left), numbers)),
    ):  # fmt: skip
        sheet.dimension((frame.at(a, 0)[0], y), (frame.at(b, 0)[0], y), b - a, offset=offset, ref="dim:face" if b == face else "dim:edge", note=note, size=3.2, text_side=-1.0 if a == left else 0.0)  # fmt: skip
    x = frame.at(right, 0)[0]
    sheet.dimension((x, frame.at(0, low)[1]), (x, frame.at(0, high)[1]), high - low, offset=-7.0, ref="dim:width", size=3.2, both=False)  # fmt: skip
    sheet.leader(frame.at(0, flat.hole_mm / 2), (frame.at(0, 0)[0] + 8, frame.at(0, high)[1] + 8), f"⌀{numbers.drilled(flat.hole_mm)}, {numbers.told(_limits(0.0, RUNS))}", "dim:hole")  # fmt: skip
    both = ["Both plates of an end drilled as one, and pinned together while they are welded."] if flat.plates == 2 else []  # fmt: skip
    _told(sheet, [
        "Hole drilled under size and reamed, or reamed after welding; square to the plate.", GENERAL, "Flat within 0.2 mm where it takes the pin’s washers; edges broken, none across the hole.", *both,
    ])  # fmt: skip
    return sheet.done()
