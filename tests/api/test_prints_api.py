"""What was printed, whether a sheet in somebody's hand is still so, and labels, through the API."""

from __future__ import annotations

import copy
import io
import json
import uuid
import zipfile
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.api.test_changes_api import issue as issued
from tirante.server.worker import Worker


def new_id() -> str:
    return str(uuid.uuid4())


def issue(client: FlaskClient, job_id: str, name: str) -> int:
    return issued(client, {"job_id": job_id}, client.get(f"/api/jobs/{job_id}").json["version"], name)


def save(client: FlaskClient, job_id: str, design: dict[str, Any]) -> None:
    version = client.get(f"/api/jobs/{job_id}").json["version"]
    answer = client.put(
        f"/api/jobs/{job_id}/draft", json={"save_id": new_id(), "design": design}, headers={"If-Match": str(version)}
    )
    assert answer.status_code == 200, answer.json


def packed(client: FlaskClient, worker: Worker, job_id: str, **more: object) -> bytes:
    own = new_id()
    answer = client.post("/api/tasks/pack", json={"id": own, "job_id": job_id, "what": "pack.zip", **more})
    assert answer.status_code == 200, answer.json
    while worker.once():
        pass
    file = client.get(f"/api/tasks/{own}/file")
    assert file.status_code == 200, client.get(f"/api/tasks/{own}").json
    return bytes(file.data)


def metals(pack: bytes) -> dict[str, str]:
    with zipfile.ZipFile(io.BytesIO(pack)) as archive:
        return {one["id"]: one["metal"] for one in json.loads(archive.read("manifest.json"))["parts"]}


def longer(design: dict[str, Any], name: str) -> tuple[dict[str, Any], str]:
    """The job with a link's tube of another length."""
    other = copy.deepcopy(design)
    link = next(part for part in other["parts"] if part["name"] == name)
    link["showing"] = {"mm": link["showing"]["mm"] + 2.0} if link.get("showing") else {"mm": 9.0}
    link["school"] = "exposure"
    return other, link["id"]


def test_a_sheet_is_so_until_the_part_is_another_and_says_what_changed(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:  # fmt: skip
    """Printed from an issue; the draft changes the part; that is issued: each time the code says what holds."""
    own = job["job_id"]
    first = issue(client, own, "to build from")
    pack = packed(client, worker, own, revision=first)
    with zipfile.ZipFile(io.BytesIO(pack)) as archive:
        assert any(name.endswith(".pdf") for name in archive.namelist())
    design, part_id = longer(job["design"], "Rear lower link")
    metal = metals(pack)[part_id]
    path = f"/api/jobs/{own}/sheets/{first}/{part_id}"
    so = client.get(f"{path}?m={metal}").json
    assert (so["current"], so["lines"], so["changed"], so["part"]) == (
        True,
        ["The part is as it was printed, and is judged as it was."],
        None,
        "Rear lower link",
    )
    other = client.get(f"{path}?m=0123456789abcdef").json
    assert other["current"] is False
    assert "other figures" in other["lines"][0]
    save(client, own, design)
    drafted = client.get(f"{path}?m={metal}").json
    assert drafted["current"] is True
    assert drafted["lines"][0].startswith("The job was changed since, and this part with it; that is not issued yet.")
    assert drafted["changed"]["part_id"] == part_id
    second = issue(client, own, "once more")
    late = client.get(f"{path}?m={metal}").json
    assert late["current"] is False
    assert late["lines"][0].startswith(f"Out of date: rev {second} is issued since, and this part is another in it.")
    same = next(part["id"] for part in job["design"]["parts"] if part["name"] == "Panhard rod")
    still = client.get(f"/api/jobs/{own}/sheets/{first}/{same}?m={metals(pack)[same]}").json
    assert (still["current"], still["lines"]) == (True, [f"rev {second} is issued since; this part is the same in it."])
    assert client.get(f"/api/jobs/{own}/sheets/{first}/{new_id()}").status_code == 404
    assert client.get(f"/api/jobs/{own}/sheets/99/{part_id}").status_code == 404
    assert client.get(f"/api/jobs/{own}/sheets/x/{part_id}").status_code == 422
    # what was printed is noted, and what on it is other now is named
    (printed,) = client.get(f"/api/jobs/{own}/prints").json["prints"]
    assert (printed["number"], printed["what"], printed["times"], printed["issued"]) == (first, "pack", 1, True)
    assert printed["changed"] == ["Rear lower link"]
    assert client.get(f"/api/jobs/{own}/pack.zip?revision={first}").data == pack
    assert client.get(f"/api/jobs/{own}/prints").json["prints"][0]["times"] == 2
    gone = copy.deepcopy(design)
    gone["parts"] = [part for part in gone["parts"] if part["id"] != part_id]
    gone["joints"] = [one for one in gone["joints"] if one["held"].get("part") != part_id]
    save(client, own, gone)
    assert client.get(f"/api/jobs/{own}/prints").json["prints"][0]["gone"] == ["Rear lower link"]


def test_a_draft_s_sheet_is_never_one_to_cut_from(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:
    own = job["job_id"]
    pack = packed(client, worker, own)
    part_id, metal = next(iter(metals(pack).items()))
    (printed,) = client.get(f"/api/jobs/{own}/prints").json["prints"]
    assert printed["issued"] is False
    found = client.get(f"/api/jobs/{own}/sheets/{printed['number']}/{part_id}?m={metal}").json
    assert found["current"] is False
    assert found["lines"] == [f"This sheet is of a draft, rev {printed['number']}: nothing is to be cut from it."]


def test_chosen_parts_are_packed_alone_noted_alone_and_an_unknown_one_is_named(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:  # fmt: skip
    own, some = job["job_id"], [part["id"] for part in job["design"]["parts"][:2]]
    assert set(metals(packed(client, worker, own, parts=some))) == set(some)
    (printed,) = client.get(f"/api/jobs/{own}/prints").json["prints"]
    assert printed["parts"] == 2
    task = new_id()
    client.post("/api/tasks/pack", json={"id": task, "job_id": own, "what": "pack.pdf", "parts": [new_id()]})
    while worker.once():
        pass
    assert "None of the parts" in client.get(f"/api/tasks/{task}").json["fault"]
    assert (
        client.post(
            "/api/tasks/pack", json={"id": new_id(), "job_id": own, "what": "pack.pdf", "parts": []}
        ).status_code
        == 422
    )


def test_the_label_printer_shows_what_it_prints_and_it_is_noted(client: FlaskClient, job: dict[str, Any]) -> None:
    own = job["job_id"]
    arm = next(part["id"] for part in job["design"]["parts"] if part["name"] == "Front lower arm")
    drafted = client.post(f"/api/jobs/{own}/labels", json={"parts": [arm]}).json
    assert "simulated" in drafted["printer"]
    assert drafted["issued"] is False
    assert [one["hand"] for one in drafted["labels"]] == ["LEFT", "RIGHT"]
    number = issue(client, own, "to build from")
    every = client.post(f"/api/jobs/{own}/labels", json={}).json
    assert (every["number"], every["issued"]) == (number, True)
    assert len({one["part_id"] for one in every["labels"]}) + len(every["left_out"]) == len(job["design"]["parts"])
    texts = {item.get("text") for one in every["labels"] for item in one["drawing"]["items"]}
    assert f"rev {number}" in texts
    assert {one["what"] for one in client.get(f"/api/jobs/{own}/prints").json["prints"]} == {"labels"}
    assert client.post(f"/api/jobs/{own}/labels", json={"parts": [new_id()]}).status_code == 422


@pytest.mark.parametrize("job_id", ["0190a000-0000-7000-8000-0000000000ff", "ä"])
def test_of_a_job_that_is_not_there_nothing_is_told(client: FlaskClient, job_id: str) -> None:
    assert client.get(f"/api/jobs/{job_id}/prints").status_code == 404
    assert client.post(f"/api/jobs/{job_id}/labels", json={}).status_code == 404


def tick(part: dict[str, Any], step: str, hand: str, *, done: bool = True, at: int = 1_700_000_000_000, number: int | None = None) -> dict[str, Any]:  # fmt: skip
    return {"id": new_id(), "number": number, "part_id": part["id"], "hand": hand, "step": step, "metal": part["metal"], "done": done, "at_ms": at}  # fmt: skip


def bench_part(client: FlaskClient, job_id: str, name: str) -> dict[str, Any]:
    return next(part for part in client.get(f"/api/jobs/{job_id}/bench").json["parts"] if part["name"] == name)


def standing(part: dict[str, Any]) -> set[tuple[str, str]]:
    return {(one["step"], one["hand"]) for one in part["ticks"] if one["done"]}


def test_ticks_are_kept_once_the_later_made_stands_and_those_of_other_metal_count_for_nothing(client: FlaskClient, job: dict[str, Any]) -> None:  # fmt: skip
    own = job["job_id"]
    path = f"/api/jobs/{own}/ticks"
    part = bench_part(client, own, "Rear lower link")
    steps = client.get(f"/api/jobs/{own}/bench/steps").json["steps"][part["id"]]
    assert len(steps) == part["steps"] > 3
    saw = next(step["key"] for step in steps if step["kind"] == "saw")
    left, right = tick(part, saw, "left"), tick(part, saw, "right", at=1_700_000_005_000)
    for _ in range(2):  # a repeat after a lost answer does no harm
        assert client.post(path, json={"ticks": [left, right]}).status_code == 200
    assert standing(bench_part(client, own, "Rear lower link")) == {(saw, "left"), (saw, "right")}
    # one that was made earlier and comes later does not undo what was ticked after it; one that was made later does
    client.post(path, json={"ticks": [tick(part, saw, "right", done=False, at=1_700_000_001_000)]})
    assert (saw, "right") in standing(bench_part(client, own, "Rear lower link"))
    client.post(path, json={"ticks": [tick(part, saw, "right", done=False, at=1_700_000_009_000)]})
    assert standing(bench_part(client, own, "Rear lower link")) == {(saw, "left")}
    # a clock a century ahead does not outlast what is ticked now
    client.post(path, json={"ticks": [tick(part, saw, "left", done=False, at=4_900_000_000_000)]})
    client.post(path, json={"ticks": [tick(part, saw, "left", at=4_900_000_000_001)]})
    assert standing(bench_part(client, own, "Rear lower link")) == {(saw, "left")}
    design, part_id = longer(job["design"], "Rear lower link")
    save(client, own, design)
    other = bench_part(client, own, "Rear lower link")
    assert other["metal"] != part["metal"]
    assert standing(other) == set()
    assert other["otherwise"] == 1
    assert part_id == other["id"]


def test_the_steps_of_what_is_issued_are_those_that_it_was_issued_with(client: FlaskClient, job: dict[str, Any], monkeypatch: pytest.MonkeyPatch) -> None:  # fmt: skip
    own = job["job_id"]
    issue(client, own, "to build from")
    before = client.get(f"/api/jobs/{own}/bench/steps").json
    count = bench_part(client, own, "Rear lower link")["steps"]
    assert count
    monkeypatch.setattr("tirante.api.bench.steps_told", lambda job: {})
    assert client.get(f"/api/jobs/{own}/bench/steps").json == before
    assert bench_part(client, own, "Rear lower link")["steps"] == count
    assert client.get(f"/api/jobs/{own}/bench/steps?draft=1").json == {"steps": {}}


@pytest.mark.parametrize(
    ("field", "value"),
    [("hand", "middle"), ("step", "x; DROP TABLE tick"), ("step", "second"), ("step", "seen"), ("metal", "no"), ("at_ms", -1), ("done", 1), ("part_id", "x"), ("id", "x"), ("number", -1)],
)  # fmt: skip
def test_a_tick_that_is_none_is_refused_by_its_field(
    client: FlaskClient, job: dict[str, Any], field: str, value: object
) -> None:
    part = {"id": new_id(), "metal": "0123456789abcdef"}
    answer = client.post(
        f"/api/jobs/{job['job_id']}/ticks", json={"ticks": [{**tick(part, "saw:0", "left"), field: value}]}
    )
    assert answer.status_code == 422
    assert answer.json["issues"][0]["path"] == f"ticks.0.{field}"
    assert client.post(f"/api/jobs/{new_id()}/ticks", json={"ticks": [tick(part, "saw:0", "left")]}).status_code == 404
