"""All links of a job sized together: each for least mass or cost, or the job for the fewest different stocks.

Fewest stocks: the least number of tubes and grades that gives each link one it passes with, and of those the lightest, by
a mixed-integer programme. It starts from what each tube could weigh at least; what it picks is judged, and what does not
pass so lightly is put right, until all that it picks holds: then no other pick can be better.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from tirante.core.document.catalogue import Catalogue
from tirante.core.document.parts.link import Link
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.parts.link.sizing import Candidate, Judged, Sizing, TubeScreen, candidates, judge, size

Aim = Literal["mass", "cost", "stocks"]


Stock = tuple[str, str]  # tube and grade keys


@dataclass(frozen=True, slots=True, kw_only=True)
class LinkSized:
    """One link of the job."""

    link_id: str
    sizing: Sizing | None
    fault: str | None  # why it was not sized


@dataclass(frozen=True, slots=True, kw_only=True)
class AllSized:
    """The job."""

    links: tuple[LinkSized, ...]
    stocks: int
    mass: float  # [kg] of those that were sized
    considered: int
    judged: int


def size_all(
    links: Sequence[Link], settings: Settings, catalogue: Catalogue, aim: Aim = "mass",
    progress: Callable[[int, int], bool] | None = None,
) -> AllSized:  # fmt: skip
    """Size every link that has a load.

    Args:
        links: of the job, with what the car's cases put into them.
        settings: factors and schools.
        catalogue: the shelf to choose from.
        aim: what is to be least.
        progress: told how many are done of how many; False stops it, and what is done stands.
    """
    done: list[LinkSized] = []
    options: dict[str, Options] = {}
    for i, link in enumerate(links):
        if progress and not progress(i, len(links)):
            break
        try:
            found = size(link, settings, catalogue, "cost" if aim == "cost" else "mass")
        except InputError as error:
            done.append(LinkSized(link_id=link.id, sizing=None, fault=error.message))
            continue
        done.append(LinkSized(link_id=link.id, sizing=found, fault=None if found.winner else found.advice))
        if aim == "stocks" and found.winner:
            options[link.id] = Options(link, settings, catalogue)
    if aim == "stocks" and options:
        chosen = fewest_stocks(options, lambda: progress is None or progress(len(done), len(links)))
        done = [
            one if one.link_id not in chosen else _with(one, chosen[one.link_id]) for one in done
        ]  # fmt: skip
    winners = [one.sizing.winner for one in done if one.sizing and one.sizing.winner]
    return AllSized(
        links=tuple(done), stocks=len({_stock(w) for w in winners}), mass=sum(w.candidate.mass for w in winners),
        considered=sum(one.sizing.considered for one in done if one.sizing), judged=sum(one.sizing.judged for one in done if one.sizing),
    )  # fmt: skip


def _with(one: LinkSized, winner: Judged) -> LinkSized:
    assert one.sizing
    light = one.sizing.winner
    if light is None or _stock(light) == _stock(winner):
        return one
    more = (winner.candidate.mass - light.candidate.mass) * 1000
    sizing = Sizing(
        considered=one.sizing.considered, judged=one.sizing.judged, winner=winner, runner_up=light, nearest=None,
        advice=f"Of a stock that other links use too; by itself {light.candidate.assembly.tube.label} would be {more:.0f} g lighter.",
    )  # fmt: skip
    return LinkSized(link_id=one.link_id, sizing=sizing, fault=None)


def _stock(judged: Judged) -> Stock:
    return judged.candidate.assembly.tube.key, judged.candidate.assembly.grade.key


class Options:
    """Of one link: the tubes and grades that may do, each with the least it can weigh, judged when it is asked for."""

    def __init__(self, link: Link, settings: Settings, catalogue: Catalogue) -> None:
        self._settings, self._catalogue = settings, catalogue
        self._left: dict[Stock, list[Candidate]] = {}
        self.passing: dict[Stock, Judged] = {}
        screen = TubeScreen(settings)
        for candidate in candidates(link, settings, catalogue):
            if screen.utilisation(candidate.assembly) <= 1.0:
                key = candidate.assembly.tube.key, candidate.assembly.grade.key
                self._left.setdefault(key, []).append(candidate)

    @property
    def least(self) -> dict[Stock, float]:
        """Of each stock, what the link weighs at least [kg]."""
        known = {stock: judged.candidate.mass for stock, judged in self.passing.items()}
        return known | {stock: left[0].mass for stock, left in self._left.items()}

    def settle(self, stock: Stock) -> bool:
        """Judge a stock's lightest ends; True when they pass (or did before)."""
        if stock in self.passing:
            return True
        candidate = self._left[stock].pop(0)
        judged = judge(candidate, self._settings, self._catalogue)
        if judged and judged.passed:
            self.passing[stock] = judged
            del self._left[stock]
            return True
        if not self._left[stock]:
            del self._left[stock]
        return False


def fewest_stocks(options: dict[str, Options], go_on: Callable[[], bool] = lambda: True) -> dict[str, Judged]:
    """One passing set for each link, from the fewest stocks, the lightest of those; none when it is told to stop."""
    while go_on():
        picked = _pick({link: own.least for link, own in options.items()})
        # judge all that is picked, even after one has failed: what is learned is kept
        held = [options[link].settle(stock) for link, stock in picked.items()]
        if all(held):
            return {link: options[link].passing[stock] for link, stock in picked.items()}
    return {}


def _pick(least: dict[str, dict[Stock, float]]) -> dict[str, Stock]:
    """The fewest stocks that give every link one, the lightest of those."""
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp
    from scipy.sparse import lil_array

    stocks = sorted({stock for own in least.values() for stock in own})
    place = {stock: i for i, stock in enumerate(stocks)}
    pairs = [(link, stock) for link, own in least.items() for stock in own]
    masses = np.array([least[link][stock] for link, stock in pairs])
    n, m, links = len(stocks), len(pairs), list(least)
    cost = np.concatenate([np.full(n, 2.0 * masses.max() * len(links) + 1.0), masses])
    rows = lil_array((len(links) + m, n + m))
    low, high = np.full(len(links) + m, -np.inf), np.zeros(len(links) + m)
    low[: len(links)] = high[: len(links)] = 1.0
    for i, (link, stock) in enumerate(pairs):
        rows[links.index(link), n + i] = 1.0
        rows[len(links) + i, n + i], rows[len(links) + i, place[stock]] = 1.0, -1.0
    found = milp(
        cost, constraints=LinearConstraint(rows.tocsr(), low, high), integrality=np.ones(n + m), bounds=Bounds(0, 1)
    )
    return {link: stock for i, (link, stock) in enumerate(pairs) if found.x[n + i] > 0.5}
