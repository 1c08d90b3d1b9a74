"""Sign-ins: a token shows one while it holds, and no token is kept."""

from datetime import datetime, timedelta
from pathlib import Path

import pytest

from isotact.core.model import NotFoundError
from isotact.store import Store


@pytest.fixture
def store(tmp_path: Path) -> Store:
    return Store(tmp_path / "rigs.sqlite")


def test_a_token_shows_who_it_is_until_the_sign_in_is_ended(store: Store, tmp_path: Path):
    token, begun = store.sign_ins.begin("Ada", "tick")
    other, _ = store.sign_ins.begin("Bo", "look")
    store.close()
    again = Store(tmp_path / "rigs.sqlite")
    assert again.sign_ins.who(token) == begun
    assert [one.person for one in again.sign_ins.all()] == ["Bo", "Ada"]
    again.sign_ins.end(begun.key)
    again.sign_ins.end(begun.key)
    assert again.sign_ins.who(token) is None
    assert begun.key not in again.sign_ins.live()
    assert [one.person for one in again.sign_ins.all()] == ["Bo"]
    found = again.sign_ins.who(other)
    assert found is not None
    assert found.role == "look"


def test_one_that_is_too_old_or_was_never_given_shows_nobody(store: Store):
    token, begun = store.sign_ins.begin("Ada", "edit", lasts=timedelta(seconds=-1))
    assert store.sign_ins.who(token) is None
    assert begun.key not in store.sign_ins.live()
    assert store.sign_ins.who("") is None
    assert store.sign_ins.who(token + "x") is None
    with pytest.raises(NotFoundError):
        store.sign_ins.end(99)


def test_no_token_is_in_the_file(store: Store, tmp_path: Path):
    token, _ = store.sign_ins.begin("Ada", "edit")
    store.close()
    files = [file.read_bytes() for file in tmp_path.iterdir() if file.is_file()]
    assert any(b"Ada" in data for data in files)
    assert not any(token.encode() in data for data in files)


def test_a_sign_in_lasts_a_week_of_shooting(store: Store):
    _, begun = store.sign_ins.begin("Ada", "tick")
    lasts = datetime.fromisoformat(begun.expires_at) - datetime.fromisoformat(begun.made_at)
    assert lasts == timedelta(days=7)
