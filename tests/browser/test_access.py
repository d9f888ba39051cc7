"""What a keyboard and a screen reader meet: axe-core's rules on every main view, light and dark, wide and narrow; figures heard with their units.

Rules: axe-core, WCAG 2.0 and 2.1 A and AA (https://www.w3.org/TR/WCAG21/, from memory); serious and critical findings fail.
"""

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import copy_of

AXE = Axe()
STATIONS = ["layout", "cycle", "loads", "members", "brackets", "jigs", "pack", "survey", "log"]
READY = {
    "layout": "[data-drawing=end]", "cycle": "[data-drawing=end]", "loads": "[data-drawing=loads]", "members": "text=Will they hold?",
    "pack": "text=To build from",
}  # fmt: skip


WHOLE = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"]
COLOURS = ["color-contrast", "link-in-text-block"]  # all of it that hangs on day or night

# A label's colour goes over in a fifth of a second: looked at before that, it is a colour that nobody reads.
SETTLED = "Promise.all(document.getAnimations().filter((a) => a instanceof CSSTransition).map((a) => a.finished.catch(() => null)))"


def serious(page: Page, rules: list[str] = WHOLE) -> list[str]:
    """What axe-core finds serious or critical, each with where it is."""
    found = AXE.run(page, options={"runOnly": rules, "resultTypes": ["violations"]}).response["violations"]
    return [
        f"{one['id']}: {node['target']} {node['failureSummary'][:160]}"
        for one in found
        if one["impact"] in ("serious", "critical")
        for node in one["nodes"]
    ]


def day_and_night(page: Page) -> list[str]:
    """What is serious by day, and of what hangs on colours by night; the page is left as by day."""
    found = serious(page, WHOLE)
    page.emulate_media(color_scheme="dark")
    expect(page.locator("body")).to_have_css("color-scheme", "dark")
    page.evaluate(SETTLED)
    found += [f"by night {one}" for one in serious(page, COLOURS)]
    page.emulate_media(color_scheme="light")
    page.evaluate(SETTLED)
    return found


def test_axe_finds_nothing_serious_on_any_station(page: Page, address: str) -> None:
    job = copy_of(page, address, "Plover")
    found: dict[str, list[str]] = {}
    for station in STATIONS:
        page.goto(f"{job}/{station}")
        expect(page.locator(READY.get(station, "main")).first).to_be_visible()
        expect(page.get_by_role("status").filter(has_text="Working")).to_have_count(0)
        page.wait_for_timeout(400)
        found[station] = day_and_night(page)
    for view, there in (("bind map", "worst first"), ("what still moves", "in place")):
        page.goto(f"{job}/cycle")
        page.get_by_role("button", name=view).click()
        expect(page.get_by_text(there).first).to_be_visible()
        page.wait_for_timeout(400)
        found[view] = day_and_night(page)
    page.goto(f"{job}/members")
    page.get_by_role("complementary", name="Panel").get_by_role("listitem").first.get_by_role("link").click()
    for tab in ("Will it hold?", "What it is", "Size it", "How it is made"):
        page.get_by_role("tab", name=tab).click()
        page.wait_for_timeout(400)
        found[tab] = day_and_night(page)
    for path in ("", "/catalogue", "/rack", "/people"):
        page.goto(f"{address}{path}")
        page.wait_for_timeout(800)
        found[path or "start"] = day_and_night(page)
    assert {where: what for where, what in found.items() if what} == {}


def test_axe_finds_nothing_serious_on_a_phone(browser: Browser, page: Page, address: str) -> None:
    job = copy_of(page, address, "Marram")
    phone = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    small = phone.new_page()
    for path in (job, address, f"{address}/catalogue", f"{address}/rack"):
        small.goto(path)
        small.wait_for_timeout(1200)
        assert serious(small) == [], path
        assert small.evaluate("document.documentElement.scrollWidth") <= 390, path
    phone.close()


def test_a_screen_reader_hears_figures_with_their_units(page: Page, address: str) -> None:
    job = copy_of(page, address, "Marram")
    page.goto(f"{job}/layout")
    field = page.get_by_label("upper outer joint, z", exact=True)
    expect(field).to_be_visible()
    told = field.evaluate(
        "e => e.getAttribute('aria-describedby').split(' ').map(id => document.getElementById(id)?.textContent).join(' ')"
    )
    assert "mm" in told
    assert "″" in told
    page.get_by_role("button", name="Vehicle").click()
    mass = page.get_by_label("Unsprung, front", exact=True)
    told = mass.evaluate(
        "e => e.getAttribute('aria-describedby').split(' ').map(id => document.getElementById(id)?.textContent).join(' ')"
    )
    assert "kg" in told
