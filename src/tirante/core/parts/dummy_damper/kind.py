"""Dummy dampers as a kind of part: lengths by the end's own motion, bars to cut and drill."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.forms.table import Field, FieldGroup, number
from tirante.core.document.parts.dummy_damper import DummyDamper
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.jigs.dummy_damper import Strip, strips
from tirante.core.parts.around import Around
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import BoughtPiece, Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View

Array = NDArray[np.float64]
WIDTH, ROW = 217.0, 34.0
ALIKE = 0.05  # [mm] within which left and right are one bar
NOT_CHECKED = ("that it carries: it holds a wheel on stands while brackets are tacked, and never a car on its wheels",)
ORDER = (
    "The car stands on stands, its springs are out, air springs are empty; gas dampers are off the car and kept from heat.",
    "Pin it at both eyes with the damper’s own bolts, the hole of the position wanted.",
    "Set and tack at ride; then pin bump and droop in turn and look round everything that moves before beads are laid.",
    "Take it out before the car comes off its stands.",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class DummyMade:
    """A dummy with its lengths [mm]."""

    of: str
    lengths: dict[str, float]
    strips: tuple[Strip, ...]


class DummyDamperKind(Kind[DummyDamper]):
    """Dummy dampers."""

    key = "dummy_damper"
    word = "dummy damper"
    station = "jigs"
    saved = DummyDamper
    of_tubes = False
    fields = (
        FieldGroup(title="Where the wheel is held", fields=[
            number(DummyDamper, "bump_mm", "Bump, over ride height", "mm"), number(DummyDamper, "droop_mm", "Droop, under it", "mm"),
        ]),
        FieldGroup(title="Bar", fields=[
            number(DummyDamper, "hole_mm", "Holes", "mm", optional=True, empty="the eyes’ bores"), number(DummyDamper, "width_mm", "Wide", "mm"),
            number(DummyDamper, "plate_mm", "Thick", "mm"), Field(path="plate_name", label="Stock", control="text"),
        ]),
    )  # fmt: skip

    def depends(self, saved: DummyDamper, around: Around) -> str:
        """The end, as it stands."""
        end = around.ends.get(saved.end_id)
        return end.model_dump_json() if end else "gone"

    def work_out(self, saved: DummyDamper, around: Around) -> Part:
        """Lengths and bars."""
        common: dict[str, Any] = {"saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "made_of": (f"{saved.width_mm:g} × {saved.plate_mm:g} mm", saved.plate_name)}  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="end_id", message=lost),))
        end = around.ends[saved.end_id]
        damper = end.dampers.get(saved.damper)
        if damper is None:
            return Part(**common, faults=(Misfit(field="damper", message=f"The end has no “{saved.damper}” any more. It has: {', '.join(end.dampers) or 'none'}."),))  # fmt: skip
        bores = [saved.hole_mm or (eye.bore_mm if eye else None) for eye in damper.eyes]
        if bores[0] is None or bores[1] is None:
            return Part(**common, faults=(Misfit(field="hole_mm", message="The eyes’ bores are not given at Layout: give the holes’ diameter here."),))  # fmt: skip
        most = max(bores[0], bores[1])
        if saved.width_mm < 2 * most:
            return Part(**common, faults=(Misfit(field="width_mm", message=f"Too narrow for a hole of {most:g} mm: make it {2 * most:g} mm or more."),))  # fmt: skip
        try:
            lengths = _lengths(saved, around)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("bump_mm",))[0], message=error.message),))
        made = DummyMade(
            of=saved.damper,
            lengths=lengths,
            strips=strips(lengths, first=bores[0], second=bores[1], width=saved.width_mm),
        )
        pieces = _pieces(saved, made)
        told = ", ".join(f"{name} {mm:.1f} mm" for name, mm in lengths.items())
        return Part(
            **common, pieces=pieces, own_mirror=True, views=(View(name="drawing", title="bars, dimensioned"), *plate_views(pieces)),
            card=Card(
                figures=tuple(Figure(label=f"eye to eye at {name}", mm=mm) for name, mm in lengths.items()),
                lines=(CardLine(text="Never under a car on its wheels: it holds a wheel while brackets are tacked.", strong=True),),
            ),
            welding=ORDER, tool=f"In the place of the {saved.damper} of {around.end_name(saved.end_id)}: {told}.", own=made,
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Its bars with their holes."""
        made, saved = part.own, part.saved
        if asked.name != "drawing" or not isinstance(made, DummyMade) or not isinstance(saved, DummyDamper):
            return super().draw(part, asked, numbers)
        long = max(max(strip.holes.values()) for strip in made.strips) + saved.width_mm
        scale = min((WIDTH - 24) / long, 1.0)
        sizes = [ROW + saved.width_mm * scale + 9.0 * len(strip.holes) for strip in made.strips]
        sheet = Sheet(name="dummy", title=saved.name, width=WIDTH, height=14 + sum(sizes), numbers=numbers, scale=scale)
        y = sheet.height - 10
        sheet.text((6, y), f"in the place of the {made.of}, springs out", 2.9, tone="muted")
        for strip, tall in zip(made.strips, sizes, strict=True):
            middle = y - tall + 14 + saved.width_mm * scale / 2
            frame = Frame(12 + saved.width_mm * scale / 2, middle, scale)
            draw_contour(sheet, frame, strip.contour, "visible", ref="field:width_mm")
            edge = middle + saved.width_mm * scale / 2
            for i, (name, mm) in enumerate(sorted(strip.holes.items(), key=lambda one: one[1])):
                sheet.dimension((frame.at(0, 0)[0], edge), (frame.at(mm, 0)[0], edge), mm, offset=7.0 + 9.0 * i, ref=f"hole:{name}", tone="blue", prefix=f"{name} ")  # fmt: skip
            sheet.text(
                (frame.at(0, 0)[0], middle - saved.width_mm * scale / 2 - 5), "A", 3.4, "middle", "blue", bold=True
            )
            bores = [hole.diameter for hole in strip.contour.holes]
            alike = abs(bores[0] - bores[1]) < 1e-6
            told = (
                f"holes ⌀{numbers.drilled(bores[0])}"
                if alike
                else f"hole A ⌀{numbers.drilled(bores[0])}, the others ⌀{numbers.drilled(bores[1])}"
            )
            sheet.text((frame.at(0, 0)[0] + 8, middle - saved.width_mm * scale / 2 - 5), told, 2.9)
            y -= tall
        return sheet.done()


POSITIONS = ("ride", "bump", "droop")


def _both_sides(saved: DummyDamper, around: Around) -> tuple[Array, Array]:
    """Eye to eye at ride, bump and droop, left and right, both wheels together [mm].

    Raises:
        InputError: the end does not reach one of them.
    """
    from tirante.core.suspension.axle import length_of
    from tirante.core.suspension.cycle import resolved

    travel = (0.0, saved.bump_mm, -saved.droop_mm)
    solved = resolved(around.at_ride(saved.end_id), np.array([[mm, 0.0, 0.0] for mm in travel]).T)
    for name, mm, status in zip(POSITIONS, travel, solved.status, strict=True):
        if status:
            field = "droop_mm" if name == "droop" else "bump_mm"
            raise InputError(f"The end does not reach {abs(mm):g} mm of {name}: give less.", code="no_solution", fields=(field,), value=mm)  # fmt: skip
    damper = around.ends[saved.end_id].dampers[saved.damper]
    beam, right = solved.left.assembled.beam, solved.right or solved.left
    # of a corner the right one stands mirrored, as a left one does
    return (
        length_of(solved.left.assembled, solved.left.solved, damper, "left"), length_of(right.assembled, right.solved, damper, "right" if beam else "left"),
    )  # fmt: skip


def sides_differ(saved: DummyDamper, around: Around) -> bool:
    """Whether left and right are not one bar, as on an axle that a Panhard rod moves aside; not where nothing is known of them yet.

    Args:
        saved: the dummy.
        around: the job.
    """
    try:
        left, right = _both_sides(saved, around)
    except InputError:
        return False
    return float(np.max(np.abs(left - right))) > ALIKE


def _lengths(saved: DummyDamper, around: Around) -> dict[str, float]:
    """Eye to eye at ride, and at bump and droop where those are something [mm].

    Raises:
        InputError: the end does not reach one of them, or left and right are not one bar.
    """
    left, right = _both_sides(saved, around)
    off = float(np.max(np.abs(left - right)))
    if saved.side == "pair" and off > ALIKE:
        raise InputError(f"Left and right differ by {off:.1f} mm: make one for the left and one for the right.", code="contradictory", fields=("side",), value=off)  # fmt: skip
    found = dict(zip(POSITIONS, (float(mm) for mm in (right if saved.side == "right" else left)), strict=True))
    asked = {"ride": 1.0, "bump": saved.bump_mm, "droop": saved.droop_mm}
    return {name: mm for name, mm in found.items() if asked[name] > 0}


def _pieces(saved: DummyDamper, made: DummyMade) -> tuple[Piece, ...]:
    found: list[Piece] = []
    for strip in made.strips:
        left, low, right, high = strip.contour.bounds
        name = "bar" if len(made.strips) == 1 else f"bar for {next(iter(strip.holes))}"
        told = ", ".join(f"{what} {mm:.1f} mm" for what, mm in sorted(strip.holes.items(), key=lambda one: one[1]))
        found.append(PlatePiece(name=name, material=saved.plate_name, thickness=saved.plate_mm, length=right - left, width=high - low, outline=strip.contour, told=f"holes from A: {told}"))  # fmt: skip
    return (
        *found,
        BoughtPiece(sort="jig", what="the damper’s own bolts, or bolts as thick, to pin the dummy", count=2),
    )


DUMMY_DAMPER = DummyDamperKind()
