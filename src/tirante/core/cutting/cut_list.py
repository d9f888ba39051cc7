"""The cut list of a job: saw pieces, plates, hardware by hand, taps and dies, over parts and their pieces. A pair counts twice."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from tirante.core.cutting.consumables import consumables, plate_mass
from tirante.core.cutting.passes import Pass, pass_of
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.settings import Settings
from tirante.core.parts.part import (
    BoughtPiece,
    Part,
    Piece,
    PlatePiece,
    ShortenPiece,
    ToolPiece,
    TubePiece,
    TurnedPiece,
    end_note,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class SawPiece:
    """A length of tube to saw; `key` is its own, whatever else is sawn for the same part."""

    key: str
    part_id: str
    part: str  # with the piece's name where the part has several
    side: str
    tube: str
    grade: str
    length_mm: float
    count: int
    before_notching: bool
    ends: tuple[str, str]
    off_mm: float | None = None  # of a bought link: what comes off
    told: str = ""  # where it is sawn, where that is not plain; to where its length goes, where an end is notched
    at_ends: str = ""  # what is made at either end, in words
    turned: str = ""  # the second end's long side from the first's, right-handed about the way from first to second; empty: not both are notched
    mass_kg: float | None = None  # of one; None: not known
    od_mm: float | None = None  # of its tube; None: not known
    passes: tuple[Pass | None, Pass | None] = (None, None)  # of a hole saw, at either end, that might part two pieces


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """Something to cut from plate, to turn, to buy or to have at hand."""

    kind: str  # plate, sleeve, turned, joint, insert, nut, tab, bolt, spacer, washer, tap, die, filler, seal
    what: str
    hand: str  # RH, LH or empty
    count: int  # 0: as much as is needed
    mass_kg: float | None = None  # of all of a plate; None: not known, or nobody asks


@dataclass(frozen=True, slots=True, kw_only=True)
class LeftOut:
    """A part that is not on the list, and why."""

    part_id: str
    name: str
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CutList:
    """All of a job."""

    pieces: tuple[SawPiece, ...]
    items: tuple[Item, ...]
    left_out: tuple[LeftOut, ...]


_ORDER = (
    "plate",
    "folded",
    "sleeve",
    "turned",
    "joint",
    "insert",
    "nut",
    "tab",
    "bolt",
    "spacer",
    "washer",
    "tap",
    "die",
    "filler",
    "seal",
)


def cut_list(parts: Sequence[Part], settings: Settings | None = None, catalogue: Catalogue | None = None) -> CutList:
    """Everything that complete parts need; those that are not complete are named with what stands in the way.

    Args:
        parts: of the job, worked out.
        settings: of the job, for what is used up; None: that is left out.
        catalogue: rows that the job uses, for what plates weigh and how wide tubes are.
    """
    rows = catalogue or Catalogue()
    pieces: list[SawPiece] = []
    counts: Counter[tuple[str, str, str]] = Counter()
    masses: dict[tuple[str, str, str], float | None] = {}
    places: dict[tuple[str, str, str], dict[str, list[str]]] = {}
    left_out = []
    for part in parts:
        if not part.complete:
            left_out.append(LeftOut(part_id=part.id, name=part.name, why=part.faults[0].message))
            continue
        for i, piece in enumerate((*part.pieces, *part.beside)):
            if isinstance(piece, TubePiece | ShortenPiece):
                pieces.append(_sawn(part, piece, i, rows))
            elif isinstance(piece, ToolPiece):
                counts[piece.sort, piece.what, piece.hand] = piece.count  # one is enough for the job
            else:
                what, where = _of_a_jig(piece)
                key = (piece.sort, what or _told(part, piece), getattr(piece, "hand", ""))
                counts[key] += piece.count * part.saved.count
                if where:
                    places.setdefault(key, {}).setdefault(part.name, []).append(where)
                if isinstance(piece, PlatePiece):
                    masses[key] = plate_mass(piece, rows)
    items = [
        Item(kind=kind, what=f"{what}{_where(places.get((kind, what, hand), {}))}", hand=hand, count=count, mass_kg=None if (one := masses.get((kind, what, hand))) is None else one * count)
        for (kind, what, hand), count in counts.items()
    ]  # fmt: skip
    if settings is not None:
        items += [
            Item(kind=one.sort, what=one.what, hand="", count=one.count) for one in consumables(parts, settings, rows)
        ]
    items.sort(key=lambda item: (_place(item.kind), item.what, item.hand))
    pieces.sort(key=lambda piece: (piece.tube, piece.grade, -piece.length_mm))
    return CutList(pieces=tuple(pieces), items=tuple(items), left_out=tuple(left_out))


def _place(sort: str) -> int:
    return _ORDER.index(sort) if sort in _ORDER else len(_ORDER)


def _sawn(part: Part, piece: TubePiece | ShortenPiece, i: int, rows: Catalogue) -> SawPiece:
    common: dict[str, Any] = {
        "key": f"{part.id}:{i}", "part_id": part.id, "side": part.side, "tube": piece.tube, "grade": piece.grade, "length_mm": piece.length,
        "count": piece.count * part.saved.count,
    }  # fmt: skip
    if isinstance(piece, ShortenPiece):
        return SawPiece(
            **common, part=part.name, before_notching=False, ends=("square", "square"), off_mm=piece.off, told=f"bought link: {piece.told}"
        )  # fmt: skip
    return SawPiece(
        **common, part=f"{part.name}, {piece.name}" if piece.name else part.name, before_notching=piece.before_notching, ends=piece.ends,
        told=end_note(piece.before_notching, piece.ends).removeprefix(", "), at_ends=piece.at_ends, turned=_turned(piece.turned_deg, part.side), mass_kg=piece.mass,
        od_mm=next((row.od_mm for row in rows.tubes if row.key == piece.tube_key), None), passes=(pass_of(piece.notches[0]), pass_of(piece.notches[1])),
    )  # fmt: skip


def _turned(deg: float | None, side: str) -> str:
    """How its ends are turned to one another; of a pair the right one the other way."""
    if deg is None:
        return ""
    shown = round(deg, 1)
    if shown == 0.0:
        return "in line"
    if abs(shown) == 180.0:
        return "opposite"
    one, other = (f"{sign * shown:+.1f}°".replace("-", "−") for sign in (1, -1))
    return f"L {one}, R {other}" if side == "pair" else one


_AT = re.compile(r"(left |right )?(\w+) (?:at|in) (.+)")  # “left spacer at lower outer”


def _of_a_jig(piece: Piece) -> tuple[str, str]:
    """What a jig’s post, spacer or dummy is, and where it goes on the jig: those that are alike are sawn at one setting, whichever jig they are for."""
    if isinstance(piece, TurnedPiece) and piece.sort == "jig" and piece.what.startswith(f"{piece.name}: "):
        what = piece.what.removeprefix(f"{piece.name}: ")
        found = _AT.match(piece.name)
        return (f"{found[2]} {what}", f"{found[1] or ''}{found[3]}") if found else (what, piece.name)
    if isinstance(piece, BoughtPiece) and piece.sort == "jig":
        what, _, where = piece.what.partition(", at ")
        return (what, where) if where else ("", "")
    return "", ""


def _where(places: Mapping[str, Sequence[str]]) -> str:
    return "".join(f"; {part}: {' · '.join(where)}" for part, where in places.items())


def _told(part: Part, piece: Piece) -> str:
    """A piece in words; what is made for one part names it."""
    if isinstance(piece, PlatePiece):
        name = f"{piece.name} " if piece.name else "plate "
        size = (
            f"{piece.thickness:g} mm"
            if piece.outline
            else f"{piece.length:.1f} × {piece.width:.1f} × {piece.thickness:g} mm"
        )
        return f"{part.name}: {name}{size} {piece.material}" + (f", {piece.told}" if piece.told else "")
    if isinstance(piece, TurnedPiece):
        return f"{part.name}: {piece.what}"
    assert isinstance(piece, BoughtPiece | ToolPiece)
    return piece.what
