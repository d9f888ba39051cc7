"""The measuring sheet of an end, to print: its points, lengths and angles with room beside each for what the car says."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from tirante.core.document.design import SuspensionEnd
from tirante.core.document.end import End
from tirante.core.document.survey import DatumWords
from tirante.core.document.template import Template
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.worked import Worked
from tirante.core.mechanism.model import GROUND
from tirante.core.parts.numbers import numbers_of
from tirante.core.suspension.shown.lengths import LengthRow, lengths
from tirante.documents.book import ROOM, Book, rows, words
from tirante.documents.pdf import Stamp

BLANK = "________"
AGAIN = 3.0  # [mm] between the sides, past which a reading is doubted; common practice, no source
HOW = (
    "x forward from the axle line as drawn, y left from the centre line, z up from the floor. Car on stands, at ride height, springs "
    "unloaded before anything is cycled. In this order: what is on the chassis first, from front to rear, then what moves. Write both sides "
    f"down, y of the right one as how far it is from the centre line; what differs by more than {AGAIN:g} mm is measured again."
)
SIGNS = "On its wheels, on the floor that is measured from; each read twice, the instrument turned end for end between."


def measuring_sheet_pdf(job: Worked, one: SuspensionEnd, date: str, datum: DatumWords | None = None) -> bytes:
    """The sheet as PDF.

    Args:
        job: worked out.
        one: its end.
        date: as shown.
        datum: what the survey is measured from; what is not said has room to be written in.

    Raises:
        InputError: the end is impossible, by field.
    """
    template, numbers, design = job.template(one.id), numbers_of(job.settings), job.design
    stamp = Stamp(
        job=design.name,
        revision="draft",
        date=date,
        units=design.settings.units,
        reviewer=None,
        issued=False,
        paper=design.settings.paper,
    )
    title = f"{one.name}: measuring sheet"
    book = Book(f"{design.name}, {title}", stamp)
    book.section(
        title,
        "both sides",
        [
            words(f"Points of a {template.title.lower()}", 5, bold=True),
            words(HOW, 3.5),
            *_datum(datum or DatumWords()),
            _points(template, one, numbers),
        ],
    )
    found = lengths(template, job.ends[one.id])
    book.section(
        title, "both sides", [words("Lengths, centre to centre", 5, bold=True), _lengths(template, found, numbers)]
    )
    book.section(
        title, "both sides", [words("Angles at ride height", 5, bold=True), words(SIGNS, 3.5), _angles(template, one)]
    )
    return book.close()


def _datum(said: DatumWords) -> list[Any]:
    """The rule in words: what is level zero, middle and zero ahead, how the car stands; and the floor under its wheels by a level."""
    lines = [("Floor", said.floor), ("Middle", said.centre), ("Zero ahead", said.zero), ("Car stands", said.stands)]
    return [
        words("Measured from", 4, bold=True), *(words(f"{name}: {text or 4 * BLANK}", 3.5) for name, text in lines),
        words(f"Measured by: {4 * BLANK} with (tape, square, level, inclinometer): {4 * BLANK}", 3.5),
        words(f"Floor under the wheels, by a level: front left {BLANK} right {BLANK}, rear left {BLANK} right {BLANK}", 3.5),
    ]  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class _Point:
    """A point to be measured: what it is, how it is found, and whether it stands on both sides."""

    name: str
    what: str
    how: str
    pair: bool
    on_chassis: bool


def _to_measure(template: Template, end: End) -> list[_Point]:
    """Every point of an end: its kind's own, then where dampers, springs, stops, straps and shafts stand; the chassis first, front to rear."""
    own = {point.name: point for point in template.points}
    moves = {place.point for joint in template.joints for place in joint.places if place.body != GROUND}
    chassis = {place.point for joint in template.joints for place in joint.places if place.body == GROUND}
    told: dict[str, tuple[str, bool]] = {}
    for name, unit in end.dampers.items():
        for which, place in zip(("upper", "lower"), unit.places, strict=True):
            told.setdefault(place.point, (f"{which} eye of the {name}", place.body == GROUND))
    if end.strap:
        for which, place in zip(("one", "other"), end.strap.places, strict=True):
            told.setdefault(place.point, (f"{which} end of the strap", place.body == GROUND))
    if end.bump_stop:
        told.setdefault(end.bump_stop.tip.point, ("tip of the bump stop", end.bump_stop.tip.body == GROUND))
        told.setdefault(end.bump_stop.pad.point, ("middle of the bump stop’s pad", end.bump_stop.pad.body == GROUND))
    for name, shaft in end.shafts.items():
        told.setdefault(shaft.inner.point, (f"inner joint of the {name}", shaft.inner.body == GROUND))
        told.setdefault(shaft.outer.point, (f"outer joint of the {name}", shaft.outer.body == GROUND))
    found = []
    for name in end.points:
        point = own.get(name)
        words_of, stands = told.get(name, (name.replace("_", " "), False))
        fixed = (name in chassis or stands) and not (name in moves and name not in chassis)
        found.append(
            _Point(
                name=name, what=point.what if point else words_of, how=point.measure if point else "", pair=point.pair if point else True,
                on_chassis=fixed,
            )
        )  # fmt: skip
    return sorted(found, key=lambda one: (not one.on_chassis, -end.points[one.name][0] if one.on_chassis else 0.0))


def _points(template: Template, one: SuspensionEnd, numbers: Numbers) -> Any:
    def cell(axis: str, value: float, *, pair: bool) -> list[Any]:
        sign = "−" if value < 0 else ""
        places = (
            [words(f"L {BLANK}", 3.5, mono=True), words(f"R {BLANK}", 3.5, mono=True)]
            if pair
            else [words(f"  {BLANK}", 3.5, mono=True)]
        )
        return [words(f"{axis} {sign}{numbers.main(abs(value))}", 3.5, mono=True, bold=False), *places]

    cells: list[list[Any]] = []
    for number, point in enumerate(_to_measure(template, one.end), 1):
        where = "on the chassis" if point.on_chassis else "on what moves"
        said = [words(point.what, 3.5, bold=True), words(f"{where}. {point.how}".strip(), 3.5, tone="muted")]
        values = one.end.points[point.name]
        told = [cell(axis, value, pair=point.pair) for axis, value in zip("xyz", values, strict=True)]
        cells.append([words(f"{number}", 4.6, bold=True), said, *told])
    return rows(cells, [11, ROOM - 119, 36, 36, 36])


def _angles(template: Template, one: SuspensionEnd) -> Any:
    """What is read by inclinometer, toe bar and caster gauge, in the figures that are typed; an axle's housing is read once."""
    tilt, across = f"{BLANK}°", f" ahead {BLANK}\nbehind {BLANK}"
    asked = [
        ("Hub’s face, from upright", "inclinometer; top out positive", tilt, tilt),
        ("Toe bar, its marks from the centre line or a string along it", f"held flat on the hub, marks apart {BLANK}; to the left positive, so that to the right both are negative", across, across),
    ]  # fmt: skip
    if template.steered:
        swing = f"turned out {BLANK}°\nturned in  {BLANK}°"
        asked.append(("Caster gauge, camber with the wheel turned out and in", f"on turn plates, either way by {BLANK}°; top out positive", swing, swing))  # fmt: skip
    if template.axle == "beam":
        asked.append(("Axle’s tube, from level", "inclinometer, left end higher positive", tilt, ""))
        if one.end.pinion_deg is not None:
            asked.append(("Pinion’s flange, from upright", "inclinometer, nose up positive", tilt, ""))
    cells: list[list[Any]] = [[words("", 3.5), words("left", 3.5, bold=True), words("right", 3.5, bold=True)]]
    for name, how, *sides in asked:
        cells.append([[words(name, 3.5, bold=True), words(how, 3.5, tone="muted")], *([words(line, 3.5, mono=True) for line in room.split("\n")] for room in sides)])  # fmt: skip
    return rows(cells, [ROOM - 116, 58, 58], head=True)


def _lengths(template: Template, found: tuple[LengthRow, ...], numbers: Numbers) -> Any:
    called = {point.name: point.what for point in template.points}
    cells: list[list[Any]] = [[words("", 3.5), words("left", 3.5, bold=True), words("right", 3.5, bold=True)]]
    for row in found:
        opposite = f"; angle opposite {row.angle_deg:.2f}°" if row.angle_deg is not None else ""
        between = f"{called.get(row.a, row.a)} – {called.get(row.b, row.b)}{opposite}"
        said = [words(row.part, 3.5, bold=True), words(between, 3.5, tone="muted")]
        told = [
            words("" if long is None else f"{numbers.main(long)}  {BLANK}", 3.5, mono=True) for long in (row.left, row.right)
        ]  # fmt: skip
        cells.append([said, *told])
    return rows(cells, [ROOM - 96, 48, 48], head=True)
