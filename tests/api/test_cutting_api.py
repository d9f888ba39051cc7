"""The plates of a job on the simulated cutting table, through the API."""

from __future__ import annotations

import copy
import csv
import io
import json
import uuid
from dataclasses import replace
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.jobs import work
from tirante.api.laid import SheetsIn, sheets_of
from tirante.core.flat.contour import polygon
from tirante.documents.cutting_table import drive
from tirante.documents.saw import saw
from tirante.server.worker import Worker


def test_time_is_of_every_count_and_what_has_no_file_is_named(client: FlaskClient, job: dict[str, Any]) -> None:
    answer = client.post("/api/cutting-table", json={"design": job["design"], "kerf_mm": 1.0})
    assert answer.status_code == 200, answer.json
    found = answer.json
    assert found["seconds"] == pytest.approx(sum(one["count"] * one["seconds"] for one in found["plates"]))
    assert any(one["count"] > 1 for one in found["plates"])
    assert found["left_out"] == []  # its gussets have files too
    bare = copy.deepcopy(job["design"])
    pair = next(part for part in bare["parts"] if part["kind"] == "tab_pair")
    pair["hole"] = {"mm": 90}
    found = client.post("/api/cutting-table", json={"design": bare}).json
    assert pair["name"] in [one["name"] for one in found["left_out"]]
    assert pair["id"] not in [one["part_id"] for one in found["plates"]]


@pytest.mark.parametrize("kerf", [0, -1, 11, "1", None])
def test_a_kerf_that_no_table_has_is_refused_by_its_field(
    client: FlaskClient, job: dict[str, Any], kerf: object
) -> None:
    answer = client.post("/api/cutting-table", json={"design": job["design"], "kerf_mm": kerf})
    assert answer.status_code == 422
    assert "kerf_mm" in answer.json["issues"][0]["path"]


SAW = {"stock_mm": 6000.0, "kerf_mm": 2.0, "trim_start_mm": 10.0, "trim_end_mm": 10.0}
SHEETS = {"length_mm": 1000.0, "width_mm": 500.0, "spacing_mm": 5.0, "edge_mm": 8.0, "seconds": 1.0}


def laid(
    client: FlaskClient, worker: Worker, what: str, job: dict[str, Any], **more: object
) -> tuple[dict[str, Any], str]:
    """What came of laying a job out, and the task that it came of."""
    own = new_id()
    given = SAW if what == "sticks" else SHEETS
    asked = client.post(f"/api/tasks/{what}", json={"design": job["design"], "job_id": job["job_id"], "id": own, **given, **more})  # fmt: skip
    assert asked.status_code == 200, asked.json
    assert asked.json["state"] == "queued"
    while worker.once():
        pass
    done = client.get(f"/api/tasks/{own}").json
    assert done["state"] == "done", done
    return done[what], own


def new_id() -> str:
    return str(uuid.uuid4())


def on_rack(client: FlaskClient, **row: object) -> dict[str, Any]:
    """A row put on the rack."""
    own = {
        "id": new_id(),
        "sort": "tube",
        "width_mm": None,
        "thick_mm": None,
        "count": 1,
        "offcut": True,
        "place": "bay 7",
        "heat": "",
        "note": "",
        **row,
    }
    answer = client.post("/api/rack", json={"row": own, "version": 0})
    assert answer.status_code == 200, answer.json
    return own


def rows_of(client: FlaskClient) -> list[dict[str, Any]]:
    return [one["row"] for one in client.get("/api/rack").json["rows"]]


def test_the_saw_s_list_is_laid_out_on_what_the_rack_holds(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:  # fmt: skip
    """An offcut put on the rack is cut first, and taken off it by nothing but a person."""
    plain = laid(client, worker, "sticks", job)[0]["tubes"]
    pieces = client.post("/api/evaluate", json={"design": job["design"]}).json["cut_list"]["pieces"]
    assert sum(len(one["pieces"]) for one in plain) == sum(p["count"] for p in pieces if p["off_mm"] is None)
    assert all(one["proven"] and one["drawing"] and not one["fault"] for one in plain)
    first = plain[0]
    own = on_rack(client, stock=first["tube"], material=first["grade"], length_mm=5000.0)
    try:
        after = laid(client, worker, "sticks", job)[0]["tubes"][0]
        assert after["new"] == first["new"] - 1
        assert "1 from the rack" in after["told"]
        assert any("bay 7" in item.get("text", "") for item in after["drawing"]["items"])
        assert own in rows_of(client)
    finally:
        client.post(f"/api/rack/{own['id']}/remove", json={"version": 1})
    short = laid(client, worker, "sticks", job, stock_mm=100.0)[0]["tubes"]
    assert all("Take longer stock" in one["fault"] and one["drawing"] is None for one in short)
    for what, field in (("sticks", "kerf_mm"), ("sheets", "spacing_mm")):
        given = SAW if what == "sticks" else SHEETS
        refused = client.post(f"/api/tasks/{what}", json={"design": job["design"], "job_id": job["job_id"], "id": new_id(), **given, field: -1})  # fmt: skip
        assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, field)


def test_a_layout_is_kept_cut_and_taken_back_through_the_api(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:  # fmt: skip
    """Kept as it came of its task; cutting it puts what is left on the rack, taking it back takes that off again."""
    path = f"/api/jobs/{job['job_id']}/cuttings"
    found, task = laid(client, worker, "sticks", job)
    first = found["tubes"][0]
    before = client.get("/api/rack").json["rows"]
    own = new_id()
    kept = client.post(path, json={"id": own, "task_id": task, "index": 0})
    assert kept.status_code == 200, kept.json
    (one,) = kept.json["cuttings"]
    sticks = one["sticks"]["sticks"]
    assert (one["id"], one["state"], len(sticks)) == (own, "kept", first["new"])
    assert sorted(p["length_mm"] for s in sticks for p in s["pieces"]) == sorted(first["lengths_mm"])
    metals = {part["id"]: part["metal"] for part in client.post("/api/evaluate", json={"design": job["design"]}).json["parts"]}  # fmt: skip
    assert one["parts"]
    assert all(metals[part["id"]] == part["metal"] for part in one["parts"])
    ids = [new_id() for _ in range(20)]
    said = {"ids": ids, "least_mm": 100.0, "place": "bay 3", "heat": "H-77"}
    cut = client.post(f"{path}/{own}/confirm", json=said)
    assert (cut.status_code, cut.json["cuttings"][0]["state"]) == (200, "cut")
    added = [row for row in rows_of(client) if row["id"] in ids]
    assert sum(row["count"] for row in added) == sum(s["left_mm"] >= 100.0 for s in sticks)
    assert all((row["place"], row["heat"], row["offcut"]) == ("bay 3", "H-77", True) for row in added)
    assert cut.json["cuttings"][0]["sticks"]["new_heat"] == "H-77"
    assert client.post(f"{path}/{own}/remove", json={}).status_code == 409
    undone = client.post(f"{path}/{own}/undo", json={})
    assert (undone.json["cuttings"][0]["state"], undone.json["cuttings"][0]["sticks"]["new_heat"]) == ("undone", "")
    assert client.get("/api/rack").json["rows"] == before
    again = client.post(f"{path}/{own}/confirm", json=said)
    assert (again.status_code, again.json["code"]) == (409, "other_state")
    assert client.post(f"{path}/{own}/remove", json={}).json == {"cuttings": []}
    assert client.post(f"{path}/{new_id()}/confirm", json=said).status_code == 404


def test_nothing_is_kept_but_what_a_task_of_this_job_came_to(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:  # fmt: skip
    path = f"/api/jobs/{job['job_id']}/cuttings"
    found, task = laid(client, worker, "sticks", job, stock_mm=100.0)
    none = client.post(path, json={"id": new_id(), "task_id": task, "index": 0})
    assert (none.status_code, none.json["issues"][0]["path"]) == (422, "index")
    past = client.post(path, json={"id": new_id(), "task_id": task, "index": len(found["tubes"])})
    assert (past.status_code, past.json["issues"][0]["path"]) == (422, "index")
    other = client.post("/api/import", json={"id": new_id(), "design": job["design"]}).json
    strange = client.post(f"/api/jobs/{other['job_id']}/cuttings", json={"id": new_id(), "task_id": task, "index": 0})
    assert (strange.status_code, strange.json["code"]) == (409, "not_laid_out")
    waits = new_id()
    client.post("/api/tasks/sticks", json={"design": job["design"], "job_id": job["job_id"], "id": waits, **SAW})
    early = client.post(path, json={"id": new_id(), "task_id": waits, "index": 0})
    assert (early.status_code, early.json["code"]) == (409, "not_laid_out")
    assert client.get(path).json == {"cuttings": []}
    assert worker.once()


def test_an_offcut_that_is_gone_when_it_is_cut_is_named(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:  # fmt: skip
    path = f"/api/jobs/{job['job_id']}/cuttings"
    first = laid(client, worker, "sticks", job)[0]["tubes"][0]
    stick = on_rack(client, stock=first["tube"], material=first["grade"], length_mm=5000.0)
    _, task = laid(client, worker, "sticks", job)
    own = new_id()
    client.post(path, json={"id": own, "task_id": task, "index": 0})
    client.post(f"/api/rack/{stick['id']}/remove", json={"version": 1})
    refused = client.post(f"{path}/{own}/confirm", json={"ids": [new_id() for _ in range(9)]})
    assert (refused.status_code, refused.json["code"]) == (409, "changed")
    assert "from bay 7 is not on the rack any more" in refused.json["message"]
    assert client.get(path).json["cuttings"][0]["state"] == "kept"


def test_plates_are_laid_out_on_an_offcut_first_kept_driven_cut_and_taken_back(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:  # fmt: skip
    """The table cuts every plate of the very file; the offcut goes off the rack, its rest and the new sheet's go on it with their width and thickness."""
    path = f"/api/jobs/{job['job_id']}/cuttings"
    before = client.get("/api/rack").json["rows"]
    offcut = on_rack(client, sort="sheet", stock="plate 3 mm", material="S275", length_mm=420.0, width_mm=300.0)
    other = on_rack(client, sort="sheet", stock="plate", thick_mm=3.0, material="oak", length_mm=420.0, width_mm=300.0)
    found, task = laid(client, worker, "sheets", job)
    index, nest = next((i, one) for i, one in enumerate(found["nests"]) if (one["material"], one["thickness_mm"]) == ("S275 plate", 3.0))  # fmt: skip
    wanted = sum(plate["count"] for plate in nest["plates"])
    assert sum(sheet["plates"] for sheet in nest["sheets"]) == wanted > 10
    assert "1 from the rack" in nest["told"]
    assert nest["left_out"] == ["1 × 420 × 300 mm bay 7: oak, not S275 plate"]
    assert [one["thickness_mm"] for one in found["nests"]] == sorted((one["thickness_mm"] for one in found["nests"]), reverse=True)  # fmt: skip
    own = new_id()
    kept = client.post(path, json={"id": own, "task_id": task, "index": index}).json["cuttings"][0]
    assert (kept["title"], kept["sticks"], len(kept["sheets"])) == ("3 mm S275 plate", None, len(nest["sheets"]))
    assert kept["sheets"][0]["title"].startswith("sheet 1 of")
    assert "offcut, bay 7" in kept["sheets"][0]["title"]
    run = client.post(f"{path}/{own}/machine", json={}).json
    assert [one["faults"] for one in run["runs"]] == [[]] * len(nest["sheets"])
    assert [int(one["told"].split()[0]) for one in run["runs"]] == [sheet["plates"] for sheet in nest["sheets"]]
    file = client.get(f"{path}/{own}/sheet-1.dxf")
    assert (file.status_code, file.mimetype) == (200, "image/vnd.dxf")
    assert drive(file.data, 3.0).parts == nest["sheets"][0]["plates"]
    for wrong in ("sheet-0.dxf", f"sheet-{len(nest['sheets']) + 1}.dxf", "sheet-x.dxf", "cut-order.csv"):
        assert client.get(f"{path}/{own}/{wrong}").status_code == 404
    ids = [new_id() for _ in range(9)]
    assert (
        client.post(f"{path}/{own}/confirm", json={"ids": ids, "least_mm": 50.0, "place": "rack B"}).status_code == 200
    )
    now = {row["id"]: row for row in rows_of(client)}
    assert offcut["id"] not in now
    put = [now[own_id] for own_id in ids if own_id in now]
    lefts = sorted((sheet["left_mm"], sheet["width_mm"]) for sheet in nest["sheets"] if sheet["left_mm"] >= 50.0)
    assert sorted((row["length_mm"], row["width_mm"]) for row in put for _ in range(row["count"])) == lefts
    assert all((row["sort"], row["thick_mm"], row["material"], row["place"]) == ("sheet", 3.0, "S275 plate", "rack B") for row in put)  # fmt: skip
    assert client.post(f"{path}/{own}/undo", json={}).status_code == 200
    assert {row["id"] for row in rows_of(client)} == {one["row"]["id"] for one in before} | {offcut["id"], other["id"]}
    for one, version in ((offcut, None), (other, 1)):
        version = version or next(row["version"] for row in client.get("/api/rack").json["rows"] if row["row"]["id"] == one["id"])  # fmt: skip
        client.post(f"/api/rack/{one['id']}/remove", json={"version": version})
    assert client.get("/api/rack").json["rows"] == before


def test_a_layout_of_sticks_goes_to_the_saw_and_every_piece_is_cut(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:  # fmt: skip
    path = f"/api/jobs/{job['job_id']}/cuttings"
    found, task = laid(client, worker, "sticks", job)
    own = new_id()
    kept = client.post(path, json={"id": own, "task_id": task, "index": 0}).json["cuttings"][0]
    order = client.get(f"{path}/{own}/cut-order.csv")
    assert (order.status_code, order.mimetype) == (200, "text/csv")
    lengths = [piece["length_mm"] for stick in kept["sticks"]["sticks"] for piece in stick["pieces"]]
    assert [one.stop for one in saw(order.data, 2.0).cuts] == pytest.approx(lengths)
    run = client.post(f"{path}/{own}/machine", json={}).json
    assert len(run["runs"]) == len(found["tubes"][0]["pieces"])
    assert not any(one["faults"] for one in run["runs"])
    assert "simulated" in run["machine"]
    assert client.post(f"{path}/{new_id()}/machine", json={}).status_code == 404


def test_an_order_goes_out_as_a_file_and_comes_back_with_prices(client: FlaskClient, job: dict[str, Any]) -> None:
    """The file that is sent, priced, laid beside the order: every line is found again."""
    asked = {"design": job["design"]}
    sent = client.post("/api/order.csv", json=asked)
    assert (sent.status_code, sent.mimetype) == (200, "text/csv")
    every = list(csv.DictReader(io.StringIO(sent.get_data(as_text=True))))
    rows = [row for row in every if row["what"]]
    assert any(row["remark"].startswith("not counted: gas, paint and how much filler") for row in every)
    out = io.StringIO()
    writer = csv.writer(out, delimiter=";")
    writer.writerow(["what", "hand", "price"])
    for i, row in enumerate(rows):
        writer.writerow([row["what"], row["hand"], f"{i + 1},5"])
    found = client.post("/api/order", json={**asked, "suppliers": [out.getvalue(), "what,price\n"]}).json
    assert [one["offers"] for one in found["lines"]] == [[i + 1.5, None] for i in range(len(rows))]
    assert found["offers"][0]["missing"] == 0
    assert found["offers"][0]["total"] == pytest.approx(
        sum((i + 1.5) * one["count"] for i, one in enumerate(found["lines"]))
    )
    assert found["offers"][1] == {"total": 0, "missing": len(rows)}
    assert found["unknown"] == sum(one["each"] is None for one in found["lines"])
    # an end by itself: its links, and the brackets of their joints; the two ends together are the job, which has nothing else
    ends = [
        client.post("/api/order", json={**asked, "end_id": end["id"]}).json["lines"] for end in job["design"]["ends"]
    ]
    whole = {(one["what"], one["hand"]): one["count"] for one in found["lines"]}
    for key, count in whole.items():
        both = sum(one["count"] for lines in ends for one in lines if (one["what"], one["hand"]) == key)
        assert both == pytest.approx(count), key
    assert all(0 < len(lines) < len(found["lines"]) for lines in ends)
    refused = client.post("/api/order", json={**asked, "suppliers": ["what,price\nx,y\n"]})
    assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, "suppliers.0")


def test_sheets_are_laid_out_with_the_spacing_the_edge_and_the_turns_that_were_asked_for(job: dict[str, Any]) -> None:
    """Of every plate as it lies, by a general library: how far from the sheet's edge, how far from one another, how far turned."""
    spacing, edge = 25.0, 4.0
    given = {"id": new_id(), "job_id": job["job_id"], "design": job["design"], **SHEETS, "spacing_mm": spacing, "edge_mm": edge, "turns": "half"}  # fmt: skip
    data = SheetsIn.model_validate_json(json.dumps(given))
    kept = [one for one in sheets_of(work(data.design), [], data, "draft", lambda done, of: True).kept if one]
    assert kept
    closest, reached = [], []
    for nest in kept:
        for sheet in nest.sheets:
            lying = [polygon(nest.shapes[one.shape].outline.placed(one.x_mm, one.y_mm, one.angle_deg)) for one in sheet.placed]  # fmt: skip
            closest += [a.distance(b) for i, a in enumerate(lying) for b in lying[i + 1 :]]
            for x0, y0, x1, y1 in (one.bounds for one in lying):
                reached.append(min(x0, y0, sheet.length_mm - x1, sheet.width_mm - y1))
            assert {one.angle_deg % 180.0 for one in sheet.placed} == {0.0}
    assert spacing - 0.01 <= min(closest) < spacing + 15.0
    assert edge - 0.01 <= min(reached) < edge + 1.0


def test_what_the_vice_does_not_hold_is_named_and_the_saw_takes_the_layout_s_own_kerf(
    client: FlaskClient, job: dict[str, Any], worker: Worker, monkeypatch: pytest.MonkeyPatch
) -> None:
    told = [one["told"] for one in laid(client, worker, "sticks", job, hold_mm=300.0)[0]["tubes"]]
    assert any("shorter than the vice holds" in one for one in told)
    found, task = laid(client, worker, "sticks", job, kerf_mm=7.0, hold_mm=0.0)
    assert not any("shorter than the vice holds" in one["told"] for one in found["tubes"])
    path, own = f"/api/jobs/{job['job_id']}/cuttings", new_id()
    index = next(i for i, one in enumerate(found["tubes"]) if len(one["pieces"]) > 2)
    (kept,) = client.post(path, json={"id": own, "task_id": task, "index": index}).json["cuttings"]
    run = client.post(f"{path}/{own}/machine", json={}).json
    lefts = [float(one["told"].split("; ")[1].split(" mm left")[0]) for one in run["runs"]]
    last, at = [], -1
    for stick in kept["sticks"]["sticks"]:
        at += len(stick["pieces"])
        last.append(lefts[at])
    assert last == [
        pytest.approx(stick["left_mm"], abs=0.1 * (1 + len(stick["pieces"]))) for stick in kept["sticks"]["sticks"]
    ]
    client.post(f"{path}/{own}/remove", json={})
    # a table that cuts fewer plates than lie on the sheet is said to
    _, task = laid(client, worker, "sheets", job)
    nest = new_id()
    assert client.post(path, json={"id": nest, "task_id": task, "index": 0}).status_code == 200

    def loses_one(*given: Any) -> Any:
        done = drive(*given)
        return replace(done, parts=done.parts - 1)

    monkeypatch.setattr("tirante.api.sawing.drive", loses_one)
    run = client.post(f"{path}/{nest}/machine", json={}).json
    assert all(one["faults"] and one["faults"][0].startswith("It cuts ") for one in run["runs"])
    client.post(f"{path}/{nest}/remove", json={})
