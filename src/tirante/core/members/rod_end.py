"""Strength of a rod end from its own sections.

Shank in tension at the thread root, eye in tension beside the bore, race or liner in bearing on the projected area.
The maker's static rating, when entered, replaces the computed one. Ultimate strengths: use the joint's design factor.

Not covered: fatigue, wear, ball push-out under shock, combined axial and radial load.
"""

from __future__ import annotations

from dataclasses import dataclass

from tirante.core.errors import InputError
from tirante.core.members.thread import Thread

AXIAL_OF_RACE = 0.2  # side capacity as a share of the race's; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class RodEndStrength:
    """Static strengths [N]."""

    shank: float
    eye: float
    race: float
    axial: float
    maker_static: float | None

    @property
    def rating(self) -> float:
        """What the joint is good for along its shank [N]."""
        return self.maker_static if self.maker_static is not None else min(self.shank, self.eye, self.race)

    @property
    def source(self) -> str:
        """Whether the rating is the maker's or computed, and from which part."""
        if self.maker_static is not None:
            return "maker"
        parts = {"shank": self.shank, "eye": self.eye, "race": self.race}
        return f"computed, {min(parts, key=lambda part: parts[part])} governs"


def rod_end_strength(
    thread: Thread,
    head_diameter: float,
    housing_width: float,
    housing_bore: float,
    ball_diameter: float,
    body_ultimate: float,
    race_pressure: float,
    maker_static: float | None = None,
) -> RodEndStrength:
    """Static strength of a male rod end.

    Args:
        thread: of the shank.
        head_diameter: outside of the eye [mm]
        housing_width: of the eye along the bolt [mm]
        housing_bore: hole in the eye that holds race or ball [mm]
        ball_diameter: spherical diameter [mm]
        body_ultimate: tensile strength of the body [MPa]
        race_pressure: static bearing pressure that race or liner bears [MPa]
        maker_static: maker's static radial rating, replaces the computed one [N]

    Returns:
        Strength of each part.

    Raises:
        InputError: bore not smaller than the head, ball larger than the bore allows.

    Source:
        Sections (derived); axial share: common practice, no source.
    """
    if housing_bore >= head_diameter:
        raise InputError(
            "The eye's bore must be smaller than its outside diameter.",
            code="contradictory", fields=("housing_bore_mm",), value=housing_bore, limits=(0.0, head_diameter),
        )  # fmt: skip
    if ball_diameter > housing_bore:
        raise InputError(
            "The ball must go into the eye's bore.",
            code="contradictory", fields=("ball_diameter_mm",), value=ball_diameter, limits=(0.0, housing_bore),
        )  # fmt: skip
    race = race_pressure * ball_diameter * housing_width
    return RodEndStrength(
        shank=body_ultimate * thread.root_area,
        eye=body_ultimate * (head_diameter - housing_bore) * housing_width,
        race=race,
        axial=AXIAL_OF_RACE * race,
        maker_static=maker_static,
    )
