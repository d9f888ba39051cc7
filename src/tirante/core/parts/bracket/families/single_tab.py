"""The single tab: one plate on its edge, on a flat or on a round tube at any angle, that goes between the ears of a clevis.

The clevis takes its bolt in double shear; the plate takes all that pulls. To what is common with pairs of tabs it is two plates that lie in
one another (`ForkMade`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import cos, floor, radians, sin
from typing import Any, Literal

import numpy as np

from tirante.core.checks.result import CheckResult, weaker_of_each, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.end import DamperEye
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, choice, number, special
from tirante.core.document.parts.bracket import FlatBase, SaddleBase, TabPair
from tirante.core.document.parts.single_tab import SingleTab
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError, NotApplicable
from tirante.core.parts.around import Around
from tirante.core.parts.bracket.families.eared import HoledKind
from tirante.core.parts.bracket.families.extra import EXTRA_FIELDS, extra_lines
from tirante.core.parts.bracket.families.held import joints_held, leaning_told
from tirante.core.parts.bracket.families.lightened import LIGHTEN_FIELDS, lighter_lines, more_told
from tirante.core.parts.bracket.families.place_view import contour_points, place_sheet
from tirante.core.parts.bracket.families.searched import ears_become
from tirante.core.parts.bracket.families.tab_checks import NOT_CHECKED as OF_TABS
from tirante.core.parts.bracket.families.tab_checks import (
    Runs,
    foot_check,
    lug_checks,
    outer_room,
    pin_checks,
    slants,
    throat_of,
    weld_check,
    weld_leg,
)
from tirante.core.parts.bracket.families.tab_fields import (
    BOLT_FIELDS,
    MOUNT_FIELDS,
    PLATE_FIELDS,
    STANDS_FIELDS,
    hole_lines_cut,
    metal_fields,
    ream_faults,
    ream_fields,
    shape_faults,
)
from tirante.core.parts.bracket.families.tab_outline import TabOutline
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket.families.tab_sizing import (
    FEET,
    USUAL_LEG,
    outlines_of,
    proportioned,
    that_lies,
    that_stands,
)
from tirante.core.parts.bracket.families.tab_told import place_views, where_lines
from tirante.core.parts.bracket.families.tab_view import PACKED, tab_flat, tab_sheet
from tirante.core.parts.bracket.families.wall_checks import wall_checks, wall_of
from tirante.core.parts.feet import too_near
from tirante.core.parts.joint import ForkMade, JointMade, bolt_pieces
from tirante.core.parts.kind import ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View
from tirante.core.parts.stands import Stand, fitted_on, right_side_lacks, stands_true
from tirante.core.quantities import MINUS, or_less, or_more
from tirante.core.units import STEEL_DENSITY

TURNS_FREE = 2.0  # mm, between the plate's end and the bottom of its fork, and between its ears' ends and the fillets; common practice, no source
NOT_CHECKED = (*OF_TABS, "the clevis itself: its ears and its pin are judged at its own part")


class SingleOwn(Out):
    """What only a single tab has [mm]."""

    kind: Literal["single_tab"] = "single_tab"
    grip_mm: float
    free_mm: float
    holds: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class SingleMade:
    """A single tab with its outline and the clevises that it holds."""

    outline: TabOutline
    joints: tuple[ForkMade, ...]
    stands: tuple[Stand | None, ...]


def as_pair(saved: SingleTab) -> TabPair:
    """It as the two plates, lying in one another, that it is to joint, foot and wall.

    Args:
        saved: as it is.
    """
    return TabPair(
        id=saved.id, name=saved.name, side=saved.side, note=saved.note, plate=saved.plate, grade_name=saved.grade_name, yield_mpa=saved.yield_mpa,
        uts_mpa=saved.uts_mpa, hole=saved.hole, ream_mm=saved.ream_mm, head_radius=saved.head_radius, edge=saved.edge, base_width=saved.base_width,
        height=saved.height, height_fixed=saved.height_fixed, base=saved.base, lighten=saved.lighten, extra=saved.extra, weld_leg_mm=saved.weld_leg_mm,
        load_angle_deg=saved.load_angle_deg,
    )  # fmt: skip


def outline_of(saved: SingleTab) -> TabOutline:
    """The contour of its plate.

    Args:
        saved: as it is.

    Raises:
        InputError, NotApplicable: with its own fields.
    """
    return outlines_of(as_pair(saved), -saved.plate.mm)[0]


def runs_of(saved: SingleTab) -> Runs:
    """Its fillets, along both faces: x along the foot, y along the bolt [mm]. What goes round its ends is not counted.

    Args:
        saved: as it is.
    """
    half, t = saved.base_width.mm / 2, saved.plate.mm / 2
    return [(-half, t, half, t), (-half, -t, half, -t)]


def in_fork(made: JointMade, plate: float) -> ForkMade:
    """A clevis with a plate of so many millimetres between its ears.

    Args:
        made: the joint.
        plate: thickness [mm].
    """
    return ForkMade(joint=made.joint, held=made.held, bolt=made.bolt, spacer=None, plate=plate)


def goes_between(saved: SingleTab, made: ForkMade) -> list[Misfit]:
    """What of it does not go between the ears of a clevis, or does not let that turn.

    Args:
        saved: as it is.
        made: the joint.
    """
    fork, out = made.fork, []
    if saved.plate.mm > fork.gap + 1e-9:
        out.append(Misfit(field="plate", message=f"The plate is {saved.plate.mm:g} mm thick, and the clevis’s ears stand {fork.gap:g} mm apart: {or_less(fork.gap)} mm or less goes between them."))  # fmt: skip
    most = fork.floor - TURNS_FREE
    if saved.edge.mm > most + 1e-9:
        out.append(Misfit(field="edge", message=f"It reaches {saved.edge.mm:.1f} mm past its hole, and the bottom of the fork stands {fork.floor:.1f} mm from it: {or_less(most)} mm or less turns there."))  # fmt: skip
    least = fork.edge + saved.weld_leg_mm + TURNS_FREE
    if saved.height.mm < least - 1e-9:
        cure = "Move the mount away from it, lay a smaller fillet" if saved.height_fixed else "Raise the hole, lay a smaller fillet"  # fmt: skip
        out.append(Misfit(field="height", message=f"The clevis’s ears reach {fork.edge:.1f} mm past its pin, and strike the fillets: its hole asks {or_more(least)} mm or more over its foot. {cure}, or shorten the ears."))  # fmt: skip
    return out


def asks_depth(saved: SingleTab, made: ForkMade) -> float:
    """How deep a fork must be, from its hole, for what it holds to turn round this plate as far as what pulls turns [mm]; past its end alone where that is not known.

    Args:
        saved: as it is.
        made: the joint.

    Raises:
        InputError, NotApplicable: it cannot be cut.
    """
    reach = saved.edge.mm
    if saved.load_angle_deg is not None:
        pair = as_pair(saved)
        points = np.array(contour_points(outline_of(saved).contour)) - (0.0, saved.height.mm)
        ends = np.roll(points, -1, axis=0)
        every = np.concatenate([points + share * (ends - points) for share in np.linspace(0.0, 1.0, ALONG, endpoint=False)])  # fmt: skip
        low, high = slants(pair, made.held)
        steps = np.radians(np.linspace(low, high, max(2, round((high - low) / STEP) + 1)))
        ways = np.concatenate(
            [[np.sin(steps), np.cos(steps)], [-np.sin(steps), np.cos(steps)]], axis=1
        )  # to either side
        along, beside = every @ ways, np.abs(every @ np.stack([-ways[1], ways[0]]))
        reach = max(reach, float(np.where(beside <= made.fork.width / 2, along, -np.inf).max()))
    return reach + TURNS_FREE


def swings_clear(saved: SingleTab, made: ForkMade) -> list[Misfit]:
    """Whether the metal behind the fork clears the plate's sides, as far as what pulls turns; nothing where that is not known.

    Args:
        saved: as it is.
        made: the joint.

    Raises:
        InputError, NotApplicable: it cannot be cut.
    """
    if saved.load_angle_deg is None:
        return []
    asks, (low, high) = asks_depth(saved, made), slants(as_pair(saved), made.held)
    if asks <= made.fork.floor + 1e-6:
        return []
    return [Misfit(field="base_width", message=f"What it holds leaves it at {low:.0f}° to {high:.0f}° from its axis, and strikes its side with the bottom of its fork: make the foot narrower, or the fork {or_more(asks)} mm deep or more from its hole.".replace("-", MINUS))]  # fmt: skip


ALONG = 24  # places along every edge of an outline
STEP = 2.0  # °
SQUARE = 0.7  # rad past square to the tab's axis, from which no straight plate clears what it holds


def beside_it(saved: SingleTab) -> list[Misfit]:
    """Whether there is face enough beside it for its fillets.

    Args:
        saved: as it is.
    """
    room, leg = outer_room(as_pair(saved), -saved.plate.mm), weld_leg(as_pair(saved))
    if room is None or room >= leg - 1e-9:
        return []
    return [Misfit(field="weld_leg_mm", message=f"The face ends {max(room, 0.0):.1f} mm beside the plate, and a fillet of {leg:g} mm lies on no less. Lay a smaller one, or give it another mount.")]  # fmt: skip


def single_checks(saved: SingleTab, made: ForkMade, settings: Settings) -> list[CheckResult]:
    """All checks of it at a clevis, but of the wall under it; none while no bolt is chosen.

    Args:
        saved: as it is.
        made: the joint.
        settings: factors, electrode.
    """
    if made.bolt is None:
        return []
    pair, bolt = as_pair(saved), made.bolt
    # its bolt is carried by the clevis's ears, and the plate is what pulls between them
    ears = pair.model_copy(update={"plate": Length(mm=made.fork.ear)})
    eye, t = made.held.row, saved.plate.mm
    row = DamperEye(bore_mm=eye.bore_mm, ball_width_mm=t, head_diameter_mm=eye.head_diameter_mm, housing_width_mm=t)
    across = JointMade(
        joint=made.joint.model_copy(update={"shim_mm": max(0.0, made.free)}), held=replace(made.held, row=row), bolt=bolt, spacer=None
    )  # fmt: skip
    return [
        *pin_checks(ears, across, bolt, settings),
        *lug_checks(pair, bolt.diameter_mm, made.held, settings, made.plates),
        *SINGLE_TAB.holed_checks(saved, made, settings),
        foot_check(pair, made, settings, outside=False),
        weld_check(pair, made, settings, runs_of(saved)),
    ]


class SingleTabKind(HoledKind[SingleTab]):
    """Single tabs."""

    key = "single_tab"
    word = "single tab"
    saved = SingleTab
    own = SingleOwn
    single = True
    has_room = True
    thickest = 15.0
    searches = "Plates of the usual thicknesses that go between the clevis’s ears, feet of several widths, and every bolt that goes through are judged against all checks."
    fields = (
        FieldGroup(title="Where", fields=[
            special("joints", "It holds"),
            choice("base/kind", "It stands on", [("flat", "a flat"), ("saddle", "a round tube")]),
            *STANDS_FIELDS,
            *MOUNT_FIELDS,
        ]),
        FieldGroup(title="Plate", fields=[
            Field(path="plate", label="Thickness", control="length"),
            Field(path="hole", label="Hole", control="length"),
            *ream_fields(SingleTab),
            *PLATE_FIELDS,
            *metal_fields(SingleTab),
        ]),
        LIGHTEN_FIELDS,
        EXTRA_FIELDS.model_copy(update={"note": "a clip, a lamp"}),
        FieldGroup(title="Bolt", note="through both ears of the clevis and the plate", fields=[one for one in BOLT_FIELDS.fields if one.path in ("bolt", "thread_in_plane")]),
        FieldGroup(title="Load and weld", fields=[
            number(SingleTab, "load_angle_deg", "Pull from the tab’s axis, at ride height", "°", optional=True, empty="not known: every way"),
            number(SingleTab, "weld_leg_mm", "Fillet leg, along both faces", "mm"),
        ]),
    )  # fmt: skip

    def begins(self, saved: SingleTab) -> dict[str, Any]:
        """What it stands on when that is changed."""
        wall = saved.base.wall_mm
        return super().begins(saved) | {
            "base/kind=flat": FlatBase(wall_mm=wall).model_dump(),
            "base/kind=saddle": SaddleBase(tube_od=Length(mm=76.2, typed="3 in"), wall_mm=wall).model_dump(),
        }

    def begun(self, pair: TabPair) -> SingleTab:
        """One in the place of a pair of tabs."""
        return single_for(pair, None)

    def fitted(self, saved: SingleTab, stand: Stand, made: JointMade | None) -> SingleTab:
        """Cut for what it stands on; as it is on a box's corner, where none stands."""
        del made
        pair = fitted_on(as_pair(saved), stand)
        if not isinstance(pair.base, FlatBase | SaddleBase):
            return saved
        return saved.model_copy(update={name: getattr(pair, name) for name in ("base", "height", "height_fixed", "base_width", "load_angle_deg")})  # fmt: skip

    def as_pair(self, saved: SingleTab) -> TabPair:
        """It as two plates that lie in one another."""
        return as_pair(saved)

    def ears(self, saved: SingleTab, gap: float) -> tuple[TabOutline, ...]:
        """Its plate."""
        del gap
        return (outline_of(saved),)

    def checks_at(self, saved: SingleTab, made: ForkMade, stand: Stand | None, settings: Settings) -> list[CheckResult]:
        """All checks of it at a joint, and of the wall that it stands on.

        Args:
            saved: as it is.
            made: the joint.
            stand: where; None: on nothing that is entered.
            settings: factors, electrode.
        """
        return [*single_checks(saved, made, settings), *wall_checks(as_pair(saved), made, stand, settings)]

    def judged(
        self, saved: SingleTab, made: Sequence[JointMade], settings: Settings, stands: Sequence[Stand]
    ) -> tuple[CheckResult, ...]:
        """Its checks, weakest first; what does not go between the ears, or cannot be cut, is refused."""
        outline_of(saved)
        between = [in_fork(one, saved.plate.mm) for one in made]
        lacks = [*beside_it(saved), *(fault for one in between for fault in (*goes_between(saved, one), *swings_clear(saved, one)))]  # fmt: skip
        if lacks:
            raise InputError(lacks[0].message, code="contradictory", fields=(lacks[0].field,))
        on: Sequence[Stand | None] = stands if len(stands) == len(made) else [None] * len(made)
        every = [check for one, stand in zip(between, on, strict=True) for check in self.checks_at(saved, one, stand, settings)]  # fmt: skip
        return weakest_first(weaker_of_each(every))

    def proportioned(self, saved: SingleTab, made: JointMade, plate: float, wider: float) -> Sequence[SingleTab]:
        """Its sizes for a bolt and a plate, no longer past its hole than the fork is deep."""
        assert made.bolt
        assert made.held.fork
        fork, pair = made.held.fork, as_pair(saved)
        if plate > fork.gap:
            return ()
        one = ears_become(saved, pair.model_copy(update=proportioned(made.held.row, made.bolt, plate, pair)))
        most = fork.floor - TURNS_FREE
        edge = min(one.edge.mm, most)
        change: dict[str, Any] = {
            "edge": Length(mm=edge), "head_radius": Length(mm=min(one.head_radius.mm, edge)), "base_width": Length(mm=round(one.base_width.mm * wider, 1)),
            "weld_leg_mm": max(saved.weld_leg_mm, min(plate, USUAL_LEG)) if wider > 1.0 else saved.weld_leg_mm,
        }  # fmt: skip
        if not saved.height_fixed:
            change["height"] = Length(mm=max(one.height.mm, fork.edge + change["weld_leg_mm"] + TURNS_FREE))
        plain = one.model_copy(update=change)
        if wider > FEET[0]:
            return (plain,)
        # with straight sides too, so narrow that what leaves it aslant clears those
        straight = plain.model_copy(update={"base_width": Length(mm=2 * change["head_radius"].mm)})
        past = radians(max(0.0, slants(pair, made.held)[1] - 90.0)) if saved.load_angle_deg is not None else 0.0
        slim = floor(2 * (most - fork.width / 2 * sin(past)) / cos(past)) / 2 if past < SQUARE else 0.0
        if slim <= made.bolt.diameter_mm / 2 or slim >= straight.head_radius.mm:
            return straight, plain
        slimmer = straight.model_copy(update={"head_radius": Length(mm=slim), "base_width": Length(mm=2 * slim)})
        return slimmer, straight, plain

    def fit(self, saved: SingleTab, made: JointMade, stands: Sequence[Stand]) -> SingleTab:
        """Its foot as wide as what it stands on lets it be."""
        del made
        try:
            pair = that_lies(that_stands(as_pair(saved), -saved.plate.mm), -saved.plate.mm, stands)
        except (InputError, NotApplicable):  # it says so itself when it is judged
            return saved
        return saved.model_copy(update={"base_width": pair.base_width})

    def past(self, saved: SingleTab, stands: Sequence[Stand], made: JointMade) -> str:
        """Why it does not stand on its mounts."""
        del made
        return TAB_PAIR.past(as_pair(saved), stands, -saved.plate.mm)

    def area(self, saved: SingleTab, gap: float) -> float:
        """Of its plate [mm²]."""
        del gap
        return outline_of(saved).contour.area

    def work_out(self, saved: SingleTab, around: Around) -> Part:
        """Outline, checks at every clevis that it holds, the plate to cut, bolts beside."""
        found, stands, faults = joints_held(
            saved.id, saved.hole.mm, around, lambda one, stand: _faults_at(saved, one, stand), single=saved.plate.mm
        )
        made = [in_fork(one, saved.plate.mm) for one in found]
        for joint in around.held_by(saved.id):
            foot = around.foot_of(joint)
            faults += too_near(as_pair(saved), foot[1]) if foot is not None and joint.mount is None else ()
        faults += [*ream_faults(saved.hole.mm, saved.ream_mm), *beside_it(saved)]
        outline: TabOutline | None = None
        checks: list[CheckResult] = []
        try:
            outline = outline_of(saved)
            faults += [fault for one in made for fault in swings_clear(saved, one)]
            if not faults:
                checks = [check for one, stand in zip(made, stands, strict=True) for check in self.checks_at(saved, one, stand, around.settings)]  # fmt: skip
        except (InputError, NotApplicable) as error:
            faults += shape_faults(error, holes="hole")
        pair = as_pair(saved)
        leaning = [told for stand in stands if stand is not None for told in leaning_told(stand)]
        swings = [] if saved.load_angle_deg is not None else ["whether its fork clears the plate’s sides: where the pull points is not given"]  # fmt: skip
        unlooked = dict.fromkeys([*NOT_CHECKED, *swings, *_walls(pair, stands), *leaning, *(told for one in made for told in one.held.not_checked)])  # fmt: skip
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_carried": TAB_PAIR.not_carried_by(pair, around), "not_checked": tuple(unlooked),
            "made_of": (f"plate {saved.plate.mm:g} mm", saved.grade_name),
        }  # fmt: skip
        if faults or outline is None or not made:
            return Part(**common, faults=tuple(dict.fromkeys(faults)))
        left, low, right, high = outline.contour.bounds
        reamed = f", cut {saved.hole.mm - saved.ream_mm:g} mm, reamed after welding" if saved.ream_mm else ""
        plate = PlatePiece(
            name="", material=saved.grade_name, thickness=saved.plate.mm, length=high - low, width=right - left, outline=outline.contour.under(saved.ream_mm, 1),
            told=f"hole {saved.hole.mm:g} mm{reamed}{more_told(pair, outline.contour, 1)}", count=len(made), sort="tab",
        )  # fmt: skip
        beside: list[Piece] = [piece for one in made for piece in bolt_pieces(one, one.fork.outer, "clamps the clevis on it")]  # fmt: skip
        return Part(
            **common, pieces=(plate,), beside=tuple(beside), checks=weakest_first(weaker_of_each(checks)),
            mass=outline.contour.area * saved.plate.mm * len(made) * STEEL_DENSITY,
            views=(View(name="tab", title="in its clevis"), *place_views(stands), View(name="tab-flat", title="1:1 template", cut=True, plate="", told=_told(saved))),
            card=_card(saved, outline, made, stands), notes=tuple(_notes(saved, outline, stands)),
            own=SingleMade(outline=outline, joints=tuple(made), stands=tuple(stands)),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """In its clevis, on its member, or flat at 1:1."""
        saved, made = part.saved, part.own
        assert isinstance(saved, SingleTab)
        assert isinstance(made, SingleMade)
        pair = as_pair(saved)
        if asked.name == "tab":
            return tab_sheet(pair, made.outline, made.joints, numbers, inside=True)
        if asked.name == "tab-flat":
            return tab_flat(pair, made.outline)
        if asked.name.startswith("place"):
            which = int(asked.name.removeprefix("place").removeprefix("-") or 1) - 1
            stand = made.stands[which]
            assert stand
            return place_sheet(pair, (made.outline,), made.joints[which], stand, numbers)
        return super().draw(part, asked, numbers)

    def told(self, part: Part) -> SingleOwn | None:
        """Grip, and what is free beside it."""
        made = part.own
        if not isinstance(made, SingleMade):
            return None
        first = made.joints[0]
        return SingleOwn(grip_mm=first.fork.outer, free_mm=first.free, holds=[one.held.name for one in made.joints])


def _faults_at(saved: SingleTab, made: JointMade, stand: Stand | None) -> list[Misfit]:
    """What does not go together at one of its joints."""
    faults = goes_between(saved, in_fork(made, saved.plate.mm))
    if stand is None:
        return faults
    lacks = right_side_lacks(stand, saved.base_width.mm / 2, saved.plate.mm / 2) if saved.side == "pair" else ""
    return [*faults, *stands_true(as_pair(saved), stand, -saved.plate.mm), *([Misfit(field="mount", message=lacks)] if lacks else [])]  # fmt: skip


def _walls(pair: TabPair, stands: Sequence[Stand | None]) -> list[str]:
    """What of what it stands on is not judged."""
    told = []
    for stand in stands:
        wall = wall_of(pair, stand) if stand is not None else "what it is welded to"
        told.append(wall if isinstance(wall, str) else f"what else {stand.mount.name} carries, and what is pulled along its skin")  # type: ignore[union-attr]  # fmt: skip
    return told or ["what it is welded to"]


def single_for(pair: TabPair, stand: Stand | None) -> SingleTab:
    """A single tab where a pair of tabs was proposed.

    Args:
        pair: proposed.
        stand: where; None: not said.
    """
    one = SingleTab(
        id=pair.id, name=pair.name.replace(", tabs", ", single tab"), side=pair.side, plate=pair.plate, hole=pair.hole, head_radius=pair.head_radius,
        edge=pair.edge, base_width=pair.base_width, height=pair.height,
    )  # fmt: skip
    return one if stand is None else SINGLE_TAB.fitted(one, stand, None)


def _told(saved: SingleTab) -> str:
    side = " The right side’s is the same turned over." if saved.side == "pair" else ""
    return f"{saved.plate.mm:g} mm {saved.grade_name}.{side}"


def _notes(saved: SingleTab, outline: TabOutline, stands: Sequence[Stand | None]) -> list[str]:
    pair, notes = as_pair(saved), [*outline.warnings]
    leg, share = weld_leg(pair), throat_of(pair, -saved.plate.mm)
    if leg < saved.weld_leg_mm:
        notes.append(f"its fillets are counted, and laid, at {leg:g} mm: {saved.weld_leg_mm:g} mm burns through")
    if share < THROAT - 1e-3:
        notes.append(f"it leans to what it stands on: a throat of {share:.2f} of the leg is counted, not {THROAT:.2f}")
    wall = saved.base.wall_mm
    if wall is not None and wall < saved.plate.mm and any(stand is None or isinstance(wall_of(pair, stand), str) for stand in stands):  # fmt: skip
        notes.append(f"what it is welded to is {wall:g} mm, thinner than the plate")
    return notes


THROAT = 0.707  # of a right-angled fillet's leg


def _card(saved: SingleTab, outline: TabOutline, made: Sequence[ForkMade], stands: Sequence[Stand | None]) -> Card:
    first = made[0]
    many = len(made) * saved.count
    turned = isinstance(saved.base, SaddleBase) and abs(saved.base.angle_deg - 90.0) > 1e-9
    lines = [
        *hole_lines_cut(saved.hole.mm, saved.ream_mm, "centre-punched from the template"),
        CardLine(text="foot to hole", mm=saved.height.mm),
        CardLine(text="between the clevis’s ears", mm=first.fork.gap, strong=True),
        *([CardLine(text="washer beside the plate, each side, thick", mm=first.free)] if first.free > PACKED else []),
        *([CardLine(text=f"at {saved.base.angle_deg:g}° to the tube: mark which way it looks", strong=True)] if turned else []),  # type: ignore[union-attr]
        *lighter_lines(as_pair(saved), outline),
        *extra_lines(saved.extra),
        CardLine(text="fillets along both faces, round its ends; leg", mm=weld_leg(as_pair(saved))),
        CardLine(text=f"{first.bolt.label if first.bolt else 'bolt'}, through both ears, grip", mm=first.fork.outer),
        *where_lines(made, stands, saved.side),
    ]  # fmt: skip
    return Card(
        figures=(Figure(label=f"Cut {many}, thickness", mm=saved.plate.mm, note=saved.grade_name),), lines=tuple(lines)
    )


SINGLE_TAB = SingleTabKind()
