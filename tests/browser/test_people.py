"""Several people at one shop: accounts made, a hold signed by somebody who did not make the part, a session that ends over a page."""

import re
import uuid
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import Watch, serving
from tests.browser.test_access import day_and_night
from tirante.server.mariadb import Instance

OWNER, HAND, LOOKS = "anvil-cedar-lantern-9", "harbour-kettle-moss-5", "velvet-quarry-pigeon-3"


@pytest.fixture
def shop(instance: Instance, worker_id: str, front_end: Path, tmp_path: Path) -> Iterator[str]:
    """A server of its own: accounts shut it for everybody else."""
    with serving(instance, f"shop_{worker_id}", front_end, tmp_path) as found:
        yield found


@pytest.fixture
def at(shop: str, browser: Browser) -> Iterator[Any]:
    """A browser of one's own for each who asks."""
    watch, contexts = Watch(shop), []

    def open_one() -> Page:
        context = browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="light", reduced_motion="reduce")  # fmt: skip
        context.set_default_timeout(60_000)
        contexts.append(context)
        return watch.on(context.new_page())

    yield open_one
    for one in contexts:
        one.close()
    assert watch.faults == []


def enter(page: Page, name: str, password: str) -> None:
    dialog = page.get_by_role("dialog", name="Sign in")
    dialog.get_by_label("Name").fill(name)
    dialog.get_by_label("Password").fill(password)
    dialog.get_by_role("button", name="Sign in").click()
    expect(dialog).to_have_count(0)


def test_a_hold_is_signed_by_somebody_else_and_then_the_next_step_opens(shop: str, at: Any) -> None:
    owner: Page = at()
    owner.goto(shop)
    owner.get_by_role("link", name="People").click()
    owner.get_by_label("Name, as it signs").fill("Owner of the shop")
    owner.get_by_label("Password, 12 characters or more").fill("too short")
    owner.get_by_role("button", name="Make me the owner").click()
    expect(owner.get_by_role("alert")).to_contain_text("At least 12 characters")
    owner.get_by_label("Password, 12 characters or more").fill(OWNER)
    owner.get_by_role("button", name="Make me the owner").click()
    expect(owner.get_by_text("Signed in as Owner of the shop")).to_be_visible()
    owner.get_by_role("button", name="Give somebody an account").click()
    owner.get_by_label("Name, as it signs").fill("Hand at the bench")
    owner.get_by_label("Their first password").fill(HAND)
    owner.get_by_label("Your own password, again").fill(OWNER)
    owner.get_by_role("button", name="Give the account").click()
    expect(owner.get_by_role("list", name="Everybody")).to_contain_text("Hand at the bench, bench hand")
    # the owner issues Tern; whoever has no name is asked for one
    jobs = owner.request.get(f"{shop}/api/jobs").json()["jobs"]
    own = next(one["id"] for one in jobs if one["name"] == "Tern")
    me = owner.request.get(f"{shop}/api/me").json()
    version = owner.request.get(f"{shop}/api/jobs/{own}").json()["version"]
    body = {"save_id": str(uuid.uuid4()), "version": version, "name": "to build from", "issue": True}
    path, mark = f"{shop}/api/jobs/{own}/revisions", {"X-Csrf": me["csrf"]}
    issued = owner.request.post(path, data=body, headers=mark)
    assert issued.ok, issued.text()
    hand: Page = at()
    hand.goto(f"{shop}/jobs/{own}/log")
    expect(hand.get_by_role("dialog", name="Sign in")).to_be_visible()
    assert day_and_night(hand) == []
    enter(hand, "Hand at the bench", HAND)
    table = hand.get_by_role("table", name="How far each part is made")
    table.get_by_role("button", name="Toe link, LEFT").click()
    panel = hand.get_by_role("region", name="Steps of Toe link")
    for step in ("Have at hand", "Saw it", "Tack it", "Check it before it is welded", "Cycle it on the car, tacked", "Back in the jig"):  # fmt: skip
        expect(panel.get_by_role("button", name=step, expanded=True)).to_be_visible()
        panel.get_by_role("button", name="Done", exact=True).click()
    # what it measures against what it must be: out, read again, both kept
    panel.get_by_role("button", name="Measured against wanted").click()
    for read in ("455", "452.3"):
        field = panel.get_by_role("textbox", name="Read: end A to end B")
        field.fill(read)
        field.press("Enter")
        panel.get_by_role("button", name="Keep, tacked").first.click()
        expect(panel).to_contain_text(f"{read} mm" if "." in read else f"{read}.0 mm")
    expect(panel).to_contain_text("out: 2.8 mm too long, 2.3 mm more than is let through")
    expect(panel).to_contain_text("within: 0.1 mm too long")
    expect(panel.get_by_text("tacked, Hand at the bench").first).to_be_visible()
    assert day_and_night(hand) == []
    # no gauge is switched on: said so, with what to do
    panel.get_by_role("button", name="From the calliper").first.click()
    expect(panel.get_by_role("alert")).to_contain_text("./tirante gauge calliper")
    panel.get_by_role("button", name="Measured against wanted").click()
    expect(panel.get_by_role("button", name="Sign as Hand at the bench")).to_be_disabled()
    panel.get_by_label("Password of Hand at the bench, again").fill(HAND)
    panel.get_by_role("button", name="Sign as Hand at the bench").click()
    expect(panel.get_by_role("alert")).to_contain_text("You ticked steps before this one yourself.")
    owner.goto(f"{shop}/jobs/{own}/log")
    owner.get_by_role("button", name="Wait for a second look (1)").click()
    owner.get_by_role("button", name="Toe link, LEFT").click()
    panel = owner.get_by_role("region", name="Steps of Toe link")
    panel.get_by_label("Note").fill("gaps even all round")
    panel.get_by_label("Password of Owner of the shop, again").fill(OWNER)
    panel.get_by_role("button", name="Sign as Owner of the shop").click()
    expect(panel.get_by_role("list", name="Steps")).to_contain_text("Signed by Owner of the shop")
    expect(owner.get_by_role("button", name="Wait for a second look (0)")).to_be_visible()
    # the session of the hand ends over an open page: asked for again, what is on it is kept, and the weld is ticked
    everybody = owner.request.get(f"{shop}/api/people").json()["people"]
    someone = next(one["id"] for one in everybody if one["name"] == "Hand at the bench")
    changed = owner.request.post(f"{shop}/api/people/{someone}/change", data={"role": "bench", "own_password": OWNER}, headers={"X-Csrf": me["csrf"]})  # fmt: skip
    assert changed.ok
    panel = hand.get_by_role("region", name="Steps of Toe link")
    panel.get_by_role("button", name="Weld it, in balance").click()
    panel.get_by_label("Filler, and its batch").fill("ER70S-2, B 7")
    panel.get_by_role("button", name="Done", exact=True).click()
    expect(hand.get_by_role("dialog", name="Sign in")).to_contain_text("What is on this page is kept.")
    enter(hand, "Hand at the bench", HAND)
    expect(panel.get_by_label("Filler, and its batch")).to_have_value("ER70S-2, B 7")
    panel.get_by_role("button", name="Done", exact=True).click()
    expect(table.get_by_role("row", name="Toe link, LEFT")).to_contain_text("welded")
    owner.goto(f"{shop}/people")
    owner.get_by_role("button", name="Who did what").click()
    expect(owner.get_by_role("list", name="Who did what, the latest first")).to_contain_text("signed, Toe link")
    expect(owner.get_by_text("all are as they were written")).to_be_visible()
    # who issued it cannot review it; who did not draw it signs, and the sheets carry it
    owner.goto(f"{shop}/jobs/{own}/log")
    owner.get_by_role("button", name=re.compile("^rev 2")).click()
    owner.get_by_role("button", name="Review it and sign").click()
    expect(owner.get_by_role("dialog", name="Revisions")).to_contain_text("You changed or issued this job yourself")
    looks = {"id": str(uuid.uuid4()), "name": "Looks over", "role": "reviewer", "password": LOOKS, "own_password": OWNER}  # fmt: skip
    assert owner.request.post(f"{shop}/api/people", data=looks, headers={"X-Csrf": me["csrf"]}).ok
    reviewer: Page = at()
    reviewer.goto(f"{shop}/jobs/{own}/log")
    enter(reviewer, "Looks over", LOOKS)
    reviewer.get_by_role("button", name=re.compile("^rev 2")).click()
    dialog = reviewer.get_by_role("dialog", name="Revisions")
    dialog.get_by_role("button", name="Review it and sign").click()
    assert day_and_night(reviewer) == []
    dialog.get_by_label("What was looked at, and what was not").fill("the links")
    dialog.get_by_label("Password of Looks over, again").fill(LOOKS)
    dialog.get_by_role("button", name="Sign as Looks over").click()
    expect(dialog).to_contain_text("Reviewed and signed by Looks over")
    expect(dialog.get_by_role("button", name="Withdraw the review")).to_be_visible()
