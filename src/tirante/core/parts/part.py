"""The one notion of a part: anything that is made, worked out. Whoever asks never asks of what kind it is.

A part answers what it is, whether it is complete, of what pieces it is made, whether it will hold, how it is seen, what is to be
known of it, and by two fingerprints whether its metal or its judgement has changed.
"""

from __future__ import annotations

import hashlib
import json
from cmath import phase
from collections.abc import Sequence
from dataclasses import asdict, dataclass, field, fields, replace
from math import degrees, pi
from typing import Any

import numpy as np

from tirante.core.checks.result import CheckResult
from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.parts.common import Side
from tirante.core.document.parts.saved import SavedPart
from tirante.core.flat.contour import Contour
from tirante.core.loads.case_seen import NotCarried
from tirante.core.members.tube import Section
from tirante.core.units import STEEL_DENSITY

ONE_SIDED = 0.3  # [mm] of an edge's first harmonic, below which opposite sides are taken as alike


@dataclass(frozen=True, slots=True, kw_only=True)
class Misfit:
    """Something that is not chosen or does not go together, at a field of the part."""

    field: str
    message: str


@dataclass(frozen=True, slots=True, kw_only=True)
class NotchedEnd:
    """The end of a tube that is notched: what it stands on, and how deep at each line round it.

    Round it is counted in degrees from the tube's marked line, right-handed about the way from its first end to its second, for both ends.
    """

    where: str  # in words
    onto: tuple[str, ...]  # in the order of fitting
    depth: float  # [mm] from the longest point to the bottom
    angle_deg: float  # between the axes, of the first that it stands on
    offset: float  # [mm] by which they pass each other
    long_deg: float  # where its longest point lies
    profile: tuple[tuple[float, float, float], ...]  # degrees; below the longest point outside and inside [mm]
    by_saw: str  # how a hole saw cuts it; empty where none does
    off: float  # [mm] from the work point to the longest point
    to_face: bool = False  # whether it stands on a flat face, so that its angle is to that

    @property
    def long_side(self) -> tuple[float, float]:
        """On which side the tube is longest, taken over all of its edge, and after how much of a turn that is so again: 360, or 180 where opposite sides are alike [°].

        By the first harmonic of its depth round the tube; where there is hardly one, by the second. Its longest point alone would not tell: a notch that
        stands askew has two ears of one length.
        """
        at = np.radians([one[0] for one in self.profile])
        order = np.argsort(at % (2 * pi))
        at = at[order] % (2 * pi)
        reach = -np.array([one[1] for one in self.profile])[order]
        share = (np.roll(at, -1) - np.roll(at, 1)) % (2 * pi) / 2  # of the turn that each stands for
        once, twice = (complex(np.sum(share * reach * np.exp(1j * n * at))) / pi for n in (1, 2))
        if abs(once) > ONE_SIDED:
            return degrees(phase(once)), 360.0
        return degrees(phase(twice)) / 2, 180.0


@dataclass(frozen=True, slots=True, kw_only=True)
class TubePiece:
    """A length of tube to saw; `ends` say what is at either end. Each piece is needed `count` times a part."""

    name: str  # of the piece within its part; empty where the part is this piece
    tube: str
    tube_key: str
    grade: str
    grade_key: str
    length: float  # [mm] to the longest points of its notches; not so where `before_notching`
    ends: tuple[str, str] = ("square", "square")
    before_notching: bool = False  # an end's notch is not worked out: the length is not to its longest point
    notches: tuple[NotchedEnd | None, NotchedEnd | None] = (None, None)
    count: int = 1
    kg_m: float | None = None  # how heavy a metre is; None: not known

    sort = "tube"

    @property
    def mass(self) -> float | None:
        """Of one, as it is sawn [kg]."""
        return None if self.kg_m is None else self.kg_m * self.length / 1000.0

    @property
    def at_ends(self) -> str:
        """What is made at either end, in words: a notch with its angle."""
        one, other = (_end_told(end, notch) for end, notch in zip(self.ends, self.notches, strict=True))
        return f"both {one}" if one == other else f"{one} / {other}"

    @property
    def turned_deg(self) -> float | None:
        """How far the second end's long side is turned from the first's, right-handed about the way from first to second, −180 up to 180 [°].

        An end that is alike on opposite sides lies either way: −90 up to 90. None of ends that are not both notched.
        """
        one, other = self.notches
        if one is None or other is None:
            return None
        (a, turn), (b, other_turn) = one.long_side, other.long_side
        around = min(turn, other_turn)
        return around / 2 - (around / 2 - (b - a)) % around


def _end_told(end: str, notch: NotchedEnd | None) -> str:
    return end if notch is None else f"{end} {notch.angle_deg:.1f}°"


def tube_piece(
    name: str,
    tube: Tube,
    grade: Grade,
    length: float,
    ends: tuple[str, str],
    *,
    before_notching: bool = False,
    notches: tuple[NotchedEnd | None, NotchedEnd | None] = (None, None),
) -> TubePiece:
    """A length of a catalogue tube.

    Args:
        name: of the piece within its part.
        tube: the stock.
        grade: its metal.
        length: to the long points [mm].
        ends: what is at either end.
        before_notching: whether the notch of an end is not worked out.
        notches: of either end, where they are.
    """
    return TubePiece(
        name=name, tube=tube.label, tube_key=tube.key, grade=grade.label, grade_key=grade.key, length=length, ends=ends,
        before_notching=before_notching, notches=notches, kg_m=Section(od=tube.od_mm, wall=tube.wall_mm).area * grade.density_kg_m3 * 1e-6,
    )  # fmt: skip


def box_piece(name: str, side: float, wall: float, length: float, count: int = 1) -> TubePiece:
    """A length of square tube of plain steel, as tools are made of.

    Args:
        name: of the piece within its part.
        side: outside [mm].
        wall: [mm]
        length: [mm]
        count: of it in a part.
    """
    return TubePiece(name=name, tube=f"box {side:g} × {side:g} × {wall:g}", tube_key="", grade="mild steel", grade_key="", length=length, count=count, kg_m=(side**2 - max(0.0, side - 2 * wall) ** 2) * STEEL_DENSITY * 1000.0)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class ShortenPiece:
    """A bought tube to be sawn shorter: where, and how much comes off at which end; the other end stays as it was bought."""

    tube: str
    grade: str
    length: float  # [mm] that is left, from the end of the tube that stays
    off: float  # [mm] that comes off
    cut: str  # the end that is cut: A or B
    keep: str
    count: int = 1

    sort = "shorten"

    @property
    def told(self) -> str:
        """Where it is sawn, in words."""
        return (
            f"saw it so far from end {self.keep}’s tube end; end {self.keep} stays as it is, end {self.cut} comes off"
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class PlatePiece:
    """A flat piece: its outline where that is worked out, else the rectangle that it is cut from."""

    name: str
    material: str
    thickness: float  # [mm]
    length: float  # [mm] of the outline's bounds or of the rectangle
    width: float
    outline: Contour | None = None
    told: str = ""  # what else is to be said of it on a list
    count: int = 1
    sort: str = "plate"


@dataclass(frozen=True, slots=True, kw_only=True)
class Turned:
    """A round piece [mm]: as it is turned, and as it is finished."""

    material: str
    outside: float
    length: float  # face to face
    bore: float  # 0: solid
    fit: str  # "H7", or in words
    after: bool = False  # whether the bore is finished after welding
    left: float = 0.5  # on the radius until then
    notes: tuple[str, ...] = ()
    steps: tuple[tuple[float, float], ...] = ()  # of a stepped solid one: diameter and length, from one end on

    @property
    def rough(self) -> float:
        """Its bore until it is welded."""
        return self.bore - 2 * self.left if self.after else self.bore


@dataclass(frozen=True, slots=True, kw_only=True)
class TurnedPiece:
    """Something turned, milled or cut from other stock, in words; with its sizes where they are known."""

    name: str
    what: str
    count: int = 1
    sort: str = "turned"
    turned: Turned | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class BoughtPiece:
    """Something bought: a row of the catalogue, or in words where it has none."""

    sort: str  # joint, insert, nut, bolt, spacer, washer
    what: str
    hand: str = ""  # RH, LH or empty
    key: str | None = None
    count: int = 1
    order: str = ""  # what is ordered, where that is less than what is told of it: a bolt's length without its grip
    nut: str = ""  # the nut that goes with it, as it is ordered
    torque_nm: float | None = None  # that it is done up with; None: none is told

    @property
    def ordered(self) -> str:
        """What is ordered."""
        return self.order or self.what


@dataclass(frozen=True, slots=True, kw_only=True)
class ToolPiece:
    """A tool that must be at hand; one is enough for the job."""

    sort: str  # tap, die
    what: str
    hand: str = ""
    count: int = 1


Piece = TubePiece | ShortenPiece | PlatePiece | TurnedPiece | BoughtPiece | ToolPiece


@dataclass(frozen=True, slots=True, kw_only=True)
class View:
    """A drawing that a part has: by name, with its title; `cut` where it is a flat pattern at 1:1, of the plate of that name where not of paper."""

    name: str
    title: str
    cut: bool = False
    plate: str | None = None  # the name of the `PlatePiece` that is cut by it
    told: str = ""  # what is printed above a 1:1 template; empty: what its plate is


@dataclass(frozen=True, slots=True, kw_only=True)
class Figure:
    """A length that somebody works to, in large figures on a card."""

    label: str
    mm: float
    note: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class CardLine:
    """A line of a card: words, and a length where there is one; `strong` is what must not be missed."""

    text: str
    mm: float | None = None
    strong: bool = False


def across(*, text: str, mm: float, strong: bool = False) -> CardLine:
    """A line of a card that ends with a diameter. It stands in the words, since no tape reads it: in inches it is told as a drill is.

    Args:
        text: what it is of.
        mm: across.
        strong: whether it must not be missed.
    """
    return CardLine(text=f"{text} ⌀{round(mm, 2):g} mm", strong=strong)


@dataclass(frozen=True, slots=True, kw_only=True)
class CardEnd:
    """An end of a part on its card: its mark (RH, LH, A) and its lines."""

    mark: str
    lines: tuple[CardLine, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """What the bench needs of a part, on paper and on a phone alike."""

    figures: tuple[Figure, ...]
    lines: tuple[CardLine, ...] = ()
    ends: tuple[CardEnd, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class JigStation:
    """Something that stands in a jig, by its ordinate from the datum [mm]."""

    name: str
    ordinate: float
    what: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Jig:
    """How a part is held while it is welded: the view that shows it, what stands where, the order, the length to check."""

    view: str
    stations: tuple[JigStation, ...]
    set_length: float  # [mm] between its ends while welding: the check length plus the allowance for shrink
    check_length: float  # cold
    tolerance: float
    steps: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A part, worked out.

    `saved` is what the user keeps; `own` what its kind alone knows of it, for its own views. `beside` is what its joints are held
    with, which is bought with it and no metal of it.
    """

    saved: SavedPart
    word: str  # its kind, in words
    faults: tuple[Misfit, ...] = ()
    pieces: tuple[Piece, ...] = ()
    beside: tuple[Piece, ...] = ()
    checks: tuple[CheckResult, ...] = ()  # weakest first
    not_checked: tuple[str, ...] = ()
    not_carried: tuple[NotCarried, ...] = ()  # load cases that it should have seen and that could not be carried
    made_of: tuple[str | None, str | None] = (None, None)  # stock and material, in words
    mass: float | None = None  # [kg] of one
    own_mirror: bool = True  # whether a left one is a right one
    views: tuple[View, ...] = ()
    card: Card | None = None
    jig: Jig | None = None
    procedure: str = ""
    welding: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    judged: str = ""  # fingerprint of what its judgement depends on
    tool: str = (
        ""  # of what carries no load of the car, a jig: what stands in the place of a judgement; empty: it carries
    )
    lacks: bool = False  # whether something of such a one asks to be looked at
    own: Any = field(default=None, compare=False)

    @property
    def id(self) -> str:
        """Stable, made by the client."""
        return self.saved.id

    @property
    def name(self) -> str:
        """As the user calls it."""
        return self.saved.name

    @property
    def side(self) -> Side:
        """Left, right, both alike or in the middle."""
        return self.saved.side

    @property
    def complete(self) -> bool:
        """Whether nothing stands in the way of making it."""
        return not self.faults

    @property
    def metal(self) -> str:
        """Fingerprint of what its metal depends on: its pieces, never the engine; what was cut is compared by it."""
        return fingerprint(_rounded([_plain(piece) for piece in self.pieces]))

    def view(self, name: str) -> View | None:
        """A view by its name; None when the part has none of it."""
        return next((one for one in self.views if one.name == name), None)


def _plain(piece: Piece) -> dict[str, Any]:
    """A piece as it is hashed: its fields, its outline's too, and which sort of piece it is."""
    found = {one.name: getattr(piece, one.name) for one in fields(piece)}
    for name in ("outline", "turned"):
        if found.get(name) is not None:
            found[name] = asdict(found[name])
    # what who sells it calls it, how heavy it is and how tightly it is done up is no metal
    for name in ("order", "nut", "kg_m", "torque_nm"):
        found.pop(name, None)
    if any(notches := found.pop("notches", ())):
        found["notches"] = [one and asdict(one) for one in notches]
    return found | {"is": type(piece).__name__}


def _rounded(of: Any) -> Any:
    """Lengths to a ten-thousandth: what two ways of summing differ in is no other metal."""
    if isinstance(of, float):
        return round(of, 4) + 0.0
    if isinstance(of, dict):
        return {key: _rounded(value) for key, value in of.items()}
    return [_rounded(value) for value in of] if isinstance(of, list | tuple) else of


def fingerprint(of: object) -> str:
    """A short hash of anything that goes into JSON: the same for the same figures."""
    return hashlib.sha256(json.dumps(of, sort_keys=True, ensure_ascii=False).encode()).hexdigest()[:16]


def card_of(part: Part) -> Card:
    """The card of a part whose kind has none of its own: what is sawn and cut, in large figures."""
    figures = [
        Figure(label=f"Saw {piece.name}".strip(), mm=piece.length, note=_tube_note(piece))
        for piece in part.pieces if isinstance(piece, TubePiece)
    ]  # fmt: skip
    lines = [
        CardLine(text=f"{piece.count} × {piece.name}, {piece.material}", mm=piece.thickness)
        for piece in part.pieces if isinstance(piece, PlatePiece)
    ]  # fmt: skip
    lines += [CardLine(text=f"{p.count} × {p.what}") for p in part.pieces if isinstance(p, TurnedPiece)]
    return Card(figures=tuple(figures), lines=tuple(lines))


def _tube_note(piece: TubePiece) -> str:
    many = f"{piece.count} of it, " if piece.count > 1 else ""
    return f"{many}{piece.tube}, {piece.grade}{end_note(piece.before_notching, piece.ends)}"


PLAIN_ENDS = ("square", "notched", "tapped")  # what the list says of them it says elsewhere


def end_note(before_notching: bool, ends: Sequence[str]) -> str:
    """What is to be said of a saw length: to where, and what is done to its ends beside a square cut.

    Args:
        before_notching: whether a notch is not worked out.
        ends: of the piece.
    """
    more = [one for one in dict.fromkeys(ends) if one not in PLAIN_ENDS]
    to = ", before notching" if before_notching else ", to its longest points" if "notched" in ends else ""
    return f"{to}, {'; '.join(more)}" if more else to


def with_card(part: Part) -> Part:
    """A complete part with a card, its kind's own or the plain one; what it was not judged in stands first on it."""
    if not part.complete:
        return part
    card = part.card or card_of(part)
    told = tuple(
        CardLine(text=f"{'REFUSED' if one.refuses else 'NOT JUDGED'} in “{one.case}”: {one.why}", strong=True)
        for one in part.not_carried
    )
    return replace(part, card=replace(card, lines=(*told, *card.lines)))


def with_places(part: Part, places: Sequence[tuple[str, str | None]]) -> Part:
    """A part that says at each of its ends which bracket holds it, or that nothing here does, so that nothing there is checked.

    Args:
        part: worked out.
        places: of each end its name, and that of its bracket.
    """
    if not places:
        return part
    lacking = tuple(
        f"{name}: nothing here yet holds this end (bolt, bracket, its weld)" for name, by in places if by is None
    )
    told = "; ".join(f"{name} held by {by}" if by else f"{name}: nothing here yet holds it" for name, by in places)
    card = part.card and replace(part.card, lines=(*part.card.lines, CardLine(text=f"{told[0].upper()}{told[1:]}")))
    return replace(part, not_checked=(*part.not_checked, *lacking), card=card)


def labels(part: Part) -> Sequence[str]:
    """Stock and material in words, those that are known."""
    return [text for text in part.made_of if text]
