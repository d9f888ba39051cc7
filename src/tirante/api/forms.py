"""What a person may set of a job beside its parts: forms as tables, and what each thing begins with."""

from __future__ import annotations

from typing import Any

from flask import Blueprint
from pydantic import BaseModel
from pydantic import Field as Described

from tirante.api.routing import operation
from tirante.core.checks.meaning import MEANING
from tirante.core.document.forms.job import BEGINS, FORMS
from tirante.core.document.forms.table import Field

blueprint = Blueprint("forms", __name__)


class FormsOut(BaseModel):
    """Every form by its name."""

    forms: dict[str, list[Field]]
    begins: dict[str, Any] = Described(description="what a thing holds when it is put in, by its form's name")


class MeaningsOut(BaseModel):
    """What checks look at, by their kind's key."""

    checks: dict[str, str]


@operation(blueprint, "GET", "/api/meanings", answer=MeaningsOut)
def list_meanings() -> MeaningsOut:
    """What each kind of check looks at, in a sentence."""
    return MeaningsOut(checks=MEANING)


@operation(blueprint, "GET", "/api/forms", answer=FormsOut)
def list_forms() -> FormsOut:
    """The forms of car, ends, load cases, settings and rack, drawn alike by any client."""
    return FormsOut(forms={name: list(fields) for name, fields in FORMS.items()}, begins=BEGINS)
