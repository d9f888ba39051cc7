"""Points to and from CSV."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tirante.core.errors import InputError
from tirante.core.suspension.shown.points_csv import read_points, write_points

name = st.from_regex(r"\A[a-z][a-z0-9_]{0,20}\Z")
number = st.floats(-99_000, 99_000)


@given(st.dictionaries(name, st.tuples(number, number, number), min_size=1, max_size=30))
def test_what_is_written_reads_back_to_the_last_digit(points: dict[str, tuple[float, float, float]]) -> None:
    assert read_points(write_points(points)) == points


def test_any_order_either_unit_and_comments() -> None:
    text = "# measured on the stands\nz_in, point ,x_mm,y_in\n# front\n10,upper_outer,−18.5,25\n\n0,wheel,0,28\n"
    found = read_points(text)
    assert found["upper_outer"] == pytest.approx((-18.5, 635.0, 254.0))
    assert found["wheel"] == pytest.approx((0.0, 711.2, 0.0))


def test_every_bad_row_is_named() -> None:
    text = "point,x_mm,y_mm,z_mm\na,1,2,3\nb,1,x,nan\na,4,5,6\n,1,2,3\nc,1,2\nd,1e30,2,3\n"
    with pytest.raises(InputError) as caught:
        read_points(text)
    assert set(caught.value.fields) == {
        "line 3, y",
        "line 3, z",
        "line 4, point",
        "line 5, point",
        "line 6",
        "line 7, x",
    }
    assert len(caught.value.value) == len(caught.value.fields)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "text",
    [
        "",
        "# only\n",
        "point,x_mm,y_mm\na,1,2\n",
        "point,x_cm,y_mm,z_mm\n",
        "point,x_mm,x_in,y_mm,z_mm\n",
        "point,x_mm,y_mm,z_mm\n",
        'point,x_mm,y_mm,z_mm\n"a,1,2,3\n',
    ],
)
def test_a_file_that_is_not_the_table_says_why(text: str) -> None:
    with pytest.raises(InputError) as caught:
        read_points(text)
    assert caught.value.code == "bad_rows"
    assert caught.value.fields[0].startswith("line 1")
