"""Step by step at the bench, on a phone and a tablet: large figures, ticks for each hand, kept while the server is away."""

import pytest
from playwright.sync_api import Page, expect


def opened(page: Page, job: str, name: str) -> None:
    base, own = job.split("/jobs/")
    page.goto(f"{base}/bench/{own}")
    card = page.get_by_role("article", name=name, exact=True)
    card.scroll_into_view_if_needed()
    card.get_by_role("button", name="Step by step").click()


@pytest.mark.parametrize(("wide", "high"), [(390, 844), (1024, 768)])
def test_a_step_fills_the_screen_and_its_figure_is_marked_draft(page: Page, job: str, wide: int, high: int) -> None:
    page.set_viewport_size({"width": wide, "height": high})
    opened(page, job, "Rear lower link")
    step = page.get_by_role("dialog", name="Rear lower link, step by step")
    step.get_by_role("button", name="Next").click()
    expect(step.get_by_text("saw, step 2 of")).to_be_visible()
    figure = step.get_by_text("734.3 mm")
    expect(figure).to_be_visible()
    assert float(figure.evaluate("one => parseFloat(getComputedStyle(one).fontSize)")) >= 48
    expect(step.get_by_text("DRAFT", exact=True)).to_be_visible()
    for name in ("LEFT", "RIGHT", "Previous", "Next"):
        box = step.get_by_role("button", name=name).bounding_box()
        assert box
        assert box["height"] >= 56  # for a glove
        assert box["y"] + box["height"] <= high
    assert page.evaluate("document.documentElement.scrollWidth") <= wide


def test_ticks_are_kept_while_the_server_is_away_over_a_reload_and_are_sent_when_it_is_back(
    page: Page, job: str
) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    opened(page, job, "Rear lower link")
    step = page.get_by_role("dialog")
    page.route("**/ticks", lambda route: route.abort())  # the server is away
    step.get_by_role("button", name="LEFT").click()
    expect(step.get_by_role("button", name="✓ LEFT")).to_be_visible()
    step.get_by_role("button", name="Next").click()
    step.get_by_role("button", name="RIGHT").click()
    step.get_by_role("button", name="Card").click()
    expect(page.get_by_text("2 ticks are kept here and sent when it answers.")).to_be_visible()
    opened(page, job, "Rear lower link")  # the page is opened anew
    expect(page.get_by_text("2 ticks are kept here")).to_be_attached()
    base, own = job.split("/jobs/")
    bench = f"{base}/api/jobs/{own}/bench"

    def kept() -> int:
        return sum(len(part["ticks"]) for part in page.request.get(bench).json()["parts"])

    assert kept() == 0
    page.unroute("**/ticks")
    expect(page.get_by_text("kept here and sent")).to_have_count(0, timeout=15_000)
    assert kept() == 2
    # what is not done is opened first, and a tick is taken back
    step.get_by_role("button", name="Card").click()
    expect(page.get_by_role("article", name="Rear lower link", exact=True)).to_contain_text("2 of")
    page.reload()
    opened(page, job, "Rear lower link")
    step.get_by_role("button", name="✓ LEFT").click()
    expect(step.get_by_role("button", name="LEFT", exact=True)).to_be_visible()
    expect(page.get_by_text("kept here and sent")).to_have_count(0)
