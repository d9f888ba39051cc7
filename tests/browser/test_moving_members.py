"""Radius arm, trailing arm, rocker and anti-roll bar: made of their ends in one press, sized, changed and read, in the real interface."""

import re
import uuid
from typing import Any

import pytest
from playwright.sync_api import Page, expect


@pytest.fixture
def bare(page: Page, address: str, request: pytest.FixtureRequest) -> str:
    """A copy of a demo job without any of its parts."""
    asked = page.request
    demo = next(j for j in asked.get(f"{address}/api/jobs").json()["jobs"] if j["demo"] and j["name"] == request.param)
    design: dict[str, Any] = asked.get(f"{address}/api/jobs/{demo['id']}").json()["design"]
    empty = {table: [] for table in design["catalogue"]}
    design |= {"parts": [], "joints": [], "catalogue": empty}
    made = asked.post(f"{address}/api/import", data={"id": str(uuid.uuid4()), "design": design}).json()
    return f"{address}/jobs/{made['job_id']}"


def make_and_size(page: Page, ends: int) -> None:
    """Every end's members made parts, one press each, and all sized at once."""
    makes = page.get_by_role("button", name=re.compile("^Make .* parts$"))
    for left in range(ends, 0, -1):
        expect(makes).to_have_count(left)
        makes.first.click()
    expect(makes).to_have_count(0)
    expect(page.get_by_text("Not sized yet").first).to_be_visible()
    page.get_by_role("button", name="Size all").click()
    expect(page.get_by_test_id("size-all")).to_be_visible(timeout=90_000)
    page.get_by_test_id("size-all").get_by_role("button", name="Use these parts").click()


@pytest.mark.parametrize("bare", ["Plover"], indirect=True)
def test_radius_and_trailing_arms_are_made_sized_and_changed(page: Page, bare: str) -> None:
    page.goto(f"{bare}/members")
    expect(page.get_by_text("axle: not made here")).to_be_visible()
    make_and_size(page, 2)
    radius = page.get_by_role("link", name=re.compile("^Front radius arm")).first
    expect(radius).to_be_visible()
    radius.click()
    expect(page.get_by_role("heading", name="Front radius arm")).to_be_visible()
    expect(page.get_by_text("arm chassis to arm rear bolt").first).to_be_visible()
    expect(page.get_by_text(re.compile(r"lasts about [\d,]+ everyday cycles"))).to_be_visible()
    # the trailing arm: a box round the wheel, where tubes alone do not last
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.goto(f"{bare}/members")
    page.get_by_role("link", name=re.compile("^Rear arm")).first.click()
    page.get_by_role("tab", name="What it is").click()
    tubes = page.get_by_role("list", name="Tubes of the arm")
    expect(tubes.get_by_role("listitem")).to_have_count(6)
    for name in ("Make tube 1 a box of plate", "Make tube 2 a box of plate", "Make tube 3 a box of plate"):
        page.get_by_role("button", name=name).click()
    page.get_by_role("button", name=re.compile("^Take out tube 5$")).click()
    expect(tubes.get_by_role("listitem")).to_have_count(5)
    page.get_by_label("box high, 1").fill("110")
    page.keyboard.press("Enter")
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("tabpanel").get_by_role("button", name="Size it").click()
    page.get_by_role("button", name=re.compile("^Use th")).first.click(timeout=60_000)
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("in use").or_(page.locator("[data-drawing] text", has_text="in use")).first).to_be_visible()
    expect(page.locator("text", has_text=re.compile(r"box 110 × 60 ×")).first).to_be_visible()
    expect(page.get_by_text(re.compile(r"lasts about [\d,]+ everyday cycles"))).to_be_visible()
    # what is taken out so that it hangs loose is said at its field, and nothing is lost
    page.get_by_role("tab", name="What it is").click()
    for _ in range(2):
        page.get_by_role("button", name=re.compile("^Take out tube 4$")).click()
    expect(page.get_by_role("alert").filter(has_text="No tube goes to arm front").first).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_role("alert").filter(has_text="No tube goes to arm front")).to_have_count(0)


@pytest.mark.parametrize("bare", ["Dunlin"], indirect=True)
def test_a_rocker_and_a_bar_are_made_and_sized(page: Page, bare: str) -> None:
    page.goto(f"{bare}/members")
    make_and_size(page, 1)
    page.get_by_role("link", name=re.compile("^Front rocker")).first.click()
    page.get_by_role("tab", name="What it is").click()
    # the plates that come first hold no bolt of 12 mm: larger ones, and the boss and plate that go with them
    for label, value in (
        ("bolt, push high", "16"), ("plate’s radius, push high", "26"), ("bolt, damper rocker", "16"), ("plate’s radius, damper rocker", "26"),
        ("Radius of the plate round it", "44"), ("Boss, outside", "50"),
    ):  # fmt: skip
        page.get_by_label(label, exact=True).fill(value)
        page.keyboard.press("Enter")
    for words in ("push high", "damper rocker"):
        page.get_by_role("combobox", name=f"Bolt’s class at {words}").click()
        page.get_by_role("option", name="10.9").click()
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("tabpanel").get_by_role("button", name="Size it").click()
    page.get_by_role("button", name=re.compile("^Use th")).first.click(timeout=60_000)
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text(re.compile("lasts"))).to_be_visible()
    expect(page.locator("[data-drawing] text", has_text="damper rocker").first).to_be_visible()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.goto(f"{bare}/members")
    page.get_by_role("link", name=re.compile("^Front anti-roll bar")).first.click()
    expect(page.get_by_text(re.compile("N·m for each degree between its ends")).first).to_be_visible()
    # its rate is the end's
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("Outside diameter").fill("20")
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile("is the end’s: cornering is worked out with it"))).to_be_visible()
    # all of it is on the list to cut by
    page.get_by_role("link", name="Cut & pack").click()
    expect(page.get_by_text("Front anti-roll bar, bar").first).to_be_visible()


def test_a_watts_rocker_from_its_template(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_label("Name of a new job").fill("Rocker")
    page.get_by_role("button", name="Start a job").click()
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    page.keyboard.press("2")
    page.get_by_role("button", name="New end").first.click()
    page.get_by_role("radio", name=re.compile("Watts linkage with its rocker on the axle")).click()
    page.get_by_role("button", name="Add the end").click()
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    page.get_by_role("link", name="Members").click()
    page.get_by_role("button", name=re.compile("^Make .* parts$")).first.click()
    page.get_by_role("link", name=re.compile("rocker")).first.click()
    # no load yet: it says what it waits for, by name
    expect(page.get_by_text(re.compile("nothing says what the rocker sees")).first).to_be_visible()
