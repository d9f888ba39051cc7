"""A test client on the worker's database."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from flask import Flask
from flask.testing import FlaskClient

from tests.conftest import ROOT
from tirante.api.app import Config, create_app
from tirante.cli import answer
from tirante.server.worker import Worker
from tirante.storage.pool import Database


@pytest.fixture(scope="session")
def app(seeded: Database, tmp_path_factory: pytest.TempPathFactory) -> Flask:
    static = tmp_path_factory.mktemp("front")
    (static / "assets").mkdir()
    (static / "index.html").write_text((ROOT / "web/index.html").read_text())
    (static / "assets/a.js").write_text("1")
    (static / "favicon.svg").write_text("<svg/>")
    return create_app(Config(database=seeded, answers=answer, static=static))


@pytest.fixture
def client(app: Flask) -> FlaskClient:
    return app.test_client()


@pytest.fixture
def job(client: FlaskClient) -> dict[str, Any]:
    """A fresh copy of the first demo job."""
    marram = next(j for j in client.get("/api/jobs").json["jobs"] if j["demo"] and j["name"] == "Marram")
    design = client.get(f"/api/jobs/{marram['id']}").json["design"]
    return client.post("/api/import", json={"id": str(uuid.uuid4()), "design": design}).json


@pytest.fixture(scope="session")
def worker(seeded: Database) -> Worker:
    """Does what is queued when it is told to."""
    return Worker(seeded)
