"""Parts and joints taken into a design, with the catalogue rows that they use copied in: only what changed goes back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tirante.core.document.catalogue import Catalogue, Row
from tirante.core.document.design import Design, pruned
from tirante.core.document.joints import HeldJoint
from tirante.core.document.parts.saved import SavedPart

NO_ROWS = Catalogue()


@dataclass(frozen=True, slots=True, kw_only=True)
class Patch:
    """What an answer changes of a design: these parts and joints by id, and rows that it has not yet."""

    parts: tuple[SavedPart, ...] = ()
    joints: tuple[HeldJoint, ...] = ()
    rows: Catalogue = NO_ROWS
    told: tuple[str, ...] = ()  # what a person must know of it


def adopted(
    design: Design, parts: Sequence[SavedPart], catalogue: Catalogue, joints: Sequence[HeldJoint] = ()
) -> Patch:
    """What taking these parts and joints into a design changes.

    Rows that the design holds stay as they are while any part or joint of it uses them, so that an edited catalogue never
    changes a part by itself, and choosing a row for one part never changes another; it is told where the shop's row differs by now.
    A row whose key nothing uses any more comes from the shop's catalogue as it is.

    Args:
        design: as it is.
        parts: in the place of those with their ids, or added.
        catalogue: the shop's.
        joints: likewise.
    """
    in_use = {(table, key) for table, key, _ in design.used_rows()}
    old = {part.id: {(table, key) for table, key, _ in part.used_rows()} for part in design.parts}
    rows: dict[str, dict[str, Row]] = {table: {} for table in Catalogue.model_fields}
    told: dict[str, None] = {}
    asked = [(part.id, table, key) for part in parts for table, key, _ in part.used_rows()]
    asked += [(joint.id, table, key) for joint in joints for table, key, _ in joint.used_rows()]
    for owner, table, key in asked:
        own = design.catalogue.find(table, key)  # type: ignore[arg-type]
        shop = catalogue.find(table, key)  # type: ignore[arg-type]
        if own is not None and (table, key) in in_use:
            if shop is not None and shop.hash != own.hash and (table, key) not in old.get(owner, set()):
                told[
                    f"{own.label}: the catalogue’s row has changed since this job took it. The job keeps the one that its other parts "
                    "are built with; take those parts’ choice out first to have the new one."
                ] = None
            continue
        if shop is not None and (own is None or own.hash != shop.hash):
            rows[table][key] = shop
    return Patch(
        parts=tuple(parts), joints=tuple(joints), told=tuple(told),
        rows=Catalogue(**{table: tuple(found.values()) for table, found in rows.items()}),  # type: ignore[arg-type]
    )  # fmt: skip


def patched(design: Design, patch: Patch) -> Design:
    """The design with a patch put in, and no rows but those it uses.

    Args:
        design: as it is.
        patch: parts and joints in the place of those with their ids, or added at the end; rows likewise.
    """
    rows = {
        table: tuple({row.key: row for row in (*design.catalogue.rows(table), *patch.rows.rows(table))}.values())  # type: ignore[arg-type]
        for table in Catalogue.model_fields
    }
    parts = {part.id: part for part in (*design.parts, *patch.parts)}
    joints = {joint.id: joint for joint in (*design.joints, *patch.joints)}
    return pruned(
        design.model_copy(
            update={"parts": tuple(parts.values()), "joints": tuple(joints.values()), "catalogue": Catalogue(**rows)}  # type: ignore[arg-type]
        )
    )
