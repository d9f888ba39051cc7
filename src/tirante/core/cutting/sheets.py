"""Plates of one thickness laid out on sheets and offcuts: what the rack holds first, then as few new sheets as can be found, with their bound.

Any outline, turned as far as it may be; openings of a plate take no other. A general library packs one strip of open length; over several sheets the pieces
of each are chosen here, largest first, by how much of them a strip of that width took. It is asked twice, for pieces one by one and for two alike as a pair,
one turned half round; rows of rectangles stand beside it, so that there is always an answer. Nothing of the library is taken on trust: each layout is measured,
and one that overlaps, leaves its sheet or is nearer than its spacing is thrown away. Its answers differ from run to run: a layout is kept, not made again.

Not covered: sheets that are no rectangles; pieces laid into openings; pieces turned over.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import atan2, ceil, cos, degrees, radians, sin
from typing import TYPE_CHECKING, Literal, cast

from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Curve, FlatPoint, polygon

if TYPE_CHECKING:
    from shapely.geometry import Polygon

Turns = Literal["quarter", "half", "any"]
Counts = Mapping[int, int]  # of each shape by its number
Step = Callable[[int, int], bool]
Clock = Callable[[], float]

CHORD = 0.05  # [mm] that a chord may stand off its arc; curved outlines are grown by as much, so that none is drawn smaller than it is
ROUNDING = 0.01  # [mm] that pieces are kept further apart by, for what the library rounds
FINE = 1e-6  # [mm] within which a place is on a line
TOUCHING = 1e-3  # [mm²] that metal which touches may seem to lie on metal
FREE_EVERY = 15.0  # [°] that a piece that may lie any way is turned by; and onto each side of its hull
MOST_PIECES = 2000
MANY = 15  # pieces; of fewer the search takes a part of its time
LEAST_LENGTH = 6.0  # spacings that a strip of nothing but metal is long, below which the library is not asked
PASS_S = 4.0  # [s] that a sheet is worth in a pass
PASSES = 3  # over everything, the best of which is taken
TRIES = 4  # of how much of a sheet's own area is asked for, before what fitted is taken
ONE_S, LONGEST_S = 1, 3  # [s] that the library is given for a strip, least and most


@dataclass(frozen=True, slots=True, kw_only=True)
class Shape:
    """A plate to be cut, and how many; `angles` that it may lie at [°]."""

    name: str
    outline: Contour
    count: int
    angles: tuple[float, ...]

    @property
    def outline_area(self) -> float:
        """Within its outline, openings and holes not taken off [mm²]."""
        return Contour(edges=self.outline.edges).area


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet:
    """A rectangle of stock [mm]; the length runs along its grain."""

    length: float
    width: float
    count: int | None = 1  # None: new ones, as many as are asked for


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """Where a piece lies: turned about its own origin, then moved, from the sheet's corner [mm]."""

    shape: int
    x: float
    y: float
    angle_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class NestedSheet:
    """A sheet with what is cut from it."""

    length: float
    width: float
    new: bool
    placed: tuple[Placed, ...]
    used: float  # [mm] along it, from its first edge to behind the last cut; what is beyond is one whole rectangle

    @property
    def left(self) -> float:
        """Length of the whole rectangle that is left [mm]."""
        return max(0.0, self.length - self.used)


@dataclass(frozen=True, slots=True, kw_only=True)
class Nest:
    """All pieces laid out."""

    sheets: tuple[NestedSheet, ...]  # offcuts first
    new: int
    bound: int  # fewer new ones than this are not possible, by the area of the metal
    utilisation: float  # outlines' area over that of what is used of the sheets
    stopped: bool  # whether it was stopped: what was not laid out yet lies in rows

    @property
    def proven(self) -> bool:
        """Whether fewer new sheets are not possible."""
        return self.new == self.bound


def angles_of(outline: Contour, turns: Turns, across: bool = True) -> tuple[float, ...]:
    """At which angles a plate may lie on a sheet whose grain runs along its length [°].

    Args:
        outline: of the plate, as it is drawn.
        turns: quarter turns, half turns alone (as drawn, along the grain), or any way.
        across: whether bends must lie across the grain; of bends in several ways the longest does.

    Source:
        Bends across the grain: common practice, no source.
    """
    if across and outline.bends:
        longest = max((one.line for one in outline.bends), key=lambda l: (l.x2 - l.x1) ** 2 + (l.y2 - l.y1) ** 2)  # noqa: E741
        turn = (90.0 - degrees(atan2(longest.y2 - longest.y1, longest.x2 - longest.x1))) % 180.0
        return turn, turn + 180.0
    if turns == "half":
        return 0.0, 180.0
    quarters = [0.0, 90.0, 180.0, 270.0]
    if turns == "quarter":
        return tuple(quarters)
    hull = _corners(cast("Polygon", polygon(Contour(edges=outline.edges), CHORD).convex_hull.simplify(0.5)))
    onto = [-degrees(atan2(b[1] - a[1], b[0] - a[0])) for a, b in pairwise(hull)][:12]
    every = [FREE_EVERY * i for i in range(round(360 / FREE_EVERY))]
    return tuple(sorted({round((turn + quarter) % 360.0, 6) for turn in onto for quarter in quarters} | set(every)))


@dataclass(frozen=True, slots=True)
class _Solid:
    """A shape as it is laid out: its outline without holes, none of it smaller than the metal."""

    shape: Shape
    metal: Polygon
    area: float

    def turned(self, angle: float) -> Polygon:
        from shapely.affinity import rotate

        return rotate(self.metal, angle, origin=(0.0, 0.0))

    def fits(self, length: float, width: float) -> tuple[float, ...]:
        """At which of its angles it lies within a rectangle."""
        found = []
        for angle in self.shape.angles:
            left, low, right, high = self.turned(angle).bounds
            if right - left <= length + FINE and high - low <= width + FINE:
                found.append(angle)
        return tuple(found)


def _solid(shape: Shape) -> _Solid:
    bare = polygon(Contour(edges=shape.outline.edges), CHORD)
    if any(isinstance(edge, Curve) for edge in shape.outline.edges):
        bare = bare.buffer(CHORD, join_style="mitre", mitre_limit=5.0)
    return _Solid(shape, bare, bare.area)


@dataclass(frozen=True, slots=True)
class _Laid:
    """Pieces on a strip: places from the corner of its room, and how far along they reach [mm]."""

    placed: tuple[Placed, ...]
    reach: float


def nest(
    shapes: Sequence[Shape], new: Sheet, offcuts: Sequence[Sheet] = (), *, spacing: float, edge: float | None = None, clock: Clock, seconds: float = 10.0, seed: int = 1, step: Step | None = None,
) -> Nest:  # fmt: skip
    """Plates on as few new sheets as are found, offcuts first, the least of the last.

    Args:
        shapes: to be cut.
        new: size of a new sheet, of which there are as many as are asked for.
        offcuts: of the rack.
        spacing: that metal stands from metal at least [mm].
        edge: that it stands from a sheet's edge; None: as its spacing.
        clock: that the time of the search is taken by [s].
        seconds: that it may take, about.
        seed: of the library; its answers differ all the same.
        step: told how many pieces of how many lie; it answers whether to go on.

    Raises:
        InputError: a piece that goes on no sheet, by name; too many; a spacing that leaves no room.

    Source:
        Number of new sheets from below: area of metal over area of a sheet (derived).
    """
    edge = spacing if edge is None else edge
    total = sum(shape.count for shape in shapes)
    if total > MOST_PIECES:
        raise InputError(f"{total} pieces are more than {MOST_PIECES}. Lay out a part of them at a time.", code="out_of_range", fields=("pieces",), value=total, limits=(1, MOST_PIECES))  # fmt: skip
    if total == 0:
        raise InputError("There is nothing to lay out.", code="missing", fields=("pieces",))
    seconds = seconds * min(1.0, total / MANY) if total > 1 else 0.0
    work = _Search([_solid(shape) for shape in shapes], spacing, edge, clock, seconds, seed, step, total)
    every = Counter({i: shape.count for i, shape in enumerate(shapes) if shape.count})
    for i in every:
        _require_room(work, i, [new, *offcuts])
    least = _bound(work, every, new, offcuts, edge)
    work.begin(0, 0.0)  # in rows, which no search may fall behind
    best = _pass(work, every.copy(), new, offcuts)
    sheets = max(1, ceil(work.area(every) / (new.length * new.width)))
    passes = max(1, min(PASSES, int(seconds / (PASS_S * sheets)))) if seconds > 0 else 0
    for n in range(passes):
        work.begin(n, seconds / passes)
        found = _pass(work, every.copy(), new, offcuts)
        if _worth(found) < _worth(best):
            best = found
        if work.stopped:
            break
    metal = sum(work.solids[piece.shape].shape.outline_area for one in best for piece in one.placed)
    return Nest(
        sheets=tuple(best), new=sum(one.new for one in best), bound=least, stopped=work.stopped,
        utilisation=metal / sum(one.used * one.width for one in best),
    )  # fmt: skip


def _worth(sheets: Sequence[NestedSheet]) -> tuple[float, ...]:
    """Fewest new sheets, then least of them, then least of the offcuts."""
    return (
        sum(one.new for one in sheets),
        sum(one.used * one.width for one in sheets if one.new),
        sum(one.used * one.width for one in sheets),
    )


def _pass(work: _Search, rest: Counter[int], new: Sheet, offcuts: Sequence[Sheet]) -> list[NestedSheet]:
    """All of it laid out once."""
    there = sorted((one for one in offcuts for _ in range(one.count or 0)), key=lambda one: one.length * one.width)
    sheets = _all_on_one(work, rest, there)
    last: tuple[Sheet, _Laid] | None = None
    useless: set[Sheet] = set()  # sizes that nothing that is left goes on
    for one in [*reversed(there), *[new] * MOST_PIECES]:
        if not rest:
            break
        if one in useless:
            continue
        if last is not None and last[0] == one and Counter(piece.shape for piece in last[1].placed) <= rest:
            laid: _Laid | None = last[1]  # the same again: one program for the table, and nothing to search for
        else:
            laid = work.fill(rest, one, ceil(work.area(rest) / max(FINE, one.length * one.width)))
        if laid is None:
            if one is new:
                stuck = work.solids[next(iter(rest))].shape.name
                raise InputError(f"{stuck} goes on no new sheet, and the offcuts that it would go on were needed for others, or hold no more. Take a larger sheet.", code="no_solution", fields=("sheet_mm",))  # fmt: skip
            useless.add(one)
            continue
        sheets.append(work.sheet(one, laid, one is new))
        rest -= Counter(piece.shape for piece in laid.placed)
        last = (one, laid)
    return sheets


def _require_room(work: _Search, i: int, sheets: Sequence[Sheet]) -> None:
    solid = work.solids[i]
    if any(solid.fits(*work.room(one)) for one in sheets):
        return
    left, low, right, high = solid.turned(solid.shape.angles[0]).bounds
    largest = max(sheets, key=lambda one: one.length * one.width)
    length, width = work.room(largest)
    raise InputError(
        f"{solid.shape.name} is {right - left:.1f} × {high - low:.1f} mm and goes on no sheet: within its edges the largest has {max(0.0, length):.1f} × {max(0.0, width):.1f} mm. Take a larger sheet, or let it lie another way.",
        code="out_of_range", fields=("sheet_mm",), value=max(right - left, high - low),
    )  # fmt: skip


def _bound(work: _Search, rest: Counts, new: Sheet, offcuts: Sequence[Sheet], edge: float) -> int:
    """Fewest new sheets, by area: each piece takes its own and half of the spacing round it, a sheet's room as much on all sides."""
    half = work.spacing / 2
    # less what curved outlines were grown by
    area = sum(work.solids[i].metal.buffer(half - CHORD, quad_segs=16).area * count for i, count in rest.items())

    def room(one: Sheet) -> float:
        return max(0.0, one.length - 2 * edge + 2 * half) * max(0.0, one.width - 2 * edge + 2 * half)

    area -= sum(room(one) * (one.count or 0) for one in offcuts)
    return max(0, ceil(area / room(new) - FINE)) if room(new) > 0 else 0


def _all_on_one(work: _Search, rest: Counter[int], there: Sequence[Sheet]) -> list[NestedSheet]:
    """Everything on the smallest offcut that takes it; empty where none does. Three are tried."""
    area = work.area(rest)
    tried = 0
    for one in dict.fromkeys(there):
        length, width = work.room(one)
        if length * width < area or any(not work.solids[i].fits(length, width) for i in rest):
            continue
        tried += 1
        if tried > 3:
            break
        laid = work.strip(rest, length, width)
        if laid is not None and laid.reach <= length + FINE:
            rest.clear()
            return [work.sheet(one, laid, False)]
    return []


class _Search:
    """One search: shapes, spacing, how long it may take."""

    def __init__(
        self, solids: Sequence[_Solid], spacing: float, edge: float, clock: Clock, seconds: float, seed: int, step: Step | None, total: int
    ) -> None:  # fmt: skip
        self.solids, self.spacing, self.edge = solids, spacing, edge
        self._now, self.until, self.seed = clock, clock(), seed
        self.stopped = False
        self._step, self._total, self._done = step, total, 0
        self._pairs: dict[int, tuple[Polygon, FlatPoint] | None] = {}
        self._slice = ONE_S
        self._longest = max(ONE_S, min(LONGEST_S, int(seconds / 5)))

    def begin(self, n: int, seconds: float) -> None:
        """Begin a pass; time that the one before left is this one's too."""
        self.seed += 1 if n else 0
        self.until = max(self.until, self._now()) + seconds if n == 0 else self.until + seconds
        self._done, self._slice = 0, self._longest

    def room(self, sheet: Sheet) -> tuple[float, float]:
        """Length and width within a sheet's edges [mm]."""
        return sheet.length - 2 * self.edge, sheet.width - 2 * self.edge

    def sheet(self, sheet: Sheet, laid: _Laid, new: bool) -> NestedSheet:
        """What a strip makes of a sheet."""
        self._done += len(laid.placed)
        placed = tuple(
            Placed(shape=one.shape, x=one.x + self.edge, y=one.y + self.edge, angle_deg=one.angle_deg)
            for one in laid.placed
        )
        used = min(sheet.length, laid.reach + self.edge + self.spacing)
        return NestedSheet(length=sheet.length, width=sheet.width, new=new, placed=placed, used=used)

    def _goes_on(self) -> bool:
        if self.stopped or self._now() >= self.until:
            return False
        if self._step is not None and not self._step(self._done, self._total):
            self.stopped = True
        return not self.stopped

    def area(self, counts: Counts) -> float:
        """Of the metal of so many [mm²]."""
        return sum(self.solids[i].area * count for i, count in counts.items())

    def fill(self, rest: Counts, sheet: Sheet, sheets: int) -> _Laid | None:
        """As much as is found to go on a sheet; None where nothing does.

        A strip of all that is left is cut where most of it lies within the sheet's length; then pieces are asked for, largest first, as dense as
        that strip was and a little more or less, until they fit.

        Args:
            rest: what is to be laid out.
            sheet: that it is filled on.
            sheets: how many more there will be, about, which the time is shared among.
        """
        length, width = self.room(sheet)
        fitting = {i: count for i, count in rest.items() if self.solids[i].fits(length, width)}
        if not fitting:
            return None
        until = self._now() + (self.until - self._now()) / max(1, sheets)
        if sheets > 1:
            self._slice = ONE_S  # many tries are worth more than one long one
        rows = [self._rows(fitting, length, width, pairs=pairs, short=True) for pairs in (True, False)]
        found = [one for one in rows if one is not None and not self.faults(one, width)]
        share = 0.7 * length * width / self.area(fitting)
        strips = list(self._strips(fitting, length, width))
        if whole := [one for one in strips if one.reach <= length + FINE]:
            return min(whole, key=lambda one: one.reach)
        for laid in strips:
            found.append(self._window(laid, length))
            share = max(share, length / laid.reach)
        every = sorted((i for i, count in fitting.items() for _ in range(count)), key=lambda i: -self.solids[i].area)
        low, high = 0.0, min(1.0, 1.3 * share)
        for _ in range(TRIES):
            if not self._goes_on() or self._now() > until:
                break
            some = self._up_to(every, share * self.area(fitting))
            reaching = [one for one in self._strips(some, length, width) if one.reach <= length + FINE] if some else []
            if reaching:
                found += reaching
                low = share
            else:
                high = share
            share = (low + high) / 2 if low else share * 0.9
        return max(found, key=lambda one: (self._laid_area(one), -one.reach), default=None)

    def _window(self, laid: _Laid, length: float) -> _Laid:
        """Of a strip, what lies wholly within so much of its length: from where it is most."""
        bounds = [self.metal(one).bounds for one in laid.placed]
        best: tuple[float, float, list[Placed]] = (-1.0, 0.0, [])
        for start, *_ in bounds:
            inside = [one for one, b in zip(laid.placed, bounds, strict=True) if b[0] >= start - FINE and b[2] <= start + length + FINE]  # fmt: skip
            area = sum(self.solids[one.shape].area for one in inside)
            if area > best[0]:
                best = (area, start, inside)
        _, start, inside = best
        placed = tuple(Placed(shape=one.shape, x=one.x - start, y=one.y, angle_deg=one.angle_deg) for one in inside)
        return _Laid(placed, max((self.metal(one).bounds[2] for one in placed), default=0.0))

    def _up_to(self, every: Sequence[int], area: float) -> Counter[int]:
        """The largest pieces that come to no more than an area together."""
        found: Counter[int] = Counter()
        for i in every:
            if self.solids[i].area <= area:
                found[i] += 1
                area -= self.solids[i].area
        return found

    def _laid_area(self, laid: _Laid) -> float:
        return self.area(Counter(one.shape for one in laid.placed))

    def strip(self, counts: Counts, length: float, width: float) -> _Laid | None:
        """All of it on a strip of that width, as short as is found; None where it does not go on it at all.

        Args:
            counts: of each shape.
            length: that pieces may be long by themselves [mm].
            width: of the strip [mm].
        """
        if not all(self.solids[i].fits(length, width) for i in counts):
            return None
        return min(self._strips(counts, length, width), key=lambda one: one.reach, default=None)

    def _strips(self, counts: Counts, length: float, width: float) -> Iterator[_Laid]:
        """Layouts of all of it on a strip, each measured: rows first, then what the library finds while there is time."""
        angles = {i: self.solids[i].fits(length, width) for i in counts}
        for pairs in (True, False):
            laid = self._rows(counts, length, width, pairs=pairs, short=False)
            if laid is not None and not self.faults(laid, width):
                yield laid
        for pairs in (True, False):
            if not self._goes_on():
                return
            laid = self._library(counts, angles, width, pairs)
            if laid is not None and not self.faults(laid, width):
                yield laid

    def _rows(self, counts: Counts, length: float, width: float, *, pairs: bool, short: bool) -> _Laid | None:
        """Rectangles in columns across the strip, longest first: plain, and always there.

        Args:
            counts: of each shape.
            length: of the sheet [mm].
            width: of it.
            pairs: whether two alike are one rectangle.
            short: whether to take as many as go on the length; else all, however long it gets.
        """
        boxes: list[_Box] = []
        for i, count in counts.items():
            single = _box(self.solids[i], self.solids[i].fits(length, width), i, None)
            double = None
            if pairs and count > 1 and (pair := self.pair(i)):
                solid = _Solid(self.solids[i].shape, pair[0], pair[0].area)
                double = _box(solid, solid.fits(length, width), i, pair[1])
            if double is not None and (single is None or double.long * double.wide < 2 * single.long * single.wide):
                boxes += [double] * (count // 2)
                count %= 2
            if single is not None:
                boxes += [single] * count
        boxes.sort(key=lambda box: (-box.long, -box.wide, box.shape))
        placed: list[Placed] = []
        columns: list[list[float]] = []  # of each: where it begins, how long it is, how far across it is filled
        for box in boxes:
            column = next((c for c in columns if c[2] + box.wide <= width + FINE and box.long <= c[1] + FINE), None)
            if column is None:
                at = columns[-1][0] + columns[-1][1] + self.spacing if columns else 0.0
                if short and at + box.long > length + FINE:
                    continue
                column = [at, box.long, 0.0]
                columns.append(column)
            x, y = column[0] - box.left, column[2] - box.low
            placed.append(Placed(shape=box.shape, x=x, y=y, angle_deg=box.angle))
            if box.second is not None:
                dx, dy = _turn(box.second, box.angle)
                placed.append(Placed(shape=box.shape, x=x + dx, y=y + dy, angle_deg=(box.angle + 180.0) % 360.0))
            column[2] += box.wide + self.spacing
        if not placed:
            return None
        return _Laid(tuple(placed), columns[-1][0] + columns[-1][1])

    def pair(self, i: int) -> tuple[Polygon, FlatPoint] | None:
        """Two of a shape as one: once worked out it is kept. None where one turned half round may not lie beside the other."""
        if i not in self._pairs:
            ways = {angle % 360.0 for angle in self.solids[i].shape.angles}
            half = any((angle + 180.0) % 360.0 in ways for angle in ways)
            self._pairs[i] = _pair(self.solids[i], self.spacing + ROUNDING) if half else None
        return self._pairs[i]

    def _library(self, counts: Counts, angles: Mapping[int, tuple[float, ...]], width: float, pairs: bool) -> _Laid | None:  # fmt: skip
        """The library's strip, its places brought to the corner of the room; None where it gives none."""
        import spyrrow

        apart = self.spacing + ROUNDING
        if self.area(counts) < LEAST_LENGTH * apart * width:
            return None  # a strip no longer than its spacings is none to the library, and rows do as well
        items, two = [], {}
        for i, count in counts.items():
            solid, single = self.solids[i], count
            pair = self.pair(i) if pairs and count > 1 else None
            if pair is not None:
                outline, shift = pair
                ways = [a for a in angles[i] if (a + 180.0) % 360.0 in {b % 360.0 for b in angles[i]} and _high(outline, a) <= width]  # fmt: skip
                if ways:
                    two[i] = shift
                    items.append(spyrrow.Item(f"p{i}", _corners(outline), count // 2, ways))
                    single = count % 2
            if single:
                items.append(spyrrow.Item(f"s{i}", _corners(solid.metal), single, list(angles[i])))
        if pairs and not two:
            return None
        strip = spyrrow.StripPackingInstance("strip", strip_height=width + 2 * apart, items=items)
        asked = spyrrow.StripPackingConfig(early_termination=True, total_computation_time=self._slice, num_workers=1, seed=self.seed, min_items_separation=apart)  # fmt: skip
        try:
            found = strip.solve(asked)
        except BaseException as error:  # what the library gives up with is no Exception
            if type(error).__name__ != "PanicException":
                raise
            return None
        placed = []
        for one in found.placed_items:
            i, (x, y) = int(one.id[1:]), one.translation
            # the library works in single precision: its angle is one of those that it was given
            angle = min(angles[i], key=lambda own: abs((own - one.rotation + 180.0) % 360.0 - 180.0))
            placed.append(Placed(shape=i, x=x - apart, y=y - apart, angle_deg=angle % 360.0))
            if one.id[0] == "p":
                dx, dy = _turn(two[i], angle)
                placed.append(Placed(shape=i, x=x - apart + dx, y=y - apart + dy, angle_deg=(angle + 180.0) % 360.0))
        reach = max(self.metal(one).bounds[2] for one in placed)
        laid = _Laid(tuple(placed), reach)
        return laid if Counter(one.shape for one in placed) == Counter(counts) else None

    def metal(self, one: Placed) -> Polygon:
        """Where a piece lies."""
        from shapely.affinity import translate

        return translate(self.solids[one.shape].turned(one.angle_deg), one.x, one.y)

    def faults(self, laid: _Laid, width: float) -> list[str]:
        """What is wrong with a layout, by measuring it: metal too near metal, or past the room's edges."""
        from shapely import STRtree

        metal = [self.metal(one) for one in laid.placed]
        found = [
            f"{self.solids[one.shape].shape.name} leaves its sheet" for one, own in zip(laid.placed, metal, strict=True)
            if own.bounds[0] < -FINE or own.bounds[1] < -FINE or own.bounds[3] > width + FINE
        ]  # fmt: skip
        near = STRtree(metal).query(metal, predicate="dwithin", distance=max(0.0, self.spacing - FINE)).T
        # without spacing they may touch, but nothing lies on anything
        found += [
            f"{a} and {b} are too near"
            for a, b in near
            if a < b and (self.spacing > FINE or metal[a].intersection(metal[b]).area > TOUCHING)
        ]
        return found


@dataclass(frozen=True, slots=True, kw_only=True)
class _Box:
    """The rectangle round a piece, or round two alike, as they lie in a row [mm]."""

    shape: int
    angle: float
    left: float  # of its corner from the piece's own origin
    low: float
    long: float
    wide: float
    second: FlatPoint | None  # where the other of two lies, unturned


def _box(solid: _Solid, angles: Sequence[float], i: int, second: FlatPoint | None) -> _Box | None:
    found = []
    ways = {angle % 360.0 for angle in solid.shape.angles}
    for angle in angles:
        if second is not None and (angle + 180.0) % 360.0 not in ways:
            continue
        left, low, right, high = solid.turned(angle).bounds
        found.append(_Box(shape=i, angle=angle, left=left, low=low, long=right - left, wide=high - low, second=second))
    return min(found, key=lambda box: (round(box.long * box.wide, 3), round(box.long, 3)), default=None)


def _turn(at: FlatPoint, angle: float) -> FlatPoint:
    c, s = cos(radians(angle)), sin(radians(angle))
    return at[0] * c - at[1] * s, at[0] * s + at[1] * c


def _corners(outline: Polygon) -> list[FlatPoint]:
    return [(x, y) for x, y, *_ in outline.exterior.coords]


def _high(outline: Polygon, angle: float) -> float:
    from shapely.affinity import rotate

    _, low, _, high = rotate(outline, angle, origin=(0.0, 0.0)).bounds
    return float(high - low)


def _pair(solid: _Solid, apart: float) -> tuple[Polygon, FlatPoint] | None:
    """Two alike, one turned half round and set against the other where both together take least: their hull, and where the second lies.

    The places where hulls touch are the edge of twice the hull, grown by the spacing.
    """
    from shapely.affinity import rotate, scale, translate

    hull = cast("Polygon", solid.metal.convex_hull)
    turned = rotate(hull, 180.0, origin=(0.0, 0.0))
    round_ = scale(hull.simplify(CHORD), 2.0, 2.0, origin=(0.0, 0.0)).buffer(apart + 2 * CHORD, quad_segs=4)
    edge = _corners(round_)
    best: tuple[float, Polygon, FlatPoint] | None = None
    for a, b in pairwise(edge):
        for at in (a, ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)):
            x, y = _nearer(hull, turned, at, apart)
            both = cast("Polygon", hull.union(translate(turned, x, y)).convex_hull)
            box = both.minimum_rotated_rectangle.area + 0.01 * both.area
            if best is None or box < best[0] - FINE:
                best = (box, both, (x, y))
    return (best[1], best[2]) if best else None


def _nearer(hull: Polygon, turned: Polygon, at: FlatPoint, apart: float) -> FlatPoint:
    """A place moved toward the hull until what lies there is no further from it than it must be."""
    from shapely.affinity import translate

    middle = (2 * hull.centroid.x, 2 * hull.centroid.y)
    low, high = 0.0, 1.0  # of the way from the middle, where they lie on one another, to the place
    for _ in range(20):
        share = (low + high) / 2
        x, y = middle[0] + share * (at[0] - middle[0]), middle[1] + share * (at[1] - middle[1])
        low, high = (low, share) if hull.distance(translate(turned, x, y)) >= apart else (share, high)
    return middle[0] + high * (at[0] - middle[0]), middle[1] + high * (at[1] - middle[1])
