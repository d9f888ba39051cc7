"""The kinds of parts there are. A new one is its folder, its saved model and one line here."""

from __future__ import annotations

from typing import Any

from tirante.core.document.parts.saved import SavedPart
from tirante.core.parts.anti_roll_bar.kind import ANTI_ROLL_BAR
from tirante.core.parts.arm.kind import ARM
from tirante.core.parts.axle_saddle.kind import AXLE_SADDLE
from tirante.core.parts.boxed_link.kind import BOXED_LINK
from tirante.core.parts.bracket.families.angle_bracket import ANGLE_BRACKET
from tirante.core.parts.bracket.families.bearing_pad import BEARING_PAD
from tirante.core.parts.bracket.families.folded_u import FOLDED_U
from tirante.core.parts.bracket.families.lapped import LAPPED_PLATE
from tirante.core.parts.bracket.families.leaf_perch import LEAF_PERCH
from tirante.core.parts.bracket.families.pad_kind import PadKind
from tirante.core.parts.bracket.families.rail_sleeve import RAIL_SLEEVE
from tirante.core.parts.bracket.families.searched import SearchedBracket
from tirante.core.parts.bracket.families.single_tab import SINGLE_TAB
from tirante.core.parts.bracket.families.split_clamp import SPLIT_CLAMP
from tirante.core.parts.bracket.families.spring_seat import SPRING_SEAT
from tirante.core.parts.bracket.families.strap import STRAP_TAB
from tirante.core.parts.bracket.families.strike_pad import STRIKE_PAD
from tirante.core.parts.bracket.families.tab_pair import TAB_PAIR
from tirante.core.parts.bracket_bar.kind import BRACKET_BAR
from tirante.core.parts.carrier_plate.kind import CARRIER_PLATE
from tirante.core.parts.drive_shaft.kind import DRIVE_SHAFT
from tirante.core.parts.dummy_damper.kind import DUMMY_DAMPER
from tirante.core.parts.frame_arm.kind import FRAME_ARM
from tirante.core.parts.hanger.kind import HANGER
from tirante.core.parts.hub_stand.kind import HUB_STAND
from tirante.core.parts.kind import Kind
from tirante.core.parts.link.kind import LINK
from tirante.core.parts.plate_jig.kind import PLATE_JIG
from tirante.core.parts.plate_link.kind import PLATE_LINK
from tirante.core.parts.rocker.kind import ROCKER
from tirante.core.parts.set_jig.kind import SET_JIG
from tirante.core.parts.steering_rack.kind import STEERING_RACK

KINDS: dict[str, Kind[Any]] = {
    kind.key: kind
    for kind in (
        LINK,
        BOXED_LINK,
        PLATE_LINK,
        ARM,
        ROCKER,
        ANTI_ROLL_BAR,
        DRIVE_SHAFT,
        STEERING_RACK,
        FRAME_ARM,
        CARRIER_PLATE,
        AXLE_SADDLE,
        TAB_PAIR,
        FOLDED_U,
        ANGLE_BRACKET,
        LAPPED_PLATE,
        STRAP_TAB,
        RAIL_SLEEVE,
        SPLIT_CLAMP,
        SINGLE_TAB,
        STRIKE_PAD,
        BEARING_PAD,
        LEAF_PERCH,
        SPRING_SEAT,
        PLATE_JIG,
        HUB_STAND,
        HANGER,
        DUMMY_DAMPER,
        SET_JIG,
        BRACKET_BAR,
    )
}

HOLDERS: dict[str, SearchedBracket[Any]] = {
    one.key: one for one in (FOLDED_U, ANGLE_BRACKET, LAPPED_PLATE, STRAP_TAB, RAIL_SLEEVE, SPLIT_CLAMP, SINGLE_TAB)
}  # what may hold a joint in the place of a pair of tabs
PADS: dict[str, PadKind[Any]] = {pad.key: pad for pad in (STRIKE_PAD, BEARING_PAD, LEAF_PERCH, SPRING_SEAT)}


def kind_of(saved: SavedPart) -> Kind[Any]:
    """The kind that a saved part is of."""
    return KINDS[saved.kind]
