"""A part taken into a design, with the catalogue rows that it uses copied in."""

from __future__ import annotations

from tirante.core.document.catalogue import (
    Catalogue,
    Row,
)
from tirante.core.document.design import Design, prune_catalogue
from tirante.core.document.parts.arm import Arm, keys_of_arm
from tirante.core.document.parts.link import Link, used_keys


def adopt(design: Design, link: Link, catalogue: Catalogue) -> Design:
    """The design with this link in the place of the one with its id (or added), and the rows it uses copied in.

    Rows the design holds already stay as they are, so that an edited catalogue never changes a link by itself; a row
    whose key is chosen anew comes from the shop's catalogue as it is now.
    """
    old = next((other for other in design.links if other.id == link.id), None)
    before = {(kind, key) for kind, key, _ in used_keys(old)} if old else set()
    elsewhere = {(kind, key) for other in design.links if other.id != link.id for kind, key, _ in used_keys(other)}
    rows: dict[str, dict[str, Row]] = {
        kind: {row.key: row for row in design.catalogue.rows(kind)}  # type: ignore[arg-type]
        for kind in Catalogue.model_fields
    }
    for kind, key, _ in used_keys(link):
        found = catalogue.find(kind, key)  # type: ignore[arg-type]
        keep = key in rows[kind] and ((kind, key) in before or (kind, key) in elsewhere)
        if found is not None and not keep:
            rows[kind][key] = found
    links = [link if other.id == link.id else other for other in design.links]
    if old is None:
        links.append(link)
    whole = {kind: tuple(found.values()) for kind, found in rows.items()}
    changed = design.model_copy(update={"links": tuple(links), "catalogue": Catalogue(**whole)})  # type: ignore[arg-type]
    return prune_catalogue(changed)


def adopt_arm(design: Design, arm: Arm, catalogue: Catalogue) -> Design:
    """The design with this arm in the place of the one with its id (or added), and the rows it uses copied in."""
    rows = {kind: {row.key: row for row in design.catalogue.rows(kind)} for kind in Catalogue.model_fields}  # type: ignore[arg-type]
    for kind, key, _ in keys_of_arm(arm):
        found = catalogue.find(kind, key)  # type: ignore[arg-type]
        if found is not None and found.key not in rows[kind]:
            rows[kind][found.key] = found
    arms = [arm if other.id == arm.id else other for other in design.arms]
    if all(other.id != arm.id for other in design.arms):
        arms.append(arm)
    whole = {kind: tuple(found.values()) for kind, found in rows.items()}
    changed = design.model_copy(update={"arms": tuple(arms), "catalogue": Catalogue(**whole)})  # type: ignore[arg-type]
    return prune_catalogue(changed)
