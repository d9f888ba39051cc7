"""Loopback only, same origin only, strict headers; descriptions that match the routes."""

import json

import pytest
from flask.testing import FlaskClient

from tests.conftest import ROOT
from tirante.api.routing import OPERATIONS, openapi_text
from tirante.core.document.design import Design


@pytest.mark.parametrize("host", ["evil.example", "10.0.0.5:8720", "127.0.0.1.evil.example", "", "localhost.evil:80"])
def test_another_host_is_refused(host: str, client: FlaskClient) -> None:
    assert client.get("/api/jobs", headers={"Host": host}).status_code == 421


@pytest.mark.parametrize("host", ["127.0.0.1:8720", "localhost:1", "127.0.0.1"])
def test_this_machine_is_answered(host: str, client: FlaskClient) -> None:
    assert client.get("/api/jobs", headers={"Host": host}).status_code == 200


def test_another_page_may_not_write(client: FlaskClient) -> None:
    body = {"text": "1", "unit": "mm"}
    for headers in (
        {"Origin": "http://evil.example"},
        {"Origin": "null"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Origin": "http://localhost:99"},
    ):
        assert client.post("/api/length", json=body, headers=headers).status_code == 403
    assert client.post("/api/length", json=body, headers={"Origin": "http://localhost"}).status_code == 200


def test_the_page_carries_a_fresh_nonce_and_strict_headers(client: FlaskClient) -> None:
    first, second = client.get("/"), client.get("/jobs/x/members")
    policies = [r.headers["Content-Security-Policy"] for r in (first, second)]
    assert policies[0] != policies[1]
    nonce = policies[0].split("'nonce-")[1].split("'")[0]
    assert nonce in first.text
    assert "__NONCE__" not in first.text
    assert "default-src 'self'" in policies[0]
    assert "unsafe" not in policies[0]
    assert first.headers["Cache-Control"] == "no-cache"
    for header, value in {
        "X-Content-Type-Options": "nosniff",
        "X-Frame-Options": "DENY",
        "Referrer-Policy": "no-referrer",
    }.items():
        assert first.headers[header] == value
    with client.get("/assets/a.js") as asset:
        assert "immutable" in asset.headers["Cache-Control"]
    assert client.get("/assets/../index.html").status_code == 404
    assert client.get("/assets/%2e%2e/index.html").status_code == 404


def test_the_checked_in_descriptions_are_those_of_the_routes_and_the_model() -> None:
    assert (ROOT / "docs/openapi.json").read_text() == openapi_text()
    schema = json.dumps(Design.model_json_schema(), indent=2, sort_keys=True, ensure_ascii=False) + "\n"
    assert (ROOT / "docs/design.schema.json").read_text() == schema
    assert len({entry.name for entry in OPERATIONS}) == len(OPERATIONS)


def test_the_page_s_types_are_made_from_the_description(tmp_path: object) -> None:
    import os
    import subprocess
    import sys
    from pathlib import Path

    out = Path(str(tmp_path)) / "generated.ts"
    environment = {**os.environ, "PATH": f"{Path(sys.executable).parent}:{os.environ['PATH']}"}
    command = [
        "npx",
        "--no-install",
        "openapi-typescript",
        "../docs/openapi.json",
        "--default-non-nullable=false",
        "-o",
        str(out),
    ]
    subprocess.run(command, cwd=ROOT / "web", env=environment, check=True, capture_output=True)
    assert out.read_text() == (ROOT / "web/src/api/generated.ts").read_text()
