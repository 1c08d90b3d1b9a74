"""A laptop on the set's network: by which names it may be asked for, and the codes by which one joins."""

import ipaddress
import secrets
import socket
import time
from collections import deque
from collections.abc import Callable, Collection, Iterator

from isotact.api.security.guard import LOOPBACK
from isotact.core.model.problems import IsotactError
from isotact.store import Role
from isotact.store.sign_ins import ROLES

ITSELF = ("127.0.0.1", "::1")
"""From where the laptop itself asks."""
LETTERS = "23456789ABCDEFGHJKMNPQRSTVWXYZ"
"""None that is taken for another when it is read out or typed: no 0 and O, 1, I and L, U and V."""
CODE_LENGTH = 8
"""Thirty letters to the power of eight: with the tries below somebody with two hundred addresses finds one of the three
codes in some three hundred years."""
TRIES, WITHIN_S = 5, 60.0
"""So many wrong codes one address may give in so long. There is no limit for all together, by which one could keep the
others from joining; a code lasts until the next start, or until somebody is sent away."""
# A laptop that changes networks says its new address this soon.
LOOK_AGAIN_S = 5.0


class TooManyTriesError(IsotactError):
    """So many wrong codes were given that no more are looked at for a while."""

    def __init__(self, wait_s: float) -> None:
        self.wait_s = wait_s
        super().__init__(f"Too many wrong codes were given. Wait {round(wait_s) or 1} s, then try again.")


def own_addresses() -> list[str]:
    """The addresses of this machine on networks (IPv4), those that others can reach it by."""
    import psutil

    found = []
    for cards in psutil.net_if_addrs().values():
        found += [card.address for card in cards if card.family == socket.AF_INET]
    return sorted(one for one in found if not ipaddress.ip_address(one).is_loopback)


class Sharing:
    """What stands between the laptop and the network it is shared on.

    `port`: where it listens. The codes are made anew at each start and are kept nowhere.
    """

    def __init__(
        self,
        port: int,
        addresses: Callable[[], list[str]] = own_addresses,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self.port = port
        self._addresses, self._clock = addresses, clock
        self._known: list[str] = []
        self._looked_at: float | None = None
        self.codes: dict[Role, str] = {role: _code() for role in ROLES}
        self._tries: dict[str, deque[float]] = {}

    @property
    def addresses(self) -> list[str]:
        """The laptop's own addresses: looked up again when they may have changed, as on another network."""
        now = self._clock()
        if self._looked_at is None or now - self._looked_at > LOOK_AGAIN_S:
            self._known, self._looked_at = self._addresses(), now
        return self._known

    @property
    def hosts(self) -> "Hosts":
        """The names by which this laptop may be asked for."""
        return Hosts(self)

    def is_here(self, client: tuple[str, int] | None, host: str) -> bool:
        """Whether somebody sits at the laptop itself: both ends of the line are its own."""
        named = host.rpartition(":")[0] if host.count(":") == 1 or "]:" in host else host
        return client is not None and client[0] in ITSELF and named.lower() in LOOPBACK

    def renew(self, role: Role) -> None:
        """Another code for a role: the old one is worth nothing any more. Who joined by it stays."""
        self.codes[role] = _code()

    def role_of(self, code: str, address: str) -> Role | None:
        """The role that a code gives, None for a wrong one. Raises TooManyTriesError."""
        self._may_try(address)
        given = "".join(mark for mark in code.upper() if mark in LETTERS)
        found: Role | None = None
        for role, right in self.codes.items():
            if secrets.compare_digest(given.encode(), right.encode()):
                found = role
        if found is None:
            self._tries.setdefault(address, deque()).append(self._clock())
        return found

    def _may_try(self, address: str) -> None:
        now = self._clock()
        for key in [*self._tries]:
            while self._tries[key] and now - self._tries[key][0] > WITHIN_S:
                self._tries[key].popleft()
            if not self._tries[key]:
                del self._tries[key]
        tries = self._tries.get(address, deque())
        if len(tries) >= TRIES:
            raise TooManyTriesError(WITHIN_S - (now - tries[-TRIES]))


class Hosts(Collection[str]):
    """The names of the laptop, as they are at the moment."""

    def __init__(self, sharing: Sharing) -> None:
        self._sharing = sharing

    def __contains__(self, host: object) -> bool:
        return host in LOOPBACK or host in self._sharing.addresses

    def __iter__(self) -> Iterator[str]:
        return iter([*LOOPBACK, *self._sharing.addresses])

    def __len__(self) -> int:
        return len(LOOPBACK) + len(self._sharing.addresses)


def _code() -> str:
    return "".join(secrets.choice(LETTERS) for _ in range(CODE_LENGTH))
