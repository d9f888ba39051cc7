"""What leaves a link's joint toward its tube: shank, jam nut, the insert's shoulder."""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.members.link_stack import EndState
from tirante.core.parts.link.assembly import LinkEndParts, PlainEnd, ThreadedEnd
from tirante.core.parts.link.fixed_eye import fork_of

JAM_CORNER = (
    0.866  # from its middle to a jam nut's corner, times the thread: 1.5 of it across flats (ASME B18.2.2, from memory)
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Neck:
    """A round piece along a link, from its joint's centre [mm]."""

    what: str
    start: float
    stop: float
    radius: float


def necks(parts: LinkEndParts, state: EndState) -> list[Neck]:
    """The pieces between a joint's head and the tube's face, in order.

    Args:
        parts: of the end.
        state: how it is screwed together.
    """
    face = state.face_from_centre
    if not isinstance(parts, ThreadedEnd):
        return _behind_a_fork(parts, face)
    head = parts.joint.head_diameter_mm / 2
    shoulder = face - parts.insert.shoulder_mm
    nut, thread = shoulder - parts.nut.height_mm, parts.thread.major
    found = [
        Neck(what="the joint’s shank", start=head, stop=nut, radius=thread / 2),
        Neck(what="the jam nut", start=nut, stop=shoulder, radius=JAM_CORNER * thread),
    ]
    if parts.insert.shoulder_mm > 0:
        found.append(Neck(what="the insert’s shoulder", start=shoulder, stop=face, radius=parts.insert.shoulder_diameter_mm / 2))  # fmt: skip
    return [one for one in found if one.stop > one.start]


def _behind_a_fork(end: PlainEnd, face: float) -> list[Neck]:
    """Of a clevis the metal behind its fork, or the tube's end between its plates; nothing of what else is fixed."""
    one = fork_of(end.machined, end.flat, face)
    if one is None:
        return []
    if end.machined is not None:
        return [Neck(what="the clevis’s own body", start=one.floor, stop=max(face, one.floor + 1.0), radius=max(one.width, one.outer) / 2)]  # fmt: skip
    return [Neck(what="the tube’s end", start=one.floor, stop=one.floor + 1.0, radius=one.width / 2)]
