"""The certificate authority of one Lark, made once in its data folder, and the certificates that it signs for it.

A phone that trusts the authority trusts this Lark by whatever address it has on the local network, and nothing else:
the authority's own constraints allow addresses of private networks and names that end in .local alone.
"""

from __future__ import annotations

import ipaddress
import os
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY_YEARS = 10
SERVER_DAYS = 390
"""Browsers take 398 days at most of a certificate (from memory)."""
RENEW_DAYS = 30
_PRIVATE = ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "100.64.0.0/10")
"""Private, link-local, loopback and shared addresses: RFC 1918, 3927, 1122 and 6598, from memory."""


@dataclass(frozen=True, slots=True)
class Certificates:
    """Files of the authority's certificate, of the server's (with the authority's after it) and of its key."""

    authority: Path
    chain: Path
    key: Path
    fingerprint: str


def certificates(folder: Path, names: tuple[str, ...], now: datetime) -> Certificates:
    """The certificates of a data folder for addresses and names, made or renewed where that is needed."""
    folder.mkdir(parents=True, exist_ok=True)
    authority, key = _authority(folder, now)
    chain, own = folder / "server.crt", folder / "server.key"
    if not _good(chain, own, names, authority, now):
        _sign(authority, key, names, now, chain, own)
    digest = authority.fingerprint(hashes.SHA256()).hex(":").upper()
    return Certificates(folder / "authority.crt", chain, own, digest)


def _authority(folder: Path, now: datetime) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    kept, kept_key = folder / "authority.crt", folder / "authority.key"
    if kept.is_file() and kept_key.is_file():
        key = serialization.load_pem_private_key(kept_key.read_bytes(), None)
        found = x509.load_pem_x509_certificate(kept.read_bytes())
        if isinstance(key, ec.EllipticCurvePrivateKey) and found.not_valid_after_utc > now:
            return found, key
    made_key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Zealous Lark of {now:%Y-%m-%d}")])
    allowed = [x509.IPAddress(ipaddress.ip_network(n)) for n in _PRIVATE] + [x509.DNSName("local")]
    made = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(made_key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=365 * AUTHORITY_YEARS))
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(x509.NameConstraints(allowed, None), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(made_key.public_key()), critical=False)
        .sign(made_key, hashes.SHA256())
    )
    _write(kept_key, _pem(made_key), 0o600)
    _write(kept, made.public_bytes(serialization.Encoding.PEM), 0o644)
    return made, made_key


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs, key_cert_sign=signs, crl_sign=signs, content_commitment=False,
        key_encipherment=False, data_encipherment=False, key_agreement=False, encipher_only=False, decipher_only=False,
    )  # fmt: skip


def _general(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _good(chain: Path, own: Path, names: tuple[str, ...], authority: x509.Certificate, now: datetime) -> bool:
    if not (chain.is_file() and own.is_file()):
        return False
    found = x509.load_pem_x509_certificate(chain.read_bytes())
    said = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return (
        found.issuer == authority.subject
        and found.not_valid_after_utc > now + timedelta(days=RENEW_DAYS)
        and set(map(_general, names)) <= set(said)
    )


def _sign(
    authority: x509.Certificate,
    key: ec.EllipticCurvePrivateKey,
    names: tuple[str, ...],
    now: datetime,
    chain: Path,
    own: Path,
) -> None:
    made_key = ec.generate_private_key(ec.SECP256R1())
    made = (
        x509.CertificateBuilder()
        .subject_name(x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Zealous Lark")]))
        .issuer_name(authority.subject)
        .public_key(made_key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=SERVER_DAYS))
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.SubjectAlternativeName([_general(n) for n in names]), critical=False)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _write(own, _pem(made_key), 0o600)
    both = made.public_bytes(serialization.Encoding.PEM) + authority.public_bytes(serialization.Encoding.PEM)
    _write(chain, both, 0o644)


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _write(path: Path, data: bytes, mode: int) -> None:
    half = path.with_suffix(".part")
    with open(os.open(half, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, mode), "wb") as file:
        file.write(data)
    half.replace(path)
