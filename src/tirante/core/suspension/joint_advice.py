"""What would give a joint at its limit more room: spacers, a bracket turned, ends clocked otherwise, a spherical end for a hinge.

Nothing is told that was not tried: the end is moved through its whole box again as advised, and what is told is what it then asks of
every end of that link and of the links on the same bolt. Where any of them would get worse, nothing is said.

The direction of a turned bolt, fixed to its own body, makes the larger share of both ends' limits least over all positions: the
three directions of the car first, then a search (Nelder and Mead) from the best of them, told to two decimals as it is typed.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import acos, atan2, degrees, hypot, radians

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import minimize

from tirante.core.document.end import End, EndLink, JointEnd
from tirante.core.document.template import Template
from tirante.core.mechanism.solve import CONVERGED
from tirante.core.suspension import joints
from tirante.core.suspension.assemble import LinkMarks
from tirante.core.suspension.cycle import SolvedSide, bolt_directions
from tirante.core.suspension.measures import unit
from tirante.core.suspension.watches import plain
from tirante.core.suspension.whole_box import Box, box_of

Array = NDArray[np.float64]
Direction = tuple[float, float, float]

BETTER = 0.02  # of its limit: less than this is not worth the work
WORSE = 0.002  # of its limit: more than this at another end is worse
SIMPLE = 0.05  # of its limit: a plain direction that is no further from the best is told in its place
PLAIN: tuple[Direction, ...] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


@dataclass(frozen=True, slots=True, kw_only=True)
class Advice:
    """Something that was tried and does better."""

    text: str
    end: End  # as advised
    asked: dict[str, float]  # of every end that it touches, the worst angle then [deg]


@dataclass(frozen=True, slots=True)
class _Joint:
    """A link's end over the box."""

    link: str  # of the template
    which: str

    @property
    def word(self) -> str:
        return "inner" if self.which == "a" else "outer"


def advice_for(template: Template, box: Box, link: str, which: str) -> tuple[Advice, ...]:
    """What gives an end of a link more room, each tried over the whole box.

    Args:
        template: with its additions.
        box: the end as it is, moved through it.
        link: of the end's template.
        which: end of it, "a" or "b".
    """
    end, name = box.end, plain(link)
    known = end.links.get(name)
    joint: JointEnd | None = getattr(known, which, None)
    if known is None or joint is None:
        return ()
    here = _Joint(name, which)
    on_bolt = _same_bolt(box, here)
    touched = [_Joint(one, at) for one in dict.fromkeys(j.link for j in on_bolt) for at in ("a", "b")]
    before = _asked(box, touched)
    found: list[tuple[float, Advice]] = []
    for told, changed in _candidates(box, here, on_bolt, known, joint):
        again = box_of(
            template, changed, bump=float(box.travel[-1]), droop=float(-box.travel[0]), roll=float(box.roll[-1]), steer=float(box.steer[-1]),
            steps=box.steps,
        )  # fmt: skip
        after = _asked(again, touched)
        if _better(end, changed, here, before, after):
            figures = [f"{after[here]:.1f}° here (now {before[here]:.1f}°)"]
            figures += [
                f"{after[j]:.1f}° at {_called(j, here)} (now {before[j]:.1f}°)"
                for j in touched
                if j != here and j in after
            ]
            asked = {f"{j.link}, {j.word} end": angle for j, angle in after.items()}
            advice = Advice(text=f"{told}: {', '.join(figures)} at worst", end=changed, asked=asked)
            found.append((after[here] / _limit(changed, here), advice))
    # what leaves it past its limit is told only where nothing else does better
    found.sort(key=lambda one: one[0])
    return tuple(advice for share, advice in found if share <= max(1.0, found[0][0]))


def _called(joint: _Joint, here: _Joint) -> str:
    return f"its {joint.word} end" if joint.link == here.link else f"the {joint.link}’s {joint.word} end"


def _asked(box: Box, touched: list[_Joint]) -> dict[_Joint, float]:
    """The worst angle of each, of either side of the car [deg]."""
    found: dict[_Joint, float] = {}
    for name, columns in box.found.links.items():
        for joint in touched:
            if plain(name) != joint.link:
                continue
            angles = columns.get(f"misalignment_{joint.which}_deg", columns.get(f"tilt_{joint.which}_deg"))
            worst = box.reach.worst(angles).value if angles is not None else -np.inf
            if np.isfinite(worst):
                found[joint] = max(found.get(joint, 0.0), worst)
    return found


def _limit(end: End, joint: _Joint) -> float:
    own: JointEnd | None = getattr(end.links[joint.link], joint.which)
    return own.limit_deg if own is not None and own.limit_deg is not None else 90.0


def _better(end: End, changed: End, here: _Joint, before: dict[_Joint, float], after: dict[_Joint, float]) -> bool:
    """Whether this end gets better and no other that it touches gets worse, by the share of what each allows."""
    if here not in after or here not in before:
        return False
    gain = before[here] / _limit(end, here) - after[here] / _limit(changed, here)
    return gain >= BETTER and all(
        after[j] / _limit(changed, j) <= was / _limit(end, j) + WORSE
        for j, was in before.items()
        if j != here and j in after
    )


def _with(end: End, joint: _Joint, **change: object) -> End:
    known = end.links[joint.link]
    own: JointEnd = getattr(known, joint.which)
    link = known.model_copy(update={joint.which: own.model_copy(update=change)})
    return end.model_copy(update={"links": {**end.links, joint.link: link}})


def _instances(box: Box, name: str) -> Iterator[tuple[SolvedSide, LinkMarks]]:
    for side in box.done.sides:
        for link in side.assembled.links:
            if link.template_name == name:
                yield side, link


def _same_bolt(box: Box, here: _Joint) -> list[_Joint]:
    """This end and those of other links that stand on the same bolt: they turn with it."""
    side, link = next(_instances(box, here.link))
    mine, bolt = getattr(link, here.which), _bolt(box.end, here)
    found = [here]
    for other in side.assembled.links:
        if other.template_name == here.link or other.side != link.side:
            continue
        for which in ("a", "b"):
            joint = _Joint(other.template_name, which)
            mark, own = getattr(other, which), getattr(box.end.links.get(joint.link), which, None)
            if own is None or mark.body != mine.body or not np.allclose(mark.at, mine.at, atol=1e-6):
                continue
            if abs(abs(float(bolt @ _bolt(box.end, joint))) - 1) < 1e-6:
                found.append(joint)
    return found


def _bolt(end: End, joint: _Joint) -> Array:
    own: JointEnd = getattr(end.links[joint.link], joint.which)
    axis = np.array(own.bolt_axis, float)
    found: Array = axis / np.linalg.norm(axis)
    return found


def _candidates(
    box: Box, here: _Joint, on_bolt: list[_Joint], known: EndLink, joint: JointEnd
) -> Iterator[tuple[str, End]]:
    """What may be tried, in words, and the end as it would be."""
    end = box.end
    wide = joint.limit_with_spacers_deg
    if joint.kind == "spherical" and joint.limit_deg is not None and wide is not None and wide > joint.limit_deg:
        yield f"misalignment spacers, which let it tilt {wide:g}°", _with(end, here, limit_deg=wide)
    shares = _Shares(box, here, known)
    now = _bolt(end, here)
    direction, clocking = shares.best_direction(now)
    for turn in dict.fromkeys((known.clocking_deg, clocking)):
        axis = direction if turn == clocking else shares.best_direction(now, turn)[0]
        angle = degrees(acos(min(1.0, abs(float(np.array(axis) @ now) / hypot(*axis)))))
        if angle < 1.0:
            continue
        changed = end
        for one in on_bolt:
            changed = _with(changed, one, bolt_axis=axis)
        told = f"its bracket turned by {angle:.0f}°, so that the bolt {stands(axis)}"
        if turn != known.clocking_deg:
            changed = _clocked(changed, here, turn)
            told += f", and its ends clocked {turn:+.0f}° to each other"
        yield told, changed
    turn = shares.best_clocking(now)
    if turn != known.clocking_deg:
        yield f"its ends clocked {turn:+.0f}° to each other (now {known.clocking_deg:+.0f}°)", _clocked(end, here, turn)
    if joint.kind == "hinged":
        yield "a spherical end in place of the hinge", _with(end, here, kind="spherical", limit_deg=None)


def _clocked(end: End, here: _Joint, turn: float) -> End:
    link = end.links[here.link].model_copy(update={"clocking_deg": turn})
    return end.model_copy(update={"links": {**end.links, here.link: link}})


def _hinged(joint: JointEnd | None) -> bool:
    return joint is not None and joint.kind == "hinged"


class _Shares:
    """The larger share of both ends' limits over all positions, for any direction of a bolt and any clocking."""

    def __init__(self, box: Box, here: _Joint, known: EndLink) -> None:
        self.here, self.known = here, known
        both = known.a is not None and known.b is not None
        self.both = both
        self.hinged = _hinged(known.a), _hinged(known.b)
        a, b = (one.limit_deg if one is not None else None for one in (known.a, known.b))
        self.limits = (1.0, 1.0) if a is None or b is None else (a, b)
        self.judged = a or 90.0, b or 90.0
        self.seen: list[tuple[Array, Array, Array, bool]] = []
        for side, link in _instances(box, here.link):
            solved = side.solved
            good = np.flatnonzero((solved.status == CONVERGED) & box.reach.reached.reshape(-1))
            start, stop = (solved.system.where(solved.poses, mark, solved.drives)[:, good] for mark in (link.a, link.b))
            body = getattr(link, here.which).body
            turns = (
                solved.poses.R[solved.system.index[body]][..., good]
                if body in solved.system.index and solved.system.index[body] >= 0
                else None
            )
            if turns is None:
                turns = np.broadcast_to(np.eye(3)[:, :, None], (3, 3, len(good)))
            bolts = bolt_directions(side.assembled, solved, link)
            other = bolts.get("b" if here.which == "a" else "a")
            fixed = np.broadcast_to(other, (3, solved.poses.lanes))[:, good] if other is not None else np.zeros((3, 0))
            self.seen.append((unit(stop - start), turns, fixed, link.side == "right"))

    def worst(self, bolt: Array, clocking: float) -> float:
        """Of this direction and clocking."""
        most = 0.0
        for axis, turns, other, right in self.seen:
            own = bolt * np.array([1.0, -1.0, 1.0]) if right else bolt
            mine = np.einsum("ijk,j->ik", turns, own)
            if not self.both or self.hinged == (True, True):
                angle = np.degrees(joints.tilt(axis, mine))
                most = max(most, float(angle.max()) / self.judged[0 if self.here.which == "a" else 1])
                continue
            one, two = (mine, other) if self.here.which == "a" else (other, mine)
            found = joints.misalignment(axis, one, two, radians(clocking), self.hinged, self.limits)
            most = max(
                most, *(float(np.degrees(angle).max()) / limit for angle, limit in zip(found, self.judged, strict=True))
            )
        return most

    def best_clocking(self, bolt: Array) -> float:
        """The clocking of least share, to whole degrees; as it is where another gives nothing."""
        tried = [float(self.known.clocking_deg), *(float(turn) for turn in range(-90, 90, 5))]
        best = min(tried, key=lambda turn: self.worst(bolt, turn))
        if best != self.known.clocking_deg:
            best = min((best + fine for fine in (-2.0, -1.0, 0.0, 1.0, 2.0)), key=lambda turn: self.worst(bolt, turn))
        best = (best + 90.0) % 180.0 - 90.0  # bores are lines: half a turn is none
        kept = self.worst(bolt, self.known.clocking_deg) - self.worst(bolt, best) < BETTER
        return float(self.known.clocking_deg) if kept or not self.both else best

    def best_direction(self, now: Array, clocking: float | None = None) -> tuple[Direction, float]:
        """The direction of least share, as it is typed, and the clocking that goes with it; that given where one is."""

        def clock(bolt: Array) -> float:
            return self.best_clocking(bolt) if clocking is None else clocking

        starts = [now, *(np.array(one) for one in PLAIN)]
        plain_ = min(starts[1:], key=lambda bolt: self.worst(bolt, clock(bolt)))
        start = min((now, plain_), key=lambda bolt: self.worst(bolt, clock(bolt)))
        turn = clock(start)
        _, _, basis = np.linalg.svd(start[None, :])

        def at(x: Array) -> Array:
            found: Array = start + x @ basis[1:]
            return found / np.linalg.norm(found)

        answer = minimize(
            lambda x: self.worst(at(x), turn), np.zeros(2), method="Nelder-Mead",
            options={"initial_simplex": [[0.0, 0.0], [0.2, 0.0], [0.0, 0.2]], "maxfev": 60, "xatol": 2e-3, "fatol": 1e-3},
        )  # fmt: skip
        best = np.round(at(answer.x), 2)
        if self.worst(plain_, clock(plain_)) <= self.worst(best / np.linalg.norm(best), turn) + SIMPLE:
            best, turn = plain_, clock(plain_)
        x, y, z = (float(v) for v in best)
        return (x, y, z), turn


def stands(axis: Direction) -> str:
    """How a bolt of the left side stands, in words, and its direction as it is typed.

    Args:
        axis: its direction; either way round is the same bolt.
    """
    main = max(range(3), key=lambda i: abs(axis[i]))
    x, y, z = (v if axis[main] >= 0 else 0.0 - v for v in axis)
    words = ("stands fore and aft", "stands athwart", "stands upright")[main]
    ends = ("front", "outer", "upper")[main]
    lean = []
    for value, up, down in (
        ((z, "up", "down"), (y, "outboard", "inboard")), ((z, "up", "down"), (x, "forward", "rearward")),
        ((x, "forward", "rearward"), (y, "outboard", "inboard")),
    )[main]:  # fmt: skip
        angle = degrees(atan2(abs(value), (x, y, z)[main]))
        if angle >= 0.5:
            lean.append(f"{angle:.0f}° {up if value > 0 else down}")
    leaning = f", its {ends} end {' and '.join(lean)}" if lean else ""
    return f"{words}{leaning} ({x:g}, {y:g}, {z:g})"
