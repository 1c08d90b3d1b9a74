"""Who joined from the set's network: a name, what they may do, until when; and no more of their key than a digest."""

import hashlib
import secrets
from collections.abc import Callable
from contextlib import AbstractContextManager
from datetime import UTC, datetime, timedelta
from typing import Any, Literal

from pydantic import BaseModel

from isotact.core.model.problems import NotFoundError
from isotact.store.tables import Tables

Role = Literal["look", "tick", "edit"]
"""What somebody may do: look only, say what was done too, or change documents as well."""
ROLES: tuple[Role, ...] = ("look", "tick", "edit")
LASTS = timedelta(days=7)
"""A week of shooting; after that one joins anew."""
MOST_OF_A_NAME = 60
"""As much as is taken of a name where one joins: a number goes behind it within that."""
# 256 bits: not to be guessed, and kept as a digest only.
TOKEN_BYTES = 32


class SignIn(BaseModel):
    """One who joined."""

    key: int
    person: str
    role: Role
    made_at: str
    expires_at: str
    ended_at: str | None

    def holds(self, at: datetime) -> bool:
        """Whether it is neither ended nor too old at a moment."""
        return self.ended_at is None and datetime.fromisoformat(self.expires_at) > at


class SignIns:
    """The sign-ins of one database file."""

    def __init__(
        self,
        tables: Tables,
        reading: Callable[[], AbstractContextManager[None]],
        writing: Callable[[], AbstractContextManager[None]],
    ) -> None:
        self._tables, self._reading, self._writing = tables, reading, writing

    def begin(self, person: str, role: Role, lasts: timedelta = LASTS) -> tuple[str, SignIn]:
        """A new sign-in: the token that shows it, which is kept nowhere, and how it stands.

        Of two of one name the second is called so: the log is to tell them apart.
        """
        token = secrets.token_urlsafe(TOKEN_BYTES)
        at = datetime.now(UTC)
        with self._writing():
            person = _free(person, {one.person.casefold() for one in self.all()})
            row = self._tables.SignIn.create(
                person=person, role=role, digest=_digest(token), made_at=_text(at), expires_at=_text(at + lasts)
            )
            return token, _read(row)

    def who(self, token: str) -> SignIn | None:
        """The sign-in that a token shows, while it holds."""
        table = self._tables.SignIn
        with self._reading():
            row = table.get_or_none(table.digest == _digest(token))
        found = None if row is None else _read(row)
        return found if found is not None and found.holds(datetime.now(UTC)) else None

    def all(self) -> list[SignIn]:
        """Every sign-in that holds, the newest first."""
        table, at = self._tables.SignIn, datetime.now(UTC)
        with self._reading():
            rows = table.select().where(table.ended_at.is_null(), table.expires_at > _text(at))
            return [_read(row) for row in rows.order_by(table.key.desc())]

    def live(self) -> frozenset[int]:
        """The keys of those that hold."""
        return frozenset(one.key for one in self.all())

    def one(self, key: int) -> SignIn:
        """One sign-in. Raises NotFoundError."""
        table = self._tables.SignIn
        with self._reading():
            row = table.get_or_none(table.key == key)
        if row is None:
            raise NotFoundError("sign-in", str(key), ())
        return _read(row)

    def end(self, key: int) -> None:
        """End one: its token shows nothing any more. Raises NotFoundError."""
        table = self._tables.SignIn
        with self._writing():
            ended = table.update(ended_at=_text(datetime.now(UTC))).where(table.key == key, table.ended_at.is_null())
            if not ended.execute() and table.get_or_none(table.key == key) is None:
                raise NotFoundError("sign-in", str(key), ())


def _free(person: str, taken: set[str]) -> str:
    name, number = person, 2
    while name.casefold() in taken:
        name, number = f"{person[: MOST_OF_A_NAME - 4]} {number}", number + 1
    return name


def _read(row: Any) -> SignIn:
    return SignIn.model_validate(row, from_attributes=True)


def _digest(token: str) -> str:
    """A plain digest will do: the token is 256 bits of chance, which nobody finds by trying."""
    return hashlib.sha256(token.encode()).hexdigest()


def _text(at: datetime) -> str:
    return at.isoformat(timespec="seconds")
