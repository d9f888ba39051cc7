"""A photograph of a flat thing: four marks of a known rectangle in its plane take the perspective out, and what is clicked is measured in that plane.

A plane's picture by a pinhole is a projective map of it (Hartley and Zisserman, Multiple View Geometry, 2nd ed., section 2.3 and example
2.12: four points with no three on a line tell it; from memory). How surely a place is known follows from the slopes by
everything that is typed or clicked: marks and places in the picture, the rectangle's two sides, one coefficient of the lens
(straight lines bowed with the square of the distance from the picture's middle), and how far each place stands off the plane, seen by a
camera straight over the picture's middle. Two marks of a ruler give scale alone: perspective is then not taken out, and what it adds
is not counted.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from tirante.core.errors import InputError
from tirante.core.survey.readings import Array

Dot = tuple[float, float]  # [px] of a picture, to the right and down from its upper left corner
CLICK, SIZE, LENS = 1.5, 0.5, 0.005  # [px], [mm], share of the half diagonal; common practice, no source
LEAST = 20.0  # [px] between two marks


@dataclass(frozen=True, slots=True, kw_only=True)
class Photograph:
    """What was clicked, and what is known of it."""

    size: Dot  # of the picture [px]
    marks: Sequence[Dot]  # four, round the rectangle, the first two along its first side; or two of a ruler
    sides: tuple[float, float]  # of the rectangle, the first from mark 1 to 2; of a ruler its length twice [mm]
    places: Mapping[str, Dot]
    click: float = CLICK  # deviation of a click, each way [px]
    side_sd: float = SIZE  # of each side [mm]
    lens: float = LENS  # deviation of what the lens bends at the picture's corner, as a share of the half diagonal
    off_plane: float = 0.0  # deviation of how far each place stands off the marks' plane [mm]
    camera: float = 1000.0  # over the plane [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class InPlane:
    """Places in the plane, from mark 1, along the first side and square to it."""

    perspective: bool  # whether it was taken out
    at: Mapping[str, tuple[float, float]]  # [mm]
    sd: Mapping[str, tuple[float, float]]  # [mm]
    distances: Mapping[tuple[str, str], tuple[float, float]]  # of every two: between them, and its deviation [mm]


def measured_in(photograph: Photograph) -> InPlane:
    """Places of a photograph, measured.

    Args:
        photograph: what was clicked.

    Raises:
        InputError: the marks are not four round a rectangle or two of a ruler; a place lies where the plane is never seen.
    """
    _look(photograph)
    names = list(photograph.places)
    clicked = np.array([*photograph.marks, *(photograph.places[name] for name in names)], dtype=float).ravel()
    given = np.concatenate([clicked, photograph.sides, [0.0], np.zeros(len(names))])
    sds = np.concatenate([
        np.full(len(clicked), photograph.click), np.full(2, photograph.side_sd), [photograph.lens], np.full(len(names), photograph.off_plane),
    ])  # fmt: skip
    ruler = len(photograph.marks) == 2
    if ruler:
        sds[-len(names) - 2] = 0.0  # its length is one figure
    steps = np.where(np.arange(len(given)) < len(clicked), 1e-3, 1e-4)
    at = _mapped(photograph, given)
    slopes = np.empty((at.size, len(given)))
    for i, step in enumerate(steps):
        up, down = given.copy(), given.copy()
        up[i] += step
        down[i] -= step
        slopes[:, i] = (_mapped(photograph, up) - _mapped(photograph, down)).ravel() / (2 * step)
    spread = (slopes * sds**2) @ slopes.T
    deviation = np.sqrt(np.diag(spread)).reshape(at.shape)
    distances: dict[tuple[str, str], tuple[float, float]] = {}
    for i, j in combinations(range(len(names)), 2):
        away = at[j] - at[i]
        long = float(np.linalg.norm(away))
        way = np.zeros(at.size)
        unit = away / max(long, 1e-9)
        way[2 * i : 2 * i + 2], way[2 * j : 2 * j + 2] = -unit, unit
        distances[names[i], names[j]] = long, float(np.sqrt(way @ spread @ way))
    return InPlane(
        perspective=not ruler, distances=distances,
        at={name: (float(one[0]), float(one[1])) for name, one in zip(names, at, strict=True)},
        sd={name: (float(one[0]), float(one[1])) for name, one in zip(names, deviation, strict=True)},
    )  # fmt: skip


def _mapped(photograph: Photograph, given: Array) -> Array:
    """Places in the plane [mm], by all that was given: clicks, sides, the lens, what each stands off."""
    n, m = len(photograph.places), len(photograph.marks)
    dots = given[: 2 * (m + n)].reshape(-1, 2)
    wide, high, bent = given[2 * (m + n) : 2 * (m + n) + 3]
    off = given[2 * (m + n) + 3 :]
    middle = np.array(photograph.size) / 2
    half = float(np.linalg.norm(middle))
    away = (dots - middle) / half
    straight = middle + half * away * (1 + bent * (away**2).sum(axis=1, keepdims=True))
    flat = _ruler_of(straight[:2], wide) if m == 2 else plane_of(straight[:4], wide, high)
    under = through(flat, middle)
    found = np.array([through(flat, dot) for dot in straight[m:]])
    # what stands off the plane is seen farther from the place under the camera than it is
    return found - (found - under) * (off / photograph.camera)[:, None]


def _ruler_of(marks: Array, long: float) -> Array:
    """As `plane_of`, by scale and turn alone, from the first mark along the second [mm]."""
    way = marks[1] - marks[0]
    square = max(float(way @ way), 1e-9)
    (a, b), (x, y) = long * way / square, marks[0]
    return np.array([[a, b, -a * x - b * y], [-b, a, b * x - a * y], [0.0, 0.0, 1.0]])


def plane_of(marks: Array, wide: float, high: float) -> Array:
    """The projective map from a picture to a rectangle in it.

    Args:
        marks: its corners in the picture, round it, (4, 2) [px].
        wide: from the first to the second [mm].
        high: from the second to the third [mm].

    Returns:
        (3, 3), its last element 1 where the picture's corner is seen in the plane.
    """
    rows, right = [], []
    for (x, y), (u, v) in zip(marks, ((0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high)), strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    found = np.linalg.solve(np.array(rows), np.array(right))
    return np.append(found, 1.0).reshape(3, 3)


def through(flat: Array, dot: Array) -> Array:
    """Where a place of a picture lies in the plane [mm].

    Args:
        flat: the map.
        dot: in the picture [px].
    """
    x, y, w = flat @ np.array([dot[0], dot[1], 1.0])
    return np.array([x / w, y / w])


def _look(photograph: Photograph) -> None:
    marks = np.array(photograph.marks, dtype=float)
    if len(marks) not in (2, 4):
        raise InputError("Four marks of a rectangle take the perspective out, two of a ruler give scale alone: click two or four.", code="marks", fields=("marks",))  # fmt: skip
    if min(float(np.linalg.norm(a - b)) for a, b in combinations(marks, 2)) < LEAST:
        raise InputError("Two marks lie on one another in the picture. Click each where it is.", code="marks", fields=("marks",))  # fmt: skip
    if min(photograph.sides) <= 0:
        raise InputError("The sides between the marks are more than nothing; give them.", code="sides", fields=("sides",))  # fmt: skip
    if len(marks) == 2:
        return
    turns = [_turn(marks[i], marks[(i + 1) % 4], marks[(i + 2) % 4]) for i in range(4)]
    if min(turns) <= 0 <= max(turns):
        raise InputError("The four marks are not those of a rectangle in the order round it. Click them one after the other round it, none on a line with two others.", code="marks", fields=("marks",))  # fmt: skip
    # a place on the far side of the line where the plane vanishes is none of it
    flat = plane_of(marks, *photograph.sides)
    sides = {np.sign(flat[2] @ np.array([x, y, 1.0])) for x, y in marks}
    for name, dot in photograph.places.items():
        if np.sign(flat[2] @ np.array([dot[0], dot[1], 1.0])) not in sides:
            raise InputError(f"{name} lies beyond where the plane of the marks ends in the picture: it is not of that plane.", code="beyond", fields=("places",))  # fmt: skip


def _turn(a: Array, b: Array, c: Array) -> float:
    """Which way a corner turns, as its sine times a share: 0 on a line."""
    one, other = (b - a) / np.linalg.norm(b - a), (c - b) / np.linalg.norm(c - b)
    turn = float(one[0] * other[1] - one[1] * other[0])
    return 0.0 if abs(turn) < 0.02 else turn
