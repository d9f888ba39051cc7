"""What the plates of a bracket clamp at a link's fixed end: the bush or bearing that goes in it, or the eye's own metal."""

from __future__ import annotations

from tirante.core.document.catalogue import Tube
from tirante.core.document.end import DamperEye
from tirante.core.document.parts.link import FixedEnd
from tirante.core.parts.link.flat import sizes_of
from tirante.core.parts.link.plug import plug_bare

BARE = "how far an eye without a bush tilts on its bolt: it turns about that alone, and what tilts it bends it"
A_CLEVIS = "It ends in a clevis: what goes between its ears is a single eye, which no bracket here is. Make it an eye, or hold it by hand."
NOT_GIVEN = "Give what goes in it first, the bush or bearing as plates clamp it, at the link’s own end."


def fixed_eye(end: FixedEnd, tube: Tube | None) -> DamperEye | None:
    """What is clamped at a fixed end; None where that is not given, or the end is a clevis itself.

    Args:
        end: as it is saved.
        tube: of the link; None: not chosen.
    """
    if end.machined is not None:
        one = end.machined
        return (
            _bare((one.hole_mm, one.pin_mm), one.thickness_mm, max(one.width_mm, 2 * one.edge_mm))
            if one.form == "eye"
            else None
        )
    if end.plug is not None:
        return plug_bare(end.plug, tube)
    if end.flat is None:
        return end.eye
    if end.flat.plates == 2 or (end.flat.squashed and tube is None):
        return None
    width, thick = sizes_of(end.flat, tube) if tube is not None else (end.flat.width_mm, end.flat.thickness_mm)
    return _bare((end.flat.hole_mm, end.flat.pin_mm), thick, max(width, 2 * end.flat.edge_mm))


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
    return A_CLEVIS if clevis else NOT_GIVEN


def _bare(round_: tuple[float, float], thick: float, across: float) -> DamperEye | None:
    hole, pin = round_
    if not pin <= hole < across:  # told at the end itself
        return None
    return DamperEye(bore_mm=pin, ball_width_mm=thick, head_diameter_mm=across, housing_width_mm=thick)
