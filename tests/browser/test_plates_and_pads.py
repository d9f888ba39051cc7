"""What is welded or bolted to what is not made here, and what a stop strikes: from the list of what is no part to a sized one."""

import json
import re
import uuid

from playwright.sync_api import Page, expect

from tests.browser.conftest import copy_of
from tests.core.test_leaf_perch import leafy


def test_a_steering_arm_is_entered_as_a_plate_and_sized(page: Page, address: str) -> None:
    page.goto(f"{copy_of(page, address, 'Dunlin')}/members")
    page.get_by_role("button", name="Enter its plate at tie outer").click()
    expect(page.get_by_text("but for what is entered of it: Front upright, plate at tie outer")).to_be_visible()
    page.get_by_role("link", name=re.compile("Front upright, plate at tie outer")).first.click()
    expect(page.get_by_role("alert").filter(has_text="Say where it is fastened").first).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    for axis, value in zip("xyz", ("-90", "0", "-20"), strict=True):
        field = page.get_by_label(f"Bolts’ middle or weld, from its eye, {axis}", exact=True)
        field.fill(value)
        field.press("Enter")
    for label, value in (("Bolt or stud", "20"), ("Radius of the plate round its eye", "32")):
        field = page.get_by_label(label, exact=True)
        field.fill(value)
        field.press("Enter")
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("button", name="Size it").last.click()  # while it is worked out its sheet may still offer the same
    page.get_by_role("button", name="Use these parts").first.click()
    expect(page.get_by_text(re.compile("everyday cycles.$")).first).to_be_visible()
    expect(page.get_by_test_id("headline")).not_to_contain_text("is over")
    expect(page.get_by_text("what it is fastened to: the face, the tube or the casting", exact=False)).to_be_visible()
    page.get_by_role("button", name="plate, 1:1").click()
    expect(page.locator("[data-drawing] path, [data-drawing] line").first).to_be_visible()


def test_a_pad_is_put_where_the_stop_lands(page: Page, address: str) -> None:
    job = copy_of(page, address, "Quay")
    page.goto(f"{job}/brackets")
    page.get_by_role("link", name="Rear bump stop, pad").first.click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="Take out this strike pad").click()
    page.get_by_role("button", name="Add a strike pad for the Rear bump stop").click()
    expect(page.get_by_role("heading", name="Rear bump stop, pad")).to_be_visible()
    expect(page.get_by_text("Pad bent between its webs").first).to_be_visible()
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("button", name="Size it").click()
    page.get_by_role("button", name="Use these parts").first.click()
    expect(page.get_by_text(re.compile("^It holds"))).to_be_visible()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.goto(f"{job}/brackets")
    expect(page.get_by_role("link", name="Rear bump stop, pad").first).to_be_visible()


def test_a_bar_s_bearing_gets_its_pad_by_one_press_once_it_is_known(page: Page, address: str) -> None:
    job = copy_of(page, address, "Dunlin")
    page.goto(f"{job}/brackets")
    row = page.get_by_role("listitem").filter(has_text="Front anti-roll bar, its bearings")
    row.get_by_role("link").click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="Take out this bearing pad").click()
    expect(row).to_contain_text("nothing here yet")
    page.get_by_role("button", name="Propose all").click()
    told = page.get_by_role("status", name="What is proposed")
    expect(told).to_contain_text("a pad on two webs on Bar outrigger")
    told.get_by_role("link", name="Front anti-roll bar, its bearings").click()
    expect(page.get_by_text(re.compile("^It holds"))).to_be_visible()
    drawing = page.locator("[data-drawing=bearing_pad]")
    expect(drawing).to_contain_text("52.0")
    # the bearing's bolts stand elsewhere: the pad says so with what lets them in
    page.goto(f"{job}/members")
    page.get_by_role("link", name=re.compile("^Front anti-roll bar")).first.click()
    page.get_by_role("tab", name="What it is").click()
    pitch = page.get_by_label("Bolt to bolt, across the bar")
    pitch.fill("90")
    pitch.press("Enter")
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.goto(f"{job}/brackets")
    row.get_by_role("link").click()
    expect(page.get_by_role("alert").filter(has_text="mm long or more").first).to_be_visible()


def test_a_rack_is_made_from_its_end_and_its_feet_get_their_pads(page: Page, flat_job: str) -> None:
    page.goto(f"{flat_job}/members")
    page.get_by_role("button", name=re.compile(r"^Make .*rack.* parts$")).click()
    page.get_by_role("link", name=re.compile("Front steering rack")).first.click()
    expect(page.locator("[data-drawing=rack]")).to_contain_text("foot to foot")
    page.goto(f"{flat_job}/brackets")
    row = page.get_by_role("listitem").filter(has_text="Front steering rack, its feet")
    expect(row).to_contain_text("Give the bolts of the feet first")
    page.goto(f"{flat_job}/members")
    page.get_by_role("link", name=re.compile("Front steering rack")).first.click()
    page.get_by_role("tab", name="What it is").click()
    for label, value in (
        ("Bolt to bolt of a foot, across it", "62"),
        ("Rack’s line over the feet", "24"),
        ("Foot to foot, along it", "240"),
    ):
        field = page.get_by_label(label, exact=True)
        field.fill(value)
        field.press("Enter")
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.goto(f"{flat_job}/brackets")
    page.get_by_role("button", name="Add a bearing pad for the Front steering rack").click()
    expect(page.get_by_role("heading", name="Front steering rack, bearing pad")).to_be_visible()
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("button", name="Size it").click()
    page.get_by_role("button", name="Use these parts").first.click()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("what the steering column puts on the rack", exact=False).first).to_be_visible()
    expect(page.get_by_test_id("headline")).not_to_contain_text("is over")


def test_a_box_over_the_axle_becomes_the_plates_of_a_truss(page: Page, job: str) -> None:
    page.goto(f"{job}/brackets")
    page.get_by_role("tab", name="Mounts").click()
    page.get_by_role("button", name="Add a box tube").click()
    page.get_by_role("button", name=re.compile("^▸? ?mount ")).click()
    page.get_by_label("It is part of").click()
    page.get_by_role("option", name="the axle of Rear").click()
    for label, values in (("Its middle line, from", ("-2010", "90", "389")), ("to", ("-2010", "-90", "389"))):
        for axis, value in zip("xyz", values, strict=True):
            field = page.get_by_label(f"{label}, {axis}", exact=True)
            field.fill(value)
            field.press("Enter")
    for label, value in (("Width", "60"), ("Height", "50"), ("Wall", "6")):
        field = page.get_by_label(label, exact=True)
        field.fill(value)
        field.press("Enter")
    page.get_by_role("button", name="It is a saddle on a tube: make its plates").click()
    # too wide to stand on the tube, too narrow to hang beside it: it says how wide it may be
    told = page.get_by_role("alert").filter(has_text="No plain fillet goes along a side").first
    (low, high) = re.search(r"([0-9.]+) to ([0-9.]+) mm, so that they hang", told.text_content() or "").groups()  # type: ignore[union-attr]
    page.goto(f"{job}/brackets")
    page.get_by_role("tab", name="Mounts").click()
    page.get_by_role("button", name=re.compile("^▸? ?mount ")).click()
    wide = page.get_by_label("Width", exact=True)
    wide.fill(f"{(float(low) + float(high)) / 2:.1f}")
    wide.press("Enter")
    page.get_by_role("link", name=re.compile("plates")).click()
    expect(page.locator("[data-drawing=saddle]")).to_contain_text("180.0")
    expect(page.get_by_text("nothing stands on it yet", exact=False)).to_be_visible()
    page.get_by_role("button", name="end, 1:1").click()
    expect(page.locator("[data-drawing=plate-end]")).to_be_visible()


def test_a_link_s_end_is_plugged_and_bored_across(page: Page, job: str) -> None:
    page.goto(f"{job}/members")
    page.get_by_role("link", name=re.compile("^Rear upper link")).first.click()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("group", name="End A").get_by_role("button", name="fixed").click()
    page.get_by_role("group", name="How it is made").get_by_role("button", name="plug").click()
    expect(page.get_by_role("textbox", name="What").first).to_have_value("plug")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("Plug, bearing of its pin")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    edge = page.get_by_label("Hole’s centre to the tube’s end")
    edge.fill("6")
    edge.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="breaks out of the plug").first).to_be_visible()
    edge.fill("1 in")
    edge.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="breaks out of the plug")).to_have_count(0)
    page.get_by_role("button", name="end A plug, turned").click()
    expect(page.locator("[data-drawing]")).to_contain_text("Both faces square to the axis")


def test_the_room_round_a_pad_is_looked_at(page: Page, job: str) -> None:
    page.goto(f"{job}/brackets")
    page.get_by_role("link", name="Rear bump stop, pad").first.click()
    page.get_by_role("tab", name="Room").click()
    expect(page.get_by_test_id("room")).to_contain_text("nothing that was looked at comes too near")
    expect(page.locator("[data-room=stands]").filter(has_text="Rear rail")).to_be_visible()
    expect(page.get_by_text("bolts of what lies on it, above the pad", exact=False).first).to_be_visible()


def damper_by_a_tube(page: Page, address: str, name: str, way: int, over: float, od: float, wall: float) -> str:
    """Where a job's brackets are whose rear damper's upper eye nothing holds, its bolt along the car, under a tube that runs along an axis of it."""
    demo = next(
        j for j in page.request.get(f"{address}/api/jobs").json()["jobs"] if j["demo"] and j["name"] == "Marram"
    )
    design = page.request.get(f"{address}/api/jobs/{demo['id']}").json()["design"]
    rear = design["ends"][1]
    held = {"kind": "point", "end_id": rear["id"], "body": "ground", "point": "damper_top"}
    (joint,) = (one for one in design["joints"] if one["held"] == held)
    x, y, z = rear["end"]["points"]["damper_top"]
    a, b = [x, y, z + over], [x, y, z + over]
    a[way], b[way] = a[way] - 200, b[way] + 200
    tube = {"kind": "round", "a": a, "b": b, "od_mm": od, "wall_mm": wall}
    design["mounts"].append({"id": str(uuid.uuid4()), "name": name, "yield_mpa": 355.0, "uts_mpa": 470.0, "shape": tube})  # fmt: skip
    design["parts"] = [one for one in design["parts"] if one["id"] != joint["by"]]
    joint |= {"by": None, "bolt": None, "mount": None, "bolt_axis": [1.0, 0.0, 0.0]}
    made = page.request.post(f"{address}/api/import", data={"id": str(uuid.uuid4()), "design": design}).json()
    return f"{address}/jobs/{made['job_id']}/brackets"


def test_a_strap_goes_over_a_tube_packed_out_as_it_asks_and_takes_a_hole_for_something_else(page: Page, address: str) -> None:  # fmt: skip
    page.goto(damper_by_a_tube(page, address, "Cross tube", 1, 110, 38.1, 3.0))
    page.get_by_role("button", name="or another kind of bracket").first.click()
    page.get_by_role("menuitem", name="a strap over a tube, its bolt square to that").click()
    expect(page.get_by_role("heading", name="Rear damper, upper eye, strap")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("On which mount").click()
    page.get_by_role("option", name="Cross tube", exact=True).click()
    asked = page.get_by_text(re.compile(r"38\.1 mm apart.*Put a shim of [\d.]+ mm on each side")).first
    expect(asked).to_be_visible()
    shim = re.search(r"shim of ([\d.]+) mm", asked.inner_text())
    assert shim
    field = page.get_by_label("Shim each side")
    field.fill(shim[1])
    field.press("Enter")
    expect(page.locator("[data-drawing]")).to_contain_text("Bent, seen along its tube")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("Tab weld")).to_be_visible()
    expect(page.get_by_text("the wall of the tube that it goes over", exact=False)).to_be_visible()
    # a hole for something else, where there is room for it: what is too near is told with what goes
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="Add one").click()
    below = page.get_by_label("Below the joint’s hole")
    below.fill("15")
    below.press("Enter")
    told = page.get_by_text(re.compile(r"and [\d.]+ mm or more leave the head whole")).first
    expect(told).to_be_visible()
    least = re.search(r"and ([\d.]+) mm or more", told.inner_text())
    assert least
    below.fill(least[1])
    below.press("Enter")
    expect(page.locator("[data-drawing]")).to_contain_text("Bent, seen along its tube")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("Tab across its further holes")).to_be_visible()


def test_what_no_part_is_made_for_is_held_once_its_sizes_are_given_and_a_leaf_gets_its_seat(page: Page, address: str) -> None:  # fmt: skip
    design = json.loads(leafy().model_dump_json())
    for end in design["ends"]:
        end["end"] |= {"vehicle": None, "eyes": {}}
    made = page.request.post(f"{address}/api/import", data={"id": str(uuid.uuid4()), "design": design}).json()
    page.goto(f"{address}/jobs/{made['job_id']}/brackets")
    eye = page.get_by_role("listitem").filter(has_text="leaf, leaf eye")
    expect(eye).to_contain_text("Give the sizes of what is clamped there first")
    eye.get_by_role("checkbox", name="sizes of what is clamped at the leaf eye").check()
    bore = eye.get_by_label("Bore, for the bolt")
    bore.fill("16")
    bore.press("Enter")
    expect(eye.get_by_role("button", name=re.compile("^Add a tab pair for the"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^Add a leaf perch for the")).click()
    expect(page.get_by_role("heading", name=re.compile("leaf, perch$"))).to_be_visible()
    # it stands on nothing yet: put on the axle it is judged, drawn and listed
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("On which mount").click()
    page.get_by_role("option", name="Axle tube", exact=True).click()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("Seat kept shut")).to_be_visible()
    page.get_by_role("tab", name="How it is made").click()
    expect(page.get_by_text(re.compile("U-bolts of 12 mm, class 8.8, two")).first).to_be_visible()


def test_a_clamp_goes_round_a_tube_is_sized_and_says_what_grips_it(page: Page, address: str) -> None:
    page.goto(damper_by_a_tube(page, address, "Long tube", 0, 75, 60.3, 6.3))
    page.get_by_role("button", name="or another kind of bracket").first.click()
    page.get_by_role("menuitem", name="a clamp in two halves round a tube").click()
    expect(page.get_by_role("heading", name="Rear damper, upper eye, clamp")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("On which mount").click()
    page.get_by_role("option", name="Long tube", exact=True).click()
    expect(page.get_by_label("Tube that they are bored for")).to_have_value(re.compile("60.3"))
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("tabpanel").get_by_role("button", name="Size it").click()
    page.get_by_role("button", name="Use these parts").first.click()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_role("button", name=re.compile("^Grip on the tube 0"))).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Tube squeezed by the clamp 0"))).to_be_visible()
    page.get_by_role("button", name="half with the ear, 1:1").click()
    expect(page.locator("[data-drawing=clamp-eared]")).to_contain_text("edgewise at the marks")
