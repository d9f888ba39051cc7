"""A welded arm of any layout as it is saved: tubes between its joints, and what is made at each joint."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, model_validator

from tirante.core.document.end import End
from tirante.core.document.fields import Document, Id, Key, Name, NotNegative, Point, PointName, Positive, Strength
from tirante.core.document.parts.saved import SavedPart, UsedRow

MadeAs = Literal["bush sleeve", "cup with a spherical bearing", "ball joint in a socket", "pair of tabs", "hub flange"]


class JointPin(Document):
    """The bolt through a joint, what it goes through, and the metal round it."""

    bolt_mm: Positive = 12.0
    bolt_class: Literal["8.8", "10.9", "12.9"] = "8.8"
    between_mm: Positive = 16.0  # width of the sleeve, or of the ball between the tabs
    shorter_mm: NotNegative = 2.0  # than what goes in is the sleeve or cup round it, both ends together
    plate_mm: Positive = 6.0  # each plate beside it; of a pair of tabs its own
    wall_mm: Positive = 5.0  # of a sleeve or cup
    head_mm: Positive = 18.0  # of tabs: radius of the plate round the bolt

    @property
    def housing_mm(self) -> float:
        """Length of a sleeve or cup, along the bolt [mm]."""
        return self.between_mm - self.shorter_mm

    @model_validator(mode="after")
    def _something_round_it(self) -> JointPin:
        if self.shorter_mm >= self.between_mm:
            raise ValueError("shorter_mm: nothing is left of the sleeve; let it be less than what goes in is long")
        return self


class Flange(Document):
    """A hub flange: its plate, the bolts that the hub has, and what it is welded to."""

    bolts: Annotated[int, Field(ge=3, le=12)] = 4
    circle_mm: Positive = 110.0
    bolt_mm: Positive = 12.0
    bolt_class: Literal["8.8", "10.9", "12.9"] = "10.9"
    outside_mm: Positive = 150.0
    plate_mm: Positive = 12.0
    ring_mm: Positive = 70.0  # outside of the tube or sleeve that is welded to its middle
    leg_mm: Annotated[float, Field(gt=0, le=50)] = 6.0


class FrameJoint(Document):
    """What is made at a joint of the arm."""

    point: PointName  # of the end
    made: MadeAs = "bush sleeve"
    face_mm: NotNegative = 22.0  # the joint's centre to where its tubes begin
    rating_n: Annotated[float, Field(gt=0, le=1e7)] | None = None  # the maker's static rating of what goes in
    pin: JointPin | None = None  # null: not given, and not judged
    flange: Flange | None = None  # of a hub flange; likewise


class FrameNode(Document):
    """A place where tubes meet that is no joint."""

    name: PointName
    at: Point  # in the car at ride height, on the left


class BoxOf(Document):
    """A hollow rectangle of plate, in place of a tube; its height stands up in the car."""

    height_mm: Positive
    width_mm: Positive
    wall_mm: Positive

    @model_validator(mode="after")
    def _hollow(self) -> BoxOf:
        if 2 * self.wall_mm >= min(self.height_mm, self.width_mm):
            raise ValueError("wall_mm: the walls are as thick as the box is wide; give thinner plate")
        return self


class FrameTube(Document):
    """A tube, or a box of plate, between two joints, places of the end on this body, or nodes of the arm."""

    a: PointName
    b: PointName
    box: BoxOf | None = None


class FrameGusset(Document):
    """A flat plate let in between two of its tubes where they meet."""

    at: PointName  # where they meet
    a: PointName  # the far end of the one
    b: PointName  # and of the other
    reach_mm: Positive = 90.0  # along either tube, from where they meet
    thickness_mm: Positive = 4.0


class StandsOn(Document):
    """Which of its tubes takes something that stands beside its joints, where that is not the nearest."""

    point: PointName
    a: PointName  # both ends of the tube
    b: PointName


class FrameArm(SavedPart):
    """A welded arm of a suspension end with joints anywhere: trailing and semi-trailing arm, radius arm, H-arm, wishbone of any shape."""

    kind: Literal["frame_arm"] = "frame_arm"
    end_id: Id
    body: PointName  # of the end's template
    tube: Key | None = None
    grade: Key | None = None
    tubes: Annotated[tuple[FrameTube, ...], Field(max_length=30, strict=False)] = ()
    joints: Annotated[tuple[FrameJoint, ...], Field(max_length=20, strict=False)] = ()
    nodes: Annotated[tuple[FrameNode, ...], Field(max_length=12, strict=False)] = ()
    stands: Annotated[tuple[StandsOn, ...], Field(max_length=20, strict=False)] = ()  # of the rest the nearest takes it
    gussets: Annotated[tuple[FrameGusset, ...], Field(max_length=12, strict=False)] = ()
    leg_mm: Annotated[float, Field(gt=0, le=50)] | None = None  # of the tubes' welds; null: what the wall asks
    plate_name: Name = "S355 plate"  # of its boxes
    plate_yield_mpa: Strength = 355.0

    @property
    def tubed(self) -> bool:
        """Whether any of it is of round tube."""
        return any(tube.box is None for tube in self.tubes)

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
        wanted = [("tubes", self.tube, "tube"), ("grades", self.grade, "grade")]
        return [(table, key, field) for table, key, field in wanted if key is not None]

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """Whether its end is gone."""
        if self.end_id in ends:
            return None
        return "The suspension end that it was an arm of is not there any more. Take it out, or undo."

    @model_validator(mode="after")
    def _once(self) -> FrameArm:
        pairs = [tuple(sorted((tube.a, tube.b))) for tube in self.tubes]
        for i, (a, b) in enumerate(pairs):
            if a == b:
                raise ValueError(f"tubes.{i}: a tube from {a} to {a} has no length; give it another end")
            if (a, b) in pairs[:i]:
                raise ValueError(f"tubes.{i}: there is a tube between {a} and {b} already; take one of them out")
        for what, names in (("joints", [j.point for j in self.joints]), ("nodes", [n.name for n in self.nodes])):
            for i, name in enumerate(names):
                if name in names[:i]:
                    raise ValueError(f"{what}.{i}: {name} stands there twice; take one of them out")
        return self
