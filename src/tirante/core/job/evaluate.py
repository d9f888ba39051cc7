"""Everything worked out of a design, in order: assembly → stack → checks → tab → jig → drawings → cut list.

The one place that knows the order of stages. Results carry units in their names, ready for any client. Link results
are kept in memory by their inputs and the engine version (bounded), so only what changed is worked out again.
"""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from tirante import ENGINE_VERSION
from tirante.core.brackets.lug import lug_strength
from tirante.core.checks.shown import CheckOut, Status, check_out
from tirante.core.cutting.cut_list import CutList, cut_list
from tirante.core.document.design import Design, loose
from tirante.core.document.parts.link import Link, used_keys
from tirante.core.document.settings import Settings
from tirante.core.errors import InputError
from tirante.core.job.memory import Memory
from tirante.core.job.results import (
    BoughtOut,
    CutListOut,
    EndOut,
    Evaluation,
    FaultOut,
    ItemOut,
    JigOut,
    JigStationOut,
    LinkCaseOut,
    LinkOut,
    PieceOut,
    StackOut,
    TabOut,
)
from tirante.core.members.link_stack import LinkStack
from tirante.core.parts.boxed_link.part import boxed_checks, boxed_mass, boxed_notes, plates_of
from tirante.core.parts.bracket.families.tab_outline import developed_area
from tirante.core.parts.link.assembly import (
    EngagementRules,
    ThreadedEnd,
    assemble,
    mass_of,
    school_of,
    stack_of,
)
from tirante.core.parts.link.built import Built, build
from tirante.core.parts.link.checks import NOT_CHECKED, clevis_gap, lug_of
from tirante.core.parts.link.jig import LinkJig
from tirante.core.parts.link.notes import link_notes, welding_notes


def _end_out(end: Any, state: Any, rules: EngagementRules | None) -> EndOut:
    threaded = isinstance(end, ThreadedEnd)
    extra: dict[str, Any] = {}
    if rules:
        extra = {
            "one_diameter_mm": rules.one_diameter, "for_load_mm": rules.for_load,
            "shank_breaks_first_mm": rules.shank_breaks_first, "two_thirds_of_thread_mm": rules.two_thirds_of_thread,
            "needed_mm": rules.default,
        }  # fmt: skip
    return EndOut(
        hand=end.hand if threaded else None, label=end.joint.label if threaded else end.what,
        engagement_mm=state.engagement, showing_mm=state.showing, adjust_in_mm=state.adjust_in,
        adjust_out_mm=state.adjust_out, max_showing_mm=state.max_showing, centre_to_face_mm=state.face_from_centre,
        ok=state.ok, reasons=list(state.reasons), **extra,
    )  # fmt: skip


def _stack_out(built: Built, settings: Settings) -> StackOut:
    stack = built.stack
    return StackOut(
        school=school_of(built.assembly.link, settings)[0],
        centre_to_centre_mm=stack.centre_to_centre, tube_cut_mm=stack.tube_cut, shortest_mm=stack.shortest,
        longest_mm=stack.longest, mm_per_turn=stack.per_turn, mm_per_half_turn=stack.per_half_turn,
        turns_in=stack.turns_in, turns_out=stack.turns_out,
        ends=[_end_out(e, s, r) for e, s, r in zip(built.assembly.ends, stack.ends, built.rules, strict=True)],
    )  # fmt: skip


def _bought_out(link: Link, stack: LinkStack) -> BoughtOut | None:
    if link.bought is None:
        return None
    cut_off = link.bought.tube_length.mm - stack.tube_cut
    other = "b" if link.bought.keep == "a" else "a"
    if cut_off < 0:
        return BoughtOut(
            cut_off_mm=cut_off, cut_end=other, possible=False,
            instruction=f"The bought tube is {-cut_off:.1f} mm too short: it cannot be made into this link.",
        )  # fmt: skip
    return BoughtOut(
        cut_off_mm=cut_off, cut_end=other, possible=True,
        instruction=(
            f"Keep end {link.bought.keep.upper()} as it is. Cut {cut_off:.1f} mm off the tube at end {other.upper()} and fit "
            f"end {other.upper()} with a new insert; the old thread goes with the offcut."
        ),
    )  # fmt: skip


def _tab_out(built: Built) -> TabOut | None:
    tab, outline = built.assembly.link.tab, built.outline
    if tab is None or outline is None or not built.assembly.tabbed:
        return None
    gap = clevis_gap(built.assembly, tab)
    warnings = list(outline.warnings)
    wall = tab.base.wall_mm
    if wall is not None and wall < tab.plate.mm:
        warnings.append(
            f"what it is welded to is {wall:g} mm, thinner than the plate: weld a spread plate under the feet"
        )
    if tab.thread_in_plane:
        warnings.append("the bolt's thread stands in the shear plane: use a longer grip")
    bolt = built.assembly.bolt
    if bolt and not lug_strength(lug_of(tab, bolt.diameter_mm), tab.yield_mpa, tab.uts_mpa).extension_ok:
        warnings.append("short of metal beyond the hole (AISC D5.2): a larger edge distance clears it")
    return TabOut(
        gap_mm=gap, grip_mm=gap + 2 * tab.plate.mm, plates=2 * len(built.assembly.tabbed),
        area_mm2=developed_area(outline), warnings=warnings,
    )  # fmt: skip


def _jig_out(jig: LinkJig) -> JigOut:
    return JigOut(
        set_length_mm=jig.set_length, check_length_mm=jig.check_length, tolerance_mm=jig.tolerance,
        axis_height_mm=jig.axis_height, rail_length_mm=jig.rail_length, steps=list(jig.steps),
        stations=[JigStationOut(name=s.name, ordinate_mm=s.ordinate, what=s.what) for s in jig.stations],
    )  # fmt: skip


def _headline(checks: list[CheckOut]) -> tuple[Status, str, str | None]:
    asked = [c for c in checks if c.utilisation is not None]
    if not any(c.case for c in asked):
        return "incomplete", "No load is entered, so nothing says whether it holds.", None
    worst = asked[0]
    where = f" in “{worst.case}”" if worst.case else ""
    if worst.state == "stop":
        failing = sum(1 for c in asked if c.state == "stop")
        more = f", and {failing - 1} more" if failing > 1 else ""
        return "stop", f"{worst.name} is over: {worst.shown} of 1.00{where}{more}.", worst.key
    ranked = [c for c in asked if c.key not in ("engagement", "tab_detailing")]
    worst = ranked[0] if ranked else worst
    where = f" in “{worst.case}”" if worst.case else ""
    if worst.state == "attention":
        return "attention", f"{worst.name} is close: {worst.shown} of 1.00{where}.", worst.key
    return "ok", f"It holds. Weakest: {worst.name}, {worst.shown} of 1.00{where}.", worst.key


def evaluate_link(link: Link, design: Design) -> LinkOut:
    """One link, worked out."""
    common: dict[str, Any] = {"id": link.id, "name": link.name, "side": link.side, "length_mm": link.between.mm}
    tube = design.catalogue.find("tubes", link.tube) if link.tube else None
    grade = design.catalogue.find("grades", link.grade) if link.grade else None
    common["cases"] = [LinkCaseOut(**case.model_dump()) for case in link.cases]
    common |= {"tube_label": tube.label if tube else None, "grade_label": grade.label if grade else None}
    if link.boxed and not loose(link, design):
        checks = [check_out(check) for check in boxed_checks(link, design.settings)]
        status, headline, governing = _headline(checks)
        boxed = common | {"tube_label": "boxed of four plates", "grade_label": link.boxed.plate_name}
        return LinkOut(
            **boxed, status=status, headline=headline, faults=[], checks=checks, governing=governing, mass_kg=boxed_mass(link),
            notes=boxed_notes(link),
        )  # fmt: skip
    built = build(link, design)
    if isinstance(built, list):
        faults = [FaultOut(field=fault.field, message=fault.message) for fault in built]
        unsized = link.tube is None and not loose(link, design)
        headline = "Not sized yet: press Size it, or choose the parts." if unsized else faults[0].message
        return LinkOut(**common, status="incomplete", headline=headline, faults=faults)
    checks = [check_out(check) for check in built.checks]
    status, headline, governing = _headline(checks)
    return LinkOut(
        **common, status=status, headline=headline, faults=[], stack=_stack_out(built, design.settings), checks=checks,
        governing=governing, mass_kg=mass_of(built.assembly, built.stack).total, tab=_tab_out(built),
        jig=_jig_out(built.jig), bought=_bought_out(link, built.stack), procedure=built.assembly.grade.procedure,
        welding_notes=welding_notes(built.assembly), notes=link_notes(built.assembly),
    )  # fmt: skip


_memory: Memory[LinkOut] = Memory()


def _key(link: Link, design: Design) -> str:
    rows = [row.hash for kind, key, _ in used_keys(link) if (row := design.catalogue.find(kind, key))]  # type: ignore[arg-type]
    tie = str(loose(link, design))
    return "|".join([ENGINE_VERSION, tie, link.model_dump_json(), design.settings.model_dump_json(), *rows])


def evaluate(design: Design) -> Evaluation:
    """Work out a design; links that did not change come from memory."""
    links = []
    for link in design.links:
        key = _key(link, design)
        found = _memory.get(key)
        if found is None:
            found = evaluate_link(link, design)
            _memory.put(key, found)
        links.append(found)
    return Evaluation(
        links=links, cut_list=_cut_list_out(job_cut_list(design)), not_checked=list(NOT_CHECKED), engine=ENGINE_VERSION
    )


def job_cut_list(design: Design) -> CutList:
    """The cut list of a design."""
    complete, incomplete, boxes = [], [], []
    for link in design.links:
        if link.boxed:
            boxes.append((link, plates_of(link)))
            continue
        assembly = assemble(link, design.catalogue)
        if isinstance(assembly, list):
            incomplete.append(link.name)
            continue
        try:
            complete.append((assembly, stack_of(assembly, design.settings)))
        except InputError:
            incomplete.append(link.name)
    return cut_list(complete, incomplete, boxes)


def _cut_list_out(found: CutList) -> CutListOut:
    return CutListOut(
        pieces=[PieceOut(**asdict(piece)) for piece in found.pieces],
        items=[ItemOut(**asdict(item)) for item in found.items],
        incomplete=list(found.incomplete),
    )
