"""What each role may do: one right for every route, by the route's name. A route that changes something and stands in no list does not start."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from tirante.api.routing import OPERATIONS
from tirante.storage.people import Role

Right = Literal["read", "design", "bench", "issue", "sign", "review", "people"]
MAY: Mapping[Role, frozenset[Right]] = {
    "owner": frozenset({"read", "design", "bench", "issue", "sign", "review", "people"}),
    "designer": frozenset({"read", "design", "bench", "issue", "sign", "review"}),
    "bench": frozenset({"read", "bench", "sign"}),
    "reviewer": frozenset({"read", "sign", "review"}),
}
WORDS: Mapping[Right, str] = {
    "read": "look at everything", "design": "change a design", "bench": "work at the bench: ticks, readings, rack, labels", "issue": "issue a revision",
    "sign": "sign that somebody else’s work was looked at", "review": "review what somebody else designed", "people": "say who works here",
}  # fmt: skip
ROLES: Mapping[Role, str] = {"owner": "owner", "designer": "designer", "bench": "bench hand", "reviewer": "reviewer"}
OPEN = frozenset(
    {"me", "sign_in", "sign_out", "first_person", "pair", "authority"}
)  # asked before anybody is signed in
CHANGES: Mapping[str, Right] = {
    "create_job": "design", "import_job": "design", "save_draft": "design", "keep_branch": "design", "load_catalogue_csv": "design",
    "seal_revision": "issue",
    "add_to_built": "bench", "add_to_survey": "bench", "read_survey_file": "bench", "keep_ticks": "bench", "keep_measured": "bench", "add_picture": "bench", "print_labels": "bench", "put_row": "bench", "remove_row": "bench",
    "keep_cutting": "bench", "confirm_cutting": "bench", "remove_cutting": "bench", "undo_cutting": "bench", "on_machine": "bench",
    "read_gauge": "bench", "make_the_pack": "bench", "lay_out_on_sheets": "bench", "lay_out_on_sticks": "bench", "size_the_job": "design", "stop_task": "bench",
    "sign_step": "sign", "withdraw_signature": "sign", "sign_review": "review", "withdraw_review": "review", "add_person": "people", "change_person": "people", "change_my_password": "read",
    "open_pairing": "people", "end_device": "people", "end_session": "read",
}  # fmt: skip
# asked with POST since a whole design goes along; nothing is kept
WORKS_OUT = frozenset({
    "fit_bracket", "holes_of_bracket", "bracket_map", "new_bracket", "outline_of_bracket", "propose_brackets", "put_joint_in_hole", "room_of_bracket", "new_saddle",
    "bracket_scene", "shims_of_bracket", "stand_bracket", "cheapest_change", "choose_part", "try_on_table", "draw_part", "new_end", "add_to_end", "kind_of_end",
    "add_to_kind", "write_kind_file", "measuring_sheet", "move_point", "own_kind", "evaluate_design", "first_to_give", "all_jigs", "links_jig", "member_jig",
    "end_hanger", "new_jig", "end_jigs", "merge_drafts", "read_length", "read_coordinates", "measure_photograph", "new_link", "loads", "pick_ups", "mounts_from_obstacles", "read_mount_list",
    "write_mount_list", "offers", "order", "order_csv", "overview", "make_parts", "make_plate", "paste_points", "read_points_file", "write_points_csv", "size_part",
    "study_end", "study_as_built", "bend_of_link", "study_bind", "draw_end_at", "plot_end", "study_scene", "study_still_moves", "study_table", "study_wheels",
    "turn_sheet_of", "working",
})  # fmt: skip


def right_of(name: str, method: str) -> Right | None:
    """What a route asks; None: nothing, it is asked before anybody is signed in.

    Args:
        name: of the route.
        method: it is asked with.

    Raises:
        LookupError: it changes something, and nobody has said who may.
    """
    if name in OPEN:
        return None
    if name in CHANGES:
        return CHANGES[name]
    if method.upper() in ("GET", "HEAD", "OPTIONS") or name in WORKS_OUT:
        return "read"
    raise LookupError(f"nobody has said who may ask {name}")


def check() -> None:
    """That every route has a right.

    Raises:
        LookupError: one has none.
    """
    for entry in OPERATIONS:
        right_of(entry.name, entry.method)
