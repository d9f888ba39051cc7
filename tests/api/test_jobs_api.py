"""Jobs over HTTP: saving, conflicts, revisions, import and export."""

import gzip
import io
import json
import threading
import uuid
import zipfile
from datetime import UTC, datetime
from typing import Any

import pdfplumber
import pytest
from flask import Flask
from flask.testing import FlaskClient

from tests.api.asked import done, packed
from tests.conftest import ROOT
from tirante.api.app import Config, create_app
from tirante.cli import answer
from tirante.server.mariadb import Instance
from tirante.server.worker import Worker
from tirante.storage import tasks
from tirante.storage.pool import Database


def new() -> str:
    return str(uuid.uuid4())


def put(
    client: FlaskClient, job: dict[str, Any], design: dict[str, Any], version: int, save_id: str | None = None
) -> Any:
    return client.put(
        f"/api/jobs/{job['job_id']}/draft",
        json={"save_id": save_id or new(), "design": design},
        headers={"If-Match": str(version)},
    )


def renamed(job: dict[str, Any], name: str) -> dict[str, Any]:
    return {**job["design"], "name": name}


def test_two_browsers_lose_nothing(client: FlaskClient, job: dict[str, Any]) -> None:
    assert put(client, job, renamed(job, "theirs"), 1).json["version"] == 2
    stale = put(client, job, renamed(job, "mine"), 1)
    assert stale.status_code == 409
    assert stale.json["code"] == "stale"
    assert stale.json["current"]["design"]["name"] == "theirs"
    assert stale.json["current"]["version"] == 2
    body = {"save_id": new(), "name": "my version", "based_on": None, "design": renamed(job, "mine")}
    kept = [client.post(f"/api/jobs/{job['job_id']}/branches", json=body).json for _ in range(2)]
    assert kept[0] == kept[1]  # the repeat kept it once
    assert client.get(f"/api/jobs/{job['job_id']}/revisions/{kept[0]['number']}").json["design"]["name"] == "mine"
    assert client.get(f"/api/jobs/{job['job_id']}").json["design"]["name"] == "theirs"
    rows = client.get(f"/api/jobs/{job['job_id']}/revisions").json["revisions"]
    assert [r["kind"] for r in rows].count("branch") == 1


def test_a_lost_answer_may_be_asked_for_again(client: FlaskClient, job: dict[str, Any]) -> None:
    save_id = new()
    assert [put(client, job, renamed(job, "x"), 1, save_id).json["version"] for _ in range(3)] == [2, 2, 2]


def test_starting_a_job_twice_with_one_id_is_one_job(client: FlaskClient) -> None:
    body = {"id": new(), "name": "One"}
    first, second = (client.post("/api/jobs", json=body).json for _ in range(2))
    assert first == second
    assert [j["id"] for j in client.get("/api/jobs").json["jobs"]].count(body["id"]) == 1


def test_only_an_issued_revision_prints_sheets_to_cut_from(
    client: FlaskClient, job: dict[str, Any], worker: Worker
) -> None:
    path = f"/api/jobs/{job['job_id']}"

    def text(query: str = "") -> str:
        kept = (
            client.get(f"{path}/pack.pdf{query}").data if query else packed(client, worker, job["job_id"], "pack.pdf")
        )
        with pdfplumber.open(io.BytesIO(kept)) as document:
            return document.pages[0].extract_text()

    assert "DRAFT" in text()
    body = {"save_id": new(), "version": 1, "name": "first", "issue": True, "reviewer": None}
    number = client.post(f"{path}/revisions", json=body).json["number"]
    assert "DRAFT" not in text(f"?revision={number}")
    assert "NOT REVIEWED" in text(f"?revision={number}")
    # nobody is reviewed by a name that is typed
    typed = client.post(
        f"{path}/revisions", json={**body, "save_id": new(), "name": "second", "reviewer": "A. Reviewer"}
    )
    assert (typed.status_code, typed.json["issues"][0]["path"]) == (422, "reviewer")
    # an edit after it makes a draft again; the issued one stays what it was
    put(client, job, renamed(job, "later"), 1)
    assert "DRAFT" in text()
    assert "later" not in text(f"?revision={number}")


def test_a_revision_of_a_state_that_moved_on_is_refused(client: FlaskClient, job: dict[str, Any]) -> None:
    put(client, job, renamed(job, "moved"), 1)
    body = {"save_id": new(), "version": 1, "name": "n", "issue": False, "reviewer": None}
    assert client.post(f"/api/jobs/{job['job_id']}/revisions", json=body).status_code == 409


def test_export_import_export_on_an_empty_database_is_byte_identical(
    client: FlaskClient, instance: Instance, worker_id: str
) -> None:
    first = {
        j["name"]: client.get(f"/api/jobs/{j['id']}/export").data
        for j in client.get("/api/jobs").json["jobs"]
        if j["demo"]
    }
    assert set(first) == {"Marram", "Tern", "Quay", "Plover", "Dunlin"}
    empty = Database(instance.bootstrap(f"empty_{worker_id}")[0], connections=2)
    other = create_app(Config(database=empty, answers=answer)).test_client()
    for name, text in first.items():
        body = b'{"id": "%s", "design": %s}' % (new().encode(), text)
        made = other.post("/api/import", data=body, content_type="application/json").json
        assert other.get(f"/api/jobs/{made['job_id']}/export").data == text, name
        assert text.decode() == (ROOT / f"data/demo/{name.lower()}.json").read_text()
    empty.close()


def test_the_pack_holds_what_it_should(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:
    task = done(client, worker, "/api/tasks/pack", job_id=job["job_id"], what="pack.zip")
    assert (task["state"], task["revision"]) == ("done", 1)
    assert (task["done"], task["of"]) == (len(job["design"]["parts"]), len(job["design"]["parts"]) + 1)
    answer = client.get(f"/api/tasks/{task['id']}/file")
    assert answer.headers["Content-Disposition"] == 'attachment; filename="marram-rev-1.zip"'
    with zipfile.ZipFile(io.BytesIO(answer.data)) as pack:
        assert pack.testzip() is None
        assert "design.json" in pack.namelist()
    # the same revision again is the same file, and one that is not kept is made by a task only
    assert packed(client, worker, job["job_id"], revision=1) == answer.data
    for query in ("", "?revision=1"):
        refused = client.get(f"/api/jobs/{job['job_id']}/pack.zip{query}")
        assert (refused.status_code, refused.json["code"]) == (409, "not_kept")
    assert client.get(f"/api/jobs/{job['job_id']}/cut-list.csv").data.startswith(b"kind,what,hand")


def test_a_pack_that_is_stopped_or_asked_of_nothing_leaves_no_file(
    client: FlaskClient, job: dict[str, Any], worker: Worker
) -> None:
    task = {"id": new(), "job_id": job["job_id"], "what": "pack.zip"}
    assert client.post("/api/tasks/pack", json=task).json["state"] == "queued"
    assert client.get(f"/api/tasks/{task['id']}/file").status_code == 404
    with worker.database.transaction() as connection:
        claimed = tasks.claim(connection, worker.name, datetime.now(UTC).replace(tzinfo=None))
    assert claimed
    assert client.post(f"/api/tasks/{task['id']}/stop", json={}).json["state"] == "running"
    came = worker._done(claimed)  # at its first step it is told to end
    assert (came.result, came.file, came.fault) == (None, None, None)
    with worker.database.transaction() as connection:  # left running, the next worker would take it up
        assert tasks.end(connection, claimed.id, worker.name, datetime.now(UTC).replace(tzinfo=None), result=None)
    assert client.get(f"/api/tasks/{task['id']}").json["state"] == "cancelled"
    assert client.get(f"/api/tasks/{task['id']}/file").status_code == 404
    # a revision or a job that is not there, and a job that goes while its pack waits
    for body in ({"revision": 99}, {"job_id": new()}):
        assert client.post("/api/tasks/pack", json={**task, "id": new(), **body}).status_code == 404
    waits = {**task, "id": new()}
    client.post("/api/tasks/pack", json=waits)
    with worker.database.transaction() as connection, connection.cursor() as cursor:
        cursor.execute("DELETE FROM revision WHERE job_id = %s", (job["job_id"],))
    while worker.once():
        pass
    assert "not there any more" in client.get(f"/api/tasks/{waits['id']}").json["fault"]


@pytest.mark.parametrize(
    "path",
    ["", "/revisions", "/export", "/pack.zip", "/pack.pdf", "/cut-list.csv", "/revisions/1", "/pack.pdf?revision=1"],
)
@pytest.mark.parametrize("job_id", [str(uuid.UUID(int=7)), "x", "'; DROP TABLE job; --", "%00", "ü" * 300])
def test_an_unknown_job_is_not_found(path: str, job_id: str, client: FlaskClient) -> None:
    answer = client.get(f"/api/jobs/{job_id}{path}")
    assert answer.status_code == 404
    assert answer.json["code"] == "not_found"


@pytest.mark.parametrize("number", ["abc", "-1", "1.5", "%C2%B2", "%D9%A3", "1e3", " 1"])
@pytest.mark.parametrize("what", ["pack.zip", "pack.pdf", "cut-list.csv"])
def test_a_revision_that_is_no_number_is_refused_and_no_draft_printed_in_its_place(
    what: str, number: str, client: FlaskClient, job: dict[str, Any]
) -> None:
    answer = client.get(f"/api/jobs/{job['job_id']}/{what}?revision={number}")
    assert (answer.status_code, answer.json["issues"][0]["path"]) == (422, "revision")


def test_a_revision_that_is_not_there(client: FlaskClient, job: dict[str, Any]) -> None:
    for number in ("0", "99", "4294967296", "99999999999999999999"):
        assert client.get(f"/api/jobs/{job['job_id']}/revisions/{number}").status_code == 404
    assert client.get(f"/api/jobs/{job['job_id']}/revisions/-1").status_code == 404


def test_saving_without_saying_the_version_is_refused(client: FlaskClient, job: dict[str, Any]) -> None:
    for header in ({}, {"If-Match": "*"}, {"If-Match": "-1"}, {"If-Match": "1e9"}, {"If-Match": "99999999999"}):
        answer = client.put(
            f"/api/jobs/{job['job_id']}/draft", json={"save_id": new(), "design": job["design"]}, headers=header
        )
        assert answer.status_code == 428


def test_the_database_away_is_503_and_back_again(
    app: Flask, client: FlaskClient, monkeypatch: pytest.MonkeyPatch, seeded: Database
) -> None:
    import pymysql

    def gone() -> None:
        raise pymysql.OperationalError(2003, "gone")

    monkeypatch.setattr(seeded._pool, "connection", gone)
    answer = client.get("/api/jobs")
    assert (answer.status_code, answer.json["code"]) == (503, "database_away")
    assert client.get("/api/health").status_code == 503
    monkeypatch.undo()
    assert client.get("/api/jobs").status_code == 200


def test_issuing_what_is_not_settled_asks_who_answers_for_the_list_and_keeps_both(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    path = f"/api/jobs/{job['job_id']}"
    design = json.loads(json.dumps(job["design"]))
    rod = next(part for part in design["parts"] if part["name"] == "Panhard rod")
    rod["cases"].append({"name": "far too hard", "axial_n": -90_000.0, "strike_n": 0.0, "side_n": 0.0})
    tie = next(part for part in design["parts"] if part["name"] == "Front tie rod")
    tie["tube"] = None
    design["ends"][1]["end"]["bump_stop"]["crush_mm"] = 5.0
    saved = client.put(f"{path}/draft", json={"save_id": new(), "design": design}, headers={"If-Match": "1"})
    assert saved.status_code == 200, saved.json
    body = {"save_id": new(), "version": 2, "name": "as it is", "issue": True, "reviewer": None}
    refused = client.post(f"{path}/revisions", json=body)
    assert (refused.status_code, refused.json["code"]) == (422, "to_acknowledge")
    lines = [issue["message"] for issue in refused.json["issues"]]
    assert {issue["path"] for issue in refused.json["issues"]} == {"acknowledged"}
    assert any(line.startswith("Panhard rod: Column, AISC E3 is over") for line in lines)
    assert any(line.startswith("Front tie rod: not complete.") for line in lines)
    assert any(
        "Rear lower link: not judged in landing from 300 mm: The stop is solid after 5 mm" in line for line in lines
    )
    assert all(one["kind"] != "issued" for one in client.get(f"{path}/revisions").json["revisions"])
    # a name against another list than the one that stands is no answer
    other = {**body, "save_id": new(), "acknowledged_by": "A. Smith", "acknowledged": lines[:-1]}
    assert client.post(f"{path}/revisions", json=other).status_code == 422
    bare = {**body, "save_id": new(), "acknowledged": lines}
    assert client.post(f"{path}/revisions", json=bare).status_code == 422
    good = {**body, "save_id": new(), "acknowledged_by": "A. Smith", "acknowledged": lines}
    made = client.post(f"{path}/revisions", json=good)
    assert made.status_code == 200, made.json
    assert client.post(f"{path}/revisions", json=good).json == made.json  # asked twice it is done once
    row = next(one for one in client.get(f"{path}/revisions").json["revisions"] if one["number"] == made.json["number"])
    assert (row["acknowledged_by"], row["acknowledged"], row["reviewer"]) == ("A. Smith", lines, None)
    pack = client.get(f"{path}/pack.pdf?revision={made.json['number']}").data
    with pdfplumber.open(io.BytesIO(pack)) as document:
        cover = document.pages[0].extract_text().replace("\n", " ")
    assert "A. Smith answers for it" in cover
    assert "NOT REVIEWED" in cover
    assert "Panhard rod: Column, AISC E3 is over" in cover


def test_an_older_design_says_once_what_it_says_otherwise_now(client: FlaskClient) -> None:
    text = json.loads((ROOT / "tests/storage/design-version-4.json").read_text())
    made = client.post("/api/import", json={"id": new(), "design": text}).json
    assert any("body leans" in line for line in made["told"])
    assert client.get(f"/api/jobs/{made['job_id']}").json["told"] == []  # it is kept as it is said now


def test_what_is_long_and_read_goes_over_the_line_packed_and_is_the_same(
    client: FlaskClient, job: dict[str, Any]
) -> None:
    path = f"/api/jobs/{job['job_id']}/bench"
    plain = client.get(path)
    packed = client.get(path, headers={"Accept-Encoding": "gzip"})
    assert "Content-Encoding" not in plain.headers
    assert packed.headers["Content-Encoding"] == "gzip"
    assert len(packed.data) < len(plain.data) / 3
    assert json.loads(gzip.decompress(packed.data)) == plain.json
    # an answer to an edit is not kept waiting for it, nor what is short
    asked = client.post("/api/evaluate", json={"design": job["design"]}, headers={"Accept-Encoding": "gzip"})
    assert "Content-Encoding" not in asked.headers
    assert "Content-Encoding" not in client.get("/api/health", headers={"Accept-Encoding": "gzip"}).headers


def test_who_issues_waits_for_no_search_and_others_do_not_wait_for_what_he_waits_for(
    app: Flask, client: FlaskClient, job: dict[str, Any]
) -> None:
    services = app.extensions["tirante"]
    path, found = f"/api/jobs/{job['job_id']}/revisions", []

    def issue() -> None:
        body = {"save_id": str(uuid.uuid4()), "version": job["version"], "name": "first", "issue": True}
        found.append(app.test_client().post(path, json=body).status_code)

    with services.long.enter():  # as a search does, however long it takes
        issuing = threading.Thread(target=issue)
        with services.gate.enter(), services.short.enter():
            issuing.start()
            issuing.join(0.5)
            assert found == []  # it waits to be worked out, and holds nothing meanwhile:
            looked = threading.Thread(target=lambda: found.append(app.test_client().get(path).status_code))
            looked.start()
            looked.join(15.0)
            assert found == [200]
        issuing.join(60.0)
    assert found == [200, 200]
    assert client.get(path).json["revisions"][0]["kind"] == "issued"
