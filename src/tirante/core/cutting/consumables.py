"""What a job uses up or needs beside its pieces: filler by the metal that is welded, seals of rod ends where the shop puts them on; how heavy plates are."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.document.catalogue import Catalogue
from tirante.core.document.rack import plate_metal
from tirante.core.document.settings import Settings
from tirante.core.members.insert_weld import STAINLESS_UTS
from tirante.core.parts.part import BoughtPiece, Part, PlatePiece, TubePiece
from tirante.core.units import STEEL_DENSITY

# how plates of steel are called; common practice, no source
_STEEL = re.compile(r"(s[0-9]{3}|mild|a36|4130|10[12][0-9]|.*steel)")
AS_NEEDED = 0  # of what nobody counts
SEALS = "what they take of tilt and stack is not checked"


@dataclass(frozen=True, slots=True, kw_only=True)
class Consumable:
    """Something used up or put on; of a count of nothing as much as is needed."""

    sort: str  # filler, seal
    what: str
    count: int


def consumables(parts: Sequence[Part], settings: Settings, catalogue: Catalogue) -> tuple[Consumable, ...]:
    """What complete parts ask for beside their pieces.

    Args:
        parts: of the job, an end or as chosen.
        settings: of the job: the filler that its welds are judged with, whether rod ends have seals.
        catalogue: rows that the job uses.
    """
    families = {row.key: row.family for row in catalogue.grades}
    welded: set[str] = set()
    seals: dict[str, int] = {}
    for part in parts:
        if not part.complete:
            continue
        if (part.welding or part.procedure) and not part.tool:
            welded |= {families.get(one.grade_key, "steel") for one in part.pieces if isinstance(one, TubePiece)} or {
                "steel"
            }
        for piece in (*part.pieces, *part.beside) if settings.rod_end_seals else ():
            if isinstance(piece, BoughtPiece) and piece.sort == "joint" and piece.key:
                seals[piece.what] = seals.get(piece.what, 0) + piece.count * part.saved.count
    filler = [Consumable(sort="filler", what=_filler(family, settings), count=AS_NEEDED) for family in sorted(welded)]
    return (*filler, *(Consumable(sort="seal", what=f"pair of seals for {what}", count=count) for what, count in sorted(seals.items())))  # fmt: skip


def _filler(family: str, settings: Settings) -> str:
    """As the welds are judged with."""
    if family == "aluminium":
        return f"filler {settings.aluminium_filler} for aluminium"
    if family == "titanium":
        return "filler of the tube’s own grade for titanium"
    if family == "stainless":
        return f"filler for stainless, its ultimate {STAINLESS_UTS:g} MPa or more, as the welds are judged with"
    return f"filler for steel, its ultimate {settings.electrode_uts_mpa:g} MPa or more, as the welds are judged with"


def plate_mass(piece: PlatePiece, catalogue: Catalogue) -> float | None:
    """How heavy one is, by its outline where that is known, else by the rectangle that it is cut from [kg]; None where its metal is not known.

    Args:
        piece: of a part.
        catalogue: rows that the job uses.
    """
    density = _density(piece.material, catalogue)
    area = piece.outline.area if piece.outline else piece.length * piece.width
    return None if density is None else area * piece.thickness * density


def _density(material: str, catalogue: Catalogue) -> float | None:
    """By the grade of that name, else as steel where it is called like one [kg/mm³]."""
    name = plate_metal(material)
    row = next((one for one in catalogue.grades if name in (plate_metal(one.label), plate_metal(one.key))), None)
    if row is not None:
        return row.density_kg_m3 * 1e-9
    return STEEL_DENSITY if _STEEL.match(name) and "stainless" not in name else None
