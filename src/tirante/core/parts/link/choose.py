"""Choosing parts by hand: what may be offered for each field, and what follows when one is changed.

Choices go down one road: tube → grade → joint → insert → nut. What is offered depends on
what stands before it on the road; changing a choice keeps what still fits behind it and replaces or clears the rest.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, Literal

from tirante.core.document.catalogue import (
    Catalogue,
    Grade,
    Insert,
    Joint,
    Row,
    Tube,
    comes_in_hand,
    grade_comes_as,
    insert_fits_tube,
    same_thread,
)
from tirante.core.document.parts.common import RodEndEnd
from tirante.core.document.parts.link import Link
from tirante.core.errors import InputError
from tirante.core.members.thread import parse_thread
from tirante.core.parts.link.assembly import tappable

EndName = Literal["end_a", "end_b"]


END_NAMES: tuple[EndName, EndName] = ("end_a", "end_b")


def _tube_and_grade(link: Link, catalogue: Catalogue) -> tuple[Tube | None, Grade | None]:
    tube = catalogue.find("tubes", link.tube) if link.tube else None
    grade = catalogue.find("grades", link.grade) if link.grade else None
    return (tube if isinstance(tube, Tube) else None, grade if isinstance(grade, Grade) else None)


def _fitting_inserts(link: Link, hand: str, catalogue: Catalogue) -> list[Insert]:
    tube, grade = _tube_and_grade(link, catalogue)
    if tube is None or grade is None:
        return []
    return [i for i in catalogue.inserts if comes_in_hand(i.hands, hand) and insert_fits_tube(i, tube, grade)]


def _joint_of(link: Link, name: EndName, catalogue: Catalogue) -> Joint | None:
    end = getattr(link, name)
    found = catalogue.find("joints", end.joint) if isinstance(end, RodEndEnd) and end.joint else None
    return found if isinstance(found, Joint) else None


def _keys(rows: Iterable[Row]) -> list[str]:
    return [row.key for row in rows]


def _end_offers(link: Link, name: EndName, catalogue: Catalogue) -> dict[str, list[str]]:
    end = getattr(link, name)
    if not isinstance(end, RodEndEnd):
        return {}
    tapped = end.tapped_mm is not None
    inserts = [] if tapped else _fitting_inserts(link, end.hand, catalogue)
    threads = {insert.designation for insert in inserts}
    tube, _ = _tube_and_grade(link, catalogue)
    nuts = [nut for nut in catalogue.nuts if comes_in_hand(nut.hands, end.hand)]

    def goes_in(joint: Joint) -> bool:
        if tapped:
            return tube is not None and tappable(tube, parse_thread(joint.designation))
        return any(same_thread(joint.designation, thread) for thread in threads)

    joints = [
        joint
        for joint in catalogue.joints
        if comes_in_hand(joint.hands, end.hand)
        and goes_in(joint)
        and any(same_thread(joint.designation, nut.designation) for nut in nuts)
    ]
    joint = _joint_of(link, name, catalogue)
    return {
        f"{name}.joint": _keys(joints),
        f"{name}.insert": _keys(i for i in inserts if joint and same_thread(i.designation, joint.designation)),
        f"{name}.nut": _keys(n for n in nuts if joint and same_thread(n.designation, joint.designation)),
    }


def offers(link: Link, catalogue: Catalogue) -> dict[str, list[str]]:
    """Keys that may be offered for each field, given what is chosen before it; nothing that does not fit is in it."""
    tube, _ = _tube_and_grade(link, catalogue)
    tapped = any(getattr(getattr(link, name), "tapped_mm", None) is not None for name in END_NAMES)
    threads = (
        [parse_thread(designation) for designation in {joint.designation for joint in catalogue.joints}]
        if tapped
        else []
    )
    found = {
        "tube": _keys(
            t
            for t in catalogue.tubes
            if any(grade_comes_as(g, t) for g in catalogue.grades)
            and (not tapped or any(tappable(t, thread) for thread in threads))
        ),
        "grade": _keys(g for g in catalogue.grades if tube and grade_comes_as(g, tube)),
    }
    for name in END_NAMES:
        found |= _end_offers(link, name, catalogue)
    return found


def _keep_or_first(current: str | None, offered: list[str]) -> str | None:
    if current in offered:
        return current
    return offered[0] if current and offered else None


def _refit(link: Link, catalogue: Catalogue) -> Link:
    """Walk down the road: keep what still fits, else the first that does, else nothing."""
    link = link.model_copy(update={"grade": _keep_or_first(link.grade, offers(link, catalogue)["grade"])})
    for name in END_NAMES:
        end = getattr(link, name)
        if not isinstance(end, RodEndEnd):
            continue
        offered = offers(link, catalogue)
        end = end.model_copy(update={"joint": _keep_or_first(end.joint, offered[f"{name}.joint"])})
        link = link.model_copy(update={name: end})
        offered = offers(link, catalogue)
        # a joint brings the insert and nut that fit it
        inserts, nuts = offered[f"{name}.insert"], offered[f"{name}.nut"]
        update = {
            "insert": end.insert if end.insert in inserts else (inserts[0] if end.joint and inserts else None),
            "nut": end.nut if end.nut in nuts else (nuts[0] if end.joint and nuts else None),
        }
        link = link.model_copy(update={name: end.model_copy(update=update)})
    return link


def choose(link: Link, field: str, key: str | None, catalogue: Catalogue) -> Link:
    """Take a row for a field, and let what stands behind it on the road follow.

    Args:
        link: as it is.
        field: "tube", "grade", "end_a.joint", "ends.joint" (both ends), "ends.joint" …
        key: a key that `offers` has for the field, or None to clear it.
        catalogue: the shop's.

    Raises:
        InputError: unknown field, or a row that does not fit; nothing changes.
    """
    parts = field.split(".")
    targets = [f"{name}.{parts[1]}" for name in END_NAMES] if parts[0] == "ends" and len(parts) == 2 else [field]
    offered = offers(link, catalogue)
    known = [target for target in targets if target in offered]
    if not known:
        raise InputError(
            f"“{field[:40]}” is not a part that can be chosen here.", code="unknown_field", fields=("field",)
        )
    for target in known:
        if key is not None and key not in offered[target]:
            raise InputError(
                "That part does not fit what is chosen already. Choose one of those offered.",
                code="does_not_fit", fields=("key",), value=key,
            )  # fmt: skip
        head, _, leaf = target.partition(".")
        update: dict[str, Any] = (
            {target: key} if not leaf else {head: getattr(link, head).model_copy(update={leaf: key})}
        )
        link = link.model_copy(update=update)
    return _refit(link, catalogue)
