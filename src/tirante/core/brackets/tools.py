"""What goes round a bolt while it is fitted and welded: its head and nut, a spanner, a socket, a torch.

Source:
    Widths across flats and heads of ISO 4014 (metric) and of ASME B18.2.1 (inch), nuts of about ISO 7040, all from memory; the tools are
    common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.members.thread import Thread

Array = NDArray[np.float64]
ISO_FLATS = {4.0: 7.0, 5.0: 8.0, 6.0: 10.0, 8.0: 13.0, 10.0: 16.0, 12.0: 18.0, 14.0: 21.0, 16.0: 24.0, 18.0: 27.0, 20.0: 30.0, 22.0: 34.0, 24.0: 36.0, 27.0: 41.0, 30.0: 46.0}  # fmt: skip
INCH_FLATS = {6.35: 11.1125, 7.9375: 12.7}  # those that are more than one and a half times the bolt
FLATS_OF_BOLT = 1.5
CORNERS = 1.1547  # times the width across flats
HEAD_OF_BOLT, NUT_OF_BOLT, WASHER_OF_BOLT = 0.65, 1.2, 0.2  # heights, times the bolt
WASHER_OUTSIDE = 2.0  # times the bolt


@dataclass(frozen=True, slots=True, kw_only=True)
class Hardware:
    """A hexagon bolt with its locking nut [mm]."""

    flats: float  # across
    head: float  # its height
    nut: float
    washer: float  # its thickness
    washer_radius: float

    @property
    def outside(self) -> float:
        """From its middle to the furthest of hexagon and washer."""
        return max(self.corner, self.washer_radius)

    @property
    def corner(self) -> float:
        """From its middle to a corner of the hexagon: however it is turned, nothing of it is further."""
        return CORNERS * self.flats / 2


def hardware(thread: Thread, diameter: float) -> Hardware:
    """Head, nut and washer of a bolt.

    Args:
        thread: of it.
        diameter: of its shank [mm].
    """
    table = ISO_FLATS if thread.series == "metric" else INCH_FLATS
    flats = next((wide for size, wide in table.items() if abs(size - diameter) < 0.05), FLATS_OF_BOLT * diameter)
    return Hardware(
        flats=flats,
        head=HEAD_OF_BOLT * diameter,
        nut=NUT_OF_BOLT * diameter,
        washer=max(1.6, WASHER_OF_BOLT * diameter),
        washer_radius=WASHER_OUTSIDE * diameter / 2,
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Hexagon:
    """A nut or a head somewhere, that a spanner goes on."""

    face: Array  # where its washer lies, on its own line (3)
    out: Array  # the way that it stands out from there (3), length 1
    x: Array  # two ways square to that and to each other (3)
    y: Array
    flats: float
    washer: float
    tall: float  # from the face to the end of what a spanner goes over [mm]
    held: bool = False  # while the bolt’s other end is turned


@dataclass(frozen=True, slots=True, kw_only=True)
class WayOut:
    """The room that a bolt's head takes while it is drawn out; of a U-bolt that of all of it."""

    face: Array  # where it begins, on the bolt's own line (3)
    out: Array  # the way that it is drawn (3), length 1
    long: float  # [mm]
    radius: float = 0.0  # of a round one
    wide: Array | None = None  # the way that a flat one is wide (3), length 1; None: it is round
    halves: tuple[float, float] = (0.0, 0.0)  # of a flat one: half of its width, and of its thickness


def drawn_out(face: Array, out: Array, diameter: float, length: float) -> WayOut:
    """Of a metric bolt, its head on that side.

    Args:
        face: where its head's washer lies (3).
        out: the way that it stands out from there (3), length 1.
        diameter: of the bolt [mm].
        length: of it under the head [mm].
    """
    washer = max(1.6, WASHER_OF_BOLT * diameter)
    return WayOut(face=face + washer * out, out=out, long=length + HEAD_OF_BOLT * diameter, radius=CORNERS * flats_of(diameter) / 2)  # fmt: skip


def flats_of(diameter: float) -> float:
    """Across the flats of a metric bolt's hexagon [mm].

    Args:
        diameter: of the bolt [mm].
    """
    return next((wide for size, wide in ISO_FLATS.items() if abs(size - diameter) < 0.05), FLATS_OF_BOLT * diameter)


def hexagon_on(face: Array, out: Array, diameter: float, *, nut: bool, held: bool = False) -> Hexagon:
    """Of a metric bolt: its locking nut, or its head.

    Args:
        face: where its washer lies (3).
        out: the way that it stands out (3), length 1.
        diameter: of the bolt [mm].
        nut: whether it is its nut.
        held: whether it is held while the bolt's other end is turned.
    """
    other = np.eye(3)[int(np.argmin(np.abs(out)))]
    x = np.cross(out, other)
    x = x / np.linalg.norm(x)
    flats = flats_of(diameter)
    washer = max(1.6, WASHER_OF_BOLT * diameter)
    tall = washer + (NUT_OF_BOLT if nut else HEAD_OF_BOLT) * diameter
    return Hexagon(face=face, out=out, x=x, y=np.cross(out, x), flats=flats, washer=washer, tall=tall, held=held)


@dataclass(frozen=True, slots=True, kw_only=True)
class Spanner:
    """A flat ring spanner for a hexagon, its handle straight [mm]."""

    radius: float  # of its ring
    thick: float
    width: float  # of its handle
    length: float


def jaw(flats: float) -> tuple[float, float]:
    """Radius of an open spanner's head, and how thick it is [mm]: it is slid on from the side, and turned over its jaws stand half a sixth further.

    Args:
        flats: across [mm].
    """
    return 1.05 * flats, 0.45 * flats


RING_TURN = 30.0  # °, what a ring of twelve points must turn by before it takes the next


def spanner(flats: float) -> Spanner:
    """A ring spanner.

    Args:
        flats: across [mm].
    """
    return Spanner(radius=0.75 * flats + 0.5, thick=0.65 * flats, width=0.8 * flats, length=12.0 * flats)


def socket(flats: float) -> tuple[float, float]:
    """Radius of a socket, and the length of it with its ratchet and a hand behind [mm].

    Args:
        flats: across [mm].
    """
    return 0.65 * flats + 1.5, 120.0


TORCH_RADIUS, TORCH_LENGTH = 8.0, 80.0  # mm, of a gas cup
TORCH_OFF = (15.0, 20.0)  # mm, that it is held off the root
TORCH_WORK = (35.0, 45.0, 55.0)  # °, from the welded face, between it and the plate
TORCH_TRAVEL = (-60.0, -40.0, -20.0, 0.0, 20.0, 40.0, 60.0)  # °, along the run
ALONG_RUN = 9  # places along a straight run that are looked at
INNER = 0.9  # of a run, from its middle: its ends are laid from beside them


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Fillet:
    """Where a fillet is laid: places along it, and what stands there; all (n, 3), ways of length 1."""

    name: str  # what it is along, in words
    roots: Array
    normals: Array  # the way that what it is laid on looks
    aways: Array  # square to that, away from what stands there
    along: Array


def straight_fillet(name: str, a: Array, b: Array, normal: Array, away: Array) -> Fillet:
    """Along a straight run on a flat.

    Args:
        name: what it is along.
        a: one end of its root (3).
        b: the other.
        normal: the way that the flat looks (3).
        away: from what stands there (3).
    """
    middle, half = (a + b) / 2, (b - a) / 2
    roots = np.array([middle + share * half for share in np.linspace(-INNER, INNER, ALONG_RUN)])
    along = half / np.linalg.norm(half)
    return Fillet(name=name, roots=roots, normals=np.tile(normal, (ALONG_RUN, 1)), aways=np.tile(away, (ALONG_RUN, 1)), along=np.tile(along, (ALONG_RUN, 1)))  # fmt: skip


def ring_fillet(name: str, middle: Array, x: Array, y: Array, radius: float, normal: Array, places: int = 24) -> Fillet:
    """Round something that stands out of a flat.

    Args:
        name: what it is along.
        middle: of the ring (3).
        x: two ways in the flat, square to each other (3).
        y: the other.
        radius: of the ring [mm].
        normal: the way that the flat looks (3).
        places: that are looked at.
    """
    turns = 2 * np.pi * np.arange(places) / places
    away = np.cos(turns)[:, None] * x + np.sin(turns)[:, None] * y
    along = np.cos(turns)[:, None] * y - np.sin(turns)[:, None] * x
    return Fillet(
        name=name, roots=middle + radius * away, normals=np.tile(normal, (places, 1)), aways=away, along=along
    )
