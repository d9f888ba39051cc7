"""Boxed links as a kind of part."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Literal

from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.fields import Length
from tirante.core.document.forms.table import Field, FieldGroup, number, special
from tirante.core.document.parts.boxed_link import BoxedLink
from tirante.core.document.parts.common import LoadCase
from tirante.core.document.settings import Settings
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers, Sheet
from tirante.core.jigs.features import DUMMY, Bar, Features, Held
from tirante.core.parts.around import Around, not_carried, seen_between
from tirante.core.parts.boxed_link.checks import NOT_CHECKED, box_of, boxed_checks, boxed_mass, boxed_notes
from tirante.core.parts.boxed_link.plates import plates_of
from tirante.core.parts.boxed_link.sizing import size_box
from tirante.core.parts.boxed_link.view import BoxDrawn, box_sheet
from tirante.core.parts.cases import CaseOut, cases_out
from tirante.core.parts.flat_plates import plate_views
from tirante.core.parts.kind import Aim, Kind, Sized, ViewAsked
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.part import Misfit, Part, View


class BoxedOwn(Out):
    """What only a boxed link has."""

    kind: Literal["boxed_link"] = "boxed_link"
    length_mm: float
    cases: list[CaseOut]


class BoxedLinkKind(Kind[BoxedLink]):
    """Links of four plates."""

    key = "boxed_link"
    word = "boxed link"
    saved = BoxedLink
    own = BoxedOwn
    stands_between = True
    searched = True
    of_tubes = False
    searches = "Side, top and bottom plates of stock thickness are judged against all checks under what it sees, its outside sizes as they are."
    fields = (
        FieldGroup(title="Between", fields=[special("between")]),
        FieldGroup(title="What it sees", note="what strikes it pushes square on its pad: type the stop’s force as the strike of a case",
                   fields=[special("cases")]),
        FieldGroup(title="Plates", note="sides, top, bottom and a pad, for a bump stop that lands on the link", fields=[
            Field(path="height", label="High, outside", control="length"),
            Field(path="width", label="Wide, outside", control="length"),
            number(BoxedLink, "side_mm", "Side plates", "mm"),
            number(BoxedLink, "top_mm", "Top plate", "mm"),
            number(BoxedLink, "bottom_mm", "Bottom plate", "mm"),
            number(BoxedLink, "leg_mm", "Seams’ leg", "mm"),
            number(BoxedLink, "boss_mm", "Bosses through the sides, outside", "mm", optional=True, empty="not known"),
            Field(path="pad_at", label="Pad, from pivot A", control="length"),
            number(BoxedLink, "pad_offset_mm", "Pad off the middle", "mm"),
            Field(path="plate_name", label="Plate", control="text"),
            number(BoxedLink, "yield_mpa", "Plate’s yield", "MPa"),
            number(BoxedLink, "uts_mpa", "Plate’s ultimate", "MPa"),
        ]),
    )  # fmt: skip

    def between(self, fields: Mapping[str, Any], settings: Settings) -> BoxedLink:
        """A box as a fabricator would begin it, its pad at mid-span; its sizes are to be set."""
        del settings
        middle = Length(mm=float(round(fields["between"].mm / 2)))
        return BoxedLink(
            **fields,
            height=Length(mm=70.0),
            width=Length(mm=60.0),
            side_mm=5.0,
            top_mm=6.0,
            bottom_mm=5.0,
            pad_at=middle,
        )

    def begins(self, saved: BoxedLink) -> dict[str, Any]:
        """A case without a force."""
        del saved
        return {"case": LoadCase(name="case").model_dump(mode="json")}

    def work_out(self, saved: BoxedLink, around: Around) -> Part:
        """Checks and plates; it has no tube, no thread and no rail jig."""
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "not_carried": not_carried(saved.of_end, around),
            "made_of": ("boxed of four plates", saved.plate_name), "own": BoxedOwn(length_mm=saved.between.mm, cases=cases_out(cases)),
        }  # fmt: skip
        lost = saved.lost(around.ends)
        if lost:
            return Part(**common, faults=(Misfit(field="between", message=lost),))
        pieces = plates_of(saved, box_of(saved))
        return Part(
            **common, pieces=pieces, checks=boxed_checks(saved, cases, around.settings), mass=boxed_mass(saved),
            views=(View(name="drawing", title="from the side and in section"), *plate_views(pieces)), notes=tuple(boxed_notes(saved)),
        )  # fmt: skip

    def features(self, saved: BoxedLink, around: Around) -> Features | str:
        """The holes of its sides, that dummies as thick as its bosses go through, and the box between them."""
        del around
        if saved.boss_mm is None:
            return "A jig’s dummies go in the holes of its sides. Give the bosses’ outside first, at station 5."
        long, wide = saved.between.mm, saved.width.mm
        held = tuple(
            Held(
                name=f"end {letter}", at=(x, 0.0, 0.0), axis=(0.0, 1.0, 0.0), directed=False, bore=DUMMY, wide=wide, outside=saved.height.mm,
                what="sides, a dummy in the place of the boss", seat=saved.boss_mm,
            )
            for letter, x in (("A", 0.0), ("B", long))
        )  # fmt: skip
        # its long seams run along its edges: a rest stands under the middle of a plate
        box = Bar(name="box", a=(0.0, 0.0, 0.0), b=(long, 0.0, 0.0), od=max(saved.height.mm, wide), a_seam=None, b_seam=None, to=("end A", "end B"), square=True)  # fmt: skip
        return Features(held=held, bars=(box,))

    def size(self, saved: BoxedLink, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The lightest plates that hold; the shelf holds no plates."""
        del shelf
        cases = seen_between(saved.between, saved.side, saved.cases, around)
        wall = prudent_for(around.settings, around.use, cases, "").wall
        assert wall is not None
        return size_box(saved, cases, around.settings, aim, wall.value, wall.why)

    def span(self, part: Part) -> float | None:
        """Pivot to pivot."""
        assert isinstance(part.saved, BoxedLink)
        return part.saved.between.mm

    def tall(self, part: Part) -> float:
        """Its height."""
        assert isinstance(part.saved, BoxedLink)
        return part.saved.height.mm

    def strip(self, part: Part, sheet: Sheet, at: tuple[float, float], scale: float, ref: str) -> None:
        """As the rectangle of its sides."""
        link = part.saved
        assert isinstance(link, BoxedLink)
        (x, y), half = at, link.height.mm / 2 * scale
        sheet.box((x, y - half), (x + link.between.mm * scale, y + half), "pale", ref=ref)

    def told(self, part: Part) -> Out | None:
        """Its length and what it sees."""
        own: BoxedOwn = part.own
        return own

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """From the side and in section."""
        link = part.saved
        assert isinstance(link, BoxedLink)
        if asked.name != "drawing":
            return super().draw(part, asked, numbers)
        drawn = BoxDrawn(
            title=link.name, length=link.between.mm, height=link.height.mm, width=link.width.mm, side=link.side_mm, top=link.top_mm,
            bottom=link.bottom_mm, pad_at=link.pad_at.mm, pad_offset=link.pad_offset_mm, leg=link.leg_mm, plate=link.plate_name, boss=link.boss_mm,
        )  # fmt: skip
        return box_sheet(drawn, numbers)


BOXED_LINK = BoxedLinkKind()
