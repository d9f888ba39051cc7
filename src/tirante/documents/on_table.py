"""Every plate of a job on the simulated cutting table: the very files of the pack, tried before they are sent."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.cutting.cut_list import LeftOut
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.registry import kind_of
from tirante.documents.cutting_table import Driven, Refused, drive
from tirante.documents.dxf import to_dxf
from tirante.documents.pack import drawing_name


@dataclass(frozen=True, slots=True, kw_only=True)
class TriedPlate:
    """A plate that was put on the table: what it did, or all that it refuses."""

    part_id: str
    part: str
    piece: str  # the plate's name within its part; empty where it is the part
    file: str  # as the pack has it
    material: str
    thickness: float  # [mm]
    count: int  # of the job, both sides of a pair
    driven: Driven | None
    faults: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class OnTable:
    """All plates of a job, and what has no file to be cut by, with the reason."""

    plates: tuple[TriedPlate, ...]
    left_out: tuple[LeftOut, ...]


def on_table(job: Worked, kerf: float) -> OnTable:
    """Drive round every plate that has a file.

    Args:
        job: worked out.
        kerf: width of the cut [mm].
    """
    numbers = numbers_of(job.settings)
    plates: list[TriedPlate] = []
    left_out: list[LeftOut] = []
    for number, part in enumerate(job.parts, 1):
        if not part.complete:
            left_out.append(LeftOut(part_id=part.id, name=part.name, why=part.faults[0].message))
            continue
        views = {view.plate: view for view in part.views if view.cut}
        for piece in part.pieces:
            if not isinstance(piece, PlatePiece):
                continue
            if piece.name not in views:
                name = f"{part.name}, {piece.name}" if piece.name else part.name
                why = f"there is no file of it: {piece.length:.1f} × {piece.width:.1f} × {piece.thickness:g} mm is to be marked out by hand"
                left_out.append(LeftOut(part_id=part.id, name=name, why=why))
                continue
            view = views[piece.name]
            driven, faults = _tried(
                to_dxf(kind_of(part.saved).draw(part, ViewAsked(name=view.name), numbers)), piece.thickness, kerf
            )
            plates.append(TriedPlate(
                part_id=part.id, part=part.name, piece=piece.name, file=f"{drawing_name(number, part, view)}.dxf", material=piece.material,
                thickness=piece.thickness, count=piece.count * part.saved.count, driven=driven, faults=faults,
            ))  # fmt: skip
    return OnTable(plates=tuple(plates), left_out=tuple(left_out))


def _tried(file: str, thickness: float, kerf: float) -> tuple[Driven | None, tuple[str, ...]]:
    try:
        return drive(file, thickness, kerf), ()
    except Refused as error:
        return None, error.faults
