"""A jig on a flat plate: posts with dummy bolts at the joints of a part, rests under its tubes, in ordinates from a datum hole.

A bore that lies is held by a bolt between two posts, one that stands by a pin on the top of one. Posts stand square to the plate; where a bore
leans, the post's hole or top does. A post is moved out along its bolt, on a spacer, until a torch gets at the beads of its joint.
Not covered: how stiff plate and posts are against a part that draws as it cools.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import atan2, ceil, cos, degrees, floor, hypot, pi, sin, sqrt, tan

import numpy as np
from numpy.typing import NDArray

from tirante.core.errors import InputError
from tirante.core.jigs.features import Features, Held, Seam, seams_of, triple
from tirante.core.jigs.handed import BAR
from tirante.core.jigs.in_the_way import beads_blocked, comes_out, ends_covered, feet_on_one_another, stands_in_the_part
from tirante.core.jigs.plane import LEANS, Plane, candidates, cost_of, plane_with, rise_of
from tirante.core.jigs.posts import Joint, LaidBar, Post, Sizes
from tirante.core.jigs.shrink import set_off

Array = NDArray[np.float64]
STANDS = pi / 4  # [rad] a bore that rises more is held by a pin, less by a bolt between two posts
LEAST_EDGE = 12.0  # [mm] of metal round the hole of a post, and of a post under its pin; common practice, no source
LEAST_PIN = 25.0  # [mm] of post under a pin that stands upright and goes through the plate
DEEP = 30.0  # [mm] of bore in the top of a post under one that leans; common practice, no source
LEAST_REST = 8.0  # [mm] of plate under the bottom of a vee
TURNS = (0.5, 0.42, 0.58, 0.34, 0.66, 0.27, 0.73, 0.2, 0.8)  # shares of a bar's length where its rest is tried
TWO = (0.3, 0.7, 0.36, 0.64, 0.24, 0.76, 0.42, 0.58)
STEEP = 0.8  # [rad] a bar that rises more from the plate slides off a rest


@dataclass(frozen=True, slots=True, kw_only=True)
class Distance:
    """Two joints and how far apart they are, cold [mm]."""

    one: str
    other: str
    mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateJig:
    """A jig laid out."""

    plane: Plane
    datum: str
    joints: tuple[Joint, ...]
    posts: tuple[Post, ...]
    bars: tuple[LaidBar, ...]
    low: tuple[float, float]  # corners of the plate, from the datum
    high: tuple[float, float]
    distances: tuple[Distance, ...]
    in_the_way: tuple[
        str, ...
    ]  # what a torch does not get at, posts that stand in the part or on one another, in words
    by_hand: tuple[str, ...]  # what has no rest and no stop
    covered: tuple[str, ...]  # joints at which a bead lies over the end of the dummy
    comes_out: str  # how the finished part is taken out
    both_hands: bool  # whether the other hand lies on the same posts, turned over

    def mirrored(self) -> PlateJig:
        """The jig of the other hand: u as it is, v the other way."""

        def m(at: tuple[float, float, float]) -> tuple[float, float, float]:
            return at[0], -at[1], at[2]

        return replace(
            self,
            joints=tuple(replace(one, at=m(one.at), bar=m(one.bar), cold=m(one.cold)) for one in self.joints),
            posts=tuple(replace(one, v=-one.v, turn=-one.turn) for one in self.posts),
            bars=tuple(replace(one, a=m(one.a), b=m(one.b)) for one in self.bars),
            low=(self.low[0], -self.high[1]),
            high=(self.high[0], -self.low[1]),
        )


TRIED = 8  # planes that are laid out before one is chosen
BLOCKED = 150.0  # [mm of post] that a bead which no torch gets at counts for, or a bar without a rest


def best_plane(features: Features, sizes: Sizes, *, datum: str = "", shrink: float = 0.0) -> tuple[Array, str]:
    """The plane that asks least of posts and leaves most beads free: of the least, by posts alone, each is laid out.

    Args:
        features: of the part.
        sizes: of the shop's jigs.
        datum: the joint that ordinates begin at; empty: the first.
        shrink: allowance of one bead [mm].
    """
    every = candidates(features)
    order = sorted(range(len(every)), key=lambda i: (round(cost_of(features, every[i][0]), 6), i))
    chosen: list[tuple[float, int]] = []
    seen: list[Array] = []
    for i in order:
        n = every[i][0]
        if any(float(n @ other) > 1 - 1e-9 for other in seen):
            continue
        seen.append(n)
        jig = laid_out(features, sizes, every[i], datum=datum, shrink=shrink)
        chosen.append((cost_of(features, n) + BLOCKED * (len(jig.in_the_way) + len(jig.by_hand)), i))
        if len(chosen) == TRIED:
            break
    least = min(chosen)[0]
    return every[next(i for cost, i in chosen if cost < least + 1e-6)]


def laid_out(
    features: Features, sizes: Sizes, plane: tuple[Array, str], *, datum: str = "", shrink: float = 0.0
) -> PlateJig:  # fmt: skip
    """Where everything of a jig stands.

    Args:
        features: of the part.
        sizes: of the shop's jigs.
        plane: the way up and how it was chosen.
        datum: the joint that ordinates begin at; empty: the first.
        shrink: allowance of one bead across a tube [mm].

    Raises:
        InputError: fewer than two joints, or a datum that is none of them.

    Source:
        Geometry (derived).
    """
    held = features.held
    if len(held) < 2:
        raise InputError("A jig holds at least two joints, and this part has fewer that anything goes through.", code="missing", fields=("holds",), value=len(held), limits=(2, None))  # fmt: skip
    names = [one.name.lower() for one in held]
    if datum and datum.lower() not in names:
        raise InputError(f"There is no joint “{datum[:40]}” to begin at. There are {', '.join(one.name for one in held)}.", code="unknown", fields=("datum",), value=datum[:40])  # fmt: skip
    begin = names.index(datum.lower()) if datum else 0
    moved = set_off(features, shrink)
    now = _set(features, moved)
    ways = plane_with(now, *plane, datum=begin)
    seams = seams_of(now.bars, now.rings)
    spacers = [_spacer(one, seams, sizes.room) for one in now.held]
    lift = _lift(now, ways, spacers, sizes)
    base = ways.flat(now.held[begin].p)
    base[2] = -lift

    def put(point: Array) -> Array:
        return ways.flat(point) - base

    joints, posts = [], []
    for one, cold, spacer in zip(now.held, held, spacers, strict=True):
        joint = _joint(one, cold, spacer, put)
        joints.append(joint)
        posts += _posts(joint, sizes)
    bars = tuple(LaidBar(bar=bar, a=triple(put(np.array(bar.a))), b=triple(put(np.array(bar.b)))) for bar in now.bars)
    placed = [replace(seam, at=put(seam.at)) for seam in seams]
    rests, lacking = _rests(bars, posts, placed, sizes)
    stops = []
    for sheet in now.sheets:
        if not sheet.stopped:
            continue
        stop = _stop(sheet.name, [put(np.array(corner)) for corner in sheet.corners], sheet.thickness, sizes)
        if stop is None or any(float(stop.off(seam.at[None])[0]) < seam.reach + sizes.room for seam in placed):
            lacking.append(f"No stop under {sheet.name}: there is no room for one beside the beads. Clamp it until it is tacked.")  # fmt: skip
        else:
            stops.append(stop)
    every = (*posts, *rests, *stops)
    low, high = _plate(every, joints, sizes.margin)
    at = [np.array(one.cold) for one in joints]
    return PlateJig(
        plane=ways, datum=held[begin].name, joints=tuple(joints), posts=every, bars=bars, low=low, high=high,
        distances=tuple(
            Distance(one=held[i].name, other=held[j].name, mm=float(np.linalg.norm(at[j] - at[i])))
            for i in range(len(held)) for j in range(i + 1, len(held))
        ),
        in_the_way=(*stands_in_the_part(every, joints, bars), *beads_blocked(every, placed, sizes.room), *feet_on_one_another(every)), by_hand=tuple(lacking),
        covered=tuple(ends_covered(joints, placed, sizes.post_thick)), comes_out=comes_out(joints), both_hands=_lies_turned_over(joints, bars),
    )  # fmt: skip


def _set(features: Features, moved: Array) -> Features:
    """The part with its joints set off for shrink, its tubes following them."""
    by = {one.name: moved[i] for i, one in enumerate(features.held)}

    def go(at: tuple[float, float, float], name: str) -> tuple[float, float, float]:
        return triple(np.array(at) + by[name]) if name in by else at

    return replace(
        features,
        held=tuple(replace(one, at=go(one.at, one.name)) for one in features.held),
        bars=tuple(replace(bar, a=go(bar.a, bar.to[0]), b=go(bar.b, bar.to[1])) for bar in features.bars),
        rings=tuple(replace(one, at=go(one.at, one.to)) for one in features.rings),
    )


def _spacer(held: Held, seams: Sequence[Seam], room: float) -> float:
    """How far a post's face must stand from the joint's, so that a torch gets at the beads of that joint [mm]."""
    need = 0.0
    for seam in seams:
        if seam.to == held.name:
            along = abs(float((seam.at - held.p) @ held.a))
            need = max(need, along + seam.reach + room - held.wide / 2)
    return float(ceil(need))  # turned to whole millimetres


def _lift(features: Features, ways: Plane, spacers: Sequence[float], sizes: Sizes) -> float:
    """How high the part's own origin is over the plate [mm]: so that everything of it clears, and every post has metal under its bolt."""
    need = []
    for one, spacer in zip(features.held, spacers, strict=True):
        z, rise = float(one.p @ ways.n), rise_of(one, ways.n)
        below = one.outside / 2 * cos(rise) + one.wide / 2 * sin(rise)
        need.append(sizes.clearance + below - z)
        if rise > STANDS:
            foot = LEAST_PIN if rise > pi / 2 - LEANS else DEEP + LEAST_EDGE
            need.append(foot + (one.wide / 2 + spacer) * sin(rise) - z)
        else:
            out = one.wide / 2 * cos(rise) + one.outside / 2 * sin(rise) + spacer + sizes.post_thick / 2
            need.append(LEAST_EDGE + one.bore / 2 + out * tan(rise) - z)
    for bar in features.bars:
        lowest = min(float(np.array(end) @ ways.n) for end in (bar.a, bar.b))
        need.append(sizes.clearance + bar.od / 2 - lowest)
    for sheet in features.sheets:
        corners = np.array(sheet.corners)
        normal = np.cross(corners[1] - corners[0], corners[2] - corners[0])
        half = sheet.thickness / 2 * abs(float(normal @ ways.n)) / float(np.linalg.norm(normal))
        need.append(sizes.clearance + half - float(np.min(corners @ ways.n)))
    return max(need)


def _joint(one: Held, cold: Held, spacer: float, put: Callable[[Array], Array]) -> Joint:
    at, was = put(one.p), put(cold.p)
    end = put(one.p + BAR * one.a)
    if not one.directed and end[2] < at[2]:
        end = 2 * at - end  # a bar that tells no end apart is measured where it stands up
    rise = rise_of_flat(end - at)
    return Joint(
        held=one, at=triple(at), bar=triple(end), cold=triple(was), pinned=rise > STANDS, spacer=spacer,
        lean_deg=degrees(pi / 2 - rise if rise > STANDS else rise),
    )  # fmt: skip


def rise_of_flat(way: Array) -> float:
    """How steeply something rises from the plate, in the plate's own ways [rad, 0 to π/2]."""
    return float(np.arcsin(min(1.0, abs(way[2]) / float(np.linalg.norm(way)))))


def _posts(joint: Joint, sizes: Sizes) -> list[Post]:
    """The pin of a joint that stands, or the two posts of one that lies."""
    held, at = joint.held, np.array(joint.at)
    way = (np.array(joint.bar) - at) / BAR
    way = way if way[2] >= 0 else -way
    rise = rise_of_flat(way)
    if joint.pinned:
        top = at - way * (held.wide / 2 + joint.spacer)
        lean = pi / 2 - rise
        return [Post(
            name=f"post under {held.name}", of=held.name, sort="pin", u=float(top[0]), v=float(top[1]), turn=atan2(-way[1], -way[0]) if lean > LEANS else 0.0, thick=held.outside,
            wide=max(held.bore + LEAST_EDGE, 0.8 * held.outside), top=float(top[2]), work=float(top[2]), lean_deg=degrees(lean), bore=held.bore,
        )]  # fmt: skip
    flat = way[:2] / float(np.linalg.norm(way[:2]))
    out = held.wide / 2 * cos(rise) + held.outside / 2 * sin(rise) + joint.spacer + sizes.post_thick / 2
    found = []
    for sign, which in ((1.0, "1"), (-1.0, "2")):
        hole = float(at[2]) + sign * out * tan(rise)
        found.append(Post(
            name=f"{held.name}, post {which}", of=held.name, sort="cheek", u=float(at[0] + sign * out * flat[0]), v=float(at[1] + sign * out * flat[1]),
            turn=atan2(flat[1], flat[0]), thick=sizes.post_thick, wide=sizes.post_wide, top=hole + max(sizes.post_wide / 2, held.bore / 2 + LEAST_EDGE),
            work=hole, lean_deg=degrees(rise), bore=held.bore,
        ))  # fmt: skip
    return found


def spacer_along(joint: Joint) -> float:
    """How long the spacer between the joint's face and a post is, along the bolt's middle [mm]; of a leaning bore its outer end is cut to the lean.

    Args:
        joint: on its jig.
    """
    if joint.pinned:
        return joint.spacer
    rise = joint.lean_deg * pi / 180
    held = joint.held
    out = held.wide / 2 * cos(rise) + held.outside / 2 * sin(rise) + joint.spacer
    return out / cos(rise) - held.wide / 2


def _rests(
    bars: Sequence[LaidBar], posts: Sequence[Post], seams: Sequence[Seam], sizes: Sizes
) -> tuple[list[Post], list[str]]:  # fmt: skip
    """A rest under each bar, two under one that is alone, where nothing else stands and no bead is laid."""
    found: list[Post] = []
    lacking = []
    for laid in bars:
        shares = TWO if len(bars) == 1 else TURNS
        wanted = 2 if len(bars) == 1 else 1
        got: list[Post] = []
        for share in shares:
            rest = _rest(laid, share, sizes)
            if rest is not None and not _crowded(rest, laid, share, (*posts, *found, *got), bars, seams, sizes.room):
                got.append(rest)
            if len(got) == wanted:
                break
        found += [replace(one, name=f"rest {i} under {laid.bar.name}" if wanted > 1 else f"rest under {laid.bar.name}") for i, one in enumerate(got, start=1)]  # fmt: skip
        if not got:
            lacking.append(f"No rest under {laid.bar.name}: it is steep, or nowhere along it is there room for one. Prop it by hand until it is tacked.")  # fmt: skip
    return found, lacking


def _rest(laid: LaidBar, share: float, sizes: Sizes) -> Post | None:
    a, b = np.array(laid.a), np.array(laid.b)
    way = b - a
    rise = rise_of_flat(way)
    if rise > STEEP:
        return None
    at, r = a + share * way, laid.bar.od / 2
    under = r / cos(rise) if laid.bar.square else sqrt(r * r + (r / cos(rise)) ** 2)
    work = float(at[2]) - under
    if work < LEAST_REST:
        return None
    return Post(
        name=f"rest under {laid.bar.name}", sort="rest", u=float(at[0]), v=float(at[1]), turn=atan2(way[1], way[0]), thick=sizes.post_thick,
        wide=max(laid.bar.od + 20.0, 40.0), top=float(at[2]) if not laid.bar.square else work + 10.0, work=work, lean_deg=degrees(rise), bore=0.0,
    )  # fmt: skip


def _crowded(
    rest: Post, laid: LaidBar, share: float, posts: Sequence[Post], bars: Sequence[LaidBar], seams: Sequence[Seam], room: float
) -> bool:  # fmt: skip
    """Whether something else stands there, hangs lower there, or is welded there."""
    if any(hypot(rest.u - one.u, rest.v - one.v) < rest.reach + one.reach + 2.0 for one in posts):
        return True
    there = np.array(laid.a) + share * np.subtract(laid.b, laid.a)
    if any(float(np.linalg.norm(seam.at - there)) < seam.reach + rest.thick / 2 + room for seam in seams):
        return True
    for other in bars:
        if other is laid:
            continue
        a, b = np.array(other.a), np.array(other.b)
        run = b[:2] - a[:2]
        along = float(np.clip((there[:2] - a[:2]) @ run / max(float(run @ run), 1e-9), 0.0, 1.0))
        near = a + along * (b - a)
        if hypot(*(near[:2] - there[:2])) < rest.reach + other.bar.od / 2 and near[2] - other.bar.od / 2 < rest.top:
            return True
    return False


def _stop(name: str, corners: Sequence[Array], thickness: float, sizes: Sizes) -> Post | None:
    """A stop under the middle of a plate that is let in; None under one that stands on edge."""
    normal = np.cross(corners[1] - corners[0], corners[2] - corners[0])
    normal = normal / np.linalg.norm(normal)
    middle = np.mean(corners, axis=0)
    steep = abs(float(normal[2]))
    work = float(middle[2]) - thickness / 2 / max(steep, 1e-9)
    if steep < cos(STEEP) or work < LEAST_REST:
        return None
    return Post(name=f"stop under {name}", sort="stop", u=float(middle[0]), v=float(middle[1]), turn=0.0, thick=20.0, wide=20.0, top=work, work=work,
                lean_deg=degrees(float(np.arccos(min(1.0, steep)))), bore=0.0)  # fmt: skip


NARROWER = (40.0, 32.0, 25.0, 20.0, 16.0)  # [mm] posts that are tried where feet lie on one another


def narrower(
    features: Features, sizes: Sizes, plane: tuple[Array, str], *, datum: str = "", shrink: float = 0.0
) -> float | None:  # fmt: skip
    """The widest post, of some usual ones, with which no feet lie on one another; None where none is narrow enough [mm].

    Args:
        features: of the part.
        sizes: of the shop's jigs.
        plane: the way up and how it was chosen.
        datum: the joint that ordinates begin at; empty: the first.
        shrink: allowance of one bead across a tube [mm].
    """
    for wide in NARROWER:
        if wide < sizes.post_wide:
            jig = laid_out(features, replace(sizes, post_wide=wide), plane, datum=datum, shrink=shrink)
            if not crowded(jig):
                return wide
    return None


def crowded(jig: PlateJig) -> bool:
    """Whether feet of its posts lie on one another.

    Args:
        jig: laid out.
    """
    return bool(feet_on_one_another(jig.posts))


def _plate(
    posts: Sequence[Post], joints: Sequence[Joint], margin: float
) -> tuple[tuple[float, float], tuple[float, float]]:
    """The plate that carries all of it, to whole five millimetres."""
    us = [u for one in posts for u in (one.u - one.reach, one.u + one.reach)] + [one.at[0] for one in joints] + [0.0]
    vs = [v for one in posts for v in (one.v - one.reach, one.v + one.reach)] + [one.at[1] for one in joints] + [0.0]
    low = (5.0 * floor((min(us) - margin) / 5.0), 5.0 * floor((min(vs) - margin) / 5.0))
    return low, (5.0 * ceil((max(us) + margin) / 5.0), 5.0 * ceil((max(vs) + margin) / 5.0))


def _lies_turned_over(joints: Sequence[Joint], bars: Sequence[LaidBar]) -> bool:
    """Whether the mirror image lies on the same posts, turned over: all joints and bars at one height, their bores level or upright."""
    heights = [one.at[2] for one in joints] + [end[2] for bar in bars for end in (bar.a, bar.b)]
    return max(heights) - min(heights) < 0.1 and all(one.lean_deg * pi / 180 < 1e-4 for one in joints)
