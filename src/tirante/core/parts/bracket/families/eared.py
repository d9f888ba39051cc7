"""Folded brackets whose two ears hold a joint as a pair of tabs does: what they are asked alike, and how they are drawn on a member."""

from __future__ import annotations

from abc import abstractmethod
from math import degrees
from typing import Any, TypeVar

from tirante.core.checks.result import CheckResult
from tirante.core.document.forms.table import Field, FieldGroup, number, special
from tirante.core.document.parts.bracket import FlatBase, Lighten, TabPair
from tirante.core.document.parts.saved import SavedPart
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import NoSolution
from tirante.core.flat.contour import Hole
from tirante.core.parts.bracket.families.extra import extra_checks, in_ear, with_extra
from tirante.core.parts.bracket.families.footing import Footing
from tirante.core.parts.bracket.families.lightened import lightened_checks, lighter_in_ear, with_lightening
from tirante.core.parts.bracket.families.place_view import place_sheet
from tirante.core.parts.bracket.families.searched import SearchedBracket
from tirante.core.parts.bracket.families.tab_outline import TabOutline, tab_outline
from tirante.core.parts.joint import JointMade
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.part import Misfit, Part
from tirante.core.parts.plate_eye import MODULUS
from tirante.core.sheet.folded_u import SQUARE
from tirante.core.sheet.springback import by_elasticity, by_test

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


def folding_fields(of: type[SavedPart], *more: Field, die: bool = True) -> FieldGroup:
    """What the shop's own brake and test bend say.

    Args:
        of: the model of what is saved.
        more: of one family.
        die: whether it is bent on one.
    """
    return FieldGroup(title="Folding", folded=True, note="from the shop’s own test bend, where it has one", fields=[
        number(of, "k_factor", "K, from the inside face", optional=True, empty="by DIN 6935"),
        number(of, "ratio", "Angle left, of the angle set", optional=True, empty="by elasticity"),
        *([number(of, "die_mm", "Die’s opening", "mm", optional=True, empty="8 thicknesses")] if die else []), *more,
    ])  # fmt: skip


class HoledKind(SearchedBracket[S]):
    """A bracket whose ears may have further holes and a lightening hole."""

    ears_of_flat = 2  # that one flat has

    def ears(self, saved: S, gap: float) -> tuple[TabOutline, ...]:
        """The outlines of its ears, the one on the bolt's way first, as if they went down to what it stands on; one where both are alike.

        Args:
            saved: as it is.
            gap: between them [mm].
        """
        del gap
        pair = self.as_pair(saved)
        plain = (tab_outline(pair.head_radius.mm, pair.edge.mm, pair.base_width.mm, pair.height.mm, pair.hole.mm, pair.plate.mm),)  # fmt: skip
        return self.cut(saved, pair, plain)

    def cut(self, saved: S, pair: TabPair, plain: tuple[TabOutline, ...]) -> tuple[TabOutline, ...]:
        """Ears with their further holes and their lightening hole.

        Args:
            saved: as it is.
            pair: its ears.
            plain: these without.
        """
        low = self.lowest(saved)
        return with_lightening(pair, with_extra(pair, plain, low), low)

    def on_foot(self, saved: S, gap: float) -> tuple[TabOutline, ...]:
        """Its ears counted from what its height is counted from.

        Args:
            saved: as it is.
            gap: between them [mm].
        """
        return self.ears(saved, gap)

    def more_holes(self, saved: S, gap: float, at: float) -> tuple[Hole, ...]:
        """In its flat, that of ears along x: further holes and lightening holes.

        Args:
            saved: as it is.
            gap: between them [mm].
            at: of either joint's hole in the flat, from the middle [mm].

        Raises:
            InputError: one may not be where it is.
        """
        pair = self.as_pair(saved)
        if not pair.extra and pair.lighten is None:
            return ()
        ways = (1.0, -1.0)[: self.ears_of_flat]
        found = [*in_ear(pair, at, ways), *lighter_in_ear(pair, self.on_foot(saved, gap), at, ways)]
        return tuple(Hole(*one) for one in found)

    def holed_checks(self, saved: S, made: JointMade, settings: Settings) -> list[CheckResult]:
        """What is left of its ears across their further holes and beside the lightening hole.

        Args:
            saved: as it is.
            made: the joint.
            settings: factors.
        """
        pair = self.as_pair(saved)
        if not pair.extra and pair.lighten is None:
            return []
        lighter = lightened_checks(pair, made, self.on_foot(saved, made.gap), settings, self.lowest(saved))
        return [*lighter, *extra_checks(pair, made, self.ears(saved, made.gap), settings)]

    def begins(self, saved: S) -> dict[str, Any]:
        """What its lightening hole is when it is switched on."""
        return {"lighten": Lighten().model_dump()} if "lighten" in type(saved).model_fields else {}

    def lowest(self, saved: S) -> float:
        """Under which no further hole of an ear may reach, over what its height is counted from [mm].

        Args:
            saved: as it is.
        """
        del saved
        return 0.0


class EaredKind(HoledKind[S]):
    """A folded bracket with two ears."""

    has_room = True

    @abstractmethod
    def footing(self, saved: S) -> Footing:
        """What its ears stand on."""

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
        made = part.own.joints[which]
        return place_sheet(self.as_pair(saved), self.ears(saved, made.gap), made, part.own.stands[which], numbers, self.footing(saved))  # fmt: skip


def ears(saved: Any, **more: Any) -> TabPair:
    """The two ears of a folded bracket as the pair of tabs that they are to joint, pin and plate, on a flat.

    Args:
        saved: as it is.
        more: of the pair.
    """
    return TabPair(
        id=saved.id, name=saved.name, side=saved.side, note=saved.note, plate=saved.plate, grade_name=saved.grade_name, yield_mpa=saved.yield_mpa,
        uts_mpa=saved.uts_mpa, hole=saved.hole, head_radius=saved.head_radius, edge=saved.edge, base_width=saved.base_width, height=saved.height,
        height_fixed=saved.height_fixed, base=FlatBase(wall_mm=saved.wall_mm), load_angle_deg=saved.load_angle_deg, extra=getattr(saved, "extra", ()),
        lighten=getattr(saved, "lighten", None), **more,
    )  # fmt: skip


def thinner_leg(saved: Any) -> float:
    """Of fillets along a plate that lies on what it is welded to: no more than the thinner of plate and wall [mm].

    Args:
        saved: the bracket.
    """
    return float(min(saved.weld_leg_mm, saved.plate.mm, saved.wall_mm or saved.plate.mm))


def set_angle(saved: Any, angle: float = SQUARE) -> float | None:
    """To which a bend is bent so that an angle is left, a right one by itself [°]; None where the plate would spring back flat.

    Args:
        saved: the folded bracket.
        angle: that is to be left [rad].
    """
    if saved.ratio is not None:
        return degrees(by_test(angle, angle, angle * saved.ratio).angle)
    try:
        return degrees(by_elasticity(saved.plate.mm, saved.radius_mm, angle, saved.yield_mpa, MODULUS).angle)
    except NoSolution:
        return None
