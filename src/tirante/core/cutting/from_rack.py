"""The saw's list laid out on what stands on the shop's rack, and on as few new sticks as can be: tube by tube."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Protocol

from tirante.core.cutting.cut_list import SawPiece
from tirante.core.cutting.one_pass import shared
from tirante.core.cutting.sticks import SET_UPS, Cutting, Saw, cut_sticks, set_ups
from tirante.core.document.rack import RackRow, is_tube, plain
from tirante.core.errors import InputError

STOPPED = "It was stopped before this was laid out."
Step = Callable[[int, int], bool]
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
    part_ids: tuple[str, ...] = ()
    passes: int = 0  # of the hole saw that part two pieces
    short: int = 0  # pieces that are shorter than the vice holds

    def row_of(self, length: float) -> RackRow | None:
        """Where a stick of this length that is there stands; None of a new one."""
        return next((row for row in self.rows if abs(row.length_mm - length) < 1e-6), None)


class Named(Protocol):
    """What a saw piece says of its part."""

    @property
    def part(self) -> str:
        """Its name."""

    @property
    def side(self) -> str:
        """Of the car."""


def named_piece(piece: Named) -> str:
    """A piece as layouts call it.

    Args:
        piece: of the cut list.
    """
    return f"{piece.part} ({piece.side})"


def from_rack(
    pieces: Sequence[SawPiece],
    rack: Sequence[RackRow],
    stock: float,
    saw: Saw,
    step: Step | None = None,
    hold: float = 0.0,
    share: bool = False,
) -> tuple[TubeCut, ...]:
    """Every tube of a list, in its order; bought links, which are shortened as they come, are not among it.

    Args:
        pieces: of the cut list.
        rack: rows of the shop's rack.
        stock: length of a new stick [mm].
        saw: kerf and trims.
        hold: that the saw's vice holds at least; shorter pieces are sawn first, while there is a stick to hold [mm].
        share: whether like notches are parted by one pass of the hole saw, where what is left of a stick has room for it.
        step: told how many tubes of how many are laid out; it answers whether to go on. What is done stands, the others say that they were stopped.
    """
    groups: dict[tuple[str, str], list[SawPiece]] = {}
    for piece in pieces:
        if piece.off_mm is None:
            groups.setdefault((piece.tube, piece.grade), []).append(piece)
    found = []
    goes_on = True
    for done, ((tube, grade), group) in enumerate(groups.items()):
        goes_on = goes_on and (step is None or step(done, len(groups)))
        found.append(_one(tube, grade, group, rack, stock, saw, hold, share=share, stopped=not goes_on))
    return tuple(found)


def _one(
    tube: str,
    grade: str,
    group: Sequence[SawPiece],
    rack: Sequence[RackRow],
    stock: float,
    saw: Saw,
    hold: float,
    *,
    share: bool,
    stopped: bool,
) -> TubeCut:
    rows, out = [], []
    for row in rack:
        if not is_tube(row, tube):
            continue
        if plain(row.material) == plain(grade):
            rows.append(row)
        else:
            out.append(f"{row.count} × {row.length_mm:g} mm {row.place or 'on the rack'}: {row.material}, not {grade}")
    names: dict[float, list[str]] = {}
    wanted: dict[float, int] = {}
    for piece in group:
        length = round(piece.length_mm * TENTH) / TENTH
        names.setdefault(length, []).append(named_piece(piece))
        wanted[length] = wanted.get(length, 0) + piece.count
    cutting, fault = None, STOPPED if stopped else ""
    try:
        cutting = (
            None
            if stopped
            else cut_sticks(stock, list(wanted.items()), saw, [(row.length_mm, row.count) for row in rows])
        )
    except InputError as error:
        fault = error.message
    told_of = {length: "; ".join(dict.fromkeys(one)) for length, one in names.items()}
    passes = 0
    if cutting and share:
        cutting, more, passes = shared(cutting, group, saw, named_piece)
        told_of |= {
            length: f"{told_of[length]}; {words}" if length in told_of else words for length, words in more.items()
        }
    cutting = cutting and _short_first(cutting, hold)
    return TubeCut(
        tube=tube, grade=grade, stock=stock, saw=saw, cutting=cutting, fault=fault, rows=tuple(rows), left_out=tuple(out),
        names=told_of, passes=passes, part_ids=tuple(dict.fromkeys(piece.part_id for piece in group)), short=sum(count for length, count in wanted.items() if length < hold),
    )  # fmt: skip


def _short_first(cutting: Cutting, hold: float) -> Cutting:
    """Each stick's short pieces before its others; how often the stop is set is counted anew."""
    sticks = tuple(replace(one, pieces=tuple(sorted(one.pieces, key=lambda mm: mm >= hold))) for one in cutting.sticks)
    wishes = tuple(replace(one, value=float(set_ups(sticks))) if one.name.startswith(SET_UPS) else one for one in cutting.wishes)  # fmt: skip
    return replace(cutting, sticks=sticks, wishes=wishes)


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
    shared_ = (
        f"{' with every piece sawn by itself' if found.new else ''}; {one.passes} {'pass' if one.passes == 1 else 'passes'} of the hole saw part{'s two pieces' if one.passes == 1 else ' two pieces each'}"
        if one.passes
        else ""
    )
    from_rack_ = f", {there} from the rack" if there else ""
    many = "1 piece is" if one.short == 1 else f"{one.short} pieces are"
    short = (
        f"; {many} shorter than the vice holds: sawn first from {'its' if one.short == 1 else 'their'} stick"
        if one.short
        else ""
    )
    return f"{buy}{from_rack_}{f'; {proof}' if found.new else ''}{shared_}{short}"
