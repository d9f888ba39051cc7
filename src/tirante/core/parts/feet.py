"""What stands on a part beside its joints: where on which of its tubes, how far off, and the bracket of the job that holds it there."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import acos, degrees
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.bracket import FlatBase, SaddleBase, TabPair
from tirante.core.document.parts.common import OfEnd
from tirante.core.document.parts.link import Link
from tirante.core.document.template import GROUND, LinkJoint
from tirante.core.parts.part import Misfit, TurnedPiece

if TYPE_CHECKING:
    from tirante.core.document.parts.saved import SavedPart
    from tirante.core.parts.around import Around

Array = NDArray[np.float64]
OFFSET = 1.0  # mm: what stands farther than this off a tube's line is on a bracket
CUT_TRUE = 0.5  # mm: a saddle or a reach that is off by more does not fit
UPRIGHT = 0.9  # of a tube that is so steep: its box's height stands ahead


@dataclass(frozen=True, slots=True, kw_only=True)
class Foot:
    """Where something stands on a tube of a part."""

    point: str  # of the end
    words: str
    what: str  # the joint's name, or damper, bump stop, strap
    sort: str
    tube: str
    from_end: float  # along the tube from its first end [mm]
    off: float  # from the tube's line [mm]
    along: tuple[float, float, float]  # the tube's own direction
    out: tuple[float, float, float]  # from the tube's line to the place; nothing where it stands on it
    od: float | None  # of a round tube [mm]; None: a box, or not chosen yet
    wall: float | None
    box: bool = False

    @property
    def on_bracket(self) -> bool:
        """Whether it stands off the tube, on a bracket."""
        return self.off > OFFSET

    @property
    def reach(self) -> float | None:
        """From the tube's skin to the place [mm]; None of a box or of a tube that is not chosen yet."""
        return None if self.od is None else self.off - self.od / 2


def on_tubes(point: str, words: str, what: str, sort: str, at: Array, tubes: Mapping[str, tuple[Array, Array]]) -> Foot:
    """The tube that is nearest to a place, and where on it.

    Args:
        point: as the end calls it.
        words: as a person does.
        what: stands there.
        sort: of thing.
        at: where it is (3) [mm].
        tubes: both ends of each tube, by name.
    """
    found = []
    for name, (a, b) in tubes.items():
        run = b - a
        share = min(1.0, max(0.0, float((at - a) @ run / (run @ run))))
        found.append((float(np.linalg.norm(at - a - share * run)), name, share))
    off, name, share = min(found)
    a, b = tubes[name]
    return made_foot(point, words, what, sort, at, name, share, (a, b), off)


def made_foot(
    point: str,
    words: str,
    what: str,
    sort: str,
    at: Array,
    tube: str,
    share: float,
    ends: tuple[Array, Array],
    off: float,
) -> Foot:
    """A foot on a tube that is known.

    Args:
        point: as the end calls it.
        words: as a person does.
        what: stands there.
        sort: of thing.
        at: where it is (3) [mm].
        tube: its name.
        share: of the tube's length, from its first end.
        ends: of the tube.
        off: from the tube's line [mm].
    """
    a, b = ends
    length = float(np.linalg.norm(b - a))
    away = at - a - share * (b - a)
    out = away / off if off > OFFSET else np.zeros(3)
    return Foot(
        point=point, words=words, what=what, sort=sort, tube=tube, from_end=share * length, off=off, along=_three((b - a) / length), out=_three(out),
        od=None, wall=None,
    )  # fmt: skip


def _three(vector: Array) -> tuple[float, float, float]:
    x, y, z = (float(v) for v in vector)
    return x, y, z


# --- which place a joint of the job is at ----------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Spot:
    """A place of an end: its point, on one of its bodies."""

    end_id: str
    body: str
    point: str


@dataclass(frozen=True, slots=True)
class TurnsAbout:
    """The line that something turns about where it is held."""

    along: tuple[float, float, float]  # at ride height, on the left
    hinged: bool  # whether it turns about that line alone there, and does not tilt
    told: str  # what the line is


def spot_of_link(between: object, at: str, around: Around) -> Spot | None:
    """The place of an end at which a part between two of its points is held; None where it is tied to none.

    Args:
        between: what the part stands between.
        at: "a" or "b".
        around: the job.
    """
    if not isinstance(between, OfEnd) or between.end_id not in around.ends:
        return None
    point = between.a if at == "a" else between.b
    joint = next((j for j in around.template(between.end_id).joints if j.name == between.link), None)
    if not isinstance(joint, LinkJoint):
        return None
    body = next((place.body for place in joint.places if place.point == point), GROUND)
    return Spot(between.end_id, body, point)


# --- a bracket that stands on a part ---------------------------------------------------------------------------------------


def stands_right(pair: TabPair, foot: Foot, on: str) -> tuple[Misfit, ...]:
    """Whether a pair of tabs is cut for the tube that it stands on, and reaches to its place.

    Args:
        pair: as it is saved.
        foot: where it stands.
        on: the part that it stands on, by name.
    """
    base = pair.base
    if foot.box:
        told = f"It stands on {foot.tube} of {on}, a box of plate. Set “It stands on” to a flat."
        return () if isinstance(base, FlatBase) else (Misfit(field="base/kind", message=told),)
    if foot.od is None or foot.reach is None:
        return ()
    if not isinstance(base, SaddleBase):
        told = f"It stands on {foot.tube} of {on}, a round tube. Set “It stands on” to a round tube, or fit it."
        return (Misfit(field="base/kind", message=told),)
    out = []
    if abs(base.tube_od.mm - foot.od) > CUT_TRUE:
        out.append(
            Misfit(field="base/tube_od", message=f"Its foot is cut for {base.tube_od.mm:.1f} mm, and {foot.tube} of {on} is {foot.od:.1f} mm. Fit it to what it stands on.")
        )  # fmt: skip
    if foot.reach < pair.head_radius.mm:
        least = foot.od / 2 + pair.head_radius.mm
        out.append(
            Misfit(field="height", message=f"{foot.words} stands {foot.off:.1f} mm off the middle of {foot.tube}, so that no tab goes round its bolt beside the tube. Move it out to {least:.0f} mm or more at Layout.")
        )  # fmt: skip
    elif abs(pair.height.mm - foot.reach) > CUT_TRUE:
        out.append(
            Misfit(field="height", message=f"Its bolt stands {pair.height.mm:.1f} mm over the tube, and {foot.words} {foot.reach:.1f} mm. Fit it to what it stands on.")
        )  # fmt: skip
    return tuple(out)


def fitted(pair: TabPair, foot: Foot, pull: Array | None) -> TabPair:
    """A pair of tabs cut for the tube that it stands on, reaching to its place, its pull's angle as the end has it.

    Args:
        pair: as it is saved.
        foot: where it stands.
        pull: the way that what it holds pulls, at ride height (3); None: not known.
    """
    from tirante.core.document.fields import Length

    change: dict[str, object] = {}
    if foot.box:
        change["base"] = FlatBase(wall_mm=foot.wall)
    elif foot.od is not None and foot.reach is not None:
        change["base"] = SaddleBase(tube_od=Length(mm=round(foot.od, 4)), wall_mm=foot.wall)
        widest = 1.8 * foot.od / 2
        if pair.base_width.mm > widest:
            change["base_width"] = Length(mm=max(2 * pair.head_radius.mm, float(int(widest))))
        if foot.reach > pair.head_radius.mm:
            change |= {"height": Length(mm=round(foot.reach, 2)), "height_fixed": True}
    if pull is not None:
        angle = slant(foot, pull)
        if angle is not None:
            change["load_angle_deg"] = round(angle, 1)
    return pair.model_copy(update=change)


def slant(foot: Foot, pull: Array) -> float | None:
    """Between a tab's axis and a pull along a line, in the plane square to the tube [°]; None where that plane sees none of it.

    Args:
        foot: where it stands.
        pull: the line that it acts along (3), either way.
    """
    along, out = np.array(foot.along), np.array(foot.out)
    flat = pull - (pull @ along) * along
    size = float(np.linalg.norm(flat))
    if size < 1e-9 or not foot.on_bracket:
        return None
    axis = out - (out @ along) * along
    cos = float(np.clip(abs(flat @ axis) / size / np.linalg.norm(axis), 0.0, 1.0))
    return degrees(acos(cos))


def leans(foot: Foot, pull: Array) -> float:
    """How far a pull leans along the tube, out of the plane of the tabs [°].

    Args:
        foot: where it stands.
        pull: the line that it acts along (3).
    """
    size = float(np.linalg.norm(pull))
    return 90.0 - degrees(acos(min(1.0, abs(float(pull @ np.array(foot.along))) / size)))


def where_told(foot: Foot) -> str:
    """Where something stands on a part, in words.

    Args:
        foot: of it.
    """
    off = f", {foot.off:.1f} mm off its middle" if foot.on_bracket else ""
    return f"on {foot.tube}, {foot.from_end:.1f} mm from its first end{off}"


def brackets_told(feet: Sequence[Foot], held: Mapping[str, str]) -> tuple[str, ...]:
    """Brackets of what stands on a part that no part of the job is: not judged, by name.

    Args:
        feet: of the part.
        held: names of the brackets that hold them, by point.
    """
    return tuple(
        f"the bracket of {foot.words} ({foot.what}): nothing here yet holds it"
        for foot in feet if foot.on_bracket and foot.point not in held
    )  # fmt: skip


def bracket_pieces(feet: Sequence[Foot], held: Mapping[str, str]) -> tuple[TurnedPiece, ...]:
    """Brackets of what stands on a part that no part of the job is, for its list.

    Args:
        feet: of the part.
        held: names of the brackets that hold them, by point.
    """
    return tuple(
        TurnedPiece(name=f"bracket {foot.words}", what=f"bracket of {foot.words}, reaching {foot.off:.1f} mm off the {foot.tube.removeprefix('tube ')}")
        for foot in feet if foot.on_bracket and foot.point not in held
    )  # fmt: skip


def holders(saved: SavedPart, feet: Sequence[Foot], around: Around) -> dict[str, str]:
    """Names of the brackets of the job that hold what stands on a part, by point.

    Args:
        saved: the part.
        feet: of it.
        around: the job.
    """
    if saved.of_end is None or saved.stands_for is None:
        return {}
    found = {}
    for foot in feet:
        bracket = around.bracket_at(Spot(saved.of_end, saved.stands_for, foot.point))
        if bracket is not None:
            found[foot.point] = bracket.name
    return found


def pull_of(joint: HeldJoint, around: Around) -> Array | None:
    """The line along which what is held pulls, at ride height on the left (3); None where it is not known.

    Args:
        joint: of the job.
        around: the job.
    """
    held = joint.held
    if isinstance(held, PointOfBody):
        end = around.ends.get(held.end_id)
        if end is None:
            return None
        for one in (*end.dampers.values(), *((end.strap,) if end.strap else ())):
            places = one.places
            if held.point in (places[0].point, places[1].point):
                a, b = (np.array(end.points[place.point], float) for place in places)
                return np.asarray(b - a)
        return None
    saved = around.saved(held.part)
    if not isinstance(saved, Link) or not isinstance(saved.between, OfEnd):
        return None
    end = around.ends.get(saved.between.end_id)
    if end is None:
        return None
    a, b = (np.array(end.points[point], float) for point in (saved.between.a, saved.between.b))
    return np.asarray(b - a)
