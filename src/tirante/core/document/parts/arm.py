"""A welded arm as it is saved."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from tirante.core.document.end import DamperEye, End
from tirante.core.document.fields import Document, Id, Key, NotNegative, PointName, Positive, Strength
from tirante.core.document.parts.common import RodEndEnd, Welding
from tirante.core.document.parts.saved import SavedPart, UsedRow


class Stud(Document):
    """A ball joint's stud between its ball and the seat of its taper."""

    diameter_mm: Positive  # at the seat
    lever_mm: Positive  # ball centre to the seat
    yield_mpa: Strength = 650.0
    taper: Literal["1:8", "1:10", "none"] = "1:10"  # in diameter; the boss is reamed to the same
    holds_in_n: Annotated[float, Field(gt=0, le=1e7)] | None = (
        None  # the maker's, against being pulled out of its socket
    )


class Gusset(Document):
    """A flat plate let in between the two tubes where they meet at the outer joint."""

    reach_mm: Positive  # along either tube, from the outer joint's centre
    thickness_mm: Positive


class Housing(Document):
    """A cup that a ball joint or bearing is pressed or screwed into, as wide outside as the tubes that are notched to it leave it."""

    wall_mm: Positive
    long_mm: Positive  # along its bore


class Arm(SavedPart):
    """A welded arm of a suspension end: a tube from each pivot of its hinge to the outer joint, braced where wanted."""

    kind: Literal["arm"] = "arm"
    end_id: Id
    body: PointName  # of the end's template
    tube: Key | None = None
    grade: Key | None = None
    brace_at: Annotated[float, Field(gt=0.05, lt=0.95)] | None = (
        None  # share of the way from the pivots to the outer joint
    )
    pivots: Literal["bush sleeves", "rod ends", "spherical bearings"] = "bush sleeves"
    outer: Literal["ball joint in a socket", "spherical bearing in a cup", "rod end"] = "ball joint in a socket"
    stud: Stud | None = None
    gusset: Gusset | None = None
    pivot_end: RodEndEnd = RodEndEnd(hand="RH")  # of either pivot, where those are rod ends
    pivot_face_mm: NotNegative = 22.0  # pivot's centre to where its tube begins: half the sleeve or cup
    outer_face_mm: NotNegative = 30.0  # the same at the outer joint
    pivot_wall_mm: Positive | None = Field(
        default=None,
        description="wall of the sleeve or cup at either pivot, as long as the housing of `pivot_eye`; null: not given, and not judged",
    )
    outer_housing: Housing | None = Field(
        default=None, description="the cup at the outer joint; null: not given, and not judged"
    )
    outer_rating_n: Annotated[float, Field(gt=0, le=1e7)] | None = None  # the maker's static rating of the outer joint
    pivot_rating_n: Annotated[float, Field(gt=0, le=1e7)] | None = (
        None  # the same of the bush or bearing at either pivot
    )
    pivot_eye: DamperEye | None = Field(
        default=None, description="the bush or bearing at either pivot, where those are no rod ends; null: not known"
    )
    welding: Welding = Welding()  # of the inserts, where the pivots are rod ends

    @property
    def of_end(self) -> str | None:
        """The end that it is an arm of."""
        return self.end_id

    @property
    def stands_for(self) -> str | None:
        """The body of its end's template that it is."""
        return self.body

    def used_rows(self) -> list[UsedRow]:
        """Catalogue rows that it uses: (table, key, field)."""
        end = self.pivot_end
        wanted = [
            ("tubes", self.tube, "tube"), ("grades", self.grade, "grade"), ("joints", end.joint, "pivot_end.joint"),
            ("inserts", end.insert, "pivot_end.insert"), ("nuts", end.nut, "pivot_end.nut"),
        ]  # fmt: skip
        return [(table, key, field) for table, key, field in wanted if key is not None]

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end that it was an arm of is not there any more. Take it out, or undo."
