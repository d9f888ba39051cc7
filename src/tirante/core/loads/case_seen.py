"""A load case as a part sees it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.document.parts.common import LoadCase


@dataclass(frozen=True, slots=True, kw_only=True)
class CaseSeen:
    """What a part sees at once [N]: typed, or worked out of the car's load cases."""

    name: str
    axial_n: float = 0.0  # tension positive
    strike_n: float = 0.0  # at mid-span, square to the link
    side_n: float = 0.0  # at an eye, square to the link
    at: str = ""  # the travel position that a worked one applies at, in words
    worked: bool = False

    def scaled(self, share: float) -> CaseSeen:
        """All of its forces times the same.

        Args:
            share: of them.
        """
        return CaseSeen(
            name=self.name, axial_n=self.axial_n * share, strike_n=self.strike_n * share, side_n=self.side_n * share, at=self.at,
            worked=self.worked,
        )  # fmt: skip


def typed(cases: Sequence[LoadCase]) -> tuple[CaseSeen, ...]:
    """Cases as a person typed them."""
    return tuple(CaseSeen(name=c.name, axial_n=c.axial_n, strike_n=c.strike_n, side_n=c.side_n) for c in cases)


def worst_axial(cases: Sequence[CaseSeen]) -> float:
    """Largest axial force of either sign [N]."""
    return max((abs(case.axial_n) for case in cases), default=0.0)
