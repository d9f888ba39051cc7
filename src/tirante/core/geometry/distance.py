"""Distances at many positions at once; points are (3, lanes), lengths in mm.

Closed forms: segments by the closest points of two lines held inside their ends (derived); a block by the slope of the squared
distance along the segment, which rises in straight pieces between the places where the segment goes through the planes of the block's faces.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def segments(p1: Array, q1: Array, p2: Array, q2: Array) -> Array:
    """Least distance between two straight segments p1–q1 and p2–q2; either may be a point.

    Args:
        p1: one end of the first (3, lanes) [mm].
        q1: its other end.
        p2: one end of the second.
        q2: its other end.
    """
    d1, d2, r = q1 - p1, q2 - p2, p1 - p2
    a, e = (d1 * d1).sum(axis=0), (d2 * d2).sum(axis=0)
    b, c, f = (d1 * d2).sum(axis=0), (d1 * r).sum(axis=0), (d2 * r).sum(axis=0)
    a, e = np.maximum(a, 1e-300), np.maximum(e, 1e-300)
    determinant = a * e - b * b
    with np.errstate(divide="ignore", invalid="ignore"):
        s = np.where(determinant > 1e-12 * a * e, (b * f - c * e) / determinant, 0.0)
    s = np.clip(s, 0.0, 1.0)
    t = (b * s + f) / e
    # the nearest of the second line lies beyond its end: hold it there and look again along the first
    held = np.clip(t, 0.0, 1.0)
    s = np.where(t != held, np.clip((b * held - c) / a, 0.0, 1.0), s)
    found: Array = np.linalg.norm(p1 + d1 * s - p2 - d2 * held, axis=0)
    return found


def segment_block(p: Array, q: Array, centre: Array, axes: Array, half: Array) -> Array:
    """Least distance between a segment and a block, 0 where they meet.

    Args:
        p: one end of the segment (3, lanes) [mm].
        q: its other end.
        centre: of the block (3, lanes).
        axes: its own directions (3, 3, lanes), one a row.
        half: half its sizes along them (3,).
    """
    start = np.einsum("ijk,jk->ik", axes, p - centre)
    along = np.einsum("ijk,jk->ik", axes, q - p)
    reach = half[:, None]
    with np.errstate(divide="ignore", invalid="ignore"):
        crossing = np.concatenate([(reach - start) / along, (-reach - start) / along])
    # between two of these the slope of the squared distance is a straight line; what never crosses a face has none there
    shares = np.sort(
        np.concatenate(
            [np.clip(np.nan_to_num(crossing, nan=0.0), 0.0, 1.0), np.zeros((1, p.shape[1])), np.ones((1, p.shape[1]))]
        ),
        axis=0,
    )
    at = start[:, None] + along[:, None] * shares
    outside = at - np.clip(at, -reach[:, None], reach[:, None])
    slope = (outside * along[:, None]).sum(axis=0)  # never falls
    after = (slope > 0).argmax(
        axis=0
    )  # the first share past the nearest place; 0 where none is, or where the segment begins there
    before = np.maximum(after - 1, 0)
    lanes = np.arange(p.shape[1])
    low, high, s_low, s_high = shares[before, lanes], shares[after, lanes], slope[before, lanes], slope[after, lanes]
    rise = np.where(s_high > s_low, s_high - s_low, 1.0)
    share = np.where(after > 0, low - (high - low) * s_low / rise, np.where(slope[0] > 0, 0.0, 1.0))
    at = start + along * share
    found: Array = np.linalg.norm(at - np.clip(at, -reach, reach), axis=0)
    return found


def point_block(p: Array, centre: Array, axes: Array, half: Array) -> Array:
    """Distance of points to a block, 0 inside; see `segment_block`.

    Args:
        p: points (3, lanes) [mm].
        centre: of the block.
        axes: of the block, square to one another (3, 3, lanes).
        half: of its sizes along them [mm].
    """
    at = np.einsum("ijk,jk->ik", axes, p - centre)
    found: Array = np.linalg.norm(at - np.clip(at, -half[:, None], half[:, None]), axis=0)
    return found


def point_segment(p: Array, a: Array, b: Array) -> Array:
    """Distance of points to a segment.

    Args:
        p: points (3, lanes) [mm].
        a: one end of the segment.
        b: its other end.
    """
    d = b - a
    share = np.clip(((p - a) * d).sum(axis=0) / np.maximum((d * d).sum(axis=0), 1e-300), 0.0, 1.0)
    found: Array = np.linalg.norm(p - a - d * share, axis=0)
    return found


def segment_wall(p: Array, q: Array, through: Array, normal: Array) -> Array:
    """How far the nearer end of a segment stands before a wall; negative behind it.

    Args:
        p: one end of the segment (3, lanes) [mm].
        q: its other end.
        through: a point of the wall.
        normal: of the wall, to the side where one may be (length 1).
    """
    found: Array = np.minimum(((p - through) * normal).sum(axis=0), ((q - through) * normal).sum(axis=0))
    return found
