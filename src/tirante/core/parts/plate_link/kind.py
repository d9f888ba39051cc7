"""Links cut from plate as a kind of part."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from math import inf
from typing import Any, Literal

from tirante.core.brackets import lug
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Try, weakest_first, worst_of
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.forms.table import Field, FieldGroup, number, special
from tirante.core.document.parts.common import LoadCase
from tirante.core.document.parts.plate_link import PlateLink
from tirante.core.document.settings import Settings
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Hole
from tirante.core.jigs.features import Features
from tirante.core.loads.case_seen import CaseSeen, NotCarried
from tirante.core.loads.seen import swings_of_link
from tirante.core.members import fatigue
from tirante.core.members.plate_link import FlatLink, flat_stress
from tirante.core.parts.around import Around, not_carried, seen_between
from tirante.core.parts.cases import CaseOut, cases_out
from tirante.core.parts.everyday import BY_USE
from tirante.core.parts.kind import Aim, Choice, Kind, Sized, ViewAsked
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, PlatePiece, View, across
from tirante.core.parts.plate_eye import HOLE_CLASS, MODULUS
from tirante.core.parts.plates import thinnest
from tirante.core.parts.rocker.shape import FIT, plate_outline
from tirante.core.parts.welded.life import CASE, Weakest
from tirante.core.units import STEEL_DENSITY

NOT_CHECKED = (
    "its bolts and what holds them", "a load along its bolts beside what is typed as a side force", "twist", "wear of its holes", "impact", "corrosion and wear",
)  # fmt: skip


class PlateLinkOwn(Out):
    """What only such a link has."""

    kind: Literal["plate_link"] = "plate_link"
    length_mm: float
    cases: list[CaseOut]


class PlateLinkKind(Kind[PlateLink]):
    """Links cut from plate."""

    key = "plate_link"
    word = "link cut from plate"
    saved = PlateLink
    own = PlateLinkOwn
    stands_between = True
    welded = False
    searched = True
    of_tubes = False
    searches = (
        "Every usual plate is judged against all checks under what it sees; its width and its bolts stay as they are."
    )
    fields = (
        FieldGroup(title="Between", fields=[special("between")]),
        FieldGroup(title="What it sees", fields=[
            special("cases"), number(PlateLink, "everyday_n", "Everyday range of its force", "N", optional=True, empty="the end’s, where there is one"),
        ]),
        FieldGroup(title="Plate", note="Size it chooses how thick", fields=[
            number(PlateLink, "plates", "How many"), number(PlateLink, "plate_mm", "Plate", "mm"), number(PlateLink, "width_mm", "Wide", "mm"),
            number(PlateLink, "pin_a_mm", "Bolt at A", "mm"), number(PlateLink, "pin_b_mm", "Bolt at B", "mm"),
            Field(path="plate_name", label="Steel", control="text"), number(PlateLink, "yield_mpa", "Plate’s yield", "MPa"),
            number(PlateLink, "uts_mpa", "Plate’s ultimate", "MPa"),
        ]),
    )  # fmt: skip

    def between(self, fields: Mapping[str, Any], settings: Settings) -> PlateLink:
        """A flat bar as a fabricator would begin it."""
        del settings
        return PlateLink(**fields)

    def begins(self, saved: PlateLink) -> dict[str, Any]:
        """A case without a force."""
        del saved
        return {"case": LoadCase(name="case").model_dump(mode="json")}

    def work_out(self, saved: PlateLink, around: Around) -> Part:
        """Checks, its plate, its life."""
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "not_carried": not_carried(saved.of_end, around),
            "made_of": (f"{saved.plates} × {saved.plate_mm:g} mm plate", saved.plate_name), "own": PlateLinkOwn(length_mm=saved.between.mm, cases=cases_out(cases)),
        }  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="between", message=lost),))
        lasts, days = _life(saved, around)
        common["not_carried"] += days
        outline = outline_of(saved)
        low_x, low_y, high_x, high_y = outline.bounds
        piece = PlatePiece(
            name="", material=saved.plate_name, thickness=saved.plate_mm, length=high_x - low_x, width=high_y - low_y, outline=outline, count=saved.plates,
            told=f"holes {saved.pin_a_mm + FIT:g} and {saved.pin_b_mm + FIT:g} mm",
        )  # fmt: skip
        return Part(
            **common, pieces=(piece,), checks=weakest_first([*plate_link_checks(saved, cases, around.settings), *lasts]),
            mass=outline.area * saved.plate_mm * saved.plates * STEEL_DENSITY,
            views=(View(name="drawing", title="flat"), View(name="flat", title="plate, 1:1", cut=True, plate="")),
            card=Card(
                figures=(Figure(label="hole to hole", mm=saved.between.mm),),
                lines=(
                    CardLine(text=f"{saved.plates} × plate, {saved.plate_name}", mm=saved.plate_mm), CardLine(text="wide", mm=saved.width_mm),
                    across(text="hole at A", mm=saved.pin_a_mm + FIT), across(text="hole at B", mm=saved.pin_b_mm + FIT),
                ),
            ),
        )  # fmt: skip

    def features(self, saved: PlateLink, around: Around) -> Features | str:
        """Nothing: it is cut whole."""
        del around
        both = "Drill both plates in one, clamped together, or one through the other." if saved.plates == 2 else "Its 1:1 template and its hole-to-hole length are all that it needs."  # fmt: skip
        return f"Nothing of it is welded: it is cut and drilled whole. {both}"

    def told(self, part: Part) -> Out | None:
        """Its length and what it sees."""
        own: PlateLinkOwn = part.own
        return own

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Flat and dimensioned, or at 1:1."""
        saved = part.saved
        assert isinstance(saved, PlateLink)
        outline = outline_of(saved)
        low_x, low_y, high_x, high_y = outline.bounds
        if asked.name == "flat":
            sheet = Sheet(name="flat", title=saved.name, width=high_x - low_x, height=high_y - low_y)
            draw_contour(sheet, Frame(-low_x, -low_y, 1.0), outline, "cut")
            return sheet.done()
        if asked.name != "drawing":
            return super().draw(part, asked, numbers)
        sheet = Sheet(name="plate_link", title=saved.name, width=217.0, height=100.0, numbers=numbers)
        scale = min(190.0 / (high_x - low_x), 40.0 / saved.width_mm, 1.0)
        sheet.scale = scale
        frame = Frame((217.0 - scale * saved.between.mm) / 2, 58.0, scale)
        draw_contour(sheet, frame, outline, "visible", ref="field:plate_mm")
        half = saved.width_mm / 2
        low = frame.at(0, -half)[1]
        sheet.dimension(
            (frame.at(0, 0)[0], low),
            (frame.at(saved.between.mm, 0)[0], low),
            saved.between.mm,
            offset=-8.0,
            ref="dim:centre_to_centre",
            note="hole to hole",
        )
        right = frame.at(saved.between.mm + half, 0)[0]
        sheet.dimension(
            (right, frame.at(0, -half)[1]),
            (right, frame.at(0, half)[1]),
            saved.width_mm,
            offset=-4.0,
            ref="field:width_mm",
            size=3.0,
        )
        many = "one plate" if saved.plates == 1 else "two plates alike"
        sheet.text((6, 92), f"{many}, {numbers.written(saved.plate_mm)} {saved.plate_name}", 2.9, tone="muted")
        for x, pin, name in ((0.0, saved.pin_a_mm, "A"), (saved.between.mm, saved.pin_b_mm, "B")):
            at = frame.at(x, half)
            sheet.text(
                (at[0], at[1] + 2.0), f"{name}, bolt ⌀{numbers.drilled(pin)}", 2.9, "middle", ref=f"end:{name.lower()}"
            )
        return sheet.done()

    def span(self, part: Part) -> float | None:
        """Hole to hole."""
        return part.saved.between.mm if isinstance(part.saved, PlateLink) else None

    def tall(self, part: Part) -> float:
        """Its width."""
        return part.saved.width_mm if isinstance(part.saved, PlateLink) else 20.0

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """Flat."""
        assert isinstance(part.saved, PlateLink)
        draw_contour(sheet, Frame(*at, scale), outline_of(part.saved), "visible", ref)

    def size(self, saved: PlateLink, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The thinnest plate that holds and lasts."""
        del shelf
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        if not any(case.axial_n or case.strike_n or case.side_n for case in cases):
            raise InputError(
                "No load is entered. Say what the link sees (pull, push, strike or side force), then size it.",
                code="missing",
                fields=("cases",),
            )
        wall = prudent_for(around.settings, around.use, cases, "").wall
        least = wall.value if wall else 0.0

        def make(mm: float) -> Choice:
            one = saved.model_copy(update={"plate_mm": mm})
            checks = weakest_first([*plate_link_checks(one, cases, around.settings), *_life(one, around)[0]])
            return Choice(
                parts=(one,), joints=(), tube=f"{one.plates} × {mm:g} mm plate", grade=one.plate_name, joint=None, stock=(f"{mm:g} mm plate", one.plate_name),
                mass=outline_of(one).area * mm * one.plates * STEEL_DENSITY, worst=checks[0],
            )  # fmt: skip

        return thinnest(make, least, aim)


def outline_of(saved: PlateLink) -> Contour:
    """Round at both ends, A at 0, with its holes."""
    r, long = saved.width_mm / 2, saved.between.mm
    holes = (Hole(0.0, 0.0, saved.pin_a_mm + FIT), Hole(long, 0.0, saved.pin_b_mm + FIT))
    return Contour(edges=plate_outline([(0.0, 0.0, r), (long, 0.0, r)]), holes=holes)


def plate_link_checks(saved: PlateLink, cases: Sequence[CaseSeen], settings: Settings) -> list[CheckResult]:
    """All checks of a link cut from plate; loads are factored before each.

    Args:
        saved: as it is.
        cases: what it sees.
        settings: factors.
    """
    factors = settings.factors
    flat = FlatLink(length=saved.between.mm, width=saved.width_mm, thickness=saved.plate_mm, plates=saved.plates)
    bent, pressed = asked("flat_bent", "plate", factors), asked("flat_column", "plate", factors)
    common: dict[str, Any] = {
        "length_mm": flat.length, "width_mm": flat.width, "thickness_mm": flat.thickness, "plates": flat.plates, "yield_mpa": saved.yield_mpa,
    }  # fmt: skip
    strong = flat.column(saved.yield_mpa, MODULUS)

    def stressed(case: CaseSeen) -> Try | None:
        if not (case.axial_n or case.strike_n or case.side_n):
            return None
        axial, strike, side = (
            case.axial_n * bent.factor,
            case.mid_strike_n * bent.factor,
            abs(case.side_n) * bent.factor,
        )
        stress = flat_stress(flat, axial, strike, side, MODULUS)
        if stress == inf:
            euler = flat.euler(MODULUS)
            return Try(
                demand=-axial, capacity=euler, topic="plate-link", input=common, output="euler_n", unit="N", utilisation=max(1.000001, -axial / euler),
                note="the factored push reaches its Euler load: no bent equilibrium",
            )  # fmt: skip
        data = {**common, "axial_n": axial, "strike_n": strike, "side_n": side}
        return Try(
            demand=stress,
            capacity=saved.yield_mpa,
            topic="plate-link",
            input=data,
            output="stress_mpa",
            figure="demand",
        )

    def pushed(case: CaseSeen) -> Try | None:
        if case.axial_n >= 0:
            return None
        return Try(
            demand=-case.axial_n * pressed.factor, capacity=strong, topic="plate-link", input=common, output="column_n"
        )

    out = [worst_of(bent, cases, stressed), worst_of(pressed, cases, pushed)]
    for letter, pin in (("A", saved.pin_a_mm), ("B", saved.pin_b_mm)):
        eye = lug.Lug(
            thickness=saved.plate_mm,
            width=saved.width_mm,
            hole=pin + FIT,
            pin=pin,
            edge=saved.width_mm / 2,
            plates=saved.plates,
        )
        found = lug.lug_strength(eye, saved.yield_mpa, saved.uts_mpa)
        data = {
            "thickness_mm": eye.thickness, "plates": eye.plates, "width_mm": eye.width, "hole_mm": eye.hole, "pin_mm": eye.pin, "edge_mm": eye.edge,
            "yield_mpa": saved.yield_mpa, "uts_mpa": saved.uts_mpa,
        }  # fmt: skip
        for key, capacity, output, pulled in (
            ("machined_bearing", found.bearing, "bearing_n", False), ("machined_tension", found.tension_rupture, "tension_rupture_n", True),
            ("machined_tearout", found.shear_rupture, "shear_rupture_n", True), ("machined_yield", found.gross_yield, "gross_yield_n", False),
        ):  # fmt: skip
            kind = asked(key, f"end {letter}", factors, of=letter.lower())
            kind = replace(kind, name=f"Eye {letter}, {kind.name[0].lower()}{kind.name[1:]}")

            def attempt(
                case: CaseSeen,
                factor: float = kind.factor,
                most: float = capacity,
                where: str = output,
                only: bool = pulled,
                lugs: dict[str, Any] = data,
            ) -> Try | None:
                force = max(0.0, case.axial_n) if only else abs(case.axial_n)
                return (
                    Try(demand=force * factor, capacity=most, topic="lug", input=lugs, output=where) if force else None
                )

            out.append(worst_of(kind, cases, attempt))
    return out


def _life(saved: PlateLink, around: Around) -> tuple[list[CheckResult], tuple[NotCarried, ...]]:
    """Its life at its holes, where something says what it goes through."""
    target = around.settings.life_cycles or BY_USE[around.use]
    force = saved.everyday_n
    if saved.between.kind == "end" and saved.between.end_id in around.ends:
        try:
            days = around.everyday(saved.between.end_id).cases
        except InputError as error:
            return [], (NotCarried(case=CASE, why=error.message),)
        lacking = next((one for one in days if one.fault), None)
        if lacking:
            return [], (NotCarried(case=CASE, why=f"{lacking.case.name}: {lacking.fault}"),)
        swings = swings_of_link(saved.side, saved.between.link, days)
        force = max(force or 0.0, swings[0][0] if swings else 0.0)
    if force is None:
        return [], (
            NotCarried(
                case=CASE, why="no end of the job says what it goes through; type the range of its everyday force"
            ),
        )
    weakest = Weakest(fatigue.STEEL, around.settings, target)
    for letter, pin in (("A", saved.pin_a_mm), ("B", saved.pin_b_mm)):
        net = saved.plates * saved.plate_mm * (saved.width_mm - pin - FIT)
        weakest.look(f"end {letter}", ("plate beside its hole", force / net, HOLE_CLASS, False))
    return weakest.results(), ()


PLATE_LINK = PlateLinkKind()
