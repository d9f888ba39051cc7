"""Forms against the saved models that they are of: every path leads to a field, every choice is one that it takes, what is put in is whole."""

from typing import Any, Literal, get_args, get_origin

import pytest
from pydantic import BaseModel, TypeAdapter, ValidationError

from tests.conftest import ROOT
from tirante.core.document.car import Car
from tirante.core.document.design import TravelBox
from tirante.core.document.end import DamperEye, End
from tirante.core.document.forms.job import BEGINS, CAR, CASES, END, PARTS, RACK, SETTINGS
from tirante.core.document.forms.table import Field
from tirante.core.document.joints import HeldJoint
from tirante.core.document.load_cases import CarCase
from tirante.core.document.parts.bracket import ExtraHole
from tirante.core.document.parts.common import LoadCase, RodEndEnd
from tirante.core.document.parts.link import FlatEnd, Machined, Plug, Reducer, Sleeve
from tirante.core.document.parts.pad import PadHole
from tirante.core.document.rack import RackRow
from tirante.core.document.settings import Settings

NAMES = {
    "{end}": "front",
    "{side}": "a",
    "{place}": "damper/a",
    "{name}": "x",
    "{i}": "0",
    "{eye}": "eye_a",
    "{unit}": "damper",
}
BOX = {"travel", "roll", "steering arm", "rack"}
OF_PARTS = {
    "goes in": DamperEye,
    "eye": Machined,
    "clevis": Machined,
    "its metal": Machined,
    "flat end": FlatEnd,
    "let in": FlatEnd,
    "clevis let in": FlatEnd,
    "squashed": FlatEnd,
    "plug": Plug,
    "extra hole": ExtraHole,
    "pad hole": PadHole,
    "sleeve": Sleeve,
    "reducer": Reducer,
    "tapped": RodEndEnd,
    "seen": LoadCase,
    "shim": HeldJoint,
}
EVERY = [
    *((Car, form, field) for form, fields in CAR.items() for field in fields),
    *((TravelBox if form in BOX else End, form, field) for form, fields in END.items() for field in fields),
    *((Settings, form, field) for form, fields in SETTINGS.items() for field in fields),
    *((OF_PARTS[form], form, field) for form, fields in PARTS.items() for field in fields),
    *((RackRow, form, field) for form, fields in RACK.items() for field in fields),
    *((CarCase, form, field) for form, fields in CASES.items() for field in fields),
]  # fmt: skip


def taken(annotation: Any) -> list[Any]:
    """What an annotation is made of, through unions and what is wrapped round."""
    if get_origin(annotation) is Literal or annotation is None:
        return [annotation]
    found = [one for inner in get_args(annotation) for one in taken(inner)]
    return found or [annotation]


def at(model: type[BaseModel], path: str, form: str) -> Any:
    """The annotation at a path; of a list or a mapping that of what is in it."""
    annotation: Any = model
    for step in path.split("/"):
        models = [one for one in taken(annotation) if isinstance(one, type) and issubclass(one, BaseModel)]
        known = [one for one in models if step in one.model_fields and (not form or one.__name__.lower() == form)]
        known = known or [one for one in models if step in one.model_fields]
        if known:
            annotation = known[0].model_fields[step].annotation
        else:
            assert step in ("x", "0"), f"{path}: {step}"
    return annotation


@pytest.mark.parametrize(
    ("model", "form", "field"), EVERY, ids=lambda one: one.path if isinstance(one, Field) else None
)
def test_a_form_s_field_is_one_of_the_saved_model(model: type[BaseModel], form: str, field: Field) -> None:
    path = field.path
    for open_name, name in NAMES.items():
        path = path.replace(open_name, name)
    annotation = at(model, path, form)
    types = taken(annotation)
    if field.choices:
        assert sorted(one.value for one in field.choices) == sorted(
            value for one in types if get_origin(one) is Literal for value in get_args(one)
        )
    elif field.control in ("mm", "number", "whole"):
        assert {float, int} & set(types)
        assert (field.control == "mm") == (path.endswith("_mm") and "_per_" not in path)
    elif field.control in ("at", "direction"):
        assert types.count(float) == 3
    elif field.control == "switch":
        assert bool in types
    else:
        assert str in types
    # what may be left out may be absent in the model; nothing else may, but for what this form's own case or sheet must have
    if field.choices or field.control in ("mm", "number"):
        asked = form in ("snatch", "row of sheet", "tapped")
        assert field.optional == (type(None) in types) or (asked and not field.optional)


@pytest.mark.parametrize(
    ("end", "value", "least", "most"),
    [("wheel/camber_deg", -30.5, -30.0, 30.0), ("bump_stop/rate3_n_per_mm3", -1.0, 0.0, 1e6), ("wheel/width_mm", 600.5, 0.0, 600.0)],
)  # fmt: skip
def test_a_form_s_limits_are_those_that_the_saved_model_refuses_past(
    end: str, value: float, least: float, most: float
) -> None:
    field = next(field for fields in END.values() for field in fields if field.path == end)
    assert (field.least, field.most) == (least, most)
    adapter = TypeAdapter(at(End, "/".join(end.split("/")[:-1]), ""))
    whole = {
        "loaded_radius_mm": 300.0,
        "tip": {"body": "a", "point": "b"},
        "pad": {"body": "a", "point": "b"},
        "axis": [0.0, 0.0, 1.0],
    }
    kept = {name: one for name, one in whole.items() if (name == "loaded_radius_mm") == end.startswith("wheel")}
    with pytest.raises(ValidationError, match=r"greater|less"):
        adapter.validate_python({**kept, end.split("/")[-1]: value})


def test_what_is_put_in_is_taken_by_the_saved_model() -> None:
    place = {"body": "ground", "point": "here"}
    data = End.model_validate_json((ROOT / "data/ends/double-wishbone.json").read_text()).model_dump()
    data["wheel"]["rim"] = BEGINS["rim"]
    data |= {
        "damper": BEGINS["damper"] | {"a": place, "b": place, "eye_a": BEGINS["damper eye"]}, "bump_stop": BEGINS["stop"] | {"tip": place, "pad": place},
        "strap": BEGINS["strap"] | {"a": place, "b": place}, "links": {"x": BEGINS["link"] | {"a": BEGINS["joint"]}},
        "bushes": {"x": BEGINS["bush"]}, "balls": {"x": BEGINS["ball"]}, "sliders": {"x": BEGINS["slider"]},
        "shafts": {"x": BEGINS["shaft"] | {"inner": place, "outer": place}},
        "obstacles": [BEGINS["obstacle"] | {"name": shape, "shape": BEGINS[shape]} for shape in ("round", "block", "wall")],
        "misses": [BEGINS["miss"] | {"a": "x", "b": "y"}],
    }  # fmt: skip
    end = End.model_validate(data)
    assert [one.shape.kind for one in end.obstacles] == ["round", "block", "wall"]
    assert Car.model_validate({"corners": BEGINS["corners"]}).corners
    assert Settings.model_validate({"school": "exposure", "showing": BEGINS["showing"]}).showing
    row = BEGINS["row"] | {"id": "0190a0a0-0000-7000-8000-00000000000a", "stock": "a", "material": "b"}
    assert RackRow.model_validate(row).length_mm == 6000.0
    assert RackRow.model_validate(row | BEGINS["row of sheet"] | {"sort": "sheet"}).width_mm == 1000.0


@pytest.mark.parametrize("before", CASES)
@pytest.mark.parametrize("kind", CASES)
def test_a_case_becomes_one_of_any_other_kind(before: str, kind: str) -> None:
    case = BEGINS["case"] | BEGINS[f"case: {before}"] | {"kind": before}
    assert CarCase.model_validate(case).kind == before
    case |= BEGINS[f"case: {kind}"] | {"kind": kind}
    assert CarCase.model_validate(case).kind == kind
    if kind not in ("landing", "snatch"):  # nothing of the kind before is left that would not be seen
        assert (case["drop_mm"], case["speed_m_s"], case["stiffness_n_per_mm"]) == (None, None, None)
