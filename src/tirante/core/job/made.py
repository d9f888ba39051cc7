"""Parts as they were made against the job as it now stands: what fits, is set anew, sawn shorter or made anew, and from what.

How far one hand of a part was made is told by its steps. What is tacked is sawn no more; of what is only at hand nothing is lost.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from tirante.core.document.rack import RackRow, is_tube, plain
from tirante.core.job.changes import ORDER, FigureChanged, PartChanged, Verdict, changed_part, set_anew, tubes_of
from tirante.core.job.traveller import BECOMES
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import ThreadLeft
from tirante.core.parts.part import Part, PlatePiece, TubePiece, TurnedPiece

KINDS = tuple(BECOMES)  # of steps, in the order of the work


@dataclass(frozen=True, slots=True, kw_only=True)
class AsMade:
    """One hand of a part that somebody began."""

    part_id: str
    hand: str = ""
    made_from: int | None = None  # the issued revision; None: a draft, which is not kept
    metal: str = ""  # fingerprint that its steps name; empty: not known
    steps: frozenset[str] = frozenset()  # kinds of those that are done
    measured: float | None = None  # how long it was found to stand, centre to centre [mm]

    @property
    def furthest(self) -> int:
        """Place of the furthest step that is done among the kinds; −1: none is."""
        return max((KINDS.index(one) for one in self.steps), default=-1)

    @property
    def joined(self) -> bool:
        """Whether it is tacked: its tubes are sawn no more."""
        return self.furthest >= KINDS.index("tack")

    @property
    def cut(self) -> bool:
        """Whether anything was cut or sawn of it."""
        return self.furthest > KINDS.index("have")


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """What a piece could be sawn from."""

    piece: str  # of the part; empty where the part is this piece
    length: float  # [mm] that it is to have
    what: str
    there: float  # [mm] that is there


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeNow:
    """One hand of a part that was begun, and what is to be done with it."""

    made: AsMade
    name: str
    word: str
    is_now: str  # by its furthest step, in a word or two
    verdict: Verdict | None  # None: it cannot be told
    says: str
    figures: tuple[FigureChanged, ...] = ()
    turns: float | None = None
    of: str = ""
    left: float = 0.0  # [mm]
    ends: tuple[ThreadLeft, ...] = ()
    off: tuple[tuple[str, float], ...] = ()  # tubes that are sawn shorter, and by how much [mm]
    sources: tuple[Source, ...] = ()  # of what is made anew
    not_found: tuple[
        str, ...
    ] = ()  # of what is made anew, pieces for which nothing that is there will do or was looked for
    holds: bool = True

    @property
    def askew(self) -> bool:
        """Whether it does not fit or hold as it is, or nobody can tell."""
        return self.verdict != "fits" or not self.holds


def made_now(
    made: Sequence[AsMade], before: Mapping[int, Worked], now: Worked, rack: Sequence[RackRow]
) -> tuple[MadeNow, ...]:
    """Every hand of a part that was begun, worst first.

    Args:
        made: what was begun.
        before: the revisions that it was made from, worked out, by number.
        now: the job as it stands.
        rack: what stands on the shop's rack.
    """
    told = [_told(one, before, now) for one in made]
    spare = [
        (one, tube)
        for one in told if one.verdict in ("make", "gone") and one.made.cut and not one.made.joined
        for tube in _tubes(_earlier(one.made, before, now))
    ]  # fmt: skip
    found = []
    for one in told:
        part = now.part(one.made.part_id)
        if one.verdict == "make" and part is not None:
            one = _with_sources(one, part, [(of, tube) for of, tube in spare if of.made != one.made], rack)
        found.append(one)
    return tuple(sorted(found, key=lambda one: -1 if one.verdict is None else ORDER.index(one.verdict)))


def _earlier(made: AsMade, before: Mapping[int, Worked], now: Worked) -> Part | None:
    """The part as it was made; as it stands where its metal is still that."""
    part = now.part(made.part_id)
    if part is not None and made.metal and part.metal == made.metal:
        return part
    job = before.get(made.made_from) if made.made_from is not None else None
    return job.part(made.part_id) if job else None


def _tubes(part: Part | None) -> list[TubePiece]:
    return [piece for piece in part.pieces if isinstance(piece, TubePiece)] if part else []


def _told(made: AsMade, before: Mapping[int, Worked], now: Worked) -> MadeNow:
    earlier, part = _earlier(made, before, now), now.part(made.part_id)
    known = part or earlier
    base = MadeNow(
        made=made, name=known.name if known else made.part_id, word=known.word if known else "part",
        is_now=BECOMES[KINDS[made.furthest]] if made.furthest >= 0 else "", verdict=None, says="",
    )  # fmt: skip
    if part is None:
        return replace(base, verdict="gone", says="It is not in the job any more: do not fit it.")
    if made.hand and part.side not in ("pair", made.hand) and not part.own_mirror:
        return replace(base, verdict="gone", says=f"Only the {part.side} one is wanted now: do not fit this one.")
    if earlier is None or not earlier.complete:
        return replace(base, says="What it was made from is not kept: measure it against its card as it is now.")
    job = before.get(made.made_from, now) if made.made_from is not None else now
    change = changed_part(earlier, part, job, now)
    if made.measured is not None and (change is None or change.verdict in ("fits", "set", "buy")):
        change = _measured(earlier, part, now, made.measured, change)
    if change is None:
        return replace(base, verdict="fits", says="It fits as it was made.")
    return _by_what_is_done(_with(base, change), earlier, part)


def _measured(
    earlier: Part, part: Part, now: Worked, measured: float, change: PartChanged | None
) -> PartChanged | None:
    anew = set_anew(earlier, part, now, measured)
    if anew is None or change is None:
        return anew or change
    more = "" if change.verdict == "set" else f" {change.says}"
    return replace(anew, says=f"{anew.says}{more}", holds=change.holds)


def _with(base: MadeNow, change: PartChanged) -> MadeNow:
    return replace(
        base, verdict=change.verdict, says=change.says, figures=change.figures, turns=change.turns, of=change.of, left=change.left, ends=change.ends,
        holds=change.holds,
    )  # fmt: skip


def _by_what_is_done(found: MadeNow, earlier: Part, part: Part) -> MadeNow:
    """What is told of a part as it would be told of a finished one, by how far this one is made."""
    if found.verdict in ("make", "cut") and not found.made.cut:
        return replace(found, verdict="buy", says="Nothing is cut of it yet: take to hand what its card says now.")
    if found.verdict == "cut" and found.made.joined:
        return replace(found, verdict="make", says="Its tube is too long now, and is tacked in: make it anew.")
    if found.verdict == "cut":
        pairs = zip(tubes_of(earlier.pieces), tubes_of(part.pieces), strict=True)
        off = tuple(
            (was.name if isinstance(was, TubePiece) else was.tube, was.length - is_now.length)
            for was, is_now in pairs if was.length > is_now.length
        )  # fmt: skip
        return replace(found, says="Saw it shorter: nothing is tacked to it yet.", off=off)
    return found


def _with_sources(
    found: MadeNow, part: Part, spare: Sequence[tuple[MadeNow, TubePiece]], rack: Sequence[RackRow]
) -> MadeNow:
    """For each tube of a part that is made anew the shortest of what is there that is long enough: offcuts first, then what was sawn for other parts."""
    sources, missing = [], []
    for piece in _tubes(part):
        there = [
            (row.offcut, row.length_mm, f"{'offcut' if row.offcut else 'length'} {row.place or 'on the rack'}{f', heat {row.heat}' if row.heat else ''}")
            for row in rack
            if row.sort == "tube" and row.count and is_tube(row, piece.tube) and plain(row.material) == plain(piece.grade) and row.length_mm >= piece.length
        ]  # fmt: skip
        there += [
            (True, tube.length, f"sawn for {of.name}{f', {of.made.hand}' if of.made.hand else ''}")
            for of, tube in spare
            if (tube.tube_key, tube.grade_key) == (piece.tube_key, piece.grade_key) and tube.length >= piece.length and not tube.before_notching and set(tube.ends) == {"square"}
        ]  # fmt: skip
        best = min(there, key=lambda one: (not one[0], one[1]), default=None)
        if best is None:
            missing.append(
                f"{piece.name or piece.tube}: nothing on the rack, or sawn for a part that is not wanted so, is long enough"
            )
        else:
            sources.append(Source(piece=piece.name, length=piece.length, what=best[2], there=best[1]))
    other = sum(isinstance(piece, PlatePiece | TurnedPiece) for piece in part.pieces)
    if other:
        missing.append(
            f"{other} {'plate or turned piece is' if other == 1 else 'plates or turned pieces are'} not looked for on the rack"
        )
    return replace(found, sources=tuple(sources), not_found=tuple(missing))
