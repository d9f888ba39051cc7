"""What a person may set of a link."""

from __future__ import annotations

from tirante.core.document.forms.table import Field, FieldChoice, FieldGroup, choice, number, special, switch
from tirante.core.document.parts.common import Welding
from tirante.core.document.parts.link import Bent, BoughtLink, FlatEnd, Link, Plug, Reducer, Sleeve, Splice

SCHOOLS = [
    FieldChoice(value="centred", label="centred",
                why="Equal travel in and out. More bare thread shows, and the bare shank is the weak point."),
    FieldChoice(value="buried", label="buried", why="Only a couple of threads show: strongest, but it hardly screws in any further."),
    FieldChoice(value="exposure", label="fixed", why="A set length of thread shows at each end, the same on every link."),
]  # fmt: skip

FIELDS = (
    FieldGroup(title="Between", fields=[special("between")]),
    FieldGroup(title="What it sees", note="newtons, before factors; pull +, push −; strike at mid-span, side at an eye",
               fields=[special("cases"), number(Link, "everyday_n", "Everyday force, most less least", "N", optional=True, empty="its end’s")]),
    FieldGroup(title="Tube", note="only what fits together is offered; what follows changes with it", fields=[
        Field(path="tube", label="Size", control="row", table="tubes"),
        Field(path="grade", label="Grade", control="row", table="grades", empty="Choose the tube first."),
    ]),
    FieldGroup(title="Ends", note="a right/left pair turns without dismantling; one adjustable end goes by half turns",
               fields=[special("ends")]),
    FieldGroup(title="Thread showing", fields=[
        Field(path="school", label="Thread showing", control="special", choices=SCHOOLS),
        special("engagement"),
    ]),
    FieldGroup(title="Insert welds", note="ring at the tube’s end, and plug welds through its wall", fields=[
        number(Welding, "leg_mm", "Fillet leg", "mm", at="welding/", optional=True, empty="the wall’s"),
        number(Welding, "plug_mm", "Plug weld diameter", "mm", at="welding/"),
        number(Welding, "plugs", "Plug welds an end", at="welding/"),
        number(Welding, "plugs_in_section", "of them in one cross-section", at="welding/"),
    ]),
    FieldGroup(title="Straightness and clocking", fields=[
        number(Link, "bow_mm", "Crookedness (length/1000 if empty)", "mm", optional=True),
        number(Link, "clocking_deg", "Bolt of B turned against A, clockwise as seen from A", "°"),
        Field(path="mid_welded", label="something is welded on along the span", control="switch"),
    ]),
    FieldGroup(title="Bent", of="bent", switch="bent round something", fields=[
        Field(path="bent/offset", label="Off the line by", control="length", least=0.1),
        Field(path="bent/from_ends", label="Bends from either pivot (one in the middle if empty)", control="length", optional=True),
        number(Bent, "plane_deg", "It points, from square to end A’s bolt, upper side", "°", at="bent/"),
        number(Bent, "radius_mm", "Bender’s radius, at the tube’s middle (3 × the tube if empty)", "mm", at="bent/", optional=True),
        special("bend_to_clear"),
    ]),
    FieldGroup(title="Splice", of="splice", switch="two lengths of tube joined by a sleeve", fields=[
        Field(path="splice/at", label="Joined, from pivot A", control="length"),
        choice("splice/sleeve", "Sleeve", [("inside", "inside the tube"), ("outside", "outside it")]),
        Field(path="splice/length", label="Sleeve, long", control="length"),
        number(Splice, "wall_mm", "Sleeve’s wall", "mm", at="splice/"),
        number(Splice, "plugs", "Plug welds on either side", at="splice/"),
        number(Splice, "plugs_in_section", "of them in one cross-section", at="splice/"),
        number(Splice, "plug_mm", "Plug weld diameter", "mm", at="splice/"),
        number(Splice, "leg_mm", "Ring’s leg", "mm", at="splice/", optional=True, empty="the wall’s"),
    ]),
    FieldGroup(title="Bought link", of="bought", switch="it is a bought link, to be shortened", fields=[
        choice("bought/measured", "What was measured of it", [("tube", "its bare tube"), ("centres", "pin to pin")]),
        Field(path="bought/tube_length", label="Its tube as bought, end to end", control="length", optional=True, only="bought/measured=tube"),
        Field(
            path="bought/centres", label="Pin to pin as bought", control="length", optional=True, only="bought/measured=centres",
            note="with as much thread showing at either end as this link is to show",
        ),
        choice("bought/keep", "The end that stays", [("a", "end A stays"), ("b", "end B stays")]),
        switch("bought/with_joints", "its rod ends and nuts came with it"),
        special("bought_told"),
    ]),
)  # fmt: skip

MACHINED = {
    "form": "eye", "thickness_mm": 20.0, "width_mm": 40.0, "hole_mm": 12.2, "pin_mm": 12.0, "edge_mm": 26.0, "gap_mm": 0.0,
    "yield_mpa": 355.0, "uts_mpa": 490.0, "pin_yield_mpa": 640.0,
}  # fmt: skip


def begins(link: Link, tube_cut: float | None) -> dict[str, object]:
    """What the objects that may be absent begin with.

    Args:
        link: as it is saved.
        tube_cut: its saw length [mm], where that is known.
    """
    length = link.between.mm
    return {
        "bent": {"offset": {"mm": 20.0, "typed": None}, "from_ends": None, "radius_mm": None},
        "splice": Splice(at={"mm": float(round(length / 3))}, length={"mm": 120.0}, wall_mm=4.0).model_dump(),  # type: ignore[arg-type]
        "bought": BoughtLink(tube_length={"mm": max(10.0, tube_cut or 500.0)}).model_dump(),  # type: ignore[arg-type]
        "machined": MACHINED,
        "flat": FlatEnd().model_dump(),
        "sleeve": Sleeve().model_dump(),
        "reducer": Reducer().model_dump(),
        "plug": Plug().model_dump(),
        "fixed": {"kind": "fixed", "what": "bush sleeve", "centre_to_face": {"mm": 25.0, "typed": None}, "machined": None, "flat": None, "sleeve": None, "plug": None, "eye": None},
        "eye": {"bore_mm": 12.0, "ball_width_mm": 54.0, "head_diameter_mm": 44.0, "housing_width_mm": 50.0, "tilt_limit_deg": None},
        "rod_end": {"kind": "rod_end", "joint": None, "insert": None, "nut": None, "hand": "RH", "tapped_mm": None},
        "tapped_mm": 40.0, "showing": {"mm": 5.0, "typed": None}, "case": {"name": "case", "axial_n": 0.0, "strike_n": 0.0, "side_n": 0.0},
    }  # fmt: skip
