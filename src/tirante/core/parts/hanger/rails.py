"""The rails that a hanger's beam is laid over: the car's own where one goes past the hubs on either side, else as they are typed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.document.parts.hanger import Hanger
from tirante.core.parts.part import Misfit

Array = NDArray[np.float64]
ALONG = 0.9  # share of a rail's way that at least runs along the car
EVERY = 10.0  # [mm] from look to look
TOUCHES = 1.0  # [mm] into the beam that is taken as touching it
UPRIGHT = 0.95  # of a box's height that at least stands up


@dataclass(frozen=True, slots=True, kw_only=True)
class Rails:
    """Two rails where the beam crosses them."""

    top: float  # [mm] over the ground
    apart: float  # from outer side to outer side [mm]
    name: str  # of the member of the car; empty: typed


def rails_of(saved: Hanger, mounts: Sequence[Mount], x: float) -> Rails | Misfit:
    """The rails at a place along the car.

    Args:
        saved: the hanger.
        mounts: members of the car.
        x: of the hubs [mm].
    """
    edges = (x - saved.beam_mm / 2, x + saved.beam_mm / 2)
    own = None
    if saved.rail_top_mm is None or saved.rail_out_mm is None:
        found = [rail for mount in mounts if (rail := _under(mount, edges)) is not None]
        # the highest: that is the one a beam comes to lie on
        own = max(found, key=lambda rail: rail.top, default=None)
    top = saved.rail_top_mm if saved.rail_top_mm is not None else own.top if own else None
    apart = saved.rail_out_mm if saved.rail_out_mm is not None else own.apart if own else None
    if top is None or apart is None:
        field = "rail_top_mm" if top is None else "rail_out_mm"
        return Misfit(field=field, message="No tube or box of the car’s frame goes past these hubs on both sides. Give the rails’ tops over the ground and how far apart they stand, outside, or put the rail in at station 4.")  # fmt: skip
    return Rails(top=top, apart=apart, name=own.name if own else "")


def _under(mount: Mount, edges: tuple[float, float]) -> Rails | None:
    """A member as a rail under both edges of a beam: one that rises is touched by the beam's one edge; None where it is none, or does not reach so far."""
    one, other = (_rail(mount, x) for x in edges)
    if one is None or other is None:
        return None
    return Rails(top=max(one.top, other.top), apart=max(one.apart, other.apart), name=mount.name)


def _rail(mount: Mount, x: float) -> Rails | None:
    """A member as a rail; None where it is none, or does not reach so far."""
    shape = mount.shape
    if mount.body != "ground" or not mount.both_sides or isinstance(shape, FlatMember):
        return None
    a, b = np.array(shape.a, float), np.array(shape.b, float)
    way = (b - a) / np.linalg.norm(b - a)
    if abs(way[0]) < ALONG or not min(a[0], b[0]) <= x <= max(a[0], b[0]):
        return None
    at = a + (x - a[0]) / (b[0] - a[0]) * (b - a)
    if isinstance(shape, RoundMember):
        # where an upright plane across the car cuts a round: its radius over the way's lean from it
        up = shape.od_mm / 2 * np.sqrt(way[0] ** 2 + way[2] ** 2) / abs(way[0])
        out = shape.od_mm / 2 * np.sqrt(way[0] ** 2 + way[1] ** 2) / abs(way[0])
    else:
        ends = _reach(shape, way)
        if ends is None:
            return None
        up, out = ends
    return Rails(top=float(at[2] + up), apart=2 * float(abs(at[1]) + out), name=mount.name)


def _reach(shape: BoxMember, way: Array) -> tuple[float, float] | None:
    """How far an upright box reaches up and out from its middle line, in an upright plane across the car [mm]; None where it leans."""
    up = np.array(shape.up, float) - float(np.array(shape.up) @ way) * way
    up /= np.linalg.norm(up)
    if abs(up[2]) < UPRIGHT:
        return None
    side = np.cross(way, up)
    corners = [i * shape.height_mm / 2 * up + j * shape.width_mm / 2 * side for i in (1, -1) for j in (1, -1)]
    cut = [one - one[0] / way[0] * way for one in corners]  # along the rail, into that plane
    return max(float(one[2]) for one in cut), max(abs(float(one[1])) for one in cut)


def through_beam(
    mounts: Sequence[Mount], middle: tuple[float, float, float], half: tuple[float, float, float]
) -> tuple[str, ...]:
    """Members of the car's frame that go through a beam across it: places in their metal that lie in it, looked at every few millimetres.

    Args:
        mounts: members of the car; those of the right side are the left ones' mirror images, as the beam is its own.
        middle: of the beam.
        half: its half sizes along, across and up [mm].
    """
    found = []
    for mount in mounts:
        shape = mount.shape
        if mount.body != "ground" or isinstance(shape, FlatMember):
            continue
        a, b = np.array(shape.a, float), np.array(shape.b, float)
        long = float(np.linalg.norm(b - a))
        along = np.linspace(a, b, ceil(long / EVERY) + 1)
        places = (along[:, None] + _section(shape, (b - a) / long)[None]).reshape(-1, 3)
        if bool(np.any(np.all(np.abs(places - np.array(middle)) < np.array(half) - TOUCHES, axis=1))):
            found.append(mount.name)
    return tuple(dict.fromkeys(found))


def _section(shape: BoxMember | RoundMember, way: Array) -> Array:
    """Places over a member's section, its edge among them, from its middle line (n, 3) [mm]; its walls are taken as solid."""
    up = np.array(shape.up, float) if isinstance(shape, BoxMember) else np.array([0.0, 0.0, 1.0] if abs(way[2]) < ALONG else [1.0, 0.0, 0.0])  # fmt: skip
    up = up - float(up @ way) * way
    up /= np.linalg.norm(up)
    side = np.cross(way, up)
    if isinstance(shape, BoxMember):
        shares = np.linspace(-0.5, 0.5, ceil(max(shape.height_mm, shape.width_mm) / EVERY) + 1)
        return np.array([i * shape.height_mm * up + j * shape.width_mm * side for i in shares for j in shares])
    rings = np.linspace(0.0, shape.od_mm / 2, ceil(shape.od_mm / 2 / EVERY) + 1)
    return np.array([r * (np.cos(t) * up + np.sin(t) * side) for r in rings for t in np.linspace(0, 2 * np.pi, 25)])
