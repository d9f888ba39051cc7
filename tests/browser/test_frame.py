"""The frame: saving, two browsers, a lost server, units, keys, dark, narrow screens, revisions, catalogue."""

import re
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Route, expect


def rename(page: Page, name: str) -> None:
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("Name", exact=True).fill(name)


def open_link(page: Page, job: str, name: str = "Rear lower link") -> None:
    page.goto(job)
    page.get_by_role("link", name=name).click()
    expect(page.locator("[data-drawing=link]")).to_be_visible()


def saved(page: Page) -> None:
    expect(page.get_by_test_id("save-state")).to_have_text("saved")


def test_saved_work_is_there_after_a_reload(page: Page, job: str) -> None:
    open_link(page, job)
    rename(page, "Lower link, longer")
    saved(page)
    page.reload()
    expect(page.get_by_role("heading", name="Lower link, longer")).to_be_visible()


def test_an_edit_made_while_a_save_is_under_way_is_no_conflict_after_a_reload(page: Page, job: str) -> None:
    page.goto(f"{job}/members")
    page.get_by_role("link", name="Panhard rod").click()
    page.get_by_role("tab", name="What it is").click()
    held: list[Any] = []

    def keep(route: Any) -> None:
        route.fetch()  # the server has it; the page never hears of it
        held.append(route)

    page.route("**/draft", keep)
    page.get_by_role("textbox", name="Note", exact=True).fill("first")
    for _ in range(100):
        if held:
            break
        page.wait_for_timeout(50)
    page.get_by_role("textbox", name="Note", exact=True).fill("first and second")
    page.wait_for_timeout(100)
    page.unroute("**/draft")
    page.goto(page.url)
    page.get_by_role("tab", name="What it is").click()
    expect(page.get_by_role("textbox", name="Note", exact=True)).to_have_value("first and second")
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    # two tabs: each has its own unsaved edit, neither takes the other's away
    other = page.context.new_page()
    other.goto(page.url)
    other.get_by_role("tab", name="What it is").click()
    expect(other.get_by_role("textbox", name="Note", exact=True)).to_have_value("first and second")
    keys = "Object.keys(localStorage).filter(key => key.startsWith('tirante:unsaved:')).length"
    for one in (page, other):
        one.route("**/draft", lambda route: route.abort())
        one.get_by_role("textbox", name="Note", exact=True).fill("mine")
    page.wait_for_timeout(300)
    assert page.evaluate(keys) == 2
    other.close()


def test_a_save_that_meets_an_error_of_the_server_is_tried_again(page: Page, job: str) -> None:
    page.goto(f"{job}/members")
    page.get_by_role("link", name="Panhard rod").click()
    page.get_by_role("tab", name="What it is").click()
    tries: list[int] = []

    def fails_once(route: Any) -> None:
        tries.append(1)
        if len(tries) > 1:
            route.continue_()
        else:  # 507: what a full disk says; any error of the server's own is like it
            route.fulfill(status=507, json={"code": "disk_full", "message": "The disk is full.", "issues": []})

    page.route("**/draft", fails_once)
    page.get_by_role("textbox", name="Note", exact=True).fill("kept all the same")
    expect(page.get_by_text("The disk is full.")).to_be_visible()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    assert len(tries) == 2
    page.unroute("**/draft")


def test_a_lost_server_says_so_and_keeps_the_edit(page: Page, job: str) -> None:
    open_link(page, job)
    page.route("**/api/jobs/*/draft", lambda route: route.abort())
    rename(page, "while away")
    expect(page.get_by_text("The server does not answer")).to_be_visible()
    # closed and opened again while it is away: the edit is still here
    page.reload()
    expect(page.get_by_role("heading", name="while away")).to_be_visible()
    page.unroute("**/api/jobs/*/draft")
    saved(page)
    page.reload()
    expect(page.get_by_role("heading", name="while away")).to_be_visible()


def test_a_lost_answer_is_not_saved_twice(page: Page, job: str) -> None:
    open_link(page, job)
    lost = []

    def lose_once(route: Route) -> None:
        if not lost:
            lost.append(1)
            route.fetch()  # it arrives, and the answer does not
            route.abort()
        else:
            route.continue_()

    page.route("**/api/jobs/*/draft", lose_once)
    rename(page, "once")
    saved(page)
    base, job_id = job.split("/jobs/")
    assert page.request.get(f"{base}/api/jobs/{job_id}").json()["version"] == 2


def test_what_cannot_be_saved_is_said_at_its_field_and_kept(page: Page, job: str) -> None:
    open_link(page, job)
    rename(page, "x" * 81)
    expect(page.get_by_role("alert").first).to_contain_text("Not saved")
    expect(page.get_by_text(re.compile("at most 80 characters", re.I)).last).to_be_visible()
    rename(page, "x" * 80)
    saved(page)
    page.get_by_label("Pull or push, case 1").fill("21 1/")
    expect(page.get_by_text("is not a complete number")).to_be_visible()
    expect(page.get_by_label("Pull or push, case 1")).to_have_value("21 1/")
    page.get_by_label("Pull or push, case 1").fill("1e30")
    expect(page.get_by_text("is not a complete number")).to_be_visible()


def test_markup_in_a_name_is_only_letters(page: Page, job: str) -> None:
    open_link(page, job)
    rename(page, "<img src=x onerror=alert(1)>")
    saved(page)
    expect(page.get_by_role("heading", name="<img src=x")).to_be_visible()
    assert page.locator("img").count() == 0


def test_units_switch_everywhere_and_lengths_are_typed_in_either(page: Page, job: str) -> None:
    open_link(page, job)
    page.keyboard.press("u")
    expect(page.locator("[data-drawing=link] text", has_text="33 3/32″")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="its length").click()
    field = page.get_by_role("textbox", name="Pivot to pivot")
    field.fill("2' 3 1/4\"")
    page.keyboard.press("Enter")
    expect(page.locator("[data-drawing=link] text", has_text="27 1/4″")).to_be_visible()
    field.fill("700 mm")
    expect(page.get_by_text("700.0 mm", exact=True).last).to_be_visible()


def test_keys_reach_every_station_and_help(page: Page, job: str) -> None:
    page.goto(job)
    expect(page.locator("[data-drawing=overview]")).to_be_visible()
    for number, name in enumerate(
        ["survey", "layout", "cycle", "loads", "members", "brackets", "jigs", "pack", "log"], 1
    ):
        page.keyboard.press(str(number))
        expect(page).to_have_url(re.compile(f"/{name}"))
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("5")
    page.keyboard.press("]")
    expect(page.get_by_role("heading", name="Rear lower link")).to_be_visible()
    page.keyboard.press("]")
    expect(page.get_by_role("heading", name="Rear upper link")).to_be_visible()
    page.keyboard.press("/")
    page.get_by_role("combobox", name="Find a part, an end, a load case, a check, a station").fill(
        "Panhard rod: Column, AISC"
    )
    page.keyboard.press("Enter")
    expect(page.locator("[data-check=column_aisc]").get_by_test_id("working")).to_be_visible()


def test_the_shop_s_factors_and_names_are_set_in_one_place(page: Page, job: str) -> None:
    open_link(page, job)
    before = page.locator("[data-check=column]").get_by_role("button").inner_text()
    page.get_by_role("button", name="Job and shop settings").click()
    dialog = page.get_by_role("dialog", name="Job and shop")
    dialog.get_by_label("Column", exact=True).fill("4")
    dialog.get_by_label("Name", exact=True).fill("Marram two")
    dialog.get_by_role("button", name="1/16 in").click()
    dialog.get_by_role("button", name="Close").click()
    expect(page.get_by_role("link", name="Marram two")).to_be_visible()
    expect(page.locator("[data-check=column]").get_by_role("button")).not_to_have_text(before)
    page.locator("[data-check=column]").get_by_role("button").click()
    expect(page.get_by_test_id("working")).to_contain_text("× 4 column")
    saved(page)


def test_holds_stand_worst_first_and_lead_to_the_check(page: Page, job: str) -> None:
    page.goto(job)
    page.get_by_role("button", name=re.compile("to settle")).click()
    items = page.get_by_role("menuitem").all_inner_texts()
    ratios = [float(m[1]) for text in items if (m := re.search(r"(\d\.\d\d)", text))]
    assert ratios == sorted(ratios, reverse=True)
    page.get_by_role("menuitem").first.click()
    expect(page.get_by_test_id("working")).to_be_visible()


def test_the_catalogue_takes_rows_or_names_every_bad_line(page: Page, address: str, tmp_path: Path) -> None:
    page.goto(f"{address}/catalogue")
    file = tmp_path / "tubes.csv"
    header = "key,label,od_mm,wall_mm,series,source\n"
    file.write_text(header + "rack-1,45 × 3 rack,45,3,metric,our rack\nrack-2,bad,45,30,metric,our rack\n")
    page.get_by_label("Catalogue file").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text("line 3")
    file.write_text(header + "rack-1,45 × 3 rack,45,3,metric,our rack\n")
    page.get_by_label("Catalogue file").set_input_files(file)
    expect(page.get_by_text("1 added")).to_be_visible()
    page.get_by_label("Show those with").fill("45 × 3 rack")
    expect(page.get_by_role("cell", name="our rack")).to_be_visible()


def _luminance(colour: str) -> float:
    parts = [int(n) / 255 for n in re.findall(r"\d+", colour)[:3]]
    linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_text_meets_wcag_aa_by_day_and_by_night(scheme: str, browser: Browser, page: Page, job: str) -> None:
    # WCAG 2.1, 1.4.3: contrast at least 4.5 to 1 (from memory)
    context = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme=scheme)  # type: ignore[arg-type]
    seen = context.new_page()
    open_link(seen, job)
    pairs = seen.evaluate(
        """() => {
          const out = []
          const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
          while (walker.nextNode()) {
            const e = walker.currentNode.parentElement
            if (!walker.currentNode.data.trim() || !e || e.closest('svg') || e.closest('[disabled]') || !e.getClientRects().length) continue
            let b = e
            while (b && getComputedStyle(b).backgroundColor.match(/, 0\\)|transparent/)) b = b.parentElement
            const back = b ? getComputedStyle(b).backgroundColor : getComputedStyle(document.body).backgroundColor
            if (back.includes('0.')) continue
            out.push([walker.currentNode.data.trim().slice(0, 30), getComputedStyle(e).color, back])
          }
          return out
        }"""
    )
    assert len(pairs) > 40
    for text, front, back in pairs:
        light, dark = sorted((_luminance(front), _luminance(back)), reverse=True)
        assert (light + 0.05) / (dark + 0.05) >= 4.5, (text, front, back)
    context.close()


def test_the_page_fits_1280_by_800_without_scrolling(page: Page, job: str) -> None:
    open_link(page, job)
    for station in ("5", "6", "7", "8"):
        page.keyboard.press(station)
        page.wait_for_timeout(300)
        size = page.evaluate("[document.documentElement.scrollWidth, document.documentElement.scrollHeight]")
        assert size == [1280, 800]
