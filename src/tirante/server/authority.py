"""The shop's own certificate authority: made here, for one address alone, its key never leaving this folder.

RFC 5280 for certificates and name constraints; that an authority which may vouch for one address excludes every name
and all of the other IP version is the CA/Browser Forum's Baseline Requirements, 7.1.5 (from memory). Elliptic curve
P-256 throughout, which every phone of the last ten years reads.
"""

from __future__ import annotations

import os
from dataclasses import dataclass
from datetime import datetime, timedelta
from ipaddress import IPv4Address, IPv6Address, ip_network
from pathlib import Path

from cryptography import x509
from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

Address = IPv4Address | IPv6Address
AUTHORITY_LASTS = timedelta(days=5 * 365)
SERVER_LASTS = timedelta(days=90)
RENEWED_AT = timedelta(days=30)  # left of it
BEFORE = timedelta(hours=1)  # a phone's clock may be behind


@dataclass(frozen=True, slots=True, kw_only=True)
class Certificates:
    """Where what an address is served with lies."""

    authority: Path  # PEM, to be trusted by phones; no secret
    chain: Path  # PEM, the server's
    key: Path  # PEM, the server's: a secret
    renewed: bool  # whether the server's was made just now


def _key() -> ec.EllipticCurvePrivateKey:
    return ec.generate_private_key(ec.SECP256R1())


def _write(path: Path, content: bytes) -> None:
    """Whole or not at all, and for nobody else to read."""
    part = path.with_suffix(f"{path.suffix}.part")
    part.unlink(missing_ok=True)
    handle = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "wb") as stream:
        stream.write(content)
        stream.flush()
        os.fsync(stream.fileno())
    part.replace(path)


def _secret(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _name(text: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, text)])


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs, key_cert_sign=signs, crl_sign=signs, content_commitment=False, key_encipherment=False,
        data_encipherment=False, key_agreement=False, encipher_only=False, decipher_only=False,
    )  # fmt: skip


def constraints(address: Address) -> x509.NameConstraints:
    """That an authority may vouch for one address, and for nothing else of any sort.

    Args:
        address: the one.
    """
    other = ip_network("::/0" if address.version == 4 else "0.0.0.0/0")
    return x509.NameConstraints(
        permitted_subtrees=[x509.IPAddress(ip_network(address))],
        excluded_subtrees=[x509.IPAddress(other), x509.DNSName("")],
    )


def _make_authority(address: Address, now: datetime) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    key, name = _key(), _name(f"Tirante, this shop alone, {address}")
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - BEFORE)
        .not_valid_after(now + AUTHORITY_LASTS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(constraints(address), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    return made, key


def _make_server(
    address: Address, authority: x509.Certificate, its_key: ec.EllipticCurvePrivateKey, now: datetime
) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    key = _key()
    made = (
        x509.CertificateBuilder()
        .subject_name(_name("Tirante in this shop"))  # no name that could be a host's: the authority may vouch for none
        .issuer_name(authority.subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - BEFORE)
        .not_valid_after(min(now + SERVER_LASTS, authority.not_valid_after_utc))
        .add_extension(x509.SubjectAlternativeName([x509.IPAddress(address)]), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_subject_key_identifier(
                authority.extensions.get_extension_for_class(x509.SubjectKeyIdentifier).value
            ),
            critical=False,
        )
        .sign(its_key, hashes.SHA256())
    )
    return made, key


def _pem(one: x509.Certificate) -> bytes:
    return one.public_bytes(serialization.Encoding.PEM)


def _whole(folder: Path, now: datetime) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey] | None:
    """The authority of a folder while it lasts; None where there is none, it is not whole, or it ends within a server certificate's time."""
    try:
        made = x509.load_pem_x509_certificate((folder / "authority.pem").read_bytes())
        key = serialization.load_pem_private_key((folder / "authority-key.pem").read_bytes(), None)
    except (OSError, ValueError):
        return None
    if not isinstance(key, ec.EllipticCurvePrivateKey) or key.public_key() != made.public_key():
        return None
    return (made, key) if made.not_valid_after_utc - now > SERVER_LASTS else None


def _lasts(folder: Path, authority: x509.Certificate, now: datetime) -> bool:
    """Whether the server's certificate is this authority's and lasts."""
    try:
        chain = (folder / "server.pem").read_bytes()
        made = x509.load_pem_x509_certificate(chain)
        key = serialization.load_pem_private_key((folder / "server-key.pem").read_bytes(), None)
        made.verify_directly_issued_by(authority)
    except (OSError, ValueError, TypeError, InvalidSignature):
        return False
    return key.public_key() == made.public_key() and made.not_valid_after_utc - now > RENEWED_AT


def certificates(folder: Path, address: Address, now: datetime) -> Certificates:
    """What an address is served with: made where there is none yet, made anew in time before it ends.

    A new authority has another fingerprint, and every phone has to come to trust it anew: that happens after nearly five years, for
    another address, or where its files were lost.

    Args:
        folder: of all authorities, each address in its own below it.
        address: that it vouches for, and no other.
        now: with its zone.
    """
    own = folder / str(address).replace(":", "-")
    for one in (folder, own):
        one.mkdir(parents=True, exist_ok=True, mode=0o700)
        one.chmod(0o700)
    found = _whole(own, now)
    if found is None:
        found = _make_authority(address, now)
        _write(own / "authority-key.pem", _secret(found[1]))
        _write(own / "authority.pem", _pem(found[0]))
    authority, its_key = found
    renewed = not _lasts(own, authority, now)
    if renewed:
        made, key = _make_server(address, authority, its_key, now)
        _write(own / "server-key.pem", _secret(key))
        _write(own / "server.pem", _pem(made))
    return Certificates(authority=own / "authority.pem", chain=own / "server.pem", key=own / "server-key.pem", renewed=renewed)  # fmt: skip
