"""The load cases that a part sees, as any client shows them."""

from __future__ import annotations

from collections.abc import Sequence

from tirante.core.checks.shown import Out
from tirante.core.loads.case_seen import CaseSeen


class CaseOut(Out):
    """A load case that a part sees: typed, or worked out of the car's."""

    name: str
    at: str
    worked: bool
    axial_n: float
    strike_n: float
    side_n: float


def cases_out(cases: Sequence[CaseSeen]) -> list[CaseOut]:
    """As they are shown."""
    return [
        CaseOut(name=c.name, at=c.at, worked=c.worked, axial_n=c.axial_n, strike_n=c.strike_n, side_n=c.side_n) for c in cases
    ]  # fmt: skip
