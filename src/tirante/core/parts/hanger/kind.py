"""Hangers as a kind of part: a beam over the car's rails from which both hubs hang at height, track, camber and toe, without a floor."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import hypot
from typing import Any, Literal

from tirante.core.checks.shown import Out
from tirante.core.document.forms.table import FieldGroup, number
from tirante.core.document.parts.hanger import Hanger
from tirante.core.document.template import WHEEL_CENTRE
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.jigs.posts import listed
from tirante.core.parts.around import Around
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.hanger.rails import Rails, rails_of, through_beam
from tirante.core.parts.hub_face import (
    CASTER,
    NO_FACE,
    OTHER_SIDE,
    REMIND,
    Face,
    StudOut,
    degrees_told,
    face_of,
    half_of,
    hub_group,
    hub_plate,
    outlined,
    plate_fields,
    stands_fields,
    stud_table,
    washer_told,
    washers_of,
)
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, TurnedPiece, View, box_piece
from tirante.core.quantities import or_more

WIDTH, HEIGHT = 217.0, 210.0
LUG = 60.0  # [mm] of angle iron that a lug is cut from, long
NOT_CHECKED = (
    CASTER, "that the rails’ tops are level and alike on both sides: shim the beam", "what stands in the way of the beam but members of the frame, and of what hangs from it",
    "that it carries: it holds bare hubs, never the car",
)  # fmt: skip
ORDER = (
    "The car stands on stands, springs out. Lay the beam over the rails, its lugs against their outer sides, the mark FRONT ahead; on blocks where they are given.",
    "Set it along the car by its figure, and square to it: from both its ends to one place on the car’s middle line the tape reads alike. Shim it level and clamp it.",
    "Bolt both hubs to their plates, washers as listed between flange and plate.",
    "Measure the plates’ distance, both diagonals and the heights; then set each upright’s caster by a gauge on it, clamp it, and tack what holds it.",
    REMIND,
)


class HangerOwn(Out):
    """What only a hanger has."""

    kind: Literal["hanger"] = "hanger"
    camber_deg: float
    toe_deg: float
    apart_mm: float
    drop_mm: float
    same_for_both: bool
    rail: str
    studs: list[StudOut]


@dataclass(frozen=True, slots=True, kw_only=True)
class HangerMade:
    """A hanger in the car's own heights [mm]."""

    face: Face  # its heights over the ground
    rails: Rails
    x: float  # of the beam's middle
    under: float  # of the beam's lower side
    post: float  # where what hangs ends
    half: float  # from the car's middle to a plate's inboard face
    in_the_way: tuple[str, ...] = ()  # members of the car that go through where the beam lies

    @property
    def drop(self) -> float:
        """From the beam's lower side to the middle of the hub's face."""
        return self.under - self.face.height

    @property
    def diagonal(self) -> float:
        """From the middle of one hub's hole in its plate to the beam's lower side over the other plate, both on the plates' inboard faces."""
        return hypot(2 * self.half, self.drop)


class HangerKind(Kind[Hanger]):
    """Hangers."""

    key = "hanger"
    word = "hanger"
    station = "jigs"
    saved = Hanger
    own = HangerOwn
    of_tubes = False
    fields = (
        hub_group(Hanger),
        FieldGroup(title="How the wheels stand", fields=stands_fields(Hanger)),
        FieldGroup(title="Rails that it lies on", fields=[
            number(Hanger, "rail_top_mm", "Their tops, over the ground", "mm", optional=True, empty="of the car’s own rail"),
            number(Hanger, "rail_out_mm", "Apart, outside", "mm", optional=True, empty="of the car’s own rail"), number(Hanger, "blocks_mm", "Blocks under the beam", "mm"),
        ]),
        FieldGroup(title="Built of", fields=[
            number(Hanger, "beam_mm", "Beam, square tube, outside", "mm"), number(Hanger, "beam_wall_mm", "Its wall", "mm"), number(Hanger, "past_mm", "Beam past what hangs", "mm"),
            number(Hanger, "tube_mm", "Square tube that hangs, outside", "mm"), number(Hanger, "tube_wall_mm", "Its wall", "mm"), number(Hanger, "lap_mm", "Plate on that tube", "mm"),
            *plate_fields(Hanger),
        ]),
    )  # fmt: skip

    def depends(self, saved: Hanger, around: Around) -> str:
        """Wheel and wheel centre of its end, and the members of the car."""
        end = around.ends.get(saved.end_id)
        return f"{end.wheel.model_dump_json()} {end.points[WHEEL_CENTRE]} {around.end_name(saved.end_id)} {[one.model_dump_json() for one in around.mounts]}" if end else "gone"  # fmt: skip

    def work_out(self, saved: Hanger, around: Around) -> Part:
        """Beam, what hangs from it, plates and washers."""
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED,
            "made_of": (f"box {saved.beam_mm:g} and {saved.tube_mm:g} mm, plate {saved.plate_mm:g} mm", saved.plate_name),
        }  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        made = _made(saved, around)
        if isinstance(made, Misfit):
            return Part(**common, faults=(made,))
        face, pieces = made.face, _pieces(saved, made)
        through = f"{listed(made.in_the_way)} {'go' if len(made.in_the_way) > 1 else 'goes'} through where the beam lies: set it on blocks, or choose other rails." if made.in_the_way else ""  # fmt: skip
        alike = "one plate serves either side" if face.both else "left and right plates are mirror images"
        rails = f"on {made.rails.name}" if made.rails.name else "on rails as typed"
        return Part(
            **common, pieces=pieces, own_mirror=face.both, views=(View(name="drawing", title="from ahead, and a plate"), *plate_views(pieces)),
            card=Card(
                figures=(
                    Figure(label="Plates apart, inside", mm=2 * made.half), Figure(label="Beam’s lower side to the hub’s middle", mm=made.drop),
                    Figure(label="Diagonal, either way", mm=made.diagonal, note="hub’s middle on one plate to the beam over the other"),
                    *(Figure(label=f"Stud {one.number}, under the beam", mm=made.under - one.height, note=washer_told(one)) for one in face.holes),
                ),
                lines=(CardLine(text=_along(made), strong=True), CardLine(text=REMIND, strong=True), CardLine(text=OTHER_SIDE)),
            ),
            welding=ORDER, notes=(REMIND, *(() if face.known else (NO_FACE,)), *((through,) if through else ())), lacks=bool(through),
            tool=f"Holds both hubs of {around.end_name(saved.end_id)} {2 * made.half:.1f} mm apart over the plates, {made.drop:.1f} mm under a beam {rails}, at {degrees_told(face.camber)} camber and {degrees_told(face.toe)} toe; {alike}.{' ' if through else ''}{through}",
            own=made,
        )  # fmt: skip

    def told(self, part: Part) -> HangerOwn | None:
        """Its figures and studs."""
        made = part.own
        if not isinstance(made, HangerMade):
            return None
        face = made.face
        return HangerOwn(
            camber_deg=face.camber, toe_deg=face.toe, apart_mm=2 * made.half, drop_mm=made.drop, same_for_both=face.both, rail=made.rails.name, studs=face.studs_out
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """From ahead, the car's left on the right; under it a plate from outside."""
        made, saved = part.own, part.saved
        if asked.name != "drawing" or not isinstance(made, HangerMade) or not isinstance(saved, Hanger):
            return super().draw(part, asked, numbers)
        return _sheet(saved, made, numbers)


def _made(saved: Hanger, around: Around) -> HangerMade | Misfit:
    end = around.ends[saved.end_id]
    x, y, z = end.points[WHEEL_CENTRE]
    face = face_of(saved, end, lambda centre: z + float(centre[2]))
    if isinstance(face, Misfit):
        return face
    at = x + face.centre[0]
    rails = rails_of(saved, around.mounts, at)
    if isinstance(rails, Misfit):
        return rails
    under = rails.top + saved.blocks_mm
    post = face.height + half_of(saved)
    if under - post < saved.lap_mm:
        more = saved.lap_mm - (under - post)
        return Misfit(field="blocks_mm", message=f"The beam would lie {under - face.height:.0f} mm over the hub’s middle, which leaves the plates {max(0.0, under - post):.0f} mm of what hangs to lie on: they are to lap it by {saved.lap_mm:g} mm. Set it on blocks {or_more(saved.blocks_mm + more)} mm high or higher.")  # fmt: skip
    half = abs(y) + face.centre[1] + face.out
    if 2 * half < rails.apart:
        return Misfit(field="rail_out_mm", message=f"The plates would stand {2 * half:.0f} mm apart, and the rails {rails.apart:.0f} mm: what hangs would stand in them. Check the rails’ distance, or use a hub stand.")  # fmt: skip
    made = HangerMade(face=face, rails=rails, x=at, under=under, post=post, half=half)
    room = (saved.beam_mm / 2, _beam(saved, made) / 2, saved.beam_mm / 2)
    return replace(made, in_the_way=through_beam(around.mounts, (at, 0.0, under + saved.beam_mm / 2), room))


def _along(made: HangerMade) -> str:
    way = "ahead of" if made.x >= 0 else "behind"
    return f"The beam’s middle lies {abs(made.x):.1f} mm {way} the front axle line."


def _beam(saved: Hanger, made: HangerMade) -> float:
    return 2 * (made.half + saved.plate_mm + saved.tube_mm + saved.past_mm)


def _pieces(saved: Hanger, made: HangerMade) -> tuple[Piece, ...]:
    face = made.face
    contour = hub_plate(saved, face, face.height - half_of(saved), made.post + saved.lap_mm)
    mirror = "" if face.both else "; the right one is the mirror image"
    return (
        box_piece("beam, marked FRONT", saved.beam_mm, saved.beam_wall_mm, _beam(saved, made)),
        box_piece("hanging tube", saved.tube_mm, saved.tube_wall_mm, made.under - made.post, 2),
        outlined(saved, "hub plate", contour, f"upright, along the car, on the hanging tube’s inboard side, {saved.lap_mm:g} mm of it welded down both edges{mirror}", 2),
        TurnedPiece(name="lug", what=f"lug of angle iron, {LUG:g} mm long, under the beam, its face {made.rails.apart / 2:.1f} mm from the beam’s middle", count=2, sort="jig"),
        *washers_of(saved, face, 2),
    )  # fmt: skip


def _sheet(saved: Hanger, made: HangerMade, numbers: Numbers) -> Drawing:
    face, long = made.face, _beam(saved, made)
    lowest = face.height - half_of(saved)
    scale = min((WIDTH - 24) / long, 78.0 / (made.under + saved.beam_mm - lowest), 1.0)
    sheet = Sheet(name="hanger", title=saved.name, width=WIDTH, height=HEIGHT, numbers=numbers, scale=scale)
    sheet.text((6, HEIGHT - 6), "from ahead: the car’s left on the right", 2.9, tone="muted")
    frame = Frame(WIDTH / 2, HEIGHT - 24 - scale * (made.under + saved.beam_mm), scale)
    sheet.box(
        frame.at(-long / 2, made.under),
        frame.at(long / 2, made.under + saved.beam_mm),
        "pale",
        "visible",
        ref="field:beam_mm",
    )
    sheet.text((frame.ox, frame.at(0, made.under + saved.beam_mm)[1] + 1.5), "FRONT", 3.4, "middle", bold=True)
    low = frame.at(0, made.post)[1]
    for sign in (1.0, -1.0):
        inside = sign * made.half
        outer = inside + sign * saved.plate_mm
        sheet.box(
            frame.at(inside, lowest),
            frame.at(outer, made.post + saved.lap_mm),
            "steel",
            "visible",
            ref="field:plate_mm",
        )
        sheet.box(
            frame.at(outer, made.post),
            frame.at(outer + sign * saved.tube_mm, made.under),
            "pale",
            "visible",
            ref="field:tube_mm",
        )
        hub = frame.at(inside, face.height)
        sheet.line((hub[0] - sign * 16, hub[1]), (hub[0] + sign * 8, hub[1]), "centre", "muted")
        rail = sign * made.rails.apart / 2
        # what a rail is made of is not the hanger's: its top outer corner is shown
        top = made.rails.top
        sheet.line(frame.at(rail, top), frame.at(rail - sign * 60.0, top), "visible", "muted")
        sheet.line(frame.at(rail, top), frame.at(rail, top - 60.0), "visible", "muted")
    under = frame.at(0, made.under)[1]
    sheet.dimension((frame.at(-made.half, 0)[0], frame.at(0, lowest)[1]), (frame.at(made.half, 0)[0], frame.at(0, lowest)[1]), 2 * made.half, offset=-7.0, ref="dim:apart", tone="blue", prefix="plates, inside ")  # fmt: skip
    sheet.dimension((frame.at(-made.half, 0)[0], frame.at(0, face.height)[1]), (frame.at(-made.half, 0)[0], under), made.drop, offset=-14.0, ref="dim:drop", tone="blue")  # fmt: skip
    sheet.dimension((frame.at(-made.rails.apart / 2, 0)[0], low), (frame.at(made.rails.apart / 2, 0)[0], low), made.rails.apart, offset=-4.0, ref="field:rail_out_mm", prefix="rails, outside ")  # fmt: skip
    a, b = frame.at(made.half, face.height), frame.at(-made.half, made.under)
    sheet.line(a, b, "hidden", "muted", ref="dim:diagonal")
    plate = hub_plate(saved, face, lowest, made.post + saved.lap_mm)
    left, bottom, right, top = plate.bounds
    own = min(70.0 / (right - left), 78.0 / (top - bottom), 1.0)
    at = Frame(46.0, 12.0 - own * bottom, own)
    sheet.text((6, 98), "left plate from outside, front of the car on the left", 2.9, tone="muted")
    draw_contour(sheet, at, plate, "visible", ref="field:edge_mm")
    sheet.line(at.at(left, made.post), at.at(right, made.post), "hidden", "muted")
    for one in face.holes:
        x, y = at.at(-one.forward, one.height)
        sheet.text((x + saved.stud_mm / 2 * own + 1, y + 1), str(one.number), 3.2, tone="blue", bold=True, ref=f"stud:{one.number}")  # fmt: skip
    y = stud_table(sheet, 98.0, face, numbers, "over ground") - 8
    for line, strong in (
        (f"camber {degrees_told(face.camber)}, toe {degrees_told(face.toe)}", False), ("washers OUT before measuring", True), (OTHER_SIDE, False),
        (f"diagonals alike: {numbers.written(made.diagonal)}", True), (numbers.told(_along(made)), False),
        (f"beam {numbers.written(long)}, lower side {numbers.written(made.under)} over ground", False),
        ("one plate for both sides" if face.both else "L and R plates differ: mirror it", not face.both),
    ):  # fmt: skip
        sheet.text((104, y), line, 2.9, bold=strong)
        y -= 4.8
    return sheet.done()


HANGER = HangerKind()
