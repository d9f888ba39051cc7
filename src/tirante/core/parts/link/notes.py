"""What the welder and the user must know of a link that no check says."""

from __future__ import annotations

from tirante.core.parts.link.assembly import Assembly, PlainEnd, ThreadedEnd


def welding_notes(assembly: Assembly) -> list[str]:
    """What the welder must know of this link; common practice, no source."""
    if not assembly.welded:
        squashed = [isinstance(end, PlainEnd) for end in assembly.ends]
        how = (
            "both its ends are squashed"
            if all(squashed)
            else "one end is squashed, the other screwed into the tube"
            if any(squashed)
            else "both its ends are screwed into the tube"
        )
        return [f"Nothing is welded on this link: {how}."]
    inserts = [end for end in assembly.threaded if not end.tapped]
    fixed = [end for end in assembly.ends if isinstance(end, PlainEnd)]
    notes = []
    if inserts:
        both = len(inserts) == 2
        notes += [
            f"Weld with a stud screwed into {'each insert' if both else 'the insert'} (an old joint or a bare stud) and leave it in until cold: "
            "it keeps the thread.",
            "Chase both inserts after welding, each with the tap of its hand." if both
            else "Chase the insert after welding, with the tap of its hand.",
        ]  # fmt: skip
    for plain in fixed:
        if plain.flat:
            if not plain.squashed:
                notes.append(
                    f"{plain.what[0].upper()}{plain.what[1:]}: fillets from the tube’s end inward, both faces in turn; not across the slots’ inner ends."
                )  # common practice, no source
            continue
        if plain.plug:
            notes.append(
                f"{plain.what[0].upper()}{plain.what[1:]}: the welds through the wall first, then the fillet round inside the tube’s end; bore tube and plug across in one once they are cold."
            )  # common practice, no source
            continue
        if plain.machined:
            notes.append(
                f"{plain.what[0].upper()}{plain.what[1:]}: its shoulder tight on the tube’s end, tacked in four places, then the ring in quarters; its bore is reamed to its fit once it is cold."
            )  # common practice, no source
            continue
        notes.append(
            f"{plain.what[0].upper()}{plain.what[1:]}: weld it with its bush or ball out. The ring draws the bore oval: gauge it cold, ream or hone it "
            "to the fit, and press in last."
        )
    if all(isinstance(end, PlainEnd) and (end.sleeve or end.plug) for end in assembly.ends):
        notes.append(
            "Both ends shut the tube: drill a vent hole, and close it when the tube is cold."
        )  # common practice, no source
    if any(end.tapped for end in assembly.threaded):
        notes.append("The tapped end is not welded, and nothing within two diameters of its thread.")
    notes.append(
        "Earth on the tube. No current and no heat through a joint that will be used: an arc across a ball ends it."
    )
    plugs = [end.plugs(assembly.link.welding) for end in inserts]
    if any(plugs):
        notes.append("Plug-weld holes go through the tube's wall only, never into the thread.")
    for letter, end in zip("AB", assembly.ends, strict=True):
        if (
            isinstance(end, ThreadedEnd)
            and not end.tapped
            and assembly.link.welding.plugs
            and not end.plugs(assembly.link.welding)
        ):
            notes.append(
                f"End {letter}: no plug welds. The insert has {end.insert_wall:.1f} mm outside its thread, and one would burn through to it; "
                "the ring alone is counted."
            )
    notes.append("Strip plating before welding. No chlorinated cleaner near an arc.")
    if assembly.grade.procedure:
        notes.insert(0, f"{assembly.grade.label}: {assembly.grade.procedure}.")
    if assembly.link.mid_welded:
        notes.append("Something is welded on along the span: the as-welded yield is used for bending.")
    return notes


def _pointing(plane: float) -> str:
    """Which way a bend points, by end A's bolt."""
    square = "square to end A’s bolt, on the upper side"
    way = "counter-clockwise" if plane > 0 else "clockwise"
    return (
        square
        if plane == 0
        else f"{abs(plane):g}° {way} from {square}, seen from end B (left side; the right is its mirror image)"
    )


def link_notes(assembly: Assembly) -> list[str]:
    """What to know of a link that no check says; common practice, no source."""
    notes = []
    spherical = len(assembly.threaded) == 2
    bent = assembly.link.bent
    if bent:
        where = f"{bent.from_ends.mm:.1f} mm from either pivot" if bent.from_ends else "at mid-span"
        notes.append(
            f"Bent {bent.offset.mm:.1f} mm off its line, {where}, pointing {_pointing(bent.plane_deg)}: clock end A so before it is tightened. The saw length is along the tube, "
            "before it is bent. Bend it first, then fit the inserts along the outer pieces."
        )
    if assembly.link.splice:
        splice = assembly.link.splice
        notes.append(
            f"Spliced {splice.at.mm:.1f} mm from pivot A with a sleeve {splice.sleeve} the tube, {splice.length.mm:.1f} mm long. Slide and "
            "mark it at its middle, plug-weld both sides, then the ring; keep it away from mid-span when it is pushed or struck. "
            "The as-welded yield is used for bending."
        )
    if any(end.tapped for end in assembly.threaded):
        notes.append(
            "The tube itself is tapped: drill and tap it square in a lathe, deburr, and weld nothing near the thread. A worn thread "
            "means a new tube, where an insert can be replaced."
        )
    if bent and spherical:
        notes.append(
            "Bent, with two spherical ends it rolls until the bend hangs as the load pulls it. One hinged end (a bush or a clevis) "
            "stops that; it costs the turn of the link: the other end is then adjusted by half turns with its bolt out."
        )
    if assembly.link.mid_welded and spherical:
        notes.append(
            "Something is welded on along the span: a load off the link's axis rolls it between two spherical ends. Give it a "
            "bush or another fixed end at one of them."
        )
    if spherical and assembly.threaded[0].hand == assembly.threaded[1].hand:
        notes.append(
            "Both ends are of one hand: turning the link does not change its length. Each end is adjusted by itself, by half "
            "turns, with its bolt out."
        )
    if assembly.grade.family == "aluminium" and assembly.threaded:
        notes.append(
            "Aluminium: threads need inserts or a longer engagement, and lose most of their strength beside a weld."
        )
    return notes
