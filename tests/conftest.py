"""A private MariaDB for the run, started once whatever the number of workers; a database of its own for each worker."""

from __future__ import annotations

import os
import shutil
import tempfile
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path

import pytest
from xdist.scheduler.loadscope import LoadScopeScheduling

from tirante.core.document.catalogue import KINDS, Catalogue, read_csv
from tirante.core.document.design import Design
from tirante.core.document.upgrades import load_design
from tirante.server.demo import load_demo, load_seeds
from tirante.server.mariadb import Instance
from tirante.storage.pool import Credentials, Database

ROOT = Path(__file__).resolve().parents[1]
NOW = datetime(2026, 1, 2, 3, 4, 5)  # noqa: DTZ001 - the database stores UTC without a zone


LONGEST = ("tests/browser/", "tests/server/")  # begun first, so that none of them is begun last


class ByModule(LoadScopeScheduling):
    """A module goes to one worker as a whole, and so do all that drive a browser: one server and one browser serve them all.

    A scheduler of our own, since marks of a group say nothing to the worker with this pytest: they were dealt out one by one, and
    each worker had a server, a browser and what each module starts.
    """

    def _split_scope(self, nodeid: str) -> str:
        path = nodeid.partition("::")[0]
        return "browser" if path.startswith(LONGEST[0]) else path


def pytest_xdist_make_scheduler(config: pytest.Config, log: object) -> ByModule:
    """How tests are dealt out to workers."""
    return ByModule(config, log)  # type: ignore[arg-type]


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """In the order in which they are begun."""
    items.sort(
        key=lambda item: next((i for i, path in enumerate(LONGEST) if item.nodeid.startswith(path)), len(LONGEST))
    )


@pytest.fixture(scope="session")
def instance() -> Iterator[Instance]:
    """A MariaDB of this process, started by the first test that asks for it: tests of the core start none."""
    found = Instance(Path(tempfile.mkdtemp(prefix="tirante-test-")))
    found.start()
    yield found
    found.stop()
    shutil.rmtree(found.folder, ignore_errors=True)


@pytest.fixture(scope="session")
def credentials(instance: Instance, worker_id: str) -> Credentials:
    """This worker's own schema, migrated."""
    return instance.bootstrap(f"tirante_{worker_id}")[0]


@pytest.fixture(scope="session")
def worker_id(request: pytest.FixtureRequest) -> str:
    """The xdist worker, or master."""
    return os.environ.get("PYTEST_XDIST_WORKER", "master")


@pytest.fixture(scope="session")
def seeded(credentials: Credentials) -> Iterator[Database]:
    """A pool on the worker's schema, catalogue and demo jobs loaded."""
    database = fill(credentials)
    yield database
    database.close()


def fill(credentials: Credentials) -> Database:
    """Catalogue and demo jobs into a schema; the pool on it."""
    database = Database(credentials, connections=4)
    load_seeds(database, ROOT / "data/catalogue", NOW)
    load_demo(database, ROOT / "data/demo", NOW)
    return database


@pytest.fixture(scope="session")
def catalogue() -> Catalogue:
    """The shipped catalogue."""
    rows = {kind: tuple(read_csv(kind, (ROOT / f"data/catalogue/{kind}.csv").read_text())) for kind in KINDS}
    return Catalogue(**rows)


@pytest.fixture(scope="session")
def marram() -> Design:
    """The first demo job as most tests take it apart: its brackets on flats, typed, one pattern for both ends of a link, no mount."""
    return load_design((ROOT / "tests/marram-on-flats.json").read_bytes())


@pytest.fixture(scope="session")
def mounted() -> Design:
    """The first demo job as it ships: members entered, a bracket on one for every joint that can have it."""
    return load_design((ROOT / "data/demo/marram.json").read_bytes())


@pytest.fixture(scope="session")
def quay() -> Design:
    """The third demo job: inches, a fixed end, a bought link."""
    return load_design((ROOT / "data/demo/quay.json").read_bytes())
