"""3D and dragging, bind map, what still moves, ride height, things to clear, tied links: in the real page."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect


@pytest.fixture
def layout(page: Page, job: str) -> Page:
    page.goto(f"{job}/layout")
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    return page


@pytest.fixture
def cycle(page: Page, job: str) -> Page:
    page.goto(f"{job}/cycle")
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    return page


def fold(page: Page, name: str) -> None:
    page.get_by_role("button", name=re.compile(f"^.?{name}")).first.click()


def test_a_joint_is_moved_in_3d_by_keyboard_and_the_fields_follow(layout: Page) -> None:
    layout.get_by_role("button", name="3D", exact=True).click()
    stage = layout.get_by_role("application")
    expect(stage.locator("canvas")).to_be_visible()
    stage.focus()
    for _ in range(40):  # through the joints to the one wanted
        layout.keyboard.press("n")
        if stage.get_attribute("data-chosen") == "upper_outer":
            break
    expect(stage).to_have_attribute("data-chosen", "upper_outer")
    layout.keyboard.press("y")
    for _ in range(3):
        layout.keyboard.press("ArrowUp")
    layout.keyboard.press("Shift+ArrowDown")
    expect(layout.get_by_label("upper outer joint, y", exact=True)).to_have_value("635.0")
    expect(layout.get_by_test_id("save-state")).to_have_text("saved")


def test_a_joint_is_dragged_along_its_axis(layout: Page) -> None:
    layout.get_by_role("button", name="3D", exact=True).click()
    stage = layout.get_by_role("application")
    expect(stage.locator("canvas")).to_be_visible()
    layout.get_by_role("button", name="front", exact=True).click()
    layout.get_by_role("button", name="drag z").click()
    stage.focus()
    for _ in range(40):
        layout.keyboard.press("n")
        if stage.get_attribute("data-chosen") == "wheel_centre":
            break
    expect(stage).to_have_attribute("data-chosen", "wheel_centre")
    x, y = (int(v) for v in (stage.get_attribute("data-at") or "").split())
    field = layout.get_by_label(re.compile("^centre of the wheel, .*, z$")).first
    expect(field).to_have_value("310.0")
    layout.mouse.move(x, y)
    layout.mouse.down()
    layout.mouse.move(x, y - 12, steps=4)
    layout.wait_for_timeout(100)
    layout.mouse.move(x, y - 20, steps=4)
    layout.mouse.up()
    expect(field).not_to_have_value("310.0")
    up = float(field.input_value())
    assert 320 < up < 400  # pulled up the page by 20 pixels
    layout.get_by_role("button", name="three views").click()
    expect(layout.locator("[data-drawing=end]")).to_be_visible()
    layout.get_by_role("button", name="Undo", exact=True).click()
    expect(field).to_have_value("310.0")  # a drag is undone as one


@pytest.fixture
def flat_page(browser: Browser) -> Iterator[Page]:
    """A page in a browser without WebGL."""
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.add_init_script(
        "const get = HTMLCanvasElement.prototype.getContext;"
        "HTMLCanvasElement.prototype.getContext = function (kind, ...more) {"
        " return kind.startsWith('webgl') ? null : get.call(this, kind, ...more) }"
    )
    page = context.new_page()
    yield page
    context.close()


def test_without_webgl_the_three_views_stand_in(flat_page: Page, job: str) -> None:
    flat_page.goto(f"{job}/layout")
    flat_page.get_by_role("button", name="3D", exact=True).click()
    expect(flat_page.get_by_text("The three views stand in")).to_be_visible()
    expect(flat_page.locator("[data-drawing=end] text", has_text="from behind")).to_be_visible()


def test_the_bind_map_names_the_worst_corner_and_takes_the_strip_there(cycle: Page) -> None:
    cycle.get_by_role("button", name="bind map").click()
    expect(cycle.locator("[data-drawing=bind]")).to_be_visible()
    expect(cycle.get_by_text("Which joint binds?")).to_be_visible()
    cycle.get_by_role("button", name=re.compile("^.*tie rod, inner end")).click()
    expect(cycle.locator("[data-drawing=bind] text", has_text="tie rod, inner end, limit 16°")).to_be_visible()
    # as far up as the damper lets it go when leaned by 3° and steered: 79.1 mm straight ahead, a tenth more at full lock
    expect(cycle.get_by_test_id("travel")).to_have_text("+79.2 mm")


def test_what_still_moves_by_keyboard_alone(cycle: Page) -> None:
    cycle.get_by_role("button", name="what still moves").focus()
    cycle.keyboard.press("Enter")
    expect(cycle.get_by_text("Nothing is in place yet")).to_be_visible()
    for name in ("upper arm pivots", "lower arm pivots", "upper outer joint", "lower outer joint"):
        cycle.get_by_role("checkbox", name=name).focus()
        cycle.keyboard.press("Space")
        expect(cycle.get_by_role("checkbox", name=name)).to_be_checked()
    expect(cycle.get_by_text("It still moves in 2 ways.")).to_be_visible()
    expect(cycle.get_by_text("the wheel steers")).to_be_visible()
    drawing = cycle.locator("[data-drawing=end]")
    expect(drawing).to_be_visible()
    before = drawing.inner_html()
    cycle.get_by_role("slider", name="Along the motion").focus()
    cycle.keyboard.press("End")
    cycle.wait_for_function("(old) => document.querySelector('[data-drawing=end]').innerHTML !== old", arg=before)
    cycle.get_by_role("checkbox", name="stand under the wheel").focus()
    cycle.keyboard.press("Space")
    expect(cycle.get_by_text("It still moves in one way.")).to_be_visible()


def test_an_event_of_the_list_takes_the_strip_to_it(cycle: Page) -> None:
    cycle.get_by_role("button", name=re.compile("the bump stop touches")).click()
    expect(cycle.get_by_test_id("travel")).to_have_text("+45.5 mm")


def test_one_field_of_ride_height_moves_the_whole_design(layout: Page) -> None:
    fold(layout, "Ride height")
    plots = layout.locator("[data-drawing=plots]")
    expect(plots.locator("text", has_text="−0.80°")).to_be_visible()
    field = layout.get_by_label("Front, higher by")
    field.fill("-20")
    field.press("Enter")
    # lower at the front alone: the camber goes with the travel, the nose goes down
    expect(plots.locator("text", has_text="−0.80°")).to_have_count(0)
    expect(layout.get_by_text("front −20.0 mm, rear 0.0 mm")).to_be_visible()
    field.fill("-450")
    field.press("Enter")
    expect(layout.get_by_role("alert").filter(has_text="at least -300").first).to_be_visible()


def test_a_thing_to_miss_is_added_and_named_on_the_way(layout: Page, job: str) -> None:
    fold(layout, "Things to clear")
    layout.get_by_role("button", name="Add a wall").click()
    expect(layout.get_by_test_id("save-state")).to_have_text("saved")
    layout.goto(f"{job}/cycle")
    # the wall stands 700 mm up, the tyre's top at 620: it is met at 80 mm of bump less what the tyre's shape takes
    expect(layout.get_by_role("button", name=re.compile("tyre comes within 10 mm of thing 3"))).to_be_visible()


def test_links_made_from_an_end_follow_its_points(layout: Page) -> None:
    fold(layout, "Lengths")
    layout.get_by_role("button", name=re.compile("Make .*links.* of these")).click()
    expect(layout.get_by_text("2 of the job’s links follow these points.")).to_be_visible()
    with layout.expect_download() as sheet:
        layout.get_by_role("button", name="Measuring sheet, PDF").click()
    assert Path(sheet.value.path()).read_bytes().startswith(b"%PDF-")
    field = layout.get_by_label("joint of the tie rod on the upright, y", exact=True)
    field.fill("700")
    field.press("Enter")
    # 118, 292, 252 to 112, 700, 262
    expect(layout.get_by_text("408.2 mm").first).to_be_visible()
    layout.keyboard.press("Escape")
    layout.get_by_role("link", name=re.compile("Members")).click()
    # and its tube is sawn 36.0 mm longer than the 275.8 of before
    expect(layout.locator("[data-drawing=overview] text", has_text="saw 311.7")).to_be_visible()


def test_a_pick_up_of_parts_that_are_made_keeps_their_lengths_and_moves_the_wheel(layout: Page) -> None:
    layout.get_by_role("checkbox", name="the parts of this end are made").click()
    expect(layout.get_by_text("Its parts are made: they stay as long as they are")).to_be_visible()
    field = layout.get_by_label("joint of the tie rod on the rack, y", exact=True)
    field.fill("287")
    field.press("Enter")
    expect(layout.get_by_text(re.compile("The wheel went .* toe [+−][0-9]"))).to_be_visible()
    expect(field).to_have_value("287.0")
    outer = layout.get_by_label("joint of the tie rod on the upright, y", exact=True)
    outer.fill("700")
    outer.press("Enter")
    expect(layout.locator("[data-point=tie_outer]").get_by_role("alert")).to_contain_text("moves with the wheel")
    layout.get_by_role("button", name="the wheel", exact=True).click()
    expect(layout.get_by_text("Parts that are cut already no longer fit.")).to_be_visible()
    expect(layout.locator("[data-point=tie_outer]").get_by_role("alert")).to_have_count(0)
    layout.keyboard.press("Escape")
    layout.get_by_role("link", name=re.compile("Members")).click()
    # the rod is as it was
    expect(layout.locator("[data-drawing=overview] text", has_text="saw 275.8")).to_be_visible()


def test_what_is_refused_is_said_at_its_field(layout: Page) -> None:
    field = layout.get_by_label(re.compile("^centre of the wheel, .*, y$")).first
    field.fill("-10")
    field.press("Enter")
    expect(layout.locator("[data-point=wheel_centre]").get_by_role("alert")).to_contain_text(
        "y is positive to the left"
    )
    layout.get_by_role("button", name="Undo", exact=True).click()
    expect(layout.locator("[data-point=wheel_centre]").get_by_role("alert")).to_have_count(0)


def test_an_anti_roll_bar_is_put_on_a_new_end(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_label("Name of a new job").fill("With a bar")
    page.get_by_role("button", name="Start a job").click()
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    page.keyboard.press("2")
    page.get_by_role("button", name="New end").click()
    page.get_by_role("button", name="Add the end").click()
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    fold(page, "Added")
    page.get_by_role("checkbox", name="Anti-roll bar with arms and drop links").click()
    expect(page.get_by_text("joint of the drop link on the bar’s arm")).to_be_visible()
    expect(page.get_by_role("checkbox", name="Anti-roll bar with arms and drop links")).to_be_checked()
    page.get_by_role("checkbox", name="Anti-roll bar with arms and drop links").click()
    expect(page.get_by_text("joint of the drop link on the bar’s arm")).to_have_count(0)


def test_what_is_taken_off_leaves_no_point_behind_that_would_stop_the_end(layout: Page) -> None:
    fold(layout, "Damper")
    layout.get_by_role("checkbox", name="there is a damper").click()
    expect(layout.get_by_role("checkbox", name="there is a damper")).not_to_be_checked()
    fold(layout, "Shafts")
    layout.get_by_role("checkbox", name="drive shaft").click()
    expect(layout.get_by_text("Inner joint, where")).to_be_visible()
    layout.get_by_role("checkbox", name="drive shaft").click()
    expect(layout.get_by_text("Inner joint, where")).to_have_count(0)
    expect(layout.locator("[data-drawing=end]")).to_be_visible()
    expect(layout.get_by_test_id("save-state")).to_have_text("saved")
    expect(layout.get_by_role("alert")).to_have_count(0)
    expect(layout.get_by_text("damper low", exact=True)).to_have_count(0)


def reach(page: Page, target: str, most: int = 400, back: bool = False) -> None:
    """Tab until the focus stands on what a selector finds."""
    for _ in range(most):
        if page.evaluate("(want) => document.activeElement?.matches(want) ?? false", target):
            return
        page.keyboard.press("Shift+Tab" if back else "Tab")
    raise AssertionError(f"the keyboard does not reach {target}")


def test_from_template_to_events_bind_map_and_what_still_moves_by_keyboard_alone(page: Page, address: str) -> None:
    page.goto(address)
    expect(page.get_by_label("Name of a new job")).to_be_visible()
    reach(
        page,
        "input[aria-label='Name of a new job'], #"
        + (page.get_by_label("Name of a new job").get_attribute("id") or "none"),
    )
    page.keyboard.type("By key")
    page.keyboard.press("Enter")
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    page.keyboard.press("2")
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    reach(page, "section[aria-label=Sheet] button")
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_be_visible()
    # the kinds are one stop of Tab; arrows go from card to card
    reach(page, "[role=dialog] [role=radio]")
    expect(page.get_by_role("radio", name="Double wishbone", exact=True)).to_be_checked()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("radio", name="Double wishbone", exact=True)).not_to_be_checked()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("radio", name="Double wishbone", exact=True)).to_be_focused()
    for _ in range(20):
        if page.evaluate("document.activeElement?.textContent") == "Add the end":
            break
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    # a point typed, by key
    reach(page, "input[aria-label='upper outer joint, z']")
    before = page.evaluate("document.activeElement.value")
    page.keyboard.type(str(float(before) + 4))
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    # taken, the field is left: a station's key is not typed into it
    page.keyboard.press("3")
    expect(page.get_by_text("What stops it?")).to_be_visible()
    for _ in range(3):
        page.keyboard.press(".")
    expect(page.get_by_test_id("travel")).to_have_text("+15.0 mm")
    for view, sign in (("bind map", "text=worst first"), ("what still moves", "text=in place")):
        reach(page, "[aria-label='What is shown'] button")
        for _ in range(6):
            if (page.evaluate("document.activeElement?.textContent") or "").lower() == view:
                break
            page.keyboard.press("ArrowRight")
        page.keyboard.press("Enter")
        expect(page.locator(sign).first).to_be_visible()
