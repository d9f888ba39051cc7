"""The tubes of a welded part as they are cut: what each end stands on, its notch, and the length that is sawn.

Both ends of a tube are counted round from one line along it, so that they are clocked to each other. Not covered: sleeves and cups that
are shorter than the tube is wide, and what a bead adds.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import degrees, pi

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Grade, Tube
from tirante.core.errors import TiranteError
from tirante.core.jigs.features import Bar, triple
from tirante.core.notch.hole_saw import nearest_saw, told
from tirante.core.notch.meeting import Block, Branch, Fitted, Round, Surface, arc_of, fit, round_at
from tirante.core.parts.part import CardLine, Figure, NotchedEnd, TubePiece, end_note, tube_piece

Array = NDArray[np.float64]
NEAR = 0.05  # [mm] of a corner of a wrap, within which it has no other place
TAKES = 0.01  # [mm] off a tube, from which on what stands by it is said to be in its way
STEP = 2  # [deg] round the tube, at which a piece keeps its notch


@dataclass(frozen=True, slots=True, kw_only=True)
class Meets:
    """What an end of a tube comes to."""

    where: str  # in words
    rounds: tuple[Surface, ...] = ()  # what it is notched to, in the order of fitting
    square: float | None = None  # it is cut square there, so far from its place [mm], and not notched
    open: bool = False  # nothing shuts it there
    before: float = 0.0  # from its place to where it is sawn, where its notch is not worked out [mm]
    why: str = ""  # it is not
    capped: bool = False  # it is cut square past its place, where others stand on it, and a cap shuts it


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """A straight tube from one place to another [mm]."""

    name: str
    a: Array
    b: Array
    od: float
    wall: float
    ends: tuple[Meets, Meets]
    sawn: float | None = None  # of the whole tube, where this is an outer piece of a bent one [mm]

    def round(self) -> Round:
        """What stands on its side is notched to."""
        return round_at(self.name, self.a, self.b - self.a, self.od / 2)

    def from_end(self, at: Array) -> Round:
        """What comes later to the place where it ends is notched to.

        Args:
            at: that place [mm].
        """
        far = self.b if np.allclose(at, self.a) else self.a
        return round_at(self.name, at, far - at, self.od / 2, begins=True)


def bar_of(run: Run, to: tuple[str, str]) -> Bar:
    """A tube as a jig has it, its beads where it meets what is round, or where it ends square.

    Args:
        run: of the part.
        to: what it goes to at either end, by the names that the jig holds them by.
    """
    seams = []
    for meets in run.ends:
        first = meets.rounds[0] if meets.rounds else None
        seams.append(None if meets.capped else first.radius if isinstance(first, Round) else meets.square if meets.square is not None else meets.before)  # fmt: skip
    return Bar(name=run.name, a=triple(run.a), b=triple(run.b), od=run.od, a_seam=seams[0], b_seam=seams[1], to=to)


@dataclass(frozen=True)
class Cut:
    """A tube as it is cut."""

    run: Run
    up: Array  # the way to the line that both ends are counted from
    paper: float = 0.0  # thickness of its wrap [mm]

    @cached_property
    def ends(self) -> tuple[Fitted | str, Fitted | str]:
        """Either end's notch; words where it has none, or none was worked out."""
        return self._end(0), self._end(1)

    def _end(self, which: int) -> Fitted | str:
        meets, run = self.run.ends[which], self.run
        if not meets.rounds:
            return "square" if meets.square is not None else meets.why
        here, far = (run.a, run.b) if which == 0 else (run.b, run.a)
        foot, along, aside = here.tolist(), (far - here).tolist(), self.up.tolist()
        branch = Branch(
            foot=(foot[0], foot[1], foot[2]), along=(along[0], along[1], along[2]), aside=(aside[0], aside[1], aside[2]), od=run.od, wall=run.wall
        )  # fmt: skip
        try:
            found = fit(branch, meets.rounds[:1])
        except TiranteError as error:
            return error.message
        # what stands by it and takes nothing off it is no part of its notch
        phi = np.radians(np.arange(0, 360, STEP))
        for one in meets.rounds[1:]:
            more = Fitted(branch, (*found.rounds, one))
            if float((more.at(phi, run.od / 2) - found.at(phi, run.od / 2)).max()) > TAKES:
                found = more
        return found

    def off(self, which: int) -> float:
        """From an end's place to where the tube is sawn [mm]."""
        end, meets = self.ends[which], self.run.ends[which]
        if isinstance(end, Fitted):
            return end.long
        return meets.before if meets.square is None else meets.square

    @property
    def length(self) -> float:
        """That is sawn [mm]: to the longest points of its notches."""
        if self.run.sawn is not None:
            return self.run.sawn
        return float(np.linalg.norm(self.run.b - self.run.a)) - self.off(0) - self.off(1)

    @property
    def lacking(self) -> tuple[str, ...]:
        """What stands in the way of its notches, by end."""
        return tuple(
            f"{self.run.name}, {meets.where}: {end}"
            for end, meets in zip(self.ends, self.run.ends, strict=True)
            if isinstance(end, str) and end != "square"
        )

    def notched(self, which: int) -> NotchedEnd | None:
        """An end as its piece keeps it; None where it is not notched."""
        return self._notches[which]

    @cached_property
    def _notches(self) -> tuple[NotchedEnd | None, NotchedEnd | None]:
        return self._notched(0), self._notched(1)

    def _notched(self, which: int) -> NotchedEnd | None:
        end, meets = self.ends[which], self.run.ends[which]
        if not isinstance(end, Fitted):
            return None
        turn = (
            1 if which == 0 else -1
        )  # either end counts right-handed about the way into the tube: the far one the other way round
        phi = np.radians(np.arange(0, 360 + STEP, STEP))
        outer, inner = end.at(turn * phi, self.run.od / 2), end.at(turn * phi, self.run.od / 2 - self.run.wall)
        long = end.furthest("long")[1]
        saw, first = nearest_saw(end), end.rounds[0]
        angle = degrees(end.angle_to(first))
        plain = f"a plain saw cut, {90.0 - angle:.1f}° off square" if end.one_face else ""
        return NotchedEnd(
            where=meets.where, onto=tuple(one.told for one in end.rounds), depth=end.depth,
            angle_deg=angle, offset=end.offset_to(first), long_deg=round(degrees(turn * long) % 360, 3) % 360,
            profile=tuple((float(degrees(p)), float(o - end.long), float(i - end.long)) for p, o, i in zip(phi, outer, inner, strict=True)),
            by_saw=told(saw) if saw else plain, off=end.long, to_face=isinstance(first, Block),
        )  # fmt: skip

    @property
    def closed(self) -> bool:
        """Whether no air leaves it once both ends are welded: what it is notched to, or an insert, shuts it."""
        return all(
            isinstance(end, Fitted) or (meets.square is not None and not meets.open)
            for end, meets in zip(self.ends, self.run.ends, strict=True)
        )

    @property
    def gauge(self) -> float | None:
        """Length of a rod between the bottoms of both notches, by which a cut tube is measured [mm]; None where not both are notched."""
        one, two = self.ends
        if isinstance(one, Fitted) and isinstance(two, Fitted) and self.run.sawn is None:
            return float(np.linalg.norm(self.run.b - self.run.a)) - one.short - two.short
        return None

    def piece(self, tube: Tube, grade: Grade) -> TubePiece:
        """What is sawn and notched of it.

        Args:
            tube: the stock.
            grade: its metal.
        """
        ends = tuple("square" if meets.square is not None else "notched" for meets in self.run.ends)
        return tube_piece(
            self.run.name, tube, grade, self.length, (ends[0], ends[1]), before_notching=bool(self.lacking),
            notches=(self.notched(0), self.notched(1)),
        )  # fmt: skip

    def figure(self, tube: Tube, grade: Grade) -> Figure:
        """What a card says to saw.

        Args:
            tube: the stock.
            grade: its metal.
        """
        piece = self.piece(tube, grade)
        note = f"{tube.label}, {grade.label}{end_note(piece.before_notching, piece.ends)}"
        return Figure(label=f"Saw {self.run.name}", mm=self.length, note=note)

    def lines(self) -> list[CardLine]:
        """What a card says of its ends."""
        out = []
        for which in (0, 1):
            one = self.notched(which)
            if one is None:
                continue
            said = f"{self.run.name}, {one.where}: notched over {', then '.join(one.onto)}; {one.angle_deg:.1f}° {'to its face' if one.to_face else 'between the axes'}, deep"
            out.append(CardLine(text=said, mm=one.depth))
            first = self.run.ends[which].rounds[0]
            if isinstance(first, Block) and not first.plate:
                out.append(CardLine(text=f"{self.run.name}, {one.where}: to the boxes there as they run on past it: trim their ends after"))  # fmt: skip
            how = f"by {one.by_saw}" if one.by_saw else "to its wrap template: no one hole saw cuts it"
            out.append(CardLine(text=f"{self.run.name}, {one.where}: {how}"))
        if self.gauge is not None:
            out.append(CardLine(text=f"{self.run.name}: between the bottoms of its notches", mm=self.gauge))
        for meets in self.run.ends:
            if meets.capped and meets.square is not None:
                out.append(CardLine(text=f"{self.run.name}, {meets.where}: square, closed with a cap; it runs on past that place, so that the others stand on its side, by", mm=-meets.square))  # fmt: skip
        out += [CardLine(text=f"NOT NOTCHED: {one}", strong=True) for one in self.lacking]
        return out


def cut_to_each_other(runs: Sequence[Run], up: Array, paper: float) -> tuple[Cut, ...]:
    """Tubes in the order in which they are fitted.

    Args:
        runs: each with what its ends come to.
        up: the way to the line that their ends are counted from; one per part, so that it can be found again on the bench.
        paper: thickness of what their wraps are printed on [mm].
    """
    return tuple(Cut(run, _square_to(up, run.b - run.a), paper) for run in runs)


def _square_to(up: Array, way: Array) -> Array:
    """The nearest to a direction that is square to a tube; any that is, for a tube that runs along it."""
    way = way / np.linalg.norm(way)
    square = up - (up @ way) * way
    if float(np.linalg.norm(square)) < 0.05:
        other = np.eye(3)[int(np.argmin(np.abs(way)))]
        square = other - (other @ way) * way
    return square / np.linalg.norm(square)


def wrapped(cut: Cut, which: int, x: Array) -> Array:
    """How far beyond the longest point the notch's edge lies at places across a wrap whose middle is the marked line [mm].

    Args:
        cut: the tube.
        which: end 0 or 1.
        x: across the wrap, print outside, end 0 at its foot [mm].
    """
    end = cut.ends[which]
    assert isinstance(end, Fitted)
    phi = x / ((cut.run.od + cut.paper) / 2)
    return end.at(phi if which == 0 else -phi, cut.run.od / 2) - end.long


def wrap_places(cut: Cut, which: int, step: float) -> Array:
    """Places across a wrap from which its curve is drawn [mm]: even ones, and the corners where one surface gives over to another.

    Args:
        cut: the tube.
        which: end 0 or 1.
        step: from one to the next [deg].
    """
    end = cut.ends[which]
    assert isinstance(end, Fitted)
    even = np.radians(np.linspace(-180.0, 180.0, round(360 / step) + 1))
    turned = np.array(end.corners()) * (1 if which == 0 else -1)
    corners = (turned + pi) % (2 * pi) - pi
    radius = (cut.run.od + cut.paper) / 2
    # an even place beside a corner makes a line that no cutter can follow
    apart = np.abs(even[:, None] - corners[None, :]).min(axis=1, initial=np.inf) * radius
    apart[[0, -1]] = np.inf
    return np.unique(np.concatenate([even[apart > NEAR], corners])) * radius


def wrap_width(cut: Cut) -> float:
    """Length of a wrap round the tube [mm]."""
    return arc_of(cut.run.od, 360.0, cut.paper)
