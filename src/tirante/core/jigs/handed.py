"""Left or right: whether a part is its own mirror image, and the one signed figure that the wrong hand cannot pass.

Distances between pivots are the same on a part and on its mirror image, so that no diagonal tells them apart. What does is on which side of
the plane of three of its places a fourth lies. A place is the middle of a bore, or an end of a bar through it, where those two can be told
apart: by the stud, or by which of them is nearer to another bore.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations, product

import numpy as np
from numpy.typing import NDArray

from tirante.core.jigs.features import Held

Array = NDArray[np.float64]
ALIKE = 0.05  # [mm] within which a part lies on its mirror image
BAR = 100.0  # [mm] from a bore's middle, where a bar through it is measured
NEARER = 10.0  # [mm] by which an end of that bar must be nearer to another bore, to be known by it
TIMES = 3.0  # of its tolerance, that a signed figure must be at least
THIN = 20.0  # [mm] that three places must stand off one line, to be a plane


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """Something that can be measured to on the part: in words, and where."""

    words: str
    at: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class SignedFigure:
    """How far a fourth place lies from the plane of three, on the side from which those go round counter-clockwise."""

    plane: tuple[str, str, str]
    fourth: str
    height: float  # [mm]; of the wrong hand it is the same with the other sign
    tolerance: float  # [mm] that the tolerance of each of the four comes to


def signed_height(a: Array, b: Array, c: Array, d: Array) -> float:
    """How far d lies above the plane of a, b and c, seen from where these go round counter-clockwise [mm].

    Args:
        a: the first (3).
        b: the second.
        c: the third.
        d: what is measured.
    """
    normal = np.cross(b - a, c - a)
    return float((d - a) @ normal / np.linalg.norm(normal))


def own_mirror(held: Sequence[Held]) -> tuple[tuple[int, ...], ...] | None:
    """Whether a part lies on its own mirror image: which of its places comes to lie on which; None where it does not.

    Two places may change over where what is made at them is the same; a bore that does not tell its ends apart may lie either way round.

    Args:
        held: its joints.

    Returns:
        Pairs of indices, one after the other; None: left and right differ.
    """
    count = len(held)
    if count < 2:
        return tuple((i, i) for i in range(count))
    points = np.array([one.p for one in held])
    apart = np.linalg.norm(points[:, None] - points[None, :], axis=2)
    alike = [[_same(one, other) for other in held] for one in held]
    for order in _orders(apart, alike, count):
        if _lies_on(held, points, order):
            return tuple((i, j) for i, j in enumerate(order))
    return None


def _same(one: Held, other: Held) -> bool:
    sizes = (one.bore - other.bore, one.wide - other.wide, one.outside - other.outside)
    return one.directed == other.directed and max(abs(size) for size in sizes) < ALIKE


def _orders(apart: Array, alike: Sequence[Sequence[bool]], count: int) -> Iterator[tuple[int, ...]]:
    """Every way to put the places on one another that keeps all distances."""

    def on(taken: tuple[int, ...]) -> Iterator[tuple[int, ...]]:
        i = len(taken)
        if i == count:
            yield taken
            return
        for j in range(count):
            if j not in taken and alike[i][j] and all(abs(apart[i, k] - apart[j, taken[k]]) < 2 * ALIKE for k in range(i)):  # fmt: skip
                yield from on((*taken, j))

    return on(())


def _lies_on(held: Sequence[Held], points: Array, order: Sequence[int]) -> bool:
    """Whether some mirror image of the part lies on it, its places changed over as given."""
    loose = [i for i, one in enumerate(held) if not one.directed]
    mirror = np.array([1.0, -1.0, 1.0])
    for ways in product((1.0, -1.0), repeat=len(loose)):
        sign = dict(zip(loose, ways, strict=True))
        ends = np.array([one.p + BAR * one.a for one in held])
        turned = np.array(
            [mirror * (held[j].p + BAR * sign.get(i, 1.0) * held[j].a) for i, j in enumerate(order)]
        )  # fmt: skip
        image = np.array([mirror * points[j] for j in order])
        if _off(np.vstack([points, ends]), np.vstack([image, turned])) < ALIKE:
            return True
    return False


def _off(one: Array, other: Array) -> float:
    """How far two lists of points stay apart at most when one is laid on the other without turning it inside out [mm]."""
    a, b = one - one.mean(axis=0), other - other.mean(axis=0)
    u, _, v = np.linalg.svd(b.T @ a)
    keep = np.diag([1.0, 1.0, float(np.sign(np.linalg.det(u @ v)))])
    turn = u @ keep @ v
    return float(np.max(np.linalg.norm(b @ turn - a, axis=1)))


def places_to_measure(held: Sequence[Held]) -> list[Place]:
    """Everything on a part that a rule can be laid to, each told so that it is the same on either hand.

    Args:
        held: its joints.
    """
    found = [Place(words=f"middle of {one.name}", at=one.p) for one in held]
    for one in held:
        ends = [one.p + BAR * one.a, one.p - BAR * one.a]
        if one.directed:
            found.append(Place(words=f"bar in {one.name}, {BAR:g} mm {one.way}", at=ends[0]))
            continue
        told: tuple[float, Held, Array] | None = None
        for other in held:
            far = [float(np.linalg.norm(end - other.p)) for end in ends]
            apart = abs(far[0] - far[1])
            if other is not one and apart >= NEARER and (told is None or apart > told[0] + ALIKE):
                told = apart, other, ends[0] if far[0] < far[1] else ends[1]
        if told is not None:
            found.append(Place(words=f"bar in {one.name}, {BAR:g} mm from its middle, the end nearer to {told[1].name}", at=told[2]))  # fmt: skip
    return found


def signed_figure(held: Sequence[Held], tolerance: float) -> SignedFigure | None:
    """The surest signed figure of a part that is not its own mirror image; None where no figure is sure enough. It is above its plane.

    Args:
        held: its joints.
        tolerance: of each place [mm].

    Source:
        The height of a corner of a tetrahedron; its tolerance by the partial derivatives with respect to all four corners, added (derived).
    """
    best: tuple[bool, float, SignedFigure] | None = None
    for lies, places in (*_by_places(held), *_by_either_end(held)):
        a, b, c, fourth = places
        if _thinnest(a.at, b.at, c.at) < THIN:
            continue
        height = signed_height(a.at, b.at, c.at, fourth.at)
        spread = tolerance * _share(a.at, b.at, c.at, fourth.at)
        sure = abs(height) / spread
        # a part lies on the middles of three bores: what stands over them is the easiest to measure
        if sure > TIMES and (best is None or (lies, sure * (1 - 1e-9)) > best[:2]):
            best = lies, sure, SignedFigure(plane=(a.words, b.words, c.words), fourth=fourth.words, height=height, tolerance=spread)  # fmt: skip
    if best is None:
        return None
    found = best[2]
    first, second, third = found.plane
    return found if found.height > 0 else replace(found, plane=(second, first, third), height=-found.height)


Four = tuple[Place, Place, Place, Place]


def _by_places(held: Sequence[Held]) -> Iterator[tuple[bool, Four]]:
    """Any three places and a fourth over them; whether the three are middles of bores."""
    places = places_to_measure(held)
    for four in combinations(range(len(places)), 4):
        for top in four:
            a, b, c = (i for i in four if i != top)
            yield max(a, b, c) < len(held), (places[a], places[b], places[c], places[top])


def _by_either_end(held: Sequence[Held]) -> Iterator[tuple[bool, Four]]:
    """Two bores that lie askew: over the plane of both middles and either end of the one's bar, the end of the other's bar that is nearer to that."""
    for one in held:
        for other in held:
            if one is other or one.directed or other.directed:
                continue
            found = []
            for end in (one.p + BAR * one.a, one.p - BAR * one.a):
                ends = (other.p + BAR * other.a, other.p - BAR * other.a)
                far = [float(np.linalg.norm(way - end)) for way in ends]
                if abs(far[0] - far[1]) >= NEARER:
                    found.append((end, ends[0] if far[0] < far[1] else ends[1]))
            heights = [signed_height(one.p, end, other.p, near) for end, near in found if _thinnest(one.p, end, other.p) > 0]  # fmt: skip
            if (
                len(heights) == 2 and abs(heights[0] - heights[1]) < ALIKE
            ):  # whichever end is taken, the figure is the same
                end, near = found[0]
                yield False, (
                    Place(words=f"middle of {one.name}", at=one.p), Place(words=f"bar in {one.name}, either end, {BAR:g} mm from its middle", at=end),
                    Place(words=f"middle of {other.name}", at=other.p),
                    Place(words=f"bar in {other.name}, {BAR:g} mm from its middle, the end nearer to that one", at=near),
                )  # fmt: skip


def _thinnest(a: Array, b: Array, c: Array) -> float:
    """The least height of a triangle [mm]."""
    area = float(np.linalg.norm(np.cross(b - a, c - a)))
    longest = max(float(np.linalg.norm(one)) for one in (b - a, c - a, c - b))
    return area / longest if longest > 0 else 0.0


def _share(a: Array, b: Array, c: Array, d: Array) -> float:
    """How much of the tolerance of its places the height of d takes, all the worst way: 1 of itself, and what each corner of the plane tips it by."""
    normal = np.cross(b - a, c - a)
    foot = d - float((d - a) @ normal) / float(normal @ normal) * normal
    of = np.array([[a[i], b[i], c[i]] for i in range(3)])
    weights = np.linalg.lstsq(np.vstack([of, np.ones(3)]), np.array([*foot, 1.0]), rcond=None)[0]
    return 1.0 + float(np.sum(np.abs(weights)))
