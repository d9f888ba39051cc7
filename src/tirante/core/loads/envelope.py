"""Of many load cases those that can govern: no other pulls (or pushes) as hard and strikes and bends as hard at once.

Every check of a link and of what holds it grows with the force along it (of either sign by itself), with a strike, with a side force
and with what goes along its bolts; so a case that another exceeds in all of them cannot govern any.
"""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.loads.case_seen import CaseSeen


def envelope(cases: Sequence[CaseSeen]) -> list[CaseSeen]:
    """The cases that can govern, hardest pull first, hardest push last; of equal ones the first."""
    kept: list[CaseSeen] = []
    for i, one in enumerate(cases):
        beaten = any(
            _exceeds(other, one) and (not _exceeds(one, other) or j < i) for j, other in enumerate(cases) if j != i
        )
        if not beaten:
            kept.append(one)
    return sorted(kept, key=lambda case: -case.axial_n)


def _exceeds(one: CaseSeen, other: CaseSeen) -> bool:
    """Whether one is at least as hard as the other in every way."""
    way = 1.0 if other.axial_n >= 0 else -1.0
    return one.axial_n * way >= other.axial_n * way and all(
        getattr(one, name) >= getattr(other, name) for name in ("strike_n", "side_n", "bolt_a_n", "bolt_b_n")
    )
