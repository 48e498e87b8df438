"""Which addresses may be asked or told: those an operator typed, on loopback or a private network,
unless a server is set up for more. A name counts as what it stands for at the moment it is used."""

import ipaddress
import os
import re
import socket
from urllib.parse import urlsplit

ANYWHERE_VARIABLE = "YONDERSTAT_ANY_ADDRESS"
HOST = re.compile(r"[A-Za-z0-9:](?:[A-Za-z0-9.:-]{0,251}[A-Za-z0-9])?")


class AddressError(ValueError):
    """An address that may not be used; the words say why and what to type instead."""


PRIVATE = tuple(
    map(ipaddress.ip_network, ("10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "fc00::/7"))
)
"""What people have at home and at a site. [P: RFC 1918, RFC 4193]"""
NEVER = tuple(map(ipaddress.ip_network, ("fd00:ec2::/32", "169.254.0.0/16", "fe80::/10")))
"""Where machines of a hosting centre ask who they are, and what is only known beside one wire."""


def _may_be_used(address: str) -> bool:
    found = ipaddress.ip_address(address.split("%")[0])
    if isinstance(found, ipaddress.IPv6Address) and found.ipv4_mapped is not None:
        found = found.ipv4_mapped
    if found.is_loopback:
        return True
    if (
        found.is_multicast
        or found.is_unspecified
        or found.is_reserved
        or any(found in one for one in NEVER)
    ):
        return False
    if any(found in one for one in PRIVATE):
        return True
    return found.is_global and os.environ.get(ANYWHERE_VARIABLE) == "1"


def address_of(host: str, port: int) -> str:
    """The address a host stands for now, checked.

    Raises
    ------
    AddressError
        If it is no host, is not known, or lies outside private networks.
    """
    if not HOST.fullmatch(host):
        raise AddressError(
            f"{host[:60]!r} is no host; type a name or an address, such as 192.168.4.20"
        )
    try:
        found = {str(row[4][0]) for row in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)}
    except (OSError, UnicodeError):
        raise AddressError(
            f"{host} is not known here; type its address, such as 192.168.4.20"
        ) from None
    for address in sorted(found):
        if not _may_be_used(address):
            raise AddressError(
                f"{host} is {address}, which is not a private address; only private addresses "
                "are contacted from here"
            )
    return min(found)


def web_address(url: str) -> tuple[str, int, str]:
    """Host, port and path of a web address that may be told, checked.

    Raises
    ------
    AddressError
        If it may not be used.
    """
    try:
        parts = urlsplit(url)
        port = parts.port or (443 if parts.scheme == "https" else 80)
    except ValueError:
        raise AddressError(
            f"{url[:60]!r} is no web address; type one such as http://192.168.4.2:8080/alarms"
        ) from None
    if (
        parts.scheme not in {"http", "https"}
        or not parts.hostname
        or parts.username
        or parts.password
    ):
        raise AddressError(
            f"{url[:60]!r} is no web address; type one such as http://192.168.4.2:8080/alarms"
        )
    address_of(parts.hostname, port)
    return parts.hostname, port, (parts.path or "/") + (f"?{parts.query}" if parts.query else "")
