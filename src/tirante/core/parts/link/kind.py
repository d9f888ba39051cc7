"""Links as a kind of part."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue, Eye, Grade, Joint, Spacer, Tube
from tirante.core.document.end import LinkBend
from tirante.core.document.joints import EndOfLink
from tirante.core.document.parts.common import OfEnd, RodEndEnd
from tirante.core.document.parts.link import FixedEnd, Link
from tirante.core.document.settings import Settings
from tirante.core.document.shape import Shape
from tirante.core.document.template import Template
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.jigs.features import NOT_YET, Features
from tirante.core.loads.case_seen import NotCarried
from tirante.core.loads.seen import sides_of, swings_of_link
from tirante.core.members import fatigue
from tirante.core.members.fatigue import friction_arm, of_thread
from tirante.core.parts.adjusters import JobAdjuster, job_adjuster
from tirante.core.parts.around import Around, not_carried, seen_between, swing_between
from tirante.core.parts.cases import cases_out
from tirante.core.parts.feet import Spot, spot_of_link
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.joint import Allowed, HeldEnd
from tirante.core.parts.kind import (
    Aim,
    AsCut,
    Changed,
    Cheaper,
    Choice,
    Everyday,
    Kind,
    MadeFrom,
    Refit,
    Sized,
    StockOptions,
    ViewAsked,
)
from tirante.core.parts.link import choose, sizing
from tirante.core.parts.link.as_cut import as_cut
from tirante.core.parts.link.assembly import Assembly, ThreadedEnd, mass_of
from tirante.core.parts.link.assembly import Everyday as DayByDay
from tirante.core.parts.link.built import Built, build
from tirante.core.parts.link.checks import NOT_CHECKED
from tirante.core.parts.link.end_sheets import end_sheet, end_views
from tirante.core.parts.link.fields import FIELDS, begins
from tirante.core.parts.link.fixed_eye import BARE, fixed_eye, fork_at, is_bare, lacks
from tirante.core.parts.link.flat import card_lines
from tirante.core.parts.link.held import features_of
from tirante.core.parts.link.jig_view import jig_sheet
from tirante.core.parts.link.life import COVERED, everyday_of, not_judged
from tirante.core.parts.link.notes import link_notes, welding_notes
from tirante.core.parts.link.pieces import pieces_of, shortened, tubes_of
from tirante.core.parts.link.plug import plug_lines
from tirante.core.parts.link.prudent import Prudent, prudent_for
from tirante.core.parts.link.shown import AdjusterOut, LinkOwn, adjuster_out, bought_out, stack_out
from tirante.core.parts.link.sleeve import card_lines as sleeve_lines
from tirante.core.parts.link.sleeve import cuts_of, notch_at
from tirante.core.parts.link.view import draw_link, link_sheet
from tirante.core.parts.numbers import numbers_of
from tirante.core.parts.part import Card, CardEnd, CardLine, Figure, Jig, Misfit, Part, View
from tirante.core.parts.turned import turned_views
from tirante.core.parts.welded.wrap import wrap_name, wrap_of, wrap_views
from tirante.core.suspension.duty import SAID, Duty, duty_of
from tirante.core.suspension.moving import Moving

_ENDS = {"a": "end_a", "b": "end_b"}


class LinkKind(Kind[Link]):
    """Links with two pivots."""

    key = "link"
    word = "link"
    saved = Link
    own = LinkOwn
    fields = FIELDS
    searched = True
    searches = (
        "Every tube, grade, joint and insert of the catalogue that fit together are judged against all checks under what it sees. Splices and "
        "ends that do not adjust stay as they are."
    )
    changes = True
    stands_between = True

    def work_out(self, saved: Link, around: Around) -> Part:
        """Assembly, stack, checks, jig and pieces."""
        tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
        grade = around.catalogue.find("grades", saved.grade) if saved.grade else None
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": (*NOT_CHECKED, *_flats_not_judged(saved), *_bolts_not_known(saved, around)), "not_carried": not_carried(saved.of_end, around),
            "made_of": (tube.label if isinstance(tube, Tube) else None, grade.label if isinstance(grade, Grade) else None),
        }  # fmt: skip
        built = build(saved, around, cases)
        if not isinstance(built, list):
            built = _bought_too_short(built) or built
        squashed = _squashed_where_it_may_not(saved, around)
        if squashed:
            built = [*(built if isinstance(built, list) else ()), *squashed]
        if isinstance(built, list):
            own = LinkOwn(length_mm=saved.between.mm, cases=cases_out(cases))
            return Part(**common, faults=tuple(built), own=(None, own))
        own = LinkOwn(
            length_mm=saved.between.mm, cases=cases_out(cases), stack=stack_out(built, around.settings), bought=bought_out(built),
        )  # fmt: skip
        common["not_carried"] += _life_not_judged(saved, around, built)
        pieces, cuts = (
            pieces_of(built.assembly, built.stack),
            cuts_of(saved, built.assembly.tube, built.stack, around.settings.wrap_paper_mm),
        )
        return Part(
            **common, own_mirror=not built.assembly.handed, pieces=pieces, checks=built.checks, mass=mass_of(built.assembly, built.stack).total,
            views=(View(name="drawing", title="to scale, an end in section"), View(name="jig", title="rail jig"), *end_views(built.assembly.ends), *turned_views(pieces), *plate_views(pieces), *wrap_views(cuts, numbers_of(around.settings))),
            card=_card(built, own), jig=_jig(built), procedure=built.assembly.grade.procedure, welding=tuple(welding_notes(built.assembly)),
            notes=(*((CAUTION.format(SAID[is_for]),) if (is_for := duty(saved, around)) else ()), *link_notes(built.assembly)), own=(built, own),
        )  # fmt: skip

    def told(self, part: Part) -> Out | None:
        """Stack, ends, jig and what it sees."""
        own: LinkOwn = part.own[1]
        return own

    def span(self, part: Part) -> float | None:
        """Pivot to pivot."""
        assert isinstance(part.saved, Link)
        return part.saved.between.mm

    def tall(self, part: Part) -> float:
        """Its tube or its largest head."""
        assembly: Assembly = part.own[0].assembly
        heads = [end.joint.head_diameter_mm for end in assembly.threaded]
        line = assembly.bend
        return max([assembly.tube.od_mm + (line.offset if line else 0.0), *heads])

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """From the side."""
        built: Built = part.own[0]
        line, (left, middle) = built.assembly.bend, at
        low = middle - (scale * line.offset / 2 if line else 0.0)  # a bent one stands above its pivots
        draw_link(sheet, left, low, scale, built.assembly, built.stack, ref=ref)

    def strip_told(self, part: Part) -> str:
        """Tube, grade and thread."""
        assembly = part.own[0].assembly
        joint = next((f", {end.joint.designation}" for end in assembly.threaded), "")
        bent = "; bent" if assembly.link.bent else ""
        return f"{assembly.tube.label}, {assembly.grade.label.split(',')[0]}{joint}{bent}"

    def adjuster(self, part: Part, turns: float, numbers: Numbers) -> AdjusterOut | None:
        """How long it is then, and how far it may be turned."""
        return adjuster_out(part.own[0].stack, turns, numbers)

    def between(self, fields: Mapping[str, Any], settings: Settings) -> Link:
        """A link with a rod end at either end, the left-hand one where the shop has it."""
        return blank_link(dict(fields), settings.left_hand_end)

    def begins(self, saved: Link) -> dict[str, Any]:
        """A splice a third of the way along, and the like."""
        return begins(saved, None)

    def unfinished(self, saved: Link, around: Around) -> str | None:
        """No tube was ever chosen."""
        if saved.tube is None and saved.lost(around.ends) is None:
            return "Not sized yet: press Size it, or choose the parts."
        return None

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """To scale with an end in section, or in its jig."""
        built: Built = part.own[0]
        if asked.name == "drawing":
            return link_sheet(built.assembly, built.stack, built.rules, asked.end, numbers, asked.turns)
        if asked.name == "jig":
            return jig_sheet(built.assembly, built.stack, built.jig, numbers)
        made = end_sheet(built.assembly, built.stack, asked.name, numbers)
        if made is not None:
            return made
        for cut in cuts_of(built.assembly.link, built.assembly.tube, built.stack, built.paper):
            if asked.name == wrap_name(cut):
                return wrap_of(cut, part, numbers)
        return super().draw(part, asked, numbers)

    def ends(self, saved: Link) -> tuple[str, ...]:
        """Both: a fixed one is held by its bolt as a rod end is."""
        del saved
        return tuple(_ENDS)

    def spot(self, saved: Link, at: str, around: Around) -> Spot | None:
        """The point of its end, on the body that holds it there."""
        return spot_of_link(saved.between, at, around)

    def held_end(self, saved: Link, at: str, around: Around) -> HeldEnd | None:
        """The rod end chosen there, and what the link sees."""
        row, end = self.eye_row(saved, at, around.catalogue), getattr(saved, _ENDS[at])
        if row is None:
            return None
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        cases = tuple(case.at_end(at) for case in cases)
        return HeldEnd(
            name=f"{saved.name}, {self.end_name(at)}",
            of_end=saved.of_end,
            row=row,
            fork=fork_at(end) if isinstance(end, FixedEnd) else None,
            cases=cases,
            not_carried=not_carried(saved.of_end, around),
            swing_deg=swing_between(saved.between, saved.side, around),
            not_checked=(BARE,) if isinstance(end, FixedEnd) and is_bare(end) else (),
        )

    def eye_row(self, saved: Link, at: str, rows: Catalogue) -> Eye | None:
        """Its rod end, or what plates clamp at a fixed one."""
        end = getattr(saved, _ENDS[at])
        if isinstance(end, FixedEnd):
            tube = rows.find("tubes", saved.tube) if saved.tube else None
            return fixed_eye(end, tube if isinstance(tube, Tube) else None)
        row = rows.find("joints", end.joint) if end.joint else None
        return row if isinstance(row, Joint) else None

    def end_lacks(self, saved: Link, at: str) -> str:
        """Its rod end, or what goes in a fixed one."""
        end = getattr(saved, _ENDS[at])
        return lacks(end) if isinstance(end, FixedEnd) else super().end_lacks(saved, at)

    def allows(self, saved: Link, at: str, around: Around) -> Allowed | None:
        """By the rod end, and what its spacers add, or by what is said of a bush; not watched while none is chosen."""
        end = getattr(saved, _ENDS[at])
        where = f"{saved.name}, {self.end_name(at)}"
        if not isinstance(end, RodEndEnd):
            limit = None if is_bare(end) or end.eye is None else end.eye.tilt_limit_deg
            return (
                None
                if limit is None
                else Allowed(limit_deg=limit, told=f"{where}: {limit:g}°, as given of what goes in it")
            )
        row = around.catalogue.find("joints", end.joint) if end.joint else None
        if not isinstance(row, Joint):
            return Allowed(limit_deg=None, told=f"{where}: not watched until its rod end is chosen")
        held = self.held_at(saved, at)
        key = next((joint.spacer for joint in around.joints_of(saved.id) if joint.held == held), None)
        spacer = around.catalogue.find("spacers", key) if key else None
        gain = spacer.tilt_gain_deg if isinstance(spacer, Spacer) else 0.0
        more = f" with {spacer.label}" if gain and spacer else ""
        limit = row.tilt_limit_deg + gain
        return Allowed(limit_deg=limit, told=f"{where}: {limit:g}° by {row.label}{more}")

    def bend(self, saved: Link) -> LinkBend | None:
        """As it is typed."""
        bent = saved.bent
        if bent is None:
            return None
        from_ends = bent.from_ends.mm if bent.from_ends else None
        return LinkBend(offset_mm=bent.offset.mm, from_ends_mm=from_ends, plane_deg=bent.plane_deg)

    def features(self, saved: Link, around: Around) -> Features | str:
        """Both ends and its tube."""
        part = around.part(saved.id)
        built = part.own[0] if part is not None and part.complete and part.own else None
        return features_of(saved, built) if isinstance(built, Built) else NOT_YET

    def shape(self, saved: Link, around: Around) -> Shape | None:
        """Its tube."""
        tube = around.catalogue.find("tubes", saved.tube) if saved.tube else None
        return Shape(od_mm=tube.od_mm) if isinstance(tube, Tube) else None

    def offers(self, saved: Link, around: Around, shelf: Catalogue) -> dict[str, list[str]]:
        """Tubes, grades, and joint, insert and nut of either end."""
        return choose.offers(saved, shelf)

    def choose(self, saved: Link, field: str, key: str | None, around: Around, shelf: Catalogue) -> Changed:
        """A row taken; what stands behind it on the road follows."""
        return Changed(parts=(choose.choose(saved, field, key, shelf),))

    def _refitter(self, saved: Link, around: Around, shelf: Catalogue) -> sizing.Refitter | None:
        """Makes the brackets that hold this link suit what it would be; None where none does."""
        joints = [joint for joint in around.joints_of(saved.id) if joint.by is not None]
        if not joints:
            return None
        brackets = list(dict.fromkeys(joint.by for joint in joints if joint.by))

        def refit(assembly: Assembly) -> list[Refit]:
            found = []
            for bracket in brackets:
                own, held = [], []
                for joint in joints:
                    if joint.by != bracket or not isinstance(joint.held, EndOfLink):
                        continue
                    end = assembly.ends["ab".index(joint.held.end)]
                    fixed = getattr(saved, _ENDS[joint.held.end])
                    row = end.joint if isinstance(end, ThreadedEnd) else fixed_eye(fixed, assembly.tube)
                    if row is not None:
                        own.append(joint)
                        name = f"{saved.name}, {self.end_name(joint.held.end)}"
                        held.append(
                            HeldEnd(
                                name=name,
                                of_end=saved.of_end,
                                row=row,
                                fork=fork_at(fixed) if isinstance(fixed, FixedEnd) else None,
                                cases=tuple(case.at_end(joint.held.end) for case in assembly.cases),
                                swing_deg=swing_between(saved.between, saved.side, around),
                            )
                        )
                if own:
                    found.append(around.refitted(bracket, own, held, shelf))
            return found

        return refit

    def size(self, saved: Link, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The lightest or cheapest tube, grade and ends that hold, with the brackets that hold them."""
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        refit = self._refitter(saved, around, shelf)
        prudent = _prudent(saved, around, cases)
        found = sizing.size(
            saved,
            cases,
            around.settings,
            shelf,
            "cost" if aim == "cost" else "mass",
            refit,
            prudent,
            _everyday(saved, around),
        )
        return Sized(
            considered=found.considered, judged=found.judged, winner=_choice(found.winner), runner_up=_choice(found.runner_up),
            nearest=_choice(found.nearest), advice=found.advice,
        )  # fmt: skip

    def options(self, saved: Link, around: Around, shelf: Catalogue) -> StockOptions | None:
        """Of every tube and grade the sets of ends that go with it."""
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        return _Options(saved, cases, around, shelf, self._refitter(saved, around, shelf))

    def cheaper(self, saved: Link, around: Around, shelf: Catalogue) -> Cheaper | None:
        """Fewest parts changed, then least mass."""
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        found = sizing.cheapest_change(
            saved, cases, around.settings, around.catalogue, shelf, self._refitter(saved, around, shelf),
            _prudent(saved, around, cases), _everyday(saved, around),
        )  # fmt: skip
        if found is None:
            return None
        choice = _choice(found.judged)
        assert choice
        return Cheaper(
            choice=choice, changed=found.changed, mass_change=found.mass_change, checks=tuple(found.judged.checks)
        )

    def everyday(self, part: Part, around: Around) -> Everyday | None:
        """The range of its force, screened at thread root and insert weld."""
        saved, built = part.saved, part.own[0]
        assert isinstance(saved, Link)
        if (
            built is None
            or saved.between.kind != "end"
            or not built.assembly.threaded
            or saved.between.end_id not in around.ends
        ):
            return None
        try:
            found = swings_of_link(saved.side, saved.between.link, around.everyday(saved.between.end_id).cases)
        except InputError:
            return None
        if not found:
            return None
        end = built.assembly.threaded[0]
        arm, thread = friction_arm(around.settings.joint_friction, end.joint.ball_diameter_mm), of_thread(end.thread)
        # the swing that asks most of the thread
        force, moment = max(((far, arm * under) for far, under in found), key=lambda one: thread.stress(*one))
        return Everyday(
            range=force,
            details={
                "range_n": force, "moment_range_nmm": moment, "designation": end.joint.designation, "od_mm": built.assembly.tube.od_mm,
                "wall_mm": built.assembly.tube.wall_mm, "leg_mm": built.assembly.leg or 0.1,
            },
        )  # fmt: skip

    def may_be(self, template: Template, one: Moving) -> bool:
        """Two points a fixed length apart."""
        return one.sort == "link"

    def made_from(self, one: Moving, made: MadeFrom) -> Link | None:
        """A link tied to the end's points, not sized yet, its left-hand end where the shop has it."""
        from tirante.core.suspension.shown.lengths import lengths

        row = next((r for r in lengths(made.template, made.end) if r.is_link and r.part == one.name), None)
        if row is None:
            return None
        between = OfEnd(end_id=made.end_id, link=row.part, a=row.a, b=row.b, b_side=row.b_side, mm=row.left)
        side = "centre" if row.right is None else "pair"
        return blank_link(
            {"id": made.part_id, "name": f"{made.end_name} {row.part}"[:80], "side": side, "between": between},
            made.settings.left_hand_end,
        )

    def as_cut(self, cut: Part, asked: Part, settings: Settings, measured: float | None = None) -> AsCut | None:
        """Turned at its threads, and judged with what is left of them."""
        return as_cut(cut.own[0], asked.own[0], settings, measured)

    def adjusters(self, part: Part, names: Sequence[str], around: Around) -> tuple[list[JobAdjuster], list[str]]:
        """The link itself, on either side of the car."""
        saved, built = part.saved, part.own[0]
        assert isinstance(saved, Link)
        if saved.between.kind != "end":
            return [], []
        if built is None:
            return [], [f"{part.name}: not complete yet"]
        made = [
            job_adjuster(saved.id, saved.name, built.assembly, built.stack, name)
            for name in sides_of(saved.side, saved.between.link, names)
        ]
        own = [one for one in made if one is not None]
        return own, [] if own else [f"{part.name}: does not adjust"]


def _choice(judged: sizing.Judged | None) -> Choice | None:
    if judged is None:
        return None
    assembly = judged.candidate.assembly
    return Choice(
        parts=(judged.candidate.link, *(part for one in judged.refits for part in one.parts)),
        joints=tuple(joint for one in judged.refits for joint in one.joints), tube=assembly.tube.label, grade=assembly.grade.label,
        joint=assembly.threaded[0].joint.label if assembly.threaded else None, stock=(assembly.tube.key, assembly.grade.key),
        mass=judged.candidate.mass, worst=judged.worst,
    )  # fmt: skip


class _Options(StockOptions):
    """The tubes and grades that may do for a link."""

    def __init__(
        self, link: Link, cases: tuple[Any, ...], around: Around, shelf: Catalogue, refit: sizing.Refitter | None
    ) -> None:
        self._settings, self._refit = around.settings, refit
        self._left: dict[tuple[str, str], list[sizing.Candidate]] = {}
        self._passing: dict[tuple[str, str], sizing.Judged] = {}
        screen = sizing.TubeScreen(around.settings)
        prudent = _prudent(link, around, cases)
        for candidate in sizing.candidates(
            link, cases, around.settings, shelf, prudent=prudent, everyday=_everyday(link, around)
        ):
            if screen.utilisation(candidate.assembly) <= 1.0:
                key = candidate.assembly.tube.key, candidate.assembly.grade.key
                self._left.setdefault(key, []).append(candidate)

    @property
    def least(self) -> dict[tuple[str, str], float]:
        """Of each stock, what the link weighs at least [kg]."""
        known = {stock: judged.candidate.mass for stock, judged in self._passing.items()}
        return known | {stock: left[0].mass for stock, left in self._left.items()}

    def settle(self, stock: tuple[str, str]) -> bool:
        """Judge a stock's lightest ends; True when they pass (or did before)."""
        if stock in self._passing:
            return True
        candidate = self._left[stock].pop(0)
        judged = sizing.judge(candidate, self._settings, self._refit)
        if judged.passed:
            self._passing[stock] = judged
            del self._left[stock]
            return True
        if not self._left[stock]:
            del self._left[stock]
        return False

    def passing(self, stock: tuple[str, str]) -> Choice:
        """The set that passed."""
        found = _choice(self._passing[stock])
        assert found
        return found


def _jig(built: Built) -> Jig:
    rail = built.jig
    return Jig(
        view="jig", stations=rail.stations, set_length=rail.set_length, check_length=rail.check_length, tolerance=rail.tolerance, steps=rail.steps
    )  # fmt: skip


def _bought_too_short(built: Built) -> list[Misfit] | None:
    """Why a bought link cannot be made into this one."""
    bought = built.assembly.link.bought
    if bought is None:
        return None
    field = "bought.tube_length" if bought.measured == "tube" else "bought.centres"
    cut = shortened(built.assembly, built.stack)
    if cut is None:
        what = "end to end of its bare tube" if bought.measured == "tube" else "pin to pin"
        return [Misfit(field=field, message=f"Type how long the bought link is, {what}.")]
    if cut.off < 0:
        why = f"The bought link is {-cut.off:.1f} mm too short: it cannot be made into this one. Take a longer one, or make it of tube."
        return [Misfit(field=field, message=why)]
    return None


def _card(built: Built, own: LinkOwn) -> Card:
    stack, assembly = built.stack, built.assembly
    stock = f"{assembly.tube.label}, {assembly.grade.label}"
    if own.bought:
        bought = own.bought
        figures = [
            Figure(
                label=f"Saw, from end {bought.keep_end}’s tube end", mm=bought.cut_at_mm, note=f"bought link, {stock}"
            )
        ]
        lines = [CardLine(text=f"comes off at end {bought.cut_end}", mm=bought.cut_off_mm, strong=True)]
        lines += [CardLine(text=one) for one in bought.told]
    else:
        figures = [
            Figure(label=f"Saw {piece.name}".strip(), mm=piece.length, note=stock)
            for piece in tubes_of(assembly, stack)
        ]  # fmt: skip
        lines = []
    ends = []
    for letter, end, state in zip("AB", assembly.ends, stack.ends, strict=True):
        if not isinstance(end, ThreadedEnd):
            if end.flat:
                ends.append(CardEnd(mark=letter, lines=card_lines(end.flat, assembly.tube, end.centre_to_face)))
                continue
            cut = notch_at(cuts_of(assembly.link, assembly.tube, stack, 0.0), "AB".index(letter))
            if end.plug:
                ends.append(CardEnd(mark=letter, lines=plug_lines(end.plug)))
                continue
            if end.sleeve and cut:
                ends.append(
                    CardEnd(
                        mark=letter,
                        lines=tuple(
                            sleeve_lines(
                                end.sleeve,
                                cut,
                                "AB".index(letter),
                                assembly.link.clocking_deg,
                                both_hands=assembly.handed and assembly.link.side == "pair",
                            )
                        ),
                    )
                )
                continue
            solid = end.machined.form if end.machined and end.machined.form not in end.what else ""
            text = f"End {letter}: {end.what}, {f'{solid} from the solid, ' if solid else ''}centre to tube face"
            ends.append(CardEnd(mark=letter, lines=(CardLine(text=text, mm=end.centre_to_face),)))
            continue
        ends.append(
            CardEnd(
                mark=end.hand,
                lines=(
                    CardLine(text=f"End {letter}: {end.joint.label}"),
                    CardLine(text="in the tube" if end.tapped else "in the insert", mm=state.engagement or 0.0),
                    CardLine(text="thread showing", mm=state.showing or 0.0),
                    CardLine(text="never more than", mm=state.max_showing or 0.0, strong=True),
                ),
            )
        )  # fmt: skip
    figures.append(Figure(label="Pin to pin, cold", mm=stack.centre_to_centre, note=f"± {built.jig.tolerance:g} mm"))
    return Card(figures=tuple(figures), lines=tuple(lines), ends=tuple(ends))


def blank_link(fields: dict[str, Any], left_hand_end: str) -> Link:
    """A link with a rod end at either end, the left-hand one where the shop has it.

    Args:
        fields: id, name, side and what it stands between.
        left_hand_end: "a" or "b".
    """
    a = left_hand_end == "a"
    return Link(**fields, end_a=RodEndEnd(hand="LH" if a else "RH"), end_b=RodEndEnd(hand="RH" if a else "LH"))


LINK = LinkKind()


def _prudent(saved: Link, around: Around, cases: tuple[Any, ...]) -> Prudent:
    """What a search of this link may return; where its everyday range is known, only what has a life."""
    # aluminium lasts far less where it is welded: it is not proposed unasked, but judged where it is chosen
    chosen = around.catalogue.find("grades", saved.grade) if saved.grade else None
    own = (chosen.family,) if isinstance(chosen, Grade) and chosen.family in fatigue.BY_FAMILY else ()
    asked = (*COVERED, *own) if _everyday(saved, around) else ()
    return prudent_for(around.settings, around.use, cases, duty(saved, around), frozenset(asked))


def _everyday(saved: Link, around: Around) -> DayByDay | None:
    found = everyday_of(saved, around)
    return found if isinstance(found, DayByDay) else None


def _life_not_judged(saved: Link, around: Around, built: Built) -> tuple[NotCarried, ...]:
    """Why nothing says how long it lasts, where it sees loads at all."""
    if not built.assembly.cases:
        return ()
    found = everyday_of(saved, around)
    told = found if isinstance(found, NotCarried) else not_judged(built.assembly)
    return (told,) if told else ()


CAUTION = "{}. Crack-test it after welding and after the first outing; never squashed, never mended in use"  # common practice, no source


def duty(saved: Link, around: Around) -> Duty:
    """Whether a link of an end steers or alone locates a wheel or axle."""
    if saved.between.kind != "end" or saved.between.end_id not in around.ends:
        return ""
    try:
        return duty_of(around.at_ride(saved.between.end_id), saved.between.link)
    except InputError:
        return ""


def _squashed_where_it_may_not(saved: Link, around: Around) -> list[Misfit]:
    """Its squashed ends, where it steers or alone locates."""
    squashed = [
        field
        for field in _ENDS.values()
        if (one := getattr(saved, field)).kind == "fixed" and one.flat and one.flat.squashed
    ]
    is_for = duty(saved, around) if squashed else ""
    if not is_for:
        return []
    return [Misfit(field=f"{field}.flat.form", message=f"{SAID[is_for]}: such a link is never squashed. Let a plate in, or take a rod end.") for field in squashed]  # fmt: skip


def _flats_not_judged(saved: Link) -> tuple[str, ...]:
    """What of plates let in and of squashed ends no check looks at."""
    flats = [one.flat for field in _ENDS.values() if (one := getattr(saved, field)).kind == "fixed" and one.flat]
    found = []
    if any(not one.squashed for one in flats):
        found.append("everyday life of the tube at its slots and of their fillets, and of the plates at their holes")
    if any(one.squashed for one in flats):
        found.append("everyday life of a squashed end, and cracks from squashing it")
    if any(one.kind == "fixed" and one.plug for field in _ENDS.values() for one in (getattr(saved, field),)):
        found.append("everyday life of a plugged end where it is bored across, and wear of its hole")
    return tuple(found)


def _bolts_not_known(saved: Link, around: Around) -> tuple[str, ...]:
    """The ends at which nothing says how far the link is tilted to its bolt: what goes along it there is not counted."""
    ends = [end for end, field in _ENDS.items() if isinstance(getattr(saved, field), RodEndEnd)]
    if saved.between.kind == "end" and saved.between.end_id in around.ends:
        given = around.ends[saved.between.end_id].links.get(saved.between.link)
        ends = [end for end in ends if given is None or getattr(given, end) is None]
    if not ends:
        return ()
    where = " and ".join(end.upper() for end in ends)
    return (f"what goes along the bolt at end {where}: the bolt’s direction is not given at Layout",)
