"""What a jig takes hold of: bores and their bolts, tubes between them, plates let in, and where beads are laid. It knows no kind of part.

Coordinates in mm, in axes that turn neither length nor hand about: an arm's are the car's at ride height, a link's its own.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
NOT_YET = "It is not complete yet: its jig follows from its joints and tubes. Finish it at its own station first."

DUMMY = 12.0  # [mm] bolt through a dummy where nothing says which; common practice, no source


def triple(v: Array) -> tuple[float, float, float]:
    """A place or a way as plain numbers."""
    return float(v[0]), float(v[1]), float(v[2])


@dataclass(frozen=True, slots=True, kw_only=True)
class Held:
    """A joint that a dummy bolt goes through, or a pin stands in."""

    name: str
    at: tuple[float, float, float]  # its centre
    axis: tuple[float, float, float]  # of its bore, of length 1
    directed: bool  # whether the bore tells its own two ends apart, as a stud's does: it points along `axis`
    bore: float  # of the dummy
    wide: float  # from face to face along the bore, of what is clamped
    outside: float  # across, of what is round the bore
    what: str  # in words
    seat: float = 0.0  # of a sleeve or cup its own bore, that a turned dummy fills; 0: the bolt itself goes through
    way: str = "the way its stud points"  # of a directed bore, which that is
    guessed: bool = False  # whether the bore's direction is not known and taken as square to the part

    @property
    def p(self) -> Array:
        """Its centre (3)."""
        return np.array(self.at)

    @property
    def a(self) -> Array:
        """Along its bore (3), of length 1."""
        return np.array(self.axis)


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """A straight tube, box or plate edge between two places, that a rest may stand under.

    `a_seam` and `b_seam`: how far from each end along it its bead lies; None: none is laid there.
    """

    name: str
    a: tuple[float, float, float]
    b: tuple[float, float, float]
    od: float  # across
    a_seam: float | None = 0.0
    b_seam: float | None = 0.0
    to: tuple[str, str] = ("", "")  # the held places, or the bars, that it is welded to
    square: bool = False  # whether it is a box, whose underside is flat


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet:
    """A flat plate let in: its corners."""

    name: str
    corners: tuple[tuple[float, float, float], ...]
    thickness: float
    stopped: bool = True  # whether a stop is put under it; not one whose own bores hold it


@dataclass(frozen=True, slots=True, kw_only=True)
class Ring:
    """A bead round a bore, as that of a boss in a plate: what is welded, at which held place, its middle and how far it reaches."""

    name: str
    to: str
    at: tuple[float, float, float]
    reach: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Features:
    """A part as a jig has it."""

    held: tuple[Held, ...]
    bars: tuple[Bar, ...] = ()
    sheets: tuple[Sheet, ...] = ()
    rings: tuple[Ring, ...] = ()
    not_held: tuple[str, ...] = ()  # what of it no jig here holds, in words

    def mirrored(self) -> Features:
        """Its mirror image, left for right."""
        return replace(
            self,
            held=tuple(replace(one, at=_m(one.at), axis=_m(one.axis)) for one in self.held),
            bars=tuple(replace(one, a=_m(one.a), b=_m(one.b)) for one in self.bars),
            sheets=tuple(replace(one, corners=tuple(_m(corner) for corner in one.corners)) for one in self.sheets),
            rings=tuple(replace(one, at=_m(one.at)) for one in self.rings),
        )


def _m(v: tuple[float, float, float]) -> tuple[float, float, float]:
    return v[0], -v[1], v[2]


@dataclass(frozen=True, slots=True, kw_only=True)
class Seam:
    """A bead round the end of a bar, beside it, or round a bore: its middle and how far it reaches."""

    bar: str
    to: str
    at: Array
    reach: float


def seams_of(bars: Sequence[Bar], rings: Sequence[Ring] = ()) -> tuple[Seam, ...]:
    """Every bead that is laid at the ends of bars, and round bores.

    Args:
        bars: of a part.
        rings: likewise.
    """
    found = [Seam(bar=one.name, to=one.to, at=np.array(one.at), reach=one.reach) for one in rings]
    for bar in bars:
        a, b = np.array(bar.a), np.array(bar.b)
        way = (b - a) / np.linalg.norm(b - a)
        for off, end, sign, to in ((bar.a_seam, a, 1.0, bar.to[0]), (bar.b_seam, b, -1.0, bar.to[1])):
            if off is not None:
                found.append(Seam(bar=bar.name, to=to, at=end + sign * off * way, reach=bar.od / 2))
    return tuple(found)
