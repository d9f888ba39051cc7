"""Strike pads as a kind of part: what a bump stop lands on, on the tube of an arm or on a flat.

The webs stand along the tube, their tops under the pad's face as the end has it, so that they may be taller at one end or on one side.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import degrees, floor, hypot, sqrt
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.brackets.strike_pad import Blow, PadOnWebs, plate_bending, web_push, web_stress
from tirante.core.brackets.weld_group import weld_group
from tirante.core.checks.kinds import asked
from tirante.core.checks.result import CheckResult, Reproduction, weakest_first
from tirante.core.checks.shown import Out
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.end import BumpStop
from tirante.core.document.forms.table import Field, FieldGroup, number, special
from tirante.core.document.joints import PointOfBody
from tirante.core.document.parts.strike_pad import StrikePad
from tirante.core.document.settings import Settings
from tirante.core.drawing.flat import draw_contour
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Frame, Numbers, Sheet
from tirante.core.errors import InputError
from tirante.core.flat.contour import Contour, Straight
from tirante.core.loads.on_body import BodyCase
from tirante.core.members.insert_weld import SHEAR_OF_ELECTRODE, THROAT_OF_LEG
from tirante.core.parts.around import Around, not_carried
from tirante.core.parts.body import BodySeen, seen_of
from tirante.core.parts.bracket.families.pad_under import LEANS_MOST, Under, under_member, under_part, under_typed
from tirante.core.parts.kind import Aim, Choice, Kind, Sized, ViewAsked
from tirante.core.parts.link.prudent import prudent_for
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, PlatePiece, View
from tirante.core.parts.plate_eye import MODULUS
from tirante.core.parts.plates import thinnest
from tirante.core.parts.stands import CUT_TRUE
from tirante.core.parts.worst import worst_case
from tirante.core.units import STEEL_DENSITY

Array = NDArray[np.float64]
WELD_ROOM = (
    4.0  # mm of a tube that stands out past both webs, for the fillets at their feet; common practice, no source
)
SHORTEST = 40.0  # mm, of a pad that is proposed
FITS = 12  # changes of its webs that are tried
NOT_CHECKED = (
    "the wall of what it stands on, pressed in by its webs", "its life: how often the stop is struck is not known", "dents and noise", "weld quality (assumed sound)", "corrosion",
)  # fmt: skip


class StrikePadOwn(Out):
    """What only a strike pad has."""

    kind: Literal["strike_pad"] = "strike_pad"
    push_n: float
    case: str
    stands_on: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PadShape:
    """The pad over what it stands on: x along that, z up from it, y across."""

    axes: Array  # (3, 3) rows: along the webs, across, square to the face; in the car
    heights: tuple[tuple[float, float], tuple[float, float]]  # of either web, at its rear and at its front end [mm]
    pad: PadOnWebs
    on: str  # in words
    od: float | None  # of the tube below; None: a flat
    skin: float  # from the middle of that tube up to the webs' feet [mm]


@dataclass(frozen=True, slots=True, kw_only=True)
class PadCase:
    """A pad in one case."""

    case: str
    where: str
    blow: Blow


@dataclass(frozen=True, slots=True, kw_only=True)
class PadMade:
    """A pad with its core objects."""

    shape: PadShape
    seen: BodySeen
    cases: tuple[PadCase, ...]


def shaped(saved: StrikePad, stop: BumpStop, under: Under) -> PadShape | Misfit:
    """The pad over what it stands on; or what stands in the way.

    Args:
        saved: as it is.
        stop: of its end.
        under: what its webs stand on.
    """
    face = np.array(stop.face) / np.linalg.norm(stop.face)
    along, out, od, off, told = under.along, under.out, under.od, under.off, under.told
    if face @ out < 0:
        face = -face
    across = np.cross(out, along)
    nx, ny, nz = float(face @ along), float(face @ across), float(face @ out)
    if nz < LEANS_MOST:
        return Misfit(field="end_id", message=f"The pad’s face leans {degrees(np.arccos(nz)):.0f}° from square to what it stands on. Turn it at Layout, or put it on another tube.")  # fmt: skip
    y = saved.apart_mm / 2
    if od is not None and y + saved.web_mm / 2 >= od / 2:
        return Misfit(field="apart_mm", message=f"The webs stand {saved.apart_mm:g} mm apart and pass beside a tube of {od:g} mm. Set them nearer, {floor(od - saved.web_mm - WELD_ROOM)} mm or less.")  # fmt: skip
    skin = sqrt((od / 2) ** 2 - y * y) if od is not None else 0.0
    base = off - saved.plate_mm / nz - skin

    def high(x: float, side: float) -> float:
        return base - (nx * x + ny * side * y) / nz

    half = saved.length_mm / 2
    if under.room is not None and min(under.room) < half - CUT_TRUE:
        return Misfit(field="mount", message=f"{told.split(',')[0]} ends {min(under.room):.0f} mm from the pad’s middle, and half the pad is {half:g} mm. Make it shorter, or give it another mount.")  # fmt: skip
    webs = tuple((high(-half, side), high(half, side)) for side in (1.0, -1.0))
    least = min(min(web) for web in webs)
    if least < saved.web_mm:
        return Misfit(field="length_mm" if under.given else "height_mm", message=f"{f'Only {least:.1f} mm is' if least > 0 else 'Nothing is'} left for a web under the pad. Move the pad further off at Layout, or make it shorter or thinner.")  # fmt: skip
    pad = PadOnWebs(
        plate=saved.plate_mm, length=saved.length_mm, web=saved.web_mm, apart=saved.apart_mm, height=max(max(web) for web in webs),
        footprint=stop.pad_radius_mm,
    )  # fmt: skip
    first = along - face * float(along @ face)
    first /= np.linalg.norm(first)
    return PadShape(
        axes=np.array([first, np.cross(face, first), face]),
        heights=(webs[0], webs[1]),
        pad=pad,
        on=told,
        od=od,
        skin=skin,
    )


def struck(shape: PadShape, point: str, cases: Sequence[BodyCase]) -> list[PadCase]:
    """Every case in which the stop strikes the pad.

    Args:
        shape: of the pad.
        point: its middle.
        cases: what acts on the body that it is on.
    """
    found = []
    for case in cases:
        own = [act for act in case.acting if act.place == point and act.what == "bump stop"]
        force = sum((act.force for act in own), np.zeros(3))
        size = float(force @ force)
        if size < 1.0:
            continue
        moment = sum((act.moment for act in own), np.zeros(3))
        at = np.cross(force, moment) / size  # where its line passes nearest to the pad's middle
        fx, fy, fz = (float(v) for v in shape.axes @ force)
        x, y, z = (float(v) for v in shape.axes @ at)
        if fz:  # moved along its line to the face
            x, y = x - z * fx / fz, y - z * fy / fz
        blow = Blow(push=abs(fz), along=fx, across=fy, off_along=x, off_across=y)
        found.append(PadCase(case=case.case, where=case.where, blow=blow))
    return found


def pad_checks(saved: StrikePad, shape: PadShape, cases: Sequence[PadCase], settings: Settings) -> list[CheckResult]:
    """All its checks; loads are factored before each.

    Args:
        saved: as it is.
        shape: of it.
        cases: in which it is struck.
        settings: factors, electrode.
    """
    if not cases:
        return []
    pad, factors = shape.pad, settings.factors
    bent, web, pressed, welded = (asked(key, part, factors) for key, part in (
        ("pad_plate", "plate"), ("pad_web", "webs"), ("pad_column", "webs"), ("pad_weld", "feet"),
    ))  # fmt: skip

    def times(blow: Blow, factor: float) -> Blow:
        return Blow(push=blow.push * factor, along=blow.along * factor, across=blow.across * factor, off_along=blow.off_along, off_across=blow.off_across)  # fmt: skip

    def again(blow: Blow, output: str, figure: str = "demand") -> Reproduction:
        data = {
            "plate_mm": pad.plate, "length_mm": pad.length, "web_mm": pad.web, "apart_mm": pad.apart, "height_mm": pad.height, "footprint_mm": pad.footprint,
            "push_n": blow.push, "along_n": blow.along, "across_n": blow.across, "off_along_mm": blow.off_along, "off_across_mm": blow.off_across,
            "yield_mpa": saved.yield_mpa,
        }  # fmt: skip
        return Reproduction(topic="strike-pad", input=data, output=output, figure=figure)

    strong = pad.column.column(saved.yield_mpa, MODULUS)
    leg = min(saved.leg_mm, saved.web_mm)
    half, y = pad.length / 2, pad.apart / 2
    runs = [(-half, side * y, half, side * y) for side in (1.0, -1.0)]

    def weld(one: PadCase) -> tuple[float, Reproduction, float]:
        blow = times(one.blow, welded.factor)
        force, at = (blow.along, blow.across, -blow.push), (blow.off_along, blow.off_across, pad.height)
        data = {
            "segments": [list(run) for run in runs], "leg_mm": leg, "force_n": list(force), "at_mm": list(at), "electrode_uts_mpa": settings.electrode_uts_mpa,
        }  # fmt: skip
        stress = weld_group(runs, force, at).max_line_force / (THROAT_OF_LEG * leg)
        return (
            stress,
            Reproduction(topic="weld", input=data, output="throat_stress_max_mpa", figure="demand"),
            SHEAR_OF_ELECTRODE * settings.electrode_uts_mpa,
        )

    def on(blow: Blow) -> tuple[float, Reproduction, float]:
        return plate_bending(pad, blow), again(blow, "plate_mpa"), saved.yield_mpa

    def at_foot(blow: Blow) -> tuple[float, Reproduction, float]:
        return web_stress(pad, blow), again(blow, "web_mpa"), saved.yield_mpa

    def as_column(blow: Blow) -> tuple[float, Reproduction, float]:
        return web_push(pad, blow), again(blow, "web_n"), strong

    return [
        worst_case(bent, cases, lambda one: on(times(one.blow, bent.factor))),
        worst_case(web, cases, lambda one: at_foot(times(one.blow, web.factor))),
        worst_case(pressed, cases, lambda one: as_column(times(one.blow, pressed.factor))),
        worst_case(welded, cases, weld),
    ]


class StrikePadKind(Kind[StrikePad]):
    """Strike pads."""

    key = "strike_pad"
    word = "strike pad"
    station = "brackets"
    saved = StrikePad
    own = StrikePadOwn
    searched = True
    of_tubes = False
    searches = "Every usual plate is judged against all checks, pad and webs of one thickness; its other sizes stay as they are."
    fields = (
        FieldGroup(title="Pad", note="Size it chooses how thick", fields=[
            number(StrikePad, "plate_mm", "Plate", "mm"), number(StrikePad, "length_mm", "Long, along what it stands on", "mm"),
            number(StrikePad, "width_mm", "Wide", "mm"), Field(path="plate_name", label="Steel", control="text"),
            number(StrikePad, "yield_mpa", "Yield", "MPa"), number(StrikePad, "uts_mpa", "Ultimate", "MPa"),
        ]),
        FieldGroup(title="Webs", fields=[
            number(StrikePad, "web_mm", "Thick", "mm"), number(StrikePad, "apart_mm", "Apart, middle to middle", "mm"),
            number(StrikePad, "leg_mm", "Fillet leg at their feet, outside", "mm"),
        ]),
        FieldGroup(title="What it stands on", note="on an arm’s tube or a mount both sizes come of that; on a box of an arm, or on what is not entered, they are typed", fields=[
            special("mount", "On which mount"),
            number(StrikePad, "height_mm", "Its face over what it stands on", "mm"),
            number(StrikePad, "tube_od_mm", "Tube that it stands on", "mm", optional=True, empty="a flat"),
        ]),
    )  # fmt: skip

    def _under(self, saved: StrikePad, around: Around) -> Under | Misfit:
        """What it stands on: the member that its joint is given, the tube of a part of the job, or what is typed."""
        stop = around.ends[saved.end_id].bump_stop
        assert stop
        face = np.array(stop.face) / np.linalg.norm(stop.face)
        for joint in around.held_by(saved.id):
            mount, at, found = around.mount_of(joint), around.at_of(joint), around.foot_of(joint)
            if mount is not None and at is not None:
                return under_member(mount, at, face)
            if found is not None:
                return under_part(found[1], found[0].name, saved, face)
        return under_typed(saved, face)

    def depends(self, saved: StrikePad, around: Around) -> str:
        """Where it stands, and which stop it is for."""
        told = []
        for joint in around.held_by(saved.id):
            mount, at, found = around.mount_of(joint), around.at_of(joint), around.foot_of(joint)
            told.append(f"{joint.held} {mount and mount.model_dump_json()} {at and at.key} {found and (found[0].name, found[1])}")  # fmt: skip
        return "|".join(told)

    def _made(self, saved: StrikePad, around: Around) -> PadMade | Misfit:
        lost = saved.lost(around.ends)
        if lost:
            return Misfit(field="end_id", message=lost)
        stop = around.ends[saved.end_id].bump_stop
        assert stop
        held = PointOfBody(end_id=saved.end_id, body=stop.pad.body, point=stop.pad.point)
        if all(joint.held != held for joint in around.held_by(saved.id)):
            return Misfit(field="end_id", message="The stop’s pad is not at this part any more: it was moved to another place at Layout. Take this one out and add one there.")  # fmt: skip
        if stop.pad_link:
            return Misfit(field="end_id", message=f"The stop lands on the {stop.pad_link} itself. Its pad is judged with that link; take this one out.")  # fmt: skip
        under = self._under(saved, around)
        shape = under if isinstance(under, Misfit) else shaped(saved, stop, under)
        if isinstance(shape, Misfit):
            return shape
        for point in (stop.pad.point, stop.tip.point):
            x, y, z = around.ends[saved.end_id].points[point]
            own = around.ends[saved.end_id].right_points.get(point)
            if own is not None and max(abs(a - b) for a, b in zip(own, (x, -y, z), strict=True)) > 1e-6:
                return Misfit(field="side", message="The stop stands elsewhere on the right: only pads that are alike on both sides are made here. Pair its points at Layout, or cut the right one by hand.")  # fmt: skip
        moving = stop.pad.body if stop.pad.body != "ground" else stop.tip.body
        if moving == "ground":
            return Misfit(field="end_id", message="Tip and pad of the stop are both on the chassis. Put one of them on what moves, at Layout.")  # fmt: skip
        seen = seen_of(saved, moving, around, either_side=True)
        point = stop.pad.point if stop.pad.body == moving else stop.tip.point
        cases = struck(shape, point, seen.cases)
        return PadMade(shape=shape, seen=seen, cases=tuple(cases))

    def work_out(self, saved: StrikePad, around: Around) -> Part:
        """The pad under every case in which it is struck."""
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED, "not_carried": not_carried(saved.of_end, around),
            "made_of": (f"{saved.plate_mm:g} mm plate", saved.plate_name),
        }  # fmt: skip
        try:
            made = self._made(saved, around)
            if isinstance(made, Misfit):
                return Part(**common, faults=(made,))
            checks = pad_checks(saved, made.shape, made.cases, around.settings)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("",))[0], message=error.message),))
        common["not_carried"] += made.seen.left_out
        webs = made.shape.heights
        twins = max(abs(a - b) for a, b in zip(*webs, strict=True)) < 1e-6
        pieces = [
            PlatePiece(name="pad", material=saved.plate_name, thickness=saved.plate_mm, length=saved.length_mm, width=saved.width_mm, outline=pad_outline(saved)),
            *(
                PlatePiece(name="web" if twins else name, material=saved.plate_name, thickness=saved.web_mm, length=saved.length_mm, width=max(web),
                           outline=web_outline(saved, web), count=2 if twins else 1)
                for name, web in (zip(("inner web", "outer web"), webs, strict=True) if not twins else [("web", webs[0])])
            ),
        ]  # fmt: skip
        mass = sum(p.outline.area * p.thickness * p.count for p in pieces if p.outline) * STEEL_DENSITY
        return Part(
            **common, pieces=tuple(pieces), checks=weakest_first(checks), mass=mass, own_mirror=twins,
            views=(View(name="drawing", title="pad and webs"), View(name="pad", title="pad, 1:1", cut=True, plate="pad"), View(name="web-1", title="web, 1:1", cut=True, plate="web" if twins else "inner web"),
                   *(() if twins else (View(name="web-2", title="other web, 1:1", cut=True, plate="outer web"),))),
            card=_card(saved, made.shape), notes=() if made.cases else ("no case strikes it: nothing of it was judged",),
            welding=("Tack pad and webs on a flat, then stand them on the tube; weld outside, both feet in turn.",), own=made,
        )  # fmt: skip

    def told(self, part: Part) -> StrikePadOwn | None:
        """The hardest blow, and what it stands on."""
        made = part.own
        if not isinstance(made, PadMade):
            return None
        push, case = max(((one.blow.push, one.case) for one in made.cases), default=(0.0, ""))
        return StrikePadOwn(push_n=push, case=case, stands_on=made.shape.on)

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """Pad and webs, or one of them at 1:1."""
        made, saved = part.own, part.saved
        assert isinstance(saved, StrikePad)
        if isinstance(made, PadMade):
            flats = {"pad": lambda: pad_outline(saved), "web-1": lambda: web_outline(saved, made.shape.heights[0]), "web-2": lambda: web_outline(saved, made.shape.heights[1])}  # fmt: skip
            if asked.name in flats:
                outline = flats[asked.name]()
                low_x, low_y, high_x, high_y = outline.bounds
                sheet = Sheet(name=asked.name, title=saved.name, width=high_x - low_x, height=high_y - low_y)
                draw_contour(sheet, Frame(-low_x, -low_y, 1.0), outline, "cut")
                return sheet.done()
            if asked.name == "drawing":
                return _sheet(saved, made.shape, numbers)
        return super().draw(part, asked, numbers)

    def fitted(self, saved: StrikePad, around: Around) -> StrikePad:
        """The same with its webs as far apart as the tube under them lets them stand, and as short as leaves metal in them; as it is where neither helps.

        Args:
            saved: as it is, its joint in the job.
            around: the job.
        """
        stop, under = around.ends[saved.end_id].bump_stop, self._under(saved, around)
        if stop is None or isinstance(under, Misfit):
            return saved
        for _ in range(FITS):
            found = shaped(saved, stop, under)
            if not isinstance(found, Misfit):
                break
            if found.field == "apart_mm" and under.od is not None:
                saved = saved.model_copy(update={"apart_mm": float(floor(under.od - saved.web_mm - WELD_ROOM))})
            elif found.field in ("length_mm", "mount") and saved.length_mm > SHORTEST:
                saved = saved.model_copy(update={"length_mm": saved.length_mm - 10.0})
            else:
                break
        return saved

    def size(self, saved: StrikePad, around: Around, shelf: Catalogue, aim: Aim) -> Sized:
        """The thinnest plate, of pad and webs alike, that holds."""
        del shelf
        wall = prudent_for(around.settings, around.use, (), "").wall
        made = self._made(saved, around)
        if isinstance(made, Misfit):
            raise InputError(made.message, code="not_complete", fields=(made.field,))
        if not made.cases:
            raise InputError(
                "No case strikes this pad, so nothing says what it must bear. Add one at Loads that comes down on the stop.",
                code="missing", fields=("loads",),
            )  # fmt: skip

        def make(mm: float) -> Choice:
            one = saved.model_copy(update={"plate_mm": mm, "web_mm": mm})
            worked = self.work_out(one, around)
            worst = worked.checks[0] if worked.checks else None
            return Choice(
                parts=(one,), joints=(), tube=f"{mm:g} mm plate", grade=one.plate_name, joint=None, stock=(f"{mm:g} mm plate", one.plate_name),
                mass=worked.mass or 0.0, worst=worst,
            )  # fmt: skip

        return thinnest(make, max(wall.value if wall else 0.0, 3.0), aim)


def pad_outline(saved: StrikePad) -> Contour:
    """A rectangle, its middle at 0."""
    return _polygon(
        [
            (x * saved.length_mm / 2, y * saved.width_mm / 2)
            for x, y in ((-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0))
        ]
    )


def web_outline(saved: StrikePad, heights: tuple[float, float]) -> Contour:
    """Its foot at 0, as high at either end as the pad's face asks.

    Args:
        saved: the pad.
        heights: at its rear and its front end [mm].
    """
    half = saved.length_mm / 2
    return _polygon([(-half, 0.0), (half, 0.0), (half, heights[1]), (-half, heights[0])])


def _polygon(corners: Sequence[tuple[float, float]]) -> Contour:
    return Contour(edges=tuple(Straight(*a, *b) for a, b in zip(corners, (*corners[1:], corners[0]), strict=True)))


def _card(saved: StrikePad, shape: PadShape) -> Card:
    one, two = shape.heights
    lines = [CardLine(text=f"pad {saved.width_mm:g} wide, of {saved.plate_name}", mm=saved.plate_mm)]
    for name, web in (("one web", one), ("other web", two)):
        lines.append(CardLine(text=f"{name}, at its rear end", mm=web[0]))
        lines.append(CardLine(text=f"{name}, at its front end", mm=web[1]))
    lines.append(CardLine(text="webs, middle to middle", mm=saved.apart_mm))
    return Card(
        figures=(Figure(label="pad and webs, long", mm=saved.length_mm, note=f"on {shape.on}"),), lines=tuple(lines)
    )


def _sheet(saved: StrikePad, shape: PadShape, numbers: Numbers) -> Drawing:
    sheet = Sheet(name="strike_pad", title=saved.name, width=217.0, height=120.0, numbers=numbers)
    tall = max(max(web) for web in shape.heights)
    below = shape.skin + (shape.od or 8.0) / 2
    scale = min(70.0 / saved.length_mm, 54.0 / (tall + saved.plate_mm + below), 1.5)
    sheet.scale = scale
    side, end = (Frame(x, 22.0 + scale * below, scale) for x in (62.0, 160.0))
    sheet.text((6, 112), f"along what it stands on: {shape.on}", 2.9, tone="muted")
    sheet.text((130, 112), "seen along it", 2.9, tone="muted")
    _ground(sheet, side, end, saved, shape)
    half, web = saved.length_mm / 2, shape.heights[0]
    draw_contour(sheet, side, web_outline(saved, web), "visible", ref="field:web_mm")
    run = hypot(saved.length_mm, web[1] - web[0])
    ux, uz = saved.length_mm / run * saved.plate_mm, (web[1] - web[0]) / run * saved.plate_mm
    _drawn(
        sheet,
        side,
        [(-half, web[0]), (half, web[1]), (half - uz, web[1] + ux), (-half - uz, web[0] + ux)],
        "field:plate_mm",
    )
    foot = side.at(0, -below)[1]
    at = side.at(-half, 0)[0], side.at(half, 0)[0]
    sheet.dimension((at[0], foot), (at[1], foot), saved.length_mm, offset=-5.0, ref="field:length_mm")
    sheet.dimension(side.at(-half, 0), side.at(-half, web[0]), web[0], offset=20.0, ref="dim:rear", size=3.0)
    sheet.dimension(side.at(half, 0), side.at(half, web[1]), web[1], offset=-6.0, ref="dim:front", size=3.0)
    y, t, w = saved.apart_mm / 2, saved.web_mm / 2, saved.width_mm / 2
    tops = [sum(one) / 2 for one in shape.heights]
    for middle, high in ((y, tops[0]), (-y, tops[1])):
        box = [(middle - t, 0.0), (middle + t, 0.0), (middle + t, high), (middle - t, high)]
        _drawn(sheet, end, box, "field:web_mm")
    rise, middle = (tops[0] - tops[1]) / saved.apart_mm * w, (tops[0] + tops[1]) / 2
    thick = saved.plate_mm
    plate = [(-w, middle - rise), (w, middle + rise), (w, middle + rise + thick), (-w, middle - rise + thick)]
    _drawn(sheet, end, plate, "field:plate_mm")
    sheet.dimension((end.at(-y, 0)[0], foot), (end.at(y, 0)[0], foot), saved.apart_mm, offset=-5.0, ref="field:apart_mm", note="webs’ middles")  # fmt: skip
    top = end.at(0, max(point[1] for point in plate))[1]
    sheet.dimension((end.at(-w, 0)[0], top), (end.at(w, 0)[0], top), saved.width_mm, offset=5.0, ref="field:width_mm", size=3.0)  # fmt: skip
    sheet.text((6, 6), f"pad {numbers.written(saved.plate_mm)}, webs {numbers.written(saved.web_mm)} {saved.plate_name}; fillet {numbers.written(min(saved.leg_mm, saved.web_mm))} outside", 2.9, tone="muted")  # fmt: skip
    return sheet.done()


def _drawn(sheet: Sheet, frame: Frame, corners: Sequence[tuple[float, float]], ref: str) -> None:
    sheet.area([frame.at(*corner) for corner in corners], "sheet", ref=ref)


def _ground(sheet: Sheet, side: Frame, end: Frame, saved: StrikePad, shape: PadShape) -> None:
    """What it stands on: a tube along and across, or a flat."""
    reach = 0.7 * saved.length_mm
    if shape.od is None:
        for frame, out in ((side, reach), (end, 0.7 * saved.width_mm)):
            box = [frame.at(x, z) for x, z in ((-out, 0.0), (out, 0.0), (out, -4.0), (-out, -4.0))]
            sheet.area(box, "pale", "thin", "muted")
        return
    r = shape.od / 2
    for z in (r - shape.skin, -r - shape.skin):
        sheet.line(side.at(-reach, z), side.at(reach, z), "thin", "muted")
    sheet.line(side.at(-reach, -shape.skin), side.at(reach, -shape.skin), "centre", "muted")
    sheet.circle(end.at(0.0, -shape.skin), r * end.scale, "thin")


STRIKE_PAD = StrikePadKind()
