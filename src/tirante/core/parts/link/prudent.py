"""What a search may return: limits of the shop, each with its reason, that say so when they rule a part out."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import sqrt

from tirante.core.document.catalogue import Tube
from tirante.core.document.settings import Settings
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.thread import parse_thread
from tirante.core.members.tube import Section
from tirante.core.suspension.duty import SAID, Duty

CIRCUIT_WALL = 1.2  # mm; common practice, no source
OTHER_WALL = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Limit:
    """A least or greatest, and why."""

    value: float
    why: str


@dataclass(slots=True, kw_only=True)
class Prudent:
    """The limits of one search; what they rule out is counted by its reason."""

    slenderness: Limit | None = None
    wall: Limit | None = None
    thread: Limit | None = None
    only: frozenset[str] = frozenset()
    metals: frozenset[str] = frozenset()  # those whose life is judged, where that is asked; empty: all
    ruled_out: dict[str, int] = field(default_factory=dict)

    def takes(self, tube: Tube, length: float, thread: str | None, metal: str | None = None) -> bool:
        """Whether a tube with a thread may be returned; counts what may not.

        Args:
            tube: the stock.
            length: pivot to pivot [mm].
            thread: designation at its ends; None: none.
            metal: family of its grade; None: not asked.
        """
        why = self._refusal(tube, length, thread, metal)
        if why is None:
            return True
        self.ruled_out[why] = self.ruled_out.get(why, 0) + 1
        return False

    def _refusal(self, tube: Tube, length: float, thread: str | None, metal: str | None) -> str | None:
        if metal and self.metals and metal not in self.metals:
            return f"{metal}, whose life nothing here judges"
        if self.only and tube.key not in self.only:
            return "a size that is not among those the shop has (its own list)"
        if self.wall and tube.wall_mm < self.wall.value - 1e-6:
            return f"a wall under {self.wall.value:g} mm ({self.wall.why})"
        if self.slenderness:
            section = Section(od=tube.od_mm, wall=tube.wall_mm)
            if length / sqrt(section.second_moment / section.area) > self.slenderness.value:
                return f"a slenderness over {self.slenderness.value:g} ({self.slenderness.why})"
        if self.thread and thread and parse_thread(thread).major < self.thread.value - 1e-6:
            return f"a thread under {self.thread.value:g} mm ({self.thread.why})"
        return None

    def told(self) -> str:
        """What was ruled out and by what, in a sentence; empty where nothing was."""
        if not self.ruled_out:
            return ""
        parts = [f"{count} with {why}" for why, count in sorted(self.ruled_out.items(), key=lambda one: -one[1])]
        return f"Left out by the shop’s limits: {'; '.join(parts)}."


def prudent_for(
    settings: Settings, use: str, cases: tuple[CaseSeen, ...], duty: Duty, metals: frozenset[str] = frozenset()
) -> Prudent:
    """The limits of a link.

    Args:
        settings: of the shop.
        use: of the car: "road", "circuit" or "off-road".
        cases: what the link sees.
        duty: whether it steers or alone locates.
        metals: those whose life is judged, where what it goes through day by day is known; empty: all.
    """
    limits = settings.search
    usual = CIRCUIT_WALL if use == "circuit" else OTHER_WALL
    wall = Limit(value=usual if limits.wall_mm is None else limits.wall_mm, why="common practice, no source")
    if any(case.strike_n for case in cases):
        wall = Limit(value=max(wall.value, limits.struck_wall_mm), why="it is struck; common practice, no source")
    return Prudent(
        slenderness=Limit(value=limits.slenderness, why="AISC 360 E2, a user note"), wall=wall,
        thread=Limit(value=limits.locating_thread_mm, why=SAID[duty]) if duty else None, only=frozenset(limits.only_tubes),
        metals=metals,
    )  # fmt: skip
