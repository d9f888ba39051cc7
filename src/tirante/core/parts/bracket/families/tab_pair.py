"""The tab pair: two plates that hold a joint in double shear, on a flat or square across a tube; one pair for each joint it holds."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from tirante.core.brackets.lug import lug_strength
from tirante.core.checks.kinds import kind_of as check_kind
from tirante.core.checks.result import CheckResult, weaker_of_each, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue, Eye, bolt_fits, spacer_fits
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, choice, number, special, switch
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.bracket import (
    ArcOfHoles,
    CornerBase,
    GridOfHoles,
    Lighten,
    RowOfHoles,
    SaddleBase,
    SpreadPlate,
    TabPair,
)
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError, NotApplicable
from tirante.core.loads.case_seen import NotCarried
from tirante.core.notch.hole_saw import CLOSE
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.drawn import fits_itself
from tirante.core.parts.bracket.families.extra import EXTRA_FIELDS, extra_faults, extra_lines
from tirante.core.parts.bracket.families.held import (
    IN_A_FORK,
    NO_CLEVIS,
    UNLIKE,
    go_in,
    joint_made,
    leaning_told,
    leans_too_far,
)
from tirante.core.parts.bracket.families.hole_pattern import (
    SPACING,
    holes_of,
    least_pitch,
    slot_line,
    slot_run,
    slotted,
)
from tirante.core.parts.bracket.families.lightened import LIGHTEN_FIELDS, lighten_faults, lighter_lines
from tirante.core.parts.bracket.families.place_view import place_sheet
from tirante.core.parts.bracket.families.spread_plate import (
    SPREAD,
    least_spread,
    plug_misfit,
    spread_flat,
    spread_piece,
    spread_told,
)
from tirante.core.parts.bracket.families.strip import (
    gap_told,
    strip_faults,
    strip_flat,
    strip_lines,
    strip_of,
    strip_piece,
    strip_sheet,
    strip_views,
)
from tirante.core.parts.bracket.families.tab_checks import (
    NOT_CHECKED,
    PLATES,
    lug_of,
    weld_told,
)
from tirante.core.parts.bracket.families.tab_fields import (
    BOLT_FIELDS,
    MOUNT_FIELDS,
    PLATE_FIELDS,
    STANDS_FIELDS,
    bevel_faults,
    corner_faults,
    hole_lines_cut,
    metal_fields,
    ream_faults,
    ream_fields,
    shape_faults,
)
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.bracket.families.tab_sizing import (
    FEET,
    PLATES_AND_FEET,
    STOCK,
    bolt_of,
    bolts_for,
    choice_of,
    lightest_pair,
    outlines_of,
    pair_checks,
    proportioned,
    rounded_up,
    spacer_of,
    walls_of,
)
from tirante.core.parts.bracket.families.tab_told import flat_told, hole_lines, place_views, unlike_lines, where_lines
from tirante.core.parts.bracket.families.tab_view import tab_flat, tab_sheet
from tirante.core.parts.bracket.families.wall_checks import fits_on, wall_checks, wall_of
from tirante.core.parts.feet import too_near
from tirante.core.parts.joint import HeldEnd, JointMade, hardware_of, misfits
from tirante.core.parts.kind import Aim, Changed, Kind, Refit, Sized, ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View
from tirante.core.parts.stands import Stand, fitted_on, plate_names, right_side_lacks, stands_true


class TabOwn(Out):
    """What only a tab pair has [mm]."""

    kind: Literal["tab_pair"] = "tab_pair"
    gap_mm: float
    grip_mm: float
    plates: int
    area_mm2: float
    holds: list[str]
    tilt_limit_deg: float | None
    warnings: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class TabMade:
    """A tab pair with its outline and the joints it holds."""

    outlines: tuple[TabOutline, ...]  # of both plates where they differ
    names: tuple[str, ...]  # what they are called then
    joints: tuple[JointMade, ...]
    inside: bool  # whether a torch lays fillets between its plates
    stands: tuple[Stand | None, ...]  # of each joint, on the member of the car that it is given

    @property
    def outline(self) -> TabOutline:
        """Of the first plate."""
        return self.outlines[0]


class TabPairKind(Kind[TabPair]):
    """Tab pairs."""

    key = "tab_pair"
    word = "tab pair"
    station = "brackets"
    saved = TabPair
    searched = True
    searches = "Plates of the usual thicknesses, feet from as wide as the head to nearly twice that, and every bolt that goes through are judged against all checks."
    of_tubes = False
    has_room = True
    set_anew = "Its plates are as they were cut, and stand elsewhere now, as the lengths say: if they are welded on already, take them off, or make them anew."
    own = TabOwn
    fields = (
        FieldGroup(title="Where", fields=[
            special("joints", "It holds"),
            choice("base/kind", "It stands on", [("flat", "a flat"), ("saddle", "a round tube"), ("corner", "a box’s corner")]),
            *STANDS_FIELDS,
            number(SaddleBase, "offset_mm", "Bolt beside the foot’s middle, across", "mm", at="base/", only="base/kind=saddle"),
            number(CornerBase, "turned_deg", "Corner’s middle line from the tab’s axis", "°", at="base/", only="base/kind=corner"),
            *MOUNT_FIELDS,
        ]),
        FieldGroup(title="Plate", fields=[
            Field(path="plate", label="Thickness", control="length"),
            Field(path="hole", label="Hole", control="length"),
            *ream_fields(TabPair),
            *PLATE_FIELDS,
            Field(path="strip", label="two from a strip of flat bar, by one hole-saw cut", control="switch", only="base/kind=saddle"),
            special("drawn", "An outline of your own"),
            *metal_fields(TabPair),
        ]),
        FieldGroup(title="More holes, or a slot", of="holes", switch="an adjustable mount: several holes, or a slot", note="the plate stays, the joint goes from hole to hole, or along the slot", fields=[
            choice("holes/kind", "They stand", [("row", "in a row"), ("arc", "on an arc about a pivot"), ("grid", "in columns and rows")]),
            number(RowOfHoles, "count", "How many", at="holes/", only="holes/kind=row"),
            number(RowOfHoles, "pitch_mm", "From hole to hole", "mm", at="holes/", only="holes/kind=row"),
            number(RowOfHoles, "angle_deg", "The row, from along the foot", "°", at="holes/", only="holes/kind=row"),
            switch("holes/slotted", "a slot: cut through from the first to the last", only="holes/kind=row|arc"),
            number(ArcOfHoles, "count", "How many", at="holes/", only="holes/kind=arc"),
            number(ArcOfHoles, "radius_mm", "Pivot to hole", "mm", at="holes/", only="holes/kind=arc"),
            number(ArcOfHoles, "toward_deg", "First hole to pivot, from along the foot", "°", at="holes/", only="holes/kind=arc"),
            number(ArcOfHoles, "step_deg", "From hole to hole, about it", "°", at="holes/", only="holes/kind=arc"),
            number(GridOfHoles, "columns", "Columns", at="holes/", only="holes/kind=grid"),
            number(GridOfHoles, "rows", "Rows", at="holes/", only="holes/kind=grid"),
            number(GridOfHoles, "across_mm", "Column to column", "mm", at="holes/", only="holes/kind=grid"),
            number(GridOfHoles, "up_mm", "Row to row", "mm", at="holes/", only="holes/kind=grid"),
        ]),
        LIGHTEN_FIELDS,
        EXTRA_FIELDS,
        FieldGroup(title="The joint", fields=[number(TabPair, "in_hole", "It is in hole, or at place", only="holes/kind=row|arc|grid")]),
        BOLT_FIELDS,
        FieldGroup(title="Spread plate", of="spread", switch="a spread plate between feet and wall", fields=[
            Field(path="spread/thickness", label="Its thickness", control="length"),
            number(SpreadPlate, "beyond_mm", "Beyond the feet, all round", "mm", at="spread/"),
            number(SpreadPlate, "plug_mm", "Holes for plug welds", "mm", at="spread/", optional=True, empty="none"),
        ]),
        FieldGroup(title="Load and weld", fields=[
            number(TabPair, "load_angle_deg", "Pull from the tab’s axis, at ride height", "°", optional=True, empty="not known: every way"),
            number(TabPair, "weld_leg_mm", "Fillet leg", "mm"),
            number(TabPair, "bevel_mm", "Outer edge of the foot bevelled at 45°, deep; 0: square", "mm"),
        ]),
    )  # fmt: skip

    def begins(self, saved: TabPair) -> dict[str, Any]:
        """What it stands on when that is changed."""
        wall = saved.base.wall_mm
        return {
            "lighten": Lighten().model_dump(),
            "spread": SpreadPlate(thickness=Length(mm=max(3.0, saved.plate.mm))).model_dump(),
            "holes": RowOfHoles(pitch_mm=rounded_up(2.7 * saved.hole.mm, 1.0)).model_dump(),
            "holes/kind=row": RowOfHoles(pitch_mm=rounded_up(2.7 * saved.hole.mm, 1.0)).model_dump(),
            "holes/kind=arc": ArcOfHoles().model_dump(),
            "holes/kind=grid": GridOfHoles(across_mm=rounded_up(2.7 * saved.hole.mm, 1.0), up_mm=rounded_up(2.7 * saved.hole.mm, 1.0)).model_dump(),
            "base/kind=flat": {"kind": "flat", "lean_deg": 0.0, "wall_mm": wall},
            "base/kind=corner": {"kind": "corner", "turned_deg": 0.0, "wall_mm": wall},
            "base/kind=saddle": {"kind": "saddle", "tube_od": {"mm": 76.2, "typed": "3 in"}, "angle_deg": 90.0, "lean_deg": 0.0, "offset_mm": 0.0, "wall_mm": wall},
        }  # fmt: skip

    def joints_in(
        self, saved: TabPair, around: Around, shift: Callable[[float], float] | None = None
    ) -> tuple[list[JointMade], list[Stand | None], list[Misfit]]:
        """The joints that it holds worked out, where each stands on a mount, and what does not go together.

        Args:
            saved: the pair.
            around: the job.
            shift: of ears that are one with their base, by the gap between them: as of `stands_true`.
        """
        made, faults, on = [], [], []
        joints = around.held_by(saved.id)
        if not joints:
            faults.append(Misfit(field="joints", message="It holds nothing yet. Say which end it holds."))
        faults += [*ream_faults(saved.hole.mm, saved.ream_mm), *strip_faults(saved)]
        faults += [*corner_faults(saved), *bevel_faults(saved)]
        faults += [*lighten_faults(saved), *extra_faults(saved)]
        if slotted(saved) and saved.ream_mm > 0:
            faults.append(Misfit(field="ream_mm", message="A slot is not reamed. Cut it to size: leave nothing for the reamer."))  # fmt: skip
        if saved.drawn is not None:
            faults += fits_itself(saved)
        for joint in joints:
            stands = around.foot_of(joint)
            near = too_near(saved, stands[1]) if stands is not None and joint.mount is None else ()
            faults += near
            member = None if near else around.stand_of(joint)
            if isinstance(member, NotApplicable):
                faults.append(Misfit(field="mount", message=member.message))
            one = joint_made(joint, around)
            if isinstance(one, Misfit):
                faults.append(one)
                continue
            made.append(one)
            on.append(member if isinstance(member, Stand) else None)
            if isinstance(member, Stand):
                aside = shift(one.gap) if shift else None
                faults += stands_true(saved, member, one.gap, aside)
                faults += leans_too_far(one, member)
                past = fits_on(saved, one, member)
                plugs = plug_misfit(saved, one, member) if saved.spread and not past else ""
                if past or plugs:
                    faults.append(Misfit(field="spread" if past else "spread.plug_mm", message=past or plugs))
                outer = one.gap / 2 + saved.plate.mm
                lacks = (
                    right_side_lacks(member, saved.base_width.mm / 2, outer, aside or 0.0)
                    if saved.side == "pair"
                    else ""
                )
                if lacks:
                    faults.append(Misfit(field="mount", message=lacks))
        faults += go_in(made, saved.hole.mm)
        return made, on, faults

    def not_carried_by(self, saved: TabPair, around: Around) -> tuple[NotCarried, ...]:
        """Cases that what it holds should have seen: it has not seen them either."""
        held = [end for one in around.held_by(saved.id) if (end := around.held_end(one))]
        return tuple(dict.fromkeys(told for one in held for told in one.not_carried))

    def not_checked_of(self, saved: TabPair, around: Around) -> tuple[str, ...]:
        """What no check looks at: of any pair, and of what it holds."""
        held = [end for one in around.held_by(saved.id) if (end := around.held_end(one))]
        leaning = []
        for one in around.held_by(saved.id):
            member = around.stand_of(one)
            leaning += leaning_told(member) if isinstance(member, Stand) else []
        return tuple(
            dict.fromkeys(
                (
                    *NOT_CHECKED,
                    *self._walls(saved, around),
                    *leaning,
                    *(told for one in held for told in one.not_checked),
                )
            )
        )

    def _walls(self, saved: TabPair, around: Around) -> list[str]:
        """What of what it stands on is not judged."""
        told = []
        for joint in around.held_by(saved.id):
            member, foot = around.stand_of(joint), around.foot_of(joint)
            if isinstance(member, Stand):
                wall = wall_of(saved, member)
                told.append(
                    wall
                    if isinstance(wall, str)
                    else f"what else {member.mount.name} carries, and what is pulled along its skin"
                )
            elif foot is not None:
                told.append(f"the wall of {foot[0].name} under its feet")
            else:
                told.append("what it is welded to")
        return told or ["what it is welded to"]

    def depends(self, saved: TabPair, around: Around) -> str:
        """The joints that it holds, and what is held."""
        told = []
        for joint in around.held_by(saved.id):
            held = around.held_end(joint)
            stands, member = around.foot_of(joint), around.stand_of(joint)
            where = (
                f"{member.mount.model_dump_json()} {member.at.key}"
                if isinstance(member, Stand)
                else member and member.message
            )
            told.append(
                f"{where} {stands and (stands[0].name, stands[1])} {joint.model_dump_json()} {held.row.hash if held else ''} {held.fork if held else ''} {held.cases if held else ''} {held.not_checked if held else ''} {held.swing_deg if held else ''}"
            )
        return "|".join([*told, *map(repr, self.not_carried_by(saved, around))])

    def work_out(self, saved: TabPair, around: Around) -> Part:
        """Outline, checks at every joint that it holds, plates to cut, bolts beside."""
        made, stands, faults = self.joints_in(saved, around)
        outlines: tuple[TabOutline, ...] = ()
        checks: list[CheckResult] = []
        try:
            outlines = outlines_of(saved, made[0].gap if made else 0.0)
            if not faults:
                checks = [
                    check
                    for one, stand in zip(made, stands, strict=True)
                    for check in (
                        *pair_checks(saved, one, around.settings),
                        *wall_checks(saved, one, stand, around.settings),
                    )
                ]
        except (InputError, NotApplicable) as error:
            faults += shape_faults(error, **({"holes": "hole"} if saved.holes is None else {}))
        common: dict[str, Any] = {"saved": saved, "word": self.word, "not_checked": self.not_checked_of(saved, around), "not_carried": self.not_carried_by(saved, around),
                                  "made_of": (f"plate {saved.plate.mm:g} mm", saved.grade_name)}  # fmt: skip
        if faults or not outlines:
            return Part(**common, faults=tuple(faults))
        names = plate_names(stands[0]) if len(outlines) > 1 else ("",)
        pieces = tuple(
            _plate_piece(saved, name, outline, PLATES // len(outlines) * len(made))
            for name, outline in zip(names, outlines, strict=True)
        )
        beside: list[Piece] = [piece for one in made for piece in hardware_of(one, PLATES * saved.plate.mm)]
        if saved.strip:
            pieces = (strip_piece(saved, PLATES * len(made) // 2),)
        many = PLATES * len(made) * saved.count
        on = [(one, stand) for one, stand in zip(made, stands, strict=True) if stand is not None]
        if saved.spread is not None and on:
            pieces = (*pieces, spread_piece(saved, *on[0], len(on)))
        flats = tuple(
            View(name=f"tab-flat{f'-{i + 1}' if i else ''}", title=f"1:1 template{f', {name}' if name else ''}", cut=True, plate=name, told=flat_told(saved, name))
            for i, name in enumerate(names)
        ) if not saved.strip else strip_views()  # fmt: skip
        if saved.spread is not None and on:
            flats = (
                *flats,
                View(
                    name="spread-flat",
                    title="1:1 template, spread plate",
                    cut=True,
                    plate=SPREAD,
                    told=spread_told(saved, on[0][1]),
                ),
            )
        own = TabMade(
            outlines=outlines, names=names, joints=tuple(made), stands=tuple(stands), inside=made[0].gap >= around.settings.inside_fillet_gap_mm
        )  # fmt: skip
        return Part(
            **common, pieces=pieces, beside=tuple(beside), checks=weakest_first(weaker_of_each(checks)),
            mass=None, views=(View(name="tab", title="on its joint"), *place_views(stands), *flats),
            card=Card(
                figures=(Figure(label=f"Cut {many}, thickness", mm=saved.plate.mm, note=saved.grade_name),),
                lines=(
                    *hole_lines_cut(saved.hole.mm, saved.ream_mm, "centre-punched from the template"),
                    CardLine(text="foot to hole", mm=saved.height.mm),
                    CardLine(text="between the plates", mm=made[0].gap, strong=True),
                    *([CardLine(text="on a spread plate, welded all round first, thick", mm=saved.spread.thickness.mm, strong=True)] if saved.spread else []),
                    *([CardLine(text="outer edge of either foot bevelled at 45°, filled and covered by its fillet; deep", mm=saved.bevel_mm, strong=True)] if saved.bevel_mm else []),
                    *(strip_lines(saved) if saved.strip else []),
                    *unlike_lines(saved, made[0].gap, names),
                    *hole_lines(saved),
                    *lighter_lines(saved, outlines[0]),
                    *extra_lines(saved.extra),
                    CardLine(text=f"{made[0].bolt.label if made[0].bolt else 'bolt'}, grip", mm=made[0].gap + PLATES * saved.plate.mm),
                    *where_lines(made, stands, saved.side),
                ),
            ),
            notes=tuple(_warnings(saved, outlines, made, around.settings, stands)), own=own,
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """On its joint, or flat at 1:1."""
        saved, made = part.saved, part.own
        assert isinstance(saved, TabPair)
        assert isinstance(made, TabMade)
        if asked.name == "tab":
            return tab_sheet(
                saved, made.outline, made.joints, numbers, inside=made.inside, unlike=len(made.outlines) > 1
            )
        if asked.name.startswith("place"):
            which = int(asked.name.removeprefix("place").removeprefix("-") or 1) - 1
            stand = made.stands[which]
            assert stand
            return place_sheet(saved, made.outlines, made.joints[which], stand, numbers)
        if asked.name == "strip":
            return strip_sheet(saved, PLATES * len(made.joints) * saved.count // 2, numbers)
        if asked.name == "strip-flat":
            return strip_flat(saved)
        if asked.name == "spread-flat":
            stand = next(one for one in made.stands if one is not None)
            return spread_flat(saved, made.joints[0], stand)
        if asked.name == "tab-flat":
            return tab_flat(saved, made.outline)
        if asked.name == "tab-flat-2" and len(made.outlines) > 1:
            return tab_flat(saved, made.outlines[1], name=asked.name)
        return super().draw(part, asked, numbers)

    def told(self, part: Part) -> TabOwn | None:
        """Gap, grip and what to know of the shape."""
        saved, made = part.saved, part.own
        if not isinstance(saved, TabPair) or not isinstance(made, TabMade):
            return None
        first = made.joints[0]
        return TabOwn(
            gap_mm=first.gap, grip_mm=first.gap + PLATES * saved.plate.mm, plates=PLATES * len(made.joints),
            area_mm2=made.outline.contour.area, holds=[one.held.name for one in made.joints],
            tilt_limit_deg=min((d for one in made.joints if (d := one.tilt_limit_deg) is not None), default=None), warnings=list(part.notes),
        )  # fmt: skip

    def _row(self, saved: TabPair, around: Around) -> tuple[Eye | None, HeldJoint | None]:
        """The row of the first joint that is known, and that joint."""
        for joint in around.held_by(saved.id):
            held = around.held_end(joint)
            if held:
                return held.row, joint
        return None, None

    def offers(self, saved: TabPair, around: Around, shelf: Catalogue) -> dict[str, list[str]]:
        """Spacers for the ball, bolts through what is there."""
        row, joint = self._row(saved, around)
        if row is None or joint is None:
            return {"spacer": [], "bolt": []}
        spacers = [
            s
            for s in shelf.spacers
            if spacer_fits(s, row) and any(bolt_fits(b.diameter_mm, s.bolt_mm) for b in shelf.bolts)
        ]
        return {
            "spacer": [s.key for s in spacers],
            "bolt": [
                b.key
                for b in bolts_for(
                    row, spacer_of(joint.spacer, shelf) or spacer_of(joint.spacer, around.catalogue), shelf
                )
            ],
        }

    def choose(self, saved: TabPair, field: str, key: str | None, around: Around, shelf: Catalogue) -> Changed:
        """A spacer or bolt for every joint that it holds; another bolt asks for another hole, head and edge."""
        self.fits(self.offers(saved, around, shelf), field, key)
        row, _ = self._row(saved, around)
        joints = [joint.model_copy(update={field: key}) for joint in around.held_by(saved.id)]
        if row is None or not joints:
            return Changed(parts=(saved,), joints=tuple(joints))
        if field == "spacer":  # the bolt that goes through it follows
            fitting = [bolt.key for bolt in bolts_for(row, spacer_of(key, shelf), shelf)]
            kept = joints[0].bolt if joints[0].bolt in fitting else fitting[0] if fitting else None
            joints = [joint.model_copy(update={"bolt": kept}) for joint in joints]
        old = around.held_by(saved.id)[0].bolt
        bolt = bolt_of(joints[0].bolt, shelf)
        changed = saved
        if bolt and bolt.key != old:
            changed = saved.model_copy(update=proportioned(row, bolt, saved.plate.mm, saved))
        return Changed(parts=(changed,), joints=tuple(joints))

    def refit(
        self, saved: TabPair, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], settings: Settings, shelf: Catalogue,
        stands: Sequence[Stand] = (),
    ) -> Refit:  # fmt: skip
        """Least metal in plate and foot, then the lowest bolt class, that hold what would stand in it; the nearest where nothing does."""
        return lightest_pair(saved, joints, held, settings, shelf, stands)

    def to_size(
        self, saved: TabPair, around: Around, *, single: bool = False
    ) -> tuple[tuple[HeldJoint, ...], list[HeldEnd], list[Stand]]:
        """What a search is made for: the joints that it holds, what stands in each, and where it stands on mounts.

        Args:
            saved: as the user keeps it.
            around: the job.
            single: whether it is one plate between a clevis's ears.

        Raises:
            InputError: it cannot be searched, with the cure.
        """
        joints = around.held_by(saved.id)
        if not joints:
            raise InputError("It holds nothing yet. Say which end it holds.", code="missing", fields=("joints",))
        held = [end for joint in joints if (end := around.held_end(joint))]
        if len(held) < len(joints):
            raise InputError(
                "What it holds is not chosen yet: a joint of a part, or the sizes of an eye. Choose that first.",
                code="missing",
                fields=("joints",),
            )
        if any((end.fork is None) == single for end in held):
            raise InputError(NO_CLEVIS if single else IN_A_FORK, code="contradictory", fields=("joints",))
        if not any(case.resultant_n for end in held for case in end.cases):
            raise InputError(
                "No load case reaches what it holds, so nothing says what it must bear. Add one at Loads.",
                code="missing",
                fields=("loads",),
            )
        if len({(end.row.bore_mm, end.row.ball_width_mm) for end in held}) > 1:
            raise InputError(
                UNLIKE,
                code="contradictory",
                fields=("joints",),
            )
        found = [around.stand_of(joint) for joint in joints]
        why = next((one for one in found if isinstance(one, NotApplicable)), None)
        if why is not None:
            raise InputError(why.message, code=why.code, fields=("mount",))
        return joints, held, [one for one in found if isinstance(one, Stand)]

    def past(self, saved: TabPair, stands: Sequence[Stand], gap: float, shift: float | None = None) -> str:
        """Why it does not stand on its mounts; empty where it does.

        Args:
            saved: as it would be.
            stands: where.
            gap: between its plates [mm].
            shift: as of `stands_true`.
        """
        return next((fault.message for one in stands for fault in stands_true(saved, one, gap, shift)), "")

    def size(self, saved: TabPair, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The least metal in plates and feet, then the lowest bolt class, that holds all that it holds."""
        joints, held, stands = self.to_size(saved, around)
        refit = self.refit(saved, joints, held, around.settings, shelf, stands)
        told = f"Plates of {', '.join(f'{mm:g}' for mm in STOCK)} mm (common practice, no source), each with feet of {len(FEET)} widths and every bolt that goes through, were tried."
        if aim == "cost":
            told += " Plates have no price here: the lightest was searched for."
        tried = len(PLATES_AND_FEET) * max(1, len(bolts_for(held[0].row, spacer_of(joints[0].spacer, shelf), shelf)))
        choice = choice_of(refit, len(joints)) if refit.fault is None else None
        if choice is not None and refit.passed:
            return Sized(considered=tried, judged=tried, winner=choice, runner_up=None, nearest=None, advice=told)
        worst = refit.checks[0] if refit.checks else None
        reason = refit.fault or (
            f"None holds: {worst.name} is past its limit in the nearest. Its cure: {check_kind(worst.key).cure}."
            f"{f' Thicker plates were left out: {refit.left_out}' if refit.left_out else ''}"
            if worst
            else ""
        )
        return Sized(
            considered=tried, judged=tried, winner=None, runner_up=None, nearest=choice, advice=f"{reason} {told}"
        )

    def judged_with(
        self, saved: TabPair, joints: Sequence[HeldJoint], held: Sequence[HeldEnd], settings: Settings, shelf: Catalogue,
        stands: Sequence[Stand] = (),
    ) -> Refit:  # fmt: skip
        """As it stands, with what would be in it: for a bracket that holds other parts too, which nothing changes."""
        made = [
            JointMade(joint=j, held=h, bolt=bolt_of(j.bolt, shelf), spacer=spacer_of(j.spacer, shelf))
            for j, h in zip(joints, held, strict=True)
        ]
        faults = [fault.message for one in made for fault in misfits(one, saved.hole.mm)]
        faults += [fault.message for one in stands for fault in stands_true(saved, one, made[0].gap)]
        if faults:
            return Refit(parts=(), joints=(), checks=(), fault=f"{saved.name}: {faults[0]}")
        found = weaker_of_each([check for one in made for check in pair_checks(saved, one, settings)])
        return Refit(parts=(), joints=(), checks=weakest_first([*found, *walls_of(saved, made, stands, settings)]))


def _plate_piece(tab: TabPair, name: str, outline: TabOutline, count: int) -> PlatePiece:
    low, high = outline.contour.bounds[:2], outline.contour.bounds[2:]
    holes, line = len(holes_of(tab)) if tab.drawn is None else len(outline.contour.holes), slot_line(tab)
    lighter = f", lightening hole {outline.contour.holes[-1].diameter:g} mm" if tab.lighten else ""
    lighter += f", {len(tab.extra)} more {'holes' if len(tab.extra) > 1 else 'hole'}" if tab.extra else ""
    reamed = f", cut {tab.hole.mm - tab.ream_mm:g} mm, reamed after welding" if tab.ream_mm else ""
    return PlatePiece(
        name=name, material=tab.grade_name, thickness=tab.plate.mm, length=high[1] - low[1], width=high[0] - low[0],
        outline=outline.contour.under(tab.ream_mm, len(holes_of(tab))), told=f"{f'{holes} holes' if holes > 1 else 'hole'} {tab.hole.mm:g} mm{reamed}{lighter}" if line is None else f"slot {tab.hole.mm:g} mm wide, {slot_run(line):.1f} mm from middle to middle", count=count, sort="tab",
    )  # fmt: skip


def _warnings(
    tab: TabPair, outlines: Sequence[TabOutline], made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand | None]
) -> list[str]:  # fmt: skip
    warnings = list(dict.fromkeys(told for one in outlines for told in one.warnings))
    wall = tab.base.wall_mm
    judged = bool(stands) and all(one is not None and not isinstance(wall_of(tab, one), str) for one in stands)
    if wall is not None and wall < tab.plate.mm and not judged:
        warnings.append(
            f"what it is welded to is {wall:g} mm, thinner than the plate{'' if tab.corner else ': weld a spread plate under the feet'}"
        )
    for one, stand in zip(made, stands, strict=True):
        if stand is None or tab.spread is not None or all(c.passed for c in wall_checks(tab, one, stand, settings)):
            continue
        name, found = stand.mount.name, least_spread(tab, one, stand, settings)
        warnings.append(
            f"the wall of {name} gives under the feet, and under every spread plate that was tried: give it another mount"
            if found is None
            else f"the wall of {name} gives under the feet: a spread plate of {found.thickness.mm:g} mm, {found.beyond_mm:g} mm beyond the feet all round, holds (tried)"
        )
    places, bolt_ = holes_of(tab), made[0].bolt
    pitch = None if slotted(tab) else least_pitch(places)
    if pitch is not None and bolt_ and pitch < SPACING * bolt_.diameter_mm:
        warnings.append(
            f"holes {pitch:.1f} mm apart, less than 2⅔ bolts, {SPACING * bolt_.diameter_mm:.1f} mm (AISC J3.3, a rule of detailing)"
        )
    if tab.strip and strip_of(tab).gap > CLOSE:
        warnings.append(f"its strip: {gap_told(strip_of(tab))}")
    told = weld_told(tab, made[0].gap, settings)
    if told:
        warnings.append(f"its fillets: {told}")
    if any(one.joint.thread_in_plane for one in made):
        warnings.append("the bolt's thread stands in the shear plane: use a longer grip")
    bolt = made[0].bolt
    if bolt and not lug_strength(lug_of(tab, bolt.diameter_mm), tab.yield_mpa, tab.uts_mpa).extension_ok:
        warnings.append(
            "short of metal beyond the hole (AISC D5.2, a rule of detailing): a larger edge distance clears it"
        )
    return warnings


TAB_PAIR = TabPairKind()


def fitted_to(pair: TabPair, joint: HeldJoint, around: Around) -> TabPair:
    """A pair of tabs cut for the part of the job that it stands on; as it is where it stands on none.

    Args:
        pair: as it is saved.
        joint: that it holds.
        around: the job.
    """
    member = around.stand_of(joint)
    return fitted_on(pair, member) if isinstance(member, Stand) else pair


def proposed(
    part_id: str,
    name: str,
    side: Literal["left", "right", "pair", "centre"],
    held: HeldEnd,
    joint: HeldJoint,
    shelf: Catalogue,
) -> tuple[TabPair, HeldJoint]:
    """A tab pair for a joint that has none, proportioned to the first bolt that goes through it.

    Args:
        part_id: of the pair.
        name: of the pair.
        side: of what is held.
        held: what stands in it.
        joint: which end that is.
        shelf: the shop's catalogue.

    Raises:
        InputError: no bolt goes through it.
    """
    bolts = bolts_for(held.row, None, shelf)
    if not bolts:
        raise InputError(
            "No bolt in the catalogue goes through this joint. Add one.", code="no_solution", fields=("bolt",)
        )
    plate = max(3.0, round(bolts[0].diameter_mm / 3.2))
    pair = TabPair(id=part_id, name=name[:80], side=side, **proportioned(held.row, bolts[0], float(plate)))
    return pair, joint.model_copy(update={"by": part_id, "bolt": bolts[0].key})
