"""The cut list of a job: saw pieces, hardware by hand, plates, and the taps and dies it needs.

A pair counts twice.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.document.catalogue import pin_hole
from tirante.core.document.parts.link import Link
from tirante.core.members.link_stack import LinkStack
from tirante.core.members.splice import sleeve_section
from tirante.core.parts.boxed_link.part import Plate
from tirante.core.parts.link.assembly import Assembly, ThreadedEnd
from tirante.core.parts.link.checks import clevis_gap


@dataclass(frozen=True, slots=True, kw_only=True)
class SawPiece:
    """A length of tube to saw."""

    part: str
    side: str
    tube: str
    grade: str
    length_mm: float
    count: int
    link_id: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """Something to buy or to have at hand."""

    kind: str  # plate, joint, insert, nut, tab, bolt, spacer, washer, tap, die
    what: str
    hand: str  # RH, LH or empty
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class CutList:
    """All of a job."""

    pieces: tuple[SawPiece, ...]
    items: tuple[Item, ...]
    incomplete: tuple[str, ...]  # links left out, by name


_ORDER = ("plate", "joint", "insert", "nut", "tab", "bolt", "spacer", "washer", "tap", "die")


def cut_list(
    built: list[tuple[Assembly, LinkStack]], incomplete: list[str], boxes: Sequence[tuple[Link, Sequence[Plate]]] = ()
) -> CutList:
    """Everything that complete links need; links that are not complete are named."""
    pieces: list[SawPiece] = []
    counts: Counter[tuple[str, str, str]] = Counter()
    for assembly, stack in built:
        link = assembly.link
        n = 2 if link.side == "pair" else 1
        if link.bought is None:
            for name, length in _lengths(assembly, stack):
                pieces.append(
                    SawPiece(part=name, side=link.side, tube=assembly.tube.label, grade=assembly.grade.label,
                             length_mm=length, count=n, link_id=link.id)
                )  # fmt: skip
        if link.splice:
            sleeve = sleeve_section(assembly.section, link.splice.wall_mm, inside=link.splice.sleeve == "inside")
            fit = f"{sleeve.od:.1f} × {link.splice.wall_mm:g} mm, {link.splice.length.mm:.1f} mm long"
            counts[
                "plate", f"{link.name}: sleeve {link.splice.sleeve} the tube, {fit}, {assembly.grade.label}", ""
            ] += n
        for end in assembly.ends:
            if not isinstance(end, ThreadedEnd):
                solid = f", machined {end.machined.form}" if end.machined else ""
                counts["joint", f"{end.what}{solid}, {end.centre_to_face:g} mm centre to face", ""] += n
                continue
            counts["joint", end.joint.label, end.hand] += n
            if end.tapped:
                counts["nut", end.nut.label, end.hand] += n
                counts["tap", f"{end.joint.designation}, to cut the tube’s own thread", end.hand] = 1
                counts["die", f"{end.joint.designation}, to clean shanks", end.hand] = 1
                continue
            counts["insert", end.insert.label, end.hand] += n
            counts["nut", end.nut.label, end.hand] += n
            # tools: one of each is enough for the job
            counts["tap", f"{end.joint.designation}, to chase inserts after welding", end.hand] = 1
            counts["die", f"{end.joint.designation}, to clean shanks", end.hand] = 1
        _tab_items(assembly, n, counts)
    for link, plates in boxes:
        for plate in plates:
            what = f"{link.name}: {plate.name} {plate.length:.1f} × {plate.width:.1f} × {plate.thickness:g} mm"
            if link.boxed:
                what += f", {link.boxed.plate_name}"
            counts["plate", what, ""] += plate.count * (2 if link.side == "pair" else 1)
    items = [Item(kind=kind, what=what, hand=hand, count=count) for (kind, what, hand), count in counts.items()]
    items.sort(key=lambda item: (_ORDER.index(item.kind), item.what, item.hand))
    pieces.sort(key=lambda piece: (piece.tube, piece.grade, -piece.length_mm))
    return CutList(pieces=tuple(pieces), items=tuple(items), incomplete=tuple(incomplete))


def _lengths(assembly: Assembly, stack: LinkStack) -> list[tuple[str, float]]:
    """What is sawn for a link: one length, or two where it is spliced."""
    link = assembly.link
    if link.splice is None:
        return [(link.name, stack.tube_cut)]
    first = link.splice.at.mm - stack.ends[0].face_from_centre
    return [(f"{link.name}, to A", first), (f"{link.name}, to B", stack.tube_cut - first)]


def _tab_items(assembly: Assembly, n: int, counts: Counter[tuple[str, str, str]]) -> None:
    tab = assembly.link.tab
    if tab is None or not assembly.tabbed:
        return
    joints = n * len(assembly.tabbed)
    counts["tab", f"{assembly.link.name}: plate {tab.plate.mm:g} mm {tab.grade_name}, hole {tab.hole.mm:g} mm", ""] += (
        2 * joints
    )
    if assembly.bolt:
        gap = clevis_gap(assembly, tab)
        grip = gap + 2 * tab.plate.mm
        counts["bolt", f"{assembly.bolt.label}, grip {grip:.1f} mm, with locking nut", ""] += joints
        hole = pin_hole(assembly.tabbed[0].joint, assembly.spacer)
        counts["washer", f"retaining washer larger than the eye's bore, {hole:g} mm hole", ""] += joints
    if assembly.spacer:
        counts["spacer", assembly.spacer.label, ""] += 2 * joints
