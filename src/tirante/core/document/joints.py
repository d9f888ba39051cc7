"""Joints of the car: what is held, what holds it, and what goes through both, which belongs to neither."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.fields import Direction, Document, Id, Key, NotNegative, PointName


class EndOfLink(Document):
    """A link's end is held."""

    kind: Literal["link_end"] = "link_end"
    part: Id
    end: Literal["a", "b"]


class PivotOfArm(Document):
    """An arm's pivot or outer joint is held, by the name that its end's template has for it."""

    kind: Literal["arm_pivot"] = "arm_pivot"
    part: Id
    pivot: Annotated[str, Field(max_length=80)]


class PointOfBody(Document):
    """Something that is no part yet is held at a point of a suspension end: a damper's eye, a stop's seat, a rack."""

    kind: Literal["point"] = "point"
    end_id: Id
    body: PointName
    point: PointName


Held = Annotated[EndOfLink | PivotOfArm | PointOfBody, Field(discriminator="kind")]


class HeldJoint(Document):
    """A joint: what is held, the bracket that holds it (null: nothing here yet), bolt, spacers and shims."""

    id: Id
    held: Held
    by: Id | None = None
    bolt: Key | None = None
    spacer: Key | None = None
    shim_mm: NotNegative = 0.0  # each side, beside the spacer
    thread_in_plane: bool = False  # the bolt's thread stands in the shear plane
    bolt_axis: Direction | None = None  # where its end has none of it; null: taken from how what it holds swings
    mount: Id | None = None  # the member of the car that its bracket stands on; null: a part of the job, or not said

    def used_rows(self) -> list[tuple[str, str, str]]:
        """Catalogue rows that it uses: (table, key, field)."""
        wanted = [("bolts", self.bolt, "bolt"), ("spacers", self.spacer, "spacer")]
        return [(table, key, field) for table, key, field in wanted if key is not None]
