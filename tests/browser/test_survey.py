"""Station 1 in the real page: readings put down as they are taken, a slip named and taken back, what was measured put into the layout."""

import re
from math import hypot
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.test_access import day_and_night
from tests.core.test_photograph import CORNERS, FLAT, SIZE, drawn, seen


def put_down(page: Page, kind: str, places: list[str], figure: str) -> None:
    form = page.get_by_role("region", name="Take a reading")
    form.get_by_label("What is read").click()
    page.get_by_role("option", name=kind, exact=True).click()
    for label, place in zip(("From", "To") if len(places) == 2 else ("Of",), places, strict=True):
        field = form.get_by_label(label, exact=True)
        if field.input_value() != place:  # what the last reading was of stays
            field.fill(place)
            page.get_by_role("option", name=place, exact=True).click()
    form.get_by_label("Read", exact=True).fill(figure)
    page.keyboard.press("Enter")
    with page.expect_response(
        lambda answer: answer.url.split("?")[0].endswith("/survey") and answer.request.method == "POST"
    ):
        form.get_by_role("button", name="Put it down").click()
    expect(form.get_by_label("Read", exact=True)).to_have_value("")


def test_readings_become_a_point_a_slip_is_named_and_it_goes_into_the_layout(page: Page, job: str) -> None:
    page.goto(f"{job}/survey")
    expect(page.get_by_text("Nothing measured yet")).to_be_visible()
    point = "Front, upper front, left"
    # a height alone leaves the point free along two axes, and that is said
    put_down(page, "height over the floor", [point], "486")
    said = page.get_by_role("region", name="What it comes to")
    expect(said).to_contain_text(f"{point} is not held: nothing says where it is ahead, to the left.")
    put_down(page, "offset from the centre line", [point], '12 9/16"')
    put_down(page, "offset from the cross line", [point], "97.5")
    row = page.get_by_role("table", name="Points as measured").get_by_role("row").filter(has_text=point)
    expect(row).to_contain_text("486.0 mm")
    expect(row).to_contain_text("319.1 mm")  # 12 9/16 in
    expect(row).to_contain_text("+2.5 mm")  # the layout has 95
    expect(said).to_contain_text("3 readings, 0 more than are needed; nothing checks anything yet.")
    # two more heights, one with its digits changed over: it does not fit, and the hand's mistake is told
    put_down(page, "height over the floor", [point], "485.5")
    put_down(page, "height over the floor", [point], "458.6")
    expect(said).to_contain_text(
        re.compile(r"Does not fit: height over the floor, .*read 458\.6 mm; the others say 485\.8 mm")
    )
    expect(said).to_contain_text("two digits changed over (485.6 mm)")
    page.get_by_role("button", name="Readings", exact=False).filter(has_text="kept").click()
    readings = page.get_by_role("list", name="Readings, the latest first")
    readings.get_by_role("button", name="Take back 458.6 mm").click()
    readings.get_by_label("Why").fill("read 485.6")
    readings.get_by_role("button", name="It does not count").click()
    expect(readings).to_contain_text("Taken back: read 485.6. It is kept and does not count.")
    expect(said).not_to_contain_text("Does not fit")
    # what that makes of the car: this wheel alone, by this point alone
    makes = page.get_by_role("region", name="What that makes of the car")
    expect(makes).to_contain_text(re.compile(r"Front, left, made to the layout: camber .* ± "))
    expect(makes).to_contain_text("One place counts with its own uncertainty")
    # over a reload all is there
    page.reload()
    expect(row).to_contain_text("485.8 mm")
    # into the layout, and back by undo
    button = page.get_by_role("button", name="Put the measured points into the layout")
    button.click()
    expect(page.get_by_text("The layout has them so.")).to_be_visible(timeout=20_000)
    expect(row).not_to_contain_text("+2.5 mm")
    expect(row).not_to_contain_text("−0.0")
    page.keyboard.press("ControlOrMeta+z")
    expect(row).to_contain_text("+2.5 mm", timeout=20_000)
    # the drawing shows it; picking the row marks it there
    expect(page.locator("[data-drawing=survey]")).to_be_visible()
    # over a bolt's head of 30 mm it is half of that too high, and counts to its centre
    form = page.get_by_role("region", name="Take a reading")
    form.get_by_label("What is read").click()
    page.get_by_role("option", name="height over the floor", exact=True).click()
    form.get_by_role("combobox", name="Of, touched").click()
    page.get_by_role("option", name="to its far side").click()
    field = form.get_by_label("Of", exact=True)
    field.fill(point)
    page.get_by_role("option", name=point, exact=True).click()
    form.get_by_label("⌀ of the hole, head or tube").fill("30")
    form.get_by_label("Read", exact=True).fill("501")
    page.keyboard.press("Enter")
    form.get_by_role("button", name="Put it down").click()
    page.get_by_role("button", name="Readings", exact=False).filter(has_text="6 kept").click()
    last = page.get_by_role("list", name="Readings, the latest first").get_by_role("listitem").first
    expect(last).to_contain_text("486.0 mm")
    expect(last).to_contain_text("⌀ 30.0 mm at its far side")
    # the floor under the wheels: 12 mm higher under both left ones leans the car to the right
    page.get_by_role("button", name="Marks and datum", exact=False).click()
    for label, mm in (("front, left", "12"), ("front, right", "0"), ("rear, left", "12"), ("rear, right", "0")):
        page.get_by_label(label, exact=True).fill(mm)
        page.keyboard.press("Enter")
    page.get_by_role("button", name="Keep these heights").click()
    expect(page.get_by_text("up to the left; 0 inclinometer readings count without that.")).to_be_visible()


def test_the_demo_s_survey_has_one_slip_and_says_where(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_role("region", name="Demo jobs").get_by_role("link", name="Marram").click()
    page.get_by_role("link", name="1 Survey").or_(page.get_by_role("link", name=re.compile("Survey"))).first.click()
    said = page.get_by_role("region", name="What it comes to")
    expect(said.get_by_text("Does not fit:")).to_have_count(1)
    expect(said).to_contain_text("Front, upper front, left → Front, upper rear, left, read 295.1 mm")
    expect(said).to_contain_text("two digits changed over (259.1 mm)")
    expect(said).to_contain_text("Measure next")


def test_a_photograph_of_a_flat_thing_becomes_a_reading(page: Page, job: str, tmp_path: Path) -> None:
    # a sheet with a rectangle of 300 × 200 mm drawn as a leaning camera sees it
    pose = (25.0, 0.0, 4.0), 750.0
    drawn(*pose).save(tmp_path / "sheet.jpg", quality=92)
    marks, dots = seen(CORNERS, *pose), seen(FLAT, *pose)
    page.goto(f"{job}/survey")
    page.get_by_role("button", name="From a photograph").click()
    page.get_by_label("Add a photograph").set_input_files(tmp_path / "sheet.jpg")
    dialog = page.get_by_role("dialog", name="Measure in a photograph")
    picture = dialog.locator("[data-picture]")
    expect(picture).to_be_visible()
    dialog.get_by_role("button", name="2×").click()
    box = picture.bounding_box()
    assert box

    def click(at: np.ndarray) -> None:
        picture.click(position={"x": at[0] / SIZE[0] * box["width"], "y": at[1] / SIZE[1] * box["height"]})

    for i, one in enumerate(marks):
        expect(dialog.get_by_role("status")).to_contain_text(f"click mark {i + 1} of 4")
        click(one)
    dialog.get_by_label("From mark 1 to 2").fill("300")
    dialog.get_by_label("From mark 2 to 3").fill("200")
    for name, dot in (("Front, upper front, left", dots[0]), ("Front, upper rear, left", dots[1])):
        dialog.get_by_role("combobox", name="Place").fill(name)
        page.get_by_role("option", name=name, exact=True).click()
        click(dot)
    dialog.get_by_role("button", name="Measure", exact=True).click()
    found = dialog.get_by_role("list", name="Distances in the photograph")
    expect(found).to_contain_text("Front, upper front, left → Front, upper rear, left")
    assert (
        abs(float(found.locator("b").inner_text().split()[0]) - hypot(210, 30)) < 1.0
    )  # clicks to a dot of the screen
    found.get_by_role("checkbox").check()
    assert day_and_night(page) == []
    dialog.get_by_role("button", name="Put down as a reading").click()
    expect(dialog).to_have_count(0)
    page.get_by_role("button", name="Readings", exact=False).last.click()
    kept = page.get_by_role("list", name="Readings, the latest first")
    expect(kept).to_contain_text("other ± ")
    page.reload()  # it is kept, and can be measured in again
    page.get_by_role("button", name="From a photograph").click()
    expect(page.get_by_role("button", name="Measure in photograph 1")).to_be_visible()
