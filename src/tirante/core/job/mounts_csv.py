"""Members of the car as CSV, written and read to the last digit; and taken over from the things to clear of the job's ends.

Columns, in any order: name, kind (round, box, flat), ax ay az, bx by bz, od, width, height, wall, each with _mm or _in; ux, uy, uz (the way of
a box's height, of a flat the way it faces), both_sides (yes, no), end and body (empty: the chassis). Lines with # are comments. Of a flat
a is a place of its face.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping, Sequence
from math import isfinite
from typing import Any

from pydantic import ValidationError

from tirante.core.document.design import Design, SuspensionEnd
from tirante.core.document.end import Block, Round
from tirante.core.document.mounts import BoxMember, FlatMember, Mount, RoundMember
from tirante.core.errors import InputError
from tirante.core.units import INCH

LENGTHS = ("ax", "ay", "az", "bx", "by", "bz", "od", "width", "height", "wall")
PLAIN = ("name", "kind", "ux", "uy", "uz", "both_sides", "end", "body")
MAX_ROWS = 200
_HEADER = [*PLAIN[:2], *(f"{name}_mm" for name in LENGTHS), *PLAIN[2:]]


def write_mounts(design: Design) -> str:
    """All members, in millimetres.

    Args:
        design: of the job.
    """
    names = {one.id: one.name for one in design.ends}
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_HEADER)
    for mount in design.mounts:
        shape = mount.shape
        row: dict[str, Any] = {
            "name": mount.name,
            "kind": shape.kind,
            "both_sides": "yes" if mount.both_sides else "no",
        }
        row |= {
            "end": names.get(mount.end_id or "", ""),
            "body": "" if mount.end_id is None else mount.body,
            "wall_mm": shape.wall_mm,
        }
        if isinstance(shape, FlatMember):
            row |= dict(
                zip(("ax_mm", "ay_mm", "az_mm", "ux", "uy", "uz"), (*shape.through, *shape.normal), strict=True)
            )
        else:
            row |= dict(zip(("ax_mm", "ay_mm", "az_mm", "bx_mm", "by_mm", "bz_mm"), (*shape.a, *shape.b), strict=True))
        if isinstance(shape, RoundMember):
            row["od_mm"] = shape.od_mm
        if isinstance(shape, BoxMember):
            row |= {"width_mm": shape.width_mm, "height_mm": shape.height_mm} | dict(
                zip(("ux", "uy", "uz"), shape.up, strict=True)
            )
        writer.writerow([_cell(row.get(name)) for name in _HEADER])
    return out.getvalue()


def _cell(value: Any) -> str:
    return "" if value is None else repr(value) if isinstance(value, float) else str(value)


def read_mounts(text: str, ends: Sequence[SuspensionEnd], ids: Sequence[str]) -> tuple[Mount, ...]:
    """Members from CSV.

    Args:
        text: of the file.
        ends: of the job, for those on a body of one.
        ids: made by the client, one a member.

    Raises:
        InputError: code `bad_rows`, every bad row by line and column.
    """
    lines = [
        (n, line)
        for n, line in enumerate(text.removeprefix("\ufeff").splitlines(), 1)
        if line.strip() and not line.lstrip().startswith("#")
    ]
    try:
        rows = list(csv.reader([line for _, line in lines], strict=True))
    except csv.Error as error:
        raise _refused([("line 1", f"not readable as CSV: {error}")]) from error
    if not rows:
        raise _refused([("line 1", "nothing stands in it")])
    columns, faults = _columns(rows[0], lines[0][0])
    if not faults and not {"name", "kind"} <= set(columns):
        faults.append((f"line {lines[0][0]}", "the columns name and kind are needed"))
    if len(rows) - 1 > min(MAX_ROWS, len(ids)):
        faults.append((f"line {lines[0][0]}", f"at most {min(MAX_ROWS, len(ids))} mounts at once"))
    if faults:
        raise _refused(faults)
    by_name = {one.name.strip().lower(): one.id for one in ends}
    found: list[Mount] = []
    for (n, _), row, own in zip(lines[1:], rows[1:], ids, strict=False):
        cells, wrong = _read_row(row, columns, n)
        faults += wrong
        if wrong:
            continue
        try:
            found.append(_mount(cells, own, by_name))
        except (ValidationError, InputError) as error:
            message = error.message if isinstance(error, InputError) else _plainly(error)
            faults.append((f"line {n}", message))
    if faults:
        raise _refused(faults)
    return tuple(found)


def _columns(header: Sequence[str], line: int) -> tuple[dict[str, tuple[int, float]], list[tuple[str, str]]]:
    found: dict[str, tuple[int, float]] = {}
    faults: list[tuple[str, str]] = []
    for i, cell in enumerate(header):
        name = cell.strip().lower()
        stem, _, unit = name.rpartition("_")
        if name in PLAIN:
            key, scale = name, 1.0
        elif stem in LENGTHS and unit in ("mm", "in"):
            key, scale = stem, INCH if unit == "in" else 1.0
        else:
            faults.append(
                (
                    f"line {line}, {cell.strip()[:40] or 'blank'}",
                    f"there is no such column; they are {', '.join(_HEADER)} (or _in for _mm)",
                )
            )
            continue
        if key in found:
            faults.append((f"line {line}, {name}", "this column stands twice"))
        found[key] = (i, scale)
    return found, faults


def _read_row(
    row: Sequence[str], columns: Mapping[str, tuple[int, float]], line: int
) -> tuple[dict[str, Any], list[tuple[str, str]]]:
    cells: dict[str, Any] = {}
    faults = []
    for name, (i, scale) in columns.items():
        text = row[i].strip() if i < len(row) else ""
        if name in ("name", "kind", "end", "body"):
            cells[name] = text
        elif name == "both_sides":
            if text.lower() not in ("", "yes", "no"):
                faults.append((f"line {line}, both_sides", f"“{text[:20]}” is neither yes nor no"))
            cells[name] = text.lower() != "no"
        elif text:
            try:
                value = float(text)
            except ValueError:
                value = float("nan")
            if not isfinite(value):
                faults.append((f"line {line}, {name}", f"“{text[:20]}” is no number"))
                continue
            cells[name] = value * scale
    return cells, faults


def _mount(cells: Mapping[str, Any], own: str, ends: Mapping[str, str]) -> Mount:
    def three(names: str, default: tuple[float, float, float] | None = None) -> tuple[float, float, float]:
        keys = names.split()
        lacking = [key for key in keys if key not in cells]
        if lacking and (default is None or len(lacking) < 3):
            raise InputError(f"{', '.join(lacking)} is missing", fields=tuple(lacking))
        if default is not None and lacking:
            return default
        x, y, z = (float(cells[key]) for key in keys)
        return x, y, z

    def one(name: str) -> float:
        if name not in cells:
            raise InputError(f"{name} is missing", fields=(name,))
        return float(cells[name])

    end, body = cells.get("end", ""), cells.get("body", "")
    if bool(end) != bool(body):
        raise InputError("end and body go together: both, or neither for the chassis", fields=("end",))
    if end and end.lower() not in ends:
        raise InputError(f"there is no end “{end[:40]}” in this job", fields=("end",))
    kind, wall = cells.get("kind", "").lower(), cells.get("wall")
    shape: RoundMember | BoxMember | FlatMember
    if kind == "round":
        shape = RoundMember(a=three("ax ay az"), b=three("bx by bz"), od_mm=one("od"), wall_mm=wall)
    elif kind == "box":
        shape = BoxMember(
            a=three("ax ay az"), b=three("bx by bz"), up=three("ux uy uz", (0.0, 0.0, 1.0)), width_mm=one("width"), height_mm=one("height"), wall_mm=wall,
        )  # fmt: skip
    elif kind == "flat":
        shape = FlatMember(through=three("ax ay az"), normal=three("ux uy uz"), wall_mm=wall)
    else:
        raise InputError(f"kind “{kind[:20]}” is none of round, box, flat", fields=("kind",))
    return Mount(
        id=own, name=cells.get("name", ""), shape=shape, end_id=ends[end.lower()] if end else None, body=body or "ground",
        both_sides=cells.get("both_sides", True),
    )  # fmt: skip


def _plainly(error: ValidationError) -> str:
    first = error.errors()[0]
    where = "_".join(str(part) for part in first["loc"][-1:]) if first["loc"] else ""
    text = str(first["msg"]).removeprefix("Value error, ")
    return f"{where}: {text}" if where else text


def _refused(faults: Sequence[tuple[str, str]]) -> InputError:
    return InputError(
        f"{len(faults)} {'thing is' if len(faults) == 1 else 'things are'} wrong in this list; nothing was taken: {faults[0][0]}: {faults[0][1]}",
        code="bad_rows", fields=tuple(where for where, _ in faults), value=tuple(message for _, message in faults),
    )  # fmt: skip


# --- from what is there already -----------------------------------------------------------------------------------------------


def mounts_of_obstacles(design: Design, ids: Sequence[str]) -> tuple[Mount, ...]:
    """The things to clear of the job's ends that stand still on the chassis, as members that brackets may stand on; those of a name that is there already left out.

    Of a block each face stands by itself, its corners not: what looks to the nearer pivots is taken as a box along its longest side.

    Args:
        design: of the job.
        ids: made by the client.
    """
    left = iter(ids)
    known = {one.name for one in design.mounts}
    found: list[Mount] = []
    for end in design.ends:
        for one in end.end.obstacles:
            name = one.name
            if one.body != "ground" or name in known:
                continue
            own = next(left, None)
            if own is None:
                return tuple(found)
            known.add(name)
            found.append(Mount(id=own, name=name, shape=_shape(one.shape), both_sides=one.both_sides))
    return tuple(found)


def _shape(shape: Any) -> RoundMember | BoxMember | FlatMember:
    if isinstance(shape, Round):
        return RoundMember(a=shape.a, b=shape.b, od_mm=2 * shape.radius_mm)
    if not isinstance(shape, Block):
        return FlatMember(through=shape.through, normal=shape.normal)
    size = [high - low for low, high in zip(shape.low, shape.high, strict=True)]
    middle = [(high + low) / 2 for low, high in zip(shape.low, shape.high, strict=True)]
    run = max((0, 1, 2), key=lambda i: (size[i], -i))
    up = 2 if run != 2 else 0
    across = 3 - run - up
    a, b = list(middle), list(middle)
    a[run], b[run] = shape.high[run], shape.low[run]
    way = [0.0, 0.0, 0.0]
    way[up] = 1.0
    return BoxMember(a=tuple(a), b=tuple(b), up=tuple(way), width_mm=size[across], height_mm=size[up])  # type: ignore[arg-type]
