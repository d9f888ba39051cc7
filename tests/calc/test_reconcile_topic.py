"""`calc reconcile`: its names and signs, and what it refuses."""

from __future__ import annotations

import json

import pytest
from pydantic import ValidationError

from tirante.calc.registry import TOPICS, calculate
from tirante.core.errors import TiranteError
from tirante.shipped.templates import DATA


def example(**change: object) -> dict:
    return {**TOPICS["reconcile"].example, **change}


def test_the_example_is_named_with_its_size_and_what_mends_it() -> None:
    found = calculate("reconcile", example())
    assert found["verdict"] == "one_error"
    first = found["errors"][0]
    assert (first["name"], first["on"], first["axis"], first["named"]) == ("lower_outer", "upright", "y", True)
    assert first["size_mm"] == pytest.approx(6.0, abs=0.3)
    assert abs(first["size_mm"] - 6.0) < 2 * first["sd_mm"]
    assert "to the left on the upright" in found["says"]
    assert "to the right" in first["bench"]
    assert found["dof"] == len(found["misfit"]) == 9
    read = [one["value"] for one in example()["readings"]]
    assert [m + off for m, off in zip(found["model"], found["misfit"], strict=True)] == pytest.approx(read)
    # what the model says is what `cycle` says
    end = {key: value for key, value in example().items() if key not in ("positions", "readings")}
    cycle = calculate("cycle", {**end, "travel_mm": [-50, 0, 50]})["positions"]
    assert found["model"][:2] == pytest.approx([cycle[0]["camber_deg"], cycle[0]["toe_deg"]])
    chi2 = [one["chi2"] for one in found["errors"] if one["possible"]]
    assert chi2 == sorted(chi2)
    assert first["chi2"] < found["chi2"]


def test_surer_heights_and_surveys_tell_more() -> None:
    usual, sure, per_point = (
        calculate("reconcile", example(**given))["errors"][0]["sd_mm"]
        for given in (
            {}, {"survey_sd_mm": 0.1, "height_sd_mm": 0.1, "length_sd_mm": 0.1}, {"point_sd_mm": {"tie_inner": [0.1, 0.1, 0.1], "upper_outer": [0.1, 0.1, 0.1]}},
        )
    )  # fmt: skip
    assert sure < per_point < usual


def test_a_beam_s_right_wheel_and_an_independent_ends_right_corner() -> None:
    beam = json.loads((DATA / "ends" / "three-links-panhard.json").read_text())
    readings = [
        {"position": i, "measure": "camber_deg", "value": 0.0, "wheel": w} for i in (0, 1) for w in ("left", "right")
    ]
    found = calculate("reconcile", {**beam, "positions": [[0, 0, 0], [0, 2, 0]], "readings": readings})
    # leaned by roll the axle stands out of true against the body: as much one way on the left as the other way on the right
    model = found["model"]
    assert model[2] - model[0] == pytest.approx(-(model[3] - model[1]), abs=1e-6)
    assert abs(model[2] - model[0]) == pytest.approx(2.0, abs=0.05)
    steered = example(
        positions=[[0, 0, 12], [0, 0, -12]],
        readings=[{"position": i, "measure": "toe_deg", "value": 0.0} for i in (0, 1)],
    )
    left, right = (calculate("reconcile", {**steered, "corner": side})["model"] for side in ("left", "right"))
    assert left == pytest.approx(right[::-1])


def test_of_a_right_corner_left_is_left_and_its_next_reading_is_steered_as_the_car_is() -> None:
    """The same car in a mirror: what was 6 mm to the left on the left upright is 6 mm to the right on the right one."""
    left, right = (calculate("reconcile", example(corner=side)) for side in ("left", "right"))
    for one, other in zip(left["errors"], right["errors"], strict=True):
        assert one["error"] == other["error"]
        sign = -1 if one["axis"] == "y" else 1
        assert other["size_mm"] == pytest.approx(sign * one["size_mm"], abs=1e-9)
    assert "to the left on the upright" in left["says"]
    assert "to the right on the upright" in right["says"]
    assert "to the left" in right["errors"][0]["bench"]
    # a rod's inner end too low: told from the outer one by steering, each wheel to its own side
    read = [0.3, -1.1, 3.8, -0.8, 0.3, 3.9, -2.2, 1.8, 4.1]
    unsure = [{**one, "value": value} for one, value in zip(example()["readings"], read, strict=True)]
    left, right = (calculate("reconcile", example(corner=side, readings=unsure))["next"] for side in ("left", "right"))
    assert left
    assert [one["steer"] for one in right] == [-one["steer"] for one in left]
    assert any(one["steer"] for one in left)


@pytest.mark.parametrize(
    ("change", "field", "word"),
    [
        ({"readings": [{"position": 7, "measure": "camber_deg", "value": 1}] * 2}, "readings.0.position", "no position 7"),
        ({"readings": [{"position": 0, "measure": "cambre", "value": 1}] * 2}, "readings.0", "There are: camber_deg"),
        ({"positions": [[900, 0, 0], [0, 0, 0], [50, 0, 0]]}, "positions.0", "cannot be put together"),
        ({"point_sd_mm": {"nose": [1, 1, 1]}}, "point_sd_mm.nose", "no point"),
    ],
)  # fmt: skip
def test_bad_input_names_the_field_and_the_cure(change: dict, field: str, word: str) -> None:
    with pytest.raises(TiranteError) as told:
        calculate("reconcile", example(**change))
    assert field in told.value.fields
    assert word in str(told.value)


def test_unknown_fields_are_refused_by_name() -> None:
    with pytest.raises(ValidationError, match="heigth_sd_mm"):
        calculate("reconcile", example(heigth_sd_mm=1))
