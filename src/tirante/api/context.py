"""What a request needs: the database, the clock, the gate."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import UTC, datetime

from flask import current_app

from tirante.api.gate import Gate
from tirante.core.document.catalogue import Catalogue
from tirante.storage.catalogue import load_catalogue
from tirante.storage.pool import Database


@dataclass(slots=True)
class Services:
    """Shared by all requests of an application."""

    database: Database
    gate: Gate = field(default_factory=Gate)
    quick: Gate = field(
        default_factory=Gate
    )  # for the picture that an edit waits for: heavier work does not stand in its way


def services() -> Services:
    """Those of the application at work."""
    found: Services = current_app.extensions["tirante"]
    return found


def now() -> datetime:
    """The time, UTC, without a zone as the database stores it."""
    return datetime.now(UTC).replace(tzinfo=None)


def shop_catalogue() -> Catalogue:
    """The shop's catalogue as it is now."""
    with services().database.transaction() as connection:
        return load_catalogue(connection)
