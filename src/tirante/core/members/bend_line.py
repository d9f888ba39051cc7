"""The line of a tube bent once or twice off the line between its pivots: its length, and where the bender finds its marks.

Straight pieces joined by arcs of the former's radius. A bend takes the corner's two tangents R tan(θ/2) and gives its arc R θ.
Not covered: springback and stretch, which a bender knows of its own.

Source:
    Plane geometry (derived; docs/methods.md, The stack).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, hypot, sin, sqrt, tan


@dataclass(frozen=True, slots=True, kw_only=True)
class BendLine:
    """A bent tube between its pivots [mm, rad]."""

    span: float
    offset: float
    from_ends: float | None  # of the corners, along the line between the pivots; None: one at mid-span
    radius: float

    @property
    def along(self) -> float:
        """From a pivot to its corner, along the line between the pivots."""
        return self.span / 2 if self.from_ends is None else self.from_ends

    @property
    def leg(self) -> float:
        """From a pivot to its corner, along the tube's own line."""
        return hypot(self.along, self.offset)

    @property
    def lean(self) -> float:
        """Of an outer piece against the line between the pivots."""
        return atan2(self.offset, self.along)

    @property
    def angle(self) -> float:
        """Of each bend."""
        return 2 * self.lean if self.from_ends is None else self.lean

    @property
    def tangent(self) -> float:
        """From a corner to where its arc begins."""
        return self.radius * tan(self.angle / 2)

    @property
    def arc(self) -> float:
        """Length of each bend."""
        return self.radius * self.angle

    @property
    def between(self) -> float:
        """Straight between two bends; 0 with one."""
        return 0.0 if self.from_ends is None else self.span - 2 * self.along - 2 * self.tangent

    @property
    def path(self) -> float:
        """Pivot to pivot along the tube."""
        if self.from_ends is None:
            return 2 * (self.leg - self.tangent) + self.arc
        return 2 * (self.leg - self.tangent + self.arc) + self.between

    def height(self, x: float) -> float:
        """Of the tube's middle line off the line between the pivots, corners sharp, at a distance along that line.

        Args:
            x: from pivot A [mm].
        """
        x = min(x, self.span - x)
        return self.offset * min(1.0, max(0.0, x / self.along))

    def place(self, along: float) -> tuple[float, float, float]:
        """Where the tube’s middle line is: along the line between the pivots and off it [mm], and how it leans against that line [rad].

        Args:
            along: from pivot A, along the tube [mm]; behind it, and past B, its outer pieces go on straight.
        """
        if along > self.path / 2:
            x, y, lean = self.place(self.path - along)
            return self.span - x, y, -lean
        begins = self.leg - self.tangent
        if along <= begins:
            return along * cos(self.lean), along * sin(self.lean), self.lean
        turned = min((along - begins) / self.radius, self.angle)
        lean = self.lean - turned
        x = begins * cos(self.lean) + self.radius * (sin(self.lean) - sin(lean))
        y = begins * sin(self.lean) + self.radius * (cos(lean) - cos(self.lean))
        left = along - begins - turned * self.radius
        return x + left * cos(lean), y + left * sin(lean), lean

    def least_from_ends(self, straight: float) -> float:
        """Where the corners must lie at least for so much straight tube from a pivot to the first arc.

        Args:
            straight: from the pivot, what is in front of the tube counted [mm].
        """
        at = straight
        for _ in range(60):
            lean = atan2(self.offset, max(at, 1e-9))
            reach = straight + self.radius * tan(lean / 2)
            at = sqrt(max(reach**2 - self.offset**2, 0.0)) if reach > self.offset else at + 1.0
        return at


def face_of(line: BendLine, from_centre: float) -> tuple[float, float]:
    """Where a tube's end stands that lies so far from its pivot along the outer piece: along the line of the pivots, and off it [mm].

    Args:
        line: of the tube.
        from_centre: from the pivot, along the tube [mm].
    """
    return from_centre * cos(line.lean), from_centre * sin(line.lean)
