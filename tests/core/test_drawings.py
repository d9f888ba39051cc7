"""Drawings say what they show: to scale, inside the sheet, dimensioned with the part's own figures."""

from math import hypot

import numpy as np
import pytest

from tests.core.test_loads import demo
from tests.jobs import built, draw, links, part_of, tabs_of, with_links, work
from tirante.core.document.design import Design
from tirante.core.document.fields import Length
from tirante.core.document.parts.link import Bent, Link
from tirante.core.drawing.model import Arc, Area, Drawing, Line, Text
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.job.overview import overview_sheet
from tirante.core.parts.link.jig_view import jig_sheet
from tirante.core.parts.link.kind import LINK
from tirante.core.parts.link.shown import AdjusterOut
from tirante.core.parts.link.view import link_sheet
from tirante.core.parts.numbers import numbers_of

NUMBERS = Numbers()


def drawn(design: Design, i: int, view: str, **more: object) -> Drawing:
    link = links(design)[i]
    part = tabs_of(link, design) if view.startswith("tab") else link
    assert part
    return draw(part, design, view, NUMBERS, **more)  # type: ignore[arg-type]


def overview(design: Design, first: int = 0) -> Drawing:
    return overview_sheet([part for part in work(design).parts if part.saved.kind == "link"], NUMBERS, first=first)


def box_of(text: Text) -> tuple[float, float, float, float]:
    """Where a line of text stands, from the letters' usual width."""
    width = len(text.text) * text.size * (0.6 if text.mono else 0.52)
    left = text.x - {"start": 0.0, "middle": width / 2, "end": width}[text.anchor]
    return left, text.y - 0.2 * text.size, left + width, text.y + 0.72 * text.size


VIEWS = [
    ("drawing", 0),
    ("drawing", 1),
    ("drawing", 2),
    ("drawing", 3),
    ("tab", 0),
    ("tab", 1),
    ("tab", 2),
    ("jig", 0),
    ("jig", 3),
]


@pytest.mark.parametrize(("view", "i"), VIEWS)
def test_everything_stands_on_the_sheet(view: str, i: int, marram: Design) -> None:
    drawing = drawn(marram, i, view)
    for item in drawing.items:
        if isinstance(item, Line):
            points = [(item.x1, item.y1), (item.x2, item.y2)]
        elif isinstance(item, Arc):
            points = [(item.cx, item.cy)]
        elif isinstance(item, Area):
            points = list(item.points)
        else:
            points = [box_of(item)[:2], box_of(item)[2:]]
        for x, y in points:
            assert -0.5 <= x <= drawing.width + 0.5, item
            assert -0.5 <= y <= drawing.height + 0.5, item


@pytest.mark.parametrize(("view", "i"), VIEWS)
def test_no_lettering_stands_on_other_lettering(view: str, i: int, marram: Design) -> None:
    texts = [item for item in drawn(marram, i, view).items if isinstance(item, Text)]
    boxes = [box_of(text) for text in texts]
    for a in range(len(boxes)):
        for b in range(a):
            (x1, y1, x2, y2), (u1, v1, u2, v2) = boxes[a], boxes[b]
            over = min(x2, u2) - max(x1, u1), min(y2, v2) - max(y1, v1)
            assert over[0] < 1.0 or over[1] < 0.6, (texts[a].text, texts[b].text)


def test_the_whole_link_is_drawn_to_one_scale(marram: Design, quay: Design) -> None:
    for design in (marram, quay):
        for i, link in enumerate(links(design)):
            drawing = drawn(design, i, "drawing")
            made = built(link, design)
            tube = next(a for a in drawing.items if isinstance(a, Area) and a.ref == "field:tube" and a.fill == "steel")
            xs = sorted({round(x, 9) for x, _ in tube.points})
            ys = sorted({round(y, 9) for _, y in tube.points})
            assert xs[1] - xs[0] == pytest.approx(made.stack.tube_cut * drawing.scale)
            assert ys[1] - ys[0] == pytest.approx(made.assembly.tube.od_mm * drawing.scale)


def test_eyes_stand_a_centre_distance_apart(marram: Design) -> None:
    drawing = drawn(marram, 0, "drawing")
    centres = sorted(
        {
            (round(c.cx, 6), round(c.cy, 6))
            for c in drawing.items
            if isinstance(c, Arc) and c.full and c.ref in ("end:a", "end:b")
        }
    )
    (xa, ya), (xb, yb) = centres[0], centres[-1]
    assert hypot(xb - xa, yb - ya) == pytest.approx(links(marram)[0].between.mm * drawing.scale, rel=1e-6)


def test_dimensions_carry_the_figures_of_the_stack(marram: Design) -> None:
    made = built(links(marram)[0], marram)
    texts = {item.text for item in drawn(marram, 0, "drawing").items if isinstance(item, Text)}
    stack = made.stack
    assert f"saw {stack.tube_cut:.1f}" in texts
    assert f"{stack.centre_to_centre:.1f}" in texts
    assert f"showing {stack.ends[1].showing:.1f}" in texts
    assert f"engaged {stack.ends[1].engagement:.1f}" in texts
    assert f"no-go over {stack.ends[1].max_showing:.1f}" in texts


def test_the_adjuster_s_mark_moves_with_the_turns(marram: Design) -> None:
    def mark(turns: float) -> float:
        items = drawn(marram, 0, "drawing", turns=turns).items
        area = next(a for a in items if isinstance(a, Area) and a.ref == "dim:turns")
        return area.points[0][0]

    made = built(links(marram)[0], marram)
    bar = next(a for a in drawn(marram, 0, "drawing").items if isinstance(a, Area) and a.ref == "dim:range")
    xs = [x for x, _ in bar.points]
    scale = (max(xs) - min(xs)) / (made.stack.longest - made.stack.shortest)
    assert made.stack.per_turn is not None
    assert mark(2.0) - mark(0.0) == pytest.approx(2 * made.stack.per_turn * scale)
    assert mark(made.stack.turns_out) == pytest.approx(max(xs))
    assert mark(-made.stack.turns_in) == pytest.approx(min(xs))


def turned(design: Design, link: Link, turns: float, unit: str = "mm") -> AdjusterOut:
    found = LINK.adjuster(part_of(link, design), turns, numbers_of(design.settings, unit))  # type: ignore[arg-type]
    assert found is not None
    return found


def test_the_adjuster_says_the_length_until_the_thread_runs_out(marram: Design) -> None:
    link = links(marram)[0]
    made = built(link, marram)
    stack = made.stack
    assert stack.per_turn is not None
    length = stack.centre_to_centre + 2 * stack.per_turn
    assert f"+2 turns · {length:.1f} mm pivot to pivot" in turned(marram, link, 2.0).text
    assert "″ pivot to pivot" in turned(marram, link, 2.0, "in").text
    for turns, past, says in (
        (stack.turns_out, False, "turns out"), (stack.turns_out + 0.01, True, "too little thread"),
        (-stack.turns_in, False, "turns out"), (-stack.turns_in - 0.01, True, "bottoms"),
    ):  # fmt: skip
        found = turned(marram, link, turns)
        assert found.past is past
        assert says in found.text


def test_two_ends_of_one_hand_run_out_with_the_thread_of_one_of_them(marram: Design) -> None:
    # each end is turned by itself: what the other still has does not hold this one
    link = links(marram)[0].model_copy(update={"end_b": links(marram)[0].end_b.model_copy(update={"hand": "RH"})})
    made = built(link, marram)
    one_end = min(state.adjust_out for state in made.stack.ends)
    pitch = made.assembly.threaded[0].thread.pitch
    assert turned(marram, link, one_end / pitch).past is False
    assert turned(marram, link, one_end / pitch + 0.5).past is True
    assert turned(marram, link, 0.0).step_turns == 0.5
    assert turned(marram, links(marram)[0], 0.0).step_turns == 0.25
    drawing = draw(link, marram, "drawing", NUMBERS, turns=one_end / pitch + 0.5)
    assert any(isinstance(i, Text) and i.text == "runs out" for i in drawing.items)


def test_every_item_to_pick_names_what_it_shows(marram: Design) -> None:
    kinds = ("dim:", "field:", "check:", "end:", "joint", "part:", "measure:", "wheel", "body:")
    for view, i in VIEWS:
        for item in drawn(marram, i, view).items:
            assert item.ref is None or item.ref.startswith(kinds), item.ref


def test_hatching_stays_inside_its_outline() -> None:
    sheet = Sheet(name="t", title="t", width=50, height=50)
    outline = [(5.0, 5.0), (35.0, 8.0), (30.0, 22.0), (8.0, 18.0)]
    sheet.hatch(outline, 1.5)
    assert len(sheet.items) > 10

    def inside(x: float, y: float) -> bool:
        signs = []
        for (x1, y1), (x2, y2) in zip(outline, [*outline[1:], outline[0]], strict=True):
            signs.append((x2 - x1) * (y - y1) - (y2 - y1) * (x - x1))
        return min(signs) > -1e-6

    for line in sheet.items:
        assert isinstance(line, Line)
        assert inside(line.x1, line.y1)
        assert inside(line.x2, line.y2)
        assert line.y2 - line.y1 == pytest.approx(line.x2 - line.x1)  # 45 degrees


@pytest.mark.parametrize(("length", "between"), [(100.0, True), (4.0, False)])
def test_a_short_dimension_has_its_figure_beside_it(length: float, between: bool) -> None:
    sheet = Sheet(name="t", title="t", width=200, height=50)
    frame = Frame(20, 20)
    sheet.dimension(frame.at(0, 0), frame.at(length, 0), length, offset=8, ref="dim:x")
    text = next(i for i in sheet.items if isinstance(i, Text))
    assert (20 < text.x < 20 + length) is between
    lines = [i for i in sheet.items if isinstance(i, Line)]
    assert all(i.ref == "dim:x" for i in lines)


def test_the_overview_draws_all_links_to_one_scale_and_the_rest_on_the_next_sheet(marram: Design) -> None:
    drawing = overview(marram)
    for link in links(marram):
        made = built(link, marram)
        tube = [a for a in drawing.items if isinstance(a, Area) and a.ref == f"part:{link.id}" and a.fill == "steel"]
        width = max(max(x for x, _ in a.points) - min(x for x, _ in a.points) for a in tube)
        assert width == pytest.approx(made.stack.tube_cut * drawing.scale)
    many = with_links(
        marram, *(link.model_copy(update={"id": f"{link.id[:-2]}{n:02d}"}) for n in range(5) for link in links(marram))
    )
    first, second = overview(many), overview(many, 8)
    names = [
        [i.text for i in sheet.items if isinstance(i, Text) and i.bold and not i.mono] for sheet in (first, second)
    ]
    assert [n for n in names[0] if n not in ("LH", "RH")][:4] == [link.name for link in links(marram)]
    assert len([n for n in names[1] if n not in ("LH", "RH")]) == 8


def test_a_tab_on_a_tube_shows_its_foot_below_the_crown(marram: Design) -> None:
    flat = drawn(marram, 1, "tab-flat")
    tab = tabs_of(links(marram)[1], marram)
    assert tab is not None
    assert flat.height > tab.height.mm + tab.edge.mm
    hole = next(i for i in flat.items if isinstance(i, Arc) and i.full)
    assert flat.height - hole.cy == pytest.approx(tab.edge.mm)


def test_a_long_name_does_not_break_a_sheet(marram: Design) -> None:
    link = links(marram)[0].model_copy(update={"name": "x" * 80})
    sheet = overview(with_links(marram, link))
    shown = next(i.text for i in sheet.items if isinstance(i, Text) and i.text.startswith("xx"))
    assert shown.endswith("…")


@pytest.mark.parametrize("from_ends", [None, 150.0])
def test_a_bent_link_is_drawn_bent_on_every_sheet_and_to_scale(from_ends: float | None) -> None:
    """Its tube is as wide everywhere as it is, its outline as long as the saw cuts it, its highest place as far off as is typed; each
    end's eye stands on its pivot, its insert along the outer piece."""
    design = demo("marram")
    link = next(one for one in links(design) if one.name == "Rear upper link")
    bend = Bent(offset=Length(mm=45.0), from_ends=Length(mm=from_ends) if from_ends else None)
    bent = link.model_copy(update={"bent": bend})
    made = built(bent, design)
    line, stack, r = made.assembly.bend, made.stack, made.assembly.tube.od_mm / 2
    assert line
    # the middle line: every millimetre along it is a millimetre, it ends on the other pivot, and leans as it runs
    steps = np.linspace(0.0, line.path, 4001)
    places = np.array([line.place(float(at)) for at in steps])
    assert places[-1, :2] == pytest.approx((line.span, 0.0), abs=1e-9)
    runs = np.diff(places[:, :2], axis=0)
    assert np.linalg.norm(runs, axis=1).sum() == pytest.approx(line.path, rel=1e-6)
    assert np.arctan2(runs[:, 1], runs[:, 0]) == pytest.approx((places[1:, 2] + places[:-1, 2]) / 2, abs=2e-3)
    # on the sheet
    drawing = link_sheet(made.assembly, stack, made.rules, 0, Numbers())
    eyes = [item for item in drawing.items if isinstance(item, Arc) and item.ref in ("end:a", "end:b")]
    a, b = (next(np.array([eye.cx, eye.cy]) for eye in eyes if eye.ref == ref) for ref in ("end:a", "end:b"))
    scale = drawing.scale
    assert b - a == pytest.approx((scale * line.span, 0.0))
    tube = max((i for i in drawing.items if isinstance(i, Area) and i.ref == "field:tube"), key=lambda i: len(i.points))
    outline = (np.array(tube.points) - a) / scale
    half = len(outline) // 2
    upper, lower = outline[:half], outline[half:][::-1]
    assert np.linalg.norm(upper - lower, axis=1) == pytest.approx(2 * r)
    middle = (upper + lower) / 2
    assert np.linalg.norm(np.diff(middle, axis=0), axis=1).sum() == pytest.approx(stack.tube_cut, rel=2e-3)
    short = line.offset if from_ends else line.offset - line.radius * (1 / np.cos(line.lean) - 1)
    assert middle[:, 1].max() == pytest.approx(short, abs=0.1)
    assert np.linalg.norm(middle[0]) == pytest.approx(stack.ends[0].face_from_centre)
    collar = next(i for i in drawing.items if isinstance(i, Area) and i.ref == "end:b" and i.fill == "steel")
    along = np.array(collar.points[1]) - np.array(collar.points[0])
    assert abs(along[1] / along[0]) == pytest.approx(np.tan(line.lean))
    assert not [i.text for i in drawing.items if isinstance(i, Text) and "straight" in i.text]
    # the row of members and the jig seen from the side show the same outline
    whole = work(design.model_copy(update={"parts": tuple(bent if p.id == link.id else p for p in design.parts)}))
    part = next(p for p in whole.parts if p.id == link.id)
    for sheet, ref in (
        (overview_sheet([part], Numbers()), f"part:{link.id}"), (jig_sheet(made.assembly, stack, made.jig, Numbers()), "field:bent"),
    ):  # fmt: skip
        own = max((i for i in sheet.items if isinstance(i, Area) and i.ref == ref), key=lambda i: len(i.points))
        low, high = np.min(own.points, axis=0), np.max(own.points, axis=0)
        assert (high - low)[1] / (high - low)[0] == pytest.approx(float(np.ptp(outline[:, 1]) / np.ptp(outline[:, 0])))
    assert not [n for n in part.notes if "straightened" in n]
