"""From a template to the moving suspension, by mouse and by keyboard."""

import re
import time
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.gauges.test_gauges import on
from tirante.gauges.read import PORTS
from tirante.gauges.simulated import Simulated, serving


def test_a_new_end_from_a_template_moves_by_keyboard(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_label("Name of a new job").fill("Ends")
    page.get_by_role("button", name="Start a job").click()
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    page.keyboard.press("3")
    expect(page.get_by_text("Nothing to move yet")).to_be_visible()
    page.keyboard.press("2")
    page.get_by_role("button", name="New end").click()
    page.get_by_role("radio", name="Strut", exact=True).click()
    page.get_by_role("button", name="Add the end").click()
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    expect(page.get_by_text("strut’s upper mount").or_(page.get_by_text("strut's upper mount"))).to_be_visible()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.keyboard.press("3")
    expect(page.get_by_text("What stops it?")).to_be_visible()
    for _ in range(4):
        page.keyboard.press(".")
    expect(page.get_by_test_id("travel")).to_have_text("+20.0 mm")
    expect(page.locator("[data-drawing=plots] text", has_text="+20.0")).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Stop", exact=True)).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Play")).to_be_visible()


def test_a_moved_point_moves_its_lengths_and_angles(page: Page, job: str) -> None:
    page.goto(f"{job}/layout")
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    before = page.locator("[data-drawing=plots] text", has_text=re.compile(r"^\+3\.9")).text_content()
    field = page.get_by_label("upper outer joint, x")
    field.fill("-40")
    page.keyboard.press("Enter")
    expect(page.locator("[data-drawing=plots] text", has_text=before or "")).to_have_count(0)
    expect(page.locator("[data-drawing=plots] text", has_text=re.compile(r"^\+7\.8"))).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.locator("[data-drawing=plots] text", has_text=before or "")).to_be_visible()


def test_points_that_are_one_are_named_at_the_point(page: Page, job: str) -> None:
    page.goto(f"{job}/layout")
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    for axis, value in zip("xyz", ("118", "292", "252"), strict=True):
        page.get_by_label(f"joint of the tie rod on the upright, {axis}").fill(value)
        page.keyboard.press("Enter")
    expect(page.locator("[data-point=tie_outer]").get_by_role("alert")).to_contain_text("one point")
    page.get_by_label("joint of the tie rod on the upright, y").fill("664")
    expect(page.locator("[data-point=tie_outer]").get_by_role("alert")).to_have_count(0)


def test_leaning_and_steering_change_what_is_drawn(page: Page, job: str) -> None:
    page.goto(f"{job}/cycle")
    drawing = page.locator("[data-drawing=end]")
    expect(drawing).to_be_visible()
    expect(page.get_by_text("the damper is closed").first).to_be_visible()
    before = drawing.inner_html()
    page.get_by_role("slider", name="roll").focus()
    for _ in range(4):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_text(re.compile(r"roll \+2\.0°"))).to_be_visible()
    page.wait_for_function("(old) => document.querySelector('[data-drawing=end]').innerHTML !== old", arg=before)
    page.get_by_role("slider", name="Travel").focus()
    page.keyboard.press("End")
    expect(page.get_by_test_id("travel")).to_have_text("+120.0 mm")


def test_points_go_out_as_csv_and_come_back_changed(page: Page, job: str, tmp_path: Path) -> None:
    page.goto(f"{job}/layout")
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("button", name="Take away as CSV").click()
    text = Path(download.value.path()).read_text()
    file = tmp_path / "points.csv"
    file.write_text(text.replace("upper_outer,-18.0", "upper_outer,x"))
    page.get_by_label("Points file").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text("line 4, x")
    file.write_text(text.replace("upper_outer,-18.0", "upper_outer,-40.0"))
    page.get_by_label("Points file").set_input_files(file)
    expect(page.get_by_label("upper outer joint, x")).to_have_value("−40.0")
    page.keyboard.press("Escape")
    page.goto(f"{job}/cycle")
    with page.expect_download() as table:
        page.get_by_role("button", name="All measures along the travel, CSV").click()
    assert Path(table.value.path()).read_text().startswith("travel_mm,roll_deg,steer_mm,status,camber_deg")


def test_what_the_corner_scales_show_is_taken_whole_or_not_at_all(page: Page, job: str) -> None:
    page.goto(f"{job}/layout")
    page.get_by_role("button", name=re.compile("^Vehicle")).click()
    scales = page.get_by_role("button", name="From the corner scales")
    scales.click()
    expect(page.get_by_role("alert").filter(has_text="corner scales")).to_contain_text("./tirante gauge corner-scales")
    wheels = {"front left": 231.5, "front right": 224.0, "rear left": 251.0, "rear right": 246.5}
    with on(serving(Simulated(sort="corner scales", values=tuple(wheels.values())), PORTS["corner scales"])):
        scales.click()
        expect(page.get_by_text("they said: left front 231.5 kg; right front 224.0 kg")).to_be_visible()
    base, own = job.split("/jobs/")
    wanted = {"front_left_kg": 231.5, "front_right_kg": 224.0, "rear_left_kg": 251.0, "rear_right_kg": 246.5}
    end = time.monotonic() + 60
    while page.request.get(f"{base}/api/jobs/{own}").json()["design"]["car"]["corners"] != wanted:
        assert time.monotonic() < end
        page.wait_for_timeout(100)
    with on(serving(Simulated(sort="corner scales", values=(231.5, 0.0, 251.0, 246.5)), PORTS["corner scales"])):
        scales.click()
        expect(page.get_by_role("alert").filter(has_text="Nothing was taken")).to_be_visible()
    page.reload()
    assert page.request.get(f"{base}/api/jobs/{own}").json()["design"]["car"]["corners"] == wanted
