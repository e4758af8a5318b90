"""The addresses at which other devices of the network reach this machine."""

from __future__ import annotations

import ipaddress
import socket

import ifaddr

_EVERY = frozenset({"0.0.0.0", "::", ""})


def is_loopback(host: str) -> bool:
    """Whether what listens on `host` is reached from this machine only."""
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return host == "localhost"


def listening_addresses(host: str) -> tuple[str, ...]:
    """Addresses that a tablet can type to reach what listens on `host`; "0.0.0.0" stands for all this has."""
    return own_addresses() if host in _EVERY else (host,)


def own_addresses() -> tuple[str, ...]:
    """This machine's own addresses, IPv4 first, without those that no other device reaches."""
    found = []
    for adapter in ifaddr.get_adapters():
        for one in adapter.ips:
            address = ipaddress.ip_address(one.ip if isinstance(one.ip, str) else one.ip[0])
            if not (address.is_loopback or address.is_link_local or address.is_unspecified):
                found.append(address)
    return tuple(str(one) for one in sorted(found, key=lambda one: (one.version, int(one))))


def machine_names() -> tuple[str, ...]:
    """Names by which other devices may find this machine, where the network knows them."""
    name = socket.gethostname().lower()
    if not name or name == "localhost" or is_loopback(name):
        return ()
    return (name,) if "." in name else (name, f"{name}.local")
