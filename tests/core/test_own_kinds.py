"""Kinds of suspension of one's own: counted as they are built, and nothing that depends on what a thing is called.

Sources: Grübler's count of freedoms (any textbook of mechanisms; from memory): six for each body, less what each joint takes: a
hinge five, a ball three, a ball that cannot roll four, a link between balls one. Forces of the link with a spring on it by hand,
as a beam on two supports.
"""

from __future__ import annotations

import json
from typing import Any

import numpy as np
import pytest

from tests.core.end_jobs import all_parts, job_of, stood
from tests.core.test_statics import ENDS, IN_BUSHES, carried
from tests.core.test_suspension import example, kind
from tests.jobs import template_of, work
from tirante.calc import calculate
from tirante.core.document.design import Design
from tirante.core.document.end import Damper, End, PlaceIn
from tirante.core.document.template import LinkJoint, Template
from tirante.core.errors import InputError
from tirante.core.suspension.as_built import AsBuilt, as_built
from tirante.core.suspension.cycle import cycle, positions
from tirante.core.suspension.own_kind import begun, end_of_kind, kind_file, own, read_kind, with_body, with_point
from tirante.core.suspension.statics import Push

PLAIN = [name for name in ENDS if not example(name).additions]
TAKES = {"link": 1, "ball": 3, "bush": 3, "slider": 2, "hinge": 5, "pivot": 5, "universal": 4}


def built(end: End, **change: Any) -> AsBuilt:
    template = template_of(end)
    return as_built(template.model_copy(update=change) if change else template, end)


def of_own(end: End, **change: Any) -> End:
    """An end whose kind is its own, with something of the kind changed."""
    mine = own(template_of(end), end)
    assert mine.kind
    return mine.model_copy(update={"kind": Template.model_validate({**mine.kind.model_dump(), **change})})


# --- counted as it is built -----------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", [n for n in PLAIN if kind(n).axle == "independent" and n not in IN_BUSHES])
def test_joint_by_joint_as_gruebler_counts(name: str) -> None:
    """Of an independent corner no joint is one too many: each takes what it takes, until the travel alone is left."""
    known: dict[str, Any] = {"links": {}, "balls": {}, "bushes": {}, "sliders": {}}
    end = example(name).model_copy(update=known)
    template = template_of(end)
    bare = {"roles": template.roles.model_copy(update=dict.fromkeys(("steer_axis", "upper_plane", "lower_plane")))}
    free = 6 * len(template.bodies)
    for count in range(len(template.joints) + 1):
        found = built(end, joints=template.joints[:count], **bare)
        assert found.beside == max(free - 1, 0), (name, count)
        assert found.whole == (free == 1)
        if count < len(template.joints):
            assert f"Still moves in {'one way' if free == 2 else f'{free - 1} ways'} beside" in found.says
            free -= TAKES[template.joints[count].kind]
    assert free == 1


@pytest.mark.parametrize("name", ENDS)
def test_every_kind_that_ships_is_whole_and_its_travel_is_what_is_followed(name: str) -> None:
    found = built(example(name))
    assert found.whole
    assert found.beside == 0
    if name in IN_BUSHES:
        assert found.says.startswith(
            "Nothing of it moves by itself; it rises and falls as far as these give: front bush"
        )
        bare = built(example(name).model_copy(update={"bushes": {}}))
        assert not bare.whole
        assert "held fast" in bare.says
        return
    does = "leans" if not template_of(example(name)).rises else "rises"
    assert found.says.startswith(f"It {does}")
    assert len(found.motions) == found.free


def test_what_holds_too_much_is_named_and_what_no_joint_holds() -> None:
    end = example("five-link")
    template = template_of(end)
    one = next(joint for joint in template.joints if isinstance(joint, LinkJoint))
    sixth = one.model_copy(update={"name": "sixth link", "a": one.a.model_copy(update={"point": "brace"})})
    more = (*template.points, template.points[0].model_copy(update={"name": "brace", "what": "brace"}))
    fast = of_own(
        end.model_copy(update={"points": {**end.points, "brace": (300.0, 250.0, 150.0)}}), points=[p.model_dump() for p in more], joints=[j.model_dump() for j in (*template.joints, sixth)]
    )  # fmt: skip
    found = built(fast)
    assert not found.whole
    assert found.beside == 0
    assert "held fast" in found.says
    assert "sixth link" in found.says
    loose = of_own(end, bodies=(*template.bodies, "rocker"))
    assert built(loose).beside == 6
    assert "Nothing is joined to the rocker yet." in built(loose).says


def test_a_ball_in_the_place_of_a_universal_rolls_about_its_own_length() -> None:
    """A link that is a body of its own, on two balls: the count is one, and the sentence says which motion it is."""
    end = link_as_body(example("five-link"))
    assert end.kind
    assert built(end).whole
    balls = tuple(
        {"kind": "ball", "name": j.name, "bodies": (j.body, j.on), "point": j.point} if j.kind == "universal" else j.model_dump()
        for j in end.kind.joints
    )  # fmt: skip
    rolls = end.model_copy(update={"kind": Template.model_validate({**end.kind.model_dump(), "joints": balls})})
    found = built(rolls)
    assert (found.beside, [motion.what for motion in found.motions]) == (
        1,
        ["the long link turns about the line through its joints"],
    )


# --- a link that is a body: as a link, and with a spring on it -------------------------------------------------------------


def link_as_body(end: End, name: str | None = None) -> End:
    """One of its links as a body held by a universal joint on the chassis and a ball on the upright."""
    template = template_of(end)
    link = next(j for j in template.joints if isinstance(j, LinkJoint) and not j.shaft and name in (None, j.name))
    end = end.model_copy(update={"links": {n: one for n, one in end.links.items() if n != link.name}})
    inner, outer = (link.a, link.b) if link.a.body == "ground" else (link.b, link.a)
    rest = [j.model_dump() for j in template.joints if j is not link]
    made: list[dict[str, Any]] = [
        {
            "kind": "universal", "name": "long link bush", "body": "long_link", "on": "ground", "point": inner.point, "end": outer.point,
            "direction": (0.8, 0.1, 0.3),
        },
        {"kind": "ball", "name": "long link ball", "bodies": ("long_link", outer.body), "point": outer.point},
    ]  # fmt: skip
    return of_own(end, bodies=(*template.bodies, "long_link"), joints=(*rest, *made))


@pytest.mark.parametrize("name", ["five-link", "strut-lateral-links", "trailing-arm-drive-shaft"])
def test_a_link_made_a_body_moves_the_wheel_as_the_link_did(name: str) -> None:
    end = example(name)
    rows = positions(np.linspace(-60, 60, 9), [0.0, 2.0], [0.0])
    was, now = (cycle(template_of(one), one, rows) for one in (end, link_as_body(end)))
    assert set(now.status) == {"converged"}
    for key in ("camber_deg", "toe_deg", "wheel_x_mm", "wheel_y_mm"):
        if key in was.columns:
            np.testing.assert_allclose(now.columns[key], was.columns[key], atol=1e-7)
    assert {"camber_deg", "toe_deg"} <= set(was.columns)


def spring_on_link() -> End:
    """A corner begun from nothing: a level link across the car that is a body, a spring upright on its middle, four plain links."""
    end = begun("independent")
    for text in (
        "Inner end",
        "Outer end",
        *(f"{which} {at}" for which in ("One", "Two", "Three", "Four") for at in ("in", "out")),
    ):
        end = with_point(end, text)
    end = with_body(end, "Spring link")
    assert end.kind
    assert [p.name for p in end.kind.points][:4] == ["wheel_centre", "inner_end", "outer_end", "one_in"]
    assert end.kind.bodies == ("upright", "spring_link")
    at = {
        "inner_end": (0.0, 200.0, 200.0), "outer_end": (0.0, 700.0, 200.0), "damper_top": (0.0, 450.0, 560.0), "damper_low": (0.0, 450.0, 200.0),
        "one_in": (150.0, 260.0, 240.0), "one_out": (120.0, 690.0, 220.0), "two_in": (700.0, 560.0, 260.0), "two_out": (60.0, 680.0, 230.0),
        "three_in": (60.0, 300.0, 430.0), "three_out": (40.0, 660.0, 460.0), "four_in": (-220.0, 310.0, 420.0), "four_out": (-60.0, 665.0, 455.0),
    }  # fmt: skip
    links: list[dict[str, Any]] = [
        {"kind": "link", "name": f"{n} link", "a": {"body": "ground", "point": f"{n}_in"}, "b": {"body": "upright", "point": f"{n}_out"}}
        for n in ("one", "two", "three", "four")
    ]  # fmt: skip
    own_link: list[dict[str, Any]] = [
        {
            "kind": "universal", "name": "inner bush", "body": "spring_link", "on": "ground", "point": "inner_end", "end": "outer_end",
            "direction": (1.0, 0.0, 0.0),
        },
        {"kind": "ball", "name": "outer ball", "bodies": ("spring_link", "upright"), "point": "outer_end"},
    ]  # fmt: skip
    made = Template.model_validate({**end.kind.model_dump(), "joints": (*own_link, *links)})
    damper = Damper(
        a=PlaceIn(body="ground", point="damper_top"),
        b=PlaceIn(body="spring_link", point="damper_low"),
        rate_n_per_mm=60.0,
    )
    return end.model_copy(update={"kind": made, "points": {**end.points, **at}, "damper": damper})


def test_a_spring_on_a_link_bends_it_as_a_beam_on_two_supports() -> None:
    """By hand: F goes up at the outer ball; about the inner joint F·L = S·L/2, so that the spring pushes down with 2F and the
    chassis holds the link with F, upward. Nothing pulls along it, the other links carry nothing, the inner joint takes no moment."""
    up = 4000.0
    found = carried(spring_on_link(), Push(at="outer_end", on="upright", force=(0.0, 0.0, up)))
    assert found.springs["spring"] == pytest.approx(2 * up, rel=1e-9)
    on = {act.what.partition(",")[0]: act for act in found.on["spring_link"]}
    np.testing.assert_allclose(on["spring"].force, (0.0, 0.0, -2 * up), atol=1e-6)
    np.testing.assert_allclose(on["outer ball"].force, (0.0, 0.0, up), atol=1e-6)
    np.testing.assert_allclose(on["inner bush"].force, (0.0, 0.0, up), atol=1e-6)
    assert np.abs(on["inner bush"].moment).max() < 1e-3
    assert max(abs(force) for force in found.axial.values()) < 1e-6


def test_what_would_roll_a_link_is_held_by_its_bush_and_nothing_else_is() -> None:
    """The spring 40 mm ahead of the link's line: its push times 40 mm is held about the link's length, at the bush alone."""
    end = spring_on_link()
    ahead = {name: (40.0, *end.points[name][1:]) for name in ("damper_top", "damper_low")}
    up = 4000.0
    found = carried(
        end.model_copy(update={"points": {**end.points, **ahead}}),
        Push(at="outer_end", on="upright", force=(0.0, 0.0, up)),
    )
    on = {act.what.partition(",")[0]: act for act in found.on["spring_link"]}
    # the push (0, 0, −S) at x = 40 turns by (0, 40 S, 0) about the link's line, which runs along y
    np.testing.assert_allclose(on["inner bush"].moment, (0.0, -40.0 * 2 * up, 0.0), rtol=1e-9, atol=1e-3)
    np.testing.assert_allclose(on["outer ball"].force, (0.0, 0.0, up), atol=1e-6)


# --- made, judged and carried as a kind that ships ------------------------------------------------------------------------


def job_with(end: End) -> Design:
    """Marram's car and load set with an end in the place of its own."""
    design = job_of("double-wishbone")
    kept = [one for one in design.ends[1:] if one.end.end != end.end]
    first = design.ends[0].model_copy(update={"end": end, "name": "Own"})
    return design.model_copy(update={"ends": (first, *kept)})


def told_otherwise(end: End) -> tuple[End, dict[str, str]]:
    """The end with every point, body and joint of its kind called something that says nothing; and what each was called."""
    mine = own(template_of(end), end)
    assert mine.kind
    names = {p.name: f"p{i}x" for i, p in enumerate(mine.kind.points) if p.name != "wheel_centre"}
    names |= {body: f"b{i}x" for i, body in enumerate(mine.kind.bodies)}
    joints = {joint.name: f"Q{i}x" for i, joint in enumerate(mine.kind.joints)}
    extra = {p: f"e{i}x" for i, p in enumerate(sorted(set(end.points) - set(names) - {"wheel_centre"}))}
    every = {**extra, **names, **joints}

    named = ("points", "right_points", "links", "balls", "bushes", "sliders", "member_od_mm")  # by name
    words = ("kind", "axle", "title", "what", "measure", "template", "drive", "brakes", "note")

    def anew(value: Any, at: str = "") -> Any:
        if isinstance(value, dict):
            return {every.get(k, k) if at in named else k: anew(v, "" if at in named else k) for k, v in value.items()}
        if isinstance(value, list):
            return [anew(one, "" if at in named else at) for one in value]
        return every.get(value, value) if isinstance(value, str) and at not in words else value

    return End.model_validate_json(json.dumps(anew(json.loads(mine.model_dump_json())))), {
        v: k for k, v in every.items()
    }


def calls(text: str, was: dict[str, str]) -> str:
    for new, old in was.items():
        text = text.replace(new, old)
    return text


@pytest.mark.parametrize("name", PLAIN)
def test_nothing_hangs_on_what_points_bodies_and_joints_are_called(name: str) -> None:
    """Moved alike, carried alike, and the same parts made: with names that say nothing."""
    end = stood(name)
    other, was = told_otherwise(end)
    rises = template_of(end).rises
    rows = positions([-30.0, 0.0, 40.0] if rises else [0.0], [0.0, 1.5], [0.0])
    one, two = (cycle(template_of(e), e, rows) for e in (end, other))
    for key, column in one.columns.items():
        np.testing.assert_allclose(two.columns[key], column, rtol=1e-7, atol=1e-6, err_msg=key)
    first, second = job_with(end), job_with(other)
    parts, others = all_parts(first), all_parts(second)
    assert [(p.kind, calls(str(p.stands_for), was)) for p in others] == [(p.kind, p.stands_for) for p in parts]
    assert parts
    cases = [work(job).carried(job.ends[0].id).cases for job in (first, second)]
    assert sum(case.forces is not None for case in cases[0]) > 5
    for a, b in zip(*cases, strict=True):
        if a.forces is None or b.forces is None:
            assert a.forces is b.forces
            continue
        for link, force in a.forces.axial.items():
            mine = next(f for n, f in b.forces.axial.items() if calls(n, was) == link)
            assert mine == pytest.approx(force, rel=1e-6, abs=1e-2), (a.name, link)
        assert b.forces.springs == pytest.approx(a.forces.springs, rel=1e-6, abs=1e-2)


def test_a_link_with_a_spring_on_it_is_a_part_that_is_bent_by_it() -> None:
    design = job_with(spring_on_link())
    parts = all_parts(design)
    assert sorted((p.kind, str(p.stands_for)) for p in parts) == [
        ("frame_arm", "spring_link"), *(("link", f"{n} link") for n in ("four", "one", "three", "two"))
    ]  # fmt: skip


# --- taken away and read again --------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", PLAIN)
def test_a_kind_goes_to_a_file_and_comes_back_the_same(name: str) -> None:
    end = example(name)
    again = end_of_kind(read_kind(kind_file(template_of(end), end)))
    assert again.kind == template_of(end)
    wanted = {p.name for p in template_of(end).points}
    assert again.points == {name: at for name, at in end.points.items() if name in wanted}


def test_a_file_that_is_none_says_where_it_is_wrong() -> None:
    end = example("double-wishbone")
    text = kind_file(template_of(end), end)
    for was, now, told in (
        ('"lower_outer"', '"lower_outre"', "there is no point “lower_outer”"),
        ('"kind": "hinge"', '"kind": "weld"', "kind"),
        ('"wheel_body": "upright"', '"wheel_body": "ground"', "he wheel is carried by what moves"),
    ):
        with pytest.raises(InputError, match="This file holds no kind of suspension") as refused:
            read_kind(text.replace(was, now, 1))
        assert told in refused.value.message
    with pytest.raises(InputError, match="where these points stand: lower_rear"):
        gone = json.loads(text)
        for point in gone["points"]:
            if point["name"] == "lower_rear":
                del point["at"]
        end_of_kind(read_kind(json.dumps(gone)))


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"bodies": ("upper_arm", "upper_arm", "lower_arm", "upright")}, "two called “upper_arm”"),
        ({"bodies": ("upper_arm", "lower_arm", "upright", "wheel")}, "“wheel” is there by itself"),
        ({"bodies": ("upper_arm", "lower_arm", "upright", "upright_left")}, "has a left and a right by itself"),
        ({"carriers": ("hub",)}, "carriers: there is no body “hub”"),
    ],
)
def test_names_that_would_be_taken_for_one_another_are_refused(change: dict[str, Any], told: str) -> None:
    with pytest.raises(ValueError, match=told):
        of_own(example("double-wishbone"), **change)


def test_an_arm_on_a_hinge_far_from_its_wheel_rises() -> None:
    """By hand: the wheel's centre goes along the hinge's line × its lever, whose upward part is not nothing; the lever's own middle stands
    on the line, where nothing rises."""
    end = begun("independent")
    for text, at in (("inner pivot", (420.0, 180.0, 240.0)), ("outer pivot", (300.0, 560.0, 255.0))):
        end = with_point(end, text)
        end = end.model_copy(update={"points": {**end.points, text.replace(" ", "_"): at}})
    hinge = {
        "kind": "hinge",
        "name": "pivots",
        "body": "upright",
        "on": "ground",
        "points": ("inner_pivot", "outer_pivot"),
    }
    found = built(of_own(end, joints=[hinge]))
    assert (found.beside, found.free, found.rises, found.whole) == (0, 1, True, True)
    # held by its wheel's own spin line, it cannot rise, and that is what is said
    flat = end.model_copy(
        update={"points": {**end.points, "inner_pivot": (0.0, 180.0, 315.0), "outer_pivot": (0.0, 560.0, 315.0)}}
    )
    fast = built(of_own(flat, joints=[hinge]))
    assert not fast.whole
    assert not fast.rises


def test_the_command_counts_and_carries_a_kind_of_ones_own() -> None:
    end = spring_on_link()
    data = json.loads(end.model_dump_json(exclude_none=True))
    found = calculate("freedom", data)
    assert (found["whole"], found["beside"], found["free"]) == (True, 0, 1)
    assert found["motions"] == ["the wheel rises and falls"]
    push = {"name": "up", "forces": [{"at": "outer_end", "on": "upright", "f_n": [0, 0, 4000.0]}]}
    (case,) = calculate("loads", {**data, "travel_mm": 0, "cases": [push]})["cases"]
    assert case["spring_n"] == pytest.approx(8000.0)
    apart = json.loads(json.dumps(data))
    unit = apart["damper"]
    apart["damper"] = {**unit, "rate_n_per_mm": None}
    apart["other_dampers"] = {"spring of air": unit}
    (case,) = calculate("loads", {**apart, "travel_mm": 0, "cases": [push]})["cases"]
    assert case["springs_n"]["spring of air"] == pytest.approx(8000.0)
    assert case["spring_n"] is None
    lacking = json.loads(json.dumps(data))
    lacking["kind"]["joints"] = lacking["kind"]["joints"][:-1]
    short = calculate("freedom", lacking)
    assert (short["whole"], short["beside"]) == (False, 1)
