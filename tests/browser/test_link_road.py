"""From nothing to a pack, as a fabricator goes: the real page, the real server, the real database."""

import io
import json
import re
import subprocess
import sys
import zipfile
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.conftest import ROOT


def open_link(page: Page, job: str, name: str) -> None:
    page.goto(job)
    page.get_by_role("link", name=name).click()
    expect(page.locator("[data-drawing=link]")).to_be_visible()


def saw(page: Page) -> str:
    return page.locator("[data-drawing=link] text", has_text=re.compile("^saw ")).text_content() or ""


def saved(page: Page) -> None:
    expect(page.get_by_test_id("save-state")).to_have_text("saved")


def test_a_new_link_from_a_length_to_its_pack(page: Page, address: str, tmp_path: Path) -> None:
    page.goto(address)
    page.get_by_label("Name of a new job").fill("Shed buggy")
    page.get_by_role("button", name="Start a job").click()
    expect(page.get_by_text("No suspension end yet")).to_be_visible()
    page.keyboard.press("5")
    page.get_by_role("button", name="New link").click()
    page.get_by_label("Name", exact=True).fill("Trailing link")
    page.get_by_role("button", name="its length").click()
    field = page.get_by_role("textbox", name="Pivot to pivot")
    field.fill("21 1/2")
    # a bare fraction on a millimetre page is asked about, never guessed, and kept as typed
    expect(page.get_by_role("alert")).to_contain_text("Say which")
    expect(field).to_have_value("21 1/2")
    field.fill("21 1/2 in")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.get_by_role("button", name="Add the link").click()
    expect(page.get_by_text("546.1 mm pivot to pivot")).to_be_visible()

    page.get_by_role("button", name="Add a case").click()
    page.get_by_label("Name of case 1").fill("brake")
    page.get_by_label("Pull or push, case 1").fill("-9000")
    page.get_by_label("Side force at an eye, case 1").fill("150")
    # no end of the job says what it goes through day by day: it is typed, or its life is not judged
    page.get_by_label("Everyday force, most less least").fill("2000")
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("tabpanel").get_by_role("button", name="Size it").click()
    expect(page.get_by_text("Lightest that holds")).to_be_visible()
    expect(page.get_by_text("Runner-up", exact=True)).to_be_visible()
    expect(page.get_by_test_id("advice")).to_contain_text(re.compile("heavier|weighs the same"))
    page.get_by_role("button", name="Use these parts").first.click()
    expect(page.locator("[data-drawing=link]")).to_be_visible()
    expect(page.get_by_test_id("headline")).to_contain_text(re.compile("It holds|is close"))
    assert re.fullmatch(r"saw \d+\.\d", saw(page))
    saved(page)

    page.keyboard.press("6")
    expect(page.get_by_role("listitem").filter(has_text="end A: nothing here yet")).to_be_visible()
    page.get_by_role("button", name="Add a tab pair for both ends of the Trailing link").click()
    expect(page.locator("[data-drawing=tab]")).to_be_visible()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.locator("[data-check=tab_tearout]")).to_be_visible()
    page.keyboard.press("7")
    expect(page).to_have_url(re.compile("/jigs"))
    page.get_by_role("link", name=re.compile("^Trailing link")).click()
    expect(page.locator("[data-drawing=jig]")).to_be_visible()
    expect(page.get_by_text("pin to pin, cold")).to_be_visible()
    page.keyboard.press("8")
    expect(page.get_by_role("cell", name="2 ×").first).to_be_visible()
    expect(page.get_by_text("to chase inserts after welding").first).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("button", name="Pack: PDF, DXF, SVG, CSV, JSON").click()
    with zipfile.ZipFile(io.BytesIO(Path(download.value.path()).read_bytes())) as pack:
        assert {n.rsplit(".", 1)[1] for n in pack.namelist()} == {"pdf", "dxf", "svg", "csv", "json"}
        design = json.loads(pack.read("design.json"))
    link, tab = design["parts"]
    assert {joint["by"] for joint in design["joints"]} == {tab["id"]}
    assert link["between"]["length"] == {"mm": 546.1, "typed": "21 1/2 in"}

    # the design file opens as another job
    file = tmp_path / "again.json"
    file.write_text(json.dumps({**design, "name": "Again"}))
    page.goto(address)
    page.get_by_label("Design file").set_input_files(file)
    expect(page.get_by_role("link", name=re.compile("Trailing link"))).to_be_visible()


def test_pivots_make_a_link_and_a_bought_one_is_shortened(page: Page, job: str) -> None:
    page.goto(job)
    page.get_by_role("button", name="New link").click()
    for which, values in (("A", ("100", "200", "300")), ("B", ("500", "200", "600"))):
        for axis, value in zip(("x forward", "y left", "z up"), values, strict=True):
            page.get_by_label(f"Pivot {which}, {axis}").fill(value)
    page.get_by_role("button", name="Add the link").click()
    expect(page.get_by_text("500.0 mm pivot to pivot")).to_be_visible()
    page.goto(job)
    page.get_by_role("button", name="New link").click()
    page.get_by_label("Name", exact=True).fill("Bought one")
    page.get_by_role("button", name="bought").click()
    page.get_by_role("textbox", name="Pivot to pivot").fill("400")
    page.get_by_label("Its tube as bought, end to end").fill("18 in")
    page.get_by_role("button", name="Add the link").click()
    page.get_by_role("button", name="Add a case").click()
    page.get_by_label("Pull or push, case 1").fill("5000")
    page.get_by_role("tab", name="Size it").click()
    page.get_by_role("tabpanel").get_by_role("button", name="Size it").click()
    page.get_by_role("button", name="Use these parts").first.click()
    page.get_by_role("tab", name="What it is").click()
    told = page.get_by_text(re.compile(r"Saw at \d+\.\d mm from end A’s tube end"))
    expect(told).to_be_visible()
    expect(page.get_by_text(re.compile(r"\d+\.\d mm comes off at end B")).first).to_be_visible()


def test_schools_move_the_saw_length_and_the_adjuster_runs_out(page: Page, job: str) -> None:
    open_link(page, job, "Rear lower link")
    before = saw(page)
    page.get_by_role("button", name="buried").first.click()
    expect(page.locator("[data-drawing=link] text", has_text=before)).to_have_count(0)
    assert saw(page) != before
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.locator("[data-drawing=link] text", has_text=before)).to_be_visible()
    page.get_by_role("button", name="Redo").click()
    expect(page.locator("[data-drawing=link] text", has_text=before)).to_have_count(0)
    page.get_by_role("button", name="centred").first.click()
    for _ in range(20):
        page.get_by_role("button", name="0.25 turn out").click()
    expect(page.get_by_text("runs out", exact=True)).to_be_visible()
    expect(page.get_by_text("too little thread is left")).to_be_visible()


def test_a_check_opens_to_its_working_and_the_line_repeats_it(page: Page, job: str) -> None:
    open_link(page, job, "Rear lower link")
    row = page.locator("[data-check=column]")
    row.get_by_role("button").click()
    working = row.get_by_test_id("working")
    expect(working).to_contain_text("Shigley")
    expect(working).to_contain_text("from memory")
    expect(working).to_contain_text("slenderness")
    line = working.get_by_test_id("command").inner_text()
    line = line.replace("./tirante", f"{sys.executable} -m tirante.cli")
    done = subprocess.run(
        line,
        shell=True,
        capture_output=True,
        text=True,
        cwd=ROOT,
        env={"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin"},
    )
    found = json.loads(done.stdout)
    link_id = page.url.split("/")[-1].split("?")[0]
    job_id = job.rsplit("/", 1)[1]
    design = page.request.get(f"{job.rsplit('/jobs', 1)[0]}/api/jobs/{job_id}").json()["design"]
    evaluated = page.request.post(f"{job.rsplit('/jobs', 1)[0]}/api/evaluate", data={"design": design}).json()
    link = next(one for one in evaluated["parts"] if one["id"] == link_id)
    assert found["critical_n"] == next(c for c in link["checks"] if c["key"] == "column")["capacity"]
    expect(page.get_by_text("Not checked:")).to_be_visible()


def test_picking_a_dimension_goes_to_its_field(page: Page, job: str) -> None:
    open_link(page, job, "Rear lower link")
    page.locator("[data-drawing=link] text", has_text=re.compile("^840")).click()
    expect(page.get_by_role("tab", name="What it is")).to_have_attribute("aria-selected", "true")
    # its length is an end's: what can be done here is to untie it
    expect(page.get_by_role("button", name="Untie it, keep its length")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("textbox", name="Pivot to pivot")).to_have_value("840.776")
    page.get_by_role("textbox", name="Pivot to pivot").fill("821")
    page.keyboard.press("Enter")
    expect(page.locator("[data-drawing=link] text", has_text=re.compile(r"^821"))).to_be_visible()
    saved(page)


def test_choosing_by_hand_offers_only_what_fits_and_takes_the_rest_along(page: Page, job: str) -> None:
    open_link(page, job, "Rear lower link")
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("Size", exact=True).click()
    page.get_by_role("option", name="2 × 0.250 in", exact=True).click()
    expect(page.locator("[data-drawing=link] text", has_text="2 × 0.250 in").first).to_be_visible()
    page.get_by_label("Joint", exact=True).click()
    options = page.get_by_role("option").all_inner_texts()
    assert options
    # no insert brings a 3/8 in thread into a bore of 38 mm
    assert not any("3/8-24" in option for option in options)
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("save-state")).to_have_text("saved")


def test_the_cheapest_change_is_taken_and_clears_the_check(page: Page, job: str) -> None:
    open_link(page, job, "Rear lower link")
    expect(page.get_by_test_id("headline")).to_contain_text("is close")
    page.get_by_role("button", name="Take this change").click()
    expect(page.get_by_test_id("headline")).to_contain_text("It holds")


def test_a_saddle_that_is_not_square_is_cut_for_its_angle_and_refused_where_no_fillet_goes(
    page: Page, flat_job: str
) -> None:
    open_link(page, flat_job, "Rear upper link")
    page.keyboard.press("6")
    expect(page.locator("[data-drawing=tab]")).to_be_visible()
    expect(page.locator("[data-drawing=tab]")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("Foot width", exact=True).fill("60")
    page.keyboard.press("Enter")
    page.get_by_label("Plate to tube axis").fill("75")
    expect(page.locator("[data-drawing=tab]")).to_contain_text("75° to its axis; the other plate is turned over")
    page.get_by_label("Plate to tube axis").fill("20")
    expect(page.get_by_role("alert").first).to_contain_text("no wider than")
    page.get_by_label("Plate to tube axis").fill("90")
    expect(page.locator("[data-drawing=tab]")).to_be_visible()


def test_a_drawing_and_the_saw_s_rows_are_reached_by_keyboard_and_named(page: Page, job: str) -> None:
    page.goto(f"{job}/pack")
    table = page.get_by_role("table", name="Saw")
    row = table.get_by_role("link", name=re.compile("^Rear lower link"))
    row.focus()
    page.keyboard.press("Enter")
    drawing = page.get_by_role("application", name=re.compile("^Drawing: "))
    expect(drawing).to_be_visible()
    drawing.focus()
    page.keyboard.press("ArrowRight")
    first = drawing.evaluate(
        "(svg) => svg.querySelector('#' + CSS.escape(svg.getAttribute('aria-activedescendant')))?.ariaLabel"
    )
    assert first
    seen = {first}
    for _ in range(60):
        page.keyboard.press("ArrowRight")
        name = drawing.evaluate(
            "(svg) => document.getElementById(svg.getAttribute('aria-activedescendant'))?.ariaLabel"
        )
        if name == first:
            break
        seen.add(name)
    # once round: every thing that can be picked has a name of its own, the saw's length with its figure
    assert len(seen) == drawing.locator("[role=img]").count() > 5
    assert any("saw" in name for name in seen)
    while "field: tube" not in (name or ""):
        page.keyboard.press("ArrowRight")
        name = drawing.evaluate(
            "(svg) => document.getElementById(svg.getAttribute('aria-activedescendant'))?.ariaLabel"
        )
    page.keyboard.press("Enter")
    expect(page.get_by_role("tab", name="What it is")).to_have_attribute("aria-selected", "true")
    page.get_by_role("tab", name="How it is made").click()
    expect(page.get_by_test_id("made")).to_contain_text("Check")
    page.get_by_test_id("made").get_by_role("link", name="Its jig").click()
    expect(page.locator("[data-drawing=jig]")).to_be_visible()


def test_of_a_long_table_only_what_is_seen_stands_in_the_page(page: Page, address: str) -> None:
    page.goto(f"{address}/catalogue")
    page.get_by_role("tab", name="inserts").click()
    table = page.get_by_role("table")
    expect(table).to_have_attribute("aria-rowcount", re.compile(r"^2\d\d$"))
    count = int(table.get_attribute("aria-rowcount") or 0)
    last = page.request.get(f"{address}/api/catalogue").json()["inserts"][-1]["label"]
    assert page.locator("tbody tr").count() < count / 2
    expect(page.get_by_text(last, exact=True)).to_have_count(0)
    page.get_by_role("region", name="inserts").evaluate("(box) => box.scrollTo(0, box.scrollHeight)")
    expect(page.get_by_text(last, exact=True).first).to_be_visible()


def test_the_saw_s_list_is_there_whichever_way_one_comes_to_it(page: Page, job: str) -> None:
    page.goto(f"{job}/members")  # what is worked out is here before the list is opened
    expect(page.locator("[data-drawing=overview]")).to_be_visible()
    page.keyboard.press("8")
    rows = page.get_by_role("table", name="Saw").locator("tbody tr a")
    expect(rows.first).to_be_visible()
    named = rows.all_inner_texts()
    page.reload()
    expect(rows.first).to_be_visible()
    assert rows.all_inner_texts() == named
    assert len(named) == 9
    page.set_viewport_size({"width": 1280, "height": 300})
    expect(rows.first).to_be_visible()


def test_a_pack_goes_on_when_its_page_is_left_and_is_found_again(page: Page, job: str) -> None:
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Pack: PDF, DXF, SVG, CSV, JSON").click()
    expect(page.get_by_role("progressbar", name="Making the pack").or_(page.get_by_text("Made:"))).to_be_visible()
    page.goto(f"{job}/members")
    expect(page.locator("[data-drawing=overview]")).to_be_visible()
    page.goto(f"{job}/pack")
    link = page.get_by_role("link", name=re.compile(r"^marram-rev-\d+\.zip$"))
    expect(link).to_be_visible(timeout=30_000)
    with page.expect_download() as download:
        link.click()
    with zipfile.ZipFile(io.BytesIO(Path(download.value.path()).read_bytes())) as pack:
        assert pack.testzip() is None
