"""The bolt as a clevis pin: shear and bending across ball, spacers and plates.

Not covered: clamping (a well clamped stack bends far less; not counted on), fatigue, prying.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, pi

from tirante.core.errors import InputError
from tirante.core.members.thread import COARSE, Thread, parse_thread
from tirante.core.units import KSI


@dataclass(frozen=True, slots=True, kw_only=True)
class BoltClass:
    """Strength of a bolt material by its class [MPa]."""

    name: str
    ultimate: float
    yield_strength: float
    thread_shear: float  # share of ultimate with the thread in the shear plane
    source: str


# Grade 8 is as hard as 10.9 and shears as it does with its thread in the plane (EN 1993-1-8 does not cover it: the same taken).
# Nominal values: EN 1993-1-8 Table 3.1 (ISO 898-1 classes); SAE J429 to 1 in (from memory)
BOLT_CLASSES: dict[str, BoltClass] = {
    bolt.name: bolt
    for bolt in (
        BoltClass(name="8.8", ultimate=800, yield_strength=640, thread_shear=0.6, source="en-1993-1-8"),
        BoltClass(name="10.9", ultimate=1000, yield_strength=900, thread_shear=0.5, source="en-1993-1-8"),
        BoltClass(name="12.9", ultimate=1200, yield_strength=1080, thread_shear=0.5, source="en-1993-1-8"),
        BoltClass(name="grade 5", ultimate=120 * KSI, yield_strength=92 * KSI, thread_shear=0.6, source="sae-j429"),
        BoltClass(name="grade 8", ultimate=150 * KSI, yield_strength=130 * KSI, thread_shear=0.5, source="sae-j429"),
    )
}
SHEAR_IN_SHANK = 0.6


def bolt_class(name: str, diameter: float) -> BoltClass:
    """Look up "8.8", "10.9", "12.9", "grade 5" or "grade 8" (also "5", "8", "Grade 8").

    Raises:
        InputError: unknown; or grade 5 over 1 in, whose strength J429 lowers.
    """
    key = name.strip().lower()
    key = f"grade {key}" if key in {"5", "8"} else key
    if key not in BOLT_CLASSES:
        raise InputError(
            f"“{name[:20]}” is not a bolt class known here. Known: {', '.join(BOLT_CLASSES)}.",
            code="unknown_class", fields=("class",), value=name[:20],
        )  # fmt: skip
    if key == "grade 5" and diameter > 25.4 + 1e-9:
        # J429: 105 ksi over 1 in to 1 1/2 in
        return BoltClass(name=key, ultimate=105 * KSI, yield_strength=81 * KSI, thread_shear=0.6, source="sae-j429")
    return BOLT_CLASSES[key]


@dataclass(frozen=True, slots=True, kw_only=True)
class PinStack:
    """What stands along the pin on one side of the eye, from its centre outward [mm]."""

    ball_width: float
    gap: float  # spacer or shim between ball and plate, each side
    plate: float  # one plate
    planes: int  # 2: clevis, 1: one plate


def pin_shear(
    diameter: float, material: BoltClass, planes: int, thread: Thread | None = None, thread_in_plane: bool = False
) -> float:
    """Nominal shear strength of all planes together [N].

    0.6 of ultimate on the shank; with the thread in the plane its stress area counts, at 0.5 for 10.9 and 12.9.

    Args:
        diameter: of the bolt’s shank [mm].
        material: its class.
        planes: that are sheared.
        thread: of the bolt; None where it has none.
        thread_in_plane: whether a plane goes through it.

    Raises:
        InputError: thread in the plane but no thread given.

    Source:
        EN 1993-1-8 Table 3.4 without its partial factor (from memory).
    """
    if not thread_in_plane:
        return planes * SHEAR_IN_SHANK * material.ultimate * pi * diameter**2 / 4
    if thread is None:
        raise InputError(
            "With the thread in the shear plane its designation is needed.", code="missing", fields=("designation",)
        )
    return planes * material.thread_shear * material.ultimate * thread.stress_area


SHEAR_OF_YIELD = 0.577  # von Mises


def plain_pin_shear(diameter: float, yield_strength: float) -> float:
    """Shear strength of a plain pin in double shear, by its yield [N].

    Args:
        diameter: [mm]
        yield_strength: [MPa]

    Source:
        Shigley, distortion energy (from memory).
    """
    return 2 * SHEAR_OF_YIELD * yield_strength * pi * diameter**2 / 4


TORQUE = 0.2  # T = K d F of plain steel; common practice, no source
CLAMP = 0.75  # of the proof load; common practice, no source
PROOF_OF_YIELD = 0.9  # about, of all classes here (ISO 898-1, SAE J429), from memory


def tightening(diameter: float, material: BoltClass, thread: Thread) -> tuple[float, float]:
    """Clamp of the ball between the plates, and the torque that gives it [N, N·m].

    Args:
        diameter: of the bolt [mm].
        material: its class.
        thread: of the bolt.
    """
    clamp = CLAMP * PROOF_OF_YIELD * material.yield_strength * thread.stress_area
    return clamp, TORQUE * diameter * clamp / 1000


def tightening_metric(diameter: float, material: BoltClass, field: str) -> tuple[float, float]:
    """The same of a coarse metric thread that is known by its diameter [N, N·m].

    Args:
        diameter: of the bolt [mm].
        material: its class.
        field: that the diameter is given in.

    Raises:
        InputError: there is no such coarse thread.

    Source:
        ISO 261, coarse threads.
    """
    if abs(diameter - round(diameter)) > 1e-6 or round(diameter) not in COARSE:
        known = ", ".join(str(one) for one in sorted(COARSE))
        raise InputError(f"There is no coarse metric thread of {diameter:g} mm. Give one of {known}.", code="unknown_thread", fields=(field,), value=diameter)  # fmt: skip
    return tightening(diameter, material, parse_thread(f"M{diameter:g}x{COARSE[round(diameter)]:g}"))


def tightening_told(diameter: float, grade: str) -> str:
    """Torque and clamp of a bolt that is known by its diameter and class, in words; of no usual thread: that none is told.

    Args:
        diameter: of the bolt [mm].
        grade: its class.

    Source:
        ISO 261, coarse threads: a bolt ⌀10 is taken as M10×1.5.
    """
    pitch = _coarse(diameter)
    if pitch is None:
        return "no torque told: its thread is not known"
    clamp, torque = _usual(diameter, grade, pitch)
    return f"{torque:.0f} N·m clamps with {clamp / 1000:.0f} kN, thread M{diameter:g}×{pitch:g}"


def tightening_known(diameter: float, grade: str) -> float | None:
    """The torque of the same bolt [N·m]; None where its thread is not known.

    Args:
        diameter: of the bolt [mm].
        grade: its class.
    """
    pitch = _coarse(diameter)
    return None if pitch is None else _usual(diameter, grade, pitch)[1]


def _coarse(diameter: float) -> float | None:
    """Pitch of the coarse metric thread of a diameter [mm]."""
    return COARSE.get(round(diameter)) if abs(diameter - round(diameter)) < 1e-6 else None


def _usual(diameter: float, grade: str, pitch: float) -> tuple[float, float]:
    return tightening(diameter, bolt_class(grade, diameter), parse_thread(f"M{diameter:g}x{pitch:g}"))


AT_THE_THREAD = 0.78  # stress area over the shank's; ISO 898-1, M8 to M24, from memory
TENSION = 0.9  # of ultimate on the stress area; EN 1993-1-8 Table 3.4, from memory
TENSION_BESIDE_SHEAR = 1.4


def sheared_and_pulled(diameter: float, material: BoltClass, shear: float, pull: float) -> float:
    """How far a bolt is used: sheared and pulled together, or pulled alone.

    Args:
        diameter: of its shank [mm].
        material: its class.
        shear: [N]
        pull: [N]

    Source:
        EN 1993-1-8 Table 3.4, without its partial factor (from memory).
    """
    area = pi * diameter**2 / 4
    sheared = shear / (SHEAR_IN_SHANK * material.ultimate * area)
    pulled = pull / (TENSION * material.ultimate * AT_THE_THREAD * area)
    return max(pulled, sheared + pulled / TENSION_BESIDE_SHEAR)


def order_length(grip: float, diameter: float, pitch: float, metric: bool) -> float:
    """Least length of a bolt to order, under its head [mm]: grip, two washers, a locking nut and two threads, up to the next that is made.

    Args:
        grip: what is clamped [mm].
        diameter: of the bolt [mm].
        pitch: of its thread [mm].
        metric: whether lengths step by 5 mm, or by 1/4 in.
    """
    least = grip + 2 * max(1.6, 0.15 * diameter) + diameter + 2 * pitch
    step = 5.0 if metric else 6.35
    return ceil(least / step - 1e-9) * step


def pin_bending_moment(stack: PinStack, force: float) -> float:
    """Bending moment at the pin's worst section [N·mm].

    Double shear: F/2 (plate/2 + gap + ball/4), reactions at mid-plate and the ball's load spread over its width.
    Single shear: the whole force on one side, F (plate/2 + gap + ball/2).

    Source:
        EN 1993-1-8 Table 3.10 layout (from memory); single shear derived, both ends of the lever at mid-thickness.
    """
    if stack.planes == 2:
        return force / 2 * (stack.plate / 2 + stack.gap + stack.ball_width / 4)
    return force * (stack.plate / 2 + stack.gap + stack.ball_width / 2)


def pin_bending_stress(diameter: float, moment: float) -> float:
    """Elastic bending stress in a round pin [MPa]."""
    return 32 * moment / (pi * diameter**3)
