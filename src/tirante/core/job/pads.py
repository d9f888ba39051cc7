"""Pads for places that take one: proportioned to what comes on them, and to what they stand on."""

from __future__ import annotations

from tirante.core.document.adopt import adopted, patched
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.joints import HeldJoint, PointOfBody
from tirante.core.document.parts.pad import PadPart
from tirante.core.job.results import PlaceOut
from tirante.core.job.worked import Worked
from tirante.core.parts.registry import PADS


def pad_at(job: Worked, place: PlaceOut, joint: HeldJoint, part_id: str, shelf: Catalogue) -> tuple[PadPart, Worked]:
    """A pad for a place, and the job with it in.

    Args:
        job: worked out.
        place: that takes one.
        joint: of that place, its mount with it, held by the pad.
        part_id: of the pad.
        shelf: the shop's catalogue.
    """
    kind = PADS[place.family]
    assert isinstance(place.held, PointOfBody)
    begun: PadPart = kind.begun(part_id, place.of, place.held, place.id)
    fitted: PadPart = kind.fitted(begun, _with(job, begun, joint, shelf))
    return fitted, _with(job, fitted, joint, shelf)


def _with(job: Worked, pad: PadPart, joint: HeldJoint, shelf: Catalogue) -> Worked:
    return Worked(patched(job.design, adopted(job.design, [pad], shelf, [joint])), job.shelf, job.memory)
