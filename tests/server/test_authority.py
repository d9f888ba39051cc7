"""The shop's own authority, looked at by a general library: what it may vouch for, what is kept private, when it is made anew."""

from __future__ import annotations

import stat
import subprocess
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID

from tirante.server.authority import certificates
from tirante.server.lan import NotServed, address_of, host_of, must_be_free

NOW = datetime.now(UTC)
OWN = "192.168.1.20"


def verified(folder: Path, leaf: Path, *how: str) -> str:
    """What OpenSSL says of a certificate under the authority of a folder."""
    done = subprocess.run(["openssl", "verify", "-x509_strict", "-purpose", "sslserver", *how, "-CAfile", str(folder / "authority.pem"), str(leaf)], capture_output=True, text=True)  # fmt: skip
    return f"{done.stdout}{done.stderr}"


def vouched(folder: Path, *names: x509.GeneralName) -> Path:
    """A certificate that whoever has stolen the authority's key would make."""
    authority = x509.load_pem_x509_certificate((folder / "authority.pem").read_bytes())
    its_key = serialization.load_pem_private_key((folder / "authority-key.pem").read_bytes(), None)
    assert isinstance(its_key, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    made = (
        x509.CertificateBuilder()
        .subject_name(x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Somebody else entirely")]))
        .issuer_name(authority.subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(NOW - timedelta(hours=1))
        .not_valid_after(NOW + timedelta(days=9))
        .add_extension(x509.SubjectAlternativeName(names), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_subject_key_identifier(authority.extensions.get_extension_for_class(x509.SubjectKeyIdentifier).value), critical=False)
        .sign(its_key, hashes.SHA256())
    )  # fmt: skip
    file = folder / "stolen.pem"
    file.write_bytes(made.public_bytes(serialization.Encoding.PEM))
    return file


def test_it_vouches_for_one_address_and_for_nothing_else(tmp_path: Path) -> None:
    # RFC 5280, 4.2.1.10 and 6.1, as OpenSSL carries them out
    certificates(tmp_path, ip_address(OWN), NOW)
    folder = tmp_path / OWN
    assert verified(folder, folder / "server.pem", "-verify_ip", OWN).endswith("OK\n")
    assert "mismatch" in verified(folder, folder / "server.pem", "-verify_ip", "192.168.1.21")
    assert verified(folder, vouched(folder, x509.IPAddress(ip_address(OWN)))).endswith("OK\n")
    for other in (
        x509.IPAddress(ip_address("192.168.1.21")), x509.IPAddress(ip_address("0.0.0.0")), x509.IPAddress(ip_address("fd00::1")), x509.DNSName("localhost"),
        x509.DNSName("bank.example"), x509.DNSName("*.example"),
    ):  # fmt: skip
        said = verified(folder, vouched(folder, other))
        assert "subtree violation" in said, other
        both = verified(folder, vouched(folder, x509.IPAddress(ip_address(OWN)), other))
        assert "subtree violation" in both, other
    # one of IPv6 excludes all of IPv4
    certificates(tmp_path, ip_address("fd00::20"), NOW)
    six = tmp_path / "fd00--20"
    assert verified(six, six / "server.pem", "-verify_ip", "fd00::20").endswith("OK\n")
    assert "subtree violation" in verified(six, vouched(six, x509.IPAddress(ip_address(OWN))))
    # and it makes no authority below itself
    authority = x509.load_pem_x509_certificate((folder / "authority.pem").read_bytes())
    assert authority.extensions.get_extension_for_class(x509.BasicConstraints).value.path_length == 0
    for which in (x509.BasicConstraints, x509.NameConstraints, x509.KeyUsage):
        assert authority.extensions.get_extension_for_class(which).critical


def test_its_keys_are_nobody_else_s_to_read(tmp_path: Path) -> None:
    certificates(tmp_path / "authority", ip_address(OWN), NOW)
    for one in [tmp_path / "authority", *(tmp_path / "authority").rglob("*")]:
        assert stat.S_IMODE(one.stat().st_mode) == (0o700 if one.is_dir() else 0o600), one


def test_the_server_s_is_renewed_in_time_and_the_authority_stays(tmp_path: Path) -> None:
    folder = tmp_path / OWN

    def made(days: float) -> tuple[bool, bytes, bytes]:
        renewed = certificates(tmp_path, ip_address(OWN), NOW + timedelta(days=days)).renewed
        return renewed, (folder / "authority.pem").read_bytes(), (folder / "server.pem").read_bytes()

    first, authority, server = made(0)
    assert first
    assert made(59.9) == (False, authority, server)
    renewed, same, other = made(60.1)
    assert (renewed, same) == (True, authority)
    assert other != server
    # of an authority that would end before a server's certificate does, another is made: its fingerprint is another
    assert made(5 * 365 - 91)[1] == authority
    assert made(5 * 365 - 89)[1] != authority


@pytest.mark.parametrize("name", ["authority.pem", "authority-key.pem", "server.pem", "server-key.pem"])
@pytest.mark.parametrize("left", [b"", None, "another"])
def test_what_is_lost_or_broken_is_made_anew_and_holds_together(tmp_path: Path, name: str, left: object) -> None:
    certificates(tmp_path, ip_address(OWN), NOW)
    file = tmp_path / OWN / name
    if left is None:
        file.unlink()
    else:
        certificates(tmp_path / "other", ip_address(OWN), NOW)
        file.write_bytes(left if isinstance(left, bytes) else (tmp_path / "other" / OWN / name).read_bytes())
    assert certificates(tmp_path, ip_address(OWN), NOW).renewed
    folder = tmp_path / OWN
    assert verified(folder, folder / "server.pem", "-verify_ip", OWN).endswith("OK\n")
    key = serialization.load_pem_private_key((folder / "server-key.pem").read_bytes(), None)
    assert key.public_key() == x509.load_pem_x509_certificate((folder / "server.pem").read_bytes()).public_key()
    assert not certificates(tmp_path, ip_address(OWN), NOW).renewed


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("shop", "is no address"), ("", "is no address"), ("192.168.1.20:80", "is no address"), ("192.168.1.0/24", "is no address"), ("0.0.0.0", "stands for many"),
        ("::", "stands for many"), ("224.0.0.1", "stands for many"), ("127.0.0.1", "this machine for itself"), ("::1", "this machine for itself"),
        ("8.8.8.8", "of the whole world"), ("2600::1", "of the whole world"), ("fe80::1", "one cable"),
    ],
)  # fmt: skip
def test_an_address_that_is_not_the_shop_s_is_refused_with_the_cure(text: str, why: str) -> None:
    with pytest.raises(NotServed, match=why):
        address_of(text)


def test_an_address_is_served_that_this_machine_has() -> None:
    assert [str(address_of(one)) for one in (" 192.168.1.20 ", "10.0.0.7", "fd00::20", "127.0.0.9")] == ["192.168.1.20", "10.0.0.7", "fd00::20", "127.0.0.9"]  # fmt: skip
    assert [host_of(address_of("10.0.0.7"), 8743), host_of(address_of("fd00::20"), 8743), host_of(address_of("10.0.0.7"), 443)] == ["10.0.0.7:8743", "[fd00::20]:8743", "10.0.0.7"]  # fmt: skip
    with pytest.raises(NotServed, match="has no address"):
        must_be_free(ip_address("203.0.113.7"), 8743)
