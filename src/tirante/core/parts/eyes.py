"""The eyes of dampers and straps: no part that is made here, but what a bracket holds, with the force of the spring on it or of the strap."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress

from tirante.core.document.end import DAMPER, SPRING, End
from tirante.core.document.joints import PointOfBody
from tirante.core.document.parts.common import Side
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen, NotCarried
from tirante.core.loads.seen import seen_by_spring, seen_by_strap
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.joint import HeldEnd

NAMES = ("upper eye", "lower eye")
STRAP_ENDS = ("upper end of the strap", "lower end of the strap")
STRAP_NOT_CHECKED = ("the strap itself and its stitching: its maker’s", "a strap that snatches, where no case has that")
NOT_CHECKED = ("the damper’s own force in its stroke, and where it tops out or closes: no load case has them",)


def places_of_damper(end_id: str, end: End) -> Iterator[tuple[str, PointOfBody]]:
    """Both eyes of every damper and spring of an end, and both ends of its strap, by name.

    Args:
        end_id: of the end.
        end: as it is saved.
    """
    for unit, damper in end.dampers.items():
        for name, place in zip(NAMES, damper.places, strict=True):
            told = name if unit == DAMPER else f"{name} of the {unit}"
            yield told, PointOfBody(end_id=end_id, body=place.body, point=place.point)
    if end.strap:
        for name, place in zip(STRAP_ENDS, end.strap.places, strict=True):
            yield name, PointOfBody(end_id=end_id, body=place.body, point=place.point)


def path_of_eye(held: PointOfBody, end: End) -> str | None:
    """Where an end keeps the sizes of an eye of its dampers or its strap, as its form has it; None of what is none of these.

    Args:
        held: where it stands.
        end: as it is saved.
    """
    for unit, damper in end.dampers.items():
        for which, place in zip("ab", damper.places, strict=True):
            if (held.body, held.point) == (place.body, place.point):
                return f"{unit if unit == DAMPER else f'other_dampers/{unit}'}/eye_{which}"
    for which, place in zip("ab", end.strap.places if end.strap else (), strict=False):
        if (held.body, held.point) == (place.body, place.point):
            return f"strap/eye_{which}"
    return None


def held_eye(held: PointOfBody, side: Side, around: Around) -> HeldEnd | None:
    """A damper's eye and what it sees; None where the damper is gone or the eye's sizes are not given.

    Args:
        held: where it stands.
        side: of what holds it.
        around: the job.
    """
    end = around.ends.get(held.end_id)
    if end is None:
        return None
    places = [place for _, place in places_of_damper(held.end_id, end)]
    if held not in places:
        return None
    if places.index(held) >= 2 * len(end.dampers):
        return _held_strap(held, side, end, around)
    unit = list(end.dampers)[places.index(held) // 2]
    which = places.index(held) % 2
    damper = end.dampers[unit]
    eye = damper.eyes[which]
    if eye is None:
        return None
    spring = SPRING if unit == DAMPER else unit
    told = not_carried(held.end_id, around)
    cases: tuple[CaseSeen, ...] = ()
    if around.has_loads():
        try:
            carried = around.carried(held.end_id).cases
            # a damper beside what carries the car is not loaded by any case
            rated = damper.rate_n_per_mm is not None
            cases, unknown = seen_by_spring(side, spring, carried, rated) if spring in end.springs else ((), ())
            why = "what the spring carries beside the stop is not known; give its rate at Layout, under Damper"
            told += tuple(NotCarried(case=name, why=why) for name in unknown)
        except InputError:
            pass  # told by not_carried
    return HeldEnd(
        name=f"{around.end_name(held.end_id)} {unit}, {NAMES[which]}", of_end=held.end_id, row=eye, cases=cases, not_carried=told,
        not_checked=NOT_CHECKED,
    )  # fmt: skip


def _held_strap(held: PointOfBody, side: Side, end: End, around: Around) -> HeldEnd | None:
    """An end of the droop strap and what it sees; None where its sizes are not given."""
    assert end.strap
    which = next(i for i, place in enumerate(end.strap.places) if (place.body, place.point) == (held.body, held.point))
    eye = end.strap.eyes[which]
    if eye is None:
        return None
    cases: tuple[CaseSeen, ...] = ()
    if around.has_loads():
        with suppress(InputError):  # told by not_carried
            cases = seen_by_strap(side, around.carried(held.end_id).cases)
    return HeldEnd(
        name=f"{around.end_name(held.end_id)}, {STRAP_ENDS[which]}", of_end=held.end_id, row=eye, cases=cases,
        not_carried=not_carried(held.end_id, around), not_checked=STRAP_NOT_CHECKED,
    )  # fmt: skip
