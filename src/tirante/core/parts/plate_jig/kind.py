"""Jigs on a plate as a kind of part: laid out for what they hold, their own posts, dummies and spacers on the cut list."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np

from tirante.core.checks.shown import Out
from tirante.core.document.forms.table import Field, FieldGroup, choice, number, switch, text
from tirante.core.document.parts.plate_jig import PlateJig, UprightOf
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.jigs.features import Features
from tirante.core.jigs.handed import own_mirror, signed_figure
from tirante.core.jigs.plane import through
from tirante.core.jigs.plate import PlateJig as Laid
from tirante.core.jigs.plate import best_plane, crowded, laid_out, narrower
from tirante.core.jigs.posts import Sizes
from tirante.core.parts.around import Around
from tirante.core.parts.kind import Kind, ViewAsked
from tirante.core.parts.part import Card, CardLine, Figure, Misfit, Part, View
from tirante.core.parts.plate_jig.made import Hand, JigMade, pieces_of
from tirante.core.parts.plate_jig.upright import kingpin_told, upright_features
from tirante.core.parts.plate_jig.view import jig_sheet, plate_sheet, posts_sheet

_UP = np.array([0.0, 0.0, 1.0])
NOT_CHECKED = (
    "how far plate and posts give as the part draws", "what a bead on the side of a tube draws, where a tube ends on another", "that the plate is flat: check it with a straight edge",
)  # fmt: skip
ORDER = (
    "Check the jig by its ordinates, then by every length below, before metal goes in.",
    "Lay the tubes in and tack each joint in four places, opposite sides in turn; put paper or tape on what is ground.",
    "Measure every length and the signed figure.",
    "Take it out and cycle it on the car, springs off: nothing binds or touches. Mark what must change.",
    "Back in the jig: weld in balance, short runs, opposite joints in turn. No arc on a ball or a thread, the earth clamp on the part.",
    "Let it cool clamped, then draw one bolt: it must go back by hand.",
    "Inspect the beads; crack-test what steers or alone locates. Ream or gauge bores that were welded round.",
    "Measure every length and the signed figure again, and write them down.",
)


class JigHandOut(Out):
    """One hand's check list."""

    hand: str
    signed_mm: float | None
    signed_tolerance_mm: float | None
    signed_plane: list[str]
    signed_at: str
    in_the_way: list[str]
    comes_out: str


class JigLengthOut(Out):
    """Two joints and how far apart they are."""

    a: str
    b: str
    mm: float


class PlateJigOwn(Out):
    """What only a jig has."""

    kind: Literal["plate_jig"] = "plate_jig"
    holds: str
    holds_id: str | None
    lies: str
    own_mirror: bool
    both_hands: bool
    tolerance_mm: float
    shrink_mm: float
    lengths: list[JigLengthOut]
    hands: list[JigHandOut]


@dataclass(frozen=True, slots=True)
class _Of:
    """What a jig holds: its name, which sides it is made for, what is taken hold of, and what of it is to be told."""

    name: str
    side: str
    features: Features
    told: str = ""


class PlateJigKind(Kind[PlateJig]):
    """Jigs of plate and posts, or of box tube and angle iron."""

    key = "plate_jig"
    word = "jig"
    station = "jigs"
    saved = PlateJig
    own = PlateJigOwn
    of_tubes = False
    fields = (
        FieldGroup(title="How the part lies", fields=[
            choice("lies", "It lies", [("least posts", "as it asks least of posts"), ("level", "level, as in the car"), ("through three joints", "on three joints that I name")]),
            Field(path="through", label="Three joints, with commas between", control="text", only="lies=through three joints"),
            switch("over", "turned over"),
            text("datum", "Ordinates begin at (empty: its first joint)"),
            number(UprightOf, "bore_mm", "Dummies in its joints", "mm", at="upright/", only="what=an upright"), number(UprightOf, "wide_mm", "Its bosses, from face to face", "mm", at="upright/", only="what=an upright"),
            number(UprightOf, "outside_mm", "Bosses, outside", "mm", at="upright/", only="what=an upright"), number(UprightOf, "wheel_bore_mm", "Bar along the wheel’s axis", "mm", at="upright/", only="what=an upright"),
            number(UprightOf, "wheel_wide_mm", "What that goes through, long", "mm", at="upright/", only="what=an upright"), number(UprightOf, "wheel_outside_mm", "and across", "mm", at="upright/", only="what=an upright"),
        ]),
        FieldGroup(title="Built of", fields=[
            choice("base", "Base", ["plate and posts", "box tube and angle iron"]),
            number(PlateJig, "plate_mm", "Plate", "mm", only="base=plate and posts"),
            Field(path="plate_name", label="Its steel", control="text", only="base=plate and posts"),
            number(PlateJig, "margin_mm", "Plate round what stands on it", "mm", only="base=plate and posts"),
            number(PlateJig, "rail_mm", "Box tube, outside", "mm", only="base=box tube and angle iron"),
            number(PlateJig, "rail_wall_mm", "Its wall", "mm", only="base=box tube and angle iron"),
            number(PlateJig, "post_wide_mm", "Posts, wide", "mm"),
            number(PlateJig, "post_thick_mm", "Posts, thick", "mm"),
        ]),
        FieldGroup(title="Room", note="what a hand and a torch need", fields=[
            number(PlateJig, "clearance_mm", "Under the part", "mm"),
            number(PlateJig, "room_mm", "From a bead to a post", "mm"),
        ]),
        FieldGroup(title="Holes in the plate", folded=True, fields=[
            number(PlateJig, "pilot_mm", "Pilot holes", "mm"), number(PlateJig, "datum_hole_mm", "Datum hole", "mm"),
        ]),
    )  # fmt: skip

    def depends(self, saved: PlateJig, around: Around) -> str:
        """What it takes hold of, by what that is called and which hand it is."""
        return str(self._held(saved, around))

    def _held(self, saved: PlateJig, around: Around) -> _Of | str:
        """What it holds, or what stands in the way."""
        if saved.upright is not None:
            return self._upright(saved.upright, around)
        held = around.saved(saved.holds or "")
        if held is None:
            return "The part that it held is not there any more. Take the jig out, or undo."
        features = around.features(held)
        return features if isinstance(features, str) else _Of(held.name, held.side, features)

    @staticmethod
    def _upright(of: UprightOf, around: Around) -> _Of | str:
        end = around.ends.get(of.end_id)
        if end is None:
            return "The suspension end of this upright is not there any more. Take the jig out, or undo."
        try:
            template = around.template(of.end_id)
        except InputError as error:
            return error.message
        features = upright_features(of, template, end)
        if isinstance(features, str):
            return features
        name = f"{of.body.replace('_', ' ')} of {around.end_name(of.end_id)}"
        return _Of(name, "pair", features, kingpin_told(of, template, end))

    def work_out(self, saved: PlateJig, around: Around) -> Part:
        """Posts, dummies and plate, for each hand."""
        common: dict[str, Any] = {
            "saved": saved, "word": self.word, "not_checked": NOT_CHECKED,
            "made_of": (saved.base, saved.plate_name if saved.base == "plate and posts" else "mild steel"),
        }  # fmt: skip
        held = self._held(saved, around)
        if isinstance(held, str):
            return Part(**common, faults=(Misfit(field="holds", message=held),))
        features = held.features
        try:
            made = self._made(saved, held, around)
        except InputError as error:
            return Part(**common, faults=(Misfit(field=(error.fields or ("holds",))[0], message=error.message),))
        one = made.hands[0].jig
        made = replace(made, notes=(*made.notes, *_notes(features, one), *((held.told,) if held.told else ())))
        separate = len(made.hands) > 1
        views = []
        for hand in made.hands:
            end = f"-{hand.word.lower()}" if separate else ""
            word = f", {hand.word}" if hand.word else ""
            views += [
                View(name=f"jig{end}", title=f"plan and elevation{word}"),
                View(name=f"posts{end}", title=f"ordinates and check list{word}"),
            ]
            if saved.base == "plate and posts":
                name = f"{hand.word.lower()} base" if hand.word else "base"
                views.append(View(name=f"plate{end}", title=f"plate, 1:1{word}", cut=True, plate=name, told=f"Base plate of the jig of {held.name}{word}, {saved.plate_mm:g} mm {saved.plate_name}: datum hole reamed, pilot holes, outlines etched."))  # fmt: skip
        return Part(
            **common, pieces=pieces_of(saved, made), own_mirror=made.own_mirror, views=tuple(views), card=_card(made), welding=(*ORDER, one.comes_out),
            notes=(*one.in_the_way, *one.by_hand, *made.notes), tool=_says(saved, made), lacks=bool(one.in_the_way), own=made,
        )  # fmt: skip

    def _made(self, saved: PlateJig, held: _Of, around: Around) -> JigMade:
        features, side = held.features, held.side
        sizes = Sizes(
            clearance=saved.clearance_mm, post_thick=saved.post_thick_mm, post_wide=saved.post_wide_mm, room=saved.room_mm, margin=saved.margin_mm,
            pilot=saved.pilot_mm, datum_hole=saved.datum_hole_mm,
        )  # fmt: skip
        shrink = around.settings.weld_shrink_mm
        if len(features.held) < 2:
            laid_out(features, sizes, (_UP, ""))  # says so
        if saved.lies == "least posts":
            n, told = best_plane(features, sizes, datum=saved.datum, shrink=shrink)
        elif saved.lies == "level":
            n, told = _UP, "level, as it stands in the car"
        else:
            n, told = through(features, [one.strip() for one in saved.through.split(",") if one.strip()])
        if saved.over:
            n, told = -n, f"{told}, turned over"
        jig = laid_out(features, sizes, (n, told), datum=saved.datum, shrink=shrink)
        advice: tuple[str, ...] = ()
        if crowded(jig):
            wide = narrower(features, sizes, (n, told), datum=saved.datum, shrink=shrink)
            advice = (
                f"With posts {wide:g} mm wide no feet lie on one another (tried)." if wide
                else "Narrower posts lie on one another too (tried): let it lie another way.",
            )  # fmt: skip
        tolerance = around.settings.check_tolerance_mm
        alike = own_mirror(features.held) is not None
        signed = None if alike else signed_figure(features.held, tolerance)
        if alike or side in ("left", "right", "centre"):
            word = side.upper() if side in ("left", "right") and not alike else ""
            hands: tuple[Hand, ...] = (Hand(word=word, jig=jig, signed=signed),)
        elif jig.both_hands:
            hands = (Hand(word="LEFT AND RIGHT", jig=jig, signed=signed),)
        else:
            hands = (
                Hand(word="LEFT", jig=jig, signed=signed),
                Hand(word="RIGHT", jig=jig.mirrored(), signed=signed and replace(signed, height=-signed.height)),
            )
        return JigMade(
            notes=advice,
            holds=held.name,
            hands=hands,
            own_mirror=alike,
            tolerance=tolerance,
            shrink=shrink,
            handed=side != "centre",
        )

    def told(self, part: Part) -> PlateJigOwn | None:
        """Its check list and the order of the work."""
        made, saved = part.own, part.saved
        if not isinstance(made, JigMade) or not isinstance(saved, PlateJig):
            return None
        jig = made.hands[0].jig
        return PlateJigOwn(
            holds=made.holds, holds_id=saved.holds, lies=jig.plane.told, own_mirror=made.own_mirror,
            both_hands=jig.both_hands, tolerance_mm=made.tolerance, shrink_mm=made.shrink,
            lengths=[JigLengthOut(a=one.one, b=one.other, mm=one.mm) for one in jig.distances],
            hands=[
                JigHandOut(
                    hand=hand.word, signed_mm=hand.signed.height if hand.signed else None, signed_tolerance_mm=hand.signed.tolerance if hand.signed else None,
                    signed_plane=list(hand.signed.plane) if hand.signed else [], signed_at=hand.signed.fourth if hand.signed else "",
                    in_the_way=[*hand.jig.in_the_way, *hand.jig.by_hand], comes_out=hand.jig.comes_out,
                )
                for hand in made.hands
            ],
        )  # fmt: skip

    def draw(self, part: Part, asked: ViewAsked, numbers: Numbers) -> Drawing:
        """In plan and elevation, its ordinates, or its plate."""
        made, saved = part.own, part.saved
        assert isinstance(saved, PlateJig)
        if isinstance(made, JigMade):
            for hand in made.hands:
                end = f"-{hand.word.lower()}" if len(made.hands) > 1 else ""
                if asked.name == f"jig{end}":
                    return jig_sheet(asked.name, saved, made, hand, numbers)
                if asked.name == f"posts{end}":
                    return posts_sheet(asked.name, saved, made, hand, numbers)
                if asked.name == f"plate{end}" and saved.base == "plate and posts":
                    return plate_sheet(asked.name, saved, made, hand)
        return super().draw(part, asked, numbers)


def _notes(features: Features, jig: Laid) -> tuple[str, ...]:
    """What of the part no post holds, and what is taken for granted."""
    found = []
    if features.not_held:
        found.append(f"Not held by it: {', '.join(features.not_held)}.")
    guessed = [joint.held.name for joint in jig.joints if joint.held.guessed]
    if guessed:
        found.append(f"The way of the bore at {', '.join(guessed)} is not known and taken as square to the part: give it at station 2.")  # fmt: skip
    return tuple(found)


def _says(saved: PlateJig, made: JigMade) -> str:
    """What it is, in the place of a judgement."""
    jig = made.hands[0].jig
    size = f"{jig.high[0] - jig.low[0]:.0f} × {jig.high[1] - jig.low[1]:.0f} mm"
    base = f"plate {size}" if saved.base == "plate and posts" else f"rails over {size}"
    hands = (
        "one for both hands, which are alike"
        if made.own_mirror
        else "one for each hand"
        if len(made.hands) > 1
        else "the other hand lies on it turned over"
        if jig.both_hands
        else f"for the {made.hands[0].word.lower() or 'only'} one"
    )
    lacks = f" {len(jig.in_the_way)} to look at: {jig.in_the_way[0]}" if jig.in_the_way else ""
    return f"Holds {made.holds}: {base}, {len(jig.posts)} posts and rests; {hands}.{lacks}"


def _card(made: JigMade) -> Card:
    jig = made.hands[0].jig
    first = jig.distances[0]
    figures = [
        Figure(label=f"{one.one} to {one.other}", mm=one.mm, note=f"cold, ± {made.tolerance:g} mm")
        for one in (first, *jig.distances[1:])
    ]
    lines = []
    if made.own_mirror:
        lines.append(
            CardLine(
                text="The part is its own mirror image: left and right are alike, and this jig makes both.", strong=True
            )
        )
    elif len(made.hands) > 1:
        lines.append(
            CardLine(
                text="Left and right differ: each hand has its own jig. Look at the word at the top of the sheet.",
                strong=True,
            )
        )
    elif jig.both_hands:
        lines.append(CardLine(text="Both hands lie on this jig: the right one turned over.", strong=True))
    return Card(figures=tuple(figures), lines=tuple(lines))


PLATE_JIG = PlateJigKind()
