"""A joint worked out: what stands in it, its bolt and spacers in hand, the gap they ask for, how far it may tilt."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.brackets.bolt import bolt_class, order_length, tightening, tightening_known, tightening_told
from tirante.core.document.catalogue import Bolt, Eye, Spacer, bolt_fits, pin_hole, spacer_fits
from tirante.core.document.joints import HeldJoint
from tirante.core.loads.case_seen import CaseSeen, NotCarried
from tirante.core.members.thread import parse_thread
from tirante.core.parts.part import BoughtPiece, Misfit, Piece


@dataclass(frozen=True, slots=True, kw_only=True)
class Fork:
    """The clevis that a part ends in, as the single plate between its ears has it [mm]."""

    gap: float  # between its ears
    ear: float  # thickness of one
    width: float  # of the ears, across the hole
    edge: float  # hole's centre to their free end
    floor: float  # hole's centre to where the way between them ends

    @property
    def outer(self) -> float:
        """Over both ears: what a bolt through them grips."""
        return self.gap + 2 * self.ear


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldEnd:
    """What a part, or something of an end that is none, has at one of its joints: its ball or bush, and what that sees."""

    name: str  # "Upper link, end A"
    of_end: str | None  # the suspension end that it belongs to
    row: Eye  # ball, housing, how far it may tilt; of a clevis its pin, over and across its ears
    fork: Fork | None = None  # of a clevis; None: an eye, that plates hold to either side
    cases: tuple[CaseSeen, ...]  # along the part, tension positive; side forces across it
    not_carried: tuple[NotCarried, ...] = ()  # cases that it should have seen, each with the reason
    not_checked: tuple[str, ...] = ()  # what no case has of it
    swing_deg: float | None = (
        None  # how far its pull turns, over all cases, from where it points at ride height; None: not known
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Allowed:
    """How far a joint may tilt, and whence that is known."""

    limit_deg: float | None  # None: it is not watched
    told: str


@dataclass(frozen=True, slots=True, kw_only=True)
class JointMade:
    """A joint with all that is in it."""

    joint: HeldJoint
    held: HeldEnd
    bolt: Bolt | None
    spacer: Spacer | None

    @property
    def beside(self) -> float:
        """Spacer and shim on one side of the ball [mm]."""
        return (self.spacer.height_mm if self.spacer else 0.0) + self.joint.shim_mm

    @property
    def gap(self) -> float:
        """Between the plates: ball, spacers and shims on both sides [mm]."""
        return self.held.row.ball_width_mm + 2 * self.beside

    @property
    def plates(self) -> int:
        """That share what pulls."""
        return 2

    @property
    def hole(self) -> float:
        """Through ball or spacers, for the bolt [mm]."""
        return pin_hole(self.held.row, self.spacer)

    @property
    def tilt_limit_deg(self) -> float | None:
        """How far the joint may tilt: what its own row allows, and what its spacers add. None: not known."""
        own = self.held.row.tilt_limit_deg
        return None if own is None else own + (self.spacer.tilt_gain_deg if self.spacer else 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class ForkMade(JointMade):
    """A clevis with the single plate that stands between its ears.

    To all that asks for two plates with a gap between them it is two that lie in one another.
    """

    plate: float  # thickness of it [mm]

    @property
    def gap(self) -> float:
        """Of two plates that lie in one another [mm]."""
        return -self.plate

    @property
    def plates(self) -> int:
        """It alone."""
        return 1

    @property
    def fork(self) -> Fork:
        """The clevis."""
        assert self.held.fork
        return self.held.fork

    @property
    def free(self) -> float:
        """From the plate to either ear [mm]."""
        return (self.fork.gap - self.plate) / 2


def misfits(made: JointMade, hole: float) -> list[Misfit]:
    """What does not go together at a joint.

    Args:
        made: the joint.
        hole: in the plates that hold it [mm].
    """
    faults = []
    row, bolt, spacer = made.held.row, made.bolt, made.spacer
    if spacer and not spacer_fits(spacer, row):
        faults.append(
            Misfit(field="spacer", message=f"The spacer is for a {spacer.ball_bore_mm:g} mm bore, the ball has {row.bore_mm:g} mm.")
        )  # fmt: skip
    if bolt is None:
        faults.append(Misfit(field="bolt", message="No bolt is chosen yet. Press Size it, or choose one."))
    elif not bolt_fits(bolt.diameter_mm, made.hole):
        faults.append(
            Misfit(field="bolt", message=f"The bolt is {bolt.diameter_mm:g} mm, the hole through the joint {made.hole:g} mm.")
        )  # fmt: skip
    if bolt and hole < bolt.diameter_mm:
        faults.append(
            Misfit(field="hole", message=f"The hole is {hole:g} mm, the bolt {bolt.diameter_mm:g} mm: drill it larger.")
        )
    return faults


def hardware_of(made: JointMade, plates: float) -> list[Piece]:
    """Bolt, washer and spacers of a joint; they belong to neither what is held nor what holds it.

    Args:
        made: the joint.
        plates: thickness of all plates that the bolt goes through [mm].
    """
    found = bolt_pieces(made, made.gap + plates, "clamps the ball")
    if made.bolt:
        found.append(
            BoughtPiece(sort="washer", what=f"retaining washer larger than the eye's bore, {made.hole:g} mm hole")
        )
    if made.spacer:
        found.append(BoughtPiece(sort="spacer", what=made.spacer.label, key=made.spacer.key, count=2))
    return found


def bolt_pieces(made: JointMade, grip: float, clamps: str) -> list[Piece]:
    """The bolt of a joint as it is bought, by length; none while none is chosen.

    Args:
        made: the joint.
        grip: from head to nut [mm].
        clamps: what its torque does, in words.
    """
    found: list[Piece] = []
    if made.bolt:
        t = parse_thread(made.bolt.designation)
        length = order_length(grip, made.bolt.diameter_mm, t.pitch, t.series == "metric")
        clamp, torque = tightening(
            made.bolt.diameter_mm, bolt_class(made.bolt.strength_class, made.bolt.diameter_mm), t
        )
        told = f"{made.bolt.label}, order {length:.0f} mm under the head for a grip of {grip:.1f} mm, with locking nut; {torque:.0f} N·m {clamps} with {clamp / 1000:.0f} kN"
        order, nut = f"{made.bolt.label}, {length:.0f} mm under the head", f"locking nut {made.bolt.designation}"
        found.append(BoughtPiece(sort="bolt", what=told, key=made.bolt.key, order=order, nut=nut, torque_nm=torque))
    return found


def plain_bolt(diameter: float, grade: str, use: str, *, count: int = 1, word: str = "bolt") -> BoughtPiece:
    """A bolt known by its diameter and class, with its torque.

    Args:
        diameter: [mm]
        grade: its class.
        use: "for its bearings", "with hardened washers, for its root".
        count: how many.
        word: what it is.
    """
    told = f"{word} ⌀{diameter:g} mm, class {grade}, {use}; {tightening_told(diameter, grade)}"
    return BoughtPiece(sort="bolt", what=told, count=count, torque_nm=tightening_known(diameter, grade))
