"""The shop's rack in the real page."""

import re
from pathlib import Path

from playwright.sync_api import Page, Route, expect

from tirante.documents.cutting_table import drive


def test_an_offcut_is_put_in_changed_and_taken_out(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_role("link", name="The shop’s rack").click()
    expect(page.get_by_text("what is cut from it is said at Cut & pack")).to_be_visible()
    page.get_by_role("button", name="Put something in").click()
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("alert").first).to_be_visible()  # it has no name yet
    page.get_by_label("Size").fill("2 × 0.120 in")
    page.get_by_label("Material").fill("4130")
    page.get_by_label("Long").fill("812.5")
    page.get_by_label("an offcut").check()
    page.get_by_label("Where").fill("rack B")
    page.get_by_role("button", name="Keep").click()
    line = page.get_by_role("row", name="2 × 0.120 in, tube, offcut")
    expect(line).to_contain_text("812.5 mm")
    page.get_by_role("button", name="Change 2 × 0.120 in").click()
    page.get_by_label("How many").fill("0")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Keep").click()
    expect(line.get_by_role("cell", name="0", exact=True)).to_be_visible()
    page.get_by_role("button", name="Change 2 × 0.120 in").click()
    page.get_by_role("button", name="Take it out").click()
    expect(page.get_by_text("The rack is empty")).to_be_visible()


def test_what_is_pressed_on_the_start_page_does_not_wait_for_its_small_drawings(page: Page, address: str) -> None:
    held: list[Route] = []
    page.route("**/glance", lambda route: held.append(route))
    page.goto(address)
    expect(page.get_by_role("region", name="Demo jobs").get_by_role("link")).to_have_count(5)
    page.wait_for_timeout(500)  # for all that would be asked at once
    assert len(held) == 2  # a browser keeps six connections to a server
    page.get_by_role("link", name="The shop’s rack").click()
    expect(page.get_by_role("button", name="Put something in")).to_be_visible()
    page.unroute("**/glance")
    page.goto(address)
    plover = page.get_by_role("region", name="Demo jobs").get_by_role("link", name="Plover")
    expect(plover).to_contain_text("nothing issued")  # the last of the row had its turn


def test_a_layout_is_kept_and_when_it_is_cut_what_is_left_is_on_the_rack(page: Page, job: str) -> None:
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Lay it out").click()
    sticks = page.get_by_role("status", name="The sticks")
    sticks.get_by_role("button", name="Keep this layout").first.click()
    kept = page.get_by_role("list", name="Layouts kept")
    expect(kept.get_by_text("not cut yet")).to_be_visible()
    page.get_by_role("textbox", name="Where").fill("bay of the kept")
    kept.get_by_role("button", name="It is cut").click()
    expect(kept.get_by_text("cut", exact=True)).to_be_visible()
    rows = page.request.get(f"{job.split('/jobs/')[0]}/api/rack").json()["rows"]
    left = [row["row"] for row in rows if row["row"]["place"] == "bay of the kept"]
    assert left
    assert all(row["offcut"] and row["length_mm"] >= 150 for row in left)
    # it stands there after a reload, and is taken back
    page.reload()
    kept.get_by_role("button", name="Take it back").click()
    expect(kept.get_by_text("taken back")).to_be_visible()
    rows = page.request.get(f"{job.split('/jobs/')[0]}/api/rack").json()["rows"]
    assert not any(row["row"]["place"] == "bay of the kept" for row in rows)
    kept.get_by_role("button", name="Forget it").click()
    expect(kept).to_have_count(0)


def test_plates_are_laid_out_on_sheets_kept_tried_on_the_table_and_fetched(page: Page, job: str) -> None:
    """From the list to the file that the table cuts, by hand."""
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Lay them out").click()
    sheets = page.get_by_role("status", name="The sheets")
    expect(sheets.get_by_role("button", name="Keep this layout").first).to_be_visible(timeout=60_000)
    sheets.get_by_role("button", name="Keep this layout").last.click()
    kept = page.get_by_role("list", name="Layouts kept")
    kept.get_by_role("button", name="Try it on the simulated table").click()
    expect(kept.get_by_text(re.compile(r"sheet 1 of \d+: new: \d+ plates, \d+ pierces"))).to_be_visible()
    with page.expect_download() as loaded:
        kept.get_by_role("link", name="DXF at 1:1").first.click()
    assert drive(Path(loaded.value.path()).read_bytes(), 3.0).parts > 0
    # what came of it is found again when one comes back
    page.reload()
    expect(sheets.get_by_role("button", name="Keep this layout").first).to_be_visible()
    kept.get_by_role("button", name="Forget it").click()
    expect(kept).to_have_count(0)


def test_some_parts_are_printed_alone_noted_and_a_sheet_s_code_says_whether_it_is_so(page: Page, job: str) -> None:
    """Labels and sheets of one part from the panel; what its code opens on a phone; the note of it."""
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Chosen parts").click()
    page.get_by_role("group", name="Parts to print").get_by_role("checkbox").first.check()
    page.get_by_role("button", name="Labels of these").click()
    expect(page.get_by_role("region", name="What the label printer prints").get_by_text("simulated")).to_be_visible()
    with page.expect_download() as loaded:
        page.get_by_role("button", name="Sheets of these").click()
    assert Path(loaded.value.path()).read_bytes().startswith(b"%PDF")
    assert "chosen" in loaded.value.suggested_filename
    printed = page.get_by_role("button", name="Printed")
    expect(printed).to_contain_text("metal is as it was printed")
    printed.click()
    expect(page.get_by_role("list", name="What was printed")).to_contain_text("1 part")
    base, own = job.split("/jobs/")
    number = page.request.get(f"{base}/api/jobs/{own}/prints").json()["prints"][0]["number"]
    part = page.request.get(f"{base}/api/jobs/{own}").json()["design"]["parts"][0]
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{base}/sheet/{own}/{number}/{part['id']}")
    expect(page.get_by_role("status")).to_contain_text("Do not work to this sheet")
    expect(page.get_by_role("status")).to_contain_text("of a draft")
    expect(page.get_by_role("heading", name=part["name"])).to_be_visible()
