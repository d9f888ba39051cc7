"""What a stranger does first: typing that is taken or given back, the way back from a part, a kind chosen by its drawing, parts from an end."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import copy_of


def test_enter_takes_a_figure_and_escape_leaves_it_as_it_was(page: Page, address: str) -> None:
    page.goto(f"{copy_of(page, address, 'Marram')}/layout")
    field = page.get_by_label("upper outer joint, z", exact=True)
    expect(field).to_be_visible()
    before = field.input_value()
    field.fill("121")
    page.wait_for_timeout(600)  # longer than typing waits before it is looked at
    field.press("Escape")
    expect(field).to_have_value(before)
    expect(field).not_to_be_focused()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.reload()
    expect(field).to_have_value(before)
    field.fill("121")
    page.wait_for_timeout(310)  # just taken, and not come back yet
    field.press("Escape")
    expect(field).to_have_value(before)
    page.wait_for_timeout(500)
    expect(field).to_have_value(before)
    wanted = f"{float(before) + 4:.1f}"
    field.fill(wanted)
    field.press("Enter")
    page.keyboard.press("3")  # a station, not a digit
    expect(page.get_by_text("What stops it?")).to_be_visible()
    page.keyboard.press("2")
    expect(field).to_have_value(wanted)
    # plain numbers alike
    page.get_by_role("button", name="Vehicle").click()
    share = page.get_by_label("Of it in front", exact=True)
    stood = share.input_value()
    share.fill("46")
    share.press("Escape")
    expect(share).to_have_value(stood)
    whole = page.get_by_label("Whole car", exact=True).input_value()
    share.fill("46")
    share.press("Enter")
    expect(share).to_have_value("46")
    expect(page.get_by_label("Whole car", exact=True)).to_have_value(whole)
    left, right = (float(page.get_by_label(f"Front {side}", exact=True).input_value()) for side in ("left", "right"))
    assert left + right == pytest.approx(0.46 * float(whole), abs=0.01)


def test_back_from_a_part_by_escape_crumb_and_station_and_the_strip_follows_it(page: Page, address: str) -> None:
    job = copy_of(page, address, "Plover")
    page.goto(f"{job}/members")
    for back in ("escape", "crumb", "station", "key"):
        page.get_by_role("link", name=re.compile("^Rear arm")).first.click()
        expect(page.get_by_role("heading", name="Rear arm")).to_be_visible()
        expect(page.get_by_role("group", name="Travel strip")).to_contain_text("Rear")
        if back == "escape":
            page.keyboard.press("Escape")
        elif back == "crumb":
            page.get_by_role("banner").get_by_role("link", name="Members").click()
        elif back == "station":
            page.get_by_role("navigation", name="Stations").get_by_role("link", name="Members").click()
        else:
            page.keyboard.press("5")
        expect(page.get_by_role("heading", name="Members", exact=True)).to_be_visible()
    page.get_by_role("link", name=re.compile("^Front radius arm")).first.click()
    expect(page.get_by_role("group", name="Travel strip")).to_contain_text("Front")
    # a bracket goes with the end of what it holds
    page.goto(f"{job}/brackets")
    page.get_by_role("link", name="Rear bump stop, pad").first.click()
    expect(page.get_by_role("group", name="Travel strip")).to_contain_text("Rear")
    # found by name: an end, a load case
    page.keyboard.press("/")
    page.get_by_role("combobox").first.fill("landing from")
    expect(page.get_by_role("option", name=re.compile("landing from 300 mm")).first).to_be_visible()
    page.get_by_role("combobox").first.fill("Front")
    page.get_by_role("option", name="Front", exact=True).click()
    expect(page.get_by_role("heading", name="Front", exact=True)).to_be_visible()


def test_a_new_job_leads_from_its_kind_to_its_parts(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_label("Name of a new job").fill("First")
    page.get_by_label("Name of a new job").press("Enter")
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    page.get_by_role("button", name="New end").click()
    page.get_by_role("button", name="both on one axle").click()
    expect(page.get_by_role("radio", name="Double wishbone", exact=True)).to_have_count(0)
    card = page.get_by_role("radio", name="Beam axle on three links and a Panhard rod", exact=True)
    expect(card.locator("svg")).to_be_visible()
    expect(card).to_contain_text("leans without binding")
    card.click()
    page.get_by_role("button", name="rear of the car").last.click()
    page.get_by_role("button", name="Add the end").click()
    expect(page.locator("[data-drawing=end]")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Make .*Panhard rod.* parts$")).click()
    expect(page.get_by_role("button", name=re.compile("^Make .* parts$"))).to_have_count(0)
    page.keyboard.press("5")
    expect(page.get_by_role("link", name=re.compile("Panhard rod")).first).to_be_visible()
