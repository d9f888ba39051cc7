"""Steering racks as a kind of part: bought whole, held by two feet, judged by what their bolts hold and by the maker's rating."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.forms.table import FieldGroup, choice, number
from tirante.core.document.joints import PointOfBody
from tirante.core.document.parts.steering_rack import SteeringRack
from tirante.core.document.settings import Settings
from tirante.core.document.template import GROUND, RACK, LinkJoint, Template
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.end_loads import UNHELD, Carried
from tirante.core.members.two_feet import PushedAt, at_feet
from tirante.core.parts.anti_roll_bar.judged import two_bolts
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.bearing import Bearing, BearingCase, BearingSeen
from tirante.core.parts.joint import plain_bolt
from tirante.core.parts.kind import Kind, MadeFrom, ViewAsked
from tirante.core.parts.part import BoughtPiece, Card, CardLine, Figure, Misfit, Part, View
from tirante.core.parts.stands import MIRROR
from tirante.core.parts.worst import worst_case
from tirante.core.suspension.duty import Duty
from tirante.core.suspension.moving import Moving

Array = NDArray[np.float64]
ALONG = np.array([0.0, 1.0, 0.0])  # a rack runs across the car
NOT_CHECKED = (
    "the rack itself: bar, teeth, bearings, seals (bought)", "what its pinion and the column put on its feet", "its two feet sharing what pushes it along: each is judged with the whole",
    "the room round it: nothing looks there", "wear and play",
)  # fmt: skip
UNSEEN = (
    "what the steering column puts on the rack",
    "what pushes the rack along, as it turns a foot over on its two bolts: how long its foot is along the rack is not known",
)


class SteeringRackOwn(Out):
    """What only a rack has."""

    kind: Literal["steering_rack"] = "steering_rack"
    length_mm: float
    apart_mm: float
    along_n: float
    foot_n: float
    case: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RackCase:
    """A rack in one case: along it, and on each of its feet as the left one is."""

    case: str
    where: str
    pushed: tuple[PushedAt, ...]  # by its tie rods: along it to the left from the car's middle, then ahead, and up
    along: float  # both tie rods' together, to the left [N]
    feet: tuple[Array, Array]  # left, right as the left one sees it (3), in the car [N]


@dataclass(frozen=True, slots=True, kw_only=True)
class RackMade:
    """A rack with its core objects."""

    length: float  # tie rod's joint to tie rod's joint, at ride height [mm]
    cases: tuple[RackCase, ...]


def rods_of(template: Template) -> tuple[tuple[str, str, int], ...]:
    """The links that a rack moves, each with its point on it, and which of its ends that is: 0 or 1.

    Args:
        template: of the end.
    """
    return tuple((joint.name, place.point, i) for joint in template.joints if isinstance(joint, LinkJoint) for i, place in enumerate(joint.places) if place.body == RACK)  # fmt: skip


def rack_case(one: Carried, rods: Sequence[tuple[str, str, int]], apart: float) -> RackCase | None:
    """What a case puts on a rack's feet; None where it was not carried.

    Args:
        one: carried by the end.
        rods: links on the rack.
        apart: between its feet [mm].
    """
    forces = one.forces
    if forces is None or one.fault:
        return None
    ends = {name: at for name, _, at in rods}
    pushed = []
    for link, axial in forces.axial.items():
        at = ends.get(link.partition(",")[0])
        if at is None:
            continue
        own, other = forces.ends[link][at], forces.ends[link][1 - at]
        pull = axial * (other - own) / np.linalg.norm(other - own)
        # along the rack first, as its feet count
        pushed.append(PushedAt(x=float(own[1]), force=np.array([pull[1], pull[0], pull[2]])))
    right, left = (np.array([foot[1], foot[0], foot[2]]) for foot in at_feet(apart, pushed))
    along = float(sum(push.force[0] for push in pushed))
    return RackCase(case=one.name, where=one.where, pushed=tuple(pushed), along=along, feet=(left, right * MIRROR))


class SteeringRackKind(Kind[SteeringRack]):
    """Steering racks."""

    key = "steering_rack"
    word = "steering rack"
    duty: Duty = "steers"
    saved = SteeringRack
    own = SteeringRackOwn
    bought = True
    of_tubes = False
    has_room = True
    fields = (
        FieldGroup(title="As it is bought", note="its line is where the tie rods’ inner joints are", fields=[
            number(SteeringRack, "housing_mm", "Housing, outside", "mm"),
            number(SteeringRack, "rating_n", "What it bears along itself (maker’s)", "N", optional=True, empty="not given"),
        ]),
        FieldGroup(title="Its two feet", note="alike either side of the car’s middle", fields=[
            number(SteeringRack, "apart_mm", "Foot to foot, along it", "mm"),
            number(SteeringRack, "pitch_mm", "Bolt to bolt of a foot, across it", "mm", optional=True, empty="not given"),
            number(SteeringRack, "high_mm", "Rack’s line over the feet", "mm", optional=True, empty="not given"),
            number(SteeringRack, "bolt_mm", "Bolts", "mm"), choice("bolt_class", "Their class", ["8.8", "10.9", "12.9"]),
        ]),
    )  # fmt: skip

    def work_out(self, saved: SteeringRack, around: Around) -> Part:
        """Its feet under every case."""
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "not_carried": not_carried(saved.of_end, around),
            "made_of": (f"housing ⌀{saved.housing_mm:g} mm", "bought whole"),
        }  # fmt: skip
        found = self._made(saved, around)
        if isinstance(found, Misfit):
            return Part(**common, faults=(found,))
        made, left_out = found
        common["not_carried"] += left_out
        checks = _checks(saved, made.cases, around.settings) if made.cases else []
        notes = () if saved.rating_n else ("what the rack bears along itself is not judged: give its maker’s rating",)
        told = f"steering rack, {made.length:.1f} mm between its tie rods’ joints, feet {saved.apart_mm:g} mm apart"
        bolts = plain_bolt(saved.bolt_mm, saved.bolt_class, "for the rack’s feet", count=4)
        return Part(
            **common, pieces=(BoughtPiece(sort="steering rack", what=told),), beside=(bolts,), checks=weakest_first(checks), mass=None,
            views=(View(name="drawing", title="on its feet"),), card=_card(saved, made.length), notes=notes, own=made,
        )  # fmt: skip

    def _made(self, saved: SteeringRack, around: Around) -> tuple[RackMade, tuple[NotCarried, ...]] | Misfit:
        lost = saved.lost(around.ends)
        if lost:
            return Misfit(field="end_id", message=lost)
        rods = rods_of(around.template(saved.end_id))
        if len(rods) != 1:
            return Misfit(field="end_id", message="No tie rod of this end goes to a rack. Take the rack out, or choose another kind of suspension.")  # fmt: skip
        end = around.ends[saved.end_id]
        inner = end.points.get(rods[0][1])
        if inner is None:
            return Misfit(field="end_id", message="The tie rod’s inner joint has no place yet. Give it at Layout.")
        if not end.alike(rods[0][1]):
            return Misfit(field="end_id", message="The right tie rod’s inner joint is not the left one’s mirror image: only a rack that stands alike on both sides is judged here. Pair its points at Layout.")  # fmt: skip
        if saved.apart_mm > 2 * abs(inner[1]):
            return Misfit(field="apart_mm", message=f"The feet stand {saved.apart_mm:g} mm apart, and the rack’s ends {2 * abs(inner[1]):.1f}. Set them nearer.")  # fmt: skip
        cases: list[RackCase] = []
        left_out: list[NotCarried] = []
        if around.has_loads():
            try:
                for one in around.carried(saved.end_id).cases:
                    if one.unheld:
                        left_out.append(NotCarried(case=one.name, why=UNHELD))
                    elif (case := rack_case(one, rods, saved.apart_mm)) is not None:
                        cases.append(case)
            except InputError as error:
                return Misfit(field=(error.fields or ("end_id",))[0], message=error.message)
        return RackMade(length=2 * abs(float(inner[1])), cases=tuple(cases)), tuple(left_out)

    def told(self, part: Part) -> SteeringRackOwn | None:
        """The most that pushes it along, and that a foot bears."""
        made, saved = part.own, part.saved
        if not isinstance(made, RackMade) or not isinstance(saved, SteeringRack):
            return None
        worst = max(made.cases, key=_hardest, default=None)
        return SteeringRackOwn(
            length_mm=made.length, apart_mm=saved.apart_mm, along_n=max((abs(one.along) for one in made.cases), default=0.0),
            foot_n=_hardest(worst) if worst else 0.0, case=worst.case if worst else "",
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """From the front, on its feet."""
        made, saved = part.own, part.saved
        assert isinstance(saved, SteeringRack)
        if asked.name != "drawing" or not isinstance(made, RackMade):
            return super().draw(part, asked, numbers)
        return _sheet(saved, made, numbers)

    def housings(self, saved: SteeringRack, around: Around) -> tuple[tuple[Array, Array, float], ...]:
        """Housing and bellows, as wide as it, from one tie rod's joint to the other."""
        feet = self.bearings(saved, around)
        if not feet:
            return ()
        at = np.array(around.ends[saved.end_id].points[feet[0].held.point], float)
        return ((at, at * np.array([1.0, -1.0, 1.0]), saved.housing_mm / 2),)

    def bearings(self, saved: SteeringRack, around: Around) -> tuple[Bearing, ...]:
        """Its left foot; the right one is its mirror image."""
        if saved.lost(around.ends):
            return ()
        end, rods = around.ends[saved.end_id], rods_of(around.template(saved.end_id))
        inner = end.points.get(rods[0][1]) if len(rods) == 1 else None
        if inner is None:
            return ()
        return (
            Bearing(
                name="its feet", part_id=saved.id, part_name=saved.name, held=PointOfBody(end_id=saved.end_id, body=GROUND, point=rods[0][1]),
                at=np.array([inner[0], saved.apart_mm / 2, inner[2]], float), along=ALONG.copy(), bar=saved.housing_mm, bolt=saved.bolt_mm,
                bolt_class=saved.bolt_class, pitch=saved.pitch_mm, high=saved.high_mm, alike=end.alike(rods[0][1]), turns="rack", foot="foot", unseen=UNSEEN,
            ),
        )  # fmt: skip

    def at_bearings(self, saved: SteeringRack, around: Around) -> BearingSeen:
        """What it puts on either foot, each as the left one."""
        found = self._made(saved, around)
        if isinstance(found, Misfit):
            raise InputError(f"{saved.name}: {found.message}", code="not_complete", fields=("bar",))
        made, left_out = found
        cases = [
            BearingCase(case=f"{one.case}{told}", where=one.where, force=force)
            for one in made.cases
            for force, told in zip(one.feet, (", left foot", ", right foot"), strict=True)
        ]
        return BearingSeen(cases=tuple(cases), left_out=left_out)

    def span(self, part: Part) -> float | None:
        """Between its tie rods' joints."""
        return part.own.length if isinstance(part.own, RackMade) else None

    def tall(self, part: Part) -> float:
        """Its housing."""
        return part.saved.housing_mm  # type: ignore[attr-defined, no-any-return]

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """Between its tie rods' joints."""
        _drawn(sheet, Frame(*at, scale), part.saved, part.own.length, ref)  # type: ignore[arg-type]

    def may_be(self, template: Template, one: Moving) -> bool:
        """What tie rods are moved by."""
        return one.sort == "rack"

    def made_from(self, one: Moving, made: MadeFrom) -> SteeringRack:
        """With feet a third of its length apart."""
        del one
        (_, point, _), *_ = rods_of(made.template)
        inner = made.end.points.get(point)
        apart = round(abs(inner[1])) if inner and abs(inner[1]) > 1.0 else 300.0
        return SteeringRack(id=made.part_id, name=f"{made.end_name} steering rack"[:80], end_id=made.end_id, apart_mm=float(apart))  # fmt: skip


def _hardest(one: RackCase) -> float:
    return max(float(np.linalg.norm(foot)) for foot in one.feet)


def _checks(saved: SteeringRack, cases: Sequence[RackCase], settings: Settings) -> list[CheckResult]:
    factors, out = settings.factors, []
    if saved.rating_n:
        kind = asked("pivot_joint", "rack", factors, name="Along the rack, its rating")
        out.append(worst_case(kind, cases, lambda one: (abs(one.along) * kind.factor, None, saved.rating_n or 0.0)))
    bolted = asked("bearing_bolts", "feet", factors, name="Feet of the rack, their bolts")
    holds = two_bolts(saved.bolt_mm, saved.bolt_class)
    out.append(
        worst_case(bolted, cases, lambda one: (_hardest(one) * bolted.factor, _again(saved, one, bolted), holds))
    )
    return out


def _again(saved: SteeringRack, one: RackCase, kind: Asked) -> Reproduction:
    pushed = [{"x_mm": push.x, "force_n": [float(v) * kind.factor for v in push.force]} for push in one.pushed]
    return Reproduction(topic="two-feet", input={"apart_mm": saved.apart_mm, "pushed": pushed}, output="most_n", figure="demand")  # fmt: skip


def _drawn(sheet: Sheet, frame: Frame, saved: SteeringRack, length: float, ref: str | None) -> None:
    """Housing, bar and both feet, the left one on the right of the sheet as it is seen from the front."""
    half, body = saved.housing_mm / 2, min(0.9 * length, saved.apart_mm + 3 * saved.housing_mm)
    middle = length / 2
    sheet.box(frame.at(0, -0.3 * half), frame.at(length, 0.3 * half), "pale", ref=ref or "dim:length")
    sheet.box(frame.at(middle - body / 2, -half), frame.at(middle + body / 2, half), "steel", ref=ref or "field:housing_mm")  # fmt: skip
    low = saved.high_mm or 1.2 * half
    for way in (-1.0, 1.0):
        at = middle + way * saved.apart_mm / 2
        sheet.box(frame.at(at - 0.4 * half, -low), frame.at(at + 0.4 * half, half), "sheet", ref=ref or "field:apart_mm")  # fmt: skip
    for x in (0.0, length):
        sheet.circle(frame.at(x, 0), max(1.0, 0.4 * half * frame.scale), "visible", "pale", ref=ref or "joint")


def _sheet(saved: SteeringRack, made: RackMade, numbers: Numbers) -> Drawing:
    sheet = Sheet(name="rack", title=saved.name, width=217.0, height=100.0, numbers=numbers)
    scale = min(170.0 / made.length, 0.6)
    frame = Frame((217 - scale * made.length) / 2, 56.0, scale)
    sheet.scale = scale
    _drawn(sheet, frame, saved, made.length, None)
    middle, low = made.length / 2, saved.high_mm or 0.6 * saved.housing_mm
    foot, top = frame.at(0, -low)[1], frame.at(0, saved.housing_mm / 2)[1]
    feet = [frame.at(middle + way * saved.apart_mm / 2, 0)[0] for way in (-1.0, 1.0)]
    sheet.dimension((feet[0], foot), (feet[1], foot), saved.apart_mm, offset=-6.0, ref="field:apart_mm", note="foot to foot", tone="blue")  # fmt: skip
    sheet.dimension((frame.at(0, 0)[0], top), (frame.at(made.length, 0)[0], top), made.length, offset=8.0, ref="dim:length", note="between the tie rods’ joints")  # fmt: skip
    worst = max(made.cases, key=_hardest, default=None)
    if worst:
        sheet.text((10, 14), f"pushed along by {max(abs(one.along) for one in made.cases) / 1000:.1f} kN at most; a foot bears {_hardest(worst) / 1000:.1f} kN in “{worst.case}”", 3.0, ref="check:bearing_bolts")  # fmt: skip
    sheet.text((10, 8), "seen from the front; bought whole", 2.8, tone="muted")
    return sheet.done()


def _card(saved: SteeringRack, length: float) -> Card:
    lines = [CardLine(text="foot to foot, along it", mm=saved.apart_mm, strong=True)]
    if saved.pitch_mm:
        lines.append(CardLine(text="bolt to bolt of a foot, across it", mm=saved.pitch_mm))
    if saved.high_mm:
        lines.append(CardLine(text="rack’s line over the feet", mm=saved.high_mm, strong=True))
    lines.append(
        CardLine(
            text=f"four bolts of {saved.bolt_mm:g} mm, class {saved.bolt_class}; centred before the tie rods are set"
        )
    )
    return Card(
        figures=(Figure(label="between the tie rods’ joints", mm=length, note="bought whole"),), lines=tuple(lines)
    )


STEERING_RACK = SteeringRackKind()
