"""A pick-up moved while the parts on it stay as they are: the wheel goes where they take it.

The mechanism keeps its bodies as they were and its links as long; the places on the car's body alone are others, and it is solved, the
wheel's height held. What the end's points, bolts, camber and toe are then is read off it.

An arm whose two pivots come to stand otherwise apart than it was made sits midway between them, the sides to its outer joint as long as
they were (so it is when rod ends hold it); by how much the pivots miss it is told.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import hypot
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import End
from tirante.core.document.fields import Point
from tirante.core.document.template import AboutLine, HingeJoint, Joint, SliderJoint, Template
from tirante.core.errors import InputError
from tirante.core.mechanism.model import (
    GROUND,
    Bush,
    Coincident,
    Constraint,
    Distance,
    Mark,
    OnLine,
    Parallel,
    Square,
    Vector,
    separation,
)
from tirante.core.mechanism.solve import CONVERGED, solve
from tirante.core.mechanism.system import System
from tirante.core.suspension.assemble import Assembled, assemble_end, right_corner
from tirante.core.suspension.changed import apex
from tirante.core.suspension.cycle import Solved, SolvedSide, solved_cycle, wheel_columns
from tirante.core.suspension.shown.lengths import lengths
from tirante.core.suspension.soundness import places_of

Array = NDArray[np.float64]
KEPT = 0.005  # mm: a length that changes by less is as it was
ASKEW = 0.005  # deg: more than this and the two wheels of a beam stand differently


@dataclass(frozen=True, slots=True, kw_only=True)
class MovedPickup:
    """What came of it."""

    end: End
    wheel_mm: Point  # how far the wheel's centre of that side went
    camber_deg: float  # by how much it changed
    toe_deg: float
    bases_mm: dict[str, float]  # arms whose pivots stand further apart than they were made, by how much
    left_behind: tuple[str, ...] = ()  # things to clear on what moves: they stand where they stood


def moved_pickup(
    template: Template, end: End, point: str, to: Point, *, side: Literal["left", "right"] = "left"
) -> MovedPickup:
    """The end with one of its pick-ups elsewhere and all its parts as long as before.

    A place that no part's length hangs on (a damper's eye, a strap's end) is moved and nothing else is.

    Args:
        template: with its additions.
        end: as its points were taken, not as it stands in a car that has risen.
        point: of the template, on the body of the car.
        to: where it is to be [mm].
        side: of the car; the right one only of a point that stands elsewhere there.

    Raises:
        InputError: it is no pick-up; the parts do not reach; the two wheels would stand differently, which one camber and toe cannot say.
    """
    of = "right_points" if side == "right" else "points"
    if point not in getattr(end, of):
        raise InputError(f"This end has no “{point}” on the {side}.", code="no_pickup", fields=("point",), value=point)
    remade = end.model_copy(update={of: {**getattr(end, of), point: to}})
    before = solved_cycle(template, end, np.zeros((3, 1)))
    marks = before.left.assembled.marks
    at = marks.get(point) or marks.get(f"{point}_left")
    places = {place.point for place in places_of(end).values()}
    if at is None and point in places:
        return MovedPickup(end=remade, wheel_mm=(0.0, 0.0, 0.0), camber_deg=0.0, toe_deg=0.0, bases_mm={})
    if at is None or at.body != GROUND:
        raise InputError(
            f"“{point.replace('_', ' ')}” moves with the wheel and is part of what is made. It is moved as it is designed: let the wheel be kept, and the parts made anew.",
            code="no_pickup", fields=("point",), value=point,
        )  # fmt: skip
    try:
        after = replace(
            before,
            left=carried(before.left, Moves.of(before.left, end, remade, mirror=False)),
            right=before.right and carried(before.right, Moves.of(before.right, end, remade, mirror=True)),
        )
        reached = all((one.solved.status == CONVERGED).all() for one in after.sides)
    except InputError as error:
        if error.code != "no_triangle":
            raise
        reached = False
    if not reached:
        raise InputError(
            "With the lengths kept the parts do not reach: no position was found in which they meet there. Move it less, or keep the wheel and make the parts anew.",
            code="not_assembled", fields=("point",), value=list(to),
        )  # fmt: skip
    found = _as_it_stands(remade, after)
    hub = template.roles.wheel_centre
    old, new = (getattr(one, of).get(hub) or one.points[hub] for one in (end, found))
    dx, dy, dz = (round(b - a, 6) for a, b in zip(old, new, strict=True))
    return MovedPickup(
        end=found, wheel_mm=(dx, dy, dz), camber_deg=found.wheel.camber_deg - end.wheel.camber_deg, toe_deg=found.wheel.toe_deg - end.wheel.toe_deg,
        bases_mm=_bases(template, end, found), left_behind=tuple(one.name for one in end.obstacles if one.body not in (GROUND, "rack")),
    )  # fmt: skip


def _bases(template: Template, was: End, now: End) -> dict[str, float]:
    """Arms whose pivots stand otherwise apart [mm].

    Raises:
        InputError: something else of a part is not as it was; a length is never changed unsaid.
    """
    ground = {mark.at for mark in assemble_end(template, now).marks.values() if mark.body == GROUND}
    after = {(row.part, row.a, row.b): row for row in lengths(template, now)}
    by = {}
    for row in lengths(template, was):
        new = after[row.part, row.a, row.b]
        by[row] = max((new.left - row.left, (new.right or 0.0) - (row.right or 0.0)), key=abs)
    found = {
        row.part: mm for row, mm in by.items()
        if abs(mm) > KEPT and not row.is_link and all(now.points.get(point) in ground for point in (row.a, row.b))
    }  # fmt: skip
    for row, mm in by.items():
        if abs(mm) > KEPT + abs(found.get(row.part, 0.0)):
            raise InputError(
                f"The {row.part} cannot keep its size here: between {row.a.replace('_', ' ')} and {row.b.replace('_', ' ')} it would be {abs(mm):.2f} mm {'longer' if mm > 0 else 'shorter'}. "
                "Let the wheel be kept, and the parts made anew.",
                code="not_kept", fields=("point",),
            )  # fmt: skip
    return found


@dataclass(frozen=True, slots=True)
class Moves:
    """Where the places on the car's body are, before and after, by the marks' names."""

    was: dict[str, Vector]
    now: dict[str, Vector]

    @classmethod
    def of(cls, side: SolvedSide, end: End, remade: End, *, mirror: bool) -> Moves:
        corner = right_corner if mirror and not side.assembled.beam else lambda one: one
        template = side.assembled.template
        was, now = (assemble_end(template, corner(one)).marks for one in (end, remade))
        ground = [name for name, mark in was.items() if mark.body == GROUND]
        return cls({name: was[name].at for name in ground}, {name: now[name].at for name in ground})

    def mark(self, mark: Mark, where: str = "") -> Mark:
        """Where a mark of the car's body is then, any other as it was; on the centre line that of the side named last in `where`."""
        if mark.body != GROUND:
            return mark
        names = [name for name, at in self.was.items() if at == mark.at]
        own = [name for name in names if name.rpartition("_")[2] == where.rpartition(", ")[2]]
        return replace(mark, at=self.now[(own or names)[0]]) if names else mark


@dataclass(frozen=True, slots=True)
class _Hinge:
    """The line of an arm's two pivots on the car's body, and what comes of it when one of them moves."""

    middle: tuple[Vector, Vector]  # on the arm as it was made, and between the places as they are then
    axes: tuple[Vector, Vector]
    corners: dict[str, tuple[Mark, Mark]]  # by ball joint: where it is on the arm, its sides as long on the other base
    moved: bool

    @classmethod
    def of(cls, assembled: Assembled, joint: HingeJoint, where: str, moves: Moves) -> _Hinge:
        marks = [assembled.role(point, where) for point in joint.points]
        one, two = (np.array(mark.at) for mark in marks)
        new_one, new_two = (np.array(moves.mark(mark, where).at) for mark in marks)
        bases = float(np.linalg.norm(two - one)), float(np.linalg.norm(new_two - new_one))
        middle, along = (one + two) / 2, (two - one) / bases[0]
        corners = {}
        outers = [j for j in assembled.template.joints if j.kind == "ball" and joint.body in j.bodies]
        if len(outers) == 1 and outers[0].pair == joint.pair:
            name = f"{outers[0].name}, {where}" if assembled.beam and outers[0].pair else outers[0].name
            found = next(c for c in assembled.mechanism.constraints if isinstance(c, Coincident) and c.name == name)
            mark = found.a if found.a.body == assembled.body_on(joint.body, where) else found.b
            corner = np.array(mark.at)
            sides = float(np.linalg.norm(corner - one)), float(np.linalg.norm(corner - two))
            at = apex(middle - along * bases[1] / 2, middle + along * bases[1] / 2, corner, sides)
            corners[name] = mark, replace(mark, at=at)
        return cls(
            middle=(_vector(middle), _vector((new_one + new_two) / 2)), axes=(_vector(two - one), _vector(new_two - new_one)), corners=corners,
            moved=any(moves.mark(mark, where) != mark for mark in marks),
        )  # fmt: skip


def carried(side: SolvedSide, moves: Moves) -> SolvedSide:
    """A side with its bodies as they were, on the places as they are then."""
    assembled = carried_on(side.assembled, moves)
    system = System(assembled.mechanism)
    system.like(side.solved.system)
    return replace(side, assembled=assembled, solved=solve(system, side.solved.drives))


def carried_on(assembled: Assembled, moves: Moves) -> Assembled:
    """A mechanism with its bodies as they were and its links as long, on the places as they are then.

    Raises:
        InputError: an arm's sides do not reach its pivots; what slides stands beside its line.
    """
    sided = [
        (joint, where)
        for joint in assembled.template.joints
        for where in (("left", "right") if assembled.beam and joint.pair else ("left",))
    ]
    hinges = {
        (f"{joint.name}, {where}" if assembled.beam and joint.pair else joint.name): _Hinge.of(assembled, joint, where, moves)
        for joint, where in sided if isinstance(joint, HingeJoint) and joint.on == GROUND
    }  # fmt: skip
    turned = {name: hinge for name, hinge in hinges.items() if hinge.moved}
    corners = {name: marks for hinge in turned.values() for name, marks in hinge.corners.items()}
    axes = {name: hinge.axes for name, hinge in turned.items()} | _turned_lines(assembled, sided, moves)
    lines = {
        (f"{joint.name}, {where}" if assembled.beam and joint.pair else joint.name): [moves.mark(assembled.role(p, where), where).at for p in joint.line]
        for joint, where in sided if isinstance(joint, SliderJoint) and joint.on == GROUND
    }  # fmt: skip

    def one(c: Constraint) -> Constraint:
        if isinstance(c, Distance):
            length = separation(c.a, c.b) if c.length is None else c.length
            return replace(c, a=moves.mark(c.a, c.name), b=moves.mark(c.b, c.name), length=length)
        if isinstance(c, Coincident) and c.name in turned:
            return replace(
                c, a=replace(c.a, at=turned[c.name].middle[0]), b=replace(c.b, at=turned[c.name].middle[1]), meet=True
            )
        if isinstance(c, Coincident) and c.name in corners:
            new = corners[c.name][1]
            return replace(c, a=new, meet=True) if c.a.body == new.body else replace(c, b=new, meet=True)
        if isinstance(c, Coincident) and (moves.mark(c.a, c.name), moves.mark(c.b, c.name)) != (c.a, c.b):
            return replace(c, a=moves.mark(c.a, c.name), b=moves.mark(c.b, c.name), meet=True)
        if isinstance(c, Bush):
            return replace(c, a=moves.mark(c.a, c.name), b=moves.mark(c.b, c.name))
        if isinstance(c, Parallel) and (lines_of := axes.get(c.name.removesuffix(", axis"))):
            return replace(c, axis=lines_of[0], axis_b=lines_of[1])
        if isinstance(c, Square) and (lines_of := axes.get(c.name.removesuffix(", axis"))):
            return replace(c, axis_b=lines_of[1])  # the bolt, where it is now; its length turns with the body
        if isinstance(c, OnLine):
            (x, y, z), (u, v, w) = lines.get(c.name, ((0.0, 0.0, 0.0), c.along))
            moved = replace(
                c, mark=moves.mark(c.mark, c.name), through=moves.mark(c.through, c.name), along=(u - x, v - y, w - z)
            )
            return c if moved == c else replace(moved, meet=_on_its_line(c))
        return c

    marks = {name: moves.mark(mark, name.replace("_", ", ")) for name, mark in assembled.marks.items()}
    for old, new in corners.values():
        marks = {name: new if mark == old else mark for name, mark in marks.items()}
    mechanism = replace(assembled.mechanism, constraints=tuple(one(c) for c in assembled.mechanism.constraints))
    return replace(assembled, marks=marks, mechanism=mechanism)


def _turned_lines(
    assembled: Assembled, sided: Sequence[tuple[Joint, str]], moves: Moves
) -> dict[str, tuple[Vector, Vector]]:
    """The lines that rockers turn about through two places of the car, as they were made and as they are then."""
    found = {}
    for joint, where in sided:
        if isinstance(joint, AboutLine) and joint.toward and joint.on == GROUND:
            was = {point: assembled.role(point, where) for point in (joint.point, joint.toward)}
            old = {point: mark.at for point, mark in was.items()}
            new = {point: moves.mark(mark, where).at for point, mark in was.items()}
            if new != old:
                name = f"{joint.name}, {where}" if assembled.beam and joint.pair else joint.name
                found[name] = joint.along(old.__getitem__), joint.along(new.__getitem__)
    return found


def _on_its_line(c: OnLine) -> bool:
    """True: what slides stands on its line, and is brought on to it again.

    Raises:
        InputError: it stands beside it; how far beside another line is not known.
    """
    off = np.subtract(c.mark.at, c.through.at)
    along = np.array(c.along) / np.linalg.norm(c.along)
    if float(np.linalg.norm(off - along * float(off @ along))) > KEPT:
        raise InputError(
            f"What slides in the {c.name} stands beside its line: where it would on another is not known. Let the wheel be kept, and the parts made anew.",
            code="not_kept", fields=("point",),
        )  # fmt: skip
    return True


def _where(side: SolvedSide, mark: Mark) -> Array:
    found: Array = side.solved.system.where(side.solved.poses, mark, side.solved.drives)[:, 0]
    return found


def _as_it_stands(end: End, done: Solved) -> End:
    """The end with its points, directions, camber and toe where the mechanism has them."""
    left = _points(end, done.left, "left")
    right = {}
    if done.left.assembled.beam:
        right = _points(end, done.left, "right")
    elif end.right_points:
        right = {name: (x, -y, z) for name, (x, y, z) in _points(end, done.right or done.left, "left").items()}
    points = {name: left.get(name, at) for name, at in end.points.items()}
    apart = {
        name: at for name, at in right.items()
        if name in end.right_points or hypot(at[0] - points[name][0], at[1] + points[name][1], at[2] - points[name][2]) > 1e-4
    }  # fmt: skip
    one, two = wheel_columns(done)
    if any(abs(float(one[key][0] - two[key][0])) > ASKEW for key in ("camber_deg", "toe_deg")):
        raise InputError(
            "With these lengths kept each wheel would stand at its own toe or camber, which an end has one of. Keep the wheel and make the parts anew, or move the pick-ups of both sides together.",
            code="askew", fields=("point",),
        )  # fmt: skip
    wheel = end.wheel.model_copy(
        update={"camber_deg": float(one["camber_deg"][0]), "toe_deg": float(one["toe_deg"][0])}
    )
    change: dict[str, Any] = {"points": points, "wheel": wheel, "right_points": apart}
    if end.pinion_deg is not None and "pinion_deg" in one:  # an axle that is carried along turns its pinion
        change["pinion_deg"] = float(one["pinion_deg"][0])
    return end.model_copy(update=change | _directions(end, done.left))


def _points(end: End, side: SolvedSide, where: str) -> dict[str, Point]:
    """Where every point that moves is now, on a side of the car."""
    assembled, found = side.assembled, {}
    for name in end.points:
        mark = assembled.marks.get(f"{name}_{where}", assembled.marks.get(name) if where == "left" else None)
        if mark is not None and mark.body != GROUND:
            found[name] = _plain(_where(side, mark))
    found[assembled.template.roles.wheel_centre] = _plain(
        _where(side, assembled.wheel(1.0 if where == "left" else -1.0))
    )
    for place in places_of(end).values():  # dampers' eyes, pads, straps: on whichever body they are
        if place.body != GROUND and place.point in end.points and (where == "left" or assembled.beam):
            found.setdefault(place.point, _plain(_where(side, assembled.place(place, where))))
    return found


def _vector(at: Array) -> Vector:
    x, y, z = (float(v) for v in at)
    return x, y, z


def _plain(at: Array) -> Point:
    x, y, z = (round(float(v), 6) for v in at)
    return x, y, z


def _directions(end: End, side: SolvedSide) -> dict[str, Any]:
    """Bolts and studs turned with the bodies that they stand on."""
    assembled = side.assembled

    def turned(body: str, axis: tuple[float, float, float]) -> tuple[float, float, float]:
        if assembled.body_on(body, "left") == GROUND:
            return axis
        x, y, z = (
            float(v[0]) for v in side.solved.system.direction(side.solved.poses, assembled.body_on(body, "left"), axis)
        )
        return x, y, z

    links = dict(end.links)
    for link in assembled.links:
        known = links.get(link.template_name)
        if known is None or link.side == "right":
            continue
        for which, mark in (("a", link.a), ("b", link.b)):
            joint = getattr(known, which)
            if joint is not None and mark.body != GROUND:
                known = known.model_copy(
                    update={
                        which: joint.model_copy(
                            update={"bolt_axis": turned(mark.body.removesuffix("_left"), joint.bolt_axis)}
                        )
                    }
                )
        links[link.template_name] = known
    balls = dict(end.balls)
    for template_joint in assembled.template.joints:
        ball = balls.get(template_joint.name)
        if ball is not None and template_joint.kind in ("ball", "bush"):
            housing, stud = template_joint.bodies_tied
            balls[template_joint.name] = ball.model_copy(
                update={
                    "stud_axis": turned(stud, ball.stud_axis),
                    "housing_axis": turned(housing, ball.housing_axis or ball.stud_axis),
                }
            )
    return {"links": links, "balls": balls}
