"""Strike pads as a kind of part: what a bump stop lands on, on the tube of an arm, a member of the car, or a flat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.strike_pad import Blow, plate_bending
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction
from tirante.core.checks.shown import Out
from tirante.core.document.end import BumpStop
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.pad import PadPart
from tirante.core.document.parts.strike_pad import StrikePad
from tirante.core.document.settings import Settings
from tirante.core.loads.on_body import BodyCase
from tirante.core.parts.around import Around
from tirante.core.parts.body import seen_of
from tirante.core.parts.bracket.families.pad import PadShape, pad_input, times, web_checks
from tirante.core.parts.bracket.families.pad_holes import LiesOn
from tirante.core.parts.bracket.families.pad_kind import PadKind, PadMade, pad_fields
from tirante.core.parts.bracket.families.pad_under import Under, under_member, under_typed
from tirante.core.parts.part import Misfit, Part
from tirante.core.parts.stands import At
from tirante.core.parts.worst import worst_case

Array = NDArray[np.float64]
NOT_CHECKED = (
    "the room round it (to be looked at under Room)", "its life: how often the stop is struck is not known", "dents and noise", "weld quality (assumed sound)", "corrosion",
)  # fmt: skip


class StrikePadOwn(Out):
    """What only a strike pad has."""

    kind: Literal["strike_pad"] = "strike_pad"
    push_n: float
    case: str
    stands_on: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Struck:
    """A pad in one case."""

    case: str
    where: str
    blow: Blow


def struck(shape: PadShape, point: str, cases: Sequence[BodyCase]) -> list[Struck]:
    """Every case in which the stop strikes the pad.

    Args:
        shape: of the pad.
        point: its middle.
        cases: what acts on the body that it is on.
    """
    found = []
    for case in cases:
        own = [act for act in case.acting if act.place == point and act.what == "bump stop"]
        force = sum((act.force for act in own), np.zeros(3))
        size = float(force @ force)
        if size < 1.0:
            continue
        moment = sum((act.moment for act in own), np.zeros(3))
        at = np.cross(force, moment) / size  # where its line passes nearest to the pad's middle
        fx, fy, fz = (float(v) for v in shape.axes @ force)
        x, y, z = (float(v) for v in shape.axes @ at)
        if fz:  # moved along its line to the face
            x, y = x - z * fx / fz, y - z * fy / fz
        blow = Blow(push=abs(fz), along=fx, across=fy, off_along=x, off_across=y)
        found.append(Struck(case=case.case, where=case.where, blow=blow))
    return found


def struck_checks(saved: PadPart, shape: PadShape, cases: Sequence[Struck], settings: Settings) -> list[CheckResult]:
    """All checks of a pad that is pressed; loads are factored before each.

    Args:
        saved: as it is.
        shape: of it.
        cases: in which it is struck.
        settings: factors, electrode.
    """
    if not cases:
        return []
    bent = asked("pad_plate", "plate", settings.factors)

    def on(one: Struck) -> tuple[float, Reproduction, float]:
        blow = times(one.blow, bent.factor)
        again = Reproduction(
            topic="strike-pad", input=pad_input(shape.pad, blow, saved.yield_mpa), output="plate_mpa", figure="demand"
        )
        return plate_bending(shape.pad, blow), again, saved.yield_mpa

    return [worst_case(bent, cases, on), *web_checks(saved, shape, cases, settings)]


class StrikePadKind(PadKind[StrikePad]):
    """Strike pads."""

    key = "strike_pad"
    word = "strike pad"
    saved = StrikePad
    own = StrikePadOwn
    fields = pad_fields(StrikePad)
    not_checked = NOT_CHECKED
    unloaded = "no case strikes it: nothing of it was judged"
    no_case = (
        "No case strikes this pad, so nothing says what it must bear. Add one at Loads that comes down on the stop."
    )

    def begun(self, part_id: str, of: str, held: PointOfBody, owner: str) -> StrikePad:
        """Of a usual size."""
        return StrikePad(id=part_id, name=f"{of[:70]}, pad", end_id=owner)

    def placed(
        self, saved: StrikePad, around: Around, at: At | None, joint: HeldJoint | None
    ) -> tuple[Array, float, Under, Array] | Misfit:
        """As the stop's face looks, spread over the stop."""
        stop = _stop(saved, around)
        if stop is None:
            return Misfit(field="end_id", message=saved.lost(around.ends) or "")
        face = np.array(stop.face) / np.linalg.norm(stop.face)
        mount = around.mount_of(joint) if joint else None
        under = under_member(mount, at, face) if mount is not None and at is not None else under_typed(saved, face)
        middle = np.array(around.ends[saved.end_id].points[stop.pad.point], float)
        return under if isinstance(under, Misfit) else (face, stop.pad_radius_mm, under, middle)

    def made(self, saved: StrikePad, around: Around) -> PadMade | Misfit:
        """Under its stop's own force."""
        stop = _stop(saved, around)
        if stop is None:
            return Misfit(field="end_id", message=saved.lost(around.ends) or "")
        held = PointOfBody(end_id=saved.end_id, body=stop.pad.body, point=stop.pad.point)
        if all(joint.held != held for joint in around.held_by(saved.id)):
            return Misfit(field="end_id", message="The stop’s pad is not at this part any more: it was moved to another place at Layout. Take this one out and add one there.")  # fmt: skip
        if stop.pad_link:
            return Misfit(field="end_id", message=f"The stop lands on the {stop.pad_link} itself. Its pad is judged with that link; take this one out.")  # fmt: skip
        shape = self.pad_shape(saved, around)
        if isinstance(shape, Misfit):
            return shape
        if not all(around.ends[saved.end_id].alike(point) for point in (stop.pad.point, stop.tip.point)):
            return Misfit(field="side", message="The stop stands elsewhere on the right: only pads that are alike on both sides are made here. Pair its points at Layout, or cut the right one by hand.")  # fmt: skip
        moving = stop.pad.body if stop.pad.body != "ground" else stop.tip.body
        if moving == "ground":
            return Misfit(field="end_id", message="Tip and pad of the stop are both on the chassis. Put one of them on what moves, at Layout.")  # fmt: skip
        seen = seen_of(saved, moving, around, either_side=True)
        point = stop.pad.point if stop.pad.body == moving else stop.tip.point
        return PadMade(shape=shape, cases=tuple(struck(shape, point, seen.cases)), left_out=seen.left_out)

    def judged(self, saved: StrikePad, made: PadMade, settings: Settings) -> list[CheckResult]:
        """Plate, webs and feet."""
        return struck_checks(saved, made.shape, [one for one in made.cases if isinstance(one, Struck)], settings)

    def on_it(self, saved: StrikePad, made: PadMade) -> LiesOn:
        """The stop."""
        del saved
        return LiesOn(radius=made.shape.pad.footprint, what="the stop")

    def told(self, part: Part) -> StrikePadOwn | None:
        """The hardest blow, and what it stands on."""
        made = part.own
        if not isinstance(made, PadMade):
            return None
        push, case = max(((one.blow.push, one.case) for one in made.cases), default=(0.0, ""))
        return StrikePadOwn(push_n=push, case=case, stands_on=made.shape.on)


def _stop(saved: StrikePad, around: Around) -> BumpStop | None:
    end = around.ends.get(saved.end_id)
    return end.bump_stop if end else None


STRIKE_PAD = StrikePadKind()
