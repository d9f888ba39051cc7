"""A bracket with its joint as solids in its own axes: plates, bolt, head and nut, and what is held, leaving the joint."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.bolt import order_length
from tirante.core.brackets.tools import Hardware, hardware, socket, spanner
from tirante.core.document.catalogue import Joint
from tirante.core.document.parts.bracket import TabPair
from tirante.core.geometry.convex import Cylinder, Prism, Solid
from tirante.core.geometry.distance import point_segment
from tirante.core.job.room.around import Thing, mount_solid
from tirante.core.job.room.axes import Seen
from tirante.core.members.thread import parse_thread
from tirante.core.parts.bracket.families.footing import Footing
from tirante.core.parts.bracket.families.place_view import contour_points, placed_plates
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.joint import Fork, JointMade
from tirante.core.parts.link.neck import Neck
from tirante.core.parts.stands import Stand

Array = NDArray[np.float64]
NEAR_JOINT = 300.0  # mm of what is held that is looked at against its own bracket
NECK = 1.5  # of an eye whose neck is not known, times its head; common practice, no source
IN_THREAD = 1.25  # of a rod end whose engagement is not known, times its thread; common practice, no source
FINE_DEG = 1.0  # of an arc: of a head of 50 mm some thousandths
ALONG = 0.96  # of the bolt: what leaves the joint that way is its own sleeve


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """Something of a bracket or of what it holds."""

    name: str
    solid: Solid
    joint: bool = False  # whether it is the joint itself: an eye between the plates, a clevis's ears beside one


@dataclass(frozen=True, slots=True, kw_only=True)
class Own:
    """A bracket with one of its joints, in its axes."""

    tab: TabPair
    made: JointMade
    stand: Stand
    at: Array  # the joint (3)
    outlines: tuple[TabOutline, ...]
    footing: Footing | None  # what joins or carries the ears of a folded one
    names: tuple[str, str]  # of its plates, the one the way of the bolt first
    hardware: Hardware
    bolt_length: float  # under its head

    @property
    def outer(self) -> float:
        """From the middle to a plate's outer face."""
        return self.made.gap / 2 + self.tab.plate.mm

    what: ClassVar[str] = "one of its plates"  # what stands against other things, in words
    heads: ClassVar[tuple[float, ...]] = (
        1.0,
        -1.0,
    )  # to which sides its bolt may be put in: the way of the bolt, and the other

    def face(self, side: float) -> float:
        """From the joint to where head or nut lies.

        Args:
            side: +1 the way of the bolt, −1 the other.
        """
        del side
        return self.outer

    @property
    def reach(self) -> float:
        """From the joint to the furthest of plates and bolt."""
        far = [np.linalg.norm(np.array(contour_points(one.contour)) - self.place, axis=1).max() for one in self.outlines]  # fmt: skip
        return float(np.hypot(max(far), self.outer + self.tail + self.hardware.outside))

    @property
    def place(self) -> Array:
        """The joint in the plates' own plane, along the foot and away from it (2): of several holes the one that it is in."""
        one = self.stand.standing
        return np.array([float((self.at - one.foot) @ axis) for axis in (one.x, one.y)])

    @property
    def tools_reach(self) -> float:
        """From the joint to the furthest that a bolt is drawn out or a spanner held."""
        along = self.outer + self.bolt_length + self.hardware.head
        return float(
            max(
                along,
                np.hypot(spanner(self.hardware.flats).length, along),
                self.outer + self.tail + socket(self.hardware.flats)[1],
            )
        )

    def on_bolt(self, along: float) -> Array:
        """A place on the bolt's line (3, 1)."""
        return np.asarray((self.at + along * self.stand.standing.bolt)[:, None])

    def round_bolt(self, start: float, stop: float, radius: float) -> Cylinder:
        """Something round on the bolt's line, from one place along it to another."""
        return Cylinder(self.on_bolt(start), self.on_bolt(stop), radius)

    def plates(self, wider: float = 0.0) -> list[Piece]:
        """Both plates, and what a folded one lies on its member with; each this much further out."""
        one, t, gap = self.stand.standing, self.tab.plate.mm, self.made.gap + 2 * wider
        found = []
        for name, plate in zip(self.names, placed_plates(self.tab, self.outlines, gap, self.stand), strict=True):
            corners = np.array(contour_points(plate.contour, FINE_DEG))
            at, x, y, z = (v[:, None] for v in (plate.at, plate.x, one.y, one.bolt))
            found.append(Piece(name=f"the {name}", solid=Prism(corners, at, x, y, z, t / 2)))
        for flat in self.footing.laid(gap, self.stand) if self.footing else ():
            assert self.footing
            at, x, y, z = (v[:, None] for v in (flat.at, flat.x, flat.y, np.cross(flat.x, flat.y)))
            solid = Prism(flat.outline, at, x, y, z, flat.thick / 2)
            found.append(Piece(name=self.footing.name, solid=solid))
        return found

    def is_plate(self, name: str) -> bool:
        """Whether a piece of it is one of its plates, and not what they stand on.

        Args:
            name: of the piece.
        """
        return self.footing is None or name != self.footing.name

    def nut(self, side: float) -> Piece:
        """Nut, washer and the end of the bolt on a side, or its head, which stands out less."""
        start = side * self.outer
        return Piece(
            name="bolt head or nut", solid=self.round_bolt(start, start + side * self.tail, self.hardware.outside)
        )

    def more_told(self, wider: float) -> str:
        """What gives that much more room between plates and what is held.

        Args:
            wider: on each side [mm].
        """
        return f"a gap of {self.made.gap + 2 * wider:.1f} mm between the plates: {wider:.1f} mm more beside the ball on each side, as spacer or shim"

    @property
    def tail(self) -> float:
        """How far nut or bolt's end stand out from the plate."""
        grip = 2 * self.outer
        return max(self.hardware.washer + self.hardware.nut, self.bolt_length - grip - self.hardware.washer)


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnSingle(Own):
    """A single tab with its clevis: its bolt's head and nut lie on the clevis's ears."""

    what: ClassVar[str] = "its plate"

    @property
    def fork(self) -> Fork:
        """The clevis."""
        assert self.made.held.fork
        return self.made.held.fork

    def face(self, side: float) -> float:
        """To the outer face of either ear.

        Args:
            side: +1 the way of the bolt, −1 the other.
        """
        del side
        return self.fork.outer / 2

    @property
    def reach(self) -> float:
        """From the joint to the furthest of plate and bolt."""
        far = np.linalg.norm(np.array(contour_points(self.outlines[0].contour)) - self.place, axis=1).max()
        return float(max(far + self.outer, np.hypot(self.face(1.0) + self.tail, self.hardware.outside)))

    @property
    def tools_reach(self) -> float:
        """As of plates, from the ears on."""
        along = self.face(1.0) + self.bolt_length + self.hardware.head
        return float(max(np.hypot(spanner(self.hardware.flats).length, along), self.face(1.0) + self.tail + socket(self.hardware.flats)[1]))  # fmt: skip

    def plates(self, wider: float = 0.0) -> list[Piece]:
        """The one plate."""
        del wider
        one = self.stand.standing
        corners = np.array(contour_points(self.outlines[0].contour, FINE_DEG))
        at, x, y, z = (v[:, None] for v in (one.foot, one.x, one.y, one.bolt))
        return [Piece(name=self.what, solid=Prism(corners, at, x, y, z, self.tab.plate.mm / 2))]

    def nut(self, side: float) -> Piece:
        """Nut, washer and the end of the bolt on an ear, or its head, which stands out less."""
        start = side * self.face(side)
        solid = self.round_bolt(start, start + side * self.tail, self.hardware.outside)
        return Piece(name="bolt head or nut", solid=solid)

    @property
    def tail(self) -> float:
        """How far nut or bolt's end stand out from the ear."""
        return max(self.hardware.washer + self.hardware.nut, self.bolt_length - self.fork.outer - self.hardware.washer)


def own_of(
    tab: TabPair, outlines: Sequence[TabOutline], made: JointMade, stand: Stand, at: Array, *, footing: Footing | None, names: tuple[str, str]
) -> Own:  # fmt: skip
    """A bracket with one of its joints.

    Args:
        tab: its plates.
        outlines: of them.
        made: the joint, its bolt chosen.
        stand: where it stands.
        at: the joint's place (3).
        footing: what joins or carries the ears of a folded one; None of plates.
        names: of its plates, the one the way of the bolt first.
    """
    assert made.bolt
    t = parse_thread(made.bolt.designation)
    single = made.held.fork
    grip = made.gap + 2 * tab.plate.mm if single is None else single.outer
    return (Own if single is None else OwnSingle)(
        tab=tab, made=made, stand=stand, at=at, outlines=tuple(outlines), footing=footing, names=names,
        hardware=hardware(t, made.bolt.diameter_mm), bolt_length=order_length(grip, made.bolt.diameter_mm, t.pitch, t.series == "metric"),
    )  # fmt: skip


def own_mount(seen: Seen, own: Own) -> Thing:
    """The member of the car that it stands on."""
    found = mount_solid(seen, own.stand.mount, mirrored=own.stand.mirrored, foot=own.stand.standing.foot)
    assert found
    return found


def runs_of(seen: Seen, own: Own, every: Sequence[Thing], necks: Sequence[Neck]) -> list[tuple[Array, list[Neck]]]:
    """What is held, run by run: the way that each leaves the joint (3, lanes), and its round pieces in order.

    Args:
        seen: the bracket's axes.
        own: the bracket.
        every: all that moves.
        necks: what leaves the joint, where that is known.
    """
    row, bolt = own.made.held.row, own.stand.standing.bolt[:, None]
    found = []
    for one in every:
        way = _leaving(seen, own, one)
        if way is None or bool((np.abs((way * bolt).sum(axis=0)) >= ALONG).any()):
            continue
        assert one.ends
        radius = one.solid.rounding  # type: ignore[union-attr]
        length = float(np.linalg.norm(one.ends[1] - one.ends[0], axis=0).min())
        steps = [*(necks or _usual(row, radius, own))]
        start = steps[-1].stop if steps else row.head_diameter_mm / 2
        name = one.name if one.name[0].isupper() else f"the {one.name}"
        # at its other end it is as far from that joint: what holds it there is not in its way
        steps.append(
            Neck(what=name, start=start, stop=max(start + 1.0, min(length - start, NEAR_JOINT)), radius=radius)
        )
        found.append((way, steps))
    return found


def swinging(own: Own, runs: Sequence[tuple[Array, list[Neck]]], lanes: int, *, hinge: bool) -> list[Piece]:
    """What is held at the joint, piece by piece, at every position.

    Args:
        own: the bracket.
        runs: as `runs_of` has them.
        lanes: how many positions.
        hinge: whether it turns about the bolt and does not tilt.
    """
    row, bolt = own.made.held.row, own.stand.standing.bolt[:, None]
    if isinstance(own, OwnSingle):
        found = [Piece(name=EARS, solid=solid, joint=True) for way, _ in runs for solid in _ears(own, way)]
        return [*found, *_in_order(own, runs)]
    if (hinge and not isinstance(row, Joint)) or not runs:  # a rod end stands in line with what it is screwed into
        axis = np.broadcast_to(bolt, (3, lanes))
    else:
        middle = np.mean([way for way, _ in runs], axis=0)
        axis = bolt - (bolt * middle).sum(axis=0) * middle / (middle * middle).sum(axis=0)
        axis = axis / np.linalg.norm(axis, axis=0)
    here, half = own.at[:, None], row.housing_width_mm / 2
    head = Cylinder(here - half * axis, here + half * axis, row.head_diameter_mm / 2)
    return [Piece(name="the joint’s head", solid=head, joint=True), *_in_order(own, runs)]


EARS = "the clevis’s ears"


def _in_order(own: Own, runs: Sequence[tuple[Array, list[Neck]]]) -> list[Piece]:
    """What leaves the joint, run by run."""
    here = own.at[:, None]
    return [
        Piece(name=step.what, solid=Cylinder(here + step.start * way, here + step.stop * way, step.radius))
        for way, steps in runs for step in steps
    ]  # fmt: skip


def _ears(own: OwnSingle, way: Array) -> list[Solid]:
    """Both ears of a clevis that turns about its bolt: round past the pin, straight to the bottom of the fork."""
    fork, bolt = own.fork, own.stand.standing.bolt[:, None]
    along = way - (way * bolt).sum(axis=0) * bolt
    along = along / np.linalg.norm(along, axis=0)
    across = np.cross(bolt, along, axis=0)
    turns = np.radians(np.arange(90.0, 271.0, 10.0))
    # as far past the pin as its ears reach, as wide as they are
    ring = [(fork.edge * np.cos(t), fork.width / 2 * np.sin(t)) for t in turns]
    outline = np.array([*ring, (fork.floor, -fork.width / 2), (fork.floor, fork.width / 2)])
    return [
        Prism(outline, own.at[:, None] + side * (fork.gap + fork.ear) / 2 * bolt, along, across, np.broadcast_to(bolt, along.shape), fork.ear / 2)
        for side in (1.0, -1.0)
    ]  # fmt: skip


def _leaving(seen: Seen, own: Own, one: Thing) -> Array | None:
    """The way that something which moves leaves the joint (3, lanes); None of what does not."""
    if one.ends is None or one.body == seen.body:
        return None
    a, b = (np.broadcast_to(end, (3, seen.lanes)) for end in one.ends)
    here = own.at[:, None]
    for p, q in ((a, b), (b, a)):
        if float(np.abs(p - here).max()) < AT_JOINT:
            way = q - p
            return np.asarray(way / np.linalg.norm(way, axis=0))
    return None


AT_JOINT = 0.5  # mm: what ends here is held here


def holds(seen: Seen, own: Own, one: Thing) -> bool:
    """Whether something that moves is held at the joint, or is the sleeve in it.

    Args:
        seen: the bracket's axes.
        own: the bracket.
        one: what moves.
    """
    if one.ends is None or one.body == seen.body:
        return False
    here = np.broadcast_to(own.at[:, None], (3, seen.lanes))
    a, b = (np.broadcast_to(end, (3, seen.lanes)) for end in one.ends)
    return float(point_segment(here, a, b).max()) < AT_JOINT


def _usual(row: object, radius: float, own: Own) -> list[Neck]:
    """The neck of an eye that is not known piece by piece."""
    head = own.made.held.row.head_diameter_mm / 2
    if isinstance(row, Joint):
        thread = parse_thread(row.designation).major
        return [Neck(what="the joint’s shank", start=head, stop=max(head + 1.0, row.eye_to_shank_end_mm - IN_THREAD * thread), radius=thread / 2)]  # fmt: skip
    if radius <= head:
        return []
    # as thick as the eye is wide: more would not swing in any bracket
    return [
        Neck(what="its eye’s neck", start=head, stop=NECK * 2 * head, radius=own.made.held.row.housing_width_mm / 2)
    ]
