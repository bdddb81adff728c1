"""The certificates of the home network: an authority of this kitchen's own, made at first use, and
what it certifies, which are the addresses of this machine alone."""

import ipaddress
import os
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from finebatch.store.places import private, put_whole
from finebatch.web.network.addresses import HOME, Address
from finebatch.web.network.certified import Certified, UnusableCertificate

AUTHORITY_DAYS = 3650
LEAF_DAYS = 397
"""Browsers refuse certificates of a longer life (the limit of the CA/Browser Forum: 398 days)."""
RENEW_DAYS = 30
_BEFORE = timedelta(days=1)
"""Clocks of a kitchen differ."""

CERTIFIED = (
    *HOME,
    *map(ipaddress.ip_network, ("169.254.0.0/16", "127.0.0.0/8", "fe80::/10", "::1/128")),
)
"""The networks that are nobody else's (RFC 1918, 3927, 4193, 4291): the authority may certify
nothing beyond them, so that a stolen key opens no other site."""


def fingerprint_of(certificate: x509.Certificate) -> str:
    """Its SHA-256, in pairs of hexadecimal digits, as devices show it."""
    digest = certificate.fingerprint(hashes.SHA256())
    return " ".join(f"{byte:02X}" for byte in digest)


def _key_file(file: Path) -> ec.EllipticCurvePrivateKey:
    """The key in a file, made where there is none."""
    try:
        with private(file) as writing:
            key = ec.generate_private_key(ec.SECP256R1())
            writing.write(
                key.private_bytes(
                    serialization.Encoding.PEM,
                    serialization.PrivateFormat.PKCS8,
                    serialization.NoEncryption(),
                )
            )
            return key
    except FileExistsError:
        pass
    found = serialization.load_pem_private_key(file.read_bytes(), None)
    if not isinstance(found, ec.EllipticCurvePrivateKey):
        raise UnusableCertificate(f"{file} holds a key of another kind. Put it away: one is made.")
    return found


def _named(name: str) -> x509.Name:
    return x509.Name(
        [
            x509.NameAttribute(NameOID.ORGANIZATION_NAME, "Fine Batch"),
            x509.NameAttribute(NameOID.COMMON_NAME, name),
        ]
    )


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        key_cert_sign=signs,
        crl_sign=signs,
        encipher_only=False,
        decipher_only=False,
    )


def _read(file: Path, key: ec.EllipticCurvePrivateKey, until: datetime) -> x509.Certificate | None:
    """The certificate in a file, where it is of that key and lasts long enough."""
    try:
        found = x509.load_pem_x509_certificate(file.read_bytes())
    except (OSError, ValueError):
        return None
    lasts = found.not_valid_before_utc <= until <= found.not_valid_after_utc
    return found if lasts and found.public_key() == key.public_key() else None


def _authority(folder: Path, now: datetime) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    key = _key_file(folder / "authority.key")
    file = folder / "authority.crt"
    found = _read(file, key, now + timedelta(days=LEAF_DAYS))
    if found is not None:
        return found, key
    named = _named(f"Fine Batch kitchen {os.urandom(3).hex()}")
    own = x509.SubjectKeyIdentifier.from_public_key(key.public_key())
    homes = [x509.IPAddress(network) for network in CERTIFIED]
    made = (
        x509.CertificateBuilder()
        .subject_name(named)
        .issuer_name(named)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - _BEFORE)
        .not_valid_after(now + timedelta(days=AUTHORITY_DAYS))
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(x509.NameConstraints([*homes, x509.DNSName("local")], None), critical=True)
        .add_extension(own, critical=False)
        .sign(key, hashes.SHA256())
    )
    put_whole(file, made.public_bytes(serialization.Encoding.PEM))
    return made, key


def _certifies(certificate: x509.Certificate, addresses: Sequence[Address]) -> bool:
    names = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return set(addresses) <= set(names.get_values_for_type(x509.IPAddress))


def certify(folder: Path, addresses: Sequence[Address], now_ms: int) -> Certified:
    """The certificate for these addresses of this machine; what is lacking of it is made.

    Raises `OSError` where the folder cannot be written to, `UnusableCertificate` where a key that
    lies in it cannot be used.
    """
    folder.mkdir(mode=0o700, exist_ok=True)
    now = datetime.fromtimestamp(now_ms / 1000, UTC)
    try:
        authority, signing = _authority(folder, now)
        key = _key_file(folder / "here.key")
        chain = folder / "here.crt"
        found = _read(chain, key, now + timedelta(days=RENEW_DAYS))
        issued = found is not None and found.issuer == authority.subject
        if not (found and issued and _certifies(found, addresses)):
            leaf = _leaf(addresses, key, authority, signing, now)
            put_whole(
                chain,
                b"".join(one.public_bytes(serialization.Encoding.PEM) for one in (leaf, authority)),
            )
    except ValueError as error:
        raise UnusableCertificate(
            f"A certificate in {folder} cannot be read. Put that folder away: another is made, "
            "and every tablet and phone has to be let in again."
        ) from error
    return Certified(
        chain,
        folder / "here.key",
        authority.public_bytes(serialization.Encoding.PEM),
        fingerprint_of(authority),
    )


def _leaf(
    addresses: Sequence[Address],
    key: ec.EllipticCurvePrivateKey,
    authority: x509.Certificate,
    signing: ec.EllipticCurvePrivateKey,
    now: datetime,
) -> x509.Certificate:
    names = [x509.IPAddress(address) for address in addresses]
    return (
        x509.CertificateBuilder()
        .subject_name(_named("Fine Batch"))
        .issuer_name(authority.subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - _BEFORE)
        .not_valid_after(now + timedelta(days=LEAF_DAYS))
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.SubjectAlternativeName(names), critical=False)
        .add_extension(
            x509.AuthorityKeyIdentifier.from_issuer_public_key(signing.public_key()),
            critical=False,
        )
        .sign(signing, hashes.SHA256())
    )


def brought(chain: Path, key: Path) -> Certified:
    """A certificate of the kitchen's own. `UnusableCertificate` where it cannot be read."""
    try:
        shown = x509.load_pem_x509_certificate(chain.read_bytes())
        held = serialization.load_pem_private_key(key.read_bytes(), None)
    except (OSError, ValueError, TypeError) as error:
        raise UnusableCertificate(
            f"The certificate {chain} with its key {key} cannot be read ({error}). Both have to "
            "be PEM files, the key without a password."
        ) from error
    if held.public_key() != shown.public_key():
        raise UnusableCertificate(f"{key} is not the key of the certificate {chain}.")
    return Certified(chain, key, None, fingerprint_of(shown))
