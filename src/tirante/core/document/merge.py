"""Two states of a job that grew from one, put together: what only one of them changed is taken, what both changed otherwise is a clash.

Works on a design as it is saved (JSON). What has an id, a name or a catalogue key is matched by that, so that a part that somebody adds or
takes out moves no other; a length as typed, a point and a direction are one value each.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Literal

Way = tuple[str, ...]  # from the design down to a field: names, and ids of what stands in a list
Take = Literal["mine", "theirs"]


class _Gone:
    """What is not there: None is a value of its own."""

    def __repr__(self) -> str:
        return "GONE"


GONE = _Gone()


@dataclass(frozen=True, slots=True, kw_only=True)
class Clash:
    """A field that both changed, each otherwise; GONE where one took out what the other changed."""

    way: Way
    base: Any
    mine: Any
    theirs: Any

    @property
    def key(self) -> str:
        """One string for the way."""
        return "/".join(self.way)


@dataclass(frozen=True, slots=True, kw_only=True)
class Merged:
    """Both states in one, and what had to be chosen or still has to be."""

    design: dict[str, Any]
    clashes: tuple[Clash, ...]
    mine: tuple[Way, ...]  # what only I changed
    theirs: tuple[Way, ...]  # what only they did


def merge(
    base: Mapping[str, Any], mine: Mapping[str, Any], theirs: Mapping[str, Any], take: Mapping[str, Take] | None = None
) -> Merged:
    """Three-way merge of a design as it is saved.

    Args:
        base: what both grew from.
        mine: one state.
        theirs: the other; what clashes is theirs where nobody chose.
        take: by a clash's key whose is taken.
    """
    clashes: list[Clash] = []
    own: dict[Take, list[Way]] = {"mine": [], "theirs": []}

    def choose(way: Way, was: Any, one: Any, other: Any) -> Any:
        if _same(one, other):
            return other
        if _same(was, one):
            own["theirs"].append(way)
            return other
        if _same(was, other):
            own["mine"].append(way)
            return one
        clash = Clash(way=way, base=was, mine=one, theirs=other)
        clashes.append(clash)
        return one if (take or {}).get(clash.key) == "mine" else other

    found = _merged((), base, mine, theirs, choose)
    return Merged(
        design=found, clashes=tuple(clashes), mine=tuple(own["mine"]), theirs=tuple(own["theirs"])
    )  # fmt: skip


def _same(one: Any, other: Any) -> bool:
    return one is other or (one is not GONE and other is not GONE and bool(one == other))


def _whole(value: Any) -> bool:
    """Whether a value is taken whole: no object, or one that is a single value to whoever types it."""
    return not isinstance(value, dict) or "typed" in value


def _merged(way: Way, was: Any, one: Any, other: Any, choose: Callable[[Way, Any, Any, Any], Any]) -> Any:
    sides = (was, one, other)
    if all(isinstance(side, list) for side in sides):
        was_rows, one_rows, other_rows = (_names(side) for side in sides)
        if was_rows is not None and one_rows is not None and other_rows is not None:
            return _rows(way, was_rows, one_rows, other_rows, choose)
    if any(_whole(side) for side in sides) or len({side.get("kind") for side in sides}) > 1:
        return choose(way, was, one, other)
    found = {}
    for name in dict.fromkeys([*other, *one, *was]):
        value = _merged((*way, name), was.get(name, GONE), one.get(name, GONE), other.get(name, GONE), choose)
        if value is not GONE:
            found[name] = value
    return found


def _names(rows: list[Any]) -> dict[str, Any] | None:
    """The rows of a list by what they are known by; None where they are known by nothing."""
    if not all(isinstance(row, dict) for row in rows):
        return None
    known = [row.get("id") or row.get("key") or row.get("name") for row in rows]
    return dict(zip(known, rows, strict=True)) if all(known) and len(set(known)) == len(known) else None


def _rows(
    way: Way,
    was: dict[str, Any],
    one: dict[str, Any],
    other: dict[str, Any],
    choose: Callable[[Way, Any, Any, Any], Any],
) -> list[Any]:
    found = []
    for name in dict.fromkeys([*other, *one]):  # theirs in their order, then what I added
        value = _merged(
            (*way, name), was.get(name, GONE), one.get(name, GONE), other.get(name, GONE), choose
        )  # fmt: skip
        if value is not GONE:
            found.append(value)
    return found
