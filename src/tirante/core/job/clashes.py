"""What two people did to one job, field by field and in words: what both changed otherwise, and what each changed alone."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from tirante.core.document.design import Design
from tirante.core.document.forms.job import FORMS
from tirante.core.document.forms.table import Field
from tirante.core.document.joints import PointOfBody
from tirante.core.document.merge import GONE, Clash, Way
from tirante.core.parts.registry import KINDS


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """A field that differs, in words."""

    key: str
    of: str  # whose field it is: a part, an end, a load case, the job
    field: str
    base: str
    mine: str
    theirs: str


def clash_told(clash: Clash, designs: Sequence[Design]) -> Told:
    """A clash as a person reads it.

    Args:
        clash: of two drafts.
        designs: what both grew from, then the two: names are found in the first that has them.
    """
    field = _field_of(clash.way, designs)
    say = [_said(value, field, designs) for value in (clash.base, clash.mine, clash.theirs)]
    return Told(
        key=clash.key, of=whose(clash.way, designs), field=_label(clash.way, field), base=say[0], mine=say[1], theirs=say[2],
    )  # fmt: skip


def way_told(way: Way, designs: Sequence[Design]) -> str:
    """What one of them changed, in a few words: whose field, and which.

    Args:
        way: from the design down to the field.
        designs: where names are found, the first that has them.
    """
    label = _label(way, _field_of(way, designs))
    of = whose(way, designs)
    return f"{of}: {label}" if label else of


def whose(way: Way, designs: Sequence[Design]) -> str:
    """Whose field it is, by name.

    Args:
        way: from the design down to the field.
        designs: where names are found, the first that has them.
    """
    first, second = way[0], way[1] if len(way) > 1 else ""
    for design in designs:
        if first == "parts" and (part := design.part(second)):
            return part.name
        if first == "ends" and (end := design.end(second)):
            return end.name
        joint = next((one for one in design.joints if first == "joints" and one.id == second), None)
        if joint is not None:
            at = joint.held
            name = design.end(at.end_id) if isinstance(at, PointOfBody) else design.part(at.part)
            return f"the joint of {name.name}" if name else "a joint"
    if first == "loads":
        return f"load case “{way[2]}”" if len(way) > 2 else "the load cases"
    return {"car": "the car", "settings": "the job’s settings", "catalogue": "the rows that the job holds"}.get(
        first, "the job"
    )


def _tails(way: Way) -> Iterator[str]:
    for start in range(1, min(len(way), 4)):
        yield "/".join(way[start:])


def _field_of(way: Way, designs: Sequence[Design]) -> Field | None:
    """The form's field that a way leads to; None where no form has it."""
    if way[0] == "parts" and len(way) > 2:
        part = next((found for design in designs if (found := design.part(way[1]))), None)
        groups = KINDS[part.kind].fields if part else ()
        # under its group's heading, since "size" alone says little
        fields = [
            field.model_copy(update={"label": f"{group.title}, {field.label.lower()}" if group.title and field.label else field.label})
            for group in groups for field in group.fields
        ]  # fmt: skip
    else:
        fields = [field for form in FORMS.values() for field in form]
    for tail in _tails(way):
        leads = next((field for field in fields if _leads(field.path, tail)), None)
        if leads is not None:
            return leads
    return None


def _leads(path: str, tail: str) -> bool:
    pattern = "".join("[^/]+" if piece.startswith("{") else re.escape(piece) for piece in re.split(r"(\{\w+\})", path))
    return re.fullmatch(pattern, tail) is not None


def _label(way: Way, field: Field | None) -> str:
    if "points" in way or "right_points" in way:
        right = ", right" if "right_points" in way else ""
        return f"{way[-1].replace('_', ' ')}{right}".capitalize()
    if field is not None and field.label:
        return field.label
    if way[0] in ("parts", "ends", "joints") and len(way) == 2:
        return ""
    if way[0] == "loads" and len(way) == 3:
        return ""
    names = [re.sub(r"_(mm|kg|n|deg|mpa)$", "", name).replace("_", " ") for name in way[2:] or way[-1:]]
    return " › ".join(names).capitalize()


def _said(value: Any, field: Field | None, designs: Sequence[Design]) -> str:
    if value is GONE:
        return "not there"
    if value is None:
        return "none"
    if isinstance(value, bool):
        return "yes" if value else "no"
    unit = f" {field.unit}" if field is not None and field.unit else ""
    if isinstance(value, int | float):
        return f"{value:g}{unit}"
    if isinstance(value, str):
        return _word(value, field, designs)
    if isinstance(value, Mapping):
        return _object(value, field, designs)
    if all(isinstance(one, int | float) for one in value) and value:
        return ", ".join(f"{one:g}" for one in value) + (
            " mm" if len(value) == 3 and max(map(abs, value)) > 1.0 else ""
        )
    return f"{len(value)} of them" if value else "none"


def _word(value: str, field: Field | None, designs: Sequence[Design]) -> str:
    choices = field.choices if field is not None else []
    label = next((one.label for one in choices if one.value == value), None)
    if label is not None:
        return label
    for design in designs:
        for table in type(design.catalogue).model_fields:
            row = design.catalogue.find(table, value)  # type: ignore[arg-type]
            if row is not None:
                return row.label
    part = next((found for design in designs if (found := design.part(value))), None)
    return part.name if part else value or "nothing"


def _object(value: Mapping[str, Any], field: Field | None, designs: Sequence[Design]) -> str:
    if "typed" in value:
        return str(value["typed"] or f"{value['mm']:g} mm")
    if "name" in value:
        return str(value["name"])
    inside = [
        f"{name.replace('_', ' ')} {_said(one, None, designs)}"
        for name, one in value.items()
        if name != "kind" and one is not None
    ]
    return ", ".join(inside) or "nothing"
