"""The shop's network: which address may be served, and TLS before the web server, by Debian's stunnel."""

from __future__ import annotations

import errno
import socket
import subprocess
import time
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path

from tirante.server.authority import Address, Certificates, certificates
from tirante.server.mariadb import StartFailed, die_with_parent

PORT = 8743
LOOK_EVERY = timedelta(hours=6)  # whether the certificate still lasts


class NotServed(Exception):  # noqa: N818
    """An address that is not served; says why and what to give."""


def address_of(text: str) -> Address:
    """An address of the shop's network, as it is typed.

    Args:
        text: IPv4 or IPv6, as `192.168.1.20`.

    Raises:
        NotServed: it is none, or one of the whole world.
    """
    try:
        found = ip_address(text.strip())
    except ValueError:
        raise NotServed(f"“{text[:60]}” is no address. Give this machine’s own in the shop’s network, as 192.168.1.20 (`ip address` lists them).") from None  # fmt: skip
    if found.is_unspecified or found.is_multicast:
        raise NotServed(f"{found} stands for many addresses. Give the one that this machine has in the shop’s network.")
    if str(found) in ("127.0.0.1", "::1"):
        raise NotServed(f"{found} is this machine for itself, and is served without --lan. Give its address in the shop’s network.")  # fmt: skip
    if not found.is_private:
        raise NotServed(f"{found} is an address of the whole world, which this is not made for. Give one of the shop’s network: 192.168.…, 10.…, 172.16.… to 172.31.…, or fd….")  # fmt: skip
    if found.version == 6 and found.is_link_local:
        raise NotServed(
            f"{found} is valid on one cable alone. Give an address of the shop’s network, as 192.168.1.20 or fd…."
        )
    return found


def host_of(address: Address, port: int) -> str:
    """Host and port as a browser writes them.

    Args:
        address: served.
        port: served.
    """
    host = f"[{address}]" if address.version == 6 else str(address)
    return host if port == 443 else f"{host}:{port}"


def must_be_free(address: Address, port: int) -> None:
    """That this machine has the address and nothing listens there.

    Args:
        address: to be served.
        port: to be served.

    Raises:
        NotServed: it has not, or something does.
    """
    with socket.socket(socket.AF_INET6 if address.version == 6 else socket.AF_INET) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((str(address), port))
        except PermissionError:
            raise NotServed(
                f"Port {port} is not for an ordinary user. Give --lan-port a number of 1024 or more."
            ) from None
        except OSError as error:
            if error.errno == errno.EADDRINUSE:
                raise NotServed(f"Port {port} at {address} is taken by another program. Give --lan-port another number.") from None  # fmt: skip
            raise NotServed(f"This machine has no address {address}. `ip address` lists those it has.") from None


class Tls:
    """TLS on an address of the shop's network: what comes is passed on to a socket that nobody else on this machine may open."""

    def __init__(self, folder: Path, address: Address, port: int, to: str) -> None:
        """Prepare certificates; nothing is served yet.

        Args:
            folder: of the installation.
            address: to be served.
            port: to be served.
            to: path of the web server's socket.
        """
        self.folder, self.address, self.port, self.to = folder, address, port, to
        self.process: subprocess.Popen[bytes] | None = None
        self.made = self._certificates()

    def _certificates(self) -> Certificates:
        self._looked = datetime.now(UTC)
        return certificates(self.folder / "authority", self.address, self._looked)

    @property
    def host(self) -> str:
        """As a browser writes it."""
        return host_of(self.address, self.port)

    def _configuration(self) -> str:
        own = f"[{self.address}]" if self.address.version == 6 else str(self.address)
        return "\n".join((
            "foreground = yes", "pid =", "syslog = no", f"output = {self.folder / 'lan.log'}", "debug = warning",
            "[shop]", f"accept = {own}:{self.port}", f"connect = {self.to}",
            f"cert = {self.made.chain}", f"key = {self.made.key}",
            "sslVersionMin = TLSv1.2", "renegotiation = no", "TIMEOUTbusy = 20", "TIMEOUTidle = 120", "TIMEOUTclose = 1", "TIMEOUTconnect = 5",
        )) + "\n"  # fmt: skip

    def start(self) -> None:
        """Serve.

        Raises:
            StartFailed: it does not; says where its log is.
        """
        file = self.folder / "lan.conf"
        file.write_text(self._configuration())
        file.chmod(0o600)
        self.process = subprocess.Popen(
            ["stunnel", str(file)],
            stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
            preexec_fn=die_with_parent, start_new_session=True,
        )  # fmt: skip
        end = time.monotonic() + 10
        while time.monotonic() < end and self.process.poll() is None:
            try:
                with socket.create_connection((str(self.address), self.port), timeout=1):
                    return
            except OSError:
                time.sleep(0.05)
        raise StartFailed(f"Nothing answers at {self.host}; see {self.folder / 'lan.log'}.")

    def alive(self) -> bool:
        """Whether it runs."""
        return self.process is not None and self.process.poll() is None

    def renewed(self) -> bool:
        """Whether the certificate was made anew, so that it has to be started again; looked after every few hours."""
        if datetime.now(UTC) - self._looked < LOOK_EVERY:
            return False
        try:
            self.made = self._certificates()
        except OSError:  # a full disk may pass: what is served goes on, and it is looked after again
            return False
        return self.made.renewed
