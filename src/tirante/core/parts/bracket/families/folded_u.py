"""The folded U: one plate bent twice, its base on a flat, its ears holding a joint in double shear as a pair of tabs does."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import atan, cos, degrees, radians, tan
from typing import Any, Literal

import numpy as np

from tirante.core.brackets.foot_weld import GROOVE_OF_RADIUS
from tirante.core.brackets.tools import Fillet, straight_fillet
from tirante.core.checks.result import CheckResult, weaker_of_each, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, number, switch
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.folded_u import BaseSlot, FoldedU
from tirante.core.document.settings import Settings
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import Edge
from tirante.core.members.insert_weld import THROAT_OF_LEG
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.base_slot import WITHIN, opening_of, require_slot
from tirante.core.parts.bracket.families.eared import (
    EaredKind,
    ears,
    folding_fields,
    set_angle,
    where_fields,
)
from tirante.core.parts.bracket.families.extra import EXTRA_FIELDS, extra_lines
from tirante.core.parts.bracket.families.footing import Footing
from tirante.core.parts.bracket.families.lightened import LIGHTEN_FIELDS, lighter_lines, more_told
from tirante.core.parts.bracket.families.searched import ears_become
from tirante.core.parts.bracket.families.tab_checks import Runs, tab_checks
from tirante.core.parts.bracket.families.tab_fields import (
    BOLT_FIELDS,
    hole_lines_cut,
    metal_fields,
    ream_faults,
    ream_fields,
    shape_faults,
)
from tirante.core.parts.bracket.families.tab_outline import TabOutline, Under, tab_outline
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import (
    USUAL_LEG,
    proportioned,
    walls_of,
)
from tirante.core.parts.bracket.families.tab_told import place_views
from tirante.core.parts.bracket.families.wall_checks import wall_checks
from tirante.core.parts.joint import JointMade, hardware_of
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View
from tirante.core.parts.stands import TRUE_DEG, Stand, fitted_on, set_out
from tirante.core.sheet import folded_u as sheet_u
from tirante.core.sheet.second_bend import USUAL_PUNCH, second_bend, second_bend_told
from tirante.core.units import STEEL_DENSITY

NOT_CHECKED = (
    "cracks at the bends: bent across the grain, at no less than the plate’s least radius",
    "what it is welded to",
)
LEAST_RADIUS = (
    1.0  # of the plate’s thickness, inside, across the grain, of the steels offered; common practice, no source
)


class FoldedOwn(Out):
    """What only a folded U has [mm, °]."""

    kind: Literal["folded_u"] = "folded_u"
    gap_mm: float
    flat_mm: float
    allowance_mm: float
    k_factor: float
    set_deg: float | None
    holds: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class FoldedMade:
    """A folded U with its flat and what it holds."""

    flat: sheet_u.FoldedU
    joints: tuple[JointMade, ...]
    stands: tuple[Stand | None, ...]
    set_deg: float | None  # to which either bend is bent under load; None: it springs back flat


def as_pair(saved: FoldedU) -> TabPair:
    """Its two ears as the pair of tabs that they are to joint, pin and plate.

    Args:
        saved: as it is.
    """
    return ears(saved, weld_leg_mm=counted_leg(saved))


def flat_of(saved: FoldedU, gap: float) -> sheet_u.FoldedU:
    """Its flat pattern for a gap.

    Raises:
        InputError, NotApplicable: with its own fields.
    """
    found = sheet_u.folded_u(
        gap, saved.plate.mm, saved.radius_mm, saved.base_width.mm, saved.height.mm, saved.head_radius.mm, saved.edge.mm, saved.hole.mm,
        saved.k_factor, saved.die_mm, radians(saved.skew_deg),
    )  # fmt: skip
    FOLDED_U.ears(saved, gap)  # where a hole may not be, it says so
    more = FOLDED_U.more_holes(saved, gap, found.hole_at)
    openings: tuple[tuple[Edge, ...], ...] = ()
    if saved.slot is not None:
        if saved.skew_deg:
            raise InputError("A skewed base takes no slot here. Take one of them off.", code="contradictory", fields=("slot",))  # fmt: skip
        require_slot(saved.slot, gap, (saved.base_width.mm, saved.plate.mm, saved.radius_mm))
        openings = (opening_of(saved.slot),)
    return replace(found, contour=replace(found.contour, holes=(*found.contour.holes, *more), openings=openings))


def shift_of(saved: FoldedU, gap: float) -> float:
    """How far the ear on the bolt's way stands along its bend from its hole, skewed; the other as far the other way [mm].

    Args:
        saved: as it is.
        gap: between its ears.
    """
    return (gap / 2 - saved.radius_mm) * tan(radians(saved.skew_deg))


def root_pair(saved: FoldedU, gap: float) -> TabPair:
    """Its ears as they are judged: skewed, no wider at the bend than what lies alike on both sides of the hole.

    Args:
        saved: as it is.
        gap: between its ears.
    """
    pair, shift = as_pair(saved), abs(shift_of(saved, gap))
    return pair if shift == 0 else pair.model_copy(update={"base_width": Length(mm=saved.base_width.mm - 2 * shift)})


def counted_leg(saved: FoldedU) -> float:
    """Leg of the right-angled fillet that is counted all round: the grooves under its bends have the lesser throat [mm].

    Args:
        saved: as it is.

    Source:
        AISC 360 Table J2.2, flare bevel groove filled flush: 5/16 of the outside radius (from memory).
    """
    return min(saved.weld_leg_mm, GROOVE_OF_RADIUS * (saved.radius_mm + saved.plate.mm) / THROAT_OF_LEG)


def welds(saved: FoldedU, gap: float) -> Runs:
    """All round its base: both straight edges, from bend to bend, and the grooves under the bends [mm].

    Args:
        saved: as it is.
        gap: between its ears.
    """
    half, reach = saved.base_width.mm / 2, gap / 2 - saved.radius_mm
    shift = shift_of(saved, gap)
    edges = [(way * half - shift, -reach, way * half + shift, reach) for way in (-1.0, 1.0)]
    return [*edges, *((way * shift - half, way * reach, way * shift + half, way * reach) for way in (-1.0, 1.0))]


class FoldedUKind(EaredKind[FoldedU]):
    """Folded U brackets."""

    key = "folded_u"
    word = "folded bracket"
    saved = FoldedU
    own = FoldedOwn
    searches = "Plates of the usual thicknesses that a brake folds, bases of several widths, and every bolt that goes through are judged against all checks."
    fields = (
        where_fields(FoldedU, "Wall it is welded to"),
        FieldGroup(title="Plate", fields=[
            Field(path="plate", label="Thickness", control="length"),
            number(FoldedU, "radius_mm", "Bends, inside radius", "mm"),
            Field(path="hole", label="Hole", control="length"),
            *ream_fields(FoldedU),
            Field(path="head_radius", label="Head radius", control="length"),
            Field(path="edge", label="Hole to free end", control="length"),
            Field(path="base_width", label="Base, along the bends", control="length"),
            switch("follows", "its base lies along the member’s edges: a parallelogram"),
            number(FoldedU, "skew_deg", "Base’s free edges, from square to its bends", "°"),
            Field(path="height", label="Base’s outer face to hole", control="length"),
            switch("height_fixed", "its height is given: sizing keeps it"),
            *metal_fields(FoldedU),
        ]),
        folding_fields(FoldedU, number(FoldedU, "punch_mm", "Straight punch, how thick", "mm", optional=True, empty=f"{USUAL_PUNCH:g} mm")),
        LIGHTEN_FIELDS,
        EXTRA_FIELDS,
        FieldGroup(title="A slot in its base", of="slot", switch="an opening for what swings between the ears", fields=[
            number(BaseSlot, "wide_mm", "Wide, along the bolt", "mm", at="slot/"),
            number(BaseSlot, "long_mm", "Long, along the bends", "mm", at="slot/"),
            number(BaseSlot, "at_mm", "Its middle from the base’s, along the bends", "mm", at="slot/"),
        ]),
        BOLT_FIELDS,
        FieldGroup(title="Load and weld", fields=[
            number(FoldedU, "load_angle_deg", "Pull from the ears’ axis, at ride height", "°", optional=True, empty="not known: every way"),
            number(FoldedU, "weld_leg_mm", "Fillet leg; the grooves under the bends are filled", "mm"),
        ]),
    )  # fmt: skip

    def fillets(self, saved: FoldedU, made: JointMade, stand: Stand) -> tuple[Fillet, ...]:
        """Along both straight edges of its base, and along the grooves under its bends, as far out as these are."""
        one, outer, found = stand.standing, made.gap / 2 + saved.plate.mm, []
        for x1, y1, x2, y2 in welds(saved, made.gap):
            groove = abs(y1 - y2) < 1e-9
            a, b = (np.array([x, np.sign(y) * outer if groove else y]) for x, y in ((x1, y1), (x2, y2)))
            way = np.array([0.0, np.sign(y1)]) if groove else np.array([b[1] - a[1], a[0] - b[0]]) / np.linalg.norm(b - a)  # fmt: skip
            way = way if float(way @ (a + b)) > 0 else -way
            first, last = (one.foot + p[0] * one.x + p[1] * one.bolt for p in (a, b))
            found.append(straight_fillet("the grooves under its bends" if groove else "the edges of its base", first, last, one.y, way[0] * one.x + way[1] * one.bolt))  # fmt: skip
        return tuple(found)

    def begun(self, pair: TabPair) -> FoldedU:
        """One in the place of a pair of tabs."""
        return folded_for(pair, None)

    def fitted(self, saved: FoldedU, stand: Stand, made: JointMade | None) -> FoldedU:
        """Made for what it stands on."""
        del made
        one = stand.standing
        return saved if one.tube_od is not None or one.turned_deg is not None else fitted_folded(saved, stand)

    def as_pair(self, saved: FoldedU) -> TabPair:
        """Its two ears as the pair of tabs that they are to joint, pin and plate."""
        return as_pair(saved)

    def judged(
        self, saved: FoldedU, made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> tuple[CheckResult, ...]:
        """Its checks, weakest first; a flat that cannot be made is refused."""
        flat_of(saved, made[0].gap)
        every = [
            check
            for one in made
            for check in (
                *tab_checks(root_pair(saved, one.gap), one, settings, welds(saved, one.gap)),
                *self.holed_checks(saved, one, settings),
            )
        ]
        return weakest_first([*weaker_of_each(every), *walls_of(root_pair(saved, made[0].gap), made, stands, settings)])

    def proportioned(self, saved: FoldedU, made: JointMade, plate: float, wider: float) -> Sequence[FoldedU]:
        """Its sizes for a bolt and a plate."""
        assert made.bolt
        pair = as_pair(saved)
        one = ears_become(saved, pair.model_copy(update=proportioned(made.held.row, made.bolt, plate, pair)))
        one = one.model_copy(update={
            "base_width": Length(mm=round(one.base_width.mm * wider, 1)), "radius_mm": max(one.radius_mm, LEAST_RADIUS * plate),
            "weld_leg_mm": max(saved.weld_leg_mm, min(plate, USUAL_LEG)),
        })  # fmt: skip
        return (one if saved.height_fixed else _tall_enough(one, made.gap),)

    def begins(self, saved: FoldedU) -> dict[str, Any]:
        """What its slot is when it is switched on."""
        return super().begins(saved) | {"slot": BaseSlot().model_dump()}

    def footing(self, saved: FoldedU) -> Footing:
        """Its base, between its ears."""
        return Footing(
            name="its base",
            width=saved.base_width.mm,
            plate=saved.plate.mm,
            thick=saved.plate.mm,
            skew=tan(radians(saved.skew_deg)),
            radius=saved.radius_mm,
            slot=_open(saved.slot),
        )

    def ears(self, saved: FoldedU, gap: float) -> tuple[TabOutline, ...]:
        """Of a skewed one either ear stands to its own side of its hole."""
        shift, pair = shift_of(saved, gap), self.as_pair(saved)
        if shift == 0:
            return super().ears(saved, gap)
        plain = tuple(
            tab_outline(pair.head_radius.mm, pair.edge.mm, pair.base_width.mm, pair.height.mm, pair.hole.mm, pair.plate.mm, Under(aside=way * shift))
            for way in (1.0, -1.0)
        )  # fmt: skip
        return self.cut(saved, pair, plain)

    def lowest(self, saved: FoldedU) -> float:
        """As far over its bend as its own hole."""
        return 3 * saved.plate.mm + 2 * saved.radius_mm

    def past(self, saved: FoldedU, stands: Sequence[Stand], made: JointMade) -> str:
        """Why it does not stand on its mounts, its base as it is cut."""
        return TAB_PAIR.past(self.as_pair(saved), stands, made.gap, shift_of(saved, made.gap))

    def area(self, saved: FoldedU, gap: float) -> float:
        """Of its flat [mm²]."""
        return flat_of(saved, gap).contour.area

    def work_out(self, saved: FoldedU, around: Around) -> Part:
        """Flat, checks at every joint that it holds, the plate to cut, bolts beside."""
        pair = as_pair(saved)
        made, stands, found = TAB_PAIR.joints_in(pair, around, lambda gap: shift_of(saved, gap))
        found += ream_faults(saved.hole.mm, saved.ream_mm)
        found += [fault for stand in stands if stand for fault in _follows(saved, stand)]
        faults = [self.own_fault(fault) for fault in found]
        flat: sheet_u.FoldedU | None = None
        checks: list[CheckResult] = []
        if made:
            try:
                flat = flat_of(saved, made[0].gap)
                if not faults:
                    checks = [
                        c
                        for one, stand in zip(made, stands, strict=True)
                        for c in (
                            *tab_checks(root_pair(saved, one.gap), one, around.settings, welds(saved, one.gap)),
                            *self.holed_checks(saved, one, around.settings),
                            *wall_checks(root_pair(saved, one.gap), one, stand, around.settings),
                        )
                    ]
            except (InputError, NotApplicable) as error:
                faults += shape_faults(error)
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_carried": TAB_PAIR.not_carried_by(pair, around),
            "not_checked": (*TAB_PAIR.not_checked_of(pair, around), *NOT_CHECKED, *_face_told(saved, made, stands), *(["its base beside its slot"] if saved.slot else [])), "made_of": (f"plate {saved.plate.mm:g} mm", saved.grade_name),
        }  # fmt: skip
        if faults or flat is None:
            return Part(**common, faults=tuple(faults))
        low_x, low_y, high_x, high_y = flat.contour.bounds
        plate = PlatePiece(
            name="", material=saved.grade_name, thickness=saved.plate.mm, length=high_x - low_x, width=high_y - low_y, outline=flat.contour.under(saved.ream_mm, 2),
            told=f"2 holes {saved.hole.mm:g} mm{_reamed(saved)}{more_told(as_pair(saved), flat.contour)}, 2 bends", count=len(made), sort="folded",
        )  # fmt: skip
        beside: list[Piece] = [piece for one in made for piece in hardware_of(one, 2 * saved.plate.mm)]
        bent_to = set_angle(saved)
        return Part(
            **common, pieces=(plate,), beside=tuple(beside), checks=weakest_first(weaker_of_each(checks)),
            mass=flat.contour.area * saved.plate.mm * len(made) * STEEL_DENSITY, own_mirror=saved.skew_deg == 0,
            views=(View(name="folded", title="folded, and flat"), *place_views(stands), View(name="folded-flat", title="1:1 template", cut=True, plate="", told=_told(saved))),
            card=_card(saved, flat, made, stands, bent_to), notes=tuple(_notes(saved, flat, bent_to)),
            own=FoldedMade(flat=flat, joints=tuple(made), stands=tuple(stands), set_deg=bent_to),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Folded beside its flat, on its mount, or flat at 1:1."""
        saved, made = part.saved, part.own
        assert isinstance(saved, FoldedU)
        assert isinstance(made, FoldedMade)
        if asked.name == "folded":
            return _sheet(saved, made, numbers)
        if asked.name == "folded-flat":
            return _flat(saved, made.flat)
        return super().draw(part, asked, numbers)

    def told(self, part: Part) -> FoldedOwn | None:
        """Gap, developed length, allowance, set angle."""
        made = part.own
        if not isinstance(made, FoldedMade):
            return None
        low, _, high, _ = made.flat.contour.bounds
        return FoldedOwn(
            gap_mm=made.flat.gap, flat_mm=high - low, allowance_mm=made.flat.bend.allowance, k_factor=made.flat.bend.k, set_deg=made.set_deg,
            holds=[one.held.name for one in made.joints],
        )  # fmt: skip


def _open(slot: BaseSlot | None) -> tuple[float, float, float, float] | None:
    """The largest square-cornered opening in a slot, as its footing has it; None where there is none."""
    if slot is None:
        return None
    half, wide = slot.long_mm / 2 - WITHIN, slot.wide_mm / 2 - WITHIN
    return slot.at_mm - half, slot.at_mm + half, -wide, wide


def fitted_folded(saved: FoldedU, stand: Stand) -> FoldedU:
    """Made to reach from the flat that it stands on to its joint, its pull's angle as the end has it.

    Args:
        saved: as it is.
        stand: where.
    """
    one = ears_become(saved, fitted_on(as_pair(saved), stand))
    asked = edge_skew(stand) if saved.follows else None
    return one if asked is None else one.model_copy(update={"skew_deg": round(asked, 2) + 0.0})


def edge_skew(stand: Stand) -> float | None:
    """Of the member's edges from the bolt's way, in its face: of those along it and across it the nearer; None where no edges are known [°].

    Args:
        stand: where.
    """
    one = stand.standing
    if one.run is None or one.across is None:
        return None
    ways = [way - float(way @ one.y) * one.y for way in (one.run, one.across[0])]
    edge = max(ways, key=lambda way: abs(float(way @ one.bolt)))
    return degrees(atan(float(edge @ one.x) / float(edge @ one.bolt)))


def _face_told(saved: FoldedU, made: Sequence[JointMade], stands: Sequence[Stand | None]) -> list[str]:
    """Where the face ends nearer to its base than its fillets are wide: they are counted whole."""
    told = []
    for one, stand in zip(made, stands, strict=True):
        if stand is None:
            continue
        room = -stand.standing.overhang(saved.base_width.mm / 2, one.gap / 2 + saved.plate.mm, shift_of(saved, one.gap))
        if room < counted_leg(saved):
            told.append(
                f"the fillets round its base where {stand.mount.name} leaves {max(room, 0.0):.1f} mm of face beside it: they are counted at {counted_leg(saved):.1f} mm all the same"
            )
    return list(dict.fromkeys(told))


def _follows(saved: FoldedU, stand: Stand) -> list[Misfit]:
    """Whether its base lies along the member's edges, where it is to."""
    if not saved.follows:
        return []
    asked = edge_skew(stand)
    if asked is None:
        return [Misfit(field="follows", message=f"{stand.mount.name} has no edges that its base could lie along. Give it a box, or leave its base square.")]  # fmt: skip
    if abs(asked - saved.skew_deg) > TRUE_DEG:
        return [Misfit(field="skew_deg", message=f"Its base is cut {saved.skew_deg:.1f}° from square to its bends, and {stand.mount.name}’s edges lie at {asked:.1f}°. Fit it to what it stands on.")]  # fmt: skip
    return []


def _tall_enough(one: FoldedU, gap: float) -> FoldedU:
    """Raised as far as the bend asks, where its height is free."""
    try:
        flat_of(one, gap)
    except (InputError, NotApplicable) as error:
        if "height" in error.fields and error.limits and error.limits[0]:
            return one.model_copy(update={"height": Length(mm=round(error.limits[0] + 0.5, 1))})
    return one


def folded_for(pair: TabPair, stand: Stand | None) -> FoldedU:
    """A folded U where a pair of tabs was proposed: as thick, its bends as tight as its plate.

    Args:
        pair: proposed.
        stand: where; None: not said.
    """
    one = FoldedU(
        id=pair.id, name=pair.name.replace(", tabs", ", folded"), side=pair.side, plate=pair.plate, radius_mm=max(3.0, pair.plate.mm), hole=pair.hole,
        head_radius=pair.head_radius, edge=pair.edge, base_width=pair.base_width, height=pair.height,
    )  # fmt: skip
    if stand is None:
        return one
    return fitted_folded(one, stand)


def _told(saved: FoldedU) -> str:
    side = (
        ""
        if saved.side != "pair"
        else " The right side’s is the same."
        if saved.skew_deg == 0
        else " The right side’s is the same blank, turned over before it is bent."
    )
    return f"{saved.plate.mm:g} mm {saved.grade_name}: bend lines dashed, both bends up, this side is the inside.{side}"


def _notes(saved: FoldedU, flat: sheet_u.FoldedU, bent_to: float | None) -> list[str]:
    told = _second_told(saved, flat, bent_to)
    notes = [told] if told else []
    least = LEAST_RADIUS * saved.plate.mm
    if saved.radius_mm < least - 1e-9:
        notes.append(
            f"bent at {saved.radius_mm:g} mm inside, tighter than the plate is thick ({least:g} mm): it may crack; bend it across the grain, or at {least:g} mm"
        )
    if saved.wall_mm is not None and saved.wall_mm < saved.plate.mm:
        notes.append(f"what it is welded to is {saved.wall_mm:g} mm, thinner than the plate")
    if flat.base < saved.plate.mm:
        notes.append(f"only {flat.base:.1f} mm of its base lie flat between the bends: little to weld and to clamp by")
    return notes


def _second_told(saved: FoldedU, flat: sheet_u.FoldedU, bent_to: float | None) -> str:
    """What the second bend asks of the punch; empty where a straight one clears the first ear."""
    punch = saved.punch_mm or USUAL_PUNCH
    ear = saved.height.mm + saved.edge.mm - saved.plate.mm
    return second_bend_told(second_bend(flat.gap, ear, bent_to or 90.0, punch), flat.gap, punch)


def _card(
    saved: FoldedU, flat: sheet_u.FoldedU, made: Sequence[JointMade], stands: Sequence[Stand | None], bent_to: float | None
) -> Card:  # fmt: skip
    low, _, high, _ = flat.contour.bounds
    line = flat.base / 2 + flat.bend.allowance / 2
    many = len(made) * saved.count
    set_told = (
        f"set each bend to {bent_to:.1f}° so that 90° is left"
        if bent_to
        else "it springs back further than can be set: try a test bend"
    )
    by = "the shop’s own test bend" if saved.ratio is not None else "elasticity, not tried"
    lines = [
        CardLine(text="wide, along the bends", mm=saved.base_width.mm),
        *_skew_lines(saved, flat),
        CardLine(text="bend line to bend line", mm=2 * line, strong=True),
        CardLine(text="hole to hole, flat", mm=2 * flat.hole_at),
        *hole_lines_cut(saved.hole.mm, saved.ream_mm, "drilled flat"),
        *lighter_lines(as_pair(saved), FOLDED_U.on_foot(saved, made[0].gap)[0]),
        *extra_lines(saved.extra),
        *_slot_lines(saved),
        CardLine(text="bends, inside radius", mm=saved.radius_mm),
        CardLine(text=f"{set_told} ({by})"),
        CardLine(
            text="welded all round: fillets along its two straight edges, the grooves under the bends filled flush",
            mm=saved.weld_leg_mm,
        ),
        CardLine(text="order: one ear, turned end for end, the other; both up from the marked side"),
        *([CardLine(text=told)] if (told := _second_told(saved, flat, bent_to)) else []),
        CardLine(text="between the ears, folded", mm=flat.gap, strong=True),
        CardLine(text="base’s outer face to hole, folded", mm=saved.height.mm),
        CardLine(text=f"{made[0].bolt.label if made[0].bolt else 'bolt'}, grip", mm=made[0].gap + 2 * saved.plate.mm),
    ]
    for stand in stands:
        lines += set_out(stand, saved.side) if stand else []
    return Card(
        figures=(Figure(label=f"Cut {many}, long", mm=high - low, note=f"{saved.plate.mm:g} mm {saved.grade_name}"),),
        lines=tuple(lines),
    )


def _slot_lines(saved: FoldedU) -> list[CardLine]:
    """The opening in its base."""
    if saved.slot is None:
        return []
    lines = [
        CardLine(text="a slot in its base, from the template; wide, along the bolt", mm=saved.slot.wide_mm),
        CardLine(text="the slot, long, along the bends", mm=saved.slot.long_mm),
    ]
    if saved.slot.at_mm:
        lines.append(CardLine(text="the slot’s middle off the base’s, along the bends", mm=saved.slot.at_mm))
    return lines


def _skew_lines(saved: FoldedU, flat: sheet_u.FoldedU) -> list[CardLine]:
    """What is to be known of a base that is a parallelogram."""
    if saved.skew_deg == 0:
        return []
    lines = [
        CardLine(text=f"its base is a parallelogram, its free edges {abs(saved.skew_deg):g}° from square to the bends; between them, square", mm=saved.base_width.mm * cos(radians(saved.skew_deg)), strong=True),
        CardLine(text="either ear off the middle of its hole along the bend, one to each side", mm=abs(flat.shift)),
    ]  # fmt: skip
    if saved.side == "pair":
        lines.append(
            CardLine(
                text="RIGHT SIDE: the same blank turned over before it is bent: left and right differ", strong=True
            )
        )
    return lines


def _reamed(saved: FoldedU) -> str:
    return f", cut {saved.hole.mm - saved.ream_mm:g} mm, reamed after welding" if saved.ream_mm else ""


def _flat(saved: FoldedU, flat: sheet_u.FoldedU) -> Drawing:
    """The flat alone at 1:1, its origin at the lower left of its bounds: what the DXF holds."""
    contour = flat.contour.under(saved.ream_mm, 2)
    left, low, right, high = contour.bounds
    sheet = Sheet(name="folded-flat", title="folded bracket", width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    if saved.ream_mm:
        sheet.text(frame.at(0.0, 4.0), f"ream ⌀{saved.hole.mm:g} after welding", 3.0, "middle")
    for bend in flat.contour.bends:
        sheet.line(frame.at(*bend.line.start), frame.at(*bend.line.end), "bend")
        sheet.text(frame.at(bend.line.x1 + 1.0, 0.0), f"up {bend.angle_deg:g}° R{bend.radius:g}", 3.5, angle_deg=90.0)
    cross_holes(sheet, frame, flat.contour)
    return sheet.done()


def _sheet(saved: FoldedU, made: FoldedMade, numbers: Numbers) -> Drawing:
    """Folded, seen along its bends, above; its flat with the bend lines below."""
    flat, t = made.flat, saved.plate.mm
    sheet = Sheet(name="folded", title=saved.name, width=217.0, height=160.0, numbers=numbers)
    left, low, right, high = flat.contour.bounds
    tall = saved.height.mm + saved.edge.mm
    scale = min(50.0 / tall, 80.0 / (flat.gap + 4 * t), 1.5)
    sheet.text((6, 152), "Folded", 3.8, bold=True)
    sheet.text(
        (24, 152), f"{numbers.main(t)} {saved.grade_name}, cut {len(made.joints) * saved.count}", 2.9, tone="muted"
    )
    frame = Frame(62, 88, scale)
    inner = [flat.folded(x, 0.0, 0.0) for x in _stations(flat, high_x=right)]
    outer = [flat.folded(x, 0.0, t) for x in _stations(flat, high_x=right)]
    ring = [frame.at(x, z) for x, _, z in inner] + [frame.at(x, z) for x, _, z in reversed(outer)]
    sheet.area(ring, "steel", ref="field:plate")
    sheet.line(frame.at(-flat.gap, 0), frame.at(flat.gap, 0), "thin", "muted")
    at_hole = saved.height.mm
    sheet.line(frame.at(-flat.gap / 2 - 2.5 * t, at_hole), frame.at(flat.gap / 2 + 2.5 * t, at_hole), "centre", "muted")
    top = frame.at(0, tall)[1]
    sheet.dimension(
        (frame.at(-flat.gap / 2, 0)[0], top),
        (frame.at(flat.gap / 2, 0)[0], top),
        flat.gap,
        offset=5.0,
        ref="dim:gap",
        note="between",
        tone="blue",
    )
    x = frame.at(flat.gap / 2 + t, 0)[0]
    sheet.dimension(
        (x, frame.at(0, at_hole)[1]), (x, frame.at(0, 0)[1]), at_hole, offset=9.0, ref="dim:height", tone="blue"
    )
    sheet.leader(
        frame.at(-flat.gap / 2 + saved.radius_mm * 0.3, t + saved.radius_mm * 0.3),
        (40, 98),
        f"R {numbers.main(saved.radius_mm)} inside",
        "field:radius_mm",
        "end",
    )
    bends = [
        f"bend allowance {numbers.main(flat.bend.allowance)}, K {flat.bend.k:.3f} ({'test bend' if saved.k_factor is not None else 'DIN 6935'})",
        f"set to {made.set_deg:.1f}° for 90°" if made.set_deg else "set angle not known: test bend",
        "one ear, turned end for end, then the other",
        f"welded all round: fillets {numbers.main(saved.weld_leg_mm)}, grooves under the bends flush",
    ]
    if saved.skew_deg:
        square = saved.base_width.mm * cos(radians(saved.skew_deg))
        bends += [
            f"base a parallelogram, its free edges {abs(saved.skew_deg):g}° from square to the bends,",
            f"{numbers.main(square)} between them, square",
            f"either ear’s middle {numbers.main(abs(flat.shift))} off its hole along the bend, one to each side",
        ]
    for i, told in enumerate(bends):
        sheet.text((118, 142 - 5.2 * i), told, 2.9, tone="muted" if i else "ink")
    flat_scale = min(180.0 / (right - left), 38.0 / (high - low), 1.5)
    sheet.scale = flat_scale
    sheet.text((6, 76), "Flat, from the side that becomes the inside", 3.8, bold=True)
    f2 = Frame(106, 46, flat_scale)
    draw_contour(sheet, f2, flat.contour, "visible", ref="field:plate")
    for bend in flat.contour.bends:
        sheet.line(
            f2.at(bend.line.x1, bend.line.y1 - 4), f2.at(bend.line.x2, bend.line.y2 + 4), "hidden", "blue", "bend"
        )
    y = f2.at(0, low)[1]
    line = flat.contour.bends[0].line.x1
    sheet.dimension(
        (f2.at(-line, 0)[0], y),
        (f2.at(line, 0)[0], y),
        2 * line,
        offset=-6.0,
        ref="bend",
        note="bend to bend",
        tone="blue",
    )
    sheet.dimension(
        (f2.at(-flat.hole_at, 0)[0], y),
        (f2.at(flat.hole_at, 0)[0], y),
        2 * flat.hole_at,
        offset=-14.0,
        ref="dim:hole",
        note="hole to hole",
    )
    sheet.dimension(
        (f2.at(left, 0)[0], y), (f2.at(right, 0)[0], y), right - left, offset=-22.0, ref="length", note="long"
    )
    sheet.dimension(
        (f2.at(right, low)[0], f2.at(0, flat.shift - saved.base_width.mm / 2)[1]),
        (f2.at(right, high)[0], f2.at(0, flat.shift + saved.base_width.mm / 2)[1]),
        saved.base_width.mm,
        offset=-7.0,
        ref="dim:base_width",
        tone="blue",
    )
    return sheet.done()


def _stations(flat: sheet_u.FoldedU, high_x: float) -> list[float]:
    """Places along the flat, close together over the bends."""
    a, b = flat.base / 2, flat.base / 2 + flat.bend.allowance
    right = [0.0, a, *(a + (b - a) * i / 12 for i in range(1, 12)), b, high_x]
    return [-x for x in reversed(right)] + right


FOLDED_U = FoldedUKind()
