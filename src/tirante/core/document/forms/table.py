"""What a person may set, as a table that any client draws its form from: labels, units, limits, choices and defaults.

Limits and defaults are read from the saved model, where they are said once.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict
from pydantic.fields import FieldInfo
from pydantic_core import PydanticUndefined

Control = Literal[
    "text", "note", "length", "mm", "number", "whole", "choice", "row", "switch", "direction", "at", "special"
]


class _Told(BaseModel):
    model_config = ConfigDict(frozen=True)


class FieldChoice(_Told):
    """One of a few."""

    value: str
    label: str
    why: str = ""


class Field(_Told):
    """A field of something saved.

    `path` leads to it with slashes ("stud/diameter_mm"), and may hold a name in braces that the client puts in ("links/{name}/od_mm"). `control`: how it is typed; "length" keeps what was typed, "mm" is plain
    millimetres, "row" is chosen from the part's offers; "special" is drawn by the page's own control of that name for what no plain
    one does (pivots, load cases). `only`: shown only while another field has that value ("pivots=rod ends").
    """

    path: str
    label: str
    control: Control
    unit: str = ""
    table: str = (
        ""  # of the catalogue, for rows; for a choice, what of an end it is taken from: bodies, points, links, parts
    )
    optional: bool = False
    empty: str = ""  # what stands there while nothing is given, or why nothing is offered
    choices: list[FieldChoice] = []
    least: float | None = None
    most: float | None = None
    above: bool = False  # whether the least itself is not taken
    usual: tuple[float, float] | None = None  # outside it a value is asked about and taken; common practice, no source
    only: str = ""
    note: str = ""


class FieldGroup(_Told):
    """Fields that belong together, under a heading; with `of`, of an object that may be absent and is given by a switch."""

    title: str
    fields: list[Field]
    note: str = ""
    of: str = ""  # path of the object
    switch: str = ""  # words beside its switch
    folded: bool = False


def limits_of(model: type[BaseModel], path: str) -> tuple[float | None, float | None]:
    """Least and most that a saved model takes for a number at a path; None where it has no limit.

    Args:
        model: saved.
        path: with slashes.
    """
    field = _find(model, path)
    least = most = None
    for one in _metadata([*field.metadata, field.annotation]):
        least = next((limit for name in ("ge", "gt") if (limit := getattr(one, name, None)) is not None), least)
        most = next((limit for name in ("le", "lt") if (limit := getattr(one, name, None)) is not None), most)
    return least, most


def _is_above(model: type[BaseModel], path: str) -> bool:
    field = _find(model, path)
    return any(getattr(one, "gt", None) is not None for one in _metadata([*field.metadata, field.annotation]))


def _metadata(found: Iterable[Any]) -> Iterator[Any]:
    """All that is said of a type beside what it is, through what it is wrapped in."""
    for one in found:
        yield one
        if isinstance(one, FieldInfo):
            yield from _metadata(one.metadata)
        yield from _metadata(getattr(one, "__metadata__", ()))
        if not isinstance(one, type):
            yield from _metadata(getattr(one, "__args__", ()))


def default_of(model: type[BaseModel], path: str) -> Any:
    """What a saved model takes where nothing is given; None where it must be given."""
    default = _find(model, path).get_default()
    return None if default is PydanticUndefined else default


def _find(model: type[BaseModel], path: str) -> Any:
    *way, last = path.split("/")
    for name in way:
        model = _inner(model.model_fields[name].annotation)
    return model.model_fields[last]


def _inner(annotation: Any) -> type[BaseModel]:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    for one in getattr(annotation, "__args__", ()):
        try:
            return _inner(one)
        except LookupError:
            continue
    raise LookupError(annotation)


def number(
    model: type[BaseModel], path: str, label: str, unit: str = "", *, at: str = "", **more: Any
) -> Field:  # fmt: skip
    """A number with its model's limits.

    Args:
        model: saved.
        path: of the field.
        label: beside it.
        unit: behind it.
        at: where in the part the model stands, with a slash at its end.
        more: other columns.
    """
    least, most = limits_of(model, path)
    control: Control = "mm" if unit == "mm" else "whole" if _find(model, path).annotation is int else "number"
    return Field(
        path=f"{at}{path}",
        label=label,
        control=control,
        unit=unit,
        least=least,
        most=most,
        above=_is_above(model, path),
        **more,
    )


def choice(path: str, label: str, values: Iterable[str | tuple[str, str]], **more: Any) -> Field:
    """One of a few.

    Args:
        path: of the field.
        label: beside it.
        values: each by itself, or with its words.
        more: other columns.
    """
    choices = [
        FieldChoice(value=v, label=v) if isinstance(v, str) else FieldChoice(value=v[0], label=v[1]) for v in values
    ]
    return Field(path=path, label=label, control="choice", choices=choices, **more)


def text(path: str, label: str) -> Field:
    """A line of text."""
    return Field(path=path, label=label, control="text")


def direction(path: str, label: str) -> Field:
    """A direction in the car's axes."""
    return Field(path=path, label=label, control="direction")


def of_end(table: str, path: str, label: str, *, optional: bool = False, empty: str = "") -> Field:
    """One of what an end has.

    Args:
        table: bodies, points, links or parts.
        path: of the field.
        label: said beside it.
        optional: whether none may be chosen.
        empty: what is said then.
    """
    return Field(path=path, label=label, control="choice", table=table, optional=optional, empty=empty)


def place(path: str, label: str) -> Field:
    """A place in the car's axes."""
    return Field(path=path, label=label, control="at")


def switch(path: str, label: str, only: str = "") -> Field:
    """Yes or no.

    Args:
        path: of the field.
        label: beside it.
        only: the choice that it belongs to; empty: always.
    """
    return Field(path=path, label=label, control="switch", only=only)


def special(path: str, label: str = "", **more: Any) -> Field:
    """What the page draws with a control of its own.

    Args:
        path: of the field; the control goes by it.
        label: beside it.
        more: other columns.
    """
    return Field(path=path, label=label, control="special", **more)
