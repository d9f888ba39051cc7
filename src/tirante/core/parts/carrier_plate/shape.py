"""A plate on a carrier: where its eye stands from its root, in its own plane, and its outline."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.plate_arm import PlateArm
from tirante.core.brackets.root_bolts import RootBolts
from tirante.core.document.parts.carrier_plate import CarrierPlate
from tirante.core.flat.contour import Contour, Hole
from tirante.core.parts.part import Misfit
from tirante.core.parts.rocker.shape import FIT, plate_outline
from tirante.core.suspension.on_body import OnBody

Array = NDArray[np.float64]
CORNER = 1.0  # mm: radius that is left at the corners of a welded root


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateShape:
    """The plate in its own plane, its eye at 0, its root at `reach` along x."""

    words: str  # of the joint that its eye holds
    eye: Array  # the joint, in the body's own axes (3) [mm]
    axes: Array  # (3, 3) rows: from the root to the eye, across that in the plate, square to the plate
    reach: float  # eye to the middle of bolts or weld [mm]
    off: float  # of the joint off the plate's middle, along its third axis [mm]
    outline: Contour
    pin: tuple[float, float, float] | None  # line of a hinge that its eye holds one end of

    def arm(self, saved: CarrierPlate) -> PlateArm:
        """From its eye to the bolt nearer to it, or to its weld."""
        bolted = saved.fastened == "two bolts"
        return PlateArm(
            length=self.reach - (saved.apart_mm / 2 if bolted else 0.0), eye_radius=saved.head_mm, hub_radius=saved.root_width_mm / 2,
            hub_hole=saved.bolt_mm + FIT if bolted else 0.0, thickness=saved.plate_mm,
        )  # fmt: skip

    def bolts(self, saved: CarrierPlate) -> RootBolts:
        """Both bolts of its root."""
        return RootBolts(diameter=saved.bolt_mm, apart=saved.apart_mm, reach=self.reach, width=saved.root_width_mm)


def shaped(saved: CarrierPlate, places: Sequence[OnBody]) -> PlateShape | list[Misfit]:
    """Where it stands and its outline; or what stands in the way.

    Args:
        saved: as it is saved.
        places: of the body that it is a plate of.
    """
    place = next((one for one in places if one.point == saved.point and one.jointed), None)
    if place is None:
        words = saved.point.replace("_", " ")
        return [Misfit(field="point", message=f"The {saved.body.replace('_', ' ')} has no joint at {words} any more. Take the plate out, or undo.")]  # fmt: skip
    if max(abs(v) for v in saved.root) == 0:
        return [
            Misfit(
                field="root",
                message="Say where it is fastened: how far ahead of its eye, to the left of it and above it the middle of its bolts or of its weld lies.",
            )
        ]
    normal = np.array(saved.normal) / np.linalg.norm(saved.normal)
    eye = np.array(place.at)
    way = -np.array(saved.root)
    off = float(way @ normal)
    way = way - normal * off
    reach = float(np.linalg.norm(way))
    least = saved.head_mm + (saved.apart_mm / 2 + saved.bolt_mm if saved.fastened == "two bolts" else 0.0)
    if reach <= least:
        told = f"Its root lies {reach:.1f} mm from its eye, seen square to the plate: nearer than eye and bolts leave room for ({least:.1f} mm). Move one of them, or turn the plate."
        return [Misfit(field="root", message=told)]
    along = way / reach
    axes = np.array([along, np.cross(normal, along), normal])
    return PlateShape(
        words=place.words,
        eye=eye,
        axes=axes,
        reach=reach,
        off=off,
        outline=_outline(saved, reach),
        pin=place.bolt if place.sort == "hinge" else None,
    )


def _outline(saved: CarrierPlate, reach: float) -> Contour:
    half, eye = saved.root_width_mm / 2, Hole(0.0, 0.0, saved.pin_mm + FIT)
    if saved.fastened == "weld":
        corners = [(reach - CORNER, way * (half - CORNER), CORNER) for way in (1.0, -1.0)]
        return Contour(edges=plate_outline([(0.0, 0.0, saved.head_mm), *corners]), holes=(eye,))
    at = [reach + way * saved.apart_mm / 2 for way in (-1.0, 1.0)]
    holes = (eye, *(Hole(x, 0.0, saved.bolt_mm + FIT) for x in at))
    return Contour(edges=plate_outline([(0.0, 0.0, saved.head_mm), *((x, 0.0, half) for x in at)]), holes=holes)
