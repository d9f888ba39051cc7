"""Brackets that are searched for among plates, widths and bolts, and hold a joint as the pair of tabs that they are to it does."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Sequence
from typing import Any, TypeVar

from tirante.core.brackets.tools import Fillet, Hexagon, WayOut
from tirante.core.checks.kinds import kind_of as check_kind
from tirante.core.checks.result import CheckResult
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.bracket import FlatBase, TabPair
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError, NotApplicable
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import FEET, STOCK, bolt_of, bolts_for, spacer_of
from tirante.core.parts.joint import HeldEnd, JointMade, misfits
from tirante.core.parts.kind import Aim, Changed, Choice, Kind, Refit, Sized
from tirante.core.parts.stands import Stand
from tirante.core.units import STEEL_DENSITY

THICKEST = 8.0  # mm, that a shop’s brake folds; common practice, no source
S = TypeVar("S", bound=SavedPart)


class SearchedBracket(Kind[S]):
    """A bracket that is searched for."""

    station = "brackets"
    searched = True
    of_tubes = False
    set_anew = TAB_PAIR.set_anew
    thickest = THICKEST  # plate that is tried [mm]
    single = False  # whether it is one plate between a clevis's ears

    @abstractmethod
    def as_pair(self, saved: S) -> TabPair:
        """What it is to joint, pin and plate, as a pair of tabs."""

    @abstractmethod
    def judged(
        self, saved: S, made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> tuple[CheckResult, ...]:
        """Its checks, weakest first; `InputError` of a flat that cannot be made."""

    @abstractmethod
    def proportioned(self, saved: S, made: JointMade, plate: float, wider: float) -> Sequence[S]:
        """What is tried for a bolt and a plate, the lightest first."""

    @abstractmethod
    def area(self, saved: S, gap: float) -> float:
        """Of its flats for one joint [mm²]."""

    def mass(self, saved: S, gap: float) -> float:
        """For one joint [kg].

        Args:
            saved: as it would be.
            gap: between its plates [mm].
        """
        return self.area(saved, gap) * self.as_pair(saved).plate.mm * STEEL_DENSITY

    def stock(self, saved: S) -> tuple[str, str]:
        """What it is cut from, and of which metal.

        Args:
            saved: as it would be.
        """
        pair = self.as_pair(saved)
        return f"{pair.plate.mm:g} mm plate", pair.grade_name

    def tried_told(self, tried: int) -> str:
        """What was tried.

        Args:
            tried: how many.
        """
        return (
            f"{tried} plates, bases and bolts were tried (plates to {self.thickest:g} mm: common practice, no source)."
        )

    def past(self, saved: S, stands: Sequence[Stand], made: JointMade) -> str:
        """Why it does not stand on its mounts; empty where it does.

        Args:
            saved: as it would be.
            stands: where.
            made: the first of its joints.
        """
        return TAB_PAIR.past(self.as_pair(saved), stands, made.gap, 0.0)

    def fit(self, saved: S, made: JointMade, stands: Sequence[Stand]) -> S:
        """The same made for what it stands on, where its sizes follow from that.

        Args:
            saved: as it would be.
            made: the first of its joints.
            stands: where.
        """
        del made, stands
        return saved

    @abstractmethod
    def begun(self, pair: TabPair) -> S:
        """One in the place of a pair of tabs that was proposed; on nothing yet."""

    @abstractmethod
    def fitted(self, saved: S, stand: Stand, made: JointMade | None) -> S:
        """The same made for what it stands on; as it is where it cannot stand there, which it says itself."""

    def hexagons(self, saved: S, made: JointMade, stand: Stand) -> tuple[tuple[str, Hexagon], ...]:
        """Heads and nuts of what holds it to its mount, that a spanner must turn on, alike ones under one name; none of what is welded.

        Args:
            saved: as it is.
            made: its joint.
            stand: where.
        """
        del saved, made, stand
        return ()

    def bolts(self, saved: S, made: JointMade, stand: Stand) -> tuple[tuple[str, tuple[WayOut, ...]], ...]:
        """The bolts that hold it to its mount, alike ones under one name, each with the ways that it may be put in and drawn out.

        Args:
            saved: as it is.
            made: its joint.
            stand: where.
        """
        del saved, made, stand
        return ()

    def fillets(self, saved: S, made: JointMade, stand: Stand) -> tuple[Fillet, ...]:
        """Where it is welded to its mount, of what is no pair of plates; none of what is bolted on.

        Args:
            saved: as it is.
            made: its joint.
            stand: where.
        """
        del saved, made, stand
        return ()

    def depends(self, saved: S, around: Around) -> str:
        """The joints that it holds, and what is held."""
        return TAB_PAIR.depends(self.as_pair(saved), around)

    def offers(self, saved: S, around: Around, shelf: Catalogue) -> dict[str, list[str]]:
        """Spacers for the ball, bolts through what is there."""
        return TAB_PAIR.offers(self.as_pair(saved), around, shelf)

    def choose(self, saved: S, field: str, key: str | None, around: Around, shelf: Catalogue) -> Changed:
        """A spacer or bolt for every joint that it holds; another bolt asks for another hole, head and edge."""
        found = TAB_PAIR.choose(self.as_pair(saved), field, key, around, shelf)
        pair = found.parts[0]
        assert isinstance(pair, TabPair)
        return Changed(parts=(ears_become(saved, pair),), joints=found.joints)

    def size(self, saved: S, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The least metal, then the lowest bolt class, that holds all that it holds."""
        joints, held, stands = TAB_PAIR.to_size(self.as_pair(saved), around, single=self.single)
        found, tried = self._lightest(saved, joints, held, around.settings, shelf, stands)
        choice = self._choice(found, held, shelf) if found.fault is None else None
        told = self.tried_told(tried)
        if aim == "cost":
            told += " They have no price here: the lightest was searched for."
        if choice is not None and found.passed:
            return Sized(considered=tried, judged=tried, winner=choice, runner_up=None, nearest=None, advice=told)
        worst = choice.worst if choice else None
        reason = found.fault or (f"None holds: {worst.name} is past its limit in the nearest. Its cure: {check_kind(worst.key).cure}." if worst else "")  # fmt: skip
        return Sized(considered=tried, judged=tried, winner=None, runner_up=None, nearest=choice, advice=f"{reason} {told}")  # fmt: skip

    def refit(
        self, saved: S, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], settings: Settings, shelf: Catalogue, stands: Sequence[Stand] = ()
    ) -> Refit:  # fmt: skip
        """Folded anew for what would stand in it, as light as holds; the nearest where nothing does."""
        return self._lightest(saved, joints, held, settings, shelf, stands)[0]

    def judged_with(
        self, saved: S, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], settings: Settings, shelf: Catalogue, stands: Sequence[Stand] = ()
    ) -> Refit:  # fmt: skip
        """As it is, with what would be in it."""
        made, pair = _made(joints, held, shelf), self.as_pair(saved)
        faults = [fault.message for one in made for fault in misfits(one, pair.hole.mm)]
        past = self.past(saved, stands, made[0])
        try:
            checks = self.judged(saved, made, settings, stands)
        except (InputError, NotApplicable) as error:
            faults.append(error.message)
            checks = ()
        fault = next(iter([*faults, *([past] if past else [])]), None)
        return Refit(parts=(), joints=(), checks=checks, fault=f"{saved.name}: {fault}" if fault else None)

    def _lightest(
        self, saved: S, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], settings: Settings, shelf: Catalogue, stands: Sequence[Stand]
    ) -> tuple[Refit, int]:  # fmt: skip
        """The lightest that holds what would stand in it, else the nearest, or why none can be made; and how many were tried."""
        best: Refit | None = None
        why, tried = "", 0
        for plate in (mm for mm in STOCK if mm <= self.thickest):
            for wider in FEET:
                for bolt in bolts_for(held[0].row, spacer_of(joints[0].spacer, shelf), shelf):
                    own = tuple(joint.model_copy(update={"bolt": bolt.key}) for joint in joints)
                    made = _made(own, held, shelf)
                    for one in (
                        self.fit(own_, made[0], stands) for own_ in self.proportioned(saved, made[0], plate, wider)
                    ):
                        if self.as_pair(one).hole.mm < plate:
                            continue  # no cutter makes such a hole
                        tried += 1
                        found = self._tried(one, own, made, settings, stands)
                        if isinstance(found, str):
                            why = why or found
                        elif found.passed:
                            return found, tried
                        elif best is None or found.utilisation < best.utilisation:
                            best = found
        fault = why or "No bolt of the catalogue goes through this joint."
        return best or Refit(parts=(saved,), joints=tuple(joints), checks=(), fault=fault), tried

    def _tried(
        self, one: S, own: tuple[HeldJoint, ...], made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> Refit | str:
        """One of those that are tried, judged; or why it cannot be made or does not stand."""
        try:
            checks = self.judged(one, made, settings, stands)
        except (InputError, NotApplicable) as error:
            return error.message
        return self.past(one, stands, made[0]) or Refit(parts=(one,), joints=own, checks=checks)

    def _choice(self, found: Refit, held: Sequence[HeldEnd], shelf: Catalogue) -> Choice:
        one: S = found.parts[0]  # type: ignore[assignment]
        made, (stock, grade) = _made(found.joints, held, shelf), self.stock(one)
        return Choice(
            parts=found.parts, joints=found.joints, tube=stock, grade=grade, joint=None, stock=(stock, grade),
            mass=self.mass(one, made[0].gap) * len(made), worst=found.checks[0] if found.checks else None,
        )  # fmt: skip


def ears_become(saved: S, pair: TabPair) -> S:
    """A folded bracket with what its ears have become.

    Args:
        saved: as it was.
        pair: its ears.
    """
    change: dict[str, Any] = {name: getattr(pair, name) for name in EARS}
    if isinstance(pair.base, FlatBase):
        change["wall_mm"] = pair.base.wall_mm
    return saved.model_copy(update=change)


EARS = ("plate", "hole", "head_radius", "edge", "base_width", "height", "height_fixed", "load_angle_deg")


def _made(joints: Sequence[HeldJoint], held: Sequence[HeldEnd], shelf: Catalogue) -> list[JointMade]:
    return [
        JointMade(joint=j, held=h, bolt=bolt_of(j.bolt, shelf), spacer=spacer_of(j.spacer, shelf))
        for j, h in zip(joints, held, strict=True)
    ]
