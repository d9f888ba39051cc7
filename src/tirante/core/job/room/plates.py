"""The room round what is no pair of plates: a pad under a stop, a bar's bearing or a rack, and a plate that lies on its face.

Its plates as they stand in the car are looked at against all that moves or stands near, and a lapped plate's bolt and what swings at it with them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, TypeVar

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.bolt import order_length
from tirante.core.brackets.tools import hardware
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.lapped_plate import LappedPlate
from tirante.core.document.parts.rail_sleeve import RailSleeve
from tirante.core.geometry.convex import Bar, Prism
from tirante.core.geometry.distance import point_segment
from tirante.core.job.room.around import Thing, mount_solid
from tirante.core.job.room.axes import Seen
from tirante.core.job.room.near import least
from tirante.core.job.room.own import Own, Piece
from tirante.core.job.worked import Worked
from tirante.core.members.thread import parse_thread
from tirante.core.parts.bracket.families.lapped import LappedMade, lapped_flats
from tirante.core.parts.bracket.families.lapped_checks import as_pair
from tirante.core.parts.bracket.families.pad import Flat
from tirante.core.parts.bracket.families.rail_sleeve import as_pair as sleeve_as_pair
from tirante.core.parts.bracket.families.rail_sleeve import sleeve_flats
from tirante.core.parts.joint import JointMade
from tirante.core.parts.stands import At, Stand

Array = NDArray[np.float64]
L = TypeVar("L", bound="OwnLapped")
HELD = 1.0  # mm: a bar whose middle line passes the place of a pad's bearing so near is what lies in it
SLEEVE = ("its sleeve",)
LAPPED = ("its foot", "its tongue", "its joggle", "its hook")
WEB = "a web"
PAD = ("its plate", WEB, WEB, "the plate over what is clamped", "its nuts")


def pieces_of(flats: Sequence[Flat], names: Sequence[str]) -> list[Piece]:
    """Plates as solids, as the car has them.

    Args:
        flats: in the car.
        names: of each; the last one of all further ones.
    """
    found = []
    for i, flat in enumerate(flats):
        x, y, z = (v[:, None] for v in (flat.x, flat.y, np.cross(flat.x, flat.y)))
        solid = Prism(flat.outline, flat.at[:, None], x, y, z, flat.thickness / 2)
        found.append(Piece(name=flat.name or names[min(i, len(names) - 1)], solid=solid))
    return found


def is_held(one: Thing, at: At, ride: int) -> bool:
    """Whether something that moves lies in a pad's own bearing at ride height.

    Args:
        one: what moves.
        at: the pad's joint.
        ride: the position at ride height.
    """
    if one.ends is None:
        return False
    a, b = (end[:, [min(ride, end.shape[1] - 1)]] for end in one.ends)
    return float(point_segment(at.at[:, None], a, b)[0]) < HELD


def member_under(job: Worked, seen: Seen, at: At, mount_id: str | None) -> tuple[str, bool, Thing | None]:
    """What a pad stands on: the member's id, whether its mirror image, and it as a solid; nothing where it is on a part.

    Args:
        job: worked out.
        seen: the pad's axes.
        at: its joint.
        mount_id: of the member; None: it stands on a part, or on what is typed.
    """
    mount = job.design.mount(mount_id) if mount_id else None
    if mount is None:
        return "", False, None
    here = Bar(at.at[:, None], at.at[:, None], 0.0)
    found: list[tuple[float, bool, Thing]] = []
    for mirrored in (False, True) if mount.both_sides else (False,):
        solid = mount_solid(seen, mount, mirrored=mirrored, foot=at.at)
        near = least(here, solid.solid, 1) if solid is not None else None
        if solid is not None and near is not None:
            found.append((near.gap, mirrored, solid))
    best = min(found, key=lambda one: one[0], default=None)
    return (mount.id, False, None) if best is None else (mount.id, best[1], best[2])


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnLapped(Own):
    """A lapped plate with its joint: its bolt's head behind the plate, its nut beyond what is held."""

    flats: tuple[Flat, ...]
    heads: ClassVar[tuple[float, ...]] = (-1.0,)  # behind the plate
    called: ClassVar[tuple[str, ...]] = LAPPED  # its pieces

    def face(self, side: float) -> float:
        """What is held on the nut's side, the plate's back on the head's.

        Args:
            side: +1 the way of the bolt, −1 the other.
        """
        return self.made.gap / 2 + (0.0 if side > 0 else self.tab.plate.mm)

    @property
    def reach(self) -> float:
        """From the joint to the furthest of plate and bolt."""
        far = 0.0
        for flat in self.flats:
            corners = flat.at + flat.outline[:, :1] * flat.x + flat.outline[:, 1:] * flat.y
            far = max(far, float(np.linalg.norm(corners - self.at, axis=1).max()) + flat.thickness / 2)
        return max(far, self.made.gap / 2 + self.tab.plate.mm + self.tail + self.hardware.outside)

    def plates(self, wider: float = 0.0) -> list[Piece]:
        """Foot, tongue, joggle and hook; each this much further from what is held."""
        moved = [replace(flat, at=flat.at - wider * self.stand.standing.bolt) for flat in self.flats]
        return pieces_of(moved, self.called)

    def nut(self, side: float) -> Piece:
        """Nut and washer beyond what is held, or the head behind the plate."""
        start = self.face(side)
        stop = start + (self.tail if side > 0 else self.hardware.head + self.hardware.washer)
        return Piece(name="bolt head or nut", solid=self.round_bolt(side * start, side * stop, self.hardware.outside))

    @property
    def tail(self) -> float:
        """How far nut or bolt's end stand out."""
        grip = self.made.gap + self.tab.plate.mm
        return max(self.hardware.washer + self.hardware.nut, self.bolt_length - grip - self.hardware.washer)

    def more_told(self, wider: float) -> str:
        """What gives that much more room between plate and what is held.

        Args:
            wider: [mm]
        """
        return f"{wider:.1f} mm more between plate and ball, as spacer or shim"


def own_lapped(saved: LappedPlate, made: LappedMade, joint: JointMade, stand: Stand) -> OwnLapped:
    """A lapped plate with one of its joints.

    Args:
        saved: as it is.
        made: worked out.
        joint: its bolt chosen.
        stand: where it lies.
    """
    return _from_one_side(OwnLapped, as_pair(saved), joint, stand, lapped_flats(saved, made.flat, stand))


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnSleeve(OwnLapped):
    """A sleeve through a box with its joint: what the bolt goes through behind the joint is as thick as the sleeve is long."""

    heads: ClassVar[tuple[float, ...]] = (1.0, -1.0)
    what: ClassVar[str] = "its sleeve"
    called: ClassVar[tuple[str, ...]] = SLEEVE

    def more_told(self, wider: float) -> str:
        """What gives that much more room between sleeve and what is held.

        Args:
            wider: [mm]
        """
        return f"{wider:.1f} mm more between sleeve and ball, as spacer or shim"


def own_sleeve(saved: RailSleeve, joint: JointMade, stand: Stand) -> OwnSleeve:
    """A sleeve through a box with one of its joints.

    Args:
        saved: as it is.
        joint: its bolt chosen.
        stand: where.
    """
    return _from_one_side(OwnSleeve, sleeve_as_pair(saved), joint, stand, sleeve_flats(saved, stand))


def _from_one_side(of: type[L], tab: TabPair, joint: JointMade, stand: Stand, flats: tuple[Flat, ...]) -> L:
    """What holds its joint from one side, its bolt through all that is behind the joint."""
    assert joint.bolt
    t = parse_thread(joint.bolt.designation)
    grip = joint.gap + tab.plate.mm
    return of(
        tab=tab, made=joint, stand=stand, at=stand.at.at, outlines=(), footing=None, names=("plate", "plate"),
        hardware=hardware(t, joint.bolt.diameter_mm), bolt_length=order_length(grip, joint.bolt.diameter_mm, t.pitch, t.series == "metric"),
        flats=flats,
    )  # fmt: skip
