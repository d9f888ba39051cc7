"""Turned pieces: sleeves, cups and bosses as they are turned before welding and finished after it, each with a drawing.

A bore that welding closes or draws is left under size and finished to its fit once the part is cold.

Source:
    H7 by the standard tolerance unit i = 0.45 ∛D + 0.001 D, IT7 = 16 i, D the geometric mean of the step, rounded as the table has it (ISO 286-1
    and -2, from memory).
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.parts.part import Part, Piece, Turned, TurnedPiece, View
from tirante.core.units import INCH

LEFT = 0.5  # mm on the radius, for finishing after welding; common practice, no source
# upper limit of H7 [µm] for bores over and up to [mm], the lower one 0; ISO 286-2, from memory
H7 = ((3, 6, 12), (6, 10, 15), (10, 18, 18), (18, 30, 21), (30, 50, 25), (50, 80, 30), (80, 120, 35), (120, 180, 40))


def h7(bore: float) -> float | None:
    """By how much a bore may be larger [mm]; None past the table.

    Args:
        bore: nominal [mm].
    """
    return next((upper / 1000 for over, to, upper in H7 if over < bore <= to), None)


def turned_piece(name: str, what: str, of: Turned, count: int = 1, sort: str = "turned") -> TurnedPiece:
    """A turned piece with its sizes in its words.

    Args:
        name: of the piece within its part.
        what: it is, and where it goes.
        of: its sizes.
        count: how many.
        sort: of the list.
    """
    rough = f", turned ⌀{of.rough:g} and finished after welding" if of.after else ""
    inside = f", bore ⌀{of.bore:g} {of.fit}{rough}" if of.bore else ""
    stepped = f", in steps {', '.join(f'⌀{d:g} × {long:g}' for d, long in of.steps)}" if of.steps else ""
    told = f"{what}: ⌀{of.outside:g} × {of.length:g} mm{stepped}{inside}, {of.material}"
    return TurnedPiece(name=name, what=told, count=count, sort=sort, turned=of)


def view_name(piece: TurnedPiece) -> str:
    """Of a turned piece's own view.

    Args:
        piece: with its sizes.
    """
    return f"turned-{re.sub('[^a-z0-9]+', '-', piece.name.lower()).strip('-')}"


def h7_limits(bore: float, numbers: Numbers) -> str:
    """What is written behind an H7 bore; nothing where the table ends.

    Args:
        bore: [mm].
        numbers: how lengths are written.
    """
    upper = h7(bore)
    if upper is None:
        return ""
    fine = f"{upper:.3f} mm" if numbers.unit == "mm" else f"{upper / INCH:.4f}″ ({upper:.3f} mm)"
    return f", 0 to +{fine}"


def turned_views(pieces: Sequence[Piece]) -> tuple[View, ...]:
    """A drawing of every turned piece whose sizes are known.

    Args:
        pieces: of a part.
    """
    found = [one for one in pieces if isinstance(one, TurnedPiece) and one.turned is not None]
    return tuple(View(name=view_name(one), title=f"{one.name}, turned") for one in found)


def turned_sheet(part: Part, name: str, numbers: Numbers) -> Drawing | None:
    """One of those drawings; None of another view.

    Args:
        part: worked out.
        name: of the view.
        numbers: how lengths are written.
    """
    for piece in part.pieces:
        if isinstance(piece, TurnedPiece) and piece.turned is not None and view_name(piece) == name:
            return _sheet(piece, piece.turned, part, numbers)
    return None


def _stepped(sheet: Sheet, frame: Frame, of: Turned) -> None:
    """A solid one in steps, from left to right, each with its diameter and its length."""
    x, at = -of.length / 2, frame.at
    upper, lower = [], []
    for i, (diameter, long) in enumerate(of.steps):
        upper += [at(x, diameter / 2), at(x + long, diameter / 2)]
        lower += [at(x, -diameter / 2), at(x + long, -diameter / 2)]
        top = at(0.0, of.outside / 2)[1]
        sheet.dimension(
            (at(x, 0)[0], top), (at(x + long, 0)[0], top), long, offset=5.0 + 9.0 * (i % 2), ref="dim:step", size=3.0
        )
        x += long
    sheet.area([*upper, *reversed(lower)], "sheet", ref="field:turned")
    x = -of.length / 2
    for i in range(len(of.steps)):  # each by itself: they are convex
        a, b = 2 * i, 2 * i + 1
        sheet.hatch([lower[a], lower[b], upper[b], upper[a]], 1.3, rising=True, ref="field:turned")
    for diameter, long in of.steps:
        if diameter != of.outside:  # which stands beside it
            tip = at(x + long / 2, -diameter / 2)
            sheet.leader(
                tip, (tip[0] + 3, at(0.0, -of.outside / 2)[1] - 4), f"⌀{sheet.numbers.drilled(diameter)}", "dim:step"
            )
        x += long


def _sheet(piece: TurnedPiece, of: Turned, part: Part, numbers: Numbers) -> Drawing:
    numbers = replace(numbers, fits=True)
    sheet = Sheet(name=view_name(piece), title=piece.name, width=217.0, height=120.0, numbers=numbers)
    scale = min(90.0 / of.length, (40.0 if of.steps else 56.0) / of.outside, 2.0)
    sheet.scale = scale
    many = piece.count * part.saved.count
    sheet.text((6, 112), f"Turn {many}", 3.8, bold=True)
    sheet.text((26, 112), f"{of.material}; in section along its axis", 2.9, tone="muted")
    sheet.text((150, 112), "on its end", 2.9, tone="muted")
    frame = Frame(70.0, 66.0 if of.steps else 64.0, scale)
    at, half, out, inner = frame.at, of.length / 2, of.outside / 2, of.bore / 2
    if of.steps:
        _stepped(sheet, frame, of)
    for way in () if of.steps else (1.0, -1.0):
        if not of.bore and way < 0:
            continue  # solid: one face of metal, not two
        low_edge = inner if of.bore else -out
        wall = [at(-half, way * low_edge), at(half, way * low_edge), at(half, way * out), at(-half, way * out)]
        sheet.area(wall, "sheet", ref="field:turned")
        sheet.hatch(wall, 1.3, rising=way > 0, ref="field:turned")
        if of.after:
            rough = way * of.rough / 2
            sheet.line(at(-half, rough), at(half, rough), "hidden", ref="dim:bore")
    for x in (-half, half) if of.bore else ():
        sheet.line(at(x, -inner), at(x, inner), ref="field:turned")
    sheet.line(at(-half - 5 / scale, 0), at(half + 5 / scale, 0), "centre", "muted")
    low = at(0, -out)[1]
    sheet.dimension(
        (at(-half, 0)[0], low),
        (at(half, 0)[0], low),
        of.length,
        offset=-13.0 if of.steps else -7.0,
        ref="dim:length",
        tone="blue",
        note="face to face",
    )
    left = at(-half, 0)[0]
    sheet.dimension(
        (left, at(0, -out)[1]), (left, at(0, out)[1]), of.outside, offset=15.0, ref="dim:outside", size=3.2, both=False
    )
    limits = h7_limits(of.bore, numbers) if of.fit == "H7" else ""
    if of.bore:
        sheet.leader(
            at(half * 0.6, inner),
            (at(half, 0)[0] + 8, at(0, out)[1] + 6),
            f"bore ⌀{numbers.drilled(of.bore)} {of.fit}{limits}",
            "dim:bore",
        )
    end = Frame(172.0, 64.0, min(scale, 34.0 / of.outside))
    sheet.circle(end.at(0, 0), out * end.scale, "visible", ref="field:turned")
    if of.bore:
        sheet.circle(end.at(0, 0), inner * end.scale, "visible", ref="dim:bore")
    reach = out + 3 / end.scale
    for a, b in (((-reach, 0.0), (reach, 0.0)), ((0.0, -reach), (0.0, reach))):
        sheet.line(end.at(*a), end.at(*b), "centre", "muted")
    told = [*( [f"Turn the bore to ⌀{numbers.drilled(of.rough)}; finish it to its fit after welding, cold, in line with what it works with."] if of.after else []),
            f"Both faces square to the {'bore' if of.bore else 'axis'}; break the edges, and bevel the outside where it is welded.", *(numbers.told(one) for one in of.notes)]  # fmt: skip
    for i, line in enumerate(told):
        sheet.text((6, 20 - 5 * i), line, 2.8, tone="muted")
    return sheet.done()
