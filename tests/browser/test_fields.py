"""Fields of a link, its tab and its ends: what is typed moves what is drawn, and what cannot be is said at its field."""

import re

from playwright.sync_api import Page, expect


def open_set(page: Page, job: str, name: str = "Rear lower link") -> None:
    page.goto(job)
    page.get_by_role("link", name=name).click()
    expect(page.locator("[data-drawing=link]")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()


def saw(page: Page) -> str:
    return page.locator("[data-drawing=link] text", has_text=re.compile("^saw ")).text_content() or ""


def moved(page: Page, before: str) -> None:
    expect(page.locator("[data-drawing=link] text", has_text=before)).to_have_count(0)


def test_a_fixed_end_takes_its_own_length_off_the_tube(page: Page, job: str) -> None:
    open_set(page, job)
    before = saw(page)
    page.get_by_role("group", name="End B").get_by_role("button", name="fixed").click()
    moved(page, before)
    expect(page.get_by_label("Centre to tube face")).to_be_visible()
    expect(page.get_by_text(re.compile("half a turn of an end"))).to_be_visible()
    before = saw(page)
    page.get_by_label("Centre to tube face").fill("1 1/2 in")
    moved(page, before)


def test_two_ends_of_one_hand_say_so_and_adjust_singly(page: Page, job: str) -> None:
    open_set(page, job)
    page.get_by_role("group", name="End B").get_by_role("button", name="RH thread").click()
    expect(page.get_by_text(re.compile("half a turn of an end"))).to_be_visible()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_text("Both ends are of one hand")).to_be_visible()


def test_plug_welds_and_crookedness_move_their_checks(page: Page, job: str) -> None:
    open_set(page, job)
    page.get_by_label("Plug weld diameter").fill("16")
    page.get_by_label("of them in one cross-section").fill("2")
    page.get_by_label("Crookedness (length/1000 if empty)").fill("30")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_test_id("headline")).to_contain_text("Bowed, bent or struck is over")
    page.locator("[data-check=bowed] button").first.click()
    expect(page.get_by_test_id("working")).to_contain_text("bow_mm")
    page.locator("[data-check=net] button").first.click()
    expect(page.get_by_test_id("working")).to_contain_text("16")


def test_cases_are_added_named_and_taken_away(page: Page, job: str) -> None:
    open_set(page, job)
    page.get_by_role("button", name="Add a case").click()
    page.get_by_label("Name of case 4").fill("towing eye")
    page.get_by_label("Pull or push, case 4").fill("99000")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_test_id("headline")).to_contain_text("towing eye")
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("button", name="Remove case 4").click()
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.get_by_test_id("headline")).not_to_contain_text("towing eye")


def test_a_fixed_exposure_is_typed_and_its_bottoming_is_said(page: Page, job: str) -> None:
    open_set(page, job)
    page.get_by_role("group", name="Thread showing").get_by_role("button", name="fixed").click()
    field = page.get_by_label("Showing at each end")
    field.fill("12")
    expect(page.locator("[data-drawing=link] text", has_text="showing 12.0")).to_be_visible()
    field.fill("30")
    page.get_by_role("tab", name="Will it hold?").click()
    expect(page.locator("[data-check=engagement]")).to_contain_text("show less thread")


def test_a_link_is_removed_and_undo_brings_it_back(page: Page, job: str) -> None:
    open_set(page, job, "Front tie rod")
    page.get_by_role("button", name="Take out this link").click()
    expect(page.get_by_role("link", name="Front tie rod")).to_have_count(0)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_role("link", name="Front tie rod")).to_be_visible()


def test_a_tab_s_fields_move_its_drawing_and_its_checks(page: Page, flat_job: str) -> None:
    page.goto(flat_job)
    page.get_by_role("link", name="Rear lower link").click()
    expect(page.locator("[data-drawing=link]")).to_be_visible()
    page.keyboard.press("6")
    drawing = page.locator("[data-drawing=tab]")
    expect(drawing).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("Shim each side").fill("2.5")
    expect(drawing.locator("text", has_text="27.2")).to_be_visible()
    page.get_by_label("Hole to free end").fill("30")
    expect(page.get_by_text("short of metal beyond the hole")).to_be_visible()
    page.get_by_label("Hole", exact=True).fill("70")
    expect(page.get_by_role("alert").filter(has_text="breaks out").first).to_be_visible()
    page.get_by_label("Hole", exact=True).fill("19.4")
    expect(drawing).to_be_visible()
    page.get_by_role("button", name="a round tube").click()
    # a foot as wide as the flat bore is more than the tube lets it be: it says so, and by how much
    expect(page.get_by_role("alert").filter(has_text="does not stand on a tube").first).to_be_visible()
    page.get_by_label("Foot width").fill("64")
    expect(drawing.locator("text", has_text=re.compile("to stand square across the tube"))).to_be_visible()
    page.get_by_label("Wall it is welded to").fill("2")
    expect(page.get_by_text("weld a spread plate under the feet")).to_be_visible()


def test_spacers_that_fit_the_ball_are_offered_and_bring_their_bolt(page: Page, job: str) -> None:
    page.goto(job)
    page.get_by_role("link", name="Rear upper link").click()
    expect(page.locator("[data-drawing=link]")).to_be_visible()
    page.keyboard.press("6")
    expect(page.locator("[data-drawing=tab]")).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("combobox", name="Spacer").click()
    options = page.get_by_role("option")
    expect(options.first).to_be_visible()
    # for the ball of this joint, plain or stepping down to a smaller bolt; none for another bore
    assert all(re.search(r"spacer 0\.75 (in bore|to)", text) for text in options.all_inner_texts())
    options.first.click()
    expect(page.locator("[data-drawing=tab] text", has_text=re.compile("spacers 2 ×"))).to_be_visible()


def test_a_picked_part_of_the_drawing_opens_what_belongs_to_it(page: Page, job: str) -> None:
    page.goto(job)
    page.get_by_role("link", name="Rear lower link").click()
    drawing = page.locator("[data-drawing=link]")
    expect(drawing).to_be_visible()
    drawing.locator("text", has_text=re.compile("^plug weld")).click()
    expect(page.locator("[data-check=net]").get_by_test_id("working")).to_be_visible()
    drawing.locator("text", has_text="RH").first.click()
    expect(page.get_by_role("tab", name="What it is")).to_have_attribute("aria-selected", "true")
    expect(page.locator("[data-drawing=link] text", has_text="End A, right-hand")).to_be_visible()


def test_everything_in_the_panel_is_reached_by_tab(page: Page, job: str) -> None:
    open_set(page, job)
    seen: set[str] = set()
    page.get_by_label("Name", exact=True).focus()
    for _ in range(45):
        page.keyboard.press("Tab")
        name = page.evaluate(
            "(document.activeElement.getAttribute('aria-label') || document.activeElement.labels?.[0]?.textContent || document.activeElement.textContent || '').trim()"
        )
        seen.add(name)
    for wanted in (
        "Untie it, keep its length",
        "Pull or push, case 1",
        "Add a case",
        "Size",
        "Grade",
        "Joint",
        "Plug weld diameter",
    ):
        assert wanted in seen, wanted
