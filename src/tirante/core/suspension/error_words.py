"""An error of a car told to whoever has to mend it."""

from __future__ import annotations

from tirante.core.mechanism.model import GROUND
from tirante.core.suspension.one_error import Error

TOWARD = {"x": ("forward", "back"), "y": ("to the left", "to the right"), "z": ("up", "down")}


def plain(name: str) -> str:
    """A point, link or arm's side as it is said."""
    return name.replace("_", " ")


def what(error: Error) -> str:
    """What it is that may be otherwise, without its size."""
    if error.kind == "length":
        return f"length of {plain(error.name)}"
    if error.kind == "heights":
        return error.name
    carrier = "the car" if error.on == GROUND else f"the {plain(error.on)}"
    assert error.axis
    return f"{plain(error.name)} on {carrier}, {_along(error.axis)}"


def _along(axis: str) -> str:
    return {"x": "fore and aft", "y": "sideways", "z": "in height"}[axis]


def told(error: Error, mm: float) -> str:
    """What the car has against the model.

    Args:
        error: which.
        mm: its size.
    """
    size = f"{abs(mm):.1f} mm"
    if error.kind == "length":
        return f"{plain(error.name)} is {size} {'longer' if mm > 0 else 'shorter'} than the model has it"
    if error.kind == "heights":
        return f"heights were read {size} too {'large' if mm > 0 else 'small'}"
    carrier = "the car" if error.on == GROUND else f"the {plain(error.on)}"
    assert error.axis
    return f"{plain(error.name)} stands {size} further {TOWARD[error.axis][0 if mm > 0 else 1]} on {carrier} than the model has it"


def at_the_bench(error: Error, mm: float) -> str:
    """What brings the car to the model.

    Args:
        error: which.
        mm: its size.
    """
    size = f"{abs(mm):.1f} mm"
    if error.kind == "length":
        way = "shorter" if mm > 0 else "longer"
        return (
            f"Turn it {size} {way} where threads allow, and look at the thread that is left; else make it {size} {way}."
        )
    if error.kind == "heights":
        return "Read the heights again from one zero: nothing on the car is moved."
    assert error.axis
    back = TOWARD[error.axis][1 if mm > 0 else 0]
    if error.on == GROUND:
        return f"Move its bracket {size} {back}; where its bolt runs that way, a shim does it. Or measure it again, and move the point in the layout."
    return f"It is made so on the {plain(error.on)}: move its bracket there {size} {back}, or measure the part on the bench and move the point in the layout."
