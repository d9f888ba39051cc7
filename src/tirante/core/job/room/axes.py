"""An end's box as a bracket sees it: places of every body in the axes of the one that the bracket stands on, at every position that is
reached, and where something ends the travel."""

from __future__ import annotations

from math import cos, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.job.studies import box_key, box_moved
from tirante.core.job.worked import Worked
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.solve import CONVERGED
from tirante.core.parts.stands import At
from tirante.core.quantities import MINUS
from tirante.core.suspension.assemble import SIDES
from tirante.core.suspension.clearance import tyres
from tirante.core.suspension.cycle import resolved
from tirante.core.suspension.ride import pitched
from tirante.core.suspension.whole_box import Worst, where_told

Array = NDArray[np.float64]
MIDDLE = 1e-6  # mm beside the centre line, that is of neither side


def seen_of(job: Worked, at: At) -> Seen:
    """Positions of a joint's end, put together once for all brackets at that place.

    Args:
        job: worked out.
        at: the joint, tied to an end.

    Raises:
        InputError: the end cannot be put together.
    """
    assert at.end_id is not None
    return job.memory.get("seen", (box_key(job, at.end_id), at.body, tuple(float(v) for v in at.at)), lambda: Seen(job, at))  # fmt: skip


class Seen:
    """Positions of an end's box that are reached, and those where something ends the travel."""

    def __init__(self, job: Worked, at: At) -> None:
        """
        Args:
            job: worked out.
            at: the joint, tied to an end.

        Raises:
            InputError: the end cannot be put together.
        """
        assert at.end_id is not None
        self.end_id = at.end_id
        self.box = box_moved(job, at.end_id)
        side = self.box.done.left
        self.assembled = side.assembled
        reach, shape = self.box.reach, self.box.shape
        good = (side.solved.status == CONVERGED).reshape(shape) & reach.reached
        inside = side.solved.take(np.flatnonzero(good.reshape(-1)))
        rows = [self.box.rows[:, good.reshape(-1)]]
        self._solved = [inside]
        if len(
            reach.last
        ):  # where something ends the travel: put together there, since what turns fast goes round between two positions
            last, past = (
                np.ravel_multi_index((at_, reach.rolls, reach.steers), shape) for at_ in (reach.last, reach.past)
            )
            edge = self.box.rows[:, last] + reach.shares * (self.box.rows[:, past] - self.box.rows[:, last])
            ended = resolved(self.box.done, edge).left.solved
            stands = np.flatnonzero(ended.status == CONVERGED)
            self._solved.append(ended.take(stands))
            rows.append(edge[:, stands])
        self.rows = np.concatenate(rows, axis=1)
        self.lanes = self.rows.shape[1]
        (cx, _, cz), self._pitch = pitched(self.assembled.template, self.assembled.end)
        self._centre = np.array([[cx], [0.0], [cz]])
        self.body = self.body_at(at.body, at.at) or self.assembled.body_on(at.body, "left")
        self._own = None if self.body == GROUND else self._pose(self.body)

    def body_at(self, body: str, at: Array) -> str | None:
        """A body of the mechanism by a place on it: of a pair the one on that side; None where that side is not moved here.

        Args:
            body: as the template calls it.
            at: a place on it, as the end's points are entered (3).
        """
        left, right = (self.assembled.body_on(body, side) for side in SIDES)
        if float(at[1]) >= -MIDDLE or left == GROUND:
            return left
        return right if right != left or self.assembled.beam else None

    @property
    def reached(self) -> bool:
        """Whether it gets anywhere at all."""
        return bool(self.lanes)

    @property
    def ride(self) -> int:
        """The position nearest to ride height, straight ahead."""
        return int(np.argmin((np.abs(self.rows) * np.array([[1.0], [10.0], [1.0]])).sum(axis=0)))

    def told(self, lane: int) -> str:
        """A position in words.

        Args:
            lane: which.
        """
        travel, roll, steer = (round(float(v), 1) + 0.0 for v in self.rows[:, lane])
        unit = "°" if self.box.end.steering else "mm"
        return where_told(Worst(value=0.0, travel=travel, roll=roll, steer=steer), unit).replace(" -", f" {MINUS}")

    def where(self, mark: Mark) -> Array:
        """A mark in the bracket's axes, as the end's points are entered (3, lanes).

        Args:
            mark: of the mechanism.
        """
        return self.from_world(self.world(mark))

    def carried(self, body: str, at: Array) -> Array:
        """A place of a body, given as the end's points are entered, in the bracket's axes (3, lanes or 1).

        Args:
            body: of the mechanism.
            at: the place at ride height (3).
        """
        if body == self.body:
            return np.asarray(at, float)[:, None]
        x, y, z = (float(v) for v in self.as_pitched(at))
        return self.where(Mark(body, (x, y, z)))

    def turned(self, body: str, way: Array) -> Array:
        """A direction of a body the same way (3, lanes or 1)."""
        way = np.asarray(way, float)
        if body == self.body:
            return way[:, None]
        return self.carried(body, way) - self.carried(body, np.zeros(3))

    def pitched(self, body: str, at: Array) -> Array:
        """A place of a body as the mechanism has it at ride height (3), in the bracket's axes (3, lanes or 1)."""
        if body == self.body:
            return self._as_entered(np.asarray(at, float)[:, None])
        x, y, z = (float(v) for v in at)
        return self.where(Mark(body, (x, y, z)))

    def pitched_way(self, body: str, way: Array) -> Array:
        """A direction of a body as the mechanism has it at ride height (3), in the bracket's axes (3, lanes or 1)."""
        return self.pitched(body, way) - self.pitched(body, np.zeros(3))

    def world(self, mark: Mark) -> Array:
        """A mark as the mechanism has it (3, lanes).

        Args:
            mark: of it.
        """
        found = [np.broadcast_to(one.system.where(one.poses, mark, one.drives), (3, one.poses.lanes)) for one in self._solved]  # fmt: skip
        return np.concatenate(found, axis=1)

    def from_world(self, places: Array) -> Array:
        """Places of the ground, as the mechanism has them at every lane (3, lanes), in the bracket's axes."""
        return self._as_entered(self._seen(places))

    def tyres(self) -> list[tuple[str, Array, float]]:
        """Each tyre as a ring of balls in the bracket's axes (3, balls, lanes), and their radius."""
        every = [tyres(self.assembled, one) for one in self._solved]
        found = []
        for rings in zip(*every, strict=True):
            name, ring, radius = rings[0][0], np.concatenate([one[1] for one in rings], axis=2), rings[0][2]
            found.append(
                (name, np.stack([self.from_world(ring[:, i, :]) for i in range(ring.shape[1])], axis=1), radius)
            )
        return found

    @property
    def corners_differ(self) -> bool:
        """Whether the right corner moves otherwise than the left one, which alone is looked at."""
        return self.box.done.right is not None

    # --- from the mechanism's axes ---------------------------------------------------------------------------------------

    def _pose(self, body: str) -> tuple[Array, Array]:
        """Where a body's origin is, and its axes (3, 3, lanes), each a column."""
        origin = self.world(Mark(body, (0.0, 0.0, 0.0)))
        tips = [self.world(Mark(body, tip)) for tip in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))]
        axes = [tip - origin for tip in tips]
        return origin, np.stack([axis / np.linalg.norm(axis, axis=0) for axis in axes], axis=1)

    def _seen(self, world: Array) -> Array:
        if self._own is None:
            return world
        origin, axes = self._own
        return np.asarray(np.einsum("ijl,il->jl", axes, world - origin))

    def _as_entered(self, places: Array) -> Array:
        return self._turn(places, -self._pitch)

    def as_pitched(self, at: Array) -> Array:
        """A place as the end's points are entered, as the mechanism has it at ride height (3)."""
        return self._turn(np.asarray(at, float)[:, None], self._pitch)[:, 0]

    def _turn(self, places: Array, pitch: float) -> Array:
        if pitch == 0.0:
            return places
        d = places - self._centre
        x = d[0] * cos(pitch) - d[2] * sin(pitch)
        z = d[0] * sin(pitch) + d[2] * cos(pitch)
        return np.asarray(np.stack([x, d[1], z]) + self._centre)
