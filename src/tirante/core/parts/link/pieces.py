"""What a link is made of: its tube, in one length or two; joints, inserts and nuts by hand; the taps and dies it needs."""

from __future__ import annotations

from tirante.core.members.link_stack import LinkStack
from tirante.core.members.splice import sleeve_section
from tirante.core.notch.meeting import Fitted
from tirante.core.parts.link.assembly import Assembly, LinkEndParts, ThreadedEnd
from tirante.core.parts.link.flat import end_word, plate_piece
from tirante.core.parts.link.plug import plug_piece
from tirante.core.parts.link.sleeve import (
    cuts_of,
    notch_at,
    reducer_piece,
    ring_long,
    ring_piece,
    stands_od,
    tube_notch_at,
)
from tirante.core.parts.link.solid import spigot_of
from tirante.core.parts.part import (
    BoughtPiece,
    Piece,
    ShortenPiece,
    ToolPiece,
    TubePiece,
    Turned,
    TurnedPiece,
    tube_piece,
)
from tirante.core.parts.turned import turned_piece
from tirante.core.parts.welded.housing import turned_ring


def pieces_of(assembly: Assembly, stack: LinkStack) -> tuple[Piece, ...]:
    """All pieces of one link.

    Args:
        assembly: complete.
        stack: its lengths.
    """
    link, found = assembly.link, list[Piece]()
    cut = shortened(assembly, stack)
    found += tubes_of(assembly, stack) if cut is None else [cut]
    if link.splice:
        sleeve = sleeve_section(assembly.section, link.splice.wall_mm, inside=link.splice.sleeve == "inside")
        fit = f"{sleeve.od:.1f} × {link.splice.wall_mm:g} mm, {link.splice.length.mm:.1f} mm long"
        what = f"sleeve {link.splice.sleeve} the tube, {fit}, {assembly.grade.label}"
        inside = link.splice.sleeve == "inside"
        of = Turned(
            material=assembly.grade.label, outside=sleeve.od, length=link.splice.length.mm, bore=sleeve.od - 2 * link.splice.wall_mm,
            fit="" if inside else "to slip over the tube", notes=("Its outside slips into the tube’s bore: turn it to the tube in hand.",) if inside else (),
        )  # fmt: skip
        found.append(TurnedPiece(name="sleeve", what=what, sort="sleeve", turned=of))
    notches = cuts_of(link, assembly.tube, stack, 0.0)
    for letter, end in zip("AB", assembly.ends, strict=True):
        if cut is not None and letter == cut.keep:
            found += (
                _joint_of(end) if isinstance(end, ThreadedEnd) and link.bought and not link.bought.with_joints else ()
            )
            continue  # it stays as it was bought
        if not isinstance(end, ThreadedEnd):
            if end.flat:
                if not end.squashed:
                    found.append(plate_piece(end.flat, letter, end.centre_to_face))
                continue
            if end.plug:
                found.append(plug_piece(end.plug, letter, assembly.tube))
                continue
            if end.sleeve:
                one = end.sleeve
                found.append(
                    turned_piece(
                        f"end {letter}",
                        end.what,
                        turned_ring(one.outside_mm, one.wall_mm, one.long_mm, assembly.grade.label),
                        sort="joint",
                    )
                )
                if ring_long(one, stands_od(one, assembly.tube)) > 0:
                    found.append(ring_piece(one, letter, stands_od(one, assembly.tube), assembly.grade.label))
                if one.reducer:
                    neck = notch_at(notches, "AB".index(letter))
                    depth = end_.depth if neck and isinstance(end_ := neck.ends["AB".index(letter)], Fitted) else 0.0
                    found.append(reducer_piece(one, letter, assembly.tube, assembly.grade, depth))
                continue
            if end.machined:
                one_ = end.machined
                spigot, long = spigot_of(one_, assembly.tube, link.welding)
                ears = f"two ears {one_.thickness_mm:g} mm, {one_.gap_mm:g} mm apart" if one_.form == "clevis" else f"{one_.thickness_mm:g} mm thick"  # fmt: skip
                what = f"{end.what}, machined {one_.form}, {end.centre_to_face:g} mm centre to face, {ears}, {one_.width_mm:g} mm wide, hole {one_.hole_mm:g} mm, spigot ⌀{spigot:.2f} × {long:g} mm"
                found.append(TurnedPiece(name=end.what, what=what, sort="joint"))
            else:
                found.append(BoughtPiece(sort="joint", what=f"{end.what}, {end.centre_to_face:g} mm centre to face"))
            continue
        if cut is None or not (link.bought and link.bought.with_joints):
            found += _joint_of(end)
        if not end.tapped:
            found.append(BoughtPiece(sort="insert", what=end.insert.label, hand=end.hand, key=end.insert.key))
        use = "to cut the tube’s own thread" if end.tapped else "to chase inserts after welding"
        found.append(ToolPiece(sort="tap", what=f"{end.joint.designation}, {use}", hand=end.hand))
        found.append(ToolPiece(sort="die", what=f"{end.joint.designation}, to clean shanks", hand=end.hand))
    return tuple(found)


def _joint_of(end: ThreadedEnd) -> tuple[Piece, ...]:
    return (
        BoughtPiece(sort="joint", what=end.joint.label, hand=end.hand, key=end.joint.key),
        BoughtPiece(sort="nut", what=end.nut.label, hand=end.hand, key=end.nut.key),
    )


def shortened(assembly: Assembly, stack: LinkStack) -> ShortenPiece | None:
    """The cut that makes a bought link this one; None of a link that is made, or while nothing of it was measured.

    Measured pin to pin it is as much too long as its tube is, with its joints screwed in as they are to be.

    Args:
        assembly: complete.
        stack: its lengths.
    """
    bought = assembly.link.bought
    if bought is None or bought.length is None:
        return None
    asked = stack.tube_cut if bought.measured == "tube" else stack.centre_to_centre
    keep, cut = ("A", "B") if bought.keep == "a" else ("B", "A")
    return ShortenPiece(
        tube=assembly.tube.label, grade=assembly.grade.label, length=stack.tube_cut, off=bought.length.mm - asked, cut=cut, keep=keep,
    )  # fmt: skip


def _end_of(end: LinkEndParts, assembly: Assembly) -> str:
    """What is done to the tube's end."""
    if isinstance(end, ThreadedEnd):
        return "tapped" if end.tapped else "square"
    if end.plug:
        return "plugged and bored across"
    return end_word(end.flat, assembly.tube) if end.flat else "notched" if end.notched else "square"


def tubes_of(assembly: Assembly, stack: LinkStack) -> list[TubePiece]:
    """What is sawn for a link: one length, or two where it is spliced, each with a name of its own.

    Args:
        assembly: complete.
        stack: its lengths.
    """
    link = assembly.link
    a, b = (_end_of(end, assembly) for end in assembly.ends)
    cuts = cuts_of(link, assembly.tube, stack, 0.0)
    at = [tube_notch_at(link, cuts, which) for which in (0, 1)]
    one, two = (cut.notched(which) if cut else None for which, cut in enumerate(at))
    lacks = [bool(cut and cut.lacking) for cut in at]
    if link.splice is None:
        return [tube_piece("", assembly.tube, assembly.grade, stack.tube_cut, (a, b), notches=(one, two), before_notching=any(lacks))]  # fmt: skip
    first = link.splice.at.mm - stack.ends[0].face_from_centre
    return [
        tube_piece("to A", assembly.tube, assembly.grade, first, (a, "square"), notches=(one, None), before_notching=lacks[0]),
        tube_piece("to B", assembly.tube, assembly.grade, stack.tube_cut - first, ("square", b), notches=(None, two), before_notching=lacks[1]),
    ]  # fmt: skip
