"""A load case as a part sees it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import hypot

from tirante.core.document.parts.common import LoadCase


@dataclass(frozen=True, slots=True, kw_only=True)
class CaseSeen:
    """What a part sees at once [N]: typed, or worked out of the car's load cases."""

    name: str
    axial_n: float = 0.0  # tension positive
    strike_n: float = 0.0  # square to the link: at mid-span, or where the part's own pad stands
    side_n: float = 0.0  # at an eye, square to the link
    bolt_a_n: float = (
        0.0  # of the pull or push, what a link tilted to its bolt puts along it at either end; into what holds it
    )
    bolt_b_n: float = 0.0
    strike_at: float | None = (
        None  # of a bump stop that lands on the link: the share of its length from end A; None: the strike's own place
    )
    at: str = ""  # the travel position that a worked one applies at, in words
    worked: bool = False

    def scaled(self, share: float) -> CaseSeen:
        """All of its forces times the same.

        Args:
            share: of them.
        """
        return CaseSeen(
            name=self.name, axial_n=self.axial_n * share, strike_n=self.strike_n * share, side_n=self.side_n * share,
            bolt_a_n=self.bolt_a_n * share, bolt_b_n=self.bolt_b_n * share, strike_at=self.strike_at, at=self.at, worked=self.worked,
        )  # fmt: skip

    @property
    def across_n(self) -> float:
        """What a joint sees across the link: the side force, and half of a strike at mid-span, or the nearer joint's share of one beside it [N]."""
        share = 0.5 if self.strike_at is None else max(self.strike_at, 1 - self.strike_at)
        return self.side_n + self.strike_n * share

    @property
    def mid_strike_n(self) -> float:
        """The strike at mid-span that bends the link as much: P a b / L = P′ L / 4 [N]."""
        share = 0.5 if self.strike_at is None else self.strike_at
        return self.strike_n * 4 * share * (1 - share)

    @property
    def resultant_n(self) -> float:
        """The whole force on a joint, whichever way its bolt stands [N]."""
        return hypot(self.axial_n, self.across_n)

    def at_end(self, end: str) -> CaseSeen:
        """As what holds an end sees it: what goes along the bolt pushes it out of its plane.

        Args:
            end: "a" or "b".
        """
        along = self.bolt_a_n if end == "a" else self.bolt_b_n
        return replace(self, side_n=self.side_n + along, bolt_a_n=0.0, bolt_b_n=0.0) if along else self


@dataclass(frozen=True, slots=True, kw_only=True)
class NotCarried:
    """A load case that a part should have seen and has not, with the reason.

    `refuses`: not a lack of data, but a fault of the car that no part may be relied on with, a stop that goes solid for one.
    """

    case: str
    why: str
    refuses: bool = False

    def __str__(self) -> str:
        return f"{self.case}: {self.why}"


def told_once(every: Sequence[NotCarried]) -> tuple[NotCarried, ...]:
    """The same, nothing twice: what is told of a case is not told again of its copies, a wheel or a side each, for the same reason.

    Args:
        every: in the order in which they are told.
    """
    kept = dict.fromkeys(every)
    names = {(one.case, one.why) for one in kept}
    return tuple(one for one in kept if not any((one.case[:at], one.why) in names for at in _commas(one.case)))


def _commas(name: str) -> Iterator[int]:
    return (at for at, letter in enumerate(name) if letter == ",")


def typed(cases: Sequence[LoadCase]) -> tuple[CaseSeen, ...]:
    """Cases as a person typed them."""
    return tuple(CaseSeen(name=c.name, axial_n=c.axial_n, strike_n=c.strike_n, side_n=c.side_n) for c in cases)


def worst_axial(cases: Sequence[CaseSeen]) -> float:
    """Largest axial force of either sign [N]."""
    return max((abs(case.axial_n) for case in cases), default=0.0)
