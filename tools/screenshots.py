"""Take docs/screenshots anew from the demo jobs: start `./tirante demo` on a fresh folder, then
python tools/screenshots.py http://127.0.0.1:PORT
"""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

OUT = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-sync",
    "--enable-unsafe-swiftshader",
]


def shot(page: Page, name: str) -> None:
    page.mouse.move(640, 5)
    page.wait_for_timeout(900)
    page.screenshot(path=OUT / f"{name}.png")


def open_job(page: Page, base: str, name: str) -> str:
    page.goto(base)
    page.get_by_role("link", name=name).click()
    page.wait_for_selector("[data-drawing=overview]")
    return page.url.rsplit("/", 1)[0]


def wide(page: Page, base: str) -> None:
    page.goto(base)
    page.wait_for_selector("text=Marram")
    page.get_by_text("nothing issued").nth(3).wait_for(timeout=60_000)  # each with its state
    shot(page, "jobs")
    job = open_job(page, base, "Marram")
    page.get_by_role("button", name="Size all").click()
    page.wait_for_selector("[data-testid=size-all]", timeout=60_000)
    shot(page, "links")
    page.goto(f"{job}/survey")
    page.wait_for_selector("[data-drawing=survey]")
    page.get_by_role("button", name="Take a reading").click()
    shot(page, "survey")
    page.goto(f"{job}/log")
    page.get_by_text("As it stands").click()
    page.wait_for_selector("[data-drawing=read]")
    shot(page, "log")
    open_job(page, base, "Plover")
    page.get_by_role("link", name="Rear arm").click()
    page.wait_for_selector("[data-drawing=frame]")
    shot(page, "arms")
    page.goto(f"{job}/members")
    page.wait_for_selector("[data-drawing=overview]")
    page.get_by_role("link", name="Rear lower link").click()
    page.wait_for_selector("[data-drawing=link]")
    shot(page, "link")
    page.locator("[data-check=bowed] button").first.click()
    page.wait_for_selector("[data-testid=command]")
    shot(page, "working")
    page.goto(f"{job}/jigs")
    page.get_by_role("button", name="Lay out all jigs").click()
    page.get_by_role("status", name="What was laid out").wait_for()
    page.get_by_role("link", name="Front lower arm, jig").first.click()
    page.wait_for_selector("[data-drawing=jig-left]")
    shot(page, "jig")
    page.keyboard.press("8")
    page.wait_for_selector("text=Have or buy")
    page.get_by_role("button", name="Lay them out").click()
    sheets = page.get_by_role("status", name="The sheets")
    sheets.get_by_text("3.0 mm S275 plate").scroll_into_view_if_needed(timeout=120_000)
    page.mouse.move(600, 400)
    page.mouse.wheel(0, 420)
    shot(page, "pack")
    page.goto(f"{job}/brackets")
    page.get_by_role("button", name="Rear", exact=True).click()
    page.get_by_role("button", name="3D", exact=True).click()
    page.wait_for_selector("canvas")
    shot(page, "brackets")
    page.goto(f"{job}/layout")
    page.wait_for_selector("[data-drawing=end]")
    shot(page, "layout")
    page.keyboard.press("3")
    page.get_by_role("slider", name="roll").focus()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    page.get_by_role("slider", name="Travel").focus()
    for _ in range(42):
        page.keyboard.press("ArrowRight")
    shot(page, "cycle")
    page.get_by_role("button", name="3D", exact=True).click()
    page.wait_for_selector("canvas")
    shot(page, "scene")
    page.get_by_role("button", name="bind map").click()
    page.wait_for_selector("[data-drawing=bind]")
    shot(page, "bind")
    page.get_by_role("button", name="what still moves").click()
    for name in ("upper arm pivots", "lower arm pivots", "upper outer joint", "lower outer joint"):
        page.get_by_role("checkbox", name=name).click()
        page.wait_for_selector(f"label:has-text('{name}') input:checked")
    page.get_by_role("slider", name="Along the motion").focus()
    for _ in range(14):
        page.keyboard.press("ArrowRight")
    shot(page, "still")
    page.keyboard.press("Escape")
    page.goto(f"{job}/loads")
    page.wait_for_selector("[data-drawing=loads]")
    page.get_by_role("button", name="Rear", exact=True).first.click()
    page.get_by_role("button", name="rearward pothole").first.click()
    shot(page, "loads")


def main(base: str) -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", headless=True, args=ARGUMENTS)
        wide(browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="light").new_page(), base)
        phone = browser.new_context(viewport={"width": 390, "height": 844}).new_page()
        phone.goto(base)
        phone.get_by_role("link", name="Marram").click()
        phone.wait_for_selector("article")
        shot(phone, "card")
        phone.get_by_role("article", name="Rear lower link", exact=True).get_by_role(
            "button", name="Step by step"
        ).click()
        phone.get_by_role("dialog").get_by_role("button", name="Next").click()
        phone.get_by_role("dialog").get_by_role("button", name="LEFT", exact=True).click()
        shot(phone, "steps")
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1].rstrip("/"))
