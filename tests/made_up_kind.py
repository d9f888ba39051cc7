"""A kind of part that nobody ships: a drilled bar with a stop. What a newcomer writes to add one, and no more."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Annotated, Any, Literal

from pydantic import Field

from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult
from tirante.core.document.design import Design
from tirante.core.document.fields import Length, Positive
from tirante.core.document.forms.table import Field as FormField
from tirante.core.document.forms.table import FieldGroup, number
from tirante.core.document.parts.saved import SavedPart
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.parts.around import Around
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import (
    BoughtPiece,
    Card,
    CardLine,
    Figure,
    Jig,
    JigStation,
    Misfit,
    Part,
    PlatePiece,
    TubePiece,
    View,
)
from tirante.core.parts.registry import KINDS

ID = "00000000-0000-4000-8000-0000000000d0"
STOCK = "flat bar 40 × 8"


def saved_model() -> type[SavedPart]:
    class DrilledBar(SavedPart):
        """A bar with a stop's force on it."""

        kind: Literal["drilled_bar"] = "drilled_bar"
        length: Length
        force_n: Annotated[float, Field(ge=0, le=1e7)] = 0.0
        area_mm2: Positive = 320.0

    return DrilledBar


class DrilledBarKind(Kind[Any]):
    """Drilled bars."""

    key = "drilled_bar"
    word = "drilled bar"

    def __init__(self, saved: type[SavedPart]) -> None:
        self.saved = saved
        self.fields = (
            FieldGroup(title="The bar", fields=[
                FormField(path="length", label="Long, hole to hole", control="length"),
                number(saved, "force_n", "The stop’s force", "N"),
            ]),
        )  # fmt: skip

    def work_out(self, saved: Any, around: Around) -> Part:
        """A bar, its stop, and the one check there is of it."""
        common: dict[str, Any] = {
            "saved": saved,
            "word": self.word,
            "made_of": (STOCK, "S275"),
            "not_checked": ("its holes",),
        }
        if saved.length.mm < 50:
            return Part(
                **common, faults=(Misfit(field="length", message="A drilled bar shorter than 50 mm cannot be held."),)
            )
        kind = asked("joint", "bar", around.settings.factors)
        share = saved.force_n * kind.factor / 20_000.0
        check = CheckResult(
            key=kind.key, name=kind.name, part=kind.part, demand=saved.force_n * kind.factor, capacity=20_000.0, unit=kind.unit, utilisation=share,
            passed=share <= 1.0, case="the stop", factor=kind.factor, factor_name=kind.factor_name, formula=kind.formula, source=kind.source,
            reproduce=None,
        )  # fmt: skip
        return Part(
            **common, checks=(check,), mass=0.00785 * saved.length.mm * saved.area_mm2 / 1000, own_mirror=False,
            pieces=(
                TubePiece(name="", tube=STOCK, tube_key="bar", grade="S275", grade_key="s275", length=saved.length.mm + 40),
                PlatePiece(name="stop plate", material="S275", thickness=6.0, length=40.0, width=30.0),
                BoughtPiece(sort="bolt", what="set screw M8", count=3),
            ),
            views=(View(name="drawing", title="from above"), View(name="rail", title="on its rail")),
            card=Card(figures=(Figure(label="Drill at", mm=saved.length.mm),), lines=(CardLine(text="deburr both holes", strong=True),)),
            jig=Jig(view="rail", stations=(JigStation(name="pin", ordinate=0.0, what="datum"),), set_length=saved.length.mm,
                    check_length=saved.length.mm, tolerance=0.2, steps=("Clamp the drilled bar.",)),
            welding=("Nothing is welded on a drilled bar.",),
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """A rectangle with its length."""
        sheet = Sheet(name=asked.name, title=part.name, width=100, height=50, numbers=numbers)
        sheet.box((10, 20), (90, 30), "steel", ref="field:length")
        sheet.text((50, 35), numbers.main(part.saved.length.mm), 3.0, "middle", ref="field:length")  # type: ignore[attr-defined]
        return sheet.done()


def bar(length: float = 300.0, force: float = 9_900.0) -> dict[str, Any]:
    return {"kind": "drilled_bar", "id": ID, "name": "Stop bar", "side": "pair", "note": "",
            "length": {"mm": length, "typed": None}, "force_n": force, "area_mm2": 320.0}  # fmt: skip


@contextmanager
def registered() -> Iterator[DrilledBarKind]:
    """The kind as its one line in the registry would have it, for as long as a test runs."""
    kind = DrilledBarKind(saved_model())
    KINDS[kind.key] = kind
    try:
        yield kind
    finally:
        del KINDS[kind.key], SavedPart.KINDS[kind.key]


def with_bar(design: Design, **more: Any) -> Design:
    made = SavedPart.KINDS["drilled_bar"].model_validate(bar(**more))
    return design.model_copy(update={"parts": (*design.parts, made)})
