"""The shop's network: what address is served, the phones that are let in, and where anybody is signed in."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from flask import Blueprint, Response
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import Lan, attached, now, over_lan, services
from tirante.api.people import MeOut, Nothing, Typed, again, me_with_cookie
from tirante.api.problems import Refused
from tirante.api.rights import MAY
from tirante.api.routing import operation
from tirante.api.signed_in import DEVICE, let_in, must_be_signed_in
from tirante.core.document.fields import Name
from tirante.documents.code import modules
from tirante.storage import deeds, devices, people

blueprint = Blueprint("devices", __name__)
_strict = ConfigDict(extra="forbid", strict=True)


class DeviceOut(BaseModel):
    """A phone or tablet that was paired."""

    id: str
    name: str
    paired_by: str
    paired_at: str
    seen_at: str
    let_in: bool
    ended: str = Field(description="why it is let in no more; empty while it is")


class SessionOut(BaseModel):
    """Where somebody is signed in."""

    id: str
    who: str
    on: str = Field(description="a phone’s name, or the machine itself")
    since: str
    seen_at: str
    here: bool = Field(description="whether it is the session that asks")


class NetworkOut(BaseModel):
    """The shop's network as it is served, and who is in."""

    served: bool
    url: str = Field(description="that a phone opens; empty where the network is not served")
    fingerprint: str = Field(description="SHA-256 of the certificate that a phone has to trust, in pairs")
    code: list[str] = Field(
        description="a code that a phone reads, of that address alone; rows of # and blanks, its rim left out"
    )
    devices: list[DeviceOut]
    sessions: list[SessionOut]


class PairingIn(BaseModel):
    """A phone that is to be let in; whoever lets it in types their own password again."""

    model_config = _strict
    name: Name
    own_password: Typed


class PairingOut(BaseModel):
    """What is to be typed at the phone."""

    code: str = Field(description="in two groups; nothing keeps it")
    minutes: int
    tries: int


class PairIn(BaseModel):
    """A code as it is typed at the phone."""

    model_config = _strict
    code: Annotated[str, Field(max_length=40)]


def _lan() -> Lan:
    """The network that is served.

    Raises:
        Refused: 409, none is.
    """
    found = services().lan
    if found is None:
        raise Refused(409, "no_lan", "The shop’s network is not served. Start with ./tirante serve --lan and this machine’s address in it.")  # fmt: skip
    return found


def _z(at: datetime) -> str:
    return f"{at.isoformat()}Z"


@operation(blueprint, "GET", "/api/network", answer=NetworkOut)
def get_network() -> NetworkOut:
    """What address phones open, which are let in, and where anybody is signed in: an owner sees all sessions, others their own."""
    return _network()


def _network() -> NetworkOut:
    me, lan, time = must_be_signed_in(), services().lan, now()
    with services().database.transaction() as connection:
        all_devices, sessions = devices.every(connection), people.sessions(connection, time)
        names = {one.id: one.name for one in people.everybody(connection)}
    called = {one.id: one.name for one in all_devices}
    mine = sessions if "people" in MAY[me.person.role] else [one for one in sessions if one.person_id == me.person.id]
    url = f"https://{lan.host}/" if lan else ""
    return NetworkOut(
        served=lan is not None, url=url, fingerprint=lan.fingerprint if lan else "",
        code=["".join("#" if dark else " " for dark in row) for row in modules(url)] if lan else [],
        devices=[
            DeviceOut(
                id=one.id, name=one.name, paired_by=names.get(one.paired_by, ""), paired_at=_z(one.paired_at), seen_at=_z(one.seen_at), let_in=one.let_in(time),
                ended="" if one.let_in(time) else f"ended {one.ended_at:%Y-%m-%d}" if one.ended_at else f"{devices.LASTS.days} days are over: pair it anew",
            )
            for one in all_devices
        ],
        sessions=[
            SessionOut(
                id=one.id, who=names.get(one.person_id, ""), on=called.get(one.device_id, "a phone") if one.device_id else "the machine itself",
                since=_z(one.made_at), seen_at=_z(one.seen_at), here=one.id == me.session,
            )
            for one in mine
        ],
    )  # fmt: skip


@operation(blueprint, "POST", "/api/network/pairing", body=PairingIn, answer=PairingOut)
def open_pairing(data: PairingIn) -> PairingOut:
    """Let a phone in: a code for it, that lasts minutes and works once. Only at the machine itself, where its certificate's fingerprint is shown."""
    _lan()
    if over_lan():
        raise Refused(403, "at_the_machine", "Phones are let in at the machine itself: what its screen shows came over no network.")  # fmt: skip
    me = again(data.own_password)
    with services().database.transaction() as connection:
        code = devices.open_pairing(connection, data.name, me.id, now())
        deeds.add(connection, "pairing opened", {"name": data.name}, me.id, now())
    half = devices.LENGTH // 2
    return PairingOut(code=f"{code[:half]} {code[half:]}", minutes=devices.OPEN_FOR.seconds // 60, tries=devices.TRIES)


@operation(blueprint, "POST", "/api/pair", body=PairIn, answer=MeOut)
def pair(data: PairIn) -> Response:
    """Pair this phone by a code that an owner reads out at the machine; each works once, and five wrong ones shut it."""
    _lan()
    if not over_lan():
        raise Refused(409, "this_machine", "This is the machine itself, which needs no pairing.")
    with services().database.transaction() as connection:
        found = devices.pair(connection, data.code, now())
        if found.how == "wrong":
            deeds.add(connection, "wrong pairing code", {"left": found.left}, None, now())
        elif found.device is not None:
            deeds.add(connection, "phone paired", {"name": found.device.name}, found.device.paired_by, now())
    if found.device is None:
        left = f" {found.left} more {'try' if found.left == 1 else 'tries'}." if found.left else " It is shut now: ask for another." if found.how == "wrong" else ""  # fmt: skip
        what = "That is not the code." if found.how == "wrong" else f"No pairing is open. A code lasts {devices.OPEN_FOR.seconds // 60} minutes and works once: ask an owner for one."  # fmt: skip
        raise Refused(422, "code", f"{what}{left}", "code")
    let_in(found.device)
    return me_with_cookie(DEVICE, found.token, devices.LASTS)


@operation(blueprint, "POST", "/api/network/devices/<device_id>/end", body=Nothing, answer=NetworkOut)
def end_device(device_id: str, data: Nothing) -> NetworkOut:
    """Let a phone in no more; nobody is signed in on it any longer."""
    del data
    me = must_be_signed_in().person
    with services().database.transaction() as connection:
        ended = devices.end(connection, device_id, now()) if device_id.isascii() else None
        if ended is None:
            raise Refused(404, "not_found", "There is no such phone, or it was ended before.")
        deeds.add(connection, "phone ended", {"name": ended.name}, me.id, now())
    return _network()


@operation(blueprint, "POST", "/api/network/sessions/<session_id>/end", body=Nothing, answer=NetworkOut)
def end_session(session_id: str, data: Nothing) -> NetworkOut:
    """End a session: one's own anywhere, or as an owner anybody's."""
    del data
    me = must_be_signed_in().person
    with services().database.transaction() as connection:
        one = next((one for one in people.sessions(connection, now()) if one.id == session_id), None)
        if one is None or (one.person_id != me.id and "people" not in MAY[me.role]):
            raise Refused(404, "not_found", "There is no such session, or it has ended.")
        whose = next(p.name for p in people.everybody(connection) if p.id == one.person_id)
        people.end_session(connection, session_id)
        deeds.add(connection, "session ended", {"name": whose}, me.id, now())
    return _network()


@operation(blueprint, "GET", "/api/authority.crt", media="application/x-x509-ca-cert")
def authority() -> Response:
    """The certificate that a phone has to trust; no secret. Its fingerprint is compared with what the machine's screen shows."""
    return attached(_lan().authority, "application/x-x509-ca-cert", "tirante.crt")
