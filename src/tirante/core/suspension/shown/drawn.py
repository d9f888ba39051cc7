"""The drawing of an end at a position: its three views with the ghost at ride height, and its plots along the travel."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import isfinite
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.shape import Shape
from tirante.core.document.template import Template
from tirante.core.drawing.model import Drawing, Tone
from tirante.core.drawing.sheet import Numbers
from tirante.core.suspension.cycle import Cycle, Solved, measured, resolved, roll_centre
from tirante.core.suspension.shown.end_view import Axis, Plot, ViewPlace, places_of_views, plots_sheet, views_sheet
from tirante.core.suspension.shown.measures_shown import BY_KEY, PLOTTED
from tirante.core.suspension.shown.posture import postures_of
from tirante.core.suspension.study import Study

Along = Literal["travel", "roll", "steer"]


SWEPT = 25  # positions along roll or steer


@dataclass(frozen=True, slots=True, kw_only=True)
class Plotted:
    """What the plots of an end show: measures by key (none: the usual four), and what stands up the page."""

    keys: tuple[str, ...] = ()
    along: Along = "travel"
    reach: float = 0.0  # of roll [deg] or steer [mm, deg], each way
    steer_unit: Literal["mm", "°"] = "mm"


def draw_views(
    name: str, done: Solved, numbers: Numbers, shapes: Mapping[str, Shape] | None = None, *, handles: bool = False
) -> tuple[Drawing, tuple[ViewPlace, ...]] | None:
    """The three views of an end solved at two positions, now and at ride height; None where it cannot be put together.

    Args:
        name: what the drawing is called, for those who pick in it.
        done: the end, solved at both.
        numbers: how lengths are written.
        shapes: what its members look like as they are made.
        handles: whether its points are marked, to be moved by hand.

    Returns:
        The drawing, and where its views stand on it.
    """
    now, ride = postures_of(done, shapes or {})
    if now is None or ride is None:
        return None
    height, y = (float(column[0]) for column in roll_centre(done))
    centre = (y, height) if isfinite(height) and isfinite(y) else None
    points = list(done.left.assembled.end.points.items()) if handles else []
    places = places_of_views(now, ride)
    return views_sheet(name, now, ride, centre, numbers, handles=points, places=places), places


def draw_plots(
    name: str, template: Template, found: Study, numbers: Numbers, travel: float, roll: float, steer: float,
    other: Study | None = None, wanted: Plotted | None = None,
) -> Drawing:  # fmt: skip
    """An end's measures, with where it stands at a travel [mm], roll [deg] and steer [mm, deg] of its study.

    `other` is the study of another revision, over the same travel or its own: faint.

    Args:
        name: what the drawing is called, for those who pick in it.
        template: of the end.
        found: its study.
        numbers: how lengths are written.
        travel: of the wheel, bump positive [mm].
        roll: of the body [deg].
        steer: mm of the rack, or deg of the steering arm.
        other: another revision’s study, to stand beside; None: none.
        wanted: which measures, and along what.
    """
    wanted = wanted or Plotted()
    if wanted.along == "travel" and not template.rises:  # it only leans
        wanted = replace(wanted, along="roll")
    along, columns = _swept(found, wanted, travel, roll, steer)
    beside = _swept(other, wanted, travel, roll, steer) if other else None
    here = {"travel": travel, "roll": roll, "steer": steer}[wanted.along]

    def at(key: str) -> float | None:
        found = float(np.interp(here, along, columns[key]))  # NaN where either neighbour is
        return found if isfinite(found) else None

    met = np.isfinite(columns["camber_deg"]) if "camber_deg" in columns else np.zeros(len(along), dtype=bool)

    def gap(key: str) -> str:
        lost = key.startswith("roll_centre") and (met & ~np.isfinite(columns[key])).any()
        return "lines parallel" if lost else ""

    plots = tuple(
        Plot(
            name=BY_KEY[key].short, unit=BY_KEY[key].unit, values=_values(columns[key]), now=at(key), signed=key.endswith("_deg"),
            other=_along(beside, key, along), gap=gap(key),
        )
        for key in wanted.keys or PLOTTED[template.axle] if key in columns
    )  # fmt: skip
    marks: list[tuple[float, str, Tone]] = [
        (event.travel, event.short.split()[-1], "ink") if event.kind == "stop" else (event.travel, "", "amber")
        for event in found.events if wanted.along == "travel"
    ]  # fmt: skip
    unit: Literal["mm", "°"] = (
        "mm" if wanted.along == "travel" else "°" if wanted.along == "roll" else wanted.steer_unit
    )
    return plots_sheet(name, plots, Axis(wanted.along, unit, tuple(along.tolist()), here), tuple(marks), numbers)


def _swept(
    found: Study, wanted: Plotted, travel: float, roll: float, steer: float
) -> tuple[NDArray[np.float64], dict[str, NDArray[np.float64]]]:
    """Values up the page and the measures there."""
    moved = swept(found, wanted, travel, roll, steer)
    return {"travel": moved.travel_mm, "roll": moved.roll_deg, "steer": moved.steer}[wanted.along], moved.columns


def swept(found: Study, wanted: Plotted, travel: float, roll: float, steer: float) -> Cycle:
    """The measures of an end along its travel, roll or steer: the study's own along the travel, else solved for it.

    Args:
        found: its study.
        wanted: which measures, and along what.
        travel: of the wheel, bump positive [mm].
        roll: of the body [deg].
        steer: mm of the rack, or deg of the steering arm.
    """
    if wanted.along == "travel":
        return found.found
    along = np.linspace(-wanted.reach, wanted.reach, SWEPT) if wanted.reach else np.zeros(1)
    rows = np.array([np.full(along.shape, v) for v in (travel, roll, steer)])
    rows[1 if wanted.along == "roll" else 2] = along
    return measured(resolved(found.done, rows))


def _along(
    other: tuple[NDArray[np.float64], dict[str, NDArray[np.float64]]] | None, key: str, along: NDArray[np.float64]
) -> tuple[float | None, ...]:
    """Another revision's measure at these places, None where it was not moved to."""
    if other is None or key not in other[1]:
        return ()
    return _values(np.interp(along, other[0], other[1][key], left=np.nan, right=np.nan))


def _values(column: NDArray[np.float64]) -> tuple[float | None, ...]:
    return tuple(float(value) if np.isfinite(value) else None for value in column)
