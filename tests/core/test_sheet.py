"""Bends against the length of their neutral fibre walked in small steps, and against figures of the trade."""

from math import cos, degrees, pi, radians, sin

import pytest

from tirante.core.errors import InputError, NoSolution, NotApplicable
from tirante.core.sheet.bend import bent, k_of_test, usual_k
from tirante.core.sheet.joggle import joggle
from tirante.core.sheet.springback import by_elasticity, by_test


def test_the_neutral_fibre_of_din_6935() -> None:
    """k of the standard is 0.65 + 0.5 lg(r/s), 1 from r/s = 5 on: from memory."""
    for ratio, k in ((1.0, 0.65), (2.0, 0.65 + 0.5 * 0.30103), (5.0, 0.99949), (6.0, 1.0)):
        assert 2 * usual_k(3.0 * ratio, 3.0) == pytest.approx(k, abs=2e-5)
    with pytest.raises(NotApplicable, match="too tight"):
        usual_k(0.0, 3.0)


def test_a_flat_strip_bent_is_as_long_as_its_legs_less_the_deduction() -> None:
    """Legs of 50 and 30 outside, a quarter turn: straight lengths and the fibre's arc, added up."""
    one = bent(3.0, 4.0, pi / 2, 0.4)
    straight = 50 - (4 + 3) + 30 - (4 + 3)
    assert 50 + 30 - one.deduction == pytest.approx(straight + pi / 2 * (4 + 0.4 * 3))
    assert one.setback == pytest.approx(7.0)
    tilted = bent(3.0, 4.0, radians(60), 0.4)
    assert tilted.setback == pytest.approx(7.0 * 0.5773502692)


def test_a_test_bend_gives_back_the_k_that_it_was_bent_by() -> None:
    one = bent(2.5, 3.0, radians(85), 0.37)
    flat = 40 + 25 - one.deduction
    assert k_of_test(2.5, 3.0, radians(85), flat, 40.0, 25.0) == pytest.approx(0.37)
    with pytest.raises(InputError, match="These lengths"):
        k_of_test(2.5, 3.0, radians(85), flat - 3, 40.0, 25.0)


@pytest.mark.parametrize("angle", [20.0, 45.0, 90.0])
def test_a_joggle_walked_along_its_middle_comes_out_at_its_offset_and_run(angle: float) -> None:
    one = joggle(3.0, 4.0, radians(angle), 25.0, 30.0, 40.0, 0.45)
    x = y = heading = walked = 0.0
    for length, turn in ((30.0, 0.0), ((4 + 1.5) * radians(angle), radians(angle)), (one.straight, 0.0),
                         ((4 + 1.5) * radians(angle), -radians(angle)), (40.0, 0.0)):  # fmt: skip
        steps = 20_000
        for _ in range(steps):
            heading += turn / steps / 2
            x, y = x + length / steps * cos(heading), y + length / steps * sin(heading)
            heading += turn / steps / 2
        walked += length
    assert y == pytest.approx(25.0, abs=1e-6)
    assert x - 70 == pytest.approx(one.run, abs=1e-6)
    assert one.flat == pytest.approx(
        walked - 2 * radians(angle) * (0.5 - 0.45) * 3.0
    )  # the neutral fibre is inside the middle
    assert one.feasible


def test_a_joggle_without_room_for_its_bends_is_told() -> None:
    tight = joggle(3.0, 6.0, radians(90), 10.0, 30.0, 30.0)
    assert not tight.feasible
    assert tight.straight == pytest.approx(10.0 - 2 * 7.5)
    with pytest.raises(NotApplicable, match="hem"):
        joggle(3.0, 6.0, radians(95), 60.0, 30.0, 30.0)


def test_what_springs_back_is_over_bent_and_a_stiffer_sheet_less() -> None:
    """A sheet of R/t 20 in steel of 250 MPa: Ri/Rf = 4 x³ − 3 x + 1, x = Ri Y / (E t)."""
    one = by_elasticity(1.0, 20.0, pi / 2, 250.0, 205_000.0)
    x = one.radius * 250 / 205_000
    assert one.radius / 20.0 == pytest.approx(4 * x**3 - 3 * x + 1)
    assert degrees(one.angle) > 90
    assert one.angle == pytest.approx(pi / 2 * 20.5 / (one.radius + 0.5))
    assert by_elasticity(1.0, 20.0, pi / 2, 500.0, 205_000.0).angle > one.angle
    assert by_elasticity(2.0, 20.0, pi / 2, 250.0, 205_000.0).angle < one.angle
    with pytest.raises((NoSolution, InputError)):
        by_elasticity(1.0, 20.0, pi / 2, 0.0, 205_000.0)


def test_a_shop_s_own_test_sets_the_next_bend() -> None:
    assert degrees(by_test(radians(90), radians(92), radians(90)).angle) == pytest.approx(92.0)
    assert degrees(by_test(radians(45), radians(92), radians(90)).angle) == pytest.approx(46.0)
    with pytest.raises(InputError):
        by_test(radians(45), radians(90), radians(92))
