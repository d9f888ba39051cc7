"""Size it of a boxed link: the lightest plates of stock that hold, its outside sizes and pad as they are."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import product

from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.parts.boxed_link.checks import boxed_checks, boxed_mass
from tirante.core.parts.kind import Aim, Choice, Sized
from tirante.core.parts.plates import PLATES_MM

SAME_MASS = 1e-4  # kg


def size_box(
    link: BoxedLink, cases: Sequence[CaseSeen], settings: Settings, aim: Aim, least_mm: float, least_why: str
) -> Sized:
    """The lightest set of side, top and bottom plates that passes every check, and the next one.

    Args:
        link: its outside sizes, pad, steel and seams count.
        cases: what it sees.
        settings: factors, electrode.
        aim: plates have no price here; whatever is asked, the lightest is searched for, and said so.
        least_mm: thinnest plate that may be returned.
        least_why: why that is.

    Raises:
        InputError: no load is entered, so nothing can be judged.
    """
    if not any(case.axial_n or case.strike_n or case.side_n for case in cases):
        raise InputError(
            "No load is entered. Say what the link sees (pull, push, strike or side force), then size it.",
            code="missing", fields=("cases",),
        )  # fmt: skip
    pool = sorted(_pool(link, least_mm), key=lambda one: (boxed_mass(one), one.side_mm, one.top_mm, one.bottom_mm))
    passed: list[Choice] = []
    nearest: Choice | None = None
    judged = 0
    for one in pool:
        if len(passed) > 1 and boxed_mass(one) > passed[1].mass + SAME_MASS:
            break
        judged += 1
        choice = _choice(one, cases, settings)
        if choice.worst and choice.worst.passed:
            passed.append(choice)
        elif not passed and (nearest is None or _used(choice) < _used(nearest)):
            nearest = choice
    # of sets that weigh the same, the one with more in hand
    passed.sort(key=lambda one: (round(one.mass / SAME_MASS), _used(one)))
    told = f"Plates of {', '.join(f'{mm:g}' for mm in PLATES_MM if mm >= least_mm)} mm were tried, none under {least_mm:g} mm ({least_why})."
    if aim == "cost":
        told += " Plates have no price here: the lightest was searched for."
    winner, runner_up = (passed[0] if passed else None), (passed[1] if len(passed) > 1 else None)
    if winner is None:
        worst = nearest.worst if nearest else None
        why = (
            f"Nothing holds at these outside sizes: {worst.name} is past its limit in the nearest. "
            if worst
            else "No plate fits inside these sizes. "
        )
        return Sized(considered=len(pool), judged=judged, winner=None, runner_up=None, nearest=nearest,
                     advice=f"{why}Make the box higher or wider, or of a stronger steel. {told}")  # fmt: skip
    lost = (
        f"The runner-up passes too and is {(runner_up.mass - winner.mass) * 1000:.0f} g heavier. "
        if runner_up
        else "No other set of plates passes. "
    )
    return Sized(
        considered=len(pool), judged=judged, winner=winner, runner_up=runner_up, nearest=None, advice=lost + told
    )


def _used(choice: Choice) -> float:
    return (choice.worst.utilisation if choice.worst else None) or 0.0


def _pool(link: BoxedLink, least: float) -> Iterator[BoxedLink]:
    """Every set of plates that goes together inside the outside sizes."""
    stock = [mm for mm in PLATES_MM if mm >= least]
    for side, top, bottom in product(stock, repeat=3):
        if top + bottom < link.height.mm and 2 * side < link.width.mm:
            yield link.model_copy(update={"side_mm": side, "top_mm": top, "bottom_mm": bottom})


def _choice(link: BoxedLink, cases: Sequence[CaseSeen], settings: Settings) -> Choice:
    plates = f"sides {link.side_mm:g}, top {link.top_mm:g}, bottom {link.bottom_mm:g} mm"
    return Choice(
        parts=(link,), joints=(), tube=plates, grade=link.plate_name, joint=None, stock=(plates, link.plate_name), mass=boxed_mass(link),
        worst=boxed_checks(link, cases, settings)[0],
    )  # fmt: skip
