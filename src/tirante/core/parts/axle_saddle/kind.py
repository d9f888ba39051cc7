"""Axle saddles and trusses as a kind of part: two sides along a tube, a cap over them, and plates that close its ends.

Where it stands is a box among the job's mounts, so that brackets stand on its cap and sides as on any member; what all of them pull at it with
is added up, each as hard as in its own worst case and the worst way.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from tirante.core.brackets.mount_wall import Wall, bent_through, feet_of_pair, sheared_through
from tirante.core.brackets.saddle import throat_share
from tirante.core.brackets.saddle_box import Pull, line_force, side_stress
from tirante.core.checks.kinds import Asked, asked
from tirante.core.checks.result import CheckResult, Reproduction, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.forms.table import Field, FieldGroup, number, switch
from tirante.core.document.mounts import BoxMember, Mount
from tirante.core.document.parts.axle_saddle import AxleSaddle
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, legs_for
from tirante.core.parts.around import Around
from tirante.core.parts.axle_saddle.shape import SaddleShape, end_plate, rectangle, saddle_shape, tube_under
from tirante.core.parts.axle_saddle.view import saddle_sheet
from tirante.core.parts.bracket.families.wall_checks import wall_input, wall_of_member
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, Piece, PlatePiece, View
from tirante.core.parts.stands import MIRROR, Stand
from tirante.core.parts.worst import worst_case
from tirante.core.suspension.duty import Duty
from tirante.core.units import STEEL_DENSITY

NOT_CHECKED = (
    "the tube itself, bent as an axle: what the saddle adds to it is not counted on", "the cap’s wall and the sides’ under each bracket: at that bracket",
    "the bead between cap and sides, laid all along, and the closing plates", "that the tube draws crooked as it is welded", "its everyday life", "weld quality (assumed sound)", "corrosion inside",
)  # fmt: skip
UNDER = 0.5  # of a bracket's way out along the cap's: one that looks the other way stands where the tube is


class AxleSaddleOwn(Out):
    """What only an axle saddle has."""

    kind: Literal["axle_saddle"] = "axle_saddle"
    length_mm: float
    tall_mm: float
    stands_on_it: list[str]
    pull_n: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """What stands on it: its name, where its joint is as the saddle sees it, and its worst pull."""

    name: str
    pull: Pull
    case: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SaddleMade:
    """A saddle with its core objects."""

    shape: SaddleShape
    tube: Mount
    stands: tuple[Standing, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class AllAtOnce:
    """Everything that stands on it, as one case."""

    case: str
    where: str = ""


class AxleSaddleKind(Kind[AxleSaddle]):
    """Axle saddles and trusses."""

    key = "axle_saddle"
    word = "axle saddle"
    duty: Duty = "locates"
    station = "brackets"
    saved = AxleSaddle
    own = AxleSaddleOwn
    of_tubes = False
    fields = (
        FieldGroup(title="Plates", note="its box is one of the mounts: size, place and thickness are changed there", fields=[
            switch("closed", "plates close its ends"),
            number(AxleSaddle, "leg_mm", "Fillet leg along the tube", "mm"),
            Field(path="plate_name", label="Steel", control="text"),
            number(AxleSaddle, "yield_mpa", "Yield", "MPa"), number(AxleSaddle, "uts_mpa", "Ultimate", "MPa"),
        ]),
    )  # fmt: skip

    def depends(self, saved: AxleSaddle, around: Around) -> str:
        """Its box and tube, and what stands on it with what that sees."""
        told = [
            one.model_dump_json() for one in around.mounts if one.id in (saved.box, saved.tube) or saved.tube is None
        ]
        for joint in around.standing_on(saved.box):
            at, held = around.at_of(joint), around.held_end(joint)
            bracket = around.saved(joint.by) if joint.by else None
            told.append(f"{joint} {bracket} {at and at.key} {held and held.cases}")
        return "|".join(told)

    def work_out(self, saved: AxleSaddle, around: Around) -> Part:
        """Its plates, and what all that stands on it does to them."""
        common: dict[str, Any] = {"saved": saved, "word": self.word, "made_of": ("", saved.plate_name)}
        named = {one.id: one for one in around.mounts}
        box = named.get(saved.box)
        if box is None:
            return Part(**common, not_checked=NOT_CHECKED, faults=(Misfit(field="box", message="The box that it was made from is not there any more. Take it out, or undo."),))  # fmt: skip
        tube = named.get(saved.tube) if saved.tube else tube_under(box, around.mounts)
        if tube is None:
            told = (
                "The tube that it stood on is not there any more."
                if saved.tube
                else f"No round mount runs along {box.name}: enter the tube that it stands on, on the same body."
            )
            return Part(**common, not_checked=NOT_CHECKED, faults=(Misfit(field="tube", message=told),))
        shape = saddle_shape(box, tube)
        if isinstance(shape, Misfit):
            return Part(**common, not_checked=NOT_CHECKED, faults=(shape,))
        stands, lacking, faults = _stands(saved, shape, around)
        legs = legs_for(min(shape.plate, wall) if (wall := tube.shape.wall_mm) else shape.plate)
        if saved.leg_mm > legs.most + 1e-9:
            faults.append(
                Misfit(
                    field="leg_mm", message=f"A fillet of {saved.leg_mm:g} mm burns through: {legs.most:g} mm at most."
                )
            )
        wall_ = wall_of_member(tube, 0.0)
        common["made_of"] = (f"plate {shape.plate:g} mm", saved.plate_name)
        common["not_checked"] = (*NOT_CHECKED, *lacking, *((wall_,) if isinstance(wall_, str) else ()))
        held = [around.held_end(joint) for joint in around.standing_on(saved.box)]
        common["not_carried"] = tuple(dict.fromkeys(told for one in held if one for told in one.not_carried))
        if faults:
            return Part(**common, faults=tuple(faults))
        pieces = pieces_of(saved, shape)
        mass = sum(one.count * one.outline.area * one.thickness for one in pieces if isinstance(one, PlatePiece) and one.outline) * STEEL_DENSITY  # fmt: skip
        checks = (
            saddle_checks(saved, shape, wall_, stands, around.settings) if any(one.pull.force for one in stands) else []
        )
        made = SaddleMade(shape=shape, tube=tube, stands=tuple(stands))
        return Part(
            **common, pieces=pieces, checks=weakest_first(checks), mass=mass, own_mirror=True,
            views=(View(name="saddle", title="on its tube"), *plate_views(pieces)), card=_card(saved, made), notes=_notes(made), own=made,
            welding=("In short stretches, either side and either end in turn, so that the tube stays straight; measure it straight before and after.",),
        )  # fmt: skip

    def told(self, part: Part) -> AxleSaddleOwn | None:
        """Its length and height, and what stands on it."""
        made = part.own
        if not isinstance(made, SaddleMade):
            return None
        return AxleSaddleOwn(
            length_mm=made.shape.length, tall_mm=made.shape.box.tall, stands_on_it=[one.name for one in made.stands], pull_n=sum(one.pull.force for one in made.stands),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Across its tube and from its side."""
        made, saved = part.own, part.saved
        if asked.name != "saddle" or not isinstance(made, SaddleMade) or not isinstance(saved, AxleSaddle):
            return super().draw(part, asked, numbers)
        return saddle_sheet(
            saved.name, made.shape, made.tube.name, [(one.name, one.pull.at) for one in made.stands], numbers
        )


def _stands(saved: AxleSaddle, shape: SaddleShape, around: Around) -> tuple[list[Standing], list[str], list[Misfit]]:
    """What stands on it; what of that is not known; what stands where it has no plate."""
    found: list[Standing] = []
    lacking: list[str] = []
    faults: list[Misfit] = []
    for joint in around.standing_on(saved.box):
        held, at, stand = around.held_end(joint), around.at_of(joint), around.stand_of(joint)
        bracket = around.saved(joint.by) if joint.by else None
        name = bracket.name if bracket else "a joint that nothing holds yet"
        if held is None or at is None:
            lacking.append(f"what {name} pulls with: what it holds is not known yet")
            continue
        if isinstance(stand, Stand) and float(stand.standing.y @ shape.axes[2]) < -UNDER:
            faults.append(Misfit(field="box", message=f"{name} stands on the underside of the box, where the tube is. Move its joint, or give it the tube itself."))  # fmt: skip
            continue
        foot = _foot_along(joint.by, stand, shape, around) if isinstance(stand, Stand) else 0.0
        worst = max(held.cases, key=lambda case: case.resultant_n, default=None)
        twins = bracket is not None and bracket.side == "pair" and abs(float(at.at[1])) > 1.0
        for way, told in ((np.ones(3), ""), (MIRROR, ", right")) if twins else ((np.ones(3), ""),):
            place = shape.seen(way * at.at)
            if told and abs(place[0]) > shape.length / 2:
                continue  # its twin stands on the other side's own saddle
            found.append(Standing(name=f"{name}{told}", pull=Pull(at=place, force=worst.resultant_n if worst else 0.0, foot=foot), case=worst.name if worst else ""))  # fmt: skip
    return found, lacking, faults


def _foot_along(part_id: str | None, stand: Stand, shape: SaddleShape, around: Around) -> float:
    """How long a bracket stands on the cap, along the tube [mm]; nothing where that is not known."""
    part = around.part(part_id) if part_id else None
    made = getattr(part.own, "joints", ()) if part is not None else ()
    width, plate = getattr(part and part.saved, "base_width", None), getattr(part and part.saved, "plate", None)
    if not made or width is None or plate is None:
        return 0.0
    along, one = shape.axes[0], stand.standing
    return float(abs(float(one.x @ along)) * width.mm + abs(float(one.bolt @ along)) * (made[0].gap + 2 * plate.mm))


def pieces_of(saved: AxleSaddle, shape: SaddleShape) -> tuple[Piece, ...]:
    """Its plates as they are cut.

    Args:
        saved: as it is.
        shape: on its tube.
    """

    def plate(name: str, outline: Any, told: str, count: int = 1) -> PlatePiece:
        left, low, right, high = outline.bounds
        return PlatePiece(name=name, material=saved.plate_name, thickness=shape.plate, length=right - left, width=high - low, outline=outline, told=told, count=count)  # fmt: skip

    tall = [shape.top - shape.plate - one.foot for one in shape.sides]
    pieces = [plate("cap", rectangle(shape.length, shape.wide), "over both sides")]
    if abs(tall[0] - tall[1]) < 0.05:
        pieces.append(plate("side", rectangle(shape.length, tall[0]), "under the cap, its foot along the tube", 2))
    else:
        pieces += [plate(one.name, rectangle(shape.length, high), "under the cap, its foot along the tube") for one, high in zip(shape.sides, tall, strict=True)]  # fmt: skip
    if saved.closed:
        pieces.append(plate("end", end_plate(shape), "between sides, cap and tube, flush with their ends", 2))
    return tuple(pieces)


def fillet(saved: AxleSaddle, shape: SaddleShape) -> float:
    """Throat of the fillets along the tube, outside its sides or under their edges, by how far the faces open [mm].

    Args:
        saved: as it is.
        shape: on its tube.
    """
    return saved.leg_mm * throat_share(max(one.opens for one in shape.sides))


def saddle_checks(saved: AxleSaddle, shape: SaddleShape, wall: Wall | str, stands: Sequence[Standing], settings: Settings) -> list[CheckResult]:  # fmt: skip
    """All checks of it under everything that stands on it at once.

    Args:
        saved: as it is.
        shape: on its tube.
        wall: of the tube; in words where it is not known.
        stands: what stands on it.
        settings: factors, electrode.
    """
    box, pulls = shape.box, [one.pull for one in stands]
    cases = sorted({one.case for one in stands if one.case})
    every = [AllAtOnce(case=cases[0] if len(cases) == 1 else "each in its own worst case, all at once")]
    data = {"length_mm": box.length, "apart_mm": box.apart, "tall_mm": box.tall, "plate_mm": box.plate}

    def times(kind: Asked) -> list[Pull]:
        return [Pull(at=one.at, force=one.force * kind.factor, foot=one.foot) for one in pulls]

    def again(kind: Asked, output: str, **more: float) -> Reproduction:
        told = [{"at_mm": list(one.at), "force_n": one.force, "foot_mm": one.foot} for one in times(kind)]
        return Reproduction(topic="saddle-box", input={**data, "pulls": told, **more}, output=output, figure="demand")

    weld, bent = asked("saddle_weld", "its feet", settings.factors), asked("saddle_side", "its sides", settings.factors)
    throat = fillet(saved, shape)
    out = [
        worst_case(weld, every, lambda _: (line_force(box, times(weld)) / throat, again(weld, "throat_stress_mpa", throat_mm=throat), SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa)),
        worst_case(bent, every, lambda _: (side_stress(box, times(bent)), again(bent, "side_mpa"), saved.yield_mpa)),
    ]  # fmt: skip
    if isinstance(wall, str):
        return out
    feet = feet_of_pair(box.length, box.apart - box.plate, box.plate, 0.0)
    through, shear = asked("mount_wall", "mount", settings.factors), asked("mount_shear", "mount", settings.factors)

    def does(kind: Asked) -> tuple[float, float, float]:
        every = times(kind)
        return (
            sum(one.force for one in every), sum(one.force * (abs(one.at[0]) + one.at[2]) for one in every), sum(one.force * (abs(one.at[1]) + one.at[2]) for one in every)
        )  # fmt: skip

    def of_wall(kind: Asked, output: str) -> Reproduction:
        pull, tilt, rock = does(kind)
        return Reproduction(topic="mount-wall", input={**wall_input(wall, feet, 0.0), "pull_n": pull, "tilt_nmm": tilt, "rock_nmm": rock}, output=output, figure="demand")  # fmt: skip

    used = bent_through(wall, feet, None, *does(through))
    line, least, _ = sheared_through(wall, feet, None, *does(shear))
    out += [
        worst_case(through, every, lambda _: (used.use * used.strength.pull, of_wall(through, "equivalent_n"), used.strength.pull)),
        worst_case(shear, every, lambda _: (line, of_wall(shear, "line_n_per_mm"), least)),
    ]  # fmt: skip
    return out


def _card(saved: AxleSaddle, made: SaddleMade) -> Card:
    shape = made.shape
    lines = [
        CardLine(text=f"from {made.tube.name}’s first end to the saddle’s nearer end, along it", mm=shape.from_end, strong=True),
        CardLine(text=f"over {made.tube.name}’s middle line to the cap’s outer face", mm=shape.top, strong=True),
        *(CardLine(text=f"{one.name}: its middle off the tube’s middle line, across", mm=abs(one.middle)) for one in shape.sides),
        CardLine(text=f"fillets along both sides’ feet, {'under their lower edges' if shape.sides[0].hangs else 'outside'}, leg", mm=saved.leg_mm),
        CardLine(text="cap on both sides: bead all along, either edge; closed ends sealed, a vent hole until it is cold" if saved.closed else "its ends are open: they rust from inside"),
    ]  # fmt: skip
    return Card(
        figures=(
            Figure(label="Cut cap and sides, long", mm=shape.length, note=f"{shape.plate:g} mm {saved.plate_name}"),
        ),
        lines=tuple(lines),
    )


def _notes(made: SaddleMade) -> tuple[str, ...]:
    shape = made.shape
    notes = []
    gap = max((abs(one.foot - _skin(shape, one)) for one in shape.sides if not one.hangs), default=0.0)
    apart = max((abs(one.inner) - shape.od / 2 for one in shape.sides if one.hangs), default=0.0)
    if apart > 0.05:
        notes.append(f"its sides stand {apart:.1f} mm off the tube: draw them in before they are tacked")
    if gap > 0.05:
        notes.append(
            f"cut square, a side’s foot stands off the tube by {gap:.1f} mm at its outer face: grind it to the tube, or let the fillet fill it"
        )
    if not made.stands:
        notes.append("nothing stands on it yet: give its box as the mount of a joint, and it is judged")
    return tuple(notes)


def _skin(shape: SaddleShape, one: Any) -> float:
    far = max(abs(one.inner), abs(one.outer))
    return float(np.sqrt(max(0.0, (shape.od / 2) ** 2 - far**2)))


AXLE_SADDLE = AxleSaddleKind()


def saddle_for(part_id: str, box: Mount, mounts: Sequence[Mount]) -> AxleSaddle:
    """The plates of a box that is entered as a mount.

    Args:
        part_id: of the new part.
        box: the mount.
        mounts: all of the job.

    Raises:
        InputError: no tube runs along it.
    """
    if not isinstance(box.shape, BoxMember) or tube_under(box, mounts) is None:
        raise InputError(
            f"No round mount runs along {box.name} on the same body: enter the tube that its plates stand on first.",
            code="missing",
            fields=("mount_id",),
        )
    side: Literal["pair", "centre"] = "centre"
    if box.both_sides and _one_side(box):
        side = "pair"
    return AxleSaddle(id=part_id, name=f"{box.name}, plates", side=side, box=box.id)


def _one_side(box: Mount) -> bool:
    """Whether all of a box is on one side of the car."""
    if not isinstance(box.shape, BoxMember):
        return False
    ys = [box.shape.a[1], box.shape.b[1]]
    return min(ys) > 0 or max(ys) < 0
