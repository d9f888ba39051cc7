"""Reading a design of any version, and writing one.

An upgrade takes the JSON of one version to the next. What it does not understand (a broken file) it leaves where it stands,
so that reading names the field; it never fails by itself.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any
from uuid import NAMESPACE_OID, uuid5

from tirante.core.document.design import SCHEMA_VERSION, Design, tied

Raw = dict[str, Any]


def _objects(raw: Raw, field: str) -> list[Any]:
    """A list of the file; what is no list is passed on as the one thing in it, to be refused by its field."""
    found = raw.get(field, [])
    return found if isinstance(found, list) else [found]


def _add_ends(raw: Raw) -> Raw:
    """1 → 2: suspension ends."""
    return {**raw, "schema_version": 2, "ends": []}


def _one_car(raw: Raw) -> Raw:
    """2 → 3: the vehicle belongs to the job. Where two ends said different things, the first is kept."""
    car: Raw = {}
    ends: list[Any] = []
    for one in _objects(raw, "ends"):
        if not isinstance(one, dict) or not isinstance(one.get("end"), dict):
            ends.append(one)
            continue
        vehicle = one["end"].get("vehicle")
        where = one["end"].get("end", "front")
        if isinstance(vehicle, dict):
            share, driven = vehicle.get("brake_share", 0.5), vehicle.get("drive_share", 0.0)
            for field in ("wheelbase_mm", "cg_height_mm"):
                if field in vehicle:
                    car.setdefault(field, vehicle[field])
            car.setdefault("brake_front_share", _share_of(share, where))
            car.setdefault("drive_front_share", _share_of(driven, where))
            car.setdefault(f"brakes_{where}", vehicle.get("brakes", "outboard"))
            car.setdefault(f"drive_{where}", vehicle.get("drive"))
        ends.append({**one, "end": {**one["end"], "vehicle": None}})
    return {**raw, "schema_version": 3, "ends": ends, "car": car}


def _share_of(share: Any, where: Any) -> Any:
    """The front's share, of a share of the end that it was given for."""
    return round(1 - share, 12) if where != "front" and isinstance(share, int | float) else share


_OF_THE_JOINT = ("bolt", "spacer", "shim_mm", "thread_in_plane")  # of a tab pair as version 3 had it


def _parts_and_joints(raw: Raw) -> Raw:
    """3 → 4: links, boxed links, arms and tab pairs are parts; what a tab pair held is a joint, which owns bolt and spacers."""
    parts: list[Any] = []
    brackets: list[Any] = []
    joints: list[Any] = []
    for link in _objects(raw, "links"):
        if not isinstance(link, dict):
            parts.append(link)
            continue
        tab, boxed = link.get("tab"), link.get("boxed")
        own = {name: value for name, value in link.items() if name not in ("tab", "boxed")}
        if isinstance(own.get("cases"), list):
            own["cases"] = [_typed_case(case) for case in own["cases"] if not _was_worked(case)]
        if isinstance(boxed, dict):
            kept = {name: own[name] for name in ("id", "name", "side", "note", "between", "cases") if name in own}
            parts.append({"kind": "boxed_link", **kept, **boxed})
        elif boxed is not None:
            parts.append({"kind": "boxed_link", **own, "boxed": boxed})
        else:
            parts.append({"kind": "link", **own})
        if isinstance(tab, dict):
            bracket, held = _of_tab(own, tab, boxed is None)
            brackets.append(bracket)
            joints += held
        elif tab is not None:
            parts[-1]["tab"] = tab
    parts += [{"kind": "arm", **arm} if isinstance(arm, dict) else arm for arm in _objects(raw, "arms")]
    rest = {name: value for name, value in raw.items() if name not in ("links", "arms")}
    return {**rest, "schema_version": 4, "parts": parts + brackets, "joints": joints}


def _was_worked(case: Any) -> bool:
    return isinstance(case, dict) and case.get("worked") is True


def _typed_case(case: Any) -> Any:
    """What a person types of a case; where it applied was kept beside it once, and always empty of a typed one."""
    return (
        {name: value for name, value in case.items() if name not in ("at", "worked")}
        if isinstance(case, dict)
        else case
    )


_ENDS = {"a": "a", "b": "b", "both": "ab"}  # of a link, that its tab pair held


def _of_tab(link: Raw, tab: Raw, holds: bool) -> tuple[Raw, list[Raw]]:
    """The bracket that a link's tab pair becomes, and a joint for each end that it held; ids made of the link's, always the same."""
    made = _derived(link.get("id"), "tab pair")
    bracket = {name: value for name, value in tab.items() if name not in (*_OF_THE_JOINT, "ends")}
    name = f"{link.get('name', '')}"[:73] + ", tabs"
    said = tab.get("ends", "both")
    if not isinstance(said, str) or said not in _ENDS:
        bracket["ends"], said = said, ""  # to be refused by its field, not dropped
    ends = _ENDS.get(said, "") if holds else ""
    shared = {name: tab[name] for name in _OF_THE_JOINT if name in tab}
    joints = [
        {"id": _derived(link.get("id"), f"joint {end}"), "held": {"kind": "link_end", "part": link.get("id"), "end": end}, "by": made, **shared}
        for end in ends
    ]  # fmt: skip
    return {"kind": "tab_pair", "id": made, "name": name, "side": link.get("side", "pair"), **bracket}, joints


def _derived(link_id: Any, what: str) -> str:
    return str(uuid5(NAMESPACE_OID, f"{link_id} {what}"))


def _loads_that_lean(raw: Raw) -> Raw:
    """4 → 5: the body leans in a corner; a landing or snatch says whether one wheel falls or both, as it was taken to mean; a fillet is as the
    wall asks where it was left at the 4 mm that stood there by itself; a tab's pull straight off its foot, likewise, is not known."""
    raw = {**raw, "parts": [_legged(part) for part in _objects(raw, "parts")]} if "parts" in raw else raw
    loads = raw.get("loads")
    if isinstance(loads, dict) and isinstance(loads.get("cases"), list):
        raw = {**raw, "loads": {**loads, "cases": [_leaning(case) for case in loads["cases"]]}}
    return {**raw, "schema_version": 5}


def _legged(part: Any) -> Any:
    if not isinstance(part, dict):
        return part
    if (
        part.get("kind") == "tab_pair" and part.get("load_angle_deg") == 0.0
    ):  # straight off its foot was what stood there by itself
        return {**part, "load_angle_deg": None}
    changed = {
        name: {**part[name], "leg_mm": None}
        for name in ("welding", "splice")
        if isinstance(part.get(name), dict) and part[name].get("leg_mm") == 4.0
    }
    return {**part, **changed} if changed else part


def _leaning(case: Any) -> Any:
    if not isinstance(case, dict):
        return case
    case = dict(case)
    if case.get("roll_deg", 0.0) == 0.0:  # it could not say that it is to be worked out
        case["roll_deg"] = None
    if case.get("kind") in ("landing", "snatch"):
        case["wheels"] = "both"
    return case


_UPGRADES: dict[int, Callable[[Raw], Raw]] = {
    1: _add_ends,
    2: _one_car,
    3: _parts_and_joints,
    4: _loads_that_lean,
}  # version → function to the next; a stored example of every version is a test


def load_design(text: str | bytes) -> Design:
    """Read a design of any version.

    Args:
        text: the file's JSON.

    Raises:
        ValidationError: by field, for what does not fit the format.
    """
    return open_design(text)[0]


_TOLD: dict[int, tuple[tuple[str, str], ...]] = {
    # by the version that it was: what is said otherwise since, where a kind of case is among its own
    4: (
        ("car", "In a corner the body leans now, by both ends’ roll stiffness and roll centres: it stood upright, so that anti-roll bars carried nothing."),
        ("wheel", "Where one wheel is hit the other stands at its own height: both rose alike, and a beam did not lean."),
        ("strike", "A strike is by what stands on both wheels of its end now: it was by one wheel’s load, which is not the least that comes down on a rock."),
        ("landing", "Landings and snatches say whether one wheel falls or both; these are of both, as they were taken."),
    ),
}  # fmt: skip


LEGS = "Fillets that were left at 4 mm are as their wall asks: a 4 mm fillet burns through a thinner one."
STRICTER = (
    "Parts are judged more strictly: threads at the limits of their class and at the most that may show, net sections at 2.0, pins and lugs for "
    "pull and strike at once, joints for their friction, tabs for every way their pull may come and for the fillets that a torch reaches. What held may not hold now: look at what is to be settled."
)


def _told(raw: Raw, version: int) -> tuple[str, ...]:
    loads = raw.get("loads")
    cases = loads.get("cases") if isinstance(loads, dict) else None
    known = [case.get("kind", "wheel") for case in cases if isinstance(case, dict)] if isinstance(cases, list) else []
    kinds = {kind for kind in known if isinstance(kind, str)}
    told: tuple[str, ...] = ()
    if version <= 4:
        parts = [part for name in ("parts", "links", "arms") for part in _objects(raw, name) if isinstance(part, dict)]
        legged = any(part.get("kind") != "tab_pair" and _legged(part) is not part for part in parts)
        told = (LEGS,) if legged else ()
        told += (STRICTER,) if parts else ()
    return told + tuple(text for was, lines in _TOLD.items() if version <= was for kind, text in lines if kind in kinds)


def open_design(text: str | bytes) -> tuple[Design, tuple[str, ...]]:
    """Read a design of any version, with what it says otherwise since it was saved, and why.

    Args:
        text: the file's JSON.

    Raises:
        ValidationError: by field, for what does not fit the format.
    """
    told: tuple[str, ...] = ()
    try:
        raw = json.loads(text)
    except (ValueError, RecursionError):
        raw = None
    version = raw.get("schema_version", SCHEMA_VERSION) if isinstance(raw, dict) else None
    if isinstance(raw, dict) and type(version) is int and version in _UPGRADES:
        told = _told(raw, version)
        while raw["schema_version"] in _UPGRADES:
            raw = _UPGRADES[raw["schema_version"]](raw)
        text = json.dumps(raw)
    return tied(Design.model_validate_json(text)), told


def dump_design(design: Design) -> str:
    """The design as JSON text: fixed order, two spaces, a final newline; the same design gives the same bytes."""
    return json.dumps(design.model_dump(mode="json"), ensure_ascii=False, indent=2) + "\n"
