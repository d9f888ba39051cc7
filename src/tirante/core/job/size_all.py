"""All parts of a job sized together: each for least mass or cost, or the job for the fewest different stocks.

Fewest stocks: the least number of tubes and grades that gives each part one it passes with, and of those the lightest, by
a mixed-integer programme. It starts from what each tube could weigh at least; what it picks is judged, and what does not
pass so lightly is put right, until all that it picks holds: then no other pick can be better. Parts that cannot say beforehand
what a stock would weigh are sized from what the others take, or from the whole shelf when nothing of that holds.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.design import Design
from tirante.core.document.parts.saved import SavedPart
from tirante.core.errors import InputError
from tirante.core.job.worked import Worked
from tirante.core.parts.kind import Aim, Choice, Sized, StockOptions
from tirante.core.parts.registry import kind_of

Stock = tuple[str, str]  # tube and grade keys


@dataclass(frozen=True, slots=True, kw_only=True)
class PartSized:
    """One part of the job."""

    part: SavedPart
    sized: Sized | None
    fault: str | None  # why it was not sized


@dataclass(frozen=True, slots=True, kw_only=True)
class AllSized:
    """The job."""

    design: Design  # with every part that was sized so built
    parts: tuple[PartSized, ...]
    asked: int  # parts that there are to size
    stocks: int  # of the members
    mass: float  # [kg] of those that were sized
    considered: int
    judged: int


def size_all(
    job: Worked, shelf: Catalogue, aim: Aim = "mass", progress: Callable[[int, int], bool] | None = None
) -> AllSized:  # fmt: skip
    """Size every part: the members first, then the brackets for what those have become.

    Args:
        job: worked out.
        shelf: to choose from.
        aim: what is to be least.
        progress: told how many are done of how many; False stops it, and what is done stands.
    """
    members = [part for part in job.design.parts if kind_of(part).station == "members"]
    brackets = [part for part in job.design.parts if kind_of(part).station == "brackets" and kind_of(part).searched]
    many = len(members) + len(brackets)
    go_on = progress or (lambda done, of: True)
    done: list[PartSized] = []
    options: dict[str, StockOptions] = {}
    later: list[SavedPart] = []
    for part in members:
        if not go_on(len(done), many):
            break
        own = kind_of(part).options(part, job, shelf) if aim == "stocks" else None
        if aim == "stocks" and own is None:
            later.append(part)
            continue
        one = _sized(job, part, shelf, aim)
        done.append(one)
        if own is not None and one.sized and one.sized.winner:
            options[part.id] = own
    if options:
        chosen = fewest_stocks(options, lambda: go_on(len(done), many))
        done = [_with(one, chosen[one.part.id]) if one.part.id in chosen else one for one in done]
    few = _of_stocks(shelf, {_stock(one) for one in done} - {None})
    for part in later:
        if not go_on(len(done), many):
            break
        one = _sized(job, part, few, aim)
        done.append(one if one.sized and one.sized.winner else _sized(job, part, shelf, aim))
    design = job.design
    for one in done:
        if one.sized and one.sized.winner:
            design = patched(design, adopted(design, one.sized.winner.parts, shelf, one.sized.winner.joints))
    for part in brackets:
        if not go_on(len(done), many):
            break
        # a member's search may have made it anew already
        now = Worked(design, job.shelf, job.memory)
        one = _sized(now, now.saved(part.id) or part, shelf, aim)
        done.append(one)
        if one.sized and one.sized.winner:
            design = patched(design, adopted(design, one.sized.winner.parts, shelf, one.sized.winner.joints))
    winners = [one.sized.winner for one in done if one.sized and one.sized.winner]
    return AllSized(
        design=design, parts=tuple(done), asked=many, stocks=len({s for one in done if kind_of(one.part).station == "members" and (s := _stock(one))}), mass=sum(w.mass for w in winners),
        considered=sum(one.sized.considered for one in done if one.sized), judged=sum(one.sized.judged for one in done if one.sized),
    )  # fmt: skip


def _sized(job: Worked, part: SavedPart, shelf: Catalogue, aim: Aim) -> PartSized:
    try:
        found = kind_of(part).size(part, job, shelf, aim)
    except InputError as error:
        return PartSized(part=part, sized=None, fault=error.message)
    return PartSized(part=part, sized=found, fault=None if found.winner else found.advice)


def _stock(one: PartSized) -> Stock | None:
    return one.sized.winner.stock if one.sized and one.sized.winner else None


def _of_stocks(shelf: Catalogue, stocks: set[Stock | None]) -> Catalogue:
    """The shelf with no tube or grade but those in use."""
    tubes, grades = {one[0] for one in stocks if one}, {one[1] for one in stocks if one}
    return shelf.model_copy(
        update={
            "tubes": tuple(row for row in shelf.tubes if row.key in tubes),
            "grades": tuple(row for row in shelf.grades if row.key in grades),
        }
    )


def _with(one: PartSized, winner: Choice) -> PartSized:
    assert one.sized
    light = one.sized.winner
    if light is None or light.stock == winner.stock:
        return one
    more = (winner.mass - light.mass) * 1000
    advice = f"Of a stock that other parts use too; by itself {light.tube} would be {more:.0f} g lighter."
    return replace(one, sized=replace(one.sized, winner=winner, runner_up=light, nearest=None, advice=advice))


def fewest_stocks(options: dict[str, StockOptions], go_on: Callable[[], bool] = lambda: True) -> dict[str, Choice]:
    """One passing set for each part, from the fewest stocks, the lightest of those; none when it is told to stop.

    Args:
        options: by part.
        go_on: asked before each round.
    """
    while go_on():
        picked = _pick({part: own.least for part, own in options.items()})
        # judge all that is picked, even after one has failed: what is learned is kept
        held = [options[part].settle(stock) for part, stock in picked.items()]
        if all(held):
            return {part: options[part].passing(stock) for part, stock in picked.items()}
    return {}


def _pick(least: dict[str, dict[Stock, float]]) -> dict[str, Stock]:
    """The fewest stocks that give every part one, the lightest of those."""
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp
    from scipy.sparse import lil_array

    stocks = sorted({stock for own in least.values() for stock in own})
    place = {stock: i for i, stock in enumerate(stocks)}
    pairs = [(part, stock) for part, own in least.items() for stock in own]
    masses = np.array([least[part][stock] for part, stock in pairs])
    n, m, parts = len(stocks), len(pairs), list(least)
    cost = np.concatenate([np.full(n, 2.0 * masses.max() * len(parts) + 1.0), masses])
    rows = lil_array((len(parts) + m, n + m))
    low, high = np.full(len(parts) + m, -np.inf), np.zeros(len(parts) + m)
    low[: len(parts)] = high[: len(parts)] = 1.0
    for i, (part, stock) in enumerate(pairs):
        rows[parts.index(part), n + i] = 1.0
        rows[len(parts) + i, n + i], rows[len(parts) + i, place[stock]] = 1.0, -1.0
    found = milp(
        cost, constraints=LinearConstraint(rows.tocsr(), low, high), integrality=np.ones(n + m), bounds=Bounds(0, 1)
    )
    return {part: stock for i, (part, stock) in enumerate(pairs) if found.x[n + i] > 0.5}
