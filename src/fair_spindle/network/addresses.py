"""What this machine is called in its own network."""

from __future__ import annotations

import socket
from contextlib import closing
from ipaddress import ip_address

from fair_spindle.core.basics.value_object import value_object


@value_object
class Addresses:
    """Names and literal addresses that reach this machine; ``usual`` is the one to give to a phone."""

    names: tuple[str, ...]
    literal: tuple[str, ...]

    @property
    def usual(self) -> str:
        """The address other devices use: the first that is not loopback."""
        return next((one for one in self.literal if not ip_address(one).is_loopback), "127.0.0.1")

    @property
    def all(self) -> tuple[str, ...]:
        """Every one of them."""
        return (*self.names, *self.literal)


def own_addresses() -> Addresses:
    """Look up this machine's names and addresses; nothing is sent."""
    host = socket.gethostname().lower()
    names = dict.fromkeys(("localhost", host, f"{host.partition('.')[0]}.local"))
    found = dict.fromkeys((*_routed(), *_resolved(host), "127.0.0.1", "::1"))
    return Addresses(tuple(names), tuple(found))


def _routed() -> list[str]:
    """The addresses packets would leave from: connecting a datagram socket sends none."""
    found = []
    for family, far in ((socket.AF_INET, "192.0.2.1"), (socket.AF_INET6, "2001:db8::1")):
        try:
            with closing(socket.socket(family, socket.SOCK_DGRAM)) as probe:
                probe.connect((far, 9))
                found.append(str(probe.getsockname()[0]))
        except OSError:
            continue
    return found


def _resolved(host: str) -> list[str]:
    try:
        told = socket.getaddrinfo(host, None, proto=socket.IPPROTO_TCP)
    except OSError:
        return []
    return [str(address[0]).partition("%")[0] for *_, address in told]
