"""How far the joints at a link's ends are out of line: tilt of each end, misalignment at the link's best roll.

Both housings are locked to one link by their nuts, and the link may roll about its own axis. A housing's bore axis is
square to the link; at roll ψ it makes with the bolt axis an angle whose cosine is |b⊥| |cos(ψ − β)|. Tilt, the least one
end alone can have, is asin |b∥|.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tirante.core.geometry.vectors import cross

Array = NDArray[np.float64]


def tilt(link: Array, bolt: Array) -> Array:
    """Angle between a link's axis and the plane square to its bolt [rad]; directions (3, lanes), unit."""
    found: Array = np.arcsin(np.clip(np.abs((link * bolt).sum(axis=0)), 0.0, 1.0))
    return found


def _frame(link: Array) -> tuple[Array, Array]:
    """Two directions square to the link at every position, moving smoothly with it."""
    seed = np.eye(3)[int(np.argmin(np.abs(link).max(axis=1)))][:, None]
    one = cross(link, np.broadcast_to(seed, link.shape))
    one /= np.linalg.norm(one, axis=0)
    return one, cross(link, one)


def misalignment(
    link: Array,
    bolt_a: Array,
    bolt_b: Array,
    clocking: float,
    hinged: tuple[bool, bool] = (False, False),
    limits: tuple[float, float] = (1.0, 1.0),
) -> tuple[Array, Array]:
    """Angle between bore and bolt at either end, at the roll where the larger of them against its limit is least [rad].

    Args:
        link: unit direction of the link (3, lanes).
        bolt_a: unit direction of the bolt of end A (3, lanes).
        bolt_b: of end B.
        clocking: turn of B's bore against A's about the link [rad].
        hinged: ends that hold the link's roll, being free about their bolt alone.
        limits: what either end allows; only their ratio counts.
    """
    u, v = _frame(link)
    reach, phase = [], []
    for bolt in (bolt_a, bolt_b):
        x, y = (bolt * u).sum(axis=0), (bolt * v).sum(axis=0)
        reach.append(np.hypot(x, y))
        phase.append(np.arctan2(y, x))
    (ca, cb), (pa, pb) = reach, phase
    pb = pb - clocking
    # bores are lines: phases count modulo a half turn; Δ in (−π/2, π/2]
    delta = np.mod(pb - pa + np.pi / 2, np.pi) - np.pi / 2
    if hinged[0] != hinged[1]:
        x = np.zeros_like(delta) if hinged[0] else delta
    elif limits[0] != limits[1]:
        x = _shared(ca, cb, delta, limits)
    else:
        # roll ψ = pa + x: maximise the lesser of ca cos x and cb cos(Δ − x), x between 0 and Δ
        cos_delta, sin_delta = np.cos(delta), np.sin(delta)
        with np.errstate(divide="ignore", invalid="ignore"):
            level = np.arctan((ca - cb * cos_delta) / (cb * sin_delta))  # where both are alike
        x = np.where(cb * cos_delta >= ca, 0.0, np.where(ca * cos_delta >= cb, delta, level))
        x = np.where(np.isfinite(x), x, 0.0)
    angle_a = np.arccos(np.clip(ca * np.abs(np.cos(x)), 0.0, 1.0))
    angle_b = np.arccos(np.clip(cb * np.abs(np.cos(delta - x)), 0.0, 1.0))
    return angle_a, angle_b


def _shared(ca: Array, cb: Array, delta: Array, limits: tuple[float, float]) -> Array:
    """The roll between 0 and Δ where both ends use the same share of their limits: A's grows with it, B's falls."""
    low, high = np.zeros_like(delta), np.ones_like(delta)
    for _ in range(48):
        middle = (low + high) / 2
        a = np.arccos(np.clip(ca * np.abs(np.cos(delta * middle)), 0.0, 1.0)) / limits[0]
        b = np.arccos(np.clip(cb * np.abs(np.cos(delta * (1 - middle))), 0.0, 1.0)) / limits[1]
        low, high = np.where(a < b, middle, low), np.where(a < b, high, middle)
    found: Array = delta * low
    return found
