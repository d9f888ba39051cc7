"""Eyes and clevises from the solid: the outline of their head, their fork, the spigot that goes into the tube, and how much metal they are."""

from __future__ import annotations

from math import ceil, pi

from tirante.core.document.catalogue import Tube
from tirante.core.document.parts.common import Welding
from tirante.core.document.parts.link import Machined
from tirante.core.flat.contour import Contour
from tirante.core.parts.link.flat import eye_outline
from tirante.core.parts.link.plug import ROOM, SLIP

FORK_ROOM = (
    2.0  # mm past half of its width, that a fork is deep from the hole's centre at least; common practice, no source
)
FLOOR = 0.5  # of an ear's thickness, of metal behind the fork; common practice, no source


def head_of(end: Machined, face: float) -> Contour:
    """Its outline along the pin, up to the shoulder; the hole at 0, the tube at the right.

    Args:
        end: as it is saved.
        face: from the hole to the shoulder [mm].
    """
    return eye_outline(end.width_mm, end.edge_mm, face, end.hole_mm)


def fork(end: Machined) -> float:
    """From a clevis's hole to the bottom of its fork: at least so that an eye as wide as it turns in it [mm].

    Args:
        end: as it is saved.
    """
    return max(end.fork_mm or 0.0, end.width_mm / 2 + FORK_ROOM)


def floor_lacks(end: Machined, face: float) -> float:
    """How much too near to its hole a clevis's shoulder is for its fork and the metal behind it [mm]; nothing where it is not.

    Args:
        end: as it is saved.
        face: from the hole to the shoulder [mm].
    """
    if end.form != "clevis":
        return 0.0
    return max(0.0, fork(end) + FLOOR * end.thickness_mm - face)


def spigot_of(end: Machined, tube: Tube, welding: Welding) -> tuple[float, float]:
    """Diameter of its spigot, and how long it goes into the tube [mm].

    Args:
        end: as it is saved.
        tube: of the link.
        welding: of its ends.
    """
    bore = tube.od_mm - 2 * tube.wall_mm
    usual = float(ceil(max(bore, ROOM * welding.plug_mm if welding.plugs else 0.0)))
    return bore - SLIP, end.spigot_mm or usual


def solid_metal(end: Machined, face: float, tube: Tube, welding: Welding) -> float:
    """Of all of it [mm³].

    Args:
        end: as it is saved.
        face: from the hole to the shoulder [mm].
        tube: of the link.
        welding: of its ends.
    """
    area, (spigot, long) = head_of(end, face).area, spigot_of(end, tube, welding)
    head = end.thickness_mm * area
    if end.form == "clevis":
        head = 2 * head + end.gap_mm * end.width_mm * max(0.0, face - fork(end))
    return head + pi / 4 * spigot**2 * long
