"""Revisions: issuing, what changed since, two people at one job, undo after a reload, the cards on a phone."""

import re
import uuid

import pytest
from playwright.sync_api import Browser, Page, Request, expect

from tests.browser.test_frame import open_link, rename, saved


def test_two_browsers_see_both_versions_and_keep_both(page: Page, job: str, browser: Browser) -> None:
    open_link(page, job)
    other_context = browser.new_context(viewport={"width": 1280, "height": 800})
    other = other_context.new_page()
    open_link(other, job)
    rename(other, "theirs")
    saved(other)
    rename(page, "mine")
    dialog = page.get_by_role("dialog", name="Somebody else saved")
    asked = dialog.get_by_role("group", name="Rear lower link, Name", exact=False).first
    expect(asked).to_contain_text("it was Rear lower link")
    expect(asked).to_contain_text("yours: mine")
    expect(asked).to_contain_text("theirs: theirs")
    dialog.get_by_role("button", name="Keep mine as a branch").click()
    expect(page.get_by_role("heading", name="theirs")).to_be_visible()
    page.get_by_role("button", name=re.compile("^rev|no revision")).click()
    revisions = page.get_by_role("dialog", name="Revisions")
    expect(revisions).to_contain_text("my version")
    revisions.locator("div", has_text=re.compile("^rev 1")).get_by_role("button", name="Open", exact=True).first.click()
    # what stands now is not replaced without asking
    revisions.get_by_role("button", name="Open it in place of what stands now").click()
    expect(page.get_by_role("heading", name="mine")).to_be_visible()
    other_context.close()


def test_two_people_at_different_fields_both_have_their_way(page: Page, job: str, browser: Browser) -> None:
    open_link(page, job)
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    other = context.new_page()
    open_link(other, job, "Panhard rod")
    rename(other, "Track bar")
    saved(other)
    page.get_by_role("tab", name="What it is").click()
    page.get_by_role("textbox", name="Note", exact=True).fill("mine, at the same time")
    expect(page.get_by_text("theirs and yours are both in it now")).to_be_visible()
    expect(page.get_by_text(re.compile("Theirs: Panhard rod: .*[Nn]ame"))).to_be_visible()
    saved(page)
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.goto(f"{job}/members")
    expect(page.get_by_role("link", name="Track bar").first).to_be_visible()
    page.get_by_role("link", name="Rear lower link").first.click()
    page.get_by_role("tab", name="What it is").click()
    expect(page.get_by_role("textbox", name="Note", exact=True)).to_have_value("mine, at the same time")
    context.close()


def test_what_both_changed_is_taken_field_by_field(page: Page, job: str, browser: Browser) -> None:
    open_link(page, job)
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    other = context.new_page()
    open_link(other, job)
    rename(other, "theirs")
    other.get_by_role("textbox", name="Note", exact=True).fill("their note")
    saved(other)
    page.route("**/draft", lambda route: route.abort())
    rename(page, "mine")
    page.get_by_role("textbox", name="Note", exact=True).fill("my note")
    page.unroute("**/draft")
    dialog = page.get_by_role("dialog", name="Somebody else saved")
    expect(dialog.get_by_role("button", name="2 to choose")).to_be_disabled()
    dialog.get_by_role("button", name="yours: mine").click()
    dialog.get_by_role("button", name="theirs: their note").click()
    dialog.get_by_role("button", name="Put both together").click()
    expect(page.get_by_role("heading", name="mine")).to_be_visible()
    saved(page)
    page.reload()
    page.get_by_role("tab", name="What it is").click()
    expect(page.get_by_label("Name", exact=True)).to_have_value("mine")
    expect(page.get_by_role("textbox", name="Note", exact=True)).to_have_value("their note")
    context.close()


def test_what_was_done_can_be_undone_after_the_page_is_loaded_again(page: Page, job: str) -> None:
    open_link(page, job)
    rename(page, "once")
    page.get_by_role("textbox", name="Note", exact=True).fill("twice")
    saved(page)
    page.reload()
    expect(page.get_by_role("heading", name="once")).to_be_visible()
    undo = page.get_by_role("button", name="Undo", exact=True)
    expect(undo).to_be_enabled()
    undo.click()
    page.get_by_role("tab", name="What it is").click()
    expect(page.get_by_role("textbox", name="Note", exact=True)).to_have_value("")
    undo.click()
    expect(page.get_by_role("heading", name="Rear lower link")).to_be_visible()
    saved(page)
    page.reload()
    page.get_by_role("button", name="Redo", exact=True).click()
    expect(page.get_by_role("heading", name="once")).to_be_visible()


def test_another_s_work_is_not_undone_with_one_s_own_after_a_reload(page: Page, job: str, browser: Browser) -> None:
    open_link(page, job)
    rename(page, "once")
    saved(page)
    page.wait_for_timeout(500)
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    other = context.new_page()
    other.goto(job)
    other.get_by_role("link", name="Panhard rod").first.click()
    rename(other, "Track bar")
    saved(other)
    context.close()
    page.reload()
    expect(page.get_by_role("heading", name="once")).to_be_visible()
    page.wait_for_timeout(500)
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_disabled()


def issue(page: Page, job: str) -> None:
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Issue the job as it stands").click()
    page.get_by_role("dialog", name="Issue the job").get_by_role("button", name="Issue", exact=True).click()
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_issuing_is_one_press_and_is_what_is_built_from(page: Page, job: str) -> None:
    page.goto(f"{job}/pack")
    expect(page.get_by_text("Nothing is issued yet")).to_be_visible()
    issue(page, job)
    expect(page.get_by_text("NOT REVIEWED stands on every page")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("button", name=re.compile("^Pack of rev")).click()
    assert download.value.suggested_filename.startswith("marram-rev")


def test_issuing_what_fails_asks_who_answers_for_it(page: Page, job: str) -> None:
    open_link(page, job, "Panhard rod")
    page.get_by_role("tab", name="What it is").click()
    page.get_by_label("Everyday force, most less least").fill("90000")
    page.keyboard.press("Enter")
    saved(page)
    page.goto(f"{job}/pack")
    page.get_by_role("button", name="Issue the job as it stands").click()
    dialog = page.get_by_role("dialog", name="Issue the job")
    dialog.get_by_label("Called").fill("for the meeting")
    dialog.get_by_role("button", name="Issue", exact=True).click()
    expect(dialog.get_by_role("list", name="Not settled")).to_contain_text("Panhard rod: Everyday life is over")
    expect(dialog.get_by_role("button", name="Issue it nevertheless")).to_be_disabled()
    dialog.get_by_label("Who answers for this list").fill("A. Smith")
    dialog.get_by_role("button", name="Issue it nevertheless").click()
    expect(dialog).to_have_count(0)
    page.get_by_role("button", name=re.compile("^rev")).click()
    expect(page.get_by_role("dialog", name="Revisions")).to_contain_text("A. Smith answers for 1 that is not settled")


def test_what_changed_since_it_was_issued_stands_on_header_list_and_phone(
    page: Page, job: str, browser: Browser
) -> None:
    issue(page, job)
    page.goto(f"{job}/layout")
    page.get_by_role("button", name="Rear", exact=True).click()
    page.get_by_role("button", name="the wheel", exact=True).click()  # else what is issued keeps its lengths
    field = page.get_by_label("chassis joint of the lower link, x")
    before = float(field.input_value().replace("−", "-"))
    field.fill(str(before + 2))
    page.keyboard.press("Enter")
    saved(page)
    page.get_by_role("button", name=re.compile("2 parts changed since rev")).click()
    dialog = page.get_by_role("dialog", name="What changed since rev")
    expect(dialog).to_contain_text("re-adjust")
    expect(dialog).to_contain_text(re.compile(r"Turn the link 0\.\d\d turns longer"))
    expect(dialog).to_contain_text(re.compile(r"Saw: \d+\.\d → \d+\.\d mm"))
    expect(dialog).to_contain_text("stand elsewhere now")  # the bracket at that pick-up, two millimetres along its rail
    dialog.get_by_role("button", name="Close").click()
    page.goto(f"{job}/pack")
    expect(page.get_by_role("region", name="Changed since rev")).to_contain_text("Rear lower link")
    phone = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    small = phone.new_page()
    small.goto(job)
    expect(small.get_by_role("status").first).to_contain_text("issued")
    expect(small.get_by_role("status").first).to_contain_text("NOT REVIEWED")
    card = small.get_by_role("article").filter(has_text="Rear lower link").first
    expect(card).to_contain_text("A newer draft changes this: re-adjust")
    expect(card).not_to_contain_text("As made")  # nothing was begun
    asked = job.replace("/jobs/", "/api/jobs/")
    row = next(one for one in page.request.get(f"{asked}/traveller").json()["rows"] if (one["name"], one["hand"]) == ("Rear lower link", "left"))  # fmt: skip
    tick = {"number": 1, "part_id": row["part_id"], "step": "saw:0", "metal": row["metal"], "done": True, "at_ms": 1}
    for hand, told in (("left", "LEFT"), ("right", "LEFT and RIGHT")):
        own = {**tick, "id": str(uuid.uuid4()), "hand": hand}
        assert page.request.post(f"{asked}/ticks", data={"ticks": [own]}).json()["kept"] == 1
        small.reload()
        expect(card).to_contain_text(f"As made: {told}, sawn: re-adjust")
    # what was begun and has no card here is named, and so is that nobody knows
    answer = small.request.get(f"{asked}/made").json()
    strange = {**answer["parts"][0], "part_id": str(uuid.uuid4()), "name": "Old rod", "hand": "", "is_now": "tacked"}
    small.route("**/made", lambda route: route.fulfill(json={**answer, "parts": [*answer["parts"], strange]}))
    small.reload()
    expect(small.get_by_role("article").first).to_contain_text("Begun, and no card of it is here: Old rod (tacked).")
    small.unroute("**/made")
    small.route("**/made", lambda route: route.abort())
    small.reload()
    expect(card).to_contain_text("What was made of it already is not known here")
    small.unroute("**/made")
    issued = card.get_by_text(re.compile(r"^\d+\.\d mm$")).first.inner_text()
    small.get_by_role("button", name="a newer draft changes 2 parts: see it").click()
    expect(small.get_by_role("status").first).to_contain_text("DRAFT, not to cut from")
    card = small.get_by_role("article").filter(has_text="Rear lower link").first
    draft = card.get_by_text(re.compile(r"^\d+\.\d mm$")).first.inner_text()
    assert 1.0 < float(draft.split()[0]) - float(issued.split()[0]) < 2.1
    phone.close()


def test_on_a_phone_the_cards_stand_one_to_a_screen(browser: Browser, page: Page, job: str) -> None:
    phone = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    small = phone.new_page()
    small.goto(job)
    cards = small.get_by_role("article")
    expect(small.get_by_role("status").first).to_contain_text("DRAFT, not to cut from")
    expect(cards.first).to_contain_text("Saw")
    expect(cards.first).to_contain_text("never more than")
    boxes = [cards.nth(i).bounding_box() for i in range(2)]
    assert [box["width"] for box in boxes if box] == [390, 390]
    assert small.evaluate("document.documentElement.scrollWidth") <= 390
    size = cards.first.get_by_text(re.compile(r"^\d+\.\d mm$")).first.evaluate(
        "e => parseFloat(getComputedStyle(e).fontSize)"
    )
    assert size >= 40
    phone.close()


def carried(requests: list[Request]) -> int:
    """What came over the line, fonts left out [bytes]."""
    return sum(request.sizes()["responseBodySize"] for request in requests if request.resource_type != "font")


@pytest.mark.parametrize(("width", "most"), [(1280, 350_000), (390, 220_000)])
def test_the_first_page_and_a_phone_s_card_are_light(
    width: int, most: int, page: Page, job: str, browser: Browser
) -> None:
    context = browser.new_context(viewport={"width": width, "height": 844})
    fresh = context.new_page()
    came: list[Request] = []
    fresh.on("requestfinished", lambda request: came.append(request))
    fresh.goto(job if width < 700 else job.partition("/jobs")[0])
    expect(fresh.get_by_text("Rear lower link" if width < 700 else "Marram").first).to_be_visible()
    fresh.wait_for_timeout(500)
    assert 50_000 < carried(came) < most
    context.close()
