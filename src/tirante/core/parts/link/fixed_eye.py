"""What the plates of a bracket clamp at a link's fixed end: the bush or bearing that goes in it, or the eye's own metal."""

from __future__ import annotations

from tirante.core.document.catalogue import Tube
from tirante.core.document.end import DamperEye
from tirante.core.document.parts.link import FixedEnd, FlatEnd, Machined
from tirante.core.parts.joint import Fork
from tirante.core.parts.link.flat import sizes_of
from tirante.core.parts.link.plug import plug_bare
from tirante.core.parts.link.solid import fork

BARE = "how far an eye without a bush tilts on its bolt: it turns about that alone, and what tilts it bends it"
NO_FORK = "It ends in a clevis whose ears stand on one another: give the gap between them, at the link’s own end."
NOT_GIVEN = "Give what goes in it first, the bush or bearing as plates clamp it, at the link’s own end."


def fixed_eye(end: FixedEnd, tube: Tube | None) -> DamperEye | None:
    """What is clamped at a fixed end, of a clevis its own ears; None where that is not given.

    Args:
        end: as it is saved.
        tube: of the link; None: not chosen.
    """
    if end.machined is not None:
        one = end.machined
        fork, thick = fork_at(end), one.thickness_mm
        if one.form == "clevis" and fork is None:
            return None
        return _bare((one.hole_mm, one.pin_mm), fork.outer if fork else thick, max(one.width_mm, 2 * one.edge_mm))
    if end.plug is not None:
        return plug_bare(end.plug, tube)
    if end.flat is None:
        return end.eye
    if end.flat.plates == 2:
        fork = fork_at(end)
        return None if fork is None else _bare((end.flat.hole_mm, end.flat.pin_mm), fork.outer, max(end.flat.width_mm, 2 * end.flat.edge_mm))  # fmt: skip
    if end.flat.squashed and tube is None:
        return None
    width, thick = sizes_of(end.flat, tube) if tube is not None else (end.flat.width_mm, end.flat.thickness_mm)
    return _bare((end.flat.hole_mm, end.flat.pin_mm), thick, max(width, 2 * end.flat.edge_mm))


def fork_of(machined: Machined | None, flat: FlatEnd | None, face: float) -> Fork | None:
    """The clevis that an end is; None where it is none, or has no room between its ears.

    Args:
        machined: the end, from the solid.
        flat: the end, of plates.
        face: from its hole to the tube's end [mm].
    """
    if machined is not None and machined.form == "clevis" and machined.gap_mm > 0:
        return Fork(gap=machined.gap_mm, ear=machined.thickness_mm, width=machined.width_mm, edge=machined.edge_mm, floor=fork(machined))  # fmt: skip
    if (
        flat is not None and flat.plates == 2 and flat.gap_mm > 0
    ):  # between its plates the way goes on to the tube's end
        return Fork(gap=flat.gap_mm, ear=flat.thickness_mm, width=flat.width_mm, edge=flat.edge_mm, floor=face)
    return None


def fork_at(end: FixedEnd) -> Fork | None:
    """The clevis that a link's end is, as it is saved; None where it is none.

    Args:
        end: as it is saved.
    """
    return fork_of(end.machined, end.flat, end.centre_to_face.mm)


def is_bare(end: FixedEnd) -> bool:
    """Whether the plates clamp its own metal.

    Args:
        end: as it is saved.
    """
    return end.machined is not None or end.flat is not None or end.plug is not None


def lacks(end: FixedEnd) -> str:
    """Why nothing is clamped there yet.

    Args:
        end: as it is saved.
    """
    clevis = (end.machined and end.machined.form == "clevis") or (end.flat and end.flat.plates == 2)
    return NO_FORK if clevis else NOT_GIVEN


def _bare(round_: tuple[float, float], thick: float, across: float) -> DamperEye | None:
    hole, pin = round_
    if not pin <= hole < across:  # told at the end itself
        return None
    return DamperEye(bore_mm=pin, ball_width_mm=thick, head_diameter_mm=across, housing_width_mm=thick)
