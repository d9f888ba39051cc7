"""From vehicle data to a sized car and its turn sheet, in the real interface."""

import re

from playwright.sync_api import Page, expect

from tests.browser.test_whole_suspension import reach


def test_from_vehicle_data_to_a_sized_car_and_its_turn_sheet(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_label("Name of a new job").fill("Loaded")
    page.get_by_role("button", name="Start a job").click()
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    # loads ask for a suspension first
    page.keyboard.press("4")
    expect(page.get_by_text("Nothing to load yet")).to_be_visible()
    page.get_by_role("button", name="To the layout").click()
    page.get_by_role("button", name="New end").first.click()
    page.get_by_role("radio", name="Five-link upright", exact=True).click()
    page.get_by_role("button", name="Add the end").click()
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    # a set is chosen; what the wheels carry is not known yet, and every case says so
    page.get_by_role("link", name="Loads").click()
    expect(page.get_by_text("What must it stand?")).to_be_visible()
    page.get_by_role("button", name="road", exact=True).click()
    expect(page.get_by_text(re.compile("Give the corner weights")).first).to_be_visible()
    # the vehicle
    page.get_by_role("link", name="Layout").click()
    page.get_by_role("button", name=re.compile("^Vehicle")).click()
    page.get_by_label("Mass of the whole car").fill("900")
    page.keyboard.press("Enter")
    page.get_by_label("It stands behind the front axle").fill("1250")
    page.keyboard.press("Enter")
    page.get_by_label("Unsprung, front").fill("70")
    page.keyboard.press("Enter")
    # what the end that is not in this job does in a corner is typed; this one has no spring yet, so its own too
    page.get_by_role("button", name=re.compile("^Lean and tyres")).click()
    for label, value in (
        ("Roll stiffness, front", "450"), ("Roll stiffness, rear", "380"), ("Roll centre, rear", "40"), ("Track, rear", "1450"),
        ("Wheel centres, of an end not here", "300"),
    ):  # fmt: skip
        page.get_by_label(label).fill(value)
        page.keyboard.press("Enter")
    # every case is carried now, on the damper that it began with
    page.get_by_role("link", name="Loads").click()
    expect(page.locator("[data-drawing=loads]")).to_be_visible()
    cases = page.get_by_role("list", name="Load cases")
    expect(cases.get_by_text("corner 1 g, turning left")).to_be_visible()
    expect(cases.get_by_text("▲")).to_have_count(0)
    # without it the snatch is stopped by nothing, and each says that nothing here holds the car up
    page.get_by_role("link", name="Layout").click()
    page.get_by_role("button", name=re.compile("^Damper")).click()
    page.get_by_label("there is a damper").click()
    expect(page.get_by_label("there is a damper")).not_to_be_checked()
    page.get_by_role("link", name="Loads").click()
    expect(cases.get_by_text("▲")).to_have_count(1)
    expect(cases.get_by_text("Nothing at this end stops the droop")).to_be_visible()
    expect(cases.get_by_text("no spring, stop or strap of this end carries it").first).to_be_visible()
    page.get_by_role("button", name=re.compile("^brake 1 g")).click()
    expect(page.locator("[data-drawing=loads] text", has_text="kN").first).to_be_visible()
    page.get_by_role("button", name="worst of each part").click()
    expect(page.get_by_role("table").first).to_contain_text("pulled")
    # links made of the end, sized all at once
    page.get_by_role("link", name="Layout").click()
    page.get_by_role("button", name=re.compile("^Lengths")).click()
    page.get_by_role("button", name=re.compile("^Make links")).click()
    page.get_by_role("link", name="Members").click()
    expect(page.get_by_text("Not sized yet").first).to_be_visible()
    page.get_by_role("button", name="Size all").click()
    expect(page.get_by_test_id("size-all")).to_be_visible(timeout=60_000)
    page.get_by_test_id("size-all").get_by_role("button", name="Use these parts").click()
    expect(page.get_by_text("Not sized yet")).to_have_count(0)
    # the turn sheet
    page.get_by_role("button", name="turn sheet").click()
    expect(page.get_by_role("table").first).to_contain_text("toe link")
    page.get_by_label("toe-in, measured").fill("0.8")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("turns")).to_contain_text(re.compile("longer|shorter"))
    page.get_by_role("button", name="what gives first").click()
    expect(page.get_by_text(re.compile("^(▲ )?First: "))).to_be_visible()
    expect(page.get_by_text("Fatigue screen")).to_be_visible()
    # undone in one step
    page.get_by_role("button", name="Undo", exact=True).click()
    page.get_by_role("button", name="members", exact=True).click()
    expect(page.get_by_text("Not sized yet").first).to_be_visible()


def test_a_changed_case_changes_what_the_links_see_and_a_bad_one_is_named(page: Page, job: str) -> None:
    page.goto(f"{job}/loads")
    expect(page.locator("[data-drawing=loads]")).to_be_visible()
    page.get_by_role("button", name="Change the cases").click()
    page.get_by_role("button", name=re.compile("^bump 4 g at the stop")).click()
    factor = page.get_by_label("Up, × standing load").first
    factor.fill("0")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("no contact force")
    factor.fill("6")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    expect(page.get_by_text("changed here")).to_be_visible()
    page.get_by_role("button", name="Back to the cases").click()
    page.get_by_role("button", name="off-road", exact=True).click()
    expect(page.get_by_text("changed here")).to_have_count(0)


def open_part(page: Page, job: str, name: str, panel: str) -> None:
    page.goto(f"{job}/members")
    page.get_by_role("link", name=re.compile(f"^{name}")).click()
    page.get_by_role("tab", name=panel).click()


def test_arms_are_read_and_braced_by_keyboard(page: Page, job: str) -> None:
    page.goto(f"{job}/members")
    expect(page.get_by_role("button", name="Size all")).to_be_visible()
    page.get_by_role("link", name=re.compile("^Front lower arm")).focus()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("headline")).to_contain_text(re.compile("is close|It holds"))
    before = page.get_by_test_id("headline").text_content()
    reach(page, "[role=tab]")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    field = page.get_by_label("Cross brace, share of the way out")
    expect(field).to_have_value("0.6")
    field.fill("0.4")
    page.keyboard.press("Enter")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_test_id("headline")).not_to_have_text(before or "")


def test_an_arm_put_on_rod_ends_is_sized_opened_and_turned(page: Page, job: str) -> None:
    open_part(page, job, "Front lower arm", "Will it hold?")
    expect(page.locator("[data-drawing=arm] text", has_text="saw").first).to_be_visible()
    # a check opens to its case, its position and the line that repeats it; its tube is marked on the drawing
    page.locator("[data-check='frame_weld:front tube'] button").first.click()
    working = page.get_by_test_id("working")
    expect(working).to_contain_text(re.compile("“.+”, at"))
    expect(working.get_by_test_id("command")).to_contain_text("./tirante calc arm")
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("At its pivots").click()
    page.get_by_role("option", name="rod ends").click()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_test_id("headline")).to_contain_text("No joint is chosen yet")
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("tabpanel").get_by_role("button", name="Size it").click()
    page.get_by_role("button", name="Use these parts").click(timeout=60_000)
    expect(page.get_by_test_id("headline")).to_contain_text(re.compile("^It holds|is close"))
    expect(page.locator("[data-check=engagement]").first).to_be_visible()
    page.goto(f"{job}/members?view=turns")
    for side in ("front tube", "rear tube"):
        expect(page.get_by_role("table").first).to_contain_text(f"Front lower arm, {side}")
    page.get_by_role("button", name=re.compile("^Working")).click()
    expect(page.get_by_test_id("command")).to_contain_text("./tirante calc turns")


def test_what_an_arm_lacks_is_among_what_is_to_be_settled(page: Page, job: str) -> None:
    open_part(page, job, "Front lower arm", "What it is")
    page.get_by_label("Stud, at its seat").fill("8")
    page.keyboard.press("Enter")
    expect(page.get_by_text("What it sees")).to_have_count(0)
    page.goto(f"{job}/members")
    flag = page.get_by_role("button", name=re.compile("to settle$"))
    expect(flag).to_be_visible()
    flag.click()
    page.get_by_role("menuitem", name=re.compile("Front lower arm: Ball joint’s stud")).click()
    expect(page.locator("[data-check=stud]").get_by_test_id("working")).to_be_visible()


def test_one_bracket_holds_the_ends_of_two_members(page: Page, flat_job: str) -> None:
    page.goto(f"{flat_job}/brackets")
    page.get_by_role("link", name=re.compile("^Rear upper link, tabs")).first.click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("It holds also").click()
    page.get_by_role("option", name="Front upper arm, front pivot").click()
    expect(page.get_by_role("link", name="Front upper arm, front pivot")).to_be_visible()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.get_by_role("button", name="Let Front upper arm, front pivot go").click()
    expect(page.get_by_role("link", name="Front upper arm, front pivot")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Take out this tab pair")).click()
    expect(page.get_by_role("link", name=re.compile("^Rear upper link, tabs"))).to_have_count(0)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_role("link", name=re.compile("^Rear upper link, tabs")).first).to_be_visible()


def test_a_damper_s_eye_gets_a_bracket(page: Page, flat_job: str) -> None:
    page.goto(f"{flat_job}/brackets")
    damper = page.get_by_role("listitem").filter(has_text="Front damper, upper eye")
    expect(damper.get_by_text("Give the eye’s sizes first, here or at Layout, under Damper.")).to_be_visible()
    page.goto(f"{flat_job}/layout")
    page.get_by_role("button", name=re.compile("^Damper")).click()
    page.get_by_label("sizes of the upper eye, for a bracket").click()
    page.get_by_label("Bore, for the bolt").fill("12")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.get_by_role("link", name="Brackets").click()
    damper.get_by_role("button", name="Add a tab pair for the Front damper, upper eye").click()
    expect(page.get_by_role("heading", name="Front damper, upper eye, tabs")).to_be_visible()
    expect(page.locator("[data-check=pin_shear]")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    expect(page.get_by_text("Front damper, upper eye", exact=True)).to_be_visible()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.goto(f"{flat_job}/brackets")
    expect(damper.get_by_role("link", name="Front damper, upper eye, tabs")).to_be_visible()


def test_a_link_is_bent_spliced_and_boxed_and_size_all_counts(page: Page, job: str) -> None:
    page.goto(f"{job}/members")
    page.locator("[data-drawing=overview] text", has_text="Panhard rod").first.click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("bent round something").check()
    page.get_by_role("button", name="Take the offset from the clearance in Cycle").click()
    expect(page.get_by_text(re.compile("from the exhaust at .* of travel"))).to_be_visible()
    expect(page.locator("[data-drawing=link] text", has_text="one bend of")).to_be_visible()
    page.get_by_label("two lengths of tube joined by a sleeve").check()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.locator("[data-check=splice_net]")).to_be_visible(timeout=20_000)
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="Make it a boxed link instead").click()
    expect(page.locator("[data-drawing=link] text", has_text="cut through")).to_be_visible()
    expect(page.get_by_text("Insert welds")).to_have_count(0)
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.locator("[data-check=box_stress]")).to_be_visible()
    for _ in range(4):  # boxed, spliced, bent, its offset
        page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_test_id("save-state")).to_have_text(
        "saved"
    )  # else what is saved as the page is left meets itself
    page.goto(f"{job}/members")
    page.get_by_role("button", name="Size all").click()
    expect(page.get_by_role("status").filter(has_text=re.compile("parts sized|beginning"))).to_be_visible()
    found = page.get_by_test_id("size-all")
    expect(found).to_be_visible(timeout=60_000)
    expect(found).to_contain_text("Front upper arm")
