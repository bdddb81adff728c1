"""The addresses of this machine on the home's own networks."""

import ipaddress
import socket
from collections.abc import Sequence

Address = ipaddress.IPv4Address | ipaddress.IPv6Address

HOME = tuple(
    ipaddress.ip_network(one)
    for one in ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "fc00::/7")
)
"""RFC 1918 and RFC 4193: what routers of homes give out. No other address is listened on."""


def is_home(address: Address) -> bool:
    """Whether an address is one of a home's own network."""
    return any(address in one for one in HOME if one.version == address.version)


def home_addresses() -> list[Address]:
    """This machine's, of the links that are up; those of version 4 first, for they are short."""
    import psutil

    links = psutil.net_if_stats()
    found: set[Address] = set()
    for name, addresses in psutil.net_if_addrs().items():
        link = links.get(name.partition(":")[0])
        if link is None or not link.isup:
            continue
        for one in addresses:
            if one.family in (socket.AF_INET, socket.AF_INET6):
                address = ipaddress.ip_address(one.address.partition("%")[0])
                if is_home(address):
                    found.add(address)
    return sorted(found, key=lambda address: (address.version, int(address)))


def netloc(address: Address, port: int | None = None) -> str:
    """How browsers name it."""
    host = str(address) if address.version == 4 else f"[{address}]"
    return host if port is None else f"{host}:{port}"


def listening(addresses: Sequence[Address], port: int) -> list[socket.socket]:
    """Sockets that listen on these addresses alone. `OSError` when a port is taken."""
    sockets: list[socket.socket] = []
    try:
        for address in addresses:
            family = socket.AF_INET if address.version == 4 else socket.AF_INET6
            one = socket.socket(family, socket.SOCK_STREAM)
            sockets.append(one)
            one.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            one.bind((str(address), port))
            one.setblocking(False)
    except OSError:
        for one in sockets:
            one.close()
        raise
    return sockets
