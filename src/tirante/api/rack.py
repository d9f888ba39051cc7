"""The shop's rack: what stands there and where. Nothing is cut from it here yet."""

from __future__ import annotations

from typing import Annotated

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import now, services
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.rack import RackRow
from tirante.storage import rack

blueprint = Blueprint("rack", __name__)

Version = Annotated[int, Field(ge=0, le=1_000_000_000)]


class RackRowIn(BaseModel):
    """A row as it is to be, and the version that it was changed from; 0 for a new one."""

    model_config = ConfigDict(extra="forbid", strict=True)
    row: RackRow
    version: Version


class RemoveIn(BaseModel):
    """The version that was seen."""

    model_config = ConfigDict(extra="forbid", strict=True)
    version: Version


class RackRowOut(BaseModel):
    """A row with its version."""

    row: RackRow
    version: int


class RackOut(BaseModel):
    """All of it."""

    rows: list[RackRowOut]


def _all() -> RackOut:
    with services().database.transaction() as connection:
        return RackOut(rows=[RackRowOut(row=row, version=version) for row, version in rack.rows(connection)])


def _changed() -> Refused:
    return Refused(
        409, "changed", "Somebody changed this row meanwhile. Look at it as it is now, and change it again.", "version"
    )


@operation(blueprint, "GET", "/api/rack", answer=RackOut)
def get_rack() -> RackOut:
    """What stands on the rack."""
    return _all()


@operation(blueprint, "POST", "/api/rack", body=RackRowIn, answer=RackOut)
def put_row(data: RackRowIn) -> RackOut:
    """Add or change a row."""
    try:
        with services().database.transaction() as connection:
            rack.put(connection, data.row, data.version, now())
    except rack.Changed as error:
        raise _changed() from error
    return _all()


@operation(blueprint, "POST", "/api/rack/<row_id>/remove", body=RemoveIn, answer=RackOut)
def remove_row(row_id: str, data: RemoveIn) -> RackOut:
    """Take a row away."""
    try:
        with services().database.transaction() as connection:
            rack.remove(connection, row_id, data.version)
    except rack.Changed as error:
        raise _changed() from error
    return _all()
