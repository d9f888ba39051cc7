"""Tube and grade of a welded frame as they are chosen by hand."""

from __future__ import annotations

from typing import Any, Protocol, Self, TypeVar

from tirante.core.document.catalogue import Catalogue, Grade, Tube, grade_comes_as
from tirante.core.parts.around import Around


class OfTube(Protocol):
    """A saved part of one tube and grade."""

    @property
    def tube(self) -> str | None:
        """Its key."""

    @property
    def grade(self) -> str | None:
        """Its key."""

    def model_copy(self, *, update: Any = None) -> Self:
        """A copy with changes."""


P = TypeVar("P", bound=OfTube)


def tube_offers(saved: OfTube, around: Around, shelf: Catalogue) -> dict[str, list[str]]:
    """Tubes, and grades that are drawn as its tube.

    Args:
        saved: the part.
        around: the job.
        shelf: the shop's catalogue.
    """
    tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
    return {
        "tube": [t.key for t in shelf.tubes if any(grade_comes_as(g, t) for g in shelf.grades)],
        "grade": [g.key for g in shelf.grades if isinstance(tube, Tube) and grade_comes_as(g, tube)],
    }


def graded(changed: P, shelf: Catalogue) -> P:
    """With a grade that its tube is drawn in: its own, else the first of that metal.

    Args:
        changed: the part with another tube.
        shelf: the shop's catalogue.
    """
    tube = shelf.find("tubes", changed.tube) if changed.tube else None
    grade = shelf.find("grades", changed.grade) if changed.grade else None
    if not isinstance(tube, Tube) or (isinstance(grade, Grade) and grade_comes_as(grade, tube)):
        return changed
    family = grade.family if isinstance(grade, Grade) else "steel"
    fitting = [g.key for g in shelf.grades if grade_comes_as(g, tube) and g.family == family]
    return changed.model_copy(update={"grade": fitting[0] if fitting else None})
