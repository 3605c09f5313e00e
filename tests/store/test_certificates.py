"""A Lark's own certificate authority: made once, renewed in time, good for this Lark's addresses and nothing else."""

from __future__ import annotations

import ipaddress
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import serialization
from cryptography.x509.verification import PolicyBuilder, Store, VerificationError

from zealous_lark.store.certificates import SERVER_DAYS, Certificates, certificates

NOW = datetime(2026, 11, 27, 12, 0, tzinfo=UTC)
NAMES = ("192.168.7.5", "studio.local")


def verify(made: Certificates, name: str, at: datetime) -> None:
    """As a phone does that trusts the authority: an independent reading of chain, names, times and constraints."""
    authority = x509.load_pem_x509_certificate(made.authority.read_bytes())
    leaf, *rest = x509.load_pem_x509_certificates(made.chain.read_bytes())
    subject: x509.IPAddress | x509.DNSName
    try:
        subject = x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        subject = x509.DNSName(name)
    PolicyBuilder().store(Store([authority])).time(at).build_server_verifier(subject).verify(leaf, rest)


@pytest.mark.parametrize("name", NAMES)
def test_a_phone_that_trusts_the_authority_trusts_this_lark(tmp_path: Path, name: str) -> None:
    made = certificates(tmp_path, NAMES, NOW)
    verify(made, name, NOW)
    with pytest.raises(VerificationError):
        verify(made, "192.168.7.6", NOW)
    with pytest.raises(VerificationError):
        verify(made, name, NOW + timedelta(days=SERVER_DAYS + 1))
    other = certificates(tmp_path / "other", NAMES, NOW)
    with pytest.raises(VerificationError):
        verify(Certificates(other.authority, made.chain, made.key, ""), name, NOW)


def test_it_is_made_once_and_renewed_where_that_is_needed(tmp_path: Path) -> None:
    first = certificates(tmp_path, NAMES, NOW)
    authority, chain = first.authority.read_bytes(), first.chain.read_bytes()
    assert certificates(tmp_path, NAMES[:1], NOW + timedelta(days=100)) == first
    assert first.chain.read_bytes() == chain
    # Another network, and nearly a year later: the same authority signs again.
    moved = certificates(tmp_path, ("10.1.2.3",), NOW)
    assert moved.chain.read_bytes() != chain
    verify(moved, "10.1.2.3", NOW)
    late = NOW + timedelta(days=SERVER_DAYS - 10)
    verify(certificates(tmp_path, ("10.1.2.3",), late), "10.1.2.3", late + timedelta(days=100))
    assert first.authority.read_bytes() == authority
    assert first.fingerprint == moved.fingerprint


def test_keys_are_for_the_owner_and_the_authority_for_private_networks(tmp_path: Path) -> None:
    """What is signed with a stolen key for a name of the open network is believed by no phone."""
    made = certificates(tmp_path, ("192.168.7.5",), NOW)
    for key in ("authority.key", "server.key"):
        assert (tmp_path / key).stat().st_mode & 0o077 == 0
        serialization.load_pem_private_key((tmp_path / key).read_bytes(), None)
    stolen = certificates(tmp_path, ("bank.example",), NOW)
    with pytest.raises(VerificationError):
        verify(stolen, "bank.example", NOW)
    public = certificates(tmp_path, ("8.8.8.8",), NOW)
    with pytest.raises(VerificationError):
        verify(public, "8.8.8.8", NOW)
    assert made.fingerprint.count(":") == 31
