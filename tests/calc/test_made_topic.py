"""`calc made`: a link that was made, against one that is asked; by its pitch, and what is refused."""

from __future__ import annotations

from typing import Any

import pytest
from pydantic import ValidationError

from tirante.calc import TOPICS, calculate
from tirante.core.errors import InputError


def example(**change: Any) -> dict[str, Any]:
    return {**TOPICS["made"].example, **change}


def test_a_link_is_turned_from_where_it_stands_to_where_it_is_wanted() -> None:
    (one,) = calculate("made", example())["parts"]
    assert (one["name"], one["verdict"], one["of"]) == ("Toe link", "set", "the link")
    pitch = 2.0  # mm, M14x2 at both ends, ISO 261
    assert one["turns"] == pytest.approx((422.0 - 420.6) / (2 * pitch))
    link = calculate("made", example(parts=None))["parts"][0]  # as it was to be made, welded
    assert link["turns"] == pytest.approx((422.0 - 420.0) / (2 * pitch))
    assert [end["showing_mm"] for end in one["threads"]] == pytest.approx([end["showing_mm"] for end in link["threads"]])  # fmt: skip
    same = calculate("made", example(now=example()["was"], parts=None))
    assert (same["parts"][0]["verdict"], same["new"]) == ("fits", [])


def test_what_is_gone_and_what_is_new_is_told_and_a_stage_counts() -> None:
    given = example()
    empty = {**given["now"], "parts": []}
    assert calculate("made", {"was": given["was"], "now": empty})["parts"][0]["verdict"] == "gone"
    assert calculate("made", {"was": empty, "now": given["now"]}) == {"parts": [], "new": ["Toe link"]}
    own = given["was"]["parts"][0]
    far = {**given["now"], "parts": [{**own, "between": {"kind": "length", "length": {"mm": 380.0}}}]}
    verdicts = {
        stage: calculate("made", {"was": given["was"], "now": far, "parts": [{"part": own["id"], "stage": stage}]})["parts"][0]["verdict"]
        for stage in ("at hand", "sawn", "tacked", "welded")
    }  # fmt: skip
    assert verdicts == {"at hand": "buy", "sawn": "cut", "tacked": "make", "welded": "make"}


@pytest.mark.parametrize(
    "parts", [[{"part": "00000000-0000-4000-8000-000000000000"}], [{"part": "x"}], [{"measured_mm": 1}]]
)
def test_a_part_that_is_none_of_it_is_refused(parts: list[dict[str, Any]]) -> None:
    with pytest.raises((InputError, ValidationError), match="part"):
        calculate("made", example(parts=parts))
