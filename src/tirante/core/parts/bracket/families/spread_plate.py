"""The spread plate between a pair's feet and a wall: what holds with the least metal, cut flat with the feet marked on it."""

from __future__ import annotations

from itertools import pairwise, product
from math import asin, cos, sin

from tirante.core.brackets.mount_wall import Feet
from tirante.core.checks.result import CheckResult
from tirante.core.document.fields import Length
from tirante.core.document.parts.bracket import SpreadPlate, TabPair
from tirante.core.document.settings import Settings
from tirante.core.drawing.flat import cross_holes, draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Sheet
from tirante.core.errors import NotApplicable
from tirante.core.flat.contour import Contour, Hole
from tirante.core.parts.bracket.families.wall_checks import BEYOND, STOCK, feet_on, fits_on, spread_size, wall_checks
from tirante.core.parts.joint import JointMade
from tirante.core.parts.part import PlatePiece
from tirante.core.parts.rocker.shape import plate_outline
from tirante.core.parts.stands import Stand, fitted_on, grown, stand_on

SPREAD = "spread plate"
PLUG_OVER = 8.0  # mm of a plug weld's hole over the plate's thickness at least; AISC 360 J2.3b (5/16 in), from memory
PITCH = 4.0  # of its diameter, from one to the next; likewise
RIM = 1.25  # of it, from its middle to the plate's edge; common practice, no source
FILLET = 2.0  # mm that it stays clear of the feet's fillets, which are taken as large as the plates are thick; common practice, no source
CORNER = 10.0  # mm, of its corners: a square one starts a crack; common practice, no source


def with_spread(tab: TabPair, stand: Stand, spread: SpreadPlate) -> tuple[TabPair, Stand] | None:
    """A pair on a spread plate, cut anew for it, and where it then stands; None where it does not.

    Args:
        tab: as it is, on the wall itself.
        stand: where that is.
        spread: between them.
    """
    changed = tab.model_copy(update={"spread": spread})
    try:
        on = stand_on(grown(stand.mount, spread.thickness.mm), stand.at)
    except NotApplicable:
        return None
    return fitted_on(changed, on), on


def least_spread(tab: TabPair, made: JointMade, stand: Stand, settings: Settings) -> SpreadPlate | None:
    """The spread plate of least metal that holds, each tried by the checks of the wall; None where none does.

    Args:
        tab: on the wall itself.
        made: the joint.
        stand: where it stands.
        settings: factors.
    """
    for spread in spreads(tab, made):
        tried = with_spread(tab, stand, spread)
        if tried is None or fits_on(tried[0], made, tried[1]):
            continue
        found: list[CheckResult] = wall_checks(tried[0], made, tried[1], settings)
        if found and all(check.passed for check in found):
            return spread
    return None


def spreads(tab: TabPair, made: JointMade) -> list[SpreadPlate]:
    """Spread plates that are tried, the least metal first.

    Args:
        tab: on the wall itself.
        made: the joint.
    """
    long, wide = tab.base_width.mm, made.gap + 2 * tab.plate.mm

    def metal(one: tuple[float, float]) -> float:
        thick, beyond = one
        return thick * (long + 2 * beyond) * (wide + 2 * beyond)

    return [SpreadPlate(thickness=Length(mm=t), beyond_mm=e) for t, e in sorted(product(STOCK, BEYOND), key=metal)]


def _outline(tab: TabPair, made: JointMade, stand: Stand) -> Contour:
    along, across = spread_size(tab, made, stand)
    plug = tab.spread.plug_mm if tab.spread else None
    return rounded_plate(along, across, tuple(Hole(*at, plug) for at in plugs_on(tab, made, stand)) if plug else ())


def rounded_plate(long: float, wide: float, holes: tuple[Hole, ...] = ()) -> Contour:
    """A plate with round corners, its middle at 0.

    Args:
        long: [mm]
        wide: [mm]
        holes: through it.
    """
    x, y = long / 2 - CORNER, wide / 2 - CORNER
    corners = [(x, y, CORNER), (-x, y, CORNER), (-x, -y, CORNER), (x, -y, CORNER)]
    return Contour(edges=plate_outline(corners), holes=holes)


def plugs_on(tab: TabPair, made: JointMade, stand: Stand) -> list[tuple[float, float]]:
    """Where it is plug-welded to the wall, in the plate as it is cut flat, its middle at 0 [mm]: the lattice that has most clear of feet and edges.

    Args:
        tab: as it is saved.
        made: the joint.
        stand: where.

    Source:
        Least pitch AISC 360 J2.3b (from memory); rim and clearance common practice, no source.
    """
    from shapely import LineString, Point, union_all

    assert tab.spread
    d = tab.spread.plug_mm
    if d is None:
        return []
    long, wide = spread_size(tab, made, stand)
    x, y = long / 2 - RIM * d, wide / 2 - RIM * d
    if min(x, y) < 0:
        return []
    lines = [
        LineString(_foot_line(line, stand.standing.tube_od, tab)) for line in _foot_lines(feet_on(tab, made, stand))
    ]
    feet = union_all([one.union(two).convex_hull for one, two in (lines[:2], lines[2:])]).buffer(
        d / 2 + FILLET + tab.plate.mm
    )
    best: list[tuple[float, float]] = []
    for columns, rows in product(range(1, int(2 * x / (PITCH * d)) + 2), range(1, int(2 * y / (PITCH * d)) + 2)):
        clear = [at for at in product(_evenly(x, columns), _evenly(y, rows)) if not feet.contains(Point(at))]
        best = max(best, clear, key=len)
    return best


def _evenly(half: float, count: int) -> list[float]:
    return [0.0] if count == 1 else [-half + 2 * half * i / (count - 1) for i in range(count)]


def plug_misfit(tab: TabPair, made: JointMade, stand: Stand) -> str:
    """What is wrong with the plug welds of its spread plate; empty: nothing, or it has none.

    Args:
        tab: as it is saved.
        made: the joint.
        stand: where.

    Source:
        Least and largest hole AISC 360 J2.3b (from memory): t + 8 mm, and the larger of that and 3 mm more or 2.25 times the weld’s depth, the plate’s.
    """
    assert tab.spread
    d, t = tab.spread.plug_mm, tab.spread.thickness.mm
    if d is None:
        return ""
    least = t + PLUG_OVER
    most = max(least + 3.0, 2.25 * t)
    if d < least:
        return f"A plug weld through {t:g} mm asks for a hole of {least:g} mm or more, so that its root can be reached."
    if d > most:
        return f"A plug weld through {t:g} mm is {most:g} mm wide at most: a larger one shrinks and cracks. Lay a fillet round the hole’s inside instead, and cut it by hand."
    if not plugs_on(tab, made, stand):
        return f"No plug weld of ⌀{d:g} mm is clear of feet and edges. Make the spread plate reach further beyond the feet, or leave the plugs out."
    return ""


def spread_piece(tab: TabPair, made: JointMade, stand: Stand, count: int) -> PlatePiece:
    """The spread plate as it is cut.

    Args:
        tab: as it is saved.
        made: the joint.
        stand: where.
        count: how many of them.
    """
    assert tab.spread
    along, across = spread_size(tab, made, stand)
    rolled = ", rolled to the tube" if stand.standing.tube_od is not None else ""
    count_of = len(plugs_on(tab, made, stand))
    plugs = f", {count_of} holes ⌀{tab.spread.plug_mm:g} mm for plug welds" if count_of else ""
    return PlatePiece(
        name=SPREAD, material=tab.grade_name, thickness=tab.spread.thickness.mm, length=along, width=across, outline=_outline(tab, made, stand),
        told=f"corners R {CORNER:g} mm{plugs}{rolled}", count=count, sort="spread",
    )  # fmt: skip


def spread_told(tab: TabPair, stand: Stand) -> str:
    """What is printed above its template.

    Args:
        tab: as it is saved.
        stand: where.
    """
    assert tab.spread
    rolled = (
        " Roll it to the tube first, its long or short way along the tube as marked."
        if stand.standing.tube_od is not None
        else ""
    )
    plugs = " Fill its holes flush first." if tab.spread.plug_mm else ""
    return f"Spread plate, {tab.spread.thickness.mm:g} mm {tab.grade_name}. Weld it to {stand.mount.name} all round, then the feet where they are marked.{plugs}{rolled}"


def spread_flat(tab: TabPair, made: JointMade, stand: Stand) -> Drawing:
    """The spread plate alone at 1:1, with the feet marked on it; its length is along the member.

    Args:
        tab: as it is saved.
        made: the joint.
        stand: where.
    """
    contour = _outline(tab, made, stand)
    left, low, right, high = contour.bounds
    sheet = Sheet(name="spread-flat", title=SPREAD, width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    cross_holes(sheet, frame, contour)
    for line in _foot_lines(feet_on(tab, made, stand)):
        for one, two in pairwise(_foot_line(line, stand.standing.tube_od, tab)):
            sheet.line(frame.at(*one), frame.at(*two), "mark")
    return sheet.done()


STRAIGHT, ASLANT = 1e-6, 12  # mm; pieces of a line that bends


def _foot_line(line: tuple[float, float, float, float], od: float | None, tab: TabPair) -> list[tuple[float, float]]:
    """A foot's edge in the plate as it is cut flat: round a tube it lies along the skin, and what is aslant bends a little."""
    x1, y1, x2, y2 = line
    count = 1 if od is None or abs(x1 - x2) < STRAIGHT or abs(y1 - y2) < STRAIGHT else ASLANT
    shares = [i / count for i in range(count + 1)]
    return [(x1 + k * (x2 - x1), _unrolled(y1 + k * (y2 - y1), od, tab)) for k in shares]


def _unrolled(y: float, od: float | None, tab: TabPair) -> float:
    """A place across a tube, from its crown, as it lies in the plate before that is rolled [mm]."""
    assert tab.spread
    if od is None:
        return y
    return (od / 2 - tab.spread.thickness.mm / 2) * asin(max(-1.0, min(1.0, 2 * y / od)))


def _foot_lines(feet: Feet) -> list[tuple[float, float, float, float]]:
    """Both faces of both feet, seen square to the wall; round a tube as its chord."""
    c, s = cos(feet.angle), sin(feet.angle)
    half, lines = feet.width / 2, []
    for off in (-feet.gap / 2 - feet.plate, -feet.gap / 2, feet.gap / 2, feet.gap / 2 + feet.plate):
        # along the plates (c, s), along the bolt (s, −c)
        lines.append((-half * c + off * s, -half * s - off * c, half * c + off * s, half * s - off * c))
    return lines
