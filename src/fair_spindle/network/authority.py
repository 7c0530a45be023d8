"""The workshop's own certificate authority, and the certificate of this machine for its names and addresses.

X.509 v3 after RFC 5280: one authority, made once, that signs nothing but this machine's certificate.
"""

from __future__ import annotations

import os
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path
from typing import TYPE_CHECKING

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.network.addresses import Addresses

if TYPE_CHECKING:
    from cryptography import x509
    from cryptography.hazmat.primitives.asymmetric.ec import EllipticCurvePrivateKey

AUTHORITY_DAYS, SERVER_DAYS, RENEW_DAYS = 3650, 390, 30


@value_object
class Credentials:
    """Files of the authority's certificate, the server's certificate, and its key."""

    authority: Path
    certificate: Path
    key: Path


def credentials_of(folder: Path, addresses: Addresses) -> Credentials:
    """The certificates in a folder; made where they are not there, cover other addresses, or soon run out."""
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    found = Credentials(folder / "authority.crt", folder / "server.crt", folder / "server.key")
    authority_key = folder / "authority.key"
    if not (found.authority.exists() and authority_key.exists()):
        _make_authority(found.authority, authority_key)
    if not _covers(found, addresses):
        _make_server(found, authority_key, addresses)
    return found


def _make_authority(file: Path, key_file: Path) -> None:
    from cryptography import x509

    key, name = _key(), _name("Fair Spindle workshop authority")
    builder = _builder(name, name, key, AUTHORITY_DAYS)
    builder = builder.add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
    builder = builder.add_extension(_usage(signs_certificates=True), critical=True)
    builder = builder.add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
    _write(key_file, _pem_of_key(key))
    _write(file, _signed(builder, key))


def _make_server(found: Credentials, authority_key: Path, addresses: Addresses) -> None:
    from cryptography import x509
    from cryptography.hazmat.primitives.serialization import load_pem_private_key

    signing = load_pem_private_key(authority_key.read_bytes(), None)
    authority = x509.load_pem_x509_certificate(found.authority.read_bytes())
    key = _key()
    names = [x509.DNSName(name) for name in addresses.names]
    literal = [x509.IPAddress(ip_address(one)) for one in addresses.literal]
    builder = _builder(_name("Fair Spindle workshop"), authority.subject, key, SERVER_DAYS)
    builder = builder.add_extension(x509.SubjectAlternativeName([*names, *literal]), critical=False)
    builder = builder.add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
    builder = builder.add_extension(_usage(signs_certificates=False), critical=True)
    signed_by = x509.AuthorityKeyIdentifier.from_issuer_public_key(authority.public_key())  # type: ignore[arg-type]
    builder = builder.add_extension(signed_by, critical=False)
    builder = builder.add_extension(x509.ExtendedKeyUsage([x509.oid.ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
    _write(found.key, _pem_of_key(key))
    _write(found.certificate, _signed(builder, signing))  # type: ignore[arg-type]


def _covers(found: Credentials, addresses: Addresses) -> bool:
    from cryptography import x509

    if not (found.certificate.exists() and found.key.exists()):
        return False
    certificate = x509.load_pem_x509_certificate(found.certificate.read_bytes())
    told = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    covered = {*told.get_values_for_type(x509.DNSName), *map(str, told.get_values_for_type(x509.IPAddress))}
    lasts = certificate.not_valid_after_utc - datetime.now(UTC) > timedelta(days=RENEW_DAYS)
    return lasts and set(addresses.all) <= covered


def _builder(
    subject: x509.Name, issuer: x509.Name, key: EllipticCurvePrivateKey, days: int
) -> x509.CertificateBuilder:
    from cryptography import x509

    now = datetime.now(UTC)
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=days))
    )


def _usage(*, signs_certificates: bool) -> x509.KeyUsage:
    from cryptography import x509

    return x509.KeyUsage(
        digital_signature=True,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        key_cert_sign=signs_certificates,
        crl_sign=signs_certificates,
        encipher_only=False,
        decipher_only=False,
    )


def _key() -> EllipticCurvePrivateKey:
    from cryptography.hazmat.primitives.asymmetric import ec

    return ec.generate_private_key(ec.SECP256R1())


def _name(common: str) -> x509.Name:
    from cryptography import x509

    return x509.Name([x509.NameAttribute(x509.oid.NameOID.COMMON_NAME, common)])


def _signed(builder: x509.CertificateBuilder, key: EllipticCurvePrivateKey) -> bytes:
    from cryptography.hazmat.primitives import hashes, serialization

    return builder.sign(key, hashes.SHA256()).public_bytes(serialization.Encoding.PEM)


def _pem_of_key(key: EllipticCurvePrivateKey) -> bytes:
    from cryptography.hazmat.primitives import serialization

    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _write(file: Path, content: bytes) -> None:
    """Write a file that only its owner reads."""
    file.unlink(missing_ok=True)
    with os.fdopen(os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as out:
        out.write(content)
