"""A hole saw's way through a tube: which notches one makes, and how far apart it leaves the longest points of what it parts."""

from __future__ import annotations

import re
from dataclasses import dataclass
from math import cos, radians, tan

import numpy as np

from tirante.core.parts.part import NotchedEnd

_SAW = re.compile(r"hole saw ⌀([0-9.]+) mm, tube ([0-9.]+)° off square(, gap [0-9.]+ mm at most)?$")


@dataclass(frozen=True, slots=True, kw_only=True)
class Pass:
    """A hole saw's way through a tube [mm, °]."""

    saw: float
    off_square: float

    def apart(self, od: float) -> float:
        """How far the longest points of what it parts stand from one another along the tube [mm].

        Args:
            od: of the tube.

        Source:
            Geometry (derived): the tube's outer lines r cos φ · tan β ∓ √(R² − r² sin² φ)/cos β, β the angle off square, from where both axes meet.
        """
        phi = np.linspace(0.0, np.pi, 2881)
        r, beta = od / 2, radians(self.off_square)
        reach = r * np.cos(phi) * tan(beta) - np.sqrt(np.maximum(0.0, self.saw**2 / 4 - (r * np.sin(phi)) ** 2)) / cos(
            beta
        )
        return -2.0 * float(np.max(reach))


def pass_of(notch: NotchedEnd | None) -> Pass | None:
    """How a hole saw cuts a notch; None where none does that could serve two.

    Args:
        notch: of a piece.
    """
    found = _SAW.match(notch.by_saw) if notch else None
    return Pass(saw=float(found[1]), off_square=float(found[2])) if found else None
