"""A kind of suspension that nobody ships, built in the form from nothing: counted as it is built, made, taken away and read again."""

import json
import re
from pathlib import Path

from playwright.sync_api import Page, expect


def place(page: Page, what: str, *at: float) -> None:
    for axis, value in zip("xyz", at, strict=True):
        field = page.get_by_label(f"{what}, {axis}", exact=True)
        field.fill(f"{value:g}")
        field.press("Enter")


def pick(page: Page, label: str, option: str) -> None:
    page.get_by_role("combobox", name=label, exact=True).click()
    page.get_by_role("option", name=option, exact=True).click()


def test_a_semi_trailing_arm_from_nothing_to_a_part_and_a_file(page: Page, address: str, tmp_path: Path) -> None:
    page.goto(address)
    page.get_by_label("Name of a new job").fill("Own kind")
    page.get_by_role("button", name="Start a job").click()
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    page.keyboard.press("2")
    page.get_by_role("button", name="New end").first.click()
    page.get_by_role("radio", name=re.compile("Of its own, independent")).click()
    page.get_by_role("button", name="Add the end").click()
    told = page.get_by_role("status").filter(has_text=re.compile("Still moves|It rises"))
    expect(told).to_contain_text("Still moves in 5 ways beside its travel")
    expect(told).to_contain_text("Nothing is joined to the upright yet.")
    # what it is to be: a body of its own that the wheel turns on, and no upright
    page.get_by_label("New body").fill("Semi-trailing arm")
    page.get_by_role("button", name="Add the body").click()
    page.get_by_role("button", name="What it is measured by").click()
    pick(page, "The wheel turns on", "semi trailing arm")
    page.get_by_role("button", name="Take out: upright").click()
    expect(page.get_by_role("checkbox", name="semi trailing arm", exact=True)).not_to_be_checked()
    for what, at in (("inner pivot", (420.0, 180.0, 240.0)), ("outer pivot", (300.0, 560.0, 255.0))):
        page.get_by_label("New point").fill(what)
        page.keyboard.press("Enter")
        place(page, what, *at)
    pick(page, "What it is", "hinge: a body turns about the line through two points")
    page.get_by_label("Name", exact=True).fill("arm pivots")
    expect(page.get_by_role("button", name="Put it in")).to_be_disabled()
    pick(page, "What turns", "semi trailing arm")
    pick(page, "Its line from", "inner pivot")
    pick(page, "Its line to", "outer pivot")
    page.get_by_role("button", name="Put it in").click()
    expect(told).to_have_text("It rises and falls, and nothing else of it moves.")
    expect(page.locator("[data-drawing=end] text", has_text="outer pivot").first).to_be_visible()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    # taken away, it is what a new end may be of
    with page.expect_download() as file:
        page.get_by_role("button", name="Take away as a template file").click()
    kind = tmp_path / "own.json"
    file.value.save_as(kind)
    points = {point["name"]: point["at"] for point in json.loads(kind.read_text())["points"]}
    assert points["outer_pivot"] == [300.0, 560.0, 255.0]
    page.get_by_role("button", name="New end").first.click()
    page.get_by_label("Template file").set_input_files(kind)
    page.get_by_role("button", name="Add the end").click()
    expect(page.get_by_role("button", name="Rear").first).to_be_visible()
    # what moves is a part, by one press for each end
    page.get_by_role("link", name=re.compile("Members")).click()
    expect(page.get_by_role("heading", name="Members", level=1)).to_be_visible()  # Layout has such a button too
    expect(page.get_by_role("button", name=re.compile("^Make .* parts$"))).to_have_count(2)  # both ends are read
    page.get_by_role("button", name=re.compile("^Make .* parts$")).first.click()
    expect(page.get_by_role("link", name=re.compile("^Front semi trailing arm"))).to_be_visible()
    # its own button is gone before the other end’s is pressed
    expect(page.get_by_role("button", name=re.compile("^Make .* parts$"))).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Make .* parts$")).first.click()
    expect(page.get_by_role("link", name=re.compile("^Rear semi trailing arm"))).to_be_visible()


def test_a_kind_that_ships_is_made_ones_own_and_a_joint_taken_out(page: Page, job: str) -> None:
    page.goto(f"{job}/layout")
    page.get_by_role("button", name="kind", exact=True).click()
    told = page.get_by_role("status").filter(has_text=re.compile("Still moves|It rises"))
    expect(told).to_have_text("It rises and falls, and nothing else of it moves.")
    page.get_by_role("button", name="Make it this end’s own").click()
    expect(page.get_by_label("Kind", exact=True)).to_have_value(re.compile(", changed$"))
    page.get_by_role("button", name=re.compile("^tie rod")).click()
    page.get_by_role("button", name="Take tie rod out").click()
    expect(told).to_have_text("Still moves in one way beside its travel: the wheel steers. Add what holds that.")
    page.get_by_role("slider", name="Along the motion").press("End")
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(told).to_have_text("It rises and falls, and nothing else of it moves.")
    # a file that is none is refused in words, and nothing is lost
    page.get_by_role("button", name="New end").first.click()
    page.get_by_label("Template file").set_input_files(
        {"name": "x.json", "mimeType": "application/json", "buffer": b'{"name": "x"}'}
    )
    page.get_by_role("button", name="Add the end").click()
    expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("This file holds no kind of suspension")


def test_a_damper_s_eye_on_an_arm_has_a_bracket_that_is_cut_for_its_tube(page: Page, flat_job: str) -> None:
    page.goto(f"{flat_job}/layout")
    page.get_by_role("button", name=re.compile("^▸? ?Damper")).first.click()
    page.get_by_role("checkbox", name="sizes of the lower eye, for a bracket").first.click()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.get_by_role("link", name=re.compile("Members")).click()
    page.get_by_role("link", name=re.compile("^Front lower arm")).first.click()
    lacking = page.get_by_text(re.compile(r"the bracket of damper low \(damper\): nothing here yet holds it"))
    expect(lacking).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="Add a tab pair for the Front damper, lower eye").click()
    expect(page).to_have_url(re.compile("/brackets/"))
    expect(page.get_by_role("heading", name="Front damper, lower eye, tabs")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    expect(page.get_by_text(re.compile("It stands on Front lower arm: on rear tube"))).to_be_visible()
    expect(page.get_by_label("Tube outside", exact=True)).to_have_value(re.compile("^57.1"))
    expect(page.get_by_role("button", name="Fit it to what it stands on")).to_be_visible()
    page.get_by_label("Foot to hole", exact=True).fill("20")
    page.get_by_label("Foot to hole", exact=True).press("Enter")
    expect(page.get_by_role("alert").filter(has_text="Fit it to what it stands on").first).to_be_visible()
    page.get_by_role("button", name="Fit it to what it stands on").click()
    expect(page.get_by_role("alert").filter(has_text="Fit it to what it stands on")).to_have_count(0)
    page.get_by_role("link", name=re.compile("Members")).click()
    page.get_by_role("link", name=re.compile("^Front lower arm")).first.click()
    expect(page.get_by_role("heading", name="Front lower arm")).to_be_visible()
    expect(page.get_by_text(re.compile("Not checked:"))).to_be_visible()
    expect(lacking).to_have_count(0)


def test_a_gusset_is_let_in_between_two_tubes_of_a_welded_arm(page: Page, address: str) -> None:
    jobs = page.request.get(f"{address}/api/jobs").json()["jobs"]
    demo = next(one for one in jobs if one["demo"] and one["name"] == "Plover")
    page.goto(f"{address}/jobs/{demo['id']}/members")
    page.get_by_role("link", name=re.compile("^Front radius arm")).first.click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="Put in a gusset").click()
    expect(page.get_by_label("reach, gusset 1")).to_be_visible()
    page.get_by_label("reach, gusset 1").fill("5000")
    page.get_by_label("reach, gusset 1").press("Enter")
    page.get_by_label("reach, gusset 1").fill("60")
    page.get_by_label("reach, gusset 1").press("Enter")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text(re.compile("^Gusset at")).first).to_be_visible()
