"""Pictures through the API: kept with what they are of, given out as they are kept, never changed."""

from __future__ import annotations

import hashlib
import io
from typing import Any

import numpy as np
import pymysql
import pytest
from flask import Flask
from flask.testing import FlaskClient
from PIL import Image
from werkzeug.test import TestResponse

from tests.api.test_survey_api import new_id
from tests.documents.test_picture_in import as_file, halves, with_camera
from tirante.documents.picture_in import MOST_BYTES

JPEG = as_file(halves(640, 480), exif=with_camera(6))


def sent(client: FlaskClient, job: dict[str, Any], data: bytes = JPEG, media: str = "image/jpeg", **of: Any) -> TestResponse:  # fmt: skip
    asked = {"id": new_id(), "sort": "survey"} | of
    return client.post(f"/api/jobs/{job['job_id']}/pictures", query_string=asked, data=data, content_type=media)


def test_it_is_kept_with_its_step_and_given_out_upright_without_its_place(client: FlaskClient, job: dict[str, Any]) -> None:  # fmt: skip
    part = job["design"]["parts"][0]["id"]
    of = {"id": new_id(), "sort": "step", "part_id": part, "hand": "left", "step": "tack", "metal": "0123abcd", "told": "its far side"}  # fmt: skip
    kept = sent(client, job, **of).json["pictures"]
    assert [{name: one[name] for name in of} for one in kept] == [of]
    assert (kept[0]["wide"], kept[0]["high"]) == (480, 640)
    assert sent(client, job, **of).status_code == 200  # the same again
    assert len(client.get(f"/api/jobs/{job['job_id']}/pictures").json["pictures"]) == 1
    got = client.get(f"/api/jobs/{job['job_id']}/pictures/{of['id']}")
    assert (got.status_code, got.mimetype, got.headers["X-Content-Type-Options"]) == (200, "image/jpeg", "nosniff")
    assert Image.open(io.BytesIO(got.data)).size == (480, 640)
    assert b"camera" not in got.data
    told = next(one for one in client.get("/api/deeds").json["deeds"] if one["what"] == "picture added")
    assert told["of"]["part"] == job["design"]["parts"][0]["name"]
    assert told["of"]["sha256"] == hashlib.sha256(got.data).hexdigest()
    # an id names one picture, of one step
    for other in (sent(client, job, as_file(halves(30, 20)), **of), sent(client, job, **(of | {"step": "weld"}))):
        assert (other.status_code, other.json["code"]) == (409, "id_taken")


def test_what_is_wrong_is_told_by_its_field(client: FlaskClient, job: dict[str, Any]) -> None:
    for response, status, where in (
        (sent(client, job, b"none"), 422, "picture"), (sent(client, job, media="text/plain"), 415, "picture"), (sent(client, job, media="application/json"), 415, "picture"),
        (sent(client, job, bytes(MOST_BYTES + 1)), 413, "picture"), (sent(client, job, sort="holiday"), 422, "sort"), (sent(client, job, sort="step", step="tack"), 422, "step"),
        (sent(client, job, id="x"), 422, "id"), (sent(client, job, colour="red"), 422, "colour"), (sent(client, job, hand="both"), 422, "hand"),
    ):  # fmt: skip
        assert (response.status_code, response.json["issues"][0]["path"]) == (status, where), response.json
    assert sent(client, {"job_id": new_id()}).status_code == 404
    assert client.get(f"/api/jobs/{job['job_id']}/pictures/{new_id()}").status_code == 404
    assert client.get(f"/api/jobs/{job['job_id']}/pictures").json["pictures"] == []
    # one of another job is not given out under this one
    other = sent(client, job, id=(own := new_id())).json["pictures"][0]["id"]
    assert client.get(f"/api/jobs/{new_id()}/pictures/{other}").status_code == 404
    assert own == other


def test_one_as_large_as_a_phone_makes_it_is_taken(client: FlaskClient, job: dict[str, Any]) -> None:
    noise = Image.frombytes("RGB", (2600, 1950), np.random.default_rng(1).integers(0, 255, 2600 * 1950 * 3, dtype=np.uint8).tobytes())  # fmt: skip
    large = as_file(noise, quality=90)
    assert 3_000_000 < len(large) < MOST_BYTES
    kept = sent(client, job, large).json["pictures"][0]
    assert (kept["wide"], kept["high"]) == (2400, 1800)


def test_a_foreign_page_sends_none(client: FlaskClient, job: dict[str, Any]) -> None:
    refused = client.post(f"/api/jobs/{job['job_id']}/pictures", query_string={"id": new_id(), "sort": "survey"}, data=JPEG, content_type="image/jpeg", headers={"Origin": "http://elsewhere.example"})  # fmt: skip
    assert (refused.status_code, refused.json["code"]) == (403, "wrong_origin")


def test_no_row_is_changed_or_taken_away(app: Flask, client: FlaskClient, job: dict[str, Any]) -> None:
    sent(client, job)
    for sql in ("UPDATE picture SET told = 'other'", "DELETE FROM picture"):
        with pytest.raises(pymysql.err.OperationalError, match="only added"), app.extensions["tirante"].database.transaction() as connection, connection.cursor() as cursor:  # fmt: skip
            cursor.execute(sql)
