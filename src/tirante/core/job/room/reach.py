"""Whether a bolt goes in and comes out, a spanner turns on its nut and its head is held, and a torch reaches the welds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import cos, pi, radians, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.corner import CornerFoot
from tirante.core.brackets.tools import (
    ALONG_RUN,
    INNER,
    RING_TURN,
    TORCH_LENGTH,
    TORCH_OFF,
    TORCH_RADIUS,
    TORCH_TRAVEL,
    TORCH_WORK,
    Fillet,
    Hexagon,
    jaw,
    socket,
    spanner,
)
from tirante.core.document.mounts import RoundMember
from tirante.core.geometry.convex import Cylinder, Prism, Solid, Wall, at_lanes, gap
from tirante.core.job.room.near import TOLD, TOUCHES, at_least
from tirante.core.job.room.own import Own
from tirante.core.parts.stands import MIRROR

Array = NDArray[np.float64]
EASE = 0.5  # mm that a bolt or a tool goes past a thing with; common practice, no source
STEP = 5.0  # °, between the ways of a handle that are tried


@dataclass(frozen=True, slots=True, kw_only=True)
class Fixed:
    """Something that stands where a tool would be."""

    name: str
    solid: Solid | Wall
    own: bool = False  # whether it is of the bracket itself


def held_still(name: str, solid: Solid | Wall, lane: int, lanes: int) -> Fixed:
    """Something at one of its positions.

    Args:
        name: of it.
        solid: at all of them.
        lane: which.
        lanes: how many there are.
    """
    if isinstance(solid, Wall):
        values = (v[:, [lane]] if v.shape[1] > 1 else v for v in (solid.through, solid.normal))
        return Fixed(name=name, solid=Wall(*values))
    return Fixed(name=name, solid=at_lanes(solid, np.array([lane]), lanes))


@dataclass(frozen=True, slots=True, kw_only=True)
class Path:
    """How near a tool comes to what is nearest to it."""

    gap: float  # [mm]; infinite where nothing is near
    to: str


def nearest(solid: Solid, things: Sequence[Fixed], lanes: int = 1, within: float = np.inf) -> list[Path]:
    """What is nearest to a solid, at each of its positions.

    Args:
        solid: the tool.
        things: that stand there.
        lanes: of the tool's positions.
        within: what is not nearer than this is not asked for [mm].
    """
    best, names = np.full(lanes, within), np.full(lanes, "", dtype=object)
    # what is nearest by its bounds first: it leaves little to look at closely of the others
    bounds = [np.broadcast_to(at_least(solid, thing.solid), (lanes,)) for thing in things]
    for i in sorted(range(len(things)), key=lambda i: float(bounds[i].min())):
        which = np.flatnonzero(bounds[i] < best)
        if not which.size:
            continue
        other = things[i].solid
        near = gap(at_lanes(solid, which, lanes), other, which.size, enough=best[which])
        near = np.where(near <= TOUCHES, 0.0, near)
        nearer = which[near < best[which]]
        best[nearer], names[nearer] = near[near < best[which]], things[i].name
    return [Path(gap=float(g) if n else np.inf, to=str(n)) for g, n in zip(best, names, strict=True)]


def bolt_path(own: Own, side: float, things: Sequence[Fixed]) -> Path:
    """The way of a bolt's head while it is drawn out to a side: until its end leaves the near plate.

    Args:
        own: the bracket.
        side: +1 the way of the bolt, −1 the other.
        things: that stand there.
    """
    start = own.face(side)
    stop = start + own.bolt_length + own.hardware.head
    return nearest(own.round_bolt(side * start, side * stop, own.hardware.corner), things, within=TOLD)[0]


@dataclass(frozen=True, slots=True, kw_only=True)
class Turn:
    """How a spanner turns on a hexagon."""

    arc: float  # ° that its handle is free through, in one run
    on: Path  # what is nearest to the ring, or to the socket
    socket: bool  # whether a socket goes on
    blocked: str  # what stops the handle first
    open: float | None = (
        None  # ° that an open spanner turns through where it can be slid on; None: it cannot, or no one asked
    )

    @property
    def turns(self) -> bool:
        """Whether it tightens."""
        return (
            self.socket
            or (self.on.gap > EASE and self.arc >= RING_TURN + STEP)
            or (self.open or 0.0) >= RING_TURN + STEP
        )

    @property
    def holds(self) -> bool:
        """Whether it holds against turning."""
        return self.socket or (self.on.gap > EASE and self.arc > 0) or self.open is not None


def turn_on(own: Own, side: float, tall: float, things: Sequence[Fixed]) -> Turn:
    """A spanner on the hexagon of a side of a bracket's own bolt.

    Args:
        own: the bracket.
        side: +1 the way of the bolt, −1 the other.
        tall: from the plate to the end of what it goes over [mm].
        things: that stand there.
    """
    one = own.stand.standing
    face, out = own.on_bolt(side * own.face(side))[:, 0], side * one.bolt
    hexagon = Hexagon(face=face, out=out, x=one.x, y=one.y, flats=own.hardware.flats, washer=own.hardware.washer, tall=tall)  # fmt: skip
    return turn_about(hexagon, things)


def turn_about(on: Hexagon, things: Sequence[Fixed]) -> Turn:
    """A spanner on a hexagon, every way round it.

    Args:
        on: the hexagon.
        things: that stand there.
    """
    tool, (radius, length) = spanner(on.flats), socket(on.flats)

    def round_it(start: float, stop: float, wide: float) -> Cylinder:
        return Cylinder((on.face + start * on.out)[:, None], (on.face + stop * on.out)[:, None], wide)

    ring = nearest(round_it(on.washer, on.tall + tool.thick, tool.radius), things, within=TOLD)[0]
    over = nearest(round_it(on.washer, on.tall + length, radius), things, within=TOLD)[0]
    turns = np.radians(np.arange(0.0, 360.0, STEP))
    x, y, z = (v[:, None] for v in (on.x, on.y, on.out))
    way, across = np.cos(turns) * x + np.sin(turns) * y, np.cos(turns) * y - np.sin(turns) * x
    outline = np.array(
        [(0.0, -tool.width / 2), (tool.length, -tool.width / 2), (tool.length, tool.width / 2), (0.0, tool.width / 2)]
    )
    middle = (on.face + (on.washer + tool.thick / 2) * on.out)[:, None] + np.zeros((3, turns.size))
    found = nearest(Prism(outline, middle, way, across, z + 0 * way, tool.thick / 2), things, turns.size, TOLD)
    free = [path.gap > EASE for path in found]
    nearest_one = min(found, key=lambda path: path.gap)
    turn = Turn(arc=_longest(free) * STEP, on=ring, socket=over.gap > EASE, blocked=nearest_one.to if not all(free) else "")  # fmt: skip
    return turn if turn.turns else replace(turn, open=_slid_on(on, free, things))


def _slid_on(on: Hexagon, free: Sequence[bool], things: Sequence[Fixed]) -> float | None:
    """How far an open spanner turns [°], once it is slid on from the side; None where it cannot be.

    Args:
        on: the hexagon.
        free: of every way round it whether a handle goes there.
        things: that stand there.
    """
    radius, thick = jaw(on.flats)
    low, high = (on.face + (on.washer + deep) * on.out for deep in (0.0, thick))
    if nearest(Cylinder(low[:, None], high[:, None], radius), things, within=TOLD)[0].gap <= EASE:
        return None
    turns, long = np.radians(np.arange(0.0, 360.0, STEP)), spanner(on.flats).length
    x, y, z = (v[:, None] for v in (on.x, on.y, on.out))
    way, across = np.cos(turns) * x + np.sin(turns) * y, np.cos(turns) * y - np.sin(turns) * x
    outline = np.array([(0.0, -radius), (long, -radius), (long, radius), (0.0, radius)])
    middle = ((low + high) / 2)[:, None] + np.zeros((3, turns.size))
    found = nearest(Prism(outline, middle, way, across, z + 0 * way, thick / 2), things, turns.size, TOLD)
    runs = [_run_at(free, i) * STEP for i, path in enumerate(found) if path.gap > EASE and free[i]]
    return max(runs, default=None)


def _run_at(free: Sequence[bool], at: int) -> int:
    """How long the run of a ring is that a place of it is in."""
    if all(free):
        return len(free)
    count = 1
    for way in (1, -1):
        i = at + way
        while free[i % len(free)]:
            count, i = count + 1, i + way
    return count


def _longest(free: Sequence[bool]) -> int:
    """The longest run of a ring that is free."""
    if all(free):
        return len(free)
    start = free.index(False)
    best = run = 0
    for one in [*free[start:], *free[:start]]:
        run = run + 1 if one else 0
        best = max(best, run)
    return best


@dataclass(frozen=True, slots=True, kw_only=True)
class Weld:
    """How much of a plate's fillet a torch reaches."""

    plate: str
    inside: bool  # between the plates
    share: float  # of its run
    worst: Path  # where the torch has least room


def torch_on(own: Own, things: Sequence[Fixed]) -> list[Weld]:
    """Along the foot of each plate, outside and between the plates, the torch held every way that a fillet is laid.

    Args:
        own: the bracket.
        things: that stand there while it is welded, its own mount among them, its own plates too.
    """
    one, half = own.stand.standing, own.tab.base_width.mm / 2
    found = []
    for side, plate in zip((1.0, -1.0), own.plates(), strict=False):
        for inside in (False, True):
            beside = side * (own.made.gap / 2 if inside else own.outer)
            away = -side if inside else side
            roots = np.array([one.corner(float(x), beside) for x in np.linspace(-INNER * half, INNER * half, ALONG_RUN)])  # fmt: skip
            normals = np.array([_normal(own, root) for root in roots])
            flat = away * one.bolt - away * (normals @ one.bolt)[:, None] * normals
            flat = flat / np.linalg.norm(flat, axis=1)[:, None]
            fillet = Fillet(name=plate.name, roots=roots, normals=normals, aways=flat, along=np.tile(one.x, (ALONG_RUN, 1)))  # fmt: skip
            found.append(torch_along(fillet, things, inside=inside))
    return found


def torch_along(fillet: Fillet, things: Sequence[Fixed], *, inside: bool = False) -> Weld:
    """Along a fillet, the torch held every way that one is laid.

    Args:
        fillet: where it is laid.
        things: that stand there while it is welded.
        inside: whether it is between two plates.
    """
    tips, ways = [], []
    for root, normal, flat, along in zip(fillet.roots, fillet.normals, fillet.aways, fillet.along, strict=True):
        for work in TORCH_WORK:
            for travel in TORCH_TRAVEL:
                out = cos(radians(work)) * flat + sin(radians(work)) * normal
                way = cos(radians(travel)) * out + sin(radians(travel)) * along
                tips += [root + off * way for off in TORCH_OFF]
                ways += [way] * len(TORCH_OFF)
    tip, way = np.array(tips).T, np.array(ways).T
    paths = nearest(Cylinder(tip, tip + TORCH_LENGTH * way, TORCH_RADIUS), things, tip.shape[1], TOLD)
    every = len(TORCH_WORK) * len(TORCH_TRAVEL) * len(TORCH_OFF)
    best = [max(paths[i : i + every], key=lambda path: path.gap) for i in range(0, len(paths), every)]
    worst = min(best, key=lambda path: path.gap)
    return Weld(plate=fillet.name, inside=inside, share=sum(p.gap > TOUCHES for p in best) / len(best), worst=worst)


def _normal(own: Own, root: Array) -> Array:
    """The way that the skin or face looks where a foot stands on it (3)."""
    one = own.stand.standing
    if one.turned_deg is not None:
        x, y = CornerFoot(width=0.0, turned_deg=one.turned_deg).looks(
            1.0 if float((root - one.foot) @ one.x) > 0 else -1.0
        )
        return np.asarray(x * one.x + y * one.y)
    if one.tube_od is None or one.run is None:
        # square to the face: the plates lean from it by as much as they say
        lean = one.lean_deg * pi / 180
        return np.asarray(cos(lean) * one.y + sin(lean) * one.bolt)
    shape = own.stand.mount.shape
    assert isinstance(shape, RoundMember)
    from_middle = root - (MIRROR if own.stand.mirrored else np.ones(3)) * np.array(shape.a)
    out = from_middle - float(from_middle @ one.run) * one.run
    return np.asarray(out / np.linalg.norm(out))
