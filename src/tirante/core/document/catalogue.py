"""Catalogue rows: tubes, grades, joints, inserts, nuts, bolts, spacers; what fits what; CSV reading.

Every row names the source of its values. A design copies the rows it uses, with a hash, so that an edited catalogue
never changes an old revision.
"""

from __future__ import annotations

import csv
import hashlib
import io
import itertools
import json
from typing import Annotated, Any, Literal, Protocol, get_args

from pydantic import AfterValidator, Field, ValidationError, model_validator

from tirante.core.brackets.bolt import bolt_class
from tirante.core.cells import plain_cell, safe_cell
from tirante.core.document.fields import Document, Key, Note, NotNegative, Positive, PositiveForce, Strength
from tirante.core.errors import InputError
from tirante.core.members.thread import parse_thread

Series = Literal["inch", "metric", "both"]


Family = Literal["steel", "stainless", "titanium", "aluminium"]


Table = Literal["tubes", "grades", "joints", "inserts", "nuts", "bolts", "spacers"]


KINDS: tuple[Table, ...] = get_args(Table)


def _designation(text: str) -> str:
    try:
        parse_thread(text)
    except InputError as error:
        raise ValueError(error.message) from error
    return text


Designation = Annotated[str, Field(min_length=2, max_length=40), AfterValidator(_designation)]


Hands = Annotated[str, Field(pattern=r"^(RH|LH|RH LH)$", description="RH, LH or RH LH")]


Source = Annotated[Note, Field(min_length=3, max_length=300)]


class Row(Document):
    """What every catalogue row has."""

    key: Key
    label: Annotated[Note, Field(min_length=1, max_length=120)]
    source: Source
    price: Annotated[float, Field(ge=0, le=1e6)] | None = Field(
        default=None, description="in the shop's money: of a grade for a kilogram of tube, of anything else for one"
    )

    @property
    def hash(self) -> str:
        """Of what the row is, to tell an edited row from the one a design was built with; its price is not part of it."""
        text = json.dumps(self.model_dump(mode="json", exclude={"price"}), sort_keys=True, ensure_ascii=False)
        return hashlib.sha256(text.encode()).hexdigest()[:16]


class Tube(Row):
    """A tube size."""

    od_mm: Positive
    wall_mm: Positive
    series: Series

    @model_validator(mode="after")
    def _wall_fits(self) -> Tube:
        if self.wall_mm >= self.od_mm / 2:
            raise ValueError(
                f"wall_mm: a wall of {self.wall_mm:g} does not go into {self.od_mm:g}; less than half of it"
            )
        return self

    @property
    def bore_mm(self) -> float:
        """Inside diameter [mm]."""
        return self.od_mm - 2 * self.wall_mm


class Grade(Row):
    """A material as tube, delivered and beside a weld."""

    family: Family
    series: Series
    yield_mpa: Strength
    uts_mpa: Strength
    welded_yield_mpa: Strength
    welded_uts_mpa: Strength | None = None  # null: as delivered
    e_mpa: Annotated[float, Field(ge=10_000, le=400_000)]
    density_kg_m3: Annotated[float, Field(ge=1_000, le=20_000)]
    wall_over_mm: NotNegative | None = None
    wall_to_mm: Positive | None = None
    od_to_mm: Positive | None = None  # no larger tube of it is stocked
    procedure: Note = ""

    @model_validator(mode="after")
    def _ordered(self) -> Grade:
        if not self.welded_yield_mpa <= self.yield_mpa <= self.uts_mpa:
            raise ValueError("welded_yield_mpa ≤ yield_mpa ≤ uts_mpa must hold")
        if self.welded_uts_mpa is not None and not self.welded_yield_mpa <= self.welded_uts_mpa <= self.uts_mpa:
            raise ValueError("welded_yield_mpa ≤ welded_uts_mpa ≤ uts_mpa must hold")
        return self

    @property
    def uts_at_weld(self) -> float:
        """Ultimate beside a weld [MPa]."""
        return self.uts_mpa if self.welded_uts_mpa is None else self.welded_uts_mpa


class Eye(Protocol):
    """What stands between the plates of a bracket on a bolt: a rod end's ball, a damper's eye [mm, °]."""

    @property
    def bore_mm(self) -> float:
        """Through it, for the bolt."""

    @property
    def ball_width_mm(self) -> float:
        """Over ball or sleeve: what is clamped."""

    @property
    def housing_width_mm(self) -> float:
        """Along the bolt, of what stands round it."""

    @property
    def head_diameter_mm(self) -> float:
        """Outside, across the bolt."""

    @property
    def tilt_limit_deg(self) -> float | None:
        """How far it may tilt; None: not known."""

    @property
    def hash(self) -> str:
        """Of all that it is."""


class Joint(Row):
    """A male rod end; lengths from eye centre."""

    designation: Designation
    hands: Hands
    bore_mm: Positive
    ball_width_mm: Positive
    housing_width_mm: Positive
    head_diameter_mm: Positive
    housing_bore_mm: Positive
    ball_diameter_mm: Positive
    eye_to_shank_end_mm: Positive
    thread_length_mm: Positive
    body_uts_mpa: Strength
    body_yield_mpa: Strength
    race_pressure_mpa: Strength
    tilt_limit_deg: Annotated[float, Field(gt=0, le=90)]
    mass_kg: NotNegative
    maker_static_n: PositiveForce | None = None

    @model_validator(mode="after")
    def _nested(self) -> Joint:
        order = (self.bore_mm, self.ball_diameter_mm, self.housing_bore_mm, self.head_diameter_mm)
        if not all(a < b or (i == 1 and a <= b) for i, (a, b) in enumerate(itertools.pairwise(order))):
            raise ValueError("bore_mm < ball_diameter_mm ≤ housing_bore_mm < head_diameter_mm must hold")
        if self.thread_length_mm > self.eye_to_shank_end_mm:
            raise ValueError("thread_length_mm must not exceed eye_to_shank_end_mm")
        return self


class Insert(Row):
    """A threaded plug that is welded into a tube."""

    designation: Designation
    hands: Hands
    family: Family
    fit_diameter_mm: Positive
    shoulder_diameter_mm: Positive
    shoulder_mm: NotNegative
    thread_depth_mm: Positive
    uts_mpa: Strength
    yield_mpa: Strength
    open_back: Literal["open", "closed"] = (
        "closed"  # tapped through: a shank that comes out at the back does not bottom
    )


class Nut(Row):
    """A jam nut."""

    designation: Designation
    hands: Hands
    height_mm: Positive  # the greatest: it takes the most thread
    basic_mm: Positive | None = None  # as the table names it


class Bolt(Row):
    """A bolt that serves as clevis pin."""

    designation: Designation
    diameter_mm: Positive
    strength_class: str = Field(max_length=20)

    @model_validator(mode="after")
    def _known(self) -> Bolt:
        try:
            bolt_class(self.strength_class, self.diameter_mm)
        except InputError as error:
            raise ValueError(f"strength_class: {error.message}") from error
        return self


class Spacer(Row):
    """A spacer that stands each side of a ball, some through it to take a smaller bolt."""

    ball_bore_mm: Positive
    bolt_mm: Positive
    outside_mm: Positive
    height_mm: Positive
    tilt_gain_deg: NotNegative = 0.0


ROW_MODELS: dict[Table, type[Row]] = {
    "tubes": Tube, "grades": Grade, "joints": Joint, "inserts": Insert, "nuts": Nut, "bolts": Bolt, "spacers": Spacer,
}  # fmt: skip


class Catalogue(Document):
    """Rows by kind, in order of their keys' arrival."""

    tubes: tuple[Tube, ...] = ()
    grades: tuple[Grade, ...] = ()
    joints: tuple[Joint, ...] = ()
    inserts: tuple[Insert, ...] = ()
    nuts: tuple[Nut, ...] = ()
    bolts: tuple[Bolt, ...] = ()
    spacers: tuple[Spacer, ...] = ()

    def rows(self, kind: Table) -> tuple[Row, ...]:
        """All rows of a kind."""
        found: tuple[Row, ...] = getattr(self, kind)
        return found

    def find(self, kind: Table, key: str) -> Row | None:
        """A row by its key."""
        return next((row for row in self.rows(kind) if row.key == key), None)


# --- what fits what -------------------------------------------------------------------------------------------------
SLIP_FIT_MM = 0.5  # an insert may be this much smaller than the bore it is welded into; common practice, no source


SPACER_BORE_MM = 0.06  # a spacer's and a ball's bore may differ by this: inch sizes are listed rounded; common practice


BOLT_CLEARANCE_MM = 0.15  # a bolt may be this much smaller than the ball's bore; common practice, no source


def grade_comes_as(grade: Grade, tube: Tube) -> bool:
    """Whether the grade is drawn in this size."""
    series = "both" in (grade.series, tube.series) or grade.series == tube.series
    over = grade.wall_over_mm is None or tube.wall_mm > grade.wall_over_mm
    across = grade.od_to_mm is None or tube.od_mm <= grade.od_to_mm
    return series and over and across and (grade.wall_to_mm is None or tube.wall_mm <= grade.wall_to_mm)


def insert_fits_tube(insert: Insert, tube: Tube, grade: Grade) -> bool:
    """Insert slides into the bore with little play and can be welded to the tube's metal.

    Args:
        insert: turned to go in.
        tube: that it goes into.
        grade: the tube’s metal.
    """
    return 0 <= tube.bore_mm - insert.fit_diameter_mm <= SLIP_FIT_MM and insert.family == grade.family


def same_thread(one: str, other: str) -> bool:
    """Whether two designations are one thread."""
    a, b = parse_thread(one), parse_thread(other)
    return abs(a.major - b.major) < 1e-6 and abs(a.pitch - b.pitch) < 1e-6


def comes_in_hand(hands: str, hand: str) -> bool:
    """Whether a part is made in that hand."""
    return hand in hands.split()


def bolt_fits(bolt_mm: float, hole_mm: float) -> bool:
    """Bolt goes through the ball or spacer without slop."""
    return hole_mm - bolt_mm + 1e-9 >= 0 and hole_mm - bolt_mm <= BOLT_CLEARANCE_MM


def spacer_fits(spacer: Spacer, joint: Eye) -> bool:
    """Spacer is made for a ball of this bore."""
    return abs(spacer.ball_bore_mm - joint.bore_mm) <= SPACER_BORE_MM


def pin_hole(joint: Eye, spacer: Spacer | None) -> float:
    """Hole that the bolt goes through: the ball's, or the spacer's when one is fitted [mm]."""
    return spacer.bolt_mm if spacer else joint.bore_mm


# --- CSV ------------------------------------------------------------------------------------------------------------
MAX_CSV_ROWS = 5_000


def columns(kind: Table) -> list[str]:
    """Column names of a kind's CSV, in order: key and label first, source last."""
    names = [name for name in ROW_MODELS[kind].model_fields if name not in ("key", "label", "source")]
    return ["key", "label", *names, "source"]


def _cell(text: str, annotation: Any) -> Any:
    if annotation is not str and "float" in str(annotation):
        try:
            return float(text)
        except ValueError:
            return text
    return text


def read_csv(kind: Table, text: str) -> list[Row]:
    """Read rows of one kind; any column order; lines starting with # are comments.

    Raises:
        InputError: with `fields` naming every bad row by line and field ("line 7, wall_mm"), all at once; the messages
            stand in `value` in the same order.
    """
    faults: list[tuple[str, str]] = []
    found: list[Row] = []
    model = ROW_MODELS[kind]
    lines = text.removeprefix("\ufeff").splitlines(keepends=True)
    numbered = [(n, line) for n, line in enumerate(lines, 1) if line.strip() and not line.lstrip().startswith("#")]
    reader = csv.reader(io.StringIO("".join(line for _, line in numbered)), strict=True)
    seen: dict[str, int] = {}
    try:
        header = [name.strip() for name in next(reader, [])]
        unknown = [name for name in header if name not in model.model_fields]
        missing = [n for n, f in model.model_fields.items() if f.is_required() and n not in header]
        faults += [(f"line 1, {name or 'blank'}", "there is no such column; remove it") for name in unknown]
        faults += [(f"line 1, {name}", "this column is missing; add it") for name in missing]
        if len(set(header)) != len(header):
            faults.append(("line 1", "a column stands twice"))
        if faults:
            raise _csv_error(faults)
        for cells in reader:
            line = numbered[reader.line_num - 1][0]
            if len(found) >= MAX_CSV_ROWS:
                faults.append((f"line {line}", f"more than {MAX_CSV_ROWS} rows; split the file"))
                break
            if len(cells) != len(header):
                faults.append((f"line {line}", f"{len(cells)} cells under {len(header)} columns"))
                continue
            values = {
                name: _cell(plain_cell(cell.strip()), model.model_fields[name].annotation)
                for name, cell in zip(header, cells, strict=True)
                if cell.strip() or model.model_fields[name].is_required()
            }
            try:
                row = model.model_validate(values)
            except ValidationError as error:
                for fault in error.errors(include_url=False, include_input=False):
                    where = ".".join(str(p) for p in fault["loc"])
                    message = str(fault["msg"]).removeprefix("Value error, ")
                    faults.append((f"line {line}, {where}" if where else f"line {line}", message))
                continue
            if row.key in seen:
                faults.append((f"line {line}, key", f"the key stands on line {seen[row.key]} already"))
            seen[row.key] = line
            found.append(row)
    except csv.Error as error:
        faults.append((f"line {reader.line_num}", f"not readable as CSV: {error}"))
    if not faults and not found:
        faults.append(("line 1", "no rows; a header and at least one row are needed"))
    if faults:
        raise _csv_error(faults)
    return found


def _csv_error(faults: list[tuple[str, str]]) -> InputError:
    return InputError(
        f"Nothing was loaded: {len(faults)} fault{'s' if len(faults) > 1 else ''} in the file.",
        code="bad_rows",
        fields=tuple(where for where, _ in faults),
        value=[message for _, message in faults],
    )


def write_csv(kind: Table, rows: tuple[Row, ...]) -> str:
    """Rows as CSV with every column; reading it back gives the same rows."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    names = columns(kind)
    writer.writerow(names)
    for row in rows:
        data = row.model_dump()
        writer.writerow(["" if data[name] is None else _plain(data[name]) for name in names])
    return out.getvalue()


def _plain(value: Any) -> Any:
    if isinstance(value, float):
        return repr(value).removesuffix(".0")
    return safe_cell(value) if isinstance(value, str) else value
