"""The shop's network as it is served: TLS by the shop's own authority, a phone that comes to trust it and is let in, and the server away."""

from __future__ import annotations

import json
import os
import re
import signal
import ssl
import stat
import subprocess
import urllib.error
import urllib.request
import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import ARGUMENTS
from tests.browser.test_access import day_and_night
from tests.browser.test_people import OWNER, enter
from tests.server.test_command import Run, alive, home, wait_for
from tirante.server.mariadb import free_port

ADDRESS, NAME = "127.0.0.9", "Owner of the shop"


class Shop(Run):
    """One that serves a network, whose address only this machine reaches."""

    lan_port = 0

    def serve(self) -> None:
        self.process = subprocess.Popen(self.command("serve", "--port", str(free_port()), "--lan", ADDRESS, "--lan-port", str(self.lan_port)), env=self.environment, stdout=subprocess.PIPE, text=True)  # fmt: skip
        wait_for(lambda: (self.home / "run.json").exists() or self.process.poll() is not None, 60)
        assert self.process.poll() is None

    @property
    def url(self) -> str:
        return f"https://{ADDRESS}:{self.lan_port}/"

    @property
    def authority(self) -> Path:
        return self.home / "authority" / ADDRESS / "authority.pem"


@pytest.fixture(scope="session")  # of a module it would be started anew wherever other tests come between
def shop(front_end: Path) -> Iterator[Shop]:
    with home() as found:
        run = Shop(found.home)
        run.lan_port = free_port()
        run.environment["TIRANTE_STATIC"] = str(front_end)
        run.start()
        run.post("/api/people/first", {"id": str(uuid.uuid4()), "name": NAME, "password": OWNER})
        run.stop()
        run.serve()
        yield run
        run.stop()


def asked(shop: Shop, context: ssl.SSLContext) -> dict[str, object]:
    with urllib.request.urlopen(f"{shop.url}api/me", context=context, timeout=10) as answer:
        found: dict[str, object] = json.loads(answer.read())
        return found


def test_what_it_serves_is_trusted_by_its_authority_alone_and_by_no_old_protocol(shop: Shop) -> None:
    own = ssl.create_default_context(cafile=str(shop.authority))
    assert shop.state["lan"] == shop.url
    assert asked(shop, own)["lan"] is True
    with pytest.raises(urllib.error.URLError, match="CERTIFICATE_VERIFY_FAILED"):
        asked(shop, ssl.create_default_context())
    old = ssl.create_default_context(cafile=str(shop.authority))
    old.set_ciphers("DEFAULT@SECLEVEL=0")
    with pytest.warns(DeprecationWarning, match="TLSv1_1"):
        old.minimum_version = old.maximum_version = ssl.TLSVersion.TLSv1_1
    with pytest.raises((urllib.error.URLError, ssl.SSLError)):
        asked(shop, old)
    # what lies between TLS and the web server is nobody else's to open
    between = Path(shop.state["socket"]).with_name("lan")
    assert stat.S_IMODE(between.stat().st_mode) & 0o077 == 0
    assert stat.S_IMODE(between.parent.stat().st_mode) == 0o700
    # and codes on sheets open this address
    environment = Path(f"/proc/{shop.state['server_pid']}/environ").read_bytes().split(b"\0")
    assert f"TIRANTE_SHOP_ADDRESS={shop.url.rstrip('/')}".encode() in environment
    # TLS that ends is brought back, and ends with the rest
    first = shop.state["lan_pid"]
    os.kill(first, signal.SIGKILL)
    wait_for(lambda: shop.state["lan_pid"] != first)
    assert asked(shop, own)["lan"] is True
    before = shop.authority.read_bytes()
    children = [shop.state["lan_pid"], shop.state["server_pid"]]
    assert shop.stop() == 0
    assert not any(alive(pid) for pid in children)
    shop.serve()
    assert shop.authority.read_bytes() == before  # phones go on trusting it
    assert asked(shop, own)["lan"] is True


@pytest.fixture
def trusting(shop: Shop, browser: Browser, tmp_path: Path) -> Iterator[Browser]:
    """A browser that was told to trust the shop's authority, as a phone is: with its own list of certificates."""
    listed = tmp_path / ".pki" / "nssdb"
    listed.mkdir(parents=True)
    for command in (["-N", "--empty-password"], ["-A", "-t", "C,,", "-n", "shop", "-i", str(shop.authority)]):
        subprocess.run(["certutil", "-d", f"sql:{listed}", *command], check=True, capture_output=True)
    found = browser.browser_type.launch(executable_path="/usr/bin/chromium", headless=True, args=ARGUMENTS, env={**os.environ, "HOME": str(tmp_path)})  # type: ignore[dict-item] # fmt: skip
    yield found
    found.close()


def code_for(page: Page, name: str) -> str:
    page.get_by_label("What the phone is called").fill(name)
    page.get_by_label("Your own password, again").fill(OWNER)
    page.get_by_role("button", name="Make a code for it").click()
    code = page.locator("code").filter(has_text=re.compile(r"^[A-Z2-9]{4} [A-Z2-9]{4}$"))
    expect(code).to_be_visible()
    return code.inner_text()


def test_a_phone_that_trusts_it_is_let_in_shows_its_cards_while_the_server_is_away_and_is_shut_out(
    shop: Shop, trusting: Browser
) -> None:
    machine = trusting.new_page(viewport={"width": 1280, "height": 800})
    machine.goto(f"{shop.state['address']}people")
    enter(machine, NAME, OWNER)
    machine.get_by_role("button", name="The shop’s network").click()
    told = subprocess.run(["openssl", "x509", "-noout", "-fingerprint", "-sha256", "-in", str(shop.authority)], capture_output=True, text=True, check=True)  # fmt: skip
    shown = machine.get_by_label("Fingerprint").inner_text().split()
    assert ":".join(shown) == told.stdout.strip().partition("=")[2]
    code = code_for(machine, "Saw")
    job = next(one["id"] for one in machine.request.get(f"{shop.state['address']}api/jobs").json()["jobs"] if one["name"] == "Tern")  # fmt: skip
    phones = trusting.new_context(viewport={"width": 390, "height": 844}, has_touch=True)
    phone = phones.new_page()
    phone.goto(f"{shop.url}bench/{job}")
    expect(phone.get_by_text("This browser trusts the certificate that this page came with.")).to_be_visible()
    assert day_and_night(phone) == []
    assert day_and_night(machine) == []
    let_in = phone.get_by_role("button", name="Let this phone in")
    phone.get_by_label("Code from the machine’s screen").fill(code.lower())
    expect(let_in).to_be_disabled()
    phone.get_by_role("checkbox", name="The fingerprint that this phone shows").check()
    let_in.click()
    enter(phone, NAME, OWNER)
    expect(machine.get_by_role("status").filter(has_text="Saw is let in.")).to_be_visible()
    card = phone.get_by_role("article", name="Toe link", exact=True)
    expect(card).to_be_attached()
    expect(phone.get_by_text("does not trust")).to_have_count(0)
    figures = card.inner_text()
    expect(phone.get_by_role("button", name="Step by step").first).to_be_enabled()  # its steps were fetched too
    phone.reload()  # from here on what is opened is kept
    expect(phone.get_by_role("button", name="Step by step").first).to_be_enabled()
    # the server goes, and the phone is opened anew: its cards stand, and say of when they are
    assert shop.stop() == 0
    phone.goto(f"{shop.url}bench/{job}")
    expect(phone.get_by_text(re.compile(r"The server is away\. These cards are as they were on "))).to_be_visible()
    assert phone.get_by_role("article", name="Toe link", exact=True).inner_text() == figures
    card.scroll_into_view_if_needed()
    card.get_by_role("button", name="Step by step").click()
    phone.get_by_role("dialog").get_by_role("button", name="Next").click()
    expect(phone.get_by_role("dialog").get_by_text("step 2 of")).to_be_visible()
    phone.get_by_role("dialog").get_by_role("button", name="Card").click()
    shop.serve()
    phone.reload()
    expect(phone.get_by_text("The server is away.")).to_have_count(0)
    # let in no more, it shows nothing of the job
    machine.goto(f"{shop.state['address']}people")
    if machine.get_by_role("dialog", name="Sign in").count():
        enter(machine, NAME, OWNER)
    machine.get_by_role("button", name="The shop’s network").click()
    machine.get_by_role("button", name="Let Saw in no more").click()
    expect(machine.get_by_role("list", name="Phones")).to_contain_text("ended")
    phone.reload()
    expect(phone.get_by_role("heading", name="Let this phone in")).to_be_visible()
    assert phone.evaluate("caches.has('tirante-cards')") is False


def test_a_phone_that_does_not_trust_it_says_that_nothing_is_kept(shop: Shop, browser: Browser) -> None:
    machine = browser.new_page(viewport={"width": 1280, "height": 800})
    machine.goto(f"{shop.state['address']}people")
    enter(machine, NAME, OWNER)
    machine.get_by_role("button", name="The shop’s network").click()
    phone = browser.new_context(viewport={"width": 390, "height": 844}, ignore_https_errors=True).new_page()
    phone.goto(shop.url)
    expect(phone.get_by_role("status")).to_contain_text("This browser does not trust it yet")
    phone.get_by_label("Code from the machine’s screen").fill(code_for(machine, "Drill"))
    phone.get_by_role("checkbox", name="Let it in without trust").check()
    phone.get_by_role("button", name="Let this phone in").click()
    enter(phone, NAME, OWNER)
    job = next(one["id"] for one in machine.request.get(f"{shop.state['address']}api/jobs").json()["jobs"] if one["name"] == "Tern")  # fmt: skip
    phone.goto(f"{shop.url}bench/{job}")
    expect(phone.get_by_text("This phone does not trust the shop’s certificate: nothing is kept on it")).to_be_visible()
    phone.context.close()
    machine.close()
