"""The shop's network: who is let in before anybody is asked for a name, by which host and origin, and what ends it."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from datetime import timedelta
from typing import Any

import pytest
from flask import Flask
from werkzeug.test import TestResponse

from tests.api.test_people_api import SECRET
from tests.api.test_prints_api import new_id
from tirante.api import devices as devices_api
from tirante.api import signed_in as guard
from tirante.api.app import Config, create_app
from tirante.api.context import OVER_LAN, Lan
from tirante.api.routing import OPERATIONS
from tirante.cli import answer
from tirante.server.mariadb import Instance
from tirante.storage import devices
from tirante.storage.pool import Database

HOST = "192.168.1.20:8743"
CERTIFICATE = b"not looked into here"


@pytest.fixture(scope="module")
def app(instance: Instance, worker_id: str) -> Iterator[Flask]:
    """A shop on its network, with an owner and a bench hand."""
    database = Database(instance.bootstrap(f"network_{worker_id}")[0], connections=4)
    found = create_app(Config(database=database, answers=answer, lan=Lan(host=HOST, authority=CERTIFICATE)))
    outside = Phone(found)
    assert outside.post("/api/sign-in", name="owner", password=SECRET["owner"]).json["code"] == "no_accounts"
    machine = Machine(found)
    assert machine.post("/api/people/first", id=new_id(), name="owner", password=SECRET["owner"]).status_code == 200
    machine.enter("owner")
    assert machine.post("/api/people", id=new_id(), name="bench", role="bench", password=SECRET["bench"], own_password=SECRET["owner"]).status_code == 200  # fmt: skip
    yield found
    database.close()


class Machine:
    """A browser at the machine itself."""

    def __init__(self, app: Flask) -> None:
        self.client, self.csrf = app.test_client(), ""
        self.base: dict[str, Any] = {}
        self.own: dict[str, str] = {}
        self.name = ""

    def post(self, path: str, headers: dict[str, str] | None = None, **body: Any) -> TestResponse:
        given = {**self.own, "X-Csrf": self.csrf, **(headers or {})}
        return self.client.post(path, json=body, headers=given, environ_overrides=self.base, base_url=self.url)

    def get(self, path: str, headers: dict[str, str] | None = None) -> TestResponse:
        return self.client.get(path, headers={**self.own, **(headers or {})}, environ_overrides=self.base, base_url=self.url)  # fmt: skip

    @property
    def url(self) -> str:
        return f"https://{HOST}" if self.base else "http://localhost"

    def enter(self, name: str) -> TestResponse:
        answered = self.post("/api/sign-in", name=name, password=SECRET[name])
        self.csrf = answered.json.get("csrf", "")
        return answered

    def code(self, name: str = "Saw") -> str:
        made = self.post("/api/network/pairing", name=name, own_password=SECRET["owner"])
        assert made.status_code == 200, made.json
        return str(made.json["code"])


class Phone(Machine):
    """A browser that comes over the shop's network."""

    def __init__(self, app: Flask) -> None:
        super().__init__(app)
        self.base = {OVER_LAN: True}
        self.own = {"Origin": f"https://{HOST}"}


@pytest.fixture
def owner(app: Flask) -> Machine:
    found = Machine(app)
    assert found.enter("owner").status_code == 200
    return found


@pytest.fixture
def paired(app: Flask, owner: Machine) -> Phone:
    found = Phone(app)
    found.name = f"Phone {new_id()[-6:]}"
    assert found.post("/api/pair", code=owner.code(found.name)).json["device"] == found.name
    return found


def filled(path: str) -> str:
    return "/".join(("1" if "int:" in part else new_id()) if part.startswith("<") else part for part in path.split("/"))


def test_no_route_answers_a_phone_that_is_not_let_in_but_those_that_let_it_in(app: Flask, owner: Machine) -> None:
    stolen = owner.client.get_cookie("tirante_session")
    assert stolen is not None
    for phone in (Phone(app), Phone(app)):
        for entry in OPERATIONS:
            if entry.name in guard.UNPAIRED:
                continue
            if entry.method == "get":
                got = phone.get(filled(entry.path))
            else:
                body: dict[str, Any] = {"data": b"", "content_type": entry.takes[0]} if entry.takes else {"json": {}}
                got = phone.client.open(filled(entry.path), method=entry.method.upper(), headers=phone.own, environ_overrides=phone.base, base_url=phone.url, **body)  # fmt: skip
            assert (got.status_code, got.json["code"]) == (401, "not_paired"), entry.name
        assert phone.get("/api/me").json | {"device": ""} == {"accounts": True, "me": None, "rights": [], "csrf": "", "lan": True, "device": ""}  # fmt: skip
        got = phone.get("/api/authority.crt")
        assert (got.data, got.mimetype) == (CERTIFICATE, "application/x-x509-ca-cert")
        # the second one holds what the machine's own browser has, under both names
        for name in ("tirante_session", "__Host-tirante_session"):
            phone.client.set_cookie(name, stolen.value, domain="192.168.1.20", secure=True)
        for held in ("", "ö", "x" * 43):
            phone.client.set_cookie(guard.DEVICE, held, domain="192.168.1.20", secure=True)
    assert owner.get("/api/people").status_code == 200


def test_a_code_lets_one_phone_in_once_and_is_kept_nowhere(app: Flask, owner: Machine) -> None:
    assert owner.post("/api/network/pairing", name="Saw", own_password="another").status_code == 422
    code = owner.code("Saw")
    assert len(code.replace(" ", "")) == devices.LENGTH
    phone = Phone(app)
    answered = phone.post("/api/pair", code=f" {code.lower().replace(' ', '-')} ")
    assert (answered.status_code, answered.json["device"], answered.json["me"]) == (200, "Saw", None)
    cookie = answered.headers["Set-Cookie"]
    assert cookie.startswith("__Host-tirante_device=")
    for flag in ("Secure", "HttpOnly", "SameSite=Strict", "Path=/"):
        assert flag in cookie
    assert "Domain" not in cookie
    assert Phone(app).post("/api/pair", code=code).json["code"] == "code"  # once
    assert phone.get("/api/jobs").json["code"] == "sign_in"  # let in, and asked for a name
    entered = phone.enter("bench")
    assert entered.headers["Set-Cookie"].startswith("__Host-tirante_session=")
    assert phone.get("/api/jobs").status_code == 200
    # neither code nor token stands in any table
    held = phone.client.get_cookie(guard.DEVICE, domain="192.168.1.20")
    assert held is not None
    with app.extensions["tirante"].database.transaction() as connection, connection.cursor() as cursor:
        for table in ("device", "pairing", "deed", "signed_in"):
            cursor.execute(f"SELECT * FROM {table}")
            told = repr(cursor.fetchall())
            assert code.replace(" ", "") not in told, table
            assert held.value not in told, table
            assert (hashlib.sha256(held.value.encode()).hexdigest() in told) == (table == "device"), table


def test_five_wrong_codes_shut_it_and_five_minutes_do(app: Flask, owner: Machine, monkeypatch: pytest.MonkeyPatch) -> None:  # fmt: skip
    phone, code = Phone(app), owner.code()
    told = [phone.post("/api/pair", code="WRONGONE").json["message"] for _ in range(6)]
    assert told[0] == "That is not the code. 4 more tries."
    assert told[3] == "That is not the code. 1 more try."
    assert told[4] == "That is not the code. It is shut now: ask for another."
    assert told[5].startswith("No pairing is open.")
    assert phone.post("/api/pair", code=code).json["message"] == told[5]
    with app.extensions["tirante"].database.transaction() as connection, connection.cursor() as cursor:
        cursor.execute("SELECT COUNT(*) AS n FROM deed WHERE what = 'wrong pairing code'")
        assert cursor.fetchone()["n"] == 5  # and no more, however often it is tried
    first, second = owner.code(), owner.code()  # the second shuts the first
    assert phone.post("/api/pair", code=first).status_code == 422
    now = devices_api.now
    monkeypatch.setattr(devices_api, "now", lambda: now() + timedelta(minutes=5))
    assert phone.post("/api/pair", code=second).json["message"] == told[5]
    monkeypatch.setattr(devices_api, "now", lambda: now() + timedelta(minutes=4, seconds=50))
    assert phone.post("/api/pair", code=second).status_code == 200


def test_phones_are_let_in_at_the_machine_by_an_owner(app: Flask, paired: Phone) -> None:
    paired.enter("owner")
    refused = paired.post("/api/network/pairing", name="Saw", own_password=SECRET["owner"])
    assert (refused.status_code, refused.json["code"]) == (403, "at_the_machine")
    hand = Machine(app)
    hand.enter("bench")
    assert hand.post("/api/network/pairing", name="Saw", own_password=SECRET["bench"]).json["code"] == "not_yours"
    assert hand.post("/api/pair", code="ABCDEFGH").json["code"] == "this_machine"


def test_a_session_is_valid_on_its_own_phone_alone_and_ends_with_it(app: Flask, owner: Machine, paired: Phone) -> None:
    paired.enter("bench")
    other = Phone(app)
    other.post("/api/pair", code=owner.code("Drill"))
    session = paired.client.get_cookie("__Host-tirante_session", domain="192.168.1.20")
    assert session is not None
    other.client.set_cookie("__Host-tirante_session", session.value, domain="192.168.1.20", secure=True)
    assert other.get("/api/jobs").json["code"] == "sign_in"
    at_machine = Machine(app)
    at_machine.client.set_cookie("tirante_session", session.value)
    assert at_machine.get("/api/jobs").json["code"] == "sign_in"
    network = owner.get("/api/network").json
    assert network["url"] == f"https://{HOST}/"
    assert network["fingerprint"].replace(":", "").lower() == hashlib.sha256(CERTIFICATE).hexdigest()
    mine = next(one for one in network["sessions"] if one["on"] == paired.name)
    seen = paired.get("/api/network").json["sessions"]
    assert {one["who"] for one in seen} == {"bench"}  # others' are not shown to a hand
    theirs = next(one for one in network["sessions"] if one["who"] == "owner")
    assert paired.post(f"/api/network/sessions/{theirs['id']}/end").status_code == 404  # nor ended by one
    assert owner.post(f"/api/network/sessions/{mine['id']}/end").status_code == 200
    assert paired.get("/api/jobs").json["code"] == "sign_in"
    paired.enter("bench")
    assert paired.get("/api/jobs").status_code == 200
    device = next(one for one in network["devices"] if one["name"] == paired.name)
    assert paired.post(f"/api/network/devices/{device['id']}/end").json["code"] == "not_yours"
    after = owner.post(f"/api/network/devices/{device['id']}/end").json
    gone = next(one for one in after["devices"] if one["id"] == device["id"])
    assert (gone["let_in"], gone["ended"][:6]) == (False, "ended ")
    assert paired.get("/api/jobs").json["code"] == "not_paired"
    assert other.enter("bench").status_code == 200  # the other one stays
    assert owner.post(f"/api/network/devices/{device['id']}/end").status_code == 404
    # its session is gone with it, not only shut out
    assert not any(one["on"] == paired.name for one in after["sessions"])


def test_a_pairing_is_over_after_ninety_days(app: Flask, paired: Phone, monkeypatch: pytest.MonkeyPatch) -> None:
    now = guard.now
    monkeypatch.setattr(guard, "now", lambda: now() + timedelta(days=89, hours=23))
    assert paired.get("/api/jobs").json["code"] == "sign_in"
    monkeypatch.setattr(guard, "now", lambda: now() + timedelta(days=90))
    assert paired.get("/api/jobs").json["code"] == "not_paired"


@pytest.mark.parametrize("host", ["127.0.0.1", "localhost:8743", "192.168.1.20", "192.168.1.20:8744", "192.168.1.21:8743", "shop.example", ""])  # fmt: skip
def test_it_answers_to_its_own_address_alone(paired: Phone, host: str) -> None:
    refused = paired.get("/api/me", headers={"Host": host})
    assert (refused.status_code, refused.json["code"]) == (421, "wrong_host")


@pytest.mark.parametrize("origin", [f"http://{HOST}", "https://192.168.1.20", "https://192.168.1.20:8744", "https://localhost:8743", "null", f"https://{HOST}.example", f"https://x@{HOST}"])  # fmt: skip
def test_no_other_page_changes_anything(paired: Phone, origin: str) -> None:
    refused = paired.post("/api/sign-in", headers={"Origin": origin}, name="bench", password=SECRET["bench"])
    assert (refused.status_code, refused.json["code"]) == (403, "wrong_origin")


def test_the_machine_itself_does_not_answer_to_the_network_s_address(owner: Machine) -> None:
    assert owner.get("/api/me", headers={"Host": HOST}).json["code"] == "wrong_host"
    assert owner.get("/api/me").json["lan"] is False
    # no header makes it one of the network, or one of the network the machine itself
    assert owner.get("/api/me", headers={"Tirante-Lan": "1", "X-Tirante.lan": "1"}).json["lan"] is False


def test_where_no_network_is_served_nobody_is_let_in(app: Flask) -> None:
    alone = create_app(Config(database=app.extensions["tirante"].database, answers=answer))
    machine = Machine(alone)
    machine.enter("owner")
    found = machine.get("/api/network").json
    assert (found["served"], found["url"], found["code"], found["fingerprint"]) == (False, "", [], "")
    for path, body in (("/api/network/pairing", {"name": "Saw", "own_password": SECRET["owner"]}), ("/api/pair", {"code": "ABCDEFGH"})):  # fmt: skip
        assert machine.post(path, **body).json["code"] == "no_lan"
    assert machine.get("/api/authority.crt").json["code"] == "no_lan"
    assert Phone(alone).get("/api/me").json["code"] == "wrong_host"
