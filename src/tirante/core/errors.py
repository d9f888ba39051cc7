"""Every error the core raises, as one tree.

TiranteError
├─ InputError      what was given is missing, out of range or contradictory
├─ NotApplicable   the method does not cover the case
├─ NoSolution      nothing satisfies what was asked
└─ NotConverged    an iteration ended without meeting its tolerance

Each carries `code`, `fields`, `value` and `limits` apart from the sentence, so that an outer layer can speak the user's
field names and units.
"""

from __future__ import annotations

from collections.abc import Sequence


class TiranteError(Exception):
    """Base of all errors of the core."""

    default_code = "error"

    def __init__(
        self,
        message: str,
        *,
        code: str | None = None,
        fields: Sequence[str] = (),
        value: object = None,
        limits: tuple[float | None, float | None] | None = None,
    ) -> None:
        super().__init__(message)
        self.message = message
        self.code = code or self.default_code
        self.fields = tuple(fields)
        self.value = value
        self.limits = limits


class InputError(TiranteError):
    """What was given is missing, out of range or contradicts itself."""

    default_code = "invalid"


class NotApplicable(TiranteError):  # noqa: N818 - the textbooks' word for it
    """The method does not cover the case."""

    default_code = "not_applicable"


class NoSolution(TiranteError):  # noqa: N818
    """Nothing satisfies what was asked."""

    default_code = "no_solution"


class NotConverged(TiranteError):  # noqa: N818
    """An iteration ended without meeting its tolerance."""

    default_code = "not_converged"


def require_range(field: str, value: float, low: float | None, high: float | None) -> None:
    """Raise `InputError` naming `field` unless low <= value <= high (NaN never passes).

    Args:
        field: that is named.
        value: given.
        low: least; None: no limit.
        high: most; None: no limit.
    """
    if not ((low is None or value >= low) and (high is None or value <= high)):
        bounds = " and ".join(
            part
            for part in (None if low is None else f"at least {low:g}", None if high is None else f"at most {high:g}")
            if part
        )
        raise InputError(
            f"{field} is {value:g}; it must be {bounds}.",
            code="out_of_range",
            fields=(field,),
            value=value,
            limits=(low, high),
        )
