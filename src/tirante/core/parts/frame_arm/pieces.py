"""A welded arm of any layout as it is made: its pieces, its card, what to know of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import ceil, cos, pi, sin

import numpy as np

from tirante.core.document.catalogue import Grade, Tube
from tirante.core.document.parts.frame_arm import Flange, FrameArm, FrameJoint
from tirante.core.flat.contour import Contour, Curve, Hole, Straight
from tirante.core.members.tube import Section, wall_slenderness
from tirante.core.parts.feet import OFFSET
from tirante.core.parts.flat_plates import gusset_piece
from tirante.core.parts.frame_arm.at_joints import EYED
from tirante.core.parts.frame_arm.at_joints import FIT as HOLE_FIT
from tirante.core.parts.frame_arm.judged import FrameResult
from tirante.core.parts.frame_arm.layout import Layout
from tirante.core.parts.joint import plain_bolt
from tirante.core.parts.part import Card, CardLine, Figure, Piece, PlatePiece, TurnedPiece
from tirante.core.parts.self_locating import notched_plate, tab_places, tabbed_plate
from tirante.core.parts.turned import turned_piece
from tirante.core.parts.welded.housing import turned_ring
from tirante.core.parts.welded.tube_ends import Cut
from tirante.core.suspension.on_body import OnBody
from tirante.core.units import STEEL_DENSITY

LEAST_CAP = 2.0  # mm; common practice, no source
MARK = 15.0  # mm of a box side's middle line that is marked at either end


def pieces_of(
    saved: FrameArm, layout: Layout, places: Sequence[OnBody], tube: Tube, grade: Grade, cuts: Sequence[Cut], saw: dict[str, float]
) -> tuple[Piece, ...]:  # fmt: skip
    """Tubes with their notches, plates of its boxes, gussets, what is made at its joints.

    Args:
        saved: the arm.
        layout: its frame.
        places: of its body.
        tube: the stock of its tubes.
        grade: their metal.
        cuts: its tubes as they are cut.
        saw: what each tube is sawn to [mm].
    """
    words = {place.point: place.words for place in places}
    found: list[Piece] = [cut.piece(tube, grade) for cut in cuts]
    found += [cap for cut in cuts for cap in caps_of(cut, saved.plate_name)]
    for name, box in layout.boxes.items():
        long, inside = saw[name], box.width - 2 * box.wall
        middle = tuple(Straight(x, 0.0, x + MARK, 0.0) for x in (0.0, long - MARK))
        tabs = len(tab_places(long))
        plates = (
            ("sides", notched_plate(long, box.height, box.wall, middle), f"{2 * tabs} notches for the tabs of top and bottom" if tabs else "plain"),
            ("top and bottom", tabbed_plate(long, inside, box.wall), f"{2 * tabs} tabs into the sides, flush with their edges" if tabs else "plain"),
        )  # fmt: skip
        for which, contour, told in plates:
            left, low, right, high = contour.bounds
            found.append(PlatePiece(
                name=f"{name}, {which}", material=saved.plate_name, thickness=box.wall, length=right - left, width=high - low, count=2, outline=contour,
                told=f"of a box {box.height:g} × {box.width:g}, {told}; its ends square, to be fitted to what they meet",
            ))  # fmt: skip
    for plate in layout.plates:
        corner, one, two = (layout.nodes[i] for i in (plate.at, *plate.ends))
        # how far a box's side stands off depends on how it is turned: left to be marked out
        beside = None if layout.boxes else (tube.od_mm / 2, tube.od_mm / 2)
        found.append(gusset_piece(plate.name, (grade.label, plate.thickness), (corner, one, two), beside))
    found += [
        _joint_piece(joint, words.get(joint.point, joint.point), grade.label)
        for joint in saved.joints if joint.point in layout.takes and not (joint.flange and joint.made == "hub flange")
    ]  # fmt: skip
    for joint in saved.joints:
        one = joint.flange
        if one and joint.made == "hub flange":
            told = f"round, ⌀{one.outside_mm:g}, {one.bolts} holes for ⌀{one.bolt_mm:g} on ⌀{one.circle_mm:g}, faced after welding"
            found.append(PlatePiece(name=f"hub flange at {words.get(joint.point, joint.point)}", material=saved.plate_name, thickness=one.plate_mm,
                                    length=one.outside_mm, width=one.outside_mm, outline=_round(one), told=told))  # fmt: skip
            found.append(plain_bolt(one.bolt_mm, one.bolt_class, "for the hub", count=one.bolts))
    return tuple(found)


def caps_of(cut: Cut, metal: str) -> list[PlatePiece]:
    """What shuts a tube where it runs on past a place: round, let in by half its wall, so that a fillet lies on its edge.

    Args:
        cut: the tube.
        metal: of plates.
    """
    found = []
    for meets in cut.run.ends:
        if meets.capped:
            od, thick = cut.run.od - cut.run.wall, max(LEAST_CAP, ceil(2 * cut.run.wall) / 2)
            found.append(PlatePiece(
                name=f"cap on {cut.run.name}, {meets.where}", material=metal, thickness=thick, length=od, width=od,
                outline=Contour(edges=(Curve(0.0, 0.0, od / 2, 0.0, 360.0),)), told="welded all round, to shut its end",
            ))  # fmt: skip
    return found


def _joint_piece(joint: FrameJoint, words: str, metal: str) -> TurnedPiece:
    """What is made at a joint: a sleeve or cup turned, where its sizes are given; else in words."""
    what, pin = f"{joint.made}, {joint.face_mm:g} mm centre to the tubes, at {words}", joint.pin
    bore = 2 * joint.face_mm - 2 * pin.wall_mm if pin is not None and joint.made in EYED else 0.0
    if pin is None or bore <= 0:
        return TurnedPiece(name=f"joint {words}", what=what, sort="joint")
    of = turned_ring(2 * joint.face_mm, pin.wall_mm, pin.housing_mm, metal)
    return turned_piece(f"joint {words}", f"{joint.made} at {words}", of, sort="joint")


def _round(one: Flange) -> Contour:
    """A hub flange flat: its outside and the bolts' holes, the first of them straight up."""
    turn = [pi / 2 + 2 * pi * i / one.bolts for i in range(one.bolts)]
    r = one.circle_mm / 2
    return Contour(
        edges=(Curve(0.0, 0.0, one.outside_mm / 2, 0.0, 360.0),), holes=tuple(Hole(r * cos(t), r * sin(t), one.bolt_mm + HOLE_FIT) for t in turn)
    )  # fmt: skip


def card_of(
    saved: FrameArm, layout: Layout, places: Sequence[OnBody], tube: Tube, grade: Grade, cuts: Sequence[Cut], saw: dict[str, float]
) -> Card:  # fmt: skip
    """What to saw, and what to check it by.

    Args:
        saved: the arm.
        layout: its frame.
        places: of its body.
        tube: the stock of its tubes.
        grade: their metal.
        cuts: its tubes as they are cut.
        saw: what each tube is sawn to [mm].
    """
    figures = [cut.figure(tube, grade) for cut in cuts]
    figures += [
        Figure(label=f"Box {name}, long", mm=saw[name], note=f"{box.height:g} × {box.width:g} of {box.wall:g} mm {saved.plate_name}, before its ends are fitted")
        for name, box in layout.boxes.items()
    ]  # fmt: skip
    lines = [CardLine(text=f"{name}, joint centre to joint centre", mm=mm) for name, mm in layout.lengths.items()]
    lines += [line for cut in cuts for line in cut.lines()]
    at = {place.point: np.array(place.at) for place in places}
    jointed = [place for place in places if place.jointed]
    tied = {frozenset(ends) for ends in layout.tubes.values()}
    lines += [
        CardLine(text=f"check {a.words} to {b.words}", mm=float(np.linalg.norm(at[b.point] - at[a.point])))
        for i, a in enumerate(jointed) for b in jointed[i + 1 :] if frozenset((a.point, b.point)) not in tied
    ]  # fmt: skip
    for one in layout.stands:
        off = f", on a bracket {one.off:.1f} mm off it" if one.off > OFFSET else ""
        lines.append(
            CardLine(
                text=f"{one.words} stands on {one.tube}{off}, from its first end",
                mm=one.share * layout.lengths[one.tube],
            )
        )
    if saved.side == "pair":
        lines.append(CardLine(text="Left and right are mirror images. Mark them.", strong=True))
    return Card(figures=tuple(figures), lines=tuple(lines))


def notes_of(
    saved: FrameArm, layout: Layout, places: Sequence[OnBody], tube: Tube, grade: Grade, found: FrameResult, held: Mapping[str, str]
) -> list[str]:  # fmt: skip
    """What to know of it.

    Args:
        saved: the arm.
        layout: its frame.
        places: of its body.
        tube: the stock of its tubes.
        grade: their metal.
        found: its frame under every case.
        held: names of the brackets that hold what stands on it, by point.
    """
    notes = []
    wall = wall_slenderness(Section(od=tube.od_mm, wall=tube.wall_mm), grade.yield_mpa, grade.e_mpa)
    if layout.boxes:
        notes.append(
            "its boxes’ long seams are taken as sound and as strong as their walls; weld them in short runs, opposite seams in turn"
        )
    if saved.tubed and not wall.bending_ok:
        notes.append(f"the wall is thin for bending: D/t {wall.d_over_t:.0f}, at most {wall.bending_limit:.0f}")
    off = [
        f"{one.words} ({one.off:.0f} mm off {one.tube}{f', on {held[one.place]}' if one.place in held else ''})"
        for one in layout.stands if one.off > OFFSET
    ]  # fmt: skip
    if off:
        notes.append(
            f"on brackets that the frame takes as stiff: {', '.join(off)}; a tube to such a place takes its load instead"
        )
    bushes = {place.point for place in places if place.sort == "bush"}
    twisted = [joint for joint in found.joints if joint.moment > 1000.0 and joint.point in bushes]
    if twisted:
        told = ", ".join(
            f"{joint.point.replace('_', ' ')} {joint.moment / 1000:.0f} N·m in “{joint.case}”" for joint in twisted
        )
        notes.append(f"moments that its joints put in: {told}")
    return notes


def caps_mass(cuts: Sequence[Cut], metal: str) -> float:
    """Of all caps on its tubes [kg].

    Args:
        cuts: its tubes.
        metal: of plates.
    """
    return sum(cap.thickness * pi / 4 * cap.length**2 for cut in cuts for cap in caps_of(cut, metal)) * STEEL_DENSITY
