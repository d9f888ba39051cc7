"""Points that stand where hardly any car has one: asked about, never refused. A slip of ten, of the unit or of the sign is named where it would explain it.

The limits are common practice, no source: they only ask.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from tirante.core.document.end import End
from tirante.core.document.fields import Point
from tirante.core.document.template import Template
from tirante.core.units import INCH

OUTSIDE_TYRE = 120.0  # [mm] past the tyre's outer face
BELOW, ABOVE = -60.0, 1500.0  # [mm] of the ground
AWAY = 1600.0  # [mm] ahead of or behind the wheel's centre; a long trailing link's front end is at 1300
AXES = ("x", "y", "z")


@dataclass(frozen=True, slots=True, kw_only=True)
class FarOff:
    """A point that is asked about."""

    point: str
    side: str  # left or right
    at: Point
    says: str


def far_off(template: Template, end: End) -> list[FarOff]:
    """Points of an end that stand far from its wheel, but those that were said to be meant.

    Args:
        template: of the end.
        end: as its points were taken.
    """
    centre = end.points.get(template.roles.wheel_centre)
    if centre is None:
        return []
    found = []
    for side, points in (("left", end.points), ("right", end.right_points)):
        for name, at in points.items():
            if tuple(end.meant.get(name, ())) == tuple(at) or name == template.roles.wheel_centre:
                continue
            says = next(_told(at, _limits(centre, end)), None)
            if says:
                found.append(FarOff(point=name, side=side, at=at, says=says))
    return found


def _limits(centre: Point, end: End) -> Mapping[str, tuple[float, float, str]]:
    """Of each axis from where to where nobody asks, and what that is measured from."""
    out = abs(centre[1]) + end.wheel.width_mm / 2 + OUTSIDE_TYRE
    return {
        "x": (centre[0] - AWAY, centre[0] + AWAY, f"the wheel’s centre is at {centre[0]:.0f} mm"),
        "y": (-out, out, f"the track is {2 * abs(centre[1]):.0f} mm"),
        "z": (BELOW, ABOVE, "the ground is at 0"),
    }


def _told(at: Point, limits: Mapping[str, tuple[float, float, str]]) -> Iterator[str]:
    for axis, value in zip(AXES, at, strict=True):
        low, high, why = limits[axis]
        if low <= value <= high:
            continue
        slip = next((f" Was {told} meant?" for told, other in _slips(value) if low <= other <= high), "")
        yield f"{axis} {value:.1f} mm is far off: {why}.{slip}"


def _slips(value: float) -> Iterator[tuple[str, float]]:
    """What is typed by mistake for a figure: the sign, a digit too many, inches in a page of millimetres."""
    yield f"{-value:.1f} mm", -value
    yield f"{value / 10:.1f} mm", value / 10
    yield f"{value / INCH:.1f} mm", value / INCH
