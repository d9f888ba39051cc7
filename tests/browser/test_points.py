"""Points of an end: dragged in its three views, pasted from a spreadsheet, asked about where they stand far off; factors in a case's name."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_frame import saved


def value(page: Page, label: str) -> float:
    return float(page.get_by_label(label, exact=True).input_value().replace("−", "-"))


def test_a_point_is_dragged_in_a_view_along_its_two_axes_as_one_step(page: Page, job: str) -> None:
    page.goto(f"{job}/layout")
    grip = page.locator("[data-drawing=end] [data-ref='point:upper_outer']").first  # from behind: y across, z up
    box = None
    for _ in range(40):  # the views are laid out anew when the study has come: taken where it has come to rest
        before, box = box, grip.bounding_box()
        if box is not None and box == before:
            break
        page.wait_for_timeout(150)
    assert box
    x, y, z = (value(page, f"upper outer joint, {axis}") for axis in "xyz")
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 + 6, box["y"] + box["height"] / 2 - 9, steps=4)
    page.mouse.up()
    expect(page.get_by_label("upper outer joint, z", exact=True)).not_to_have_value(f"{z:.1f}")
    saved(page)
    now = [value(page, f"upper outer joint, {axis}") for axis in "xyz"]
    assert now[0] == x
    # right on the sheet is toward the right of the car, up is up; the picture has one scale
    assert now[1] < y
    assert now[2] > z
    assert (y - now[1]) / (now[2] - z) == pytest.approx(6 / 9, abs=0.12)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_label("upper outer joint, z", exact=True)).to_have_value(f"{z:.1f}")
    expect(page.get_by_label("upper outer joint, y", exact=True)).to_have_value(f"{y:.1f}")


def test_what_is_picked_in_a_view_is_named_with_its_part(page: Page, job: str) -> None:
    page.goto(f"{job}/cycle")
    page.locator("[data-drawing=end] [data-ref='body:lower_arm']").last.dispatch_event("click")
    page.get_by_role("link", name="Front lower arm").click()
    expect(page.get_by_role("heading", name="Front lower arm")).to_be_visible()


def test_a_table_is_pasted_looked_at_and_put_in(page: Page, job: str) -> None:
    page.goto(f"{job}/layout")
    page.get_by_role("button", name="Paste a table").click()
    dialog = page.get_by_role("dialog", name="Paste points")
    dialog.get_by_label("The table").fill("upper outer\t-18\t25 1/2\t505")
    dialog.get_by_role("button", name="Read it").click()
    expect(dialog.get_by_role("alert")).to_contain_text("is a fraction and the page is in millimetres")
    dialog.get_by_label("The table").fill("upper outer\t-18\t25 1/2 in\t505\ntie inner\t-112,5\t301\t299")
    dialog.get_by_role("button", name="Read it").click()
    expect(dialog.get_by_role("table", name="As it is read")).to_contain_text("647.7 mm")
    dialog.get_by_role("button", name="Put in these 2 points").click()
    expect(page.get_by_label("upper outer joint, y", exact=True)).to_have_value("647.7")
    saved(page)


def test_a_pivot_far_outside_the_track_is_asked_about(page: Page, job: str) -> None:
    page.goto(f"{job}/layout")
    field = page.get_by_label("front chassis pivot of the upper arm, y", exact=True)
    field.fill("3180")
    page.keyboard.press("Enter")
    asked = page.get_by_text(re.compile(r"y 3180\.0 mm is far off.*Was 318\.0 mm meant\?"))
    expect(asked).to_be_visible()
    page.get_by_role("button", name=re.compile("to settle")).click()
    expect(page.get_by_role("menuitem").filter(has_text="is far off")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="it is meant").click()
    expect(asked).to_have_count(0)


def test_a_fault_of_a_narrow_field_has_room_to_be_read(page: Page, job: str) -> None:
    page.goto(f"{job}/layout")
    field = page.get_by_label("upper outer joint, z", exact=True)
    field.fill("12 1/2")
    page.wait_for_timeout(600)
    told = page.get_by_role("alert").filter(has_text="is a fraction")
    expect(told).to_be_visible()
    box, narrow = told.bounding_box(), field.bounding_box()
    assert box
    assert narrow
    assert box["width"] > 2.5 * narrow["width"]
    page.keyboard.press("Escape")
    expect(told).to_have_count(0)


def test_an_edited_factor_renames_its_case(page: Page, job: str) -> None:
    page.goto(f"{job}/loads")
    page.get_by_role("button", name="Change the cases").click()
    page.get_by_role("button", name=re.compile("^corner 0.9 g")).click()
    field = page.get_by_label("Sideways, each way").first
    field.fill("1.1")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^corner 1.1 g")).first).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^corner 0.9 g"))).to_have_count(0)
    saved(page)
