"""Of many load cases those that can govern: no other pulls (or pushes) as hard and strikes and bends as hard at once.

Every check of a link and of what holds it grows with the force along it (of either sign by itself), with a strike, with a side force
and with what goes along its bolts; so a case that another exceeds in all of them cannot govern any.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from tirante.core.loads.case_seen import CaseSeen


def envelope(cases: Sequence[CaseSeen]) -> list[CaseSeen]:
    """The cases that can govern, hardest pull first, hardest push last; of equal ones the first."""
    axial = np.array([case.axial_n for case in cases])
    more = [[getattr(case, name) for case in cases] for name in ("strike_n", "side_n", "bolt_a_n", "bolt_b_n")]
    # exceeds[i, j]: case i is at least as hard as j in every way, the force along it in the sense that j has
    exceeds = np.where(axial >= 0, axial[:, None] >= axial, axial[:, None] <= axial)
    for values in map(np.array, more):
        exceeds &= values[:, None] >= values
    first = np.arange(len(cases))
    beaten = (exceeds & (~exceeds.T | (first[:, None] < first))).any(axis=0)
    kept = [case for case, lost in zip(cases, np.asarray(beaten), strict=True) if not lost]
    return sorted(kept, key=lambda case: -case.axial_n)
