"""The shop's rack: what stands there and where. A layout that is cut takes from it (`sawing`)."""

from __future__ import annotations

from typing import Annotated

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import now, services, shop_catalogue
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.document.rack import RackRow, tubes_on
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


class RackTubesOut(BaseModel):
    """Which sizes stand on the rack."""

    tubes: list[str] = Field(description="keys of the catalogue")
    unknown: list[str] = Field(description="tubes by a name that the catalogue does not have")


@operation(blueprint, "GET", "/api/rack/tubes", answer=RackTubesOut)
def tubes_of_rack() -> RackTubesOut:
    """The sizes that there are lengths of, for a search of those alone."""
    with services().database.transaction() as connection:
        found = tubes_on((row for row, _ in rack.rows(connection)), shop_catalogue().tubes)
    return RackTubesOut(tubes=list(found.tubes), unknown=list(found.unknown))


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
