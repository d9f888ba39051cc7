"""Size it of what is cut from plate: the thinnest of the usual plates that holds and lasts."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from tirante.core.checks.kinds import kind_of
from tirante.core.parts.kind import Aim, Choice, Sized

PLATES_MM = (
    2.0,
    2.5,
    3.0,
    4.0,
    5.0,
    6.0,
    8.0,
    10.0,
    12.0,
    15.0,
    20.0,
)  # stocked everywhere; common practice, no source


def thinnest(make: Callable[[float], Choice], least: float, aim: Aim) -> Sized:
    """The thinnest plate whose part passes every check, and the next one.

    Args:
        make: of a thickness [mm], the part judged.
        least: thinnest plate that may be returned [mm].
        aim: plates have no price; whatever is asked, the lightest is searched for, and said so.
    """
    tried = [mm for mm in PLATES_MM if mm >= least]
    passed: list[Choice] = []
    nearest: Choice | None = None
    for mm in tried:
        choice = make(mm)
        if choice.worst and choice.worst.passed:
            passed.append(choice)
            if len(passed) == 2:
                break
        elif nearest is None or _used(choice) < _used(nearest):
            nearest = choice
    told = f"Plates of {_list(tried)} mm were tried, none under {least:g} mm (common practice, no source)."
    if aim == "cost":
        told += " Plates have no price here: the lightest was searched for."
    if passed:
        runner = passed[1] if len(passed) > 1 else None
        return Sized(
            considered=len(tried), judged=len(tried), winner=passed[0], runner_up=runner, nearest=None, advice=told
        )
    worst = nearest.worst if nearest else None
    why = (
        f"No plate holds: {worst.name} is past its limit in the nearest. Its cure: {kind_of(worst.key).cure}. "
        if worst
        else ""
    )
    return Sized(
        considered=len(tried), judged=len(tried), winner=None, runner_up=None, nearest=nearest, advice=why + told
    )


def _list(sizes: Sequence[float]) -> str:
    return ", ".join(f"{mm:g}" for mm in sizes)


def _used(choice: Choice) -> float:
    return (choice.worst.utilisation if choice.worst else None) or 0.0
