"""What was tried against the server and failed once, each by the fact."""

from __future__ import annotations

import gzip
import io
import json
import random
import threading
import uuid
from pathlib import Path
from typing import Any

import pdfplumber
import pymysql
import pytest
from flask.testing import FlaskClient
from pydantic import ValidationError

from tests.api.asked import of_kind, packed, put
from tests.api.test_bad_input import BAD, _paths, _with
from tests.conftest import ROOT
from tirante import ENGINE_VERSION
from tirante.api.app import Config, create_app
from tirante.calc import calculate
from tirante.cli import answer
from tirante.core.document.design import Design
from tirante.core.document.upgrades import load_design
from tirante.core.errors import TiranteError
from tirante.server.worker import Worker
from tirante.storage import drafts, issued, revisions
from tirante.storage.pool import Database, Full, Unavailable


def test_a_body_of_faults_is_answered_briefly(client: FlaskClient) -> None:
    body = json.dumps({"design": {"name": "x", "parts": [{"kind": "link"}] * 40_000}})
    answer = client.post("/api/evaluate", data=body, content_type="application/json")
    assert answer.status_code == 422
    assert len(answer.data) < 50_000
    last = answer.json["issues"][-1]
    assert last["code"] == "more"
    assert last["params"]["count"] > 1000


@pytest.mark.parametrize("version", [1, 2, 3, 4])
def test_a_broken_file_of_any_version_is_refused_by_field_or_opens(version: int) -> None:
    raw = json.loads((ROOT / f"tests/storage/design-version-{version}.json").read_text())
    rng = random.Random(version)
    refused = 0
    for path in rng.sample(_paths(raw), 150):
        for bad in rng.sample(BAD, 3):
            try:
                load_design(json.dumps(_with(raw, path, bad)))
            except ValidationError:
                refused += 1
    assert refused > 150


@pytest.mark.parametrize("origin", ["http://[", "null", "http://127.0.0.1:1", "\x00"])
def test_an_origin_that_is_none_is_refused(client: FlaskClient, origin: str) -> None:
    answer = client.post("/api/evaluate", json={"design": {"name": "x"}}, headers={"Origin": origin})
    assert (answer.status_code, answer.json["code"]) == (403, "wrong_origin")


def test_a_foreign_page_s_link_makes_no_pack(client: FlaskClient, job: dict[str, Any]) -> None:
    path = f"/api/jobs/{job['job_id']}"
    before = client.get(f"{path}/revisions").json["revisions"]
    for what in ("pack.zip", "pack.pdf", "cut-list.csv", "export"):
        for site in ("cross-site", "same-site"):
            answer = client.get(f"{path}/{what}", headers={"Sec-Fetch-Site": site})
            assert answer.status_code == 403
    assert client.get(f"{path}/revisions").json["revisions"] == before


@pytest.mark.parametrize("letter", ["\uffff", "\ufffe", "\ufdd0", "\U0001ffff", "\u0000", "\x1b"])
def test_what_is_no_character_is_refused_in_a_name(client: FlaskClient, letter: str) -> None:
    answer = client.post("/api/evaluate", json={"design": {"name": f"a{letter}b"}})
    assert answer.status_code == 422
    assert answer.json["issues"][0]["path"] == "design.name"


def test_a_save_id_of_another_job_is_refused_by_its_field(client: FlaskClient, job: dict[str, Any]) -> None:
    other = client.post("/api/import", json={"id": str(uuid.uuid4()), "design": job["design"]}).json
    save_id = str(uuid.uuid4())
    for target, status in ((job, 200), (other, 422)):
        answer = client.put(
            f"/api/jobs/{target['job_id']}/draft", json={"save_id": save_id, "design": {**job["design"], "note": "n"}}, headers={"If-Match": "1"}
        )  # fmt: skip
        assert answer.status_code == status, answer.json
    assert answer.json["issues"][0]["path"] == "save_id"


def test_rows_that_are_none_are_refused_by_the_command_line() -> None:
    design = load_design((ROOT / "data/demo/marram.json").read_bytes())
    end = design.standing(design.ends[0]).model_dump(mode="json")
    with pytest.raises((ValidationError, TiranteError)) as caught:
        calculate("cycle", {**end, "rows": []})
    assert "rows" in str(caught.value)


def test_two_who_create_one_job_at_once_both_have_it(client: FlaskClient) -> None:
    app = client.application
    for _ in range(6):
        job_id = str(uuid.uuid4())
        found: list[int] = []
        start = threading.Barrier(4)

        def create(job_id: str = job_id, start: threading.Barrier = start, found: list[int] = found) -> None:
            own = app.test_client()
            start.wait()
            found.append(own.post("/api/jobs", json={"id": job_id, "name": "twice"}).status_code)

        threads = [threading.Thread(target=create) for _ in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        assert found == [200] * 4
        assert client.get(f"/api/jobs/{job_id}").json["version"] == 1


@pytest.mark.parametrize(
    ("error", "status"),
    [(pymysql.err.OperationalError(1021, "Disk full"), 507), (pymysql.err.OperationalError(1114, "The table 'draft' is full"), 507),
     (pymysql.err.InternalError(1026, "Error writing file (Errcode: 28 \"No space left on device\")"), 507),
     (pymysql.err.OperationalError(1213, "Deadlock found"), 503), (pymysql.err.OperationalError(2013, "Lost connection"), 503)],
)  # fmt: skip
def test_a_full_disk_and_two_that_wait_for_each_other_are_said_in_words(
    client: FlaskClient, job: dict[str, Any], monkeypatch: pytest.MonkeyPatch, error: Exception, status: int
) -> None:
    def fails(*_: Any, **__: Any) -> None:
        raise error

    monkeypatch.setattr("tirante.storage.jobs.save_draft", fails)
    body = {"save_id": str(uuid.uuid4()), "design": job["design"]}
    answer = client.put(f"/api/jobs/{job['job_id']}/draft", json=body, headers={"If-Match": "1"})
    assert answer.status_code == status
    assert ("room" in answer.json["message"]) == (status == 507)


def test_a_full_disk_rolls_back(seeded: Database) -> None:
    with pytest.raises(Full), seeded.transaction() as connection, connection.cursor() as cursor:
        cursor.execute("UPDATE job SET name = 'harmed'")
        raise pymysql.err.OperationalError(1021, "Disk full")
    with seeded.transaction() as connection, connection.cursor() as cursor:
        cursor.execute("SELECT COUNT(*) AS n FROM job WHERE name = 'harmed'")
        assert cursor.fetchone() == {"n": 0}
    with pytest.raises(Unavailable), seeded.transaction():
        raise pymysql.err.OperationalError(1205, "Lock wait timeout exceeded")


def test_a_row_edited_in_the_shop_changes_no_part_but_is_told(client: FlaskClient, job: dict[str, Any]) -> None:
    """Choosing the edited row for one link leaves the row under the links that have it, and says so."""
    links = of_kind(job["design"], "link")
    grade = links[0]["grade"]
    rows = client.get("/api/catalogue").json["grades"]
    old = next(row for row in rows if row["key"] == grade)
    columns = [name for name in old if name != "hash"]
    weaker = {**old, "yield_mpa": old["yield_mpa"] / 2, "welded_yield_mpa": old["welded_yield_mpa"] / 2}

    def file(row: dict[str, Any]) -> str:
        cells = ["" if row[name] is None else f'"{row[name]}"' for name in columns]
        return ",".join(columns) + "\n" + ",".join(cells) + "\n"

    try:
        assert client.post("/api/catalogue/grades", json={"text": file(weaker)}).json["replaced"] == 1
        design = json.loads(json.dumps(job["design"]))
        of_kind(design, "link")[1]["grade"] = None
        body = {"design": design, "part_id": links[1]["id"], "field": "grade", "key": grade}
        patch = client.post("/api/choose", json=body).json
        taken = put(design, patch)
        assert next(row for row in taken["catalogue"]["grades"] if row["key"] == grade)["yield_mpa"] == old["yield_mpa"]
        assert any(old["label"] in told for told in patch["told"])
    finally:
        client.post("/api/catalogue/grades", json={"text": file(old)})


def test_a_spliced_link_s_two_lengths_have_two_keys(client: FlaskClient, job: dict[str, Any]) -> None:
    design: dict[str, Any] = json.loads(json.dumps(job["design"]))
    splice = {"at": {"mm": 250.0, "typed": None}, "length": {"mm": 120.0, "typed": None}, "wall_mm": 3.0}
    of_kind(design, "link")[0]["splice"] = splice
    pieces = client.post("/api/evaluate", json={"design": design}).json["cut_list"]["pieces"]
    keys = [piece["key"] for piece in pieces]
    assert len(keys) == len(set(keys))
    assert sum(piece["part_id"] == of_kind(design, "link")[0]["id"] for piece in pieces) == 2


def test_a_text_that_a_spreadsheet_would_run_goes_out_as_text(job: dict[str, Any], client: FlaskClient) -> None:
    design = json.loads(json.dumps(job["design"]))
    design["ends"][0]["name"] = "=1+1"
    design["loads"]["cases"][0]["name"] = "@SUM(A1)"
    rows = client.post("/api/loads/pick-ups", json={"design": design, "end_id": design["ends"][0]["id"]}).json["text"]
    assert "\n=1+1" not in rows
    assert "'=1+1" in rows
    assert ",@SUM" not in rows
    assert Design.model_validate_json(json.dumps(design)).ends[0].name == "=1+1"


def issue(client: FlaskClient, job: dict[str, Any]) -> int:
    body = {"save_id": str(uuid.uuid4()), "version": 1, "name": "to build", "issue": True, "reviewer": None}
    answer = client.post(f"/api/jobs/{job['job_id']}/revisions", json=body)
    assert answer.status_code == 200, answer.json
    return int(answer.json["number"])


def test_an_issued_revision_is_printed_again_as_it_was_issued(
    client: FlaskClient, job: dict[str, Any], seeded: Database, worker: Worker, monkeypatch: pytest.MonkeyPatch
) -> None:
    number = issue(client, job)
    base = f"/api/jobs/{job['job_id']}"
    first = {
        what: client.get(f"{base}/{what}?revision={number}").data for what in ("pack.zip", "pack.pdf", "cut-list.csv")
    }
    assert b"Rear lower link" in first["cut-list.csv"]
    (row,) = [one for one in client.get(f"{base}/revisions").json["revisions"] if one["number"] == number]
    assert row["engine"] == ENGINE_VERSION

    # the engine goes on: what is worked out now differs, what was issued does not
    def otherwise(*_: Any, **__: Any) -> bytes:
        raise AssertionError("an issued revision is not worked out again")

    monkeypatch.setattr("tirante.api.packs.make_pack", otherwise)
    monkeypatch.setattr("tirante.api.packs.pack_pdf", otherwise)
    monkeypatch.setattr("tirante.api.packs.cut_list_csv", otherwise)
    assert packed(client, worker, job["job_id"], "pack.zip", number) == first["pack.zip"]
    assert packed(client, worker, job["job_id"], "pack.pdf", number) == first["pack.pdf"]
    for what, was in first.items():
        assert client.get(f"{base}/{what}?revision={number}").data == was
    with seeded.transaction() as connection:
        kept = issued.get(connection, job["job_id"], number)
    assert kept
    parts = {part["name"]: part for part in json.loads(kept.figures)["parts"]}
    assert len(parts["Rear lower link"]["metal"]) == 16
    assert json.loads(kept.figures)["engine"] == ENGINE_VERSION


def test_one_issued_before_anything_was_kept_says_that_it_is_worked_out_anew(
    client: FlaskClient, job: dict[str, Any], seeded: Database, worker: Worker
) -> None:
    with seeded.transaction() as connection:  # as it was sealed then
        draft = drafts.get_draft(connection, job["job_id"])
        number = revisions.seal(connection, draft, draft.saved_at, kind="issued", name="to build")
    with pdfplumber.open(io.BytesIO(packed(client, worker, job["job_id"], "pack.pdf", number))) as pdf:
        assert all(f"rev {number}, worked out anew" in page.extract_text() for page in pdf.pages)
    with pdfplumber.open(io.BytesIO(packed(client, worker, job["job_id"], "pack.pdf"))) as pdf:
        assert "worked out anew" in pdf.pages[0].extract_text()  # the draft stands unchanged on that revision


def test_a_pack_that_cannot_be_made_issues_nothing(
    client: FlaskClient, job: dict[str, Any], monkeypatch: pytest.MonkeyPatch
) -> None:
    def fails(*_: Any) -> bytes:
        raise RuntimeError("no room")

    monkeypatch.setattr("tirante.api.jobs.make_pack", fails)
    body = {"save_id": str(uuid.uuid4()), "version": 1, "name": "x", "issue": True, "reviewer": None}
    assert client.post(f"/api/jobs/{job['job_id']}/revisions", json=body).status_code == 500
    assert not [
        r for r in client.get(f"/api/jobs/{job['job_id']}/revisions").json["revisions"] if r["kind"] == "issued"
    ]


def test_scripts_go_out_packed_to_who_takes_them_so(seeded: Database, tmp_path: Path) -> None:
    (tmp_path / "assets").mkdir()
    script = b"let a = 1\n" * 1000
    (tmp_path / "assets/a.js").write_bytes(script)
    (tmp_path / "assets/a.js.gz").write_bytes(gzip.compress(script))
    page = create_app(Config(database=seeded, answers=answer, static=tmp_path)).test_client()
    with page.get("/assets/a.js", headers={"Accept-Encoding": "gzip"}) as packed:
        assert packed.headers["Content-Encoding"] == "gzip"
        assert "javascript" in packed.mimetype
        assert gzip.decompress(packed.data) == script
        assert len(packed.data) < len(script) / 20
    with page.get("/assets/a.js") as plain:
        assert plain.data == script
        assert "Content-Encoding" not in plain.headers
    assert page.get("/assets/../../etc/passwd", headers={"Accept-Encoding": "gzip"}).status_code == 404
