"""Every length that is made after: links centre to centre on both sides, and each arm's triangles with their angles."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations
from math import acos, degrees
from typing import Literal

from tirante.core.document.end import End
from tirante.core.document.template import LinkJoint, Template
from tirante.core.mechanism.model import Mark, separation
from tirante.core.suspension.assemble import Assembled, assemble_end, right_corner


@dataclass(frozen=True, slots=True, kw_only=True)
class LengthRow:
    """A length between two named points of a part [mm]."""

    part: str
    a: str  # points
    b: str
    left: float
    right: float | None  # None: there is but one of it
    is_link: bool
    b_side: Literal["left", "right"] = "left"  # of a link from one side to the other
    angle_deg: float | None = None  # of an arm's triangle: at the point opposite

    @property
    def alike(self) -> bool:
        """Whether both sides are as long."""
        return self.right is None or abs(self.right - self.left) < 0.005


def lengths(template: Template, end: End) -> tuple[LengthRow, ...]:
    """All lengths of an end as its points were taken; ride height changes none of them.

    Raises:
        InputError: as `assemble_end`.
    """
    assembled = assemble_end(template, end)
    other = assembled if assembled.beam else assemble_end(template, right_corner(end))
    rows: list[LengthRow] = []
    for joint in template.joints:
        if not isinstance(joint, LinkJoint):
            continue
        own = {link.side: link.length for link in assembled.links if link.template_name == joint.name}
        if "centre" in own:
            left, right = own["centre"], None
        elif assembled.beam:
            left, right = own["left"], own["right"]
        else:
            left = own["left"]
            right = next(link.length for link in other.links if link.template_name == joint.name)
        across = joint.b.side == "right" and joint.a.side != "right"
        rows.append(
            LengthRow(
                part=joint.name, a=joint.a.point, b=joint.b.point, left=left, right=right, is_link=True,
                b_side="right" if across else "left",
            )
        )  # fmt: skip
    for body in template.bodies:
        if body not in (template.roles.wheel_body, template.axle_body):
            rows += _triangles(assembled, other, body)
    return tuple(rows)


def _named(assembled: Assembled, body: str, side: str) -> dict[str, Mark]:
    """The joints of an arm by the design's names."""
    places = [mark.at for mark in assembled.joined(assembled.body_on(body, side))]
    return {
        name.removesuffix(f"_{side}"): mark for name, mark in assembled.marks.items()
        if mark.at in places and not name.endswith("_right" if side == "left" else "_left")
    }  # fmt: skip


def _triangles(assembled: Assembled, other: Assembled, body: str) -> list[LengthRow]:
    left = _named(assembled, body, "left")
    single = assembled.beam and body not in assembled.split
    right = None if single else _named(other, body, "right" if other.beam else "left")
    rows = []
    for a, b in combinations(left, 2):
        opposite = [name for name in left if name not in (a, b)]
        one = separation(left[a], left[b])
        angle = None
        if len(opposite) == 1:
            p, q = (separation(left[opposite[0]], left[end]) for end in (a, b))
            angle = degrees(acos(max(-1.0, min(1.0, (p * p + q * q - one * one) / (2 * p * q))))) if p * q else None
        both = separation(right[a], right[b]) if right and a in right and b in right else None
        rows.append(
            LengthRow(part=body.replace("_", " "), a=a, b=b, left=one, right=both, is_link=False, angle_deg=angle)
        )
    return rows
