"""What matters of a profile on the shelf, read back against the profile itself."""

import pytest

from isotact.catalogue import shipped
from isotact.core.model.vocabulary import vocabulary
from isotact.core.telling.shelf_lines import what_matters

PROFILES = shipped().profiles


@pytest.mark.parametrize("key", PROFILES)
def test_every_socket_function_and_feed_is_named(key: str):
    profile = PROFILES[key]
    text = "\n".join(what_matters(profile))
    for port in profile.ports:
        assert vocabulary().connectors[port.connector].name in text
        assert port.is_direct or port.marking in text
    for function in {f for one in (*profile.emits, *profile.accepts) for f in one.functions}:
        assert vocabulary().functions[function].name in text
    if profile.power is not None:
        assert f"{profile.power.draw_w:g} W" in text
        assert ("no battery of its own" in text) == (profile.power.inner_battery is None)
    assert ("Shows a picture." in text) == bool(profile.shows)


def test_like_mounts_are_counted():
    assert "Mounts: PL lens mount, 3 x 0.8 module gear." in list(what_matters(PROFILES["lens-cine-zoom-pl"]))
