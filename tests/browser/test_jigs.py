"""Station 7: every member held by a rail or a jig, one jig set as a shop wants it, its sheets in the pack's list."""

import re

from playwright.sync_api import Page, expect


def test_all_jigs_are_laid_out_and_one_is_set_and_found_again(page: Page, job: str) -> None:
    page.goto(f"{job}/jigs")
    members = page.get_by_role("list", name="Members and what holds them")
    expect(members.get_by_text("its rail").first).to_be_visible()
    page.get_by_role("button", name="Lay out all jigs").click()
    told = page.get_by_role("status", name="What was laid out")
    expect(told).to_contain_text("2 jigs are laid out, 1 not:")
    expect(told).to_contain_text("Front steering rack: A steering rack is bought whole")
    members.get_by_role("link", name="Front lower arm, jig").click()
    expect(page.locator("[data-drawing=jig-left] text", has_text=re.compile("^LEFT$"))).to_be_visible()
    headline = page.get_by_test_id("headline")
    expect(headline).to_contain_text("one for each hand")
    panel = page.get_by_role("tabpanel", name="The part")
    expect(panel).to_contain_text("lower front to lower rear")
    expect(panel).to_contain_text(re.compile(r"98\.\d mm above.*98\.\d mm below"))
    # the other hand's sheet has its word and its ordinates the other way
    page.get_by_role("combobox", name="View").click()
    page.get_by_role("option", name="plan and elevation, RIGHT").click()
    expect(page.locator("[data-drawing=jig-right] text", has_text=re.compile("^RIGHT$"))).to_be_visible()
    # set as the shop wants it: higher over the plate, on rails
    page.get_by_role("tab", name="What it is").click()
    field = page.get_by_role("textbox", name="Under the part")
    field.fill("60")
    field.press("Enter")
    page.get_by_role("combobox", name="Base").click()
    page.get_by_role("option", name="box tube and angle iron").click()
    page.get_by_role("tab", name="Check list").click()
    expect(headline).to_contain_text("rails over")
    page.get_by_role("tab", name="How it is made").click()
    expect(page.get_by_test_id("made")).to_contain_text("weld in balance")
    # its rails are sawn from the job's own list
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.keyboard.press("8")
    expect(page.get_by_text("box 60 × 60 × 3").first).to_be_visible()
    # from the member, the station's key leads to its jig; undo takes it away again
    page.goto(f"{job}/jigs")
    expect(members.get_by_role("link", name="Front lower arm, jig")).to_be_visible()


def test_an_end_has_its_hub_stand_and_its_dummies_by_one_press(page: Page, job: str) -> None:
    page.goto(f"{job}/jigs")
    page.get_by_role("button", name="Front: hub stand, upright, dummy dampers").click()
    page.get_by_role("link", name="Front hub stand").click()
    expect(page.locator("[data-drawing=hub_stand]")).to_be_visible()
    headline = page.get_by_test_id("headline")
    expect(headline).to_contain_text("310.0 mm over the floor at −0.80° camber")
    page.get_by_role("tab", name="What it is").click()
    field = page.get_by_role("textbox", name="Camber", exact=True)
    field.fill("-2")
    field.press("Enter")
    # advice at its field: an opening that leaves nothing to the studs
    field = page.get_by_role("textbox", name="What stands out of its middle")
    field.fill("104")
    field.press("Enter")
    expect(page.get_by_text("is the least. Give 94.3 mm or less").first).to_be_visible()
    field.fill("67")
    field.press("Enter")
    page.get_by_role("tab", name="Check list").click()
    expect(headline).to_contain_text("−2.00° camber")
    # the top stud's washers by hand: 57.15 mm · (1 + cos 36°) · sin 2°, and what toe adds of the stud that asks least
    expect(page.locator("[data-drawing=hub_stand]")).to_contain_text("3.67")
    page.goto(f"{job}/jigs")
    page.get_by_role("link", name="Front dummy damper").click()
    expect(page.locator("[data-drawing=dummy]")).to_contain_text("droop")
    expect(page.get_by_text("Never under a car on its wheels").first).to_be_visible()
    # without a floor both hubs hang from a beam over the car's own rail
    page.goto(f"{job}/jigs")
    page.get_by_role("button", name="Front: hanger over the rails").click()
    expect(page.locator("[data-drawing=hanger]")).to_contain_text("plates, inside 1425.4")
    expect(page.get_by_test_id("headline")).to_contain_text("under a beam on Shock tower rail")
    page.goto(f"{job}/jigs")
    expect(page.get_by_role("link", name="Front hub hanger")).to_be_visible()
    expect(page.get_by_role("button", name="Front: hanger over the rails")).to_have_count(0)
    page.get_by_role("button", name="One set jig for all links").click()
    table = page.locator("[data-drawing=set_jig]")
    expect(table).to_contain_text("Panhard rod")
    expect(page.get_by_test_id("headline")).to_contain_text("Holds 4 links from 372.2 mm to 940.4 mm")
    page.goto(f"{job}/jigs")
    page.get_by_role("button", name="Axle tube: bracket bar").click()
    expect(page.locator("[data-drawing=bracket_bar]")).to_contain_text("from the pinion")
    expect(page.get_by_test_id("headline")).to_contain_text("Holds 7 brackets on Axle tube with 4 bars")
