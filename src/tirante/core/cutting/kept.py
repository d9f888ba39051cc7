"""A layout kept, confirmed and taken back: what it takes off the rack and puts on it, or why it cannot.

Nothing is worked out again: a confirmed layout takes the sticks that it was laid out on, or is refused by name where they are not there any more.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Protocol

from tirante.core.cutting.from_rack import Named, TubeCut, named_piece, told
from tirante.core.cutting.one_pass import is_in
from tirante.core.document.cutting import KeptCutting, KeptNest, KeptPiece, KeptStick, OfPart, Remnant
from tirante.core.document.rack import RackRow, plain
from tirante.core.errors import InputError
from tirante.core.parts.part import Part

ROUNDED = 0.051  # [mm] within which a length as laid out, to a tenth, is that of its piece
SAME = 0.05  # [mm] within which a length on the rack is the one that was laid out


@dataclass(frozen=True, slots=True, kw_only=True)
class RackChange:
    """Rows of the rack as they are to be; of a count of nothing they go."""

    rows: tuple[RackRow, ...]
    remnants: tuple[Remnant, ...] = ()
    taken: tuple[RackRow, ...] | None = None  # what the layout is cut from, as it was then; None: as it was laid out
    heat: str = ""  # of what was bought for it


def keep(one: TubeCut, job: str, revision: str, parts: Sequence[Part] = ()) -> KeptCutting:
    """A layout as it is kept, every stick of it bound to the row that it comes from.

    Args:
        one: laid out.
        job: its name.
        revision: of it, in words.
        parts: of the job, of which those that it is cut for are noted.

    Raises:
        InputError: it was not laid out.
    """
    if one.cutting is None:
        raise InputError(one.fault, code="no_solution", fields=("tube",))
    left = {row.id: row.count for row in one.rows}
    sticks = []
    for stick in one.cutting.sticks:
        row_id = None
        if not stick.new:
            row_id = next(row.id for row in one.rows if abs(row.length_mm - stick.length) < SAME and left[row.id] > 0)
            left[row_id] -= 1
        sticks.append(
            KeptStick(
                row_id=row_id, length_mm=stick.length, left_mm=max(0.0, round(stick.left, 1)),
                pieces=tuple(KeptPiece(length_mm=mm, what=one.names[mm][:600]) for mm in stick.pieces),
            )
        )  # fmt: skip
    used = {stick.row_id for stick in sticks}
    return KeptCutting(
        tube=one.tube, grade=one.grade, job=job, revision=revision, stock_mm=one.stock, kerf_mm=one.saw.kerf, trim_start_mm=one.saw.trim_start,
        trim_end_mm=one.saw.trim_end, sticks=tuple(sticks), rows=tuple(row for row in one.rows if row.id in used), told=told(one),
        parts=noted(parts, one.part_ids),
    )  # fmt: skip


def noted(parts: Sequence[Part], ids: Iterable[str]) -> tuple[OfPart, ...]:
    """Parts as a layout notes them.

    Args:
        parts: of the job.
        ids: of those that it is cut for.
    """
    wanted = set(ids)
    return tuple(OfPart(id=one.id, name=one.name, metal=one.metal) for one in parts if one.id in wanted)


def confirmed(
    cutting: KeptCutting | KeptNest,
    rack: Sequence[RackRow],
    ids: Sequence[str],
    *,
    least: float,
    place: str,
    heat: str = "",
) -> RackChange:
    """What the rack is when it is cut: the stock gone, what is left of all of it put on the rack.

    Args:
        cutting: kept.
        rack: as it is now.
        ids: made by the client, for rows of remnants.
        least: a remnant shorter than this is scrap [mm].
        place: where remnants are put.
        heat: of what was bought for it; what is left of a stick or sheet keeps its own.

    Raises:
        InputError: a stick or sheet that is not there any more, by name; fewer ids than remnants.
    """
    there = {row.id: row for row in rack}
    rows: list[RackRow] = []
    taken: list[RackRow] = []
    for row_id, count in Counter(one for one in cutting.taken if one is not None).items():
        was, row = next(one for one in cutting.rows if one.id == row_id), there.get(row_id)
        if row is None or row.count < count or not _same(row, was):
            size = f"{was.length_mm:g} mm" if was.width_mm is None else f"{was.length_mm:g} × {was.width_mm:g} mm"
            raise InputError(
                f"{count} × {size} of {cutting.title} {f'from {was.place} ' if was.place else ''}{'are' if count > 1 else 'is'} not on the rack any more: somebody cut from it, or changed the row. Lay it out again.",
                code="changed", fields=("sticks",),
            )  # fmt: skip
        rows.append(row.model_copy(update={"count": row.count - count}))
        taken.append(was.model_copy(update={"heat": row.heat}))
    heats = {row.id: row.heat for row in taken}
    lefts = Counter(
        (round(mm, 1), wide, heat if own is None else heats[own])
        for (mm, wide), own in zip(cutting.lefts, cutting.taken, strict=True) if mm >= least and round(mm, 1) > 0
    )  # fmt: skip
    if len(lefts) > len(ids):
        raise InputError("More remnants are left than ids came with the question. Ask again.", code="missing", fields=("ids",), value=len(ids))  # fmt: skip
    remnants = tuple(
        Remnant(row_id=own, length_mm=mm, width_mm=wide, heat=of, count=count)
        for own, ((mm, wide, of), count) in zip(ids, sorted(lefts.items(), key=lambda one: (-one[0][0], one[0][1] or 0.0, one[0][2])), strict=False)
    )  # fmt: skip
    sort, stock, material, thick = cutting.stock
    rows += [
        RackRow(
            id=one.row_id, sort=sort, stock=stock, material=material, length_mm=one.length_mm, width_mm=one.width_mm, thick_mm=thick, count=one.count,
            offcut=True, place=place, heat=one.heat, note=f"left of {cutting.job}{', its grain along its length' if sort == 'sheet' else ''}"[:200],
        )
        for one in remnants
    ]  # fmt: skip
    return RackChange(rows=tuple(rows), remnants=remnants, taken=tuple(taken), heat=heat)


def _same(row: RackRow, was: RackRow) -> bool:
    """Whether a row is still what was laid out on."""
    wide = (row.width_mm is None) == (was.width_mm is None) and abs((row.width_mm or 0.0) - (was.width_mm or 0.0)) <= SAME  # fmt: skip
    named = (row.sort, plain(row.stock), plain(row.material)) == (was.sort, plain(was.stock), plain(was.material))
    return named and wide and abs(row.length_mm - was.length_mm) <= SAME and row.thickness == was.thickness


class ToSaw(Named, Protocol):
    """A saw piece of the cut list, as the core or as a client has it."""

    @property
    def tube(self) -> str:
        """Its stock."""

    @property
    def grade(self) -> str:
        """Its metal."""

    @property
    def length_mm(self) -> float:
        """As it is sawn."""


def heats_of(layouts: Sequence[KeptCutting | KeptNest], piece: ToSaw) -> str:
    """The heats of the sticks that a saw piece is laid out on, as they stand on the rack; empty where the shop keeps none of them.

    Args:
        layouts: that are kept.
        piece: of the cut list.
    """
    name, found = named_piece(piece), dict[str, None]()
    for layout in layouts:
        if isinstance(layout, KeptCutting) and (layout.tube, layout.grade) == (piece.tube, piece.grade):
            for stick in layout.sticks:
                if any(is_in(name, one.what) or (name in one.what.split("; ") and abs(one.length_mm - piece.length_mm) < ROUNDED) for one in stick.pieces):  # fmt: skip
                    found[layout.heat_of(stick.row_id)] = None
    return ", ".join(one or "one not kept" for one in found) if any(found) else ""


def taken_back(cutting: KeptCutting | KeptNest, rack: Sequence[RackRow]) -> RackChange:
    """What the rack is when a confirmed layout is undone: its remnants gone, what it took back where it was.

    Args:
        cutting: confirmed.
        rack: as it is now.

    Raises:
        InputError: something was cut from a remnant meanwhile.
    """
    there = {row.id: row for row in rack}
    rows: list[RackRow] = []
    for one in cutting.remnants:
        row = there.get(one.row_id)
        if row is None or row.count < one.count or abs(row.length_mm - one.length_mm) > SAME or (one.width_mm is not None and abs((row.width_mm or 0.0) - one.width_mm) > SAME):  # fmt: skip
            raise InputError(
                f"What was left, {one.count} × {one.length_mm:g} mm, is not on the rack any more: somebody cut from it. Put the rack right by hand.", code="changed", fields=("remnants",)
            )  # fmt: skip
        rows.append(row.model_copy(update={"count": row.count - one.count}))
    for row_id, count in Counter(one for one in cutting.taken if one is not None).items():
        was = next(one for one in cutting.rows if one.id == row_id)
        now = there.get(row_id)
        rows.append(
            now.model_copy(update={"count": now.count + count}) if now else was.model_copy(update={"count": count})
        )
    return RackChange(rows=tuple(rows))
