"""What measures and checks are, said to whoever has not met them; and judged only where they mean something."""

from __future__ import annotations

import re

from tirante.core.checks.kinds import CHECKS
from tirante.core.checks.meaning import MEANING, meaning_of
from tirante.core.suspension.shown.measures_shown import BY_KEY, MEASURES


def test_every_kind_of_check_and_every_measure_says_what_it_is_in_a_sentence() -> None:
    assert set(MEANING) == set(CHECKS)
    for told in (*MEANING.values(), *(measure.what for measure in MEASURES)):
        assert re.fullmatch(r"[A-Z].*\.", told), told
        assert len(told) < 180, told
    assert meaning_of("life:part") == MEANING["life"]
    assert meaning_of("frame_weld:front tube") == MEANING["frame_weld"]


def test_what_is_of_the_steering_axis_is_judged_only_where_the_wheel_is_steered() -> None:
    of_steering = {key for key, measure in BY_KEY.items() if measure.of_steering}
    assert of_steering == {"caster_deg", "kingpin_inclination_deg", "scrub_radius_mm", "mechanical_trail_mm"}
    for key in of_steering:
        assert BY_KEY[key].usual("road", steered=False) is None
        assert BY_KEY[key].usual("road", steered=True) is not None
    assert BY_KEY["camber_deg"].usual("road", steered=False) == BY_KEY["camber_deg"].usual("road")
