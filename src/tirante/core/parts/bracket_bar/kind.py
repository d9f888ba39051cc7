"""Bracket bars as a kind of part: the rows of brackets on a member, a bar for each with its spacers, the plates that hold it at its angle."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import asin, degrees, sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.forms.table import Field, FieldGroup, number
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.bracket_bar import BracketBar
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Curve, Edge, Hole, Straight
from tirante.core.jigs.bracket_bar import OnMember, Row, rows_on
from tirante.core.parts.around import Around
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import (
    BoughtPiece,
    Card,
    CardLine,
    Figure,
    Misfit,
    Part,
    Piece,
    PlatePiece,
    TurnedPiece,
    View,
)
from tirante.core.parts.stands import MIRROR, spans_both

Array = NDArray[np.float64]
WIDTH, ROW = 217.0, 5.4
FREE = 0.3  # [mm] that a plate's hole is larger than the member
NOT_CHECKED = ("that the member is straight where the plates go round it", "what beads draw it by")
ORDER = (
    "Set the member level; turn it until its own datum (a pinion’s flange, a kingpin) reads as in the car, and clamp it.",
    "Slide the plates on, put the bar through them and turn it to its angle by an inclinometer on a straight edge over bar and member; clamp the plates.",
    "String the brackets on with their spacers, each middle at its figure from the first plate, collars to either side; tack.",
    "Draw the bar by hand: it must go through again cold. Weld in short runs, either side and either end in turn.",
)


@dataclass(frozen=True, slots=True)
class BarMade:
    """Rows on a member."""

    mount: Mount
    rows: tuple[Row, ...]
    od: float  # of the member, or across its corners [mm]
    left: tuple[str, ...]


class BracketBarKind(Kind[BracketBar]):
    """Bracket bars."""

    key = "bracket_bar"
    word = "bracket bar"
    station = "jigs"
    saved = BracketBar
    of_tubes = False
    fields = (
        FieldGroup(title="Plates round the member", fields=[
            number(BracketBar, "plate_mm", "Plate", "mm"), number(BracketBar, "edge_mm", "Plate round its holes", "mm"), Field(path="plate_name", label="Its steel", control="text"),
        ]),
    )  # fmt: skip

    def depends(self, saved: BracketBar, around: Around) -> str:
        """The member, and every bracket on it."""
        return f"{[one for one in around.mounts if one.id == saved.mount]} {[(joint, (at := around.at_of(joint)) and at.key, around.held_end(joint)) for joint in around.standing_on(saved.mount)]} {[end.pinion_deg for end in around.ends.values()]}"

    def work_out(self, saved: BracketBar, around: Around) -> Part:
        """Rows, bars and plates."""
        common: dict[str, Any] = {"saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "made_of": (f"plate {saved.plate_mm:g} mm", saved.plate_name)}  # fmt: skip
        mount = next((one for one in around.mounts if one.id == saved.mount), None)
        if mount is None:
            return Part(**common, faults=(Misfit(field="mount", message="The member that it was made for is not there any more. Take it out, or undo."),))  # fmt: skip
        if isinstance(mount.shape, FlatMember):
            return Part(**common, faults=(Misfit(field="mount", message="A flat has nothing that plates go round: set its brackets out by its edges."),))  # fmt: skip
        brackets, left = _on(mount, around)
        end = around.ends.get(mount.end_id) if mount.end_id else None
        try:
            rows, more = rows_on(
                np.array(mount.shape.a, float), np.array(mount.shape.b, float), brackets, pinion_deg=end.pinion_deg if end else None, rear=end is None or end.end == "rear",
            )  # fmt: skip
        except InputError as error:
            return Part(**common, faults=(Misfit(field="mount", message=error.message),))
        shape = mount.shape
        od = shape.od_mm if isinstance(shape, RoundMember) else _diagonal(shape)
        made = BarMade(mount, rows, od, (*left, *more))
        short = [row for row in rows if row.off < od / 2 + row.bore / 2 + 2.0]
        if short:
            return Part(**common, faults=(Misfit(field="mount", message=f"The bolts of {', '.join(short[0].names)} lie {short[0].off:.1f} mm from the member’s middle, in the member itself. Check their places."),))  # fmt: skip
        pieces = _pieces(saved, made)
        return Part(
            **common, pieces=pieces, own_mirror=True, views=(View(name="drawing", title="rows and angles"), *plate_views(pieces)),
            card=Card(
                figures=tuple(Figure(label=f"{name}, from the first plate", mm=along - row.plates[0]) for row in rows for name, along in zip(row.names, row.along, strict=True)),
                lines=tuple(CardLine(text=_angle(row), strong=True) for row in rows),
            ),
            welding=ORDER, notes=(*slack(rows), *(f"Not on it: {one}." for one in made.left)), own=made,
            tool=_says(mount, rows),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Its rows along the member, and its section with the bars' angles."""
        made, saved = part.own, part.saved
        if asked.name != "drawing" or not isinstance(made, BarMade) or not isinstance(saved, BracketBar):
            return super().draw(part, asked, numbers)
        return _sheet(saved, made, numbers)


def _diagonal(shape: BoxMember) -> float:
    return sqrt(shape.height_mm**2 + shape.width_mm**2)


def _on(mount: Mount, around: Around) -> tuple[list[OnMember], list[str]]:
    """The brackets on a member, either side's of a pair; what of them is not known."""
    found, left = [], []
    for joint in around.standing_on(mount.id):
        bracket = around.saved(joint.by) if joint.by else None
        name = bracket.name if bracket else "a joint that nothing holds yet"
        at, held = around.at_of(joint), around.held_end(joint)
        if at is None or at.bolt is None or held is None:
            left.append(f"{name}: where its bolt is, or what goes in it, is not known")
            continue
        twins = bracket is not None and bracket.side == "pair" and spans_both(mount, at.at)
        ways = ((np.ones(3), ""), (MIRROR, ", right")) if twins else ((np.ones(3), ""),)
        for way, told in ways:
            found.append(
                OnMember(
                    name=f"{name}{told}",
                    at=way * at.at,
                    bolt=way * at.bolt,
                    bore=held.row.bore_mm,
                    wide=held.row.ball_width_mm,
                )
            )
    return found, left


def _says(mount: Mount, rows: Sequence[Row]) -> str:
    count = sum(len(row.names) for row in rows)
    return f"Holds {count} bracket{'s' if count > 1 else ''} on {mount.name} with {len(rows)} bar{'s' if len(rows) > 1 else ''}."


def _angle(row: Row) -> str:
    pinion = f", {row.from_pinion_deg:+.1f}° from the pinion’s own way" if row.from_pinion_deg is not None else ""
    return f"{' and '.join(row.names)}: the bar {row.angle_deg:+.1f}° from straight up, forward or outward positive{pinion}; {row.off:.1f} mm from the member’s middle".replace(
        "-", "−"
    )


def plate_contour(od: float, row: Row, edge: float) -> Contour:
    """A plate with a hole round the member and one for the bar: two rounds and the lines that touch both.

    Args:
        od: of the member [mm].
        row: whose bar it holds.
        edge: of plate round its holes [mm].
    """
    big, small = od / 2 + edge, row.bore / 2 + edge
    lean = degrees(asin((big - small) / row.off))
    # the member at the origin, the bar up; the touching lines lean in toward the smaller round
    edges: list[Edge] = [
        Curve(0.0, 0.0, big, 180.0 - lean, 360.0 + lean), Curve(0.0, row.off, small, lean, 180.0 - lean),
    ]  # fmt: skip
    right, top = edges[0].end, edges[1].start
    left, low = edges[1].end, edges[0].start
    return Contour(
        edges=(edges[0], Straight(*right, *top), edges[1], Straight(*left, *low)),
        holes=(Hole(0.0, 0.0, od + FREE), Hole(0.0, row.off, row.bore)),
    )


def slack(rows: Sequence[Row]) -> list[str]:
    """Brackets whose holes are wider than the bar of their row, in words.

    Args:
        rows: of a member.
    """
    return [
        f"{name} has a hole for ⌀{bore:g} mm on a bar of ⌀{row.bore:g} mm: bush it."
        for row in rows for name, bore in zip(row.names, row.bores, strict=True) if bore > row.bore + 0.01
    ]  # fmt: skip


def _pieces(saved: BracketBar, made: BarMade) -> tuple[Piece, ...]:
    found: list[Piece] = []
    for i, row in enumerate(made.rows, start=1):
        name = f"row {i}"
        contour = plate_contour(made.od, row, saved.edge_mm)
        left, low, right, high = contour.bounds
        round_ = (
            ""
            if isinstance(made.mount.shape, RoundMember)
            else "; its large hole across the box’s corners: file flats to the box, or shim"
        )
        found += [
            PlatePiece(name=f"plates of {name}", material=saved.plate_name, thickness=saved.plate_mm, length=high - low, width=right - left, outline=contour, count=2, told=f"sawn through the large hole and clamped, or slid on{round_}"),
            TurnedPiece(name=f"bar of {name}", what=f"bar of {name}: bright round ⌀{row.bore:g} mm, {row.long:.0f} mm long", sort="jig"),
            BoughtPiece(sort="jig", what=f"shaft collars for a ⌀{row.bore:g} mm bar", count=2 * len(row.names) + 4),
        ]  # fmt: skip
        widths = sorted(set(row.wide))
        found += [TurnedPiece(name=f"spacer {mm:g}", what=f"spacer in {name}: ⌀{row.bore + 12:g} × {mm:.1f} mm, bored ⌀{row.bore:g} mm", count=row.wide.count(mm), sort="jig") for mm in widths]  # fmt: skip
    return tuple(found)


def _sheet(saved: BracketBar, made: BarMade, numbers: Numbers) -> Drawing:
    lines = made.rows
    height = 70.0 + sum(16.0 + ROW * (len(row.names) + 2) for row in lines)
    sheet = Sheet(name="bracket_bar", title=saved.name, width=WIDTH, height=height, numbers=numbers)
    y = height - 7
    sheet.text(
        (6, y),
        f"The section of {made.mount.name}; what is positive is forward of a member across the car, outward of one along it",
        2.9,
        tone="muted",
    )
    reach = max(row.off for row in lines) + saved.edge_mm
    frame = Frame(38.0, y - 32.0, min(24.0 / reach, 0.5))
    sheet.circle(frame.at(0, 0), made.od / 2 * frame.scale, "visible", "steel")
    sheet.line(frame.at(0, 0), frame.at(0, reach), "centre", "muted")
    for i, row in enumerate(lines, start=1):
        turn = np.radians(row.angle_deg)
        x, z = row.off * float(np.sin(turn)), row.off * float(np.cos(turn))
        sheet.line(frame.at(0, 0), frame.at(x, z), "thin", "blue", f"row:{i}")
        sheet.circle(frame.at(x, z), max(1.0, row.bore / 2 * frame.scale), "visible", "sheet", ref=f"row:{i}")
        at = frame.at(x * (1 + 5 / (row.off * frame.scale)), z * (1 + 5 / (row.off * frame.scale)))
        sheet.text((at[0], at[1] - 1), str(i), 3.2, "middle", "blue", bold=True)
    sheet.text(
        (76, y - 12),
        "up in the section is up in the car at ride height, to the right forward or outward",
        2.7,
        tone="muted",
    )
    y -= 62
    for i, row in enumerate(lines, start=1):
        sheet.text((6, y), f"Row {i}", 3.6, "start", "blue", bold=True)
        pinion = f", {row.from_pinion_deg:+.2f}° from the pinion" if row.from_pinion_deg is not None else ""
        told = f"{row.angle_deg:+.2f}° from straight up{pinion}; {numbers.main(row.off)} from the middle; bar {numbers.main(row.long)} long"
        sheet.text((24, y), told.replace("-", "−"), 3.2, mono=True)
        y -= ROW
        sheet.text(
            (24, y),
            f"{row.names[0]} stands {numbers.written(row.first)} from {made.mount.name}’s first end, along it",
            2.9,
        )
        y -= ROW
        for x, head in ((150.0, "middle from the first plate"), (196.0, "spacer in it")):
            sheet.text((x, y), head, 2.7, "end", "muted")
        for name, along, wide in zip(row.names, row.along, row.wide, strict=True):
            y -= ROW
            sheet.text((24, y), name, 3.0)
            sheet.text((150, y), numbers.main(along - row.plates[0]), 3.3, "end", mono=True, bold=True)
            sheet.text((196, y), numbers.main(wide), 3.2, "end", mono=True)
        y -= 10
    return sheet.done()


BRACKET_BAR = BracketBarKind()
