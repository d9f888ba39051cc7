"""Set jigs as a kind of part: which links go on it, where its carriage stands for each, its bar with slots and scale."""

from __future__ import annotations

from typing import Any, Literal

from tirante.core.checks.shown import Out
from tirante.core.document.forms.table import Field, FieldGroup, number
from tirante.core.document.parts.set_jig import SetJig
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.jigs.set_jig import FOOT, LONG, STEP, across, bar_contour, set_jig, two_ended
from tirante.core.jigs.set_jig import SetJig as Laid
from tirante.core.parts.around import Around
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import (
    BoughtPiece,
    Card,
    CardLine,
    Figure,
    Misfit,
    Part,
    Piece,
    PlatePiece,
    TurnedPiece,
    View,
)

WIDTH, ROW = 217.0, 5.4
EDGE = 15.0  # [mm] of post round its hole; common practice, no source
LEAST = 0.2  # [mm] of spacer that is turned
NOT_CHECKED = ("how far its bar gives as a link draws", "links whose bolts are not parallel: each by a jig of its own")
ORDER = (
    "Set the carriage by the scale, clamp it, then by a rule over both dummy bolts to the figure in the table: the scale alone is read to half a millimetre.",
    "Spacers as the table has them, bushes where the bolt is thinner than the posts’ holes.",
    "Tack, measure, take out and try on the car, back in, weld in balance, cool clamped, measure again.",
)


class SettingOut(Out):
    """A link's place on the jig."""

    name: str
    at_mm: float
    spacers_mm: tuple[float, float]


class SetJigOwn(Out):
    """What only a set jig has."""

    kind: Literal["set_jig"] = "set_jig"
    settings: list[SettingOut]
    gap_mm: float
    left_out: list[str]


class SetJigKind(Kind[SetJig]):
    """Set jigs."""

    key = "set_jig"
    word = "set jig"
    station = "jigs"
    saved = SetJig
    own = SetJigOwn
    of_tubes = False
    fields = (
        FieldGroup(title="What it takes", fields=[
            number(SetJig, "gap_mm", "Between its posts", "mm", optional=True, empty="as the widest asks"),
            number(SetJig, "up_to_mm", "Links as long as (0: those of the job)", "mm"), number(SetJig, "clearance_mm", "Under a link", "mm"),
        ]),
        FieldGroup(title="Built of", fields=[ number(SetJig, "plate_mm", "Bar, thick", "mm"), number(SetJig, "margin_mm", "Bar past its posts", "mm"),
            number(SetJig, "post_thick_mm", "Posts, thick", "mm"), number(SetJig, "clamp_mm", "Slots, wide", "mm"), number(SetJig, "pilot_mm", "Holes of the fixed posts", "mm"),
            Field(path="plate_name", label="Its steel", control="text"),
        ]),
    )  # fmt: skip

    def depends(self, saved: SetJig, around: Around) -> str:
        """Every link that goes on it."""
        del saved
        return str(self._links(around))

    def _links(self, around: Around) -> tuple[list[tuple[str, Any]], list[str]]:
        """What goes on it, by name; what does not, and why."""
        found, left = [], []
        for one in around.spanning:
            features = around.features(one)
            why = features if isinstance(features, str) else two_ended(features)
            if why:
                left.append(f"{one.name}: {why.rstrip('.')}")
            else:
                found.append((one.name, features))
        return found, left

    def work_out(self, saved: SetJig, around: Around) -> Part:
        """Its settings and pieces."""
        common: dict[str, Any] = {"saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "made_of": (f"plate {saved.plate_mm:g} mm", saved.plate_name)}  # fmt: skip
        links, left = self._links(around)
        try:
            laid = set_jig(
                links,
                shrink=around.settings.weld_shrink_mm,
                clearance=saved.clearance_mm,
                margin=saved.margin_mm,
                gap=saved.gap_mm,
                up_to=saved.up_to_mm,
            )
        except InputError as error:
            more = f" Not on it: {'; '.join(left)}." if left else ""
            return Part(**common, faults=(Misfit(field=(error.fields or ("links",))[0], message=error.message + more),))
        bent = [one.name for one in laid.settings if one.bent]
        notes = [f"Not on it: {one}." for one in left]
        if bent:
            notes.append(f"{', '.join(bent)}: bent; its bends lie level, beside the bar, and it is propped by hand.")
        return Part(
            **common, pieces=_pieces(saved, laid), own_mirror=True, notes=tuple(notes),
            views=(View(name="drawing", title="bar and settings"), View(name="bar", title="bar with its scale, 1:1", cut=True, plate="bar", told=f"Bar of the set jig, {saved.plate_mm:g} mm {saved.plate_name}: slots, holes of the fixed posts, scale etched from the fixed bolt.")),
            card=Card(
                figures=tuple(Figure(label=one.name, mm=one.at, note="bolt to bolt on the jig") for one in laid.settings),
                lines=(CardLine(text="Measure over both dummy bolts before each link: the scale is read to half a millimetre.", strong=True),),
            ),
            welding=ORDER, own=(laid, tuple(left)),
            tool=f"Holds {len(laid.settings)} links from {laid.settings[0].at:.1f} mm to {laid.settings[-1].at:.1f} mm, posts {laid.gap:.1f} mm apart.",
        )  # fmt: skip

    def told(self, part: Part) -> SetJigOwn | None:
        """Its settings."""
        if not isinstance(part.own, tuple):
            return None
        laid, left = part.own
        return SetJigOwn(
            settings=[SettingOut(name=one.name, at_mm=one.at, spacers_mm=one.spacers) for one in laid.settings], gap_mm=laid.gap, left_out=list(left)
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Its bar with the table, or the bar at 1:1."""
        saved = part.saved
        if not isinstance(saved, SetJig) or not isinstance(part.own, tuple):
            return super().draw(part, asked, numbers)
        laid: Laid = part.own[0]
        contour = bar_contour(laid, post=saved.post_thick_mm, clamp=saved.clamp_mm, pilot=saved.pilot_mm)
        if asked.name == "bar":
            return _bar_sheet(saved, laid, contour)
        if asked.name != "drawing":
            return super().draw(part, asked, numbers)
        return _sheet(saved, laid, contour, numbers)


def _figures(sheet: Sheet, frame: Frame, laid: Laid, wide: float, size: float) -> None:
    """The figures of the scale's longer marks."""
    first, last = (int(one // STEP) for one in laid.slots)
    for i in range(first, last + 1):
        if i % LONG == 0 and laid.slots[0] <= i * STEP <= laid.slots[1]:
            at = frame.at(i * STEP, wide / 2 - 12.0)
            sheet.text((at[0], at[1] - size), f"{i * STEP:.0f}", size, "middle")


def _bar_sheet(saved: SetJig, laid: Laid, contour: Any) -> Drawing:
    left, low, right, high = contour.bounds
    sheet = Sheet(name="bar", title=f"bar of {saved.name}", width=right - left, height=high - low)
    frame = Frame(-left, -low, 1.0)
    draw_contour(sheet, frame, contour, "cut")
    for mark in contour.marks:
        sheet.line(frame.at(*mark.start), frame.at(*mark.end), "mark")
    _figures(sheet, frame, laid, across(laid, post=saved.post_thick_mm, clamp=saved.clamp_mm)[1], 5.0)
    return sheet.done()


def _sheet(saved: SetJig, laid: Laid, contour: Any, numbers: Numbers) -> Drawing:
    left, _, right, _ = contour.bounds
    scale = min((WIDTH - 16) / (right - left), 0.6)
    wide = across(laid, post=saved.post_thick_mm, clamp=saved.clamp_mm)[1]
    tall = wide * scale
    high = laid.height + EDGE + laid.bore / 2 + saved.plate_mm
    sheet = Sheet(
        name="set_jig",
        title=saved.name,
        width=WIDTH,
        height=40 + tall + high * scale + 30 + ROW * len(laid.settings),
        numbers=numbers,
        scale=scale,
    )
    y = sheet.height - 8
    sheet.text((6, y), "From above, its carriage at the longest; scale from the fixed bolt", 3.2, bold=True)
    frame = Frame(8 - left * scale, y - 10 - tall / 2, scale)
    draw_contour(sheet, frame, contour, "visible", ref="field:clamp_mm")
    for mark in contour.marks:
        sheet.line(frame.at(*mark.start), frame.at(*mark.end), "thin", "muted")
    longest = laid.settings[-1].at
    for x in (0.0, longest):
        for sign in (1.0, -1.0):
            v = sign * (laid.gap / 2 + saved.post_thick_mm / 2)
            sheet.box(
                frame.at(x - FOOT / 2, v - saved.post_thick_mm / 2),
                frame.at(x + FOOT / 2, v + saved.post_thick_mm / 2),
                "steel",
                "thin",
                "blue",
                ref="field:gap_mm",
            )
        sheet.line(frame.at(x, -wide / 2), frame.at(x, wide / 2), "centre", "blue")
    floor = y - 10 - tall - 12 - high * scale
    side = Frame(frame.ox, floor, scale)
    sheet.box(side.at(left, 0), (side.at(right, 0)[0], floor - min(5.0, saved.plate_mm * scale)), "pale", "visible")
    for x in (0.0, longest):
        sheet.box(side.at(x - FOOT, 0), side.at(x + FOOT, saved.plate_mm), "pale", "thin")
        sheet.box(side.at(x - FOOT / 2, saved.plate_mm), side.at(x + FOOT / 2, high), "steel", "thin", "blue")
        sheet.circle(side.at(x, saved.plate_mm + laid.height), laid.bore / 2 * scale, "visible", "sheet")
    sheet.dimension(
        side.at(0, saved.plate_mm),
        side.at(0, saved.plate_mm + laid.height),
        laid.height,
        offset=-(FOOT / 2 * scale + 6),
        ref="field:clearance_mm",
        both=False,
    )
    y = floor - 14
    fine = Numbers(unit=numbers.unit, fits=True)
    for x, head in ((8.0, "link"), (108.0, "bolt to bolt"), (150.0, "spacers at A, each side"), (196.0, "at B")):
        sheet.text((x, y), head, 2.7, "start" if x < 10 else "end", "muted")
    for one in laid.settings:
        y -= ROW
        sheet.text((8, y), one.name, 3.2)
        sheet.text((108, y), fine.main(one.at), 3.4, "end", "blue", mono=True, bold=True)
        for x, mm in ((150.0, one.spacers[0]), (196.0, one.spacers[1])):
            sheet.text((x, y), fine.main(mm) if mm > LEAST else "none", 3.2, "end", mono=True)
    return sheet.done()


def _pieces(saved: SetJig, laid: Laid) -> tuple[Piece, ...]:
    contour = bar_contour(laid, post=saved.post_thick_mm, clamp=saved.clamp_mm, pilot=saved.pilot_mm)
    left, low, right, high = contour.bounds
    tall = laid.height + EDGE + laid.bore / 2
    found: list[Piece] = [
        PlatePiece(name="bar", material=saved.plate_name, thickness=saved.plate_mm, length=right - left, width=high - low, outline=contour, told="flat, slots and scale"),
        TurnedPiece(name="posts", what=f"post: flat bar {FOOT:g} × {saved.post_thick_mm:g} mm, {tall:.1f} mm long, hole ⌀{laid.bore:g} mm {laid.height:.1f} mm from its foot; two on either foot plate", count=4, sort="jig"),
        PlatePiece(name="foot plates", material=saved.plate_name, thickness=saved.plate_mm, length=FOOT * 2, width=across(laid, post=saved.post_thick_mm, clamp=saved.clamp_mm)[1] - 24, count=2, told="two posts welded on either; one screwed to the bar, one clamped through both slots"),
        BoughtPiece(sort="jig", what=f"clamping bolt for a {saved.clamp_mm:g} mm slot, with nut and washer", count=4),
        BoughtPiece(sort="jig", what=f"dummy bolt ⌀{laid.bore:g} mm, {laid.gap + 2 * saved.post_thick_mm + 30:.0f} mm or longer under its head", count=2),
    ]  # fmt: skip
    spacers = sorted(
        {
            (round(mm, 1), bore)
            for one in laid.settings
            for mm, bore in zip(one.spacers, one.bores, strict=True)
            if mm > LEAST
        }
    )
    found += [TurnedPiece(name=f"spacer {mm:g}", what=f"spacer ⌀{bore + 12:g} × {mm:.1f} mm, bored ⌀{bore:g} mm", count=4, sort="jig") for mm, bore in spacers]  # fmt: skip
    thin = sorted({bore for one in laid.settings for bore in one.bores if bore < laid.bore - 0.01})
    found += [TurnedPiece(name=f"bush {bore:g}", what=f"bush ⌀{laid.bore:g} × {saved.post_thick_mm:g} mm, bored ⌀{bore:g} mm, for the posts’ holes", count=4, sort="jig") for bore in thin]  # fmt: skip
    return tuple(found)


SET_JIG = SetJigKind()
