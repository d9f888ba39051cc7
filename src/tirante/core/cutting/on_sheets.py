"""The plates of a job laid out on the sheets of the shop's rack, and on as few new ones as are found: thickness by thickness, material by material."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.cutting.cut_list import LeftOut
from tirante.core.cutting.from_rack import STOPPED
from tirante.core.cutting.kept import noted
from tirante.core.cutting.sheets import Clock, Nest, Shape, Sheet, Step, Turns, angles_of, nest
from tirante.core.document.cutting import KeptNest, KeptPlace, KeptShape, KeptSheet
from tirante.core.document.rack import RackRow, is_sheet, plate_metal
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, straight_sides
from tirante.core.parts.part import Part, PlatePiece


@dataclass(frozen=True, slots=True, kw_only=True)
class Plate:
    """A plate of a job's cut list."""

    part_id: str
    what: str  # what it is, and for which part
    material: str
    thickness: float  # [mm]
    count: int  # of the job, both sides of a pair
    outline: Contour
    blank: bool  # whether it is the rectangle that something is made of whose outline is not worked out


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """How plates are to lie [mm]."""

    new: Sheet
    spacing: float
    edge: float
    turns: Turns
    across: bool  # whether bends lie across the grain
    seconds: float  # that the search of one thickness may take


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateNest:
    """The plates of one thickness and material laid out."""

    material: str
    thickness: float
    plates: tuple[Plate, ...]
    nest: Nest | None  # None: it was not laid out, with the reason
    fault: str
    rows: tuple[RackRow, ...]  # of the rack, that may be cut
    left_out: tuple[str, ...]  # rows of this thickness that may not, and why


def plates_of(parts: Sequence[Part]) -> tuple[tuple[Plate, ...], tuple[LeftOut, ...]]:
    """Every plate of complete parts, and the parts that have none on the list, with the reason.

    Args:
        parts: of the job, worked out.
    """
    found: list[Plate] = []
    left_out: list[LeftOut] = []
    for part in parts:
        if not part.complete:
            left_out.append(LeftOut(part_id=part.id, name=part.name, why=part.faults[0].message))
            continue
        for piece in (*part.pieces, *part.beside):
            if isinstance(piece, PlatePiece):
                outline = piece.outline or Contour(
                    edges=straight_sides([(0.0, 0.0), (piece.length, 0.0), (piece.length, piece.width), (0.0, piece.width)])
                )  # fmt: skip
                found.append(Plate(
                    part_id=part.id, what=f"{part.name}, {piece.name}" if piece.name else part.name, material=piece.material, thickness=piece.thickness,
                    count=piece.count * part.saved.count, outline=outline, blank=piece.outline is None,
                ))  # fmt: skip
    return tuple(found), tuple(left_out)


def on_sheets(plates: Sequence[Plate], rack: Sequence[RackRow], asked: Asked, clock: Clock, step: Step | None = None) -> tuple[PlateNest, ...]:  # fmt: skip
    """Every thickness and material of a list, thickest first.

    Args:
        plates: of the list.
        rack: rows of the shop's rack.
        asked: how they are to lie.
        clock: that the time of the searches is taken by [s].
        step: told how many thicknesses of how many are laid out; it answers whether to go on. What is done stands.
    """
    groups: dict[tuple[str, float], list[Plate]] = {}
    for plate in plates:
        groups.setdefault((plate.material, plate.thickness), []).append(plate)
    ordered = sorted(groups.items(), key=lambda one: (-one[0][1], one[0][0]))
    found = []
    goes_on = True
    for done, ((material, thickness), group) in enumerate(ordered):

        def still(_laid: int, _of: int, done: int = done) -> bool:
            return step is None or step(done, len(ordered))

        goes_on = goes_on and still(0, 0)
        found.append(_one(material, thickness, group, rack, asked, clock, still, stopped=not goes_on))
        goes_on = goes_on and not (found[-1].nest is not None and found[-1].nest.stopped)
    return tuple(found)


def _one(
    material: str, thickness: float, group: Sequence[Plate], rack: Sequence[RackRow], asked: Asked, clock: Clock, step: Step, *, stopped: bool
) -> PlateNest:  # fmt: skip
    rows, out = [], []
    for row in rack:
        if row.sort != "sheet" or not row.count:
            continue
        size = f"{row.count} × {row.length_mm:g} × {row.width_mm or 0:g} mm {row.place or 'on the rack'}"
        if row.thickness is None:
            out.append(f"{size}: how thick it is, is not entered")
        elif is_sheet(row, thickness):
            if plate_metal(row.material) == plate_metal(material):
                rows.append(row)
            else:
                out.append(f"{size}: {row.material}, not {material}")
    shapes = [Shape(name=one.what, outline=one.outline, count=one.count, angles=angles_of(one.outline, asked.turns, asked.across)) for one in group]  # fmt: skip
    offcuts = [Sheet(length=row.length_mm, width=row.width_mm or 0.0, count=row.count) for row in rows]
    found, fault = None, STOPPED if stopped else ""
    if not stopped:
        try:
            found = nest(shapes, asked.new, offcuts, spacing=asked.spacing, edge=asked.edge, clock=clock, seconds=asked.seconds, step=step)  # fmt: skip
        except InputError as error:
            fault = error.message
    return PlateNest(
        material=material, thickness=thickness, plates=tuple(group), nest=found, fault=fault, rows=tuple(rows), left_out=tuple(out)
    )  # fmt: skip


def told(one: PlateNest, asked: Asked) -> str:
    """What it comes to, in a sentence.

    Args:
        one: laid out.
        asked: how.
    """
    found = one.nest
    if found is None:
        return one.fault
    there = len(found.sheets) - found.new
    size = f"{asked.new.length:g} × {asked.new.width:g} mm"
    buy = f"buy {found.new} of {size}" if found.new else "nothing to buy"
    proof = "fewer are not possible" if found.proven else f"by area {found.bound} might do: best found, not proved"
    parts = [buy, *([f"{there} from the rack"] if there else []), *([proof] if found.new else [])]
    used = f"{100 * found.utilisation:.0f} % of what is used is plate"
    ended = "; stopped: what was not searched lies in rows" if found.stopped else ""
    return f"{', '.join(parts)}; {used}{ended}"


def keep_nest(one: PlateNest, asked: Asked, job: str, revision: str, parts: Sequence[Part]) -> KeptNest:
    """A layout as it is kept, every sheet of it bound to the row that it comes from, every outline as it was.

    Args:
        one: laid out.
        asked: how.
        job: its name.
        revision: of it, in words.
        parts: of the job.

    Raises:
        InputError: it was not laid out.
    """
    if one.nest is None:
        raise InputError(one.fault, code="no_solution", fields=("sheet_mm",))
    left = Counter({row.id: row.count for row in one.rows})
    sheets = []
    for sheet in one.nest.sheets:
        row_id = None
        if not sheet.new:
            row_id = next(row.id for row in one.rows if (row.length_mm, row.width_mm) == (sheet.length, sheet.width) and left[row.id] > 0)  # fmt: skip
            left[row_id] -= 1
        sheets.append(KeptSheet(
            row_id=row_id, length_mm=sheet.length, width_mm=sheet.width, left_mm=round(sheet.left, 1),
            placed=tuple(KeptPlace(shape=place.shape, x_mm=place.x, y_mm=place.y, angle_deg=place.angle_deg % 360.0) for place in sheet.placed),
        ))  # fmt: skip
    used = {sheet.row_id for sheet in sheets}
    return KeptNest(
        material=one.material, thickness_mm=one.thickness, job=job, revision=revision, spacing_mm=asked.spacing, edge_mm=asked.edge,
        shapes=tuple(KeptShape(part_id=plate.part_id, what=plate.what[:600], outline=plate.outline, blank=plate.blank) for plate in one.plates),
        sheets=tuple(sheets), rows=tuple(row for row in one.rows if row.id in used), told=told(one, asked),
        parts=noted(parts, [plate.part_id for plate in one.plates]),
    )  # fmt: skip
