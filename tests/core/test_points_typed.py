"""Points as people give them: a table from a spreadsheet, and figures that slip."""

from __future__ import annotations

import pytest

from tests.jobs import template_of, work
from tirante.core.document.design import Design
from tirante.core.errors import InputError
from tirante.core.job.evaluate import evaluate
from tirante.core.suspension.far_off import far_off
from tirante.core.suspension.shown.points_paste import pasted_points
from tirante.shipped.templates import example_ends

POINTS = [
    ("upper_front", "front chassis pivot of the upper arm"),
    ("upper_outer", "upper outer joint"),
    ("tie_inner", "tie rod on the rack"),
]
INCH = 25.4


def at(text: str, unit: str = "mm") -> dict[str, tuple[float, float, float]]:
    return {row.point: row.at for row in pasted_points(text, POINTS, unit)}  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "unit", "one"),
    [
        ("upper_front\t95\t318\t482.5", "mm", (95.0, 318.0, 482.5)),
        ("Upper front\t3 3/4\t12 1/2\t19", "in", (3.75 * INCH, 12.5 * INCH, 19 * INCH)),
        ("upper front; -95,5; 318; 482,25", "mm", (-95.5, 318.0, 482.25)),
        ("front chassis pivot of the upper arm, −95, 318, 482", "mm", (-95.0, 318.0, 482.0)),
        ('upper front\t3 3/4 in\t318\t19"', "mm", (3.75 * INCH, 318.0, 19 * INCH)),
        ("name\tz (in)\ty (in)\tx (mm)\nupper front\t10\t20\t30", "mm", (30.0, 20 * INCH, 10 * INCH)),
        ("\tX\tY\tZ\nupper front\t½\t1 ½\t2", "in", (0.5 * INCH, 1.5 * INCH, 2 * INCH)),
    ],
)
def test_a_row_is_read_in_either_unit_with_fractions_and_headings(
    text: str, unit: str, one: tuple[float, float, float]
) -> None:
    assert at(text, unit)["upper_front"] == pytest.approx(one)


def test_rows_without_names_are_the_end_s_points_in_their_order_and_all_of_them() -> None:
    found = at("1\t2\t3\n4\t5\t6\n7\t8\t9\n")
    assert found == {"upper_front": (1, 2, 3), "upper_outer": (4, 5, 6), "tie_inner": (7, 8, 9)}
    with pytest.raises(InputError) as short:
        at("1\t2\t3\n4\t5\t6")
    assert short.value.code == "bad_rows"
    assert "2 rows without names" in short.value.value[0]


def test_every_bad_row_is_named_by_its_line_and_nothing_is_taken() -> None:
    with pytest.raises(InputError) as refused:
        at(
            "upper front\t1\t2\nupper\t1\t2\t3\nlower\t1\t2\t3\ntie inner\t1\ttwo\t3\nupper outer\t1/2\t2\t3\nupper outer\t1\t2\t3\nupper outer\t1\t2\t3"
        )
    told = dict(zip(refused.value.fields, refused.value.value, strict=True))
    assert "2 coordinates" in told["line 1"]
    assert "may be upper front or upper outer" in told["line 2"]
    assert "no point of this end" in told["line 3"]
    assert "coordinates" in told["line 4"] or "two" in told["line 4"]
    assert "Say which" in told["line 5"]  # a fraction in millimetres is asked about, never guessed
    assert "stands twice" in told["line 7"]
    assert set(told) == {"line 1", "line 2", "line 3", "line 4", "line 5", "line 7"}
    for nothing in ("", "  \n", "x\ty\tz"):
        with pytest.raises(InputError):
            at(nothing)


def test_no_point_of_an_end_that_ships_is_asked_about() -> None:
    for name, end in example_ends().items():
        assert far_off(template_of(end), end) == [], name


@pytest.mark.parametrize(
    ("axis", "value", "slip"),
    [
        (1, 3300.0, "330.0 mm"),
        (2, 4820.0, "482.0 mm"),
        (0, 4445.0, "444.5 mm"),
        (2, -482.0, "482.0 mm"),
        (1, 318.0 * INCH, "807.7 mm"),
        (2, 482.0 * INCH * 10, None),
    ],
)
def test_a_slip_is_asked_about_with_what_was_meant_until_it_is_said_to_be_meant(
    marram: Design, axis: int, value: float, slip: str | None
) -> None:
    one = marram.ends[0]
    point = list(one.end.points["upper_front"])
    point[axis] = value
    moved = one.end.model_copy(update={"points": {**one.end.points, "upper_front": tuple(point)}})
    (asked,) = far_off(template_of(moved), moved)
    assert (asked.point, asked.side) == ("upper_front", "left")
    assert asked.says.startswith(f"{'xyz'[axis]} ")
    assert ("Was" in asked.says) == (slip is not None)
    assert slip is None or f"Was {slip} meant?" in asked.says
    meant = moved.model_copy(update={"meant": {"upper_front": tuple(point)}})
    assert far_off(template_of(meant), meant) == []
    # moved again it is asked again
    again = meant.model_copy(update={"points": {**meant.points, "upper_front": (*point[:2], point[2] + 1.0)}})
    assert len(far_off(template_of(again), again)) == 1
    job = work(marram.model_copy(update={"ends": (one.model_copy(update={"end": moved}), *marram.ends[1:])}))
    holds = [hold for hold in evaluate(job).holds if hold.selection == "point:upper_front"]
    assert [hold.state for hold in holds] == ["attention"]
