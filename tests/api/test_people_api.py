"""People, what each may do on every route, and what is signed: on a schema of its own, since accounts shut all the rest."""

from __future__ import annotations

import copy
import io
import json
import threading
import zipfile
from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

import pdfplumber
import pymysql
import pytest
from flask import Flask
from flask.testing import FlaskClient
from werkzeug.test import TestResponse

from tests.api.test_prints_api import issue, new_id
from tests.api.test_survey_api import reading
from tests.conftest import fill
from tirante.api import packs as packs_api
from tirante.api import people as people_api
from tirante.api import reviews as reviews_api
from tirante.api import signed_in as guard
from tirante.api.app import Config, create_app
from tirante.api.rights import CHANGES, MAY, OPEN, WORKS_OUT, right_of
from tirante.api.routing import OPERATIONS
from tirante.cli import answer
from tirante.server.mariadb import Instance
from tirante.storage import deeds, revisions
from tirante.storage.pool import Credentials, Database

OTHER = {"issued": "engine = engine", "survey_entry": "sort = sort", "built_entry": "sort = sort"}
LINK = "Toe link"  # of Tern: it alone holds its wheel
SECRET = {"owner": "anvil-cedar-lantern-9", "designer": "gravel-spoon-orbit-7", "bench": "harbour-kettle-moss-5", "reviewer": "velvet-quarry-pigeon-3", "second": "tin-otter-balcony-41"}  # fmt: skip


class Hand:
    """Somebody at their own browser."""

    def __init__(self, app: Flask, name: str = "") -> None:
        self.client = app.test_client()
        self.name, self.csrf = name, ""
        if name:
            answered = self.post("/api/sign-in", name=name, password=SECRET[name])
            assert answered.status_code == 200, answered.json
            self.csrf = answered.json["csrf"]

    def post(self, path: str, **body: Any) -> TestResponse:
        return self.client.post(path, json=body, headers={"X-Csrf": self.csrf})

    def get(self, path: str) -> TestResponse:
        return self.client.get(path)


class WithMark(FlaskClient):
    """A client that brings its session's mark along by itself."""

    csrf = ""

    def open(self, *args: Any, **kwargs: Any) -> TestResponse:
        kwargs["headers"] = {**(kwargs.get("headers") or {}), "X-Csrf": self.csrf}
        return super().open(*args, **kwargs)


@pytest.fixture(scope="module")
def credentials(instance: Instance, worker_id: str) -> Credentials:
    return instance.bootstrap(f"people_{worker_id}")[0]


@pytest.fixture(scope="module")
def database(credentials: Credentials) -> Iterator[Database]:
    found = fill(credentials)
    yield found
    found.close()


@pytest.fixture(scope="module")
def alone(database: Database) -> Flask:
    """The application before anybody has an account. What is asked of it is asked here."""
    app = create_app(Config(database=database, answers=answer))
    client = app.test_client()
    found = client.get("/api/me").json
    assert (found["accounts"], found["me"], "sign" in found["rights"]) == (False, None, False)
    own = copied(client)
    row = next(one for one in client.get(f"/api/jobs/{own}/traveller").json["rows"] if one["name"] == LINK)
    number = issue(client, own, "to build from")
    body = {"id": new_id(), "number": number, "hand": "left", "step": "second", "metal": row["metal"], "password": "x"}
    refused = client.post(f"/api/jobs/{own}/traveller/{row['part_id']}/sign", json=body)
    assert (refused.status_code, refused.json["code"]) == (403, "no_accounts")
    weld = client.post(f"/api/jobs/{own}/ticks", json={"ticks": [ticked(row, "weld", number)]}).json
    before = [ticked(row, step, number) for step in ("have", "saw:0", "tack", "check", "cycle", "back")]
    assert client.post(f"/api/jobs/{own}/ticks", json={"ticks": before}).json["kept"] == 6
    app.extensions["by_nobody"] = own, row, number
    assert weld["kept"] == 0
    assert weld["refused"][0]["why"].startswith("It waits for a signature: somebody else looks at how it is tacked.")
    return app


@pytest.fixture(scope="module")
def shop(alone: Flask) -> Flask:
    """With an owner, a designer, a bench hand, a reviewer, and a second bench hand."""
    client = alone.test_client()
    for wrong in ("short", "owner-owner-owner", "password123456", "aaaaaaaaaaaaaa"):
        refused = client.post("/api/people/first", json={"id": new_id(), "name": "owner", "password": wrong})
        assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, "password"), wrong
    assert client.get("/api/me").json["accounts"] is False
    made = client.post("/api/people/first", json={"id": new_id(), "name": "owner", "password": SECRET["owner"]})
    assert made.json["me"]["role"] == "owner"
    cookie = made.headers["Set-Cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=Strict" in cookie
    assert client.post("/api/people/first", json={"id": new_id(), "name": "other", "password": SECRET["second"]}, headers={"X-Csrf": made.json["csrf"]}).status_code == 409  # fmt: skip
    owner = Hand(alone, "owner")
    for name in ("designer", "bench", "reviewer", "second"):
        added = owner.post("/api/people", id=new_id(), name=name, role="bench" if name == "second" else name, password=SECRET[name], own_password=SECRET["owner"])  # fmt: skip
        assert added.status_code == 200, added.json
    return alone


def copied(client: FlaskClient) -> str:
    demo = next(j for j in client.get("/api/jobs").json["jobs"] if j["demo"] and j["name"] == "Tern")
    design = client.get(f"/api/jobs/{demo['id']}").json["design"]
    return str(client.post("/api/import", json={"id": new_id(), "design": design}).json["job_id"])


def marked(app: Flask, name: str) -> WithMark:
    app.test_client_class = WithMark
    client: WithMark = app.test_client()  # type: ignore[assignment]
    app.test_client_class = None
    client.csrf = client.post("/api/sign-in", json={"name": name, "password": SECRET[name]}).json["csrf"]
    return client


def ticked(row: dict[str, Any], step: str, number: int | None, *, done: bool = True) -> dict[str, Any]:
    at = int(datetime.now(UTC).timestamp() * 1000)
    return {"id": new_id(), "number": number, "part_id": row["part_id"], "hand": row["hand"], "step": step, "metal": row["metal"], "done": done, "at_ms": at}  # fmt: skip


def address(path: str) -> str:
    """A route's address with something in every place that is no job, part or person."""
    parts = [new_id() if one.startswith("<") and "number" not in one else "1" if one.startswith("<") else one for one in path.split("/")]  # fmt: skip
    return "/".join(parts)


def test_every_route_asks_for_somebody_and_lets_each_role_do_what_the_table_says_and_no_more(shop: Flask) -> None:
    assert {entry.name for entry in OPERATIONS} >= set(CHANGES) | WORKS_OUT | OPEN  # none that is not there any more
    assert not WORKS_OUT & set(CHANGES)
    nobody = Hand(shop)
    hands = {role: Hand(shop, role) for role in MAY}
    tried = 0
    for entry in OPERATIONS:
        where, method = address(entry.path), entry.method
        right = right_of(entry.name, method)
        send: dict[str, Any] = {"data": b"", "content_type": entry.takes[0]} if entry.takes else {"json": {}} if method != "get" else {}  # fmt: skip
        if right is None:
            continue
        assert nobody.client.open(where, method=method, **send).status_code == 401, entry.name
        for role, hand in hands.items():
            if method != "get":
                bare = hand.client.open(where, method=method, **send)
                assert (bare.status_code, bare.json["code"]) == (403, "csrf"), entry.name
            headers = {"X-Csrf": hand.csrf, "If-Match": "1"}
            found = hand.client.open(where, method=method, headers=headers, **send)
            refused = found.status_code == 403 and found.json["code"] == "not_yours"
            assert refused == (right not in MAY[role]), (entry.name, role, found.status_code)
            assert found.status_code not in (401, 500), (entry.name, role)
            tried += 1
    assert tried > 300
    # what the table says, said once more by the physical job: who builds does not design, who reviews changes nothing, one says who works here
    assert MAY["bench"] & {"design", "issue", "people"} == set()
    assert MAY["reviewer"] == {"read", "sign", "review"}
    assert [role for role in MAY if "people" in MAY[role]] == ["owner"]
    with pytest.raises(LookupError):
        right_of("something_new", "post")


def test_a_wrong_password_tells_nothing_and_after_ten_none_is_looked_at(shop: Flask, monkeypatch: pytest.MonkeyPatch) -> None:  # fmt: skip
    hand = Hand(shop)
    told = {name: hand.post("/api/sign-in", name=name, password="wrong").json["message"] for name in ("reviewer", "nobody of that name")}  # fmt: skip
    assert len(set(told.values())) == 1
    # each is that name to the database
    for i, name in enumerate(("Reviewer", "reviewer ", "réviewer", "REVIEWER  ", "reviewer", "revieẅer", "reviewer", "Reviewer ", "reviewer")):  # fmt: skip
        assert hand.post("/api/sign-in", name=name, password=f"wrong {i}").status_code == 422, name
    for password in ("wrong", SECRET["reviewer"]):
        assert hand.post("/api/sign-in", name="reviewer", password=password).status_code == 429
    assert hand.post("/api/sign-in", name="designer", password=SECRET["designer"]).status_code == 200
    later = datetime.now(UTC).replace(tzinfo=None) + timedelta(minutes=16)
    monkeypatch.setattr(people_api, "now", lambda: later)
    assert hand.post("/api/sign-in", name="reviewer", password=SECRET["reviewer"]).status_code == 200


def test_a_session_ends_by_itself_by_signing_out_and_by_a_new_password(shop: Flask, monkeypatch: pytest.MonkeyPatch) -> None:  # fmt: skip
    start = datetime.now(UTC).replace(tzinfo=None)
    hand = Hand(shop, "second")
    at = start
    monkeypatch.setattr(guard, "now", lambda: at)
    for minutes, status in (
        (110, 200),
        (220, 200),
        (335, 200),
        (456, 401),
    ):  # idle for less than two hours each, then for more
        at = start + timedelta(minutes=minutes)
        assert hand.get("/api/jobs").status_code == status, minutes
    monkeypatch.undo()
    long = Hand(shop, "second")
    monkeypatch.setattr(guard, "now", lambda: at)
    for hours in (1.5, 3, 4.5, 6, 7.5, 9, 10.5, 11.9):
        at = start + timedelta(hours=hours)
        assert long.get("/api/jobs").status_code == 200
    at = start + timedelta(hours=12.1)
    assert long.get("/api/jobs").status_code == 401
    monkeypatch.undo()
    out = Hand(shop, "second")
    assert out.post("/api/sign-out").json["me"] is None
    assert out.get("/api/jobs").status_code == 401
    # another's password by the owner: who had it open is out, and the old one is none any more
    owner, open_ = Hand(shop, "owner"), Hand(shop, "second")
    someone = next(one["id"] for one in owner.get("/api/people").json["people"] if one["name"] == "second")
    assert owner.post(f"/api/people/{someone}/change", password="moss-trumpet-gable-12", own_password="not it").status_code == 422  # fmt: skip
    assert open_.get("/api/jobs").status_code == 200
    assert owner.post(f"/api/people/{someone}/change", password="moss-trumpet-gable-12", own_password=SECRET["owner"]).status_code == 200  # fmt: skip
    assert open_.get("/api/jobs").status_code == 401
    assert Hand(shop).post("/api/sign-in", name="second", password=SECRET["second"]).status_code == 422
    fresh = Hand(shop)
    fresh.csrf = fresh.post("/api/sign-in", name="second", password="moss-trumpet-gable-12").json["csrf"]
    assert fresh.post("/api/me/password", password=SECRET["second"], own_password="moss-trumpet-gable-12").status_code == 200  # fmt: skip
    # an account that is ended
    assert owner.post(f"/api/people/{someone}/change", active=False, own_password=SECRET["owner"]).status_code == 200
    assert Hand(shop).post("/api/sign-in", name="second", password=SECRET["second"]).status_code == 422
    assert fresh.get("/api/jobs").status_code == 401
    assert owner.post(f"/api/people/{someone}/change", active=True, own_password=SECRET["owner"]).status_code == 200
    assert owner.post("/api/people", id=new_id(), name="SECOND", role="bench", password="moss-trumpet-gable-12", own_password=SECRET["owner"]).json["code"] == "name_taken"  # fmt: skip


def test_somebody_always_stays_an_owner(shop: Flask) -> None:
    owner = Hand(shop, "owner")
    everybody = {one["name"]: one["id"] for one in owner.get("/api/people").json["people"]}
    for change in ({"role": "designer"}, {"active": False}):
        refused = owner.post(f"/api/people/{everybody['owner']}/change", **change, own_password=SECRET["owner"])
        assert (refused.status_code, refused.json["code"]) == (422, "last_owner")
    assert owner.post(f"/api/people/{everybody['designer']}/change", role="owner", own_password=SECRET["owner"]).status_code == 200  # fmt: skip
    assert owner.post(f"/api/people/{everybody['designer']}/change", role="designer", own_password=SECRET["owner"]).status_code == 200  # fmt: skip
    assert owner.post(f"/api/people/{new_id()}/change", role="bench", own_password=SECRET["owner"]).status_code == 404


@pytest.fixture
def tacked(shop: Flask) -> tuple[str, dict[str, Any], int, Hand]:
    """A job that is issued, its rear lower link's left one tacked and cycled by the bench hand."""
    designer, bench = marked(shop, "designer"), Hand(shop, "bench")
    own = copied(designer)
    number = issue(designer, own, "to build from")
    row = next(one for one in bench.get(f"/api/jobs/{own}/traveller").json["rows"] if one["name"] == LINK)
    kept = bench.post(f"/api/jobs/{own}/ticks", ticks=[ticked(row, step, number) for step in ("have", "saw:0", "tack", "check", "cycle", "back")])  # fmt: skip
    assert kept.json == {"kept": 6, "refused": []}
    return own, row, number, bench


def sign(hand: Hand, own: str, row: dict[str, Any], number: int, step: str = "second", **other: Any) -> TestResponse:
    body = {"id": new_id(), "number": number, "hand": "left", "step": step, "metal": row["metal"], "password": SECRET[hand.name], **other}  # fmt: skip
    return hand.post(f"/api/jobs/{own}/traveller/{row['part_id']}/sign", **body)


def test_nothing_comes_past_a_hold_until_somebody_else_has_signed_and_a_withdrawn_one_shuts_it_again(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand]) -> None:  # fmt: skip
    own, row, number, bench = tacked
    ticks = f"/api/jobs/{own}/ticks"
    weld = bench.post(ticks, ticks=[ticked(row, "weld", number), ticked(row, "have", number)]).json
    assert weld["kept"] == 1
    assert "looks at how it is tacked" in weld["refused"][0]["why"]
    # by no other card either: as a draft's, as another revision's
    for other in (None, 99):
        assert bench.post(ticks, ticks=[ticked(row, "outing:torque", other)]).json["kept"] == 0
    # not by who did it; not with another's password; not a step that is none; not of what was issued before; not before the work
    assert sign(bench, own, row, number).json["code"] == "own_work"
    second = Hand(shop, "second")
    assert sign(second, own, row, number, password=SECRET["bench"]).json["issues"][0]["path"] == "password"
    assert sign(second, own, row, number, step="weld").json["code"] == "no_hold"
    assert sign(second, own, row, number + 7).json["code"] == "stale"
    assert sign(second, own, row, number, metal="0123456789abcdef").json["code"] == "stale"
    assert "Not done before it" in sign(second, own, row, number, step="passed").json["message"]
    assert sign(second, own, {**row, "part_id": new_id()}, number).status_code == 404
    travelled = sign(second, own, row, number, note="gaps even").json
    hold = next(one for one in travelled["steps"] if one["step"]["key"] == "second")
    assert (hold["done"], hold["signed"][0]["name"], hold["signed"][0]["note"], hold["signed"][0]["number"]) == (True, "second", "gaps even", number)  # fmt: skip
    assert [one["waits"] for one in travelled["steps"] if one["step"]["key"] in ("weld", "paint")] == ["", "Somebody else looks at beads, crack test and measures"]  # fmt: skip
    assert bench.post(ticks, ticks=[ticked(row, "weld", number)]).json["kept"] == 1
    card = next(one for one in bench.get(f"/api/jobs/{own}/bench").json["parts"] if one["id"] == row["part_id"])
    assert {(one["step"], one["hand"]) for one in card["ticks"] if one["done"]} >= {("second", "left"), ("weld", "left")}  # fmt: skip
    # the right one is another, and waits by itself
    assert bench.post(ticks, ticks=[ticked({**row, "hand": "right"}, "weld", number)]).json["kept"] == 0
    # the same again after a lost answer does no harm, and stands in the log once
    assert sign(second, own, row, number, id=hold["signed"][0]["id"]).status_code == 200
    again = sign(Hand(shop, "owner"), own, row, number)
    assert (again.status_code, again.json["message"]) == (409, "second signed it already.")
    path = f"/api/jobs/{own}/signatures/{hold['signed'][0]['id']}/withdraw"
    assert Hand(shop, "designer").post(path, why="no", password=SECRET["designer"]).json["code"] == "not_yours"
    assert second.post(path, why="", password=SECRET["second"]).status_code == 422
    withdrawn = second.post(path, why="the wrong arm", password=SECRET["second"]).json
    hold = next(one for one in withdrawn["steps"] if one["step"]["key"] == "second")
    assert (hold["done"], hold["signed"][0]["withdrawn"], hold["signed"][0]["withdrawn_by"]) == (False, "the wrong arm", "second")  # fmt: skip
    assert bench.post(ticks, ticks=[ticked(row, "cool", number)]).json["kept"] == 0
    card = next(one for one in bench.get(f"/api/jobs/{own}/bench").json["parts"] if one["id"] == row["part_id"])
    assert "second" not in {one["step"] for one in card["ticks"]}
    stands = next(one for one in bench.get(f"/api/jobs/{own}/traveller").json["rows"] if (one["name"], one["hand"]) == (LINK, "left"))  # fmt: skip
    assert stands["unsigned"] == ["Somebody else looks at how it is tacked"]
    assert bench.get(f"/api/jobs/{own}/made").json["mark"] == "attention"  # worked on past a hold that nobody signed
    assert sign(second, own, row, number).status_code == 200
    assert bench.get(f"/api/jobs/{own}/made").json["mark"] == "in hand"
    assert bench.post(ticks, ticks=[ticked(row, "cool", number)]).json["kept"] == 1
    whats = [one["what"] for one in bench.get("/api/deeds").json["deeds"]]
    assert whats.count("signed") == 2
    assert whats.count("signature withdrawn") == 1


def test_who_is_signed_in_is_who_did_it_whatever_was_typed(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand]) -> None:  # fmt: skip
    own, row, number, bench = tacked
    bench.post(f"/api/jobs/{own}/ticks", ticks=[{**ticked(row, "saw:0", number), "told": {"who": "owner", "heat": "H 1"}}])  # fmt: skip
    steps = bench.get(f"/api/jobs/{own}/traveller/{row['part_id']}?hand=left").json["steps"]
    told = next(one for one in steps if one["step"]["key"] == "saw:0")["marks"][-1]["told"]
    assert (told["who"], told["heat"]) == ("bench", "H 1")


def test_a_reviewer_s_name_is_not_typed_by_somebody_else_and_issuing_is_written_down(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand]) -> None:  # fmt: skip
    own, _, number, bench = tacked
    designer = marked(shop, "designer")
    version = designer.get(f"/api/jobs/{own}").json["version"]
    body = {"save_id": new_id(), "version": version, "name": "x", "issue": True, "reviewer": "reviewer"}
    refused = designer.post(f"/api/jobs/{own}/revisions", json=body)
    assert (refused.status_code, refused.json["issues"][0]["path"]) == (422, "reviewer")
    latest = next(one for one in bench.get("/api/deeds").json["deeds"] if one["what"] == "issued")
    assert (latest["who"], latest["of"]["job"], latest["of"]["number"]) == ("designer", own, number)
    # who answers for what is not settled is who is signed in, whatever was typed
    unsettled = copied(designer)
    design = designer.get(f"/api/jobs/{unsettled}").json["design"]
    next(one for one in design["parts"] if one["name"] == LINK)["tube"] = None
    saved = designer.put(f"/api/jobs/{unsettled}/draft", json={"save_id": new_id(), "design": design}, headers={"If-Match": "1"})  # fmt: skip
    assert saved.status_code == 200, saved.json
    answered = issue(designer, unsettled, "with a list")
    (kept,) = (one for one in designer.get(f"/api/jobs/{unsettled}/revisions").json["revisions"] if one["number"] == answered)  # fmt: skip
    assert kept["acknowledged_by"] == "designer"
    assert kept["acknowledged"]


def test_what_measures_out_of_tolerance_is_passed_by_nobody_without_a_word(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand]) -> None:  # fmt: skip
    own, row, number, bench = tacked
    second = Hand(shop, "second")
    assert sign(second, own, row, number).status_code == 200
    steps = bench.get(f"/api/jobs/{own}/traveller/{row['part_id']}?hand=left").json["steps"]
    keys = [one["step"]["key"] for one in steps]
    between = keys[keys.index("second") + 1 : keys.index("passed")]
    assert bench.post(f"/api/jobs/{own}/ticks", ticks=[ticked(row, key, number) for key in between]).json["refused"] == []  # fmt: skip
    path = f"/api/jobs/{own}/measured/{row['part_id']}"
    length, *others = bench.get(f"{path}?hand=left").json["wanted"]
    assert others

    def read(mm: float, **more: Any) -> None:
        body = {"id": new_id(), "hand": "left", "metal": row["metal"], "what": length["key"], "figure": mm, **more}
        assert bench.post(path, **body).status_code == 200

    unread = sign(second, own, row, number, "passed")  # nothing was measured yet
    assert (unread.status_code, unread.json["code"]) == (409, "measures_out")
    assert unread.json["message"].count("never measured cold") == 1 + len(others)
    for one in others:
        read(one["figure"], what=one["key"])
    read(length["figure"], made="tacked")  # tacked is not cold
    assert sign(second, own, row, number, "passed").json["message"].count("never measured cold") == 1
    read(length["figure"] + 2.0)
    refused = sign(second, own, row, number, "passed")
    assert (refused.status_code, refused.json["code"], refused.json["issues"][0]["path"]) == (409, "measures_out", "note")  # fmt: skip
    assert "2.0 mm too long" in refused.json["message"]
    read(length["figure"], made="tacked")  # as it was before its beads is no answer to that
    assert sign(second, own, row, number, "passed").json["code"] == "measures_out"
    read(length["figure"] + 0.1)  # measured again, within
    signed = sign(second, own, row, number, "passed").json["steps"]
    first = next(one for one in signed if one["step"]["key"] == "passed")["signed"][0]["id"]
    # withdrawn, and out once more: with a word of why it may stay so it is signed
    assert second.post(f"/api/jobs/{own}/signatures/{first}/withdraw", why="x", password=SECRET["second"]).status_code == 200  # fmt: skip
    read(length["figure"] - 2.0)
    assert sign(second, own, row, number, "passed").json["code"] == "measures_out"
    assert sign(second, own, row, number, "passed", note="turned by half a turn since, and shorter on purpose").status_code == 200  # fmt: skip


def test_a_bracket_is_signed_as_torqued_once_its_bolt_was_read_within(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand]) -> None:  # fmt: skip
    own, _, number, bench = tacked
    second = Hand(shop, "second")
    row = next(
        one for one in bench.get(f"/api/jobs/{own}/traveller").json["rows"] if one["name"] == f"{LINK}, end A, tabs"
    )
    path = f"/api/jobs/{own}/traveller/{row['part_id']}"
    for one in bench.get(f"{path}?hand=left").json["steps"]:
        step = one["step"]["key"]
        if step == "seen":
            break
        if one["step"]["hold"]:
            assert sign(second, own, row, number, step, note="by its drawing").status_code == 200, step
        else:
            assert bench.post(f"/api/jobs/{own}/ticks", ticks=[ticked(row, step, number)]).json["refused"] == [], step
    measured = f"/api/jobs/{own}/measured/{row['part_id']}"
    (torque,) = (one for one in bench.get(f"{measured}?hand=left").json["wanted"] if one["sort"] == "torque")
    assert torque["unit"] == "N·m"

    def read(share: float, made: str) -> TestResponse:
        body = {"id": new_id(), "hand": "left", "metal": row["metal"], "what": torque["key"], "figure": share * torque["figure"], "made": made}  # fmt: skip
        return bench.post(measured, **body)

    assert "never measured fitted" in sign(second, own, row, number, "seen").json["message"]
    cold = read(1.0, "cold")  # a torque is of what is fitted
    assert (cold.status_code, cold.json["issues"][0]["path"]) == (422, "made")
    read(0.9, "fitted")
    refused = sign(second, own, row, number, "seen")
    assert refused.json["code"] == "measures_out"
    assert "N·m too little" in refused.json["message"]
    assert refused.json["message"].count("torque of") == 1  # its lengths are no matter of this one
    read(1.0, "outing")  # what is read afterwards says nothing of how it was fitted
    assert sign(second, own, row, number, "seen").json["code"] == "measures_out"
    kept = read(1.02, "fitted").json["wanted"]
    assert [one["inside"] for one in next(one for one in kept if one["key"] == torque["key"])["read"]] == [
        False,
        True,
        True,
    ]
    assert sign(second, own, row, number, "seen").status_code == 200


def review(hand: Hand, own: str, number: int, **other: Any) -> TestResponse:
    body = {"id": new_id(), "limits": "the links; no bracket", "password": SECRET[hand.name], **other}
    return hand.post(f"/api/jobs/{own}/revisions/{number}/review", **body)


def sheets(hand: Hand, own: str, number: int) -> tuple[str, dict[str, bytes]]:
    """What stands on the first pages of an issued pack, and its other files."""
    with zipfile.ZipFile(io.BytesIO(hand.get(f"/api/jobs/{own}/pack.zip?revision={number}").data)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    (printed,) = (name for name in files if name.endswith(".pdf"))
    with pdfplumber.open(io.BytesIO(files.pop(printed))) as document:
        return "\n".join(page.extract_text() for page in document.pages[:3]), files


def some_sheets(shop: Flask, own: str, number: int) -> str:
    """Of one part alone, worked out anew."""
    at = shop.extensions["tirante"]
    with at.database.transaction() as connection:
        design = revisions.get_revision(connection, own, number)
    assert design
    part = next(one.id for one in design[1].parts if one.name == LINK)
    _, body = packs_api.made(at.database, at.memory, own, number, "pack.pdf", lambda *_: True, [part])
    with pdfplumber.open(io.BytesIO(body)) as document:
        return "\n".join(page.extract_text() for page in document.pages[:3])


def test_an_issued_revision_is_reviewed_by_somebody_who_did_not_draw_it_and_its_sheets_then_say_by_whom(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand], monkeypatch: pytest.MonkeyPatch) -> None:  # fmt: skip
    own, _, number, bench = tacked
    designer, reviewer, owner = Hand(shop, "designer"), Hand(shop, "reviewer"), Hand(shop, "owner")
    before, files = sheets(bench, own, number)
    assert "NOT REVIEWED" in before
    # who drew it, and who only works at the bench, cannot; nor with another's password, nor without saying what was looked at
    assert designer.get(f"/api/jobs/{own}/revisions").json["not_reviewed_by_me"].startswith("You changed or issued")
    assert reviewer.get(f"/api/jobs/{own}/revisions").json["not_reviewed_by_me"] == ""
    assert (review(designer, own, number).status_code, review(designer, own, number).json["code"]) == (403, "own_work")
    assert review(bench, own, number).status_code == 403
    assert review(reviewer, own, number, password=SECRET["owner"]).json["issues"][0]["path"] == "password"
    assert review(reviewer, own, number, limits=" ").json["issues"][0]["path"] == "limits"
    version = designer.get(f"/api/jobs/{own}").json["version"]
    named = designer.post(f"/api/jobs/{own}/revisions", save_id=new_id(), version=version, name="n", issue=False).json["number"]  # fmt: skip
    assert review(reviewer, own, named).json["code"] == "not_issued"
    assert review(reviewer, own, 99).status_code == 404
    assert "NOT REVIEWED" in sheets(bench, own, number)[0]
    once = new_id()
    assert review(reviewer, own, number, id=once).status_code == 200
    head = owner.get("/api/deeds").json
    assert review(reviewer, own, number, id=once).status_code == 200  # again: no harm, and in the log once
    told = [one for one in owner.get("/api/deeds").json["deeds"] if one["what"] == "reviewed" and one["of"]["job"] == own]  # fmt: skip
    assert [(one["who"], one["of"]["number"], one["of"]["limits"]) for one in told] == [("reviewer", number, "the links; no bracket")]  # fmt: skip
    assert review(owner, own, number).json["message"] == "reviewer reviewed and signed it already."
    # its sheets carry name, date, limits and the log's head as it was before; nothing else is otherwise
    after, now = sheets(bench, own, number)
    at = next(i for i, one in enumerate(head["deeds"]) if one["what"] == "reviewed")
    with shop.extensions["tirante"].database.transaction() as connection:
        links = {one.number: one.link for one in deeds.every(connection)}
    day = told[0]["at"][:10]
    assert "NOT REVIEWED" not in after
    assert f"reviewed by reviewer, {day}; its limits are on the cover" in after
    assert "Limits of the review: the links; no bracket" in after
    log = head["deeds"][at]["number"] - 1
    assert f"log {log} {links[log][:16]}" in after
    changed = {"manifest.json"}
    assert {name: body for name, body in files.items() if name not in changed} == {name: body for name, body in now.items() if name not in changed}  # fmt: skip
    manifest = json.loads(now["manifest.json"])
    assert (manifest["reviewer"], manifest["limits"], manifest["revision"]) == ("reviewer", "the links; no bracket", f"rev {number}")  # fmt: skip
    row = next(one for one in bench.get(f"/api/jobs/{own}/revisions").json["revisions"] if one["number"] == number)
    assert row["reviewer"] == "reviewer"
    assert bench.get(f"/api/jobs/{own}/traveller").json["issued"]["reviewer"] == "reviewer"
    # sheets of some of its parts carry it too, unless another engine works them out than was reviewed
    assert f"reviewed by reviewer, {day}" in some_sheets(shop, own, number)
    monkeypatch.setattr(packs_api, "ENGINE_VERSION", "999")
    assert "NOT REVIEWED" in some_sheets(shop, own, number)
    monkeypatch.undo()
    # of that revision alone: issued again, the same metal is not reviewed
    later = issue(marked(shop, "designer"), own, "again")
    assert "NOT REVIEWED" in sheets(bench, own, later)[0]
    # withdrawn by who signed, or an owner, with a reason: the sheets are those of the issue again, to the last byte
    withdrawing = f"/api/jobs/{own}/reviews/{once}/withdraw"
    assert designer.post(withdrawing, why="x", password=SECRET["designer"]).json["code"] == "not_yours"
    assert reviewer.post(withdrawing, why="a load was wrong", password=SECRET["reviewer"]).status_code == 200
    assert sheets(bench, own, number) == (before, files)
    row = next(one for one in bench.get(f"/api/jobs/{own}/revisions").json["revisions"] if one["number"] == number)
    assert (row["reviewer"], row["reviews"][0]["name"], row["reviews"][0]["withdrawn"]) == (None, "reviewer", "a load was wrong")  # fmt: skip
    assert review(owner, own, number).status_code == 200  # and somebody else may
    assert "reviewed by owner" in sheets(bench, own, number)[0]


def test_who_changes_a_job_or_brings_it_in_cannot_review_it_and_what_nobody_known_drew_is_said(shop: Flask) -> None:
    designer, owner, reviewer = marked(shop, "designer"), Hand(shop, "owner"), Hand(shop, "reviewer")
    own = copied(designer)
    drawn = designer.get(f"/api/jobs/{own}").json
    design = {**drawn["design"], "note": "moved"}
    saved = owner.client.put(f"/api/jobs/{own}/draft", json={"save_id": new_id(), "design": design}, headers={"If-Match": "1", "X-Csrf": owner.csrf})  # fmt: skip
    assert saved.status_code == 200, saved.json
    number = issue(designer, own, "to build from")
    assert review(owner, own, number).json["message"].startswith("You changed or issued this job yourself, from its state 2 on.")  # fmt: skip
    assert review(reviewer, own, number).status_code == 200
    # what was there before anybody had an account
    old, _, first = shop.extensions["by_nobody"]
    assert review(reviewer, old, first).status_code == 200
    assert "Part of this job was saved by nobody who was signed in" in sheets(reviewer, old, first)[0].replace("\n", " ")  # fmt: skip


def test_what_another_engine_issued_or_another_layout_went_with_is_not_put_under_a_review(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand], monkeypatch: pytest.MonkeyPatch) -> None:  # fmt: skip
    own, _, number, bench = tacked
    before = sheets(bench, own, number)
    real = reviews_api.make_pack
    monkeypatch.setattr(reviews_api, "ENGINE_VERSION", "999")
    assert review(Hand(shop, "reviewer"), own, number).json["code"] == "made_otherwise"
    monkeypatch.undo()
    monkeypatch.setattr(reviews_api, "make_pack", lambda *a, **k: real(*a, **k) + b" ")
    assert review(Hand(shop, "reviewer"), own, number).json["code"] == "made_otherwise"
    assert sheets(bench, own, number) == before


def test_what_nobody_known_has_done_is_not_signed_for(shop: Flask) -> None:
    own, row, number = shop.extensions["by_nobody"]
    second, bench = Hand(shop, "second"), Hand(shop, "bench")
    refused = sign(second, own, row, number)
    assert refused.json["code"] == "unknown_hand"
    assert "Tack it" in refused.json["message"]
    again = [ticked(row, step, number) for step in ("have", "saw:0", "tack", "check", "cycle", "back")]
    assert bench.post(f"/api/jobs/{own}/ticks", ticks=again).json["kept"] == 6
    assert sign(second, own, row, number).status_code == 200


def test_of_two_who_sign_at_once_one_wins_and_the_other_is_told(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand]) -> None:  # fmt: skip
    own, row, number, _ = tacked
    hands = [Hand(shop, name) for name in ("owner", "second", "designer")]
    found: list[TestResponse] = []
    start = threading.Barrier(len(hands))

    def go(hand: Hand) -> None:
        start.wait()
        found.append(sign(hand, own, row, number))

    threads = [threading.Thread(target=go, args=(hand,)) for hand in hands]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    assert sorted(one.status_code for one in found) == [200, 409, 409]
    winner = next(one for one in found if one.status_code == 200).json
    name = next(one for one in winner["steps"] if one["step"]["key"] == "second")["signed"][0]["name"]
    assert {one.json["message"] for one in found if one.status_code == 409} == {f"{name} signed it already."}


def test_a_draft_is_not_signed_for_and_a_signature_is_of_its_metal_alone(shop: Flask, tacked: tuple[str, dict[str, Any], int, Hand]) -> None:  # fmt: skip
    own, row, number, _ = tacked
    second, designer = Hand(shop, "second"), marked(shop, "designer")
    draft = copied(designer)
    part = next(one for one in second.get(f"/api/jobs/{draft}/traveller").json["rows"] if one["name"] == LINK)  # fmt: skip
    assert sign(second, draft, part, 1).json["code"] == "not_issued"
    assert sign(second, own, row, number).status_code == 200
    design = copy.deepcopy(designer.get(f"/api/jobs/{own}").json["design"])
    link = next(one for one in design["parts"] if one["name"] == LINK)
    link["showing"] = {"mm": 9.0}
    link["school"] = "exposure"
    version = designer.get(f"/api/jobs/{own}").json["version"]
    saved = designer.put(f"/api/jobs/{own}/draft", json={"save_id": new_id(), "design": design}, headers={"If-Match": str(version)})  # fmt: skip
    assert saved.status_code == 200
    issue(designer, own, "longer")
    now = next(one for one in second.get(f"/api/jobs/{own}/traveller").json["rows"] if one["name"] == LINK)
    assert now["metal"] != row["metal"]
    assert (now["done"], now["otherwise"]) == (0, 6)


def test_no_password_and_no_session_stands_in_the_database_and_the_log_is_whole_until_somebody_writes_in_it(shop: Flask, credentials: Credentials, tacked: tuple[str, dict[str, Any], int, Hand]) -> None:  # fmt: skip
    own, row, number, _ = tacked
    owner = Hand(shop, "owner")
    signed = sign(owner, own, row, number).json
    first = next(one for one in signed["steps"] if one["step"]["key"] == "second")["signed"][0]["id"]
    assert owner.post(f"/api/jobs/{own}/signatures/{first}/withdraw", why="to see it kept", password=SECRET["owner"]).status_code == 200  # fmt: skip
    reviewer = Hand(shop, "reviewer")
    reviewed = new_id()
    assert review(reviewer, own, number, id=reviewed).status_code == 200
    assert reviewer.post(f"/api/jobs/{own}/reviews/{reviewed}/withdraw", why="to see it kept", password=SECRET["reviewer"]).status_code == 200  # fmt: skip
    measured = {"id": new_id(), "hand": "left", "metal": row["metal"], "what": "length:end A to end B", "figure": 452.0, "who": "owner"}  # fmt: skip
    kept = Hand(shop, "bench").post(f"/api/jobs/{own}/measured/{row['part_id']}", **measured).json["wanted"][0]["read"][0]  # fmt: skip
    assert kept["who"] == "bench"  # who was signed in, whatever was typed
    assert Hand(shop).post("/api/sign-in", name="nobody here", password="wrong").status_code == 422
    end = owner.get(f"/api/jobs/{own}").json["design"]["ends"][0]["id"]
    height = reading("height", [f"end:{end}:toe_inner:own"], 300.0, who="owner")
    angle = {"sort": "angle", "id": new_id(), "end": end, "measure": "camber_deg", "deg": -1.0, "who": "owner"}
    bench = Hand(shop, "bench")
    for where, entry in (("survey", height), ("built", angle)):
        for _ in range(2):  # the same again does no harm
            kept = bench.post(f"/api/jobs/{own}/{where}", entries=[{"entry": entry, "made_at": "2026-03-04T10:00:00Z"}])
            assert kept.status_code == 200, kept.json
    assert bench.get(f"/api/jobs/{own}/survey").json["readings"][0]["taken"]["who"] == "bench"
    assert bench.get(f"/api/jobs/{own}/built").json["read"][0]["readings"][0]["taken"]["who"] == "bench"
    cookie = owner.client.get_cookie(guard.COOKIE)
    assert cookie
    connection = pymysql.connect(host=credentials.host, port=credentials.port, user=credentials.user, password=credentials.password, database=credentials.database, ssl_disabled=True)  # fmt: skip
    with connection, connection.cursor() as cursor:
        cursor.execute("SELECT secret FROM person")
        assert all(row[0].startswith("$argon2id$v=19$m=65536,t=3,p=4$") for row in cursor.fetchall())
        everything = ""
        for table in ("person", "signed_in", "deed"):
            cursor.execute(f"SELECT * FROM {table}")
            everything += str(cursor.fetchall())
        assert cookie.value not in everything
        assert not any(secret in everything for secret in SECRET.values())
        # the application's own user may add to them, and nothing else
        for table in (
            "deed",
            "signature",
            "withdrawn",
            "tick",
            "review",
            "review_withdrawn",
            "drew",
            "issued",
            "measured",
            "survey_entry",
            "built_entry",
        ):
            for change in (
                f"DELETE FROM {table}",
                f"UPDATE {table} SET {OTHER.get(table, 'person_id = person_id')}",
            ):
                with pytest.raises(pymysql.MySQLError, match="only added"):
                    cursor.execute(change)
            with pytest.raises(pymysql.MySQLError, match="denied"):
                cursor.execute(f"TRUNCATE TABLE {table}")
            with pytest.raises(pymysql.MySQLError, match="denied"):
                cursor.execute(f"DROP TRIGGER {table}_no_update")
    whole = owner.get("/api/deeds").json
    assert whole["broken_at"] is None
    assert whole["head"] != deeds.START
    assert {"signed in", "wrong password", "person added"} <= {one["what"] for one in whole["deeds"]}
    assert Hand(shop, "bench").get("/api/deeds").json["head"] != whole["head"]  # signing in was written down too
    with shop.extensions["tirante"].database.transaction() as transaction:
        found = deeds.every(transaction)
    for i, change in ((3, {"what": "signed out"}), (4, {"person_id": None}), (0, {"number": 2})):
        tampered = [*found]
        if getattr(tampered[i], next(iter(change))) != next(iter(change.values())):
            tampered[i] = replace(tampered[i], **change)  # type: ignore[arg-type]
            assert deeds.broken_at(tampered) == i + 1
    assert deeds.broken_at([*found[:5], *found[6:]]) == 6
    assert deeds.broken_at(found) is None
