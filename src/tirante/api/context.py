"""What a request needs: the database, the gate, the shelf, the one memory of results; a design worked out with them."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

from flask import Response, current_app, request

from tirante.api.first import First
from tirante.api.gate import Gate, gone
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.design import Design
from tirante.core.job.memory import Abandoned, Memory
from tirante.core.job.studies import is_quick
from tirante.core.job.worked import Worked
from tirante.core.suspension.shelf import Shelf
from tirante.storage.catalogue import load_catalogue
from tirante.storage.pool import Database

Answers = Callable[[str, dict[str, Any]], "dict[str, Any] | None"]
OVER_LAN = (
    "tirante.lan"  # set in what the web server hands on where a request came over the shop's network; no header can
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Lan:
    """The shop's network, where it is served."""

    host: str  # and port, as a browser writes them
    authority: bytes  # the certificate that phones have to trust, DER

    @property
    def fingerprint(self) -> str:
        """SHA-256 of the certificate, in pairs of digits as phones show it."""
        return hashlib.sha256(self.authority).digest().hex(":").upper()


def over_lan() -> bool:
    """Whether what is asked came over the shop's network."""
    return bool(request.environ.get(OVER_LAN))


@dataclass(slots=True)
class Services:
    """Shared by all requests of an application."""

    database: Database
    shelf: Shelf
    answers: Answers  # the command line's: a calculation with its working, None where there is no such topic
    address: str = ""  # of the shop, that codes on sheets open; empty: this machine's, as it is asked
    lan: Lan | None = None  # None: this machine alone is served
    gauges: Mapping[str, int] = field(default_factory=dict)  # that may be read, each with its port on this machine
    first: First = field(default_factory=First)
    anybody: bool = False  # whether anybody is known to have an account; nobody's is ever taken away
    memory: Memory = field(init=False)
    gate: Gate = field(default_factory=Gate)
    quick: Gate = field(
        default_factory=Gate
    )  # for the picture that an edit waits for: heavier work does not stand in its way
    short: Gate = field(default_factory=Gate)  # for what is little work, since all that takes long of it is known
    long: Gate = field(
        default_factory=Gate
    )  # for searches and packs, which take seconds: an edit does not wait for them

    def __post_init__(self) -> None:
        self.memory = Memory(pause=self.between_stages, waiting=self.first.waiting)
        for gate in (self.gate, self.quick, self.short, self.long):
            gate.waiting = self.first.waiting

    def between_stages(self) -> None:
        """Stop working for who has gone; else let go first what does.

        Raises:
            Abandoned: nobody listens any more.
        """
        if gone():
            raise Abandoned
        self.first.pause()

    def gate_of(self, job: Worked) -> Gate:
        """What a job's evaluation waits at: one that changes little does not stand behind one that changes all."""
        return self.short if is_quick(job) else self.gate


def services() -> Services:
    """Those of the application at work."""
    found: Services = current_app.extensions["tirante"]
    return found


def worked(design: Design) -> Worked:
    """A design, to be worked out stage by stage as it is asked."""
    return Worked(design, services().shelf, services().memory)


def now() -> datetime:
    """The time, UTC, without a zone as the database stores it."""
    return datetime.now(UTC).replace(tzinfo=None)


def shop_catalogue() -> Catalogue:
    """The shop's catalogue as it is now."""
    with services().database.transaction() as connection:
        return load_catalogue(connection)


def attached(body: bytes | str, media: str, name: str) -> Response:
    """A file as it is sent.

    Args:
        body: of it.
        media: its type.
        name: that it is saved under.
    """
    response = Response(body, mimetype=media)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def link_of(job_id: str, number: int) -> str:
    """What the codes on a revision's sheets begin with: the shop's address, or this machine's as it was asked.

    Args:
        job_id: the job.
        number: of the revision.
    """
    address = services().address or request.host_url.rstrip("/")
    return f"{address}/sheet/{job_id}/{number}"
