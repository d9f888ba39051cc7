"""What a job asks to be bought, with what the shop has, what is known to cost what, and two suppliers' lists side by side."""

from __future__ import annotations

import csv
import io
from typing import Annotated

from flask import Blueprint, Response
from pydantic import BaseModel, Field

from tirante.api.context import attached, services, worked
from tirante.api.designs import DesignIn
from tirante.api.routing import operation
from tirante.core.cells import safe_cell
from tirante.core.cutting.order import OrderLine, not_ordered, offer_of, order_of, read_prices
from tirante.core.document.fields import Id
from tirante.core.job.of_end import is_of
from tirante.documents.pack import file_name
from tirante.storage import rack

blueprint = Blueprint("order", __name__)


class OrderIn(DesignIn):
    """A job, and of what of it is to be ordered."""

    parts: Annotated[list[Id] | None, Field(min_length=1, max_length=600, description="none: all")] = None
    end_id: Annotated[Id | None, Field(description="the parts of that end alone")] = None
    spares: Annotated[int, Field(ge=0, le=100, description="of every bought piece so many more")] = 0
    suppliers: Annotated[
        list[Annotated[str, Field(max_length=400_000)]], Field(max_length=2, description="their lists, CSV")
    ] = []  # noqa: RUF012 - pydantic copies it


class OrderLineOut(BaseModel):
    """Something to be bought."""

    sort: str
    what: str
    hand: str
    count: float
    unit: str
    told: str
    there: str
    each: float | None = Field(description="the catalogue's price; null: not known")
    cost: float | None
    offers: list[float | None] = Field(description="of each supplier, for one or for a unit; null: not on the list")


class OfferOut(BaseModel):
    """What a supplier asks for what is on the list."""

    total: float
    missing: int


class OrderOut(BaseModel):
    """All of it."""

    lines: list[OrderLineOut]
    cost: float = Field(description="of the lines whose price is known")
    unknown: int = Field(description="lines whose price is not known")
    offers: list[OfferOut]
    left_out: list[str] = Field(description="parts that are not complete, and why")
    not_counted: list[str] = Field(description="what is needed and stands on no line")


def _lines(data: OrderIn) -> tuple[tuple[OrderLine, ...], list[str], list[str]]:
    job = worked(data.design)
    with services().database.transaction() as connection:
        rows = [row for row, _ in rack.rows(connection)]
    with services().gate_of(job).enter():
        parts = [
            part for part in job.parts
            if (data.parts is None or part.id in data.parts) and (data.end_id is None or is_of(job, part.saved, data.end_id))
        ]  # fmt: skip
    left_out = [f"{part.name}: {part.faults[0].message}" for part in parts if not part.complete]
    return order_of(parts, job.catalogue, rows, data.spares, job.settings), left_out, list(not_ordered(parts))


@operation(blueprint, "POST", "/api/order", body=OrderIn, answer=OrderOut)
def order(data: OrderIn) -> OrderOut:
    """What is to be bought, and two suppliers' lists beside it."""
    lines, left_out, not_counted = _lines(data)
    offers = [offer_of(lines, read_prices(text, f"suppliers.{i}")) for i, text in enumerate(data.suppliers)]
    return OrderOut(
        lines=[
            OrderLineOut(
                sort=one.sort, what=one.what, hand=one.hand, count=one.count, unit=one.unit, told=one.told, there=one.there, each=one.each, cost=one.cost,
                offers=[offer.prices[i] for offer in offers],
            )
            for i, one in enumerate(lines)
        ],
        cost=sum(one.cost for one in lines if one.cost is not None), unknown=sum(one.cost is None for one in lines),
        offers=[OfferOut(total=one.total, missing=one.missing) for one in offers], left_out=left_out, not_counted=not_counted
    )  # fmt: skip


@operation(blueprint, "POST", "/api/order.csv", body=OrderIn, media="text/csv")
def order_csv(data: OrderIn) -> Response:
    """The order as a supplier is sent it: what, hand, how many, and an empty price to be filled in."""
    lines, left_out, not_counted = _lines(data)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["what", "hand", "count", "unit", "price", "remark"])
    for one in lines:
        writer.writerow(
            [
                safe_cell(one.what),
                one.hand,
                f"{one.count:.3f}" if one.unit else f"{one.count:.0f}" if one.count else "as needed",
                one.unit,
                "",
                safe_cell(one.told),
            ]
        )
    for told in left_out:
        writer.writerow(["", "", "", "", "", safe_cell(f"left out: {told}")])
    for told in not_counted:
        writer.writerow(["", "", "", "", "", safe_cell(f"not counted: {told}")])
    return attached(out.getvalue(), "text/csv", f"{file_name(data.design.name)}-order.csv")
