"""Ends of flat metal: plates let into a link's tube, or the tube squashed: what fits, what is cut, how it is drawn."""

from __future__ import annotations

from tirante.core.document.catalogue import Tube
from tirante.core.document.parts.link import FlatEnd
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Curve, Hole, Straight, straight_sides
from tirante.core.members.flat_end import SLOT, LetIn, squashed
from tirante.core.members.plate_link import FlatLink
from tirante.core.parts.part import CardLine, Misfit, PlatePiece, across
from tirante.core.quantities import or_more

ROUND_AGAIN = 1.0  # tube diameters, over which a squashed end becomes round; common practice, no source
THICKEST_WALL = 0.1  # of its diameter, of a tube that is squashed cold without a tool that keeps it from cracking; common practice, no source


def sizes_of(end: FlatEnd, tube: Tube) -> tuple[float, float]:
    """Width across the hole and thickness of one plate [mm].

    Args:
        end: as it is saved.
        tube: of the link.
    """
    return squashed(tube.od_mm, tube.wall_mm) if end.squashed else (end.width_mm, end.thickness_mm)


def let_in(end: FlatEnd, tube: Tube) -> LetIn:
    """Its plates in the tube.

    Args:
        end: as it is saved; not squashed.
        tube: of the link.

    Raises:
        InputError: they do not stand through it, or too short a way in.
    """
    return LetIn(od=tube.od_mm, wall=tube.wall_mm, thickness=end.thickness_mm, plates=end.plates, gap=end.gap_mm, lap=end.lap_mm, leg=end.leg_mm)  # fmt: skip


def bar_of(end: FlatEnd, tube: Tube, face: float) -> FlatLink:
    """What of the link is flat, from the pin on.

    Args:
        end: as it is saved.
        tube: of the link.
        face: from the pin to the tube's end [mm].
    """
    width, thick = sizes_of(end, tube)
    long = end.lap_mm + ROUND_AGAIN * tube.od_mm if end.squashed else face
    return FlatLink(length=long, width=width, thickness=thick, plates=end.plates)


def flat_fits(end: FlatEnd, tube: Tube, name: str) -> list[Misfit]:
    """What does not go together.

    Args:
        end: as it is saved.
        tube: of the link.
        name: of the end's field.
    """
    at = f"{name}.flat."
    width, _ = sizes_of(end, tube)
    found = []
    if end.pin_mm > end.hole_mm:
        found.append(Misfit(field=f"{at}hole_mm", message="The hole is smaller than its pin: bore it larger."))
    if end.hole_mm >= width:
        field = "hole_mm" if end.squashed else "width_mm"
        found.append(Misfit(field=f"{at}{field}", message=f"The hole is as wide as the end, {width:.1f} mm: give it {'a smaller pin, or take a larger tube' if end.squashed else 'more width'}."))  # fmt: skip
    if end.edge_mm <= end.hole_mm / 2:
        found.append(Misfit(field=f"{at}edge_mm", message="The hole breaks out of the end: give it more edge."))
    if end.squashed:
        if tube.wall_mm > THICKEST_WALL * tube.od_mm:
            found.append(Misfit(field=f"{at}form", message=f"A wall of {tube.wall_mm:g} mm on ⌀{tube.od_mm:g} mm cracks where it is squashed flat (more than a tenth, common practice): let a plate in instead, or take a thinner wall."))  # fmt: skip
        if end.lap_mm < end.hole_mm:
            found.append(Misfit(field=f"{at}lap_mm", message=f"Its flat ends at its hole: leave {end.hole_mm:g} mm or more from the hole’s centre, for washer and bolt."))  # fmt: skip
        return found
    try:
        made = let_in(end, tube)
    except InputError as error:
        return [*found, Misfit(field=f"{at}{error.fields[0]}", message=error.message)]
    if end.width_mm < made.least_width - 1e-9:
        found.append(Misfit(field=f"{at}width_mm", message=f"Its fillets lie on what of the plate stands out of the tube: make it {or_more(made.least_width)} mm wide or more."))  # fmt: skip
    return found


def plate_of(end: FlatEnd, face: float) -> Contour:
    """One plate: square where it goes into the tube, as round at its hole as its edge lets it be; the hole at 0, the tube at the right.

    Args:
        end: as it is saved; not squashed.
        face: from the hole to the tube's end [mm].
    """
    return eye_outline(end.width_mm, end.edge_mm, face + end.lap_mm, end.hole_mm)


def eye_outline(width: float, edge: float, right: float, hole: float) -> Contour:
    """A plate with an eye, as round at it as its edge lets it be: the hole at 0.

    Args:
        width: across the hole [mm].
        edge: from the hole's centre to the free end [mm].
        right: from it to the other end, which is square [mm].
        hole: its diameter [mm].
    """
    half, r = width / 2, min(edge, width / 2)
    holes = (Hole(0.0, 0.0, hole),)
    middle = r - edge  # of the round end; at the hole where edge and half the width are one
    if r < half - 1e-9:  # an edge shorter than half the width: square corners beside a flat end
        corners = [(-edge, -half), (right, -half), (right, half), (-edge, half)]
        return Contour(edges=straight_sides(corners), holes=holes)
    return Contour(
        edges=(
            Straight(middle, -half, right, -half), Straight(right, -half, right, half), Straight(right, half, middle, half),
            Curve(middle, 0.0, half, 90.0, 270.0),
        ),
        holes=holes,
    )  # fmt: skip


def plate_piece(end: FlatEnd, letter: str, face: float) -> PlatePiece:
    """Its plates as they are cut.

    Args:
        end: as it is saved; not squashed.
        letter: of the end.
        face: from the hole to the tube's end [mm].
    """
    outline = plate_of(end, face)
    left, low, right, high = outline.bounds
    return PlatePiece(
        name=f"end {letter}", material=end.plate_name, thickness=end.thickness_mm, length=right - left, width=high - low, outline=outline, count=end.plates,
        told=f"let {end.lap_mm:g} mm into the tube",
    )  # fmt: skip


def end_word(end: FlatEnd, tube: Tube) -> str:
    """What is at the tube's end, on a list.

    Args:
        end: as it is saved.
        tube: of the link.
    """
    if end.squashed:
        return f"squashed {end.edge_mm + end.lap_mm:g} mm"
    return f"{2 * end.plates} slots {end.thickness_mm + SLOT:g} × {end.lap_mm:g} mm"


def card_lines(end: FlatEnd, tube: Tube, face: float) -> tuple[CardLine, ...]:
    """What the bench needs.

    Args:
        end: as it is saved.
        tube: of the link.
        face: from the hole to the tube's end [mm].
    """
    if end.squashed:
        width, thick = squashed(tube.od_mm, tube.wall_mm)
        return (
            CardLine(text="tube runs past the hole’s centre by", mm=end.edge_mm, strong=True),
            CardLine(text="squashed flat, from the tube’s end", mm=end.edge_mm + end.lap_mm), CardLine(text=f"flat then about {width:.0f} mm wide, thick", mm=thick),
            CardLine(text=f"round again over the next {ROUND_AGAIN * tube.od_mm:.0f} mm or more: pressed between round edges, never hammered on a sharp one; look for cracks, drill last"),
            across(text="hole, drilled", mm=end.hole_mm),
        )  # fmt: skip
    middle = "through the middle" if end.plates == 1 else f"{end.gap_mm:g} mm between the plates, even about the middle"
    return (
        CardLine(text="hole’s centre to tube face", mm=face, strong=True), CardLine(text=f"slots, {2 * end.plates} of {end.thickness_mm + SLOT:g} mm, {middle}, deep", mm=end.lap_mm),
        CardLine(text="round the slots’ inner ends with a hole as wide as they are"), CardLine(text="fillets along both faces of each plate where it leaves the tube", mm=end.leg_mm),
        CardLine(text="cap the tube’s end between the plates or it rusts from inside; vent it while it is welded"),
    )  # fmt: skip
