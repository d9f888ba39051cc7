"""Loads, sizing of the whole job, the turn sheet and what gives first, through the API."""

from __future__ import annotations

import json
import shlex
import uuid
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.api.asked import named, of_kind, put
from tirante.calc import calculate
from tirante.server.worker import Worker
from tirante.storage import tasks


def loads(client: FlaskClient, design: dict[str, Any], end: int = 0, **more: Any) -> Any:
    answer = client.post("/api/loads", json={"design": design, "end_id": design["ends"][end]["id"], **more})
    assert answer.status_code == 200, answer.json
    return answer.json


def test_every_case_of_the_demo_is_carried_and_one_is_drawn(client: FlaskClient, job: dict[str, Any]) -> None:
    found = loads(client, job["design"], 1)
    assert found["faults"] == []
    assert all(case["fault"] is None and case["residual"] < 1e-9 for case in found["cases"])
    assert found["drawing"]["name"] == "loads"
    # the hardest case is the one that is shown; its link carries what the table of the worst says
    hardest = max(found["cases"], key=lambda case: abs(case["hardest_n"]))
    assert found["shown"] == hardest["name"]
    worst = next(row for row in found["links"] if row["part"] == hardest["hardest"])
    assert hardest["hardest_n"] in (pytest.approx(worst["pull_n"]), pytest.approx(worst["push_n"]))
    other = loads(client, job["design"], 1, case="brake 0.9 g")
    assert other["shown"] == "brake 0.9 g"
    written = [item["text"] for item in other["drawing"]["items"] if item["kind"] == "text"]
    lower = next(part["force_n"] for part in other["parts"] if part["part"] == "lower link, left")
    assert any(f"{abs(lower) / 1000:.2f} kN" in text for text in written)


@pytest.mark.parametrize(
    ("end", "case"),
    [(1, "rearward pothole 2.5 g with bump 2 g, left wheel"), (0, "corner 0.9 g, turning left"), (0, "droop snatch")],
)
def test_the_command_repeats_a_case_to_the_last_digit(
    client: FlaskClient, job: dict[str, Any], end: int, case: str
) -> None:
    found = loads(client, job["design"], end, case=case)
    words = shlex.split(found["command"])
    assert words[0] == "echo"
    assert words[2:] == ["|", "./tirante", "calc", "loads"]
    again = calculate("loads", words[1])["cases"][0]
    for part in found["parts"]:
        if part["kind"] == "link":
            assert again["axial_n"][part["part"]] == pytest.approx(part["force_n"], rel=1e-9, abs=1e-6)


def test_what_a_case_lacks_is_named_at_it_and_the_others_stand(client: FlaskClient, job: dict[str, Any]) -> None:
    design = json.loads(json.dumps(job["design"]))
    design["ends"][1]["end"]["bump_stop"] = None
    points = design["ends"][1]["end"]["points"]
    del points["stop_tip"], points["stop_pad"]
    found = loads(client, design, 1)
    landings = [case for case in found["cases"] if case["kind"] == "landing"]
    assert all("bump stop" in case["fault"] for case in landings)
    assert sum(case["fault"] is None for case in found["cases"]) == len(found["cases"]) - len(landings)
    design["car"]["corners"] = None
    bare = loads(client, design, 0)
    assert all("corner weights" in case["fault"] for case in bare["cases"] if case["kind"] in ("car", "wheel"))
    assert bare["drawing"] is not None  # the snatch needs no standing load


@pytest.mark.parametrize(
    ("change", "path"),
    [({"kind": "landing", "drop_mm": None, "speed_m_s": None}, "design.loads.cases.0"), ({"vertical": -1.0}, "design.loads.cases.0.vertical"),
     ({"kind": "wheel", "vertical": 0.0, "longitudinal": 0.0, "lateral": 0.0}, "design.loads.cases.0")],
)  # fmt: skip
def test_a_bad_case_is_refused_at_its_field(
    client: FlaskClient, job: dict[str, Any], change: dict[str, Any], path: str
) -> None:
    design = json.loads(json.dumps(job["design"]))
    design["loads"]["cases"][0] |= change
    answer = client.post("/api/loads", json={"design": design, "end_id": design["ends"][0]["id"]})
    assert answer.status_code == 422
    assert any(issue["path"].startswith(path) for issue in answer.json["issues"]), answer.json


def test_the_sets_that_ship_say_where_each_factor_is_from(client: FlaskClient) -> None:
    sets = client.get("/api/load-sets").json["sets"]
    assert {"road", "circuit", "off-road"} <= {one["name"] for one in sets}
    assert all(case["source"] for one in sets for case in one["cases"])


def test_pick_up_loads_go_out_as_csv(client: FlaskClient, job: dict[str, Any]) -> None:
    body = {"design": job["design"], "end_id": job["design"]["ends"][0]["id"]}
    rows = client.post("/api/loads/pick-ups", json=body).json["text"].splitlines()
    assert rows[0].startswith("end,case,travel_mm")
    assert {row.split(",")[0] for row in rows[1:]} == {"Front", "Rear"}


def test_worked_cases_reach_the_links_and_are_never_saved(client: FlaskClient, job: dict[str, Any]) -> None:
    panhard = named(client.post("/api/evaluate", json={"design": job["design"]}).json, "Panhard rod")
    worked = {case["name"] for case in panhard["own"]["cases"] if case["worked"]}
    assert worked
    sized = client.post("/api/size", json={"design": job["design"], "part_id": panhard["id"]}).json
    (kept,) = [part for part in sized["winner"]["patch"]["parts"] if part["id"] == panhard["id"]]
    assert not worked & {case["name"] for case in kept["cases"]}


def sized(client: FlaskClient, worker: Worker, **body: Any) -> Any:
    """A whole job sized: asked for, done by a worker, fetched."""
    asked = client.post("/api/tasks/size-all", json={"id": str(uuid.uuid4()), **body})
    assert (asked.status_code, asked.json["state"]) == (200, "queued"), asked.json
    while worker.once():
        pass
    done = client.get(f"/api/tasks/{asked.json['id']}").json
    assert (done["state"], done["fault"]) == ("done", None)
    return done["sized"]


def test_the_whole_job_is_sized_and_holds(client: FlaskClient, job: dict[str, Any], worker: Worker) -> None:
    found = sized(client, worker, design=job["design"], aim="stocks")
    # brackets too, after the members that they hold
    assert {one["kind"] for one in found["parts"]} == {
        "link",
        "arm",
        "steering_rack",
        "tab_pair",
        "folded_u",
        "strike_pad",
        "bearing_pad",
    }
    kinds = [one["kind"] in ("link", "arm") for one in found["parts"]]
    assert kinds == sorted(kinds, reverse=True)
    # what is bought whole is not searched, and says so
    assert [one["kind"] for one in found["parts"] if not one["sized"]] == ["steering_rack"]
    assert found["stocks"] == len(
        {(one["tube"], one["grade"]) for one in found["parts"] if one["kind"] in ("link", "arm")}
    )
    after = client.post("/api/evaluate", json={"design": put(job["design"], found["patch"])}).json["parts"]
    assert not [
        (part["name"], part["status"], part["headline"]) for part in after if part["status"] not in ("ok", "attention")
    ]
    light = sized(client, worker, design=job["design"])
    assert light["mass_kg"] <= found["mass_kg"] + 1e-9
    assert light["stocks"] >= found["stocks"]
    dear = sized(client, worker, design=job["design"], aim="cost")
    assert all("price" in one["advice"] for one in dear["parts"] if one["kind"] != "steering_rack")
    assert all(not one["sized"] for one in dear["parts"] if one["kind"] in ("link", "arm"))


def test_a_search_says_which_cases_it_was_made_without(
    client: FlaskClient, job: dict[str, Any], worker: Worker
) -> None:
    design = json.loads(json.dumps(job["design"]))
    end = design["ends"][1]["end"]
    end["bump_stop"] = None
    del end["points"]["stop_tip"], end["points"]["stop_pad"]
    rear = next(part for part in of_kind(design, "link") if part["name"] == "Panhard rod")
    alone = client.post("/api/size", json={"design": design, "part_id": rear["id"]}).json
    assert "why is listed beside the checks" in alone["advice"]
    every = {one["name"]: one["advice"] for one in sized(client, worker, design=design)["parts"]}
    assert "why is listed beside the checks" in every["Panhard rod"]
    assert "carried" not in every["Front tie rod"]


def test_the_turn_sheet_brings_the_toe_to_where_it_is_wanted(client: FlaskClient, job: dict[str, Any]) -> None:
    body = {"design": job["design"], "end_id": job["design"]["ends"][0]["id"]}
    sheet = client.post("/api/turn-sheet", json=body).json
    tie = next(one for one in sheet["adjusters"] if one["name"] == "tie rod")
    assert tie["unit"] == "turn"
    wanted = [{"measure": "toe_deg", "measured": 1.0, "wanted": 0.0, "within": 0.2}]
    found = client.post("/api/turn-sheet", json={**body, "wanted": wanted, "ranges": {"toe_deg": 1.5}}).json
    assert found["reached"] is True
    (turned,) = found["turns"]
    assert turned["turns"] * tie["change"]["toe_deg"] == pytest.approx(-1.0, abs=0.25)
    budget = next(one for one in found["budget"] if one["name"] == "tie rod")
    # the thread that one end of the range uses up is what the other leaves
    one, other = budget["at_shortest"][0], budget["at_longest"][0]
    assert one["engagement_mm"] + one["showing_mm"] == pytest.approx(other["engagement_mm"] + other["showing_mm"])
    assert one["engagement_mm"] > other["engagement_mm"]
    far = client.post(
        "/api/turn-sheet", json={**body, "wanted": [{"measure": "toe_deg", "measured": 30.0, "wanted": 0.0}]}
    ).json
    assert far["reached"] is False
    assert far["misses"]["toe_deg"] != 0


def test_camber_and_caster_are_set_by_the_rod_ends_of_an_arm(client: FlaskClient, job: dict[str, Any]) -> None:
    body = {"design": job["design"], "end_id": job["design"]["ends"][0]["id"]}
    wanted = [
        {"measure": "camber_deg", "measured": 0.0, "wanted": 0.5, "within": 0.15},
        {"measure": "toe_deg", "measured": 0.0, "wanted": 0.0, "within": 0.1},
    ]
    found = client.post("/api/turn-sheet", json={**body, "wanted": wanted, "ranges": {"camber_deg": 0.6}}).json
    sides = [one for one in found["adjusters"] if one["name"].startswith("Front upper arm, ")]
    assert [one["unit"] for one in sides] == ["half turn", "half turn"]
    # a longer upper arm pushes the top of the wheel out; the two sides pull the caster opposite ways
    assert all(one["change"]["camber_deg"] > 0 for one in sides)
    assert sides[0]["change"]["caster_deg"] * sides[1]["change"]["caster_deg"] < 0
    assert found["reached"] is True
    turned = {one["name"]: one["turns"] for one in found["turns"]}
    assert any(turned.get(name, 0) > 0 for name in ("Front upper arm, front tube", "Front upper arm, rear tube"))
    assert all(count == int(count) for name, count in turned.items() if "arm" in name)
    # only the camber is asked for: it is not got by the tie rod, and toe and caster stay
    alone = client.post("/api/turn-sheet", json={**body, "wanted": wanted[:1]}).json
    count = {one["name"]: one["turns"] for one in alone["turns"]}
    assert alone["reached"] is True
    for measure in ("toe_deg", "caster_deg"):
        moved = sum(count.get(one["name"], 0.0) * one["change"][measure] for one in alone["adjusters"])
        assert abs(moved) < 0.25, measure
    assert abs(count.get("tie rod", 0.0)) <= 1.0
    again = calculate("turns", shlex.split(found["command"])[1])["turns"]
    assert again["tie rod"]["toe_deg"] == pytest.approx(found["adjusters"][0]["change"]["toe_deg"], rel=1e-9)
    assert again["upper_front – upper_outer"]["caster_deg"] == pytest.approx(sides[0]["change"]["caster_deg"], rel=1e-9)
    wide = client.post("/api/turn-sheet", json={**body, "wanted": wanted, "ranges": {"camber_deg": 2.5}}).json
    budget = {one["name"]: one for one in wide["budget"]}
    assert {"Front upper arm, front tube", "Front upper arm, rear tube", "tie rod"} <= set(budget)
    assert any("Front lower arm: does not adjust" in one for one in found["fixed"])
    # 2.5° either way takes more thread than the inserts have: the arm's rod ends are turned for it, and toe is set again
    assert budget["Front upper arm, front tube"]["longest"] > 0
    assert budget["Front upper arm, front tube"]["shortest"] < 0
    assert not budget["Front upper arm, front tube"]["ok"]
    assert abs(budget["tie rod"]["longest"]) < 12


def test_a_search_says_how_far_it_is_and_can_be_stopped(
    client: FlaskClient, job: dict[str, Any], worker: Worker, monkeypatch: pytest.MonkeyPatch
) -> None:
    while worker.once():
        pass  # what tests before this one left in the queue
    task = str(uuid.uuid4())
    assert client.get(f"/api/tasks/{task}").status_code == 404
    body = {"id": task, "job_id": job["job_id"], "design": job["design"]}
    assert client.post("/api/tasks/size-all", json=body).json["state"] == "queued"
    assert client.post("/api/tasks/size-all", json=body).json["id"] == task  # a repeated request asks no second time
    told: list[dict[str, Any]] = []
    tell = tasks.tell

    def stops_after_two(connection: Any, task_id: str, name: str, done: int, of: int, now: Any) -> bool:
        told.append(client.get(f"/api/tasks/{task}").json)
        if done == 2:
            client.post(f"/api/tasks/{task}/stop", json={})
        return tell(connection, task_id, name, done, of, now)

    monkeypatch.setattr(tasks, "tell", stops_after_two)
    assert worker.once()
    assert not worker.once()  # it was one task
    assert {one["state"] for one in told} == {"running"}
    found = client.get(f"/api/tasks/{task}").json
    assert (found["state"], found["sized"]["stopped"]) == ("done", True)
    assert len(found["sized"]["parts"]) == 2  # what is done stands
    assert found["of"] == len(job["design"]["parts"])
    waiting = str(uuid.uuid4())
    client.post("/api/tasks/size-all", json={"id": waiting, "design": job["design"]})
    assert client.post(f"/api/tasks/{waiting}/stop", json={}).json["state"] == "cancelled"
    assert not worker.once()


def test_what_gives_first_is_the_check_with_the_least_in_hand(client: FlaskClient, job: dict[str, Any]) -> None:
    found = client.post("/api/first-to-give", json={"design": job["design"]}).json
    rear = next(corner for corner in found["corners"] if corner["name"] == "Rear")
    times = [one["times"] for one in rear["gives"]]
    assert times == sorted(times)
    parts = client.post("/api/evaluate", json={"design": job["design"]}).json["parts"]
    own = {one["part_id"] for one in rear["gives"]}
    # no check of these links that a load asks for has less than the first
    for part in parts:
        for check in part["checks"]:
            if part["id"] in own and check["utilisation"] and check["case"] and check["unit"] in ("N", "MPa"):
                assert check["factor"] / check["utilisation"] >= times[0] - 1e-9
    assert any("uprights" in word for word in found["not_checked"])
    front = next(corner for corner in found["corners"] if corner["name"] == "Front")
    kinds = {part["id"]: part["kind"] for part in parts}
    arms = [one for one in front["gives"] if kinds[one["part_id"]] == "arm"]
    assert {one["of"] for one in arms} == {"Front upper arm", "Front lower arm"}
    assert {one["key"] for one in arms} <= {c["key"] for p in parts if p["kind"] == "arm" for c in p["checks"]}
    assert "tab_pair" in {kinds[one["part_id"]] for one in rear["gives"]}
    for screen in rear["fatigue"]:
        again = calculate("fatigue", shlex.split(screen["command"])[1])
        assert again[f"{again['governing']}_utilisation"] == pytest.approx(screen["share"], rel=1e-12)
    assert {one["name"] for one in rear["fatigue"]} == {"Rear lower link", "Rear upper link", "Panhard rod"}


def test_arms_are_made_sized_and_worked_out(client: FlaskClient, job: dict[str, Any]) -> None:
    design = {**job["design"], "parts": [], "joints": []}
    end = design["ends"][0]["id"]
    before = client.post("/api/evaluate", json={"design": design}).json["not_made"]
    assert {"upper arm", "lower arm"} <= {one["name"] for one in before if one["end_id"] == end}
    ids = [f"00000000-0000-4000-8000-00000000000{i}" for i in range(1, 4)]
    body = {"design": design, "end_id": end, "ids": ids, "kinds": ["arm"]}
    made = put(design, client.post("/api/parts/of-end", json=body).json)
    assert [arm["body"] for arm in made["parts"]] == ["upper_arm", "lower_arm"]
    bare = client.post("/api/evaluate", json={"design": made}).json["parts"]
    assert all("Size it" in arm["faults"][0]["message"] for arm in bare)
    sized = client.post("/api/size", json={"design": made, "part_id": ids[0]}).json["winner"]
    arm = client.post("/api/evaluate", json={"design": put(made, sized["patch"])}).json["parts"][0]
    assert (arm["status"], arm["stock"]) == ("ok", sized["tube"])
    assert arm["mass_kg"] == pytest.approx(sized["mass_kg"])
    nobody = {"design": made, "part_id": "00000000-0000-4000-8000-0000000000ff"}
    assert client.post("/api/size", json=nobody).status_code == 404
    wrong = json.loads(json.dumps(made))
    wrong["parts"][0]["tube"] = "no-such"
    refused = client.post("/api/evaluate", json={"design": wrong})
    assert refused.status_code == 422
    assert refused.json["issues"][0]["path"] == "design.parts.0.tube"


def test_what_is_to_be_settled_names_arms_and_cases_where_they_are(client: FlaskClient, job: dict[str, Any]) -> None:
    design = json.loads(json.dumps(job["design"]))
    arms = of_kind(design, "arm")
    arms[1]["brace_at"] = None
    arms[1]["stud"]["diameter_mm"] = 8.0
    arms[0]["pivot_end"]["insert"] = None
    points = design["ends"][1]["end"]["points"]
    design["ends"][1]["end"]["bump_stop"] = None
    del points["stop_tip"], points["stop_pad"]
    found = client.post("/api/evaluate", json={"design": design}).json["holds"]
    assert [one["rank"] for one in found] == sorted((one["rank"] for one in found), reverse=True)
    stud = next(one for one in found if one["selection"] == "check:stud")
    assert (stud["state"], stud["id"], stud["station"]) == ("stop", arms[1]["id"], "members")
    insert = next(one for one in found if one["selection"] == "field:pivot_end.insert")
    assert (insert["state"], insert["id"]) == ("incomplete", arms[0]["id"])
    case = next(one for one in found if one["station"] == "loads")
    assert "bump stop" in case["what"]
    assert case["id"] == design["ends"][1]["id"]


def test_an_arm_is_drawn_flat_with_its_lengths_and_uses(client: FlaskClient, job: dict[str, Any]) -> None:
    arms = of_kind(job["design"], "arm")
    arm = arms[1]
    found = client.post("/api/draw", json={"design": job["design"], "part_id": arm["id"], "view": "drawing"}).json
    items = found["drawing"]["items"]
    words = [item["text"] for item in items if item["kind"] == "text"]
    told = named(client.post("/api/evaluate", json={"design": job["design"]}).json, arm["name"])
    for name in ("front tube", "rear tube"):
        assert any(f"{told['own']['saw_mm'][name]:.1f} mm" in text for text in words)
    shown = {check["shown"] for check in told["checks"] if check["key"].split(":")[0] in ("frame_weld", "frame_column")}
    assert shown & set(words)
    # the side lengths are those of the end's points
    points = job["design"]["ends"][0]["end"]["points"]
    side = sum((a - b) ** 2 for a, b in zip(points["lower_front"], points["lower_outer"], strict=True)) ** 0.5
    assert any(f"{side:.1f}" in text for text in words)
    assert "check:gusset" in {item.get("ref") for item in items}
    upper = {"design": job["design"], "part_id": arms[0]["id"]}
    offers = client.post("/api/offers", json=upper).json["offers"]["pivot_end.joint"]
    assert arms[0]["pivot_end"]["joint"] in offers
    field = {"field": "pivot_end.joint"}
    (chosen,) = client.post("/api/choose", json={**upper, **field, "key": offers[0]}).json["parts"]
    assert chosen["pivot_end"]["joint"] == offers[0]
    wrong = client.post("/api/choose", json={**upper, **field, "key": "no-such"})
    assert (wrong.status_code, wrong.json["issues"][0]["path"]) == (422, "key")


def test_the_bend_of_a_link_is_taken_from_what_it_comes_near_to(client: FlaskClient, job: dict[str, Any]) -> None:
    ids = {link["name"]: link["id"] for link in of_kind(job["design"], "link")}
    near = client.post("/api/study/bend", json={"design": job["design"], "part_id": ids["Panhard rod"]}).json
    assert near["offset_mm"] == int(near["offset_mm"]) > 0
    assert "exhaust" in near["says"]
    far = client.post("/api/study/bend", json={"design": job["design"], "part_id": ids["Front tie rod"]}).json
    assert far["offset_mm"] is None
    assert "needs no bend" in far["says"]
    length = {"kind": "length", "length": {"mm": 500.0, "typed": None}}
    loose = {**job["design"], "joints": [], "parts": [{**of_kind(job["design"], "link")[0], "between": length}]}
    told = client.post("/api/study/bend", json={"design": loose, "part_id": loose["parts"][0]["id"]}).json
    assert "no suspension end" in told["says"]
    gone = client.post(
        "/api/study/bend", json={"design": job["design"], "part_id": "00000000-0000-4000-8000-0000000000ff"}
    )
    assert gone.status_code == 404
