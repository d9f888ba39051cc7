"""Members as they are made: drawn, and looked at for what they clear, at the size of the tubes that are chosen."""

from __future__ import annotations

from math import dist, hypot

import numpy as np
import pytest

from tests.core.end_jobs import all_parts, job_of
from tests.jobs import arms, links, template_of, with_part, work
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.design import Design
from tirante.core.document.end import Obstacle, Round
from tirante.core.document.shape import Shape, ShapeTube
from tirante.core.drawing.model import Area, Text
from tirante.core.drawing.sheet import Numbers
from tirante.core.job.studies import solved_at
from tirante.core.job.worked import Worked
from tirante.core.loads.view import LinkForce, PointForce, load_sheet
from tirante.core.suspension.cycle import solved_cycle
from tirante.core.suspension.shown.drawn import draw_views
from tirante.core.suspension.shown.end_view import VIEWS_DRAWN, clear_place, crosses
from tirante.core.suspension.shown.posture import postures_of
from tirante.shipped.templates import example_ends


def views(job: Worked, i: int, *, handles: bool = False):  # type: ignore[no-untyped-def]
    end = job.design.ends[i]
    done = solved_at(job, end.id, 0.0, 0.0, 0.0)
    found = draw_views(end.name, done, Numbers(), job.shapes(end.id), handles=handles)
    assert found
    return found


def wide(area: Area) -> float:
    """Of a bar, which is drawn as four corners."""
    return dist(area.points[0], area.points[3])


def test_a_link_is_drawn_as_wide_as_its_tube_and_another_tube_makes_it_so_much_wider(marram: Design) -> None:
    link = next(one for one in links(marram) if one.name == "Rear lower link")
    widths = {}
    for row in marram.catalogue.tubes:
        job = work(with_part(marram, link.model_copy(update={"tube": row.key})))
        drawing, places = views(job, 1)
        bars = [item for item in drawing.items if isinstance(item, Area) and item.ref == "link:lower link, left"]
        assert len(bars) == 3
        widths[row.key] = [(wide(bar), place.scale) for bar, place in zip(bars, places, strict=True)]
        assert job.watched(marram.ends[1].id).links["lower link"].od_mm == row.od_mm
        for at, scale in widths[row.key]:
            assert at == pytest.approx(max(1.1, row.od_mm * scale), abs=2e-3)
    assert len({round(at[0][0], 3) for at in widths.values()}) > 1


def test_an_arm_is_drawn_as_its_tubes_brace_and_sleeves_where_they_run(marram: Design) -> None:
    job = work(marram)
    arm = next(one for one in arms(marram) if one.name == "Front lower arm")
    shape = job.shapes(marram.ends[0].id)["lower_arm"]
    tube = next(row for row in marram.catalogue.tubes if row.key == arm.tube)
    assert {(one.a, one.b) for one in shape.tubes[:2]} == {
        ("lower_front", "lower_outer"),
        ("lower_rear", "lower_outer"),
    }
    assert [one.od_mm for one in shape.tubes] == [tube.od_mm] * 3
    (now,) = postures_of(solved_at(job, marram.ends[0].id, 0.0, 0.0, 0.0), job.shapes(marram.ends[0].id))[:1]
    assert now
    points = marram.ends[0].end.points
    sticks = [one for one in now.sticks if one.ref == "body:lower_arm"]
    assert len(sticks) == 2 * (3 + 2)  # both sides: two tubes, the brace, two sleeves
    ends = {tuple(np.round((one.a, one.b), 6).ravel()) for one in sticks}
    assert tuple(np.round((points["lower_front"], points["lower_outer"]), 6).ravel()) in ends
    mirror = [(x, -y, z) for x, y, z in (points["lower_front"], points["lower_outer"])]
    assert tuple(np.round(mirror, 6).ravel()) in ends
    # the brace runs between the tubes, as far out as it is said to
    assert arm.brace_at is not None
    brace = next(
        one for one in sticks if {tuple(np.round(one.a, 3)), tuple(np.round(one.b, 3))} == _at(points, arm.brace_at)
    )
    assert brace.width == tube.od_mm
    sleeves = [one for one in sticks if one.width > tube.od_mm]
    assert all(dist(one.a, one.b) == pytest.approx(2 * arm.pivot_face_mm) for one in sleeves)


def _at(points: dict[str, tuple[float, float, float]], share: float) -> set[tuple[float, ...]]:
    out = np.array(points["lower_outer"])
    return {
        tuple(np.round(np.array(points[name]) + share * (out - np.array(points[name])), 3))
        for name in ("lower_front", "lower_rear")
    }


def test_a_stouter_tube_comes_nearer_to_what_it_must_miss_by_half_its_growth(marram: Design) -> None:
    end = marram.ends[1]
    link = next(one for one in links(marram) if one.name == "Rear upper link")
    one, other = (end.end.points[name] for name in ("upper_chassis", "upper_axle"))
    middle = tuple((a + b) / 2 for a, b in zip(one, other, strict=True))
    pipe = Obstacle(
        name="pipe", body="ground", both_sides=False, wanted_mm=5.0,
        shape=Round(a=(middle[0], -200.0, middle[2] + 90.0), b=(middle[0], 200.0, middle[2] + 90.0), radius_mm=10.0),
    )  # fmt: skip
    own = end.model_copy(update={"end": end.end.model_copy(update={"obstacles": (pipe,)})})
    design = marram.model_copy(update={"ends": (marram.ends[0], own)})
    gaps = {}
    for row in marram.catalogue.tubes:
        job = work(with_part(design, link.model_copy(update={"tube": row.key})))
        found = solved_at(job, end.id, 0.0, 0.0, 0.0)
        from tirante.core.suspension.clearance import clearances

        watched = clearances(found.left.assembled, found.left.solved, found.left.rest)
        gaps[row.od_mm] = float(watched["upper link to pipe"]["clearance_mm"][0])
    thin, stout = min(gaps), max(gaps)
    assert stout > thin
    assert gaps[thin] - gaps[stout] == pytest.approx((stout - thin) / 2, abs=1e-6)


def test_a_place_on_the_sheet_leads_back_to_the_point_that_is_marked_there(marram: Design) -> None:
    job = work(marram)
    drawing, places = views(job, 0, handles=True)
    points = marram.ends[0].end.points
    marks = {}
    for item in drawing.items:
        if item.ref and item.ref.startswith("point:") and item.kind == "arc":
            marks.setdefault(item.ref.removeprefix("point:"), []).append((item.cx, item.cy))
    assert set(marks) == set(points)
    for name, at in points.items():
        for (x, y), place in zip(marks[name], places, strict=True):
            left, low, w, h = place.box
            assert left - 1 <= x <= left + w + 1
            assert low - 1 <= y <= low + h + 1
            assert (x - place.origin[0]) / (place.scale * place.flip) == pytest.approx(at[place.across])
            assert (y - place.origin[1]) / place.scale == pytest.approx(at[place.up])
    bare, _ = views(job, 0)
    assert not any(item.ref and item.ref.startswith("point:") for item in bare.items)


def test_the_near_side_is_drawn_over_the_far(marram: Design) -> None:
    job = work(marram)
    drawing, places = views(job, 1)
    for view, place in zip(VIEWS_DRAWN, places, strict=True):
        left, low, w, h = place.box
        inside = [
            item.ref for item in drawing.items
            if isinstance(item, Area) and item.ref and item.ref.startswith("link:lower link")
            and all(left - 1 <= x <= left + w + 1 and low - 1 <= y <= low + h + 1 for x, y in item.points)
        ]  # fmt: skip
        if view.title == "from the left":
            assert inside == ["link:lower link, right", "link:lower link, left"]


def test_words_stand_where_no_line_runs(marram: Design) -> None:
    fence = [((0.0, float(y)), (60.0, float(y))) for y in (0, 2, 4)]
    found = clear_place((10.0, 1.0), 30.0, 3.0, fence)
    assert found
    x, y = found
    assert not any(crosses(line, (x, y, x + 30.0, y + 3.0)) for line in fence)
    assert hypot(x - 10.0, y - 1.0) < 30.0
    # nor over other words, and not at all where every place is taken
    other = clear_place((10.0, 1.0), 30.0, 3.0, fence, [(x - 1.0, y - 1.0, x + 31.0, y + 4.0)])
    assert other
    assert other != found
    assert clear_place((10.0, 1.0), 30.0, 3.0, (), [(-500.0, -500.0, 500.0, 500.0)]) is None
    # clipped: through, beside, ending short of it, inside it
    box = (0.0, 0.0, 10.0, 5.0)
    assert crosses(((-5.0, 2.0), (15.0, 3.0)), box)
    assert crosses(((2.0, 2.0), (3.0, 3.0)), box)
    assert not crosses(((-5.0, 6.0), (15.0, 6.0)), box)
    assert not crosses(((-5.0, 2.0), (-1.0, 2.0)), box)
    assert not crosses(((-3.0, 0.0), (0.0, 8.0)), box)


@pytest.mark.parametrize("name", sorted(example_ends()))
def test_every_end_that_ships_is_drawn_with_its_parts_in_tubes(name: str, catalogue: Catalogue) -> None:
    design = job_of(name)
    tube = next(row for row in catalogue.tubes if row.key.startswith("tube-1.25"))
    made = [part.model_copy(update={"tube": tube.key}) if hasattr(part, "tube") else part for part in all_parts(design)]
    job = work(design.model_copy(update={"parts": tuple(made), "catalogue": catalogue}))
    drawing, _ = views(job, 0)
    shapes = job.shapes(design.ends[0].id)
    assert shapes
    seen = {item.ref for item in drawing.items if isinstance(item, Area) and item.ref}
    for what in shapes:
        assert any(ref.startswith((f"link:{what}", f"body:{what}")) for ref in seen), what


def test_figures_on_the_loads_stand_clear_of_each_other_and_where_there_is_room_of_every_line(marram: Design) -> None:
    job = work(marram)
    for i, end in enumerate(marram.ends):
        (now,) = postures_of(solved_at(job, end.id, 0.0, 0.0, 0.0), job.shapes(end.id))[:1]
        assert now
        links = tuple(
            LinkForce(name=stick.ref.removeprefix("link:"), a=stick.a, b=stick.b, force=4000.0 * (-1) ** k + 100 * k)
            for k, stick in enumerate(now.sticks) if stick.thick
        )  # fmt: skip
        points = tuple(
            PointForce(at=wheel.contact, force=(-3000.0 * (1 - j), 500.0, 4000.0 - 1500.0 * j), what=f"wheel {j}", applied=True)
            for j, wheel in enumerate(now.wheels)
        )  # fmt: skip
        drawing = load_sheet("t", now, now, links, points, Numbers())
        told = [item for item in drawing.items if isinstance(item, Text) and "kN" in item.text and item.mono]
        assert len(told) > 4, i
        boxes = [(one.x, one.y - 0.2, one.x + 0.6 * one.size * len(one.text), one.y + 0.8 * one.size) for one in told]
        for a, one in enumerate(boxes):
            for other in boxes[:a]:
                apart = one[2] <= other[0] or other[2] <= one[0] or one[3] <= other[1] or other[3] <= one[1]
                assert apart, (told[a].text, i)


def test_a_place_of_its_own_stands_mirrored_on_a_beam_s_right() -> None:
    end = example_ends()["radius-arms"]
    template = template_of(end)
    body = next(body for body in template.bodies if not template.carries(body))
    point = next(place.point for joint in template.joints for place in joint.places if body in joint.bodies_tied)
    node = (end.points[point][0] - 111.0, end.points[point][1] + 17.0, end.points[point][2] + 23.0)
    shape = Shape(od_mm=30.0, tubes=(ShapeTube(a=node, b=point, od_mm=30.0),))
    (now,) = postures_of(solved_cycle(template, end, np.zeros((3, 1))), {body: shape})
    assert now
    sticks = {stick.ref: stick for stick in now.sticks if stick.ref.startswith(f"body:{body}")}
    left, right = sticks[f"body:{body}_left"], sticks[f"body:{body}_right"]
    assert left.a == pytest.approx(node, abs=1e-6)
    assert right.a == pytest.approx((node[0], -node[1], node[2]), abs=1e-6)
    assert left.b == pytest.approx(end.points[point], abs=1e-6)
