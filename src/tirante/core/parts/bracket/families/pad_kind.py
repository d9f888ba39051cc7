"""Pads on two webs as kinds of part: what they are asked alike, how they are worked out, drawn and searched for."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import floor, pi
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.mount_wall import Spread, Wall
from tirante.core.brackets.tools import Fillet, Hexagon, WayOut
from tirante.core.checks.result import CheckResult, weakest_first
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.forms.table import Field, FieldGroup, number, special
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.bracket import Lighten
from tirante.core.document.parts.pad import PadPart
from tirante.core.document.settings import Settings
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour
from tirante.core.loads.case_seen import NotCarried
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.bracket.families.lightened import LIGHTEN_FIELDS
from tirante.core.parts.bracket.families.pad import (
    WELD_ROOM,
    Flat,
    PadCase,
    PadShape,
    pad_card,
    pad_outline,
    pad_sheet,
    shaped,
    web_outline,
)
from tirante.core.parts.bracket.families.pad_holes import LiesOn, extra_in_plate, pad_hole_lines, with_holes
from tirante.core.parts.bracket.families.pad_spread import (
    pad_spread_flat,
    pad_spread_piece,
    pad_spreads,
    raised,
    spread_misfit,
)
from tirante.core.parts.bracket.families.pad_under import Under, under_part
from tirante.core.parts.bracket.families.pad_wall import pad_wall_checks, wall_under
from tirante.core.parts.bracket.families.spread_plate import SPREAD
from tirante.core.parts.kind import Aim, Choice, Kind, Sized, ViewAsked
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.part import BoughtPiece, Card, Misfit, Part, Piece, PlatePiece, TurnedPiece, View
from tirante.core.parts.plates import thinnest
from tirante.core.parts.stands import At
from tirante.core.parts.turned import turned_views
from tirante.core.units import STEEL_DENSITY

Array = NDArray[np.float64]
S = TypeVar("S", bound=PadPart)
SHORTEST = 40.0  # mm, of a pad that is proposed
FITS = 12  # changes of its webs that are tried
WALLS = {"mount_wall", "mount_shear"}


@dataclass(frozen=True, slots=True, kw_only=True)
class PadMade:
    """A pad with its core objects."""

    shape: PadShape
    cases: tuple[PadCase, ...]
    left_out: tuple[NotCarried, ...]

    @property
    def flats(self) -> tuple[Flat, ...]:
        """Plate and webs as they stand in the car, and after them what else it has."""
        return self.shape.flats

    @property
    def fillets(self) -> tuple[Fillet, ...]:
        """Along the outer feet of both webs."""
        return self.shape.fillets

    @property
    def hexagons(self) -> tuple[tuple[str, Hexagon], ...]:
        """Nuts that a spanner must turn on, alike ones under one name; none where nothing is bolted."""
        return ()

    @property
    def ways(self) -> tuple[tuple[str, tuple[WayOut, ...]], ...]:
        """Bolts through it, alike ones under one name, each with the ways that it may be put in; none where there are none of its own."""
        return ()


def pad_fields(of: type[PadPart], long: str = "Long, along what it stands on") -> tuple[FieldGroup, ...]:
    """What every pad is asked.

    Args:
        of: the model of what is saved.
        long: what its length is called.
    """
    return (
        FieldGroup(title="Pad", note="Size it chooses how thick", fields=[
            number(of, "plate_mm", "Plate", "mm"), number(of, "length_mm", long, "mm"),
            number(of, "width_mm", "Wide", "mm"), number(of, "corner_mm", "Corners, radius; 0: sharp", "mm"), Field(path="plate_name", label="Steel", control="text"),
            number(of, "yield_mpa", "Yield", "MPa"), number(of, "uts_mpa", "Ultimate", "MPa"),
        ]),
        FieldGroup(title="Webs", fields=[
            number(of, "web_mm", "Thick", "mm"), number(of, "apart_mm", "Apart, middle to middle", "mm"),
            number(of, "leg_mm", "Fillet leg at their feet, outside", "mm"),
            number(of, "spread_mm", "Spread plate under them", "mm", optional=True, empty="none"),
            number(of, "beyond_mm", "It reaches beyond the webs, all round", "mm"),
        ]),
        FieldGroup(title="Lightening hole", of="lighten", switch="a hole in either web, to save weight", fields=LIGHTEN_FIELDS.fields),
        FieldGroup(title="Holes for something else", note="in its plate: a clip, a lamp", fields=[special("extra", "Holes for something else")]),
        FieldGroup(title="What it stands on", note="on an arm’s tube or a mount both sizes come of that; on a box of an arm, or on what is not entered, they are typed", fields=[
            special("mount", "On which mount"),
            number(of, "height_mm", "Its face over what it stands on", "mm"),
            number(of, "tube_od_mm", "Tube that it stands on", "mm", optional=True, empty="a flat"),
        ]),
    )  # fmt: skip


class PadKind(Kind[S]):
    """A kind of pad: its face, what comes on it, and what it is judged for beside its webs."""

    station = "brackets"
    searched = True
    has_room = True
    of_tubes = False
    searches = "Every usual plate is judged against all checks, pad and webs of one thickness, on a spread plate where the wall alone gives; its other sizes stay as they are."
    not_checked: tuple[str, ...]
    unloaded: str  # what is told where no case comes on it
    no_case: str  # and what is asked for when it is to be sized

    @abstractmethod
    def begun(self, part_id: str, of: str, held: PointOfBody, owner: str) -> S:
        """A new one for a place.

        Args:
            part_id: of it.
            of: what comes on it, in words.
            held: the place.
            owner: id of the part or the end whose place that is.
        """

    @abstractmethod
    def placed(
        self, saved: S, around: Around, at: At | None, joint: HeldJoint | None
    ) -> tuple[Array, float, Under, Array] | Misfit:
        """Its face's way (3), the radius that what presses is spread over [mm], what its webs stand on where that is no part of the job, and its face's middle (3).

        Args:
            saved: as it is.
            around: the job.
            at: of its joint; None: not known.
            joint: that it holds; None: none.
        """

    @abstractmethod
    def made(self, saved: S, around: Around) -> PadMade | Misfit:
        """It with every case, or what stands in the way.

        Args:
            saved: as it is.
            around: the job.

        Raises:
            InputError: its end cannot be put together.
        """

    @abstractmethod
    def judged(self, saved: S, made: PadMade, settings: Settings) -> Sequence[CheckResult]:
        """All its checks; at least one case is there.

        Args:
            saved: as it is.
            made: with its cases.
            settings: factors, electrode.
        """

    def unlooked(self, saved: S, around: Around) -> tuple[str, ...]:
        """What no check looks at."""
        del saved, around
        return self.not_checked

    def outline(self, saved: S, made: PadMade) -> Contour:
        """Of its plate."""
        del made
        return pad_outline(saved)

    @abstractmethod
    def on_it(self, saved: S, made: PadMade) -> LiesOn:
        """What lies or strikes on its plate.

        Args:
            saved: as it is.
            made: with its cases.
        """

    def holed(self, saved: S, made: PadMade) -> Contour:
        """Of its plate, its further holes with its own.

        Args:
            saved: as it is.
            made: with its cases.
        """
        found = self.outline(saved, made)
        return replace(found, holes=(*found.holes, *extra_in_plate(saved)))

    def begins(self, saved: S) -> dict[str, Any]:
        """What its lightening hole is when it is switched on."""
        del saved
        return {"lighten": Lighten().model_dump()}

    def goes_with(self, saved: S, made: PadMade) -> tuple[tuple[Piece, ...], tuple[BoughtPiece, ...]]:
        """What it has beside pad and webs, and what is bought with it."""
        del saved, made
        return (), ()

    def more_notes(self, saved: S, made: PadMade) -> tuple[str, ...]:
        """What else is to be said of it."""
        del saved, made
        return ()

    def more_views(self, saved: S) -> dict[str, tuple[View, Callable[[PadMade], Contour]]]:
        """Views of those plates at 1:1, by name."""
        del saved
        return {}

    def card(self, saved: S, made: PadMade) -> Card:
        """What the bench needs."""
        return pad_card(saved, made.shape, pad_hole_lines(saved, made.shape))

    def sheet(self, saved: S, made: PadMade, numbers: Numbers) -> Drawing:
        """From its side and seen along what it stands on."""
        return pad_sheet(saved, made.shape, numbers)[0].done()

    def faced(self, saved: S, around: Around) -> tuple[Array, float, Under, Array] | Misfit:
        """Its face, the radius that what presses is spread over, what it stands on, and its face's middle: the member that its joint is given, the tube of a part of
        the job, or what is typed.

        Args:
            saved: as it is.
            around: the job.
        """
        found = self._faced(saved, around)
        return found if isinstance(found, Misfit) else (*found[:2], raised(found[2], saved), found[3])

    def _faced(self, saved: S, around: Around) -> tuple[Array, float, Under, Array] | Misfit:
        for joint in around.held_by(saved.id):
            found = around.foot_of(joint)
            placed = self.placed(saved, around, around.at_of(joint), joint)
            if found is None or isinstance(placed, Misfit) or around.mount_of(joint) is not None:
                return placed
            face, radius, _, middle = placed
            under = under_part(found[1], found[0].name, saved, face)
            return under if isinstance(under, Misfit) else (face, radius, under, middle)
        return self.placed(saved, around, None, None)

    def pad_shape(self, saved: S, around: Around) -> PadShape | Misfit:
        """Over what it stands on.

        Args:
            saved: as it is.
            around: the job.
        """
        found = self.faced(saved, around)
        return found if isinstance(found, Misfit) else shaped(saved, *found)

    def depends(self, saved: S, around: Around) -> str:
        """Where it stands."""
        told = []
        for joint in around.held_by(saved.id):
            mount, at, found = around.mount_of(joint), around.at_of(joint), around.foot_of(joint)
            told.append(f"{joint.held} {mount and mount.model_dump_json()} {at and at.key} {found and (found[0].name, found[1])}")  # fmt: skip
        return "|".join(told)

    def work_out(self, saved: S, around: Around) -> Part:
        """The pad under every case that comes on it."""
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": self.unlooked(saved, around), "not_carried": not_carried(saved.of_end, around),
            "made_of": (f"{saved.plate_mm:g} mm plate", saved.plate_name),
        }  # fmt: skip
        try:
            made = self.made(saved, around)
            if isinstance(made, Misfit):
                return Part(**common, faults=(made,))
            made = replace(made, shape=with_holes(saved, made.shape, self.outline(saved, made), self.on_it(saved, made)))  # fmt: skip
            wall = self._wall(saved, made, around)
            lies = spread_misfit(saved, made.shape, wall)
            if lies is not None:
                return Part(**common, faults=(lies,))
            checks = [*self.judged(saved, made, around.settings)] if made.cases else []
            if made.cases and isinstance(wall, Wall):
                checks += pad_wall_checks(made.shape, wall, _spread(saved), made.cases, around.settings)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("",))[0], message=error.message),))
        common["not_carried"] += made.left_out
        common["not_checked"] += (wall,) if isinstance(wall, str) else ()
        webs, bored = made.shape.heights, made.shape.web_holes
        twins = max(abs(a - b) for a, b in zip(*webs, strict=True)) < 1e-6
        pieces: list[Piece] = [
            PlatePiece(name="pad", material=saved.plate_name, thickness=saved.plate_mm, length=saved.length_mm, width=saved.width_mm, outline=self.holed(saved, made), told=_holes_told(saved)),
            *(
                PlatePiece(name="web" if twins else name, material=saved.plate_name, thickness=saved.web_mm, length=saved.length_mm, width=max(web),
                           outline=web_outline(saved, web, holes), told=f"lightening hole {made.shape.pad.hole:g} mm" if holes else "", count=2 if twins else 1)
                for name, web, holes in (zip(("inner web", "outer web"), webs, bored, strict=True) if not twins else [("web", webs[0], bored[0])])
            ),
        ]  # fmt: skip
        if saved.spread_mm is not None:
            pieces.append(pad_spread_piece(saved, made.shape.od))
        plates, bought = self.goes_with(saved, made)
        pieces += plates
        mass = sum(map(_volume, pieces)) * STEEL_DENSITY
        return Part(
            **common, pieces=tuple(pieces), beside=bought, checks=weakest_first(checks), mass=mass, own_mirror=twins,
            views=(View(name="drawing", title="pad and webs"), View(name="pad", title="pad, 1:1", cut=True, plate="pad"), View(name="web-1", title="web, 1:1", cut=True, plate="web" if twins else "inner web"),
                   *(() if twins else (View(name="web-2", title="other web, 1:1", cut=True, plate="outer web"),)),
                   *turned_views(pieces), *(view for view, _ in self.more_views(saved).values()), *((View(name="spread-flat", title="spread plate, 1:1", cut=True, plate=SPREAD),) if saved.spread_mm is not None else ())),
            card=self.card(saved, made), notes=(*(() if made.cases else (self.unloaded,)), *self.more_notes(saved, made)),
            welding=(*(("Weld the spread plate to what it lies on first, all round.",) if saved.spread_mm is not None else ()), "Tack pad and webs on a flat, then stand them on the tube; weld outside, both feet in turn."), own=made,
        )  # fmt: skip

    def _wall(self, saved: S, made: PadMade, around: Around) -> Wall | str:
        mounts = [around.member_at(joint) for joint in around.held_by(saved.id)]
        return wall_under(mounts[0] if mounts else None, made.shape.stands[2])

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Pad and webs, or one of them at 1:1."""
        made, saved = part.own, part.saved
        if isinstance(made, PadMade) and isinstance(saved, self.saved):
            webs = [lambda i=i: web_outline(saved, made.shape.heights[i], made.shape.web_holes[i]) for i in (0, 1)]
            flats = {"pad": lambda: self.holed(saved, made), "web-1": webs[0], "web-2": webs[1]}
            flats |= {name: lambda of=of: of(made) for name, (_, of) in self.more_views(saved).items()}  # type: ignore[misc]
            if asked.name in flats:
                outline = flats[asked.name]()
                low_x, low_y, high_x, high_y = outline.bounds
                sheet = Sheet(name=asked.name, title=saved.name, width=high_x - low_x, height=high_y - low_y)
                draw_contour(sheet, Frame(-low_x, -low_y, 1.0), outline, "cut")
                return sheet.done()
            if asked.name == "spread-flat":
                return pad_spread_flat(saved, made.shape.od, asked.name)
            if asked.name == "drawing":
                return self.sheet(saved, made, numbers)
        return super().draw(part, asked, numbers)

    def fitted(self, saved: S, around: Around) -> S:
        """The same with its webs as far apart as the tube under them lets them stand, and as short as leaves metal in them; as it is where neither helps.

        Args:
            saved: as it is, its joint in the job.
            around: the job.
        """
        faced = self.faced(saved, around)
        if isinstance(faced, Misfit):
            return saved
        for _ in range(FITS):
            found = shaped(saved, *faced)
            if not isinstance(found, Misfit):
                break
            if found.field == "apart_mm" and faced[2].od is not None:
                saved = saved.model_copy(update={"apart_mm": float(floor(faced[2].od - saved.web_mm - WELD_ROOM))})
            elif found.field in ("length_mm", "mount") and saved.length_mm > SHORTEST:
                saved = saved.model_copy(update={"length_mm": saved.length_mm - 10.0})
            else:
                break
        return saved

    def _on_its_wall(self, saved: S, around: Around) -> tuple[S, Part]:
        """As it is; or, where nothing but the wall gives, on the least spread plate that it holds with."""
        worked = self.work_out(saved, around)
        if saved.spread_mm is not None or {one.key for one in worked.checks if not one.passed} - WALLS or all(one.passed for one in worked.checks):  # fmt: skip
            return saved, worked
        for one in pad_spreads(saved):
            tried = self.work_out(one, around)
            if tried.checks and all(check.passed for check in tried.checks):
                return one, tried
        return saved, worked

    def size(self, saved: S, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The thinnest plate, of pad and webs alike, that holds."""
        del shelf
        wall = prudent_for(around.settings, around.use, (), "").wall
        made = self.made(saved, around)
        if isinstance(made, Misfit):
            raise InputError(made.message, code="not_complete", fields=(made.field,))
        if not made.cases:
            raise InputError(self.no_case, code="missing", fields=("loads",))

        def make(mm: float) -> Choice:
            one, worked = self._on_its_wall(saved.model_copy(update={"plate_mm": mm, "web_mm": mm}), around)
            worst = worked.checks[0] if worked.checks else None
            return Choice(
                parts=(one,), joints=(), tube=f"{mm:g} mm plate", grade=one.plate_name, joint=None, stock=(f"{mm:g} mm plate", one.plate_name),
                mass=worked.mass or 0.0, worst=worst,
            )  # fmt: skip

        return thinnest(make, max(wall.value if wall else 0.0, 3.0), aim)


def _holes_told(saved: PadPart) -> str:
    """What its plate has further, in a few words."""
    many = len(saved.extra)
    return f"{many} more {'holes' if many > 1 else 'hole'}" if many else ""


def _volume(piece: Piece) -> float:
    """Of a plate or a turned piece [mm³]."""
    if isinstance(piece, PlatePiece):
        return piece.outline.area * piece.thickness * piece.count if piece.outline else 0.0
    of = piece.turned if isinstance(piece, TurnedPiece) else None
    return pi / 4 * (of.outside**2 - of.bore**2) * of.length if of else 0.0


def _spread(saved: PadPart) -> Spread | None:
    if saved.spread_mm is None:
        return None
    return Spread(thickness=saved.spread_mm, beyond=saved.beyond_mm, yield_mpa=saved.yield_mpa, uts_mpa=saved.uts_mpa)
