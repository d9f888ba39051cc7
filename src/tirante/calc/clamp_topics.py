"""The topic of clamps round a tube."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from tirante.calc.fields import Input, Mm, Moment, Newton, NewtonOrZero
from tirante.calc.registry import Working, step, topic
from tirante.core.brackets import split_clamp as method
from tirante.core.brackets.bolt import bolt_class, tightening_metric
from tirante.core.errors import InputError


class SplitClampInput(Input):
    tube_od_mm: Mm
    thickness_mm: Mm = Field(description="mm; of the plate, along the tube")
    bolt_mm: Annotated[
        float, Field(ge=6, le=24, description="mm; a coarse metric thread that draws the halves together")
    ]
    bolt_class: str = Field(alias="class", max_length=20, description="8.8, 10.9 or 12.9")
    apart_mm: Mm = Field(description="mm; middle of such a bolt from the tube's middle")
    cap_mm: Mm = Field(description="mm; from the tube's middle to the back of the half without an ear")
    shoulder_mm: Mm = Field(description="mm; from the tube's middle to where nuts lie on the eared half")
    ear_mm: Mm = Field(description="mm; how wide the ear is at the shoulders")
    height_mm: Mm = Field(description="mm; from the tube's middle to the joint's hole")
    hole_mm: Mm = Field(description="mm; of the joint")
    off_n: Newton = Field(default=0.0, description="N; that one clamp bears straight off the tube; below 0: it presses")
    turns_nmm: Moment = Field(default=0.0, description="N mm; that turns it about the tube")
    along_n: Newton = Field(default=0.0, description="N; along the tube")
    tension_n: NewtonOrZero | None = Field(
        default=None, description="N; of each bolt; absent: as it is usually tightened"
    )
    wall_mm: Mm | None = Field(default=None, description="mm; of the tube; absent: it is not judged")


@topic(
    "split-clamp",
    SplitClampInput,
    outputs={
        "clamp_n": "of a bolt as it is usually tightened", "needed_n": "of each bolt, so that the halves neither slip nor leave the tube", "pull_n": "of the bolt that is pulled most, nothing clamped",
        "bolt_use": "how far that bolt is used", "eared_mpa": "the half with the ear, bent by the bolts' tension", "other_mpa": "the other half", "tube_mpa": "with a wall: the tube squeezed evenly",
    },
    example={"tube_od_mm": 76, "thickness_mm": 20, "bolt_mm": 10, "class": "8.8", "apart_mm": 47, "cap_mm": 62, "shoulder_mm": 40, "ear_mm": 72, "height_mm": 95,
             "hole_mm": 12.4, "off_n": 3000, "turns_nmm": 200000, "along_n": 400, "wall_mm": 5},
    sources=("roloff-clamped", "en-1993-1-8", "shigley-shaft", "timoshenko-shells"),
)  # fmt: skip
def run_split_clamp(data: SplitClampInput) -> tuple[dict[str, Any], Working]:
    """One clamp of two halves round a tube: what holds it, its bolts, its halves, the tube."""
    if data.ear_mm >= 2 * data.apart_mm:
        raise InputError("The ear is wider than its bolts stand apart: nuts have no room.", code="contradictory", fields=("ear_mm",))  # fmt: skip
    if data.wall_mm is not None and 2 * data.wall_mm > data.tube_od_mm:
        raise InputError("The wall is at most half of the tube’s diameter.", code="contradictory", fields=("wall_mm",))
    clamp = method.SplitClamp(
        tube_od=data.tube_od_mm, thickness=data.thickness_mm, bolt=data.bolt_mm, apart=data.apart_mm, cap=data.cap_mm, shoulder=data.shoulder_mm,
        ear=data.ear_mm / 2, height=data.height_mm, hole=data.hole_mm,
    )  # fmt: skip
    material = bolt_class(data.bolt_class, data.bolt_mm)
    usual, _ = tightening_metric(data.bolt_mm, material, "bolt_mm")
    on = method.OnClamp(off=data.off_n, turns=abs(data.turns_nmm), along=abs(data.along_n))
    tension = usual if data.tension_n is None else data.tension_n
    out = {
        "clamp_n": usual, "needed_n": method.clamp_needed(clamp, on), "pull_n": method.bolt_pull(clamp, on), "bolt_use": method.bolt_use(clamp, material, on),
        "eared_mpa": method.half_stress(clamp, tension, eared=True), "other_mpa": method.half_stress(clamp, tension, eared=False),
    }  # fmt: skip
    if data.wall_mm is not None:
        out["tube_mpa"] = method.tube_stress(clamp, data.wall_mm, tension)
    return out, [
        step("grip", "(F + 1.25 √((T/r)² + S²)/μ′)/4, or F/2; μ′ μ/√(1 + μ²), μ 0.2", "roloff-clamped", needed_n=out["needed_n"]),
        step("bolts", "F/2 + T/2a", "en-1993-1-8", pull_n=out["pull_n"], use=out["bolt_use"]),
        step("halves", "6 N (a − x)/(t h²), the worst between crown and split", "shigley-shaft", tension_n=tension, eared_mpa=out["eared_mpa"], other_mpa=out["other_mpa"]),
        *([step("tube", "p r/w (1 − e^(−βb) cos βb) and 6/w² · p/2β² e^(−βb) sin βb, by von Mises", "timoshenko-shells", stress_mpa=out["tube_mpa"])] if data.wall_mm is not None else []),
    ]  # fmt: skip
