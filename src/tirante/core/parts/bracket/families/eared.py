"""Folded brackets whose two ears hold a joint as a pair of tabs does: what they are asked alike, and how they are searched for."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Sequence
from math import degrees
from typing import Any, TypeVar

from tirante.core.checks.kinds import kind_of as check_kind
from tirante.core.checks.result import CheckResult
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.forms.table import Field, FieldGroup, number, special
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.bracket import FlatBase, TabPair
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError, NoSolution, NotApplicable
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.footing import Footing
from tirante.core.parts.bracket.families.place_view import place_sheet
from tirante.core.parts.bracket.families.tab_outline import TabOutline, tab_outline
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import FEET, STOCK, bolt_of, bolts_for, spacer_of
from tirante.core.parts.joint import HeldEnd, JointMade, misfits
from tirante.core.parts.kind import Aim, Changed, Choice, Kind, Refit, Sized, ViewAsked
from tirante.core.parts.part import Misfit, Part
from tirante.core.parts.plate_eye import MODULUS
from tirante.core.parts.stands import Stand
from tirante.core.sheet.folded_u import SQUARE
from tirante.core.sheet.springback import by_elasticity, by_test
from tirante.core.units import STEEL_DENSITY

THICKEST = 8.0  # mm, that a shop’s brake folds; common practice, no source
S = TypeVar("S", bound=SavedPart)


def where_fields(of: type[SavedPart], wall: str) -> FieldGroup:
    """What it holds, and what it stands on.

    Args:
        of: the model of what is saved.
        wall: what the wall under it is called.
    """
    return FieldGroup(title="Where", fields=[
        special("joints", "It holds"), special("mount", "On which mount"), special("bolt_axis", "Bolt’s direction"), special("stands_on"),
        number(of, "wall_mm", wall, "mm", optional=True, empty="not known"),
    ])  # fmt: skip


def folding_fields(of: type[SavedPart], *more: Field) -> FieldGroup:
    """What the shop's own brake and test bend say.

    Args:
        of: the model of what is saved.
        more: of one family.
    """
    return FieldGroup(title="Folding", folded=True, note="from the shop’s own test bend, where it has one", fields=[
        number(of, "k_factor", "K, from the inside face", optional=True, empty="by DIN 6935"),
        number(of, "ratio", "Angle left, of the angle set", optional=True, empty="by elasticity"),
        number(of, "die_mm", "Die’s opening", "mm", optional=True, empty="8 thicknesses"), *more,
    ])  # fmt: skip


class EaredKind(Kind[S]):
    """A folded bracket with two ears."""

    station = "brackets"
    searched = True
    of_tubes = False
    has_room = True
    set_anew = TAB_PAIR.set_anew

    @abstractmethod
    def as_pair(self, saved: S) -> TabPair:
        """Its two ears as the pair of tabs that they are to joint, pin and plate."""

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

    @abstractmethod
    def footing(self, saved: S) -> Footing:
        """What its ears stand on."""

    def ear(self, saved: S) -> TabOutline:
        """The outline of either ear, as if it went down to what it stands on.

        Args:
            saved: as it is.
        """
        pair = self.as_pair(saved)
        return tab_outline(pair.head_radius.mm, pair.edge.mm, pair.base_width.mm, pair.height.mm, pair.hole.mm, pair.plate.mm)  # fmt: skip

    def own_fault(self, fault: Misfit) -> Misfit:
        """What is said of a pair of tabs, of a folded bracket.

        Args:
            fault: of the pair.
        """
        if fault.field == "base/kind":
            return Misfit(field="mount", message=f"A {self.word} stands on a flat, and this is a round tube, or a corner. Give it a flat mount, or make it a tab pair.")  # fmt: skip
        if fault.field == "base/lean_deg":
            return Misfit(field="mount", message="Its ears are square to its base, and here the bolt is not along the flat. Turn the bolt, give it another mount, or make it a tab pair.")  # fmt: skip
        return fault

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Its ears on a member that they stand on; what else there is its own kind draws."""
        if not asked.name.startswith("place"):
            return super().draw(part, asked, numbers)
        which = int(asked.name.removeprefix("place").removeprefix("-") or 1) - 1
        saved: S = part.saved  # type: ignore[assignment]
        return place_sheet(self.as_pair(saved), (self.ear(saved),), part.own.joints[which], part.own.stands[which], numbers)  # fmt: skip

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
        joints, held, stands = TAB_PAIR.to_size(self.as_pair(saved), around)
        found, tried = self._lightest(saved, joints, held, around.settings, shelf, stands)
        choice = self._choice(found, held, shelf) if found.fault is None else None
        told = f"{tried} plates, bases and bolts were tried (plates to {THICKEST:g} mm: common practice, no source)."
        if aim == "cost":
            told += " Plates have no price here: the lightest was searched for."
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
        past = TAB_PAIR.past(pair, stands, made[0].gap)
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
        for plate in (mm for mm in STOCK if mm <= THICKEST):
            for wider in FEET:
                for bolt in bolts_for(held[0].row, spacer_of(joints[0].spacer, shelf), shelf):
                    own = tuple(joint.model_copy(update={"bolt": bolt.key}) for joint in joints)
                    made = _made(own, held, shelf)
                    for one in self.proportioned(saved, made[0], plate, wider):
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
        return TAB_PAIR.past(self.as_pair(one), stands, made[0].gap) or Refit(parts=(one,), joints=own, checks=checks)

    def _choice(self, found: Refit, held: Sequence[HeldEnd], shelf: Catalogue) -> Choice:
        one: S = found.parts[0]  # type: ignore[assignment]
        pair, made = self.as_pair(one), _made(found.joints, held, shelf)
        stock = f"{pair.plate.mm:g} mm plate"
        return Choice(
            parts=found.parts, joints=found.joints, tube=stock, grade=pair.grade_name, joint=None, stock=(stock, pair.grade_name),
            mass=self.area(one, made[0].gap) * pair.plate.mm * len(made) * STEEL_DENSITY, worst=found.checks[0] if found.checks else None,
        )  # fmt: skip


def ears(saved: Any, **more: Any) -> TabPair:
    """The two ears of a folded bracket as the pair of tabs that they are to joint, pin and plate, on a flat.

    Args:
        saved: as it is.
        more: of the pair.
    """
    return TabPair(
        id=saved.id, name=saved.name, side=saved.side, note=saved.note, plate=saved.plate, grade_name=saved.grade_name, yield_mpa=saved.yield_mpa,
        uts_mpa=saved.uts_mpa, hole=saved.hole, head_radius=saved.head_radius, edge=saved.edge, base_width=saved.base_width, height=saved.height,
        height_fixed=saved.height_fixed, base=FlatBase(wall_mm=saved.wall_mm), load_angle_deg=saved.load_angle_deg, **more,
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


def set_angle(saved: Any) -> float | None:
    """To which a bend is bent so that a right angle is left [°]; None where the plate would spring back flat.

    Args:
        saved: the folded bracket.
    """
    if saved.ratio is not None:
        return degrees(by_test(SQUARE, SQUARE, SQUARE * saved.ratio).angle)
    try:
        return degrees(by_elasticity(saved.plate.mm, saved.radius_mm, SQUARE, saved.yield_mpa, MODULUS).angle)
    except NoSolution:
        return None


def _made(joints: Sequence[HeldJoint], held: Sequence[HeldEnd], shelf: Catalogue) -> list[JointMade]:
    return [
        JointMade(joint=j, held=h, bolt=bolt_of(j.bolt, shelf), spacer=spacer_of(j.spacer, shelf))
        for j, h in zip(joints, held, strict=True)
    ]
