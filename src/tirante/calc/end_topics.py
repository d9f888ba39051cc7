"""Topics of whole suspension ends: the cycle."""

from __future__ import annotations

from functools import lru_cache
from math import isfinite
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import BeforeValidator, Field, model_validator

from tirante.calc.registry import Working, step, topic
from tirante.core.document.end import SPRING, End
from tirante.core.document.fields import Document, Signed
from tirante.core.errors import InputError
from tirante.shipped import the_shelf
from tirante.shipped.templates import DATA

if TYPE_CHECKING:
    from tirante.core.document.template import Template
    from tirante.core.suspension.cycle import Cycle, Solved

Row = Annotated[tuple[Signed, Signed, Signed], Field(strict=False)]
MAX_ROWS = 200_000


def _listed(value: object) -> object:
    """One value where a list of one may stand."""
    return (value,) if isinstance(value, int | float) and not isinstance(value, bool) else value


Values = Annotated[tuple[Signed, ...], Field(strict=False, min_length=1, max_length=2001), BeforeValidator(_listed)]


class CycleInput(End):
    """An end with the positions to solve."""

    travel_mm: Values | None = Field(default=None, description="mm, bump positive")
    roll_deg: Values = Field(default=(0.0,), description="deg, body leaning right positive")
    steer_mm: Values | None = Field(default=None, description="mm of rack travel, left positive (0)")
    steer_deg: Values | None = Field(
        default=None, description="deg of a steering arm in place of a rack, left positive (0)"
    )
    wheels: Annotated[tuple[Row, ...], Field(strict=False, max_length=MAX_ROWS)] | None = Field(
        default=None, description="of a beam axle: [left wheel's rise, right wheel's, steer] each, instead of the lists"
    )
    rows: Annotated[tuple[Row, ...], Field(strict=False, min_length=1, max_length=MAX_ROWS)] | None = Field(
        default=None, description="[travel, roll, steer] each, instead of the lists"
    )

    @model_validator(mode="after")
    def _one_way(self) -> CycleInput:
        if sum(given is not None for given in (self.travel_mm, self.rows, self.wheels)) != 1:
            raise ValueError("give travel_mm (with roll_deg and steer_mm as wanted), rows or wheels, one of them")
        wrong, right = ("steer_mm", "steer_deg") if self.steering else ("steer_deg", "steer_mm")
        if getattr(self, wrong) is not None:
            raise ValueError(f"{wrong}: this end steers by {'an arm' if self.steering else 'a rack'}; give {right}")
        return self


def _steers(template: Template, end: End, steered: bool) -> None:
    """An end without steering is not steered.

    Raises:
        InputError: it is asked to be.
    """
    if steered and not template.steered:
        field = "steer_deg" if end.steering else "steer_mm"
        raise InputError(
            f"{field}: a {template.title.lower()} has no steering, so it would do nothing; leave it out.", code="no_effect", fields=(field,)
        )  # fmt: skip


@lru_cache(maxsize=1)
def _example() -> dict[str, Any]:
    import json

    end = json.loads((DATA / "ends" / "double-wishbone.json").read_text())
    return {**end, "travel_mm": [-60, 0, 60], "roll_deg": [0], "steer_mm": [0]}


def _number(value: float) -> float | None:
    return float(value) if isfinite(value) else None


def as_rows(found: Cycle) -> list[dict[str, Any]]:
    """A dict a position: inputs, status, measures; the right wheel and the links inside."""
    out = []
    for i in range(len(found.travel_mm)):
        out.append(
            {
                "travel_mm": _number(found.travel_mm[i]), "roll_deg": _number(found.roll_deg[i]), found.steer_name: float(found.steer[i]),
                "status": found.status[i], "residual_mm": _number(found.residual_mm[i]),
                **{name: _number(column[i]) for name, column in found.columns.items()},
                "right": {name: _number(column[i]) for name, column in found.right.items()},
                "links": {
                    name: {key: _number(column[i]) for key, column in columns.items()} for name, columns in found.links.items()
                },
                **{
                    kind: {name: {key: _number(c[i]) for key, c in columns.items()} for name, columns in parts.items()}
                    for kind, parts in (
                        ("balls", found.balls), ("shafts", found.shafts), ("bars", found.bars), ("clearances", found.clearances),
                        ("limits", found.limits),
                    ) if parts
                },
            }
        )  # fmt: skip
    return out


@topic(
    "cycle",
    CycleInput,
    outputs={"positions": "each with its inputs, status, measures, right wheel, links and residual_mm"},
    example=_example(),
    sources=("iso-8855", "wheel-path", "mechanism"),
)
def run_cycle(data: CycleInput) -> tuple[dict[str, Any], Working]:
    """A suspension end moved through travel, roll and steer: every measure at every position."""
    # numpy comes in here, so that the small topics do not wait for it
    import numpy as np

    from tirante.core.suspension.cycle import by_wheel, cycle, positions

    end = End.model_construct(**{name: getattr(data, name) for name in End.model_fields})
    template = the_shelf().template_of(end)
    if data.rows is not None:
        rows = np.array(data.rows, dtype=float).reshape(-1, 3).T
    elif data.wheels is not None:
        if template.axle != "beam" or not template.rises:
            raise InputError(
                "Only a beam axle's wheels rise by themselves; give travel_mm or rows.", fields=("wheels",)
            )
        wheels = np.array(data.wheels, dtype=float).reshape(-1, 3).T
        rows = np.vstack([by_wheel(template, end, wheels), wheels[2]])
    else:
        assert data.travel_mm is not None
        rows = positions(data.travel_mm, data.roll_deg, data.steer_mm or data.steer_deg or (0.0,))
    _steers(template, end, bool(rows[2].any()))
    found = cycle(template, end, rows)
    steps = [
        step("positions", "all constraints held: |d| = L, joints shared, drivers at their values", "mechanism",
             positions=rows.shape[1], residual_mm=_number(found.residual_mm.max())),
        step("angles", "camber −asin s_z, toe atan2(s_x, σ s_y), caster atan2(−k_x, k_z), kingpin atan2(−σ k_y, k_z)", "iso-8855"),
        step("paths", "roll centre y_c (dy_c/dt)/(dz_c/dt); anti = 100 · share · slope · wheelbase / CG height", "wheel-path"),
    ]  # fmt: skip
    return {"positions": as_rows(found)}, steps


_Newton = Annotated[float, Field(ge=-1e9, le=1e9, description="N")]
_Moment = Annotated[float, Field(ge=-1e12, le=1e12, description="N·mm")]
Force3 = Annotated[tuple[_Newton, _Newton, _Newton], Field(strict=False)]
Moment3 = Annotated[tuple[_Moment, _Moment, _Moment], Field(strict=False)]
Place = Annotated[str, Field(max_length=60)]


class PushIn(Document):
    """A force at a place."""

    at: Place = Field(
        description="contact_left, wheel_centre_right …, or a point's name (with _left or _right on a beam)"
    )
    f_n: Force3
    on: Place | None = Field(default=None, description="body; null: the wheel's, or the one that the point belongs to")


class TurnIn(Document):
    """A moment on a body."""

    on: Place
    m_nmm: Moment3


class LoadCaseIn(Document):
    """What acts at once."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    forces: Annotated[tuple[PushIn, ...], Field(strict=False, max_length=100)] = ()
    moments: Annotated[tuple[TurnIn, ...], Field(strict=False, max_length=100)] = ()


class AtPosition(End):
    """An end at one position."""

    travel_mm: Signed | Values = 0.0
    roll_deg: Signed | Values = 0.0
    steer_mm: Signed | Values | None = None
    steer_deg: Signed | Values | None = None
    rows: Annotated[tuple[Row, ...], Field(strict=False, min_length=1, max_length=1)] | None = Field(
        default=None, description="[[travel, roll, steer]] instead"
    )

    @property
    def position(self) -> tuple[float, float, float]:
        """Travel, roll and steer.

        Raises:
            InputError: more than one position is given.
        """
        if self.rows is not None:
            return self.rows[0]
        found = []
        for name, given in (("travel_mm", self.travel_mm), ("roll_deg", self.roll_deg),
                            ("steer_deg" if self.steering else "steer_mm", self.steer_deg if self.steering else self.steer_mm)):  # fmt: skip
            values = given if isinstance(given, tuple) else (given if given is not None else 0.0,)
            if len(values) != 1:
                raise InputError(f"{name}: one position at a time; give one value.", code="too_many", fields=(name,))
            found.append(float(values[0]))
        return found[0], found[1], found[2]

    @property
    def as_end(self) -> End:
        """The end alone."""
        return End.model_construct(**{name: getattr(self, name) for name in End.model_fields})


class LoadsInput(AtPosition):
    """An end at one position, with what acts on it."""

    wheel_travel_mm: Annotated[tuple[Signed, Signed], Field(strict=False)] | None = Field(
        default=None, description="rise of the left and of the right wheel, instead of travel_mm and roll_deg"
    )
    met: dict[Literal["left", "right"], Literal["stop", "strap"]] = Field(
        default={},
        description="by side, a bump stop or droop strap that is met: it takes what the spring does not, pushing or pulling only",
    )
    spring_n: dict[Annotated[str, Field(max_length=100)], Signed] = Field(
        default={},
        description="of springs beside what is met (“spring”, “spring, left” …) the compression that each carries by itself",
    )
    cases: Annotated[tuple[LoadCaseIn, ...], Field(strict=False, min_length=1, max_length=200)]


def _case_example() -> dict[str, Any]:
    end = {key: value for key, value in _example().items() if key not in ("roll_deg", "steer_mm")}
    corner = {"name": "corner", "forces": [{"at": "contact_left", "f_n": [0, -2000, 3000]}]}
    return {**end, "travel_mm": 0, "cases": [corner]}


def _solved_at(data: AtPosition) -> Solved:
    import numpy as np

    from tirante.core.suspension.cycle import solved_cycle

    end = data.as_end
    template = the_shelf().template_of(end)
    _steers(template, end, bool(data.position[2]))
    return solved_cycle(template, end, np.array(data.position).reshape(3, 1))


def _spring_name(name: str) -> str:
    """A spring as the answer has it: the one on the damper by its side alone, others by their names."""
    stem, _, side = name.partition(", ")
    return (side or "left") if stem == SPRING else name


@topic(
    "freedom",
    End,
    outputs={
        "whole": "it moves as a suspension does, and nothing else of it moves", "beside": "ways to move beside its travel",
        "free": "ways that its joints leave, the steering held", "motions": "those beside its travel in words; of a whole one its travel",
        "twice": "joints that hold a motion which is held already", "unjoined": "bodies that no joint holds", "says": "it in a sentence or two",
    },
    example={key: value for key, value in _example().items() if key not in ("travel_mm", "roll_deg", "steer_mm")},
    sources=("mechanism",),
)  # fmt: skip
def run_freedom(data: End) -> tuple[dict[str, Any], Working]:
    """What of a suspension end moves beside its travel, and what holds one motion twice; a kind of one's own stands in `kind`."""
    from tirante.core.suspension.as_built import as_built

    found = as_built(the_shelf().template_of(data), data)
    steps = [
        step("freedom", "6 a body, less the rank of what holds it", "mechanism", bodies=len(found.assembled.mechanism.bodies), free=found.free),
    ]  # fmt: skip
    answer = {
        "whole": found.whole, "beside": found.beside, "free": found.free, "motions": [motion.what for motion in found.motions], "twice": list(found.twice),
        "unjoined": list(found.unjoined), "says": found.says,
    }  # fmt: skip
    return answer, steps


@topic(
    "loads",
    LoadsInput,
    outputs={"cases": "each with axial_n by link (tension positive), reactions_n and moments_nmm by joint (what the joint puts on its "
                      "first body), pivots_n by point of hinges, spring_n (left; compression positive), springs_n, stops_n (compression positive), straps_n (tension positive), holds, bar_nmm, "
                      "bind_n, landed_on_n by link that a stop lands on (what that puts on its two ends, beside its own pull), residual; or fault"},
    example=_case_example(),
    sources=("virtual-work",),
)  # fmt: skip
def run_loads(data: LoadsInput) -> tuple[dict[str, Any], Working]:
    """Forces through a suspension end at one position: links, joints and springs in equilibrium with every case."""
    from tirante.core.suspension.held import Carrier
    from tirante.core.suspension.statics import Case, Push, forces

    if data.wheel_travel_mm is not None:
        from tirante.core.loads.travel import wheels_at

        ride = _solved_at(data.model_copy(update={"travel_mm": 0.0, "roll_deg": 0.0, "rows": None}))
        travel, roll = wheels_at(ride, *data.wheel_travel_mm)
        data = data.model_copy(update={"travel_mm": travel, "roll_deg": roll})
    done = _solved_at(data)
    cases = [
        Case(name=case.name, pushes=(
            *(Push(at=push.at, force=push.f_n, on=push.on) for push in case.forces),
            *(Push(on=turn.on, moment=turn.m_nmm) for turn in case.moments),
        )) for case in data.cases
    ]  # fmt: skip
    out: list[dict[str, Any]] = []
    met: dict[str, Carrier] = dict(data.met.items())
    for found in forces(done, 0, cases, met=met, spring_n=data.spring_n):
        if found.fault:
            out.append({"name": found.name, "fault": {"code": found.fault.code, "message": found.fault.message}})
            continue
        springs = {_spring_name(name): value for name, value in found.springs.items()}
        out.append({
            "name": found.name, "axial_n": found.axial,
            "reactions_n": {name: joint.force.tolist() for name, joint in found.joints.items()},
            "moments_nmm": {name: joint.moment.tolist() for name, joint in found.joints.items()},
            "acts_on": {name: joint.body for name, joint in found.joints.items()},
            "pivots_n": {name: joint.force.tolist() for name, joint in found.pivots.items()},
            "spring_n": springs.get("left"), "springs_n": springs, "stops_n": found.stops, "straps_n": found.straps, "holds": found.holds, "bar_nmm": found.bars,
            "landed_on_n": {name: [one.tolist(), two.tolist()] for name, (one, two) in found.across.items()},
            "bind_n": found.bind, "residual": found.residual,
        })  # fmt: skip
    steps = [
        step("equilibrium", "Jᵀ f = w; where more holds than needed f = K J δ", "virtual-work",
             residual=max((case.get("residual", 0.0) for case in out), default=0.0)),
    ]  # fmt: skip
    return {"cases": out}, steps


def _typed(name: str) -> str:
    """A name as it comes from a keyboard: a plain hyphen for the dash of an arm's side."""
    return " ".join(name.replace("–", "-").replace(" - ", "-").lower().split())


class AdjusterIn(Document):
    """How a link's length is changed; a right/left pair by whole turns, one end by half turns."""

    kind: Literal["pair", "one_end"] = "pair"
    pitch_mm: Annotated[float, Field(gt=0, le=10)] = 1.5875
    pitch_b_mm: Annotated[float, Field(gt=0, le=10)] | None = Field(
        default=None, description="of a pair's other end; null: the same"
    )

    @property
    def mm(self) -> float:
        """Longer by, for a turn or a half turn."""
        return self.pitch_mm / 2 if self.kind == "one_end" else self.pitch_mm + (self.pitch_b_mm or self.pitch_mm)


class TurnsInput(AtPosition):
    """An end at one position, and which of its links can be turned."""

    adjusters: dict[Annotated[str, Field(max_length=80)], AdjusterIn] | None = Field(
        default=None,
        description="by link as `cycle` names it, or side of a hinged arm (pivot-outer); null: each a pair of 3/4-16 (3.175 mm a turn)",
    )


@topic(
    "turns",
    TurnsInput,
    outputs={"turns": "by adjuster: change of each measure for one turn longer (pair) or half a turn (one end); the right wheel's inside",
             "per_mm": "by adjuster: slope of each measure", "adjusters": "kind, unit and mm of each"},
    example={key: value for key, value in _case_example().items() if key != "cases"},
    sources=("mechanism",),
)  # fmt: skip
def run_turns(data: TurnsInput) -> tuple[dict[str, Any], Working]:
    """What one turn, or half turn, of each adjuster does to every measure, the wheel's height held."""
    from tirante.core.suspension.turns import Adjuster, turn_sheet

    done = _solved_at(data)
    from tirante.core.suspension.changed import arm_sides

    assembled = done.left.assembled
    names = [*(link.name for link in assembled.links), *arm_sides(assembled)]
    given = data.adjusters if data.adjusters is not None else {name: AdjusterIn() for name in names}
    known = {_typed(name): name for name in names}
    lacking = [name for name in given if _typed(name) not in known]
    if lacking:
        raise InputError(
            f"There is no adjuster “{lacking[0]}” here. There are: {', '.join(known)}.", code="unknown_link",
            fields=tuple(f"adjusters.{name}" for name in lacking), value=lacking[0],
        )  # fmt: skip
    sheet = turn_sheet(
        done, [Adjuster(link=known[_typed(name)], kind=one.kind, mm=one.mm) for name, one in given.items()]
    )
    # each under the name that it was given by
    called = list(zip(given, sheet, strict=True))
    out = {
        "turns": {name: {**one.change, "right": one.right} for name, one in called},
        "per_mm": {name: one.per_mm for name, one in called},
        "adjusters": {name: {"kind": one.adjuster.kind, "unit": one.adjuster.unit, "mm": one.adjuster.mm} for name, one in called},
    }  # fmt: skip
    return out, [
        step(
            "turns",
            "measure(L + mm of one turn) − measure(L), travel and steer held",
            "mechanism",
            adjusters=len(sheet),
        )
    ]
