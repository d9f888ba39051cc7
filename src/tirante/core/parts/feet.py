"""What stands on a part beside its joints: where on which of its tubes, how far off, and the bracket of the job that holds it there."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.mounts import BoxMember, Mount, RoundMember
from tirante.core.document.parts.bracket import TabPair
from tirante.core.document.parts.common import OfEnd
from tirante.core.document.template import GROUND, LinkJoint
from tirante.core.parts.part import Misfit, TurnedPiece
from tirante.core.quantities import or_more

if TYPE_CHECKING:
    from tirante.core.document.parts.saved import SavedPart
    from tirante.core.parts.around import Around

Array = NDArray[np.float64]
OFFSET = 1.0  # mm: what stands farther than this off a tube's line is on a bracket
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
    at: tuple[float, float, float]  # the place itself, as the part has it on the left
    ends: tuple[tuple[float, float, float], tuple[float, float, float]]  # of the tube, likewise
    od: float | None  # of a round tube [mm]; None: a box, or not chosen yet
    wall: float | None
    box: bool = False
    box_mm: tuple[float, float] = (0.0, 0.0)  # height and width of one

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
        at=_three(at), ends=(_three(a), _three(b)), od=None, wall=None,
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


def member_of(saved: SavedPart, foot: Foot, metal: tuple[float, float] | None) -> Mount | None:
    """The tube or box that something stands on, as a member that moves with its body; None while it is not chosen, or where nothing stands off it.

    Args:
        saved: the part.
        foot: where on it.
        metal: yield and ultimate strength beside a weld [MPa]; None: not known.
    """
    if not foot.on_bracket or saved.of_end is None or saved.stands_for is None:
        return None
    a, b = foot.ends
    shape: RoundMember | BoxMember
    if foot.box:
        # a box's height stands up in the car, of one that stands up itself ahead
        up = (1.0, 0.0, 0.0) if abs(foot.along[2]) > UPRIGHT else (0.0, 0.0, 1.0)
        shape = BoxMember(a=a, b=b, up=up, height_mm=foot.box_mm[0], width_mm=foot.box_mm[1], wall_mm=foot.wall)
    elif foot.od is not None:
        shape = RoundMember(a=a, b=b, od_mm=foot.od, wall_mm=foot.wall)
    else:
        return None
    return Mount(
        id=saved.id, name=f"{saved.name[:50]}, {foot.tube}"[:80], shape=shape, end_id=saved.of_end, body=saved.stands_for, both_sides=saved.side == "pair",
        yield_mpa=metal[0] if metal else None, uts_mpa=metal[1] if metal else None,
    )  # fmt: skip


def too_near(pair: TabPair, foot: Foot) -> tuple[Misfit, ...]:
    """Whether a bolt stands too near a tube for a tab to go round it.

    Args:
        pair: as it is saved.
        foot: where it stands.
    """
    if foot.reach is None or foot.reach >= pair.head_radius.mm:
        return ()
    assert foot.od is not None
    least = foot.od / 2 + pair.head_radius.mm
    return (
        Misfit(field="height", message=f"{foot.words} stands {foot.off:.1f} mm off the middle of {foot.tube}, so that no tab goes round its bolt beside the tube. Move it out to {or_more(least)} mm or more at Layout."),
    )  # fmt: skip


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
