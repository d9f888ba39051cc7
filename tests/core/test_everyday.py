"""How many of the everyday cycles go the whole way: the straight line over the logarithm of their count, by what the car is for, at every part."""

from __future__ import annotations

from math import log

import pytest

from tests.conftest import ROOT
from tests.jobs import work
from tirante.calc import calculate
from tirante.core.document.design import Design
from tirante.core.document.upgrades import load_design
from tirante.core.members.fatigue import FULL, life, straight_line
from tirante.core.parts.everyday import for_use


def used_as(design: Design, use: str, **settings: object) -> Design:
    return design.model_copy(
        update={
            "car": design.car.model_copy(update={"use": use}),
            "settings": design.settings.model_copy(update=settings),
        }
    )


@pytest.mark.parametrize("one_in", [10.0, 1000.0, 1e6])
def test_the_steps_of_a_straight_line_do_no_less_harm_than_the_line_itself(one_in: float) -> None:
    """By slope 3 alone the line's harm is ∫ x³ dP, P(further than x) = N⁻ˣ: in closed form by parts, with what is left at 1."""
    steps = straight_line(one_in)
    assert sum(share for share, _ in steps) == pytest.approx(1.0)
    assert [fraction for _, fraction in steps] == pytest.approx([k / 10 for k in range(1, 11)])
    n = log(one_in)
    # ∫₀¹ 3 x² e^(−n x) dx
    exact = 3 * (2 / n**3 - (1 + 2 / n + 2 / n**2) / one_in / n)
    summed = sum(share * fraction**3 for share, fraction in steps)
    shifted = sum(share * max(0.0, fraction - 0.1) ** 3 for share, fraction in steps)
    assert shifted < exact < summed
    # one that is nearly straight up and down is every cycle full; one by itself is that
    assert life(100.0, 50.0, straight_line(1.0)) == life(100.0, 50.0, FULL)
    assert life(100.0, 50.0, straight_line(1.0001)) == pytest.approx(life(100.0, 50.0, FULL), rel=1e-3)


def test_a_car_for_roads_goes_the_whole_way_in_one_cycle_of_a_thousand_and_all_its_parts_are_judged_so() -> None:
    design = load_design((ROOT / "data/demo/dunlin.json").read_text())
    lives: dict[str, dict[tuple[str, str], tuple[float, float, str]]] = {}
    asked = {
        "circuit": used_as(design, "circuit"), "road": used_as(design, "road"), "road, all full": used_as(design, "road", full_one_in=1.0),
        "circuit, as a road": used_as(design, "circuit", full_one_in=1000.0),
    }  # fmt: skip
    spectra: dict[str, set[object]] = {name: set() for name in asked}
    for name, one in asked.items():
        lives[name] = {}
        for part in work(one).parts:
            for check in part.checks:
                if (
                    check.case != "everyday cycles"
                    or check.reproduce is None
                    or "spectrum" not in check.reproduce.input
                ):
                    continue
                lives[name][part.saved.name, check.key] = check.capacity, check.demand, check.note
                spectra[name].add(tuple(tuple(row) for row in check.reproduce.input["spectrum"]))
                again = calculate(check.reproduce.topic, check.reproduce.input)["cycles"]
                assert again == pytest.approx(check.capacity, rel=1e-9)
    assert {kind for _, kind in lives["road"]} > {"bar_life"}
    assert spectra["circuit"] == spectra["road, all full"] == {tuple(FULL)}
    assert spectra["road"] == spectra["circuit, as a road"] == {straight_line(1000.0)}
    for place, (cycles, wanted, note) in lives["road"].items():
        full, target, said = lives["circuit"][place]
        assert (wanted, target) == (1e6, 1e5)
        assert cycles >= full
        assert lives["road, all full"][place][0] == full
        assert lives["circuit, as a road"][place][0] == cycles
        assert "are full, the rest smaller" in note
        assert "are full" not in said
    assert any(cycles > 20 * lives["circuit"][place][0] for place, (cycles, *_) in lives["road"].items())


def test_a_spectrum_of_one_s_own_is_taken_as_it_stands(marram: Design) -> None:
    own = ((0.25, 1.0), (0.75, 0.5))
    settings = marram.settings.model_copy(update={"everyday": own})
    for use in ("road", "circuit", "off-road"):
        assert for_use(settings, use).everyday == own
    assert for_use(marram.settings, "off-road").everyday == ((1.0, 1.0),)
