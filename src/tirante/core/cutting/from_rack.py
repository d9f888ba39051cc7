"""The saw's list laid out on what stands on the shop's rack, and on as few new sticks as can be: tube by tube."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.cutting.cut_list import SawPiece
from tirante.core.cutting.sticks import Cutting, Saw, cut_sticks
from tirante.core.document.rack import RackRow, plain
from tirante.core.errors import InputError

TENTH = 10  # a length is laid out as it is printed, to a tenth of a millimetre


@dataclass(frozen=True, slots=True, kw_only=True)
class TubeCut:
    """The pieces of one tube laid out."""

    tube: str
    grade: str
    stock: float  # length of a new stick [mm]
    saw: Saw
    cutting: Cutting | None  # None: it was not laid out, with the reason
    fault: str
    rows: tuple[RackRow, ...]  # of the rack, that may be cut
    left_out: tuple[str, ...]  # rows of this tube that may not, and why
    names: dict[float, str]  # what a length is for

    def row_of(self, length: float) -> RackRow | None:
        """Where a stick of this length that is there stands; None of a new one."""
        return next((row for row in self.rows if abs(row.length_mm - length) < 1e-6), None)


def from_rack(pieces: Sequence[SawPiece], rack: Sequence[RackRow], stock: float, saw: Saw) -> tuple[TubeCut, ...]:
    """Every tube of a list, in its order; bought links, which are shortened as they come, are not among it.

    Args:
        pieces: of the cut list.
        rack: rows of the shop's rack.
        stock: length of a new stick [mm].
        saw: kerf and trims.
    """
    groups: dict[tuple[str, str], list[SawPiece]] = {}
    for piece in pieces:
        if piece.off_mm is None:
            groups.setdefault((piece.tube, piece.grade), []).append(piece)
    return tuple(_one(tube, grade, group, rack, stock, saw) for (tube, grade), group in groups.items())


def _one(tube: str, grade: str, group: Sequence[SawPiece], rack: Sequence[RackRow], stock: float, saw: Saw) -> TubeCut:
    rows, out = [], []
    for row in rack:
        if row.sort == "sheet" or not row.count or plain(row.stock) != plain(tube):
            continue
        if plain(row.material) == plain(grade):
            rows.append(row)
        else:
            out.append(f"{row.count} × {row.length_mm:g} mm {row.place or 'on the rack'}: {row.material}, not {grade}")
    names: dict[float, list[str]] = {}
    wanted: dict[float, int] = {}
    for piece in group:
        length = round(piece.length_mm * TENTH) / TENTH
        names.setdefault(length, []).append(f"{piece.part} ({piece.side})")
        wanted[length] = wanted.get(length, 0) + piece.count
    cutting, fault = None, ""
    try:
        cutting = cut_sticks(stock, list(wanted.items()), saw, [(row.length_mm, row.count) for row in rows])
    except InputError as error:
        fault = error.message
    return TubeCut(
        tube=tube, grade=grade, stock=stock, saw=saw, cutting=cutting, fault=fault, rows=tuple(rows), left_out=tuple(out),
        names={length: "; ".join(dict.fromkeys(one)) for length, one in names.items()},
    )  # fmt: skip


def told(one: TubeCut) -> str:
    """What it comes to, in a sentence.

    Args:
        one: laid out.
    """
    found = one.cutting
    if found is None:
        return one.fault
    there = len(found.sticks) - found.new
    buy = f"buy {found.new} of {one.stock:g} mm" if found.new else "nothing to buy"
    proof = "fewer are not possible" if found.proven else f"{found.bound} may be possible: it was not proved"
    from_rack_ = f", {there} from the rack" if there else ""
    return f"{buy}{from_rack_}{f'; {proof}' if found.new else ''}"
