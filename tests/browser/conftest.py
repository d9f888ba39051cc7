"""The real interface in Chromium, served by the real server on the worker's database."""

from __future__ import annotations

import json
import os
import signal
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, Request, expect, sync_playwright

from tests.conftest import ROOT, fill
from tirante.server.mariadb import Instance, free_port
from tirante.server.supervisor import SERVER, WORKER, await_server, environment_of, start_process, stop_process

ARGUMENTS = [
    "--no-sandbox", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync",
    "--enable-unsafe-swiftshader", "--disable-gpu", "--num-raster-threads=1",
]  # fmt: skip


@pytest.fixture(scope="session")
def front_end() -> Path:
    """The built page, as `./tirante test` made it."""
    found = os.environ.get("TIRANTE_STATIC")
    if not found:
        builds = sorted((ROOT / ".tirante").glob("front-*/index.html"), key=lambda p: p.stat().st_mtime)
        assert builds, "build the front end first: ./tirante test does"
        found = str(builds[-1].parent)
    return Path(found).resolve()


SERVED: dict[str, tuple[int, Path]] = {}  # server by address: its process, and where it tells what its threads are at


@contextmanager
def serving(instance: Instance, schema: str, front_end: Path, folder: Path, module: str = SERVER) -> Iterator[str]:
    """Where a server listens: web server and worker as `./tirante demo` starts them, on a schema that the worker has to itself."""
    credentials = instance.bootstrap(schema)[0]
    fill(credentials).close()
    port, token = free_port(), uuid.uuid4().hex
    environment = environment_of(credentials, port, folder) | {
        "TIRANTE_INSTANCE": token,
        "TIRANTE_STATIC": str(front_end),
        "TIRANTE_WORKER_NICE": "0",  # other tests run beside it: last in the row, it would wait for the end of them all
        "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}",
    }
    server = start_process(environment, module)
    SERVED[f"http://127.0.0.1:{port}"] = server.pid, Path(environment["TIRANTE_LOG"]).with_name("threads.txt")
    worker = start_process(environment, WORKER)
    try:
        await_server(server, port, token)
        yield f"http://127.0.0.1:{port}"
    finally:
        stop_process(worker)
        stop_process(server)


@pytest.fixture(scope="session")
def address(
    instance: Instance, worker_id: str, front_end: Path, tmp_path_factory: pytest.TempPathFactory
) -> Iterator[str]:
    """Where the server listens."""
    with serving(instance, f"page_{worker_id}", front_end, tmp_path_factory.mktemp("server")) as found:
        yield found


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        found = playwright.chromium.launch(executable_path="/usr/bin/chromium", headless=True, args=ARGUMENTS)
        yield found
        found.close()


expect.set_options(timeout=60_000)  # a busy machine takes longer, and is no fault; what holds waits for none of it


class Watch:
    """What a page must not do: raise, log errors, or ask another address."""

    def __init__(self, address: str) -> None:
        self.address = address
        self.faults: list[str] = []
        self.pending: dict[Request, float] = {}

    def on(self, page: Page) -> Page:
        page.on("pageerror", lambda error: self.faults.append(str(error)))
        page.on("console", self._console)
        page.on("request", lambda r: self.pending.__setitem__(r, time.monotonic()))
        for ended in ("requestfinished", "requestfailed"):
            page.on(ended, lambda r: self.pending.pop(r, None))  # type: ignore[call-overload]
        page.on("request", lambda r: r.url.startswith((self.address, "data:", "blob:")) or self.faults.append(r.url))
        page.on(
            "response", lambda r: r.status >= 500 and r.status != 507 and self.faults.append(f"{r.status} {r.url}")
        )  # 507 says it in words
        return page

    def tell(self, page: Page) -> None:
        """What is not answered, what the page says, and what the server is at: of a test that failed."""
        waiting = list(self.pending.items())  # asking the page anything lets some be answered
        for request, since in waiting:
            print(f"not answered for {time.monotonic() - since:.1f} s: {request.method} {request.url}")
        for one in page.get_by_role("dialog").or_(page.get_by_role("alert")).all():
            print(f"told: {one.inner_text(timeout=1000)[:600]}")
        pid, told = SERVED[self.address]
        os.kill(pid, signal.SIGUSR1)
        time.sleep(0.5)
        print(f"load {os.getloadavg()}; the server:\n{told.read_text()[-6000:] if waiting else ''}")

    def _console(self, message: ConsoleMessage) -> None:
        # a refused request is reported by the browser itself; what the page makes of it is what is tested
        if message.type in ("error", "warning") and "Failed to load resource" not in message.text:
            if "GPU stall due to ReadPixels" in message.text:  # WebGL without a graphics card, as here
                return
            self.faults.append(message.text)


@pytest.fixture
def context(browser: Browser) -> Iterator[BrowserContext]:
    found = browser.new_context(
        viewport={"width": 1280, "height": 800}, accept_downloads=True, color_scheme="light", reduced_motion="reduce"
    )
    found.set_default_timeout(60_000)
    yield found
    found.close()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Iterator[None]:
    report = yield
    setattr(item, f"failed_{report.when}", report.failed)  # type: ignore[attr-defined]
    return report  # type: ignore[return-value]


@pytest.fixture
def page(context: BrowserContext, address: str, request: pytest.FixtureRequest) -> Iterator[Page]:
    watch = Watch(address)
    found = watch.on(context.new_page())
    yield found
    if getattr(request.node, "failed_call", False):
        watch.tell(found)
    assert watch.faults == []


def copy_of(page: Page, address: str, name: str) -> str:
    """The address of a fresh copy of a demo job."""
    request = page.request
    demo = next(j for j in request.get(f"{address}/api/jobs").json()["jobs"] if j["demo"] and j["name"] == name)
    design = request.get(f"{address}/api/jobs/{demo['id']}").json()["design"]
    made = request.post(f"{address}/api/import", data={"id": str(uuid.uuid4()), "design": design}).json()
    return f"{address}/jobs/{made['job_id']}"


@pytest.fixture
def job(page: Page, address: str) -> str:
    """The address of a fresh copy of the first demo job."""
    return copy_of(page, address, "Marram")


@pytest.fixture
def flat_job(page: Page, address: str) -> str:
    """The first demo job with its brackets on flats and tubes that are typed, no mount entered."""
    design = json.loads((ROOT / "tests/marram-on-flats.json").read_text())
    made = page.request.post(f"{address}/api/import", data={"id": str(uuid.uuid4()), "design": design}).json()
    return f"{address}/jobs/{made['job_id']}"
