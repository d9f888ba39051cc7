"""The shop's catalogue: to read, to take away as CSV, to add to by CSV."""

from __future__ import annotations

from typing import get_args

from flask import Blueprint, Response
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import services, shop_catalogue
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.catalogue import Catalogue, Table, read_csv, write_csv
from tirante.storage.catalogue import put_rows

blueprint = Blueprint("catalogue", __name__)


class CsvIn(BaseModel):
    """A file's text."""

    model_config = ConfigDict(extra="forbid", strict=True)
    text: str = Field(max_length=900_000)


class LoadedOut(BaseModel):
    """What a file brought."""

    added: int
    replaced: int


def _kind(text: str) -> Table:
    if text not in get_args(Table):
        raise Refused(404, "unknown_kind", f"Parts come as {', '.join(get_args(Table))}.", "kind")
    return text  # type: ignore[return-value]


@operation(blueprint, "GET", "/api/catalogue", answer=Catalogue)
def get_catalogue() -> Catalogue:
    """Every row."""
    return shop_catalogue()


@operation(blueprint, "GET", "/api/catalogue/<kind>.csv", media="text/csv")
def get_catalogue_csv(kind: str) -> Response:
    """Rows of a kind as CSV; loading it back gives the same rows."""
    known = _kind(kind)
    response = Response(write_csv(known, shop_catalogue().rows(known)), mimetype="text/csv")
    response.headers["Content-Disposition"] = f'attachment; filename="{known}.csv"'
    return response


@operation(blueprint, "POST", "/api/catalogue/<kind>", body=CsvIn, answer=LoadedOut)
def load_catalogue_csv(kind: str, data: CsvIn) -> LoadedOut:
    """Add rows from CSV: all of them, or none with every fault by line and field."""
    known = _kind(kind)
    rows = read_csv(known, data.text)
    with services().database.transaction() as connection:
        added, replaced = put_rows(connection, known, rows, "shop")
    return LoadedOut(added=added, replaced=replaced)
