"""Brackets from the joint to the file that is cut from: mounts entered and taken over, all proposed by one press, holes changed, a folded one cut."""

import io
import itertools
import re
import zipfile
from pathlib import Path

import ezdxf
import pytest
from playwright.sync_api import Page, expect

from tirante.documents.cutting_table import drive


def saved(page: Page) -> None:
    expect(page.get_by_test_id("save-state")).to_have_text("saved")


def test_a_mount_is_entered_and_the_joint_beside_it_gets_its_bracket_by_one_press(page: Page, flat_job: str) -> None:
    page.goto(f"{flat_job}/brackets")
    expect(page.get_by_text("No mount is entered yet.")).to_be_visible()
    page.get_by_role("button", name="Enter what brackets stand on").click()
    page.get_by_role("button", name="Take over the things to clear").click()
    expect(page.get_by_role("button", name=re.compile("sump"))).to_be_visible()
    page.get_by_role("button", name="Add a round tube").click()
    row = page.get_by_role("button", name=re.compile("^▸? ?mount "))
    row.click()
    for label, values in (("Its middle line, from", ("-1420", "362", "640")), ("to", ("-1420", "-362", "640"))):
        for axis, value in zip("xyz", values, strict=True):
            field = page.get_by_label(f"{label}, {axis}", exact=True)
            field.fill(value)
            field.press("Enter")
    outside = page.get_by_label("Outside", exact=True)
    outside.fill("3 in")
    outside.press("Enter")
    saved(page)
    page.get_by_role("tab", name="Joints").click()
    page.get_by_role("button", name="Propose all").click()
    told = page.get_by_role("status", name="What is proposed")
    expect(told).to_contain_text("Rear upper link, end A: on mount")
    # what has none is named with the reason, not passed over
    expect(told).to_contain_text("held by the rack")
    told.get_by_role("link", name="Rear upper link, end A").click()
    expect(page.get_by_role("heading", name="Rear upper link, end A, tabs")).to_be_visible()
    page.get_by_role("button", name="set out").click()
    expect(page.locator("[data-drawing=place]")).to_contain_text("362.0")
    # the tube under it changed: it says so, and fitting it cures it
    page.goto(f"{flat_job}/brackets")
    page.get_by_role("tab", name="Mounts").click()
    row.click()
    outside.fill("70")
    outside.press("Enter")
    saved(page)
    page.get_by_role("tab", name="Joints").click()
    page.get_by_role("link", name="Rear upper link, end A, tabs").click()
    page.get_by_role("tab", name="What it is").click()
    expect(page.get_by_role("alert").filter(has_text="Fit it to what it stands on").first).to_be_visible()
    page.get_by_role("button", name="Fit it to what it stands on").click()
    expect(page.get_by_role("alert").filter(has_text="Fit it to what it stands on")).to_have_count(0)


def test_the_joint_goes_to_another_hole_and_back_by_undo(page: Page, job: str) -> None:
    page.goto(f"{job}/brackets")
    page.get_by_role("button", name="Rear", exact=True).click()
    page.get_by_role("listitem").filter(has_text="Rear lower link, end A").get_by_role("link").click()
    page.get_by_role("tab", name="Holes").click()
    table = page.get_by_role("table", name="Hole by hole")
    expect(table.get_by_role("columnheader", name="1 (here)")).to_be_visible()
    squat = table.get_by_role("row").filter(has_text="anti-squat")
    before = squat.inner_text()
    page.get_by_label("Wished for").click()
    page.get_by_role("option", name="anti-squat").click()
    wish = page.get_by_label("of", exact=True)
    wish.fill("150")
    wish.press("Enter")
    expect(page.get_by_text("Hole 2 comes nearest to it.")).to_be_visible()
    page.get_by_role("button", name="Put the joint in hole 2").click()
    expect(table.get_by_role("columnheader", name="2 (here)")).to_be_visible()
    saved(page)
    # both holes give what they gave: the car stands in the other one now
    expect(squat).to_have_text(re.compile(r"anti-squat"))
    assert squat.inner_text() == before
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(table.get_by_role("columnheader", name="1 (here)")).to_be_visible()


def test_a_folded_bracket_goes_from_its_joint_to_a_file_that_the_table_takes(page: Page, job: str) -> None:
    page.goto(f"{job}/brackets")
    page.get_by_role("button", name="Rear", exact=True).click()
    page.get_by_role("listitem").filter(has_text="Panhard rod, end A").get_by_role("link").click()
    drawing = page.locator("[data-drawing=folded]")
    expect(drawing).to_contain_text("bend allowance")
    page.get_by_role("tab", name="What it is").click()
    radius = page.get_by_label("Bends, inside radius")
    radius.fill("40")
    radius.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="both bends take").first).to_be_visible()
    radius.fill("4")
    radius.press("Enter")
    expect(drawing).to_contain_text("R 4.0 inside")
    saved(page)
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Try every plate").click()
    told = page.get_by_role("status", name="What the table says")
    row = told.get_by_role("row").filter(has_text="Panhard rod, end A, folded")
    expect(row).to_contain_text("folded-flat.dxf")
    expect(told.get_by_role("row").filter(has_text="Front lower arm, gusset")).to_contain_text("plate-gusset.dxf")
    with page.expect_download() as download:
        page.get_by_role("button", name="Pack: PDF, DXF, SVG, CSV, JSON").click()
    with zipfile.ZipFile(io.BytesIO(Path(download.value.path()).read_bytes())) as pack:
        (name,) = [n for n in pack.namelist() if n.endswith(".dxf") and "folded" in n]
        text = pack.read(name).decode()
    assert "BEND" in text
    cut = drive(text, thickness=3.0, kerf=0.3)
    assert cut.pierces == 3
    expect(row.get_by_role("cell").nth(2)).to_have_text(f"{cut.cut_mm:.1f} mm")


def test_a_bolted_bracket_goes_from_its_joint_to_its_files_shims_and_all(page: Page, job: str) -> None:
    page.goto(f"{job}/brackets")
    page.get_by_role("button", name="Rear", exact=True).click()
    row = page.get_by_role("listitem").filter(has_text="Panhard rod, end B")
    row.get_by_role("link").click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="Take out this tab pair").click()
    expect(row).to_contain_text("nothing here yet")
    row.get_by_role("button", name="or another kind of bracket").click()
    page.get_by_role("menuitem", name="two angles, bolted on").click()
    page.get_by_role("tab", name="What it is").click()
    drawing = page.locator("[data-drawing=angle]")
    height = page.get_by_label("What it stands on, to the hole")
    height.fill("62")
    height.press("Enter")
    expect(drawing).to_contain_text("foot’s bolts")
    shims = page.get_by_label("Shims behind each foot")
    shims.fill("3")
    shims.press("Enter")
    expect(drawing).to_contain_text("shims 3.0 behind each foot")
    page.get_by_role("button", name="1:1 template, shim").click()
    expect(page.locator("[data-drawing=angle-shim]")).to_be_visible()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("Bolts of its feet")).to_be_visible()
    saved(page)
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Try every plate").click()
    told = page.get_by_role("status", name="What the table says")
    for file in ("angle-flat.dxf", "angle-shim.dxf"):
        expect(told.get_by_role("row").filter(has_text=file)).to_be_visible()


def test_a_row_of_holes_becomes_a_slot_and_its_joint_goes_along_it(page: Page, job: str) -> None:
    page.goto(f"{job}/brackets")
    page.get_by_role("button", name="Rear", exact=True).click()
    page.get_by_role("listitem").filter(has_text="Rear lower link, end A").get_by_role("link").click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("a slot: cut through from the first to the last").check()
    drawing = page.locator("[data-drawing=tab]")
    expect(drawing).to_contain_text("slot 19.5")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("Slot, slip along it")).to_be_visible()
    page.get_by_role("tab", name="Holes").click()
    page.get_by_role("button", name="Put the joint at place 2").click()
    expect(page.get_by_text("2 (here)")).to_be_visible()
    saved(page)


def test_the_3d_view_shows_the_mounts_and_the_brackets_on_them(page: Page, job: str) -> None:
    page.goto(f"{job}/brackets")
    with page.expect_response(re.compile("/api/brackets/scene")) as answer:
        page.get_by_role("button", name="3D", exact=True).click()
    solids = answer.value.json()["scene"]["solids"]
    tones = [one["tone"] for one in solids]
    assert tones.count("bracket") >= 8
    assert tones.count("member") >= 3
    expect(page.locator("canvas").first).to_be_visible()


def test_the_room_round_a_bracket_says_what_meets_and_the_gap_that_it_advises_clears(page: Page, job: str) -> None:
    page.goto(f"{job}/brackets")
    page.get_by_role("tab", name="Will they hold?").click()
    page.get_by_role("button", name="Look round all of them").click()
    row = page.locator("[data-room-of='Rear lower link, end B, tabs']")
    expect(row).to_contain_text("nothing comes too near")
    row.get_by_role("link").click()
    expect(page.get_by_test_id("room")).to_contain_text("nothing that was looked at comes too near")
    expect(page.locator("[data-room=bolt]")).to_contain_text("comes out")
    # its shims taken out the link strikes the plates; put in again as advised it does not
    page.get_by_role("tab", name="What it is").click()
    shim = page.get_by_role("textbox", name=re.compile("Shim"))
    shim.fill("0")
    shim.press("Enter")
    page.get_by_role("tab", name="Room").click()
    expect(page.get_by_test_id("room")).to_have_text("Something meets, or cannot be reached.")
    cure = page.locator("[data-room=swing]").filter(has_text="more beside the ball").first.text_content() or ""
    (more,) = re.findall(r"plates: ([0-9.]+) mm more", cure)
    page.get_by_role("tab", name="What it is").click()
    shim.fill(more)
    shim.press("Enter")
    page.get_by_role("tab", name="Room").click()
    expect(page.locator("[data-room=swing]").filter(has_text="more beside the ball")).to_have_count(0)
    saved(page)


def test_an_outline_that_was_drawn_elsewhere_goes_from_its_joint_to_a_cut_file(
    page: Page, job: str, tmp_path: Path
) -> None:
    """A tab with a lightening hole from another program, in inches that the file does not state; its hole as high as the joint stands."""
    inch = 25.4
    document = ezdxf.new("R2010")
    document.units = 0
    space = document.modelspace()
    corners = [(-28.0, 40.0), (-28.0, 0.0), (28.0, 0.0), (28.0, 40.0)]
    for (ax, ay), (bx, by) in itertools.pairwise(corners):
        space.add_line((ax / inch, ay / inch), (bx / inch, by / inch))
    space.add_arc((0.0, 40.0 / inch), 28.0 / inch, 0.0, 180.0)
    space.add_circle((0.0, 40.0 / inch), 19.45 / 2 / inch)
    space.add_circle((-16.0 / inch, 10.0 / inch), 4.0 / inch)
    file = tmp_path / "tab.dxf"
    document.saveas(file)
    page.goto(f"{job}/brackets")
    page.get_by_role("link", name="Panhard rod, end B, tabs").first.click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("Outline as DXF").set_input_files(file)
    expect(page.get_by_text("does not say what its lengths are")).to_be_visible()
    page.get_by_role("radio", name="inches").or_(page.get_by_role("button", name="inches")).first.click()
    expect(page.get_by_text("Its outline is drawn, tab.dxf")).to_be_visible()
    expect(page.get_by_label("The joint’s hole")).to_be_visible()
    saved(page)
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_test_id("headline")).to_contain_text(re.compile("It holds|is close|is over"))
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Try every plate").click()
    told = page.get_by_role("status", name="What the table says")
    expect(told.get_by_role("row").filter(has_text="Panhard rod, end B")).to_contain_text("tab-flat.dxf")
    with page.expect_download() as download:
        page.get_by_role("button", name="Pack: PDF, DXF, SVG, CSV, JSON").click()
    with zipfile.ZipFile(io.BytesIO(Path(download.value.path()).read_bytes())) as pack:
        name = next(one for one in pack.namelist() if "panhard-rod-end-b" in one and one.endswith(".dxf"))
        driven = drive(pack.read(name), 3.0, 1.2)
    assert driven.pierces == 3
    assert driven.width_mm == pytest.approx(56.0, abs=0.01)
