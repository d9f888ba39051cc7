"""What changed between two states of a job, part by part: what was made to the first still fits, is set anew, cut anew, made anew.

The first is what somebody may have built from. Whether metal differs is told by the fingerprints of both, worked out alike; where a part stands on
a moving member of its end, by the distances between that member's joints too, which its pieces may not show. What is set anew has been
tried: turned as far as it is told, and judged with what it sees now.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, fields, is_dataclass, replace
from itertools import combinations
from math import dist
from typing import Any, Literal

from tirante.core.document.end import PlaceIn
from tirante.core.document.fields import Point
from tirante.core.document.template import JointPart, LinkJoint, SliderJoint
from tirante.core.errors import InputError
from tirante.core.job.results import CardEndOut, CardLineOut, CardOut
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import AsCut, ThreadLeft
from tirante.core.parts.part import (
    BoughtPiece,
    Card,
    CardEnd,
    CardLine,
    Part,
    Piece,
    PlatePiece,
    ShortenPiece,
    TubePiece,
    TurnedPiece,
)
from tirante.core.parts.registry import kind_of

Verdict = Literal["fits", "set", "buy", "cut", "make", "new", "gone", "incomplete"]
COMES_OFF = {"joint", "nut", "bolt", "spacer", "washer"}  # of what is bought, what is screwed or bolted on
LEAST_TURN = 0.005  # less is not told: what is shown of a turn
SAME = 0.05  # [mm] under which two places on a member are the same: a tenth of what a jig holds; common practice, no source
# worst first, as they are listed
ORDER: tuple[Verdict, ...] = ("make", "cut", "incomplete", "set", "buy", "new", "gone", "fits")


@dataclass(frozen=True, slots=True, kw_only=True)
class FigureChanged:
    """A length that somebody works to, before and now [mm]; None where it is not there."""

    label: str
    before: float | None
    now: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PartChanged:
    """A part that differs, and what is to be done with one that was made before."""

    part_id: str
    name: str
    word: str
    verdict: Verdict
    says: str  # what is to be done, in words; lengths stand in `figures`
    figures: tuple[FigureChanged, ...] = ()
    turns: float | None = None  # where it is set anew, longer (+) or shorter (−)
    of: str = ""  # what is turned
    ends: tuple[ThreadLeft, ...] = ()  # the thread that is left there
    left: float = 0.0  # [mm] that it stays unset
    holds: bool = True  # whether it holds where it did; `says` tells what is over, or not judged any more


def changes(before: Worked, now: Worked) -> list[PartChanged]:
    """Every part that differs between two states of a job, worst first; what neither state changes is left out.

    Args:
        before: what may have been built from.
        now: as it stands.
    """
    found = []
    known = {part.id for part in now.parts}
    for part in now.parts:
        earlier = before.part(part.id)
        one = _new(part) if earlier is None or not earlier.complete else _changed(earlier, part, before, now)
        if one is not None:
            found.append(one)
    for earlier in before.parts:
        if earlier.id not in known:
            says = "It is not in the job any more: do not fit it."
            found.append(_of(earlier, "gone", says))
    return sorted(found, key=lambda one: ORDER.index(one.verdict))


def changed_part(earlier: Part, part: Part, before: Worked, now: Worked) -> PartChanged | None:
    """What is to be done with a part that was made; None where nothing of it differs.

    Args:
        earlier: as it was made.
        part: as it stands.
        before: what it was made from.
        now: as that stands.
    """
    return _changed(earlier, part, before, now)


def set_anew(earlier: Part, part: Part, now: Worked, measured: float) -> PartChanged | None:
    """What is to be done with a part that was found to stand at another length than it was to be made; None where its kind is not set so.

    Args:
        earlier: as it was made.
        part: as it stands.
        now: the job.
        measured: how long it was found to stand, centre to centre [mm].
    """
    tried = kind_of(part.saved).as_cut(earlier, part, now.settings, measured)
    if tried is None:
        return None
    figures = figures_changed(earlier.card, part.card)
    if tried.turns is None or tried.why:
        return _of(part, "make", f"Turned at its threads it will not do: {tried.why}.", figures)
    verdict: Verdict = "fits" if abs(tried.turns) < LEAST_TURN and not tried.left else "set"
    return replace(
        _of(part, verdict, _turned(tried), figures), turns=tried.turns, of=tried.of, left=tried.left, ends=tried.ends
    )


def _of(part: Part, verdict: Verdict, says: str, figures: tuple[FigureChanged, ...] = ()) -> PartChanged:
    return PartChanged(
        part_id=part.id, name=part.name, word=part.word, verdict=verdict, says=says, figures=figures
    )  # fmt: skip


def _new(part: Part) -> PartChanged | None:
    if not part.complete:
        return None  # it was never there to be cut, and is not yet: it stands among what is to be settled
    return _of(part, "new", "It was not there to be made: make it.")


def _changed(earlier: Part, part: Part, before: Worked, now: Worked) -> PartChanged | None:
    if not part.complete:
        return _of(part, "incomplete", f"It is not complete any more: {part.faults[0].message}")
    figures = figures_changed(earlier.card, part.card)
    anew = _handed_anew(earlier, part) or _elsewhere(earlier, part, before, now)
    if anew:
        return _of(part, "make", anew, figures)
    found = _by_metal(earlier, part, figures, now)
    more = part.saved.count - earlier.saved.count
    if more:
        count = f"Now {part.saved.count} of it are wanted." if more > 0 else "Only one of it is wanted now."
        found = found or _of(part, "fits", "What was made fits.")
        found = replace(found, says=f"{found.says} {count}")
    return _with_judgement(found, earlier, part)


def _handed_anew(earlier: Part, part: Part) -> str:
    """Why a part of another side cannot be used, where a left one is no right one."""
    one, other = earlier.side, part.side
    if part.own_mirror or one == other or one == "pair":
        return ""
    return f"It was made for the {one}, and is wanted for the {other} now; a left one is no right one: make it anew."


def _elsewhere(earlier: Part, part: Part, before: Worked, now: Worked) -> str:
    """Which places of the member that a part stands for have moved against each other; a link's one length is its own figure."""
    was, is_now = _set_out(earlier, before), _set_out(part, now)
    if was is None or is_now is None or not was:
        return ""
    if was.keys() != is_now.keys():
        return "Other joints are on it now: make it anew."
    moved = [names for names in was if abs(was[names] - is_now[names]) > SAME]
    if not moved:
        return ""
    one, other = max(moved, key=lambda names: abs(was[names] - is_now[names]))
    return f"Its joints stand elsewhere, {_said(one)} to {_said(other)} most of all: make it anew."


def _said(name: str) -> str:
    side, _, point = name.partition(":")
    return point.replace("_", " ") + (", right" if side == "right" else "")


def _set_out(part: Part, job: Worked) -> Mapping[tuple[str, str], float] | None:
    """Distances between the places on the member that a part stands for [mm]; None where it stands for no body of an end."""
    end_id, body = part.saved.of_end, part.saved.stands_for
    if end_id is None or body is None or end_id not in job.ends:
        return None
    try:
        template = job.template(end_id)
    except InputError:
        return None
    if body not in template.bodies:
        return None
    end = job.ends[end_id]
    names = {point for joint in template.joints for point in _points_on(joint, body)}
    stands: list[PlaceIn] = [place for one in end.dampers.values() for place in one.places]
    stands += end.strap.places if end.strap else ()
    stands += [end.bump_stop.pad] if end.bump_stop and not end.bump_stop.pad_link else []
    names |= {place.point for place in stands if place.body == body}
    # a part of the right alone stands where that side's points are; any other where the left's are, and a pair or one in the middle on both
    places: dict[str, Point] = {}
    for name in sorted(name for name in names if name in end.points):
        left, right = end.points[name], end.right_points.get(name)
        if part.side == "right":
            places[f"right:{name}"] = right or (left[0], -left[1], left[2])
            continue
        places[f"left:{name}"] = left
        if part.side != "left" and right:
            places[f"right:{name}"] = right
    return {
        (one, other): dist(places[one], places[other])
        for one, other in combinations(places, 2) if one.partition(":")[0] == other.partition(":")[0]
    }  # fmt: skip


def tubes_of(pieces: tuple[Piece, ...]) -> Iterator[TubePiece | ShortenPiece]:
    """What is sawn: of tube, or of a bought link."""
    return (piece for piece in pieces if isinstance(piece, TubePiece | ShortenPiece))


def _by_metal(earlier: Part, part: Part, figures: tuple[FigureChanged, ...], now: Worked) -> PartChanged | None:
    was, is_now = earlier.pieces, part.pieces
    if earlier.saved.kind != part.saved.kind:
        return _of(part, "make", f"It is a {part.word} now, and was a {earlier.word}: make it anew.", figures)
    if _alike(was, is_now):
        if not _alike(_only(earlier.beside, BoughtPiece), _only(part.beside, BoughtPiece)):
            says = f"What was made fits; its joints take other hardware: {_told_bought(part.beside)}."
            return _of(part, "buy", says, figures)
        if figures:
            return _of(part, "fits", kind_of(part.saved).set_anew, figures)
        return None
    if not _alike(_only(was, PlatePiece | TurnedPiece), _only(is_now, PlatePiece | TurnedPiece)):
        return _of(part, "make", "Its plates or turned pieces are other now: make it anew.", figures)
    if not _alike(_fast(was), _fast(is_now)):
        return _of(part, "make", "What is welded or pressed into it is other now: make it anew.", figures)
    if _alike(tuple(tubes_of(was)), tuple(tubes_of(is_now))):
        return _of(part, "buy", f"What is bought for it is other: {_told_bought(is_now)}.", figures)
    if not _alike(_only(was, BoughtPiece), _only(is_now, BoughtPiece)):
        return _of(part, "make", "Its tubes and what is bought for it are other now: make it anew.", figures)
    if _alike(tuple(tubes_of(was)), tuple(tubes_of(is_now)), but_for=("length", "off")):
        return _other_length(earlier, part, figures, now)
    return _of(part, "make", "It is of other tube now: make it anew.", figures)


def _fast(pieces: tuple[Piece, ...]) -> tuple[Piece, ...]:
    """What is bought and does not come off again: inserts, sleeves, cups."""
    return tuple(piece for piece in pieces if isinstance(piece, BoughtPiece) and piece.sort not in COMES_OFF)


def _only(pieces: tuple[Piece, ...], sort: Any) -> tuple[Piece, ...]:
    return tuple(piece for piece in pieces if isinstance(piece, sort))


def _points_on(joint: JointPart, body: str) -> list[str]:
    """The points at which a joint holds a body; a hinge's line is on both of its bodies, a link's end and what slides on one."""
    if body not in joint.bodies_tied:
        return []
    apart = isinstance(joint, LinkJoint | SliderJoint)
    return [place.point for place in joint.places if not apart or place.body == body]


def _alike(one: Any, other: Any, but_for: tuple[str, ...] = ()) -> bool:
    """Whether pieces are the same to a bench: lengths to a twentieth of a millimetre, all else exactly."""
    if isinstance(one, float) and isinstance(other, float):
        return abs(one - other) <= SAME
    if type(one) is not type(other):
        return False
    if is_dataclass(one):
        names = [field.name for field in fields(one) if field.name not in but_for]
        return all(_alike(getattr(one, name), getattr(other, name)) for name in names)
    if isinstance(one, tuple):
        return len(one) == len(other) and all(_alike(a, b, but_for) for a, b in zip(one, other, strict=True))
    return bool(one == other)


def _told_bought(pieces: tuple[Piece, ...]) -> str:
    return "; ".join(
        f"{p.count} × {p.what}{f', {p.hand}' if p.hand else ''}" for p in pieces if isinstance(p, BoughtPiece)
    )


def _other_length(earlier: Part, part: Part, figures: tuple[FigureChanged, ...], now: Worked) -> PartChanged:
    """Tubes of another length, all else alike: turned where that holds, else sawn shorter, else made anew."""
    tried = kind_of(part.saved).as_cut(earlier, part, now.settings)
    if tried is not None and tried.turns is not None and not tried.why:
        return replace(
            _of(part, "set", _turned(tried), figures), turns=tried.turns, of=tried.of, left=tried.left, ends=tried.ends
        )  # fmt: skip
    why = f" Turned at its threads it will not do: {tried.why}." if tried and tried.why else ""
    pairs = list(zip(tubes_of(earlier.pieces), tubes_of(part.pieces), strict=True))
    square = all(_square(p) for _, p in pairs)
    if square and all(b.length <= a.length for a, b in pairs):
        return _of(
            part,
            "cut",
            f"Saw the tube shorter, if nothing is welded in yet; if it is, make the tube anew.{why}",
            figures,
        )
    return _of(part, "make", f"Its tubes have other lengths: make it anew.{why}", figures)


def _square(piece: TubePiece | ShortenPiece) -> bool:
    """Whether it can be sawn shorter and is the same piece still; a bought link is sawn at its end that is made anew."""
    if isinstance(piece, ShortenPiece):
        return True
    return set(piece.ends) <= {"square", "tapped"} and not piece.before_notching


def _turned(tried: AsCut) -> str:
    turns = abs(tried.turns or 0.0)
    if turns < LEAST_TURN:
        return "What was made fits as it was cut; more or less of its thread shows than it would if it were cut now."
    way = "longer" if (tried.turns or 0.0) > 0 else "shorter"
    many = f"{turns:.2f}".rstrip("0").rstrip(".")
    left = " It goes by half turns, so its length is not met exactly." if tried.left else ""
    return f"Turn {tried.of} {many} turn{'' if many == '1' else 's'} {way}; it was tried there, and holds.{left}"


def _with_judgement(found: PartChanged | None, earlier: Part, part: Part) -> PartChanged | None:
    """What must be told of a part that may stay as it is: that it holds no longer."""
    over = next((f"{check.name} is over" for check in part.checks if not check.passed), "")
    if not over and not earlier.not_carried:
        over = next((f"it is not judged in “{one.case}”" for one in part.not_carried), "")
    if not over or any(not check.passed for check in earlier.checks) or (found and found.verdict == "make"):
        return found
    found = found or _of(part, "fits", "What was made fits.")
    return replace(
        found,
        says=f"{found.says} But it does not hold now: {over}."
        if over.endswith("over")
        else f"{found.says} But {over}.",
        holds=False,
    )


def issued_otherwise(cards: Mapping[str, CardOut], before: Worked) -> list[tuple[str, tuple[FigureChanged, ...]]]:
    """Parts whose sheets were issued with other figures than are worked out of the same design now: another engine made them.

    Args:
        cards: of the parts as they were issued, by id.
        before: that revision, worked out now.

    Returns:
        Of each its name, and what it was issued with beside what it comes to now.
    """
    found = []
    for part in before.parts:
        figures = figures_changed(cards.get(part.id), part.card) if part.id in cards else ()
        if figures:
            found.append((part.name, figures))
    return found


def figures_changed(before: Card | CardOut | None, now: Card | CardOut | None) -> tuple[FigureChanged, ...]:
    """The lengths of two cards of one part that differ, in the order of the newer.

    Args:
        before: the earlier.
        now: the newer.
    """
    was, is_now = (dict(_figures(card)) if card else {} for card in (before, now))
    every = [*is_now, *(label for label in was if label not in is_now)]
    return tuple(
        FigureChanged(label=label, before=was.get(label), now=is_now.get(label))
        for label in every if _differ(was.get(label), is_now.get(label))
    )  # fmt: skip


def _differ(one: float | None, other: float | None) -> bool:
    return one is not other and (one is None or other is None or abs(one - other) > SAME)


def _figures(card: Card | CardOut) -> Iterator[tuple[str, float]]:
    for figure in card.figures:
        yield figure.label, figure.mm
    yield from _lines(card.lines, "")
    ends: Sequence[CardEnd | CardEndOut] = card.ends
    for i, end in enumerate(ends):
        yield from _lines(end.lines, f"end {'AB'[i] if i < 2 else i + 1}, ")


def _lines(lines: Sequence[CardLine | CardLineOut], where: str) -> Iterator[tuple[str, float]]:
    for line in lines:
        if line.mm is not None:
            yield f"{where}{line.text}", line.mm
