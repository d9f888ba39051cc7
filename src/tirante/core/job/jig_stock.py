"""What a jig is built of, of what stands on the rack: a plate that carries all of it, else square tube that its rails are cut from."""

from __future__ import annotations

import re
from collections.abc import Sequence

from tirante.core.document.parts.plate_jig import PlateJig
from tirante.core.document.rack import RackRow, plain
from tirante.core.errors import InputError
from tirante.core.job.worked import Worked
from tirante.core.parts.part import PlatePiece, TubePiece
from tirante.core.parts.registry import kind_of
from tirante.core.units import INCH

THIN, THICK = 8.0, 25.0  # [mm] of plate that a jig is built on; common practice, no source
SMALL, LARGE, WALL = 40.0, 120.0, 2.0  # [mm] of square tube likewise, and its least wall
CUT = 5.0  # [mm] between two plates of one sheet, and behind each rail
_SIZE = r"(\d+(?:\.\d+)?)"
_BOX = re.compile(rf"(?:box|shs|squaretube)?{_SIZE}x{_SIZE}x{_SIZE}(mm|in|″)?")


def of_rack(job: Worked, jigs: Sequence[PlateJig], rack: Sequence[RackRow]) -> list[PlateJig]:
    """Jigs on what the shop has, each told in its note, none on what another was given; as they were, and what is to be bought, where nothing there carries them.

    What is left of a sheet that a jig is cut from is given to none; it goes on the rack when it is cut.

    Args:
        job: that they belong to.
        jigs: as they would be laid out.
        rack: rows of the shop's rack.
    """
    left = list(rack)
    return [_one(job, jig, left) for jig in jigs] if rack else list(jigs)


def _one(job: Worked, jig: PlateJig, rack: list[RackRow]) -> PlateJig:
    """A jig, and the rack without what it takes."""
    for row in sorted((row for row in rack if _is_plate(row)), key=lambda row: (abs((row.thickness or 0.0) - jig.plate_mm), row.length_mm * (row.width_mm or 0.0))):  # fmt: skip
        name = row.material if "plate" in row.material.casefold() else f"{row.material} plate"
        found = jig.model_copy(update={"base": "plate and posts", "plate_mm": row.thickness, "plate_name": name[:80]})
        taken = _sheets_for(_plates(job, found), row)
        if taken:
            rack[rack.index(row)] = row.model_copy(update={"count": row.count - taken})
            return _noted(found, f"Of the rack: {_told(row)}.")
    for stock, side, wall in _boxes(rack):
        found = jig.model_copy(update={"base": "box tube and angle iron", "rail_mm": side, "rail_wall_mm": wall})
        rows = [row for row in rack if row.sort != "sheet" and row.count > 0 and plain(row.stock) == stock]
        lengths = _cut_from(_rails(job, found), rows)
        if lengths is not None:
            used = [row for row in rows if row.length_mm not in lengths or lengths.count(row.length_mm) < row.count]
            for row in rows:
                rack.remove(row)
            rack += [rows[0].model_copy(update={"length_mm": mm, "count": 1}) for mm in lengths if mm > 0]
            return _noted(found, f"Of the rack: {', '.join(_told(row) for row in used)}.")
    sizes = " and ".join(f"{length:.0f} × {width:.0f} mm" for length, width in _plates(job, jig))
    return _noted(jig, f"Nothing on the rack carries it: {sizes} of {jig.plate_mm:g} mm {jig.plate_name} to be bought, or another base chosen.") if sizes else jig  # fmt: skip


def _noted(jig: PlateJig, note: str) -> PlateJig:
    return jig.model_copy(update={"note": note[:200]})


def _told(row: RackRow) -> str:
    size = f"{row.length_mm:g} × {row.width_mm:g} mm" if row.width_mm else f"{row.length_mm:g} mm"
    return f"{row.stock} {row.material}, {size}{f', {row.place}' if row.place else ''}"


def _is_plate(row: RackRow) -> bool:
    return row.sort == "sheet" and row.count > 0 and THIN <= (row.thickness or 0.0) <= THICK


def _boxes(rack: Sequence[RackRow]) -> list[tuple[str, float, float]]:
    """Square tube that stands there: its name, its side, its wall; the smallest first."""
    found = {}
    for row in rack:
        name = plain(row.stock)
        size = _BOX.fullmatch(name) if row.sort != "sheet" and row.count > 0 else None
        if size and size[1] == size[2]:
            unit = 1.0 if size[4] in (None, "mm") else INCH
            side, wall = float(size[1]) * unit, float(size[3]) * unit
            if SMALL <= side <= LARGE and WALL <= wall < side / 2:
                found[name] = (side, wall)
    return [(name, side, wall) for name, (side, wall) in sorted(found.items(), key=lambda one: one[1])]


def _plates(job: Worked, jig: PlateJig) -> list[tuple[float, float]]:
    """Its base plates, long side first [mm]; of one that cannot be laid out none."""
    return [(max(one.length, one.width), min(one.length, one.width)) for one in _pieces(job, jig) if isinstance(one, PlatePiece) for _ in range(one.count)]  # fmt: skip


def _rails(job: Worked, jig: PlateJig) -> list[float]:
    return [one.length for one in _pieces(job, jig) if isinstance(one, TubePiece) for _ in range(one.count)]


def _pieces(job: Worked, jig: PlateJig) -> Sequence[object]:
    try:
        return kind_of(jig).work_out(jig, job).pieces
    except InputError:
        return ()


def _sheets_for(plates: Sequence[tuple[float, float]], row: RackRow) -> int:
    """How many sheets of a row plates are cut from: one where they lie beside one another on it, else one each; 0: they are not."""
    long, wide = max(row.length_mm, row.width_mm or 0.0), min(row.length_mm, row.width_mm or 0.0)
    if not plates or any(a > long or b > wide for a, b in plates):
        return 0
    gaps = CUT * (len(plates) - 1)
    rowed = (
        (sum(a for a, _ in plates) + gaps, max(b for _, b in plates)), (sum(b for _, b in plates) + gaps, max(a for a, _ in plates)),
    )  # fmt: skip
    if any(max(size) <= long and min(size) <= wide for size in rowed):
        return 1
    return len(plates) if len(plates) <= row.count else 0


def _cut_from(rails: Sequence[float], rows: Sequence[RackRow]) -> list[float] | None:
    """What is left of all sticks when rails are cut from them, the longest first, each from the shortest that takes it; None: they are not."""
    left = [row.length_mm for row in rows for _ in range(row.count)]
    if not rails:
        return None
    for rail in sorted(rails, reverse=True):
        fits = [mm for mm in left if mm >= rail]
        if not fits:
            return None
        left.remove(min(fits))
        left.append(max(0.0, min(fits) - rail - CUT))
    return left
