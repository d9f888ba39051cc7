"""Vectors whose components lie along the first axis."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def cross(a: Array, b: Array) -> Array:
    """a × b of (3, …) arrays that broadcast; several times as fast as the general one on small arrays."""
    a1, a2, a3 = a
    b1, b2, b3 = b
    return np.array([a2 * b3 - a3 * b2, a3 * b1 - a1 * b3, a1 * b2 - a2 * b1])
