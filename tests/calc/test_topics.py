"""The command-line contract: topics, fields, refusals, exit codes."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from pydantic import ValidationError

from tirante.calc import TOPICS, calculate
from tirante.cli import describe
from tirante.core.errors import TiranteError
from tirante.core.problems import problem

ROOT = Path(__file__).resolve().parents[2]

CONTRACT = {
    "column": "area_mm2 i_mm4 r_mm slenderness transition_slenderness euler_n johnson_n governing critical_n aisc_e3_n",
    "stepped-column": "elastic_critical_n squash_n critical_n",
    "beam-column": "euler_n mid_deflection_mm max_moment_nmm max_stress_mpa first_yield_n",
    "thread": "pitch_mm major_mm pitch_diameter_mm minor_internal_mm root_external_mm stress_area_mm2",
    "thread-strip": "external_shear_area_mm2 internal_shear_area_mm2 min_engagement_mm break_n strip_external_n strip_internal_n",
    "link-stack": "tube_cut_mm ends range_mm mm_per_turn",
    "net-section": "net_area_mm2 yield_n rupture_n capacity_n",
    "local-wall": "d_over_t compression_limit bending_limit compression_ok bending_ok",
    "rod-end": "shank_n eye_n race_n axial_n rating_n source",
    "insert-weld": "ring_n plugs_n capacity_n",
    "shank-bending": "stress_mpa utilisation",
    "pin": "shear_n bending_moment_nmm bending_mpa",
    "lug": "bearing_n tension_rupture_n shear_rupture_n gross_yield_n governing utilisation detailing",
    "weld": "length_mm centroid_mm line_force_max_n_per_mm throat_stress_max_mpa at nominal_mpa utilisation",
}


@pytest.mark.parametrize("name", CONTRACT)
def test_a_topic_answers_the_fields_of_the_contract(name: str) -> None:
    result = calculate(name, TOPICS[name].example)
    assert set(CONTRACT[name].split()) <= set(result)


@pytest.mark.parametrize("name", TOPICS)
def test_working_shows_steps_with_sources_and_changes_no_figure(name: str) -> None:
    plain, shown = calculate(name, TOPICS[name].example), calculate(name, TOPICS[name].example, working=True)
    steps = shown.pop("working")
    assert shown == plain
    assert steps
    assert all(step["source"] and step["formula"] and step["status"] for step in steps)


@pytest.mark.parametrize("name", TOPICS)
def test_help_names_every_field_with_an_example_that_is_the_one_run(name: str) -> None:
    text = describe(TOPICS[name])
    assert all(field in text for field in TOPICS[name].example)
    assert json.dumps(TOPICS[name].example) in text


@pytest.mark.parametrize("name", TOPICS)
def test_an_unknown_field_is_refused_by_name(name: str) -> None:
    with pytest.raises(ValidationError) as caught:
        calculate(name, {**TOPICS[name].example, "colour": "red"})
    assert [issue["path"] for issue in problem(caught.value)["issues"]] == ["colour"]


OPTIONAL = {
    "measured_mm",
    "closed_mm",
    "open_mm",
    "limit_deg",
    "wall_mm",
    "yield_mpa",
    "welded_yield_mpa",
    "force_n",
}  # null: solid, or left out


def _numbers(payload: object, path: tuple[object, ...] = ()) -> list[tuple[object, ...]]:
    if isinstance(payload, dict):
        return [found for key, value in payload.items() for found in _numbers(value, (*path, key))]
    if isinstance(payload, list):
        return [found for i, value in enumerate(payload) for found in _numbers(value, (*path, i))]
    return [path] if isinstance(payload, int | float) and not isinstance(payload, bool) else []


def _with(payload: object, path: tuple[object, ...], value: object) -> object:
    copy = json.loads(json.dumps(payload))
    place = copy
    for step in path[:-1]:
        place = place[step]
    place[path[-1]] = value
    return copy


@pytest.mark.parametrize("name", TOPICS)
def test_a_bad_number_anywhere_is_refused_at_its_own_field(name: str) -> None:
    example = TOPICS[name].example
    for path in _numbers(example):
        for bad in ("12", True, None, float("nan"), float("inf"), 1e30, -1e30, [1.0]):
            if bad is None and path[-1] in OPTIONAL:
                continue
            if bad is None and name == "bracket" and path == ("parameters", "load_angle_deg"):
                continue  # null is an answer there: nothing tells how the pull comes
            if bad == [1.0] and name in ("loads", "turns") and path == ("travel_mm",):
                continue  # a list of one position, as `cycle` has it
            try:
                calculate(name, json.dumps(_with(example, path, bad)))
            except (ValidationError, TiranteError) as error:
                paths = [issue["path"] for issue in problem(error)["issues"]]
                assert any(str(path[0]) == found.split(".")[0] for found in paths), (path, bad, paths)
            else:
                pytest.fail(f"{name}: {path} took {bad!r}")


def run(arguments: list[str], text: str = "") -> tuple[int, str]:
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [sys.executable, "-m", "tirante.cli", "calc", *arguments],
        input=text,
        capture_output=True,
        text=True,
        env=environment,
    )
    assert done.stderr == ""
    return done.returncode, done.stdout


def test_the_command_answers_json_and_exit_codes(tmp_path: Path) -> None:
    code, out = run(["column"], json.dumps(TOPICS["column"].example))
    assert code == 0
    assert json.loads(out) == calculate("column", TOPICS["column"].example)
    file = tmp_path / "in.json"
    file.write_text(json.dumps(TOPICS["thread"].example))
    assert run(["thread", "--in", str(file), "--working"])[0] == 0
    code, out = run(
        ["column"],
        '{"od_mm": "21 1/',
    )
    assert code == 2
    assert json.loads(out)["issues"]
    code, out = run(["column"], json.dumps({**TOPICS["column"].example, "wall_mm": 20}))
    assert code == 2
    assert json.loads(out)["issues"][0]["path"] == "wall_mm"
    heavy = {**TOPICS["beam-column"].example, "axial_compression_n": 1e8}
    code, out = run(["beam-column"], json.dumps(heavy))
    assert code == 3
    assert json.loads(out)["issues"][0]["path"] == "axial_compression_n"
    assert run(["nonsense"])[0] == 2
    assert run(["column", "--in", "/no/such/file"])[0] == 2
    code, out = run([])
    assert code == 0
    assert all(name in out for name in CONTRACT)


def test_single_shear_bends_the_pin_by_the_whole_force() -> None:
    pin = TOPICS["pin"].example
    double, single = calculate("pin", pin), calculate("pin", {**pin, "planes": 1})
    assert double["shear_n"] == pytest.approx(2 * single["shear_n"])
    plate, gap, ball, force = (pin[k] for k in ("plate_mm", "gap_mm", "ball_width_mm", "force_n"))
    assert double["bending_moment_nmm"] == pytest.approx(force / 2 * (plate / 2 + gap + ball / 4))
    assert single["bending_moment_nmm"] == pytest.approx(force * (plate / 2 + gap + ball / 2))


def test_forces_of_a_heavy_car_are_taken() -> None:
    example = TOPICS["loads"].example
    heavy = _with(example, ("cases", 0, "forces", 0, "f_n", 2), 250_000.0)
    heavy["cases"][0]["moments"] = [{"on": "upright", "m_nmm": [0.0, -9e7, 0.0]}]
    assert calculate("loads", heavy)["cases"][0]["residual"] < 1e-9
