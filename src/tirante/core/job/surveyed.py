"""The survey of a job: its readings adjusted, every point beside where the layout has it, and what does not fit told in words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import atan2, degrees, hypot, radians
from typing import Literal

import numpy as np
from scipy.special import chdtri

from tirante import ENGINE_VERSION
from tirante.core.document.end import End, SurveyedPoint
from tirante.core.document.survey import (
    ANGLES,
    DatumSaid,
    Entry,
    FloorHeights,
    OwnSds,
    SurveyMark,
    Taken,
    TakenBack,
    own_sds,
)  # fmt: skip
from tirante.core.document.template import WHEEL_CENTRE
from tirante.core.errors import TiranteError
from tirante.core.job.worked import Worked
from tirante.core.parts.part import fingerprint
from tirante.core.survey.floor import Floor, floor_of
from tirante.core.survey.measure_next import Advice, can_be_taken, measure_next, worst_point
from tirante.core.survey.mirrored import Mirrored, mirrored
from tirante.core.survey.net import LEVEL, Adjusted, Checked, Net
from tirante.core.survey.readings import (
    Array,
    Distance,
    Heading,
    Inclination,
    InView,
    Kind,
    Offset,
    Reading,
    Swing,
    ToFace,
    ToLine,
    View,
)
from tirante.core.survey.slips import Slip, slips
from tirante.core.survey.suspects import Looked, Suspect, look

_AXIS = {"height": "z", "left": "y", "ahead": "x"}
TWIN = np.array([1.0, -1.0, 1.0])
MIDDLE = 1.0  # [mm] from the centre line within which a point has no twin
WHEELBASE = 500.0  # [mm] under which both ends’ points are counted each from its own axle
TAPE, SQUARE = 1.0, 1.5  # [mm] of what could be taken next; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """Something that can be measured to, and where it is thought to be."""

    key: str
    name: str
    near: tuple[float, float, float]
    fixed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingSeen:
    """A reading, and what became of it."""

    taken: Taken
    back: TakenBack | None  # where it does not count any more
    lost: str  # why it could not be used
    checked: Checked | None  # one of several of a set-up: theirs together
    suspect: Suspect | None
    slips: tuple[Slip, ...] = ()
    twins: tuple[str, ...] = ()  # ids of readings that it cannot be told from
    leaned: float = 0.0  # [deg] of the floor's lean, that was taken out of it


@dataclass(frozen=True, slots=True, kw_only=True)
class Surveyed:
    """All of it."""

    places: tuple[Place, ...]
    datum: DatumSaid | None
    readings: tuple[ReadingSeen, ...]
    found: Adjusted | None  # of the readings that fit
    more: bool  # whether some still do not
    lost: str  # why nothing could be adjusted
    next: tuple[Advice, ...]
    mirrored: tuple[Mirrored, ...]
    floor: Floor | None = None  # where its heights were taken
    levelled: int = 0  # readings that its lean is taken out of


def places(ends: Mapping[str, tuple[str, End]], entries: Sequence[Entry]) -> tuple[Place, ...]:
    """What can be measured to: every point of every end on either side, and the marks.

    Args:
        ends: by id their name and the end as it stands.
        entries: of the survey, as they came.
    """
    found: list[Place] = []
    for end_id, (name, end) in ends.items():
        for point, at in end.points.items():
            words = f"{name}, {point.replace('_', ' ')}"
            own = (float(at[0]), float(at[1]), float(at[2]))
            if abs(own[1]) <= MIDDLE:
                found.append(Place(key=f"end:{end_id}:{point}:own", name=words, near=own))
                continue
            other = end.right_points.get(point)
            twin = (float(other[0]), float(other[1]), float(other[2])) if other else (own[0], -own[1], own[2])
            found += [
                Place(key=f"end:{end_id}:{point}:own", name=f"{words}, {_side(own)}", near=own),
                Place(key=f"end:{end_id}:{point}:mirror", name=f"{words}, {_side(twin)}", near=twin),
            ]
    marks = {one.mark: one for one in entries if isinstance(one, SurveyMark)}  # the latest of each stands
    found += [
        Place(key=f"mark:{one.mark}", name=one.name, near=(one.near[0], one.near[1], one.near[2]), fixed=one.fixed)
        for one in marks.values()
    ]
    return tuple(found)


def place_key(end_id: str, end: End, point: str, side: str) -> str:
    """The key of an end's point on a side of the car, among `places`.

    Args:
        end_id: of the end.
        end: as it stands.
        point: of it.
        side: left or right; what stands in the middle has no twin.
    """
    y = float(end.points[point][1])
    own = abs(y) <= MIDDLE or (y > 0) == (side == "left")
    return f"end:{end_id}:{point}:{'own' if own else 'mirror'}"


def _side(at: tuple[float, float, float]) -> str:
    return "left" if at[1] > 0 else "right"


def ends_of(job: Worked) -> dict[str, tuple[str, End]]:
    """Ends by id, each with its name and as it stands in the car.

    Args:
        job: worked out.
    """
    return {one.id: (one.name, job.ends.get(one.id, one.end)) for one in job.design.ends}


def survey_of(job: Worked, entries: Sequence[Entry]) -> Surveyed:
    """The survey of a job, from its memory where neither an entry nor an end is another.

    Args:
        job: worked out.
        entries: as they came.
    """
    ends = ends_of(job)
    told = [(id_, name, end.model_dump_json()) for id_, (name, end) in ends.items()]
    key = fingerprint([ENGINE_VERSION, told, [one.model_dump_json() for one in entries]])
    return job.memory.get("survey", key, lambda: surveyed(ends, entries))


def surveyed(ends: Mapping[str, tuple[str, End]], entries: Sequence[Entry]) -> Surveyed:
    """A survey worked out.

    Args:
        ends: by id their name and the end as it stands.
        entries: as they came.
    """
    known = {one.key: one for one in places(ends, entries)}
    back = {one.entry: one for one in entries if isinstance(one, TakenBack)}
    taken = [one for one in entries if isinstance(one, Taken)]
    lost = {one.id: f"“{key}” is no point of the job any more: take the reading back, or put the point in again" for one in taken for key in one.of if key not in known}  # fmt: skip
    own = own_sds(entries)
    counted = [one for one in taken if one.id not in back and one.id not in lost]
    said = next((one for one in reversed(entries) if isinstance(one, DatumSaid)), None)
    floor = _floor(ends, entries)
    nothing = Surveyed(
        places=tuple(known.values()), datum=said, floor=floor, levelled=sum(_levelled(one) for one in counted) if floor else 0, found=None, more=False, lost="", next=(), mirrored=(),
        readings=tuple(ReadingSeen(taken=one, back=back.get(one.id), lost=lost.get(one.id, ""), checked=None, suspect=None, leaned=0.0 if one.id in lost else leaned(one, floor, known)) for one in taken),
    )  # fmt: skip
    used = dict.fromkeys(key for one in counted for key in one.of)  # in the order in which they were measured
    looked_for = {key: np.array(known[key].near) for key in used if not known[key].fixed}
    if not looked_for:
        return nothing
    net = Net(
        datum={key: np.array(known[key].near) for key in used if known[key].fixed}, approximate=looked_for,
        readings=tuple(Reading(id=one.id, of=_kind(one), value=_value(one, floor, known), sd=_sd(one, own), set_up=one.set_up) for one in counted),
    )  # fmt: skip
    try:
        looked = look(net)
        return _told(nothing, net, looked, known)
    except TiranteError as error:
        return Surveyed(
            **{**{name: getattr(nothing, name) for name in Surveyed.__dataclass_fields__}, "lost": error.message}
        )


def _told(nothing: Surveyed, net: Net, looked: Looked, known: Mapping[str, Place]) -> Surveyed:
    suspects = {id_: one for one in looked.suspects for id_ in one.ids}
    checked = {id_: one for one in (looked.all or looked.good).checked for id_ in one.ids}
    good = {id_: one for one in looked.good.checked for id_ in one.ids}
    readings = []
    for one in nothing.readings:
        if one.back or one.lost:
            readings.append(one)
            continue
        id_ = one.taken.id
        suspect = suspects.get(id_)
        found = checked.get(id_) if suspect else good.get(id_)
        readings.append(
            ReadingSeen(
                taken=one.taken, back=None, lost="", checked=found, suspect=suspect, slips=_slips(one.taken, suspect) if suspect else (),
                twins=suspect.twins if suspect else (), leaned=one.leaned,
            )
        )  # fmt: skip
    rest = Net(
        datum=net.datum, approximate={name: looked.good.points[name] for name in net.approximate},
        readings=tuple(one for one in net.readings if one.id not in suspects),
    )  # fmt: skip
    point = worst_point(looked.good)
    where = {
        key: looked.good.points[key] if key in looked.good.points else np.array(place.near)
        for key, place in known.items()
    }
    reach = _near_to(point, where, net) if point else {}
    possible = list(can_be_taken(reach, [one.of for one in net.readings], TAPE, SQUARE)) if point else []
    possible = [one for one in possible if all(name in looked.good.points for name in one.of.points())]
    return Surveyed(
        places=nothing.places, datum=nothing.datum, floor=nothing.floor, levelled=nothing.levelled, readings=tuple(readings), found=looked.good, more=looked.more, lost="",
        next=measure_next(looked.good, possible, point), mirrored=mirrored(rest, looked.good),
    )  # fmt: skip


def _near_to(point: str, where: Mapping[str, Array], net: Net) -> dict[str, Array]:
    """The point and all others of the net: what could be measured to it."""
    return {name: where[name] for name in {point, *net.datum, *net.approximate}}


def _kind(one: Taken) -> Kind:
    a, b, c = (*one.of, *[""] * (3 - len(one.of)))
    if one.kind == "distance":
        return Distance(one=a, other=b)
    if one.kind in _AXIS:
        return Offset(point=a, axis=_AXIS[one.kind], off=b or None)  # type: ignore[arg-type]
    if one.kind == "level":
        return Inclination(one=a, other=b)
    if one.kind == "tube":
        return ToLine(point=a, one=b, other=c)
    if one.kind == "face":
        return ToFace(point=a, face=b, out=c)
    if one.kind == "bar":
        return Heading(face=a, out=b)
    if one.swing is not None:
        return Swing(lower=a, upper=b, turn=radians(one.swing.turn_deg))
    view: View = one.kind  # type: ignore[assignment]
    return InView(one=a, other=b, view=view, about=radians(one.deg or 0.0))


def _value(one: Taken, floor: Floor | None, known: Mapping[str, Place]) -> float:
    if one.kind not in ANGLES:
        return one.mm
    return radians((one.angle or 0.0) - leaned(one, floor, known))


def _levelled(one: Taken) -> bool:
    """Whether it was read to the level, which the floor may not be."""
    return one.instrument == "inclinometer" and one.kind in ("level", "side", "front")


def leaned(one: Taken, floor: Floor | None, known: Mapping[str, Place]) -> float:
    """What the floor's lean puts into a reading to the level [deg]; it counts without.

    Args:
        one: the reading.
        floor: how it leans; None: as level as it is thought to be.
        known: places by key.
    """
    if floor is None or not _levelled(one):
        return 0.0
    a, b = (np.array(known[key].near) for key in one.of)
    line = b - a

    def seen(d: Array) -> float:
        x, y, z = (float(v) for v in d)
        return atan2(z, hypot(x, y) if one.kind == "level" else x if one.kind == "side" else y)

    turned = degrees(seen(floor.to_gravity(line)) - seen(line))
    return (turned + 180.0) % 360.0 - 180.0


def _floor(ends: Mapping[str, tuple[str, End]], entries: Sequence[Entry]) -> Floor | None:
    """The floor by the latest heights under the wheels; None where none were taken, or the car has not both ends."""
    said = next((one for one in reversed(entries) if isinstance(one, FloorHeights)), None)
    wheels = {end.end: end.points[WHEEL_CENTRE] for _, end in ends.values()}
    front, rear = wheels.get("front"), wheels.get("rear")
    if said is None or front is None or rear is None or abs(front[0] - rear[0]) < WHEELBASE:
        return None  # where its wheels stand is not known in one measure
    contacts = [(at[0], sign * abs(at[1])) for at in (front, rear) for sign in (1, -1)]
    heights = [one.mm for one in (said.front_left, said.front_right, said.rear_left, said.rear_right)]
    return floor_of(contacts, heights)


def _sd(one: Taken, own: OwnSds) -> float:
    found = one.deviation(own)
    return radians(found) if one.kind in ANGLES else found


def _slips(taken: Taken, suspect: Suspect) -> tuple[Slip, ...]:
    """What a hand may have done; of an angle only its sign."""
    if taken.kind in ANGLES:
        off = abs(-suspect.read - suspect.expected) / suspect.off_sd
        what = {"bar": "ahead and behind changed over, or the other side’s sign", "swing": "turned in and turned out changed over"}.get(taken.kind, "the sign is the other one")  # fmt: skip
        return (Slip(what=what, would_be=-suspect.read, off=off),) if off <= 3 else ()
    figure = taken.read.typed if taken.read and taken.read.typed else ""
    typed = figure.removesuffix("in").removesuffix("mm").rstrip('"″ ') or f"{taken.read.mm if taken.read else 0:g}"
    # what was added counts already; what may have been forgotten is not known, so only what was added is tried
    return slips(taken.mm, suspect.expected, suspect.off_sd, typed, taken.unit, taken.all_added)


@dataclass(frozen=True, slots=True, kw_only=True)
class LeftRight:
    """A point of a pair measured on both sides: the right one mirrored, against the left one."""

    own: str
    mirror: str
    off: tuple[float, float, float]  # of the mirrored one from the other [mm]
    sd: tuple[float, float, float]
    beyond: (
        bool  # farther than both their uncertainties explain: the car is not alike on both sides, or a reading is wrong
    )


def left_against_right(found: Surveyed) -> tuple[LeftRight, ...]:
    """Of every point that each side determines by itself, how far the right one is from the left one’s mirror image.

    The limit is 5 % over all of them (Šidák), of χ² with three degrees: what the readings share counts in both.

    Args:
        found: the survey.
    """
    good = found.found
    if good is None:
        return ()
    pairs = [
        (key, f"{key.removesuffix(':own')}:mirror")
        for key in good.names
        if key.endswith(":own") and f"{key.removesuffix(':own')}:mirror" in good.names
    ]
    pairs = [(own, mirror) for own, mirror in pairs if not (good.moves(own).any() or good.moves(mirror).any())]
    limit = chdtri(3, 1 - (1 - LEVEL) ** (1 / max(len(pairs), 1)))
    told = []
    for own, mirror in pairs:
        i, j = (3 * good.names.index(key) for key in (own, mirror))
        way = np.zeros((3, len(good.covariance)))
        way[:, i : i + 3], way[:, j : j + 3] = -np.eye(3), np.diag(TWIN)
        off = TWIN * good.points[mirror] - good.points[own]
        spread = way @ good.covariance @ way.T
        x, y, z = (float(v) for v in off)
        sx, sy, sz = (float(v) for v in np.sqrt(np.maximum(np.diag(spread), 0.0)))
        beyond = bool(off @ np.linalg.pinv(spread) @ off > limit)
        told.append(LeftRight(own=own, mirror=mirror, off=(x, y, z), sd=(sx, sy, sz), beyond=beyond))
    return tuple(told)


@dataclass(frozen=True, slots=True, kw_only=True)
class IntoEnd:
    """Points of an end as they were measured, as the layout keeps them: the left ones, and the right ones of those that are unpaired on purpose."""

    points: Mapping[str, tuple[float, float, float]]
    right_points: Mapping[str, tuple[float, float, float]]
    surveyed: Mapping[str, SurveyedPoint]  # of `points`, where each came from
    right_surveyed: Mapping[str, SurveyedPoint]  # of `right_points`


def into_layout(found: Surveyed, ends: Mapping[str, tuple[str, End]], days: Mapping[str, str]) -> Mapping[str, IntoEnd]:
    """What was measured, as points of the ends: of a pair the left one, or the mirror image of the right where that alone is determined.

    Args:
        found: the survey.
        ends: by id their name and the end as it stands.
        days: of every reading by its id, as 2026-03-04.
    """
    good, told = found.found, {}
    if good is None:
        return {}

    def at(key: str) -> Array | None:
        return good.points[key] if key in good.names and not good.moves(key).any() else None

    for end_id, (_, end) in ends.items():
        points: dict[str, tuple[float, float, float]] = {}
        right: dict[str, tuple[float, float, float]] = {}
        came: dict[str, SurveyedPoint] = {}
        right_came: dict[str, SurveyedPoint] = {}
        for name in end.points:
            own, mirror = at(f"end:{end_id}:{name}:own"), at(f"end:{end_id}:{name}:mirror")
            unpaired = name in end.right_points
            if own is not None:
                points[name] = _kept(own)
            elif mirror is not None and not unpaired:
                points[name] = _kept(TWIN * mirror)
            if name in points:
                side: Literal["own", "mirror"] = "own" if own is not None else "mirror"
                of = _came(found, f"end:{end_id}:{name}:{side}", points[name], side, days)
                came |= {name: of} if of else {}
            if mirror is not None and unpaired:
                right[name] = _kept(mirror)
                of = _came(found, f"end:{end_id}:{name}:mirror", right[name], "own", days)
                right_came |= {name: of} if of else {}
        if points or right:
            told[end_id] = IntoEnd(points=points, right_points=right, surveyed=came, right_surveyed=right_came)
    return told


def _came(
    found: Surveyed, key: str, at: tuple[float, float, float], side: Literal["own", "mirror"], days: Mapping[str, str]
) -> SurveyedPoint | None:
    """Where a point of the layout came from, its twin’s uncertainty being its own; None of one that no reading is of."""
    assert found.found
    of = [one.taken.id for one in found.readings if key in one.taken.of and one.checked is not None and one.suspect is None]  # fmt: skip
    if not of:
        return None
    x, y, z = (round(float(v), 3) for v in found.found.sd(key))
    return SurveyedPoint(at=at, sd=(x, y, z), side=side, readings=len(of), on=max(days[id_] for id_ in of))


def _kept(at: Array) -> tuple[float, float, float]:
    """A place to a hundredth of a millimetre, which is finer than any of this is known."""
    x, y, z = (round(float(v), 2) + 0.0 for v in at)
    return x, y, z


def in_degrees(taken: Taken, value: float) -> float:
    """A figure of a reading as it is told [mm] or [deg].

    Args:
        taken: the reading.
        value: of it [mm] or [rad].
    """
    return degrees(value) if taken.kind in ANGLES else value
