"""A kind of part that the page has never heard of: its form, drawing, checks, jig, list and card are there without another edit."""

import re
import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import serving
from tests.made_up_kind import ID, bar
from tirante.server.mariadb import Instance


@pytest.fixture
def address(instance: Instance, worker_id: str, front_end: Path, tmp_path: Path) -> Iterator[str]:
    """Where a server listens that knows the kind; the page is the one that ships."""
    with serving(instance, f"kind_{worker_id}", front_end, tmp_path, "tests.serve_made_up_kind") as found:
        yield found


def test_the_page_shows_a_kind_that_it_has_never_heard_of(page: Page, address: str) -> None:
    made = page.request.post(f"{address}/api/jobs", data={"id": str(uuid.uuid4()), "name": "Bars"}).json()
    design = {**made["design"], "parts": [bar()]}
    job = page.request.post(f"{address}/api/import", data={"id": str(uuid.uuid4()), "design": design}).json()["job_id"]
    page.goto(f"{address}/jobs/{job}/members")
    page.get_by_role("link", name=re.compile("^Stop bar")).click()
    expect(page.get_by_text("drilled bar · pair · make 2, left and right differ")).to_be_visible()
    expect(page.locator("[data-check=joint]")).to_be_visible()
    expect(page.get_by_text(re.compile("its holes. A margin"))).to_be_visible()
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("Long, hole to hole").fill("412")
    page.keyboard.press("Enter")
    expect(page.locator("[data-drawing=drawing] text", has_text="412")).to_be_visible()
    page.get_by_label("The stop’s force").fill("99000")
    page.keyboard.press("Enter")
    flag = page.get_by_role("button", name=re.compile("1 to settle"))
    expect(flag).to_be_visible()
    expect(page.get_by_test_id("save-state")).to_have_text("saved")
    page.keyboard.press("Escape")
    page.goto(page.url.split("/members")[0] + "/jigs/" + ID)
    expect(page.get_by_text("Clamp the drilled bar.")).to_be_visible()
    page.goto(page.url.split("/jigs")[0] + "/pack")
    expect(page.get_by_role("row", name=re.compile("452.0 mm.*Stop bar"))).to_be_visible()
    page.set_viewport_size({"width": 390, "height": 844})
    expect(page.locator(f"[data-card='{ID}']")).to_contain_text("deburr both holes")
