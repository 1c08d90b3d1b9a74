"""The lines that are open to this server: how many, from whom, for how long without a word.

Whoever is on the set's network can open lines without having joined. So each address has so many, the network so many
in all, and those from the laptop itself are counted apart: nobody out there can keep it from its own pages.
"""

import asyncio
import socket
from typing import Any

from uvicorn.protocols.http.h11_impl import H11Protocol

from isotact.api.security.sharing import ITSELF

HEAD_WITHIN_S = 10.0
"""So long may a caller take for the head of a request."""
UNREAD_WITHIN_S = 20.0
"""So long may a caller leave what he is sent unread, once as much of it waits as a line holds (64 kB)."""
MOST_OF_ONE = 40
"""So many lines may one address have: a phone's browser keeps six, and some networks show several phones as one."""
MOST_OPEN = 600
"""So many the network, and so many the laptop itself: a crew of fifty with all its windows; a line holds some 50 kB."""
# A phone that went out of reach says nothing: asked after so long, so often, it is given up within the minute. By
# itself the system asks after two hours.
KEEP_ALIVE = {"TCP_KEEPIDLE": 20, "TCP_KEEPINTVL": 10, "TCP_KEEPCNT": 3, "TCP_USER_TIMEOUT": 50_000}


class PatientProtocol(H11Protocol):
    """HTTP that does not wait for ever: a line on which no whole request comes is closed, the oldest first."""

    _timer: asyncio.TimerHandle | None = None
    _unread: asyncio.TimerHandle | None = None
    address = ""
    """Whose line it is; empty for the laptop's own."""

    def connection_made(self, transport: Any) -> None:
        super().connection_made(transport)
        self.address = _address(transport)
        _keep_alive(transport)
        # What is being closed is not gone yet, and must not be closed instead of the next.
        there = [one for one in self.connections if isinstance(one, PatientProtocol) and not one.transport.is_closing()]
        own = [one for one in there if one.address == self.address]
        group = [one for one in there if bool(one.address) == bool(self.address)]
        if self.address and len(own) > MOST_OF_ONE:
            self._make_room(own)
        elif len(group) > MOST_OPEN:
            self._make_room(group)
        self._wait()

    def _make_room(self, among: "list[PatientProtocol]") -> None:
        """Close the line that has been silent for longest, or else this one."""
        silent = [one for one in among if one._timer is not None]
        oldest = min(silent, key=lambda one: one._timer.when(), default=self)  # type: ignore[union-attr]
        oldest.transport.close()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.cycle is not None and not self.cycle.response_complete:
            self._no_longer()
        elif self._timer is None:
            self._wait()

    def handle_websocket_upgrade(self, event: Any) -> None:
        super().handle_websocket_upgrade(event)
        # From here on the line is looked after by who keeps it: it is asked after by pings.
        self._no_longer()

    def on_response_complete(self) -> None:
        super().on_response_complete()
        self._no_longer()

    def pause_writing(self) -> None:
        super().pause_writing()
        if self._unread is None:
            self._unread = self.loop.call_later(UNREAD_WITHIN_S, self.transport.abort)

    def resume_writing(self) -> None:
        super().resume_writing()
        self._is_read()

    def connection_lost(self, exc: Exception | None) -> None:
        self._no_longer()
        self._is_read()
        super().connection_lost(exc)

    def _wait(self) -> None:
        self._timer = self.loop.call_later(HEAD_WITHIN_S, self.transport.close)

    def _no_longer(self) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None

    def _is_read(self) -> None:
        if self._unread is not None:
            self._unread.cancel()
            self._unread = None


def _address(transport: Any) -> str:
    peer = transport.get_extra_info("peername")
    found = str(peer[0]) if peer else ""
    return "" if found in ITSELF else found


def _keep_alive(transport: Any) -> None:
    line = transport.get_extra_info("socket")
    if line is None:
        return
    line.setsockopt(socket.SOL_SOCKET, socket.SO_KEEPALIVE, 1)
    for name, value in KEEP_ALIVE.items():
        option = getattr(socket, name, None)  # each system has those that it has
        if option is not None:
            line.setsockopt(socket.IPPROTO_TCP, option, value)
