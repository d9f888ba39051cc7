"""The split clamp: a pair of clamps round a tube, each of two halves of thick plate drawn together by two bolts, the joint's bolt along the tube.

Nothing is welded: what it holds is held by friction on the tube.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil, floor
from typing import Any, Literal

import numpy as np

from tirante.core.brackets import split_clamp as method
from tirante.core.brackets.bolt import order_length
from tirante.core.brackets.mount_wall import Wall
from tirante.core.brackets.tools import (
    WASHER_OUTSIDE,
    Hexagon,
    WayOut,
    drawn_out,
    flats_of,
    hexagon_on,
    socket,
    spanner,
)
from tirante.core.checks.result import CheckResult, weaker_of_each, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, choice, number, switch
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.split_clamp import SplitClamp
from tirante.core.document.settings import Settings
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError, NotApplicable
from tirante.core.flat.contour import Contour, moved
from tirante.core.members.thread import COARSE
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.eared import EaredKind, where_fields
from tirante.core.parts.bracket.families.extra import EXTRA_FIELDS, extra_lines
from tirante.core.parts.bracket.families.footing import Footing, Laid
from tirante.core.parts.bracket.families.held import joints_held, leaning_told, leans_too_far, over_a_tube
from tirante.core.parts.bracket.families.lightened import LIGHTEN_FIELDS, lighter_lines, more_told
from tirante.core.parts.bracket.families.place_view import contour_points
from tirante.core.parts.bracket.families.split_clamp_checks import (
    as_pair,
    clamp_checks,
    clamp_of,
    drawn_with,
    most_clamp,
)
from tirante.core.parts.bracket.families.split_clamp_view import (
    FILLET,
    clamp_sheet,
    ear_alone,
    ear_foot,
    eared_half,
    half_wide,
    other_half,
    under_ear,
)
from tirante.core.parts.bracket.families.tab_checks import NOT_CHECKED as OF_TABS
from tirante.core.parts.bracket.families.tab_fields import BOLT_FIELDS, metal_fields, shape_faults
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import FEET, STOCK, proportioned
from tirante.core.parts.bracket.families.tab_told import place_views
from tirante.core.parts.bracket.families.wall_checks import wall_of_member
from tirante.core.parts.joint import JointMade, hardware_of
from tirante.core.parts.kind import Changed, ViewAsked
from tirante.core.parts.part import BoughtPiece, Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View, across
from tirante.core.parts.stands import CUT_TRUE, TRUE_DEG, Stand, right_side_lacks, runs_through, set_out
from tirante.core.quantities import or_more

EARED, OTHER = "half with the ear", "other half"
EARED_FLAT, OTHER_FLAT = "clamp-eared", "clamp-other"
CLEAR = 1.0  # mm of a clamp bolt's hole over the bolt; ISO 273 medium of M8 to M12, from memory
BETWEEN = 3.0  # mm of metal between bore and a clamp bolt's hole, at least; common practice, no source
SEAT_ROOM = 0.6  # mm between ear and tools, or washer; common practice, no source
THICK = 2.0  # diameters of a clamp bolt that a half is thick at least; common practice, no source
PLATES = (16.0, 20.0, 25.0, 30.0)  # mm, that are tried; common practice, no source
BOLTS = (8.0, 10.0, 12.0)  # mm, that draw the halves together, that are tried
CLASSES = ("8.8", "10.9")
SHARES = (0.5, 0.75, 1.0)  # of the usual torque: less loosens; common practice, no source
LEAST_WALL = 5.0  # mm of metal over the bore, of those that are tried; common practice, no source
NUT = 1.6  # diameters that a locking nut with its washer and two threads stands out; ISO 7040, from memory
HEAD = 0.9  # the same of a head with its washer; ISO 4017, from memory
NOT_CHECKED = (
    *(one for one in OF_TABS if not one.startswith(("weld", "room"))),
    "the tube bent in by what pulls at the joint: it is judged as squeezed evenly by the clamp",
    "clamp lost as paint or marks of the bore settle: bare metal, and torqued again after the first outing",
    "a tube out of round, or a bore larger than it",
    "heads and nuts pressing on the halves: hardened washers go under all of them",
    "room for link, bolt and spanner at the joint and at the clamp bolts (to be looked at under Room)",
)  # fmt: skip


class SplitClampOwn(Out):
    """What only a split clamp has."""

    kind: Literal["split_clamp"] = "split_clamp"
    gap_mm: float
    clamp_n: float
    torque_nm: float
    holds: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class ClampMade:
    """A split clamp with what it holds."""

    joints: tuple[JointMade, ...]
    stands: tuple[Stand | None, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Halves(Footing):
    """Both halves but the ear, with the heads and nuts of both bolts, as blocks as thick as the plate."""

    radius: float  # of the tube [mm]
    halves: tuple[tuple[tuple[float, float], ...], ...]  # outlines, from the tube's middle

    @property
    def taken(self) -> str:
        """As what it is looked at, in words."""
        return "bolts of the clamp: heads and nuts are taken as blocks as thick as its plate"

    def laid(self, gap: float, stand: Stand) -> list[Laid]:
        """All of either clamp but its ear."""
        one = stand.standing
        middle = one.foot - self.radius * one.y
        return [
            Laid(outline=outline, at=middle + way * (gap + self.plate) / 2 * one.bolt, x=one.x, y=one.y, thick=self.thick)
            for way in (1.0, -1.0) for outline in (np.array(one) for one in self.halves)
        ]  # fmt: skip


def seat_of(bolt: float) -> float:
    """From a clamp bolt's middle how far its washer, a socket and a ring on it reach [mm].

    Args:
        bolt: its diameter [mm].
    """
    flats = flats_of(bolt)
    return max(WASHER_OUTSIDE * bolt / 2, socket(flats)[0], spanner(flats).radius) + SEAT_ROOM


def sizes_for(
    od: float, plate: float, bolt: float, grade: str, saved: SplitClamp, share: float = 1.0
) -> dict[str, Any]:
    """What halves round a tube must measure so that the clamp of their bolts does not bend them: no larger than that asks, in whole millimetres.

    Args:
        od: of the tube [mm].
        plate: of the halves [mm].
        bolt: that draws them together [mm].
        grade: its class.
        saved: its metal, and the head of its ear.
        share: of the torque that it is usually tightened with.

    Raises:
        InputError: there is no such thread.
    """
    clamp, most = most_clamp(bolt, grade)
    torque = None if share >= 1.0 else float(floor(share * most))
    clamp *= 1.0 if torque is None else torque / most
    r = od / 2
    apart = float(ceil(max(r + BETWEEN + (bolt + CLEAR) / 2, saved.head_radius.mm + seat_of(bolt))))
    ear = float(floor(apart - seat_of(bolt) - FILLET))
    x = np.linspace(0.0, r, method.STEPS)
    out = np.sqrt(np.maximum(0.0, r**2 - x**2)) + np.sqrt(6 * clamp * (apart - x) / (plate * saved.yield_mpa))
    shoulder = max(float((out - np.maximum(0.0, ear - x)).max()), bolt)
    return {
        "plate": Length(mm=plate), "clamp_bolt_mm": bolt, "clamp_class": grade, "torque_nm": torque, "apart_mm": apart, "base_width": Length(mm=2 * ear),
        "cap_mm": float(ceil(max(float(out.max()), r + LEAST_WALL))), "shoulder_mm": float(ceil(shoulder)),
    }  # fmt: skip


def fitted_clamp(saved: SplitClamp, stand: Stand) -> SplitClamp:
    """Bored for the tube that it goes round, reaching to its joint; of another tube its bolts and backs stand as far off it as before.

    Args:
        saved: as it is.
        stand: where, on a round tube.
    """
    change, further = over_a_tube(stand), round(((stand.standing.tube_od or 0.0) - saved.tube_od.mm) / 2, 3)
    if abs(further) > 1e-9:
        change |= {name: getattr(saved, name) + further for name in ("apart_mm", "cap_mm", "shoulder_mm")}
    return saved.model_copy(update=change)


def goes_round(stand: Stand) -> Misfit | None:
    """Why no clamp goes round what it would stand on; None where one does.

    Args:
        stand: where.
    """
    one, name = stand.standing, stand.mount.name
    if one.tube_od is None:
        return Misfit(field="mount", message=f"A split clamp goes round a round tube, and {name} is none. Give it another mount, or make it a tab pair.")  # fmt: skip
    off = 90.0 - one.angle_deg
    if off > TRUE_DEG:
        return Misfit(field="bolt_axis", message=f"Its halves stand square to {name}, with the bolt along it, and the bolt is {off:.1f}° off that. Turn the bolt, or make it a tab pair.")  # fmt: skip
    return None


def sits_true(saved: SplitClamp, stand: Stand, made: JointMade) -> list[Misfit]:
    """Whether it is bored for the tube that it goes round, reaches to its joint, and stands on the tube wholly.

    Args:
        saved: as it is.
        stand: where.
        made: its joint.
    """
    lacks = goes_round(stand)
    if lacks is not None:
        return [lacks]
    one, name, out = stand.standing, stand.mount.name, []
    assert one.tube_od
    if abs(saved.tube_od.mm - one.tube_od) > CUT_TRUE / 5:
        out.append(Misfit(field="tube_od", message=f"It is bored for {saved.tube_od.mm:.1f} mm, and {name} is {one.tube_od:.1f} mm. Fit it to what it stands on."))  # fmt: skip
    asks = one.height + one.tube_od / 2
    if abs(saved.height.mm - asks) > CUT_TRUE:
        out.append(Misfit(field="height", message=f"Its joint’s hole stands {saved.height.mm:.1f} mm from the middle of {name}, and the joint {asks:.1f} mm. Fit it to what it stands on."))  # fmt: skip
    through = runs_through(stand)
    if through:
        out.append(Misfit(field="mount", message=through))
    past = one.overhang(0.0, made.gap / 2 + saved.plate.mm)
    if past > CUT_TRUE:
        out.append(Misfit(field="mount", message=f"It reaches {past:.1f} mm past the end of {name}. Move the joint, or give it another mount."))  # fmt: skip
    return out


def goes_together(saved: SplitClamp) -> list[Misfit]:
    """What of its halves and bolts does not go together.

    Args:
        saved: as it is.
    """
    d, r, out = saved.clamp_bolt_mm, saved.tube_od.mm / 2, []
    least = ceil(THICK * d)
    if saved.plate.mm < least - 1e-9:
        out.append(Misfit(field="plate", message=f"Bolts of {d:g} mm are drilled in edgewise, from the shoulders: the plate is {least:g} mm thick or more, or they are smaller."))  # fmt: skip
    apart = r + BETWEEN + (d + CLEAR) / 2
    if saved.apart_mm < apart - 1e-9:
        left = saved.apart_mm - (d + CLEAR) / 2 - r
        told = (
            f"Between the bore and the holes of its bolts {left:.1f} mm of metal are left"
            if left > 0
            else "The holes of its bolts run into the bore"
        )
        out.append(Misfit(field="apart_mm", message=f"{told}. Set the bolts {or_more(apart)} mm or more from the tube’s middle."))  # fmt: skip
    widest = _widest_ear(saved)
    if widest is not None:
        out.append(Misfit(field="base_width", message=f"Its nuts have no room beside the ear. Make it {widest:g} mm wide or less at its shoulders, or set the bolts further apart."))  # fmt: skip
    if saved.bore_mm >= r / 2:
        out.append(Misfit(field="bore_mm", message="So much is not left to be bored of so small a bore. Leave less."))
    return out


def _widest_ear(saved: SplitClamp) -> float | None:
    """How wide its ear may be at the shoulders so that nuts lie beside its round, to a tenth less [mm]; None where they do, or where it has no shape."""
    reach = saved.apart_mm - seat_of(saved.clamp_bolt_mm)

    def goes(wide: float) -> bool:
        try:
            return ear_foot(saved.model_copy(update={"base_width": Length(mm=wide)})) <= reach + 1e-9
        except InputError:
            return True  # which says itself what it lacks

    if goes(saved.base_width.mm):
        return None
    return bisect_left(range(1, int(saved.base_width.mm * 10)), True, key=lambda n: not goes(n / 10)) / 10


class SplitClampKind(EaredKind[SplitClamp]):
    """Split clamps."""

    key = "split_clamp"
    word = "split clamp"
    saved = SplitClamp
    own = SplitClampOwn
    set_anew = "It is as it was cut, and goes elsewhere now, as the lengths say: loosen it, slide it there, torque it again; bored for another tube it is made anew."
    searches = "Plates and clamp bolts of several sizes, their halves as deep as the clamp asks, and every bolt that goes through are judged against all checks."
    fields = (
        where_fields(SplitClamp, "Wall of the tube"),
        FieldGroup(title="Halves", fields=[
            Field(path="plate", label="Thickness of the plate", control="length"),
            Field(path="tube_od", label="Tube that they are bored for", control="length"),
            number(SplitClamp, "gap_mm", "Between the halves", "mm"),
            number(SplitClamp, "bore_mm", "Left on the bore’s radius as cut, and bored as one", "mm"),
            number(SplitClamp, "cap_mm", "Tube’s middle to the other half’s back", "mm"),
            number(SplitClamp, "shoulder_mm", "Tube’s middle to the shoulders, where nuts lie", "mm"),
            *metal_fields(SplitClamp),
        ]),
        FieldGroup(title="Ear", fields=[
            Field(path="hole", label="Hole", control="length"),
            Field(path="head_radius", label="Head radius", control="length"),
            Field(path="edge", label="Hole to free end", control="length"),
            Field(path="base_width", label="Wide, at the shoulders", control="length"),
            Field(path="height", label="Tube’s middle to hole", control="length"),
            switch("height_fixed", "its height is given: sizing keeps it"),
        ]),
        FieldGroup(title="Bolts of the clamp", note="two in either clamp, edgewise through its plate, one on either side of the tube", fields=[
            number(SplitClamp, "clamp_bolt_mm", "Thread", "mm"), choice("clamp_class", "Their class", ["8.8", "10.9", "12.9"]),
            number(SplitClamp, "apart_mm", "From the tube’s middle", "mm"),
            number(SplitClamp, "torque_nm", "Torque", "N·m", optional=True, empty="as usual"),
        ]),
        LIGHTEN_FIELDS,
        EXTRA_FIELDS,
        BOLT_FIELDS,
        FieldGroup(title="Load", fields=[
            number(SplitClamp, "load_angle_deg", "Pull from the ears’ axis, at ride height", "°", optional=True, empty="not known: every way"),
        ]),
    )  # fmt: skip

    def begun(self, pair: TabPair) -> SplitClamp:
        """One in the place of a pair of tabs."""
        return clamp_for(pair)

    def fitted(self, saved: SplitClamp, stand: Stand, made: JointMade | None) -> SplitClamp:
        """Made for what it stands on."""
        del made
        return fitted_clamp(saved, stand) if stand.standing.tube_od is not None else saved

    def as_pair(self, saved: SplitClamp) -> TabPair:
        """Its two ears as the pair of tabs that they are to joint, pin and plate."""
        return as_pair(saved)

    def choose(self, saved: SplitClamp, field: str, key: str | None, around: Around, shelf: Catalogue) -> Changed:
        """A spacer or bolt for every joint that it holds; another bolt asks for another hole, head and edge."""
        found = TAB_PAIR.choose(self.as_pair(saved), field, key, around, shelf)
        pair = found.parts[0]
        assert isinstance(pair, TabPair)
        eye = {name: getattr(pair, name) for name in EYE}
        return Changed(parts=(saved.model_copy(update=eye),), joints=found.joints)

    def judged(
        self, saved: SplitClamp, made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> tuple[CheckResult, ...]:
        """Its checks, weakest first; halves that cannot be made are refused."""
        lacks = goes_together(saved)
        if lacks:
            raise InputError(lacks[0].message, code="contradictory", fields=(lacks[0].field,))
        eared_with(saved)
        on: Sequence[Stand | None] = stands if len(stands) == len(made) else [None] * len(made)
        every = [c for one, stand in zip(made, on, strict=True) for c in self._checks(saved, one, wall_of_tube(stand), settings)]  # fmt: skip
        return weakest_first(weaker_of_each(every))

    def proportioned(self, saved: SplitClamp, made: JointMade, plate: float, wider: float) -> Sequence[SplitClamp]:
        """Of a bolt, halves of several thicknesses and clamp bolts, the lightest first."""
        assert made.bolt
        if plate > STOCK[0] or wider > FEET[0]:
            return ()
        eye = proportioned(made.held.row, made.bolt, made.bolt.diameter_mm, as_pair(saved))
        one = saved.model_copy(update={name: eye[name] for name in EYE})
        every = [
            one.model_copy(update=sizes_for(one.tube_od.mm, thick, bolt, grade, one, share))
            for thick in PLATES for bolt in BOLTS if thick >= THICK * bolt for grade in CLASSES for share in SHARES
        ]  # fmt: skip
        return sorted(every, key=_bulk)

    def fit(self, saved: SplitClamp, made: JointMade, stands: Sequence[Stand]) -> SplitClamp:
        """Bored for the tube that it stands on."""
        return self.fitted(saved, stands[0], made) if stands else saved

    def past(self, saved: SplitClamp, stands: Sequence[Stand], made: JointMade) -> str:
        """Why it does not go round its tubes."""
        return next((fault.message for one in stands for fault in sits_true(saved, one, made)), "")

    def footing(self, saved: SplitClamp) -> Footing:
        """All of either clamp but its ear."""
        return Halves(
            name="its halves", width=2 * half_wide(saved), plate=saved.plate.mm, thick=saved.plate.mm, radius=saved.tube_od.mm / 2,
            halves=(*(tuple(contour_points(one(saved))) for one in (under_ear, other_half)), *_heads(saved)),
        )  # fmt: skip

    def hexagons(self, saved: SplitClamp, made: JointMade, stand: Stand) -> tuple[tuple[str, Hexagon], ...]:
        """Nuts on its shoulders, heads behind the other halves, of all four bolts."""
        one, found = stand.standing, []
        for way in (1.0, -1.0):
            middle = one.foot - saved.tube_od.mm / 2 * one.y + way * (made.gap + saved.plate.mm) / 2 * one.bolt
            for side in (1.0, -1.0):
                at = middle + side * saved.apart_mm * one.x
                found.append(("nuts of the clamp’s bolts", hexagon_on(at + saved.shoulder_mm * one.y, one.y, saved.clamp_bolt_mm, nut=True, held=True)))  # fmt: skip
                found.append(("heads of the clamp’s bolts", hexagon_on(at - saved.cap_mm * one.y, -one.y, saved.clamp_bolt_mm, nut=False)))  # fmt: skip
        return tuple(found)

    def bolts(self, saved: SplitClamp, made: JointMade, stand: Stand) -> tuple[tuple[str, tuple[WayOut, ...]], ...]:
        """Of all four: from behind the other halves, or from the shoulders."""
        one, d, found = stand.standing, saved.clamp_bolt_mm, []
        for way in (1.0, -1.0):
            middle = one.foot - saved.tube_od.mm / 2 * one.y + way * (made.gap + saved.plate.mm) / 2 * one.bolt
            for side in (1.0, -1.0):
                at = middle + side * saved.apart_mm * one.x
                ways = drawn_out(at - saved.cap_mm * one.y, -one.y, d, _length(saved)), drawn_out(at + saved.shoulder_mm * one.y, one.y, d, _length(saved))  # fmt: skip
                found.append(("the clamp’s bolts", ways))
        return tuple(found)

    def lowest(self, saved: SplitClamp) -> float:
        """Over its shoulders."""
        return saved.shoulder_mm

    def on_foot(self, saved: SplitClamp, gap: float) -> tuple[TabOutline, ...]:
        """Its ears over their shoulders, counted from the tube's middle, as its height is."""
        del gap
        plain = TabOutline(contour=ear_alone(saved), low=0.0, warnings=())
        return self.cut(saved, self.as_pair(saved), (plain,))

    def ears(self, saved: SplitClamp, gap: float) -> tuple[TabOutline, ...]:
        """Its ears, over their shoulders; from the skin of the tube, as what stands on it."""
        found, down = self.on_foot(saved, gap)[0].contour, -saved.tube_od.mm / 2
        contour = replace(
            found, edges=tuple(moved(edge, 0.0, down) for edge in found.edges), holes=tuple(replace(hole, y=hole.y + down) for hole in found.holes)
        )  # fmt: skip
        return (TabOutline(contour=contour, low=min(0.0, saved.shoulder_mm + down), warnings=()),)

    def area(self, saved: SplitClamp, gap: float) -> float:
        """Of its halves [mm²]."""
        del gap
        return 2 * (eared_with(saved).area + other_half(saved).area)

    def tried_told(self, tried: int) -> str:
        """How many were tried."""
        return f"{tried} plates, clamp bolts and bolts were tried (plates of {PLATES[0]:g} to {PLATES[-1]:g} mm, clamp bolts M{BOLTS[0]:g} to M{BOLTS[-1]:g}: common practice, no source)."

    def _checks(self, saved: SplitClamp, made: JointMade, wall: Wall | str, settings: Settings) -> list[CheckResult]:
        """All checks of it at a joint."""
        own = clamp_checks(saved, made, wall if isinstance(wall, Wall) else None, settings)
        return [*own, *self.holed_checks(saved, made, settings)]

    def work_out(self, saved: SplitClamp, around: Around) -> Part:
        """Halves, checks at every joint that it holds, the plates to cut, bolts beside."""
        made, stands, faults = joints_held(
            saved.id, saved.hole.mm, around, lambda one, stand: _faults_at(saved, one, stand)
        )
        faults += goes_together(saved)
        walls = [wall_of_tube(stand) for stand in stands]
        checks: list[CheckResult] = []
        if not faults:
            try:
                eared_with(saved)
                checks = [c for one, wall in zip(made, walls, strict=True) for c in self._checks(saved, one, wall, around.settings)]  # fmt: skip
            except (InputError, NotApplicable) as error:
                faults += shape_faults(error, ear_mm="base_width", height_mm="height")
        leaning = [told for stand in stands if stand is not None for told in leaning_told(stand)]
        unjudged = [wall for wall in walls if isinstance(wall, str)]
        unjudged += [
            told
            for one, stand, wall in zip(made, stands, walls, strict=False)
            for told in _end_told(saved, one, stand, wall)
        ]
        unlooked = dict.fromkeys([*NOT_CHECKED, *unjudged, *leaning, *(told for one in made for told in one.held.not_checked)])  # fmt: skip
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_carried": TAB_PAIR.not_carried_by(as_pair(saved), around), "not_checked": tuple(unlooked),
            "made_of": (f"plate {saved.plate.mm:g} mm", saved.grade_name),
        }  # fmt: skip
        if faults or not made:
            return Part(**common, faults=tuple(dict.fromkeys(faults)))
        beside: list[Piece] = [piece for one in made for piece in hardware_of(one, 2 * saved.plate.mm)]
        return Part(
            **common, pieces=tuple(_plates(saved, len(made))), beside=(*beside, *_bolts(saved, len(made))), checks=weakest_first(weaker_of_each(checks)),
            mass=self.mass(saved, 0.0) * len(made),
            views=(
                View(name="clamp", title="both halves on their tube"), *place_views(stands),
                View(name=EARED_FLAT, title="half with the ear, 1:1", cut=True, plate=EARED, told=_told(saved)),
                View(name=OTHER_FLAT, title="other half, 1:1", cut=True, plate=OTHER, told=_told(saved)),
            ),
            card=_card(saved, made, stands), notes=tuple(_notes(saved)), own=ClampMade(joints=tuple(made), stands=tuple(stands)),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Both halves on their tube, on the member, or either at 1:1 as it is cut."""
        saved, made = part.saved, part.own
        assert isinstance(saved, SplitClamp)
        assert isinstance(made, ClampMade)
        if asked.name == "clamp":
            return clamp_sheet(saved, eared_with(saved), made.joints[0], numbers)
        if asked.name == EARED_FLAT:
            return _flat(saved, eared_as_cut(saved), EARED_FLAT, (saved.gap_mm / 2, saved.shoulder_mm))
        if asked.name == OTHER_FLAT:
            return _flat(saved, other_as_cut(saved), OTHER_FLAT, (-saved.cap_mm, -saved.gap_mm / 2))
        return super().draw(part, asked, numbers)

    def told(self, part: Part) -> SplitClampOwn | None:
        """Gap, and with what it is drawn together."""
        made, saved = part.own, part.saved
        if not isinstance(made, ClampMade) or not isinstance(saved, SplitClamp):
            return None
        clamp, torque = drawn_with(saved)
        return SplitClampOwn(gap_mm=made.joints[0].gap, clamp_n=clamp, torque_nm=torque, holds=[one.held.name for one in made.joints])  # fmt: skip


EYE = ("hole", "head_radius", "edge")


def _bulk(saved: SplitClamp) -> float:
    """About how much metal its halves are, and their bolts: what the lightest is looked for by."""
    return saved.plate.mm * half_wide(saved) * (saved.cap_mm + saved.shoulder_mm)


def _heads(saved: SplitClamp) -> list[tuple[tuple[float, float], ...]]:
    """Heads and nuts of either bolt, from the tube's middle."""
    d = saved.clamp_bolt_mm
    found: list[tuple[tuple[float, float], ...]] = []
    for way in (1.0, -1.0):
        for low, high in ((-saved.cap_mm - HEAD * d, -saved.cap_mm), (saved.shoulder_mm, saved.shoulder_mm + NUT * d)):
            left, right = way * saved.apart_mm - d, way * saved.apart_mm + d
            found.append(((left, low), (right, low), (right, high), (left, high)))
    return found


def wall_of_tube(stand: Stand | None) -> Wall | str:
    """The tube that it goes round; or why it is not judged as squeezed.

    Args:
        stand: where; None: on nothing that is entered.
    """
    if stand is None:
        return "the tube, squeezed by the clamp: none is entered"
    return wall_of_member(stand.mount, 0.0)


def _end_told(saved: SplitClamp, made: JointMade, stand: Stand | None, wall: Wall | str) -> list[str]:
    """That the tube ends so near that it is squeezed harder there than is judged."""
    if stand is None or isinstance(wall, str):
        return []
    along, length = stand.standing.along, stand.standing.length
    if along is None or length is None:
        return []
    left = min(along, length - along) - made.gap / 2 - saved.plate.mm
    if left >= method.dies_out(clamp_of(saved), wall.thickness):
        return []
    return [
        f"the end of {stand.mount.name}, {max(left, 0.0):.0f} mm beside the clamp: the tube is judged as going on, and gives more where it ends; a plug welded in there holds it round"
    ]


def _faults_at(saved: SplitClamp, made: JointMade, stand: Stand | None) -> list[Misfit]:
    """What does not go together at one of its joints."""
    if stand is None:
        return []
    faults = [*sits_true(saved, stand, made), *leans_too_far(made, stand)]
    lacks = right_side_lacks(stand, 0.0, made.gap / 2 + saved.plate.mm) if saved.side == "pair" and not faults else ""
    return [*faults, *([Misfit(field="mount", message=lacks)] if lacks else [])]


def clamp_for(pair: TabPair) -> SplitClamp:
    """A split clamp where a pair of tabs was proposed, for a tube of a usual size until it is put on one.

    Args:
        pair: proposed.
    """
    od = Length(mm=50.0)
    one = SplitClamp(
        id=pair.id, name=pair.name.replace(", tabs", ", clamp"), side=pair.side, plate=Length(mm=20.0), hole=pair.hole, head_radius=pair.head_radius,
        edge=pair.edge, base_width=pair.base_width, tube_od=od, height=Length(mm=od.mm + pair.height.mm), apart_mm=od.mm, shoulder_mm=od.mm / 2,
        cap_mm=od.mm,
    )  # fmt: skip
    return one.model_copy(update=sizes_for(od.mm, one.plate.mm, one.clamp_bolt_mm, one.clamp_class, one))


def eared_as_cut(saved: SplitClamp) -> Contour:
    """The half with the ear as it is cut: its bore small, and no hole that is smaller than the plate is thick, which is drilled.

    Args:
        saved: as it is.
    """
    found = eared_with(saved, saved.bore_mm)
    return replace(found, holes=tuple(hole for hole in found.holes if hole.diameter >= saved.plate.mm))


def eared_with(saved: SplitClamp, left: float = 0.0) -> Contour:
    """The half with the ear, its further holes and its lightening hole in it.

    Args:
        saved: as it is.
        left: on the bore's radius, to be bored [mm].

    Raises:
        InputError: its sizes contradict each other, or a hole may not be where it is.
    """
    found = eared_half(saved, left)
    if not saved.extra and saved.lighten is None:
        return found
    return replace(found, holes=SPLIT_CLAMP.on_foot(saved, 0.0)[0].contour.holes)


def other_as_cut(saved: SplitClamp) -> Contour:
    """The other half as it is cut, its bore small.

    Args:
        saved: as it is.
    """
    return other_half(saved, saved.bore_mm)


def _plates(saved: SplitClamp, joints: int) -> list[PlatePiece]:
    """Both halves as they are cut."""
    found = []
    d, bored = saved.clamp_bolt_mm, f", bore left {saved.bore_mm:g} mm small on its radius, bored as one" if saved.bore_mm else ""  # fmt: skip
    drilled = f"{more_told(as_pair(saved), eared_with(saved), 1)}{_drilled(saved)}"
    for name, outline in ((EARED, eared_as_cut(saved)), (OTHER, other_as_cut(saved))):
        left, low, right, high = outline.bounds
        found.append(
            PlatePiece(
                name=name, material=saved.grade_name, thickness=saved.plate.mm, length=right - left, width=high - low, outline=outline, count=2 * joints,
                told=f"2 holes {d + CLEAR:g} mm drilled edgewise{bored}{drilled if name == EARED else ''}", sort="clamp half",
            )
        )  # fmt: skip
    return found


def _drilled(saved: SplitClamp) -> str:
    """Which of its ear's holes are drilled, in a few words; empty where all are cut."""
    small = [f"{hole.diameter:g}" for hole in eared_with(saved).holes if hole.diameter < saved.plate.mm]
    return f", {'hole' if len(small) == 1 else 'holes'} {', '.join(small)} mm drilled: smaller than the plate is thick" if small else ""  # fmt: skip


def _length(saved: SplitClamp) -> float:
    """Of a clamp bolt to order [mm]."""
    pitch = COARSE[round(saved.clamp_bolt_mm)]
    return order_length(saved.cap_mm + saved.shoulder_mm, saved.clamp_bolt_mm, pitch, metric=True)


def _bolts(saved: SplitClamp, joints: int) -> list[BoughtPiece]:
    d = saved.clamp_bolt_mm
    return [
        BoughtPiece(sort="bolt", what=f"bolt M{d:g} × {_length(saved):g}, class {saved.clamp_class}, for the clamp", count=4 * joints, torque_nm=drawn_with(saved)[1]),
        BoughtPiece(sort="nut", what=f"locking nut M{d:g}, for the clamp", count=4 * joints),
        BoughtPiece(sort="washer", what=f"hardened washer for M{d:g}, for the clamp", count=8 * joints),
    ]  # fmt: skip


def _told(saved: SplitClamp) -> str:
    side = "" if saved.side != "pair" else " The right side’s is the same."
    bored = f" Its bore is cut {saved.bore_mm:g} mm small on its radius." if saved.bore_mm else ""
    return f"{saved.plate.mm:g} mm {saved.grade_name}.{bored}{side}"


def _notes(saved: SplitClamp) -> list[str]:
    clamp, torque = drawn_with(saved)
    return [
        "friction alone holds it: bare dry metal under it, no paint and no grease; a witness mark over its edge shows whether it has moved",
        f"each clamp bolt at {torque:.0f} N·m ({clamp / 1000:.0f} kN), the two of a clamp by turns, the gap alike on both sides; again after the first outing",
        "where it alone keeps an axle or a wheel in its place, a stop that is welded or pinned beside it keeps it when it slips; common practice, no source",
        "the joint’s bolt is taken as bearing no deeper in either ear than it is thick itself: it bends, and bears at the ears’ inner faces",
        *(
            [
                f"under half of its usual {most_clamp(saved.clamp_bolt_mm, saved.clamp_class)[1]:.0f} N·m a bolt works loose; common practice, no source"
            ]
            if saved.torque_nm is not None
            and torque < 0.5 * most_clamp(saved.clamp_bolt_mm, saved.clamp_class)[1] - 1.0
            else []
        ),
        "what clamps a tube that bends all day wears it there: take it off and look, as the inspection of the job has it",
    ]


def _card(saved: SplitClamp, made: Sequence[JointMade], stands: Sequence[Stand | None]) -> Card:
    many, d = 2 * len(made) * saved.count, saved.clamp_bolt_mm
    _, torque = drawn_with(saved)
    cut = f"as cut {saved.bore_mm:g} mm small on its radius, and " if saved.bore_mm else ""
    lines = [
        CardLine(text="each half long, across the tube", mm=2 * half_wide(saved)),
        CardLine(text="tube’s middle to the shoulders", mm=saved.shoulder_mm),
        CardLine(text="tube’s middle to the other half’s back", mm=saved.cap_mm),
        CardLine(text="between the halves, over a shim as thick while they are drilled and bored", mm=saved.gap_mm),
        CardLine(text="holes of the clamp bolts, edgewise through both halves, in the middle of the plate; apart", mm=2 * saved.apart_mm, strong=True),
        across(text="their diameter", mm=d + CLEAR),
        across(text=f"bore, {cut}both halves drawn together, bored as one to the tube as it measures", mm=saved.tube_od.mm, strong=True),
        CardLine(text="tube’s middle to the joint’s hole", mm=saved.height.mm, strong=True),
        across(text="hole, bored through both ears in line", mm=saved.hole.mm),
        *lighter_lines(as_pair(saved), SPLIT_CLAMP.on_foot(saved, made[0].gap)[0]),
        *extra_lines(saved.extra),
        CardLine(text=f"clamp bolts M{d:g}, class {saved.clamp_class}, {torque:.0f} N·m, to order", mm=_length(saved)),
        CardLine(text="between the ears", mm=made[0].gap),
        *(CardLine(text="shim beside the ball, each side", mm=one.joint.shim_mm) for one in made if one.joint.shim_mm),
        CardLine(text=f"{made[0].bolt.label if made[0].bolt else 'bolt'}, grip", mm=made[0].gap + 2 * saved.plate.mm),
    ]  # fmt: skip
    for stand in stands:
        lines += set_out(stand, saved.side) if stand else []
    return Card(figures=(Figure(label=f"Cut {many} of each half, plate", mm=saved.plate.mm, note=saved.grade_name),), lines=tuple(lines))  # fmt: skip


def _flat(saved: SplitClamp, contour: Contour, name: str, ends: tuple[float, float]) -> Drawing:
    """A half alone at 1:1, its origin at the lower left of its bounds: what the DXF holds; where its bolts go marked at both of its edges."""
    left, low, right, high = contour.bounds
    sheet = Sheet(name=name, title=saved.name, width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    for x in (-saved.apart_mm, saved.apart_mm):
        for at, way in ((ends[0], 1.0), (ends[1], -1.0)):
            sheet.line(frame.at(x, at), frame.at(x, at + way * MARKED), "mark")
    sheet.text(frame.at(0.0, (low + ends[0]) / 2 if name == OTHER_FLAT else saved.tube_od.mm / 2 + 2.0), f"drill ⌀{saved.clamp_bolt_mm + CLEAR:g} edgewise at the marks", 3.0, "middle")  # fmt: skip
    if name == EARED_FLAT:
        whole = eared_with(saved)
        cross_holes(sheet, frame, whole)
        for hole in (one for one in whole.holes[1:] if one.diameter < saved.plate.mm):
            sheet.text(frame.at(hole.x, hole.y - hole.diameter / 2 - 4.5), f"drill ⌀{hole.diameter:g}", 3.0, "middle")
        if saved.hole.mm < saved.plate.mm:
            sheet.text(frame.at(0.0, saved.height.mm - saved.hole.mm / 2 - 6.0), f"drill ⌀{saved.hole.mm:g}, both ears in line", 3.0, "middle")  # fmt: skip
    return sheet.done()


MARKED = 5.0  # mm of a mark from an edge
SPLIT_CLAMP = SplitClampKind()
