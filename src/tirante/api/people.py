"""People who work here: who they are, what they may do, signing in and out; and the log of who did what."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Annotated, Any

from flask import Blueprint, Response, g, request
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import now, over_lan, services
from tirante.api.problems import Refused
from tirante.api.rights import MAY, ROLES, WORDS
from tirante.api.routing import operation
from tirante.api.signed_in import device, must_be_signed_in, session_cookie, signed_in
from tirante.core.document.fields import Id, Name
from tirante.storage import deeds, people
from tirante.storage.people import NameTaken, Person, Role

blueprint = Blueprint("people", __name__)
_strict = ConfigDict(extra="forbid", strict=True)
Typed = Annotated[str, Field(max_length=128)]
LEAST = 12  # OWASP ASVS 4.0.3, 2.1.1
DULL = (
    "password",
    "passwort",
    "contraseña",
    "qwert",
    "12345",
    "abcde",
    "tirante",
    "letmein",
    "welcome",
    "iloveyou",
    "admin",
)


class PersonOut(BaseModel):
    """Somebody who may sign in."""

    id: str
    name: str
    role: Role
    role_word: str
    active: bool


class MeOut(BaseModel):
    """Who is signed in here."""

    accounts: bool = Field(description="whether anybody has an account: nobody is asked for a name until then")
    me: PersonOut | None
    rights: list[str]
    csrf: str = Field(description="to be sent as X-Csrf with every change")
    lan: bool = Field(description="whether this came over the shop’s network")
    device: str = Field(description="what this phone is called; empty: it is not paired, or this is the machine itself")


class RoleOut(BaseModel):
    """A role and what it may do."""

    role: Role
    word: str
    may: list[str]


class PeopleOut(BaseModel):
    """Everybody, and the roles there are."""

    people: list[PersonOut]
    roles: list[RoleOut]


class DeedOut(BaseModel):
    """Something that somebody did."""

    number: int
    at: str
    who: str
    what: str
    of: dict[str, Any]
    link: str = Field(description="of the chain up to it, as sheets carry it")


class DeedsOut(BaseModel):
    """The log, the latest first."""

    deeds: list[DeedOut]
    head: str = Field(description="of the chain: to be compared with one that was kept elsewhere")
    broken_at: int | None = Field(description="number of the first that is not as it was written")


class FirstIn(BaseModel):
    """Who is to be the first owner."""

    model_config = _strict
    id: Id
    name: Name
    password: Typed


class SignInIn(BaseModel):
    """Who wants to sign in."""

    model_config = _strict
    name: Name
    password: Typed


class PersonIn(BaseModel):
    """Somebody new; whoever adds them types their own password again."""

    model_config = _strict
    id: Id
    name: Name
    role: Role
    password: Typed
    own_password: Typed


class PersonChangeIn(BaseModel):
    """What shall be another; whoever changes it types their own password again."""

    model_config = _strict
    role: Role | None = None
    active: bool | None = None
    password: Typed | None = None
    own_password: Typed


class MyPasswordIn(BaseModel):
    """A new password of one's own."""

    model_config = _strict
    password: Typed
    own_password: Typed


class Nothing(BaseModel):
    """Nothing is asked."""

    model_config = _strict


def _person_out(one: Person) -> PersonOut:
    return PersonOut(id=one.id, name=one.name, role=one.role, role_word=ROLES[one.role], active=one.active)


def _me() -> MeOut:
    found, on = signed_in(), device()
    return MeOut(
        accounts=services().anybody, me=_person_out(found.person) if found else None, csrf=found.csrf if found else "",
        lan=over_lan(), device=on.name if on else "",
        rights=sorted(MAY[found.person.role]) if found else [] if services().anybody else sorted(MAY["designer"] - {"sign"}),
    )  # fmt: skip


def _good(password: str, name: str, path: str = "password") -> str:
    """A password that may be kept.

    Raises:
        Refused: 422, what is wrong with it.
    """
    low = password.casefold()
    why = ""
    if len(password) < LEAST:
        why = f"At least {LEAST} characters; a few words that do not belong together are easy to keep in mind."
    elif name.casefold() in low or any(one in low for one in DULL) or len(set(low)) < 6:
        why = "That is among the first that somebody would try. Take a few words that do not belong together."
    if why:
        raise Refused(422, "password", why, path)
    return password


def again(password: str, path: str = "own_password") -> Person:
    """That whoever is signed in types their password a second time.

    Args:
        password: as it is typed.
        path: of the field.

    Raises:
        Refused: 403, nobody has an account; 422, it is another; 429, too many were.
    """
    me = must_be_signed_in().person
    if _checked(me.name, password) is None:
        raise Refused(422, "password", "That is not your password.", path)
    return me


def _checked(name: str, password: str) -> Person | None:
    """Who that is; what fails is written down, and after too many nothing is looked at for a while.

    Raises:
        Refused: 429, too many wrong ones.
    """
    time = now()
    with services().database.transaction() as connection:
        one = people.named(connection, name)
        key = one.name if one else name  # typed with a blank or an accent more it is still that one
        tries = deeds.failed_lately(connection, key, time, people.WITHIN)
    if tries >= people.TRIES:
        raise Refused(429, "too_many", f"Too many wrong passwords for {key}. It is looked at again in {people.WITHIN.seconds // 60} minutes.")  # fmt: skip
    with services().database.transaction() as connection:
        found = people.known(connection, name, password)
        if found is None:
            deeds.add(connection, "wrong password", {"name": key.casefold()}, None, time)
    return found


def me_with_cookie(name: str, token: str, lasts: timedelta) -> Response:
    """Who is signed in, and something for the browser to keep that no script reads and no other page sends along.

    Args:
        name: of the cookie.
        token: in it.
        lasts: it is kept so long.
    """
    response = Response(_me().model_dump_json(), mimetype="application/json")
    response.set_cookie(name, token, max_age=int(lasts.total_seconds()), httponly=True, samesite="Strict", secure=request.is_secure)  # fmt: skip
    return response


def _begin(person: Person) -> Response:
    """A session for somebody."""
    time, on = now(), device()
    with services().database.transaction() as connection:
        token, csrf = people.sign_in(connection, person, time, on.id if on else None)
        deeds.add(connection, "signed in", {"name": person.name.casefold()}, person.id, time)
    g.signed_in = people.SignedIn(person=person, csrf=csrf)
    return me_with_cookie(session_cookie(), token, people.LASTS)


@operation(blueprint, "GET", "/api/me", answer=MeOut)
def me() -> MeOut:
    """Who is signed in, and whether anybody needs to be."""
    return _me()


@operation(blueprint, "POST", "/api/people/first", body=FirstIn, answer=MeOut)
def first_person(data: FirstIn) -> Response:
    """Make the first owner, and sign in; from then on everybody signs in."""
    person = Person(id=data.id, name=data.name, role="owner", active=True)
    _good(data.password, data.name)
    with services().database.transaction() as connection:
        if people.everybody(connection, lock=True):
            raise Refused(409, "not_first", "There is an owner already. Ask them for an account.")
        people.add(connection, person, data.password, now())
        deeds.add(connection, "person added", {"name": person.name, "role": person.role}, None, now())
    services().anybody = True
    return _begin(person)


@operation(blueprint, "POST", "/api/sign-in", body=SignInIn, answer=MeOut)
def sign_in(data: SignInIn) -> Response:
    """Sign in with name and password."""
    person = _checked(data.name, data.password)
    if person is None:
        raise Refused(422, "password", "No account here has that name and password.", "password")
    return _begin(person)


@operation(blueprint, "POST", "/api/sign-out", body=Nothing, answer=MeOut)
def sign_out(data: Nothing) -> Response:
    """End this session."""
    del data
    token, found = request.cookies.get(session_cookie(), ""), signed_in()
    if found is not None:
        with services().database.transaction() as connection:
            people.sign_out(connection, token)
            deeds.add(connection, "signed out", {}, found.person.id, now())
    g.signed_in = None
    response = Response(_me().model_dump_json(), mimetype="application/json")
    response.delete_cookie(session_cookie(), samesite="Strict", httponly=True, secure=request.is_secure)
    return response


@operation(blueprint, "GET", "/api/people", answer=PeopleOut)
def get_people() -> PeopleOut:
    """Everybody who has an account, and what each role may do."""
    return _everybody()


def _everybody() -> PeopleOut:
    with services().database.transaction() as connection:
        found = people.everybody(connection)
    roles = [RoleOut(role=role, word=ROLES[role], may=[WORDS[right] for right in WORDS if right in rights]) for role, rights in MAY.items()]  # fmt: skip
    return PeopleOut(people=[_person_out(one) for one in found], roles=roles)


@operation(blueprint, "POST", "/api/people", body=PersonIn, answer=PeopleOut)
def add_person(data: PersonIn) -> PeopleOut:
    """Give somebody an account."""
    me = again(data.own_password)
    _good(data.password, data.name)
    with services().database.transaction() as connection:
        try:
            people.add(connection, Person(id=data.id, name=data.name, role=data.role, active=True), data.password, now())  # fmt: skip
        except NameTaken as error:
            raise Refused(422, "name_taken", f"{data.name} has an account already. Take another name.", "name") from error  # fmt: skip
        deeds.add(connection, "person added", {"name": data.name, "role": data.role}, me.id, now())
    return _everybody()


@operation(blueprint, "POST", "/api/people/<person_id>/change", body=PersonChangeIn, answer=PeopleOut)
def change_person(person_id: str, data: PersonChangeIn) -> PeopleOut:
    """Change somebody's role, end or open their account, give them a new password; they sign in anew."""
    me = again(data.own_password)
    with services().database.transaction() as connection:
        everybody = people.everybody(connection, lock=True)
        one = next((one for one in everybody if one.id == person_id), None)
        if one is None:
            raise Refused(404, "not_found", "There is nobody with that account.")
        if data.password is not None:
            _good(data.password, one.name)
        after = Person(id=one.id, name=one.name, role=data.role or one.role, active=one.active if data.active is None else data.active)  # fmt: skip
        if not any(p.role == "owner" and p.active for p in (*(p for p in everybody if p.id != one.id), after)):
            raise Refused(422, "last_owner", "Somebody must stay an owner. Make another person one first.", "role" if data.role else "active")  # fmt: skip
        people.change(connection, after, data.password)
        changed = {"name": one.name, "role": after.role, "active": after.active, "password": data.password is not None}
        deeds.add(connection, "person changed", changed, me.id, now())
    return _everybody()


@operation(blueprint, "POST", "/api/me/password", body=MyPasswordIn, answer=MeOut)
def change_my_password(data: MyPasswordIn) -> Response:
    """Take a new password; other sessions of one's own end."""
    me = again(data.own_password)
    _good(data.password, me.name)
    with services().database.transaction() as connection:
        people.change(connection, me, data.password)
        deeds.add(connection, "own password changed", {}, me.id, now())
    return _begin(me)


@operation(blueprint, "GET", "/api/deeds", answer=DeedsOut)
def get_deeds() -> DeedsOut:
    """Who did what, the latest five hundred first, and whether the chain is whole."""
    with services().database.transaction() as connection:
        found, names = deeds.every(connection), {one.id: one.name for one in people.everybody(connection)}
    return DeedsOut(
        head=found[-1].link if found else deeds.START, broken_at=deeds.broken_at(found),
        deeds=[
            DeedOut(number=one.number, at=f"{one.at.isoformat()}Z", who=names.get(one.person_id or "", ""), what=one.what, of=json.loads(one.body), link=one.link)
            for one in reversed(found[-500:])
        ],
    )  # fmt: skip
