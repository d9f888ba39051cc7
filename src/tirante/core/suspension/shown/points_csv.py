"""Points of an end as CSV or JSON. CSV: a header, any column order, the unit in the header (x_mm, x_in), lines with # are comments.

JSON: names with [x, y, z], or {"unit": "mm" or "in", "points": {…}}. What is written reads back to the same points, to
the last digit.
"""

from __future__ import annotations

import csv
import io
import json
from math import isfinite

from tirante.core.document.fields import Point
from tirante.core.errors import InputError
from tirante.core.units import INCH

AXES = ("x", "y", "z")


LARGEST = 100_000.0  # mm


MAX_ROWS = 500


def write_points(points: dict[str, Point]) -> str:
    """All points, in millimetres, by name in their order."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["point", "x_mm", "y_mm", "z_mm"])
    for name, (x, y, z) in points.items():
        writer.writerow([name, repr(float(x)), repr(float(y)), repr(float(z))])
    return out.getvalue()


def _columns(header: list[str]) -> tuple[dict[str, tuple[int, float]], list[tuple[str, str]]]:
    """Where each axis stands and its unit in mm; and what is wrong with the header."""
    found: dict[str, tuple[int, float]] = {}
    faults: list[tuple[str, str]] = []
    for i, cell in enumerate(header):
        name = cell.strip().lower()
        if name in ("point", "name"):
            if "point" in found:
                faults.append(("line 1", "the column of names stands twice"))
            found["point"] = (i, 1.0)
            continue
        axis, _, unit = name.partition("_")
        if axis not in AXES or unit not in ("mm", "in"):
            faults.append(
                (f"line 1, {cell.strip()[:40] or 'blank'}", "columns are point, x_mm, y_mm, z_mm (or x_in, y_in, z_in)")
            )
        elif axis in found:
            faults.append((f"line 1, {name}", f"{axis} stands twice"))
        else:
            found[axis] = (i, INCH if unit == "in" else 1.0)
    for name in ("point", *AXES):
        if name not in found and not faults:
            faults.append((f"line 1, {name}", f"the column {name if name == 'point' else name + '_mm'} is missing"))
    return found, faults


def read_points(text: str) -> dict[str, Point]:
    """Read points.

    Raises:
        InputError: code `bad_rows`, with `fields` naming every bad row by line and column and the messages in `value`.
    """
    text = text.removeprefix("\ufeff")
    if text.lstrip().startswith("{"):
        return _read_json(text)
    lines = text.splitlines()
    kept = [(n, line) for n, line in enumerate(lines, 1) if line.strip() and not line.lstrip().startswith("#")]
    faults: list[tuple[str, str]] = []
    points: dict[str, Point] = {}
    try:
        rows = list(csv.reader([line for _, line in kept], strict=True))
    except csv.Error as error:
        raise _refused([("line 1", f"not readable as CSV: {error}")]) from error
    if not rows:
        raise _refused([("line 1", "no rows; a header and at least one point are needed")])
    columns, faults = _columns(rows[0])
    if faults:
        raise _refused(faults)
    if len(rows) - 1 > MAX_ROWS or len(rows) != len(kept):
        raise _refused([("line 1", f"at most {MAX_ROWS} points, each on a line of its own")])
    for (line, _), cells in zip(kept[1:], rows[1:], strict=True):
        if len(cells) != len(rows[0]):
            faults.append((f"line {line}", f"{len(cells)} cells under {len(rows[0])} columns"))
            continue
        name = cells[columns["point"][0]].strip()
        place, wrong = _place(cells, columns)
        faults += [(f"line {line}, {axis}", message) for axis, message in wrong]
        if not name:
            faults.append((f"line {line}, point", "the point has no name"))
        elif name in points:
            faults.append((f"line {line}, point", f"“{name[:40]}” stands twice"))
        elif not wrong:
            points[name] = place
    if not faults and not points:
        faults.append(("line 1", "no points under the header"))
    if faults:
        raise _refused(faults)
    return points


def _read_json(text: str) -> dict[str, Point]:
    """Points from JSON, every fault by name and axis."""
    try:
        raw = json.loads(text)
    except (ValueError, RecursionError) as error:
        line = getattr(error, "lineno", 1)
        raise _refused([(f"line {line}", "this is not JSON from here on")]) from error
    unit = raw.get("unit", "mm") if isinstance(raw.get("points"), dict) else "mm"
    rows = raw["points"] if isinstance(raw.get("points"), dict) else raw
    faults: list[tuple[str, str]] = []
    if unit not in ("mm", "in"):
        faults.append(("unit", "the unit is mm or in"))
    scale = INCH if unit == "in" else 1.0
    points: dict[str, Point] = {}
    for name, place in list(rows.items())[: MAX_ROWS + 1]:
        where = name.strip()[:40]
        if not where:
            faults.append(("a point", "the point has no name"))
        if not isinstance(place, list) or len(place) != 3:
            faults.append((where, "a point is [x, y, z]"))
            continue
        values = []
        for axis, value in zip(AXES, place, strict=True):
            number = isinstance(value, int | float) and not isinstance(value, bool)
            if not number or not isfinite(value) or abs(value * scale) > LARGEST:
                faults.append((f"{where}, {axis}", f"“{str(value)[:20]}” is no place on a car"))
            else:
                values.append(float(value) * scale)
        if len(values) == 3:
            points[name.strip()] = (values[0], values[1], values[2])
    if len(rows) > MAX_ROWS:
        faults.append(("points", f"at most {MAX_ROWS} points"))
    if not faults and not points:
        faults.append(("points", "there are none"))
    if faults:
        raise _refused(faults)
    return points


def _place(cells: list[str], columns: dict[str, tuple[int, float]]) -> tuple[Point, list[tuple[str, str]]]:
    values, wrong = [], []
    for axis in AXES:
        i, unit = columns[axis]
        cell = cells[i].strip().replace("−", "-")
        try:
            value = float(cell) * unit
        except ValueError:
            wrong.append((axis, f"“{cell[:20]}” is not a number"))
            continue
        if not isfinite(value) or abs(value) > LARGEST:
            wrong.append((axis, f"“{cell[:20]}” is no place on a car"))
            continue
        values.append(value)
    return ((values[0], values[1], values[2]) if not wrong else (0.0, 0.0, 0.0)), wrong


def _refused(faults: list[tuple[str, str]]) -> InputError:
    return InputError(
        f"Nothing was read: {len(faults)} fault{'s' if len(faults) > 1 else ''} in the file.",
        code="bad_rows", fields=tuple(where for where, _ in faults), value=[message for _, message in faults],
    )  # fmt: skip
