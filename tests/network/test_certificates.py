"""The kitchen's own authority, the devices' file, and what a code looks like."""

import ipaddress
import re
import ssl
from pathlib import Path

import pytest
from cryptography import x509

from finebatch.web.network.addresses import is_home, netloc
from finebatch.web.network.authority import LEAF_DAYS, brought, certify
from finebatch.web.network.certified import UnusableCertificate
from finebatch.web.network.paired import Paired, Role
from finebatch.web.routers.network import path_of
from tests.conftest import NOON

DAY_MS = 86_400_000
ONE, OTHER = ipaddress.ip_address("192.168.1.7"), ipaddress.ip_address("10.0.0.3")


def leaf_of(folder: Path) -> x509.Certificate:
    return x509.load_pem_x509_certificates((folder / "here.crt").read_bytes())[0]


def test_what_is_there_is_kept_and_what_is_lacking_is_made(tmp_path: Path) -> None:
    folder = tmp_path / "keys"
    first = certify(folder, [ONE], NOON)
    leaf = leaf_of(folder)
    assert certify(folder, [ONE], NOON + DAY_MS) == first
    assert leaf_of(folder) == leaf
    moved = certify(folder, [ONE, OTHER], NOON + DAY_MS)
    assert moved.fingerprint == first.fingerprint, "a device trusts it as before"
    names = leaf_of(folder).extensions.get_extension_for_class(x509.SubjectAlternativeName)
    assert set(names.value.get_values_for_type(x509.IPAddress)) == {ONE, OTHER}
    later = certify(folder, [ONE], NOON + (LEAF_DAYS - 10) * DAY_MS)
    assert later.fingerprint == first.fingerprint
    renewed = leaf_of(folder)
    lasts = renewed.not_valid_after_utc - renewed.not_valid_before_utc
    assert lasts.days <= 398
    assert folder.stat().st_mode & 0o077 == 0
    assert all(file.stat().st_mode & 0o077 == 0 for file in folder.iterdir())


def test_the_authority_certifies_nothing_beyond_a_home(tmp_path: Path) -> None:
    certify(tmp_path / "keys", [ONE], NOON)
    authority = x509.load_pem_x509_certificate((tmp_path / "keys" / "authority.crt").read_bytes())
    limits = authority.extensions.get_extension_for_class(x509.NameConstraints)
    assert limits.critical
    permitted = limits.value.permitted_subtrees or []
    networks = [one.value for one in permitted if isinstance(one, x509.IPAddress)]
    assert not any(ipaddress.ip_address("93.184.216.34") in one for one in networks)
    names = [one.value for one in permitted if isinstance(one, x509.DNSName)]
    assert names == ["local"]
    assert authority.extensions.get_extension_for_class(x509.BasicConstraints).value.ca


@pytest.mark.parametrize("name", ["authority.key", "here.key"])
def test_a_broken_key_is_told_with_what_to_do(tmp_path: Path, name: str) -> None:
    certify(tmp_path / "keys", [ONE], NOON)
    (tmp_path / "keys" / name).write_text("no key")
    with pytest.raises(UnusableCertificate, match="Put that folder away"):
        certify(tmp_path / "keys", [ONE], NOON)


def test_a_broken_certificate_is_made_anew(tmp_path: Path) -> None:
    certify(tmp_path / "keys", [ONE], NOON)
    (tmp_path / "keys" / "here.crt").write_text("nothing")
    certify(tmp_path / "keys", [ONE], NOON)
    assert leaf_of(tmp_path / "keys").version is x509.Version.v3


def test_a_certificate_of_one_s_own_has_to_fit_its_key(tmp_path: Path) -> None:
    mine, another = tmp_path / "mine", tmp_path / "another"
    certify(mine, [ONE], NOON)
    certify(another, [ONE], NOON)
    found = brought(mine / "here.crt", mine / "here.key")
    assert found.authority is None
    ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(found.chain, found.key)
    with pytest.raises(UnusableCertificate, match="is not the key of"):
        brought(mine / "here.crt", another / "here.key")
    with pytest.raises(UnusableCertificate, match="cannot be read"):
        brought(tmp_path / "none.crt", mine / "here.key")


@pytest.mark.parametrize(
    ("address", "home"),
    [
        ("192.168.178.20", True),
        ("10.1.2.3", True),
        ("172.31.0.1", True),
        ("fd00::7", True),
        ("127.0.0.1", False),
        ("169.254.1.1", False),
        ("172.32.0.1", False),
        ("93.184.216.34", False),
        ("2001:db8::1", False),
        ("fe80::1", False),
    ],
)
def test_only_a_home_s_own_addresses_are_listened_on(address: str, home: bool) -> None:
    assert is_home(ipaddress.ip_address(address)) is home


def test_an_address_is_written_as_browsers_write_it() -> None:
    assert netloc(ONE, 8766) == "192.168.1.7:8766"
    assert netloc(ipaddress.ip_address("fd00::7"), 8766) == "[fd00::7]:8766"
    assert netloc(ONE) == "192.168.1.7"


def test_devices_outlive_a_start_and_a_file_that_is_none_lets_nobody_in(tmp_path: Path) -> None:
    file = tmp_path / "keys" / "devices.json"
    device, token = Paired(file).let_in("Tablet", Role.KITCHEN, NOON)
    again = Paired(file)
    assert again.known(token, NOON) == device
    assert again.known(token + "x", NOON) is None
    seen = again.known(token, NOON + DAY_MS)
    assert seen is not None
    assert Paired(file).all()[0].seen_at == NOON + DAY_MS
    for text in ("", "{}", "[1]", '[{"id": "x"}]', "\x00"):
        file.write_text(text)
        assert Paired(file).all() == []
        assert Paired(file).known(token, NOON) is None


def test_on_a_full_disk_who_is_known_comes_in_and_who_is_let_go_is_out(tmp_path: Path) -> None:
    file = tmp_path / "keys" / "devices.json"
    paired = Paired(file)
    device, token = paired.let_in("Tablet", Role.ALL, NOON)
    file.with_name(".devices.json.new").mkdir()  # nothing can be written in its place
    assert paired.known(token, NOON + DAY_MS)
    with pytest.raises(OSError):
        paired.let_in("Phone", Role.ALL, NOON)
    assert len(paired.all()) == 1
    told: list[str] = []
    paired.on_change(told.append)
    with pytest.raises(OSError):
        paired.let_go(device.id)
    assert told == [device.id]
    assert paired.known(token, NOON) is None


def test_the_drawn_code_has_each_dark_square_once() -> None:
    rows = [bytearray(row) for row in (b"\1\1\0\1", b"\0\0\0\0", b"\1\1\1\1", b"\0\1\0\1")]
    drawn = re.findall(r"M(\d+) (\d+)h(\d+)v1h-(\d+)z", path_of(rows))
    squares = [(x, int(y)) for at, y, run, _ in drawn for x in range(int(at), int(at) + int(run))]
    dark = [(x, y) for y, row in enumerate(rows) for x, square in enumerate(row) if square]
    assert sorted(squares) == sorted(dark)
