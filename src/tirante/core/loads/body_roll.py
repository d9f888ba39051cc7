"""How far the body leans in a corner, and what that puts from one wheel to the other, by both ends' roll stiffness and roll centres.

Source:
    Milliken and Milliken, Race Car Vehicle Dynamics, ch. 18 (wheel loads), and Gillespie, Fundamentals of Vehicle Dynamics, ch. 6,
    from memory; roll stiffness by virtual work on the mechanism (derived; docs/methods.md, Body roll).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import cos, degrees, radians, sin

import numpy as np

from tirante.core.document.car import Car
from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.errors import InputError
from tirante.core.suspension import axle, measures
from tirante.core.suspension.assemble import SIDES
from tirante.core.suspension.cycle import Solved, roll_centre, solved_cycle
from tirante.core.suspension.held import bar_twist
from tirante.core.units import STANDARD_GRAVITY

SMALL = 0.25  # deg: the roll that rates are taken over, either way
ENDS = ("front", "rear")


@dataclass(frozen=True, slots=True, kw_only=True)
class EndRoll:
    """An end as the body leans on it [N·mm/rad, mm]; what is not known is None."""

    stiffness: float | None  # of springs and bars, the wheels held
    centre: float | None  # height of its roll centre above the ground
    track: float | None
    wheel_height: float | None  # of the wheel centres: where what is unsprung stands
    told: tuple[str, ...] = ()  # what was taken and not known


@dataclass(frozen=True, slots=True, kw_only=True)
class Lean:
    """A corner of so many g [rad, N]."""

    roll: dict[str, float]  # of the body against the wheels of each end, towards the outside of the corner
    transfer: dict[str, float]  # on to the outer wheel of each end
    lifted: frozenset[str]  # ends whose inner wheel is off the ground
    overturning: float  # N·mm: of the sprung weight, moved out by the lean
    notes: tuple[str, ...] = ()


def end_roll(template: Template, end: End) -> EndRoll:
    """An end's roll stiffness, roll centre and track at ride height, from its mechanism, spring rates and bars.

    Args:
        template: of the end.
        end: as it stands in its car.

    Raises:
        InputError: the end cannot be put together.
    """
    done = solved_cycle(template, end, np.array([[0.0] * 3, [0.0, SMALL, -SMALL], [0.0] * 3]))
    height, _ = roll_centre(done)
    side = done.left
    other = done.right or done.left
    one = measures.wheel_at(side.assembled, side.rest, 1.0)
    two = measures.wheel_at(other.assembled, other.rest, -1.0 if side.assembled.beam else 1.0)
    across = abs(float(two.contact[1, 0]))
    track = float(one.contact[1, 0]) + across
    stiffness, told = _stiffness(done, end)
    centre = float(height[0]) if np.isfinite(height[0]) else None
    return EndRoll(stiffness=stiffness, centre=centre, track=track, wheel_height=end.wheel.loaded_radius_mm, told=told)


def _stiffness(done: Solved, end: End) -> tuple[float | None, tuple[str, ...]]:
    """Σ k (dl/dφ)² of the springs and the bars' own; None where a rate is not known or the end does not lean."""
    if not end.rated or (done.status != 0).any():
        return None, ()
    beam = done.left.assembled.beam
    turn = 2 * radians(SMALL)
    total = 0.0
    for name in SIDES:
        side = done.left if beam or name == "left" else done.right or done.left
        for spring in end.springs.values():
            length = axle.length_of(side.assembled, side.solved, spring, name if beam else "left")
            total += (spring.rate_n_per_mm or 0.0) * ((length[1] - length[2]) / turn) ** 2
    told = []
    for bar in done.left.assembled.template.bars:
        addition = end.additions.get(bar.addition or "")
        rate = addition.rate_nm_per_deg if addition else None
        if rate is None:
            told.append(f"{bar.name} has no rate and holds nothing here; give it at Layout")
            continue
        twist = bar_twist(done, bar.name)
        total += rate * 1000.0 * degrees(1.0) * (radians(twist[1] - twist[2]) / turn) ** 2
    return float(total), tuple(told)


def lean(
    car: Car,
    rest: Mapping[tuple[str, str], float],
    inner: Mapping[str, float],
    ends: Mapping[str, EndRoll],
    across: float,
) -> Lean:
    """How far the body leans at so many g across, and what goes from the inner wheels on to the outer ones.

    φ = m_s a h₁ / (Kφ − m_s g h₁); of each end [Kφ φ + sprung force × roll-centre height + unsprung force × its height] / track.
    An end whose inner wheel has left the ground takes no more; the other takes the rest.

    Args:
        car: its masses and height of mass.
        rest: load of every wheel as the car stands [N].
        inner: of either end, the load of the inner wheel before the corner [N].
        ends: both ends as the body leans on them.
        across: g, positive.

    Raises:
        InputError: what the lean asks for is not known; the body would lean over without end.
    """
    known = {name: _whole(car, name, ends.get(name)) for name in ENDS}
    unsprung = {"front": car.unsprung_front_kg or 0.0, "rear": car.unsprung_rear_kg or 0.0}
    notes = [told for name in ENDS for told in (ends[name].told if name in ends else ())]
    if not car.unsprung_front_kg or not car.unsprung_rear_kg:
        notes.append("no unsprung mass is known at an end: all of it leans")
    g = STANDARD_GRAVITY
    load = {name: rest[name, "left"] + rest[name, "right"] for name in ENDS}
    sprung = {name: load[name] - unsprung[name] * g for name in ENDS}
    weight, all_sprung = sum(load.values()), sum(sprung.values())
    if min(sprung.values()) <= 0:
        raise InputError(
            "What is unsprung at an end weighs more than stands on it. Look at the unsprung masses and corner weights.",
            code="out_of_range", fields=("car.unsprung_front_kg", "car.unsprung_rear_kg"),
        )  # fmt: skip
    height = weight * car.cg_height_mm - sum(unsprung[n] * g * known[n].wheel_height for n in ENDS)
    above = height / all_sprung - sum(sprung[n] * known[n].centre for n in ENDS) / all_sprung  # h₁
    over = all_sprung * above  # of the sprung weight, by the radian
    fixed = {n: across * (sprung[n] * known[n].centre + unsprung[n] * g * known[n].wheel_height) for n in ENDS}
    most = {n: inner[n] * known[n].track for n in ENDS}  # the inner wheel's load is all gone
    lifted: set[str] = set()
    turn = 0.0
    for _ in ENDS:
        held = sum(most[n] - fixed[n] for n in lifted)  # what the ends that have lifted hold of the lean
        free = sum(known[n].stiffness for n in ENDS if n not in lifted)
        if free <= over:
            break
        turn = (all_sprung * across * above - held) / (free - over)
        more = {n for n in ENDS if n not in lifted and known[n].stiffness * turn + fixed[n] > most[n]}
        if not more:
            return Lean(
                roll={n: ((most[n] - fixed[n]) / known[n].springs if n in lifted else turn * known[n].stiffness / known[n].springs) for n in ENDS},
                transfer={n: (most[n] if n in lifted else known[n].stiffness * turn + fixed[n]) / known[n].track for n in ENDS},
                lifted=frozenset(lifted), overturning=over * turn, notes=tuple(notes),
            )  # fmt: skip
        lifted |= more
    raise InputError(
        f"At {across:g} g across the car tips over, or leans without end. Give a lower factor, or look at the height of the mass, the tracks and the "
        "spring rates.",
        code="tips_over", fields=("lateral",), value=across,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Known:
    stiffness: float  # with the tyres
    springs: float  # without
    centre: float
    track: float
    wheel_height: float


def _whole(car: Car, name: str, found: EndRoll | None) -> _Known:
    """An end with what was typed of it, tyres in series.

    Raises:
        InputError: something of it is not known.
    """
    stiffness: float | None = getattr(car, f"roll_stiffness_{name}_nm_per_deg")
    springs = stiffness * 1000.0 * degrees(1.0) if stiffness is not None else found.stiffness if found else None
    centre: float | None = getattr(car, f"roll_centre_{name}_mm")
    if centre is None and found:
        centre = found.centre
    track: float | None = (found.track if found else None) or getattr(car, f"track_{name}_mm")
    height = found.wheel_height if found else car.wheel_height_mm
    missing = [
        (words, field)
        for value, words, field in (
            (springs, "roll stiffness", f"car.roll_stiffness_{name}_nm_per_deg"),
            (centre, "roll centre", f"car.roll_centre_{name}_mm"),
            (track, "track", f"car.track_{name}_mm"),
            (height, "height of the wheel centres", "car.wheel_height_mm"),
        )
        if value is None
    ]
    if missing:
        what = " and ".join(words for words, _ in missing)
        rate = ", its springs’ rate there" if found is not None and springs is None else ""
        raise InputError(
            f"How far the body leans is not known: the {name} has no {what}. Give it at Layout, under Vehicle{rate}, or type the roll of this case.",
            code="missing", fields=tuple(field for _, field in missing),
        )  # fmt: skip
    assert springs is not None
    assert centre is not None
    assert track is not None
    assert height is not None
    tyre: float | None = getattr(car, f"tyre_rate_{name}_n_per_mm")
    whole = springs
    if tyre:  # one after the other
        own = tyre * track**2 / 2
        whole = springs * own / (springs + own)
    return _Known(whole, springs, centre, track, height)


def to_body(force: tuple[float, float, float], roll: float) -> tuple[float, float, float]:
    """A force told in the ground's axes, in those of a body that leans.

    Args:
        force: [N]
        roll: of the body about +x [rad].
    """
    x, y, z = force
    c, s = cos(roll), sin(roll)
    return x, y * c + z * s, z * c - y * s
