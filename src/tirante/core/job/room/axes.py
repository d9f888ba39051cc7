"""An end's box as a bracket sees it: places of every body in the axes of the one that the bracket stands on, at every position that is reached."""

from __future__ import annotations

from math import cos, sin

import numpy as np
from numpy.typing import NDArray

from tirante.core.job.studies import box_moved
from tirante.core.job.worked import Worked
from tirante.core.mechanism.model import GROUND, Mark
from tirante.core.mechanism.solve import CONVERGED
from tirante.core.parts.stands import At
from tirante.core.quantities import MINUS
from tirante.core.suspension.ride import pitched
from tirante.core.suspension.whole_box import Worst, where_told

Array = NDArray[np.float64]
Point = tuple[float, float, float]


class Seen:
    """Positions of an end's box that are reached, and of each edge the place between two where something ends the travel."""

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
        self.side = self.box.done.left
        self.assembled = self.side.assembled
        self.body = self.assembled.body_on(at.body, "left")
        reach, shape = self.box.reach, self.box.shape
        good = (self.side.solved.status == CONVERGED).reshape(shape) & reach.reached
        self._lanes = np.flatnonzero(good.reshape(-1))
        self._last = (
            np.ravel_multi_index((reach.last, reach.rolls, reach.steers), shape)
            if len(reach.last)
            else np.zeros(0, np.intp)
        )
        self._past = (
            np.ravel_multi_index((reach.past, reach.rolls, reach.steers), shape)
            if len(reach.past)
            else np.zeros(0, np.intp)
        )
        self._shares = reach.shares
        self.rows = self._between(self.box.rows)
        self.lanes = self.rows.shape[1]
        (cx, _, cz), self._pitch = pitched(self.assembled.template, self.assembled.end)
        self._centre = np.array([[cx], [0.0], [cz]])
        self._own = None if self.body == GROUND else self._pose(self.body)

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
        return self._as_entered(self._seen(self._world(mark)))

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
        """A mark as the mechanism has it (3, lanes)."""
        return self._world(mark)

    def from_world(self, places: Array) -> Array:
        """Places of the ground, as the mechanism has them at every lane (3, lanes), in the bracket's axes."""
        return self._as_entered(self._seen(places))

    def ground(self, places: Array) -> Array:
        """Places of the ground, as the mechanism has them at all positions of the box (3, positions), in the bracket's axes (3, lanes)."""
        return self._as_entered(self._seen(self._between(places)))

    # --- from the mechanism's axes ---------------------------------------------------------------------------------------

    def _between(self, values: Array) -> Array:
        """Of quantities at all positions: at those that are reached, and at the edges."""
        inside = values[:, self._lanes]
        if not self._last.size:
            return inside
        one, two = values[:, self._last], values[:, self._past]
        return np.concatenate([inside, one + self._shares * (two - one)], axis=1)

    def _world(self, mark: Mark) -> Array:
        solved = self.side.solved
        found = solved.system.where(solved.poses, mark, solved.drives)
        return self._between(np.broadcast_to(found, (3, solved.poses.lanes)))

    def _pose(self, body: str) -> tuple[Array, Array]:
        """Where a body's origin is, and its axes (3, 3, lanes), each a column."""
        origin = self._world(Mark(body, (0.0, 0.0, 0.0)))
        tips = [self._world(Mark(body, tip)) for tip in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))]
        axes = [tip - origin for tip in tips]
        return origin, np.stack([axis / np.linalg.norm(axis, axis=0) for axis in axes], axis=1)

    def _seen(self, world: Array) -> Array:
        if self._own is None:
            return world
        origin, axes = self._own
        return np.asarray(np.einsum("ijl,il->jl", axes, world - origin))

    def _as_entered(self, places: Array) -> Array:
        return self._turn(places, -self._pitch)

    def _as_pitched(self, places: Array) -> Array:
        return self._turn(places, self._pitch)

    def as_pitched(self, at: Array) -> Array:
        """A place as the end's points are entered, as the mechanism has it at ride height (3)."""
        return self._as_pitched(np.asarray(at, float)[:, None])[:, 0]

    def _turn(self, places: Array, pitch: float) -> Array:
        if pitch == 0.0:
            return places
        d = places - self._centre
        x = d[0] * cos(pitch) - d[2] * sin(pitch)
        z = d[0] * sin(pitch) + d[2] * cos(pitch)
        return np.asarray(np.stack([x, d[1], z]) + self._centre)
