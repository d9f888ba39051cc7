"""How surely a point is known, as it is drawn: its ellipsoid seen in a view."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, sqrt

import numpy as np
from scipy.special import chdtri

from tirante.core.survey.readings import VIEWS, Array, View

CONFIDENCE = 0.95


@dataclass(frozen=True, slots=True, kw_only=True)
class Ellipse:
    """Half axes [mm] and the way of the long one from the view's first axis [rad]."""

    long: float
    short: float
    turn: float


def ellipse(covariance: Array, view: View, confidence: float = CONFIDENCE) -> Ellipse:
    """The ellipse within which a point lies in a view, at a confidence of both its coordinates together.

    Args:
        covariance: of the point [mm²], (3, 3).
        view: that it is drawn in.
        confidence: of the point lying in it.

    Source:
        Ellipse of a normal distribution in the plane; its size from χ² with two degrees (Ghilani, confidence ellipses, from memory).
    """
    i, j = VIEWS[view]
    sizes, ways = np.linalg.eigh(covariance[np.ix_((i, j), (i, j))])
    grow = chdtri(2, 1 - confidence)
    short, long = (sqrt(max(float(size), 0.0) * grow) for size in sizes)
    return Ellipse(long=long, short=short, turn=atan2(float(ways[1, 1]), float(ways[0, 1])))
