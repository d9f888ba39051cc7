"""Size it: every tube × grade × joint × insert that fits together, judged against all checks; the least mass or cost wins.

Candidates are put in order of mass (or cost) and judged until two pass: the winner and the runner-up. That is the same answer as
judging all of them, since a heavier one cannot win. When none passes, all are judged and the nearest is named.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from math import floor, inf
from typing import Any, Literal

from tirante.core.checks.kinds import kind_of
from tirante.core.checks.result import CheckResult, weakest_first
from tirante.core.document.catalogue import (
    SLIP_FIT_MM,
    Catalogue,
    Grade,
    Insert,
    Joint,
    Nut,
    Tube,
    comes_in_hand,
    grade_comes_as,
    insert_fits_tube,
    same_thread,
)
from tirante.core.document.parts.common import RodEndEnd
from tirante.core.document.parts.link import FixedEnd, Link
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.loads.case_seen import CaseSeen
from tirante.core.members.link_stack import LinkStack
from tirante.core.members.thread import parse_thread
from tirante.core.parts.kind import Refit
from tirante.core.parts.link.assembly import (
    Assembly,
    Everyday,
    Mass,
    PlainEnd,
    ThreadedEnd,
    assemble,
    mass_of,
    plain_end,
    stack_of,
    tappable,
    tapped_insert,
)
from tirante.core.parts.link.checks import link_checks, tube_checks
from tirante.core.parts.link.flat import flat_fits
from tirante.core.parts.link.life import life_checks
from tirante.core.parts.link.plug import plug_fits
from tirante.core.parts.link.prudent import Prudent
from tirante.core.parts.link.sleeve import sleeve_fits

Refitter = Callable[[Assembly], "list[Refit]"]  # the brackets that hold a link, made to suit it
Objective = Literal["mass", "cost"]


SAME_COST = 0.005  # of the shop's money


SAME_MASS = 1e-4  # kg; less apart than this is the same


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """A set of parts that fit together."""

    assembly: Assembly
    mass: float  # [kg] link without bolts and tabs
    cost: float | None = None  # in the shop's money, alike; None where a price is missing

    @property
    def link(self) -> Link:
        """The link with these parts chosen."""
        assembly = self.assembly
        update: dict[str, Any] = {"tube": assembly.tube.key, "grade": assembly.grade.key}
        for name, parts in zip(("end_a", "end_b"), assembly.ends, strict=True):
            if isinstance(parts, ThreadedEnd):
                insert = None if parts.tapped else parts.insert.key
                keys = {"joint": parts.joint.key, "insert": insert, "nut": parts.nut.key}
                update[name] = getattr(assembly.link, name).model_copy(update=keys)
        return assembly.link.model_copy(update=update)

    def by(self, objective: Objective) -> float:
        """What is to be least."""
        return self.mass if objective == "mass" else self.cost if self.cost is not None else inf


@dataclass(frozen=True, slots=True, kw_only=True)
class Judged:
    """A candidate with its checks."""

    candidate: Candidate
    checks: tuple[CheckResult, ...]  # the link's and those of the brackets that hold it, weakest first
    refits: tuple[Refit, ...] = ()
    fault: str | None = None  # why a bracket cannot hold it

    @property
    def worst(self) -> CheckResult:
        """The governing check."""
        return self.checks[0]

    @property
    def passed(self) -> bool:
        """Whether all checks hold."""
        return self.fault is None and all(check.passed for check in self.checks)

    @property
    def utilisation(self) -> float:
        """Of the governing check."""
        return self.worst.utilisation or 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Sizing:
    """The answer."""

    considered: int
    judged: int
    winner: Judged | None
    runner_up: Judged | None
    nearest: Judged | None  # when nothing passes
    advice: str


class Hardware:
    """Joints, inserts and nuts that go together in the hands wanted, found once for all tubes."""

    def __init__(self, hands: Sequence[str], catalogue: Catalogue) -> None:
        def made(row: Joint | Insert | Nut) -> bool:
            return all(comes_in_hand(row.hands, hand) for hand in hands)

        inserts = [insert for insert in catalogue.inserts if made(insert)]
        # by what they fit into, so that a tube asks only those near its bore
        self._inserts: dict[str, list[Insert]] = {}
        for insert in sorted(inserts, key=lambda row: row.fit_diameter_mm):
            self._inserts.setdefault(insert.family, []).append(insert)
        joints = [joint for joint in catalogue.joints if made(joint)]
        nuts = [nut for nut in catalogue.nuts if made(nut)]
        self._sets: dict[str, list[tuple[Joint, Nut]]] = {}
        for designation in {insert.designation for insert in inserts}:
            self._sets[designation] = [
                (joint, nut) for joint in joints if same_thread(joint.designation, designation)
                for nut in nuts if same_thread(nut.designation, joint.designation)
            ]  # fmt: skip
        self._screwed = [
            (joint, nut) for joint in joints for nut in nuts if same_thread(nut.designation, joint.designation)
        ]

    def tapped(self, tube: Tube, grade: Grade) -> Iterator[tuple[Joint, Insert, Nut]]:
        """All sets whose thread can be cut into the tube itself, which stands for the insert."""
        for joint, nut in self._screwed:
            if tappable(tube, parse_thread(joint.designation)):
                yield joint, tapped_insert(joint, tube, grade, 1.0), nut

    def fitting(self, tube: Tube, grade: Grade) -> Iterator[tuple[Joint, Insert, Nut]]:
        """All sets whose insert goes into the tube and welds to its grade."""
        own = self._inserts.get(grade.family, [])
        start = bisect_left(own, tube.bore_mm - SLIP_FIT_MM - 1e-6, key=lambda row: row.fit_diameter_mm)
        for insert in own[start:]:
            if insert.fit_diameter_mm > tube.bore_mm + 1e-6:
                break
            if insert_fits_tube(insert, tube, grade):
                for joint, nut in self._sets[insert.designation]:
                    yield joint, insert, nut


def hardware(
    tube: Tube, grade: Grade, hands: Sequence[str], catalogue: Catalogue
) -> Iterator[tuple[Joint, Insert, Nut]]:
    """Joint, insert and nut that fit each other, the tube and the hands wanted.

    Args:
        tube: the stock of its tubes.
        grade: their metal.
        hands: of the threaded ends, “RH” or “LH”.
        catalogue: to choose from.
    """
    return Hardware(hands, catalogue).fitting(tube, grade)


def candidates(
    link: Link, cases: tuple[CaseSeen, ...], settings: Settings, catalogue: Catalogue, objective: Objective = "mass",
    prudent: Prudent | None = None, everyday: Everyday | None = None,
) -> list[Candidate]:  # fmt: skip
    """Everything that fits together for this link, lightest (or cheapest) first; parts too long for it are left out.

    Args:
        link: its hands, length and thread school count.
        cases: what it sees.
        settings: factors and schools.
        catalogue: the shelf to choose from.
        objective: what is to be least.
        prudent: what may be returned; None: all that fits.
        everyday: what the link goes through day by day; None: not known.
    """
    prudent = prudent or Prudent()
    metals = {end.family for end in (link.end_a, link.end_b) if not isinstance(end, RodEndEnd)}
    hands = [end.hand for end in (link.end_a, link.end_b) if isinstance(end, RodEndEnd)]
    found: list[Candidate] = []
    shelf = Hardware(hands, catalogue)
    fitting = shelf.tapped if _tapped(link) else shelf.fitting
    stacks: dict[tuple[str, ...], LinkStack | None] = {}  # no tube changes how the ends stack up
    for tube in catalogue.tubes:
        for grade in catalogue.grades:
            if not grade_comes_as(grade, tube) or metals - {grade.family}:
                continue
            sets: list[tuple[Joint, Insert, Nut] | None] = list(fitting(tube, grade)) if hands else [None]
            for parts in sets:
                if not prudent.takes(tube, link.between.mm, parts[0].designation if parts else None, grade.family):
                    continue
                candidate = _candidate(link, cases, tube, grade, parts, settings, stacks, everyday)
                if candidate:
                    found.append(candidate)
    found.sort(
        key=lambda c: (c.by(objective), c.assembly.tube.key, c.assembly.grade.key, *(e.joint.key for e in c.assembly.threaded),
                       *(e.insert.key for e in c.assembly.threaded), *(e.nut.key for e in c.assembly.threaded))
    )  # fmt: skip
    return found


def _candidate(
    link: Link, cases: tuple[CaseSeen, ...], tube: Tube, grade: Grade, parts: tuple[Joint, Insert, Nut] | None, settings: Settings,
    stacks: dict[tuple[str, ...], LinkStack | None], everyday: Everyday | None,
) -> Candidate | None:  # fmt: skip
    ends: list[ThreadedEnd | PlainEnd] = []
    for which, end in enumerate((link.end_a, link.end_b)):
        if isinstance(end, RodEndEnd) and parts:
            joint, insert, nut = parts
            tapped = end.tapped_mm is not None
            if end.tapped_mm is not None:
                insert = tapped_insert(joint, tube, grade, end.tapped_mm)
            ends.append(ThreadedEnd(joint=joint, insert=insert, nut=nut, hand=end.hand, tapped=tapped))
        elif not isinstance(end, RodEndEnd):
            made = flat_fits(end.flat, tube, "") if end.flat else plug_fits(end.plug, tube, "") if end.plug else []
            if made or sleeve_fits(link, end, tube, ("end_a", "end_b")[which]):
                return None
            ends.append(plain_end(link, which, tube))
    # the link itself is made when the candidate is judged: most never are
    assembly = Assembly(link=link, tube=tube, grade=grade, ends=(ends[0], ends[1]), cases=cases, everyday=everyday)
    key = tuple(row.key for row in parts or ())
    # the bend's radius is so many tubes, a tube's own thread is of its metal, and a notch is as deep as its tube is wide
    if link.bent or _tapped(link) or any(isinstance(end, FixedEnd) and end.sleeve for end in (link.end_a, link.end_b)):
        key += (tube.key, grade.key)
    if key not in stacks:
        try:
            stacks[key] = stack_of(assembly, settings)
        except InputError:
            stacks[key] = None
    stack = stacks[key]
    if stack is None:
        return None
    mass = mass_of(assembly, stack)
    return Candidate(assembly=assembly, mass=mass.total, cost=_cost(assembly, mass))


def _tapped(link: Link) -> bool:
    return any(isinstance(end, RodEndEnd) and end.tapped_mm is not None for end in (link.end_a, link.end_b))


def _bought(end: ThreadedEnd) -> list[Joint | Insert | Nut]:
    return [end.joint, end.nut] if end.tapped else [end.joint, end.insert, end.nut]


def _cost(assembly: Assembly, mass: Mass) -> float | None:
    """Tube by the kilogram of its grade, the rest by the piece; None where a price is missing."""
    prices = [assembly.grade.price]
    for end in assembly.threaded:
        prices += [row.price for row in _bought(end)]
    if any(price is None for price in prices):
        return None
    return (assembly.grade.price or 0.0) * mass.tube + sum(price or 0.0 for price in prices[1:])


def _refuse_unpriced(pool: list[Candidate]) -> None:
    """Least cost is not guessed: every part that comes into question must have its price.

    Raises:
        InputError: naming the first rows without one.
    """
    missing: dict[str, None] = {}
    for candidate in pool:
        if candidate.cost is None:
            rows = [
                candidate.assembly.grade,
                *(row for end in candidate.assembly.threaded for row in _bought(end)),
            ]
            missing |= {row.label: None for row in rows if row.price is None}
    if missing:
        names = list(missing)
        more = f" and {len(names) - 3} more" if len(names) > 3 else ""
        raise InputError(
            f"Least cost needs a price for every part that comes into question; there is none for {', '.join(names[:3])}{more}. "
            "Give prices in the catalogue, or size for least mass.",
            code="no_price", fields=("objective",),
        )  # fmt: skip


def judge(candidate: Candidate, settings: Settings, refit: Refitter | None = None) -> Judged:
    """All checks of a candidate, and of the brackets that hold it, each made to suit: least plate, then the lowest bolt class that holds.

    Args:
        candidate: a set of parts.
        settings: factors and schools.
        refit: makes the brackets; None where none holds it.
    """
    assembly = candidate.assembly
    own = tuple(link_checks(assembly, stack_of(assembly, settings), settings))
    if refit is None or not all(check.passed for check in own):
        return Judged(candidate=candidate, checks=own)
    refits = refit(assembly)
    fault = next((one.fault for one in refits if one.fault), None)
    checks = weakest_first([*own, *(check for one in refits for check in one.checks)])
    return Judged(candidate=candidate, checks=checks, refits=tuple(refits), fault=fault)


def size(
    link: Link, cases: tuple[CaseSeen, ...], settings: Settings, catalogue: Catalogue, objective: Objective = "mass",
    refit: Refitter | None = None, prudent: Prudent | None = None, everyday: Everyday | None = None,
) -> Sizing:  # fmt: skip
    """The lightest (or cheapest) set of parts that passes every check, and the next one.

    Args:
        link: its hands, length and thread school count.
        cases: what it sees.
        settings: factors and schools.
        catalogue: the shelf to choose from.
        objective: what is to be least.
        refit: makes the brackets that hold it; None where none does.
        prudent: what may be returned; None: all that fits.
        everyday: what it goes through day by day; None: not known, and its life is not judged.

    Raises:
        InputError: no load is entered, so nothing can be judged; for least cost, a price is missing.
    """
    if len({end.tapped_mm is None for end in (link.end_a, link.end_b) if isinstance(end, RodEndEnd)}) > 1:
        raise InputError(
            "One end is tapped and the other has an insert: a bore small enough to be tapped takes no insert of that thread. "
            "Tap both ends, or put inserts in both.",
            code="tapped", fields=("end_a.tapped_mm" if getattr(link.end_a, "tapped_mm", None) is not None else "end_b.tapped_mm",),
        )  # fmt: skip
    if not any(case.axial_n or case.strike_n or case.side_n for case in cases):
        raise InputError(
            "No load is entered. Say what the link sees (pull, push, strike or side force), then size it.",
            code="missing", fields=("cases",),
        )  # fmt: skip
    prudent = prudent or Prudent()
    pool = candidates(link, cases, settings, catalogue, objective, prudent, everyday)
    same = SAME_MASS if objective == "mass" else SAME_COST
    if objective == "cost":
        _refuse_unpriced(pool)
    passed: list[Judged] = []
    nearest: Judged | None = None
    count = 0
    screen = TubeScreen(settings)
    for candidate in pool:
        count += 1
        at_least = screen.utilisation(candidate.assembly)
        if at_least <= 1.0:
            at_least = max((c.utilisation or 0.0 for c in life_checks(candidate.assembly, settings)), default=at_least)
        # what fails by its tube, or does not last, cannot win; one that fails by more than the nearest cannot be nearer
        if at_least > 1.0 and (passed or (nearest is not None and at_least >= nearest.utilisation)):
            continue
        judged = judge(candidate, settings, refit)
        if judged.passed:
            passed.append(judged)
            if len(passed) >= 2 and candidate.by(objective) > passed[1].candidate.by(objective) + same:
                break
        elif not passed and (nearest is None or judged.utilisation < nearest.utilisation):
            nearest = judged
    # of parts that weigh the same, the ones with more in hand
    passed.sort(
        key=lambda j: (
            round(j.candidate.by(objective) / same),
            j.utilisation,
            sum(c.utilisation or 0.0 for c in j.checks),
        )
    )
    winner = passed[0] if passed else None
    runner_up = passed[1] if len(passed) > 1 else None
    if winner:
        advice = _lost_by(winner, runner_up, objective)
        nearest = None
    elif nearest is None:
        advice = (
            "Nothing in the catalogue fits together at this length and these hands. Lengthen the link, use one "
            "adjustable end, or add parts to the catalogue."
        )
    else:
        advice = _binding(nearest, settings)
    advice = f"{advice} {prudent.told()}".strip()
    return Sizing(
        considered=len(pool), judged=count, winner=winner, runner_up=runner_up, nearest=nearest, advice=advice
    )


class TubeScreen:
    """Worst utilisation of the checks that tube and grade alone decide: a lower bound for every set of ends on them."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._known: dict[tuple[str, str], float] = {}

    def utilisation(self, assembly: Assembly) -> float:
        key = (assembly.tube.key, assembly.grade.key)
        if key not in self._known:
            found = tube_checks(assembly, self._settings)
            self._known[key] = max((check.utilisation or 0.0 for check in found), default=0.0)
        return self._known[key]


def _lost_by(winner: Judged, runner_up: Judged | None, objective: Objective) -> str:
    if runner_up is None:
        return "No other set of parts passes."
    if objective == "cost" and runner_up.candidate.by("cost") > winner.candidate.by("cost") + SAME_COST:
        dearer = runner_up.candidate.by("cost") - winner.candidate.by("cost")
        return f"The runner-up passes too and costs {dearer:.2f} more."
    extra = (runner_up.candidate.mass - winner.candidate.mass) * 1000 if objective == "mass" else 0.0
    if extra < 1:
        ours = {check.key: check.utilisation or 0.0 for check in winner.checks}
        loses = max(runner_up.checks, key=lambda check: (check.utilisation or 0.0) - ours.get(check.key, 0.0))
        return (
            f"The runner-up {'weighs' if objective == 'mass' else 'costs'} the same and has less in hand: {loses.name} "
            f"{loses.utilisation or 0.0:.2f} against {ours.get(loses.key, 0.0):.2f}."
        )
    return f"The runner-up passes too and is {extra:.0f} g heavier."


def _binding(nearest: Judged, settings: Settings) -> str:
    worst = nearest.worst
    share = bearable_share(nearest.candidate.assembly, settings)
    part = {"bolt": "a stronger or larger bolt", "tab": "another tab"}.get(
        worst.part, "a stronger part in the catalogue"
    )
    where = f" in “{worst.case}”" if worst.case else ""
    load = f"loads of {floor(share * 100)} % of those entered, " if share > 0.005 else ""
    return (
        f"Nothing passes. Nearest: {nearest.candidate.assembly.tube.label}, {nearest.candidate.assembly.grade.label}; "
        f"{worst.name} binds at {worst.utilisation:.2f}{where}. What would clear it: {load}{part}"
        + (", or a shorter link." if "shorter link" in kind_of(worst.key).cure else ".")
    )


def bearable_share(assembly: Assembly, settings: Settings) -> float:
    """Largest multiple of all entered loads that passes every check, by bisection (checks may be non-linear)."""
    low, high = 0.0, 1.0
    for _ in range(24):
        middle = (low + high) / 2
        if _passes(assembly, settings, middle):
            low = middle
        else:
            high = middle
    return low


def _passes(assembly: Assembly, settings: Settings, share: float) -> bool:
    scaled = replace(assembly, cases=tuple(case.scaled(share) for case in assembly.cases))
    try:
        return all(check.passed for check in link_checks(scaled, stack_of(scaled, settings), settings))
    except InputError:
        return False


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """The cheapest change that clears the governing check."""

    judged: Judged
    changed: tuple[str, ...]  # of: thread showing, outside diameter, wall, grade, thread, joint
    mass_change: float  # [kg] a link


COMFORT = 0.85  # what a suggested change brings the governing check under


def cheapest_change(
    link: Link,
    cases: tuple[CaseSeen, ...],
    settings: Settings,
    own: Catalogue,
    shelf: Catalogue,
    refit: Refitter | None = None,
    prudent: Prudent | None = None,
    everyday: Everyday | None = None,
) -> Change | None:
    """Fewest parts changed, then least mass, that passes all checks with the worst under 0.85; None when none does.

    Args:
        link: complete, as built.
        cases: what it sees.
        settings: factors and schools.
        own: the rows that its design holds.
        shelf: the shop's whole catalogue.
        refit: makes the brackets that hold it; None where none does.
        prudent: what may be returned; None: all that fits.
        everyday: what it goes through day by day; None: not known.
    """
    now = assemble(link, own, cases, everyday)
    if isinstance(now, list):
        return None
    mass = mass_of(now, stack_of(now, settings)).total
    centred = _centred(now, settings)
    if centred:
        return Change(judged=centred, changed=("thread showing",), mass_change=centred.candidate.mass - mass)
    pool = []
    for candidate in candidates(link, cases, settings, shelf, prudent=prudent, everyday=everyday):
        changed = _changed(now, candidate.assembly)
        if changed:
            pool.append((len(changed), candidate.mass, changed, candidate))
    pool.sort(key=lambda entry: (entry[0], entry[1]))
    for _, _, changed, candidate in pool:
        judged = judge(candidate, settings, refit)
        if judged.passed and _comfortable(judged):
            return Change(judged=judged, changed=changed, mass_change=candidate.mass - mass)
    return None


def _centred(now: Assembly, settings: Settings) -> Judged | None:
    """The same parts with the thread centred, when only the engagement fails and that clears it."""
    link = now.link
    failing = {check.key for check in link_checks(now, stack_of(now, settings), settings) if not check.passed}
    if failing != {"engagement"} or (link.school or settings.school) == "centred":
        return None
    other = replace(now, link=link.model_copy(update={"school": "centred", "showing": None}))
    stack = stack_of(other, settings)
    checks = tuple(link_checks(other, stack, settings))
    if not all(check.passed for check in checks):
        return None
    candidate = Candidate(assembly=other, mass=mass_of(other, stack).total)
    return Judged(candidate=candidate, checks=checks)


def _comfortable(judged: Judged) -> bool:
    return all(
        (check.utilisation or 0.0) <= COMFORT
        for check in judged.checks
        if kind_of(check.key).warns and not any(check in refit.checks for refit in judged.refits)
    )


def _changed(now: Assembly, other: Assembly) -> tuple[str, ...]:
    changed = []
    if abs(now.tube.od_mm - other.tube.od_mm) > 1e-6:
        changed.append("outside diameter")
    if abs(now.tube.wall_mm - other.tube.wall_mm) > 1e-6:
        changed.append("wall")
    if now.grade.key != other.grade.key:
        changed.append("grade")
    if now.threaded and other.threaded:
        one, two = now.threaded[0].joint, other.threaded[0].joint
        if not same_thread(one.designation, two.designation):
            changed.append("thread")
        elif one.key != two.key:
            changed.append("joint")
    return tuple(changed)
