"""How long an edit takes to the redrawn three views, in the browser: a typed coordinate, Enter to painted.

Run it against a demo that runs: `python tools/redraw.py http://127.0.0.1:8720 [job ...]`. Prints median and 95th percentile of
each end of each demo job, and of each job's first bracket of each family. Never a test: the machine decides.
"""

from __future__ import annotations

import sys
from fractions import Fraction

from playwright.sync_api import Locator, Page, sync_playwright

EDITS = 40
BRACKETS = ("tab_pair", "folded_u")
EDGE = "Hole to free end"  # of either family: on a mount the height is a fact, and no drawing is made of another one
WATCH = """(of) => {
  window.took = []
  const sheet = () => document.querySelector(of)
  let at = null
  addEventListener('input', () => { at = performance.now() }, true)
  addEventListener('keydown', (event) => { if (event.key === 'Enter') at = performance.now() }, true)
  new MutationObserver((changes) => {
    if (at === null) return
    const drawn = sheet()
    if (!drawn || !changes.some((change) => drawn.contains(change.target))) return
    const began = at
    at = null
    requestAnimationFrame(() => setTimeout(() => window.took.push(performance.now() - began)))
  }).observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true })
}"""


KEY = 80  # ms from key to key, a quick typist's


def entered(page: Page, field: Locator, figure: str, *, pasted: bool) -> None:
    """Put a figure in a field, all at once or key by key, and press Enter."""
    if pasted:
        field.fill(figure)
    else:
        field.focus()
        page.keyboard.press("Control+A")
        page.keyboard.type(figure, delay=KEY)
    page.keyboard.press("Enter")


def measure(page: Page, edits: int = EDITS, *, pasted: bool = False) -> list[float]:
    """Milliseconds of each of so many edits of the end on screen, to and fro by a millimetre or two: typed key by key, or all at once."""
    page.locator("[data-drawing=end]").wait_for()
    fields = page.locator("[data-point] input")
    fields.nth(2).wait_for()
    page.evaluate(WATCH, "[data-drawing=end]")
    count = min(6, fields.count() // 3)
    before = {i: fields.nth(3 * i + 2).input_value() for i in range(count)}
    for i in range(edits):
        field = fields.nth(3 * (i % count) + 2)
        number = float(before[i % count].replace("−", "-").split()[0])
        field.focus()
        page.wait_for_timeout(250)  # a person goes to the field, then types
        # never the same place twice: nothing the page or the server remembers may answer
        figure = f"{number + 1 + (i // count) % 2 + 0.01 * i:.2f}"
        entered(page, field, figure, pasted=pasted)
        page.wait_for_function(f"window.took.length >= {i + 1}", timeout=10_000)
        page.wait_for_timeout(800)  # and looks before the next one: the save has gone by then
    for i, text in before.items():
        fields.nth(3 * i + 2).fill(text)
        page.keyboard.press("Enter")
    page.wait_for_timeout(1500)
    found: list[float] = page.evaluate("window.took")
    return sorted(found[2:edits])  # the first edits find a cold page


def measure_bracket(page: Page, edits: int = EDITS, *, pasted: bool = False) -> list[float]:
    """Milliseconds of each of so many edges given to the bracket on screen, Enter to its drawing painted anew."""
    page.locator("[data-drawing]").first.wait_for()
    page.get_by_role("tab", name="What it is").click()
    field = page.get_by_role("textbox", name=EDGE)
    field.wait_for()
    before = field.input_value()
    unit = "mm" if "mm" in before or before.replace(".", "").isdigit() else "in"
    number = float(sum(Fraction(piece) for piece in before.removesuffix(unit).split()))  # an inch page writes 1 15/16
    page.evaluate(WATCH, "[data-drawing]")
    for i in range(edits):
        step = (0.1 + 0.05 * i) / (1.0 if unit == "mm" else 25.4)
        entered(page, field, f"{number + step:.4f} {unit}", pasted=pasted)
        page.wait_for_function(f"window.took.length >= {i + 1}", timeout=10_000)
        page.wait_for_timeout(800)
    field.fill(before)
    page.keyboard.press("Enter")
    page.wait_for_timeout(1500)
    found: list[float] = page.evaluate("window.took")
    return sorted(found[2:edits])


class Busy:
    """How much of the machine others had meanwhile: what a shared machine's figures are to be read with."""

    def __init__(self) -> None:
        self.before = self._read()

    @staticmethod
    def _read() -> list[int]:
        with open("/proc/stat") as file:
            return [int(one) for one in file.readline().split()[1:9]]

    @property
    def taken(self) -> float:
        """Share of the time since it was made that the processors were another's [%]."""
        spent = [b - a for a, b in zip(self.before, self._read(), strict=True)]
        return 100 * spent[7] / max(1, sum(spent))


def told(what: str, took: list[float], busy: Busy) -> None:
    """A line of the table."""
    middle, late = took[len(took) // 2], took[int(0.95 * (len(took) - 1))]
    taken = f"   (others had {busy.taken:.0f} % of the machine)"
    print(f"{what:44} median {middle:5.0f} ms   95th percentile {late:5.0f} ms{taken}", flush=True)


def main() -> None:
    """Measure every end of every job, and one bracket of each family in it."""
    address, wanted = sys.argv[1].rstrip("/"), sys.argv[2:]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
        jobs = page.request.get(f"{address}/api/jobs").json()["jobs"]
        for job in jobs:
            if wanted and job["name"] not in wanted:
                continue
            ends = page.request.get(f"{address}/api/jobs/{job['id']}").json()["design"]["ends"]
            names = [end["name"] for end in ends]
            if not names:
                print(f"{job['name']:10} no suspension end: nothing to redraw", flush=True)
                continue
            page.goto(f"{address}/jobs/{job['id']}/layout")
            page.locator("[data-drawing=end]").wait_for()
            for name in names:
                if name != names[0]:
                    page.locator(
                        "[aria-label='Which end moves'], [id]:has(+ input[aria-label='Which end moves'])"
                    ).first.click()
                    page.get_by_role("option", name=name).click()
                    page.wait_for_timeout(800)
                for pasted in (False, True):
                    busy = Busy()
                    took = measure(page, pasted=pasted)
                    told(f"{job['name']:10} {name:10} {'pasted' if pasted else 'typed'}", took, busy)
                page.reload()
                page.locator("[data-drawing=end]").wait_for()
            shown = {}
            for part in page.request.get(f"{address}/api/jobs/{job['id']}").json()["design"]["parts"]:
                if part["kind"] in BRACKETS:
                    shown.setdefault(part["kind"], part)
            for part in shown.values():
                page.goto(f"{address}/jobs/{job['id']}/brackets/{part['id']}")
                for pasted in (False, True):
                    busy = Busy()
                    took = measure_bracket(page, pasted=pasted)
                    told(f"{job['name']:10} {part['name']} {'pasted' if pasted else 'typed'}", took, busy)
        browser.close()


if __name__ == "__main__":
    main()
