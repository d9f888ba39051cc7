"""A link's end whose tube is plugged and bored across: what fits, what is turned, how it is held, what the bench needs."""

from __future__ import annotations

from math import hypot, pi

from tirante.core.brackets.plug_eye import PlugEye
from tirante.core.document.catalogue import Tube
from tirante.core.document.end import DamperEye
from tirante.core.document.parts.link import Plug
from tirante.core.errors import InputError
from tirante.core.members.insert_weld import legs_for
from tirante.core.parts.part import CardLine, Misfit, Turned, TurnedPiece
from tirante.core.parts.turned import turned_piece

SLIP = 0.1  # mm that a plug is turned under its bore; common practice, no source
ROOM = 2.0  # weld diameters of plug behind the hole, for a weld through the wall; common practice, no source
ROUND = 0.5  # of the way round the tube that welds through its wall may take; common practice, no source


def plug_eye(plug: Plug, tube: Tube) -> PlugEye:
    """It as an eye: sunk by its fillet, so that much shorter beyond the hole.

    Args:
        plug: as it is saved.
        tube: of the link.

    Raises:
        InputError: its hole is as wide as it is.
    """
    return PlugEye(
        bore=tube.od_mm - 2 * tube.wall_mm, hole=plug.hole_mm, pin=plug.pin_mm, edge=plug.edge_mm - plug.leg_mm
    )


def weld_at(plug: Plug) -> float:
    """From the tube's end to the middles of the welds through its wall: half way between the hole and the plug's inner end [mm]."""
    return (plug.edge_mm + plug.hole_mm / 2 + plug.long_mm) / 2


def plug_fits(plug: Plug, tube: Tube, name: str) -> list[Misfit]:
    """What does not go together.

    Args:
        plug: as it is saved.
        tube: of the link.
        name: of the end's field.
    """
    at, found = f"{name}.plug.", []
    if plug.pin_mm > plug.hole_mm:
        found.append(Misfit(field=f"{at}hole_mm", message="The hole is smaller than its pin: bore it larger."))
    try:
        plug_eye(plug, tube)
    except InputError as error:
        found.append(Misfit(field=f"{at}hole_mm", message=error.message))
    if plug.edge_mm - plug.leg_mm <= plug.hole_mm / 2:
        found.append(Misfit(field=f"{at}edge_mm", message="The hole breaks out of the plug, which is sunk by its fillet: give it more edge."))  # fmt: skip
    behind, least = plug.long_mm - plug.edge_mm - plug.hole_mm / 2, ROOM * plug.plug_mm if plug.plugs else 0.0
    if behind < max(least, plug.hole_mm / 2):
        message = f"There is {behind:.1f} mm of plug behind the hole, and {max(least, plug.hole_mm / 2):.1f} mm are asked for{' by the welds through the wall' if least > plug.hole_mm / 2 else ''}: make it longer."
        found.append(Misfit(field=f"{at}long_mm", message=message))
    legs = legs_for(tube.wall_mm)
    if not legs.least - 1e-9 <= plug.leg_mm <= legs.most + 1e-9:
        found.append(Misfit(field=f"{at}leg_mm", message=f"A fillet of {plug.leg_mm:g} mm on a wall of {tube.wall_mm:g} mm: give it {legs.least:g} to {legs.most:g} mm (AISC Table J2.4)."))  # fmt: skip
    if plug.plugs * plug.plug_mm > ROUND * pi * tube.od_mm:
        found.append(Misfit(field=f"{at}plugs", message="The welds through the wall take more than half of the way round the tube: take fewer or smaller ones."))  # fmt: skip
    return found


def plug_bare(plug: Plug, tube: Tube | None) -> DamperEye | None:
    """What plates clamp of it: the tube itself, square at its end; None where no tube is chosen.

    Args:
        plug: as it is saved.
        tube: of the link.
    """
    if tube is None or not plug.pin_mm <= plug.hole_mm < tube.od_mm:
        return None
    return DamperEye(
        bore_mm=plug.pin_mm, ball_width_mm=tube.od_mm, head_diameter_mm=2 * hypot(plug.edge_mm, tube.od_mm / 2), housing_width_mm=tube.od_mm
    )  # fmt: skip


def plug_metal(plug: Plug, tube: Tube) -> float:
    """Of the plug, less what is bored across tube and plug [mm³]."""
    solid = pi / 4 * (tube.od_mm - 2 * tube.wall_mm) ** 2 * (plug.long_mm - plug.leg_mm)
    return solid - pi / 4 * plug.hole_mm**2 * tube.od_mm


def plug_piece(plug: Plug, letter: str, tube: Tube) -> TurnedPiece:
    """It as it is turned.

    Args:
        plug: as it is saved.
        letter: of the end.
        tube: of the link.
    """
    outside = tube.od_mm - 2 * tube.wall_mm - SLIP
    notes = (
        f"It slips into the tube’s bore: turn it to the tube in hand. The hole, ⌀{plug.hole_mm:g} mm, is bored across tube and plug once they are welded.",
    )  # fmt: skip
    of = Turned(
        material=plug.metal_name,
        outside=round(outside, 3),
        length=plug.long_mm - plug.leg_mm,
        bore=0.0,
        fit="",
        notes=notes,
    )
    return turned_piece(f"end {letter} plug", "solid plug", of)


def plug_lines(plug: Plug) -> tuple[CardLine, ...]:
    """What the bench needs."""
    through = f"welds through the wall, {plug.plugs} of ⌀{plug.plug_mm:g} mm round the tube, none in line with the hole; their middles from the tube’s end"
    return (
        CardLine(text="tube runs past the hole’s centre by", mm=plug.edge_mm, strong=True),
        CardLine(text="plug sunk below the tube’s end by the leg of its fillet", mm=plug.leg_mm),
        *([CardLine(text=through, mm=weld_at(plug))] if plug.plugs and plug.plug_mm else []),
        CardLine(text=f"hole ⌀{plug.hole_mm:g} mm bored across tube and plug in one, after welding, cold"),
    )  # fmt: skip
