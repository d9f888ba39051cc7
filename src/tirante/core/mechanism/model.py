"""Bodies, marks on them and the constraints between them, as immutable data.

A mechanism is described in its reference position, in one frame, in mm. A mark is a point of a body (or of the ground)
given where it stands then. Each moving body has six coordinates: three of displacement, three of rotation.

Not covered: friction, contact, flexible bodies (but see `stiffness`, which lets redundant constraints share).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from tirante.core.errors import InputError

Vector = tuple[float, float, float]
GROUND = "ground"


@dataclass(frozen=True, slots=True)
class Mark:
    """A point of a body where it stands in the reference position [mm].

    With `drive` the mark is one of the ground that moves along `along` by that driver's value (a rack's end).
    """

    body: str
    at: Vector
    drive: str | None = None
    along: Vector = (0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Distance:
    """Two marks stay a length apart: a link between spherical ends. One equation, |d| − L."""

    name: str
    a: Mark
    b: Mark
    length: float | None = None  # None: as in the reference position
    drive: str | None = None  # the length changes by that driver's value
    stiffness: float | None = None  # [N/mm] what it yields by when constraints are redundant; None: it does not


@dataclass(frozen=True, slots=True, kw_only=True)
class Coincident:
    """Two marks are one point: a spherical joint. Three equations.

    Marks that stand apart in the reference position stay so far apart, unless they are to `meet`.
    """

    name: str
    a: Mark
    b: Mark
    meet: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Bush:
    """Two marks held together by an elastic bush about an axis fixed to b's body. Three equations, five with `conical`.

    A stiffness of None does not yield; `conical` None leaves the two axes free to lean.
    """

    name: str
    a: Mark
    b: Mark
    axis: Vector  # in the reference position
    radial: float | None = None  # [N/mm]
    axial: float | None = None  # [N/mm]
    conical: float | None = None  # [N·mm/rad]


@dataclass(frozen=True, slots=True, kw_only=True)
class Parallel:
    """A direction of one body stays parallel to one of another: with a `Coincident`, a hinge. Two equations."""

    name: str
    body_a: str
    body_b: str
    axis: Vector  # in the reference position
    axis_b: Vector | None = None  # of b, where it is another there; they are brought together


@dataclass(frozen=True, slots=True, kw_only=True)
class Square:
    """A direction of one body stays square to one of another: with a `Coincident`, a universal joint. One equation."""

    name: str
    body_a: str
    body_b: str
    axis_a: Vector  # in the reference position, square to the other
    axis_b: Vector


@dataclass(frozen=True, slots=True, kw_only=True)
class OnLine:
    """A mark stays on a line of another body through `through` along `along`: a slider. Two equations.

    One that stands beside the line in the reference position stays so far from it, unless it is to `meet` it.
    """

    name: str
    mark: Mark
    through: Mark
    along: Vector
    meet: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Coordinate:
    """A mark's coordinate along a ground direction has a value: its own in the reference position plus the driver's."""

    name: str
    mark: Mark
    along: Vector
    drive: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Turned:
    """A body's direction, seen along `about`, is turned from where it stood by the driver's value [rad]. One equation."""

    name: str
    body: str
    direction: Vector  # square to `about`, in the reference position
    about: Vector
    drive: str | None = None


Constraint = Distance | Coincident | Bush | Parallel | Square | OnLine | Coordinate | Turned
_EQUATIONS: dict[type, int] = {Distance: 1, Coincident: 3, Parallel: 2, Square: 1, OnLine: 2, Coordinate: 1, Turned: 1}


def stiffnesses(constraint: Constraint) -> tuple[float, ...]:
    """What each of its equations yields by [N/mm, N·mm/rad], 0 where it does not."""
    if isinstance(constraint, Bush):
        radial = constraint.radial or 0.0
        leaning = (constraint.conical, constraint.conical) if constraint.conical else ()
        return (constraint.axial or 0.0, radial, radial, *leaning)
    one = constraint.stiffness or 0.0 if isinstance(constraint, Distance) else 0.0
    return (one,) * _EQUATIONS[type(constraint)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Mechanism:
    """Moving bodies, what holds them, and what moves them."""

    bodies: tuple[str, ...]
    constraints: tuple[Constraint, ...]
    drivers: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        known = {GROUND, *self.bodies}
        if len(known) != len(self.bodies) + 1:
            raise InputError("Two bodies have one name.", fields=("bodies",))
        for constraint in self.constraints:
            for body in bodies_of(constraint):
                if body not in known:
                    raise InputError(f"{constraint.name}: there is no body “{body}”.", fields=(constraint.name,))
            if (
                isinstance(constraint, Distance)
                and constraint.length is None
                and separation(constraint.a, constraint.b) < 1e-6
            ):
                raise InputError(
                    f"{constraint.name} has no length: its two ends are one point. Move one of them.",
                    code="zero_length", fields=(constraint.name,),
                )  # fmt: skip

    @property
    def unknowns(self) -> int:
        """Six a body."""
        return 6 * len(self.bodies)

    @property
    def equations(self) -> int:
        """Of all constraints."""
        return sum(len(stiffnesses(constraint)) for constraint in self.constraints)


def bodies_of(constraint: Constraint) -> tuple[str, ...]:
    """The bodies a constraint ties."""
    if isinstance(constraint, Distance | Coincident | Bush):
        return constraint.a.body, constraint.b.body
    if isinstance(constraint, Parallel | Square):
        return constraint.body_a, constraint.body_b
    if isinstance(constraint, OnLine):
        return constraint.mark.body, constraint.through.body
    return (constraint.mark.body,) if isinstance(constraint, Coordinate) else (constraint.body,)


def separation(a: Mark, b: Mark) -> float:
    """Distance of two marks in the reference position [mm]."""
    return sqrt(sum((p - q) ** 2 for p, q in zip(a.at, b.at, strict=True)))


def unit(vector: Sequence[float], name: str) -> Vector:
    """The direction of a vector.

    Raises:
        InputError: it has no length.
    """
    length = sqrt(sum(v * v for v in vector))
    if length < 1e-9:
        raise InputError(f"{name} has no direction: its two points are one.", code="zero_length", fields=(name,))
    x, y, z = (v / length for v in vector)
    return x, y, z
