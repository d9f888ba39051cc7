"""What a person may set of an end's own kind: its joints by sort, and what its measures are taken from."""

from __future__ import annotations

from typing import Any

from tirante.core.document.forms.table import Field, choice, direction, of_end, switch, text

_J, _R = "kind/joints/{i}/", "kind/roles/"
SIDES = [("own", "of its own side"), ("left", "left"), ("right", "right")]


def _spot(where: str, label: str) -> tuple[Field, Field]:
    return of_end("bodies", f"{_J}{where}/body", f"{label}, on"), of_end("points", f"{_J}{where}/point", f"{label}, at")


def _of_line(what: str) -> tuple[Field, Field]:
    return (
        of_end(
            "points", f"{_J}toward", f"{what} runs toward", optional=True, empty="no point: along the direction below"
        ),
        direction(f"{_J}direction", f"{what} along").model_copy(update={"optional": True}),
    )


_TITLE = text(f"{_J}name", "Name")
# an end's own kind: what each sort of joint asks; "{i}" its place among the joints
OWN_KIND: dict[str, tuple[Field, ...]] = {
    "own kind": (text("kind/title", "Kind"),),
    "own beam": (switch("kind/rises", "its wheels rise against the body, not only lean"),),
    "sort of joint": (
        choice(
            "sort", "What it is",
            [
                ("link", "link: two points a fixed length apart"), ("ball", "ball joint: two bodies share a point"),
                ("hinge", "hinge: a body turns about the line through two points"),
                ("pivot", "pivot: a body turns about a line through one point, as a rocker does"),
                ("universal", "universal: held at a point, cannot roll about its own length, as a link in a bush or clevis"),
                ("slider", "slider: a point of a body runs along a line"), ("bush", "bush: two bodies share a point, and the bush gives"),
            ],
        ),
    ),
    "joint: link": (_TITLE, *_spot("a", "One end"), *_spot("b", "Other end"), switch(f"{_J}shaft", "a drive shaft, which is bought whole"),
        switch(f"{_J}struck", "hangs low: a rock may strike it")),
    "joint: ball": (
        _TITLE, of_end("bodies", f"{_J}bodies/0", "One body"), of_end("bodies", f"{_J}bodies/1", "Other body"), of_end("points", f"{_J}point", "Where they meet"),
    ),
    "joint: bush": (
        _TITLE, of_end("bodies", f"{_J}bodies/0", "One body"), of_end("bodies", f"{_J}bodies/1", "Other body"), of_end("points", f"{_J}point", "Where they meet"),
        direction(f"{_J}direction", "Its bolt along"),
    ),
    "joint: hinge": (
        _TITLE, of_end("bodies", f"{_J}body", "What turns"), of_end("bodies", f"{_J}on", "It turns on"), of_end("points", f"{_J}points/0", "Its line from"),
        of_end("points", f"{_J}points/1", "Its line to"),
    ),
    "joint: pivot": (
        _TITLE, of_end("bodies", f"{_J}body", "What turns"), of_end("bodies", f"{_J}on", "It turns on"), of_end("points", f"{_J}point", "At"), *_of_line("Its line"),
    ),
    "joint: universal": (
        _TITLE, of_end("bodies", f"{_J}body", "What is held"), of_end("bodies", f"{_J}on", "It is held on"), of_end("points", f"{_J}point", "At"),
        of_end("points", f"{_J}end", "Its length runs to"), *_of_line("Its bolt"),
    ),
    "joint: slider": (
        _TITLE, *_spot("place", "What slides"), of_end("bodies", f"{_J}on", "Its line is on"), of_end("points", f"{_J}line/0", "Its line from"),
        of_end("points", f"{_J}line/1", "Its line to"),
    ),
    "joint: both sides": (switch(f"{_J}pair", "on both sides of the axle"),),
    "joint: one link": (choice(f"{_J}a/side", "One end, side", SIDES), choice(f"{_J}b/side", "Other end, side", SIDES)),
    "joint: one slider": (choice(f"{_J}place/side", "What slides, side", SIDES),),
    "roles": (
        of_end("bodies", f"{_R}wheel_body", "The wheel turns on"),
    ),
    "roles of a beam": (
        of_end("bodies", f"{_R}axle_body", "The axle itself", optional=True, empty="what the wheel turns on"),
    ),
    "steering axis": (of_end("points", f"{_R}steer_axis/0", "Lower"), of_end("points", f"{_R}steer_axis/1", "Upper")),
    "upper plane": tuple(of_end("points", f"{_R}upper_plane/{i}", said) for i, said in enumerate(("Inner", "Inner, other", "Outer"))),
    "lower plane": tuple(of_end("points", f"{_R}lower_plane/{i}", said) for i, said in enumerate(("Inner", "Inner, other", "Outer"))),
    "upper line": (of_end("points", f"{_R}upper_line/0", "On the chassis"), of_end("points", f"{_R}upper_line/1", "On the axle")),
    "lower line": (of_end("points", f"{_R}lower_line/0", "On the chassis"), of_end("points", f"{_R}lower_line/1", "On the axle")),
}  # fmt: skip

_PLACE: dict[str, Any] = {"body": "ground", "point": "", "side": "own"}
_BEGUN: dict[str, dict[str, Any]] = {
    "link": {"a": _PLACE, "b": {**_PLACE, "body": ""}, "shaft": False, "struck": False},
    "ball": {"bodies": ["", ""], "point": ""},
    "bush": {"bodies": ["", "ground"], "point": "", "direction": [1.0, 0.0, 0.0]},
    "hinge": {"body": "", "on": "ground", "points": ["", ""]},
    "pivot": {"body": "", "on": "ground", "point": "", "direction": [1.0, 0.0, 0.0], "toward": None},
    "universal": {"body": "", "on": "ground", "point": "", "end": "", "direction": [1.0, 0.0, 0.0], "toward": None},
    "slider": {"place": {**_PLACE, "body": ""}, "on": "ground", "line": ["", ""]},
}
JOINTS_BEGUN = {f"joint: {sort}": {"kind": sort, "name": "", "pair": True, **own} for sort, own in _BEGUN.items()}
