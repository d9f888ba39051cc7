"""Where the joints of a part are set, so that they stand right when its beads have drawn it in."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tirante.core.jigs.features import Features

Array = NDArray[np.float64]


def set_off(features: Features, shrink: float) -> Array:
    """How far each joint is set from where it is to be, (joints, 3) [mm].

    Every tube from joint to joint is longer by the allowance at each of its beads. Of all ways to move the joints that do this the least is taken
    (minimum norm), so that nothing is moved or turned as a whole; where tubes brace one another so that not all can be longer, by least squares.
    What a tube that ends on another tube draws is not in it.

    Args:
        features: of the part.
        shrink: of one bead across a tube [mm].

    Source:
        Geometry (derived); 0.3–0.8 mm a fillet, common practice, no source.
    """
    count = len(features.held)
    index = {one.name: i for i, one in enumerate(features.held)}
    rows, asked = [], []
    for bar in features.bars:
        beads = sum(seam is not None for seam in (bar.a_seam, bar.b_seam))
        if not beads or bar.to[0] not in index or bar.to[1] not in index or bar.to[0] == bar.to[1]:
            continue
        i, j = index[bar.to[0]], index[bar.to[1]]
        way = features.held[j].p - features.held[i].p
        way = way / np.linalg.norm(way)
        row = np.zeros((count, 3))
        row[i], row[j] = -way, way
        rows.append(row.ravel())
        asked.append(beads * shrink)
    if not rows or shrink == 0.0:
        return np.zeros((count, 3))
    moved: Array = np.linalg.lstsq(np.array(rows), np.array(asked), rcond=None)[0].reshape(count, 3)
    return moved
